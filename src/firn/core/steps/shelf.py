"""The shelf: every card by every name it goes by, and the nearest names to a slip."""

import json
from collections.abc import Iterable
from functools import lru_cache
from pathlib import Path

from msgspec import Struct

from firn.core.steps.card import Card, card_from
from firn.core.steps.names import fold, nearest

TRADITIONS = (
    "tap", "clogging", "flatfoot", "folk stamping", "step dance", "solo jazz", "swing", "latin", "house",
    "floor work", "marking",
)  # fmt: skip


PACKED = Path(__file__).with_name("cards") / "packed.json"
"""All card files as one, read in a hundredth of the time; made of them by tools/pack_cards.py."""


class Shelf(Struct, frozen=True, eq=False):
    """Cards by folded name; earlier cards win where two claim a name, unless one is of the tradition.

    `own`: a teacher's own cards, which come before all others.
    """

    cards: tuple[Card, ...]
    by_name: dict[str, tuple[Card, ...]]
    longest: int = 1
    own: frozenset[Card] = frozenset()

    @classmethod
    def of(cls, cards: Iterable[Card], own: Iterable[Card] = ()) -> "Shelf":
        own = tuple(own)
        cards = (*own, *cards)
        names: dict[str, tuple[Card, ...]] = {}
        for card in cards:
            for name in dict.fromkeys(fold(n) for n in (card.name, *card.aliases)):
                names[name] = (*names.get(name, ()), card)
        return cls(cards, names, max((len(n.split()) for n in names), default=1), frozenset(own))

    def find(self, name: str, tradition: str) -> Card | None:
        """The card that a name means in a tradition, or None."""
        found = self.by_name.get(fold(name), ())
        own = next((c for c in found if c in self.own and (not c.traditions or tradition in c.traditions)), None)
        if own is not None:
            return own
        return next((c for c in found if tradition in c.traditions), found[0] if found else None)

    def nearest(self, name: str) -> tuple[str, ...]:
        """Up to three known names close to a slip, closest first."""
        return nearest(name, self.by_name)

    def __hash__(self) -> int:
        return id(self)


@lru_cache(maxsize=1)
def shipped() -> Shelf:
    """The cards that ship with Firn."""
    return Shelf.of(card_from(c) for c in json.loads(PACKED.read_text("utf-8")))
