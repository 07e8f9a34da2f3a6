"""Where a step goes: how the feet then stand, where the dancer travels, and the same on the other side."""

import unittest

from firn.core.piece.versions import other_side
from firn.core.reading.read import check_part
from firn.core.reading.sentences import sentence
from tests.support import cases, part


def told(text: str, code: str, tradition: str = "step dance") -> list[str]:
    return [sentence(f) for f in check_part(part(text, tradition=tradition)) if f.code == code]


class WhereTest(unittest.TestCase):
    @cases(
        ("1 step side  2 threes", "threes on 2 begins with the feet one in front; step side leaves them apart."),
        (
            "1 step together  2 threes",
            "threes on 2 begins with the feet one in front; step together leaves them together.",
        ),
        ("1 step behind  2 threes", None),
        ("1 step front  2 threes", None),
        ("1 touch side  2 threes", None),
        ("1 step side  2 step  3 threes", None),
    )
    def test_how_the_feet_then_stand(self, text: str, said: str | None) -> None:
        """Steps apart or together are no start for one that begins with a foot in front; a touch leaves them."""
        self.assertEqual(told(text, "stance"), [said] if said else [])

    def test_where_the_dancer_travels(self) -> None:
        said = told("1 step forward  2 step forward  3 step back  4 slide to the left", "travel", "tap")
        where = "Travels forward 2, back 1, left 1: ends 1 forward and 1 left of where it began."
        self.assertEqual(said, [f"{where} Room for 2 forward and 1 left."])

    def test_the_other_way_on_the_other_side(self) -> None:
        there = other_side(part("1 slide to the left  2 step back"))
        self.assertIn("to the right", there.text)
        self.assertIn("back", there.text)
        again = part("1 step to the left  2 touch\nother side")
        self.assertEqual([u.word.where for u in again.uses], ["to the left", "", "to the right", ""])


if __name__ == "__main__":
    unittest.main()
