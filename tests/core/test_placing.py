"""Where each word of a line is placed, and which counts are complained about, at their columns (common practice)."""

import unittest

from tests.support import cases, piece


def placed(text: str) -> str:
    return " ".join(str(s.place) for s in piece(text, tradition="tap").parts[0].sounds)


def told(text: str) -> list[tuple[str, int, int, int]]:
    """Problems as code, line of the part, first and last column."""
    return [(p.code, p.line - 2, p.column, p.end) for p in piece(text, tradition="tap").problems]


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
    )
    def test_places(self, text: str, places: str) -> None:
        self.assertEqual((told(text), placed(text)), ([], places))

    def test_a_step_that_lasts_longer_than_its_sounds_comes_again_after_it(self) -> None:
        sounds = piece("2 rumba walk x2", tradition="latin").parts[0].sounds
        self.assertEqual([int(s.place) for s in sounds], [1, 2, 3, 5, 6, 7])

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
    )
    def test_complaints(self, text: str, places: str, problems: list[tuple[str, int, int, int]]) -> None:
        self.assertEqual((told(text), placed(text)), (problems, places))

    @cases(
        ("1 2 3 step x2", '"step" has 1 sound; 3 counts are written.'),
        ("1 2 & 3 shuffle", '"shuffle" has 2 sounds; 4 counts are written.'),
        ("1 step 1 step", '"step" falls on 1, where another word is: join them with + or move one.'),
        ("1 2 3 flap step touch hop", "3 counts for 4 words with 5 sounds."),
        ("5 6 7 8 1 step", '"5 6 7 8" is a count-in: Firn counts in by itself, so leave it out.'),
    )
    def test_in_words(self, text: str, said: str) -> None:
        self.assertEqual([p.message for p in piece(text, tradition="tap").problems], [said])

    def test_a_count_in_of_eight_in_three(self) -> None:
        self.assertEqual([p.code for p in piece("5 6 7 8 1 step", meter="3/4").problems], ["N107"])


if __name__ == "__main__":
    unittest.main()
