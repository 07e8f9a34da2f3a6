"""A part straightened, pushed and delayed: the same sounds on the same feet, and what it does to the score."""

import unittest
from fractions import Fraction

from hypothesis import given
from hypothesis import strategies as st

from firn.core.piece.build import part_from
from firn.core.piece.piece import Part
from firn.core.piece.versions import VersionError
from firn.core.reading.retimed import delayed, pushed, score, straightened
from firn.core.reading.syncopation import part_hangs
from tests.support import cases, part, places

TRESILLO = "1 step  2 hold  & step  3 hold  4 step"
"""3 + 3 + 2 eighths, a well-known figure (Toussaint 2005)."""


def again(one: Part, text: str) -> Part:
    return part_from(one.name, text, one.settings, one.script.shelf)


def struck(one: Part) -> list[tuple[str, str, str]]:
    return [(s.kind, s.foot, s.weight) for s in one.sounds if s.kind != "hold"]


class RetimedTest(unittest.TestCase):
    @cases(
        ("straightened", straightened, TRESILLO, "1 step  2 hold  3 step  4 step", 2, 0),
        ("pushed", pushed, "1 step  2 step  3 step", "1 step  & step  2 hold  & step  3 hold", 0, 3),
        ("delayed", delayed, "1 step  2 step", "1 step  2 hold  & step", 0, 0),
        ("in thirds", pushed, "1 step  2 step", "1 step  a step  2 hold", 0, 1, "6/8"),
    )  # fmt: skip
    def test_as_a_teacher_would_type_it(
        self, _: str, make, text: str, wanted: str, before: int, after: int, meter: str = "4/4"
    ) -> None:
        one = part(text, meter=meter) if meter != "4/4" else part(text)
        version = make(one)
        self.assertEqual(version.text, wanted)
        self.assertEqual((score(one), score(again(one, wanted))), (before, after))
        self.assertIn(f"Syncopation {before} before, {after} now", version.said)

    def test_only_what_is_chosen(self) -> None:
        one = part("1 step  & step  2 hold  3 step  & step  4 hold")
        made = again(one, straightened(one, (Fraction(2), Fraction(4))).text)
        self.assertEqual(places(made)[:2], places(one)[:2])
        self.assertEqual(score(made), 1)

    def test_a_word_whose_sounds_part_company_is_said_as_its_sounds(self) -> None:
        self.assertEqual(
            delayed(part("1 step  &2 flap  3 step")).text, "1 step  & brush  2 hold  & step  3 hold  & step"
        )

    @cases(
        ("nothing hangs", straightened, "1 step  2 step", "nothing to straighten"),
        ("over the repeat", straightened, "1 hold  2 step  3 hold", "would hang over all the same"),
        ("no room before", pushed, "1 step  & step  2 step", "No sound on a beat has room before it."),
        ("no room after", delayed, "1 step  2 step  & step", "No sound on a beat has room after it."),
        ("no sound", pushed, "1 hold", "No sound on a beat"),
    )
    def test_what_cannot_be(self, _: str, make, text: str, said: str) -> None:
        with self.assertRaisesRegex(VersionError, said):
            make(part(text))

    @given(st.lists(st.sampled_from(("step", "touch", "hold", "stamp", "flap", "shuffle")), min_size=2, max_size=8))
    def test_same_sounds_on_the_same_feet(self, words: list[str]) -> None:
        text = "  ".join(
            f"{n + 1} {word}" if word not in ("flap",) else f"&{n + 1} {word}" for n, word in enumerate(words)
        )
        try:
            one = part(text)
        except AssertionError:
            return
        if one.footing.faults:
            return
        for make in (straightened, pushed, delayed):
            try:
                made = again(one, make(one).text)
            except VersionError:
                continue
            self.assertEqual((made.counts, struck(made)), (one.counts, struck(one)), (make.__name__, text))
            if make is straightened:
                self.assertLess(score(made), score(one), text)

    def test_straightened_leaves_only_what_hangs_over_the_repeat(self) -> None:
        one = part("1 step  & step  2 hold  & step  3 hold  & step  4 hold  & step")
        made = again(one, straightened(one).text)
        self.assertTrue(all(h.over >= made.last_count + 1 for h in part_hangs(made)))


if __name__ == "__main__":
    unittest.main()
