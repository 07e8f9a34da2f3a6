"""Another part laid beside the one on show: both on strips, and what differs."""

from collections.abc import Callable, Sequence

from PySide6.QtCore import QSize, Qt
from PySide6.QtWidgets import (
    QCheckBox,
    QDialog,
    QDialogButtonBox,
    QHBoxLayout,
    QListWidget,
    QListWidgetItem,
    QSizePolicy,
    QVBoxLayout,
    QWidget,
)

from firn.core.piece.piece import Part
from firn.core.task import Task
from firn.session.beside import Compared, laid_beside
from firn.session.stretch import Stretch, part_stretch
from firn.ui.desk import Aside
from firn.ui.pages.read.table import PlainTable
from firn.ui.theme.theme import Theme
from firn.ui.widgets.labels import Label, heading
from firn.ui.widgets.room import FittingArea
from firn.ui.widgets.strip.strip import Strip
from firn.ui.widgets.strip.view import StripView

Others = Sequence[tuple[str, Callable[[], Part]]]


class BesideDialog(QDialog):
    """Lays one of several other parts (named, and made when chosen) beside a part, which is worked out aside."""

    def __init__(
        self,
        part: Part,
        others: Others,
        aside: Aside,
        theme: Theme,
        parent: QWidget | None = None,
    ) -> None:
        super().__init__(parent)
        self.setWindowTitle(f"Beside {part.name}")
        self.resize(1160, 760)
        self._part, self._others, self._aside = part, others, aside
        self._gone = False
        self.compared: Compared | None = None
        self.list = QListWidget()
        self.list.setAccessibleName("Other parts")
        for name, _ in others:
            QListWidgetItem(name, self.list).setSizeHint(QSize(0, theme.px(40)))
        self.list.setFixedWidth(theme.px(220))
        self.mirrored = QCheckBox("The other on its other &side")
        self.mirrored.setMinimumHeight(theme.px(40))
        self.said = Label()
        self.said.setWordWrap(True)
        self.mine, self.theirs = Strip(theme), Strip(theme)
        for strip in (self.mine, self.theirs):
            strip.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.table = PlainTable(theme, "Both in figures", right=True)
        self.differences = QListWidget()
        self.differences.setAccessibleName("Differences")
        self.differences.setWordWrap(True)
        self.differences.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        left = QVBoxLayout()
        left.addWidget(self.list, 1)
        left.addWidget(self.mirrored)
        figures, places = QVBoxLayout(), QVBoxLayout()
        figures.addWidget(heading(theme, "In figures"))
        figures.addWidget(self.table, 1)
        places.addWidget(heading(theme, "Sound by sound"))
        places.addWidget(self.differences, 1)
        below = QHBoxLayout()
        below.setSpacing(24)
        below.addLayout(figures, 1)
        below.addLayout(places, 1)
        right = QVBoxLayout()
        for strip in (self.mine, self.theirs):
            view = StripView(strip)
            _at_least(view, theme.px(196))
            right.addWidget(view, 3)
        for widget in (self.list, self.table, self.differences):
            _at_least(widget, theme.px(120))
        right.addWidget(self.said)
        right.addLayout(below, 4)
        content = QWidget()
        above = QHBoxLayout(content)
        above.setContentsMargins(0, 0, 0, 0)
        above.setSpacing(20)
        above.addLayout(left)
        above.addLayout(right, 1)
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Close)
        buttons.rejected.connect(self.accept)
        box = QVBoxLayout(self)
        box.addWidget(FittingArea(content), 1)
        box.addWidget(buttons)
        self.mine.show_stretch(part_stretch(part))
        self.list.currentRowChanged.connect(lambda _: self._show())
        self.mirrored.toggled.connect(lambda _: self._show())
        self.list.setCurrentRow(0)

    def _show(self) -> None:
        """Show the chosen part beside the one on show."""
        row, mirrored, part = self.list.currentRow(), self.mirrored.isChecked(), self._part
        make = self._others[row][1]
        self.said.setText("Laying it beside…")

        def work(task: Task) -> tuple[Stretch, Compared]:
            other = make()
            return part_stretch(other, swapped=mirrored), laid_beside(part, other, mirrored=mirrored)

        def done(made: tuple[Stretch, Compared]) -> None:
            if not self._gone and (self.list.currentRow(), self.mirrored.isChecked()) == (row, mirrored):
                self._show_laid(*made)

        self._aside("laid", "Laying it beside", work, done)

    def _show_laid(self, theirs: Stretch, compared: Compared) -> None:
        self.theirs.show_stretch(theirs)
        self.compared = compared
        self.said.setText(compared.said)
        name = self._others[self.list.currentRow()][0]
        self.table.show_rows(["", self._part.name, name], compared.rows)
        self.differences.clear()
        self.differences.addItems(compared.differences)

    def done(self, result: int) -> None:
        """Close; what is still being worked out is not shown."""
        self._gone = True
        super().done(result)


def _at_least(widget: QWidget, height: int) -> None:
    """Let a widget take what height there is, and no less than this."""
    widget.setMinimumHeight(height)
    widget.setSizePolicy(widget.sizePolicy().horizontalPolicy(), QSizePolicy.Policy.Ignored)
