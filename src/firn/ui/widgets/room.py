"""Room for large text: rows that go on in the next line, and pages that scroll where the window is too low."""

from PySide6.QtCore import QPoint, QRect, QSize, Qt, QTimer
from PySide6.QtGui import QKeyEvent, QResizeEvent
from PySide6.QtWidgets import QApplication, QBoxLayout, QLayout, QLayoutItem, QScrollArea, QWidget

from firn.ui.theme.theme import Theme


class WrappingRow(QLayout):
    """Widgets in a row, that goes on in a line below where there is no room; hidden ones take none."""

    def __init__(self, spacing: int = 12) -> None:
        super().__init__()
        self._items: list[QLayoutItem] = []
        self.setContentsMargins(0, 0, 0, 0)
        self.setSpacing(spacing)

    def addItem(self, item: QLayoutItem) -> None:
        self._items.append(item)

    def count(self) -> int:
        return len(self._items)

    def itemAt(self, index: int) -> QLayoutItem | None:
        return self._items[index] if 0 <= index < len(self._items) else None

    def takeAt(self, index: int) -> QLayoutItem | None:
        return self._items.pop(index) if 0 <= index < len(self._items) else None

    def expandingDirections(self) -> Qt.Orientation:
        return Qt.Orientation(0)

    def hasHeightForWidth(self) -> bool:
        return True

    def heightForWidth(self, width: int) -> int:
        return self._placed(QRect(0, 0, width, 0), move=False)

    def setGeometry(self, rect: QRect) -> None:
        super().setGeometry(rect)
        self._placed(rect, move=True)

    def sizeHint(self) -> QSize:
        shown = [item.sizeHint() for item in self._items if not item.isEmpty()]
        width = sum(hint.width() for hint in shown) + self.spacing() * max(0, len(shown) - 1)
        return QSize(width, max((hint.height() for hint in shown), default=0))

    def minimumSize(self) -> QSize:
        size = QSize()
        for item in self._items:
            if not item.isEmpty():
                size = size.expandedTo(item.minimumSize())
        return size

    def _placed(self, rect: QRect, *, move: bool) -> int:
        """The height that the row takes in the width of a rectangle; `move`: its widgets are put there."""
        x, y, line = rect.x(), rect.y(), 0
        for item in self._items:
            if item.isEmpty():
                continue
            hint = item.sizeHint()
            if line and x + hint.width() > rect.right() + 1:
                x, y, line = rect.x(), y + line + self.spacing(), 0
            if move:
                item.setGeometry(QRect(QPoint(x, y), QSize(min(hint.width(), rect.width()), hint.height())))
            x += hint.width() + self.spacing()
            line = max(line, hint.height())
        return y + line - rect.y()


class Page(QWidget):
    """A page that needs some height, and puts what stands side by side below each other where it is narrow."""

    NARROW_PX = 900
    """The width, at text of 100 %, below which the page is narrow."""
    HEIGHT_PX, NARROW_HEIGHT_PX = 560, 900
    """The least height at text of 100 %, of a wide page and of a narrow one."""

    def __init__(self, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._theme = theme
        self.narrow = False
        theme.changed.connect(self.settle)

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self.settle()

    def settle(self) -> None:
        """See whether the page is narrow for its text, and arrange it for that."""
        now = self.width() < self._theme.px(self.NARROW_PX)
        self.setMinimumHeight(self._theme.px(self.NARROW_HEIGHT_PX if now else self.HEIGHT_PX))
        if now != self.narrow:
            self.narrow = now
            self.arrange()

    def arrange(self) -> None:
        """Arrange what the page shows for its width."""
        raise NotImplementedError


def side_by_side(box: QBoxLayout, beside: bool) -> None:
    """Turn a layout: its rooms beside each other, or below."""
    box.setDirection(QBoxLayout.Direction.LeftToRight if beside else QBoxLayout.Direction.TopToBottom)


class UprightArea(QScrollArea):
    """Holds a widget that is as wide as it is, and scrolls it up and down."""

    def __init__(self, content: QWidget, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWidgetResizable(True)
        self.setWidget(content)
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Scroll by Page Up and Page Down; where all is in sight, leave them to what stands around it."""
        if self.verticalScrollBar().maximum() == 0:
            event.ignore()
            return
        super().keyPressEvent(event)


class FittingArea(UprightArea):
    """As large as what it holds, as far as the screen goes; beyond that it scrolls."""

    def sizeHint(self) -> QSize:
        return self.minimumSizeHint()

    def minimumSizeHint(self) -> QSize:
        # A dialog's buttons, and the frame that the desktop gives it, stand outside.
        room = self.screen().availableSize() - QSize(60, round(self.screen().availableSize().height() * 0.3))
        content = self.widget()
        assert content is not None
        wanted = content.sizeHint().expandedTo(content.minimumSize())
        height = content.heightForWidth(wanted.width()) if content.hasHeightForWidth() else wanted.height()
        beside = self.verticalScrollBar().sizeHint().width() if height > room.height() else 0
        return QSize(wanted.width() + beside, height).boundedTo(room)


class PageFrame(UprightArea):
    """Holds a page; scrolls it where the window is lower than the page's least height, and follows the keyboard."""

    def __init__(self, page: QWidget, parent: QWidget | None = None) -> None:
        super().__init__(page, parent)
        self.page = page
        app = QApplication.instance()
        assert isinstance(app, QApplication)
        # Where the focus goes a page may show something else first, and be laid out anew.
        self._settled = QTimer(self, singleShot=True, interval=0)
        self._settled.timeout.connect(self._follow)
        app.focusChanged.connect(self._wait)

    def _wait(self) -> None:
        self._settled.start()

    def _follow(self) -> None:
        now = QApplication.focusWidget()
        if now is None or not self.page.isAncestorOf(now):
            return
        top, height = now.mapTo(self.viewport(), QPoint(0, 0)).y(), self.viewport().height()
        # What begins in sight and is taller than the rest of it would push away what stands above.
        if not 0 <= top < height / 2:
            self.ensureWidgetVisible(now, 0, 12)
