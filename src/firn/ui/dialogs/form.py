"""A dialog that asks by a form: labelled fields, a sentence for what is wrong, and the two usual buttons."""

from collections.abc import Mapping, Sequence

from PySide6.QtWidgets import QComboBox, QDialog, QDialogButtonBox, QFormLayout, QHBoxLayout, QVBoxLayout, QWidget

from firn.ui.widgets.labels import Label
from firn.ui.widgets.room import FittingArea

FIELD_PX = 40
LEVELS = {"any": 0, "1: beginners": 1, "2": 2, "3": 3}
"""Levels of steps that can be asked for, by what they are called."""


def choice(ways: Mapping[str, object], now: object = None) -> QComboBox:
    """A field of ways by their names; on the one that holds now, else on the first."""
    box = QComboBox()
    box.addItems(list(ways))
    box.setCurrentIndex(list(ways.values()).index(now) if now in ways.values() else 0)
    return box


class FormDialog(QDialog):
    """The frame of a form. Its own `accept` reads the fields, and says in `wrong` what keeps it open."""

    def __init__(self, title: str, parent: QWidget | None = None, *, width: int = 480) -> None:
        super().__init__(parent)
        self.setWindowTitle(title)
        self._width = width
        self.wrong = Label()
        self.wrong.setWordWrap(True)

    def lay_out(
        self, rows: Sequence[tuple[str, QWidget]], *notes: str, above: Sequence[tuple[str, QWidget]] = ()
    ) -> None:
        """Lay out fields with their labels, short ones `above` in two columns, and notes under them."""
        content = QWidget()
        box = QVBoxLayout(content)
        box.setContentsMargins(0, 0, 0, 0)
        content.setMinimumWidth(self._width)
        if above:
            columns = QHBoxLayout()
            columns.setSpacing(30)
            half = -(-len(above) // 2)
            for part in (above[:half], above[half:]):
                columns.addLayout(_form(part), 1)
            box.addLayout(columns)
        box.addLayout(_form(rows))
        for text in notes:
            note = Label(text)
            note.setWordWrap(True)
            box.addWidget(note)
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Ok | QDialogButtonBox.StandardButton.Cancel)
        buttons.accepted.connect(self.accept)
        buttons.rejected.connect(self.reject)
        frame = QVBoxLayout(self)
        frame.addWidget(FittingArea(content), 1)
        frame.addWidget(self.wrong)
        frame.addWidget(buttons)


def beside(*widgets: QWidget) -> QWidget:
    """Widgets beside each other, as one field; the first has the keyboard."""
    field = QWidget()
    row = QHBoxLayout(field)
    row.setContentsMargins(0, 0, 0, 0)
    for widget in widgets:
        row.addWidget(widget)
    field.setFocusProxy(widgets[0])
    return field


def _form(rows: Sequence[tuple[str, QWidget]]) -> QFormLayout:
    form = QFormLayout()
    form.setVerticalSpacing(10)
    for label, field in rows:
        field.setMinimumHeight(FIELD_PX)
        form.addRow(label, field)
    return form
