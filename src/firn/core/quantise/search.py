"""Where a tempo may lie: the spacings that times keep to, with a tempo that may creep, by their Fourier transform."""

from typing import Final

import numpy as np
import numpy.typing as npt
from msgspec import Struct

from firn.core.meter.line import FloatArray, Line
from firn.core.quantise.usual import KINDS, SLOTS, usual
from firn.core.quantise.weigh import Tried, likelihoods

WHOLE_S: Final = 45.0
"""So much of what was struck is looked at to find the tempo; the rest is followed from there."""

CREEPS = np.linspace(-0.08, 0.08, 17)
"""By what share the tempo may change over that."""

FINE = 0.12
"""Counts by which the ends of what is looked at may differ from one tempo that is tried to the next."""

DIVISIONS = (1, 2, 3, 4, 6)
PHASES = 24
PEAKS, EACH, TRIED = 6, 3, 8
"""Spacings that are looked at, phases of each, and lines that are left in the end."""

FEW = 48
"""So many sounds tell one line from another."""

LEAST_SPREAD_S, MOST_SPREAD_S = 0.008, 0.035


class Begun(Struct, frozen=True):
    """A line to begin with, and a kind of time."""

    line: Line
    kind: int
    score: float


def spacings(times: FloatArray, slowest_hz: float, fastest_hz: float) -> list[tuple[float, float, float]]:
    """What times keep to: of each the spacings a second, by what share the tempo creeps, and how well they keep to
    it (of pure chance about 1), the best first."""
    length = max(float(times[-1] - times[0]), 1.0)
    at = times - times[0]
    hz = np.arange(slowest_hz, fastest_hz, FINE / length)
    strong = np.empty((len(CREEPS), len(hz)))
    for number, creep in enumerate(CREEPS):
        warped = at * (1 + creep * (at / length - 1) / 2)
        turned = np.exp(2j * np.pi * np.outer(hz, warped))
        strong[number] = np.abs(turned.sum(axis=1)) ** 2 / len(at)
    best = strong.argmax(axis=0)
    height = strong[best, np.arange(len(hz))]
    # A peak among its neighbours, some hundredths apart: its flanks are the same spacing.
    found: list[tuple[float, float, float]] = []
    left = height.copy()
    while len(found) < PEAKS and left.max() > 0:
        k = int(left.argmax())
        found.append((float(hz[k]), float(CREEPS[best[k]]), float(height[k])))
        left[np.abs(hz - hz[k]) < hz[k] * 0.02] = 0.0
    return found


def begun(times: FloatArray, kinds: list[int], low: float, high: float) -> list[Begun]:
    """Lines that may be right, the likeliest first; `low` and `high` in counts a minute."""
    first = times[times <= times[0] + WHOLE_S]
    length = max(float(first[-1] - first[0]), 1.0)
    tried: list[Tried] = []
    few = first[:FEW]
    for hz, creep, strength in spacings(first, low / 60, 6 * high / 60):
        # What is left of a sum of turns whose places spread by so much (the normal's characteristic function).
        spread = np.sqrt(max(1e-9, -np.log(min(1.0, strength / len(first))))) / (2 * np.pi * hz)
        spread = float(np.clip(spread, LEAST_SPREAD_S, MOST_SPREAD_S))
        warped = (first - first[0]) * (1 + creep * ((first - first[0]) / length - 1) / 2)
        for division in DIVISIONS:
            counts_hz = hz / division
            if not low <= 60 * counts_hz <= high:
                continue
            for kind in kinds:
                lines = _phases(warped * counts_hz, counts_hz, creep, length, float(first[0]), kind, spread)
                tried += [Tried(line, spread, kind) for line in lines]
    scores = likelihoods(few, tried)
    return [Begun(tried[k].line, tried[k].kind, float(scores[k])) for k in np.argsort(-scores, kind="stable")[:TRIED]]


def _phases(
    counts: FloatArray, counts_hz: float, creep: float, length: float, first_s: float, kind: int, spread_s: float
) -> list[Line]:
    """Where the first count may lie: the best by how usual each place is by itself."""
    slots = np.append([float(s) for s in SLOTS], 1.0)
    common = _common(kind)
    logs = np.log(np.append(common, common[0]))
    phases = np.arange(PHASES) / PHASES
    inside = (counts[None, :] + phases[:, None]) % 1
    spread = spread_s * counts_hz
    away = (inside[..., None] - slots) / spread
    fits = logs - 0.5 * away**2
    most = fits.max(axis=-1)
    each = most + np.log(np.exp(fits - most[..., None]).sum(axis=-1))
    score = np.maximum(each, -8.0).sum(axis=1)
    # The line of counts over seconds, by some points of it.
    at = np.linspace(0, length, 12)
    along = at * (1 + creep * (at / length - 1) / 2) * counts_hz
    return [Line(along + phases[k], at + first_s) for k in np.argsort(-score)[:EACH]]


def _common(kind: int) -> npt.NDArray[np.float64]:
    """How common each place in a count is, by where its way from place to place leads in the end."""
    steps = np.exp(usual()[kind]).sum(axis=1)
    share = np.full(len(SLOTS), 1 / len(SLOTS))
    for _ in range(50):
        share = share @ steps
    return np.asarray(share / share.sum())


def kinds_of(compound: bool | None) -> list[int]:
    """Which kinds of time are tried."""
    return [k for k, name in enumerate(KINDS) if compound is None or (name == "compound") == compound]
