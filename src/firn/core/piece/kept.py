"""Older texts keep their meaning: lines that would now be read otherwise are written so that nothing is open."""

from collections.abc import Iterator, Sequence
from fractions import Fraction

from msgspec import Struct
from msgspec.structs import replace

from firn.core.piece.build import build_part
from firn.core.piece.piece import Part
from firn.core.script.items import Word
from firn.core.script.places import Use, lasts
from firn.core.script.reader import read_part
from firn.core.script.said import card_said
from firn.core.script.settings import Settings
from firn.core.script.writer import rewritten, same_uses
from firn.core.steps.shelf import Shelf

MOST_FEET = 24
"""Feet that are written, at most, so that a part keeps those that it had."""


class Kept(Struct, frozen=True):
    """A text that means what it meant: how many of its lines were written anew; `whole` unless something of it could
    not be kept."""

    text: str
    lines: int = 0
    whole: bool = True


def kept(name: str, text: str, settings: Settings, shelf: Shelf | None = None) -> Kept:
    """A part's text of before, so that it still means what it meant; what was not understood then is left."""
    old = build_part(read_part(name, text, settings, shelf, before=True), settings)
    return kept_as(old, name, text, settings, shelf)


def kept_as(old: Part, name: str, text: str, settings: Settings, shelf: Shelf | None = None) -> Kept:
    """A part's text so that it means what `old` does, wherever that was read."""
    new = build_part(read_part(name, text, settings, shelf), settings)
    wrong = {p.line for p in old.problems}
    if _danced(old, wrong) == _danced(new, wrong):
        return Kept(text)
    uses = list(_meant(old, new, wrong))
    made: str | None = None
    for _ in range(MOST_FEET):
        made = rewritten(new.script, uses, new.settings)
        if made is None:
            return Kept(text, whole=False)
        now = build_part(read_part(name, made, settings, shelf), settings)
        other = _other_foot(old, now, wrong)
        if other is None:
            break
        line, number, side = other
        at = [i for i, use in enumerate(uses) if use.line == line][number]
        if uses[at].side:
            break
        uses[at] = replace(uses[at], side=side)
    assert made is not None
    rows = zip(text.split("\n"), made.split("\n"), strict=False)
    whole = _danced(old, wrong) == _danced(build_part(read_part(name, made, settings, shelf), settings), wrong)
    return Kept(made, sum(one != other for one, other in rows), whole)


def _danced(part: Part, wrong: set[int]) -> list[tuple[Fraction, str, str]]:
    """What is danced in the lines that were understood: place, kind, and the foot where it makes a sound."""
    return [(s.place, s.kind, s.foot) for s in part.sounds if part.uses[s.use].line not in wrong and s.kind != "hold"]


def _meant(old: Part, new: Part, wrong: set[int]) -> Iterator[Use]:
    """The words of the new reading where they are the same or were not understood before, else the old ones."""
    lines = sorted({u.line for u in (*old.uses, *new.uses)})
    for line in lines:
        theirs = [u for u in old.uses if u.line == line]
        ours = [u for u in new.uses if u.line == line]
        if line in wrong or same_uses(theirs, ours):
            yield from ours
        else:
            named = (_named_here(use, new) for use in theirs)
            yield from (one for use in named for one in _without_length(use, old.script.shelf))


def _named_here(use: Use, new: Part) -> Use:
    """A word called by its card's own name where what it was called means something else, or nothing."""
    card, _ = card_said(new.script.shelf, use.word.text, new.settings.tradition)
    if card is use.card or use.card.name == use.word.text:
        return use
    return replace(use, word=replace(use.word, text=use.card.name))


def _without_length(use: Use, shelf: Shelf) -> Iterator[Use]:
    """A word whose sound was written to last as itself and a hold: a range is now a sound on each count."""
    long = use.lengths[-1]
    if lasts(use.card) or long <= 1:
        yield use
        return
    yield replace(use, lengths=tuple(Fraction(0) for _ in use.lengths))
    hold = shelf.plain.called_so("hold", "")
    assert hold is not None
    last = use.places[-1]
    yield Use(hold, Word("hold", hold, 0, 0), use.line, (Fraction(last // 1 + 1),), (long - 1,), layer=use.layer)


def _other_foot(old: Part, new: Part, wrong: set[int]) -> tuple[int, int, str] | None:
    """The first word that is on another foot than it was: its line, which word there, and the foot it was on."""
    ours = [s for s in new.sounds if new.uses[s.use].line not in wrong and s.kind != "hold"]
    theirs = [s for s in old.sounds if old.uses[s.use].line not in wrong and s.kind != "hold"]
    for one, other in zip(theirs, ours, strict=False):
        if one.foot != other.foot and one.foot in ("left", "right"):
            use = new.uses[other.use]
            row: Sequence[Use] = [u for u in new.uses if u.line == use.line]
            return use.line, next(i for i, u in enumerate(row) if u is use), one.foot
    return None
