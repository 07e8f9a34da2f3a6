"""What is to be heard, before any of it is made: the layers of a mix, and the counts of a count-in."""

from dataclasses import dataclass
from fractions import Fraction

from firn.core.meter.counting import Counting

LEAST_COUNT_IN = 3


@dataclass(frozen=True, slots=True)
class Mixing:
    """What is heard: tempo in counts a minute, counts of count-in (0 for none), and which layers."""

    tempo: float = 120.0
    count_in: int = 4
    steps: bool = True
    counts: bool = True
    beats: bool = True
    swapped: bool = False
    rest: int = 0


def count_in_places(first: Fraction, counting: Counting, count_in: int) -> list[Fraction]:
    """The whole counts said before a stretch whose first sound lies at `first`.

    They begin on a bar or half phrase, are at least `count_in` - 1, and stop before the first sound: a count-in
    never runs over a pick-up.
    """
    if count_in <= 0:
        return []
    unit = counting.meter.counts if counting.meter.counts == 3 else 4
    wanted = max(LEAST_COUNT_IN, count_in - 1)
    start = (first - wanted) // unit * unit
    return [Fraction(c) for c in range(int(start), int(-(-first // 1)))]
