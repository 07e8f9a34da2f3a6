"""Write: the strip above, the script below, what is worth a look beside it."""

from collections.abc import Callable
from fractions import Fraction
from functools import cached_property, partial
from typing import TYPE_CHECKING

from PySide6.QtCore import Qt, QTimer, Signal
from PySide6.QtGui import QGuiApplication, QShowEvent
from PySide6.QtWidgets import QHBoxLayout, QPushButton, QSizePolicy, QStackedWidget, QVBoxLayout, QWidget

from firn.core.piece.piece import Part
from firn.core.reading.finding import MendText
from firn.core.task import Task
from firn.errors import FirnError
from firn.session.note import Note
from firn.session.stretch import Stretch
from firn.ui.desk import AT_ONCE, Desk
from firn.ui.pages.entries import PageView
from firn.ui.theme.theme import Theme
from firn.ui.widgets.labels import heading, rule
from firn.ui.widgets.notes import NotesView
from firn.ui.widgets.script_editor import Place, ScriptEditor
from firn.ui.widgets.strip.hand import kinds_menu
from firn.ui.widgets.strip.strip import Strip
from firn.ui.widgets.strip.view import StripView

if TYPE_CHECKING:
    from firn.core.piece.by_hand import Drawn
    from firn.core.script.complete import Completion
    from firn.ui.pages.write.build import BuildView
    from firn.ui.pages.write.clip import ClipView
    from firn.ui.pages.write.tapping import TapView

SOON_DRAWN = 2_500
"""A part of so many sounds is changed by hand within a tenth of a second."""

LOW = 150
"""How high the text is under a clip, in pixels at usual text size."""

_ANY = 16_777_215

TYPED_MS = 120
"""So long after the last key what is worth a look in a long part is worked out."""

FIRST_MS = 40
"""So long after the window is there it is worked out first: the keys come before it."""

LOOK = "Worth a look"
TRY = "8 stomp  1 hop  2 step  &3 flap  & step"
TRY_COMBO = "{part} x3, {part} other side"


def _meaning(offer: "Completion") -> str:
    """What a word means: its rhythm, and the card where the word is another name of it."""
    other = "" if offer.card.name == offer.name else f"   ({offer.card.name})"
    return f"{offer.rhythm}{other}"


class WritePage(QWidget, PageView):
    """The page on which steps are written. `told`: why a change on the strip cannot be; `ending`: one of a pass is to
    be typed, with the one there is and what is done with it."""

    told = Signal(str)
    ending = Signal(str, object)

    def __init__(self, desk: Desk, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._desk, self._theme = desk, theme
        self.strip = Strip(theme)
        self.editor = ScriptEditor(theme)
        self.notes = NotesView(theme)
        self.look_head = heading(theme, LOOK)
        self.look_head.setWordWrap(True)
        self.try_line = QPushButton()
        self.try_line.setProperty("next", "true")
        self.try_line.clicked.connect(self.write_try_line)
        self._view = StripView(self.strip)
        self._top = QStackedWidget()
        self._top.addWidget(self._view)
        self._picked_in_text = False
        # Whether a change by hand is still being made.
        self._drawing: Callable[[], bool] = lambda: False
        # The strip first: what is worth a look is worked out once that is painted.
        self._looked = False
        self._looking = QTimer(self)
        self._looking.setSingleShot(True)
        self._looking.timeout.connect(self._show_notes)
        self._lay_out()
        self.editor.written.connect(desk.write)
        self.editor.moved.connect(self._caret_moved)
        self.editor.completing.connect(self._complete)
        self.editor.left.connect(self._to_strip)
        self.editor.unfinished.connect(lambda: self.told.emit("No word to complete here. Esc goes to the strip."))
        self.strip.walked.connect(self._stand_on)
        self.strip.selected.connect(desk.choose)
        self.strip.selected.connect(lambda _: self._look())
        self.strip.drawn.connect(self._draw)
        self.notes.pointed.connect(self._point)
        self.notes.mended.connect(self._mend)
        self.notes.looked.connect(self._preview)
        desk.shown.connect(self.show_desk)
        desk.noted.connect(lambda: self._looking.start(0))
        desk.turned.connect(self._turned)
        desk.danced.connect(lambda: self.strip.show_chosen(desk.transport.chosen))
        self.show_desk()

    def _lay_out(self) -> None:
        say = QVBoxLayout()
        say.setSpacing(4)
        say.addWidget(heading(self._theme, "Say it"))
        say.addWidget(self.editor, 1)
        say.addWidget(self.try_line, 0, Qt.AlignmentFlag.AlignLeft)
        look = QVBoxLayout()
        look.setSpacing(4)
        # The strip stays as high as it is, however many lines are said over the list.
        self.notes.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Ignored)
        look.addWidget(self.look_head)
        look.addWidget(self.notes, 1)
        self._below = QWidget()
        below = QHBoxLayout(self._below)
        below.setContentsMargins(24, 10, 24, 8)
        below.setSpacing(36)
        below.addLayout(say, 11)
        below.addLayout(look, 10)
        self._box = box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.setSpacing(0)
        box.addWidget(self._top, 62)
        box.addWidget(rule())
        box.addWidget(self._below, 38)

    @cached_property
    def build(self) -> "BuildView":
        """What shows a combo, made when one is first shown."""
        from firn.ui.pages.write.build import BuildView

        made = BuildView(self._desk, self._theme)
        self._top.addWidget(made)
        made.told.connect(self.told)
        made.typed.connect(self.ending)
        made.walked.connect(self._look)
        return made

    @cached_property
    def tapping(self) -> "TapView":
        """What takes taps, made when somebody first taps."""
        from firn.ui.pages.write.tapping import TapView

        return TapView(self._theme)

    @cached_property
    def clip(self) -> "ClipView":
        """A clip's picture with what is done to it, made when one is first opened; it stands above the strip."""
        from firn.ui.pages.write.clip import ClipView

        made = ClipView(self._theme)
        self._box.insertWidget(0, made, 44)
        return made

    @property
    def _clip_shown(self) -> bool:
        return "clip" in self.__dict__ and self.clip.isVisibleTo(self)

    def show_clip(self, shown: bool) -> None:
        """Show the clip above the strip, or the strip alone."""
        self.clip.setVisible(shown)
        self.clip.show_beside(None)
        self._below.setVisible(True)
        # The clip takes its room from the text: the strip stays the heart.
        self._below.setMaximumHeight(self._theme.px(LOW) if shown else _ANY)
        if not shown:
            self.strip.show_shade(())

    def show_tapping(self, shown: bool) -> None:
        """Show what takes taps in place of the text, beside a clip where one is on show; or the text again."""
        if self._clip_shown:
            self.clip.show_beside(self.tapping if shown else None)
        elif shown:
            self._box.insertWidget(0, self.tapping)
        self.tapping.setVisible(shown)
        self._below.setVisible(not shown)
        if not shown:
            self.show_desk()

    # Showing

    def show_desk(self) -> None:
        """Show what the desk holds, if the page is on show."""
        if not self.isVisible():
            return
        desk = self._desk
        stretch = desk.near_stretch
        self._top.setCurrentWidget(self.build if desk.on_combo else self._view)
        if desk.on_combo:
            self.build.show_desk()
        elif stretch is not None:
            self.strip.show_stretch(stretch, desk.view, more=not desk.whole)
        self.strip.setVisible(stretch is not None)
        self.strip.may_draw = not desk.on_combo
        self.editor.show_text(desk.text)
        self._follow_caret()
        self.editor.setEnabled(desk.piece is not None and desk.part_id != "")
        empty = not desk.text.strip() and self.editor.isEnabled()
        self.try_line.setVisible(empty)
        if empty:
            self.try_line.setText(f"Try:  {self._try_text()}".replace("&", "&&"))
        self._look()

    def showEvent(self, event: QShowEvent) -> None:
        super().showEvent(event)
        self.show_desk()

    def _look(self) -> None:
        """Show what is worth a look soon: of a long part, once the typing rests, or each key would begin it anew."""
        desk = self._desk
        if not desk.whole:
            # It is shown once more when all of it is read.
            self._looking.stop()
            return
        long = desk.stretch is not None and len(desk.stretch.sounds) > AT_ONCE
        at_once = self._looked or desk.drafting
        self._looking.start(TYPED_MS if long and desk.drafting else 0 if at_once else FIRST_MS)

    def _try_text(self) -> str:
        if not self._desk.on_combo:
            return TRY
        piece = self._desk.piece
        part = piece.parts[0].name if piece and piece.parts else "A"
        return TRY_COMBO.format(part=part)

    def write_try_line(self) -> None:
        """Write the line that is offered."""
        self._desk.change(self._try_text(), "Write the line that is offered")
        self.editor.setFocus()

    def _show_notes(self) -> None:
        if not self.isVisible() or not self._desk.whole or not self._desk.want_notes():
            return
        from firn.session.notes import written_notes

        self._looked = True
        caret = self.editor.caret if self.editor.hasFocus() else None
        notes = written_notes(self._desk.notes_but(caret))
        self.notes.show_notes(notes)
        self.strip.show_marks({n.sound: n.level for n in reversed(notes) if n.sound is not None and n.level != "ok"})
        places = [((n.line, n.column, n.end), n.level) for n in notes if n.line is not None]
        bad = [(place, "bad") for n in notes if n.level == "bad" and (place := self._word_place(n.sound)) is not None]
        words = dict.fromkeys(place for i in self.strip.picked if (place := self._word_place(i)) is not None)
        self.editor.show_places([*places, *bad], words)

    def _word_place(self, index: int | None) -> Place | None:
        """Where in the text a sound's word stands."""
        part = self._desk.part
        if index is None or part is None or index >= len(part.sounds):
            return None
        use = part.uses[part.sounds[index].use]
        return use.line, use.word.column, use.word.end

    def _turned(self) -> None:
        if "build" in self.__dict__:
            self.build.turned()
        self.strip.stand_on(None)
        self.strip.show_chosen(None)
        self._view.to_top()
        self.show_desk()

    def _complete(self, line: str) -> None:
        desk = self._desk
        if desk.on_combo:
            return
        from firn.core.script.complete import cards_used, completions

        # All but what the letters at the caret are read as.
        used = cards_used(desk.near.uses if desk.near is not None else (), *self.editor.caret)
        found = completions(line, desk.shelf.called(desk.settings.words), desk.settings.tradition, used)
        self.editor.offer([(c.column, c.name, _meaning(c)) for c in found])

    def _to_strip(self) -> None:
        """Leave the text: the strip has the keyboard, on the sound whose word the caret was in; or the passes."""
        if self._desk.on_combo:
            self.build.passes.setFocus(Qt.FocusReason.OtherFocusReason)
            return
        self.strip.setFocus(Qt.FocusReason.OtherFocusReason)
        if self.strip.current is None and self._desk.stretch is not None and self._desk.stretch.sounds:
            self.strip.stand_on(0)

    # Following each other

    def _caret_moved(self) -> None:
        if self._follow_caret():
            self._look()

    def _follow_caret(self) -> bool:
        """Stand on the sound whose word the caret is in, the row that is typed in kept in sight."""
        part, stretch = self._desk.near, self._desk.near_stretch
        if not self.editor.hasFocus() or not self.isVisible() or part is None:
            return False
        if self._follow_selection(part):
            return True
        inside, near = part.said_at(*self.editor.caret)
        self.strip.stand_on(inside)
        shown = inside if inside is not None else near
        if shown is not None and stretch is not None and shown < len(stretch.sounds):
            self._view.reveal(shown)
        return True

    def _follow_selection(self, part: Part) -> bool:
        """Pick the sounds whose words are selected in the text; what the text has picked goes with its selection."""
        selected = self.editor.selection
        if selected is None:
            if self._picked_in_text:
                self._picked_in_text = False
                self._desk.choose(None)
            return False
        first, last = selected
        inside = [
            index
            for index, sound in enumerate(part.sounds)
            if (use := part.uses[sound.use])
            and (use.line, use.word.end) > first
            and (use.line, use.word.column) < last
        ]
        if not inside:
            return False
        self._picked_in_text = True
        self.strip.stand_on(inside[0])
        self.strip.pick(range(inside[0], inside[-1] + 1))
        self._view.reveal(inside[0])
        return True

    def _stand_on(self, index: int) -> None:
        self._view.reveal(index)
        self._look()

    # By hand

    def _draw(self, what: str, value: object) -> None:
        """Change the sounds that are picked, and the text with them."""
        part, picked = self._desk.part, self.strip.picked
        if part is None or (picked and picked[-1] >= len(part.sounds)) or not self.isVisible():
            return
        if what == "kind":
            index = picked[0]
            spot = self.strip.mapToGlobal(self.strip.row_shown(index).center())
            self.kinds = kinds_menu(self, spot, lambda name: self._draw("become", name))
            return
        if self._drawing():
            self.told.emit("The change before this one is still being made.")
            return
        from firn.core.piece.clip import copied
        from firn.session.by_hand import draw, said

        clipboard = QGuiApplication.clipboard()
        if what in ("copy", "cut"):
            try:
                clipboard.setText(copied(part, picked))
            except FirnError as fault:
                self.told.emit(str(fault))
                return
            if what == "copy":
                return
        wish, value = ("leave_out", None) if what == "cut" else (what, value)
        value = clipboard.text() if wish == "paste" else value
        before, ready = self._desk.text, self._desk.ready()

        def work(task: Task) -> "Drawn | str":
            try:
                drawn = draw(part, picked, wish, value)
            except FirnError as fault:
                return str(fault)
            ready(drawn.text)
            return drawn

        def done(drawn: "Drawn | str") -> None:
            if isinstance(drawn, str):
                self.told.emit(drawn)
            elif self._desk.text != before:
                self.told.emit("The change on the strip was left: something else was changed meanwhile.")
            else:
                self._desk.change(drawn.text, said(what, len(picked)))
                self._stand_where(drawn)

        self._drawing = self._desk.aside("draw", "Changing the part", work, done, at_once=SOON_DRAWN)

    def _stand_where(self, drawn: "Drawn") -> None:
        """Stand on what was changed by hand."""
        self.strip.stand_on(drawn.index)
        if drawn.index is not None:
            if drawn.last is not None and drawn.last > drawn.index:
                self.strip.pick(range(drawn.index, drawn.last + 1))
            self._view.reveal(drawn.index)

    def _point(self, note: Note) -> None:
        if note.sound is not None and self._desk.on_combo:
            self.build.stand_on_sound(note.sound)
        elif note.sound is not None:
            self.strip.stand_on(note.sound)
            self._view.reveal(note.sound)
        elif note.line is not None:
            self.editor.go_to(note.line, note.column, note.end)

    def _mend(self, mend: MendText) -> None:
        self._desk.take(mend)

    def _preview(self, looked: tuple[str, MendText] | None) -> None:
        """Show the strip as a mend would leave it; None for as it is written."""
        if looked is not None and self._desk.on_combo:
            self.look_head.setText(self.notes.keys_said(looked))
            self.build.show_mended(looked[1])
        elif looked is not None:
            label = self.notes.keys_said(looked)
            done = partial(self._show_mended, label)
            self._desk.aside("mended", "Trying the mend", self._desk.mending(looked[1]), done)
        elif self.look_head.text() != LOOK:
            self.look_head.setText(LOOK)
            self.show_desk()

    def _show_mended(self, label: str, made: Stretch | None) -> None:
        if made is None or not self.notes.hasFocus():
            return
        self.look_head.setText(label)
        self.strip.show_stretch(made, self._desk.view)
        self.strip.show_marks({})

    def looked_at(self) -> tuple[int | None, MendText | None]:
        """The sound that is stood on, by its finding or itself, and the mend of it that is looked at."""
        return self.notes.looked_at(self.build.sound if self._desk.on_combo else self.strip.current)

    def item_stood_on(self) -> int | None:
        """The item of the combo whose pass is stood on; None for none."""
        one = self.build.passes.stood_on if self._desk.on_combo else None
        return one.item if one is not None else None

    def take_mend(self, number: int) -> None:
        """Take the mend of a number, from 1, of those on show."""
        self.notes.take_mend(number)

    def show_played(self, position: Fraction | None) -> None:
        """Ink the thread to a position."""
        (self.build if self._desk.on_combo else self._view).show_played(position)

    def focus_stops(self) -> list[QWidget]:
        """Where F6 goes on this page, in order."""
        return [self.editor, self.build.passes if self._desk.on_combo else self.strip, self.notes]
