"""Beats of feet that drift, and of feet to a backing, beside librosa in the same run; mir_eval is the judge."""

import time
from collections.abc import Callable, Sequence
from fractions import Fraction

import mir_eval
import numpy as np
from scipy.signal import resample_poly
from tests import shoes, takes

from benchmarks.report import figure, heading
from firn.core.quantise.beats import beats_of, begins
from firn.core.script.settings import Settings
from firn.core.sound.model import render
from firn.core.sound.voices import RATE
from firn.core.timeline.mixing import Mixing
from firn.core.timeline.timeline import Section

DRIFTING, UNDER = range(36), range(500, 520)
FEET_OVER_DB = (-6, 6)

Made = tuple[np.ndarray, np.ndarray]


def beats() -> None:
    """Takes of forty seconds, 80 to 160 counts a minute; none was tuned on."""
    heading("Beats of feet that drift by up to 8 %, and of feet to a backing")
    if takes.hits_folder() is None:
        print("  the recorded hits (sonic-pi-samples) could not be had: nothing measured")
        return
    _judged("drifting", shoes.to_a_beat, DRIFTING, ".95")
    _judged("to Firn's backing, 6 dB over to 6 dB under the feet", _to_a_backing, UNDER, ".85")


def _judged(name: str, made: Callable[[int], Made], seeds: Sequence[int], wanted: str) -> None:
    import librosa

    ours, theirs, took = [], [], 0.0
    for seed in seeds:
        audio, truth = made(seed)
        began = time.perf_counter()
        ours.append(mir_eval.beat.f_measure(truth, beats_of(begins(audio, shoes.RATE)).times_s))
        took += time.perf_counter() - began
        found = librosa.beat.beat_track(y=audio.astype(np.float32), sr=shoes.RATE, units="time")[1]
        theirs.append(mir_eval.beat.f_measure(truth, found))
    figure(f"{name}: Firn, F at ±70 ms", f"{np.mean(ours):.3f}, worst {min(ours):.2f}", wanted)
    figure(f"  librosa, F at ±70 ms, of {len(seeds)}", f"{np.mean(theirs):.3f}, worst {min(theirs):.2f}")
    figure("  a take of 40 s", f"{1000 * took / len(ours):.0f} ms")


def _to_a_backing(seed: int) -> Made:
    """Feet at a steady tempo to Firn's own backing, straight or swung, and their beats."""
    rng = np.random.default_rng(seed)
    tempo = float(rng.uniform(80, 160))
    audio, counts = shoes.steady(rng, tempo)
    feel = "swing" if rng.random() < 0.5 else "straight"
    mixing = Mixing(tempo=tempo, steps=False, counts=False, beats=False, music=True)
    made = render(Section((), Settings(feel=feel).counting, Fraction(0), Fraction(len(counts)), mixing))
    backing = resample_poly(made.audio.mean(axis=1)[made.start :], shoes.RATE, RATE)
    at = round(counts[0] * shoes.RATE)
    under = np.zeros(len(audio))
    under[at : at + len(backing)] = backing[: len(audio) - at]
    level = 10 ** (rng.uniform(*FEET_OVER_DB) / 20)
    return audio + under * level * np.abs(audio).max() / np.abs(under).max(), counts
