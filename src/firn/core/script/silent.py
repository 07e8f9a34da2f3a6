"""Counts on which nothing sounds: in brackets among others, 1 2 3 (4) 5 6 7 (8) step; after their hold, 1 2 3 hold 4.

Common practice, no source.
"""

from collections.abc import Sequence

from firn.core.script import said as say
from firn.core.script.tokens import count_of, is_name, is_said
from firn.core.script.tree import Bit, Counts, Group, Node, is_pause, is_word, number_alone


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


def held_after(nodes: Sequence[Node]) -> Sequence[Node]:
    """A line's tokens with every hold behind the counts that go on after it: 1 step 2 step hold 3; 1 2 3 hold 4,
    where steps are on the counts before it."""
    made: list[Node] = []
    number, at = 0, 0
    while at < len(nodes):
        node = nodes[at]
        at += 1
        number = number_alone(node) or number
        if number and is_name(node, say.LASTS):
            end, held = _goes_on(nodes, at, number)
            begins, ends = _bare(made)
            bare = made[begins:ends]
            # "hold 1, step 2": like every step before its count.
            alone = len(held) == 1 and not bare and (at == 1 or is_pause(nodes[at - 2]))
            if held and len(bare) != 1 and not alone:
                made[begins:ends] = [n for c in bare for n in (c, Bit("name", "step", c.end, c.end))]
                made.append(Bit("pause", ",", held[0].column, held[0].column))
                for count in held:
                    made += (count, node)
                number, at = number_alone(held[-1]) or number, end
                continue
        made.append(node)
    return made


def _goes_on(nodes: Sequence[Node], at: int, number: int) -> tuple[int, list[Node]]:
    """The counts after a hold that are its own: they go on from a number, and no step after them can have them. Where
    they end, and the counts; none where there are none."""
    found: list[Node] = []
    ends: list[int] = []
    while is_said(nodes, at, say.ON | say.THE):
        at += 1
    while at < len(nodes) and number_alone(nodes[at]) == number % say.LAST_COUNT + 1:
        found.append(nodes[at])
        number = number_alone(nodes[at]) or number
        at += 1
        ends.append(at)
        if is_said(nodes, at, say.AND) and at + 1 < len(nodes) and number_alone(nodes[at + 1]) == number + 1:
            at += 1
    if found and ends[-1] < len(nodes) and not is_pause(nodes[ends[-1]]):
        # "hold 4 5 step": the last of them is the step's, and those between are more steps.
        one = len(found) > 1 and is_word(nodes[ends[-1]])
        return (ends[0], found[:1]) if one else (at, [])
    return (ends[-1], found) if found else (at, [])


def _bare(made: Sequence[Node]) -> tuple[int, int]:
    """From where to where the counts lie that stand last, with no step said of them."""
    end = len(made)
    while end and is_pause(made[end - 1]):
        end -= 1
    at = end
    while at and number_alone(made[at - 1]) is not None:
        at -= 1
    said_of = at and is_word(made[at - 1]) and not is_name(made[at - 1], say.LASTS)
    return (end, end) if said_of else (at, end)
