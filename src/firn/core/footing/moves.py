"""What each kind of sound does to the feet: the ways on from a state, with their costs.

The rules are common practice of the trade, no source; docs/notation.md has them as a table.
"""

from collections.abc import Callable
from functools import lru_cache
from typing import NamedTuple

from firn.core.footing.state import FEET, Foot, State, Step, Touch, Weight, lighter, other


class Way(NamedTuple):
    """One way to dance a sound: the state after it, its cost, and the foot ("L", "R", "both", "")."""

    after: State
    cost: int
    foot: str


NO_FOOT = {"click", "clap", "snap", "pat", "drum", "sung", "turn", "swivel", "sweep", "pivot", "squat"}
_LANDING: dict[str, Touch] = {"step": "b", "flat": "F", "heel_step": "h", "leap": "b"}
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
    if step.kind == "sweep":
        leg = _leg(state, step, lead)
        return (Way(state._replace(a=leg), 0, leg),)
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


def _leg(state: State, step: Step, lead: Foot) -> Foot:
    """The leg that sweeps: the one that was said, or that is free; the hands may carry."""
    if step.side in FEET:
        return "L" if step.side == "L" else "R"
    return other("L" if state.weight == "L" else "R") if state.weight in FEET else lead


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
    if step.kind == "jump":
        # Onto both, the foot that is said, or that of a jump on one.
        if step.side in FEET:
            return [step.side]
        return [state.a] if step.role == "A" and step.side != "both" else ["both"]
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


class _Try(NamedTuple):
    """A sound tried with a foot: the state before it, the same with what came down before settled, and what it costs
    to move that foot."""

    before: State
    down: State
    step: Step
    foot: Foot
    cost: int

    def to(self, weight: Weight, touch: Touch, rest: Touch | None = None, *, cost: int | None = None) -> Way:
        """The way that leaves the foot as `touch` and, if given, the other as `rest`."""
        return Way(_after(self.down, weight, self.foot, touch, rest), self.cost if cost is None else cost, self.foot)


def _one(state: State, step: Step, foot: Foot | str, lead: Foot) -> list[Way]:
    """A sound of one foot."""
    rule = _RULES.get(step.kind)
    if rule is None:
        raise ValueError(f"no rule for {step.kind}")
    if state.weight == "0" and step.kind not in _FROM_THE_AIR:
        return []
    x: Foot = "L" if foot == "L" else "R"
    down = state if step.kind == "heel" and step.near and state.foot(x) == "F" else _settled(state)
    return rule(_Try(state, down, step, x, _mover_cost(state, x, lead)))


def _on_to(at: _Try) -> list[Way]:
    """A step of any kind: the foot that does not carry alone takes the weight."""
    rest: Touch | None = "-" if at.step.kind == "leap" else None
    return [] if at.before.weight == at.foot else [at.to(at.foot, _LANDING[at.step.kind], rest)]


def _jump(at: _Try) -> list[Way]:
    """From one foot or both down on one."""
    return [at.to(at.foot, "b", "-", cost=0)]


def _free(at: _Try) -> list[Way]:
    """What a foot does while the other stands."""
    return [] if at.before.weight == at.foot else [at.to(other(at.foot), _FREE[at.step.kind])]


def _hop(at: _Try) -> list[Way]:
    """On the foot that carries; from both rather on the heavier one."""
    if not at.before.carries(at.foot):
        return []
    return [at.to(at.foot, "b", "-", cost=3 - at.cost if at.before.both else 0)]


def _drop(at: _Try) -> list[Way]:
    """A heel or toe drop: the foot ends flat; where it did not carry it may take the weight."""
    state, x, takes = at.down, at.foot, at.step.takes
    touch, weight = state.foot(x), state.weight
    if touch not in ("b" if at.step.kind == "heel" else "h", "o", "f"):
        return []
    again = 1 if touch == "f" else 0
    if takes == "both":
        carrier: Foot = ("L" if weight == "L" else "R") if weight in FEET else x
        return [at.to(lighter(other(carrier)), "f", cost=again)]
    if state.carries(x):
        return [at.to(x if takes == "takes" else weight, "f", cost=again + at.cost)]
    found = []
    if takes != "takes":
        found.append(at.to(weight, "f", cost=again))
    if takes != "stays":
        found.append(at.to(x, "f", cost=again + (0 if takes else 2)))
    return found


def _pickup(at: _Try) -> list[Way]:
    """The foot that carries leaves the floor; of both one, with the other or before it."""
    state, x = at.down, at.foot
    y = other(x)
    if state.weight == x:
        return [at.to("0", "p", "p" if state.foot(y) == "q" else None, cost=0)]
    if not state.both:
        return []
    return [at.to(y, "q"), at.to("0", "p", "-", cost=at.cost + 1)]


def _land(at: _Try) -> list[Way]:
    """Down from the air, rather on what was picked up; or beside the foot that has landed."""
    state, x = at.down, at.foot
    if state.weight == "0":
        return [at.to(x, "b", cost=0 if state.foot(x) == "p" else 1)]
    return [at.to("=", "b", cost=0)] if state.weight == other(x) and state.foot(x) in "pq" else []


def _shift(at: _Try) -> list[Way]:
    """The weight on to a foot that is down, in silence."""
    if at.before.weight == at.foot or at.before.foot(at.foot) in "-pq":
        return []
    return [Way(at.down._replace(weight=at.foot), at.cost, at.foot)]


def _chug(at: _Try) -> list[Way]:
    """On a foot that carries, which ends flat."""
    return [at.to(at.down.weight, "f")] if at.before.carries(at.foot) else []


def _slide(at: _Try) -> list[Way]:
    """A foot that carries stays as it is; one that does not comes down flat."""
    return [at.to(at.down.weight, at.before.foot(at.foot) if at.before.carries(at.foot) else "f")]


_RULES: dict[str, Callable[[_Try], list[Way]]] = {
    **dict.fromkeys(_LANDING, _on_to), **dict.fromkeys(_FREE, _free), "hop": _hop, "heel": _drop, "toe": _drop,
    "pickup": _pickup, "land": _land, "shift": _shift, "chug": _chug, "slide": _slide,
    "jump": _jump,
}  # fmt: skip
"""What each kind of sound asks of one foot, and does to both."""

_FROM_THE_AIR = frozenset({*_LANDING, "land", "jump"})
"""Kinds that come down."""


def _both(state: State, step: Step) -> list[Way]:
    """A sound of both feet; the foot that was free stays the lighter one."""
    kind, down = step.kind, _settled(state)
    free: Weight = state.weight
    if state.weight in FEET:
        free = lighter(other("L" if state.weight == "L" else "R"))
    elif state.weight == "0":
        free = "="
    from_one = 0 if state.both else 2
    if kind in ("jump", "hop"):
        return [Way(State("=", "b", "b", state.a), 0, "both")]
    if kind in _LANDING:
        return [Way(State(free, _LANDING[kind], _LANDING[kind], state.a), 0, "both")]
    if kind == "land":
        return [Way(State(free, "b", "b", state.a), 0, "both")] if state.weight == "0" else []
    if kind == "pickup":
        return [Way(State("0", "p", "p", state.a), 0, "both")] if state.both else []
    if state.weight == "0":
        return []
    flat = [Way(State(free, "f", "f", state.a), from_one, "both")]
    if kind in ("chug", "slide"):
        return flat
    ready = {"heel": "bof", "toe": "hof"}.get(kind, "")
    start = state if step.near else down
    return flat if start.left in ready and start.right in ready and ready else []
