"""A card as it is shown: its strip on either side, and what is said of it."""

from msgspec import Struct

from firn.core.library.compare import danced, differences, facts, in_words
from firn.core.steps.card import Alias, Card
from firn.session.stretch import Stretch, part_stretch

LANGUAGES = {"es": "Spanish", "en": "English", "fr": "French"}
LEVELS = ("", "to begin with", "when that is easy", "for those who dance it often")
COMMON = "Common practice, from memory; schools vary."


class CardText(Struct, frozen=True):
    """What is said of a card: other names, what it is, paragraphs under headings, and a caution."""

    also: str
    sentence: str
    facts: tuple[str, ...]
    told: tuple[tuple[str, tuple[str, ...]], ...]
    caution: str


def card_stretch(card: Card, tradition: str = "", *, lead: str = "right") -> Stretch:
    """A card by itself, begun with either foot."""
    stretch = part_stretch(danced(card, tradition, lead=lead))
    return Stretch(card.name, stretch.sounds, (), stretch.counting, stretch.first, stretch.end, hangs=stretch.hangs)


def alias_text(alias: Alias) -> str:
    """Another name with its language and school."""
    said = ", ".join(t for t in (LANGUAGES.get(alias.language, alias.language), alias.school) if t)
    return f"{alias.name} ({said})" if said else alias.name


def card_text(card: Card) -> CardText:
    """What is said of a card."""
    ways = [f"simpler: {card.simpler}" if card.simpler else "", f"harder: {card.harder}" if card.harder else ""]
    stand_ins = ", ".join(w for w in ways if w)
    bounds = (
        f"Danced from {card.floor} to {card.ceiling}." if card.floor and card.ceiling
        else f"Not slower than {card.floor}." if card.floor
        else f"Not faster than {card.ceiling}." if card.ceiling
        else ""
    )  # fmt: skip
    told = (
        ("Tip", card.tips),
        ("When it goes wrong", card.remedies),
        ("First", (", ".join(card.first),) if card.first else ()),
        ("In its place", (f"{stand_ins}. {card.differs}".strip(),) if stand_ins else ()),
        ("Tempo", (bounds,) if bounds else ()),
        ("From", (" ".join(t for t in (card.source or COMMON, card.credit) if t),)),
    )
    where = ", ".join(card.traditions) or "every tradition"
    return CardText(
        ", ".join(alias_text(a) for a in card.also),
        card.sentence,
        (f"{where[:1].upper()}{where[1:]}; {LEVELS[card.level]}.", *in_words(facts(card))),
        tuple((head, tuple(lines)) for head, lines in told if lines),
        card.caution,
    )


def compared(one: Card, two: Card) -> tuple[str, ...]:
    """How two cards differ, in sentences."""
    return tuple(differences(one, two))
