"""Times read as counts: rhythms of tunes, struck with a spread, at a tempo that creeps; beside plain rounding."""

import time
from fractions import Fraction

import numpy as np
from tests.rhythms import COMPOUND, played, rhythms, right, right_apart, rounded

from benchmarks.report import figure, heading
from firn.core.quantise.quantise import quantise

MANY = 24
SEED = 11


def tapping() -> None:
    """Nine points of tempo and spread; the meter is said, the tempo is not. Nothing was learnt from this book."""
    heading(f"Taps into counts: {MANY} tunes, 3 % of creep, tempo unknown")
    tunes = rhythms(60)[::2][:MANY]
    took, many = 0.0, 0
    for tempo in (90, 120, 160):
        for jitter in (8, 15, 25):
            rng = np.random.default_rng(SEED)
            scores = []
            for tune in tunes:
                times = played(tune, tempo, jitter, rng)
                began = time.perf_counter()
                read: list[Fraction] = list(quantise(times, compound=tune.meter in COMPOUND)[0].places)
                took += time.perf_counter() - began
                many += 1
                scores.append((right_apart(read, tune), right(read, tune), right(rounded(times, tune), tune)))
            apart, strict, rounding = np.mean(scores, axis=0)
            wanted = "97 %, " if (tempo, jitter) == (120, 15) else ""
            figure(
                f"at {tempo}, {jitter} ms: right from the first sound",
                f"{100 * apart:.1f} %, in the count too {100 * strict:.1f} %",
                f"{wanted}errors half of rounding's: {100 * rounding:.1f} %",
            )
    figure("a tune", f"{1000 * took / many:.0f} ms")
