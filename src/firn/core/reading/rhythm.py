"""Which counts a part uses and leaves out, its timing family, how it goes in slows and quicks, and what is alike."""

from collections.abc import Iterable, Sequence
from fractions import Fraction
from itertools import pairwise
from math import lcm
from typing import Literal

from msgspec import Struct

from firn.core.meter.ticks import ticks, ticks_in_a_count
from firn.core.piece.piece import Part

Like = Literal["same", "shifted", "inside", "holds", "similar"]
"""How one rhythm is like another: on the same counts; the same, begun elsewhere; all of it inside the other; all of
the other inside it; or most of both together."""

SIMILAR = 0.8
"""Twice what two rhythms share over what both have, from which they are called similar."""


class Used(Struct, frozen=True):
    """A phrase's counts: the numbers that sound and those that do not, and the numbers after which something sounds
    between."""

    sounded: tuple[int, ...]
    silent: tuple[int, ...]
    between: tuple[int, ...]


def used(part: Part) -> list[Used]:
    """The counts of each phrase of a part; a pick-up stands with the phrase that it leads into."""
    phrase = part.settings.counting.phrase
    phrases = max(0, int(part.last_count // phrase) + 1) if part.sounds else 0
    whole: list[set[int]] = [set() for _ in range(phrases)]
    between: list[set[int]] = [set() for _ in range(phrases)]
    ticks = part.place_ticks
    for tick, sound in zip(ticks.at, part.sounds, strict=True):
        count, inside = divmod(tick, ticks.in_a_count)
        number = max(0, count // phrase)
        if sound.heard and not sound.layer and number < phrases:
            (between if inside else whole)[number].add(count)
    found = []
    for number in range(phrases):
        begin = int(part.first_count) if not number else number * phrase
        counts = range(begin, min((number + 1) * phrase, int(part.last_count) + 1))
        found.append(
            Used(
                tuple(c % phrase + 1 for c in counts if c in whole[number]),
                tuple(c % phrase + 1 for c in counts if c not in whole[number]),
                tuple(c % phrase + 1 for c in sorted(between[number])),
            )
        )
    return found


def family(one: Used) -> str:
    """The timing family of a phrase in words; "" for one that has no name."""
    counts = len(one.sounded) + len(one.silent)
    if counts < 4:
        return ""
    with_ands = ", with more between" if one.between else ""
    if not one.silent:
        return f"every count{with_ands}"
    if not one.sounded:
        return "only between the counts" if one.between else ""
    if all(n % 2 for n in one.sounded) and all(n % 2 == 0 for n in one.silent):
        return f"odd counts only{with_ands}"
    if all(n % 2 == 0 for n in one.sounded) and all(n % 2 for n in one.silent):
        return f"even counts only{with_ands}"
    if all(n % 4 == 0 for n in one.silent) and len(one.silent) == counts // 4:
        return f"three and a hold{with_ands}"
    return ""


class SlowQuick(Struct, frozen=True):
    """Changes of weight in slows and quicks: S and Q in order, and how many counts a quick lasts."""

    said: tuple[str, ...]
    quick: Fraction


def slow_quick(part: Part) -> SlowQuick | None:
    """A part's changes of weight, each a slow or a quick (half of it); None where other lengths occur, or one alone.

    The last lasts until the first comes again.
    """
    places = [s.place for s in part.sounds if s.changes_weight and not s.layer]
    if len(places) < 2 or part.counts <= 0:
        return None
    gaps = [b - a for a, b in pairwise([*places, places[0] + part.counts])]
    quick = min(gaps)
    if quick <= 0 or set(gaps) != {quick, 2 * quick}:
        return None
    return SlowQuick(tuple("Q" if g == quick else "S" for g in gaps), quick)


class Cycle(Struct, frozen=True):
    """A rhythm that comes again: its places within so many counts, in ticks of a count, ascending."""

    at: frozenset[int]
    counts: int
    ticks: int

    def finer(self, in_a_count: int) -> "Cycle":
        """The same with more ticks in a count; a multiple of what it has."""
        times = in_a_count // self.ticks
        return Cycle(frozenset(t * times for t in self.at), self.counts, in_a_count)


def cycle(places: Iterable[Fraction], counts: int) -> Cycle:
    """The cycle of some places in counts; raises ValueError for no counts."""
    if counts <= 0:
        raise ValueError(f"a rhythm must last a count or more, not {counts}")
    listed = list(places)
    in_a_count = ticks_in_a_count(listed)
    return Cycle(frozenset(t % (counts * in_a_count) for t in ticks(listed, in_a_count)), counts, in_a_count)


def part_cycle(part: Part) -> Cycle | None:
    """The cycle of what is heard of a part; None for one without counts or sounds."""
    places = [s.place for s in part.sounds if s.heard and not s.layer]
    return cycle(places, part.counts) if places and part.counts > 0 else None


class Likeness(Struct, frozen=True):
    """How a rhythm is like another, and by how many counts the other is to be moved to lie on it."""

    how: Like
    by: Fraction = Fraction(0)


def likeness(one: Cycle, other: Cycle) -> Likeness | None:
    """How a rhythm is like another; None where it is not.

    A shorter one is danced as often as the longer one needs; where neither fits into the other whole times, they are
    not alike.
    """
    one, other = _alike_long(one, other)
    if one.counts != other.counts or not one.at or not other.at:
        return None
    size = one.counts * one.ticks
    if one.at == other.at:
        return Likeness("same")
    if len(one.at) == len(other.at):
        shift = _rotation(one, other)
        if shift is not None:
            return Likeness("shifted", Fraction(shift, one.ticks))
    if one.counts * len(other.at) > MOST_TRIED:
        return None
    by_count = [(k * one.ticks, _moved(other.at, k * one.ticks, size)) for k in range(one.counts)]
    for shift, moved in by_count:
        if one.at < moved:
            return Likeness("inside", Fraction(shift, one.ticks))
        if moved < one.at:
            return Likeness("holds", Fraction(shift, one.ticks))
    share, shift = max((2 * len(one.at & moved) / (len(one.at) + len(moved)), -s) for s, moved in by_count)
    return Likeness("similar", Fraction(-shift, one.ticks)) if share >= SIMILAR else None


MOST_TRIED = 40_000
"""Counts times sounds up to which a rhythm is laid over another at every count."""


def _rotation(one: Cycle, other: Cycle) -> int | None:
    """By how many ticks the other is to be moved to be the one, the least; None where no turn of it is."""
    size = one.counts * one.ticks
    mine, theirs = sorted(one.at), sorted(other.at)
    gaps, others = ([b - a for a, b in pairwise([*at, at[0] + size])] for at in (mine, theirs))
    # Where the gaps of the one lie in those of the other, twice over: a search for text is the quickest.
    twice, wanted = (f",{','.join(map(str, row))}," for row in ([*others, *others[:-1]], gaps))
    shifts = []
    at = twice.find(wanted)
    while at >= 0:
        shifts.append((mine[0] - theirs[twice.count(",", 0, at)]) % size)
        at = twice.find(wanted, at + 1)
    return min(shifts, default=None)


def _moved(at: frozenset[int], by: int, size: int) -> frozenset[int]:
    return frozenset((t + by) % size for t in at)


def _alike_long(one: Cycle, other: Cycle) -> tuple[Cycle, Cycle]:
    """Two cycles in the same ticks, the shorter danced as often as the longer lasts where that comes out even."""
    in_a_count = lcm(one.ticks, other.ticks)
    one, other = one.finer(in_a_count), other.finer(in_a_count)
    return _as_long(one, other.counts), _as_long(other, one.counts)


def _as_long(one: Cycle, counts: int) -> Cycle:
    if counts <= one.counts or counts % one.counts:
        return one
    size = one.counts * one.ticks
    at = frozenset(t + size * n for t in one.at for n in range(counts // one.counts))
    return Cycle(at, counts, one.ticks)


def placed_in(rhythm: Sequence[Fraction], one: Cycle) -> Fraction | None:
    """The first place of a cycle from which a rhythm (a step's own places) lies in it, nothing between; else None."""
    if len(rhythm) < 2:
        return None
    first = rhythm[0]
    gaps = [p - first for p in rhythm]
    order = sorted(one.at)
    size = one.counts * one.ticks
    wanted = [g * one.ticks for g in gaps]
    if any(w.denominator != 1 for w in wanted) or len(order) < len(wanted):
        return None
    whole = [int(w) for w in wanted]
    for start, at in enumerate(order):
        # On the same division of its count as the step's own.
        if Fraction(at, one.ticks) % 1 != first % 1:
            continue
        theirs = [(order[(start + n) % len(order)] - at) % size for n in range(len(whole))]
        if theirs == whole:
            return Fraction(at, one.ticks)
    return None
