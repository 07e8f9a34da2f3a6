"""A recording without its low end, some of it at a time: a filter keeps Python to itself meanwhile."""

from collections.abc import Iterator

import numpy as np
import numpy.typing as npt

from firn.core.task import give_way

PIECE = 100_000
"""Samples that are filtered at a time."""


def high_passed(
    samples: npt.NDArray[np.floating], rate_hz: int, above_hz: float
) -> Iterator[npt.NDArray[np.float64]]:
    """Samples, shape (n,), without what lies below a frequency, as if they had gone on before as they begin; in
    pieces of up to PIECE, shape (m,)."""
    from scipy.signal import butter, sosfilt, sosfilt_zi

    sos = butter(2, above_hz, "high", fs=rate_hz, output="sos")
    state = sosfilt_zi(sos) * (samples[0] if len(samples) else 0)
    for first in range(0, len(samples), PIECE):
        give_way()
        piece, state = sosfilt(sos, samples[first : first + PIECE], zi=state)
        yield piece
