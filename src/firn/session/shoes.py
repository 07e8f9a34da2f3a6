"""What a dancer's shoes sound like: known from examples that she dances, or from a take that was clean."""

from collections import Counter
from collections.abc import Callable, Sequence
from contextlib import suppress
from pathlib import Path

import numpy as np
from msgspec.structs import replace

from firn.core.book.book import Book, Take
from firn.core.book.clips import Clip
from firn.core.ear.onsets import find_onsets
from firn.core.ear.shoes import SHOWN, Shoes, Shown, examples_in, learnt, learnt_from
from firn.core.ear.timbre import class_of
from firn.core.ear.verdict import NothingHeard, judge
from firn.core.piece.piece import Part
from firn.core.quantise.words import Fit
from firn.core.steps.names import fold
from firn.errors import FirnError
from firn.files.audio import FloatArray, from_flac, read_take
from firn.files.store import Store
from firn.files.whole import called
from firn.session.clips import line_of
from firn.session.listening import ALIKE_S

NEAR_S = 0.06
"""So near to where a sound is due in a clip one that is heard is that one."""

NAMED: dict[str, Shown] = {
    "heel": "heel", "ball": "ball", "tip": "tip", "flat": "flat", "airy": "airy", "slide": "slide", "hand": "hand",
    "toe": "ball", "step": "ball", "toe tip": "tip", "stamp": "flat", "whole foot": "flat", "brush": "airy",
    "spank": "airy", "shuffle": "airy", "clap": "hand", "hands": "hand", "scrape": "slide",
}  # fmt: skip
"""What a strike can show, by its names."""


def kinds_named(said: str) -> list[Shown]:
    """The kinds that a list names, in its order. Raises FirnError with one sentence for one that is none of them."""
    found: list[Shown] = []
    for word in filter(None, (one.strip() for one in said.split(","))):
        kind = NAMED.get(fold(word)) or NAMED.get(fold(word).removesuffix("s"))
        if kind is None:
            raise FirnError(f'"{word}" is no kind of sound. They are: {", ".join(SHOWN)}.')
        found.append(kind)
    if len(set(found)) < max(2, len(found)):
        raise FirnError("Name two kinds or more, each once, in the order in which they are danced.")
    return found


def shoes_of(path: Path, kinds: list[Shown]) -> Shoes:
    """What kinds sound like, from a recording of examples of each. Raises FirnError with one sentence."""
    sound, rate, _ = read_take(path)
    groups = examples_in(find_onsets(sound, rate), len(kinds))
    if groups is None:
        raise FirnError(
            f"In {called(path)} no {len(kinds)} groups of examples are heard.",
            hint=f"Dance five of each, half a second apart, and rest three seconds between: {', then '.join(kinds)}.",
        )
    return learnt(dict(zip(kinds, groups, strict=True)), sound, rate)


def shoes_of_clean(part: Part, tempo: float, sound: FloatArray, rate: int, *, on_ms: float) -> Shoes | None:
    """What kinds sound like, from a take of a part that is danced as it is written; None where it says too little, or
    is of something else."""
    with suppress(NothingHeard, ValueError):
        # Its first minutes say enough, and soon.
        sound = sound[: round(ALIKE_S * rate)]
        verdict = judge(part, tempo, find_onsets(sound, rate), on_ms=on_ms)
        return learnt_from(part, verdict.judged, sound, rate)
    return None


def clean_before(book: Book, take: Take) -> Take | None:
    """The last other take that was clean, of the same dancer in the same shoes on the same floor; None for none."""

    def like(one: Take | None) -> bool:
        fields = ("piece", "student", "shoes", "floor", "source", "heard")
        return one is not None and one.id != take.id and all(getattr(one, f) == getattr(take, f) for f in fields)

    clean = (book.take(entry.take) for entry in reversed(book.log) if entry.take and entry.how == "clean")
    return next((one for one in clean if like(one)), None)


def known_before(
    store: Store, book: Book, take: Take, read: Callable[[str], Part | None], *, on_ms: float
) -> Shoes | None:
    """What the shoes of a take sound like, from another that was clean; None where there is none, or it says too
    little. `read` gives a part by its id."""
    before = clean_before(book, take)
    part = read(before.part) if before is not None else None
    if before is None or part is None:
        return None
    shoes = shoes_of_clean(part, before.tempo, *from_flac(store.samples(before.audio)), on_ms=on_ms)
    return None if shoes is None else replace(shoes, of=before.name)


def shoes_of_clip(path: Path, tied: Sequence[tuple[Clip, Part]]) -> Shoes | None:
    """What kinds sound like in a clip, by the parts that were taken off it; None where these say too little.

    `tied`: each part with the clip as it is kept with it, its counts tied to the clip's seconds.
    """
    due: list[tuple[float, str]] = []
    for clip, part in tied:
        line = line_of(clip)
        if line is None:
            continue
        heard = [sound for sound in part.sounds if sound.heard]
        once = Counter(sound.position for sound in heard)
        due += [(line.second(float(s.position)), class_of(s.kind)) for s in heard if once[s.position] == 1]
    if not due:
        return None
    first_s = max(0.0, min(due)[0] - 1)
    with suppress(FirnError, ValueError):
        sound, rate, _ = read_take(path, start_s=first_s, length_s=min(ALIKE_S, max(due)[0] + 1 - first_s))
        found = find_onsets(sound, rate).times_s
        times: dict[str, list[float]] = {}
        for at_s, kind in sorted(due) if len(found) else ():
            nearest = float(found[np.argmin(np.abs(found - (at_s - first_s)))])
            # The counts are tied by hand: the sound itself lies near.
            if abs(nearest - (at_s - first_s)) < NEAR_S:
                times.setdefault(kind, []).append(nearest)
        return learnt(times, sound, rate)
    return None


def shoes_said(given: Sequence[Fit], times_s: Sequence[float], sound: FloatArray, rate: int) -> Shoes | None:
    """What kinds sound like in a recording, by the steps that somebody said some of its sounds are; None where these
    say too little. `times_s`: when each sound is in it."""
    times: dict[str, list[float]] = {}
    for one in given:
        for number, beat in zip(one.sounds, one.beats, strict=True):
            times.setdefault(class_of(one.card.beats[beat].kind.name), []).append(times_s[number])
    with suppress(ValueError):
        return learnt(times, sound, rate)
    return None
