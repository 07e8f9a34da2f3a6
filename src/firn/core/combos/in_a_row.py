"""Steps one after another that are so long together and end on the foot that is asked for, drawn by chance."""

import random
from collections.abc import Callable, Sequence
from fractions import Fraction

from msgspec import Struct

ALIKE = 2
"""So often in a row is a step danced at most."""


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


class Rows:
    """Rows of steps for so many counts, within the phrase where they can be. What was found wrong with one, alone or
    after another, is left out of the next."""

    def __init__(self, units: Sequence[Unit], counts: int, phrase: int, flips: bool | None) -> None:
        """`flips`: whether a row ends so that it would begin on the other foot, None for either."""
        self._units = list(units)
        self._counts, self._phrase = counts, phrase
        self._ends = {False, True} if flips is None else {flips}
        self._apart: set[tuple[str, str]] = set()
        self._plan()

    @property
    def can_be(self) -> bool:
        """Whether any steps are so long together, and end so."""
        return bool(self._left[self._counts] & self._ends)

    def without(self, *words: str) -> None:
        """Leave steps out from here on."""
        self._units = [u for u in self._units if u.word not in words]
        self._plan()

    def apart(self, before: str, after: str) -> None:
        """Never have these two after each other from here on."""
        self._apart.add((before, after))

    def one(self, weight: Callable[[Unit], float], chance: random.Random) -> list[Unit] | None:
        """A row; `weight`: how likely a step is taken. None where it came to where nothing fits."""
        row: list[Unit] = []
        left, flipped = self._counts, False
        while left:
            fits = [u for u in self._units if self._fits(u, left, flipped, row)]
            # What would be danced a third time in a row is left out, unless there is nothing else.
            again = row[-1].word if len(row) >= ALIKE and row[-1].word == row[-ALIKE].word else ""
            fits = [u for u in fits if u.word != again] or fits
            if not fits:
                return None
            unit = chance.choices(fits, [weight(u) for u in fits])[0]
            row.append(unit)
            left, flipped = left - unit.counts, flipped != unit.flips
        return row

    def _fits(self, unit: Unit, left: int, flipped: bool, row: Sequence[Unit]) -> bool:
        flipped = flipped != unit.flips
        if not self._lies(unit, left) or not {end != flipped for end in self._ends} & self._left[left - unit.counts]:
            return False
        if not row:
            return True
        # Not before the last sound of the step before.
        return unit.first > row[-1].last - row[-1].counts and (row[-1].word, unit.word) not in self._apart

    def _lies(self, unit: Unit, left: int) -> bool:
        """Whether a step lies in what is left, and in what is left of the phrase."""
        room = self._phrase - (self._counts - left) % self._phrase
        return unit.counts <= left and (not self._within or unit.counts <= room or unit.counts > self._phrase)

    def _plan(self) -> None:
        """How the last so many counts can leave the feet: as they were, the other way round, both, or not at all."""
        for self._within in (True, False):
            self._left: list[set[bool]] = [{False}]
            for left in range(1, self._counts + 1):
                lying = [u for u in self._units if self._lies(u, left)]
                self._left.append({end != u.flips for u in lying for end in self._left[left - u.counts]})
            if self.can_be:
                return
