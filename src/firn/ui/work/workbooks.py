"""Workbooks: new, opened, recent, copied; and the demo, which is nobody's until it is kept."""

from collections.abc import Callable
from functools import partial
from pathlib import Path

from PySide6.QtWidgets import QMenu

from firn.errors import FirnError
from firn.files.formats import WORKBOOK
from firn.files.whole import is_there
from firn.session.session import Session
from firn.ui.widgets.labels import shown
from firn.ui.work.context import Context, Handlers


class Workbooks:
    """Opens other workbooks in place of this one; `opened` is told each."""

    def __init__(self, context: Context, stop: Callable[[], None], opened: Callable[[Session], None]) -> None:
        self._context, self._stop, self._opened = context, stop, opened

    def handlers(self) -> Handlers:
        return {"new": self.new, "open": self.open, "copy": self.save_copy, "keep_demo": self.keep_demo}

    def new(self) -> None:
        """Ask for a place and begin a workbook there."""
        path = self._context.prompts.new_file(self._context.window, "New workbook", WORKBOOK.offered, "class.firn")
        if path is not None:
            self._turn_to(lambda: Session.new(path))

    def open(self) -> None:
        """Ask for a workbook and open it."""
        path = self._context.prompts.open_file(self._context.window, "Open workbook", WORKBOOK.offered)
        if path is not None:
            self.open_path(path)

    def open_path(self, path: Path) -> None:
        """Open a workbook in place of this one; says why where it cannot be."""
        if path.absolute() != self._context.bridge.session.path.absolute():
            self._turn_to(lambda: Session.open(path))

    def may_leave(self) -> bool:
        """Whether nothing would be lost by leaving this workbook, or the user does not mind."""
        session, prompts = self._context.bridge.session, self._context.prompts
        if session.scratch is not None and session.changed:
            answer = prompts.leave_demo(self._context.window)
            return answer == "leave" or (answer == "keep" and self.keep_demo(turn=False))
        lost = bool(session.unsaved) and (not session.store.read_only or session.changed)
        return not lost or prompts.leave(self._context.window)

    def _turn_to(self, opened: Callable[[], Session]) -> None:
        self._context.desk.commit()
        self._stop()
        if not self.may_leave():
            return
        try:
            session = opened()
        except FirnError as fault:
            self._context.say(str(fault))
            return
        self._go_on_with(session)

    def _go_on_with(self, session: Session) -> None:
        self._context.jobs.cancel_all()
        self._context.bridge.turn_to(session)
        self._opened(session)
        self.tell()

    def tell(self) -> None:
        """Say what is to be said of the file that is open."""
        told = self._context.bridge.session.told
        if told:
            self._context.say(" ".join(told))

    def save_copy(self) -> Path | None:
        """Ask for a place and write a copy there, with what could not be kept in the workbook's own file."""
        return self._copied("Save a copy", "copy.firn")

    def keep_demo(self, *, turn: bool = True) -> bool:
        """Keep the demo as a workbook of the user's own, and go on with that; whether it was kept."""
        if self._context.bridge.session.scratch is None:
            return False
        path = self._copied("Keep the demo as a workbook of yours", "my class.firn")
        if path is None:
            return False
        if turn:
            try:
                self._stop()
                self._go_on_with(Session.open(path))
            except FirnError as fault:
                self._context.say(str(fault))
        return True

    def _copied(self, title: str, name: str) -> Path | None:
        self._context.desk.commit()
        session = self._context.bridge.session
        path = self._context.prompts.save_file(self._context.window, title, WORKBOOK.offered, name)
        if path is None:
            return None
        try:
            if is_there(path) and is_there(session.path) and path.samefile(session.path):
                raise FirnError("A copy needs another name than the workbook's own.")
            session.save_copy(path)
        except (FirnError, OSError) as fault:
            self._context.say(str(fault))
            return None
        self._context.say(f"A copy is in {path.name}.")
        return path

    def fill_recent(self, menu: QMenu, recent: tuple[str, ...]) -> None:
        """The recent workbooks as a menu, each with its folder."""
        menu.clear()
        for name in recent:
            menu.addAction(shown(said_place(Path(name))), partial(self.open_path, Path(name)))


def said_place(path: Path) -> str:
    """A workbook's name and the folder that it is in, the home folder as ~."""
    folder = path.parent
    home = Path.home()
    said = f"~/{folder.relative_to(home)}" if folder.is_relative_to(home) and folder != home else str(folder)
    return f"{path.name}   in {'~' if folder == home else said}"
