"""The sole: a small shoe sole, toe up, whose striking part is filled."""

from functools import lru_cache

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPainterPath, QPen, QTransform

WIDTH, HEIGHT = 22.0, 42.0

# Where each part begins and ends, as shares of the sole's height from the toe down.
_PARTS = {
    "tip": (0.0, 0.24),
    "ball": (0.0, 0.55),
    "heel": (0.62, 1.0),
    "whole": (0.0, 1.0),
    "sole": (0.0, 1.0),
}


@lru_cache(maxsize=2)
def sole_path(left: bool) -> QPainterPath:
    """A sole's outline in a box of `WIDTH` by `HEIGHT`, its inner edge to the right for a left foot."""
    path = QPainterPath(QPointF(13.5, 0.2))
    path.cubicTo(18.6, 0.0, 21.6, 4.6, 21.3, 10.6)
    path.cubicTo(21.0, 15.6, 17.0, 18.6, 16.2, 23.4)
    path.cubicTo(15.7, 27.0, 18.0, 30.8, 17.8, 35.2)
    path.cubicTo(17.6, 39.8, 14.8, 42.0, 11.4, 42.0)
    path.cubicTo(7.6, 42.0, 5.0, 39.4, 5.0, 35.2)
    path.cubicTo(5.0, 31.0, 5.6, 27.6, 4.2, 23.6)
    path.cubicTo(2.6, 19.2, 0.4, 17.2, 0.7, 12.2)
    path.cubicTo(1.1, 6.2, 7.4, 0.6, 13.5, 0.2)
    path.closeSubpath()
    if left:
        return path
    mirrored = QPainterPath()
    mirrored.addPath(QTransform(-1, 0, 0, 1, WIDTH, 0).map(path))
    return mirrored


def paint_sole(
    painter: QPainter,
    box: QRectF,
    *,
    left: bool,
    part: str,
    colour: QColor,
    paper: QColor,
    outline: QColor | None = None,
    dashed: bool = False,
) -> None:
    """Paint a sole into a box; `part` as in Kind, "none" for a move without sound."""
    painter.save()
    painter.translate(box.topLeft())
    painter.scale(box.width() / WIDTH, box.height() / HEIGHT)
    path = sole_path(left)
    painter.setBrush(paper)
    pen = QPen(outline or colour, 1.5)
    if dashed:
        pen.setStyle(Qt.PenStyle.CustomDashLine)
        pen.setDashPattern([2.2, 1.6])
    painter.setPen(Qt.PenStyle.NoPen)
    painter.drawPath(path)
    if part in _PARTS and not dashed:
        first, last = _PARTS[part]
        painter.save()
        painter.setClipRect(
            QRectF(-2, first * HEIGHT - 2, WIDTH + 4, (last - first) * HEIGHT + (2 if first == 0 else 4))
        )
        painter.setBrush(colour)
        painter.drawPath(path)
        painter.restore()
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.setPen(pen)
    painter.drawPath(path)
    painter.restore()
