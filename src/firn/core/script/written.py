"""Steps as they are written down after class: joined by hyphens, with feet by their letters, counts and lengths in
brackets, and a name before a colon for what follows.

Common practice, no source.
"""

import re
from collections.abc import Callable, Iterator, Sequence
from functools import lru_cache
from itertools import islice, pairwise, product, takewhile
from typing import NamedTuple

from msgspec.structs import replace

from firn.core.pattern import late
from firn.core.script import said as say
from firn.core.script.tokens import count_of, division, is_name, numbered, times_said
from firn.core.script.tree import OTHER, Bit, Counts, Group, Node, is_pause, is_word, said_in
from firn.core.steps.card import Card
from firn.core.steps.names import fold
from firn.core.steps.shelf import Shelf

_FEET = late(r"[RL](?:[-/]?[RL])+|[DI](?:[-/]?[DI])+")
_COUNTED = {*say.NUMBERS, *say.AND, "a", "e"}
_PACES = late(r"[SQ](?:-?[SQ])+|(?=s*-?q|q*-?s)[sq](?:-?[sq])+")
_DASHES = frozenset("-–—•·*=>→⇒/")
"""Written between steps, and between a count and its step."""
_QUOTES = frozenset("\"'“”„‘’«»`{}")
"""Written around steps."""
_CLOSES = {"“": "”", "„": "“”", "‘": "’", "«": "»", "{": "}"}

MOST_LETTERS = 24
"""Letters of abbreviations that are written without a space."""

MOST_SYLLABLES = 6
"""Parts of a word in hyphens that are tried joined."""

_LETTERS = {"R": "right", "L": "left", "D": "right", "I": "left"}
_IN_BRACKETS = {
    "x": "across", "unx": "side", "o": "out", "f": "forward", "b": "back", "ib": "behind", "if": "front",
    "os": "side", "xf": "across", "xb": "behind", "ip": "in place",
}  # fmt: skip
"""Where a step goes, in letters that mean it in brackets alone."""
_LEAST_OWN, _MOST_OWN = 3, 16
"""So many feet in words may be those of a figure's own sounds: with two it may be danced twice."""
_SPANISH_FEET = {"D": "der", "I": "izq"}
_SMALL = frozenset({"d", "i"})
_OF_FOOT = say.FEET | say.THE | say.WITH | say.ON
"""Said beside a foot in brackets."""


def as_written(nodes: Sequence[Node], sounds: Callable[[str], int], shelf: Shelf) -> Sequence[Node]:
    """A line's tokens with what is written in one taken apart.

    `sounds`: how many sounds the step has that goes by a name, 0 where there is none.
    Letters of several feet become one token of the kind "feet", a hyphen between two single sounds one of the kind
    "hyphen", how long the step before takes, in brackets, one of the kind "pace"; what was joined ends with one of
    the kind "bound".
    """
    before = bool(nodes) and isinstance(nodes[0], Group)
    if all(isinstance(n, Counts) or (isinstance(n, Bit) and n.kind == "name" and _is_plain(n.text)) for n in nodes):
        # Most lines are: nothing is taken apart in them.
        return nodes
    way = _Way(sounds, shelf.longest, _names_feet_in_spanish(nodes, shelf), before)
    made: list[Node] = []
    for node in _own_feet(_quoted(nodes), way):
        led = made[-1] if made else None
        if isinstance(node, Bit) and node.kind == "name" and is_word(led) and sounds(f"{led.text} {node.text}"):
            # "suzy qs" is no quick and slow.
            made.append(node)
            continue
        if (
            made
            and (said := count_of(made[-1])) is not None
            and isinstance(node, Bit)
            and (node.kind, node.text) == ("join", "=")
        ):
            # 1 = step, one = step.
            made[-1] = said
            continue
        counts = _own_counts(made, node, way)
        if counts is not None:
            made.append(counts)
            continue
        for one in _apart(node, way):
            _joining_feet(made, one)
    return nodes if made == list(nodes) else made


@lru_cache(maxsize=4_000)
def _is_plain(text: str) -> bool:
    """Whether a word has nothing written in it, and is no foot."""
    signs = "-" in text or "/" in text or text.isupper()
    return not (signs or _letter(text) or text in _SMALL or _FEET.fullmatch(text) or _PACES.fullmatch(text))


def _own_counts(before: Sequence[Node], node: Node, way: "_Way") -> Group | None:
    """The counts in brackets of the sounds of a figure right before them, without the commas: rock step (3, 4). None
    for any others: clap (2, 4) is a clap on each."""
    counts = [item for item in node.items if isinstance(item, Counts)] if isinstance(node, Group) else []
    parted = isinstance(node, Group) and len(counts) < len(node.items)
    if len(counts) < 2 or not parted or not isinstance(node, Group):
        return None
    if not all(isinstance(item, Counts) or is_pause(item) for item in node.items):
        return None
    numbers = [one.atoms[-1].number for one in counts if one.atoms[-1].number is not None]
    if any(after - one > 1 for one, after in pairwise(numbers)):
        # "flap (2, 4)" is a flap on each.
        return None
    own = sum(len(one.atoms) for one in counts)
    return replace(node, items=tuple(counts)) if _sounds_before(before, way) == own else None


def unquoted_counts(nodes: Sequence[Node]) -> Sequence[Node]:
    """A line without the quotes about one count: clap on the "and" of 2."""
    if OTHER not in said_in(nodes):
        return nodes
    signs = [node.text if isinstance(node, Bit) and node.kind == "other" else "" for node in nodes]
    if not any(sign in _QUOTES for sign in signs if sign):
        return nodes
    closed = _closings(signs)
    gone = {
        place
        for at, end in enumerate(closed)
        if end == at + 2 and count_of(nodes[at + 1]) is not None
        for place in (at, end)
    }
    return [node for at, node in enumerate(nodes) if at not in gone] if gone else nodes


def _quoted(nodes: Sequence[Node]) -> Sequence[Node]:
    """With what stands in quotes or braces, and is danced so often, as in brackets: "step touch" x2."""
    signs = [node.text if isinstance(node, Bit) and node.kind == "other" else "" for node in nodes]
    if not any(sign in _QUOTES for sign in signs if sign):
        return nodes
    closed = _closings(signs)
    made: list[Node] = []
    at = 0
    while at < len(nodes):
        end = closed[at]
        if end > at + 1 and times_said(nodes, end + 1)[0] is not None:
            made.append(Group(tuple(nodes[at + 1 : end]), nodes[at].column, nodes[end].end))
            at = end + 1
        else:
            made.append(nodes[at])
            at += 1
    return made if len(made) < len(nodes) else nodes


def _closings(signs: Sequence[str]) -> list[int]:
    """For each sign the place of the next that closes it; 0 for none."""
    closed = [0] * len(signs)
    following: dict[str, int] = {}
    for at in range(len(signs) - 1, -1, -1):
        sign = signs[at]
        if sign in _QUOTES:
            closed[at] = min((following[end] for end in _CLOSES.get(sign, sign) if end in following), default=0)
        if sign:
            following[sign] = at
    return closed


def _own_feet(nodes: Sequence[Node], way: "_Way") -> Sequence[Node]:
    """With the feet of a figure's own sounds, said in words right after it, as its letters: triple step left right
    left. Where they are fewer or more, it is danced with each."""
    made: list[Node] = []
    at = 0
    while at < len(nodes):
        feet = list(takewhile(lambda node: is_word(node) and _letter(node.text) != "", nodes[at : at + _MOST_OWN]))
        said = _said_before_feet(made) if len(feet) >= _LEAST_OWN else None
        following = nodes[at + len(feet)] if at + len(feet) < len(nodes) else None
        if said is not None and not is_word(following) and _sounds_before(said, way) == len(feet):
            letters = "".join(_letter(foot.text) for foot in feet if isinstance(foot, Bit))
            made = [*said, Bit("feet", letters, feet[0].column, feet[-1].end)]
        else:
            made += feet or nodes[at : at + 1]
        at += len(feet) or 1
    return made if len(made) < len(nodes) else nodes


def _said_before_feet(made: list[Node]) -> list[Node]:
    """What feet are said of: all before them, over a pause where counts are written; "3&4 triple step, left right
    left" is no more steps."""
    apart = bool(made) and is_pause(made[-1]) and any(isinstance(one, Counts) for one in made)
    return made[:-1] if apart else made


def _sounds_before(made: Sequence[Node], way: "_Way") -> int:
    """How many sounds the longest name has that a line's tokens end with; 0 for none."""
    names = [one.text for one in reversed(list(takewhile(is_word, reversed(made[-way.longest :])))) if is_word(one)]
    return next((n for size in range(len(names)) if (n := way.sounds(" ".join(names[size:])))), 0)


def _joining_feet(made: list[Node], node: Node) -> None:
    """Add a token; of letters of feet one after another one is made: flap R L R."""
    before = made[-1] if made else None
    letter = is_word(node) and node.text in ("R", "L")
    # "stamp (L) R kick": what stands in brackets is said of what is before it.
    said = isinstance(before, Bit) and before.kind == "feet" and before.end - before.column == len(before.text) + 2
    if not isinstance(node, Bit) or not isinstance(before, Bit) or not letter or said:
        made.append(node)
    elif before.kind == "feet" or (before.kind == "name" and before.text in ("R", "L")):
        made[-1] = Bit("feet", f"{before.text} {node.text}", before.column, node.end)
    else:
        made.append(node)


class _Way(NamedTuple):
    """How a line's tokens are taken apart: how many sounds a name has, and how many words the longest; whether D and
    I are feet, and whether what stands in brackets is said of the step after them, as in (1) step (2) clap."""

    sounds: Callable[[str], int]
    longest: int
    spanish: bool
    before: bool


def feet_of(text: str) -> tuple[str, ...]:
    """The feet that some letters name."""
    return tuple(_LETTERS[letter] for letter in text if letter in _LETTERS)


def names_same(feet: Sequence[str], card: Card) -> bool:
    """Whether some feet are those of one card's sounds, or of its steps, in their order."""
    own = [beat.role for beat in card.beats if beat.kind.limb == "foot"]
    pattern = ["A" if foot == feet[0] else "B" for foot in feet]
    alternates = all(one != other for one, other in pairwise(feet))
    return pattern == own or (len(feet) == card.weight_changes > 1 and alternates)


def _names_feet_in_spanish(nodes: Sequence[Node], shelf: Shelf) -> bool:
    """Whether the letters D and I name feet: both stand in the line, or one, or small ones, beside a name in
    Spanish."""
    said = [node.text for node in _names(nodes)]
    letters = {letter for text in said if not text.strip("DI-/") for letter in text} & {"D", "I"}
    if letters == {"D", "I"}:
        return True
    small = any(text in _SMALL for text in said)
    return (bool(letters) or small) and any(fold(text) in say.spanish_names(shelf) for text in said)


def _names(nodes: Sequence[Node]) -> Iterator[Bit]:
    for node in nodes:
        if isinstance(node, Group):
            yield from _names(node.items)
        elif is_word(node):
            yield node


def _apart(node: Node, way: _Way) -> Iterator[Node]:
    """A token as the tokens that are written in it."""
    if isinstance(node, Group):
        yield from _unwrapped(node, way)
    elif isinstance(node, Bit) and node.kind == "other" and node.text in _DASHES:
        yield replace(node, kind="pause")
    elif isinstance(node, Bit) and node.kind == "other" and node.text in _QUOTES:
        return
    elif isinstance(node, Counts) or node.kind != "name":
        yield node
    elif way.spanish and node.text.upper() in _SPANISH_FEET:
        yield replace(node, text=_SPANISH_FEET[node.text.upper()])
    elif _FEET.fullmatch(node.text) and (way.spanish or node.text[0] in "RL") and not way.sounds(node.text):
        yield replace(node, kind="feet")
    elif _PACES.fullmatch(node.text):
        yield from (
            Bit("name", c.upper(), node.column + n, node.column + n + 1) for n, c in enumerate(node.text) if c != "-"
        )
    elif "-" in node.text and not way.sounds(node.text):
        name, _, going = node.text.rpartition("-")
        # "heel-dig-front": a step and where it goes.
        yield from [node] if going.casefold() in say.WHERE and way.sounds(name) else _parted(node, way)
    elif "/" in node.text and not way.sounds(node.text):
        yield from _slashed(node, way)
    elif node.text.isupper() and len(node.text) > 3 and not way.sounds(node.text):
        yield from _run_together(node, way)
    else:
        yield node


def _unwrapped(group: Group, way: _Way) -> Iterator[Node]:
    """What stands in brackets, without these where it says the feet or the lengths of the steps before it."""
    items = [one for node in group.items for one in _apart(node, way)]
    counts = [item for item in items if isinstance(item, Counts)]
    names = [item for item in items if isinstance(item, Bit)]
    if len(names) == len(items) and sum(bool(_letter(item.text)) for item in names) == 1:
        # "stamp (right foot)", "stamp (with the left)".
        names = [item for item in names if not is_name(item, _OF_FOOT)]
        items = list(names)
    said = [item.text if item.kind == "feet" else _letter(item.text) for item in names]
    if names and len(names) == len(items) and all(said):
        feet = feet_of("".join(said))
        one = way.before and len(feet) == 1
        yield (
            Bit("name", feet[0], group.column, group.end)
            if one
            else Bit("feet", "".join(said), group.column, group.end)
        )
    elif counts and len(counts) == len(items) and way.before:
        yield from counts
    elif _is_list(items):
        # clap (2, 4), step (four and the and of seven).
        yield Bit("name", "on", group.column, group.column + 1)
        yield from items
    elif names and all(item.kind == "name" and _where(item.text) for item in names) and not counts:
        # DS (xif), touch (f).
        yield from (replace(item, text=_where(item.text)) for item in names)
    elif names and len(names) == len(items) and all(say.pace_of(item.text) for item in names):
        yield from (replace(item, kind="name" if way.before else "pace") for item in names)
    else:
        yield replace(group, items=tuple(items))


def _is_list(items: Sequence[Node]) -> bool:
    """Whether some tokens are counts with pauses or an "and" between them, and nothing else."""
    links = [item for item in items if is_pause(item) or is_name(item, say.AND)]
    counted = [item for item in items if not any(item is link for link in links) and count_of(item) is not None]
    return bool(links) and len(counted) > 1 and len(counted) + len(links) == len(items)


def _where(text: str) -> str:
    """Where a step goes that is said in brackets, where a letter is enough; "" for anything else."""
    short = text.casefold()
    return _IN_BRACKETS.get(short, text if short in say.WHERE else "")


def _slashed(bit: Bit, way: _Way) -> Iterator[Node]:
    """Steps between slashes, as in DS/RS/DS/RS, 1 step/2 clap; as they are where there are but two of them, of which
    either may be meant, or one of them is none."""
    parts = [(found[0], bit.column + found.start()) for found in re.finditer(r"[^/]+", bit.text)]
    counted = any(part.isdecimal() for part, _ in parts)
    if not all(part.isdecimal() or way.sounds(part) for part, _ in parts) or (len(parts) < 3 and not counted):
        yield bit
        return
    for number, (part, column) in enumerate(parts):
        if number:
            yield Bit("pause", "/", column - 1, column)
        one = Bit("name", part, column, column + len(part))
        yield numbered(int(part[:6]), one) if part.isdecimal() else one


def _run_together(bit: Bit, way: _Way) -> Iterator[Node]:
    """Abbreviations written without a space, as in DSDSRS, where there is one way to part them; else as it is."""
    ways = list(islice(_partings(bit.text, way), 2)) if len(bit.text) <= MOST_LETTERS else []
    if len(ways) != 1:
        yield bit
        return
    column = bit.column
    for part in ways[0]:
        yield Bit("name", part, column, column + len(part))
        column += len(part)
    yield Bit("bound", "", bit.end, bit.end)


def _partings(text: str, way: _Way) -> Iterator[tuple[str, ...]]:
    """The ways in which letters are abbreviations, of two letters or three, one after another."""
    if not text:
        yield ()
    for size in (2, 3):
        if len(text) >= size and way.sounds(text[:size]):
            yield from ((text[:size], *rest) for rest in _partings(text[size:], way))


def _in_syllables(bit: Bit, words: Sequence[tuple[str, int, int]], way: _Way) -> Bit:
    """A word in hyphens as the step that it is with some of them left out, as tri-ple-step; else as it is."""
    if len(words) > MOST_SYLLABLES:
        return bit
    names = ("".join(part for pair in zip(gaps, (w for w, _, _ in words), strict=True) for part in pair)
             for gaps in product(("", " "), repeat=len(words)))  # fmt: skip
    name = next((name for name in names if name[0] != " " and way.sounds(name)), None)
    return bit if name is None else replace(bit, text=name)


def _letter(text: str) -> str:
    """R or L for a foot in a word or a letter; "" for any other word."""
    return {"right": "R", "left": "L"}.get(say.SIDES.get(text.casefold(), ""), "")


def _parted(bit: Bit, way: _Way) -> Iterator[Node]:
    """A word in hyphens as the steps that it is made of, the longest first; as it is where one of them is none."""
    words = [(found[0], found.start(), found.end()) for found in re.finditer(r"[^-]+", bit.text)]
    if all(word.casefold() in _COUNTED or word.isdecimal() for word, _, _ in words):
        # one-and-two, and-a-one.
        for word, start, end in words:
            one = Bit("name", word, bit.column + start, bit.column + end)
            if word.isdecimal():
                yield numbered(int(word[:6]), one)
                continue
            yield division(word.casefold(), one) if word.casefold() in ("a", "e") else one
        return
    if all(say.pace_of(word) for word, _, _ in words):
        # quick-quick-slow.
        yield from (Bit("name", word, bit.column + start, bit.column + end) for word, start, end in words)
        return
    single = [word.casefold() in say.WHERE or way.sounds(word) == 1 for word, _, _ in words]
    if len(words) > 2 and all(single) and any(word.casefold() in say.WHERE for word, _, _ in words):
        # side-together-side-tap.
        for number, (word, start, end) in enumerate(words):
            column = bit.column + start
            yield from [Bit("pause", ",", column - 1, column)] * (number > 0)
            yield Bit("name", word, column, bit.column + end)
        return
    side, step = bit.text.split("-", 1)
    if side in ("R", "L") and way.sounds(step):
        # L-step.
        yield Bit("name", side, bit.column, bit.column + 1)
        yield Bit("name", step, bit.column + 2, bit.end)
        return
    made: list[Bit] = []
    many: list[int] = []
    at = 0
    while at < len(words):
        sizes = range(min(len(words) - at, way.longest), 0, -1)
        names = ((size, " ".join(word for word, _, _ in words[at : at + size])) for size in sizes)
        size, name = next(((size, name) for size, name in names if way.sounds(name)), (0, ""))
        if not size and [word for word, _, _ in words[at : at + 2]] == ["R", "S"] and way.sounds("RS"):
            # DS-DS-R-S.
            size, name = 2, "RS"
        if not size:
            yield _in_syllables(bit, words, way)
            return
        made.append(Bit("name", name, bit.column + words[at][1], bit.column + words[at + size - 1][2]))
        many.append(way.sounds(name))
        at += size
    for number, one in enumerate(made):
        if number and many == [1, 1]:
            yield Bit("hyphen", "-", made[number - 1].end, one.column)
        yield one
    # What is joined is one thing: no name goes on past it.
    yield Bit("bound", "", bit.end, bit.end)
