"""Another version of a part: each is previewed on a strip before it is taken."""

from collections.abc import Callable
from fractions import Fraction

from msgspec.structs import replace
from PySide6.QtCore import QSize, Qt
from PySide6.QtWidgets import (
    QDialog,
    QDialogButtonBox,
    QHBoxLayout,
    QListWidget,
    QListWidgetItem,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from firn.core.piece.build import part_from
from firn.core.piece.piece import Part
from firn.core.piece.versions import (
    Version,
    follow_facing,
    follow_later,
    harder,
    moved,
    other_side,
    seated,
    simpler,
    straight,
    stretched,
    swung,
)
from firn.core.reading.retimed import delayed, pushed, straightened
from firn.errors import FirnError
from firn.session.stretch import part_stretch
from firn.ui.theme.theme import Theme
from firn.ui.widgets.labels import Label
from firn.ui.widgets.strip.strip import Strip
from firn.ui.widgets.strip.view import StripView

VERSIONS: tuple[tuple[str, Callable[[Part], Version]], ...] = (
    ("On the other side", other_side),
    ("A count later", lambda part: moved(part, Fraction(1))),
    ("A count earlier", lambda part: moved(part, Fraction(-1))),
    ("Half a count later", lambda part: moved(part, Fraction(1, 2))),
    ("Half time", lambda part: stretched(part, Fraction(2))),
    ("Double time", lambda part: stretched(part, Fraction(1, 2))),
    ("Swung", swung),
    ("Straight", straight),
    ("Straightened", straightened),
    ("Ahead of the beat", pushed),
    ("After the beat", delayed),
    ("A follow, facing", follow_facing),
    ("A follow, 4 later", follow_later),
    ("Seated", seated),
    ("Simpler steps", simpler),
    ("Harder steps", harder),
)


SHOWN_LINES = 10
"""Lines of a version that are shown as text: all of it is on the strip."""


class VersionsDialog(QDialog):
    """Shows versions of a part. `version` is the one on show, None where it cannot be; `apart`: as a new part."""

    def __init__(self, part: Part, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle(f"Another version of {part.name}")
        self.resize(980, 560)
        self._part = part
        self.version: Version | None = None
        self.name, self.apart = "", False
        self.list = QListWidget()
        self.list.setAccessibleName("Versions")
        for name, _ in VERSIONS:
            item = QListWidgetItem(name, self.list)
            item.setSizeHint(QSize(0, theme.px(40)))
        self.list.setFixedWidth(theme.px(210))
        self.strip = Strip(theme)
        self.strip.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.said, self.text = Label(), Label()
        for label in (self.said, self.text):
            label.setWordWrap(True)
        self.text.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
        self.buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Cancel)
        self.here = QPushButton("In its place")
        self.new = QPushButton("As a &new part")
        self.here.setProperty("next", "true")
        self.here.setDefault(True)
        self.buttons.addButton(self.here, QDialogButtonBox.ButtonRole.AcceptRole)
        self.buttons.addButton(self.new, QDialogButtonBox.ButtonRole.ActionRole)
        shown = QVBoxLayout()
        shown.addWidget(self.said)
        shown.addWidget(StripView(self.strip), 1)
        shown.addWidget(self.text)
        above = QHBoxLayout()
        above.setSpacing(20)
        above.addWidget(self.list)
        above.addLayout(shown, 1)
        box = QVBoxLayout(self)
        box.addLayout(above, 1)
        box.addWidget(self.buttons)
        self.list.currentRowChanged.connect(self._show)
        self.list.itemActivated.connect(lambda _: self.accept())
        self.buttons.accepted.connect(self.accept)
        self.buttons.rejected.connect(self.reject)
        self.new.clicked.connect(self._take_apart)
        self.list.setCurrentRow(0)

    def _show(self, row: int) -> None:
        self.name, make = VERSIONS[row]
        try:
            self.version = make(self._part)
        except FirnError as fault:
            self.version = None
            self.said.setText(str(fault))
        self.here.setEnabled(self.version is not None)
        # What the whole piece takes with it is no part of its own.
        self.new.setEnabled(self.version is not None and not self.version.feel)
        self.strip.setVisible(self.version is not None)
        self.text.setVisible(self.version is not None)
        if self.version is not None:
            part = self._part
            settings = replace(part.settings, feel=self.version.feel or part.settings.feel)
            made = part_from(part.name, self.version.text, settings, part.script.shelf)
            self.said.setText(self.version.said)
            self.strip.show_stretch(part_stretch(made))
            lines = self.version.text.split("\n")
            more = [f"… {len(lines) - SHOWN_LINES} lines more"] if len(lines) > SHOWN_LINES else []
            self.text.setText("\n".join([*lines[:SHOWN_LINES], *more]))

    def _take_apart(self) -> None:
        self.apart = True
        self.accept()

    def accept(self) -> None:
        """Close with the version on show; one that cannot be is not taken."""
        if self.version is not None:
            super().accept()
