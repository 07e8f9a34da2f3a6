"""How thick a part is, count by count: sounds a count and sounds a second, and its tightest places."""

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPen, QPolygonF

from firn.core.reading.rounds import Pace, pace
from firn.session.rhythm import pace_said
from firn.ui.pages.read.face import PaintedFace

LEFT, RIGHT, TOP, FOOT = 44.0, 52.0, 36.0, 26.0


class PaceFace(PaintedFace):
    """A curve of sounds a count, with the scale of sounds a second at the tempo on its other side."""

    title = "Pace"

    @property
    def shown(self) -> Pace | None:
        """What is drawn."""
        return pace(self.part) if self.part is not None else None

    def renew(self) -> None:
        self._by("", "")
        self._tell(pace_said(self.part, self._tempo) if self.part is not None else "")
        self.update()

    def paint(self, painter: QPainter, field: QRectF) -> None:
        shown = self.shown
        if shown is not None:
            px = self._theme.px
            inside = field.adjusted(px(LEFT), px(TOP), -px(RIGHT), -px(FOOT))
            self._scales(painter, shown, inside)
            self._curve(painter, shown, inside)

    def _scales(self, painter: QPainter, shown: Pace, field: QRectF) -> None:
        theme, most, px = self._theme, max(shown.sounds), self._theme.px
        painter.setFont(theme.font(14))
        painter.setPen(theme.colour("quiet"))
        painter.drawText(
            QRectF(0, field.top() - px(TOP), field.center().x(), px(22)),
            int(Qt.AlignmentFlag.AlignLeft),
            "sounds a count",
        )
        right = int(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
        said = f"a second at {self._tempo:g}"
        painter.drawText(
            QRectF(field.center().x(), field.top() - px(TOP), self.width() - field.center().x(), px(22)), right, said
        )
        for many in range(most + 1):
            y = field.bottom() - many * field.height() / most
            painter.setPen(QPen(theme.colour("hairline"), 1))
            painter.drawLine(QPointF(field.left(), y), QPointF(field.right(), y))
            painter.setPen(theme.colour("quiet"))
            painter.drawText(QRectF(0, y - px(11), field.left() - 8, px(22)), right, str(many))
            rate = f"{many * self._tempo / 60:.1f}"
            painter.drawText(
                QRectF(field.right() + 8, y - px(11), px(RIGHT) - 8, px(22)), int(Qt.AlignmentFlag.AlignVCenter), rate
            )

    def _curve(self, painter: QPainter, shown: Pace, field: QRectF) -> None:
        theme, part = self._theme, self.part
        assert part is not None
        wide = field.width() / len(shown.sounds)
        most = max(shown.sounds)
        corners = []
        counting = part.settings.counting
        every = max(1, -(-theme.px(24) // max(1, int(wide))))
        for number, many in enumerate(shown.sounds):
            x = field.left() + number * wide
            y = field.bottom() - many * field.height() / most
            corners += [QPointF(x, y), QPointF(x + wide, y)]
            count = shown.first + number
            if number % every == 0:
                said = str((count % counting.phrase) + 1)
                painter.setPen(theme.colour("ink" if count % counting.phrase == 0 else "quiet"))
                painter.drawText(
                    QRectF(x, field.bottom() + 4, max(wide, theme.px(24)), theme.px(20)),
                    int(Qt.AlignmentFlag.AlignLeft),
                    said,
                )
        painter.setPen(QPen(theme.colour("ink"), 3, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap))
        painter.drawPolyline(QPolygonF(corners))
