"""Lines of hands and arms that go on over the parts of a combo."""

from collections.abc import Iterable, Iterator, Sequence
from fractions import Fraction
from functools import lru_cache
from math import ceil
from typing import NamedTuple

from msgspec.structs import replace

from firn.core.piece.build import build_part, part_from
from firn.core.piece.piece import Part, Piece
from firn.core.script.combo_item import Across
from firn.core.script.layers import Cue
from firn.core.script.places import Use
from firn.core.script.settings import Settings
from firn.core.steps.shelf import Shelf


class Over(NamedTuple):
    """A line of hands or arms that goes on over parts: what it says, as a part, and the place of its count 1."""

    across: Across
    said: Part
    at: Fraction


def over_fault(piece: Piece, across: Across) -> str:
    """Why a line of hands or arms cannot go over parts, in one sentence; "" where it can."""
    said = over_said(piece, across)
    if said.problems:
        return said.problems[0].message
    return "" if said.uses or said.layers.cues else "It says nothing that is done."


def over_said(piece: Piece, across: Across) -> Part:
    """What a line of hands or arms says, as a part."""
    shelf = piece.parts[0].script.shelf if piece.parts else None
    return _over_said(across.layer, across.text, piece.settings, shelf)


@lru_cache(maxsize=64)
def _over_said(layer: str, text: str, settings: Settings, shelf: Shelf | None) -> Part:
    return part_from(layer, f"{layer}: {text}", settings, shelf)


def with_over(part: Part, offset: Fraction, lines: Iterable[Over]) -> Part:
    """A part that is danced so many counts after the combo's count 1, with what lines of hands or arms have in it.
    Each is made once."""
    begin, end = part.first_count, part.first_count + part.counts
    for across, said, at in lines:
        shift = at - offset
        key = "over", f"{across.layer} {across.every} {shift % across.every if across.every else shift} {across.text}"
        made = part.ended.get(key)
        if made is None:
            uses = [
                replace(u, places=tuple(p + by for p in u.places))
                for u in said.uses
                for by in _again(u.places[0] + shift, across.every, begin, end, shift)
            ]
            cues = [
                replace(c, place=c.place + by)
                for c in said.layers.cues
                for by in _again(c.place + shift, across.every, begin, end, shift)
            ]
            made = part.ended[key] = _beside_steps(part, uses, cues)
        part = made
    return part


def _again(place: Fraction, every: int, begin: Fraction, end: Fraction, shift: Fraction) -> Iterator[Fraction]:
    """By how much what first comes on a place is moved, each time that it comes between two places."""
    if not every:
        if begin <= place < end:
            yield shift
        return
    times = ceil((begin - place) / every)
    while place + times * every < end:
        yield shift + times * every
        times += 1


def _beside_steps(part: Part, uses: Sequence[Use], cues: Sequence[Cue]) -> Part:
    """A part with words and cues beside its steps."""
    if not uses and not cues:
        return part
    layers = replace(part.script.layers, cues=(*part.script.layers.cues, *cues))
    if not uses:
        return replace(part, script=replace(part.script, layers=layers))
    script = replace(part.script, uses=(*part.script.uses, *uses), layers=layers, problems=())
    return build_part(script, part.settings, mends=False)
