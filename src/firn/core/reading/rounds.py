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
