"""Rows of the steps that were found: a name, where it is danced, and its counts."""

from PySide6.QtCore import QModelIndex, QPersistentModelIndex, QRect, QSize, Qt
from PySide6.QtGui import QFont, QFontMetrics, QPainter
from PySide6.QtWidgets import QListWidget, QStyledItemDelegate, QStyleOptionViewItem

from firn.core.library.search import Found
from firn.ui.theme.theme import Theme

FOUND = Qt.ItemDataRole.UserRole
_Index = QModelIndex | QPersistentModelIndex
FITS = {"": "", "same": "", "shifted": "elsewhere", "end": "ends so"}
NAME, COUNTS = 0.46, 0.30


def row_texts(found: Found) -> tuple[str, str, str]:
    """A row's name, counts and traditions."""
    name = found.card.name if found.name == found.card.name else f"{found.name}  ({found.card.name})"
    fit = FITS[found.fit]
    counts = f"{found.counts}   {fit}" if fit else found.counts
    where = "no longer offered" if found.card.retired else ", ".join(found.card.traditions) or "every"
    return name, counts, where


class FoundRow(QStyledItemDelegate):
    """Paints a step in three columns."""

    def __init__(self, theme: Theme, view: QListWidget) -> None:
        super().__init__(view)
        self._theme, self._view = theme, view

    def sizeHint(self, option: QStyleOptionViewItem, index: _Index) -> QSize:
        return QSize(100, self._theme.px(34))

    def paint(self, painter: QPainter, option: QStyleOptionViewItem, index: _Index) -> None:
        theme = self._theme
        area: QRect = option.rect
        if self._view.selectionModel().isSelected(index):
            painter.fillRect(area, theme.colour("chosen_wash"))
        left = area.left() + 6
        widths = (area.width() * NAME, area.width() * COUNTS, area.width() * (1 - NAME - COUNTS) - 6)
        for number, (text, width) in enumerate(zip(row_texts(index.data(FOUND)), widths, strict=True)):
            font = theme.font(15, QFont.Weight.DemiBold if number == 0 else QFont.Weight.Normal)
            painter.setFont(font)
            painter.setPen(theme.colour("quiet" if number == 2 else "ink"))
            box = QRect(left, area.top(), int(width) - 10, area.height())
            shown = QFontMetrics(font).elidedText(text, Qt.TextElideMode.ElideRight, box.width())
            painter.drawText(box, int(Qt.AlignmentFlag.AlignVCenter), shown)
            left += int(width)
