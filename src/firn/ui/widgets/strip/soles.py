"""The sole: a small shoe sole, toe up, whose striking part is filled."""

import math
from functools import lru_cache

from msgspec import Struct
from PySide6.QtCore import QPointF, QRectF, QSizeF, Qt
from PySide6.QtGui import QColor, QPainter, QPainterPath, QPen, QPixmap, QTransform

from firn.core.steps.sole import CURVES, HEIGHT, START, STRUCK, WIDTH

EDGE = 2.0
MOST_SCALE = 4.0


@lru_cache(maxsize=2)
def sole_path(left: bool) -> QPainterPath:
    """A sole's outline in a box of `WIDTH` by `HEIGHT`, its inner edge to the right for a left foot."""
    path = QPainterPath(QPointF(*START))
    for curve in CURVES:
        path.cubicTo(*curve)
    path.closeSubpath()
    if left:
        return path
    mirrored = QPainterPath()
    mirrored.addPath(QTransform(-1, 0, 0, 1, WIDTH, 0).map(path))
    return mirrored


class Look(Struct, frozen=True):
    """How a sole is painted: left or right, the part that strikes as in Kind ("none" for a move without sound),
    its colours as #rrggbb, and whether its outline is dashed."""

    left: bool
    part: str
    colour: str
    paper: str
    dashed: bool = False


def paint_sole(painter: QPainter, box: QRectF, look: Look) -> None:
    """Paint a sole into a box."""
    # As sharp as it is seen: on paper and in films it is drawn larger.
    ratio = painter.device().devicePixelRatioF() * min(MOST_SCALE, max(1.0, painter.worldTransform().m11()))
    picture = _picture(look, round(box.width(), 1), round(box.height(), 1), ratio)
    painter.drawPixmap(box.topLeft() - QPointF(EDGE, EDGE), picture)


@lru_cache(maxsize=256)
def _picture(look: Look, width: float, height: float, ratio: float) -> QPixmap:
    """A sole as a picture with a border of `EDGE` px; kept, since a strip has hundreds of a few looks."""
    size = QSizeF(width + 2 * EDGE, height + 2 * EDGE) * ratio
    picture = QPixmap(math.ceil(size.width()), math.ceil(size.height()))
    picture.setDevicePixelRatio(ratio)
    picture.fill(Qt.GlobalColor.transparent)
    painter = QPainter(picture)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.translate(EDGE, EDGE)
    painter.scale(width / WIDTH, height / HEIGHT)
    _draw(painter, look)
    painter.end()
    return picture


def _draw(painter: QPainter, look: Look) -> None:
    path = sole_path(look.left)
    painter.setBrush(QColor(look.paper))
    painter.setPen(Qt.PenStyle.NoPen)
    painter.drawPath(path)
    if look.part in STRUCK and not look.dashed:
        first, last = STRUCK[look.part]
        high = (last - first) * HEIGHT + (2 if first == 0 else 4)
        painter.save()
        painter.setClipRect(QRectF(-2, first * HEIGHT - 2, WIDTH + 4, high))
        painter.setBrush(QColor(look.colour))
        painter.drawPath(path)
        painter.restore()
    pen = QPen(QColor(look.colour), 1.5)
    if look.dashed:
        pen.setStyle(Qt.PenStyle.CustomDashLine)
        pen.setDashPattern([2.2, 1.6])
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.setPen(pen)
    painter.drawPath(path)
