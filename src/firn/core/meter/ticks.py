"""Exact places as whole numbers, where many are compared: fractions are slow."""

from collections.abc import Iterable, Sequence
from fractions import Fraction
from math import gcd, lcm

from msgspec import Struct

from firn.core.task import give_way


class Ticks(Struct, frozen=True):
    """Places as whole numbers, and how many make a count."""

    at: tuple[int, ...]
    in_a_count: int


def ticks_in_a_count(places: Iterable[Fraction]) -> int:
    """The fewest equal parts of a count on which all places fall; 1 for none."""
    give_way()
    return lcm(*{p.denominator for p in places})


def in_ticks(places: Sequence[Fraction], known: Ticks | None = None, same: int = 0) -> Ticks:
    """Places in the fewest parts of a count on which all of them fall, after the first `same` of others, `known`."""
    before = known.at[:same] if known is not None else ()
    parts = known.in_a_count if known is not None else 1
    in_a_count = lcm(parts // gcd(parts, *before), ticks_in_a_count(places))
    if in_a_count != parts:
        before = tuple(at * in_a_count // parts for at in before)
    return Ticks((*before, *ticks(places, in_a_count)), in_a_count)


def ticks(places: Sequence[Fraction], in_a_count: int) -> list[int]:
    """Places as numbers of those parts, exact; `in_a_count` must be a multiple of what `ticks_in_a_count` gives."""
    give_way()
    return [p.numerator * (in_a_count // p.denominator) for p in places]
