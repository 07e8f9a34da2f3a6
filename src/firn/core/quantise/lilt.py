"""How long the first of two is against the second: measured, not chosen."""

from collections.abc import Sequence
from fractions import Fraction

import numpy as np
from msgspec import Struct

from firn.core.meter.line import FloatArray
from firn.core.quantise.quantise import Quantised

BETWEEN = (0.46, 0.8)
"""Shares of a count in which the second of two lies."""

LEAST = 3
"""Fewer such counts say nothing."""

EVEN, SWUNG, DOTTED = Fraction(1, 2), Fraction(2, 3), Fraction(3, 4)
PLAIN = 0.03
"""So near to a half, two thirds or three quarters of a count it is that; between, it is asked."""


class Lilt(Struct, frozen=True):
    """Where the second of two sounds in a count lies, as a share of it (the middle of `n` counts, which differ by
    `spread`), and as a ratio of the first to the second. `asked`: whether it lies between what is written."""

    share: float
    n: int
    spread: float

    @property
    def ratio(self) -> float:
        return self.share / (1 - self.share)

    @property
    def asked(self) -> bool:
        return min(abs(self.share - float(s)) for s in (EVEN, SWUNG, DOTTED)) > PLAIN


def lilt(times_s: Sequence[float] | FloatArray, read: Quantised) -> Lilt | None:
    """The lilt of counts that hold two sounds, the first on the count; None where fewer than three do."""
    counts = read.line.counts(np.asarray(times_s, dtype=np.float64))
    inside: dict[int, list[int]] = {}
    for index, place in enumerate(read.places):
        inside.setdefault(int(place // 1), []).append(index)
    shares = []
    for count, sounds in inside.items():
        if len(sounds) == 2 and read.places[sounds[0]] == count:
            share = float(counts[sounds[1]] - counts[sounds[0]])
            if BETWEEN[0] <= share <= BETWEEN[1]:
                shares.append(share)
    if len(shares) < LEAST:
        return None
    return Lilt(float(np.median(shares)), len(shares), float(np.std(shares)))
