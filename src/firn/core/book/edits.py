"""Edits: each a value that makes a new workbook of an old one."""

from datetime import datetime
from typing import ClassVar, Protocol

from msgspec import Struct
from msgspec.structs import replace

from firn.core.book.book import Book, BookPart, BookPiece, Take
from firn.core.book.calls import Call
from firn.core.book.clips import Clip
from firn.core.book.log import Answer, FirstFoot, LogEntry
from firn.core.drills.stage import Drill
from firn.core.meter.tempo import FASTEST, SLOWEST
from firn.core.steps.names import fold
from firn.core.steps.sides import ACROSS
from firn.errors import FirnError

MOST_NAME = 80
EAR_KEPT = 1_000
MOST_REMARK = 400


class Edit(Protocol):
    """An edit; `undoable` is False for what is only noted, such as where the user is."""

    @property
    def label(self) -> str: ...

    @property
    def undoable(self) -> bool: ...

    def apply(self, book: Book) -> Book: ...


class PlainEdit(Struct, frozen=True):
    """An edit that can be undone."""

    label: ClassVar[str] = ""
    undoable: ClassVar[bool] = True


def _piece(book: Book, piece_id: str) -> BookPiece:
    piece = book.piece(piece_id)
    if piece is None:
        raise ValueError(f"no piece {piece_id}")
    return piece


def checked_name(name: str) -> str:
    """A name as it is kept; raises FirnError for an empty, too long or unwritable one."""
    name = " ".join(name.split())
    if not name:
        raise FirnError("A name needs at least one letter.")
    if len(name) > MOST_NAME:
        raise FirnError(f"A name has {MOST_NAME} letters at most.")
    if "," in name or "#" in name or ":" in name:
        raise FirnError("A name cannot hold a comma, a colon or #: the script needs them.")
    return name


def _free_part_name(piece: BookPiece, name: str, but: str = "") -> str:
    if any(fold(p.name) == fold(name) and p.id != but for p in piece.parts):
        raise FirnError(f'Another part is called "{name}" already.')
    if fold(name) == "combo":
        raise FirnError('A part cannot be called "combo".')
    return name


class AddPiece(PlainEdit, frozen=True):
    """A piece, with drills of it."""

    label: ClassVar[str] = "Add piece"
    piece: BookPiece
    drills: tuple[Drill, ...] = ()

    def apply(self, book: Book) -> Book:
        part = self.piece.parts[0].id if self.piece.parts else ""
        pieces, drills = (*book.pieces, self.piece), (*book.drills, *self.drills)
        return replace(book, pieces=pieces, drills=drills, here=(self.piece.id, part))


class DeletePiece(PlainEdit, frozen=True):
    label: ClassVar[str] = "Delete piece"
    piece: str

    def apply(self, book: Book) -> Book:
        pieces = tuple(p for p in book.pieces if p.id != self.piece)
        takes = tuple(t for t in book.takes if t.piece != self.piece)
        drills = tuple(d for d in book.drills if d.piece != self.piece)
        here = (pieces[0].id, pieces[0].parts[0].id if pieces[0].parts else "") if pieces else ("", "")
        classes = tuple(c for c in book.classes if c.piece != self.piece)
        clips = tuple(c for c in book.clips if c.piece != self.piece)
        calls = tuple(c for c in book.calls if c.piece != self.piece)
        made = replace(book, pieces=pieces, takes=takes, drills=drills, classes=classes, clips=clips, calls=calls)
        return replace(made, here=here)


class SetHead(Struct, frozen=True):
    """The headings of a piece: name, meter, feel and so on; `label` says what of them is changed."""

    undoable: ClassVar[bool] = True
    piece: str
    head: str
    label: str = "Change how it counts"

    def apply(self, book: Book) -> Book:
        return book.with_piece(replace(_piece(book, self.piece), head=self.head))


class SetPartText(Struct, frozen=True):
    """A part's text: typed, or changed by what `label` says."""

    undoable: ClassVar[bool] = True
    piece: str
    part: str
    text: str
    label: str = "Write"

    def apply(self, book: Book) -> Book:
        piece = _piece(book, self.piece)
        parts = tuple(replace(p, text=self.text) if p.id == self.part else p for p in piece.parts)
        return book.with_piece(replace(piece, parts=parts))


class SetTexts(Struct, frozen=True):
    """The texts of several parts, as (piece, part, text), changed by what `label` says."""

    undoable: ClassVar[bool] = True
    texts: tuple[tuple[str, str, str], ...]
    label: str

    def apply(self, book: Book) -> Book:
        for piece, part, text in self.texts:
            book = SetPartText(piece, part, text).apply(book)
        return book


class SetPiece(Struct, frozen=True):
    """A piece with parts and combo, changed together by what `label` says."""

    undoable: ClassVar[bool] = True
    piece: BookPiece
    label: str

    def apply(self, book: Book) -> Book:
        return book.with_piece(self.piece)


class SetCombo(Struct, frozen=True):
    """A combo's text: typed, or changed by what `label` says."""

    undoable: ClassVar[bool] = True
    piece: str
    combo: str
    label: str = "Write combo"

    def apply(self, book: Book) -> Book:
        return book.with_piece(replace(_piece(book, self.piece), combo=self.combo))


class AddPart(PlainEdit, frozen=True):
    label: ClassVar[str] = "Add part"
    piece: str
    part: BookPart

    def apply(self, book: Book) -> Book:
        piece = _piece(book, self.piece)
        name = _free_part_name(piece, checked_name(self.part.name))
        parts = (*piece.parts, replace(self.part, name=name))
        return replace(book.with_piece(replace(piece, parts=parts)), here=(piece.id, self.part.id))


class RenamePart(PlainEdit, frozen=True):
    label: ClassVar[str] = "Rename part"
    piece: str
    part: str
    name: str

    def apply(self, book: Book) -> Book:
        piece = _piece(book, self.piece)
        name = _free_part_name(piece, checked_name(self.name), self.part)
        parts = tuple(replace(p, name=name) if p.id == self.part else p for p in piece.parts)
        return book.with_piece(replace(piece, parts=parts))


class DeletePart(PlainEdit, frozen=True):
    label: ClassVar[str] = "Delete part"
    piece: str
    part: str

    def apply(self, book: Book) -> Book:
        piece = _piece(book, self.piece)
        index = next((i for i, p in enumerate(piece.parts) if p.id == self.part), 0)
        parts = tuple(p for p in piece.parts if p.id != self.part)
        near = parts[min(index, len(parts) - 1)].id if parts else ""
        takes = tuple(t for t in book.takes if t.part != self.part)
        clips = tuple(c for c in book.clips if c.part != self.part)
        made = book.with_piece(replace(piece, parts=parts))
        calls = tuple(c for c in book.calls if c.part != self.part)
        return replace(made, takes=takes, clips=clips, calls=calls, here=(piece.id, near))


class SetClip(Struct, frozen=True):
    """The clip that a part was taken off, and the part's text where that comes of it; None for no clip any more."""

    undoable: ClassVar[bool] = True
    piece: str
    part: str
    clip: Clip | None
    text: str | None = None
    label: str = "Change the clip"

    def apply(self, book: Book) -> Book:
        if self.text is not None:
            book = SetPartText(self.piece, self.part, self.text).apply(book)
        others = tuple(c for c in book.clips if c.part != self.part)
        return replace(book, clips=others if self.clip is None else (*others, self.clip))


class SetCall(Struct, frozen=True):
    """How a part is called in the teacher's own voice; None for no call any more."""

    undoable: ClassVar[bool] = True
    piece: str
    part: str
    call: Call | None
    label: str = "Call it in your own voice"

    def apply(self, book: Book) -> Book:
        others = tuple(c for c in book.calls if (c.piece, c.part) != (self.piece, self.part))
        return replace(book, calls=others if self.call is None else (*others, self.call))


class AddTake(PlainEdit, frozen=True):
    label: ClassVar[str] = "Add take"
    take: Take

    def apply(self, book: Book) -> Book:
        return replace(book, takes=(*book.takes, self.take))


class RenameTake(PlainEdit, frozen=True):
    label: ClassVar[str] = "Rename take"
    take: str
    name: str

    def apply(self, book: Book) -> Book:
        name = checked_name(self.name)
        takes = tuple(replace(t, name=name) if t.id == self.take else t for t in book.takes)
        return replace(book, takes=takes)


class DeleteTake(PlainEdit, frozen=True):
    label: ClassVar[str] = "Delete take"
    take: str

    def apply(self, book: Book) -> Book:
        return replace(book, takes=tuple(t for t in book.takes if t.id != self.take))


class GoTo(PlainEdit, frozen=True):
    """Where the user is: kept, so that a workbook opens where it was left; nothing to undo."""

    label: ClassVar[str] = "Go to"
    undoable: ClassVar[bool] = False
    piece: str
    part: str

    def apply(self, book: Book) -> Book:
        return replace(book, here=(self.piece, self.part))


class NoteAnswer(PlainEdit, frozen=True):
    """One answer of the student's ear."""

    label: ClassVar[str] = "Answer"
    undoable: ClassVar[bool] = False
    answer: Answer

    def apply(self, book: Book) -> Book:
        return replace(book, ear=(*book.ear, self.answer)[-EAR_KEPT:])


class ChangeTake(PlainEdit, frozen=True):
    """What is known of a take: its side, shoes, floor. What the log says of it follows."""

    label: ClassVar[str] = "Change take"
    take: Take

    def apply(self, book: Book) -> Book:
        old = book.take(self.take.id)
        if old is None:
            raise ValueError(f"no take {self.take.id}")
        takes = tuple(self.take if t.id == self.take.id else t for t in book.takes)
        turned = old.swapped != self.take.swapped
        log = tuple(
            replace(e, shoes=self.take.shoes, floor=self.take.floor, side=_other(e.side) if turned else e.side)
            if e.take == self.take.id
            else e
            for e in book.log
        )
        return replace(book, takes=takes, log=log)


def _other(side: FirstFoot) -> FirstFoot:
    return ACROSS.get(side, side)  # type: ignore[return-value]


class AddLog(PlainEdit, frozen=True):
    label: ClassVar[str] = "Note in the log"
    entry: LogEntry

    def apply(self, book: Book) -> Book:
        return replace(book, log=(*book.log, checked_entry(self.entry)))


class ChangeLog(PlainEdit, frozen=True):
    label: ClassVar[str] = "Change the log"
    entry: LogEntry

    def apply(self, book: Book) -> Book:
        entry = checked_entry(self.entry)
        return replace(book, log=tuple(entry if e.id == entry.id else e for e in book.log))


class DeleteLog(PlainEdit, frozen=True):
    label: ClassVar[str] = "Delete from the log"
    entry: str

    def apply(self, book: Book) -> Book:
        return replace(book, log=tuple(e for e in book.log if e.id != self.entry))


def checked_entry(entry: LogEntry) -> LogEntry:
    """An entry that can be kept; raises FirnError for a tempo or a day that is none."""
    if not SLOWEST <= entry.tempo <= FASTEST:
        raise FirnError(f"The tempo must lie between {SLOWEST} and {FASTEST} counts a minute, not {entry.tempo:g}.")
    try:
        datetime.fromisoformat(entry.when)
    except ValueError as fault:
        raise FirnError(f"{entry.when} is no day: write it as 2026-11-25.") from fault
    return replace(entry, remark=entry.remark[:MOST_REMARK])
