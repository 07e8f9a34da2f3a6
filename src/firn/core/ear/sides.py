"""One foot against the other: which comes later, and which is softer. Like is laid against like."""

from collections import defaultdict
from collections.abc import Callable, Sequence

import numpy as np
from msgspec import Struct

from firn.core.ear.judged import Judged
from firn.core.piece.piece import Part

LATE_MS, SOFT_DB = 10.0, 4.0
"""Less between the feet than this is none."""

_SURE = 3.0
"""How many times its own error a difference must be."""


class Foot(Struct, frozen=True):
    """The sounds of one foot: `ms` after (+) or before (-) those of the other, `db` above or below them, half of the
    difference each; None where there is nothing alike to lay them against. `n`: how many were heard."""

    ms: float | None
    db: float | None
    n: int


class Sides(Struct, frozen=True):
    """Both feet, and by how much one differs from the other where that is sure: `late`, `soft` name the foot."""

    left: Foot
    right: Foot
    late: tuple[str, float] | None = None
    soft: tuple[str, float] | None = None


def sides_of(part: Part, judged: Sequence[Judged]) -> Sides:
    """The feet of a judged take."""
    rows: dict[tuple[str, str], list[Judged]] = defaultdict(list)
    many = {"left": 0, "right": 0}
    for one in judged:
        sounds = [part.sounds[i] for i in one.target.sounds]
        # What is struck by both at once says nothing of either.
        if one.ms is None or {s.foot for s in sounds} not in ({"left"}, {"right"}):
            continue
        rows[sounds[0].kind, sounds[0].foot].append(one)
        many[sounds[0].foot] += 1
    ms = _difference(rows, lambda j: j.ms or 0.0)
    db = _difference(rows, lambda j: j.level_db)
    left = Foot(None if ms is None else ms[0] / 2, None if db is None else db[0] / 2, many["left"])
    right = Foot(None if ms is None else -ms[0] / 2, None if db is None else -db[0] / 2, many["right"])
    late = soft = None
    if ms is not None and abs(ms[0]) >= LATE_MS and abs(ms[0]) >= _SURE * ms[1]:
        late = ("left" if ms[0] > 0 else "right"), abs(ms[0])
    if db is not None and abs(db[0]) >= SOFT_DB and abs(db[0]) >= _SURE * db[1]:
        soft = ("left" if db[0] < 0 else "right"), abs(db[0])
    return Sides(left, right, late, soft)


def _difference(
    rows: dict[tuple[str, str], list[Judged]], value: Callable[[Judged], float]
) -> tuple[float, float] | None:
    """The left foot less the right, kind by kind, and its standard error; None where no kind is danced by both."""
    found = []
    for kind in {kind for kind, _ in rows}:
        left, right = (np.array([value(j) for j in rows.get((kind, foot), ())]) for foot in ("left", "right"))
        if len(left) < 2 or len(right) < 2:
            continue
        # Medians: one slip must not tilt a foot. Their error is a quarter more than that of means.
        error = 1.25 * float(np.sqrt(np.var(left, ddof=1) / len(left) + np.var(right, ddof=1) / len(right)))
        found.append((float(np.median(left) - np.median(right)), max(error, 0.1), min(len(left), len(right))))
    if not found:
        return None
    weights = np.array([n for _, _, n in found], dtype=float) / sum(n for _, _, n in found)
    apart = float(np.dot(weights, [d for d, _, _ in found]))
    return apart, float(np.sqrt(np.dot(weights**2, [e**2 for _, e, _ in found])))
