"""What was tapped, as a script: its readings, the text of one, and all of it as data."""

import math
from collections.abc import Sequence
from typing import Any

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from firn.core.meter.counting import Counting
from firn.core.meter.line import Line
from firn.core.meter.meter import Meter
from firn.core.pattern import late
from firn.core.piece.build import part_from
from firn.core.quantise.lilt import EVEN, SWUNG, lilt
from firn.core.quantise.passes import Laid, laid_over
from firn.core.quantise.quantise import Quantised, on_line, quantise
from firn.core.script.combo_item import ordinal
from firn.core.script.settings import Settings
from firn.core.steps.shelf import Shelf
from firn.errors import FirnError
from firn.session.tap_script import Tap, script_of
from firn.session.tap_words import named_in

MOST = 4_000
"""Taps that are read at once."""

LEAST_APART_S = 0.02
"""What follows nearer than this is a key that bounced."""

READINGS = 4


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


class Grid(Struct, frozen=True):
    """Counts that are known before: their line, with a 1 at its 0, and how many make a phrase."""

    line: Line
    phrase: int


def readings(taps: Sequence[Tap], meter: Meter, tempo: float | None, *, grid: Grid | None = None) -> list[Quantised]:
    """How taps can be read, the likeliest first; on counts that are known before, that comes before all else."""
    # Who counts in halves may yet dance in triplets.
    times, compound = [t.at_s for t in taps], True if meter.compound else None
    found = quantise(times, tempo=tempo, compound=compound)[:READINGS]
    if grid is not None and tempo is None:
        found.insert(0, _in_phrase(on_line(times, grid.line, compound=compound), grid.phrase))
    measured = lilt(times, found[0])
    if measured is not None and measured.asked:
        # Neither even nor swung: what was not chosen is offered next.
        found.insert(1, _other_lilt(found[0]))
    return found


def _in_phrase(read: Quantised, phrase: int) -> Quantised:
    """The same in the first phrase: what begins a count before a 1, or less, leads up to it."""
    return later(read, -int((read.places[0] + 1) // phrase) * phrase)


def _other_lilt(read: Quantised) -> Quantised:
    """The same with what lies on halves on two thirds, or the other way round; half as likely."""
    across = {EVEN: SWUNG, SWUNG: EVEN}
    places = tuple(p // 1 + across.get(p % 1, p % 1) for p in read.places)
    return replace(read, places=places, likelihood=read.likelihood + math.log(0.5))


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
    return [
        {
            "word": shelf.word_for(one.card, settings.tradition),
            "positions": [str(read.places[n]) for n in one.sounds],
            "rivals": [shelf.word_for(rival, settings.tradition) for rival in one.rivals],
        }
        for one in named_in(taps, read, settings, shelf)
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
