"""Other versions of a part, as a teacher would type them: the other side, moved, slower, faster, swung, followed."""

from fractions import Fraction

from msgspec import Struct
from msgspec.structs import replace

from firn.core.piece.build import build_part
from firn.core.piece.piece import Part
from firn.core.script.items import Word
from firn.core.script.layers import Layers, words_across
from firn.core.script.places import Use
from firn.core.script.writer import in_writing_order, write_part
from firn.core.steps.sides import ACROSS
from firn.errors import FirnError

_HANDS_ACROSS = {f"{side} hand": f"{other} hand" for side, other in ACROSS.items()}


class VersionError(FirnError):
    """A version that a part does not have."""


FOLLOWS = 4
"""How many counts after the lead a follow comes in on the same feet."""


class Version(Struct, frozen=True):
    """Another version of a part: its text, and what it is in a sentence.

    `feel`: the feel that the whole piece takes with it, "" for the piece's own.
    """

    text: str
    said: str
    feel: str = ""


def other_side(part: Part) -> Version:
    """The same on the other feet, begun with the other one."""
    first = next((s for s in part.sounds if s.foot in ACROSS), None)
    if first is None:
        raise VersionError("No foot is danced here.")
    uses = [replace(u, side=ACROSS.get(u.side, u.side), word=u.word.mirrored()) for u in part.uses]
    uses[first.use] = replace(uses[first.use], side=ACROSS[first.foot])
    uses = in_writing_order(replace(u, layer=_HANDS_ACROSS.get(u.layer, u.layer)) for u in uses)
    cues = tuple(replace(c, text=words_across(c.text)) for c in part.layers.cues)
    text = written(part, uses, replace(part.layers, cues=cues))
    return Version(text, f"On the other side: it begins with the {ACROSS[first.foot]} foot.")


def moved(part: Part, by: Fraction) -> Version:
    """The same feet so many counts later, or earlier."""
    uses = [replace(u, places=tuple(p + by for p in u.places)) for u in part.uses]
    layers = replace(part.layers, cues=tuple(replace(c, place=c.place + by) for c in part.layers.cues))
    amount = f"{abs(by)} count" + ("" if abs(by) == 1 else "s")
    way = "later" if by > 0 else "earlier"
    return Version(written(part, uses, layers), f"The same feet, {amount} {way}.")


def stretched(part: Part, times: Fraction) -> Version:
    """In half time (`times` 2) or double time (1/2): the ratio to the beat of the tune changes.

    It is exactly so many times as long: what was counted is counted, by holds where nothing sounds.
    """
    counts = part.counts * times
    if counts.denominator != 1:
        raise VersionError(f"{part.counts} counts have no half.")
    uses = [use for one in part.uses if (use := _stretched_word(one, times)) is not None]
    cues = tuple(replace(c, place=c.place * times, length=c.length * times) for c in part.layers.cues)
    length = part.layers.length and part.layers.length * times
    if length is not None and length.denominator != 1:
        raise VersionError(f"{part.layers.length} counts have no half.")
    layers = replace(part.layers, cues=cues, length=None if length is None else int(length))
    uses = _held_out(part, uses, int(counts), times)
    said = (
        f"In half time: two beats of the tune for each count; {part.counts} counts become {counts}."
        if times > 1
        else f"In double time: two counts in a beat of the tune; {part.counts} counts become {counts}."
    )
    return Version(written(part, in_writing_order(uses), layers), said)


def _stretched_word(use: Use, times: Fraction) -> Use | None:
    """A word at its new places; None for a hold that is no longer a whole count."""
    places = tuple(p * times for p in use.places)
    if use.card.name != "hold":
        lengths = tuple(n * times for n in use.lengths)
        if any(n and n.denominator != 1 for n in lengths):
            raise VersionError(f"{use.word.text} would become shorter than a count.")
        return replace(use, places=places, lengths=lengths)
    # What is left of it in whole counts.
    first = -(-places[0] // 1)
    length = (places[0] + use.lengths[0] * times) // 1 - first
    return replace(use, places=(Fraction(first),), lengths=(Fraction(length),)) if length > 0 else None


def _held_out(part: Part, uses: list[Use], counts: int, times: Fraction) -> list[Use]:
    """Words with holds on the counts between them that were counted before, up to so many counts in all."""
    hold = part.script.shelf.plain.find("hold", part.settings.tradition)
    assert hold is not None
    placed = replace(part.script, uses=tuple(in_writing_order(uses)), problems=())
    made = build_part(placed, part.settings, mends=False)
    left = {count * times + more for count in part.empty_counts for more in range(int(times) or 1)}
    # What leads up to its first count may lie on a whole count now, and is counted with it.
    end = int(made.first_count) + counts
    if any(p >= end for u in uses if u.card.name != "hold" and not u.layer for p in u.places):
        raise VersionError("What leads up to it would take a count of its own.")
    uses = [cut for u in uses if (cut := _held_until(u, end)) is not None]
    empty = [c for c in made.empty_counts if c not in left and c < end]
    empty += [Fraction(c) for c in range(int(made.last_count) + 1, end)]
    held: list[Use] = []
    for count in empty:
        line = max((u.line for u in uses if not u.layer and u.places[0] <= count), default=0)
        last = held[-1] if held else None
        if last is not None and last.line == line and last.places[0] + last.lengths[0] == count:
            held[-1] = replace(last, lengths=(last.lengths[0] + 1,))
        else:
            held.append(Use(hold, Word("hold", hold, 0, 0), line, (count,), (Fraction(1),)))
    return [*uses, *held]


def _held_until(use: Use, end: int) -> Use | None:
    """A word; a hold no longer than up to a count, None where nothing of it is left."""
    if use.card.name != "hold":
        return use
    length = min(use.lengths[0], end - use.places[0])
    return replace(use, lengths=(length,)) if length > 0 else None


def follow_facing(part: Part) -> Version:
    """The follow's, who faces the lead: the same counts on the other feet."""
    made = other_side(part)
    return replace(made, said="For one who faces: the same counts on the other feet, turns the other way.")


def follow_later(part: Part) -> Version:
    """The follow's, who comes in later on the same feet, a hold before it."""
    hold = part.script.shelf.plain.find("hold", part.settings.tradition)
    if hold is None or not part.sounds:
        raise VersionError("There is no step here.")
    if part.sounds[0].place < part.first_count:
        raise VersionError("Its pick-up would fall into the hold before it.")
    line = part.uses[0].line
    wait = Use(hold, Word("hold", hold, 0, 0), line, (part.first_count,), (Fraction(FOLLOWS),))
    uses = [wait, *(replace(u, places=tuple(p + FOLLOWS for p in u.places)) for u in part.uses)]
    layers = replace(part.layers, cues=tuple(replace(c, place=c.place + FOLLOWS) for c in part.layers.cues))
    said = f"For one who comes in {FOLLOWS} counts later, on the same feet, a hold before it."
    return Version(written(part, in_writing_order(uses), layers), said)


def swung(part: Part) -> Version:
    """With the piece swung: what lies between counts sounds late."""
    return _felt(part, "swing", "Swung, the whole piece: an & sounds on the last third of its count.")


def straight(part: Part) -> Version:
    """With the piece straight: what lies between counts divides them evenly."""
    return _felt(part, "straight", "Straight, the whole piece: an & lies halfway between its counts.")


def _felt(part: Part, feel: str, said: str) -> Version:
    if part.settings.meter.compound:
        raise VersionError(f"In {part.settings.meter} a count has three even parts: nothing swings.")
    if part.settings.feel == feel:
        raise VersionError(f"The piece is {'swung' if feel == 'swing' else feel} already.")
    return Version("\n".join(part.script.lines), said, feel)


def written(part: Part, uses: list[Use], layers: Layers | None = None) -> str:
    """A part's text with other words, in other layers; raises VersionError where no text says that."""
    try:
        script = replace(part.script, uses=tuple(uses), layers=part.layers if layers is None else layers)
        return write_part(script, part.settings)
    except ValueError as fault:
        raise VersionError("It cannot be written so: some counts would have no name.") from fault
