"""Heads that only say on which count what comes after them begins: the time step starts on 8: stomp on 8, hop on 1.

Common practice, no source.
"""

from collections.abc import Sequence
from itertools import takewhile

from msgspec.structs import replace

from firn.core.script import said as say
from firn.core.script.tokens import Sounds, count_of, is_name, name_at
from firn.core.script.tree import Bit, Counts, Node, is_pause, is_word

_BEGINS = say.STARTS | {"comes", "come", "enters", "enter", "goes", "empieza", "empezamos", "comienza", "entra"}
_IN = frozenset({"in"})
_AT = say.ON | {"at", "from", "desde"}
_LONGEST = 24
"""Tokens of a head."""
_BETWEEN = say.THE | say.COUNTED | say.OF | say.AND


def without_head_on(nodes: Sequence[Node], sounds: Sounds) -> Sequence[Node]:
    """A line without a head that names the count on which its first step is said to be anyway: salsa on 1: left
    forward 1, replace 2; of what comes in on a count, and has none of its own, that count alone before it."""
    head = list(takewhile(lambda node: not (is_pause(node) and ":" in node.text), nodes))
    rest = nodes[len(head) + 1 :]
    if not rest or len(head) > _LONGEST or not any(is_name(node, _AT) for node in head) or any(map(is_pause, head)):
        return nodes
    at = max(number for number, node in enumerate(head) if is_name(node, _AT))
    said = [count for node in head[at + 1 :] if (count := count_of(node)) is not None]
    plain = all(is_word(node) for node in head[:at]) and all(
        count_of(node) is not None or is_name(node, _BETWEEN) for node in head[at + 1 :]
    )
    numbers = [number for count in said if (number := _number(count))]
    if not at or not plain or len(numbers) != 1:
        return nodes
    counted = [_number(count) for node in rest if (count := count_of(node)) is not None]
    steps = any(is_word(node) and count_of(node) is None for node in rest)
    if next((number for number in counted if number), 0) == numbers[0]:
        # "mambo on 2: 2 3 4" has no other steps.
        return rest if steps else nodes
    begins = any(is_name(node, _BEGINS) for node in head[:at])
    if counted or not begins or len(said) > 1 or any(name_at(head[:at], n, sounds) for n in range(at)):
        # "the rock step goes on &4" says where that one is.
        return nodes
    first, on = head[0], head[at]
    # As it is said of a part: starting on 5: stamp clap.
    start = Bit("name", "start", first.column, on.column)
    return [start, *([replace(on, text="on")] if isinstance(on, Bit) else []), *said, *nodes[len(head) :]]


def _number(count: Counts) -> int:
    """The first number of some counts; 0 for a division."""
    return next((atom.number for atom in count.atoms if atom.number), 0)
