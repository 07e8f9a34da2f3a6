"""What was done, to be undone and done again; it ends with the session."""

from dataclasses import dataclass

from firn.core.book.book import Book
from firn.core.book.edits import Edit


@dataclass(frozen=True, slots=True)
class _Done:
    label: str
    before: Book
    after: Book
    merge_key: str | None


class History:
    """Workbooks before and after each edit; shared parts make keeping them cheap."""

    def __init__(self) -> None:
        self._done: list[_Done] = []
        self._undone: list[_Done] = []
        self._sealed = True

    def record(self, edit: Edit, before: Book, after: Book) -> None:
        """Note an edit that was made; edits of one merge key in a row are one step."""
        key = edit.merge_key()
        if key and not self._sealed and self._done and self._done[-1].merge_key == key:
            before = self._done.pop().before
        self._done.append(_Done(edit.label, before, after, key))
        self._undone.clear()
        self._sealed = False

    def seal(self) -> None:
        """End a run of merging edits."""
        self._sealed = True

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
        self._sealed = True
        return step.before

    def redo(self) -> Book | None:
        """The workbook after the edit last undone, or None."""
        if not self._undone:
            return None
        step = self._undone.pop()
        self._done.append(step)
        self._sealed = True
        return step.after
