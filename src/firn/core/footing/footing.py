"""Footing a part: every sound's foot and weight, what cannot be danced, and how it repeats."""

from collections.abc import Iterator, Sequence
from functools import lru_cache
from itertools import compress, repeat
from operator import ge
from typing import NamedTuple, TypeVar

from msgspec import Struct
from msgspec.structs import replace

from firn.core.footing.mends import REACH, Mend, changed, search
from firn.core.footing.solver import Layer, Path, again, forward, in_the_air, opening, trace
from firn.core.footing.state import FEET, NAMES, Foot, State, Step, other, weight_name
from firn.core.same import begins_alike
from firn.core.steps.sides import ACROSS
from firn.core.task import AT_ONCE, give_way

T = TypeVar("T")


class Fault(Struct, frozen=True):
    """A sound that cannot be danced: why (a code), with which foot, and the mends, best first."""

    index: int
    code: str
    foot: str
    mends: tuple[Mend, ...] = ()


class Footing(Struct, frozen=True):
    """The answer for a part.

    `feet`: left, right, both or "" for each sound; `weights`: left, right, both or air after it; `states`
    after it. `free`: the foot free at the end, or "either"; `again` as in `solver.again`.
    """

    feet: tuple[str, ...]
    weights: tuple[str, ...]
    states: tuple[State, ...]
    faults: tuple[Fault, ...]
    first: str
    free: str
    again: str
    end: State


def free_foot(state: State) -> str:
    """The foot that is free in a state: the one without weight, or either."""
    return ACROSS.get(weight_name(state), "either")


def _why(layer: Layer, step: Step) -> tuple[str, str]:
    """The code of a complaint, and the foot it speaks of, from the likeliest state before it."""
    state = min(layer, key=lambda s: (layer[s].cost, s))
    foot: str = step.side if step.side in FEET else ""
    if not foot:
        a = state.a if not step.first and state.a else other("L" if state.weight == "L" else "R")
        by_role: dict[str, str] = {"A": a, "B": other("L" if a == "L" else "R")}
        foot = by_role.get(step.role, state.weight)
    if state.weight == "0":
        return "in_the_air", NAMES.get(foot, "")
    x: Foot = "L" if foot == "L" else "R"
    if step.kind in ("heel", "toe"):
        return ("already_down" if state.foot(x) in "Ff" else "not_ready"), NAMES[x]
    if step.kind == "hop":
        return "not_carrying", NAMES[x]
    if step.kind in ("pickup", "chug"):
        return "not_carrying", NAMES[x]
    if step.kind == "land":
        return "not_picked_up", NAMES[x]
    if step.kind == "shift":
        return ("already_carries" if state.weight == x else "foot_up"), NAMES[x]
    return "carries", NAMES[x]


_LONG = 200
"""Of so many sounds a part is long: how it was danced is kept."""


class _OtherStart(NamedTuple):
    """How a part can be danced that starts on the other foot, as far as it was tried."""

    steps: Sequence[Step]
    lead: Foot
    layers: list[Layer]


_tried: _OtherStart | None = None
"""The last long one."""


def _other_start(steps: Sequence[Step], lead: Foot, fault: int) -> bool:
    """Whether starting on the other foot takes a part past its fault and as far as it is searched."""
    global _tried
    until = min(len(steps), fault + 17)
    steps, ends, known = steps[:until], until == len(steps), _tried
    layers = [opening(other(lead), steps)]
    if known is not None and known.lead == lead and known.layers[0] == layers[0]:
        layers = known.layers[: begins_alike(known.steps, steps) + 1]
    for step in steps[len(layers) - 1 :]:
        following = forward(layers[-1], step, other(lead))
        if not following:
            break
        layers.append(following)
    if until > _LONG:
        _tried = _OtherStart(steps, lead, layers)
    return len(layers) > until and not (ends and in_the_air(layers[-1]))


class _Mended(NamedTuple):
    """What was mended silently: of how many of the sounds it was judged, from which it may have changed what is
    danced, and how many faults had been told by then."""

    seen: int
    at: int
    told: int


class _LastDance(NamedTuple):
    """How a part was danced: what is written at its end changes little of it.

    `steps`: as they were asked for; `danced`, `original`: as they were mended, and which of them each is.
    """

    steps: Sequence[Step]
    lead: Foot
    danced: list[Step]
    original: list[int]
    layers: list[Layer]
    faults: list[Fault]
    mended: list[_Mended]
    path: Path

    def kept(self, same: int) -> tuple[int, int]:
        """Of a part of which so many sounds are the same: how many mends stand, and how many of its sounds as they
        were danced."""
        mends = next((n for n, m in enumerate(self.mended) if m.seen >= same), len(self.mended))
        later = (m.at for m in self.mended[mends:])
        # So many sounds that were put in stand before it.
        places = range(min(same, len(self.danced)), len(self.danced))
        beyond = next((at for at in places if self.original[at] >= same), len(self.danced))
        return mends, min((beyond, *later))


_danced: dict[bool, _LastDance] = {}
"""The last long one, with and without its mends."""


class _Dance:
    """The strict pass, mended silently at each fault, so that one fault gives one complaint.

    `before`: another dance, of which as much is taken over as begins alike. `asked`: the steps, `steps`: as they are
    danced, `original`: which of the others each is, -1 for one that was put in.
    """

    def __init__(self, steps: Sequence[Step], lead: Foot, wanted: bool, before: _LastDance | None = None) -> None:
        self.asked, self.steps, self.lead, self.wanted = steps, list(steps), lead, wanted
        self.original = list(range(len(steps)))
        self.layers: list[Layer] = [opening(lead, steps)]
        self.faults: list[Fault] = []
        self._told: set[int] = set()
        self.mended: list[_Mended] = []
        self.same = 0
        if before is not None and before.lead == lead and before.layers[0] == self.layers[0]:
            self._go_on_from(before, begins_alike(before.steps, steps))

    def _go_on_from(self, before: _LastDance, same: int) -> None:
        mends, self.same = before.kept(same)
        self.mended = before.mended[:mends]
        self.faults = before.faults[: self.mended[-1].told if self.mended else 0]
        self._told = {fault.index for fault in self.faults}
        self.layers = before.layers[: self.same + 1]
        original = before.original[: self.same]
        done = max(original, default=-1) + 1
        self.steps[:done] = before.danced[: self.same]
        self.original[:done] = original

    def dance(self) -> None:
        at = len(self.layers) - 1
        while True:
            while at < len(self.steps):
                if at % AT_ONCE == 0:
                    give_way()
                following = forward(self.layers[at], self.steps[at], self.lead)
                if not following:
                    break
                self.layers.append(following)
                at += 1
            if at == len(self.steps) and not in_the_air(self.layers[-1]):
                return
            if not self.steps:
                return
            at = self._mend(min(at, len(self.steps) - 1))

    def _mend(self, at: int) -> int:
        """Note the fault at a sound and go on as if it were mended; returns where to go on."""
        code, foot = _why(self.layers[at], self.steps[at])
        ended = len(self.layers) > len(self.steps)
        shown = at
        if code == "in_the_air" or ended:
            code = "in_the_air"
            shown = max((i for i in range(at + 1) if self.steps[i].kind == "pickup"), default=at)
        mends = tuple(search(self.layers, self.steps, at, self.lead))
        best = mends[0] if mends else Mend("left out", at, "drop", "", 60)
        if self.wanted and not self.faults and _other_start(self.steps, self.lead, at):
            mends = (*mends, Mend("lead", 0, "lead"))
        offered = tuple(replace(m, index=self.original[m.index]) for m in mends)
        index = self.original[shown]
        if index >= 0 and index not in self._told:
            self._told.add(index)
            self.faults.append(Fault(index, code, foot, offered if self.wanted else ()))
        # The sound after those that were searched, too: whether the part ends there matters.
        near = self.original[at : at + REACH + 2]
        seen = max(near) if len(near) == REACH + 2 else len(self.steps)
        self.mended.append(_Mended(seen, best.index, len(self.faults)))
        if ended and not mends:
            # Nothing brings it down: let it land after its end.
            self.steps.append(Step("land", "W"))
            self.original.append(-1)
            return len(self.steps) - 1
        return self._take(best)

    def _take(self, mend: Mend) -> int:
        tail = changed(self.steps, mend)
        number = self.original[mend.index]
        rest = self.original[mend.index + 1 :]
        added = len(tail) - len(rest)
        if added == 2:
            numbers = [number, -1] if mend.action == "insert" else [-1, number]
        else:
            numbers = [number]
        self.steps[mend.index :] = tail
        self.original[mend.index :] = numbers + rest
        del self.layers[mend.index + 1 :]
        self.same = min(self.same, mend.index)
        return mend.index


def _shown(danced: Sequence[str], steps: Sequence[Step], faults: Sequence[Fault]) -> tuple[str, ...]:
    """The feet that are shown: a sound that cannot be danced is on the foot that its complaint speaks of."""
    blamed = {f.index: f.foot for f in faults if f.foot}
    on = blamed | {number: foot for at in blamed for number, foot in _goes_on(steps, at, danced, blamed[at])}
    feet = list(danced)
    for number, foot in on.items():
        feet[number] = foot
    return tuple(feet)


def _goes_on(steps: Sequence[Step], at: int, danced: Sequence[str], foot: str) -> Iterator[tuple[int, str]]:
    """The other sounds of a word that was said on a foot that cannot dance its first, each with its foot."""
    if not steps[at].side or danced[at] == foot:
        return
    for number in range(at + 1, len(steps)):
        if steps[number].first:
            return
        if danced[number] in ACROSS:
            yield number, ACROSS[danced[number]]


def _dance(steps: Sequence[Step], lead: Foot, *, mends: bool) -> tuple[_Dance, Path]:
    """Dance some steps, built on the last long ones as far as they begin alike."""
    long = len(steps) > _LONG
    before = _danced.get(mends) if long else None
    dance = _Dance(steps, lead, mends, before)
    dance.dance()
    path = trace(dance.layers, before.path if before is not None else None, dance.same)
    if long:
        _danced[mends] = _LastDance(
            steps, lead, dance.steps, dance.original, dance.layers, dance.faults, dance.mended, path
        )
    return dance, path


def _own(dance: _Dance, of: tuple[T, ...]) -> tuple[T, ...]:
    """What is known of each sound that was danced, of those that were asked for."""
    return of if len(of) == len(dance.asked) else tuple(compress(of, map(ge, dance.original, repeat(0))))


def feet_of(steps: Sequence[Step], lead: str) -> tuple[str, ...]:
    """The feet alone of a part, as `foot` gives them."""
    dance, path = _dance(steps, "L" if lead == "left" else "R", mends=False)
    return _shown(_own(dance, path.names), steps, dance.faults) if dance.faults else path.names


@lru_cache(maxsize=512)
def foot(steps: tuple[Step, ...], lead: str, *, mends: bool = True) -> Footing:
    """Foot a part from its lead foot ("left" or "right").

    Strict first; at each fault a complaint with up to three mends, the best of them taken silently.
    Without `mends` they are not kept.
    """
    leading: Foot = "L" if lead == "left" else "R"
    dance, path = _dance(steps, leading, mends=mends)
    feet = _own(dance, path.names)
    weights, states = _own(dance, path.weights), _own(dance, path.states)
    first = next(filter(None, _own(dance, path.feet)), leading)
    if dance.faults:
        feet = _shown(feet, steps, dance.faults)
    return Footing(
        feet=feet,
        weights=weights,
        states=states,
        faults=tuple(dance.faults),
        first=NAMES[first],
        free=free_foot(path.end),
        again=again(path.end, dance.steps, first, leading, dance.layers),
        end=path.end,
    )
