"""The log: what was danced when, at which tempo, how clean, in which shoes and on which floor."""

from collections.abc import Iterable, Sequence
from typing import Literal

from msgspec import Struct

from firn.core.drills.run import How
from firn.core.ear.asked.kinds import QuestionKind

FirstFoot = Literal["right", "left", ""]
Source = Literal["take", "noted", "drill"]


class LogEntry(Struct, frozen=True):
    """One time that something was danced.

    `when`: ISO 8601 with its offset. `step`: piece and part as they were called then; `part` the part's id, "" for
    none. `side`: the foot that began, "" where nobody said. `tempo` in counts a minute. `how` it went: "" where
    nobody judged. `on` of `of` sounds were on; 0 of 0 where none were counted. `source`: a take that Firn judged,
    noted by hand, or said in a drill; `take` the take's id. `student`: whose it is, by key, "" for the owner.
    """

    id: str
    when: str
    step: str
    part: str
    side: FirstFoot
    tempo: float
    how: How
    on: int = 0
    of: int = 0
    shoes: str = ""
    floor: str = ""
    remark: str = ""
    source: Source = "noted"
    take: str = ""
    student: str = ""

    @property
    def clean(self) -> bool | None:
        """Whether it counts as clean: a slip that is no habit leaves it so; None where nobody judged."""
        return self.how in ("clean", "slip") if self.how else None

    @property
    def day(self) -> str:
        """Its day, YYYY-MM-DD."""
        return self.when[:10]


class Answer(Struct, frozen=True):
    """One answer of the student's ear: what was asked, whether the answer was right, when, and whose."""

    kind: QuestionKind
    right: bool
    when: str = ""
    student: str = ""


class Best(Struct, frozen=True):
    """The best clean tempo of a step on a side: its series of (when, tempo), each better than the one before."""

    step: str
    side: FirstFoot
    rises: tuple[tuple[str, float], ...]

    @property
    def tempo(self) -> float:
        return self.rises[-1][1]


def best_clean(entries: Iterable[LogEntry]) -> list[Best]:
    """The best clean tempo over time of every step and side, by step, right before left.

    A step is known by its part where there is one, and called as it was last called.
    """
    called: dict[str, str] = {}
    rises: dict[tuple[str, FirstFoot], list[tuple[str, float]]] = {}
    for entry in sorted(entries, key=lambda e: e.when):
        key = entry.part or entry.step
        called[key] = entry.step
        if entry.clean:
            series = rises.setdefault((key, entry.side), [])
            if not series or entry.tempo > series[-1][1]:
                series.append((entry.when, entry.tempo))
    order: tuple[FirstFoot, ...] = ("right", "left", "")
    found = [Best(called[key], side, tuple(series)) for (key, side), series in rises.items()]
    return sorted(found, key=lambda b: (b.step.casefold(), order.index(b.side)))


def ear_record(answers: Sequence[Answer]) -> dict[QuestionKind, tuple[int, int]]:
    """How many answers of each kind were right, of how many."""
    record: dict[QuestionKind, tuple[int, int]] = {}
    for answer in answers:
        right, of = record.get(answer.kind, (0, 0))
        record[answer.kind] = right + answer.right, of + 1
    return record
