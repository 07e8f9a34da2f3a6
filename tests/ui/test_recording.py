"""Recording in the window, by its keys, with the simulated pair in place of a device."""

import unittest
import unittest.mock

import numpy as np
from PySide6.QtCore import Qt

from firn.devices.clock import RATE
from firn.devices.duplex import SimulatedDuplex
from firn.devices.outputs import ClockOutput
from firn.devices.reel import Reel
from firn.errors import DeviceError
from firn.session.session import Session
from firn.ui.pages.entries import LISTEN
from firn.ui.player import Player
from firn.ui.start import build
from tests.support import FolderCase, comes, hurry
from tests.ui.window import CTRL, SHIFT, WindowCase, application

LINE = "1 step  2 step  3 stamp  4 stamp"


class RecordCase(WindowCase):
    said: list[str]

    def build(self, session: Session):
        return build(session, output=ClockOutput(), settings_at=self.folder / "settings.json", open_duplex=self.pair)

    def pair(self, student):
        return SimulatedDuplex(self.change(student())), ""

    def change(self, student: np.ndarray) -> np.ndarray:
        return student

    def setUp(self) -> None:
        super().setUp()
        hurry(self)
        self.said = []
        # Twelve clicks at the tempo that people clap to would be waited for.
        self.enterContext(unittest.mock.patch("firn.session.recording.CLAP_TEMPO", 240.0))
        say = self.window._context.say
        self.window._context.say = lambda text: (self.said.append(text), say(text))
        self.dictate(LINE)
        self.desk.dance_as(self.desk.transport.faster(90))
        self.window.program.keep(passes=1)
        self.page = self.window.listen_page

    def record(self) -> None:
        self.window.show_page(LISTEN)
        self.key(Qt.Key.Key_T)
        self.assertTrue(comes(lambda: self.window.recording.active))

    def danced_a_while(self) -> None:
        """The count-in is over, and .7 s of the dance too."""
        self.assertTrue(comes(lambda: "Recording" in self.page.told.text()))
        recorder = self.window.recording._making.recorder
        begun = recorder.seconds
        self.assertTrue(comes(lambda: recorder.seconds > begun + 0.7))

    def recorded(self) -> None:
        self.record()
        self.assertTrue(comes(lambda: not self.window.recording.active))
        self.settle()
        self.settle()


class RecordTest(RecordCase):
    def test_a_take_by_one_key(self) -> None:
        self.record()
        self.assertEqual(self.page.panel.record_button.text(), "Stop  T")
        self.assertTrue(comes(lambda: "Recording, 1 of 1" in self.page.told.text()))
        self.assertTrue(comes(lambda: not self.window.recording.active))
        self.settle()
        self.settle()
        take = self.book.takes[0]
        self.assertEqual((take.name, take.source, take.tempo, take.swapped), ("Take 1", "simulated", 300.0, False))
        self.key(Qt.Key.Key_K)
        verdict = self.page.heard.verdict
        self.assertEqual((verdict.passes, verdict.count("missing"), verdict.kept.came_in), (1, 0, 0))
        self.assertLess(abs(verdict.kept.lag_ms), 15)
        self.key(Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
        self.assertEqual(self.book.takes, ())

    def test_stopped_early_what_was_heard_is_kept(self) -> None:
        self.record()
        self.danced_a_while()
        self.key(Qt.Key.Key_T)
        self.settle()
        self.assertFalse(self.window.recording.active)
        self.assertEqual(len(self.book.takes), 1)

    def test_how_it_is_recorded(self) -> None:
        def fill(dialog) -> None:
            dialog.heard.setCurrentText("the model")
            dialog.times.setCurrentText("3")

        self.window.show_page(LISTEN)
        self.answers.fill = fill
        self.key(Qt.Key.Key_T, CTRL | SHIFT)
        settings = self.window.program.settings
        self.assertEqual((settings.hearing, settings.passes), ("model", 3))

    def test_dancing_and_leaving_end_it_without_a_take(self) -> None:
        for leave in (lambda: self.key(Qt.Key.Key_Space, on=self.page.takes), lambda: self.window.pieces.new_part()):
            self.record()
            leave()
            self.assertTrue(comes(lambda: not self.window.recording.active))
            self.running.player.stop()
            self.settle()
            self.assertEqual(self.book.takes, ())
            self.window.pieces.walk(-1) if len(self.book.pieces[0].parts) > 1 else None

    def test_turning_away_before_it_begins(self) -> None:
        self.window.show_page(LISTEN)
        self.key(Qt.Key.Key_T)
        self.window.pieces.new_part()
        self.settle()
        self.assertFalse(self.window.recording.active)

    def test_nothing_to_record(self) -> None:
        self.window.pieces.new_part()
        self.window.show_page(LISTEN)
        self.window.actions_by_id["record"].trigger()
        self.assertIn("A take is of a part that sounds", self.said[-1])

    def test_clap_along(self) -> None:
        self.window.show_page(LISTEN)
        self.window.actions_by_id["clap_along"].trigger()
        self.assertTrue(comes(lambda: "Clap on every click" in self.page.told.text()))
        self.assertTrue(comes(lambda: bool(self.window.program.settings.latency_ms)))
        self.assertIn("This device is 30 ms late, told from 10 claps", self.said[-1])


class SilentTest(RecordCase):
    def change(self, student: np.ndarray) -> np.ndarray:
        return student * 0

    def test_a_silent_microphone(self) -> None:
        self.recorded()
        self.assertEqual(self.book.takes, ())
        self.assertIn("The microphone heard nothing. Is it on", self.said[-1])

    def test_no_claps(self) -> None:
        self.window.show_page(LISTEN)
        failed = []
        self.window.jobs.failed.connect(failed.append)
        self.window.actions_by_id["clap_along"].trigger()
        self.assertTrue(comes(lambda: bool(failed)))
        self.assertIn("0 of 10 claps were heard", failed[0])
        self.assertEqual(self.window.program.settings.latency_ms, ())


class ClippedTest(RecordCase):
    def change(self, student: np.ndarray) -> np.ndarray:
        return np.clip(student * 40, -1, 1).astype(np.float32)

    def test_a_microphone_that_clips_is_told_and_kept(self) -> None:
        self.recorded()
        self.assertEqual(len(self.book.takes), 1)
        self.assertTrue(any("overdriven" in said for said in self.said))


class PulledTest(RecordCase):
    def pair(self, student):
        pair = SimulatedDuplex(student())
        self.pulled = pair
        return pair, ""

    def test_a_device_pulled_out_in_mid_take(self) -> None:
        self.record()
        self.danced_a_while()
        self.pulled._clock.stop()
        self.assertTrue(comes(lambda: not self.window.recording.active))
        self.settle()
        self.assertEqual(len(self.book.takes), 1)
        self.assertTrue(any("went away" in said and "is kept" in said for said in self.said), self.said)


class NoDeviceTest(RecordCase):
    def pair(self, student):
        class Gone(SimulatedDuplex):
            def start(self, block) -> None:
                raise DeviceError("The microphone does not answer any more.")

        return Gone(student()), ""

    def test_one_sentence(self) -> None:
        self.window.show_page(LISTEN)
        self.key(Qt.Key.Key_T)
        self.assertTrue(comes(lambda: bool(self.said)))
        self.assertEqual(
            (self.said, self.window.recording.active), (["The microphone does not answer any more."], False)
        )


class GoneOutputTest(FolderCase):
    def test_a_loudspeaker_that_goes_away(self) -> None:
        """The reel goes on by the clock, and it is said."""
        application()
        hurry(self)
        output = ClockOutput()
        player, said = Player(output), []
        player.silent.connect(said.append)
        player._start(Reel(np.zeros((RATE * 4, 2), np.float32), None))
        self.assertTrue(comes(lambda: player._reel.where(0.0)[1] > 0))
        output.stop()
        self.assertTrue(comes(lambda: bool(said)))
        self.assertIn("has gone away. Firn dances by the clock", said[0])
        before = player._reel.where(0.0)[1]
        self.assertTrue(comes(lambda: player._reel.where(0.0)[1] > before + RATE / 10))
        player.stop()


if __name__ == "__main__":
    unittest.main()
