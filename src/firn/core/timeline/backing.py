"""A plain backing in a piece's meter and feel: bass where bars and groups begin, chords between, a shaker on the &.

Common practice of dance bands in its simplest form, no source; its harmony is one of Firn's own.
"""

from collections.abc import Iterator
from fractions import Fraction
from typing import Literal

from msgspec import Struct

from firn.core.meter.counting import Counting

Instrument = Literal["bass", "chord", "shaker"]

_HOME, _FOURTH, _FIFTH = "home", "fourth", "fifth"
BARS = (_HOME, _HOME, _FOURTH, _HOME, _HOME, _FIFTH, _FIFTH, _HOME)
"""The harmony, a chord a bar, eight bars round."""

BASS: dict[str, tuple[int, int]] = {_HOME: (38, 45), _FOURTH: (43, 38), _FIFTH: (45, 40)}
"""The lowest note of each chord and the one it takes turns with, as keys of MIDI: D, G and A."""
CHORDS: dict[str, tuple[int, ...]] = {_HOME: (62, 66, 69), _FOURTH: (62, 67, 71), _FIFTH: (61, 64, 69)}

HALF, LAST_THIRD = Fraction(1, 2), Fraction(2, 3)


class Note(Struct, frozen=True):
    """What a backing plays at a position: the instrument, and which keys of MIDI (none for a shaker)."""

    position: Fraction
    instrument: Instrument
    keys: tuple[int, ...] = ()


def backing(counting: Counting, first: Fraction, end: Fraction) -> Iterator[Note]:
    """The backing from one count up to another, in order: its first bar is that of the first count."""
    bar, beat = -1, 0
    for count in range(int(-(-first // 1)), int(-(-end // 1))):
        place = Fraction(count)
        here, local = counting.here(place)
        inside = int(local % here.meter.counts)
        if inside == 0 or bar < 0:
            bar, beat = bar + 1, 0
        chord = BARS[bar % len(BARS)]
        low = _low(here, inside)
        if low:
            yield Note(place, "bass", (BASS[chord][beat % 2],))
            beat += 1
        if here.meter.compound:
            yield Note(place + LAST_THIRD, "chord", CHORDS[chord])
            continue
        if not low:
            yield Note(place, "chord", CHORDS[chord])
        yield Note(counting.position(place + HALF), "shaker")


def _low(counting: Counting, inside: int) -> bool:
    """Whether the bass plays on a count of a bar, from 0: each of compound time, every other of even bars, where
    groups begin in uneven ones, and the first of three."""
    meter = counting.meter
    if meter.compound:
        return True
    if meter.groups or meter.counts == 3:
        return inside in meter.starts
    return inside % 2 == 0
