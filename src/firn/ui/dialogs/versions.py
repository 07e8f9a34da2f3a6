"""Another version of a part: each is previewed on a strip before it is taken."""

from collections.abc import Callable
from fractions import Fraction

from msgspec import Struct
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
from firn.core.piece.levels import harder, seated, simpler
from firn.core.piece.piece import Part
from firn.core.piece.versions import (
    Version,
    follow_facing,
    follow_later,
    moved,
    other_side,
    straight,
    stretched,
    swung,
)
from firn.core.reading.retimed import delayed, pushed, straightened
from firn.errors import FirnError
from firn.session.stretch import Stretch, part_stretch
from firn.ui.desk import Aside
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


class Made(Struct, frozen=True):
    """A version, and how it is danced."""

    version: Version
    stretch: Stretch


def _made(part: Part, row: int) -> Made | str:
    """A version of a part, or why there is none."""
    try:
        version = VERSIONS[row][1](part)
    except FirnError as fault:
        return str(fault)
    settings = replace(part.settings, feel=version.feel or part.settings.feel)
    return Made(version, part_stretch(part_from(part.name, version.text, settings, part.script.shelf)))


class VersionsDialog(QDialog):
    """Shows versions of a part, which are made aside. `version` is the one on show, None where it cannot be or is
    not made yet; `apart`: as a new part."""

    def __init__(self, part: Part, aside: Aside, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._aside = aside
        self.setWindowTitle(f"Another version of {part.name}")
        self.resize(980, 560)
        self._part = part
        self._gone = False
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
        self.name, _ = VERSIONS[row]
        part = self._part

        def done(made: Made | str) -> None:
            if not self._gone and self.list.currentRow() == row:
                self._show_made(made)

        self._show_made("Making it…")
        self._aside("version", "Making a version", lambda task: _made(part, row), done)

    def _show_made(self, made: Made | str) -> None:
        """Show a version, or say why there is none."""
        self.version = None if isinstance(made, str) else made.version
        there = self.version is not None
        self.here.setEnabled(there)
        # What the whole piece takes with it is no part of its own.
        self.new.setEnabled(self.version is not None and not self.version.feel)
        self.strip.setVisible(there)
        self.text.setVisible(there)
        if isinstance(made, str):
            self.said.setText(made)
            return
        self.said.setText(made.version.said)
        self.strip.show_stretch(made.stretch)
        lines = made.version.text.split("\n")
        more = [f"… {len(lines) - SHOWN_LINES} lines more"] if len(lines) > SHOWN_LINES else []
        self.text.setText("\n".join([*lines[:SHOWN_LINES], *more]))

    def done(self, result: int) -> None:
        """Close; what is still being made is not shown."""
        self._gone = True
        super().done(result)

    def _take_apart(self) -> None:
        self.apart = True
        self.accept()

    def accept(self) -> None:
        """Close with the version on show; one that cannot be is not taken."""
        if self.version is not None:
            super().accept()
