"""Headings and rules, the same on every page."""

from PySide6.QtGui import QFont
from PySide6.QtWidgets import QFrame, QLabel, QLayout, QWidget

from firn.ui.theme.theme import Theme


def heading(theme: Theme, text: str) -> QLabel:
    """A heading of a block on a page."""
    label = QLabel(text)

    def restyle() -> None:
        label.setFont(theme.font(15, QFont.Weight.DemiBold))

    theme.changed.connect(restyle)
    restyle()
    return label


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
