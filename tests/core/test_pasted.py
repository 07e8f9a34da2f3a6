"""Whatever is pasted: names of any language, text from right to left, tabs, very much of it."""

import unittest

from firn.core.piece.build import part_from, piece_from
from firn.core.script.settings import Settings, read_settings
from firn.core.script.writer import write_part
from firn.core.steps.card import card_from
from firn.core.steps.shelf import Shelf, shipped
from tests.support import cases, feet

LINE = "1 step  &2 flap  3 step  & step  4 stamp  5 step  6 step  7 hold  8 step"


class NamesTest(unittest.TestCase):
    @cases(
        ("Spanish", "tacón doble"), ("Irish", "céim fhada"), ("Greek", "βήμα"), ("Japanese", "足踏み"),
        ("Hebrew", "צעד"), ("Arabic", "خطوة"), ("Hindi", "ताल"), ("composed otherwise", "taco\u0301n doble"),
        ("an apostrophe", "cat's paw"), ("full width", "ＳＴＥＰ ｏｎｅ"),
    )  # fmt: skip
    def test_a_step_of_any_name(self, _: str, name: str) -> None:
        card = card_from({"name": name, "sounds": ["step A", "step B"], "usual": ["1 2"]})
        shelf = Shelf.of(shipped().cards, [card])
        one = part_from("A", f"1 {name}  3 step", Settings(), shelf)
        self.assertEqual(([p.message for p in one.problems], feet(one)), ([], "RLR"))
        again = part_from("A", write_part(one.script, one.settings), Settings(), shelf)
        self.assertEqual([s.place for s in again.sounds], [s.place for s in one.sounds])

    @cases(
        ("dash", "Gate – Latch"), ("right to left", "שער"), ("a candle", "🕯 Lantern"), ("long", "A" * 2_000),
    )  # fmt: skip
    def test_a_piece_and_part_of_any_name(self, _: str, name: str) -> None:
        read = piece_from(f"piece: {name}\npart {name}\n1 step  2 step\ncombo\n{name} x2")
        self.assertEqual((read.problems, read.settings.name, read.combo[0].part), ((), name, name))


class PastedTest(unittest.TestCase):
    @cases(
        ("tabs", "1\tstep\t\t2\tstep"),
        ("no-break spaces", "1\u00a0step\u00a0\u00a02\u00a0step"),
        ("marks of direction", "\u202b1 step\u202c \u200f2 step\u200e"),
        ("zero width and a byte order mark", "\ufeff1 step \u200b2 step"),
        ("carriage returns", "1 step\r2 step"), ("Windows line ends", "1 step\r\n2 step"),
        ("a line separator", "1 step\u20282 step"), ("another dash", "1 step  2 step  3–4 hold"),
    )  # fmt: skip
    def test_read_as_if_it_were_typed(self, _: str, text: str) -> None:
        one = part_from("A", text, Settings())
        self.assertEqual(([p.message for p in one.problems], feet(one)[:2]), ([], "RL"))

    def test_text_from_right_to_left_is_one_problem_each(self) -> None:
        one = part_from("A", "1 צעד  2 step  3 خطوة قصيرة  4 step", Settings())
        self.assertEqual([p.code for p in one.problems], ["N101", "N101"])
        self.assertEqual([s.kind for s in one.sounds], ["step", "step"])

    def test_two_thousand_lines(self) -> None:
        one = part_from("A", "\n".join([LINE] * 2_000), Settings())
        self.assertEqual((len(one.problems), len(one.sounds), one.counts), (0, 20_000, 16_000))
        self.assertEqual(one.footing.faults, ())

    def test_a_word_of_ten_thousand_letters(self) -> None:
        one = part_from("A", f"1 {'stamp' * 2_000}  2 step", Settings())
        self.assertEqual([p.code for p in one.problems], ["N101"])
        self.assertLess(len(one.problems[0].message), 200)
        self.assertEqual([s.place for s in one.sounds], [1])

    def test_a_heading_and_a_count_of_ten_thousand(self) -> None:
        self.assertEqual(read_settings([f"tempo: {'9' * 10_000}"])[1][0].code, "H202")
        self.assertEqual([p.code for p in part_from("A", f"{'7' * 10_000} step", Settings()).problems], ["N105"])
        self.assertEqual(part_from("A", f"1 step x{'9' * 10_000}", Settings()).problems[0].code, "N111")


if __name__ == "__main__":
    unittest.main()
