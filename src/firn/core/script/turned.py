"""How a turn of the body is said around how far it goes: with a quarter turn to the left, turning 1/2 right flap.

Common practice, no source.
"""

from collections.abc import Sequence

from msgspec.structs import replace

from firn.core.script import said as say
from firn.core.script.tokens import Sounds, Way, is_article, is_name, is_said, is_small_a, name_at
from firn.core.script.tree import Bit, Node, is_pause, is_word
from firn.core.script.turns import WORDS

_SIDES = frozenset(say.SIDES)
_TURNING = frozenset({"turning", "girando"})
_MAKING = frozenset({"with", "making", "doing", "taking", "con", "haciendo", "dando"})
_AMOUNTS = {**{word: word for word in WORDS}, "cuarto": "quarter", "medio": "half", "media": "half", "entera": "full"}
_OF = frozenset({"of", "de"})


def _turned(nodes: Sequence[Node], sounds: Sounds) -> Sequence[Node]:
    """With how far and which way alone, behind its step."""
    made: list[Node] = []
    at = 0
    while at < len(nodes):
        used, amount, side = _turn_at(nodes, at)
        # So often a step may turn as often, or once in all: that is not taken.
        behind = bool(made) and is_word(made[-1])
        name = [] if behind or not used else name_at(nodes, at + used, sounds)
        # "flap, with a full turn right".
        behind = behind or (len(made) > 1 and not name and is_pause(made[-1]) and is_word(made[-2]))
        if amount is None or side is None or not (behind or (name and is_name(nodes[at], _TURNING))):
            made.append(nodes[at])
            at += 1
            continue
        made += [*name, amount, side]
        at += used + len(name)
    return made


def _turn_at(nodes: Sequence[Node], at: int) -> tuple[int, Bit | None, Bit | None]:
    """How many tokens from one on say a turn in more words than it needs, how far, and which way; 0, None, None for
    none."""
    end = at + is_said(nodes, at, _MAKING)
    end += is_said(nodes, end, _TURNING)
    end += end < len(nodes) and is_article(nodes[end])
    said = nodes[end] if end < len(nodes) else None
    if not isinstance(said, Bit) or not (said.kind == "fraction" or is_name(said, frozenset(_AMOUNTS))):
        return 0, None, None
    led, end = end > at, end + 1
    end += is_said(nodes, end, _OF)
    turn = is_said(nodes, end, say.TURN)
    there = end + turn
    # "a la izquierda": its a is that of a count elsewhere.
    there += is_said(nodes, there, say.TO) or (there < len(nodes) and is_small_a(nodes[there]))
    there += is_said(nodes, there, say.THE)
    side = nodes[there] if there < len(nodes) else None
    if not isinstance(side, Bit) or not is_name(side, _SIDES) or not (led or there > end + turn):
        return 0, None, None
    far = said if said.kind == "fraction" else replace(said, text=_AMOUNTS[said.text.casefold()])
    return there + 1 - at, far, side


WAYS: tuple[Way, ...] = ((_SIDES, _turned),)
