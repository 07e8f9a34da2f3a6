"""The best clean tempo of a step over time, right and left, with every time that it was danced."""

from collections.abc import Sequence

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QFont, QFontMetricsF, QPainter, QPaintEvent, QPen, QPolygonF
from PySide6.QtWidgets import QWidget

from firn.core.book.log import Best, LogEntry
from firn.ui.theme.theme import Theme
from firn.ui.widgets.tempos.layout import ChartLayout, Dot, lay_out

TITLE = "counts a minute; filled marks were clean"
ROLES = {"right": "right", "left": "left", "": "ink"}


def described(bests: Sequence[Best], entries: Sequence[LogEntry]) -> str:
    """The chart in words, for a screen reader."""
    if not entries:
        return "Nothing danced yet."
    said = []
    for best in bests:
        side = f"{best.side} foot first" if best.side else "no side said"
        since = f" since {best.rises[-1][0][:10]}"
        said.append(f"{side}: clean at {best.tempo:g} counts a minute{since}, from {best.rises[0][1]:g}")
    return f"{len(entries)} times danced. " + ("; ".join(said) + "." if said else "None of them clean yet.")


class TempoChart(QWidget):
    """Draws entries of one step as marks (filled where clean) and its best clean tempos as rising lines."""

    def __init__(self, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._theme = theme
        self._entries: tuple[LogEntry, ...] = ()
        self._bests: tuple[Best, ...] = ()
        self.setAccessibleName("Tempos over time")
        self.setMinimumSize(320, 170)
        theme.changed.connect(self.update)

    def sizeHint(self) -> QSize:
        return QSize(720, 300)

    def show_step(self, entries: Sequence[LogEntry], bests: Sequence[Best]) -> None:
        """Show the entries of a step and its best clean tempos."""
        self._entries, self._bests = tuple(entries), tuple(bests)
        self.setAccessibleDescription(described(bests, entries))
        self.update()

    @property
    def chart_layout(self) -> ChartLayout:
        metrics = QFontMetricsF(self._theme.font(14))
        return lay_out(
            self._entries,
            self._bests,
            self.width(),
            self.height(),
            metrics.horizontalAdvance,
            self._theme.percent / 100,
        )

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        theme, laid, px = self._theme, self.chart_layout, self._theme.px
        painter.fillRect(self.rect(), theme.colour("paper"))
        if not self._entries:
            return
        self._paint_scale(painter, laid)
        for rise in laid.rises:
            pen = QPen(theme.colour(ROLES[rise.side]), 3)
            if rise.side == "left":
                pen.setDashPattern([3.0, 1.4])
            painter.setPen(pen)
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawPolyline(QPolygonF(list(rise.corners)))
            painter.setFont(theme.font(16, QFont.Weight.DemiBold))
            painter.setPen(theme.colour(ROLES[rise.side]))
            box = QRectF(rise.text_at.x(), rise.text_at.y() - px(14), px(90), px(28))
            painter.drawText(box, int(Qt.AlignmentFlag.AlignVCenter), rise.text)
        for dot in laid.dots:
            self._paint_dot(painter, dot)

    def _paint_scale(self, painter: QPainter, laid: ChartLayout) -> None:
        theme, field, px = self._theme, laid.field, self._theme.px
        painter.setFont(theme.font(14))
        for y, text in laid.tempos:
            painter.setPen(QPen(theme.colour("hairline"), 1))
            painter.drawLine(QPointF(field.left(), y), QPointF(field.right(), y))
            painter.setPen(theme.colour("quiet"))
            right = int(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
            painter.drawText(QRectF(0, y - px(12), field.left() - 10, px(24)), right, text)
        for x, text in laid.days:
            painter.setPen(QPen(theme.colour("hairline"), 1))
            painter.drawLine(QPointF(x, field.bottom()), QPointF(x, field.bottom() + 5))
            painter.setPen(theme.colour("quiet"))
            painter.drawText(QRectF(x, field.bottom() + 6, px(120), px(24)), int(Qt.AlignmentFlag.AlignLeft), text)
        painter.setPen(theme.colour("quiet"))
        room = QRectF(field.left(), 0, self.width() - field.left(), px(22))
        fits = QFontMetricsF(painter.font()).horizontalAdvance(TITLE) <= room.width()
        painter.drawText(room, TITLE if fits else TITLE.split(";")[0])

    def _paint_dot(self, painter: QPainter, dot: Dot) -> None:
        """A mark: filled where clean, open where not; a square for the right foot, a disc for the left."""
        theme, entry = self._theme, dot.entry
        colour = theme.colour(ROLES[entry.side])
        painter.setPen(QPen(colour, 2))
        painter.setBrush(colour if entry.clean else theme.colour("paper"))
        if entry.side == "right":
            painter.drawRect(QRectF(dot.at.x() - 5, dot.at.y() - 5, 10, 10))
        else:
            painter.drawEllipse(dot.at, 5.5, 5.5)
