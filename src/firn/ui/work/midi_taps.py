"""Taps from keys and pedals that speak MIDI, where such a device is."""

from collections.abc import Callable
from contextlib import suppress
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject, Qt, Signal

from firn.errors import DeviceError

if TYPE_CHECKING:
    from firn.devices.midi import MidiIn

SOFT = 40
"""A key that is struck softer than this is without weight."""


class MidiTaps(QObject):
    """Listens while something is tapped. `struck`: at which time of perf_counter, which note or pedal, and whether it
    was soft."""

    struck = Signal(float, int, bool)

    def __init__(self, take: Callable[[float, int, bool], None], parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._in: MidiIn | None = None
        # What comes from the device's own thread waits for the window's.
        self.struck.connect(take, Qt.ConnectionType.QueuedConnection)

    def start(self) -> str:
        """Listen to the devices that there are; gives what is to be said of them, "" for nothing."""
        from firn.devices.midi import MidiIn, midi_devices

        self.stop()
        paths = midi_devices()
        if not paths:
            return ""
        try:
            self._in = MidiIn(paths, self._heard)
        except DeviceError as fault:
            return str(fault)
        return ""

    def _heard(self, at_s: float, note: int, hard: int) -> None:
        # The window may have gone while a key went down.
        with suppress(RuntimeError):
            self.struck.emit(at_s, note, hard < SOFT)

    @property
    def on(self) -> bool:
        """Whether a device is listened to."""
        return self._in is not None

    def stop(self) -> None:
        """Listen no more."""
        device, self._in = self._in, None
        if device is not None:
            device.stop()
