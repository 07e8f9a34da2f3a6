"""A microphone alone, and what it has heard of late, by Firn's own clock."""

import threading
from collections import deque
from collections.abc import Callable, Generator
from typing import Protocol

import numpy as np

from firn.core.sound.voices import FloatArray
from firn.devices import clock
from firn.devices.clock import RATE
from firn.devices.quiet import backends
from firn.errors import DeviceError

BUFFER_MS = 50
GONE_S = 3.0
"""A device that has not called for so long has gone away."""

MOST_S = 300.0
"""So much of what was heard is kept."""

Hears = Callable[[FloatArray], None]
"""Called by the device with what was recorded, shape (n,)."""


class Microphone(Protocol):
    """Something that records."""

    def start(self, hears: Hears) -> None: ...

    def stop(self) -> None: ...


class DeviceMicrophone:
    """A microphone through miniaudio; raises DeviceError if there is none."""

    def __init__(self) -> None:
        import miniaudio

        try:
            self._device = miniaudio.CaptureDevice(
                input_format=miniaudio.SampleFormat.FLOAT32,
                nchannels=1,
                sample_rate=RATE,
                buffersize_msec=BUFFER_MS,
                backends=backends(),
                app_name="Firn",
            )
        except miniaudio.MiniaudioError as fault:
            raise DeviceError("No microphone answers.") from fault

    def start(self, hears: Hears) -> None:
        import miniaudio

        def stream() -> Generator[None, bytes, None]:
            while True:
                captured = yield
                hears(np.frombuffer(captured, dtype=np.float32).copy())

        source = stream()
        next(source)
        try:
            self._device.start(source)
        except miniaudio.MiniaudioError as fault:
            raise DeviceError("The microphone does not answer any more.") from fault

    def stop(self) -> None:
        # Closing ends the device for good, also one that has gone away by itself.
        self._device.close()


def best_microphone() -> Microphone:
    """The microphone of the system; raises DeviceError where there is none."""
    return DeviceMicrophone()


class Listener:
    """Keeps what a microphone heard of late; frames are counted from its start."""

    def __init__(self, microphone: Microphone) -> None:
        self._microphone = microphone
        self._lock = threading.Lock()
        self._kept: deque[FloatArray] = deque()
        # The frame on which what is kept begins, and the one that is heard next.
        self._first = self._next = 0
        self._called = clock.now()

    def start(self) -> None:
        """Begin; raises DeviceError if the device does not answer."""
        self._called = clock.now()
        self._microphone.start(self._hear)

    def stop(self) -> None:
        """End; what was heard is still kept."""
        self._microphone.stop()

    def _hear(self, captured: FloatArray) -> None:
        with self._lock:
            self._kept.append(captured)
            self._next += len(captured)
            self._called = clock.now()
            while self._next - self._first - len(self._kept[0]) > MOST_S * RATE:
                self._first += len(self._kept.popleft())

    @property
    def now(self) -> int:
        """The frame that is heard now."""
        with self._lock:
            return self._next + round(min(clock.now() - self._called, 0.2) * RATE)

    @property
    def gone(self) -> bool:
        """Whether the device has gone away."""
        with self._lock:
            return clock.now() - self._called > GONE_S

    def between(self, first: int, last: int) -> FloatArray:
        """What was heard from a frame up to another, shape (n,): as much of it as is kept, and is heard by now."""
        with self._lock:
            kept, begins = list(self._kept), self._first
        pieces = []
        for piece in kept:
            piece_ends = begins + len(piece)
            if piece_ends > first and begins < last:
                pieces.append(piece[max(0, first - begins) : last - begins])
            begins = piece_ends
        return np.concatenate(pieces) if pieces else np.zeros(0, dtype=np.float32)
