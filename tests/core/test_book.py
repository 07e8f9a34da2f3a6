"""The workbook's values and edits."""

import unittest

from msgspec.structs import replace

from firn.core.book.book import Book, BookPart, Take, new_piece, piece_of_script
from firn.core.book.edits import (
    EAR_KEPT,
    AddLog,
    AddPart,
    AddPiece,
    AddTake,
    ChangeLog,
    ChangeTake,
    DeleteLog,
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
from firn.core.book.log import Answer, LogEntry, best_clean, ear_record
from firn.core.script.piece_text import read_script
from firn.errors import FirnError
from tests.core.test_script import GATE_LATCH
from tests.support import cases

PIECE = new_piece("p", "a", "Gate Latch")
BOOK = AddPiece(PIECE).apply(Book())
TAKE = Take("t", "p", "a", "first", "2026-11-25T20:00:00+00:00", "hash", 48_000, 96_000, 120.0)
ENTRY = LogEntry("e", "2026-11-25T20:00:00+00:00", "Kept Latch, A", "a", "right", 120, "clean", 12, 12, "hard",
                 "wood", source="take", take="t")  # fmt: skip


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
        self.assertEqual([t.name for t in book.takes_of("p", "a")], ["second"])
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
            book = NoteAnswer(Answer("how_many", i % 2 == 0)).apply(book)
        self.assertEqual(len(book.ear), EAR_KEPT)
        self.assertFalse(NoteAnswer.undoable)

    def test_an_unknown_piece_is_a_bug(self) -> None:
        with self.assertRaisesRegex(ValueError, "no piece"):
            SetPartText("x", "a", "").apply(BOOK)


class LogTest(unittest.TestCase):
    def test_noted_changed_and_deleted(self) -> None:
        book = AddLog(ENTRY).apply(AddTake(TAKE).apply(BOOK))
        book = ChangeTake(replace(TAKE, swapped=True, shoes="soft", floor="lino")).apply(book)
        self.assertEqual([(e.side, e.shoes, e.floor) for e in book.log], [("left", "soft", "lino")])
        book = ChangeLog(replace(book.log[0], remark="at the rail")).apply(book)
        self.assertEqual(book.log[0].remark, "at the rail")
        self.assertEqual(DeleteLog("e").apply(book).log, ())
        self.assertEqual(DeletePiece("p").apply(book).log, book.log)

    @cases(("too slow", {"tempo": 0.0}, "must lie between 20 and 400"), ("no number", {"tempo": float("nan")}, "nan"),
           ("no day", {"when": "yesterday"}, "yesterday is no day"))  # fmt: skip
    def test_what_cannot_be_kept(self, _: str, change: dict, message: str) -> None:
        with self.assertRaisesRegex(FirnError, message):
            AddLog(replace(ENTRY, **change)).apply(BOOK)

    def test_best_clean_tempo(self) -> None:
        """Clean ones or with a slip, each better than the one before; by step and side; called as last called."""
        rows = [
            ("2026-11-01", "Old name, A", "a", "right", 100, "clean"),
            ("2026-11-03", "Latch, A", "a", "right", 96, "slip"),
            ("2026-11-02", "Old name, A", "a", "right", 120, "lost"),
            ("2026-11-04", "Latch, A", "a", "right", 108, "clean"),
            ("2026-11-02", "Old name, A", "a", "left", 92, "clean"), ("2026-11-02", "Walks", "", "", 80, "clean"),
            ("2026-11-02", "Latch, B", "b", "left", 92, ""),
        ]  # fmt: skip
        best = best_clean(LogEntry(str(i), *row) for i, row in enumerate(rows))
        self.assertEqual([(b.step, b.side, b.tempo) for b in best],
                         [("Latch, A", "right", 108), ("Latch, A", "left", 92), ("Walks", "", 80)])  # fmt: skip
        self.assertEqual(best[0].rises, (("2026-11-01", 100), ("2026-11-04", 108)))

    def test_ear_record(self) -> None:
        answers = [Answer("how_many", True), Answer("early_or_late", False), Answer("how_many", False)]
        self.assertEqual(ear_record(answers), {"how_many": (1, 2), "early_or_late": (0, 1)})


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
