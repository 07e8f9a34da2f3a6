"""Rows that belong together, as handouts print them: counts over the steps or under them, feet beneath.

Common practice, no source.
"""

from collections.abc import Sequence
from functools import lru_cache
from itertools import pairwise
from typing import NamedTuple

from msgspec.structs import replace

from firn.core.script.again import again_of
from firn.core.script.beneath import Footed, doubted, feet_row, footed, may_be_of, unfitting
from firn.core.script.choices import PLAIN
from firn.core.script.counts import atoms_of
from firn.core.script.items import Item, WordRun
from firn.core.script.problems import Problem
from firn.core.script.readings import Doubt, line_runs
from firn.core.script.tree import parse_line
from firn.core.steps.shelf import Shelf

Row = tuple[int, str]
"""A line of a text with its number."""


class RowItems(NamedTuple):
    """A line's runs of counts and words, what is wrong with it, and the first number in it, None for none."""

    items: tuple[Item, ...]
    faults: tuple[Problem, ...]
    number: int | None


@lru_cache(maxsize=20_000)
def row_items(text: str, shelf: Shelf, tradition: str) -> RowItems:
    """One line, in columns of that line."""
    _, brackets = parse_line(text)
    # With all that it is given as the readings give it: so it is kept.
    runs = line_runs(text, shelf, tradition, PLAIN)
    first = next((a.number for a in atoms_of(runs.items) if a is not None), None)
    return RowItems(tuple(runs.items), (*brackets, *runs.problems), first)


NOTHING = RowItems((), (), None)


class Stacked(NamedTuple):
    """A line as it is read: its text, with the feet of the row beneath it before its steps; what it holds by itself;
    where its feet are in the row as it stands; and what is in doubt of a row of feet."""

    text: str
    own: RowItems
    feet: Footed | None = None
    doubts: tuple[Doubt, ...] = ()


def with_feet(rows: Sequence[Row], shelf: Shelf, tradition: str, *, before: bool) -> list[Stacked]:
    """Lines with the feet that stand in a row beneath them, or beneath their counts; of such a row nothing is left.
    `before`: as lines were read before there were such rows."""
    found: list[Stacked] = []
    above: int | None = None
    for number, row in rows:
        if again_of(row) is not None:
            # What a line says of the one before it holds no words of its own.
            found.append(Stacked(row, row_items("", shelf, tradition)))
            above = None
            continue
        feet = None if before else feet_row(row)
        if feet is None or (above is None and not feet.named):
            found.append(Stacked(row, row_items(row, shelf.for_line(row), tradition)))
            alone = above is not None and _counts_alone(found[-1].own)
            above = len(found) - 1 if row.strip() and not alone else above
            continue
        steps = found[above] if above is not None else Stacked("", NOTHING)
        with_them = footed(steps.text, steps.own.items, feet)
        wrong = None if with_them is not None else unfitting(0, feet)
        doubt = doubted(number, row, feet, steps.own.items, fits=with_them is not None)
        doubts = () if doubt is None else (doubt,)
        if with_them is not None and above is not None:
            text = with_them.text
            found[above] = Stacked(text, row_items(text, shelf.for_line(text), tradition), with_them)
            found.append(Stacked("", NOTHING, doubts=doubts))
        elif steps.own.faults and may_be_of(steps.own.items, feet):
            # What is wrong with the steps is said of these.
            found.append(Stacked("", NOTHING))
        elif wrong is not None:
            found.append(Stacked("", RowItems((), (wrong,), None)))
        else:
            found.append(Stacked(row, row_items(row, shelf.for_line(row), tradition), doubts=doubts))
        above = None
    return found


def with_counts(read: Sequence[RowItems]) -> list[RowItems]:
    """Lines read, the counts of a line that holds nothing else taken to the words of the next, if it has none; or of
    the one before, where each line of words has them beneath it."""
    joined = list(read)
    filled = [number for number, one in enumerate(read) if one.items]
    under = _each_beneath([read[number] for number in filled])
    for before, after in pairwise(filled):
        counts, words = (after, before) if under else (before, after)
        if not (_counts_alone(read[counts]) and _words_alone(read[words])) or read[counts].faults:
            continue
        if not under and after != before + 1:
            continue
        said, run = read[counts].items[0], read[words].items[0]
        assert isinstance(said, WordRun) and isinstance(run, WordRun)
        spot = run.words[0]
        # What is said of these counts is said at the first word of their line.
        taken = tuple(replace(c, column=spot.column, end=spot.end) for c in said.counts)
        joined[counts] = NOTHING
        first = read[counts].number if under else read[words].number
        joined[words] = RowItems((WordRun(taken, run.words),), read[words].faults, first)
    return joined


def _each_beneath(read: Sequence[RowItems]) -> bool:
    """Whether lines are words and counts in turn, words first."""
    turns = zip(read[::2], read[1::2], strict=False)
    return len(read) > 1 and len(read) % 2 == 0 and all(_words_alone(a) and _counts_alone(b) for a, b in turns)


def _counts_alone(line: RowItems) -> bool:
    run = line.items[0] if len(line.items) == 1 else None
    return isinstance(run, WordRun) and bool(run.counts) and not run.words


def _words_alone(line: RowItems) -> bool:
    run = line.items[0] if len(line.items) == 1 else None
    return isinstance(run, WordRun) and bool(run.words) and not run.counts
