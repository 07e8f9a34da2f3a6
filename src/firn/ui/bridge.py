"""The session's callbacks as signals, and nothing else of it changed."""

from PySide6.QtCore import QObject, Signal

from firn.core.book.book import Book
from firn.core.book.edits import Edit
from firn.session.session import Session


class SessionBridge(QObject):
    """The open session for the window: `changed` after every edit, `opened` when another workbook is opened."""

    changed = Signal()
    opened = Signal()

    def __init__(self, session: Session, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._session = session
        session.listen(self.changed.emit)

    @property
    def session(self) -> Session:
        return self._session

    @property
    def book(self) -> Book:
        return self._session.book

    def do(self, edit: Edit) -> None:
        """Make an edit; raises FirnError if it cannot be made."""
        self._session.do(edit)

    def turn_to(self, session: Session) -> None:
        """Close this workbook and go on with another."""
        self._session.close()
        self._session = session
        session.listen(self.changed.emit)
        self.opened.emit()
        self.changed.emit()
