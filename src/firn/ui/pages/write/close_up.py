"""The sound of a clip from near: a fifth of a second about where a sound begins."""

from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent, QPen, QPolygonF
from PySide6.QtWidgets import QWidget

from firn.ui.theme.theme import Theme

if TYPE_CHECKING:
    from firn.session.clips import CloseUp

HIGH = 58
LABEL = 18
"""How high it is, and its figures below, in pixels at usual text size."""

EVERY_MS = 20


class CloseUpView(QWidget):
    """How loud it is, millisecond by millisecond, about the beginning of a sound, which is where the line stands."""

    def __init__(self, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._theme = theme
        self._levels: tuple[float, ...] = ()
        self.setAccessibleName("The sound from near")
        self.hide()

    @property
    def levels(self) -> tuple[float, ...]:
        """What is on show, 0 to 1 for each millisecond."""
        return self._levels

    def show_levels(self, close_up: "CloseUp | None") -> None:
        """Show a sound from near; None for none."""
        self._levels = close_up.levels if close_up is not None else ()
        self.setVisible(bool(self._levels))
        self.update()

    def sizeHint(self) -> QSize:
        return QSize(200, self._theme.px(HIGH))

    def minimumSizeHint(self) -> QSize:
        return self.sizeHint()

    def paintEvent(self, event: QPaintEvent) -> None:
        from firn.session.clips import NEAR_FROM_S

        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        room = QRectF(self.rect()).adjusted(0, 0, 0, -self._theme.px(LABEL))
        painter.fillRect(room, self._theme.colour("band"))
        many = len(self._levels)
        if not many:
            return
        step, high = room.width() / many, room.height() - 3
        hill = [
            QPointF(room.left() + step * (n + 0.5), room.bottom() - high * level)
            for n, level in enumerate(self._levels)
        ]
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(self._theme.colour("quiet"))
        painter.drawPolygon(QPolygonF([room.bottomLeft(), *hill, room.bottomRight()]))
        first_ms = round(1000 * NEAR_FROM_S)
        begin = room.left() - step * first_ms
        painter.setPen(QPen(self._theme.colour("chosen"), 2))
        painter.drawLine(QPointF(begin, room.top()), QPointF(begin, room.bottom()))
        painter.setFont(self._theme.font(12))
        for ms in range(first_ms, first_ms + many + 1, EVERY_MS):
            at = room.left() + step * (ms - first_ms)
            painter.setPen(self._theme.colour("ink" if ms == 0 else "quiet"))
            painter.drawLine(QPointF(at, room.bottom()), QPointF(at, room.bottom() + 3))
            if ms % (2 * EVERY_MS) == 0:
                said = "begins" if ms == 0 else f"{ms} ms"
                box = QRectF(at - 40, room.bottom() + 3, 80, self._theme.px(LABEL) - 3)
                box.moveLeft(min(max(box.left(), room.left() - 20), room.right() - 60))
                painter.drawText(box, int(Qt.AlignmentFlag.AlignCenter), said)
