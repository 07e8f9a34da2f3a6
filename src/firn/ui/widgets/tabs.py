"""Names along a thread: the pages at the top, and the parts of a piece."""

from collections.abc import Sequence

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import (
    QFont,
    QFontMetricsF,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPainterPath,
    QPaintEvent,
    QPen,
)
from PySide6.QtWidgets import QSizePolicy, QWidget

from firn.ui.theme.theme import Theme


class ThreadTabs(QWidget):
    """A row of names, one of them chosen; `threaded` draws the thread that dips under the chosen one.

    Arrow keys walk, Home and End jump. Emits `picked` with the index.
    """

    picked = Signal(int)

    def __init__(self, theme: Theme, name: str, *, threaded: bool, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._theme, self._threaded = theme, threaded
        self._names: tuple[str, ...] = ()
        self._chosen = 0
        self.setAccessibleName(name)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Fixed)
        theme.changed.connect(self.updateGeometry)
        theme.changed.connect(self.update)

    def show_names(self, names: Sequence[str], chosen: int) -> None:
        """Show names with one chosen."""
        self._names, self._chosen = tuple(names), chosen
        self.setAccessibleDescription(names[chosen] if 0 <= chosen < len(names) else "")
        self.updateGeometry()
        self.update()

    @property
    def names(self) -> tuple[str, ...]:
        return self._names

    @property
    def chosen(self) -> int:
        return self._chosen

    def _font(self, chosen: bool) -> QFont:
        return self._theme.font(16, QFont.Weight.DemiBold if chosen else QFont.Weight.Normal)

    def boxes(self) -> list[QRectF]:
        """Each name's target."""
        metrics = QFontMetricsF(self._font(True))
        boxes, x = [], 0.0
        for name in self._names:
            width = max(44.0, metrics.horizontalAdvance(name) + 28)
            boxes.append(QRectF(x, 0, width, self.height()))
            x += width
        return boxes

    def sizeHint(self) -> QSize:
        boxes = self.boxes()
        return QSize(int(boxes[-1].right()) + 2 if boxes else 44, self._theme.px(44))

    def minimumSizeHint(self) -> QSize:
        return self.sizeHint()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        theme = self._theme
        boxes = self.boxes()
        for i, (name, box) in enumerate(zip(self._names, boxes, strict=True)):
            painter.setFont(self._font(i == self._chosen))
            painter.setPen(theme.colour("ink" if i == self._chosen else "quiet"))
            painter.drawText(box.adjusted(0, 0, 0, -6), Qt.AlignmentFlag.AlignCenter, name)
        if boxes and 0 <= self._chosen < len(boxes):
            self._line(painter, boxes)
        painter.end()

    def _line(self, painter: QPainter, boxes: list[QRectF]) -> None:
        box = boxes[self._chosen]
        y = box.bottom() - 8
        x0, x1 = box.left() + 14, box.right() - 14
        theme = self._theme
        if self._threaded:
            path = QPainterPath(QPointF(2, y - 3))
            path.lineTo(x0 - 10, y - 3)
            path.cubicTo(x0 - 4, y - 3, x0 - 6, y + 2, x0, y + 2)
            path.moveTo(x1, y + 2)
            path.cubicTo(x1 + 6, y + 2, x1 + 4, y - 3, x1 + 10, y - 3)
            path.lineTo(boxes[-1].right() - 2, y - 3)
            painter.setPen(QPen(theme.colour("thread"), 2))
            painter.drawPath(path)
            y += 2
        colour = theme.colour("chosen" if self.hasFocus() or not self._threaded else "ink")
        painter.setPen(QPen(colour, 4 if not self.hasFocus() else 5, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap))
        painter.drawLine(QPointF(x0, y), QPointF(x1, y))

    def _pick(self, index: int) -> None:
        if 0 <= index < len(self._names):
            self.picked.emit(index)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        for i, box in enumerate(self.boxes()):
            if box.contains(event.position()):
                self._pick(i)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        many = len(self._names)
        moves = {
            Qt.Key.Key_Left: self._chosen - 1,
            Qt.Key.Key_Right: self._chosen + 1,
            Qt.Key.Key_Home: 0,
            Qt.Key.Key_End: many - 1,
        }
        if event.key() in moves:
            self._pick(moves[Qt.Key(event.key())])
            return
        super().keyPressEvent(event)
