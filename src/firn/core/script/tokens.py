"""What is asked of a line's tokens: which words follow, where gaps are wide, what is said before what."""

from collections.abc import Callable, Iterator, Sequence
from itertools import groupby, islice, pairwise, takewhile, zip_longest
from typing import TypeGuard

from msgspec.structs import replace

from firn.core.pattern import late
from firn.core.script import said as say
from firn.core.script.tree import (
    GROUP,
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

_SIDES = frozenset(say.SIDES)

_NONE_OF = frozenset(say.ON | say.AND | say.TIMES | say.TO | say.BARS | say.COUNTED | say.FOR)
"""Said of counts, and of no step."""

MOST_NAMED = 4
"""Words of a name."""
_BASIC = 3
"""Counts that are at least danced of a figure that ends on a hold."""

N_NUMBERS = late(r"(?:[nN]\d{1,2})+")
"""As in 1n2."""


Sounds = Callable[[str], int]
"""How many sounds the step has that goes by a name, 0 where there is none."""
Way = tuple[frozenset[str], Callable[[Sequence[Node], Sounds], Sequence[Node]]]
"""How a line is said otherwise that holds one of some words."""


def is_name(node: Node | None, words: frozenset[str]) -> bool:
    """Whether a token is one of some words."""
    # Asked more than anything else: without another call.
    return isinstance(node, Bit) and node.kind == "name" and node.text.casefold() in words


def is_said(nodes: Sequence[Node], at: int, words: frozenset[str]) -> bool:
    """Whether a token of a line is there and one of some words."""
    return 0 <= at < len(nodes) and is_name(nodes[at], words)


def said_in_letters(name: str) -> bool:
    """Whether a name is said for short: DS."""
    return 1 < len(name) <= 3 and (name.isupper() or not set("aeiouy") & set(name.casefold()))


def said_of_several(name: str) -> bool:
    """Whether a name looks like one of several: threes, suzy qs; not cross, nor DS, said in letters."""
    said = name.casefold()
    last = said.split()[-1] if said.endswith("s") and not said.endswith("ss") else ""
    return last == "qs" or any(letter in "aeiouy" for letter in last)


def may_be_several(name: str) -> bool:
    """Whether a number before a name may say how many: 3 threes, 2 DS."""
    return said_of_several(name) or said_in_letters(name)


def count_of(node: Node) -> Counts | None:
    """A token as a count, in figures or in words; None for none."""
    if isinstance(node, Counts):
        return node
    if not is_word(node):
        return None
    word = node.text.casefold()
    if word in say.DIVISIONS:
        return division(say.DIVISIONS[word], node)
    return numbered(say.NUMBERS[word], node) if word in say.NUMBERS and word not in say.ONCE_OR_MORE else None


def division(letter: str, at: Bit) -> Counts:
    """A division that is said as a word."""
    return Counts((Atom(None, letter, "", None),), letter, at.column, at.end)


def numbered(number: int, at: Bit) -> Counts:
    """A count that is said as a word."""
    return Counts((Atom(number, "", "", None),), str(number), at.column, at.end)


def name_at(nodes: Sequence[Node], at: int, sounds: Sounds) -> list[Bit]:
    """The words of the longest name of a step that stands at a token; none where there is none."""
    row = [node for node in takewhile(is_word, nodes[at : at + MOST_NAMED]) if isinstance(node, Bit)]
    size = next((n for n in range(len(row), 0, -1) if sounds(" ".join(bit.text for bit in row[:n]))), 0)
    return row[:size]


def names_from(nodes: Sequence[Node], at: int, *, pauses: bool = False) -> Iterator[Bit]:
    """The words from a token on, up to what is no word; over pauses too if asked."""
    for number in range(at, len(nodes)):
        node = nodes[number]
        if not isinstance(node, Bit) or node.kind not in ("name", "pause"):
            return
        if node.kind == "name":
            yield node
        elif not pauses:
            return


def reach(nodes: Sequence[Node], at: int, size: int) -> int:
    """How many tokens some words take, the pauses between them included."""
    used = 0
    while size:
        node = nodes[at + used]
        used += 1
        size -= is_word(node)
    return used


_WITHIN = say.OF | {GROUP}


def counts_within(nodes: Sequence[Node]) -> Sequence[Node]:
    """A line with every division that is said with the count it is in as one count: the and of 2. An "and" between
    such and another count is none: on 2 and the and of 5, on the and of 4 and 8."""
    if said_in(nodes).isdisjoint(_WITHIN):
        return nodes
    made: list[Node] = []
    at = 0
    while at < len(nodes):
        letter = _alone(count_of(nodes[at]))
        there = at + 2 + is_said(nodes, at + 2, say.THE)
        said = letter is not None and letter.number is None and is_said(nodes, at + 1, say.OF)
        number = _alone(count_of(nodes[there])) if said and there < len(nodes) else None
        if letter is None or number is None or number.number is None:
            node = nodes[at]
            # "point (the & of 4)".
            within = counts_within(node.items) if isinstance(node, Group) else ()
            changed = isinstance(node, Group) and within is not node.items
            made.append(replace(node, items=tuple(within)) if changed else node)
            at += 1
            continue
        start = made.pop().column if made and is_name(made[-1], say.THE) else nodes[at].column
        text = f"{letter.letter} of {number.number}"
        if len(made) > 1 and (is_name(made[-1], say.AND) or _is_half(made[-1])) and count_of(made[-2]) is not None:
            made[-1] = Bit("pause", ",", made[-1].column, made[-1].end)
        made.append(Counts((replace(number, letter=letter.letter),), text, start, nodes[there].end))
        at = there + 1
        links = at < len(nodes) and (is_name(nodes[at], say.AND) or _is_half(nodes[at]))
        after = count_of(nodes[at + 1]) if links and at + 1 < len(nodes) else None
        over = is_said(nodes, at + 2, say.OF)
        if links and after is not None and after.atoms[0].number is not None and not over:
            made.append(Bit("pause", ",", nodes[at].column, nodes[at].end))
            at += 1
    changed = any(a is not b for a, b in zip_longest(made, nodes))
    inside = [one for node in made if (one := number_alone(_inside(node))) is not None]
    if changed or (len(inside) > 1 and all(after > one for one, after in pairwise(inside))):
        # "heel (five), clap (the and of six)", "heel (two), clap (four)".
        return [_counted_inside(node) for node in made]
    return nodes


def _inside(node: Node) -> Counts | None:
    """The count that stands alone in brackets, in figures or in words."""
    return count_of(node.items[0]) if isinstance(node, Group) and len(node.items) == 1 else None


def _counted_inside(node: Node) -> Node:
    """A number in words that stands alone in brackets as a count; any other token as it is."""
    count = _inside(node)
    return node if count is None or not isinstance(node, Group) else replace(node, items=(count,))


def _is_half(node: Node) -> bool:
    """Whether a token is an & by itself."""
    return isinstance(node, Counts) and node.text == "&"


def _alone(counts: Counts | None) -> Atom | None:
    """A count that is one number or one division; None for any other."""
    if counts is None or len(counts.atoms) != 1:
        return None
    atom = counts.atoms[0]
    return None if atom.extra or atom.through or atom.pace else atom


def on_counts(nodes: Sequence[Node]) -> Sequence[Node]:
    """A line's tokens without "beat" or "count" between an "on" and its number: clap on beat 2, en el tiempo dos."""
    gone = {
        at
        for at in range(1, len(nodes) - 1)
        if is_name(nodes[at], say.COUNTED)
        and (is_said(nodes, at - 1, say.ON) or (is_said(nodes, at - 1, say.THE) and is_said(nodes, at - 2, say.ON)))
        and count_of(nodes[at + 1]) is not None
    }
    return [node for at, node in enumerate(nodes) if at not in gone] if gone else nodes


def between_pauses(nodes: Sequence[Node]) -> list[list[Node]]:
    """A line's tokens from pause to pause, each with the pause that ends it."""
    parts: list[list[Node]] = [[]]
    for node in nodes:
        parts[-1].append(node)
        if is_pause(node):
            parts.append([])
    return parts


def counts_before(nodes: Sequence[Node], sounds: Callable[[str], int], *, walked: bool) -> Sequence[Node]:
    """A line with every step that is said before its counts as if it were said after them: between two pauses, words
    first and counts last, as in flap 1 step 2.

    `sounds`: how many sounds the step has that goes by a name, 0 where there is none; `walked`: whether counts
    without a word of their own are steps.
    """
    if nodes and isinstance(nodes[0], Counts) and PAUSE not in said_in(nodes):
        return nodes
    parts = [_foot_before(part) for part in between_pauses(nodes)]
    parts = _gone_on(parts) if len(parts) > 2 else parts
    # Where other counts of the line plainly come after their steps, so do several after one.
    goes_on = _count_up(parts)
    after = any(_turned(part, sounds, walked=walked) is not part for part in parts) or goes_on
    # "hold 2" is on the 2 where every step's count is said so; else it may be for two counts.
    each = len(parts) > 1 and all(
        _turned(part, sounds, after=goes_on, walked=walked) is not part for part in parts if part
    )
    runs = [is_count for is_count, _ in groupby(nodes, lambda node: isinstance(node, (Counts, Group)))]
    # "step (1) hold (2)".
    each = each or (len(parts) == 1 and runs[:1] == [False] and sum(runs) > 1)
    turned = [
        part if not each and _lasting(part) else _turned(part, sounds, after=after, walked=walked) for part in parts
    ]
    if all(one is part for one, part in zip(turned, parts, strict=True)):
        return nodes
    return [node for part in turned for node in part]


def _gone_on(parts: list[list[Node]]) -> list[list[Node]]:
    """The parts of a line with counts that stand by themselves after a step's, before another step that has its own
    after it, beside those: flap 1, 2, 3, ball change 4."""
    made: list[list[Node]] = []
    waiting: list[list[Node]] = []
    for part in parts:
        said = [node for node in part if not is_pause(node)]
        if said and made and all(_may_count(node) and not isinstance(node, Group) for node in said):
            waiting.append(part)
            continue
        stepped = len(said) > 1 and is_word(said[0]) and _may_count(said[-1]) and not _may_count(said[0])
        made = _beside(made, waiting) if stepped else made + waiting
        waiting = []
        made.append(part)
    return _beside(made, waiting)


def _beside(parts: list[list[Node]], counts: list[list[Node]]) -> list[list[Node]]:
    """Some parts with counts that go on after them beside those of the last; by themselves where it has none."""
    if not counts or not _step_and_count(parts[-1]):
        return parts + counts
    *before, pause = parts[-1]
    return [*parts[:-1], [*before, *(node for one in counts for node in one if not is_pause(node)), pause]]


def _step_and_count(part: Sequence[Node]) -> bool:
    """Whether a part is a step and its count, and a pause."""
    return (
        len(part) > 2 and is_pause(part[-1]) and _may_count(part[-2]) and is_word(part[0]) and not _may_count(part[0])
    )


def _count_up(parts: Sequence[Sequence[Node]]) -> bool:
    """Whether each of several parts is a step and then numbers, and these go on from one part to the next: stamp 1 2,
    clap 3 4."""
    numbers: list[int | None] = []
    for part in parts:
        said = [node for node in part if not is_pause(node)]
        names = list(takewhile(is_word, said))
        counts = [node for node in said[len(names) :] if isinstance(node, Counts) and _alone(node) is not None]
        if said and (not names or not counts or len(names) + len(counts) < len(said)):
            return False
        numbers += [node.atoms[0].number for node in counts]
    first = numbers[0] if numbers else None
    return first is not None and len(parts) > 1 and numbers == list(range(first, first + len(numbers)))


def _lasting(part: Sequence[Node]) -> bool:
    """Whether something is said that lasts for as many counts as are said after it."""
    return any(is_name(node, say.LASTS) for node in part)


def _turned(part: list[Node], sounds: Callable[[str], int], *, after: bool = False, walked: bool) -> list[Node]:
    """What stands between two pauses, its counts before its words where they are all said after them; `after`: those
    of the rest of the line are."""
    end = len(part) - 1 if part and is_pause(part[-1]) else len(part)
    start = 0
    while start < end and is_name(part[start], say.AND | say.THEN):
        start += 1
    if end - start < 2 or isinstance(part[start], Counts):
        return part
    divided = _divided(part[start:end], sounds)
    if not _may_count(divided[-1]):
        return part
    said: list[Node] = []
    for node in divided:
        # In brackets they are counts too: stomp (8) hop (1).
        inner = node.items if isinstance(node, Group) and all(isinstance(i, Counts) for i in node.items) else (node,)
        said += (one if _ends_name(said, one, sounds) else number_of(one) or one for one in inner)
    if (listed := _two_on(said, sounds)) is not None:
        return [*part[:start], *listed, *part[end:]]
    said = _and_between(said)
    if not _after_their_words(said, sounds, after=after, walked=walked):
        return part
    made: list[Node] = []
    words: list[Node] = []
    for number, node in enumerate(said):
        if number and isinstance(said[number - 1], Counts) and not isinstance(node, Counts):
            made += words
            words = []
        (made if isinstance(node, Counts) else words).append(node)
    return [*part[:start], *made, *words, *part[end:]]


def _two_on(said: Sequence[Node], sounds: Callable[[str], int]) -> list[Node] | None:
    """One sound with "on" before two counts that go on, where the "and" between them may be the & or link them: clap
    3 and 4; None for anything else."""
    words = list(takewhile(lambda node: is_word(node) and not is_name(node, _NONE_OF), said))
    rest = said[len(words) :]
    numbers = [number_alone(node) for node in rest[::2]]
    if len(rest) != 3 or not is_name(rest[1], say.AND) or None in numbers or sounds(_named(words)) != 1:
        return None
    first, last = numbers[0] or 0, numbers[1] or 0
    return [*words, Bit("name", "on", rest[0].column, rest[0].column), *rest] if last == first + 1 else None


_LONGEST = 12
"""Tokens that a name and its foot have at the most."""


def _divided(said: Sequence[Node], sounds: Callable[[str], int]) -> Sequence[Node]:
    """Tokens with the divisions in words that lead to a last number, or follow it, as such: flap and one, slap one
    and. They are where the step before them has just so many sounds."""
    many = sum(1 for _ in takewhile(lambda node: count_of(node) is not None, reversed(said)))
    # The first of them may end the name: remate of three and one. No name is longer, its foot said with it.
    for first in range(len(said) - many, min(len(said) - 1, _LONGEST)):
        counts = [count for node in said[first:] if (count := count_of(node)) is not None]
        divided = any(is_name(node, say.AND) for node in said[first:])
        if divided and sounds(_named(said[:first])) == sum(len(count.atoms) for count in counts):
            return [*said[:first], *counts]
    return said


def _named(nodes: Sequence[Node]) -> str:
    """The words of a name, without the foot that is said of it."""
    foot = _SIDES | say.FEET | say.THE
    return " ".join(node.text for node in nodes if isinstance(node, Bit) and not is_name(node, foot))


def _and_between(nodes: Sequence[Node]) -> list[Node]:
    """Tokens with an "and" between two counts as the & between them; left out where these are no neighbours."""
    made: list[Node] = []
    for before, node, after in zip((None, *nodes), nodes, (*nodes[1:], None), strict=False):
        counts = (one.atoms[-1].number for one in (before, after) if isinstance(one, Counts))
        numbers = [number for number in counts if number is not None]
        if isinstance(node, Bit) and is_name(node, say.AND) and len(numbers) == 2:
            made += [division("&", node)] if numbers[1] == numbers[0] + 1 else []
        else:
            made.append(node)
    return made


def _after_their_words(nodes: Sequence[Node], sounds: Callable[[str], int], *, after: bool, walked: bool) -> bool:
    """Whether words come first, counts last, and nothing but words and counts is said; `after`: as in the rest."""
    if len(nodes) < 2 or isinstance(nodes[0], Counts) or not isinstance(nodes[-1], Counts):
        return False
    names = [node for node in nodes if not isinstance(node, Counts)]
    plain = all(
        node.kind in ("name", "feet", "bound") if isinstance(node, Bit) else number and _only_told(node, sounds)
        for number, node in enumerate(names)
    )
    words: list[str] = []
    for number, node in enumerate(nodes):
        if isinstance(node, Bit):
            if not number or not isinstance(nodes[number - 1], Bit):
                words = []
            words.append(node.text)
            continue
        if not isinstance(nodes[number - 1], Bit):
            # In the midst of counts that have been looked at.
            continue
        several = list(takewhile(lambda one: isinstance(one, Counts), islice(nodes, number, None)))
        if len(several) > 1:
            # "hop 1 2 3" may be a hop and three steps where one walks on; "stamps 1 2 3" are three, "ball change & 1"
            # is one, and "stamp clap 1 2" one each.
            atoms = sum(len(one.atoms) for one in several if isinstance(one, Counts))
            lone = [word for word in words if word.casefold() not in _SIDES]
            own = sounds(" ".join(lone))
            # Of a basic the last beat may be a hold.
            named = words[-1].casefold().endswith("s") or own == atoms or (atoms >= _BASIC and own == atoms + 1)
            named = named or (len(words) == atoms and all(sounds(word) == 1 for word in words))
            named = named or (not walked and own > 0 and _all_numbers(several))
            plain = plain and (after or named or _far_apart(several))
    return plain and (not any(is_name(n, _NONE_OF) for n in names) or _all_named(nodes, sounds))


def _only_told(node: Node, sounds: Callable[[str], int]) -> bool:
    """Whether brackets hold what is told of the step before them, and no step: stamp (loud) 1."""
    return (
        isinstance(node, Group)
        and all(isinstance(item, Bit) and item.kind == "name" for item in node.items)
        and not any(sounds(item.text) for item in node.items if isinstance(item, Bit))
    )


def _foot_before(part: list[Node]) -> list[Node]:
    """What stands between two pauses, a foot that is said last before the one count of it: step 1 R."""
    end = len(part) - 1 if part and is_pause(part[-1]) else len(part)
    foot = part[end - 1] if end > 2 else None
    said = part[: end - 2]
    told = isinstance(foot, Bit) and (foot.kind == "feet" or is_name(foot, _SIDES))
    if not told or foot is None or not isinstance(part[end - 2], Counts) or any(is_name(n, _SIDES) for n in said):
        return part
    return [*said, foot, part[end - 2], *part[end:]] if all(map(is_word, said)) else part


def _all_numbers(counts: Sequence[Node]) -> bool:
    """Whether counts are whole ones."""
    return all(number_alone(count) is not None for count in counts)


def _far_apart(counts: Sequence[Node]) -> bool:
    """Whether counts are whole ones of which none is the next: nothing is counted on from 2 to 4."""
    numbers = [number_alone(count) for count in counts]
    return all(a is not None and b is not None and b > a + 1 for a, b in pairwise(numbers))


def _all_named(nodes: Sequence[Node], sounds: Callable[[str], int]) -> bool:
    """Whether all words between counts that hold one of no step's are the name of one: jump out and in (&4)."""
    runs = [list(run) for is_count, run in groupby(nodes, lambda n: isinstance(n, Counts)) if not is_count]
    held = (run for run in runs if any(is_name(node, _NONE_OF) for node in run))
    return all(sounds(_named(run)) for run in held)


def _may_count(node: Node) -> bool:
    """Whether a token is a count, in figures, in words or in brackets."""
    return not isinstance(node, Bit) or number_of(node) is not None


def _ends_name(before: Sequence[Node], last: Node, sounds: Callable[[str], int]) -> bool:
    """Whether a word ends the name of a step with those before it."""
    if not is_word(last):
        return False
    words = [node.text if isinstance(node, Bit) else "" for node in before[-3:]]
    return any(sounds(" ".join((*words[at:], last.text))) for at in range(len(words)) if all(words[at:]))


def number_of(node: Node) -> Counts | None:
    """A number in words as a count; None for any other token."""
    if not is_word(node):
        return None
    word = node.text.casefold()
    # "stamp once": in Spanish it is eleven.
    return numbered(say.NUMBERS[word], node) if word in say.NUMBERS and word not in say.ONCE_OR_MORE else None


def paces_before(nodes: Sequence[Node], sounds: Callable[[str], int]) -> Sequence[Node]:
    """A line in which slow and quick are said after their steps, as in step slow step quick, with each said before.

    They are where the first comes after a step, and a pause or the line's end after the last. `sounds` as above.
    """
    if not all(isinstance(n, Bit) and n.kind in ("name", "pause", "pace") for n in nodes):
        # Some of it is counted.
        return nodes
    paces = [n for n, node in enumerate(nodes) if _is_pace(node)]
    if not paces or not paces[0]:
        return nodes
    bracketed = any(isinstance(n, Bit) and n.kind == "pace" for n in nodes)
    if not bracketed and paces[-1] + 1 < len(nodes) and not is_pause(nodes[paces[-1] + 1]):
        return nodes
    made: list[Node] = []
    words: list[Node] = []
    at = 0
    while at < len(nodes):
        said = list(takewhile(_is_pace, nodes[at:]))
        if not said:
            words.append(nodes[at])
            at += 1
            continue
        begins = _paced_from(words, len(said), sounds)
        if begins is None:
            return nodes
        # What parts a step from its pace says nothing: step, slow.
        own = [word for word in words[begins:] if not is_pause(word)]
        made += (*words[:begins], *(replace(n, kind="name") for n in said if isinstance(n, Bit)), *own)
        words = []
        at += len(said)
    return made + words


def _paced_from(words: Sequence[Node], many: int, sounds: Callable[[str], int]) -> int | None:
    """Where the step begins, at the end of some words, of which so many paces are said; None where several are not as
    many as its sounds."""
    said = [word for word in words if not is_pause(word)]
    while said and is_name(said[-1], _SIDES):
        # The foot after its step: step R slow.
        said.pop()
    names = [word.text for word in said if isinstance(word, Bit)]
    longest = (n for n in range(len(names)) if (own := sounds(" ".join(names[n:]))) and many in (1, own))
    at = next(longest, len(said) - 1 if many == 1 else None)
    if at is None and len(names) >= many and all(sounds(name) == 1 for name in names[-many:]):
        # "step step step (quick quick slow)".
        at = len(names) - many
    if at is None:
        return None
    first = said[at] if said else None
    return next((n for n, word in enumerate(words) if word is first), len(words))


def _is_pace(node: Node) -> bool:
    return isinstance(node, Bit) and node.kind in ("name", "pace") and bool(say.pace_of(node.text))


def wide_gaps(nodes: Sequence[Node]) -> frozenset[int]:
    """The columns of tokens that stand further from the one before than others of their line do."""
    gaps = {after.column: after.column - before.end for before, after in pairwise(nodes)}
    # A comma stands right behind its word: that is no gap.
    least = min((gap for gap in gaps.values() if gap > 0), default=0)
    return frozenset(column for column, gap in gaps.items() if gap > max(1, least))


def times_said(nodes: Sequence[Node], at: int) -> tuple[Bit | None, int]:
    """How often what stands before is danced, where that is said next; and how many tokens that takes."""
    after = nodes[at] if at < len(nodes) else None
    if after is None or isinstance(after, Group):
        return None, 0
    if isinstance(after, Bit) and after.kind == "times":
        return after, 1
    if isinstance(after, Bit) and after.text.casefold() in say.ONCE_OR_MORE:
        return Bit("times", f"x{say.ONCE_OR_MORE[after.text.casefold()]}", after.column, after.end), 1
    if is_name(after, say.TIMES) and (number := number_alone(nodes[at + 1] if at + 1 < len(nodes) else None)):
        # "(stamp clap) times 3".
        return Bit("times", f"x{number}", after.column, nodes[at + 1].end), 2
    count = count_of(after)
    many = count.atoms[0].number if count is not None and len(count.atoms) == 1 else None
    if many is not None and is_name(nodes[at + 1] if at + 1 < len(nodes) else None, say.TIMES):
        return Bit("times", f"x{many}", after.column, nodes[at + 1].end), 2
    return None, 0


_OFTEN = say.TIMES | frozenset(say.ONCE_OR_MORE) | {"row"}


def is_often(node: Node) -> bool:
    """Whether how often something is danced ends with a token: x4, four times, twice, three times in a row."""
    return isinstance(node, Bit) and (node.kind == "times" or is_name(node, _OFTEN))


def is_small_a(node: Node | None) -> TypeGuard[Counts]:
    """Whether a token is an "a" by itself, which is a count or no more than the word: a step, a la derecha."""
    return isinstance(node, Counts) and node.text.casefold() == "a"


def is_article(node: Node) -> bool:
    """Whether a token is "a", as it stands before one step."""
    return is_name(node, say.ARTICLES) or is_small_a(node)


def headed(nodes: Sequence[Node]) -> tuple[Sequence[Node], Sequence[Node]]:
    """What stands before the first colon, and what behind it; nothing before where there is none."""
    if PAUSE not in said_in(nodes):
        return nodes[:0], nodes[1:]
    colon = next((at for at, node in enumerate(nodes) if is_pause(node) and ":" in node.text), 0)
    return nodes[:colon], nodes[colon + 1 :]
