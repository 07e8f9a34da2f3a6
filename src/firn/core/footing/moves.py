"""What each kind of sound does to the feet: the ways on from a state, with their costs.

The rules are common practice of the trade, no source; docs/notation.md has them as a table.
"""

from functools import lru_cache
from typing import NamedTuple

from firn.core.footing.state import FEET, Foot, State, Step, Touch, Weight, lighter, other


class Way(NamedTuple):
    """One way to dance a sound: the state after it, its cost, and the foot ("L", "R", "both", "")."""

    after: State
    cost: int
    foot: str


NO_FOOT = {"click", "clap", "snap", "pat", "drum", "turn", "swivel", "sweep", "pivot"}
_LANDING = {"step": "b", "flat": "F", "heel_step": "h", "leap": "b"}
_FREE: dict[str, Touch] = {
    "touch": "b", "dig": "h", "toe_tip": "t", "stomp": "-", "brush": "-", "spank": "-", "scuff": "-",
    "kick": "-", "flick": "-", "lift": "-", "point": "t",
}  # fmt: skip
MOVERS = frozenset({*_LANDING, *_FREE})
"""Kinds that one foot does while the other stands."""


def _mover_cost(state: State, foot: Foot, lead: Foot) -> int:
    """From both feet: the lighter one moves for nothing, of two even ones rather the lead."""
    if not state.both:
        return 0
    if state.weight == "=":
        return 1 if foot == lead else 2
    return 0 if state.weight == lighter(foot) else 3


def _after(state: State, weight: Weight, foot: Foot, touch: Touch, rest: Touch | None = None) -> State:
    """The state with `foot` as `touch` and, if given, the other foot as `rest`."""
    still = rest or state.foot(other(foot))
    left, right = (touch, still) if foot == "L" else (still, touch)
    return State(weight, left, right, state.a)


def _settled(state: State) -> State:
    """A foot that came down flat before the last sound is flat, and can lift its heel again."""
    left: Touch = "f" if state.left == "F" else state.left
    right: Touch = "f" if state.right == "F" else state.right
    return State(state.weight, left, right, state.a)


@lru_cache(maxsize=100_000)
def ways(state: State, step: Step, lead: Foot) -> tuple[Way, ...]:
    """Every way on from a state; none where the sound cannot be danced from it."""
    if step.kind == "hold":
        return () if state.weight == "0" else (Way(state, 0, ""),)
    if step.kind in NO_FOOT:
        return (Way(state, 0, ""),)
    if step.kind == "hand_down":
        return (Way(_settled(state), 0, ""),)
    found: dict[State, Way] = {}
    for start in _words(state, step):
        for foot in _feet(start, step):
            for way in _both(start, step) if foot == "both" else _one(start, step, foot, lead):
                if way.after not in found or way.cost < found[way.after].cost:
                    found[way.after] = way
    return tuple(found.values())


def _words(state: State, step: Step) -> list[State]:
    """The states with A settled: the free foot where the word starts, either where both could be."""
    if not step.first and state.a:
        return [state]
    if step.side in FEET and step.role in ("A", "B"):
        marked: Foot = "L" if step.side == "L" else "R"
        return [state._replace(a=marked if step.role == "A" else other(marked))]
    if state.weight in FEET:
        return [state._replace(a=other("L" if state.weight == "L" else "R"))]
    return [state._replace(a=foot) for foot in FEET]


def _feet(state: State, step: Step) -> list[Foot | str]:
    """The feet that could make a sound by its role and the teacher's mark."""
    if step.side == "both" or step.role == "2":
        return ["both"]
    if step.side in FEET:
        return [step.side]
    a: Foot = "L" if state.a == "L" else "R"
    if step.role == "A":
        return [a]
    if step.role == "B":
        return [other(a)]
    if step.role == "T":
        toes_up: list[Foot | str] = [f for f in FEET if state.foot(f) == "h"]
        if toes_up:
            return toes_up
    if state.weight in FEET:
        return [state.weight]
    if step.kind == "land":
        # Down on what was picked up, in either order.
        return [f for f in FEET if state.foot(f) == "p"] or [*FEET]
    return [*FEET]


def _one(state: State, step: Step, foot: Foot | str, lead: Foot) -> list[Way]:
    x: Foot = "L" if foot == "L" else "R"
    y = other(x)
    kind = step.kind
    down = state if kind == "heel" and step.near and state.foot(x) == "F" else _settled(state)
    cost = _mover_cost(state, x, lead)
    if state.weight == "0" and kind not in ("land", "jump", *_LANDING):
        return []
    if kind in _LANDING:
        if state.weight == x:
            return []
        touch: Touch = "h" if kind == "heel_step" else "F" if kind == "flat" else "b"
        return [Way(_after(down, x, x, touch, "-" if kind == "leap" else None), cost, x)]
    if kind in _FREE:
        return [] if state.weight == x else [Way(_after(down, y, x, _FREE[kind]), cost, x)]
    if kind == "hop":
        if not state.carries(x):
            return []
        return [Way(_after(down, x, x, "b", "-"), 3 - cost if state.both else 0, x)]
    if kind in ("heel", "toe"):
        return _drop(down, step, x, cost)
    if kind in ("pickup", "land"):
        return _pickup(down, x, cost) if kind == "pickup" else _land(down, x)
    if kind == "shift":
        if state.weight == x or state.foot(x) in "-pq":
            return []
        return [Way(down._replace(weight=x), cost, x)]
    if kind == "chug":
        return [Way(_after(down, state.weight, x, "f"), cost, x)] if state.carries(x) else []
    if kind == "slide":
        touch = state.foot(x) if state.carries(x) else "f"
        return [Way(_after(down, state.weight, x, touch), cost, x)]
    if kind == "jump":
        return _both(state, step)
    raise ValueError(f"no rule for {kind}")


def _drop(state: State, step: Step, x: Foot, cost: int) -> list[Way]:
    """A heel or toe drop: the foot ends flat; where it did not carry it may take the weight."""
    ready: Touch = "b" if step.kind == "heel" else "h"
    touch = state.foot(x)
    if touch not in (ready, "o", "f"):
        return []
    again = 1 if touch == "f" else 0
    weight = state.weight
    if step.takes == "both":
        carrier: Foot = ("L" if weight == "L" else "R") if weight in FEET else x
        return [Way(_after(state, lighter(other(carrier)), x, "f"), again, x)]
    if state.carries(x):
        return [Way(_after(state, x if step.takes == "takes" else weight, x, "f"), again + cost, x)]
    found = []
    if step.takes != "takes":
        found.append(Way(_after(state, weight, x, "f"), again, x))
    if step.takes != "stays":
        found.append(Way(_after(state, x, x, "f"), again + (0 if step.takes else 2), x))
    return found


def _pickup(state: State, x: Foot, cost: int) -> list[Way]:
    y = other(x)
    if state.weight == x:
        return [Way(_after(state, "0", x, "p", "p" if state.foot(y) == "q" else None), 0, x)]
    if not state.both:
        return []
    return [Way(_after(state, y, x, "q"), cost, x), Way(_after(state, "0", x, "p", "-"), cost + 1, x)]


def _land(state: State, x: Foot) -> list[Way]:
    if state.weight == "0":
        return [Way(_after(state, x, x, "b"), 0 if state.foot(x) == "p" else 1, x)]
    if state.weight == other(x) and state.foot(x) in "pq":
        return [Way(_after(state, "=", x, "b"), 0, x)]
    return []


def _both(state: State, step: Step) -> list[Way]:
    """A sound of both feet; the foot that was free stays the lighter one."""
    kind, down = step.kind, _settled(state)
    free: Weight = lighter(other("L" if state.weight == "L" else "R")) if state.weight in FEET else "="
    if state.both:
        free = state.weight
    if kind in ("jump", "hop"):
        return [Way(State("=", "b", "b", state.a), 0, "both")]
    if kind in _LANDING or kind == "land":
        if kind == "land" and state.weight != "0":
            return []
        touch: Touch = "h" if kind == "heel_step" else "F" if kind == "flat" else "b"
        return [Way(State(free, touch, touch, state.a), 0, "both")]
    if state.weight == "0":
        return []
    from_one = 0 if state.both else 2
    if kind == "pickup":
        return [Way(State("0", "p", "p", state.a), 0, "both")] if state.both else []
    if kind in ("heel", "toe"):
        start = state if step.near else down
        ready = ("b", "o", "f") if kind == "heel" else ("h", "o", "f")
        if start.left not in ready or start.right not in ready:
            return []
        return [Way(State(free, "f", "f", state.a), from_one, "both")]
    if kind in ("chug", "slide"):
        return [Way(State(free, "f", "f", state.a), from_one, "both")]
    return []
