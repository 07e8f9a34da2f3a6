"""A part called in her own voice, by its keys: said to the microphone, from a recording, heard, kept, taken away."""

import unittest

import numpy as np
import soundfile
from PySide6.QtCore import Qt

from firn.core.sound.voices import RATE
from firn.devices.duplex import SimulatedDuplex
from firn.devices.outputs import ClockOutput
from firn.errors import DeviceError
from firn.session.calls import calls_of
from firn.session.session import Session
from firn.ui.start import build
from tests.session.test_calls import voice
from tests.support import comes, hurry, wait
from tests.ui.window import CTRL, WindowCase


class Microphone(SimulatedDuplex):
    """Stands in for a real one: what is heard was recorded before."""

    simulated = False


class OwnCallsTest(WindowCase):
    heard = voice(0.6)
    fault = ""

    def build(self, session: Session):
        return build(session, output=ClockOutput(), settings_at=self.folder / "settings.json", open_duplex=self.pair)

    def pair(self, student):
        if self.fault:
            raise DeviceError(self.fault)
        return (Microphone(self.heard) if self.heard is not None else SimulatedDuplex(student())), ""

    def setUp(self) -> None:
        super().setUp()
        self.dictate("1 step 2 step")
        self.desk.commit()

    def ask(self, fill) -> None:
        said = []

        def filled(dialog) -> None:
            fill(dialog)
            said.append((dialog.state.text(), dialog.wrong.text()))

        self.answers.fill = filled
        self.window.actions_by_id["own_call"].trigger()
        wait(10)
        self.said = said[0]

    def spoken(self, dialog) -> None:
        dialog.recorded.click()
        self.assertEqual(dialog.state.text(), "Say it …")
        self.assertTrue(comes(lambda: dialog.said is not None))

    def test_said_into_the_microphone(self) -> None:
        hurry(self, 3)

        def fill(dialog) -> None:
            self.spoken(dialog)
            dialog.heard.click()
            self.assertTrue(comes(lambda: self.running.player.playing))

        self.ask(fill)
        self.assertIn("hear it, then OK keeps it", self.said[0])
        (call,) = self.book.calls
        self.assertEqual((call.piece, call.part), (self.desk.piece.id, self.desk.part_id))
        self.assertAlmostEqual(call.seconds, 0.6, delta=0.15)
        self.assertIn("A is called in your own voice", self.window.banner.text)
        self.assertTrue(calls_of(self.window._context.bridge.session.store, self.book, call.piece))
        self.key(Qt.Key.Key_Z, CTRL)
        self.assertEqual(self.book.calls, ())

    def test_from_a_recording_and_taken_away(self) -> None:
        self.answers.path = self.folder / "a.wav"
        soundfile.write(self.answers.path, voice(0.5), RATE)

        def choose(dialog) -> None:
            dialog.chosen.click()
            self.assertTrue(comes(lambda: dialog.said is not None))

        self.ask(choose)
        self.assertEqual(len(self.book.calls), 1)
        # Kept is heard without being said anew.
        self.ask(lambda dialog: (dialog.heard.click(), comes(lambda: self.running.player.playing)))
        self.assertIn("called in your own voice already", self.said[0])
        self.assertIn("Nothing new is said", self.answers.wrong)
        self.ask(lambda dialog: dialog.taken.click())
        self.assertEqual(self.book.calls, ())

    def refused(self, press) -> str:
        wrong = []

        def fill(dialog) -> None:
            press(dialog)
            self.assertTrue(comes(lambda: bool(dialog.wrong.text())))
            wrong.append(dialog.wrong.text())

        self.ask(fill)
        self.assertEqual(self.book.calls, ())
        return wrong[0]

    def test_what_is_no_call(self) -> None:
        hurry(self, 3)
        self.answers.path = self.folder / "letter.wav"
        self.answers.path.write_text("Dear class")
        self.assertIn("letter.wav", self.refused(lambda dialog: dialog.chosen.click()))
        self.heard = np.zeros(RATE, np.float32)
        self.assertEqual(self.refused(lambda dialog: dialog.recorded.click()), "Nothing is said in it.")

    def test_without_a_microphone(self) -> None:
        self.heard = None
        self.assertIn("choose a recording", self.refused(lambda dialog: dialog.recorded.click()))
        self.fault = "No microphone answers."
        self.assertEqual(self.refused(lambda dialog: dialog.recorded.click()), "No microphone answers.")


if __name__ == "__main__":
    unittest.main()
