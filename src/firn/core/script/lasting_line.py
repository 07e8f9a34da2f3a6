"""A line of steps that says how long it is: counts in brackets, before a figure or behind it, or over all of it."""

from collections.abc import Sequence
from itertools import takewhile

from msgspec.structs import replace

from firn.core.script import said as say
from firn.core.script.asked_line import AskedLine
from firn.core.script.called_line import texts
from firn.core.script.choices import Open, OpenCode
from firn.core.script.collector import EIGHTS
from firn.core.script.listed import IN
from firn.core.script.places import counts_of
from firn.core.script.problems import other_length
from firn.core.script.tokens import count_of, headed, is_name, said_of_several
from firn.core.script.tree import (
    GROUP,
    JOIN,
    OTHER,
    PAUSE,
    Bit,
    Group,
    Node,
    is_pause,
    is_word,
    number_alone,
    said_in,
)

_LASTS = ("=", "-", "–", "—")
"""Before how many counts: DS DS DS RS = 4 counts."""
_A_COUNT = frozenset({"count", "beat"})
_OVER_THEM = frozenset({"over", "across"})
_BEFORE_PAUSE = 2
"""Tokens of a length between pauses, with the pause before it."""


def _length_said(node: Node) -> int | None:
    """The number of counts that stands alone in brackets: (4), (4 counts); None for anything else."""
    if not isinstance(node, Group) or not node.items:
        return None
    long = number_alone(count_of(node.items[0]))
    counted = len(node.items) == 1 or (len(node.items) == 2 and is_name(node.items[1], say.COUNTED))
    return long if counted else None


def _in_brackets(nodes: Sequence[Node]) -> Sequence[Node]:
    """A line with brackets about how many counts the steps before take, between pauses: two triples, 8 counts."""
    made: list[Node] = []
    for at, node in enumerate(nodes):
        number = made[-1] if made else None
        sign = made[-2] if len(made) > _BEFORE_PAUSE else None
        parted = is_pause(sign) or (isinstance(sign, Bit) and sign.text in _LASTS)
        ends = at + 1 == len(nodes) or is_pause(nodes[at + 1])
        if parted and ends and number is not None and number_alone(count_of(number)) and is_name(node, say.COUNTED):
            made[-2:] = [Group((number, node), number.column, node.end)]
        else:
            made.append(node)
    return made if len(made) < len(nodes) else nodes


def _many_after(nodes: Sequence[Node]) -> Sequence[Node]:
    """Steps with how many there are said after them: 2 basics."""
    words = [node for node in nodes if not is_pause(node)]
    number = number_alone(words[0]) if words else None
    if number is None or len(words) != 2 or not is_word(words[1]):
        return nodes
    return [words[1], Bit("times", f"x{number}", words[0].column, words[1].end)]


class LastingLine(AskedLine):
    """Takes how many counts are said of steps, and says where they take others."""

    def _so_long_figures(self, nodes: Sequence[Node]) -> Sequence[Node]:
        """A line without how many counts a figure takes, said before its name, 8 count basic; of several of that name
        it is the one that does. That none does is said."""
        if said_in(nodes).isdisjoint(_A_COUNT):
            return nodes
        made: list[Node] = []
        done = 0
        for at, node in enumerate(nodes[:-2]):
            long = number_alone(count_of(node))
            row = list(takewhile(is_word, nodes[at + 2 : at + 2 + self.shelf.longest]))
            before = nodes[at - 1] if at else None
            opens = not is_word(before) or is_name(before, say.THEN | say.AND) or count_of(before) is not None
            if at < done or not long or not opens or not is_name(nodes[at + 1], _A_COUNT):
                continue
            names = [" ".join(texts(row[:size])) for size in range(len(row), 0, -1)]
            known = next((name for name in names if self._sounds_of(name)), None)
            by_number = say.number_word(long) or str(long)
            whole = " ".join((by_number, *texts(nodes[at + 1 : at + 2]), known or ""))
            if known is None or self._sounds_of(whole):
                continue
            cards = [card for card in (self._card(known)[0],) if card is not None]
            several = [*say.cards_said(self.shelf, known, self.tradition)]
            counts = {card.name: counts_of(card, EIGHTS, self.tradition) for card in several or cards}
            fits = [name for name, takes in counts.items() if takes == long]
            # Tap counts a figure's sounds: 4 count paddle and roll.
            fits = fits or [card.name for card in cards if len(card.beats) == long]
            end = at + 2 + len(known.split())
            made += nodes[done:at]
            if not fits:
                shown = Bit("other", self.text[node.column : nodes[at + 1].end], node.column, nodes[at + 1].end)
                self.problem("N103", shown, other_length(min(counts.values()), long))
            if several and len(fits) == 1:
                made.append(Bit("name", fits[0], row[0].column, nodes[end - 1].end))
            else:
                made += nodes[at + 2 : end]
            done = end
        return [*made, *nodes[done:]]

    def _over_counts(self, nodes: Sequence[Node]) -> Sequence[Node]:
        """A line with "for" before the counts that one sound goes over, slide over 2 counts; of a figure it is asked
        on which its sounds are: shuffle over 2 counts."""
        if said_in(nodes).isdisjoint(_OVER_THEM):
            return nodes
        made: list[Node] = []
        at = 0
        while at < len(nodes):
            node = nodes[at]
            over = bool(made) and is_word(made[-1]) and is_name(node, _OVER_THEM) and isinstance(node, Bit)
            number = count_of(nodes[at + 1]) if over and at + 2 < len(nodes) else None
            if not isinstance(node, Bit) or not number_alone(number) or not is_name(nodes[at + 2], say.COUNTED):
                made.append(node)
                at += 1
                continue
            named = self._named_at_end(made)
            if self._sounds_of(named) > 1:
                shown = Bit("name", self.text[node.column : nodes[at + 2].end], node.column, nodes[at + 2].end)
                self.problem("N109", shown, f'Say on which counts the sounds of "{named}" are, such as 1 & {named}.')
                at += 3
                continue
            made.append(replace(node, text="for"))
            at += 1
        return made

    def _without_length(self, nodes: Sequence[Node]) -> Sequence[Node]:
        """A line without how many counts its steps take, said in brackets, where they take just so many: 2 basics
        (4), (4) DS DS DS RS, basic (2), triple (4)."""
        if said_in(nodes).isdisjoint((GROUP, PAUSE, OTHER, JOIN)):
            return nodes
        if (told := _in_brackets(nodes)) is not nodes and (less := self._without_length(told)) is not told:
            return less
        found = [(at, long) for at, node in enumerate(nodes) if (long := _length_said(node)) is not None]
        if not found:
            return nodes
        starts = (0, *(at + 1 for at, _ in found))
        parts = [nodes[start:at] for start, (at, _) in zip(starts, found, strict=False)]
        rest = nodes[found[-1][0] + 1 :]
        if len(found) == 1 and not parts[0]:
            parts, rest = [rest], []
        elif len(found) == 1 and rest and is_pause(rest[0]) and ":" in rest[0].text:
            # "Triple (4): DS DS DS RS".
            parts, rest = [rest[1:]], []
        made = [_many_after(part) for part in parts]
        takes = [self._takes_counts(part) for part in made]
        if any(not is_pause(node) for node in rest):
            return nodes
        if takes != [long for _, long in found]:
            if len(found) == 1 and takes[0] > 1 and sum(map(is_word, parts[0])) > 1:
                group, long = nodes[found[0][0]], found[0][1]
                shown = Bit("other", f"({long})", group.column, group.end)
                self.problem("N103", shown, other_length(takes[0], long))
                return [node for node in nodes if node is not group]
            return nodes
        if len(found) == 1 and len(parts[0]) < len(nodes) - 1:
            return [node for at, node in enumerate(nodes) if at != found[0][0]]
        return [node for part in made for node in part]

    def _length_over(self, nodes: Sequence[Node]) -> Sequence[Node]:
        """A line over which stands how many counts it takes, 8 counts: stamp clap; that it does not is said. What is
        said once of all of them goes on for so long: 4 counts: hold."""
        head, rest = headed(nodes)
        told = head[1:] if head and is_name(head[0], IN) else head
        counted = len(told) == 2 and is_name(told[1], say.COUNTED)
        long = number_alone(count_of(told[0])) if counted else None
        if long is None or not rest:
            return nodes
        alone = rest[0] if len(rest) == 1 else None
        if isinstance(alone, Bit) and (is_name(alone, say.LASTS) or said_of_several(alone.text)):
            return [*rest, *told]
        many = _many_after(rest)
        if many is not rest and self._takes_counts(many) == long:
            # "4 counts: 2 basics".
            return many
        takes = self._takes_counts(rest)
        if 0 < takes < long and not long % takes:
            return self._so_long(nodes, rest, long // takes)
        if takes and takes != long:
            shown = Bit("other", self.text[told[0].column : told[1].end], told[0].column, told[1].end)
            self.problem("N103", shown, other_length(takes, long))
        return nodes

    def _so_long(self, nodes: Sequence[Node], rest: Sequence[Node], times: int) -> Sequence[Node]:
        """Note that what goes into a length several times may be danced so often, or once: 8 counts: step touch."""
        column, end = nodes[0].column, rest[-1].end
        once = column in self.choices.otherwise
        said = self.text[rest[0].column : end]
        code: OpenCode = "once" if once else "each"
        self.open.append(Open(code, column, end, said if once else f"( {said} ) x{times}", int(once)))
        return rest if once else [Group(tuple(rest), rest[0].column, end), Bit("times", f"x{times}", end, end)]
