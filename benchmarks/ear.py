"""Onsets beside librosa on recorded hits, and alignment on simulated takes."""

import time

import mir_eval
import numpy as np
from tests import takes

from benchmarks.report import figure, heading
from firn.core.ear.align import align, along
from firn.core.ear.onsets import find_onsets

TAKES = range(1000, 1020)
PATTERNS = {
    "time step": [-1, 0, 1, 1.5, 2, 2.5],
    "even steps": [0, 1, 2, 3],
    "paradiddle": [0, 0.25, 0.5, 0.75],
    "mixed": [0, 0.5, 0.75, 1, 2, 2.5, 3],
    "triplets": [0, 1 / 3, 2 / 3, 1, 2, 3],
}


def _score(found: list[np.ndarray], truths: list[np.ndarray]) -> tuple[float, float, float]:
    narrow = [mir_eval.onset.f_measure(t, f, window=0.01)[0] for t, f in zip(truths, found, strict=True)]
    wide = [mir_eval.onset.f_measure(t, f, window=0.05)[0] for t, f in zip(truths, found, strict=True)]
    away = [
        abs(f[j] - t[i])
        for t, f in zip(truths, found, strict=True)
        for i, j in mir_eval.util.match_events(t, f, 0.05)
    ]
    return float(np.mean(narrow)), float(np.mean(wide)), float(np.median(away)) * 1000


def onsets() -> None:
    """20 takes of 60 recorded CC0 hits, 2 to 8 a second, in rooms, noise at 25 to 40 dB; none was tuned on."""
    heading("Onsets, recorded hits in rooms (seeds 1000 to 1019)")
    if takes.hits_folder() is None:
        print("  the recorded hits (sonic-pi-samples) could not be had: nothing measured")
        return
    made = [takes.take(seed) for seed in TAKES]
    truths = [truth for _, truth in made]
    seconds = sum(len(audio) for audio, _ in made) / takes.RATE
    find_onsets(made[0][0], takes.RATE)
    began = time.perf_counter()
    found = [find_onsets(audio, takes.RATE).times_s for audio, _ in made]
    ours = time.perf_counter() - began
    narrow, wide, away = _score(found, truths)
    figure("Firn: F at ±10 ms", f"{narrow:.3f}", "0.95 or more, above librosa")
    figure("Firn: F at ±50 ms", f"{wide:.3f}")
    figure("Firn: median error", f"{away:.2f} ms", "under 2 ms")
    figure("Firn: times faster than real time", f"{seconds / ours:.0f}", "50")
    import librosa

    best = None
    for hop in (64, 128, 256, 512):
        librosa.onset.onset_detect(y=made[0][0], sr=takes.RATE, hop_length=hop, units="time")
        began = time.perf_counter()
        theirs = [
            librosa.onset.onset_detect(y=audio, sr=takes.RATE, hop_length=hop, units="time", backtrack=back)
            for back in (False,)
            for audio, _ in made
        ]
        took = time.perf_counter() - began
        score = (*_score(theirs, truths), hop, seconds / took)
        best = max(best or score, score)
    assert best is not None
    figure("librosa 0.11 at its best hop: F at ±10 ms", f"{best[0]:.3f} (hop {best[3]})")
    figure("librosa: F at ±50 ms", f"{best[1]:.3f}")
    figure("librosa: median error", f"{best[2]:.2f} ms")
    figure("librosa: times faster than real time", f"{best[4]:.0f}")
    figure("Firn to librosa, F at ±10 ms", f"{narrow / best[0]:.2f}")


def hard() -> None:
    """120 hard takes, and a minute each of what holds no foot; none was tuned on."""
    heading("Onsets, hard takes (seeds 2000 to 2119): 1 to 16 a second, 20 dB, noise to 10 dB, 8 to 48 kHz")
    if takes.hits_folder() is None:
        print("  the recorded hits (sonic-pi-samples) could not be had: nothing measured")
        return
    found, truths = [], []
    for seed in range(2_000, 2_120):
        audio, truth, rate = takes.hard_take(seed)
        found.append(find_onsets(audio, rate).times_s)
        truths.append(truth)
    narrow, wide, _ = _score(found, truths)
    figure("Firn: F at ±10 ms", f"{narrow:.3f}", "0.96 or more")
    figure("Firn: F at ±10 ms, the first 40 of them", f"{_score(found[:40], truths[:40])[0]:.3f}")
    figure("Firn: F at ±50 ms", f"{wide:.3f}")
    for kind in takes.QUIET:
        many = [len(find_onsets(takes.quiet(kind, seed), 48_000)) for seed in range(3)]
        wanted = "under 20" if kind == "speech" else "under 1"
        figure(f"false onsets a minute in {kind}", f"{np.mean(many):.1f}", wanted)


def _simulated(rng: np.random.Generator) -> tuple[np.ndarray, np.ndarray, np.ndarray, np.ndarray]:
    """Target, true times in the take, onsets, and the target of each onset (-1: extra)."""
    name = list(PATTERNS)[rng.integers(len(PATTERNS))]
    span = 1 if name == "paradiddle" else 4
    passes = int(rng.integers(4, 9)) * (4 if span == 1 else 1)
    tempo = rng.uniform(80, 110 if span == 1 else 160)
    target = np.concatenate([np.array(PATTERNS[name]) + span * k for k in range(passes)]) * 60 / tempo
    target -= target[0]
    drift = rng.uniform(-0.03, 0.03)
    true = rng.uniform(0.8, 1.2) * (target + drift * target**2 / (2 * target[-1])) + rng.uniform(0.3, 3)
    heard = true + rng.normal(0, 0.020, len(true))
    kept = rng.random(len(true)) >= 0.1
    extra = rng.uniform(true[0], true[-1], rng.binomial(len(true), 0.1))
    onsets_s = np.concatenate([heard[kept], extra])
    source = np.concatenate([np.flatnonzero(kept), np.full(len(extra), -1)])
    order = np.argsort(onsets_s)
    return target, true, onsets_s[order], source[order]


def alignment() -> None:
    """500 takes: tempo ±20 %, drift to 3 %, 10 % missing, 10 % extra, jitter of 20 ms.

    Where several starts fit, the true one among those offered is taken, as its dancer would say. An onset nearer
    another target than its own, or farther from its target than an extra sound is, is not scored.
    """
    heading("Alignment, 500 simulated takes")
    right = scored = off = unsaid = 0
    began = time.perf_counter()
    for seed in range(500):
        target, true, heard, source = _simulated(np.random.default_rng(seed))
        laid = align(target, heard)
        assert laid is not None
        beat = float(np.median(np.diff(true)))
        if abs(np.median(laid.expected_s - true)) > beat / 2:
            off += 1
            lines = sorted(laid.others, key=lambda line: abs(np.median(line[1] + line[0] * target - true)))
            chosen = along(target, heard, *lines[0]) if lines else None
            if chosen is None or abs(np.median(chosen.expected_s - true)) > beat / 2:
                unsaid += 1
            else:
                laid = chosen
        pairs = {j: i for i, j in laid.pairs}
        for j, i in enumerate(source):
            if i < 0 or np.argmin(np.abs(true - heard[j])) != i:
                continue
            rivals = np.abs(heard[source < 0] - true[i])
            if len(rivals) and rivals.min() < abs(heard[j] - true[i]):
                continue
            scored += 1
            right += pairs.get(j) == i
    took = time.perf_counter() - began
    figure("pairs right", f"{100 * right / scored:.2f} % of {scored}", "98 %")
    figure("another start laid first, the true one offered", f"{off - unsaid}")
    figure("locked off, the true start not offered", f"{unsaid}", "0")
    figure("a take", f"{took / 500 * 1000:.0f} ms")
