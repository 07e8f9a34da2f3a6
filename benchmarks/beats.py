"""Beats of feet that drift, beside librosa in the same run; mir_eval is the judge."""

import time

import mir_eval
import numpy as np
from tests import shoes, takes

from benchmarks.report import figure, heading
from firn.core.quantise.beats import beats_of, begins

SEEDS = range(12)


def beats() -> None:
    """Twelve takes of forty seconds, 80 to 160 counts a minute, drifting by up to 8 %; none was tuned on."""
    heading("Beats of feet that drift (seeds 0 to 11)")
    if takes.hits_folder() is None:
        print("  the recorded hits (sonic-pi-samples) could not be had: nothing measured")
        return
    import librosa

    ours, theirs, took = [], [], 0.0
    for seed in SEEDS:
        audio, truth = shoes.to_a_beat(seed)
        began = time.perf_counter()
        ours.append(mir_eval.beat.f_measure(truth, beats_of(begins(audio, shoes.RATE)).times_s))
        took += time.perf_counter() - began
        found = librosa.beat.beat_track(y=audio.astype(np.float32), sr=shoes.RATE, units="time")[1]
        theirs.append(mir_eval.beat.f_measure(truth, found))
    figure("Firn: F at ±70 ms", f"{np.mean(ours):.3f}, worst {min(ours):.2f}", ".95")
    figure("librosa: F at ±70 ms", f"{np.mean(theirs):.3f}, worst {min(theirs):.2f}")
    figure("a take of 40 s", f"{1000 * took / len(ours):.0f} ms")
