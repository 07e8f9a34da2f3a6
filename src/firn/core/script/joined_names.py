"""Names of steps that are written in one word, or in letters with full stops: ballchange, DS-L, D.S. D.S. R.S.

Common practice, no source.
"""

from collections.abc import Callable, Sequence

from msgspec.structs import replace

from firn.core.pattern import late
from firn.core.script import said as say
from firn.core.script.tokens import Sounds, is_name, is_said
from firn.core.script.tree import Bit, Node, is_pause, is_word, number_alone, said_in

_FOOTED = late(r"(\w+)[-/]([LR])")
_PLACED = late(r"([A-Z]{2,3})(xif|xib|ots|XIF|XIB|OTS|[LR])")
_D, _S = frozenset({"d"}), frozenset({"s", "t"})
_S_ALONE, _MARKS = frozenset({"s"}), ("'", "’")
_BY_NUMBER = {3: "threes", 7: "sevens"}
_SIDES = frozenset(say.SIDES)
_MOST_BEFORE = 3
"""Words of a name before its last."""
_SHORT_NAME = 8
_LETTERS = 2
"""Letters of a name that is said in them."""
_SHORT = 5
"""Letters of words that are no two."""


def in_words(nodes: Sequence[Node], sounds: Sounds, named: Callable[[str], str]) -> Sequence[Node]:
    """A line's tokens with each name in its words that is written in one, where it means nothing so: ballchange,
    double timestep; DS-L, which is a step and its foot. `named`: the name of several words that one stands for; "" if
    none."""
    made: list[Node] = []
    for node in nodes:
        if not isinstance(node, Bit) or (len(node.text) <= _SHORT and node.text.isalpha() and node.text.islower()):
            made.append(node)
            continue
        joined = isinstance(node, Bit) and node.text[-2:-1] in ("-", "/")
        foot = _FOOTED.fullmatch(node.text) if joined and isinstance(node, Bit) and is_word(node) else None
        whole = foot is not None and (_begins(made, foot[1], sounds) < len(made) or sounds(foot[1]))
        if foot is not None and whole and isinstance(node, Bit) and not sounds(node.text):
            _add_footed(made, node, foot[1], foot[2], sounds)
            continue
        short = isinstance(node, Bit) and is_word(node) and len(node.text) < _SHORT_NAME
        where = _PLACED.fullmatch(node.text) if short and isinstance(node, Bit) else None
        if where is not None and isinstance(node, Bit) and sounds(where[1]) and not sounds(node.text):
            # "DSxib", "DSL".
            cut = node.column + len(where[1])
            if len(where[2]) == 1:
                _add_footed(made, node, where[1], where[2], sounds)
            else:
                made += [replace(node, text=where[1], end=cut), Bit("name", where[2], cut, node.end)]
            continue
        led = made[-1] if made else None
        name, _, going = node.text.rpartition("-") if isinstance(node, Bit) and is_word(node) else ("", "", "")
        several = bool(name) and isinstance(led, Bit) and is_word(led) and sounds(f"{led.text} {name}")
        if isinstance(node, Bit) and several and going.casefold() in say.WHERE and not sounds(node.text):
            # "heel dig-front": where the whole of it goes.
            cut = node.column + len(name)
            made += [replace(node, text=name, end=cut), replace(node, text=going, column=cut + 1)]
            continue
        text = node.text if isinstance(node, Bit) and is_word(node) else ""
        forms = (text, *say.singular(text)) if len(text) > _SHORT else ()
        found = next(((form, name) for form in forms if (name := named(form))), None)
        before = made[-1].text if made and is_word(made[-1]) else ""
        if found is not None and isinstance(node, Bit):
            form, name = found
            said = f"{name}{text[len(form) :]}"
            longer = before and sounds(f"{before} {said}") and not sounds(f"{before} {text}")
            if longer or not sounds(text):
                node = replace(node, text=said)
        made.append(node)
    return made


def _begins(made: Sequence[Node], last: str, sounds: Sounds) -> int:
    """Where the longest name of several words begins that some tokens and a last word make; behind them for none."""
    begins = len(made)
    for back in range(1, min(_MOST_BEFORE, len(made)) + 1):
        words = [one.text for one in made[-back:] if isinstance(one, Bit) and is_word(one)]
        if len(words) == back and sounds(" ".join((*words, last))):
            begins = len(made) - back
    return begins


def _add_footed(made: list[Node], node: Bit, name: str, foot: str, sounds: Sounds) -> None:
    """Add a step with its foot before it, which is written behind it in one: DSL, DS-L; before all of its name where
    that has more words, as in toe tip-L."""
    begins = _begins(made, name, sounds)
    at = made[begins].column if begins < len(made) else node.column
    letter = Bit("name", foot, at, at)
    step = replace(node, text=name)
    if begins and is_name(made[begins - 1], _SIDES):
        # "stamp L stamp-R": each behind its step.
        made += [step, replace(letter, column=node.end, end=node.end)]
    else:
        made[begins:] = [letter, *made[begins:], step]


def called_by_number(nodes: Sequence[Node], sounds: Sounds) -> Sequence[Node]:
    """With the steps that are called by how many counts they have in words, where those are figures: 7s, 3s."""
    if said_in(nodes).isdisjoint(_S_ALONE):
        return nodes
    made: list[Node] = []
    for node in nodes:
        # "7s", "7's".
        mark = bool(made) and isinstance(made[-1], Bit) and made[-1].text in _MARKS and made[-1].end == node.column
        number = made[-1 - mark] if len(made) > mark else None
        tight = number is not None and number.end == (made[-1].column if mark else node.column)
        name = _BY_NUMBER.get(number_alone(number) or 0, "") if tight else ""
        if number is not None and name and is_name(node, _S_ALONE) and sounds(name):
            made[-1 - mark :] = [Bit("name", name, number.column, node.end)]
        else:
            made.append(node)
    return made


def lettered(nodes: Sequence[Node], sounds: Sounds) -> Sequence[Node]:
    """With a name in letters in one where full stops or spaces part them: D.S. D.S. R.S., D S D S R S."""
    if not any(isinstance(node, Bit) and len(node.text) == 1 and node.kind == "name" for node in nodes):
        return nodes
    apart = any(is_said(nodes, at, _D) and is_said(nodes, at + 1, _S) for at in range(len(nodes)))
    made: list[Node] = []
    at = 0
    while at < len(nodes):
        letters, end = "", at
        while end < len(nodes) and isinstance(bit := nodes[end], Bit) and is_word(bit) and len(bit.text) == 1:
            after = nodes[end + 1] if end + 1 < len(nodes) else None
            stopped = is_pause(after) and after.text == "." and after.column == bit.end
            if not (stopped or apart) or len(letters) == _LETTERS:
                break
            letters += bit.text
            end += 1 + stopped
        node = nodes[at]
        if len(letters) == _LETTERS and isinstance(node, Bit) and sounds(letters):
            made.append(replace(node, text=letters, end=nodes[end - 1].end))
            at = end
        else:
            made.append(node)
            at += 1
    return made
