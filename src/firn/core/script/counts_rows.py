"""Rows that hold counts alone, over the steps that are on them or beneath these, as handouts print them.

Common practice, no source.
"""

from collections.abc import Sequence
from functools import lru_cache
from itertools import pairwise
from operator import attrgetter, itemgetter

from firn.core.pattern import late
from firn.core.script.beneath import CountsPut, Filled
from firn.core.script.counted import WALKED_ON
from firn.core.script.handout import Row
from firn.core.script.items import WordRun
from firn.core.script.stacked import NOTHING, RowItems, Stacked, row_items
from firn.core.steps.shelf import Shelf

_COUNTS = late(r"(?:and\b|[\s\d&aeiy,.|+-])*+")
_MANY = late(r"\s*+(\d{1,2})\s+(?=[^\W\d_]{2,}s\b|[A-Z]{2,}\b)")
_PARTED = ": "
"""What parts the counts of another row from the words that they are put before."""
_NOT_WALKED = "tap"
"""A tradition in which counts alone are no steps."""


def with_counts(lines: list[Stacked], rows: Sequence[Row], shelf: Shelf, tradition: str) -> list[Stacked]:
    """Lines, the counts of one that holds nothing else taken to the words of the next, if it has none; or of the one
    before, where each line of words has them beneath it. Where counts alone are steps, as lengths are, they must be
    as many as these words, or as their sounds."""
    if not any(map(attrgetter("own.counts_alone"), lines)) and not any(map(_are_counts, map(itemgetter(0), lines))):
        return lines
    walked = tradition in WALKED_ON
    lines = [*lines[:1], *(_so_many(line, over, shelf, tradition) for over, line in pairwise(lines))]
    read = [line.own for line in lines]
    counts = [_as_counts(line, shelf) if walked else line.own for line in lines]
    filled = [number for number, one in enumerate(read) if one.items]
    alone = {number for number in filled if counts[number].counts_alone}
    over = [(a, b) for a, b in pairwise(filled) if a in alone]
    beneath = [(a, b) for a, b in pairwise(filled) if b in alone]
    every = len(beneath) == len(alone) and all(_goes(counts[b], read[a], walked=walked) for a, b in beneath)
    turns = len(filled) == 2 * len(alone)
    fits = [all(_fits(counts[c], read[w]) for c, w in of) for of in ([(b, a) for a, b in beneath], over)]
    # Words and counts in turn; or so where counts are as many as the words over them, and not as those below.
    under = bool(alone) and every and (turns or fits == [True, False])
    pairs = beneath if under else over
    joined = list(lines)
    for before, after in pairs:
        row, of = (after, before) if under else (before, after)
        between = range(before + 1, after)
        near = under or not any(not rows[at][1].strip() for at in between)
        if near and _goes(counts[row], read[of], walked=walked) and joined[row].own is not NOTHING:
            joined[of] = _with_row(lines[of], lines[row].text, rows[row][0], shelf, tradition)
            joined[row] = Stacked("", NOTHING, doubts=lines[row].doubts)
    return joined


@lru_cache(maxsize=20_000)
def _are_counts(text: str) -> bool:
    return bool(text.strip()) and _COUNTS.fullmatch(text) is not None


def _so_many(line: Stacked, over: Stacked, shelf: Shelf, tradition: str) -> Stacked:
    """A line that begins with how many steps there are, 4 stamps, if there are as many counts over it."""
    begins = _MANY.match(line.text)
    if begins is None or not _are_counts(over.text):
        return line
    at = begins.end(1)
    text = f"{line.text[:at]}x{line.text[at:]}"
    own = row_items(text, shelf.for_line(text), tradition)
    counts = row_items(over.text, shelf, _NOT_WALKED)
    if not (counts.counts_alone and own.words_alone and _fits(counts, own)):
        return line
    return line._replace(text=text, own=own, filled=Filled(text, ((at, 1),), line.filled))


def _with_row(words: Stacked, row: str, number: int, shelf: Shelf, tradition: str) -> Stacked:
    """A line of words with the counts of another row, of the text's line `number`, before them."""
    text = words.text
    said = row.split("#")[0].rstrip()
    column = len(said) - len(said.lstrip())
    at = len(text) - len(text.lstrip())
    counted = f"{text[:at]}{said[column:]}{_PARTED}{text[at:]}"
    width = len(counted) - len(text)
    filled = Filled(counted, ((at, width),), words.filled, CountsPut(number, column, len(said)))
    return words._replace(text=counted, own=row_items(counted, shelf.for_line(counted), tradition), filled=filled)


def _as_counts(line: Stacked, shelf: Shelf) -> RowItems:
    """A line that holds counts alone as these, where they would be steps."""
    if _are_counts(line.text):
        return row_items(line.text, shelf, _NOT_WALKED)
    return line.own if line.own.counts_alone else NOTHING


def _paced(line: RowItems) -> bool:
    run = line.items[0] if line.items else None
    return isinstance(run, WordRun) and any(atom.pace for group in run.counts for atom in group.atoms)


def _goes(counts: RowItems, words: RowItems, *, walked: bool) -> bool:
    """Whether a line is counts alone, and another words without any, which must be as many where counts are steps."""
    if not counts.counts_alone or not words.words_alone or counts.faults:
        return False
    return not (walked or _paced(counts)) or _fits(counts, words)


def _fits(counts: RowItems, words: RowItems) -> bool:
    """Whether counts are as many as some steps, or as their sounds; or one sound may be on each of them."""
    said, run = counts.items[0], words.items[0] if len(words.items) == 1 else None
    if not isinstance(said, WordRun) or not isinstance(run, WordRun):
        return False
    many = sum(len(group.atoms) for group in said.counts)
    sounds = sum(len(word.card.beats) * word.times for word in run.words if word.card is not None)
    steps = sum(word.times for word in run.words)
    each = len(run.words) == 1 and sounds == 1 < many
    return each or many in (sounds, steps) or len(said.counts) == steps
