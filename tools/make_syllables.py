"""Render the halves of syllables with espeak-ng and keep them as one small sound file with its index.

Run by hand when the sounds change: python tools/make_syllables.py. Needs espeak-ng (Debian). The program is GPL-3;
what it says is ours to ship. A syllable is sung from two halves, one up to its vowel and one from it on, which meet
inside the vowel; the index says where each half lies, and for the first where its vowel begins (as for the count
words: the first 5 ms whose low band reaches a third of its loudest).
"""

import io
import json
import subprocess
from pathlib import Path

import numpy as np
import soundfile
from scipy import signal

VOWELS = {
    "a": "A:", "u": "V", "oo": "u:", "ee": "i:", "i": "I", "e": "E", "o": "oU", "ow": "aU", "ay": "eI",
}  # fmt: skip
ONSETS = {
    "": "", "b": "b", "d": "d", "f": "f", "g": "g", "h": "h", "j": "dZ", "k": "k", "l": "l", "m": "m", "n": "n",
    "p": "p", "r": "r", "s": "s", "sh": "S", "t": "t", "ch": "tS", "v": "v", "w": "w", "y": "j", "z": "z", "th": "T",
    "br": "br", "dr": "dr", "tr": "tr", "kr": "kr", "gr": "gr", "pr": "pr", "bl": "bl", "pl": "pl", "kl": "kl",
    "fl": "fl", "st": "st", "sk": "sk", "sp": "sp", "sw": "sw",
}  # fmt: skip
CODAS = {
    "m": "m", "n": "n", "ng": "N", "p": "p", "b": "b", "t": "t", "d": "d", "k": "k", "g": "g", "f": "f", "s": "s",
    "sh": "S", "z": "z", "l": "l", "r": "r", "ch": "tS", "ts": "ts", "ks": "ks", "st": "st",
}  # fmt: skip
RATE = 22_050
BEFORE_S, HALF_S = 0.004, 0.085
OUT = Path(__file__).parents[1] / "src/firn/core/sound/syllables"


def rendered(phonemes: str) -> np.ndarray:
    command = ["espeak-ng", "-v", "en-us", "-s", "320", "-p", "45", "--stdout", f"[[{phonemes}]]"]
    wav = subprocess.run(command, capture_output=True, check=True).stdout
    sound, rate = soundfile.read(io.BytesIO(wav), dtype="float64")
    assert rate == RATE
    loud = np.flatnonzero(np.abs(sound) > 0.02 * np.abs(sound).max())
    return sound[max(0, loud[0] - round(BEFORE_S * RATE)) : loud[-1] + 120]


def vowel_onset(sound: np.ndarray) -> int:
    low = signal.sosfiltfilt(signal.butter(2, 1000, "low", fs=RATE, output="sos"), sound)
    frame = RATE // 200
    energy = np.add.reduceat(low**2, np.arange(0, len(low), frame))
    return int(np.flatnonzero(energy >= energy.max() / 3)[0]) * frame


def level(sound: np.ndarray, at: int) -> np.ndarray:
    """A half with its vowel at one loudness."""
    vowel = sound[at : at + round(0.06 * RATE)]
    return sound / max(1e-9, np.sqrt(np.mean(vowel**2))) * 0.12


def main() -> None:
    halves: list[np.ndarray] = []
    index: dict[str, list[int]] = {}
    at = 0
    for vowel, said in VOWELS.items():
        for onset, phoneme in ONSETS.items():
            sound = rendered(phoneme + said)
            begins = vowel_onset(sound)
            half = level(sound, begins)[: begins + round(HALF_S * RATE)]
            index[f"{onset}|{vowel}"] = [at, len(half), begins]
            halves.append(half)
            at += len(half)
        for coda, phoneme in {"": "", **CODAS}.items():
            sound = rendered(said + phoneme)
            begins = vowel_onset(sound)
            half = level(sound, begins)[begins + round(0.03 * RATE) :]
            fade = min(300, len(half) // 4)
            half[-fade:] *= np.linspace(1, 0, fade)
            index[f"{vowel}|{coda}"] = [at, len(half), 0]
            halves.append(half)
            at += len(half)
    everything = np.clip(np.concatenate(halves), -0.99, 0.99)
    with soundfile.SoundFile(
        OUT.with_suffix(".ogg"), "w", RATE, 1, "VORBIS", format="OGG", compression_level=0.6
    ) as out:
        # libsndfile 1.2 crashes on long blocks.
        for start in range(0, len(everything), 4096):
            out.write(everything[start : start + 4096])
    OUT.with_suffix(".json").write_text(json.dumps(index), "utf-8")
    print(f"{len(index)} halves, {at / RATE:.0f} s, {OUT.with_suffix('.ogg').stat().st_size / 1000:.0f} kB")


if __name__ == "__main__":
    main()
