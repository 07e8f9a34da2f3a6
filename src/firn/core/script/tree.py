"""The tree of a script: what was typed, with its places in the text, before any of it is danced."""

import re
from collections.abc import Sequence
from functools import lru_cache
from typing import TypeGuard

from msgspec import Struct

from firn.core.pattern import late
from firn.core.script.problems import Problem
from firn.core.steps.names import MARKS


class Atom(Struct, frozen=True):
    """One count of a group: a number or a letter, with `extra` for "2+1/3" and `through` for "6-7"; or a `pace`: what
    takes so many counts, after the one before.
    """

    number: int | None
    letter: str
    extra: str
    through: int | None
    pace: int = 0


class Counts(Struct, frozen=True):
    """A group of counts written without a space, such as "&a2"."""

    atoms: tuple[Atom, ...]
    text: str
    column: int
    end: int


class Bit(Struct, frozen=True):
    """Any other token: a name, a fraction (1/4), a mark (! ~), times (x4), a join (+ =), a bar, a pause (a comma or
    a full stop, which say nothing but that words are apart), a stray one."""

    kind: str
    text: str
    column: int
    end: int


class Group(Struct, frozen=True):
    """Items in brackets: optional, or repeated if times follow."""

    items: "tuple[Node, ...]"
    column: int
    end: int


Node = Counts | Bit | Group


def is_word(node: Node | None) -> TypeGuard[Bit]:
    """Whether a token is a word that may name a step."""
    return isinstance(node, Bit) and node.kind == "name"


def is_pause(node: Node | None) -> TypeGuard[Bit]:
    """Whether a token only says that words are apart."""
    return isinstance(node, Bit) and node.kind == "pause"


PAUSE, GROUP, OTHER, JOIN, HALF, HYPHEN = "<pause>", "<group>", "<other>", "<join>", "<&>", "<->"
"""What a line holds beside its words, as `said_in` tells it."""

_NONE: tuple[Sequence[Node], frozenset[str]] = (), frozenset()
_last = _NONE
"""The tokens that were asked about last, and what they are; replaced whole, since jobs read too."""


def said_in(nodes: Sequence[Node]) -> frozenset[str]:
    """What a line's tokens are: its words in small letters, and the kinds of all others, those of counts without a
    number with their letters: "<&>"; "<->" where a word has a hyphen in it.

    Some sixty look at each line for what few hold; of the same tokens it is found once.
    """
    global _last
    known, found = _last
    if known is nodes:
        return found
    said: set[str] = set()
    for node in nodes:
        if isinstance(node, Counts):
            if node.atoms[0].number is None:
                said.add(f"<{node.text.casefold()}>")
        elif isinstance(node, Group):
            said.add(GROUP)
        elif node.kind == "name":
            said.add(node.text.casefold())
            if "-" in node.text:
                said.add(HYPHEN)
        else:
            said.add(f"<{node.kind}>")
    found = frozenset(said)
    _last = nodes, found
    return found


def number_alone(node: Node | None) -> int | None:
    """The number of a count that is one number alone; None for any other token."""
    if not isinstance(node, Counts) or len(node.atoms) != 1:
        return None
    atom = node.atoms[0]
    return None if atom.extra or atom.letter or atom.pace or atom.through is not None else atom.number


MOST_DIGITS = 6
"""Figures that are read of a number: no count has as many."""
MOST_DEEP = 32
"""So deep may brackets stand in brackets."""

_ATOM = late(r"(\d+)(?:(\+\d+/\d+)|[-–](\d+))?|([&ae])", re.IGNORECASE)

_TOKEN = late(
    r"""
      (?P<skipped> \#.* | [\s\u200b\u200e\u200f\u202a-\u202e\u2066-\u2069\ufeff]+
        | (?<!\S)_+(?=[^\W_]) | (?<=[^\W_])_+(?=[\s,;:.!)]|$) )
    | (?P<sign> (?<![^\W_])[wW]/(?:[oO](?![^\W_]))? | \U0001F44F[\U0001F3FB-\U0001F3FF\ufe0f]* )
    | (?P<fraction> \d+/\d+(?= [LlRr](?!\w) | (?!\w) ) )
    | (?P<times> [xX×][ ]?\d+(?!\w) | \d+[ ]?[xX×](?!\w) | \d+[xX×](?=[A-Z]{2}) )
    | (?P<counts> (?:\d+\+\d+/\d+|\d+[-–]\d+|\d+|&|[aeAE])+(?![^\W\d_]) | \d+(?=[^\W\d_]) )
    | (?P<name> [^\W\d_](?:[^\W_]|[MARKS]|['’\-/](?=[^\W_]))* )
    | (?P<open> [(\[] ) | (?P<close> [)\]] )
    | (?P<mark> [!~] ) | (?P<join> \+ | =(?!=*>) ) | (?P<bar> \| ) | (?P<pause> [,;:.\u2026]+ )
    | (?P<other> \S )
    """.replace("MARKS", MARKS),
    re.VERBOSE,
)
"""Every character is some token, so that reading goes on after a fault."""


_SIGNS = {"w/": "with", "w/o": "without", "\U0001f44f": "clap"}
"""What is written for a word: stamp w/ clap; hands that clap, as messages have them."""


def atoms_of_text(text: str) -> tuple[Atom, ...]:
    """The counts of a group such as "&a2" or "6-7"."""
    atoms = []
    for match in _ATOM.finditer(text):
        number, extra, through, letter = match.groups()
        atoms.append(
            Atom(
                int(number[:MOST_DIGITS]) if number else None,
                (letter or "").lower(),
                "+" + "/".join(n[:MOST_DIGITS] for n in extra[1:].split("/")) if extra else "",
                int(through[:MOST_DIGITS]) if through else None,
            )
        )
    return tuple(atoms)


@lru_cache(maxsize=20_000)
def parse_line(text: str) -> tuple[tuple[Node, ...], tuple[Problem, ...]]:
    """The tokens of one line and the brackets that do not close; never raises for any text."""
    nodes: list[Node] = []
    problems: list[Problem] = []
    # Brackets that are open: where each stands, and what came before it; and how many more than can be.
    waiting: list[tuple[int, list[Node]]] = []
    too_deep = 0
    # A line break of any kind would end a note.
    for match in _TOKEN.finditer(re.sub(r"[\r\n\x0b\x0c\x1c-\x1e\x85\u2028\u2029]", " ", text)):
        kind, said, (column, end) = str(match.lastgroup), match[0], match.span()
        if kind == "skipped":
            if said[:1] == "#" and said[1:2].isdecimal() and nodes:
                # "stamp #1, clap #2".
                told = f'What stands behind "#" is a remark: write "{said[1:].split()[0].strip(",;:.")}" for a count.'
                problems.append(Problem("N109", 0, column, end, told))
            continue
        if kind == "counts":
            nodes.append(Counts(atoms_of_text(said), said, column, end))
        elif kind == "sign":
            nodes.append(Bit("name", _SIGNS[said[:3].casefold() if "/" in said else said[0]], column, end))
        elif kind == "open" and len(waiting) >= MOST_DEEP:
            if not too_deep:
                said = f"Brackets in brackets, more than {MOST_DEEP} deep: these mean nothing."
                problems.append(Problem("N110", 0, column, end, said))
            too_deep += 1
        elif kind == "close" and too_deep:
            too_deep -= 1
        elif kind == "open":
            waiting.append((column, nodes))
            nodes = []
        elif kind == "close" and waiting:
            start, before = waiting.pop()
            before.append(Group(tuple(nodes), start, end))
            nodes = before
        elif kind == "close" and nodes and isinstance(nodes[-1], Counts) and nodes[-1].end == column:
            # "1)": a number in a list.
            nodes.append(Bit("pause", said, column, end))
        elif kind == "close":
            problems.append(_lone(column))
        else:
            nodes.append(Bit(kind, said, column, end))
    while waiting:
        column, before = waiting.pop()
        problems.append(_lone(column))
        nodes = before + nodes
    return tuple(nodes), tuple(problems)


def _lone(column: int) -> Problem:
    return Problem("N110", 0, column, column + 1, "This bracket has no partner on its line.")
