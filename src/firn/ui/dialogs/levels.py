"""A part at several levels below each other: what stands in for what, line by line, and which make one class."""

from collections.abc import Sequence
from functools import partial
from typing import Literal

from msgspec.structs import replace
from PySide6.QtCore import QSize, Qt, Signal
from PySide6.QtGui import QKeyEvent
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

from firn.core.piece.levels import HOWS, How, lines_of
from firn.core.piece.piece import Part
from firn.core.reading.style import Asked
from firn.core.task import Task
from firn.session.levels import Level, Wanted, level_of, usual_levels
from firn.session.stretch import Stretch, part_stretch
from firn.ui.desk import Aside
from firn.ui.theme.theme import Theme
from firn.ui.widgets.labels import Label, heading
from firn.ui.widgets.room import FittingArea
from firn.ui.widgets.strip.strip import Strip
from firn.ui.widgets.strip.view import StripView

Taken = Literal["", "here", "apart", "class"]
Made = tuple[Level, Stretch]


class Lines(QListWidget):
    """Lines in a list; left and right ask for the one stood on danced another way (-1, 1)."""

    asked = Signal(int)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        ways = {Qt.Key.Key_Left.value: -1, Qt.Key.Key_Right.value: 1}
        if event.key() in ways:
            self.asked.emit(ways[event.key()])
        else:
            super().keyPressEvent(event)


class LevelsDialog(QDialog):
    """Shows levels of a part, which are made aside. `taken`: the level on show in the part's place or as a new part,
    or those that are ticked as groups of one class."""

    def __init__(self, part: Part, asked: Asked, aside: Aside, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle(f"{part.name} at several levels")
        self.resize(1200, 790)
        self._part, self._asked, self._aside = part, asked, aside
        self._gone = False
        self.taken: Taken = ""
        self.wanted = list(usual_levels(part))
        self.levels: list[Level | None] = [None] * len(self.wanted)
        self._shown = [False] * len(self.wanted)
        self.list, self.lines = QListWidget(), Lines()
        self.differences = QListWidget()
        self.differences.setAccessibleName("Where it differs from the part as written")
        self.differences.setWordWrap(True)
        self.list.setAccessibleName("Levels: ticked are those of the class")
        self.lines.setAccessibleName("Lines of the level: left and right change how one is danced")
        for one in self.wanted:
            item = QListWidgetItem(one.name.capitalize(), self.list)
            item.setSizeHint(QSize(0, theme.px(40)))
            item.setCheckState(Qt.CheckState.Checked)
        self.list.setFixedHeight(theme.px(40) * len(self.wanted) + 8)
        for side in (self.list, self.lines, self.differences):
            side.setFixedWidth(theme.px(270))
            side.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.strips = [Strip(theme) for _ in self.wanted]
        self.said = [Label() for _ in self.wanted]
        self._views = [StripView(strip, whole=True) for strip in self.strips]
        self._lay_out(theme)
        for n, view in enumerate(self._views):
            view.verticalScrollBar().valueChanged.connect(partial(self._scrolled, n))
        self.list.currentRowChanged.connect(lambda _: self._show_lines())
        self.lines.setWordWrap(True)
        self.lines.asked.connect(self.change_line)
        self.lines.itemActivated.connect(lambda _: self.change_line(1))
        self.list.setCurrentRow(0)
        self._make(range(len(self.wanted)))

    def _lay_out(self, theme: Theme) -> None:
        left, right = QVBoxLayout(), QVBoxLayout()
        right.setSpacing(4)
        left.addWidget(heading(theme, "Levels of the class"))
        left.addWidget(self.list)
        left.addWidget(heading(theme, "Its lines (← → another)"))
        left.addWidget(self.lines, 2)
        left.addWidget(heading(theme, "Here, and there as written"))
        left.addWidget(self.differences, 3)
        for said, view in zip(self.said, self._views, strict=True):
            said.setWordWrap(True)
            right.addWidget(said)
            right.addWidget(view, 1)
        right.setContentsMargins(0, 0, 0, 0)
        content = QWidget()
        content.setLayout(right)
        above = QHBoxLayout()
        above.setSpacing(20)
        above.addLayout(left)
        self._area = FittingArea(content)
        above.addWidget(self._area, 1)
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Cancel)
        self.here, self.apart = QPushButton("In its place"), QPushButton("As a &new part")
        self.grouped = QPushButton("As &groups of one class")
        self.grouped.setProperty("next", "true")
        ways: Sequence[tuple[QPushButton, Taken]] = (
            (self.grouped, "class"), (self.here, "here"), (self.apart, "apart"),
        )  # fmt: skip
        for button, taken in ways:
            button.setAutoDefault(button is self.grouped)
            button.clicked.connect(partial(self._take, taken))
            buttons.addButton(button, QDialogButtonBox.ButtonRole.ActionRole)
        buttons.button(QDialogButtonBox.StandardButton.Cancel).setAutoDefault(False)
        self.grouped.setDefault(True)
        buttons.rejected.connect(self.reject)
        box = QVBoxLayout(self)
        box.addLayout(above, 1)
        box.addWidget(buttons)

    @property
    def level(self) -> Level | None:
        """The level on show, None where it is not made yet."""
        return self.levels[self.list.currentRow()]

    @property
    def ticked(self) -> list[Level]:
        """The levels of the class."""
        rows = [n for n in range(self.list.count()) if self.list.item(n).checkState() == Qt.CheckState.Checked]
        return [level for n in rows if (level := self.levels[n]) is not None]

    def change_line(self, by: int) -> None:
        """The line that is stood on danced another way: simpler, as written, harder."""
        row, at = self.list.currentRow(), self.lines.currentRow()
        if at < 0:
            return
        wanted, line = self.wanted[row], lines_of(self._part)[at]
        now = HOWS.index(wanted.hows.get(line, "as written"))
        how: How = HOWS[(now + by) % len(HOWS)]
        self.wanted[row] = replace(wanted, hows={**wanted.hows, line: how})
        self._show_lines()
        self.lines.setCurrentRow(at)
        self._make([row])

    def _make(self, rows: Sequence[int]) -> None:
        """Work levels out aside."""
        part, asked = self._part, self._asked
        for row in rows:
            wanted = self.wanted[row]
            self.levels[row] = None
            self.said[row].setText(f"{wanted.name.capitalize()}: making it…")

            def work(task: Task, wanted: Wanted = wanted) -> Made:
                level = level_of(part, wanted, asked)
                return level, part_stretch(level.part)

            self._aside(f"level {row}", "Making a level", work, partial(self._made, row, wanted))

    def _made(self, row: int, wanted: Wanted, made: Made) -> None:
        # What was asked for anew meanwhile comes later.
        if self._gone or self.wanted[row] is not wanted:
            return
        level, stretch = made
        self.levels[row] = level
        self.strips[row].show_stretch(stretch)
        if level.part is self._part and wanted.hows and not self._shown[row]:
            # With nothing to stand in, nobody dances it but those of the part itself.
            self.list.item(row).setCheckState(Qt.CheckState.Unchecked)
        self._shown[row] = True
        self.said[row].setText(level.told)
        if row == self.list.currentRow():
            self._show_differences()

    def _show_lines(self) -> None:
        row, lines = self.list.currentRow(), self._part.script.lines
        self._area.ensureWidgetVisible(self._views[row])
        wanted = self.wanted[row]
        self.lines.clear()
        for line in lines_of(self._part):
            how = wanted.hows.get(line, "as written")
            self.lines.addItem(f"{how}: {lines[line].strip()}")
        self.lines.setCurrentRow(0)
        self._show_differences()

    def _show_differences(self) -> None:
        level = self.level
        # What the part is already needs no taking.
        changed = level is not None and level.part is not self._part
        self.here.setEnabled(changed)
        self.apart.setEnabled(changed)
        self.differences.clear()
        if level is not None:
            self.differences.addItems(level.differences or ["Nowhere."])

    def _scrolled(self, view: int, value: int) -> None:
        """The same rows of every level in sight."""
        for n, other in enumerate(self._views):
            if n != view:
                other.verticalScrollBar().setValue(value)

    def _take(self, taken: Taken) -> None:
        self.taken = taken
        self.accept()

    def accept(self) -> None:
        """Close with what is to be taken, once it is made."""
        if self.taken and (self.level is not None if self.taken != "class" else None not in self.levels):
            super().accept()

    def done(self, result: int) -> None:
        """Close; what is still being made is not shown."""
        self._gone = True
        super().done(result)
