"""Keys and pedals that speak MIDI, a fifo in place of the raw device: bytes as the standard has them."""

import os
import random
import threading
import unittest
import unittest.mock
from pathlib import Path
from time import perf_counter

import mido

from firn.devices import midi
from firn.devices.midi import PEDAL, MidiIn, midi_devices
from firn.errors import DeviceError
from tests.servers import until
from tests.support import FolderCase, cases


class MidiCase(FolderCase):
    def setUp(self) -> None:
        super().setUp()
        self.enterContext(unittest.mock.patch.object(midi, "FOLDER", self.folder))
        self.heard: list[tuple[float, int, int]] = []

    def device(self, name: str = "midiC1D0") -> Path:
        path = self.folder / name
        os.mkfifo(path)
        return path

    def listening(self, path: Path) -> int:
        """Listen to a device; gives the end that writes."""
        device = MidiIn([path], lambda *one: self.heard.append(one))
        self.addCleanup(device.stop)
        end = os.open(path, os.O_WRONLY)
        self.addCleanup(os.close, end)
        return end

    def told(self, many: int) -> list[tuple[int, int]]:
        until(lambda: len(self.heard) >= many)
        return [(note, hard) for _, note, hard in self.heard]


class MidiTest(MidiCase):
    @cases(
        ("notes", [0x90, 60, 100, 0x80, 60, 0, 0x90, 62, 20], [(60, 100), (62, 20)]),
        ("running status, off as a soft on", [0x90, 60, 100, 60, 0, 64, 90], [(60, 100), (64, 90)]),
        ("any channel, clock between", [0x99, 0xF8, 36, 110, 0xFE, 0x93, 38, 1], [(36, 110), (38, 1)]),
        ("a pedal once until it is up", [0xB0, 64, 90, 64, 127, 64, 0, 64, 70], [(PEDAL + 64, 90), (PEDAL + 64, 70)]),
        ("other controllers say nothing", [0xB0, 7, 100, 1, 127, 0x90, 60, 64], [(60, 64)]),
        ("in two pieces", [[0x90, 60], [80, 0x90, 61, 81]], [(60, 80), (61, 81)]),
        ("noise", [0x12, 0x34, 0xF0, 1, 2, 0xF7, 0x90, 65, 70], [(65, 70)]),
    )
    def test_heard(self, name: str, data: list, wanted: list[tuple[int, int]]) -> None:
        self.heard.clear()
        end = self.listening(self.device(f"midiC{sum(name.encode())}D0"))
        pieces = data if isinstance(data[0], list) else [data]
        begun = perf_counter()
        for piece in pieces:
            os.write(end, bytes(piece))
        self.assertEqual(self.told(len(wanted)), wanted)
        self.assertTrue(all(begun <= at <= perf_counter() for at, _, _ in self.heard))

    def test_as_another_library_writes_them(self) -> None:
        """Random messages as mido has them in bytes, read in pieces of any size."""
        chance = random.Random(8)
        kinds = (
            "note_on",
            "note_off",
            "control_change",
            "program_change",
            "pitchwheel",
            "aftertouch",
            "clock",
            "sysex",
        )
        sent = [mido.Message(chance.choice(kinds)) for _ in range(400)]
        sent = [
            m.copy(note=chance.randrange(128), velocity=chance.randrange(128)) if "note" in m.type else m
            for m in sent
        ]
        wanted = [tuple(m.bytes()) for m in sent if len(m.bytes()) == 3]
        stream, reader, found = bytes(b for m in sent for b in m.bytes()), midi.Messages(), []
        while stream:
            size = chance.randint(1, 7)
            found += reader.feed(stream[:size])
            stream = stream[size:]
        self.assertEqual(found, wanted)

    def test_pulled_out_and_stopped(self) -> None:
        path = self.device()
        device = MidiIn([path], lambda *one: self.heard.append(one))
        end = os.open(path, os.O_WRONLY)
        os.write(end, bytes([0x90, 60, 90]))
        self.assertEqual(self.told(1), [(60, 90)])
        os.close(end)
        device.stop()
        self.assertFalse(any(t is device._thread for t in threading.enumerate()))

    def test_devices_and_none(self) -> None:
        self.assertEqual(midi_devices(), [])
        path = self.device()
        (self.folder / "pcmC0D0p").touch()
        self.assertEqual(midi_devices(), [path])
        with unittest.mock.patch.object(midi, "FOLDER", self.folder / "none"):
            self.assertEqual(midi_devices(), [])
        with self.assertRaisesRegex(DeviceError, "cannot be opened"):
            MidiIn([self.folder / "gone"], lambda *_: None)


if __name__ == "__main__":
    unittest.main()
