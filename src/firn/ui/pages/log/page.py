"""Log: what was danced when, how clean, and the best clean tempo of each step over time."""

from datetime import date, timedelta

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QFont, QShowEvent
from PySide6.QtWidgets import (
    QBoxLayout,
    QHBoxLayout,
    QListWidget,
    QListWidgetItem,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from firn.core.book.log import Best, LogEntry, best_clean, ear_record
from firn.core.book.students import OWNER
from firn.session.class_log import class_said
from firn.ui.desk import Desk
from firn.ui.pages.entries import PageView
from firn.ui.pages.log.rows import ENTRY, NEW_DAY, EntryRow, columns
from firn.ui.theme.theme import Theme
from firn.ui.widgets.labels import Label, heading, repolish, rule
from firn.ui.widgets.room import Page, side_by_side
from firn.ui.widgets.tempos.chart import TempoChart

SINCE_DAYS = 7

EMPTY = (
    "Nothing is in the log yet. A take that you record or bring in on Listen is noted once it is judged; "
    "a practice without one you note yourself."
)
_STEP = Qt.ItemDataRole.UserRole
EAR_WORDS = {
    "how_many": "how many sounds",
    "what_missing": "what was missing",
    "early_or_late": "early or late",
    "which_late": "which was late",
    "even_or_swung": "even or swung",
    "which_foot": "which foot",
    "same_or_changed": "same or changed",
    "where_is_one": "where is 1",
    "hold_or_none": "hold or none",
    "which_faster": "which is faster",
    "which_figure": "which figure",
    "": "earlier questions",
}


class LogPage(Page, PageView):
    """The page of the log. `note` and `change` (an entry) are asked for."""

    note = Signal()
    change = Signal(object)
    NARROW_HEIGHT_PX = 720

    def __init__(self, desk: Desk, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(theme, parent)
        self._desk = desk
        self.steps = QListWidget()
        self.steps.setWordWrap(True)
        self.steps.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.steps.setAccessibleName("Steps with their best clean tempos")
        self.chart = TempoChart(theme)
        self.entries = QListWidget()
        self.entries.setAccessibleName("What was danced, newest first")
        self.entries.setItemDelegate(EntryRow(theme, self.entries))
        self.entries.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.empty = Label(EMPTY)
        self.empty.setWordWrap(True)
        self.ear = Label()
        self.ear.setWordWrap(True)
        self.note_button = QPushButton("Note a practice…  N")
        self.change_button = QPushButton("Change it…  Enter")
        self._lay_out()
        self.note_button.clicked.connect(self.note)
        self.change_button.clicked.connect(self.ask_change)
        self.steps.currentItemChanged.connect(lambda *_: self._show_step())
        self.entries.itemActivated.connect(lambda _: self.ask_change())
        desk.bridge.changed.connect(self.show_log)
        theme.changed.connect(self._restyle)
        self._restyle()

    def _lay_out(self) -> None:
        self._steps_heading = heading(self._theme, "Best clean tempo")
        left = QVBoxLayout()
        left.setSpacing(6)
        left.addWidget(self._steps_heading)
        left.addWidget(self.steps, 1)
        above = QHBoxLayout()
        above.setContentsMargins(24, 10, 24, 6)
        above.setSpacing(30)
        above.addLayout(left, 10)
        above.addWidget(self.chart, 21)
        self._entries_heading = heading(self._theme, "What was danced")
        buttons = QHBoxLayout()
        buttons.setSpacing(12)
        buttons.addWidget(self.change_button)
        buttons.addWidget(self.note_button)
        self._ways = QBoxLayout(QBoxLayout.Direction.LeftToRight)
        self._ways.setSpacing(12)
        self._ways.addWidget(self._entries_heading)
        self._ways.addWidget(self.ear, 1)
        self._ways.addLayout(buttons)
        below = QVBoxLayout()
        below.setContentsMargins(24, 8, 24, 10)
        below.setSpacing(6)
        below.addLayout(self._ways)
        below.addWidget(self.empty)
        below.addWidget(self.entries, 1)
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.setSpacing(0)
        box.addLayout(above, 11)
        box.addWidget(rule())
        box.addLayout(below, 10)

    def arrange(self) -> None:
        """The heading and what can be done beside each other where there is room, else below."""
        side_by_side(self._ways, not self.narrow)

    def _restyle(self) -> None:
        self.empty.setFont(self._theme.font(18, QFont.Weight.Medium))
        self.ear.setFont(self._theme.font(14))
        self.ear.setStyleSheet(f"color: {self._theme.tokens.quiet}")
        self.steps.setFont(self._theme.font(16))

    # Showing

    @property
    def entry(self) -> LogEntry | None:
        """The entry that is stood on."""
        item = self.entries.currentItem()
        entry: LogEntry | None = item.data(ENTRY) if item is not None else None
        return entry

    def show_log(self) -> None:
        """Show what the workbook's log holds, if the page is on show."""
        if not self.isVisible():
            return
        log = sorted(self._desk.bridge.book.own_log, key=lambda e: e.when, reverse=True)
        self.empty.setVisible(not log)
        for widget in (self._steps_heading, self.steps, self.chart, self._entries_heading, self.entries):
            widget.setVisible(bool(log))
        self.change_button.setVisible(bool(log))
        self.note_button.setProperty("next", "false" if log else "true")
        repolish(self.note_button)
        self._show_ear()
        self._show_steps()
        self._show_entries(log)

    def showEvent(self, event: QShowEvent) -> None:
        super().showEvent(event)
        self.show_log()

    def _show_ear(self) -> None:
        book, piece = self._desk.bridge.book, self._desk.piece
        if book.students and book.who == OWNER and piece is not None:
            # The owner's log is the class's: what its students did since a week ago, and what they lack.
            since = (date.today() - timedelta(days=SINCE_DAYS)).isoformat()
            told = class_said(book, piece, float(piece.settings.tempo), since)
            if told:
                self.ear.setText(f"{told} Ctrl+Alt+L reviews it.")
                return
        record = ear_record(self._desk.bridge.book.own_ear)
        said = [f"{EAR_WORDS[kind]} {right} of {of}" for kind, (right, of) in record.items()]
        self.ear.setText(f"Your ear: {', '.join(said)}." if said else "")

    def _show_steps(self) -> None:
        """Each step once, its best clean tempo on either side; the one shown before stays shown."""
        log = self._desk.bridge.book.own_log
        bests = best_clean(log)
        keys: dict[str, str] = {}
        for entry in sorted(log, key=lambda e: e.when):
            keys[entry.part or entry.step] = entry.step
        now = self.steps.currentItem().data(_STEP) if self.steps.currentItem() is not None else self._desk.part_id
        blocked = self.steps.blockSignals(True)
        self.steps.clear()
        for key, name in sorted(keys.items(), key=lambda k: k[1].casefold()):
            own = [b for b in bests if b.step == name]
            said = ", ".join(f"{b.side} {b.tempo:g}".strip() for b in own) or "not yet clean"
            item = QListWidgetItem(f"{name}:  {said}")
            item.setData(_STEP, key)
            self.steps.addItem(item)
            if key == now:
                self.steps.setCurrentItem(item)
        if self.steps.currentRow() < 0 and self.steps.count():
            self.steps.setCurrentRow(0)
        self.steps.blockSignals(blocked)
        self._show_step()

    def _show_step(self) -> None:
        item = self.steps.currentItem()
        key = item.data(_STEP) if item is not None else ""
        entries = [e for e in self._desk.bridge.book.own_log if (e.part or e.step) == key]
        bests: list[Best] = best_clean(entries)
        self.chart.show_step(entries, bests)

    def _show_entries(self, log: list[LogEntry]) -> None:
        now = self.entry.id if self.entry is not None else ""
        self.entries.clear()
        day = ""
        for entry in log:
            item = QListWidgetItem(", ".join(t for t in columns(entry) if t))
            item.setData(ENTRY, entry)
            item.setData(NEW_DAY, bool(day) and entry.day != day)
            day = entry.day
            self.entries.addItem(item)
            if entry.id == now:
                self.entries.setCurrentItem(item)
        if self.entries.currentRow() < 0 and self.entries.count():
            self.entries.setCurrentRow(0)

    # Asking

    def ask_change(self) -> None:
        """Ask to change the entry that is stood on."""
        if self.entry is not None:
            self.change.emit(self.entry)

    def focus_stops(self) -> list[QWidget]:
        """Where F6 goes on this page, in order."""
        return [self.steps, self.entries] if self.entries.isVisible() else [self.note_button]
