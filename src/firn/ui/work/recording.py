"""Recording takes: to the count-in, the click or the model; the delay of the device told by claps."""

from collections.abc import Callable
from typing import TYPE_CHECKING

from msgspec import Struct
from PySide6.QtCore import QObject, QTimer, Signal

from firn.core.book.book import Take
from firn.core.book.edits import AddTake
from firn.core.task import Task
from firn.errors import DeviceError, FirnError
from firn.session.fresh import now
from firn.ui.pages.entries import LISTEN
from firn.ui.work.context import Context, Handlers
from firn.ui.work.program import Program

if TYPE_CHECKING:
    # Heavy ones: imported when something is first recorded.
    from firn.core.ear.latency import Latency
    from firn.core.sound.voices import FloatArray
    from firn.devices.duplex import Duplex, OpenDuplex, Student
    from firn.devices.recorder import Recorder
    from firn.session.recording import Sheet

TICK_MS = 33

Done = Callable[["FloatArray", "Duplex"], None]
"""What to do with what was heard, and by which device."""


class _Making(Struct):
    """A recording under way: what is played, what it is a take of, and what to do once it ends."""

    recorder: "Recorder"
    plan: "Sheet | None"
    done: "Done"


class Recording(QObject):
    """Records takes of the part on show. `moved`: the place that is due now, and whether on the other side;
    `running`: on and off; `told`: how it goes, in words."""

    moved = Signal(object, bool)
    running = Signal(bool)
    told = Signal(str)

    def __init__(
        self, context: Context, program: Program, stop_playing: Callable[[], None], open_duplex: "OpenDuplex | None"
    ) -> None:
        super().__init__(context.window)
        self._context, self._program, self._stop_playing = context, program, stop_playing
        self._open = open_duplex
        self._making: _Making | None = None
        self._timer = QTimer(self)
        self._timer.timeout.connect(self._tick)

    def handlers(self) -> Handlers:
        return {"record": self.toggle, "record_how": self.ask_how, "clap_along": self.clap_along}

    @property
    def active(self) -> bool:
        return self._making is not None

    # A take

    def toggle(self) -> None:
        """Record a take of the part on show, or end the recording that runs."""
        if self._making is not None:
            self.stop()
            return
        desk = self._context.desk
        desk.commit()
        part, stretch, piece = desk.part, desk.stretch, desk.piece
        if part is None or stretch is None or piece is None or not any(s.heard for s in stretch.sounds):
            self._context.say("A take is of a part that sounds: show one first.")
            return
        if self._context.bridge.session.store.read_only:
            self._context.say("This workbook is open to read only: it takes no recording.")
            return
        self._stop_playing()
        self._context.show_page(LISTEN)
        settings, transport = self._program.settings, desk.transport
        swapped = transport.side == "other side"
        book = self._context.bridge.book
        many = len(book.takes_of(piece.id, desk.part_id)) + 1
        like = Take(
            "",
            piece.id,
            desk.part_id,
            f"Take {many}",
            now(),
            "",
            0,
            0,
            transport.tempo,
            swapped=swapped,
            student=book.who,
        )

        def work(task: Task) -> "tuple[Sheet, Duplex, str]":
            from firn.session.recording import sheet, student_for

            plan = sheet(stretch, transport, settings.hearing, settings.passes, task)
            return plan, *self._opened(lambda: student_for(part, plan, settings.passes, many))

        def begin(made: "tuple[Sheet, Duplex, str]") -> None:
            plan, duplex, why = made
            self._run(plan.audio, duplex, why, plan, lambda heard, by: self._keep(heard, by, plan, like))

        self._context.jobs.run("sheet", "Making the count-in", work, begin)

    def _opened(self, student: "Student") -> "tuple[Duplex, str]":
        from firn.devices.duplex import best_duplex

        return (self._open or best_duplex)(student)

    def _run(self, audio: "FloatArray", duplex: "Duplex", why: str, plan: "Sheet | None", done: Done) -> None:
        from firn.devices.recorder import Recorder
        from firn.devices.reel import Reel

        if why:
            self._context.say(why)
        recorder = Recorder(duplex, Reel(audio, None))
        try:
            recorder.start()
        except DeviceError as fault:
            self._context.say(str(fault))
            return
        self._making = _Making(recorder, plan, done)
        self._timer.start(TICK_MS)
        self.running.emit(True)

    def _tick(self) -> None:
        making = self._making
        if making is None:
            return
        if making.recorder.gone:
            seconds = making.recorder.seconds
            self.stop()
            self._context.say(
                f"The microphone went away after {seconds:.0f} s; what was heard until then is kept. "
                "If it stays away, the simulated student dances."
            )
            return
        _, frame, over = making.recorder.reel.where(0.0)
        if over:
            self.stop()
            return
        self._tell(making, frame)

    def _tell(self, making: _Making, frame: int) -> None:
        from fractions import Fraction

        from firn.devices.clock import RATE

        plan = making.plan
        heard = "" if making.recorder.level > 0.003 else " — nothing is heard yet"
        if plan is None:
            self.told.emit(f"Clap on every click{heard}")
            return
        stretch = self._context.desk.stretch
        section = plan.section
        position = section.tempo.place(section.origin, Fraction(frame, RATE))
        if position < section.first:
            self.told.emit("Count-in …")
            return
        passed, many = int((position - section.first) // stretch.counts) if stretch else 0, len(section.sides)
        if stretch is not None and passed < many:
            self.told.emit(f"Recording, {passed + 1} of {many} times{heard}")
            self.moved.emit(*section.where(position))
        else:
            self.told.emit("… and let it ring")

    def stop(self) -> None:
        """End the recording that runs; what was heard is kept."""
        making = self._making
        if making is None:
            return
        self._making = None
        self._timer.stop()
        heard = making.recorder.stop()
        self.running.emit(False)
        making.done(heard, making.recorder.duplex)

    def cancel(self) -> None:
        """End the recording that runs, or is about to, and keep nothing."""
        self._context.jobs.cancel("sheet")
        if self._making is not None:
            self._making.done = lambda heard, duplex: None
            self.stop()

    def _latency_s(self, duplex: "Duplex") -> float | None:
        ms = self._program.settings.latency_of(duplex.name)
        if ms is None and duplex.simulated:
            from firn.devices.duplex import SIMULATED_LATENCY_S

            return SIMULATED_LATENCY_S
        return None if ms is None else ms / 1000

    def _keep(self, heard: "FloatArray", duplex: "Duplex", plan: "Sheet", like: Take) -> None:
        from firn.session.recording import cut_recording, keep_recording

        try:
            recorded = cut_recording(heard, plan, self._latency_s(duplex))
        except FirnError as fault:
            self._context.say(str(fault))
            return
        if recorded.warning:
            self._context.say(recorded.warning)
        elif recorded.click_s is None:
            self._context.say("Kept. Clap along once (menu Take): then lateness against the click can be told.")
        store, book = self._context.bridge.session.store, self._context.bridge.book

        def work(task: Task) -> Take:
            return keep_recording(store, book, recorded, like, simulated=duplex.simulated, task=task)

        self._context.jobs.run("take", "Keeping the take", work, lambda take: self._context.do(AddTake(take)))

    def ask_how(self) -> None:
        """Ask what is heard while a take is recorded, and how many times through."""
        from firn.ui.dialogs.recording import RecordingDialog

        settings = self._program.settings
        dialog = RecordingDialog(settings, self._context.window)
        if self._context.prompts.run(dialog):
            self._program.keep(hearing=dialog.hearing, passes=dialog.passes)

    # The delay of the device

    def clap_along(self) -> None:
        """Play clicks to clap to, and keep how late the device is."""
        if self._making is not None:
            return
        self._stop_playing()
        self._context.show_page(LISTEN)

        def work(task: Task) -> "tuple[FloatArray, list[float], Duplex, str]":
            from firn.session.recording import clap_sheet, claps_for

            audio, clicks = clap_sheet()
            return audio, clicks, *self._opened(lambda: claps_for(clicks))

        def begin(made: "tuple[FloatArray, list[float], Duplex, str]") -> None:
            audio, clicks, duplex, why = made
            self._run(audio, duplex, why, None, lambda heard, by: self._told_by_claps(heard, by, clicks))

        self._context.jobs.run("sheet", "Making the clicks", work, begin)

    def _told_by_claps(self, heard: "FloatArray", duplex: "Duplex", clicks: list[float]) -> None:
        def work(task: Task) -> "Latency":
            from firn.session.recording import clapped

            return clapped(heard, clicks)

        def done(found: "Latency") -> None:
            delays = self._program.settings.with_latency(duplex.name, found.ms)
            self._program.keep(latency_ms=delays)
            self._context.say(
                f"This device is {found.ms:.0f} ms late, told from {found.claps} claps within "
                f"{found.spread_ms:.0f} ms. Takes are judged from the click from now on."
            )

        self._context.jobs.run("latency", "Listening to the claps", work, done)
