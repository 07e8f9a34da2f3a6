"""Voices of the floor, made from struck plates, wood and noise: one for each way a foot or hand sounds.

All are mono float32 at `RATE` with their attack on the first samples, the same at every call.
"""

from collections.abc import Callable
from functools import lru_cache

import numpy as np
import numpy.typing as npt

FloatArray = npt.NDArray[np.float32]

RATE = 48_000
LEVEL_DB = 5.0
"""A sound leaned on or softened is this much louder or softer."""


def _noise(length: int, seed: int) -> npt.NDArray[np.float64]:
    return np.random.Generator(np.random.PCG64(seed)).standard_normal(length)


def _band(noise: npt.NDArray[np.float64], low_hz: float, high_hz: float) -> npt.NDArray[np.float64]:
    """Noise between two frequencies, by its spectrum, with soft edges."""
    spectrum = np.fft.rfft(noise)
    hz = np.fft.rfftfreq(len(noise), 1 / RATE)
    shape = 1 / (1 + (low_hz / np.maximum(hz, 1)) ** 6) / (1 + (hz / high_hz) ** 6)
    band = np.fft.irfft(spectrum * shape, len(noise))
    return np.asarray(band / np.sqrt(np.mean(band**2)))


def _decay(length: int, tau_s: float) -> npt.NDArray[np.float64]:
    return np.asarray(np.exp(-np.arange(length) / (RATE * tau_s)))


def _plate(length: int, modes: tuple[tuple[float, float, float], ...]) -> npt.NDArray[np.float64]:
    """A struck plate: modes of (Hz, gain, decay in s), each a decaying sine."""
    t = np.arange(length) / RATE
    out = np.zeros(length)
    for number, (hz, gain, tau) in enumerate(modes):
        out += gain * np.sin(2 * np.pi * hz * t + 0.7 * number) * np.exp(-t / tau)
    return out


def _thump(length: int, hz: float, tau_s: float) -> npt.NDArray[np.float64]:
    """Wood under a foot: a low tone that falls a little."""
    t = np.arange(length) / RATE
    phase = 2 * np.pi * hz * (t + 0.012 * (1 - np.exp(-t / 0.012)))
    return np.asarray(np.sin(phase) * np.exp(-t / tau_s))


def _struck(
    modes: tuple[tuple[float, float, float], ...],
    *,
    thump_hz: float,
    thump: float,
    tick: float,
    seed: int,
    length_s: float = 0.18,
) -> npt.NDArray[np.float64]:
    length = round(length_s * RATE)
    tock = _band(_noise(length, seed), 1_500, 9_000) * _decay(length, 0.0022)
    return _plate(length, modes) + thump * _thump(length, thump_hz, 0.045) + tick * tock


def _swish(low_hz: float, high_hz: float, *, seed: int, tau_s: float, tick: float) -> npt.NDArray[np.float64]:
    """A brush: a light tick of the edge, then noise that swells and goes."""
    length = round((5 * tau_s + 0.02) * RATE)
    t = np.arange(length) / RATE
    swell = (0.35 + 0.65 * np.minimum(1, t / 0.008)) * np.exp(-t / tau_s)
    return _band(_noise(length, seed), low_hz, high_hz) * swell + tick * _band(
        _noise(length, seed + 1), 3_000, 9_000
    ) * _decay(length, 0.0015)


def _clap() -> npt.NDArray[np.float64]:
    length = round(0.14 * RATE)
    noise = _band(_noise(length, 91), 900, 3_200)
    shape = _decay(length, 0.018)
    for late_s in (0.006, 0.011):
        shift = round(late_s * RATE)
        shape[shift:] += 0.8 * _decay(length - shift, 0.018)
    return noise * shape


def _wood(hz: float) -> npt.NDArray[np.float64]:
    length = round(0.06 * RATE)
    return _plate(length, ((hz, 1.0, 0.012), (hz * 2.68, 0.35, 0.006)))


_MAKERS: dict[str, Callable[[], npt.NDArray[np.float64]]] = {
    "ball": lambda: _struck(
        ((2_300, 0.9, 0.014), (3_650, 0.7, 0.010), (5_200, 0.5, 0.007)), thump_hz=210, thump=0.5, tick=0.5, seed=11
    ),
    "heel": lambda: _struck(
        ((820, 1.0, 0.022), (1_480, 0.6, 0.015), (2_350, 0.3, 0.010)), thump_hz=118, thump=1.0, tick=0.3, seed=12
    ),
    "tip": lambda: _struck(
        ((4_400, 0.9, 0.006), (6_700, 0.7, 0.005)), thump_hz=320, thump=0.12, tick=0.6, seed=13, length_s=0.08
    ),
    "whole": lambda: _struck(
        ((700, 0.6, 0.024), (1_350, 0.5, 0.016), (2_600, 0.6, 0.012), (4_100, 0.4, 0.008)),
        thump_hz=92, thump=1.4, tick=0.6, seed=14, length_s=0.26,
    ),
    "brush": lambda: _swish(2_200, 7_500, seed=21, tau_s=0.016, tick=1.2),
    "spank": lambda: _swish(1_500, 5_500, seed=31, tau_s=0.014, tick=1.4),
    "scuff": lambda: _swish(700, 3_200, seed=41, tau_s=0.020, tick=1.0),
    "slide": lambda: _swish(900, 4_500, seed=51, tau_s=0.075, tick=0.5),
    "clap": _clap,
    "snap": lambda: _band(_noise(round(0.05 * RATE), 92), 1_800, 6_000) * _decay(round(0.05 * RATE), 0.007),
    "pat": lambda: _band(_noise(round(0.12 * RATE), 93), 250, 1_600) * _decay(round(0.12 * RATE), 0.020),
    "drum": lambda: _struck(
        ((310, 0.8, 0.05), (520, 0.4, 0.03), (790, 0.25, 0.02)), thump_hz=165, thump=1.0, tick=0.4, seed=94
    ),
    "click": lambda: _wood(1_900),
    "beat": lambda: _wood(1_050),
    "strong beat": lambda: _wood(1_500),
    "pulse": lambda: _thump(round(0.16 * RATE), 68, 0.05) * np.minimum(1, np.arange(round(0.16 * RATE)) / 240),
}  # fmt: skip

_LEVELS_DB = {
    "ball": -14.0, "heel": -13.0, "tip": -17.0, "whole": -11.0, "brush": -18.0, "spank": -18.0, "scuff": -17.0,
    "slide": -19.0, "clap": -14.0, "snap": -18.0, "pat": -16.0, "drum": -14.0, "click": -15.0,
    "beat": -20.0, "strong beat": -17.0, "pulse": -15.0,
}  # fmt: skip


def voice_name(kind: str, strikes: str) -> str:
    """The voice of a kind of sound that strikes with a part of the foot."""
    if kind in ("brush", "spank", "scuff", "slide", "clap", "snap", "pat", "drum", "click"):
        return kind
    return {"sole": "slide", "none": "ball"}.get(strikes, strikes)


@lru_cache(maxsize=64)
def voice(name: str, *, weighted: bool = False) -> FloatArray:
    """A voice by name at its usual level; `weighted` adds the body of a foot that carries.

    shape (n,), float32, peak at the voice's level; raises KeyError for an unknown name.
    """
    sound = _MAKERS[name]()
    sound = sound / np.abs(sound).max()
    if weighted:
        body = 0.35 * _thump(len(sound), 130, 0.05)
        sound = sound + body
        sound = sound / np.abs(sound).max()
    tail = min(len(sound) // 4, RATE // 100)
    sound[-tail:] *= np.linspace(1, 0, tail)
    made: FloatArray = (sound * 10 ** (_LEVELS_DB[name] / 20)).astype(np.float32)
    made.setflags(write=False)
    return made
