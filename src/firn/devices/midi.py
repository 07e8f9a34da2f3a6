"""Keys and pedals that speak MIDI, read as the system hands them on: a raw device each (ALSA's rawmidi)."""

import os
import select
import threading
from collections.abc import Callable, Sequence
from contextlib import suppress
from pathlib import Path
from time import perf_counter

from firn.errors import DeviceError

FOLDER = Path("/dev/snd")
PEDAL = 128
"""Added to a pedal's controller, so that pedals have numbers beside notes."""

PEDALS = (64, 66, 67)
"""Sustain, sostenuto and soft (MIDI 1.0 detailed specification, table 3)."""

STATUS, NOTE_ON, CONTROLLER, PROGRAM, SYSTEM, REAL_TIME = 0x80, 0x90, 0xB0, 0xC0, 0xF0, 0xF8

DOWN = 64
"""A pedal's value from which on it is down."""

Heard = Callable[[float, int, int], None]
"""Told when something went down: the time of perf_counter, its note or PEDAL + controller, how hard (1 to 127)."""


def midi_devices() -> list[Path]:
    """The raw MIDI devices that there are."""
    try:
        return sorted(FOLDER.glob("midiC*D*"))
    except OSError:
        return []


class Messages:
    """The messages of three bytes, notes and controllers, in a stream: running status is gone on with, what the clock
    says between bytes and all else is passed over (MIDI 1.0 detailed specification)."""

    def __init__(self) -> None:
        self._status = 0
        self._data: list[int] = []

    def feed(self, data: bytes) -> list[tuple[int, int, int]]:
        """The messages that end in some bytes: status, and two of data."""
        found: list[tuple[int, int, int]] = []
        for byte in data:
            if byte >= REAL_TIME:
                continue
            if byte >= STATUS:
                # System messages end the running status.
                self._status, self._data = byte if byte < SYSTEM else 0, []
                continue
            if not self._status:
                continue
            self._data.append(byte)
            if len(self._data) == (1 if self._status & 0xE0 == PROGRAM else 2):
                if len(self._data) == 2:
                    found.append((self._status, self._data[0], self._data[1]))
                self._data = []
        return found


class MidiIn:
    """Listens to raw MIDI devices in a thread of its own; raises DeviceError where none of them can be opened."""

    def __init__(self, paths: Sequence[Path], heard: Heard) -> None:
        self._heard = heard
        self._files: list[int] = []
        for path in paths:
            with suppress(OSError):
                self._files.append(os.open(path, os.O_RDONLY | os.O_NONBLOCK))
        if not self._files:
            raise DeviceError("The MIDI device cannot be opened: another program has it, or it is not allowed.")
        # A byte here ends the thread's waiting.
        self._ended, self._end = os.pipe()
        self._thread = threading.Thread(target=self._listen, daemon=True)
        self._thread.start()

    def stop(self) -> None:
        """Listen no more."""
        with suppress(OSError):
            os.write(self._end, b".")
        self._thread.join(1.0)
        for file in (*self._files, self._ended, self._end):
            with suppress(OSError):
                os.close(file)

    def _listen(self) -> None:
        parsers = {file: Messages() for file in self._files}
        down: set[tuple[int, int]] = set()
        while parsers:
            ready, _, _ = select.select([*parsers, self._ended], [], [])
            if self._ended in ready:
                return
            at = perf_counter()
            for file in ready:
                try:
                    data = os.read(file, 1024)
                except BlockingIOError:
                    continue
                except OSError:
                    data = b""
                if not data:
                    # It was pulled out.
                    del parsers[file]
                    continue
                for message in parsers[file].feed(data):
                    self._take(at, *message, down)

    def _take(self, at: float, status: int, number: int, value: int, down: set[tuple[int, int]]) -> None:
        if status & 0xF0 == NOTE_ON and value:
            self._heard(at, number, value)
        elif status & 0xF0 == CONTROLLER and number in PEDALS:
            key = (status & 0x0F, number)
            if value >= DOWN and key not in down:
                down.add(key)
                self._heard(at, PEDAL + number, value)
            elif value < DOWN:
                down.discard(key)
