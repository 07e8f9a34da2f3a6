"""Steps, by its keys: found by word and by rhythm, seen on both sides, heard, compared, and put into the part."""

import unittest

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from firn.core.script.complete import completions
from firn.core.steps.shelf import shipped
from firn.ui.dialogs.step import StepDialog
from firn.ui.pages.entries import WRITE
from tests.support import cases
from tests.ui.window import ALT, CTRL, SHIFT, WindowCase


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

    def test_hands_are_told_by_their_side(self) -> None:
        self.look_for("body six")
        right, left = self.page.strips
        self.assertIn("2: right hand, pat", right.describe(1))
        self.assertIn("2: left hand, pat", left.describe(1))
        self.assertIn("3: both hands, clap", right.describe(2))

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
        self.window.show_page(WRITE)
        self.dictate("1 step")
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
        self.window.show_page(WRITE)
        self.dictate("1 step")
        self.key(Qt.Key.Key_Return, CTRL)
        self.assertEqual(self.editor.toPlainText().strip(), "1 step")

    def test_a_letter_typed_into_a_field_is_a_letter(self) -> None:
        self.page.word.setFocus()
        QTest.keyClicks(self.page.word, "d")
        self.assertEqual((self.page.word.text(), self.page.beside), ("d", None))


class OwnStepsTest(WindowCase):
    """Steps that a teacher makes herself: of nothing, of a selection, of another card."""

    def setUp(self) -> None:
        super().setUp()
        self.folder_of_cards = self.folder / "cards"
        self.dialogs: list[StepDialog] = []

    def fill(self, **fields: str) -> None:
        def fill(dialog: StepDialog) -> None:
            self.dialogs.append(dialog)
            for name, text in fields.items():
                getattr(dialog, name).setText(text)

        self.answers.fill = fill

    @property
    def page(self):
        return self.window.rooms.steps

    def test_of_nothing(self) -> None:
        self.key(Qt.Key.Key_F5)
        self.fill(name="gate swing", sounds="brush A, hop W, step A", usual="&1 2", sentence="Over the gate.")
        self.key(Qt.Key.Key_N, CTRL | ALT)
        self.assertEqual(self.page.card.name, "gate swing")
        self.assertTrue((self.folder_of_cards / "gate-swing.toml").exists())
        self.window.show_page(WRITE)
        self.dictate("2 gate swing")
        self.assertEqual([s.kind for s in self.desk.stretch.sounds], ["brush", "hop", "step"])

    def test_what_is_wrong_is_said_and_nothing_is_kept(self) -> None:
        self.key(Qt.Key.Key_F5)
        self.fill(name="gate swing", sounds="brush A, jumpp A", usual="&1")
        self.key(Qt.Key.Key_N, CTRL | ALT)
        self.assertIn('no sound is called "jumpp"', self.answers.wrong)
        self.assertFalse(self.folder_of_cards.exists())

    def test_of_what_is_selected(self) -> None:
        self.dictate("8 stomp  1 hop  2 step  &3 flap  & step")
        self.fill(name="latch lift")
        self.key(Qt.Key.Key_M, CTRL)
        made = self.desk.shelf.find("latch lift", "tap")
        self.assertEqual([b.kind.name for b in made.beats], ["stomp", "hop", "step", "brush", "step", "step"])
        self.assertEqual(self.page.card, made)

    def test_a_copy_of_one_of_firns_then_changed(self) -> None:
        self.key(Qt.Key.Key_F5)
        QTest.keyClicks(self.page.word, "flap heel")
        self.page.list.setFocus()
        self.fill(sentence="Ours.")
        self.key(Qt.Key.Key_Y)
        self.assertEqual(self.page.card.sentence, "Ours.")
        self.fill(remedy="Softer.")
        self.key(Qt.Key.Key_Y)
        own = [c for c in self.desk.shelf.cards if c in self.desk.shelf.own]
        self.assertEqual([(c.name, c.sentence, c.remedies) for c in own], [("flap heel", "Ours.", ("Softer.",))])

    def test_retired_and_offered_again(self) -> None:
        self.key(Qt.Key.Key_F5)
        QTest.keyClicks(self.page.word, "flap heel")
        self.key(Qt.Key.Key_R, CTRL | ALT)
        self.assertIn("no longer offered", [self.page.list.item(n).text() for n in range(self.page.list.count())][-1])
        self.window.show_page(WRITE)
        self.dictate("&a1 flap heel")
        self.assertEqual(len(self.desk.stretch.sounds), 3)
        self.assertEqual([c.name for c in completions("flap he", self.desk.shelf, "tap")], ["flap heel heel"])

    def test_written_out_and_brought_in(self) -> None:
        self.key(Qt.Key.Key_F5)
        self.answers.path = self.folder / "out.toml"
        self.key(Qt.Key.Key_E, CTRL | ALT)
        self.assertIn("no card of yours", self.window.banner.text)
        QTest.keyClicks(self.page.word, "flap heel")
        self.page.list.setFocus()
        self.key(Qt.Key.Key_E, CTRL | ALT)
        self.key(Qt.Key.Key_I, CTRL | ALT)
        self.assertEqual([c.name for c in self.desk.shelf.own], ["flap heel"])
        (self.folder / "out.toml").write_text("[[card]", "utf-8")
        self.key(Qt.Key.Key_I, CTRL | ALT)
        self.assertIn("out.toml is broken", self.window.banner.text)


if __name__ == "__main__":
    unittest.main()
