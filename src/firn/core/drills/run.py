"""A drill as it runs: which time of which stage comes next, by how the last one went."""

from collections.abc import Sequence
from typing import Literal, NamedTuple

from firn.core.drills.ladder import Rung

How = Literal["clean", "slip", "lost", ""]
"""How a time went: clean, a slip in it, lost; "" where nobody said."""


class At(NamedTuple):
    """A time of a stage, both from 0."""

    stage: int
    number: int


Plan = Sequence[Sequence[Rung]]
"""The times of each stage, in order; a stage that cannot be danced has none."""


def first_from(plan: Plan, stage: int) -> At | None:
    """The first time of a stage, or of the next one that has any; None after the last."""
    return next((At(n, 0) for n in range(max(0, stage), len(plan)) if plan[n]), None)


def last_before(plan: Plan, stage: int) -> At | None:
    """The first time of the stage before one that has any; None before the first."""
    return next((At(n, 0) for n in range(min(stage, len(plan)) - 1, -1, -1) if plan[n]), None)


def following(plan: Plan, at: At, how: How = "") -> At | None:
    """What comes after a time, by how it went; None when all is danced.

    Clean, or where nothing is said, it goes on, and up when the tempo has been danced as often as it is to be. After
    a slip the same again. Lost, a tempo down, from its beginning; at the lowest that again.
    """
    times = plan[at.stage]
    if how == "slip":
        return at
    if how == "lost":
        here = _begins(times, at.number)
        return At(at.stage, _begins(times, here - 1) if here else 0)
    if at.number + 1 < len(times):
        return At(at.stage, at.number + 1)
    return first_from(plan, at.stage + 1)


def _begins(times: Sequence[Rung], number: int) -> int:
    """The first time at the tempo of one."""
    while number and times[number - 1].tempo == times[number].tempo:
        number -= 1
    return number


def left(plan: Plan, at: At) -> tuple[int, int]:
    """How many times are left in the stage, this one included, and how many stages after it."""
    return len(plan[at.stage]) - at.number, sum(bool(times) for times in plan[at.stage + 1 :])
