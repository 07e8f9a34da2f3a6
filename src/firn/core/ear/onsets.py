"""Onsets: when each sound of a recording begins.

A small network says near which frames something begins to sound (see activation.py); the waveform's own envelope
then says when, to a fraction of a millisecond; a second one weighs each beside the others (see weighing.py).
"""

from collections.abc import Callable, Iterable
from typing import NamedTuple

import numpy as np
import numpy.typing as npt
from msgspec import Struct
from msgspec.structs import replace

from firn.core.ear.activation import HOP_S, Heard, activation
from firn.core.ear.filtered import high_passed
from firn.core.ear.weighing import PLAIN, weighed
from firn.core.task import UNWATCHED, Task, give_way

FloatArray = npt.NDArray[np.float64]

SILENCE_DB = -66.0
"""Peaks below this re full scale are not sounds."""

LEAST_STEPS = 2.5
"""Peaks under so many of the recording's own least steps are not sounds: 8 bits end in a lone bit's flicker."""

LIKELY = -3.5
"""Logit from which on a peak of the activation is weighed."""

SURENESS = 1.4
"""How sure it is that something begins, as a logit, to one of the activation: fitted on takes not learnt from."""

SURE = -0.25
"""Logit from which on what was weighed is a sound."""

FAINT = -4.0
"""Logit from which on what is no sound by itself may be one where a step is due."""

LIKELY_FAINT = 0.03
"""So sure it is, at the least, that what is no sound by itself is one, where one is due."""

APART_S = 0.024
"""Of two peaks nearer than this the surer one counts; of two sounds placed nearer than half of it, the first."""

ATTACK = 0.10
"""A sound begins where its envelope first reaches this share of its peak."""

PEAK_BEFORE_S, PEAK_AFTER_S = 0.005, 0.012
"""Where its peak is sought, around the network's frame."""

GROUND_S, OVER_GROUND = 0.006, 1.25
"""How loud it was before is told from so much of the envelope, and what begins must stand out by so much."""

GAP_S = 0.008
"""So long a quiet ends the way back from the peak: what is before it is not this sound."""

QUIET_BACK_S, RINGING_BACK_S = 0.030, 0.014
"""How far back a sound is followed out of quiet, and where the sound before still rings."""

FAR_S = 0.0032
"""How far from the network's time a sound may turn out to begin; where they differ by more, the network is right."""


AROUND_S = 0.035
"""How loud it is about a time is told from so much to either side."""

LOW_END_HZ = 250
"""Below this lie hum and the floor's own swinging; recordings have 4,000 samples a second at least."""


class Loudness(Struct, frozen=True):
    """How loud a recording is without its low end: times in seconds, ascending, and its peaks about each in dB re
    full scale; shapes (n,)."""

    times_s: FloatArray
    levels_db: FloatArray

    def later(self, by_s: float) -> "Loudness":
        """The same so many seconds later."""
        return Loudness(self.times_s + by_s, self.levels_db)

    def between(self, start_s: float, end_s: float) -> "Loudness":
        """That from one time up to another."""
        kept = (self.times_s >= start_s) & (self.times_s < end_s)
        return Loudness(self.times_s[kept], self.levels_db[kept])

    def about(self, at_s: float) -> float:
        """The peak within AROUND_S of a time, in dB; SILENCE_DB where nothing is."""
        first, last = np.searchsorted(self.times_s, (at_s - AROUND_S, at_s + AROUND_S))
        return max(SILENCE_DB, float(self.levels_db[first:last].max(initial=SILENCE_DB)))


class Onsets(Struct, frozen=True):
    """Onset times in seconds, ascending, the loudness of each in dB re full scale, and how sure it is that something
    begins there, 0 to 1; shapes (n,). Without `sure` all are. `faint`: what is less likely one than not, and may be
    one where a step is due. `loud`: how loud all of the recording is, None where they are of none."""

    times_s: FloatArray
    levels_db: FloatArray
    sure: FloatArray | None = None
    faint: "Onsets | None" = None
    loud: Loudness | None = None

    def __len__(self) -> int:
        return len(self.times_s)

    @property
    def surely(self) -> FloatArray:
        """How sure each is."""
        return np.ones(len(self)) if self.sure is None else self.sure

    @property
    def likely_faint(self) -> FloatArray:
        """When something begins that is likely enough to be a sound where one is due; in seconds, ascending."""
        return np.zeros(0) if self.faint is None else self.faint.times_s[self.faint.surely >= LIKELY_FAINT]

    def only(self, kept: npt.NDArray[np.bool_]) -> "Onsets":
        """Those of a mask, shape (n,)."""
        return Onsets(self.times_s[kept], self.levels_db[kept], self.surely[kept], self.faint, self.loud)

    def later(self, by_s: float) -> "Onsets":
        """The same so many seconds later."""
        faint = self.faint.later(by_s) if self.faint is not None else None
        loud = self.loud.later(by_s) if self.loud is not None else None
        return Onsets(self.times_s + by_s, self.levels_db, self.sure, faint, loud)

    def but_faint(self, gone: Callable[["Onsets"], npt.NDArray[np.bool_]]) -> "Onsets":
        """The same without those of the faint ones of which a function gives a mask, shape (n,)."""
        return self if self.faint is None else replace(self, faint=self.faint.only(~gone(self.faint)))

    def between(self, start_s: float, end_s: float) -> "Onsets":
        """Those from one time up to another, faint ones too."""
        kept = self.only((self.times_s >= start_s) & (self.times_s < end_s))
        faint = self.faint.between(start_s, end_s) if self.faint is not None else None
        loud = self.loud.between(start_s, end_s) if self.loud is not None else None
        return replace(kept, faint=faint, loud=loud)


NONE = Onsets(np.zeros(0), np.zeros(0))


def find_onsets(audio: npt.ArrayLike, rate_hz: int, *, task: Task = UNWATCHED) -> Onsets:
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
        found = _find(piece, rate_hz).later(first / rate_hz)
        parts.append(found.between(start / rate_hz, (start + block) / rate_hz))
    return joined(parts)


def joined(parts: Iterable[Onsets]) -> Onsets:
    """Onsets of neighbouring stretches as one."""
    every = list(parts)
    kept = [p for p in every if len(p)] or [NONE]
    faint = [p.faint for p in every if p.faint is not None]
    loud = [p.loud for p in every if p.loud is not None]
    return Onsets(
        np.concatenate([p.times_s for p in kept]),
        np.concatenate([p.levels_db for p in kept]),
        np.concatenate([p.surely for p in kept]),
        joined(faint) if faint else None,
        Loudness(np.concatenate([p.times_s for p in loud]), np.concatenate([p.levels_db for p in loud]))
        if loud
        else None,
    )


class Places(NamedTuple):
    """Where something may begin to sound: what the network heard, and of each place, in order, its frame, when what
    begins there does, in seconds, and how loud it is, in dB re full scale; shapes (n,). `loud`: how loud all is."""

    heard: Heard
    frames: npt.NDArray[np.int_]
    times_s: FloatArray
    levels_db: FloatArray
    loud: Loudness


def places_in(sound: npt.NDArray[np.float32], rate: int) -> Places:
    """All places of a recording of 20 ms or more at which something may begin to sound."""
    loudest = float(np.abs(sound).max())
    # Of a few values only, as clicks have, no step is the least.
    least = max(10 ** (SILENCE_DB / 20), min(LEAST_STEPS * _least_step(sound), ATTACK * loudest))
    loud = envelope(sound, rate)
    heard = activation(sound, rate)
    frames: list[int] = []
    times: list[float] = []
    levels: list[float] = []
    for frame, near in zip(*_peaks(heard.logits), strict=True):
        give_way()
        placed = _attack(loud, rate, float(near), least)
        if placed is not None and (not times or placed[0] - times[-1] >= APART_S / 2):
            frames.append(int(frame))
            times.append(placed[0])
            levels.append(placed[1])
    placed_at = np.array(times, dtype=float), np.array(levels, dtype=float)
    return Places(heard, np.array(frames, dtype=int), *placed_at, _loudness(loud, rate))


def _find(sound: npt.NDArray[np.float32], rate: int) -> Onsets:
    if len(sound) < rate // 50 or float(np.abs(sound).max()) < 10 ** (SILENCE_DB / 20):
        return NONE
    found = places_in(sound, rate)
    logits = weighed(found.heard, found.frames, found.times_s, found.levels_db)
    every = Onsets(found.times_s, found.levels_db, 1 / (1 + np.exp(-logits)))
    faint = every.only((logits <= SURE) & (logits > FAINT))
    return replace(every.only(logits > SURE), faint=faint, loud=found.loud)


def every_onset(sound: npt.ArrayLike, rate_hz: int) -> Onsets:
    """All that begins to sound in a recording of some seconds, feet or not, by the first network alone."""
    samples = np.ascontiguousarray(sound, dtype=np.float32)
    if len(samples) < rate_hz // 50 or float(np.abs(samples).max()) < 10 ** (SILENCE_DB / 20):
        return NONE
    found = places_in(samples, rate_hz)
    logits = found.heard.logits[found.frames].astype(np.float64)
    return Onsets(found.times_s, found.levels_db, 1 / (1 + np.exp(-SURENESS * logits))).only(logits > PLAIN)


def _peaks(logits: npt.NDArray[np.float32]) -> tuple[npt.NDArray[np.int_], FloatArray]:
    """The activation's peaks: their frames, and their times in seconds, between frames by a parabola."""
    from scipy.ndimage import maximum_filter1d

    highest = logits >= maximum_filter1d(logits, 2 * round(APART_S / HOP_S) + 1)
    peaks = np.flatnonzero(highest & (logits > LIKELY))
    inner = np.clip(peaks, 1, len(logits) - 2)
    before, at, after = logits[inner - 1], logits[inner], logits[inner + 1]
    bend = before - 2 * at + after
    away = np.where(bend < 0, (before - after) / (2 * np.minimum(bend, -1e-9)), 0)
    return peaks, np.asarray((peaks + np.clip(away, -0.5, 0.5) * (peaks == inner)) * HOP_S, dtype=np.float64)


def envelope(sound: npt.ArrayLike, rate: int) -> FloatArray:
    """A waveform, shape (n,), without its low end, rectified."""
    samples = np.asarray(sound)
    loud = np.empty(len(samples))
    done = 0
    for piece in high_passed(samples, rate, LOW_END_HZ):
        np.abs(piece, out=loud[done : done + len(piece)])
        done += len(piece)
    return loud


def _loudness(loud: FloatArray, rate: int) -> Loudness:
    """The peaks of an envelope, a hundredth of a second each."""
    starts = np.arange(0, len(loud), max(1, round(rate / 100)))
    peaks = np.maximum.reduceat(loud, starts)
    return Loudness((starts + 0.5 * rate / 100) / rate, 20 * np.log10(np.maximum(peaks, 10 ** (SILENCE_DB / 20))))


def _least_step(sound: npt.NDArray[np.float32]) -> float:
    """The least step between two values of a recording, told from some of it; a 16th bit's is far under silence."""
    values = np.unique(sound[:: max(1, len(sound) // 20_000)])
    return float(np.diff(values).min()) if len(values) > 1 else 0.0


def _attack(envelope: FloatArray, rate: int, near_s: float, least: float) -> tuple[float, float] | None:
    """When the sound near a time begins, in seconds, and its level in dB; None where its peak is under `least`."""
    near = round(near_s * rate)
    first = max(0, near - round(QUIET_BACK_S * rate))
    piece = envelope[first : near + round(PEAK_AFTER_S * rate)]
    sought = max(0, near - first - round(PEAK_BEFORE_S * rate))
    if len(piece) <= sought:
        return None
    peak_at = sought + int(np.argmax(piece[sought:]))
    peak = piece[peak_at]
    if peak < least:
        return None
    level = float(20 * np.log10(peak))
    threshold = ATTACK * peak
    if OVER_GROUND * _ground(piece, rate) > threshold:
        skipped = max(0, near - first - round(RINGING_BACK_S * rate))
        first, piece, peak_at = first + skipped, piece[skipped:], peak_at - skipped
        threshold = min(max(threshold, OVER_GROUND * _ground(piece, rate)), 0.7 * peak)
    over = np.flatnonzero(piece[: peak_at + 1] >= threshold)
    # From the peak back to the first quiet gap: a lone crest of the room's noise before it is not the sound.
    quiet = np.flatnonzero(np.diff(over) > GAP_S * rate)
    at = (first + int(over[quiet[-1] + 1] if len(quiet) else over[0])) / rate
    return (at if abs(at - near_s) < FAR_S else near_s), level


def _ground(piece: FloatArray, rate: int) -> float:
    return float(piece[: max(4, round(GROUND_S * rate))].max())
