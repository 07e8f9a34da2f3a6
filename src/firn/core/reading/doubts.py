"""Words that could be read in more ways than one: how they are read, and the others, each to be taken."""

from collections.abc import Iterator

from firn.core.piece.piece import Part, place_key
from firn.core.reading.finding import Finding, MendText, Value
from firn.core.script.changes import Change
from firn.core.script.doubts import Doubt, Offer

_SAID = {
    "spelled": "each sound by itself", "both_sides": "this, then the same on the other side",
    "other_alone": "the other side alone",
}  # fmt: skip


def findings(part: Part) -> Iterator[Finding]:
    """One for each doubt; the first of its mends is to keep what is believed."""
    uses = part.uses
    for doubt in part.script.doubts:
        spots = range(place_key(doubt.line, doubt.column), place_key(doubt.line, doubt.end))
        within = (
            i for i, s in enumerate(part.sounds) if place_key(uses[s.use].line, uses[s.use].word.column) in spots
        )
        index = next(within, None)
        said = " ".join(part.script.lines[doubt.line][doubt.column : doubt.end].split())
        values: dict[str, Value] = {"said": said, "read": offer_said(doubt.offers[0])}
        if len(doubt.offers) > 1:
            values["others"] = " or ".join(offer_said(offer) for offer in doubt.offers[1:])
        yield Finding(
            "doubt" if len(doubt.offers) > 1 else "squeezed",
            "look",
            part.name,
            None if index is None else part.sounds[index].place,
            index,
            values,
            tuple(_mend(doubt, n) for n in range(len(doubt.offers))),
            spot=(doubt.line, doubt.column, doubt.end),
        )


def offer_said(offer: Offer) -> str:
    """One way to read a word, in words."""
    if offer.code in ("whole", "figure"):
        return f"{offer.names[0]}, the step"
    if offer.code in _SAID:
        return _SAID[offer.code]
    if offer.code == "parted":
        return ", then ".join(offer.names)
    return f"“{offer.names[0]}”"


def _mend(doubt: Doubt, number: int) -> MendText:
    """One way taken at every place where the same is in doubt; places that lie in each other are left for later."""
    offer = doubt.offers[number]
    changes: list[Change] = []
    for one in (doubt, *doubt.again):
        written = one.offers[number].written
        change = None if written is None else Change(one.line, *written)
        if change is not None and not any(_overlap(change, other) for other in changes):
            changes.append(change)
    return MendText("read_as", {"read": offer_said(offer)}, tuple(changes), words=offer.words)


def _overlap(one: Change, other: Change) -> bool:
    return one.line == other.line and one.column < other.end and other.column < one.end
