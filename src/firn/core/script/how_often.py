"""How often and how long steps are danced, as it is said: walk four steps; shuffles, eight counts; two slow stamps.

Common practice, no source.
"""

from collections.abc import Sequence
from itertools import pairwise, takewhile
from typing import NamedTuple

from msgspec.structs import replace

from firn.core.script import said as say
from firn.core.script.tokens import (
    Sounds,
    Way,
    count_of,
    is_article,
    is_name,
    is_said,
    is_small_a,
    name_at,
    said_of_several,
    times_said,
)  # fmt: skip
from firn.core.script.tree import Atom, Bit, Counts, Group, Node, is_pause, is_word, number_alone

_WALKED = {
    "walk": "walks", "walking": "walks", "run": "runs", "running": "runs", "camina": "caminas", "caminar": "caminas",
    "caminamos": "caminas",
}  # fmt: skip
_WALKING = frozenset({"walking", "caminando"})
_DOUBLES, _AGAIN, _REPEATED = frozenset({"double"}), frozenset({"repeat"}), frozenset({"repeated"})
_IT, _ONCE = frozenset({"it", "that", "this"}), frozenset({"once"})
_STEPS, _SEVERAL = frozenset({"step", "steps", "paso", "pasos"}), frozenset({"steps", "pasos"})
_WHERE, _SIDES = frozenset(say.WHERE), frozenset(say.SIDES)
_EVERY = frozenset({"every", "each", "cada"})
_PER = frozenset({"per", "por"})
_ONE_EACH = _EVERY | _PER | say.COUNTED | say.ON | say.THE | {"one", "its", "own", "their", "una", "uno", "a"}
"""Said of steps of which each has a count."""
_COUPLE, _FROM = frozenset({"couple", "pair", "par"}), frozenset({"from", "desde", "de"})
_PACES = frozenset(word.casefold() for word in say.PACES if len(word) > 1)
_SLOWS = {f"{word}s": word for word in say.PACES if len(word) > 1}
_SETS = frozenset({"sets", "rounds", "reps", "repetitions", "lots", "series", "rondas"})
_DO, _THAT = frozenset({"do", "dance", "haz"}), frozenset({"that", "it", "this", "them", "eso"})
_OFTEN = frozenset(say.ONCE_OR_MORE)
_ONES = frozenset({"ones"})
_GOES = say.TO | say.THE | _SIDES | _WHERE
_LINKS = say.AND | say.THEN
_BEFORE_COUNT = say.ON | say.FOR | say.AND | say.THEN
_MOST_PACED, _MOST_NAMED = 16, 4
_MOST = 12
"""Tokens of steps that are said to be so long."""


def _text(node: Node) -> str:
    return node.text.casefold() if isinstance(node, Bit) and is_word(node) else ""


def _unlinked(made: list[Node]) -> list[Node]:
    """What was read so far, with a pause for the "and" that leads on from it."""
    if made and is_name(made[-1], say.AND):
        return [*made[:-1], Bit("pause", ",", made[-1].column, made[-1].end)]
    return made


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
            made = _unlinked(made)
            made += [
                replace(n, column=nodes[at].column) for _ in range(many) for n in (pace[0], replace(named, text=one))
            ]
            at += 3
        elif many == 1 and is_word(nodes[at]) and made and pace and is_name(pace[0], _PACES):
            # "two quick steps and one slow step".
            made = _unlinked(made)
            at += 1
        elif 1 < many <= _MOST_PACED and pace and (slow := _SLOWS.get(_text(pace[0]), "")):
            # "two slows, four quicks".
            made = _unlinked(made)
            made += [Bit("name", slow, nodes[at].column, pace[0].end)] * many
            at += 2
        elif many and is_said(nodes, at + 1, say.COUNTED) and is_said(nodes, at + 2, say.LASTS):
            # "2 counts hold".
            made += [nodes[at + 2], Bit("name", "for", nodes[at].column, nodes[at].column), *nodes[at : at + 2]]
            at += 3
        else:
            made.append(nodes[at])
            at += 1
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


def without_one_each(nodes: Sequence[Node]) -> Sequence[Node]:
    """Without what only says at a line's end that each of several steps has a count: four steps, each on its own
    count; four steps, one on each count."""
    at = next((at for at in range(len(nodes) - 1, 0, -1) if is_pause(nodes[at])), 0)
    said = [node.text.casefold() for node in nodes[at + 1 :] if isinstance(node, Bit)]
    counted = any(word in say.COUNTED for word in said) or said[-1:] == ["each"]
    each = len(said) == len(nodes) - at - 1 and counted and not (_EVERY | _PER).isdisjoint(said)
    return nodes[:at] if at and each and all(word in _ONE_EACH for word in said) else nodes


def on_every_of(nodes: Sequence[Node]) -> Sequence[Node]:
    """A line with the counts that are meant for "on every beat" where they are said next: stamp on every beat, 1 to
    4."""
    for at in range(1, len(nodes) - 4):
        every = is_said(nodes, at + 1, _EVERY) and is_said(nodes, at + 2, say.COUNTED)
        if not every or not is_name(nodes[at], say.ON) or not is_pause(nodes[at + 3]):
            continue
        rest = [node for node in nodes[at + 3 :] if not is_pause(node)]
        if rest and all(count_of(node) is not None or is_name(node, say.THROUGH) for node in rest):
            return [*nodes[: at + 1], *rest]
    return nodes


def _there_and_back(nodes: Sequence[Node], sounds: Sounds) -> Sequence[Node]:
    """With the step again where only how many and where to are said next: walk forward 4, back 4; four flaps forward
    and four back."""
    links = [at for at, node in enumerate(nodes) if is_pause(node) or is_name(node, _LINKS)]
    bounds = [-1, *links, len(nodes)]
    parts = [_gone(nodes[a + 1 : b], sounds) for a, b in pairwise(bounds)]
    made: list[Node] = []
    step: list[Bit] = []
    for number, part in enumerate(parts):
        follows = parts[number + 1] if number + 1 < len(parts) else None
        leads = part is not None and follows is not None and bool(part.step) and not follows.step
        several = leads and part is not None and said_of_several(part.step[-1].text)
        leads = leads and part is not None and follows is not None and (several or part.many == follows.many)
        begins, ends = bounds[number] + 1, bounds[number + 1]
        if part is not None and (leads or (step and not part.step)):
            step = part.step or step
            end = part.where.end
            to = Bit("name", "to", part.where.column, part.where.column)
            made += [*step, to, part.where, Bit("times", f"x{part.many}", end, end)]
        else:
            step = []
            made += nodes[begins:ends]
        linked = bool(step) and follows is not None and not follows.step and ends < len(nodes)
        made += [Bit("pause", ",", nodes[ends].column, nodes[ends].end)] if linked else nodes[ends : ends + 1]
    return made


class _Gone(NamedTuple):
    """How often a step is danced, and where to; the step itself, [] for none."""

    step: list[Bit]
    many: int
    where: Bit


def _gone(part: Sequence[Node], sounds: Sounds) -> _Gone | None:
    """What a part of a line says of how many steps go where; None for another."""
    where = [node for node in part if isinstance(node, Bit) and is_name(node, _WHERE)]
    many = [number for node in part if (number := number_alone(count_of(node)) or 0) > 1]
    rest = [node for node in part if not (is_name(node, _WHERE) or number_alone(count_of(node)))]
    words = [node for node in rest if isinstance(node, Bit) and is_word(node)]
    if len(where) != 1 or len(many) != 1 or len(words) < len(rest):
        return None
    named = not words or _several(words, 0, sounds) == words or name_at(words, 0, sounds) == words
    return _Gone(words, many[0], where[0]) if named else None


def _walked(nodes: Sequence[Node], sounds: Sounds) -> Sequence[Node]:
    """With so many walks for steps that are walked: walk four steps, walk back 4, four walking steps forward; but no
    figure that is called a walk: camel walk 8."""
    made: list[Node] = []
    lone = sum(isinstance(node, Counts) and not is_small_a(node) for node in nodes) < 2
    lone = lone and not any(_is_counted(nodes, at) for at in range(1, len(nodes)))
    at = 0
    while at < len(nodes):
        node = nodes[at]
        walked = _WALKED.get(node.text.casefold(), "") if isinstance(node, Bit) and is_word(node) else ""
        if walked and made and isinstance(led := made[-1], Bit) and is_word(led) and isinstance(node, Bit):
            walked = "" if sounds(f"{led.text} {node.text}") else walked
        # "walk forward four steps", "camina hacia adelante cuatro pasos".
        where = int(bool(walked) and is_said(nodes, at + 1, say.TO))
        where += int(bool(walked) and is_said(nodes, at + 1 + where, _WHERE))
        number = nodes[at + 1 + where] if at + 1 + where < len(nodes) else None
        many = number_alone(count_of(number)) or 0 if number is not None else 0
        end = at + 2 + where
        # "3 walk 4 step" are two counts.
        counted = at > 0 and isinstance(nodes[at - 1], Counts)
        steps = is_said(nodes, end, _SEVERAL if counted else _STEPS)
        # "walk 4 back".
        after = int(lone and not steps and not where and is_said(nodes, end, _WHERE))
        end += after
        closes = lone and (end >= len(nodes) or is_pause(nodes[end]) or is_name(nodes[end], _LINKS))
        if walked and isinstance(node, Bit) and number is not None and 1 < many <= _MOST_PACED and (steps or closes):
            there = nodes[at + 1 : at + 1 + where] or nodes[end - after : end]
            to = [Bit("name", "to", node.end, node.end)] if len(there) == 1 else []
            often = Bit("times", f"x{many}", number.column, nodes[end - 1 + steps].end)
            made += [replace(node, text=walked.removesuffix("s")), *to, *there, often]
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


def _is_counted(nodes: Sequence[Node], at: int) -> bool:
    """Whether a number in words is the count of the step before it, which is no walk: step six."""
    before, after = nodes[at - 1], nodes[at + 1] if at + 1 < len(nodes) else None
    step = is_word(before) and before.text.casefold() not in _WALKED and not is_name(before, _WHERE | _LINKS)
    number = number_alone(count_of(nodes[at])) if is_word(nodes[at]) else None
    return step and number is not None and not is_name(before, _STEPS) and not isinstance(after, Counts)


def _so_many_footed(nodes: Sequence[Node], sounds: Sounds) -> Sequence[Node]:
    """With the foot behind how many it is said of: three right shuffles."""
    made: list[Node] = []
    at = 0
    while at < len(nodes):
        made.append(nodes[at])
        foot = nodes[at + 1] if at + 2 < len(nodes) else None
        many = number_alone(count_of(nodes[at])) or 0 if is_word(nodes[at]) else 0
        at += 1
        if many < 2 or not isinstance(foot, Bit) or not is_name(foot, _SIDES):
            continue
        if named := _several(nodes, at + 1, sounds):
            end = named[-1].end
            made += [*named, Bit("name", "with", end, end), replace(foot, column=end, end=end)]
            at += 1 + len(named)
    return made


def _several(nodes: Sequence[Node], at: int, sounds: Sounds) -> list[Bit]:
    """The longest name at a token that is said of several: toe taps; [] for none."""
    words = [node for node in takewhile(is_word, nodes[at : at + _MOST_NAMED]) if isinstance(node, Bit)]
    for size in range(len(words), 0, -1):
        *before, last = (word.text for word in words[:size])
        names = (" ".join((*before, form)) for form in (last, *say.singular(last.casefold())))
        if said_of_several(last) and any(map(sounds, names)):
            return words[:size]
    return []


def _alternated(nodes: Sequence[Node], _: Sounds) -> Sequence[Node]:
    """Without what only says that feet change, between how many and of what, four alternating flaps; and with that
    alone where it is on these: flaps on alternate feet."""
    numbers = [(number_alone(count_of(node)) or 0) > 1 for node in nodes]
    gone = {at for at in range(1, len(nodes) - 1) if is_name(nodes[at], say.ALTERNATES) and numbers[at - 1]}
    made = [node for at, node in enumerate(nodes) if at not in gone or not is_word(nodes[at + 1])]
    for at in range(len(made) - 2, 1, -1):
        led = is_name(made[at - 1], say.ON | say.WITH)
        if led and is_name(made[at], say.ALTERNATES) and is_name(made[at + 1], say.FEET):
            made[at - 1 : at + 2] = [made[at]]
            break
    for at in range(2, len(made)):
        ends = at + 1 == len(made) or is_pause(made[at + 1])
        said = ends and is_name(made[at], say.ALTERNATES) and is_pause(made[at - 1])
        if said and is_word(made[at - 2]) and count_of(made[at - 2]) is None:
            # "drawbacks, alternating, 4 counts".
            del made[at - 1]
            break
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


_LASTING = say.COUNTED, frozenset(word for word in say.COUNTED if word.endswith("s"))
"""What is said of one count, and of several: an 8 count time step is no time step for as long."""


def _so_long(nodes: Sequence[Node], _: Sounds) -> Sequence[Node]:
    """With "for" before how many counts a step takes, or at a line's end all of it: walk 4 counts, stamp; shuffles,
    eight counts."""
    made: list[Node] = []
    since = 0
    for at, node in enumerate(nodes):
        ends = is_pause(node) or is_name(node, say.THEN)
        last = at == len(nodes) - 2
        if (
            at + 1 < len(nodes)
            and (many := number_alone(count_of(node)))
            and is_name(nodes[at + 1], _LASTING[many > 1])
        ):
            begins = 0 if last and is_pause(nodes[at - 1]) else since
            body = nodes[begins : at - (begins < since)]
            counted = any(isinstance(one, Counts) and not is_small_a(one) for one in body)
            lasts = any(is_name(one, say.LASTS | say.FOR | say.COUNTED | say.ON) for one in body)
            if body and is_word(body[-1]) and not counted and not lasts and len(body) <= _MOST:
                del made[len(made) - (begins < since) :]
                made.append(Bit("name", "for", node.column, node.column))
        made.append(node)
        since = at + 1 if ends else since
    return made


def so_many_last(nodes: Sequence[Node], sounds: Sounds) -> Sequence[Node]:
    """With how often for a number that ends a line behind several of one step, and a pause: waltz clogs, 4; buffalos
    to the right, four."""
    number = number_alone(count_of(nodes[-1])) if len(nodes) > 2 and is_pause(nodes[-2]) else None
    body = nodes[:-2]
    if not number or not all(is_word(node) for node in body) or any(count_of(node) for node in body):
        return nodes
    named = _several(body, 0, sounds)
    if not named or not all(is_name(node, _GOES) for node in body[len(named) :]):
        return nodes
    return [*body, Bit("times", f"x{number}", nodes[-1].column, nodes[-1].end)]


def _doubled(nodes: Sequence[Node], _: Sounds) -> Sequence[Node]:
    """With how often at a line's end for what says it of all before: double that, repeat it, repeated."""
    last = nodes[-1] if nodes else None
    if len(nodes) > 2 and is_name(nodes[-2], _DOUBLES) and is_name(last, _IT):
        first = nodes[-2]
        return [*nodes[:-2], Bit("times", "x2", first.column, nodes[-1].end)]
    if len(nodes) > 2 and is_name(nodes[-2], _AGAIN) and is_name(last, _IT | _ONCE):
        first = nodes[-2]
        return [*nodes[:-2], Bit("name", "repeat", first.column, nodes[-1].end)]
    if len(nodes) > 1 and isinstance(last, Bit) and is_name(last, _REPEATED):
        return [*nodes[:-1], replace(last, text="repeat")]
    return nodes


def _sets_of(nodes: Sequence[Node], _: Sounds) -> Sequence[Node]:
    """With brackets around what is danced in so many sets: 4 sets of flap heel."""
    for at in range(len(nodes) - 3):
        many = number_alone(count_of(nodes[at])) or 0
        opens = not at or is_pause(nodes[at - 1])
        if opens and many > 1 and is_name(nodes[at + 1], _SETS) and is_name(nodes[at + 2], say.OF):
            body = nodes[at + 3 :]
            group = Group(tuple(body), body[0].column, body[-1].end)
            return [*nodes[:at], group, Bit("times", f"x{many}", nodes[at].column, nodes[at + 1].end)]
    return nodes


def _times_group(nodes: Sequence[Node], _: Sounds) -> Sequence[Node]:
    """With how often behind the brackets that it stands before: 3 times (stamp clap)."""
    for at in range(len(nodes) - 2):
        number, group = number_alone(count_of(nodes[at])), nodes[at + 2]
        opens = not at or is_pause(nodes[at - 1]) or is_name(nodes[at - 1], say.THEN)
        if number and opens and is_name(nodes[at + 1], say.TIMES) and isinstance(group, Group):
            often = Bit("times", f"x{number}", nodes[at].column, nodes[at + 1].end)
            return [*nodes[:at], group, often, *nodes[at + 3 :]]
    return nodes


def _lasting(nodes: Sequence[Node], _: Sounds) -> Sequence[Node]:
    """With "for" before how many counts a step lasts that are said in brackets behind it: stamp (2 counts) clap."""
    made: list[Node] = []
    for at, node in enumerate(nodes):
        items = node.items if isinstance(node, Group) else ()
        long = len(items) == 2 and number_alone(items[0]) is not None and is_name(items[1], say.COUNTED)
        if long and at and is_word(nodes[at - 1]):
            made += [Bit("name", "for", node.column, node.column), *items]
        else:
            made.append(node)
    return made


def _do_that(nodes: Sequence[Node], _: Sounds) -> Sequence[Node]:
    """With how often alone where that is to be done with all before it: flap heel, do that 4 times."""
    for at in range(1, len(nodes) - 3):
        done = is_pause(nodes[at]) and is_name(nodes[at + 1], _DO) and is_name(nodes[at + 2], _THAT)
        often = nodes[at + 3] if done else None
        if isinstance(often, Bit | Counts) and (number_alone(count_of(often)) or is_name(often, _OFTEN)):
            # Right behind the pause, as all of the line is.
            return [*nodes[: at + 1], replace(often, column=nodes[at].end), *nodes[at + 4 :]]
    return nodes


def _on_counts_so_often(nodes: Sequence[Node], _: Sounds) -> Sequence[Node]:
    """With brackets around steps whose counts come after an "on", where a pause parts from them how often they are
    danced at the line's end: stamp on 1, clap on 2, twice; stamp on 1, clap on 2, and do it 3 times."""
    ends = len(nodes) - (bool(nodes) and is_pause(nodes[-1]))
    pause = next((at for at in range(ends - 1, 0, -1) if is_pause(nodes[at])), 0)
    at = pause + 1
    while at < ends and is_name(nodes[at], say.AND | say.THEN | _DO | _IT | _THAT):
        at += 1
    times, used = times_said(nodes, at)
    if not pause or times is None or at + used != ends:
        return nodes
    body = nodes[:pause]
    said = sum(is_name(one, say.ON) and count_of(after) is not None for one, after in pairwise(body))
    if said < 2 or not isinstance(body[-1], Counts):
        # "stamp on 1, twice" says nothing of where the second is.
        return nodes
    return [Group(tuple(body), body[0].column, body[-1].end), times, *nodes[ends:]]


WAYS: tuple[Way, ...] = (
    (say.ON, _on_counts_so_often),
    (_SETS, _sets_of),
    (_DOUBLES | _AGAIN | _REPEATED, _doubled),
    (say.TIMES, _times_group),
    (_DO, _do_that),
    (say.COUNTED, _lasting),
    (_COUPLE, _couple),
    (say.THROUGH | _FROM, _ranged),
    (_EVERY, _on_every),
    (_WHERE, _there_and_back),
    (frozenset(_WALKED) | _WALKING, _walked),
    (_PACES | frozenset(_SLOWS) | say.COUNTED, _paced),
    (say.ALTERNATES, _alternated),
    (_SIDES, _so_many_footed),
)
LAST: tuple[Way, ...] = ((say.COUNTED, _so_long), (say.AND, _counted_and))
"""Taken when the feet are."""
