"""Onsets: when each sound of a recording begins.

Two steps. Rises of energy in bands of frequency, frame by frame, say where a sound begins (spectral flux on
compressed bands, with the loudest of the last frames as reference, after Böck & Widmer 2013); the waveform's
own envelope then says when, to a fraction of a millisecond.
"""

from collections.abc import Iterable, Iterator

import numpy as np
import numpy.typing as npt
from msgspec import Struct

from firn.core.task import UNWATCHED, Task

FloatArray = npt.NDArray[np.float64]

SILENCE_DB = -66.0
"""Peaks below this re full scale are not sounds."""


class Finder(Struct, frozen=True):
    """How onsets are found; the defaults were tuned on recorded hits in rooms, see benchmarks/.

    Times in seconds. `rise` is how far above the neighbourhood a frame's flux must stand, `floor` what it must
    reach at all; `attack` the share of the peak at which a sound begins; `below_db` how far under the loud ones
    (their `loud`-th percentile) a sound is none. A peak within `edge_s` of where the search begins is the end of the
    sound before.
    """

    hop_s: float = 0.002
    window_s: float = 0.010
    back_s: float = 0.013
    rise: float = 1.9
    floor: float = 0.5
    neighbourhood_s: float = 0.12
    apart_s: float = 0.024
    attack: float = 0.10
    before_s: float = 0.024
    after_s: float = 0.010
    gap_s: float = 0.004
    below_db: float = 26.0
    loud: float = 90.0
    edge_s: float = 0.004


FINDER = Finder()


class Onsets(Struct, frozen=True):
    """Onset times in seconds, ascending, and the loudness of each in dB re full scale; shapes (n,)."""

    times_s: FloatArray
    levels_db: FloatArray

    def __len__(self) -> int:
        return len(self.times_s)


NONE = Onsets(np.zeros(0), np.zeros(0))


def find_onsets(audio: npt.ArrayLike, rate_hz: int, *, finder: Finder = FINDER, task: Task = UNWATCHED) -> Onsets:
    """Onsets of a mono recording.

    Parameters
    ----------
    audio : array_like, shape (n,)
        Samples, -1 to 1; may be empty.
    rate_hz : int
        Sample rate, 4 kHz or more.

    Returns
    -------
    Onsets
        Empty for silence.

    Raises
    ------
    ValueError
        `audio` is not 1-D or not finite, or `rate_hz` is under 4,000.
    """
    sound = np.ascontiguousarray(audio, dtype=np.float32)
    if sound.ndim != 1:
        raise ValueError(f"audio must be 1-D, not {sound.ndim}-D")
    if rate_hz < 4_000:
        raise ValueError(f"rate must be 4000 Hz or more, not {rate_hz}")
    block = 60 * rate_hz
    overlap = rate_hz // 2
    parts: list[Onsets] = []
    for start in range(0, max(1, len(sound)), block):
        task.step(start / max(1, len(sound)))
        first, last = max(0, start - overlap), min(len(sound), start + block + overlap)
        piece = sound[first:last]
        if not np.isfinite(piece).all():
            raise ValueError("audio must be finite")
        found = _find(piece, rate_hz, finder)
        times = found.times_s + first / rate_hz
        keep = (times >= start / rate_hz) & (times < (start + block) / rate_hz)
        parts.append(Onsets(times[keep], found.levels_db[keep]))
    return joined(parts)


def joined(parts: Iterable[Onsets]) -> Onsets:
    """Onsets of neighbouring stretches as one."""
    kept = [p for p in parts if len(p)] or [NONE]
    return Onsets(np.concatenate([p.times_s for p in kept]), np.concatenate([p.levels_db for p in kept]))


def _find(sound: npt.NDArray[np.float32], rate: int, finder: Finder) -> Onsets:
    if len(sound) < rate // 50 or np.abs(sound).max() < 10 ** (SILENCE_DB / 20):
        return NONE
    flux = _flux(sound, rate, finder)
    peaks = _peaks(flux, finder)
    times: list[float] = []
    levels: list[float] = []
    envelope = _envelope(sound, rate)
    for peak in peaks:
        placed = _attack(envelope, rate, peak * finder.hop_s, finder)
        if placed is not None and (not times or placed[0] - times[-1] >= finder.apart_s / 2):
            times.append(placed[0])
            levels.append(placed[1])
    found = Onsets(np.array(times, dtype=float), np.array(levels, dtype=float))
    if not len(found):
        return found
    # Far under the take's loud sounds is the room, or a click from across it, not a foot.
    near = found.levels_db >= np.percentile(found.levels_db, finder.loud) - finder.below_db
    return Onsets(found.times_s[near], found.levels_db[near])


def _bands(bins: int, rate: int, size: int) -> npt.NDArray[np.float32]:
    """Overlapping triangular bands, about a third of an octave wide from 120 Hz up; shape (bands, bins)."""
    hz = np.arange(bins) * rate / size
    top = min(16_000, rate / 2 * 0.95)
    edges = [120.0]
    while edges[-1] < top:
        edges.append(max(edges[-1] * 2 ** (1 / 3), edges[-1] + rate / size))
    bands = [
        np.clip(np.minimum((hz - low) / (mid - low), (high - hz) / (high - mid)), 0, None)
        for low, mid, high in zip(edges, edges[1:], edges[2:], strict=False)
    ]
    return np.array(bands, dtype=np.float32)


def _frames(sound: npt.NDArray[np.float32], hop: float, size: int, many: int) -> Iterator[npt.NDArray[np.float32]]:
    # Mirrored at its ends: a room that is cut off would sound like a click.
    padded = np.pad(sound, (size // 2, size), mode="reflect")
    views = np.lib.stride_tricks.sliding_window_view(padded, size)
    starts = np.minimum((np.arange(many) * hop).round().astype(int), len(views) - 1)
    for first in range(0, many, 4096):
        yield views[starts[first : first + 4096]]


def _flux(sound: npt.NDArray[np.float32], rate: int, finder: Finder) -> FloatArray:
    """Rise of energy over all bands at each hop."""
    size = 1 << int(np.ceil(np.log2(finder.window_s * rate)))
    hop = finder.hop_s * rate
    many = int(len(sound) / hop) + 1
    window = np.hanning(size).astype(np.float32)
    bands = _bands(size // 2 + 1, rate, size).T
    rows = [
        np.abs(np.fft.rfft(f * window, axis=1)).astype(np.float32) @ bands for f in _frames(sound, hop, size, many)
    ]
    power = np.concatenate(rows) * np.float32(2 / size)
    # Compressed against the recording's own quiet, so that the room's noise makes no flux.
    quiet = np.maximum(np.percentile(power, 20, axis=0) * 2 + 2e-5, power.max() * 0)
    level = np.log10(1 + power / quiet)
    back = max(1, round(finder.back_s / finder.hop_s))
    reference = np.zeros_like(level)
    for lag in range(back // 2, back + 1):
        reference[lag:] = np.maximum(reference[lag:], level[:-lag])
    rise = np.maximum(0, level - reference)
    # A recording may begin on a sound: its first frames are held against its louder moments.
    rise[:back] = np.maximum(0, level[:back] - np.percentile(level, 85, axis=0))
    return np.asarray(rise.mean(axis=1) * 10, dtype=np.float64)


def _peaks(flux: FloatArray, finder: Finder) -> npt.NDArray[np.intp]:
    """Frames that stand out: the highest within `apart_s`, well above their neighbourhood."""
    from scipy.ndimage import maximum_filter1d, percentile_filter, uniform_filter1d

    apart = max(1, round(finder.apart_s / finder.hop_s))
    around = round(finder.neighbourhood_s / finder.hop_s) | 1
    smooth = uniform_filter1d(flux, 3)
    local = percentile_filter(smooth[::2], 60, around // 2 | 1).repeat(2)[: len(smooth)]
    highest = smooth >= maximum_filter1d(smooth, 2 * apart + 1)
    strong = smooth > finder.floor + finder.rise * local
    return np.flatnonzero(highest & strong)


def _envelope(sound: npt.NDArray[np.float32], rate: int) -> FloatArray:
    """The waveform without its low end, rectified."""
    from scipy.signal import butter, sosfilt

    sos = butter(2, min(250, rate / 8), "high", fs=rate, output="sos")
    return np.asarray(np.abs(sosfilt(sos, sound)), dtype=np.float64)


def _attack(envelope: FloatArray, rate: int, near_s: float, finder: Finder) -> tuple[float, float] | None:
    """When the sound near a time begins: its envelope's first step to a share of its peak; level in dB."""
    first = max(0, round((near_s - finder.before_s) * rate))
    last = min(len(envelope), round((near_s + finder.after_s) * rate))
    piece = envelope[first:last]
    if len(piece) < 8:
        return None
    peak_at = int(np.argmax(piece))
    if peak_at < finder.edge_s * rate:
        # The sound before still rings louder: look at what comes after it alone.
        skip = len(piece) // 2
        first, piece = first + skip, piece[skip:]
        peak_at = int(np.argmax(piece))
        if peak_at < finder.edge_s * rate / 2:
            return None
    peak = piece[peak_at]
    if peak < 10 ** (SILENCE_DB / 20):
        return None
    ground = float(piece[: max(4, round(0.006 * rate))].max())
    threshold = min(max(finder.attack * peak, 1.25 * ground), 0.7 * peak)
    over = np.flatnonzero(piece[: peak_at + 1] >= threshold)
    # From the peak back to the first quiet gap: a lone crest of the room's noise before it is not the sound.
    quiet = np.flatnonzero(np.diff(over) > finder.gap_s * rate)
    at = int(over[quiet[-1] + 1]) if len(quiet) else int(over[0])
    return (first + at) / rate, float(20 * np.log10(peak))
