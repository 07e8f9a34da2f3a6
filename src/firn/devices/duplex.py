"""A device that plays and records on one clock, and the simulated pair that stands in for one."""

from collections.abc import Callable, Generator
from typing import Any, Protocol

import numpy as np

from firn.core.sound.voices import FloatArray
from firn.devices.clock import RATE, Clock
from firn.devices.quiet import backends
from firn.errors import DeviceError

BUFFER_MS = 50
"""A Python that is busy painting keeps up with this; the delay it brings is told by claps and taken out."""
SIMULATED_LATENCY_S = 0.03

AudioBlock = Callable[[FloatArray], FloatArray]
"""Called by the device with what was recorded, shape (n,); gives what is to be played, shape (n, 2)."""


class Duplex(Protocol):
    """Something that plays and records at once. `name` tells one device from another."""

    name: str
    simulated: bool

    def start(self, block: AudioBlock) -> None: ...

    def stop(self) -> None: ...


class DeviceDuplex:
    """Microphone and loudspeaker through miniaudio's duplex stream; raises DeviceError if there is no such pair."""

    simulated = False

    def __init__(self, through: "list[Any] | None" = None) -> None:
        import miniaudio

        through = through or backends()
        try:
            self._device = miniaudio.DuplexStream(
                playback_format=miniaudio.SampleFormat.FLOAT32,
                playback_channels=2,
                capture_format=miniaudio.SampleFormat.FLOAT32,
                capture_channels=1,
                sample_rate=RATE,
                buffersize_msec=BUFFER_MS,
                backends=through,
                app_name="Firn",
            )
            self.name = _device_name(through)
        except miniaudio.MiniaudioError as fault:
            raise DeviceError("No microphone answers.") from fault

    def start(self, block: AudioBlock) -> None:
        import miniaudio

        def stream() -> Generator[bytes, bytearray, None]:
            captured = yield b""
            while True:
                played = block(np.frombuffer(captured, dtype=np.float32).copy())
                captured = yield played.tobytes()

        source = stream()
        next(source)
        try:
            self._device.start(source)
        except miniaudio.MiniaudioError as fault:
            raise DeviceError("The microphone does not answer any more.") from fault

    def stop(self) -> None:
        # Closing ends the device for good, also one that has gone away by itself.
        self._device.close()


def _device_name(through: "list[Any]") -> str:
    """The names of the pair that would be opened, as one."""
    import miniaudio

    devices = miniaudio.Devices(through)
    captures, playbacks = devices.get_captures(), devices.get_playbacks()
    names = [d[0]["name"] for d in (captures, playbacks) if d]
    return f"{devices.backend}: {' / '.join(names)}"


class SimulatedDuplex:
    """No device: a clock plays, and what is recorded is a take that was made before, some time late.

    `student`: what will be heard, shape (n,), from the first frame played; silence after it.
    """

    name = "simulated"
    simulated = True

    def __init__(self, student: FloatArray, *, latency_s: float = SIMULATED_LATENCY_S) -> None:
        self._heard = np.concatenate([np.zeros(round(latency_s * RATE), dtype=np.float32), student])
        self._at = 0
        self._clock = Clock()

    def start(self, block: AudioBlock) -> None:
        def tick(frames: int) -> None:
            piece = np.zeros(frames, dtype=np.float32)
            heard = self._heard[self._at : self._at + frames]
            piece[: len(heard)] = heard
            self._at += frames
            block(piece)

        self._clock.start(tick)

    def stop(self) -> None:
        self._clock.stop()


Student = Callable[[], FloatArray]
"""Makes what the simulated student would be heard to dance: only asked where no device answers."""

OpenDuplex = Callable[[Student], tuple[Duplex, str]]
"""Opens a pair: gives it, and why if it is not a real one."""


def best_duplex(student: Student) -> tuple[Duplex, str]:
    """The device, or the simulated pair and why."""
    try:
        return DeviceDuplex(), ""
    except DeviceError as fault:
        why = f"{fault} The simulated student dances instead, and nothing of yours is heard."
        return SimulatedDuplex(student()), why
