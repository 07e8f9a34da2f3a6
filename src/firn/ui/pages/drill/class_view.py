"""A class on the Drill page: its items on the thread, the one that is stood on, and what is said in it."""

from collections.abc import Sequence

from msgspec.structs import replace
from PySide6.QtCore import Signal
from PySide6.QtWidgets import QLineEdit, QVBoxLayout, QWidget

from firn.core.drills.class_plan import ClassItem, ClassPlan
from firn.session.classes import item_line, item_stepped, item_title
from firn.session.desk import read_in
from firn.session.stretch import part_stretch
from firn.ui.desk import Desk
from firn.ui.theme.theme import Theme
from firn.ui.widgets.labels import Label
from firn.ui.widgets.spoken_line import SpokenLine
from firn.ui.widgets.stages import Stages, StageShown
from firn.ui.widgets.strip.strip import Strip
from firn.ui.widgets.strip.view import StripView

HELP = (
    "Alt+← → moves the item, Insert puts another in after it, Delete leaves it out, Enter begins the class here. "
    "What is left of a class when you end it goes to the next one."
)


class ClassView(QWidget):
    """Shows a class. `changed`: the class as it is to be, and what that is called; `run`: it begins at an item."""

    changed = Signal(object, str)
    run = Signal(int)

    def __init__(self, desk: Desk, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._desk, self._theme = desk, theme
        self.plan: ClassPlan | None = None
        self.items = Stages(theme)
        self.items.setAccessibleName("Items of the class")
        self.line = SpokenLine(theme)
        self.line.setAccessibleName("The item, value by value")
        self.help = Label(HELP)
        self.help.setWordWrap(True)
        self.say = QLineEdit()
        self.say.setPlaceholderText("what you say, or want to think of")
        self.say.setAccessibleName("What is said in this item")
        self.strip = Strip(theme)
        self.view = StripView(self.strip, whole=True)
        told = QVBoxLayout()
        told.setContentsMargins(24, 8, 24, 8)
        told.setSpacing(8)
        for widget in (self.line, self.say, self.help):
            told.addWidget(widget)
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.addWidget(self.items)
        box.addLayout(told)
        box.addWidget(self.view, 1)
        box.addStretch(0)
        self.items.walked.connect(lambda _: self._show_item())
        self.items.asked.connect(self._asked)
        self.line.asked.connect(self._step)
        self.say.editingFinished.connect(self.commit)
        theme.changed.connect(self._restyle)
        self._restyle()

    def _restyle(self) -> None:
        theme = self._theme
        self.say.setFont(theme.font(18))
        self.say.setMinimumHeight(theme.px(44))
        self.help.setFont(theme.font(14))
        self.help.setStyleSheet(f"color: {theme.tokens.quiet}")

    def show_class(self, plan: ClassPlan | None) -> None:
        """Show a class; None for none. What has been typed is of the one that was shown before."""
        if self.plan is not None and (plan is None or plan.id != self.plan.id):
            self.commit()
        self.plan = plan
        piece = self._desk.piece
        if plan is None or piece is None:
            return
        self.items.show_stages([StageShown(item_title(i, piece), f"{i.minutes} min") for i in plan.items])
        for widget in (self.line, self.say):
            widget.setVisible(bool(plan.items))
        self._show_item()

    @property
    def item(self) -> ClassItem | None:
        """The item that is stood on."""
        at = self.items.current
        return self.plan.items[at] if self.plan is not None and at < len(self.plan.items) else None

    def _show_item(self) -> None:
        item, piece = self.item, self._desk.piece
        if item is None or piece is None:
            return
        self.line.show_values(item_line(item, piece))
        # What is being typed stays, whatever else has changed.
        if self.say.text() != item.say and not self.say.isModified():
            self.say.setText(item.say)
        part = piece.part(item.part)
        stretch = part_stretch(read_in(piece, part, part.text, self._desk.shelf)) if part is not None else None
        self.view.setVisible(stretch is not None and bool(stretch.sounds))
        if stretch is not None:
            self.strip.show_stretch(stretch, self._desk.view.showing("relief", on=False))

    # Changing

    def _change(self, items: Sequence[ClassItem], label: str, at: int) -> None:
        if self.plan is not None:
            self.items.current = max(0, at)
            self.changed.emit(replace(self.plan, items=tuple(items)), label)

    def _asked(self, what: str) -> None:
        if self.plan is None:
            return
        items, at = list(self.plan.items), self.items.current
        if what == "run":
            self.run.emit(at)
        elif what == "put_in":
            self._change(
                [*items[: at + 1], ClassItem("drill", 5), *items[at + 1 :]], "Put an item in", at + bool(items)
            )
        elif what == "leave_out" and items:
            self._change([*items[:at], *items[at + 1 :]], "Leave the item out", at - 1)
        elif what in ("earlier", "later"):
            to = at + (1 if what == "later" else -1)
            if 0 <= to < len(items):
                items[at], items[to] = items[to], items[at]
                self._change(items, "Move the item", to)

    def _step(self, name: str, by: int) -> None:
        """Change one value of the item that is stood on."""
        item, piece = self.item, self._desk.piece
        if item is not None and piece is not None:
            self._put(item_stepped(item, piece, name, by))

    def commit(self) -> None:
        """Keep what has been typed."""
        item = self.item
        if item is not None and self.say.isModified():
            self.say.setModified(False)
            self._put(replace(item, say=" ".join(self.say.text().split())))

    def _put(self, item: ClassItem) -> None:
        if self.plan is not None and item != self.item:
            at = self.items.current
            self._change([*self.plan.items[:at], item, *self.plan.items[at + 1 :]], "Change the item", at)

    def focus_stops(self) -> list[QWidget]:
        """Where F6 goes here, in order."""
        return [self.items, self.line, self.say]
