"""Measures as they are written, with their repeats and endings, and as they are played."""

from collections.abc import Sequence
from fractions import Fraction

from msgspec import Struct

from firn.core.tune.tune import TuneError

MOST_PLAYED = 20_000


class Measure(Struct):
    """A bar as it is written: its length in whole notes, the section it lies in, whether a repeat begins before it or
    ends after it, the endings that it belongs to, and whether a double bar comes after it. `onsets`: where in it
    something begins to sound, in whole notes."""

    length: Fraction = Fraction(0)
    section: str = ""
    begins: bool = False
    ends: int = 1
    endings: tuple[int, ...] = ()
    double: bool = False
    onsets: tuple[Fraction, ...] = ()


def name_sections(measures: Sequence[Measure]) -> None:
    """Name the sections where the text has not: a new one begins where a repeat does, or after a double bar."""
    if any(m.section for m in measures):
        return
    letter, fresh = -1, True
    for measure in measures:
        if fresh or measure.begins:
            letter += 1
        measure.section = chr(ord("A") + letter) if letter < 26 else f"A{letter}"
        fresh = measure.double or (measure.ends > 1 and not measure.endings)


def played_of(measures: Sequence[Measure]) -> list[tuple[str, Fraction]]:
    """Measures as they are played, repeats and endings carried out, each with its section; a time through that is
    over is followed by an empty one."""
    over = ("", Fraction(0))
    return [over if one is None else (one.section, one.length) for one in in_order(measures)]


def in_order(measures: Sequence[Measure]) -> list[Measure | None]:
    """Measures in the order in which they are played; None after a time through that is over. Raises TuneError for
    more than `MOST_PLAYED`."""
    played: list[Measure | None] = []
    over = f"It has more than {MOST_PLAYED} bars, as it is played."
    start = 0
    number = 0
    while number < len(measures):
        if len(played) > 2 * MOST_PLAYED:
            raise TuneError(over)
        if measures[number].begins:
            start = number
        last = _end_of_repeat(measures, number)
        if last is None:
            played.append(measures[number])
            number += 1
            if measures[number - 1].double:
                # A repeat that is nowhere begun begins after it.
                played.append(None)
                start = number
            continue
        # A stretch that is repeated, from its beginning to past its last ending.
        times = max([measures[last].ends, *(n for m in measures[start : last + 1] for n in m.endings)])
        stop = last + 1
        while stop < len(measures) and measures[stop].endings and not measures[stop].begins:
            times = max([times, *measures[stop].endings])
            stop += 1
        if (stop - start) * times > MOST_PLAYED:
            raise TuneError(over)
        for time in range(1, times + 1):
            for measure in measures[start:stop]:
                if not measure.endings or time in measure.endings:
                    played.append(measure)
            played.append(None)
        number = start = stop
    return played


def _end_of_repeat(measures: Sequence[Measure], at: int) -> int | None:
    """Where the repeat ends that begins here or has begun; None where what comes first is another beginning, or a
    double bar, or nothing."""
    for number in range(at, len(measures)):
        if number > at and measures[number].begins:
            return None
        if measures[number].ends > 1:
            return number
        if measures[number].double:
            return None
    return None


def places_of(measures: Sequence[Measure], bar: Fraction, count: Fraction) -> tuple[Fraction, ...]:
    """Where measures sound, as they are played, in counts of so many whole notes from the first whole bar's 1; a
    first measure that is shorter than a bar leads up to it."""
    at = -measures[0].length if measures[0].length < bar and len(measures) > 1 else Fraction(0)
    places = []
    for measure in in_order(measures):
        if measure is None:
            continue
        places += [(at + onset) / count for onset in measure.onsets]
        at += measure.length
    return tuple(sorted(set(places)))
