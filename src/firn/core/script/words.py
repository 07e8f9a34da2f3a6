"""From tokens to runs: counts, and the words that they belong to, each word looked up."""

from collections.abc import Iterator, Sequence
from fractions import Fraction
from itertools import islice, pairwise

from msgspec import Struct
from msgspec.structs import replace

from firn.core.script.choices import PLAIN, Against, Choices, Named
from firn.core.script.problems import Problem
from firn.core.script.tree import Bit, Counts, Group, Node
from firn.core.script.turns import WORDS as TURN_WORDS
from firn.core.script.turns import parse_amount
from firn.core.steps.card import Card
from firn.core.steps.shelf import APART, TOGETHER, Shelf

SIDES = {"r": "right", "right": "right", "l": "left", "left": "left", "both": "both"}
MOST_TIMES = 64
LONGEST_NAME = 80
"""Letters up to which what is not known may be a slip."""
NUMBERS = ("one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten", "eleven", "twelve")


class Word(Struct, frozen=True):
    """A step as typed; `card` is None where no shelf knows it. `joined` words share its place.

    `turn`: how far the body turns with it, right above 0. `others`: cards that may stand in its place.
    """

    text: str
    card: Card | None
    column: int
    end: int
    side: str = ""
    level: int = 0
    optional: bool = False
    as_one: bool = False
    times: int = 1
    joined: "tuple[Word, ...]" = ()
    turn: Fraction = Fraction(0)
    others: tuple[Card, ...] = ()


class WordRun(Struct, frozen=True):
    """Groups of counts and the words after them, up to the next counts."""

    counts: tuple[Counts, ...]
    words: tuple[Word, ...]


class Repeat(Struct, frozen=True):
    """Runs in brackets, danced several times."""

    body: "tuple[Item, ...]"
    times: int


class Bar(Struct, frozen=True):
    """The | before a 1: what came before is a pick-up."""


Item = WordRun | Repeat | Bar


class _Line:
    """Collects one line's items; problems are in columns of that line."""

    def __init__(self, shelf: Shelf, tradition: str, choices: Choices) -> None:
        self.shelf, self.tradition, self.choices = shelf, tradition, choices
        self.items: list[Item] = []
        self.problems: list[Problem] = []
        self.named: list[Named] = []
        self._counts: list[Counts] = []
        self._words: list[Word] = []
        self._side: tuple[str, Bit] | None = None
        self._join: Bit | None = None

    def problem(self, code: str, at: Bit | Counts | Group, message: str, nearest: tuple[str, ...] = ()) -> None:
        self.problems.append(Problem(code, 0, at.column, at.end, message, nearest))

    def close(self) -> None:
        """End the run."""
        for waiting in (self._side and self._side[1], self._join):
            if waiting is not None:
                self.problem("N112", waiting, f'"{waiting.text}" has no word after it.')
        self._side = self._join = None
        if self._counts or self._words:
            self.items.append(WordRun(tuple(self._counts), tuple(self._words)))
        self._counts, self._words = [], []

    def read(self, nodes: Sequence[Node], *, optional: bool = False) -> None:
        at = 0
        while at < len(nodes):
            node = nodes[at]
            at += 1
            if isinstance(node, Counts):
                # Counts after a join only say its place again.
                if self._words and not self._join:
                    self.close()
                if not self._join:
                    self._counts.append(node)
            elif isinstance(node, Group):
                after = nodes[at] if at < len(nodes) else None
                if isinstance(after, Bit) and after.kind == "times":
                    at += 1
                    self._repeat(node, after)
                else:
                    self.read(node.items, optional=True)
            elif self._words and _is_amount(node, self.shelf, self.tradition):
                at += self._turn(node, nodes[at] if at < len(nodes) else None)
            elif node.kind == "name" and node.text.casefold() == "or" and self._words and not self._join:
                at += self._or(node, nodes, at)
            elif node.kind == "name":
                at -= 1
                at += self._name(nodes, at, optional)
            elif node.kind == "pause":
                continue
            else:
                self._sign(node)

    def _repeat(self, node: Group, times: Bit) -> None:
        self.close()
        inner = _Line(self.shelf, self.tradition, self.choices)
        inner.read(node.items)
        inner.close()
        self.problems += inner.problems
        self.named += inner.named
        self.items.append(Repeat(tuple(inner.items), self._times(times)))

    def _times(self, bit: Bit) -> int:
        times = int(bit.text[1:].strip()[:6])
        if 1 <= times <= MOST_TIMES:
            return times
        self.problem("N111", bit, f"{bit.text} cannot be danced: between x1 and x{MOST_TIMES}.")
        return 1

    def _name(self, nodes: Sequence[Node], at: int, optional: bool) -> int:
        """Take the longest known name from a token on, which is a name; returns how many tokens it used."""
        names = list(islice(_names(nodes, at, pauses=True), self.shelf.longest))
        first = names[0]
        for size in range(self.choices.size(first.column, len(names)), 0, -1):
            text = " ".join(n.text for n in names[:size])
            card = self.shelf.find(text, self.tradition)
            said = self.shelf.parting(text) if card is not None and size > 1 else ""
            if card is not None and said != APART:
                self._word(Word(text, card, first.column, names[size - 1].end, optional=optional))
                used = _reach(nodes, at, size)
                if size > 1 and said != TOGETHER:
                    self._note(nodes, at, names[:size], card, at + used)
                return used
        following = _names(nodes, at)
        names = list(islice(following, self.shelf.longest))
        side = SIDES.get(first.text.casefold())
        if side is not None:
            if self._side is not None:
                self.problem("N112", self._side[1], f'"{self._side[1].text}" has no word after it.')
            self._side = side, first
            return 1
        # All of an unknown name together, up to the next word that is known, makes one problem.
        size = 1
        while size < len(names) and not self._known(names, size):
            size += 1
            names += islice(following, 1)
        text = " ".join(n.text for n in names[:size])
        if size == 1 and text.casefold() in NUMBERS:
            figure = str(NUMBERS.index(text.casefold()) + 1)
            message = f'Counts are written as figures: {figure} for "{text}".'
            self.problems.append(Problem("N101", 0, first.column, first.end, message, (figure,)))
            return 1
        shown = text if len(text) <= 40 else text[:39] + "…"
        nearest = self.shelf.nearest(text) if len(text) <= LONGEST_NAME else ()
        hint = f" Nearest: {', '.join(nearest)}." if nearest else ""
        self.problems.append(
            Problem("N101", 0, first.column, names[size - 1].end, f'No step is called "{shown}".{hint}', nearest)
        )
        self._word(Word(text, None, first.column, names[size - 1].end, optional=optional))
        return size

    def _note(self, nodes: Sequence[Node], at: int, names: Sequence[Bit], card: Card, after_at: int) -> None:
        """Note a name of several words that may be read as others."""
        sizes = tuple(size for size in range(len(names) - 1, 0, -1) if self._begins(names, size))
        if not sizes:
            return
        first, last = names[0].text.casefold(), names[-1].text.casefold()
        after, before = self._lone_after(nodes, after_at), self._lone_before(nodes, at)
        told: dict[Against, bool] = {
            "apart": _wide(nodes, names) or any(isinstance(n, Bit) and n.kind == "pause" for n in nodes[at:after_at]),
            "first after": after == first,
            "last after": after == last,
            "first before": before == first,
            "last before": before == last,
        }
        against = frozenset(what for what, holds in told.items() if holds)
        text = " ".join(n.text for n in names)
        self.named.append(Named(text, card, names[0].column, names[-1].end, sizes, against))

    def _lone_after(self, nodes: Sequence[Node], at: int) -> str:
        """The word right after a name, where no name of several words begins with it."""
        names = list(islice(_names(nodes, at), self.shelf.longest))
        sizes = range(2, len(names) + 1)
        longer = any(self.shelf.find(" ".join(n.text for n in names[:s]), self.tradition) for s in sizes)
        return names[0].text.casefold() if names and not longer else ""

    def _lone_before(self, nodes: Sequence[Node], at: int) -> str:
        """The word right before a name, where it is one of its own."""
        node = nodes[at - 1] if at else None
        own = isinstance(node, Bit) and node.kind == "name" and self._words and self._words[-1].text == node.text
        return node.text.casefold() if own and isinstance(node, Bit) else ""

    def _begins(self, names: Sequence[Bit], size: int) -> bool:
        """Whether the first of some words are a name, and the next one begins another."""
        known = self.shelf.find(" ".join(n.text for n in names[:size]), self.tradition)
        return known is not None and self._known(list(names), size)

    def _or(self, said: Bit, nodes: Sequence[Node], at: int) -> int:
        """Take a word that may stand in place of the one before it; returns how many tokens it used."""
        head = self._words.pop()
        target = head.joined[-1] if head.joined else head
        before = len(self._words)
        named = next(_names(nodes, at), None) is not None
        used = self._name(nodes, at, False) if named else 0
        other = self._words.pop() if len(self._words) > before else None
        if other is None or other.side:
            self.problem("N112", said, f'"{said.text}" has no word after it.')
        elif other.card is not None and target.card is not None:
            many, theirs = len(target.card.beats), len(other.card.beats)
            if many == theirs:
                target = replace(target, others=(*target.others, other.card), end=other.end)
            else:
                self.problem("N118", said, f'"{target.text}" has {many} sounds and "{other.text}" {theirs}.')
        self._words.append(replace(head, joined=(*head.joined[:-1], target)) if head.joined else target)
        return used

    def _known(self, names: list[Bit], at: int) -> bool:
        sizes = range(1, min(len(names) - at, self.shelf.longest) + 1)
        return names[at].text.casefold() in SIDES or any(
            self.shelf.find(" ".join(n.text for n in names[at : at + size]), self.tradition) for size in sizes
        )

    def _word(self, word: Word) -> None:
        if self._side is not None:
            word = replace(word, side=self._side[0], column=self._side[1].column)
            self._side = None
        if self._join is None:
            self._words.append(word)
            return
        as_one = self._join.text == "="
        self._join = None
        head = self._words.pop()
        word = replace(word, as_one=as_one)
        self._words.append(replace(head, as_one=head.as_one or as_one, joined=(*head.joined, word)))

    def _sign(self, bit: Bit) -> None:
        if bit.kind == "bar":
            self.close()
            self.items.append(Bar())
        elif bit.kind in ("other", "fraction"):
            self.problem("N109", bit, f'"{bit.text}" means nothing here.')
        elif not self._words:
            self.problem("N112", bit, f'"{bit.text}" has no word before it.')
        elif bit.kind == "join":
            self._join = bit
        else:
            self._mark(bit)

    def _turn(self, bit: Bit, after: Node | None) -> int:
        """Take how far the word before it turns, and which way; returns how many more tokens that used."""
        amount = parse_amount(bit.text)
        sense = SIDES.get(after.text.casefold()) if isinstance(after, Bit) else None
        if amount is None or sense not in ("right", "left"):
            said = f"{bit.text} {sense}" if sense else bit.text
            message = f'"{said}" is no turn: write how far and which way, such as 1/4 right or half left.'
            self.problem("N113", bit, message)
            return 1 if sense else 0
        assert isinstance(after, Bit)
        head = self._words.pop()
        target = head.joined[-1] if head.joined else head
        target = replace(target, turn=amount if sense == "right" else -amount, end=after.end)
        self._words.append(replace(head, joined=(*head.joined[:-1], target)) if head.joined else target)
        return 1

    def _mark(self, bit: Bit) -> None:
        head = self._words.pop()
        target = head.joined[-1] if head.joined else head
        if bit.kind == "mark":
            target = replace(target, level=1 if bit.text == "!" else -1, end=bit.end)
        elif head.joined:
            head = replace(head, times=self._times(bit))
        else:
            target = replace(target, times=self._times(bit), end=bit.end)
        self._words.append(replace(head, joined=(*head.joined[:-1], target)) if head.joined else target)


def _is_amount(bit: Bit, shelf: Shelf, tradition: str) -> bool:
    """Whether a token says how far to turn: a fraction, or quarter, half, full where they are no step."""
    word = bit.text.casefold()
    return bit.kind == "fraction" or (word in TURN_WORDS and shelf.find(word, tradition) is None)


def _names(nodes: Sequence[Node], at: int, *, pauses: bool = False) -> Iterator[Bit]:
    """The words from a token on, up to what is no word; over pauses too if asked."""
    for number in range(at, len(nodes)):
        node = nodes[number]
        if not isinstance(node, Bit) or node.kind not in ("name", "pause"):
            return
        if node.kind == "name":
            yield node
        elif not pauses:
            return


def _reach(nodes: Sequence[Node], at: int, size: int) -> int:
    """How many tokens some words take, the pauses between them included."""
    used = 0
    while size:
        node = nodes[at + used]
        used += 1
        size -= isinstance(node, Bit) and node.kind == "name"
    return used


def _wide(nodes: Sequence[Node], names: Sequence[Bit]) -> bool:
    """Whether words stand further apart than others of their line do."""
    widest = max(b.column - a.end for a, b in pairwise(names))
    return widest > 1 and widest > min(b.column - a.end for a, b in pairwise(nodes))


def runs_of(
    nodes: Sequence[Node], shelf: Shelf, tradition: str, choices: Choices = PLAIN
) -> tuple[list[Item], list[Problem], list[Named]]:
    """The runs of one line, what is wrong with its words, and its names that may be read as others."""
    line = _Line(shelf, tradition, choices)
    line.read(nodes)
    line.close()
    return line.items, line.problems, line.named
