"""Steps, by its keys: found by word and by rhythm, seen on both sides, heard, compared, and put into the part."""

import unittest

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from firn.core.steps.shelf import shipped
from tests.support import cases
from tests.ui.window import CTRL, SHIFT, WindowCase


class StepsTest(WindowCase):
    def setUp(self) -> None:
        super().setUp()
        self.key(Qt.Key.Key_F5)
        self.page = self.window.rooms.steps

    def look_for(self, word: str = "", rhythm: str = "") -> list[str]:
        for field, text in ((self.page.word, word), (self.page.rhythm, rhythm)):
            field.clear()
            QTest.keyClicks(field, text)
        return [self.page.list.item(n).text() for n in range(self.page.list.count())]

    def test_all_are_there_to_begin_with(self) -> None:
        self.assertTrue(self.page.word.hasFocus())
        self.assertEqual(self.page.list.count(), len(shipped().cards))
        self.assertEqual(self.page.many.text(), f"{len(shipped().cards)} steps")

    @cases(
        ("a name", "paradid", "", "paradiddle"),
        ("in Spanish", "golpe", "", "stamp"),
        ("a rhythm", "", "1 e & a", "cramp roll"),
        ("both", "treble", "& a 1", "treble step"),
    )
    def test_found_and_shown_on_both_sides(self, _: str, word: str, rhythm: str, name: str) -> None:
        self.look_for(word, rhythm)
        self.assertEqual(self.page.card.name, name)
        self.assertEqual(self.page.name.text(), name)
        feet = [[s.foot for s in strip.stretch.sounds] for strip in self.page.strips]
        swap = {"left": "right", "right": "left"}
        self.assertEqual(feet[1], [swap.get(f, f) for f in feet[0]])

    def test_filters(self) -> None:
        self.page.tradition.setCurrentText("house")
        self.page.sounds.setCurrentIndex(3)
        found = self.look_for()
        self.assertTrue(found)
        for name in found:
            self.assertIn("house", name)

    def test_what_is_no_count_is_said_and_nothing_is_lost(self) -> None:
        before = self.look_for("flap")
        QTest.keyClicks(self.page.rhythm, "shuffle")
        self.assertEqual(self.page.many.text(), '"shuffle" is not counts such as & a 1.')
        self.assertEqual([self.page.list.item(n).text() for n in range(self.page.list.count())], before)

    def test_nothing_found(self) -> None:
        self.look_for("zzzzqqqq")
        self.assertIn("No step is called", self.page.many.text())
        self.assertFalse(self.page.hear_button.isEnabled())
        self.key(Qt.Key.Key_Return, on=self.page.word)

    @cases(("at speed", False), ("slowly", True))
    def test_heard(self, _: str, slow: bool) -> None:
        self.look_for("flap heel")
        played = []
        self.running.player.play_samples = played.append
        self.key(Qt.Key.Key_Return, SHIFT if slow else Qt.KeyboardModifier.NoModifier, on=self.page.word)
        self.settle()
        tempo = self.desk.transport.tempo * (0.6 if slow else 1)
        # Twice, once on each foot, each in a bar of four.
        self.assertAlmostEqual(len(played[-1]) / 48_000, 8 * 60 / tempo, delta=1.5)

    def test_laid_beside_another(self) -> None:
        self.look_for("flap")
        self.page.list.setFocus()
        self.key(Qt.Key.Key_D)
        self.assertEqual(self.page.beside_button.text(), "Now find another  D")
        self.look_for("slap")
        self.assertIn("Where slap has a touch, flap has a step.", self.page.text.text())
        self.assertEqual([h.text() for h in self.page.heads], ["slap, right foot first", "flap, right foot first"])
        self.page.list.setFocus()
        self.key(Qt.Key.Key_D)
        self.assertIn("Right foot first", self.page.heads[0].text())

    def test_put_into_the_part_and_taken_back(self) -> None:
        self.window.show_page(0)
        self.type("1 step")
        self.key(Qt.Key.Key_F5)
        self.look_for("shuffle ball")
        self.key(Qt.Key.Key_Return, CTRL, on=self.page.word)
        self.assertEqual(self.editor.toPlainText(), "1 step  shuffle ball change")
        self.assertEqual(self.window.pages.currentIndex(), 0)
        self.key(Qt.Key.Key_Z, CTRL)
        self.assertEqual(self.editor.toPlainText(), "1 step")

    def test_put_into_an_empty_part_with_its_counts(self) -> None:
        self.look_for("waltz clog")
        self.key(Qt.Key.Key_Return, CTRL, on=self.page.word)
        self.assertEqual(self.editor.toPlainText(), "1 &2 &3 waltz clog")

    def test_its_keys_stay_on_its_page(self) -> None:
        self.window.show_page(0)
        self.type("1 step")
        self.key(Qt.Key.Key_Return, CTRL)
        self.assertEqual(self.editor.toPlainText().strip(), "1 step")

    def test_a_letter_typed_into_a_field_is_a_letter(self) -> None:
        self.page.word.setFocus()
        QTest.keyClicks(self.page.word, "d")
        self.assertEqual((self.page.word.text(), self.page.beside), ("d", None))


if __name__ == "__main__":
    unittest.main()
