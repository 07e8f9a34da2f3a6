"""What is said in a way that means another which is read: walk four steps; shuffles, eight counts; two slow stamps.

Common practice, no source.
"""

from collections.abc import Callable, Sequence

from msgspec.structs import replace

from firn.core.script import said as say
from firn.core.script.named_feet import FREE, as_often, each_side, foot_led, free_foot, so_often_on
from firn.core.script.tokens import (
    Sounds,
    count_of,
    is_article,
    is_name,
    is_said,
    name_at,
    numbered,
    said_of_several,
)
from firn.core.script.tree import Atom, Bit, Counts, Group, Node, is_pause, is_word, number_alone

_SIDES = frozenset(say.SIDES)
_EVERY = frozenset({"every", "each", "cada"})
_WALKED = {"walk": "walks", "walking": "walks", "run": "runs", "running": "runs"}
_WHERE = frozenset(say.WHERE)
_STEPS, _SEVERAL = frozenset({"step", "steps", "paso", "pasos"}), frozenset({"steps", "pasos"})
_WALKING = frozenset({"walking", "caminando"})
_CLICK, _HEELS = frozenset({"click", "clicks"}), frozenset({"heels"})
_SLAP = frozenset({"slap", "slaps", "hit", "tap"})
_BRUSH, _BACK = frozenset({"brush", "brushes"}), frozenset({"back", "backward", "backwards"})
_FORTH = frozenset({"forward", "forwards", "front", "fwd"})
_BOTH, _MORE = frozenset({"both", "two", "ambas", "ambos", "dos"}), frozenset({"more", "más"})
_COMES = frozenset({"is", "goes", "comes", "falls", "lands", "va", "cae"})
_COUPLE, _FROM = frozenset({"couple", "pair", "par"}), frozenset({"from", "desde", "de"})
_EITHER = frozenset({"both", "ambas"})
_HANDS = frozenset({"hands", "manos"})
_HAND, _PATS = frozenset({"hand", "mano"}), frozenset({"pat", "pats"})
_CLAPS = frozenset({"clap", "claps", "palma", "palmas", "snap", "snaps"})
_LIFTS = frozenset({"lift", "lifts", "raise", "sube", "levanta"})
_ORDER = {
    "first": 1, "second": 2, "third": 3, "fourth": 4, "fifth": 5, "sixth": 6, "seventh": 7, "eighth": 8,
    "primer": 1, "segundo": 2, "tercer": 3, "cuarto": 4,
}  # fmt: skip
_TIME = frozenset({"time", "vez"})
_INTO, _BY = frozenset({"into", "plus", "followed", "seguido", "más"}), frozenset({"by", "de"})
_PACES = frozenset(word.casefold() for word in say.PACES if len(word) > 1)
_PARTS, _LED = frozenset(say.BARE), say.THE | say.WITH | say.ON
_JUMPED = frozenset({"jump", "jumps", "jumping", "salto", "saltos", "salta", "brinco", "brincos"})
_ARTICLES, _ONE_DOES = say.ARTICLES | say.THE, frozenset({"you", "we", "i"})
_WHILE, _OVER = frozenset({"while", "mientras"}), frozenset({"over"})
_DOUBLE = frozenset({"doble", "dobles"})
_BEFORE_COUNT = say.ON | say.FOR | say.AND | say.THEN
_MOST_PACED = 16
_LINKS = say.AND | say.THEN
_ONES = frozenset({"ones"})
_MOST = 12
"""Tokens of steps that are said to be so long."""


def reworded(nodes: Sequence[Node], sounds: Sounds) -> Sequence[Node]:
    """A line's tokens as they are said elsewhere. `sounds`: how many sounds the step has that goes by a name, 0 where
    there is none."""
    every = (one for node in nodes for one in (node.items if isinstance(node, Group) else (node,)))
    said = {one.text.casefold() for one in every if is_word(one)}
    ways = [way for words, way in _WAYS if not said.isdisjoint(words)]
    if not ways:
        return nodes
    # What ends a line says nothing of how it is meant: a full stop, a mark.
    end = len(nodes)
    while end > 1 and _ends(nodes[end - 1]):
        end -= 1
    body = nodes[:end]
    for way in ways:
        body = way(body, sounds)
    return [*body, *nodes[end:]]


def _ends(node: Node) -> bool:
    """Whether a token is a mark of how loud the step before it is, or a pause that nothing comes after."""
    return isinstance(node, Bit) and (node.kind == "mark" or (is_pause(node) and ":" not in node.text))


def _at_first_beat(nodes: Sequence[Node], _: Sounds) -> Sequence[Node]:
    """With the number for a count that is said by its order, "once" for one time, and "then" for what leads on: first
    beat stamp, second beat clap; flap into a shuffle."""
    made: list[Node] = []
    at = 0
    while at < len(nodes):
        node = nodes[at]
        the = is_said(nodes, at, say.THE)
        order = nodes[at + the] if at + the < len(nodes) else node
        number = _ORDER.get(order.text.casefold(), 0) if isinstance(order, Bit) and is_word(order) else 0
        if number and isinstance(order, Bit) and is_said(nodes, at + the + 1, say.COUNTED):
            made.append(numbered(number, replace(order, column=node.column, end=nodes[at + the + 1].end)))
            at += the + 2
        elif at and number_alone(count_of(node)) == 1 and isinstance(node, Bit) and is_said(nodes, at + 1, _TIME):
            made.append(replace(node, text="once", end=nodes[at + 1].end))
            at += 2
        elif at and isinstance(node, Bit) and is_name(node, _INTO) and at + 1 < len(nodes):
            by = is_said(nodes, at + 1, _BY)
            made.append(replace(node, text="then", end=nodes[at + by].end))
            at += 1 + by
        else:
            made.append(node)
            at += 1
    return made


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
        if isinstance(node, Bit) and is_name(node, _SLAP) and is_said(nodes, end, say.BODY) and sounds("pat") == 1:
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


def _handed(nodes: Sequence[Node], sounds: Sounds) -> Sequence[Node]:
    """Without the hands that clap, which they are anyway: both hands clap, clap both hands."""
    made: list[Node] = []
    at = 0
    while at < len(nodes):
        if made and is_name(made[-1], _CLAPS | _PATS) and is_said(nodes, at, say.WITH):
            # "pat with the right hand".
            hand = at + 1 + is_said(nodes, at + 1, say.THE)
            hand += is_said(nodes, hand, _SIDES)
            if is_said(nodes, hand, _HAND):
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
        elif clapped and is_said(nodes, at, _EITHER) and not is_said(nodes, at + 1, say.FEET):
            at += 1
        else:
            made.append(nodes[at])
            at += 1
    return made


def _more(nodes: Sequence[Node], sounds: Sounds) -> Sequence[Node]:
    """Without "more" after so many, "with" before them, and "on it": with two more flaps."""
    gone: set[int] = set()
    for at, node in enumerate(nodes):
        number = (number_alone(count_of(node)) or 0) > 1
        step_next = at + 2 < len(nodes) and is_word(nodes[at + 2]) and not is_said(nodes, at + 2, say.TIMES)
        if number and is_said(nodes, at + 1, _MORE) and step_next:
            gone.add(at + 1)
        one_more = at > 0 and is_said(nodes, at + 1, _MORE) and number_alone(count_of(node)) == 1 and step_next
        if one_more and not _headed(nodes, at) and name_at(nodes, at + 2, sounds):
            # "flap, one more flap".
            gone.update((at, at + 1))
        if at and is_name(node, _COMES) and is_said(nodes, at + 1, say.ON):
            # "the clap is on 4".
            gone.add(at)
        of = number and is_said(nodes, at + 1, say.OF) and not is_said(nodes, at + 2, say.IT)
        if of and at + 2 < len(nodes) and is_word(nodes[at + 2]):
            # "eight of shuffles".
            gone.add(at + 1)
        if number and is_said(nodes, at - 1, say.WITH) and at + 1 < len(nodes) and is_word(nodes[at + 1]):
            gone.add(at - 1)
        if at and is_name(node, say.ON) and is_said(nodes, at + 1, say.IT):
            gone.add(at)
        lasts = (
            at and is_said(nodes, at - 1, say.LASTS) and is_name(node, say.OF) and is_said(nodes, at + 2, say.COUNTED)
        )
        if lasts and number_alone(count_of(nodes[at + 1])) is not None:
            # "pausa de dos tiempos".
            gone.add(at)
    return [node for at, node in enumerate(nodes) if at not in gone]


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


def _headed(nodes: Sequence[Node], at: int) -> bool:
    """Whether what stands at a token is a head: a colon comes next of all pauses."""
    pause = next((node for node in nodes[at:] if is_pause(node)), None)
    return pause is not None and ":" in pause.text


def _paced(nodes: Sequence[Node], sounds: Sounds) -> Sequence[Node]:
    """With so many steps each with its pace for several of one: three quick steps, two slow stamps."""
    made: list[Node] = []
    at = 0
    while at < len(nodes):
        many = number_alone(count_of(nodes[at])) or 0
        pace, step = nodes[at + 1 : at + 2], nodes[at + 2 : at + 3]
        named = step[0] if step and is_word(step[0]) and said_of_several(step[0].text) else None
        if 1 < many <= _MOST_PACED and pace and is_name(pace[0], _PACES) and isinstance(named, Bit):
            ones = is_name(named, _ONES)
            before = (bit for bit in reversed(made) if isinstance(bit, Bit) and sounds(bit.text))
            one = next(say.singular(named.text.casefold()), named.text)
            # "two slow stamps, then four quick ones".
            one = next((bit.text for bit in before), one) if ones else one
            made += [
                replace(n, column=nodes[at].column) for _ in range(many) for n in (pace[0], replace(named, text=one))
            ]
            at += 3
        elif many and is_said(nodes, at + 1, say.COUNTED) and is_said(nodes, at + 2, say.LASTS):
            # "2 counts hold".
            made += [nodes[at + 2], Bit("name", "for", nodes[at].column, nodes[at].column), *nodes[at : at + 2]]
            at += 3
        else:
            made.append(nodes[at])
            at += 1
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


def _couple(nodes: Sequence[Node], _: Sounds) -> Sequence[Node]:
    """With two for a couple of something: a pair of shuffles."""
    made: list[Node] = []
    at = 0
    while at < len(nodes):
        article = is_article(nodes[at])
        couple = nodes[at + article] if at + article < len(nodes) else None
        if isinstance(couple, Bit) and is_name(couple, _COUPLE) and is_said(nodes, at + article + 1, say.OF):
            made.append(replace(couple, text="two", column=nodes[at].column, end=nodes[at + article + 1].end))
            at += article + 2
        else:
            made.append(nodes[at])
            at += 1
    return made


def _ranged(nodes: Sequence[Node], _: Sounds) -> Sequence[Node]:
    """With a range for the counts from one to another that are said after their step: stamp on 1 through 4."""
    made: list[Node] = []
    at = 0
    while at < len(nodes):
        first = number_alone(count_of(nodes[at]))
        last = number_alone(count_of(nodes[at + 2])) if at + 2 < len(nodes) else None
        through = is_said(nodes, at + 1, say.THROUGH) and first is not None and last is not None and first < last
        if at and through and first is not None and is_word(nodes[at - 1]):
            if made and is_name(made[-1], _FROM):
                before = made.pop()
                made.append(Bit("name", "on", before.column, before.end))
            atom = Atom(first, "", "", last)
            made.append(Counts((atom,), f"{first}-{last}", nodes[at].column, nodes[at + 2].end))
            at += 3
        else:
            made.append(nodes[at])
            at += 1
    return made


def _on_every(nodes: Sequence[Node], _: Sounds) -> Sequence[Node]:
    """Without "on every beat" before how many there are: stamp on every beat for eight counts."""
    for at in range(1, len(nodes) - 4):
        every = is_name(nodes[at + 1], _EVERY) and is_name(nodes[at + 2], say.COUNTED)
        if is_name(nodes[at], say.ON) and every and is_name(nodes[at + 3], say.FOR):
            return [*nodes[:at], *nodes[at + 3 :]]
    return nodes


def _walked(nodes: Sequence[Node], _: Sounds) -> Sequence[Node]:
    """With so many walks for steps that are walked: walk four steps, walk back 4, four walking steps forward."""
    made: list[Node] = []
    lone = sum(isinstance(node, Counts) and node.text.casefold() != "a" for node in nodes) < 2
    at = 0
    while at < len(nodes):
        node = nodes[at]
        walked = _WALKED.get(node.text.casefold(), "") if isinstance(node, Bit) and is_word(node) else ""
        # "walk forward four steps".
        where = int(bool(walked) and is_said(nodes, at + 1, _WHERE))
        number = nodes[at + 1 + where] if at + 1 + where < len(nodes) else None
        many = number_alone(count_of(number)) or 0 if number is not None else 0
        end = at + 2 + where
        steps = is_said(nodes, end, _STEPS)
        # "walk 4 back".
        after = int(lone and not steps and not where and is_said(nodes, end, _WHERE))
        end += after
        closes = lone and (end >= len(nodes) or is_pause(nodes[end]) or is_name(nodes[end], _LINKS))
        if walked and isinstance(node, Bit) and number is not None and 1 < many <= _MOST_PACED and (steps or closes):
            to = [Bit("name", "to", node.end, node.end)] if where or after else []
            there = nodes[at + 1 : at + 1 + where] or nodes[end - after : end]
            made += [node, *to, *there, Bit("times", f"x{many}", number.column, nodes[end - 1 + steps].end)]
            at = end + steps
        elif made and is_name(made[-1], _SEVERAL) and is_name(node, _WALKING):
            # "cuatro pasos caminando".
            at += 1
        elif is_name(node, _WALKING) and many > 1 and number is not None and is_said(nodes, at + 2, _SEVERAL):
            made += [number, nodes[at + 2]]
            at += 3
        elif walked and isinstance(node, Bit) and node.text.endswith("ing") and is_said(nodes, at + 1, _SEVERAL):
            made.append(replace(node, text=walked, end=nodes[at + 1].end))
            at += 2
        else:
            made.append(node)
            at += 1
    return made


def _alternated(nodes: Sequence[Node], _: Sounds) -> Sequence[Node]:
    """Without what only says that feet change, between how many and of what: four alternating flaps."""
    numbers = [(number_alone(count_of(node)) or 0) > 1 for node in nodes]
    gone = {at for at in range(1, len(nodes) - 1) if is_name(nodes[at], say.ALTERNATES) and numbers[at - 1]}
    return [node for at, node in enumerate(nodes) if at not in gone or not is_word(nodes[at + 1])]


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
        hands = [is_name(one, _CLAPS) for one in (before, after)]
        single = all(isinstance(one, Bit) and is_word(one) and sounds(one.text) == 1 for one in (before, after))
        if isinstance(node, Bit) and is_name(node, say.WITH | _WHILE) and single and hands[0] != hands[1]:
            made.append(Bit("join", "+", node.column, node.end))
            at = step
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


def _counted_and(nodes: Sequence[Node], sounds: Sounds) -> Sequence[Node]:
    """With a pause for each "and" behind a number that is said of the step before it: stamp 4 and clap; step one and
    clap two."""
    made: list[Node] = []
    since = 0
    for at, node in enumerate(nodes):
        links = is_name(node, say.AND)
        counted = at > since and number_alone(count_of(nodes[at - 1])) is not None
        if links or is_pause(node):
            said = nodes[since : at - counted]
            named = bool(said) and all(is_word(one) and count_of(one) is None for one in said)
            if not named or not name_at(said, 0, sounds) or is_name(said[-1], _BEFORE_COUNT):
                return nodes
            since = at + 1
        if at != since or not at or not is_article(node) or not is_pause(made[-1]) or is_pause(nodes[at - 1]):
            # "stamp one and a clap" has one.
            made.append(Bit("pause", ",", node.column, node.end) if links and counted else node)
    last = nodes[since:]
    article = bool(last) and is_article(last[0])
    counted = len(last) > 1 and number_alone(count_of(last[-1])) is not None
    said = last[article : len(last) - counted]
    if not said or not all(is_word(one) for one in said) or not name_at(said, 0, sounds):
        return nodes
    return made


def _so_long(nodes: Sequence[Node], _: Sounds) -> Sequence[Node]:
    """With "for" before how many counts all of it takes, at a line's end: shuffles, eight counts."""
    number = nodes[-2] if len(nodes) > 2 and is_name(nodes[-1], say.COUNTED) else None
    many = number_alone(count_of(number)) if number is not None else None
    before = nodes[-3] if many is not None else None
    if number is None or many is None or before is None:
        return nodes
    counted = any(isinstance(node, Counts) and node.text.casefold() != "a" for node in nodes[:-2])
    body = nodes[: -3 if is_pause(before) else -2]
    lasts = any(is_name(node, say.LASTS | say.FOR | say.COUNTED | say.ON) for node in body)
    if counted or lasts or not body or not is_word(body[-1]) or len(body) > _MOST:
        return nodes
    return [*body, Bit("name", "for", number.column, number.column), *nodes[-2:]]


_WAYS: tuple[tuple[frozenset[str], Callable[[Sequence[Node], Sounds], Sequence[Node]]], ...] = (
    (frozenset(_ORDER) | _TIME | _INTO, _at_first_beat),
    (_CLICK, _clicked),
    (_SLAP, _patted),
    (_BRUSH, _brushed_back),
    (_HANDS | _HAND | _EITHER, _handed),
    (_BOTH, _on_both),
    (_COUPLE, _couple),
    (_MORE | say.WITH | say.IT | say.LASTS | say.OF | _COMES, _more),
    (say.THROUGH | _FROM, _ranged),
    (FREE, free_foot),
    (_EVERY, _on_every),
    (frozenset(_WALKED) | _WALKING, _walked),
    (_LIFTS, _lifted),
    (_PACES | say.COUNTED, _paced),
    (_SIDES, foot_led),
    (_SIDES, so_often_on),
    (_SIDES, as_often),
    (_SIDES, each_side),
    (say.COUNTED, _so_long),
    (say.ALTERNATES, _alternated),
    (_DOUBLE, _doubled),
    (say.WITH | _WHILE | _OVER, _at_once),
    (say.AND, _counted_and),
)
"""Each in its turn, for lines that hold one of its words."""
