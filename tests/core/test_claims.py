"""What a teacher claims, lines that are not as long as the others, both readings of eighths, and what is meant."""

import unittest

from firn.core.piece.build import part_from
from firn.core.reading.read import check_part
from firn.core.reading.sentences import sentence
from firn.core.script.settings import Settings
from firn.core.script.writer import write_part
from firn.session.notes import part_notes
from firn.session.reading import grouped, meant_text
from tests.support import cases, part

EIGHT = "1 step  2 step  3 step  4 step  5 step  6 step  7 step  8 step"
SEVEN = "1 step  2 step  3 step  4 step  5 step  6 step  7 step"


def told(text: str, **head: str) -> dict[str, str]:
    return {f.code: sentence(f) for f in check_part(part(text, **head))}


class ClaimTest(unittest.TestCase):
    @cases(
        ("1 step  2 step\nlength: 4 counts", "It is said to have 4 counts; it has 2."),
        ("1 step  2 step\nlength: 1 bar", "It is said to have 4 counts; it has 2."),
        ("1 step  2 step\nlength: 2", None),
        ("1 step  2 step", None),
    )
    def test_the_length_that_is_said(self, text: str, said: str | None) -> None:
        self.assertEqual(told(text).get("claim"), said)

    def test_kept_in_the_text_and_no_other(self) -> None:
        one = part("1 step  2 step\nlength: 4 counts\nmeant: claim, the rest is mimed")
        self.assertEqual(write_part(one.script, Settings()), one.script.text)
        self.assertEqual([p.code for p in part_from("A", "1 step\nlength: long", Settings()).problems], ["N116"])


FOUR = "1 touch  2 step  3 touch  4 step"


class ClaimedTest(unittest.TestCase):
    @cases(
        ("touches on odd", FOUR, None),
        ("touches on 1 3", FOUR, None),
        ("steps on even", FOUR, None),
        ("touches on even", FOUR, "there is one on 1"),
        ("touches on 1 2 3", FOUR, "there is a step on 2"),
        ("touches on 1", FOUR, "there is one on 3"),
        ("stamps on 2", "1 step  3 step", "there is none on 2"),
        ("stays on its side", FOUR, None),
        ("changes sides", FOUR, "it stays on its side"),
        ("changes sides", "1 step  2 step  3 step", None),
        ("stays on its side", "1 step  2 step  3 step", "it changes sides"),
        ("ends on left", "1 step  2 step", None),
        ("ends on the right foot", "1 step  2 step", "it ends on the left"),
        ("4 sounds", FOUR, None),
        ("five sounds", FOUR, "it has 4"),
        ("front after 4", "1 step  2 step 1/4 right", None),
        ("front after two times", "1 step  2 step 1/4 right", "it is the front after 4"),
        ("front after 4", "1 step  2 step", "it is the front after every time"),
    )
    def test_what_is_claimed(self, said: str, text: str, but: str | None) -> None:
        wanted = None if but is None else f"It is said of it: {said}. But {but}."
        self.assertEqual(told(f"{text}\nclaims: {said}").get("claimed"), wanted)

    def test_several_in_one_line_and_what_is_none(self) -> None:
        one = part_from("A", f"{FOUR}\nclaims: touches on odd, is lovely, 4 sounds", Settings())
        self.assertEqual([(p.code, p.column, p.end) for p in one.problems], [("N116", 24, 33)])
        self.assertEqual([c.said for c in one.layers.claims], ["touches on odd", "4 sounds"])
        kept = part_from("A", f"{FOUR}\nclaims: touches on odd, 4 sounds\nalways: right", Settings())
        self.assertEqual(write_part(kept.script, Settings()), kept.script.text)
        self.assertEqual([p.code for p in part_from("A", "1 step\nalways: up", Settings()).problems], ["N116"])


class LineTest(unittest.TestCase):
    def test_the_line_that_is_short(self) -> None:
        earlier = "8 step  1 step  2 step  3 step  4 step  5 step  6 step  7 step"
        said = told("\n".join([EIGHT, EIGHT, SEVEN, earlier]), phrase="8 counts")
        self.assertEqual(
            said["odd_line"], "Line 3, from 1 to 7, has 7 counts, the others 8: from there on all is 1 early."
        )

    def test_the_line_that_is_long(self) -> None:
        later = "2 step  3 step  4 step  5 step  6 step  7 step  8 step  1 step"
        said = told("\n".join([EIGHT, f"{EIGHT}  1 step", later, later]), phrase="8 counts")
        self.assertEqual(
            said["odd_line"], "Line 2, from 1 to 1, has 9 counts, the others 8: from there on all is 1 late."
        )

    @cases(
        ("all alike", "\n".join([EIGHT] * 4)), ("two lines", f"{EIGHT}\n{SEVEN}"), ("it fills", f"{SEVEN}\n8 step")
    )
    def test_no_line_where_nothing_slips(self, _: str, text: str) -> None:
        self.assertNotIn("odd_line", told(text, phrase="8 counts"))


class ShiftedTest(unittest.TestCase):
    """A figure that comes again within its counts otherwise: half a count was dropped or added before it."""

    @cases(
        ("half late", "1 step  2 step  3 step\n& step  & step  & step", "from & after 3: 1/2 of a count late"),
        ("a quarter late", "1 step  2 step  3 step\n4+1/4 step  5+1/4 step  6+1/4 step", "1/4 of a count late"),
        ("a quarter early", "1 step  2 step  3 step\n4+3/4 step  5+3/4 step  6+3/4 step", "1/4 of a count early"),
    )
    def test_where_it_starts_to_be_off(self, _: str, body: str, said: str) -> None:
        self.assertIn(said, told(body)["shifted_line"])

    @cases(
        ("the same", "1 step  2 step  3 step\n4 step  5 step  6 step"),
        ("others", "1 step  2 step  3 step\n& step  & touch  & step"),
        ("too few", "1 step  2 step\n& step  & step"),
    )
    def test_not_where_nothing_slips(self, _: str, body: str) -> None:
        self.assertNotIn("shifted_line", told(body))


class TravelTest(unittest.TestCase):
    @cases(
        ("moves: 1 forward 2 back", "Travels forward 1, back 1: ends where it began. Room for 1 forward."),
        (
            "moves: 1 three steps forward 2 left",
            "Travels forward 3, left 1: ends 3 forward and 1 left of where it began. Room for 3 forward and 1 left.",
        ),
        (
            "moves: 1 Backwards 2 right 3 right",
            "Travels back 1, right 2: ends 1 back and 2 right of where it began. Room for 1 back and 2 right.",
        ),
    )
    def test_where_it_ends(self, moves: str, said: str) -> None:
        self.assertEqual(told(f"1 step  2 step  3 step  4 step\n{moves}")["travel"], said)

    def test_none_where_nothing_travels(self) -> None:
        self.assertNotIn("travel", told("1 step  2 step\nmoves: 1 look\narms: 2 left"))


class BothWaysTest(unittest.TestCase):
    """The six eighths as 3+3 and as 2+2+2 (sesquiáltera: common practice, no source)."""

    def test_six_eighths_in_three(self) -> None:
        hemiola = told("1 step  a step  2+1/3 step", meter="6/8", phrase="2 counts")
        # On 1, 3 and 5 of six eighths: the beats of 3/4, where nothing hangs over.
        expected = "Heard in 3/4, three counts of two eighths: 1 2 3; it hangs over by 0 there, by 1 in 6/8."
        self.assertEqual(hemiola["both_ways"], expected)

    def test_three_quarters_in_two(self) -> None:
        said = told("1 step  2+1/2 step  3 hold", meter="3/4", phrase="3 counts")
        expected = "Heard in 6/8, two counts of three eighths: 1 2; it hangs over by 0 there, by 1 in 3/4."
        self.assertEqual(said["both_ways"], expected)

    @cases(("1 step  e step", "3/4"), ("1 step  2 step", "4/4"), ("1 step  2 step  3 step", "9/8"))
    def test_not_where_there_are_no_two_readings(self, text: str, meter: str) -> None:
        self.assertNotIn("both_ways", told(text, meter=meter))


class MeantTest(unittest.TestCase):
    def test_what_is_meant_is_told_last_with_its_reason(self) -> None:
        notes = grouped(part_notes(part("1 step  2 step  3 step\nmeant: off phrase, the next part takes the rest")))
        self.assertEqual([n.text for n in notes if n.level == "head"], ["Good to know", "Meant so"])
        self.assertTrue(notes[-1].text.endswith("Meant so: the next part takes the rest."))

    def test_what_is_meant_and_is_not_there(self) -> None:
        self.assertIn('Nothing is meant by "claim"', told("1 step  2 step\nmeant: claim")["not_meant"])

    def test_what_cannot_be_danced_cannot_be_meant(self) -> None:
        found = check_part(part("1 stamp & heel 2 step\nmeant: already down"))
        self.assertEqual([f.level for f in found if f.code == "already_down"], ["bad"])

    def test_in_the_text_and_out_of_it(self) -> None:
        once = meant_text("1 step", "off_phrase", "so # it goes")
        self.assertEqual(once, "1 step\nmeant: off phrase, so it goes")
        self.assertEqual(meant_text(once, "off_phrase", "another"), "1 step\nmeant: off phrase, another")
        self.assertEqual(meant_text(once, "off_phrase", None), "1 step")


if __name__ == "__main__":
    unittest.main()
