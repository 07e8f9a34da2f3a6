"""Render the spoken count words with espeak-ng and keep them as one small file.

Run by hand when the words change: python tools/make_count_words.py. Needs espeak-ng (Debian). The program is
GPL-3; what it says is ours to ship. Each word is cut at its end and stored with the sample of its vowel's onset,
measured as the first 5 ms frame whose low band (under 1 kHz) reaches a third of its loudest.
"""

import io
import subprocess
from pathlib import Path

import numpy as np
import soundfile
from scipy import signal

NUMBERS = """one two three four five six seven eight nine ten eleven twelve thirteen fourteen fifteen
sixteen seventeen eighteen nineteen twenty"""
WORDS = {str(n): w for n, w in enumerate(NUMBERS.split(), 1)}
WORDS |= {str(20 + n): f"twenty {w}" for n, w in enumerate(NUMBERS.split()[:9], 1)}
WORDS |= {"30": "thirty", "31": "thirty one", "32": "thirty two"}
WORDS |= {"&": "and", "e": "ee", "a": "uh", "hold": "hold"}
# What is said for the last two counts of a count-in.
LEAD_IN = "ready go and now here we turn break steps feet listen dance begin start again"
WORDS |= {word: word for word in LEAD_IN.split()}
# What is called before another part of a drill: the names that parts have most often, and what stands for any other.
LETTERS = {"A": "ay", "B": "bee", "C": "see", "D": "dee", "E": "ee", "F": "eff", "G": "gee", "H": "aitch"}
CALLED = {f"part {letter}": sounds for letter, sounds in LETTERS.items()}
CALLED |= {f"part {word}": word for word in ("next", "whole", "break", "chorus", "verse", "intro", "ending", "turn")}
OUT = Path(__file__).parents[1] / "src/firn/core/sound/words.npz"


def rendered(word: str, speed: str) -> tuple[np.ndarray, int]:
    wav = subprocess.run(
        ["espeak-ng", "-v", "en-us", "-s", speed, "-p", "45", "--stdout", word],
        capture_output=True,
        check=True,
    ).stdout
    sound, rate = soundfile.read(io.BytesIO(wav), dtype="float32")
    assert rate == 22_050
    return sound, rate


def cut(sound: np.ndarray, rate: int) -> tuple[np.ndarray, int]:
    loud = np.flatnonzero(np.abs(sound) > 0.02 * np.abs(sound).max())
    sound = sound[max(0, loud[0] - 40) : loud[-1] + 200]
    low = signal.sosfiltfilt(signal.butter(2, 1000, "low", fs=rate, output="sos"), sound)
    frame = rate // 200
    energy = np.add.reduceat(low**2, np.arange(0, len(low), frame))
    onset = int(np.flatnonzero(energy >= energy.max() / 3)[0]) * frame
    fade = min(400, len(sound) // 4)
    sound[-fade:] *= np.linspace(1, 0, fade)
    return sound / np.sqrt(np.mean(sound**2)) * 0.1, onset


def main() -> None:
    kept: dict[str, np.ndarray] = {}
    for name, word in (WORDS | CALLED).items():
        # What is called has a count to itself; a count is soon over.
        speed = "180" if name in CALLED else "330" if len(word) < 6 else "400"
        sound, onset = cut(*rendered(word, speed))
        kept[f"{name}.sound"] = np.clip(sound * 32767, -32767, 32767).astype(np.int16)
        kept[f"{name}.vowel"] = np.array(onset)
        print(f"{word}: {len(sound) / 22.05:.0f} ms, vowel at {onset / 22.05:.0f} ms")
    np.savez_compressed(OUT, **kept)


if __name__ == "__main__":
    main()
