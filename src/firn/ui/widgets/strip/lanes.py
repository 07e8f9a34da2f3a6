"""Painting the lanes of the layers under the counts: words that are done in silence, the pulse, syllables."""

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QFont, QFontMetricsF, QPainter, QPainterPath, QPen

from firn.ui.theme.theme import Theme
from firn.ui.widgets.strip.geometry import LANE, Frame, Spot, StripRow, layer_y

_LEFT = int(Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft)
_CENTRE = int(Qt.AlignmentFlag.AlignCenter)


def paint_lanes(painter: QPainter, theme: Theme, frame: Frame, row: StripRow) -> None:
    """Paint the lanes of a row, each with its name at the edge."""
    high = LANE * frame.scale
    painter.setFont(theme.font(13))
    for lane, name in enumerate(frame.lanes):
        y = layer_y(frame, row.top, lane)
        painter.setPen(QPen(theme.colour("hairline"), 1))
        painter.drawLine(QPointF(0, y - high / 2), QPointF(frame.width, y - high / 2))
        painter.setPen(theme.colour("quiet"))
        painter.drawText(QRectF(6, y - high / 2, 64 * frame.scale, high), _LEFT, name)
    following: dict[int, float] = {}
    for spot in reversed(row.spots):
        # Words end before the next ones in their lane.
        _spot(painter, theme, frame, row, spot, following.get(spot.lane, frame.width - 6))
        following[spot.lane] = spot.x


def _spot(painter: QPainter, theme: Theme, frame: Frame, row: StripRow, spot: Spot, end: float) -> None:
    y, high = layer_y(frame, row.top, spot.lane), LANE * frame.scale
    if spot.way:
        painter.setPen(QPen(theme.colour("ink"), 1.8, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        deep = 4.0 if spot.way == "down" else -4.0
        path = QPainterPath(QPointF(spot.x - 7, y - deep))
        path.quadTo(QPointF(spot.x, y + 2.5 * deep), QPointF(spot.x + 7, y - deep))
        painter.drawPath(path)
        return
    painter.setPen(theme.colour("ink"))
    if frame.lanes[spot.lane] == "scat":
        painter.setFont(theme.font(15, QFont.Weight.Medium))
        painter.drawText(QRectF(spot.x - 60, y - high / 2, 120, high), _CENTRE, spot.text)
        return
    font = theme.font(15)
    painter.setFont(font)
    room = max(12.0, end - spot.x - 6)
    text = QFontMetricsF(font).elidedText(spot.text, Qt.TextElideMode.ElideRight, room)
    painter.drawText(QRectF(spot.x - 4, y - high / 2, room + 4, high), _LEFT, text)
    painter.setPen(QPen(theme.colour("quiet"), 1.4))
    reach = QFontMetricsF(font).horizontalAdvance(text) + spot.x + 2
    if spot.x1 > reach:
        painter.drawLine(QPointF(reach, y), QPointF(spot.x1, y))
        painter.drawLine(QPointF(spot.x1, y - 4), QPointF(spot.x1, y + 4))
    if spot.aim is not None and spot.aim > reach:
        painter.setPen(QPen(theme.colour("quiet"), 1.4, Qt.PenStyle.DotLine))
        painter.drawLine(QPointF(reach, y), QPointF(spot.aim - 4, y))
        painter.setBrush(theme.colour("ink"))
        painter.setPen(Qt.PenStyle.NoPen)
        painter.drawEllipse(QPointF(spot.aim, y), 3.4, 3.4)
