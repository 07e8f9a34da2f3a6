"""A stage of a drill that is asked by ear, between stages that are danced."""

import unittest

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from firn.core.drills.offers import by_ear
from firn.core.drills.stage import Drill, Stage
from tests.support import comes, hurry, wait
from tests.ui.test_drill import DrillCase
from tests.ui.window import SHIFT


class AskedTest(DrillCase):
    """Four quick counts danced, three questions about them, and four counts again."""

    def setUp(self) -> None:
        super().setUp()
        hurry(self, 3)
        self.desk.change("1 step  2 heel  3 shuffle  4 step  5 flap  7 stamp  8 clap", "Write")
        part = self.desk.part_id
        click = Stage("click", (part,), None, 240, 240, 4, "as written", heard="click")
        self.window.rooms.drills._add(
            Drill("d", self.desk.piece.id, "Monday", (click, by_ear(part, 120.0, 3), click))
        )
        self.run_ = self.window.rooms.drills.run
        self.away = self.window.stand_back
        wait(10)

    def asked(self) -> None:
        self.assertTrue(comes(lambda: self.away.run is not None and self.away.run.asked is not None))

    def press(self, key: Qt.Key) -> None:
        self.key(key, on=self.away)

    def answered(self, *, right: bool = True) -> None:
        """Answer what is asked by its key."""
        question = self.run_.asked._left[0]
        number = question.right if right else (question.right + 1) % len(question.answers)
        digit = int(question.answers[number]) if question.kind == "how_many" else number + 1
        self.press(Qt.Key(Qt.Key.Key_0 + digit))

    def test_danced_asked_danced(self) -> None:
        self.key(Qt.Key.Key_F8, SHIFT)
        self.asked()
        self.assertEqual((self.away.run.title, self.away.run.asked.of), ("A: by ear", "1 of 3"))
        self.assertTrue(comes(lambda: self.running.player.playing))
        self.assertIn(self.away.run.asked.asked, self.away.accessibleDescription())
        # Heard again, it is the same question, and costs nothing.
        before = self.away.run.asked
        self.press(Qt.Key.Key_Space)
        self.assertEqual(self.away.run.asked, before)
        self.answered()
        self.assertTrue(self.away.run.asked.told)
        self.assertEqual(self.away.run.asked.of, "2 of 3")
        self.answered(right=False)
        self.assertIn("1 of 2 right by ear", self.away.run.state)
        # Neither a pedal nor the microphone answers a question.
        for key in (Qt.Key.Key_PageDown, Qt.Key.Key_M, Qt.Key.Key_9):
            self.press(key)
        self.assertEqual(self.away.run.asked.of, "3 of 3")
        self.answered()
        self.assertEqual([a.right for a in self.book.ear], [True, False, True])
        self.assertEqual(self.book.log, ())
        self.assertTrue(comes(lambda: self.run_.at == (2, 0) and self.running.player.playing))
        self.assertIsNone(self.away.run.asked)
        self.press(Qt.Key.Key_1)
        self.press(Qt.Key.Key_Escape)
        self.assertEqual([e.how for e in self.book.log], ["clean"])

    def test_what_was_left_before_it_was_heard_does_not_begin(self) -> None:
        self.key(Qt.Key.Key_F8, SHIFT)
        self.press(Qt.Key.Key_Right)
        self.asked()
        wait(300)
        self.assertEqual(self.run_.at, (1, 0))
        self.assertIsNotNone(self.away.run.asked)

    def test_on_to_the_next_stage_and_back(self) -> None:
        self.key(Qt.Key.Key_F8, SHIFT)
        self.assertTrue(comes(lambda: self.run_.at == (0, 0)))
        self.press(Qt.Key.Key_Right)
        self.asked()
        self.press(Qt.Key.Key_Right)
        self.assertTrue(comes(lambda: self.run_.at == (2, 0) and self.away.run.asked is None))
        self.press(Qt.Key.Key_Left)
        self.asked()
        self.press(Qt.Key.Key_Escape)
        self.assertFalse(self.run_.on)
        self.assertFalse(self.running.player.playing)
        self.assertEqual(self.book.ear, ())

    def test_a_part_with_nothing_to_hear_is_gone_past(self) -> None:
        self.desk.change("1 step", "Write")
        wait(10)
        self.page.stages.setFocus()
        self.key(Qt.Key.Key_Right, on=self.page.stages)
        self.key(Qt.Key.Key_Return, on=self.page.stages)
        self.assertTrue(comes(lambda: self.run_.at == (2, 0)))
        self.assertIsNone(self.away.run.asked)

    def test_offered_by_name_and_changed_by_keys(self) -> None:
        self.window.rooms.drills._add(Drill("e", self.desk.piece.id, "Tuesday"))
        self.page.typed.setFocus()
        QTest.keyClicks(self.page.typed, "by ear")
        self.assertIn("A: by ear.  10 questions about how it sounds", self.page.offers.item(0).text())
        QTest.keyClick(self.page.typed, Qt.Key.Key_Return)
        self.assertIn("10 questions", self.page.line.said)
        self.assertIn("about 2 min", self.page.summary.text())
        self.page.line.setFocus()
        for key in (Qt.Key.Key_Right, Qt.Key.Key_Right, Qt.Key.Key_Down):
            self.key(key, on=self.page.line)
        self.assertEqual(self.book.drills[1].stages[0].times, 9)


if __name__ == "__main__":
    unittest.main()
