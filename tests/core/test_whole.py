"""A take as a whole: planted creep, loudness, holds and feet are what is said."""

import unittest

import numpy as np

from firn.core.ear.onsets import Onsets
from firn.core.ear.targets import targets_of
from firn.core.ear.verdict import Verdict, judge
from firn.core.ear.whole import whole
from firn.core.ear.words import facts
from firn.core.piece.piece import Part
from tests.support import part

A = "8 stomp  1 hop  2 step  &3 flap  & step\n4 stomp  5 hop  6 step  &7 flap  & step"
HOLD = "8 stomp 1 hop 2 step &3 flap 4 step 5 stamp 6-7 hold"


def taken(
    one: Part, *, bend: float = 0.0, passes: int = 2, late: dict | None = None, db: dict | None = None
) -> Verdict:
    """A take by exact times: `bend` lengthens it towards its end, `late` (ms) and `db` by the part's sound."""
    targets = targets_of(one.sounds, 120, counts=one.counts, passes=passes)
    times = np.array([t.seconds for t in targets])
    took = times + bend * times**2 + 0.5
    took += np.array([(late or {}).get(t.sounds[0], 0.0) for t in targets]) / 1000
    levels = np.array([-15.0 + (db or {}).get(t.sounds[0], 0.0) for t in targets])
    return judge(one, 120, Onsets(took, levels), passes=passes)


class WholeTest(unittest.TestCase):
    def test_steady_even_alike(self) -> None:
        one = part(A)
        take = whole(one, taken(one))
        self.assertAlmostEqual(take.faster or 0, 0, delta=0.01)
        self.assertAlmostEqual(take.range_db, 0)
        self.assertEqual((take.uneven, take.holds), ((), ()))
        self.assertEqual([f.split(":")[0] for f in facts(one, take)], ["Steady", "Even", "Left and right alike"])

    def test_a_tempo_that_creeps(self) -> None:
        """Time as t + b t² means a tempo of 120 / (1 + 2 b t): its change over the take in closed form."""
        one = part(A)
        bend = 0.002
        verdict = taken(one, bend=bend)
        last = targets_of(one.sounds, 120, counts=8, passes=2)[-1].seconds
        expected = 120 / (1 + 2 * bend * last) - 120
        self.assertAlmostEqual(whole(one, verdict).faster or 0, expected, delta=0.05)
        self.assertIn("The tempo crept: 3.6 slower over the take.", facts(one, whole(one, verdict)))

    def test_one_sound_too_loud(self) -> None:
        one = part(A)
        take = whole(one, taken(one, db={2: 9.0}))
        self.assertEqual([u.sound for u in take.uneven], [2])
        self.assertIn("Uneven: the right step on 2 is 9 dB louder than others of its kind.", facts(one, take))

    def test_an_accent_is_meant(self) -> None:
        one = part(A.replace("2 step", "2 step!"))
        self.assertEqual(whole(one, taken(one, db={2: 9.0})).uneven, ())

    def test_holds(self) -> None:
        one = part(HOLD)
        self.assertEqual([kept for _, kept in whole(one, taken(one)).holds], [True])
        self.assertIn("The hold was kept.", facts(one, whole(one, taken(one))))

    def test_one_foot_less_sure(self) -> None:
        one = part(A)
        left = {i: 40.0 * (-1) ** i for i, s in enumerate(one.sounds) if s.foot == "left"}
        said = facts(one, whole(one, taken(one, late=left)))
        self.assertTrue(any(s.startswith("The left is less sure than the right") for s in said), said)

    def test_few_sounds_say_nothing_of_tempo(self) -> None:
        one = part("1 step 2 step 3 step")
        self.assertIsNone(whole(one, taken(one, passes=1)).faster)


if __name__ == "__main__":
    unittest.main()
