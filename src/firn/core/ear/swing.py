"""How long the first half of a count was danced against the second: straight is 1, the swing of a triplet 2."""

from collections.abc import Sequence
from fractions import Fraction

import numpy as np
from msgspec import Struct

from firn.core.ear.judged import Judged
from firn.core.piece.piece import Part
from firn.core.task import give_way

LEAST, LEAST_PLACES = 4, 3
"""Fewer counts with an & between two sounds say nothing, nor those of fewer places in the part: that is a slip."""

OFF = 0.15
"""A ratio is another where it differs by this share and more."""


class Swing(Struct, frozen=True):
    """Long to short as it was danced, the median over `n` counts, and as it is `meant`."""

    ratio: float
    meant: float
    n: int
    error: float

    @property
    def off(self) -> bool:
        """Whether it was clearly danced otherwise than meant."""
        away = abs(np.log(self.ratio / self.meant))
        return bool(away > np.log(1 + OFF) and away > 3 * self.error)


def swing_of(part: Part, judged: Sequence[Judged]) -> Swing | None:
    """The swing of a judged take; None where too few counts have their & between sounds on both counts."""
    heard: dict[tuple[int, Fraction], float] = {}
    for one in judged:
        if one.heard_s is not None:
            heard.setdefault((one.target.time, part.sounds[one.target.sounds[0]].place), one.heard_s)
    ratios = []
    places = set()
    for (time, place), at in heard.items():
        give_way()
        if place.denominator != 2:
            continue
        half = Fraction(1, 2)
        before = heard.get((time, place - half))
        after = heard.get((time, place + half))
        if after is None and place + half == part.first_count + part.counts:
            after = heard.get((time + 1, part.first_count))
        if before is not None and after is not None and before < at < after:
            ratios.append(np.log((at - before) / (after - at)))
            places.add(place)
    if len(ratios) < LEAST or len(places) < LEAST_PLACES:
        return None
    middle = float(np.median(ratios))
    error = 1.25 * float(np.std(ratios, ddof=1)) / float(np.sqrt(len(ratios)))
    meant = float(part.settings.counting.feel.ratio)
    return Swing(float(np.exp(middle)), meant, len(ratios), error)
