"""The combo on Write: its passes on the thread, what all comes to above them, the line of the ledger below."""

from fractions import Fraction
from functools import partial

from msgspec.structs import replace
from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QFont, QResizeEvent, QShowEvent
from PySide6.QtWidgets import QHBoxLayout, QMenu, QVBoxLayout, QWidget

from firn.core.combos.fitting import could_come, could_stand_in
from firn.core.piece.piece import Piece
from firn.core.piece.unfold import Unfolded, groups_of, unfold
from firn.core.reading.finding import MendText
from firn.core.script.changes import changed_text
from firn.errors import FirnError
from firn.session.building import LABELS, PassShown, built, combo_changed, endings_offered
from firn.session.desk import whole_combo
from firn.session.stretch import Stretch, combo_stretch
from firn.ui.desk import Desk
from firn.ui.theme.theme import Theme
from firn.ui.widgets.labels import Label, shown
from firn.ui.widgets.passes import Passes, PassesView

STAND = (
    "Esc, then ← → stand on a pass. Alt+↑ ↓ once more or fewer, Alt+← → moves it, F other side, T turns it, "
    "Insert: what could come next, S: what could stand in for it, E: how it ends, Delete leaves it out, Enter opens "
    "its part."
)
EMPTY = "Esc, then Insert: which part it could begin with. Or write it below: A x2, B."
MOST_OFFERED = 12
LINES_PX = 96
"""The room for what is said above the passes and below them."""


class BuildView(QWidget):
    """Shows the combo on the desk. `told`: why a change cannot be; `walked`: another pass is stood on; `typed`: an
    ending is to be typed, with the one there is and what is done with it."""

    told = Signal(str)
    typed = Signal(str, object)
    walked = Signal()

    def __init__(self, desk: Desk, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._desk, self._theme = desk, theme
        self.passes = Passes(theme)
        self.view = PassesView(self.passes)
        self.totals, self.ledger = Label(), Label()
        for label in (self.totals, self.ledger):
            label.setWordWrap(True)
        self.ledger.setAlignment(Qt.AlignmentFlag.AlignTop)
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 6)
        box.setSpacing(4)
        for label in (self.totals, self.ledger):
            row = QHBoxLayout()
            row.setContentsMargins(24, 4, 24, 0)
            row.addWidget(label)
            box.addLayout(row)
        # Beside the letters of the lanes there is room for the mark of the keyboard.
        thread = QHBoxLayout()
        thread.setContentsMargins(8, 0, 0, 0)
        thread.addWidget(self.view)
        box.insertLayout(1, thread, 1)
        self.menu: QMenu | None = None
        # Which of the groups is shown, where groups dance.
        self._group = 0
        self.passes.walked.connect(self._walked)
        self.passes.selected.connect(desk.choose)
        self.passes.asked.connect(self._asked)
        theme.changed.connect(self._restyle)
        self._restyle()

    def _restyle(self) -> None:
        self.totals.setFont(self._theme.font(15, QFont.Weight.DemiBold))
        self.ledger.setFont(self._theme.font(15))

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        # Where there is hardly room for a row of passes, what is said of one is left to a screen reader.
        self.ledger.setVisible(self.height() >= self.passes.row_height + self._theme.px(LINES_PX))

    def showEvent(self, event: QShowEvent) -> None:
        super().showEvent(event)
        self.show_desk()

    def show_desk(self) -> None:
        """Show the combo on the desk, if it is seen."""
        combo, stretch = self._desk.combo, self._desk.stretch
        if combo is not None and stretch is not None and self.isVisible():
            self._show(combo, stretch)

    def show_mended(self, mend: MendText) -> None:
        """Show the combo as a mend would leave it, until it is shown again as it is."""
        piece = self._desk.piece
        if piece is not None and self.isVisible():
            text = changed_text(self._desk.text, mend.changes)
            read, whole, _ = whole_combo(replace(piece, combo=text), self._desk.shelf)
            self._show((read, whole), combo_stretch(read, whole))

    def _show(self, combo: tuple[Piece, Unfolded], stretch: Stretch) -> None:
        piece, whole = combo
        groups = groups_of(piece.combo)
        group = groups[self._group % len(groups)] if groups else None
        if group is not None and group != groups[0]:
            whole = unfold(piece, group)
            stretch = combo_stretch(piece, whole)
        build = built(piece, whole, self._desk.transport.tempo, group)
        self.passes.show_combo(stretch, build, self._desk.view)
        self.totals.setText(build.totals if build.passes else EMPTY)
        self._show_ledger()

    def _show_ledger(self) -> None:
        one = self.passes.stood_on
        self.ledger.setText(one.said if one is not None else STAND if self.passes.passes else "")

    def turned(self) -> None:
        """Another part, or piece, is on show: no pass is stood on."""
        self.passes.stand_on(None)
        self._group = 0

    def stand_on_sound(self, sound: int) -> None:
        """Stand on the pass that a sound is of."""
        index = self.passes.pass_with(sound)
        if index is not None:
            self.passes.stand_on(index)
            self._walked(index)

    @property
    def sound(self) -> int | None:
        """The first sound of the pass that is stood on, by its index."""
        one = self.passes.stood_on
        return one.sound if one is not None else None

    def show_played(self, position: Fraction | None) -> None:
        """Ink the thread to a position."""
        self.view.show_played(position)

    def _walked(self, index: int) -> None:
        self.view.reveal(index)
        self._show_ledger()
        self.walked.emit()

    # By hand

    def _asked(self, what: str, value: object) -> None:
        one, piece = self.passes.stood_on, self._desk.piece
        if piece is None:
            return
        if one is None:
            if what == "put_in":
                self._ask_part(-1, what)
        elif what == "group":
            self._group += 1
            self.show_desk()
        elif what == "open":
            part = next((p for p in piece.parts if p.name == one.part), None)
            if part is not None:
                self._desk.go_to(piece.id, part.id)
            else:
                self.told.emit(f"{one.part} is said in the combo itself: F9 goes to its words.")
        elif what in ("put_in", "stand_in"):
            self._ask_part(one.item, what)
        elif what == "ends":
            self._ask_ending(one)
        else:
            self.change(one.item, what, value)

    def _ask_part(self, item: int, what: str) -> None:
        """Ask which part comes after an item, or stands in for a pass of it: those that fit, the best first, with
        reasons; -1 where there is no item yet."""
        combo, at = self._desk.combo, self.passes.current or 0
        if combo is None:
            return
        piece, whole = combo
        # After all times of the item.
        last = max((n for n, one in enumerate(self.passes.passes) if one.item == item), default=None)
        fits = could_come(piece, whole, last) if what == "put_in" else could_stand_in(piece, whole, at)
        self.menu = QMenu(self)
        for fit in fits[:MOST_OFFERED]:
            action = self.menu.addAction(f"{shown(fit.part)}    {fit.counts} counts; {'; '.join(fit.why)}")
            action.triggered.connect(lambda _=False, name=fit.part: self.change(item, what, name))
        fitting = {fit.part for fit in fits}
        others = [part for part in piece.parts if part.sounds and part.name not in fitting]
        if what == "put_in" and others:
            self.menu.addSeparator()
            for part in others:
                action = self.menu.addAction(f"{shown(part.name)}    the foot that it begins on is not free")
                action.triggered.connect(lambda _=False, name=part.name: self.change(item, what, name))
        if not self.menu.actions():
            empty = "There is no part with steps yet."
            self.told.emit(empty if what == "put_in" else "No other part is as long and ends on the same foot.")
            return
        self.menu.setActiveAction(self.menu.actions()[0])
        self.menu.popup(self.passes.mapToGlobal(self.passes.row_shown(at).center()))

    def _ask_ending(self, one: PassShown) -> None:
        """Ask how a pass ends: endings with what each comes to, or one that is typed."""
        piece = self._desk.piece
        combo = self._desk.combo
        part = combo[0].part(one.part) if combo is not None else None
        if piece is None or combo is None or part is None:
            return
        item = combo[0].combo[one.item]
        now = item.ends_of(one.time)
        self.menu = QMenu(self)
        for offered in endings_offered(part):
            action = self.menu.addAction(shown(offered.said))
            action.setCheckable(True)
            action.setChecked(offered.text == now)
            value = (one.time, offered.text)
            action.triggered.connect(lambda _=False, value=value: self.change(one.item, "ends", value))
        self.menu.addSeparator()
        typed = self.menu.addAction("Another ending…")
        typed.triggered.connect(lambda: self.typed.emit(now, partial(self._type_ending, one)))
        self.menu.setActiveAction(self.menu.actions()[0])
        self.menu.popup(self.passes.mapToGlobal(self.passes.row_shown(self.passes.current or 0).center()))

    def _type_ending(self, one: PassShown, text: str) -> None:
        """A pass ends as it was typed."""
        said = " ".join(text.replace(",", " ").split())
        self.change(one.item, "ends", (one.time, said))

    def change(self, item: int, what: str, value: object) -> None:
        """Change an item of the combo, and the text with it."""
        combo = self._desk.combo
        if combo is None:
            return
        try:
            text, at = combo_changed(combo[0], self._desk.text, item, what, value)
        except FirnError as fault:
            self.told.emit(str(fault))
            return
        self._desk.change(text, LABELS[what])
        index = next((n for n, one in enumerate(self.passes.passes) if one.item == at), None)
        self.passes.stand_on(index)
        if index is not None:
            self._walked(index)
