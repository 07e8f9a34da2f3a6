"""Counts as they are said between steps: numbers in words, and, on, for, how many, how long."""

from collections.abc import Sequence
from itertools import islice, takewhile

from msgspec.structs import replace

from firn.core.script import said as say
from firn.core.script.choices import Open, OpenCode
from firn.core.script.collector import MOST_TIMES, RunCollector
from firn.core.script.items import Word, WordRun
from firn.core.script.said import SIDES, card_said
from firn.core.script.tokens import N_NUMBERS, count_of, division, is_name, is_said, names_from, numbered
from firn.core.script.tree import Bit, Counts, Node
from firn.core.steps.card import Card

_UNLIKELY = 12
_SIDES = frozenset(SIDES)


def _on_follows(nodes: Sequence[Node], at: int) -> bool:
    """Whether a step comes next that has its counts after it."""
    for number, node in enumerate(nodes[at:]):
        if not isinstance(node, Bit) or node.kind != "name":
            return False
        if is_name(node, say.ON):
            return number > 0
    return False


def _names_step(bit: Bit) -> bool:
    """Whether a word is none of those that are said of counts."""
    return count_of(bit) is None and bit.text.casefold() not in (say.THE | say.ON | say.THEN)


def word_and(bit: Bit) -> bool:
    """Whether a token is "and", said in full."""
    return bit.text.casefold() in say.AND


def _number(counts: Counts) -> int | None:
    """The number of a count that is one number alone."""
    atom = counts.atoms[0]
    alone = len(counts.atoms) == 1 and atom.through is None and not atom.extra and not atom.letter
    return atom.number if alone else None


def _is_ampersand(node: Node) -> bool:
    """Whether a token is an & alone."""
    return isinstance(node, Counts) and node.text == "&"


def _only_counts(nodes: Sequence[Node], at: int) -> bool:
    """Whether nothing but counts comes up to the next pause or "and", and one at least."""
    rest = list(takewhile(lambda node: not isinstance(node, Bit) or node.kind != "pause", nodes[at:]))
    said = list(takewhile(lambda node: not isinstance(node, Bit) or not word_and(node), rest))
    return bool(said) and all(count_of(node) is not None for node in said)


class SaidCounts(RunCollector):
    """Takes counts that are said in words or after their steps."""

    def _long(self, card: Card) -> int:
        """How many counts a step takes as it is usually danced."""
        return max(card.counts, sum(sign.isdigit() for sign in card.usual_for(self.tradition)), 1)

    def _counts_of(self, node: Counts, nodes: Sequence[Node], at: int) -> int | None:
        """Take "8 counts of" before a step: so often as it goes into them; returns how many tokens that used, None
        where it is something else."""
        if not is_said(nodes, at, say.COUNTED) or not is_said(nodes, at + 1, say.OF):
            return None
        number = _number(node)
        names = list(islice(names_from(nodes, at + 2), self.shelf.longest))
        sizes = range(len(names), 0, -1)
        card = next((c for n in sizes if (c := self._card(" ".join(b.text for b in names[:n]))[0]) is not None), None)
        long = 1 if card is None else self._long(card)
        if card is None or number is None or number % long or not 1 <= number // long <= MOST_TIMES:
            return None
        if self._words and not self._join:
            self.close()
        self._many = number // long, Bit("times", f"x{number // long}", node.column, nodes[at + 1].end)
        return 2

    def _lasting(self) -> bool:
        """Whether the word before, which has no count of its own, may last as long as is said after it."""
        own = self._words[self._since :]
        return bool(own) and bool(not self._counts or self._since) and own[-1].text.casefold() in say.LASTS

    def _far(self, node: Counts, nodes: Sequence[Node], at: int) -> int | None:
        """Take how long a hold is, or a range said as "1 to 4"; `node` is its first number.

        Gives how many more tokens that used, None where it is neither.
        """
        after = nodes[at] if at < len(nodes) else None
        number = _number(node)
        if number is None:
            return None
        if self._lasting():
            used = 1 if is_name(after, say.COUNTED) else 0
            ends = after is None or used or (isinstance(after, Bit) and after.kind == "pause")
            if ends and self._held(number, node, plainly=bool(used)):
                return used
        lone_a = isinstance(after, Counts) and after.text.casefold() == "a"
        if (is_name(after, say.THROUGH) or lone_a) and at + 1 < len(nodes):
            through = count_of(nodes[at + 1])
            last = None if through is None else _number(through)
            if through is not None and last is not None and last > number + (1 if lone_a else 0):
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
            self.open.append(Open(code, node.column, node.end, said, 1 if many else 0, since=hold.column))
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

    def _on(self, nodes: Sequence[Node], at: int) -> int:
        """Take the counts of the words before it: stomp on 8, step on the and; returns how many tokens it used."""
        used = 1
        if is_name(nodes[at + used] if at + used < len(nodes) else None, say.THE):
            used += 1
        side = nodes[at + used] if at + used < len(nodes) else None
        if isinstance(side, Bit) and is_name(side, frozenset(SIDES)):
            foot = nodes[at + used + 1] if at + used + 1 < len(nodes) else None
            named = foot is not None and is_name(foot, say.FEET)
            end = foot.end if named and foot else side.end
            self._side_after(SIDES[side.text.casefold()], self._words[-1], end, each=True)
            return used + (2 if named else 1)
        counts, many = self._count_list(nodes, at + used)
        used += many
        if not counts or (self._counts and not self._since):
            return 0
        since = 0 if self._one_count_each(nodes[at], counts) else self._since
        words = self._words[since:]
        del self._words[since:]
        self.close()
        self._counts, self._words = counts, words
        self.close()
        return used

    def _one_count_each(self, said: Node, counts: Sequence[Counts]) -> bool:
        """Note that as many counts as steps were said before them may be one for each, or all of the last step's:
        dig, spank, step on 1 & 2. Gives whether it is taken so."""
        words = self._words
        atoms = [atom for group in counts for atom in group.atoms]
        single = all(w.card is not None and len(w.card.beats) == 1 and w.times == 1 for w in words)
        if not (len(words) == len(atoms) > 1 and self._since == len(words) - 1 and single) or self._counts:
            return False
        if words[-1].text.casefold() in say.LASTS or any(isinstance(i, WordRun) and i.counts for i in self.items):
            return False
        # "stamp, clap on 2 and 4": the stamp is on the 1 before.
        goes_on = atoms[0].number is not None and atoms[0].number >= len(words)
        each = (said.column in self.choices.otherwise) == goes_on
        code: OpenCode = "each_one" if each else "last_ones"
        first, last = words[0], words[-1]
        listed = " ".join(word.said for word in words)
        before = self.text[first.column : last.column].rstrip(" ,;")
        texts = " ".join(group.text for group in counts)
        written = f"{texts} {listed}" if each else f"{before}  {texts} {last.said}"
        end = max(group.end for group in counts)
        cost = 0 if each != goes_on else 2
        self.open.append(Open(code, said.column, end, written, cost, since=first.column))
        return each

    def _count_list(self, nodes: Sequence[Node], at: int) -> tuple[list[Counts], int]:
        """Counts that are said after their step, as in on 1, 3 and 5; and how many tokens they are."""
        counts: list[Counts] = []
        start = at
        while at < len(nodes):
            node = nodes[at]
            count = count_of(node)
            if isinstance(node, Bit) and node.kind == "pause" and counts and _only_counts(nodes, at + 1):
                at += 1
                continue
            if is_name(node, say.THE | say.ON) and counts and at + 1 < len(nodes) and count_of(nodes[at + 1]):
                # "on the 2 and the 4", "on 4 and on 8".
                at += 1
                continue
            if count is None:
                break
            if counts and _is_ampersand(node) and self._parts_numbers(counts[-1], node, nodes, at + 1):
                # "stamps on 1 & 3".
                at += 1
                continue
            if isinstance(node, Bit) and word_and(node) and counts:
                following = nodes[at + 1] if at + 1 < len(nodes) else None
                if _on_follows(nodes, at + 1) or is_name(following, say.LASTS):
                    # "step on 1 and clap on 2", "stamp on 1 and hold".
                    at += 1
                    break
                if isinstance(following, Bit) and following.kind == "name" and _names_step(following):
                    # "stamp on 1 and heel": the & is the heel's.
                    break
                if is_name(following, say.THE | say.ON):
                    at += 1
                    continue
                if self._links(counts[-1], node, nodes[at + 1] if at + 1 < len(nodes) else None):
                    at += 1
                    continue
            counts.append(count)
            at += 1
        return counts, at - start

    def _parts_numbers(self, before: Counts, said: Node, nodes: Sequence[Node], at: int) -> bool:
        """Whether an & between two numbers that are no neighbours links them, which is noted."""
        after = count_of(nodes[at]) if at < len(nodes) else None
        first, last = _number(before), None if after is None else _number(after)
        if after is None or first is None or last is None or last == first + 1:
            return False
        links = said.column not in self.choices.otherwise
        written = f"{first} {last}" if links else f"{first}& {last}"
        code: OpenCode = "linked" if links else "between"
        self.open.append(Open(code, said.column, after.end, written, 0 if links else 1, since=before.column))
        return links

    def _links(self, before: Counts, said: Bit, after: Node | None, *, listed: bool = True) -> bool:
        """Whether an "and" between two counts only links them: that is noted where it may be the & between them.

        `listed`: they are said after their step, as in on 1 and 3.
        """
        count = None if after is None else count_of(after)
        first, last = _number(before), None if count is None else _number(count)
        if count is None or first is None or last is None or (last == first + 1 and not listed):
            return False
        links = said.column not in self.choices.otherwise
        written = f"{first} {last}" if links else f"{first} & {last}"
        code: OpenCode = "linked" if links else "between"
        # After their step counts that are no neighbours are two.
        cost = 0 if links else 1 if last == first + 1 or not listed else _UNLIKELY
        self.open.append(Open(code, said.column, count.end, written, cost, since=before.column))
        return links

    def _number(self, number: int, nodes: Sequence[Node], at: int, first: Bit) -> int:
        """Take a number in words: how often, before a plural or "times"; else a count."""
        after = nodes[at + 1] if at + 1 < len(nodes) else None
        card = self._called_by_number(nodes, at, first)
        if card is not None:
            self._word(Word(first.text, card, first.column, first.end))
            return 1
        if self._words and is_name(after, say.TIMES):
            self._often(Bit("times", f"x{number}", first.column, after.end if after is not None else first.end))
            return 2
        names = list(islice(names_from(nodes, at + 1), self.shelf.longest))
        for size in range(len(names), 0, -1):
            card, plural = card_said(self.shelf, " ".join(n.text for n in names[:size]), self.tradition)
            if card is not None:
                # "three sevens": a name that is said of several anyway.
                several = number > 1 and names[size - 1].text.casefold().endswith("s")
                if not self._numbered and (plural or several or (self._counted_out and number == 1)):
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

    def _called_by_number(self, nodes: Sequence[Node], at: int, first: Bit) -> Card | None:
        """The figure that is called by a number after an article, as in a seven; None for none."""
        before = nodes[at - 1] if at else None
        article = isinstance(before, Counts | Bit) and before.text.casefold() in say.ARTICLES
        return self.shelf.find(f"{first.text}s", self.tradition) if article else None

    def _among_counts(self) -> bool:
        """Whether what is said comes after counts, and before their word."""
        return bool(self._counts) and not self._words

    def _and(self, nodes: Sequence[Node], at: int, first: Bit) -> int:
        """Take an "and": a division among counts and before a word, nothing before a count or an article."""
        before = nodes[at - 1] if at else None
        after = nodes[at + 1] if at + 1 < len(nodes) else None
        listed = isinstance(before, Bit) and before.kind == "pause"
        links = is_name(after, say.THEN) or self._links_names(before, after)
        between = None if links else self._links_words(after, first, listed=listed)
        if self._together(nodes, at + 1) and self._words and not self._join:
            # "stamp and clap together".
            self._join, self._at_once = Bit("join", "+", first.column, first.end), True
            return 1
        if links or between:
            self._since = len(self._words)
            return 1
        if between is None and not self._among_counts():
            article = isinstance(after, Counts) and self._is_article(nodes, at + 2)
            number = isinstance(after, Counts) or is_name(after, frozenset(say.NUMBERS))
            if listed or article or (number and self._words):
                self._since = len(self._words)
                return 1
        elif self._counts and word_and(first) and self._links(self._counts[-1], first, after, listed=self._lists):
            return 1
        if self._words and not self._join:
            self.close()
        letter = say.DIVISIONS.get(first.text.casefold(), "&")
        self._counts.append(division(letter, first))
        return 1

    def _together(self, nodes: Sequence[Node], at: int) -> bool:
        """Whether a step and then "together" are said from a token on, and nothing more before a pause or a count."""
        near = nodes[at : at + self.shelf.longest + 2]
        names = list(takewhile(lambda node: isinstance(node, Bit) and node.kind == "name", near))
        ends = next((n for n, node in enumerate(names) if is_name(node, say.ON)), len(names))
        said = [node.text for node in names[:ends] if isinstance(node, Bit)]
        return len(said) > 1 and said[-1].casefold() in say.AS_ONE and self._card(" ".join(said[:-1]))[0] is not None

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
        if self._counts or not self._uncounted or not (figure or several or (listed and last is not None)):
            return None
        if not isinstance(after, Bit) or after.kind != "name" or after.text.casefold() in say.NUMBERS:
            return None
        links = said.column not in self.choices.otherwise
        code: OpenCode = "linked" if links else "between"
        self.open.append(Open(code, said.column, said.end, "," if links else "&", int(links == several)))
        return links

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
        after_word = is_said(nodes, at - 2, say.AND) and bool(self._words)
        name = next(names_from(nodes, at), None)
        called = name is not None and self.shelf.find(f"{name.text}s", self.tradition) is not None
        counted = name is None or (is_name(name, frozenset(say.NUMBERS)) and not called)
        # "a stamp and two claps": where nothing is counted, it is none.
        listed = at >= 2 and isinstance(before := nodes[at - 2], Bit) and before.kind == "pause"
        opens = (at == 1 or listed) and self._no_figures
        # "a flap on 1": its count comes after it.
        counted_after = (at == 1 or listed or is_said(nodes, at - 2, say.AND)) and _on_follows(nodes, at)
        return (after_word or opens or counted_after or is_said(nodes, at - 2, say.THEN)) and not counted

    def _one_of(self, name: str) -> str:
        """A name that is said of several, of one."""
        *before, last = name.split()
        names = (" ".join((*before, one)) for one in say.singular(last))
        return next((one for one in names if self.shelf.find(one, self.tradition) is not None), name)

    def _counted_or_many(self, first: Bit, last: Bit) -> None:
        """A number before a plural: the count that it is on, or how many."""
        only = self._how_many or (self._only_count and not self.items)
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
        if group.column in self.choices.otherwise:
            self.open.append(Open("many", group.column, last.end, f"{name} x{number}", 4, number=number))
            self._many = number, first
            self._counts = []
        else:
            self.open.append(Open("count", group.column, last.end, f"{number} {self._one_of(name)}", number=number))
