"""What may link steps, or be counted, or be a step: an and, an a, a foot alone behind a then. It is asked about.

Common practice, no source.
"""

from collections.abc import Sequence
from itertools import pairwise

from firn.core.script import said as say
from firn.core.script.called_line import texts
from firn.core.script.stepped_line import SteppedLine
from firn.core.script.tokens import (
    between_pauses,
    count_of,
    is_article,
    is_name,
    is_small_a,
    name_at,
    number_of,
)
from firn.core.script.tree import HALF, Bit, Counts, Node, is_pause, is_word, number_alone, said_in

_SIDES = frozenset(say.SIDES)
_PLACES = frozenset(say.WHERE)
"""Where steps go: said alone, each is a step there."""
_ANDS = say.AND | {HALF}
_DO, _NOW = frozenset({"do"}), frozenset({"now", "ahora"})
_SEVERAL = 2
_MOST = 80
"""Tokens of a line that is looked through for the steps before a foot."""


class LinkedLine(SteppedLine):
    """Asks about what stands between steps."""

    def _several_ands(self, nodes: Sequence[Node]) -> None:
        """Ask about single sounds of which each is linked to the next by an "and", about two & with no number between
        them that leave the count between empty, and about one behind the only number: toe and heel and toe; step &
        step & step; stamp 1 & clap."""
        if said_in(nodes).isdisjoint(_ANDS):
            return
        led = [at for at in range(len(nodes) - 1) if is_name(nodes[at], say.AND) and is_name(nodes[at + 1], say.THEN)]
        cuts = [0, *led, len(nodes)]
        for part in (p for a, b in pairwise(cuts) for p in between_pauses(nodes[a + 2 * (a in led) : b])):
            whole = part[:-1] if part and is_pause(part[-1]) else part
            steps = whole[1:] if whole and number_alone(count_of(whole[0])) is not None else whole
            if sum(map(is_article, whole)) and not any(isinstance(n, Counts) and not is_article(n) for n in whole):
                # "a slide and hop and toe".
                steps = [node for node in whole if not is_article(node)]
            links = [at for at, node in enumerate(steps) if is_name(node, say.AND) or _is_and_sign(node)]
            names = (_PLACES, say.AND, _PLACES)
            places = len(steps) == 3 and all(is_name(node, some) for node, some in zip(steps, names, strict=True))
            # "down and up" is a step.
            places = places and not self._sounds_of(" ".join(n.text for n in steps if isinstance(n, Bit)))
            if links and (places or self._chained(steps, links) or (steps is whole and _between_two(steps, links))):
                link = steps[links[0]]
                shown = Bit("name", self.text[link.column : link.end], link.column, link.end)
                way = "say the counts, or part them by commas"
                self.problem("N109", shown, f'"{shown.text}" may be & or "then": {way}.')
                return

    def _articles_between(self, nodes: Sequence[Node]) -> None:
        """Ask about an "a" between two steps that nothing parts, where nothing else is counted: stamp a heel; clap on
        a rock step."""
        if "<a>" not in said_in(nodes):
            return
        counts = [at for at, node in enumerate(nodes) if isinstance(node, Counts) and not self._says_many(nodes, at)]
        if not counts or not 0 < counts[0] < len(nodes) - 1 or not all(is_small_a(nodes[at]) for at in counts):
            return
        at = counts[0]
        led = at - is_name(nodes[at - 1], say.ON)
        before, after = nodes[led - 1] if led else None, nodes[at + 1]
        links = say.AND | say.THEN | say.ON | say.WITH | say.TO | say.LASTS | say.FOR
        if not is_word(before) or is_name(before, links) or not is_word(after) or is_name(after, say.THE | links):
            return
        counted = ((n, number_alone(number_of(node))) for n, node in enumerate(nodes) if is_word(node))
        numbers = [n for n, number in counted if number not in (None, 1)]
        if not self._named_at_end(nodes[:led]):
            # "stamp, it's a flap".
            return
        named = " ".join(texts(name_at(nodes, at + 1, self._sounds_of)))
        if not all(self._says_many(nodes, n) for n in numbers) or not self._sounds_of(named):
            return
        shown = Bit("name", "a", nodes[at].column, nodes[at].end)
        told = '"a" may be a count, or only a word: part the steps by commas, or say the counts.'
        self.problem("N109", shown, told)

    def _then_side(self, nodes: Sequence[Node]) -> None:
        """Ask about a foot alone that ends a line, behind a pause or a then: three steps, then left; do the left
        side."""
        if said_in(nodes).isdisjoint(_SIDES):
            return
        end = len(nodes)
        while end and not is_word(nodes[end - 1]):
            end -= 1
        at = end - 1 - (end > 1 and is_name(nodes[end - 1], say.A_SIDE))
        # What the foot is that all begins with is said up to the first pause.
        pause = next((n for n, node in enumerate(nodes) if is_pause(node)), 0)
        sides = [n for n, node in enumerate(nodes) if n > pause and is_name(node, _SIDES)]
        start = at
        while start > 0 and (is_name(nodes[start - 1], say.THE | _DO) or is_small_a(nodes[start - 1])):
            start -= 1
        before = nodes[start - 1] if start > 0 else None
        led = (is_pause(before) and ":" not in before.text) or is_name(before, say.THEN)
        counted = any(isinstance(node, Counts) and not is_small_a(node) for node in nodes)
        if not led or sides != [at] or counted:
            return
        words = self._words_in(nodes[: start - 1]) if len(nodes) < _MOST else ()
        whole = is_name(nodes[end - 1], say.A_SIDE) and is_name(nodes[start], say.THE | _DO)
        if (len(words) < _SEVERAL and not whole) or is_name(nodes[start - 1], _NOW):
            # "stamp, then left" is one stamp more; "now left" is asked about otherwise.
            return
        shown = Bit(
            "name", self.text[nodes[start].column : nodes[end - 1].end], nodes[start].column, nodes[end - 1].end
        )
        foot = texts(nodes[at : at + 1])[0]
        self.problem(
            "N109", shown, f'"{shown.text}" may be a step, or all of it: say "step {foot}", or "other side".'
        )

    def _is_single(self, node: Node) -> bool:
        return isinstance(node, Bit) and self._sounds_of(node.text) == 1

    def _chained(self, steps: Sequence[Node], links: Sequence[int]) -> bool:
        """Whether each of some single sounds is linked to the next, or two links leave a count empty."""
        if len(links) < 2 or not links[0]:
            # "& clap & clap": all are on the &.
            return False
        each = links == list(range(1, len(steps), 2)) and len(steps) % 2 == 1
        if each and all(self._is_single(node) or is_name(node, _PLACES) for node in steps[::2]):
            return True
        after = [steps[first + 1 : last] for first, last in pairwise(links) if _is_and_sign(steps[last])]
        return any(self._ends_off_beat(words) for words in after)

    def _ends_off_beat(self, words: Sequence[Node]) -> bool:
        """Whether a step is called that, begun on an &, has no sound on the number after it."""
        card = self._card(" ".join(texts(words)))[0]
        return card is not None and (len(card.beats) == 1 or not card.usual_for(self.tradition)[-1:].isdecimal())


def _is_and_sign(node: Node) -> bool:
    return isinstance(node, Counts) and node.text == "&"


def _between_two(steps: Sequence[Node], links: Sequence[int]) -> bool:
    """Whether the & stands behind the only number, which is said of the step before it, and before another step."""
    (at,) = links if len(links) == 1 else (0,)
    numbers = [n for n, node in enumerate(steps) if isinstance(node, Counts) and n != at]
    words = [node for n, node in enumerate(steps) if n not in (at, at - 1)]
    return (
        at > 1
        and _is_and_sign(steps[at])
        and numbers == [at - 1]
        and len(words) > at - 1
        and all(map(is_word, words))
    )
