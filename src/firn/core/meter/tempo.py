"""Counts to seconds: exact along a path of tempos, floating at the edge where exact time ends."""

import math
from collections.abc import Sequence
from fractions import Fraction
from itertools import pairwise

from msgspec import Struct

SLOWEST, FASTEST = 20, 400


def seconds(position: Fraction, tempo: float) -> float:
    """Seconds from position 0 at `tempo` counts a minute. Raises ValueError unless tempo is above 0."""
    if not (math.isfinite(tempo) and tempo > 0):
        raise ValueError(f"tempo must be above 0, not {tempo}")
    return float(position * 60) / tempo


LAST_TAPS = 9
"""So many taps make a tempo: what came before is of another."""


def tapped_tempo(taps_s: Sequence[float]) -> float | None:
    """Counts a minute of the last of some taps, in seconds, to a half: by the median of their spans, so that one that
    is left out or doubled does not count; None for fewer than two, or where that is no tempo."""
    spans = sorted(b - a for a, b in pairwise(taps_s[-LAST_TAPS:]))
    if not spans or spans[0] <= 0:
        return None
    middle = (spans[(len(spans) - 1) // 2] + spans[len(spans) // 2]) / 2
    tempo = round(2 * 60 / middle) / 2
    return tempo if SLOWEST <= tempo <= FASTEST else None


FINENESS = 1_000
"""A tempo is taken to be a fraction with a denominator of so much at most."""


class TempoPath(Struct, frozen=True):
    """A tempo that may change along counts: `steps` are positions, ascending, and the counts a minute from each on.

    The first holds before it, too.
    """

    steps: tuple[tuple[Fraction, Fraction], ...]

    @classmethod
    def steady(cls, tempo: float) -> "TempoPath":
        """One tempo throughout; raises ValueError unless it is above 0."""
        if not (math.isfinite(tempo) and tempo > 0):
            raise ValueError(f"tempo must be above 0, not {tempo}")
        return cls(((Fraction(0), Fraction(tempo).limit_denominator(FINENESS)),))

    @classmethod
    def rising(cls, start: float, end: float, first: Fraction, last: Fraction) -> "TempoPath":
        """From one tempo at `first` to another at `last`, by as much on each whole count between them."""
        counts = [Fraction(c) for c in range(math.ceil(first), math.ceil(last))] or [first]
        low, high = (Fraction(t).limit_denominator(FINENESS) for t in (start, end))
        if not (low > 0 and high > 0):
            raise ValueError(f"tempos must be above 0, not {start} and {end}")
        share = (high - low) / max(1, len(counts) - 1)
        return cls(tuple((count, low + share * number) for number, count in enumerate(counts)))

    def seconds(self, first: Fraction, place: Fraction) -> Fraction:
        """Exact seconds from one position to another, below 0 for an earlier one."""
        if len(self.steps) == 1:
            return (place - first) * 60 / self.steps[0][1]
        return self._since(place) - self._since(first)

    def _since(self, place: Fraction) -> Fraction:
        """Exact seconds from the first step to a position."""
        total, (at, tempo) = Fraction(0), self.steps[0]
        for following, faster in self.steps[1:]:
            if following >= place:
                break
            total += (following - at) * 60 / tempo
            at, tempo = following, faster
        return total + (place - at) * 60 / tempo

    def place(self, first: Fraction, seconds: Fraction) -> Fraction:
        """The position so many seconds after another."""
        left = self._since(first) + seconds if len(self.steps) > 1 else seconds
        at, tempo = self.steps[0]
        if len(self.steps) == 1:
            return first + seconds * tempo / 60
        for following, faster in self.steps[1:]:
            takes = (following - at) * 60 / tempo
            if left < takes:
                break
            left -= takes
            at, tempo = following, faster
        return at + left * tempo / 60
