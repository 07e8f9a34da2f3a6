"""A recording played slower at its own pitch, its attacks as sharp as they were.

The first 30 ms behind each attack stay as they are; what follows is stretched by overlapping grains, each laid where
it goes on best from the one before (WSOLA: Verhelst and Roelands, An overlap-add technique based on waveform
similarity, ICASSP 1993). No grain holds the next attack, so that nothing is heard before it.
"""

from collections.abc import Sequence

import numpy as np
import numpy.typing as npt

FloatArray = npt.NDArray[np.float32]

SHARP_S = 0.03
LEAD_S = 0.002
"""An attack begins a little before it is found."""

GRAIN_S, SEARCH_S, LEAST_GRAIN_S = 0.04, 0.008, 0.008
THINNED = 4
"""Grains are compared on every fourth sample."""

SLOWEST, FASTEST = 0.1, 1.0


def slowed(sound: npt.ArrayLike, rate: int, speed: float, attacks_s: Sequence[float]) -> FloatArray:
    """Samples, shape (n,) or (n, channels), at `speed` (0.1 to 1) of their pace: shape (about n / speed, …).

    `attacks_s`: where sounds begin, in seconds. The second `t` of the sound is heard at second `t / speed`. Raises
    ValueError for a speed that is none.
    """
    if not SLOWEST <= speed <= FASTEST:
        raise ValueError(f"{speed:g} is no speed between {SLOWEST:g} and {FASTEST:g}")
    source = np.asarray(sound, np.float32)
    if speed == FASTEST or not len(source):
        return source
    out = np.zeros((round(len(source) / speed), *source.shape[1:]), np.float32)
    lead = round(LEAD_S * rate)
    begins = sorted({0, *(max(0, round(t * rate) - lead) for t in attacks_s if t * rate < len(source))})
    mono = source if source.ndim == 1 else source.mean(axis=1)
    # The attack itself is put to its time, not what leads up to it.
    laid = [0, *(round((begin + lead) / speed) - lead for begin in begins[1:]), len(out)]
    for n, (begin, end) in enumerate(zip(begins, [*begins[1:], len(source)], strict=True)):
        _one(source, mono, out, begin, end, laid[n], laid[n + 1], rate)
    return out


def _one(
    source: FloatArray, mono: FloatArray, out: FloatArray, begin: int, end: int, first: int, last: int, rate: int
) -> None:
    """Stretch one sound with what rings behind it, source[begin:end], over out[first:last]."""
    sharp = min(round(SHARP_S * rate), end - begin)
    out[first : first + sharp] += source[begin : begin + sharp]
    grain = min(round(GRAIN_S * rate), end - begin - sharp) // 2 * 2
    if grain < LEAST_GRAIN_S * rate:
        # Too little to make anything of: it falls silent softly.
        fade = min(grain, sharp)
        if fade:
            ramp = np.linspace(1, 0, fade, dtype=np.float32)
            out[first + sharp - fade : first + sharp] *= ramp if source.ndim == 1 else ramp[:, None]
        return
    hop = grain // 2
    window = np.hanning(grain + 1)[:-1].astype(np.float32)
    rising = window[:hop] if source.ndim == 1 else window[:hop, None]
    window = window if source.ndim == 1 else window[:, None]
    begin_rest = begin + sharp - hop
    span_in, span_out = max(0, end - grain - begin_rest), max(1, last - first - sharp)
    reach = round(SEARCH_S * rate)
    # The sharp beginning falls while the first grain rises.
    out[first + sharp - hop : first + sharp] *= 1 - rising
    at, laid = begin_rest, first + sharp - hop
    while laid < last:
        size = min(grain, last + hop - laid, len(out) - laid)
        piece = source[at : at + size] * window[:size]
        out[laid : laid + size] += piece
        laid += hop
        wanted = begin_rest + round(span_in * min(1.0, (laid - (first + sharp - hop)) / span_out))
        at = _best(mono, at + hop, wanted, hop, reach, begin, end - grain)
    # What rings on over the next attack's beginning is cut off softly.
    tail = out[last : last + hop]
    tail[:] = 0


def _best(mono: FloatArray, goes_on: int, wanted: int, hop: int, reach: int, least: int, most: int) -> int:
    """Where near `wanted` a grain goes on best from what would have come, source[goes_on:goes_on + hop]."""
    low, high = max(least, wanted - reach), min(most, wanted + reach)
    if high <= low:
        return max(least, min(most, wanted))
    comes = mono[goes_on : goes_on + hop : THINNED]
    near = mono[low : high + hop : THINNED]
    if len(comes) < 2 or len(near) <= len(comes):
        return wanted if low <= wanted <= high else low
    return low + THINNED * int(np.argmax(np.correlate(near, comes, "valid")))
