"""Lines with all their steps first and the counts of these after a pause: side, together, side, tap, 1 2 3 4.

Common practice, no source.
"""

from collections.abc import Sequence
from itertools import dropwhile, pairwise, takewhile
from typing import NamedTuple

from msgspec.structs import replace

from firn.core.script import said as say
from firn.core.script.tokens import (
    MOST_NAMED,
    Sounds,
    between_pauses,
    count_of,
    division,
    is_name,
    is_said,
    is_small_a,
    may_be_several,
    name_at,
    times_said,
)
from firn.core.script.tree import GROUP, Bit, Counts, Group, Node, is_pause, is_word, number_alone, said_in

_SMALL = frozenset({*say.SIDES, *say.WHERE, *say.AND, *say.THEN, *say.THE, *say.ARTICLES, *say.FEET})
"""Words beside steps that are no step there."""

_LED = say.ON | say.THE | say.COUNTED
"""Said before counts."""

_DASHES = ("-", "–", "—")
_MOST = 16
"""So many of one step may be said."""
_LONGEST = 64
"""Tokens of steps, or of counts, that are looked through for as many: no class is told more in one breath."""
_LEAST = 2
"""Counts that are said of steps: one alone is said of the last."""

_STEPS_THERE = frozenset({*say.WHERE, *say.SIDES})
"""By itself one of these is a step, there or with that foot."""


def counts_last(nodes: Sequence[Node], sounds: Sounds, *, walked: bool) -> Sequence[Node]:
    """A line with the counts before steps that they are all said after, over a pause, where there are as many: stamp,
    clap, 1 2; flap flap step: &1 &2 3; ball change, 1 2, twice.

    `walked`: whether counts without a word of their own are steps, so that they may go on after others.
    """
    parts = between_pauses(_parted_off(nodes))
    alone = [_counts_alone(part) for part in parts]
    headed = sum(_is_colon(before[-1]) and counts for before, counts in zip(parts, alone[1:], strict=False))
    if len(parts) < 2 or not any(alone[1:]) or headed > 1:
        # "step: 1, stamp: 2" is a list.
        return nodes
    made: list[Node] = []
    steps: list[list[Node]] = []
    at, turned = 0, False
    while at < len(parts):
        if _words_alone(parts[at]):
            steps.append(parts[at])
            at += 1
            continue
        end = at
        while end < len(parts) and _counts_alone(parts[end]):
            end += 1
        plain = [node for part in (*steps, *parts[at:end]) for node in part]
        said = _turned(steps, parts[at:end], sounds, walked=walked)
        turned = turned or bool(said)
        made += said or plain
        steps = []
        if end == at:
            made += parts[at]
            end += 1
        at = end
    made += (node for part in steps for node in part)
    return made if turned else nodes


def _parted_off(nodes: Sequence[Node]) -> Sequence[Node]:
    """A line with a pause before the only counts that it has, at its end behind a dash, or in brackets behind several
    steps: toe, heel, toe, heel - 1, 2, 3, 4; stamp, clap, stamp (1 2 3)."""
    ends = len(nodes) - (bool(nodes) and is_pause(nodes[-1]))
    dash = next((at for at in range(ends - 1, 0, -1) if isinstance(n := nodes[at], Bit) and n.text in _DASHES), 0)
    group = nodes[ends - 1] if ends else None
    if isinstance(group, Group) and _goes_up(group.items):
        dash = ends - 1
        behind: Sequence[Node] = (*group.items, *nodes[ends:])
    else:
        behind = nodes[dash + 1 :]
    before, sign = nodes[:dash], nodes[dash] if dash else None
    plain = any(map(is_pause, before)) and all(is_word(node) or is_pause(node) for node in before)
    if sign is None or not plain or not _counts_alone(behind):
        return nodes
    return [*before, Bit("pause", ",", sign.column, sign.column), *behind]


def _goes_up(nodes: Sequence[Node]) -> bool:
    """Whether tokens are counts of which each is the next, or lies within it: clap (2 4) is a clap on each."""
    numbers = [atom.number for node in nodes if isinstance(node, Counts) for atom in node.atoms if atom.number]
    return _counts_alone(nodes) and all(after == before + 1 for before, after in pairwise(numbers))


def so_often_on_counts(nodes: Sequence[Node], sounds: Sounds) -> Sequence[Node]:
    """A line with each count before the step that is said to be danced as often as there are counts in brackets
    behind: clap x2 (3 4), clap twice (3 4), two claps (3 4)."""
    if GROUP not in said_in(nodes):
        return nodes
    made: list[Node] = []
    at = 0
    while at < len(nodes):
        many = _so_many(nodes, at)
        name = name_at(nodes, at + (many > 1), sounds)
        end = at + (many > 1) + len(name)
        times, used = times_said(nodes, end) if many == 1 else (None, 0)
        digits = times.text.strip("xX× ") if times is not None else ""
        often = int(digits) if digits.isdecimal() else many
        group = nodes[end + used] if end + used < len(nodes) else None
        counts = [one for one in group.items if isinstance(one, Counts)] if isinstance(group, Group) else []
        if name and isinstance(group, Group) and len(counts) == len(group.items) == often > 1:
            # "3 claps" may be so many.
            for count in counts:
                made += name
                made += (
                    Bit("name", "on", count.column, count.column),
                    count,
                    Bit("pause", ",", count.end, count.end),
                )
            made.pop()
            at = end + used + 1
        else:
            made.append(nodes[at])
            at += 1
    return made if len(made) != len(nodes) else nodes


def links_behind_counts(nodes: Sequence[Node], sounds: Sounds) -> Sequence[Node]:
    """A line with a comma for an "and" that only links steps whose counts stand before a colon: 1 2: stamp and
    clap."""
    head = list(takewhile(lambda node: not _is_colon(node), nodes))
    words = nodes[len(head) + 1 :]
    links = [node for node in words if is_name(node, say.AND)]
    if not links or not _counts_alone(head) or not all(is_word(node) or is_pause(node) for node in words):
        return nodes
    counts = [count for node in head if (count := count_of(node)) is not None]
    plain = _in_full(words, sounds)
    many = {number for way in _reached(plain, sounds) for number in way}
    return [*nodes[: len(head) + 1], *plain] if sum(map(_long, counts)) in many and len(counts) > 1 else nodes


def links_among_counts(nodes: Sequence[Node], sounds: Sounds) -> Sequence[Node]:
    """A line without an "and" among counts that is no & between them: there are as many without it as steps, and with
    it there are too many: 1 and 2 stamp clap."""
    if said_in(nodes).isdisjoint(say.AND):
        return nodes
    made: list[Node] = []
    parts = between_pauses(nodes)
    danced = 0
    for number, part in enumerate(parts):
        if number < danced:
            continue
        led = next((at for at, node in enumerate(part) if not is_name(node, say.ON | say.THE)), 0)
        size = next((at for at in range(led, len(part)) if count_of(part[at]) is None), len(part))
        if led:
            # "on 2 and 4: stamp, clap, hop".
            counts = part[led:size]
            own = [count for node in counts[::2] if (count := count_of(node)) is not None]
            if size + 1 == len(part) and 1 < len(own) == _before_then(parts[number + 1 : number + 1 + _LONGEST]):
                # Each of them has its own, and what is said then is danced after them.
                danced = number + 1 + len(own)
                made += [
                    node for one, step in zip(own, parts[number + 1 : danced], strict=True) for node in (one, *step)
                ]
                continue
            far = _far_links(counts)
            made += [node for node in part if node not in far]
            continue
        if not 0 < size < len(part) <= _LONGEST:
            made += part
            continue
        counts, words = part[:size], [node for node in part[size:] if not is_pause(node)]
        links = [node for node in counts if is_name(node, say.AND)]
        whole = sum(_long(count) for node in counts if node not in links and (count := count_of(node)) is not None)
        plain = links and not is_name(counts[-1], say.AND) and not is_name(counts[0], say.AND)
        ways = _reached(words, sounds) if plain and _words_alone(words) else set[tuple[int, int]]()
        many = {number for way in ways for number in way}
        halved = whole + len(links) in many
        gone = _far_links(counts) if halved else links if whole > 1 and whole in many else []
        made += [node for node in part if node not in gone]
    return made if len(made) != len(nodes) else nodes


def _before_then(parts: Sequence[Sequence[Node]]) -> int:
    """How many steps are said, a pause between them, before what leads on to others: on 4 and 5: touch, hop, then
    hold; 0 where nothing does."""
    led = next((n for n, part in enumerate(parts) if part and is_name(part[0], say.THEN)), 0)
    return led if all(any(map(is_word, part)) for part in parts[:led]) else 0


def _far_links(counts: Sequence[Node]) -> list[Node]:
    """Each "and" between numbers that are no neighbours: on 2 and 4, whatever is danced on them."""
    numbers = [number_alone(count_of(node)) for node in counts]
    return [
        node
        for at, node in enumerate(counts)
        if 0 < at < len(counts) - 1
        and is_name(node, say.AND)
        and (before := numbers[at - 1]) is not None
        and (after := numbers[at + 1]) is not None
        and after > before + 1
    ]


def halves_at_ends(nodes: Sequence[Node]) -> Sequence[Node]:
    """A line with the & for each "and" behind a step, where other steps have their counts behind them: step 1, heel
    and, step 2."""
    ends = [at for at in range(1, len(nodes)) if is_pause(nodes[at]) or at + 1 == len(nodes)]
    last = [at - is_pause(nodes[at]) for at in ends]
    if not any(isinstance(nodes[at], Counts) for at in last):
        return nodes
    made = list(nodes)
    for at in last:
        node = nodes[at]
        if isinstance(node, Bit) and is_name(node, say.AND) and at and is_word(nodes[at - 1]):
            made[at] = division("&", node)
    return made


def same_on_counts(nodes: Sequence[Node], sounds: Sounds) -> Sequence[Node]:
    """A line with all counts of a step behind it where it is said again for each, and others lie between them: clap
    on 2, clap on 4, step on 1, step on 3."""
    clauses = _clauses(nodes, sounds)
    numbers = [number for one in clauses if (number := number_alone(one.counts)) is not None]
    again = [at for at in range(1, len(clauses)) if clauses[at].name == clauses[at - 1].name]
    if not again or len(numbers) < len(clauses) or all(after > before for before, after in pairwise(numbers)):
        return nodes
    made: list[Node] = []
    for at, one in enumerate(clauses):
        if at in again:
            made.append(one.counts)
        else:
            made += [*([Bit("pause", ",", one.counts.end, one.counts.end)] if made else []), *one.tokens]
    return made


class _Clause(NamedTuple):
    """A step and its count: its name, the count, and all tokens, the count the last of them."""

    name: str
    counts: Counts
    tokens: list[Node]


def _clauses(nodes: Sequence[Node], sounds: Sounds) -> list[_Clause]:
    """The steps of a line that each have one count behind them, and all is said so; none for any other line."""
    found: list[_Clause] = []
    at = 0
    while at < len(nodes):
        name = name_at(nodes, at, sounds)
        behind = at + len(name) + is_said(nodes, at + len(name), say.ON)
        count = nodes[behind] if behind < len(nodes) else None
        said = " ".join(bit.text.casefold() for bit in name)
        if not name and found and behind > at:
            # "step on 1 and on 3".
            said = found[-1].name
        if not said or not isinstance(count, Counts):
            return []
        found.append(_Clause(said, count, [*nodes[at : behind + 1]]))
        at = behind + 1
        while at < len(nodes) and (is_pause(nodes[at]) or is_name(nodes[at], say.AND | say.THEN)):
            at += 1
    return found


def _turned(
    steps: Sequence[Sequence[Node]], counts: Sequence[Sequence[Node]], sounds: Sounds, *, walked: bool
) -> list[Node]:
    """Parts of steps and of their counts, the counts first where there are as many; none where there are not."""
    said = [node for part in counts for node in _counted(part)]
    # What stands before another colon is what all of it is called.
    headed = len(steps) > 1 and _is_colon(steps[0][-1])
    words = [node for part in steps[headed:] for node in part]
    leads = bool(counts) and _is_colon(counts[-1][-1])
    # Behind an "on" they are its counts, and nothing is walked on.
    walked = walked and not is_name(counts[0][0], say.ON) if counts else walked
    fitting = _fitting(words, said, sounds, walked=walked) if words and not leads else []
    if not fitting:
        return []
    pause = words.pop() if is_pause(words[-1]) else None
    last = counts[-1][-1]
    # A colon led to the counts, and leads to nothing now.
    ends = last if is_pause(last) else pause
    # "uno, dos" are counts there, and no more how many.
    fitting = [node if is_name(node, say.AND) else count_of(node) or node for node in fitting]
    return [*fitting, *_in_full(words, sounds), *([replace(ends, text=",")] if isinstance(ends, Bit) else [])]


def _fitting(words: Sequence[Node], said: Sequence[Node], sounds: Sounds, *, walked: bool) -> list[Node]:
    """What counts are said of some steps, where there are as many, or as many as these have sounds; none else."""
    ways = _reached(words, sounds) if len(said) <= _LONGEST else set[tuple[int, int]]()
    many = frozenset(number for way in ways for number in way) - {0}
    links = [node for node in said if is_name(node, say.AND)]
    counts = [count for node in said if node not in links and (count := count_of(node)) is not None]
    first = next((number for one in counts if (number := number_alone(one)) is not None), 0)
    if walked and (first == 2 or any(first - 1 == own for _, own in ways)):
        # "side close, 3 4" may go on walking.
        return []
    if len(said) == 3 and is_name(said[1], say.THROUGH):
        last = number_alone(counts[-1]) or 0
        return list(said) if first and last - first + 1 in many else []
    atoms = sum(_long(count) for count in counts)
    whole = atoms >= _LEAST and bool(many & {atoms, len(counts)})
    halved = atoms + len(links) >= _LEAST and atoms + len(links) in many and not is_name(said[0], say.AND)
    if halved:
        return list(said)
    return [node for node in said if node not in links] if whole else []


def _long(counts: Counts) -> int:
    """How many counts some are."""
    return sum(
        1 if atom.through is None or atom.number is None else atom.through - atom.number + 1 for atom in counts.atoms
    )


def _reached(words: Sequence[Node], sounds: Sounds) -> set[tuple[int, int]]:
    """How many steps some words may be, each with of how many sounds; none where one of them is not known."""
    if len(words) > _LONGEST:
        return set()
    # What the words up to each may be.
    reached: list[set[tuple[int, int]]] = [{(0, 0)}, *(set[tuple[int, int]]() for _ in words)]
    for at, node in enumerate(words):
        here = reached[at]
        if not here:
            continue
        if is_pause(node) or is_name(node, _SMALL) or is_small_a(node):
            reached[at + 1] |= here
        if is_name(node, _STEPS_THERE):
            reached[at + 1] |= {(steps + 1, own + 1) for steps, own in here}
        many = _so_many(words, at)
        begins = at + (many > 1)
        for size in range(1, MOST_NAMED + 1):
            name = [bit for bit in words[begins : begins + size] if isinstance(bit, Bit) and is_word(bit)]
            if len(name) == size:
                own = sounds(" ".join(bit.text for bit in name))
                reached[begins + size] |= {(steps + many, before + many * own) for steps, before in here if own}
    return reached[-1]


def _so_many(words: Sequence[Node], at: int) -> int:
    """How many of a step there are, where that is said at a token: three stamps."""
    number = number_alone(count_of(words[at])) or 1
    ahead = [node for node in takewhile(is_word, words[at + 1 : at + 1 + MOST_NAMED]) if isinstance(node, Bit)]
    several = any(may_be_several(node.text) for node in ahead)
    return number if several and count_of(ahead[0]) is None and number <= _MOST else 1


def _in_full(words: Sequence[Node], sounds: Sounds) -> list[Node]:
    """Some words without articles, with commas for what links them, and with each step as often as there are of it:
    two doubles and a rock."""
    made: list[Node] = []
    at = 0
    while at < len(words):
        node = words[at]
        many = _so_many(words, at)
        name = name_at(words, at + (many > 1), sounds)
        if name:
            made += [*name] * many
        elif isinstance(node, Bit) and is_name(node, say.AND | say.THEN):
            made.append(Bit("pause", ",", node.column, node.end))
        elif not is_small_a(node):
            made.append(node)
        at += (len(name) + (many > 1)) if name else 1
    return made


def _words_alone(part: Sequence[Node]) -> bool:
    """Whether a part holds nothing but steps, and how many there are of each."""
    said = [node for node in part if not is_pause(node)]
    return any(map(is_word, said)) and all(
        is_name(node, say.AND) or _so_many(said, at) > 1 or (is_small_a(node) and at + 1 < len(said))
        if count_of(node) is not None else is_word(node)
        for at, node in enumerate(said)
    )  # fmt: skip


def _counts_alone(part: Sequence[Node]) -> bool:
    """Whether a part holds nothing but counts, and what stands between them."""
    said = _counted(part)
    counted = [count_of(node) is not None for node in said]
    between = (is_name(node, say.AND | say.THROUGH) for node in said)
    return any(counted) and all(one or joins for one, joins in zip(counted, between, strict=True))


def _counted(part: Sequence[Node]) -> list[Node]:
    """What a part holds but its pauses, and what leads to its counts: on the counts 1 2."""
    return [*dropwhile(lambda node: is_name(node, _LED), (node for node in part if not is_pause(node)))]


def _is_colon(node: Node) -> bool:
    return isinstance(node, Bit) and node.text == ":"
