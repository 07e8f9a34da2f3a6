"""A file of a folder that came home: what it is, when it was made, and what there is to tell of it."""

import re
from collections.abc import Mapping, Sequence
from datetime import datetime
from pathlib import Path
from typing import Any, Literal

from msgspec import Struct

from firn.core.book.brought import BringBack
from firn.core.drills.run import How
from firn.core.ear.asked.kinds import QuestionKind
from firn.core.ear.judged import Judged
from firn.core.ear.routine import Routine
from firn.core.ear.verdict import Verdict

STAMP = re.compile(r"(20\d\d)[-_.]?(\d\d)[-_.]?(\d\d)(?:\D{1,5}(\d\d)[-_.:h]?(\d\d)(?:[-_.:m]?(\d\d))?)?")
"""A day in a file's name, with the time of day or without, as phones write it."""

Doubt = Literal["", "whose", "which", "nothing", "unread"]


class Tick(Struct, frozen=True):
    """A stage that was danced, as a page of a pack tells it."""

    when: str
    how: How
    part: str
    tempo: float
    name: str = ""
    hash: str = ""
    sides: str = ""
    day: str = ""


class Answered(Struct, frozen=True):
    """An answer of the ear, as a page tells it."""

    kind: QuestionKind
    right: bool
    when: str


class Did(Struct, frozen=True):
    """What a page tells that was done."""

    firn: Literal["did"]
    version: int
    pack: str
    student: str = ""
    piece: str = ""
    answers: tuple[Answered, ...] = ()
    ticks: tuple[Tick, ...] = ()


class Found(Struct, frozen=True):
    """One file of a folder.

    `kind`: a take, what was done, or neither; `doubt`: what is to be said before it is logged, "" for nothing; `why`
    in words. `student`: whose it is, by key. `piece`, `part`: ids, `name` as they are called. `also`: other parts
    that it might be. `told`: what there is to say beside. `known`: it was brought in before. `verdict`: what was
    heard of a part, `routine` of a whole combo.
    """

    path: Path
    kind: Literal["take", "did", "other"]
    doubt: Doubt = ""
    why: str = ""
    student: str | None = None
    piece: str = ""
    part: str = ""
    name: str = ""
    also: tuple[str, ...] = ()
    when: str = ""
    tempo: float = 0.0
    told: tuple[str, ...] = ()
    known: bool = False
    verdict: Verdict | None = None
    routine: Routine | None = None
    did: Did | None = None

    @property
    def judged(self) -> list[Judged]:
        """All its sounds as they were judged, of a part or of a whole combo."""
        if self.routine is not None:
            return [j for _, verdict in self.routine.verdicts for j in verdict.judged]
        return list(self.verdict.judged) if self.verdict is not None else []


def recorded_at(path: Path) -> str:
    """When a recording was made: as the file itself says, or its name, or when it was last written."""
    from firn.files.media import made_at

    said = made_at(path)
    if said is not None:
        return said.astimezone().isoformat(timespec="seconds")
    named = STAMP.search(path.stem)
    if named is not None:
        year, month, day, hour, minute, second = (int(n) if n else 0 for n in named.groups())
        try:
            return datetime(year, month, day, hour, minute, second).astimezone().isoformat(timespec="seconds")
        except (ValueError, OverflowError, OSError):
            pass
    return datetime.fromtimestamp(path.stat().st_mtime).astimezone().isoformat(timespec="seconds")


def brought_data(found: Sequence[Found], edit: BringBack, take_of: Mapping[Path, str]) -> dict[str, Any]:
    """The stable data of `firn bring --json`."""
    logged = {e.take: e for e in edit.entries if e.take}
    rows: dict[str, list[dict[str, Any]]] = {"brought": [], "waits": [], "known": [], "unread": []}
    for one in found:
        row: dict[str, Any] = {
            "file": str(one.path), "kind": one.kind, "student": one.student, "part": one.name or None,
            "when": one.when or None, "told": list(one.told),
        }  # fmt: skip
        if one.judged:
            entry = logged.get(take_of.get(one.path, ""))
            row |= {
                "tempo": one.tempo, "how": entry.how if entry is not None else None,
                "on": sum(j.heard == "on" for j in one.judged), "of": len(one.judged),
                "passes": _passes(one), "sure": _sure(one),
            }  # fmt: skip
        if one.did is not None:
            row |= {"ticks": len(one.did.ticks), "answers": len(one.did.answers)}
        if one.doubt == "unread":
            rows["unread"].append({**row, "why": one.why})
        elif one.doubt:
            rows["waits"].append({**row, "doubt": one.doubt, "why": one.why, "also": list(one.also)})
        else:
            rows["known" if one.known else "brought"].append(row)
    return dict(rows)


def _passes(one: Found) -> list[dict[str, Any]]:
    if one.routine is not None:
        danced = one.routine.passes
        return [
            {"part": p.part.name, "start_s": round(p.found.start_s, 3), "end_s": round(p.found.end_s, 3)}
            for p in danced
        ]
    found = one.verdict.match.passes.found if one.verdict is not None else ()
    return [{"start_s": round(p.start_s, 3), "end_s": round(p.end_s, 3)} for p in found]


def _sure(one: Found) -> float | None:
    if one.routine is not None:
        return round(one.routine.sure, 3)
    return round(one.verdict.match.sure, 3) if one.verdict is not None else None
