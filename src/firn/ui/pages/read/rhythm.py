"""The counts that a part uses, and where else the same rhythm is."""

from collections.abc import Sequence

from PySide6.QtCore import QSize, Qt, Signal
from PySide6.QtWidgets import QListWidget, QListWidgetItem, QWidget

from firn.session.alike import Elsewhere
from firn.session.rhythm import used_said
from firn.ui.pages.read.face import Face
from firn.ui.theme.theme import Theme
from firn.ui.widgets.labels import Label

NONE_FOUND = "Nothing else here has a like rhythm."


class RhythmFace(Face):
    """Counts, slows and quicks in words, and a list of parts and steps with the like.

    `wanted`: the like of a part is to be looked for; `opened`: one that is to be gone to.
    """

    title = "Rhythm"
    wanted = Signal(object)
    opened = Signal(object)

    def __init__(self, theme: Theme, parent: QWidget | None = None) -> None:
        self.list, self.alike = QListWidget(), Label()
        super().__init__(theme, parent)
        self.list.setAccessibleName("The like elsewhere")
        self.list.itemActivated.connect(lambda item: self.opened.emit(item.data(Qt.ItemDataRole.UserRole)))
        self.box.addWidget(self.says)
        self.box.addWidget(self.alike)
        self.box.addWidget(self.list, 1)

    def _restyle(self) -> None:
        super()._restyle()
        for widget in (self.alike, self.list):
            widget.setFont(self._theme.font(15))

    @property
    def stop(self) -> QWidget:
        return self.list

    def renew(self) -> None:
        part = self.part
        self._by("", "")
        self.says.setText(used_said(part) if part is not None else "")
        self.show_found(())
        self.alike.setText("")
        if part is not None:
            self.wanted.emit(part)

    def show_found(self, found: Sequence[Elsewhere]) -> None:
        """Show what is like it."""
        self.list.clear()
        for one in found:
            item = QListWidgetItem(one.said, self.list)
            item.setData(Qt.ItemDataRole.UserRole, one)
            item.setSizeHint(QSize(0, self._theme.px(30)))
        self.list.setVisible(bool(found))
        self.alike.setText("The like elsewhere; Enter goes there:" if found else NONE_FOUND)
