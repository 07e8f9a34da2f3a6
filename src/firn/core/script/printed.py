"""Lines as a printed sheet has them: feet and ways shortened, ways beside or to a foot, feet in brackets.

Common practice, no source.
"""

from collections.abc import Callable, Sequence
from itertools import takewhile

from msgspec.structs import replace

from firn.core.script import said as say
from firn.core.script.tokens import between_pauses, count_of, is_name, is_said
from firn.core.script.tree import GROUP, PAUSE, Bit, Counts, Group, Node, is_pause, is_word, number_alone, said_in

_SIDES = frozenset(say.SIDES)
_BESIDE = frozenset({"beside", "alongside", "by", "next"})
_CLOSES = frozenset({"closes", "closing"})
_CLOSING = frozenset({"close", "step", "touch", "tap", "drag", "slide"})
"""What is done with one foot beside the other: close R to L."""
_OUT = frozenset({"out", "over", "up", "back", "forward"})
_BESIDE_IT = frozenset({"beside", "alongside"})
_PIVOTS = frozenset({"pivot", "pivots", "pivote"})
_OTHER = frozenset({"other", "opposite", "standing"})
_TOUCHES = frozenset({"touch", "tap", "point", "dig", "touches", "taps", "toque", "touching", "tapping", "pointing"})
"""What touches beside a foot closes nothing."""

_IN_FULL = {
    "shuf": "shuffle", "shuff": "shuffle", "sh": "shuffle", "flp": "flap", "br": "brush", "hl": "heel", "st": "step",
    "ch": "change", "chg": "change", "rk": "rock", "trip": "triple", "trpl": "triple", "dbl": "double",
    "sgl": "single", "bk": "back", "fwd": "forward", "stp": "step", "tch": "touch", "kk": "kick", "cr": "cramp",
}  # fmt: skip
"""Words of names for short."""

_CUT = frozenset(_IN_FULL)
MOST_NAME = 4
"""Words of a name."""

_ROW = frozenset({"seguidos", "seguidas", "seguido", "seguida"})
"""Said of so many: tres golpes seguidos, three stamps in a row."""

_FEET = {"pd": "D", "pi": "I"}
"""Pie derecho and pie izquierdo, in capitals."""

_SHORT = frozenset({PAUSE, "in", "ft"}) | _ROW | set(_FEET)
"""What a line holds in which something is cut short."""

MOST_WORDS = 6
"""Words of a step and of all that is said of it."""

_SMALL = frozenset({*say.AND, *say.THEN, *say.THE, *say.ARTICLES, *say.SIDES})

_NO_STEP = (_SMALL - _SIDES) | say.COUNTED | say.ON

_SIDE = frozenset({"side", "lado"})


_SHEET = frozenset({"DS", "DT", "RS"})
"""Steps of a clogging cue sheet, by their letters."""

_LETTERS = {"H": "heel", "T": "toe", "Ba": "ball", "Sl": "slide", "Sk": "scuff"}
"""What else such a sheet has for short."""


def sheet_letters(nodes: Sequence[Node], sounds: Callable[[str], int]) -> Sequence[Node]:
    """A line of a clogging cue sheet with its letters in full: DS H, DS Sl; a rock step whose two steps are written
    apart, DS R(xib) S, in one, where no foot is written in letters."""
    if not any(is_word(node) and node.text in _SHEET and sounds(node.text) for node in nodes):
        return nodes
    made = [_letter_in_full(node, sounds) for node in nodes]
    if any(is_word(node) and node.text == "L" for node in nodes):
        return made
    for at in range(len(made) - 1, 0, -1):
        there = at - 2 if at > 2 and _is_place(made[at - 1]) else at - 1
        rock, step = made[there], made[at]
        if isinstance(rock, Bit) and is_word(rock) and rock.text == "R" and is_word(step) and step.text == "S":
            end = step.end if there == at - 1 else rock.end
            made[there : at + 1] = [replace(rock, text="RS", end=end), *made[there + 1 : at]]
    return made


def _letter_in_full(node: Node, sounds: Callable[[str], int]) -> Node:
    """A letter's step, or (s), which is no slow there."""
    if isinstance(node, Group) and len(node.items) == 1 and isinstance(where := node.items[0], Bit):
        return replace(node, items=(replace(where, text="side"),)) if where.text == "s" else node
    if isinstance(node, Bit) and is_word(node) and node.text in _LETTERS and not sounds(node.text):
        return replace(node, text=_LETTERS[node.text])
    return node


def _is_place(node: Node) -> bool:
    """Whether a token in brackets is no foot."""
    return isinstance(node, Group) and not any(is_name(one, _SIDES) for one in node.items)


def as_printed(nodes: Sequence[Node], sounds: Callable[[str], int]) -> Sequence[Node]:
    """A line's tokens as they would be written in full. `sounds`: how many sounds the step has that goes by a name, 0
    where there is none."""
    if not any(is_word(node) for node in nodes):
        return nodes
    return _linked(_count_ahead(_feet_named(_ways(_turns_first(_shortened(_in_full(nodes, sounds)))))))


def _turns_first(nodes: Sequence[Node]) -> Sequence[Node]:
    """With how far a pivot goes behind it: 1/2 pivot L; and so a turn that opens a line: 1/4 turn R."""
    if "<fraction>" not in said_in(nodes):
        return nodes
    made = list(nodes)
    for at in range(len(made) - 2):
        far, turn = made[at], made[at + 1]
        turns = is_name(turn, _PIVOTS) or (not at and is_name(turn, say.TURN))
        if isinstance(far, Bit) and far.kind == "fraction" and turns and is_name(made[at + 2], _SIDES):
            made[at : at + 2] = [turn, far]
    return made


def _in_full(nodes: Sequence[Node], sounds: Callable[[str], int]) -> Sequence[Node]:
    """With the words of a name of several in full where they are cut short: shuf. hop step, Rk St, shuf ball ch."""
    if said_in(nodes).isdisjoint(_CUT):
        return nodes
    made: list[Node] = []
    at = 0
    while at < len(nodes):
        words, ends = _words_from(nodes, at)
        size = next((n for n in range(len(words), 1, -1) if _is_cut(words[:n]) and sounds(_full(words[:n]))), 0)
        if not size:
            made.append(nodes[at])
            at += 1
            continue
        if ends[size - 1] - at > size:
            # Over full stops it is one word, or they would part it.
            made.append(replace(words[0], text=_full(words[:size]), end=nodes[ends[size - 1] - 1].end))
        else:
            made += [replace(word, text=_IN_FULL.get(word.text.casefold(), word.text)) for word in words[:size]]
        at = ends[size - 1]
    return made


def _words_from(nodes: Sequence[Node], at: int) -> tuple[list[Bit], list[int]]:
    """The words from a token on, a few, over the full stops that cut them short; and where each ends, its stop
    included."""
    words: list[Bit] = []
    ends: list[int] = []
    while at < len(nodes) and len(words) < MOST_NAME and is_word(node := nodes[at]):
        words.append(node)
        dot = nodes[at + 1] if at + 1 < len(nodes) else None
        stops = is_pause(dot) and dot.text == "." and dot.column == node.end and is_name(node, _CUT)
        at += 1 + stops
        ends.append(at)
    return words, ends


def _is_cut(words: Sequence[Bit]) -> bool:
    return any(is_name(word, _CUT) for word in words)


def _full(words: Sequence[Bit]) -> str:
    return " ".join(_IN_FULL.get(word.text.casefold(), word.text) for word in words)


def _shortened(nodes: Sequence[Node]) -> Sequence[Node]:
    """With what is cut short in full: ct. 2, PD, R ft."""
    if said_in(nodes).isdisjoint(_SHORT):
        return nodes
    made: list[Node] = []
    passed = 0
    for at, node in enumerate(nodes):
        if at < passed:
            continue
        before = made[-1] if made else None
        row = isinstance(node, Bit) and is_word(before) and _in_a_row(nodes, at)
        if row:
            passed = at + row
            continue
        following = nodes[at + 1] if at + 1 < len(nodes) else None
        if is_pause(node) and node.text == "." and is_name(before, say.COUNTED) and isinstance(following, Counts):
            continue
        if is_pause(node) and _cuts_short(before, node, following):
            continue
        if is_word(node) and node.text.isupper() and node.text.casefold() in _FEET:
            node = replace(node, text=_FEET[node.text.casefold()])
        if is_name(node, frozenset({"ft"})) and is_name(before, _SIDES):
            continue
        made.append(node)
    return made if len(made) < len(nodes) or made != list(nodes) else nodes


def _cuts_short(word: Node | None, dot: Bit, following: Node | None) -> bool:
    """Whether a full stop before a foot only says that a word is cut short: st. L, st. R."""
    if dot.text != "." or not is_word(word) or not is_word(following) or word.end != dot.column:
        return False
    return is_name(word, _CUT) and is_name(following, _SIDES)


def _in_a_row(nodes: Sequence[Node], at: int) -> int:
    """How many tokens only say that so many come one after another; 0 for none."""
    if is_name(nodes[at], _ROW):
        return 1
    article = nodes[at + 1] if at + 1 < len(nodes) else None
    said = is_said(nodes, at, frozenset({"in"})) and isinstance(article, Counts) and article.text == "a"
    return 3 if said and is_said(nodes, at + 2, frozenset({"row"})) else 0


def _ways(nodes: Sequence[Node]) -> Sequence[Node]:
    """With where a step goes in a word of its own: to R side, beside L; and the foot that it is on behind it: back on
    R."""
    if said_in(nodes).isdisjoint(say.TO | _BESIDE | say.ON):
        return nodes
    made: list[Node] = []
    at, found = 0, False
    while at < len(nodes):
        node = nodes[at]
        used, way = _way(nodes, at, made) if made and is_word(node) else (0, "")
        if not used:
            made.append(node)
            at += 1
            continue
        found = True
        if way and isinstance(node, Bit):
            made.append(replace(node, text=way, end=nodes[at + used - 1].end))
        at += used
    return made if found else nodes


def _way(nodes: Sequence[Node], at: int, before: Sequence[Node]) -> tuple[int, str]:
    """How many tokens say where a step goes, and that in one word, "" where it says nothing more; 0 for none."""
    if is_said(nodes, at, say.TO):
        there = at + 1 + is_said(nodes, at + 1, say.THE)
        if is_said(nodes, there, _SIDE):
            # "out to the side" is one place; "side together x4 to the side" is no step more.
            often = isinstance(before[-1], Bit) and (before[-1].kind == "times" or is_name(before[-1], say.TIMES))
            return there + 1 - at, "" if often or is_name(before[-1], _OUT) else "side"
        if _is_foot(nodes, there):
            # "to R side", "to the right side": the side of that foot; "to R" alone only by its letter.
            if is_said(nodes, there + 1, _SIDE):
                return there + 2 - at, "side"
            if len(_text(nodes, there)) == 1 and _stops(nodes, there + 1):
                # "close R to L" goes to the other foot.
                led, last = before[-2:] if len(before) > 1 else (None, None)
                beside = is_name(led, _CLOSING) and is_name(last, _SIDES)
                # "R closes to L".
                beside = beside or (is_name(led, _SIDES | say.FEET) and is_name(last, _CLOSES))
                return there + 1 - at, "" if beside else "side"
        return 0, ""
    if is_said(nodes, at, _BESIDE):
        there = at + 1 + is_said(nodes, at + 1, say.TO)
        there += is_said(nodes, there, say.THE)
        if _stops(nodes, at + 1) and is_said(nodes, at, _BESIDE_IT) and _touches(before):
            return 1, ""
        if not _is_foot(nodes, there) and not is_said(nodes, there, _OTHER):
            return 0, ""
        end = there + 1
        end += is_said(nodes, end, say.FEET)
        # "stamp next to the left foot": said of a step, it is none; "R next to L" is one.
        stepped = is_word(before[-1]) and not is_name(before[-1], _SIDES | say.FEET | frozenset(say.WHERE))
        return (end - at, "" if stepped or _touches(before) else "together") if _stops(nodes, end) else (0, "")
    if is_said(nodes, at, say.ON) and is_name(before[-1], frozenset(say.WHERE) | say.BACK_AGAIN):
        there = at + 1 + is_said(nodes, at + 1, say.THE)
        # The foot stays, behind what it is said of.
        return (there - at, "") if _is_foot(nodes, there) and _stops(nodes, there + 1) else (0, "")
    return 0, ""


def _touches(before: Sequence[Node]) -> bool:
    """Whether what was said last, since a pause or a count, only touches."""
    for node in reversed(before[-MOST_WORDS:]):
        if not is_word(node):
            return False
        if is_name(node, _TOUCHES):
            return True
    return False


def _feet_named(nodes: Sequence[Node]) -> Sequence[Node]:
    """With each foot before its step: L: stamp (1), R: stamp (2); DS DS RS (L R LR)."""
    if said_in(nodes).isdisjoint((PAUSE, GROUP)):
        return nodes
    made: list[Node] = []
    for at, node in enumerate(nodes):
        foot = made[-1] if made else None
        following = nodes[at + 1] if at + 1 < len(nodes) else None
        said = is_name(foot, _SIDES) or (is_name(foot, say.FEET) and is_said(made, len(made) - 2, _SIDES))
        if is_pause(node) and node.text == ":" and said and is_word(following) and _counted(nodes, at):
            continue
        feet = _feet_of(node)
        words = _words_before(made) if len(feet) > 1 else []
        if feet and len(feet) == len(words):
            for place, letter in reversed(list(zip(words, feet, strict=True))):
                made.insert(place, replace(letter, column=made[place].column, end=made[place].column))
            continue
        made.append(node)
    return made if len(made) != len(nodes) else nodes


def _counted(nodes: Sequence[Node], at: int) -> bool:
    """Whether a count in brackets comes before the next foot or pause, or one right before the next foot."""
    for number, node in enumerate(nodes[at + 1 :], at + 1):
        if isinstance(node, Group):
            return bool(node.items) and all(isinstance(one, Counts) for one in node.items)
        if isinstance(node, Counts):
            return number + 1 == len(nodes) or is_name(nodes[number + 1], _SIDES)
        if not is_word(node) or is_name(node, _SIDES):
            return False
    return False


def _feet_of(node: Node) -> list[Bit]:
    """The first foot of each in brackets that hold nothing but feet: L of (L RL), then R."""
    if not isinstance(node, Group):
        return []
    feet = [one for one in node.items if is_word(one) and one.text.isupper() and set(one.text) <= {"L", "R"}]
    return [replace(one, text=one.text[0]) for one in feet] if len(feet) == len(node.items) else []


def _words_before(made: Sequence[Node]) -> list[int]:
    """The places of the short words, a step each, that stand before something up to a count, a pause or a bracket."""
    places: list[int] = []
    for at in reversed(range(len(made))):
        node = made[at]
        if not is_word(node) or is_name(node, _SIDES):
            break
        places.insert(0, at)
    short = all(text.isupper() and len(text) <= 3 for place in places for text in (_text(made, place),))
    return places if short else []


def _count_ahead(nodes: Sequence[Node]) -> Sequence[Node]:
    """With the count of a step that is said after it before it, and a comma for the "and" between that and the count
    of the next: stamp 3 and 4 clap."""
    if said_in(nodes).isdisjoint(say.AND):
        return nodes
    made: list[Node] = []
    for part in between_pauses(nodes):
        words = list(takewhile(lambda node: is_word(node) and count_of(node) is None, part))
        counts = [count_of(node) for node in part[len(words) : len(words) + 3]]
        ahead = part[len(words) + 3 : len(words) + 4]
        numbers = [number_alone(count) for count in counts[::2]]
        begun = bool(words) and not any(is_name(word, _NO_STEP) for word in words)
        first, link = counts[0] if counts else None, part[len(words) + 1] if len(counts) > 1 else None
        linked = isinstance(link, Bit) and is_name(link, say.AND)
        led = linked and len(numbers) > 1 and None not in numbers and any(map(is_word, ahead))
        if not begun or first is None or link is None or not led:
            made += part
            continue
        made += [first, *words, Bit("pause", ",", link.column, link.end), *part[len(words) + 2 :]]
    return made if any(a is not b for a, b in zip(made, nodes, strict=True)) else nodes


def _linked(nodes: Sequence[Node]) -> Sequence[Node]:
    """With a comma for an "and" that leads from counts behind their step to a step with one behind it: step 1 2 3 and
    clap on 4."""
    if said_in(nodes).isdisjoint(say.AND):
        return nodes
    made = list(nodes)
    for at, node in enumerate(nodes):
        if is_name(node, say.AND) and at > 1 and _counted_behind(made, at) and _behind_next(nodes, at + 1):
            made[at] = Bit("pause", ",", node.column, node.end)
    return made if any(a is not b for a, b in zip(made, nodes, strict=True)) else nodes


def _counted_behind(nodes: Sequence[Node], at: int) -> bool:
    """Whether numbers come right before a token, and a word that is no small one before them."""
    before = at - 1
    while before >= 0 and number_alone(nodes[before]) is not None:
        before -= 1
    named = before >= 0 and is_word(nodes[before]) and not is_name(nodes[before], _SMALL)
    if before == at - 1 or not named:
        return False
    begins = before
    while begins >= 0 and is_word(nodes[begins]) and before - begins < MOST_WORDS:
        begins -= 1
    # Several numbers are all behind it; of one it is plain where nothing is counted before.
    return at - before > 2 or begins < 0 or is_pause(nodes[begins])


def _behind_next(nodes: Sequence[Node], at: int) -> bool:
    """Whether words come, a few, and then a number and no more words."""
    end = at
    while end < min(len(nodes), at + MOST_WORDS) and is_word(nodes[end]):
        end += 1
    named = any(not is_name(node, _SMALL | say.ON) for node in nodes[at:end])
    if not named or end == len(nodes) or number_alone(nodes[end]) is None:
        return False
    return _stops(nodes, end + 1) or is_name(nodes[end + 1], say.AND)


def _is_foot(nodes: Sequence[Node], at: int) -> bool:
    return is_said(nodes, at, _SIDES)


def _text(nodes: Sequence[Node], at: int) -> str:
    node = nodes[at]
    return node.text if isinstance(node, Bit) else ""


def _stops(nodes: Sequence[Node], at: int) -> bool:
    """Whether no word comes there."""
    return at >= len(nodes) or not is_word(nodes[at])
