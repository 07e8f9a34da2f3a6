"""A whole piece read from its text: headings, parts and a combo."""

import re
from collections.abc import Iterable, Sequence

from msgspec import Struct

from firn.core.pattern import late
from firn.core.script.combo import read_combo
from firn.core.script.combo_item import ComboItem
from firn.core.script.figures import shelf_for
from firn.core.script.handout import without_signs
from firn.core.script.heads import heading_of, heads_elsewhere, is_row, tradition_of
from firn.core.script.layers import COUNTED, layer_of, meant_by
from firn.core.script.problems import Problem
from firn.core.script.reader import PartScript, lines_of, read_part
from firn.core.script.settings import HEADING, Settings, read_settings
from firn.core.steps.names import fold
from firn.core.steps.shelf import APART, TOGETHER, Shelf, shipped


class Script(Struct, frozen=True):
    """A piece as read; its problems' lines count from the whole text's first, 0, as do `part_lines` and `combo_line`,
    on which its parts and its combo begin.

    `meant`: what is worth a look in the combo and is meant so, by its name, with the reason.
    """

    settings: Settings
    parts: tuple[PartScript, ...]
    combo: tuple[ComboItem, ...]
    meant: tuple[tuple[str, str], ...]
    problems: tuple[Problem, ...]
    combo_line: int = 0
    part_lines: tuple[int, ...] = ()


def _layer(line: str) -> bool:
    """Whether a line at the head is a layer of a part; what may be said of the piece is said of it."""
    layer = layer_of(line)
    return layer is not None and layer.name not in (*COUNTED, "count in")


class PartBlock(Struct, frozen=True):
    """A named part of a script: its name, on which line that stands and on which its text begins, and its lines."""

    name: str
    named_on: int
    line: int
    lines: list[str]


class Blocks(Struct, frozen=True):
    """A script cut into its headings, named parts, combo lines and the lines of drills."""

    head: list[str]
    parts: list[PartBlock]
    combo: tuple[int, list[str]] | None
    drills: list[list[str]] = []


_PART = late(r"\s*parte?\b[ \t]*:?(?P<name>[^:]*)(?::(?P<rest>.*))?", re.IGNORECASE)
"""The first line of a part: part A, Part A:, part A: 1 step 2 clap."""
_COMBO = late(
    r"\s*(?:(?P<own>combo)|routine|order|sequence|rutina|orden|secuencia)[ \t]*(?::(?P<rest>.*))?", re.IGNORECASE
)
MOST_NAMED = 4
"""Words of a name before a colon that is a part's; more are a heading's."""


DRILL = late(r"\s*drill\b[ \t]*(?P<name>[^:\n]*?)[ \t]*:(?P<rest>.*)", re.IGNORECASE)
"""The first line of a drill: "drill Monday:", its stages after it or below."""


def cut(text: str) -> Blocks:
    """A script cut into blocks; steps before any "part" line make a part named A."""
    head: list[str] = []
    parts: list[PartBlock] = []
    combo: tuple[int, list[str]] | None = None
    drills: list[list[str]] = []
    here = head
    lines = lines_of(text)
    bares = [row.split("#")[0].rstrip() for _, row in without_signs([*enumerate(lines)])]
    own = any(_PART.fullmatch(bare) for bare in bares)
    elsewhere = {} if own else heads_elsewhere(bares)
    tradition = tradition_of(bares)
    for number, (line, bare) in enumerate(zip(lines, bares, strict=True)):
        # In the combo a line may begin with a part that is itself called "Part 2".
        danced = _names_in(bare) if combo is not None and here is combo[1] else ()
        named = any(said.startswith(fold(p.name)) for said in danced for p in parts)
        if number == tradition:
            head.append(f"tradition: {bare.strip()}")
        elif not named and (match := elsewhere.get(number) or _heads_part(bare, parts)):
            line_at, here = _after_head(number, line, match)
            parts.append(PartBlock(match["name"].strip() or f"Part {len(parts) + 1}", number, line_at, here))
        elif not named and DRILL.fullmatch(bare):
            here = [line]
            drills.append(here)
        elif (match := _COMBO.fullmatch(bare)) and _begins_combo(match, parts):
            line_at, items = _after_head(number, line, match)
            combo = combo or (line_at, [])
            here = combo[1]
            here += items
        elif here is head and (said := heading_of(bare)):
            head.append(said)
        elif here is head and bare.strip() and (_layer(bare) or is_row(bare) or not HEADING.fullmatch(bare)):
            here = [line]
            parts.append(PartBlock("A", number, number, here))
        else:
            here.append(line)
    return Blocks(head, parts, combo, drills)


def _names_in(bare: str) -> tuple[str, ...]:
    """What a line of the combo says, as it is and without the "part" before its first part: part A, part B."""
    match = _PART.fullmatch(bare)
    return (fold(bare),) if match is None or ":" in bare else (fold(bare), fold(match["name"]))


def _heads_part(bare: str, parts: Sequence[PartBlock]) -> "re.Match[str] | None":
    """What a line says that heads a part; None for another. Where parts are headed by lines of their own, "part 1:
    step clap" is a line of one."""
    match = _PART.fullmatch(bare)
    if match is None or (match["rest"] is not None and len(match["name"].split()) > MOST_NAMED):
        return None
    inside = (match["rest"] or "").strip() and any(part.line > part.named_on for part in parts)
    return None if inside else match


def _begins_combo(match: "re.Match[str]", parts: Sequence[PartBlock]) -> bool:
    """Whether what stands after "combo:" is none, or begins with a part; after any other word for it, a part."""
    rest = (match["rest"] or "").strip()
    alone = not rest and match["own"] is not None
    return alone or (bool(rest) and any(fold(rest).startswith(fold(part.name)) for part in parts))


def _after_head(number: int, line: str, match: "re.Match[str]") -> tuple[int, list[str]]:
    """On which line begins what a head leads to, and its lines so far: what stands after its colon, where it is."""
    if not (match["rest"] or "").strip():
        return number + 1, []
    start = match.start("rest")
    return number, [" " * start + line[start:]]


def _same_names(parts: Iterable[PartBlock]) -> list[Problem]:
    seen: set[str] = set()
    problems = []
    for part in parts:
        if fold(part.name) in seen:
            message = f'Another part is called "{part.name}" already.'
            problems.append(Problem("P301", part.named_on, 0, 5 + len(part.name), message))
        seen.add(fold(part.name))
    return problems


def _unknown_words(settings: Settings, head: list[str], shelf: Shelf) -> list[Problem]:
    """Words that would mean a step that no shelf knows."""
    line = next((n for n, text in enumerate(head) if fold(text.split(":")[0]) == "words"), 0)
    named = [name for _, name in settings.words if name not in (APART, TOGETHER)]
    missing = [name for name in named if shelf.called_so(name, settings.tradition) is None]
    return [
        Problem("H203", line, 0, len(head[line]), f'No step is called "{n}": that word is left.', shelf.nearest(n))
        for n in missing
    ]


def read_script(text: str, shelf: Shelf | None = None) -> Script:
    """A whole piece read from its text; never raises, and goes on after any fault."""
    blocks = cut(text.removeprefix("\ufeff"))
    settings, problems = read_settings(blocks.head)
    problems += _same_names(blocks.parts)
    # As it is when it is read alone: what is read once is known then.
    texts = ("\n".join(part.lines).rstrip() for part in blocks.parts)
    named = tuple((part.name, text) for part, text in zip(blocks.parts, texts, strict=True))
    parts = tuple(read_part(name, text, settings, shelf_for(name, named, settings, shelf)) for name, text in named)
    at = tuple(part.line for part in blocks.parts)
    problems += [p.moved(line) for part, line in zip(parts, at, strict=True) for p in part.problems]
    problems += _unknown_words(settings, blocks.head, shelf or shipped())
    line, lines = blocks.combo or (0, [])
    combo, meant, faults = combo_of(lines, [p.name for p in parts])
    problems += [p.moved(line) for p in faults]
    return Script(
        settings,
        parts,
        combo,
        meant,
        tuple(sorted(problems, key=lambda p: (p.line, p.column))),
        line,
        at,
    )


def combo_of(
    lines: Sequence[str], names: Sequence[str]
) -> tuple[tuple[ComboItem, ...], tuple[tuple[str, str], ...], list[Problem]]:
    """What the lines of a combo say: its items, what is meant so, and what is wrong, in lines of the combo."""
    layers = [layer_of(text) for text in lines]
    meant = tuple(said for layer in layers if layer and layer.name == "meant" for said in meant_by(layer))
    items = ["" if layer and layer.name == "meant" else text for layer, text in zip(layers, lines, strict=True)]
    combo, problems = read_combo(items, names)
    return combo, meant, problems
