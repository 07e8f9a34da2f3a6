"""A part danced over and over against its phrase, drawn until it comes round."""

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QFont, QPainter, QPen
from PySide6.QtWidgets import QWidget

from firn.core.reading.rounds import Rounds, rounds
from firn.core.script.combo_item import ordinal
from firn.session.rhythm import rounds_said
from firn.ui.pages.read.face import PaintedFace
from firn.ui.theme.theme import Theme

AGAINST = (0, -1, 6, 8, 12)
"""What a part is laid against: its phrase, its bar (-1), or so many counts."""

SIDE, TOP = 16.0, 26.0
MOST_ROWS = 12


class RoundsFace(PaintedFace):
    """A row for each phrase; a thread for each time, from the count it begins on to the one it ends on."""

    title = "Round"

    def __init__(self, theme: Theme, parent: QWidget | None = None) -> None:
        self._against = AGAINST[0]
        super().__init__(theme, parent)

    @property
    def shown(self) -> Rounds | None:
        """What is drawn."""
        part = self.part
        if part is None:
            return None
        bar = part.settings.counting.meter.counts
        return rounds(part, bar if self._against == -1 else self._against)

    def next_way(self) -> None:
        """Lay it against something else."""
        self._against = AGAINST[(AGAINST.index(self._against) + 1) % len(AGAINST)]
        self.renew()

    def renew(self) -> None:
        shown = self.shown
        named = {0: "its phrase", -1: "its bar"}.get(self._against, f"{self._against} counts")
        self._by("Danced over and over against", named)
        self._tell(rounds_said(shown) if shown is not None else "")
        self.update()

    def paint(self, painter: QPainter, field: QRectF) -> None:
        shown = self.shown
        if shown is not None:
            self._paint(painter, shown, field.adjusted(self._theme.px(SIDE), 0, -self._theme.px(SIDE), 0))

    def _paint(self, painter: QPainter, shown: Rounds, field: QRectF) -> None:
        theme, top = self._theme, self._theme.px(TOP)
        counts = shown.phrase
        rows = min(MOST_ROWS, -(-(shown.first + shown.all) // counts) + bool(shown.first == 0))
        wide = field.width() / counts
        high = min(theme.px(44), (field.height() - top) / max(1, rows))
        painter.setFont(theme.font(14))
        # So many counts that their numbers would touch: only some of them.
        every = max(1, -(-theme.px(22) // max(1, int(wide))))
        for count in range(counts):
            x = field.left() + (count + 0.5) * wide
            painter.setPen(theme.colour("ink" if count == shown.first else "quiet"))
            if count % every == 0 or count == shown.first:
                painter.drawText(
                    QRectF(x - top, field.top(), 2 * top, top - 4), Qt.AlignmentFlag.AlignCenter, str(count + 1)
                )
            painter.setPen(QPen(theme.colour("hairline"), 2 if count == shown.first else 1))
            painter.drawLine(QPointF(x, field.top() + top), QPointF(x, field.top() + top + rows * high))
        for time in range(shown.times + 1):
            self._time(painter, shown, time, rows, QRectF(field.left(), field.top() + top, wide, high))

    def _time(self, painter: QPainter, shown: Rounds, time: int, rows: int, cell: QRectF) -> None:
        """One time through: a thread from cell to cell, with its number; past the last, that it is round."""
        theme = self._theme
        start = shown.first + time * shown.counts
        again = time == shown.times
        length = 0 if again else shown.counts
        done = 0
        role = "ink" if time % 2 == 0 else "thread"
        while done < length:
            row, column = divmod(start + done, shown.phrase)
            if row >= rows:
                return
            run = min(length - done, shown.phrase - column)
            y = cell.top() + (row + 0.62) * cell.height()
            left = cell.left() + (column + (0.5 if not done else 0.0)) * cell.width()
            right = cell.left() + (column + run - (0.18 if done + run == length else 0.0)) * cell.width()
            painter.setPen(QPen(theme.colour(role), 5, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap))
            painter.drawLine(QPointF(left, y), QPointF(right, y))
            done += run
        row, column = divmod(start, shown.phrase)
        if row >= rows:
            return
        x, y = cell.left() + (column + 0.5) * cell.width(), cell.top() + (row + 0.62) * cell.height()
        painter.setFont(theme.font(14, QFont.Weight.DemiBold))
        painter.setPen(theme.colour("chosen" if again else "ink"))
        if again:
            painter.setPen(QPen(theme.colour("chosen"), 3))
            painter.drawLine(QPointF(x, y - 8), QPointF(x, y + 8))
        box = QRectF(x + (8 if again else 2), y - theme.px(24), theme.px(160), theme.px(20))
        left = int(Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter)
        painter.drawText(box, left, "round" if again else ordinal(time + 1))
