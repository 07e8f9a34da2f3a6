"""What is said between steps, and how it is written down by what hears it: um, one hop to step three hop, step heal.

Common practice, no source.
"""

from collections.abc import Callable, Sequence
from itertools import pairwise
from typing import NamedTuple

from msgspec.structs import replace

from firn.core.script import said as say
from firn.core.script.tokens import count_of, division, is_said, number_of
from firn.core.script.tree import Bit, Counts, Node, is_pause, is_word, number_alone, said_in

_PAUSED = frozenset({
    "um", "umm", "uh", "er", "erm", "hmm", "hm", "eh", "em", "okay", "ok", "alright", "oh", "well", "bueno", "pues",
    "vale", "este", "like", "basically",
})  # fmt: skip
_PAUSED_IN_TWO = frozenset({("you", "know"), ("o", "sea"), ("a", "ver"), ("i", "guess"), ("all", "right")})
"""Said while one thinks what comes."""

_SOUND_ALIKE = {"to": 2, "too": 2, "tow": 2, "for": 4, "fore": 4, "won": 1, "ate": 8}
"""Numbers as they are written down where they are only heard."""
_HEARD_AS = {"heal": "heel", "heals": "heels", "tow": "toe", "tows": "toes"}
_HEARD_IN_TWO = {("bowl", "change"): "ball", ("bowls", "change"): "ball", ("bald", "change"): "ball"}

_TAKES_BACK = (
    ("no",), ("not",), ("sorry",), ("wait",), ("oops",), ("rather",), ("actually",), ("correction",),
    ("scratch", "that"), ("i", "mean"), ("i", "meant"), ("make", "that"), ("excuse", "me"),
    ("perdón",), ("perdon",), ("digo",),
    ("mejor", "dicho"), ("no", "wait"), ("no", "sorry"), ("no", "just"), ("ay", "no"), ("wait", "no"),
)  # fmt: skip
"""Said where what came before is taken back."""


class TakenBack(NamedTuple):
    """Where a line takes back what it said: the words that say so, how many tokens stay of those before, and from
    which one on it goes on."""

    said: Bit
    kept: int
    anew: int


def as_dictated(nodes: Sequence[Node], sounds: Callable[[str], int]) -> Sequence[Node]:
    """A line's tokens without what is only said to go on talking, and with what was misheard as it was said.

    `sounds`: how many sounds the step has that goes by a name, 0 where there is none: what names one stays.
    """
    if not said_in(nodes).isdisjoint(_KNOWN):
        nodes = _heard(nodes, [_text(node) for node in nodes], sounds)
    return _counted_in_words(nodes) or nodes


def _heard(nodes: Sequence[Node], texts: list[str], sounds: Callable[[str], int]) -> Sequence[Node]:
    made: list[Node] = []
    at = 0
    last: int | None = None
    later: list[int | None] = [None] * (len(nodes) + 1)
    for place in range(len(nodes) - 1, -1, -1):
        likely = _likely(nodes[place])
        later[place] = likely if likely is not None else later[place + 1]
    while at < len(nodes):
        node, pair = nodes[at], tuple(texts[at : at + 2])
        if pair in _PAUSED_IN_TWO:
            at += 2
        elif texts[at] in _PAUSED and not _names(texts, at, sounds) and not _is_division(node, made):
            at += 1
            # "um, 1 step": what parts it from the steps goes with it.
            at += bool(not made and at < len(nodes) and is_pause(nodes[at]))
        elif pair in _HEARD_IN_TWO and isinstance(node, Bit):
            made.append(replace(node, text=_HEARD_IN_TWO[pair]))
            at += 1
        else:
            # "1 slide to the right 3 step", "1 step to 3 clap": no step follows.
            on = is_said(nodes, at - 1, say.ON)
            counts = on or (_names(texts, at + 1, sounds) and not is_said(nodes, at + 1, _WHERE_TO))
            number = (
                None if _names(texts, at, sounds) else _number_heard(nodes, at, (last, later[at + 1]), counts=counts)
            )
            heard = _HEARD_AS.get(texts[at]) if not sounds(texts[at]) else None
            if number is not None:
                # As a word, which what reads numbers in words takes as any other.
                node = replace(node, text=_IN_WORDS[number]) if isinstance(node, Bit) else node
            elif heard is not None and isinstance(node, Bit):
                node = replace(node, text=heard)
            made.append(node)
            counted = _number(node)
            last = counted if counted is not None else last
            at += 1
    same = len(made) == len(nodes) and all(one is other for one, other in zip(made, nodes, strict=True))
    return nodes if same or not any(_text(node) or isinstance(node, Counts) for node in made) else made


def _counted_in_words(nodes: Sequence[Node]) -> Sequence[Node]:
    """A line whose numbers in words are its counts, as an "and" between two shows: one rock two step three and four
    triple; () for any other."""
    if said_in(nodes).isdisjoint(say.AND):
        return ()
    numbers = [(at, number_of(node)) for at, node in enumerate(nodes)]
    said = {at: counts for at, counts in numbers if counts is not None}
    values = [number_alone(counts) or 0 for counts in said.values()]
    links = [at for at in said if is_said(nodes, at + 1, say.AND) and at + 2 in said]
    up = all(after == before + 1 for before, after in pairwise(values))
    if not links or len(values) < 3 or not up or any(isinstance(node, Counts) for node in nodes):
        return ()
    made: list[Node] = []
    for at, node in enumerate(nodes):
        # "four, five, six and seven", "on one and two" are lists, as in figures.
        before = at - 2
        listed = (before - 1 in said and before > 0 and is_pause(nodes[before])) or is_said(nodes, before, say.ON)
        link = at - 1 in links and not listed
        made.append(division("&", node) if link and isinstance(node, Bit) else said.get(at, node))
    return made


def taken_back(nodes: Sequence[Node], sounds: Callable[[str], int]) -> TakenBack | None:
    """Where a line takes back what it said last: 1 step 2 clap, no, 2 stamp; None where it does not."""
    if said_in(nodes).isdisjoint(_BEGINS_BACK):
        return None
    texts = [_text(node) for node in nodes]
    first = next((at for at in range(len(nodes)) if _names(texts, at, sounds)), len(nodes))
    for at in range(1, len(nodes) - 1):
        size = next((len(way) for way in _LONGEST_FIRST if tuple(texts[at : at + len(way)]) == way), 0)
        said = nodes[at]
        if not size or not isinstance(said, Bit) or _names(texts, at, sounds):
            continue
        anew, before = at + size, at
        while anew < len(nodes) and is_pause(nodes[anew]):
            anew += 1
        while before and is_pause(nodes[before - 1]):
            before -= 1
        if before <= first or not _begins(nodes, texts, anew, sounds):
            # "no weight" takes nothing back.
            continue
        last = nodes[at + size - 1]
        whole = Bit("name", " ".join(texts[at : at + size]), said.column, last.end)
        if whole.text in _NOT:
            # "stamp, not clap" takes nothing back.
            longest = (n for n in range(3, 0, -1) if sounds(" ".join(texts[anew : anew + n])))
            return TakenBack(whole, before, anew + next(longest, len(nodes) - anew))
        return TakenBack(whole, _kept(nodes, texts, before, anew, sounds), anew)
    return None


def _kept(nodes: Sequence[Node], texts: list[str], before: int, anew: int, sounds: Callable[[str], int]) -> int:
    """How many tokens stay of those before: up to the same count, or to the last step."""
    number = _number(nodes[anew])
    if number is not None:
        same = (at for at in range(before - 1, -1, -1) if _number(nodes[at]) == number)
        found = next(same, None)
        number_before = (at for at in range(before - 1, -1, -1) if _number(nodes[at]) is not None)
        found = next(number_before, None) if found is None else found
        if found is not None:
            return found
    return next((at for at in range(max(0, before - 3), before) if sounds(" ".join(texts[at:before]))), before - 1)


def _is_division(node: Node, before: Sequence[Node]) -> bool:
    """Whether a word right after a number is the division that it sounds like: one uh two."""
    return count_of(node) is not None and bool(before) and _number(before[-1]) is not None


def _number(node: Node) -> int | None:
    return number_alone(node) if isinstance(node, Counts) else say.NUMBERS.get(_text(node))


def _begins(nodes: Sequence[Node], texts: list[str], at: int, sounds: Callable[[str], int]) -> bool:
    """Whether a count, a foot or a step stands at a token."""
    while is_said(nodes, at, _SMALL):
        at += 1
    return at < len(nodes) and (isinstance(nodes[at], Counts) or _number(nodes[at]) is not None
                                or _names(texts, at, sounds))  # fmt: skip


def _names(texts: list[str], at: int, sounds: Callable[[str], int]) -> bool:
    """Whether a step's name begins with a word."""
    sizes = range(1, 4)
    return any(all(texts[at : at + n]) and sounds(" ".join(texts[at : at + n])) for n in sizes)


def _number_heard(
    nodes: Sequence[Node], at: int, beside: tuple[int | None, int | None], *, counts: bool
) -> int | None:
    """The number that a word is that sounds like one, where the numbers beside it go on through it, or it says how
    often; None for none. `beside`: the numbers before and after it; `counts`: whether it may be a count by what is
    beside it."""
    number = _SOUND_ALIKE.get(_text(nodes[at]))
    if number is None:
        return None
    if is_said(nodes, at + 1, say.TIMES):
        return number
    if not counts:
        return None
    last, later = beside
    on = is_said(nodes, at - 1, say.ON)
    goes_on = later == number + 1 and (last == number - 1 or (last is None and number == 1))
    # The last of four or eight; or said to be a count: on won.
    ends = later is None and last == number - 1 and (number in (4, 8) or on)
    first = on and number == 1 and last is None
    return number if goes_on or ends or first else None


def _likely(node: Node) -> int | None:
    """A number, or what sounds like one."""
    number = _number(node)
    return number if number is not None else _SOUND_ALIKE.get(_text(node))


def _text(node: Node) -> str:
    return node.text.casefold() if is_word(node) else ""


_SMALL = frozenset({*say.SIDES, *say.THE, *say.AND, *say.ON})
_IN_WORDS = {1: "one", 2: "two", 4: "four", 8: "eight"}
_WHERE_TO = frozenset({*say.WHERE, *say.SIDES, *say.THE, "my", "your", "a"})
_NOT = frozenset({"not"})
_BEGINS_BACK = {way[0] for way in _TAKES_BACK}
_LONGEST_FIRST = sorted(_TAKES_BACK, key=len, reverse=True)
_KNOWN = {
    *_PAUSED, *(one for one, _ in _PAUSED_IN_TWO), *_SOUND_ALIKE, *_HEARD_AS, *(one for one, _ in _HEARD_IN_TWO),
}  # fmt: skip
