"""Counts that are said after their steps: stomp on 8, clap on 2 and 4, dig, spank, step on 1 & 2."""

from collections.abc import Sequence
from itertools import pairwise, takewhile

from firn.core.script import said as say
from firn.core.script.choices import Open, OpenCode
from firn.core.script.collector import EIGHTS, RunCollector
from firn.core.script.items import WordRun
from firn.core.script.places import counts_of
from firn.core.script.said import SIDES
from firn.core.script.tokens import count_of, is_name, is_said
from firn.core.script.tree import Bit, Counts, Node, is_pause, is_word, number_alone

_UNLIKELY = 12
_SIDES = frozenset(SIDES)


def on_follows(nodes: Sequence[Node], at: int) -> bool:
    """Whether a step comes next that has its counts after it."""
    for number, node in enumerate(nodes[at:]):
        if not is_word(node):
            return False
        if is_name(node, say.ON):
            return number > 0
    return False


def counted_after(nodes: Sequence[Node], at: int) -> bool:
    """Whether a step comes next that has a number after it, said with "on"."""
    on = next((n for n in range(at, len(nodes)) if not is_word(nodes[n]) or is_name(nodes[n], say.ON)), len(nodes))
    there = on + 1 + is_said(nodes, on + 1, say.THE)
    if on <= at or not is_said(nodes, on, say.ON) or there >= len(nodes):
        return False
    count = count_of(nodes[there])
    return count is not None and count.atoms[0].number is not None


def _names_step(bit: Bit) -> bool:
    """Whether a word is none of those that are said of counts."""
    return count_of(bit) is None and bit.text.casefold() not in (say.THE | say.ON | say.THEN)


def word_and(bit: Bit) -> bool:
    """Whether a token is "and", said in full."""
    return bit.text.casefold() in say.AND


def _is_ampersand(node: Node) -> bool:
    """Whether a token is an & alone."""
    return isinstance(node, Counts) and node.text == "&"


def _is_divided(node: Node | None) -> bool:
    """Whether a token is a division of a count that is named with it: the and of 2."""
    return isinstance(node, Counts) and node.atoms[0].number is not None and bool(node.atoms[0].letter)


def _first_of(count: Counts | None) -> int | None:
    """The number of a count that is one alone, or the first of a range; None for any other."""
    if count is None or len(count.atoms) != 1:
        return None
    atom = count.atoms[0]
    return atom.number if atom.through is not None else number_alone(count)


def _last_of(count: Counts) -> int | None:
    """The number of a count that is one alone, or the last of a range; None for any other."""
    atom = count.atoms[0]
    return atom.through if len(count.atoms) == 1 and atom.through is not None else number_alone(count)


def _only_counts(nodes: Sequence[Node], at: int) -> bool:
    """Whether nothing but counts comes up to the next pause or "and", and one at least; before a colon they are of
    what comes."""
    rest = list(takewhile(lambda node: not is_pause(node), nodes[at:]))
    pause = nodes[at + len(rest)] if at + len(rest) < len(nodes) else None
    if is_pause(pause) and ":" in pause.text:
        return False
    said = list(takewhile(lambda node: not isinstance(node, Bit) or not word_and(node), rest))
    return bool(said) and all(count_of(node) is not None for node in said)


class SaidLists(RunCollector):
    """Takes lists of counts after the steps that are danced on them."""

    def _on(self, nodes: Sequence[Node], at: int) -> int:
        """Take the counts of the words before it: stomp on 8, step on the and; returns how many tokens it used."""
        used = 1
        if is_name(nodes[at + used] if at + used < len(nodes) else None, say.THE):
            used += 1
        side = nodes[at + used] if at + used < len(nodes) else None
        if isinstance(side, Bit) and is_name(side, _SIDES):
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
        since = self._last_on(counts, since)
        words = self._words[since:]
        del self._words[since:]
        self.close()
        self._counts, self._words = counts, words
        self.close()
        return used

    def _last_on(self, counts: Sequence[Counts], since: int) -> int:
        """Where the words begin that are on one count: with the last, where those before it, without counts, take the
        counts up to there from 1 on: DS DS RS clap on 4."""
        number = number_alone(counts[0]) if len(counts) == 1 else None
        *before, _ = self._words[since:]
        if number is None or not before or since or self.items or self._counts:
            return since
        known = [(word.card, word.times) for word in before if word.card is not None]
        long = sum(counts_of(card, EIGHTS, self.tradition) * times for card, times in known)
        return len(self._words) - 1 if len(known) == len(before) and long == number - 1 else since

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
            if is_pause(node) and counts and _only_counts(nodes, at + 1):
                at += 1
                continue
            led = at + 1 + (is_name(node, say.ON) and is_said(nodes, at + 1, say.THE))
            if is_name(node, say.THE | say.ON) and counts and led < len(nodes) and count_of(nodes[led]):
                # "on the 2 and the 4", "on 4 and on 8", "on the 4 and on the 8".
                at = led
                continue
            if count is None:
                break
            if counts and _is_ampersand(node) and self._parts_numbers(counts[-1], node, nodes, at + 1):
                # "stamps on 1 & 3".
                at += 1
                continue
            ahead = next((n for n in nodes[at + 1 : at + 3] if not is_name(n, say.THE)), None)
            linked = _is_ampersand(node) or is_name(node, say.AND)
            if counts and linked and _is_divided(counts[-1]) and _is_divided(ahead):
                # "on the and of 1 and the and of 3".
                at += 1
                continue
            if isinstance(node, Bit) and word_and(node) and counts:
                following = nodes[at + 1] if at + 1 < len(nodes) else None
                if on_follows(nodes, at + 1) or is_name(following, say.LASTS):
                    # "step on 1 and clap on 2", "stamp on 1 and hold".
                    at += 1
                    break
                if is_word(following) and _names_step(following):
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
        first, last = _last_of(before), _first_of(after)
        if after is None or first is None or last is None or last == first + 1 or self._sounds_between(first, last):
            return False
        links = said.column not in self.choices.otherwise
        written = f"{before.text} {after.text}" if links else f"{before.text}& {after.text}"
        code: OpenCode = "linked" if links else "between"
        self.open.append(Open(code, said.column, after.end, written, 0 if links else 1, since=before.column))
        return links

    def _sounds_between(self, first: int, last: int) -> bool:
        """Whether the step that was said sounds on the & between two counts of its own: cha cha cha on 4 and 1."""
        words = self._words[self._since :]
        card = words[0].card if len(words) == 1 and words[0].times == 1 else None
        usual = "" if card is None else card.usual_for(self.tradition).replace(" ", "")
        return last in (first + 1, 1) and len(usual) == len("4&1") and usual[1] == "&"

    def _links(self, before: Counts, said: Bit, after: Node | None, *, listed: bool = True) -> bool:
        """Whether an "and" between two counts only links them: that is noted where it may be the & between them.

        `listed`: they are said after their step, as in on 1 and 3.
        """
        count = None if after is None else count_of(after)
        first, last = _last_of(before), _first_of(count)
        if count is None or first is None or last is None:
            return False
        near = last == first + 1 and not listed
        # "6 and 7: hop"; of "2, 4 and 5: stamp" the first are no neighbours either.
        halved = near and self._two_over(count)
        if near and not halved and not self._gapped():
            return False
        # "triple step on 3 and 4": three sounds, and three counts with the &.
        inside = self.text[before.column - 1 : before.column] == "("
        halved = halved or (last == first + 1 and self._of_three(whole=inside))
        if self._sounds_between(first, last):
            return False
        links = (said.column not in self.choices.otherwise) != halved
        written = f"{before.text} {count.text}" if links else f"{before.text} & {count.text}"
        code: OpenCode = "linked" if links != halved else "between"
        # After their step counts that are no neighbours are two.
        cost = 0 if links != halved else 2 if halved else 1 if last == first + 1 or not listed else _UNLIKELY
        self.open.append(Open(code, said.column, count.end, written, cost, since=before.column))
        return links

    def _of_three(self, *, whole: bool) -> bool:
        """Whether the word that was said last has three sounds, and begins on a number where it is not `whole` in
        brackets: DS, which leads up to one, is danced on each."""
        word = self._words[-1] if self._words else None
        if word is None or word.card is None or len(word.card.beats) != 3 or word.times > 1:
            return False
        return whole or word.card.usual_for(self.tradition).lstrip()[:1].isdecimal()

    def _two_over(self, last: Counts) -> bool:
        """Whether two counts alone stand over what follows, the last of them this one, or are said with "on": 6 and
        7: hop, on 6 and 7 hop."""
        led = self.text[: self._counts[0].column].casefold().split()[-1:]
        over = self.text[last.end :].lstrip().startswith(":") or (bool(led) and led[0] in say.ON)
        return len(self._counts) == 1 and over

    def _gapped(self) -> bool:
        """Whether some of the counts said up to here are no neighbours, or commas part them: 5, 6 and 7."""
        numbers = [one.atoms[-1].number for one in self._counts]
        if len(numbers) > 1 and "," in self.text[self._counts[0].end : self._counts[-1].column]:
            return True
        return any(a is not None and b is not None and b > a + 1 for a, b in pairwise(numbers))
