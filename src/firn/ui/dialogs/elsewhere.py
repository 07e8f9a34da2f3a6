"""A part of another piece: of this workbook, or of another that is looked into."""

from collections.abc import Callable, Sequence

from PySide6.QtCore import Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QDialog, QDialogButtonBox, QLineEdit, QListWidget, QVBoxLayout, QWidget

from firn.errors import FirnError
from firn.session.elsewhere import PartElsewhere, found_in
from firn.ui.widgets.labels import Label

WIDTH, HEIGHT = 720, 480


class ElsewhereDialog(QDialog):
    """Lists parts of other pieces by what is typed; `taken` is the one that is brought in.

    `look`: asks for another workbook, and gives its parts and what it is called; None where none was taken. It raises
    FirnError where that cannot be looked into.
    """

    def __init__(
        self,
        parts: Sequence[PartElsewhere],
        look: Callable[[], tuple[Sequence[PartElsewhere], str] | None],
        parent: QWidget | None = None,
    ) -> None:
        super().__init__(parent)
        self.setWindowTitle("Bring in a part")
        self.resize(WIDTH, HEIGHT)
        self._parts, self._look, self._of = parts, look, "this workbook"
        self._found: Sequence[PartElsewhere] = ()
        self.taken: PartElsewhere | None = None
        self.word, self.list, self.many = QLineEdit(), QListWidget(), Label()
        self.word.setPlaceholderText("a piece, a part, a step")
        self.word.setAccessibleName("What to look for")
        self.list.setAccessibleName("Parts of other pieces")
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Cancel)
        self.other = buttons.addButton("Another &workbook…", QDialogButtonBox.ButtonRole.ActionRole)
        self.take = buttons.addButton("Bring it in", QDialogButtonBox.ButtonRole.AcceptRole)
        self.take.setDefault(True)
        self.other.setAutoDefault(False)
        self.other.clicked.connect(self._elsewhere)
        buttons.accepted.connect(self.accept)
        buttons.rejected.connect(self.reject)
        box = QVBoxLayout(self)
        for widget in (self.word, self.many, self.list, buttons):
            box.addWidget(widget)
        self.word.textChanged.connect(self._show)
        self.list.itemActivated.connect(lambda _: self.accept())
        self._show()

    def _elsewhere(self) -> None:
        self.word.setFocus()
        try:
            found = self._look()
        except FirnError as fault:
            self.many.setText(str(fault))
            return
        if found is not None:
            self._parts, self._of = found
            self._show()

    def _show(self) -> None:
        self._found = found_in(self._parts, self.word.text())
        self.list.clear()
        self.list.addItems([one.said for one in self._found])
        self.list.setCurrentRow(0)
        many = len(self._found)
        said = f"{many} {'part' if many == 1 else 'parts'} of other pieces in {self._of}."
        self.many.setText(said if many else f"None in {self._of}.")
        self.take.setEnabled(bool(many))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        step = {Qt.Key.Key_Down: 1, Qt.Key.Key_Up: -1}.get(Qt.Key(event.key()))
        if step is not None and self._found:
            self.list.setCurrentRow(max(0, min(len(self._found) - 1, self.list.currentRow() + step)))
            return
        super().keyPressEvent(event)

    def accept(self) -> None:
        """Take the part that is chosen, where there is one."""
        row = self.list.currentRow()
        if 0 <= row < len(self._found):
            self.taken = self._found[row]
            super().accept()
