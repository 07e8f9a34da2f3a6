"""Where the dancer travels: forward, back, left and right, the net way and the room that it takes."""

import re
from collections import Counter
from collections.abc import Iterable, Iterator
from fractions import Fraction

from msgspec import Struct

from firn.core.pattern import late
from firn.core.piece.piece import Part
from firn.core.piece.unfold import Unfolded
from firn.core.reading.finding import Finding

WAYS = {"forward": (0, 1), "back": (0, -1), "left": (-1, 0), "right": (1, 0)}
"""Each way as (right, forward) of how the dancer stands."""

_MANY = {"two": 2, "three": 3, "four": 4, "five": 5, "six": 6, "seven": 7, "eight": 8}
_TRAVEL = late(
    rf"(?:\b({'|'.join(_MANY)})\s+)?(?:steps?\s+)?\b(forwards?|back(?:wards?)?|left|right)\b", re.IGNORECASE
)
_GOES = {"forward": "forward", "back": "back", "to the left": "left", "to the right": "right"}
"""Where a step goes that takes the dancer along."""


class Move(Struct, frozen=True):
    """One move along the floor: at which place of its part, which way of how the dancer stands, how many steps."""

    place: Fraction
    way: str
    steps: int


class Travelled(Struct, frozen=True):
    """Where some moves lead to, in steps from where they begin: net `right` and `forward` (left and back below 0);
    `room`: the farthest that they go on the way, each way."""

    right: Fraction = Fraction(0)
    forward: Fraction = Fraction(0)
    room: tuple[tuple[str, Fraction], ...] = ()

    @property
    def net(self) -> str:
        """The net way in words; "" for none."""
        said = [_far(self.forward, "forward", "back"), _far(self.right, "right", "left")]
        return " and ".join(filter(None, said))

    @property
    def needed(self) -> str:
        """The room in words; "" for none."""
        return " and ".join(f"{_figure(far)} {to}" for to, far in self.room if far)


def _far(by: Fraction, ahead: str, behind: str) -> str:
    return f"{_figure(abs(by))} {ahead if by > 0 else behind}" if by else ""


def _figure(far: Fraction) -> str:
    return f"{float(far):.1f}".removesuffix(".0")


def moves_of(part: Part) -> list[Move]:
    """What a part says of where it goes: in its line of moves, each once or as often as is said, and by where its
    steps are said to go."""
    moves = (c for c in part.layers.cues if c.layer == "moves")
    said = [(c.place, many, way) for c in moves for many, way in _TRAVEL.findall(c.text)]
    said += ((use.places[0], "", way) for use in part.uses if (way := _GOES.get(use.word.where)) and not use.layer)
    return [
        Move(place, way.casefold().removesuffix("s").replace("backward", "back"), _MANY.get(many.casefold(), 1))
        for place, many, way in sorted(said, key=lambda one: one[0])
    ]


def travelled(ways: Iterable[tuple[Fraction, Fraction]]) -> Travelled:
    """Where moves lead to, each as (right, forward) on the floor."""
    right = forward = Fraction(0)
    room: Counter[str] = Counter()
    for across, along in ways:
        right, forward = right + across, forward + along
        for to, far in (("forward", forward), ("back", -forward), ("right", right), ("left", -right)):
            room[to] = max(room[to], far)  # type: ignore[assignment]
    return Travelled(right, forward, tuple((to, Fraction(far)) for to, far in room.items()))


_QUARTERS = ((1, 0), (0, -1), (-1, 0), (0, 1))
"""Where the dancer's right is, as (right, forward) of the front, by quarters turned to the right."""


def turned_by(across: Fraction, along: Fraction, turned: Fraction) -> tuple[Fraction, Fraction]:
    """A way of how the dancer stands, as (right, forward) of the front, after so much of a turn to the right.

    Between quarters it is shared out evenly: half of it each way.
    """
    quarters = turned % 1 * 4
    low = int(quarters)
    if quarters != low:
        one, two = turned_by(across, along, Fraction(low, 4)), turned_by(across, along, Fraction(low + 1, 4))
        share = quarters - low
        return one[0] * (1 - share) + two[0] * share, one[1] * (1 - share) + two[1] * share
    right, forward = _QUARTERS[low % 4]
    return across * right + along * -forward, across * forward + along * right


def combo_travel(unfolded: Unfolded) -> Travelled:
    """Where a combo leads to over the floor, seen from the front; what it turns counts from where it turns."""
    return travelled(_walked(unfolded))


def _walked(unfolded: Unfolded) -> Iterator[tuple[Fraction, Fraction]]:
    turned = Fraction(0)
    for one in unfolded.passes:
        turns = [(s.place - one.offset, s.turn) for s in one.sounds if s.turn]
        for move in moves_of(one.part):
            across, along = WAYS[move.way]
            side = -1 if one.swapped else 1
            now = turned + sum((t for place, t in turns if place < move.place), Fraction(0))
            yield turned_by(Fraction(across * side * move.steps), Fraction(along * move.steps), now)
        turned += one.turn


def travel(part: Part) -> list[Finding]:
    """Where a part travels to by what its moves say, and the room that it takes on the way.

    Forward, back, left, right, seen from how the dancer stands.
    """
    moves = moves_of(part)
    if not moves:
        return []
    steps: Counter[str] = Counter()
    for move in moves:
        steps[move.way] += move.steps
    whole = travelled((Fraction(WAYS[m.way][0] * m.steps), Fraction(WAYS[m.way][1] * m.steps)) for m in moves)
    told = ", ".join(f"{way} {many}" for way, many in steps.items())
    where = f"{whole.net} of where it began" if whole.net else "where it began"
    return [Finding("travel", "ok", part.name, values={"told": told, "net": where, "room": whole.needed})]
