"""The shelf: every card by every name it goes by, and the nearest names to a slip."""

import difflib
import json
import unicodedata
from collections.abc import Iterable
from functools import lru_cache
from pathlib import Path

from msgspec import Struct

from firn.core.steps.card import Card, card_from

TRADITIONS = (
    "tap", "clogging", "flatfoot", "folk stamping", "step dance", "solo jazz", "swing", "latin", "house",
)  # fmt: skip


PACKED = Path(__file__).with_name("cards") / "packed.json"
"""All card files as one, read in a hundredth of the time; made of them by tools/pack_cards.py."""


def fold(word: str) -> str:
    """A word as it is looked up: case, width and hyphens set aside."""
    return " ".join(unicodedata.normalize("NFKC", word).casefold().replace("-", " ").split())


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
        # One typed run of letters may be anything; comparing more than this only costs time.
        return tuple(difflib.get_close_matches(fold(name)[:60], self.by_name, n=3, cutoff=0.6))

    def __hash__(self) -> int:
        return id(self)


@lru_cache(maxsize=1)
def shipped() -> Shelf:
    """The cards that ship with Firn."""
    return Shelf.of(card_from(c) for c in json.loads(PACKED.read_text("utf-8")))
