"""Meters: how long a count is, how many make a bar, and how strong each place in it is."""

from collections.abc import Iterator
from fractions import Fraction
from functools import cached_property, lru_cache
from itertools import accumulate

from msgspec import Struct

from firn.core.pattern import late

_LEVELS_OF_BEATS = {1: (), 2: (2,), 3: (3,), 4: (2, 2)}

EVEN = {(2, 4), (2, 2), (3, 4), (4, 4), (6, 8), (9, 8), (12, 8)}
"""Meters whose bars divide evenly."""

GROUPS = {(5, 4): (3, 2), (5, 8): (3, 2), (7, 4): (4, 3), (7, 8): (2, 2, 3), (8, 8): (3, 3, 2), (10, 8): (3, 2, 2, 3),
          (11, 8): (2, 2, 3, 2, 2), (12, 4): (3, 3, 2, 2, 2)}  # fmt: skip
"""How additive meters are grouped where the teacher does not say (common practice; others group otherwise)."""

MOST_COUNTS, UNITS = 32, (2, 4, 8, 16)


class Meter(Struct, frozen=True, dict=True):
    """A meter such as 4/4, 6/8, or 7/8 grouped as 2+2+3; `beats` over `unit` as written.

    A count is what a foot taps: the unit in simple time, three units in compound time (6/8, 9/8, 12/8), and the unit
    where bars are grouped unevenly (`groups`, in counts). Raises ValueError for groups that do not make the bar.
    """

    beats: int
    unit: int
    groups: tuple[int, ...] = ()

    def __post_init__(self) -> None:
        if self.groups:
            fits = sum(self.groups) == self.beats <= MOST_COUNTS and min(self.groups) > 0 and self.unit in UNITS
            if not fits or len(self.groups) < 2:
                raise ValueError(f"{'+'.join(map(str, self.groups))} does not make {self.beats}/{self.unit}")
        elif (self.beats, self.unit) not in EVEN:
            raise ValueError(f"{self.beats}/{self.unit} needs to be grouped")

    @property
    def compound(self) -> bool:
        """Whether a count has three parts."""
        return self.unit == 8 and not self.groups

    @cached_property
    def counts(self) -> int:
        """Counts in a bar."""
        return self.beats // 3 if self.compound else self.beats

    @property
    def phrase(self) -> int:
        """Counts in a phrase where the teacher has not said: an eight, in three or an uneven meter two bars."""
        if self.groups:
            return self.counts * (2 if self.counts < 8 else 1)
        return 6 if self.counts == 3 else 8

    @cached_property
    def starts(self) -> frozenset[int]:
        """The counts of a bar, from 0, on which its groups begin; only the first of an even one."""
        return frozenset((0, *accumulate(self.groups[:-1]))) if self.groups else frozenset({0})

    def _divisions(self, step: Fraction) -> tuple[int, ...]:
        """How a count divides, top down, until a pulse lasts `step` counts; raises ValueError where it does not."""
        factors = []
        pulse = Fraction(1)
        if self.compound and pulse > step:
            factors.append(3)
            pulse /= 3
        while pulse > step:
            factor = 3 if (pulse / step) % 3 == 0 else 2
            factors.append(factor)
            pulse /= factor
        if pulse != step:
            raise ValueError(f"{self} has no pulse of {step} counts")
        return tuple(factors)

    def levels(self, step: Fraction) -> tuple[int, ...]:
        """How an even bar divides, top down, until a pulse lasts `step` counts; ValueError where it does not."""
        return (*_LEVELS_OF_BEATS[self.counts], *self._divisions(step))

    def weights(self, step: Fraction) -> tuple[int, ...]:
        """Metric weight of each pulse of a bar: minus the index of the highest level that begins on it.

        The bar is 0, its first division -1 and so on: Longuet-Higgins & Lee 1984, as laid out in
        Fitch & Rosenfeld 2007; the groups of an uneven bar are its first division. One value a pulse of `step`
        counts.
        """
        level = 0
        weights = [0]
        if self.groups:
            weights = [0 if not c else -1 if c in self.starts else -2 for c in range(self.counts)]
            level = 2
        for factor in self._divisions(step) if self.groups else self.levels(step):
            level += 1
            weights = [w for above in weights for w in (above, *[-level] * (factor - 1))]
        return tuple(weights)

    def weight(self, place: Fraction) -> int:
        """Metric weight of a place in counts from a bar's start; a place in thirds divides the count by 3."""
        return _weight(self, place % self.counts)

    def next_pulses(self, place: Fraction) -> Iterator[Fraction]:
        """The next place after this one of each level above its own, the bar's first."""
        step = _own_step(self, place)
        pulse = Fraction(self.counts)
        yield (place // pulse + 1) * pulse
        if self.groups:
            bar, inside = place - place % self.counts, place % self.counts
            yield bar + min((s for s in self.starts if s > inside), default=self.counts)
            pulse = Fraction(1)
            if step < 1:
                yield (place // 1 + 1) * pulse
        else:
            factors = _LEVELS_OF_BEATS[self.counts]
            for number, factor in enumerate(factors):
                pulse /= factor
                if step < 1 or number < len(factors) - 1:
                    yield (place // pulse + 1) * pulse
        for factor in self._divisions(step)[:-1]:
            pulse /= factor
            yield (place // pulse + 1) * pulse

    def __str__(self) -> str:
        said = f"{self.beats}/{self.unit}"
        return f"{said} as {'+'.join(map(str, self.groups))}" if self.groups else said


def _own_step(meter: Meter, place: Fraction) -> Fraction:
    """The length of the pulse that a place lies on."""
    step = Fraction(1, place.denominator)
    return step / 3 if meter.compound and step.denominator % 3 and step < 1 else step


@lru_cache(maxsize=4_096)
def _weight(meter: Meter, inside: Fraction) -> int:
    # From the top down to its own level, not over every pulse of the bar: a count may be divided finely.
    step = _own_step(meter, inside)
    if not inside:
        return 0
    level, pulse = 0, Fraction(meter.counts)
    factors = meter._divisions(step) if meter.groups else meter.levels(step)
    if meter.groups:
        if inside.denominator == 1:
            return -1 if inside in meter.starts else -2
        level, pulse = 2, Fraction(1)
    for factor in factors:
        level, pulse = level + 1, pulse / factor
        if not inside % pulse:
            break
    return -level


_METER = late(
    r"(?:(\d{1,2}) ?(?:/ ?(\d{1,2})|counts?))?(?: ?(?:as )?((?:\d{1,2} ?\+ ?)+\d{1,2}))?(?: ?/ ?(\d{1,2}))?"
)


def _named(text: str) -> tuple[int, int, tuple[int, ...]] | None:
    """The beats, unit and groups that a text names, whether or not there is such a meter."""
    said = " ".join(text.casefold().split())
    match = _METER.fullmatch(said)
    if match is None or not said or (match[1] and match[4]):
        return None
    groups = tuple(int(n) for n in match[3].split("+")) if match[3] else ()
    return int(match[1]) if match[1] else sum(groups), int(match[2] or match[4] or 4), groups


def misgrouped(text: str) -> str:
    """What is wrong with the groups that a text gives its meter, in words; "" where nothing is, or it gives none."""
    beats, _, groups = _named(text) or (0, 0, ())
    said = "+".join(map(str, groups))
    if groups and sum(groups) != beats:
        return f"{said} makes {sum(groups)}, not {beats}"
    return f"a group of 0 in {said}" if 0 in groups else ""


def parse_meter(text: str) -> Meter | None:
    """The meter that `text` names ("4/4", "7/8 as 2+2+3", "2+2+3/8", "12 counts as 3+3+2+2+2"), or None."""
    named = _named(text)
    if named is None:
        return None
    beats, unit, groups = named
    if not groups and (beats, unit) in GROUPS:
        groups = GROUPS[beats, unit]
    try:
        return Meter(beats, unit, groups)
    except ValueError:
        return None
