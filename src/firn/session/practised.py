"""A piece and what was danced of it, for the commands: from a text and a list, or from a workbook."""

import json
from collections.abc import Sequence
from datetime import datetime
from pathlib import Path
from typing import Any, NamedTuple

from firn.core.book.book import Book, BookPiece, piece_of_script
from firn.core.book.log import LogEntry
from firn.core.book.students import OWNER, Student
from firn.core.drills.stage import Drill
from firn.errors import FirnError
from firn.files.formats import WORKBOOK
from firn.files.steps_file import read_steps
from firn.files.store import open_store
from firn.files.whole import read_text

MOST_PARTS = 1_000
MOST_BYTES = 20_000_000


class Practised(NamedTuple):
    """A piece, what was danced of it by somebody, and who that is: None for a workbook's owner."""

    piece: BookPiece
    log: Sequence[LogEntry] = ()
    student: Student | None = None


def piece_and_log(path: Path, name: str | None = None, student: str | None = None) -> Practised:
    """A piece and what one student, by key or name, or else the owner danced of it.

    Of a workbook the piece of a name, else the one that was on show last.

    Raises FirnError with one sentence.
    """
    if not WORKBOOK.names(path):
        if student is not None:
            raise FirnError(f"{path.name} has no students: they are kept in workbooks.")
        return Practised(piece_of_script(read_steps(path), [f"part {n}" for n in range(MOST_PARTS)]))
    book = book_at(path)
    who = student_called(book, student) if student is not None else None
    piece = piece_called(book, name)
    ids = {part.id for part in piece.parts}
    key = who.id if who is not None else OWNER
    return Practised(piece, [e for e in book.log if e.part in ids and e.student == key], who)


def piece_called(book: Book, name: str | None) -> BookPiece:
    """A piece of a workbook by its name, else the one that was on show last; raises FirnError."""
    if name is None:
        piece = book.piece(book.here[0]) or (book.pieces[0] if book.pieces else None)
    else:
        piece = next((p for p in book.pieces if p.name.casefold() == name.casefold()), None)
    if piece is None:
        known = ", ".join(p.name for p in book.pieces) or "none"
        raise FirnError(f'No piece is called "{name}". The pieces: {known}.' if name else "There is no piece in it.")
    return piece


def student_called(book: Book, asked: str) -> Student:
    """A student of a workbook by key or name; raises FirnError."""
    found = next((s for s in book.students if s.id == asked or s.name.casefold() == asked.casefold()), None)
    if found is None:
        known = ", ".join(f'"{s.name}"' for s in book.students) or "none"
        raise FirnError(f'No student is called "{asked}". The students: {known}.')
    return found


def drill_of(path: Path, name: str) -> tuple[BookPiece, Drill]:
    """A drill of a workbook by its name, with its piece; raises FirnError with one sentence."""
    if not WORKBOOK.names(path):
        raise FirnError(f"{path.name} has no drills: they are kept in workbooks.")
    book = book_at(path)
    drill = next((d for d in book.drills if d.name.casefold() == name.casefold()), None)
    piece = book.piece(drill.piece) if drill is not None else None
    if drill is None or piece is None:
        known = ", ".join(d.name for d in book.drills) or "none"
        raise FirnError(f'No drill is called "{name}". The drills: {known}.')
    return piece, drill


def book_at(path: Path) -> Book:
    """All that a workbook holds but its samples; raises FirnError."""
    store = open_store(path)
    try:
        return store.load()
    finally:
        store.close()


def calls_at(path: Path, piece: str) -> dict[str, str]:
    """The words for the parts of a piece in a workbook that are called in her own voice; raises FirnError."""
    from firn.session.calls import calls_of

    store = open_store(path)
    try:
        book = store.load()
        return calls_of(store, book, piece) if book.calls else {}
    finally:
        store.close()


def log_of(path: Path, piece: BookPiece) -> list[LogEntry]:
    """What was danced, from a list of when, part, side, tempo and how; raises FirnError with one sentence."""
    try:
        data = json.loads(read_text(path, "a list of what was danced", MOST_BYTES))
    except (ValueError, RecursionError) as fault:
        raise FirnError(f"{path.name} is no list of what was danced: {fault}.") from fault
    rows = data.get("log") if isinstance(data, dict) else data
    if not isinstance(rows, list):
        raise FirnError(f"{path.name} is no list of what was danced.")
    ids = {part.name.casefold(): part.id for part in piece.parts}
    return [_entry(path, number, row, ids) for number, row in enumerate(rows, 1)]


def _entry(path: Path, number: int, row: Any, ids: dict[str, str]) -> LogEntry:
    try:
        when, part, side = str(row["when"]), str(row["part"]), str(row.get("side", ""))
        tempo, how = float(row["tempo"]), str(row.get("how", "clean"))
        datetime.fromisoformat(when)
        if side not in ("left", "right", "") or how not in ("clean", "slip", "lost", "") or not 0 < tempo < 1_000:
            raise ValueError(side, how, tempo)
    except (KeyError, TypeError, ValueError, AttributeError, OverflowError) as fault:
        wanted = '"when": "2026-11-25", "part": "A", "side": "right", "tempo": 96, "how": "clean"'
        raise FirnError(f"Row {number} of {path.name} is not understood: such as {{{wanted}}}.") from fault
    return LogEntry(str(number), when, part, ids.get(part.casefold(), ""), side, tempo, how)  # type: ignore[arg-type]
