"""The foot that begins, said behind one of several clauses: two stamps, left first, three kicks, right first.

Common practice, no source.
"""

from collections.abc import Sequence

from firn.core.script import said as say
from firn.core.script.tokens import Sounds, is_name, is_said
from firn.core.script.tree import Bit, Group, Node, is_pause

_ONE_FOOT = frozenset(say.SIDES) - {"both"}
_FIRST = frozenset({"first", "primero"})
_OF = frozenset({"del"})
_PLACES = frozenset(say.WHERE)
_LINKS = say.AND | say.THEN


def led_each(nodes: Sequence[Node], _: Sounds) -> Sequence[Node]:
    """A line with "starting" and the foot right behind each clause that is followed by the foot that begins it, where
    several are, or steps come after it, or those before it have their own; one alone is said of all of the line."""
    nodes = _led_ahead(nodes)
    found = [one for at in range(1, len(nodes)) if (one := _led(nodes, at)) is not None]
    if not found:
        return nodes
    begins = _begins(nodes, found[0][0])
    own = any(_names_foot(node) for node in nodes[:begins])
    closes = found[0][2] + is_pause(nodes[-1]) >= len(nodes)
    if len(found) < 2 and closes and not own:
        return nodes
    made: list[Node] = []
    after = 0
    for pause, foot, end in found:
        column = foot.column
        made += [*nodes[after:pause], Bit("name", "starting", column, column), foot]
        after = end
    return [*made, *nodes[after:]]


def with_own(nodes: Sequence[Node], _: Sounds) -> Sequence[Node]:
    """A line with "con" for the "del" before the foot of a step: golpe del pie derecho."""
    made = list(nodes)
    for at in range(1, len(nodes) - 1):
        of, there = nodes[at], at + 1 + is_said(nodes, at + 1, say.FEET)
        # "detrás del izquierdo" is where a step goes.
        own = not is_name(nodes[at - 1], _PLACES)
        if own and isinstance(of, Bit) and is_name(of, _OF) and is_said(nodes, there, _ONE_FOOT):
            made[at] = Bit("name", "con", of.column, of.end)
    return made


def _led_ahead(nodes: Sequence[Node]) -> Sequence[Node]:
    """A line with a colon behind each foot that begins what follows it, said behind other steps: three heels, then
    starting left, four stamps."""
    if not any(is_name(node, say.STARTS) for node in nodes[1:]):
        return nodes
    made: list[Node] = []
    at = 0
    while at < len(nodes):
        before = nodes[at - 1] if at else None
        # Behind a comma it is said of what is before it.
        led = is_name(before, _LINKS) or (is_pause(before) and before.text != ",")
        there = at + 1 + is_said(nodes, at + 1, say.ON | say.WITH)
        there += is_said(nodes, there, say.THE)
        end = there + 1 + is_said(nodes, there + 1, say.FEET)
        foot, pause = (nodes[n] if n < len(nodes) else None for n in (there, end))
        follows = end + 1 < len(nodes) and not is_name(nodes[end + 1], _LINKS)
        ahead = led and is_name(nodes[at], say.STARTS) and is_pause(pause) and follows
        if ahead and isinstance(foot, Bit) and is_name(foot, _ONE_FOOT) and pause is not None:
            made += [foot, Bit("pause", ":", pause.column, pause.end)]
            at = end + 1
        else:
            made.append(nodes[at])
            at += 1
    return made if len(made) < len(nodes) else nodes


def _led(nodes: Sequence[Node], at: int) -> tuple[int, Bit, int] | None:
    """Where a pause stands behind which nothing is said but the foot that begins, that foot, and where that ends;
    None for any other token."""
    pause = nodes[at]
    if not is_pause(pause) or pause.text != ",":
        return None
    starts = is_said(nodes, at + 1, say.STARTS)
    there = at + 1 + starts
    there += starts and is_said(nodes, there, say.ON | say.WITH)
    there += is_said(nodes, there, say.THE)
    foot = nodes[there] if there < len(nodes) else None
    if not isinstance(foot, Bit) or not is_name(foot, _ONE_FOOT):
        return None
    end = there + 1 + is_said(nodes, there + 1, say.FEET)
    end += not starts and is_said(nodes, end, _FIRST)
    said = starts or is_said(nodes, end - 1, _FIRST)
    after = nodes[end] if end < len(nodes) else None
    closes = after is None or (is_pause(after) and ":" not in after.text) or is_name(after, _LINKS)
    return (at, foot, end) if said and closes else None


def _names_foot(node: Node) -> bool:
    """Whether a token is a foot, or holds one in brackets."""
    inside = node.items if isinstance(node, Group) else (node,)
    return any(is_name(one, _ONE_FOOT) for one in inside)


def _begins(nodes: Sequence[Node], end: int) -> int:
    """Where the clause begins that ends there."""
    at = end
    while at and not (is_pause(nodes[at - 1]) or is_name(nodes[at - 1], _LINKS)):
        at -= 1
    return at
