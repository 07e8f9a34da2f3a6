"""Feet that are named behind all that is danced on them, over it, or for the same once more: on the right, then on
the left; left foot lead; three stamps with the right, three with the left.

Common practice, no source.
"""

from collections.abc import Sequence
from itertools import pairwise

from msgspec.structs import replace

from firn.core.script import said as say
from firn.core.script.led_each import led_each, with_own
from firn.core.script.tokens import (
    Sounds,
    Way,
    between_pauses,
    is_article,
    is_name,
    is_said,
    is_small_a,
    may_be_several,
    name_at,
    number_of,
)  # fmt: skip
from firn.core.script.tree import Bit, Counts, Group, Node, is_pause, is_word, number_alone

_SIDES = frozenset(say.SIDES)
_LINKS = say.AND | say.THEN
_AT = say.ON | say.TO | say.WITH
"""Said before a foot, or the side that it goes to."""
_LEADS = frozenset({"lead", "leads", "leading", "first", "starts", "begins", "primero"})
"""Said after the foot that begins."""
_FROM = frozenset({"from", "off", "primero", "desde"})
"""Said before it."""
_ONE_FOOT = _SIDES - {"both"}
_PLACES = frozenset(say.WHERE)
_LEAST_BEHIND = 3
"""Feet that each stand behind a step."""
_LONGEST = 4
"""Words of a name that are looked through."""
_FREE = frozenset({"free", "libre"})


def _free_foot(nodes: Sequence[Node], _: Sounds) -> Sequence[Node]:
    """Without the foot that is free, which is the one that dances anyway: stamp with the free foot."""
    for at, node in enumerate(nodes):
        first = at + 1 + is_said(nodes, at + 1, say.THE)
        orders = ((_FREE, say.FEET), (say.FEET, _FREE))
        said = any(is_said(nodes, first, one) and is_said(nodes, first + 1, other) for one, other in orders)
        if at and said and is_name(node, _AT):
            return [*nodes[:at], *nodes[first + 2 :]]
    return nodes


def _foot_led(nodes: Sequence[Node], _: Sounds) -> Sequence[Node]:
    """With the foot alone before a colon where it stands over what follows: on the left: flap flap; right foot lead,
    DS DS RS."""
    made: list[Node] = []
    at = 0
    while at < len(nodes):
        opens = not at or is_pause(nodes[at - 1])
        start = at + (opens and is_said(nodes, at, say.ON | say.WITH))
        start += is_said(nodes, start, say.THE)
        foot = nodes[start] if opens and start < len(nodes) else None
        if not isinstance(foot, Bit) or not is_name(foot, _SIDES):
            made.append(nodes[at])
            at += 1
            continue
        end = start + 1 + is_said(nodes, start + 1, say.FEET | say.A_SIDE)
        leads = is_said(nodes, end, _LEADS)
        end += leads
        pause = nodes[end] if end < len(nodes) else None
        if leads and is_word(pause) and not is_name(pause, _LINKS | _AT):
            # "left foot starts double step".
            made += [foot, Bit("pause", ":", pause.column, pause.column)]
            at = end
            continue
        # "right foot lead, first a flap".
        begins = end + 1 + (leads and is_said(nodes, end + 1, say.THEN))
        follows = begins < len(nodes) and not (is_name(nodes[begins], _LINKS | _AT) or is_pause(nodes[begins]))
        if is_pause(pause) and follows and (leads or (start > at and (":" in pause.text or not at))):
            made += [foot, replace(pause, text=":")] if isinstance(pause, Bit) else []
            at = begins
        else:
            made.append(nodes[at])
            at += 1
    return made


def _foot_behind_each(nodes: Sequence[Node], sounds: Sounds) -> Sequence[Node]:
    """With each foot before its step where all that is said between two pauses are steps, or where they go, each with
    its foot behind it: step R cross L step R kick L."""
    made: list[Node] = []
    for part in between_pauses(nodes):
        end = len(part) - bool(part and is_pause(part[-1]))
        words, feet = part[:end:2], part[1:end:2]
        turns = end % 2 == 0 and len(feet) >= _LEAST_BEHIND and all(is_name(foot, _ONE_FOOT) for foot in feet)
        each = turns and all(is_name(word, _PLACES) or (is_word(word) and sounds(word.text) == 1) for word in words)
        within = [is_name(word, _PLACES) for word in words]
        sides = [say.SIDES[foot.text.casefold()] for foot in feet if isinstance(foot, Bit)] if turns else []
        other = all(after != foot for foot, after in pairwise(sides))
        if each and other and any(within) and not (within[0] or within[-1]):
            made += [node for pair in zip(feet, words, strict=True) for node in pair]
            made += part[end:]
        else:
            made += part
    return made


def _foot_behind_count(nodes: Sequence[Node], _: Sounds) -> Sequence[Node]:
    """With the foot before a step that has its count behind it, and the foot behind that: step on 1 left, shuffle on
    & 2 right."""
    made: list[Node] = []
    begins = 0
    for at, node in enumerate(nodes):
        counted = len(made)
        while counted > begins and isinstance(made[counted - 1], Counts):
            counted -= 1
        words = made[begins : counted - 1]
        ends = at + 1 == len(nodes) or is_pause(nodes[at + 1]) or is_name(nodes[at + 1], _LINKS)
        on = begins < counted < len(made) and is_name(made[counted - 1], say.ON)
        plain = bool(words) and all(is_word(word) and not is_name(word, _SIDES | say.ON) for word in words)
        if is_name(node, _ONE_FOOT) and ends and on and plain:
            made.insert(begins, node)
            continue
        made.append(node)
        if is_pause(node) or is_name(node, _LINKS):
            begins = len(made)
    return made


def _led_at_end(nodes: Sequence[Node], sounds: Sounds) -> Sequence[Node]:
    """With "starting" before the foot that all before it begins with, said at the line's end: flap flap, left foot
    first; flap flap off the left foot; cuatro golpes, primero la izquierda."""
    leads = is_said(nodes, len(nodes) - 1, _LEADS)
    at = len(nodes) - 1 - leads
    at -= is_said(nodes, at, say.FEET)
    foot = nodes[at] if at > 0 else None
    if not isinstance(foot, Bit) or not is_name(foot, _ONE_FOOT):
        return nodes
    start = at - is_said(nodes, at - 1, say.THE)
    if not leads and is_said(nodes, start - 1, _FROM):
        start -= 1
        if any(
            len(name_at(nodes, begin, sounds)) > start - begin for begin in range(max(0, start - _LONGEST), start)
        ):
            # "push off left" is a step.
            return nodes
    elif not leads:
        return nodes
    if not any(is_word(node) for node in nodes[:start]):
        return nodes
    return [*nodes[:start], Bit("name", "starting", foot.column, foot.column), foot]


def _begun_again(nodes: Sequence[Node], _: Sounds) -> Sequence[Node]:
    """With "on" for two feet that the same begins with, once with each: cramp roll starting left, then starting
    right."""
    starts = [at for at, node in enumerate(nodes) if is_name(node, say.STARTS)]
    if len(starts) != 2 or not starts[0]:
        return nodes
    ends = [at + 1 + is_said(nodes, at + 1, say.ON | say.WITH) for at in starts]
    feet = [at + is_said(nodes, at, say.THE) for at in ends]
    closes = feet[1] + 1 + is_said(nodes, feet[1] + 1, say.FEET) == len(nodes)
    between = nodes[feet[0] + 1 : starts[1]]
    alone = all(is_pause(node) or is_name(node, _LINKS | say.FEET) for node in between)
    if not (closes and alone and all(is_said(nodes, at, _SIDES) for at in feet)):
        return nodes
    on = [Bit("name", "on", nodes[at].column, nodes[at].column) for at in starts]
    return [*nodes[: starts[0]], on[0], nodes[feet[0]], *between, on[1], nodes[feet[1]]]


def _as_often(nodes: Sequence[Node], sounds: Sounds) -> Sequence[Node]:
    """With the step before where only how often and the foot are said again: three stamps with the right, three with
    the left."""
    made: list[Node] = []
    named: list[Bit] = []
    counted: list[Bit] = []
    several = False
    at = 0
    while at < len(nodes):
        number = nodes[at]
        times = is_said(nodes, at + 1, say.TIMES)
        foot = at + 1 + times
        again = isinstance(number, Bit) and number_of(number) is not None and (counted or (named and several))
        used = _foot_said(nodes, foot) if again else 0
        closes = foot + used == len(nodes) or is_pause(nodes[foot + used]) or is_name(nodes[foot + used], _LINKS)
        led = at > 0 and (is_pause(nodes[at - 1]) or is_name(nodes[at - 1], _LINKS))
        if used and closes and led and isinstance(number, Bit):
            # "three stamps with the right, clap, three with the left": three stamps.
            where = number.column, number.end
            *first, last = counted or named
            text = last.text if may_be_several(last.text) else f"{last.text}s"
            made += [number, *(Bit("name", bit.text, *where) for bit in first), Bit("name", text, *where)]
            at += 1 + times
            continue
        words = name_at(nodes, at, sounds)
        named = words or named
        counted = words if words and several and at and number_of(nodes[at - 1]) is not None else counted
        # "a flap on the right, two on the left": these begin on the left.
        said = number_alone(number_of(number))
        several = said > 1 if said is not None else several and not is_article(number)
        made += words or [number]
        at += len(words) or 1
    return made


def _so_often_on(nodes: Sequence[Node], sounds: Sounds) -> Sequence[Node]:
    """With brackets around several steps that are said to be danced so often on a foot, and so for the other where no
    more than that is said: flap heel twice on the right, twice on the left."""
    made: list[Node] = []
    body: list[Bit] = []
    many = 0
    for part in between_pauses(nodes):
        pause = part[-1:] if part and is_pause(part[-1]) else []
        said = part[: len(part) - len(pause)]
        links = next((n for n, node in enumerate(said) if not is_name(node, _LINKS)), len(said))
        often = next((n for n in range(links, len(said)) if _often(said, n)[0]), len(said))
        steps = [node for node in said[links:often] if isinstance(node, Bit) and is_word(node)]
        times, used = _often(said, often) if often < len(said) else (many, 0)
        at = often if times and used else links
        foot = next((n for n in range(at + used, len(said)) if is_name(said[n], _SIDES)), len(said))
        rest = said[at + used : foot] + said[foot + 1 :]
        whole = foot < len(said) and all(is_name(node, _AT | say.THE | say.FEET) for node in rest)
        steps = steps if used else []
        begins = (
            len(steps) == often - links > 1
            and bool(named := name_at(steps, 0, sounds))
            and (len(named) < len(steps) or sounds(" ".join(node.text for node in steps)) > 1)
            and not any(is_name(node, _SIDES | _AT | _LINKS) for node in steps)
        )
        if whole and (begins or (not steps and body)):
            where = said[foot].column, said[foot].end
            body = steps if begins else [replace(node, column=where[0], end=where[1]) for node in body]
            many = times
            made += [*said[:links], Group((said[foot], *body), body[0].column, where[1])]
            made += [Bit("times", f"x{times}", *where), *pause]
        else:
            body = []
            made += part
    return made


def _often(nodes: Sequence[Node], at: int) -> tuple[int, int]:
    """How often something is said to be danced at a token, and of how many tokens; (0, 0) where it is not."""
    node = nodes[at]
    if is_said(nodes, at + 1, say.TIMES):
        return number_alone(number_of(node)) or 0, 2
    if not isinstance(node, Bit):
        return 0, 0
    digits = node.text.strip("xX× ") if node.kind == "times" else ""
    many = int(digits) if digits.isdecimal() and len(digits) < 3 else 0
    many = many or (say.ONCE_OR_MORE.get(node.text.casefold(), 0) if is_word(node) else 0)
    return many, int(many > 0)


def _foot_said(nodes: Sequence[Node], at: int) -> int:
    """How many tokens say with which foot, from one on: with the right, on the left foot, a la izquierda; 0 for
    none."""
    there = at + 1 + is_said(nodes, at + 1, say.THE)
    there += is_said(nodes, there, say.FEET)
    to = nodes[at] if at < len(nodes) else None
    led = is_name(to, _AT) or is_small_a(to)
    if not led or not is_said(nodes, there, _SIDES):
        return 0
    return there + 1 + is_said(nodes, there + 1, say.FEET) - at


def _each_side(nodes: Sequence[Node], _: Sounds) -> Sequence[Node]:
    """With a pause before both feet that are said at a line's end of what comes before, each with "on" or "to", or
    with "then" between them: DS DS RS to the left, then to the right."""
    if any(isinstance(node, Counts) and not is_small_a(node) for node in nodes[:-1]):
        return nodes
    last = _foot_before(nodes, len(nodes))
    between = last[0] if last is not None else 0
    while between and (is_pause(nodes[between - 1]) or is_name(nodes[between - 1], _LINKS)):
        between -= 1
    first = _foot_before(nodes, between) if last is not None and between < last[0] else None
    if first is None or last is None or not first[0] or {say.SIDES[foot.text.casefold()] for foot in
                                                        (first[1], last[1])} != {"left", "right"}:  # fmt: skip
        return nodes
    led = any(is_name(nodes[at], _AT) or isinstance(nodes[at], Counts) for at in (first[0], last[0]))
    linked = any(is_name(node, _LINKS) for node in nodes[between : last[0]])
    body = nodes[: first[0]]
    if body and is_pause(body[-1]) and ":" in body[-1].text:
        # "hop shuffle step: R then L".
        return nodes
    while body and (is_pause(body[-1]) or is_name(body[-1], _LINKS)):
        body = body[:-1]
    if not (led or linked) or not body or not is_word(body[-1]) or is_name(body[-1], _SIDES | _AT):
        return nodes
    pause = Bit("pause", ",", first[1].column, first[1].column)
    return [*body, pause, first[1], Bit("name", "then", last[1].column, last[1].column), last[1]]


def _foot_before(nodes: Sequence[Node], end: int) -> tuple[int, Bit] | None:
    """A foot named right before a token, and where what is said of it begins; None for none."""
    at = end - 1 - is_said(nodes, end - 1, say.FEET | say.A_SIDE)
    foot = nodes[at] if 0 <= at < len(nodes) else None
    if not isinstance(foot, Bit) or not is_name(foot, _SIDES):
        return None
    at -= is_said(nodes, at - 1, say.THE)
    to = nodes[at - 1] if at else None
    at -= is_said(nodes, at - 1, _AT) or is_small_a(to)
    return at, foot


def _about_brackets(nodes: Sequence[Node], _: Sounds) -> Sequence[Node]:
    """With a foot that is named behind steps in brackets, or over them, before the first of them: (DS RS) left, (DS
    RS) right; left foot: (DS RS) x4."""
    made: list[Node] = []
    at = 0
    while at < len(nodes):
        group, used = nodes[at], 1
        steps = group.items if isinstance(group, Group) and all(map(is_word, group.items[:1])) else ()
        # "L (DS RS) R (DS RS)".
        footed = is_said(nodes, at - 1, _SIDES) or any(is_name(step, _SIDES) for step in steps)
        foot: Node | None = None
        often = 0
        if isinstance(group, Group) and sum(map(is_word, steps)) > 1 and not footed:
            often = int(at + 1 < len(nodes) and isinstance(times := nodes[at + 1], Bit) and times.kind == "times")
            foot, end = _foot_behind(nodes, at + 1 + often)
            used = end - at if foot is not None else 1 + often
            over = _foot_over(made) if foot is None else 0
            foot, made = (made[-over], made[:-over]) if over else (foot, made)
        if isinstance(group, Group) and isinstance(foot, Bit):
            start = steps[0].column
            group = replace(group, items=(replace(foot, column=start, end=start), *steps))
        made += [group, *nodes[at + 1 : at + 1 + often]]
        at += used
    return made


def _foot_behind(nodes: Sequence[Node], at: int) -> tuple[Bit | None, int]:
    """The foot that is named from a token on and ends what is said there, and where that ends; None, 0 for none."""
    at += is_said(nodes, at, _AT)
    at += is_said(nodes, at, say.THE)
    foot = nodes[at] if at < len(nodes) else None
    end = at + 1 + is_said(nodes, at + 1, say.FEET | say.A_SIDE)
    closes = end >= len(nodes) or isinstance(nodes[end], Group) or is_pause(nodes[end])
    closes = closes or is_name(nodes[end], _LINKS)
    return (foot, end) if closes and isinstance(foot, Bit) and is_name(foot, _ONE_FOOT) else (None, 0)


def _foot_over(made: Sequence[Node]) -> int:
    """How many tokens a foot with a colon takes that ends what was said so far; 0 for none."""
    colon = made[-1] if made else None
    if not (is_pause(colon) and ":" in colon.text):
        return 0
    size = 2 + is_said(made, len(made) - 2, say.FEET | say.A_SIDE)
    begins = size == len(made) or (size < len(made) and is_pause(made[-size - 1]))
    return size if begins and is_name(made[-size], _ONE_FOOT) else 0


def _feet_after_all(nodes: Sequence[Node], sounds: Sounds) -> Sequence[Node]:
    """With each foot before its step where as many feet as steps stand behind a stroke, a bar, or a comma: DS DS RS /
    L R LR. Of two feet, as RS has, the first is that of the step."""
    strokes = [at for at, node in enumerate(nodes) if isinstance(node, Bit) and node.text in _STROKES]
    pauses = [at for at, node in enumerate(nodes) if is_pause(node)]
    merged = any(len(_letters(node)) > 1 for node in nodes)
    signs = strokes or (pauses if merged and len(pauses) == 1 else [])
    if not signs:
        return _feet_after_pause(nodes, sounds)
    parts = [list(nodes[a + 1 : b]) for a, b in pairwise([-1, *signs, len(nodes)])]
    made, footed = list(parts[0]), False
    for sign, before, part in zip(signs, parts, parts[1:], strict=False):
        feet = [_first_foot(node) for node in part]
        steps = _as_many(before, len(feet), sounds) if len(feet) >= _FEWEST and "" not in feet else []
        if steps:
            footed = True
            made = made[: len(made) - len(before)]
            for step, foot in zip(steps, feet, strict=True):
                made += [Bit("name", foot, step[0].column, step[0].column), *step]
        else:
            made += [nodes[sign], *part]
    return made if footed else nodes


def _feet_after_pause(nodes: Sequence[Node], sounds: Sounds) -> Sequence[Node]:
    """With each foot before its step where just as many feet as steps stand behind the last pause: stamp, stamp,
    stamp, right left right. Of one figure, as in "shuffle step, R L", they may be those of its times."""
    last = next((at for at in range(len(nodes) - 2, 0, -1) if is_pause(nodes[at])), 0)
    feet = [_first_foot(node) for node in nodes[last + 1 :] if not is_pause(node)]
    before = nodes[:last]
    plain = all(is_word(node) or is_pause(node) or isinstance(node, Counts) for node in before)
    if len(feet) < _FEWEST or "" in feet or not plain or any(is_name(node, _SIDES) for node in before):
        return nodes
    words = [node for node in before if isinstance(node, Bit) and is_word(node) and not is_name(node, _LINKS)]
    ways = _parted(words, sounds)
    if len(feet) != max(ways, default=0) or (1 in ways and len(ways) > 1):
        return nodes
    begins = {step[0].column: foot for step, foot in zip(ways[len(feet)], feet, strict=True)}
    made: list[Node] = []
    for node in before:
        if is_word(node) and node.column in begins:
            made.append(Bit("name", begins[node.column], node.column, node.column))
        made.append(node)
    return made


def _letters(node: Node) -> str:
    """Feet that are written in one: RL; "" for none."""
    said = node.text if isinstance(node, Bit) else ""
    return said if said.isupper() and set(said) <= {"L", "R"} and len(said) <= len("RL") else ""


def _first_foot(node: Node) -> str:
    """The foot that a token says, the first where it says two; "" for none."""
    return _letters(node)[:1] or (node.text if isinstance(node, Bit) and is_name(node, _ONE_FOOT) else "")


def _as_many(nodes: Sequence[Node], many: int, sounds: Sounds) -> list[list[Bit]]:
    """Some tokens as so many names of steps, long ones rather; none where they are not."""
    words = [node for node in nodes if isinstance(node, Bit) and is_word(node)]
    return _parted(words, sounds).get(many, []) if many <= len(words) == len(nodes) else []


def _parted(words: Sequence[Bit], sounds: Sounds) -> dict[int, list[list[Bit]]]:
    """The names of steps that some words are, by how many they can be, long ones rather."""
    if len(words) > _MOST_STEPS:
        return {}
    # From the end back: for each number of names one way to part what is left, the longest name first.
    ways: list[dict[int, list[list[Bit]]]] = [{} for _ in words] + [{0: []}]
    for at in range(len(words) - 1, -1, -1):
        for size in range(1, min(_LONGEST, len(words) - at) + 1):
            if sounds(" ".join(bit.text for bit in words[at : at + size])):
                for number, rest in ways[at + size].items():
                    ways[at][number + 1] = [[*words[at : at + size]], *rest]
    return ways[0]


_STROKES = ("/", "|")
_FEWEST, _MOST_STEPS = 2, 32
"""Feet behind all steps, and words of these, that are looked through."""

WAYS: tuple[Way, ...] = (
    (_FREE, _free_foot),
    (_SIDES, with_own),
    (_SIDES, led_each),
    (_SIDES | {"rl", "lr"}, _feet_after_all),
    (_SIDES, _about_brackets),
    (_SIDES, _foot_led),
    (_SIDES, _foot_behind_count),
    (_SIDES, _led_at_end),
    (_SIDES, _foot_behind_each),
    (say.STARTS, _begun_again),
    (_SIDES, _so_often_on),
    (_SIDES, _as_often),
    (_SIDES, _each_side),
)
