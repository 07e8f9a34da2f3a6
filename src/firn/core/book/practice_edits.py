"""Edits of what is practised: drills, classes, and the students for whom they are."""

from typing import ClassVar

from msgspec import Struct
from msgspec.structs import replace

from firn.core.book.book import Book
from firn.core.book.edits import PlainEdit, checked_name
from firn.core.book.students import LEVELS, OWNER, Student
from firn.core.drills.class_plan import ClassPlan, checked_class
from firn.core.drills.stage import MOST_STAGES, Drill, checked_stage
from firn.core.meter.tempo import FASTEST, SLOWEST
from firn.core.steps.names import fold
from firn.errors import FirnError


class AddDrill(PlainEdit, frozen=True):
    label: ClassVar[str] = "Add drill"
    drill: Drill

    def apply(self, book: Book) -> Book:
        return replace(book, drills=(*book.drills, checked_drill(self.drill)))


class AddDrills(PlainEdit, frozen=True):
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


class DeleteDrill(PlainEdit, frozen=True):
    label: ClassVar[str] = "Delete drill"
    drill: str

    def apply(self, book: Book) -> Book:
        return replace(book, drills=tuple(d for d in book.drills if d.id != self.drill))


class AddClass(PlainEdit, frozen=True):
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


class DeleteClass(PlainEdit, frozen=True):
    label: ClassVar[str] = "Delete class"
    plan: str

    def apply(self, book: Book) -> Book:
        return replace(book, classes=tuple(c for c in book.classes if c.id != self.plan))


def _kept_class(plan: ClassPlan) -> ClassPlan:
    return checked_class(replace(plan, name=checked_name(plan.name)))


class AddStudent(PlainEdit, frozen=True):
    """A student more, who practises from now on."""

    label: ClassVar[str] = "Add student"
    student: Student

    def apply(self, book: Book) -> Book:
        student = checked_student(book, self.student)
        return replace(book, students=(*book.students, student), who=student.id)


class ChangeStudent(PlainEdit, frozen=True):
    label: ClassVar[str] = "Change student"
    student: Student

    def apply(self, book: Book) -> Book:
        student = checked_student(book, self.student)
        return replace(book, students=tuple(student if s.id == student.id else s for s in book.students))


class DeleteStudent(PlainEdit, frozen=True):
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


class Practise(PlainEdit, frozen=True):
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
