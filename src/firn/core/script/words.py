"""From tokens to runs: counts, and the words that they belong to, each word looked up."""

import re
from collections.abc import Iterator, Sequence
from itertools import islice, pairwise
from typing import NamedTuple

from msgspec.structs import replace

from firn.core.script import said as say
from firn.core.script.choices import PLAIN, Against, Choices, Named, Open
from firn.core.script.items import Bar, Item, Repeat, Word, WordRun
from firn.core.script.problems import Problem
from firn.core.script.said import SIDES, card_said
from firn.core.script.ties import tied
from firn.core.script.tree import Atom, Bit, Counts, Group, Node
from firn.core.script.turns import WORDS as TURN_WORDS
from firn.core.script.turns import parse_amount
from firn.core.steps.card import Card
from firn.core.steps.shelf import APART, TOGETHER, Shelf

MOST_TIMES = 64
LONGEST_NAME = 80
"""Letters up to which what is not known may be a slip."""


class _Line:
    """Collects one line's items; problems are in columns of that line."""

    def __init__(self, shelf: Shelf, tradition: str, choices: Choices, text: str, *, hints: bool) -> None:
        self.shelf, self.tradition, self.choices, self.text, self.hints = shelf, tradition, choices, text, hints
        self.items: list[Item] = []
        self.problems: list[Problem] = []
        self.named: list[Named] = []
        self.open: list[Open] = []
        # What "x3" covers begins here: after so many words, and on which column.
        self._bound = (0, 0)
        self._counts: list[Counts] = []
        self._words: list[Word] = []
        self._side: tuple[str, Bit] | None = None
        self._join: Bit | None = None
        # How often the next word is danced, where that is said before it; where the words after a pause begin.
        self._many: tuple[int, Bit] | None = None
        self._since = 0
        self._only_count = False

    def problem(self, code: str, at: Bit | Counts | Group, message: str, nearest: tuple[str, ...] = ()) -> None:
        self.problems.append(Problem(code, 0, at.column, at.end, message, nearest))

    def close(self) -> None:
        """End the run."""
        for waiting in (self._side and self._side[1], self._join, self._many and self._many[1]):
            if waiting is not None:
                self.problem("N112", waiting, f'"{waiting.text}" has no word after it.')
        self._side = self._join = self._many = None
        self._since = 0
        if self._counts or self._words:
            self.items.append(WordRun(tuple(self._counts), tuple(self._words)))
        self._counts, self._words = [], []

    def read(self, nodes: Sequence[Node], *, optional: bool = False) -> None:
        at = 0
        nodes = _counts_before(nodes)
        wide = _wide_gaps(nodes)
        self._only_count = sum(isinstance(node, Counts) for node in nodes) == 1
        while at < len(nodes):
            node = nodes[at]
            at += 1
            if node.column in wide or at == 1:
                self._bound_at(node.column)
            if isinstance(node, Counts):
                at += self._counted(node, nodes, at)
            elif isinstance(node, Group):
                after = nodes[at] if at < len(nodes) else None
                if isinstance(after, Bit) and after.kind == "times":
                    at += 1
                    self._repeat(node, after)
                else:
                    self.read(node.items, optional=True)
                self._bound_at(node.end)
            elif self._words and self._is_amount(nodes, at - 1):
                at += self._turn(node, nodes[at] if at < len(nodes) else None)
            elif node.kind == "name" and node.text.casefold() == "or" and self._words and not self._join:
                at += self._or(node, nodes, at)
            elif node.kind == "name":
                at -= 1
                at += self._name(nodes, at, optional)
            elif node.kind == "pause":
                self._since = len(self._words)
                self._bound_at(node.end)
            else:
                self._sign(node)

    def _counted(self, node: Counts, nodes: Sequence[Node], at: int) -> int:
        """Take counts; returns how many more tokens they used."""
        after = nodes[at] if at < len(nodes) else None
        number = node.atoms[0].number if len(node.atoms) == 1 else None
        if number is not None and self._words and _is_name(after, say.TIMES):
            self._often(Bit("times", f"x{number}", node.column, after.end if after is not None else node.end))
            return 1
        if node.text.casefold() in say.ARTICLES and self._is_article(nodes, at):
            return 0
        # Counts after a join only say its place again.
        if self._words and not self._join:
            self.close()
        if self._join:
            return 0
        self._counts.append(node)
        return self._run_on(node, nodes, at)

    def _run_on(self, node: Counts, nodes: Sequence[Node], at: int) -> int:
        """Take "1+2" and "1n2" for 1 & 2; returns how many more tokens that used."""
        used = 0
        while at + used + 1 < len(nodes):
            sign, number = nodes[at + used], nodes[at + used + 1]
            if not isinstance(sign, Bit) or sign.column != node.end:
                break
            if sign.text != "+" or not isinstance(number, Counts) or number.column != sign.end:
                break
            self._counts += [_division("&", sign), number]
            node, used = number, used + 2
        last = nodes[at + used] if at + used < len(nodes) else None
        if isinstance(last, Bit) and last.column == node.end and _N_NUMBERS.fullmatch(last.text):
            for figure in last.text[1:].casefold().split("n"):
                self._counts += [_division("&", last), _numbered(int(figure), last)]
            used += 1
        return used

    def _is_article(self, nodes: Sequence[Node], at: int) -> bool:
        """Whether an "a" is no count: a step, then a step; a step and a step."""
        after_word = _is_said(nodes, at - 2, say.AND) and at >= 3 and isinstance(nodes[at - 3], Bit)
        return (after_word or _is_said(nodes, at - 2, say.THEN)) and next(_names(nodes, at), None) is not None

    def _repeat(self, node: Group, times: Bit) -> None:
        self.close()
        inner = _Line(self.shelf, self.tradition, self.choices, self.text, hints=self.hints)
        inner.read(node.items)
        inner.close()
        self.problems += inner.problems
        self.named += inner.named
        self.open += inner.open
        self.items.append(Repeat(tuple(inner.items), self._times(times)))

    def _times(self, bit: Bit) -> int:
        times = self._times_of(bit)
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
            card, plural = self._card(text)
            said = self.shelf.parting(text) if card is not None and size > 1 else ""
            if card is not None and said != APART:
                used = _reach(nodes, at, size)
                if self._many is not None and self._many[0] == 1 and not plural:
                    self._many = None
                if plural and self._many is None:
                    self._counted_or_many(first, names[size - 1])
                if size > 1 and said != TOGETHER:
                    self._note(nodes, at, names[:size], card, at + used)
                end = names[size - 1].end
                self._word(Word(text, card, first.column, end, optional=optional, several=plural))
                return used
        if self.choices.before and first.text.casefold() in SIDES:
            self._side = SIDES[first.text.casefold()], first
            return 1
        if first.text.casefold() == "it" and self._words and self._words[-1].text.casefold() in ("hold", "wait"):
            return 1
        small = 0 if self.choices.before else self._small(nodes, at, first)
        if small:
            return small
        following = _names(nodes, at)
        names = list(islice(following, self.shelf.longest))
        # All of an unknown name together, up to the next word that is known, makes one problem.
        size = 1
        while size < len(names) and not self._known(names, size):
            size += 1
            names += islice(following, 1)
        text = " ".join(n.text for n in names[:size])
        shown = text if len(text) <= 40 else text[:39] + "…"
        nearest = self.shelf.nearest(text) if self.hints and len(text) <= LONGEST_NAME else ()
        theirs = self.shelf.called_so(text, self.tradition)
        message = f'No step is called "{shown}".'
        if theirs is not None:
            nearest = say.own_names(self.shelf, text, self.tradition) or nearest
            whose = " and ".join(theirs.traditions)
            message = f'In {self.tradition} no step is called "{shown}": it is one of {whose}.'
        hint = f" Nearest: {', '.join(nearest)}." if nearest else ""
        self.problems.append(Problem("N101", 0, first.column, names[size - 1].end, f"{message}{hint}", nearest))
        self._word(Word(text, None, first.column, names[size - 1].end, optional=optional))
        return size

    def _small(self, nodes: Sequence[Node], at: int, first: Bit) -> int:
        """Take a word that is no step's name but says something of steps; returns how many tokens it used, 0 for
        none of these."""
        word = first.text.casefold()
        after = nodes[at + 1] if at + 1 < len(nodes) else None
        if word in SIDES:
            return self._side_said(SIDES[word], nodes, at, first)
        if word in say.THEN:
            self._since = len(self._words)
            return 1
        if word in say.ON and self._words[self._since :]:
            return self._on(nodes, at)
        if word in say.ONCE_OR_MORE and self._words:
            self._often(Bit("times", f"x{say.ONCE_OR_MORE[word]}", first.column, first.end))
            return 1
        if word in say.NUMBERS:
            return self._number(say.NUMBERS[word], nodes, at, first)
        if word in say.AND or (word in say.DIVISIONS and self._among_counts(nodes, at)):
            return self._and(nodes, at, first)
        if word in say.TO and self._where_after(nodes, at + 1):
            return 1
        if word in say.WHERE:
            # "in front": where follows.
            return 1 if word == "in" and _is_name(after, _WHERE) else self._where(say.WHERE[word], first)
        if word in say.THE or word in say.ARTICLES:
            return 1 if isinstance(after, Bit) and after.kind == "name" else 0
        return 0

    @staticmethod
    def _where_after(nodes: Sequence[Node], at: int) -> bool:
        """Whether a place to go to comes next, with its article or without."""
        if at < len(nodes) and _is_name(nodes[at], say.THE):
            at += 1
        return at < len(nodes) and _is_name(nodes[at], _WHERE)

    def _where(self, where: str, first: Bit) -> int:
        """Take where the word before goes; alone, or where counts are left for it, it is a step there."""
        before = self._words[-1] if self._words[self._since :] else None
        target = before and (before.joined[-1] if before.joined else before)
        moves = target is not None and target.card is not None and target.card.weight_changes > 0
        left = sum(len(g.atoms) for g in self._counts) > sum(len(w.card.beats) if w.card else 1 for w in self._words)
        goes = target is None or (moves and (bool(target.where) or left or where == "together"))
        if goes or target is None or before is None:
            card = self.shelf.find("step", self.tradition)
            self._word(Word(first.text, card, first.column, first.end, where=where))
            return 1
        target = replace(target, where=where, end=first.end)
        self._words[-1] = replace(before, joined=(*before.joined[:-1], target)) if before.joined else target
        return 1

    def _side_said(self, side: str, nodes: Sequence[Node], at: int, first: Bit) -> int:
        """Take the foot that a word is danced with, before it or after it."""
        used = 1
        if _is_name(nodes[at + 1] if at + 1 < len(nodes) else None, say.FEET):
            used = 2
        following = nodes[at + used] if at + used < len(nodes) else None
        if len(first.text) == 1 and isinstance(following, Bit) and following.text == ".":
            # "l." is short for left.
            used += 1
            following = nodes[at + used] if at + used < len(nodes) else None
        goes_on = isinstance(following, Group) or (isinstance(following, Bit) and following.kind == "name")
        waiting = self._words[-1] if self._words[self._since :] and self._side is None and not self._join else None
        if waiting is not None and (not goes_on or self._sides_follow(nodes, at)):
            self._side_after(side, waiting, nodes[at + used - 1].end)
            return used
        if self._side is not None:
            self._lone_side(*self._side)
        self._side = side, first
        if not goes_on:
            self._lone_side(*self._side)
        return used

    def _lone_side(self, side: str, said: Bit) -> None:
        """A foot that is named in place of a step is a step with it: left, right, left. A letter alone is none."""
        self._side = None
        if len(said.text) > 1 and side != "both":
            self._word(Word(said.text, self.shelf.find("step", self.tradition), said.column, said.end, side=side))
        else:
            self.problem("N112", said, f'"{said.text}" has no word after it.')

    def _side_after(self, side: str, word: Word, end: int) -> None:
        """Say the foot of the word before; said of one word again, it is danced again with that foot."""
        target = word.joined[-1] if word.joined else word
        if not target.side:
            target = replace(target, side=side, end=end)
            self._words[-1] = replace(word, joined=(*word.joined[:-1], target)) if word.joined else target
        else:
            self._words.append(replace(word, side=side, end=end))

    def _sides_follow(self, nodes: Sequence[Node], at: int) -> bool:
        """Whether feet are said after their words here: what is said up to the next count or pause ends with one."""
        last: Node | None = None
        for node in nodes[at:]:
            if not isinstance(node, Bit) or node.kind not in ("name", "mark"):
                break
            last = node
        return isinstance(last, Bit) and last.text.casefold() in (*SIDES, *say.FEET)

    def _on(self, nodes: Sequence[Node], at: int) -> int:
        """Take the counts of the words before it: stomp on 8, step on the and; returns how many tokens it used."""
        used = 1
        if _is_name(nodes[at + used] if at + used < len(nodes) else None, say.THE):
            used += 1
        side = nodes[at + used] if at + used < len(nodes) else None
        if isinstance(side, Bit) and _is_name(side, frozenset(SIDES)):
            self._side_after(SIDES[side.text.casefold()], self._words[-1], side.end)
            foot = nodes[at + used + 1] if at + used + 1 < len(nodes) else None
            return used + (2 if _is_name(foot, say.FEET) else 1)
        counts: list[Counts] = []
        while at + used < len(nodes):
            count = _count_of(nodes[at + used])
            if count is None:
                break
            counts.append(count)
            used += 1
        if not counts or (self._counts and not self._since):
            return 0
        words = self._words[self._since :]
        del self._words[self._since :]
        self.close()
        self._counts, self._words = counts, words
        self.close()
        return used

    def _number(self, number: int, nodes: Sequence[Node], at: int, first: Bit) -> int:
        """Take a number in words: how often, before a plural or "times"; else a count."""
        after = nodes[at + 1] if at + 1 < len(nodes) else None
        if self._words and _is_name(after, say.TIMES):
            self._often(Bit("times", f"x{number}", first.column, after.end if after is not None else first.end))
            return 2
        names = list(islice(_names(nodes, at + 1), self.shelf.longest))
        for size in range(len(names), 0, -1):
            card, plural = card_said(self.shelf, " ".join(n.text for n in names[:size]), self.tradition)
            if card is not None:
                if plural:
                    self._many = number, first
                    return 1
                break
        if self._words and not self._join:
            self.close()
        self._counts.append(_numbered(number, first))
        return 1

    def _among_counts(self, nodes: Sequence[Node], at: int) -> bool:
        """Whether what is said stands between counts, or right after one."""
        return at > 0 and isinstance(nodes[at - 1], Counts) and not self._words

    def _and(self, nodes: Sequence[Node], at: int, first: Bit) -> int:
        """Take an "and": a division among counts and before a word, nothing before a count or an article."""
        before = nodes[at - 1] if at else None
        after = nodes[at + 1] if at + 1 < len(nodes) else None
        listed = isinstance(before, Bit) and before.kind == "pause"
        counted = bool(self._counts) and not self._words
        if not counted:
            article = isinstance(after, Counts) and after.text.casefold() in say.ARTICLES
            number = isinstance(after, Counts) or _is_name(after, frozenset(say.NUMBERS))
            if listed or article or (number and self._words):
                self._since = len(self._words)
                return 1
        if self._words and not self._join:
            self.close()
        letter = say.DIVISIONS.get(first.text.casefold(), "&")
        self._counts.append(_division(letter, first))
        return 1

    def _card(self, text: str) -> tuple[Card | None, bool]:
        """The card that a name means, and whether it is said of several."""
        if self.choices.before:
            return self.shelf.called_so(text, self.tradition), False
        return card_said(self.shelf, text, self.tradition)

    def _counted_or_many(self, first: Bit, last: Bit) -> None:
        """A number before a plural, alone on its line: the count that it is on, or how many."""
        alone = len(self._counts) == 1 and not self.items and not self._words and self._only_count
        number = self._counts[0].atoms[0].number if alone and len(self._counts[0].atoms) == 1 else None
        if number is None or not 1 < number <= MOST_TIMES or self._counts[0].atoms[0].through is not None:
            return
        group = self._counts[0]
        name = self.text[first.column : last.end]
        if group.column in self.choices.otherwise:
            self.open.append(Open("many", group.column, last.end, f"{name} x{number}", 4))
            self._many = number, first
            self._counts = []
        else:
            self.open.append(Open("count", group.column, last.end, f"{number} {self._one_of(name)}"))

    def _one_of(self, name: str) -> str:
        """A name that is said of several, of one."""
        *before, last = name.split()
        names = (" ".join((*before, one)) for one in say.singular(last))
        return next((one for one in names if self.shelf.find(one, self.tradition) is not None), name)

    def _note(self, nodes: Sequence[Node], at: int, names: Sequence[Bit], card: Card, after_at: int) -> None:
        """Note a name of several words that may be read as others."""
        sizes = tuple(size for size in range(len(names) - 1, 0, -1) if self._begins(names, size))
        if not sizes:
            return
        first, last = names[0].text.casefold(), names[-1].text.casefold()
        after, before = self._lone_after(nodes, after_at), self._lone_before(nodes, at)
        # A word beside it that would make another name with its last, or its first.
        goes_on, led = self._makes(last, after), self._makes(before, first)
        told: dict[Against, bool] = {
            "apart": _wide(nodes, names) or any(isinstance(n, Bit) and n.kind == "pause" for n in nodes[at:after_at]),
            "first after": after == first and goes_on,
            "last after": after == last and goes_on,
            "first before": before == first and (led or len(names) == 2),
            "last before": before == last and led,
        }
        against = frozenset(what for what, holds in told.items() if holds)
        text = " ".join(n.text for n in names)
        self.named.append(Named(text, card, names[0].column, names[-1].end, sizes, against))

    def _makes(self, one: str, other: str) -> bool:
        """Whether two words are a name together."""
        return bool(one and other) and self._card(f"{one} {other}")[0] is not None

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
        known, _ = card_said(self.shelf, " ".join(n.text for n in names[:size]), self.tradition)
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
        texts = (" ".join(n.text for n in names[at : at + size]) for size in sizes)
        return names[at].text.casefold() in _SMALL or any(
            card_said(self.shelf, text, self.tradition)[0] for text in texts
        )

    def _word(self, word: Word) -> None:
        if self._side is not None:
            word = replace(word, side=self._side[0], column=self._side[1].column)
            self._side = None
        if self._many is not None:
            word = replace(word, times=self._many[0], column=self._many[1].column)
            self._many = None
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
        elif bit.kind == "times":
            self._often(bit)
        else:
            self._mark(bit)

    def _is_amount(self, nodes: Sequence[Node], at: int) -> bool:
        """Whether a token says how far to turn: a fraction, or quarter, half, full where they begin no step."""
        bit = nodes[at]
        if not isinstance(bit, Bit) or bit.text.casefold() not in TURN_WORDS:
            return isinstance(bit, Bit) and bit.kind == "fraction"
        names = list(islice(_names(nodes, at), self.shelf.longest))
        sizes = range(1, len(names) + 1)
        return not any(self._card(" ".join(n.text for n in names[:size]))[0] for size in sizes)

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

    def _bound_at(self, column: int) -> None:
        """What "x3" covers begins no earlier than here."""
        self._bound = _many_words(self.items) + len(self._words), column

    def _often(self, bit: Bit) -> None:
        """Take "x3": for all words back to a bracket, a pause, a wide gap or the beginning; or for the last alone."""
        bound, column = self._bound
        covered = _many_words(self.items) + len(self._words) - bound
        often = self._times_of(bit)
        if self.choices.before or covered < 2 or often < 2 or self._restated(often):
            self._mark(bit)
            return
        # Back over whole runs, and into the one that is open where a pause is in it.
        own, items = len(self._words), len(self.items)
        while items and covered - own >= _many_words(self.items[items - 1 : items]):
            items -= 1
            own += _many_words(self.items[items : items + 1])
        inside = max(0, len(self._words) - covered)
        counts = [c for i in self.items[items:] if isinstance(i, WordRun) for c in i.counts]
        start = self._counts[0].column if self._counts and len(self._words) == 1 else self._words[-1].column
        said = self.text[column : bit.column].strip()
        if bit.column in self.choices.otherwise:
            apart = f"{self.text[column:start].strip()},  {self.text[start : bit.column].strip()} {bit.text}"
            self.open.append(Open("alone", bit.column, bit.end, apart, 4 if counts else 7, since=column))
            self._mark(bit)
            return
        self.open.append(Open("all", bit.column, bit.end, f"( {said} ) {bit.text}", since=column))
        if inside:
            before, self._words = self._words[:inside], self._words[inside:]
            self.items.append(WordRun(tuple(self._counts), tuple(before)))
            self._counts = []
            items = len(self.items)
        self.close()
        body = self.items[items:]
        del self.items[items:]
        self.items.append(Repeat(tuple(body), self._times(bit)))
        self._bound_at(bit.end)

    def _restated(self, times: int) -> bool:
        """Whether the counts of a word say already how often it is danced: 6 7 8 step x3, 1-4 step x4."""
        card = self._words[-1].card
        if len(self._words) != 1 or card is None or not self._counts:
            return False
        atoms = [atom for group in self._counts for atom in group.atoms]
        far = [a.through - a.number + 1 for a in atoms if a.through is not None and a.number is not None]
        return len(atoms) == times * len(card.beats) or far == [times]

    @staticmethod
    def _times_of(bit: Bit) -> int:
        return int(bit.text[1:].strip()[:6])

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


def _many_words(items: Sequence[Item]) -> int:
    """How many words some items hold; what is repeated counts as several."""
    return sum(len(i.words) if isinstance(i, WordRun) else 2 if isinstance(i, Repeat) else 0 for i in items)


_N_NUMBERS = re.compile(r"(?:[nN]\d{1,2})+")
_SMALL = frozenset({*SIDES, *say.AND, *say.THEN, *say.ON, *say.ONCE_OR_MORE, *say.WHERE})
_WHERE = frozenset(say.WHERE)
"""Words that end an unknown name."""


def _is_name(node: Node | None, words: frozenset[str]) -> bool:
    """Whether a token is one of some words."""
    return isinstance(node, Bit) and node.kind == "name" and node.text.casefold() in words


def _is_said(nodes: Sequence[Node], at: int, words: frozenset[str]) -> bool:
    return at >= 0 and _is_name(nodes[at], words)


def _count_of(node: Node) -> Counts | None:
    """A token as a count, in figures or in words; None for none."""
    if isinstance(node, Counts):
        return node
    if not isinstance(node, Bit) or node.kind != "name":
        return None
    word = node.text.casefold()
    if word in say.DIVISIONS:
        return _division(say.DIVISIONS[word], node)
    return _numbered(say.NUMBERS[word], node) if word in say.NUMBERS else None


def _division(letter: str, at: Bit) -> Counts:
    """A division that is said as a word."""
    return Counts((Atom(None, letter, "", None),), letter, at.column, at.end)


def _numbered(number: int, at: Bit) -> Counts:
    """A count that is said as a word."""
    return Counts((Atom(number, "", "", None),), str(number), at.column, at.end)


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


def _counts_before(nodes: Sequence[Node]) -> Sequence[Node]:
    """A line in which every step is said before its counts, parted by pauses, as if they were said before it."""
    parts: list[list[Node]] = [[]]
    for node in nodes:
        if isinstance(node, Bit) and node.kind == "pause":
            parts.append([])
        else:
            parts[-1].append(node)
    parts = [part for part in parts if part]
    if len(parts) < 2 or not all(_ends_with_counts(part) for part in parts):
        return nodes
    made: list[Node] = []
    for part in parts:
        at = next(n for n, node in enumerate(part) if isinstance(node, Counts))
        made += [*part[at:], *part[:at]]
    return made


def _ends_with_counts(nodes: Sequence[Node]) -> bool:
    """Whether words come first, and then counts alone."""
    at = next((n for n, node in enumerate(nodes) if isinstance(node, Counts)), 0)
    words = all(isinstance(node, Bit) and node.kind == "name" for node in nodes[:at])
    return at > 0 and words and not _is_name(nodes[at - 1], say.ON) and all(isinstance(n, Counts) for n in nodes[at:])


def _wide_gaps(nodes: Sequence[Node]) -> frozenset[int]:
    """The columns of tokens that stand further from the one before than others of their line do."""
    gaps = {after.column: after.column - before.end for before, after in pairwise(nodes)}
    least = min(gaps.values(), default=0)
    return frozenset(column for column, gap in gaps.items() if gap > max(1, least))


def _wide(nodes: Sequence[Node], names: Sequence[Bit]) -> bool:
    """Whether words stand further apart than others of their line do."""
    wide = _wide_gaps(nodes)
    return any(name.column in wide for name in names[1:])


class Runs(NamedTuple):
    """A line's runs of counts and words, what is wrong with them, its names that may be read as others, and what else
    it leaves open."""

    items: list[Item]
    problems: list[Problem]
    named: list[Named]
    open: list[Open]


def runs_of(
    nodes: Sequence[Node],
    shelf: Shelf,
    tradition: str,
    choices: Choices = PLAIN,
    text: str = "",
    *,
    hints: bool = True,
) -> Runs:
    """The runs of one line, whose tokens are given with it; `hints`: which names are near to an unknown one."""
    line = _Line(shelf, tradition, choices, text, hints=hints)
    line.read(nodes)
    line.close()
    items = line.items if choices.untied else tied(line.items)
    return Runs(items, line.problems, line.named, line.open)
