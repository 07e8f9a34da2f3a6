"""Teaches the second network: which of the places at which something begins to sound are a foot's."""

import time
from collections.abc import Callable, Sequence
from pathlib import Path
from typing import NamedTuple

import jax
import jax.numpy as jnp
import numpy as np
import optax

from firn.core.ear.onsets import places_in
from firn.core.ear.weighing import FAR_S, HEADS, TIMES_S, seen_of
from tools.ear.takes import alike, take

SIZE, LAYERS = 64, 2
TOGETHER = 160
"""So many places of a take are looked at together."""

BATCH = 24
RATE, WARMED_UP, DECAY = 1.5e-3, 100, 0.02
DROPPED = 0.2
KEPT = 0.998
NEAR_S = 0.01

ALIKE_EVERY = 5
"""Of so many takes one is of one and the same sound."""

VALUES = 345
"""What is known of a place."""

Weights = dict[str, jax.Array]


class Places(NamedTuple):
    """The places of a take: when, shape (n,); what is known of each, (n, values); and which are a foot's."""

    times_s: np.ndarray
    seen: np.ndarray
    wanted: np.ndarray


def places(seed: int, soundfont: Path, voices: Sequence[Path]) -> Places:
    """Those of a take that the first network has not met."""
    audio, truth, rate = (alike if seed % ALIKE_EVERY == 0 else take)(seed, soundfont, voices)
    found = places_in(audio, rate)
    if not len(found.times_s):
        return Places(np.zeros(0), np.zeros((0, VALUES), np.float32), np.zeros(0, np.float32))
    seen = seen_of(found.heard, found.frames, found.times_s, found.levels_db)
    return Places(found.times_s, seen, _of_feet(found.times_s, found.heard.logits[found.frames], truth))


def _of_feet(times_s: np.ndarray, logits: np.ndarray, truth: np.ndarray) -> np.ndarray:
    """1 for each place within 10 ms of a true onset, one of each, the surest; 0 for the others."""
    wanted, free = np.zeros(len(times_s), np.float32), list(truth)
    for place in np.argsort(-logits):
        away = np.abs(np.array(free) - times_s[place])
        if len(away) and away.min() <= NEAR_S:
            wanted[place] = 1
            free.pop(int(np.argmin(away)))
    return wanted


def initial(values: int, seed: int = 0) -> Weights:
    """Weights to begin with; what each layer adds is small."""
    keys = iter(jax.random.split(jax.random.PRNGKey(seed), 40))

    def drawn(rows: int, columns: int, gain: float = 1.0) -> jax.Array:
        return jax.random.normal(next(keys), (rows, columns)) * gain / np.sqrt(rows)

    weights = {"in": drawn(values, SIZE), "inb": jnp.zeros(SIZE), "out": drawn(SIZE, 1, 0.1), "outb": jnp.zeros(1)}
    for layer in range(LAYERS):
        weights |= {f"{name}{layer}": drawn(SIZE, SIZE) for name in "qkv"}
        weights |= {f"o{layer}": drawn(SIZE, SIZE, 0.3), f"r{layer}": drawn(2 * len(TIMES_S) + 1, HEADS)}
        weights |= {f"m{layer}": drawn(SIZE, 2 * SIZE, 1.4), f"mb{layer}": jnp.zeros(2 * SIZE)}
        weights |= {f"n{layer}": drawn(2 * SIZE, SIZE, 0.3), f"nb{layer}": jnp.zeros(SIZE)}
    return weights


def _normed(h: jax.Array) -> jax.Array:
    return (h - h.mean(-1, keepdims=True)) / jnp.sqrt(h.var(-1, keepdims=True) + 1e-3)


def forward(
    weights: Weights, seen: jax.Array, times_s: jax.Array, there: jax.Array, key: jax.Array | None = None
) -> jax.Array:
    """Logits (takes, places): the same as firn.core.ear.weighing has in NumPy; with a key some of it is dropped."""
    keys = iter(jax.random.split(jax.random.PRNGKey(0) if key is None else key, 2 * LAYERS + 1))

    def dropped(h: jax.Array) -> jax.Array:
        drawn = jax.random.bernoulli(next(keys), 1 - DROPPED, h.shape)
        return h if key is None else h * drawn / (1 - DROPPED)

    h = jax.nn.relu(dropped(seen) @ weights["in"] + weights["inb"])
    away = times_s[:, :, None] - times_s[:, None, :]
    near = jnp.exp(-jnp.abs(away)[..., None] / jnp.array(TIMES_S))
    related = jnp.concatenate(
        [near * (away > 0)[..., None], near * (away < 0)[..., None], (away == 0)[..., None]], -1
    )
    beside = (jnp.abs(away) < FAR_S) & there[:, None, :]
    for layer in range(LAYERS):
        inner = _normed(h)
        split = (*inner.shape[:2], HEADS, SIZE // HEADS)
        query, key_, value = ((inner @ weights[f"{name}{layer}"]).reshape(split) for name in "qkv")
        score = jnp.einsum("bihd,bjhd->bijh", query, key_) / np.sqrt(SIZE // HEADS) + related @ weights[f"r{layer}"]
        share = jax.nn.softmax(jnp.where(beside[..., None], score, -1e9), axis=2)
        taken = jnp.einsum("bijh,bjhd->bihd", share, value).reshape(h.shape)
        h = h + dropped(taken @ weights[f"o{layer}"])
        inner = jax.nn.relu(_normed(h) @ weights[f"m{layer}"] + weights[f"mb{layer}"])
        h = h + dropped(inner @ weights[f"n{layer}"] + weights[f"nb{layer}"])
    return (_normed(h) @ weights["out"] + weights["outb"])[..., 0]


def _loss(weights: Weights, batch: Sequence[jax.Array], key: jax.Array | None) -> jax.Array:
    seen, times_s, wanted, there = batch
    apart = optax.sigmoid_binary_cross_entropy(forward(weights, seen, times_s, there, key), wanted)
    return (apart * there).sum() / there.sum()


def _padded(takes: Sequence[Places], mean: np.ndarray, spread: np.ndarray) -> tuple[np.ndarray, ...]:
    """Takes cut into so many places, shapes (pieces, TOGETHER, ...): seen, times, wanted, and which are there."""
    rows = []
    for one in takes:
        seen = (one.seen - mean) / spread
        for first in range(0, len(seen), TOGETHER):
            piece = slice(first, first + TOGETHER)
            lacks = TOGETHER - len(seen[piece])
            rows.append(
                (
                    np.pad(seen[piece], ((0, lacks), (0, 0))).astype(np.float16),
                    np.pad(one.times_s[piece], (0, lacks)).astype(np.float32),
                    np.pad(one.wanted[piece], (0, lacks)).astype(np.float32),
                    np.arange(TOGETHER) < TOGETHER - lacks,
                )
            )
    return tuple(np.stack(column) for column in zip(*rows, strict=True))


def learn(
    takes: Sequence[Places],
    judge: Sequence[Places],
    *,
    epochs: int,
    seed: int = 0,
    say: Callable[[str], None] = print,
) -> dict[str, np.ndarray]:
    """The weights after so many epochs, a running mean of them; `judge`: takes that are not learnt from."""
    every = np.concatenate([one.seen for one in takes])
    mean, spread = every.mean(axis=0), every.std(axis=0) + 1e-3
    learnt, judged = _padded(takes, mean, spread), _padded(judge, mean, spread)
    steps = epochs * len(learnt[0]) // BATCH
    warmed = min(WARMED_UP, steps // 10)
    rule = optax.adamw(optax.warmup_cosine_decay_schedule(0, RATE, warmed, steps), weight_decay=DECAY)
    weights = initial(every.shape[1], seed)
    state, kept, done, key = rule.init(weights), weights, 0, jax.random.PRNGKey(seed)

    @jax.jit
    def step(weights: Weights, state: optax.OptState, kept: Weights, done: int, batch: list, key: jax.Array) -> tuple:
        change, state = rule.update(jax.grad(_loss)(weights, batch, key), state, weights)
        weights = optax.apply_updates(weights, change)
        stays = jnp.minimum(KEPT, (1 + done) / (10 + done))
        return weights, state, jax.tree.map(lambda m, w: stays * m + (1 - stays) * w, kept, weights)

    measured = jax.jit(lambda weights, batch: _loss(weights, batch, None))
    rng = np.random.default_rng(seed)
    for epoch in range(epochs):
        began, order = time.time(), rng.permutation(len(learnt[0]))
        for first in range(0, len(order) - BATCH + 1, BATCH):
            batch = [jnp.asarray(column[order[first : first + BATCH]]) for column in learnt]
            batch[0] = batch[0].astype(jnp.float32)
            key, drawn = jax.random.split(key)
            weights, state, kept = step(weights, state, kept, done, batch, drawn)
            done += 1
        pieces = range(0, len(judged[0]), BATCH)
        losses = [float(measured(kept, [jnp.asarray(column[n : n + BATCH]) for column in judged])) for n in pieces]
        say(f"epoch {epoch + 1}: {np.mean(losses):.4f} on takes not learnt from, {time.time() - began:.0f} s")
    return {"mu": mean, "sd": spread, **{name: np.asarray(w) for name, w in kept.items()}}
