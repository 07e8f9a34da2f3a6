"""What a judged take, or a practice noted by hand, puts into the log."""

from typing import TYPE_CHECKING, Any

from msgspec.structs import replace

from firn.core.book.book import Book, BookPiece, Take
from firn.core.book.log import FirstFoot, LogEntry, best_clean, ear_record
from firn.core.book.students import OWNER
from firn.core.drills.run import How
from firn.core.piece.piece import Part
from firn.session.fresh import new_id, now

if TYPE_CHECKING:
    # Heavy: imported when a take is first judged.
    from firn.core.ear.routine import Routine
    from firn.core.ear.verdict import Verdict

HOW: dict[str, How] = {"clean": "clean", "slip": "slip", "kind": "slip"}
"""Mends that leave a take clean: nothing, slips that are no habit, and what is told by its colour alone."""


def step_name(piece: BookPiece, part_name: str) -> str:
    """What a step of the log is called: its piece and part."""
    return f"{piece.name}, {part_name}"


def side_of(lead: str, *, swapped: bool) -> FirstFoot:
    """The foot that begins: the lead, or on the other side the other."""
    right = (lead == "right") != swapped
    return "right" if right else "left"


def entry_of(book: Book, take: Take, part: Part, verdict: "Verdict") -> LogEntry | None:
    """The entry of a take once it is judged; None for a simulated one, or one that the log has already."""
    piece = book.piece(take.piece)
    if take.source == "simulated" or piece is None or any(e.take == take.id for e in book.log):
        return None
    first = part.footing.first or part.settings.lead
    return LogEntry(
        id=new_id(),
        when=take.made,
        step=step_name(piece, part.name),
        part=take.part,
        side=side_of(first, swapped=take.swapped),
        tempo=round(verdict.tempo, 1),
        how=_how(verdict),
        on=verdict.count("on"),
        of=len(verdict.judged),
        shoes=take.shoes,
        floor=take.floor,
        source="take",
        take=take.id,
        student=take.student,
    )


def _how(verdict: "Verdict") -> How:
    """How a take went; "" where it may be clean, and is not surely so. A slip that may be none is at worst one."""
    from firn.core.ear.told import SURE

    how = HOW.get(verdict.mend.code, "lost")
    unsure = (how == "clean" and verdict.mend.sure < SURE) or (how == "slip" and verdict.unplain)
    return "" if unsure else how


def entry_of_combo(book: Book, take: Take, routine: "Routine") -> LogEntry | None:
    """The entry of a take of a combo; None for one that the log has already."""
    piece = book.piece(take.piece)
    if piece is None or not routine.fits or not routine.verdicts or any(e.take == take.id for e in book.log):
        return None
    went = [_how(verdict) for _, verdict in routine.verdicts]
    how: How = "lost" if routine.left_out else next((one for one in ("lost", "", "slip") if one in went), "clean")
    judged = [j for _, verdict in routine.verdicts for j in verdict.judged]
    return LogEntry(
        id=new_id(),
        when=take.made,
        step=step_name(piece, "combo"),
        part="",
        side="",
        tempo=round(sum(verdict.tempo for _, verdict in routine.verdicts) / len(routine.verdicts), 1),
        how=how,
        on=sum(j.heard == "on" for j in judged),
        of=len(judged),
        shoes=take.shoes,
        floor=take.floor,
        source="take",
        take=take.id,
        student=take.student,
    )


def log_data(book: Book, *, student: str | None = None, since: str = "") -> dict[str, Any]:
    """The stable data of `firn log --json`: what was danced, of one student (a key, "" for the owner) or of all, from
    a day on; the best clean tempos, and what the ear answered."""
    names = {OWNER: "you", **{s.id: s.name for s in book.students}}
    mine = [e for e in book.log if student in (None, e.student) and e.day >= since]
    rows = [
        {
            "when": e.when, "student": e.student, "who": names.get(e.student, e.student), "step": e.step,
            "part": e.part or None, "side": e.side or None, "tempo": e.tempo, "how": e.how or None, "on": e.on,
            "of": e.of, "shoes": e.shoes or None, "floor": e.floor or None, "remark": e.remark or None,
            "source": e.source, "take": e.take or None,
        }
        for e in mine
    ]  # fmt: skip
    keys = [student] if student is not None else list(dict.fromkeys(e.student for e in mine))
    best = [
        {"student": key, "step": b.step, "side": b.side or None, "tempo": b.tempo, "since": b.rises[-1][0]}
        for key in keys
        for b in best_clean(e for e in mine if e.student == key)
    ]
    answers = [a for a in book.ear if student in (None, a.student) and a.when[:10] >= since]
    ear = [
        {"student": key, "kind": kind, "right": right, "of": of}
        for key in dict.fromkeys(a.student for a in answers)
        for kind, (right, of) in ear_record([a for a in answers if a.student == key]).items()
    ]
    return {"log": rows, "best": best, "ear": ear}


def clean_tempos(book: Book, part_id: str) -> tuple[tuple[str, float], ...]:
    """The fastest clean tempo of a part on each side that it was danced on, right before left."""
    best = best_clean(e for e in book.own_log if e.part == part_id) if part_id else []
    return tuple((b.side, b.tempo) for b in best)


def noted(book: Book, piece: BookPiece, part: Part, part_id: str, tempo: float, *, swapped: bool) -> LogEntry:
    """An entry to begin a note by hand from: today, in the shoes and on the floor of the last one."""
    last = book.own_log[-1] if book.own_log else None
    entry = LogEntry(
        id=new_id(),
        when=now(),
        step=step_name(piece, part.name),
        part=part_id,
        side=side_of(part.footing.first or part.settings.lead, swapped=swapped),
        tempo=tempo,
        how="clean",
        student=book.who,
    )
    return replace(entry, shoes=last.shoes, floor=last.floor) if last else entry
