"""Finding a part's passes in a take: each anywhere, at a tempo of its own near the others'.

So pauses, a new beginning, a count-in and talk between the passes take nothing from a take that is right. For each
tempo all sounds vote for the starts of passes; what is missing from a pass and what is added to it counts against it;
of all passes those are kept that together come to most, and laid over their sounds exactly.
"""

from bisect import bisect_left
from collections.abc import Sequence
from functools import cached_property
from itertools import pairwise
from statistics import median
from typing import NamedTuple

import numpy as np
import numpy.typing as npt
from msgspec import Struct
from msgspec.structs import replace

from firn.core.ear.align import along
from firn.core.ear.targets import Target
from firn.core.task import give_way

FloatArray = npt.NDArray[np.float64]

_BIN_S = 0.01
_STEP = 1.018
_NEAR = np.array([0.25, 0.6, 0.85, 1.0, 1.0, 1.0, 0.85, 0.6, 0.25])
"""What a sound is worth that many bins from where it should be."""
_FAINT, _FAINT_S = 0.5, 0.025
"""What one is worth that is faint, where it is looked for, and how near its time it stands for what is not heard."""
_MISS = 0.6
"""What a sound costs that is missing from a pass, or added to it."""
_BEGUN = 1.0
"""What it costs to begin anew, instead of going on where the pass before ended."""
_BROKEN = 3.5
"""What it costs that a pass is broken off."""
_BENT = 20.0
"""What it costs that a pass has another tempo than the one before it, by the share it differs."""
JOIN_S = 0.12
"""A pass that begins so near the end of another goes on from it."""
LEAST_BROKEN = 4
"""Fewer sounds of a pass that breaks off are no pass."""
LEAD_S = 0.06
_SAME_S = 0.012
_HOPELESS = 0.55
_LEAST_GAIN = 0.18
_LED, LEAST_LED, MOST_LED = 0.5, 2, 16
"""What each sound of a count-in is worth as evidence for where the first pass begins, and how many there may be."""
_COUNTED = 0.85
"""A pass of which more is found than that share of what is found of the others is no count-in."""
EXACT_S, FAR_S = 0.045, 0.1
"""A sound so near its time is worth one, one so far from it nothing."""


class Candidate(Struct, frozen=True, dict=True):
    """A part as it should sound: when each of its moments is heard, in seconds from the first, and when it is danced
    again; `beat_s`: how long a count is. `first_s`: the first moment from the part's first whole count, less than 0
    where it leads up to it."""

    name: str
    times_s: tuple[float, ...]
    length_s: float
    beat_s: float
    first_s: float = 0.0

    def sounds_like(self, other: "Candidate") -> bool:
        """Whether it is heard at the same times, from whichever of its sounds on."""
        if len(self.times_s) != len(other.times_s) or abs(self.length_s - other.length_s) > _SAME_S:
            return False
        mine, theirs = (np.diff([*c.times_s, c.times_s[0] + c.length_s]) for c in (self, other))
        return any(np.abs(np.roll(mine, n) - theirs).max() < _SAME_S for n in range(len(mine)))

    def same_as(self, other: "Candidate") -> bool:
        """Whether it is heard at the same times from its first count on."""
        if len(self.times_s) != len(other.times_s) or abs(self.length_s - other.length_s) > _SAME_S:
            return False
        apart = np.array(self.times_s) + self.first_s - np.array(other.times_s) - other.first_s
        return bool(np.abs(apart).max() < _SAME_S)

    @cached_property
    def plain(self) -> bool:
        """Whether all of it lies whole counts from its first sound: what comes before it may be as much of it."""
        counts = np.array(self.times_s) / self.beat_s
        return bool((np.abs(counts - counts.round()) < 0.02).all())

    @cached_property
    def even(self) -> bool:
        """Whether all of it is as long after each other, once and over again: a count-in sounds no different."""
        gaps = np.diff([*self.times_s, self.times_s[0] + self.length_s])
        return bool(np.ptp(gaps) < 0.02 * self.beat_s)


def candidate(
    name: str, targets: Sequence[Target], length_s: float, beat_s: float, first_s: float = 0.0
) -> Candidate:
    """A part by one pass of its targets, one or more; without a hold the first of them may lie before 0."""
    base = targets[0].seconds
    return Candidate(name, tuple(t.seconds - base for t in targets), length_s, beat_s, first_s + base)


class PassFound(Struct, frozen=True):
    """One time through a part, from its first sound on: `scale` times as slow as it should be. `begin_s`: its first
    whole count; `end_s`: the count after its last.

    `many` of its sounds were looked for, fewer than all where it breaks off; `worth` so many of them are found, and
    `heard` sounds lie within it. `of`: of which part, where there are several.
    """

    start_s: float
    end_s: float
    scale: float
    many: int
    worth: float
    heard: int
    begin_s: float
    of: int = 0


class Passes(Struct, frozen=True):
    """The passes of a part that are found in a take, ascending, and how well they explain it, 0 to 1; `led_by`: how
    many sounds before them are a count-in."""

    of: Candidate
    found: tuple[PassFound, ...]
    share: float
    led_by: int = 0

    @property
    def runs(self) -> int:
        """How many times it is begun: passes that go on from each other are one."""
        return len(runs_in(self.found, len(self.of.times_s)))


def runs_in(found: Sequence[PassFound], many: int) -> list[list[PassFound]]:
    """Passes of a part that follow on each other without a break; `many` sounds are a whole pass."""
    runs = [[found[0]]] if found else []
    for before, one in pairwise(found):
        if before.many == many and abs(one.begin_s - before.end_s) <= JOIN_S:
            runs[-1].append(one)
        else:
            runs.append([one])
    return runs


class Heard(NamedTuple):
    """A take in bins: how near each lies to a sound, and how many sounds came before it; `faint`: when something
    begins that is less likely a sound than not."""

    times: FloatArray
    near: FloatArray
    before: FloatArray
    faint: FloatArray

    def until(self, end_s: float) -> "Heard":
        """What of it begins before a time."""
        return heard_in(self.times[self.times < end_s], self.faint[self.faint < end_s])


def heard_in(onsets_s: npt.ArrayLike, faint_s: npt.ArrayLike = ()) -> Heard:
    """A take as it is looked through; onsets in seconds, ascending, from 0 on, one or more, and what is faint."""
    times, faint = (np.asarray(one, dtype=np.float64) for one in (onsets_s, faint_s))
    bins = int(times[-1] / _BIN_S) + 3
    at = np.minimum((times / _BIN_S).round().astype(np.intp), bins - 1)
    near = np.zeros(bins)
    for some, most in ((at, 1.0), (np.minimum((faint / _BIN_S).round().astype(np.intp), bins - 1), _FAINT)):
        for offset, worth in enumerate(_NEAR, start=-(len(_NEAR) // 2)):
            place = np.clip(some + offset, 0, bins - 1)
            near[place] = np.maximum(near[place], most * worth)
    counts = np.bincount(at, minlength=bins).astype(np.float64)
    return Heard(times, near, np.concatenate([[0.0], np.cumsum(counts)]), faint)


def passes_in(heard: Heard, one: Candidate, slowest: float, fastest: float) -> Passes:
    """The passes of a part in a take, danced from `slowest` to `fastest` times as fast as it should be."""
    rough = _chosen(heard, (one,), _rows(heard, (one,), 1 / fastest, 1 / slowest))
    if len(rough) > 1 and _is_count_in(heard.times, one, rough):
        rough = rough[1:]
    if not rough:
        return Passes(one, (), 0.0)
    found = _laid(heard, one, rough)
    # What explains so little will not come to much.
    return found if found.share < _HOPELESS else _laid(heard, one, [_exact(heard, one, p) for p in rough])


def _laid(heard: Heard, one: Candidate, found: Sequence[PassFound]) -> Passes:
    """Passes with the share of the take and of themselves that they explain."""
    return Passes(one, tuple(found), share_of(heard, one, found), _led_by(heard.times, one, found[0]))


def share_of(heard: Heard, first: Candidate, found: Sequence[PassFound]) -> float:
    """The share of a take and of its passes that these explain; `first`: the part of the first of them."""
    worth = sum(p.worth for p in found)
    looked = sum(p.many for p in found)
    within = sum(p.heard for p in found)
    outside = max(0, len(heard.times) - within - _led_by(heard.times, first, found[0]))
    return 2 * worth / (looked + within + 0.5 * outside)


def routine_in(heard: Heard, of: Sequence[Candidate], slowest: float, fastest: float) -> list[PassFound]:
    """Passes of several parts, one after another in whatever order explains most, each laid over its sounds."""
    rough = _chosen(heard, of, _rows(heard, of, 1 / fastest, 1 / slowest))
    return [_exact(heard, of[p.of], p) for p in rough]


class _Tried(NamedTuple):
    """For each bin the best that a pass begun there comes to: its gain, its scale, its worth, the sounds within."""

    gain: FloatArray
    scale: FloatArray
    worth: FloatArray
    heard: FloatArray


def _tried(heard: Heard, one: Candidate, low: float, high: float) -> dict[int, _Tried]:
    """What passes come to, for all of a part and for what it begins with, by how many sounds that is."""
    times = np.array(one.times_s)
    many = len(times)
    sizes = sorted({many, *(size for size in (many // 2, 2 * many // 3) if size >= LEAST_BROKEN)})
    bins = len(heard.near)
    lead = round(LEAD_S / _BIN_S)
    starts = np.arange(bins)
    before = heard.before[np.maximum(starts - lead, 0)]
    best: dict[int, _Tried] = {}
    for scale in np.geomspace(low, high, max(2, round(np.log(high / low) / np.log(_STEP)))):
        give_way()
        votes = np.zeros(bins)
        for index, step in enumerate((times * scale / _BIN_S).round().astype(np.intp).tolist()):
            if step < bins:
                votes[: bins - step] += heard.near[step:]
            size = index + 1
            if size not in sizes:
                continue
            until = starts + round(_ends(one, size) * scale / _BIN_S) - lead
            within = heard.before[np.clip(until, 0, bins)] - before
            gain = votes - _MISS * (size - votes) - _MISS * np.maximum(0, within - votes)
            if size not in best:
                best[size] = _Tried(gain, np.full(bins, scale), votes.copy(), within)
                continue
            known = best[size]
            better = np.flatnonzero(gain > known.gain)
            known.gain[better], known.scale[better] = gain[better], scale
            known.worth[better], known.heard[better] = votes[better], within[better]
    return best


def _ends(one: Candidate, size: int) -> float:
    """When a pass of so many sounds is over, in its own seconds."""
    return one.times_s[size] if size < len(one.times_s) else one.length_s


def _peaks(gain: FloatArray, least: float) -> list[int]:
    """Where a gain is the greatest nearby."""
    reach = round(0.03 / _BIN_S)
    padded = np.pad(gain, reach, constant_values=-np.inf)
    greatest = np.lib.stride_tricks.sliding_window_view(padded, 2 * reach + 1).max(axis=1)
    return [int(at) for at in np.flatnonzero((gain >= greatest) & (gain > least))]


_Row = tuple[PassFound, float]
"""A pass and its gain."""


def _rows(heard: Heard, of: Sequence[Candidate], low: float, high: float) -> list[_Row]:
    """All passes of some parts that gain something, by where they end."""
    rows: list[_Row] = []
    for number, one in enumerate(of):
        for size, tried in _tried(heard, one, low, high).items():
            broken = _BROKEN if size < len(one.times_s) else 0.0
            for at in _peaks(tried.gain, _LEAST_GAIN * size):
                give_way()
                scale, start = float(tried.scale[at]), at * _BIN_S
                worth, within = float(tried.worth[at]), int(tried.heard[at])
                begin = start - one.first_s * scale
                # What breaks off ends where its next sound would be.
                ends = (begin if size == len(one.times_s) else start) + _ends(one, size) * scale
                found = PassFound(start, ends, scale, size, worth, within, begin, number)
                rows.append((found, float(tried.gain[at]) - broken))
    return sorted(rows, key=lambda row: row[0].end_s)


def _chosen(heard: Heard, of: Sequence[Candidate], rows: Sequence[_Row]) -> list[PassFound]:
    """The passes, none over another, that together gain most; a first one that is counted in gains by that."""
    ends = [row[0].end_s for row in rows]
    totals: list[float] = []
    came: list[int] = []
    # The most that the first so many rows come to, and the row with which it ends.
    most, last = [0.0], [-1]
    for index, (found, gain) in enumerate(rows):
        give_way()
        until = bisect_left(ends, found.begin_s + JOIN_S, hi=index)
        total, before = most[until] - _BEGUN, last[until]
        counted_in = _LED * _led_alone(heard, of[found.of], found) - _BEGUN
        if counted_in > total:
            total, before = counted_in, -1
        for other in range(bisect_left(ends, found.begin_s - JOIN_S, hi=index), until):
            bent = _BENT * abs(float(np.log(found.scale / rows[other][0].scale)))
            if totals[other] - bent > total:
                total, before = totals[other] - bent, other
        totals.append(total + gain)
        came.append(before)
        better = totals[index] > most[-1]
        most.append(totals[index] if better else most[-1])
        last.append(index if better else last[-1])
    chosen: list[PassFound] = []
    at = last[-1]
    while at >= 0:
        chosen.append(rows[at][0])
        at = came[at]
    return chosen[::-1]


def _exact(heard: Heard, one: Candidate, rough: PassFound) -> PassFound:
    """A pass laid over its sounds exactly: what it is worth by how near they are."""
    times = heard.times
    until = rough.start_s + _ends(one, rough.many) * rough.scale
    near = times[(times >= rough.start_s - 0.1) & (times <= until + 0.1)]
    within = int(((times >= rough.start_s - LEAD_S) & (times < until - LEAD_S)).sum())
    laid = along(one.times_s[: rough.many], near, rough.scale, rough.start_s, closely=True)
    if laid is None:
        return replace(rough, heard=within)
    away = np.array([abs(laid.expected_s[i] - near[j]) for i, j in laid.pairs])
    worth = float(np.clip((FAR_S - away) / (FAR_S - EXACT_S), 0, 1).sum())
    faint = _faintly(heard, laid.expected_s[laid.missing])
    return replace(rough, scale=laid.scale, worth=worth + faint, heard=max(within, round(worth)) + round(faint))


def _faintly(heard: Heard, missing_s: FloatArray) -> float:
    """How many of the sounds that are missing from a pass something faint stands for, beyond what chance would put
    there."""
    if not len(heard.faint) or not len(missing_s):
        return 0.0
    first, last = np.searchsorted(heard.faint, (missing_s[0] - 1.0, missing_s[-1] + 1.0))
    many = last - first
    chance = 1 - np.exp(-2 * _FAINT_S * many / (missing_s[-1] - missing_s[0] + 2.0))
    near = np.abs(missing_s[:, None] - heard.faint[None, first:last]).min(axis=1, initial=np.inf) <= _FAINT_S
    return float(max(0.0, near.sum() - chance * len(missing_s)) / (1 - chance))


def _led_alone(heard: Heard, one: Candidate, first: PassFound) -> int:
    """How many sounds before a pass are its count-in; 0 where there are others."""
    before = 0 if one.plain else int(np.searchsorted(heard.times, first.start_s - LEAD_S))
    if not 0 < before <= MOST_LED:
        return 0
    led = _led_by(heard.times, one, first)
    return led if led == before else 0


def _is_count_in(times: FloatArray, one: Candidate, found: Sequence[PassFound]) -> bool:
    """Whether what was taken for the first pass is a long count-in: counts alone, where the passes after it have more
    than these."""
    first = found[0]
    usual = median(p.worth / p.many for p in found[1:]) * first.many
    until = first.start_s + _ends(one, first.many) * first.scale
    inside = times[(times >= first.start_s - LEAD_S) & (times < until - LEAD_S)]
    if one.even or first.worth > _COUNTED * usual or len(inside) < LEAST_LED:
        return False
    away = np.diff(inside) / (one.beat_s * first.scale)
    return bool((np.abs(away - 1) < 0.15).all())


def _led_by(times: FloatArray, one: Candidate, first: PassFound) -> int:
    """How many sounds before the first pass are its count-in: all one count apart, or all two, up to the pass."""
    at, many, apart = first.start_s, 0, 0
    beat_s = one.beat_s * first.scale
    if one.even:
        return 0
    for sound in times[times < first.start_s - LEAD_S][::-1].tolist():
        away = (at - sound) / beat_s
        counts = round(away)
        if abs(away - counts) > 0.2 or counts not in (1, 2) or (many > 1 and counts != apart) or many == MOST_LED:
            break
        at, many, apart = sound, many + 1, counts
    return many if many >= LEAST_LED else 0
