"""Takes to learn from: strikes at known times in rooms and company, and what holds no foot at all."""

from collections.abc import Sequence
from pathlib import Path

import numpy as np
from scipy.signal import butter, resample_poly, sosfilt

from tools.ear.company import LOUDEST, click, music, noise, phone, room, speech
from tools.ear.strikes import RATE, strike

SECONDS = 10.0
RATES = (8_000, 16_000, 22_050, 32_000, 44_100, 44_100, 48_000, 48_000, 96_000)
CLOSEST_S = 1 / 22, 1 / 14
"""The least gap between sounds is drawn for each: one and the same, a network takes for a rhythm."""

FLAM_S = 0.018, 0.045
"""How far the second of two feet may land behind the first."""


def take(seed: int, soundfont: Path, voices: Sequence[Path]) -> tuple[np.ndarray, np.ndarray, int]:
    """A take: audio (n,) float32, true onsets in seconds (none in a quarter of them), and its rate in Hz."""
    rng = np.random.default_rng(seed)
    many = round(SECONDS * RATE)
    drawn = rng.random()
    times = np.zeros(0)
    if drawn < 0.76:
        audio, times = _danced(rng, many, soundfont, voices)
    elif drawn < 0.91:
        audio = speech(many, rng, voices) * 10 ** (-rng.uniform(0, 30) / 20)
        audio = audio + noise(many, rng) * 10 ** (-rng.uniform(40, 80) / 20)
    elif drawn < 0.96:
        audio = music(many, rng, soundfont, drums=False) * 10 ** (-rng.uniform(15, 35) / 20)
    else:
        audio = noise(many, rng) * 10 ** (-rng.uniform(25, 70) / 20)
        if rng.random() < 0.5:
            audio *= np.interp(np.arange(many), np.linspace(0, many, 12), rng.uniform(0.2, 1, 12))
    heard_by = rng.random()
    if heard_by < 0.22:
        audio = phone(audio, rng)
    elif heard_by < 0.32:
        audio = sosfilt(butter(4, (300, 3_400), "bandpass", fs=RATE, output="sos"), audio)
    rate = int(rng.choice(RATES))
    audio = audio if rate == RATE else resample_poly(audio, rate, RATE)
    return np.clip(audio, -1, 1).astype(np.float32), times, rate


ALIKE_RATES = (16_000, 44_100, 44_100, 48_000)


def alike(seed: int, soundfont: Path, voices: Sequence[Path]) -> tuple[np.ndarray, np.ndarray, int]:
    """A take of one and the same sound, few or many: hands that clap along, a pen, a pad, a machine; as `take`."""
    rng = np.random.default_rng(seed)
    many = round(SECONDS * RATE)
    if rng.random() < 0.25:
        # As short as can be: a click, or a pulse.
        at = np.arange(round(rng.uniform(0.0005, 0.012) * RATE))
        sound = np.sin(2 * np.pi * np.exp(rng.uniform(np.log(300), np.log(6_000))) * at / RATE + rng.uniform(0, 2))
        sound = np.hanning(2 * len(at))[len(at) :] * (sound if rng.random() < 0.6 else np.ones(len(at)))
        sound, begins = sound / np.abs(sound).max(), 0
    else:
        sound, begins = strike(rng, soundfont, slides=False)
    if rng.random() < 0.4:
        gap = float(np.exp(rng.uniform(np.log(0.12), np.log(1.5))))
        times = np.arange(rng.uniform(0.1, 1.0), SECONDS - 0.5, gap)
        times = times + rng.normal(0, rng.choice([0, 0.008]), len(times))
    else:
        gaps = np.maximum(0.1, rng.exponential(float(np.exp(rng.uniform(np.log(0.2), np.log(1.5)))), 80))
        times = rng.uniform(0.1, 1.0) + np.cumsum(gaps)
    times = times[(times > 0.05) & (times < SECONDS - 0.5)][: int(rng.integers(2, 81))]
    audio, spread_db = np.zeros(many), rng.choice([0.0, 0.0, 4.0, 12.0])
    places = np.round(times * RATE).astype(int)
    for place in places:
        first = max(0, place - begins)
        piece = sound[begins - (place - first) :][: many - first]
        audio[first : first + len(piece)] += piece * LOUDEST * 10 ** (-rng.uniform(0, spread_db) / 20)
    if rng.random() < 0.5:
        audio = room(audio, rng)
    if rng.random() < 0.85:
        audio += noise(many, rng) * LOUDEST * 10 ** (-rng.uniform(30, 85) / 20)
    if rng.random() < 0.2:
        audio = phone(audio, rng)
    rate = int(rng.choice(ALIKE_RATES))
    audio = audio if rate == RATE else resample_poly(audio, rate, RATE)
    return np.clip(audio, -1, 1).astype(np.float32), places / RATE, rate


def _times(rng: np.random.Generator) -> tuple[np.ndarray, np.ndarray]:
    """Sorted times of strikes, and which of them is the later foot of a flam."""
    speed = float(np.exp(rng.uniform(0, np.log(16))))
    closest = rng.uniform(*CLOSEST_S, 400)
    gaps = np.maximum(closest, rng.choice([0.5, 1, 1, 1.5, 2], 400) / speed * rng.uniform(0.9, 1.1, 400))
    times = rng.uniform(0.05, 0.6) + np.cumsum(gaps)
    second = np.zeros(0)
    if rng.random() < 0.3:
        doubled = times[(rng.random(len(times)) < rng.uniform(0.2, 0.7)) & (np.append(np.diff(times), 1) > 0.08)]
        second = doubled + rng.uniform(*FLAM_S, len(doubled))
    elif rng.random() < 0.25:
        # A brush that leads up to a strike.
        led = times[(rng.random(len(times)) < 0.5) & (np.append(1, np.diff(times)) > 0.17)]
        second = led - rng.uniform(0.06, 0.11, len(led))
    every = np.concatenate([times, second])
    late = np.concatenate([np.zeros(len(times), bool), np.ones(len(second), bool)])
    order = np.argsort(every)
    kept = every[order] < SECONDS - 0.3
    return every[order][kept], late[order][kept]


def _danced(
    rng: np.random.Generator, many: int, soundfont: Path, voices: Sequence[Path]
) -> tuple[np.ndarray, np.ndarray]:
    times, late = _times(rng)
    sliding = rng.random() < 0.4
    own = [strike(rng, soundfont, slides=sliding) for _ in range(int(rng.integers(3, 9)))]
    softest_db = rng.uniform(6, 26)
    flams_db = rng.uniform(3, 9)
    audio = np.zeros(many)
    places = np.round(times * RATE).astype(int)
    places = places[places < many]
    for place, second in zip(places, late, strict=False):
        sound, begins = own[int(rng.integers(len(own)))]
        first = max(0, place - begins)
        sound = sound[begins - (place - first) :][: many - first]
        softer = rng.uniform(0, min(softest_db, flams_db) if second else softest_db)
        audio[first : first + len(sound)] += sound * 10 ** (-softer / 20) * LOUDEST
    audio = room(audio, rng)
    loudness, peak = np.sqrt(np.mean(audio**2)), np.abs(audio).max()
    if rng.random() < 0.25:
        audio += click(many, rng)
    beside = rng.random()
    if beside < 0.2:
        talk = speech(many, rng, voices)
        audio += talk / np.abs(talk).max() * peak * 10 ** (-rng.uniform(1, 24) / 20)
    elif beside < 0.42:
        band = music(many, rng, soundfont)
        audio += band / np.abs(band).max() * peak * 10 ** (-rng.uniform(3, 26) / 20)
    if rng.random() < 0.92:
        audio += noise(many, rng) * loudness * 10 ** (-rng.uniform(10, 50) / 20)
    if rng.random() < 0.03:
        audio = np.round(audio * 127) / 127
    return audio, places / RATE
