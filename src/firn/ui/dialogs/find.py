"""Find: a text anywhere in the workbook, and the way to it."""

from collections.abc import Sequence

from PySide6.QtWidgets import QWidget

from firn.core.book.book import Book
from firn.session.find import MOST_FOUND, FoundPlace, find
from firn.ui.dialogs.choosing import ChoosingDialog

ASKED = "Type what to look for; ↓ chooses a place, Enter goes there."
WIDTH, HEIGHT = 620, 460


class FindDialog(ChoosingDialog):
    """Lists the places of what is typed; `found` holds the one that is gone to."""

    def __init__(self, book: Book, wanted: str, parent: QWidget | None = None) -> None:
        super().__init__("Find in this workbook", "Go there", parent)
        self.resize(WIDTH, HEIGHT)
        self._book = book
        self.found: FoundPlace | None = None
        self._places: list[FoundPlace] = []
        self.word.setPlaceholderText("a word, a count, a note")
        self.word.setAccessibleName("What to find")
        self.list.setAccessibleName("Places")
        self.word.setText(wanted)
        self.word.selectAll()
        self.look()

    def looked(self, wanted: str) -> tuple[Sequence[str], str]:
        self._places = find(self._book, wanted)
        many = len(self._places)
        more = " or more" if many == MOST_FOUND else ""
        said = "1 place" if many == 1 else f"{many}{more} places" if many else "Nowhere in this workbook."
        rows = [f"{one.called}, line {one.line + 1}:  {one.text.strip()}" for one in self._places]
        return rows, said if wanted.strip() else ASKED

    def accept(self) -> None:
        """Go to the place that is chosen, where there is one."""
        self.found = self._places[self.row] if self.row is not None else None
        if self.found is not None:
            super().accept()
