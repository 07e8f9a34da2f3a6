"""Where each word of a line is placed, and which counts are complained about, at their columns (common practice)."""

import unittest

from tests.support import cases, feet, piece


def placed(text: str) -> str:
    return " ".join(str(s.place) for s in piece(text, tradition="tap").parts[0].sounds)


def told(text: str) -> list[tuple[str, int, int, int]]:
    """Problems as code, line of the part, first and last column."""
    return [(p.code, p.line - 2, p.column, p.end) for p in piece(text, tradition="tap").problems]


class OpeningTest(unittest.TestCase):
    """What has no counts and opens a part leads up to the first number, or is whole phrases before it (common
    practice, no source)."""

    @cases(
        ("a pick-up", "stamp stamp\n1 clap", "-2 -1 0"),
        ("a pick-up danced over", "( stamp clap ) x2\n1 clap", "-4 -3 -2 -1 0"),
        ("a pick-up of two lines", "stamp\nstamp\n1 clap", "-2 -1 0"),
        ("a whole phrase", "stamp x8\n1 clap", "0 1 2 3 4 5 6 7 8"),
        ("a whole phrase danced over", "stamp clap x4\n1 clap", "0 1 2 3 4 5 6 7 8"),
        ("a whole phrase in lines", "stamp clap\n" * 4 + "1 clap", "0 1 2 3 4 5 6 7 8"),
        ("in lines danced again", "stamp clap\nagain\nagain x2\n1 clap", "0 1 2 3 4 5 6 7 8"),
        ("a phrase and a sound", "stamp x9\n1 clap", "-1 0 1 2 3 4 5 6 7 8"),
        ("waited", "wait 8\nstamp clap", "0 1 2 3 4 5 6 7 8 9"),
        ("up to a later count", "stamp x4\n5 clap", "0 1 2 3 4"),
        ("a figure", "flap x2\n1 stamp", "-5/2 -2 -3/2 -1 0"),
        ("no counts at all", "stamp clap\nstamp clap", "0 1 2 3"),
    )
    def test_opening(self, _: str, text: str, expected: str) -> None:
        self.assertEqual((placed(text), told(text)), (expected, []))

    @cases(
        ("lines", "stamp\n" * 30, "0"),
        ("danced again", "stamp\n" + "again\n" * 30, "0"),
        ("nothing to dance again", "again\n" * 3_000, "7"),
    )
    def test_very_many_lines_begin_on_one(self, _: str, lines: str, first: str) -> None:
        self.assertEqual(placed(f"{lines}8 clap").split()[0], first)

    def test_again_over_and_over_ends(self) -> None:
        self.assertIn("N111", [code for code, *_ in told("stamp\n" + "again x64\n" * 40 + "8 clap")])


class PlacedTest(unittest.TestCase):
    @cases(
        ("( 1 step  2-3 hold ) x2  step", "0 1 3 4 6"),
        ("( 1 step  2 hop ) x2 step", "0 1 2 3 4"),
        ("( 1 step ( 2 hop ) x2 ) x2", "0 1 2 3 4 5"),
        ("( 1 step  2 hop ) x1 step", "0 1 2"),
        ("1 step x3 hop", "0 1 2 3"),
        ("1 flap x2 step", "-1/2 0 1/2 1 2"),
        ("1 cramp roll x2", "0 1/4 1/2 3/4 1 5/4 3/2 7/4"),
        ("1 waltz clog x2", "0 1/2 1 3/2 2 3 7/2 4 9/2 5"),
        ("8 step and clap  1 step", "-1 -1/2 0"),
        ("1-3 step", "0 1 2"),
        ("1-4 flap x4", "-1/2 0 1/2 1 3/2 2 5/2 3"),
        ("1-3 flap ball change", "-1/2 0 1/2 1"),
        ("1 step 2-4 step x3", "0 1 2 3"),
        ("1 step heel toe clap 2 step", "0 1/4 1/2 3/4 1"),
        ("1 step heel toe 2 step", "0 1/2 3/4 1"),
        ("1 step heel 3 step", "0 1/2 2"),
        ("1 step heel 2 step heel", "0 1/2 1 3/2"),
        ("1 3 5 step 2 4 6 clap", "0 1 2 3 4 5"),
        ("1 3 5 step 2 4 clap 7 step", "0 1 2 3 4 6"),
        ("2 4 step 1 3 clap", "0 1 2 3"),
        ("8 step & ball change 2 step", "-1 -1/2 0 1"),
        ("7 step & ball change 1 step", "-2 -3/2 -1 0"),
        ("( 1 step & ball change 2 step ) x2", "0 1/2 3/4 1 2 5/2 11/4 3"),
        ("( 1 step clap 2 step clap ) x2", "0 1/2 1 3/2 2 5/2 3 7/2"),
        ("1 step & ball change 8 step", "0 1/2 1 7"),
        ("7 step & ball change 8 step", "6 13/2 27/4 7"),
        ("e shuffle 1 step", "-3/4 -1/2 0"),
        ("1 step a flap 4 step", "0 3/4 1 3"),
        ("& double step 1 step", "-3/2 -5/4 -1 0"),
        ("a double step 2 step", "-1/4 -1/8 0 1"),
        ("1 step & waltz clog 3 step", "0 1/2 4/5 11/10 7/5 17/10 2"),
        ("1 step + double step 3 step", "-1/2 -1/4 0 0 2"),
        ("8 flap 1 step", "-3/2 -1 0"),
        ("8 paradiddle 2 step", "-1 -3/4 -1/2 -1/4 1"),
        ("8 waltz clog 3 step", "-1 -1/2 0 1/2 1 2"),
        ("7 buffalo", "6 13/2 27/4 7"),
        ("6 step", "5"),
        ("8 single time step", "-1 0 1 3/2 2 5/2"),
        ("1 step + cramp roll  2 step", "0 0 1/4 1/2 3/4 1"),
        ("1 step + cramp roll step", "0 0 1/4 1/2 3/4 1"),
        ("1 cramp roll + clap step", "0 0 1/4 1/2 3/4 1"),
        ("1 step + waltz clog step", "0 0 1/2 1 3/2 2 3"),
        ("8 single time step x2", "-1 0 1 3/2 2 5/2 3 4 5 11/2 6 13/2"),
        ("5 6 7 8 step hop step hop", "4 5 6 7"),
        ("cramp roll 1 step", "-1 -3/4 -1/2 -1/4 0"),
        ("step flap 1 step", "-2 -3/2 -1 0"),
        ("e&a step step step", "1/4 1/2 3/4"),
        ("1 2 hold", "0 1"),
        ("hold step", "0 1"),
        ("8 hold 1 step", "-1 0"),
        ("1-2 hold 3-4 hold", "0 2"),
        ("( 7 step step step ) x1  3 hop", "-2 -1 0 2"),
        ("( 7 step ) x2 step step 3 hop", "-2 -1 0 1 2"),
        ("( 5 step step step step step ) x2  7 hop", "-4 -3 -2 -1 0 1 2 3 4 5 6"),
        ("( 5 step step step step step ) x1  7 hop", "4 5 6 7 8 14"),
        ("bar 3: 1 step", "8"),
        ("bar 1: 1 step  bar 2: 2 step", "0 5"),
        ("1 2 3 4 step touch", "0 1 2 3"),
        ("1 2 3 4 5 6 step touch hop", "0 1 2 3 4 5"),
        ("1 2 3 4 5 6 step hop", "0 1 2 3 4 5"),
        ("1 & 2 & 3 & shuffle", "0 1/2 1 3/2 2 5/2"),
        ("1 2 cramp roll", "0 1/4 1/2 3/4 1 5/4 3/2 7/4"),
        ("flap x2 on 1 2", "-1/2 0 1/2 1"),
        ("two flaps on 2 4", "1/2 1 5/2 3"),
        ("flap twice on 1 2 3 4", "0 1 2 3"),
        ("step x2 on 1 2", "0 1"),
        ("1 2 flap x2", "0 1 2 3"),
        ("7 step step step step", "-2 -1 0 1"),
        ("4 step step step step step", "3 4 5 6 7"),
        ("5 step step step step", "4 5 6 7"),
        ("5 step step step step step", "-4 -3 -2 -1 0"),
        ("5 step step step step step\n2 hop", "4 5 6 7 8 9"),
        ("1 step\n7 step step step step", "0 6 7 8 9"),
        ("1 2\nstep", "0 1"),
        ("step\n1 2\nhop", "-1 0 1"),
        ("1-4 step heel toe clap", "0 1 2 3"),
        ("1 step\n5 6 7 8 1 step", "0 4 5 6 7 8"),
    )
    def test_places(self, text: str, places: str) -> None:
        self.assertEqual((told(text), placed(text)), ([], places))

    def test_a_step_that_lasts_longer_than_its_sounds_comes_again_after_it(self) -> None:
        sounds = piece("2 rumba walk x2", tradition="latin").parts[0].sounds
        self.assertEqual([int(s.place) for s in sounds], [1, 2, 3, 5, 6, 7])

    @cases(
        ("1-4 L flap", "LLRRLLRR"), ("1-3 L step", "LRL"), ("1-2 L shuffle ball change", "LLLR"),
        ("1 2 3 L step", "LRL"), ("1 3 L step", "LR"), ("1 2 L flap x1", "LL"), ("& L ball change 2 step", "LRL"),
    )  # fmt: skip
    def test_a_foot_that_is_written_holds_for_the_first_time(self, text: str, expected: str) -> None:
        self.assertEqual(feet(piece(text, tradition="tap").parts[0]), expected)

    @cases(
        ("1 step & ball change 2 step", "&a ball change", 7, 20),
        ("a double step 2 step", "8+3/4 8+7/8 1 double step", 0, 13),
        ("1-4 flap", "1 flap x4", 0, 8),
        ("5-8 shuffle ball change", "5 shuffle ball change x2", 0, 23),
        ("5 6 7 8 step", "5 step  6 step  7 step  8 step", 0, 12),
        ("1 step heel toe clap 2 step", "e heel  & toe  a clap", 7, 20),
        ("flap on 1 2", "1 2 flap", 0, 11),
        ("flap on 1 3", "1 3 flap", 0, 11),
        ("6 7 8 step", "6 step  7 step  8 step", 0, 10),
    )
    def test_what_is_written_of_it(self, text: str, written: str, column: int, end: int) -> None:
        (doubt,) = piece(text, tradition="tap").parts[0].script.doubts
        self.assertEqual(doubt.offers[0].written, (column, end, written))

    @cases(
        ("1 step heel toe clap clap 2 step", "N102"), ("1 step flap 2 step", "N104"),
        ("1 step clap + heel 2 step", "N104"), ("1 3 5 step 2 4 5 clap", "N102"),
        ("1 3 step 3 5 clap", "N104"),
        ("1 3 step 2 step 2 4 clap", "N102"),
    )  # fmt: skip
    def test_what_has_no_room_is_told(self, text: str, code: str) -> None:
        self.assertEqual({p.code for p in piece(text, tradition="tap").problems}, {code})

    def test_what_lasts(self) -> None:
        sounds = piece("1-2 slide  4-6 hold").parts[0].sounds
        self.assertEqual([int(s.length) for s in sounds], [2, 3])


class ToldTest(unittest.TestCase):
    @cases(
        ("3", "", [("N108", 0, 0, 1)]),
        ("1 step  3\nhop", "0 3", [("N108", 0, 8, 9)]),
        ("1 step 2 step\n5 6 7 8", "0 1", [("N108", 1, 0, 7)]),
        ("1 2 & 3 shuffle", "-1/2 -1/4", [("N103", 0, 0, 7)]),
        ("5 6 7 8 1 step", "0", [("N107", 0, 0, 7)]),
        ("1 2 3 4 1 step", "0", [("N107", 0, 0, 7)]),
        ("5 6 7 8", "", [("N107", 0, 0, 7)]),
        ("1 step 1 step", "0 0", [("N104", 0, 9, 13)]),
        ("2-4 hold 3 step", "1 7/2", [("N102", 0, 9, 10)]),
        ("1 zz shuffle", "-1/2 -1/4", [("N101", 0, 2, 4)]),
        ("1 double zz shuffle", "-1/2 -1/4", [("N101", 0, 2, 11)]),
        ("1 zz 2 step 3 hop", "1 2", [("N101", 0, 2, 4)]),
        ("1 zz 5 6 7 8 step", "4 5 6 7", [("N101", 0, 2, 4)]),
        ("123 step step step", "0 1 2", [("N106", 0, 0, 3)]),
        ("1 1234 step", "0 0 1 2 3", [("N106", 0, 2, 6), ("N104", 0, 7, 11)]),
        ("bar 2: 1 step\nbar 1: 1 step", "4 4", [("N102", 1, 0, 5), ("N104", 1, 9, 13)]),
        ("bar 2: 1 step\nbar 2: 2 step", "4 5", [("N102", 1, 0, 5)]),
        ("bar 3: 1 step\nbar 2: 2 step", "8 9", [("N102", 1, 0, 5)]),
        ("( 7 step step step ) x2  3 hop", "-2 -1 0 1 2 3 7/2", [("N102", 0, 25, 26)]),
        ("1 2", "", [("N108", 0, 0, 3)]),
        ("1 & 2 & 3 & cramp roll", "0 1/4 1/2 3/4", [("N103", 0, 0, 11)]),
        ("1 & 2 & step x2", "0", [("N103", 0, 0, 7)]),
        ("1 2 & 3 4 & flap", "-1/2 0", [("N103", 0, 0, 11)]),
        ("1 double step zz 2 hop", "-1/2 -1/4 0 1", [("N101", 0, 14, 16)]),
        ("1-4 zz step", "0 1 2 3", [("N101", 0, 4, 6)]),
        ("2 3 4 1 step", "0", [("N107", 0, 0, 5)]),
        ("5 6 7 8 1 2 step hop", "0 1", [("N107", 0, 0, 7)]),
        ("flap on 1 & 2", "-1/2 0", [("N103", 0, 8, 13)]),
        ("5 6 step step step step step", "4 5 6 7 8", [("N103", 0, 0, 3)]),
    )
    def test_complaints(self, text: str, places: str, problems: list[tuple[str, int, int, int]]) -> None:
        self.assertEqual((told(text), placed(text)), (problems, places))

    @cases(
        ("1 2 3 step x2", '"step" has 1 sound; 3 counts are written.'),
        ("1 2 & 3 shuffle", '"shuffle" has 2 sounds; 4 counts are written.'),
        ("1 step 1 step", '"step" falls on 1, where another word is: join them with + or move one.'),
        ("1 2 3 flap step touch hop", "3 counts for 4 words with 5 sounds."),
        ("5 6 7 8 1 step", '"5 6 7 8" is a count-in: leave it out, or write "count in: 5 6 7 8" alone.'),
    )
    def test_in_words(self, text: str, said: str) -> None:
        self.assertEqual([p.message for p in piece(text, tradition="tap").problems], [said])

    def test_a_count_in_of_eight_in_three(self) -> None:
        self.assertEqual([p.code for p in piece("5 6 7 8 1 step", meter="3/4").problems], ["N107"])


if __name__ == "__main__":
    unittest.main()
