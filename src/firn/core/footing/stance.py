"""How the feet may stand between two lines, up to the mirror image, and what it takes to dance on from there."""

from collections.abc import Sequence
from typing import NamedTuple

from firn.core.footing.solver import Layer, Reached, forward, mirrored, trace
from firn.core.footing.state import State, Step

Stance = tuple[tuple[State, int], ...]
"""States that the feet may be in, each with what it costs more than the cheapest; of two mirror images one."""

OPENING: Stance = ((State("L", "o", "o", ""), 0),)
"""As a part opens: the weight on one foot."""

COSTLIEST = 12
"""What costs so much more than another is no longer looked at."""


def stance_of(layer: Layer) -> Stance:
    """What is left of a layer once it does not matter how it was come to, nor on which side."""
    least = min(reached.cost for reached in layer.values())
    costs: dict[State, int] = {}
    for state, reached in layer.items():
        # Between two words no foot is A.
        state, cost = state._replace(a=""), reached.cost - least
        if cost <= COSTLIEST and cost < costs.get(state, COSTLIEST + 1):
            costs[state] = cost
    one = tuple(sorted(costs.items()))
    other = tuple(sorted((mirrored(state), cost) for state, cost in costs.items()))
    return min(one, other)


class Trial(NamedTuple):
    """Steps danced from a stance: the foot of each (of the ways to mirror them one), how many of them cannot be
    danced, what the awkward ones cost, and the stance after them."""

    feet: tuple[str, ...]
    faults: int
    cost: int
    after: Stance


def tried(stance: Stance, steps: Sequence[Step]) -> Trial:
    """Dance some steps from a stance; what cannot be danced is passed over.

    Where a foot is named, the side that the stance stands for is that on which it can be danced.
    """
    start: Layer = {state: Reached(cost, None, "") for state, cost in stance}
    if any(step.side in ("L", "R") for step in steps):
        for state, cost in stance:
            start.setdefault(mirrored(state), Reached(cost, None, ""))
    layers, faults = [start], 0
    feet: dict[int, str] = {}
    danced: list[int] = []
    for number, step in enumerate(steps):
        following = forward(layers[-1], step, "R")
        if following:
            layers.append(following)
            danced.append(number)
        else:
            faults += 1
    path = trace(layers)
    feet.update(zip(danced, path.feet, strict=True))
    cost = min(reached.cost for reached in layers[-1].values())
    return Trial(tuple(feet.get(n, "?") for n in range(len(steps))), faults, cost, stance_of(layers[-1]))
