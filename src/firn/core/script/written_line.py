"""A line of steps as it is written down: what hyphens join, counts after their steps."""

import re
from collections.abc import Sequence
from functools import lru_cache
from itertools import pairwise, takewhile

from msgspec.structs import replace

from firn.core.pattern import late
from firn.core.script import said as say
from firn.core.script.asides import without_asides, without_posture
from firn.core.script.called import as_called
from firn.core.script.choices import Open, OpenCode
from firn.core.script.counted import WALKED_ON
from firn.core.script.counts_last import (
    counts_last,
    halves_at_ends,
    links_among_counts,
    links_behind_counts,
    same_on_counts,
    so_often_on_counts,
)
from firn.core.script.dictated import as_dictated
from firn.core.script.fillers import without_fillers, without_opening
from firn.core.script.footed import feet_at_steps
from firn.core.script.headed_on import without_head_on
from firn.core.script.heads import LABEL, PHRASE, PHRASES_INSIDE, phrase_at
from firn.core.script.how_often import on_every_of, so_many_last, without_one_each
from firn.core.script.items import BarAt
from firn.core.script.joined_counts import joined_counts, on_their_counts, without_links, without_second_and
from firn.core.script.joined_names import called_by_number, in_words, lettered
from firn.core.script.lasting_line import LastingLine
from firn.core.script.listed import as_listed, in_order
from firn.core.script.parted import counted_apart, rejoined
from firn.core.script.printed import as_printed, sheet_letters
from firn.core.script.reworded import reworded
from firn.core.script.shortened import named_again, said_once
from firn.core.script.silent import but_silent, held_after, holds_said
from firn.core.script.tokens import (
    between_pauses,
    count_of,
    counts_before,
    counts_within,
    division,
    headed,
    is_name,
    number_of,
    on_counts,
    paces_before,
    said_of_several,
)
from firn.core.script.tree import PAUSE, Atom, Bit, Counts, Group, Node, is_pause, is_word, number_alone, said_in
from firn.core.script.written import as_written, unquoted_counts

_PICK_UP = late(
    r"\s*+(?:pick[- ]?up|upbeat|lead-?in|anacrusis|anacrusa)s?(?:\s+(?=[\d&ae ]{1,12}:)|\s*+:(?=\s*&))", re.IGNORECASE
)
"""What only says that its counts lead up to what follows: pick-up 8: stamp; pick up: & stamp."""


_SIDES = frozenset(say.SIDES)
_OFTEN = (
    frozenset(say.ONCE_OR_MORE) | say.TIMES | say.AGAIN | {"time", "vez", "reverse", "side", "sides", "lado", "lados"}
)
"""At a line's end a mark behind these is said of all of it."""


_PHRASES = late(r"\b(?:first|second|third|next|last)\s+\w+(?:\s+(?:counts?|beats?))?\s*:", re.IGNORECASE)
_UN, _DOS = frozenset({"un"}), frozenset({"dos"})
_A_COUNT = frozenset({"count", "beat"})
_LEAST_ON = 2
"""Counts before a colon that are no name of what follows."""


def _first_number(nodes: Sequence[Node]) -> int:
    """The first number that is counted in some tokens; 0 for none."""
    numbers = (atom.number for node in nodes if isinstance(node, Counts) for atom in node.atoms)
    return next((number for number in numbers if number is not None), 0)


def _counted_from_one(nodes: Sequence[Node]) -> Sequence[Node]:
    """A line in Spanish that counts from one on, with that in full: un, dos, tres."""
    if said_in(nodes).isdisjoint(_UN):
        return nodes
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


def _so_many_on(nodes: Sequence[Node]) -> Sequence[Node]:
    """A line with how many for what else would be a count where it is of so many of one step on as many counts, or
    what stands between pauses is: 5 stamps on 1 2 3 & 4, 5 stamps: 1 2 3 & 4, 8 flaps (1-8)."""
    whole = _so_many_of(nodes)
    if whole is not nodes or not any(is_name(node, say.ON) for node in nodes):
        return whole
    made: list[Node] = []
    for part in between_pauses(nodes):
        led = next((n for n, node in enumerate(part) if not is_name(node, say.THEN | say.AND)), 0)
        end = len(part) - (bool(part) and is_pause(part[-1]))
        said = any(is_name(node, say.ON) for node in part)
        made += (*part[:led], *(_so_many_of(part[led:end]) if said else part[led:end]), *part[end:])
    return made if len(made) != len(nodes) or any(a is not b for a, b in zip(made, nodes, strict=True)) else nodes


def _so_many_of(nodes: Sequence[Node]) -> Sequence[Node]:
    """So many of one step on as many counts, with how many for what else would be a count."""
    many = number_alone(nodes[0]) if nodes else None
    words = list(takewhile(is_word, nodes[1:]))
    named = [word for word in words if isinstance(word, Bit) and not is_name(word, say.ON)]
    if (
        not many
        or many < _LEAST_ON
        or not named
        or not said_of_several(named[-1].text)
        or len(words) > len(named) + 1
    ):
        return nodes
    rest = nodes[1 + len(words) :]
    bracketed = rest[0] if len(rest) == 1 else None
    inside = bracketed.items if isinstance(bracketed, Group) else ()
    linked = _with_halves([node for node in inside or rest if not is_pause(node)], many)
    counts = [count for node in linked if (count := count_of(node)) is not None]
    colon = rest[0] if rest else None
    headed = is_pause(colon) and ":" in colon.text
    ranged = len(rest) == 1 and len(counts) == 1 and _long(counts[0].atoms[0]) > 1
    led = is_name(words[-1], say.ON) or ((headed or inside or ranged) and len(words) == len(named))
    if not led or len(counts) < len(linked) or sum(map(_long, (a for count in counts for a in count.atoms))) != many:
        return nodes
    first = nodes[0]
    on = Bit("name", "on", named[-1].end, named[-1].end)
    return [Bit("times", f"{many}x", first.column, first.end), *named, on, *counts]


def _with_halves(nodes: Sequence[Node], many: int) -> list[Node]:
    """Counts with an & for each "and" between them where there are so many with these, else without: 3 stamps on 1
    and 2, 2 stamps on 1 and 2."""
    counts = [count for node in nodes if (count := count_of(node)) is not None and not is_name(node, say.AND)]
    halves = len(nodes) - len(counts) if all(is_name(n, say.AND) for n in nodes if count_of(n) is None) else 0
    if not halves:
        return list(nodes)
    if sum(map(_long, (atom for count in counts for atom in count.atoms))) == many:
        return [node for node in nodes if not is_name(node, say.AND)]
    return [division("&", node) if isinstance(node, Bit) and is_name(node, say.AND) else node for node in nodes]


def _long(atom: Atom) -> int:
    """How many counts one is, or a range of them."""
    ranged = atom.number is not None and atom.through is not None
    return atom.through - atom.number + 1 if ranged and atom.through is not None and atom.number is not None else 1


def _unmarked(nodes: Sequence[Node]) -> Sequence[Node]:
    """A line without the marks that end it and are said of no step: step clap x4!, stamp (4)!, flap right left!"""
    end = len(nodes)
    while end > 1 and isinstance(loud := nodes[end - 1], Bit) and loud.kind == "mark":
        end -= 1
    of_step = bool(nodes) and is_word(nodes[end - 1]) and not is_name(nodes[end - 1], _OFTEN)
    feet = end > 1 and all(is_name(node, _SIDES) for node in nodes[end - 2 : end])
    return nodes if end == len(nodes) or (of_step and not feet) else nodes[:end]


@lru_cache(maxsize=64)
def _phrases(text: str) -> int:
    """How many phrases a line names; asked for each of its brackets."""
    return len(_PHRASES.findall(text))


@lru_cache(maxsize=64)
def _heads_inside(text: str) -> list[re.Match[str]]:
    """Where phrases begin that a line names behind others."""
    every = PHRASES_INSIDE.finditer(text)
    return [head for head in every if phrase_at(head, 1) is not None or head["long"].casefold() == "half"]


class WrittenLine(LastingLine):
    """Takes what is written of steps."""

    def counts_first(self, nodes: Sequence[Node]) -> Sequence[Node]:
        """A line with its counts and paces before their steps, however they are said."""
        nodes = so_often_on_counts(without_second_and(unquoted_counts(nodes)), self._sounds_of)
        nodes = links_among_counts(nodes, self._sounds_of)
        over = PHRASE.match(self.text) or LABEL.match(self.text) or _PICK_UP.match(self.text)
        several = _phrases(self.text) > 1
        nodes = self._phrases_inside(called_by_number(nodes, self._sounds_of))
        if over is not None and nodes and nodes[0].column < over.end() and not several:
            # "first eight:" stands over what follows.
            nodes = [node for node in nodes if node.column >= over.end()]
            begins = phrase_at(over) if "long" in over.groupdict() else None
            if begins is not None and _first_number(nodes) <= begins[1]:
                # "second eight:" begins there, however much is danced before it.
                self.items.append(BarAt(begins[0], over.start(), over.end(), begins[1]))
        nodes = self._over_pauses(nodes) if PAUSE in said_in(nodes) else nodes
        nodes = self._counts_joined(self._labelled(self._that_is(self._defined(self._on_every(nodes)))))
        nodes = self._one_in_words(_counted_from_one(_so_many_on(nodes)))
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
        printed = feet_at_steps(reworded(self._clapped_with(self._foot_behind(led)), self._sounds_of))
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
        self._last_counts()
        self._placed_at_end(said)
        self._turned_figures(said)
        self._several_ands(said)
        self._articles_between(said)
        self._then_side(said)
        said = self._called_on_count(self._number_last(self._times_first(self._manner_at_end(self._reminded(said)))))
        told = without_asides(
            named_again(without_fillers(said_once(said), self._sounds_of), self._sounds_of), self._sounds_of
        )
        opens = bool(stood) and not self.text[: stood[0].column].strip()
        written = self._headed(as_written(told, self._sounds_of, self.shelf), opens=opens)
        written = self._counted_on(self._after_counts(written))
        if self.tradition in say.CLOGS and not any(is_name(node, say.QUICK) for node in written):
            written = [replace(n, text="step") if _is_letter_s(n) else n for n in written]
        led = counts_before(written, self._sounds_of, walked=self.tradition in WALKED_ON)
        return rejoined(paces_before(led, self._sounds_of), self._sounds_of, self.shelf.longest_from)

    def _over_pauses(self, nodes: Sequence[Node]) -> Sequence[Node]:
        """A line with what is said over its pauses where it belongs: heads, counts of steps and of figures."""
        sounds = self._sounds_of
        led = without_head_on(on_every_of(without_one_each(halves_at_ends(nodes))), sounds)
        led = links_behind_counts(same_on_counts(counted_apart(led, sounds), sounds), sounds)
        # What opens it is looked at again, with all that may be said there.
        opened = without_opening(led, sounds)
        turned = counts_last(opened, sounds, walked=self.tradition in WALKED_ON)
        return led if turned is opened else turned

    def _phrases_inside(self, nodes: Sequence[Node]) -> Sequence[Node]:
        """A line with a sign where a phrase begins that is said behind others: 1 stamp, second eight: 1 clap."""
        heads = _heads_inside(self.text)
        if not heads or heads[-1].start() == 0:
            return nodes
        made, before = list(nodes), 1
        for head in heads:
            begins, end = head.start("the" if head["the"] else "which"), head.end()
            found = phrase_at(head, before)
            at = next((n for n, node in enumerate(made) if node.column >= begins), None)
            if at is None:
                continue
            rest = [node for node in made[at:] if node.column >= end]
            before = before if found is None else found[0]
            # "second half: 5 stamp", "second four: 5 stamp": the count says where it is.
            if found is not None and _first_number(rest) <= found[1]:
                rest = [Bit("phrase", f"{found[0]} {found[1]}", begins, end), *rest]
            made[at:] = rest
        return made

    def _counts_joined(self, nodes: Sequence[Node]) -> Sequence[Node]:
        """A line with counts that are said in one joined; a decimal is asked about: 1.5 clap."""
        counted = on_their_counts(counts_within(nodes), self._sounds_of)
        made, decimals = joined_counts(without_links(counted))
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
        return nodes if made == nodes else made

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


def _is_letter_s(node: Node) -> bool:
    return is_word(node) and node.text == "S"
