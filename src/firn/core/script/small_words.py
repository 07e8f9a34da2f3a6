"""The small words between steps, as a line is read: and, then, on, twice, numbers, feet, and where a step goes."""

from collections.abc import Sequence
from fractions import Fraction
from itertools import islice

from msgspec.structs import replace

from firn.core.script import said as say
from firn.core.script.again import again_of
from firn.core.script.choices import Open, OpenCode
from firn.core.script.collector import MOST_TIMES
from firn.core.script.items import FOOT_WRITTEN, BarAt, Repeat, Word, WordRun
from firn.core.script.said import SIDES
from firn.core.script.said_feet import SaidFeet
from firn.core.script.tokens import count_of, is_name, is_said, names_from
from firn.core.script.tree import Atom, Bit, Counts, Group, Node, is_pause, is_word
from firn.core.steps.card import Card

_WHERE = frozenset(say.WHERE)
_SIDES = frozenset(SIDES)
_CROSSED = frozenset({"behind", "front", "across", "back", "forward"})
"""Where a step that crosses goes."""
_JUMPED = frozenset({"out", "in", "together", "across"})
"""Where both feet jump, one place after the other."""
_SOON_OVER = 4
"""So many counts a step may be held, that is said for so long."""
MOST_BARS = 999
_ONLY_ASKED = 99
"""What it costs to take what is never believed, only offered."""
_WALKED = frozenset({"step", "flat", "heel_step"})
"""Kinds after which a place to go to may be one more step."""


class SmallWords(SaidFeet):
    """Takes what is no step's name but says something of steps."""

    def _small(self, nodes: Sequence[Node], at: int, first: Bit) -> int:
        """Take a word that is no step's name but says something of steps; returns how many tokens it used, 0 for
        none of these."""
        word = first.text.casefold()
        after = nodes[at + 1] if at + 1 < len(nodes) else None
        if word in say.FEET and is_name(after, frozenset(SIDES)):
            return 1
        if word in say.OPENS_OTHER and (self._words or self.items) and self._other_side(first):
            return len(nodes) - at
        if word in SIDES:
            return self._side_said(SIDES[word], nodes, at, first)
        if word in say.THEN:
            self._since = len(self._words)
            return 1
        if self._at_once and word in say.AS_ONE:
            self._at_once = False
            return 1
        if self._words[self._since :] and (word in say.IT or (word in say.AGAIN and self._once_more(nodes, at))):
            return 1
        if word in say.ON and self._words[self._since :]:
            there = at + (2 if is_name(after, say.THE) else 1)
            place = nodes[there] if there < len(nodes) else None
            if isinstance(place, Bit) and is_name(place, _WHERE):
                # "en el lugar": in place.
                self._where(say.WHERE[place.text.casefold()], place, plainly=True)
                return there + 1 - at
            return self._on(nodes, at)
        if word in say.ON and self._uncalled(nodes, at):
            # "on 1 stamp, on the 2 clap".
            return 2 if is_name(after, say.THE) else 1
        if word in say.ALTERNATES and self._changes_feet():
            return 2 if is_name(after, say.FEET) else 1
        if word in say.LEVELS:
            return self._loud(say.LEVELS[word], nodes, at)
        if word in say.STARTS:
            return self._starts(nodes, at)
        if word in say.WITH and self._foot_next(nodes, at + 1):
            return 1
        if word in say.WITHOUT and is_name(after, say.WEIGHT) and self._takes_no_weight():
            return 2
        if word in say.ANOTHER and is_word(after) and not is_name(after, say.FEET):
            return 1
        if word in say.AGAIN and (self._words or self.items) and after is None:
            # "…, repeat": all of the line.
            self.close()
            self.items = [Repeat(tuple(self.items), 2)]
            return 1
        if word in say.ONCE_OR_MORE and not self._words[self._since :] and isinstance(after, Group):
            # "twice (DS RS)".
            self._many = say.ONCE_OR_MORE[word], first
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
        if word in say.COUNTED and isinstance(after, Counts):
            # "counts 1 and 2": two counts, and so on from there.
            self._lists = self._lists or word.endswith("s")
            return 1
        if word in say.BARS and after is not None and not isinstance(after, Group):
            return self._bar_said(after, nodes, at)
        if word in say.TIMES and self._words and after is not None and not isinstance(after, Group):
            # "times four".
            count = count_of(after)
            many = count.atoms[0].number if count is not None and len(count.atoms) == 1 else None
            if many is not None:
                self._often(Bit("times", f"x{many}", first.column, after.end))
                return 2
        if word in say.FOR and self._lasting():
            return self._for(nodes, at)
        if word in say.FOR and self._words[self._since :]:
            return self._as_long(nodes, at)
        if word in say.GOING and self._words:
            return self._going(nodes, at)
        if word in say.TO:
            return self._to(nodes, at)
        if word in say.WHERE:
            # "in front": where follows.
            if word == "in" and is_name(after, say.AFTER_IN):
                return 1
            if word in say.LEADS_TO and (used := self._goes_before(nodes, at, first)):
                return used
            return self._where(say.WHERE[word], first)
        if word in say.THE and (used := self._struck_with(nodes, at)):
            return used
        if word in say.THE or word in say.ARTICLES:
            return 1 if is_word(after) else 0
        return 0

    def _struck_with(self, nodes: Sequence[Node], at: int) -> int:
        """Take the part of the foot that the step right before is danced with: tap your toe; returns how many tokens
        that used, 0 where it is something else. What is called so by nobody is to be said otherwise."""
        part = nodes[at + 1] if at + 1 < len(nodes) else None
        before = self._words[-1] if self._words[self._since :] and at and is_word(nodes[at - 1]) else None
        if not isinstance(part, Bit) or part.text.casefold() not in say.BARE or before is None or before.joined:
            return 0
        names = (f"{part.text} {before.text}", f"{before.text} {part.text}")
        card = next((card for card, _ in map(self._card, names) if card is not None), None)
        if before.card is None or len(before.card.beats) != 1 or before.text.casefold() in (*say.STEPS, *say.BARE):
            return 0
        if card is None:
            said = f'Say "{before.text}" for one sound, or "{before.text}, {part.text}" for two.'
            self.problem("N109", part, said)
        else:
            self._words[-1] = replace(before, text=card.name, card=card, end=part.end)
        return 2

    def _uncalled(self, nodes: Sequence[Node], at: int) -> bool:
        """Whether "on" stands before a count whose step comes after it."""
        there = at + 1 + is_said(nodes, at + 1, say.THE)
        count = count_of(nodes[there]) if there < len(nodes) else None
        before = nodes[at - 1] if at else None
        begins = before is None or is_pause(before)
        return count is not None and begins and there + 1 < len(nodes)

    def _once_more(self, nodes: Sequence[Node], at: int) -> bool:
        """Whether "again" only says that a step is danced once more: stamp, stamp again, clap."""
        before, after = nodes[at - 1] if at else None, nodes[at + 1] if at + 1 < len(nodes) else None
        return is_word(before) and is_pause(after)

    def _other_side(self, first: Bit) -> bool:
        """Take "other side" at a line's end: all of the line, then all of it on the other foot, or there alone; gives
        whether that is all that follows."""
        again = again_of(self.text[first.column :])
        if again is None or not again.other or again.change is not None:
            return False
        self.close()
        line = self.text[: first.column].rstrip(" ,;:.")
        runs = ((n, item) for n, item in enumerate(self.items) if isinstance(item, WordRun) and item.words)
        opening = next(runs, None)
        alone = first.column in self.choices.otherwise and opening is not None and not again.both
        code: OpenCode = "other_alone" if alone else "both_sides"
        written = f"{line}\n{self.text[first.column :].strip()}"
        if opening is not None:
            number, run = opening
            word = run.words[0]
            side = "right" if word.side == "left" else "left"
            if alone:
                words = (replace(word, side=side), *run.words[1:])
                self.items[number] = replace(run, words=words)
                said = line[word.column :].removeprefix(FOOT_WRITTEN[word.side])
                written = f"{line[: word.column]}{FOOT_WRITTEN[side]}{said}"
        if not alone:
            self.items = [Repeat(tuple(self.items), again.times + 1, other=True)]
        if again.both:
            # It leaves nothing open.
            return True
        self.open.append(Open(code, first.column, len(self.text), written, _ONLY_ASKED if alone else 0, since=0))
        return True

    def _changes_feet(self) -> bool:
        """Whether the word before ends on the other foot than it begins with."""
        before = self._last_word()
        return before is not None and before.card is not None and before.card.weight_changes % 2 == 1

    def _as_long(self, nodes: Sequence[Node], at: int) -> int:
        """Take "for eight counts" after a step: so often as it goes into them; returns how many tokens that used, 0
        where it does not."""
        count = count_of(nodes[at + 1]) if at + 1 < len(nodes) else None
        number = count.atoms[0].number if count is not None and len(count.atoms) == 1 else None
        card = self._words[-1].card
        used = 3 if is_name(nodes[at + 2] if at + 2 < len(nodes) else None, say.COUNTED) else 2
        if number is not None and card is None:
            # What is not known is said once.
            return used
        if number is None or count is None or card is None or self._words[-1].times > 1:
            return 0
        long = self._long(card)
        if number % long or not 1 < number // long <= MOST_TIMES or (self._counts and not self._since):
            return 0
        last = self._words[-1]
        single = len(card.beats) == 1 and not last.several and not last.joined and number <= _SOON_OVER
        if single and card.name == "step" and self._lasts_so_long(last, number, nodes[at + used - 1].end):
            return used
        self._words[-1] = replace(last, times=number // long, end=count.end)
        return used

    def _lasts_so_long(self, word: Word, number: int, end: int) -> bool:
        """Note that "step for two counts" may be one on each, or one that is held; whether it is taken so."""
        held = word.column in self.choices.otherwise
        after = "hold" if number == 2 else f"hold x{number - 1}"
        said = f"{word.said}, {after}" if held else f"{word.said} x{number}"
        self.open.append(Open("once" if held else "each", word.column, end, said, 2 if held else 0))
        hold = self.shelf.find("hold", self.tradition)
        if held and hold is not None:
            self._word(Word("hold", hold, word.end, end, times=number - 1))
        return held

    def _loud(self, level: int, nodes: Sequence[Node], at: int) -> int:
        """Take how loud a step is: the next, where one follows at once; else the one before, as always in Spanish if
        there is one. Returns how many tokens that used."""
        first = nodes[at]
        names = list(islice(names_from(nodes, at + 1), self.shelf.longest))
        follows = any(self._card(" ".join(n.text for n in names[:size]))[0] for size in range(1, len(names) + 1))
        spanish = isinstance(first, Bit) and first.text.casefold() in say.LEVELS_AFTER
        if follows and not (spanish and self._words):
            self._level = level
            return 1
        if not self._words:
            return 0
        head = self._words[-1]
        target = replace(head.joined[-1] if head.joined else head, level=level, end=first.end)
        self._words[-1] = replace(head, joined=(*head.joined[:-1], target)) if head.joined else target
        return 1

    def _bar_said(self, after: Node, nodes: Sequence[Node], at: int) -> int:
        """Take "bar 2:"; returns how many tokens that used."""
        count = count_of(after)
        number = count.atoms[0].number if count is not None and len(count.atoms) == 1 else None
        if number is None or not 1 <= number <= MOST_BARS:
            return 0
        self.close()
        self.items.append(BarAt(number, nodes[at].column, after.end))
        following = nodes[at + 2] if at + 2 < len(nodes) else None
        paused = is_pause(following)
        self._bound_at(following.end if paused and following is not None else after.end)
        return 3 if paused else 2

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

    def _takes_no_weight(self) -> bool:
        """Whether the word before takes no weight anyway."""
        before = self._last_word()
        return before is not None and before.card is not None and not before.card.weight_changes

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

    def _going(self, nodes: Sequence[Node], at: int) -> int:
        """Take "going forward" and "travelling to the right"; returns how many tokens that used."""
        there = at + 1
        while is_said(nodes, there, say.TO | say.THE):
            there += 1
        last = nodes[there] if there < len(nodes) else None
        way = last.text.casefold() if isinstance(last, Bit) else ""
        side = SIDES.get(way, "")
        if not isinstance(last, Bit) or (way not in say.WHERE and side not in ("left", "right")):
            return 0
        self._goes(say.WHERE.get(way) or f"to the {side}", last)
        return there + 1 - at

    def _goes_before(self, nodes: Sequence[Node], at: int, first: Bit) -> int:
        """Note that a direction that opens what is said up to a pause, right before a step, may be where that goes or
        a step there: back rock, side kick; returns how many tokens it used, 0 where it is none or taken otherwise."""
        if self._words[self._since :] or not self._uncounted or self._side is not None or self._join is not None:
            return 0
        if first.text.casefold() in say.CROSSES and is_name(
            nodes[at + 1] if at + 1 < len(nodes) else None, say.CROSS
        ):
            return self._crosses(nodes[at + 1], first)
        names = list(islice(names_from(nodes, at + 1), self.shelf.longest)) if is_word_at(nodes, at + 1) else []
        texts = ((size, " ".join(n.text for n in names[:size])) for size in range(len(names), 0, -1))
        found = ((size, text, self._card(text)[0]) for size, text in texts)
        size, text, card = next(((n, t, c) for n, t, c in found if c is not None), (0, "", None))
        if card is None or text.casefold() in _WHERE or not _goes_somewhere(card, text):
            return 0
        there = first.column in self.choices.otherwise
        word = Word(text, card, first.column, names[size - 1].end)
        written = f"{first.text}, {text}" if there else _with(word, first.text, there=False)
        code: OpenCode = "there" if there else "goes"
        self.open.append(Open(code, first.column, word.end, written, 2 if there else 0))
        if there:
            return 0
        self._where_ahead = say.WHERE[first.text.casefold()], first
        return 1

    def _crosses(self, cross: Node, first: Bit) -> int:
        """Note that "back cross" may be one step that crosses behind, or two; returns as above."""
        assert isinstance(cross, Bit)
        there, going = first.column in self.choices.otherwise, say.CROSSES[first.text.casefold()]
        written = f"{first.text}, {cross.text}" if there else f"step-{going}"
        self.open.append(Open("there" if there else "goes", first.column, cross.end, written, 2 if there else 0))
        if there:
            return 0
        card = self.shelf.find("step", self.tradition)
        self._word(Word(cross.text, card, first.column, cross.end, where=say.WHERE[going]))
        return 2

    def _goes(self, where: str, last: Bit) -> None:
        """Say where the word before goes."""
        before = self._words[-1]
        lifted = before.joined[-1] if before.joined else before
        if last.text.casefold() in say.UP and lifted.card is not None and lifted.card.name in ("heel", "toe"):
            shown = f'A {lifted.text} that goes up makes no sound: say "hold" for its count, or leave it out.'
            self.problem("N109", last, shown)
        target = replace(before.joined[-1] if before.joined else before, where=where, end=last.end)
        self._words[-1] = replace(before, joined=(*before.joined[:-1], target)) if before.joined else target

    def _where(self, where: str, first: Bit, *, plainly: bool = False) -> int:
        """Take where the word before goes; alone, or where counts are left for it, it is a step there. `plainly`: it
        was said to go there."""
        before = self._words[-1] if self._words[self._since :] else None
        target = before and (before.joined[-1] if before.joined else before)
        # "step L back": after its foot it is where the step goes.
        plainly = plainly or (target is not None and not target.where and self._after_a_foot(first))
        moves = target is not None and target.card is not None and target.card.weight_changes > 0
        left = sum(len(g.atoms) for g in self._counts) > sum(len(w.card.beats) if w.card else 1 for w in self._words)
        another = target is not None and bool(target.where or target.text.casefold() in _WHERE or left)
        # What goes somewhere already, or leaves a count over, is followed by a step there.
        # A jump together closes the feet itself.
        step = moves and (another or (where == "together" and target is not None and not _jumps(target)))
        there = target is None or (not plainly and (step or bool(target.where) or left))
        walks = moves and target is not None and _walks(target)
        if target is not None and where in _CROSSED and target.where == "across" and not left and not plainly:
            there = self._crossed(target, first) if target.text.casefold() in _WHERE else there
        elif target is not None and not there and not plainly and self._uncounted and (walks or self._goes_on(first)):
            there = self._direction(target, first)
        if there and target is None and where in _JUMPED and self._jumped_on(where, first):
            return 1
        if there:
            card = self.shelf.find("step", self.tradition)
            self._word(Word(first.text, card, first.column, first.end, where=where))
        else:
            self._goes(where, first)
        return 1

    def _jumped_on(self, where: str, first: Bit) -> bool:
        """Note that after "jump out," "in" may be one more jump, or a step there; whether it is taken so."""
        before = self._last_word()
        if before is None or before.card is None or not _jumps(before) or not before.where:
            return False
        stepped = first.column in self.choices.otherwise
        said = first.text if stepped else f"jump-{first.text}"
        code: OpenCode = "step_there" if stepped else "same_word"
        self.open.append(Open(code, first.column, first.end, said, 3 if stepped else 0))
        if not stepped:
            self._word(replace(before, column=first.column, end=first.end, where=where, times=1, turn=Fraction(0)))
        return not stepped

    def _after_a_foot(self, first: Bit) -> bool:
        """Whether a foot is said right before a word."""
        before = self.text[: first.column].rsplit(maxsplit=1)[-1:]
        return bool(before) and before[0].strip("().").casefold() in _SIDES

    def _crossed(self, target: Word, first: Bit) -> bool:
        """Note that "cross behind" may be two steps where nothing parts the line; gives whether it is taken so."""
        if any(sign in self.text for sign in ",;.:"):
            return False
        turned = first.column in self.choices.otherwise
        written = (
            _with(target, first.text, there=turned) if turned else f"{FOOT_WRITTEN[target.side]}step-{first.text}"
        )
        code: OpenCode = "there" if turned else "goes"
        self.open.append(Open(code, first.column, first.end, written, 4 if turned else 0, since=target.column))
        return turned

    def _goes_on(self, first: Bit) -> bool:
        """Whether one more place to go to is said right after one, as in kick back cross."""
        after = self.text[first.end :].split()
        return bool(after) and after[0].casefold() in _WHERE

    def _direction(self, target: Word, first: Bit) -> bool:
        """Note that a direction after a step without counts may be one more step; gives whether it is taken so."""
        steps = any(say.WHERE.get(word.text.casefold(), "together") != "together" for word in self._words)
        there = (first.column in self.choices.otherwise) != steps
        turned = first.column in self.choices.otherwise
        code: OpenCode = "there" if turned else "goes"
        # A step there is parted from where the next goes.
        parted = "," if there and first.text.casefold() in say.LEADS_TO and self._goes_on(first) else ""
        written = _with(target, first.text, there=there) + parted
        self.open.append(Open(code, first.column, first.end, written, 4 if turned else 0, since=target.column))
        return there


def _with(word: Word, where: str, *, there: bool) -> str:
    """A word with where it goes, in one, or with a step there after it."""
    said = replace(word, times=1, where="").said
    often = f" x{word.times}" if word.times > 1 else ""
    return (
        f"{said}{often}, {where}"
        if there
        else f"{said.replace(word.text, word.text.replace(' ', '-'))}-{where}{often}"
    )


def _walks(word: Word) -> bool:
    """Whether a place to go to, said after a word, may be one more step."""
    return word.card is not None and word.card.beats[0].kind.name in _WALKED


def _goes_somewhere(card: Card, text: str) -> bool:
    """Whether where a step goes may be said before it: of what is swung or leaves the floor, and of figures."""
    # A side step is a step to the side, whatever is named with it.
    figure = len(card.beats) > 1 and card.weight_changes > 0 and not text.casefold().startswith("step")
    return figure or card.beats[0].kind.name in say.SWUNG or text.casefold() in say.WALKS


def is_word_at(nodes: Sequence[Node], at: int) -> bool:
    """Whether a word stands there."""
    return at < len(nodes) and is_word(nodes[at])


def _jumps(word: Word) -> bool:
    return word.card is not None and word.card.beats[-1].kind.name == "jump"
