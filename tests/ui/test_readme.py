"""The README's first steps, typed just as they stand there, in the demo, one after another."""

import re
import unittest
from collections.abc import Callable
from pathlib import Path

from PySide6.QtGui import QKeySequence
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QPlainTextEdit

from firn.session.demo import open_demo
from firn.ui.pages.entries import DRILL, LISTEN, LOG, READ, WRITE
from tests.support import comes, wait
from tests.ui.window import Qt, WindowCase

README = Path(__file__).parents[2] / "README.md"
KEY = re.compile(r"(?:(?:Ctrl|Alt|Shift)\+)*(?:F\d+|Esc|Space|Return|Right|Tab|[A-Z0-9+!])")


def steps() -> list[list[str]]:
    """What is in `code` in each numbered step: keys and text, in order."""
    text = README.read_text("utf-8").split("## First steps")[1].split("Ctrl+Shift+W")[0]
    found = re.split(r"(?m)^\d+\. ", text)[1:]
    return [re.findall(r"`([^`]+)`", step) for step in found]


class FirstStepsTest(WindowCase):
    def setUp(self) -> None:
        super().setUp()
        self.open(open_demo())
        self.window.write_page.strip.setFocus()
        self.dialogs: list[str] = []
        self.answers.fill = lambda dialog: self.dialogs.append(type(dialog).__name__)
        self.answers.picked = "One sound late"

    def press(self, said: str) -> None:
        """A key as the README names it, or text, into whatever has the keyboard."""
        there = self.app.focusWidget()
        if KEY.fullmatch(said):
            combination = QKeySequence(said)[0]
            QTest.keyClick(there, combination.key(), combination.keyboardModifiers())
        else:
            QTest.keyClicks(there, said)
            if isinstance(there, QPlainTextEdit):
                self.assertTrue(comes(lambda: not self.desk.drafting))
        wait(10)

    def after(self) -> dict[int, Callable[[], object]]:
        """What is to be seen after each step."""
        window, desk, first = self.window, self.desk, self.book.pieces[0].parts[0]

        def written() -> None:
            self.assertEqual(desk.text, "8 stomp  1 hop  2 step  &3 flap  & L step")
            self.assertEqual(self.book.pieces[0].parts[0], first, "the demo's own part is left alone")

        def taken_back() -> None:
            self.assertEqual(desk.text, "8 stomp  1 hop  2 step  &3 flap  & L hop")
            self.assertEqual(window.actions_by_id["undo"].text(), "Undo take a mend")

        def on_the_strip() -> None:
            self.assertIs(self.app.focusWidget(), window.write_page.strip)
            self.assertRegex(desk.text, "[LR] ")
            self.assertRegex(desk.text, "!")

        def danced() -> None:
            self.assertFalse(self.running.player.playing)
            self.assertEqual((desk.transport.side, desk.transport.layers), ("other side", "counts"))
            self.assertGreater(desk.transport.tempo, desk.settings.tempo)

        def a_ladder_was_made() -> None:
            drill = self.book.drills[-1]
            self.assertEqual((len(drill.stages), drill.stages[0].kind, drill.stages[0].start), (1, "ladder", 72))
            self.assertEqual(window.pages.currentIndex(), WRITE)

        def came_back() -> None:
            self.assertEqual(window._whole.currentIndex(), 0)

        def judged() -> None:
            self.settle()
            self.assertEqual(window.pages.currentIndex(), LISTEN)
            self.assertTrue(window.listen_page.verdict.isVisible())

        def noted() -> None:
            self.assertEqual(window.pages.currentIndex(), LOG)
            self.assertEqual(self.dialogs[-1], "LogEntryDialog")

        def put_in() -> None:
            self.assertEqual(window.pages.currentIndex(), WRITE)
            self.assertTrue(desk.text.endswith("ball change"), desk.text)

        def asked() -> None:
            self.assertEqual(self.dialogs[-3:], ["VersionsDialog", "FindDialog", "GiveOutDialog"])

        def drilled() -> None:
            self.assertEqual(window.pages.currentIndex(), DRILL)
            self.assertEqual([len(drill.stages) for drill in self.book.drills], [5, 2])
            self.assertFalse(window.rooms.drilling)

        return {1: written, 2: taken_back, 3: on_the_strip, 4: danced, 5: a_ladder_was_made, 6: came_back,
                7: lambda: self.assertEqual(window.pages.currentIndex(), READ), 8: judged, 9: noted,
                10: put_in, 11: asked, 12: drilled}  # fmt: skip

    def test_each_step_as_it_stands(self) -> None:
        checks = self.after()
        self.assertEqual(len(steps()), len(checks))
        takes = len(self.book.takes)
        for number, said in enumerate(steps(), 1):
            with self.subTest(number):
                for one in said:
                    self.press(one)
                    self.settle()
                checks[number]()
        self.assertEqual(len(self.book.takes), takes + 1, "nothing was recorded or deleted on the way")


class KeysInTextTest(WindowCase):
    def test_a_letter_after_tab_is_typed(self) -> None:
        """Tab with nothing to complete: the keyboard stays in the text, and nothing is started by what follows."""
        self.type("1 step ")
        self.key(Qt.Key.Key_Tab, on=self.editor)
        self.assertIn("No word to complete here", self.window.banner.text)
        for letter in "tsku":
            QTest.keyClicks(self.app.focusWidget(), letter)
        self.settle()
        self.assertTrue(self.desk.text.endswith("tsku"))
        self.assertEqual((self.book.takes, self.answers.asked), ((), []))

    def test_the_line_says_that_its_keys_sleep(self) -> None:
        self.type("1 step")
        self.assertTrue(self.window.line.asleep)
        self.key(Qt.Key.Key_Escape, on=self.editor)
        self.assertIs(self.app.focusWidget(), self.editor, "the words that are offered go first")
        self.key(Qt.Key.Key_Escape, on=self.editor)
        self.assertIs(self.app.focusWidget(), self.window.write_page.strip)
        self.assertFalse(self.window.line.asleep)
        self.key(Qt.Key.Key_O)
        self.assertEqual(self.desk.transport.side, "other side")
        self.key(Qt.Key.Key_F9)
        self.assertIs(self.app.focusWidget(), self.editor)


if __name__ == "__main__":
    unittest.main()
