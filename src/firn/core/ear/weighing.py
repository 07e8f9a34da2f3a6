"""Which of the places at which something begins to sound are a foot's: each weighed beside all others around it.

The network of `activation.py` sees a quarter of a second to either side. A drum out of a loudspeaker, the room's
answer, a slide that swells again or a consonant are told from feet by what else there is in a recording: by what is
louder, what is like it, and what comes at the same distance. A small transformer (after Vaswani et al. 2017) looks at
each place with those of eight seconds around. Trained as the network was, on takes that it had not met:
tools/ear/ makes it anew.
"""

from functools import lru_cache
from pathlib import Path

import numpy as np
import numpy.typing as npt

from firn.core.ear.activation import Floats, Heard

FloatArray = npt.NDArray[np.float64]

WEIGHTS = Path(__file__).with_name("weighing.npz")

AROUND = ((-45, -25), (-24, -12), (-11, -6), (-5, -3), (-2, -1), (0, 1), (2, 4), (5, 9), (10, 17), (18, 30), (31, 50))
"""Frames about a place, first to last, over which the levels of the bands are told."""

RISEN = 6
"""Of these the one that is told re the quiet, too."""

BESIDE = (1, 2, 4, 8)
"""Frames before and after a place at which the activation is told."""

PLAIN = -0.5
"""Logits of the activation above which a place counts among those that are plain."""

FAR_S = 8.0
TIMES_S = (0.03, 0.1, 0.3, 1.0, 4.0)
HEADS = 4
LONGEST_S = 2.0

BLOCK = 200
"""Places that are weighed at a time."""


def weighed(heard: Heard, peaks: npt.NDArray[np.int_], times_s: FloatArray, levels_db: FloatArray) -> FloatArray:
    """How surely each place is a foot's, as logits, shape (n,).

    Parameters
    ----------
    heard : Heard
        What the network sees and says of the recording.
    peaks : array, shape (n,)
        The frames of the places, ascending.
    times_s, levels_db : array, shape (n,)
        When what begins there does, and how loud it is, in dB re full scale.
    """
    if not len(peaks):
        return np.zeros(0)
    weights = _weights()
    seen = (seen_of(heard, peaks, times_s, levels_db) - weights["mu"]) / weights["sd"]
    h = np.maximum(seen @ weights["in"] + weights["inb"], 0)
    for layer in range(sum(name.startswith("q") for name in weights)):
        h = h + _attended(_normed(h), times_s, weights, layer)
        inner = np.maximum(_normed(h) @ weights[f"m{layer}"] + weights[f"mb{layer}"], 0)
        h = h + inner @ weights[f"n{layer}"] + weights[f"nb{layer}"]
    return np.asarray((_normed(h) @ weights["out"] + weights["outb"])[:, 0], dtype=np.float64)


def seen_of(heard: Heard, peaks: npt.NDArray[np.int_], times_s: FloatArray, levels_db: FloatArray) -> Floats:
    """What is known of each place, shape (n, values); n is 1 or more."""
    logits, bands = heard.logits, heard.seen.shape[1] // 2
    at = logits[peaks]
    loud = float(np.percentile(levels_db, 90))
    plain = at > PLAIN
    loud_plain = float(np.percentile(levels_db[plain], 90)) if plain.any() else loud
    gaps, steps = np.diff(times_s), np.diff(levels_db)
    before, after = np.append(LONGEST_S, gaps), np.append(gaps, LONGEST_S)
    beside = [
        (levels_db - loud) / 20,
        (levels_db - loud_plain) / 20,
        np.log(np.minimum(before, LONGEST_S) + 0.01),
        np.log(np.minimum(after, LONGEST_S) + 0.01),
        np.append(0, -steps) / 20,
        np.append(steps, 0) / 20,
        (levels_db - levels_db.max()) / 60,
        at,
        *(logits[np.maximum(0, peaks - by)] for by in BESIDE),
        *(logits[np.minimum(len(logits) - 1, peaks + by)] for by in BESIDE),
    ]
    reach = max(-AROUND[0][0], AROUND[-1][1])
    padded = np.concatenate([heard.seen[:1].repeat(reach, 0), heard.seen, heard.seen[-1:].repeat(reach, 0)])
    sums = np.concatenate([np.zeros((1, padded.shape[1])), np.cumsum(padded, axis=0, dtype=np.float64)])
    means = [(sums[peaks + reach + b + 1] - sums[peaks + reach + a]) / (b - a + 1) for a, b in AROUND]
    quiet = np.median(heard.seen[:, :bands], axis=0)
    return np.concatenate(
        [
            np.stack(beside, axis=1),
            heard.inner[peaks],
            *(one[:, :bands] for one in means),
            means[RISEN][:, bands:],
            np.tile(quiet, (len(peaks), 1)),
        ],
        axis=1,
        dtype=np.float32,
    )


def _attended(h: Floats, times_s: FloatArray, weights: dict[str, Floats], layer: int) -> Floats:
    """What each place takes from those around it."""
    size = h.shape[1] // HEADS
    query, key, value = (h @ weights[f"{name}{layer}"] for name in "qkv")
    out = np.empty_like(h)
    for first in range(0, len(h), BLOCK):
        last = min(len(h), first + BLOCK)
        low, high = np.searchsorted(times_s, [times_s[first] - FAR_S, times_s[last - 1] + FAR_S])
        away = (times_s[first:last, None] - times_s[None, low:high]).astype(np.float32)
        near = np.exp(-np.abs(away)[..., None] / np.array(TIMES_S, dtype=np.float32))
        related = np.concatenate(
            [near * (away > 0)[..., None], near * (away < 0)[..., None], (away == 0)[..., None]], axis=-1
        )
        related = related @ weights[f"r{layer}"]
        related[np.abs(away) >= FAR_S] = -1e9
        for head in range(HEADS):
            own = slice(head * size, (head + 1) * size)
            score = query[first:last, own] @ key[low:high, own].T / np.sqrt(size) + related[..., head]
            share = np.exp(score - score.max(axis=1, keepdims=True))
            out[first:last, own] = share / share.sum(axis=1, keepdims=True) @ value[low:high, own]
    return np.asarray(out @ weights[f"o{layer}"])


def _normed(h: Floats) -> Floats:
    return np.asarray((h - h.mean(axis=1, keepdims=True)) / np.sqrt(h.var(axis=1, keepdims=True) + 1e-3))


@lru_cache(maxsize=1)
def _weights() -> dict[str, Floats]:
    with np.load(WEIGHTS) as kept:
        return {name: np.asarray(kept[name], dtype=np.float32) for name in kept.files}
