"""Lines that are danced again on the other side: each begins on the foot that this takes, written where the weight
would not bring it."""

from bisect import bisect_left
from collections.abc import Iterator, Sequence
from fractions import Fraction
from itertools import accumulate, compress, count, repeat
from operator import attrgetter, is_not, itemgetter
from typing import NamedTuple

from msgspec.structs import replace

from firn.core.footing.footing import feet_of
from firn.core.piece.built import LONG, Laying, laying
from firn.core.same import begins_alike
from firn.core.script.places import AT_ONCE, Use
from firn.core.steps.sides import ACROSS

REACH = 160
"""So many sounds after a line may say, by where the weight has to be, how it is danced: tried on 9,000 such lines in
parts put together at random, none of which was danced otherwise than with all that follows."""


class _Turned(NamedTuple):
    """A word that begins another side: its number, and which word gets which side, "" for none. It was judged of the
    part's first words, so many, up to a place."""

    number: int
    word: int
    side: str
    seen: int
    until: Fraction


class _Last(NamedTuple):
    uses: tuple[Use, ...]
    lead: str
    turned: tuple[_Turned, ...]


_last: tuple[_Last, ...] = ()
"""The last long ones, the newest first; replaced whole, since jobs build too."""

_KEPT: dict[tuple[int, str], tuple[Use, Use]] = {}
"""Words as they were last written: what is built on them knows them by their identity."""

_MOST_KEPT = 20_000


def sided(uses: tuple[Use, ...], lead: str) -> tuple[Use, ...]:
    """Words each with the side on which it is danced; the very same where none begins another side."""
    # Of nearly all it is the very same nothing, which is seen at once: fractions are slow to ask.
    later = map(is_not, map(attrgetter("across"), uses), repeat(AT_ONCE))
    numbers = [number for number in compress(count(), later) if uses[number].across]
    if not numbers:
        return uses
    turned = _known(uses, lead, numbers)
    if len(turned) < len(numbers):
        turned += _Turning(laying(_written(uses, turned, numbers)), uses, lead).judged(numbers[len(turned) :])
        if len(uses) >= LONG:
            _remember(_Last(uses, lead, tuple(turned)))
    return _written(uses, turned, numbers)


def _remember(one: _Last) -> None:
    global _last
    _last = (one, *_last[:3])


def _known(uses: tuple[Use, ...], lead: str, numbers: Sequence[int]) -> list[_Turned]:
    """What was judged of words that begin as these, and may be taken over."""
    if len(uses) < LONG:
        return []
    alike = [(begins_alike(one.uses, uses), one) for one in _last if one.lead == lead]
    same, known = max(alike, key=itemgetter(0), default=(0, None))
    # Only words with whatever was seen of them before the others.
    first = min((place for use in uses[same:] for place in use.places), default=None) if same else None
    return [] if known is None else list(_stands(known, same, first, numbers))


def _stands(one: _Last, same: int, first: Fraction | None, numbers: Sequence[int]) -> Iterator[_Turned]:
    """What was judged of words of which so many are the same, the others not before a place."""
    for turned, number in zip(one.turned, numbers, strict=False):
        if turned.number != number or turned.seen > same or (first is not None and first < turned.until):
            return
        yield turned


def _written(uses: tuple[Use, ...], turned: Sequence[_Turned], numbers: Sequence[int]) -> tuple[Use, ...]:
    """Words with what was judged of them."""
    found = list(uses)
    sides = {one.word: one.side for one in turned if one.side}
    if len(_KEPT) > _MOST_KEPT:
        _KEPT.clear()
    for number in {*sides, *numbers}:
        use, side = uses[number], sides.get(number, uses[number].side)
        kept = _KEPT.get((id(use), side))
        if kept is None or kept[0] is not use:
            kept = _KEPT[id(use), side] = use, replace(use, across=AT_ONCE, side=side)
        found[number] = kept[1]
    return tuple(found)


class _Turning:
    """Judges the words that begin another side one after another: each by how the part is danced up to it."""

    def __init__(self, laid: Laying, uses: tuple[Use, ...], lead: str) -> None:
        self._uses, self._lead = uses, lead
        self._laid, self._steps = laid.laid, list(laid.steps)
        self._places = [place for place, _, _ in laid.laid]
        self._seen = list(accumulate(map(itemgetter(1), laid.laid), max))
        self._sided = {number for number, use in enumerate(uses) if use.side}

    def judged(self, numbers: Sequence[int]) -> list[_Turned]:
        return [self._judge(number) for number in numbers]

    def _judge(self, number: int) -> _Turned:
        use = self._uses[number]
        begins = bisect_left(self._places, min(use.places))
        own = list(self._own(use, begins))
        ends = min(len(self._places), max(own, default=begins) + 1 + REACH)
        # What ends with the part may go on otherwise with what is written next.
        seen = self._seen[ends - 1] + 1 if ends < len(self._places) else len(self._uses) + 1
        until = self._places[ends - 1]
        feet = feet_of(self._steps[:ends], self._lead)
        at = next((at for at in own if feet[at] in ACROSS), None)
        if at is None:
            return _Turned(number, number, "", seen, until)
        place, word, _ = self._laid[at]
        side = self._wanted(use, feet, place)
        if not side or feet[at] == side or word in self._sided:
            return _Turned(number, word, "", seen, until)
        self._sided.add(word)
        self._write(word, side, at)
        return _Turned(number, word, side, seen, until)

    def _own(self, use: Use, begins: int) -> Iterator[int]:
        """The sounds of the line that a word begins, from it on.

        What was danced twice before it is danced again has the number of its second time, too.
        """
        last = begins
        for at in range(begins, len(self._laid)):
            one = self._uses[self._laid[at][1]]
            if one.line == use.line and one.copy >= use.copy:
                last = at
                yield at
            elif at - last > REACH:
                return

    def _wanted(self, use: Use, feet: Sequence[str], place: Fraction) -> str:
        """The foot on which a place is danced, by what it takes up; "" where that is on none."""
        before = place - use.across
        for at in range(bisect_left(self._places, before), len(feet)):
            if self._places[at] != before:
                return ""
            if feet[at] in ACROSS:
                return ACROSS[feet[at]] if use.mirrored else feet[at]
        return ""

    def _write(self, word: int, side: str, at: int) -> None:
        """Write the side of a word in the first of its steps."""
        first = (n for n in range(at, -1, -1) if self._laid[n][1] == word and self._steps[n].first)
        number = next(first, None)
        if number is not None:
            self._steps[number] = replace(self._steps[number], side=_SIDES[side])


_SIDES = {"left": "L", "right": "R"}
