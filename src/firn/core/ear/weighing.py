"""Which of the places at which something begins to sound are a foot's: each weighed beside all others around it.

The network of `activation.py` sees a quarter of a second to either side. A drum out of a loudspeaker, the room's
answer, a slide that swells again or a consonant are told from feet by what else there is in a recording: by what is
louder, what is like it, and what comes at the same distance. A small transformer (after Vaswani et al. 2017) looks at
each place with those of eight seconds around. Trained as the network was, on takes that it had not met:
tools/ear/ makes it anew.
"""

from collections.abc import Iterator, Sequence
from functools import lru_cache
from pathlib import Path
from typing import NamedTuple

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
    blocks = list(_blocks(times_s))
    for layer in range(sum(name.startswith("q") for name in weights)):
        h = h + _attended(_normed(h), blocks, weights, layer)
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
    last = len(heard.seen) - 1
    means = [
        np.mean([heard.seen[np.clip(peaks + by, 0, last)] for by in range(first, end + 1)], axis=0)
        for first, end in AROUND
    ]
    return np.concatenate(
        [
            np.stack(beside, axis=1),
            heard.inner[peaks],
            *(one[:, :bands] for one in means),
            means[RISEN][:, bands:],
            np.tile(heard.usual[:bands], (len(peaks), 1)),
        ],
        axis=1,
        dtype=np.float32,
    )


class _Block(NamedTuple):
    """Some places, those around them, how near each lies to each, and which lie too far."""

    own: slice
    around: slice
    related: Floats
    far: npt.NDArray[np.bool_]


def _blocks(times_s: FloatArray) -> Iterator[_Block]:
    for first in range(0, len(times_s), BLOCK):
        last = min(len(times_s), first + BLOCK)
        low, high = np.searchsorted(times_s, [times_s[first] - FAR_S, times_s[last - 1] + FAR_S])
        away = (times_s[first:last, None] - times_s[None, low:high]).astype(np.float32)
        near = np.exp(-np.abs(away)[..., None] / np.array(TIMES_S, dtype=np.float32))
        related = [near * (away > 0)[..., None], near * (away < 0)[..., None], (away == 0)[..., None]]
        yield _Block(
            slice(first, last),
            slice(int(low), int(high)),
            np.concatenate(related, axis=-1, dtype=np.float32),
            np.abs(away) >= FAR_S,
        )


def _attended(h: Floats, blocks: Sequence[_Block], weights: dict[str, Floats], layer: int) -> Floats:
    """What each place takes from those around it."""
    size = h.shape[1] // HEADS
    query, key, value = (h @ weights[f"{name}{layer}"] for name in "qkv")
    out = np.empty_like(h)
    for own, around, related, far in blocks:
        for head in range(HEADS):
            part = slice(head * size, (head + 1) * size)
            score = query[own, part] @ key[around, part].T / np.float32(np.sqrt(size))
            score += related @ weights[f"r{layer}"][:, head]
            score[far] = -1e9
            share = np.exp(score - score.max(axis=1, keepdims=True))
            out[own, part] = share / share.sum(axis=1, keepdims=True) @ value[around, part]
    return np.asarray(out @ weights[f"o{layer}"])


def _normed(h: Floats) -> Floats:
    return np.asarray((h - h.mean(axis=1, keepdims=True)) / np.sqrt(h.var(axis=1, keepdims=True) + 1e-3))


@lru_cache(maxsize=1)
def _weights() -> dict[str, Floats]:
    with np.load(WEIGHTS) as kept:
        return {name: np.asarray(kept[name], dtype=np.float32) for name in kept.files}
