"""Rows of the log: a day, and what was danced on it."""

from datetime import date, datetime

from PySide6.QtCore import QModelIndex, QPersistentModelIndex, QRect, QSize, Qt
from PySide6.QtGui import QFont, QFontMetrics, QPainter, QPen
from PySide6.QtWidgets import QListWidget, QStyledItemDelegate, QStyleOptionViewItem

from firn.core.book.log import LogEntry
from firn.ui.theme.theme import Theme

ENTRY = Qt.ItemDataRole.UserRole
NEW_DAY = Qt.ItemDataRole.UserRole + 1
_Index = QModelIndex | QPersistentModelIndex
SHARES = (0.28, 0.19, 0.26, 0.27)
"""Shares of what is left beside the day: step, tempo and side, how clean, shoes and floor."""

LONGEST_DAY = "Wed 28 Nov 20:30  "


def when_text(when: str) -> str:
    """A time in words: Tue 24 Nov 19:10."""
    at = datetime.fromisoformat(when)
    year = "" if at.year == date.today().year else f" {at.year}"
    clock = f" {at:%H:%M}" if len(when) > 10 else ""
    return f"{at:%a} {at.day} {at:%b}{year}{clock}"


def clean_text(entry: LogEntry) -> str:
    """How clean it was."""
    said = {"clean": "clean", "slip": "clean but for a slip", "lost": "not yet clean", "": "not judged"}[entry.how]
    return f"{said}, {entry.on} of {entry.of} on" if entry.of else said


def columns(entry: LogEntry) -> tuple[str, str, str, str, str]:
    """An entry in five columns."""
    side = {"right": "  right first", "left": "  left first", "": ""}[entry.side]
    where = ", ".join(t for t in (entry.shoes, entry.floor, entry.remark) if t)
    return when_text(entry.when), entry.step, f"{entry.tempo:g}{side}", clean_text(entry), where


class EntryRow(QStyledItemDelegate):
    """Paints an entry in columns; a row that begins a day has its line above."""

    def __init__(self, theme: Theme, view: QListWidget) -> None:
        super().__init__(view)
        self._theme, self._view = theme, view

    def sizeHint(self, option: QStyleOptionViewItem, index: _Index) -> QSize:
        return QSize(100, self._theme.px(36))

    def paint(self, painter: QPainter, option: QStyleOptionViewItem, index: _Index) -> None:
        theme = self._theme
        area: QRect = option.rect
        entry: LogEntry = index.data(ENTRY)
        if self._view.selectionModel().isSelected(index):
            painter.fillRect(area, theme.colour("chosen_wash"))
        if index.data(NEW_DAY):
            painter.setPen(QPen(theme.colour("hairline"), 1))
            painter.drawLine(area.topLeft(), area.topRight())
        left = area.left() + 4
        day = QFontMetrics(theme.font(15)).horizontalAdvance(LONGEST_DAY) + 12
        widths = [day, *(round((area.width() - day) * share) for share in SHARES)]
        for number, (text, width) in enumerate(zip(columns(entry), widths, strict=True)):
            strong = number == 1 or (number == 3 and entry.clean)
            font = theme.font(15, QFont.Weight.DemiBold if strong else QFont.Weight.Normal)
            painter.setFont(font)
            painter.setPen(theme.colour("quiet" if number in (0, 4) else "ink"))
            box = QRect(left, area.top(), width - 12, area.height())
            shown = QFontMetrics(font).elidedText(text, Qt.TextElideMode.ElideRight, box.width())
            painter.drawText(box, int(Qt.AlignmentFlag.AlignVCenter), shown)
            left += width
