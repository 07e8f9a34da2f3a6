"""The strip in a view that scrolls, and that it grows into."""

from fractions import Fraction

from PySide6.QtCore import QSize, Qt
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import QWidget

from firn.ui.widgets.room import UprightArea
from firn.ui.widgets.strip.strip import Strip


class StripView(UprightArea):
    """Holds a strip; keeps what is danced or stood on in sight. `whole`: at least one row of it, however little room
    there is."""

    def __init__(self, strip: Strip, parent: QWidget | None = None, *, whole: bool = False) -> None:
        super().__init__(strip, parent)
        self.strip = strip
        self._whole = whole
        strip.relaid.connect(self.updateGeometry)
        self.setAlignment(Qt.AlignmentFlag.AlignVCenter)

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        # The event's size is the viewport's. Asking for the viewport itself would have every kind of widget made.
        self.strip.set_room(event.size().height())

    def minimumSizeHint(self) -> QSize:
        least = super().minimumSizeHint()
        return least.expandedTo(QSize(0, self.strip.row_least)) if self._whole else least

    def reveal(self, index: int) -> None:
        """Bring a sound's row into sight."""
        row = self.strip.row_shown(index)
        self.ensureVisible(row.center().x(), row.center().y(), 0, row.height() // 2)

    def to_top(self) -> None:
        """Show the first row."""
        self.verticalScrollBar().setValue(0)

    def show_played(self, position: Fraction | None) -> None:
        """Ink the thread to a position, its row in sight."""
        self.strip.show_played(position)
        layout = self.strip.strip_layout
        if position is not None and layout is not None and len(layout.rows) > 1:
            top = layout.top_of(layout.row_of(position))
            half = int(layout.row_height / 2)
            self.ensureVisible(0, int(top) + half, 0, half)
