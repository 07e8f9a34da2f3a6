"""Where a reel is played: the sound device, or the clock alone where there is none."""

from collections.abc import Generator
from typing import Protocol

from firn.devices.clock import RATE, Clock
from firn.devices.quiet import backends
from firn.devices.reel import Reel
from firn.errors import DeviceError

BUFFER_MS = 50


class Output(Protocol):
    """Something that reads a reel at its own pace."""

    latency_s: float

    def start(self, reel: Reel) -> None: ...

    def stop(self) -> None: ...


class ClockOutput:
    """No device: the reel is read by the clock, and nothing is heard."""

    latency_s = 0.0

    def __init__(self) -> None:
        self._clock = Clock()

    def start(self, reel: Reel) -> None:
        self._clock.start(reel.read)

    def stop(self) -> None:
        self._clock.stop()


class DeviceOutput:
    """The sound device, through miniaudio; raises DeviceError if there is none."""

    latency_s = BUFFER_MS / 1000

    def __init__(self) -> None:
        import miniaudio

        try:
            self._device = miniaudio.PlaybackDevice(
                output_format=miniaudio.SampleFormat.FLOAT32,
                nchannels=2,
                sample_rate=RATE,
                buffersize_msec=BUFFER_MS,
                backends=backends(),
                app_name="Firn",
            )
        except miniaudio.MiniaudioError as fault:
            raise DeviceError("No sound device answers.") from fault

    def start(self, reel: Reel) -> None:
        import miniaudio

        def stream() -> Generator[bytes, int, None]:
            wanted = yield b""
            while True:
                wanted = yield reel.read(wanted).tobytes()

        source = stream()
        next(source)
        try:
            self._device.start(source)
        except miniaudio.MiniaudioError as fault:
            raise DeviceError("The sound device does not answer any more.") from fault

    def stop(self) -> None:
        import miniaudio

        try:
            self._device.stop()
        except miniaudio.MiniaudioError:
            # It has gone away by itself.
            return


def best_output() -> tuple[Output, str]:
    """The device, or the clock and why."""
    try:
        return DeviceOutput(), ""
    except DeviceError as fault:
        return ClockOutput(), f"{fault} Firn dances by the clock, in silence."
