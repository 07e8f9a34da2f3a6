"""A line of steps with numbers that may be how many of a step there are, or the counts that it is on."""

import re
from collections.abc import Mapping, Sequence
from itertools import islice, pairwise

from msgspec.structs import replace

from firn.core.pattern import late
from firn.core.script import said as say
from firn.core.script.called_line import CalledLine, has_no_plural
from firn.core.script.choices import Open, OpenCode
from firn.core.script.collector import MOST_TIMES
from firn.core.script.said_counts import MOST_FEW
from firn.core.script.tokens import (
    between_pauses,
    count_of,
    is_name,
    is_said,
    is_small_a,
    names_from,
    number_of,
    said_of_several,
)
from firn.core.script.tree import MOST_DIGITS, Bit, Counts, Group, Node, is_pause, is_word, number_alone

_TIMES = say.TIMES | say.MORE
_ONE_OF = frozenset({"one", "uno", "una"})
_PLACES = frozenset(say.WHERE)


class NumberedLine(CalledLine):
    """Tells numbers that say how many from counts."""

    def _begun_again(self, nodes: Sequence[Node]) -> Sequence[Node]:
        """A line whose counts, each before its step, begin again at 1 in the midst of a phrase, which may be in the
        next one, or go on from those before: 1 stamp 2 clap, 1 stamp 2 clap. Which of them is noted."""
        begins = _restarts(nodes)
        if not begins or any(self._says_many(nodes, at) for at, one in enumerate(nodes) if isinstance(one, Counts)):
            return nodes
        links = [_LINKED.search(self.text[: nodes[at].column]) for at in begins]
        starts = [link.start("links") for link in links if link is not None]
        made: list[Node] = []
        later: list[Counts] = []
        by = 0
        for at, node in enumerate(nodes):
            by += begins.get(at, 0)
            if isinstance(node, Counts) and by:
                node = _later(node, by)
                later.append(node)
            made.append(node)
        led = nodes[0].column == min(node.column for node in nodes) and isinstance(nodes[0], Counts)
        written_out = all(_NUMBER.search(counts.text) or counts.atoms[0].letter for counts in later)
        if not led or len(starts) < len(begins) or not written_out:
            # Of counts behind their steps, and in words, nothing is written that says either.
            return nodes
        start, end = starts[0], max(node.end for node in nodes)
        counting_on = start in self.choices.otherwise
        signs = [(at, at, "| ") for at in starts]
        numbers = [(counts.column, counts.end, counts.text) for counts in later]
        written, done = "", start
        for first, last, text in numbers if counting_on else signs:
            written += self.text[done:first] + text
            done = last
        code: OpenCode = "counting_on" if counting_on else "next_phrase"
        self.open.append(Open(code, start, end, written + self.text[done:end], 3 if counting_on else 0))
        return made if counting_on else nodes

    def _one_of_each(self, nodes: Sequence[Node]) -> Sequence[Node]:
        """A line without "one" where that is said of each of its steps: one stamp, one clap."""
        if not nodes or not is_name(nodes[0], _ONE_OF):
            return nodes
        parts = [part for part in between_pauses(nodes) if part]
        led = [part[0] for part in parts if is_name(part[0], _ONE_OF) and len(part) > 1 and is_word(part[1])]
        if len(led) < 2 or any(is_said(part, 1, say.MORE) for part in parts) or len(led) < len(parts):
            return nodes
        gone = {one.column for one in led}
        return [node for node in nodes if node.column not in gone]

    def _lone_ones_of(self, nodes: Sequence[Node]) -> frozenset[int]:
        """The column of the "one" that a line begins with, where no number of it is plainly a count: one triple and
        two stamps; or of those before all of what is said between two links: stamp, one clap, stamp."""
        if not nodes or not is_name(nodes[0], _ONE_OF):
            return self._ones_between(nodes)
        named = self._longest(list(islice(names_from(nodes, 1), self.shelf.longest)))
        more = [at for at in range(1 + named, len(nodes)) if number_of(nodes[at]) is not None]
        ones = [at for at in more if is_name(nodes[at], _ONE_OF) and _links(nodes[at - 1])]
        lone = all(self._says_many(nodes, at) for at in more if at not in ones)
        return frozenset(nodes[at].column for at in (0, *ones) if lone)

    def _ones_between(self, nodes: Sequence[Node]) -> frozenset[int]:
        """The columns of each one behind a pause, with one step up to the next, in a line whose other numbers say how
        many; none for none."""
        numbers = [
            at
            for at, node in enumerate(nodes)
            if (isinstance(node, Counts) and not is_small_a(node)) or number_of(node) is not None
        ]
        ones = [at for at in numbers if at and is_name(nodes[at], _ONE_OF) and _links(nodes[at - 1])]
        others = (at for at in numbers if at not in ones)
        if not ones or not all(self._says_many(nodes, at) for at in others):
            return frozenset()
        sizes = [self._longest(list(islice(names_from(nodes, at + 1), self.shelf.longest))) for at in ones]
        # "one together".
        ends = [at + 1 + (size or is_said(nodes, at + 1, _PLACES)) for at, size in zip(ones, sizes, strict=True)]
        closed = all(
            end > at + 1 and all(map(_links, nodes[end : end + 1])) for at, end in zip(ones, ends, strict=True)
        )
        return frozenset(nodes[at].column for at in ones) if closed else frozenset()

    def _says_many(self, nodes: Sequence[Node], at: int) -> bool:
        """Whether a number stands before "times", or a name that is said of several."""
        return is_said(nodes, at + 1, _TIMES) or self._several_named(nodes, at + 1)

    def _several_named(self, nodes: Sequence[Node], at: int) -> bool:
        """Whether a name comes next that is said of several."""
        names = [name.text for name in islice(names_from(nodes, at), self.shelf.longest)]
        # Most are said of one, which is soon seen.
        return any(name[-1:] in ("s", "S") for name in names) and any(
            self._card(" ".join(names[:size]))[1] for size in range(1, len(names) + 1)
        )

    def _going_up(self, nodes: Sequence[Node], spots: Mapping[int, int], *, agree: bool) -> bool:
        """Note that numbers that go up, each before several, may be how many or the counts that they are on: 2 flaps
        4 steps; whether they are how many. `spots`: they, by where they stand; `agree`: 1 stands before one alone,
        and all others before several."""
        numbers = list(spots.values())
        if len(numbers) < 2 or numbers != sorted(set(numbers)) or (numbers[0] < 2 and not agree):
            return False
        first = nodes[next(iter(spots))]
        # "stamp, 3 claps, 4 digs": what is said before has no count.
        led = any(is_word(node) and self._sounds_of(node.text) for node in nodes[: next(iter(spots))])
        spans: list[tuple[int, int, str]] = []
        for at in spots:
            bits = list(islice(names_from(nodes, at + 1), self.shelf.longest))
            size = max(1, self._longest(bits))
            name = " ".join(bit.text for bit in bits[:size])
            spans.append((nodes[at].column, bits[size - 1].end, self._one_of(name)))
        names = [name for _, _, name in spans]
        # The same on some counts, as in 2 claps 4 claps, is on these.
        likely = (len(set(names)) > 1 or led) and numbers[0] > 1
        many = (first.column in self.choices.otherwise) != likely
        written, done = "", first.column
        for number, (start, end, name) in zip(numbers, spans, strict=True):
            before = self.text[done:start].strip()
            written += (
                f"{before} "
                if "," in before or before[:1] in (".", ";")
                else f", {before} "
                if before
                else ",  "
                if written
                else ""
            )
            written += f"{name} x{number}" if many else f"{number} {name}"
            done = end
        code: OpenCode = "so_often" if many else "numbers"
        self.open.append(Open(code, first.column, done, written, 2 if many != likely else 0))
        return many

    def _one_many(self, nodes: Sequence[Node], opening: int) -> int | None:
        """Where a number stands that is rather how many than a count: before several, the only one of a line and
        after a step and a pause, as in a stamp, then 3 claps, or the first of all, which takes so many tokens with
        them. None for none."""
        counts = ((at, node) for at, node in enumerate(nodes) if isinstance(node, Counts))
        numbers = [at for at, node in counts if node.text.casefold() not in say.ARTICLES]
        if opening and len(numbers) > 1 and any(map(_links, nodes[opening : opening + 1])):
            # "4 walks, then stamp on 5".
            return 0
        if len(numbers) != 1:
            return None
        (at,) = numbers
        if not at or not (is_pause(nodes[at - 1]) or is_name(nodes[at - 1], say.AND | say.THEN)):
            return None
        number = number_alone(nodes[at])
        named = any(is_name(node, _PLACES) or (is_word(node) and self._is_step(node)) for node in nodes[:at])
        names = list(islice(names_from(nodes, at + 1), self.shelf.longest))
        texts = (" ".join(n.text for n in names[:size]) for size in range(len(names), 0, -1))
        said = ((text, many) for text in texts for card, many in (self._card(text),) if card is not None)
        several = next((many or said_of_several(text) for text, many in said), False)
        return at if named and several and 1 < (number or 0) <= MOST_TIMES else None

    def _opening(self, nodes: Sequence[Node]) -> int:
        """How many tokens a number and its several take with which a line begins that has no other numbers but higher
        ones, which are counts; 0 for none."""
        number = number_alone(nodes[0]) if nodes else None
        if number is None or not 1 < number <= MOST_TIMES or not self._several_named(nodes, 1):
            return 0
        names = list(islice(names_from(nodes, 1), self.shelf.longest))
        size = self._longest(names)
        later = [(at, node) for at, node in enumerate(nodes[1:], 1) if isinstance(node, Counts)]
        higher = all(atom.number is None or atom.number > number for _, one in later for atom in one.atoms)
        if not higher or any(self._says_many(nodes, at) for at, _ in later):
            return 0
        return 1 + size if self._card(" ".join(name.text for name in names[:size]))[1] else 0

    def _opened(self, nodes: Sequence[Node], end: int) -> Sequence[Node]:
        """A line that begins with so many of something, up to a token, and goes on with counts, with a pause behind
        them where they are how many: 4 walks 5 stamp. That they may be so is asked."""
        if not end or end >= len(nodes) or not isinstance(nodes[end], Counts):
            return nodes
        self._asked_at, column = nodes[0].column, nodes[end - 1].end
        many = self._asked_at in self.choices.otherwise
        return [*nodes[:end], Bit("pause", ",", column, column), *nodes[end:]] if many else nodes

    def _numbers_say_how_many(self, nodes: Sequence[Node]) -> bool:
        """Whether all numbers of a line stand before plurals, or are 1 before one, and one is no higher than the one
        before: 2 flaps 1 stamp."""
        if self.choices.before or not any(isinstance(node, Counts) for node in nodes):
            return False
        spots: dict[int, int] = {}
        several_of = alone = named = False
        agree = alike_alone = True
        for at, node in enumerate(nodes):
            if (not isinstance(node, Counts) and not (at and is_name(node, _ONE_OF))) or is_small_a(node):
                # "3 touches, then a brush and 4 kicks".
                continue
            names = list(islice(names_from(nodes, at + 1), self.shelf.longest))
            texts = (" ".join(n.text for n in names[:size]) for size in range(len(names), 0, -1))
            said = ((text, several) for text in texts for card, several in (self._card(text),) if card is not None)
            plural, known, by_name = next(
                ((several or has_no_plural(text), True, not several and " " in text) for text, several in said),
                (False, False, False),
            )
            number = number_alone(count_of(node))
            if number is not None and at and (is_said(nodes, at + 1, say.TIMES) or is_name(nodes[at - 1], say.LASTS)):
                # "2 DS, 1 RS, 2 times"; "8 flaps, 4 stamps, hold 2".
                continue
            alike = (
                known and number is not None and number > 1 and (not spots or number == next(iter(spots.values())))
            )
            if number is None or not (plural or alike or (number == 1 and known)):
                return False
            alike_alone = alike_alone and alike and not plural
            several_of, alone = several_of or (plural and number > 1), alone or not plural
            agree, named = agree and plural == (number > 1), named or (plural and by_name)
            spots[at] = number
        numbers = list(spots.values())
        if alike_alone or (alone and not several_of and max(numbers) > 1):
            # "4 stamp, 4 clap": nothing is on one count with another.
            return len(numbers) > 1 and alike_alone
        falls = (several_of or not alone) and any(after <= before for before, after in pairwise(numbers))
        # Where less says that they are how many, 7 before 1 may be counts, and a line from 1 on.
        if (alone or named) and (max(numbers) > MOST_FEW or (named and numbers[0] == 1)):
            return False
        return falls or self._going_up(nodes, spots, agree=agree)


_NUMBER = late(r"\d+")
_LINKED = late(r"(?<=[^|(\s])\s++(?P<links>(?:(?:and|then|y|luego)\s++)*+)\Z", re.IGNORECASE)
"""What leads to counts that begin again; nothing behind a | or in brackets."""
_LEAST_COUNTED, _PHRASE_OVER = 2, 7
"""Counts before others that begin at 1: so few are none, and after so many these are of the next phrase."""


def _restarts(nodes: Sequence[Node]) -> dict[int, int]:
    """Where counts begin again at 1, each with the last one before it; none where they go otherwise than up."""
    begins: dict[int, int] = {}
    last = 0
    for at, node in enumerate(nodes):
        if not isinstance(node, Counts):
            if not isinstance(node, Bit) or node.kind in ("bar", "phrase", "times") or "|" in node.text:
                return {}
            continue
        for number in (n for atom in node.atoms for n in (atom.number, atom.through) if n is not None):
            if number == 1 and last:
                # "1 2 3 4 1 step" counts in.
                if not _LEAST_COUNTED <= last < _PHRASE_OVER or isinstance(nodes[at - 1], Counts):
                    return {}
                begins[at] = last
            elif number <= last or (not last and number != 1):
                return {}
            last = number
    return begins


def _later(counts: Counts, by: int) -> Counts:
    """Counts that are so many later."""
    atoms = tuple(
        atom
        if atom.number is None
        else replace(atom, number=atom.number + by, through=atom.through + by if atom.through is not None else None)
        for atom in counts.atoms
    )
    later = _NUMBER.sub(lambda said: str(int(said[0][:MOST_DIGITS]) + by), counts.text)
    return replace(counts, atoms=atoms, text=later)


def _links(node: Node) -> bool:
    """Whether a token stands between two steps, or behind the last."""
    if isinstance(node, Group):
        return True
    return is_pause(node) or is_name(node, say.THEN | say.AND) or (isinstance(node, Bit) and node.kind == "mark")
