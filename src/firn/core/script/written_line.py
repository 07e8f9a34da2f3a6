"""A line of steps as it is written down: how long it is, what hyphens join, counts after their steps."""

import re
from collections.abc import Sequence
from itertools import pairwise, takewhile

from msgspec.structs import replace

from firn.core.pattern import late
from firn.core.script import said as say
from firn.core.script.asides import without_asides, without_posture
from firn.core.script.asked_line import AskedLine
from firn.core.script.called import as_called
from firn.core.script.called_line import kinds_of, texts
from firn.core.script.choices import Open, OpenCode
from firn.core.script.collector import EIGHTS
from firn.core.script.counted import WALKED_ON
from firn.core.script.dictated import as_dictated
from firn.core.script.fillers import without_fillers, without_opening
from firn.core.script.footed import feet_at_steps
from firn.core.script.heads import LABEL, PHRASE, phrase_at
from firn.core.script.how_often import so_many_last
from firn.core.script.items import BarAt
from firn.core.script.joined_counts import joined_counts
from firn.core.script.joined_names import in_words, lettered
from firn.core.script.listed import IN, as_listed, in_order
from firn.core.script.parted import rejoined
from firn.core.script.places import counts_of
from firn.core.script.printed import as_printed, sheet_letters
from firn.core.script.problems import other_length
from firn.core.script.reworded import reworded
from firn.core.script.shortened import named_again, said_once
from firn.core.script.silent import but_silent, held_after, holds_said
from firn.core.script.tokens import (
    count_of,
    counts_before,
    counts_within,
    headed,
    is_article,
    is_name,
    number_of,
    on_counts,
    paces_before,
    said_of_several,
)
from firn.core.script.tree import Atom, Bit, Counts, Group, Node, is_pause, is_word, number_alone
from firn.core.script.written import as_written
from firn.core.steps.card import Card

_PICK_UP = late(
    r"\s*+(?:pick[- ]?up|upbeat|lead-?in|anacrusis|anacrusa)s?(?:\s+(?=[\d&ae ]{1,12}:)|\s*+:(?=\s*&))", re.IGNORECASE
)
"""What only says that its counts lead up to what follows: pick-up 8: stamp; pick up: & stamp."""


_SIDES = frozenset(say.SIDES)
_OFTEN = frozenset(say.ONCE_OR_MORE) | say.TIMES


_PHRASES = late(r"\b(?:first|second|third|next|last)\s+\w+(?:\s+(?:counts?|beats?))?\s*:", re.IGNORECASE)
_UN, _DOS = frozenset({"un"}), frozenset({"dos"})
_A_COUNT = frozenset({"count", "beat"})
_LEAST_ON = _LEAST_SPELLED = 2
"""Counts before a colon that are no name of what follows; sounds of a figure that is said in them."""
_LEAST_DASHED = 3
_DEFINES = frozenset("=-–—")
_THAT = frozenset({"that's", "that", "this", "it's", "called", "aka"})
_THAT_IS = _THAT | {"is", "your", "our", "es", "se", "llama"} | say.THE


def _length_said(node: Node) -> int | None:
    """The number of counts that stands alone in brackets: (4), (4 counts); None for anything else."""
    if not isinstance(node, Group) or not node.items:
        return None
    long = number_alone(node.items[0])
    counted = len(node.items) == 1 or (len(node.items) == 2 and is_name(node.items[1], say.COUNTED))
    return long if counted else None


def _in_brackets(nodes: Sequence[Node]) -> Sequence[Node]:
    """A line with brackets about how many counts the steps before take, between pauses: two triples, 8 counts."""
    made: list[Node] = []
    for at, node in enumerate(nodes):
        number = made[-1] if made else None
        parted = len(made) > _LEAST_ON and is_pause(made[-2])
        ends = at + 1 == len(nodes) or is_pause(nodes[at + 1])
        if parted and ends and number is not None and number_alone(count_of(number)) and is_name(node, say.COUNTED):
            made[-2:] = [Group((number, node), number.column, node.end)]
        else:
            made.append(node)
    return made if len(made) < len(nodes) else nodes


def _many_after(nodes: Sequence[Node]) -> Sequence[Node]:
    """Steps with how many there are said after them: 2 basics."""
    words = [node for node in nodes if not is_pause(node)]
    number = number_alone(words[0]) if words else None
    if number is None or len(words) != 2 or not is_word(words[1]):
        return nodes
    return [words[1], Bit("times", f"x{number}", words[0].column, words[1].end)]


def _counted_from_one(nodes: Sequence[Node]) -> Sequence[Node]:
    """A line in Spanish that counts from one on, with that in full: un, dos, tres."""
    made = list(nodes)
    for at, node in enumerate(nodes[:-1]):
        after = at + 1 + is_pause(nodes[at + 1])
        if isinstance(node, Bit) and is_name(node, _UN) and after < len(nodes) and is_name(nodes[after], _DOS):
            made[at] = replace(node, text="uno")
    return made


def _many_on_counts(nodes: Sequence[Node]) -> Sequence[Node]:
    """A line with how many steps there are told from the counts that they are on: 1 2 3 4: 2 stamps, 2 claps."""
    head, rest = headed(nodes)
    counts = [node for node in head if isinstance(node, Counts)]
    ranged = any(atom.through is not None for node in counts for atom in node.atoms)
    if len(counts) < len(head) or (sum(len(node.atoms) for node in counts) < _LEAST_ON and not ranged):
        return nodes
    made = list(rest)
    for at, (node, after) in enumerate(pairwise(rest)):
        number = number_alone(node)
        if number is not None and isinstance(after, Bit) and is_word(after) and said_of_several(after.text):
            made[at] = Bit("times", f"{number}x", node.column, node.end)
    return nodes if made == list(rest) else [*nodes[: -len(rest)], *made]


def _unmarked(nodes: Sequence[Node]) -> Sequence[Node]:
    """A line without the marks that end it and are said of no step: step clap x4!, stamp (4)!, flap right left!"""
    end = len(nodes)
    while end > 1 and isinstance(loud := nodes[end - 1], Bit) and loud.kind == "mark":
        end -= 1
    of_step = bool(nodes) and is_word(nodes[end - 1]) and not is_name(nodes[end - 1], _OFTEN)
    feet = end > 1 and all(is_name(node, _SIDES) for node in nodes[end - 2 : end])
    return nodes if end == len(nodes) or (of_step and not feet) else nodes[:end]


class WrittenLine(AskedLine):
    """Takes what is written of steps."""

    def counts_first(self, nodes: Sequence[Node]) -> Sequence[Node]:
        """A line with its counts and paces before their steps, however they are said."""
        over = PHRASE.match(self.text) or LABEL.match(self.text) or _PICK_UP.match(self.text)
        several = len(_PHRASES.findall(self.text)) > 1
        if over is not None and nodes and nodes[0].column < over.end() and not several:
            # "first eight:" stands over what follows.
            nodes = [node for node in nodes if node.column >= over.end()]
            begins = phrase_at(over) if "long" in over.groupdict() else None
            if begins is not None:
                # "second eight:" begins there, however much is danced before it.
                self.items.append(BarAt(begins[0], over.start(), over.end(), begins[1]))
        nodes = self._counts_joined(self._labelled(self._that_is(self._defined(nodes))))
        nodes = self._one_in_words(_counted_from_one(nodes))
        nodes = self._over_counts(self._so_long_figures(_many_on_counts(nodes)))
        self._repeated_by_signs(nodes)
        nodes = lettered(in_order(self._not_changed(_unmarked(nodes))), self._sounds_of)
        if self.tradition in say.CLOGS:
            nodes = sheet_letters(nodes, self._sounds_of)
        nodes = in_words(nodes, self._sounds_of, self.shelf.in_words)
        nodes = self._length_over(self._without_length(held_after(but_silent(holds_said(nodes)))))
        self._dashes_for_holds(nodes)
        self._no_weight_first(nodes)
        self._a_side_alone(nodes)
        stood = without_posture(as_listed(on_counts(self._named_counts(nodes))))
        led = without_opening(as_printed(stood, self._sounds_of), self._sounds_of)
        led = so_many_last(led, self._sounds_of)
        printed = feet_at_steps(reworded(self._clapped_with(led), self._sounds_of))
        self._on_both_feet(printed)
        self._clapped_to(printed)
        heard = self._not_taken_back(as_dictated(printed, self._sounds_of))
        said = self._steps_of_a_name(
            self._turned_in_steps(
                self._turning(self._so_many_with_each(self._one_of_each(self._called_now(as_called(heard)))))
            )
        )
        self._paced_over(nodes)
        self._last_of_several(said)
        self._within_others(said)
        self._placed_at_end(said)
        self._turned_figures(said)
        self._several_ands(said)
        said = self._called_on_count(self._number_last(self._times_first(self._manner_at_end(self._reminded(said)))))
        told = without_asides(
            named_again(without_fillers(said_once(said), self._sounds_of), self._sounds_of), self._sounds_of
        )
        opens = bool(stood) and not self.text[: stood[0].column].strip()
        written = self._headed(as_written(counts_within(told), self._sounds_of, self.shelf), opens=opens)
        written = self._counted_on(self._after_counts(written))
        if self.tradition in say.CLOGS and not any(is_name(node, say.QUICK) for node in written):
            written = [replace(n, text="step") if _is_letter_s(n) else n for n in written]
        return rejoined(
            paces_before(
                counts_before(written, self._sounds_of, walked=self.tradition in WALKED_ON), self._sounds_of
            ),
            self._sounds_of,
        )

    def _counts_joined(self, nodes: Sequence[Node]) -> Sequence[Node]:
        """A line with counts that are said in one joined; a decimal is asked about: 1.5 clap."""
        made, decimals = joined_counts(nodes)
        for first, rest in decimals:
            shown = Bit("other", self.text[first.column : rest.end], first.column, rest.end)
            self.problem("N109", shown, f'Say "{first.text} &" for half a count later, or "{first.text}+1/4".')
        return made

    def _one_in_words(self, nodes: Sequence[Node]) -> Sequence[Node]:
        """A line with "one" for a 1 that is how many there are of a figure called by a number: 1 seven, 2 threes."""
        made = list(nodes)
        for at, node in enumerate(nodes):
            if isinstance(node, Counts) and self._one_so_called(nodes, at):
                made[at] = Bit("name", "one", node.column, node.end)
        return made

    def _so_long_figures(self, nodes: Sequence[Node]) -> Sequence[Node]:
        """A line without how many counts a figure takes, said before its name, 8 count basic; of several of that name
        it is the one that does. That none does is said."""
        if not any(is_name(node, _A_COUNT) for node in nodes):
            return nodes
        made: list[Node] = []
        done = 0
        for at, node in enumerate(nodes[:-2]):
            long = number_alone(count_of(node))
            row = list(takewhile(is_word, nodes[at + 2 : at + 2 + self.shelf.longest]))
            before = nodes[at - 1] if at else None
            opens = not is_word(before) or is_name(before, say.THEN | say.AND) or count_of(before) is not None
            if at < done or not long or not opens or not is_name(nodes[at + 1], _A_COUNT):
                continue
            names = [" ".join(texts(row[:size])) for size in range(len(row), 0, -1)]
            known = next((name for name in names if self._sounds_of(name)), None)
            by_number = next((word for word, n in say.NUMBERS.items() if n == long), str(long))
            whole = " ".join((by_number, *texts(nodes[at + 1 : at + 2]), known or ""))
            if known is None or self._sounds_of(whole):
                continue
            cards = [card for card in (self._card(known)[0],) if card is not None]
            several = [*say.cards_said(self.shelf, known, self.tradition)]
            counts = {card.name: counts_of(card, EIGHTS, self.tradition) for card in several or cards}
            fits = [name for name, takes in counts.items() if takes == long]
            # Tap counts a figure's sounds: 4 count paddle and roll.
            fits = fits or [card.name for card in cards if len(card.beats) == long]
            end = at + 2 + len(known.split())
            made += nodes[done:at]
            if not fits:
                shown = Bit("other", self.text[node.column : nodes[at + 1].end], node.column, nodes[at + 1].end)
                self.problem("N103", shown, other_length(min(counts.values()), long))
            if several and len(fits) == 1:
                made.append(Bit("name", fits[0], row[0].column, nodes[end - 1].end))
            else:
                made += nodes[at + 2 : end]
            done = end
        return [*made, *nodes[done:]]

    def _without_length(self, nodes: Sequence[Node]) -> Sequence[Node]:
        """A line without how many counts its steps take, said in brackets, where they take just so many: 2 basics
        (4), (4) DS DS DS RS, basic (2), triple (4)."""
        if (told := _in_brackets(nodes)) is not nodes and (less := self._without_length(told)) is not told:
            return less
        found = [(at, long) for at, node in enumerate(nodes) if (long := _length_said(node)) is not None]
        if not found:
            return nodes
        starts = (0, *(at + 1 for at, _ in found))
        parts = [nodes[start:at] for start, (at, _) in zip(starts, found, strict=False)]
        rest = nodes[found[-1][0] + 1 :]
        if len(found) == 1 and not parts[0]:
            parts, rest = [rest], []
        elif len(found) == 1 and rest and is_pause(rest[0]) and ":" in rest[0].text:
            # "Triple (4): DS DS DS RS".
            parts, rest = [rest[1:]], []
        made = [_many_after(part) for part in parts]
        takes = [self._takes_counts(part) for part in made]
        if any(not is_pause(node) for node in rest):
            return nodes
        if takes != [long for _, long in found]:
            if len(found) == 1 and takes[0] > 1 and sum(map(is_word, parts[0])) > 1:
                group, long = nodes[found[0][0]], found[0][1]
                shown = Bit("other", f"({long})", group.column, group.end)
                self.problem("N103", shown, other_length(takes[0], long))
            return nodes
        if len(found) == 1 and len(parts[0]) < len(nodes) - 1:
            return [node for at, node in enumerate(nodes) if at != found[0][0]]
        return [node for part in made for node in part]

    def _length_over(self, nodes: Sequence[Node]) -> Sequence[Node]:
        """A line over which stands how many counts it takes, 8 counts: stamp clap; that it does not is said. What is
        said once of all of them goes on for so long: 4 counts: hold."""
        head, rest = headed(nodes)
        told = head[1:] if head and is_name(head[0], IN) else head
        counted = len(told) == 2 and is_name(told[1], say.COUNTED)
        long = number_alone(count_of(told[0])) if counted else None
        if long is None or not rest:
            return nodes
        alone = rest[0] if len(rest) == 1 else None
        if isinstance(alone, Bit) and (is_name(alone, say.LASTS) or said_of_several(alone.text)):
            return [*rest, *told]
        many = _many_after(rest)
        if many is not rest and self._takes_counts(many) == long:
            # "4 counts: 2 basics".
            return many
        takes = self._takes_counts(rest)
        if 0 < takes < long and not long % takes:
            return self._so_long(nodes, rest, long // takes)
        if takes and takes != long:
            shown = Bit("other", self.text[told[0].column : told[1].end], told[0].column, told[1].end)
            self.problem("N103", shown, other_length(takes, long))
        return nodes

    def _so_long(self, nodes: Sequence[Node], rest: Sequence[Node], times: int) -> Sequence[Node]:
        """Note that what goes into a length several times may be danced so often, or once: 8 counts: step touch."""
        column, end = nodes[0].column, rest[-1].end
        once = column in self.choices.otherwise
        said = self.text[rest[0].column : end]
        code: OpenCode = "once" if once else "each"
        self.open.append(Open(code, column, end, said if once else f"( {said} ) x{times}", int(once)))
        return rest if once else [Group(tuple(rest), rest[0].column, end), Bit("times", f"x{times}", end, end)]

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
        owns = [own for card in cards if len(own := [beat.kind.name for beat in card.beats]) > 1]
        return any(_so_often(kinds, own) or (often and kinds[-len(own) :] == own) for own in owns)

    def _cards_that(self, nodes: Sequence[Node]) -> tuple[Card, ...]:
        """The figures that may go by what is said of what is danced: that's a triple; () for none."""
        names = [one for one in nodes if not (is_name(one, _THAT_IS) or is_article(one))]
        # "That's two basics".
        names = names[1:] if names[1:] and number_of(names[0]) else names
        name = " ".join(texts(names)) if all(map(is_word, names)) else ""
        card = self._card(name)[0] if name else None
        return () if card is None else (card, *say.cards_said(self.shelf, name, self.tradition))

    def _that_is(self, nodes: Sequence[Node]) -> Sequence[Node]:
        """A line without what it says that its sounds are, before them or behind: that's the basic: DS RS."""
        pauses = [at for at, node in enumerate(nodes) if is_pause(node)]
        for at in {*pauses[:1], *pauses[-1:]}:
            for told, rest in ((nodes[:at], nodes[at + 1 :]), (nodes[at + 1 :], nodes[:at])):
                if not told or not rest or not is_name(told[0], _THAT):
                    continue
                kinds = self._kinds_in(rest)
                if any(_so_often(kinds, [beat.kind.name for beat in card.beats]) for card in self._cards_that(told)):
                    return rest
        return nodes

    def _spelled_after(self, group: Group) -> bool:
        """Whether what stands in brackets are the sounds of the figure right before it: flap (brush step)."""
        word = self._words[-1] if self._words[self._since :] and not self.choices.before else None
        if word is None or word.card is None or len(word.card.beats) < _LEAST_SPELLED or word.joined:
            return False
        if self._card(" ".join(texts(group.items)))[0] is not None:
            # "(rock step) (rock step)".
            return False
        return kinds_of(self._words_in(group.items)) == [beat.kind.name for beat in word.card.beats]

    def _defined(self, nodes: Sequence[Node]) -> Sequence[Node]:
        """A line with a colon for the sign between a figure and what it is: flap = brush step; for a dash before just
        its sounds: triple - DS DS DS RS."""
        signs = [at for at, node in enumerate(nodes) if isinstance(node, Bit) and node.text in _DEFINES]
        at = signs[0] if len(signs) == 1 else 0
        name, rest = nodes[:at], nodes[at + 1 :]
        said = " ".join(texts(name))
        card = self._card(said)[0] if at and rest and all(map(is_word, name)) else None
        dashed = card is not None and texts(nodes[at : at + 1]) != ["="]
        if card is None or len(card.beats) < (_LEAST_DASHED if dashed else _LEAST_SPELLED):
            return nodes
        if dashed:
            # The same again is danced.
            again = len(rest) == 1 or said.casefold() in self.text[rest[0].column :].casefold()
            if again or self._kinds_in(rest) != [beat.kind.name for beat in card.beats]:
                return nodes
        return [*name, Bit("pause", ":", nodes[at].column, nodes[at].end), *rest]

    def _counting_up(self, nodes: Sequence[Node]) -> None:
        """Note that numbers in words that count up, each before a step, may be how often it is danced or the counts
        that it is on; that may be so in a line without other counts."""
        parts: list[list[Bit]] = []
        for node in nodes:
            if not isinstance(node, Bit) or node.kind not in ("name", "pause"):
                return
            if number_of(node) is not None:
                parts.append([node])
            elif node.kind == "name" and parts:
                parts[-1].append(node)
        if len(parts) < 2 or nodes[0] is not parts[0][0]:
            return
        numbers = [say.NUMBERS[part[0].text.casefold()] for part in parts]
        if (1, 1) in pairwise(numbers):
            # "one basic left one basic right": nothing is on 1 again at once.
            self._counted_out = True
            return
        named = [self._longest(part[1:]) for part in parts]
        rising = numbers[0] == 1 and all(after > before for before, after in pairwise(numbers))
        if rising and all(named) and said_of_several(parts[0][named[0]].text):
            # "one threes three threes": one is never said of several.
            self._numbered = True
            return
        whole = all(size == len(part) - 1 for size, part in zip(named[:-1], parts[:-1], strict=True))
        if numbers != list(range(1, len(parts) + 1)) or not all(named) or not whole:
            return
        called = [" ".join(bit.text for bit in part[1 : n + 1]) for n, part in zip(named, parts, strict=True)]
        if not any(self._card(name)[1] or said_of_several(name) for name in called):
            # "one shuffle two step" are counts.
            self._numbered = True
            return
        self._numbered = nodes[0].column in self.choices.otherwise
        names = [
            self._one_of(" ".join(b.text for b in part[1 : n + 1])) for n, part in zip(named, parts, strict=True)
        ]
        each = [f"{n} {name}" if self._numbered else f"{name} x{n}" for n, name in zip(numbers, names, strict=True)]
        code: OpenCode = "numbers" if self._numbered else "so_often"
        end = parts[-1][named[-1]].end
        self.open.append(Open(code, nodes[0].column, end, ",  ".join(each), 2 if self._numbered else 0))

    def _hyphen(self, hyphen: Bit, nodes: Sequence[Node]) -> None:
        """Take the hyphen between two single sounds: they share a count, where none is said; or have one each."""
        hyphens = [n for n, node in enumerate(nodes) if isinstance(node, Bit) and node.kind == "hyphen"]
        first, last = nodes[hyphens[0]], nodes[hyphens[-1]]
        if not self._uncounted:
            return
        shared = first.column not in self.choices.otherwise
        if hyphen is first:
            start, end = nodes[hyphens[0] - 1].column, nodes[hyphens[-1] + 1].end
            said, at = "", start
            for node in (nodes[n] for n in hyphens):
                said, at = f"{said}{self.text[at : node.column]}{' & ' if shared else ' '}", node.end
            code: OpenCode = "shared" if shared else "alone_each"
            written = said + self.text[last.end : end]
            self.open.append(Open(code, first.column, end, written, 0 if shared else 2, since=start))
        if shared:
            self._taken(Counts((Atom(None, "&", "", None),), "&", hyphen.column, hyphen.end))


def _so_often(kinds: Sequence[str], own: Sequence[str]) -> bool:
    """Whether the kinds of some sounds are those of a figure of several, once or more and nothing else."""
    return len(own) > 1 and list(kinds) == list(own) * (len(kinds) // len(own)) != []


def _is_letter_s(node: Node) -> bool:
    return is_word(node) and node.text == "S"
