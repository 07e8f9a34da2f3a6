"""Takes built from recorded hits at known times: the outside judge of onsets, for tests and benchmarks.

The hits are the CC0 files (drum_*, tabla_*, perc_snap*) of Debian's package sonic-pi-samples. Each file's own
attack, the first sample at a tenth of its peak, is measured and laid on the wanted time. drum_roll holds many
hits and is left out.
"""

from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path

import numpy as np

RATE = 44_100
PLACES = (
    Path(__file__).parents[1] / ".venv/hits/usr/share/sonic-pi/samples",
    Path("/usr/share/sonic-pi/samples"),
)


def hits_folder() -> Path | None:
    """Where the recorded hits are, or None where the package could not be had."""
    return next((p for p in PLACES if p.is_dir()), None)


@dataclass(frozen=True)
class Hit:
    """A recorded hit, peak 1, and the sample of its attack."""

    name: str
    sound: np.ndarray
    attack: int


@lru_cache(maxsize=1)
def hits() -> tuple[Hit, ...]:
    import soundfile

    folder = hits_folder()
    assert folder is not None
    found = []
    for pattern in ("drum_*", "tabla_*", "perc_snap*"):
        for file in sorted(folder.glob(pattern)):
            if file.stem == "drum_roll":
                continue
            sound, rate = soundfile.read(file, dtype="float64", always_2d=True)
            assert rate == RATE
            mono = sound.mean(axis=1)
            mono /= np.abs(mono).max()
            attack = int(np.flatnonzero(np.abs(mono) >= 0.1)[0])
            short = mono[: round(0.4 * RATE)].copy()
            fade = min(len(short), round(0.1 * RATE))
            short[-fade:] *= np.linspace(1, 0, fade)
            found.append(Hit(file.stem, short, attack))
    return tuple(found)


def room(sound: np.ndarray, rt60_s: float, wet_db: float, rng: np.random.Generator) -> np.ndarray:
    """A sound in a room: exponentially decaying noise, the direct sound in front."""
    from scipy.signal import fftconvolve

    length = round(rt60_s * RATE)
    tail = rng.standard_normal(length) * 10 ** (-3 * np.arange(length) / length)
    tail[: round(0.004 * RATE)] = 0
    tail *= 10 ** (wet_db / 20) / np.sqrt(np.sum(tail**2))
    return sound + fftconvolve(sound, tail)[: len(sound)]


def take(seed: int, *, many: int = 60, loudness_db: float = 8.0) -> tuple[np.ndarray, np.ndarray]:
    """A take of random hits (audio at `RATE`, true onsets in seconds), 2 to 8 a second, in a room with noise."""
    rng = np.random.default_rng(seed)
    speed = rng.uniform(2, 8)
    gaps = np.maximum(0.07, rng.choice([0.5, 1.0, 1.0, 1.5, 2.0], many) / speed * rng.uniform(0.9, 1.1, many))
    times = 0.5 + np.cumsum(gaps)
    audio = np.zeros(round((times[-1] + 1.5) * RATE))
    own = rng.choice(len(hits()), 8, replace=False)
    truth = []
    for time in times:
        hit = hits()[rng.choice(own)]
        at = round(time * RATE)
        gain = 10 ** (rng.uniform(-loudness_db, 0) / 20) * 0.4
        start = max(0, at - hit.attack)
        audio[start : start + len(hit.sound)] += gain * hit.sound
        truth.append(at / RATE)
    audio = room(audio, rng.uniform(0.2, 0.6), rng.uniform(-16, -8), rng)
    noise = rng.standard_normal(len(audio))
    audio += noise * np.sqrt(np.mean(audio**2)) * 10 ** (-rng.uniform(25, 40) / 20)
    return np.clip(audio, -1, 1), np.array(truth)
