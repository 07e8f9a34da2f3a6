"""The least changes that make a part danceable again, near the sound where it stopped being so.

Prices are our own, found by trying on ordinary phrases: a lower one is a change that a teacher more often
means. Searched from 16 sounds before the fault to 16 after.
"""

from collections.abc import Iterator, Sequence
from functools import lru_cache
from typing import Literal, NamedTuple

from msgspec import Struct
from msgspec.structs import replace

from firn.core.footing.solver import Layer, Reached, forward, run
from firn.core.footing.state import FEET, Foot, State, Step

REACH = 16

MendWhere = Literal["before", "here", "rest", "left out", "lead"]
Action = Literal["becomes", "insert", "shift", "step", "swap", "drop", "lead"]

_BECOMES = {
    "flat": (("stomp", 20),),
    "step": (("touch", 20), ("hop", 23)),
    "leap": (("touch", 20), ("hop", 23)),
    "touch": (("step", 22),),
    "stomp": (("flat", 22),),
    "toe_tip": (("step", 24),),
    "heel": (("dig", 23),),
    "hop": (("step", 23),),
    "pickup": (("spank", 24),),
    "heel_step": (("dig", 20),),
    "dig": (("heel_step", 22),),
}


class Mend(Struct, frozen=True):
    """One change: at which sound, what to do, what it becomes, and where that stands from the fault."""

    where: MendWhere
    index: int
    action: Action
    becomes: str = ""
    price: int = 0


class _Tried(NamedTuple):
    reach: int
    mend: Mend
    cost: int

    @property
    def order(self) -> tuple[int, int, int, int]:
        return (-self.reach, self.mend.price, -self.mend.index, self.cost)


def changed(steps: Sequence[Step], mend: Mend) -> list[Step]:
    """The steps from `mend.index` on with the mend made; inserted steps stand before that sound."""
    here, rest = steps[mend.index], list(steps[mend.index + 1 :])
    if mend.action == "becomes":
        role = "W" if mend.becomes == "hop" else "A" if here.role in ("W", "T") else here.role
        return [replace(here, kind=mend.becomes, role=role, takes=""), *rest]
    if mend.action == "swap":
        return [replace(here, side={"L": "R", "R": "L"}[here.side]), *rest]
    if mend.action == "drop":
        return [replace(here, kind="turn", role="-", side=""), *rest]
    if mend.action == "insert":
        return [here, Step("land", "W"), *rest]
    return [Step(mend.action, "A"), here, *rest]


def _ideas(steps: Sequence[Step], fault: int) -> Iterator[Mend]:
    for index in range(fault, max(-1, fault - REACH - 1), -1):
        step = steps[index]
        where: MendWhere = "here" if index == fault else "before"
        for becomes, price in _BECOMES.get(step.kind, ()):
            yield Mend(where, index, "becomes", becomes, price)
        following = steps[index + 1] if index + 1 < len(steps) else None
        if step.kind == "flat" and following is not None and following.kind == "heel":
            yield Mend(where, index, "becomes", "step", 15)
        if step.kind == "pickup" and (following is None or following.kind not in ("land", "pickup")):
            yield Mend(where, index, "insert", "land", 21)
        if step.side in FEET:
            yield Mend(where, index, "swap", "", 30)
        if step.kind == "hold":
            yield Mend("rest", index, "shift", "", 26)
            yield Mend("rest", index, "step", "", 28)
    yield Mend("left out", fault, "drop", "", 60)


def search(layers: Sequence[Layer], steps: Sequence[Step], fault: int, lead: Foot) -> list[Mend]:
    """Up to three mends of a fault at `fault`, best first and one of a kind.

    `layers[i]` is what is left before sound i. Those that reach furthest come first, then the cheaper, the
    nearer, the less awkward. The same fault within the same sounds is searched once: it is met again at each key.
    """
    start, until = max(0, fault - REACH), min(len(steps), fault + REACH + 1)
    opens = layers[start]
    least = min(reached.cost for reached in opens.values())
    ways = frozenset((state, reached.cost - least) for state, reached in opens.items())
    found = _search(ways, tuple(steps[start:until]), fault - start, lead, until == len(steps))
    return [replace(mend, index=start + mend.index) for mend in found]


@lru_cache(maxsize=2_000)
def _search(
    opens: frozenset[tuple[State, int]], steps: tuple[Step, ...], fault: int, lead: Foot, at_end: bool
) -> tuple[Mend, ...]:
    """The mends of a fault in a stretch of sounds, which opens in some states, each at its cost."""
    layers: list[Layer] = [{state: Reached(cost, None, "") for state, cost in opens}]
    for step in steps[:fault]:
        layers.append(forward(layers[-1], step, lead))
    tried: list[_Tried] = []
    for mend in _ideas(steps, fault):
        future = changed(steps, mend)
        extra = len(future) - (len(steps) - mend.index)
        danced, last = run(layers[mend.index], future, lead, ends=at_end)
        reach = mend.index + danced - extra
        if reach > fault:
            tried.append(_Tried(reach, mend, min(r.cost for r in last.values())))
    tried.sort(key=lambda t: t.order)
    best: list[Mend] = []
    for attempt in tried:
        far = attempt.reach >= tried[0].reach
        if far and all(attempt.mend.where != m.where for m in best):
            best.append(attempt.mend)
    return tuple(best[:3])
