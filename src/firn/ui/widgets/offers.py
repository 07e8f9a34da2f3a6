"""Words that complete what is being typed, in a list under the caret."""

from collections.abc import Sequence

from PySide6.QtCore import QModelIndex, QPersistentModelIndex, QPoint, QSize, Qt, Signal
from PySide6.QtGui import QFont, QFontMetrics, QPainter
from PySide6.QtWidgets import (
    QFrame,
    QListWidget,
    QListWidgetItem,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QWidget,
)

from firn.ui.theme.theme import Theme

MOST_SHOWN = 6
LEAST_SHOWN = 2
_MEANING = Qt.ItemDataRole.UserRole
_Index = QModelIndex | QPersistentModelIndex


class _Row(QStyledItemDelegate):
    """A row: the word, and what it means beside it."""

    def __init__(self, theme: Theme, view: QListWidget) -> None:
        super().__init__(view)
        self._theme, self._view = theme, view

    def sizeHint(self, option: QStyleOptionViewItem, index: _Index) -> QSize:
        return QSize(0, self._theme.px(34))

    def paint(self, painter: QPainter, option: QStyleOptionViewItem, index: _Index) -> None:
        theme = self._theme
        rect = option.rect
        if index.row() == self._view.currentRow():
            painter.fillRect(rect, theme.colour("chosen_wash"))
        middle = Qt.AlignmentFlag.AlignVCenter
        word = rect.adjusted(10, 0, 0, 0)
        word.setWidth(rect.width() * 2 // 5 - 14)
        meaning = rect.adjusted(rect.width() * 2 // 5, 0, -8, 0)
        for box, text, font, role in (
            (word, index.data(), theme.font(16, QFont.Weight.DemiBold), "ink"),
            (meaning, index.data(_MEANING), theme.font(15), "quiet"),
        ):
            painter.setFont(font)
            painter.setPen(theme.colour(role))
            shown = QFontMetrics(font).elidedText(text, Qt.TextElideMode.ElideRight, box.width())
            painter.drawText(box, middle, shown)


class Offers(QListWidget):
    """Names with what they mean: `taken` says which was wanted. The keys stay with the editor that owns it."""

    taken = Signal(int)

    def __init__(self, theme: Theme, parent: QWidget) -> None:
        super().__init__(parent)
        self._theme = theme
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setItemDelegate(_Row(theme, self))
        self.setAccessibleName("Words that go on so: Tab takes the first")
        self.itemClicked.connect(lambda item: self.taken.emit(self.row(item)))
        theme.changed.connect(self._restyle)
        self._restyle()

    def _restyle(self) -> None:
        t = self._theme.tokens
        self.setStyleSheet(f"QListWidget {{ border: 1px solid {t.thread}; border-radius: 6px; }}")
        self.hide()

    def offer(self, rows: Sequence[tuple[str, str]], at: QPoint, height: int) -> None:
        """Offer names and meanings under a line of some height at `at`, or over it where there is more room."""
        self.clear()
        if not rows:
            self.hide()
            return
        for name, meaning in rows:
            item = QListWidgetItem(name)
            item.setData(_MEANING, meaning)
            item.setData(Qt.ItemDataRole.AccessibleTextRole, f"{name}: {meaning}")
            self.addItem(item)
        over = self.parentWidget()
        assert over is not None
        room, row = over.rect(), self._theme.px(34)
        below, above = (room.height() - at.y() - height - 8) // row, (at.y() - 8) // row
        wanted = min(len(rows), MOST_SHOWN)
        under = below >= min(wanted, LEAST_SHOWN) or below >= above
        shown = max(1, min(wanted, below if under else above))
        size = QSize(min(room.width() - 8, self._theme.px(600)), row * shown + 4)
        top = at.y() + height + 2 if under else max(0, at.y() - size.height() - 2)
        left = min(max(0, at.x() - 8), room.width() - size.width() - 4)
        self.setGeometry(left, top, size.width(), size.height())
        self.show()
        self.raise_()

    @property
    def walked(self) -> bool:
        """Whether a row has been chosen by the arrow keys."""
        return self.currentRow() >= 0

    def walk(self, step: int) -> None:
        """Go down the list, or up for less than 0; before the first none is chosen."""
        self.setCurrentRow(max(-1, min(self.count() - 1, self.currentRow() + step)))

    def take(self) -> None:
        """Take the row that is chosen, else the first."""
        self.taken.emit(max(0, self.currentRow()))
