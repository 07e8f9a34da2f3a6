"""The pages, one entry each, in the order of the work: tabs, actions, keys and the window's places are made of it."""

from fractions import Fraction

from msgspec import Struct
from PySide6.QtWidgets import QWidget

from firn.core.reading.finding import MendText


class PageEntry(Struct, frozen=True):
    """A page: its id, its name on the thread above, and the keys that turn to it. `Rooms` makes what it shows."""

    id: str
    title: str
    keys: tuple[str, ...]


PAGES = (
    PageEntry("write", "Write", ("F9", "Alt+W")),
    PageEntry("read", "Read", ("Shift+F9", "Alt+R")),
    PageEntry("drill", "Drill", ("Shift+F12",)),
    PageEntry("listen", "Listen", ("F10", "Alt+L")),
    PageEntry("log", "Log", ("F12", "Alt+G")),
    PageEntry("steps", "Steps", ("F5",)),
)
TITLES = tuple(entry.title for entry in PAGES)
WRITE, READ, DRILL, LISTEN, LOG, STEPS = range(len(PAGES))
"""Places of the pages."""


class PageView:
    """What the window asks of any page; a page answers what concerns it."""

    def focus_stops(self) -> list[QWidget]:
        """Where F6 goes on this page, in order; at least one."""
        raise NotImplementedError

    def show_played(self, position: Fraction | None) -> None:
        """Show what is danced, by the position that is heard; None for nothing."""

    def take_mend(self, number: int) -> None:
        """Take the mend of a number, from 1, of those on show."""

    def looked_at(self) -> tuple[int | None, MendText | None]:
        """The sound that is stood on, by its finding or itself, and the mend of it that is looked at."""
        return None, None

    def answer_key(self, digit: int) -> bool:
        """Answer a question by a digit; False where none is asked."""
        return False
