"""Random sequences of edits, undone and done again: each undo gives the workbook as it was."""

import random
from collections.abc import Callable
from types import SimpleNamespace
from typing import Any, cast

from msgspec.structs import replace

from firn.core.book import edits as e
from firn.core.book import practice_edits as practice
from firn.core.book.book import Book, BookPart, Take, new_piece
from firn.core.book.log import Answer, LogEntry
from firn.core.book.students import Student
from firn.core.drills.class_plan import ClassItem, ClassPlan
from firn.core.drills.stage import Drill
from firn.errors import FirnError
from firn.session.session import Session

LONGEST = 40


def session() -> Session:
    """A session on a file that takes everything: what is undone is the session's work, not the file's."""
    store = SimpleNamespace(path=None, why_read_only="", told=(), commit=lambda book: None, close=lambda: None)
    return Session(cast(Any, store), e.AddPiece(new_piece("p0", "a0", "First")).apply(Book()))


def edit(rng: random.Random, book: Book, number: int) -> e.Edit:
    """An edit that could be made of a workbook."""
    pieces = book.pieces
    if not pieces or rng.random() < 0.05:
        return e.AddPiece(new_piece(f"p{number}", f"a{number}", f"Piece {number}"))
    piece = rng.choice(pieces)
    part = rng.choice(piece.parts) if piece.parts else None
    makes: list[Callable[[], e.Edit]] = [
        lambda: e.AddPart(piece.id, BookPart(f"b{number}", rng.choice(("A", f"P{number}", "combo")), "")),
        lambda: e.SetHead(piece.id, f"piece: {number}\n"),
        lambda: e.SetCombo(piece.id, f"A x{number}"),
        lambda: e.GoTo(piece.id, part.id if part else ""),
        lambda: e.GoTo("nowhere", "none"),
        lambda: e.NoteAnswer(Answer("how_many", rng.random() < 0.5, str(number), book.who)),
        lambda: e.AddLog(
            LogEntry(f"l{number}", "2026-11-25T20:00", "x", "", "right", 120.0, "clean", student=book.who)
        ),
        lambda: practice.AddDrill(Drill(f"d{number}", piece.id, f"Drill {number}", student=book.who)),
        lambda: practice.AddClass(ClassPlan(f"c{number}", piece.id, f"Class {number}", (ClassItem("new", number),))),
        lambda: practice.AddStudent(Student(f"s{number}", rng.choice(("A. L.", f"S{number}", " ")))),
        lambda: practice.Practise(rng.choice(("", "nobody", *(s.id for s in book.students)))),
    ]
    if part is not None:
        makes += [
            lambda: e.SetPartText(piece.id, part.id, f"1 step # {number}", rng.choice(("Write", "Move"))),
            lambda: e.RenamePart(piece.id, part.id, rng.choice(("B", f"R{number}", " ", "a,b"))),
            lambda: e.DeletePart(piece.id, part.id),
            lambda: e.AddTake(Take(f"t{number}", piece.id, part.id, "t", "", "h", 48_000, 1, 120.0)),
        ]
    if book.takes:
        take = rng.choice(book.takes)
        makes += [
            lambda: e.DeleteTake(take.id),
            lambda: e.RenameTake(take.id, f"n{number}"),
            lambda: e.ChangeTake(replace(take, swapped=not take.swapped)),
        ]
    if book.log:
        entry = rng.choice(book.log)
        makes += [lambda: e.DeleteLog(entry.id), lambda: e.ChangeLog(replace(entry, tempo=float(60 + number)))]
    if book.students:
        student = rng.choice(book.students)
        makes += [
            lambda: practice.DeleteStudent(student.id),
            lambda: practice.ChangeStudent(replace(student, name=f"T{number}")),
        ]
    if book.drills:
        drill = rng.choice(book.drills)
        makes += [
            lambda: practice.DeleteDrill(drill.id),
            lambda: practice.ChangeDrill(replace(drill, name=f"D{number}")),
        ]
    if book.classes:
        plan = rng.choice(book.classes)
        makes += [lambda: practice.DeleteClass(plan.id), lambda: practice.ChangeClass(replace(plan, items=()))]
    if rng.random() < 0.05:
        return e.DeletePiece(piece.id)
    return rng.choice(makes)()


def sequence(rng: random.Random) -> None:
    """One sequence against a model, the workbooks before each edit; raises AssertionError where they differ."""
    made = session()
    done: list[tuple[Book, Book]] = []
    undone: list[tuple[Book, Book]] = []
    for number in range(1, rng.randint(2, LONGEST)):
        way = rng.random()
        before = made.book
        if way < 0.4:
            back = way < 0.25
            taken, given = (done, undone) if back else (undone, done)
            assert (made.undo() if back else made.redo()) == bool(taken)
            if taken:
                step = taken.pop()
                given.append(step)
                _same(made.book, step[0 if back else 1], before)
        else:
            change = edit(rng, before, number)
            try:
                made.do(change)
            except FirnError:
                assert made.book is before
                continue
            if change.undoable and made.book != before:
                done.append((before, made.book))
                undone.clear()
        assert made.history.undo_label != "" if done else made.history.undo_label == ""


def _same(now: Book, wanted: Book, before: Book) -> None:
    """All of the workbook is as it was, but for records: what the ear has answered meanwhile, and who practises.

    Answers go with their student alone, and come back with them.
    """
    assert replace(now, ear=(), who="") == replace(wanted, ear=(), who=""), "undone otherwise"
    known = {"", *(s.id for s in now.students)}
    there = {"", *(s.id for s in before.students)}
    kept = [a for a in before.ear if a.student in known]
    back = [a for a in wanted.ear if a.student not in there]
    assert sorted(now.ear, key=_told) == sorted([*kept, *back], key=_told), "an answer is lost"
    assert now.who == (before.who if before.who in known else ""), "somebody else practises"


def _told(answer: Answer) -> tuple[str, str]:
    return answer.student, answer.when
