"""The small words between steps, as a line is read: and, then, on, twice, numbers, feet, and where a step goes."""

from collections.abc import Sequence
from itertools import islice

from msgspec.structs import replace

from firn.core.script import said as say
from firn.core.script.choices import Open, OpenCode
from firn.core.script.collector import MOST_TIMES, RunCollector
from firn.core.script.items import Word
from firn.core.script.said import SIDES, card_said
from firn.core.script.tokens import N_NUMBERS, count_of, division, is_name, is_said, names_from, numbered
from firn.core.script.tree import Atom, Bit, Counts, Group, Node

_WHERE = frozenset(say.WHERE)


class SmallWords(RunCollector):
    """Takes what is no step's name but says something of steps."""

    def _small(self, nodes: Sequence[Node], at: int, first: Bit) -> int:
        """Take a word that is no step's name but says something of steps; returns how many tokens it used, 0 for
        none of these."""
        word = first.text.casefold()
        after = nodes[at + 1] if at + 1 < len(nodes) else None
        if word in say.FEET and is_name(after, frozenset(SIDES)):
            return 1
        if word in SIDES:
            return self._side_said(SIDES[word], nodes, at, first)
        if word in say.THEN:
            self._since = len(self._words)
            return 1
        if word in say.ON and self._words[self._since :]:
            return self._on(nodes, at)
        if word in say.WITH and self._words and self._foot_next(nodes, at + 1):
            return 1
        if word in say.ONCE_OR_MORE and self._words:
            self._often(Bit("times", f"x{say.ONCE_OR_MORE[word]}", first.column, first.end))
            return 1
        if say.pace_of(first.text):
            return self._paced(say.pace_of(first.text), first)
        if word in say.NUMBERS:
            return self._number(say.NUMBERS[word], nodes, at, first)
        if word in say.AND or (word in say.DIVISIONS and self._among_counts()):
            return self._and(nodes, at, first)
        if word in say.TO:
            return self._to(nodes, at)
        if word in say.WHERE:
            # "in front": where follows.
            return 1 if word == "in" and is_name(after, _WHERE) else self._where(say.WHERE[word], first)
        if word in say.THE or word in say.ARTICLES:
            return 1 if isinstance(after, Bit) and after.kind == "name" else 0
        return 0

    def _paced(self, counts: int, first: Bit) -> int:
        """Take a slow or a quick."""
        if self._words and not self._join:
            self.close()
        last = self._counts[-1] if self._counts else None
        if last is not None and last.atoms[-1].number is not None:
            # "1 slow step": the count is said, and how long it takes.
            atoms = (*last.atoms[:-1], replace(last.atoms[-1], pace=counts))
            self._counts[-1] = Counts(atoms, last.text, last.column, first.end)
        else:
            self._counts.append(Counts((Atom(None, "", "", None, counts),), first.text, first.column, first.end))
        return 1

    @staticmethod
    def _foot_next(nodes: Sequence[Node], at: int) -> bool:
        """Whether a foot is named next, as in: step with the right, paso con el pie derecho."""
        while at < len(nodes) and is_name(nodes[at], say.THE | say.FEET):
            at += 1
        return at < len(nodes) and is_name(nodes[at], frozenset(SIDES))

    def _to(self, nodes: Sequence[Node], at: int) -> int:
        """Take "to the side" and "to the left": where the word before goes; returns how many tokens that used."""
        used = 2 if is_name(nodes[at + 1] if at + 1 < len(nodes) else None, say.THE) else 1
        last = nodes[at + used] if at + used < len(nodes) else None
        if not isinstance(last, Bit):
            return 0
        word = last.text.casefold()
        side = SIDES.get(word, "") if len(word) > 1 else ""
        if word in say.WHERE:
            self._where(say.WHERE[word], last, plainly=True)
        elif side in ("left", "right") and self._words[self._since :]:
            self._goes(f"to the {side}", last)
        else:
            return 0
        return used + 1

    def _goes(self, where: str, last: Bit) -> None:
        """Say where the word before goes."""
        before = self._words[-1]
        target = replace(before.joined[-1] if before.joined else before, where=where, end=last.end)
        self._words[-1] = replace(before, joined=(*before.joined[:-1], target)) if before.joined else target

    def _where(self, where: str, first: Bit, *, plainly: bool = False) -> int:
        """Take where the word before goes; alone, or where counts are left for it, it is a step there. `plainly`: it
        was said to go there."""
        before = self._words[-1] if self._words[self._since :] else None
        target = before and (before.joined[-1] if before.joined else before)
        moves = target is not None and target.card is not None and target.card.weight_changes > 0
        left = sum(len(g.atoms) for g in self._counts) > sum(len(w.card.beats) if w.card else 1 for w in self._words)
        another = target is not None and bool(target.where or target.text.casefold() in _WHERE or left)
        there = target is None or (moves and (another or where == "together") and not plainly)
        if target is not None and moves and not there and not plainly and self._uncounted:
            there = self._direction(target, first)
        if there:
            card = self.shelf.find("step", self.tradition)
            self._word(Word(first.text, card, first.column, first.end, where=where))
        else:
            self._goes(where, first)
        return 1

    def _direction(self, target: Word, first: Bit) -> bool:
        """Note that a direction after a step without counts may be one more step; gives whether it is taken so."""
        steps = any(word.text.casefold() in _WHERE for word in self._words)
        there = (first.column in self.choices.otherwise) != steps
        turned = first.column in self.choices.otherwise
        written = f"{target.text}, {first.text}" if there else f"{target.text}-{first.text}"
        code: OpenCode = "there" if turned else "goes"
        self.open.append(Open(code, first.column, first.end, written, 4 if turned else 0, since=target.column))
        return there

    def _in_one(self, first: Bit) -> bool:
        """Take a step and where it goes, said in one word, as in step-back; whether it was."""
        name, _, where = first.text.rpartition("-")
        card, plural = self._card(name) if name and where.casefold() in _WHERE else (None, False)
        if card is None:
            return False
        going = say.WHERE[where.casefold()]
        self._word(Word(name, card, first.column, first.end, several=plural, where=going))
        return True

    def _side_said(self, side: str, nodes: Sequence[Node], at: int, first: Bit) -> int:
        """Take the foot that a word is danced with, before it or after it."""
        used = 1
        if is_name(nodes[at + 1] if at + 1 < len(nodes) else None, say.FEET):
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
        if is_name(nodes[at + used] if at + used < len(nodes) else None, say.THE):
            used += 1
        side = nodes[at + used] if at + used < len(nodes) else None
        if isinstance(side, Bit) and is_name(side, frozenset(SIDES)):
            foot = nodes[at + used + 1] if at + used + 1 < len(nodes) else None
            named = foot is not None and is_name(foot, say.FEET)
            self._side_after(SIDES[side.text.casefold()], self._words[-1], foot.end if named and foot else side.end)
            return used + (2 if named else 1)
        counts: list[Counts] = []
        while at + used < len(nodes):
            count = count_of(nodes[at + used])
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
        if self._words and is_name(after, say.TIMES):
            self._often(Bit("times", f"x{number}", first.column, after.end if after is not None else first.end))
            return 2
        names = list(islice(names_from(nodes, at + 1), self.shelf.longest))
        for size in range(len(names), 0, -1):
            card, plural = card_said(self.shelf, " ".join(n.text for n in names[:size]), self.tradition)
            if card is not None:
                if plural:
                    self._many = number, first
                    return 1
                break
        if self._words and not self._join:
            self.close()
        self._counts.append(numbered(number, first))
        return 1

    def _among_counts(self) -> bool:
        """Whether what is said comes after counts, and before their word."""
        return bool(self._counts) and not self._words

    def _and(self, nodes: Sequence[Node], at: int, first: Bit) -> int:
        """Take an "and": a division among counts and before a word, nothing before a count or an article."""
        before = nodes[at - 1] if at else None
        after = nodes[at + 1] if at + 1 < len(nodes) else None
        listed = isinstance(before, Bit) and before.kind == "pause"
        if not self._among_counts():
            article = isinstance(after, Counts) and after.text.casefold() in say.ARTICLES
            number = isinstance(after, Counts) or is_name(after, frozenset(say.NUMBERS))
            if listed or article or (number and self._words):
                self._since = len(self._words)
                return 1
        if self._words and not self._join:
            self.close()
        letter = say.DIVISIONS.get(first.text.casefold(), "&")
        self._counts.append(division(letter, first))
        return 1

    def _run_on(self, node: Counts, nodes: Sequence[Node], at: int) -> int:
        """Take "1+2" and "1n2" for 1 & 2; returns how many more tokens that used."""
        used = 0
        while at + used + 1 < len(nodes):
            sign, number = nodes[at + used], nodes[at + used + 1]
            if not isinstance(sign, Bit) or sign.column != node.end:
                break
            if sign.text != "+" or not isinstance(number, Counts) or number.column != sign.end:
                break
            self._counts += [division("&", sign), number]
            node, used = number, used + 2
        last = nodes[at + used] if at + used < len(nodes) else None
        if isinstance(last, Bit) and last.column == node.end and N_NUMBERS.fullmatch(last.text):
            for figure in last.text[1:].casefold().split("n"):
                self._counts += [division("&", last), numbered(int(figure), last)]
            used += 1
        return used

    def _is_article(self, nodes: Sequence[Node], at: int) -> bool:
        """Whether an "a" is no count: a step, then a step; a step and a step."""
        after_word = is_said(nodes, at - 2, say.AND) and at >= 3 and isinstance(nodes[at - 3], Bit)
        return (after_word or is_said(nodes, at - 2, say.THEN)) and next(names_from(nodes, at), None) is not None

    def _one_of(self, name: str) -> str:
        """A name that is said of several, of one."""
        *before, last = name.split()
        names = (" ".join((*before, one)) for one in say.singular(last))
        return next((one for one in names if self.shelf.find(one, self.tradition) is not None), name)

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
