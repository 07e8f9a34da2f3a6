"""What a backing is played on: plucked strings and a shaker, made from sines and noise.

All are mono float32 at `RATE` with their attack on the first samples, the same at every call.
"""

from functools import lru_cache

import numpy as np

from firn.core.sound.voices import RATE, FloatArray
from firn.core.timeline.backing import Instrument

CONCERT_A, CONCERT_HZ = 69, 440.0
"""Key of MIDI and frequency of the note that all others are told from (ISO 16)."""

PARTIALS = 8
STRUM_S = 0.007
"""How much later each string of a chord is plucked."""

_LASTS_S: dict[Instrument, tuple[float, float]] = {"bass": (0.6, 0.28), "chord": (0.35, 0.13)}
"""How long a string sounds, and in what time it falls to a third, in seconds."""
_LEVEL_DB: dict[Instrument, float] = {"bass": -17.0, "chord": -23.0, "shaker": -34.0}
"""Softer than the feet: they are what is listened to."""


@lru_cache(maxsize=64)
def played(instrument: Instrument, keys: tuple[int, ...] = ()) -> FloatArray:
    """An instrument's sound at its level, shape (n,), float32: strings by keys of MIDI, one after another."""
    sound = _shaken() if instrument == "shaker" else _plucked(instrument, keys)
    sound = sound / np.abs(sound).max()
    tail = len(sound) // 4
    sound[-tail:] *= np.linspace(1, 0, tail)
    made: FloatArray = (sound * 10 ** (_LEVEL_DB[instrument] / 20)).astype(np.float32)
    made.setflags(write=False)
    return made


def _plucked(instrument: Instrument, keys: tuple[int, ...]) -> np.ndarray:
    """Strings whose higher partials are softer and die away sooner."""
    length_s, tau_s = _LASTS_S[instrument]
    t = np.arange(round(length_s * RATE)) / RATE
    late = round(STRUM_S * RATE)
    out = np.zeros(len(t) + late * (len(keys) - 1))
    for number, key in enumerate(keys):
        hz = CONCERT_HZ * 2 ** ((key - CONCERT_A) / 12)
        string = sum(
            np.sin(2 * np.pi * hz * n * t) / n**1.3 * np.exp(-t * n**0.6 / tau_s)
            for n in range(1, PARTIALS + 1)
            if hz * n < RATE / 2
        )
        out[number * late : number * late + len(t)] += string * np.minimum(1, t / 0.002)
    return out


def _shaken() -> np.ndarray:
    """Noise of high frequencies that swells and is gone."""
    t = np.arange(round(0.07 * RATE)) / RATE
    noise = np.random.Generator(np.random.PCG64(61)).standard_normal(len(t))
    high = np.diff(noise, prepend=0.0)
    return np.asarray(high * np.minimum(1, t / 0.004) * np.exp(-t / 0.014))
