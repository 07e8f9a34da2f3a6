"""How a turn of the body is said around how far it goes: with a quarter turn to the left, turning 1/2 right flap.

Common practice, no source.
"""

from collections.abc import Sequence

from msgspec.structs import replace

from firn.core.script import said as say
from firn.core.script.tokens import Sounds, Way, is_article, is_name, is_said, is_small_a, name_at
from firn.core.script.tree import Bit, Counts, Node, is_pause, is_word
from firn.core.script.turns import WORDS

_SIDES = frozenset(say.SIDES)
_TURNING = frozenset({"turning", "girando"})
_MAKING = frozenset({"with", "making", "doing", "taking", "con", "haciendo", "dando"})
_WHILE = frozenset({"while", "mientras"})
_DO = frozenset({"do", "make", "take", "haz"})
_AMOUNTS = {**{word: word for word in WORDS}, "cuarto": "quarter", "medio": "half", "media": "half", "entera": "full"}
_FAR = frozenset(_AMOUNTS)
_OF = frozenset({"of", "de"})


def _turned(nodes: Sequence[Node], sounds: Sounds) -> Sequence[Node]:
    """With how far and which way alone, behind its step."""
    made: list[Node] = []
    at = 0
    while at < len(nodes):
        used, amount, side = _turn_at(nodes, at)
        ahead = _turned_ahead(nodes, at, used, sounds) if used else []
        if ahead and amount is not None and side is not None:
            # "turning 1/2 left, step".
            made += [*ahead, amount, side]
            at += used + 1 + len(ahead)
            continue
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


def _turned_ahead(nodes: Sequence[Node], at: int, used: int, sounds: Sounds) -> list[Bit]:
    """The step behind a comma that is danced turning, where nothing can be that is said before: a line's first, or
    behind a then or more than a comma; [] for none."""
    before = nodes[at - 1] if at else None
    led = is_pause(before) and (before.text != "," or is_name(nodes[0], _TURNING))
    opens = before is None or is_name(before, say.THEN) or led
    pause = nodes[at + used] if at + used < len(nodes) else None
    if not is_name(nodes[at], _TURNING) or not opens or not is_pause(pause) or pause.text != ",":
        return []
    return name_at(nodes, at + used + 1, sounds)


def _turn_at(nodes: Sequence[Node], at: int) -> tuple[int, Bit | None, Bit | None]:
    """How many tokens from one on say a turn in more words than it needs, how far, and which way; 0, None, None for
    none."""
    end = at + is_said(nodes, at, _MAKING | _WHILE)
    end += is_said(nodes, end, _TURNING)
    end += end < len(nodes) and is_article(nodes[end])
    said = nodes[end] if end < len(nodes) else None
    if not isinstance(said, Bit) or not (said.kind == "fraction" or is_name(said, _FAR)):
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


def _turned_on(nodes: Sequence[Node], sounds: Sounds) -> Sequence[Node]:
    """With a turn behind the step that it is danced on: turn 1/2 left on a triple; flap stamp, turn 1/2 left on the
    stamp, which was said before."""
    made: list[Node] = []
    at = 0
    while at < len(nodes):
        turn, end = _turn_before(nodes, at)
        name = name_at(nodes, end, sounds) if turn else []
        there = _said_before(made, name, sounds) if name and is_name(nodes[end - 1], say.THE) else 0
        if there:
            made = [*made[:there], *turn, *(made[there:] if any(map(is_word, made[there:])) else ())]
            at = end + len(name)
        elif name:
            made += [*name, *turn]
            at = end + len(name)
        else:
            made.append(nodes[at])
            at += 1
    return made


def _said_before(nodes: Sequence[Node], name: Sequence[Bit], sounds: Sounds) -> int:
    """Where a name ends that was said before by its words or its letters, the last; 0 for none."""
    said = " ".join(bit.text for bit in name).casefold()
    at, there = max(0, len(nodes) - _NEAR), 0
    while at < len(nodes):
        before = name_at(nodes, at, sounds)
        told = " ".join(bit.text for bit in before).casefold()
        if told and (told == said or _letters(told) == said or _letters(said) == told):
            there = at + len(before)
        at += max(1, len(before))
    return there


def _letters(name: str) -> str:
    """The first letters of a name of several words, as it may be said for short."""
    words = name.split()
    return "".join(word[0] for word in words) if len(words) > 1 else ""


def _turn_before(nodes: Sequence[Node], at: int) -> tuple[list[Node], int]:
    """The turn that is said from a token on, with how far and which way where they are said, and where the step
    begins that it is danced on; [], 0 for none."""
    if at and not (is_pause(nodes[at - 1]) or is_name(nodes[at - 1], say.AND | say.THEN)):
        return [], 0
    turn: list[Node] = []
    end = at
    while end < len(nodes) and not is_name(nodes[end], _DANCED_ON):
        node = nodes[end]
        far = isinstance(node, Bit) and (node.kind == "fraction" or is_name(node, _FAR))
        if isinstance(node, Bit) and is_name(node, _TURNING):
            turn.append(replace(node, text="turn"))
        elif far or is_name(node, say.TURN | _SIDES):
            turn.append(node)
        elif not (is_name(node, say.TO | say.THE | _DO) or is_article(node)):
            return [], 0
        end += 1
    turns = sum(is_name(node, say.TURN) for node in turn)
    article = end + 1 < len(nodes) and (is_article(nodes[end + 1]) or is_name(nodes[end + 1], say.THE))
    if turns != 1 or not article or len(turn) > _MOST_SAID:
        return [], 0
    amount = [node for node in turn if not is_name(node, say.TURN | _SIDES)]
    side = [node for node in turn if is_name(node, _SIDES)]
    # With how far and which way it goes without the word.
    return [*amount, *side] if amount and side else turn, end + 2


_DANCED_ON = frozenset({"on", "with", "in", "during", "through", "en", "con"})
_NEAR = 48
"""Tokens back in which the step is looked for that a turn is on."""
_MOST_SAID = 3
"""Words of a turn: that it is one, how far, and which way."""


def _turned_too(nodes: Sequence[Node], _: Sounds) -> Sequence[Node]:
    """With a comma for an "and" between a step and the turn of which is said how far it goes: step and turn 1/4 left;
    where nothing is counted the "and" is no count of it."""
    if any(isinstance(node, Counts) and not is_article(node) for node in nodes):
        return nodes
    made = list(nodes)
    for at in range(1, len(nodes) - 2):
        far = nodes[at + 2]
        amount = isinstance(far, Bit) and (far.kind == "fraction" or is_name(far, _FAR))
        if is_name(nodes[at], say.AND) and is_said(nodes, at + 1, say.TURN) and amount and is_word(nodes[at - 1]):
            made[at] = Bit("pause", ",", nodes[at].column, nodes[at].end)
    return made


WAYS: tuple[Way, ...] = ((say.TURN | _TURNING, _turned_on), (say.TURN, _turned_too), (_SIDES, _turned))
