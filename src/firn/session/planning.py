"""Practice planned from the parts of a piece, the minutes there are and what the log knows, day by day.

What comes when is common practice, no source: what is clean warms up, what is new is counted first, what is weaker is
danced more, what is clean comes again after ever more days, and the whole comes last.
"""

from collections.abc import Iterable, Iterator, Sequence
from datetime import date, timedelta
from itertools import pairwise
from typing import NamedTuple

from msgspec import Struct
from msgspec.structs import replace

from firn.core.book.book import BookPiece
from firn.core.book.log import LogEntry
from firn.core.book.students import Student
from firn.core.drills.offers import Asked, offers
from firn.core.drills.stage import COMBO, Drill, Stage, StageKind, StageSides
from firn.core.meter.count_in import CountIn
from firn.core.piece.piece import Part
from firn.core.steps.shelf import Shelf
from firn.errors import FirnError
from firn.session.desk import read_in, whole_combo
from firn.session.drilling import Planned, danced_side, planned

LEAST_MINUTES, MOST_MINUTES, MOST_DAYS = 2, 180, 60
BREATH_S = 15.0
"""Between two stages."""

REST_AFTER = 3
"""After so many days of practice one of rest."""

UP_A_DAY = 8.0
"""So many counts a minute faster a ladder goes on one day at most."""

MOST_AGAIN = 4
"""So often on each side at each tempo at most, where there are minutes left."""

MOST_NEW = 2
"""So many parts of which nothing is known yet are begun on one day."""

NEARLY = 0.85
"""The share of its tempo from which a part is joined to others."""

_ORDER: tuple[StageKind, ...] = (
    "warm_up", "click", "count_only", "bare", "weaker_side", "slow_full", "hardest", "ladder", "run_in", "join",
    "whole",
)  # fmt: skip
"""In which order a practice goes."""


class PlanError(FirnError):
    """A practice that cannot be planned."""


class Load(Struct, frozen=True):
    """What a day asks of feet and shins: sounds off the floor, sounds of the foot that sounded last, minutes."""

    airborne: int = 0
    same_foot: int = 0
    minutes: float = 0.0


class Day(Struct, frozen=True):
    """A day of practice, or of rest: no stages then. `lengths`: how long each lasts, in seconds; `carried`: parts
    that are due and found no room."""

    on: date
    stages: tuple[Planned, ...] = ()
    lengths: tuple[float, ...] = ()
    seconds: float = 0.0
    load: Load = Load()
    carried: tuple[str, ...] = ()

    @property
    def rests(self) -> bool:
        """Whether nothing is danced on it."""
        return not self.stages


class _Clean(NamedTuple):
    """The fastest that a side of a part was clean, and the last day on which it was."""

    tempo: float
    on: date


_Known = dict[str, dict[str, _Clean]]
"""What is known of each part, by its id, on each side."""


class _Wish(NamedTuple):
    """A stage that is due: how much, and of which part."""

    weight: float
    stage: Stage
    part: str


def known_of(log: Iterable[LogEntry]) -> _Known:
    """What a log knows of each part: on each side the fastest clean tempo and the last clean day."""
    known: _Known = {}
    for entry in sorted(log, key=lambda e: e.when):
        if entry.clean and entry.part:
            sides = known.setdefault(entry.part, {})
            before = sides.get(entry.side)
            on = date.fromisoformat(entry.day)
            sides[entry.side] = _Clean(max(entry.tempo, before.tempo if before else 0.0), on)
    return known


def practice(
    piece: BookPiece,
    log: Iterable[LogEntry],
    shelf: Shelf,
    *,
    minutes: float,
    today: date,
    days: int = 1,
    tempo: float = 0.0,
    student: Student | None = None,
) -> list[Day]:
    """A practice of so many minutes a day, from today on; raises PlanError with one sentence where there can be none.

    It leads to the student's tempo where `tempo` says no other, and on the sides that they practise.

    Each next day goes on from what the one before it would come to, if all of it was clean; after three days comes
    one of rest.
    """
    if not LEAST_MINUTES <= minutes <= MOST_MINUTES:
        raise PlanError(f"A practice lasts between {LEAST_MINUTES} and {MOST_MINUTES} minutes, not {minutes:g}.")
    if not 1 <= days <= MOST_DAYS:
        raise PlanError(f"Between 1 and {MOST_DAYS} days, not {days}.")
    parts = _parts(piece, shelf)
    if not parts:
        raise PlanError("There is no part with steps to practise yet.")
    known = known_of(log)
    tempo = tempo or (student.tempo if student is not None else 0.0)
    sides = student.sides if student is not None else "both sides"
    made: list[Day] = []
    for number in range(days):
        on = today + timedelta(days=number)
        if number % (REST_AFTER + 1) == REST_AFTER:
            made.append(Day(on))
            continue
        day = _day(piece, parts, known, shelf, minutes * 60, on, tempo, sides)
        made.append(day)
        _reached(piece, known, day)
    return made


def _parts(piece: BookPiece, shelf: Shelf) -> dict[str, Part]:
    """The parts that have steps, by their ids."""
    read = {kept.id: read_in(piece, kept, kept.text, shelf) for kept in piece.parts}
    return {key: part for key, part in read.items() if part.sounds}


def _day(
    piece: BookPiece, parts: dict[str, Part], known: _Known, shelf: Shelf, seconds: float, on: date, tempo: float,
    sides: StageSides,
) -> Day:  # fmt: skip
    wishes = sorted(_wishes(piece, parts, known, shelf, on, tempo), key=lambda w: -w.weight)
    count_in = next(iter(parts.values())).settings.count_in
    taken: list[Planned] = []
    used, left_out = 0.0, []
    for wish in wishes:
        open_sides = wish.stage.sides == "both sides"
        asked = planned(piece, replace(wish.stage, sides=sides) if open_sides else wish.stage, shelf)
        # What is only told of has no times.
        for times in sorted({wish.stage.times, min(1, wish.stage.times)} - {0}, reverse=True):
            one = asked.with_times(times)
            long = one.seconds(count_in) + BREATH_S
            if one.times and used + long <= seconds:
                taken.append(one)
                used += long
                break
        else:
            left_out.append(wish.part)
    used = _more_often(taken, seconds, used, count_in)
    if not taken:
        raise PlanError("That is too short for even one stage: give it some more minutes.")
    taken.sort(key=lambda one: _ORDER.index(one.stage.kind))
    lengths = tuple(one.seconds(count_in) for one in taken)
    has = {part for one in taken for part in one.stage.parts}
    carried = tuple(parts[p].name for p in dict.fromkeys(left_out) if p in parts and p not in has)
    return Day(on, tuple(taken), lengths, used, _load(taken, used), carried)


def _more_often(taken: list[Planned], seconds: float, used: float, count_in: CountIn) -> float:
    """Dance what is built up once more on each side, as long as there are minutes left; gives the seconds used."""
    for times in range(2, MOST_AGAIN + 1):
        for number, one in enumerate(taken):
            if one.stage.kind not in ("ladder", "hardest", "weaker_side") or one.stage.times >= times:
                continue
            more = one.with_times(times)
            longer = more.seconds(count_in) - one.seconds(count_in)
            if used + longer <= seconds:
                taken[number], used = more, used + longer
    return used


def _wishes(
    piece: BookPiece, parts: dict[str, Part], known: _Known, shelf: Shelf, on: date, tempo: float
) -> Iterator[_Wish]:
    """What is due on a day, each with its weight."""
    read, _, _ = whole_combo(piece, shelf)
    ids = {p.name: p.id for p in piece.parts}
    nearly = True
    new = [key for key in parts if not known.get(key)][:MOST_NEW]
    best = max((key for key in parts if known.get(key)), key=lambda key: _least(known[key]), default="")
    for key, part in parts.items():
        sides = known.get(key, {})
        if not sides and key not in new:
            yield _Wish(0, Stage("count_only", (key,), times=0), key)
            continue
        full = tempo or part.settings.tempo
        clean = tuple((side, one.tempo) for side, one in sides.items())
        asked = Asked(read, part, ids, full, clean)
        found = {offer.stage.kind: offer for offer in offers(asked)}
        for kind, weight in _due(asked, sides, on, best=key == best):
            offer = found.get(kind)
            if offer is None:
                continue
            stage = replace(offer.stage, why=offer.why)
            if kind in ("ladder", "hardest"):
                # A bit alone may go ahead of all of it.
                far = UP_A_DAY if kind == "ladder" else 2 * UP_A_DAY
                stage = replace(stage, end=max(stage.start, min(stage.end, stage.start + far)))
            if kind == "bare":
                days = (on - max(one.on for one in sides.values())).days
                stage = replace(stage, why=f"Last clean {days} {'day' if days == 1 else 'days'} ago: does it hold?")
            yield _Wish(weight, stage, key)
        nearly = nearly and asked.known >= NEARLY * full
    if piece.combo.strip() and nearly:
        whole = Stage("whole", (COMBO,), None, tempo or read.settings.tempo, tempo or read.settings.tempo, 4)
        why = "Every part is clean at its tempo, or nearly: all of it, from the top."
        yield _Wish(55, replace(whole, sides="as written", rest=8, why=why), COMBO)


def _least(sides: dict[str, _Clean]) -> float:
    """The tempo at which every side is clean."""
    return min(one.tempo for one in sides.values())


def _due(asked: Asked, sides: dict[str, _Clean], on: date, *, best: bool) -> Iterator[tuple[StageKind, float]]:
    """Which kinds of stages a part is due for, and how much; the `best` known one warms up."""
    if best:
        yield "warm_up", 95
    if not sides:
        yield "count_only", 90
        yield "ladder", 85
        yield "hardest", 60
        return
    short = max(0.0, 1 - asked.known / asked.tempo)
    if asked.known < asked.tempo:
        yield "ladder", 70 + 30 * short
        yield "hardest", 68 + 30 * short
    yield "weaker_side", 75
    away = (on - max(one.on for one in sides.values())).days
    if asked.known >= asked.tempo and away >= _comes_again(asked):
        yield "bare", 60 + min(20, away)
    if asked.known >= NEARLY * asked.tempo:
        yield "join", 50


def _comes_again(asked: Asked) -> int:
    """After how many days a part that is clean comes again: the faster beyond its tempo, the later."""
    return 2 if asked.known < asked.tempo * 1.05 else 4


def _load(stages: Sequence[Planned], seconds: float) -> Load:
    """What some stages ask of feet and shins."""
    airborne = same = 0
    for one in stages:
        if one.stretch is None or one.stage.heard == "count_only":
            continue
        feet = [s for s in one.stretch.sounds if s.foot in ("left", "right") and s.heard]
        off = sum(s.kind in ("hop", "leap", "jump", "pickup") for s in one.stretch.sounds)
        again = sum(a.foot == b.foot for a, b in pairwise(feet))
        airborne += off * len(one.times)
        same += again * len(one.times)
    return Load(airborne, same, round(seconds / 60, 1))


def _reached(piece: BookPiece, known: _Known, day: Day) -> None:
    """Go on from a day as if all of it had been clean."""
    for one in day.stages:
        stage = one.stage
        if len(stage.parts) != 1 or stage.span is not None or stage.parts == (COMBO,) or stage.heard == "count_only":
            continue
        sides = known.setdefault(stage.parts[0], {})
        for rung in one.times:
            side = danced_side(piece, one, rung)
            before = sides.get(side)
            sides[side] = _Clean(max(rung.tempo, before.tempo if before else 0.0), day.on)


def drill_of(piece: BookPiece, day: Day, name: str, drill_id: str) -> Drill:
    """A day of practice as a drill."""
    return Drill(drill_id, piece.id, name, tuple(one.stage for one in day.stages))


def practice_data(days: Sequence[Day], piece: BookPiece) -> dict[str, object]:
    """The stable data of `firn drill --json`."""
    names = {part.id: part.name for part in piece.parts}
    stages = [
        {
            "day": day.on.isoformat(),
            "kind": one.stage.kind,
            "part": ", ".join(names.get(p, "combo") for p in one.stage.parts),
            "sounds": one.stage.sounds or None,
            "from_count": None if one.stage.span is None else one.stage.span[0] + 1,
            "tempo": one.stage.start,
            "to_tempo": one.stage.end,
            "by": one.stage.step,
            "side": one.stage.sides,
            "times": one.stage.times,
            "heard": one.stage.heard,
            "rest": one.stage.rest,
            "seconds": round(seconds, 1),
            "reason": one.stage.why,
        }
        for day in days
        for one, seconds in zip(day.stages, day.lengths, strict=True)
    ]
    told = [
        {
            "day": day.on.isoformat(),
            "rest": day.rests,
            "seconds": round(day.seconds, 1),
            "airborne": day.load.airborne,
            "same_foot": day.load.same_foot,
            "carried": list(day.carried),
        }
        for day in days
    ]
    return {"stages": stages, "days": told}
