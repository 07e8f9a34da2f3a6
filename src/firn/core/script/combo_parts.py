"""Parts named in a combo: which part stands where, and the items that they become."""

from collections.abc import Sequence

from msgspec.structs import replace

from firn.core.script.combo_item import MOST_TIMES, ComboItem
from firn.core.script.combo_said import BETWEEN, SPACE, STOP
from firn.core.script.problems import Problem
from firn.core.steps.names import fold

_DASHES = ("-", "–", "—")
MOST_ITEMS = 1_000
SPACES = 40


class PartsSaid:
    """Knows the names of parts and sections, and gathers items and what is wrong with them."""

    def __init__(self, names: Sequence[str]) -> None:
        self._names = {fold(n): n for n in names}
        # How far a name may reach: spaces in it may be more than one.
        self._reach = max((len(n) for n in self._names), default=0) + SPACES
        self.items: list[ComboItem] = []
        self.problems: list[Problem] = []
        # The sections said so far, by their folded names: what each is called, and its items.
        self._sections: dict[str, tuple[str, list[ComboItem]]] = {}
        # Where the items of a section begin that was just danced again.
        self._danced_again: int | None = None

    def _part_after(self, text: str, at: int) -> tuple[str, int] | None:
        """The part that stands after a space."""
        space = SPACE.match(text, at)
        return self._part(text, space.end()) if space else None

    def _part(self, text: str, at: int, *, several: bool = False) -> tuple[str, int] | None:
        """The longest part name that stands at `at`, ended by a space, a comma, a bracket or the line; or script in
        square brackets. `several`: it may be said of several, as in two As."""
        between = BETWEEN.match(text, at)
        if between is not None:
            return f"[{' '.join(between[1].split())}]", between.end()
        near = text[at : at + self._reach].split(",")[0]
        stops = [m.start() for m in STOP.finditer(near) if m.start()]
        if len(near) < self._reach and (not stops or stops[-1] != len(near)):
            stops.append(len(near))
        for stop in reversed(stops):
            if near[:stop].endswith(_DASHES):
                # "A - 2x B": the dash parts them.
                continue
            said = fold(near[:stop])
            name = self._names.get(said) or self._sections.get(said, ("",))[0]
            name = name or (self._names.get(said.removesuffix("s"), "") if several else "")
            if name:
                return name, at + stop
        return None

    def _times(self, number: int, start: int, end: int, digits: str) -> int:
        times = int(digits[:6])
        if 1 <= times <= MOST_TIMES:
            return times
        message = f"x{digits} cannot be danced: between x1 and x{MOST_TIMES}."
        self.problems.append(Problem("N111", number, start, end, message))
        return 1

    def _add(self, number: int, start: int, end: int, more: Sequence[ComboItem]) -> None:
        """Add items, where there are not too many."""
        if len(self.items) + len(more) > MOST_ITEMS:
            message = f"This is more than {MOST_ITEMS} parts in a row."
            self.problems.append(Problem("N111", number, start, end, message))
            return
        self.items += more

    def _section_again(self, number: int, text: str, at: int, end: int) -> int:
        """Dance a section once more; gives where its name ends."""
        _, body = self._sections[fold(text[at:end])]
        self._danced_again = len(self.items)
        self._add(number, at, end, [replace(i, line=number, column=at, end=end, until=(number, end)) for i in body])
        return end
