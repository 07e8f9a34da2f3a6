"""Takes to learn from: strikes at known times in rooms, and what holds no foot at all."""

from collections.abc import Sequence
from pathlib import Path
from typing import Literal

import numpy as np
from scipy.signal import butter, fftconvolve, lfilter, resample_poly, sosfilt

from tools.ear.strikes import RATE, strike

SECONDS = 10.0
RATES = (8_000, 16_000, 22_050, 44_100, 48_000)
LOUDEST = 0.4
Kind = Literal["first", "any gap", "soft"]
"""What a round of learning hears: `soft` takes hold more soft sounds close after loud ones, and no slow ones."""

CLOSEST_S = 1 / 17
CLOSEST_TUNED_S = 1 / 20, 1 / 14
"""The least gap between sounds: always the same at first, which a network takes for a rhythm; of any size then."""

SOFTEST_DB: dict[Kind, tuple[float, float]] = {"first": (8, 22), "any gap": (8, 22), "soft": (14, 26)}


def take(
    seed: int, soundfont: Path, voices: Sequence[Path], *, kind: Kind = "first"
) -> tuple[np.ndarray, np.ndarray, int]:
    """A take: audio (n,) float32, true onsets in seconds (none in three of ten), and its rate in Hz.

    `kind`: for which round of learning.
    """
    rng = np.random.default_rng(seed)
    many = round(SECONDS * RATE)
    drawn = rng.random()
    times = np.zeros(0)
    if drawn < 0.70:
        audio, times = _danced(rng, many, soundfont, voices, kind)
    elif drawn < 0.94:
        audio = speech(many, rng, voices) * 10 ** (-rng.uniform(0, 30) / 20)
        audio = audio + noise(many, rng) * 10 ** (-rng.uniform(40, 80) / 20)
    else:
        audio = noise(many, rng) * 10 ** (-rng.uniform(25, 70) / 20)
        if rng.random() < 0.5:
            audio *= np.interp(np.arange(many), np.linspace(0, many, 12), rng.uniform(0.2, 1, 12))
    if rng.random() < 0.3:
        audio = sosfilt(butter(4, (300, 3_400), "bandpass", fs=RATE, output="sos"), audio)
    rate = int(rng.choice(RATES))
    audio = audio if rate == RATE else resample_poly(audio, rate, RATE)
    return np.clip(audio, -1, 1).astype(np.float32), times, rate


def _danced(
    rng: np.random.Generator, many: int, soundfont: Path, voices: Sequence[Path], kind: Kind
) -> tuple[np.ndarray, np.ndarray]:
    speed = float(np.exp(rng.uniform(np.log(1.5) if kind == "soft" else 0, np.log(16))))
    closest = CLOSEST_S if kind == "first" else rng.uniform(*CLOSEST_TUNED_S, 400)
    gaps = np.maximum(closest, rng.choice([0.5, 1, 1, 1.5, 2], 400) / speed * rng.uniform(0.9, 1.1, 400))
    times = rng.uniform(0.05, 0.6) + np.cumsum(gaps)
    times = times[times < SECONDS - 0.3]
    own = [strike(rng, soundfont) for _ in range(int(rng.integers(3, 9)))]
    softest_db = rng.uniform(*SOFTEST_DB[kind])
    audio = np.zeros(many)
    places = np.round(times * RATE).astype(int)
    for place in places:
        sound, begins = own[int(rng.integers(len(own)))]
        first = max(0, place - begins)
        sound = sound[begins - (place - first) :][: many - first]
        audio[first : first + len(sound)] += sound * 10 ** (-rng.uniform(0, softest_db) / 20) * LOUDEST
    audio = room(audio, rng)
    loudness = np.sqrt(np.mean(audio**2))
    if rng.random() < (0.3 if kind == "soft" else 0.35):
        audio += _click(many, rng)
    if rng.random() < 0.15:
        talk = speech(many, rng, voices)
        audio += talk / np.sqrt(np.mean(talk**2) + 1e-12) * loudness * 10 ** (-rng.uniform(6, 30) / 20)
    if rng.random() < 0.92:
        audio += noise(many, rng) * loudness * 10 ** (-rng.uniform(10, 45) / 20)
    if kind != "soft" and rng.random() < 0.04:
        audio = np.round(audio * 127) / 127
    return audio, places / RATE


def _click(many: int, rng: np.random.Generator) -> np.ndarray:
    """The bleed of a metronome."""
    hz = np.exp(rng.uniform(np.log(500), np.log(3_000)))
    at = np.arange(round(rng.uniform(0.004, 0.04) * RATE))
    one = np.sin(2 * np.pi * hz * at / RATE) * np.exp(-at / len(at) * rng.uniform(2, 6))
    audio = np.zeros(many)
    beat = 60 / rng.uniform(60, 200)
    for time in np.arange(rng.uniform(0, beat), SECONDS - 0.1, beat):
        first = round(time * RATE)
        audio[first : first + len(one)] += one[: many - first] * LOUDEST * 10 ** (-rng.uniform(30, 40) / 20)
    return audio


def room(audio: np.ndarray, rng: np.random.Generator) -> np.ndarray:
    """A sound in a room: noise that dies away, bright or dull."""
    length = round(rng.uniform(0.15, 1.1) * RATE)
    tail = rng.standard_normal(length) * 10 ** (-3 * np.arange(length) / length)
    if rng.random() < 0.5:
        tail = sosfilt(butter(1, rng.uniform(1_500, 9_000), fs=RATE, output="sos"), tail)
    tail[: round(rng.uniform(0.001, 0.012) * RATE)] = 0
    tail *= 10 ** (rng.uniform(-20, -7) / 20) / np.sqrt(np.sum(tail**2))
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


def speech(many: int, rng: np.random.Generator, voices: Sequence[Path]) -> np.ndarray:
    """Talk out of recordings and synthesized voices, with pauses, in a room half of the time."""
    import soundfile

    out = np.zeros(many)
    at = round(rng.uniform(0, 0.5) * RATE)
    while at < many:
        said, rate = soundfile.read(voices[int(rng.integers(len(voices)))], always_2d=True)
        said = said.mean(axis=1)
        if len(said) < 0.2 * rate:
            continue
        if len(said) > 4 * rate:
            first, edge = int(rng.integers(len(said) - 4 * rate)), np.arange(4 * rate)
            said = said[first : first + 4 * rate] * np.minimum(1, np.minimum(edge, edge[::-1]) / 500)
        said = np.interp(
            np.arange(0, len(said) - 1, rng.uniform(0.85, 1.2) * rate / RATE), np.arange(len(said)), said
        )
        said = (said / (np.abs(said).max() + 1e-9) * rng.uniform(0.4, 1))[: many - at]
        out[at : at + len(said)] += said
        at += len(said) + round(rng.exponential(0.25) * RATE)
    return room(out, rng) if rng.random() < 0.5 else out
