"""Finding steps: by any name, tradition, language, level, number of sounds, and by rhythm."""

from fractions import Fraction
from functools import lru_cache
from itertools import pairwise
from typing import Literal

from msgspec import Struct

from firn.core.meter.counting import Counting
from firn.core.script.places import said_places
from firn.core.steps.card import Card
from firn.core.steps.names import fold, nearest
from firn.core.steps.shelf import Shelf
from firn.errors import FirnError

Fit = Literal["", "same", "shifted", "end"]
"""How a card's rhythm fits the one that is looked for: on the same counts, with the same gaps elsewhere in the
count, or as the end of a longer one; "" where no rhythm is looked for."""

Rhythm = tuple[Fraction, ...]

_FITS: tuple[Fit, ...] = ("same", "shifted", "end")
COUNTING = Counting()


class RhythmError(FirnError):
    """Counts that cannot be looked for."""


class Wanted(Struct, frozen=True):
    """What is looked for; "" and 0 stand for anything. `rhythm`: counts as said, such as "& a 1".

    Cards that are no longer offered are found by their names alone.
    """

    text: str = ""
    tradition: str = ""
    language: str = ""
    level: int = 0
    sounds: int = 0
    rhythm: str = ""


class Found(Struct, frozen=True):
    """A card, the name by which it was found, the counts that fit or else its usual ones, and how they fit."""

    card: Card
    name: str
    counts: str
    fit: Fit = ""


def search(shelf: Shelf, wanted: Wanted) -> list[Found]:
    """The cards that are looked for, the likeliest first; raises RhythmError for counts that are none.

    Where no name holds what is typed, those nearest to it are found.
    """
    rhythm = wanted_rhythm(wanted.rhythm)
    ranked: list[tuple[tuple[bool, int, int, bool, str, bool], Found]] = []
    text = fold(wanted.text)
    for card in shelf.cards:
        if not _fits(card, wanted):
            continue
        how, name = _named(card, text, wanted.language)
        if how < 0:
            continue
        fitted = _rhythm_fit(card, wanted.tradition, rhythm) if rhythm else (card.usual_for(wanted.tradition), "")
        if fitted is None:
            continue
        counts, fit = fitted
        fits = _FITS.index(fit) if fit else 0
        rank = (card.retired, fits, how, card not in shelf.own, fold(name), name != card.name)
        ranked.append((rank, Found(card, name, counts, fit)))
    if not ranked and text:
        near = [n for name in nearest(text, shelf.by_name) for n in shelf.by_name[name]]
        ranked = [
            ((False, 0, n, False, "", False), Found(card, card.name, card.usual_for(wanted.tradition)))
            for n, card in enumerate(dict.fromkeys(near))
            if _fits(card, wanted) and not rhythm
        ]
    return [found for _, found in sorted(ranked, key=lambda r: r[0])]


def prepare(shelf: Shelf) -> None:
    """Work out every card's rhythm once, while nobody waits for it."""
    for card in shelf.cards:
        for texts in card.usual.values():
            for text in texts:
                heard_places(card, text)


def wanted_rhythm(text: str) -> Rhythm:
    """The places of counts as said; () for none. Raises RhythmError."""
    if not text.strip():
        return ()
    try:
        places = said_places(text, COUNTING)
    except ValueError as fault:
        raise RhythmError(f'"{text.strip()}" is not counts such as & a 1.') from fault
    if any(b <= a for a, b in pairwise(places)):
        raise RhythmError("Counts go up: & a 1, or 1 & 2.")
    return places


def _fits(card: Card, wanted: Wanted) -> bool:
    return (
        (not card.retired or bool(wanted.text))
        and (not wanted.tradition or not card.traditions or wanted.tradition in card.traditions)
        and (not wanted.level or card.level == wanted.level)
        and (not wanted.sounds or card.sounds == wanted.sounds)
        and (not wanted.language or any(a.language == wanted.language for a in card.also))
    )


def _named(card: Card, text: str, language: str) -> tuple[int, str]:
    """How well a card's names fit what is typed (0 best, -1 not at all), and the one that fits best."""
    names = [a.name for a in card.also if a.language == language] if language else [card.name, *card.aliases]
    if not text:
        return 0, names[0]
    best = (-1, card.name)
    for name in names:
        key = fold(name)
        how = (
            0 if key == text else 1 if key.startswith(text) else 2 if f" {text}" in key else 3 if text in key else -1
        )
        if how >= 0 and (best[0] < 0 or how < best[0]):
            best = how, name
    return best


@lru_cache(maxsize=8_000)
def heard_places(card: Card, counts: str) -> Rhythm:
    """Where a card sounds in some of its usual counts, silent moves left out."""
    places = said_places(counts, COUNTING)
    return tuple(p for p, beat in zip(places, card.beats, strict=False) if not beat.kind.silent)


def _rhythm_fit(card: Card, tradition: str, wanted: Rhythm) -> tuple[str, Fit] | None:
    """The usual counts of a card that fit best, and how."""
    usual = card.usual.get(tradition) or [text for texts in card.usual.values() for text in texts]
    fits = [(fit, text) for text in usual if (fit := rhythm_fit(heard_places(card, text), wanted))]
    if not fits:
        return None
    fit, text = min(fits, key=lambda f: _FITS.index(f[0]))
    return text, fit


def rhythm_fit(rhythm: Rhythm, wanted: Rhythm) -> Fit:
    """How a rhythm fits another; "" for not at all."""
    many = len(wanted)
    if len(rhythm) < many:
        return ""
    away = {a - b for a, b in zip(rhythm[-many:], wanted, strict=True)}
    if len(away) != 1:
        return ""
    whole = next(iter(away)).denominator == 1
    if len(rhythm) > many:
        return "end" if whole else ""
    return "same" if whole else "shifted"
