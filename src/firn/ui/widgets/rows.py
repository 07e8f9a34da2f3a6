"""Rows that come and go: the banner, and what is being worked on."""

from PySide6.QtCore import QTimer, Signal
from PySide6.QtGui import QFont
from PySide6.QtWidgets import QFrame, QHBoxLayout, QLabel, QProgressBar, QPushButton, QWidget

from firn.ui.theme.theme import Theme

SAID_MS = 8_000


class Banner(QFrame):
    """Says a sentence for a while; what is not kept stays, with a way to save a copy (`copy`)."""

    copy = Signal()

    def __init__(self, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._theme = theme
        self._unsaved = ""
        self.setObjectName("banner")
        self.label = QLabel()
        self.label.setWordWrap(True)
        self.button = QPushButton("Save a copy…")
        self.button.clicked.connect(self.copy)
        row = QHBoxLayout(self)
        row.setContentsMargins(24, 4, 24, 4)
        row.addWidget(self.label, 1)
        row.addWidget(self.button)
        self._timer = QTimer(self)
        self._timer.setSingleShot(True)
        self._timer.setInterval(SAID_MS)
        self._timer.timeout.connect(self._show)
        theme.changed.connect(self._restyle)
        self._restyle()
        self.hide()

    def _restyle(self) -> None:
        self.setStyleSheet(f"#banner {{ background: {self._theme.tokens.chosen_wash}; }}")
        self.label.setFont(self._theme.font(16, QFont.Weight.Medium))

    @property
    def text(self) -> str:
        return self.label.text()

    def say(self, sentence: str) -> None:
        """Say something for a while, unless something is not kept."""
        if not self._unsaved:
            self._show(sentence)
            self._timer.start()

    def show_unsaved(self, why: str) -> None:
        """Say that something is not kept and why; "" when all is."""
        if why != self._unsaved:
            self._unsaved = why
            self._timer.stop()
            self._show()

    def _show(self, sentence: str = "") -> None:
        self.label.setText(self._unsaved or sentence)
        self.button.setVisible(bool(self._unsaved))
        self.setVisible(bool(self._unsaved or sentence))


class Working(QFrame):
    """What is being worked on, how far it is, and a way to stop it (`stop`)."""

    stop = Signal()

    def __init__(self, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.label = QLabel()
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
        theme.changed.connect(lambda: self.label.setFont(theme.font(14)))
        self.label.setFont(theme.font(14))
        self.hide()

    def show_work(self, label: str, share: float) -> None:
        """Show work and its share done, 0 to 1."""
        self.label.setText(label)
        self.bar.setValue(round(share * 1000))
        self.bar.setAccessibleName(label)
        self.show()
