"""Sounds changed by hand on the strip in parts as teachers say them: what is refused, and whose words stay.

Lines of the sets, forty to a part, as they are said: some are not understood, some cannot be danced.
"""

from collections import Counter
from collections.abc import Callable, Iterator

from benchmarks import spoken
from benchmarks.report import figure, heading
from firn.core.piece.build import part_from
from firn.core.piece.by_hand import Drawn, HandError, leaned, left_out, of_kind, other_foot
from firn.core.piece.piece import Part
from firn.core.script.settings import Settings

LINES = 40
EVERY = 25
"""Of the sounds of a part each so manyth is changed, each way by itself."""

WAYS: dict[str, Callable[[Part, int], Drawn]] = {
    "another foot": other_foot,
    "a touch in its place": lambda part, index: of_kind(part, index, "touch"),
    "leaned on": lambda part, index: leaned(part, index, 1),
    "left out": left_out,
}


def by_hand() -> None:
    """Of each way to change a sound, how often it is refused, and how often another line is written anew for it."""
    heading("Sounds changed by hand in parts as they are said")
    found: dict[str, Counter[str]] = {name: Counter() for name in WAYS}
    for part in _parts():
        for index in range(0, len(part.sounds), EVERY):
            if part.sounds[index].foot in ("left", "right"):
                for name, way in WAYS.items():
                    found[name][_changed(part, index, way)] += 1
    for name, counts in found.items():
        many = sum(counts.values())
        shares = ", ".join(f"{what} {100 * counts[what] / many:.1f}" for what in ("refused", "other lines too"))
        figure(f"{name}, of {many}", f"{shares} of 100")


def _parts() -> Iterator[Part]:
    said: dict[str, list[str]] = {}
    for name in spoken.SETS:
        for line in spoken.lines(name):
            said.setdefault(line.tradition, []).append(line.said)
    for tradition, lines in said.items():
        for first in range(0, len(lines), LINES):
            yield part_from("A", "\n".join(lines[first : first + LINES]), Settings(tradition=tradition))


def _changed(part: Part, index: int, way: Callable[[Part, int], Drawn]) -> str:
    try:
        text = way(part, index).text
    except HandError:
        return "refused"
    before, after = part.script.lines, text.split("\n")
    if len(before) != len(after):
        return "other lines too"
    return "other lines too" if sum(a != b for a, b in zip(before, after, strict=True)) > 1 else "its line"
