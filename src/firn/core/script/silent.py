"""Counts on which nothing sounds: in brackets among others, 1 2 3 (4) 5 6 7 (8) step; after their hold, 1 2 3 hold 4.

Common practice, no source.
"""

from collections.abc import Sequence

from msgspec.structs import replace

from firn.core.script import said as say
from firn.core.script.tokens import count_of, is_name, is_said
from firn.core.script.tree import GROUP, Bit, Counts, Group, Node, is_pause, is_word, number_alone, said_in

_NO, _SOUND = frozenset({"no", "sin"}), frozenset({"sound", "sounds", "sonido"})
_SILENT = frozenset({"silent", "nothing", "empty"})
_ONE = frozenset({"one", "un", "una", "uno"})
_STILL = frozenset({"there", "it", "still", "ahí", "ahi"})
_BUT = frozenset({"but", "pero"})
_HOLDS = frozenset(say.LASTS | _NO | _SILENT)


def holds_said(nodes: Sequence[Node]) -> Sequence[Node]:
    """A line's tokens with every hold of one count by its name alone: hold for a count, hold a beat, rest one, hold
    there; hold the 3; but hold 3; 3 silent, no sound on 3."""
    if said_in(nodes).isdisjoint(_HOLDS):
        return nodes
    made: list[Node] = []
    counted = any(isinstance(node, Counts) and node.text.casefold() not in say.ARTICLES for node in nodes)
    at = 0
    while at < len(nodes):
        node = nodes[at]
        if is_name(node, _BUT) and is_said(nodes, at + 1, say.LASTS):
            at += 1
            continue
        counted_ahead = at > 0 and count_of(nodes[at - 1]) is not None
        on = is_said(nodes, at + 1, say.ON) and (not at or is_pause(nodes[at - 1]))
        silent = is_said(nodes, at, _SILENT) and (counted_ahead or on)
        if isinstance(node, Bit) and (silent or (is_name(node, _NO) and is_said(nodes, at + 1, _SOUND))):
            made.append(Bit("name", "hold", node.column, nodes[at + (not silent)].end))
            at += 1 if silent else 2
            continue
        made.append(node)
        at += 1
        if isinstance(node, Bit) and is_name(node, say.LASTS):
            end = _one_count(nodes, at, counted=counted)
            if end > at:
                made[-1], at = replace(node, end=nodes[end - 1].end), end
    return made if len(made) < len(nodes) or any(a is not b for a, b in zip(made, nodes, strict=True)) else nodes


def _one_count(nodes: Sequence[Node], at: int, *, counted: bool) -> int:
    """Where what says no more of a hold than that it lasts for one count ends, from one token on."""
    there = at + is_said(nodes, at, say.FOR)
    one = nodes[there] if there < len(nodes) else None
    single = is_name(one, _ONE) or (isinstance(one, Counts) and one.text.casefold() in say.ARTICLES)
    if single and is_said(nodes, there + 1, say.COUNTED):
        return there + 2
    if is_name(one, _ONE) and not counted and (there + 1 == len(nodes) or is_pause(nodes[there + 1])):
        return there + 1
    if is_said(nodes, at, say.THE) and at + 1 < len(nodes) and number_alone(count_of(nodes[at + 1])) is not None:
        return at + 1
    return at + is_said(nodes, at, _STILL)


def but_silent(nodes: Sequence[Node]) -> Sequence[Node]:
    """A line's tokens without the counts that stand in brackets right beside others that do not."""
    if GROUP not in said_in(nodes):
        return nodes
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
    where steps are on the counts before it; 1-6 flaps, hold 7-8."""
    if said_in(nodes).isdisjoint(say.LASTS):
        return nodes
    made: list[Node] = []
    number, at = 0, 0
    while at < len(nodes):
        node = nodes[at]
        at += 1
        number = _from_to(node)[1] or number
        if number and is_name(node, say.LASTS):
            end, held = _goes_on(nodes, at, number)
            begins, ends = _bare(made)
            bare = made[begins:ends]
            # "hold 1, step 2": like every step before its count.
            parted = at == 1 or is_pause(nodes[at - 2])
            alone = len(held) == 1 and not bare and parted and not (held and _leads(nodes[0], held[0]))
            if held and len(bare) != 1 and not alone:
                made[begins:ends] = [n for c in bare for n in (c, Bit("name", "step", c.end, c.end))]
                if made and is_name(made[-1], say.AND):
                    # "2 stamp and hold 3".
                    made.pop()
                made.append(Bit("pause", ",", held[0].column, held[0].column))
                for count in held:
                    made += (count, node)
                number, at = _from_to(held[-1])[1] or number, end
                continue
        made.append(node)
    return made


def _leads(first: Node, held: Node) -> bool:
    """Whether a range leads a line, and a hold has one behind it: 1-6 flaps, hold 7-8."""
    return all(0 < a < b for a, b in map(_from_to, (first, held)))


def _from_to(node: Node) -> tuple[int, int]:
    """The first and the last count of a range, or one count twice; 0 for any other token."""
    number = number_alone(node)
    atom = node.atoms[0] if isinstance(node, Counts) and len(node.atoms) == 1 else None
    if number is None and atom is not None and atom.number is not None and atom.through is not None:
        return (atom.number, atom.through) if not atom.extra else (0, 0)
    return number or 0, number or 0


def _goes_on(nodes: Sequence[Node], at: int, number: int) -> tuple[int, list[Node]]:
    """The counts after a hold that are its own: they go on from a number, and no step after them can have them. Where
    they end, and the counts; none where there are none."""
    found: list[Node] = []
    ends: list[int] = []
    while is_said(nodes, at, say.ON | say.THE):
        at += 1
    while at < len(nodes) and _from_to(nodes[at])[0] == number % say.LAST_COUNT + 1:
        found.append(nodes[at])
        number = _from_to(nodes[at])[1]
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
