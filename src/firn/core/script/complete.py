"""Words that complete what is being typed, by any name that a card goes by."""

import re
from bisect import bisect_left
from collections.abc import Collection, Iterator, Sequence
from operator import attrgetter

from msgspec import Struct

from firn.core.pattern import late
from firn.core.script.layers import HANDS, layer_of
from firn.core.script.places import Use
from firn.core.steps.card import Card
from firn.core.steps.names import MARKS, fold
from firn.core.steps.shelf import Shelf

LEAST_LETTERS = 2
MOST_OFFERS = 8

USED_NEAR = 400
"""So many words before a line, and from it on, are looked through for what is used already: it is asked at each key,
and a part may have thousands."""

_NEAR = 120
"""Letters before the caret among which a name is looked for."""
_TAIL = late(rf"[^\W\d_](?:[^\W_]|[{MARKS}]|['’\-/ ](?! ))*$")


class Completion(Struct, frozen=True):
    """A word that would complete what is typed from `column` on: the name, its card and the card's rhythm."""

    name: str
    card: Card
    column: int
    rhythm: str


def completions(line: str, shelf: Shelf, tradition: str, used: Collection[Card] = frozenset()) -> list[Completion]:
    """What could stand where the caret is at the end of `line`, the likeliest first; none for less than two letters.

    The longest run of words before the caret that begins a name counts ("shuffle b" before "b"). Names of the
    tradition come before others, those that begin so before those that hold a word that does, cards that are `used`
    already before others, short before long. In a layer of hands words for hands are offered, in other layers none.
    """
    match = _TAIL.search(line, max(0, len(line) - _NEAR))
    layer = layer_of(line)
    if match is None or "#" in line or line.endswith(" ") or (layer is not None and layer.name not in HANDS):
        return []
    for column in _starts(match):
        typed = fold(line[column:])
        if len(typed) < LEAST_LETTERS:
            continue
        found = _found(typed, shelf, tradition, used)
        if layer is not None:
            found = [(name, card) for name, card in found if all(b.kind.limb == "hands" for b in card.beats)]
        if found:
            return [Completion(n, c, column, rhythm(c, tradition)) for n, c in found[:MOST_OFFERS]]
    return []


def cards_used(uses: Sequence[Use], line: int, column: int) -> set[Card]:
    """The cards of the words about a line, but for the one that ends at a column of it."""
    here = bisect_left(uses, line, key=attrgetter("line"))
    near = uses[max(0, here - USED_NEAR) : here + USED_NEAR]
    return {use.card for use in near if use.line != line or use.word.end != column}


def _starts(match: re.Match[str]) -> Iterator[int]:
    """Columns at which the words before the caret begin, the first first."""
    yield match.start()
    for space in re.finditer(" ", match[0]):
        yield match.start() + space.end()


def _found(typed: str, shelf: Shelf, tradition: str, used: Collection[Card]) -> list[tuple[str, Card]]:
    offers: dict[Card, tuple[tuple[bool, bool, bool, bool, bool, int, str], str]] = {}
    for key in shelf.by_name:
        begins = key.startswith(typed)
        card = shelf.find(key, tradition) if begins or f" {typed}" in key else None
        if card is None or key == typed or card.retired:
            continue
        foreign = bool(card.traditions) and tradition not in card.traditions
        name = next((n for n in (card.name, *card.aliases) if fold(n) == key), key)
        rank = (foreign, not begins, card not in used, card not in shelf.own, name != card.name, len(name), name)
        if card not in offers or rank < offers[card][0]:
            offers[card] = rank, name
    return [(name, card) for card, (_, name) in sorted(offers.items(), key=lambda o: o[1][0])]


def rhythm(card: Card, tradition: str) -> str:
    """A card's usual counts and its sounds, for show: "&1  brush, step"."""
    sounds = ", ".join(b.kind.name.replace("_", " ") for b in card.beats[:6])
    more = " …" if len(card.beats) > 6 else ""
    return f"{card.usual_for(tradition)}   {sounds}{more}"
