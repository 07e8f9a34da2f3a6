"""Lines that follow on each other, read one after another: each goes on from where the one before it left."""

import re
from collections.abc import Sequence
from fractions import Fraction
from functools import lru_cache
from operator import attrgetter, itemgetter
from typing import NamedTuple

from msgspec.structs import replace

from firn.core.pattern import late
from firn.core.same import begins_alike, same_start
from firn.core.script.again import Again, Instead, again_of, changed, danced_again, instead_of, put_in_place
from firn.core.script.beneath import Filled, as_it_stands
from firn.core.script.choices import OFTEN
from firn.core.script.counts import Entry, atoms_of
from firn.core.script.counts_rows import with_counts
from firn.core.script.doubts import Doubt, Offer
from firn.core.script.handout import Row
from firn.core.script.items import FOOT_WRITTEN, Item, Repeat, WordRun
from firn.core.script.places import MOST_SOUNDS, Use
from firn.core.script.placing import MOST_OPENING, opening
from firn.core.script.problems import Problem
from firn.core.script.readings import Like, LineAsked, LineRead, danced_on, read_line
from firn.core.script.said import card_said
from firn.core.script.settings import Settings
from firn.core.script.stacked import RowItems, Stacked, stacked
from firn.core.steps.shelf import Shelf
from firn.core.steps.sides import ACROSS
from firn.core.task import give_way

TOO_MANY = f"With this line the part has more than {MOST_SOUNDS:,} sounds: it is read up to here."


@lru_cache(maxsize=20_000)
def _read_on(number: int, asked: LineAsked) -> LineRead:
    """A line as it is believed, its words and problems on their line of the text."""
    return _on_line(number, read_line(asked))


def _on_line(number: int, read: LineRead) -> LineRead:
    placed = read.placed
    uses = tuple(replace(use, line=number) for use in placed.uses)
    problems = tuple(p.moved(number) for p in placed.problems)
    return LineRead(
        replace(placed, uses=uses, problems=problems),
        tuple(p.moved(number) for p in read.problems),
        tuple(replace(d, line=number) for d in read.doubts),
        read.choices,
    )


class RowsRead(NamedTuple):
    """Lines as they are believed: their words, places of unknown ones, what is wrong, and what is in doubt."""

    uses: list[Use]
    unknown: list[Fraction]
    problems: list[Problem]
    doubts: list[Doubt]

    def lengths(self) -> tuple[int, int, int, int]:
        """How much there is of each."""
        return len(self.uses), len(self.unknown), len(self.problems), len(self.doubts)

    def until(self, lengths: tuple[int, int, int, int]) -> "RowsRead":
        """The first so many of each."""
        uses, unknown, problems, doubts = lengths
        return RowsRead(self.uses[:uses], self.unknown[:unknown], self.problems[:problems], self.doubts[:doubts])


class _Asked(NamedTuple):
    """A line with what it is read by, beside what the lines before it left."""

    row: Row
    items: tuple[Item, ...]
    faults: tuple[Problem, ...]
    shelf: Shelf
    ahead: int | None
    filled: Filled | None = None
    doubts: tuple[Doubt, ...] = ()
    span: int = 0


class _Left(NamedTuple):
    """What a line leaves to the next: the state, the words that can be danced again, the sounds so far, and how much
    of all lists is of the lines up to it; and how it was read itself, None for one without words."""

    entry: Entry
    body: Sequence[Use]
    sounds: int
    lengths: tuple[int, int, int, int]
    read: LineRead | None


class _Rows:
    """Reads lines one after another, and keeps what each left.

    `quick`: the first line that is not as it was is read like that one was, nothing else being tried; `like`: which
    that is, and how it was read; `quickly`: the first line that was read so.
    """

    def __init__(self, settings: Settings, shelf: Shelf, entry: Entry, *, before: bool, quick: bool = False) -> None:
        self.read_by = settings, shelf, entry, before
        self.settings, self.shelf, self.before = settings, shelf, before
        self.found = RowsRead([], [], [], [])
        self.rows: Sequence[Row] = ()
        self.lines: Sequence[Stacked] = ()
        self.asks: list[_Asked] = []
        self.left: list[_Left] = []
        self.entry, self.sounds = entry, 0
        self.body: Sequence[Use] = ()
        self.quick = quick
        self.like: tuple[int, Like] | None = None
        self.quickly: int | None = None

    def ask(self, rows: Sequence[Row], lines: Sequence[Stacked], known: "Sequence[_Rows]") -> None:
        """Ask for some lines, by what they are and by what the next ones begin with; `known`: what asked for lines
        that may begin so."""
        self.rows, self.lines = rows, lines
        alike = [(self._alike(one), one.asks) for one in known if one.shelf is self.shelf]
        same, asks = max(alike, key=itemgetter(0), default=(0, []))
        # By what the next one begins with the last with words among them is read, too.
        same = next((n for n in range(same - 1, -1, -1) if lines[n].own.items), 0)
        rest = [line.own for line in lines[same:]]
        # What a figure is named in is read anew when that changes, and nothing else.
        self.asks = [
            *asks[:same],
            *(
                _Asked((number, line.text), one.items, one.faults, own, ahead, line.filled, line.doubts, line.span)
                for (number, _), line, one, own, ahead in zip(
                    rows[same:], lines[same:], rest, (self.shelf.for_line(line.text) for line in lines[same:]),
                    _numbers_ahead(rest), strict=True,
                )
            ),
        ]  # fmt: skip

    def _alike(self, other: "_Rows") -> int:
        """How many of the first lines are those of another."""
        return begins_alike(other.lines[: same_start(other.rows, self.rows)], self.lines)

    def take_over(self, other: "_Rows") -> int:
        """Take over what another read of the first lines, as far as they are the same; returns how many."""
        settings, *rest = self.read_by
        theirs, *others = other.read_by
        if (settings is not theirs and settings != theirs) or rest != others:
            return 0
        same = min(same_start(other.asks, self.asks), len(other.left))
        if other.quickly is not None and not self.quick:
            # What was read quickly was for the while.
            same = min(same, other.quickly)
        if same:
            self.left = other.left[:same]
            self.entry, self.body, self.sounds, lengths, _ = self.left[-1]
            self.found = other.found.until(lengths)
        if self.quick and same < min(len(other.left), len(self.asks)):
            self._read_like(other, same)
        return same

    def _read_like(self, other: "_Rows", number: int) -> None:
        """Read a line as another read what stood there."""
        self.quickly = min(number, other.quickly) if other.quickly is not None else number
        was, read, now = other.asks[number], other.left[number].read, self.asks[number]
        if read is not None and was.filled is None and now.filled is None and was.row[0] == now.row[0]:
            self.like = number, Like.of(was.row[1], read, now.row[1])

    def read(self, asked: _Asked) -> bool:
        """Read one more; False where it is too much."""
        give_way()
        number, row = asked.row
        self.found.doubts.extend(asked.doubts)
        again = again_of(row)
        if again is not None and not again.whole and asked.span and self._all_as_long(asked.span):
            # "1-4: …", "5-8: …", "1-8: repeat".
            again = replace(again, whole=True, repeats=False)
        if again is not None and again.whole:
            self.body = tuple(self.found.uses)
        self.sounds += _sounds(self.body) * again.times if again is not None else 0
        if self.sounds > MOST_SOUNDS:
            self.found.problems.append(Problem("N111", number, 0, max(1, len(row.rstrip())), TOO_MANY))
            return False
        if again is not None:
            self._again(again, number, asked.span)
        elif not asked.items:
            self.found.problems.extend(p.moved(number) for p in asked.faults)
        read = self._line(asked) if again is None and asked.items else None
        self.left.append(_Left(self.entry, self.body, self.sounds, self.found.lengths(), read))
        return True

    def _all_as_long(self, counts: int) -> bool:
        """Whether all lines up to here take so many counts, and the one before does not."""
        every = tuple(self.found.uses)
        return bool(self.body) and _counts_of(self.body) != counts == _counts_of(every)

    def _line(self, asked: _Asked) -> LineRead:
        """Take the words of a line; gives how it was read, on no line of the text."""
        (number, row), _, _, theirs, ahead, filled, *_ = asked
        settings = self.settings
        stated = settings.phrase is not None
        like = self.like[1] if self.like is not None and self.like[0] == len(self.left) else None
        one = LineAsked(
            row, theirs, settings.counting, self.entry, settings.tradition, stated, ahead, self.before, like
        )
        line = _read_on(number, one)
        if filled is not None:
            line = as_it_stands(line, filled)
        placed = line.placed
        self.found.problems.extend((*line.problems, *placed.problems))
        self.found.doubts.extend(line.doubts)
        self.found.uses.extend(placed.uses)
        self.found.unknown.extend(placed.unknown)
        self.entry, self.body = placed.after, placed.uses or self.body
        self.sounds += _sounds(placed.uses)
        return read_line(one)

    def _lines(self, again: Again) -> list[str]:
        """The lines up to here that are danced, as they are written once more: on the other side from the other foot
        on; none where a foot or a turn is written in them, which would be the other one."""
        before = self.asks[: len(self.left)]
        danced = [asked for asked in before if asked.items or again_of(asked.row[1]) is not None]
        lines = [asked.row[1] for asked in danced]
        if not again.other or not lines:
            return lines
        first = next((item for item in danced[0].items if isinstance(item, WordRun) and item.words), None)
        if first is None or any(use.side or use.word.turn for use in self.found.uses):
            return []
        at = first.words[0].column
        foot = FOOT_WRITTEN[again.side or ACROSS[self.settings.lead]]
        return [f"{lines[0][:at]}{foot}{lines[0][at:]}", *lines[1:]]

    def _again(self, again: Again, number: int, span: int) -> None:
        if again.doubtful:
            spot = again.column, again.end
            offers = (
                Offer("times_more", (f"{again.times} {OFTEN['times_more']}",), (*spot, f"again x{again.times}")),
                Offer(
                    "times_in_all", (f"{again.times} {OFTEN['times_in_all']}",), (*spot, f"again x{again.times - 1}")
                ),
            )
            self.found.doubts.append(Doubt(number, *spot, offers))
        if again.repeats and len(every := self._lines(again)) > 1:
            spot, other = (again.column, again.end), again.other
            where = " on the other side" if other else " once more"
            once = "again" if not other else f"again on the {again.side}" if again.side else "other side"
            offers = (
                Offer("line_again", (f"the line before{where}",), (*spot, once)),
                Offer("lines_again", (f"all {len(every)} lines{where}",), (*spot, "\n".join(every))),
            )
            self.found.doubts.append(Doubt(number, *spot, offers))
        if again.side and self.body:
            own, turned = self.body[0].side, bool(self.body[0].across)
            if not own and not turned and again.side == self.settings.lead:
                said = f"The line before may be on the {again.side} already: write other side, or again."
                self.found.problems.append(Problem("N117", number, again.column, again.end, said))
                return
            again = replace(again, other=own != again.side)
        self.body, wrong = _danced_again(again, self.body, number, self.settings, self.shelf)
        self.found.uses.extend(self.body)
        self.found.problems.extend(wrong)
        if span and self.body and (long := _counts_of(self.body)) != span:
            told = f"The line before, danced again, takes {long} counts, and not {span}."
            self.found.problems.append(Problem("N103", number, again.column, again.end, told))
        if self.body:
            at = max(u.last for u in self.body)
            self.entry = danced_on(replace(self.entry, at=at, started=True), self.body)


_BULLET = late(r"\s*(?:[•*▪◦·‣>→»]|(?![LRSQDIlr])[A-Za-z]\)|[-–—](?![^#]*\s[-–—](?:\s|$)))\s+")
"""What begins a line of a list; dashes in a line with others of them may be counts on which nothing sounds."""
_NUMBERED = late(r"\s*(?:(?P<n>\d{1,3})\.|\(?(?P<m>\d{1,3})\))\s+(?=(?P<first>\d{1,3})(?![\d.)]))")
"""A number in a list, before the first count of what is in it."""
_LED = late(
    r"\s*(?:so|now|then|ok|okay|ahora|luego)[,:]?\s+(?=(?:[^\W\d_]+\s){0,3}\w+\s*[:.)]|(?:hold|rest|wait)\s+\d)",
    re.IGNORECASE,
)
"""What only leads to a line, before a head or a number of it."""
_QUOTED = late(r"\s*(?:“([^“”#]*)”|\"([^\"#]*)\")[.!]?\s*")


@lru_cache(maxsize=20_000)
def _bare(row: str) -> str:
    """A line without the mark that it begins with in a list, and the quotes about it; all else in its place."""
    for pattern in (_BULLET, _NUMBERED, _LED):
        match = pattern.match(row)
        if match is not None and not _counts_on(match):
            row = " " * match.end() + row[match.end() :]
    if match := _QUOTED.fullmatch(row):
        start, end = match.span(match.lastindex or 0)
        row = " " * start + row[start:end]
    return row


def _counts_on(match: re.Match[str]) -> bool:
    """Whether a number before another is the count before it: 1. 2 step."""
    said = match.groupdict()
    return "first" in said and int(said["first"]) == int(said["n"] or said["m"]) + 1


_LONG = 24
"""Of so many lines a text is long."""

_read: tuple[_Rows, ...] = ()
"""The last long ones, the newest first: what is written in one line leaves those above. Replaced whole, since jobs
read too."""


def read_rows(
    rows: Sequence[Row], settings: Settings, shelf: Shelf, *, before: bool = False, quick: bool = False
) -> RowsRead:
    """Lines that follow on each other.

    `before`: as they were read before they were read as they are said. `quick`: of many, the line that has changed is
    read like it was, with what was in doubt of it, for the while.
    """
    global _read
    rows = [*zip(map(itemgetter(0), rows), map(_bare, map(itemgetter(1), rows)), strict=True)]
    lines = with_counts(stacked(rows, shelf, settings.tradition, before=before), rows, shelf, settings.tradition)
    entry = opening(_danced(rows, [*map(attrgetter("own.items"), lines)]), settings.counting, settings.tradition)
    reading = _Rows(settings, shelf, entry, before=before, quick=quick)
    # A stretch that is typed in may be short; its line is read like it was, too.
    long = quick or len(rows) >= _LONG
    reading.ask(rows, lines, _read if long else ())
    same = next((n for one in _read if (n := reading.take_over(one))), 0) if long else 0
    for line in reading.asks[same:]:
        if not reading.read(line):
            break
    if long:
        _read = (reading, *_read[:1])
    return reading.found


def _danced(rows: Sequence[Row], lines: Sequence[tuple[Item, ...]]) -> list[tuple[Item, ...]]:
    """The items of some lines; of a line that only says that the one before it is danced again, before the first with
    counts, what that has."""
    found: list[tuple[Item, ...]] = []
    for number, ((_, row), items) in enumerate(zip(rows, lines, strict=True)):
        again = None if items else again_of(row)
        if number > MOST_OPENING or any(atoms_of(items)):
            return [*found, *lines[number:]]
        if again is not None and found:
            items = (Repeat(found[-1], again.times),)
        found.append(items)
    return found


def _numbers_ahead(lines: Sequence[RowItems]) -> list[int | None]:
    """For each line the first number of the next one that has words; None where that begins with none."""
    ahead: list[int | None] = []
    following: int | None = None
    for line in reversed(lines):
        ahead.append(following)
        if line.items:
            following = line.number
    return ahead[::-1]


def _counts_of(uses: Sequence[Use]) -> int:
    """Over how many counts some words go, what leads up to the first of them left out."""
    return int(max(use.last for use in uses) // 1 - min(-(-place // 1) for use in uses for place in use.places)) + 1


def _sounds(uses: Sequence[Use]) -> int:
    return sum(len(use.places) for use in uses)


_WITH = late(r"^(?:with|con)(?: an?| the| una?| el| la)?(?= )")
"""Before what is different: same, but with a stamp on 4."""


def _instead(
    again: Again, instead: Instead, uses: list[Use], many: int, number: int, settings: Settings, shelf: Shelf
) -> tuple[list[Use], list[Problem]]:
    """The words of a line that is danced again with one of them left out, or another in its place, the last such; and
    what is wrong with that. `many`: the words of one time."""
    at = again.at + instead.at
    once = uses[-many:]
    old = card_said(shelf, instead.old, settings.tradition)[0] if instead.old else once[-1].card
    target = next((use for use in reversed(once) if use.card is old), None)
    if old is None or target is None:
        told = f'There is no "{instead.old}" in the line before that could be left out or danced otherwise.'
        return uses, [Problem("N117", number, at, at + len(instead.new or instead.old), told)]
    read = read_rows([(number, " " * at + (instead.new or "hold"))], settings, shelf)
    if not read.uses:
        return uses, read.problems
    new = read.uses
    if not instead.new:
        new = [replace(use, word=replace(use.word, column=again.column, end=again.end)) for use in new]
    return [*uses[:-many], *put_in_place(once, target, new)], read.problems


def _danced_again(
    again: Again, body: Sequence[Use], number: int, settings: Settings, shelf: Shelf
) -> tuple[list[Use], list[Problem]]:
    """The words of a line that dances the one before again, and what is wrong with it."""

    def problem(start: int, end: int, message: str) -> list[Problem]:
        return [Problem("N117", number, start, end, message)]

    if not body:
        return [], problem(again.column, again.end, "There is no line before this one to dance again.")
    uses = danced_again(again, body, number)
    if again.change is None:
        return uses, []
    instead = instead_of(again.change)
    if instead is not None:
        return _instead(again, instead, uses, len(body), number, settings, shelf)
    blanked = " " * again.at + _WITH.sub(lambda said: " " * len(said[0]), again.change, count=1)
    read = read_rows([(number, blanked)], settings, shelf)
    new, problems = read.uses, read.problems
    if not new:
        return uses, problems or problem(again.column, again.end, "Say what is different, such as: same but 7 stamp.")
    last = [u for u in uses if u.places[0] >= uses[-len(body)].places[0]]
    made = changed(last, body, new, settings.counting)
    if made is None:
        said = settings.counting.name(new[0].places[0])
        told = f"There is nothing on {said} in the line before that this could be in place of."
        return uses, [*problems, *problem(again.at, len(blanked), told)]
    return [*uses[: len(uses) - len(last)], *made], problems
