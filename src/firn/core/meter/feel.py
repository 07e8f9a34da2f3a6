"""Feel: where a place that is said lies when it sounds."""

import re
from fractions import Fraction

from msgspec import Struct


class Feel(Struct, frozen=True):
    """Long to short within a count: 1 is straight, 2 the swing of a triplet."""

    ratio: Fraction = Fraction(1)

    @property
    def straight(self) -> bool:
        return self.ratio == 1

    @property
    def swing(self) -> bool:
        """Whether the & is the third of a triplet."""
        return self.ratio == 2

    def position(self, place: Fraction) -> Fraction:
        """Where a place sounds, in counts.

        The & lies at r/(1+r) and e and a halfway through their halves (Friberg & Sundström 2002 give r
        as long to short). A place said in thirds lies there already.
        """
        # The fraction of a count has the denominator of its place; what is straight is asked for most.
        if place.denominator not in (2, 4, 8) or self.straight:
            return place
        inside = place % 1
        half = self.ratio / (1 + self.ratio)
        if inside <= Fraction(1, 2):
            warped = inside * 2 * half
        else:
            warped = half + (inside * 2 - 1) * (1 - half)
        return place - inside + warped

    def __str__(self) -> str:
        if self.straight:
            return "straight"
        return "swing" if self.swing else f"{self.ratio.numerator}:{self.ratio.denominator}"


STRAIGHT, SWING = Feel(), Feel(Fraction(2))


def parse_feel(text: str) -> Feel | None:
    """The feel that `text` names (straight, swing, or a ratio such as 3:2 from 1 to 4), or None."""
    word = text.strip().casefold()
    if word in ("straight", "even"):
        return STRAIGHT
    if word in ("swing", "triplet", "triplet swing"):
        return SWING
    match = re.fullmatch(r"(\d{1,2})\s*:\s*(\d{1,2})", word)
    if match and int(match[2]) and 1 <= (ratio := Fraction(int(match[1]), int(match[2]))) <= 4:
        return Feel(ratio)
    return None
