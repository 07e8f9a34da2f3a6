"""What was done, to be undone and done again; it ends with the session."""

from msgspec import Struct

from firn.core.book.book import Book
from firn.core.book.edits import Edit


class _Done(Struct, frozen=True):
    label: str
    before: Book
    after: Book


class History:
    """Workbooks before and after each edit; shared parts make keeping them cheap."""

    def __init__(self) -> None:
        self._done: list[_Done] = []
        self._undone: list[_Done] = []

    def record(self, edit: Edit, before: Book, after: Book) -> None:
        """Note an edit that was made."""
        self._done.append(_Done(edit.label, before, after))
        self._undone.clear()

    @property
    def undo_label(self) -> str:
        """What undo would undo, "" for nothing."""
        return self._done[-1].label if self._done else ""

    @property
    def redo_label(self) -> str:
        """What redo would do again, "" for nothing."""
        return self._undone[-1].label if self._undone else ""

    def undo(self) -> Book | None:
        """The workbook before the last edit, or None."""
        if not self._done:
            return None
        step = self._done.pop()
        self._undone.append(step)
        return step.before

    def redo(self) -> Book | None:
        """The workbook after the edit last undone, or None."""
        if not self._undone:
            return None
        step = self._undone.pop()
        self._done.append(step)
        return step.after
