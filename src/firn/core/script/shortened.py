"""What is not said again of several: three hops right, three left; stamp twice right, twice left.

Common practice, no source.
"""

from collections.abc import Callable, Sequence

from firn.core.script import said as say
from firn.core.script.tokens import count_of, is_article, is_name
from firn.core.script.tree import PAUSE, Bit, Group, Node, is_pause, is_word, number_alone, said_in

_LEADS = say.ON | say.WITH | say.THE
_LINKS = say.THEN | say.AND
_PARTING = _LINKS | {PAUSE}
_SIDES = frozenset(say.SIDES)
_OFTEN = frozenset(say.ONCE_OR_MORE)


_AGAIN = (
    "same again", "once more", "do it again", "do that again", "one more time", "all again", "otra vez",
    "todo otra vez", "todo de nuevo", "de nuevo", "una vez más",
)  # fmt: skip
"""Said after a pause of all that was said: again."""

_THEM = frozenset({"them", "these", "those", "ellos", "ellas"})


def said_once(nodes: Sequence[Node]) -> Sequence[Node]:
    """A line's tokens with how many there are right after their step: shuffles, four of them; and "again" in one
    word where it is said in several."""
    if PAUSE not in said_in(nodes):
        return nodes
    made = list(nodes)
    for at in range(len(made) - 1, 0, -1):
        if not is_pause(made[at]):
            continue
        after = made[at + 1 :]
        number = _number(after[0]) if after else None
        ends = next((n for n, node in enumerate(after) if is_pause(node)), len(after))
        said = [node.text.casefold() for node in after[:ends] if is_word(node) and not is_name(node, say.THE)]
        if number and is_name(after[1] if ends == 3 else None, say.OF) and is_name(after[2], _THEM):
            made[at : at + 4] = [Bit("times", f"x{number}", after[0].column, after[2].end)]
        elif " ".join(said) in _AGAIN:
            made[at + 1 : at + 1 + ends] = [Bit("name", "again", after[0].column, after[ends - 1].end)]
    return made


def named_again(nodes: Sequence[Node], sounds: Callable[[str], int]) -> Sequence[Node]:
    """A line's tokens with a step named again where only how many there are, and with which foot, is said after it.

    `sounds`: how many sounds the step has that goes by a name, 0 where there is none.
    """
    if said_in(nodes).isdisjoint(_PARTING):
        return nodes
    made: list[Node] = []
    name: list[Bit] = []
    said: list[Node] = []
    found = False
    for node in (*nodes, None):
        if node is not None and not is_pause(node) and not is_name(node, _LINKS):
            said.append(node)
            continue
        again = _again(said, name)
        if again and made and is_name(made[-1], say.AND):
            # It links, and is no &.
            link = made.pop()
            made.append(Bit("pause", ",", link.column, link.end))
        made += again or said
        found = found or bool(again)
        name = name if again or not said else _several(said, sounds)
        made += [node] if node is not None else []
        said = []
    return made if found else nodes


def _several(said: Sequence[Node], sounds: Callable[[str], int]) -> list[Bit]:
    """The step of which is said, between two pauses, how many there are and with which foot: three hops right; []
    where that is not said, or may be a count."""
    often = any(is_name(node, _OFTEN) for node in said)
    many = bool(said) and (_number(said[0]) or 0) > 1
    if not (often or many or (said and is_article(said[0]))) or not any(is_name(node, _SIDES) for node in said):
        return []
    names: list[Bit] = []
    for node in said[0 if often else 1 :]:
        if not is_word(node) or is_name(node, _SIDES | _LEADS):
            break
        names.append(node)
    sizes = range(len(names), 0, -1)
    size = next((n for n in sizes if sounds(" ".join(node.text for node in names[:n]))), 0)
    several = not many or (size > 0 and names[size - 1].text.casefold().endswith("s"))
    return names[:size] if several else []


def _again(said: Sequence[Node], name: Sequence[Bit]) -> list[Node]:
    """How many with which foot, where nothing else is said, with the step; [] for anything else."""
    foot = [node for node in said if is_name(node, _SIDES)]
    rest = [node for node in said if not is_name(node, _SIDES | _LEADS | say.FEET)]
    if not name or len(foot) != 1 or len(rest) != 1 or said[0] is not rest[0]:
        return []
    how_many = rest[0]
    at = how_many.column, how_many.end
    named: list[Node] = [Bit("name", one.text, *at) for one in name]
    number = say.ONCE_OR_MORE.get(how_many.text.casefold()) if isinstance(how_many, Bit) else None
    number = number or _number(how_many)
    if number is None:
        return []
    danced = [*named, *said[1:]]
    end = said[-1].end
    return danced if number == 1 else [Group(tuple(danced), at[0], end), Bit("times", f"x{number}", end, end)]


def _number(node: Node) -> int | None:
    count = count_of(node)
    return number_alone(count) if count is not None else None
