"""The workbook's values and edits."""

import unittest

from firn.core.book.book import Book, BookPart, Take, new_piece, piece_of_script
from firn.core.book.edits import (
    EAR_KEPT,
    AddPart,
    AddPiece,
    AddTake,
    DeletePart,
    DeletePiece,
    DeleteTake,
    GoTo,
    NoteAnswer,
    RenamePart,
    RenameTake,
    SetCombo,
    SetHead,
    SetPartText,
    checked_name,
)
from firn.core.script.reader import read_script
from firn.errors import FirnError
from tests.core.test_script import GATE_LATCH
from tests.support import cases

PIECE = new_piece("p", "a", "Gate Latch")
BOOK = AddPiece(PIECE).apply(Book())
TAKE = Take("t", "p", "a", "first", "2026-11-25T20:00:00+00:00", "hash", 48_000, 96_000, 120.0)


class EditsTest(unittest.TestCase):
    def test_each_edit_does_what_it_says(self) -> None:
        book = BOOK
        self.assertEqual(book.here, ("p", "a"))
        book = SetPartText("p", "a", "1 step").apply(book)
        book = AddPart("p", BookPart("b", " Long   Break ", "")).apply(book)
        self.assertEqual([(p.name, p.text) for p in book.pieces[0].parts], [("A", "1 step"), ("Long Break", "")])
        self.assertEqual(book.here, ("p", "b"))
        book = RenamePart("p", "b", "Break").apply(book)
        book = SetCombo("p", "A, Break").apply(book)
        book = SetHead("p", "piece: Other\n").apply(book)
        self.assertEqual((book.pieces[0].name, book.pieces[0].combo), ("Other", "A, Break"))
        book = AddTake(TAKE).apply(book)
        book = RenameTake("t", "second").apply(book)
        self.assertEqual([t.name for t in book.takes_of("a")], ["second"])
        self.assertEqual(TAKE.seconds, 2.0)
        book = GoTo("p", "a").apply(book)
        self.assertEqual(DeletePart("p", "a").apply(book).takes, ())
        self.assertEqual(DeletePart("p", "a").apply(book).here, ("p", "b"))
        self.assertEqual(DeleteTake("t").apply(book).takes, ())
        gone = DeletePiece("p").apply(book)
        self.assertEqual((gone.pieces, gone.takes, gone.here), ((), (), ("", "")))

    def test_an_edit_leaves_the_old_book_as_it_was(self) -> None:
        SetPartText("p", "a", "1 step").apply(BOOK)
        self.assertEqual(BOOK.pieces[0].parts[0].text, "")

    @cases(
        ("empty", "  "),
        ("too long", "x" * 81),
        ("a comma", "A, B"),
        ("a hash", "A # B"),
        ("a colon", "A: B"),
    )
    def test_names_that_cannot_be(self, _: str, name: str) -> None:
        with self.assertRaises(FirnError):
            checked_name(name)

    def test_two_parts_of_one_name(self) -> None:
        book = AddPart("p", BookPart("b", "B", "")).apply(BOOK)
        with self.assertRaisesRegex(FirnError, 'Another part is called "a" already'):
            RenamePart("p", "b", "a").apply(book)
        with self.assertRaisesRegex(FirnError, "cannot be called"):
            RenamePart("p", "b", "combo").apply(book)

    def test_the_ear_is_kept_so_long(self) -> None:
        book = BOOK
        for i in range(EAR_KEPT + 10):
            book = NoteAnswer(i % 2 == 0).apply(book)
        self.assertEqual(len(book.ear), EAR_KEPT)
        self.assertFalse(NoteAnswer.undoable)

    def test_an_unknown_piece_is_a_bug(self) -> None:
        with self.assertRaisesRegex(ValueError, "no piece"):
            SetPartText("x", "a", "").apply(BOOK)


class ScriptTest(unittest.TestCase):
    def test_a_script_comes_in_and_goes_out(self) -> None:
        piece = piece_of_script(GATE_LATCH, [str(i) for i in range(9)])
        self.assertEqual([p.name for p in piece.parts], ["A", "Break"])
        self.assertIn("# look up here", piece.parts[1].text)
        one, two = read_script(GATE_LATCH), read_script(piece.script)
        self.assertEqual((one.settings, two.problems), (two.settings, ()))
        for a, b in zip(one.parts, two.parts, strict=True):
            self.assertEqual([u.places for u in a.uses], [u.places for u in b.uses])
        strip = [(i.part, i.times, i.side, i.last_ends) for i in one.combo]
        self.assertEqual([(i.part, i.times, i.side, i.last_ends) for i in two.combo], strip)

    def test_a_script_without_headings(self) -> None:
        piece = piece_of_script("1 step 2 step", ["x", "y"])
        self.assertEqual((piece.name, piece.parts[0].text), ("Untitled", "1 step 2 step"))


if __name__ == "__main__":
    unittest.main()
