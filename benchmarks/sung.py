"""Where syllables begin in recorded words, each said over and over in a rhythm; mir_eval is the judge.

Where a word is heard to begin is nobody's to say: of one and the same word, one after another, the spans between are
those of the rhythm, whatever that is. Words of one vowel (Debian's asterisk-core-sounds). What reads them was mended
by the Russian and the Italian words; the French ones were met when it stood.
"""

import mir_eval
import numpy as np
import soundfile
from scipy.signal import resample_poly
from tests import shoes

from benchmarks.report import figure, heading
from firn.core.quantise.sung import sung

RATE = 48_000
SEEDS = range(9)
NOISE_DB = (-60, -45, -35)
WINDOW_S = 0.03
SPEAKERS = {
    "French, kept apart": ("fr_CA", [str(n) for n in range(1, 11)]),
    "Russian and Italian, mended by": ("", ["2", "3", "5", "6", "7"]),
}


def sung_words() -> None:
    """How many syllables are found where they are."""
    heading("Syllables of recorded words, in rhythms (F at ±30 ms but for the word's own delay)")
    if not shoes.voices():
        print("  the recorded voices (asterisk-core-sounds) could not be had: nothing measured")
        return
    for name, (language, numbers) in SPEAKERS.items():
        scores = [_score(word, seed) for word in _words(language, numbers) for seed in SEEDS]
        figure(name, f"{np.mean(scores):.3f}, worst {min(scores):.2f}, of {len(scores)} lines")


def _words(language: str, numbers: list[str]) -> list[np.ndarray]:
    folders = (language,) if language else ("ru_RU", "it_IT")
    found = []
    for path in shoes.voices():
        mine = any(folder in str(path) for folder in folders) and path.parent.name == "digits"
        if mine and path.stem in numbers and (path.stem in "236" or "it_IT" not in str(path)):
            sound, rate = soundfile.read(path)
            said = resample_poly(sound, RATE, rate)
            loud = np.flatnonzero(np.abs(said) > 0.02 * np.abs(said).max())
            found.append(said[loud[0] : loud[-1]] / np.abs(said).max())
    return found


def _score(word: np.ndarray, seed: int) -> float:
    rng = np.random.default_rng(seed)
    beat = 60 / rng.uniform(70, 115)
    times, at = [], 0.8
    while at < 12:
        times.append(at)
        at += beat * rng.choice([1, 1, 0.5, 0.5, 1.5])
    sound = rng.normal(0, 10 ** (NOISE_DB[seed % 3] / 20), RATE * 14)
    for time, following in zip(times, [*times[1:], times[-1] + 1], strict=True):
        said = word[: round((following - time - 0.02) * RATE)].copy()
        fade = min(2400, len(said) // 3)
        said[-fade:] *= np.linspace(1, 0, fade)
        first = round(time * RATE)
        sound[first : first + len(said)] += said * rng.uniform(0.5, 1)
    truth, got = np.array(times), sung(sound * 0.5, RATE)
    # The word's own delay, whatever it is, is taken out.
    delays = np.arange(0, 0.3, 0.01)
    return max(float(mir_eval.onset.f_measure(truth, np.maximum(0, got - d), window=WINDOW_S)[0]) for d in delays)
