"""What leaves Firn for students: packs for one or for all of a workbook's, made from what it holds."""

from collections.abc import Callable, Sequence
from datetime import date
from pathlib import Path

from msgspec import Struct

from firn.core.book.book import Book, BookPiece
from firn.core.book.log import LogEntry
from firn.core.book.students import OWNER, Student
from firn.core.drills.stage import Drill
from firn.core.piece.build import piece_from
from firn.core.steps.shelf import Shelf
from firn.core.task import UNWATCHED, Task
from firn.errors import FirnError
from firn.session.drilling import plan
from firn.session.pack.beside import ClipFilm
from firn.session.pack.contents import LANGUAGES, Wanted, items
from firn.session.pack.page import PLAIN_S, Pack, Plain, make_pack, plain_sounds
from firn.session.planning import Day, practice


class Order(Struct, frozen=True):
    """What is given out: which parts (none: all, and the combo), what the teacher writes on it, and a practice of
    so many minutes a day for so many days, 0 for none; her voice and the pictures of clips; a drill, to be ticked
    as it is planned, on the first day."""

    parts: tuple[str, ...] = ()
    by: str = ""
    licence: str = ""
    note: str = ""
    language: str = ""
    tempo: float = 0.0
    minutes: float = 15.0
    days: int = 0
    questions: bool = True
    voice: bytes = b""
    films: tuple[ClipFilm, ...] = ()
    drill: Drill | None = None


def wanted_of(
    piece: BookPiece, log: Sequence[LogEntry], shelf: Shelf, order: Order, student: Student | None, today: date
) -> Wanted:
    """What a pack for somebody is made of; raises FirnError with one sentence."""
    days: tuple[Day, ...] = ()
    if order.days:
        planned = practice(
            piece, log, shelf, minutes=order.minutes, today=today, days=order.days, tempo=order.tempo, student=student
        )
        days = tuple(planned)
    if order.drill is not None:
        # What cannot be danced any more cannot be ticked; a pack asks by ear in its own place.
        stages = tuple(one for one in plan(piece, order.drill, shelf).stages if not one.wrong and one.asked is None)
        if not stages:
            raise FirnError("There is no stage in this drill that can be danced.")
        days = (Day(today, stages), *days)
    # A student's language that packs are not made in is no fault; one that was asked for is.
    spoken = student.language if student is not None and student.language in LANGUAGES else LANGUAGES[0]
    return Wanted(
        piece_from(piece.script, shelf), {p.name: p.id for p in piece.parts}, order.parts, student, order.by,
        order.licence, order.note, order.language or spoken, order.tempo, days, order.questions, order.voice,
        order.films,
    )  # fmt: skip


def packs(
    book: Book,
    piece: BookPiece,
    students: Sequence[Student],
    shelf: Shelf,
    order: Order,
    today: date,
    give: Callable[[Student, Pack], object],
    task: Task = UNWATCHED,
) -> None:
    """A pack for each of several students, handed to `give` one by one; sounds that are alike are made once."""
    known: dict[tuple[str, float], list[Plain]] = {}
    for number, student in enumerate(students):
        task.step(number / len(students))
        log = [e for e in book.log if e.student == student.id]
        wanted = wanted_of(piece, log, shelf, order, student, today)
        plain: list[Plain] = []
        for item in items(wanted):
            key = (item.id, item.tempo)
            if key not in known:
                known[key] = plain_sounds([item])
            plain += known[key]
        give(student, make_pack(wanted, plain=within(plain)))


def within(plain: Sequence[Plain]) -> list[Plain]:
    """Plain sounds as many as fit into a pack."""
    found: list[Plain] = []
    left = PLAIN_S
    for one in plain:
        left -= float(one.item.section(one.tempo).length_s)
        if left < 0 and found:
            break
        found.append(one)
    return found


def pack_name(piece: BookPiece, student: Student | None, *, named: bool) -> str:
    """What a pack's file is called, without its ending: by the piece and, where that is wanted, the student's name,
    else the key."""
    who = "" if student is None or student.id == OWNER else f" {student.name if named else student.id}"
    return "".join(c if c.isalnum() or c in " -_" else "-" for c in f"{piece.name}{who}").strip()[:80] or "pack"


def write_pack(path: Path, pack: Pack) -> None:
    """Write a pack as the ending of its name says: one page, or a zipped folder."""
    from firn.files.whole import write_bytes

    write_bytes(path, pack.zipped() if path.suffix.casefold() == ".zip" else pack.html.encode("utf-8"))
