"""Socks: a take that stands out of its room too little says so, and from what level on it would do."""

import unittest

import numpy as np

from firn.core.ear.doubts import doubts
from firn.core.ear.faint import ENOUGH_DB, faint
from firn.core.ear.onsets import NONE, Onsets, find_onsets
from firn.core.ear.overdriven import overdriven
from firn.core.ear.routine import Routine
from firn.core.ear.targets import targets_of
from firn.core.ear.undisturbed import routine_of, verdict_of
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

    def test_what_sounds_and_is_no_foot(self) -> None:
        """A voice of a few vowels, or a siren: loud enough, and nothing is heard that a foot does."""
        at = np.arange(12 * RATE) / RATE
        swell = np.clip(np.sin(2 * np.pi * 0.4 * at), 0, None) ** 2
        sound = 0.4 * swell * np.sin(2 * np.pi * 300 * at) + np.random.default_rng(4).normal(0, 1e-4, len(at))
        found = find_onsets(sound, RATE)
        self.assertEqual(len(found), 0)
        with self.assertRaisesRegex(NothingHeard, "is not plainly feet"):
            verdict_of(found, sound, RATE, lambda heard, task: judge(part(LINE), 120, heard, task=task))

    def test_a_take_in_socks_says_so(self) -> None:
        sound, _ = socks(-4)
        onsets = find_onsets(sound, RATE)
        with self.assertRaisesRegex(NothingHeard, f"Too soft to judge.*{ENOUGH_DB:.0f} would do.*clap"):
            verdict_of(onsets, sound, RATE, lambda heard, task: judge(part(LINE), 120, heard, task=task))

    def test_a_take_that_is_cut_off_at_the_top_says_so(self) -> None:
        """Twice over full scale and more: refused with what to do, or judged with a doubt; what only reaches it is
        not."""
        rng = np.random.default_rng(5)
        one = part(LINE)
        times = np.array([0.5 + t.seconds for t in targets_of(one.sounds, 120, counts=one.counts, passes=3)])
        strikes = np.zeros(20 * RATE)
        for time in times:
            first = round(time * RATE)
            strikes[first : first + 4_000] += rng.normal(0, 1, 4_000) * np.exp(-np.arange(4_000) / 600)
        strikes /= np.abs(strikes).max()
        self.assertFalse(overdriven(strikes))
        self.assertFalse(overdriven(np.sin(np.arange(RATE) * 0.03)))
        self.assertFalse(overdriven(np.zeros(RATE)))
        loud = np.clip(6 * strikes, -1, 1)
        self.assertTrue(overdriven(loud))
        heard = Onsets(times, np.zeros(len(times)))
        verdict = verdict_of(heard, loud, RATE, lambda on, task: judge(one, 120, on, task=task))
        self.assertTrue(verdict.cut_off)
        self.assertIn("recorded too loud", doubts("A", verdict)[-1])
        few = heard.only(np.arange(len(times)) % 7 == 0)
        with self.assertRaisesRegex(NothingHeard, "Recorded too loud: .* farther away"):
            verdict_of(few, loud, RATE, lambda on, task: judge(one, 120, on, task=task))

        def fits_badly(_: Onsets) -> Routine:
            raise NothingHeard("This hardly fits the combo.")

        with self.assertRaisesRegex(NothingHeard, "Recorded too loud"):
            routine_of(few, loud, RATE, fits_badly)
        with self.assertRaisesRegex(NothingHeard, "hardly fits"):
            routine_of(few, strikes, RATE, fits_badly)


if __name__ == "__main__":
    unittest.main()
