"""Lines as a syllabus or a message has them: numbered lists, a head of so many counts, a star for times.

Common practice, no source.
"""

from collections.abc import Sequence
from fractions import Fraction
from itertools import pairwise, takewhile

from msgspec.structs import replace

from firn.core.script import said as say
from firn.core.script.combo_item import ORDINALS
from firn.core.script.tokens import count_of, is_name, is_said, may_be_several, number_of
from firn.core.script.tree import (
    GROUP,
    HALF,
    JOIN,
    OTHER,
    PAUSE,
    Atom,
    Bit,
    Counts,
    Group,
    Node,
    is_pause,
    is_word,
    number_alone,
    said_in,
)

_NUMBERED = frozenset({".", ")", "...", "…"})
"""Said right after a number that stands for its place in a list."""

_SIDES = frozenset(say.SIDES)
_HYPHENS = ("-", "–")
ORDER = frozenset(ORDINALS) | {"last", "next", "primero", "segundo", "tercero", "cuarto"}
_OFTEN = frozenset(say.ONCE_OR_MORE) | say.TIMES
IN = frozenset({"in", "over", "en"})
_JOINED = say.AND | say.THEN | say.ON | say.TO | say.WITH | _SIDES | frozenset(say.WHERE)
"""What says of a step where it is, or that more is danced."""
_ENDINGS = (
    {"st", "er", "ro", "ra", "º", "ª"}, {"nd", "do", "da", "º", "ª"}, {"rd", "er", "ro", "ra", "º", "ª"},
    {"th", "to", "ta", "vo", "va", "mo", "ma", "no", "na", "º", "ª"},
)  # fmt: skip
"""What makes a number tell the order, for 1, 2, 3 and all above."""
_NEAR = 5
"""Tokens within which a step's own "on" is looked for."""


def in_order(nodes: Sequence[Node]) -> Sequence[Node]:
    """With the word for each number that tells the order of steps: 1st step, 2nd step. Where steps are written right
    behind their counts, a step may be called "st": 1st 2st."""
    beside = [
        at for at in range(len(nodes) - 1) if isinstance(nodes[at], Counts)
        and is_word(nodes[at + 1]) and nodes[at].end == nodes[at + 1].column
    ]  # fmt: skip
    if len(nodes) < 3 or not beside or not all(_ordinal(nodes[at], nodes[at + 1]) for at in beside):
        return nodes
    made: list[Node] = []
    for at, node in enumerate(nodes):
        if at in beside:
            made.append(Bit("name", _ordinal(node, nodes[at + 1]), node.column, nodes[at + 1].end))
        elif at - 1 not in beside:
            made.append(node)
    return made


def _ordinal(number: Node, ending: Node) -> str:
    """The word for a number with the ending that makes it tell the order: 1st; "" for none."""
    which = number_alone(number) or 0
    said = ending.text.casefold() if isinstance(ending, Bit) else ""
    names = list(ORDINALS)
    return names[which - 1] if 0 < which <= len(names) and said in _ENDINGS[min(which, 4) - 1] else ""


_LISTING = frozenset({*ORDER, *say.AND, *say.THEN, *say.ON, *say.THE, *IN, *say.COUNTED, *say.AS_ONE, *_OFTEN})
"""What a line that only has steps on their counts does not hold."""


def _plain(nodes: Sequence[Node]) -> bool:
    """Whether a line holds counts, a number among them, and the steps on them, and nothing else."""
    counted = False
    for node in nodes:
        if isinstance(node, Counts):
            if node.text == "e":
                return False
            counted = counted or node.atoms[0].number is not None
        elif not is_word(node) or node.text.casefold() in _LISTING:
            return False
    return counted


def as_listed(nodes: Sequence[Node]) -> Sequence[Node]:
    """A line's tokens as they would be written in full."""
    if _plain(nodes):
        # Most lines are: nothing is looked for that they have not.
        return nodes
    if sum(is_pause(node) and ":" in node.text for node in nodes) > 1:
        nodes = _phrase_by_phrase(nodes)
    if sum(is_name(node, say.STEPS | ORDER) for node in nodes) > 1:
        nodes = _steps_numbered(nodes)
    if GROUP in said_in(nodes):
        nodes = _feet_in_brackets(nodes)
    nodes = _spaced_ranges(_so_many_count(nodes))
    written = _plus_as_and(_plus_beside(_in_full(_e_as_and(_in_brackets(nodes)))))
    listed = _counts_headed(_steps_headed(_numbered(_coloned(_hyphened(_barred(_in_cells(written)))))))
    return _one_after_another(_starred(listed))


def _so_many_count(nodes: Sequence[Node]) -> Sequence[Node]:
    """Without the hyphen between a number and "count": 6-count basic."""
    if OTHER not in said_in(nodes):
        return nodes
    gone = {
        at
        for at in range(1, len(nodes) - 1)
        if isinstance(hyphen := nodes[at], Bit)
        and hyphen.text in _HYPHENS
        and isinstance(nodes[at - 1], Counts)
        and is_name(nodes[at + 1], say.COUNTED)
        and hyphen.column == nodes[at - 1].end
    }
    return [node for at, node in enumerate(nodes) if at not in gone] if gone else nodes


def _spaced_ranges(nodes: Sequence[Node]) -> Sequence[Node]:
    """With "to" for a dash between two numbers that are no neighbours, and no list of more: 1 - 4 clap."""
    if OTHER not in said_in(nodes):
        return nodes
    made = list(nodes)
    numbers = [number_alone(node) if isinstance(node, Counts) else None for node in (None, None, *nodes, None, None)]
    dashes = [isinstance(node, Bit) and node.text in _HYPHENS for node in (None, None, *nodes, None, None)]
    for at in range(1, len(nodes) - 1):
        first, last = numbers[at + 1], numbers[at + 3]
        chained = dashes[at] or dashes[at + 4]
        ranged = dashes[at + 2] and first is not None and last is not None and last > first + 1
        dash = nodes[at]
        if ranged and not chained and isinstance(dash, Bit) and dash.column > nodes[at - 1].end:
            made[at] = Bit("name", "to", dash.column, dash.end)
    return made


def _feet_in_brackets(nodes: Sequence[Node]) -> Sequence[Node]:
    """With feet in brackets that commas part in their letters: flap (R, L, R)."""
    made: list[Node] = []
    for node in nodes:
        items = node.items if isinstance(node, Group) else ()
        feet = [one.text.casefold() for one in items if isinstance(one, Bit) and is_name(one, _SIDES)]
        sides = [say.SIDES[foot][0].upper() for foot in feet if say.SIDES[foot] != "both"]
        others = [one for one in items if not (is_pause(one) or is_name(one, _SIDES))]
        if len(sides) > 1 and len(sides) == len(feet) and not others and any(map(is_pause, items)):
            node = Group((Bit("feet", "".join(sides), node.column + 1, node.end - 1),), node.column, node.end)
        made.append(node)
    return made


def _phrase_by_phrase(nodes: Sequence[Node]) -> Sequence[Node]:
    """With how long each is danced behind the steps that stand each behind so many counts: first four: stamp, last
    four: clap."""
    heads: list[int] = []
    for at in range(len(nodes) - 2):
        opens = not at or is_pause(nodes[at - 1])
        many = count_of(nodes[at + 1])
        colon = nodes[at + 2 + is_name(nodes[at + 2], say.COUNTED)] if at + 3 < len(nodes) else None
        if opens and is_name(nodes[at], ORDER) and number_alone(many) and is_pause(colon) and ":" in colon.text:
            heads.append(at)
    if len(heads) < 2 or heads[0]:
        return nodes
    made: list[Node] = []
    for at, end in zip(heads, (*heads[1:], len(nodes)), strict=True):
        number = nodes[at + 1]
        clause = list(nodes[at + 3 + is_name(nodes[at + 2], say.COUNTED) : end])
        while clause and is_pause(clause[-1]):
            clause.pop()
        column = clause[-1].end if clause else number.end
        made += [*clause, Bit("name", "for", column, column), number, Bit("pause", ",", column, column)]
    return made[:-1]


def _steps_numbered(nodes: Sequence[Node]) -> Sequence[Node]:
    """Without what numbers the steps of a list, each before a colon or called a step: step one: flap, step two:
    shuffle; first: flap, second: shuffle; first step flap, second step shuffle."""
    gone: list[range] = []
    for at, node in enumerate(nodes):
        before = nodes[at - 1] if at else None
        opens = (
            before is None or is_name(before, say.THEN | say.AND) or (isinstance(before, Bit) and not is_word(before))
        )
        # "step 1: heel" may be a step on 1.
        step = is_name(node, say.STEPS) and at + 1 < len(nodes) and number_of(nodes[at + 1]) is not None
        ordered = is_name(node, ORDER)
        called = ordered and is_said(nodes, at + 1, say.STEPS)
        end = at + 2 if step or called else at + 1
        colon = nodes[end] if end < len(nodes) else None
        coloned = is_pause(colon) and ":" in colon.text
        if opens and (step or ordered) and (coloned or (called and is_word(colon) and not is_name(colon, _JOINED))):
            gone.append(range(at, end + coloned))
    if len(gone) < 2:
        return nodes
    without = {at for one in gone for at in one}
    return [node for at, node in enumerate(nodes) if at not in without]


def _e_as_and(nodes: Sequence[Node]) -> Sequence[Node]:
    """With the "e" between two feet for the "and" that it is in Spanish: derecha e izquierda."""
    if "<e>" not in said_in(nodes):
        return nodes
    made = list(nodes)
    for at in range(1, len(nodes) - 1):
        node = nodes[at]
        feet = all(is_name(nodes[beside], _SIDES) for beside in (at - 1, at + 1))
        if feet and isinstance(node, Counts) and node.text == "e":
            made[at] = Bit("name", "y", node.column, node.end)
    return made


def _in_brackets(nodes: Sequence[Node]) -> Sequence[Node]:
    """With the & for each "and" that opens counts in brackets, flap (and 1); without brackets about the count of a
    step that comes after a pause: stamp, (2) clap."""
    if GROUP not in said_in(nodes):
        return nodes
    made: list[Node] = []
    for at, node in enumerate(nodes):
        if 0 < at < len(nodes) - 1 and is_pause(nodes[at - 1]) and is_word(nodes[at + 1]) and _holds_counts(node):
            made += node.items if isinstance(node, Group) else ()
            continue
        items = node.items if isinstance(node, Group) else ()
        if isinstance(node, Group) and len(items) > 1 and at and is_name(items[0], say.COUNTED):
            # "flap (count 1)".
            counts = [count for one in items[1:] if (count := count_of(one)) is not None]
            node = replace(node, items=tuple(counts)) if len(counts) == len(items) - 1 else node
            items = node.items
        first = items[0] if len(items) > 1 and all(count_of(one) is not None for one in items) else None
        if isinstance(node, Group) and isinstance(first, Bit) and is_name(first, say.AND):
            opening = Counts((Atom(None, "&", "", None),), "&", first.column, first.end)
            node = replace(node, items=(opening, *items[1:]))
        made.append(node)
    return made


def _holds_counts(node: Node) -> bool:
    return isinstance(node, Group) and bool(node.items) and all(isinstance(one, Counts) for one in node.items)


def _in_full(nodes: Sequence[Node]) -> Sequence[Node]:
    """With the "and" for each & that says no more than that: before another "on", an article where no number is a
    count, or a number of steps."""
    if HALF not in said_in(nodes):
        return nodes
    counted = any(isinstance(node, Counts) and any(atom.number is not None for atom in node.atoms) for node in nodes)
    made = list(nodes)
    for at, node in enumerate(nodes[:-1]):
        if not at or not isinstance(node, Counts) or node.text != "&":
            continue
        after, called = nodes[at + 1], nodes[at + 2] if at + 2 < len(nodes) else None
        article = not isinstance(after, Group) and after.text.casefold() in say.ARTICLES and after.column > node.end
        ahead = nodes[at + 1 : at + 1 + _NEAR]
        names = list(takewhile(lambda one: is_word(one) and not is_name(one, say.ON), ahead))
        on_one = bool(names) and len(names) < len(ahead) and is_name(ahead[len(names)], say.ON)
        on_before = any(is_name(one, say.ON) for one in nodes[max(0, at - _NEAR) : at])
        together = at + 2 < len(nodes) and is_word(nodes[at - 1]) and is_name(nodes[at + 2], say.AS_ONE)
        if (
            is_name(after, say.ON | say.THE | say.THEN)
            or (together and is_word(after))
            or (is_name(nodes[at - 1], _OFTEN) and is_word(after))
            or (is_name(after, say.LASTS) and (on_before or not counted))
            or (on_one and on_before)
            or (not counted and is_word(called) and (article or number_of(after) is not None))
        ):
            made[at] = Bit("name", "and", node.column, node.end)
    return made


def _plus_as_and(nodes: Sequence[Node]) -> Sequence[Node]:
    """With an & for each plus that stands between counts, or after them where others do: 1 + 2 + flap flap."""
    if JOIN not in said_in(nodes):
        return nodes
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


def _plus_beside(nodes: Sequence[Node]) -> Sequence[Node]:
    """With an & for each plus right beside a number: 1+2+, +1 flap; without those that only join an & to it: &+1."""
    if JOIN not in said_in(nodes):
        return nodes
    made: list[Node] = []
    for before, node, after in zip((None, *nodes), nodes, (*nodes[1:], None), strict=False):
        plus = isinstance(node, Bit) and node.text == "+"
        beside = [
            one
            for one, there in ((before, before is not None and before.end == node.column),
                               (after, after is not None and after.column == node.end))
            if plus and there
        ]  # fmt: skip
        if not any(isinstance(one, Counts) for one in beside) or is_word(beside[0]):
            made.append(node)
        elif not any(_is_division(one) for one in beside):
            made.append(Counts((Atom(None, "&", "", None),), "&", node.column, node.end))
    return nodes if len(made) == len(nodes) and all(a is b for a, b in zip(made, nodes, strict=True)) else made


def _is_division(node: Node | None) -> bool:
    return isinstance(node, Counts) and all(atom.number is None for atom in node.atoms)


def _in_cells(nodes: Sequence[Node]) -> Sequence[Node]:
    """Without the bars of a table that stand between counts and their steps: 1 | stamp | 2 | clap."""
    if "<bar>" not in said_in(nodes):
        return nodes

    def parts(at: int) -> bool:
        bar, before, after = nodes[at], nodes[at - 1] if at else None, nodes[at + 1] if at + 1 < len(nodes) else None
        return isinstance(bar, Bit) and bar.kind == "bar" and isinstance(before, Counts) and is_word(after)

    if not any(parts(at) for at in range(len(nodes))):
        return nodes
    return [node for node in nodes if not isinstance(node, Bit) or node.kind != "bar"]


def _barred(nodes: Sequence[Node]) -> Sequence[Node]:
    """With a pause for each bar line where the line begins on 1, or a count goes on behind one: 1 step | 2 step.

    What stands before a bar line is else a pick-up."""
    if "<bar>" not in said_in(nodes):
        return nodes
    bars = [at for at, node in enumerate(nodes) if isinstance(node, Bit) and node.kind == "bar"]
    if not bars:
        return nodes
    first, *others = (_first_number(nodes[at:end]) for at, end in zip((0, *bars), (*bars, len(nodes)), strict=True))
    goes_on = any(number is not None and number > 1 for number in others)
    if first != 1 and not goes_on and (first is not None or any(number is not None for number in others)):
        return nodes
    return [replace(n, kind="pause") if at in bars and isinstance(n, Bit) else n for at, n in enumerate(nodes)]


def _first_number(nodes: Sequence[Node]) -> int | None:
    """The first number that is a count among some tokens; None for none."""
    counts = (node if isinstance(node, Counts) else number_of(node) for node in nodes)
    atoms = (atom for count in counts if count is not None for atom in count.atoms)
    return next((atom.number for atom in atoms if atom.number is not None), None)


def _hyphened(nodes: Sequence[Node]) -> Sequence[Node]:
    """With each number of a run of them as a count of its own: 1-2-3 step."""
    if OTHER not in said_in(nodes):
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
    if PAUSE not in said_in(nodes):
        return nodes

    def ends_number(at: int) -> bool:
        before, node = nodes[at - 1] if at else None, nodes[at]
        if before is None or not is_pause(node) or before.end != node.column or node.text not in _NUMBERED:
            return False
        return number_alone(before) is not None or number_of(before) is not None

    if len(nodes) < 3 or not ends_number(1):
        return nodes
    return [node for at, node in enumerate(nodes) if not ends_number(at)]


def _coloned(nodes: Sequence[Node]) -> Sequence[Node]:
    """Without the colons after the counts of a list, of which there are two or more: 1: step 2: heel."""
    if PAUSE not in said_in(nodes):
        return nodes
    colons = [
        at
        for at, node in enumerate(nodes[1:], 1)
        if isinstance(node, Bit) and node.text == ":" and count_of(nodes[at - 1]) is not None
    ]
    if len(colons) < 2 or count_of(nodes[0]) is None:
        return nodes
    return [node for at, node in enumerate(nodes) if at not in colons]


def _steps_headed(nodes: Sequence[Node]) -> Sequence[Node]:
    """With the counts of each step before it, where all are said after a sign: stamp: 1, 3; clap: 2, 4; stamp = 1; or
    in brackets: stamp (1, 3) clap (2, 4)."""
    if said_in(nodes).isdisjoint((GROUP, PAUSE, JOIN)):
        return nodes
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
            counts = list(takewhile(_listed, nodes[at:]))
            at += len(counts)
        else:
            return nodes
        own = [node for node in counts if isinstance(node, Counts)]
        if not own or not isinstance(counts[0], Counts) or not all(map(_listed, counts)):
            return nodes
        rows.append((own, [*words, Bit("pause", ",", own[-1].end, own[-1].end)]))
    if all(len(own) == 1 and _said_of_several(words) for own, words in rows):
        # "flaps: 4, stamps: 2".
        return [node for own, words in rows for node in (*own, *words)]
    # Of lists that take turns the one that begins first is said first.
    rows.sort(key=lambda row: _begins(row[0]))
    return [node for own, words in rows for node in (*own, *words)]


def _begins(counts: Sequence[Counts]) -> Fraction:
    """About where some counts begin: before their first number what leads up to it."""
    atoms = [atom for group in counts for atom in group.atoms]
    number = next((atom.number for atom in atoms if atom.number is not None), 0)
    return Fraction(number) - (Fraction(1, 2) if atoms[0].number is None else 0)


def _listed(node: Node) -> bool:
    """Whether a token is one of a list of counts: 1, 3 and 5."""
    return isinstance(node, Counts) or is_pause(node) or is_name(node, say.AND)


def _said_of_several(words: Sequence[Node]) -> bool:
    """Whether words that a pause ends seem to be said of several."""
    last = words[-2] if len(words) > 1 else None
    return is_word(last) and may_be_several(last.text)


def _one_after_another(nodes: Sequence[Node]) -> Sequence[Node]:
    """With a pause for each plus that can join nothing: after a step that is danced several times (flap x2 + stamp),
    and between steps of which one comes again (stamp + clap + stamp)."""
    if JOIN not in said_in(nodes):
        return nodes
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
    if PAUSE not in said_in(nodes):
        return nodes
    at = int(bool(nodes) and is_name(nodes[0], IN))
    colon = nodes[at + 2] if len(nodes) > at + 3 else None
    if not is_pause(colon) or ":" not in colon.text or not is_name(nodes[at + 1], say.COUNTED):
        return nodes
    many = nodes[at]
    return nodes[at + 3 :] if number_alone(many) is not None or is_name(many, frozenset(say.NUMBERS)) else nodes


def _starred(nodes: Sequence[Node]) -> Sequence[Node]:
    """With "x4" for a star and a number after a step, or a number and a star before one: step * 4, 4*step."""
    if OTHER not in said_in(nodes):
        return nodes
    made: list[Node] = []
    for node in nodes:
        ahead = number_alone(made[-1]) if made else None
        if isinstance(node, Bit) and node.text == "*" and ahead and node.column == made[-1].end:
            made[-1] = Bit("times", f"{ahead}x", made[-1].column, node.end)
            continue
        star, number = made[-1] if made else None, number_alone(node)
        times = isinstance(star, Bit) and star.text == "*" and number is not None
        step = made[-2] if len(made) > 1 else None
        danced = isinstance(step, Group) or is_word(step)
        if times and danced and star is not None:
            made[-1] = Bit("times", f"x{number}", star.column, node.end)
        else:
            made.append(node)
    return made if len(made) < len(nodes) else nodes
