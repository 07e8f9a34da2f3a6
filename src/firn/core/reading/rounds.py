"""A part danced over and over against its phrase: where each time begins, and when it comes round."""

from math import lcm
from typing import Literal

from msgspec import Struct

from firn.core.piece.piece import Part
from firn.core.piece.versions import FOLLOWS


class Rounds(Struct, frozen=True):
    """A cycle of so many counts against phrases of others; `first`: the count of its phrase, from 0, that it begins
    on."""

    counts: int
    phrase: int
    first: int

    @property
    def times(self) -> int:
        """How many times it is danced until it begins where it began."""
        return lcm(self.counts, self.phrase) // self.counts

    @property
    def all(self) -> int:
        """Counts until it begins where it began."""
        return self.times * self.counts

    @property
    def begins(self) -> tuple[int, ...]:
        """The count of the phrase, from 0, on which each time begins."""
        return tuple((self.first + n * self.counts) % self.phrase for n in range(self.times))


def rounds(part: Part, against: int = 0) -> Rounds | None:
    """A part against its phrase, or against so many counts; None for one without counts."""
    if part.counts <= 0:
        return None
    phrase = against or part.settings.counting.phrase
    return Rounds(part.counts, phrase, int(part.first_count) % phrase)


RoundKind = Literal["canon", "relay", "follow"]


class Groups(Struct, frozen=True):
    """Groups that enter in turn with a part of so many counts, each so many counts (`apart`) after the one before.

    In canon each goes on over and over, in relay each dances once, the others waiting; a follow dances once what the
    lead does. `enters`: the count, from 0, on which each enters.
    """

    many: int
    counts: int
    phrase: int
    entry: RoundKind
    apart: int

    @property
    def enters(self) -> tuple[int, ...]:
        return tuple(self.apart * n for n in range(self.many))

    @property
    def all(self) -> int:
        """Counts until all have danced it once."""
        return self.enters[-1] + self.counts

    @property
    def together(self) -> int | None:
        """The count, from 0, from which all dance; None where they never do."""
        return self.enters[-1] if self.entry == "canon" or self.apart < self.counts else None

    @property
    def lined_up(self) -> bool:
        """Whether all begin on the same count of the phrase each time; a follow ends where a lead could begin."""
        if self.entry == "follow":
            return self.counts % self.apart == 0
        return self.counts % self.phrase == 0 or (self.entry == "canon" and self.phrase % self.counts == 0)


def groups(part: Part, many: int, entry: RoundKind = "canon") -> Groups | None:
    """Groups of a part: in canon a phrase apart, in relay as long as it is, a follow 4 counts after the lead.

    None for a part without counts.
    """
    if part.counts <= 0:
        return None
    phrase = part.settings.counting.phrase
    return Groups(many, part.counts, phrase, entry, {"canon": phrase, "relay": part.counts, "follow": FOLLOWS}[entry])


class Pace(Struct, frozen=True):
    """How thick a part is, count by count: the first whole count, and how many moments sound in each."""

    first: int
    sounds: tuple[int, ...]

    def a_second(self, tempo: float) -> tuple[float, ...]:
        """Sounds a second in each count at a tempo in counts a minute."""
        return tuple(n * tempo / 60 for n in self.sounds)


def pace(part: Part) -> Pace | None:
    """The pace of a part; None for one without sounds."""
    heard = {s.place for s in part.sounds if s.heard}
    if not heard:
        return None
    first = min(int(part.first_count), int(min(heard) // 1))
    many = [0] * (max(int(part.last_count), int(max(heard) // 1)) - first + 1)
    for place in heard:
        many[int(place // 1) - first] += 1
    return Pace(first, tuple(many))
