"""What is struck as notes and rests that can be written: counts divided, tuplets, dots."""

from collections.abc import Iterator, Sequence
from fractions import Fraction
from itertools import pairwise

from msgspec import Struct

from firn.core.score.score import Bar, Score, finest, quarters_of

TYPES = {
    Fraction(4): "whole", Fraction(2): "half", Fraction(1): "quarter", Fraction(1, 2): "eighth",
    Fraction(1, 4): "16th", Fraction(1, 8): "32nd", Fraction(1, 16): "64th", Fraction(1, 32): "128th",
    Fraction(1, 64): "256th",
}  # fmt: skip
"""Notes by how many quarters they last."""

MOST_PARTS = 64
"""A count is divided into so many at most; what is finer is moved to the nearest."""


class Note(Struct, frozen=True):
    """A note or rest as it is written: how long it sounds and is written, in quarters; its tuplet (so many in place
    of so many, and in the time of which), and whether that begins or ends; the sound, -1 for a rest."""

    sounds_q: Fraction
    written_q: Fraction
    actual: int = 1
    normal: int = 1
    begins: bool = False
    ends: bool = False
    sound: int = -1
    whole_bar: bool = False


def bar_notes(score: Score, bar: Bar, heard: Sequence[int]) -> Iterator[Note]:
    """A bar (from where to where, its meter) of one voice, whose sounds are given by their indexes."""
    begin, end, meter = bar
    quarter = quarters_of(meter)
    inside = [i for i in heard if begin <= score.sounds[i].place < end]
    if not inside and end - begin == meter.counts:
        yield Note((end - begin) * quarter, (end - begin) * quarter, whole_bar=True)
        return
    at = begin
    while at < end:
        until = min(end, Fraction(at // 1 + 1))
        mine = [i for i in inside if at <= score.sounds[i].place < until]
        yield from _count([(score.sounds[i].place - at, i) for i in mine], until - at, quarter)
        at = until


def _count(onsets: list[tuple[Fraction, int]], long: Fraction, quarter: Fraction) -> Iterator[Note]:
    """A count, or what of one lies in the bar, as notes and rests."""
    length = long * quarter
    # No note is shorter than the shortest that can be written.
    parts = min(MOST_PARTS, int(length / min(TYPES)), finest([at / long for at, _ in onsets])) if onsets else 1
    # One sound in a place: what falls together is of one strike.
    slots = {min(parts - 1, round(at / long * parts)): i for at, i in reversed(onsets)}
    normal = _normal(parts, length)
    unit = length / normal
    edges = [*sorted({0, *slots}), parts]
    made: list[Note] = []
    for first, last in pairwise(edges):
        sound = slots.get(first, -1)
        for size in _sizes(first, last, unit):
            written = size * unit
            sounds = written * Fraction(normal, parts)
            made.append(Note(sounds, written, parts if parts != normal else 1, normal, sound=sound))
            # The strike is short: what follows it is silence.
            sound = -1
    tuplet = parts != normal
    for number, one in enumerate(made):
        yield Note(
            one.sounds_q, one.written_q, one.actual, one.normal if tuplet else 1,
            tuplet and number == 0, tuplet and number == len(made) - 1, one.sound,
        )  # fmt: skip


def _normal(parts: int, length: Fraction) -> int:
    """In the time of how many plain notes so many fall."""
    base = 3 if length.numerator % 3 == 0 else 1
    normal = base
    while normal * 2 <= parts:
        normal *= 2
    # As many plain notes where they fit.
    return parts if parts % base == 0 and (parts // base) & (parts // base - 1) == 0 else normal


def _sizes(first: int, last: int, unit: Fraction) -> Iterator[int]:
    """A stretch of units as sizes that a note can have: powers of two, with a dot where the unit is a third."""
    at = first
    while at < last:
        size = 1
        while size * 2 <= last - at and at % (size * 2) == 0 and unit * size * 2 in TYPES:
            size *= 2
        if at == 0 and last - at == 3 and unit * 2 in TYPES:
            size = 3
        yield size
        at += size
