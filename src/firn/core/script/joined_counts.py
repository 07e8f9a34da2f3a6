"""Counts that are said in one: 1-&-2, a-8, and a one, uh-two.

Common practice, no source.
"""

from collections.abc import Callable, Sequence
from itertools import takewhile

from msgspec.structs import replace

from firn.core.script import said as say
from firn.core.script.said_lists import counted_after
from firn.core.script.tokens import (
    count_of,
    division,
    is_article,
    is_name,
    is_often,
    is_said,
    is_small_a,
    number_of,
    said_of_several,
)
from firn.core.script.tree import (
    HYPHEN,
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

_LETTERS = {**say.DIVISIONS, "a": "a", "e": "e"}
_DASHES = ("-", "–", "—")
_IS, _AT = frozenset({"is", "es"}), frozenset({"at"})
_SAID = _IS | _AT
_AT_THE = frozenset({"al"})
_THERE, _THERE_BEFORE = frozenset({"there's", "there’s", "hay"}), frozenset({"there"})
_ON_THEM = _THERE | _AT_THE | say.AND | {PAUSE}
_OF = " of "
"""In a count that is said with the one it divides."""
_LONGEST = 3
"""Words of a name of one sound."""
_LED = 2
"""Tokens that counts are joined to."""


_JOINED = say.AND | {PAUSE, OTHER, HYPHEN, "<ee>"}
"""What a line holds in which counts may be joined."""


def without_second_and(nodes: Sequence[Node]) -> Sequence[Node]:
    """A line without the "and" that joins an & to the next number, shuffle on the and and 2, or two groups of counts:
    DS on &1 and &2."""
    if said_in(nodes).isdisjoint(say.AND):
        return nodes
    gone = {at for at in range(1, len(nodes) - 1) if is_name(nodes[at], say.AND) and _joins(*nodes[at - 1 : at + 2])}
    return [node for at, node in enumerate(nodes) if at not in gone] if gone else nodes


def _joins(before: Node, _: Node, after: Node) -> bool:
    """Whether an "and" between two tokens is no count of its own."""
    half = is_name(before, say.AND) or (isinstance(before, Counts) and before.text == "&")
    grouped = all(isinstance(node, Counts) and len(node.atoms) > 1 for node in (before, after))
    return grouped or (half and number_alone(count_of(after)) is not None)


def joined_counts(nodes: Sequence[Node]) -> tuple[list[Node], list[tuple[Counts, Counts]]]:
    """A line with what hyphens make of counts in one, "and a one" as these are, and "and a clap" as that clap; one e
    for an "ee". And the decimals in it, 1.5, each as its two numbers: these are none."""
    if said_in(nodes).isdisjoint(_JOINED):
        return [*nodes], []
    made: list[Node] = []
    decimals: list[tuple[Counts, Counts]] = []
    for said in nodes:
        node = _in_hyphens(said)
        before = made[-_LED - 1] if len(made) > _LED else None
        # "flap clap x2 and a stamp": it is one more.
        opens = len(made) >= _LED and (before is None or is_pause(before) or is_often(before))
        match made[-_LED:], node:
            case [Counts() as led, Bit(text="-") as sign], Counts() if _tight(led, sign, node) and _divides(
                led, node
            ):
                made[-_LED:] = [_as_one(led, node)]
                continue
            case [Counts() as led, Bit(text=".") as sign], Counts() if (
                _tight(led, sign, node) and number_alone(led) and number_alone(node)
            ):
                decimals.append((led, node))
                made.pop()
                continue
            case [Bit() as led, Counts() as article], _ if opens and is_name(led, say.AND) and is_small_a(article):
                number = count_of(node)
                if number is not None and number_alone(number):
                    made[-_LED:] = [_as_one(_as_one(division("&", led), article), number)]
                    continue
                if is_word(node):
                    made[-_LED:] = []
        if isinstance(node, Counts) and node.text.casefold() == "ee":
            node = replace(node, atoms=node.atoms[:1])
        made.append(node)
    return made, decimals


def on_their_counts(nodes: Sequence[Node], sounds: Callable[[str], int]) -> Sequence[Node]:
    """A line with "on" for the colon between single sounds and counts that nothing else is danced on, and without
    what only leads from a count to its step: stamp: 2 and 8, clap: 4; on 2 there's a step. `sounds`: how many sounds
    the step has that goes by a name, 0 where there is none."""
    if said_in(nodes).isdisjoint(_ON_THEM):
        return nodes
    colons = [at for at, node in enumerate(nodes) if is_pause(node) and ":" in node.text]
    listed = all(_ends_with_one(nodes[:at], sounds) and _counts_alone(nodes, at + 1) for at in colons)
    made: list[Node] = []
    counting = False
    for at, node in enumerate(nodes):
        led = made[-1] if made else None
        there = is_name(node, _THERE) and led is not None and count_of(led) is not None and _led_by_on(made)
        if there or (is_name(node, _IS) and is_name(led, _THERE_BEFORE)):
            if not there:
                made.pop()
            continue
        inside = led.items if isinstance(led, Group) and at + 1 < len(nodes) and is_word(nodes[at + 1]) else ()
        if is_name(node, say.AND) and inside and all(isinstance(one, Counts) for one in inside):
            # "heel (3) and stamp (4)".
            made.append(Bit("pause", ",", node.column, node.end))
            continue
        if is_name(node, _AT_THE) and at + 1 < len(nodes) and count_of(nodes[at + 1]) is not None and made:
            # "golpe al cinco".
            made.append(Bit("name", "en", node.column, node.end))
            counting = True
            continue
        if listed and at in colons:
            made.append(Bit("name", "on", node.column, node.end))
            counting = True
            continue
        count = count_of(node) if counting and not is_name(node, say.AND) else None
        counting = counting and (count is not None or is_name(node, say.THE | say.AND) or is_pause(node))
        made.append(node if count is None else count)
    return made if len(made) < len(nodes) or any(a is not b for a, b in zip(made, nodes, strict=True)) else nodes


def _led_by_on(made: Sequence[Node]) -> bool:
    """Whether "on" stands before the count that some tokens end with."""
    before = len(made) - 2 - is_said(made, len(made) - 2, say.THE)
    return is_said(made, before, say.ON)


def _counts_alone(nodes: Sequence[Node], at: int) -> bool:
    """Whether counts follow from a token on, and nothing else up to a pause or the line's end."""
    counted = False
    for n in range(at, len(nodes)):
        node = nodes[n]
        if count_of(node) is not None and not is_name(node, say.AND):
            counted = True
        elif not (is_name(node, say.THE | say.AND | say.OF) or (is_pause(node) and node.text == ",")):
            ends = is_pause(node) or is_name(node, say.THEN) or (isinstance(node, Bit) and node.text == "/")
            return counted and (ends or is_pause(nodes[n - 1]))
    return counted


def _ends_with_one(made: Sequence[Node], sounds: Callable[[str], int]) -> bool:
    """Whether some tokens end with the name of one sound."""
    row = takewhile(lambda node: is_word(node) and count_of(node) is None, reversed(made[-_LONGEST:]))
    words = [node.text for node in row if isinstance(node, Bit)][::-1]
    longest = next((n for n in range(len(words), 0, -1) if sounds(" ".join(words[-n:]))), 0)
    # "flaps: 4" is how many.
    return longest > 0 and sounds(" ".join(words[-longest:])) == 1 and not said_of_several(words[-1])


def without_links(nodes: Sequence[Node]) -> Sequence[Node]:
    """A line that says of counts which step is on each, as 1 - hop 2 - step or 1 is a hop, without what says so."""
    if not any(map(_may_link, nodes)):
        return nodes
    made: list[Node] = []
    dashes = [at for at, node in enumerate(nodes) if isinstance(node, Bit) and node.text in _DASHES]
    led = bool(dashes) and all(0 < at < len(nodes) - 1 for at in dashes)
    # "1 - hop, the & of 2 - step", "one - hop, the and of two - step".
    divided = any(isinstance(node, Counts) and _OF in node.text for node in nodes)
    said_counts = [at for at, node in enumerate(nodes) if (divided or isinstance(node, Counts)) and count_of(node)]
    each = led and all(at - 1 in said_counts and is_word(nodes[at + 1]) for at in dashes)
    dashed = each and len(dashes) == len(said_counts) > 1
    pauses = {at for at in range(1, len(nodes)) if is_pause(nodes[at]) and isinstance(nodes[at - 1], Counts)}
    # "1, toe 2, hop", "on the 1, toe, on the 2, hop".
    led = bool(nodes) and (isinstance(nodes[0], Counts) or is_name(nodes[0], say.ON))
    parted = (
        led
        and len(pauses) == sum(isinstance(node, Counts) for node in nodes) > 1
        and all(at + 1 < len(nodes) and is_word(nodes[at + 1]) and number_of(nodes[at + 1]) is None for at in pauses)
    )
    for at, node in enumerate(nodes):
        if (
            isinstance(node, Bit)
            and (is_name(node, _AT) or node.text == "@")
            and at + 1 < len(nodes)
            and count_of(nodes[at + 1]) is not None
        ):
            made.append(replace(node, kind="name", text="on"))
            continue
        if parted and at in pauses and isinstance(node, Bit) and node.text == ",":
            continue
        if is_small_a(node) and (counted_after(nodes, at + 1) or _on_before(nodes, at)):
            continue
        said = at > 0 and isinstance(nodes[at - 1], Counts) and is_name(node, _IS) and at + 1 < len(nodes)
        article = at > 1 and is_name(nodes[at - 1], _IS) and isinstance(nodes[at - 2], Counts) and is_article(node)
        if not (said or article or (dashed and at in dashes)):
            count = count_of(node) if dashed and at in said_counts else None
            made.append(node if count is None else count)
    return made if made != list(nodes) else nodes


def _may_link(node: Node) -> bool:
    """Whether a token may say of a count which step is on it."""
    if not isinstance(node, Bit):
        return is_small_a(node)
    return node.kind in ("pause", "other") or node.text in _DASHES or is_name(node, _SAID)


def _on_before(nodes: Sequence[Node], at: int) -> bool:
    """Whether "on" and a count stand right before a token, and a word behind it: on 4 a kick."""
    on = at - 2 - is_said(nodes, at - 2, say.THE)
    led = at > 1 and count_of(nodes[at - 1]) is not None and is_said(nodes, on, say.ON)
    return led and at + 1 < len(nodes) and is_word(nodes[at + 1])


def _tight(led: Counts, sign: Bit, node: Counts) -> bool:
    """Whether a sign stands between counts without a space."""
    return led.end == sign.column and sign.end == node.column


def _divides(led: Counts, node: Counts) -> bool:
    """Whether a hyphen between counts parts no range: one of them is a division."""
    return led.atoms[-1].number is None or node.atoms[0].number is None


def _in_hyphens(node: Node) -> Node:
    """Counts in words that hyphens join: and-a-one, uh-two; any other token as it is."""
    if not is_word(node) or "-" not in node.text:
        return node
    parts = node.text.casefold().split("-")
    numbers = [say.NUMBERS.get(part, 0) for part in parts]
    if len(parts) == 2 and 0 < numbers[0] < numbers[1]:
        # "one-four" is 1-4.
        return Counts((Atom(numbers[0], "", "", numbers[1]),), node.text, node.column, node.end)
    if not all(part in _LETTERS or part in say.NUMBERS for part in parts) or _LETTERS.keys().isdisjoint(parts):
        return node
    atoms = tuple(Atom(say.NUMBERS.get(part), _LETTERS.get(part, ""), "", None) for part in parts)
    return Counts(atoms, node.text, node.column, node.end)


def _as_one(led: Counts, node: Counts) -> Counts:
    return replace(led, atoms=(*led.atoms, *node.atoms), text=f"{led.text}{node.text}", end=node.end)
