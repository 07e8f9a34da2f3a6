"""Words that were said in order, laid onto sounds of which some may be missing, or be of none of them."""

import unittest
from fractions import Fraction

from firn.core.quantise.laying import filled, laid_onto
from firn.core.quantise.words import Struck
from tests.support import cases

BRUSH, STEP = ("brush", "spank"), ("step",)


def struck(*places: str, kinds: tuple[tuple[str, ...], ...] = ()) -> list[Struck]:
    every = kinds or ((),) * len(places)
    return [Struck(Fraction(place), kind) for place, kind in zip(places, every, strict=True)]


# Four steps, each on a count: what is left out or put in is told by the spacing alone, worked by hand.
FOUR = struck("0", "1", "2", "3")


class LaidTest(unittest.TestCase):
    @cases(
        ("all there", ("0", "1", "2", "3"), [0, 1, 2, 3]),
        ("the third left out", ("0", "1", "3"), [0, 1, None, 2]),
        ("one too many behind the second", ("0", "1", "3/2", "2", "3"), [0, 1, 3, 4]),
        ("one too many at first", ("-1/2", "0", "1", "2", "3"), [1, 2, 3, 4]),
        ("the last left out", ("0", "1", "2"), [0, 1, 2, None]),
        ("other words", ("0",), None),
    )
    def test_by_spacing(self, _: str, places: tuple[str, ...], which: list[int | None] | None) -> None:
        self.assertEqual(laid_onto(FOUR, struck(*places)), which)

    def test_by_what_struck_where_the_spacing_says_nothing(self) -> None:
        due = struck("0", "1/2", "1", "3/2", kinds=(BRUSH, STEP, BRUSH, STEP))
        heard = struck("0", "1/2", "1", kinds=(BRUSH, STEP, STEP))
        self.assertEqual(laid_onto(due, heard), [0, 1, None, 2])

    def test_words_that_others_follow_begin_with_the_first_sound(self) -> None:
        due = struck("0", "1/2")
        self.assertEqual(laid_onto(due, struck("0", "1/2", "1", "3/2", "2"), goes_on=True), [0, 1])
        self.assertIsNone(laid_onto(due, []))


class FilledTest(unittest.TestCase):
    @cases(
        ("as usual from its own word", [Fraction(0), None, Fraction(3)], "0 1/2 2", [0, 0, 1], "0 1/2 3"),
        ("before the first", [None, Fraction(2)], "-1/2 0", [0, 0], "3/2 2"),
        ("no room where it usually lies", [Fraction(0), None, Fraction(1, 4)], "0 1/2 1", [0, 0, 1], "0 1/6 1/4"),
        ("nothing known", [None, None], "0 1", [0, 1], "0 1"),
    )
    def test_what_nobody_knows_lies_where_it_usually_does(
        self, _: str, known: list[Fraction | None], usual: str, words: list[int], expected: str
    ) -> None:
        self.assertEqual(
            filled(known, [Fraction(one) for one in usual.split()], words),
            [Fraction(one) for one in expected.split()],
        )


if __name__ == "__main__":
    unittest.main()
