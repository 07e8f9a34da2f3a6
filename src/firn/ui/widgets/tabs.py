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
    QWheelEvent,
)
from PySide6.QtWidgets import QSizePolicy, QWidget

from firn.ui.theme.theme import Theme

LEAST_PX, EDGE_PX = 220, 26


class ThreadTabs(QWidget):
    """A row of names, one of them chosen; `threaded` draws the thread that dips under the chosen one.

    Arrow keys and the wheel walk, Home and End jump. Emits `picked` with the index. Where there is no room for all
    names, those around the chosen one are shown, between marks that say that there are more.
    """

    picked = Signal(int)

    def __init__(self, theme: Theme, name: str, *, threaded: bool, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._theme, self._threaded = theme, threaded
        self._names: tuple[str, ...] = ()
        self._chosen = 0
        self.setAccessibleName(name)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        across = QSizePolicy.Policy.Fixed if threaded else QSizePolicy.Policy.Maximum
        self.setSizePolicy(across, QSizePolicy.Policy.Fixed)
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
        if x <= self.width() + 1 or not 0 <= self._chosen < len(boxes):
            return boxes
        # The chosen one in the middle, as far as the ends allow.
        middle = boxes[self._chosen].center().x() - self.width() / 2
        shift = min(max(0.0, middle), x - self.width())
        return [box.translated(-shift, 0) for box in boxes]

    def sizeHint(self) -> QSize:
        metrics = QFontMetricsF(self._font(True))
        width = sum(max(44.0, metrics.horizontalAdvance(name) + 28) for name in self._names)
        return QSize(int(width) + 2 if self._names else 44, self._theme.px(44))

    def minimumSizeHint(self) -> QSize:
        wanted = self.sizeHint()
        return wanted if self._threaded else wanted.boundedTo(QSize(self._theme.px(LEAST_PX), wanted.height()))

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
        self._more(painter, boxes)
        painter.end()

    def _more(self, painter: QPainter, boxes: list[QRectF]) -> None:
        """A mark at an end beyond which there are more names."""
        theme, middle = self._theme, self.height() / 2 - 3
        painter.setFont(self._font(True))
        for at, cut, mark in (
            (0.0, bool(boxes) and boxes[0].left() < -1, "‹"),
            (self.width() - EDGE_PX, bool(boxes) and boxes[-1].right() > self.width() + 1, "›"),
        ):
            if cut:
                painter.fillRect(QRectF(at, 0, EDGE_PX, self.height()), theme.colour("paper"))
                painter.setPen(theme.colour("ink"))
                painter.drawText(QRectF(at, middle - 16, EDGE_PX, 32), Qt.AlignmentFlag.AlignCenter, mark)

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
        boxes, x = self.boxes(), event.position().x()
        if boxes and boxes[0].left() < -1 and x < EDGE_PX:
            self._pick(self._chosen - 1)
        elif boxes and boxes[-1].right() > self.width() + 1 and x > self.width() - EDGE_PX:
            self._pick(self._chosen + 1)
        else:
            self._pick(next((i for i, box in enumerate(boxes) if box.contains(event.position())), -1))

    def wheelEvent(self, event: QWheelEvent) -> None:
        self._pick(self._chosen + (-1 if event.angleDelta().y() > 0 else 1))

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
