"""The combo: parts in order, how often, on which side, and how the last time ends."""

import difflib
import re
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

from firn.core.script.problems import Problem
from firn.core.steps.shelf import fold

ItemSide = Literal["", "other", "right", "left", "as written"]
MOST_TIMES = 64


@dataclass(frozen=True, slots=True)
class ComboItem:
    """One item: a part danced `times`, beginning on the free foot unless `side` says otherwise.

    `ends` replaces the end of every time, `last_ends` that of the last; both are script. `turn` is kept as
    it was said.
    """

    part: str
    times: int = 1
    side: ItemSide = ""
    ends: str = ""
    last_ends: str = ""
    turn: str = ""
    line: int = 0
    column: int = 0
    end: int = 0


_TAIL = re.compile(
    r"""(?P<times>[x×]\s?\d+(?!\w))
    |(?P<side>on\s+the\s+other\s+side|other\s+side|as\s+written|right(?:\s+side)?(?!\w)|left(?:\s+side)?(?!\w))
    |(?P<turn>turn\b[^,]*)
    |(?P<last>last\s+time\s+ends\s*:[^,]*|last\s+time\s*:[^,]*)
    |(?P<ends>ends\s*:[^,]*)""",
    re.IGNORECASE | re.VERBOSE,
)
_SPACE = re.compile(r"[\s,]+")


class _Reader:
    def __init__(self, names: Sequence[str]) -> None:
        self._names = {fold(n): n for n in names}
        self.items: list[ComboItem] = []
        self.problems: list[Problem] = []

    def line(self, number: int, text: str) -> None:
        text = text.split("#")[0]
        at, fresh = 0, True
        while at < len(text):
            space = _SPACE.match(text, at)
            if space:
                fresh = fresh or "," in space[0]
                at = space.end()
                continue
            at = self._one(number, text, at, fresh)
            fresh = False

    def _one(self, number: int, text: str, at: int, fresh: bool) -> int:
        named = self._part(text, at) if fresh else None
        if named:
            name, end = named
            self.items.append(ComboItem(name, line=number, column=at, end=end))
            return end
        tail = _TAIL.match(text, at)
        if tail and self.items:
            self._tail(number, tail)
            return tail.end()
        end = text.find(",", at)
        end = end if end >= 0 else len(text.rstrip())
        said = text[at:end].strip()
        code, what = ("C401", "No part is called") if fresh or not self.items else ("C402", "Not understood here:")
        near = tuple(self._names[n] for n in difflib.get_close_matches(fold(said), self._names, n=3, cutoff=0.5))
        hint = f" Nearest: {', '.join(near)}." if near else ""
        self.problems.append(Problem(code, number, at, end, f'{what} "{said}".{hint}', near))
        return max(end, at + 1)

    def _part(self, text: str, at: int) -> tuple[str, int] | None:
        """The longest part name that stands at `at`, ended by a space, a comma or the line."""
        stops = [m.start() for m in re.finditer(r"[\s,]|$", text) if m.start() > at]
        for stop in reversed(stops):
            name = self._names.get(fold(text[at:stop]))
            if name is not None and "," not in text[at:stop]:
                return name, stop
        return None

    def _tail(self, number: int, tail: re.Match[str]) -> None:
        item = self.items.pop()
        said = tail[0]
        if tail["times"]:
            times = int(re.sub(r"\D", "", said)[:6])
            if not 1 <= times <= MOST_TIMES:
                message = f"{said} cannot be danced: between x1 and x{MOST_TIMES}."
                self.problems.append(Problem("N111", number, tail.start(), tail.end(), message))
                times = 1
            item = replace(item, times=times)
        elif tail["side"]:
            word = fold(said).removesuffix(" side").split()[-1]
            sides: dict[str, ItemSide] = {
                "other": "other",
                "written": "as written",
                "right": "right",
                "left": "left",
            }
            item = replace(item, side=sides[word])
        elif tail["turn"]:
            item = replace(item, turn=said.strip())
        elif tail["last"]:
            item = replace(item, last_ends=said.split(":", 1)[1].strip())
        else:
            item = replace(item, ends=said.split(":", 1)[1].strip())
        self.items.append(item)


def read_combo(lines: Sequence[str], names: Sequence[str]) -> tuple[tuple[ComboItem, ...], list[Problem]]:
    """The items of a combo's lines; `names` are the parts that it may join."""
    reader = _Reader(names)
    for number, line in enumerate(lines):
        reader.line(number, line)
    return tuple(reader.items), reader.problems


def write_combo(items: Sequence[ComboItem]) -> str:
    """A combo as a teacher would type it, an item a line; reads back to the same items."""
    lines = []
    for item in items:
        words = [item.part]
        if item.side:
            words.append({"other": "other side"}.get(item.side, item.side))
        if item.times > 1:
            words.append(f"x{item.times}")
        tails = [" ".join(words)]
        if item.turn:
            tails.append(item.turn)
        if item.ends:
            tails.append(f"ends: {item.ends}")
        if item.last_ends:
            tails.append(f"last time ends: {item.last_ends}")
        lines.append(", ".join(tails))
    return "\n".join(lines) + ("\n" if lines else "")
