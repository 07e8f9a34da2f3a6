"""What a workbook file looks like, and how an older one becomes one of today."""

import json
import sqlite3
from collections.abc import Callable
from pathlib import Path

from firn.core.book.book import Book
from firn.errors import StoreError
from firn.files.rows import KINDS, SCHEMA, read_book, sum_of, write_book
from firn.files.whole import APPLICATION_ID, HEAD, called, is_workbook

VERSION = 11


def _log_and_answers(db: sqlite3.Connection) -> None:
    """Version 2 has a log, and of each answer what was asked and when."""
    db.execute("CREATE TABLE IF NOT EXISTS log (id TEXT PRIMARY KEY, position INTEGER NOT NULL, data TEXT NOT NULL)")
    for (value,) in db.execute("SELECT value FROM state WHERE key = 'ear'").fetchall():
        answers = [
            a if isinstance(a, dict) else {"kind": "", "right": bool(a), "when": ""} for a in json.loads(value)
        ]
        db.execute("UPDATE state SET value = ? WHERE key = 'ear'", (json.dumps(answers),))


def _sums(db: sqlite3.Connection) -> None:
    """Version 3 has a sum of every row."""
    db.execute("ALTER TABLE state RENAME COLUMN key TO id")
    columns = {
        "pieces": "position, head, combo",
        "parts": "piece, position, name, text",
        "takes": "position, data",
        "log": "position, data",
        "state": "value",
    }
    for table, named in columns.items():
        db.execute(f"ALTER TABLE {table} ADD COLUMN sum TEXT NOT NULL DEFAULT ''")
        rows = db.execute(f"SELECT id, {named} FROM {table}").fetchall()
        db.executemany(f"UPDATE {table} SET sum = ? WHERE id = ?", [(sum_of(row), row[0]) for row in rows])


def _drills(db: sqlite3.Connection) -> None:
    """Version 5 has drills, and of each time danced how it went in place of whether it was clean."""
    db.execute(
        "CREATE TABLE IF NOT EXISTS drills (id TEXT PRIMARY KEY, position INTEGER NOT NULL, data TEXT NOT NULL,"
        " sum TEXT NOT NULL)"
    )
    how = {True: "clean", False: "lost", None: ""}
    for key, position, data, kept in db.execute("SELECT id, position, data, sum FROM log").fetchall():
        try:
            entry = json.loads(data)
            entry["how"] = how[entry.pop("clean")]
        except (ValueError, TypeError, KeyError, AttributeError, RecursionError):
            # A damaged row stays as it is, and is said to be so.
            continue
        made = json.dumps(entry)
        # What the disk had changed is still told.
        known = sum_of((key, position, made)) if kept == sum_of((key, position, data)) else kept
        db.execute("UPDATE log SET data = ?, sum = ? WHERE id = ?", (made, known, key))


_CLASS = (
    "CREATE TABLE IF NOT EXISTS students (id TEXT PRIMARY KEY, position INTEGER NOT NULL, data TEXT NOT NULL,"
    " sum TEXT NOT NULL);"
    "CREATE TABLE IF NOT EXISTS classes (id TEXT PRIMARY KEY, position INTEGER NOT NULL, data TEXT NOT NULL,"
    " sum TEXT NOT NULL)"
)
"""Version 6 has students and classes."""

_CLIPS = (
    "CREATE TABLE IF NOT EXISTS clips (id TEXT PRIMARY KEY, position INTEGER NOT NULL, data TEXT NOT NULL,"
    " sum TEXT NOT NULL)"
)
"""Version 7 has the clips that parts were taken off."""

_CALLS = (
    "CREATE TABLE IF NOT EXISTS calls (id TEXT PRIMARY KEY, position INTEGER NOT NULL, data TEXT NOT NULL,"
    " sum TEXT NOT NULL)"
)
"""Version 10 has parts called in the teacher's own voice."""

AS_SAID = 4
"""From this version on, lines are read as they are said: what was written before is kept as it was meant."""

UPGRADES: dict[int, str | Callable[[sqlite3.Connection], None]] = {
    1: _log_and_answers, 2: _sums, 3: "", 4: _drills, 5: _CLASS, 6: _CLIPS, 7: "", 8: "", 9: _CALLS, 10: "",
}  # fmt: skip
"""Version 8 has drills that are danced to music; 9 has such as grow from either end, or sound by sound, or at another
level; 10 has such as go in rows, on 2, as in a mirror or without a sound, and music of a piece's own; 11 has such as
are asked by ear, and the walls that are faced in clips.

From version N to N + 1: SQL, or a function for what is inside rows. Frozen once released."""


def empty(book: Book) -> bytes:
    """A new workbook file with `book` in it, as bytes."""
    db = sqlite3.connect(":memory:", isolation_level=None)
    try:
        db.executescript(
            f"PRAGMA application_id = {APPLICATION_ID}; PRAGMA user_version = {VERSION}; BEGIN; {SCHEMA} COMMIT;"
        )
        write_book(db, Book(), book)
        return db.serialize()
    finally:
        db.close()


def check_head(path: Path, head: bytes) -> None:
    """Check what the first 100 bytes say (sqlite.org/fileformat.html): kind, program, version, length.

    Raises StoreError with one sentence.
    """
    name = called(path)
    if len(head) < HEAD or not head.startswith(b"SQLite format 3\x00"):
        raise StoreError(f"{name} is no Firn workbook.")
    if not is_workbook(head):
        raise StoreError(f"{name} belongs to another program.")
    version = int.from_bytes(head[60:64], "big")
    if version > VERSION:
        raise StoreError(f"{name} was written by a newer Firn and is left as it is.")
    page = int.from_bytes(head[16:18], "big")
    page = 65_536 if page == 1 else page
    journal = path.with_name(path.name + "-journal")
    if path.stat().st_size < page * int.from_bytes(head[28:32], "big") and not journal.exists():
        raise StoreError(f"{name} is cut short and cannot be read.")


def upgrade(db: sqlite3.Connection) -> None:
    """Bring a workbook of an older version to this one, by one at a time; raises sqlite3.Error or ValueError."""
    for step in range(version_of(db), VERSION):
        made = UPGRADES.get(step)
        if made is None:
            raise StoreError("This workbook is of a version that there never was, and is left as it is.")
        db.execute("BEGIN IMMEDIATE")
        if isinstance(made, str):
            for statement in filter(str.strip, made.split(";")):
                db.execute(statement)
        else:
            made(db)
        db.execute(f"PRAGMA user_version = {step + 1}")
        db.execute("COMMIT")


def version_of(db: sqlite3.Connection) -> int:
    """The version of a workbook."""
    return int(db.execute("PRAGMA user_version").fetchone()[0])


def read_any(db: sqlite3.Connection) -> tuple[Book, tuple[str, ...]]:
    """The workbook in a file of any version, and what is damaged in it; an older one is upgraded in memory alone."""
    if version_of(db) == VERSION:
        return read_book(db)
    copy = sqlite3.connect(":memory:", isolation_level=None)
    try:
        for name, made in db.execute("SELECT name, sql FROM sqlite_master WHERE type = 'table'").fetchall():
            if name in {kind.table for kind in KINDS}:
                copy.execute(made)
                rows = db.execute(f"SELECT * FROM {name}").fetchall()
                if rows:
                    copy.executemany(f"INSERT INTO {name} VALUES ({', '.join('?' * len(rows[0]))})", rows)
        copy.execute(f"PRAGMA user_version = {version_of(db)}")
        upgrade(copy)
        return read_book(copy)
    finally:
        copy.close()
