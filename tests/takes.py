"""Takes built from recorded hits at known times: the outside judge of onsets, for tests and benchmarks.

The hits are the CC0 files (drum_*, tabla_*, perc_snap*) of Debian's package sonic-pi-samples. Each file's own
attack, the first sample at a tenth of its peak, is measured and laid on the wanted time. Left out is what holds more
than one hit: drum_roll, and what falls under that tenth again for 4 ms and more before its peak (drum_cymbal_pedal,
whose chick follows 13 ms after the pedal's own sound: when it begins is anybody's choice).
"""

from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path

import numpy as np

RATE = 44_100
TWICE_S = 0.004
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
            loud = np.flatnonzero(np.abs(mono[: int(np.argmax(np.abs(mono))) + 1]) >= 0.1)
            if len(loud) > 1 and np.diff(loud).max() >= TWICE_S * RATE:
                continue
            attack = int(loud[0])
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


@lru_cache(maxsize=1)
def noisy() -> tuple[Hit, ...]:
    """Brushes and slides as NumPy makes them: filtered noise that swells and dies, attack at a tenth of its peak."""
    from scipy.signal import butter, sosfilt

    found = []
    for number, (length_s, rise_s, low_hz, high_hz) in enumerate(
        ((0.05, 0.004, 1_500, 9_000), (0.08, 0.008, 1_000, 7_000), (0.15, 0.02, 700, 5_000), (0.25, 0.03, 500, 4_000))
    ):
        rng = np.random.default_rng(900 + number)
        at = np.arange(round(length_s * RATE)) / RATE
        shape = (1 - np.exp(-at / rise_s)) * np.exp(-at / (length_s / 3))
        band = butter(2, (low_hz, high_hz), "bandpass", fs=RATE, output="sos")
        sound = sosfilt(band, rng.standard_normal(len(at))) * shape
        sound /= np.abs(sound).max()
        attack = int(np.flatnonzero(np.abs(sound) >= 0.1)[0])
        found.append(Hit("brush" if length_s < 0.1 else "slide", sound, attack))
    return tuple(found)


def hard_take(seed: int, *, many: int = 60) -> tuple[np.ndarray, np.ndarray, int]:
    """A hard take: (audio, true onsets in seconds, rate in Hz).

    Hits, brushes and slides, 1 to 16 a second, 20 dB loud to soft, in rooms of 0.2 to 1 s, noise at 40 to 10 dB under
    the take, some with the bleed of a click, some through a phone's band, at 8 to 48 kHz.
    """
    from scipy.signal import butter, resample_poly, sosfilt

    rng = np.random.default_rng(seed)
    speed = float(np.exp(rng.uniform(np.log(1), np.log(16))))
    gaps = np.maximum(1 / 16, rng.choice([0.5, 1.0, 1.0, 1.5, 2.0], many) / speed * rng.uniform(0.95, 1.05, many))
    times = 0.5 + np.cumsum(gaps)
    audio = np.zeros(round((times[-1] + 1.5) * RATE))
    own = [hits()[i] for i in rng.choice(len(hits()), 6, replace=False)] + [noisy()[int(rng.integers(4))]]
    for time in times:
        hit = own[int(rng.integers(len(own)))]
        at = round(time * RATE)
        gain = 10 ** (rng.uniform(-20, 0) / 20) * 0.4
        start = max(0, at - hit.attack)
        audio[start : start + len(hit.sound)] += gain * hit.sound
    audio = room(audio, rng.uniform(0.2, 1.0), rng.uniform(-18, -8), rng)
    if rng.random() < 0.3:
        beat = np.arange(0.2, times[-1], 0.5)
        burst = np.sin(2 * np.pi * 1_000 * np.arange(400) / RATE) * np.exp(-np.arange(400) / 100)
        for time in beat:
            first = round(time * RATE)
            audio[first : first + 400] += burst * 0.4 * 10 ** (-34 / 20)
    audio += rng.standard_normal(len(audio)) * np.sqrt(np.mean(audio**2)) * 10 ** (-rng.uniform(10, 40) / 20)
    if rng.random() < 0.3:
        audio = sosfilt(butter(4, (300, 3_400), "bandpass", fs=RATE, output="sos"), audio)
    rate = int(rng.choice([8_000, 16_000, 22_050, 44_100, 48_000]))
    if rate != RATE:
        audio = resample_poly(audio, rate, RATE)
    return np.clip(audio, -1, 1), np.round(times * RATE) / RATE, rate


QUIET = ("silence", "hum", "room noise", "speech")


def quiet(kind: str, seed: int, *, seconds: float = 60.0, rate: int = 48_000) -> np.ndarray:
    """A recording without a foot in it: silence at -90 dB, hum of the mains, a room's own noise, or speech alone.

    Speech is the shipped count words (rendered by eSpeak NG), in runs of 3 to 8 at changing pitch with pauses.
    """
    from scipy.signal import lfilter

    rng = np.random.default_rng(seed)
    many = round(seconds * rate)
    at = np.arange(many) / rate
    if kind == "silence":
        return rng.normal(0, 10 ** (-90 / 20), many)
    if kind == "hum":
        hum = sum(np.sin(2 * np.pi * 50 * k * at + rng.uniform(0, 6)) / k for k in range(1, 8))
        return 0.01 * np.asarray(hum) + rng.normal(0, 10 ** (-70 / 20), many)
    if kind == "room noise":
        # Pink by Kellet's filter (common practice), its level swaying.
        pink = lfilter(
            [0.049922035, -0.095993537, 0.050612699, -0.004408786],
            [1, -2.494956002, 2.017265875, -0.522189400],
            rng.standard_normal(many),
        )
        sway = 1 + 0.3 * np.sin(2 * np.pi * at * 0.13 + rng.uniform(0, 6))
        return pink / pink.std() * 10 ** (-50 / 20) * sway
    return _speech(rng, many, rate) + rng.normal(0, 10 ** (-60 / 20), many)


def _speech(rng: np.random.Generator, many: int, rate: int) -> np.ndarray:
    from scipy.signal import resample_poly

    from firn.core.sound import spoken

    kept = np.load(Path(spoken.__file__).with_name("words.npz"))
    words = [kept[name].astype(float) / 32_767 for name in kept.files if name.endswith(".sound")]
    out = np.zeros(many)
    time = 0.3
    while time < many / rate - 2:
        for _ in range(int(rng.integers(3, 9))):
            pitch = rng.uniform(0.85, 1.2)
            word = resample_poly(words[int(rng.integers(len(words)))], round(rate / 22_050 * 100 * pitch), 100)
            first = round(time * rate)
            piece = word[: max(0, many - first)] * rng.uniform(0.5, 1.5)
            out[first : first + len(piece)] += piece
            time += len(word) / rate + rng.uniform(0.0, 0.06)
        time += rng.uniform(0.3, 1.2)
    return out
