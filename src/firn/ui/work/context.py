"""What all of the window's work needs, handed on as one."""

from collections.abc import Callable
from typing import Any

from msgspec import Struct
from PySide6.QtWidgets import QWidget

from firn.core.book.edits import Edit
from firn.core.task import UNWATCHED, Task
from firn.errors import FirnError
from firn.ui.bridge import SessionBridge
from firn.ui.desk import AT_ONCE, Desk
from firn.ui.dialogs.prompts import Prompts
from firn.ui.jobs import JobRunner

Handlers = dict[str, Callable[[], object]]


class Context(Struct):
    """The desk and what surrounds it; `say` puts a sentence into the banner, `show_page` turns to a page,
    `stood_on_item` gives the item of the combo whose pass is stood on."""

    window: QWidget
    bridge: SessionBridge
    desk: Desk
    jobs: JobRunner
    prompts: Prompts
    say: Callable[[str], None]
    show_page: Callable[[int], None]
    stood_on_item: Callable[[], int | None]

    def beside(self, label: str, sounds: int, work: Callable[[Task], Any], done: Callable[[Any], None]) -> None:
        """Work on a part of so many sounds: at once where that is soon done, else beside the window, which goes on.

        `done` is called with what comes of it, unless something was changed meanwhile; what cannot be is said.
        """
        if sounds <= AT_ONCE:
            try:
                made = work(UNWATCHED)
            except FirnError as fault:
                self.say(str(fault))
                return
            done(made)
            return
        before = self.bridge.book

        def end(made: Any) -> None:
            # What is being typed is a change, too.
            self.desk.commit()
            if self.bridge.book is before:
                done(made)
            else:
                self.say(f"{label}: left, since something was changed meanwhile.")

        self.jobs.run("beside", label, work, end)

    def do(self, edit: Edit) -> None:
        """Make an edit; says why where it cannot be made."""
        self.desk.commit()
        try:
            self.bridge.do(edit)
        except FirnError as fault:
            self.say(str(fault))
