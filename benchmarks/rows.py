"""Onsets row by row, on feet of a second synthesiser in rooms, phones and company that no training met."""

from collections.abc import Callable

import mir_eval
import numpy as np
from tests import shoes, takes

from benchmarks.report import figure, heading
from firn.core.ear.onsets import find_onsets

MANY = 12
WANTED = {
    "flams of 25 to 35 ms": "F .95",
    "slides and scrapes": "precision .92, F .93",
    "halls of 0.5 to 1 s": "F .95",
    "music from a loudspeaker": "precision .90, F .93",
    "talk under the feet": "precision .95, F .93",
    "a phone and its compressor": "F .97, worst .9",
    "loose plates": "F .93",
    "muffled soles": "F .93",
    "a brush 80 ms before a strike": "F .93",
}


def rows() -> None:
    """F, precision and recall at ±10 ms, and the worst take's F; twelve takes a row, none tuned on."""
    heading(f"Onsets by row (second synthesiser, seeds 0 to {MANY - 1})")
    if takes.hits_folder() is None or not shoes.voices():
        print("  the recorded hits or voices could not be had: nothing measured")
        return
    whole = [f for name, made in shoes.ROWS.items() for f in _row(name, made)]
    figure("all", f"F {np.mean(whole):.3f}", ".975")
    _row("quiet rooms, on a ground that sways", shoes.swaying)
    false = [len(find_onsets(*shoes.talking(seed)[::2])) for seed in range(5)]
    figure("false onsets a minute of talk", f"{np.mean(false):.1f}", "5")


def _row(name: str, made: Callable[[int], shoes.Take]) -> list[float]:
    """Prints the figures of a row; gives each take's F."""
    scores = []
    for seed in range(MANY):
        audio, truth, rate = made(seed)
        scores.append(mir_eval.onset.f_measure(truth, find_onsets(audio, rate).times_s, window=0.01))
    f, precision, recall = np.mean(scores, axis=0)
    worst = min(one[0] for one in scores)
    figure(name, f"F {f:.3f} P {precision:.3f} R {recall:.3f} worst {worst:.2f}", WANTED.get(name, ""))
    return [one[0] for one in scores]
