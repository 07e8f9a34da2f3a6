"""A combo as a teacher calls it reads as the same written part by part: common practice, from memory."""

import unittest

from msgspec.structs import replace

from firn.core.piece.build import piece_from
from firn.core.reading.ledger import ledger
from firn.core.script import combo_edits as edits
from firn.core.script.combo import read_combo
from firn.core.script.combo_item import ComboItem
from tests.support import cases

NAMES = ("A", "B", "Break")


def read(text: str) -> list[ComboItem]:
    items, problems = read_combo(text.split(" | "), NAMES)
    assert not problems, (text, [p.message for p in problems])
    return edits.meaning(items)


class SaidTest(unittest.TestCase):
    @cases(
        ("first A, then B twice, then A again", "A, B x2, A"),
        ("start with A, then B, end with Break", "A, B, Break"),
        ("A x2, finally Break", "A x2, Break"),
        ("A, finish with Break", "A, Break"),
        ("A B, repeat", "A, B, A, B"),
        ("A twice, repeat", "A x2, A x2"),
        ("once A, twice B", "A, B x2"), ("twice A, once B, three times A", "A x2, B, A x3"),
        ("A twice, end with B twice", "A x2, B x2"), ("A, end with Break three times", "A, Break x3"),
        ("do A twice followed by B", "A x2, B"), ("the A, part B, the Break", "A, B, Break"),
        ("A. B. Break.", "A, B, Break"), ("A -> B x2", "A, B x2"), ("A una vez, B dos veces", "A, B x2"),
        ("three As, two Breaks, one B", "A x3, Break x2, B"),
        ("A and end with part B", "A, B"), ("A, end with two Bs, Break", "A, B x2, Break"),
        ("A, end with B B", "A, B, B"),
        ("A - 2x B", "A, B x2"), ("A twice 3 times B", "A x2, B x3"), ("A once 2x B", "A, B x2"),
        ("2 As, 3 Breaks", "A x2, Break x3"), ("A (2x), 2x B", "A x2, B x2"), ("(A B), 2x B", "A, B, B x2"),
        ("A + B", "A, B"), ("A/B/A", "A, B, A"), ("A - B - A", "A, B, A"), ("A; B", "A, B"), ("A → B", "A, B"),
        ("left A, R A", "A left, A right"),
        ("left: A, on the right: A", "A left, A right"),
        ("A (R), A L", "A right, A left"),
        ("A x3 starting with the left foot", "A x3 left"),
        ("A on the right then on the left, B", "A right and left, B"),
        ("A then wait 8 then B", "A, [hold x8], B"),
        ("four counts rest, A, hold for 1 count, B", "[hold x4], A, [hold], B"),
        ("A turn 1/4 right then B", "A turn 1/4 right, B"),
        ("A right side, then left side", "A right, A left"), ("A R then L, B", "A right and left, B"),
        ("A x2 R and L", "A x2 right, A x2 left"), ("A left, then right, B", "A left, A right, B"),
        ("[A B] x2, Break", "(A, B) x2, Break"), ("A [B] A", "A, B, A"),
        ("A dos veces, luego B", "A x2, B"),
        ("1. A x2 | 2) B | - Break", "A x2 | B | Break"),
        ("group 1: A, group 2: B", "group 1: A | group 2: B"),
        ("lead: A; follow: mirrored", "lead: A | follow: mirrored"),
        ("(A, B) twice", "A, B, A, B"), ("(A B), three times", "A, B, A, B, A, B"),
        ("four As and a Break", "A x4, Break"), ("a b a", "A, B, A"), ("part A twice, part B", "A x2, B"),
        ("AABA", "A, A, B, A"), ("2A, B", "A x2, B"), ("A twice and B twice", "A x2, B x2"),
        ("A x4 | begins with 5 step", "A x4 begins: 5 step"),
        ("A | begin with B", "A | B"),
        ("we do A twice", "A x2"), ("it goes: A, B", "A, B"), ("the order is two As. the B", "A x2, B"),
        ("ok, A", "A"), ("now left A", "A left"), ("routine: a B and a Break", "B, Break"),
        ("a b, a Break", "A, B, Break"), ("a B", "B"), ("A, last B", "A, B"), ("A, ending with two Bs", "A, B x2"),
        ("A, B, all twice", "A, B, A, B"), ("A B - all of it three times.", "A, B, A, B, A, B"),
        ("A, B, twice through", "A, B, A, B"), ("A, B, the whole thing x2", "A, B, A, B"),
        ("A B, then do it all twice", "A, B, A, B"), ("A. B. Repeat.", "A, B, A, B"),
        ("A, B, and again from the top!", "A, B, A, B"), ("twice: A, B", "A, B, A, B"),
        ("order: 3x: A B", "A, B, A, B, A, B"),
        ("2x (A, B), Break", "A, B, A, B, Break"), ("three times (we do A)", "A, A, A"),
        ("Break, twice (A B)", "Break, A, B, A, B"),
        ("A twice twice B", "A x2, B x2"), ("A x2 one B", "A x2, B"), ("A three Bs", "A, B x3"),
        # What is an ending of the time stays one.
        ("A x2, ends: & touch", "A x2 ends: & touch"),
    )  # fmt: skip
    def test_read_as_written_part_by_part(self, said: str, written: str) -> None:
        self.assertEqual(read(said), read(written))

    @cases(
        ("A again",),
        ("A repeat x3",),
        ("A both twice",),
        ("A for 16 counts",),
        ("A, wait 100, B",),
        ("A half",),
        ("A, hold once, B",),
        ("A and B twice",),
        ("A, B, twice",),
        ("AB x2",),
        ("A 2x B",),
        ("A two times B",),
        ("A 2x (B Break)",),
        ("2x (A B) x3",),
        ("twice:",),
        ("A, B all twice, Break",),
        ("A two B",),
    )
    def test_what_may_mean_several_things_is_said(self, text: str) -> None:
        self.assertTrue(read_combo([text], NAMES)[1])

    def test_a_line_that_begins_with_part_is_of_the_combo(self) -> None:
        piece = piece_from("part A\n1 step\npart B\n1 clap\ncombo\npart A, part B\npart A twice")
        self.assertEqual(([p.name for p in piece.parts], piece.problems), (["A", "B"], ()))
        self.assertEqual([(item.part, item.times) for item in piece.combo], [("A", 1), ("B", 1), ("A", 2)])

    @cases(
        ("Turn-over",),
        ("Now",),
        ("Order",),
        ("We do",),
        ("Twice",),
        ("L",),
        ("Left A",),
        ("A+B",),
        ("Wait 8",),
        ("First",),
        ("Two As",),
    )
    def test_a_part_that_is_called_so_is_that_part(self, name: str) -> None:
        items, problems = read_combo([f"A, {name}, A"], ("A", name))
        self.assertEqual(([item.part for item in items], problems), (["A", name, "A"], []))

    def test_nothing_is_danced_as_long_as_is_said(self) -> None:
        piece = piece_from("part A\n1 step 2 step\npart B\n1 clap 2 clap\ncombo\nA, wait 4, B")
        self.assertEqual(piece.problems, ())
        self.assertEqual(ledger(piece).counts, 2 + 4 + 2)

    def test_changed_by_hand_where_it_stands(self) -> None:
        text = "left A, wait 8 then two Bs"
        items, _ = read_combo([text], NAMES)
        self.assertEqual(edits.edited(text, items, edits.once_more(items, 2, 1), NAMES), "left A, wait 8 then B x3")
        sided = [replace(items[0], side="right"), *items[1:]]
        self.assertEqual(edits.edited(text, items, sided, NAMES), "A, right, wait 8 then two Bs")


if __name__ == "__main__":
    unittest.main()


class WrongTest(unittest.TestCase):
    @cases(
        ("A x2 x3", "x3"),
        ("A twice, three times", "three times"),
        ("A turn 1/4 right, turn 1/4 left", "turn 1/4 left"),
    )
    def test_what_is_said_twice(self, text: str, again: str) -> None:
        _, problems = read_combo([text], NAMES)
        self.assertEqual([(p.code, text[p.column : p.end]) for p in problems], [("C402", again)])
