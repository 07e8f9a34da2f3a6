"""The workbook file: what is committed is there, and nothing else is harmed."""

import errno
import hashlib
import os
import shutil
import sqlite3
import stat
import unittest
import unittest.mock

from msgspec.structs import replace

from firn.core.book.book import Book, BookPart, new_piece
from firn.core.book.clips import Clip
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
    SetClip,
    SetPartText,
)
from firn.core.book.log import Answer
from firn.core.book.students import Student
from firn.core.drills.class_plan import ClassItem, ClassPlan
from firn.core.drills.stage import Drill, Stage
from firn.errors import ReadOnlyError, StoreError, WriteError
from firn.files import schema
from firn.files import store as module
from firn.files.schema import VERSION
from firn.files.store import NO_LOCKS, new_store, open_store
from firn.files.whole import APPLICATION_ID
from tests.core.test_book import ENTRY, TAKE
from tests.support import DATA, FolderCase, cases

SAMPLES = bytes(range(256)) * 20
HASH = hashlib.sha256(SAMPLES).hexdigest()
HEARD = replace(TAKE, audio=HASH)

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
        name = hashlib.sha256(data).hexdigest()
        store.add_samples(name, data)
        store.add_samples(name, data)
        store.commit(AddTake(replace(TAKE, audio=name)).apply(BOOK))
        self.assertEqual(store.samples(name), data)
        store.close()
        store = open_store(path)
        store.commit(DeleteTake("t").apply(store.load()))
        self.assertEqual(store.samples(name), data, "deleting can be undone until the workbook is closed")
        store.close()
        store = open_store(path)
        with self.assertRaisesRegex(StoreError, "not in the workbook any more"):
            store.samples(name)
        self.assertLess(path.stat().st_size, 100_000)
        store.close()

    def test_a_copy(self) -> None:
        store = new_store(self.folder / "a.firn")
        store.add_samples(HASH, SAMPLES)
        store.commit(AddTake(HEARD).apply(BOOK))
        (self.folder / "b.firn-journal").write_bytes(b"what a crash has left of an older b.firn")
        store.save_copy(self.folder / "b.firn", SetPartText("p", "a", "9").apply(AddTake(HEARD).apply(BOOK)))
        copy = open_store(self.folder / "b.firn")
        self.assertEqual((copy.load().pieces[0].parts[0].text, copy.samples(HASH)), ("9", SAMPLES))
        self.assertEqual(stat.S_IMODE((self.folder / "b.firn").stat().st_mode), 0o600)
        copy.close()
        store.close()
        self.assertEqual(sorted(p.name for p in self.folder.iterdir()), ["a.firn", "b.firn"])

    def test_a_copy_nowhere(self) -> None:
        store = new_store(self.folder / "a.firn")
        with self.assertRaisesRegex(WriteError, "b.firn could not be written: No such file or directory."):
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
        before = path.read_bytes()
        with self.assertRaisesRegex(WriteError, "is there already"):
            new_store(path)
        self.assertEqual(path.read_bytes(), before)

    @cases(("folder", "is a folder"), ("text", "is no Firn workbook"), ("pipe", "is a device or a pipe"))
    def test_something_else(self, kind: str, message: str) -> None:
        path = self.folder / f"{kind}.firn"
        if kind == "folder":
            path.mkdir()
        elif kind == "pipe":
            os.mkfifo(path)
        else:
            path.write_bytes(b"hello " * 100)
        with self.assertRaisesRegex(StoreError, message):
            open_store(path)

    def test_an_empty_file_becomes_a_workbook(self) -> None:
        path = self.folder / "empty.firn"
        path.touch()
        store = open_store(path)
        self.assertEqual((store.load(), store.was_empty, store.read_only), (Book(), True, False))
        store.close()

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
        with self.assertRaisesRegex(StoreError, "a.firn is damaged and cannot be read."):
            open_store(path)

    def test_brackets_without_end_in_an_older_one(self) -> None:
        """What an upgrade reads of it is damaged as any row may be: JSON deeper than anything reads."""
        path = self.folder / "old.firn"
        shutil.copy(DATA / "workbook-v1.sqlite", path)
        with sqlite3.connect(path) as db:
            db.execute("INSERT OR REPLACE INTO state VALUES ('ear', ?)", ("[" * 100_000,))
        db.close()
        with self.assertRaisesRegex(StoreError, "old.firn is damaged and cannot be read."):
            open_store(path)

    def test_half_a_letter_is_saved_as_none(self) -> None:
        """As a damaged row may hold it, written \\ud800 in what JSON there is."""
        book = AddLog(replace(ENTRY, id="\ud800")).apply(AddPiece(new_piece("p", "a", "Half \ud800")).apply(Book()))
        store = new_store(self.folder / "a.firn", book)
        self.assertEqual([p.name for p in store.load().pieces], ["Half ?"])
        self.assertEqual(len(store.load().log), 1)
        store.close()

    def test_what_is_not_damaged_is_read_and_can_be_saved(self) -> None:
        """A page of the recordings is struck: pieces are shown, and a copy of what can be read is made."""
        path = self.folder / "a.firn"
        store = new_store(path, AddTake(HEARD).apply(BOOK))
        store.add_samples(HASH, SAMPLES)
        store.close()
        with sqlite3.connect(path) as db:
            root = db.execute("SELECT rootpage FROM sqlite_master WHERE name = 'samples'").fetchone()[0]
        db.close()
        data = bytearray(path.read_bytes())
        data[(root - 1) * 4096 : root * 4096] = b"\xff" * 4096
        path.write_bytes(data)
        store = open_store(path)
        self.assertRegex(store.why_read_only, r"^it is damaged \(.+\)\. Save a copy keeps what can be read\.$")
        self.assertEqual(store.load(), AddTake(HEARD).apply(BOOK))
        with self.assertRaisesRegex(StoreError, "recording of this take is damaged"):
            store.samples(HASH)
        store.save_copy(self.folder / "b.firn", store.load())
        store.close()
        copy = open_store(self.folder / "b.firn")
        self.assertEqual((copy.read_only, copy.load().pieces), (False, BOOK.pieces))
        copy.close()

    @cases(
        ("a text", "UPDATE parts SET text = '1 stemp'", "not by Firn: part A."),
        ("a piece", "UPDATE pieces SET head = 'piece: Other'", "not by Firn: the piece Other."),
        ("a take", "UPDATE takes SET data = replace(data, '120', '140')", "not by Firn: the take first."),
        (
            "a take of no kind",
            "UPDATE takes SET data = '{\"id\": 3}'",
            "1 of the takes cannot be read and is left out.",
        ),
        ("no JSON", "UPDATE log SET data = '{'", "1 of the lines of the log cannot be read and is left out."),
        ("deep JSON", "UPDATE log SET data = '" + "[" * 100_000 + "'", "cannot be read and is left out."),
        ("a number for a text", "UPDATE parts SET name = X'ff'", "1 of the parts cannot be read and is left out."),
        ("here", "UPDATE state SET value = '[1, [2]]' WHERE id = 'here'", "not by Firn: the place where you were."),
        ("ear", "UPDATE state SET value = '[{\"kind\": 9}]' WHERE id = 'ear'", "what your ear has answered."),
        ("a lost piece", "DELETE FROM pieces", "Parts that have lost their piece stand in one called Found."),
    )
    def test_what_was_changed_on_the_disk_is_said(self, _: str, change: str, said: str) -> None:
        path = self.folder / "a.firn"
        path.unlink(missing_ok=True)
        new_store(
            path, AddLog(ENTRY).apply(NoteAnswer(Answer("how_many", True)).apply(AddTake(TAKE).apply(BOOK)))
        ).close()
        with sqlite3.connect(path) as db:
            db.execute(change)
        db.close()
        store = open_store(path)
        self.assertIn(said, " ".join(store.told))
        self.assertFalse(store.read_only)
        book = store.load()
        store.commit(SetPartText(book.pieces[0].id, "a", "1 stamp").apply(book))
        store.close()

    def test_what_was_not_changed_says_nothing(self) -> None:
        store = open_store(self.made(AddLog(ENTRY).apply(AddTake(TAKE).apply(BOOK))))
        self.assertEqual(store.told, ())
        store.close()

    def test_moved_away_while_it_is_open(self) -> None:
        path = self.made()
        store = open_store(path)
        path.rename(self.folder / "elsewhere.firn")
        with self.assertRaisesRegex(StoreError, "a.firn is not in its place any more"):
            store.commit(SetPartText("p", "a", "1 step").apply(BOOK))
        (self.folder / "elsewhere.firn").rename(path)
        store.commit(SetPartText("p", "a", "1 step").apply(BOOK))
        store.close()

    def test_a_hot_journal_where_nothing_may_be_written(self) -> None:
        """A journal left by a crash must be played back before the file is read; here it cannot be."""
        path = self.made()
        copy = self.folder / "crashed.firn"
        with sqlite3.connect(path, isolation_level=None) as db:
            db.execute("PRAGMA cache_size = 1")
            db.execute("BEGIN IMMEDIATE")
            db.execute("UPDATE parts SET text = ?", ("x" * 50_000,))
            shutil.copy(path, copy)
            shutil.copy(self.folder / "a.firn-journal", self.folder / "crashed.firn-journal")
            db.execute("ROLLBACK")
        db.close()
        said = "was being written when .* stopped.*crashed.firn-journal"
        nowhere = unittest.mock.patch.object(module.os, "access", lambda p, m: m != os.W_OK)
        with nowhere, self.assertRaisesRegex(StoreError, said):
            open_store(copy)
        store = open_store(copy)
        self.assertEqual(store.load(), BOOK)
        store.close()

    def test_where_there_are_no_locks(self) -> None:
        path = self.made()
        with unittest.mock.patch("fcntl.flock", side_effect=OSError(errno.ENOTSUP, "no locks")):
            store = open_store(path)
        self.assertEqual((store.read_only, store.told), (False, (NO_LOCKS,)))
        store.commit(SetPartText("p", "a", "1 step").apply(BOOK))
        store.close()

    def test_only_its_owner_may_read_a_new_one(self) -> None:
        self.assertEqual(stat.S_IMODE(self.made().stat().st_mode), 0o600)

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

    def test_a_kept_file_of_version_3(self) -> None:
        path = self.folder / "old.firn"
        shutil.copy(DATA / "workbook-v3.sqlite", path)
        store = open_store(path)
        book = store.load()
        self.assertEqual([(p.name, p.parts[0].text) for p in book.pieces], [("Kept Latch", "8 stomp  1 hop  # kept")])
        self.assertEqual((book.takes, book.log, store.told), ((HEARD,), (ENTRY,), ()))
        self.assertEqual(store.samples(HASH), SAMPLES)
        store.close()

    def test_a_kept_file_of_version_4(self) -> None:
        path = self.folder / "kept.firn"
        shutil.copy(DATA / "workbook-v4.sqlite", path)
        store = open_store(path)
        book = store.load()
        self.assertEqual([(p.name, p.parts[0].text) for p in book.pieces], [("Kept Latch", "8 stomp  1 hop  # kept")])
        self.assertEqual((book.takes, book.log, store.told, store.version), ((HEARD,), (ENTRY,), (), 4))
        store.close()

    def test_a_kept_file_of_version_5(self) -> None:
        path = self.folder / "kept.firn"
        shutil.copy(DATA / "workbook-v5.sqlite", path)
        store = open_store(path)
        book = store.load()
        self.assertEqual((book.takes, book.log, store.told, store.version), ((HEARD,), (ENTRY,), (), 5))
        stages = (
            Stage("ladder", ("a",), None, 92, 104, 4),
            Stage("hardest", ("a",), (0, 3), 80, 96, 8, times=2),
        )
        self.assertEqual(book.drills, (Drill("d", "p", "Monday", stages),))
        store.close()

    def test_a_kept_file_of_version_6(self) -> None:
        path = self.folder / "kept.firn"
        shutil.copy(DATA / "workbook-v6.sqlite", path)
        store = open_store(path)
        book = store.load()
        self.assertEqual((store.told, store.version), ((), 6))
        self.assertEqual(book.students, (Student("k1", "A. L.", "other side", True, 2, "es", 92.0),))
        self.assertEqual((book.who, [d.student for d in book.drills]), ("k1", ["", "k1"]))
        self.assertEqual(book.own_log, (replace(ENTRY, id="e2", student="k1"),))
        items = (ClassItem("warm_up", 8), ClassItem("new", 20, "a", "Ears first."))
        self.assertEqual(book.classes, (ClassPlan("c", "p", "Thursday", items),))
        store.close()

    def test_a_kept_file_of_version_7(self) -> None:
        path = self.folder / "kept.firn"
        shutil.copy(DATA / "workbook-v7.sqlite", path)
        store = open_store(path)
        self.assertEqual((store.told, store.version), ((), 7))
        film = "/films/open evening.mp4"
        clip = Clip("c", "p", "a", film, 54754, "ab12", 1.5, 9.25, (0.0, 7.0), (2.0, 5.5), True, "Wren, May")
        book = store.load()
        self.assertEqual((book.clips, book.clip_of("a")), ((clip,), clip))
        self.assertEqual((clip.name, clip.aligned), ("open evening.mp4", True))
        store.close()
        for gone in (DeletePart("p", "a"), DeletePiece("p"), SetClip("p", "a", None)):
            self.assertEqual(gone.apply(book).clips, ())

    def test_a_kept_file_of_version_8(self) -> None:
        path = self.folder / "kept.firn"
        shutil.copy(DATA / "workbook-v8.sqlite", path)
        store = open_store(path)
        self.assertEqual((store.told, store.version), ((), 8))
        (drill,) = store.load().drills
        self.assertEqual([(s.kind, s.heard) for s in drill.stages], [("music", "music"), ("whole", "counts_beats")])
        store.close()

    def test_a_kept_file_of_version_9(self) -> None:
        path = self.folder / "kept.firn"
        shutil.copy(DATA / "workbook-v9.sqlite", path)
        store = open_store(path)
        self.assertEqual((store.told, store.version), ((), 9))
        (drill,) = store.load().drills
        told = [(s.kind, s.sounds, s.span) for s in drill.stages]
        self.assertEqual(told, [("add_sound", 2, None), ("backward", 0, (4, 8)), ("simpler", 0, None)])
        store.close()

    def test_upgrades_run_one_by_one(self) -> None:
        path = self.folder / "a.firn"
        new_store(path).close()
        with sqlite3.connect(path) as db:
            db.execute("PRAGMA user_version = 0")
        db.close()
        upgrade = "CREATE TABLE tried (x); INSERT INTO tried VALUES (1)"
        with unittest.mock.patch.dict(schema.UPGRADES, {0: upgrade, 1: "", 2: ""}):
            open_store(path).close()
        with sqlite3.connect(path) as db:
            self.assertEqual(db.execute("SELECT x FROM tried").fetchall(), [(1,)])
            self.assertEqual(db.execute("PRAGMA user_version").fetchone()[0], VERSION)
            self.assertEqual(db.execute("PRAGMA application_id").fetchone()[0], APPLICATION_ID)
        db.close()

    def test_every_version_has_its_upgrade(self) -> None:
        self.assertEqual(sorted(schema.UPGRADES), list(range(1, VERSION)))


if __name__ == "__main__":
    unittest.main()
