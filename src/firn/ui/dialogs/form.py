"""A dialog that asks by a form: labelled fields, a sentence for what is wrong, and the two usual buttons."""

from collections.abc import Sequence

from PySide6.QtWidgets import QDialog, QDialogButtonBox, QFormLayout, QLabel, QVBoxLayout, QWidget

FIELD_PX = 40


class FormDialog(QDialog):
    """The frame of a form. Its own `accept` reads the fields, and says in `wrong` what keeps it open."""

    def __init__(self, title: str, parent: QWidget | None = None, *, width: int = 480) -> None:
        super().__init__(parent)
        self.setWindowTitle(title)
        self.setMinimumWidth(width)
        self.wrong = QLabel()
        self.wrong.setWordWrap(True)

    def lay_out(self, rows: Sequence[tuple[str, QWidget]], *notes: str) -> None:
        """Lay out fields with their labels, and notes under them."""
        form = QFormLayout()
        form.setVerticalSpacing(10)
        for label, field in rows:
            field.setMinimumHeight(FIELD_PX)
            form.addRow(label, field)
        box = QVBoxLayout(self)
        box.addLayout(form)
        for text in notes:
            note = QLabel(text)
            note.setWordWrap(True)
            box.addWidget(note)
        box.addWidget(self.wrong)
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Ok | QDialogButtonBox.StandardButton.Cancel)
        buttons.accepted.connect(self.accept)
        buttons.rejected.connect(self.reject)
        box.addWidget(buttons)
