"""The tempo of clicks that NumPy makes, none of Firn's voices: heard through the whole ear."""

import unittest

import numpy as np

from firn.core.ear.onsets import find_onsets
from firn.core.ear.verdict import judge
from firn.core.ear.whole import whole
from tests.support import cases, part

RATE = 44_100


def clicks(times_s: np.ndarray, rng: np.random.Generator, *, noise_db: float = -50.0) -> np.ndarray:
    """Bursts of a decaying sine at some times, in noise."""
    sound = rng.normal(0, 10 ** (noise_db / 20), round((times_s[-1] + 1) * RATE))
    at = np.arange(round(0.03 * RATE)) / RATE
    burst = 0.5 * np.sin(2 * np.pi * 1_800 * at) * np.exp(-at / 0.006)
    for time in times_s:
        first = round(time * RATE)
        sound[first : first + len(burst)] += burst
    return sound.astype(np.float32)


class MetronomeTest(unittest.TestCase):
    @cases(
        ("slow", 60.0, 60.0), ("as meant", 120.0, 120.0), ("a little off", 120.0, 117.3), ("fast", 200.0, 208.0),
        ("a fifth slower", 130.0, 110.0), ("not whole", 92.5, 91.9),
    )  # fmt: skip
    def test_tempo(self, _: str, meant: float, clicked: float) -> None:
        times = 0.7 + np.arange(16) * 60 / clicked
        heard = find_onsets(clicks(times, np.random.default_rng(5)), RATE)
        np.testing.assert_allclose(heard.times_s, times, atol=0.002)
        verdict = judge(part("1 step 2 step 3 step 4 step"), meant, heard)
        self.assertAlmostEqual(verdict.tempo, clicked, delta=0.05)
        self.assertEqual((verdict.mend.code, verdict.passes), ("clean", 4))

    @cases(("creeps up", 120.0, 126.0), ("drags", 120.0, 114.0), ("holds", 120.0, 120.0))
    def test_creep(self, _: str, first: float, last: float) -> None:
        gaps = 60 / np.linspace(first, last, 31)
        times = 0.5 + np.concatenate([[0.0], np.cumsum(gaps)])
        one = part("1 step 2 step 3 step 4 step")
        heard = find_onsets(clicks(times, np.random.default_rng(6)), RATE)
        faster = whole(one, judge(one, 120, heard, on_ms=100)).faster
        self.assertAlmostEqual(faster or 0.0, last - first, delta=0.6)


if __name__ == "__main__":
    unittest.main()
