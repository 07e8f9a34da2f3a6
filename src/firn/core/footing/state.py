"""Where the weight is and how each foot touches the floor, between two sounds."""

from typing import Literal, NamedTuple

from msgspec import Struct

Foot = Literal["L", "R"]
Weight = Literal["L", "R", "0", "<", ">", "="]
"""L or R: that foot alone. 0: in the air. Both feet: < the left lighter, > the right lighter, = even."""

Touch = Literal["o", "-", "t", "b", "h", "f", "F", "p", "q"]
"""A foot: o as the part opens, - up, t tip, b ball, h heel edge, f flat, F flat by the very last sound,
p picked up, q the first of two picked up."""

FEET: tuple[Foot, Foot] = ("L", "R")
BOTH_FEET = ("<", ">", "=")
NAMES = {"L": "left", "R": "right", "both": "both", "": ""}
"""What the foot of a sound is called."""
_WEIGHTS = {"L": "left", "R": "right", "0": "air", **dict.fromkeys(BOTH_FEET, "both")}


class State(NamedTuple):
    """The weight, the left and right foot, and which foot is A inside the word being danced."""

    weight: Weight
    left: Touch
    right: Touch
    a: Literal["L", "R", ""]

    def foot(self, foot: Foot) -> Touch:
        return self.left if foot == "L" else self.right

    @property
    def both(self) -> bool:
        return self.weight in BOTH_FEET

    def carries(self, foot: Foot) -> bool:
        """Whether a foot carries weight, alone or with the other."""
        return self.weight == foot or self.both


def weight_name(state: State) -> str:
    """left, right, both or air."""
    return _WEIGHTS[state.weight]


def other(foot: Foot) -> Foot:
    return "R" if foot == "L" else "L"


def lighter(foot: Foot) -> Weight:
    """Both feet down, `foot` the lighter one."""
    return "<" if foot == "L" else ">"


class Step(Struct, frozen=True):
    """One sound as the solver sees it.

    `role` and `takes` as on a card; `side` what the teacher wrote for this very sound ("L", "R", "both", "");
    `near`: within a count of the sound before; `first`: the first foot sound of its word.
    """

    kind: str
    role: str
    side: str = ""
    takes: str = ""
    first: bool = True
    near: bool = False
