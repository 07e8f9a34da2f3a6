"""Rows that hold counts alone, over the steps that are on them or beneath these, as handouts print them.

Common practice, no source.
"""

from collections.abc import Sequence
from itertools import pairwise

from msgspec.structs import replace

from firn.core.pattern import late
from firn.core.script.counted import WALKED_ON
from firn.core.script.handout import Row
from firn.core.script.items import WordRun
from firn.core.script.stacked import NOTHING, RowItems, Stacked, counts_alone, row_items
from firn.core.steps.shelf import Shelf

_COUNTS = late(r"(?:and\b|[\s\d&aeiy,.|+-])*+")
_NOT_WALKED = "tap"
"""A tradition in which counts alone are no steps."""


def with_counts(lines: Sequence[Stacked], rows: Sequence[Row], shelf: Shelf, tradition: str) -> list[RowItems]:
    """Lines read, the counts of a line that holds nothing else taken to the words of the next, if it has none; or of
    the one before, where each line of words has them beneath it. Where counts alone are steps, as lengths are, they
    must be as many as these words, or as their sounds."""
    read = [line.own for line in lines]
    walked = tradition in WALKED_ON
    counts = [_as_counts(line, shelf) if walked else line.own for line in lines]
    filled = [number for number, one in enumerate(read) if one.items]
    alone = {number for number in filled if counts_alone(counts[number])}
    over = [(a, b) for a, b in pairwise(filled) if a in alone]
    beneath = [(a, b) for a, b in pairwise(filled) if b in alone]
    every = len(beneath) == len(alone) and all(_goes(counts[b], read[a], walked=walked) for a, b in beneath)
    turns = len(filled) == 2 * len(alone)
    fits = [all(_fits(counts[c], read[w]) for c, w in of) for of in ([(b, a) for a, b in beneath], over)]
    # Words and counts in turn; or so where counts are as many as the words over them, and not as those below.
    under = bool(alone) and every and (turns or fits == [True, False])
    pairs = beneath if under else over
    joined = list(read)
    for before, after in pairs:
        row, of = (after, before) if under else (before, after)
        between = range(before + 1, after)
        near = under or not any(not rows[at][1].strip() for at in between)
        if not near or not _goes(counts[row], read[of], walked=walked) or joined[row] is NOTHING:
            continue
        said, run = counts[row].items[0], read[of].items[0]
        assert isinstance(said, WordRun) and isinstance(run, WordRun)
        spot = run.words[0]
        # What is said of these counts is said at the first word of their line.
        taken = tuple(replace(c, column=spot.column, end=spot.end) for c in said.counts)
        joined[row] = NOTHING
        first = counts[row].number if under else read[of].number
        joined[of] = RowItems((WordRun(taken, run.words),), read[of].faults, first)
    return joined


def _as_counts(line: Stacked, shelf: Shelf) -> RowItems:
    """A line that holds counts alone as these, where they would be steps."""
    if _COUNTS.fullmatch(line.text):
        return row_items(line.text, shelf, _NOT_WALKED)
    return line.own if counts_alone(line.own) else NOTHING


def _paced(line: RowItems) -> bool:
    run = line.items[0] if line.items else None
    return isinstance(run, WordRun) and any(atom.pace for group in run.counts for atom in group.atoms)


def _goes(counts: RowItems, words: RowItems, *, walked: bool) -> bool:
    """Whether a line is counts alone, and another words without any, which must be as many where counts are steps."""
    if not counts_alone(counts) or not words_alone(words) or counts.faults:
        return False
    return not (walked or _paced(counts)) or _fits(counts, words)


def _fits(counts: RowItems, words: RowItems) -> bool:
    """Whether counts are as many as some steps, or as their sounds."""
    said, run = counts.items[0], words.items[0] if len(words.items) == 1 else None
    if not isinstance(said, WordRun) or not isinstance(run, WordRun):
        return False
    many = sum(len(group.atoms) for group in said.counts)
    sounds = sum(len(word.card.beats) * word.times for word in run.words if word.card is not None)
    steps = sum(word.times for word in run.words)
    return many in (sounds, steps) or len(said.counts) == steps


def words_alone(line: RowItems) -> bool:
    """Whether a line holds steps without counts, and nothing else."""
    run = line.items[0] if len(line.items) == 1 else None
    return isinstance(run, WordRun) and bool(run.words) and not run.counts
