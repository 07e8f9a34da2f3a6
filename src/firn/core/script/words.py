"""From tokens to runs: counts, and the words that they belong to, each word looked up."""

from collections.abc import Sequence
from copy import copy
from fractions import Fraction
from functools import lru_cache
from itertools import islice, takewhile
from typing import Any, NamedTuple, cast

from msgspec.structs import replace

from firn.core.script import said as say
from firn.core.script.choices import PLAIN, Against, Choices, Named, Open, OpenCode
from firn.core.script.items import Bar, BarAt, Item, Repeat, Word, of_no_foot
from firn.core.script.meant import MeantLine
from firn.core.script.problems import Problem
from firn.core.script.said import SIDES, card_said
from firn.core.script.ties import DROPS, tied
from firn.core.script.tokens import (
    is_name,
    is_said,
    is_small_a,
    may_be_several,
    names_from,
    reach,
    times_said,
    wide_gaps,
)
from firn.core.script.tree import Bit, Counts, Group, Node, is_pause, is_word, number_alone, parse_line
from firn.core.script.turns import WORDS as TURN_WORDS
from firn.core.script.turns import parse_amount, turn_text
from firn.core.script.unknown import unknown
from firn.core.script.written import feet_of
from firn.core.steps.card import Card
from firn.core.steps.shelf import APART, TOGETHER, Shelf

_LEADS_ON = frozenset({"double", "single", "triple", "rock"})
"""What may end a name, and begins others."""


_WHERE = frozenset(say.WHERE)

_WORD = 16
"""Letters in which the word before something stands."""


class _Line(MeantLine):
    """Reads one line."""

    def read(self, nodes: Sequence[Node], *, optional: bool = False) -> None:
        """Read some tokens, as they are said."""
        if self.choices.before:
            self.read_on(nodes, optional=optional)
        else:
            self.read_numbered(self.counts_first(nodes), optional=optional)

    def read_numbered(self, nodes: Sequence[Node], *, optional: bool = False) -> None:
        """Read tokens whose counts stand before their steps, but may begin again."""
        self.read_on(self._begun_again(nodes), optional=optional)

    def read_on(self, nodes: Sequence[Node], *, optional: bool = False) -> None:
        """Read tokens whose counts stand before their steps."""
        at = 0
        # Once for all: each name is looked at beside them.
        self._wide = wide_gaps(nodes)
        self._uncounted = all(self._counts_no_step(nodes, at) for at in range(len(nodes)))
        opening = 0 if self.choices.before else self._opening(nodes)
        many = None if self.choices.before else self._one_many(nodes, opening)
        self._many_at = None if many is None else nodes[many].column
        nodes = self._opened(nodes, opening)
        # Those said after their steps, as in a stamp, then clap on 2, make no "a" before one a count.
        self._no_figures = all(
            not isinstance(n, Counts) or at == many or _said_after(nodes, at) or self._says_many(nodes, at)
            for at, n in enumerate(nodes)
        )
        asked = len(self.open)
        if self._uncounted and not self.choices.before:
            self._counting_up(nodes)
        if not self.choices.before and len(self.open) == asked:
            self._lone_ones = self._lone_ones_of(nodes)
        self._how_many = self._numbers_say_how_many(nodes)
        counts = [at for at, node in enumerate(nodes) if isinstance(node, Counts)]
        # "3 flaps and a stamp" has one: the a is none.
        # "then hold 4" has one that is no step's, and so has "stamp 3 times".
        said_else = say.LASTS | say.FOR
        # "4 brushes a hop".
        several = any(number_alone(nodes[at]) and self._says_many(nodes, at) for at in counts)
        steps = [
            at
            for at in counts
            if not (
                _is_listed_article(nodes, at)
                or (several and is_small_a(nodes[at]))
                or is_said(nodes, at - 1, said_else)
                or is_said(nodes, at + 1, say.TIMES)
            )
        ]
        self._only_count = len(steps) == 1
        while at < len(nodes):
            node = nodes[at]
            at += 1
            often = isinstance(node, Bit) and node.kind == "times"
            if (node.column in self._wide and not often) or at == 1:
                self._bound_at(node.column)
            if isinstance(node, Counts):
                figured = self._begins_with_figure(node, nodes, at)
                at += figured or self._counted(node, nodes, at)
            elif isinstance(node, Group):
                times, used = times_said(nodes, at)
                if times is None and self._many is not None and not self.choices.before:
                    # "2x (DS RS)".
                    (number, said), self._many = self._many, None
                    times = Bit("times", f"x{number}", said.column, said.end)
                spelled = self._spelled_after(node)
                if times is not None and self._words and (spelled or self._called_after(node, often=True)):
                    # "DS RS (basic) x4".
                    at += used
                    self._often(times)
                elif times is not None:
                    at += used
                    self._repeat(node, times)
                elif spelled or self._silent(node) or self._called_after(node):
                    pass
                else:
                    self.read(node.items, optional=True)
                self._bound_at(nodes[at - 1].end)
            elif self._words[self._since :] and is_name(node, say.TURN) and self._amount_next(nodes, at):
                # "step turn 1/4 right": it is the step that turns.
                pass
            elif self._words and self._is_amount(nodes, at - 1):
                # "half turn left".
                turn = is_said(nodes, at, say.TURN)
                at += turn + self._turn(node, nodes[at + turn] if at + turn < len(nodes) else None)
            elif node.kind == "name" and node.text.casefold() == "or" and self._words and not self._join:
                at += self._or(node, nodes, at)
            elif node.kind == "name":
                at -= 1
                at += self._name(nodes, at, optional)
            elif node.kind == "phrase":
                self.close()
                number, long = (int(said) for said in node.text.split())
                self.items.append(BarAt(number, node.column, node.end, long))
                self._bound_at(node.end)
            elif node.kind == "feet":
                self._feet(feet_of(node.text), node)
            elif node.kind == "hyphen":
                self._hyphen(node, nodes)
            elif node.kind == "bound":
                pass
            elif node.kind == "pause" and not self.choices.before:
                self._feet_alone(node)
                self._feet_taken()
                self._since = len(self._words)
                self._bound_at(node.end)
            else:
                self._sign(node)

    def _counts_no_step(self, nodes: Sequence[Node], at: int) -> bool:
        """Whether a token is no count, or an "a" that is none: a la derecha; a touch, then a kick."""
        if not isinstance(nodes[at], Counts) or _leads_to(nodes, at):
            return True
        article = is_small_a(nodes[at]) and not at and len(nodes) > 1 and is_word(nodes[1])
        return not self.choices.before and (article or _is_listed_article(nodes, at))

    def _begins_with_figure(self, node: Counts, nodes: Sequence[Node], at: int) -> int:
        """Take a name that begins with a figure, as in 6 count basic; returns how many more tokens that used."""
        text, size = self._figure_name(node, nodes, at)
        if size:
            card, plural = self._card(text)
            end = nodes[at + size - 1].end
            if card is not None:
                card = self._one_of_several(text, card, node.column, end, nodes[at + size :])
            self._word(Word(text, card, node.column, end, several=plural))
        return size

    def _counted(self, node: Counts, nodes: Sequence[Node], at: int) -> int:
        """Take counts; returns how many more tokens they used."""
        after = nodes[at] if at < len(nodes) else None
        number = node.atoms[0].number if len(node.atoms) == 1 else None
        if self.choices.before:
            return self._taken(node)
        if number is not None and self._words and is_name(after, say.TIMES):
            self._often(Bit("times", f"x{number}", node.column, after.end if after is not None else node.end))
            return 1
        if node.text == "&" and self._held_on(nodes[at - 2] if at > 1 else None, after):
            return 0
        more = self._far(node, nodes, at)
        if more is None:
            more = self._counts_of(node, nodes, at)
        if more is not None:
            return more
        if node.text.casefold() in say.ARTICLES and self._is_article(nodes, at):
            return 0
        if node.text.casefold() == "a" and self._words and is_name(after, say.THE):
            # "a la derecha": to the right; what is said of it begins with the "a" itself.
            return max(0, self._to(nodes, at - 1) - 1)
        both = after if is_name(after, say.BOTH) and isinstance(after, Bit) else None
        if node.text.casefold() == "a" and both is not None and self._other_side(both):
            return len(nodes) - at
        joined = self._join
        self._taken(node)
        return 0 if joined else self._run_on(node, nodes, at)

    def _silent(self, group: Group) -> bool:
        """Take counts in brackets after a step that has its own, on which nothing sounds; whether they were."""
        counts = [node for node in group.items if isinstance(node, Counts)]
        if self.choices.before or not counts or len(counts) < len(group.items) or not (self._words and self._counts):
            return False
        if self._last_number() < 0:
            # "step and snap (1 2)": they are behind all of it.
            return False
        self.close()
        self._counts = counts
        hold = self.shelf.find("hold", self.tradition)
        self._word(Word(self.text[group.column : group.end], hold, group.column, group.end))
        self.close()
        return True

    def _repeat(self, node: Group, times: Bit) -> None:
        self.close()
        inner = _Line(self.shelf, self.tradition, self.choices, self.text)
        inner.read(node.items)
        inner.close()
        self.problems += inner.problems
        self.named += inner.named
        self.open += inner.open
        self.items.append(Repeat(tuple(inner.items), self._times(times)))

    def _name(self, nodes: Sequence[Node], at: int, optional: bool) -> int:
        """Take the longest known name from a token on, which is a name; returns how many tokens it used."""
        names = list(islice(names_from(nodes, at, pauses=not self.choices.before), self.shelf.longest))
        first = names[0]
        if not self.choices.before and is_name(first, say.BODY) and self._patted(names):
            return 1
        if not self.choices.before and first.text.casefold() in say.SO_MANY and self._so_many(nodes, at, first):
            return 1
        longest = min(len(names), self.shelf.longest_from(first.text))
        # Where a part of a line is read by itself, some words of a name may be in the other.
        for size in range(min(self.choices.size(first.column, longest), longest), 0, -1):
            text = " ".join(n.text for n in names[:size])
            card, plural = self._card(text)
            if size == 1 and self._hands_go(first, nodes[at + 1 : at + 2]):
                card = None
            said = self.shelf.parting(text) if card is not None and size > 1 else ""
            if card is not None and said != APART:
                used = reach(nodes, at, size)
                card = self._one_of_several(text, card, first.column, names[size - 1].end, nodes[at + used :])
                if self._many is not None and self._many[0] == 1 and not plural:
                    self._many = None
                # "4 stamp, 4 clap".
                one = self._how_many and len(self._counts) == 1
                # "flap 4" is on 4, or danced four times; "flap (4)" is on 4.
                since = self._counts[0].column if self._only_count and self._counts else 0
                behind = since > first.column and self.text[since - 1] != "("
                few = plural or one or may_be_several(text) or behind
                if few and self._many is None:
                    self._counted_or_many(first, names[size - 1])
                if size > 1 and said != TOGETHER:
                    self._note(nodes, at, names[:size], card, at + used)
                end = names[size - 1].end
                word = Word(text, card, first.column, end, optional=optional, several=plural)
                figure = self.shelf.figure(card)
                if figure is not None:
                    # A part begins as it is written to, and turns as it does.
                    word = replace(word, side=figure.side, turn=figure.turn)
                own = self._own_last(word, nodes[at + used] if at + used < len(nodes) else None)
                if own is None:
                    self._word(word)
                return used + (own or 0)
        if self.choices.before and first.text.casefold() in SIDES:
            self._side = SIDES[first.text.casefold()], first
            return 1
        small = 0 if self.choices.before else self._small(nodes, at, first)
        if small:
            return small
        if not self.choices.before and self._in_one(first, nodes[at + 1 :]):
            return 1
        following = names_from(nodes, at)
        names = list(islice(following, self.shelf.longest))
        # All of an unknown name together, up to the next word that is known, makes one problem.
        size = 1
        while size < len(names) and not self._known(names, size) and not is_name(names[size], say.FOR):
            size += 1
            names += islice(following, 1)
        text = " ".join(n.text for n in names[:size])
        end = names[size - 1].end
        self.problems.append(unknown(text, first.column, end, self.shelf, self.tradition))
        self._word(Word(text, None, first.column, end, optional=optional))
        return size

    def _so_many(self, nodes: Sequence[Node], at: int, first: Bit) -> bool:
        """Note that "triple clap" may be so many claps, or the figure and a clap; whether it is taken so."""
        sound = nodes[at + 1] if at + 1 < len(nodes) else None
        if not isinstance(sound, Bit) or not is_word(sound):
            return False
        turns = is_name(sound, say.TURN) and self._amount_next(nodes, at + 2)
        if turns or sound.column < first.column:
            # "triple turn 1/2 left", "turn on the triple": it is the step that turns.
            return False
        self._so_called(nodes, at, first)
        card, plural = self._card(sound.text)
        single = card is not None and card.primitive and len(card.beats) == 1 and not plural and self._many is None
        if not single or self._makes(first.text, sound.text) or self._card(first.text)[0] is None:
            return False
        figure, many = first.column in self.choices.otherwise, say.SO_MANY[first.text.casefold()]
        said = f"{first.text}, {sound.text}" if figure else sound.text + (f" x{many}" if many > 1 else "")
        code: OpenCode = "as_figure" if figure else "so_many"
        self.open.append(Open(code, first.column, sound.end, said, 2 if figure else 0))
        if not figure:
            self._many = many, first
        return not figure

    def _so_called(self, nodes: Sequence[Node], at: int, first: Bit) -> None:
        """Say of a "triple" right before a figure, where that is a time step, that no step is called so: triple
        irish."""
        row = [name.text for name in islice(names_from(nodes, at + 1), self.shelf.longest)]
        size = next((n for n in range(len(row), 0, -1) if self._sounds_of(" ".join(row[:n])) > 1), 0)
        alone, _ = self._card(first.text)
        called = [first.text, *row[:size]]
        if not size or alone is None or "time step" not in alone.name or self._sounds_of(" ".join(called)):
            return
        if called[1].casefold() in say.SO_MANY:
            # "single double triple": each by itself.
            return
        self.problem("N101", first, f'No step is called "{" ".join(called)}".')

    def _note(self, nodes: Sequence[Node], at: int, names: Sequence[Bit], card: Card, after_at: int) -> None:
        """Note a name of several words that may be read as others."""
        sizes = tuple(size for size in range(len(names) - 1, 0, -1) if self._begins(names, size))
        if not sizes:
            return
        first, last = names[0].text.casefold(), names[-1].text.casefold()
        after, before = self._lone_after(nodes, after_at), self._lone_before(nodes, at)
        # A word beside it that would make another name with its last, or its first.
        goes_on, led = self._makes(last, after), self._makes(before, first)
        places = self._uncounted and len(names) > 2 and all(n.text.casefold() in say.WHERE for n in names)
        bare = self._uncounted or _counts_nothing(nodes, at)
        again = bare and self._once_more_after(nodes, names, after_at)
        told: dict[Against, bool] = {
            "apart": any(n.column in self._wide for n in names[1:]) or any(is_pause(n) for n in nodes[at:after_at]),
            "first after": after == first and goes_on,
            "last after": after == last and (goes_on or last in DROPS or self._sounds_of(last) > 1),
            "first before": before == first and (led or len(names) == 2),
            "last before": before == last and (led or card.primitive),
            "places": places,
            # "toe tap toe tap".
            "in a row": (places and bool(after or before)) or (len(card.beats) == 1 and again),
            # "shuffle heel step": a heel or a toe that drops, and then a step.
            "dropped": bare and first in DROPS and last == "step",
            # "heel walk double step", "point and hop back".
            "shared": goes_on and (last in _LEADS_ON or any(is_name(name, say.AND) for name in names)),
        }
        against = frozenset(what for what, holds in told.items() if holds)
        text = " ".join(n.text for n in names)
        self.named.append(Named(text, card, names[0].column, names[-1].end, sizes, against))

    def _once_more_after(self, nodes: Sequence[Node], names: Sequence[Bit], after_at: int) -> bool:
        """Whether a name is said once more right after it."""
        following = islice(names_from(nodes, after_at, pauses=True), len(names))
        return [bit.text for bit in following] == [bit.text for bit in names]

    def _makes(self, one: str, other: str) -> bool:
        """Whether two words are a name together."""
        return bool(one and other) and self._card(f"{one} {other}")[0] is not None

    def _lone_after(self, nodes: Sequence[Node], at: int) -> str:
        """The word right after a name, over where that goes, where no name of several words begins with it."""
        at += at < len(nodes) and self._is_where(nodes[at])
        names = list(islice(names_from(nodes, at), self.shelf.longest))
        sizes = range(2, len(names) + 1)
        longer = any(self.shelf.find(" ".join(n.text for n in names[:s]), self.tradition) for s in sizes)
        return names[0].text.casefold() if names and not longer else ""

    def _lone_before(self, nodes: Sequence[Node], at: int) -> str:
        """The word right before a name, over where that went, where it is one of its own."""
        at -= bool(at) and self._is_where(nodes[at - 1])
        node = nodes[at - 1] if at else None
        own = is_word(node) and self._words and self._words[-1].text == node.text
        return node.text.casefold() if own and isinstance(node, Bit) else ""

    def _is_where(self, node: Node) -> bool:
        """Whether a token stands in brackets and says where the step before it goes: touch (f) heel."""
        return is_name(node, _WHERE) and self.text[node.column - 1 : node.column] == "("

    def _begins(self, names: Sequence[Bit], size: int) -> bool:
        """Whether the first of some words are a name, and the next one begins another."""
        known, _ = card_said(self.shelf, " ".join(n.text for n in names[:size]), self.tradition)
        # "side step" may be a step to the side, and a step.
        where = size == 1 and names[0].text.casefold() in say.WHERE
        return (known is not None or where) and self._known(list(names), size)

    def _or(self, said: Bit, nodes: Sequence[Node], at: int) -> int:
        """Take a word that may stand in place of the one before it; returns how many tokens it used. Behind a pause
        what may be danced in place of what is asked: stamp clap, or clap stamp."""
        led = nodes[at - 2] if at > 1 else None
        names = [node.text for node in takewhile(is_word, nodes[at:]) if isinstance(node, Bit)]
        several = len(names) > 1 and self._card(" ".join(names))[0] is None
        if is_pause(led) and several and len(self._words) > 1:
            told = f'Write one of the two ways, or "{said.text}" right behind each step that may be another.'
            self.problem("N118", said, told)
        head = self._words.pop()
        target = head.joined[-1] if head.joined else head
        before = len(self._words)
        named = next(names_from(nodes, at), None) is not None
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

    def _sign(self, bit: Bit) -> None:
        if bit.kind == "bar":
            self.close()
            self.items.append(Bar())
            self._bound_at(bit.end)
        elif bit.kind == "times" and self._paced_steps():
            # "quick quick slow x2".
            self._often(bit)
        elif bit.kind in ("other", "fraction", "pause", "pace"):
            self.problem("N109", bit, f'"{bit.text}" means nothing here.')
        elif bit.kind == "times" and (bit.text[0].isdigit() or self._after_then(bit)) and self._is_ahead(bit):
            # "3x flap".
            self._many = self._times(bit), bit
        elif not self._words:
            self.problem("N112", bit, f'"{bit.text}" has no word before it.')
        elif bit.kind == "join":
            self._join = bit
        elif bit.kind == "times":
            self._often(bit)
        else:
            self._mark(bit)

    def _after_then(self, bit: Bit) -> bool:
        """Whether "then" stands right before how often, and a step behind it: then x2 flap."""
        led = self.text[max(0, bit.column - _WORD) : bit.column].casefold().split()[-1:]
        return bool(led) and led[0] in say.THEN and self.text[bit.end :].lstrip()[:1].isalpha()

    def _is_ahead(self, bit: Bit) -> bool:
        """Whether how often is said before its step, as in 2x step 2x touch: it is where the first is."""
        if not self.text[bit.end :].strip(" .,;!)"):
            # "stamp clap, 4x".
            return not self._words and not self.items
        if not self._words[self._since :]:
            self._often_ahead = True
            return True
        return self._often_ahead and bool(self.text[bit.end :].strip(" .,;"))

    def _patted(self, names: Sequence[Bit]) -> bool:
        """Whether the word right before is what a hand does on the body, and no step of several words begins: pat
        your knees. A clap on it is asked about."""
        longer = (" ".join(n.text for n in names[:size]) for size in range(2, len(names) + 1))
        if any(self._card(text)[0] is not None for text in longer):
            return False
        word = self._words[-1] if self._words[self._since :] else None
        kind = word.card.beats[-1].kind.name if word is not None and word.card is not None else ""
        if word is not None and kind == "clap":
            told = f'Say "pat" for a hand on it, or "{word.text}, {names[0].text}" for two.'
            self.problem("N109", names[0], told)
        return kind in ("pat", "clap")

    def _amount_next(self, nodes: Sequence[Node], at: int) -> bool:
        """Whether how far to turn and which way are said next."""
        sense = nodes[at + 1] if at + 1 < len(nodes) else None
        return at < len(nodes) and self._is_amount(nodes, at) and is_name(sense, frozenset(SIDES))

    def _is_amount(self, nodes: Sequence[Node], at: int) -> bool:
        """Whether a token says how far to turn: a fraction, or quarter, half, full where they begin no step."""
        bit = nodes[at]
        if not isinstance(bit, Bit) or bit.text.casefold() not in TURN_WORDS:
            return isinstance(bit, Bit) and bit.kind == "fraction"
        names = list(islice(names_from(nodes, at), self.shelf.longest))
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
        turn = amount if sense == "right" else -amount
        if self._turns_before(after, turn):
            return 1
        head = self._words.pop()
        target = head.joined[-1] if head.joined else head
        target = replace(target, turn=turn, end=after.end)
        self._words.append(replace(head, joined=(*head.joined[:-1], target)) if head.joined else target)
        return 1

    def _turns_before(self, after: Bit, turn: Fraction) -> bool:
        """Note that a turn behind a pause may be a count of its own, or how the step before it is danced: triple,
        turn 1/4 left; whether it is taken as that step's."""
        turning, before = self._words[-1], self._words[-2] if len(self._words) > 1 else None
        alone = turning.card is not None and turning.card.name == "turn" and not turning.joined and not turning.side
        if before is None or before.card is None or not alone or not self._uncounted or self.choices.before:
            return False
        link = self.text[before.end : turning.column].strip().casefold()
        if of_no_foot(before) or before.turn or before.joined or link not in (",", *say.AND):
            return False
        column, with_it = turning.column, turning.column in self.choices.otherwise
        way = replace(before, turn=turn, end=after.end)
        written = way.said if with_it else f"{before.said}, {turning.text} {turn_text(turn)}"
        code: OpenCode = "same_word" if with_it else "step_there"
        self.open.append(Open(code, column, after.end, written, 3 if with_it else 0, since=before.column))
        if with_it:
            self._words[-2:] = [way]
        return with_it


def _is_listed_article(nodes: Sequence[Node], at: int) -> bool:
    """Whether an "a" leads to one more of a list, after an "and", a then or a pause."""
    before = nodes[at - 1] if at else None
    node = nodes[at]
    led = is_pause(before) or is_name(before, say.AND | say.THEN)
    article = is_small_a(node)
    return article and led and at + 1 < len(nodes) and is_word(nodes[at + 1])


def _said_after(nodes: Sequence[Node], at: int) -> bool:
    """Whether a count is "a", or stands after "on": its step is said before it."""
    node = nodes[at]
    if isinstance(node, Counts) and node.text.casefold() in say.ARTICLES:
        return True
    before = at - 1 - is_said(nodes, at - 1, say.THE)
    return is_said(nodes, before, say.ON)


def _counts_nothing(nodes: Sequence[Node], at: int) -> bool:
    """Whether nothing is counted between the pauses about a token."""
    before = takewhile(lambda node: not is_pause(node), reversed(nodes[:at]))
    after = takewhile(lambda node: not is_pause(node), nodes[at:])
    return not any(isinstance(node, Counts) for part in (before, after) for node in part)


class Runs(NamedTuple):
    """A line's runs of counts and words, what is wrong with them, its names that may be read as others, and what else
    it leaves open."""

    items: list[Item]
    problems: list[Problem]
    named: list[Named]
    open: list[Open]


class _Watched:
    """The plain choices, of which it is noted what was asked: on which columns; `all`, whether anything else was."""

    before = False

    def __init__(self) -> None:
        self.columns: set[int] = set()
        self.all = False

    @property
    def otherwise(self) -> "_Watched":
        return self

    def __contains__(self, column: int) -> bool:
        self.columns.add(column)
        return False

    def size(self, column: int, most: int) -> int:
        self.columns.add(column)
        return PLAIN.size(column, most)

    def meant(self, column: int) -> int:
        self.columns.add(column)
        return PLAIN.meant(column)

    def __getattr__(self, name: str) -> Any:
        self.all = True
        return getattr(PLAIN, name)

    def alike(self, choices: Choices) -> bool:
        """Whether all that was asked is the same by some choices."""
        return choices == PLAIN or not (self.all or choices.before or self.columns & choices.columns)


class _CountsFirst(NamedTuple):
    """A line as it is once its counts stand before their steps, and which choices that goes by."""

    line: _Line
    nodes: tuple[Node, ...]
    watched: _Watched

    def by(self, choices: Choices) -> _Line:
        """A line of its own that goes on from there."""
        line = copy(self.line)
        for name, value in vars(line).items():
            if isinstance(value, list):
                setattr(line, name, value.copy())
        line.choices = choices
        return line


@lru_cache(maxsize=4_000)
def _counts_first(text: str, shelf: Shelf, tradition: str) -> _CountsFirst:
    """A line by the plain choices: to put its counts before its steps takes longest of all."""
    watched = _Watched()
    line = _Line(shelf, tradition, cast(Choices, watched), text)
    nodes = line.counts_first(parse_line(text)[0])
    return _CountsFirst(line, tuple(nodes), watched)


def runs_of(
    nodes: Sequence[Node],
    shelf: Shelf,
    tradition: str,
    choices: Choices = PLAIN,
    text: str = "",
) -> Runs:
    """The runs of one line, whose tokens are given with it."""
    plain = None if choices.before or not text else _counts_first(text, shelf, tradition)
    if plain is not None and plain.watched.alike(choices):
        line = plain.by(choices)
        line.read_numbered(plain.nodes)
    else:
        line = _Line(shelf, tradition, choices, text)
        line.read(nodes)
    line.close()
    line.end()
    items = line.items if choices.untied else tied(line.items, choices.otherwise)
    return Runs(items, line.problems, line.named, line.open)


def _leads_to(nodes: Sequence[Node], at: int) -> bool:
    """Whether an "a" is said of where a step goes: a la derecha."""
    return is_small_a(nodes[at]) and is_said(nodes, at + 1, say.THE) and is_said(nodes, at + 2, frozenset(say.SIDES))
