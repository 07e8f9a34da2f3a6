"""What a card does to the feet, and how two cards differ, in words."""

from collections.abc import Sequence
from difflib import SequenceMatcher
from fractions import Fraction

from msgspec import Struct

from firn.core.piece.build import part_from
from firn.core.piece.piece import Part
from firn.core.script.settings import Settings
from firn.core.steps.card import Beat, Card
from firn.core.steps.shelf import Shelf


class Facts(Struct, frozen=True):
    """What there is to know of a card when it is danced with the right foot first.

    `counts`: its length; `beat`: the sound on its first whole count; `starts`, `carries`: the foot that makes its
    first sound, and what carries after its last; `free`: the foot free at the end; `again`: on which side it goes
    on by itself (same, other, either, neither). `stance`: how the feet stand to each other before and after, where
    that is told; `down`: how each touches the floor at the end.
    """

    counts: int
    sounds: int
    changes: int
    beat: str
    starts: str
    carries: str
    free: str
    again: str
    stance: tuple[str, ...] = ()
    down: str = ""


def danced(card: Card, tradition: str = "", *, lead: str = "right") -> Part:
    """A card by itself, in its usual counts."""
    tradition = tradition or (card.traditions or ("tap",))[0]
    shelf = Shelf.of([], own=[card])
    text = f"{card.usual_for(tradition)} {card.name}"
    return part_from(card.name, text, Settings(tradition=tradition, lead=lead), shelf)


def rhythms(card: Card, tradition: str = "") -> list[tuple[Fraction, ...]]:
    """The places of a card's sounds for each of the counts that a tradition usually says."""
    shelf = Shelf.of([], own=[card])
    settings = Settings(tradition=tradition or (card.traditions or ("tap",))[0])
    found = []
    for counts in card.usual.get(tradition, card.usual[""]):
        part = part_from(card.name, f"{counts} {card.name}", settings, shelf)
        found += [part.uses[0].places] if len(part.uses) == 1 else []
    return found


def facts(card: Card, tradition: str = "") -> Facts:
    """What a card does, right foot first."""
    part = danced(card, tradition)
    first = next((s.foot for s in part.sounds if s.foot), "")
    beat = next((s for s in part.sounds if s.place.denominator == 1), None)
    carries = part.sounds[-1].weight if part.sounds else ""
    return Facts(
        part.counts, card.sounds, card.weight_changes, kind_name(beat.kind) if beat else "", first, carries,
        part.footing.free, part.footing.again, card.stance, _down(part),
    )  # fmt: skip


_TOUCHES = {
    "-": "off the floor", "t": "on the tip of its toe", "b": "on its ball", "h": "on its heel", "f": "flat",
    "F": "flat", "p": "off the floor", "q": "off the floor",
}  # fmt: skip


def _down(part: Part) -> str:
    """How each foot touches the floor at the end, of those that the step has moved."""
    end = part.footing.end
    touches = {"right": _TOUCHES.get(end.right), "left": _TOUCHES.get(end.left)}
    return ", ".join(f"the {foot} foot {touch}" for foot, touch in touches.items() if touch)


def kind_name(kind: str) -> str:
    """A kind of sound in words."""
    return kind.replace("_", " ")


def in_words(known: Facts) -> list[str]:
    """A card's facts as sentences."""
    counts = "count" if known.counts == 1 else "counts"
    sounds = "sound" if known.sounds == 1 else "sounds"
    changes = "change" if known.changes == 1 else "changes"
    said = [f"{known.sounds} {sounds}, {known.changes} {changes} of weight, {known.counts} {counts}."]
    if known.beat:
        said.append(f"On the beat: the {known.beat}.")
    if known.starts:
        carries = {"both": "both feet carry", "air": "it is in the air"}.get(
            known.carries, f"the {known.carries} foot carries"
        )
        said.append(f"Begun with the {known.starts} foot, {carries} at the end; {_side(known)}.")
    if known.down:
        said.append(f"Afterwards {known.down}.")
    if known.stance:
        said.append(f"Stance: {known.stance[0]} before, {known.stance[1]} after.")
    return said


def _side(known: Facts) -> str:
    return {
        "same": "danced again it stays on its side",
        "other": "danced again it changes sides",
        "either": "it goes on with either foot",
        "neither": "it cannot be danced twice in a row",
    }[known.again]


def differences(one: Card, two: Card) -> list[str]:
    """How two cards differ, in sentences: what sounds, when, where the foot is afterwards, who carries."""
    first, second = facts(one), facts(two)
    said = _sounding(one, two)
    counts = [c.usual_for((c.traditions or ("tap",))[0]) for c in (one, two)]
    if counts[0] == counts[1]:
        said.append(f"Both are danced on {counts[0]}.")
    else:
        said.append(f"{_cap(one.name)} is danced on {counts[0]}, {two.name} on {counts[1]}.")
    if first.changes != second.changes:
        said.append(f"{_cap(one.name)} has {_many(first.changes)} of weight, {two.name} {_many(second.changes)}.")
    said.append(_afterwards(one.name, first, two.name, second))
    if first.again == second.again:
        said.append(f"Both: {_side(first)}.")
    else:
        said.append(f"{_cap(one.name)}: {_side(first)}. {_cap(two.name)}: {_side(second)}.")
    return said


def _many(changes: int) -> str:
    return {0: "no change", 1: "one change"}.get(changes, f"{changes} changes")


def _cap(text: str) -> str:
    return text[:1].upper() + text[1:]


def _listed(beats: Sequence[Beat]) -> str:
    names = [f"{'an' if b.kind.name[0] in 'aeiou' else 'a'} {kind_name(b.kind.name)}" for b in beats]
    return names[0] if len(names) == 1 else f"{', '.join(names[:-1])} and {names[-1]}"


def _sounding(one: Card, two: Card) -> list[str]:
    keys = [[(b.kind.name, b.role) for b in c.beats] for c in (one, two)]
    if keys[0] == keys[1]:
        return ["They sound the same."]
    if [k for k, _ in keys[0]] == [k for k, _ in keys[1]]:
        return ["They have the same sounds, on other feet."]
    if sorted(keys[0]) == sorted(keys[1]):
        return ["They have the same sounds in another order."]
    said = []
    for what, a, b, c, d in SequenceMatcher(None, keys[0], keys[1], autojunk=False).get_opcodes():
        ours, theirs = one.beats[a:b], two.beats[c:d]
        if what == "replace":
            said.append(f"Where {one.name} has {_listed(ours)}, {two.name} has {_listed(theirs)}.")
        elif what == "delete":
            said.append(f"Only {one.name} has {_listed(ours)}{_place(a, b, len(one.beats))}.")
        elif what == "insert":
            said.append(f"Only {two.name} has {_listed(theirs)}{_place(c, d, len(two.beats))}.")
    return said


def _place(first: int, end: int, many: int) -> str:
    return " at the start" if first == 0 else " at the end" if end == many else ""


def _afterwards(one: str, first: Facts, two: str, second: Facts) -> str:
    def said(known: Facts) -> str:
        if known.free == "either":
            return "both feet are down"
        return f"the {known.free} foot is free"

    if (first.free, first.carries) == (second.free, second.carries):
        return f"After either, {said(first)}."
    return f"After {one} {said(first)}, after {two} {said(second)}."
