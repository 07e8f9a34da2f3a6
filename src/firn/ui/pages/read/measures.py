"""The published measures of a part, for the whole and for each phrase."""

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QFont
from PySide6.QtWidgets import QAbstractItemView, QFrame, QHeaderView, QTableWidget, QTableWidgetItem, QWidget

from firn.core.reading.profile import OVERS, Over
from firn.session.reading import compared, rows
from firn.ui.pages.read.face import Face
from firn.ui.theme.theme import Theme

MOST_PHRASES = 8

_LEFT = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter
_RIGHT = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter


class MeasuresFace(Face):
    """A table of measures, over what is heard, every sound or the weight. `beside`: the part by known patterns."""

    title = "Measures"
    beside = Signal(str)

    def __init__(self, theme: Theme, parent: QWidget | None = None) -> None:
        self.over: Over = OVERS[0]
        self.table = QTableWidget()
        super().__init__(theme, parent)
        table = self.table
        table.setAccessibleName("Measures of the rhythm")
        table.setEditTriggers(QAbstractItemView.EditTrigger.NoEditTriggers)
        table.setSelectionBehavior(QAbstractItemView.SelectionBehavior.SelectRows)
        table.setSelectionMode(QAbstractItemView.SelectionMode.SingleSelection)
        table.verticalHeader().hide()
        table.setShowGrid(False)
        table.setFrameShape(QFrame.Shape.NoFrame)
        table.horizontalHeader().setDefaultAlignment(_RIGHT)
        table.horizontalHeader().setHighlightSections(False)
        table.setTabKeyNavigation(False)
        table.currentCellChanged.connect(lambda row, *_: self._say(row))
        self.box.addWidget(table, 1)
        self.box.addWidget(self.says)

    def _restyle(self) -> None:
        super()._restyle()
        self.table.setFont(self._theme.font(15))
        self.table.horizontalHeader().setFont(self._theme.font(14, QFont.Weight.DemiBold))
        self.table.verticalHeader().setDefaultSectionSize(self._theme.px(22))

    @property
    def stop(self) -> QWidget:
        return self.table

    def next_way(self) -> None:
        """Measure over the next kind of sounds."""
        self.over = OVERS[(OVERS.index(self.over) + 1) % len(OVERS)]
        self.renew()

    def renew(self) -> None:
        part = self.part
        self._by("Measured over", self.over)
        found = rows(part, self.over) if part is not None else []
        phrases = min(MOST_PHRASES, len(found[0].phrases)) if found else 0
        at = self.table.currentRow()
        self.table.setRowCount(len(found))
        self.table.setColumnCount(2 + phrases)
        self.table.setHorizontalHeaderLabels(["Measure", "Part", *(f"phrase {n + 1}" for n in range(phrases))])
        self.table.horizontalHeaderItem(0).setTextAlignment(_LEFT)
        header = self.table.horizontalHeader()
        header.setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
        header.setSectionResizeMode(0, QHeaderView.ResizeMode.Stretch)
        for number, row in enumerate(found):
            for column, text in enumerate((row.name, row.value, *row.phrases[:phrases])):
                item = QTableWidgetItem(text)
                item.setToolTip(row.says)
                item.setTextAlignment(_RIGHT if column else _LEFT)
                self.table.setItem(number, column, item)
        self.table.setVisible(bool(found))
        self.beside.emit(compared(part, self.over) if part is not None and found else "")
        self._say(at)

    def _say(self, row: int) -> None:
        """What a measure says, and of whom it is."""
        item = self.table.item(max(0, row), 0)
        self.says.setText(item.toolTip() if item is not None else "")
