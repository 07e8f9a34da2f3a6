"""A rhythm that is sung before it has steps: syllables at counts, in lines of scat that have counts of their own."""

import re
from collections.abc import Iterator, Sequence

from msgspec.structs import replace

from firn.core.pattern import late
from firn.core.script.items import Item, Word, WordRun
from firn.core.script.places import Use
from firn.core.script.placing import opening, place_line
from firn.core.script.problems import Problem
from firn.core.script.settings import Settings
from firn.core.script.tree import Bit, Counts, Group, Node, is_word, parse_line
from firn.core.steps import kinds
from firn.core.steps.card import Beat, Card

LAYER = "scat"
SUNG = Card("sung", (), (), (Beat(kinds.SUNG, "-"),), {"": ("1",)}, "A syllable that has no step yet.")
"""What each syllable is danced as: it is said, and nothing strikes."""

_COUNTED = late(r"(?<!\w)\d|&")


def is_sung(text: str) -> bool:
    """Whether a line of syllables has counts of its own; letters alone may be syllables."""
    return _COUNTED.search(text.split("#")[0]) is not None


def sung_uses(
    rows: Sequence[tuple[int, str]], settings: Settings, *, beside: bool
) -> tuple[list[Use], list[Problem]]:
    """The syllables of some lines in their places, and what is wrong with them; "1 da & da-dum 2 -".

    `beside`: sung beside steps, where they are a layer of their own; else they are the part's rhythm.
    """
    items = [_items(row) for _, row in rows]
    entry = opening(items, settings.counting, settings.tradition)
    uses: list[Use] = []
    problems: list[Problem] = []
    for (number, _), row in zip(rows, items, strict=True):
        placed = place_line(row, settings.counting, entry, settings.tradition, settings.phrase is not None)
        layer = LAYER if beside else ""
        uses += [replace(use, line=number, layer=layer, voiced=beside) for use in placed.uses]
        problems += [problem.moved(number) for problem in placed.problems]
        entry = placed.after
    return uses, problems


def _flat(nodes: Sequence[Node]) -> Iterator[Counts | Bit]:
    """Tokens without the brackets that some stand in."""
    for node in nodes:
        if isinstance(node, Group):
            yield from _flat(node.items)
        else:
            yield node


def _items(row: str) -> list[Item]:
    """A line's counts, each with the syllables after it; a hyphen ties two of them."""
    runs: list[Item] = []
    counts: list[Counts] = []
    words: list[Word] = []
    for node in _flat(parse_line(row)[0]):
        if isinstance(node, Counts):
            if words:
                runs.append(WordRun(tuple(counts), tuple(words)))
                counts, words = [], []
            counts.append(node)
        elif is_word(node):
            words += [
                Word(part[0], SUNG, node.column + part.start(), node.column + part.end())
                for part in re.finditer(r"[^-–]+", node.text)
            ]
        elif isinstance(node, Bit) and node.kind == "mark" and words:
            words[-1] = replace(words[-1], level=1 if node.text == "!" else -1, end=node.end)
    if counts or words:
        runs.append(WordRun(tuple(counts), tuple(words)))
    return runs
