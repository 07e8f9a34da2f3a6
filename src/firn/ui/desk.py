"""What the window works on: the part on show, its draft, its notes, and how it is danced. Views share this."""

from collections.abc import Callable, Mapping, Sequence
from fractions import Fraction
from typing import Any, TypeVar

from msgspec.structs import replace
from PySide6.QtCore import QObject, QTimer, Signal

from firn.core.book.book import BookPart, BookPiece
from firn.core.book.edits import GoTo, SetCombo, SetHead, SetPartText
from firn.core.meter.count_in import CountIn
from firn.core.piece.piece import Part, Piece
from firn.core.piece.unfold import Unfolded
from firn.core.reading.finding import MendText
from firn.core.reading.style import Asked, Style, style_of
from firn.core.script.changes import changed_text
from firn.core.script.settings import Settings
from firn.core.steps.shelf import Shelf
from firn.core.task import UNWATCHED, Task
from firn.session.desk import COMBO, head_with, mended_head, near_text, read_in, settings_of, whole_combo
from firn.session.log import clean_tempos
from firn.session.note import Note
from firn.session.stretch import Stretch, combo_stretch, part_stretch
from firn.session.transport import Transport
from firn.session.view import PLAIN, View
from firn.ui.bridge import SessionBridge

T = TypeVar("T")

AT_ONCE = 300
"""So many sounds are worked on at once: it takes no longer than a key may."""

RunBeside = Callable[[str, str, Callable[[Task], Any], Callable[[Any], None]], Callable[[], bool]]
"""Runs work beside the window's thread: a key, a label, the work, and what is done with what comes of it. Gives
whether it still goes on, to be asked later."""

Aside = RunBeside
"""The same where it takes long, else at once."""

REST_MS = 500
"""Typing is committed after this much rest."""

PAUSE_MS = 25
"""After this much rest, what is out of sight of the key follows, beside the window."""


class Desk(QObject):
    """The desk. `shown`: something on show has changed; `turned`: another piece or part is on show;
    `danced`: the transport has changed; `noted`: notes that were worked out beside are there."""

    shown = Signal()
    noted = Signal()
    turned = Signal()
    danced = Signal()

    def __init__(
        self,
        bridge: SessionBridge,
        shelf: Shelf,
        parent: QObject | None = None,
        *,
        view: View = PLAIN,
        styles: Mapping[str, Style] | None = None,
        beside: RunBeside | None = None,
    ) -> None:
        super().__init__(parent)
        self._beside = beside
        self._readings = 0
        self.bridge = bridge
        self.shelf = shelf
        self.view = view
        self._styles: Mapping[str, Style] = styles or {}
        self.transport = Transport()
        self._draft: str | None = None
        self._here = ("", "")
        self._stretch: Stretch | None = None
        self._near: Part | None = None
        self._near_stretch: Stretch | None = None
        self._notes: tuple[Note, ...] | None = ()
        self._rest = QTimer(self)
        self._rest.setSingleShot(True)
        self._rest.setInterval(REST_MS)
        self._rest.timeout.connect(self.commit)
        self._pause = QTimer(self)
        self._pause.setSingleShot(True)
        self._pause.setInterval(PAUSE_MS)
        self._pause.timeout.connect(self._want_rest)
        bridge.changed.connect(self._follow)
        bridge.opened.connect(self._forget)
        self._follow()

    # Where we are

    @property
    def piece(self) -> BookPiece | None:
        book = self.bridge.book
        return book.piece(book.here[0]) or (book.pieces[0] if book.pieces else None)

    @property
    def part_id(self) -> str:
        """The part on show, COMBO for the combo, "" for none."""
        piece = self.piece
        if piece is None:
            return ""
        wanted = self.bridge.book.here[1]
        if wanted == COMBO or piece.part(wanted):
            return wanted
        return piece.parts[0].id if piece.parts else ""

    @property
    def on_combo(self) -> bool:
        return self.part_id == COMBO

    @property
    def book_part(self) -> BookPart | None:
        return self.piece.part(self.part_id) if self.piece else None

    @property
    def settings(self) -> Settings:
        return settings_of(self.piece.head) if self.piece else Settings()

    @property
    def title(self) -> str:
        """The name of what is on show."""
        part = self.book_part
        return "Combo" if self.on_combo else part.name if part else ""

    @property
    def text(self) -> str:
        """The script on show, as typed, committed or not."""
        if self._draft is not None:
            return self._draft
        if self.on_combo:
            return self.piece.combo if self.piece else ""
        return self.book_part.text if self.book_part else ""

    @property
    def drafting(self) -> bool:
        """Whether something is typed that is not yet committed."""
        return self._draft is not None

    @property
    def part(self) -> Part | None:
        """The part on show, read and footed; None for the combo."""
        part = self.book_part
        if part is None or self.piece is None:
            return None
        return read_in(self.piece, part, self.text, self.shelf)

    @property
    def stretch(self) -> Stretch | None:
        """What is on show, whole."""
        if self._stretch is None and self._near is not None and self.part is not None:
            self._stretch = part_stretch(self.part)
        return self._stretch

    @property
    def whole(self) -> bool:
        """Whether all of what is on show is read; else what follows far after the key is still to come."""
        return self._near is None

    @property
    def near(self) -> Part | None:
        """The part on show, as far as it is read."""
        return self._near or self.part

    @property
    def near_stretch(self) -> Stretch | None:
        """What is on show, as far as it is read."""
        return self._stretch if self._near is None else self._near_stretch

    @property
    def notes(self) -> tuple[Note, ...]:
        """What there is to say of what is on show; worked out when first asked for."""
        if self._notes is None:
            self._notes = tuple(self._noted())
        return self._notes

    def want_notes(self) -> bool:
        """Whether the notes are there, or soon made; else they are made beside, and `noted` tells when they are."""
        many = len(stretch.sounds) if (stretch := self.stretch) is not None else 0
        if self._notes is not None or self._beside is None or many <= AT_ONCE:
            return True
        reading, work = self._readings, self.noting()

        def done(notes: tuple[Note, ...]) -> None:
            if reading == self._readings:
                self._notes = notes
                self.noted.emit()

        self._beside("notes", "Looking it over", lambda task: work(), done)
        return False

    def aside(
        self,
        key: str,
        label: str,
        work: Callable[[Task], T],
        done: Callable[[T], None],
        *,
        at_once: int = AT_ONCE,
    ) -> Callable[[], bool]:
        """Work something out of what is on show: at once where that is soon done, else beside the window. Gives
        whether it still goes on, to be asked later.

        `done` is called with what comes of it, unless something newer of that key was asked for meanwhile. A part of
        `at_once` sounds is soon done.
        """
        many = len(stretch.sounds) if (stretch := self.stretch) is not None else 0
        if self._beside is None or many <= at_once:
            done(work(UNWATCHED))
            return lambda: False
        return self._beside(key, label, work, done)

    def _noted(self) -> Sequence[Note]:
        return self.noting()()

    def noting(self) -> Callable[[], tuple[Note, ...]]:
        """What works the notes out, without anything of this thread."""
        if self._notes is not None:
            notes = self._notes
            return lambda: notes
        piece, part, text, shelf = self.piece, self.part, self.text, self.shelf
        if piece is None:
            return lambda: ()
        # The checks are not needed for what is seen first.
        from firn.session.notes import combo_notes, part_notes

        if self.on_combo:
            return lambda: tuple(combo_notes(*whole_combo(replace(piece, combo=text), shelf)))
        asked = self.asked
        return lambda: tuple(part_notes(part, asked)) if part else ()

    @property
    def asked(self) -> Asked:
        """What the part on show is checked against: the piece's style, and the tempos at which it was clean."""
        clean = clean_tempos(self.bridge.book, self.part_id)
        return Asked(style_of(self.settings.tradition, self._styles), clean, typing=self.drafting)

    def use_styles(self, styles: Mapping[str, Style]) -> None:
        """Check by a teacher's own style sheets."""
        self._styles = styles
        self._notes = None
        self._readings += 1
        self.shown.emit()

    def notes_but(self, caret: tuple[int, int] | None) -> Sequence[Note]:
        """The notes, without problems of the word that the caret is in: it is still being typed."""
        if caret is None:
            return self.notes
        line, column = caret
        return [
            n
            for n in self.notes
            if n.line is None or n.line != line or not n.column < column <= n.end or n.level == "bad"
        ]

    # Changing

    def write(self, text: str) -> None:
        """The user has typed: read at once what is in sight, the rest soon, commit after a rest."""
        before, self._draft = self.text, text
        part = self.book_part
        near = near_text(before, text) if self._beside is not None and part is not None else None
        if near is None or part is None or self.piece is None:
            self._read()
        else:
            self._show_near(read_in(self.piece, part, near, self.shelf, quick=True))
        self._rest.start()

    def _show_near(self, part: Part) -> None:
        self._notes = None
        self._readings += 1
        self._near, self._near_stretch, self._stretch = part, part_stretch(part), None
        self._pause.start()
        self.shown.emit()

    def _want_rest(self) -> None:
        """Read the rest of a long part that is typed in, beside the window."""
        part, piece, text, reading, shelf = self.book_part, self.piece, self.text, self._readings, self.shelf
        if self._near is None or part is None or piece is None or self._beside is None:
            return

        def work(task: Task) -> Stretch:
            return part_stretch(read_in(piece, part, text, shelf))

        def done(stretch: Stretch) -> None:
            if reading == self._readings and self._near is not None:
                self._read()

        self._beside("reading", "Reading the part", work, done)

    def commit(self) -> None:
        """Commit what has been typed."""
        self._rest.stop()
        draft, piece = self._draft, self.piece
        self._draft = None
        if draft is None or piece is None:
            return
        if self.on_combo:
            self.bridge.do(SetCombo(piece.id, draft))
        elif self.book_part is not None:
            if draft == self.book_part.text:
                # Typed and taken back: what was left out of the notes meanwhile is told.
                self._read()
            self.bridge.do(SetPartText(piece.id, self.part_id, draft))

    def ready(self) -> Callable[[str], str]:
        """What reads another text of the part on show in a job, so that it is known when it is written."""
        part, piece, shelf = self.book_part, self.piece, self.shelf

        def read(text: str) -> str:
            if part is not None and piece is not None:
                read_in(piece, part, text, shelf)
            return text

        return read

    def change(self, text: str, what: str) -> None:
        """Change the script on show by something else than typing: one edit of its own, called what it does."""
        piece = self.piece
        self.commit()
        if piece is None:
            return
        if self.on_combo:
            self.bridge.do(SetCombo(piece.id, text, what))
        elif self.book_part is not None:
            self.bridge.do(SetPartText(piece.id, self.part_id, text, what))

    def go_to(self, piece: str, part: str) -> None:
        """Show another part."""
        self.commit()
        self.bridge.do(GoTo(piece, part))

    def take(self, mend: MendText) -> None:
        """Take a mend: one edit of its own."""
        piece = self.piece
        if piece is None:
            return
        text = self.text
        self.commit()
        if mend.lead or mend.words:
            what = "Say how a word is read" if mend.words else "Start on the other foot"
            self.bridge.do(SetHead(piece.id, mended_head(piece.head, mend), what))
        else:
            self.change(changed_text(text, mend.changes), "Take a mend")

    @property
    def combo(self) -> tuple[Piece, Unfolded] | None:
        """The combo on show, read and unfolded; None for a part."""
        if self.piece is None or not self.on_combo:
            return None
        return whole_combo(replace(self.piece, combo=self.text), self.shelf)[:2]

    def mending(self, mend: MendText) -> Callable[[Task], Stretch | None]:
        """What makes the stretch on show as a mend would leave it, without anything of this thread."""
        piece, part, text, shelf = self.piece, self.book_part, self.text, self.shelf

        def made(task: Task) -> Stretch | None:
            if piece is None:
                return None
            head, changed = mended_head(piece.head, mend), changed_text(text, mend.changes)
            if part is None:
                read, whole, _ = whole_combo(replace(piece, head=head, combo=changed), shelf)
                return combo_stretch(read, whole)
            return part_stretch(read_in(piece, part, changed, shelf, head=head))

        return made

    def dance_as(self, transport: Transport) -> None:
        """Dance another way."""
        if transport != self.transport:
            self.transport = transport
            self.danced.emit()

    def show_as(self, view: View) -> None:
        """Show and hear other layers."""
        if view != self.view:
            self.view = view
            self.shown.emit()
            self.danced.emit()

    def count_in_as(self, count_in: CountIn) -> None:
        """Count in another way: the piece keeps it."""
        if self.piece is not None:
            self.commit()
            self.bridge.do(SetHead(self.piece.id, head_with(self.piece.head, count_in=count_in)))

    def use_shelf(self, shelf: Shelf) -> None:
        """Read with other cards."""
        self.shelf = shelf
        self._read()

    def choose(self, chosen: tuple[Fraction, Fraction] | None) -> None:
        """Dance only a stretch, None for all."""
        self.dance_as(replace(self.transport, chosen=chosen))

    # Following the book

    def _forget(self) -> None:
        self._draft = None
        self._here = ("", "")

    def _follow(self) -> None:
        here = (self.piece.id if self.piece else "", self.part_id)
        turned = here != self._here
        if turned:
            other_piece = here[0] != self._here[0]
            self._here = here
            self._draft = None
            tempo = self.settings.tempo if other_piece else self.transport.tempo
            self.transport = replace(self.transport, tempo=tempo, chosen=None)
        own = self.part.layers.count_in if self.part is not None else None
        led = own or self.settings.count_in
        changed = led != self.transport.count_in
        self.transport = replace(self.transport, count_in=led)
        self._read()
        if turned:
            self.turned.emit()
        if turned or changed:
            self.danced.emit()

    def _read(self) -> None:
        piece = self.piece
        self._notes = self._near = None
        self._readings += 1
        if piece is None:
            self._stretch = None
        elif self.on_combo:
            read, whole, _ = whole_combo(replace(piece, combo=self.text), self.shelf)
            self._stretch = combo_stretch(read, whole)
        else:
            part = self.part
            self._stretch = part_stretch(part) if part else None
        chosen = self.transport.chosen
        if chosen and self._stretch and (chosen[0] < self._stretch.first or chosen[1] > self._stretch.end):
            self.transport = replace(self.transport, chosen=None)
            self.danced.emit()
        self.shown.emit()
