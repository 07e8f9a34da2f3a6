"""Sounds in their order, of which it is known how they were struck, as steps: the likeliest words, and their rivals.

The cheapest cover of the sounds by cards is believed (dynamic programming over where words begin). A word costs one,
so that few words are likelier than many; a rhythm that its card does not know costs more, and a harder step. The
costs were chosen on 200 random combos of cards; `./run bench words` judges them on others.
"""

from collections.abc import Iterator, Sequence
from fractions import Fraction
from functools import lru_cache

from msgspec import Struct

from firn.core.library.compare import rhythms
from firn.core.steps.card import Card
from firn.core.steps.kinds import kind_said
from firn.core.steps.shelf import Shelf

WORD = 1.0
SINGLE = 0.5
"""How much more one sound by itself costs: most are of a figure."""

STRETCHED, UNKNOWN_RHYTHM = 0.7, 2.2
"""A card's own rhythm twice as slow or fast; one that it does not have."""

OFF_THE_COUNT = 0.1
"""A card's rhythm that begins elsewhere in the count than it usually does."""

HARDER = 0.1
"""For each level over the first: easier steps are danced more."""

OWN_NAME = 0.01

ANY_TRADITION = 0.12
"""A step of no tradition, where there is one of this."""

LESS_LIKELY = 0.1
"""For each kind that is likelier."""

NEAR = 0.75
"""What costs so much more could be meant as well."""

MOST_RIVALS = 3
SCALES = (Fraction(1), Fraction(1, 2), Fraction(2))


class Struck(Struct, frozen=True):
    """A sound: where it lies, in counts; the kinds that it may be, likeliest first, none for any; its foot, "" where
    nobody knows."""

    place: Fraction
    kinds: tuple[str, ...] = ()
    foot: str = ""


class Named(Struct, frozen=True):
    """A step: its card, the first of its sounds, and what else could stand there from it on, likeliest first."""

    card: Card
    first: int
    rivals: tuple[Card, ...] = ()

    @property
    def many(self) -> int:
        """How many sounds it has."""
        return len(self.card.beats)


class _Known(Struct, frozen=True):
    """A card as it is matched: the kinds of each beat, its feet by role, and its usual rhythms as places."""

    card: Card
    kinds: tuple[frozenset[str], ...]
    rhythms: tuple[tuple[Fraction, ...], ...]
    cost: float


def words_of(struck: Sequence[Struck], tradition: str, shelf: Shelf) -> list[Named]:
    """The likeliest steps that sounds, ascending, are; a sound that is of no card is left out of every word, and the
    list ends before it."""
    known = _known(tradition, shelf)
    arcs: list[list[tuple[float, _Known]]] = [list(_arcs(struck, first, known)) for first in range(len(struck))]
    forward = _cheapest(arcs, len(struck))
    back = _cheapest_back(arcs, len(struck))
    found: list[Named] = []
    first = 0
    while first < len(struck) and arcs[first] and back[first] < _FAR:
        ranked = sorted(arcs[first], key=lambda arc: arc[0] + back[first + len(arc[1].kinds)])
        best_cost, best = ranked[0]
        whole = forward[first] + best_cost + back[first + len(best.kinds)]
        rivals = [
            one.card
            for cost, one in ranked[1:]
            if forward[first] + cost + back[first + len(one.kinds)] - whole <= NEAR
        ]
        found.append(Named(best.card, first, tuple(rivals[:MOST_RIVALS])))
        first += len(best.kinds)
    return found


_FAR = 1e9


def _cheapest(arcs: Sequence[Sequence[tuple[float, _Known]]], many: int) -> list[float]:
    """What all up to each sound costs at least."""
    best = [0.0, *([_FAR] * many)]
    for first, here in enumerate(arcs):
        for cost, one in here:
            end = first + len(one.kinds)
            best[end] = min(best[end], best[first] + cost)
    return best


def _cheapest_back(arcs: Sequence[Sequence[tuple[float, _Known]]], many: int) -> list[float]:
    """What all from each sound on costs at least."""
    best = [*([_FAR] * many), 0.0]
    for first in range(many - 1, -1, -1):
        best[first] = min((cost + best[first + len(one.kinds)] for cost, one in arcs[first]), default=_FAR)
    return best


def _arcs(struck: Sequence[Struck], first: int, known: Sequence[_Known]) -> Iterator[tuple[float, _Known]]:
    """The cards that could begin with a sound, each with what it costs there."""
    for one in known:
        end = first + len(one.kinds)
        if end > len(struck):
            continue
        here = struck[first:end]
        kinds = _kinds(here, one)
        if kinds is not None and _feet(here, one.card):
            yield one.cost + kinds + _rhythm([s.place for s in here], one), one


def _kinds(here: Sequence[Struck], one: _Known) -> float | None:
    """What the kinds of sounds cost as those of a card; None where one cannot be."""
    cost = 0.0
    for sound, kinds in zip(here, one.kinds, strict=True):
        if sound.kinds:
            at = next((n for n, kind in enumerate(sound.kinds) if kind in kinds), None)
            if at is None:
                return None
            cost += LESS_LIKELY * at
    return cost


def _feet(here: Sequence[Struck], card: Card) -> bool:
    """Whether the feet of sounds are those of a card: what is of one role on one foot, of the other on the other."""
    seen: dict[str, str] = {}
    for sound, beat in zip(here, card.beats, strict=True):
        if not sound.foot:
            continue
        if beat.role == "2":
            if sound.foot != "both":
                return False
        elif beat.role in ("A", "B") and (
            sound.foot == "both" or seen.setdefault(beat.role, sound.foot) != sound.foot
        ):
            return False
    return len(set(seen.values())) == len(seen)


def _rhythm(places: Sequence[Fraction], one: _Known) -> float:
    """How unusual a rhythm is for a card."""
    if len(places) == 1:
        return 0.0
    cheapest = UNKNOWN_RHYTHM
    gaps = [b - places[0] for b in places]
    for usual in one.rhythms:
        for scale in SCALES:
            if [(p - usual[0]) * scale for p in usual] == gaps:
                cost = 0.0 if scale == 1 else STRETCHED
                cost += OFF_THE_COUNT if (places[0] - usual[0]).denominator != 1 else 0.0
                cheapest = min(cheapest, cost)
    return cheapest


@lru_cache(maxsize=16)
def _known(tradition: str, shelf: Shelf) -> tuple[_Known, ...]:
    """The cards of a tradition, and those of none, each as it is matched."""
    found = []
    for card in shelf.cards:
        if card.retired or (card.traditions and tradition not in card.traditions):
            continue
        kinds = tuple(frozenset((b.kind.name, *(o.name for o in b.others))) for b in card.beats)
        usual = tuple(dict.fromkeys(rhythms(card, tradition)))
        cost = WORD + (SINGLE if len(kinds) == 1 else 0.0) + HARDER * (card.level - 1)
        cost += 0.0 if card.traditions or card.primitive else ANY_TRADITION
        # Of two names for one sound, the sound's own.
        cost -= OWN_NAME if len(kinds) == 1 and card.name == kind_said(card.beats[0].kind.name) else 0.0
        found.append(_Known(card, kinds, usual, cost))
    return tuple(found)
