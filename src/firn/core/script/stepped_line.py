"""Counts that stand together with steps after them: a step that is counted on, counts danced before a figure."""

from collections.abc import Sequence
from itertools import islice, pairwise

from firn.core.script import said as say
from firn.core.script.choices import Open, OpenCode
from firn.core.script.counted import WALKED_ON
from firn.core.script.headed_line import HeadedLine
from firn.core.script.parted import CountedOn, counted_from, counted_in_words, counted_on, walked_up
from firn.core.script.said_lists import word_and
from firn.core.script.tokens import between_pauses, count_of, is_name, names_from, number_of, numbered
from firn.core.script.tree import Atom, Bit, Counts, Node, is_pause, is_word, number_alone

_NO_STEPS = frozenset(
    say.ON | say.AND | say.THEN | say.TIMES | say.TO | say.BARS | say.COUNTED | say.FOR | say.LASTS | say.THE | say.OF
)
_HOP = frozenset({"hop", "skip"})
_THREES = "skip three"
_LESS = 2
"""What it costs to take counts before a figure for what is less likely."""


_CROSSED = frozenset({"across", "behind", "front"})


class SteppedLine(HeadedLine):
    """Takes counts that stand before one step, or after it."""

    def _after_counts(self, nodes: Sequence[Node]) -> Sequence[Node]:
        """A line with counts before a figure taken as it is tried: they are its own, or a step is on each of them and
        the figure after them: 1 2 triple step; numbers in words before one sound are danced, or only counted."""
        parts: list[list[Node]] = [[]]
        counted = True
        for part in between_pauses(nodes):
            if not counted:
                parts.append([])
            parts[-1] += part
            counted = all(count_of(node) is not None or is_pause(node) for node in part)
        if not any(count_of(part[0]) is not None for part in parts if part):
            return nodes
        return [node for part in parts for node in self._one_after_counts(part)]

    def _one_after_counts(self, part: Sequence[Node]) -> Sequence[Node]:
        led, used = _counting_up(part)
        names = list(islice(names_from(part, used), self.shelf.longest))
        size = self._longest(names)
        text = " ".join(bit.text for bit in names[:size])
        card, several = self._card(text)
        if len(led) < 2 or card is None or several:
            return part
        number = number_alone(led[-1]) or 0
        end, begins = names[size - 1].end, part[0].column
        stepped = "  ".join(f"{number_alone(count)} step" for count in led)
        after = number % say.LAST_COUNT + 1
        own, danced, silent = f"{number - 1} {text}", f"{stepped}  {after} {text}", f"{after} {text}"
        walked = len(card.beats) == 3 and {beat.kind.name for beat in card.beats} == {"step"}
        if walked and self._long(card) == len(led) == 2:
            # "2 3 cha cha cha": a name that counts its steps is said after others.
            ways = [danced, own] if len(set(text.casefold().split())) < size else [own, danced]
        elif (
            len(card.beats) == 1
            and number < say.LAST_COUNT
            and size == sum(map(is_word, part[used:]))
            and all(number_of(node) is not None or is_pause(node) for node in part[:used])
        ):
            own = "  ".join(f"{number_alone(count)} {text}" for count in led)
            ways = [own, danced, silent]
            if text.casefold() in say.LASTS and self.tradition in WALKED_ON:
                # "one, two, three, pause" are steps up to it.
                ways = [danced, own, silent]
        else:
            return part
        chosen = self.choices.meant(begins)
        self.open.append(Open("before_it", begins, end, ways[chosen], _LESS if chosen else 0, many=len(ways)))
        if ways[chosen] == own:
            return part
        made: list[Node] = []
        if ways[chosen] == danced:
            for count in led:
                made += (count, Bit("name", "step", count.column, count.end))
        return [*made, numbered(after, Bit("name", "", names[0].column, names[0].column)), *part[used:]]

    def _counted_on(self, nodes: Sequence[Node]) -> Sequence[Node]:
        """A line with a step for each count that goes on after a first one: walk 2 3 kick, 5 back 6 7.

        What is said first is danced on each of the counts where it walks; where it does not, steps may follow it,
        which is noted.
        """
        nodes = self._hopped_threes(self._only_counted(counted_in_words(nodes)))
        if not any(isinstance(node, Counts) for node in nodes):
            return nodes
        parts = [walked_up(part, self._is_walked) for part in between_pauses(nodes) if part]
        parts = self._with_first_counts(parts)
        nodes = [node for part in parts for node in part]
        found = [self._goes_on_counting(part) for part in parts]
        # Without their first counts they are so only where nothing else in the line is counted.
        others = (part for part, one in zip(parts, found, strict=True) if one is None or one.first is not None)
        alone = not any(isinstance(node, Counts) and node.atoms[0].number for part in others for node in part)
        if not any(found):
            return nodes
        made: list[Node] = []
        for part, one in zip(parts, found, strict=True):
            made += part if one is None or (one.first is None and not alone) else self._on_each(one)
        return made

    def _with_first_counts(self, parts: list[Sequence[Node]]) -> list[Sequence[Node]]:
        """Parts of a line with the count that each of their steps is on, where only those after it are said, of
        several each: cross 2 3, side 6 7."""
        said = [counted_from(part) for part in parts]
        rising = all(a and b and a.last < b.first - 1 for a, b in pairwise(said))
        begun = said[0] if len(said) > 1 and rising else None
        if begun is None or begun.first != 2 or not all(one and self._is_walked(one.name) for one in said):
            return parts
        return [
            part if one is None else [_before(part[0], one.first - 1), *part]
            for part, one in zip(parts, said, strict=True)
        ]

    def _only_counted(self, nodes: Sequence[Node]) -> Sequence[Node]:
        """A line of counts alone with a step on each, where counts without a word of their own are steps: 1 2 3, 5 6
        7. What counts up to the end of the phrase counts in."""
        if self.tradition not in WALKED_ON - {"step dance"} or not nodes:
            # In step dance "1 2 3" may be threes.
            return nodes
        before = self.text[: nodes[0].column].rstrip()
        if (before and not before.endswith(":")) or self.text[nodes[-1].end :].strip(" .!"):
            # What else the line holds, as before brackets, is danced on them.
            return nodes
        if any(count_of(node) is None and not is_pause(node) and not is_name(node, say.AND) for node in nodes):
            return nodes
        nodes = self._linked_counts(nodes)
        counts = [count_of(node) for node in nodes if not is_pause(node)]
        numbers = [atom.number for count in counts if count is not None for atom in count.atoms]
        whole = [number for number in numbers if number is not None]
        counts_in = whole[:1] != [1] and whole[-1:] == [say.LAST_COUNT] and len(whole) < say.LAST_COUNT / 2 + 1
        if len(counts) < 2 or None in counts or numbers[0] is None or counts_in:
            return nodes
        made: list[Node] = []
        for part in between_pauses(nodes):
            said = [count for node in part if (count := count_of(node)) is not None]
            made += said
            made += [Bit("name", "step", said[-1].end, said[-1].end)] if said else []
            made += [node for node in part if is_pause(node)]
        return made

    def _linked_counts(self, nodes: Sequence[Node]) -> Sequence[Node]:
        """Counts without an "and" that only links two that are no neighbours, which is noted: 1 2 3 and 5 6 7."""
        made: list[Node] = []
        for at, node in enumerate(nodes):
            after = nodes[at + 1] if at + 1 < len(nodes) else None
            counted = [one for one in made[-2:] if not is_pause(one)]
            first = counted[-1] if counted else None
            number, last = number_alone(first), None if after is None else number_alone(count_of(after))
            far = number is not None and last not in (None, number + 1)
            linked = far and isinstance(first, Counts) and isinstance(node, Bit) and word_and(node)
            # Over a comma it is a breath; else either is as likely.
            if linked and isinstance(first, Counts) and isinstance(node, Bit) and (
                is_pause(made[-1]) or self._links(first, node, after, listed=False)
            ):  # fmt: skip
                continue
            made.append(node)
        return made

    def _hopped_threes(self, nodes: Sequence[Node]) -> Sequence[Node]:
        """A line of step dance with a skip three for each "hop 1 2 3" between two pauses; that it may be a hop on
        each count is noted."""
        if self.tradition != "step dance" or not any(is_name(node, _HOP) for node in nodes):
            return nodes
        hopped = [at for at in range(len(nodes)) if _is_hopped(nodes, at)]
        if not hopped:
            return nodes
        # One way for all of them.
        begins, end = nodes[hopped[0]].column, nodes[hopped[-1] + 3].end
        each = begins in self.choices.otherwise
        written, done = "", begins
        made: list[Node] = []
        at = 0
        for first in hopped:
            hop, last = nodes[first], nodes[first + 3]
            name = self.text[hop.column : hop.end]
            way = "  ".join(f"{n} {name}" for n in (1, 2, 3)) if each else _THREES
            written, done = f"{written}{self.text[done : hop.column]}{way}", last.end
            counts = [count for node in nodes[first + 1 : first + 4] if (count := count_of(node)) is not None]
            made += nodes[at:first]
            made += [*counts, hop] if each else [Bit("name", _THREES, hop.column, last.end)]
            at = first + 4
        code: OpenCode = "each_on" if each else "steps_on"
        self.open.append(Open(code, begins, end, written, 2 if each else 0))
        return [*made, *nodes[at:]]

    def _goes_on_counting(self, part: Sequence[Node]) -> CountedOn | None:
        """What stands between two pauses as a step that is counted on; None where its counts are its own sounds'."""
        one = counted_on(part)
        held = one is not None and len(one.last) == 1 and is_name(one.last[0], say.LASTS)
        if one is None or any(is_name(word, _NO_STEPS) for word in (*one.words, *(() if held else one.last))):
            return None
        first = self._sounds_of(one.name) or int(one.name.casefold() in say.WHERE)
        after = not one.last or self._longest(one.last) == len(one.last)
        own = len(one.counts) + (one.first is not None)
        card, _ = self._card(one.name)
        # "hop back 2 3": it has come to 1.
        on_one = card is not None and self.tradition in WALKED_ON and card.usual_for(self.tradition).endswith("1")
        own = 0 if on_one and one.first is None else own
        if not first or first == own or not after or (card is not None and self._long(card) > 1):
            # What lasts longer than a count has counts of its own.
            return None
        # "1 clap 2 3" leaves two counts without a word.
        walks = one.first is None or self._is_walked(one.name) or self.tradition in WALKED_ON
        return one if walks and (one.last or first < 2 or one.first is None) else None

    def _is_walked(self, name: str) -> bool:
        """Whether a step is any step, or one that goes somewhere."""
        card, _ = self._card(name)
        *before, last = name.casefold().split() or [""]
        if card is None and before and last in say.WHERE:
            # "walk back".
            card, _ = self._card(" ".join(before))
        single = card is not None and len(card.beats) == 1 and card.beats[0].kind.name == "step"
        return name.casefold() in say.WHERE or single

    def _on_each(self, one: CountedOn) -> list[Node]:
        """A step that is counted on, in full: its counts are said, or come as they come."""
        begins = one.counts[0].column
        walks = self._is_walked(one.name)
        likely = walks or self.tradition in WALKED_ON
        steps = walks or (begins in self.choices.otherwise) != likely
        if not walks:
            code: OpenCode = "steps_on" if steps else "each_on"
            end = (one.last or one.counts)[-1].end
            written = one.in_full("step" if steps else "", opens=not self.text[: one.words[0].column].strip())
            self.open.append(Open(code, begins, end, written, int(steps != likely) * 2, since=one.words[0].column))
        if not steps and one.first is None and not one.last:
            # "jump 2 3": on these counts.
            return [*one.counts, *one.words, *one.rest]
        made: list[Node] = [*((one.first,) if one.first is not None else ()), *one.words]
        for counts in one.counts:
            made.append(Bit("bound", "", counts.column, counts.column))
            made += (counts,) if one.first is not None else ()
            at = counts.column, counts.end
            # "over 2 3" goes over once.
            again = steps and (not walks or say.WHERE.get(one.name.casefold()) in _CROSSED)
            made += (Bit("name", "step", *at),) if again else (Bit("name", word.text, *at) for word in one.words)
        made.append(Bit("bound", "", one.counts[-1].end, one.counts[-1].end))
        return [*made, *one.last, *one.rest]

    def _longest(self, bits: Sequence[Bit]) -> int:
        """Of how many of some words the longest name is that they begin with; 0 for none."""
        sizes = range(min(len(bits), self.shelf.longest), 0, -1)
        return next((size for size in sizes if self._sounds_of(" ".join(bit.text for bit in bits[:size]))), 0)


def _before(node: Node, number: int) -> Counts:
    """A count that is not said, before a token."""
    return Counts((Atom(number, "", "", None),), str(number), node.column, node.column)


def _is_hopped(nodes: Sequence[Node], at: int) -> bool:
    """Whether a hop that is counted 1 2 3 stands at a token, and no more counts."""
    counts = [count_of(node) for node in nodes[at + 1 : at + 4]]
    numbers = [None if count is None else number_alone(count) for count in counts]
    around = [*nodes[max(0, at - 1) : at], *nodes[at + 4 : at + 5]]
    lone = not any(count_of(node) is not None and number_of(node) is None for node in around)
    return is_name(nodes[at], _HOP) and numbers == [1, 2, 3] and lone


def _counting_up(part: Sequence[Node]) -> tuple[list[Counts], int]:
    """The whole counts that a part of a line opens with, each one more than the one before; and how many tokens they
    are, with the pauses after them."""
    led: list[Counts] = []
    for at, node in enumerate(part):
        count = count_of(node)
        number = None if count is None else number_alone(count)
        if led and is_pause(node):
            continue
        if count is None or number is None or (led and number != (number_alone(led[-1]) or 0) + 1):
            return led, at
        led.append(count)
    return led, len(part)
