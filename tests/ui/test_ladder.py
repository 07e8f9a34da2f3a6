"""The ladder, by its key: a drill of one stage, its values typed, danced rung by rung from across the room."""

import unittest

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from firn.session.desk import COMBO
from firn.ui.pages.entries import DRILL, WRITE
from tests.support import cases, comes, hurry
from tests.ui.window import CTRL, WindowCase


class LadderTest(WindowCase):
    def ask(self, text: str) -> None:
        self.dictate(text)
        self.desk.commit()
        self.window.write_page.strip.setFocus()
        self.key(Qt.Key.Key_U)

    @property
    def line(self):
        return self.window.rooms.drill.line

    def typed(self, name: str, number: str, *then: Qt.Key) -> None:
        """Walk to a value by its name, and type a number for it."""
        at = [value.name for value in self.line._values].index(name)
        self.line.setFocus()
        for _ in range(len(self.line._values)):
            self.key(Qt.Key.Key_Left, on=self.line)
        for _ in range(at):
            self.key(Qt.Key.Key_Right, on=self.line)
        QTest.keyClicks(self.line, number)
        for key in then or (Qt.Key.Key_Return,):
            self.key(key, on=self.line)

    def test_a_drill_of_one_stage(self) -> None:
        self.ask("1 step 2 step")
        self.assertEqual(self.window.pages.currentIndex(), DRILL)
        (drill,) = self.book.drills
        (stage,) = drill.stages
        self.assertEqual((drill.name, stage.kind, stage.parts), ("Ladder of A", "ladder", (self.desk.part_id,)))
        self.assertEqual((stage.start, stage.end, stage.step, stage.times), (96, 120, 4, 2))
        self.assertEqual((stage.sides, stage.rest, stage.span), ("both sides", 4, None))
        self.assertIn("Enter dances it", self.window.banner.text)
        self.assertTrue(self.window.rooms.drill.stages.hasFocus())
        # Asked for again it is the same; taken back it is gone.
        self.window.show_page(WRITE)
        self.window.write_page.strip.setFocus()
        self.key(Qt.Key.Key_U)
        self.assertEqual([d.id for d in self.book.drills], [drill.id])
        self.key(Qt.Key.Key_Z, CTRL)
        self.assertEqual(self.book.drills, ())

    def test_of_counts_that_are_chosen_and_of_the_combo(self) -> None:
        self.dictate("1 step 2 step 3 step 4 step")
        self.desk.commit()
        self.window.write_page.strip.setFocus()
        self.key(Qt.Key.Key_Home)
        self.key(Qt.Key.Key_Right)
        self.key(Qt.Key.Key_L)
        self.key(Qt.Key.Key_U)
        self.window.show_page(WRITE)
        self.desk.go_to(self.desk.piece.id, COMBO)
        self.dictate("A x2")
        self.desk.commit()
        self.window.write_page.build.passes.setFocus()
        self.key(Qt.Key.Key_U, on=self.window.write_page.build.passes)
        some, whole = (d.stages[0] for d in self.book.drills)
        self.assertEqual((some.parts, some.span), ((self.desk.piece.parts[0].id,), (1, 2)))
        self.assertEqual((whole.parts, whole.span, whole.sides), ((COMBO,), None, "as written"))

    def test_nothing_to_dance(self) -> None:
        self.ask("")
        self.assertEqual(self.book.drills, ())
        self.assertIn("nothing to dance yet", self.window.banner.text)

    def test_numbers_are_typed(self) -> None:
        self.ask("1 step 2 step")
        for name, number in (("start", "72"), ("end", "108,5"), ("step", "6"), ("times", "3"), ("rest", "8")):
            self.typed(name, number)
        stage = self.book.drills[0].stages[0]
        self.assertEqual((stage.start, stage.end, stage.step, stage.times, stage.rest), (72, 108.5, 6, 3, 8))
        self.assertIn("from 72 to 108.5 by 6 3 times", self.line.said)
        self.key(Qt.Key.Key_Z, CTRL)
        self.assertEqual(self.book.drills[0].stages[0].rest, 4)

    def test_a_number_stands_when_nothing_more_is_typed(self) -> None:
        self.ask("1 step 2 step")
        self.typed("start", "80", Qt.Key.Key_Shift)
        self.assertIn("80…", [value.text for value in self.line._shown])
        self.assertTrue(comes(lambda: self.book.drills[0].stages[0].start == 80))

    def test_a_number_is_mended_or_left(self) -> None:
        self.ask("1 step 2 step")
        self.typed("start", "800", Qt.Key.Key_Backspace, Qt.Key.Key_Return)
        self.assertEqual(self.book.drills[0].stages[0].start, 80)
        self.typed("start", "60", Qt.Key.Key_Escape)
        self.typed("times", "4")
        self.assertEqual(self.book.drills[0].stages[0].start, 80)

    @cases(
        ("start", "7", "begins between 20 and 400"),
        ("end", "900", "ends between 20 and 400"),
        ("step", "0", "above 0"),
        ("times", "99", "Between 1 and 16"),
        ("times", "2.5", "not 2.5"),
        ("rest", "65", "Between 0 and 64"),
    )
    def test_what_it_cannot_have_is_said(self, name: str, number: str, said: str) -> None:
        if not self.book.drills:
            self.ask("1 step 2 step")
        before = self.book.drills
        self.typed(name, number)
        self.assertIn(said, self.window.rooms.drill.why.text())
        self.assertEqual(self.book.drills, before)

    def test_danced_rung_by_rung(self) -> None:
        hurry(self, 3)
        # One foot all along, so that any moment of a rung tells its side.
        self.ask("1 touch  2 touch  3 touch  4 touch")
        for name, number in (("start", "380"), ("end", "400"), ("step", "20"), ("times", "1"), ("rest", "0")):
            self.typed(name, number)
        said, sides = [], {}
        self.window.rooms.drills.run.told.connect(lambda run: said.append(run.now) if run is not None else None)

        def note(position, swapped) -> None:
            foot = self.window.stand_back.words_now()[2]
            if position >= 0 and foot:
                sides.setdefault(self.window.rooms.drills.run.at.number, foot)

        self.window.dancing.moved.connect(note)
        stages = self.window.rooms.drill.stages
        stages.setFocus()
        self.key(Qt.Key.Key_Return, on=stages)
        self.assertTrue(comes(lambda: self.running.player.playing))
        self.assertTrue(comes(lambda: not self.running.player.playing))
        self.assertEqual(
            list(dict.fromkeys(" ".join(s.split()) for s in said)),
            ["as written, 1 of 1 380 → 400", "other side, 1 of 1 380 → 400",
             "as written, 1 of 1 400", "other side, 1 of 1 400"],
        )  # fmt: skip
        self.assertEqual(sides, {0: "right", 1: "left", 2: "right", 3: "left"})

    def test_under_the_floor_of_its_steps(self) -> None:
        self.ask("1 jump  2 double pull-back  3 step")
        self.typed("start", "40")
        self.typed("end", "60")
        page = self.window.rooms.drill
        self.assertIn("danced between 90 and 400", page.why.text())
        self.assertFalse(page.run_button.isEnabled())


if __name__ == "__main__":
    unittest.main()
