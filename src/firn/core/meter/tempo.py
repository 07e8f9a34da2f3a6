"""Counts to seconds, at the edge where exact time ends."""

import math
from fractions import Fraction

SLOWEST, FASTEST = 20, 400


def seconds(position: Fraction, tempo: float) -> float:
    """Seconds from position 0 at `tempo` counts a minute. Raises ValueError unless tempo is above 0."""
    if not (math.isfinite(tempo) and tempo > 0):
        raise ValueError(f"tempo must be above 0, not {tempo}")
    return float(position * 60) / tempo


def samples(position: Fraction, tempo: float, rate: int) -> int:
    """The nearest sample to a position; exact, so that two renders are the same to the bit."""
    return round(position * 60 * rate / Fraction(tempo).limit_denominator(1000))
