"""What is tapped along to, as the tapping sees it."""

from collections.abc import Callable, Sequence
from typing import TYPE_CHECKING, Protocol

if TYPE_CHECKING:
    # Heavy: imported when a clip is first opened.
    from fractions import Fraction

    from firn.core.book.clips import Clip, Walls
    from firn.core.meter.line import Line
    from firn.core.quantise.words import Fit
    from firn.core.timeline.timeline import Section
    from firn.session.tap_script import Tap


class Along(Protocol):
    """A clip that is tapped along to; times are its own seconds. `grid`: its counts, where they are known;
    `stands_s`: where it stands."""

    @property
    def walls(self) -> "Walls": ...

    @property
    def grid(self) -> "Line | None": ...

    @property
    def stands_s(self) -> float: ...

    def now(self) -> float: ...

    def run(self) -> None: ...

    def rest(self) -> None: ...

    def look(self, time_s: float) -> None: ...

    def hear(self, time_s: float) -> None: ...

    def hear_in_turn(self, begin_s: float, end_s: float, model: "Callable[[float], Section]") -> None: ...

    def told_anew(
        self, taps: "Sequence[Tap]", given: "Sequence[Fit]", done: "Callable[[list[Tap]], None]"
    ) -> None: ...

    def taken(self, line: "Line", shift: "Fraction") -> "Clip": ...

    def left(self) -> None: ...
