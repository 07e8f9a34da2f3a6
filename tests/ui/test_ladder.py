"""The ladder, by its keys: asked for, danced rung by rung, followed by the stand-back view."""

import unittest

from PySide6.QtCore import Qt

from firn.core.drills.ladder import Ladder
from tests.support import hurry, wait
from tests.ui.window import WindowCase


class LadderTest(WindowCase):
    def ask(self, **fields: str) -> None:
        def fill(dialog) -> None:
            for name, text in fields.items():
                getattr(dialog, name).setText(text)

        self.answers.fill = fill
        self.window.write_page.strip.setFocus()
        self.key(Qt.Key.Key_U)

    def test_asked_for_and_taken_away(self) -> None:
        self.dictate("1 step 2 step")
        self.ask(start="100", end="120", step="10", times="2")
        self.assertEqual(self.desk.transport.ladder, Ladder(100, 120, 10, 2, "both sides", 4))
        self.assertIn("from 100 to 120 by 10, twice a side", self.window.line.said)
        self.key(Qt.Key.Key_U)
        self.assertIsNone(self.desk.transport.ladder)
        self.assertIn("at 120", self.window.line.said)

    def test_from_nothing(self) -> None:
        said = []

        def fill(dialog) -> None:
            for start, times in (("0", "2"), ("quick", "2"), ("100", "0")):
                dialog.start.setText(start)
                dialog.times.setText(times)
                dialog.accept()
                said.append(dialog.wrong.text())

        self.dictate("1 step 2 step")
        self.answers.fill = fill
        self.window.write_page.strip.setFocus()
        self.key(Qt.Key.Key_U)
        self.assertIn("not at 0", said[0])
        self.assertEqual(said[1], "A ladder is written in numbers.")
        self.assertIn("times on each side", said[2])
        self.assertIsNone(self.desk.transport.ladder)

    def test_danced_rung_by_rung(self) -> None:
        hurry(self, 3)
        # One foot all along, so that any moment of a rung tells its side.
        self.dictate("1 touch  2 touch  3 touch  4 touch")
        self.desk.dance_as(self.desk.transport.__class__(ladder=Ladder(380, 400, 20, 1, "both sides", 0)))
        self.window.toggle_stand_back()
        said = []
        self.window.dancing.rung.connect(said.append)
        sides = {}

        def note(position, swapped) -> None:
            foot = self.window.stand_back.words_now()[2]
            if position >= 0 and foot:
                sides.setdefault(self.running.player._pass, foot)

        self.window.dancing.moved.connect(note)
        tempos = []
        self.running.player.moved.connect(
            lambda _: tempos.append((self.running.player._rendered.tempo.steps[0][1], self.running.player._pass))
        )
        self.key(Qt.Key.Key_Space, on=self.window.stand_back)
        self.assertTrue(wait(20_000, lambda: self.running.player.playing))
        self.assertTrue(wait(20_000, lambda: not self.running.player.playing))
        self.assertEqual(
            [" ".join(s.split()) for s in said],
            ["as written, 1 of 1 380 → 400", "other side, 1 of 1 380 → 400",
             "as written, 1 of 1 400 → 400", "other side, 1 of 1 400 → 400"],
        )  # fmt: skip
        # A machine with no core to spare may be late by a whole rung.
        self.assertLessEqual(sides.items(), {0: "right", 1: "left", 2: "right", 3: "left"}.items())
        self.assertEqual(set(sides.values()), {"right", "left"})
        self.assertEqual(sorted(set(tempos)), [(380, 0), (380, 1), (400, 2), (400, 3)])

    def test_a_ladder_under_the_floor_of_its_steps(self) -> None:
        self.dictate("1 jump  2 double pull-back  3 step")
        self.desk.dance_as(self.desk.transport.__class__(ladder=Ladder(40, 60, 10)))
        self.window.write_page.strip.setFocus()
        self.key(Qt.Key.Key_Space)
        self.assertIn("danced between 90 and 400", self.window.banner.text)
        self.assertFalse(self.running.player.playing)


if __name__ == "__main__":
    unittest.main()
