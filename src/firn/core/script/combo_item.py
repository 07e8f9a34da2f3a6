"""An item of a combo: a part danced in order, how often, on which side, how it begins, and how the last time ends."""

from fractions import Fraction
from typing import Literal

from msgspec import Struct

ItemSide = Literal["", "other", "right", "left", "as written"]
Role = Literal["", "lead", "follow"]
MOST_TIMES = 64


class Across(Struct, frozen=True):
    """A line of hands or arms that goes on over the parts from an item on, counted from that one's count 1: the
    layer, its words, and every how many counts it comes again (0: once)."""

    layer: str
    text: str
    every: int = 0

    @property
    def said(self) -> str:
        """As it is said: hands, every 4: 2 clap 4 clap."""
        return f"{self.layer}{f', every {self.every}' if self.every else ''}: {self.text}"


class ComboItem(Struct, frozen=True):
    """One item: a part danced `times`, beginning on the free foot unless `side` says otherwise.

    `ends` replaces the end of every time, `last_ends` that of the last, `time_ends` those of single times (from 1);
    all are script. `begins` replaces the beginning of every time, `first_begins` that of the first. `turn`: how far
    the body turns in each time, right above 0. `until`: line and column where all that is said of it ends. `group`:
    the group that dances it, 0 for all; `block`: the how many-th line of groups it stands in; `after`: how many
    counts after the first group this one enters, None once the one before is over. `never_swaps`: every time begins
    on the foot that is written, or that its side says. `notes`: what is said before it of the floor, the formation
    or the partner, each with its name. `part` in square brackets is script of its own, danced between parts.
    `section`: the section that begins with it. `who`: what its group is called, lead or follow, "" for its number.
    `across`: lines of hands or arms that begin with it and go on over the parts that come.
    """

    part: str
    times: int = 1
    side: ItemSide = ""
    ends: str = ""
    last_ends: str = ""
    time_ends: tuple[tuple[int, str], ...] = ()
    turn: Fraction = Fraction(0)
    line: int = 0
    column: int = 0
    end: int = 0
    until: tuple[int, int] = (0, 0)
    group: int = 0
    block: int = 0
    after: int | None = None
    never_swaps: bool = False
    begins: str = ""
    first_begins: str = ""
    notes: tuple[tuple[str, str], ...] = ()
    section: str = ""
    who: Role = ""
    across: tuple[Across, ...] = ()

    @property
    def between(self) -> str:
        """The script that is danced between parts, "" for a part."""
        return self.part[1:-1] if is_between(self.part) else ""

    def begins_of(self, time: int) -> str:
        """The entry of a time, from 0; "" for the part's own beginning."""
        return (self.first_begins if time == 0 else "") or self.begins

    def ends_of(self, time: int) -> str:
        """The ending of a time, from 0; "" for the part's own."""
        named = dict(self.time_ends).get(time + 1, "")
        last = self.last_ends if time == self.times - 1 else ""
        return named or last or self.ends


def is_between(name: str) -> bool:
    """Whether a part's name is script said between parts: [step, hold]."""
    return name.startswith("[") and name.endswith("]")


ORDINALS = {
    "first": 1, "second": 2, "third": 3, "fourth": 4, "fifth": 5, "sixth": 6, "seventh": 7, "eighth": 8, "ninth": 9,
    "tenth": 10, "eleventh": 11, "twelfth": 12,
}  # fmt: skip


def ordinal(number: int) -> str:
    """1st, 2nd, 3rd, 11th."""
    tail = "th" if number % 100 in (11, 12, 13) else {1: "st", 2: "nd", 3: "rd"}.get(number % 10, "th")
    return f"{number}{tail}"
