"""A word that could be read in two ways, on Write: seen, heard, and taken by a key."""

import unittest

from PySide6.QtTest import QTest

from tests.support import comes
from tests.ui.window import ALT, CTRL, SHIFT, Qt, WindowCase

LINE = "1 step  2 heel, toe"
APART, TOGETHER = ["step", "heel", "toe"], ["step", "heel toe"]


class DoubtTest(WindowCase):
    def setUp(self) -> None:
        super().setUp()
        self.editor.setFocus()
        QTest.keyClicks(self.editor, LINE)
        self.settle()
        self.page = self.window.write_page

    def words(self) -> list[str]:
        return [text for _, text in self.page.strip.stretch.words]

    def doubts(self) -> list[str]:
        return [n.text for n in self.page.notes.notes if n.code == "doubt"]

    def leave(self) -> None:
        """Leave the word: what is still typed is not doubted."""
        QTest.keyClick(self.editor, Qt.Key.Key_Home)
        self.settle()

    def look(self) -> None:
        self.leave()
        notes = self.page.notes
        self.key(Qt.Key.Key_F6)
        self.key(Qt.Key.Key_F6)
        self.assertTrue(notes.hasFocus())
        notes.setCurrentRow([n.code for n in notes.notes].index("doubt"))
        self.settle()

    def test_what_is_still_typed_is_left_alone(self) -> None:
        self.assertEqual(self.doubts(), [])
        self.leave()
        self.assertEqual(self.doubts(), ["“heel, toe” is read as heel, then toe; it could be heel toe, the step."])

    def test_it_is_marked_on_the_strip_and_in_the_text(self) -> None:
        self.leave()
        self.assertEqual(self.page.strip.overlay.marks, {1: "look"})
        self.assertEqual(self.words(), APART)

    def test_the_readings_are_seen_before_one_is_taken(self) -> None:
        self.look()
        notes = self.page.notes
        self.assertEqual(self.words(), APART)
        self.key(Qt.Key.Key_Right, on=notes)
        self.assertTrue(comes(lambda: self.words() == TOGETHER))
        self.assertIn("On the strip: read it as heel toe, the step.", self.page.look_head.text())
        self.key(Qt.Key.Key_Escape, on=notes)
        self.assertEqual((self.words(), self.page.look_head.text()), (APART, "Worth a look"))
        self.assertEqual(self.desk.text, LINE)

    def test_they_are_heard(self) -> None:
        self.look()
        self.key(Qt.Key.Key_Right, on=self.page.notes)
        self.key(Qt.Key.Key_E, SHIFT, on=self.page.notes)
        self.assertTrue(comes(lambda: self.running.player.playing))

    def test_one_is_taken_for_the_whole_piece_and_taken_back(self) -> None:
        self.leave()
        self.key(Qt.Key.Key_2, ALT)
        self.settle()
        self.assertEqual((self.words(), self.doubts()), (TOGETHER, []))
        self.assertIn("words: heel toe together", self.desk.piece.head)
        self.assertEqual(self.desk.text, LINE)
        self.assertEqual(self.window.actions_by_id["undo"].text(), "Undo say how a word is read")
        self.key(Qt.Key.Key_Z, CTRL)
        self.settle()
        self.assertEqual((self.words(), self.desk.text), (APART, LINE))

    def test_what_is_believed_can_be_kept(self) -> None:
        self.leave()
        self.key(Qt.Key.Key_1, ALT)
        self.settle()
        self.assertEqual((self.words(), self.doubts()), (APART, []))
        self.assertIn("words: heel toe apart", self.desk.piece.head)

    def test_what_is_squeezed_in_is_written_out(self) -> None:
        self.window.desk.change("1 step  & ball change  2 step", "Write")
        self.leave()
        self.assertIn("“& ball change” has no room", " ".join(n.text for n in self.page.notes.notes))
        self.key(Qt.Key.Key_1, ALT)
        self.settle()
        self.assertEqual(self.desk.text, "1 step  &a ball change  2 step")


class RepeatTest(WindowCase):
    """What "repeat" is of, after several lines."""

    def test_all_lines_are_written_once_more_and_taken_back(self) -> None:
        text = "1 stamp  2 clap\n3 step  4 hold\nrepeat\n1 step"
        self.desk.change(text, "Write")
        self.settle()
        notes = self.window.write_page.notes
        notes.setFocus()
        notes.setCurrentRow([n.code for n in notes.notes].index("doubt"))
        self.key(Qt.Key.Key_Right, on=notes)
        self.key(Qt.Key.Key_Return, on=notes)
        self.assertEqual(self.desk.text, "1 stamp  2 clap\n3 step  4 hold\n1 stamp  2 clap\n3 step  4 hold\n1 step")
        self.key(Qt.Key.Key_Z, CTRL)
        self.assertEqual(self.desk.text, text)

    def test_feet_beneath_the_steps_are_taken_as_they_are_meant(self) -> None:
        self.desk.change("flap stamp\nL R", "Write")
        self.settle()
        self.assertEqual([s.foot for s in self.desk.part.sounds], ["left", "left", "right"])
        notes = self.window.write_page.notes
        notes.setFocus()
        notes.setCurrentRow([n.code for n in notes.notes].index("doubt"))
        self.key(Qt.Key.Key_Right, on=notes)
        self.key(Qt.Key.Key_Return, on=notes)
        self.assertEqual(self.desk.text, "flap stamp\nL step  R step")
        self.assertEqual([s.foot for s in self.desk.part.sounds], ["right", "right", "left", "left", "right"])
        self.key(Qt.Key.Key_Z, CTRL)
        self.assertEqual(self.desk.text, "flap stamp\nL R")


if __name__ == "__main__":
    unittest.main()
