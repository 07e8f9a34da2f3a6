"""The beats of a recording: where one would nod along, with a tempo that drifts.

What begins in each band is summed (spectral flux, logarithmic); beats are the chain of moments that has most
of it for its time, each about as far from the one before as that from the one before it (dynamic programming after
Ellis 2007, with the tempo as part of the state).
"""

import numpy as np
import numpy.typing as npt
from msgspec import Struct

from firn.core.ear.activation import HOP_S, levels
from firn.core.meter.line import FloatArray
from firn.core.task import UNWATCHED, Task

FRAMES = 5
"""Hops of the ear that make a frame here."""

FRAME_S = FRAMES * HOP_S

SLOWEST, FASTEST = 55.0, 210.0
TEMPO_STEP = 0.025
LIKELIEST, SPREAD = 128.0, 0.5
"""Counts a minute that beats are taken for where several fit, and by how many octaves they may lie from it."""

PRIOR = 0.3
"""How much that weighs against what is heard."""

OTHER = 0.6
"""What a change of tempo by one step from beat to beat costs."""

ELSEWHERE, PLAINLY = 0.25, 10.0
"""Another tempo is so many octaves off; what is better by a tenth than there is sure."""


class Beats(Struct, frozen=True):
    """Beats in seconds, ascending; `bpm` in the middle of them; `sure`: how much better they are than any at another
    tempo, 0 to 1: half or twice as fast may be meant as well."""

    times_s: FloatArray
    bpm: float
    sure: float


BEGINS = (1.6, 2.0)
"""How much begins on beats in the mean: of noise hardly more than the first (10 of 10), of feet more
than the second as a rule (7 of 8; music and a backing 10 of 10), of talk between."""

SOUNDS = 1e-3
"""Where what begins differs by no more from frame to frame nothing does."""

NONE = Beats(np.zeros(0), 0.0, 0.0)


def begins(sound: npt.ArrayLike, rate_hz: int) -> FloatArray:
    """How much begins in each frame of 10 ms, of mean 0 and spread 1 over some seconds around it."""
    from scipy.ndimage import gaussian_filter1d, uniform_filter1d

    bands = levels(np.ascontiguousarray(sound, dtype=np.float32), rate_hz)
    many = len(bands) // FRAMES
    frames = bands[: many * FRAMES].reshape(many, FRAMES, -1).mean(axis=1)
    rise = np.maximum(0, np.diff(frames, axis=0, prepend=frames[:1])).sum(axis=1)
    smooth = gaussian_filter1d(rise.astype(np.float64), 1.5)
    around = round(4 / (FRAME_S))
    mean = uniform_filter1d(smooth, around)
    spread = np.sqrt(np.maximum(1e-9, uniform_filter1d((smooth - mean) ** 2, around)))
    return np.asarray((smooth - mean) / spread, dtype=np.float64)


def beats_of(strength: FloatArray, task: Task = UNWATCHED) -> Beats:
    """The beats along what begins in each frame of 10 ms; none for less than two seconds, and none of silence."""
    hop = FRAME_S
    if len(strength) < 2 / hop or not np.ptp(strength) > SOUNDS:
        return NONE
    bpm = np.exp(np.arange(np.log(SLOWEST), np.log(FASTEST), TEMPO_STEP))
    periods = np.round(60 / bpm / hop).astype(int)
    away = np.log2(bpm / LIKELIEST) / SPREAD
    share = periods / periods.mean()
    prior = PRIOR * away**2 * share
    longest = int(periods.max())
    many, tempos = len(strength), len(bpm)
    score = np.zeros((many, tempos))
    came = np.zeros((many, tempos), dtype=np.int8)
    # By blocks of the shortest period: within one no beat follows another.
    block = int(periods.min())
    for first in range(0, many, block):
        task.step(first / many)
        at = np.arange(first, min(first + block, many))
        before = at[:, None] - periods[None, :]
        known = before >= 0
        earlier = score[np.maximum(before, 0), np.arange(tempos)[None, :]]
        best = np.where(known, earlier, 0.0)
        way = np.zeros(best.shape, dtype=np.int8)
        for step in (-1, 1):
            # A beat that came at a neighbouring tempo, by whose own period it is away from this.
            shifted = np.full(best.shape, -np.inf)
            inner = slice(1, None) if step < 0 else slice(None, -1)
            other = slice(None, -1) if step < 0 else slice(1, None)
            shifted[:, inner] = score[np.maximum(before[:, inner], 0), np.arange(tempos)[None, other]] - OTHER
            shifted[~known] = -np.inf
            better = shifted > best
            best, way = np.where(better, shifted, best), np.where(better, step, way).astype(np.int8)
        score[at] = best + strength[at][:, None] * share[None, :] - prior[None, :]
        came[at] = np.where(known, way, 0)
    return _chain(strength, score, came, periods, bpm, longest)


def _chain(
    strength: FloatArray,
    score: FloatArray,
    came: npt.NDArray[np.int8],
    periods: npt.NDArray[np.int_],
    bpm: FloatArray,
    longest: int,
) -> Beats:
    """Back along the best chain from its end."""
    last = score[-longest:]
    frame, tempo = np.unravel_index(int(last.argmax()), last.shape)
    at, k = len(score) - len(last) + int(frame), int(tempo)
    frames, tempos = [], []
    while at >= 0:
        frames.append(at)
        tempos.append(bpm[k])
        step = int(came[at, k])
        at -= int(periods[k])
        k += step
    frames.reverse()
    times = np.array([_between(strength, f) for f in frames]) * FRAME_S
    ends = last.max(axis=0)
    other = float(ends[np.abs(np.log2(bpm / bpm[int(tempo)])) > ELSEWHERE].max())
    sure = float(np.clip(PLAINLY * (1 - other / max(1e-9, float(ends.max()))), 0, 1))
    # Even noise has a tempo that is better than others: of that little begins on its beats.
    sure *= float(np.interp(np.mean(strength[frames]), BEGINS, (0.0, 1.0)))
    return Beats(times + FRAME_S / 2, float(np.median(tempos)), sure)


def _between(strength: FloatArray, frame: int) -> float:
    """A frame's peak, between frames by a parabola."""
    if not 0 < frame < len(strength) - 1:
        return float(frame)
    before, at, after = strength[frame - 1 : frame + 2]
    bend = before - 2 * at + after
    return frame + (float(np.clip((before - after) / (2 * bend), -0.5, 0.5)) if bend < -1e-9 else 0.0)
