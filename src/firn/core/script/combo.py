"""The combo read: parts in order, how often, on which side, how they begin, and how the last time ends."""

import re
from collections.abc import Sequence
from fractions import Fraction

from msgspec.structs import replace

from firn.core.script.combo_item import MOST_TIMES, ORDINALS, Across, ComboItem, ItemSide, Role
from firn.core.script.combo_often import OftenSaid
from firn.core.script.combo_parts import MOST_ITEMS, SPACES
from firn.core.script.combo_said import (
    BETWEEN,
    COPIED,
    ENTRY,
    FIGURES,
    GROUP,
    GROUP_NEXT,
    LETTERS,
    LINK,
    LISTED,
    MOST_EVERY,
    NOTE,
    OFTEN,
    ONCE_AGAIN,
    OVER,
    ROWS,
    SECTION,
    SIDE_FIRST,
    SPACE,
    TAIL,
    TURN,
    WAIT,
    ending_said,
    how_often,
    number_said,
    side_said,
)
from firn.core.script.layers import CUES, HANDS
from firn.core.script.problems import MOST_LETTERS, Problem, too_long
from firn.core.script.turns import parse_amount
from firn.core.steps.names import fold, nearest

_ACROSS: dict[ItemSide, ItemSide] = {"left": "right", "right": "left", "other": "as written", "as written": "other"}

LEAD, FOLLOW = 1, 2
"""The groups of those who lead, and of those who follow."""

MOST_ROWS = 24
"""Each row is danced through for itself: no floor holds more of them."""

MOST_HINTS = 50
"""So many slips get the nearest names: more are no slips."""


class _Reader(OftenSaid):
    def __init__(self, names: Sequence[str]) -> None:
        super().__init__(names)
        # What is said of the floor, and waits for the part that it is for.
        self._notes: list[tuple[str, str]] = []
        # Lines of hands or arms, each with where it stands, that wait for the part that they begin with.
        self._over: list[tuple[Across, Problem]] = []
        # Who dances what comes: the group, its block, and when it enters.
        self._who: tuple[int, int, int | None] = (0, 0, None)
        self._role: Role = ""
        # What the lead dances in the line that a follow's comes after.
        self._lead: list[ComboItem] = []
        # Whether rows danced the line before: who dances the next has to be said.
        self._rows_before = False
        # Where the parts begin that the line said last to end with.
        self._closes_at = -1

    def line(self, number: int, text: str) -> None:
        # "[A B] x2": parts, and no script of its own.
        text = BETWEEN.sub(lambda said: f"({said[1]})" if self._all_parts(said[1]) else said[0], text.split("#")[0])
        starts = [0, *(m.end() for m in GROUP_NEXT.finditer(text))] if GROUP.match(text) else [0]
        for start, end in zip(starts, [*starts[1:], len(text)], strict=True):
            # "group 1: A, group 2: B", each where it stands.
            self._line(number, " " * start + text[start:end].rstrip(" ,;" if end < len(text) else ""))

    def _line(self, number: int, text: str) -> None:
        note = NOTE.fullmatch(text.rstrip())
        if note is not None:
            self._notes += [(note[1].casefold(), note[2])] if note[2] else []
            return
        over = OVER.fullmatch(text.rstrip())
        if over is not None and over["layer"].casefold() in (*HANDS, *CUES):
            self._goes_over(number, over)
            return
        rows = ROWS.match(text)
        self._rows_before = self._rows_before and not rows and not GROUP.match(text)
        at, fresh = rows.end() if rows else self._group(text), True
        copied = COPIED.fullmatch(text, at) if not rows and at and self._role == "follow" else None
        if copied is not None and fold(text[at:].strip()) not in self._names:
            self._copy(number, text, at, mirrored=bool(copied["mirrored"]))
            return
        section = None if rows or at else SECTION.match(text)
        at = section.end() if section else at
        listed = None if at or self._part(text, 0) else LISTED.match(text)
        at = listed.end() if listed and self._part(text, listed.end()) else at
        begun, self._danced_again, self._closes_at = len(self.items), None, -1
        at, times = self._opened(number, text, at)
        while at < len(text):
            space = SPACE.match(text, at)
            if space:
                fresh = fresh or bool(space[0].strip())
                at = space.end()
                continue
            # "A A A Break": after a part another, where nothing else is said of the first.
            tail = TAIL.match(text, at)
            letter = tail is not None and len(tail[0].strip("()")) == 1
            # "Turn-over" may be a part.
            named = (fresh or not tail or letter or tail["turn"]) and self._part(text, at)
            if named and self._is_article(text, at):
                # "four As and a Break".
                at += 2
                continue
            if not named and fresh and (led := self._led_bracket(number, text, at)):
                at = self._headed(text, led)
                continue
            if not named and fresh and (led := self._before(number, text, at)):
                at, fresh = led, False
                continue
            if not named and not fresh and (led := self._several(number, text, at)):
                at = led
                continue
            if not named and (between := self._between(number, text, at, begun, fresh=fresh)):
                at, fresh = between, True
                continue
            fresh = fresh or bool(named)
            link = None if named else LINK.match(text, at)
            # "begin with A" opens a line; "begins with 5 step" is said of the part before it.
            opens = link is not None and len(self.items) == begun and self._part_after(text, link.end())
            if not named and text[at] in "()" and not (tail and letter):
                at, fresh = self._headed(text, self._bracket(number, text, at)), True
            elif link is not None and (opens or not tail):
                at, fresh = link.end(), True
            else:
                at = self._one(number, text, at, fresh)
                fresh = at == self._closes_at
        self._all_led(number, text, times, begun)
        if self._notes and len(self.items) > begun:
            self.items[begun] = replace(self.items[begun], notes=tuple(self._notes))
            self._notes = []
        if self._over and len(self.items) > begun:
            over_all = tuple(across for across, _ in self._over)
            self.items[begun] = replace(self.items[begun], across=(*self.items[begun].across, *over_all))
            self._over = []
        if rows:
            self._rows(number, rows, begun)
            self._rows_before = True
            return
        if self._rows_before and len(self.items) > begun:
            message = 'Say who dances this after the rows, such as "all:" or "row 1:" before it.'
            self.problems.append(Problem("C402", number, self.items[begun].column, len(text.rstrip()), message))
        group, block, after = self._who
        self.items[begun:] = [
            replace(i, group=group, block=block, after=after, who=self._role) for i in self.items[begun:]
        ]
        self._lead = self.items[begun:] if self._role == "lead" else self._lead
        if section and len(self.items) > begun:
            self._name(number, section, begun)

    def _all_parts(self, text: str) -> bool:
        """Whether nothing but names of parts is said."""
        said = [fold(one) for one in SPACE.split(text) if one.strip(" ,")]
        return bool(said) and all(one in self._names for one in said)

    def _is_article(self, text: str, at: int) -> bool:
        """Whether an "a" is no part: small before a part that is not."""
        after = self._part(text, at + 2) if text[at : at + 2] == "a " else None
        return after is not None and text[at + 2].isupper()

    def _goes_over(self, number: int, over: re.Match[str]) -> None:
        """Keep a line of hands or arms for the part that it begins with."""
        every, text = int(over["every"] or 0), over["text"].strip()
        if over["every"] is not None and not 1 <= every <= MOST_EVERY:
            message = f"It cannot come again every {every} counts: between 1 and {MOST_EVERY}."
            self.problems.append(Problem("N111", number, over.start("every"), over.end("every"), message))
            return
        layer = over["layer"].casefold()
        message = f"This line of {layer} stands before the parts that it goes over: none come."
        waits = Problem("C402", number, over.start("layer"), over.end(), message)
        if text:
            self._over.append((Across(layer, text, every), waits))

    def _name(self, number: int, section: re.Match[str], begun: int) -> None:
        """Keep the items of a line as a section."""
        name = " ".join(section["name"].split())
        if fold(name) in self._names:
            message = f'"{name}" is a part: a section needs a name of its own.'
            self.problems.append(Problem("C402", number, section.start("name"), section.end("name"), message))
            return
        self.items[begun] = replace(self.items[begun], section=name)
        self._sections[fold(name)] = name, self.items[begun:]
        self._reach = max(self._reach, len(name) + SPACES)

    def _group(self, text: str) -> int:
        """Take "group 2, after 8:" at the head of a line; gives where its items begin."""
        match = GROUP.match(text)
        if match is None:
            return 0
        said, who = match["group"], (match["who"] or "").casefold()
        self._role = "lead" if who == "lead" else "follow" if who else ""
        group = {"lead": LEAD, "follow": FOLLOW}.get(who, 0) if said is None else number_said(said)
        # Who follows dances with the lead, where nothing else is said.
        together = match["together"] or who == "follow"
        after = int(match["after"]) if match["after"] else 0 if together else None
        self._who = group, self._who[1] + 1, after
        return match.end()

    def _copy(self, number: int, text: str, at: int, *, mirrored: bool) -> None:
        """Give a follow what the lead dances, on the same feet or the other ones."""
        end = len(text.rstrip())
        if not self._lead:
            message = "Say first what the lead dances, such as lead: A x2."
            self.problems.append(Problem("C402", number, at, end, message))
            return
        group, block, after = self._who
        column = at + len(text[at:]) - len(text[at:].lstrip())
        made = [
            replace(i, group=group, block=block, after=after, who="follow", notes=(), section="",
                    line=number, column=column, end=end, until=(number, end))
            for i in self._lead
        ]  # fmt: skip
        if mirrored:
            made = [replace(i, side=_ACROSS.get(i.side, "" if n else "other")) for n, i in enumerate(made)]
        self._add(number, at, end, made)

    def _rows(self, number: int, rows: re.Match[str], begun: int) -> None:
        """Give the items of a line to rows: all of them to each, so many counts apart; or one to each, at the same
        time or in turn."""
        items, block = self.items[begun:], self._who[1]
        if rows["many"]:
            many, apart = (number_said(rows[name]) for name in ("many", "apart"))
            room = min(MOST_ROWS, (MOST_ITEMS - begun) // max(1, len(items)))
            if not 1 <= many <= room:
                message = f"{many} rows cannot dance this: between 1 and {room}."
                self.problems.append(Problem("N111", number, rows.start(), rows.end(), message))
            given = [(items, row * apart if row else None) for row in range(max(1, min(many, room)))]
        else:
            if len(items) > MOST_ROWS:
                message = f"{len(items)} rows cannot dance this: between 1 and {MOST_ROWS}."
                self.problems.append(Problem("N111", number, rows.start(), rows.end(), message))
            given = [([item], None if rows["turn"] or not row else 0) for row, item in enumerate(items[:MOST_ROWS])]
        made = [
            replace(item, group=row, block=block + row, after=after)
            for row, (danced, after) in enumerate(given, 1)
            for item in danced
        ]
        self.items[begun:] = made
        self._role = ""
        self._who = len(given), block + len(given), None

    def close(self) -> None:
        """The end of the combo: brackets still open are a problem."""
        if self._notes and self.items:
            last = self.items[-1]
            self.items[-1] = replace(last, notes=(*last.notes, *(("at the end", said) for _, said in self._notes)))
        self.problems += [waits for _, waits in self._over]
        for line, column, *_ in self._open:
            self.problems.append(Problem("N110", line, column, column + 1, "This bracket has no partner."))
        self.problems.sort(key=lambda p: (p.line, p.column))

    def _one(self, number: int, text: str, at: int, fresh: bool) -> int:
        named = self._part(text, at) if fresh else None
        if named and fold(named[0]) in self._sections:
            return self._section_again(number, text, at, named[1])
        if named:
            name, end = named
            self._danced_again = None
            self.items.append(ComboItem(name, line=number, column=at, end=end, until=(number, end)))
            return end
        tail = TAIL.match(text, at)
        if tail and self.items and self._danced_again is not None:
            self._section_tail(number, tail, self._danced_again)
            return tail.end()
        if tail and self.items:
            return self._tail(number, tail)
        if run_on := self._run_on(number, text, at):
            return run_on
        end = text.find(",", at)
        end = end if end >= 0 else len(text.rstrip())
        said = text[at:end].strip()
        code, what = ("C401", "No part is called") if fresh or not self.items else ("C402", "Not understood here:")
        slip = len(said) <= self._reach and len(self.problems) < MOST_HINTS
        near = tuple(self._names[n] for n in nearest(said, self._names, cutoff=0.5)) if slip else ()
        hint = f" Nearest: {', '.join(near)}." if near else ""
        self.problems.append(Problem(code, number, at, end, f'{what} "{said}".{hint}', near))
        return max(end, at + 1)

    def _run_on(self, number: int, text: str, at: int) -> int:
        """Take parts of one letter that are written in one, and how often right before a part: AABA, 2A; gives where
        they end, 0 for none."""
        many = FIGURES.match(text, at)
        named = self._part(text, many.end()) if many is not None else None
        if many is not None and named is not None:
            name, end = named
            times = self._times(number, at, many.end(), many[0])
            self.items.append(ComboItem(name, times, line=number, column=at, end=end, until=(number, end)))
            return end
        letters = LETTERS.match(text, at)
        names = [self._names.get(fold(letter), "") for letter in letters[0]] if letters is not None else []
        if letters is None or not all(names):
            return 0
        for column, name in enumerate(names, at):
            here = column + 1
            self.items.append(ComboItem(name, line=number, column=column, end=here, until=(number, here)))
        return letters.end()

    def _before(self, number: int, text: str, at: int) -> int:
        """Take what is said of a part before it, and the part: 3x A, three times A, two As, left A; gives where it
        ends, 0 where this is none."""
        match = SIDE_FIRST.match(text, at)
        named = match and self._part(text, match.end())
        if match and named:
            name, end = named
            self._danced_again = None
            side = side_said(match["side"])
            self.items.append(ComboItem(name, side=side, line=number, column=at, end=end, until=(number, end)))
            return end
        return self._often(number, text, at)

    def _between(self, number: int, text: str, at: int, begun: int, *, fresh: bool) -> int:
        """Take what is danced between parts and is none: wait 8, repeat; gives where it ends, 0 where it is not."""
        wait = WAIT.match(text, at)
        if wait is not None:
            long = number_said(wait["long"] or wait["so"])
            if not 1 <= long <= MOST_TIMES:
                message = f"A wait lasts between 1 and {MOST_TIMES} counts, not {long}."
                self.problems.append(Problem("N111", number, at, wait.end(), message))
            times = max(1, min(long, MOST_TIMES))
            name = f"[hold x{times}]" if times > 1 else "[hold]"
            self._danced_again = None
            self.items.append(ComboItem(name, line=number, column=at, end=wait.end(), until=(number, wait.end())))
            return wait.end()
        once = ONCE_AGAIN.match(text, at) if not fresh and self.items else None
        if once is not None and any(item.part == self.items[-1].part for item in self.items[:-1]):
            # "A, B, then A again".
            return once.end()
        return self._all_often(number, text, at, begun) if once is None else 0

    def _both_sides(self, number: int, tail: re.Match[str], item: ComboItem) -> None:
        """A part on one side and then on the other."""
        sides: list[ItemSide] = [side for one in fold(tail[0]).split() if (side := side_said(one))]
        first = sides[0] if sides else "as written"
        item = replace(item, side=first, until=(number, tail.end()))
        self.items.append(item)
        self._add(number, tail.start(), tail.end(), [replace(item, side=_ACROSS[first])])

    def _tail(self, number: int, tail: re.Match[str]) -> int:
        """Take what is said of the part before; gives where that ends."""
        item = self.items.pop()
        said = tail[0]
        if tail["both"]:
            self._both_sides(number, tail, item)
            return tail.end()
        if tail["times"]:
            if (before := self._of_next(number, tail, item)) > 0:
                return before
            self._of_one(number, tail, item)
            self._once_more(number, tail, item.times > 1)
            item = replace(item, times=self._times(number, tail.start(), tail.end(), str(how_often(said))))
        elif tail["side"]:
            item = self._on_side(number, tail, item)
        elif tail["never"]:
            item = replace(item, never_swaps=True)
        elif tail["turn"]:
            self._once_more(number, tail, bool(item.turn))
            item = replace(item, turn=self._turn(number, tail) or item.turn)
        elif tail["enters"]:
            entry = ENTRY.sub("", said, count=1).strip()
            first = fold(said).removeprefix("the ").startswith("first")
            item = replace(item, first_begins=entry) if first else replace(item, begins=entry)
        elif tail["time"]:
            item = self._time(number, item, tail)
        elif tail["last"]:
            item = replace(item, last_ends=ending_said(said))
        elif closing := self._closing(tail):
            # "A, end with Break": read on from there.
            self.items.append(item)
            self._closes_at = closing
            return closing
        else:
            item = replace(item, ends=ending_said(said))
        self.items.append(replace(item, until=(number, tail.start() + len(tail[0].rstrip()))))
        return tail.end()

    def _on_side(self, number: int, tail: re.Match[str], item: ComboItem) -> ComboItem:
        """A part on the side that is said; where one was said before, once more on this: A R, then L."""
        other: ItemSide = "other" if "other" in fold(tail[0]).split() else "as written"
        side = side_said(tail[0]) or other
        if item.side in ("", side):
            return replace(item, side=side)
        self._add(number, tail.start(), tail.end(), [replace(item, until=(number, tail.start()))])
        return replace(item, side=side, section="", notes=())

    def _once_more(self, number: int, tail: re.Match[str], said: bool) -> None:
        """Note that how often a part is danced, or how far it turns, is said twice."""
        if said:
            message = f'"{tail[0].strip()}" takes the place of what is said before it: say one of them.'
            self.problems.append(Problem("C402", number, tail.start(), tail.end(), message))

    def _closing(self, tail: re.Match[str]) -> int:
        """Where the parts begin that an "end with" names, how often they are danced included; 0 for an ending in
        steps."""
        if "with" not in fold(tail[0]).split():
            return 0
        text = tail.string[: tail.end()].rstrip()
        start = len(text) - len(ending_said(tail[0]))
        at = start
        while (link := LINK.match(text, at)) is not None:
            at = link.end() + len(text[link.end() :]) - len(text[link.end() :].lstrip())
        # "end with two As", "end with 2x A".
        often = OFTEN.match(text, at)
        after = often and SPACE.match(text, often.end())
        several = often is not None and after is not None and self._part(text, after.end(), several=True) is not None
        return at if several or self._part(text, at) else 0

    def _turn(self, number: int, tail: re.Match[str]) -> Fraction:
        match = TURN.fullmatch(" ".join(tail[0].split()))
        amount = parse_amount(match["amount"]) if match else None
        if match is None or amount is None:
            message = f'"{tail[0].strip()}" is no turn: write how far and which way, such as turn 1/4 right.'
            self.problems.append(Problem("N113", number, tail.start(), tail.end(), message))
            return Fraction(0)
        return amount if match["sense"].casefold() == "right" else -amount

    def _time(self, number: int, item: ComboItem, tail: re.Match[str]) -> ComboItem:
        """An ending of one time, such as "2nd time ends: & touch"."""
        which = int(tail["which"]) if tail["which"] else ORDINALS[tail["said"].casefold()]
        if not 1 <= which <= item.times:
            said = "once" if item.times == 1 else f"{item.times} times"
            message = f"{item.part} is danced {said}: it has no time {which}. Say how often first, such as x3."
            self.problems.append(Problem("C403", number, tail.start(), tail.end(), message))
            return item
        ends = ending_said(tail[0])
        kept = tuple(t for t in item.time_ends if t[0] != which)
        return replace(item, time_ends=tuple(sorted((*kept, (which, ends)))))


def read_combo(lines: Sequence[str], names: Sequence[str]) -> tuple[tuple[ComboItem, ...], list[Problem]]:
    """The items of a combo's lines; `names` are the parts that it may join."""
    reader = _Reader(names)
    for number, line in enumerate(lines):
        if len(line) > MOST_LETTERS:
            reader.problems.append(too_long(number, line))
        else:
            reader.line(number, line)
    reader.close()
    return tuple(reader.items), reader.problems
