"""Music of her own to a piece, by its keys: chosen, counted, heard with its counts, danced to, taken away."""

import unittest
from pathlib import Path
from types import SimpleNamespace

import numpy as np
import soundfile
from PySide6.QtCore import Qt

from firn.core.sound.voices import RATE
from tests.session.test_music import beats, clicks
from tests.support import cases, comes, wait
from tests.ui.window import CTRL, WindowCase

BPM = 112.0


class OwnMusicTest(WindowCase):
    def setUp(self) -> None:
        super().setUp()
        self.music = self.folder / "mill.wav"
        times = beats(48, BPM)
        soundfile.write(self.music, clicks(times, float(times[-1]) + 1), RATE)
        self.dictate("1 step 2 step 3 step 4 step")
        self.desk.commit()
        self.window.write_page.strip.setFocus()

    def ask(self, fill=lambda dialog: None) -> SimpleNamespace:
        """Choose the file by the key; what the dialog said and how it was filled."""
        seen = []

        def filled(dialog) -> None:
            fill(dialog)
            said = (dialog.about.text(), dialog.tempo.text(), dialog.first.text(), not dialog.away.isHidden())
            seen.append(SimpleNamespace(**dict(zip(("about", "tempo", "first", "away"), said, strict=True))))

        self.answers.path, self.answers.fill = self.music, filled
        self.window.actions_by_id["own_music"].trigger()
        self.assertTrue(comes(lambda: bool(seen)))
        wait(10)
        return seen[0]

    def dance(self, tempo: float) -> None:
        self.desk.dance_as(self.desk.transport.__class__(tempo=tempo, layers="music", then="stop"))
        self.window.write_page.strip.setFocus()
        self.key(Qt.Key.Key_Space)
        self.assertTrue(comes(lambda: self.running.player.playing))

    @property
    def kept(self):
        return self.book.clip_of(self.desk.piece.id)

    def test_found_counted_and_danced_to(self) -> None:
        dialog = self.ask()
        self.assertIn("mill.wav, 0:27: 112", dialog.about)
        self.assertAlmostEqual(float(dialog.tempo), BPM, delta=1)
        self.assertAlmostEqual(self.kept.seconds[0], 1.25, delta=0.05)
        self.assertIn("mill.wav plays where music is heard", self.window.banner.text)
        self.dance(float(dialog.tempo))
        self.assertGreater(np.abs(self.running.player._rendered.audio).max(), 0.1)
        self.assertIsNotNone(self.window.dancing._music._opened)
        self.key(Qt.Key.Key_Space)
        self.key(Qt.Key.Key_Z, CTRL)
        self.assertIsNone(self.kept)

    def test_put_right_by_its_keys(self) -> None:
        def fill(dialog) -> None:
            dialog.later.click()
            dialog.half.click()
            self.assertTrue(comes(lambda: self.running.player.playing), "heard with its counts")

        dialog = self.ask(fill)
        self.assertAlmostEqual(float(dialog.tempo), BPM / 2, delta=1)
        self.assertAlmostEqual(float(dialog.first), 1.25 + 60 / BPM, delta=0.03)
        self.assertFalse(self.running.player.playing)
        # Asked for again it stands as it was put right.
        again = self.ask()
        self.assertAlmostEqual(float(again.first), 1.25 + 60 / BPM, delta=0.03)
        self.assertTrue(again.away)

    @cases(("tempo", "quick", "in numbers"), ("tempo", "900", "Between 20 and 400"), ("first", "99", "in the 27 s"))
    def test_what_it_cannot_be_is_said(self, field: str, text: str, said: str) -> None:
        self.ask(lambda dialog: getattr(dialog, field).setText(text))
        self.assertIn(said, self.answers.wrong)
        self.assertIsNone(self.kept)

    def test_taken_away(self) -> None:
        self.ask()
        # The dialog that takes it away is accepted by that.
        self.ask(lambda dialog: (dialog.away.click(), dialog.first.setText("")))
        self.assertIsNone(self.kept)

    def test_faster_than_it_is_the_plain_backing_plays(self) -> None:
        self.ask()
        self.dance(180)
        self.assertIn("can only be made slower. The plain backing plays", self.window.banner.text)

    def test_a_file_that_is_gone(self) -> None:
        self.ask()
        self.music.unlink()
        self.dance(100)
        self.assertIn("mill.wav is neither in", self.window.banner.text)
        self.answers.path = None
        self.window.actions_by_id["own_music"].trigger()
        self.assertIn("choose it", self.window.banner.text)

    def test_no_recording(self) -> None:
        self.music = self.folder / "letter.wav"
        Path(self.music).write_text("Dear class")
        self.answers.path = self.music
        self.window.actions_by_id["own_music"].trigger()
        self.assertTrue(comes(lambda: "letter.wav" in self.window.banner.text))


if __name__ == "__main__":
    unittest.main()
