"""A face of the rhythm: one of the ways in which Read shows a part."""

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from firn.core.piece.piece import Part
from firn.ui.theme.theme import Theme
from firn.ui.widgets.labels import Label


class Face(QWidget):
    """What all faces have: a sentence of what is shown, what it is shown by (changed by X), and the room for it."""

    title = ""

    def __init__(self, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._theme = theme
        self._part: Part | None = None
        self._tempo = 0.0
        self.lead = Label()
        self.by_button = QPushButton()
        self.by_button.clicked.connect(self.next_way)
        self.says = Label()
        self.says.setWordWrap(True)
        head = QHBoxLayout()
        head.addWidget(self.lead)
        head.addWidget(self.by_button)
        head.addStretch(1)
        self.box = QVBoxLayout(self)
        self.box.setContentsMargins(0, 0, 0, 0)
        self.box.setSpacing(4)
        self.box.addLayout(head)
        theme.changed.connect(self._restyle)
        self._restyle()

    def _restyle(self) -> None:
        for label in (self.lead, self.says):
            label.setFont(self._theme.font(15))

    @property
    def part(self) -> Part | None:
        """The part on show, None for none that has sounds."""
        return self._part if self._part is not None and self._part.sounds else None

    def show_part(self, part: Part | None, tempo: float) -> None:
        """Show a part at a tempo."""
        if part is self._part and tempo == self._tempo:
            return
        self._part, self._tempo = part, tempo
        self.renew()

    def renew(self) -> None:
        """Show the part as it is."""
        raise NotImplementedError

    def next_way(self) -> None:
        """Show it by something else, if there is another way."""

    @property
    def stop(self) -> QWidget:
        """The widget that keys go to."""
        return self

    def _by(self, lead: str, way: str) -> None:
        """Say what is shown, and by what."""
        self.lead.setText(lead)
        self.lead.setVisible(bool(lead))
        self.by_button.setText(f"{way}  X")
        self.by_button.setVisible(bool(way))


class PaintedFace(Face):
    """A face that is a picture, with words below it."""

    def __init__(self, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(theme, parent)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(self.title)
        self.box.addStretch(1)
        self.box.addWidget(self.says)

    def paintEvent(self, event: QPaintEvent) -> None:
        if self.part is None:
            return
        top = 0 if self.by_button.isHidden() else self.by_button.geometry().bottom() + 8
        field = QRectF(0, top, self.width(), self.says.geometry().top() - top - 6)
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        self.paint(painter, field)
        painter.end()

    def paint(self, painter: QPainter, field: QRectF) -> None:
        """Draw the part that is on show."""
        raise NotImplementedError

    def _tell(self, text: str) -> None:
        self.says.setText(text)
        self.setAccessibleDescription(text)
