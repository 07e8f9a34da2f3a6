"""Bars that come again written once: repeats, and endings that differ the last time."""

from collections.abc import Hashable, Iterator, Mapping, Sequence
from fractions import Fraction
from itertools import groupby

from msgspec import Struct

MOST_SECTIONS = 16
"""So many sections may come again together."""
MOST_TIMES = 16
"""So often is a repeat danced at most: nobody counts farther."""
LEAST_ALIKE = Fraction(1, 2)
"""So much of what comes again is alike each time: where less is, it is other material."""


class WrittenBar(Struct, frozen=True):
    """A bar as it is written: which of those that are danced; whether a repeat begins before it; how often in all
    what comes before its end is danced (1: no repeat ends here); the times that its ending is for, and whether that
    begins or ends here."""

    bar: int
    begins: bool = False
    times: int = 1
    ending: tuple[int, ...] = ()
    opens: bool = False
    closes: bool = False


def written_bars(bars: Sequence[Hashable], starts: Sequence[int]) -> list[WrittenBar]:
    """How bars are written. `bars`: for each what is in it, equal for bars that are written alike; `starts`: those at
    which a section begins, in order. What is danced is the same: each bar as often, in the same order."""
    edges = [*starts, len(bars)]
    numbers = {edge: number for number, edge in enumerate(edges)}
    made: list[WrittenBar] = []
    at = 0
    while at < len(bars):
        found = _best(bars, edges, numbers, at) if at in numbers else None
        if found is None:
            made.append(WrittenBar(at))
            at += 1
        else:
            size, endings, alike = found
            made += _repeat(at, size, endings, alike)
            at += size * sum(len(times) for times, _ in endings)
    return made


_Endings = list[tuple[tuple[int, ...], int]]
"""The endings of a stretch: the times that each is for, from 1, and at which of these it is first danced."""


def _best(
    bars: Sequence[Hashable], edges: Sequence[int], numbers: Mapping[int, int], at: int
) -> tuple[int, _Endings, int] | None:
    """The repeat from a bar on that saves most: bars of once through, its endings, bars that are alike each time."""
    best, saved = None, 0
    here = numbers[at]
    for sections in range(1, min(MOST_SECTIONS, len(edges) - 1 - here) + 1):
        size = edges[here + sections] - at
        times, alike = 1, size
        while times < MOST_TIMES and (begin := at + times * size) in numbers and begin + size in numbers:
            same = _same(bars, at, begin, size)
            if same < size * LEAST_ALIKE:
                break
            times, alike = times + 1, min(alike, same)
            endings = _endings(bars, at, size, times, alike)
            less = size * times - alike - sum(size - alike for _ in endings)
            # Two endings, the second for the last time: what is more nobody reads at sight.
            plain = len(endings) == 1 or (len(endings) == 2 and len(endings[1][0]) == 1)
            if less > saved and plain:
                best, saved = (size, endings, alike), less
    return best


def _same(bars: Sequence[Hashable], at: int, other: int, size: int) -> int:
    """How many bars of two stretches are alike, from their first on."""
    return next((n for n in range(size) if bars[at + n] != bars[other + n]), size)


def _endings(bars: Sequence[Hashable], at: int, size: int, times: int, alike: int) -> _Endings:
    """The endings of a stretch that is danced so often: one for all where it ends alike."""
    ends = [tuple(bars[at + n * size + alike : at + (n + 1) * size]) for n in range(times)]
    runs = [list(run) for _, run in groupby(range(times), key=lambda n: ends[n])]
    return [(tuple(n + 1 for n in run), run[0]) for run in runs]


def _repeat(at: int, size: int, endings: _Endings, alike: int) -> Iterator[WrittenBar]:
    """A stretch with its repeat, and its endings where they differ."""
    if len(endings) == 1:
        times = len(endings[0][0])
        for n in range(size):
            yield WrittenBar(at + n, begins=n == 0, times=times if n == size - 1 else 1)
        return
    for n in range(alike):
        yield WrittenBar(at + n, begins=n == 0)
    for number, (ending, first) in enumerate(endings):
        last = number == len(endings) - 1
        for n in range(alike, size):
            closes = n == size - 1
            often = ending[-1] + 1 if closes and not last else 1
            yield WrittenBar(at + first * size + n, times=often, ending=ending, opens=n == alike, closes=closes)
