"""A dialog that lists what fits what is typed, one of which is taken."""

from abc import abstractmethod
from collections.abc import Sequence

from PySide6.QtCore import Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QDialog, QDialogButtonBox, QLineEdit, QListWidget, QVBoxLayout, QWidget

from firn.ui.widgets.labels import Label


class ChoosingDialog(QDialog):
    """A field, how many fit, and the list of them; ↑ and ↓ walk the list from the field, `row` is the one chosen."""

    def __init__(self, title: str, take: str, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle(title)
        self.word, self.list, self.many = QLineEdit(), QListWidget(), Label()
        self.buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Cancel)
        self.take = self.buttons.addButton(take, QDialogButtonBox.ButtonRole.AcceptRole)
        self.take.setDefault(True)
        self.buttons.accepted.connect(self.accept)
        self.buttons.rejected.connect(self.reject)
        box = QVBoxLayout(self)
        for widget in (self.word, self.many, self.list, self.buttons):
            box.addWidget(widget)
        self.word.textChanged.connect(lambda _: self.look())
        self.list.itemActivated.connect(lambda _: self.accept())

    @abstractmethod
    def looked(self, wanted: str) -> tuple[Sequence[str], str]:
        """The rows that fit what is typed, and what is said of how many there are."""

    def look(self) -> None:
        """List what fits now."""
        rows, said = self.looked(self.word.text())
        self.list.clear()
        self.list.addItems(list(rows))
        self.list.setCurrentRow(0)
        self.many.setText(said)

    @property
    def row(self) -> int | None:
        """The row that is chosen, None for none."""
        row = self.list.currentRow()
        return row if 0 <= row < self.list.count() else None

    def keyPressEvent(self, event: QKeyEvent) -> None:
        step = {Qt.Key.Key_Down: 1, Qt.Key.Key_Up: -1}.get(Qt.Key(event.key()))
        if step is not None and self.list.count():
            self.list.setCurrentRow(max(0, min(self.list.count() - 1, self.list.currentRow() + step)))
            return
        super().keyPressEvent(event)
