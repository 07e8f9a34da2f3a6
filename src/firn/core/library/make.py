"""Cards made of what is there: of another card, or of sounds of a part."""

from collections.abc import Sequence
from fractions import Fraction
from typing import Any

from firn.core.meter.counting import Counting
from firn.core.piece.piece import Part
from firn.core.piece.sound import Sound
from firn.core.script.counts import count_text
from firn.core.steps.card import Alias, Beat, Card, CardError

EIGHTS = Counting()


def alias_written(alias: Alias) -> str:
    """Another name as a card file has it."""
    inner = "; ".join(t for t in (alias.language, alias.school) if t) if alias.language else ""
    inner = inner or (f"; {alias.school}" if alias.school else "")
    return f"{alias.name} [{inner}]" if inner else alias.name


def beat_written(beat: Beat) -> str:
    """A sound as a card file has it."""
    level = beat.level - beat.kind.level
    words = [
        beat.kind.name + ("!" if level > 0 else "~" if level < 0 else ""),
        beat.role if beat.role != "-" else "",
        beat.weight,
        "as-one" if beat.as_one else "",
        "optional" if beat.optional else "",
        "grounded" if beat.grounded else "",
    ]
    return " or ".join([" ".join(w for w in words if w), *(k.name for k in beat.others)])


def table_of(card: Card) -> dict[str, Any]:
    """A card as the table of its file; reads back to the same card."""
    usual = {tradition: list(counts) for tradition, counts in card.usual.items()}
    table: dict[str, Any] = {
        "name": card.name,
        "aliases": [alias_written(a) for a in card.also],
        "traditions": list(card.traditions),
        "level": card.level if card.level > 1 else 0,
        "sounds": [beat_written(b) for b in card.beats],
        "usual": usual[""] if list(usual) == [""] else usual,
        "counts": card.counts,
        "sentence": card.sentence,
        "tips": list(card.tips),
        "remedies": list(card.remedies),
        "caution": card.caution,
        "stance": list(card.stance),
        "first": list(card.first),
        "simpler": card.simpler,
        "harder": card.harder,
        "differs": card.differs,
        "floor": card.floor,
        "ceiling": card.ceiling,
        "primitive": card.primitive,
        "retired": card.retired,
        "source": card.source,
        "credit": card.credit,
    }
    return {key: value for key, value in table.items() if value or key == "name"}


MOST_IN_A_STEP = 128
"""Eight counts of sixteenths, four times over: what is longer is a part."""


def table_of_sounds(part: Part, first: Fraction, end: Fraction) -> dict[str, Any]:
    """The sounds of a part from one place up to another as the table of a new card, yet without a name.

    The foot that is free before them becomes A. Raises CardError where there are none, or more than a step has.
    """
    inside = [i for i, s in enumerate(part.sounds) if first <= s.place < end]
    if not inside:
        raise CardError("No sound is selected")
    if len(inside) > MOST_IN_A_STEP:
        raise CardError(f"A step has up to {MOST_IN_A_STEP} sounds: select fewer")
    before = next((s.weight for s in reversed(part.sounds[: inside[0]]) if s.foot), "")
    sounds = [part.sounds[i] for i in inside]
    free = _free(sounds, before)
    whole = next((s.place for s in sounds if s.place.denominator == 1), Fraction(sounds[0].place // 1))
    places = [s.place - whole for s in sounds]
    return {
        "name": "",
        "traditions": [part.settings.tradition],
        "sounds": [_written(part, s, free, feet=any(s.foot for s in sounds)) for s in sounds],
        "usual": [count_text(places, EIGHTS)],
        "source": f"made of {part.name}",
    }


def _free(sounds: Sequence[Sound], before: str) -> str:
    """The foot that is A: free before the first sound, or the one that makes it."""
    if before in ("left", "right"):
        return "right" if before == "left" else "left"
    moved = next((s for s in sounds if s.foot in ("left", "right")), None)
    if moved is None:
        return "right"
    slid = moved.kind == "slide" and moved.weight == moved.foot
    on_it = slid or moved.kind in ("hop", "pickup", "chug", "heel", "toe")
    return moved.foot if not on_it else "right" if moved.foot == "left" else "left"


def _written(part: Part, sound: Sound, free: str, *, feet: bool) -> str:
    """A sound of a part as a card's sound."""
    beat = part.uses[sound.use].card.beats[sound.beat]
    if sound.foot:
        role = "2" if sound.foot == "both" else "A" if sound.foot == free else "B"
    elif sound.hand in ("left", "right"):
        # Where no foot is danced, the right hand leads.
        own = ("a", "b") if feet else ("D", "N")
        role = own[0] if sound.hand == (free if feet else "right") else own[1]
    else:
        role = ""
    level = "!" if sound.level > 0 else "~" if sound.level < 0 else ""
    takes = "takes" if sound.kind in ("heel", "toe") and sound.changes_weight else beat.weight
    marks = [m for m, on in (("as-one", sound.as_one), ("optional", sound.optional)) if on]
    return " ".join(w for w in (f"{sound.kind}{level}", role, takes, *marks) if w)
