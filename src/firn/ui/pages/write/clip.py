"""A clip above the strip: its picture, and beside it how it is looked at, or what takes taps along it."""

from functools import partial

from PySide6.QtCore import QEvent, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QFont, QImage, QKeyEvent, QPainter, QPaintEvent, QTransform
from PySide6.QtWidgets import QHBoxLayout, QMenu, QPushButton, QSizePolicy, QStackedWidget, QVBoxLayout, QWidget

from firn.ui.pages.write.close_up import CloseUpView
from firn.ui.theme.theme import Theme
from firn.ui.widgets.labels import Label
from firn.ui.widgets.room import WrappingRow

Key = Qt.Key

NEARER = (1.0, 1.6, 2.5)
"""How near the feet are looked at: the lower middle of the picture."""

WISHES = (
    ("run", "Let it run", "Space", (Key.Key_Space,)),
    ("tap", "Tap along", "T", (Key.Key_T,)),
    ("draft", "Draft it from its sound", "D", (Key.Key_D,)),
    ("sung", "It is sung", "S", (Key.Key_S,)),
    ("beats", "Find its beats", "K", (Key.Key_K,)),
    ("along", "Tap its beats along", "L", (Key.Key_L,)),
    ("half", "Half as many counts", "H", (Key.Key_H,)),
    ("double", "Twice as many counts", "J", (Key.Key_J,)),
    ("one", "A 1 is here", "1", (Key.Key_1,)),
    ("back", "A picture back", "←", (Key.Key_Left,)),
    ("on", "A picture on", "→", (Key.Key_Right,)),
    ("slower", "Slower", "−", (Key.Key_Minus,)),
    ("faster", "Faster", "+", (Key.Key_Plus, Key.Key_Equal)),
    ("begins", "It begins here", "B", (Key.Key_B,)),
    ("ends", "It ends here", "E", (Key.Key_E,)),
    ("again", "To its beginning", "Home", (Key.Key_Home,)),
    ("place", "To a time", "G", (Key.Key_G,)),
    ("mirror", "Mirrored", "M", (Key.Key_M,)),
    ("nearer", "Nearer the feet", "N", (Key.Key_N,)),
    ("wall", "Which wall is faced here", "F", (Key.Key_F,)),
    ("whose", "Whose step it is", "W", (Key.Key_W,)),
    ("other", "Another clip", "O", (Key.Key_O,)),
    ("forget", "No clip any more", "Delete", (Key.Key_Delete,)),
)
"""What can be wished of a clip, its words, its key as shown, and its keys."""

SEEN_ALWAYS = ("run", "tap", "draft", "slower", "faster", "begins", "ends")
"""What has a button; the rest is behind one."""

HOW = "← → a picture, with Shift a second; PgUp PgDown ten"

LOW = 256
"""How high it is with the text below the strip, in pixels at usual text size."""

_ANY = 16_777_215

FAR = {Key.Key_PageUp: -10.0, Key.Key_PageDown: 10.0}
SECOND = {Key.Key_Left: -1.0, Key.Key_Right: 1.0}


class PictureView(QWidget):
    """A picture as it is looked at: as large as there is room, mirrored or nearer where that is wanted."""

    def __init__(self, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._theme = theme
        self._image: QImage | None = None
        self._said = "No picture: a recording of sound alone."
        self.mirrored, self.near = False, 0
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName("The clip's picture")

    def sizeHint(self) -> QSize:
        return QSize(360, 200)

    @property
    def image(self) -> QImage | None:
        """The picture on show, as it came."""
        return self._image

    def show_image(self, image: QImage | None) -> None:
        """Show a picture, or none."""
        self._image = image
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), self._theme.colour("band"))
        if self._image is None:
            painter.setPen(self._theme.colour("quiet"))
            painter.setFont(self._theme.font(14))
            flags = Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap
            painter.drawText(QRectF(self.rect()).adjusted(16, 16, -16, -16), int(flags), self._said)
            return
        self.paint_in(painter, QRectF(self.rect()))

    def paint_in(self, painter: QPainter, room: QRectF) -> None:
        """Paint the picture as it is looked at, as large as there is room, in its middle."""
        if self._image is None:
            return
        part = QRectF(self._image.rect())
        scale = NEARER[self.near]
        part = QRectF(part.width() * (1 - 1 / scale) / 2, part.height() * (1 - 1 / scale), part.width() / scale,
                      part.height() / scale)  # fmt: skip
        size = min(room.width() / part.width(), room.height() / part.height())
        where = QRectF(0, 0, part.width() * size, part.height() * size)
        where.moveCenter(room.center())
        painter.save()
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        if self.mirrored:
            painter.setTransform(QTransform(-1, 0, 0, 1, 2 * room.center().x(), 0), combine=True)
        painter.drawImage(where, self._image, part)
        painter.restore()


class ClipView(QWidget):
    """A clip's picture with what is done to it. `wished`: one of `WISHES`; `moved`: by so many seconds; `left`."""

    wished = Signal(str)
    moved = Signal(float)
    left = Signal()

    def __init__(self, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._theme = theme
        self.picture = PictureView(theme)
        self.close_up = CloseUpView(theme)
        self.heading, self.said = Label(), Label()
        self.said.setWordWrap(True)
        self.seen = Label()
        row = WrappingRow(8)
        self.buttons: dict[str, QPushButton] = {}
        self.more = QPushButton("More")
        self.more.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        menu = QMenu(self.more)
        for wish, text, key, _ in WISHES:
            if wish not in SEEN_ALWAYS:
                # The key after a tab is shown, and is ours to answer.
                menu.addAction(f"{text}\t{key}", partial(self.wished.emit, wish))
                continue
            button = QPushButton(f"{text}  {key}")
            button.clicked.connect(lambda _=False, w=wish: self.wished.emit(w))
            button.setFocusPolicy(Qt.FocusPolicy.NoFocus)
            self.buttons[wish] = button
            row.addWidget(button)
        self.more.setMenu(menu)
        menu.aboutToShow.connect(lambda: theme.dress(menu))
        row.addWidget(self.more)
        self.buttons["run"].setProperty("next", "true")
        self.leave = QPushButton("Leave it  Esc")
        self.leave.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.leave.clicked.connect(self.left)
        self._panel = QWidget()
        top = QHBoxLayout()
        top.addWidget(self.heading, 1)
        top.addWidget(self.leave)
        panel = QVBoxLayout(self._panel)
        panel.setContentsMargins(0, 0, 0, 0)
        panel.setSpacing(8)
        panel.addLayout(top)
        panel.addWidget(self.said)
        panel.addLayout(row)
        panel.addStretch(1)
        self._side = QStackedWidget()
        self._side.addWidget(self._panel)
        left = QVBoxLayout()
        left.setSpacing(4)
        left.addWidget(self.picture, 1)
        left.addWidget(self.close_up)
        left.addWidget(self.seen)
        box = QHBoxLayout(self)
        box.setContentsMargins(24, 8, 24, 4)
        box.setSpacing(24)
        box.addLayout(left, 10)
        box.addWidget(self._side, 17)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("A clip")
        theme.changed.connect(self._restyle)
        self._restyle()

    def _restyle(self) -> None:
        self.heading.setFont(self._theme.font(18, QFont.Weight.DemiBold))
        self.said.setFont(self._theme.font(15))
        self.seen.setFont(self._theme.font(13))

    def show_beside(self, other: QWidget | None) -> None:
        """Show something else beside the picture; None for what is done to the clip."""
        if other is not None and self._side.indexOf(other) < 0:
            self._side.addWidget(other)
        self._side.setCurrentWidget(other or self._panel)
        # Alone it leaves its room to the strip.
        self.setMaximumHeight(_ANY if other is not None else self._theme.px(LOW))
        if other is not None:
            other.show()

    def show_seen(self, said: str) -> None:
        """Say which picture is on show, and by which keys others are, where these are the clip's own now."""
        self.seen.setText(f"{said}   {HOW}" if self._side.currentWidget() is self._panel else said)

    def show_state(self, heading: str, said: str, *, running: bool) -> None:
        """Say which clip this is and how it is looked at."""
        self.heading.setText(heading)
        self.said.setText(said)
        self.buttons["run"].setText("Stop it  Space" if running else "Let it run  Space")

    def event(self, event: QEvent) -> bool:
        ours = event.type() == QEvent.Type.ShortcutOverride and isinstance(event, QKeyEvent)
        if ours and isinstance(event, QKeyEvent) and not event.modifiers() & _COMMANDS:
            event.accept()
            return True
        return super().event(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key = Key(event.key())
        shift = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
        wish = next((wish for wish, _, _, keys in WISHES if key in keys), None)
        if event.modifiers() & _COMMANDS:
            super().keyPressEvent(event)
        elif key == Key.Key_Escape:
            self.left.emit()
        elif key in FAR:
            self.moved.emit(FAR[key])
        elif shift and key in SECOND:
            self.moved.emit(SECOND[key])
        elif wish is not None:
            self.wished.emit(wish)
        else:
            super().keyPressEvent(event)


_COMMANDS = Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.AltModifier
