"""Reading a part of a script, line by line."""

import re
from collections.abc import Sequence
from fractions import Fraction
from functools import cached_property, lru_cache
from itertools import pairwise
from typing import NamedTuple

from msgspec import Struct, field
from msgspec.structs import replace

from firn.core.meter.meter import Meter
from firn.core.script.again import Again, again_of, changed, danced_again
from firn.core.script.counts import Entry, atoms_of, first_number
from firn.core.script.items import Item, WordRun
from firn.core.script.layers import COUNTED, HANDS, NONE, LayerLine, LayerReader, Layers, layer_of
from firn.core.script.places import MOST_SOUNDS, Use
from firn.core.script.placing import place_line
from firn.core.script.problems import MOST_LETTERS, Problem, too_long
from firn.core.script.readings import Doubt, LineAsked, LineRead, danced_on, read_line
from firn.core.script.settings import Settings, counted_as, expected, set_by
from firn.core.script.tree import parse_line
from firn.core.script.words import runs_of
from firn.core.steps.card import Card
from firn.core.steps.shelf import Shelf, shipped
from firn.core.steps.sides import ACROSS


class PartScript(Struct, frozen=True, dict=True, eq=False):
    """A part as read: words in their places, places claimed by unknown words, what is wrong, the cards it knows.

    Lines count from its own text's first, 0, wherever in a piece it stands. `doubts`: words that could be read in
    more ways than one, each once.
    The words of a layer of hands come after those of the steps; `layers` are the silent ones.
    """

    name: str
    text: str
    uses: tuple[Use, ...]
    unknown: tuple[Fraction, ...]
    problems: tuple[Problem, ...]
    shelf: Shelf = field(default_factory=shipped)
    layers: Layers = NONE
    doubts: tuple[Doubt, ...] = ()

    @cached_property
    def lines(self) -> list[str]:
        """The text's lines."""
        return lines_of(self.text)


@lru_cache(maxsize=20_000)
def line_items(text: str, shelf: Shelf, tradition: str) -> tuple[tuple[Item, ...], tuple[Problem, ...]]:
    """One line's runs of counts and words, and what is wrong with them; in columns of that line."""
    nodes, brackets = parse_line(text)
    runs = runs_of(nodes, shelf, tradition, text=text, hints=False)
    return tuple(runs.items), (*brackets, *runs.problems)


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
    )


_Row = tuple[int, str]
"""A line of a text with its number."""

_Read = tuple[tuple[Item, ...], tuple[Problem, ...]]
"""A line's runs of counts and words, and what is wrong with it."""


def read_part(
    name: str, text: str, settings: Settings, shelf: Shelf | None = None, *, before: bool = False
) -> PartScript:
    """A part's text read line by line; goes on after any fault. The same text gives the same part.

    `before`: as texts were read before lines were read as they are said.
    """
    return _read_part(name, text, settings, (shelf or shipped()).called(settings.words), before)


@lru_cache(maxsize=128)
def _read_part(name: str, text: str, settings: Settings, shelf: Shelf, before: bool) -> PartScript:
    own: list[_Row] = []
    hands: dict[tuple[str, bool], list[_Row]] = {}
    others: list[tuple[int, LayerLine]] = []
    endless: list[Problem] = []
    for number, row in enumerate(lines_of(text)):
        if len(row) > MOST_LETTERS:
            endless.append(too_long(number, row))
            continue
        layer = layer_of(row)
        if layer is None:
            own.append((number, row))
        elif layer.name in HANDS:
            hands.setdefault((layer.name, layer.voiced), []).append((number, layer.blanked))
        else:
            others.append((number, layer))
    counted = [(number, layer) for number, layer in others if layer.name in COUNTED]
    meter, phrase, wrong = _counted(counted, settings)
    settings = counted_as(settings, meter, phrase)
    rows_read = _read_rows(own, settings, shelf, before=before)
    uses, problems = rows_read.uses, [*rows_read.problems, *wrong, *endless]
    for (layer_name, voiced), rows in hands.items():
        found = _read_rows(rows, settings, shelf, before=before)
        problems += [*found.problems, *_for_feet(found.uses, layer_name)]
        uses += [replace(u, layer=layer_name, voiced=voiced) for u in found.uses if _for_hands(u)]
    reader = LayerReader(settings.counting, meter, phrase, shelf=shelf, tradition=settings.tradition)
    for number, layer in others:
        if layer.name not in COUNTED:
            reader.read(layer, number)
    problems += reader.problems
    problems.sort(key=lambda p: (p.line, p.column))
    if settings.sides == "standing foot":
        uses = [replace(use, side=across(use.side, use.card)) for use in uses]
    layers = reader.layers if others else NONE
    doubts = tuple({doubt.key: doubt for doubt in reversed(rows_read.doubts)}.values())[::-1]
    return PartScript(name, text, tuple(uses), tuple(rows_read.unknown), tuple(problems), shelf, layers, doubts)


def _counted(
    lines: Sequence[tuple[int, LayerLine]], settings: Settings
) -> tuple[Meter | None, int | None, list[Problem]]:
    """The meter and phrase of a part's own lines, and what is wrong with them; "2 bars" are of its own meter."""
    meter, phrase = None, None
    problems = []
    for number, layer in sorted(lines, key=lambda row: row[1].name == "phrase"):
        value = layer.text.split("#")[0].strip()
        new = set_by(settings, layer.name, value)
        if new is None:
            end = max(layer.column + 1, layer.column + len(layer.text.split("#")[0].rstrip()))
            said = f'"{value}" is no {layer.name}: {expected(layer.name, value)}.'
            problems.append(Problem("H202", number, layer.column, end, said))
        elif layer.name == "meter":
            settings, meter = new, new.meter
        else:
            phrase = new.phrase
    return meter, phrase, problems


class _RowsRead(NamedTuple):
    """Lines as they are believed: their words, places of unknown ones, what is wrong, and what is in doubt."""

    uses: list[Use]
    unknown: list[Fraction]
    problems: list[Problem]
    doubts: list[Doubt]


def _read_rows(rows: Sequence[_Row], settings: Settings, shelf: Shelf, *, before: bool = False) -> _RowsRead:
    """Lines that follow on each other."""
    # What a line says of the one before it holds no words of its own.
    plain = [row if again_of(row) is None else "" for _, row in rows]
    # What a figure is named in is read anew when that changes, and nothing else.
    shelves = [shelf.for_line(row) for row in plain]
    alone = [line_items(row, own, settings.tradition) for row, own in zip(plain, shelves, strict=True)]
    read = _counts_first(alone)
    counting, stated = settings.counting, settings.phrase is not None
    entry = Entry(first=first_number((i for items, _ in read for i in items), counting.phrase))
    aheads = _numbers_ahead([items for items, _ in read])
    found = _RowsRead([], [], [], [])
    body: Sequence[Use] = ()
    many = 0
    for (number, row), (items, faults), own, ahead, theirs in zip(rows, read, alone, aheads, shelves, strict=True):
        again = again_of(row)
        many += _sounds(body) * again.times if again is not None else 0
        if many > MOST_SOUNDS:
            found.problems.append(Problem("N111", number, 0, max(1, len(row.rstrip())), TOO_MANY))
            break
        if again is not None:
            body, wrong = _again(again, body, number, settings, shelf)
            found.uses.extend(body)
            found.problems.extend(wrong)
            if body:
                entry = danced_on(replace(entry, at=max(u.last for u in body), started=True), body)
            continue
        if not items:
            found.problems.extend(p.moved(number) for p in faults)
            continue
        if items is own[0]:
            asked = LineAsked(row, theirs, counting, entry, settings.tradition, stated, ahead, before)
            line = _read_on(number, asked)
        else:
            placed = place_line(items, counting, entry, settings.tradition, stated, ahead=ahead)
            placed = replace(placed, after=danced_on(placed.after, placed.uses))
            line = _on_line(number, LineRead(placed, faults))
        found.problems.extend(line.problems)
        found.doubts.extend(line.doubts)
        entry = line.placed.after
        body = line.placed.uses or body
        many += _sounds(line.placed.uses)
        found.uses.extend(line.placed.uses)
        found.unknown.extend(line.placed.unknown)
        found.problems.extend(line.placed.problems)
    return found


def _numbers_ahead(lines: Sequence[Sequence[Item]]) -> list[int | None]:
    """For each line the first number of the next one that has words; None where that begins with none."""
    ahead: list[int | None] = []
    following: int | None = None
    for items in reversed(lines):
        ahead.append(following)
        if items:
            following = next((a.number for a in atoms_of(items) if a is not None), None)
    return ahead[::-1]


TOO_MANY = f"With this line the part has more than {MOST_SOUNDS:,} sounds: it is read up to here."


def _sounds(uses: Sequence[Use]) -> int:
    return sum(len(use.places) for use in uses)


def _counts_first(read: list[_Read]) -> list[_Read]:
    """Lines read, the counts of a line that holds nothing else taken to the words of the next, if it has none."""
    joined = list(read)
    for number, ((items, faults), (below, more)) in enumerate(pairwise(read)):
        alone = len(items) == 1 and isinstance(items[0], WordRun) and items[0].counts and not items[0].words
        waiting = len(below) == 1 and isinstance(below[0], WordRun) and below[0].words and not below[0].counts
        if alone and waiting and not faults:
            counts, words = items[0], below[0]
            assert isinstance(counts, WordRun) and isinstance(words, WordRun)
            spot = words.words[0]
            # What is said of these counts is said at the first word of their line.
            taken = tuple(replace(c, column=spot.column, end=spot.end) for c in counts.counts)
            joined[number] = (), ()
            joined[number + 1] = (WordRun(taken, words.words),), more
    return joined


def _again(
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
    blanked = " " * again.at + again.change
    read = _read_rows([(number, blanked)], settings, shelf)
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


def _for_hands(use: Use) -> bool:
    return use.card.name == "hold" or all(b.kind.limb == "hands" for b in use.card.beats)


def _for_feet(uses: Sequence[Use], layer: str) -> list[Problem]:
    """Steps that stand in a layer of hands."""
    wrong = dict.fromkeys((u.line, u.word) for u in uses if not _for_hands(u))
    return [
        Problem("N115", line, w.column, w.end, f'"{w.text}" is for the feet: it cannot stand in the line "{layer}:".')
        for line, w in wrong
    ]


def across(side: str, card: Card) -> str:
    """The side of the foot that dances where the one that stands is named, and the other way round.

    They differ for words that begin with the free foot.
    """
    first = next((b for b in card.beats if b.kind.limb == "foot"), None)
    free = first is not None and first.role == "A"
    return ACROSS.get(side, side) if free else side


def lines_of(text: str) -> list[str]:
    """The lines of a text as an editor shows them: broken at \\n, \\r\\n and \\r alone."""
    return re.split(r"\r\n|\n|\r", text)
