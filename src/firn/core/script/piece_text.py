"""A whole piece read from its text: headings, parts and a combo."""

import re
from collections.abc import Iterable, Sequence

from msgspec import Struct

from firn.core.pattern import late
from firn.core.script.combo import read_combo
from firn.core.script.combo_item import ComboItem
from firn.core.script.figures import shelf_for
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


class Blocks(Struct, frozen=True):
    """A script cut into its headings, named parts (name, first line, lines), combo lines and the lines of drills."""

    head: list[str]
    parts: list[tuple[str, int, list[str]]]
    combo: tuple[int, list[str]] | None
    drills: list[list[str]] = []


_PART = late(r"\s*part\b[ \t]*:?(.*)", re.IGNORECASE)
_COMBO = late(r"\s*combo\s*:?\s*", re.IGNORECASE)


DRILL = late(r"\s*drill\b[ \t]*(?P<name>[^:\n]*?)[ \t]*:(?P<rest>.*)", re.IGNORECASE)
"""The first line of a drill: "drill Monday:", its stages after it or below."""


def cut(text: str) -> Blocks:
    """A script cut into blocks; steps before any "part" line make a part named A."""
    head: list[str] = []
    parts: list[tuple[str, int, list[str]]] = []
    combo: tuple[int, list[str]] | None = None
    drills: list[list[str]] = []
    here = head
    for number, line in enumerate(lines_of(text)):
        bare = line.split("#")[0].rstrip()
        # In the combo a line may begin with a part that is itself called "Part 2".
        named = combo is not None and here is combo[1] and any(fold(bare).startswith(fold(p[0])) for p in parts)
        if not named and (match := _PART.fullmatch(bare)) and not HEADING.fullmatch(bare.replace("part:", "part ")):
            here = []
            parts.append((match[1].strip() or f"Part {len(parts) + 1}", number + 1, here))
        elif not named and DRILL.fullmatch(bare):
            here = [line]
            drills.append(here)
        elif _COMBO.fullmatch(bare):
            if combo is None:
                combo = (number + 1, [])
            here = combo[1]
        elif here is head and bare.strip() and (_layer(bare) or not HEADING.fullmatch(bare)):
            here = [line]
            parts.append(("A", number, here))
        else:
            here.append(line)
    return Blocks(head, parts, combo, drills)


def _same_names(parts: Iterable[tuple[str, int, list[str]]]) -> list[Problem]:
    seen: set[str] = set()
    problems = []
    for name, line, _ in parts:
        if fold(name) in seen:
            message = f'Another part is called "{name}" already.'
            problems.append(Problem("P301", max(0, line - 1), 0, 5 + len(name), message))
        seen.add(fold(name))
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
    texts = ("\n".join(lines).rstrip() for _, _, lines in blocks.parts)
    named = tuple((name, text) for (name, _, _), text in zip(blocks.parts, texts, strict=True))
    parts = tuple(read_part(name, text, settings, shelf_for(name, named, settings, shelf)) for name, text in named)
    at = tuple(line for _, line, _ in blocks.parts)
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
