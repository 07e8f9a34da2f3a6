"""A recording as a draft: its sounds on counts, and words in their order laid onto them."""

from collections.abc import Sequence
from contextlib import suppress
from pathlib import Path
from typing import Any

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from firn.core.ear.onsets import Onsets, find_onsets
from firn.core.ear.shoes import Shoes, Told, told
from firn.core.quantise.quantise import Quantised
from firn.core.quantise.words import Fit, Named
from firn.core.script.settings import Settings, write_settings
from firn.core.steps.shelf import Shelf
from firn.core.task import UNWATCHED, Task
from firn.errors import FirnError
from firn.files.audio import read_take
from firn.session.shoes import shoes_said
from firn.session.takes import breaks_off
from firn.session.tap_script import Tap, script_of
from firn.session.tap_words import LIKE, in_steps, worded
from firn.session.tapping import kept_taps, readings, words_data


class Draft(Struct, frozen=True):
    """What a recording gives: its onsets, their reading, the script; `worded`: whether words were laid onto it.
    `told`: what there is to say of the file. `struck`: what struck each, where the shoes are known; `rivals`: what
    else some steps could be, in words, and what does not go up; `named`: the steps, where they were told by ear."""

    onsets: Onsets
    read: Quantised
    script: str
    worded: bool
    told: str = ""
    struck: tuple[Told, ...] = ()
    rivals: tuple[str, ...] = ()
    named: tuple[Named, ...] = ()


MAY_BE: dict[str, tuple[str, ...]] = {
    "ball": ("step", "touch", "toe", "hop", "leap", "land", "jump"),
    "heel": ("heel", "dig", "heel_step", "chug", "click"),
    "tip": ("toe_tip",), "flat": ("flat", "stomp"), "airy": ("brush", "spank", "pickup", "scuff"),
    "slide": ("slide",), "hand": ("clap", "pat", "snap", "drum"), "": (),
}  # fmt: skip
"""The kinds that a strike may be of which it is known what struck, likeliest first; none for any."""


def may_be(struck: Told) -> tuple[str, ...]:
    """The kinds that a strike may be, likeliest first; none for any."""
    shown = (struck.kind, *struck.others) if struck.kind else struck.others
    return tuple(kind for one in shown for kind in MAY_BE[one])


PLAIN_WORDS = {"heel": "heel", "tip": "toe tip", "flat": "stamp", "airy": "brush", "slide": "slide", "hand": "clap"}
"""What a strike is called where no steps are made of it; anything else is a step."""


def draft_of(
    clip: Path,
    settings: Settings,
    shelf: Shelf,
    *,
    tempo: float | None = None,
    words: str = "",
    shoes: Shoes | None = None,
    task: Task = UNWATCHED,
) -> Draft:
    """The draft of a recording of up to ten minutes. Raises FirnError with one sentence where it holds too little, or
    where the words have another number of sounds.

    `shoes`: what these sound like, where that is known: then its sounds are read as steps.
    """
    sound, rate, breaks_off_s = read_take(clip)
    onsets = find_onsets(sound, rate, task=task.within(0, 0.7))
    if len(onsets) < 2:
        raise FirnError(f"Fewer than two sounds are heard in {clip.name}: tap along to it instead.")
    taps = kept_taps([unknown(float(time)) for time in onsets.times_s])
    kept = np.isin(onsets.times_s, [tap.at_s for tap in taps])
    read = readings(taps, settings.meter, tempo)[0]
    task.step(0.9)
    onsets, cut = onsets.only(kept), breaks_off(clip, breaks_off_s)
    struck = tuple(told(shoes, sound, rate, onsets.times_s)) if shoes is not None else ()
    if struck:
        # What is no foot for these shoes is left to the eye, and is a step meanwhile.
        taps = [as_tap(tap.at_s, one) for tap, one in zip(taps, struck, strict=True)]
    if words.strip():
        said = worded(words, taps, read, settings, shelf)
        return Draft(onsets, read, said.text, True, cut, struck, said.doubts)
    if struck:
        with suppress(FirnError):
            steps = in_steps(taps, read, settings, shelf)
            return Draft(onsets, read, steps.text, True, cut, struck, steps.doubts, steps.named)
    return Draft(onsets, read, script_of(taps, read, settings, shelf), False, cut, struck)


SURELY = 0.8


def heard_in(
    clip: Path, begin_s: float, end_s: float, task: Task = UNWATCHED, *, shoes: Shoes | None = None
) -> tuple[list[Tap], str]:
    """The sounds that the ear finds from one second of a clip to another, as taps at the clip's own seconds, and a
    sentence on how surely they are feet. `shoes`: what these sound like, where that is known: then each tap is what
    struck."""
    sound, rate, breaks_off_s = read_take(clip, start_s=begin_s, length_s=end_s - begin_s)
    onsets = find_onsets(sound, rate, task=task)
    unsure = int(np.sum(onsets.surely < SURELY))
    said = [f"{unsure} of {len(onsets)} sounds may be something else than feet."] if unsure else []
    said += [breaks_off(clip, breaks_off_s)] if breaks_off_s is not None else []
    if shoes is None:
        return [unknown(begin_s + float(time)) for time in onsets.times_s], " ".join(said)
    struck = told(shoes, sound, rate, onsets.times_s)
    known = sum(bool(one.kind) for one in struck)
    said.append(
        f"What struck is told of {known}, by the parts that were taken off this clip; the others stand as steps."
    )
    taps = [as_tap(begin_s + float(at), one) for at, one in zip(onsets.times_s, struck, strict=True)]
    return taps, " ".join(said)


def unknown(at_s: float) -> Tap:
    """A sound that the ear found in shoes that nobody knows, as a tap: a step, for want of a better word."""
    return Tap(at_s, heard=LIKE["step"])


def as_tap(at_s: float, struck: Told) -> Tap:
    """A sound that the ear found, as a tap."""
    return Tap(at_s, PLAIN_WORDS.get(struck.kind, "step"), heard=may_be(struck))


ROOM_S = 0.5
"""So much of a clip before the first sound and behind the last one is listened to with them."""


def told_by(clip: Path, taps: Sequence[Tap], given: Sequence[Fit]) -> list[Tap]:
    """Sounds of a clip, told anew by what the steps that were said of some of them sound like; as they are where
    these say too little."""
    begin_s = max(0.0, taps[0].at_s - ROOM_S)
    sound, rate, _ = read_take(clip, start_s=begin_s, length_s=taps[-1].at_s + ROOM_S - begin_s)
    times = [tap.at_s - begin_s for tap in taps]
    shoes = shoes_said(given, times, sound, rate)
    if shoes is None:
        return list(taps)
    return [as_tap(tap.at_s, one) for tap, one in zip(taps, told(shoes, sound, rate, times), strict=True)]


def sung_in(clip: Path, begin_s: float, end_s: float) -> tuple[list[Tap], str]:
    """The syllables that are sung from one second of a clip to another, as taps at the clip's own seconds, and what
    there is to say of them."""
    from firn.core.quantise.sung import sung

    sound, rate, breaks_off_s = read_take(clip, start_s=begin_s, length_s=end_s - begin_s)
    taps = [Tap(begin_s + float(time)) for time in sung(sound, rate)]
    said = breaks_off(clip, breaks_off_s) if breaks_off_s is not None else ""
    return taps, said


def draft_data(draft: Draft, settings: Settings, shelf: Shelf) -> dict[str, Any]:
    """The stable data of `firn draft --json`."""
    words = words_data(draft.script, settings, shelf) if draft.worded else []
    for number, word in enumerate(words):
        rivals = draft.named[number].rivals if draft.named else ()
        word["rivals"] = [shelf.word_for(card, settings.tradition) for card in rivals]
    kinds = {at: kind for word in words for at, kind in zip(word["positions"], word["kinds"], strict=True)}
    read, counting = draft.read, settings.counting
    sounds = [
        {
            "time_s": round(float(time), 4),
            "place": counting.name(place),
            "position": str(place),
            "kind": kinds.get(str(place)),
            "sure": round(float(heard * sure), 3),
            "struck": draft.struck[number].kind or None if draft.struck else None,
            "alternatives": [{"position": str(other), "sure": round(share, 3)} for other, share in more],
        }
        for number, (time, heard, place, sure, more) in enumerate(
            zip(draft.onsets.times_s, draft.onsets.surely, read.places, read.sure, read.others, strict=True)
        )
    ]
    return {
        "tempo": round(read.tempo, 2),
        "sounds": sounds,
        "words": words,
        "rivals": list(draft.rivals),
        "script": draft.script,
    }


def draft_text(draft: Draft, settings: Settings) -> str:
    """The draft as the text of a piece."""
    head = write_settings(replace(settings, tempo=round(draft.read.tempo)))
    return f"{head}\n\npart A\n{draft.script}\n"
