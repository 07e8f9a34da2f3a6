"""So many counts filled under a teacher's constraints: steps of a tradition in a row, proved by the checks.

The same seed fills them alike again.
"""

import random
from collections.abc import Sequence
from fractions import Fraction
from functools import lru_cache
from itertools import accumulate, pairwise
from typing import Literal

from msgspec import Struct

from firn.core.combos.in_a_row import Rows, Unit
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
        ends = [f"with the {self.ends} foot free"] if self.ends else []
        ends += ["facing the front"] if self.front else []
        said += [f"{' and '.join(ends)} at the end"] if ends else []
        said += [f"of level {self.level} at most"] if self.level else []
        said += [f"of {', '.join(self.steps)} alone"] if self.steps else []
        return " ".join(said)


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
    rows = Rows(_allowed(settings, wish, shelf), wish.counts, settings.counting.phrase, _flips(settings, wish))
    chance = random.Random(wish.seed)
    for _ in range(MOST_TRIES):
        if not rows.can_be:
            break
        row = rows.one(lambda unit: _weight(unit, wish), chance)
        if row is None:
            continue
        made = _written(row, settings)
        free, wrong = _proved(made, wish, shelf)
        if free:
            words = tuple(unit.word for unit in row)
            return Filled(made[0], made[1], made[2], words, free, _why(row, free, wish))
        for at in wrong:
            _leave_out(rows, row, at, settings, shelf)
    raise FillError(f"{_cap(wish.said)} cannot be filled with the steps of {settings.tradition or 'any tradition'}.")


def _flips(settings: Settings, wish: Wish) -> bool | None:
    return wish.ends != settings.lead if wish.ends else None


def _leave_out(rows: Rows, row: Sequence[Unit], wrong: Fraction, settings: Settings, shelf: Shelf) -> None:
    """Leave out what is wrong at a place: a step that is so alone, else these steps after each other."""
    ends = list(accumulate(unit.counts for unit in row))
    at = next((n for n, end in enumerate(ends) if wrong < end), len(row) - 1)
    # A sound before its count is the next step's.
    near = row[at : at + 2]
    bad = [u.word for u in near if not _proved(_written([u], settings), Wish(u.counts), shelf)[0]]
    if bad:
        rows.without(*bad)
        return
    for before, after in pairwise(row[max(0, at - 1) : at + 2]):
        rows.apart(before.word, after.word)


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


def _proved(
    made: tuple[str, tuple[tuple[str, str], ...], str], wish: Wish, shelf: Shelf
) -> tuple[str, list[Fraction]]:
    """The foot that is free at the end of what was filled; "" where the checks find anything wrong in it, and at
    which counts, where that is to be said."""
    piece: Piece = piece_from(made[0], shelf)
    if piece.problems:
        return "", []
    whole = unfold(piece)
    if whole.counts != wish.counts or (wish.ends and whole.free != wish.ends):
        return "", []
    wrong = [f for f in check(piece) if f.level != "ok" and f.code not in _WHOLE]
    if wrong:
        begins = {p.part.name: p.offset for p in whole.passes}
        return "", [begins[f.part] + f.place for f in wrong if f.part in begins and f.place is not None]
    turned = sum((p.turn for p in whole.passes), Fraction(0))
    return ("" if wish.front and turned.denominator != 1 else whole.free), []


_WHOLE = frozenset({"combo_off_phrase", "off_phrase", "length", "walls", "style_close"})
"""What is said of how long it is, or where it ends: that is what was asked for."""


def _why(row: Sequence[Unit], free: str, wish: Wish) -> tuple[str, ...]:
    sounds, between = sum(u.on + u.off for u in row), sum(u.off for u in row)
    kinds = len({u.word for u in row})
    said = [f"{kinds} different steps in {wish.counts} counts, {sounds} sounds, {between} of them between the beats"]
    said += [f"the {free} foot is free at the end"] if free in ("left", "right") else []
    said += [f"no step above level {max(u.level for u in row)}"]
    return tuple(said)
