"""The stages of a drill strung on the thread, six in a row, to be walked, moved and left out."""

from collections.abc import Sequence

from msgspec import Struct
from PySide6.QtCore import QEvent, QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import (
    QFont,
    QFontMetricsF,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPainterPath,
    QPaintEvent,
    QPen,
    QResizeEvent,
)
from PySide6.QtWidgets import QSizePolicy, QWidget

from firn.ui.theme.theme import Theme

IN_A_ROW = 6
ROW_PX, LOW_PX, SWING_PX, LEAST_PX = 96, 30, 26, 195
"""The height of a row, how far its two lanes are apart, how long the thread takes from one to the other, and the
least room that a stage has."""

_KEYS: dict[tuple[Qt.Key, Qt.KeyboardModifier], str] = {
    (Qt.Key.Key_Left, Qt.KeyboardModifier.AltModifier): "earlier",
    (Qt.Key.Key_Right, Qt.KeyboardModifier.AltModifier): "later",
    (Qt.Key.Key_Insert, Qt.KeyboardModifier.NoModifier): "put_in",
    (Qt.Key.Key_Delete, Qt.KeyboardModifier.NoModifier): "leave_out",
    (Qt.Key.Key_Return, Qt.KeyboardModifier.NoModifier): "run",
    (Qt.Key.Key_Enter, Qt.KeyboardModifier.NoModifier): "run",
}
_WALKED = (Qt.Key.Key_Left, Qt.Key.Key_Right, Qt.Key.Key_Home, Qt.Key.Key_End)


class StageShown(Struct, frozen=True):
    """A stage on the thread: its name, what is said below it, and whether it can be danced."""

    title: str
    more: str
    fits: bool = True


class Stages(QWidget):
    """Shows stages. `walked`: the stage that the keys stand on; `asked`: what is wanted of it."""

    walked = Signal(int)
    asked = Signal(str)

    def __init__(self, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._theme = theme
        self.stages: tuple[StageShown, ...] = ()
        self.current = 0
        self._done = 0
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setAccessibleName("Stages of the drill")
        theme.changed.connect(self._resize)

    def show_stages(self, stages: Sequence[StageShown], *, done: int = 0) -> None:
        """Show these, so many of them danced; the one stood on stays."""
        self.stages, self._done = tuple(stages), done
        self.current = max(0, min(self.current, len(self.stages) - 1))
        self._resize()
        self._tell()

    def stand_on(self, index: int) -> None:
        """Stand on a stage."""
        self.current = max(0, min(index, len(self.stages) - 1))
        self._tell()
        self.update()

    def _tell(self) -> None:
        one = self.stages[self.current] if self.stages else None
        self.setAccessibleDescription(f"{one.title}, {one.more}" if one is not None else "")

    @property
    def _in_a_row(self) -> int:
        """How many stand in a row: as many as have room for their names, the rows about as long as each other."""
        most = max(1, min(IN_A_ROW, int((self.width() - 48) // self._theme.px(LEAST_PX))))
        rows = max(1, -(-len(self.stages) // most))
        return max(1, -(-len(self.stages) // rows))

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self._resize()

    def _resize(self) -> None:
        rows = -(-len(self.stages) // self._in_a_row)
        self.setFixedHeight(max(1, rows) * self._theme.px(ROW_PX))
        self.update()

    def sizeHint(self) -> QSize:
        return QSize(900, self.minimumHeight())

    def boxes(self) -> list[QRectF]:
        """Where each stage stands."""
        most = self._in_a_row
        many = min(most, max(3, len(self.stages)))
        wide, high = (self.width() - 48) / many, self._theme.px(ROW_PX)
        return [QRectF(24 + n % most * wide, n // most * high, wide, high) for n in range(len(self.stages))]

    # Painting

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        for number, (one, box) in enumerate(zip(self.stages, self.boxes(), strict=True)):
            self._thread(painter, number, box)
            self._label(painter, number, one, box)
        if self.hasFocus():
            painter.fillRect(0, 0, 4, self.height(), self._theme.colour("chosen"))
        painter.end()

    def _lane(self, number: int, box: QRectF) -> float:
        """The y of a stage's thread: one above, the next below."""
        middle = box.center().y() + self._theme.px(2)
        half = self._theme.px(LOW_PX) / 2
        return middle + (half if number % 2 else -half)

    def _thread(self, painter: QPainter, number: int, box: QRectF) -> None:
        theme, y = self._theme, self._lane(number, box)
        begins = number % self._in_a_row == 0
        swing = theme.px(SWING_PX)
        path = QPainterPath(QPointF(box.left(), y if begins else self._lane(number - 1, box)))
        if not begins:
            x = box.left() + swing
            middle = box.left() + swing / 2
            path.cubicTo(QPointF(middle, path.currentPosition().y()), QPointF(middle, y), QPointF(x, y))
        path.lineTo(QPointF(box.right(), y))
        chosen = number == self.current
        role = "chosen" if chosen else "ink" if number < self._done else "thread"
        pen = QPen(theme.colour(role), 7 if chosen else 5)
        pen.setCapStyle(Qt.PenCapStyle.RoundCap)
        painter.setPen(pen)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPath(path)

    def _label(self, painter: QPainter, number: int, one: StageShown, box: QRectF) -> None:
        """The name over the thread, or under it where that lies low."""
        theme, y = self._theme, self._lane(number, box)
        high = theme.px(22)
        left = box.left() + (theme.px(SWING_PX) if number % self._in_a_row else 0)
        top = y + theme.px(7) if number % 2 else y - theme.px(9) - high
        room = QRectF(left, top, box.right() - left - theme.px(10), high)
        strong, light = theme.font(16, QFont.Weight.DemiBold), theme.font(14)
        wide = QFontMetricsF(light).horizontalAdvance(one.more) + theme.px(8)
        role = "bad" if not one.fits else "chosen" if number == self.current else "ink"
        painter.setFont(strong)
        painter.setPen(theme.colour(role))
        name = QFontMetricsF(strong).elidedText(one.title, Qt.TextElideMode.ElideRight, room.width() - wide)
        middle = int(Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter)
        painter.drawText(room, middle, name)
        used = QFontMetricsF(strong).horizontalAdvance(name) + theme.px(8)
        painter.setFont(light)
        painter.setPen(theme.colour("quiet"))
        painter.drawText(room.adjusted(used, 0, theme.px(10), 0), middle, one.more)

    # Keys and mouse

    def event(self, event: QEvent) -> bool:
        if event.type() == QEvent.Type.ShortcutOverride and isinstance(event, QKeyEvent):
            plain = event.modifiers() & ~Qt.KeyboardModifier.KeypadModifier
            walks = event.key() in _WALKED and plain == Qt.KeyboardModifier.NoModifier
            if walks or (Qt.Key(event.key()), plain) in _KEYS:
                event.accept()
                return True
        return super().event(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key, plain = Qt.Key(event.key()), event.modifiers() & ~Qt.KeyboardModifier.KeypadModifier
        asked = _KEYS.get((key, plain))
        last = len(self.stages) - 1
        to = {
            Qt.Key.Key_Left: self.current - 1,
            Qt.Key.Key_Right: self.current + 1,
            Qt.Key.Key_Home: 0,
            Qt.Key.Key_End: last,
        }
        if not self.stages:
            super().keyPressEvent(event)
        elif asked is not None:
            self.asked.emit(asked)
        elif key in to and plain == Qt.KeyboardModifier.NoModifier:
            self.stand_on(to[key])
            self.walked.emit(self.current)
        else:
            super().keyPressEvent(event)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        at = next((n for n, box in enumerate(self.boxes()) if box.contains(event.position())), None)
        if at is not None:
            self.stand_on(at)
            self.walked.emit(at)

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        if self.stages:
            self.asked.emit("run")
