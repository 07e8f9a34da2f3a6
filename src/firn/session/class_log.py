"""What a class's log says: what changed since a day, student by student, and which part most of them lack."""

from collections.abc import Sequence

from msgspec import Struct
from msgspec.structs import replace

from firn.core.book.book import Book, BookPiece
from firn.core.book.log import LogEntry, best_clean
from firn.core.book.students import OWNER
from firn.core.drills.class_plan import ClassItem, ClassPlan

REVIEWED = 10
"""Minutes for what most of a class lacks."""


class Change(Struct, frozen=True):
    """What a student did since: how often, and the parts whose best clean tempo rose, from what (0: none) to what."""

    student: str
    name: str
    times: int
    rises: tuple[tuple[str, float, float], ...]


class Lack(Struct, frozen=True):
    """A part that students are not clean at, at the full tempo: who, of how many that danced it, and the slowest."""

    part: str
    name: str
    students: tuple[str, ...]
    of: int
    slowest: float


def changes(book: Book, piece: BookPiece, since: str) -> list[Change]:
    """What each student did of a piece since a day, the busiest first."""
    parts = {p.id: p.name for p in piece.parts}
    found = []
    for student in book.students:
        mine = [e for e in book.log if e.student == student.id and e.part in parts]
        new = [e for e in mine if e.day >= since]
        before, now = (_best(entries, parts) for entries in ([e for e in mine if e.day < since], mine))
        rises = tuple(
            (parts[key], before.get(key, 0.0), tempo) for key, tempo in now.items() if tempo > before.get(key, 0.0)
        )
        if new:
            found.append(Change(student.id, student.name, len(new), rises))
    return sorted(found, key=lambda c: -c.times)


def _best(entries: Sequence[LogEntry], parts: dict[str, str]) -> dict[str, float]:
    """The best tempo at which each part was clean on every side that was danced."""
    best: dict[str, float] = {}
    for key in parts:
        sides = [b.tempo for b in best_clean(e for e in entries if e.part == key)]
        if sides:
            best[key] = min(sides)
    return best


def lacks(book: Book, piece: BookPiece, tempo: float) -> list[Lack]:
    """The parts that students danced and are not clean at, at a tempo: what most of them lack first."""
    found = []
    for part in piece.parts:
        danced = {e.student for e in book.log if e.part == part.id and e.student != OWNER}
        without, slowest = [], tempo
        for student in book.students:
            if student.id not in danced:
                continue
            mine = [e for e in book.log if e.student == student.id]
            best = _best(mine, {part.id: part.name}).get(part.id, 0.0)
            if best < tempo:
                without.append(student.id)
                slowest = min(slowest, best)
        if without:
            found.append(Lack(part.id, part.name, tuple(without), len(danced), slowest))
    return sorted(found, key=lambda one: (-len(one.students), one.slowest))


def class_said(book: Book, piece: BookPiece, tempo: float, since: str) -> str:
    """Both in a few sentences; "" where no student danced anything."""
    news, wanting = changes(book, piece, since), lacks(book, piece, tempo)
    said = []
    if news:
        rows = [f"{c.name} {_risen(c)}" for c in news[:4]]
        more = f" and {len(news) - 4} more" if len(news) > 4 else ""
        said.append(f"Since {since}: {'; '.join(rows)}{more}.")
    if wanting:
        most = wanting[0]
        at = f", one not faster than {most.slowest:g}" if most.slowest else ""
        who = "none of them" if len(most.students) == most.of else f"{len(most.students)} of {most.of} not"
        said.append(f"Most lack {most.name}: {who} clean at {tempo:g} yet{at}.")
    return " ".join(said)


def _risen(change: Change) -> str:
    times = "once" if change.times == 1 else f"{change.times} times"
    risen = [
        f"{part} {before:g} to {now:g}" if before else f"{part} at {now:g}" for part, before, now in change.rises
    ]
    return f"{times}{', ' + ', '.join(risen) if risen else ''}"


def with_review(plan: ClassPlan, lack: Lack) -> ClassPlan:
    """A class with a review of what most lack, behind its warm-up."""
    said = f"{len(lack.students)} of {lack.of} are not clean at it yet."
    item = ClassItem("review", REVIEWED, lack.part, said)
    after = 1 if plan.items and plan.items[0].kind == "warm_up" else 0
    return replace(plan, items=(*plan.items[:after], item, *plan.items[after:]))
