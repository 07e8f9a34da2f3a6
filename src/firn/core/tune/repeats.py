"""Measures as they are written, with their repeats and endings, and as they are played."""

import re
from collections.abc import Sequence
from fractions import Fraction
from typing import Literal

from msgspec import Struct

from firn.core.tune.tune import TuneError

MOST_PLAYED = 20_000


Mark = Literal["segno", "coda", "coda after", "to coda", "fine", "da capo", "dal segno"]
"""What says where to go on: a sign before a bar, or after it (a coda that is left for, fine, da capo, dal segno)."""

_MARKS: tuple[tuple[Mark, re.Pattern[str]], ...] = (
    ("da capo", re.compile(r"d\.? ?c\.?( al (fine|coda))?|da ?capo( al (fine|coda))?")),
    ("dal segno", re.compile(r"d\.? ?s\.?( al (fine|coda))?|dal ?segno( al (fine|coda))?")),
    ("to coda", re.compile(r"to coda|da ?coda")),
    ("fine", re.compile(r"(al )?fine")),
    ("segno", re.compile(r"segno")),
    ("coda", re.compile(r"coda")),
)


def mark_of(said: str) -> Mark | None:
    """The mark that some words are: D.C. al Fine; None for any others."""
    words = " ".join(said.casefold().split()).rstrip(".")
    known = (mark for mark, pattern in _MARKS if pattern.fullmatch(words) or pattern.fullmatch(f"{words}."))
    return next(known, None)


class Measure(Struct):
    """A bar as it is written: its length in whole notes, the section it lies in, whether a repeat begins before it or
    ends after it, the endings that it belongs to, and whether a double bar comes after it. `onsets`: where in it
    something begins to sound, in whole notes. `marks`: what says where to go on from it."""

    length: Fraction = Fraction(0)
    section: str = ""
    begins: bool = False
    ends: int = 1
    endings: tuple[int, ...] = ()
    double: bool = False
    onsets: tuple[Fraction, ...] = ()
    marks: frozenset[Mark] = frozenset()


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
    more than `MOST_PLAYED`.

    After a da capo or dal segno nothing is repeated and the last endings are played, up to the fine, or on from the
    coda: common practice. At the end of a tune without either it says that it is played again, as every dance tune
    is, and is left.
    """
    jump = next((n for n, m in enumerate(measures) if m.marks & {"da capo", "dal segno"}), None)
    ends = any(m.marks & {"fine", "coda", "coda after", "to coda"} for m in measures)
    if jump is None or (jump == len(measures) - 1 and not ends):
        return _with_repeats(measures)
    segno = next((n for n, m in enumerate(measures) if "segno" in m.marks), 0)
    back = segno if "dal segno" in measures[jump].marks else 0
    played = [*_with_repeats(measures[: jump + 1]), None]
    codas = [n for n, m in enumerate(measures) if m.marks & {"coda", "coda after"}]
    for number in range(back, jump + 1):
        one = measures[number]
        # Where two codas stand, the first is left for the last.
        leaves = len(codas) > 1 and number == codas[0]
        if leaves and "coda" in one.marks:
            return [*played, None, *_with_repeats(measures[codas[-1] :])]
        if one.endings and max(one.endings) < _last_ending(measures, number):
            continue
        played.append(one)
        if "fine" in one.marks:
            return played
        if codas and (leaves or "to coda" in one.marks):
            return [*played, None, *_with_repeats(measures[codas[-1] :])]
    after = measures[jump + 1 :]
    return [*played, None, *_with_repeats(after)] if after else played


def _last_ending(measures: Sequence[Measure], at: int) -> int:
    """The last of the endings that stand side by side with that of a measure."""
    first = last = at
    while first and measures[first - 1].endings:
        first -= 1
    while last + 1 < len(measures) and measures[last + 1].endings:
        last += 1
    return max(n for m in measures[first : last + 1] for n in m.endings)


def _with_repeats(measures: Sequence[Measure]) -> list[Measure | None]:
    """Measures with their repeats and endings carried out."""
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
