"""Counts in brackets among others, on which nothing sounds: 1 2 3 (4) 5 6 7 (8) step.

Common practice, no source.
"""

from collections.abc import Sequence

from firn.core.script.tokens import count_of
from firn.core.script.tree import Counts, Group, Node


def but_silent(nodes: Sequence[Node]) -> Sequence[Node]:
    """A line's tokens without the counts that stand in brackets right beside others that do not."""
    gone: set[int] = set()
    at = 0
    while at < len(nodes):
        end = at
        while end < len(nodes) and (isinstance(nodes[end], Counts) or _in_brackets(nodes[end])):
            end += 1
        silent = [n for n in range(at, end) if _in_brackets(nodes[n])]
        # "(1) stamp (2) clap" are the counts of the steps; "1 stamp (2) 3 clap" holds the one before.
        if 0 < len(silent) < end - at and (at == 0 or silent[0] > at):
            gone.update(silent)
        at = max(end, at + 1)
    return [node for n, node in enumerate(nodes) if n not in gone] if gone else nodes


def _in_brackets(node: Node) -> bool:
    """Whether a token is one count alone in brackets."""
    return isinstance(node, Group) and len(node.items) == 1 and count_of(node.items[0]) is not None
