"""Figures that are counted word by word, as in 1 rock 2 step, and steps that are counted on: walk 2 3 kick.

Common practice, no source.
"""

from collections.abc import Callable, Sequence
from itertools import takewhile
from typing import NamedTuple

from firn.core.script import said as say
from firn.core.script.said import WHERE
from firn.core.script.tokens import division, is_name, number_of, numbered
from firn.core.script.tree import Bit, Counts, Node, is_pause, is_word, number_alone, said_in

_NUMBERS = frozenset(say.NUMBERS)
_WHERE = frozenset(WHERE)
_BESIDE = say.ON | say.DANCERS | _WHERE
"""Said beside a step and its count."""
_IN_TWO = 2
"""Sounds of a figure that is counted in two words."""
MOST_WORDS = 6
"""Words of a figure that are looked for."""


def rejoined(nodes: Sequence[Node], sounds: Callable[[str], int], longest: Callable[[str], int]) -> Sequence[Node]:
    """A line with each figure whose words stand each after a count of its own as one name after all of these.

    `sounds`: how many sounds the step has that goes by a name, 0 where there is none; `longest`: of how many words a
    name is at most that begins with a word. What is a step in each of its words, as 1 heel 2 toe, stays so.
    """
    made: list[Node] = []
    counted = [_counted_word(nodes, at) for at in range(len(nodes))]
    at = 0
    while at < len(nodes):
        words = [word for word in takewhile(bool, counted[at : at + 2 * MOST_WORDS : 2]) if word is not None]
        apart = at == 0 or is_pause(nodes[at - 1]) or is_name(nodes[at - 1], say.THEN)
        about = _about_counts(nodes, at, sounds) if apart else []
        if about:
            made += about
            at += len(about) + 1
            continue
        sizes = range(min(len(words), longest(words[0].text)), 1, -1) if words else ()
        size = next((n for n in sizes if _is_figure(words[:n], sounds)), 0)
        if size:
            name = " ".join(word.text for word in words[:size])
            made += (*nodes[at : at + 2 * size : 2], Bit("name", name, words[0].column, words[size - 1].end))
            at += 2 * size
        else:
            made.append(nodes[at])
            at += 1
    return made if len(made) < len(nodes) else nodes


def counted_apart(nodes: Sequence[Node], sounds: Callable[[str], int]) -> Sequence[Node]:
    """A line with the counts of a figure of two words before its name, where its first word alone would be all of it
    and each has its count, over a pause: rock on 1, step on 2; rock 1, step 2; 1 rock, 2 step."""
    pauses = [at for at in range(2, len(nodes) - 2) if is_pause(nodes[at])]
    if not pauses:
        return nodes
    made = list(nodes)
    for at in reversed(pauses):
        begins, first = _with_count(nodes, at, back=True)
        ends, second = _with_count(nodes, at, back=False)
        if first is None or second is None or not _is_figure([first[0], second[0]], sounds):
            continue
        if sounds(first[0].text) < _IN_TWO and sounds(second[0].text):
            # "1 kick, 2 step" are steps of their own.
            continue
        name = f"{first[0].text} {second[0].text}"
        where = [node for node in nodes[begins:at] if is_name(node, _WHERE)]
        made[begins:ends] = [first[1], second[1], Bit("name", name, first[0].column, second[0].end), *where]
    return made if len(made) < len(nodes) else nodes


def _with_count(nodes: Sequence[Node], at: int, *, back: bool) -> tuple[int, tuple[Bit, Counts] | None]:
    """The word and its one count that stand before a pause, or after it, and nothing else up to the next; and where
    they begin, or end."""
    begins = at
    if back:
        while begins and not is_pause(nodes[begins - 1]) and not is_name(nodes[begins - 1], say.THEN | say.AND):
            begins -= 1
        part = nodes[begins:at]
    else:
        end = at + 1
        while end < len(nodes) and not is_pause(nodes[end]) and not is_name(nodes[end], say.THEN | say.AND):
            end += 1
        part, begins = nodes[at + 1 : end], end
    word = next(
        (node for node in part if isinstance(node, Bit) and is_word(node) and not is_name(node, _BESIDE)), None
    )
    count = next((node for node in part if isinstance(node, Counts) and len(node.atoms) == 1), None)
    others = [node for node in part if node not in (word, count) and not is_name(node, _BESIDE)]
    return begins, (word, count) if word is not None and count is not None and not others else None


def _about_counts(nodes: Sequence[Node], at: int, sounds: Callable[[str], int]) -> list[Node]:
    """A figure of two words with all its counts between these, as its counts and its name: rock &3 step; [] for
    none."""
    counts = list(takewhile(lambda node: isinstance(node, Counts), nodes[at + 1 : at + 1 + MOST_WORDS]))
    last = at + 1 + len(counts)
    if not counts or last >= len(nodes) or (last + 1 < len(nodes) and is_word(nodes[last + 1])):
        return []
    first, second = nodes[at], nodes[last]
    if not isinstance(first, Bit) or not isinstance(second, Bit) or not is_word(first) or not is_word(second):
        return []
    texts = first.text, second.text
    many = sum(len(count.atoms) for count in counts if isinstance(count, Counts))
    alone = all(sounds(text) == 1 or text.casefold() in WHERE for text in texts)
    if alone or many < 2 or sounds(" ".join(texts)) != many:
        return []
    return [*counts, Bit("name", " ".join(texts), first.column, second.end)]


def _counted_word(nodes: Sequence[Node], at: int) -> Bit | None:
    """The word that stands alone after one count."""
    if at + 1 >= len(nodes) or (at + 2 < len(nodes) and is_word(nodes[at + 2])):
        return None
    counts, word = nodes[at], nodes[at + 1]
    single = isinstance(counts, Counts) and len(counts.atoms) == 1 and counts.atoms[0].through is None
    return word if single and is_word(word) else None


def _is_figure(words: Sequence[Bit], sounds: Callable[[str], int]) -> bool:
    texts = [word.text for word in words]
    if sounds(" ".join(texts)) != len(texts):
        return False
    # "1 side 2 step" is a step to the side, and a step.
    return not all(sounds(text) == 1 or text.casefold() in WHERE for text in texts)


class CountedOn(NamedTuple):
    """A step, or some, with counts that go on after its first, and what comes last.

    `first`: its count, where that is said; `words`, `counts`, `last`, `rest`: tokens in their order.
    """

    first: Counts | None
    words: tuple[Bit, ...]
    counts: tuple[Counts, ...]
    last: tuple[Bit, ...]
    rest: tuple[Node, ...]

    @property
    def name(self) -> str:
        return " ".join(word.text for word in self.words)

    def in_full(self, then: str, *, opens: bool) -> str:
        """What is danced on each count, said in full: `then` on those that go on, "" for the same.

        `opens`: nothing is danced before it.
        """
        if then and opens and self.first is None and not self.last:
            return "  ".join([self.name, *(f"{one.text} {then}" for one in self.counts)])
        if self.first is not None or not (then or self.last):
            said = [f"{one.text} {then or self.name}" for one in self.counts]
            return "  ".join([f"{self.first.text} {self.name}", *said] if self.first is not None else said)
        last = " ".join(word.text for word in self.last)
        return ", ".join(filter(None, (self.name, *(then or self.name for _ in self.counts), last)))


def walked_up(part: Sequence[Node], walks: Callable[[str], bool]) -> Sequence[Node]:
    """What stands between two pauses with a step on each of the counts that follow it, and then what comes last: walk
    1 2 3 kick, walk 1 2 3 and kick. `walks`: whether a name is a step of which several are a walk."""
    end = len(part) - is_pause(part[-1])
    words = list(takewhile(is_word, part[:end]))
    counts = list(takewhile(lambda one: isinstance(one, Counts), part[len(words) : end]))
    last = part[len(words) + len(counts) : end]
    half = bool(counts) and isinstance(counts[-1], Counts) and counts[-1].text == "&"
    counts, last = (counts[:-1], [counts[-1], *last]) if half else (counts, last)
    numbers = [number_alone(one) for one in counts]
    linked = bool(last) and is_word(last[0]) and last[0].text.casefold() in say.AND
    own = last[1:] if half or linked else last
    # "walk 1 2 3, kick": with a pause nothing has to follow before it.
    over = not last and end < len(part)
    if len(counts) < 2 or not (own or over) or not all(is_word(one) for one in own) or None in numbers:
        return part
    first, name = numbers[0] or 0, " ".join(word.text for word in words if isinstance(word, Bit))
    # "walk 2 3 kick" has its first step on 1.
    if first not in (1, 5) or numbers != list(range(first, first + len(numbers))) or not words or not walks(name):
        return part
    walked = [node for count in counts for node in (count, *words)]
    if over:
        return [*walked, *part[end:]]
    at = last[0].column, last[0].end
    on = last[0]
    if linked:
        on = division("&", Bit("name", "&", *at))
    elif not half:
        on = numbered(first + len(numbers), Bit("name", "", *at))
    return [*walked, on, *own, *part[end:]]


def counted_in_words(nodes: Sequence[Node]) -> Sequence[Node]:
    """A line with the numbers in words that go on after a first step as counts: walk two three touch."""
    if said_in(nodes).isdisjoint(_NUMBERS):
        return nodes
    made = list(nodes)
    before: int | None = None
    for at, node in enumerate(nodes):
        count = number_of(node)
        number = number_alone(count) if count is not None else None
        ahead = number_of(nodes[at + 1]) if at + 1 < len(nodes) else None
        stepped = at > 0 and is_word(nodes[at - 1]) and number_of(nodes[at - 1]) is None
        opens = stepped and number == 2 and ahead is not None and number_alone(ahead) == 3
        if count is not None and number is not None and (opens or number - 1 == before):
            made[at], before = count, number
        else:
            before = None
    return made


class CountedFrom(NamedTuple):
    """A step that stands before the counts after its own: its name, the first and the last of these."""

    name: str
    first: int
    last: int


def counted_from(part: Sequence[Node]) -> CountedFrom | None:
    """What stands between two pauses as a step before counts that go up; None for anything else."""
    said = [node for node in part if not is_pause(node)]
    words = [node.text for node in takewhile(is_word, said) if isinstance(node, Bit)]
    numbers = [number_alone(node) for node in said[len(words) :]]
    first = numbers[0] if words and len(numbers) > 1 else None
    if first is None or numbers != list(range(first, first + len(numbers))):
        return None
    return CountedFrom(" ".join(words), first, first + len(numbers) - 1)


def counted_on(part: Sequence[Node]) -> CountedOn | None:
    """What stands between two pauses as a step that is counted on; None for anything else."""
    end = len(part) - 1 if part and is_pause(part[-1]) else len(part)
    while end and isinstance(loud := part[end - 1], Bit) and loud.kind == "mark":
        end -= 1
    first = part[0] if end and isinstance(part[0], Counts) else None
    at = 0 if first is None else 1
    words = tuple(takewhile(is_word, part[at:end]))
    at += len(words)
    counts = tuple(node for node in takewhile(lambda one: isinstance(one, Counts), part[at:end]))
    at += len(counts)
    last = tuple(part[at:end])
    begins = 1 if first is None else number_alone(first)
    numbers = [number_alone(one) for one in counts]
    if not words or begins is None or not counts or not all(is_word(one) for one in last):
        return None
    if numbers != list(range(begins + 1, begins + 1 + len(numbers))):
        return None
    # "1 stamp 2 clap" is two steps, and "stamp 2" is on 2.
    if (first is None and len(numbers) < 2) or (first is not None and last):
        return None
    return CountedOn(
        first if isinstance(first, Counts) else None,
        tuple(node for node in words if isinstance(node, Bit)),
        tuple(node for node in counts if isinstance(node, Counts)),
        tuple(node for node in last if isinstance(node, Bit)),
        tuple(part[end:]),
    )
