"""A part of another piece is found by its words, and written here, from this workbook or another."""

import unittest

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from firn.core.book.book import Book, piece_of_script
from firn.files.store import new_store
from firn.ui.dialogs.elsewhere import ElsewhereDialog
from tests.support import cases
from tests.ui.window import CTRL, SHIFT, WindowCase

OTHER = "piece: Lantern\ntradition: clogging\n\npart Opening\n1 basic\n\npart Turn\n1 stomp  2 stomp\n"


class BringPartTest(WindowCase):
    def setUp(self) -> None:
        super().setUp()
        self.dictate("1 step  2 step")
        self.desk.commit()
        self.here = self.desk.piece.id
        path = self.folder / "lantern.steps"
        path.write_text(OTHER, "utf-8")
        self.window.pieces.bring_in(path)
        self.desk.go_to(self.here, self.book.piece(self.here).parts[0].id)

    def bring(self, fill) -> None:  # type: ignore[no-untyped-def]
        self.answers.fill = fill
        self.key(Qt.Key.Key_A, CTRL | SHIFT)

    def test_by_its_words_and_taken_back(self) -> None:
        seen: list[str] = []

        def fill(dialog: ElsewhereDialog) -> None:
            seen.append(dialog.many.text())
            QTest.keyClicks(dialog.word, "basic")
            seen.append(dialog.many.text())
            dialog.accept()

        self.bring(fill)
        self.assertEqual(
            seen, ["2 parts of other pieces in this workbook.", "1 part of other pieces in this workbook."]
        )
        names = [p.name for p in self.desk.piece.parts]
        self.assertEqual((self.desk.piece.id, names, self.desk.title), (self.here, ["A", "Opening"], "Opening"))
        self.assertEqual(self.editor.toPlainText(), "1 clogging-basic")
        self.assertIn("Opening of Lantern is here as Opening. 1 of its lines", self.window.banner.text)
        self.key(Qt.Key.Key_Z, CTRL)
        self.assertEqual([p.name for p in self.desk.piece.parts], ["A"])

    def test_of_another_workbook(self) -> None:
        path = self.folder / "autumn.firn"
        new_store(
            path, Book(pieces=(piece_of_script("piece: Autumn\n\npart Coda\n1 stamp\n", list("abcd")),))
        ).close()
        self.answers.path = path
        seen: list[str] = []

        def fill(dialog: ElsewhereDialog) -> None:
            dialog.other.click()
            seen.append(dialog.many.text())
            QTest.keyClick(dialog, Qt.Key.Key_Down)
            dialog.accept()

        self.bring(fill)
        self.assertEqual(seen, ["1 part of other pieces in autumn.firn."])
        self.assertEqual((self.desk.title, self.editor.toPlainText()), ("Coda", "1 stamp"))

    @cases(
        ("none is chosen", None, "2 parts of other pieces in this workbook."),
        ("it is no workbook", "text.firn", "text.firn is no Firn workbook."),
    )
    def test_what_cannot_be_leaves_all_as_it_was(self, _: str, name: str | None, said: str) -> None:
        if name:
            (self.folder / name).write_text("no workbook" * 20)
        self.answers.path = self.folder / name if name else None
        before = self.book

        def fill(dialog: ElsewhereDialog) -> None:
            dialog.other.click()
            self.assertEqual(dialog.many.text(), said)
            dialog.word.setText("nothing that is called so")
            self.assertEqual(dialog.many.text(), "None in this workbook.")
            self.assertFalse(dialog.take.isEnabled())
            dialog.reject()

        self.bring(fill)
        self.assertEqual(self.book.pieces, before.pieces)


if __name__ == "__main__":
    unittest.main()
