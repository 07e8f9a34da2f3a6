"""How a take was as a whole: steady, even, its holds kept, both feet alike."""

from collections import defaultdict
from itertools import pairwise
from statistics import fmean, median

import numpy as np
from msgspec import Struct

from firn.core.ear.click import Kept
from firn.core.ear.habits import off_by_pass
from firn.core.ear.judged import Judged
from firn.core.ear.sides import Sides, sides_of
from firn.core.ear.swing import Swing, swing_of
from firn.core.ear.verdict import Verdict
from firn.core.piece.piece import Part
from firn.core.piece.sound import Sound

LOUD_DB = 6.0
"""A sound so much louder or softer than its neighbours stands out."""

LEAST_ALIKE = 2
"""Fewer sounds of its kind say nothing of how loud one should be."""

HOLD_SHARE = 0.5
"""A hold is kept if the sounds around it are apart by what they should be, to half a count."""


class Uneven(Struct, frozen=True):
    """A sound that stands out by its loudness in most passes: which (an index of the part), and by how many dB."""

    sound: int
    db: float


class Whole(Struct, frozen=True):
    """A take as a whole.

    `faster`: how many counts a minute it was faster at its end than at its start (less than 0: slower), None for
    fewer than 8 sounds. `range_db`: spread of loudness among neighbours, 10th to 90th percentile. `holds`: each hold
    of the part and whether it was kept in every pass. `feet_ms`: mean distance from its time, by foot. `off_by_pass`:
    how many sounds were not on in each pass; `kept` as in Verdict. `sides`: one foot
    against the other; `swing`: as danced.
    """

    faster: float | None
    range_db: float
    uneven: tuple[Uneven, ...]
    holds: tuple[tuple[int, bool], ...]
    feet_ms: dict[str, float]
    off_by_pass: tuple[int, ...] = ()
    kept: Kept | None = None
    sides: Sides | None = None
    swing: Swing | None = None
    counted: bool = False


def whole(part: Part, verdict: Verdict) -> Whole:
    """What there is to say of a judged take beyond its single sounds."""
    heard = [j for j in verdict.judged if j.heard_s is not None]
    sides = sides_of(part, verdict.judged)
    return Whole(
        faster=_faster(verdict, heard),
        range_db=_range(heard),
        uneven=_uneven(part, heard, by_foot=sides.soft is not None),
        holds=tuple((i, _kept(part, i, verdict)) for i, s in enumerate(part.sounds) if s.kind == "hold"),
        feet_ms=_feet(part, heard),
        off_by_pass=tuple(off_by_pass(verdict.judged, verdict.added)),
        kept=verdict.kept,
        sides=sides,
        swing=swing_of(part, verdict.judged),
        counted=verdict.counted,
    )


def _faster(verdict: Verdict, heard: list[Judged]) -> float | None:
    """The change of tempo from a parabola through the heard sounds, from the first to the last."""
    if len(heard) < 8:
        return None
    target = np.array([j.target.seconds for j in heard])
    took = np.array([j.heard_s for j in heard], dtype=float)
    if len(np.unique(target)) < 8:
        return None
    bend, slope, _ = np.polyfit(target - target[0], took - took[0], 2)
    first, last = slope, slope + 2 * bend * (target[-1] - target[0])
    if first <= 0 or last <= 0:
        return None
    middle = (first + last) / 2
    return float(verdict.tempo * middle * (1 / last - 1 / first))


def _beside(heard: list[Judged], at: int) -> float:
    """A sound's level less the median of the up to four around it, in dB."""
    around = [heard[i].level_db for i in range(max(0, at - 2), min(len(heard), at + 3)) if i != at]
    return heard[at].level_db - median(around) if around else 0.0


def _range(heard: list[Judged]) -> float:
    if len(heard) < 3:
        return 0.0
    beside = [_beside(heard, i) for i in range(len(heard))]
    return float(np.percentile(beside, 90) - np.percentile(beside, 10))


def _uneven(part: Part, heard: list[Judged], *, by_foot: bool) -> tuple[Uneven, ...]:
    """Sounds that stand out by loudness from others of their kind, and are not meant to; `by_foot`: of their foot."""
    levels: dict[int, list[float]] = defaultdict(list)
    for judged in heard:
        levels[judged.target.sounds[0]].append(judged.level_db)
    means = {sound: fmean(of) for sound, of in levels.items()}
    found = []
    for sound, level in sorted(means.items()):
        one = part.sounds[sound]
        # A brush is softer than a stamp: like is laid against like.
        alike = [m for i, m in means.items() if i != sound and _alike(part.sounds[i], one, by_foot=by_foot)]
        if len(alike) >= LEAST_ALIKE and one.level == 0 and abs(level - median(alike)) >= LOUD_DB:
            found.append(Uneven(sound, level - median(alike)))
    return tuple(found)


def _alike(one: Sound, other: Sound, *, by_foot: bool) -> bool:
    same = (one.kind, one.level, one.changes_weight) == (other.kind, other.level, other.changes_weight)
    return same and (one.foot == other.foot or not by_foot)


def _kept(part: Part, hold: int, verdict: Verdict) -> bool:
    """Whether the sounds before and after a hold are as far apart as they should be, in every pass."""
    if verdict.dropped == hold:
        return False
    beat = 60 / verdict.tempo
    for one, two in pairwise(verdict.judged):
        before, after = part.sounds[one.target.sounds[0]], part.sounds[two.target.sounds[0]]
        over = before.place < part.sounds[hold].place and (
            after.place > part.sounds[hold].place or two.target.time > one.target.time
        )
        if over and one.heard_s is not None and two.heard_s is not None:
            off = (two.heard_s - one.heard_s) - (two.expected_s - one.expected_s)
            if abs(off) > HOLD_SHARE * beat:
                return False
    return True


def _feet(part: Part, heard: list[Judged]) -> dict[str, float]:
    by_foot: dict[str, list[float]] = defaultdict(list)
    for judged in heard:
        foot = part.sounds[judged.target.sounds[0]].foot
        if foot in ("left", "right") and judged.ms is not None:
            by_foot[foot].append(abs(judged.ms))
    return {foot: fmean(away) for foot, away in sorted(by_foot.items())}
