"""What all of the window's work needs, handed on as one."""

from collections.abc import Callable

from msgspec import Struct
from PySide6.QtWidgets import QWidget

from firn.core.book.edits import Edit
from firn.errors import FirnError
from firn.ui.bridge import SessionBridge
from firn.ui.desk import Desk
from firn.ui.dialogs.prompts import Prompts
from firn.ui.jobs import JobRunner

WRITE, READ, LISTEN, LOG, STEPS = range(5)
"""Places of the pages."""

Handlers = dict[str, Callable[[], object]]


class Context(Struct):
    """The desk and what surrounds it; `say` puts a sentence into the banner, `show_page` turns to a page."""

    window: QWidget
    bridge: SessionBridge
    desk: Desk
    jobs: JobRunner
    prompts: Prompts
    say: Callable[[str], None]
    show_page: Callable[[int], None]

    def do(self, edit: Edit) -> None:
        """Make an edit; says why where it cannot be made."""
        self.desk.commit()
        try:
            self.bridge.do(edit)
        except FirnError as fault:
            self.say(str(fault))
