"""Which layers of a part are shown and heard, and how the strip is looked at; every change takes effect at once."""

from collections.abc import Callable

from msgspec.structs import replace
from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QCheckBox,
    QDialog,
    QDialogButtonBox,
    QGridLayout,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from firn.session.view import HEARD, View
from firn.ui.widgets.labels import Label

ROW_PX = 44
_HINT = (
    "A layer is a line of the part that begins with its name: hands: 1 clap · arms: 3-4 out · scat: da doo · "
    "signals: 1 turn 2 ahead · pulse: down on the & · body, moves, note."
)


class LayersDialog(QDialog):
    """Shows `layers` with what a view does with each; `changed` is told every other view."""

    def __init__(
        self, view: View, layers: tuple[str, ...], changed: Callable[[View], None], parent: QWidget | None = None
    ) -> None:
        super().__init__(parent)
        self.setWindowTitle("Layers and view")
        self.setMinimumWidth(520)
        self.view, self._changed = view, changed
        self.shown: dict[str, QCheckBox] = {}
        self.heard: dict[str, QCheckBox] = {}
        self.alone: dict[str, QPushButton] = {}
        grid = QGridLayout()
        grid.setHorizontalSpacing(24)
        for row, name in enumerate(layers):
            grid.setRowMinimumHeight(row, ROW_PX)
            grid.addWidget(Label(name.capitalize()), row, 0)
            self.shown[name] = box = QCheckBox("shown")
            box.setAccessibleName(f"{name} shown")
            box.setChecked(view.shows(name))
            box.toggled.connect(lambda on, n=name: self._take(self.view.showing(n, on)))
            grid.addWidget(box, row, 1)
            if name in HEARD:
                self._hearing(grid, row, name)
        self.mirrored = QCheckBox("&Mirrored, as for one who faces the dancer")
        self.mirrored.setChecked(view.mirrored)
        self.mirrored.toggled.connect(lambda on: self._take(replace(self.view, mirrored=on)))
        self.fitted = QCheckBox("As many &counts in a row as there is room for")
        self.fitted.setChecked(view.fitted)
        self.fitted.toggled.connect(lambda on: self._take(replace(self.view, fitted=on)))
        hint = Label(_HINT)
        hint.setWordWrap(True)
        column = QVBoxLayout(self)
        column.addLayout(grid)
        for widget in (self.mirrored, self.fitted):
            widget.setMinimumHeight(ROW_PX - 4)
            column.addWidget(widget)
        column.addWidget(hint)
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Close)
        buttons.rejected.connect(self.accept)
        column.addWidget(buttons)

    def _hearing(self, grid: QGridLayout, row: int, name: str) -> None:
        """The row's own box and button for what is heard."""
        self.heard[name] = box = QCheckBox("heard")
        box.setAccessibleName(f"{name} heard")
        box.setChecked(self.view.hears(name))
        box.toggled.connect(lambda on: self._take(self.view.hearing(name, on)))
        grid.addWidget(box, row, 2)
        self.alone[name] = button = QPushButton("alone")
        button.setAccessibleName(f"Hear {name} alone")
        button.clicked.connect(lambda: self._take(self.view.alone(name)))
        grid.addWidget(button, row, 3, Qt.AlignmentFlag.AlignLeft)

    def _take(self, view: View) -> None:
        """Take another view, shown in every box."""
        if view == self.view:
            return
        self.view = view
        for name, box in self.heard.items():
            blocked = box.blockSignals(True)
            box.setChecked(view.hears(name))
            box.blockSignals(blocked)
        self._changed(view)
