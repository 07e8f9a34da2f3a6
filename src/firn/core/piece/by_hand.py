"""A part changed on its strip, sound by sound; the script becomes what a teacher would have typed.

Only the text of the word that is touched changes, where that reads back as it was meant; else the part is written
anew.
"""

from collections.abc import Iterator, Sequence
from fractions import Fraction
from itertools import product

from msgspec import Struct
from msgspec.structs import replace

from firn.core.piece.build import build_part, part_from
from firn.core.piece.piece import Part
from firn.core.piece.sound import Sound
from firn.core.script.changes import Change, changed_text, counts_column
from firn.core.script.counts import count_text
from firn.core.script.items import Word
from firn.core.script.places import Use
from firn.core.script.reader import PartScript, read_part
from firn.core.script.writer import in_writing_order, lines_changed, rewritten, word_text, write_part
from firn.core.steps.card import Card
from firn.core.steps.kinds import WITH_WEIGHT, WITHOUT_WEIGHT, kind_said
from firn.core.steps.sides import ACROSS
from firn.errors import FirnError

MOST_LEVEL = 1

Feet = dict[tuple[Fraction, int], str]
"""The foot that is meant at a place, the which-th sound there."""


class HandError(FirnError):
    """A change on the strip that no script says."""


class Drawn(Struct, frozen=True):
    """A part's text after a change on its strip, the sound that is stood on then, and the last that is picked."""

    text: str
    index: int | None
    last: int | None = None


def moved(part: Part, index: int, by: Fraction) -> Drawn:
    """One sound earlier or later, the others of its word where they are."""
    uses, at = _apart(part, index)
    use = uses[at]
    place = use.places[0] + by
    if any(place in u.places for n, u in enumerate(uses) if n != at and u.layer == use.layer):
        raise HandError(f"There is a sound on {part.settings.counting.name(place)} already.")
    uses[at] = replace(use, places=(place,))
    return _drawn(part, index, uses, uses[at], free=True)


def other_foot(part: Part, index: int) -> Drawn:
    """One sound on the other foot; those after it follow."""
    sound = part.sounds[index]
    if sound.foot not in ACROSS:
        raise HandError("No single foot dances this.")
    uses, at = _apart(part, index)
    uses[at] = replace(uses[at], side=ACROSS[sound.foot])
    return _drawn(part, index, uses, uses[at], free=True)


def of_kind(part: Part, index: int, name: str) -> Drawn:
    """Another sound in one's place, by the name of its card."""
    uses, at = _apart(part, index)
    card = _card(part, name)
    # A hold lasts; a sound is over at once.
    length = max(Fraction(1), uses[at].lengths[0]) if card.name == "hold" else Fraction(0)
    word = replace(uses[at].word, card=card, text=card.name, level=0)
    uses[at] = replace(uses[at], card=card, word=word, lengths=(length,))
    return _drawn(part, index, uses, uses[at], free=True)


def weighted(part: Part, index: int) -> Drawn:
    """One sound with weight that had none, or without that had it: a step for a touch, a stomp for a stamp."""
    sound = part.sounds[index]
    other = (WITHOUT_WEIGHT | WITH_WEIGHT).get(sound.kind)
    if other is None:
        raise HandError(f"Whether a {kind_said(sound.kind)} takes weight, the sounds after it say.")
    return of_kind(part, index, kind_said(other))


def leaned(part: Part, index: int, level: int) -> Drawn:
    """One sound leaned on (1), softened (-1) or as usual (0)."""
    uses, at = _apart(part, index)
    uses[at] = replace(uses[at], word=replace(uses[at].word, level=level))
    return _drawn(part, index, uses, uses[at])


def left_out(part: Part, index: int) -> Drawn:
    """Without one sound; on a whole count a hold stands in its place, so that the others keep theirs."""
    uses, at = _apart(part, index)
    use = uses[at]
    place = use.places[0]
    alone = not use.layer and not any(place in u.places for n, u in enumerate(uses) if n != at and not u.layer)
    if place.denominator == 1 and alone and use.card.name != "hold":
        hold = _card(part, "hold")
        word = replace(use.word, card=hold, text="hold", level=0)
        uses[at] = replace(use, card=hold, word=word, places=(place,), lengths=(Fraction(1),), side="")
        return _drawn(part, index, uses, uses[at], free=True)
    del uses[at]
    return _drawn(part, index, uses, None, free=True)


def put_in(part: Part, place: Fraction, name: str, *, layer: str = "") -> Drawn:
    """One more sound, by the name of its card, in a place of its own; in a layer of hands if one is named."""
    own = [u for u in part.uses if u.layer == layer]
    if any(place in u.places and u.card.name != "hold" for u in own):
        raise HandError(f"There is a sound on {part.settings.counting.name(place)} already.")
    card = _card(part, name)
    before = [u for u in own if u.places[0] <= place]
    like = before[-1] if before else own[0] if own else None
    use = Use(
        card, Word(card.name, card, 0, 0), like.line if like else 0, (place,), (Fraction(0),),
        layer=layer, voiced=like.voiced if like else False,
    )  # fmt: skip
    gone = [u for u in own if u.card.name == "hold" and place in u.places and u.lengths[0] <= 1]
    uses = [u for u in part.uses if not any(u is g for g in gone)]
    return _drawn(part, None, [*uses, use], use, free=True)


def _card(part: Part, name: str) -> Card:
    card = part.script.shelf.plain.find(name, part.settings.tradition)
    if card is None or len(card.beats) != 1:
        raise HandError(f'"{name}" is no single sound.')
    return card


def _apart(part: Part, index: int) -> tuple[list[Use], int]:
    """The part's words, that of a sound taken apart into single sounds; and where the sound's own is."""
    sound = part.sounds[index]
    use = part.uses[sound.use]
    uses = list(part.uses)
    if len(use.card.beats) == 1:
        return uses, sound.use
    uses[sound.use : sound.use + 1] = singles_of(part, use)
    return uses, sound.use + sound.beat


def singles_of(part: Part, use: Use) -> list[Use]:
    """A word as single sounds, each in its place; a foot that is written is that of the first that has one."""
    singles = []
    side = use.side
    for beat, place, length in zip(use.card.beats, use.places, use.lengths, strict=True):
        name = "stamp" if beat.kind.name == "flat" and beat.level > 0 else beat.kind.name.replace("_", " ")
        card = _card(part, name)
        level = max(-MOST_LEVEL, min(MOST_LEVEL, beat.level + use.word.level - card.beats[0].level))
        word = Word(card.name, card, use.word.column, use.word.end, level=level, optional=use.word.optional)
        own, side = (side, "") if beat.kind.limb == "foot" else ("", side)
        singles.append(replace(use, card=card, word=word, places=(place,), lengths=(length,), side=own))
    return singles


def keyed(sounds: Sequence[Sound]) -> list[tuple[tuple[Fraction, int], Sound]]:
    """Sounds with their places, and which-th they are there."""
    seen: dict[Fraction, int] = {}
    keyed = []
    for sound in sounds:
        number = seen.get(sound.place, 0)
        seen[sound.place] = number + 1
        keyed.append(((sound.place, number), sound))
    return keyed


def _drawn(part: Part, index: int | None, uses: list[Use], touched: Use | None, *, free: bool = False) -> Drawn:
    """The text of some words; feet before the change, and of the word it is in, stay.

    `free`: those after it follow.
    """
    uses = in_writing_order(uses)
    old = part.uses[part.sounds[index].use].places if index is not None else ()
    changed = (*old, *(touched.places if touched is not None else ()))
    wanted = {key: s.foot for key, s in keyed(part.sounds) if s.foot and (not free or s.place < max(changed))}
    if touched is not None:
        wanted = {key: foot for key, foot in wanted.items() if key[0] != touched.places[0]}
    uses = footed(part, uses, wanted)
    text = _local(part, index, uses) or text_of(part, uses)
    made = part_from(part.name, text, part.settings, part.script.shelf)
    if touched is None:
        return Drawn(text, None)
    at = (i for i, s in enumerate(made.sounds) if s.place == touched.places[0] and s.layer == touched.layer)
    return Drawn(text, next(at, None))


def footed(part: Part, uses: list[Use], wanted: Feet) -> list[Use]:
    """Words with R or L where else another foot would dance than the one that is wanted."""
    for _ in range(len(uses)):
        made = build_part(replace(part.script, uses=tuple(uses)), part.settings, mends=False)
        if made.footing.faults:
            # It cannot be danced so: that is told where all else is told.
            return uses
        wrong = ((s.use, wanted[key]) for key, s in keyed(made.sounds) if key in wanted and s.foot != wanted[key])
        at, foot = next(wrong, (-1, ""))
        if at < 0 or uses[at].side or len(uses[at].card.beats) > 1 or foot not in ACROSS:
            return uses
        uses = [replace(u, side=foot) if n == at else u for n, u in enumerate(uses)]
    return uses


def _same(one: PartScript, uses: Sequence[Use], new: Sequence[Use], problems: int) -> bool:
    """Whether a text reads as some words in their places, the new ones on their feet, with no more problems than so
    many; lines that dance others again follow by themselves."""
    read, meant = (
        [(u.card, u.places, u.lengths, u.word.level) for u in of if not u.again]
        for of in (in_writing_order(one.uses), uses)
    )
    sides = {(u.places, u.layer): u.side for u in new if u.side}
    on_them = all(sides.get((u.places, u.layer), u.side) == u.side for u in one.uses)
    return len(one.problems) <= problems and read == meant and on_them


def _local(part: Part, index: int | None, uses: Sequence[Use]) -> str | None:
    """The text with only the touched word written anew; None where that does not read as it is meant."""
    known = {id(u) for u in part.uses}
    new = [u for u in uses if id(u) not in known]
    lines = "\n".join(part.script.lines)
    for change in _changes(part, index, new):
        text = changed_text(lines, (change,))
        if _same(read_part(part.name, text, part.settings, part.script.shelf), uses, new, len(part.problems)):
            return text
    return None


def _changes(part: Part, index: int | None, new: Sequence[Use]) -> Iterator[Change]:
    """The ways to write new words where they stand: with the counts as they are said, or with some of their own."""
    said = [word_text(u, part.settings, part.script.shelf) for u in new]
    old = part.uses[part.sounds[index].use] if index is not None else None
    if old is not None and len(new) == 1 and new[0].places == old.places and not _several(old):
        yield Change(old.line, old.word.column, old.word.end, said[0])
    spot, counting = _spot(part, index, new), part.settings.counting
    # She may count by bars: 1 2 3 4, 1 2 3 4.
    firsts = range(0, counting.phrase, counting.meter.counts) if spot is not None else ()
    for first, exact in product(firsts, (False, True)):
        counts = [count_text([p - first for p in u.places], counting, exact=exact) for u in new]
        words = (f"{count} {word}" for count, word in zip(counts, said, strict=True))
        assert spot is not None
        yield replace(spot, text=spot.text + "  ".join(words))


def _several(use: Use) -> bool:
    """Whether a word stands for more than is danced here."""
    return bool(use.copy or use.word.joined or use.word.times > 1)


def _spot(part: Part, index: int | None, new: Sequence[Use]) -> Change | None:
    """Where in the text the new words go: in place of the touched word and its counts, or after the word before."""
    if index is None:
        before = [u for u in part.uses if new and u.layer == new[0].layer and u.places[0] < new[0].places[0]]
        if not before or len(new) != 1:
            return None
        use = before[-1]
        return None if use.copy else Change(use.line, use.word.end, use.word.end, "  ")
    use = part.uses[part.sounds[index].use]
    line = part.line_of(use)
    start = counts_column(line, use.word.column)
    if _several(use) or start is None:
        return None
    if not new:
        start = len(line[:start].rstrip())
    return Change(use.line, start, use.word.end, "")


def _in_line(part: Part, uses: Sequence[Use]) -> list[Use]:
    """Words with new ones on the lines of those that they have come between."""
    known = {id(u) for u in part.uses}
    placed: list[Use] = []
    for use in uses:
        before = placed[-1] if placed and placed[-1].layer == use.layer else None
        if id(use) not in known and before is not None and use.line < before.line:
            use = replace(use, line=before.line)
        placed.append(use)
    return placed


def text_of(part: Part, uses: Sequence[Use]) -> str:
    """The part's text with other words: their lines written anew, else the part; raises HandError where none is."""
    uses = _in_line(part, uses)
    changed = lines_changed(part.script, uses)
    # Written anew, what is no word of a line would be lost.
    unknown = {problem.line for problem in part.problems if problem.code == "N101"}
    lines = None if unknown & {*changed} else rewritten(part.script, uses, part.settings)
    if lines is not None:
        return lines
    kept = "notes" if "#" in part.script.text else "words that are not understood" if unknown else ""
    if kept:
        raise HandError(f"This word shares its counts with others, and there are {kept} here: change it in the text.")
    try:
        return write_part(replace(part.script, uses=tuple(uses)), part.settings)
    except ValueError as fault:
        raise HandError("No text says that: some counts would have no name, or words would overlap.") from fault
