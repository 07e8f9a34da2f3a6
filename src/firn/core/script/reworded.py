"""What is said in a way that means another which is read: first beat stamp, two more flaps; and what other rooms know
of how often, with what and with which foot.

Common practice, no source.
"""

from collections.abc import Sequence

from msgspec.structs import replace

from firn.core.script import how_often, named_feet, struck_with, turned
from firn.core.script import said as say
from firn.core.script.combo_item import ORDINALS
from firn.core.script.tokens import Sounds, Way, count_of, is_name, is_often, is_said, is_small_a, name_at, numbered
from firn.core.script.tree import GROUP, Bit, Counts, Group, Node, is_pause, is_word, number_alone, said_in

_MORE = frozenset({"more", "más"})
_COMES = frozenset({"is", "are", "go", "come", "goes", "comes", "falls", "lands", "va", "cae"})
_ORDER = {**ORDINALS, "primer": 1, "segundo": 2, "tercer": 3, "cuarto": 4}
_IS = frozenset({"it's", "it’s", "its", "that's", "that’s", "es"})
_BY_WAY, _WHERE = frozenset({"por"}), frozenset(say.WHERE)
_THROUGH, _ONE = frozenset({"through"}), frozenset({"one"})
_ONE_FOOT = frozenset(foot for foot, side in say.SIDES.items() if side != "both")
_NEAR = 5
"""Tokens before a foot in which what starts with it is looked for."""
_BACK, _OTHER = frozenset({"back"}), frozenset({"other", "opposite"})
_WAY = frozenset({"way", "side", "foot"})
_LEADS_ON = say.AND | say.THEN | {"go", "come"}
_CONTRA = frozenset({"contratiempo"})
_TIME = frozenset({"time", "vez"})
_WHICH = frozenset({*ORDINALS, "next", "last", "other", "each", "every", "in"})
_NEVER = frozenset({"don't", "dont", "never"})
_ANY = frozenset({"any"})
_MOVED = frozenset(
    {"change", "changing", "transfer", "transferring", "shift", "shifting", "cambio", "cambiar", "pasar"}
)
_AGAIN = frozenset({"again"})
_SAME, _DOES = frozenset({"same"}), frozenset({"does", "do"})
_ENDING = frozenset({"ending", "finishing", "terminando", "acabando"})
_INTO, _BY = frozenset({"into", "plus", "followed", "seguido", "más"}), frozenset({"by", "de"})


def reworded(nodes: Sequence[Node], sounds: Sounds) -> Sequence[Node]:
    """A line's tokens as they are said elsewhere. `sounds`: how many sounds the step has that goes by a name, 0 where
    there is none."""
    said = said_in(nodes)
    if GROUP in said:
        said = said.union(*(said_in(node.items) for node in nodes if isinstance(node, Group)))
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
        if number and isinstance(order, Bit) and _counted_there(made, nodes, at + the):
            # "clap on the second and fourth".
            made.append(numbered(number, replace(order, column=node.column)))
            at += the + 1
            continue
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


def _counted_there(before: Sequence[Node], nodes: Sequence[Node], at: int) -> bool:
    """Whether an order behind what is read before it is that of a count, and nothing else is said of it."""
    linked = len(before) > 1 and is_name(before[-1], say.AND) and isinstance(before[-2], Counts)
    closes = at + 1 == len(nodes) or is_pause(nodes[at + 1]) or is_name(nodes[at + 1], say.AND | say.THEN)
    return closes and len(before) > 1 and (linked or is_name(before[-1], say.ON))


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


def _more_times(nodes: Sequence[Node], _: Sounds) -> Sequence[Node]:
    """With how many more times in one, where that is said in figures behind a pause at the end: stamp clap, 2 more
    times, x2 more."""
    at = next((at for at in range(len(nodes) - 1, 0, -1) if is_pause(nodes[at - 1])), 0)
    rest = nodes[at + 1 :]
    if not at or not any(is_name(one, _MORE) for one in rest) or not all(is_name(o, _MORE | say.TIMES) for o in rest):
        return nodes
    often = nodes[at]
    times = isinstance(often, Bit) and often.kind == "times"
    many = often.text.strip("xX× ") if isinstance(often, Bit) and times else number_alone(often)
    return [*nodes[:at], Bit("name", f"{many} {say.MORE_TIMES}", often.column, nodes[-1].end)] if many else nodes


def _between(nodes: Sequence[Node], sounds: Sounds) -> Sequence[Node]:
    """Without what only leads on: who dances behind a count, on 1 you stamp, on 2 it's a clap; "back" before the
    other way, "through" after four times, "with" after the foot that a line starts on."""
    gone: set[int] = set()
    for at, node in enumerate(nodes):
        before = nodes[at - 1] if at else None
        # "and it's a clap" goes on, "on the and it's a clap" is that count.
        linked = is_name(before, say.AND) and not is_said(nodes, at - 2, say.ON | say.THE)
        counted = before is not None and count_of(before) is not None and not linked
        article = at + 1 < len(nodes) and is_small_a(nodes[at + 1])
        step = bool(name_at(nodes, at + 1 + article, sounds))
        if (is_name(node, _IS) and counted and step) or (is_name(node, say.WITH) and step and _starts(nodes, at)):
            gone.update((at, at + article))
        elif (is_name(node, say.DANCERS) and counted and step and not article) or (
            is_name(node, _THROUGH) and is_name(before, say.TIMES)
        ):
            gone.add(at)
        elif is_name(node, _BACK) and (before is None or is_pause(before) or is_name(before, _LEADS_ON)):
            there = at + 1 + is_said(nodes, at + 1, say.TO | say.ON)
            there += is_said(nodes, there, say.THE)
            gone.update({at} if is_said(nodes, there, _OTHER) and is_said(nodes, there + 1, _WAY) else ())
        elif is_name(node, _BY_WAY) and is_said(nodes, at + 1, _WHERE):
            # "por delante": in front.
            gone.add(at)
    return [node for at, node in enumerate(nodes) if at not in gone] if gone else nodes


def _starts(nodes: Sequence[Node], at: int) -> bool:
    """Whether the foot that what is danced starts on is said right before a token: start on the left foot with a
    basic."""
    foot = is_said(nodes, at - 1 - is_said(nodes, at - 1, say.FEET), _ONE_FOOT)
    return foot and any(is_name(one, say.STARTS) for one in nodes[max(0, at - _NEAR) : at])


def _another(nodes: Sequence[Node], sounds: Sounds) -> Sequence[Node]:
    """With the step that was said last for "another" before its count, or "again": flap on 1, another on 3, again on
    5; without "again" right behind a step: flap again on 5."""
    made: list[Node] = []
    last = ""
    at = 0
    while at < len(nodes):
        node = nodes[at]
        name = name_at(nodes, at, sounds)
        again = is_name(node, _AGAIN) and _on_count(nodes, at + 1)
        if again and at and is_word(nodes[at - 1]) and not is_name(nodes[at - 1], _LEADS_ON):
            at += 1
            continue
        one = at + 1 + is_said(nodes, at + 1, _ONE)
        another = again or (is_name(node, say.ANOTHER) and is_said(nodes, one, say.ON))
        if last and isinstance(node, Bit) and another:
            made.append(replace(node, text=last, end=nodes[one - 1].end))
            at = one
            continue
        last = " ".join(bit.text for bit in name) or last
        made += nodes[at : at + max(1, len(name))]
        at += max(1, len(name))
    return made


def _on_count(nodes: Sequence[Node], at: int) -> bool:
    """Whether "on" and a count stand at a token."""
    there = at + 1 + is_said(nodes, at + 1, say.THE)
    return is_said(nodes, at, say.ON) and there < len(nodes) and count_of(nodes[there]) is not None


def _at_last(nodes: Sequence[Node], _: Sounds) -> Sequence[Node]:
    """With "then" for what a line ends with: flap flap, ending with a stamp. "Ending on the right" is told of it."""
    at = next((at for at in range(1, len(nodes) - 1) if is_name(nodes[at], _ENDING)), 0)
    there = nodes[at + 2] if at + 2 < len(nodes) else None
    article = is_small_a(there) or is_name(there, say.ARTICLES)
    ending = nodes[at]
    leads = is_said(nodes, at + 1, say.WITH) or (is_said(nodes, at + 1, say.ON) and article)
    if not at or not leads or not isinstance(ending, Bit):
        return nodes
    return [*nodes[:at], replace(ending, text="then", end=nodes[at + 1].end), *nodes[at + 2 :]]


def _which_time(nodes: Sequence[Node], _: Sounds) -> Sequence[Node]:
    """With which time in one, where a pause parts it from a step: next time, step on 2 is no time step."""
    made: list[Node] = []
    for at, node in enumerate(nodes):
        before = made[-1] if made else None
        closes = at + 1 == len(nodes) or is_pause(nodes[at + 1])
        if (
            closes
            and isinstance(node, Bit)
            and is_name(node, _TIME)
            and isinstance(before, Bit)
            and is_name(before, _WHICH)
        ):
            made[-1] = replace(before, text=f"{before.text} {node.text}", end=node.end)
        else:
            made.append(node)
    return made


def _a_la(nodes: Sequence[Node], _: Sounds) -> Sequence[Node]:
    """With "to" in "a la derecha" that stands by itself: it is where all goes, and no step to the right."""
    made = list(nodes)
    for at, node in enumerate(nodes):
        led = at == 0 or is_pause(nodes[at - 1]) or is_often(nodes[at - 1])
        closes = at + 3 >= len(nodes) or is_pause(nodes[at + 3])
        if (
            led
            and closes
            and is_small_a(node)
            and is_said(nodes, at + 1, say.THE)
            and is_said(nodes, at + 2, _ONE_FOOT)
        ):
            made[at] = Bit("name", "to", node.column, node.end)
    return made


def _same_there(nodes: Sequence[Node], _: Sounds) -> Sequence[Node]:
    """With what says at a line's end that the other foot does the same as one token there: right: flap, left: the
    same."""
    end = len(nodes)
    at = end - 1
    while at > 0 and (is_name(nodes[at], _SAME | _DOES | say.THE | say.FEET | say.A_SIDE) or _is_colon(nodes[at])):
        at -= 1
    foot = nodes[at] if at > 0 else None
    if not isinstance(foot, Bit) or not is_name(foot, _ONE_FOOT) or not is_name(nodes[-1], _SAME):
        return nodes
    at -= is_said(nodes, at - 1, say.THE)
    at -= is_said(nodes, at - 1, say.ON | say.WITH)
    if not (is_pause(nodes[at - 1]) or is_name(nodes[at - 1], _LEADS_ON)):
        return nodes
    return [*nodes[:at], Bit("name", "same", nodes[at].column, nodes[-1].end)]


def _is_colon(node: Node) -> bool:
    return is_pause(node) and node.text == ":"


def _headed(nodes: Sequence[Node], at: int) -> bool:
    """Whether what stands at a token is a head: a colon comes next of all pauses."""
    pause = next((node for node in nodes[at:] if is_pause(node)), None)
    return pause is not None and ":" in pause.text


def _off_beat(nodes: Sequence[Node], _: Sounds) -> Sequence[Node]:
    """With "a contratiempo" in one behind a step: it is how that is danced, which is not known, and no step."""
    made: list[Node] = []
    for node in nodes:
        before = made[-1] if made else None
        led = is_small_a(before) and not (len(made) > 1 and isinstance(made[-2], Counts))
        if led and isinstance(node, Bit) and is_name(node, _CONTRA) and before is not None:
            made[-1] = replace(node, text=f"a {node.text}", column=before.column)
        else:
            made.append(node)
    return made


def _weightless(nodes: Sequence[Node], _: Sounds) -> Sequence[Node]:
    """With "without weight" alone where it is not changed: stamp without changing weight; stamp, no weight change;
    with "with" where it is said alone in brackets: stamp (weight)."""
    made: list[Node] = []
    at = 0
    while at < len(nodes):
        group = nodes[at]
        if isinstance(group, Group) and len(group.items) == 1 and is_name(group.items[0], say.WEIGHT):
            made += [Bit("name", "with", group.column, group.column), *group.items]
            at += 1
            continue
        there = at + 1
        small = say.THE | say.OF | _ANY
        if is_name(nodes[at], say.WITHOUT | _NEVER):
            while there < len(nodes) and (is_name(nodes[there], small | _MOVED) or is_small_a(nodes[there])):
                there += 1
        moved = any(is_name(node, _MOVED) for node in nodes[at + 1 : there + 2])
        weight = nodes[there] if there < len(nodes) else None
        if moved and isinstance(weight, Bit) and is_name(weight, say.WEIGHT):
            first = nodes[at]
            made += [Bit("name", "without", first.column, first.end), weight]
            at = there + 1 + is_said(nodes, there + 1, _MOVED)
        else:
            made.append(nodes[at])
            at += 1
    return made


_WAYS: tuple[Way, ...] = (
    (say.WEIGHT, _weightless),
    (_ENDING, _at_last),
    (_SAME, _same_there),
    (_TIME, _which_time),
    (say.THE, _a_la),
    (_CONTRA, _off_beat),
    *turned.WAYS,
    (frozenset(_ORDER) | _TIME | _INTO, _at_first_beat),
    *struck_with.WAYS,
    (say.DANCERS | _BACK | _IS | _THROUGH | _BY_WAY | say.STARTS, _between),
    (say.ANOTHER | _AGAIN, _another),
    (_MORE, _more_times),
    (_MORE | say.WITH | say.IT | say.LASTS | say.OF | _COMES, _more),
    *how_often.WAYS,
    *named_feet.WAYS,
    *how_often.LAST,
)
"""Each in its turn, for lines that hold one of its words."""
