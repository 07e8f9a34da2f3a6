"""What is asked of a line's tokens: which words follow, where gaps are wide, what is said before what."""

import re
from collections.abc import Iterator, Sequence
from itertools import pairwise

from firn.core.script import said as say
from firn.core.script.tree import Atom, Bit, Counts, Node

N_NUMBERS = re.compile(r"(?:[nN]\d{1,2})+")
"""As in 1n2."""


def is_name(node: Node | None, words: frozenset[str]) -> bool:
    """Whether a token is one of some words."""
    return isinstance(node, Bit) and node.kind == "name" and node.text.casefold() in words


def is_said(nodes: Sequence[Node], at: int, words: frozenset[str]) -> bool:
    """Whether a token of a line is there and one of some words."""
    return at >= 0 and is_name(nodes[at], words)


def count_of(node: Node) -> Counts | None:
    """A token as a count, in figures or in words; None for none."""
    if isinstance(node, Counts):
        return node
    if not isinstance(node, Bit) or node.kind != "name":
        return None
    word = node.text.casefold()
    if word in say.DIVISIONS:
        return division(say.DIVISIONS[word], node)
    return numbered(say.NUMBERS[word], node) if word in say.NUMBERS else None


def division(letter: str, at: Bit) -> Counts:
    """A division that is said as a word."""
    return Counts((Atom(None, letter, "", None),), letter, at.column, at.end)


def numbered(number: int, at: Bit) -> Counts:
    """A count that is said as a word."""
    return Counts((Atom(number, "", "", None),), str(number), at.column, at.end)


def names_from(nodes: Sequence[Node], at: int, *, pauses: bool = False) -> Iterator[Bit]:
    """The words from a token on, up to what is no word; over pauses too if asked."""
    for number in range(at, len(nodes)):
        node = nodes[number]
        if not isinstance(node, Bit) or node.kind not in ("name", "pause"):
            return
        if node.kind == "name":
            yield node
        elif not pauses:
            return


def reach(nodes: Sequence[Node], at: int, size: int) -> int:
    """How many tokens some words take, the pauses between them included."""
    used = 0
    while size:
        node = nodes[at + used]
        used += 1
        size -= isinstance(node, Bit) and node.kind == "name"
    return used


def counts_before(nodes: Sequence[Node]) -> Sequence[Node]:
    """A line in which every step is said before its counts, parted by pauses, as if they were said before it."""
    parts: list[list[Node]] = [[]]
    for node in nodes:
        if isinstance(node, Bit) and node.kind == "pause":
            parts.append([])
        else:
            parts[-1].append(node)
    parts = [part for part in parts if part]
    if len(parts) < 2 or not all(_ends_with_counts(part) for part in parts):
        return nodes
    made: list[Node] = []
    for part in parts:
        at = next(n for n, node in enumerate(part) if isinstance(node, Counts))
        made += [*part[at:], *part[:at]]
    return made


def _ends_with_counts(nodes: Sequence[Node]) -> bool:
    """Whether words come first, and then counts alone."""
    at = next((n for n, node in enumerate(nodes) if isinstance(node, Counts)), 0)
    words = all(isinstance(node, Bit) and node.kind == "name" for node in nodes[:at])
    return at > 0 and words and not is_name(nodes[at - 1], say.ON) and all(isinstance(n, Counts) for n in nodes[at:])


def wide_gaps(nodes: Sequence[Node]) -> frozenset[int]:
    """The columns of tokens that stand further from the one before than others of their line do."""
    gaps = {after.column: after.column - before.end for before, after in pairwise(nodes)}
    least = min(gaps.values(), default=0)
    return frozenset(column for column, gap in gaps.items() if gap > max(1, least))


def wide(nodes: Sequence[Node], names: Sequence[Bit]) -> bool:
    """Whether words stand further apart than others of their line do."""
    wide = wide_gaps(nodes)
    return any(name.column in wide for name in names[1:])
