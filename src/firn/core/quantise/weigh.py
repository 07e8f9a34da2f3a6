"""How likely each sound lies on each place near it, along one line: forward and backward over all of them."""

from collections.abc import Sequence
from typing import NamedTuple

import numpy as np

from firn.core.meter.line import FloatArray, Line
from firn.core.quantise.usual import LONGEST, SLOTS, usual

REACH = 0.55
"""Counts to either side of where the line has a sound in which its place is sought."""

FIRST = np.log([0.55, 0.02, 0.04, 0.03, 0.22, 0.07, 0.05, 0.02])
"""How likely a piece begins on each slot."""

STRAY, WIDE_S = 0.06, 0.03
"""So many sounds are off by more than the spread, and by how much."""

_SPAN = 4
"""Whole counts whose places are sought around each sound."""


class Tried(NamedTuple):
    """A line that may be right, seconds that sounds lie from their places on it, and a kind of time."""

    line: Line
    spread: float
    kind: int


def weighed(times: FloatArray, line: Line, spread: float, kind: int) -> tuple[FloatArray, FloatArray, float]:
    """Places near each sound and how likely it lies on each, shapes (n, places); and the log likelihood of all.

    `spread`: seconds that sounds lie from their places.
    """
    places, fits, links = _places(times, Tried(line, spread, kind))
    forward, total = _forward(fits[:, None, :], links[:, None, :, :])
    backward = np.ones_like(fits)
    for k in range(len(times) - 1, 0, -1):
        before = links[k - 1] @ (fits[k] * backward[k])
        backward[k - 1] = before / (before.max() or 1.0)
    likely = forward[:, 0, :] * backward
    return places, likely / likely.sum(axis=1, keepdims=True), float(total[0])


def likelihoods(times: FloatArray, tried: Sequence[Tried]) -> FloatArray:
    """The log likelihood of all sounds on each of some lines, shape (len(tried),)."""
    if not tried:
        return np.zeros(0)
    each = [_places(times, one)[1:] for one in tried]
    return _forward(np.stack([fits for fits, _ in each], axis=1), np.stack([links for _, links in each], axis=1))[1]


def _places(times: FloatArray, tried: Tried) -> tuple[FloatArray, FloatArray, FloatArray]:
    """Places near each sound, how well each fits it, shapes (n, places), and how likely each follows each of the
    sound before, shape (n - 1, places, places)."""
    slots = np.array([float(s) for s in SLOTS])
    around = tried.line.counts(times)
    whole = np.floor(around).astype(int)[:, None] + np.repeat(np.arange(_SPAN) - 1, len(slots))[None, :]
    slot = np.tile(np.arange(len(slots)), _SPAN)
    places = whole + slots[slot][None, :]
    away = times[:, None] - tried.line.at(places.ravel()).reshape(places.shape)
    fits = np.where(np.abs(places - around[:, None]) <= REACH, np.exp(_fit(away, tried.spread)), 0.0)
    fits[0] *= np.exp(FIRST[slot])
    # By whole counts apart first: none comes before the one that it follows.
    then = np.exp(usual()[tried.kind]).transpose(1, 0, 2)
    then = np.concatenate([then, np.zeros((1, len(slots), len(slots)))])
    first = whole[:, :: len(slots)]
    apart = np.clip(first[1:, None, :] - first[:-1, :, None], -1, LONGEST - 1)
    links = then[apart].transpose(0, 1, 3, 2, 4).reshape(len(times) - 1, len(slot), len(slot))
    return places, fits, links


def _forward(fits: FloatArray, links: FloatArray) -> tuple[FloatArray, FloatArray]:
    """How likely each place is by what comes before it, as shares of all, and the log likelihood of all sounds
    (Rabiner 1989); shapes (n, lines, places), (n - 1, lines, places, places), (n, lines, places), (lines,)."""
    shares = np.empty_like(fits)
    total = np.zeros(fits.shape[1])
    with np.errstate(divide="ignore"):
        for k in range(len(fits)):
            here = fits[k] if k == 0 else (shares[k - 1][:, None, :] @ links[k - 1])[:, 0, :] * fits[k]
            every = here.sum(axis=1)
            total += np.log(every)
            shares[k] = here / np.where(every > 0, every, 1.0)[:, None]
    return shares, total


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
