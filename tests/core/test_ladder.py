"""The ladder of tempos."""

import unittest

from firn.core.drills.ladder import Ladder, LadderError, rungs, tempo_bounds
from tests.support import cases, part


class LadderTest(unittest.TestCase):
    @cases(
        ("up", Ladder(100, 112, 4), [100, 104, 108, 112]),
        ("the last tempo is always there", Ladder(100, 110, 4), [100, 104, 108, 110]),
        ("down", Ladder(110, 100, 5), [110, 105, 100]),
        ("one", Ladder(100, 100, 5), [100]),
    )
    def test_tempos(self, _: str, ladder: Ladder, tempos: list[int]) -> None:
        self.assertEqual(list(dict.fromkeys(r.tempo for r in rungs(ladder))), tempos)

    def test_each_side_so_many_times(self) -> None:
        climbed = rungs(Ladder(100, 104, 4, times=2))
        self.assertEqual([(r.tempo, r.swapped, r.time, r.of) for r in climbed[:4]],
                         [(100, False, 1, 2), (100, False, 2, 2), (100, True, 1, 2), (100, True, 2, 2)])  # fmt: skip
        self.assertEqual(len(climbed), 8)
        self.assertEqual(len(rungs(Ladder(100, 104, 4, times=2, sides="as written"))), 4)

    def test_floor_and_ceiling_are_respected(self) -> None:
        self.assertEqual({r.tempo for r in rungs(Ladder(60, 100, 10), (80, 95))}, {80, 90})
        with self.assertRaisesRegex(LadderError, "danced between 150 and 400"):
            rungs(Ladder(60, 100, 10), (150, 400))

    def test_bounds_come_from_the_cards(self) -> None:
        self.assertEqual(tempo_bounds(part("1 jump 2 double pull-back 3 step")), (90, 400))
        self.assertEqual(tempo_bounds(part("1 step")), (20, 400))

    @cases(
        ("from nothing", Ladder(0, 100), "begins between 20 and 400 counts a minute, not at 0"),
        ("no number", Ladder(float("nan"), 100), "begins between"),
        ("too fast", Ladder(100, 500), "ends between"),
        ("no step", Ladder(100, 120, 0), "step of a ladder must be above 0"),
        ("a step that is no number", Ladder(100, 120, float("nan")), "must be above 0"),
        ("no times", Ladder(100, 120, 4, times=0), "Between 1 and 16 times"),
        ("too many rungs", Ladder(20, 400, 0.1), "too small"),
    )
    def test_one_that_cannot_be_climbed(self, _: str, ladder: Ladder, message: str) -> None:
        with self.assertRaisesRegex(LadderError, message):
            rungs(ladder)


if __name__ == "__main__":
    unittest.main()
