"""Sounds as a pack holds them: half as many samples, and as MP3."""

import io
from collections.abc import Iterator

import numpy as np

PACK_RATE = 24_000
"""Samples a second of strikes, words and plain sounds in a pack."""

_TAPS = np.arange(-32, 33)
_HALF_BAND = np.sinc(_TAPS / 2) * np.kaiser(len(_TAPS), 8.0) / 2
"""A low-pass at half the band: Kaiser's window, 80 dB down."""


def thinned(sound: np.ndarray) -> np.ndarray:
    """A sound at twice `PACK_RATE`, shape (n,), at `PACK_RATE`.

    By hand, since SciPy's signal library takes longer to import than a pack to make.
    """
    low = np.convolve(np.asarray(sound, np.float64), _HALF_BAND)
    return np.asarray(low[len(_TAPS) // 2 : len(_TAPS) // 2 + len(sound)][::2])


def mp3_of(blocks: Iterator[np.ndarray]) -> bytes:
    """Blocks at twice `PACK_RATE`, shape (n, channels), as MP3 of one channel at `PACK_RATE`."""
    import soundfile

    mono = np.concatenate([block.mean(axis=1) for block in blocks])
    out = io.BytesIO()
    thin = np.clip(thinned(mono), -1, 1)
    soundfile.write(out, thin, PACK_RATE, format="MP3", subtype="MPEG_LAYER_III", compression_level=0.6)
    return out.getvalue()
