"""So many counts filled under a teacher's constraints: steps of a tradition in a row, proved by the checks.

The same seed fills them alike again.
"""

import random
from collections.abc import Iterator, Sequence
from fractions import Fraction
from functools import lru_cache
from typing import Literal

from msgspec import Struct

from firn.core.piece.build import part_from, piece_from
from firn.core.piece.piece import Piece
from firn.core.piece.unfold import unfold
from firn.core.reading.read import check
from firn.core.script.settings import Settings, write_settings
from firn.core.steps.card import Card
from firn.core.steps.shelf import Shelf, shipped
from firn.errors import FirnError

Ends = Literal["", "left", "right"]
Pace = Literal["", "busy", "sparse"]
Against = Literal["", "off", "on"]

MOST_COUNTS, MOST_TRIES = 256, 60
ALIKE = 2
"""So often in a row is a step danced at most."""


class FillError(FirnError):
    """Counts that cannot be filled so."""


class Wish(Struct, frozen=True):
    """What is wanted: so many counts; the foot that is free at the end, "" for either; facing the front then; steps
    up to a level, 0 for any; how thick, and how much between the beats; of `steps` alone, by name, () for any."""

    counts: int
    ends: Ends = ""
    front: bool = False
    level: int = 0
    pace: Pace = ""
    against: Against = ""
    steps: tuple[str, ...] = ()
    seed: int = 1

    @property
    def said(self) -> str:
        """The constraints in words."""
        said = [f"{self.counts} counts"]
        said += [f"with the {self.ends} foot free at the end"] if self.ends else []
        said += [f"of level {self.level} at most"] if self.level else []
        said += [f"of {', '.join(self.steps)} alone"] if self.steps else []
        return " ".join(said)


class Unit(Struct, frozen=True):
    """A step that fills whole counts: its word, how many counts, whether it then begins on the other foot, and how
    many of its sounds lie on counts and between them; `first`, `last`: the places of its first and last sound."""

    word: str
    counts: int
    flips: bool
    on: int
    off: int
    level: int
    turn: Fraction
    first: Fraction
    last: Fraction


class Filled(Struct, frozen=True):
    """Counts that are filled: the piece as text, its steps in order, the foot free at the end, and why it is so."""

    script: str
    parts: tuple[tuple[str, str], ...]
    combo: str
    words: tuple[str, ...]
    free: str
    why: tuple[str, ...]


@lru_cache(maxsize=16)
def units_of(settings: Settings, shelf: Shelf) -> tuple[Unit, ...]:
    """The steps of a piece's tradition that fill whole counts by themselves."""
    cards = dict.fromkeys(c for c in shelf.cards if _offered(c, settings.tradition))
    return tuple(unit for card in cards if (unit := _unit(card, settings, shelf)) is not None)


def _offered(card: Card, tradition: str) -> bool:
    if card.retired or not card.sounds or any(b.kind.limb != "foot" for b in card.beats if not b.kind.silent):
        return False
    return tradition in card.traditions if tradition else True


def _unit(card: Card, settings: Settings, shelf: Shelf) -> Unit | None:
    """A card from count 1 on, where it can stand by itself; None where it cannot."""
    if shelf.find(card.name, settings.tradition) is not card:
        return None
    part = part_from(card.name, f"1 {card.name}", settings, shelf)
    steady = part.footing.again in ("same", "other")
    if part.problems or part.footing.faults or not steady or len(part.uses) != 1:
        return None
    if part.sounds[0].place <= -1 or card.stance[:1] not in ((), ("together",), ("apart",)):
        return None
    heard = [s for s in part.sounds if s.heard]
    on = sum(s.place.denominator == 1 for s in heard)
    turn = sum((s.turn for s in part.sounds), Fraction(0))
    counts = max(int(part.last_count) + 1, card.counts)
    if counts < 1:
        return None
    first, last = part.sounds[0].place, part.sounds[-1].place
    flips = part.footing.again == "other"
    return Unit(card.name, counts, flips, on, len(heard) - on, card.level, turn, first, last)


def fill(settings: Settings, wish: Wish, shelf: Shelf | None = None) -> Filled:
    """So many counts filled; raises FillError with one sentence that names the constraints where they cannot be."""
    shelf = shelf or shipped()
    if not 1 <= wish.counts <= MOST_COUNTS:
        raise FillError(f"Between 1 and {MOST_COUNTS} counts are filled, not {wish.counts}.")
    units = _allowed(settings, wish, shelf)
    chance = random.Random(wish.seed)
    for row in _rows(units, wish, settings, chance):
        made = _written(row, settings)
        free = _proved(made, wish, shelf)
        if free:
            parts, combo = made[1], made[2]
            words = tuple(unit.word for unit in row)
            return Filled(made[0], parts, combo, words, free, _why(row, free, wish))
    raise FillError(f"{_cap(wish.said)} cannot be filled with the steps of {settings.tradition or 'any tradition'}.")


def _cap(text: str) -> str:
    return text[:1].upper() + text[1:]


def _allowed(settings: Settings, wish: Wish, shelf: Shelf) -> list[Unit]:
    units = [u for u in units_of(settings, shelf) if not wish.level or u.level <= wish.level]
    if wish.steps:
        wanted = {(card.name if (card := shelf.find(n, settings.tradition)) else n): n for n in wish.steps}
        known = {u.word for u in units_of(settings, shelf)}
        for name, said in wanted.items():
            if name not in known:
                raise FillError(f'"{said}" is no step of {settings.tradition} that fills whole counts by itself.')
        units = [u for u in units if u.word in wanted]
    units = [u for u in units if u.counts <= wish.counts and (not wish.front or u.turn.denominator == 1)]
    if not units:
        raise FillError(f"There is no step for {wish.said} in {settings.tradition or 'the library'}.")
    return units


def _weight(unit: Unit, wish: Wish) -> float:
    """How likely a step is taken."""
    thick = (unit.on + unit.off) / unit.counts
    weight = {"busy": thick**2, "sparse": 1 / (0.3 + thick) ** 2}.get(wish.pace, 1.0)
    share = unit.off / max(1, unit.on + unit.off)
    return weight * {"off": 0.05 + share**2, "on": 0.05 + (1 - share) ** 2}.get(wish.against, 1.0)


def _rows(units: Sequence[Unit], wish: Wish, settings: Settings, chance: random.Random) -> Iterator[list[Unit]]:
    """Random rows of steps that fill the counts and end on the right foot."""
    flips = bool(wish.ends) and wish.ends != settings.lead
    for _ in range(MOST_TRIES):
        row = _row(units, wish, settings.counting.phrase, chance)
        if row is None:
            continue
        if wish.ends and sum(u.flips for u in row) % 2 != flips:
            row = _turned_round(row, units, chance) or []
        if row:
            yield row


def _row(units: Sequence[Unit], wish: Wish, phrase: int, chance: random.Random) -> list[Unit] | None:
    row: list[Unit] = []
    left = wish.counts
    while left:
        # Within the phrase, where it can be; not before the last sound of the step before.
        room = phrase - (wish.counts - left) % phrase
        after = row[-1].last - row[-1].counts if row else Fraction(-1)
        # What would be danced a third time in a row is left out, unless there is nothing else.
        again = row[-1].word if len(row) >= ALIKE and row[-1].word == row[-ALIKE].word else ""
        fits = [u for u in units if u.counts <= left and u.first > after and (u.counts <= room or u.counts > phrase)]
        fits = [u for u in fits if u.word != again] or fits
        if not fits:
            return None
        unit = chance.choices(fits, [_weight(u, wish) for u in fits])[0]
        row.append(unit)
        left -= unit.counts
    return row


def _turned_round(row: list[Unit], units: Sequence[Unit], chance: random.Random) -> list[Unit] | None:
    """A row with one step in place of another that is as long, so that it ends on the other foot."""
    for at in chance.sample(range(len(row)), len(row)):
        others = [u for u in units if u.counts == row[at].counts and u.flips != row[at].flips]
        if others:
            return [*row[:at], chance.choice(others), *row[at + 1 :]]
    return None


def _written(row: Sequence[Unit], settings: Settings) -> tuple[str, tuple[tuple[str, str], ...], str]:
    """A row as parts of a phrase each, or a step more where one lies over the bar, and their combo."""
    phrase = settings.counting.phrase
    parts: list[tuple[str, str]] = []
    words: list[str] = []
    at = 0
    for number, unit in enumerate(row):
        words.append(f"{at % phrase + 1} {unit.word}")
        at += unit.counts
        if at % phrase == 0 or number == len(row) - 1:
            parts.append(("Fill" if not parts else f"Fill {len(parts) + 1}", "  ".join(words)))
            words = []
    combo = ", ".join(name for name, _ in parts)
    texts = "".join(f"\npart {name}\n{text}\n" for name, text in parts)
    return f"{write_settings(settings)}{texts}\ncombo\n{combo}\n", tuple(parts), combo


def _proved(made: tuple[str, tuple[tuple[str, str], ...], str], wish: Wish, shelf: Shelf) -> str:
    """The foot that is free at the end of what was filled; "" where the checks find anything wrong in it."""
    piece: Piece = piece_from(made[0], shelf)
    if piece.problems:
        return ""
    whole = unfold(piece)
    if whole.counts != wish.counts or (wish.ends and whole.free != wish.ends):
        return ""
    if any(found.level != "ok" and found.code not in _WHOLE for found in check(piece)):
        return ""
    turned = sum((p.turn for p in whole.passes), Fraction(0))
    return "" if wish.front and turned.denominator != 1 else whole.free


_WHOLE = frozenset({"combo_off_phrase", "off_phrase", "length", "walls", "style_close"})
"""What is said of how long it is, or where it ends: that is what was asked for."""


def _why(row: Sequence[Unit], free: str, wish: Wish) -> tuple[str, ...]:
    sounds, between = sum(u.on + u.off for u in row), sum(u.off for u in row)
    kinds = len({u.word for u in row})
    said = [f"{kinds} different steps in {wish.counts} counts, {sounds} sounds, {between} of them between the beats"]
    said += [f"the {free} foot is free at the end"] if free in ("left", "right") else []
    said += [f"no step above level {max(u.level for u in row)}"]
    return tuple(said)
