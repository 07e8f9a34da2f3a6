"""The workbook file: one SQLite database, every edit one transaction.

Rollback journal and synchronous FULL, so that the file is always the last finished edit. Samples of takes are
FLAC in rows of 1 MB, only ever added; those that no take needs any more are freed on closing. A new file is made in
memory and put in its place whole, with its first piece in it.
"""

import contextlib
import os
import sqlite3
import threading
from pathlib import Path

from firn.core.book.book import Book
from firn.errors import FileFormatError, FirnError, ReadOnlyError, StoreError
from firn.files.rows import write_book
from firn.files.schema import VERSION, check_head, empty, read_any, upgrade, version_of
from firn.files.whole import HEAD, Lock, called, checked_to_read, lock, whole_file, write_bytes

CHUNK = 1 << 20
CHECKED_WHOLE = 64 << 20
"""Bytes up to which a file is looked through whole when it is opened; of a longer one all but the recordings."""

NO_LOCKS = "There are no file locks in this place: have this workbook open in one window only."


class Store:
    """An open workbook file. Made by `open_store` and `new_store`.

    `told`: what is to be said of it, a sentence each: what is damaged, or missing here. `version`: that of the file
    when it was opened; `was_empty`: it was an empty file then.
    """

    def __init__(
        self,
        path: Path,
        connection: sqlite3.Connection,
        lock: int | None,
        why_read_only: str,
        told: tuple[str, ...] = (),
    ) -> None:
        self.path = path
        self.why_read_only = why_read_only
        self.told = told
        self._connection = connection
        self._lock = lock
        self._guard = threading.RLock()
        self._kept = Book()
        self.was_empty = False
        self.version = VERSION

    @property
    def read_only(self) -> bool:
        return bool(self.why_read_only)

    def load(self) -> Book:
        """The workbook that the file holds; raises StoreError if its pieces cannot be read."""
        try:
            with self._guard:
                self._kept, faults = read_any(self._connection)
        except (sqlite3.Error, ValueError, TypeError) as fault:
            raise StoreError(f"{called(self.path)} is damaged and cannot be read.") from fault
        self.told = (*(t for t in self.told if t not in faults), *faults)
        return self._kept

    def commit(self, book: Book) -> None:
        """Write the difference to the last committed workbook in one transaction.

        Raises StoreError with one sentence if the file cannot take it; it then holds what it held before.
        """
        self._may_write()
        with self._guard:
            try:
                self._connection.execute("BEGIN IMMEDIATE")
                write_book(self._connection, self._kept, book)
                self._connection.execute("COMMIT")
            except sqlite3.Error as fault:
                self._roll_back()
                raise StoreError(_why(fault, self.path)) from fault
            self._kept = book

    def _may_write(self) -> None:
        if self.read_only:
            raise ReadOnlyError(f"{called(self.path)} is open to read only: {self.why_read_only}")
        if self._lock is None:
            return
        try:
            here = os.path.samestat(os.stat(self.path), os.fstat(self._lock))
        except OSError:
            here = False
        if not here:
            raise StoreError(f"{called(self.path)} is not in its place any more: it was moved, deleted or replaced.")

    def _roll_back(self) -> None:
        if self._connection.in_transaction:
            self._connection.execute("ROLLBACK")

    def add_samples(self, name: str, data: bytes) -> None:
        """Keep a take's FLAC bytes under their hash; what is kept already is left alone."""
        self._may_write()
        with self._guard:
            try:
                self._connection.execute("BEGIN IMMEDIATE")
                _add_samples(self._connection, name, data)
                self._connection.execute("COMMIT")
            except sqlite3.Error as fault:
                self._roll_back()
                raise StoreError(_why(fault, self.path)) from fault

    def samples(self, name: str) -> bytes:
        """A take's FLAC bytes; raises StoreError if they are not there, or are not what was kept."""
        try:
            with self._guard:
                rows = self._connection.execute("SELECT data FROM samples WHERE hash = ? ORDER BY number", (name,))
                data = b"".join(row[0] for row in rows)
        except (sqlite3.Error, TypeError) as fault:
            raise StoreError("The recording of this take is damaged and cannot be read.") from fault
        if not data:
            raise StoreError("The recording of this take is not in the workbook any more.")
        import hashlib

        if hashlib.sha256(data).hexdigest() != name:
            raise StoreError("The recording of this take was damaged on the disk.")
        return data

    def save_copy(self, path: Path, book: Book) -> None:
        """A copy of the file with `book` in it, whole or not at all; raises FirnError.

        A recording that is damaged is left out of it: its take says so when it is listened to.
        """
        with self._guard, whole_file(path, private=True) as draft:
            draft.write_bytes(empty(book))
            copy = sqlite3.connect(draft, isolation_level=None)
            try:
                copy.execute("BEGIN IMMEDIATE")
                for name in book.recordings:
                    with contextlib.suppress(StoreError):
                        _add_samples(copy, name, self.samples(name))
                copy.execute("COMMIT")
            except sqlite3.Error as fault:
                raise StoreError(_why(fault, path)) from fault
            finally:
                copy.close()
            # What a crash has left beside the old file would be played into the new one.
            path.resolve().with_name(path.resolve().name + "-journal").unlink(missing_ok=True)

    def close(self) -> None:
        """Free samples that nothing needs and close the file."""
        with self._guard:
            if not self.read_only:
                try:
                    self._may_write()
                    self._free_samples()
                except (sqlite3.Error, StoreError):
                    # Freeing is housekeeping: the file is as good without it.
                    self._roll_back()
            self._connection.close()
            if self._lock is not None:
                os.close(self._lock)
                self._lock = None

    def _free_samples(self) -> None:
        used = set(self._kept.recordings)
        held = {row[0] for row in self._connection.execute("SELECT DISTINCT hash FROM samples")}
        gone = held - used
        if gone:
            self._connection.execute("BEGIN IMMEDIATE")
            self._connection.executemany("DELETE FROM samples WHERE hash = ?", [(g,) for g in gone])
            self._connection.execute("COMMIT")
            self._connection.execute("VACUUM")

    def limit_pages(self, pages: int) -> None:
        """Let the file grow to so many pages at most, as a full disk would."""
        self._connection.execute(f"PRAGMA max_page_count = {int(pages)}")

    def page_count(self) -> int:
        """How many pages the file has."""
        return int(self._connection.execute("PRAGMA page_count").fetchone()[0])


def _add_samples(db: sqlite3.Connection, name: str, data: bytes) -> None:
    rows = [(name, n, data[at : at + CHUNK]) for n, at in enumerate(range(0, len(data), CHUNK))]
    db.executemany("INSERT OR IGNORE INTO samples VALUES (?, ?, ?)", rows)


def _why(fault: sqlite3.Error, path: Path) -> str:
    text, name = str(fault), called(path)
    if "full" in text:
        return f"The disk is full: {name} could not take the last change."
    if "locked" in text or "busy" in text:
        return f"{name} is being written by another program."
    if "readonly" in text or "read-only" in text:
        return f"{name} cannot be written here."
    return f"{name} could not be written ({text})."


def _connect(path: Path, *, read_only: bool) -> sqlite3.Connection:
    mode = "ro" if read_only else "rw"
    uri = f"{path.absolute().as_uri()}?mode={mode}"
    db = sqlite3.connect(uri, uri=True, isolation_level=None, check_same_thread=False, timeout=2)
    # A damaged text is read as far as it goes, and told by its sum.
    db.text_factory = lambda data: data.decode("utf-8", "replace")
    db.execute("PRAGMA synchronous = FULL")
    return db


def new_store(path: Path, book: Book | None = None) -> Store:
    """A new workbook file with `book` in it; raises FirnError if there is a file already or it cannot be made.

    It is there whole or not at all, and its owner alone may read it: it will hold recordings of people.
    """
    write_bytes(path, empty(book or Book()), fresh=True, private=True)
    return open_store(path)


def open_store(path: Path) -> Store:
    """Open a workbook file; an empty file becomes a new workbook.

    A second instance, or a file that is damaged or may not be written, is opened to read, and `why_read_only` says
    why. Raises StoreError for a missing, unreadable, newer or foreign file; the file is left as it is.
    """
    was_empty, why = _looked_at(path)
    handle: int | None = None
    locked: Lock = "none"
    if not why:
        handle = os.open(path, os.O_RDONLY)
        locked = lock(handle)
        if locked != "held":
            os.close(handle)
            handle = None
        if locked == "taken":
            why = "it is open in another window."
    told = (NO_LOCKS,) if locked == "none" and not why else ()
    db: sqlite3.Connection | None = None
    try:
        db = _connect(path, read_only=bool(why))
        damage = _damage(db, path)
        if damage and not why:
            why = f"it is damaged ({damage}). Save a copy keeps what can be read."
        version = version_of(db)
        if not why:
            upgrade(db)
        store = Store(path, db, handle, why, told)
        store.was_empty, store.version = was_empty, version
        store.load()
        return store
    except (sqlite3.Error, ValueError, TypeError, RecursionError, FirnError) as fault:
        if db is not None:
            db.close()
        if handle is not None:
            os.close(handle)
        if isinstance(fault, FirnError):
            raise
        raise StoreError(_why_not_read(fault, path)) from fault


def look_into(path: Path) -> Book:
    """What is in a workbook file of any version, which is left as it is; raises StoreError with one sentence."""
    try:
        if checked_to_read(path, "a workbook") == 0:
            return Book()
    except FileFormatError as fault:
        raise StoreError(str(fault)) from fault
    _looked_at(path)
    db: sqlite3.Connection | None = None
    try:
        db = _connect(path, read_only=True)
        return read_any(db)[0]
    except (sqlite3.Error, ValueError, TypeError, RecursionError) as fault:
        raise StoreError(_why_not_read(fault, path)) from fault
    finally:
        if db is not None:
            db.close()


def _looked_at(path: Path) -> tuple[bool, str]:
    """Whether a file was empty, and why it may not be written, "" where it may.

    Raises StoreError for one that is no workbook.

    An empty file is made a workbook without a piece.
    """
    try:
        size = checked_to_read(path, "a workbook")
    except FileFormatError as fault:
        raise StoreError(str(fault)) from fault
    why = ""
    if not os.access(path, os.W_OK):
        why = "its file may not be written."
    elif not os.access(path.resolve().parent, os.W_OK):
        why = "its folder may not be written."
    was_empty = size == 0 and not why
    if was_empty:
        write_bytes(path, empty(Book()), private=True)
    try:
        with path.open("rb") as file:
            head = file.read(HEAD)
    except OSError as fault:
        raise StoreError(f"{called(path)} cannot be read: {fault.strerror}.") from fault
    check_head(path, head)
    return was_empty, why


def _damage(db: sqlite3.Connection, path: Path) -> str:
    """What a quick check of the file finds first, "" for nothing."""
    if path.stat().st_size <= CHECKED_WHOLE:
        looks = ["PRAGMA quick_check(1)"]
    else:
        tables = [row[0] for row in db.execute("SELECT name FROM sqlite_master WHERE type = 'table'")]
        looks = [f"PRAGMA quick_check('{t}')" for t in tables if t != "samples" and t.isidentifier()]
    for look in looks:
        try:
            found = db.execute(look).fetchone()[0]
        except sqlite3.DatabaseError as fault:
            found = str(fault)
        if found != "ok":
            return " ".join(str(found).split())[:80].rstrip(".")
    return ""


def _why_not_read(fault: Exception, path: Path) -> str:
    name = called(path)
    if path.with_name(path.name + "-journal").exists():
        return (
            f"{name} was being written when the computer or Firn stopped, and cannot be put right here. "
            f"Copy it and {name}-journal to a place that may be written, and open it there."
        )
    if "locked" in str(fault) or "busy" in str(fault):
        return f"{name} is being written by another program."
    return f"{name} is damaged and cannot be read."
