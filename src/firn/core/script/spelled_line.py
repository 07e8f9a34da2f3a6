"""A line of steps that says a figure and its sounds, one before the other or behind."""

from collections.abc import Sequence
from itertools import pairwise

from msgspec.structs import replace

from firn.core.script import said as say
from firn.core.script.called import is_now
from firn.core.script.called_line import kinds_in, kinds_of, spelled, texts
from firn.core.script.choices import Open, OpenCode
from firn.core.script.numbered_line import NumberedLine
from firn.core.script.tokens import is_article, is_name, is_said, number_of
from firn.core.script.tree import (
    JOIN,
    OTHER,
    PAUSE,
    Bit,
    Counts,
    Group,
    Node,
    is_pause,
    is_word,
    number_alone,
    said_in,
)
from firn.core.steps.card import Card

_GAP = 3
"""Spaces between a name and what follows it in another column."""
_LEAST_SPELLED = 2
"""Sounds of a figure that is said in them."""
_LABELLED = 3
"""Sounds of a figure that is no two steps by chance."""
_DEFINES = frozenset("=-–—")
_IS = frozenset({"is", "means", "aka", "equals"})
_SIGNS = _IS | {PAUSE, OTHER, JOIN}
"""What a line holds that says what a figure is."""
_I_E = ("i", ".", "e", ".")
_A_LENGTH = 3
"""Words of "that's four counts"."""
_THAT = frozenset({"that's", "that", "this", "it's", "which", "called", "aka"})
_THAT_IS = _THAT | {"is", "makes", "means", "your", "our", "es", "se", "llama"} | say.THE


class SpelledLine(NumberedLine):
    """Takes a figure's name for no step more where its sounds are said, too."""

    def _called_now(self, nodes: Sequence[Node]) -> Sequence[Node]:
        """A line without what it is called at its beginning: triple now, DS DS DS RS; in doubt where it has not just
        its sounds, and where it is called so without a word more."""
        if PAUSE not in said_in(nodes):
            return nodes
        pause = next((at for at, node in enumerate(nodes) if is_pause(node)), 0)
        head, rest = nodes[:pause], nodes[pause + 1 :]
        if not head or not rest or self.text[: nodes[0].column].strip() or not all(is_word(node) for node in head):
            return nodes
        now = is_now(head)
        card, _ = self._card(" ".join(texts(head[:-1] if now else head)))
        # More words than sounds are no name of it: a line of steps is read once.
        many = sum(is_word(node) for node in rest)
        if card is None or (not now and len(card.beats) < max(3, many)):
            return nodes
        own, words = kinds_in(card), self._words_in(rest)
        kinds = kinds_of(words)
        # Another figure that happens to have the same sounds is not what is called.
        out = bool(words) and (words[0].card is card or (len(own) > 1 and len(words) > 1))
        if now and out and kinds[: len(own)] == own:
            return rest
        # The same again is no name of it.
        named = len(words) > 1 and kinds == own
        if not (len(own) > 1 and kinds if now else named):
            return nodes
        return self._titled(head[:-1] if now else head, nodes, rest)

    def _labelled(self, nodes: Sequence[Node]) -> Sequence[Node]:
        """A line without the name that it begins with, where a gap parts it from what is just that figure, as in a
        handout's column of names: Basic    DS RS."""
        gap = next((at for at, (a, b) in enumerate(pairwise(nodes), 1) if self._is_gap(a, b)), 0)
        head, rest = nodes[:gap], nodes[gap:]
        if not head or not all(is_word(node) for node in head) or self.text[: nodes[0].column].strip():
            return nodes
        name = " ".join(texts(head))
        card, _ = self._card(name)
        if card is None or len(card.beats) < _LABELLED:
            return nodes
        if name.casefold() in self.text[rest[0].column :].casefold():
            # The same again is danced.
            return nodes
        kinds = self._kinds_in(rest)
        cards = (card, *say.cards_said(self.shelf, name, self.tradition))
        return rest if spelled(kinds, cards) else nodes

    def _is_gap(self, before: Node, after: Node) -> bool:
        between = self.text[before.end : after.column]
        return not between.strip() and (len(between) >= _GAP or "\t" in between)

    def _defined(self, nodes: Sequence[Node]) -> Sequence[Node]:
        """A line with a colon for the sign between a figure and what it is: flap = brush step, a flap is a brush and
        a step; for a dash before just its sounds: triple - DS DS DS RS. Without the figure where it stands behind
        these: brush step = flap; in doubt behind a dash or a pause alone."""
        if said_in(nodes).isdisjoint(_SIGNS):
            return nodes
        full = _that_is_in_full(nodes)
        if full is not nodes:
            made = self._defined(full)
            return nodes if made is full else made
        # "which is a triple" is told otherwise.
        signs = [at for at, node in enumerate(nodes) if _is_sign(node) and not is_said(nodes, at - 1, _THAT)]
        at = signs[0] if len(signs) == 1 else 0
        name, rest = nodes[:at], nodes[at + 1 :]
        dashed = texts(nodes[at : at + 1])[:1] != ["="] and not is_name(nodes[at] if at else None, _IS)
        card = self._figure_alone(name) if rest else None
        if card is None or len(card.beats) < (_LABELLED if dashed else _LEAST_SPELLED):
            return self._named_behind(nodes, at, sure=bool(at) and not dashed)
        if dashed:
            # The same again is danced.
            again = len(rest) == 1 or _said_again(" ".join(texts(name)), self.text[rest[0].column :])
            if again or self._kinds_in(rest) != kinds_in(card):
                return nodes
        colon = Bit("pause", ":", nodes[at].column, nodes[at].end)
        first, *others = _without_article(name)
        # From where the line begins, as nothing leads to it.
        return [replace(first, column=name[0].column), *others, colon, *rest]

    def _figure_alone(self, nodes: Sequence[Node]) -> Card | None:
        """The figure that some tokens name, and nothing else."""
        names = _without_article(nodes)
        return self._card(" ".join(texts(names)))[0] if names and all(map(is_word, names)) else None

    def _named_behind(self, nodes: Sequence[Node], at: int, *, sure: bool) -> Sequence[Node]:
        """A line without the name that it ends with, where all before that are just its sounds: DS DS DS RS - triple.
        `at`: where a sign stands before the name, 0 for none; `sure`: it says so, and leaves nothing open."""
        pause = next((n for n in range(len(nodes) - 1, 0, -1) if is_pause(nodes[n])), 0)
        rest, name = (nodes[:at], nodes[at + 1 :]) if at else (nodes[:pause], nodes[pause + 1 :])
        card = self._figure_alone(name) if rest else None
        # More words than sounds are none of it: a line of steps is read once.
        if card is None or len(card.beats) < max(_LEAST_SPELLED if sure else _LABELLED, sum(map(is_word, rest))):
            return nodes
        said = " ".join(texts(_without_article(name)))
        cards = (card, *say.cards_said(self.shelf, said, self.tradition))
        # "mambo forward, mambo back" is danced twice.
        again = _said_again(said, self.text[: rest[-1].end]) or self._figure_alone(rest) is card
        if again or self._kinds_in(rest) not in [kinds_in(one) for one in cards]:
            return nodes
        if sure:
            return rest
        title = (nodes[0].column in self.choices.otherwise) != bool(at)
        danced = self.text[rest[0].column : rest[-1].end]
        code: OpenCode = "title" if title else "titled"
        written = danced if title else f"{danced}, {said}"
        self.open.append(Open(code, nodes[0].column, nodes[-1].end, written, 2 if title != bool(at) else 0))
        return rest if title else [*rest, Bit("pause", ",", rest[-1].end, name[0].column), *name]

    def _that_is(self, nodes: Sequence[Node]) -> Sequence[Node]:
        """A line without what it says that its sounds are, before them or behind: that's the basic: DS RS."""
        if said_in(nodes).isdisjoint(_THAT):
            return nodes
        pauses = [at for at, node in enumerate(nodes) if is_pause(node)]
        for at in dict.fromkeys((*pauses[:1], *pauses[-1:])):
            for told, rest in ((nodes[:at], nodes[at + 1 :]), (nodes[at + 1 :], nodes[:at])):
                if not told or not rest or not is_name(told[0], _THAT):
                    continue
                if len(told) == _A_LENGTH and number_of(told[1]) and is_name(told[2], say.COUNTED):
                    # "that's four counts".
                    return [*rest, Group((*told[1:],), told[1].column, told[2].end)]
                kinds = self._kinds_in(rest)
                many = next((number_alone(number) for node in told if (number := number_of(node))), None)
                owns = [*map(kinds_in, self._cards_that(told))]
                for own in owns:
                    # Three are not what "that's two basics" is said of.
                    if _so_often(kinds, own) and many in (None, len(kinds) // len(own)):
                        return rest
                # "stamp, it's a flap" is danced on.
                if any(1 < len(own) <= len(kinds) for own in owns):
                    shown = Bit("other", self.text[told[0].column : told[-1].end], told[0].column, told[-1].end)
                    told_so = f'"{shown.text}" has other sounds than these: write it behind a #, or leave it out.'
                    self.problem("N109", shown, told_so)
                    return rest
        return nodes

    def _cards_that(self, nodes: Sequence[Node]) -> tuple[Card, ...]:
        """The figures that may go by what is said of what is danced: that's a triple; () for none."""
        names = [one for one in nodes if not (is_name(one, _THAT_IS) or is_article(one))]
        # "That's two basics".
        names = names[1:] if names[1:] and number_of(names[0]) else names
        name = " ".join(texts(names)) if all(map(is_word, names)) else ""
        card = self._card(name)[0] if name else None
        return () if card is None else (card, *say.cards_said(self.shelf, name, self.tradition))

    def _called_after(self, group: Group, *, often: bool = False) -> bool:
        """Whether what stands in brackets is the name of what is said before it: DS DS DS RS (triple). `often`: how
        often is said behind it, of what goes by that name."""
        # "(that's a triple)".
        cards = self._cards_that(group.items)
        last = self._last_word()
        if not cards or self.choices.before or (last is not None and last.card in cards):
            # "(rock step) (rock step)".
            return False
        kinds = self.kinds
        owns = [own for card in cards if len(own := kinds_in(card)) > 1]
        return any(_so_often(kinds, own) or (often and kinds[-len(own) :] == own) for own in owns)

    def _spelled_after(self, group: Group) -> bool:
        """Whether what stands in brackets are the sounds of the figure right before it: flap (brush step)."""
        word = self._words[-1] if self._words[self._since :] and not self.choices.before else None
        if word is None or word.card is None or len(word.card.beats) < _LEAST_SPELLED or word.joined:
            return False
        if self._card(" ".join(texts(group.items)))[0] is not None:
            # "(rock step) (rock step)".
            return False
        return kinds_of(self._words_in(group.items)) == kinds_in(word.card)


def _that_is_in_full(nodes: Sequence[Node]) -> Sequence[Node]:
    """A line with "means" for an "i.e.", and for the pause before it."""
    for at in range(1, len(nodes) - len(_I_E)):
        if (
            tuple(one.text.casefold() if isinstance(one, Bit | Counts) else "" for one in nodes[at : at + len(_I_E)])
            == _I_E
        ):
            said = Bit("name", "means", nodes[at].column, nodes[at + len(_I_E) - 1].end)
            return [*nodes[: at - is_pause(nodes[at - 1])], said, *nodes[at + len(_I_E) :]]
    return nodes


def _is_sign(node: Node) -> bool:
    """Whether a token says that what stands before it is what stands behind."""
    return isinstance(node, Bit) and (node.text in _DEFINES or is_name(node, _IS))


def _without_article(nodes: Sequence[Node]) -> Sequence[Node]:
    return nodes[1:] if nodes and is_article(nodes[0]) else nodes


def _said_again(name: str, text: str) -> bool:
    """Whether a name is among what is danced: the same again is no name of it."""
    return name.casefold() in text.casefold()


def _so_often(kinds: Sequence[str], own: Sequence[str]) -> bool:
    """Whether the kinds of some sounds are those of a figure of several, once or more and nothing else."""
    return len(own) > 1 and list(kinds) == list(own) * (len(kinds) // len(own)) != []
