"""Onsets in a hall that answers louder than the feet: with most of its answer taken out.

What rings on dies away by as much in each moment: so what is left of what sounded a moment ago is known, and is taken
from the spectrum (Lebart, Boucher & Denbigh 2001). How fast it dies away is told from the recording alone, by the
slopes along which it falls (after Ratnam et al. 2003).
"""

import numpy as np
import numpy.typing as npt
from msgspec import Struct
from msgspec.structs import replace

from firn.core.ear.filtered import high_passed
from firn.core.ear.onsets import Onsets, find_onsets
from firn.core.task import UNWATCHED, Task, give_way

Sound = npt.NDArray[np.floating]

LOW_HZ = 300.0
"""From here on a room's decay is told."""
HOP_S, SMOOTH_S, FALL_S = 0.004, 0.012, 0.08
"""Its loudness is told so often, over so long; and a fall is looked for over so long."""
STEEP_DB_S, STRAIGHT_DB, OVER_QUIET_DB = 20.0, 1.6, 8.0
"""A fall is that much at the least, as straight, and ends so far over the quiet of the recording."""

RINGS_S, OFTEN = 0.5, 0.08
"""A hall rings so long at the least, and is heard to in so large a share of the recording."""

AGO_S, LEFT, HELD_S = 0.03, 0.2, 0.015
"""What sounded so long ago is taken out, down to so much of it; and over how long that is told."""

WINDOW_S = 0.0107
"""How long the spectrum is told from, about."""
BLOCK_S, OVERLAP_S = 20.0, 1.0
"""So much of a recording is worked on at a time, and so much on either side of it."""


class Ring(Struct, frozen=True):
    """How a room rings: until it has died away by 60 dB, in seconds, 0 where it is not told; and in how large a share
    of the recording it is heard to, 0 to 1."""

    rt60_s: float
    share: float

    @property
    def of_a_hall(self) -> bool:
        """Whether it is a hall's, which may cover the feet."""
        return self.rt60_s >= RINGS_S and self.share >= OFTEN


def ring_of(sound: Sound, rate_hz: int) -> Ring:
    """How the room rings in which a mono recording was made, samples of shape (n,) at 4 kHz or more."""
    step = max(1, round(HOP_S * rate_hz))
    rows = []
    left = np.zeros(0)
    for piece in high_passed(sound, rate_hz, LOW_HZ):
        whole = np.concatenate([left, piece])
        many = len(whole) // step
        rows.append(np.square(whole[: many * step]).reshape(many, step).mean(axis=1))
        left = whole[many * step :]
    power = np.concatenate(rows) if rows else np.zeros(0)
    smooth, long = max(1, round(SMOOTH_S / HOP_S)), round(FALL_S / HOP_S)
    if len(power) < 4 * long:
        return Ring(0.0, 0.0)
    loud = 10 * np.log10(np.convolve(power, np.ones(smooth) / smooth, "same") + 1e-14)
    at = np.arange(long) - (long - 1) / 2
    runs = np.lib.stride_tricks.sliding_window_view(loud, long)
    slopes = runs @ at / (at @ at)
    away = np.sqrt(np.mean(np.square(runs - runs.mean(axis=1, keepdims=True) - np.outer(slopes, at)), axis=1))
    falls = -slopes / HOP_S
    plain = (falls > STEEP_DB_S) & (away < STRAIGHT_DB) & (runs[:, -1] > np.percentile(loud, 5) + OVER_QUIET_DB)
    return Ring(float(60 / np.median(falls[plain])), float(plain.mean())) if plain.any() else Ring(0.0, 0.0)


def without_ring(sound: Sound, rate_hz: int, rt60_s: float) -> npt.NDArray[np.float32]:
    """A mono recording without most of what its room gives back late; shape (n,)."""
    out = np.zeros(len(sound), dtype=np.float32)
    block, overlap = round(BLOCK_S * rate_hz), round(OVERLAP_S * rate_hz)
    for start in range(0, len(sound), block):
        give_way()
        first = max(0, start - overlap)
        dry = _dried(sound[first : start + block + overlap], rate_hz, rt60_s)
        piece = dry[start - first : start - first + block]
        out[start : start + len(piece)] = piece
    return out


def _dried(sound: Sound, rate_hz: int, rt60_s: float) -> npt.NDArray[np.float64]:
    """The same of some seconds."""
    from scipy.signal import istft, lfilter, stft

    long = int(2 ** np.round(np.log2(WINDOW_S * rate_hz)))
    hop = long // 4
    if len(sound) < 4 * long:
        return np.asarray(sound, dtype=np.float64)
    _, _, bins = stft(sound, rate_hz, nperseg=long, noverlap=long - hop)
    power = np.abs(bins) ** 2
    keeps = np.exp(-hop / rate_hz / HELD_S)
    told = lfilter([1 - keeps], [1, -keeps], power, axis=1)
    ago = max(1, round(AGO_S * rate_hz / hop))
    late = np.zeros_like(told)
    late[:, ago:] = told[:, :-ago] * 10 ** (-6 * ago * hop / rate_hz / rt60_s)
    gain = np.maximum(1 - np.sqrt(late / np.maximum(power, 1e-20)), LEFT)
    _, dry = istft(bins * gain, rate_hz, nperseg=long, noverlap=long - hop)
    return np.asarray(np.pad(dry, (0, max(0, len(sound) - len(dry))))[: len(sound)])


def onsets_in_hall(sound: Sound, rate_hz: int, heard: Onsets, *, task: Task = UNWATCHED) -> Onsets | None:
    """Onsets of a mono recording without its hall, samples of shape (n,); None where it was made in none.

    `heard`: the onsets of it as it is; how loud all is remains as it was recorded, since what is soft is under the
    hall and not missing.
    """
    ring = ring_of(sound, rate_hz)
    if not ring.of_a_hall:
        return None
    return replace(find_onsets(without_ring(sound, rate_hz, ring.rt60_s), rate_hz, task=task), loud=heard.loud)
