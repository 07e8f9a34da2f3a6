"""Reading a part of a script, line by line."""

from collections.abc import Sequence
from fractions import Fraction
from functools import cached_property, lru_cache
from operator import itemgetter

from msgspec import Struct, field
from msgspec.structs import replace

from firn.core.meter.count_in import parse_count_in
from firn.core.meter.meter import Meter
from firn.core.same import same_start
from firn.core.script.doubts import Doubt, once_each
from firn.core.script.handout import Row
from firn.core.script.layers import COUNTED, HANDS, NONE, LayerLine, LayerReader, Layers, layer_of
from firn.core.script.places import Use
from firn.core.script.problems import MOST_LETTERS, Problem, too_long
from firn.core.script.rows import read_rows
from firn.core.script.settings import Settings, counted_as, expected, set_by
from firn.core.script.sung import LAYER, is_sung, sung_uses
from firn.core.script.tokens import count_of, number_of
from firn.core.script.tree import Counts, Node, is_pause, is_word, parse_line
from firn.core.steps.card import Card
from firn.core.steps.shelf import Shelf, shipped
from firn.core.steps.sides import ACROSS

_LONGEST_COUNT_IN, _LEAST_COUNTED = 80, 3
"""Letters of a count-in that is a line of its own, and counts that it has at least."""


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


def read_part(
    name: str, text: str, settings: Settings, shelf: Shelf | None = None, *, before: bool = False, quick: bool = False
) -> PartScript:
    """A part's text read line by line; goes on after any fault. The same text gives the same part.

    `before`: as texts were read before lines were read as they are said. `quick`: of a long text the line that has
    changed since it was last read is read like it was then, nothing else being tried: for the while.
    """
    return _read_part(name, text, settings, (shelf or shipped()).called(settings.words), before, quick)


@lru_cache(maxsize=128)
def _read_part(name: str, text: str, settings: Settings, shelf: Shelf, before: bool, quick: bool) -> PartScript:
    own: list[Row] = []
    hands: dict[tuple[str, bool], list[Row]] = {}
    others: list[tuple[int, LayerLine]] = []
    sung: list[Row] = []
    endless: list[Problem] = []
    lines = _as_before(lines_of(text))
    for number, row in enumerate(lines):
        if len(row) > MOST_LETTERS:
            endless.append(too_long(number, row))
            continue
        layer = layer_of(row)
        if layer is None and not own and not before:
            layer = _count_in(row, lines[number + 1 :], settings)
        if layer is None:
            own.append((number, row))
        elif layer.name == LAYER and is_sung(layer.text):
            sung.append((number, layer.blanked))
        elif layer.name in HANDS:
            hands.setdefault((layer.name, layer.voiced), []).append((number, layer.blanked))
        else:
            others.append((number, layer))
    counted = [(number, layer) for number, layer in others if layer.name in COUNTED]
    meter, phrase, wrong = _counted(counted, settings)
    settings = counted_as(settings, meter, phrase)
    rows_read = read_rows(own, settings, shelf, before=before, quick=quick)
    uses, problems = rows_read.uses, [*rows_read.problems, *wrong, *endless]
    for (layer_name, voiced), rows in hands.items():
        found = read_rows(rows, settings, shelf, before=before)
        problems += [*found.problems, *_for_feet(found.uses, layer_name)]
        uses += [replace(u, layer=layer_name, voiced=voiced) for u in found.uses if _for_hands(u)]
    syllables, wrong_syllables = (
        sung_uses(sung, settings, beside=any(not u.layer for u in uses)) if sung else ([], [])
    )
    uses, problems = [*uses, *syllables], [*problems, *wrong_syllables]
    reader = LayerReader(settings.counting, meter, phrase, shelf=shelf, tradition=settings.tradition)
    for number, layer in others:
        if layer.name not in COUNTED:
            reader.read(layer, number)
    problems += reader.problems
    problems.sort(key=lambda p: (p.line, p.column))
    if settings.sides == "standing foot":
        uses = [replace(use, side=across(use.side, use.card)) for use in uses]
    layers = reader.layers if others else NONE
    doubts = once_each(rows_read.doubts)
    return PartScript(name, text, tuple(uses), tuple(rows_read.unknown), tuple(problems), shelf, layers, doubts)


_LONG = 24
"""Of so many lines a text is long."""

_lines: tuple[list[str], ...] = ()
"""Those of the last long texts, the newest first; replaced whole, since jobs read too."""


def _as_before(lines: list[str]) -> list[str]:
    """Lines, the first of them the very strings of a text that was read before: what is known of each is found by it
    again and again, which takes three times as long for a new one."""
    global _lines
    if len(lines) >= _LONG:
        same, known = max(((same_start(one, lines), one) for one in _lines), key=itemgetter(0), default=(0, lines))
        lines = [*known[:same], *lines[same:]]
        _lines = (lines, *_lines[:1])
    return lines


def _count_in(row: str, later: Sequence[str], settings: Settings) -> LayerLine | None:
    """The first line of a part that is a count-in, said by itself: 5 6 7 8, and counts of their own in the next line,
    or another number of words than of counts; None for any other."""
    following = next((line for line in later if line.strip()), "")
    if len(row) > _LONGEST_COUNT_IN or not following:
        return None
    said = [count_of(node) for node in parse_line(row)[0] if not is_pause(node)]
    if said and said[0] is not None and said[0].text == "&":
        # "And 5, 6, 7, 8".
        said = said[1:]
    numbers = [one.atoms[0].number if one is not None and len(one.atoms) == 1 else None for one in said]
    last = numbers[-1] if numbers else None
    if last is None or last not in (settings.counting.phrase, settings.meter.counts, 8, 4):
        return None
    if not _LEAST_COUNTED <= len(numbers) <= last or numbers != list(range(last - len(numbers) + 1, last + 1)):
        return None
    danced = parse_line(following)[0]
    words = sum(is_word(node) for node in danced)
    # "heel click, dig, …": as many steps as counts.
    parts = sum(map(is_pause, danced[:-1])) + 1
    if not any(_is_number(node) for node in danced) and (numbers[0] == 1 or len(numbers) in (words, parts)):
        return None
    text = " ".join(map(str, numbers))
    return None if parse_count_in(text) is None else LayerLine("count in", False, 0, text)


def _is_number(node: Node) -> bool:
    return isinstance(node, Counts) or number_of(node) is not None


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
    return text.replace("\r\n", "\n").replace("\r", "\n").split("\n")
