"""Two who dance at once are told to be two; one alone never is. Takes are made by `tests.dancers`."""

import unittest

import numpy as np

from firn.core.ear.match import candidate_of
from firn.core.ear.onsets import Onsets
from firn.core.ear.two import two_in
from firn.core.ear.verdict import TwoDancers, judge
from tests import dancers
from tests.support import cases, part

STEPS = "1 step  & step  2 step  3 stamp  4 step  5 step  & step  6 step  7 stamp  8 hold"


def onsets(times: np.ndarray, levels: np.ndarray | None = None) -> Onsets:
    return Onsets(times, np.full(len(times), -20.0) if levels is None else levels)


def alone(seed: int, tempo: float = 110.0, **manner: object) -> dancers.Take:
    how = dancers.Manner(tempo, passes=(1.0,) * 3, missed=0.0, added=0.0, **manner)
    return dancers.danced(dancers.pattern_of(part(STEPS)), how, np.random.default_rng(seed))


class TwoTest(unittest.TestCase):
    def test_two_are_told(self) -> None:
        told = 0
        for seed in range(10):
            times = dancers.with_another(alone(seed), np.random.default_rng(seed))
            try:
                judge(part(STEPS), 110, onsets(times))
            except TwoDancers as fault:
                told += 1
                self.assertRegex(
                    str(fault), r"^Two seem to dance here: \d+ of \d+ sounds come twice, some \d+ ms apart\."
                )
        self.assertGreaterEqual(told, 8)

    def test_judged_all_the_same_where_it_is_asked_for(self) -> None:
        times = dancers.with_another(alone(1), np.random.default_rng(1))
        self.assertTrue(judge(part(STEPS), 110, onsets(times), anyway=True).judged)

    @cases(
        ("one alone", 0.0, 0.0, 0.0),
        ("an echo, as loud, always as long after", 0.06, 0.001, 0.0),
        ("a softer echo, not always as long after", 0.05, 0.03, -14.0),
    )
    def test_one_alone_is_one(self, _: str, after_s: float, spread_s: float, softer_db: float) -> None:
        rng = np.random.default_rng(3)
        times = alone(4).onsets_s
        levels = np.full(len(times), -20.0)
        if after_s:
            late = times + np.clip(after_s + rng.normal(0, spread_s, len(times)), 0.02, 0.085)
            order = np.argsort(np.concatenate([times, late]))
            levels = np.concatenate([levels, levels + softer_db])[order]
            times = np.concatenate([times, late])[order]
        this = candidate_of(part(STEPS), 110)
        assert this is not None
        self.assertIsNone(two_in(onsets(times, levels), this))

    @staticmethod
    def made(
        twice: int, single: int, *, louder_db: float = 0.0, gaps: tuple[float, ...] = (0.02, 0.05, 0.08)
    ) -> Onsets:
        """So many sounds half a second apart that come twice, and so many that do not."""
        times: list[float] = []
        levels: list[float] = []
        for number in range(twice + single):
            times.append(1 + number / 2)
            levels.append(-20.0)
            if number < twice:
                times.append(times[-1] + gaps[number % len(gaps)])
                levels.append(-20.0 + louder_db)
        return onsets(np.array(times), np.array(levels))

    @cases(
        ("four pairs", 4, 0, 0.0, None),
        ("five pairs", 5, 0, 0.0, (5, 5)),
        ("a third of them", 5, 10, 0.0, None),
        ("two in five", 6, 9, 0.0, (6, 15)),
        ("nine softer", 12, 0, -9.0, (12, 12)),
        ("eleven softer", 12, 0, -11.0, None),
    )
    def test_how_many_come_twice(
        self, _: str, twice: int, single: int, louder_db: float, wanted: tuple[int, int] | None
    ) -> None:
        this = candidate_of(part("1 step 2 step 3 step 4 step 5 step 6 step 7 step 8 step"), 120)
        assert this is not None
        two = two_in(self.made(twice, single, louder_db=louder_db), this)
        self.assertEqual(None if two is None else (two.twice, two.of), wanted)

    def test_how_far_apart_and_each_pair_as_one(self) -> None:
        this = candidate_of(part("1 step 2 step 3 step 4 step"), 120)
        assert this is not None
        two = two_in(self.made(6, 1), this)
        assert two is not None
        self.assertAlmostEqual(two.apart_ms, 50)
        self.assertEqual(len(two.one), 7)
        np.testing.assert_allclose(two.one.times_s[:2], [1.01, 1.525])
        self.assertIn("6 of 7 sounds come twice, some 50 ms apart", two.told)
        self.assertIsNone(two_in(self.made(12, 0, gaps=(0.05, 0.055)), this), "an echo is always as long after")

    @cases(
        ("few sounds", "1 step 2 step", 110.0, (1.0,)),
        ("its own sounds lie too near", "1 step 1+1/16 step 2 step 3 step 4 step 5 step", 140.0, (1.0,) * 3),
    )
    def test_nobody_can_tell(self, _: str, text: str, tempo: float, passes: tuple[float, ...]) -> None:
        how = dancers.Manner(tempo, passes=passes, missed=0.0, added=0.0)
        rng = np.random.default_rng(5)
        times = dancers.with_another(dancers.danced(dancers.pattern_of(part(text)), how, rng), rng)
        this = candidate_of(part(text), tempo)
        assert this is not None
        self.assertIsNone(two_in(onsets(times), this))


if __name__ == "__main__":
    unittest.main()
