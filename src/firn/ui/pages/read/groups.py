"""Groups that enter in turn: a thread for each, from the count on which it enters."""

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPen
from PySide6.QtWidgets import QWidget

from firn.core.reading.rounds import Groups, RoundKind, groups
from firn.session.rhythm import groups_said
from firn.ui.pages.read.face import PaintedFace
from firn.ui.theme.theme import Theme

WAYS: tuple[tuple[int, RoundKind], ...] = (
    (2, "canon"), (3, "canon"), (4, "canon"), (2, "relay"), (3, "relay"), (4, "relay"), (2, "follow"),
)  # fmt: skip
"""How many groups, and how they enter."""

LEFT, TOP = 24.0, 26.0


class GroupsFace(PaintedFace):
    """Threads that begin one after the other; a time through ends where the thread has a gap."""

    title = "Groups"

    def __init__(self, theme: Theme, parent: QWidget | None = None) -> None:
        self._way = 2
        super().__init__(theme, parent)

    @property
    def shown(self) -> Groups | None:
        """What is drawn."""
        return groups(self.part, *WAYS[self._way]) if self.part is not None else None

    def next_way(self) -> None:
        """Another number of groups, in canon or in relay; or a lead and a follow."""
        self._way = (self._way + 1) % len(WAYS)
        self.renew()

    def renew(self) -> None:
        many, entry = WAYS[self._way]
        self._by("Entering in turn:", "lead and follow" if entry == "follow" else f"{many} in {entry}")
        shown = self.shown
        self._tell(groups_said(shown) if shown is not None else "")
        self.update()

    def paint(self, painter: QPainter, field: QRectF) -> None:
        shown = self.shown
        if shown is not None:
            self._paint(painter, shown, field.adjusted(self._theme.px(LEFT), 0, -8, 0))

    def _paint(self, painter: QPainter, shown: Groups, field: QRectF) -> None:
        theme, top = self._theme, self._theme.px(TOP)
        # In canon a phrase more than it takes until all dance.
        whole = max(shown.all, shown.enters[-1] + 2 * shown.phrase) if shown.entry == "canon" else shown.all
        wide = field.width() / whole
        high = min(theme.px(44), (field.height() - top) / shown.many)
        painter.setFont(theme.font(14))
        for count in range(0, whole, shown.apart if shown.entry == "follow" else shown.phrase):
            x = field.left() + count * wide
            together = count == shown.together
            painter.setPen(theme.colour("chosen" if together else "quiet"))
            said = f"{count + 1} all" if together else str(count + 1)
            painter.drawText(QRectF(x, field.top(), theme.px(90), top - 4), int(Qt.AlignmentFlag.AlignLeft), said)
            painter.setPen(QPen(theme.colour("chosen" if together else "hairline"), 2 if together else 1))
            painter.drawLine(QPointF(x, field.top() + top), QPointF(x, field.top() + top + shown.many * high))
        for number, enters in enumerate(shown.enters):
            y = field.top() + top + (number + 0.5) * high
            painter.setPen(theme.colour("ink"))
            middle = int(Qt.AlignmentFlag.AlignVCenter)
            painter.drawText(QRectF(0, y - theme.px(11), field.left() - 4, theme.px(22)), middle, str(number + 1))
            painter.setPen(QPen(theme.colour("ink"), 5, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap))
            begin = enters
            while begin < whole and (shown.entry == "canon" or begin == enters):
                end = min(begin + shown.counts, whole)
                x0, x1 = field.left() + begin * wide, field.left() + end * wide
                painter.drawLine(QPointF(x0 + 3, y), QPointF(max(x0 + 4, x1 - 5), y))
                begin += shown.counts
