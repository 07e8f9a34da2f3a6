"""Sounds in their order, of which it is known how they were struck, as steps: the likeliest words, and their rivals.

The cheapest cover of the sounds by cards is believed (dynamic programming over where words begin). A word costs one,
so that few words are likelier than many; a rhythm that its card does not know costs more, and a harder step. Of what
the ear heard a sound may be missing, one too many, or told wrongly, each at a cost. The costs were chosen on 200
random combos of cards; `./run bench words` and `./run bench heard` judge them on others.
"""

from collections.abc import Iterator, Sequence
from fractions import Fraction
from functools import lru_cache
from typing import NamedTuple

from msgspec import Struct

from firn.core.library.compare import rhythms
from firn.core.steps.card import Card
from firn.core.steps.kinds import kind_said
from firn.core.steps.shelf import Shelf

WORD = 1.0
SINGLE = 0.5
"""How much more one sound by itself costs: most are of a figure."""

STRETCHED, UNKNOWN_RHYTHM = 1.0, 4.0
"""A card's own rhythm twice as slow or fast; one that it does not have."""

OFF_THE_COUNT = 0.1
"""A card's rhythm that begins elsewhere in the count than it usually does."""

HARDER = 0.1
"""For each level over the first: easier steps are danced more."""

OWN_NAME = 0.01

ANY_TRADITION = 0.12
"""A step of no tradition, where there is one of this."""

LESS_LIKELY, STANDS_IN = 0.02, 0.1
"""For each kind that is likelier, and for one that only stands in for a beat's own."""

NEAR = 1.0
"""What costs so much more could be meant as well."""

UNHEARD, TOO_MANY, MISTOLD = 1.5, 2.0, 2.4
"""What it costs that the ear missed a sound of a step, heard one that is of none, or told wrongly what struck."""

SAID = 0.6
"""How much less a step costs that was said of another stretch of the same dance."""

INAUDIBLE = 0.3
"""What a beat costs of a heard step that makes no sound: nothing speaks for it."""

MOST_RIVALS = 3
SCALES = (Fraction(1), Fraction(1, 2), Fraction(2))


class Struck(Struct, frozen=True):
    """A sound: where it lies, in counts; the kinds that it may be, likeliest first, none for any; its foot, "" where
    nobody knows."""

    place: Fraction
    kinds: tuple[str, ...] = ()
    foot: str = ""


class Fit(Struct, frozen=True):
    """A step that some sounds are, or could be: its card, the sounds that are its own, ascending, and which beats of
    the card they are."""

    card: Card
    sounds: tuple[int, ...]
    beats: tuple[int, ...]


class Named(Struct, frozen=True):
    """A step as it is believed, where each of its beats lies, in counts, and what else could begin there, likeliest
    first. `unheard`: the beat that was not heard, None for none."""

    so: Fit
    places: tuple[Fraction, ...]
    others: tuple[Fit, ...] = ()
    unheard: int | None = None

    @property
    def card(self) -> Card:
        """The step itself."""
        return self.so.card

    @property
    def sounds(self) -> tuple[int, ...]:
        """The sounds that are its own."""
        return self.so.sounds

    @property
    def first(self) -> int:
        """The first of its sounds."""
        return self.so.sounds[0]

    @property
    def rivals(self) -> tuple[Card, ...]:
        """The other steps that could begin there."""
        return tuple(one.card for one in self.others)


class _Known(Struct, frozen=True):
    """A card as it is matched: all of its beats, those that sound, the kinds that each may be, its own first, and its
    usual rhythms as places."""

    card: Card
    beats: tuple[int, ...]
    audible: tuple[int, ...]
    kinds: tuple[tuple[str, ...], ...]
    rhythms: tuple[tuple[Fraction, ...], ...]
    cost: float


class _Arc(NamedTuple):
    """A card that could begin with a sound: what it costs there, how many sounds it takes, of which `extra` (from 0
    on) is none of its own; `card` is None for a sound that is of no step."""

    cost: float
    many: int
    places: tuple[Fraction, ...] = ()
    card: Card | None = None
    unheard: int | None = None
    extra: int | None = None


def words_of(
    struck: Sequence[Struck], tradition: str, shelf: Shelf, *, heard: bool = False, given: Sequence[Fit] = ()
) -> list[Named]:
    """The likeliest steps that sounds, ascending, are; a sound that is of no card is left out of every word, and the
    list ends before it. `heard`: the ear found them, so that some may be missing, too many or told wrongly; then only
    those that are too many are left out. `given`: steps that somebody has said, which stand, and are likelier to come
    again; none of them takes a sound of another."""
    said = {one.card for one in given}
    reach = _reach(tradition, shelf)
    arcs = []
    for first in range(len(struck)):
        before = struck[first - 1].place if first else None
        here = _arcs_of(before, tuple(struck[first : first + reach]), tradition, shelf, heard)
        arcs.append([arc._replace(cost=arc.cost - SAID) if arc.card in said else arc for arc in here])
    for one in given:
        _give(arcs, struck, one, _as_known(one.card, tradition))
    begins = {one.sounds[0]: one for one in given}
    forward = _cheapest(arcs, len(struck))
    back = _cheapest_back(arcs, len(struck))
    found: list[Named] = []
    first = 0
    while first < len(struck) and arcs[first] and back[first] < _FAR:
        ranked = sorted(arcs[first], key=lambda arc: arc.cost + back[first + arc.many])
        best = ranked[0]
        whole = forward[first] + best.cost + back[first + best.many]
        near = (arc for arc in ranked[1:] if forward[first] + arc.cost + back[first + arc.many] - whole <= NEAR)
        rivals: dict[Card, _Arc] = {}
        for arc in near:
            if arc.card is not None and arc.card != best.card:
                rivals.setdefault(arc.card, arc)
        if best.card is not None:
            others = [_fit(arc, first, tradition, heard=heard) for arc in [*rivals.values()][:MOST_RIVALS]]
            so = begins.get(first) or _fit(best, first, tradition, heard=heard)
            found.append(Named(so, best.places, tuple(others), best.unheard))
        first += best.many
    return found


def _fit(arc: _Arc, first: int, tradition: str, *, heard: bool) -> Fit:
    """A card that begins with a sound, with the sounds that it takes."""
    assert arc.card is not None
    known = _as_known(arc.card, tradition)
    beats = known.audible if heard else known.beats
    sounds = tuple(first + n for n in range(arc.many) if n != arc.extra)
    return Fit(arc.card, sounds, tuple(beat for beat in beats if beat != arc.unheard))


def _give(arcs: list[list[_Arc]], struck: Sequence[Struck], one: Fit, known: _Known) -> None:
    """Let a step that was said stand: whatever else would take a sound of its stretch is out."""
    first, end = one.sounds[0], one.sounds[-1] + 1
    for before in range(end):
        arcs[before] = [arc for arc in arcs[before] if before >= first or before + arc.many <= first]
    for inside in range(first, end):
        arcs[inside] = []
    own = [struck[n] for n in one.sounds]
    places = _rhythm([s.place for s in own], known, one.beats)[1] or _spread([s.place for s in own], known, one.beats)
    missing = next((n for n in known.audible if n not in one.beats), None)
    arcs[first] = [_Arc(0.0, end - first, places, one.card, missing)]


def _spread(places: Sequence[Fraction], one: _Known, beats: Sequence[int]) -> tuple[Fraction, ...]:
    """Where the beats of a card lie of which some have a place: the others as far from the nearest of these as they
    usually are."""
    usual = one.rhythms[0] if one.rhythms else tuple(map(Fraction, range(len(one.kinds))))
    at = dict(zip(beats, places, strict=True))

    def lies(beat: int) -> Fraction:
        known = min(beats, key=lambda other: abs(other - beat))
        return at[known] + usual[beat] - usual[known]

    return tuple(map(lies, one.beats))


_FAR = 1e9


def _cheapest(arcs: Sequence[Sequence[_Arc]], many: int) -> list[float]:
    """What all up to each sound costs at least."""
    best = [0.0, *([_FAR] * many)]
    for first, here in enumerate(arcs):
        for arc in here:
            end = first + arc.many
            best[end] = min(best[end], best[first] + arc.cost)
    return best


def _cheapest_back(arcs: Sequence[Sequence[_Arc]], many: int) -> list[float]:
    """What all from each sound on costs at least."""
    best = [*([_FAR] * many), 0.0]
    for first in range(many - 1, -1, -1):
        best[first] = min((arc.cost + best[first + arc.many] for arc in arcs[first]), default=_FAR)
    return best


@lru_cache(maxsize=8_192)
def _arcs_of(
    before: Fraction | None, here: tuple[Struck, ...], tradition: str, shelf: Shelf, heard: bool
) -> tuple[_Arc, ...]:
    """The cards that could begin with the first of some sounds. As it hangs on these alone it is told once: of a
    draft that is put right most stays."""
    arcs = _arcs(here, _known(tradition, shelf), heard=heard)
    return tuple(arc for arc in arcs if _between(arc, before, here))


def _reach(tradition: str, shelf: Shelf) -> int:
    """So many sounds tell which cards begin with the first of them: those of the longest, one too many, and the
    next."""
    return max((len(one.beats) for one in _known(tradition, shelf)), default=0) + 2


def _arcs(here: Sequence[Struck], known: Sequence[_Known], *, heard: bool) -> Iterator[_Arc]:
    """The cards that could begin with a sound, each with what it costs there. Of a step that was heard one thing may
    be wrong: a sound of it that is missing, one in its midst that is none of it, one that was told wrongly."""
    for one in known:
        beats = one.audible if heard else one.beats
        if arc := _arc(one, beats, here[: len(beats)], mistold=heard):
            yield arc
        if heard:
            yield from _amiss(one, here)
    if heard:
        yield _Arc(TOO_MANY, 1)


def _between(arc: _Arc, before: Fraction | None, here: Sequence[Struck]) -> bool:
    """Whether what of a step lies before its first sound or after its last one, unheard, keeps clear of the sounds
    beside it."""
    if not arc.places:
        return True
    early, late = arc.places[0] < here[0].place, arc.places[-1] > here[arc.many - 1].place
    clear = not early or before is None or before < arc.places[0]
    return clear and (not late or arc.many >= len(here) or arc.places[-1] < here[arc.many].place)


def _amiss(one: _Known, sounds: Sequence[Struck]) -> Iterator[_Arc]:
    """A card of which a sound was not heard, or that has another in its midst."""
    beats = one.audible
    for unheard in beats if len(beats) > 1 else ():
        rest = tuple(beat for beat in beats if beat != unheard)
        if arc := _arc(one, rest, sounds[: len(rest)]):
            yield arc._replace(cost=arc.cost + UNHEARD, unheard=unheard)
    here = sounds[: len(beats) + 1]
    for extra in range(1, len(beats)) if len(here) > len(beats) else ():
        if arc := _arc(one, beats, [*here[:extra], *here[extra + 1 :]]):
            yield arc._replace(cost=arc.cost + TOO_MANY, many=len(here), extra=extra)


def _arc(one: _Known, beats: Sequence[int], here: Sequence[Struck], *, mistold: bool = False) -> _Arc | None:
    """Some beats of a card as some sounds, with what they cost but for what is missing or too many; None where they
    cannot be. `mistold`: one sound of several may have been told wrongly."""
    if len(here) < len(beats) or not beats:
        return None
    kinds = _kinds(here, [one.kinds[beat] for beat in beats], most=int(mistold and len(beats) > 1))
    if kinds is None or not _feet(here, [one.card.beats[beat].role for beat in beats]):
        return None
    # Both heels at once are a bounce rather than one foot's heel.
    kinds += STANDS_IN * (here[0].foot == "both" and one.card.beats[beats[0]].role != "2")
    rhythm, places = _rhythm([s.place for s in here], one, beats)
    quiet = INAUDIBLE * (len(one.beats) - len(one.audible)) if beats != one.beats else 0.0
    return None if places is None else _Arc(one.cost + kinds + rhythm + quiet, len(beats), places, one.card)


def _kinds(here: Sequence[Struck], wanted: Sequence[tuple[str, ...]], *, most: int) -> float | None:
    """What the kinds of sounds cost as those of some beats, of which so many at most may have been told wrongly; None
    where one cannot be."""
    cost, wrong = 0.0, 0
    for sound, kinds in zip(here, wanted, strict=True):
        if sound.kinds:
            # Its own kind comes first, then those that stand in for it.
            own, *_ = kinds
            ways = [
                LESS_LIKELY * n + STANDS_IN * (kind != own) for n, kind in enumerate(sound.kinds) if kind in kinds
            ]
            wrong += not ways
            if wrong > most:
                return None
            cost += min(ways, default=MISTOLD)
    return cost


def _feet(here: Sequence[Struck], roles: Sequence[str]) -> bool:
    """Whether the feet of sounds are those of beats: what is of one role on one foot, of the other on the other."""
    seen: dict[str, str] = {}
    for sound, role in zip(here, roles, strict=True):
        if not sound.foot:
            continue
        if (role == "2") != (sound.foot == "both") and (role == "2" or len(roles) > 1):
            return False
        if role in ("A", "B") and sound.foot != "both" and seen.setdefault(role, sound.foot) != sound.foot:
            return False
    return len(set(seen.values())) == len(seen)


def _rhythm(
    places: Sequence[Fraction], one: _Known, beats: Sequence[int]
) -> tuple[float, tuple[Fraction, ...] | None]:
    """How unusual a rhythm is for some beats of a card, and where all of them lie; None where that is not known, as
    one of them has no sound and the rhythm is none of its own."""
    whole = len(beats) == len(one.kinds)
    if len(places) == 1 and whole:
        return 0.0, tuple(places)
    cheapest: tuple[float, tuple[Fraction, ...] | None] = (UNKNOWN_RHYTHM, tuple(places) if whole else None)
    gaps = [b - places[0] for b in places]
    for usual in one.rhythms:
        for scale in SCALES:
            if [(usual[beat] - usual[beats[0]]) * scale for beat in beats] == gaps:
                own = tuple(places[0] + (place - usual[beats[0]]) * scale for place in usual)
                cost = 0.0 if scale == 1 else STRETCHED
                cost += OFF_THE_COUNT if (own[0] - usual[0]).denominator != 1 else 0.0
                if cost < cheapest[0]:
                    cheapest = cost, own
    return cheapest


@lru_cache(maxsize=16)
def _known(tradition: str, shelf: Shelf) -> tuple[_Known, ...]:
    """The cards of a tradition, and those of none, each as it is matched."""
    found = []
    for card in shelf.cards:
        if card.retired or (card.traditions and tradition not in card.traditions):
            continue
        found.append(_as_known(card, tradition))
    return tuple(found)


@lru_cache(maxsize=1024)
def _as_known(card: Card, tradition: str) -> _Known:
    """A card as it is matched in a tradition."""
    kinds = tuple((b.kind.name, *(o.name for o in b.others)) for b in card.beats)
    usual = tuple(dict.fromkeys(rhythms(card, tradition)))
    cost = WORD + (SINGLE if len(kinds) == 1 else 0.0) + HARDER * (card.level - 1)
    cost += 0.0 if card.traditions or card.primitive else ANY_TRADITION
    # Of two names for one sound, the sound's own.
    cost -= OWN_NAME if len(kinds) == 1 and card.name == kind_said(card.beats[0].kind.name) else 0.0
    audible = tuple(n for n, beat in enumerate(card.beats) if not beat.kind.silent)
    return _Known(card, tuple(range(len(kinds))), audible, kinds, usual, cost)
