"""A part so long that what is done to it goes on beside the window."""

import unittest

from pypdf import PdfReader
from PySide6.QtTest import QTest

from firn.core.book.book import Book, BookPart, BookPiece
from firn.core.book.edits import AddPiece
from firn.session.session import Session
from firn.ui.desk import AT_ONCE
from tests.support import wait
from tests.ui.window import ALT, CTRL, SHIFT, Qt, WindowCase

LINE = "1 step  2 flap  & step  3 step  4 flap  & step  5 step  6 flap  & step  7 step  8 stamp"


class LongPartTest(WindowCase):
    def setUp(self) -> None:
        super().setUp()
        text = "\n".join([LINE] * 30)
        piece = BookPiece("p", "piece: Long\nphrase: 8 counts\n", (BookPart("a", "A", text),), "A x2")
        self.open(Session.new(self.folder / "long.firn", AddPiece(piece).apply(Book())))
        self.assertGreater(len(self.desk.stretch.sounds), AT_ONCE)
        self.settle()

    def notes(self) -> list[str]:
        return [n.text for n in self.window.write_page.notes.notes]

    def test_what_is_worth_a_look_comes_when_it_is_there(self) -> None:
        self.assertIn("240 counts: 30 phrases of 8.", self.notes())
        self.editor.setFocus()
        self.editor.moveCursor(self.editor.textCursor().MoveOperation.End)
        QTest.keyClicks(self.editor, " 1 stepp")
        self.settle()
        self.key(Qt.Key.Key_Escape, on=self.editor)
        self.key(Qt.Key.Key_Escape, on=self.editor)
        self.assertTrue(wait(2_000, lambda: any("stepp" in n for n in self.notes())), self.notes())

    def test_on_read_too(self) -> None:
        self.window.show_page(1)
        self.settle()
        self.assertTrue(wait(2_000, lambda: any("30 phrases" in n.text for n in self.window.rooms.read.notes.notes)))

    def test_on_paper(self) -> None:
        self.answers.path = self.folder / "long.pdf"
        self.key(Qt.Key.Key_P, CTRL | SHIFT)
        self.settle()
        reader = PdfReader(self.answers.path)
        self.assertIn(f"long.pdf holds {len(reader.pages)} pages.", self.window.banner.text)
        self.assertIn("Long, A", " ".join(reader.pages[0].extract_text().split()))

    def test_another_rhythm_is_one_step_of_undo(self) -> None:
        before = self.desk.text
        self.window.show_page(1)
        self.key(Qt.Key.Key_Y, CTRL | ALT)
        self.settle()
        self.assertIn("Delayed: ", self.window.banner.text)
        self.assertNotEqual(self.desk.text, before)
        self.assertEqual(self.window.actions_by_id["undo"].text(), "Undo delay")
        self.key(Qt.Key.Key_Z, CTRL)
        self.assertEqual(self.desk.text, before)

    def test_what_was_changed_meanwhile_stays(self) -> None:
        self.window.actions_by_id["delay"].trigger()
        self.assertTrue(self.window.jobs.working)
        self.desk.change("1 stamp", "Write")
        self.settle()
        self.assertEqual(self.desk.text, "1 stamp")
        self.assertIn("Delay: left, since something was changed meanwhile.", self.window.banner.text)


if __name__ == "__main__":
    unittest.main()
