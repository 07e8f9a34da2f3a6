"""The small words between steps, as a line is read: and, then, on, twice, numbers, feet, and where a step goes."""

from collections.abc import Sequence
from itertools import islice

from msgspec.structs import replace

from firn.core.script import said as say
from firn.core.script.choices import Open
from firn.core.script.collector import EIGHTS, MOST_TIMES
from firn.core.script.items import BarAt, Item, Repeat, Word, WordRun
from firn.core.script.places import counts_of, lasts
from firn.core.script.said import SIDES
from firn.core.script.said_again import SaidAgain
from firn.core.script.tokens import count_of, is_name, is_often, is_said, names_from, times_said
from firn.core.script.tree import Atom, Bit, Counts, Group, Node, is_pause, is_word, number_alone

_WHERE = frozenset(say.WHERE)
_SIDES = frozenset(SIDES)
_ENDS = ("pause", "mark")
_NUMBERS = frozenset(say.NUMBERS)
_SOON_OVER = 4
"""So many counts a step may be held, that is said for so long."""
MOST_BARS = 999


class SmallWords(SaidAgain):
    """Takes what is no step's name but says something of steps."""

    def _small(self, nodes: Sequence[Node], at: int, first: Bit) -> int:
        """Take a word that is no step's name but says something of steps; returns how many tokens it used, 0 for
        none of these."""
        word = first.text.casefold()
        after = nodes[at + 1] if at + 1 < len(nodes) else None
        if used := self._all_goes(nodes, at, first) or self._ahead_goes(nodes, at):
            return used
        if word in say.FEET and is_name(after, frozenset(SIDES)):
            return 1
        if word in say.OPENS_OTHER and (self._words or self.items) and self._other_side(first):
            return len(nodes) - at
        if word in say.OPENS_OTHER and self._words and (used := self._each_side(nodes, at)):
            return used
        if word in SIDES:
            return self._struck_by(SIDES[word], nodes, at, first) or self._side_said(SIDES[word], nodes, at, first)
        if word in say.THEN:
            self._since = len(self._words)
            if times_said(nodes, at + 1)[0] is None:
                # "flap heel then clap twice": that is of the clap.
                self._bound_at(first.end)
            return 1
        if self._at_once and word in say.AS_ONE:
            self._at_once = False
            return 1
        if self._words[self._since :] and (word in say.IT or (word in say.AGAIN and self._once_more(nodes, at))):
            return 1
        if word in say.ON and self._words[self._since :] and not self._on_first(nodes, at):
            there = at + (2 if is_name(after, say.THE) else 1)
            place = nodes[there] if there < len(nodes) else None
            if isinstance(place, Bit) and is_name(place, _WHERE):
                # "en el lugar": in place.
                self._where(say.WHERE[place.text.casefold()], place, plainly=True)
                return there + 1 - at
            return self._on(nodes, at)
        if word in say.ON and self._uncalled(nodes, at):
            # "on 1 stamp, on the 2 clap"; "on 1 and 2 stamp": on both.
            there = at + 1 + is_name(after, say.THE)
            near = [number_alone(count_of(node)) for node in nodes[there : there + 3 : 2]]
            self._lists = self._lists or (len(near) == 2 and None not in near and near[1] == (near[0] or 0) + 1)
            return 2 if is_name(after, say.THE) else 1
        if word in say.ALTERNATES and self._changes_feet():
            return 2 if is_name(after, say.FEET | say.SIDES_SAID) else 1
        if word in say.ALTERNATES and is_word(after) and self._next_changes_feet(nodes, at + 1):
            # "alternating flaps".
            return 1
        if word in say.LEVELS:
            return self._loud(say.LEVELS[word], nodes, at)
        if word in say.FROM | say.ON | say.WITH and not at and self._foot_next(nodes, 1) and self._foot_parted(nodes):
            # "from the left foot, flap".
            return self._starts(nodes, at)
        if word in say.LEADERS and not at and is_name(after, say.STARTS | _SIDES):
            # "leader starts left": it is the leader's steps that are written.
            return 1
        if word in say.STARTS:
            return self._starts(nodes, at)
        if word in say.WITH and self._foot_next(nodes, at + 1):
            return 1
        if word in say.WITHOUT | say.WITH and is_name(after, say.WEIGHT) and self._weighed(word in say.WITH):
            return 2
        if word in say.ANOTHER and is_word(after) and not is_name(after, say.FEET):
            return 1
        # A full stop ends it.
        ends = after is None or (isinstance(after, Bit) and after.kind in _ENDS and at + 2 == len(nodes))
        led = is_name(nodes[at - 1], say.THEN | say.AND) if at else False
        if word == "again" and ends and at > 0 and is_word(nodes[at - 1]) and not led and self._said_before():
            # "touch, clap, touch again"; "touch again", as a line of its own.
            return 1
        danced = bool(self._words) or any(not isinstance(item, BarAt) for item in self.items)
        if word in say.AGAIN and danced and ends:
            # "…, repeat": all of the line.
            self._all_again(2)
            return len(nodes) - at
        if danced and at and is_pause(nodes[at - 1]) and self._again_so_often(nodes, first):
            return len(nodes) - at
        if word in say.ONCE_OR_MORE and not self._words[self._since :] and isinstance(after, Group):
            # "twice (DS RS)".
            self._many = say.ONCE_OR_MORE[word], first
            return 1
        if word in say.ALL_OF_IT and danced and (used := self._all_so_often(nodes, at)):
            return used
        if word in say.ONCE_OR_MORE and (self._words or self._paced_steps()):
            self._often(Bit("times", f"x{say.ONCE_OR_MORE[word]}", first.column, first.end))
            return 1
        if say.pace_of(first.text):
            return self._paced(say.pace_of(first.text), first)
        if word in say.NUMBERS:
            return self._number(say.NUMBERS[word], nodes, at, first)
        if word in say.AND or (word in say.DIVISIONS and self._among_counts()):
            return self._and(nodes, at, first)
        if word in say.COUNTED and (isinstance(after, Counts) or is_name(after, _NUMBERS)):
            # "counts 1 and 2": two counts, and so on from there; "beat one".
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

    def _uncalled(self, nodes: Sequence[Node], at: int) -> bool:
        """Whether "on" stands before a count whose step comes after it."""
        there = at + 1 + is_said(nodes, at + 1, say.THE)
        count = count_of(nodes[there]) if there < len(nodes) else None
        before = nodes[at - 1] if at else None
        begins = before is None or is_pause(before) or is_name(before, say.THEN | say.AND)
        begins = begins or self._on_first(nodes, at)
        return count is not None and begins and there + 1 < len(nodes)

    @staticmethod
    def _foot_parted(nodes: Sequence[Node]) -> bool:
        """Whether a line begins with a foot alone, up to a pause."""
        pause = next((n for n, node in enumerate(nodes) if is_pause(node)), 0)
        return bool(pause) and all(is_name(node, say.THE | say.FEET | _SIDES) for node in nodes[1:pause])

    @staticmethod
    def _on_first(nodes: Sequence[Node], at: int) -> bool:
        """Whether a line says first on which count each of its steps is: on 4 heel on 5 step."""
        first, there = 1 + is_said(nodes, 1, say.THE), at + 1 + is_said(nodes, at + 1, say.THE)
        counts = [count_of(nodes[n]) for n in (first, there) if n + 1 < len(nodes)]
        return (
            at > 1
            and is_name(nodes[0], say.ON)
            and len(counts) == 1 + 1
            and None not in counts
            and is_word(nodes[there + 1])
        )

    def _changes_feet(self) -> bool:
        """Whether the word before ends on the other foot than it begins with."""
        before = self._last_word()
        return before is not None and before.card is not None and before.card.weight_changes % 2 == 1

    def _next_changes_feet(self, nodes: Sequence[Node], at: int) -> bool:
        """The same of the step that is named next."""
        names = [name.text for name in islice(names_from(nodes, at), self.shelf.longest)]
        cards = (self._card(" ".join(names[:size]))[0] for size in range(len(names), 0, -1))
        size, card = next(
            ((n, card) for n, card in zip(range(len(names), 0, -1), cards, strict=False) if card), (0, None)
        )
        after = nodes[at + size] if at + size < len(nodes) else None
        # "alternate flaps and shuffles" says of no step how often.
        ends = after is None or is_pause(after) or times_said(nodes, at + size)[1] or is_name(after, say.FOR)
        return bool(ends) and card is not None and card.weight_changes % 2 == 1

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
        if number == self._long(card) > 1 and len(self._words[self._since :]) == 1:
            # "boogie back for 4": once is just so long.
            return used
        if (whole := self._all_as_long(number, count)) is not None:
            return used if whole else 0
        long = self._long(card)
        if number % long:
            said = f'"{self._words[-1].text}" takes {long} counts, which do not go into {number}.'
            self.problem("N103", count, said)
            return used
        if not 1 < number // long <= MOST_TIMES or (self._counts and not self._since):
            return 0
        last = self._words[-1]
        if len(card.beats) == number > long == 1 and not last.several and used > 2:
            # "cramp roll in 4 counts": four of them, or one, slowly.
            counts = " ".join(str(n + 1) for n in range(number))
            self.problem("N103", count, f'Say "{last.text} x{number}", or "{counts} {last.text}" for a slow one.')
        single = len(card.beats) == 1 and not last.several and not last.joined and number <= _SOON_OVER
        # "stamp for four" is four; "stamp for four counts" may be one.
        single = single and (used > 2 or card.name == "step")
        if single and self._lasts_so_long(last, number, nodes[at + used - 1].end, likely=lasts(card)):
            return used
        self._words[-1] = replace(last, times=number // long, end=count.end)
        return used

    def _all_as_long(self, number: int, said: Counts) -> bool | None:
        """Take "for eight counts" after several steps as of all of them: whether they go into so many; None after
        one."""
        words = self._words[self._since :]
        if len(words) < 2 or self._counts or any(word.card is None for word in words):
            return None
        long = sum(counts_of(word.card, EIGHTS, self.tradition) * word.times for word in words if word.card)
        if number % long:
            shown = self.text[words[0].column : words[-1].end]
            self.problem("N103", said, f'"{shown}" takes {long} counts, which do not go into {number}.')
        elif number > long:
            self._often(Bit("times", f"x{number // long}", said.column, said.end))
        return True

    def _lasts_so_long(self, word: Word, number: int, end: int, *, likely: bool) -> bool:
        """Note that "step for two counts" may be one on each, or one that is held, which is `likely` of what lasts;
        whether it is taken so."""
        held = (word.column in self.choices.otherwise) != likely
        after = "hold" if number == 2 else f"hold x{number - 1}"
        said = f"{word.said}, {after}" if held else f"{word.said} x{number}"
        self.open.append(Open("once" if held else "each", word.column, end, said, 0 if held == likely else 2))
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
            behind = self.items[-1] if self.items else None
            if isinstance(behind, Repeat) and (not at or is_pause(nodes[at - 1]) or is_often(nodes[at - 1])):
                # "(stamp clap) x4 softly".
                self.items[-1] = _at_level(behind, level)
                return 1
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
        if last is not None and last.atoms[-1].number is not None and not last.atoms[-1].pace:
            # "1 slow step": the count is said, and how long it takes.
            atoms = (*last.atoms[:-1], replace(last.atoms[-1], pace=counts))
            self._counts[-1] = Counts(atoms, last.text, last.column, first.end)
        else:
            self._counts.append(Counts((Atom(None, "", "", None, counts),), first.text, first.column, first.end))
        return 1

    def _weighed(self, weight: bool) -> bool:
        """Take a step as it is called with weight, or without: stamp without weight; whether it can be."""
        before = self._last_word()
        if before is None or before.card is None or before.joined:
            return False
        if bool(before.card.weight_changes) == weight:
            return True
        called = next((one[weight] for one in say.WEIGHED if one[not weight] == before.card.name), "")
        card = self._card(called)[0] if called and self._words else None
        if card is None or bool(card.weight_changes) != weight:
            return False
        self._words[-1] = replace(before, text=called, card=card)
        return True


def _at_level(item: Item, level: int) -> Item:
    """What is danced, all of it so loud."""
    if isinstance(item, Repeat):
        return replace(item, body=tuple(_at_level(one, level) for one in item.body))
    return (
        replace(item, words=tuple(replace(w, level=level) for w in item.words)) if isinstance(item, WordRun) else item
    )
