"""A plain table of words and figures, walked by rows."""

from collections.abc import Sequence

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QAbstractItemView, QFrame, QHeaderView, QTableWidget, QTableWidgetItem

from firn.ui.theme.theme import Theme
from firn.ui.widgets.labels import plain_tip

_LEFT = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter
_RIGHT = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter


MOST_STRETCHED = 7
"""Columns up to which the first takes the room that is left."""


SAID = Qt.ItemDataRole.UserRole
"""What more there is to say of a row, as it is written."""


class PlainTable(QTableWidget):
    """Rows whose first column takes the room that is left; figures (`right`) stand at their right edge."""

    def __init__(self, theme: Theme, name: str, *, right: bool) -> None:
        super().__init__()
        self._theme, self._right = theme, _RIGHT if right else _LEFT
        self.setAccessibleName(name)
        self.setEditTriggers(QAbstractItemView.EditTrigger.NoEditTriggers)
        self.setSelectionBehavior(QAbstractItemView.SelectionBehavior.SelectRows)
        self.setSelectionMode(QAbstractItemView.SelectionMode.SingleSelection)
        self.verticalHeader().hide()
        self.setShowGrid(False)
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.horizontalHeader().setDefaultAlignment(self._right)
        self.horizontalHeader().setHighlightSections(False)
        self.setTabKeyNavigation(False)
        theme.changed.connect(self._restyle)
        self._restyle()

    def _restyle(self) -> None:
        self.setFont(self._theme.font(15))
        self.verticalHeader().setDefaultSectionSize(self._theme.px(22))

    def show_rows(self, heads: Sequence[str], rows: Sequence[Sequence[str]], tips: Sequence[str] = ()) -> None:
        """Show rows under their heads; `tips` say more of each row."""
        self.setRowCount(len(rows))
        self.setColumnCount(len(heads))
        self.setHorizontalHeaderLabels(list(heads))
        if (head := self.horizontalHeaderItem(0)) is not None:
            head.setTextAlignment(_LEFT)
        self.horizontalHeader().setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
        wide = len(heads) > MOST_STRETCHED
        first = QHeaderView.ResizeMode.ResizeToContents if wide else QHeaderView.ResizeMode.Stretch
        self.horizontalHeader().setSectionResizeMode(0, first)
        for number, row in enumerate(rows):
            for column, text in enumerate(row):
                item = QTableWidgetItem(text)
                item.setToolTip(plain_tip(tips[number]) if tips else "")
                item.setData(SAID, tips[number] if tips else "")
                item.setTextAlignment(self._right if column else _LEFT)
                self.setItem(number, column, item)
        self.setVisible(bool(rows))
