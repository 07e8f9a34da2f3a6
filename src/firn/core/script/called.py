"""What is called ahead of a line and belongs into it, or only leads on: silence on 4: 1 stamp 2 stamp 3 stamp.

Common practice, no source.
"""

from collections.abc import Sequence

from firn.core.script import said as say
from firn.core.script.tokens import is_name
from firn.core.script.tree import Bit, Counts, Node, is_pause, is_word, number_alone

_SIDES = frozenset(say.SIDES)
_WHERE = frozenset(say.WHERE)
_STEPS = frozenset({"step", "steps", "walk", "walks", "paso", "pasos"})
_NOW = frozenset({"now", "ahora"})


def as_called(nodes: Sequence[Node]) -> Sequence[Node]:
    """A line's tokens with what is called ahead of them in its place."""
    ahead = next((at for at, node in enumerate(nodes) if is_pause(node) or _is_colon(node)), 0)
    head, rest = nodes[:ahead], nodes[ahead + 1 :]
    if not head or not rest or not isinstance(rest[0], Counts):
        return nodes
    return _silent(head, rest) or _led_on(head, rest) or nodes


def is_now(head: Sequence[Node]) -> bool:
    """Whether some words only say what comes now: triple now, DS DS DS RS."""
    return len(head) > 1 and is_name(head[-1], _NOW) and all(is_word(node) for node in head)


def _is_colon(node: Node) -> bool:
    return isinstance(node, Bit) and node.text == ":"


def _silent(head: Sequence[Node], rest: Sequence[Node]) -> Sequence[Node]:
    """What follows with a count that is silent, where that is what is said ahead; () for anything else."""
    count = head[-1]
    number = number_alone(count)
    on = all(is_name(node, say.ON | say.FOR | say.THE) for node in head[1:-1])
    if not is_name(head[0], say.LASTS) or not isinstance(count, Counts) or number is None or not on:
        return ()
    later = (at for at, node in enumerate(rest) if isinstance(node, Counts) and (number_alone(node) or 0) > number)
    place = next(later, len(rest))
    return [*rest[:place], count, head[0], *rest[place:]]


def _led_on(head: Sequence[Node], rest: Sequence[Node]) -> Sequence[Node]:
    """What follows "and left," begun with that foot, or after "and back," stepped there; () for anything else."""
    if len(head) > 2 or not is_name(head[0], say.AND):
        return ()
    if len(head) == 1:
        # "and, 1 step": it leads to the count, as without a pause.
        return rest
    said = head[1]
    if is_name(said, _SIDES):
        first = next((at for at, node in enumerate(rest) if not isinstance(node, Counts)), len(rest))
        return [*rest[:first], said, *rest[first:]]
    if not is_name(said, _WHERE):
        return ()
    made: list[Node] = []
    for at, node in enumerate(rest):
        made.append(node)
        goes = at + 1 < len(rest) and is_name(rest[at + 1], _WHERE)
        if is_name(node, _STEPS) and not goes and isinstance(said, Bit):
            made.append(Bit("name", said.text, node.column, node.end))
    return made if len(made) > len(rest) else ()
