"""Two parts beside each other: alike, mirrored, reordered, standing for each other or not."""

import unittest

from firn.session.beside import laid_beside
from tests.support import cases, part

LINE = "1 step  & brush  a spank  2 step  3 touch  4 hold"


class BesideTest(unittest.TestCase):
    @cases(
        ("the same", LINE, LINE, "They are the same."),
        ("as long, the same foot free", "1 step  2 step  3 step  4 step", "1 step  2 touch  3 touch  4 step",
         "They differ on 2 places. One can stand for the other"),
        ("another foot free", "1 step  2 step", "1 step  2 touch", "They differ on 1 place. One cannot stand"),
        ("another length", "1 step  2 step", "1 step  2 step  3 hold  4 hold", "cannot stand for the other"),
        # Practised at a rail a roll has its touch, step and pickup in another order (common practice, no source).
        ("another order", "1 touch  & step  2 brush", "1 brush  & step  2 touch", "in another order"),
    )  # fmt: skip
    def test_what_it_comes_to(self, _: str, one: str, other: str, said: str) -> None:
        self.assertIn(said, laid_beside(part(one), part(other)).said)

    def test_a_left_version_is_the_right_one_mirrored(self) -> None:
        right, left = part("1 R step  2 step  3 touch"), part("1 L step  2 step  3 touch")
        self.assertTrue(laid_beside(right, left).differences)
        self.assertEqual(laid_beside(right, left, mirrored=True).said, "A is A on the other side, sound by sound.")
        slip = part("1 L step  2 touch  3 touch")
        told = laid_beside(right, slip, mirrored=True)
        self.assertEqual(
            told.differences, ("2: left step here, left touch there", "3: right touch here, left touch there")
        )

    def test_the_figures(self) -> None:
        rows = {what: (a, b) for what, a, b in laid_beside(part(LINE), part("1 step  2 step")).rows}
        self.assertEqual(rows["Counts"], ("4", "2"))
        self.assertEqual(rows["Sounds"], ("5", "2"))
        self.assertEqual(rows["Changes of weight"], ("2", "2"))
        self.assertEqual(rows["Sounds a count"], ("1.25", "1"))


if __name__ == "__main__":
    unittest.main()
