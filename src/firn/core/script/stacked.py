"""Rows that belong together, as handouts print them: counts over the steps or under them, feet beneath.

Common practice, no source.
"""

from collections.abc import Mapping, Sequence
from functools import cached_property, lru_cache
from typing import NamedTuple

from msgspec import Struct

from firn.core.same import same_start
from firn.core.script.again import again_of
from firn.core.script.beneath import FeetRow, Filled, doubted, feet_row, footed, led, may_be_of, unfitting
from firn.core.script.called_line import kinds_of, spelled
from firn.core.script.choices import PLAIN
from firn.core.script.counts import atoms_of
from firn.core.script.doubts import Doubt, Offer
from firn.core.script.handout import (
    Row,
    as_plain,
    divided,
    how_many,
    is_title,
    lead_of,
    length_of,
    lengths,
    span_of_again,
    without_list_numbers,
    without_step_numbers,
)
from firn.core.script.items import Item, Word, WordRun
from firn.core.script.problems import Problem
from firn.core.script.readings import line_runs
from firn.core.script.said import cards_said, pace_of
from firn.core.script.tree import parse_line
from firn.core.steps.shelf import Shelf


class RowItems(Struct, frozen=True, dict=True):
    """A line's runs of counts and words, what is wrong with it, and the first number in it, None for none."""

    items: tuple[Item, ...]
    faults: tuple[Problem, ...]
    number: int | None

    @cached_property
    def counts_alone(self) -> bool:
        """Whether it holds counts, or how long steps take, and nothing else."""
        run = self._only
        return run is not None and bool(run.counts) and all(pace_of(word.text) for word in run.words)

    @cached_property
    def words_alone(self) -> bool:
        """Whether it holds steps without counts, and nothing else."""
        run = self._only
        return run is not None and bool(run.words) and not run.counts

    @cached_property
    def figure_alone(self) -> Word | None:
        """The figure that it holds, and nothing else; None for any other line."""
        run = self._only
        if run is None or run.counts or len(run.words) != 1 or self.faults:
            return None
        word = run.words[0]
        alone = word.card is not None and word.times == 1 and not (word.side or word.joined or word.turn)
        return word if alone and word.card is not None and len(word.card.beats) >= _LEAST_NAMED else None

    @property
    def _only(self) -> WordRun | None:
        run = self.items[0] if len(self.items) == 1 else None
        return run if isinstance(run, WordRun) else None


@lru_cache(maxsize=20_000)
def row_items(text: str, shelf: Shelf, tradition: str) -> RowItems:
    """One line, in columns of that line."""
    _, brackets = parse_line(text)
    # With all that it is given as the readings give it: so it is kept.
    runs = line_runs(text, shelf, tradition, PLAIN)
    first = next((a.number for a in atoms_of(runs.items) if a is not None), None)
    return RowItems(tuple(runs.items), (*brackets, *runs.problems), first)


NOTHING = RowItems((), (), None)


class Stacked(NamedTuple):
    """A line as it is read: its text, with what other rows say of its steps before these; what it holds by itself;
    what was put in; what is in doubt of a row of feet; and over how many counts it is said to go, 0 where that is not
    said."""

    text: str
    own: RowItems
    filled: Filled | None = None
    doubts: tuple[Doubt, ...] = ()
    span: int = 0


class _Kind(NamedTuple):
    """What a row is: again, or again over so many counts, with it without these counts; the foot that leads; feet;
    what stands on an &, or may stand on the a after it, where that ends; what begins with how many counts it takes,
    where that ends; nothing."""

    again: bool
    danced: str
    span: int
    lead: str
    feet: FeetRow | None
    on_and: bool
    on_a: int
    length: int
    blank: bool
    itself: bool
    """Nothing of all this: it says nothing of others, nor they of it."""


@lru_cache(maxsize=20_000)
def _kind(row: str) -> _Kind:
    danced, span = span_of_again(row)
    over = bool(span) and again_of(danced) is not None
    again = again_of(row) is not None
    on_and, on_a = divided(row)
    span = span if over else 0
    lead, feet, length, blank = lead_of(row), feet_row(row), length_of(row), not row.strip()
    itself = not (again or span or lead or feet or on_and or on_a or length or blank)
    return _Kind(again, danced, span, lead, feet, on_and, on_a, length, blank, itself)


@lru_cache(maxsize=20_000)
def _as_written(row: str, shelf: Shelf, tradition: str) -> Stacked:
    return Stacked(row, row_items(row, shelf, tradition))


class _Stack:
    """Takes rows one after another.

    `left`: for each row that was taken, the row above and whether that stands on an & as they were then; None where
    it is still open what it is. `again`: which row changed what was found of which one before it.
    """

    def __init__(self, shelf: Shelf, tradition: str, many: Mapping[int, int], long: Mapping[int, int]) -> None:
        self._many, self._long = many, long
        self._shelf, self._tradition = shelf, tradition
        self.found: list[Stacked] = []
        self.left: list[tuple[int | None, bool] | None] = []
        self.again: list[tuple[int, int]] = []
        self._above: int | None = None
        self._lead: tuple[int, str, str] | None = None
        self._over: tuple[int, int, str, FeetRow] | None = None
        self._title: tuple[int, int, str] | None = None
        self._on_and = False

    def _put(self, text: str, filled: Filled | None = None, *, span: int = 0, doubts: tuple[Doubt, ...] = ()) -> None:
        own = row_items("" if span else text, self._shelf.for_line(text), self._tradition)
        self.found.append(Stacked(text, own, filled, doubts, span))

    def go_on_from(self, other: "_Stack", same: int) -> int:
        """Take over what another found of the first rows, so many or fewer; returns how many."""
        if self._many or self._long or other._many or other._long:
            return 0
        left = None
        while same and left is None:
            changed = next((at for by, at in other.again if by >= same > at), None)
            left = other.left[same - 1] if changed is None else None
            same = changed if changed is not None else same - (left is None)
        if left is not None:
            self.found, self.left = other.found[:same], other.left[:same]
            self.again = [(by, at) for by, at in other.again if by < same]
            self._above, self._on_and = left
        return same

    def take(self, number: int, row: str) -> None:
        """Take one more."""
        self._take(number, row)
        waits = self._lead or self._over or self._title
        self.left.append(None if waits else (self._above, self._on_and))

    def _change(self, at: int, line: Stacked) -> None:
        """Say of a row before this one what it is by this."""
        self.found[at] = line
        self.again.append((len(self.left), at))

    def _take(self, number: int, row: str) -> None:
        kind = _kind(row)
        if kind.itself and self._by_itself(number, row):
            return
        if kind.again:
            # What a line says of the one before it holds no words of its own.
            self.found.append(Stacked(row, row_items("", self._shelf, self._tradition)))
            self._above = None
        elif kind.span:
            self._put(kind.danced, span=kind.span)
            self._above = None
        elif kind.lead:
            self.end()
            self._lead = len(self.found), kind.lead, row
            self.found.append(Stacked("", NOTHING))
        elif kind.feet is not None and self._above is not None and not self.found[self._above].own.counts_alone:
            self._feet(number, row, kind.feet, self._above)
        elif kind.feet is not None:
            # There are no steps above it: it may be the feet of those below.
            self._unplaced()
            self._over = len(self.found), number, row, kind.feet
            self._put(row)
        else:
            self._steps(number, row, kind)

    def _by_itself(self, number: int, row: str) -> bool:
        """Take one that says nothing of others, if they say nothing of it: nearly all are so."""
        if self._lead or self._over or self._title or number in self._many or number in self._long:
            return False
        here = _as_written(row, self._shelf.for_line(row), self._tradition)
        if here.own.figure_alone is not None or here.own.counts_alone:
            return False
        self.found.append(here)
        self._above, self._on_and = len(self.found) - 1, False
        return True

    def _steps(self, number: int, row: str, kind: _Kind) -> None:
        many = self._many.get(number, 0)
        if many < 0:
            self._put(" " * -many + row[-many:])
        elif many:
            self._put(text := f"{row[:many]}x{row[many:]}", Filled(text, ((many, 1),)))
        elif kind.on_a and self._on_and:
            ends = kind.on_a
            # In a table its cells end at bars.
            rest = row[ends:].replace("|", " ") if row[ends:].lstrip().startswith("|") else row[ends:]
            self._put(text := f"{row[:ends]}:{rest}", Filled(text, ((ends, 1),)))
        elif ends := self._long.get(number, 0):
            self._put(text := f"{row[:ends]}{_COUNTS}{row[ends:]}", Filled(text, ((ends, len(_COUNTS)),)))
        elif ends := kind.length:
            self._put(text := f"{row[:ends]}:{row[ends:]}", Filled(text, ((ends, 1),)))
        else:
            self._put(row)
        if kind.blank:
            return
        self._on_and = kind.on_and
        self._named_over(number, row)
        if self._over is not None and not self.found[-1].own.counts_alone:
            self._feet_over()
        if self._above is None or not self.found[-1].own.counts_alone:
            self._above = len(self.found) - 1
        here = self.found[-1]
        if self._lead is not None and (begun := led(here.text, here.own.items, self._lead[1])) is not None:
            self.found.pop()
            self._put(begun.text, begun._replace(under=here.filled))
            self._lead = None

    def _named_over(self, number: int, row: str) -> None:
        """Take a figure alone in a row for the name of the next row that is just its sounds; in doubt where nothing
        says that it is a name."""
        here, title = self.found[-1].own, self._title
        danced = here.figure_alone is None or row.rstrip().endswith(_ONCE)
        self._title = None if danced else (len(self.found) - 1, number, row)
        if title is None:
            return
        at, above, named = title
        name = self.found[at].own.figure_alone
        if name is None or self._title is not None or not _spells(here, name, self._shelf, self._tradition):
            return
        spot = len(named) - len(named.lstrip()), len(named.rstrip())
        said = named.strip()
        offers = (
            Offer("name_above", ("the name of what follows",), (*spot, f"# {said}")),
            Offer("danced_above", (f"{said}, danced",), (*spot, f"{said}{_ONCE}")),
        )
        self._change(at, Stacked("", NOTHING, doubts=() if is_title(named) else (Doubt(above, *spot, offers),)))

    def _feet(self, number: int, row: str, feet: FeetRow, above: int) -> None:
        """Give steps the feet that stand beneath them, if these are theirs."""
        steps = self.found[above]
        with_them = footed(steps.text, steps.own.items, feet)
        wrong = None if with_them is not None else unfitting(feet, steps.own.items)
        counted = with_them is not None and self.found[-1].own.counts_alone
        doubt = None if counted else doubted(number, row, feet, steps.own.items, fits=with_them is not None)
        doubts = () if doubt is None else (doubt,)
        if with_them is not None:
            text = with_them.text
            own = row_items(text, self._shelf.for_line(text), self._tradition)
            self._change(above, Stacked(text, own, with_them._replace(under=steps.filled)))
            self.found.append(Stacked("", NOTHING, doubts=doubts))
        elif steps.own.faults and may_be_of(steps.own.items, feet):
            # What is wrong with the steps is said of these.
            self.found.append(Stacked("", NOTHING))
        elif wrong is not None:
            self.found.append(Stacked("", RowItems((), (wrong,), None)))
        else:
            self._put(row, doubts=doubts)
        self._above = None

    def _feet_over(self) -> None:
        """Give steps the feet that stand over them, if these are theirs."""
        assert self._over is not None
        at, number, row, feet = self._over
        steps = self.found[-1]
        with_them = footed(steps.text, steps.own.items, feet)
        if with_them is None:
            self._unplaced()
            return
        # With a row of counts about them they are no steps.
        counted = any(line.own.counts_alone for line in self.found[max(0, at - 1) : -1])
        doubt = None if counted else doubted(number, row, feet, steps.own.items, fits=True)
        self._change(at, Stacked("", NOTHING, doubts=() if doubt is None else (doubt,)))
        self.found.pop()
        self._put(with_them.text, with_them._replace(under=steps.filled))
        self._over = None

    def _unplaced(self) -> None:
        """Say of feet that are no steps that they are of none beside them either; where there are none, they are."""
        if self._over is not None:
            at, _, row, feet = self._over
            wrong = unfitting(feet)
            alone = not any(line.own.items or line.own.faults for n, line in enumerate(self.found) if n != at)
            if alone and (feet.named or feet.in_groups) and len(feet.letters) > 1:
                text = " " * feet.columns[0] + row[feet.columns[0] :]
                self._change(at, Stacked(text, row_items(text, self._shelf.for_line(text), self._tradition)))
            elif wrong is not None:
                self._change(at, Stacked("", RowItems((), (wrong,), None)))
            self._over = None

    def end(self) -> None:
        """Say of a foot that leads, or of feet, that nothing follows which they could be of."""
        self._unplaced()
        if self._lead is not None:
            at, _, row = self._lead
            column = len(row) - len(row.lstrip())
            wrong = Problem(
                "N112", 0, column, max(column + 1, len(row.rstrip())), f'"{row.strip()}" has no step after it.'
            )
            self._change(at, Stacked("", RowItems((), (wrong,), None)))
            self._lead = None


_COUNTS = " counts"
_ONCE = " x1"
"""Behind a figure that is danced: it is no name."""
_LEAST_NAMED = 3
"""Sounds of a figure that is no two steps by chance."""


def _spells(line: RowItems, name: Word, shelf: Shelf, tradition: str) -> bool:
    """Whether the steps of a line are just those of a figure, or of another of its name."""
    words = [
        word for item in line.items if isinstance(item, WordRun) for word in item.words for _ in range(word.times)
    ]
    cards = () if name.card is None else (name.card, *cards_said(shelf, name.text, tradition))
    return len(words) > 1 and spelled(kinds_of(words), cards)


def _is_feet(row: str) -> bool:
    return _kind(row).feet is not None


def stacked(rows: Sequence[Row], shelf: Shelf, tradition: str, *, before: bool) -> list[Stacked]:
    """Lines with what the rows about them say of them: the feet beneath them, or beneath their counts, the foot that
    leads; of such rows nothing is left. `before`: as lines were read before there were such rows."""
    global _last
    if before:
        return [
            Stacked(row, row_items("" if again_of(row) is not None else row, shelf.for_line(row), tradition))
            for _, row in rows
        ]
    rows = without_list_numbers(without_step_numbers(as_plain(rows)), _is_feet)
    stack = _Stack(shelf, tradition, how_many(rows, _is_feet), lengths(rows, _is_feet))
    same = 0
    for known in _last if len(rows) >= _LONG else ():
        if known.shelf is shelf and known.tradition == tradition and not same:
            same = stack.go_on_from(known.stack, same_start(known.rows, rows))
    for number, row in rows[same:]:
        stack.take(number, row)
    stack.end()
    if len(rows) >= _LONG:
        _last = (_Last(rows, shelf, tradition, stack), *_last[:1])
    return stack.found


class _Last(NamedTuple):
    """Rows of a long text as they were last looked through: what is written in one leaves those above."""

    rows: Sequence[Row]
    shelf: Shelf
    tradition: str
    stack: _Stack


_LONG = 24
"""Of so many rows a text is long."""

_last: tuple[_Last, ...] = ()
"""The last long ones, the newest first; replaced whole, since jobs read too."""
