"""A teacher's own cards: where they are, how many were read, and what is wrong with the others."""

from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QDialog, QDialogButtonBox, QListWidget, QPushButton, QVBoxLayout, QWidget

from firn.files.cards import OwnCards
from firn.files.whole import is_there
from firn.ui.widgets.labels import Label


class CardsDialog(QDialog):
    """Shows a folder of cards. `read` reads it again; `browse` asks for another, `make` makes it with an example."""

    def __init__(
        self,
        folder: Path,
        own: OwnCards,
        *,
        read: Callable[[Path], OwnCards],
        browse: Callable[[], Path | None],
        make: Callable[[Path], None],
        parent: QWidget | None = None,
    ) -> None:
        super().__init__(parent)
        self.setWindowTitle("Cards of your own")
        self.setMinimumWidth(620)
        self.folder, self.own = folder, own
        self._read, self._browse, self._make = read, browse, make
        self.told = Label()
        self.told.setWordWrap(True)
        self.faults = QListWidget()
        self.faults.setAccessibleName("What could not be read")
        self.faults.setWordWrap(True)
        self.faults.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.faults.setMinimumHeight(150)
        self.again = self._button("&Read the folder again", self._read_again)
        self.other = self._button("&Another folder…", self._ask)
        self.make = self._button("&Make the folder, with an example", self._make_it)
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Close)
        buttons.rejected.connect(self.accept)
        box = QVBoxLayout(self)
        for widget in (self.told, self.faults, self.again, self.other, self.make, buttons):
            box.addWidget(widget)
        self._show()

    def _button(self, text: str, run: Callable[[], None]) -> QPushButton:
        button = QPushButton(text)
        button.setMinimumHeight(44)
        button.clicked.connect(run)
        return button

    def _show(self) -> None:
        many = len(self.own.cards)
        cards = (
            "no card of your own" if not many else "1 card of your own" if many == 1 else f"{many} cards of your own"
        )
        there = is_there(self.folder)
        where = f"Firn reads the .toml files in {self.folder}"
        self.told.setText(
            f"{where}: {cards}. A word there comes before the same word of Firn’s."
            if there
            else f"{where}, once there is such a folder. A word there comes before the same word of Firn’s."
        )
        self.faults.clear()
        self.faults.addItems(list(self.own.faults))
        self.faults.setVisible(bool(self.own.faults))
        self.again.setEnabled(there)
        self.make.setEnabled(not there or not many)

    def _read_again(self) -> None:
        self.own = self._read(self.folder)
        self._show()

    def _ask(self) -> None:
        folder = self._browse()
        if folder is not None:
            self.folder = folder
            self._read_again()

    def _make_it(self) -> None:
        self._make(self.folder)
        self._read_again()
