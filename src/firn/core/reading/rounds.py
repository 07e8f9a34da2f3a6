"""A part danced over and over against its phrase: where each time begins, and when it comes round."""

from math import lcm

from msgspec import Struct

from firn.core.piece.piece import Part


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


class Groups(Struct, frozen=True):
    """Groups that enter in turn with a part of so many counts.

    In canon each enters a phrase after the one before and goes on over and over; in relay each dances once, the
    others waiting. `enters`: the count, from 0, on which each enters.
    """

    many: int
    counts: int
    phrase: int
    relay: bool

    @property
    def enters(self) -> tuple[int, ...]:
        step = self.counts if self.relay else self.phrase
        return tuple(step * n for n in range(self.many))

    @property
    def together(self) -> int | None:
        """The count, from 0, from which all dance; None in relay."""
        return None if self.relay else self.enters[-1]

    @property
    def lined_up(self) -> bool:
        """Whether all begin on the same count of the phrase, each time that they begin."""
        return self.counts % self.phrase == 0 or (not self.relay and self.phrase % self.counts == 0)


def groups(part: Part, many: int, *, relay: bool = False) -> Groups | None:
    """Groups of a part; None for one without counts."""
    return Groups(many, part.counts, part.settings.counting.phrase, relay) if part.counts > 0 else None


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
