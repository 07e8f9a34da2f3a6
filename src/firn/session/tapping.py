"""What was tapped, as a script: its readings, the text of one, and all of it as data."""

import math
from collections.abc import Sequence
from fractions import Fraction
from typing import Any

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from firn.core.meter.counting import Counting
from firn.core.meter.line import Line
from firn.core.meter.meter import Meter
from firn.core.pattern import late
from firn.core.piece.build import build_part, part_from
from firn.core.quantise.lilt import EVEN, SWUNG, lilt
from firn.core.quantise.passes import Laid, laid_over
from firn.core.quantise.quantise import Quantised, quantise
from firn.core.quantise.usual import SLOTS
from firn.core.quantise.words import Named, Struck, words_of
from firn.core.script.combo_item import ordinal
from firn.core.script.reader import PartScript, read_part
from firn.core.script.settings import Settings
from firn.core.script.writer import write_part
from firn.core.steps.kinds import kind_said
from firn.core.steps.shelf import Shelf
from firn.errors import FirnError

MOST = 4_000
"""Taps that are read at once."""

LEAST_APART_S = 0.02
"""What follows nearer than this is a key that bounced."""

READINGS = 4

ROUNDS = 12
"""So many feet may be written one by one before all are."""


class Tap(Struct, frozen=True):
    """Something tapped: when, in seconds, the word for it, and its foot, "" where nobody said. `heard`: the kinds
    that the ear takes it for, likeliest first, where it is none that was tapped."""

    at_s: float
    word: str = "step"
    foot: str = ""
    heard: tuple[str, ...] = ()


def kept_taps(taps: Sequence[Tap]) -> list[Tap]:
    """Taps in order, without those of a key that bounced; raises FirnError for fewer than two, or far too many."""
    kept: list[Tap] = []
    for tap in sorted(taps, key=lambda t: t.at_s):
        if not kept or tap.at_s - kept[-1].at_s >= LEAST_APART_S:
            kept.append(tap)
    if len(kept) < 2:
        raise FirnError("Two taps or more are needed.")
    if len(kept) > MOST:
        raise FirnError(f"{len(kept)} taps are more than {MOST}: read them in pieces.")
    return kept


def readings(taps: Sequence[Tap], meter: Meter, tempo: float | None) -> list[Quantised]:
    """How taps can be read, the likeliest first."""
    # Who counts in halves may yet dance in triplets.
    times = [t.at_s for t in taps]
    found = quantise(times, tempo=tempo, compound=True if meter.compound else None)[:READINGS]
    measured = lilt(times, found[0])
    if measured is not None and measured.asked:
        # Neither even nor swung: what was not chosen is offered next.
        found.insert(1, _other_lilt(found[0]))
    return found


def _other_lilt(read: Quantised) -> Quantised:
    """The same with what lies on halves on two thirds, or the other way round; half as likely."""
    across = {EVEN: SWUNG, SWUNG: EVEN}
    places = tuple(p // 1 + across.get(p % 1, p % 1) for p in read.places)
    return replace(read, places=places, likelihood=read.likelihood + math.log(0.5))


def script_of(taps: Sequence[Tap], read: Quantised, settings: Settings, shelf: Shelf) -> str:
    """The script of taps: each its word at its place, a line a phrase; raises FirnError where no text says it."""
    return script_at(taps, [_said_at(place, settings.counting) for place in read.places], settings, shelf)


def script_at(taps: Sequence[Tap], places: Sequence[Fraction], settings: Settings, shelf: Shelf) -> str:
    """The script of words at places as they are said, a line a phrase; raises FirnError where no text says it.

    A foot is written where it would be found otherwise, and on the first word.
    """
    entries = [_Entry(tap.word, (place,), tap.foot) for tap, place in zip(taps, places, strict=True)]
    return _script(entries, settings, shelf)


class _Entry(Struct, frozen=True):
    """A word as it is to be written: the place of each of its sounds, and the foot of the first."""

    word: str
    places: tuple[Fraction, ...]
    foot: str = ""


def _script(entries: Sequence[_Entry], settings: Settings, shelf: Shelf) -> str:
    feet = [one.foot for one in entries]
    said = [feet[0], *([""] * (len(entries) - 1))]
    single = all(len(one.places) == 1 for one in entries)
    part = None
    for attempt in range(ROUNDS + 1):
        now = said if attempt < ROUNDS else feet
        script = _at_counts(entries, now, settings, shelf) if single else _placed(entries, now, settings, shelf)
        part = build_part(script, settings)
        found = {s.use: s.foot for s in reversed(part.sounds) if s.foot}
        wrong = [k for k, foot in enumerate(feet) if foot and found.get(k, foot) != foot and not said[k]]
        if not wrong:
            break
        # Once one foot is said, those after it may come right by themselves.
        said[wrong[0]] = feet[wrong[0]]
    assert part is not None
    try:
        return write_part(part.script, settings)
    except ValueError as fault:
        if single:
            return part.script.text
        raise FirnError("No text says these steps at these counts.") from fault


def _at_counts(entries: Sequence[_Entry], feet: Sequence[str], settings: Settings, shelf: Shelf) -> PartScript:
    """Words of one sound each, read at their counts."""
    script = read_part("A", _text(entries, feet, settings), settings, shelf)
    if script.problems:
        raise FirnError(f"This cannot be written: {script.problems[0].message}")
    return script


def _placed(entries: Sequence[_Entry], feet: Sequence[str], settings: Settings, shelf: Shelf) -> PartScript:
    """Words read in their order, parted by commas, each then put where its sounds are."""
    text = ", ".join(f"{_side(foot)}{one.word}" for one, foot in zip(entries, feet, strict=True))
    script = read_part("A", text, settings, shelf)
    if len(script.uses) != len(entries) or any(
        len(use.places) != len(one.places) for use, one in zip(script.uses, entries, strict=True)
    ):
        raise FirnError("No text says these steps one after another.")
    uses = (replace(use, places=one.places) for use, one in zip(script.uses, entries, strict=True))
    return replace(script, uses=tuple(uses))


LIKE = {
    "step": ("step", "land", "leap"), "brush": ("brush", "spank", "pickup", "scuff"), "stamp": ("flat",),
    "kick": ("kick", "flick", "lift"), "toe tip": ("toe_tip",),
}  # fmt: skip
"""The kinds that a key may stand for, likeliest first; any other stands for its own."""


def in_steps(taps: Sequence[Tap], read: Quantised, settings: Settings, shelf: Shelf) -> tuple[str, tuple[str, ...]]:
    """The script of taps as steps, the likeliest for how they were tapped, or for what the ear takes them for; and
    what could be another one, or is not as it was heard, in words. Raises FirnError where they are no steps."""
    heard = any(tap.heard for tap in taps)
    named, places = _named(taps, read, settings, shelf, heard=heard)
    tradition = settings.tradition
    taken = {n for one in named for n in one.sounds}
    if not named or (len(taken) != len(taps) and not heard):
        raise FirnError("These are no steps that Firn knows one after another.")
    entries = [_Entry(shelf.word_for(one.card, tradition), one.places, taps[one.first].foot) for one in named]
    doubts = [
        f"{shelf.word_for(one.card, tradition)} on {settings.counting.name(one.places[0])} could be "
        f"{', '.join(shelf.word_for(rival, tradition) for rival in one.rivals)}"
        for one in named
        # What one sound is called matters less than which of them are of one step.
        if one.rivals and len(one.sounds) > 1
    ]
    doubts += (
        f"the {kind_said(one.card.beats[one.unheard].kind.name)} of {shelf.word_for(one.card, tradition)} on "
        f"{settings.counting.name(one.places[one.unheard])} was not heard"
        for one in named
        if one.unheard is not None
    )
    doubts += (
        f"a sound on {settings.counting.name(place)} is of no step, and is left out"
        for number, place in enumerate(places)
        if number not in taken
    )
    return _script(entries, settings, shelf), tuple(doubts)


def _named(
    taps: Sequence[Tap], read: Quantised, settings: Settings, shelf: Shelf, *, heard: bool
) -> tuple[list[Named], list[Fraction]]:
    """Taps as steps, and where each lies as it is said."""
    places = [_said_at(place, settings.counting) for place in read.places]
    kinds = [tap.heard if heard else LIKE.get(tap.word, (tap.word.replace(" ", "_"),)) for tap in taps]
    struck = [Struck(place, may, tap.foot) for tap, place, may in zip(taps, places, kinds, strict=True)]
    return words_of(struck, settings.tradition, shelf, heard=heard), places


def _said_at(position: Fraction, counting: Counting) -> Fraction:
    """The place that sounds at a position under the feel, or nearest to it; the plainest of several."""
    whole = position // 1
    shares = sorted(SLOTS, key=lambda s: s.denominator)
    return whole + min(shares, key=lambda s: abs(counting.position(whole + s) - position))


def _text(entries: Sequence[_Entry], feet: Sequence[str], settings: Settings) -> str:
    """Words with the counts on which they begin in full, a line a phrase."""
    phrase = settings.counting.phrase
    rows: dict[int, list[str]] = {}
    for one, foot in zip(entries, feet, strict=True):
        place = one.places[0]
        rows.setdefault(int(place // phrase), []).append(f"{_exact(place, phrase)} {_side(foot)}{one.word}")
    if min(rows) < 0:
        # What leads up to the first 1 stands in the line that holds it.
        rows[0] = rows.pop(-1) + rows.get(0, [])
    return "\n".join("  ".join(row) for _, row in sorted(rows.items()))


def worded(words: str, read: Quantised, settings: Settings, shelf: Shelf) -> str:
    """Words in the order in which they are said, laid onto what was tapped; what makes no sound of theirs falls
    between. Raises FirnError where there are more or fewer sounds than taps, or a word is unknown."""
    script = read_part("A", words, settings, shelf)
    if script.problems:
        raise FirnError(script.problems[0].message)
    part = build_part(script, settings)
    own = [s for s in part.sounds if not s.layer]
    heard = [s for s in own if s.heard]
    if len(heard) != len(read.places):
        raise FirnError(f"{len(read.places)} sounds are there, and these words have {len(heard)}.")
    at = {(s.use, s.beat): _said_at(p, settings.counting) for s, p in zip(heard, read.places, strict=True)}
    uses = []
    for number, use in enumerate(script.uses):
        known = [at.get((number, beat)) for beat in range(len(use.places))]
        uses.append(replace(use, places=_filled(known, use.places)))
    try:
        return write_part(replace(script, uses=tuple(uses)), settings)
    except ValueError as fault:
        raise FirnError("No text says these words at these counts.") from fault


def _filled(known: Sequence[Fraction | None], usual: Sequence[Fraction]) -> tuple[Fraction, ...]:
    """Places with those that nobody knows put where they usually lie, re the nearest that is known."""
    sure = [k for k, place in enumerate(known) if place is not None]
    if not sure:
        return tuple(usual)
    filled = []
    for k, place in enumerate(known):
        near = min(sure, key=lambda s: abs(s - k))
        base = known[near]
        assert base is not None
        filled.append(place if place is not None else base + usual[k] - usual[near])
    return tuple(filled)


def passes_of(taps: Sequence[Tap], read: Quantised, settings: Settings) -> Laid | None:
    """The phrase that taps go through more than once; None where they do not."""
    return laid_over(read.places, settings.meter.counts, [tap.word for tap in taps])


def once(taps: Sequence[Tap], read: Quantised, laid: Laid) -> tuple[list[Tap], Quantised]:
    """The taps of one pass, as most passes have it, with their reading."""
    origin = read.places[0]
    chosen = sorted(laid.first, key=lambda k: (read.places[k] - origin) % laid.counts)
    places = tuple(origin + (read.places[k] - origin) % laid.counts for k in chosen)
    read = replace(read, places=places, sure=tuple(read.sure[k] for k in chosen), others=tuple(() for _ in chosen))
    return [taps[k] for k in chosen], read


def laid_said(laid: Laid, counting: Counting) -> str:
    """Passes in a sentence, with what differs."""
    said = f"{laid.passes} passes of {laid.counts} counts"
    slips = [
        f"the {ordinal(number)} {'left out' if left else 'has one too many on'} {counting.name(place)}"
        for number, place, left in laid.slips
    ]
    more = f" and {len(slips) - 3} more" if len(slips) > 3 else ""
    return f"{said}: {'; '.join(slips[:3])}{more}." if slips else f"{said}, all alike."


def later(read: Quantised, counts: int) -> Quantised:
    """The same with the first 1 so many counts earlier: what was on 1 is on 1 and so many."""
    places = tuple(p + counts for p in read.places)
    others = tuple(tuple((p + counts, share) for p, share in more) for more in read.others)
    return replace(read, places=places, others=others, line=Line(read.line.knots + counts, read.line.seconds))


class ToClick(Struct, frozen=True):
    """A reading with its first 1 where a click had it, and by how much the taps lie behind it, in ms, usually."""

    read: Quantised
    late_ms: float


def to_click(taps: Sequence[Tap], read: Quantised, first_s: float, tempo: float) -> ToClick:
    """A reading of what was tapped to a click whose first 1 was at a second of it."""
    away = [(tap.at_s - first_s) * tempo / 60 - float(place) for tap, place in zip(taps, read.places, strict=True)]
    middle = float(np.median(away))
    counts = round(middle)
    return ToClick(later(read, counts), (middle - counts) * 60_000 / tempo)


HANDS = frozenset({"clap", "snap", "pat", "drum"})


def hands_line(text: str) -> str:
    """The script of hands as a layer beside steps, each line of it one."""
    return "\n".join(f"hands: {line.strip()}" for line in text.split("\n") if line.strip())


_STEP = late(r"(?:[LR] )?\bstep\b")


def sung_line(script: str, said: str) -> str:
    """A script of steps as the rhythm of what is sung: each step a syllable of those that are said, "da" where none
    are. Raises FirnError where they are not as many."""
    many = len(_STEP.findall(script))
    syllables = said.split() or ["da"] * many
    if len(syllables) != many:
        raise FirnError(f"{many} sounds are sung; {len(syllables)} syllables are written.")
    given = iter(syllables)
    lines = (_STEP.sub(lambda _: next(given), line) for line in script.split("\n") if line.strip())
    return "\n".join(f"scat: {line.strip()}" for line in lines)


def _side(foot: str) -> str:
    return {"left": "L ", "right": "R ", "both": "both "}.get(foot, "")


def _exact(place: Fraction, phrase: int) -> str:
    """A place as a count and a share of it."""
    number, share = int(place // 1) % phrase + 1, place % 1
    return f"{number}+{share}" if share else str(number)


def taps_data(taps: Sequence[Tap], found: Sequence[Quantised], settings: Settings, shelf: Shelf) -> dict[str, Any]:
    """The stable data of `firn tap --json`: of the likeliest reading, and what the others say."""
    read, counting = found[0], settings.counting
    along = read.line.counts(np.array([t.at_s for t in taps]))
    measured = lilt([t.at_s for t in taps], read)
    sounds = [
        {
            "time_s": round(tap.at_s, 4),
            "place": counting.name(place),
            "position": str(place),
            "sure": round(sure, 3),
            "away_ms": round(1000 * (tap.at_s - read.line.second(float(place))), 1),
            "count": round(float(count), 3),
            "alternatives": [
                {"position": str(other), "place": counting.name(other), "sure": round(share, 3)}
                for other, share in more
            ],
        }
        for tap, place, sure, more, count in zip(taps, read.places, read.sure, read.others, along, strict=True)
    ]
    return {
        "tempo": round(read.tempo, 2),
        "tempos": [round(read.line.tempo(float(read.places[k])), 2) for k in (0, -1)],
        "meter": f"{settings.meter.beats}/{settings.meter.unit}",
        "spread_ms": round(1000 * read.spread_s, 1),
        "swing": None
        if measured is None
        else {
            "ratio": round(measured.ratio, 2),
            "share": round(measured.share, 3),
            "n": measured.n,
            "asked": measured.asked,
        },
        "sounds": sounds,
        "script": script_of(taps, read, settings, shelf),
        "words": _named_data(taps, read, settings, shelf),
        "passes": _laid_data(passes_of(taps, read, settings), settings),
        "readings": [
            {"tempo": round(one.tempo, 2), "sure": round(share, 3), "positions": [str(p) for p in one.places]}
            for one, share in zip(found, shares(found), strict=True)
        ],
    }


def _named_data(taps: Sequence[Tap], read: Quantised, settings: Settings, shelf: Shelf) -> list[dict[str, Any]]:
    """The taps as steps, where it is known how they were struck: each with its sounds and its rivals."""
    if all(tap.word == Tap(0).word for tap in taps):
        return []
    named, _ = _named(taps, read, settings, shelf, heard=False)
    return [
        {
            "word": shelf.word_for(one.card, settings.tradition),
            "positions": [str(read.places[n]) for n in one.sounds],
            "rivals": [shelf.word_for(rival, settings.tradition) for rival in one.rivals],
        }
        for one in named
    ]


def _laid_data(laid: Laid | None, settings: Settings) -> dict[str, Any] | None:
    """Passes of one phrase as data, with what differs; None where there is one alone."""
    if laid is None:
        return None
    slips = [
        {"pass": number, "place": settings.counting.name(place), "left_out": left}
        for number, place, left in laid.slips
    ]
    return {"counts": laid.counts, "passes": laid.passes, "sounds": len(laid.kept), "slips": slips}


def words_data(text: str, settings: Settings, shelf: Shelf) -> list[dict[str, Any]]:
    """The words of a script with the places of their sounds, as data."""
    part = part_from("A", text, settings, shelf)
    return [
        {
            "word": use.card.name,
            "positions": [str(s.position) for s in part.sounds if s.use == number and s.heard],
            "kinds": [s.kind for s in part.sounds if s.use == number and s.heard],
        }
        for number, use in enumerate(part.uses)
    ]


def shares(found: Sequence[Quantised]) -> list[float]:
    """How likely each reading is among all, 0 to 1."""
    logs = np.array([q.likelihood for q in found])
    likely = np.exp(logs - logs.max())
    return [float(s) for s in likely / likely.sum()]
