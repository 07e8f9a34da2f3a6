"""Where in a recording something begins to sound: the activation of a small network over bands of frequency.

A dilated convolutional network (after Schlüter & Böck 2014, and van den Oord et al. 2016 for the dilation) sees
about a quarter of a second to either side of each frame. It was trained on recorded drums and made-up strikes,
brushes and slides in made-up rooms, and on speech, hum and noise that are nobody's feet: tools/ear/ makes it anew.
"""

from collections.abc import Iterator
from functools import lru_cache
from pathlib import Path
from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from firn.core.ear.filtered import high_passed
from firn.core.task import give_way

Floats = npt.NDArray[np.float32]

HOP_S = 0.002
"""From frame to frame."""

WINDOW_S = 0.010
LOWEST_HZ, HIGHEST_HZ = 120.0, 16_000.0
REACH = 130
"""Frames to either side that the network sees, and one more."""

SWAY_HZ = 20.0
"""Below this nothing is heard that a foot does: a direct current, wind, and the pressure that a room holds after each
strike. Left in, it would reach the lowest bands, whose frames are shorter than one of its swings."""

BLOCK = 2048
"""Frames that are worked on at a time: they stay in the processor's cache."""

LEAST_QUIET = 3e-8
"""What counts as quiet at the least, re the loud moments: files may hold digital silence."""

WEIGHTS = Path(__file__).with_name("activation.npz")


class Heard(NamedTuple):
    """What the network sees of a recording, says and knows, a row each 2 ms from the first sample on.

    `seen`, shape (frames, 2 x bands): see `features`; `usual`, shape (2 x bands,): what that is most of the time;
    `logits`, shape (frames,): how surely a sound begins there, 0 for even chances; `inner`, shape (frames, channels):
    its last layer.
    """

    seen: Floats
    usual: Floats
    logits: Floats
    inner: Floats


def activation(sound: Floats, rate_hz: int) -> Heard:
    """How surely a sound begins at each frame.

    Parameters
    ----------
    sound : array, shape (n,)
        Samples, -1 to 1; at least a hop.
    rate_hz : int
        Sample rate, 4 kHz or more.
    """
    weights = _weights()
    seen = features(sound, rate_hz)
    # Around a recording it is as it is most of the time: it may begin on a sound, but its edges are none.
    usual = _usual(seen, 50)
    around = np.tile(usual, (REACH, 1))
    padded = np.concatenate([around, seen, around])
    inner = np.concatenate(
        [
            _inner(padded[first : first + BLOCK + 2 * REACH], weights)[REACH:-REACH]
            for first in range(0, len(seen), BLOCK)
        ]
    )
    return Heard(seen, usual, _conv(inner, weights["wo"], weights["bo"])[:, 0], inner)


def _inner(seen: Floats, weights: dict[str, Floats]) -> Floats:
    h = _conv(seen, weights["w0"], weights["b0"])
    np.maximum(h, 0, out=h)
    for number in range(1, (len(weights) - 2) // 2):
        give_way()
        more = _conv(h, weights[f"w{number}"], weights[f"b{number}"], 2 ** (number - 1))
        h += np.maximum(more, 0, out=more)
    return h


def features(sound: Floats, rate_hz: int) -> Floats:
    """Levels of each band in each frame, shape (frames, 2 x bands): re the take's loud moments, and re its quiet."""
    power = _power(sound, rate_hz)
    whole = power.sum(axis=1)
    # A minute may hold a single sound: then the 99th percentile is the room.
    loud = max(float(np.percentile(whole, 99)), float(whole.max()) / 100, 1e-12)
    quiet = np.maximum(_usual(power, 20) * 2, loud * LEAST_QUIET)
    levels = [(np.log10(power / loud + 1e-6) + 3) / 2, np.log10(1 + power / quiet) / 2]
    return np.concatenate(levels, axis=1, dtype=np.float32)


def _usual(rows: Floats, percent: float) -> Floats:
    """A percentile of each column, shape (columns,)."""
    found = np.empty(rows.shape[1], dtype=np.float32)
    for number, column in enumerate(np.ascontiguousarray(rows.T)):
        give_way()
        found[number] = np.percentile(column, percent)
    return found


def levels(sound: Floats, rate_hz: int) -> Floats:
    """Levels of each band in each frame of 2 ms, log 10, from 60 dB under the take's loud moments on."""
    power = _power(sound, rate_hz)
    loud = max(float(np.percentile(power.sum(axis=1), 99)), 1e-12)
    return np.asarray(np.log10(power / loud + 1e-6), dtype=np.float32)


@lru_cache(maxsize=1)
def _weights() -> dict[str, Floats]:
    with np.load(WEIGHTS) as kept:
        return {name: np.asarray(kept[name], dtype=np.float32) for name in kept.files}


def _conv(x: Floats, weights: Floats, bias: Floats, dilation: int = 1) -> Floats:
    """Convolution over time that keeps its length; x (frames, in), weights (taps, in, out), bias (out,)."""
    reach = dilation * (len(weights) - 1) // 2
    padded = np.zeros((len(x) + 2 * reach, x.shape[1]), dtype=np.float32)
    padded[reach : reach + len(x)] = x
    out: Floats = padded[: len(x)] @ weights[0]
    for tap in range(1, len(weights)):
        out += padded[tap * dilation : tap * dilation + len(x)] @ weights[tap]
    out += bias
    return out


def _bands(bins: int, rate: int, size: int) -> Floats:
    """Overlapping triangular bands, a third of an octave wide, none narrower than a bin; shape (bins, bands).

    Bands above what the rate can hold are empty, so that a take has as many at any rate.
    """
    hz = np.arange(bins) * rate / size
    edges = [LOWEST_HZ]
    while edges[-1] < HIGHEST_HZ:
        edges.append(edges[-1] * 2 ** (1 / 3))
    bands = []
    for low, middle, high in zip(edges, edges[1:], edges[2:], strict=False):
        low, high = min(low, middle - rate / size), max(high, middle + rate / size)
        band = np.clip(np.minimum((hz - low) / (middle - low), (high - hz) / (high - middle)), 0, None)
        bands.append(band if high <= 0.49 * rate else np.zeros(bins))
    return np.array(bands, dtype=np.float32).T


def _swayless(sound: Floats, rate: int, length: int) -> Floats:
    """A sound without what lies under all that is heard, mirrored at its ends over half a length and a length: a room
    that is cut off would sound like a click."""
    before, many = length // 2, len(sound)
    # Of a long take there is one copy at a time.
    padded = np.empty(before + many + length, dtype=np.float32)
    done = before
    for piece in high_passed(sound, rate, SWAY_HZ):
        padded[done : done + len(piece)] = piece
        done += len(piece)
    if many <= length:
        return np.pad(padded[before:done], (before, length), mode="reflect")
    padded[:before] = padded[2 * before : before : -1]
    padded[done:] = padded[done - 2 : done - 2 - length : -1]
    return padded


def _frames(sound: Floats, rate: int, length: int) -> Iterator[Floats]:
    """So much of a sound at each hop, shape (up to BLOCK, length)."""
    hop = HOP_S * rate
    padded = _swayless(sound, rate, length)
    views = np.lib.stride_tricks.sliding_window_view(padded, length)
    many = int(len(sound) / hop) + 1
    starts = np.minimum((np.arange(many) * hop).round().astype(int), len(views) - 1)
    for first in range(0, many, BLOCK):
        yield views[starts[first : first + BLOCK]]


def _power(sound: Floats, rate: int) -> Floats:
    """Power in each band at each hop, shape (frames, bands)."""
    from scipy import fft  # float32 throughout, and twice as fast as NumPy's

    length = round(WINDOW_S * rate)
    size = 1 << (length - 1).bit_length()
    window = np.hanning(length).astype(np.float32)
    bands = _bands(size // 2 + 1, rate, size)
    rows = []
    for frames in _frames(sound, rate, length):
        give_way()
        spectrum = fft.rfft(frames * window, size, axis=1)
        rows.append((spectrum.real**2 + spectrum.imag**2) @ bands)
    return np.concatenate(rows) * np.float32(4 / length**2)
