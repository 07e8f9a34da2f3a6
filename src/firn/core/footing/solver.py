"""Which foot makes each sound: all the ways a part can be danced, and where none is left."""

from collections.abc import Sequence
from typing import NamedTuple

from msgspec import Struct

from firn.core.footing.moves import NO_FOOT, ways
from firn.core.footing.state import FEET, NAMES, Foot, State, Step, other, weight_name


class Reached(NamedTuple):
    """The cheapest way into a state: its cost so far, the state before, and the foot that made the sound."""

    cost: int
    before: State | None
    foot: str


PASSED_OVER = NO_FOOT | {"hold", "hand_down"}
"""Kinds that say nothing of the feet."""

Layer = dict[State, Reached]


def opening(lead: Foot, steps: Sequence[Step]) -> Layer:
    """The states a part may open in: weight opposite the lead, unless the first word's foot is written."""
    first = next((s for s in steps if s.kind not in PASSED_OVER), None)
    starts: list[Foot] = [other(lead)]
    if first is not None and first.side in FEET:
        starts.append(lead)
    return {State(weight, "o", "o", ""): Reached(0, None, "") for weight in starts}


def forward(layer: Layer, step: Step, lead: Foot) -> Layer:
    """One sound further; empty where no way is left."""
    after: Layer = {}
    for state, reached in layer.items():
        for way in ways(state, step, lead):
            cost = reached.cost + way.cost
            known = after.get(way.after)
            if known is None or cost < known.cost:
                after[way.after] = Reached(cost, state, way.foot)
    return after


def in_the_air(layer: Layer) -> bool:
    """Whether no foot carries, in whichever way it was danced."""
    return all(state.weight == "0" for state in layer)


def run(layer: Layer, steps: Sequence[Step], lead: Foot, *, ends: bool) -> tuple[int, Layer]:
    """How many steps can be danced from a layer, and the last layer; `ends`: it may not end in the air."""
    for done, step in enumerate(steps):
        following = forward(layer, step, lead)
        if not following:
            return done, layer
        layer = following
    if ends and in_the_air(layer):
        return max(0, len(steps) - 1), layer
    return len(steps), layer


class Path(Struct, frozen=True):
    """A danced path: the foot of each sound, its name, the weight after it and the state; `end` the last state."""

    feet: tuple[str, ...]
    names: tuple[str, ...]
    weights: tuple[str, ...]
    states: tuple[State, ...]
    end: State


def trace(layers: Sequence[Layer], known: Path | None = None, same: int = 0) -> Path:
    """The cheapest path through the layers, the first of them the opening.

    `known`: the path through layers of which the first `same` after the opening are these very ones; where this one
    comes upon it there, it goes on as it does.
    """
    last = layers[-1]
    grounded = {s: r for s, r in last.items() if s.weight != "0"} or last
    state: State = min(grounded, key=lambda s: (grounded[s].cost, s))
    end = state
    feet: list[str] = []
    states: list[State] = []
    for at in range(len(layers) - 2, -1, -1):
        if known is not None and at < same and known.states[at] == state:
            return _joined(known, at + 1, feet[::-1], states[::-1], end)
        reached = layers[at + 1][state]
        feet.append(reached.foot)
        states.append(state)
        assert reached.before is not None
        state = reached.before
    return _joined(Path((), (), (), (), end), 0, feet[::-1], states[::-1], end)


def _joined(known: Path, same: int, feet: Sequence[str], states: Sequence[State], end: State) -> Path:
    """A path that begins as another."""
    return Path(
        (*known.feet[:same], *feet),
        (*known.names[:same], *(NAMES[foot] for foot in feet)),
        (*known.weights[:same], *(weight_name(state) for state in states)),
        (*known.states[:same], *states),
        end,
    )


def again(end: State, steps: Sequence[Step], first: str, lead: Foot, layers: Sequence[Layer]) -> str:
    """How a part repeats from where it ends: "same", "other", "either" or "neither" side.

    `first` is the foot of its first foot sound. Danced again with that foot, and with the other and every
    written foot swapped. `layers`: how it was danced the first time.
    """
    can = []
    for swap in (False, True):
        begins = _swapped(first) if swap else first
        can.append(_dances(end, steps, begins, layers, swap=swap, lead=lead))
    return {(True, True): "either", (True, False): "same", (False, True): "other"}.get((can[0], can[1]), "neither")


def _swapped(foot: str) -> str:
    return {"L": "R", "R": "L"}.get(foot, foot)


_MIRRORED = {"L": "R", "R": "L", "<": ">", ">": "<"}


def mirrored(state: State) -> State:
    """The same on the other side."""
    weight, a = _MIRRORED.get(state.weight, state.weight), _MIRRORED.get(state.a, state.a)
    return State(weight, state.right, state.left, a)  # type: ignore[arg-type]


def _dances(
    end: State, steps: Sequence[Step], begins: str, layers: Sequence[Layer], *, swap: bool, lead: Foot
) -> bool:
    layer: Layer = {end._replace(a=""): Reached(0, None, "")}
    fresh = True
    for number, step in enumerate(steps, start=1):
        side = _swapped(step.side) if swap else step.side
        turned = Step(step.kind, step.role, side, step.takes, step.first, step.near and not fresh)
        following = forward(layer, turned, lead)
        if fresh and (feet := {r.foot for r in following.values()} - {""}):
            if begins in FEET and feet - {"both"}:
                following = {s: r for s, r in following.items() if r.foot == begins}
            fresh = False
        if not following:
            return False
        layer = following
        if not fresh and len(layer) == len(layers[number]):
            known = {mirrored(state) for state in layers[number]} if swap else layers[number].keys()
            if layer.keys() == known:
                # From here on it goes as it went, and it went to its end.
                layer = layers[-1]
                break
    return any(state.weight != "0" for state in layer)
