"""A small network is taught anew where JAX is (requirements-train.lock), goes on, and runs alike in NumPy."""

import importlib.util
import tempfile
import unittest
from pathlib import Path
from unittest import mock

import numpy as np

from firn.core.ear import activation, weighing
from firn.core.ear.activation import HOP_S, Heard, features

RATE = 8_000
THERE = all(importlib.util.find_spec(name) for name in ("jax", "optax"))


def example(seed: int) -> tuple[np.ndarray, np.ndarray]:
    """Four seconds of clicks in noise, and where they are."""
    rng = np.random.default_rng(seed)
    sound = rng.normal(0, 0.002, 4 * RATE)
    times = np.cumsum(rng.uniform(0.15, 0.5, 12))
    times = times[times < 3.8]
    for time in times:
        first = round(time * RATE)
        sound[first : first + 200] += 0.4 * rng.standard_normal(200) * np.exp(-np.arange(200) / 30)
    seen = features(sound.astype(np.float32), RATE)
    wanted = np.zeros(len(seen), np.float16)
    wanted[np.round(times / HOP_S).astype(int)] = 1
    return seen.astype(np.float16), wanted


@unittest.skipUnless(THERE, "JAX is not here: the network cannot be taught")
class LearnTest(unittest.TestCase):
    def test_a_small_one_learns_and_goes_on(self) -> None:
        from tools.ear.learn import forward, learn

        made = [example(seed) for seed in range(24)]
        seen, wanted = np.stack([s for s, _ in made[:20]]), np.stack([w for _, w in made[:20]])
        judge = np.stack([s for s, _ in made[20:]]), np.stack([w for _, w in made[20:]])
        said: list[str] = []
        with tempfile.TemporaryDirectory() as folder:
            at = Path(folder) / "checkpoint.npz"
            learn(seen, wanted, judge, epochs=1, channels=8, checkpoint=at, say=said.append)
            weights = learn(seen, wanted, judge, epochs=24, channels=8, checkpoint=at, say=said.append)
        self.assertEqual(len(said), 24, "it goes on from the epoch that was kept")
        first, last = (float(line.split()[2]) for line in (said[0], said[-1]))
        self.assertLess(last, 0.5 * first)
        sound = np.random.default_rng(5).normal(0, 0.1, 3 * RATE).astype(np.float32)
        with mock.patch.object(activation, "_weights", lambda: {k: np.asarray(w) for k, w in weights.items()}):
            ours = activation.activation(sound, RATE).logits
        theirs = np.asarray(forward(weights, features(sound, RATE)[None]))[0]
        inner = slice(activation.REACH, -activation.REACH)
        np.testing.assert_allclose(ours[inner], theirs[inner], atol=1e-4)


@unittest.skipUnless(THERE, "JAX is not here: the network cannot be taught")
class WeighTest(unittest.TestCase):
    def test_it_learns_what_only_the_others_around_tell(self) -> None:
        """A place is a foot's where the one before it has a mark: nothing of its own says so."""
        from tools.ear.weigh import Places, learn

        def made(seed: int) -> Places:
            rng = np.random.default_rng(seed)
            seen = rng.normal(0, 0.1, (60, 6)).astype(np.float32)
            seen[:, 0] = rng.choice([-1, 1], 60)
            wanted = np.append(0, seen[:-1, 0] > 0).astype(np.float32)
            return Places(np.cumsum(np.full(60, 0.2)), seen, wanted)

        said: list[str] = []
        weights = learn([made(n) for n in range(600)], [made(n) for n in range(600, 610)], epochs=16, say=said.append)
        first, last = (float(line.split()[2]) for line in (said[0], said[-1]))
        self.assertLess(last, 0.3 * first, said)
        one = made(500)
        kept = {name: np.asarray(w, dtype=np.float32) for name, w in weights.items()}
        heard = Heard(np.zeros((1, 2)), np.zeros(2), np.zeros(1), np.zeros((1, 1)))
        with (
            mock.patch.object(weighing, "_weights", lambda: kept),
            mock.patch.object(weighing, "seen_of", lambda *_: one.seen),
        ):
            ours = weighing.weighed(heard, np.arange(60), one.times_s, np.zeros(60))
        self.assertGreater(np.mean((ours > 0) == one.wanted), 0.95)
        from tools.ear.weigh import forward

        seen = (one.seen - weights["mu"]) / weights["sd"]
        theirs = forward(weights, seen[None], one.times_s[None].astype(np.float32), np.ones((1, 60), bool))[0]
        np.testing.assert_allclose(ours, np.asarray(theirs), atol=1e-3)


if __name__ == "__main__":
    unittest.main()
