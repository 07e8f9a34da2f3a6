"""Meters: how long a count is, how many make a bar, and how strong each place in it is."""

import re
from fractions import Fraction
from functools import cached_property, lru_cache

from msgspec import Struct

_LEVELS_OF_BEATS = {1: (), 2: (2,), 3: (3,), 4: (2, 2)}


class Meter(Struct, frozen=True, dict=True):
    """A meter such as 4/4 or 6/8; `beats` over `unit` as written.

    A count is what a foot taps: the unit in simple time, three units in compound time (6/8, 9/8, 12/8).
    """

    beats: int
    unit: int

    def __post_init__(self) -> None:
        if (self.beats, self.unit) not in KNOWN:
            raise ValueError(f"not a meter that can be counted yet: {self.beats}/{self.unit}")

    @property
    def compound(self) -> bool:
        """Whether a count has three parts."""
        return self.unit == 8

    @cached_property
    def counts(self) -> int:
        """Counts in a bar."""
        return self.beats // 3 if self.compound else self.beats

    @property
    def count_quarters(self) -> Fraction:
        """Length of a count in quarter notes."""
        return Fraction(12 if self.compound else 4, self.unit)

    @property
    def phrase(self) -> int:
        """Counts in a phrase where the teacher has not said: an eight, in three two bars."""
        return 6 if self.counts == 3 else 8

    def levels(self, step: Fraction) -> tuple[int, ...]:
        """How the bar divides, top down, until a pulse lasts `step` counts (a half, a third, a quarter …).

        Raises ValueError where no such division exists.
        """
        levels = list(_LEVELS_OF_BEATS[self.counts])
        pulse = Fraction(1)
        if self.compound and pulse > step:
            levels.append(3)
            pulse /= 3
        while pulse > step:
            factor = 3 if (pulse / step) % 3 == 0 else 2
            levels.append(factor)
            pulse /= factor
        if pulse != step:
            raise ValueError(f"{self} has no pulse of {step} counts")
        return tuple(levels)

    def weights(self, step: Fraction) -> tuple[int, ...]:
        """Metric weight of each pulse of a bar: minus the index of the highest level that begins on it.

        The bar is 0, its first division -1 and so on: Longuet-Higgins & Lee 1984, as laid out in
        Fitch & Rosenfeld 2007. One value a pulse of `step` counts.
        """
        weights = [0]
        for level, factor in enumerate(self.levels(step), start=1):
            weights = [w for above in weights for w in (above, *[-level] * (factor - 1))]
        return tuple(weights)

    def weight(self, place: Fraction) -> int:
        """Metric weight of a place in counts from a bar's start; a place in thirds divides the count by 3."""
        return _weight(self, place % self.counts)

    def __str__(self) -> str:
        return f"{self.beats}/{self.unit}"


@lru_cache(maxsize=4_096)
def _weight(meter: Meter, inside: Fraction) -> int:
    step = Fraction(1, inside.denominator)
    if meter.compound and step.denominator % 3:
        step /= 3
    return meter.weights(step)[int(inside / step)]


KNOWN = {(2, 4), (2, 2), (3, 4), (4, 4), (6, 8), (9, 8), (12, 8)}


def parse_meter(text: str) -> Meter | None:
    """The meter that `text` names, or None."""
    match = re.fullmatch(r"\s*(\d{1,2})\s*/\s*(\d{1,2})\s*", text)
    if match is None or (beats := (int(match[1]), int(match[2]))) not in KNOWN:
        return None
    return Meter(*beats)
