"""Single strikes, brushes and slides to build takes of: recorded ones, and made-up ones of every colour."""

from functools import lru_cache
from pathlib import Path

import numpy as np
from scipy.signal import butter, resample_poly, sosfilt

from tools.ear.soundfont import hits_of

RATE = 44_100
LONGEST_S, FADE_S = 0.4, 0.1
MANY_IN_ONE = (
    "Swirl", "Guiro", "Bell Tree", "Maracas", "Shaker", "Sleigh", "Vibra", "Quica", "Whistle", "Scratch", "Applause",
    "Triangle", "Orchcrash", "Cabasa", "Metronome Bell",
)  # fmt: skip
"""Samples that hold more than one sound, or one that has no beginning to speak of."""

RECORDED = 0.35
"""So many of all strikes are recorded drums; the more, the more a drum out of a loudspeaker sounds like a foot."""


@lru_cache(maxsize=1)
def recorded(file: Path) -> tuple[np.ndarray, ...]:
    """The hits of a SoundFont, peak 1, at `RATE`."""
    found = []
    for name, (sound, rate) in hits_of(file).items():
        if not any(word in name for word in MANY_IN_ONE):
            sound = sound if rate == RATE else resample_poly(sound, RATE, rate)
            found.append(sound[:RATE] / np.abs(sound).max())
    return tuple(found)


def strike(rng: np.random.Generator, file: Path, *, slides: bool = True) -> tuple[np.ndarray, int]:
    """A sound, peak 1, and the sample at which it begins: its first at a tenth of the peak."""
    longest = LONGEST_S
    if rng.random() < RECORDED:
        sound = _varied(recorded(file)[int(rng.integers(len(recorded(file))))], rng)
    else:
        made = (_modes, _modes, _modes, _modes, _brush, _brush, _burst, _burst, _tone, _loose, _slide)
        one = made[int(rng.integers(len(made) - (not slides)))]
        sound = one(rng)
        longest = 0.8 if one is _slide else LONGEST_S
        if rng.random() < 0.15:
            sound = sosfilt(butter(2, _between(rng, 250, 1_500), fs=RATE, output="sos"), sound)
    sound = sound / np.abs(sound).max()
    begins = int(np.flatnonzero(np.abs(sound) >= 0.1)[0])
    sound = sound[: round(longest * RATE)].copy()
    fade = min(len(sound), round(FADE_S * RATE))
    sound[-fade:] *= np.linspace(1, 0, fade)
    return sound, begins


def _varied(sound: np.ndarray, rng: np.random.Generator) -> np.ndarray:
    """A recorded hit as another drum might sound: higher or lower, damped, dull or thin."""
    sound = np.interp(np.arange(0, len(sound) - 1, rng.uniform(0.7, 1.4)), np.arange(len(sound)), sound)
    if rng.random() < 0.4:
        sound = sound * np.exp(-np.arange(len(sound)) / RATE / rng.uniform(0.02, 0.2))
    if rng.random() < 0.4:
        kind = "high" if rng.random() < 0.6 else "low"
        sound = sosfilt(butter(1, _between(rng, 200, 6_000), kind, fs=RATE, output="sos"), sound)
    return sound


def _between(rng: np.random.Generator, low: float, high: float) -> float:
    """A number that is as often in the lower as in the upper octaves."""
    return float(np.exp(rng.uniform(np.log(low), np.log(high))))


def _modes(rng: np.random.Generator) -> np.ndarray:
    """A board or a plate that is struck: damped partials, and the noise of the strike."""
    at = np.arange(round(rng.uniform(0.05, 0.4) * RATE)) / RATE
    sound = np.zeros(len(at))
    for _ in range(int(rng.integers(2, 14))):
        hz = _between(rng, 80, 9_000)
        decay = np.exp(-at / rng.uniform(0.003, 0.08) * (hz / 600) ** 0.3)
        sound += rng.uniform(0.1, 1) * np.sin(2 * np.pi * hz * at + rng.uniform(0, 2 * np.pi)) * decay
    noise = rng.standard_normal(len(at)) * np.exp(-at / _between(rng, 0.0008, 0.02))
    sound = sound / np.abs(sound).max() + rng.uniform(0.1, 2) * noise / np.abs(noise).max()
    return sound * (1 - np.exp(-at / _between(rng, 1e-4, 4e-3)))


def _loose(rng: np.random.Generator) -> np.ndarray:
    """A plate on loose screws: the strike, and softer ones of its own right behind it."""
    sound = _modes(rng)
    sound = np.pad(sound / np.abs(sound).max(), (0, round(0.06 * RATE)))
    out, at = sound.copy(), 0.0
    for _ in range(int(rng.integers(1, 5))):
        at += rng.uniform(0.002, 0.014)
        first = round(at * RATE)
        out[first:] += sound[: len(out) - first] * rng.uniform(0.05, 0.5)
    return out


def _brush(rng: np.random.Generator) -> np.ndarray:
    """Leather over a floor: noise that swells and dies."""
    at = np.arange(round(rng.uniform(0.03, 0.35) * RATE)) / RATE
    shape = (1 - np.exp(-at / _between(rng, 0.002, 0.035))) * np.exp(-at * rng.uniform(2, 5) / at[-1])
    band = butter(2, (rng.uniform(200, 2_000), rng.uniform(3_000, 12_000)), "bandpass", fs=RATE, output="sos")
    return sosfilt(band, rng.standard_normal(len(at))) * shape


def _slide(rng: np.random.Generator) -> np.ndarray:
    """A sole that scrapes on and on, swelling and sticking: one sound, whatever it does on its way."""
    length = round(rng.uniform(0.15, 0.75) * RATE)
    points = int(rng.integers(4, 24))
    path = np.interp(np.arange(length), np.linspace(0, length, points), rng.uniform(0.15, 1, points) ** 2)
    rise, fall = round(_between(rng, 0.003, 0.08) * RATE), round(rng.uniform(0.02, 0.15) * RATE)
    edge = np.minimum(1, np.arange(length) / rise) * np.minimum(1, np.arange(length)[::-1] / fall)
    noise = rng.standard_normal(length)
    if rng.random() < 0.5:
        # It sticks and slips: grains, not a hiss.
        noise *= rng.random(length) < _between(rng, 0.01, 0.3)
    low = _between(rng, 150, 3_000)
    band = butter(1, (low, min(18_000, low * rng.uniform(1.5, 10))), "bandpass", fs=RATE, output="sos")
    return sosfilt(band, noise) * path * edge


def _tone(rng: np.random.Generator) -> np.ndarray:
    """A click of a machine, or a bell."""
    at = np.arange(round(rng.uniform(0.004, 0.2) * RATE)) / RATE
    return np.sin(2 * np.pi * _between(rng, 400, 6_000) * at) * np.exp(-at / at[-1] * rng.uniform(0, 6))


def _burst(rng: np.random.Generator) -> np.ndarray:
    """A strike without a tone."""
    at = np.arange(round(rng.uniform(0.03, 0.3) * RATE)) / RATE
    noise = rng.standard_normal(len(at)) * np.exp(-at / _between(rng, 0.002, 0.05))
    low = _between(rng, 100, 5_000)
    band = butter(1, (low, min(20_000, low * rng.uniform(1.3, 6))), "bandpass", fs=RATE, output="sos")
    return sosfilt(band, noise)
