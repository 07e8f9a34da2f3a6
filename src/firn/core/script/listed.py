"""Lines as a syllabus or a message has them: numbered lists, a head of so many counts, a star for times.

Common practice, no source.
"""

from collections.abc import Sequence
from itertools import pairwise, takewhile

from msgspec.structs import replace

from firn.core.script import said as say
from firn.core.script.tokens import is_name
from firn.core.script.tree import Atom, Bit, Counts, Group, Node, is_pause, is_word, number_alone

_NUMBERED = frozenset({".", ")", "...", "…"})
"""Said right after a number that stands for its place in a list."""

_SIDES = frozenset(say.SIDES)
_HYPHENS = ("-", "–")
_IN = frozenset({"in", "over", "en"})


def as_listed(nodes: Sequence[Node]) -> Sequence[Node]:
    """A line's tokens as they would be written in full."""
    listed = _counts_headed(_steps_headed(_numbered(_coloned(_hyphened(_in_cells(_plus_as_and(_e_as_and(nodes))))))))
    return _one_after_another(_starred(listed))


def _e_as_and(nodes: Sequence[Node]) -> Sequence[Node]:
    """With the "e" between two feet for the "and" that it is in Spanish: derecha e izquierda."""
    made = list(nodes)
    for at in range(1, len(nodes) - 1):
        node = nodes[at]
        feet = all(is_name(nodes[beside], _SIDES) for beside in (at - 1, at + 1))
        if feet and isinstance(node, Counts) and node.text == "e":
            made[at] = Bit("name", "y", node.column, node.end)
    return made


def _plus_as_and(nodes: Sequence[Node]) -> Sequence[Node]:
    """With an & for each plus that stands between counts, or after them where others do: 1 + 2 + flap flap."""
    between = [
        isinstance(one, Counts)
        and isinstance(bit, Bit)
        and bit.text == "+"
        and isinstance(other, Counts)
        and other.column > bit.end
        for one, bit, other in zip(nodes, nodes[1:], nodes[2:], strict=False)
    ]
    if not any(between):
        return nodes
    made: list[Node] = []
    for at, node in enumerate(nodes):
        counted = at > 0 and isinstance(nodes[at - 1], Counts) and node.column > nodes[at - 1].end
        spaced = at + 1 == len(nodes) or nodes[at + 1].column > node.end
        if isinstance(node, Bit) and node.text == "+" and counted and spaced:
            made.append(Counts((Atom(None, "&", "", None),), "&", node.column, node.end))
        else:
            made.append(node)
    return made


def _in_cells(nodes: Sequence[Node]) -> Sequence[Node]:
    """Without the bars of a table that stand between counts and their steps: 1 | stamp | 2 | clap."""

    def parts(at: int) -> bool:
        bar, before, after = nodes[at], nodes[at - 1] if at else None, nodes[at + 1] if at + 1 < len(nodes) else None
        return isinstance(bar, Bit) and bar.kind == "bar" and isinstance(before, Counts) and is_word(after)

    if not any(parts(at) for at in range(len(nodes))):
        return nodes
    return [node for node in nodes if not isinstance(node, Bit) or node.kind != "bar"]


def _hyphened(nodes: Sequence[Node]) -> Sequence[Node]:
    """With each number of a run of them as a count of its own: 1-2-3 step."""
    if not any(isinstance(node, Bit) and node.text in _HYPHENS for node in nodes):
        return nodes
    made: list[Node] = []
    at, found = 0, False
    while at < len(nodes):
        run = [nodes[at]]
        while _goes_on(nodes, at + len(run)):
            run += nodes[at + len(run) : at + len(run) + 2]
        counts = [node for node in run if isinstance(node, Counts)]
        numbers = [n for one in counts for n in (one.atoms[0].number, one.atoms[0].through) if n is not None]
        if len(counts) > 1 and all(after == before + 1 for before, after in pairwise(numbers)):
            start, end, found = run[0].column, run[-1].end, True
            made += [Counts((Atom(number, "", "", None),), str(number), start, end) for number in numbers]
        else:
            made += run
        at += len(run)
    return made if found else nodes


def _goes_on(nodes: Sequence[Node], at: int) -> bool:
    """Whether a hyphen and a count stand right after the count before, without a space."""
    if not 0 < at < len(nodes) - 1 or not all(isinstance(nodes[n], Counts) for n in (at - 1, at + 1)):
        return False
    before, hyphen, after = nodes[at - 1 : at + 2]
    beside = before.end == hyphen.column and hyphen.end == after.column
    single = all(isinstance(one, Counts) and len(one.atoms) == 1 for one in (before, after))
    return beside and single and isinstance(hyphen, Bit) and hyphen.text in _HYPHENS


def _numbered(nodes: Sequence[Node]) -> Sequence[Node]:
    """Without the signs after the numbers of a list: 1. step 2. heel, 1) step 2) heel, 1...step."""

    def endsnumber_alone(at: int) -> bool:
        before, node = nodes[at - 1] if at else None, nodes[at]
        beside = is_pause(node) and before is not None and before.end == node.column
        return beside and isinstance(node, Bit) and node.text in _NUMBERED and number_alone(before) is not None

    if len(nodes) < 3 or not endsnumber_alone(1):
        return nodes
    return [node for at, node in enumerate(nodes) if not endsnumber_alone(at)]


def _coloned(nodes: Sequence[Node]) -> Sequence[Node]:
    """Without the colons after the counts of a list, of which there are two or more: 1: step 2: heel."""
    colons = [
        at
        for at, node in enumerate(nodes[1:], 1)
        if isinstance(node, Bit) and node.text == ":" and isinstance(nodes[at - 1], Counts)
    ]
    if len(colons) < 2 or not isinstance(nodes[0], Counts):
        return nodes
    return [node for at, node in enumerate(nodes) if at not in colons]


def _steps_headed(nodes: Sequence[Node]) -> Sequence[Node]:
    """With the counts of each step before it, where all are said after a sign: stamp: 1, 3; clap: 2, 4; stamp = 1; or
    in brackets: stamp (1, 3) clap (2, 4)."""
    rows: list[tuple[list[Counts], list[Node]]] = []
    at = 0
    while at < len(nodes):
        words = list(takewhile(is_word, nodes[at:]))
        sign = nodes[at + len(words)] if words and at + len(words) < len(nodes) else None
        at += len(words) + 1
        if isinstance(sign, Group) and any(is_pause(node) for node in sign.items):
            counts = list(sign.items)
            at += sum(1 for _ in takewhile(is_pause, nodes[at:]))
        elif isinstance(sign, Bit) and sign.text in (":", "="):
            counts = list(takewhile(_counts_or_pause, nodes[at:]))
            at += len(counts)
        else:
            return nodes
        own = [node for node in counts if isinstance(node, Counts)]
        if not own or not isinstance(counts[0], Counts) or not all(map(_counts_or_pause, counts)):
            return nodes
        rows.append((own, [*words, Bit("pause", ",", own[-1].end, own[-1].end)]))
    # Of lists that take turns the one that begins first is said first.
    rows.sort(key=lambda row: row[0][0].atoms[0].number or 0)
    return [node for own, words in rows for node in (*own, *words)]


def _counts_or_pause(node: Node) -> bool:
    return isinstance(node, Counts) or is_pause(node)


def _one_after_another(nodes: Sequence[Node]) -> Sequence[Node]:
    """With a pause for each plus that can join nothing: after a step that is danced several times (flap x2 + stamp),
    and between steps of which one comes again (stamp + clap + stamp)."""
    pluses = [
        at for at, node in enumerate(nodes) if isinstance(node, Bit) and (node.kind, node.text) == ("join", "+")
    ]
    apart: set[int] = set()
    chain: list[int] = []
    said: set[str] = set()
    again = False
    for at in pluses:
        before = nodes[at - 1] if at else None
        if isinstance(before, Bit) and before.kind == "times":
            apart.add(at)
        after = nodes[at + 1] if at + 1 < len(nodes) else None
        word = after.text.casefold() if is_word(after) else ""
        if not chain or at != chain[-1] + 2:
            chain, again = [], False
            said = {before.text.casefold()} if is_word(before) else set()
        chain.append(at)
        if word in said and not again:
            again = True
            apart.update(chain)
        elif again:
            apart.add(at)
        said.add(word)
    return [replace(n, kind="pause") if at in apart and isinstance(n, Bit) else n for at, n in enumerate(nodes)]


def _counts_headed(nodes: Sequence[Node]) -> Sequence[Node]:
    """Without a head that says how many counts follow: 4 beats: stamp clap stamp clap, in four counts: …"""
    at = int(bool(nodes) and is_name(nodes[0], _IN))
    colon = nodes[at + 2] if len(nodes) > at + 3 else None
    if not is_pause(colon) or ":" not in colon.text or not is_name(nodes[at + 1], say.COUNTED):
        return nodes
    many = nodes[at]
    return nodes[at + 3 :] if number_alone(many) is not None or is_name(many, frozenset(say.NUMBERS)) else nodes


def _starred(nodes: Sequence[Node]) -> Sequence[Node]:
    """With "x4" for a star and a number after a step: step * 4."""
    made: list[Node] = []
    for node in nodes:
        star, number = made[-1] if made else None, number_alone(node)
        times = isinstance(star, Bit) and star.text == "*" and number is not None
        step = made[-2] if len(made) > 1 else None
        danced = isinstance(step, Group) or is_word(step)
        if times and danced and star is not None:
            made[-1] = Bit("times", f"x{number}", star.column, node.end)
        else:
            made.append(node)
    return made if len(made) < len(nodes) else nodes
