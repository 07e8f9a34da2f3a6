"""A line of steps as it is called: what it is called at its beginning, how many, what comes last of several."""

from abc import abstractmethod
from collections.abc import Sequence
from itertools import islice, takewhile
from typing import Self

from msgspec.structs import replace

from firn.core.script import said as say
from firn.core.script.choices import Open, OpenCode
from firn.core.script.items import Word
from firn.core.script.small_words import SmallWords
from firn.core.script.tokens import (
    between_pauses,
    count_of,
    headed,
    is_article,
    is_name,
    names_from,
    said_in_letters,
    said_of_several,
)  # fmt: skip
from firn.core.script.tree import Bit, Counts, Group, Node, is_pause, is_word, number_alone, said_in
from firn.core.script.turns import WORDS as TURN_WORDS
from firn.core.steps.card import Card

_SIDES = frozenset(say.SIDES)
_STEPS, _SEVERAL = frozenset({"step", "steps", "paso", "pasos"}), frozenset({"steps", "pasos"})
_PASO, _BASIC_ES = frozenset({"paso", "pasos"}), frozenset({"básico", "basico", "básicos", "basicos"})
_CALLED_STEPS = frozenset(
    {
        "basic", "básico", "basico", "mambo", "charleston", "chain", "farmer", "cumbia", "samba", "salsa", "merengue",
        "bachata", "cha", "q", "rumba", "bolero", "jive",
    }
)  # fmt: skip
"""Last words of figures of which each is called a step, too."""
_TURN = frozenset({"turn", "turns"})
TURNING = frozenset({"turning", "girando"})
_WITHIN = frozenset({"in", "within", "over", "en"})
_LAST, _ONE = (
    frozenset({"last", "último", "última", "ultimo", "ultima"}),
    frozenset({"one", "time", "uno", "una", "vez"}),
)
_REMINDERS = ("don't forget", "dont forget", "remember", "watch", "mind", "put", "keep", "recuerda", "no olvides")
"""Said of what comes in the steps that follow."""


def texts(nodes: Sequence[Node]) -> list[str]:
    """What is written of some tokens, brackets left out."""
    return [node.text for node in nodes if isinstance(node, Bit | Counts)]


def has_no_plural(name: str) -> bool:
    """Whether a name is said for short, which has no plural, or is one by itself: 2 DS 1 RS, 2 loose legs."""
    return said_in_letters(name) or (" " in name and said_of_several(name))


def kinds_in(card: Card) -> list[str]:
    """The kinds of the sounds of a figure."""
    return [beat.kind.name for beat in card.beats]


def kinds_of(words: Sequence[Word]) -> list[str]:
    """The kinds of the sounds of some words."""
    return [beat.kind.name for word in words if word.card is not None for beat in word.card.beats]


def spelled(kinds: Sequence[str], cards: Sequence[Card], times: int = 1) -> bool:
    """Whether the kinds of some sounds are just those of one of some figures, danced so often."""
    return any(list(kinds) == kinds_in(card) * times for card in cards)


def _is_times(node: Node) -> bool:
    return isinstance(node, Bit) and node.kind == "times"


def _in_words(node: Node) -> Node:
    """A number as a word; a number that has none, and any other token, as it is."""
    word = say.number_word(number_alone(node))
    return Bit("name", word, node.column, node.end) if word else node


class CalledLine(SmallWords):
    """Takes what is called of steps."""

    @abstractmethod
    def _longest(self, bits: Sequence[Bit]) -> int:
        """Of how many of some words the longest name is that they begin with; 0 for none."""

    @abstractmethod
    def read(self, nodes: Sequence[Node], *, optional: bool = False) -> None:
        """Read a line's tokens."""

    def _steps_of_a_name(self, nodes: Sequence[Node]) -> Sequence[Node]:
        """A line with a figure's name alone where it is called a step: basic step, two mambo steps, paso básico; that
        it may be the figure and then a step is noted."""
        if said_in(nodes).isdisjoint(_CALLED_STEPS | _PASO):
            return nodes
        made: list[Node] = []
        for at, node in enumerate(nodes):
            before, after = nodes[at - 1] if at else None, nodes[at + 1] if at + 1 < len(nodes) else None
            step = isinstance(node, Bit) and is_name(node, _STEPS)
            figure = before if self._is_figure(nodes, at) else after if is_name(node, _PASO) else None
            named = isinstance(figure, Bit) and (figure is before or is_name(figure, _BASIC_ES))
            if not (step and named) or self._sounds_of(" ".join(texts([before, node] if before else [node]))) > 1:
                made.append(node)
                continue
            assert isinstance(node, Bit) and isinstance(figure, Bit)
            if figure is before and is_name(node, _SEVERAL):
                # "two basic steps": so many basics.
                made[-1] = replace(figure, text=f"{figure.text}s", end=node.end)
                continue
            apart = node.column in self.choices.otherwise
            written = f"{figure.text}, {node.text}" if figure is before else f"{node.text}, {figure.text}"
            code: OpenCode = "between" if apart else "linked"
            column, end = min(node.column, figure.column), max(node.end, figure.end)
            said = written if apart else figure.text
            self.open.append(Open(code, node.column, end, said, 2 if apart else 0, since=column))
            made += [node] if apart else []
        return made

    def _is_figure(self, nodes: Sequence[Node], at: int) -> bool:
        """Whether a figure that is called a step, as a basic step, is named right before a token."""
        if not at or not is_name(nodes[at - 1], _CALLED_STEPS):
            return False
        sizes = range(1, min(at, self.shelf.longest) + 1)
        rows = (nodes[at - size : at] for size in sizes)
        return any(all(map(is_word, row)) and self._sounds_of(" ".join(texts(row))) > 1 for row in rows)

    def _turned_in_steps(self, nodes: Sequence[Node]) -> Sequence[Node]:
        """A line without "turn left in" before how many steps: on which of them, and how far, is to be said."""
        if said_in(nodes).isdisjoint(say.TURN):
            return nodes
        for at, node in enumerate(nodes):
            end = at + 1 + (at + 1 < len(nodes) and is_name(nodes[at + 1], _SIDES))
            many = nodes[end + 1 : end + 3]
            turns = is_name(node, say.TURN) and end < len(nodes) and is_name(nodes[end], _WITHIN)
            if turns and len(many) == 2 and count_of(many[0]) is not None and self._is_step(many[1]):
                said = self.text[node.column : many[1].end]
                self.problem("N109", node, f'Say how far "{said}" turns on which step: 1 step 1/4 left.')
                return [*nodes[:at], *nodes[end + 1 :]]
        return nodes

    def _turning(self, nodes: Sequence[Node]) -> Sequence[Node]:
        """A line without "turning" after a step, where how far it turns is said: DS turning 1/4 left; how far is to
        be said where it is not."""
        if said_in(nodes).isdisjoint(TURNING):
            return nodes
        made: list[Node] = []
        at = 0
        while at < len(nodes):
            # "turning a quarter left".
            beside = at + 1 + (at + 1 < len(nodes) and is_article(nodes[at + 1]))
            node, after = nodes[at], nodes[beside] if beside < len(nodes) else None
            far = isinstance(after, Bit) and (after.kind == "fraction" or after.text.casefold() in TURN_WORDS)
            stepped = at > 0 and (is_word(nodes[at - 1]) or _is_times(nodes[at - 1]))
            before = nodes[at - 1] if at else None
            alone = before is None or isinstance(before, Group) or is_pause(before)
            alone = alone or is_name(before, say.THEN | say.AND)
            if is_name(node, TURNING) and isinstance(node, Bit) and (stepped or (alone and not far)):
                if not stepped:
                    self.problem("N109", node, f'Say how far and which way "{node.text}" turns: 1/4 left.')
                elif not far:
                    said = self.text[nodes[at - 1].column : node.end]
                    self.problem("N109", node, f'Say how far and which way "{said}" turns: 1/4 left.')
                    at += is_name(after, _SIDES)
                else:
                    at = beside - 1
            else:
                made.append(node)
            at += 1
        return made

    def _called_on_count(self, nodes: Sequence[Node]) -> Sequence[Node]:
        """A line with what its head says to be on a count behind the steps that take the counts before it: add a clap
        on 4: stamp stamp stamp. Where they take others, it is asked about."""
        head, rest = headed(nodes)
        number = number_alone(count_of(head[-1])) if len(head) > 2 else None
        uncounted = bool(rest) and not any(isinstance(node, Counts) for node in rest)
        if number is None or not is_name(head[-2], say.ON) or not uncounted or not is_word(head[-3]):
            return nodes
        last = rest[-1].end
        if self._takes_counts(rest) == number - 1:
            return [*rest, Bit("pause", ",", last, last), *head]
        shown = Bit("name", self.text[head[0].column : head[-1].end], head[0].column, head[-1].end)
        self.problem("N109", shown, f'Say on which counts the other steps are beside "{shown.text}".')
        return nodes

    def _reminded(self, nodes: Sequence[Node]) -> Sequence[Node]:
        """A line without what its head only calls to mind, which comes in what follows: don't forget the clap: stamp
        clap. That it may come before is noted."""
        head, rest = headed(nodes)
        reminds = " ".join(texts(head[:2])).casefold().replace("’", "'").startswith(_REMINDERS)
        named = [card for node in head if isinstance(node, Bit) for card in (self._card(node.text)[0],) if card]
        kinds = self._kinds_in(rest) if reminds and rest and named else []
        if not kinds or not all(card.beats[0].kind.name in kinds for card in named):
            return nodes
        return self._titled(head, nodes, rest, likely=True)

    @abstractmethod
    def _takes_counts(self, nodes: Sequence[Node]) -> int:
        """How many counts some steps take one after another; 0 for what has counts of its own, or is no steps."""

    def _turned_figures(self, nodes: Sequence[Node]) -> None:
        """Ask about a turn right behind a figure of several sounds, which may be how that is danced, or come after
        it: buffalo turn."""
        if said_in(nodes).isdisjoint(_TURN):
            return
        for at in range(1, len(nodes)):
            if not is_name(nodes[at], _TURN) or not is_word(nodes[at - 1]):
                continue
            rows = (nodes[max(0, at - size) : at] for size in range(3, 0, -1))
            names = [" ".join(texts(row)) for row in rows if row and all(map(is_word, row))]
            turned = any(self._sounds_of(f"{name} {texts([nodes[at]])[0]}") for name in names)
            figure = next((name for name in names if self._sounds_of(name) > 1), "")
            after = nodes[at + 1] if at + 1 < len(nodes) else None
            far = isinstance(after, Bit) and (after.kind == "fraction" or after.text.casefold() in TURN_WORDS)
            if figure and not (turned or far):
                node = nodes[at]
                assert isinstance(node, Bit)
                said = f"{figure} {node.text}"
                self.problem("N109", node, f'Say how far "{said}" turns, as in 1/4 left; or "{figure}, {node.text}".')
                return

    def _so_many_with_each(self, nodes: Sequence[Node]) -> Sequence[Node]:
        """A line with its numbers in words where one before several is followed by one of a foot alone: 2 stamps with
        the right, 1 with the left."""
        if said_in(nodes).isdisjoint(_SIDES):
            return nodes
        if not any(isinstance(node, Counts) for node in nodes):
            return nodes
        parts = between_pauses(nodes)
        several = any(part and self._says_how_many(part[0], part[1:2]) for part in parts)
        lone = [
            part[0]
            for part in parts
            if part and number_alone(part[0]) is not None and any(is_name(node, _SIDES) for node in part)
            and all(is_pause(n) or is_name(n, _SIDES | say.WITH | say.THE | say.FEET) for n in part[1:])
        ]  # fmt: skip
        if not several or not lone:
            return nodes
        counted = [part[0] for part in parts if part and self._says_how_many(part[0], part[1:2])]
        numbers = {node.column for node in (*lone, *counted)}
        return [_in_words(node) if node.column in numbers else node for node in nodes]

    def _is_step(self, node: Node) -> bool:
        return isinstance(node, Bit) and self._card(node.text)[0] is not None

    def _last_of_several(self, nodes: Sequence[Node]) -> None:
        """Note that "four flaps, last one a stamp" may be four or five: that is to be said."""
        if said_in(nodes).isdisjoint(_LAST):
            return
        several = False
        for at, node in enumerate(nodes):
            several = several or _is_times(node) or self._says_how_many(node, nodes[at + 1 : at + 2])
            # "toe heel toe heel, last one a stamp".
            several = several or (at > 0 and self._is_step(node) and self._is_step(nodes[at - 1]))
            the = at + 1 < len(nodes) and is_name(nodes[at + 1], say.THE)
            last = nodes[at + 1 + the : at + 3 + the]
            one = last and is_name(last[0], _LAST) and (the or (len(last) > 1 and is_name(last[1], _ONE)))
            if not is_pause(node) or not one or not isinstance(last[0], Bit):
                continue
            if several and any(is_word(n) for n in nodes[at + 3 :]):
                said = f'Say whether "{last[0].text}" is one of them: flap x3, stamp; or one more: flap x4, stamp.'
                self.problem("N109", last[0], said)
                # Once for a line is enough.
                return

    def _says_how_many(self, one: Node, after: Sequence[Node]) -> bool:
        """Whether a token is a number before several, as in four flaps."""
        count = count_of(one)
        number = number_alone(count) if count is not None else None
        if not after or not isinstance(after[0], Bit) or (number or 0) < 2:
            return False
        card, several = self._card(after[0].text)
        return several or (card is not None and has_no_plural(after[0].text))

    def _figure_name(self, node: Counts, nodes: Sequence[Node], at: int) -> tuple[str, int]:
        """The name that begins with a figure, and how many tokens after it are in it; "" and 0 for none."""
        number = node.atoms[0].number if len(node.atoms) == 1 else None
        after = nodes[at] if at < len(nodes) else None
        word = next((w for w, n in say.NUMBERS.items() if n == number), "")
        if self.choices.before or not word or not is_name(after, say.BY_NUMBER):
            return "", 0
        names = list(islice(names_from(nodes, at), self.shelf.longest))
        for size in range(len(names), 0, -1):
            rest = " ".join(n.text for n in names[:size])
            # By its figure, too, as a piece says what it means.
            for text in (f"{number} {rest}", f"{word} {rest}"):
                if self._card(text)[0] is not None:
                    return text, size
        return "", 0

    def _figure_of(self, head: Sequence[Node]) -> str:
        """The name of some tokens that begins with a figure; "" for none."""
        if isinstance(head[0], Counts):
            text, size = self._figure_name(head[0], head, 1)
            return text if 0 < size == len(head) - 1 else ""
        text = " ".join(texts(head))
        return text if count_of(head[0]) is not None and self._card(text)[0] is not None else ""

    def _titled(
        self, head: Sequence[Node], nodes: Sequence[Node], rest: Sequence[Node], *, likely: bool = False
    ) -> Sequence[Node]:
        """Take what stands before a colon or a pause as danced, or as the name of what follows, which is noted;
        `likely`: as the name sooner than as danced."""
        title = (head[0].column in self.choices.otherwise) != likely
        after = self.text[rest[0].column : rest[-1].end]
        said = after if title else f"{' '.join(texts(head))}, {after}"
        code: OpenCode = "title" if title else "titled"
        self.open.append(Open(code, head[0].column, rest[-1].end, said, 2 if title != likely else 0))
        return rest if title else nodes

    def _kinds_in(self, nodes: Sequence[Node]) -> list[str]:
        """The kinds of the sounds of some tokens, read for themselves."""
        return kinds_of(self._words_in(nodes))

    def _words_in(self, nodes: Sequence[Node]) -> list[Word]:
        """The words of some tokens, read for themselves, each as often as it is danced; of what is repeated none."""
        return self._alone(nodes).danced

    def _alone(self, nodes: Sequence[Node]) -> Self:
        """Some tokens, read for themselves."""
        alone = type(self)(self.shelf, self.tradition, self.choices, self.text)
        alone.read(nodes)
        alone.close()
        return alone

    @property
    def kinds(self) -> list[str]:
        """The kinds of the sounds of the line up to here; of what is repeated none."""
        return kinds_of(self.danced)

    def _named_at_end(self, nodes: Sequence[Node]) -> str:
        """The longest name of a step that some tokens end with; "" for none."""
        row = list(takewhile(is_word, reversed(nodes[-self.shelf.longest :])))[::-1]
        names = (" ".join(texts(row[n:])) for n in range(len(row)))
        return next((name for name in names if self._sounds_of(name)), "")

    def _sounds_of(self, name: str) -> int:
        """How many sounds a name has; 0 for what is none."""
        card, _ = self._card(name)
        return 0 if card is None else len(card.beats)
