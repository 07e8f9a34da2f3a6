"""A workbook as rows of tables: one entry for each kind of thing that it keeps.

Each row carries a sum of what is in it, so that what a damaged disk has changed is known, and said.
"""

import json
import sqlite3
import zlib
from collections.abc import Callable, Mapping
from typing import Any

from msgspec import Struct, ValidationError, convert, to_builtins

from firn.core.book.book import Book, BookPart, BookPiece, Take
from firn.core.book.calls import Call
from firn.core.book.clips import Clip
from firn.core.book.log import Answer, LogEntry
from firn.core.book.students import OWNER, Student
from firn.core.drills.class_plan import ClassPlan
from firn.core.drills.stage import Drill

Key = str
Kept = tuple[Any, ...]
"""What is kept under a key: its columns, values that are packed as JSON still as they are."""


class RowKind(Struct, frozen=True):
    """A kind of thing: its table, the columns beside `id` and `sum`, what a workbook has of it, and its name.

    `of` gives each thing's columns by its id. `same`: whether two workbooks have just the same of it, at a glance.
    `one`: what a row, id first, is called; `many`: what they all are.
    """

    table: str
    columns: tuple[str, ...]
    of: Callable[[Book], Mapping[Key, Kept]]
    same: Callable[[Book, Book], bool]
    one: Callable[[Kept], str]
    many: str


def _pieces(book: Book) -> Mapping[Key, Kept]:
    return {p.id: (n, p.head, p.combo) for n, p in enumerate(book.pieces)}


def _parts(book: Book) -> Mapping[Key, Kept]:
    return {part.id: (p.id, n, part.name, part.text) for p in book.pieces for n, part in enumerate(p.parts)}


def _state(book: Book) -> Mapping[Key, Kept]:
    return {"here": (book.here,), "ear": (book.ear,), "who": (json.dumps(book.who),)}


def _listed(table: str, of: Callable[[Book], tuple[Any, ...]], one: Callable[[Any], str], many: str = "") -> RowKind:
    """A kind of which a workbook has a list, each thing packed whole beside its place in it."""
    return RowKind(
        table=table,
        columns=("position", "data"),
        of=lambda book: {thing.id: (n, thing) for n, thing in enumerate(of(book))},
        same=lambda a, b: of(a) is of(b),
        one=lambda row: one(row[-1]),
        many=many or table,
    )


_STATES = {"ear": "what your ear has answered", "who": "who practised last"}

KINDS = (
    RowKind(
        table="pieces",
        columns=("position", "head", "combo"),
        of=_pieces,
        same=lambda a, b: a.pieces is b.pieces,
        one=lambda row: f"the piece {BookPiece('', row[2], ()).name}",
        many="pieces",
    ),
    RowKind(
        table="parts",
        columns=("piece", "position", "name", "text"),
        of=_parts,
        same=lambda a, b: a.pieces is b.pieces,
        one=lambda row: f"part {row[3]}",
        many="parts",
    ),
    _listed("takes", lambda book: book.takes, lambda take: f"the take {take.name}"),
    _listed("log", lambda book: book.log, lambda e: f"{e.step} of {e.day} in the log", "lines of the log"),
    _listed("drills", lambda book: book.drills, lambda drill: f"the drill {drill.name}"),
    _listed("students", lambda book: book.students, lambda student: f"the student {student.name}"),
    _listed("classes", lambda book: book.classes, lambda plan: f"the class {plan.name}"),
    _listed("clips", lambda book: book.clips, lambda clip: f"the clip {clip.name}"),
    _listed("calls", lambda book: book.calls, lambda call: "a part's name in your own voice"),
    RowKind(
        table="state",
        columns=("value",),
        of=_state,
        same=lambda a, b: a.here is b.here and a.ear is b.ear and a.who == b.who,
        one=lambda row: _STATES.get(row[0], "the place where you were"),
        many="answers",
    ),
)

SCHEMA = """
CREATE TABLE pieces (id TEXT PRIMARY KEY, position INTEGER NOT NULL, head TEXT NOT NULL, combo TEXT NOT NULL,
    sum TEXT NOT NULL);
CREATE TABLE parts (id TEXT PRIMARY KEY, piece TEXT NOT NULL, position INTEGER NOT NULL, name TEXT NOT NULL,
    text TEXT NOT NULL, sum TEXT NOT NULL);
CREATE TABLE takes (id TEXT PRIMARY KEY, position INTEGER NOT NULL, data TEXT NOT NULL, sum TEXT NOT NULL);
CREATE TABLE samples (hash TEXT NOT NULL, number INTEGER NOT NULL, data BLOB NOT NULL, PRIMARY KEY (hash, number));
CREATE TABLE state (id TEXT PRIMARY KEY, value TEXT NOT NULL, sum TEXT NOT NULL);
CREATE TABLE drills (id TEXT PRIMARY KEY, position INTEGER NOT NULL, data TEXT NOT NULL, sum TEXT NOT NULL);
CREATE TABLE students (id TEXT PRIMARY KEY, position INTEGER NOT NULL, data TEXT NOT NULL, sum TEXT NOT NULL);
CREATE TABLE classes (id TEXT PRIMARY KEY, position INTEGER NOT NULL, data TEXT NOT NULL, sum TEXT NOT NULL);
CREATE TABLE clips (id TEXT PRIMARY KEY, position INTEGER NOT NULL, data TEXT NOT NULL, sum TEXT NOT NULL);
CREATE TABLE calls (id TEXT PRIMARY KEY, position INTEGER NOT NULL, data TEXT NOT NULL, sum TEXT NOT NULL);
CREATE TABLE log (id TEXT PRIMARY KEY, position INTEGER NOT NULL, data TEXT NOT NULL, sum TEXT NOT NULL);
"""


def sum_of(row: tuple[Any, ...]) -> str:
    """The sum (CRC-32) of a row's columns, id first: 8 hexadecimal digits."""
    said = json.dumps(row, ensure_ascii=False).encode("utf-8", "surrogatepass")
    return f"{zlib.crc32(said):08x}"


def _packed(value: Any) -> Any:
    if isinstance(value, str):
        # Half a letter, as a damaged row may hold it, is no text: SQLite would not take it.
        return value.encode("utf-8", "replace").decode("utf-8")
    return value if isinstance(value, int) else json.dumps(to_builtins(value))


def write_book(db: sqlite3.Connection, before: Book, after: Book) -> None:
    """Write what differs between two workbooks; raises sqlite3.Error."""
    for kind in KINDS:
        if not kind.same(before, after):
            _write_kind(db, kind, kind.of(before), kind.of(after))


def _write_kind(db: sqlite3.Connection, kind: RowKind, before: Mapping[Key, Kept], after: Mapping[Key, Kept]) -> None:
    marks = ", ".join("?" * (len(kind.columns) + 2))
    for key, kept in after.items():
        if before.get(key) != kept:
            row = (_packed(key), *(_packed(v) for v in kept))
            db.execute(f"INSERT OR REPLACE INTO {kind.table} VALUES ({marks})", (*row, sum_of(row)))
    gone = [(key,) for key in before if key not in after]
    db.executemany(f"DELETE FROM {kind.table} WHERE id = ?", gone)


def read_book(db: sqlite3.Connection) -> tuple[Book, tuple[str, ...]]:
    """The workbook in a file, and a sentence for each kind of thing that is damaged there.

    What can be read is read: a row that cannot be is left out. Raises sqlite3.Error where the pieces cannot be read.
    """
    faults: list[str] = []
    rows = {kind.table: _read_kind(db, kind, faults) for kind in KINDS}
    parts: dict[str, list[BookPart]] = {}
    for key, piece, _, name, text in rows["parts"]:
        parts.setdefault(piece, []).append(BookPart(key, name, text))
    pieces = tuple(BookPiece(key, head, tuple(parts.pop(key, ())), combo) for key, _, head, combo in rows["pieces"])
    if parts:
        lost = tuple(part for left in parts.values() for part in left)
        faults.append("Parts that have lost their piece stand in one called Found.")
        pieces += (BookPiece("found", "piece: Found\n", lost),)
    state = dict(rows["state"])
    students = tuple(row[-1] for row in rows["students"])
    who = _as(state.get("who", OWNER), str, OWNER)
    book = Book(
        pieces,
        tuple(row[-1] for row in rows["takes"]),
        _as(state.get("here", ("", "")), tuple[str, str], ("", "")),
        _as(state.get("ear", ()), tuple[Answer, ...], ()),
        tuple(row[-1] for row in rows["log"]),
        tuple(row[-1] for row in rows["drills"]),
        students,
        who if who in {s.id for s in students} else OWNER,
        tuple(row[-1] for row in rows["classes"]),
        tuple(row[-1] for row in rows["clips"]),
        tuple(row[-1] for row in rows["calls"]),
    )
    return book, tuple(faults)


def _as(value: Any, kind: Any, default: Any) -> Any:
    try:
        return convert(value, kind)
    except (ValidationError, ValueError):
        return default


_READ: dict[str, Callable[[str], Any]] = {
    "takes": lambda data: convert(json.loads(data), Take),
    "log": lambda data: convert(json.loads(data), LogEntry),
    "drills": lambda data: convert(json.loads(data), Drill),
    "classes": lambda data: convert(json.loads(data), ClassPlan),
    "clips": lambda data: convert(json.loads(data), Clip),
    "calls": lambda data: convert(json.loads(data), Call),
    "students": lambda data: convert(json.loads(data), Student),
    "state": json.loads,
}
"""What the last column of a table must be for a row to be read."""


def _read_kind(db: sqlite3.Connection, kind: RowKind, faults: list[str]) -> list[tuple[Any, ...]]:
    order = " ORDER BY position" if "position" in kind.columns else ""
    found: list[tuple[Any, ...]] = []
    changed: list[str] = []
    lost = 0
    cursor = db.execute(f"SELECT id, {', '.join(kind.columns)}, sum FROM {kind.table}{order}")
    while True:
        try:
            row = cursor.fetchone()
        except sqlite3.DatabaseError:
            if kind.table == "pieces":
                raise
            faults.append(f"The {kind.many} are damaged: {len(found) or 'none'} could be read.")
            return found
        if row is None:
            break
        try:
            *kept, last, kept_sum = _typed(kind, row)
            one = (*kept, _READ.get(kind.table, str)(last))
        except (ValueError, TypeError, RecursionError):
            lost += 1
            continue
        found.append(one)
        if sum_of((*kept, last)) != kept_sum:
            changed.append(kind.one(one))
    if lost:
        faults.append(f"{lost} of the {kind.many} cannot be read and {'is' if lost == 1 else 'are'} left out.")
    if changed:
        more = f" and {len(changed) - _NAMED} more" if len(changed) > _NAMED else ""
        named = ", ".join(changed[:_NAMED]) + more
        faults.append(f"Changed on the disk, and not by Firn: {named}. Look at it again.")
    return found


_NAMED = 3


def _typed(kind: RowKind, row: tuple[Any, ...]) -> tuple[Any, ...]:
    """A row whose columns are of their types; raises TypeError. SQLite keeps any value in any column."""
    for column, value in zip(("id", *kind.columns, "sum"), row, strict=True):
        if not isinstance(value, int if column == "position" else str):
            raise TypeError(column)
    return row
