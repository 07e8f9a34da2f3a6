"""Teaches the network: what it looks like, what it is to say, and how it learns it."""

import time
from collections.abc import Callable, Sequence
from pathlib import Path

import jax
import jax.numpy as jnp
import numpy as np
import optax

from firn.core.ear.activation import HOP_S, features
from tools.ear.takes import take

CHANNELS, FIRST_TAPS, TAPS = 56, 5, 3
DILATIONS = tuple(2**n for n in range(7))
BATCH, FRAMES, EDGE = 16, 1_000, 50
CROPS = 4
"""Stretches of each take in an epoch."""

RATE, WARMED_UP = 2e-3, 200
KEPT = 0.999
"""The weights that are kept are a running mean: of each step so much stays."""

ON, BESIDE, HEAVIER = 1.0, 0.4, 3.0
"""What a frame on an onset, and beside one, is to say; how much more it counts than one of silence."""

Weights = dict[str, jax.Array]
Arrays = tuple[np.ndarray, np.ndarray]


def example(seed: int, soundfont: Path, voices: Sequence[Path]) -> Arrays:
    """What the network sees of a take, float16 (frames, bands), and what it is to say, (frames,)."""
    audio, times, rate = take(seed, soundfont, voices)
    seen = features(audio, rate)
    wanted = np.zeros(len(seen), np.float16)
    for frame in np.round(times / HOP_S).astype(int):
        for beside, value in ((-1, BESIDE), (0, ON), (1, BESIDE)):
            wanted[frame + beside] = max(wanted[frame + beside], value)
    return seen.astype(np.float16), wanted


def initial(bands: int, channels: int = CHANNELS) -> Weights:
    """Weights to begin with (He et al. 2015), the later layers' halved as each adds to what is there."""
    keys = jax.random.split(jax.random.PRNGKey(0), len(DILATIONS) + 2)

    def drawn(key: jax.Array, *shape: int) -> jax.Array:
        return jax.random.normal(key, shape) * np.sqrt(2 / (shape[0] * shape[1]))

    weights = {"w0": drawn(keys[0], FIRST_TAPS, bands, channels), "b0": jnp.zeros(channels)}
    for n in range(1, len(DILATIONS) + 1):
        weights[f"w{n}"] = drawn(keys[n], TAPS, channels, channels) / 2
        weights[f"b{n}"] = jnp.zeros(channels)
    return weights | {"wo": drawn(keys[-1], 1, channels, 1), "bo": jnp.zeros(1) - 3}


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
    """Cross entropy of each frame but those at the edges; what is near an onset counts more."""
    apart = optax.sigmoid_binary_cross_entropy(forward(weights, x), wanted) * (1 + HEAVIER * (wanted > 0))
    return apart[:, EDGE:-EDGE].mean()


def learn(
    seen: np.ndarray,
    wanted: np.ndarray,
    judge: Arrays,
    *,
    epochs: int,
    channels: int = CHANNELS,
    checkpoint: Path,
    say: Callable[[str], None] = print,
) -> dict[str, np.ndarray]:
    """The weights after so many epochs; goes on from the checkpoint where there is one.

    `seen` (takes, frames, bands) and `wanted` (takes, frames), as `judge` of takes that are not learnt from.
    """
    steps = epochs * CROPS * len(seen) // BATCH
    warmed = min(WARMED_UP, steps // 10)
    rule = optax.chain(
        optax.clip_by_global_norm(1.0),
        optax.adamw(optax.warmup_cosine_decay_schedule(0, RATE, warmed, steps), weight_decay=1e-4),
    )
    weights = initial(seen.shape[2], channels)
    state, mean, begun = rule.init(weights), weights, 0
    if checkpoint.exists():
        with np.load(checkpoint) as kept:
            begun = int(kept["epoch"])
            leaves, shape = jax.tree.flatten((weights, state, mean))
            read = [jnp.asarray(kept[f"leaf{n}"]) for n in range(len(leaves))]
            weights, state, mean = jax.tree.unflatten(shape, read)

    @jax.jit
    def step(
        weights: Weights, state: optax.OptState, mean: Weights, done: int, x: jax.Array, y: jax.Array
    ) -> tuple[Weights, optax.OptState, Weights]:
        change, state = rule.update(jax.grad(loss)(weights, x, y), state, weights)
        weights = optax.apply_updates(weights, change)
        # At first less stays, or what it began with would be in it for long.
        stays = jnp.minimum(KEPT, (1 + done) / (10 + done))
        return weights, state, jax.tree.map(lambda m, w: stays * m + (1 - stays) * w, mean, weights)

    for epoch in range(begun, epochs):
        began, rng = time.time(), np.random.default_rng(epoch)
        order = rng.permutation(np.repeat(np.arange(len(seen)), CROPS))
        for batch in range(0, len(order) - BATCH + 1, BATCH):
            firsts = rng.integers(0, seen.shape[1] - FRAMES, BATCH)
            pieces = [(t, slice(f, f + FRAMES)) for t, f in zip(order[batch : batch + BATCH], firsts, strict=True)]
            x = jnp.asarray(np.stack([seen[t, s] for t, s in pieces]), jnp.float32)
            y = jnp.asarray(np.stack([wanted[t, s] for t, s in pieces]), jnp.float32)
            done = (epoch * len(order) + batch) // BATCH
            weights, state, mean = step(weights, state, mean, done, x, y)
        judged = np.mean(
            [
                float(loss(mean, jnp.asarray(x[None], jnp.float32), jnp.asarray(y[None], jnp.float32)))
                for x, y in zip(*judge, strict=True)
            ]
        )
        say(f"epoch {epoch + 1}: {judged:.5f} on takes not learnt from, {time.time() - began:.0f} s")
        leaves = jax.tree.leaves((weights, state, mean))
        aside = checkpoint.with_suffix(".part.npz")
        np.savez(aside, epoch=epoch + 1, **{f"leaf{n}": np.asarray(leaf) for n, leaf in enumerate(leaves)})
        aside.replace(checkpoint)
    return {name: np.asarray(w) for name, w in mean.items()}
