"""Playing: models and takes through a device, followed count by count."""

from typing import TYPE_CHECKING

from PySide6.QtCore import QObject, QTimer, Signal

from firn.errors import DeviceError

if TYPE_CHECKING:
    # Heavy ones: imported when something is first played, not when Firn starts.
    from firn.core.sound.model import Rendered
    from firn.core.sound.voices import FloatArray
    from firn.devices.outputs import Output
    from firn.devices.reel import Reel

TICK_MS = 16
GONE_S = 1.0
"""A device that has not read for so long has gone away."""


class Player(QObject):
    """Plays models and takes. `moved`: the position in counts that is heard; `ended` when all is over.

    The output is opened when something is first played; `silent` says why nothing will be heard, if so. `passed`:
    the next model of a ladder has begun, with its number. `heard`: how many seconds of played samples are heard.
    """

    silent = Signal(str)

    moved = Signal(object)
    ended = Signal()
    started = Signal()
    passed = Signal(int)
    heard = Signal(float)

    def __init__(self, output: "Output | None" = None, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._output = output
        self._reel: Reel | None = None
        self._rendered: Rendered | None = None
        self._waiting: Rendered | None = None
        self._pass = 0
        self._climbing = False
        self._fallen = self._ran_out = False
        # Frames of the samples that are over, and of those that play.
        self._before, self._length = 0, 0
        self._timer = QTimer(self)
        self._timer.timeout.connect(self._tick)

    @property
    def playing(self) -> bool:
        return self._reel is not None

    @property
    def plays_model(self) -> bool:
        """Whether what plays is a model, whose position is known in counts."""
        return self._rendered is not None

    @property
    def ran_out(self) -> bool:
        """Whether it came to its end by itself, and nothing has been played or stopped since."""
        return self._ran_out

    def play_model(self, rendered: "Rendered", *, loops: bool) -> None:
        """Play a model from its count-in; over and over if it loops."""
        from firn.core.sound.model import looped

        turn = looped(rendered) if loops else None
        first = rendered.audio
        if turn is not None:
            first = rendered.audio[: rendered.end].copy()
            pickup = rendered.audio[rendered.pickup : rendered.start]
            if len(pickup):
                first[-len(pickup) :] += pickup
        self._rendered, self._waiting, self._pass, self._climbing = rendered, None, 0, False
        self._start(_reel(first, turn))

    def change_model(self, rendered: "Rendered", *, loops: bool) -> None:
        """From the next pass on, play this instead."""
        if self._reel is None or self._rendered is None:
            return
        from firn.core.sound.model import looped

        self._waiting = rendered
        self._reel.swap(looped(rendered) if loops else None)

    def climb(self, rendered: "Rendered") -> None:
        """Play a model once, count-in and rest included, and then what `follow` has put behind it."""
        self._rendered, self._waiting, self._pass, self._climbing = rendered, None, 0, True
        self._start(_reel(rendered.audio[: rendered.end], None))

    def follow(self, rendered: "Rendered | None") -> None:
        """Put a model behind the one that plays, its count-in and rest included; None for nothing."""
        if self._reel is not None and self._climbing:
            self._waiting = rendered
            self._reel.swap(rendered.audio[: rendered.end] if rendered is not None else None)

    def play_samples(self, sound: "FloatArray") -> None:
        """Play samples at `RATE` once, shape (n, 2)."""
        self._rendered = None
        self._before, self._length, self._pass = 0, len(sound), 0
        self._start(_reel(sound, None))

    def go_on(self, sound: "FloatArray") -> None:
        """Put samples behind those that play; nothing where they are over."""
        if self._reel is not None and self._rendered is None:
            self._reel.swap(sound)

    @property
    def heard_s(self) -> float:
        """How many seconds of the samples that play are heard by now."""
        from firn.devices.clock import RATE

        if self._reel is None or self._output is None:
            return 0.0
        number, frame, _ = self._reel.where(self._output.latency_s)
        before = self._before + (self._length if number != self._pass else 0)
        return max(0, before + frame) / RATE

    def _start(self, reel: "Reel") -> None:
        self.stop()
        if self._fallen:
            # The device may be back.
            self._output, self._fallen = None, False
        if self._output is None:
            from firn.devices.outputs import best_output

            self._output, why = best_output()
            if why:
                self.silent.emit(why)
        self._reel = reel
        try:
            self._output.start(reel)
        except DeviceError as fault:
            self._go_on_by_the_clock(str(fault))
        self._timer.start(TICK_MS)
        self.started.emit()

    def stop(self) -> None:
        """Stop at once."""
        self._end(ran_out=False)

    def _end(self, *, ran_out: bool) -> None:
        self._ran_out = ran_out
        if self._reel is None:
            return
        self._reel = None
        self._timer.stop()
        if self._output is not None:
            self._output.stop()
        self.ended.emit()

    def _go_on_by_the_clock(self, why: str) -> None:
        """The device has gone away: the reel goes on in silence."""
        from firn.devices.outputs import ClockOutput

        assert self._reel is not None
        if self._output is not None:
            self._output.stop()
        self._output, self._fallen = ClockOutput(), True
        self._output.start(self._reel)
        self.silent.emit(f"{why} Firn dances by the clock, in silence.")

    def _tick(self) -> None:
        if self._reel is None or self._output is None:
            return
        if self._reel.unread_s > GONE_S:
            self._go_on_by_the_clock("The sound device has gone away.")
        reel = self._reel
        number, frame, over = reel.where(self._output.latency_s)
        if self._rendered is None:
            if number != self._pass:
                # Once: what was put behind would else come again.
                reel.swap(None)
                self._before, self._pass = self._before + self._length, number
            self.heard.emit(self.heard_s)
        else:
            self._follow_model(self._rendered, number, frame)
        # That it was heard to its end has been told first: a window that was held up has not seen it.
        if over and frame > 0 and self._reel is reel:
            self._end(ran_out=True)

    def _follow_model(self, rendered: "Rendered", number: int, frame: int) -> None:
        """Tell where in a model is heard, and that it has begun."""
        assert self._reel is not None
        if number != self._pass:
            self._pass = number
            if self._waiting is not None:
                self._rendered = rendered = self._waiting
                self._waiting = None
            if self._climbing:
                # Once each: what comes next has yet to be put behind.
                self._reel.swap(None)
                self.passed.emit(number)
        led = number == 0 or self._climbing
        self.moved.emit(rendered.position(min(frame if led else rendered.start + frame, rendered.end)))


def _reel(first: "FloatArray", turn: "FloatArray | None") -> "Reel":
    from firn.devices.reel import Reel

    return Reel(first, turn)
