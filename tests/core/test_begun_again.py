"""Counts that begin again at 1, and phrases and feet said in the midst of a line. Common practice, no source."""

import unittest

from firn.core.piece.build import piece_from
from tests.core.read_case import ReadCase
from tests.core.test_readings import doubted, piece, said
from tests.support import cases


class BegunAgainTest(ReadCase):
    @cases(
        ("tap", "1 stamp 2 clap, 1 stamp 2 clap", "| 1 stamp 2 clap", "3 stamp 4 clap"),
        ("tap", "1 step 2 step 3 step  1 step 2 step 3 step", "| 1 step 2 step 3 step", "4 step 5 step 6 step"),
        ("tap", "1&2 flap step, 1&2 flap step", "| 1&2 flap step", "3&4 flap step"),
        ("latin", "1 a 2, 1 a 2", "| 1 a 2", "3 a 4"),
        ("tap", "1 stamp 2 clap and then 1 stamp 2 clap", "| and then 1 stamp 2 clap", "and then 3 stamp 4 clap"),
        ("latin", "1 2 3, 1 2 3", "| 1 2 3", "4 5 6"),
        ("tap", "1-2 stamp 3 clap, 1-2 stamp 3 clap", "| 1-2 stamp 3 clap", "4-5 stamp 6 clap"),
        ("tap", "1 stamp 2 clap &1 flap 2 stomp", "| &1 flap 2 stomp", "&3 flap 4 stomp"),
        ("tap", "1 stamp 2 clap, 1 stamp 2 clap, 1 hop 2 clap", "| 1 stamp 2 clap, | 1 hop 2 clap",
         "3 stamp 4 clap, 5 hop 6 clap"),
    )  # fmt: skip
    def test_the_next_phrase_or_counting_on(self, tradition: str, body: str, onward: str, on: str) -> None:
        one = piece(tradition, body)
        self.assertEqual(([p.message for p in one.problems], doubted(one)), ([], [[f"“{onward}”", f"“{on}”"]]))
        again = body.index(next(led for led in ("and", "&1", "1") if led in body[2:]), 2)
        places = []
        for written in (onward, on):
            taken = piece(tradition, body[:again].rstrip() + "  " + written)
            self.assertEqual(([p.message for p in taken.problems], doubted(taken)), ([], []), written)
            places.append([s.place for s in taken.parts[0].sounds])
        self.assertEqual([s.place for s in one.parts[0].sounds], places[0])
        self.assertLess(places[1][-1], places[0][-1])

    @cases(
        ("tap", "1 step 2 step 3 step 4 step, 1 step 2 step"),  # A bar is over.
        ("tap", "7 step 8 step 1 step 2 step"),
        ("latin", "2 step 3 step 4&1 cha cha cha"),
        ("tap", "1 stamp 2 clap | 1 stamp 2 clap"),
        # Counts behind their steps, and in words: the counts between are told to be empty.
        ("tap", "stamp on 1, clap on 2, stamp on 1, clap on 2"),
        ("tap", "step (1) clap (2) step (1) clap (2)"),
        ("tap", "one stamp two clap one stamp two clap"),
    )
    def test_what_goes_on_through_1_is_no_doubt(self, tradition: str, body: str) -> None:
        one = piece(tradition, body)
        self.assertEqual(([p.message for p in one.problems], doubted(one)), ([], []))

    def test_a_figure_of_thousands_of_digits(self) -> None:
        """Found by made-up texts: no number is that long, and Python makes none of it."""
        one = piece("tap", f"1 stamp 2 clap, 1 stamp {'9' * 5_000} clap")
        self.assertTrue(one.problems)

    def test_a_bar_of_three_is_over_after_three(self) -> None:
        one = piece_from("meter: 3/4\npart A\n1 step 2 step 3 step, 1 step 2 step 3 step")
        self.assertEqual((one.problems, doubted(one)), ((), []))
        self.assertEqual([int(s.place) for s in one.parts[0].sounds], [0, 1, 2, 3, 4, 5])


class InsideTest(ReadCase):
    @cases(
        ("tap", "first eight: 1-8 step, second eight: 1-8 clap", "1-8 step\n1-8 clap"),
        ("tap", "1 stamp 2 clap, next eight: 1 stamp 2 clap", "1 stamp  2 clap | 1 stamp  2 clap"),
        ("tap", "1 step, the third 8: 1 stamp", "1 step\nthird eight: 1 stamp"),
        ("tap", "first 8: flap x8, then the second 8: stamp", "flap x8\nsecond eight: stamp"),
        ("clogging", "first 4: DS DS RS, second 4: DS RS", "DS DS RS\nsecond 4: DS RS"),
    )
    def test_phrases_one_after_another_in_a_line(self, tradition: str, body: str, plain: str) -> None:
        one, other = piece(tradition, body), piece(tradition, plain)
        self.assertEqual(([p.message for p in one.problems], doubted(one)), ([], []))
        sounds = [[(s.place, s.kind) for s in each.parts[0].sounds if s.kind != "hold"] for each in (one, other)]
        self.assertEqual(sounds[0], sounds[1])

    @cases(
        ("tap", "R: flap L: flap", "R flap, L flap"),
        ("tap", "left: shuffle step right: shuffle step", "L shuffle step, R shuffle step"),
        ("clogging", "R: triple L: DS DS DS RS", "R triple, L DS DS DS RS"),
    )
    def test_a_side_and_a_colon_are_said_of_what_comes(self, tradition: str, body: str, plain: str) -> None:
        self.assert_read(tradition, body, said(piece(tradition, plain)))


if __name__ == "__main__":
    unittest.main()
