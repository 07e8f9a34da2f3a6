"""Laying a take over its target: which sound is which, at what tempo, from where.

The start is unknown, the tempo off by up to a fifth, and it may drift; sounds are missing and added. Plain time
warping locks to a wrong path here, so a coarse search over tempo and start comes first, then pairs by
assignment, then a line (with a slight bend, if the tempo drifts) through the pairs, and again.
"""

from collections.abc import Sequence

import numpy as np
import numpy.typing as npt
from msgspec import Struct

from firn.core.task import UNWATCHED, Task, give_way

FloatArray = npt.NDArray[np.float64]

SLOWEST, FASTEST = 0.78, 1.28
SHIFTS, MOST_SHIFTED = 4, 600
_FORBIDDEN = 1e6
_MOST_TRIED = 48
_Turn = tuple[float, bool]

_TURNS: tuple[_Turn, ...] = ((0.09, False), (0.07, False), (0.07, True), (0.07, True), (0.07, True))
"""Reach of a pair in seconds and whether the tempo may bend, turn by turn."""

_FEW_TURNS: tuple[_Turn, ...] = ((0.09, False), (0.07, True), (0.07, True))
"""The same for what lies nearly where it is expected."""


def _times(name: str, times: npt.ArrayLike) -> FloatArray:
    array = np.asarray(times, dtype=np.float64)
    if array.ndim != 1 or not np.isfinite(array).all() or (len(array) > 1 and (np.diff(array) < 0).any()):
        raise ValueError(f"{name} must be 1-D, finite and ascending")
    return array


def match_hits(
    targets: npt.ArrayLike, hits: npt.ArrayLike, *, tolerance_s: float | FloatArray = 0.05
) -> list[tuple[int, int]]:
    """Pairs of target and hit: most pairs first, then the least sum of distances.

    Parameters
    ----------
    targets, hits : array_like, shapes (m,) and (n,)
        Times in seconds, finite, ascending; may be empty.
    tolerance_s : float or ndarray, shape (m,)
        Largest distance of a pair, inclusive to a nanosecond; one for all or one a target.

    Returns
    -------
    list of (int, int)
        Indices of target and hit, ascending; each used once.

    Notes
    -----
    scipy's linear_sum_assignment (Crouse 2016) with a large finite cost for what is too far, on each cluster of
    targets and hits that reach one another; infinite costs would raise.
    """
    reference, take = _times("targets", targets), _times("hits", hits)
    reach = np.broadcast_to(np.asarray(tolerance_s, dtype=np.float64), reference.shape) + 1e-9
    first = np.searchsorted(take, reference - reach, side="left")
    last = np.searchsorted(take, reference + reach, side="right")
    reached = np.flatnonzero(first < last)
    if not len(reached):
        return []
    first, last = first[reached], last[reached]
    # A cluster begins where nothing before it reaches as far.
    until = np.maximum.accumulate(last)
    begins = np.flatnonzero(np.append(True, first[1:] >= until[:-1]))
    ends = np.append(begins[1:], len(reached))
    lone = ends - begins == 1
    alone = reached[begins[lone]]
    pairs = list(zip(alone.tolist(), _nearest(reference[alone], take).tolist(), strict=True))
    for at, end in zip(begins[~lone].tolist(), ends[~lone].tolist(), strict=True):
        pairs += _assigned(reference, take, reach, reached[at:end], int(first[at]), int(until[end - 1]))
    return sorted(pairs)


def _nearest(times: FloatArray, take: FloatArray) -> npt.NDArray[np.intp]:
    """The hit that is nearest to each time; the earlier of two."""
    after = np.clip(np.searchsorted(take, times), 1, max(1, len(take) - 1))
    before = after - 1
    after = np.minimum(after, len(take) - 1)
    return np.where(np.abs(take[before] - times) <= np.abs(take[after] - times), before, after)


def _assigned(
    reference: FloatArray, take: FloatArray, reach: FloatArray, rows: npt.NDArray[np.intp], first: int, until: int
) -> list[tuple[int, int]]:
    """The pairs of a cluster: these targets with the hits from one up to another."""
    from scipy.optimize import linear_sum_assignment

    distance = np.abs(reference[rows, None] - take[None, first:until])
    cost = np.where(distance <= reach[rows, None], distance, _FORBIDDEN)
    chosen, columns = linear_sum_assignment(cost)
    taken = cost[chosen, columns] < _FORBIDDEN
    return list(zip(rows[chosen[taken]].tolist(), (first + columns[taken]).tolist(), strict=True))


class Alignment(Struct, frozen=True):
    """How a take lies over its target.

    `scale`, `offset_s`: the least-squares line take = offset + scale * target through the pairs. `expected_s`:
    where each target would lie in the take, shape (m,), the bend of a drifting tempo included. `pairs`: indices
    of target and onset; `missing` targets, `extra` onsets. `spread_s`: standard deviation about the line,
    with n - 2 (0 for fewer than 3 pairs). `others`: lines that fit as well, as (scale, offset in s).
    """

    scale: float
    offset_s: float
    expected_s: FloatArray
    pairs: list[tuple[int, int]]
    missing: list[int]
    extra: list[int]
    spread_s: float
    others: list[tuple[float, float]]


def _gaps(times: FloatArray) -> FloatArray:
    """The nearest neighbour's distance at each time; 1 s for a lone one."""
    if len(times) < 2:
        return np.ones(len(times))
    apart = np.diff(times)
    return np.asarray(np.minimum(np.append(apart, np.inf), np.insert(apart, 0, np.inf)), dtype=np.float64)


def _votes(
    target: FloatArray, take: FloatArray, scales: FloatArray, bin_s: float
) -> list[tuple[float, float, float]]:
    """The best starts for each scale by vote of all differences: (votes, scale, offset)."""
    found = []
    for scale in scales:
        differences = (take[None, :] - scale * target[:, None]).ravel()
        low = differences.min() - bin_s
        bins = ((differences - low) / bin_s).astype(np.intp)
        votes = np.bincount(bins, minlength=int(bins.max()) + 3).astype(np.float64)
        smooth = votes[:-2] + 2 * votes[1:-1] + votes[2:]
        for best in np.argsort(smooth)[-6:]:
            found.append((float(smooth[best]), float(scale), float(low + (best + 1.5) * bin_s)))
    return sorted(found, reverse=True)


def _curve(target: FloatArray, take: FloatArray, pairs: list[tuple[int, int]], bend: bool) -> FloatArray:
    """Least-squares take times for all targets from the pairs: a line, or with a bend."""
    x = target[[i for i, _ in pairs]]
    y = take[[j for _, j in pairs]]
    middle, width = x.mean(), max(float(np.ptp(x)), 1e-9)
    degree = 2 if bend and len(pairs) >= 8 else 1
    u = (x - middle) / width
    coefficients = np.polyfit(u, y, degree)
    # A hit far off its place must not tilt the line: once more without the farthest.
    apart = np.abs(np.polyval(coefficients, u) - y)
    near = apart <= max(0.03, 3 * float(np.median(apart)))
    if 4 <= near.sum() < len(x):
        coefficients = np.polyfit(u[near], y[near], degree)
    return np.asarray(np.polyval(coefficients, (target - middle) / width))


class _Fit(Struct, frozen=True):
    """`moved`: how many of the pairs are of what came early or late, and may as well not belong together."""

    pairs: list[tuple[int, int]]
    expected: FloatArray
    cost: float
    moved: int = 0

    @property
    def rank(self) -> tuple[float, float]:
        return (self.moved / 2 - len(self.pairs), self.cost)


def _mutual(reference: FloatArray, take: FloatArray, reach: FloatArray) -> list[tuple[int, int]]:
    """Targets and hits that are each other's nearest, within reach: nearly what `match_hits` gives, and at once."""
    hits = _nearest(reference, take)
    back = _nearest(take, reference)[hits]
    # Of targets that fall together, the first stands for all of them.
    same = reference[back] == reference
    kept = np.flatnonzero((np.abs(take[hits] - reference) <= reach + 1e-9) & same)
    kept = kept[np.append(True, np.diff(hits[kept]) > 0)] if len(kept) else kept
    return list(zip(kept.tolist(), hits[kept].tolist(), strict=True))


def _grow(
    target: FloatArray, take: FloatArray, expected: FloatArray, least: int = 2, turns: Sequence[_Turn] = _TURNS
) -> _Fit | None:
    """Pairs from rough expected times, refined until curve and pairs agree; None if they stay under `least`."""
    scale = (expected[-1] - expected[0]) / max(1e-9, target[-1] - target[0])
    gaps = _gaps(target) * scale
    pairs: list[tuple[int, int]] = []
    for turn, (reach, bend) in enumerate(turns):
        give_way()
        reaches = np.minimum(reach, 0.62 * gaps)
        if turn < len(turns) - 1:
            pairs = _mutual(target_order(expected), take, reaches)
        else:
            pairs = match_hits(target_order(expected), take, tolerance_s=reaches)
        # Those that are each other's nearest are some fewer.
        if len(pairs) < (max(2, least * 7 // 8) if turn else 2):
            return None
        expected = _curve(target, take, pairs, bend)
        if (np.diff(expected) < 0).any():
            return None
    away = np.abs(expected[[i for i, _ in pairs]] - take[[j for _, j in pairs]])
    return _Fit(pairs, expected, float(np.median(away)))


def target_order(expected: FloatArray) -> FloatArray:
    """Expected times made ascending, should rounding have swapped two that fall together."""
    return np.maximum.accumulate(expected)


def align(
    targets: npt.ArrayLike, onsets: npt.ArrayLike, *, tempo_known: bool = False, task: Task = UNWATCHED
) -> Alignment | None:
    """Lay a take over its target.

    Parameters
    ----------
    targets : array_like, shape (m,)
        Target times in seconds, finite, ascending.
    onsets : array_like, shape (n,)
        Onset times of the take, likewise.
    tempo_known : bool
        The take was made to Firn's own click: the tempo is within 3 %.

    Returns
    -------
    Alignment or None
        None where fewer than two sounds can be laid over each other.

    Raises
    ------
    ValueError
        An input is not 1-D, finite and ascending.
    """
    target, take = _times("targets", targets), _times("onsets", onsets)
    if len(target) < 2 or len(take) < 2:
        return None
    steps = np.arange(0.97, 1.031, 0.005) if tempo_known else np.geomspace(SLOWEST, FASTEST, 99)
    fits = _fits(target, take, steps, task)
    if not fits:
        return None
    best = min(fits, key=lambda f: f.rank)
    return _laid(best, target, take, _others(best, fits, target, len(take)))


def along(
    targets: npt.ArrayLike, onsets: npt.ArrayLike, scale: float, offset_s: float, *, closely: bool = False
) -> Alignment | None:
    """The alignment along a line, such as the user has chosen among those that fit; None if it fits nothing.

    `closely`: the line is known nearly.
    """
    target, take = _times("targets", targets), _times("onsets", onsets)
    if len(target) < 2 or len(take) < 2:
        return None
    fit = _grow(target, take, offset_s + scale * target, turns=_FEW_TURNS if closely else _TURNS)
    return None if fit is None else _laid(fit, target, take, [])


def near(targets: npt.ArrayLike, onsets: npt.ArrayLike, expected_s: npt.ArrayLike) -> Alignment | None:
    """The alignment near expected times, shape (m,), with others that begin some sounds earlier or later and fit as
    well; None where fewer than two sounds can be laid over each other."""
    target, take = _times("targets", targets), _times("onsets", onsets)
    rough = np.asarray(expected_s, dtype=np.float64)
    if len(target) < 2 or len(take) < 2:
        return None
    fit = _grow(target, take, target_order(rough))
    if fit is None:
        return None
    # Where so much is laid, where it begins is long decided.
    shifted = _shifted(target, take, fit) if len(target) <= MOST_SHIFTED else []
    fits = [_rejoined(one, take) for one in (fit, *shifted)]
    best = min(fits, key=lambda f: f.rank)
    return _laid(best, target, take, _others(best, fits, target, len(take)))


MOVED_S = 0.16
"""A sound that is not heard, and one too many so near it, are one that came early or late."""

_BESIDE = 8


def _rejoined(fit: _Fit, take: FloatArray) -> _Fit:
    """Targets that are missing paired with the sounds beside them that are too many: nearest first, none across a
    sound that has its pair."""
    heard = dict(fit.pairs)
    taken = set(heard.values())
    found = []
    for i, at in enumerate(fit.expected.tolist()):
        give_way()
        if i not in heard:
            first, last = np.searchsorted(take, (at - MOVED_S, at + MOVED_S)).tolist()
            found += [(abs(float(take[j]) - at), i, j) for j in range(first, last) if j not in taken]
    if not found:
        return fit
    for _, i, j in sorted(found):
        if i in heard or j in taken:
            continue
        before = max((heard[k] for k in range(max(0, i - _BESIDE), i) if k in heard), default=-1)
        after = min((heard[k] for k in range(i + 1, i + 1 + _BESIDE) if k in heard), default=len(take))
        if before < j < after:
            heard[i] = j
            taken.add(j)
    return _Fit(sorted(heard.items()), fit.expected, fit.cost, len(heard) - len(fit.pairs))


def _laid(fit: _Fit, target: FloatArray, take: FloatArray, others: list[tuple[float, float]]) -> Alignment:
    x = target[[i for i, _ in fit.pairs]]
    y = take[[j for _, j in fit.pairs]]
    scale, offset = (float(c) for c in np.polyfit(x, y, 1))
    residual = y - (offset + scale * x)
    spread = float(np.sqrt(np.sum(residual**2) / (len(x) - 2))) if len(x) > 2 else 0.0
    paired, heard = {i for i, _ in fit.pairs}, {j for _, j in fit.pairs}
    return Alignment(
        scale=scale,
        offset_s=offset,
        expected_s=fit.expected,
        pairs=fit.pairs,
        missing=[i for i in range(len(target)) if i not in paired],
        extra=[j for j in range(len(take)) if j not in heard],
        spread_s=spread,
        others=others,
    )


def _fits(target: FloatArray, take: FloatArray, scales: FloatArray, task: Task) -> list[_Fit]:
    # For the coarse search a long target is thinned, never cut: its length fixes the tempo.
    some = target if len(target) <= 160 else target[np.linspace(0, len(target) - 1, 160).round().astype(int)]
    rough = _votes(some, take, scales, 0.03)
    fits: list[_Fit] = []
    tried: list[tuple[float, float]] = []
    most = 0
    middle = float(target.mean())
    for _, scale, offset in rough:
        centre = offset + scale * middle
        if any(abs(centre - c) < 0.035 and abs(scale - s) * np.ptp(target) < 0.12 for s, c in tried):
            continue
        task.step(len(tried) / _MOST_TRIED)
        tried.append((scale, centre))
        fit = _grow(target, take, offset + scale * target, max(2, most * 3 // 4))
        if fit is not None:
            fits.append(fit)
            most = max(most, len(fit.pairs))
        if len(tried) >= _MOST_TRIED:
            break
    return [*fits, *_shifted(target, take, min(fits, key=lambda f: f.rank))] if fits else []


def _shifted(target: FloatArray, take: FloatArray, best: _Fit) -> list[_Fit]:
    """The best fit begun some sounds earlier or later: in an even pattern these fit as well, bend and all."""
    later = {float(round(t - target[0], 4)) for t in target[1 : SHIFTS + 1]}
    found = []
    for shift in sorted(later | {-t for t in later}):
        at = target + shift
        moved = np.interp(at, target, best.expected)
        slope = (best.expected[-1] - best.expected[0]) / max(1e-9, target[-1] - target[0])
        moved = np.where(at > target[-1], best.expected[-1] + slope * (at - target[-1]), moved)
        moved = np.where(at < target[0], best.expected[0] + slope * (at - target[0]), moved)
        fit = _grow(target, take, moved, max(2, len(best.pairs) - 3))
        if fit is not None:
            found.append(fit)
    return found


def _others(best: _Fit, fits: list[_Fit], target: FloatArray, onsets: int) -> list[tuple[float, float]]:
    """Lines that pair as many sounds (one fewer at most), elsewhere in the take or at another tempo."""
    found: list[tuple[float, float]] = []
    kept = [best]
    # Where every sound has its partner there is no doubt; else one pair fewer may as well be the truth.
    complete = len(best.pairs) == len(target) == onsets
    allowed = len(best.pairs) - (0 if complete else 1)
    for fit in sorted(fits, key=lambda f: f.rank):
        apart = all(float(np.median(np.abs(fit.expected - k.expected))) > 0.06 for k in kept)
        if len(fit.pairs) >= allowed and apart:
            kept.append(fit)
            scale, offset = np.polyfit(target, fit.expected, 1)
            found.append((float(scale), float(offset)))
    return found[:3]
