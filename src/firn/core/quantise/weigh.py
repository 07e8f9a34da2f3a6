"""How likely each sound lies on each place near it, along one line: forward and backward over all of them."""

import numpy as np
import numpy.typing as npt

from firn.core.quantise.line import FloatArray, Line
from firn.core.quantise.usual import LONGEST, SLOTS, usual

REACH = 0.55
"""Counts to either side of where the line has a sound in which its place is sought."""

FIRST = np.log([0.55, 0.02, 0.04, 0.03, 0.22, 0.07, 0.05, 0.02])
"""How likely a piece begins on each slot."""

STRAY, WIDE_S = 0.06, 0.03
"""So many sounds are off by more than the spread, and by how much."""

_SPAN = 4
"""Whole counts whose places are sought around each sound."""


def weighed(times: FloatArray, line: Line, spread: float, kind: int) -> tuple[FloatArray, FloatArray, float]:
    """Places near each sound and how likely it lies on each, shapes (n, places); and the log likelihood of all.

    `spread`: seconds that sounds lie from their places.
    """
    slots = np.array([float(s) for s in SLOTS])
    table = usual()[kind]
    around = line.counts(times)
    whole = np.floor(around).astype(int)[:, None] + np.repeat(np.arange(_SPAN) - 1, len(slots))[None, :]
    slot = np.tile(np.arange(len(slots)), _SPAN)
    places = whole + slots[slot][None, :]
    away = times[:, None] - line.at(places.ravel()).reshape(places.shape)
    fits = np.where(np.abs(places - around[:, None]) <= REACH, _fit(away, spread), -np.inf)
    many = len(times)
    first, then = slot[:, None], slot[None, :]
    links = []
    for k in range(1, many):
        apart = whole[k][None, :] - whole[k - 1][:, None]
        link = table[first, np.clip(apart, 0, LONGEST - 1), then]
        links.append(np.where(apart < 0, -np.inf, link))
    forward = np.empty_like(fits)
    forward[0] = FIRST[slot] + fits[0]
    for k in range(1, many):
        forward[k] = _summed(forward[k - 1][:, None] + links[k - 1], 0) + fits[k]
    backward = np.zeros_like(fits)
    for k in range(many - 1, 0, -1):
        backward[k - 1] = _summed(links[k - 1] + (fits[k] + backward[k])[None, :], 1)
    total = float(_summed(forward[-1], 0))
    both = forward + backward
    likely = np.exp(both - both.max(axis=1, keepdims=True))
    return places, likely / likely.sum(axis=1, keepdims=True), total


def _fit(away: FloatArray, spread: float) -> FloatArray:
    """Log likelihood of so many seconds off: most are by the spread, some by more, or nothing would be in doubt."""
    return np.asarray(np.logaddexp(*_near_and_far(away, spread)), dtype=np.float64)


def stray(away: FloatArray, spread: float) -> FloatArray:
    """How likely sounds so many seconds off are off by more than the spread, 0 to 1."""
    near, far = _near_and_far(away, spread)
    return np.asarray(1 / (1 + np.exp(np.minimum(50.0, near - far))), dtype=np.float64)


def _near_and_far(away: FloatArray, spread: float) -> tuple[FloatArray, FloatArray]:
    wide = max(3 * spread, WIDE_S)
    near = -(away**2) / (2 * spread**2) - np.log(spread) + np.log(1 - STRAY)
    far = -(away**2) / (2 * wide**2) - np.log(wide) + np.log(STRAY)
    return near, far


def _summed(logs: npt.NDArray[np.float64], axis: int) -> FloatArray:
    """log(sum(exp)) that does not run over."""
    most = logs.max(axis=axis, keepdims=True)
    most = np.where(np.isfinite(most), most, 0.0)
    with np.errstate(divide="ignore"):
        return np.asarray(np.log(np.exp(logs - most).sum(axis=axis)) + most.squeeze(axis), dtype=np.float64)
