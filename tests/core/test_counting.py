"""How places are counted aloud: letters, numbers, the tally, and where a combo changes it (common practice)."""

import unittest
from fractions import Fraction as F  # noqa: N817

from firn.core.meter.counting import Counting, Stage
from firn.core.meter.feel import STRAIGHT, Feel
from firn.core.meter.meter import Meter
from tests.support import cases, codes, part, piece

SWING = Feel(F(2))
TRIPLETS = Counting(lone_a="triplet")
SIX_EIGHT = Counting(Meter(6, 8))
CHANGING = Counting(
    changes=(
        Stage(F(8), F(8), Counting(Meter(6, 8), phrase=4)),
        Stage(F(11), F(12), Counting(Meter(3, 4), SWING, phrase=6, tally=True)),
    )
)


def placed(text: str) -> tuple[F, ...]:
    return tuple(F(word) for word in text.split())


class LettersTest(unittest.TestCase):
    @cases(
        ("straight", Counting(), "0 1/4 1/2 3/4 1 1/3 2/3 1/8", ["", "e", "&", "a", "", "1/3", "2/3", "1/8"]),
        ("triplets", TRIPLETS, "1/4 1/3 1/2 2/3 3/4 5/3", ["e", "&", "&", "a", "a", "a"]),
        ("swing", Counting(feel=SWING), "1/3 2/3 7/3", ["&", "a", "&"]),
        ("six eight", SIX_EIGHT, "1/3 2/3 1/2 1/4", ["&", "a", "1/2", "1/4"]),
        ("before the first", Counting(), "-1/2 -3/4 -1", ["&", "e", ""]),
    )
    def test_at_a_place(self, _: str, counting: Counting, at: str, letters: list[str]) -> None:
        self.assertEqual([counting.letter(p) for p in placed(at)], letters)

    @cases(
        ("e", "e", "", F(1, 4)),
        ("a lone &", "&", "&", F(1, 2)),
        ("a lone a", "a", "a", F(3, 4)),
        ("& with a", "&", "&a", F(1, 2)),
        ("a with &", "a", "&a", F(3, 4)),
        ("all of them", "&", "e&a", F(1, 2)),
        ("a with e", "a", "ea", F(3, 4)),
    )
    def test_straight_divisions(self, _: str, letter: str, among: str, share: F) -> None:
        self.assertEqual(Counting().division(letter, among=frozenset(among)), share)

    @cases(
        ("a lone &", "&", "&", F(1, 2)),
        ("a lone a", "a", "a", F(2, 3)),
        ("& with a", "&", "&a", F(1, 3)),
        ("a with &", "a", "&a", F(2, 3)),
        ("& in all four", "&", "e&a", F(1, 2)),
        ("a in all four", "a", "e&a", F(3, 4)),
    )
    def test_divisions_in_thirds(self, _: str, letter: str, among: str, share: F) -> None:
        self.assertEqual(TRIPLETS.division(letter, among=frozenset(among)), share)

    def test_compound_divisions(self) -> None:
        self.assertEqual([SIX_EIGHT.division(x, among=frozenset("&a")) for x in "&ae"], [F(1, 3), F(2, 3), None])


class NumbersTest(unittest.TestCase):
    @cases(
        ("an eight", Counting(), "0 7 8 -1 7/2", [1, 8, 1, 8, 4], ["1", "8", "1", "8", "& after 4"]),
        ("a six", Counting(Meter(3, 4), phrase=6), "5 6", [6, 1], ["6", "1"]),
    )
    def test_numbers_and_names(
        self, _: str, counting: Counting, at: str, numbers: list[int], names: list[str]
    ) -> None:
        self.assertEqual([counting.number(p) for p in placed(at)], numbers)
        self.assertEqual([counting.name(p) for p in placed(at)], names)

    def test_the_tally_names_the_phrases(self) -> None:
        tally = Counting(tally=True)
        self.assertEqual([tally.counted(F(n)) for n in (0, 1, 8, 16, -8, -1)], ["1", "2", "2", "3", "1", "8"])
        self.assertEqual([Counting().counted(F(n)) for n in (0, 8, 16)], ["1", "1", "1"])

    def test_what_a_counting_is_unless_it_is_said(self) -> None:
        plain = Counting()
        self.assertEqual(
            (plain.meter, plain.feel, plain.lone_a, plain.phrase), (Meter(4, 4), STRAIGHT, "sixteenth", 8)
        )
        self.assertEqual((plain.tally, plain.changes), (False, ()))


class ChangesTest(unittest.TestCase):
    """4/4 up to 8, then 6/8 by four counts, and from 11 on 3/4, swung, its first 1 on 12."""

    def test_which_counting_holds(self) -> None:
        first, second = (stage.counting for stage in CHANGING.changes)
        table = {F(0): (CHANGING, F(0)), F(15, 2): (CHANGING, F(15, 2)), F(8): (first, F(0)), F(10): (first, F(2))}
        table |= {F(11): (second, F(-1)), F(12): (second, F(0)), F(40): (second, F(28))}
        for place, (counting, local) in table.items():
            here, at = CHANGING.here(place)
            self.assertIs(here, counting, place)
            self.assertEqual(at, local)

    def test_numbers(self) -> None:
        self.assertEqual([CHANGING.number(F(n)) for n in (0, 7, 8, 10, 11, 12, 17, 18)], [1, 8, 1, 3, 6, 1, 6, 1])

    def test_letters(self) -> None:
        said = [CHANGING.letter(p) for p in placed("15/2 22/3 25/3 26/3 17/2 37/3 49/4")]
        self.assertEqual(said, ["&", "1/3", "&", "a", "1/2", "&", "e"])

    def test_the_tally_of_each(self) -> None:
        self.assertEqual([CHANGING.counted(F(n)) for n in (0, 8, 12, 18, 24)], ["1", "1", "1", "2", "3"])

    def test_strong_counts(self) -> None:
        strong = [n for n in range(20) if CHANGING.strong(F(n))]
        self.assertEqual(strong, [0, 4, 8, 10, 12, 15, 18])

    def test_where_it_sounds(self) -> None:
        """Swung two to one, an & sounds on the third of the triplet (common practice)."""
        self.assertEqual(CHANGING.position(F(15, 2)), F(15, 2))
        self.assertEqual(CHANGING.position(F(17, 2)), F(17, 2))
        self.assertEqual(CHANGING.position(F(25, 2)), 12 + F(2, 3))
        self.assertEqual(Counting(feel=SWING).position(F(1, 2)), F(2, 3))


class PickUpTest(unittest.TestCase):
    def test_a_count_past_the_phrase_moves_no_pick_up(self) -> None:
        """Found by texts made at random: a bar after 7 and 999999 began the part a million counts early."""
        read = piece("7 step  999999 step  |  1 step")
        self.assertEqual(codes(read)[0], "N105")
        self.assertGreaterEqual(min(s.place for s in read.parts[0].sounds), -8)
        self.assertEqual([str(s.place) for s in part("7 step  8 step  |  1 step").sounds], ["-2", "-1", "0"])


class SharesTest(unittest.TestCase):
    @cases(
        ("straight", Counting(), "0 1/4 1/2 3/4"),
        ("in thirds", TRIPLETS, "0 1/4 1/3 1/2 2/3 3/4"),
        ("compound", SIX_EIGHT, "0 1/6 1/3 1/2 2/3 5/6"),
    )
    def test_the_places_of_a_count(self, _: str, counting: Counting, shares: str) -> None:
        self.assertEqual(counting.shares, placed(shares))

    @cases(
        ("later", "0", 1, "1/4"),
        ("into the next count", "3/4", 1, "1"),
        ("from between", "1/3", 1, "1/2"),
        ("earlier", "1/2", -1, "1/4"),
        ("into the count before", "5", -1, "19/4"),
        ("from between, earlier", "2/3", -1, "1/2"),
        ("before the first", "0", -1, "-1/4"),
        ("from just before a count", "7/8", 1, "1"),
    )
    def test_the_next_place(self, _: str, place: str, way: int, expected: str) -> None:
        self.assertEqual(Counting().next_share(F(place), way), F(expected))


if __name__ == "__main__":
    unittest.main()
