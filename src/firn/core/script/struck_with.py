"""What steps are danced with, as it is said: slap your knee, both hands clap, lift the heel, stamp with a clap.

Common practice, no source.
"""

from collections.abc import Sequence

from msgspec.structs import replace

from firn.core.script import said as say
from firn.core.script.tokens import Sounds, Way, count_of, is_article, is_name, is_said, name_at, numbered
from firn.core.script.tree import Bit, Group, Node, is_pause, is_word, number_alone

_SIDES = frozenset(say.SIDES)
_CLICK, _HEELS = frozenset({"click", "clicks"}), frozenset({"heels"})
_SLAP = frozenset({"slap", "slaps", "hit", "tap"})
_BRUSH, _BACK = frozenset({"brush", "brushes"}), frozenset({"back", "backward", "backwards"})
_SWUNG = frozenset({"brush", "kick", "flick", "point", "scuff"})
"""What goes somewhere and takes no weight."""
_WAYS_GONE = frozenset(say.WHERE) - {"together", "up", "down"}
_FORTH = frozenset({"forward", "forwards", "front", "fwd"})
_BOTH = frozenset({"both", "two", "ambas", "ambos", "dos"})
_EITHER = frozenset({"both", "ambas"})
_HANDS = frozenset({"hands", "manos"})
_HAND, _PATS = frozenset({"hand", "mano"}), frozenset({"pat", "pats"})
_CLAPS = frozenset({"clap", "claps", "palma", "palmas", "snap", "snaps"})
_MOST_STEPS = 32
_CLAPPING = {"clapping": "clap", "snapping": "snap"}
_ABOVE = frozenset({"over", "above", "under", "behind", "front", "sobre", "encima", "detrás", "detras", "bajo"})
_BEYOND = say.BODY | {"back", "head", "heads", "espalda", "cabeza"}
"""What a clap is behind or over."""
_IN = frozenset({"in", "por"})
_OVERHEAD = frozenset({"overhead"})
_LIFTS = frozenset({"lift", "lifts", "raise", "sube", "levanta"})
_PARTS, _LED = frozenset(say.BARE), say.THE | say.WITH | say.ON
_JUMPED = frozenset({"jump", "jumps", "jumping", "salto", "saltos", "salta", "brinco", "brincos"})
_STANCES = frozenset({"apart", "together", "wide"})
_ARTICLES, _ONE_DOES = say.ARTICLES | say.THE, say.DANCERS
_AS, _HOLDING = frozenset({"as"}), frozenset({"hold", "holding", "join", "joining"})
_LEAST_ON = 2
"""Tokens of a step and the count that it is on, before what is struck with it."""
_WHILE, _OVER = frozenset({"while", "mientras"}), frozenset({"over"})
_AT_ONE_TIME = (
    ("at", "the", "same", "time"), ("at", "once"), ("simultaneously",), ("a", "la", "vez"), ("al", "mismo", "tiempo"),
)  # fmt: skip
_TIMELY = frozenset({"at", "simultaneously", "vez", "mismo"})
_DOUBLE = frozenset({"doble", "dobles"})


def _clicked(nodes: Sequence[Node], _: Sounds) -> Sequence[Node]:
    """With "the" between a click and the heels that are clicked: it is asked whether they drop, too."""
    made: list[Node] = []
    for at, node in enumerate(nodes):
        if at and is_name(node, _HEELS) and is_name(nodes[at - 1], _CLICK):
            made.append(Bit("name", "the", node.column, node.column))
        made.append(node)
    return made


def _patted(nodes: Sequence[Node], sounds: Sounds) -> Sequence[Node]:
    """With a pat for what is slapped of the body: slap right thigh, slap your knee."""
    made: list[Node] = []
    at = 0
    while at < len(nodes):
        node = nodes[at]
        end = at + 1 + is_said(nodes, at + 1, say.THE)
        end += is_said(nodes, end, _SIDES)
        slapped = isinstance(node, Bit) and is_name(node, _SLAP) and is_said(nodes, end, say.BODY)
        # "knee slap knee slap" are two slaps of a knee.
        named = bool(made) and is_name(made[-1], say.BODY) and len(name_at(nodes, at - 1, sounds)) > 1
        named = named or (end == at + 1 and len(name_at(nodes, end, sounds)) > 1)
        if slapped and not named and isinstance(node, Bit) and sounds("pat") == 1:
            made.append(replace(node, text="pat", end=nodes[end].end))
            at = end + 1
        else:
            made.append(node)
            at += 1
    return made


def _brushed_back(nodes: Sequence[Node], sounds: Sounds) -> Sequence[Node]:
    """With a spank for the way back of a brush: brush forward and back."""
    made = list(nodes)
    for at, node in enumerate(nodes):
        front = at + 1 + is_said(nodes, at + 1, _SIDES)
        back = nodes[front + 2] if is_name(node, _BRUSH) and front + 2 < len(nodes) else None
        goes = is_said(nodes, front, _FORTH) and is_said(nodes, front + 1, say.AND)
        if goes and isinstance(back, Bit) and is_name(back, _BACK) and sounds("spank") == 1:
            made[front + 2] = replace(back, text="spank")
    return made


def _both_ways(nodes: Sequence[Node], _: Sounds) -> Sequence[Node]:
    """With what goes one way and another danced each way: brush out and in; kick front and side."""
    made: list[Node] = []
    for at, node in enumerate(nodes):
        swung = nodes[at - 3] if at > 2 else None
        ends = at + 1 == len(nodes) or is_pause(nodes[at + 1]) or is_name(nodes[at + 1], say.THEN)
        goes = is_name(node, _WAYS_GONE) and is_said(nodes, at - 1, say.AND) and is_said(nodes, at - 2, _WAYS_GONE)
        if goes and ends and isinstance(swung, Bit) and is_name(swung, _SWUNG):
            made[-1] = Bit("pause", ",", nodes[at - 1].column, nodes[at - 1].end)
            made.append(replace(swung, column=node.column, end=node.column))
        made.append(node)
    return made


def _handed(nodes: Sequence[Node], sounds: Sounds) -> Sequence[Node]:
    """Without the hands that clap, which they are anyway: both hands clap, clap both hands."""
    made: list[Node] = []
    at = 0
    while at < len(nodes):
        # "pat with the right hand", "pat right hand", "R hand pat".
        hand = at + (bool(made) and is_said(nodes, at, say.WITH))
        hand += is_said(nodes, hand, say.THE)
        hand += is_said(nodes, hand, _SIDES)
        struck = _CLAPS | _PATS
        beside = (bool(made) and is_name(made[-1], struck)) or is_said(nodes, hand + 1, struck)
        if beside and is_said(nodes, hand, _HAND):
            at = hand + 1
            continue
        clapped = bool(made) and is_name(made[-1], _CLAPS)
        node = nodes[at]
        start = at + (clapped and is_said(nodes, at, say.WITH))
        both = is_said(nodes, start, _BOTH)
        hands = start + both + is_said(nodes, start + both, say.THE)
        if clapped and isinstance(node, Group) and all(is_name(one, _BOTH | say.THE | _HANDS) for one in node.items):
            at += 1
        elif (
            is_said(nodes, hands, _HANDS)
            and (clapped or is_said(nodes, hands + 1, _CLAPS))
            and len(name_at(nodes, hands, sounds)) < 2
        ):
            at = hands + 1
        elif is_said(nodes, at, _EITHER) and (
            (clapped and not is_said(nodes, at + 1, say.FEET)) or is_said(nodes, at + 1, _CLAPS)
        ):
            # "clap both", "both clap".
            at += 1
        else:
            made.append(nodes[at])
            at += 1
    return made


def _clapped_at(nodes: Sequence[Node], _: Sounds) -> Sequence[Node]:
    """Without where hands clap, which is not heard: clap over your head, palma detrás de la espalda."""
    made: list[Node] = []
    at = 0
    while at < len(nodes):
        clapped = bool(made) and is_name(made[-1], _CLAPS)
        end = at + (clapped and is_said(nodes, at, _IN))
        end += is_said(nodes, end, _ABOVE)
        beyond = end
        while beyond < len(nodes) and is_name(nodes[beyond], say.OF | say.THE):
            beyond += 1
        if clapped and end > at and is_said(nodes, beyond, _BEYOND):
            at = beyond + 1
        elif clapped and is_said(nodes, at, _OVERHEAD):
            at += 1
        else:
            made.append(nodes[at])
            at += 1
    return made


def _on_both(nodes: Sequence[Node], _: Sounds) -> Sequence[Node]:
    """Without the feet of a jump, which are both anyway: jump, both feet; salto con los dos pies."""
    for at in range(1, len(nodes) - 1):
        both = is_name(nodes[at], _BOTH) and is_said(nodes, at + 1, say.FEET)
        start = at
        while both and start and (is_name(nodes[start - 1], _LED) or is_pause(nodes[start - 1])):
            start -= 1
        if both and start and is_name(nodes[start - 1], _JUMPED):
            return [*nodes[:start], *nodes[at + 2 :]]
    return nodes


def _jumped_to(nodes: Sequence[Node], _: Sounds) -> Sequence[Node]:
    """With where a jump goes right behind it, in place of how its feet are then: jump, feet apart."""
    made: list[Node] = []
    for at, node in enumerate(nodes):
        feet = is_name(node, say.FEET) and is_said(nodes, at + 1, _STANCES)
        pause = feet and bool(made) and is_pause(made[-1])
        jump = made[-1 - pause] if len(made) > pause else None
        if feet and is_name(jump, _JUMPED):
            made = made[: len(made) - pause]
        else:
            made.append(node)
    return made


def _lifted(nodes: Sequence[Node], _: Sounds) -> Sequence[Node]:
    """Without the knee that is lifted: lift right knee, lift your left leg. With "the" between a lift and the heel or
    toe that is lifted: whether that drops, too, is asked about."""
    made: list[Node] = []
    for at, node in enumerate(nodes):
        if at and is_name(node, _PARTS) and is_name(nodes[at - 1], _LIFTS):
            made.append(Bit("name", "the", node.column, node.column))
        lifts = (at > 0 and is_said(nodes, at - 1, _SIDES) and is_said(nodes, at - 2, _LIFTS)) or (
            at > 1
            and is_said(nodes, at - 1, _SIDES)
            and is_said(nodes, at - 2, say.THE)
            and is_said(nodes, at - 3, _LIFTS)
        )
        if not (lifts and is_name(node, say.BODY)):
            made.append(node)
    return made


def _same_time(nodes: Sequence[Node], _: Sounds) -> Sequence[Node]:
    """With "together" for what is at the same time: step and clap at the same time."""
    made: list[Node] = []
    at = 0
    while at < len(nodes):
        said = tuple("" if isinstance(one, Group) else one.text.casefold() for one in nodes[at : at + 4])
        size = next((len(words) for words in _AT_ONE_TIME if said[: len(words)] == words), 0)
        node = nodes[at]
        if made and size and not is_pause(made[-1]):
            made.append(Bit("name", "together", node.column, nodes[at + size - 1].end))
            at += size
        else:
            made.append(node)
            at += 1
    return made


def _claps_on(nodes: Sequence[Node], sounds: Sounds) -> Sequence[Node]:
    """With each step on a count of its own, and a clap with those that are said: 4 steps with claps on 2 and 4, step
    step step step while clapping on 2 and 4."""
    at = next((at for at, node in enumerate(nodes) if is_name(node, say.WITH | _WHILE)), 0)
    hand = at + 1 + (at + 1 < len(nodes) and is_article(nodes[at + 1]))
    if not at or not is_said(nodes, hand, _CLAPS | frozenset(_CLAPPING)) or not is_said(nodes, hand + 1, say.ON):
        return nodes
    clap = nodes[hand]
    said = [
        count_of(node) for node in nodes[hand + 2 :] if not is_name(node, say.AND | say.THE) and not is_pause(node)
    ]
    on = {number_alone(count) for count in said}
    steps = _steps_one_by_one(nodes[:at], sounds)
    if not isinstance(clap, Bit) or not on or not on <= set(range(1, len(steps) + 1)):
        return nodes
    clap = replace(clap, text=_CLAPPING.get(clap.text.casefold(), clap.text.removesuffix("s")))
    made: list[Node] = []
    for number, step in enumerate(steps, 1):
        made += (numbered(number, step), step)
        made += (Bit("join", "+", clap.column, clap.column), clap) if number in on else ()
    return made


def _steps_one_by_one(said: Sequence[Node], sounds: Sounds) -> list[Bit]:
    """Steps of one sound each that are said one after another, or how many of one: step step step step, 4 steps."""
    many = number_alone(count_of(said[0])) if len(said) > 1 else None
    named = [node for node in said[many is not None :] if isinstance(node, Bit) and is_word(node)]
    single = len(named) == len(said) - (many is not None) and all(sounds(one.text) == 1 for one in named)
    if not single:
        return []
    if many is None:
        return named if len(named) > 1 else []
    one = named[0].text.removesuffix("s")
    return (
        [replace(named[0], text=one)] * many if len(named) == 1 and many <= _MOST_STEPS and sounds(one) == 1 else []
    )


def _held(nodes: Sequence[Node], _: Sounds) -> Sequence[Node]:
    """With "holding hands" in one: it is no clap."""
    made: list[Node] = []
    for node in nodes:
        before = made[-1] if made else None
        if isinstance(before, Bit) and is_name(before, _HOLDING) and isinstance(node, Bit) and is_name(node, _HANDS):
            made[-1] = replace(before, text=f"{before.text} {node.text}", end=node.end)
        else:
            made.append(node)
    return made


def _as_you(nodes: Sequence[Node], _: Sounds) -> Sequence[Node]:
    """With "while" for "as", where it is said of who dances: clap as you step."""
    return [
        replace(node, text="while")
        if at and isinstance(node, Bit) and is_name(node, _AS) and is_said(nodes, at + 1, say.DANCERS)
        else node
        for at, node in enumerate(nodes)
    ]


def _with_it_on(nodes: Sequence[Node], sounds: Sounds) -> Sequence[Node]:
    """With a clap before the count that its step is said to be on: stamp on 1 with a clap."""
    for at in range(len(nodes) - 1, _LEAST_ON, -1):
        hand = at + 1 + (at + 1 < len(nodes) and is_article(nodes[at + 1]))
        closes = hand + 1 >= len(nodes) or is_pause(nodes[hand + 1])
        if not (is_name(nodes[at], say.WITH) and is_said(nodes, hand, _CLAPS) and closes):
            continue
        on = at - 1
        while on > 0 and (count_of(nodes[on]) is not None or is_name(nodes[on], say.THE)):
            on -= 1
        step = nodes[on - 1] if on > 0 else None
        if on < at - 1 and is_name(nodes[on], say.ON) and isinstance(step, Bit) and sounds(step.text) == 1:
            return [*nodes[:on], *nodes[at : hand + 1], *nodes[on:at], *nodes[hand + 1 :]]
    return nodes


def _at_once(nodes: Sequence[Node], sounds: Sounds) -> Sequence[Node]:
    """With a + between a single sound and a clap that is said to be with it: stamp with a clap, clap while you stamp.
    A clap "over the stamps" stays what is not known."""
    made: list[Node] = []
    at = 0
    while at < len(nodes):
        node, before = nodes[at], made[-1] if made else None
        step = at + 1
        step += is_said(nodes, step, _ARTICLES | _ONE_DOES) or (step < len(nodes) and is_article(nodes[step]))
        after = nodes[step] if step < len(nodes) else None
        if isinstance(after, Bit) and is_name(after, frozenset(_CLAPPING)) and not is_said(nodes, step + 1, say.ON):
            after = replace(after, text=_CLAPPING[after.text.casefold()])
        hands = [is_name(one, _CLAPS) for one in (before, after)]
        single = all(isinstance(one, Bit) and is_word(one) and sounds(one.text) == 1 for one in (before, after))
        # "walk walk with claps on the & of 2" is no clap with the last of them.
        there = step + 2 + is_said(nodes, step + 2, say.THE) if is_said(nodes, step + 1, say.ON) else 0
        between = 0 < there < len(nodes) and len(made) > 1 and number_alone(count_of(nodes[there])) is None
        with_it = is_name(node, say.WITH | _WHILE) and single and hands[0] != hands[1] and not between
        if isinstance(node, Bit) and with_it:
            made.append(Bit("join", "+", node.column, node.end))
            made += [after] if after is not None and after is not nodes[step] else []
            at = step + (after is not nodes[step])
        elif (
            isinstance(node, Bit) and is_name(node, _OVER) and is_said(nodes, at + 1, say.THE) and hands[0] and single
        ):
            made.append(replace(node, text=f"{node.text} the", end=nodes[at + 1].end))
            at += 2
        else:
            made.append(node)
            at += 1
    return made


def _doubled(nodes: Sequence[Node], sounds: Sounds) -> Sequence[Node]:
    """With a single sound that is said to be double in one with that: palma doble is no clap and then a double."""
    made: list[Node] = []
    for node in nodes:
        before = made[-1] if made else None
        single = isinstance(before, Bit) and is_word(before) and sounds(before.text) == 1
        single = single and before is not None and node.column == before.end + 1
        named = single and isinstance(before, Bit) and isinstance(node, Bit) and is_name(node, _DOUBLE)
        if named and isinstance(node, Bit) and isinstance(before, Bit) and not sounds(f"{before.text} {node.text}"):
            made[-1] = replace(before, text=f"{before.text} {node.text}", end=node.end)
        else:
            made.append(node)
    return made


WAYS: tuple[Way, ...] = (
    (_CLICK, _clicked),
    (_SLAP, _patted),
    (_BRUSH, _brushed_back),
    (_SWUNG, _both_ways),
    (_HANDS, _held),
    (_HANDS | _HAND | _EITHER, _handed),
    (_ABOVE | _OVERHEAD, _clapped_at),
    (_BOTH, _on_both),
    (_STANCES, _jumped_to),
    (_LIFTS, _lifted),
    (_DOUBLE, _doubled),
    (_TIMELY, _same_time),
    (_AS, _as_you),
    (say.WITH, _with_it_on),
    (say.WITH | _WHILE, _claps_on),
    (say.WITH | _WHILE | _OVER | _AS, _at_once),
)
