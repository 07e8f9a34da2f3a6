"""Headings and rules, the same on every page."""

from PySide6.QtCore import Qt
from PySide6.QtGui import QFont
from PySide6.QtWidgets import QFrame, QLabel, QLayout, QWidget

from firn.ui.theme.theme import Theme


class Label(QLabel):
    """A label that shows just the text it is given: names may hold < and &."""

    def __init__(self, text: str = "", parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setTextFormat(Qt.TextFormat.PlainText)
        self.setText(text)


class Heading(Label):
    """A heading of a block; it follows the theme for as long as it lives."""

    def __init__(self, theme: Theme, text: str) -> None:
        super().__init__(text)
        self._theme = theme
        theme.changed.connect(self._restyle)
        self._restyle()

    def _restyle(self) -> None:
        self.setFont(self._theme.font(15, QFont.Weight.DemiBold))


def heading(theme: Theme, text: str) -> QLabel:
    """A heading of a block on a page."""
    return Heading(theme, text)


def shown(name: str) -> str:
    """A name for a button or a menu, where & would name a key."""
    return name.replace("&", "&&")


def shortened(name: str, most: int = 40) -> str:
    """A name of at most so many letters, its middle left out."""
    return name if len(name) <= most else f"{name[: most * 2 // 3]}…{name[-(most // 3) + 1 :]}"


def plain_tip(text: str) -> str:
    """A tip that shows just this text."""
    if "<" not in text and "&" not in text:
        return text
    from html import escape

    return f"<qt>{escape(text)}</qt>"


def repolish(widget: QWidget) -> None:
    """Put a style in force that hangs on a property which has changed."""
    widget.style().unpolish(widget)
    widget.style().polish(widget)


def framed(layout: QLayout) -> QFrame:
    """A band that holds a layout."""
    frame = QFrame()
    frame.setObjectName("framed")
    frame.setLayout(layout)
    return frame


def rule() -> QFrame:
    """A hairline across the page."""
    line = QFrame()
    line.setObjectName("rule")
    line.setFixedHeight(1)
    return line
