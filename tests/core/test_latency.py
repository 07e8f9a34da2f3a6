"""How late a device is, from claps with planted delays."""

import unittest

import numpy as np

from firn.core.ear.latency import NoLatency, latency
from tests.support import cases

CLICKS = np.arange(10) * 2 / 3 + 1.0


class LatencyTest(unittest.TestCase):
    @cases(
        ("a loop", 75.0, 0.0, 0), ("claps", 180.0, 8.0, 0), ("one missed", 60.0, 5.0, 1),
        ("half missed", 60.0, 5.0, 5), ("feet lead the click", -15.0, 5.0, 0), ("slow radio", 320.0, 8.0, 2),
    )  # fmt: skip
    def test_found(self, _: str, ms: float, spread: float, missed: int) -> None:
        rng = np.random.default_rng(2)
        heard = np.sort(CLICKS + (ms + rng.normal(0, spread, 10)) / 1000)[missed:]
        found = latency(heard, CLICKS)
        self.assertAlmostEqual(found.ms, ms, delta=2 + spread)
        self.assertGreaterEqual(found.claps, 9 - missed - (spread > 5))

    def test_other_sounds_do_no_harm(self) -> None:
        rng = np.random.default_rng(3)
        heard = np.sort(np.concatenate([CLICKS + 0.120, rng.uniform(0, 8, 12)]))
        self.assertAlmostEqual(latency(heard, CLICKS).ms, 120, delta=3)

    @cases(
        ("silence", [], "0 of 10 claps were heard"),
        ("few", CLICKS[:3] + 0.1, "3 of 10 claps were heard"),
        ("anywhere", [1.4, 2.1, 2.9, 3.2, 4.9, 5.1], "of 10 claps were heard"),
    )
    def test_too_little_to_tell(self, _: str, heard: list, message: str) -> None:
        with self.assertRaisesRegex(NoLatency, message):
            latency(heard, CLICKS)


if __name__ == "__main__":
    unittest.main()
