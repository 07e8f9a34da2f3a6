"""Playing: a reel of samples through a device, or by the clock alone where there is none."""

import threading
import time
from collections.abc import Generator
from fractions import Fraction
from typing import TYPE_CHECKING, Protocol

from PySide6.QtCore import QObject, QTimer, Signal

if TYPE_CHECKING:
    # Heavy ones: imported when something is first played, not when Firn starts.
    from firn.core.sound.model import Rendered
    from firn.core.sound.voices import FloatArray

RATE = 48_000
BUFFER_MS = 50
TICK_MS = 16


class Reel:
    """Samples to be played: `first` once, then `turn` again and again if there is one; shapes (n, 2).

    `swap` puts another turn in at the next pass. Read by the device's thread, watched by the window's.
    """

    def __init__(self, first: "FloatArray", turn: "FloatArray | None") -> None:
        self._lock = threading.Lock()
        self._now, self._turn = first, turn
        self._at = 0
        self._pass = 0
        self._read_at = time.perf_counter()
        self._over = False

    def swap(self, turn: "FloatArray | None") -> None:
        """Play this from the next pass on; None stops after this one."""
        with self._lock:
            self._turn = turn

    def read(self, frames: int) -> "FloatArray":
        """The next frames, shape (frames, 2); silence after the end."""
        import numpy as np

        out = np.zeros((frames, 2), dtype=np.float32)
        filled = 0
        with self._lock:
            while filled < frames and not self._over:
                size = min(frames - filled, len(self._now) - self._at)
                out[filled : filled + size] = self._now[self._at : self._at + size]
                filled += size
                self._at += size
                if self._at >= len(self._now):
                    if self._turn is None or not len(self._turn):
                        self._over = True
                    else:
                        self._now, self._at = self._turn, 0
                        self._pass += 1
            self._read_at = time.perf_counter()
        return out

    def where(self, latency_s: float) -> tuple[int, int, bool]:
        """Which pass is heard now, the frame in it, and whether all is over."""
        with self._lock:
            since = time.perf_counter() - self._read_at
            frame = self._at + round((min(since, 0.1) - latency_s) * RATE)
            return self._pass, frame, self._over


class Output(Protocol):
    """Something that reads a reel at its own pace."""

    latency_s: float

    def start(self, reel: Reel) -> None: ...

    def stop(self) -> None: ...


class ClockOutput(QObject):
    """No device: the reel is read by the clock, and nothing is heard."""

    latency_s = 0.0

    def __init__(self) -> None:
        super().__init__()
        self._timer = QTimer(self)
        self._timer.timeout.connect(self._tick)
        self._reel: Reel | None = None
        self._last = 0.0

    def start(self, reel: Reel) -> None:
        self._reel, self._last = reel, time.perf_counter()
        self._timer.start(10)

    def stop(self) -> None:
        self._timer.stop()

    def _tick(self) -> None:
        now = time.perf_counter()
        frames = int((now - self._last) * RATE)
        self._last += frames / RATE
        if self._reel is not None:
            self._reel.read(frames)


class DeviceOutput:
    """The sound device, through miniaudio; raises DeviceError if there is none."""

    latency_s = BUFFER_MS / 1000

    def __init__(self) -> None:
        import miniaudio

        from firn.errors import DeviceError

        backends = [miniaudio.Backend.PULSEAUDIO, miniaudio.Backend.ALSA, miniaudio.Backend.JACK]
        try:
            self._device = miniaudio.PlaybackDevice(
                output_format=miniaudio.SampleFormat.FLOAT32,
                nchannels=2,
                sample_rate=RATE,
                buffersize_msec=BUFFER_MS,
                backends=backends,
                app_name="Firn",
            )
        except miniaudio.MiniaudioError as fault:
            raise DeviceError("No sound device answers.") from fault

    def start(self, reel: Reel) -> None:
        def stream() -> Generator[bytes, int, None]:
            wanted = yield b""
            while True:
                wanted = yield reel.read(wanted).tobytes()

        source = stream()
        next(source)
        self._device.start(source)

    def stop(self) -> None:
        self._device.stop()


def best_output() -> tuple[Output, str]:
    """The device, or the clock and why."""
    from firn.errors import DeviceError

    try:
        return DeviceOutput(), ""
    except DeviceError as fault:
        return ClockOutput(), f"{fault} Firn dances by the clock, in silence."


class Player(QObject):
    """Plays models and takes. `moved`: the position in counts that is heard; `ended` when all is over.

    The output is opened when something is first played; `silent` says why nothing will be heard, if so. `passed`:
    the next model of a ladder has begun, with its number.
    """

    silent = Signal(str)

    moved = Signal(object)
    ended = Signal()
    started = Signal()
    passed = Signal(int)

    def __init__(self, output: Output | None = None, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._output = output
        self._reel: Reel | None = None
        self._rendered: Rendered | None = None
        self._waiting: Rendered | None = None
        self._pass = 0
        self._climbing = False
        self._timer = QTimer(self)
        self._timer.timeout.connect(self._tick)

    @property
    def playing(self) -> bool:
        return self._reel is not None

    @property
    def plays_model(self) -> bool:
        """Whether what plays is a model, whose position is known in counts."""
        return self._rendered is not None

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
        self._start(Reel(first, turn))

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
        self._start(Reel(rendered.audio[: rendered.end], None))

    def follow(self, rendered: "Rendered") -> None:
        """Put a model behind the one that plays, its count-in and rest included."""
        if self._reel is not None and self._climbing:
            self._waiting = rendered
            self._reel.swap(rendered.audio[: rendered.end])

    def play_samples(self, sound: "FloatArray") -> None:
        """Play samples at `RATE` once, shape (n, 2)."""
        self._rendered = None
        self._start(Reel(sound, None))

    def _start(self, reel: Reel) -> None:
        self.stop()
        if self._output is None:
            self._output, why = best_output()
            if why:
                self.silent.emit(why)
        self._reel = reel
        self._output.start(reel)
        self._timer.start(TICK_MS)
        self.started.emit()

    def stop(self) -> None:
        """Stop at once."""
        if self._reel is None:
            return
        self._reel = None
        self._timer.stop()
        if self._output is not None:
            self._output.stop()
        self.ended.emit()

    def _tick(self) -> None:
        if self._reel is None or self._output is None:
            return
        number, frame, over = self._reel.where(self._output.latency_s)
        if over and frame > 0:
            self.stop()
            return
        rendered = self._rendered
        if rendered is None:
            return
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
        begins = rendered.origin if led else rendered.origin + _counts(rendered.start, rendered.tempo)
        self.moved.emit(begins + _counts(frame, rendered.tempo))


def _counts(frames: int, tempo: float) -> Fraction:
    return Fraction(frames * Fraction(tempo).limit_denominator(1000), 60 * RATE)
