"""Read: the part with what is to be done about it, one sound at a time, and its rhythm under several faces."""

from fractions import Fraction
from functools import partial

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QShowEvent
from PySide6.QtWidgets import QBoxLayout, QHBoxLayout, QPushButton, QStackedWidget, QVBoxLayout, QWidget

from firn.core.piece.piece import Part
from firn.core.reading.finding import MendText
from firn.session.note import Note
from firn.session.reading import compared, grouped, sound_said
from firn.session.stretch import Stretch, described
from firn.ui.desk import Desk
from firn.ui.pages.entries import PageView
from firn.ui.pages.read.face import Face
from firn.ui.pages.read.groups import GroupsFace
from firn.ui.pages.read.measures import MeasuresFace
from firn.ui.pages.read.pace import PaceFace
from firn.ui.pages.read.rhythm import RhythmFace
from firn.ui.pages.read.rounds import RoundsFace
from firn.ui.theme.theme import Theme
from firn.ui.widgets.labels import Label, heading, rule
from firn.ui.widgets.notes import NotesView
from firn.ui.widgets.room import Page, side_by_side
from firn.ui.widgets.strip.strip import Strip
from firn.ui.widgets.strip.view import StripView
from firn.ui.widgets.tabs import ThreadTabs

STAND = "Stand on a sound (F6, then the arrows): here it says where the meter has it, and how the feet stand."
EMPTY = "Write a part first: then it is checked and measured here."
COMBO = "A combo is built on Write, pass by pass, each with its line of the ledger. What is measured here is a part."


class ReadPage(Page, PageView):
    """The page on which a part is checked. `mended`: a mend that is taken; `hear`: what hangs over is to be heard,
    True for in turn with it straightened."""

    mended = Signal(object)
    hear = Signal(bool)
    NARROW_PX, NARROW_HEIGHT_PX = 1_080, 960

    def __init__(self, desk: Desk, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(theme, parent)
        self._desk = desk
        self._face = 0
        self.strip = Strip(theme)
        self._view = StripView(self.strip, whole=True)
        self.notes = NotesView(theme)
        self.sound, self.beside = Label(), Label()
        # What the latter tells of.
        self._compared: tuple[Part, str] | None = None
        for label in (self.sound, self.beside):
            label.setWordWrap(True)
        self.sound.setAlignment(Qt.AlignmentFlag.AlignTop)
        self.hear_button = QPushButton("Hear what hangs over  Q")
        self.turn_button = QPushButton("In turn with it straight  Shift+Q")
        self.measures, self.rhythm = MeasuresFace(theme, desk.aside), RhythmFace(theme)
        self.rounds, self.groups, self.pace = RoundsFace(theme), GroupsFace(theme), PaceFace(theme)
        self.faces: tuple[Face, ...] = (self.measures, self.rhythm, self.rounds, self.groups, self.pace)
        self.tabs = ThreadTabs(theme, "Faces of the rhythm", threaded=False)
        self.key = Label("G")
        self.stack = QStackedWidget()
        for face in self.faces:
            self.stack.addWidget(face)
        self._lay_out()
        self.strip.walked.connect(self._stand_on)
        self.strip.selected.connect(desk.choose)
        self.notes.pointed.connect(self._point)
        self.notes.mended.connect(self.mended)
        self.notes.looked.connect(self._preview)
        self.measures.measured.connect(self._show_beside)
        self.tabs.picked.connect(self.show_face)
        self.hear_button.clicked.connect(lambda: self.hear.emit(False))
        self.turn_button.clicked.connect(lambda: self.hear.emit(True))
        desk.shown.connect(self.show_desk)
        desk.noted.connect(self.show_desk)
        desk.turned.connect(self._turned)
        desk.danced.connect(self._danced)
        theme.changed.connect(self._restyle)
        self.show_face(0)
        self._restyle()

    def _lay_out(self) -> None:
        left = QVBoxLayout()
        left.setSpacing(4)
        left.addWidget(heading(self._theme, "What to do"))
        left.addWidget(self.notes, 1)
        middle = QVBoxLayout()
        middle.setSpacing(6)
        middle.addWidget(heading(self._theme, "This sound"))
        middle.addWidget(self.sound)
        middle.addSpacing(8)
        middle.addWidget(self.beside)
        middle.addStretch(1)
        middle.addWidget(self.hear_button)
        middle.addWidget(self.turn_button)
        told = QHBoxLayout()
        told.setSpacing(28)
        told.addLayout(left, 10)
        told.addLayout(middle, 8)
        right = QVBoxLayout()
        right.setSpacing(2)
        names = QHBoxLayout()
        names.addWidget(self.tabs)
        names.addWidget(self.key)
        names.addStretch(1)
        right.addLayout(names)
        right.addWidget(self.stack, 1)
        self._below = QBoxLayout(QBoxLayout.Direction.LeftToRight)
        self._below.setContentsMargins(24, 10, 24, 8)
        self._below.setSpacing(28)
        self._below.addLayout(told, 18)
        self._below.addLayout(right, 12)
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.setSpacing(0)
        box.addWidget(self._view, 34)
        box.addWidget(rule())
        self._box = box
        box.addLayout(self._below, 66)

    def arrange(self) -> None:
        """What is to do and the faces beside each other where there is room, else below."""
        side_by_side(self._below, not self.narrow)
        self._below.setStretch(0, 10 if self.narrow else 18)
        self._box.setStretch(0, 26 if self.narrow else 34)

    def _restyle(self) -> None:
        for label in (self.sound, self.beside):
            label.setFont(self._theme.font(15))
        self.key.setFont(self._theme.font(13))
        self.show_desk()

    # Showing

    def showEvent(self, event: QShowEvent) -> None:
        super().showEvent(event)
        self.show_desk()

    @property
    def face(self) -> Face:
        """The face on show."""
        return self.faces[self._face]

    def show_face(self, index: int) -> None:
        """Show another face of the rhythm."""
        self._face = index
        self._show_face()

    def next_face(self) -> None:
        """Show the next face."""
        self.show_face((self._face + 1) % len(self.faces))

    def _show_face(self) -> None:
        if not self.isVisible():
            return
        part = not self._desk.on_combo
        self.stack.setVisible(part)
        self.key.setVisible(part)
        if not part:
            self.tabs.show_names([], 0)
            return
        self.tabs.show_names([face.title for face in self.faces], self._face)
        self.stack.setCurrentIndex(self._face)
        self.face.show_part(self._desk.part, self._desk.transport.tempo)

    def show_desk(self) -> None:
        """Show what the desk holds, if the page is on show."""
        if not self.isVisible():
            return
        desk = self._desk
        if desk.stretch is not None:
            self.strip.show_stretch(desk.stretch, desk.view)
        self.strip.setVisible(desk.stretch is not None)
        notes = grouped(desk.notes) if desk.want_notes() else []
        self.notes.show_notes(notes)
        self.strip.show_marks({n.sound: n.level for n in reversed(notes) if n.sound is not None and n.level != "ok"})
        hangs = bool(desk.stretch and desk.stretch.hangs)
        self.hear_button.setVisible(hangs)
        self.turn_button.setVisible(hangs)
        self._show_face()
        self._show_beside()
        self._show_sound()

    def _show_beside(self) -> None:
        """The part beside well-known patterns."""
        part, over = self._desk.part, self.measures.over
        if part is None or not part.sounds:
            self._compared = None
            self.beside.setText("")
        elif self._compared is None or self._compared[0] is not part or self._compared[1] != over:
            self._compared = part, over
            self.beside.setText("")
            self._desk.aside("compared", "Measuring", lambda task: compared(part, over), self.beside.setText)

    def _turned(self) -> None:
        self.strip.stand_on(None)
        self._view.to_top()
        self.show_desk()

    def _danced(self) -> None:
        self.strip.show_chosen(self._desk.transport.chosen)
        self._show_face()
        self._show_sound()

    def _show_sound(self) -> None:
        part, stretch, index = self._desk.part, self.strip.stretch, self.strip.current
        if part is None:
            known = stretch is not None and index is not None and index < len(stretch.sounds)
            told = f"{described(stretch, index)}." if known and stretch and index is not None else COMBO
            self.sound.setText(told if self._desk.on_combo else EMPTY)
        elif not part.sounds or stretch is None:
            self.sound.setText(EMPTY)
        elif index is None or index >= len(part.sounds):
            self.sound.setText(STAND)
        else:
            self.sound.setText("\n".join(self._said_of(part, stretch, index)))

    def _said_of(self, part: Part, stretch: Stretch, index: int) -> list[str]:
        desk = self._desk
        return sound_said(part, stretch, index, desk.transport.tempo, desk.asked.style.any_ms)

    # Keys

    @property
    def current_note(self) -> Note | None:
        """The note that is stood on."""
        return self.notes.stood_on

    def looked_at(self) -> tuple[int | None, MendText | None]:
        """The sound that is stood on, by its finding or itself, and the mend of it that is looked at."""
        return self.notes.looked_at(self.strip.current)

    def next_way(self) -> None:
        """Show the face on show by something else."""
        self.face.next_way()

    def _stand_on(self, index: int) -> None:
        self._view.reveal(index)
        self._show_sound()

    def _point(self, note: Note) -> None:
        if note.sound is not None:
            self.strip.stand_on(note.sound)
            self._stand_on(note.sound)

    def _preview(self, looked: tuple[str, MendText] | None) -> None:
        """Show the strip as a mend would leave it; None for as it is written."""
        if looked is None:
            self.show_desk()
            return
        done = partial(self._show_mended, self.notes.keys_said(looked))
        self._desk.aside("mended", "Trying the mend", self._desk.mending(looked[1]), done)

    def _show_mended(self, label: str, made: Stretch | None) -> None:
        if made is None or not self.notes.hasFocus():
            return
        self.strip.show_stretch(made, self._desk.view)
        self.strip.show_marks({})
        self.sound.setText(label)

    def take_mend(self, number: int) -> None:
        """Take the mend of a number, from 1, of those on show."""
        self.notes.take_mend(number)

    def show_played(self, position: Fraction | None) -> None:
        """Ink the thread to a position."""
        self._view.show_played(position)

    def focus_stops(self) -> list[QWidget]:
        """Where F6 goes on this page, in order."""
        faces = [] if self._desk.on_combo else [self.tabs, self.face.stop]
        return [self.strip, self.notes, *faces]
