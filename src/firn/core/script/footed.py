"""Feet that are said between a step and its count, or behind that: slide on R 1, step on 2 with the right, r. clap 3.

Common practice, no source.
"""

from collections.abc import Sequence

from msgspec.structs import replace

from firn.core.script import said as say
from firn.core.script.tokens import count_of, is_name, is_said
from firn.core.script.tree import Bit, Counts, Group, Node, is_pause, is_word, said_in

_SIDES = frozenset(say.SIDES)
_WITH = frozenset(say.WITH | say.ON)
MOST_COUNTS = 16
"""Tokens of counts that are said of one step."""


def feet_at_steps(nodes: Sequence[Node]) -> Sequence[Node]:
    """A line's tokens with each foot that is said beside a count right behind its step, as one word."""
    if said_in(nodes).isdisjoint(_SIDES):
        return nodes
    made: list[Node] = []
    at = 0
    # "R. toe L. heel": where the first is said before its step, so are the others.
    leads = _dotted(nodes, 0)
    while at < len(nodes):
        used, foot = _foot(nodes, at)
        before = made[-1] if made else None
        if foot is None or used == 1:
            made.append(nodes[at])
            at += 1
            continue
        following = nodes[at + used] if at + used < len(nodes) else None
        behind = _step_of_counts(made) if is_name(nodes[at], say.WITH) and not is_word(following) else 0
        if is_word(before) and not is_name(before, _SIDES) and _counts(following) and not is_name(following, say.AND):
            # "slide on R 1", "slide right foot 1", "slide r. 1".
            made.append(foot)
        elif behind:
            # "slide on 2 with the right".
            made[behind:behind] = [nodes[at], foot]
        elif _dotted(nodes, at) and is_word(following) and (leads or foot.text.islower() or not is_word(before)):
            # "r. kick (1) l. kick (2)"; "stamp R. Clap." ends there.
            made.append(foot)
        else:
            made += nodes[at : at + used]
        at += used
    return made


def _foot(nodes: Sequence[Node], at: int) -> tuple[int, Bit | None]:
    """How many tokens name a foot from one on, and that in one word; 0 and None for none."""
    there = at + is_said(nodes, at, _WITH)
    there += is_said(nodes, there, say.THE)
    there += is_said(nodes, there, say.FEET)
    side = nodes[there] if there < len(nodes) else None
    if not isinstance(side, Bit) or not is_name(side, _SIDES):
        return 0, None
    end = there + 1
    end += 1 if _dotted(nodes, there) else is_said(nodes, end, say.FEET)
    return end - at, replace(side, column=nodes[at].column, end=nodes[end - 1].end)


def _dotted(nodes: Sequence[Node], at: int) -> bool:
    """Whether a full stop right behind a letter cuts it short: r., l."""
    letter, dot = nodes[at], nodes[at + 1] if at + 1 < len(nodes) else None
    cut = isinstance(letter, Bit) and len(letter.text) == 1 and is_name(letter, _SIDES)
    return cut and is_pause(dot) and dot.text == "." and dot.column == letter.end


def _counts(node: Node | None) -> bool:
    """Whether a token is a count, in brackets or not."""
    if isinstance(node, Group):
        return bool(node.items) and all(isinstance(one, Counts) for one in node.items)
    return node is not None and count_of(node) is not None


def _step_of_counts(made: Sequence[Node]) -> int:
    """Where a foot belongs that is said behind the counts of a step: before the "on" that they are said with; 0 where
    none are."""
    counts = next((n for n, node in enumerate(reversed(made[-MOST_COUNTS:])) if not _is_listed(node)), 0)
    on = len(made) - counts - 1
    if not counts or not is_name(made[on], say.ON) or on < 1 or not is_word(made[on - 1]):
        return 0
    return 0 if is_name(made[on - 1], _SIDES | say.FEET) else on


def _is_listed(node: Node) -> bool:
    return is_name(node, say.THE | say.AND) or _counts(node)
