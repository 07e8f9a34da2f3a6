"""Listen: a take is heard by the student's own ear first, then judged sound by sound."""

from collections.abc import Callable, Sequence
from fractions import Fraction
from typing import TYPE_CHECKING

from PySide6.QtCore import Signal
from PySide6.QtGui import QFont, QShowEvent
from PySide6.QtWidgets import (
    QBoxLayout,
    QPushButton,
    QSizePolicy,
    QVBoxLayout,
    QWidget,
)

from firn.core.book.book import Take
from firn.core.book.edits import NoteAnswer
from firn.core.book.log import Answer
from firn.core.piece.piece import Part
from firn.core.task import Task
from firn.session.desk import read_in
from firn.session.fresh import now
from firn.session.stretch import across, mirrored
from firn.ui.desk import Desk
from firn.ui.jobs import JobRunner
from firn.ui.pages.entries import PageView
from firn.ui.pages.listen.heard import HeardTake
from firn.ui.pages.listen.question_view import QuestionView
from firn.ui.pages.listen.routine_view import ComboTake, RoutineView
from firn.ui.pages.listen.takes_panel import TakesPanel
from firn.ui.pages.listen.verdict_view import VerdictView
from firn.ui.theme.theme import Theme
from firn.ui.widgets.labels import Label, repolish, rule
from firn.ui.widgets.room import Page, WrappingRow, side_by_side
from firn.ui.widgets.strip.strip import Strip
from firn.ui.widgets.strip.view import StripView

if TYPE_CHECKING:
    # Heavy ones: imported when a take is first listened to, not when Firn starts.
    from firn.core.ear.asked.question import Question
    from firn.core.ear.shoes import Shoes
    from firn.core.ear.verdict import Verdict


MOST_LETTERS = 6_000
"""A part of a longer text is no part that somebody dances by mistake for another."""


class ListenPage(Page, PageView):
    """The page on which takes are judged."""

    play_take = Signal(object, object)
    play_both = Signal(object)
    judged = Signal(object, object)
    combo_judged = Signal(object, object)
    taken_as = Signal(object, object)

    def __init__(
        self,
        desk: Desk,
        theme: Theme,
        jobs: JobRunner,
        on_ms: Callable[[], float],
        parent: QWidget | None = None,
    ) -> None:
        super().__init__(theme, parent)
        self._desk, self._jobs, self._on_ms = desk, jobs, on_ms
        self._heard: HeardTake | None = None
        self._wanted = ""
        self._pass = 0
        self._combo: ComboTake | None = None
        self.question = QuestionView(theme)
        self.strip = Strip(theme)
        self.verdict = VerdictView(theme)
        self.routine = RoutineView(theme)
        self.panel = TakesPanel(theme)
        self.takes = self.panel.takes
        self.empty = Label()
        self.empty.setWordWrap(True)
        self.ear = Label()
        self.ear.setWordWrap(True)
        self.told = Label()
        self.mine_button = QPushButton("Mine  M")
        self.both_button = QPushButton("Mine, then the model  H")
        self.pass_button = QPushButton()
        self.ear_button = QPushButton("Ask my ear  Shift+A")
        self.as_button = QPushButton()
        self.anyway_button = QPushButton()
        self._view = StripView(self.strip, whole=True)
        self._lay_out()
        self._connect()
        self.show_desk()

    def _lay_out(self) -> None:
        hear = WrappingRow()
        for button in self._ways_on():
            button.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Fixed)
            hear.addWidget(button)
        left = QVBoxLayout()
        left.setSpacing(10)
        left.addWidget(self.told)
        left.addWidget(self.empty)
        left.addWidget(self.verdict)
        left.addWidget(self.routine, 1)
        left.addLayout(hear)
        left.addWidget(self.ear)
        left.addStretch(1)
        self._below = QBoxLayout(QBoxLayout.Direction.LeftToRight)
        self._below.setContentsMargins(24, 10, 24, 10)
        self._below.setSpacing(36)
        self._below.addLayout(left, 12)
        self._below.addWidget(self.panel, 10)
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.setSpacing(0)
        box.addWidget(self.question)
        box.addWidget(self._view, 13)
        box.addWidget(rule())
        box.addLayout(self._below, 9)

    def _ways_on(self) -> tuple[QPushButton, ...]:
        return (
            self.as_button,
            self.anyway_button,
            self.both_button,
            self.mine_button,
            self.pass_button,
            self.ear_button,
        )

    def arrange(self) -> None:
        """The verdict and the takes beside each other where there is room, else below."""
        side_by_side(self._below, not self.narrow)

    def _connect(self) -> None:
        self.told.hide()
        self.mine_button.clicked.connect(self.hear_mine)
        self.both_button.clicked.connect(self.hear_both)
        self.pass_button.clicked.connect(self.next_pass)
        self.ear_button.clicked.connect(self.ask_ear)
        self.as_button.clicked.connect(self.as_heard)
        self.anyway_button.clicked.connect(self.judge_anyway)
        self.panel.stood_on.connect(self.show_take)
        self.routine.picked.connect(self._stand_on_pass)
        self.routine.heard.connect(self._hear_pass)
        self.question.answered.connect(self._answered)
        self.question.done.connect(self._show_verdict)
        self.question.wants_sound.connect(self._hear_question)
        self.strip.selected.connect(self._desk.choose)
        self._desk.shown.connect(self.show_desk)
        self._desk.turned.connect(self._turned)
        self._desk.danced.connect(lambda: self.strip.show_chosen(self._desk.transport.chosen))

    # Showing

    @property
    def heard(self) -> HeardTake | None:
        return self._heard

    @property
    def take(self) -> Take | None:
        """The take on show."""
        return self._desk.bridge.book.take(self.panel.take_id)

    def show_desk(self) -> None:
        """Show what the desk holds, if the page is on show."""
        if not self.isVisible():
            return
        self._show_strip()
        self._list_takes()

    @property
    def part(self) -> Part | None:
        """The part on show, on the side that the take on show was danced on."""
        part, take = self._desk.part, self.take
        return mirrored(part) if part is not None and take is not None and take.swapped else part

    def _show_strip(self) -> None:
        stretch, part = self._desk.stretch, self.part
        if stretch is not None:
            self.strip.show_stretch(stretch if part is self._desk.part else across(stretch), self._desk.view)

    def _turned(self) -> None:
        self._heard, self._wanted = None, ""
        self.show_desk()
        if self.panel.take_id:
            self.show_take(self.panel.take_id)

    def _list_takes(self) -> None:
        piece = self._desk.piece
        takes = self._desk.bridge.book.takes_of(piece.id, self._desk.part_id) if piece is not None else ()
        self.panel.show_takes(takes)
        if not takes:
            self._heard, self._wanted = None, ""
        self._arrange()

    def _arrange(self) -> None:
        """Show only what there is something for."""
        desk, one = self._desk, self._heard
        takes = self.takes.count() > 0
        asking = self.question.question is not None
        if desk.stretch is None or not desk.stretch.sounds:
            self.empty.setText("This part has no sounds yet: write it first.")
        elif desk.on_combo and not takes:
            self.empty.setText(
                "No take of the whole combo yet: bring in a recording of it, or drop its file here. It is cut into "
                "its passes, each judged, with what was left out or danced once more."
            )
        elif not takes:
            self.empty.setText(
                f"No take of {desk.title} yet. Record one, bring in a recording of your feet, drop its file here, "
                "or let the simulated student dance."
            )
        elif one is not None and one.fault:
            self.empty.setText(one.fault)
        elif asking and self.question.is_round:
            self.empty.setText("")
        elif asking:
            self.empty.setText("The verdict comes when you have answered by ear.")
        else:
            self.empty.setText("")
        self.empty.setVisible(bool(self.empty.text()))
        self.empty.setFont(self._theme.font(18, QFont.Weight.Medium))
        can = desk.stretch is not None and bool(desk.stretch.sounds) and not desk.on_combo
        self.panel.allow(can, first=not takes, combo=desk.on_combo)
        # What is asked about without a take is written there.
        self._view.setVisible(not (asking and self.question.is_round))
        self.mine_button.setVisible(one is not None and not asking)
        self.both_button.setVisible(one is not None and not asking and not desk.on_combo)
        self.routine.show_routine(one.routine if one is not None else None)
        verdict = one.verdict if one is not None and not asking and one.asked else None
        self.verdict.show_verdict(verdict, desk.title, self._facts() if verdict is not None else [])
        # Beside a verdict there is no room for it: its key and the menu have it still.
        self.ear_button.setVisible(can and not asking and verdict is None)
        self._offer_what_it_is()
        self.pass_button.setVisible(verdict is not None and verdict.passes > 1)
        self.both_button.setProperty("next", "true" if verdict is not None else "false")
        repolish(self.both_button)
        self.question.setVisible(asking)
        answers = desk.bridge.book.own_ear[-10:]
        self.ear.setVisible(bool(answers) and not desk.on_combo)
        told = self.question.told.text()
        record = self.question.score or f"Your ear: {sum(a.right for a in answers)} right of the last {len(answers)}."
        self.ear.setText(f"{told}  {record}" if told and not asking else record)
        self.ear.setFont(self._theme.font(15))
        if one is not None and one.routine is not None:
            self.strip.show_verdict(one.marks)
        else:
            self._lay_verdict(verdict)

    def _stand_on_pass(self, number: int) -> None:
        """Show where in the combo a pass that was danced belongs."""
        one, stretch = self._heard, self._desk.stretch
        if one is None or self._combo is None or stretch is None:
            return
        first = self._combo.first_of(one, number, stretch)
        self.strip.stand_on(first)
        if first is not None:
            self._view.reveal(first)

    def _hear_pass(self, number: int) -> None:
        """Hear a pass of the take."""
        if self._heard is not None and self._combo is not None:
            self.play_take.emit(self._heard.stereo(*self._combo.span(self._heard, number)), None)

    def _offer_what_it_is(self) -> None:
        """Where a take is none of this part: what it is on one key, and this part all the same on another."""
        one, take = self._heard, self.take
        wrong = one.wrong if one is not None and take is not None else None
        self.anyway_button.setVisible(wrong is not None)
        self.as_button.setVisible(wrong is not None and wrong.what in ("other", "tempo"))
        if wrong is None or take is None:
            return
        self.anyway_button.setText(f"Judge it as {self._desk.title} all the same  Shift+J")
        tempo = f"at {wrong.danced_at(take.tempo):.0f}"
        self.as_button.setText(f"Judge it {tempo if wrong.what == 'tempo' else f'as {wrong.part}'}  J")
        self.as_button.setProperty("next", "true")
        repolish(self.as_button)

    def as_heard(self) -> None:
        """Take the take for what it is heard to be."""
        one, take = self._heard, self.take
        if one is not None and take is not None and one.wrong is not None and self.as_button.isVisible():
            self.taken_as.emit(take, one.wrong)

    def judge_anyway(self) -> None:
        """Judge the take as one of this part, whatever it may be."""
        if self.anyway_button.isVisible():
            self.judge(anyway=True)

    def listen_again(self) -> None:
        """Listen to the take on show once more: something is known of it that was not."""
        self._heard, self._wanted = None, ""
        self.show_take(self.panel.take_id)

    def _facts(self) -> list[str]:
        one, take = self._heard, self.take
        if one is None or one.verdict is None:
            return []
        feet = [] if take is None or take.heard == "feet" else [f"Heard are {take.heard}: feet were not."]
        return [*feet, *one.facts]

    def show_recording(self, running: bool) -> None:
        """A recording has begun, or ended."""
        self.panel.show_recording(running)
        self.told.setVisible(running)
        self.told.setText("")
        for widget in (self.question, self.verdict, self.ear):
            widget.setEnabled(not running)
        self.empty.setVisible(not running and bool(self.empty.text()))
        if not running:
            self.show_played(None)

    def tell_recording(self, text: str) -> None:
        """Say how a recording goes."""
        self.told.setFont(self._theme.font(21, QFont.Weight.DemiBold))
        self.told.setText(text)

    # A take

    def show_take(self, take_id: str) -> None:
        """Listen to a take and ask about it."""
        book = self._desk.bridge.book
        take = book.take(take_id)
        if take is None or not self.isVisible() or self._wanted == take_id:
            return
        self._heard = None
        self._wanted = take_id
        self.question.ask(())
        store, part, on_ms = self._desk.bridge.session.store, self.part, self._on_ms()
        combo = self._desk.combo
        if combo is not None:
            self._combo = ComboTake(combo[1])
            listen = self._combo.listening(store, take, on_ms)
            self._jobs.run("listen", f"Listening to {take.name}", listen, self._listened_to_combo)
            return
        read, shoes = self._parts_beside(), self._shoes_of(take)

        def work(task: Task) -> "tuple[HeardTake, Part | None, Sequence[Question]]":
            from firn.session.takes import heard

            one = HeardTake(take, *heard(store, take, task.within(0, 0.6)))
            if part is not None:
                one.judge(part, on_ms=on_ms, beside=read(), shoes=shoes, task=task.within(0.6, 1))
            return one, part, one.questions(part) if part is not None else ()

        self._jobs.run("listen", f"Listening to {take.name}", work, lambda made: self._listened(*made))

    def _listened_to_combo(self, one: HeardTake) -> None:
        if one.take.id != self._wanted:
            return
        self._heard = one
        one.asked = True
        self._arrange()
        if one.routine is not None:
            self.combo_judged.emit(one.take, one.routine)

    def _listened(self, one: HeardTake, part: Part | None, asked: "Sequence[Question]") -> None:
        if one.take.id != self._wanted:
            return
        self._heard = one
        if part is not self.part:
            # Something was written meanwhile.
            self.judge()
            return
        self._judged()
        self.question.ask(asked)
        one.asked = self.question.question is None
        self._arrange()

    def _parts_beside(self) -> Callable[[], list[Part]]:
        """Reads the other parts of the piece on show, beside the window; none that is very long."""
        piece, shelf, own = self._desk.piece, self._desk.shelf, self._desk.part_id
        parts = piece.parts if piece is not None else ()
        others = [p for p in parts if p.id != own and len(p.text) <= MOST_LETTERS]
        return lambda: [read_in(piece, p, p.text, shelf) for p in others] if piece is not None else []

    def _shoes_of(self, take: Take) -> "Callable[[], Shoes | None]":
        """Learns, beside the window, what the shoes of a take sound like, from a clean one before it."""
        piece, shelf, on_ms = self._desk.piece, self._desk.shelf, self._on_ms()
        book, store = self._desk.bridge.book, self._desk.bridge.session.store

        def read(part_id: str) -> Part | None:
            found = next((p for p in piece.parts if p.id == part_id), None) if piece is not None else None
            if piece is None or found is None or len(found.text) > MOST_LETTERS:
                return None
            return read_in(piece, found, found.text, shelf)

        def learn() -> "Shoes | None":
            from firn.session.shoes import known_before

            return known_before(store, book, take, read, on_ms=on_ms)

        return learn

    def judge(self, line: tuple[float, float] | None = None, *, anyway: bool = False) -> None:
        """Judge the take on show against the part as it now is; `line` where the user says which start is meant,
        `anyway` where she says that it is this part."""
        one, part, on_ms = self._heard, self.part, self._on_ms()
        if one is None or part is None:
            return
        fresh = HeardTake(one.take, one.sound, one.rate, one.onsets)
        fresh.asked = one.asked or anyway
        read, shoes = self._parts_beside(), self._shoes_of(one.take)

        def work(task: Task) -> HeardTake:
            fresh.judge(part, on_ms=on_ms, line=line, beside=read(), anyway=anyway, shoes=shoes, task=task)
            return fresh

        def done(judged: HeardTake) -> None:
            if self._heard is one:
                self._heard = judged
                self._judged()
                self._arrange()

        self._jobs.run("listen", f"Judging {one.take.name}", work, done)

    def _judged(self) -> None:
        """Show the time through in which the first thing to mend is."""
        one = self._heard
        if one is not None and one.verdict is not None:
            target = one.verdict.mend.target
            self._pass = one.verdict.judged[target].target.time if target is not None else 0

    def other_start(self) -> None:
        """Judge along the next start that fits as well."""
        if self._heard is not None and self._heard.verdict is not None and self._heard.verdict.lines:
            self.judge(self._heard.verdict.lines[0])

    def _answered(self, kind: str, right: bool) -> None:
        self._desk.bridge.do(NoteAnswer(Answer(kind, right, now(), self._desk.bridge.book.who)))  # type: ignore[arg-type]
        self._arrange()
        if self.question.is_round and self.question.question is not None:
            self._hear_question(self.question.question)

    def ask_ear(self) -> None:
        """Ask the ear ten questions about the part on show, without a take: harder the better it has done."""
        part = self.part
        if part is None or not self.panel.file_button.isEnabled():
            return
        self._heard, self._wanted = None, ""
        tempo, answers = self._desk.transport.tempo, self._desk.bridge.book.own_ear

        def ask(questions: "Sequence[Question]") -> None:
            if self.part is not part or self._heard is not None or not self.isVisible():
                return
            self.question.ask(questions, is_round=True)
            self._arrange()
            if self.question.question is not None:
                self._hear_question(self.question.question)
                (self.question.buttons or [self.question.hear])[0].setFocus()

        def work(task: Task) -> "Sequence[Question]":
            from firn.session.asking import ear_round

            return ear_round(part, tempo, answers)

        self._jobs.run("ask", "Making up questions", work, ask)

    def _show_verdict(self) -> None:
        one = self._heard
        if self.question.is_round:
            self.question.is_round = False
            self._arrange()
            if self.panel.take_id:
                self.show_take(self.panel.take_id)
            return
        if one is not None:
            one.asked = True
            if one.verdict is not None:
                self.judged.emit(one.take, one.verdict)
        self._arrange()

    def next_pass(self) -> None:
        """Show the next time through."""
        if self._heard is not None and self._heard.verdict is not None:
            self._pass = (self._pass + 1) % self._heard.verdict.passes
            self._arrange()

    def _lay_verdict(self, verdict: "Verdict | None") -> None:
        if verdict is None:
            self.strip.show_verdict(None)
            return
        self.pass_button.setText(f"Time {self._pass + 1} of {verdict.passes}  P")
        laid: dict[int, tuple[str, float | None]] = {}
        for one in verdict.judged:
            if one.target.time == self._pass:
                # Sounds that fall together are judged as one; the first of them carries the verdict.
                laid[one.target.sounds[0]] = (one.heard, one.ms)
        self.strip.show_verdict(laid)

    # Hearing

    def hear_mine(self) -> None:
        """Hear the take."""
        if self._heard is not None:
            self.play_take.emit(self._heard.stereo(), None)

    def hear_both(self) -> None:
        """Hear the take, then the model at its tempo."""
        if self._heard is not None:
            self.play_both.emit(self._heard)

    def _hear_question(self, question: "Question") -> None:
        if question.clips:
            from firn.session.asking import heard_with

            self.play_take.emit(heard_with(question), None)
        elif self._heard is not None:
            self.play_take.emit(self._heard.stereo(*question.stretch_s), None)

    def showEvent(self, event: QShowEvent) -> None:
        super().showEvent(event)
        self.show_desk()
        if self.panel.take_id:
            self.show_take(self.panel.take_id)

    def answer_key(self, digit: int) -> bool:
        """Answer a question by a digit; False where none is asked."""
        return self.question.answer_key(digit)

    def show_played(self, position: Fraction | None) -> None:
        """Ink the thread to a position."""
        self._view.show_played(position)

    def focus_stops(self) -> list[QWidget]:
        """Where F6 goes on this page, in order."""
        asked = self.question.buttons[:1] if self.question.isVisible() else []
        return [*asked, self.strip, self.takes]
