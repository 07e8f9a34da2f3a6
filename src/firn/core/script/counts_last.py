"""Lines with all their steps first and the counts of these after a pause: side, together, side, tap, 1 2 3 4.

Common practice, no source.
"""

from collections.abc import Sequence

from msgspec.structs import replace

from firn.core.script import said as say
from firn.core.script.tokens import MOST_NAMED, Sounds, between_pauses, count_of, is_name
from firn.core.script.tree import Bit, Counts, Node, is_pause, is_word, number_alone

_SMALL = frozenset({*say.SIDES, *say.WHERE, *say.AND, *say.THEN, *say.THE, *say.ARTICLES, *say.FEET})
"""Words beside steps that are no step there."""

_WHERE = frozenset(say.WHERE)
"""By itself one of these is a step there."""


def counts_last(nodes: Sequence[Node], sounds: Sounds, *, walked: bool) -> Sequence[Node]:
    """A line with the counts before steps that they are all said after, over a pause, where there are as many: stamp,
    clap, 1 2; flap flap step: &1 &2 3; ball change, 1 2, twice.

    `walked`: whether counts without a word of their own are steps, so that they may go on after others.
    """
    parts = between_pauses(nodes)
    if len(parts) < 2 or not any(map(_counts_alone, parts[1:])):
        return nodes
    made: list[Node] = []
    steps: list[list[Node]] = []
    at = 0
    while at < len(parts):
        if _words_alone(parts[at]):
            steps.append(parts[at])
            at += 1
            continue
        end = at
        while end < len(parts) and _counts_alone(parts[end]):
            end += 1
        made += _turned(steps, parts[at:end], sounds, walked=walked)
        steps = []
        if end == at:
            made += parts[at]
            end += 1
        at = end
    made += (node for part in steps for node in part)
    return made if any(a is not b for a, b in zip(made, nodes, strict=True)) else nodes


def _turned(
    steps: Sequence[Sequence[Node]], counts: Sequence[Sequence[Node]], sounds: Sounds, *, walked: bool
) -> list[Node]:
    """Parts of steps and of their counts, the counts first where there are as many."""
    plain = [node for part in (*steps, *counts) for node in part]
    said = [node for part in counts for node in part if not is_pause(node)]
    # What stands before a colon may be what all of it is called.
    head = steps[0] if len(steps) > 1 and steps[0][-1].text == ":" else []
    words = [node for part in steps[bool(head) :] for node in part]
    if not said or not words or not _fit(words, said, sounds, walked=walked):
        return plain
    pause = words.pop() if is_pause(words[-1]) else None
    last = counts[-1][-1]
    ends = last if is_pause(last) else pause
    # A colon led to the counts, and leads to nothing now.
    return [*head, *said, *words, *([replace(ends, text=",")] if isinstance(ends, Bit) else [])]


def _fit(words: Sequence[Node], said: Sequence[Node], sounds: Sounds, *, walked: bool) -> bool:
    """Whether there are as many counts as steps, or as sounds of these."""
    many = _many(words, sounds)
    counts = [count for node in said if (count := count_of(node)) is not None]
    halves = sum(is_name(node, say.AND) for node in said)
    first = next((number for one in counts if (number := number_alone(one)) is not None), 0)
    if walked and (first == 2 or first - 1 == min(many, default=0)):
        # "side close, 3 4" may go on walking.
        return False
    ranged = len(said) == 3 and is_name(said[1], say.THROUGH)
    if ranged:
        last = number_alone(counts[-1])
        return bool(first and last) and (last or 0) - first + 1 in many
    atoms = sum(_long(count) for count in counts)
    return atoms + halves > 1 and bool(many & {atoms, atoms + halves, len(counts) if not halves else 0})


def _long(counts: Counts) -> int:
    """How many counts some are."""
    return sum(
        1 if atom.through is None or atom.number is None else atom.through - atom.number + 1 for atom in counts.atoms
    )


def _many(words: Sequence[Node], sounds: Sounds) -> frozenset[int]:
    """How many steps some words may be, and how many sounds; none where one of them is not known."""
    said = [node for node in words if isinstance(node, Bit)]
    # Up to each word: how many steps, and of how many sounds, the words before it may be.
    reached: list[set[tuple[int, int]]] = [{(0, 0)}, *(set[tuple[int, int]]() for _ in said)]
    for at, node in enumerate(said):
        here = reached[at]
        if not here:
            continue
        if is_pause(node) or is_name(node, _SMALL):
            reached[at + 1] |= here
        if is_name(node, _WHERE):
            reached[at + 1] |= {(steps + 1, own + 1) for steps, own in here}
        for size in range(1, MOST_NAMED + 1):
            name = said[at : at + size]
            if len(name) == size and all(map(is_word, name)):
                own = sounds(" ".join(bit.text for bit in name))
                reached[at + size] |= {(steps + 1, before + own) for steps, before in here if own}
    return frozenset(many for found in reached[-1] for many in found) - {0}


def _words_alone(part: Sequence[Node]) -> bool:
    said = [node for node in part if not is_pause(node)]
    return bool(said) and all(is_word(node) and (count_of(node) is None or is_name(node, say.AND)) for node in said)


def _counts_alone(part: Sequence[Node]) -> bool:
    """Whether a part holds nothing but counts, and what stands between them."""
    said = [node for node in part if not is_pause(node)]
    counted = [isinstance(node, Counts) or count_of(node) is not None for node in said]
    between = (is_name(node, say.AND | say.THROUGH) for node in said)
    return any(counted) and all(one or joins for one, joins in zip(counted, between, strict=True))
