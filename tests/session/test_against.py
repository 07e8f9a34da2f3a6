"""Taps held against a part that is written: which pass, at which tempo, on which side, and what is otherwise."""

import unittest
from fractions import Fraction

import numpy as np

from firn.core.script.combo_item import ordinal
from firn.core.steps.sides import ACROSS
from firn.errors import FirnError
from firn.session.against import held_against
from firn.session.tap_script import Tap
from tests.support import cases, part

PART = part("1 step  & step  2 step  3 stamp  & step  4 step  6 step  & step  7 step  8 stamp")


def tapped(
    tempo: float, *, passes: int = 1, other: bool = False, without: tuple[tuple[int, int], ...] = (),
    moved: dict[tuple[int, int], float] | None = None, more: tuple[float, ...] = (), feet: bool = True,
    words: dict[int, str] | None = None, spread_s: float = 0.02,
) -> list[Tap]:  # fmt: skip
    """PART as hands tap it along, so many passes; `without` and `moved`: sounds by pass and index; `more`: counts."""
    rng, beat = np.random.default_rng(4), 60 / tempo
    taps = []
    for number in range(passes):
        for n, sound in enumerate(PART.sounds):
            if (number, n) in without:
                continue
            at = (
                float(sound.position - PART.first_count)
                + number * float(PART.counts)
                + (moved or {}).get((number, n), 0.0)
            )
            foot = ACROSS[sound.foot] if other else sound.foot
            taps.append(
                Tap(3 + at * beat + rng.normal(0, spread_s), (words or {}).get(n, "step"), foot if feet else "")
            )
    taps += [Tap(3 + at * beat) for at in more]
    return sorted(taps, key=lambda tap: tap.at_s)


class AgainstTest(unittest.TestCase):
    @cases(
        ("as written", {}, "once through at 100 a minute, on the same side, nothing different."),
        ("on the other side", {"other": True}, "once through at 100 a minute, on the other side, nothing different."),
        ("no feet said", {"feet": False}, "once through at 100 a minute, nothing different."),
        ("twice, one left out", {"passes": 2, "without": ((1, 4),)},
         "twice through at 100 a minute, on the same side; the 2nd left out & after 3."),
        ("one too many", {"more": (4.5,)},
         "once through at 100 a minute, on the same side; has one too many after 4."),
        ("late", {"moved": {(0, 8): 0.3}}, "once through at 99 a minute, on the same side; came late on 7."),
        ("a heel for a step", {"words": {5: "heel"}},
         "once through at 100 a minute, on the same side; has a heel on 4, not a step."),
    )  # fmt: skip
    def test_what_is_otherwise(self, _: str, made: dict, said: str) -> None:
        found = held_against(PART, tapped(100, **made), 100)
        self.assertEqual(found.said, f"Held against A: {said}")

    @cases(("slowly", 55, 110), ("at full tempo", 132, 66), ("half read", 90, 45), ("as it was read", 90, 90))
    def test_at_whatever_tempo_it_was_read(self, _: str, tempo: float, read: float) -> None:
        found = held_against(PART, tapped(tempo, passes=2), read)
        self.assertAlmostEqual(found.tempo, tempo, delta=0.02 * tempo)
        self.assertEqual((found.passes, found.differences), (2, ()))

    def test_one_foot_otherwise(self) -> None:
        taps = tapped(100)
        taps[3] = Tap(taps[3].at_s, "step", ACROSS[taps[3].foot])
        found = held_against(PART, taps, 100)
        self.assertEqual(found.differences, ((1, f"has the {taps[3].foot} foot on 3"),))

    @cases(
        ("as it turns", [(0, 0), (4, 2), (8, 2), (12, 4)], ""),
        ("marked a little late", [(0.5, 0), (4.6, 2), (12.4, 4)], ""),
        ("from another wall", [(0, 6), (4, 0), (12, 2)], ""),
        ("the second to the left", [(0, 0), (4, 2), (12, 0)], "the 2nd faces the front on 5, not the back"),
        ("not turned in the first", [(0, 0), (5, 0), (12, 2)], "the 1st faces the front on 6, not the right wall"),
        ("faced since long before", [(-3, 0), (4, 4)], "the 1st faces the back on 5, not the right wall"),
        ("never marked", [], ""),
    )
    def test_one_that_turned_elsewhere(self, _: str, marks: list[tuple[float, int]], said: str) -> None:
        turning = part("1 step 2 step 3 step 4 step 5 turn 1/4 right 6 step 7 step 8 stamp")
        self.assertEqual(sum(s.turn for s in turning.sounds), Fraction(1, 4))
        heard = [s for s in turning.sounds if s.heard]
        taps = [Tap(2 + 0.6 * (float(s.position) + 8 * n), "step", s.foot) for n in range(2) for s in heard]
        walls = tuple((2 + 0.6 * count, wall) for count, wall in marks)
        found = held_against(turning, taps, 100, walls)
        self.assertEqual("; ".join(f"the {ordinal(n)} {what}" for n, what in found.differences), said)

    def test_what_is_no_pass_of_it(self) -> None:
        times = np.cumsum(np.random.default_rng(9).uniform(0.15, 0.9, 12))
        with self.assertRaisesRegex(FirnError, "This is no pass of A: too few of its sounds fall into place."):
            held_against(PART, [Tap(float(t)) for t in times], 100)


if __name__ == "__main__":
    unittest.main()
