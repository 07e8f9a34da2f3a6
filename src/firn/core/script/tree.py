"""The tree of a script: what was typed, with its places in the text, before any of it is danced."""

import re
from dataclasses import dataclass
from functools import lru_cache
from importlib import resources

from lark import Lark, Token, Tree, UnexpectedInput

from firn.core.script.problems import Problem


@dataclass(frozen=True, slots=True)
class Atom:
    """One count of a group: a number or a letter, with `extra` for "2+1/3" and `through` for "6-7"."""

    number: int | None
    letter: str
    extra: str
    through: int | None


@dataclass(frozen=True, slots=True)
class Counts:
    """A group of counts written without a space, such as "&a2"."""

    atoms: tuple[Atom, ...]
    text: str
    column: int
    end: int


@dataclass(frozen=True, slots=True)
class Bit:
    """Any other token: a name, a fraction (1/4), a mark (! ~), times (x4), a join (+ =), a bar, a stray one."""

    kind: str
    text: str
    column: int
    end: int


@dataclass(frozen=True, slots=True)
class Group:
    """Items in brackets: optional, or repeated if times follow."""

    items: "tuple[Node, ...]"
    column: int
    end: int


Node = Counts | Bit | Group

_ATOM = re.compile(r"(\d+)(?:(\+\d+/\d+)|[-–](\d+))?|([&ae])", re.IGNORECASE)


@lru_cache(maxsize=1)
def _parser() -> Lark:
    grammar = resources.files("firn.core.script").joinpath("steps.lark").read_text("utf-8")
    return Lark(grammar, start="line", parser="lalr", lexer="contextual")


def _atoms(text: str) -> tuple[Atom, ...]:
    atoms = []
    for match in _ATOM.finditer(text):
        number, extra, through, letter = match.groups()
        atoms.append(
            Atom(
                int(number[:6]) if number else None,
                (letter or "").lower(),
                extra or "",
                int(through[:6]) if through else None,
            )
        )
    return tuple(atoms)


def _node(tree: Tree[Token]) -> Node:
    kind = str(tree.data)
    if kind == "group":
        first, *inner, last = tree.children
        assert isinstance(first, Token) and isinstance(last, Token)
        items = tuple(_node(child) for child in inner if isinstance(child, Tree))
        return Group(items, _column(first), _end(last))
    token = tree.children[0]
    assert isinstance(token, Token)
    if kind == "counts":
        return Counts(_atoms(token), str(token), _column(token), _end(token))
    return Bit(kind, str(token), _column(token), _end(token))


def _column(token: Token) -> int:
    assert token.column is not None
    return token.column - 1


def _end(token: Token) -> int:
    assert token.end_column is not None
    return token.end_column - 1


@lru_cache(maxsize=20_000)
def parse_line(text: str) -> tuple[tuple[Node, ...], tuple[Problem, ...]]:
    """The tokens of one line and the brackets that do not close; never raises for any text."""
    problems: list[Problem] = []
    # A line break of any kind inside would move lark's columns.
    text = re.sub(r"[\r\n\x0b\x0c\x1c-\x1e\x85\u2028\u2029]", " ", text)
    while True:
        try:
            tree = _parser().parse(text)
        except UnexpectedInput as fault:
            column = _lone_bracket(text, fault)
            problems.append(Problem("N110", 0, column, column + 1, "This bracket has no partner on its line."))
            text = text[:column] + " " + text[column + 1 :]
            continue
        nodes = tuple(_node(child) for child in tree.children if isinstance(child, Tree))
        return nodes, tuple(problems)


def _lone_bracket(text: str, fault: UnexpectedInput) -> int:
    token = getattr(fault, "token", None)
    if token is not None and token.type == "CLOSE":
        return _column(token)
    depth: list[int] = []
    for column, letter in enumerate(text.split("#")[0]):
        if letter == "(":
            depth.append(column)
        elif letter == ")" and depth:
            depth.pop()
    return depth[-1]
