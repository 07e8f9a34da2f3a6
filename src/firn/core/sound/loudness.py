"""Loudness as it is heard (ITU-R BS.1770), so that a take and the model are played alike."""

import numpy as np

from firn.core.sound.voices import FloatArray

LEAST_S = 0.4
"""The measure's block: anything shorter is too short to have a loudness."""

MOST_GAIN_DB = 24.0
CEILING = 0.97


def loudness_lufs(sound: FloatArray, rate: int) -> float | None:
    """Integrated loudness of samples, shape (n,) or (n, channels), at `rate` Hz, in LUFS.

    None where there is less than 0.4 s, or nothing above the measure's gate of -70 LUFS. ITU-R BS.1770-4, by
    pyloudnorm, whose default filter reads about 0.04 LU low.
    """
    if len(sound) < LEAST_S * rate:
        return None
    # Imported when first needed: it brings scipy.signal.
    import pyloudnorm

    found = float(pyloudnorm.Meter(rate).integrated_loudness(np.asarray(sound, dtype=np.float64)))
    return found if np.isfinite(found) else None


def as_loud_as(sound: FloatArray, rate: int, wanted_lufs: float | None) -> FloatArray:
    """The same samples at another loudness, as far as that neither clips nor raises them by more than 24 dB."""
    now = loudness_lufs(sound, rate)
    peak = float(np.abs(sound).max()) if len(sound) else 0.0
    if now is None or wanted_lufs is None or peak <= 0:
        return sound
    gain = 10 ** (min(MOST_GAIN_DB, wanted_lufs - now) / 20)
    return (sound * np.float32(min(gain, max(CEILING / peak, 1e-6)))).astype(np.float32)
