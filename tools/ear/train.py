"""Trains the network: python -m tools.ear.train SOUNDFONT FOLDER_OF_SPEECH (see docs/ear.md for both).

Needs requirements-train.lock. Everything is seeded; on two cores it takes about an hour.
"""

import sys
import time
from functools import partial
from multiprocessing import get_context
from pathlib import Path
from typing import NamedTuple

import jax
import jax.numpy as jnp
import numpy as np
import optax

from firn.core.ear.activation import HOP_S, WEIGHTS, features
from tools.ear.takes import Kind, take

JUDGES, FIRST_JUDGE = 150, 500_000
CHANNELS, FIRST_TAPS, TAPS = 48, 5, 3
DILATIONS = tuple(2**n for n in range(7))
BATCH, FRAMES, EDGE = 16, 1_000, 50
WARMED_UP = 200
ON, BESIDE, HEAVIER = 1.0, 0.4, 3.0
"""What a frame on an onset, and beside one, is to say; how much more it counts than one of silence."""

Weights = dict[str, jax.Array]


class Round(NamedTuple):
    """A round of learning: takes of a kind, from a seed on, so many, so often, at a rate."""

    kind: Kind
    first: int
    many: int
    epochs: int
    rate: float


ROUNDS = (
    Round("first", 0, 6_600, 7, 2e-3),
    Round("any gap", 700_000, 2_600, 3, 6e-4),
    Round("soft", 910_000, 4_000, 5, 8e-4),
    Round("soft", 930_000, 5_000, 5, 6e-4),
)
"""Each hears other takes than the one before; what is kept is the mean of the last two."""


def example(seed: int, soundfont: Path, voices: list[Path], kind: Kind) -> tuple[np.ndarray, np.ndarray]:
    audio, times, rate = take(seed, soundfont, voices, kind=kind)
    seen = features(audio, rate)
    wanted = np.zeros(len(seen), np.float32)
    for frame in np.round(times / HOP_S).astype(int):
        for beside, value in ((-1, BESIDE), (0, ON), (1, BESIDE)):
            wanted[frame + beside] = max(wanted[frame + beside], value)
    return seen.astype(np.float16), wanted


def examples(seeds: range, soundfont: Path, voices: list[Path], kind: Kind) -> tuple[np.ndarray, np.ndarray]:
    # What JAX runs in its threads must not be forked.
    with get_context("spawn").Pool() as pool:
        made = pool.map(partial(example, soundfont=soundfont, voices=voices, kind=kind), seeds, chunksize=8)
    least = min(len(seen) for seen, _ in made)
    return np.stack([seen[:least] for seen, _ in made]), np.stack([wanted[:least] for _, wanted in made])


def initial(bands: int) -> Weights:
    keys = jax.random.split(jax.random.PRNGKey(0), len(DILATIONS) + 2)

    def drawn(key: jax.Array, *shape: int) -> jax.Array:
        return jax.random.normal(key, shape) * np.sqrt(2 / (shape[0] * shape[1]))

    weights = {"w0": drawn(keys[0], FIRST_TAPS, bands, CHANNELS), "b0": jnp.zeros(CHANNELS)}
    for n in range(1, len(DILATIONS) + 1):
        weights[f"w{n}"] = drawn(keys[n], TAPS, CHANNELS, CHANNELS) / 2
        weights[f"b{n}"] = jnp.zeros(CHANNELS)
    return weights | {"wo": drawn(keys[-1], 1, CHANNELS, 1), "bo": jnp.zeros(1) - 3}


def _conv(x: jax.Array, weights: jax.Array, dilation: int = 1) -> jax.Array:
    reach = dilation * (len(weights) - 1) // 2
    return jax.lax.conv_general_dilated(
        x, weights, (1,), [(reach, reach)], rhs_dilation=(dilation,), dimension_numbers=("NWC", "WIO", "NWC")
    )


def forward(weights: Weights, x: jax.Array) -> jax.Array:
    """Logits (takes, frames): the same as firn.core.ear.activation has in NumPy."""
    h = jax.nn.relu(_conv(x, weights["w0"]) + weights["b0"])
    for n, dilation in enumerate(DILATIONS, 1):
        h = h + jax.nn.relu(_conv(h, weights[f"w{n}"], dilation) + weights[f"b{n}"])
    return (_conv(h, weights["wo"]) + weights["bo"])[..., 0]


def loss(weights: Weights, x: jax.Array, wanted: jax.Array) -> jax.Array:
    apart = optax.sigmoid_binary_cross_entropy(forward(weights, x), wanted) * (1 + HEAVIER * (wanted > 0))
    return apart[:, EDGE:-EDGE].mean()


def train(
    weights: Weights,
    seen: np.ndarray,
    wanted: np.ndarray,
    judge: tuple[np.ndarray, np.ndarray],
    *,
    epochs: int,
    rate: float,
) -> Weights:
    steps = epochs * 4 * len(seen) // BATCH
    rates = optax.warmup_cosine_decay_schedule(0, rate, WARMED_UP, steps)
    rule = optax.chain(optax.clip_by_global_norm(1.0), optax.adamw(rates, weight_decay=1e-4))
    state = rule.init(weights)

    @jax.jit
    def step(weights: Weights, state: optax.OptState, x: jax.Array, y: jax.Array) -> tuple[Weights, optax.OptState]:
        change, state = rule.update(jax.grad(loss)(weights, x, y), state, weights)
        return optax.apply_updates(weights, change), state

    rng = np.random.default_rng(0)
    for epoch in range(epochs):
        began = time.time()
        order = rng.permutation(np.repeat(np.arange(len(seen)), 4))
        for batch in range(0, len(order) - BATCH + 1, BATCH):
            firsts = rng.integers(0, seen.shape[1] - FRAMES, BATCH)
            pieces = [(t, slice(f, f + FRAMES)) for t, f in zip(order[batch : batch + BATCH], firsts, strict=True)]
            x = jnp.asarray(np.stack([seen[t, s] for t, s in pieces]), jnp.float32)
            weights, state = step(weights, state, x, jnp.asarray(np.stack([wanted[t, s] for t, s in pieces])))
        judged = np.mean(
            [float(loss(weights, jnp.asarray(x[None], jnp.float32), y[None])) for x, y in zip(*judge, strict=True)]
        )
        print(f"epoch {epoch + 1}: {judged:.5f} on takes not trained on, {time.time() - began:.0f} s", flush=True)
    return weights


def main(soundfont: Path, voices: list[Path], begun: Path | None = None, rounds: int = 0) -> None:
    """Every round; only those after the first `rounds` where the weights that these gave are there."""
    weights: Weights | None = None
    if begun is not None:
        weights = {name: jnp.asarray(kept, jnp.float32) for name, kept in np.load(begun).items()}
    before: Weights | None = None
    for one in ROUNDS[rounds if begun is not None else 0 :]:
        before = weights
        judge = examples(range(FIRST_JUDGE, FIRST_JUDGE + JUDGES), soundfont, voices, one.kind)
        seen, wanted = examples(range(one.first, one.first + one.many), soundfont, voices, one.kind)
        weights = train(weights or initial(seen.shape[2]), seen, wanted, judge, epochs=one.epochs, rate=one.rate)
        kept = weights
        if one is ROUNDS[-1] and before is not None:
            # Rounds of one kind end in different places of the same valley: between them is lower.
            kept = {name: (w + before[name]) / 2 for name, w in weights.items()}
        np.savez_compressed(WEIGHTS, **{name: np.asarray(w, np.float16) for name, w in kept.items()})


if __name__ == "__main__":
    main(
        Path(sys.argv[1]), sorted(Path(sys.argv[2]).rglob("*.wav")), Path(sys.argv[3]) if sys.argv[3:] else None,
        int(sys.argv[4]) if sys.argv[4:] else 0,
    )  # fmt: skip
