"""One way of writing: whole or not there, nothing else harmed; and of reading: nothing is waited for."""

import errno
import os
import resource
import signal
import stat
import unittest
import unittest.mock
from pathlib import Path

from firn.core.book.book import Book
from firn.errors import FileFormatError, WriteError
from firn.files import whole as module
from firn.files.store import new_store
from firn.files.whole import called, checked_to_read, read_whole, whole_file, write_bytes, write_text
from tests.support import FolderCase, cases


class WrittenTest(FolderCase):
    def left(self) -> list[str]:
        return sorted(p.name for p in self.folder.iterdir())

    def test_whole_and_nothing_beside_it(self) -> None:
        mine = self.folder / "a.txt.part"
        mine.write_text("mine")
        write_text(self.folder / "a.txt", "♥")
        self.assertEqual((self.folder / "a.txt").read_text("utf-8"), "♥")
        self.assertEqual((self.left(), mine.read_text()), (["a.txt", "a.txt.part"], "mine"))

    def test_a_failure_leaves_what_was_there(self) -> None:
        path = self.folder / "a.txt"
        path.write_text("before")
        said = "^a.txt could not be written: No space left on device.$"
        with self.assertRaisesRegex(WriteError, said), whole_file(path) as draft:
            draft.write_text("half")
            raise OSError(errno.ENOSPC, os.strerror(errno.ENOSPC))
        self.assertEqual((path.read_text(), self.left()), ("before", ["a.txt"]))
        with self.assertRaises(ZeroDivisionError), whole_file(path):
            raise ZeroDivisionError
        self.assertEqual((path.read_text(), self.left()), ("before", ["a.txt"]))

    def test_a_file_that_may_grow_no_further(self) -> None:
        """The system's own limit, in place of a full disk."""
        path = self.folder / "a.txt"
        path.write_text("before")
        old = resource.getrlimit(resource.RLIMIT_FSIZE)
        signal.signal(signal.SIGXFSZ, signal.SIG_IGN)
        resource.setrlimit(resource.RLIMIT_FSIZE, (1_000, old[1]))
        try:
            with self.assertRaisesRegex(WriteError, "^a.txt could not be written: File too large.$"):
                write_bytes(path, bytes(5_000))
        finally:
            resource.setrlimit(resource.RLIMIT_FSIZE, old)
        self.assertEqual((path.read_text(), self.left()), ("before", ["a.txt"]))

    @cases(
        ("a device", lambda f: Path("/dev/null"), "null is a device or a pipe"),
        ("a link to one", lambda f: ((f / "full").symlink_to("/dev/full"), f / "full")[1], "full is a device"),
        ("a folder", lambda f: f, "is a folder"),
        ("a pipe", lambda f: (os.mkfifo(f / "pipe"), f / "pipe")[1], "pipe is a device or a pipe"),
        ("no folder", lambda f: f / "none" / "a", "a could not be written: No such file or directory"),
        ("a long name", lambda f: f / ("n" * 300), "cannot be made there: File name too long"),
        ("links that go round", lambda f: ((f / "x").symlink_to(f / "x"), f / "x")[1], "cannot be made there"),
        ("under a file", lambda f: ((f / "file").touch(), f / "file" / "a")[1], "cannot be made there: Not a dir"),
    )
    def test_refused(self, _: str, place, said: str) -> None:
        with self.assertRaisesRegex(WriteError, said):
            write_bytes(place(self.folder), b"x")

    def test_what_may_not_be_written_over(self) -> None:
        path = self.folder / "kept.txt"
        path.write_text("kept")
        nowhere = unittest.mock.patch.object(module.os, "access", lambda p, m: m != os.W_OK)
        with nowhere, self.assertRaisesRegex(WriteError, "kept.txt may not be written over"):
            write_text(path, "x")
        self.assertEqual(path.read_text(), "kept")

    def test_an_open_workbook_by_any_path(self) -> None:
        store = new_store(self.folder / "open.firn", Book())
        (self.folder / "other name").symlink_to(self.folder / "open.firn")
        os.link(self.folder / "open.firn", self.folder / "second name.wav")
        before = (self.folder / "open.firn").read_bytes()
        for path in ("open.firn", "other name", "second name.wav", "../" + self.folder.name + "/open.firn"):
            with self.subTest(path), self.assertRaisesRegex(WriteError, "is a workbook that is open"):
                write_bytes(self.folder / path, b"x")
        self.assertEqual((self.folder / "open.firn").read_bytes(), before)
        store.close()
        write_bytes(self.folder / "other name", b"x")
        self.assertTrue((self.folder / "other name").is_symlink(), "a link stays a link")
        self.assertEqual((self.folder / "open.firn").read_bytes(), b"x")

    def test_rights(self) -> None:
        old = os.umask(0o027)
        self.addCleanup(os.umask, old)
        write_bytes(self.folder / "new", b"")
        write_bytes(self.folder / "private", b"", private=True)
        (self.folder / "there").touch()
        (self.folder / "there").chmod(0o644)
        write_bytes(self.folder / "there", b"")
        rights = [stat.S_IMODE((self.folder / n).stat().st_mode) for n in ("new", "private", "there")]
        self.assertEqual([oct(r) for r in rights], ["0o640", "0o600", "0o644"])

    def test_fresh_never_replaces(self) -> None:
        path = self.folder / "a"
        with self.assertRaisesRegex(WriteError, "a is there already"), whole_file(path, fresh=True) as draft:
            draft.write_text("mine")
            path.write_text("came in between")
        self.assertEqual((path.read_text(), self.left()), ("came in between", ["a"]))

    def test_fresh_where_files_have_one_name_only(self) -> None:
        with unittest.mock.patch.object(module.os, "link", side_effect=OSError(errno.EPERM, "no links")):
            write_bytes(self.folder / "a", b"x", fresh=True)
            with self.assertRaisesRegex(WriteError, "is there already"), whole_file(self.folder / "b", fresh=True):
                (self.folder / "b").write_text("came in between")
        self.assertEqual(((self.folder / "a").read_bytes(), self.left()), (b"x", ["a", "b"]))

    def test_what_a_crash_has_left_goes(self) -> None:
        child = os.fork()
        if not child:
            with whole_file(self.folder / "a"):
                os._exit(1)
        os.waitpid(child, 0)
        self.assertEqual(len(self.left()), 1)
        with whole_file(self.folder / "held"):
            write_bytes(self.folder / "b", b"")
        self.assertEqual(self.left(), ["b", "held"], "the draft that is being written stays, the other goes")


class ReadTest(FolderCase):
    @cases(
        ("a pipe", lambda f: (os.mkfifo(f / "pipe"), f / "pipe")[1], "pipe is a device or a pipe, not a piece."),
        ("a device", lambda f: Path("/dev/zero"), "zero is a device or a pipe, not a piece."),
        ("a folder", lambda f: f, "is a folder, not a piece."),
        ("none", lambda f: f / "none", "none is not there."),
        ("a long name", lambda f: f / ("n" * 300), "cannot be read: File name too long."),
        ("a null", lambda f: f / "a\0b", "cannot be read: (stat: )?embedded null (byte|character)"),
        (
            "too long",
            lambda f: ((f / "long").write_bytes(b"x" * 11), f / "long")[1],
            "long is too long to be a piece.",
        ),
    )
    def test_refused_at_once(self, _: str, place, said: str) -> None:
        with self.assertRaisesRegex(FileFormatError, said):
            read_whole(place(self.folder), "a piece", 10)

    def test_a_folder_that_may_not_be_entered(self) -> None:
        shut = unittest.mock.patch.object(
            Path, "stat", side_effect=PermissionError(errno.EACCES, "Permission denied")
        )
        with shut, self.assertRaisesRegex(FileFormatError, "a cannot be read: Permission denied."):
            checked_to_read(self.folder / "a", "a piece")

    def test_read(self) -> None:
        (self.folder / "a").write_bytes(b"0123456789")
        self.assertEqual(read_whole(self.folder / "a", "a piece", 10), b"0123456789")

    def test_a_long_name_is_cut_in_a_sentence(self) -> None:
        self.assertEqual(called(Path("x/short.firn")), "short.firn")
        self.assertLess(len(called(Path("n" * 300 + ".firn"))), 60)
        self.assertTrue(called(Path("n" * 300 + ".firn")).endswith("n.firn"))


if __name__ == "__main__":
    unittest.main()
