"""Sounds that are said one by one and are, in their order, those of a figure: hop step for a skip."""

from collections.abc import Iterator, Sequence
from functools import lru_cache

from firn.core.script.items import Word
from firn.core.script.said import SIDES
from firn.core.steps.card import Card
from firn.core.steps.names import fold
from firn.core.steps.shelf import APART, Shelf

_STEPS = frozenset({"step"})
MOST_FEET = 8
"""Feet that are said before one step."""

_COUNTS = 4
"""A line of so many counts, or of several times as many, is whole."""


def groups_of(words: Sequence[Word], text: str) -> Iterator[tuple[int, int]]:
    """Words of a line that stand between two pauses, as the places of the first and of the one after the last."""
    start = 0
    for at, word in enumerate(words):
        if at and any(sign in text[words[at - 1].end : word.column] for sign in ",;:."):
            yield start, at
            start = at
    if words:
        yield start, len(words)


def spelled(words: Sequence[Word], text: str, shelf: Shelf, tradition: str) -> Iterator[tuple[int, int, Card]]:
    """The groups of a line without counts that may be a figure of its tradition; steps alone only where the line is
    not whole without."""
    groups = list(groups_of(words, text))
    sounds = sum(word.times * len(word.card.beats) for word in words if word.card is not None)
    whole = sounds % _COUNTS == 0 or len(groups) == 1
    for start, end in groups:
        group = words[start:end]
        kinds = _kinds(group)
        if not kinds or (whole and _STEPS.issuperset(kinds)):
            continue
        card = _figures(shelf.plain, tradition).get(kinds)
        if card is not None and shelf.parting(said_of(group)) != APART:
            yield start, end, card


def said_of(group: Sequence[Word]) -> str:
    """Words as they are said, without the foot that begins."""
    return " ".join(fold(word.text) for word in group)


def _kinds(group: Sequence[Word]) -> tuple[str, ...]:
    """The kinds of the sounds of some words, where these may spell a figure: several, one of a single sound at least,
    and no more said of them than the foot that begins; else ()."""
    cards = [word.card for word in group if word.card is not None]
    more = any(w.where or w.joined or w.optional or w.times > 1 for w in group) or any(w.side for w in group[1:])
    single = [w.text for w in group if w.card is not None and len(w.card.beats) == 1]
    if len(group) < 2 or len(cards) < len(group) or more or not single or any(" " in text for text in single):
        return ()
    kinds = tuple(beat.kind.name for card in cards for beat in card.beats)
    # A figure that is one over and over is not told from it.
    over = any(kinds == kinds[:n] * (len(kinds) // n) for n in range(2, len(kinds)))
    return () if over else kinds


def feet_before(words: Sequence[Word], text: str) -> Iterator[tuple[int, int, bool]]:
    """Where feet alone, a step with each, are said before a step with a foot, as in right left right stamp: the
    places of the first of them and of the one after that step, and whether it ends what is said."""
    for start, end in groups_of(words, text):
        others = (n for n, w in enumerate(words[start:end]) if fold(text[w.column : w.end].strip("().")) not in SIDES)
        lone = next((n for n in others if fold(words[start + n].text) not in SIDES), end - start)
        named = words[start + lone] if start + lone < end else None
        if lone and named is not None and named.side in ("right", "left") and not named.joined:
            yield start, start + lone + 1, start + lone + 1 == end


@lru_cache(maxsize=64)
def _figures(shelf: Shelf, tradition: str) -> dict[tuple[str, ...], Card]:
    """The first figure of a tradition with just these kinds of sounds that has more than one in a count."""
    found: dict[tuple[str, ...], Card] = {}
    for card in shelf.cards:
        kinds = tuple(beat.kind.name for beat in card.beats)
        close = any(sign in card.usual_for(tradition) for sign in "&ae")
        if tradition in card.traditions and len(kinds) > 1 and close and not card.retired:
            found.setdefault(kinds, card)
    return found
