"""Workbooks: new, opened, recent, copied."""

from collections.abc import Callable
from pathlib import Path

from PySide6.QtWidgets import QMenu

from firn.errors import FirnError
from firn.session.session import Session
from firn.ui.work.context import Context, Handlers

KINDS = "Firn workbooks (*.firn)"


class Workbooks:
    """Opens other workbooks in place of this one; `opened` is told the path of each."""

    def __init__(self, context: Context, stop: Callable[[], None], opened: Callable[[Path], None]) -> None:
        self._context, self._stop, self._opened = context, stop, opened

    def handlers(self) -> Handlers:
        return {"new": self.new, "open": self.open, "copy": self.save_copy}

    def new(self) -> None:
        """Ask for a place and begin a workbook there."""
        path = self._context.prompts.save_file(self._context.window, "New workbook", KINDS, "class.firn")
        if path is not None:
            self._turn_to(lambda: Session.new(path))

    def open(self) -> None:
        """Ask for a workbook and open it."""
        path = self._context.prompts.open_file(self._context.window, "Open workbook", KINDS)
        if path is not None:
            self.open_path(path)

    def open_path(self, path: Path) -> None:
        """Open a workbook in place of this one; says why where it cannot be."""
        if path.absolute() != self._context.bridge.session.path.absolute():
            self._turn_to(lambda: Session.open(path))

    def may_leave(self) -> bool:
        """Whether nothing would be lost by leaving this workbook, or the user does not mind."""
        session = self._context.bridge.session
        lost = bool(session.unsaved) and (not session.store.read_only or session.changed)
        return not lost or self._context.prompts.leave(self._context.window)

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
        self._context.jobs.cancel_all()
        self._context.bridge.turn_to(session)
        self._opened(session.path)

    def save_copy(self) -> None:
        """Ask for a place and write a copy there, with what could not be kept in the workbook's own file."""
        self._context.desk.commit()
        session = self._context.bridge.session
        path = self._context.prompts.save_file(self._context.window, "Save a copy", KINDS, "copy.firn")
        if path is None:
            return
        try:
            if path.absolute() == session.path.absolute():
                raise FirnError("A copy needs another name than the workbook's own.")
            session.save_copy(path)
        except FirnError as fault:
            self._context.say(str(fault))
        else:
            self._context.say(f"A copy is in {path.name}.")

    def fill_recent(self, menu: QMenu, recent: tuple[str, ...]) -> None:
        """The recent workbooks as a menu."""
        menu.clear()
        for name in recent:
            menu.addAction(Path(name).name, lambda n=name: self.open_path(Path(n)))
