"""What is said around steps when they are explained: start with a flap, then you clap on 4, and a stamp to finish.

Common practice, no source.
"""

from collections.abc import Callable, Sequence
from itertools import takewhile

from firn.core.script import said as say
from firn.core.script.tokens import headed, is_small_a, numbered
from firn.core.script.tree import PAUSE, Bit, Counts, Node, is_pause, is_word, number_alone, said_in

_BEFORE = (
    "start with", "starts with", "we start with", "you start with", "begin with", "we begin with", "it begins with",
    "it starts with", "it starts", "it begins", "start", "begin", "end with", "ends with", "end on", "we end with",
    "finish with", "we finish with", "finish on", "it goes", "it's", "its", "it is", "so it's", "so", "that's",
    "that is", "this is", "you do", "we do", "i do", "do the", "do a", "do", "you", "we", "now you", "use your",
    "use the", "hit the", "hit your", "put the", "put your", "add a", "add", "don't forget the", "don't forget",
    "remember the", "bring the", "bring your", "bring", "take",
    "dance", "finally", "lastly", "at the end", "next", "last", "last step is", "the last step is",
    "first step is", "first", "firstly", "second", "third", "just", "lead", "count is", "the count is",
    "counts are", "the counts are", "empieza con", "empezamos con", "comienza con", "termina con", "terminamos con",
    "acaba con", "al final", "primero", "segundo", "tercero", "finalmente", "haz", "hacemos", "añade", "solo",
    "sólo", "ready", "ready and", "ready go", "here we go", "and go",
    "go on", "keep going", "last one", "next one", "one more time", "one last time",
    "everybody", "everyone", "we've got", "you've got", "we have", "you have", "there's", "there is", "let's do",
    "let's", "let's go", "you're gonna", "you're gonna go", "we're gonna", "we're gonna go", "you're going to",
    "we're going to", "give me", "i want", "we're doing", "we'll do", "tenemos", "hay", "the step goes",
    "the step is",
    "the pattern goes", "the pattern is", "the combo goes", "the combo is", "the routine goes", "the combination is",
    "the rhythm is", "the rhythm goes", "okay", "ok", "try", "try a", "this time", "for example", "after that",
    "make the", "make your", "make a", "make",
    "here's the step", "here is the step", "here's the pattern", "from the top", "like this", "like so", "count it",
    "nice and slow", "nice and easy", "all right", "alright",
    "slower", "faster", "no rush", "don't rush", "listos", "listas", "listo", "lista", "vamos",
    "we did", "she did", "he did", "they did", "it was", "i think it's", "i think it was", "it started with",
    "we started with", "she started with", "it began with",
    "son", "por último", "seguimos", "sigue", "sin prisa", "más despacio", "más rápido",
)  # fmt: skip
"""Said before a step, at the beginning of a line or after a pause."""

_AFTER = (
    "to finish", "to end", "to start", "at the end", "first", "after", "al final", "para terminar", "primero",
    "una vez",
)  # fmt: skip
"""Said after the last step before a pause, or at a line's end."""

_LAST = ("to finish", "to end", "at the end", "last", "al final", "para terminar")
_ENDS = tuple(tuple(said.split()) for said in _LAST)
"""Said of what comes last, though it is said first: clap at the end: flap flap stamp."""

_DROPPED = frozenset({"heel", "heels", "toe", "toes"})
_LONGEST = 5
_MOST_OPENING = 12
"""Words that are looked through for what leads to a line's first step."""


def _phrases(said: Sequence[str]) -> dict[tuple[str, ...], int]:
    return {tuple(phrase.split()): len(phrase.split()) for phrase in said}


_OPENING, _CLOSING = _phrases(_BEFORE), _phrases(_AFTER)
_LINKS = say.AND | say.THEN
_ON_COUNT = say.ON | say.THE | say.COUNTED
"""Said before the count that a line begins on."""
_LEAD = say.WHO_BEGINS | {"lead", "leads", "first"}


def without_fillers(nodes: Sequence[Node], sounds: Callable[[str], int]) -> Sequence[Node]:
    """A line's tokens without what only leads from step to step.

    `sounds`: how many sounds the step has that goes by a name, 0 where there is none: what names one is no filler.
    """
    if said_in(nodes).isdisjoint(_MAY_FILL):
        return nodes
    nodes = _begun_on(_last_at_end(nodes))
    names = [_said(node) for node in nodes]
    led = _led_in(nodes, names) or _and_before(nodes, names, sounds)
    if led:
        return without_fillers(nodes[led:], sounds)
    if not any(name in _FIRST for name in names):
        return nodes
    made: list[Node] = []
    at, opens = 0, True
    while at < len(nodes):
        size = _opened(names, at, sounds) if opens else 0
        if size and at + size + 1 < len(nodes) and is_small_a(nodes[at + size]) and names[at + size + 1]:
            size += 1
        if size and made and _said(made[-1]) in say.AND:
            # "and finally": it links, and is no &.
            link = made.pop()
            if made and not is_pause(made[-1]):
                made.append(Bit("pause", ",", link.column, link.end))
        size = size or _closed(nodes, names, at, sounds)
        if size:
            at += size
            continue
        node = nodes[at]
        opens = is_pause(node) or names[at] in _LINKS
        made.append(node)
        at += 1
    return made if len(made) < len(nodes) and any(_said(node) for node in made) else nodes


def without_opening(nodes: Sequence[Node], sounds: Callable[[str], int]) -> Sequence[Node]:
    """A line's tokens without what leads to its first step, alone: so, we start with a flap."""
    names = [_said(node) for node in nodes[:_MOST_OPENING]]
    at = _foot_said(nodes, names)
    led = nodes[:at]
    while at < len(names) and names[at] in _FIRST - _IN_TURN and (size := _opened(names, at, sounds)):
        at += size
        asked = at + 1 < len(nodes) and _pause(nodes[at]) == "?"
        at += asked or (at + 1 < len(nodes) and is_pause(nodes[at]) and (bool(led) or ":" not in _pause(nodes[at])))
    return [*led, *nodes[at:]] if len(led) < at < len(nodes) else nodes


def _foot_said(nodes: Sequence[Node], names: Sequence[str]) -> int:
    """How many tokens a line begins with that only say which foot does: right foot lead, …; 0 for none."""
    pause = next((at for at, node in enumerate(nodes[: len(names)]) if is_pause(node)), 0)
    head = names[:pause]
    foot = any(name in say.SIDES for name in head) and all(name in _LEAD for name in head)
    return pause + 1 if foot else 0


def _pause(node: Node) -> str:
    return node.text if isinstance(node, Bit) else ""


def _last_at_end(nodes: Sequence[Node]) -> Sequence[Node]:
    """A line with what its head says to be at its end, there."""
    head, rest = headed(nodes)
    said = tuple(_said(node) for node in head)
    ends = next((len(words) for words in _ENDS if len(said) > len(words) and said[-len(words) :] == words), 0)
    if not ends or not any(_said(node) for node in rest):
        return nodes
    last = nodes[-1].end
    return [*rest, Bit("pause", ",", last, last), *head[: len(head) - ends]]


def _begun_on(nodes: Sequence[Node]) -> Sequence[Node]:
    """A line with the only count that it has at its head, where its end says that it begins there: flap flap,
    starting on 8."""
    number = number_alone(nodes[-1]) if nodes else None
    led = list(takewhile(lambda name: name in _ON_COUNT, (_said(node) for node in reversed(nodes[:-1]))))
    at = len(nodes) - 2 - len(led)
    if number is None or not led or at < 1 or _said(nodes[at]) not in say.STARTS:
        return nodes
    before = nodes[: at - is_pause(nodes[at - 1])]
    if any(isinstance(node, Counts) and not is_small_a(node) for node in before):
        return nodes
    begins = before[0].column
    return [numbered(number, Bit("name", "", begins, begins)), *before]


def _led_in(nodes: Sequence[Node], names: Sequence[str]) -> int:
    """How many tokens a line begins with that only count it in, as in 5 6 ready go; 0 for none."""
    counts = next((n for n, node in enumerate(nodes) if not isinstance(node, Counts)), len(nodes))
    said = next((n for n, name in enumerate(names[counts:]) if name not in _READY), len(names) - counts)
    end = counts + said
    ready = any(name in _GO for name in names[counts:end])
    return end + 1 if ready and counts and end < len(nodes) - 1 and is_pause(nodes[end]) else 0


def _and_before(nodes: Sequence[Node], names: Sequence[str], sounds: Callable[[str], int]) -> int:
    """1 where a line begins with an "and" that leads to its first number: and 1 stamp. Before a step of several
    sounds it is its first one's count, as in and 1 flap."""
    if len(nodes) < 3 or names[0] not in say.AND:
        return 0
    number = number_alone(nodes[1]) or say.NUMBERS.get(names[1])
    steps = [sounds(" ".join(names[2:end])) for end in range(3, min(len(names), 2 + _LONGEST) + 1)]
    return int(number is not None and max(steps, default=0) == 1)


def _opened(names: Sequence[str], at: int, sounds: Callable[[str], int]) -> int:
    """How many words from one on only lead to the step that follows; 0 for none."""
    if names[at] == "drop" and not sounds(" ".join(names[at : at + 2])):
        # "drop both heels": they drop anyway.
        # "drop the right heel".
        dropped = next((n for n in names[at + 1 : at + 4] if n not in say.THE and n not in say.SIDES), "")
        return int(dropped in _DROPPED)
    size = _phrase(names, at, _OPENING)
    follows = names[at + size] if size and at + size < len(names) else None
    if not size or follows is None or (size == 1 and not follows and names[at] in _ALONE):
        return 0
    starts = next((n for n in range(size) if names[at + n] in say.STARTS), size)
    if starts < size and any(name in say.SIDES for name in names[at + starts : at + starts + 5]):
        # "we begin on the right": the foot that begins is said.
        return starts
    # A step, or the beginning of one, is no filler.
    longest = names[at : at + size + 3]
    if any(all(longest[:n]) and sounds(" ".join(longest[:n])) for n in range(1, len(longest) + 1)):
        return 0
    return size


def _closed(nodes: Sequence[Node], names: Sequence[str], at: int, sounds: Callable[[str], int]) -> int:
    """How many words up to a pause, or the line's end, only say that something comes last, or first; 0 for none."""
    size = _phrase(names, at, _CLOSING)
    if not size or not at or sounds(" ".join(names[at : at + size])):
        return 0
    return size if at + size == len(nodes) or is_pause(nodes[at + size]) else 0


def _phrase(names: Sequence[str], at: int, phrases: dict[tuple[str, ...], int]) -> int:
    """How many words the longest phrase has that stands at one; 0 for none."""
    sizes = range(min(_LONGEST, len(names) - at), 0, -1)
    return next((n for n in sizes if tuple(names[at : at + n]) in phrases), 0)


def _said(node: Node) -> str:
    return node.text.casefold().replace("’", "'") if is_word(node) else ""


_FIRST = {phrase[0] for phrase in (*_OPENING, *_CLOSING)} | {"drop"}
_MAY_FILL = _FIRST | {word.replace("'", "’") for word in _FIRST} | say.AND | say.STARTS | {PAUSE}
"""What a line holds that only leads from step to step."""
_IN_TURN = frozenset(
    {"first", "second", "third", "last", "next", "primero", "segundo", "tercero", "put", "don't", "remember"}
)
"""First words of what may be said of counts, of what comes in its turn, or only calls to mind what comes."""
_GO = frozenset({"ready", "go", "listos", "listas", "vamos"})
_READY = _GO | {"and", "here", "we", "y", "ya"}
_ALONE = frozenset({"first", "second", "third", "last", "next", "so", "end", "start", "begin"})
"""These before a count may be more than fillers."""
