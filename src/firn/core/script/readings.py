"""A line read in the likeliest of the ways in which it can be, and where another is nearly as likely: a doubt."""

from collections.abc import Iterator, Mapping, Sequence
from fractions import Fraction
from functools import lru_cache
from math import lcm

from msgspec import Struct
from msgspec.structs import replace

from firn.core.footing.stance import tried
from firn.core.meter.counting import Counting
from firn.core.pattern import late
from firn.core.same import same_start
from firn.core.script.choices import (
    ASKED,
    BEFORE,
    NAMED,
    OTHER,
    PLAIN,
    Against,
    Choices,
    Named,
    Open,
)
from firn.core.script.counts import Entry, atoms_of
from firn.core.script.doubts import Doubt, Way, doubts_between, words_of
from firn.core.script.items import Bar, BarAt, Item, Repeat, Word
from firn.core.script.laid import laid_out, steps_laid
from firn.core.script.places import PlacedLine, Use
from firn.core.script.placing import opening, place_line
from firn.core.script.problems import Problem
from firn.core.script.said import NUMBERS
from firn.core.script.ties import DROPS, paired
from firn.core.script.tree import parse_line
from firn.core.script.unknown import with_near
from firn.core.script.words import Runs, runs_of
from firn.core.steps.names import fold
from firn.core.steps.shelf import Shelf

# What a reading costs; of two that cost about as much the believed one is in doubt.
_PROBLEM, _FAULT = 40, 30
_PARTED = 6
_TIED = 7
_AGAINST: dict[Against, int] = {
    "apart": 10, "first after": 8, "last after": 4, "first before": 4, "last before": 1, "places": 6,
    "in a row": 4, "shared": 4, "dropped": 7,
}  # fmt: skip
_OTHERS, _EVERYBODYS = 7, 3
_OF_COUNTS = ("N102", "N103", "N104")
"""What is wrong with where words fall: others may fall better."""

_WHERE_TO = frozenset({"goes", "there"})

_EMPTY, _OFF_PHRASE, _MOST_EMPTY = 3, 3, 8
_DIGITS = late(r"\d{1,9}")
NEARLY = 5
"""So much more may a reading cost that is offered beside the believed one."""

LIKELY = 10
"""So much more may the step cost that words would be, where they are read apart."""

MOST_TRIED, MOST_TOKENS = 16, 250
"""Readings of one line that are tried, and tokens that are read for it in all: of a long line fewer are tried."""


class LineRead(Struct, frozen=True):
    """A line as it is believed: its words in their places, what is wrong with it, its doubts, and what was chosen."""

    placed: PlacedLine
    problems: tuple[Problem, ...]
    doubts: tuple[Doubt, ...] = ()
    choices: Choices = PLAIN


class Like(Struct, frozen=True):
    """What was chosen and in doubt of a line that began so: for the while it is believed of what it is now."""

    choices: Choices
    doubts: tuple[Doubt, ...]

    @classmethod
    def of(cls, before: str, read: LineRead, now: str) -> "Like":
        """Of a line as it was, and as it was read then, as far as it is the same now."""
        same = same_start(before, now)
        # A word at its end that goes on is another word.
        ends = same - now[same : same + 1].isalnum()
        doubts = tuple(doubt for doubt in read.doubts if all(one.end <= ends for one in (doubt, *doubt.again)))
        return cls(PLAIN.here_as(read.choices, 0, same), doubts)


@lru_cache(maxsize=20_000)
def line_runs(text: str, shelf: Shelf, tradition: str, choices: Choices) -> Runs:
    """The runs of a line: they are the same wherever it stands."""
    nodes, _ = parse_line(text)
    return runs_of(nodes, shelf, tradition, choices, text)


class LineAsked(Struct, frozen=True):
    """A line with all that it is read by: the cards, how it is counted, the state that the lines before it left,
    whether the phrase is stated, and the first number of the next line, None for none.

    `before`: it is read as lines were before they were read as they are said. `like`: nothing else is tried than what
    was chosen before.
    """

    text: str
    shelf: Shelf
    counting: Counting
    entry: Entry
    tradition: str
    stated_phrase: bool
    ahead: int | None
    before: bool = False
    like: Like | None = None


class _Reader:
    """Tries the ways to read one line."""

    def __init__(self, asked: LineAsked) -> None:
        self._asked = asked
        self._tried: dict[Choices, Way] = {}
        nodes, _ = parse_line(asked.text)
        self._most = min(MOST_TRIED, max(4, MOST_TOKENS // max(1, len(nodes))))

    def way(self, choices: Choices) -> Way:
        """The line as it is with some choices."""
        found = self._tried.get(choices)
        if found is None:
            found = self._tried[choices] = self._try(choices)
        return found

    def _try(self, choices: Choices) -> Way:
        asked = self._asked
        items, problems, named, said = line_runs(asked.text, asked.shelf, asked.tradition, choices)
        entry = asked.entry if choices == PLAIN or choices.before else self._entry(items)
        placed = place_line(items, asked.counting, entry, asked.tradition, asked.stated_phrase, choices, asked.ahead)
        laid = laid_out(placed.uses)
        trial = tried(asked.entry.feet, steps_laid(placed.uses, laid))
        kinds = (placed.uses[u].card.beats[b].kind.name for _, u, b in laid)
        heard = tuple(zip((p for p, _, _ in laid), kinds, trial.feet, strict=True))
        wrong = len(problems) + len(placed.problems) + len(placed.unknown)
        cost = _PROBLEM * wrong + _FAULT * trial.faults + trial.cost
        cost += self._names_cost(named) + _PARTED * self._parted(choices)
        cost -= _TIED * sum(word.tied is not None for word in words_of(items))
        pairs = [] if choices.before or choices.untied else paired(items)
        danced = zip((placed.uses[u].word.column for _, u, _ in laid), trial.feet, strict=True) if pairs else ()
        left_open = (*said, *placed.open, *self._pairs(pairs, dict(danced), choices))
        cost += sum(one.cost for one in left_open)
        if said:
            cost += self._unfilled(placed)
        return Way(choices, items, named, tuple(problems), left_open, placed, trial, cost, heard)

    def _entry(self, items: Sequence[Item]) -> Entry:
        """The state before the line with some items: where it opens the part with its own first number, that may be
        another than by the plain choices."""
        entry = self._asked.entry
        if entry.started or entry.at is not None or not any(atoms_of(items)):
            return entry
        own = opening([items], self._asked.counting, self._asked.tradition)
        return replace(entry, first=own.first, early=own.early)

    def _pairs(self, pairs: Sequence[Word], feet: Mapping[int, str], choices: Choices) -> Iterator[Open]:
        """Note that of pairs of heels and toes that open a line both feet may take turns, or not.

        `feet`: by the column on which a word begins.
        """
        pairs = [word for word in pairs if feet.get(word.column) in ("L", "R") and not word.side]
        if not pairs:
            return
        column, end = pairs[0].column, pairs[-1].end
        written = self._asked.text[:end]
        for word in reversed(pairs):
            written = f"{written[: word.column]}{feet[word.column]} {written[word.column :]}"
        loose = column in choices.otherwise
        yield Open("unpaired" if loose else "paired", column, end, written[column:], 2 if loose else 0)

    def _names_cost(self, named: Sequence[Named]) -> int:
        """What speaks against the names of several words, each once however often it is said."""
        costs: dict[str, int] = {}
        for one in named:
            costs[fold(one.text)] = max(costs.get(fold(one.text), 0), self._against(one))
        return sum(costs.values())

    def _parted(self, choices: Choices) -> int:
        """How many names are read apart, each once however often it is said."""
        return len({frozenset(self._two(column)) for column, _ in choices.sizes})

    def _unfilled(self, placed: PlacedLine) -> int:
        """What speaks against how long a line is: counts that stay empty up to the next number, or to the phrase."""
        if not placed.uses:
            return 0
        counting, ahead = self._asked.counting, self._asked.ahead
        phrase = counting.phrase
        taken = {p // 1 for use in placed.uses for p in (*use.places, use.last)}
        first, last = int(min(taken)), int(max(taken))
        if ahead is None:
            return _OFF_PHRASE if (last + 1 - first) % phrase else 0
        said = counting.number(Fraction(last) - placed.after.base)
        away = (ahead - said) % phrase or phrase
        return _EMPTY * min(_MOST_EMPTY, away - 1 + (last - first + 1) - len(taken))

    def _against(self, name: Named) -> int:
        """What speaks against a name of several words."""
        cost = sum(_AGAINST[what] for what in name.against)
        theirs = name.card.traditions
        if not theirs:
            # A name of everybody's is no figure of this tradition: what speaks against it weighs more.
            return cost + (_EVERYBODYS if cost else 0)
        asked, words = self._asked, name.text.split()
        # "coaster step" is the coaster, by either name of another tradition's.
        shorter = any(asked.shelf.find(" ".join(words[:size]), asked.tradition) is name.card for size in name.sizes)
        return cost + (_OTHERS if asked.tradition not in theirs and not shorter else 0)

    def asked(self) -> tuple[Way, list[tuple[Way, ...]]]:
        """The way that is believed, and for each place that is open the ways to read it, as far as any are tried."""
        if self._asked.before:
            return self.way(BEFORE), []
        return (self.way(self._asked.like.choices), []) if self._asked.like is not None else self.best()

    def best(self) -> tuple[Way, list[tuple[Way, ...]]]:
        """The way that is believed, and for each place that is open the ways to read it there, the believed first."""
        now = self._single(self.way(PLAIN))
        open_places: list[tuple[int, int, list[Choices]]] = []
        while len(self._tried) < self._most:
            # What was parted may leave open what stands before it, too.
            passed = [range(start, max(start + 1, end)) for start, end, _ in open_places]
            spot = next((s for s in self._spots(now) if not any(s[0] in region for region in passed)), None)
            if spot is None:
                break
            start, end = spot
            ways = [now.choices, *self._others(now.choices, start, end)]
            open_places.append((start, end, ways))
            now = min((self.way(choices) for choices in ways), key=lambda way: way.cost)
        if now.trial.faults and any(word.tied for word in words_of(now.items)):
            # Tied to the feet before it cannot be danced: each sound as it is by itself.
            now = min(now, self.way(replace(now.choices, untied=True)), key=lambda way: way.cost)
        # Beside what is believed of the rest of the line.
        return now, [
            self._beside(now, [self._here(now.choices, way, start, end) for way in ways])
            for start, end, ways in open_places
        ]

    def _here(self, believed: Choices, way: Choices, start: int, end: int) -> Choices:
        """What is believed, with what another way chooses from one column up to another, and of the same names
        wherever else it does so."""
        sizes = dict(way.sizes)
        here = believed.here_as(way, start, end)
        for one in self.way(here).open:
            if one.code in NAMED and start <= one.column < end:
                here = self._meaning(here, one, here.meant(one.column))
        if len(sizes) == len(believed.sizes) or start not in sizes:
            return here
        for column, size in way.sizes:
            if self._two(column) == self._two(start) and size == sizes[start]:
                here = here.parted(column, size)
        return here

    def _two(self, column: int) -> tuple[str, ...]:
        """The two words from a column on."""
        return tuple(word.strip(",;:.…") for word in self._asked.text[column:].casefold().split()[:2])

    def _single(self, plain: Way) -> Way:
        """The plain way, or that of single words only where these are tied to each other."""
        way = plain
        if not any(word in DROPS for name in plain.named for word in fold(name.text).split()):
            return plain
        while way.named and len(self._tried) < self._most // 2:
            way = self.way(way.choices.parted(way.named[0].column, way.named[0].sizes[-1]))
        drops = sum(word.tied is not None for word in words_of(way.items))
        return way if not way.named and drops > 1 and way.cost < plain.cost else plain

    def _spots(self, way: Way) -> list[tuple[int, int]]:
        """Where a way is open, from column to column."""
        counted = ((one.column, one.column + 1) for one in way.open if one.code in OTHER or one.many)
        # What nothing speaks against is the step: parted it costs too much to be believed, or to be a doubt.
        wrong = any(problem.code in _OF_COUNTS for problem in way.placed.problems) or way.trial.faults
        well = not wrong and way.trial.cost < _PARTED
        named = ((n.column, n.end) for n in way.named if not well or self._against(n))
        # Of those that begin alike the longest: what a name means is part of how it is parted.
        return sorted({*named, *counted}, key=lambda spot: (spot[0], -spot[1]))

    def _others(self, choices: Choices, start: int, end: int) -> Iterator[Choices]:
        """Other choices for what lies from one column up to another."""
        here = self.way(choices)
        for name in here.named:
            if start <= name.column < end and name.column not in dict(choices.sizes):
                alike = [n.column for n in here.named if fold(n.text) == fold(name.text)]
                for size in name.sizes:
                    # As it is read here, so everywhere in the line; or here alone.
                    for columns in (alike, [name.column])[len(alike) < 2 :]:
                        other = choices
                        for column in columns:
                            other = other.parted(column, size)
                        if len(self._tried) < self._most or other in self._tried:
                            yield other
                            yield from self._others(other, name.column + 1, end)
        for one in here.open:
            # What is spelled is a place of its own, never part of how a name is parted.
            part = one.code != "spelled" or end == start + 1
            if one.code in OTHER and part and start <= one.column < end and len(self._tried) < self._most:
                yield choices.turned(one.column)
            elif one.many and start <= one.column < end:
                others = (n for n in range(one.many) if n != choices.meant(one.column))
                yield from (self._meaning(choices, one, n) for n in others if len(self._tried) < self._most)

    def _meaning(self, choices: Choices, one: Open, number: int) -> Choices:
        """Choices with a name meaning another of its cards: wherever it is said, if it is the piece's word."""
        text = self._asked.text
        alike = [one]
        if one.code in NAMED:
            opens = (other for other in self.way(choices).open if other.code in NAMED)
            alike = [o for o in opens if fold(text[o.column : o.end]) == fold(text[one.column : one.end])]
        for other in alike:
            if choices.meant(other.column) != number:
                choices = choices.meaning(other.column, number)
        return choices

    def _beside(self, believed: Way, ways: Sequence[Choices]) -> tuple[Way, ...]:
        """The ways at one place that come near to the believed one and sound or stand otherwise."""
        plain = ways[0]
        found = [believed]
        for choices in ways:
            way = self.way(choices)
            parted = choices == plain and believed.choices.sizes != plain.sizes
            less = parted and (way.trial.faults > believed.trial.faults or way.cost - believed.cost <= LIKELY)
            turned = [one for one in believed.open if _otherwise(one, choices, believed)]
            # Where steps go is not taken as it is by itself for a reason that she may not know.
            unlike = (one for one in turned if one.column in believed.choices.otherwise)
            asked = any(one.code in ASKED for one in turned) or any(one.code in _WHERE_TO for one in unlike)
            near = way.cost - believed.cost <= NEARLY or less or asked
            wrong = len(way.problems) + len(way.placed.problems)
            unfit = parted and self._of_figures(believed, way)
            near, clean = near or unfit, unfit or wrong <= len(believed.problems) + len(believed.placed.problems)
            if near and clean and all(way.heard != other.heard for other in found):
                found.append(way)
        # A name over a comma is asked about however badly its words dance by themselves.
        apart = {one.column for one in believed.named if "apart" in one.against}
        others = [self.way(choices) for choices in ways if len(found) == 1 and apart & dict(choices.sizes).keys()]
        others = [way for way in others if way.heard != believed.heard and not way.problems]
        return (*found, *sorted(others, key=lambda way: way.cost)[:1])

    @staticmethod
    def _of_figures(believed: Way, whole: Way) -> bool:
        """Whether a name whose counts do not fit it whole is believed to be figures one after another, and no sounds:
        that they do not fit may be the slip."""
        sizes = {column for column, _ in believed.choices.sizes}
        spans = [range(named.column, named.end) for named in whole.named if named.column in sizes]
        words = [word for word in words_of(believed.items) if any(word.column in span for span in spans)]
        return bool(words) and all(word.card is not None and len(word.card.beats) > 1 for word in words)


@lru_cache(maxsize=20_000)
def read_line(asked: LineAsked) -> LineRead:
    """A line of steps as it is believed; the same from the same state is read once: a keystroke costs one line.

    So is the same so many whole phrases later, where it says nothing of where in the part it stands.
    """
    entry, counting = asked.entry, asked.counting
    if (
        entry.at is None
        or counting.changes
        or not _anywhere(asked.text, asked.shelf, asked.tradition, counting.phrase)
    ):
        return _read_line(asked)
    # A phrase may not be whole bars.
    whole = lcm(counting.phrase, counting.meter.counts)
    later = Fraction(entry.at // whole * whole)
    # Where the part's first number is matters before anything is danced.
    here = replace(entry, at=entry.at - later, base=entry.base % counting.phrase, first=None, early=0)
    read = _read_line(replace(asked, entry=here))
    return replace(read, placed=_later(read.placed, later, entry, here))


@lru_cache(maxsize=20_000)
def _anywhere(text: str, shelf: Shelf, tradition: str, phrase: int) -> bool:
    """Whether a line says nothing of where in the part it stands: no bar, nor a count past the phrase."""
    numbers = (int(digits) for digits in _DIGITS.findall(text))
    words = (NUMBERS.get(word, 0) for word in text.casefold().split())
    return all(number <= phrase for number in (*numbers, *words)) and not _at_bars(
        line_runs(text, shelf, tradition, PLAIN).items
    )


def _at_bars(items: Sequence[Item]) -> bool:
    return any(isinstance(one, Bar | BarAt) or (isinstance(one, Repeat) and _at_bars(one.body)) for one in items)


def _later(placed: PlacedLine, by: Fraction, entry: Entry, here: Entry) -> PlacedLine:
    """A line so many counts later, and from the state that it was asked from, not `here`, from which it was read."""
    after = placed.after
    assert after.at is not None
    base = entry.base if after.base == here.base else after.base + by
    after = replace(after, at=after.at + by, base=base, first=entry.first, early=entry.early)
    uses = tuple(replace(use, places=tuple(place + by for place in use.places)) for use in placed.uses)
    return replace(placed, uses=uses, unknown=tuple(place + by for place in placed.unknown), after=after)


@lru_cache(maxsize=20_000)
def _read_line(asked: LineAsked) -> LineRead:
    _, brackets = parse_line(asked.text)
    reader = _Reader(asked)
    believed, places = reader.asked()
    doubts = tuple(doubt for ways in places for doubt in doubts_between(ways, asked.text))
    doubts = doubts if asked.like is None else asked.like.doubts
    after = replace(believed.placed.after, feet=believed.trial.after)
    problems = tuple(with_near(problem, asked.shelf, asked.tradition) for problem in believed.problems)
    placed = replace(believed.placed, after=after)
    if problems:
        # What is asked about anyway need not say that it begins too early, too.
        placed = replace(placed, problems=tuple(p for p in placed.problems if p.code != "N120"))
    return LineRead(placed, (*brackets, *problems), doubts, believed.choices)


def _otherwise(one: Open, choices: Choices, believed: Way) -> bool:
    """Whether what a line leaves open is taken in another way than it is believed."""
    column = one.column
    turned = (column in choices.otherwise) != (column in believed.choices.otherwise)
    return turned or choices.meant(column) != believed.choices.meant(column)


def danced_on(entry: Entry, uses: Sequence[Use]) -> Entry:
    """The state after some words that are already in their places."""
    return replace(entry, feet=tried(entry.feet, steps_laid(uses, laid_out(uses))).after)
