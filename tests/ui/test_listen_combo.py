"""A take of a whole combo on Listen: its passes, what was left out, where each belongs; and the log."""

import unittest

import numpy as np
import soundfile
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from firn.ui.pages.entries import LISTEN
from tests import films
from tests.ui.window import CTRL, WindowCase

Key = Qt.Key
TEMPO = 112.0
PARTS = (
    "8 stomp  1 hop  2 step  &3 flap  & step\n4 stomp  5 hop  6 step  &7 flap  & step",
    "1 stamp  2 stamp  & stamp  3 clap  4 stamp  5 clap  6 stamp  & stamp  7 stamp  8 clap",
)


class ComboCase(WindowCase):
    def setUp(self) -> None:
        super().setUp()
        self.dictate(PARTS[0])
        self.settle()
        self.key(Key.Key_T, CTRL)
        self.editor.setFocus()
        self.dictate(PARTS[1])
        self.settle()
        names = [p.name for p in self.desk.piece.parts]
        self.desk.go_to(self.desk.piece.id, "combo")
        self.editor.setFocus()
        self.dictate(f"{names[0]} x2, {names[1]}, {names[0]}, {names[1]}")
        self.settle()
        self.names = names

    def bring(self, *, without: int | None = None) -> None:
        """Bring in a take of the combo, struck at its places within 8 ms; without one of its passes."""
        rng = np.random.default_rng(6)
        times, at = [], 1.0
        for number, one in enumerate(self.desk.combo[1].passes):
            first = one.offset + one.part.first_count
            if number == without:
                continue
            heard = sorted({float(s.position - first) for s in one.sounds if s.heard})
            times += [at + c * 60 / TEMPO + rng.normal(0, 0.008) for c in heard]
            at += one.part.counts * 60 / TEMPO
        path = self.folder / "routine.wav"
        soundfile.write(path, films.strikes(times, at + 1), films.RATE)
        self.answers.path = path
        self.window.show_page(LISTEN)
        self.key(Key.Key_I)
        self.settle()
        self.settle()
        self.page = self.window.listen_page

    def test_each_pass_is_judged_and_shown_where_it_belongs(self) -> None:
        self.bring()
        view = self.page.routine
        self.assertTrue(view.isVisible())
        self.assertEqual(view.passes.count(), 5)
        self.assertIn("5 passes", view.whole.text())
        self.assertTrue(all("clean" in view.passes.item(n).text() for n in range(5)), view.passes.item(0).text())
        # What was heard lies under the strip of the whole combo.
        marks = self.page.strip.overlay.verdict
        heard = sum(s.heard for s in self.desk.stretch.sounds)
        self.assertGreater(len(marks), 0.9 * heard)
        view.passes.setFocus()
        view.passes.setCurrentRow(2)
        place = self.desk.stretch.sounds[self.page.strip.current].place
        begins = self.desk.combo[1].passes[2]
        self.assertEqual(place, begins.offset + begins.part.first_count)
        QTest.keyClick(view.passes, Key.Key_Return)
        self.assertTrue(self.window._player.playing)
        (entry,) = self.book.log
        self.assertEqual((entry.step, entry.clean), ("Untitled, combo", True))
        self.assertAlmostEqual(entry.tempo, TEMPO, delta=1)

    def test_what_was_left_out_is_said_first(self) -> None:
        self.bring(without=2)
        self.assertIn(f"{self.names[1]} was left out", self.page.routine.first.text())
        self.assertEqual([e.how for e in self.book.log], ["lost"])

    def test_what_is_none_of_it_is_in_doubt(self) -> None:
        path = self.folder / "noise.wav"
        rng = np.random.default_rng(2)
        soundfile.write(path, films.strikes(sorted(rng.uniform(0.5, 12, 40)), 13), films.RATE)
        self.answers.path = path
        self.window.show_page(LISTEN)
        self.key(Key.Key_I)
        self.settle()
        self.settle()
        page = self.window.listen_page
        said = page.empty.text() + page.routine.whole.text()
        self.assertRegex(said, "In doubt|Nothing of this combo")
        self.assertEqual(self.book.log, ())

    def test_a_part_again_is_as_it_was(self) -> None:
        self.bring()
        self.desk.go_to(self.desk.piece.id, self.desk.piece.parts[0].id)
        self.settle()
        self.assertFalse(self.page.routine.isVisible())
        self.assertEqual(self.page.takes.count(), 0)


if __name__ == "__main__":
    unittest.main()
