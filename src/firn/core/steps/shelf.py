"""The shelf: every card by every name it goes by, and the nearest names to a slip."""

from collections.abc import Iterable, Sequence
from fractions import Fraction
from functools import lru_cache
from pathlib import Path

import msgspec
from msgspec import Struct

from firn.core.steps.card import Card
from firn.core.steps.disputed import ELSEWHERE, LOCAL
from firn.core.steps.names import bare, fold, nearest, words_in

TRADITIONS = (
    "tap", "clogging", "flatfoot", "folk stamping", "step dance", "solo jazz", "swing", "latin", "house",
    "floor work", "marking",
)  # fmt: skip


PACKED = Path(__file__).with_name("cards") / "packed.json"
"""All card files as they are when read, with their names: made of them by tools/pack_cards.py, there in some ms."""


Words = tuple[tuple[str, str], ...]
"""What words mean to a teacher: each with the name of the card that it stands for; or a name of several words with
APART or TOGETHER."""

APART, TOGETHER = "(apart)", "(together)"
"""Said of a name of several words: that these are words of their own, or that together they are the step."""


MOST_CARDS = 4
"""So many cards of one name are told apart."""


class Figure(Struct, frozen=True):
    """A part that is a word in others: its card, the foot that is written at its beginning, "" for none, and how far
    the body turns in it, right above 0."""

    name: str
    card: Card
    side: str = ""
    turn: Fraction = Fraction(0)


class Shelf(Struct, frozen=True, eq=False):
    """Cards by folded name; earlier cards win where two claim a name, unless one is of the tradition.

    `own`: a teacher's own cards, which come before all others. `words`: what some words mean here instead, as (word,
    name of a card); `plain`: the shelf without them. `figures`: parts that are words here; `broken`: those that are
    named and cannot be, each with why.
    """

    cards: tuple[Card, ...]
    by_name: dict[str, tuple[Card, ...]]
    longest: int = 1
    own: frozenset[Card] = frozenset()
    words: Words = ()
    under: "Shelf | None" = None
    figures: tuple[Figure, ...] = ()
    broken: tuple[tuple[str, str], ...] = ()

    @classmethod
    def of(cls, cards: Iterable[Card], own: Iterable[Card] = ()) -> "Shelf":
        own = tuple(own)
        cards = (*own, *cards)
        named = {name: tuple(cards[i] for i in places) for name, places in names_of(cards).items()}
        return cls(cards, named, _longest(named), frozenset(own))

    @property
    def plain(self) -> "Shelf":
        """The shelf on which every word means what its card says."""
        return self.under or self

    def called(self, words: Words) -> "Shelf":
        """The same cards where some words mean others; words for cards that are not there are left."""
        return self if words == self.words else _called(self.plain, words)

    def with_figures(self, figures: tuple[Figure, ...], broken: tuple[tuple[str, str], ...] = ()) -> "Shelf":
        """The same cards, and parts that are words beside them."""
        return _figured(self, figures, broken)

    def for_line(self, text: str) -> "Shelf":
        """The shelf as a line needs it: only with figures that it names, the same while others change."""
        if not self.figures and not self.broken:
            return self
        said = words_in(text)
        named = tuple(f for f in self.figures if f" {fold(f.name)} " in said)
        broken = tuple(b for b in self.broken if f" {b[0]} " in said)
        base = self.under_figures
        return _figured(base, named, broken) if named or broken else base

    @property
    def under_figures(self) -> "Shelf":
        """The shelf without the parts that are words."""
        return self.plain.called(self.words) if self.figures or self.broken else self

    def figure(self, card: Card) -> Figure | None:
        """The part that a card is made of; None for any other card."""
        return next((f for f in self.figures if f.card is card), None)

    def longest_from(self, first: str) -> int:
        """Of how many words a name is at most that begins with a word, whatever accents and hyphens are in it."""
        word = _first(first)
        most = _longest_from(self.plain).get(word, 1)
        if not self.words and not self.figures:
            return most
        more = [*(said for said, _ in self.words), *(f.name for f in self.figures)]
        return max(most, *(len(fold(n).split()) for n in more if _first(n) == word), 1)

    def in_words(self, word: str) -> str:
        """The name of several words that one stands for, which they are written together in: ballchange; "" for
        none."""
        return _in_one(self.plain).get(fold(word), "")

    def word_for(self, card: Card, tradition: str) -> str:
        """A word that means a card here: its name, or else one of the others."""
        known = {fold(name) for name in (card.name, *card.aliases)}
        names = (card.name, *card.aliases, *(word for word, name in self.words if fold(name) in known))
        word = next((n for n in names if self.find(n, tradition) is card), "")
        if not card.traditions or tradition in card.traditions or not tradition:
            return word or card.name
        # A step of others: by whose it is where its name says nothing here, in one word where others are in it.
        return word.replace(" ", "-") if word else f"{card.traditions[0]} {card.name}"

    def find(self, name: str, tradition: str) -> Card | None:
        """The card that a name means in a tradition, or None; a step of another is called by whose it is where its
        name alone says nothing here: clogging basic."""
        card = self.called_so(name, tradition)
        if card is not None and self.is_elsewhere(card, name, tradition):
            return None
        if card is None and " " in name:
            whose = next((t for t in TRADITIONS if fold(name).startswith(f"{t} ")), "")
            return self._theirs(fold(name).removeprefix(f"{whose} "), whose, tradition) if whose else None
        return card

    def _theirs(self, name: str, whose: str, tradition: str) -> Card | None:
        """The card that a name means in another tradition, where it is that one's and the name alone does not say so
        here: a tap before a stamp is no stamp of tap."""
        card = self.called_so(name, whose)
        if card is None or whose == tradition or whose not in card.traditions:
            return None
        here = card is self.called_so(name, tradition) and not self.is_elsewhere(card, name, tradition)
        return None if here else card

    def is_elsewhere(self, card: Card, name: str, tradition: str) -> bool:
        """Whether what a name means is a step of other traditions alone, and says nothing in this one."""
        theirs = tradition and card.traditions and tradition not in card.traditions
        local = fold(name) in LOCAL or tradition in ELSEWHERE.get(fold(name), ())
        return bool(theirs) and local and all(fold(word) != fold(name) for word, _ in self.words)

    def called_so(self, name: str, tradition: str) -> Card | None:
        """The card that goes by a name, rather that of a tradition; None for none."""
        found = self.by_name.get(fold(name), ())
        own = next((c for c in found if c in self.own and (not c.traditions or tradition in c.traditions)), None)
        if own is not None:
            return own
        return next((c for c in found if tradition in c.traditions), found[0] if found else None)

    def all_called(self, name: str, tradition: str) -> tuple[Card, ...]:
        """The cards of a tradition that go by a name, where none of them has it as its own; () where one has, or
        where a teacher has said what it means."""
        found = [c for c in self.by_name.get(fold(name), ()) if tradition in c.traditions or not c.traditions]
        plain = any(fold(c.name) == fold(name) or c in self.own for c in found)
        return () if plain or len(found) < 2 else tuple(found[:MOST_CARDS])

    def parting(self, name: str) -> str:
        """What is said of a name of several words: APART, TOGETHER, or "" for nothing."""
        said = (way for word, way in self.words if way in (APART, TOGETHER) and fold(word) == fold(name))
        return next(said, "")

    def nearest(self, name: str) -> tuple[str, ...]:
        """Up to three known names close to a slip, closest first."""
        return _nearest(self, name)

    def __hash__(self) -> int:
        return id(self)


def names_of(cards: Sequence[Card]) -> dict[str, tuple[int, ...]]:
    """Every folded name, and the places among some cards of those that it names: first those whose own name it is."""
    names: dict[str, tuple[int, ...]] = {}
    for place, card in enumerate(cards):
        names[fold(card.name)] = (*names.get(fold(card.name), ()), place)
    for place, card in enumerate(cards):
        for name in dict.fromkeys(fold(n) for n in card.aliases if fold(n) != fold(card.name)):
            names[name] = (*names.get(name, ()), place)
    return names


def _longest(names: Iterable[str]) -> int:
    """Of how many words a name is at most, said with the tradition that it is of."""
    return max((len(n.split()) for n in names), default=1) + 2


@lru_cache(maxsize=20_000)
def _first(name: str) -> str:
    """A name's first word, as names are told apart by it."""
    return bare(fold(name)).partition(" ")[0]


@lru_cache(maxsize=16)
def _longest_from(shelf: Shelf) -> dict[str, int]:
    """Of how many words names are at most, by their first."""
    longest: dict[str, int] = {}
    for name in shelf.by_name:
        word = _first(name)
        longest[word] = max(longest.get(word, 1), len(name.split()))
    return longest | {_first(tradition): shelf.longest for tradition in TRADITIONS}


@lru_cache(maxsize=16)
def _in_one(shelf: Shelf) -> dict[str, str]:
    """The names of several words, each by what it is in one."""
    return {name.replace(" ", ""): name for name in shelf.by_name if " " in name}


@lru_cache(maxsize=2_000)
def _nearest(shelf: Shelf, name: str) -> tuple[str, ...]:
    return nearest(name, shelf.by_name)


@lru_cache(maxsize=64)
def _called(plain: Shelf, words: Words) -> Shelf:
    if not words:
        return plain
    cards = [(word, plain.find(name, "")) for word, name in words if name not in (APART, TOGETHER)]
    meant = {fold(word): (card,) for word, card in cards if card is not None}
    names = plain.by_name | meant
    longest = max(plain.longest, *(len(n.split()) for n in meant)) if meant else plain.longest
    return Shelf(plain.cards, names, longest, plain.own, words, plain)


@lru_cache(maxsize=256)
def _figured(base: Shelf, figures: tuple[Figure, ...], broken: tuple[tuple[str, str], ...]) -> Shelf:
    names = base.by_name | {fold(f.name): (f.card,) for f in figures}
    longest = max(base.longest, *(len(fold(f.name).split()) for f in figures)) if figures else base.longest
    return Shelf(base.cards, names, longest, base.own, base.words, base.plain, figures, broken)


class Packed(Struct, frozen=True):
    """The shipped cards as they are kept; `names` as in `names_of`."""

    cards: tuple[Card, ...]
    names: dict[str, tuple[int, ...]]


@lru_cache(maxsize=1)
def shipped() -> Shelf:
    """The cards that ship with Firn."""
    packed = msgspec.json.decode(PACKED.read_bytes(), type=Packed)
    named = {name: tuple(packed.cards[i] for i in places) for name, places in packed.names.items()}
    return Shelf(packed.cards, named, _longest(named))
