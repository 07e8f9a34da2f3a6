"""Where syllables begin in what is sung or said: a rhythm before it has steps.

A syllable is heard where its vowel begins: where what is voiced rises. What hisses and clicks, as s and t do, lies
above, and is left out.
"""

import numpy as np
import numpy.typing as npt

FloatArray = npt.NDArray[np.float64]

FRAME_S = 0.01
LOW_HZ, HIGH_HZ = 200.0, 1600.0
"""Where vowels are loud, and most consonants are not."""

FLOOR_DB = -34.0
"""What is softer than the loudest by this is as good as silent."""

ACROSS_S = 0.05
"""A vowel rises within this."""

LEAST_DB = 5.0
"""By so much at least."""

APART_S = 0.14
"""Nobody sings syllables closer than this."""

LEADS_S, LEADS_DB = 0.2, 5.0
"""A voiced consonant leads to its vowel within this, and is softer by so much."""

LASTS_S, STAYS_DB = 0.07, -6.0
"""A vowel stays near its height for so long: what is shorter is no vowel."""


def sung(sound: npt.ArrayLike, rate_hz: int) -> FloatArray:
    """The seconds on which syllables begin in mono samples, ascending."""
    samples = np.asarray(sound, np.float64)
    if len(samples) < rate_hz // 4:
        return np.zeros(0)
    level = voiced_level(samples, rate_hz)
    across, near, lasts = (round(s / FRAME_S) for s in (ACROSS_S, APART_S, LASTS_S))
    rise = np.zeros(len(level))
    half = across // 2
    rise[half:-half] = level[2 * half :] - level[: -2 * half]
    found: list[int] = []
    for at in np.argsort(-rise, kind="stable"):
        if rise[at] < LEAST_DB:
            break
        top = level[at : at + across + lasts]
        high = top.max(initial=FLOOR_DB)
        stays = int(np.count_nonzero(top >= high + STAYS_DB))
        if high > FLOOR_DB / 2 and stays >= lasts and all(abs(int(at) - other) >= near for other in found):
            found.append(int(at))
    found.sort()
    ends = [*found, len(level)][1:]
    tops = [float(level[at : min(end, at + across + lasts)].max()) for at, end in zip(found, ends, strict=True)]
    kept = [at for n, at in enumerate(found) if not _leads(found, tops, n)]
    return np.array(kept, dtype=np.float64) * FRAME_S


def _leads(found: list[int], tops: list[float], number: int) -> bool:
    """Whether what begins there only leads to a vowel that is much louder right after it, as the d of dva."""
    if number + 1 == len(found):
        return False
    soon = (found[number + 1] - found[number]) * FRAME_S <= LEADS_S
    return soon and tops[number] <= tops[number + 1] - LEADS_DB


def voiced_level(samples: FloatArray, rate_hz: int) -> FloatArray:
    """How loud vowels are in each frame of 10 ms, in dB of the loudest, smoothed, and never below the floor."""
    from scipy.ndimage import uniform_filter1d
    from scipy.signal import butter, sosfilt

    band = butter(3, [LOW_HZ, min(HIGH_HZ, 0.45 * rate_hz)], "bandpass", fs=rate_hz, output="sos")
    heard = np.asarray(sosfilt(band, samples))
    size = round(FRAME_S * rate_hz)
    power = np.mean(heard[: len(heard) // size * size].reshape(-1, size) ** 2, axis=1)
    smooth = uniform_filter1d(power, 3)
    loudest = float(np.percentile(smooth, 99)) or 1.0
    floor = 10 ** (FLOOR_DB / 10)
    return np.asarray(10 * np.log10(np.maximum(floor, smooth / loudest)))
