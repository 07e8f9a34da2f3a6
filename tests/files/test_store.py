"""The workbook file: what is committed is there, and nothing else is harmed."""

import os
import shutil
import sqlite3
import unittest
import unittest.mock

from msgspec.structs import replace

from firn.core.book.book import Book, BookPart, new_piece
from firn.core.book.edits import (
    AddLog,
    AddPart,
    AddPiece,
    AddTake,
    ChangeTake,
    DeletePart,
    DeletePiece,
    DeleteTake,
    GoTo,
    NoteAnswer,
    SetPartText,
)
from firn.core.book.log import Answer
from firn.errors import ReadOnlyError, StoreError
from firn.files import store as module
from firn.files.store import APPLICATION_ID, VERSION, new_store, open_store
from tests.core.test_book import ENTRY, TAKE
from tests.support import DATA, FolderCase, cases

BOOK = AddPiece(new_piece("p", "a", "Gate Latch")).apply(Book())


class KeptTest(FolderCase):
    def test_every_edit_is_there_when_opened_again(self) -> None:
        path = self.folder / "a.firn"
        store = new_store(path)
        book = BOOK
        edits = [
            SetPartText("p", "a", "1 step  # mine ♥"),
            AddPart("p", BookPart("b", "B", "")),
            AddPart("p", BookPart("c", "C", "2 stamp")),
            DeletePart("p", "b"),
            AddPiece(new_piece("q", "d", "Second")),
            AddTake(TAKE),
            NoteAnswer(Answer("how_many", True, "2026-11-25T20:00:00+00:00")),
            AddLog(ENTRY),
            ChangeTake(replace(TAKE, swapped=True, shoes="hard", click_s=0.5)),
            GoTo("p", "c"),
        ]
        for edit in edits:
            book = edit.apply(book)
            store.commit(book)
        store.close()
        again = open_store(path)
        self.assertEqual(again.load(), book)
        book = DeletePiece("p").apply(book)
        again.commit(book)
        again.close()
        third = open_store(path)
        self.assertEqual(third.load(), book)
        third.close()

    def test_samples_come_back_and_are_freed_on_closing(self) -> None:
        path = self.folder / "a.firn"
        store = new_store(path)
        data = os.urandom(2_500_000)
        store.add_samples("hash", data)
        store.add_samples("hash", data)
        store.commit(AddTake(TAKE).apply(BOOK))
        self.assertEqual(store.samples("hash"), data)
        store.close()
        store = open_store(path)
        store.commit(DeleteTake("t").apply(store.load()))
        self.assertEqual(store.samples("hash"), data, "deleting can be undone until the workbook is closed")
        store.close()
        store = open_store(path)
        with self.assertRaisesRegex(StoreError, "not in the workbook any more"):
            store.samples("hash")
        self.assertLess(path.stat().st_size, 100_000)
        store.close()

    def test_a_copy(self) -> None:
        store = new_store(self.folder / "a.firn")
        store.add_samples("hash", b"abc")
        store.commit(AddTake(TAKE).apply(BOOK))
        store.save_copy(self.folder / "b.firn", SetPartText("p", "a", "9").apply(AddTake(TAKE).apply(BOOK)))
        copy = open_store(self.folder / "b.firn")
        self.assertEqual((copy.load().pieces[0].parts[0].text, copy.samples("hash")), ("9", b"abc"))
        copy.close()
        store.close()
        self.assertEqual(sorted(p.name for p in self.folder.iterdir()), ["a.firn", "b.firn"])

    def test_a_copy_nowhere(self) -> None:
        store = new_store(self.folder / "a.firn")
        with self.assertRaisesRegex(StoreError, "cannot be made there"):
            store.save_copy(self.folder / "none" / "b.firn", BOOK)
        store.close()


class RefusedTest(FolderCase):
    def made(self, book: Book = BOOK):
        path = self.folder / "a.firn"
        store = new_store(path)
        store.commit(book)
        store.close()
        return path

    def test_not_there(self) -> None:
        with self.assertRaisesRegex(StoreError, "^a.firn is not there.$"):
            open_store(self.folder / "a.firn")

    def test_there_already(self) -> None:
        path = self.made()
        with self.assertRaisesRegex(StoreError, "is there already"):
            new_store(path)

    @cases(("a folder", "folder"), ("no workbook", "text"), ("empty", "empty"))
    def test_something_else(self, message: str, kind: str) -> None:
        path = self.folder / f"{kind}.firn"
        if kind == "folder":
            path.mkdir(exist_ok=True)
        else:
            path.write_bytes(b"" if kind == "empty" else b"hello " * 100)
        with self.assertRaisesRegex(StoreError, "a folder" if kind == "folder" else "no Firn workbook"):
            open_store(path)

    def test_another_program(self) -> None:
        path = self.folder / "other.db"
        with sqlite3.connect(path) as db:
            db.execute("CREATE TABLE t (x)")
        db.close()
        before = path.read_bytes()
        with self.assertRaisesRegex(StoreError, "belongs to another program"):
            open_store(path)
        self.assertEqual(path.read_bytes(), before)

    def test_newer(self) -> None:
        path = self.made()
        with sqlite3.connect(path) as db:
            db.execute(f"PRAGMA user_version = {VERSION + 1}")
        db.close()
        before = path.read_bytes()
        with self.assertRaisesRegex(StoreError, "newer Firn and is left as it is"):
            open_store(path)
        self.assertEqual(path.read_bytes(), before)

    @cases(("half", 0.5), ("a page", 0.2), ("fifty bytes", 0.0))
    def test_truncated(self, _: str, share: float) -> None:
        path = self.made() if not (self.folder / "a.firn").exists() else self.folder / "a.firn"
        cut = self.folder / f"cut-{share}.firn"
        data = path.read_bytes()
        cut.write_bytes(data[: max(50, int(len(data) * share))])
        with self.assertRaisesRegex(StoreError, "cut short|no Firn workbook"):
            open_store(cut)

    def test_damaged_inside(self) -> None:
        path = self.made()
        data = bytearray(path.read_bytes())
        data[4096:] = os.urandom(len(data) - 4096)
        path.write_bytes(data)
        with self.assertRaisesRegex(StoreError, "damaged"):
            open_store(path)

    def test_open_elsewhere_is_read_only_and_says_why(self) -> None:
        path = self.made()
        first = open_store(path)
        second = open_store(path)
        self.assertEqual(second.why_read_only, "it is open in another window.")
        self.assertEqual(second.load(), BOOK)
        with self.assertRaisesRegex(ReadOnlyError, "open in another window"):
            second.commit(Book())
        with self.assertRaises(ReadOnlyError):
            second.add_samples("x", b"y")
        first.commit(SetPartText("p", "a", "still mine").apply(BOOK))
        second.close()
        first.close()
        third = open_store(path)
        self.assertFalse(third.read_only)
        third.close()

    def test_full_disk(self) -> None:
        path = self.made()
        store = open_store(path)
        store.limit_pages(store.page_count() + 1)
        with self.assertRaisesRegex(StoreError, "^The disk is full: a.firn could not take the last change.$"):
            store.commit(SetPartText("p", "a", "x" * 100_000).apply(BOOK))
        with self.assertRaisesRegex(StoreError, "disk is full"):
            store.add_samples("hash", os.urandom(100_000))
        store.commit(SetPartText("p", "a", "short").apply(BOOK))
        store.close()
        again = open_store(path)
        self.assertEqual(again.load().pieces[0].parts[0].text, "short")
        again.close()

    def test_read_only_file(self) -> None:
        path = self.made()
        path.chmod(0o444)
        if os.access(path, os.W_OK):
            # root may write anything: ask as if it could not.
            self.enterContext(unittest.mock.patch.object(module.os, "access", lambda p, m: m != os.W_OK))
        store = open_store(path)
        self.assertEqual(store.why_read_only, "its file may not be written.")
        self.assertEqual(store.load(), BOOK)
        store.close()


class VersionTest(FolderCase):
    def test_a_kept_file_of_version_1(self) -> None:
        path = self.folder / "old.firn"
        shutil.copy(DATA / "workbook-v1.sqlite", path)
        with sqlite3.connect(path) as db:
            db.execute("INSERT OR REPLACE INTO state VALUES ('ear', '[true]')")
        db.close()
        store = open_store(path)
        book = store.load()
        self.assertEqual([p.name for p in book.pieces], ["Kept Latch"])
        self.assertEqual([(p.name, p.text) for p in book.pieces[0].parts], [("A", "8 stomp  1 hop  # as typed")])
        self.assertEqual([t.name for t in book.takes], ["first"])
        self.assertEqual((book.ear, book.log), ((Answer("", True),), ()))
        store.commit(AddLog(ENTRY).apply(book))
        store.close()
        again = open_store(path)
        self.assertEqual(again.load().log, (ENTRY,))
        again.close()

    def test_an_older_file_that_may_only_be_read(self) -> None:
        path = self.folder / "old.firn"
        shutil.copy(DATA / "workbook-v1.sqlite", path)
        path.chmod(0o444)
        if os.access(path, os.W_OK):
            self.enterContext(unittest.mock.patch.object(module.os, "access", lambda p, m: m != os.W_OK))
        store = open_store(path)
        self.assertEqual(([p.name for p in store.load().pieces], store.load().log), (["Kept Latch"], ()))
        store.close()

    def test_a_kept_file_of_version_2(self) -> None:
        path = self.folder / "old.firn"
        shutil.copy(DATA / "workbook-v2.sqlite", path)
        store = open_store(path)
        book = store.load()
        self.assertEqual(
            [(e.step, e.tempo, e.clean, e.floor) for e in book.log], [("Kept Latch, A", 120, True, "wood")]
        )
        self.assertEqual(book.ear, (Answer("early_or_late", False, "2026-11-25T20:00:00+00:00"),))
        self.assertEqual([(t.name, t.shoes, t.swapped) for t in book.takes], [("first", "hard", True)])
        store.close()

    def test_upgrades_run_one_by_one(self) -> None:
        path = self.folder / "a.firn"
        new_store(path).close()
        with sqlite3.connect(path) as db:
            db.execute("PRAGMA user_version = 0")
        db.close()
        upgrade = "CREATE TABLE tried (x); INSERT INTO tried VALUES (1)"
        with unittest.mock.patch.dict(module.UPGRADES, {0: upgrade}):
            open_store(path).close()
        with sqlite3.connect(path) as db:
            self.assertEqual(db.execute("SELECT x FROM tried").fetchall(), [(1,)])
            self.assertEqual(db.execute("PRAGMA user_version").fetchone()[0], VERSION)
            self.assertEqual(db.execute("PRAGMA application_id").fetchone()[0], APPLICATION_ID)
        db.close()

    def test_every_version_has_its_upgrade(self) -> None:
        self.assertEqual(sorted(module.UPGRADES), list(range(1, VERSION)))


if __name__ == "__main__":
    unittest.main()
