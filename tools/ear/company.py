"""What sounds beside feet (talk, music, a click, noise), and the rooms and phones that feet are heard through."""

from collections.abc import Sequence
from functools import lru_cache
from pathlib import Path

import numpy as np
from scipy.signal import butter, fftconvolve, lfilter, resample_poly, sosfilt

from tools.ear.soundfont import hits_of
from tools.ear.strikes import RATE, recorded

LOUDEST = 0.4


def click(many: int, rng: np.random.Generator) -> np.ndarray:
    """The bleed of a metronome."""
    hz = np.exp(rng.uniform(np.log(500), np.log(3_000)))
    at = np.arange(round(rng.uniform(0.004, 0.04) * RATE))
    one = np.sin(2 * np.pi * hz * at / RATE) * np.exp(-at / len(at) * rng.uniform(2, 6))
    audio = np.zeros(many)
    beat = 60 / rng.uniform(60, 200)
    for time in np.arange(rng.uniform(0, beat), many / RATE - 0.1, beat):
        first = round(time * RATE)
        audio[first : first + len(one)] += one[: many - first] * LOUDEST * 10 ** (-rng.uniform(30, 40) / 20)
    return audio


def room(audio: np.ndarray, rng: np.random.Generator) -> np.ndarray:
    """A sound in a room: first echoes, some between two bare walls, and noise that dies away, bright or dull."""
    length = round(rng.uniform(0.12, 1.2) * RATE)
    tail = rng.standard_normal(length) * 10 ** (-3 * np.arange(length) / length)
    if rng.random() < 0.5:
        tail = sosfilt(butter(1, rng.uniform(1_500, 9_000), fs=RATE, output="sos"), tail)
    tail[: round(rng.uniform(0.001, 0.012) * RATE)] = 0
    tail *= 10 ** (rng.uniform(-20, -7) / 20) / np.sqrt(np.sum(tail**2))
    if rng.random() < 0.6:
        early = np.zeros(length)
        at = rng.integers(round(0.002 * RATE), length, int(rng.integers(3, 50)))
        early[at] = rng.uniform(-1, 1, len(at)) * 10 ** (-3 * at / length)
        if rng.random() < 0.4:
            flutter = np.arange(1, 60) * round(rng.uniform(0.012, 0.12) * RATE)
            flutter = flutter[flutter < length]
            early[flutter] += rng.uniform(0.2, 1.2) * 10 ** (-3 * flutter / length)
        early = sosfilt(butter(1, rng.uniform(1_500, 15_000), fs=RATE, output="sos"), early)
        tail += early * rng.uniform(0.05, 0.5)
    # Far off, the room is louder than the foot.
    tail *= 10 ** ((rng.uniform(0, 9) if rng.random() < 0.3 else 0) / 20)
    return audio + fftconvolve(audio, tail)[: len(audio)]


def noise(many: int, rng: np.random.Generator) -> np.ndarray:
    """White, or pink and swaying, or the hum of the mains; of power 1."""
    kind = rng.random()
    if kind < 0.5:
        return rng.standard_normal(many)
    at = np.arange(many) / RATE
    if kind < 0.8:
        # Pink by Kellet's filter (common practice).
        pink = lfilter(
            [0.049922035, -0.095993537, 0.050612699, -0.004408786],
            [1, -2.494956002, 2.017265875, -0.522189400],
            rng.standard_normal(many),
        )
        return pink / pink.std() * (1 + 0.3 * np.sin(2 * np.pi * at * rng.uniform(0.05, 0.5) + rng.uniform(0, 6)))
    mains, fall = rng.choice([50, 60]), rng.uniform(0.5, 1.5)
    hum = np.sum([np.sin(2 * np.pi * mains * k * at + rng.uniform(0, 6)) / k**fall for k in range(1, 9)], axis=0)
    return hum / hum.std() + rng.standard_normal(many) * 0.1


@lru_cache(maxsize=64)
def _said(file: Path) -> tuple[np.ndarray, int]:
    import soundfile

    sound, rate = soundfile.read(file, always_2d=True)
    return sound.mean(axis=1), rate


def speech(many: int, rng: np.random.Generator, voices: Sequence[Path]) -> np.ndarray:
    """Talk out of recordings and synthesized voices, with pauses, in a room half of the time."""
    out = np.zeros(many)
    at = round(rng.uniform(0, 0.5) * RATE)
    while at < many:
        said, rate = _said(voices[int(rng.integers(len(voices)))])
        if len(said) < 0.2 * rate:
            continue
        if len(said) > 4 * rate:
            first, edge = int(rng.integers(len(said) - 4 * rate)), np.arange(4 * rate)
            said = said[first : first + 4 * rate] * np.minimum(1, np.minimum(edge, edge[::-1]) / 500)
        said = np.interp(
            np.arange(0, len(said) - 1, rng.uniform(0.8, 1.25) * rate / RATE), np.arange(len(said)), said
        )
        said = (said / (np.abs(said).max() + 1e-9) * rng.uniform(0.4, 1))[: many - at]
        out[at : at + len(said)] += said
        at += len(said) + round(rng.exponential(0.25) * RATE)
    return room(out, rng) if rng.random() < 0.5 else out


@lru_cache(maxsize=1)
def _notes(file: Path) -> tuple[np.ndarray, ...]:
    """Notes of every instrument of a SoundFont, peak 1, at most two seconds of each, at `RATE`."""
    found = []
    for sound, rate in list(hits_of(file, percussion=False).values())[::3]:
        sound = sound[: 2 * rate]
        if len(sound) > rate // 20 and np.abs(sound).max() > 0.01:
            found.append((sound if rate == RATE else resample_poly(sound, RATE, rate)) / np.abs(sound).max())
    return tuple(found)


def music(many: int, rng: np.random.Generator, file: Path, *, drums: bool = True) -> np.ndarray:
    """A band as a small loudspeaker gives it: notes of two to five instruments, most often over drums; power 1."""
    out = np.zeros(many)
    beat = 60 / rng.uniform(70, 190) * RATE
    swing = rng.choice([0.5, 0.5, 0.6, 2 / 3])

    def put(sound: np.ndarray, at: float, gain: float) -> None:
        first = max(0, round(at))
        piece = sound[: max(0, many - first)]
        out[first : first + len(piece)] += gain * piece

    for _ in range(int(rng.integers(2, 6))):
        note, gain = _notes(file)[int(rng.integers(len(_notes(file))))], rng.uniform(0.2, 1)
        long = rng.uniform(0.2, 2) * beat
        busy = rng.uniform(0.2, 0.9)
        for place in np.arange(0, many / beat, 0.5):
            if rng.random() > busy:
                continue
            pitch = 2 ** (int(rng.choice([-12, -5, 0, 0, 2, 4, 5, 7, 12])) / 12)
            one = np.interp(np.arange(0, len(note) - 1, pitch), np.arange(len(note)), note)[: round(long)].copy()
            one *= np.minimum(1, np.arange(len(one))[::-1] / 800)
            late = (swing if place % 1 else 0.0) + np.floor(place)
            put(one, late * beat, gain * rng.uniform(0.5, 1))
    if drums and rng.random() < 0.85:
        hits = recorded(file)
        for _ in range(int(rng.integers(2, 5))):
            hit, gain = hits[int(rng.integers(len(hits)))], rng.uniform(0.3, 1.5)
            pattern = rng.random(8) < rng.uniform(0.2, 0.9)
            for half in range(int(2 * many / beat) + 1):
                if pattern[half % 8]:
                    put(hit, (half // 2 + (swing if half % 2 else 0)) * beat, gain * rng.uniform(0.7, 1))
    low, high = rng.uniform(60, 400), rng.uniform(3_000, 14_000)
    out = sosfilt(butter(2, (low, high), "bandpass", fs=RATE, output="sos"), out)
    if rng.random() < 0.7:
        out = room(out, rng)
    return out / (out.std() + 1e-12)


def phone(audio: np.ndarray, rng: np.random.Generator) -> np.ndarray:
    """Through a phone: its band, and a compressor that ducks after what is loud and lifts what is soft."""
    band = (rng.uniform(100, 350), rng.choice([3_400, 3_600, 7_000]))
    audio = sosfilt(butter(4, band, "bandpass", fs=RATE, output="sos"), audio)
    step = RATE // 1_000
    peaks = np.abs(audio[: len(audio) // step * step]).reshape(-1, step).max(axis=1)
    level, levels = 0.0, np.empty(len(peaks))
    rise, fall = np.exp(-1 / rng.uniform(1, 15)), np.exp(-1 / rng.uniform(40, 400))
    for k, peak in enumerate(peaks):
        level = peak + (rise if peak > level else fall) * (level - peak)
        levels[k] = level
    threshold = np.abs(audio).max() * 10 ** (-rng.uniform(10, 45) / 20)
    gains = (np.maximum(levels, threshold) / threshold) ** (1 / rng.uniform(2, 10) - 1)
    audio = audio * np.interp(np.arange(len(audio)), np.arange(len(gains)) * step, gains)
    audio = audio / (np.abs(audio).max() + 1e-9)
    return np.tanh(audio * rng.uniform(0.5, 2)) * 0.6
