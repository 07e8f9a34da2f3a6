"""The workbook file: one SQLite database, every edit one transaction.

Rollback journal and synchronous FULL, so that the file is always the last finished edit. Samples of takes are
FLAC in rows of 1 MB, only ever added; those that no take needs any more are freed on closing.
"""

import fcntl
import json
import os
import sqlite3
import threading
from collections.abc import Callable, Iterator, Sequence
from pathlib import Path
from typing import Literal

from msgspec import to_builtins

from firn.core.book.book import Book, BookPart, BookPiece, Take
from firn.core.book.log import Answer, LogEntry
from firn.errors import ReadOnlyError, StoreError

APPLICATION_ID = 0x4669726E  # "Firn"
VERSION = 2
CHUNK = 1 << 20

_SCHEMA = """
CREATE TABLE pieces (id TEXT PRIMARY KEY, position INTEGER NOT NULL, head TEXT NOT NULL, combo TEXT NOT NULL);
CREATE TABLE parts (id TEXT PRIMARY KEY, piece TEXT NOT NULL, position INTEGER NOT NULL, name TEXT NOT NULL,
    text TEXT NOT NULL);
CREATE TABLE takes (id TEXT PRIMARY KEY, position INTEGER NOT NULL, data TEXT NOT NULL);
CREATE TABLE samples (hash TEXT NOT NULL, number INTEGER NOT NULL, data BLOB NOT NULL, PRIMARY KEY (hash, number));
CREATE TABLE state (key TEXT PRIMARY KEY, value TEXT NOT NULL);
CREATE TABLE log (id TEXT PRIMARY KEY, position INTEGER NOT NULL, data TEXT NOT NULL);
"""


def _log_and_answers(db: sqlite3.Connection) -> None:
    """Version 2 has a log, and of each answer what was asked and when."""
    db.execute("CREATE TABLE IF NOT EXISTS log (id TEXT PRIMARY KEY, position INTEGER NOT NULL, data TEXT NOT NULL)")
    for (value,) in db.execute("SELECT value FROM state WHERE key = 'ear'").fetchall():
        answers = [
            a if isinstance(a, dict) else {"kind": "", "right": bool(a), "when": ""} for a in json.loads(value)
        ]
        db.execute("UPDATE state SET value = ? WHERE key = 'ear'", (json.dumps(answers),))


UPGRADES: dict[int, str | Callable[[sqlite3.Connection], None]] = {1: _log_and_answers}
"""From version N to N + 1: SQL, or a function for what is inside rows. Frozen once released."""


class Store:
    """An open workbook file. Made by `open_store` and `new_store`."""

    def __init__(self, path: Path, connection: sqlite3.Connection, lock: int | None, why_read_only: str) -> None:
        self.path = path
        self.why_read_only = why_read_only
        self._connection = connection
        self._lock = lock
        self._guard = threading.RLock()
        self._kept = Book()

    @property
    def read_only(self) -> bool:
        return bool(self.why_read_only)

    def load(self) -> Book:
        """The workbook that the file holds; raises StoreError if rows cannot be read."""
        try:
            with self._guard:
                self._kept = self._read()
        except (sqlite3.DatabaseError, ValueError, KeyError, TypeError) as fault:
            raise StoreError(f"{self.path.name} is damaged and cannot be read.") from fault
        return self._kept

    def _read(self) -> Book:
        db = self._connection
        parts: dict[str, list[BookPart]] = {}
        for part_id, piece, name, text in db.execute("SELECT id, piece, name, text FROM parts ORDER BY position"):
            parts.setdefault(piece, []).append(BookPart(part_id, name, text))
        pieces = tuple(
            BookPiece(piece_id, head, tuple(parts.get(piece_id, ())), combo)
            for piece_id, head, combo in db.execute("SELECT id, head, combo FROM pieces ORDER BY position")
        )
        takes = tuple(Take(**json.loads(row[0])) for row in db.execute("SELECT data FROM takes ORDER BY position"))
        state = {key: json.loads(value) for key, value in db.execute("SELECT key, value FROM state")}
        here = state.get("here", ["", ""])
        if int(db.execute("PRAGMA user_version").fetchone()[0]) < 2:
            # An older file that may only be read.
            return Book(pieces, takes, (here[0], here[1]), tuple(Answer("", bool(a)) for a in state.get("ear", ())))
        ear = tuple(Answer(**a) for a in state.get("ear", ()))
        log = tuple(LogEntry(**json.loads(row[0])) for row in db.execute("SELECT data FROM log ORDER BY position"))
        return Book(pieces, takes, (here[0], here[1]), ear, log)

    def commit(self, book: Book) -> None:
        """Write the difference to the last committed workbook in one transaction.

        Raises StoreError with one sentence if the file cannot take it; it then holds what it held before.
        """
        if self.read_only:
            raise ReadOnlyError(f"{self.path.name} is open to read only: {self.why_read_only}")
        with self._guard:
            try:
                self._connection.execute("BEGIN IMMEDIATE")
                self._write(self._kept, book)
                self._connection.execute("COMMIT")
            except sqlite3.Error as fault:
                self._roll_back()
                raise StoreError(_why(fault, self.path)) from fault
            self._kept = book

    def _roll_back(self) -> None:
        if self._connection.in_transaction:
            self._connection.execute("ROLLBACK")

    def _write(self, before: Book, after: Book) -> None:
        db = self._connection
        old = {p.id: (i, p) for i, p in enumerate(before.pieces)}
        for position, piece in enumerate(after.pieces):
            known = old.pop(piece.id, None)
            if known is None or known[0] != position or known[1] is not piece:
                db.execute(
                    "INSERT OR REPLACE INTO pieces VALUES (?, ?, ?, ?)",
                    (piece.id, position, piece.head, piece.combo),
                )
                self._write_parts(piece, known[1] if known else None)
        for gone in old:
            db.execute("DELETE FROM pieces WHERE id = ?", (gone,))
            db.execute("DELETE FROM parts WHERE piece = ?", (gone,))
        if before.takes is not after.takes:
            self._write_rows("takes", before.takes, after.takes)
        if before.log is not after.log:
            self._write_rows("log", before.log, after.log)
        if before.here != after.here:
            self._write_state("here", after.here)
        if before.ear != after.ear:
            self._write_state("ear", [to_builtins(a) for a in after.ear])

    def _write_parts(self, piece: BookPiece, before: BookPiece | None) -> None:
        old = {p.id: (i, p) for i, p in enumerate(before.parts)} if before else {}
        for position, part in enumerate(piece.parts):
            if old.pop(part.id, None) != (position, part):
                self._connection.execute(
                    "INSERT OR REPLACE INTO parts VALUES (?, ?, ?, ?, ?)",
                    (part.id, piece.id, position, part.name, part.text),
                )
        self._connection.executemany("DELETE FROM parts WHERE id = ?", [(gone,) for gone in old])

    def _write_rows(
        self, table: Literal["takes", "log"], before: Sequence[Take | LogEntry], after: Sequence[Take | LogEntry]
    ) -> None:
        """Rows of JSON by id and position: those that changed, and those that are gone."""
        old = {one.id: (i, one) for i, one in enumerate(before)}
        for position, one in enumerate(after):
            if old.pop(one.id, None) != (position, one):
                row = (one.id, position, json.dumps(to_builtins(one)))
                self._connection.execute(f"INSERT OR REPLACE INTO {table} VALUES (?, ?, ?)", row)
        self._connection.executemany(f"DELETE FROM {table} WHERE id = ?", [(gone,) for gone in old])

    def _write_state(self, key: str, value: object) -> None:
        self._connection.execute("INSERT OR REPLACE INTO state VALUES (?, ?)", (key, json.dumps(value)))

    def add_samples(self, name: str, data: bytes) -> None:
        """Keep a take's FLAC bytes under their hash; what is kept already is left alone."""
        if self.read_only:
            raise ReadOnlyError(f"{self.path.name} is open to read only: {self.why_read_only}")
        rows = [(name, n, data[at : at + CHUNK]) for n, at in enumerate(range(0, len(data), CHUNK))]
        with self._guard:
            try:
                self._connection.execute("BEGIN IMMEDIATE")
                self._connection.executemany("INSERT OR IGNORE INTO samples VALUES (?, ?, ?)", rows)
                self._connection.execute("COMMIT")
            except sqlite3.Error as fault:
                self._roll_back()
                raise StoreError(_why(fault, self.path)) from fault

    def samples(self, name: str) -> bytes:
        """A take's FLAC bytes; raises StoreError if they are not there."""
        with self._guard:
            rows = self._connection.execute("SELECT data FROM samples WHERE hash = ? ORDER BY number", (name,))
            data = b"".join(row[0] for row in rows)
        if not data:
            raise StoreError("The recording of this take is not in the workbook any more.")
        return data

    def save_copy(self, path: Path, book: Book) -> None:
        """A copy of the file with `book` in it, made beside its place and then moved there."""
        with self._guard:
            draft = path.with_name(path.name + ".part")
            draft.unlink(missing_ok=True)
            try:
                copy = new_store(draft)
                copy.commit(book)
                for name in {t.audio for t in book.takes}:
                    copy.add_samples(name, self.samples(name))
                copy.close()
                os.replace(draft, path)
            except OSError as fault:
                raise StoreError(f"{path.name} could not be written: {fault.strerror}.") from fault

    def close(self) -> None:
        """Free samples that no take needs and close the file."""
        with self._guard:
            if not self.read_only:
                try:
                    self._free_samples()
                except sqlite3.Error:
                    # Freeing is housekeeping: the file is as good without it.
                    self._roll_back()
            self._connection.close()
            if self._lock is not None:
                os.close(self._lock)
                self._lock = None

    def _free_samples(self) -> None:
        used = {t.audio for t in self._kept.takes}
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


def _why(fault: sqlite3.Error, path: Path) -> str:
    text = str(fault)
    if "full" in text:
        return f"The disk is full: {path.name} could not take the last change."
    if "locked" in text or "busy" in text:
        return f"{path.name} is being written by another program."
    if "readonly" in text or "read-only" in text:
        return f"{path.name} cannot be written here."
    return f"{path.name} could not be written ({text})."


def _connect(path: Path, *, read_only: bool) -> sqlite3.Connection:
    mode = "ro" if read_only else "rw"
    uri = f"{path.absolute().as_uri()}?mode={mode}"
    db = sqlite3.connect(uri, uri=True, isolation_level=None, check_same_thread=False, timeout=2)
    db.execute("PRAGMA synchronous = FULL")
    return db


def _locked(path: Path) -> int | None:
    """A lock on the file that ends with this process, or None if another holds it.

    flock, which SQLite's own locks do not touch; its descriptor must outlive the connection.
    """
    held = os.open(path, os.O_RDONLY)
    try:
        fcntl.flock(held, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except OSError:
        os.close(held)
        return None
    return held


def new_store(path: Path) -> Store:
    """A new, empty workbook file; raises StoreError if there is a file already or it cannot be made."""
    try:
        handle = os.open(path, os.O_CREAT | os.O_EXCL | os.O_WRONLY, 0o644)
        os.close(handle)
    except FileExistsError as fault:
        raise StoreError(f"{path.name} is there already.") from fault
    except OSError as fault:
        raise StoreError(f"{path.name} cannot be made there: {fault.strerror}.") from fault
    lock = _locked(path)
    db = _connect(path, read_only=False)
    try:
        db.executescript(
            f"PRAGMA application_id = {APPLICATION_ID}; PRAGMA user_version = {VERSION}; BEGIN; {_SCHEMA} COMMIT;"
        )
    except sqlite3.Error as fault:
        db.close()
        if lock is not None:
            os.close(lock)
        path.unlink(missing_ok=True)
        raise StoreError(_why(fault, path)) from fault
    return Store(path, db, lock, "")


def open_store(path: Path) -> Store:
    """Open a workbook file.

    A second instance, or a file that may not be written, is opened to read, and `why_read_only` says why.
    Raises StoreError for a missing, damaged, newer or foreign file; the file is left as it is.
    """
    if not path.exists():
        raise StoreError(f"{path.name} is not there.")
    if path.is_dir():
        raise StoreError(f"{path.name} is a folder.")
    try:
        with path.open("rb") as file:
            head = file.read(100)
    except OSError as fault:
        raise StoreError(f"{path.name} cannot be read: {fault.strerror}.") from fault
    _check_head(path, head)
    why = "" if os.access(path, os.W_OK) else "its file may not be written."
    lock = None if why else _locked(path)
    if not why and lock is None:
        why = "it is open in another window."
    db: sqlite3.Connection | None = None
    try:
        db = _connect(path, read_only=bool(why))
        version = int(db.execute("PRAGMA user_version").fetchone()[0])
        if not why:
            for step in _upgrades(version):
                step(db)
        store = Store(path, db, lock, why)
        store.load()
        return store
    except (sqlite3.Error, StoreError) as fault:
        if db is not None:
            db.close()
        if lock is not None:
            os.close(lock)
        if isinstance(fault, StoreError):
            raise
        raise StoreError(f"{path.name} is damaged and cannot be read.") from fault


def _check_head(path: Path, head: bytes) -> None:
    """What the first 100 bytes say (sqlite.org/fileformat.html): kind, program, version, length."""
    if len(head) < 100 or not head.startswith(b"SQLite format 3\x00"):
        raise StoreError(f"{path.name} is no Firn workbook.")
    if int.from_bytes(head[68:72], "big") != APPLICATION_ID:
        raise StoreError(f"{path.name} belongs to another program.")
    version = int.from_bytes(head[60:64], "big")
    if version > VERSION:
        raise StoreError(f"{path.name} was written by a newer Firn and is left as it is.")
    page = int.from_bytes(head[16:18], "big")
    page = 65_536 if page == 1 else page
    journal = path.with_name(path.name + "-journal")
    if path.stat().st_size < page * int.from_bytes(head[28:32], "big") and not journal.exists():
        raise StoreError(f"{path.name} is cut short and cannot be read.")


def _upgrades(version: int) -> Iterator[Callable[[sqlite3.Connection], None]]:
    for step in range(version, VERSION):
        upgrade = UPGRADES[step]

        def run(
            db: sqlite3.Connection,
            upgrade: str | Callable[[sqlite3.Connection], None] = upgrade,
            to: int = step + 1,
        ) -> None:
            db.execute("BEGIN IMMEDIATE")
            if isinstance(upgrade, str):
                for statement in filter(str.strip, upgrade.split(";")):
                    db.execute(statement)
            else:
                upgrade(db)
            db.execute(f"PRAGMA user_version = {to}")
            db.execute("COMMIT")

        yield run
