"""Find: a text anywhere in the workbook, and the way to it."""

from PySide6.QtCore import Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import (
    QDialog,
    QDialogButtonBox,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QVBoxLayout,
    QWidget,
)

from firn.core.book.book import Book
from firn.session.find import MOST_FOUND, FoundPlace, find
from firn.ui.widgets.labels import Label

ASKED = "Type what to look for; ↓ chooses a place, Enter goes there."
WIDTH, HEIGHT = 620, 460


class FindDialog(QDialog):
    """Lists the places of what is typed; `found` holds the one that is gone to."""

    def __init__(self, book: Book, wanted: str, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle("Find in this workbook")
        self.resize(WIDTH, HEIGHT)
        self._book = book
        self.found: FoundPlace | None = None
        self._places: list[FoundPlace] = []
        self.word = QLineEdit(wanted)
        self.word.setPlaceholderText("a word, a count, a note")
        self.word.setAccessibleName("What to find")
        self.list = QListWidget()
        self.list.setAccessibleName("Places")
        self.many = Label()
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Cancel)
        go = buttons.addButton("Go there", QDialogButtonBox.ButtonRole.AcceptRole)
        go.setDefault(True)
        buttons.accepted.connect(self.accept)
        buttons.rejected.connect(self.reject)
        box = QVBoxLayout(self)
        for widget in (self.word, self.many, self.list, buttons):
            box.addWidget(widget)
        self.word.textChanged.connect(self._look)
        self.list.itemActivated.connect(lambda _: self.accept())
        self.word.selectAll()
        self._look()

    def _look(self) -> None:
        self._places = find(self._book, self.word.text())
        self.list.clear()
        for one in self._places:
            QListWidgetItem(f"{one.called}, line {one.line + 1}:  {one.text.strip()}", self.list)
        self.list.setCurrentRow(0)
        many = len(self._places)
        more = " or more" if many == MOST_FOUND else ""
        said = "1 place" if many == 1 else f"{many}{more} places" if many else "Nowhere in this workbook."
        self.many.setText(said if self.word.text().strip() else ASKED)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        step = {Qt.Key.Key_Down: 1, Qt.Key.Key_Up: -1}.get(Qt.Key(event.key()))
        if step is not None and self._places:
            self.list.setCurrentRow(max(0, min(len(self._places) - 1, self.list.currentRow() + step)))
            return
        super().keyPressEvent(event)

    def accept(self) -> None:
        """Go to the place that is chosen, where there is one."""
        row = self.list.currentRow()
        self.found = self._places[row] if 0 <= row < len(self._places) else None
        if self.found is not None:
            super().accept()
