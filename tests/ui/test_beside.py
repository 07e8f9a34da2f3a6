"""A part so long that what is done to it goes on beside the window."""

import unittest

from pypdf import PdfReader
from PySide6.QtTest import QTest

from firn.core.book.book import Book, BookPart, BookPiece
from firn.core.book.edits import AddPiece
from firn.session.session import Session
from firn.ui.desk import AT_ONCE
from firn.ui.dialogs.beside import BesideDialog
from firn.ui.dialogs.versions import VersionsDialog
from firn.ui.pages.entries import READ
from tests.support import comes
from tests.ui.window import ALT, CTRL, SHIFT, Qt, WindowCase

LINE = "1 step  2 flap  & step  3 step  4 flap  & step  5 step  6 flap  & step  7 step  8 stamp"


class LongCase(WindowCase):
    lines = 30

    def setUp(self) -> None:
        super().setUp()
        text = "\n".join([LINE] * self.lines)
        piece = BookPiece("p", "piece: Long\nphrase: 8 counts\n", (BookPart("a", "A", text),), "A x2")
        self.open(Session.new(self.folder / "long.firn", AddPiece(piece).apply(Book())))
        self.assertGreater(len(self.desk.stretch.sounds), AT_ONCE)
        self.settle()
        self.strip = self.window.write_page.strip


class FarTest(LongCase):
    """A part of which what is out of sight of the key follows after what is in sight."""

    lines = 120

    def type_at_start(self, words: str) -> None:
        self.editor.setFocus()
        self.editor.moveCursor(self.editor.textCursor().MoveOperation.Start)
        QTest.keyClicks(self.editor, words)

    def test_what_is_in_sight_is_there_at_once_and_the_rest_soon(self) -> None:
        many, height = len(self.strip.stretch.sounds), self.strip.minimumHeight()
        self.type_at_start("1 shuffle step  ")
        self.assertFalse(self.desk.whole)
        self.assertLess(len(self.strip.stretch.sounds), many)
        self.assertGreaterEqual(self.strip.minimumHeight(), height)
        self.assertEqual([w for _, w in self.strip.stretch.words][:2], ["shuffle step", "step"])
        self.assertTrue(comes(lambda: self.desk.whole))
        self.assertEqual(len(self.strip.stretch.sounds), many + 3)

    def test_whoever_asks_for_all_of_it_has_it(self) -> None:
        many = len(self.strip.stretch.sounds)
        self.type_at_start("1 step  ")
        self.assertFalse(self.desk.whole)
        self.assertEqual(len(self.desk.stretch.sounds), many + 1)
        self.assertTrue(comes(lambda: len(self.strip.stretch.sounds) == many + 1))

    def test_it_is_kept_whole(self) -> None:
        self.type_at_start("1 step  ")
        self.desk.commit()
        self.assertTrue(self.desk.whole)
        self.assertEqual(self.desk.book_part.text.count(LINE), self.lines)

    def test_a_line_that_says_how_all_of_it_is_counted_holds_at_once(self) -> None:
        self.editor.setFocus()
        self.editor.moveCursor(self.editor.textCursor().MoveOperation.End)
        self.key(Qt.Key.Key_Return, on=self.editor)
        QTest.keyClicks(self.editor, "phrase: 6 counts")
        self.assertTrue(comes(lambda: self.desk.whole))
        self.type_at_start("1 step  ")
        self.assertFalse(self.desk.whole)
        self.assertEqual(self.strip.stretch.counting.phrase, 6)


class LongPartTest(LongCase):
    def notes(self) -> list[str]:
        return [n.text for n in self.window.write_page.notes.notes]

    def test_what_is_worth_a_look_comes_when_it_is_there(self) -> None:
        # The keys come first in a new window.
        self.assertTrue(comes(lambda: "240 counts: 30 phrases of 8." in self.notes()), self.notes())
        self.editor.setFocus()
        self.editor.moveCursor(self.editor.textCursor().MoveOperation.End)
        QTest.keyClicks(self.editor, " 1 stepp")
        self.settle()
        self.key(Qt.Key.Key_Escape, on=self.editor)
        self.key(Qt.Key.Key_Escape, on=self.editor)
        self.assertTrue(comes(lambda: any("stepp" in n for n in self.notes())), self.notes())

    def test_on_read_too(self) -> None:
        self.window.show_page(1)
        self.settle()
        self.assertTrue(comes(lambda: any("30 phrases" in n.text for n in self.window.rooms.read.notes.notes)))

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

    def test_measures_come_when_they_are_there(self) -> None:
        self.window.show_page(READ)
        measures = self.window.rooms.read.measures
        self.assertEqual((measures.table.rowCount(), measures.says.text()), (0, "Measuring…"))
        self.settle()
        self.assertEqual(measures.table.rowCount(), 10)
        self.assertIn("every four counts", self.window.rooms.read.beside.text())

    def test_a_version_is_shown_when_it_is_made(self) -> None:
        seen = []

        def fill(dialog: VersionsDialog) -> None:
            seen.append((dialog.said.text(), dialog.here.isEnabled()))
            self.settle()
            seen.append((dialog.said.text(), dialog.here.isEnabled()))

        self.answers.fill = fill
        before = self.desk.text
        self.key(Qt.Key.Key_R, CTRL)
        self.assertEqual((seen[0], seen[1][1]), (("Making it…", False), True))
        self.assertIn("other side", seen[1][0])
        self.assertNotEqual(self.desk.text, before)

    def test_one_that_is_not_there_yet_is_not_taken(self) -> None:
        before = self.desk.text
        self.key(Qt.Key.Key_R, CTRL)
        self.settle()
        self.assertEqual(self.desk.text, before)

    def test_another_laid_beside_it_is_told_when_it_is_there(self) -> None:
        seen = []

        def fill(dialog: BesideDialog) -> None:
            seen.append(dialog.said.text())
            self.settle()
            seen.append(dialog.said.text())

        self.answers.fill = fill
        self.window.show_page(READ)
        self.window.actions_by_id["beside"].trigger()
        self.assertEqual(seen[0], "Laying it beside…")
        self.assertNotIn("Laying", seen[1])

    def test_the_counts_are_filled_in(self) -> None:
        self.window.actions_by_id["fill_counts"].trigger()
        self.settle()
        self.assertEqual(self.window.actions_by_id["undo"].text(), "Undo fill in the counts")


class VeryLongPartTest(LongCase):
    lines = 180

    def test_a_change_on_the_strip_is_one_step_of_undo(self) -> None:
        before = self.desk.text
        self.strip.setFocus()
        self.strip.stand_on(4)
        self.key(Qt.Key.Key_F, on=self.strip)
        self.assertEqual((self.window.jobs.working, self.desk.text), (True, before))
        self.key(Qt.Key.Key_F, on=self.strip)
        self.assertIn("still being made", self.window.banner.text)
        self.settle()
        self.assertNotEqual(self.desk.text, before)
        self.assertEqual(self.strip.current, 4)
        self.key(Qt.Key.Key_Z, CTRL)
        self.assertEqual(self.desk.text, before)

    def test_what_is_typed_meanwhile_stays(self) -> None:
        self.strip.setFocus()
        self.strip.stand_on(4)
        self.key(Qt.Key.Key_F, on=self.strip)
        self.desk.change("1 stamp", "Write")
        self.settle()
        self.assertEqual(self.desk.text, "1 stamp")
        self.assertIn("was left", self.window.banner.text)

    def test_one_that_is_stopped_leaves_the_part_and_others_go_on(self) -> None:
        before = self.desk.text
        self.strip.setFocus()
        self.strip.stand_on(4)
        self.key(Qt.Key.Key_F, on=self.strip)
        self.window.jobs.cancel_all()
        self.settle()
        self.assertEqual(self.desk.text, before)
        self.key(Qt.Key.Key_F, on=self.strip)
        self.settle()
        self.assertNotEqual(self.desk.text, before)


if __name__ == "__main__":
    unittest.main()
