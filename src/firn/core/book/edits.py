"""Edits: each a value that makes a new workbook of an old one."""

from datetime import datetime
from typing import ClassVar, Protocol

from msgspec import Struct
from msgspec.structs import replace

from firn.core.book.book import Book, BookPart, BookPiece, Take
from firn.core.book.log import Answer, FirstFoot, LogEntry
from firn.core.book.students import LEVELS, OWNER, Student
from firn.core.drills.class_plan import ClassPlan, checked_class
from firn.core.drills.stage import MOST_STAGES, Drill, checked_stage
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


class _Plain(Struct, frozen=True):
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


class AddPiece(_Plain, frozen=True):
    label: ClassVar[str] = "Add piece"
    piece: BookPiece

    def apply(self, book: Book) -> Book:
        part = self.piece.parts[0].id if self.piece.parts else ""
        return replace(book, pieces=(*book.pieces, self.piece), here=(self.piece.id, part))


class DeletePiece(_Plain, frozen=True):
    label: ClassVar[str] = "Delete piece"
    piece: str

    def apply(self, book: Book) -> Book:
        pieces = tuple(p for p in book.pieces if p.id != self.piece)
        takes = tuple(t for t in book.takes if t.piece != self.piece)
        drills = tuple(d for d in book.drills if d.piece != self.piece)
        here = (pieces[0].id, pieces[0].parts[0].id if pieces[0].parts else "") if pieces else ("", "")
        classes = tuple(c for c in book.classes if c.piece != self.piece)
        return replace(book, pieces=pieces, takes=takes, drills=drills, classes=classes, here=here)


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


class AddPart(_Plain, frozen=True):
    label: ClassVar[str] = "Add part"
    piece: str
    part: BookPart

    def apply(self, book: Book) -> Book:
        piece = _piece(book, self.piece)
        name = _free_part_name(piece, checked_name(self.part.name))
        parts = (*piece.parts, replace(self.part, name=name))
        return replace(book.with_piece(replace(piece, parts=parts)), here=(piece.id, self.part.id))


class RenamePart(_Plain, frozen=True):
    label: ClassVar[str] = "Rename part"
    piece: str
    part: str
    name: str

    def apply(self, book: Book) -> Book:
        piece = _piece(book, self.piece)
        name = _free_part_name(piece, checked_name(self.name), self.part)
        parts = tuple(replace(p, name=name) if p.id == self.part else p for p in piece.parts)
        return book.with_piece(replace(piece, parts=parts))


class DeletePart(_Plain, frozen=True):
    label: ClassVar[str] = "Delete part"
    piece: str
    part: str

    def apply(self, book: Book) -> Book:
        piece = _piece(book, self.piece)
        index = next((i for i, p in enumerate(piece.parts) if p.id == self.part), 0)
        parts = tuple(p for p in piece.parts if p.id != self.part)
        near = parts[min(index, len(parts) - 1)].id if parts else ""
        takes = tuple(t for t in book.takes if t.part != self.part)
        return replace(book.with_piece(replace(piece, parts=parts)), takes=takes, here=(piece.id, near))


class AddTake(_Plain, frozen=True):
    label: ClassVar[str] = "Add take"
    take: Take

    def apply(self, book: Book) -> Book:
        return replace(book, takes=(*book.takes, self.take))


class RenameTake(_Plain, frozen=True):
    label: ClassVar[str] = "Rename take"
    take: str
    name: str

    def apply(self, book: Book) -> Book:
        name = checked_name(self.name)
        takes = tuple(replace(t, name=name) if t.id == self.take else t for t in book.takes)
        return replace(book, takes=takes)


class DeleteTake(_Plain, frozen=True):
    label: ClassVar[str] = "Delete take"
    take: str

    def apply(self, book: Book) -> Book:
        return replace(book, takes=tuple(t for t in book.takes if t.id != self.take))


class GoTo(_Plain, frozen=True):
    """Where the user is: kept, so that a workbook opens where it was left; nothing to undo."""

    label: ClassVar[str] = "Go to"
    undoable: ClassVar[bool] = False
    piece: str
    part: str

    def apply(self, book: Book) -> Book:
        return replace(book, here=(self.piece, self.part))


class NoteAnswer(_Plain, frozen=True):
    """One answer of the student's ear."""

    label: ClassVar[str] = "Answer"
    undoable: ClassVar[bool] = False
    answer: Answer

    def apply(self, book: Book) -> Book:
        return replace(book, ear=(*book.ear, self.answer)[-EAR_KEPT:])


class ChangeTake(_Plain, frozen=True):
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


class AddLog(_Plain, frozen=True):
    label: ClassVar[str] = "Note in the log"
    entry: LogEntry

    def apply(self, book: Book) -> Book:
        return replace(book, log=(*book.log, checked_entry(self.entry)))


class ChangeLog(_Plain, frozen=True):
    label: ClassVar[str] = "Change the log"
    entry: LogEntry

    def apply(self, book: Book) -> Book:
        entry = checked_entry(self.entry)
        return replace(book, log=tuple(entry if e.id == entry.id else e for e in book.log))


class DeleteLog(_Plain, frozen=True):
    label: ClassVar[str] = "Delete from the log"
    entry: str

    def apply(self, book: Book) -> Book:
        return replace(book, log=tuple(e for e in book.log if e.id != self.entry))


class AddDrill(_Plain, frozen=True):
    label: ClassVar[str] = "Add drill"
    drill: Drill

    def apply(self, book: Book) -> Book:
        return replace(book, drills=(*book.drills, checked_drill(self.drill)))


class AddDrills(_Plain, frozen=True):
    """Several drills: a practice of several days."""

    label: ClassVar[str] = "Plan a practice"
    drills: tuple[Drill, ...]

    def apply(self, book: Book) -> Book:
        return replace(book, drills=(*book.drills, *map(checked_drill, self.drills)))


class ChangeDrill(Struct, frozen=True):
    """A drill's name or stages, changed by what `label` says."""

    undoable: ClassVar[bool] = True
    drill: Drill
    label: str = "Change the drill"

    def apply(self, book: Book) -> Book:
        drill = checked_drill(self.drill)
        return replace(book, drills=tuple(drill if d.id == drill.id else d for d in book.drills))


class DeleteDrill(_Plain, frozen=True):
    label: ClassVar[str] = "Delete drill"
    drill: str

    def apply(self, book: Book) -> Book:
        return replace(book, drills=tuple(d for d in book.drills if d.id != self.drill))


class AddClass(_Plain, frozen=True):
    label: ClassVar[str] = "Plan a class"
    plan: ClassPlan

    def apply(self, book: Book) -> Book:
        return replace(book, classes=(*book.classes, _kept_class(self.plan)))


class ChangeClass(Struct, frozen=True):
    """A class's name or items, changed by what `label` says."""

    undoable: ClassVar[bool] = True
    plan: ClassPlan
    label: str = "Change the class"

    def apply(self, book: Book) -> Book:
        plan = _kept_class(self.plan)
        return replace(book, classes=tuple(plan if c.id == plan.id else c for c in book.classes))


class DeleteClass(_Plain, frozen=True):
    label: ClassVar[str] = "Delete class"
    plan: str

    def apply(self, book: Book) -> Book:
        return replace(book, classes=tuple(c for c in book.classes if c.id != self.plan))


def _kept_class(plan: ClassPlan) -> ClassPlan:
    return checked_class(replace(plan, name=checked_name(plan.name)))


class AddStudent(_Plain, frozen=True):
    """A student more, who practises from now on."""

    label: ClassVar[str] = "Add student"
    student: Student

    def apply(self, book: Book) -> Book:
        student = checked_student(book, self.student)
        return replace(book, students=(*book.students, student), who=student.id)


class ChangeStudent(_Plain, frozen=True):
    label: ClassVar[str] = "Change student"
    student: Student

    def apply(self, book: Book) -> Book:
        student = checked_student(book, self.student)
        return replace(book, students=tuple(student if s.id == student.id else s for s in book.students))


class DeleteStudent(_Plain, frozen=True):
    """A student away, with what is kept of them: log, takes, drills and answers."""

    label: ClassVar[str] = "Delete student"
    student: str

    def apply(self, book: Book) -> Book:
        if self.student == OWNER:
            return book
        return replace(
            book,
            students=tuple(s for s in book.students if s.id != self.student),
            log=tuple(e for e in book.log if e.student != self.student),
            takes=tuple(t for t in book.takes if t.student != self.student),
            drills=tuple(d for d in book.drills if d.student != self.student),
            ear=tuple(a for a in book.ear if a.student != self.student),
            who=OWNER if book.who == self.student else book.who,
        )


class Practise(_Plain, frozen=True):
    """Who practises now: kept, and nothing to undo."""

    label: ClassVar[str] = "Practise"
    undoable: ClassVar[bool] = False
    who: str

    def apply(self, book: Book) -> Book:
        known = {OWNER, *(s.id for s in book.students)}
        return replace(book, who=self.who if self.who in known else OWNER)


def checked_student(book: Book, student: Student) -> Student:
    """A student who can be kept; raises FirnError for a name that another has, or a value that cannot be."""
    name = checked_name(student.name)
    if any(fold(s.name) == fold(name) and s.id != student.id for s in book.students):
        raise FirnError(f'Another student is called "{name}" already.')
    if student.tempo and not SLOWEST <= student.tempo <= FASTEST:
        raise FirnError(f"The tempo must lie between {SLOWEST} and {FASTEST} counts a minute, not {student.tempo:g}.")
    if student.level not in LEVELS:
        raise FirnError(f"There is no level {student.level}.")
    return replace(student, name=name)


def checked_drill(drill: Drill) -> Drill:
    """A drill that can be kept; raises FirnError for a name or a stage that cannot be."""
    if len(drill.stages) > MOST_STAGES:
        raise FirnError(f"A drill has {MOST_STAGES} stages at most.")
    return replace(drill, name=checked_name(drill.name), stages=tuple(checked_stage(s) for s in drill.stages))


def checked_entry(entry: LogEntry) -> LogEntry:
    """An entry that can be kept; raises FirnError for a tempo or a day that is none."""
    if not SLOWEST <= entry.tempo <= FASTEST:
        raise FirnError(f"The tempo must lie between {SLOWEST} and {FASTEST} counts a minute, not {entry.tempo:g}.")
    try:
        datetime.fromisoformat(entry.when)
    except ValueError as fault:
        raise FirnError(f"{entry.when} is no day: write it as 2026-11-25.") from fault
    return replace(entry, remark=entry.remark[:MOST_REMARK])
