"""A part at other levels, as long and ending alike: with simpler or harder steps, line by line, or on a chair."""

from collections.abc import Mapping
from fractions import Fraction
from typing import Literal

from msgspec.structs import replace

from firn.core.piece.build import part_from
from firn.core.piece.by_hand import footed, keyed, singles_of
from firn.core.piece.piece import Part
from firn.core.piece.versions import Version, VersionError, written
from firn.core.script.places import Use, usual_places
from firn.core.script.writer import in_writing_order
from firn.core.steps.card import Card

How = Literal["simpler", "as written", "harder"]
HOWS: tuple[How, ...] = ("simpler", "as written", "harder")

_SEATED = {
    "hop": "heel", "leap": "step", "jump": "step", "pickup": "spank", "land": "touch", "chug": "heel",
    "slide": "brush",
}  # fmt: skip
"""What stands in on a chair for what needs the weight of the body."""


def simpler(part: Part) -> Version:
    """With simpler steps in the place of some, as long and ending alike."""
    return levelled(part, dict.fromkeys(lines_of(part), "simpler"))


def harder(part: Part) -> Version:
    """With harder steps in the place of some, as long and ending alike."""
    return levelled(part, dict.fromkeys(lines_of(part), "harder"))


def lines_of(part: Part) -> list[int]:
    """The lines of a part's text that say steps, from 0, in order; hands and syllables have no levels."""
    return sorted({use.line for use in part.uses if not use.layer})


def levelled(part: Part, hows: Mapping[int, How]) -> Version:
    """A part with each line as it is asked for, as it is written where nothing is.

    A stand-in that takes longer, or ends on another foot, is left out and told. Raises VersionError where nothing
    can be stood in for.
    """
    shelf, tradition, counting = part.script.shelf.plain, part.settings.tradition, part.settings.counting
    uses: list[Use] = []
    told: dict[How, dict[str, None]] = {"simpler": {}, "harder": {}}
    left: dict[str, None] = {}
    alike: dict[tuple[Card, Card], bool] = {}
    for use in part.uses:
        how = hows.get(use.line, "as written")
        name = "" if how == "as written" else use.card.simpler if how == "simpler" else use.card.harder
        card = shelf.find(name, tradition) if name else None
        if card is None:
            uses.append(use)
            continue
        usual, anchor = usual_places(use.card, counting, tradition)
        shift = use.places[0] - usual[0]
        if (use.card, card) not in alike:
            alike[use.card, card] = _alike(part, use.card, card)
        if use.places != tuple(p + shift for p in usual):
            left[f"{use.card.name} is not on its usual counts"] = None
            uses.append(use)
            continue
        if not alike[use.card, card]:
            left[f"{card.name} would be longer, shorter or end on another foot than {use.card.name}"] = None
            uses.append(use)
            continue
        theirs, on = usual_places(card, counting, tradition)
        places = tuple(p - on + anchor + shift for p in theirs)
        word = replace(use.word, card=card, text=card.name)
        uses.append(replace(use, card=card, word=word, places=places, lengths=tuple(Fraction(0) for _ in places)))
        told[how][f"{card.name} for {use.card.name}"] = None
    said = [f"{how.capitalize()}: {', '.join(names)}." for how, names in told.items() if names]
    stays = f" As written: {'; '.join(left)}." if left else ""
    if not said:
        asked = [how for how in ("simpler", "harder") if how in hows.values()]
        if not asked:
            raise VersionError("Every line is as it is written.")
        raise VersionError(f"No step here has a {' or '.join(asked)} one that can stand in for it.{stays}")
    return Version(written(part, uses), " ".join(said) + stays)


def _alike(part: Part, card: Card, other: Card) -> bool:
    """Whether another step is as long, ends with the same foot free, and goes on alike."""
    made = [part_from("A", c.name, part.settings, part.script.shelf.plain) for c in (card, other)]
    return len({(p.counts, p.footing.free, p.footing.again) for p in made}) == 1


def seated(part: Part) -> Version:
    """On a chair: what needs the weight of the body is stood in for, on the same feet at the same times."""
    if part.seated:
        raise VersionError("It is danced seated already.")
    told: dict[str, None] = {}
    uses: list[Use] = []
    for use in part.uses:
        if not any(b.kind.name in _SEATED for b in use.card.beats):
            uses.append(use)
            continue
        for single in singles_of(part, use):
            kind = single.card.beats[0].kind.name
            name = _SEATED.get(kind, "")
            card = part.script.shelf.plain.find(name, part.settings.tradition) if name else None
            if card is not None:
                told[f"{name} for {kind}"] = None
                single = replace(single, card=card, word=replace(single.word, card=card, text=name))
            uses.append(single)
    script = replace(part.script, layers=replace(part.layers, seated=True))
    wanted = {key: s.foot for key, s in keyed(part.sounds) if s.foot}
    uses = footed(replace(part, script=script), in_writing_order(uses), wanted)
    said = f"Seated: {', '.join(told)}." if told else "Seated: every step as it is, no foot carries."
    return Version(written(part, uses, script.layers), said)
