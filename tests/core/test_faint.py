"""Socks: a take that stands out of its room too little says so, and from what level on it would do."""

import unittest

import numpy as np

from firn.core.ear.faint import ENOUGH_DB, faint
from firn.core.ear.onsets import NONE, Onsets, find_onsets
from firn.core.ear.undisturbed import verdict_of
from firn.core.ear.verdict import NothingHeard, judge
from tests.support import part

RATE = 22_050
LINE = "1 step  2 step  & step  3 step  4 step  5 step  & step  6 step  7 step  8 step"


def socks(over_db: float) -> tuple[np.ndarray, np.ndarray]:
    """Dull thuds in a room's noise, and when they fall."""
    rng = np.random.default_rng(2)
    sound = rng.normal(0, 0.003, 20 * RATE)
    times = np.array([0.5 + n * 0.5 for n in range(36)])
    for time in times:
        first = round(time * RATE)
        thud = np.sin(2 * np.pi * 180 * np.arange(1_200) / RATE) * np.exp(-np.arange(1_200) / 300)
        sound[first : first + 1_200] += 0.003 * 10 ** (over_db / 20) * thud
    return sound, times


class FaintTest(unittest.TestCase):
    def test_soft_and_loud(self) -> None:
        soft, times = socks(2)
        self.assertIsNotNone(faint(soft, RATE, Onsets(times, np.zeros(len(times)))))
        loud, times = socks(40)
        self.assertIsNone(faint(loud, RATE, Onsets(times, np.zeros(len(times)))))

    def test_nothing_at_all(self) -> None:
        found = faint(np.random.default_rng(1).normal(0, 0.01, RATE), RATE, NONE)
        assert found is not None
        self.assertIn("nothing stands out of the room", found.told)

    def test_a_take_in_socks_says_so(self) -> None:
        sound, _ = socks(-4)
        onsets = find_onsets(sound, RATE)
        with self.assertRaisesRegex(NothingHeard, f"Too soft to judge.*{ENOUGH_DB:.0f} would do.*clap"):
            verdict_of(onsets, sound, RATE, lambda heard, task: judge(part(LINE), 120, heard, task=task))


if __name__ == "__main__":
    unittest.main()
