"""The ladder: a part from tempo to tempo by steps, so many times on each side, with rests."""

import math
from collections.abc import Sequence
from typing import Literal

from msgspec import Struct
from msgspec.structs import replace

from firn.core.meter.tempo import FASTEST, SLOWEST
from firn.core.piece.piece import Part
from firn.core.timeline.timeline import Section, Timeline
from firn.errors import FirnError

MOST_RUNGS = 200
MOST_TIMES = 16

LadderSides = Literal["as written", "both sides"]


class LadderError(FirnError):
    """A ladder that cannot be climbed."""


class Ladder(Struct, frozen=True):
    """From `start` to `end` counts a minute by `step`, `times` a side at each, `rest` counts after each time."""

    start: float
    end: float
    step: float = 4
    times: int = 2
    sides: LadderSides = "both sides"
    rest: int = 4


class Rung(Struct, frozen=True):
    """One time through: at which tempo, on the other side or not, which time of how many there."""

    tempo: float
    swapped: bool
    time: int
    of: int
    end: float


def climbed(rungs: Sequence[Rung], written: Section, other: Section, *, rest: int) -> Timeline:
    """The timeline of a ladder: a section a rung, as written or on the other side, each with its rest."""
    return Timeline(
        tuple(
            replace(one, mixing=replace(one.mixing, tempo=rung.tempo, rest=rest), name=said(rung))
            for rung in rungs
            for one in (other if rung.swapped else written,)
        )
    )


def said(rung: Rung) -> str:
    """A rung in words: its side, which time of how many, its tempo and where the ladder leads."""
    side = "other side" if rung.swapped else "as written"
    return f"{side}, {rung.time} of {rung.of}    {rung.tempo:g} → {rung.end:g}"


def tempo_bounds(part: Part) -> tuple[float, float]:
    """The slowest and fastest tempo that a part's steps allow: the highest floor and lowest ceiling of its cards."""
    floors = [u.card.floor for u in part.uses if u.card.floor]
    ceilings = [u.card.ceiling for u in part.uses if u.card.ceiling]
    return float(max(floors, default=SLOWEST)), float(min(ceilings, default=FASTEST))


def checked(ladder: Ladder) -> Ladder:
    """A ladder that can be climbed; raises LadderError with one sentence for any other."""
    for name, tempo in (("begins", ladder.start), ("ends", ladder.end)):
        if not (math.isfinite(tempo) and SLOWEST <= tempo <= FASTEST):
            raise LadderError(f"A ladder {name} between {SLOWEST} and {FASTEST} counts a minute, not at {tempo:g}.")
    if not (math.isfinite(ladder.step) and ladder.step > 0):
        raise LadderError(f"The step of a ladder must be above 0, not {ladder.step:g}.")
    if not 1 <= ladder.times <= MOST_TIMES:
        raise LadderError(f"Between 1 and {MOST_TIMES} times on each side, not {ladder.times}.")
    if abs(ladder.end - ladder.start) / ladder.step > MOST_RUNGS:
        raise LadderError("The steps of this ladder are too small for its length.")
    return ladder


def rungs(ladder: Ladder, bounds: tuple[float, float] = (SLOWEST, FASTEST)) -> list[Rung]:
    """The rungs of a ladder, up or down, its last tempo always among them.

    Tempos outside `bounds` (a floor and a ceiling) are left out; where that leaves none, LadderError says so.
    """
    checked(ladder)
    floor, ceiling = bounds
    way = 1 if ladder.end >= ladder.start else -1
    tempos = []
    tempo = ladder.start
    while (ladder.end - tempo) * way > 1e-9:
        tempos.append(tempo)
        tempo += way * ladder.step
    tempos.append(ladder.end)
    kept = [t for t in tempos if floor <= t <= ceiling]
    if not kept:
        raise LadderError(f"These steps are danced between {floor:g} and {ceiling:g} counts a minute.")
    sides = (False, True) if ladder.sides == "both sides" else (False,)
    return [
        Rung(t, swapped, time + 1, ladder.times, kept[-1])
        for t in kept
        for swapped in sides
        for time in range(ladder.times)
    ]
