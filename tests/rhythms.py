"""Rhythms of tunes as onsets: the outside judge of what reads times into counts.

The tunes are those of Ryan's Mammoth Collection (1883) as music21's corpus has them: reels, jigs, slip jigs,
hornpipes, clogs. Nothing that reads times learnt from them (tools/rhythms.py learns from two other books).
"""

from dataclasses import dataclass
from fractions import Fraction
from functools import lru_cache

import numpy as np

COMPOUND = {"6/8", "9/8", "12/8"}
SIMPLE = {"2/4", "3/4", "4/4"}


@dataclass(frozen=True)
class Rhythm:
    """A tune's onsets in counts from its first whole bar's 1, ascending; a count is a quarter, in 6/8 and its like
    a dotted one."""

    name: str
    meter: str
    places: tuple[Fraction, ...]


@lru_cache(maxsize=1)
def rhythms(many: int = 60) -> tuple[Rhythm, ...]:
    """So many tunes, spread over the book."""
    from music21 import converter, corpus

    paths = corpus.getComposer("ryansMammoth")
    found: list[Rhythm] = []
    for path in paths[:: max(1, len(paths) // (2 * many))]:
        one = read(converter.parse(path), path.stem)
        if one is not None and all(12 % (p % 1).denominator == 0 and (p % 1).denominator != 12 for p in one.places):
            found.append(one)
        if len(found) == many:
            break
    return tuple(found)


def read(score, name: str) -> Rhythm | None:  # type: ignore[no-untyped-def]
    part = score.parts[0] if score.parts else score
    meters = {m.ratioString for m in part.recurse().getElementsByClass("TimeSignature")}
    if len(meters) != 1 or not meters <= COMPOUND | SIMPLE:
        return None
    meter = meters.pop()
    count = Fraction(3, 2) if meter in COMPOUND else Fraction(1)
    bars = list(part.getElementsByClass("Measure"))
    if len(bars) < 8:
        return None
    whole = Fraction(bars[1].barDuration.quarterLength)
    first = Fraction(bars[0].duration.quarterLength)
    pickup = first if first < whole else Fraction(0)
    places = []
    for note in part.flatten().notes:
        if note.duration.isGrace or (note.tie is not None and note.tie.type != "start"):
            continue
        places.append((Fraction(note.offset).limit_denominator(48) - pickup) / count)
    places = sorted(set(places))
    return Rhythm(name, meter, tuple(places)) if len(places) > 30 else None


def played(
    rhythm: Rhythm, tempo: float, jitter_ms: float, rng: np.random.Generator, *, creep: float = 0.03
) -> np.ndarray:
    """When each is struck, in seconds: a tempo that creeps up by a share, and a spread of each stroke."""
    at = np.array([float(p) for p in rhythm.places])
    share = (at - at[0]) / (at[-1] - at[0])
    # The time of a tempo that rises evenly with the counts.
    times = (at[-1] - at[0]) * 60 / tempo * np.log1p(creep * share) / creep
    return np.sort(times + rng.normal(0, jitter_ms / 1000, len(at))) + 1.0


def right(found: list[Fraction], rhythm: Rhythm) -> float:
    """Share of the places that are exactly right, but for whole counts that all are off by."""
    off = [f - p for f, p in zip(found, rhythm.places, strict=True)]
    whole = [o for o in off if o % 1 == 0]
    if not whole:
        return 0.0
    most = max(set(whole), key=whole.count)
    return sum(o == most for o in off) / len(off)


def rounded(times_s: np.ndarray, rhythm: Rhythm) -> list[Fraction]:
    """The reference: rounding to halves, thirds, quarters, sixths after the best line to the truth."""
    at = np.array([float(p) for p in rhythm.places])
    slope, start = np.polyfit(times_s, at, 1)
    places = sorted({Fraction(n, d) for d in (1, 2, 3, 4, 6) for n in range(d + 1)})
    exact = np.array([float(p) for p in places])
    out = []
    for x in slope * times_s + start:
        whole = int(np.floor(x))
        out.append(whole + places[int(np.argmin(np.abs(exact - (x - whole))))])
    return out


def right_apart(found: list[Fraction], rhythm: Rhythm) -> float:
    """Share of the places that are exactly right from the first sound on, wherever in the count that is."""
    off = [f - p for f, p in zip(found, rhythm.places, strict=True)]
    most = max(set(off), key=off.count)
    return sum(o == most for o in off) / len(off)
