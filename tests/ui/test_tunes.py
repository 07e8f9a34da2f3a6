"""Tempos that are tapped, and which tunes of a folder suit: by keys, through the dialogs."""

import shutil
import unittest
from pathlib import Path

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from firn.ui.dialogs.counting import CountingDialog
from firn.ui.dialogs.prompts import Prompts
from firn.ui.dialogs.tempo import TempoDialog
from firn.ui.widgets.tap_button import TapButton
from tests.support import DATA, cases, comes, wait
from tests.ui.window import CTRL, WindowCase

EIGHT = "1 step  2 step  3 step  4 step  5 step  6 step  7 step  8 hold"


def tapped(button: TapButton, times_s: list[float], key: Qt.Key = Qt.Key.Key_Space) -> None:
    """Tap a button by a key at some times."""
    clock = iter(times_s)
    button._now = lambda: next(clock)
    for _ in times_s:
        QTest.keyClick(button, key)


class TempoTest(WindowCase):
    @cases(
        ("even", [0.5 * n for n in range(6)], "120"),
        ("a hand that wavers by 30 ms", [0, 0.63, 1.2, 1.83, 2.4, 3.03, 3.6], "100"),
        ("one left out", [0, 0.5, 1.0, 2.0, 2.5, 3.0, 3.5], "120"),
        ("another after a silence", [0, 1.0, 2.0, 9.0, 9.5, 10.0], "120"),
        ("once", [0.0], "96"),
        ("faster than there is", [0.0, 0.1, 0.2, 0.3], "96"),
    )
    def test_tapped(self, _: str, times_s: list[float], said: str) -> None:
        dialog = TempoDialog(96, self.window)
        tapped(dialog.tap, times_s)
        self.assertEqual(dialog.field.text(), said)
        # Return taps too, and leaves the dialog open.
        tapped(dialog.tap, [20.0, 20.6, 21.2], Qt.Key.Key_Return)
        self.assertEqual((dialog.field.text(), dialog.result()), ("100", 0))

    @cases(("quick", "in numbers"), ("7", "Between 20 and 400"))
    def test_what_it_cannot_be(self, text: str, said: str) -> None:
        dialog = TempoDialog(96, self.window)
        dialog.field.setText(text)
        dialog.accept()
        self.assertIn(said, dialog.wrong.text())

    def test_by_its_key(self) -> None:
        self.answers.tempo = lambda parent, now: Prompts.tempo(self.answers, parent, now)
        self.answers.fill = lambda dialog: dialog.field.setText("112,5")
        self.key(Qt.Key.Key_F7)
        self.assertEqual(self.desk.transport.tempo, 112.5)

    def test_the_tempo_of_a_tune(self) -> None:
        dialog = CountingDialog(self.desk.settings, self.window)
        dialog.tune.setText("Mill Race: intro 8 bars, AABB 8, at 90")
        tapped(dialog.tap_tune, [0.5 * n for n in range(5)])
        self.assertEqual(dialog.tune.text(), "Mill Race: intro 8 bars, AABB 8, at 120")
        tapped(dialog.tap, [0.6 * n for n in range(5)])
        self.assertEqual(dialog.tempo.text(), "100")
        dialog.accept()
        self.assertIn("tune: Mill Race: intro 8 bars, AABB 8, at 120", dialog.head)


class TunesTest(WindowCase):
    def setUp(self) -> None:
        super().setUp()
        self.dictate(EIGHT)
        self.desk.commit()
        self.tunes = self.folder / "tunes"
        self.tunes.mkdir()
        for name in ("abc_parts.abc", "abc_slipjig.abc"):
            shutil.copy(DATA / name, self.tunes / name)
        (self.tunes / "letter.mid").write_text("Dear class")
        self.answers.path = self.tunes

    def ask(self, fill=lambda dialog: None) -> list[str]:
        """Ask by the action; what the list says."""
        said: list[str] = []

        def filled(dialog) -> None:
            fill(dialog)
            said[:] = [dialog.list.item(n).text() for n in range(dialog.list.count())]
            self.many = dialog.many.text()

        self.answers.fill = filled
        self.window.actions_by_id["tunes_suit"].trigger()
        self.assertTrue(comes(lambda: bool(said)))
        wait(10)
        return said

    def test_the_best_first_and_taken(self) -> None:
        said = self.ask()
        self.assertEqual(len(said), 2)
        self.assertTrue(said[-1].startswith("other meter: "), said)
        self.assertIn("of 2 tunes fit A", self.many)
        self.assertIn("1 cannot be read", self.many)
        self.assertIn("Danced to", self.window.banner.text)
        self.assertTrue(self.desk.settings.tune_said)
        self.key(Qt.Key.Key_Z, CTRL)
        self.assertEqual(self.desk.settings.tune_said, "")

    def test_by_what_is_typed(self) -> None:
        said = self.ask(lambda dialog: dialog.word.setText("abc_slipjig.abc other"))
        self.assertEqual(len(said), 1)

    def test_nothing_to_suit_and_no_tunes(self) -> None:
        self.answers.path = Path(self.folder / "empty")
        self.answers.path.mkdir()
        self.window.actions_by_id["tunes_suit"].trigger()
        self.assertTrue(comes(lambda: "There is no tune in empty" in self.window.banner.text))
        self.desk.change("", "Write")
        self.window.actions_by_id["tunes_suit"].trigger()
        self.assertIn("nothing to dance yet", self.window.banner.text)


if __name__ == "__main__":
    unittest.main()
