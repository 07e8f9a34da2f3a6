"""Takes as life records them: what is said of clean takes and of such with faults, whatever besets them.

The feet of the second synthesiser in a room, and over them what no other judge here makes: a phone that turns itself
up and down, one that takes out noise, one that is far too loud, gaps of a radio link, clothes that rustle, a fan,
rain, a drone, murmurs of six, few bits, a low rate, what a message makes of sound. Nothing was tuned on it.
"""

import tempfile
from collections import Counter
from collections.abc import Callable
from pathlib import Path

import numpy as np
from scipy.signal import butter, istft, lfilter, resample_poly, sosfilt, stft
from tests import dancers, films, shoes, takes

from benchmarks.report import figure, heading
from benchmarks.sure import LOUDEST, danced, scored
from benchmarks.which import parts
from firn.files.audio import read_take

MANY, SEED = 24, 99_000
RATE = shoes.RATE

Made = tuple[np.ndarray, int]


def up_and_down(audio: np.ndarray, rng: np.random.Generator) -> Made:
    """A phone that turns itself down at once and up within a second, by 20 dB at most."""
    keeps = np.exp(-1 / (RATE * 0.01))
    loud = lfilter([1 - keeps], [1, -keeps], np.abs(audio))
    out, gain, step = np.empty_like(audio), 10.0, round(0.01 * RATE)
    for first in range(0, len(audio), step):
        wanted = min(10.0, 0.3 / max(float(loud[first : first + step].max()), 1e-6))
        gain = wanted if wanted < gain else gain + (wanted - gain) * 0.01
        out[first : first + step] = audio[first : first + step] * gain
    return np.clip(out, -1, 1), RATE


def gated(audio: np.ndarray, rng: np.random.Generator) -> Made:
    """A phone that takes out what it holds for noise, band by band, to a three-hundredth."""
    _, _, bins = stft(audio, RATE, nperseg=1024, noverlap=768)
    power = np.abs(bins) ** 2
    noise = np.percentile(power, 30, axis=1, keepdims=True)
    gain = np.clip(lfilter([0.3], [1, -0.7], power, axis=1) / (noise * 6) - 1, 0.003, 1)
    return istft(bins * gain, RATE, nperseg=1024, noverlap=768)[1][: len(audio)], RATE


def too_loud(audio: np.ndarray, rng: np.random.Generator) -> Made:
    """Four times what can be recorded."""
    return np.clip(audio / np.abs(audio).max() * 4, -1, 1), RATE


def gaps(audio: np.ndarray, rng: np.random.Generator) -> Made:
    """A radio link that loses 20 to 50 ms every other second."""
    out = audio.copy()
    for _ in range(len(audio) // RATE // 2):
        at = int(rng.integers(len(out)))
        out[at : at + round(rng.uniform(0.02, 0.05) * RATE)] = 0
    return out, RATE


def rustling(audio: np.ndarray, rng: np.random.Generator) -> Made:
    """Clothes that rub a microphone, two strokes in three seconds, 9 dB under the loudest of the feet."""
    noise = sosfilt(butter(1, (200, 3_000), "bandpass", fs=RATE, output="sos"), rng.standard_normal(len(audio)))
    shape = np.zeros(len(audio))
    for _ in range(round(0.7 * len(audio) / RATE)):
        at = int(rng.integers(len(audio)))
        stroke = np.hanning(round(rng.uniform(0.1, 0.6) * RATE))[: len(audio) - at]
        shape[at : at + len(stroke)] += stroke * rng.uniform(0.2, 1)
    return _over(audio, noise * shape, 0.35), RATE


def fanned(audio: np.ndarray, rng: np.random.Generator) -> Made:
    """A fan, 6 dB under the take."""
    at = np.arange(len(audio)) / RATE
    noise = sosfilt(butter(1, 800, fs=RATE, output="sos"), rng.standard_normal(len(audio)))
    return _under(audio, noise * (1 + 0.3 * np.sin(2 * np.pi * 11 * at)), 0.5), RATE


def raining(audio: np.ndarray, rng: np.random.Generator) -> Made:
    """Rain on a roof, 300 drops a second, 12 dB under the take."""
    drops = np.zeros(len(audio))
    many = round(300 * len(audio) / RATE)
    drops[rng.integers(0, len(audio), many)] = rng.exponential(1, many) * rng.choice([-1, 1], many)
    return _under(audio, sosfilt(butter(2, (1_000, 9_000), "bandpass", fs=RATE, output="sos"), drops), 0.25), RATE


def droning(audio: np.ndarray, rng: np.random.Generator) -> Made:
    """A pipe that swells, 16 dB under the loudest of the feet."""
    at = np.arange(len(audio)) / RATE
    return _over(audio, np.sin(2 * np.pi * 220 * at) * (1 + np.sin(2 * np.pi * 0.3 * at)), 0.3), RATE


def murmuring(audio: np.ndarray, rng: np.random.Generator) -> Made:
    """Six who talk at once, 10 dB under the loudest of the feet."""
    return _over(audio, sum(shoes.talk(len(audio) / RATE, rng)[: len(audio)] for _ in range(6)), 0.3), RATE


def low_rate(audio: np.ndarray, rng: np.random.Generator) -> Made:
    """8,000 a second, as an old telephone."""
    return resample_poly(audio, 80, RATE // 100), 8_000


def few_bits(audio: np.ndarray, rng: np.random.Generator) -> Made:
    """Eight bits, without dither."""
    return np.round(audio * 127) / 127, RATE


def _kept_as(ending: str, codec: str, bit_rate: int) -> Callable[[np.ndarray, np.random.Generator], Made]:
    """As a file of so many bits a second gives it back."""

    def made(audio: np.ndarray, rng: np.random.Generator) -> Made:
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / f"take.{ending}"
            films.write(path, resample_poly(audio, films.RATE // 300, RATE // 300), codec=codec, bit_rate=bit_rate)
            read = read_take(path)
        return read.sound, read.rate

    return made


def _over(audio: np.ndarray, other: np.ndarray, share: float) -> np.ndarray:
    """A take and what is as loud as a share of its loudest."""
    return np.clip(audio + other / np.abs(other).max() * np.abs(audio).max() * share, -1, 1)


def _under(audio: np.ndarray, other: np.ndarray, share: float) -> np.ndarray:
    """A take and what has a share of its loudness all through."""
    return np.clip(audio + other / other.std() * audio.std() * share, -1, 1)


LIFE: dict[str, Callable[[np.ndarray, np.random.Generator], Made]] = {
    "nothing": lambda audio, rng: (audio, RATE),
    "a phone that turns itself up": up_and_down,
    "a phone that takes out noise": gated,
    "four times too loud": too_loud,
    "gaps": gaps,
    "clothes": rustling,
    "a fan": fanned,
    "rain": raining,
    "a drone": droning,
    "murmurs": murmuring,
    "8,000 a second": low_rate,
    "eight bits": few_bits,
    "a message, Opus of 16 kbit/s": _kept_as("ogg", "libopus", 16_000),
    "AAC of 32 kbit/s": _kept_as("m4a", "aac", 32_000),
    "MP3 of 32 kbit/s": _kept_as("mp3", "libmp3lame", 32_000),
}


def beset() -> None:
    """Each of them: takes of three passes, half of them clean."""
    heading(f"Takes as life records them ({MANY} of each, seeds from {SEED})")
    if takes.hits_folder() is None or not shoes.voices():
        print("  the recorded hits or voices could not be had: nothing measured")
        return
    known = [one for one in parts() if 6 <= len(dancers.pattern_of(one[0]).places) <= 24]
    whole: Counter[str] = Counter()
    for name, made in LIFE.items():
        here: Counter[str] = Counter()
        for number in range(MANY):
            rng = np.random.default_rng([SEED, number, len(name)])
            part, tempo = known[int(rng.integers(len(known)))]
            row = danced(part, tempo, rng, faulty=number % 2 == 1)
            placed = sorted((at, kind) for _, kind, at in row if at is not None)
            audio, _ = shoes.laid(placed, shoes.shoe(rng), shoes.floor(rng), rng, soft_db=8)
            audio = shoes.hiss(shoes.in_room(audio, int(rng.integers(20)), 0.3), rng)
            audio = audio / max(1.0, np.abs(audio).max() / LOUDEST)
            scored(here, part, tempo, row, made(audio, rng), faulty=number % 2 == 1)
        _figures(name, here)
        whole.update(here)
    _figures("all", whole)


def _figures(name: str, here: Counter[str]) -> None:
    def share(part: str, of: str) -> str:
        return f"{100 * here[part] / max(1, here[of]):.1f}"

    figure(name)
    figure("  sounds called sure that are right", f"{share('sure, right', 'sure')} of 100", "98")
    clean = f"{share('clean, said', 'clean takes')}, surely {share('clean, surely said', 'clean takes')}"
    figure("  clean takes said to be, of 100", clean, "95, surely 85")
    figure("  surely something else; refused", f"{here['surely wrong']}; {here['refused']}", "none; 1 of 100")
