"""Counts as they are said between steps: numbers in words, and, for, how many, how long."""

import re
from collections.abc import Sequence
from itertools import islice, takewhile

from msgspec.structs import replace

from firn.core.script import said as say
from firn.core.script.choices import Open, OpenCode
from firn.core.script.collector import MOST_TIMES
from firn.core.script.counted import WALKED_ON
from firn.core.script.items import Word, WordRun, of_no_foot
from firn.core.script.said import SIDES, card_said
from firn.core.script.said_lists import SaidLists, counted_after, on_follows, word_and
from firn.core.script.tokens import (
    N_NUMBERS,
    count_of,
    division,
    is_name,
    is_said,
    is_small_a,
    may_be_several,
    names_from,
    numbered,
    said_in_letters,
)
from firn.core.script.tree import Bit, Counts, Group, Node, is_pause, is_word, number_alone
from firn.core.steps.card import Card

_SIDES = frozenset(SIDES)
_FOOT = _SIDES | {"d", "i"}
_WHERE = frozenset(say.WHERE)
_PARTS = frozenset(word for word, letter in say.DIVISIONS.items() if letter != "&")
_OFTEN = frozenset(say.ONCE_OR_MORE)

_ONE, _NEXT = frozenset({"one", "un", "uno"}), 2
"""Said before a figure that is called by a number, if that is not the next count."""
_OPENING = 3
"""What speaks against the "and" that a line begins with being no &."""
MOST_FEW = 4
"""The highest number taken for how many where the names hardly say that it is: common practice, no source."""
MOST_LISTED = 400
"""Letters of a line that may be one list."""
_ON_ONE = 6
"""What speaks against "one" being a count where no other is said: as much as two counts that stay empty."""

_COUNTS = frozenset(word for word in say.COUNTED if word.endswith("s"))


class SaidCounts(SaidLists):
    """Takes counts that are said in words, how many and how long."""

    def _long(self, card: Card) -> int:
        """How many counts a step takes as it is usually danced."""
        return max(card.counts, sum(sign.isdigit() for sign in card.usual_for(self.tradition)), 1)

    def _counts_of(self, node: Counts, nodes: Sequence[Node], at: int) -> int | None:
        """Take "8 counts of" before a step, or "8 counts" before one of several sounds: so often as it goes into
        them; returns how many tokens that used, None where it is something else."""
        if not is_said(nodes, at, say.COUNTED):
            return None
        number, of = number_alone(node), is_said(nodes, at + 1, say.OF)
        names = list(islice(names_from(nodes, at + 1 + of), self.shelf.longest))
        sizes = range(len(names), 0, -1)
        card = next((c for n in sizes if (c := self._card(" ".join(b.text for b in names[:n]))[0]) is not None), None)
        long = 1 if card is None else self._long(card)
        if card is None or number is None or number % long or not 1 <= number // long <= MOST_TIMES:
            return None
        # "2 counts stamp" may be one that lasts.
        if not of and (len(card.beats) < 2 or not is_name(nodes[at], _COUNTS)):
            return None
        if self._words and not self._join:
            self.close()
        self._many = number // long, Bit("times", f"x{number // long}", node.column, nodes[at + of].end)
        return 1 + of

    def _lasting(self) -> bool:
        """Whether the word before, which has no count of its own, may last as long as is said after it."""
        own = self._words[self._since :]
        return bool(own) and bool(not self._counts or self._since) and own[-1].text.casefold() in say.LASTS

    def _far(self, node: Counts, nodes: Sequence[Node], at: int) -> int | None:
        """Take how long a hold is, or a range said as "1 to 4"; `node` is its first number.

        Gives how many more tokens that used, None where it is neither.
        """
        after = nodes[at] if at < len(nodes) else None
        number = number_alone(node)
        if number is None:
            return None
        if self._lasting():
            used = 1 if is_name(after, say.COUNTED) else 0
            ends = after is None or used or is_pause(after) or is_name(after, say.THEN)
            if ends and self._held(number, node, plainly=bool(used)):
                return used
        lone_a = is_small_a(after)
        if (is_name(after, say.THROUGH) or lone_a) and at + 1 < len(nodes):
            through = count_of(nodes[at + 1])
            last = number_alone(through)
            if through is not None and last is not None and number + int(lone_a) < last <= number + MOST_TIMES:
                if lone_a and not self._to_the(node, number, last, through):
                    return None
                atom = replace(node.atoms[0], through=last)
                self._taken(Counts((atom,), f"{number}-{last}", node.column, through.end))
                return 2
        return None

    def _taken(self, node: Counts) -> int:
        """Take counts as they stand, and no more tokens; after a join they only say its place again."""
        if self._words and not self._join:
            self.close()
        if not self._join:
            self._counts.append(node)
        return 0

    def _to_the(self, node: Counts, first: int, last: int, through: Counts) -> bool:
        """Note that "1 a 4" may be from 1 to 4, or on 1, its a, and 4; whether it is taken as the first."""
        ranged = node.column not in self.choices.otherwise
        code: OpenCode = "linked" if ranged else "between"
        written = f"{first}-{last}" if ranged else f"{first}a {last}"
        self.open.append(Open(code, node.column, through.end, written, 0 if ranged else 1))
        return ranged

    def _for(self, nodes: Sequence[Node], at: int) -> int:
        """Take "for two counts" after a hold; returns how many tokens that used."""
        count = count_of(nodes[at + 1]) if at + 1 < len(nodes) else None
        number = count.atoms[0].number if count is not None and len(count.atoms) == 1 else None
        if count is None or number is None or not self._held(number, count, plainly=True):
            return 0
        return 3 if is_name(nodes[at + 2] if at + 2 < len(nodes) else None, say.COUNTED) else 2

    def _held(self, number: int, node: Counts, *, plainly: bool) -> bool:
        """Take the number after a hold: the count that it is on, or for how many; `plainly`: for how many. Whether it
        can be either."""
        if not 1 <= number <= MOST_TIMES:
            return False
        hold = self._words[-1]
        # "step on 1 2 3, pause 4": the next count.
        next_one = not plainly and number == self._last_number() + 1
        many = plainly or (node.column in self.choices.otherwise and not next_one)
        if not plainly and not next_one:
            code: OpenCode = "many" if many else "count"
            said = f"{hold.text} for {number} counts" if many else f"{number} {hold.text}"
            end = _closed(self.text, hold.column, node.end)
            self.open.append(Open(code, node.column, end, said, 1 if many else 0, since=hold.column))
        if many:
            self._words[-1] = replace(hold, times=number, end=node.end)
            return True
        self._words.pop()
        self.close()
        self._counts, self._words = [node], [replace(hold, end=node.end)]
        self.close()
        return True

    def _last_number(self) -> int:
        """The last number that was said as a count; -1 where none was."""
        counts = [*(c for i in self.items if isinstance(i, WordRun) for c in i.counts), *self._counts]
        last = counts[-1].atoms[-1] if counts else None
        return -1 if last is None or last.number is None else last.through or last.number

    def _number(self, number: int, nodes: Sequence[Node], at: int, first: Bit) -> int:
        """Take a number in words: how often, before a plural or "times"; else a count."""
        after = nodes[at + 1] if at + 1 < len(nodes) else None
        card = self._called_by_number(nodes, at, first)
        if card is not None:
            self._word(Word(first.text, card, first.column, first.end))
            return 1
        if number == 1 and self._one_so_called(nodes, at):
            self._counted_out = True
            return 1
        if is_name(after, say.TIMES) and (self._words or self._paced_steps()):
            self._often(Bit("times", f"x{number}", first.column, after.end if after is not None else first.end))
            return 2
        names = list(islice(names_from(nodes, at + 1), self.shelf.longest))
        if first.column in self._lone_ones and is_name(after, _WHERE):
            # "…, one together".
            self._since = len(self._words)
            return 1
        for size in range(len(names), 0, -1):
            card, plural = card_said(self.shelf, " ".join(n.text for n in names[:size]), self.tradition)
            if card is not None:
                # "three sevens": a name that is said of several anyway.
                several = number > 1 and may_be_several(names[size - 1].text)
                alone = first.column in self._lone_ones and self._one_alone(first, names[size - 1])
                out = number == 1 and (self._counted_out or self._how_many)
                if not self._numbered and (plural or several or alone or out):
                    self._counted_out = True
                    self._many = number, first
                    return 1
                break
        more = self._far(numbered(number, first), nodes, at + 1)
        if more is None:
            more = self._counts_of(numbered(number, first), nodes, at + 1)
        if more is not None:
            return more + 1
        if self._words and not self._join:
            self.close()
        self._counts.append(numbered(number, first))
        return 1

    def _one_alone(self, one: Bit, last: Bit) -> bool:
        """Note that "one" before the only step of a line may be how many, or the count that it is on; whether it is
        taken as how many."""
        counted = one.column in self.choices.otherwise
        code: OpenCode = "numbers" if counted else "so_often"
        name = self.text[one.end : last.end].strip()
        said = f"1 {name}" if counted else name
        self.open.append(Open(code, one.column, last.end, said, _ON_ONE if counted else 0))
        return not counted

    def _called_by_number(self, nodes: Sequence[Node], at: int, first: Bit) -> Card | None:
        """The figure that is called by a number after an article, or before the way that it goes: a seven, seven to
        the right; None for none."""
        before = nodes[at - 1] if at else None
        article = isinstance(before, Counts | Bit) and before.text.casefold() in say.ARTICLES
        article = article or self._one_so_called(nodes, at - 1)
        goes = is_said(nodes, at + 1, say.TO) and is_said(nodes, at + 2 + is_said(nodes, at + 2, say.THE), _SIDES)
        return self.shelf.find(f"{first.text}s", self.tradition) if article or goes else None

    def _one_so_called(self, nodes: Sequence[Node], at: int) -> bool:
        """Whether "one" stands before a figure that is called by a number which is not the next count: one seven, two
        threes."""
        called = nodes[at + 1] if 0 <= at < len(nodes) - 1 else None
        after = nodes[at + 2] if at + 2 < len(nodes) else None
        one = nodes[at] if at >= 0 else None
        if not (is_name(one, _ONE) or (one is not None and number_alone(one) == 1)) or not isinstance(called, Bit):
            return False
        number = say.NUMBERS.get(called.text.casefold(), 0) if is_word(called) else 0
        ends = after is None or is_pause(after) or is_name(after, say.AND | say.THEN)
        return number > _NEXT and ends and self.shelf.find(f"{called.text}s", self.tradition) is not None

    def _among_counts(self) -> bool:
        """Whether what is said comes after counts, and before their word."""
        return bool(self._counts) and not self._words

    def _and(self, nodes: Sequence[Node], at: int, first: Bit) -> int:
        """Take an "and": a division among counts and before a word, nothing before a count or an article."""
        before = nodes[at - 1] if at else None
        after = nodes[at + 1] if at + 1 < len(nodes) else None
        listed = is_pause(before)
        if self._held_on(before, after):
            return 1
        long = nodes[at + 2] if at + 2 < len(nodes) else None
        if (
            is_name(after, say.LASTS)
            and self._words
            and long is not None
            and (is_name(long, say.FOR) or count_of(long) is not None)
        ):
            # "stamp and hold for 2 counts".
            self._since = len(self._words)
            return 1
        if is_name(after, _PARTS) and count_of(nodes[at + 2] if at + 2 < len(nodes) else first) is not None:
            # "and ah two": both are divisions.
            return self._taken(division("&", first)) + 1
        # "stamp once and clap twice" says it of each.
        links = is_name(after, say.THEN | say.ON) or is_name(before, _OFTEN) or self._links_names(before, after)
        on_count = bool(self._words) and not links and counted_after(nodes, at + 1)
        if on_count and self._both_on_count(nodes, at + 1, first):
            self._join = Bit("join", "+", first.column, first.end)
            return 1
        links = links or on_count
        between = None if links else self._links_words(after, first, listed=listed)
        if self._together(nodes, at + 1) and self._words and not self._join:
            # "stamp and clap together".
            self._join, self._at_once = Bit("join", "+", first.column, first.end), True
            return 1
        if links or between:
            self._since = len(self._words)
            return 1
        if at == 0 and self._opens_with_and(first, nodes):
            return 1
        if between is None and not self._among_counts():
            article = isinstance(after, Counts) and self._is_article(nodes, at + 2)
            number = isinstance(after, Counts) or is_name(after, frozenset(say.NUMBERS))
            if number and listed and self._leads_up(nodes, at, first):
                return self._taken(division("&", first)) + 1
            ranged = isinstance(after, Counts) and after.atoms[0].through is not None
            if listed or article or ranged or (number and self._words):
                self._since = len(self._words)
                return 1
        elif self._counts and word_and(first) and self._links(self._counts[-1], first, after, listed=self._lists):
            return 1
        if self._words and not self._join:
            self.close()
        letter = say.DIVISIONS.get(first.text.casefold(), "&")
        self._counts.append(division(letter, first))
        return 1

    def _held_on(self, before: Node | None, after: Node | None) -> bool:
        """Whether an "and" only leads from counts that are steps to a hold: 1 2 3 and hold."""
        counted = isinstance(before, Counts) and self._among_counts() and len(self._counts) > 1
        return counted and is_name(after, say.LASTS) and self.tradition in WALKED_ON

    def _both_on_count(self, nodes: Sequence[Node], at: int, said: Bit) -> bool:
        """Note that "stamp and clap on 4" may be both at once, or one after the other; whether it is taken so."""
        names = [name.text for name in takewhile(lambda name: not is_name(name, say.ON), names_from(nodes, at))]
        card = self._card(" ".join(names))[0]
        before = self._words[-1]
        hands = card is not None and of_no_foot(Word(card.name, card, 0, 0))
        alone = len(self._words) == 1 and before.times == 1 and not (self.items or self._counts or before.joined)
        if not alone or hands == of_no_foot(before):
            return False
        after = said.column in self.choices.otherwise
        code: OpenCode = "between" if after else "linked"
        self.open.append(Open(code, said.column, said.end, "," if after else "+", 2 if after else 0))
        return not after

    def _opens_with_and(self, first: Bit, nodes: Sequence[Node]) -> bool:
        """Whether the "and" that a line begins with goes on from what was said before; before one sound that has no
        count it may be the & that it is on, which is noted."""
        after = nodes[1] if len(nodes) > 1 else None
        number = after is not None and number_alone(count_of(after)) is not None
        names = [name.text for name in islice(names_from(nodes, 1 + number), self.shelf.longest)]
        found = (self._card(" ".join(names[:size])) for size in range(len(names), 0, -1))
        card, several = next((one for one in found if one[0] is not None), (None, False))
        goes = is_name(after, _SIDES) or is_name(after, _WHERE)
        if not (goes or card is not None) or not word_and(first):
            return False
        if card is not None and not goes and not card.usual_for(self.tradition).lstrip()[:1].isdecimal():
            # "and flap" begins on the & by itself, and so does "and 1 flap".
            return several and number
        sounds = 1 if card is None else len(card.beats)
        if isinstance(after, Group) or after is None or sounds != 1 + number:
            # "and 1 step", "and rock step": it is no sound's.
            return number or self._uncounted
        links = first.column not in self.choices.otherwise
        code: OpenCode = "linked" if links else "between"
        written = after.text if links else f"& {after.text}"
        # "and 1 rock step" is rather on 1, "and step" on the &.
        self.open.append(Open(code, first.column, after.end, written, _OPENING if links != number else 0))
        return links

    def _leads_up(self, nodes: Sequence[Node], at: int, said: Bit) -> bool:
        """Note that an "and" after a pause, before a count, may be the & before it, where a figure of two sounds is
        danced there: one step, and two toe heel; whether it is taken so."""
        names = [name.text for name in islice(names_from(nodes, at + 2), self.shelf.longest)]
        found = (self._card(" ".join(names[:size])) for size in range(len(names), 0, -1))
        card, several = next((one for one in found if one[0] is not None), (None, False))
        before = self._last_word()
        if card is None or several or before is None or len(card.beats) != 2:
            return False
        if self._leads is not None:
            # One that is taken so takes all others of the line along.
            return self._leads
        self._leads = leads = said.column in self.choices.otherwise
        code: OpenCode = "between" if leads else "linked"
        self.open.append(Open(code, said.column, nodes[at + 1].column, "& " if leads else "", 3 if leads else 0))
        return leads

    def _together(self, nodes: Sequence[Node], at: int) -> bool:
        """Whether a step and then "together" are said from a token on, and nothing more before a pause or a count."""
        near = nodes[at : at + self.shelf.longest + 2]
        names = list(takewhile(is_word, near))
        ends = next((n for n, node in enumerate(names) if is_name(node, say.ON)), len(names))
        said = [node.text for node in names[:ends] if isinstance(node, Bit)]
        if len(said) < 2 or said[-1].casefold() not in say.AS_ONE or self._card(" ".join(said[:-1]))[0] is None:
            return False
        # "and balls together" is a step of that name.
        return self._card(" ".join(said))[0] is None

    def _links_names(self, before: Node | None, after: Node | None) -> bool:
        """Whether an "and" stands between two feet, or before an article or a hold: right and left, dos golpes y una
        palma, three stamps and hold."""
        feet = is_name(before, _SIDES) and is_name(after, _SIDES)
        # "… and hold": what is still is on no &.
        held = self._uncounted and is_name(after, say.LASTS)
        return bool(self._words) and (feet or held or is_name(after, say.ARTICLES))

    def _links_words(self, after: Node | None, said: Bit, *, listed: bool) -> bool | None:
        """Whether an "and" between words without counts only links them.

        After a figure or a pause it may, or be the & between them, which is noted; after a single sound it is the &
        that follows, after several it rather is. None where it is plain.
        """
        last = self._words[-1] if self._words else None
        figure = last is not None and last.card is not None and (len(last.card.beats) > 1 or last.times > 1)
        several = len(self._words) - self._since > 1 and not figure
        ends = last is not None and _ends_list(self.text, said)
        # "step right and step left": each with its foot they may be a list.
        beside = "" if last is None else self.text[last.column : said.column]
        behind = re.split(r"[,;.]", self.text[said.end :])[0]
        once = (_OFTEN | say.TIMES).isdisjoint(behind.casefold().split())
        footed = last is not None and bool(last.side) and once and _names_foot(beside) and _names_foot(behind)
        led = footed or figure or several or ends
        if self._counts or not self._uncounted or not (led or (listed and last is not None)):
            return None
        if not is_word(after) or after.text.casefold() in say.NUMBERS:
            return None
        links = said.column not in self.choices.otherwise
        code: OpenCode = "linked" if links else "between"
        rather = (several or (footed and not figure)) and not ends
        self.open.append(Open(code, said.column, said.end, "," if links else "&", int(links == rather)))
        return links

    def _run_on(self, node: Counts, nodes: Sequence[Node], at: int) -> int:
        """Take "1n2" for 1 & 2; returns how many more tokens that used."""
        last = nodes[at] if at < len(nodes) else None
        if not isinstance(last, Bit) or last.column != node.end or not N_NUMBERS.fullmatch(last.text):
            return 0
        for figure in last.text[1:].casefold().split("n"):
            self._counts += [division("&", last), numbered(int(figure), last)]
        return 1

    def _is_article(self, nodes: Sequence[Node], at: int) -> bool:
        """Whether an "a" is no count: a step, then a step; a step and a step."""
        after_word = is_said(nodes, at - 2, say.AND) and bool(self._words)
        name = next(names_from(nodes, at), None)
        if is_name(name, say.LASTS) and self._no_figures:
            return True
        called = name is not None and self.shelf.find(f"{name.text}s", self.tradition) is not None
        counted = name is None or (is_name(name, frozenset(say.NUMBERS)) and not called)
        # "a stamp and two claps": where nothing is counted, it is none.
        listed = at >= 2 and isinstance(before := nodes[at - 2], Bit) and before.kind == "pause"
        # Where the line begins with one, so are the others: a flap a shuffle a ball change.
        led = isinstance(nodes[0], Counts) and nodes[0].text.casefold() in say.ARTICLES
        opens = (at == 1 or listed or led) and self._no_figures
        # "a flap on 1": its count comes after it.
        counted_after = (at == 1 or listed or is_said(nodes, at - 2, say.AND)) and on_follows(nodes, at)
        return (after_word or opens or counted_after or is_said(nodes, at - 2, say.THEN)) and not counted

    def _one_of(self, name: str) -> str:
        """A name that is said of several, of one."""
        *before, last = name.split()
        names = (" ".join((*before, one)) for one in say.singular(last))
        return next((one for one in names if self.shelf.find(one, self.tradition) is not None), name)

    def _counted_or_many(self, first: Bit, last: Bit) -> None:
        """A number before a plural: the count that it is on, or how many."""
        likely = bool(self._counts) and self._counts[0].column == self._many_at
        asked = bool(self._counts) and self._counts[0].column == self._asked_at
        only = self._how_many or likely or asked or self._only_count
        alone = only and len(self._counts) == 1 and not self._words
        number = self._counts[0].atoms[0].number if alone and len(self._counts[0].atoms) == 1 else None
        least = 1 if self._how_many else 2
        if number is None or not least <= number <= MOST_TIMES or self._counts[0].atoms[0].through is not None:
            return
        group = self._counts[0]
        if self._how_many:
            # "2 flaps 2 shuffles": numbers that do not go up are no counts.
            self._many = number, first
            self._counts = []
            return
        name = self.text[first.column : last.end]
        lone = self._one_of(name) == name
        behind = group.column > first.column
        if behind and group.column < last.column:
            # "shuffle 8, step" is no shuffle step on 8.
            return
        if lone and not behind and (asked or number > MOST_FEW):
            # "5 sevens" goes on from what was before it.
            return
        if not behind and ":" in self.text[group.end : first.column]:
            # "2: flaps" is on 2.
            return
        many = (group.column in self.choices.otherwise) != likely
        card = self._card(name)[0]
        # "walk back 4".
        there = f"{self.text[last.end : group.column].strip(' (')} ".lstrip() if behind else ""
        one = card.name.casefold() if card is not None and said_in_letters(name) else self._one_of(name)
        # What is called like several is told from them by how long it is.
        several = lone and not behind
        one = f"{number}-{number % say.LAST_COUNT + 1} {one}" if several else f"{number} {one} {there}".rstrip()
        said, cost = f"{name} {there}x{number}" if many else one, 0 if many == likely else 4
        # The number may stand after its step: flaps 4, flaps (4).
        since = min(group.column, first.column)
        end = _closed(self.text, since, max(group.end, last.end))
        code: OpenCode = "many" if many else "count"
        self.open.append(Open(code, group.column, end, said, cost, number=number, since=since))
        if many:
            self._many = number, first
            self._counts = []


def _closed(text: str, start: int, end: int) -> int:
    """Where something of a line ends, with the bracket that closes one that is opened in it: hold (4), flaps (4)."""
    return end + ("(" in text[start:end] and text[end : end + 1] == ")")


def _names_foot(said: str) -> bool:
    """Whether a foot is named in some words."""
    return not _FOOT.isdisjoint(word.strip("().") for word in said.casefold().split())


def _ends_list(text: str, said: Bit) -> bool:
    """Whether an "and" leads to the last of a list: stamp, stamp, stamp and clap."""
    if len(text) > MOST_LISTED:
        return False
    before, after = text[: said.column], text[said.end :]
    others = {word.strip(".,;") for word in (before + " " + after).casefold().split()}
    return "," in before and not any(sign in after for sign in ",;:") and not others & {*say.AND, "&", "+"}
