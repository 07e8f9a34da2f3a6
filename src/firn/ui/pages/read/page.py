"""Read: the part with what is to be done about it, one sound at a time, and the published measures of its rhythm."""

from fractions import Fraction

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QFont, QShowEvent
from PySide6.QtWidgets import (
    QAbstractItemView,
    QFrame,
    QHBoxLayout,
    QHeaderView,
    QLabel,
    QPushButton,
    QTableWidget,
    QTableWidgetItem,
    QVBoxLayout,
    QWidget,
)

from firn.core.reading.profile import OVERS, Over
from firn.session.desk import Note
from firn.session.reading import compared, grouped, rows, sound_said
from firn.ui.desk import Desk
from firn.ui.theme.theme import Theme
from firn.ui.widgets.labels import heading, rule
from firn.ui.widgets.notes import NotesView
from firn.ui.widgets.strip.strip import Strip
from firn.ui.widgets.strip.view import StripView

STAND = "Stand on a sound (F6, then the arrows): here it says where the meter has it, and how the feet stand."
EMPTY = "Write a part first: then it is checked and measured here."
COMBO = "A combo is checked here; what is measured is a part."
MOST_PHRASES = 8

_LEFT = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter
_RIGHT = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter


class ReadPage(QWidget):
    """The page on which a part is checked. `mended`: a mend that is taken."""

    mended = Signal(object)

    def __init__(self, desk: Desk, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._desk, self._theme = desk, theme
        self.over: Over = OVERS[0]
        self.strip = Strip(theme)
        self._view = StripView(self.strip)
        self.notes = NotesView(theme)
        self.sound = QLabel()
        self.sound.setWordWrap(True)
        self.sound.setAlignment(Qt.AlignmentFlag.AlignTop)
        self.table = QTableWidget()
        self.table.setAccessibleName("Measures of the rhythm")
        self.table.setEditTriggers(QAbstractItemView.EditTrigger.NoEditTriggers)
        self.table.setSelectionBehavior(QAbstractItemView.SelectionBehavior.SelectRows)
        self.table.setSelectionMode(QAbstractItemView.SelectionMode.SingleSelection)
        self.table.verticalHeader().hide()
        self.table.setShowGrid(False)
        self.table.setFrameShape(QFrame.Shape.NoFrame)
        self.table.horizontalHeader().setDefaultAlignment(_RIGHT)
        self.table.horizontalHeader().setHighlightSections(False)
        self.table.setTabKeyNavigation(False)
        self.over_button = QPushButton()
        self.beside = QLabel()
        self.says = QLabel()
        for label in (self.beside, self.says):
            label.setWordWrap(True)
        self._lay_out()
        self.strip.walked.connect(self._stand_on)
        self.strip.selected.connect(desk.choose)
        self.notes.pointed.connect(self._point)
        self.notes.mended.connect(self.mended)
        self.over_button.clicked.connect(self.measure_over)
        self.table.currentCellChanged.connect(lambda row, *_: self._say(row))
        desk.shown.connect(self.show_desk)
        desk.turned.connect(self._turned)
        desk.danced.connect(lambda: self.strip.show_chosen(desk.transport.chosen))
        theme.changed.connect(self._restyle)
        self._restyle()

    def _lay_out(self) -> None:
        left = QVBoxLayout()
        left.setSpacing(4)
        left.addWidget(heading(self._theme, "What to do"))
        left.addWidget(self.notes, 1)
        middle = QVBoxLayout()
        middle.setSpacing(4)
        middle.addWidget(heading(self._theme, "This sound"))
        middle.addWidget(self.sound, 1)
        middle.addWidget(self.beside)
        head = QHBoxLayout()
        head.addWidget(heading(self._theme, "Rhythm, measured over"))
        head.addWidget(self.over_button)
        head.addStretch(1)
        right = QVBoxLayout()
        right.setSpacing(4)
        right.addLayout(head)
        right.addWidget(self.table, 1)
        right.addWidget(self.says)
        below = QHBoxLayout()
        below.setContentsMargins(24, 10, 24, 8)
        below.setSpacing(28)
        below.addLayout(left, 10)
        below.addLayout(middle, 8)
        below.addLayout(right, 12)
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.setSpacing(0)
        box.addWidget(self._view, 42)
        box.addWidget(rule())
        box.addLayout(below, 58)

    def _restyle(self) -> None:
        theme = self._theme
        for label in (self.sound, self.beside, self.says):
            label.setFont(theme.font(15))
        self.table.setFont(theme.font(15))
        self.table.horizontalHeader().setFont(theme.font(14, QFont.Weight.DemiBold))
        self.table.verticalHeader().setDefaultSectionSize(theme.px(22))
        self.show_desk()

    # Showing

    def showEvent(self, event: QShowEvent) -> None:
        super().showEvent(event)
        self.show_desk()

    def show_desk(self) -> None:
        """Show what the desk holds, if the page is on show."""
        if not self.isVisible():
            return
        desk = self._desk
        if desk.stretch is not None:
            self.strip.show_stretch(desk.stretch, desk.view)
        self.strip.setVisible(desk.stretch is not None)
        notes = grouped(desk.notes)
        self.notes.show_notes(notes)
        self.strip.show_marks({n.sound: n.level for n in reversed(notes) if n.sound is not None and n.level != "ok"})
        self._show_measures()
        self._show_sound()

    def _turned(self) -> None:
        self.strip.stand_on(None)
        self._view.to_top()
        self.show_desk()

    def _show_measures(self) -> None:
        part = self._desk.part
        self.over_button.setText(f"{self.over}  X")
        found = rows(part, self.over) if part is not None and part.sounds else []
        phrases = min(MOST_PHRASES, len(found[0].phrases)) if found else 0
        at = self.table.currentRow()
        self.table.setRowCount(len(found))
        self.table.setColumnCount(2 + phrases)
        self.table.setHorizontalHeaderLabels(["Measure", "Part", *(f"phrase {n + 1}" for n in range(phrases))])
        self.table.horizontalHeaderItem(0).setTextAlignment(_LEFT)
        header = self.table.horizontalHeader()
        header.setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
        header.setSectionResizeMode(0, QHeaderView.ResizeMode.Stretch)
        for number, row in enumerate(found):
            for column, text in enumerate((row.name, row.value, *row.phrases[:phrases])):
                item = QTableWidgetItem(text)
                item.setToolTip(row.says)
                item.setTextAlignment(_RIGHT if column else _LEFT)
                self.table.setItem(number, column, item)
        self.table.setVisible(bool(found))
        self.beside.setText(compared(part, self.over) if part is not None and found else "")
        self._say(at)

    def _say(self, row: int) -> None:
        """What a measure says, and of whom it is."""
        item = self.table.item(max(0, row), 0)
        self.says.setText(item.toolTip() if item is not None else "")

    def _show_sound(self) -> None:
        part, stretch, index = self._desk.part, self.strip.stretch, self.strip.current
        if part is None:
            self.sound.setText(COMBO if self._desk.on_combo else EMPTY)
        elif not part.sounds or stretch is None:
            self.sound.setText(EMPTY)
        elif index is None or index >= len(part.sounds):
            self.sound.setText(STAND)
        else:
            self.sound.setText("\n\n".join(sound_said(part, stretch, index)))

    # Keys

    @property
    def current_note(self) -> Note | None:
        """The note that is stood on."""
        row = self.notes.currentRow()
        return self.notes.notes[row] if 0 <= row < len(self.notes.notes) else None

    def measure_over(self) -> None:
        """Measure over the next kind of sounds."""
        self.over = OVERS[(OVERS.index(self.over) + 1) % len(OVERS)]
        self._show_measures()

    def _stand_on(self, index: int) -> None:
        self._view.reveal(index)
        self._show_sound()

    def _point(self, note: Note) -> None:
        if note.sound is not None:
            self.strip.stand_on(note.sound)
            self._stand_on(note.sound)

    def show_played(self, position: Fraction | None) -> None:
        """Ink the thread to a position."""
        self._view.show_played(position)

    def focus_stops(self) -> list[QWidget]:
        """Where F6 goes on this page, in order."""
        return [self.strip, self.notes, self.table]
