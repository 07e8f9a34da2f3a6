"""Rows that come and go: the banner, and what is being worked on."""

from PySide6.QtCore import Qt, QTimer, Signal
from PySide6.QtGui import QFont, QShowEvent
from PySide6.QtWidgets import QFrame, QHBoxLayout, QProgressBar, QPushButton, QWidget

from firn.ui.theme.theme import Theme
from firn.ui.widgets.labels import Label

SAID_MS = 8_000


class Banner(QFrame):
    """Says a sentence for a while, over one that stands: what is not kept, with a way to save a copy (`copy`); or
    what a demo is, with ways to begin a part in it (`begin`) and to keep it (`keep`)."""

    copy = Signal()
    keep = Signal()
    begin = Signal()

    def __init__(self, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._theme = theme
        self._standing, self._demo = "", False
        self.setObjectName("banner")
        self.label = Label()
        self.label.setTextFormat(Qt.TextFormat.PlainText)
        self.label.setWordWrap(True)
        self.copy_button = QPushButton("Save a copy…")
        self.copy_button.clicked.connect(self.copy)
        self.begin_button = QPushButton("Write a step of your own")
        self.begin_button.clicked.connect(self.begin)
        self.keep_button = QPushButton("Keep it as yours…")
        self.keep_button.clicked.connect(self.keep)
        row = QHBoxLayout(self)
        row.setContentsMargins(24, 4, 24, 4)
        row.setSpacing(12)
        row.addWidget(self.label, 1)
        for button in (self.copy_button, self.begin_button, self.keep_button):
            row.addWidget(button)
        self._timer = QTimer(self)
        self._timer.setSingleShot(True)
        self._timer.setInterval(SAID_MS)
        self._timer.timeout.connect(self._show)
        theme.changed.connect(self._restyle)
        self._restyle()
        self.hide()

    def _restyle(self) -> None:
        if self.isVisible():
            self._dress()
        self.label.setFont(self._theme.font(16, QFont.Weight.Medium))

    def _dress(self) -> None:
        self._theme.dress(self, f"#banner {{ background: {self._theme.tokens.chosen_wash}; }}")

    def showEvent(self, event: QShowEvent) -> None:
        # Dressed when it is seen: most of the time it is not.
        self._dress()
        super().showEvent(event)

    @property
    def text(self) -> str:
        return self.label.text()

    def say(self, sentence: str) -> None:
        """Say something for a while, unless something is not kept."""
        if not self._standing or self._demo:
            self._show(sentence)
            self._timer.start()

    def show_standing(self, sentence: str, *, demo: bool) -> None:
        """Say what stands: why something is not kept, or what a demo is; "" for nothing."""
        if (sentence, demo) != (self._standing, self._demo):
            self._standing, self._demo = sentence, demo
            self._timer.stop()
            self._show()

    def _show(self, sentence: str = "") -> None:
        self.label.setText(sentence or self._standing)
        stands = bool(self._standing)
        self.copy_button.setVisible(stands and not self._demo)
        self.begin_button.setVisible(stands and self._demo)
        self.keep_button.setVisible(stands and self._demo)
        self.setVisible(bool(self._standing or sentence))


class Working(QFrame):
    """What is being worked on, how far it is, and a way to stop it (`stop`)."""

    stop = Signal()

    def __init__(self, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._theme = theme
        self.label = Label()
        self.bar = QProgressBar()
        self.bar.setRange(0, 1000)
        self.bar.setTextVisible(False)
        button = QPushButton("Stop")
        button.clicked.connect(self.stop)
        row = QHBoxLayout(self)
        row.setContentsMargins(24, 2, 24, 2)
        row.setSpacing(14)
        row.addWidget(self.label)
        row.addWidget(self.bar, 1)
        row.addWidget(button)
        theme.changed.connect(self._restyle)
        self._restyle()
        self.hide()

    def _restyle(self) -> None:
        self.label.setFont(self._theme.font(14))
        if self.isVisible():
            self._theme.dress(self)

    def showEvent(self, event: QShowEvent) -> None:
        self._theme.dress(self)
        super().showEvent(event)

    def show_work(self, label: str, share: float) -> None:
        """Show work and its share done, 0 to 1."""
        self.label.setText(label)
        self.bar.setValue(round(share * 1000))
        self.bar.setAccessibleName(label)
        self.show()
