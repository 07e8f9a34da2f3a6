"""The transport: one spoken line, each value a target with its key."""

from collections.abc import Sequence

from msgspec.structs import replace
from PySide6.QtCore import QPointF, QRectF, QSize, Qt, QTimer, Signal
from PySide6.QtGui import (
    QFocusEvent,
    QFont,
    QFontMetricsF,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QWheelEvent,
)
from PySide6.QtWidgets import QSizePolicy, QWidget

from firn.session.transport import Value
from firn.ui.theme.theme import Theme

ASLEEP = "Esc, then these keys"

MODIFIERS = (Qt.Key.Key_Shift, Qt.Key.Key_Control, Qt.Key.Key_Alt, Qt.Key.Key_AltGr)

TYPED_MS = 900
"""So long after its last digit a number is all of it."""


class SpokenLine(QWidget):
    """Shows the values; emits `asked` with a value's name and a step (1 next, -1 back), or `numbered` with its name
    and the number that was typed for it.

    Left and Right walk the values, Up and Down (or Return) change the one stood on, digits give it a number.
    """

    asked = Signal(str, int)
    numbered = Signal(str, float)

    def __init__(self, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._theme = theme
        self._values: tuple[Value, ...] = ()
        self._at = 0
        self._asleep = False
        self._digits = ""
        self._typed = QTimer(self, singleShot=True, interval=TYPED_MS)
        self._typed.timeout.connect(self._number)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("How it is danced")
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        theme.changed.connect(self.updateGeometry)

    def show_values(self, values: Sequence[Value]) -> None:
        """Say these."""
        self._values = tuple(values)
        self.setAccessibleDescription(self.said)
        self.update()

    def set_asleep(self, asleep: bool) -> None:
        """Show that the keys do nothing now, since letters are typed into text; and how they would."""
        if asleep != self._asleep:
            self._asleep = asleep
            self.update()

    @property
    def asleep(self) -> bool:
        return self._asleep

    @property
    def said(self) -> str:
        """The whole line as one sentence."""
        return " ".join(f"{v.lead} {v.text}".strip() for v in self._values)

    def sizeHint(self) -> QSize:
        return QSize(600, self._theme.px(56))

    def minimumSizeHint(self) -> QSize:
        return QSize(300, self._theme.px(56))

    def _fonts(self) -> tuple[QFont, QFont, QFont]:
        """Fonts for values, words between and keys; smaller where the line would not fit."""
        size = self._theme.px(17)
        while True:
            bold, plain = self._theme.font(17, QFont.Weight.DemiBold), self._theme.font(17)
            bold.setPixelSize(size)
            plain.setPixelSize(size)
            if self._width(bold, plain) <= self.width() or size <= 13:
                break
            size -= 1
        keys = self._theme.font(13)
        keys.setPixelSize(max(13, min(keys.pixelSize(), size - 2)))
        return bold, plain, keys

    def _width(self, bold: QFont, plain: QFont) -> float:
        words, spaces = QFontMetricsF(plain), QFontMetricsF(bold)
        return sum(
            spaces.horizontalAdvance(v.text) + (words.horizontalAdvance(v.lead) + 6 if v.lead else 0) + 12
            for v in self._values
        )

    def boxes(self) -> list[QRectF]:
        """Each value's target, the height of the line."""
        bold, plain, _ = self._fonts()
        return self._boxes(bold, plain)

    @property
    def _shown(self) -> tuple[Value, ...]:
        """The values, one of them as it is typed so far."""
        if not self._digits:
            return self._values
        return tuple(replace(v, text=self._digits + "…") if i == self._at else v for i, v in enumerate(self._values))

    def _boxes(self, bold: QFont, plain: QFont) -> list[QRectF]:
        words, spaces = QFontMetricsF(plain), QFontMetricsF(bold)
        boxes, x = [], 2.0
        for value in self._shown:
            if value.lead:
                x += words.horizontalAdvance(value.lead) + 6
            width = spaces.horizontalAdvance(value.text)
            boxes.append(QRectF(x, 0, width, self.height()))
            x += width + 12
        return boxes

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        bold, plain, small = self._fonts()
        words = QFontMetricsF(plain)
        theme = self._theme
        middle = self.height() * 0.42
        boxes = self._boxes(bold, plain)
        for i, (value, box) in enumerate(zip(self._shown, boxes, strict=True)):
            if value.lead:
                painter.setFont(plain)
                painter.setPen(theme.colour("quiet"))
                painter.drawText(
                    QPointF(box.left() - words.horizontalAdvance(value.lead) - 6, middle + 6), value.lead
                )
            on = self.hasFocus() and i == self._at
            if on:
                painter.setPen(Qt.PenStyle.NoPen)
                painter.setBrush(theme.colour("chosen_wash"))
                painter.drawRoundedRect(box.adjusted(-5, 2, 5, -2), 6, 6)
            painter.setFont(bold)
            painter.setPen(theme.colour("ink"))
            painter.drawText(QPointF(box.left(), middle + 6), value.text)
            painter.setPen(QPen(theme.colour("chosen"), 2))
            painter.drawLine(QPointF(box.left(), middle + 13), QPointF(box.right(), middle + 13))
            painter.setFont(small)
            painter.setPen(theme.colour("thread" if self._asleep else "quiet"))
            key_box = QRectF(box.center().x() - 30, middle + 15, 60, 18)
            painter.drawText(key_box, Qt.AlignmentFlag.AlignCenter, value.key)
        if self._asleep and self._values:
            last = boxes[-1].right()
            room = QRectF(last + 16, middle + 15, self.width() - last - 16, 18)
            painter.setPen(theme.colour("quiet"))
            painter.setFont(small)
            fits = QFontMetricsF(small).horizontalAdvance(ASLEEP) <= room.width()
            painter.drawText(
                room, Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter, ASLEEP if fits else "Esc"
            )
        painter.end()

    def _ask(self, index: int, step: int) -> None:
        if 0 <= index < len(self._values):
            self._at = index
            self.asked.emit(self._values[index].name, step)
            self.update()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        for i, box in enumerate(self.boxes()):
            if box.adjusted(-6, 0, 6, 0).contains(event.position()):
                self._ask(i, -1 if event.button() == Qt.MouseButton.RightButton else 1)
                return

    def wheelEvent(self, event: QWheelEvent) -> None:
        for i, box in enumerate(self.boxes()):
            if self._values[i].name == "tempo" and box.adjusted(-6, 0, 6, 0).contains(event.position()):
                self._ask(i, 1 if event.angleDelta().y() > 0 else -1)

    def _number(self) -> None:
        """What was typed is the number of the value that is stood on."""
        self._typed.stop()
        digits, self._digits = self._digits, ""
        if digits.strip("."):
            self.numbered.emit(self._values[self._at].name, float(digits))
        self.update()

    def focusOutEvent(self, event: QFocusEvent) -> None:
        self._number()
        super().focusOutEvent(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key, text = event.key(), event.text().replace(",", ".")
        if self._at < len(self._values) and self._values[self._at].typed and self._goes_on(text):
            self._digits += text
            self._typed.start()
            self.update()
            return
        if self._digits and key not in MODIFIERS:
            if key in (Qt.Key.Key_Escape, Qt.Key.Key_Backspace):
                self._digits = self._digits[:-1] if key == Qt.Key.Key_Backspace else ""
                self.update()
                return
            self._number()
            if key == Qt.Key.Key_Return:
                return
        if key in (Qt.Key.Key_Left, Qt.Key.Key_Right):
            step = 1 if key == Qt.Key.Key_Right else -1
            self._at = max(0, min(len(self._values) - 1, self._at + step))
            self.setAccessibleDescription(f"{self._values[self._at].lead} {self._values[self._at].text}")
            self.update()
        elif key in (Qt.Key.Key_Up, Qt.Key.Key_Return):
            self._ask(self._at, 1)
        elif key == Qt.Key.Key_Down:
            self._ask(self._at, -1)
        else:
            super().keyPressEvent(event)

    def _goes_on(self, text: str) -> bool:
        """Whether a key is one more figure of a number, or its point."""
        return (len(self._digits) < 6 and text.isascii() and text.isdigit()) or (
            text == "." and "." not in self._digits and bool(self._digits)
        )
