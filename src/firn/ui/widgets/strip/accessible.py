"""The strip for a screen reader: every sound a child with its name."""

from PySide6.QtCore import QObject, QRect
from PySide6.QtGui import QAccessible, QAccessibleInterface
from PySide6.QtWidgets import QAccessibleWidget

from firn.ui.widgets.strip.strip import Strip


def _none() -> QAccessibleInterface:
    """None, which Qt takes where its stubs do not say so."""
    return None  # type: ignore[return-value]


class SoundInterface(QAccessibleInterface):
    """One sound of a strip."""

    def __init__(self, strip: Strip, index: int) -> None:
        super().__init__()
        self._strip, self._index = strip, index

    def isValid(self) -> bool:
        stretch = self._strip.stretch
        return stretch is not None and self._index < len(stretch.sounds)

    def object(self) -> QObject | None:  # type: ignore[override]
        return None

    def parent(self) -> QAccessibleInterface:
        return QAccessible.queryAccessibleInterface(self._strip)

    def child(self, index: int) -> QAccessibleInterface:
        return _none()

    def childAt(self, x: int, y: int) -> QAccessibleInterface:
        return _none()

    def childCount(self) -> int:
        return 0

    def indexOfChild(self, child: QAccessibleInterface) -> int:
        return -1

    def text(self, kind: QAccessible.Text) -> str:
        return self._strip.describe(self._index) if kind == QAccessible.Text.Name and self.isValid() else ""

    def setText(self, kind: QAccessible.Text, text: str) -> None:
        return None

    def role(self) -> QAccessible.Role:
        return QAccessible.Role.ListItem

    def rect(self) -> QRect:
        layout = self._strip.strip_layout
        spot = layout.spot(self._index) if layout is not None else None
        if spot is None:
            return QRect()
        box = spot.box.toAlignedRect()
        return QRect(self._strip.mapToGlobal(box.topLeft()), box.size())

    def state(self) -> QAccessible.State:
        state = QAccessible.State()
        state.focusable = True
        state.focused = self._strip.hasFocus() and self._strip.current == self._index
        return state


class StripInterface(QAccessibleWidget):
    """A strip with its sounds as children."""

    def __init__(self, strip: Strip) -> None:
        super().__init__(strip, QAccessible.Role.List, "Strip")
        self._strip = strip
        self._children: dict[int, SoundInterface] = {}

    def childCount(self) -> int:
        return len(self._strip.stretch.sounds) if self._strip.stretch is not None else 0

    def child(self, index: int) -> QAccessibleInterface:
        if not 0 <= index < self.childCount():
            return _none()
        if index not in self._children:
            # Qt registers a child when it is first asked for; registering it here as well frees it twice.
            self._children[index] = SoundInterface(self._strip, index)
        return self._children[index]

    def focusChild(self) -> QAccessibleInterface:
        """The sound that the keys stand on, where the strip has the keyboard."""
        current = self._strip.current
        return self.child(current) if current is not None and self._strip.hasFocus() else _none()

    def indexOfChild(self, child: QAccessibleInterface) -> int:
        return next((i for i, c in self._children.items() if c is child), -1)


def _factory(name: str, thing: QObject) -> QAccessibleInterface | None:
    return StripInterface(thing) if isinstance(thing, Strip) else None


def install() -> None:
    """Have strips tell a screen reader their sounds."""
    QAccessible.installFactory(_factory)
