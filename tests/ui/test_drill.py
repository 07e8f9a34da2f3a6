"""Drill: what fits a part made into a drill, its stages changed by keys, and danced from across the room."""

import threading
import unittest.mock
from datetime import date, timedelta
from fractions import Fraction
from typing import Any

from msgspec.structs import replace
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from firn.core.drills.stage import Drill, Stage
from firn.core.sound import model
from firn.session.desk import COMBO
from firn.session.session import session_of_steps
from firn.ui.dialogs.drill_text import DrillTextDialog
from firn.ui.pages.entries import DRILL
from tests.support import cases, comes, hurry, wait
from tests.ui.window import ALT, CTRL, NONE, SHIFT, WindowCase

EIGHT = "1 step  2 step  3 shuffle ball change  5 step  6 step  7 step  8 step"


class DrillCase(WindowCase):
    def setUp(self) -> None:
        super().setUp()
        self.dictate(EIGHT)
        self.desk.commit()
        self.window.show_page(DRILL)
        wait(10)
        self.page = self.window.rooms.drill

    def kinds(self) -> list[str]:
        return [stage.kind for stage in self.book.drills[0].stages]


class ArmsTest(DrillCase):
    def test_the_arms_are_read_from_afar(self) -> None:
        hurry(self, 4)
        self.desk.change(f"{EIGHT}\narms: 1-4 out 5-8 in", "Write")
        wait(10)
        stage = Stage("arms", (self.desk.part_id,), None, 120, 120, heard="count_only")
        self.window.rooms.drills._add(Drill("d", self.desk.piece.id, "Monday", (stage,)))
        self.page.stages.setFocus()
        self.key(Qt.Key.Key_Return, on=self.page.stages)
        seen = []
        comes(lambda: seen.append(self.window.stand_back.words_now()) or seen[-1][0] == "in")
        self.assertIn("count-in", {s[0] for s in seen})
        self.assertIn(("out", "1", "", "in", "5", ""), seen)
        self.assertEqual(seen[-1], ("in", "5", "", "out", "1", ""))


class PageTest(DrillCase):
    def test_the_first_three_in_one_click(self) -> None:
        self.assertIn("No drill yet", self.page.summary.text())
        self.assertTrue(self.page.begin_button.hasFocus())
        offered = [self.page.offers.item(n).text() for n in range(3)]
        self.click(self.page.begin_button)
        self.assertEqual(len(self.book.drills[0].stages), 3)
        self.assertIn("3 stages, about", self.page.summary.text())
        self.assertTrue(offered[0].startswith(f"Alt+1   {self.page.stages.stages[0].title}"))
        self.key(Qt.Key.Key_Z, CTRL)
        self.assertEqual(self.book.drills, ())

    def test_offers_by_key_and_by_name(self) -> None:
        QTest.keyClick(self.window, Qt.Key.Key_1, ALT)
        first = self.kinds()
        self.assertEqual(len(first), 1)
        # It is not offered again.
        self.assertNotIn(self.page.stages.stages[0].title, self.page.offers.item(0).text())
        self.page.typed.setFocus()
        QTest.keyClicks(self.page.typed, "to the click")
        self.assertEqual(self.page.offers.count(), 1)
        QTest.keyClick(self.page.typed, Qt.Key.Key_Return)
        self.assertEqual(self.kinds(), [*first, "click"])
        self.assertEqual(self.page.typed.text(), "")

    def test_stages_that_belong_together_are_put_in_together(self) -> None:
        self.made(Stage("click", (self.desk.part_id,)))
        self.page.typed.setFocus()
        QTest.keyClicks(self.page.typed, "from its end")
        self.assertIn("A: from its end, bit by bit, 2 stages.", self.page.offers.item(0).text())
        QTest.keyClick(self.page.typed, Qt.Key.Key_Return)
        self.assertEqual([s.span for s in self.book.drills[0].stages], [None, (4, 8), None])
        self.key(Qt.Key.Key_Z, CTRL, on=self.page.stages)
        self.assertEqual(self.kinds(), ["click"])

    @cases(
        ("later", 0, Qt.Key.Key_Right, ALT, ["click", "ladder"]),
        ("earlier", 1, Qt.Key.Key_Left, ALT, ["click", "ladder"]),
        ("left out", 0, Qt.Key.Key_Delete, NONE, ["click"]),
    )
    def test_stages_by_key_and_taken_back(
        self, _: str, at: int, key: Qt.Key, modifiers: Qt.KeyboardModifier, kinds: list[str]
    ) -> None:
        self.made(Stage("ladder", (self.desk.part_id,)), Stage("click", (self.desk.part_id,)))
        self.page.stages.setFocus()
        for _step in range(at):
            self.key(Qt.Key.Key_Right, on=self.page.stages)
        self.key(key, modifiers, on=self.page.stages)
        self.assertEqual(self.kinds(), kinds)
        self.key(Qt.Key.Key_Z, CTRL, on=self.page.stages)
        self.assertEqual(self.kinds(), ["ladder", "click"])

    def made(self, *stages: Stage) -> None:
        drills = self.window.rooms.drills
        drills._add(Drill("d", self.desk.piece.id, "Monday", stages))
        wait(10)

    def test_values_by_the_arrows(self) -> None:
        self.made(Stage("click", (self.desk.part_id,), None, 92, 92))
        self.page.line.setFocus()
        right, up = Qt.Key.Key_Right, Qt.Key.Key_Up
        for key in (right, up, right, right, up, right, up):
            self.key(key, on=self.page.line)
        (stage,) = self.book.drills[0].stages
        self.assertEqual((stage.start, stage.end, stage.times, stage.sides), (94, 94, 2, "as written"))
        self.assertIn("at 94 no higher twice as written", self.page.line.said)

    def test_named_and_chosen_by_the_menu(self) -> None:
        self.made(Stage("click", (self.desk.part_id,)))
        self.answers.named = "Tuesday"
        self.window.actions_by_id["rename_drill"].trigger()
        self.assertEqual([d.name for d in self.book.drills], ["Tuesday"])
        self.window.actions_by_id["new_drill"].trigger()
        self.assertEqual([d.name for d in self.book.drills], ["Tuesday", "Practice"])
        self.click(self.page.name_button)
        menu = self.window.rooms.drills.menu
        self.assertEqual([a.text() for a in menu.actions() if a.text()],
                         ["Tuesday", "Practice", "New drill", "As text…", "Rename…", "Delete"])  # fmt: skip
        menu.actions()[0].trigger()
        menu.close()
        self.assertEqual(self.page.drill.name, "Tuesday")
        self.window.actions_by_id["next_drill"].trigger()
        self.assertEqual(self.page.drill.name, "Practice")
        self.window.actions_by_id["delete_drill"].trigger()
        self.assertIn("Practice is deleted", self.window.banner.text)
        self.assertEqual([d.name for d in self.book.drills], ["Tuesday"])

    def test_like_that_of_another_piece(self) -> None:
        self.made(Stage("click", (self.desk.part_id,), start=84, end=84))
        self.answers.named = "Lamp"
        self.window.actions_by_id["new_piece"].trigger()
        self.dictate(EIGHT)
        self.window.show_page(DRILL)
        self.click(self.page.name_button)
        like = next(a.menu() for a in self.window.rooms.drills.menu.actions() if a.menu() is not None)
        (action,) = like.actions()
        self.assertEqual(action.text(), f"{self.book.drills[0].name}, of Untitled")
        action.trigger()
        self.window.rooms.drills.menu.close()
        there, here = self.book.drills
        self.assertEqual((here.piece, here.stages[0].parts), (self.desk.piece.id, (self.desk.part_id,)))
        self.assertEqual((here.stages[0].kind, here.stages[0].start), ("click", there.stages[0].start))
        self.key(Qt.Key.Key_Z, CTRL, on=self.page.stages)
        self.assertEqual(len(self.book.drills), 1)

    def test_a_practice_is_planned_as_drills(self) -> None:
        # A number of days, or the last of them.
        for until in ("5", (date.today() + timedelta(days=4)).isoformat()):

            def fill(dialog, until: str = until) -> None:
                dialog.minutes_field.setText("8")
                dialog.days_field.setText(until)

            self.answers.fill = fill
            self.click(self.page.plan_button)
            self.assertEqual(len(self.book.drills), 4)
            self.assertIn("Planned: 4 days of practice, 1 of rest.", self.window.banner.text)
            self.assertTrue(self.page.why.text())
            self.key(Qt.Key.Key_Z, CTRL)
            self.assertEqual(self.book.drills, ())
        self.answers.fill = lambda dialog: dialog.days_field.setText("next May")
        self.click(self.page.plan_button)
        self.assertIn("until when as 2026-12-05", self.answers.wrong)
        self.answers.fill = lambda dialog: dialog.minutes_field.setText("1")
        self.key(Qt.Key.Key_M, CTRL | ALT)
        self.assertIn("between 2 and 180 minutes", self.window.banner.text)

    def test_what_cannot_be_danced_is_said(self) -> None:
        self.made(Stage("hardest", (self.desk.part_id,), (4, 7)))
        self.desk.change("1 step  2 step", "Write")
        wait(10)
        self.assertIn("A has become shorter", self.page.why.text())
        self.assertFalse(self.page.run_button.isEnabled())
        self.window.actions_by_id["run_drill"].trigger()
        self.assertIn("A has become shorter", self.window.banner.text)

    def test_on_the_combo_it_says_where_to_turn(self) -> None:
        self.desk.go_to(self.desk.piece.id, COMBO)
        wait(10)
        self.assertIn("Turn to a part with steps", self.page.offers.item(0).text())

    def test_kept_and_there_again(self) -> None:
        self.made(Stage("ladder", (self.desk.part_id,), None, 92, 100, 4, times=2))
        drills = self.book.drills
        from firn.session.session import Session

        self.shut()
        self.open(Session.open(self.path))
        self.assertEqual(self.book.drills, drills)


class TextTest(DrillCase):
    """A drill typed as text, changed as text, and kept in the piece's own text."""

    def write(self, text: str, *, accept: bool = True) -> list[str]:
        told: list[str] = []

        def fill(dialog: DrillTextDialog) -> None:
            dialog.text.setPlainText(text)
            told.append(dialog.said.text())
            if not accept:
                dialog.accept()
                told.append("open" if dialog.isVisible() or dialog.result() == 0 else "closed")

        self.answers.fill = fill
        self.key(Qt.Key.Key_X, CTRL | ALT)
        return told

    def test_a_new_one_and_a_change_are_a_step_each(self) -> None:
        self.assertEqual(self.write("drill Monday:\nA 72-96 by 4 both sides x2\nwhole x1"), ["2 stages."])
        (drill,) = self.book.drills
        self.assertEqual((drill.name, [s.kind for s in drill.stages]), ("Monday", ["ladder", "whole"]))
        self.assertEqual(self.page.drill, drill)
        self.write("drill Monday:\nA at 60, with the click")
        self.assertEqual([s.kind for s in self.book.drills[0].stages], ["click"])
        self.key(Qt.Key.Key_Z, CTRL)
        self.assertEqual(self.book.drills, (drill,))
        self.key(Qt.Key.Key_Z, CTRL)
        self.assertEqual(self.book.drills, ())

    def test_what_is_not_understood_keeps_it_open(self) -> None:
        told = self.write("A 60\nB 60", accept=False)
        self.assertEqual(told, ["Line 2: No part is called “B”.", "open"])
        self.answers.leaves = False

    def test_it_goes_out_with_the_piece_and_comes_back(self) -> None:
        self.write("drill Monday: A 72-96 by 4, other side; A count 3 at 60 (slow, then full)")
        (drill,) = self.book.drills
        self.answers.path = self.folder / "out.steps"
        self.window.pieces.write_steps()
        text = (self.folder / "out.steps").read_text("utf-8")
        said = "drill Monday:\nA, 72-96 by 4, other side\nA, count 3, at 60, both sides (slow, then full)\n"
        self.assertIn(said, text)
        (self.folder / "out.steps").write_text(text + "B 60\n", "utf-8")
        self.window.pieces.bring_in(self.folder / "out.steps")
        back = self.book.drills[1]
        self.assertEqual(back.piece, self.desk.piece.id)
        part = self.desk.piece.parts[0].id
        stages = tuple(replace(s, parts=(part,)) for s in drill.stages)
        self.assertEqual((back.name, back.stages), ("Monday", stages))
        self.assertIn("A stage of a drill is left out. Monday: No part is called “B”.", self.window.banner.text)
        self.key(Qt.Key.Key_Z, CTRL)
        self.assertEqual((len(self.book.pieces), self.book.drills), (1, (drill,)))

    def test_a_piece_with_drills_opens_in_a_new_workbook(self) -> None:
        path = self.folder / "monday.steps"
        path.write_text("piece: Monday\n\npart A\n1 step\n\ndrill Slow: A at 60; whole\n", "utf-8")
        session = session_of_steps(path, self.folder)
        self.assertEqual([(d.name, len(d.stages)) for d in session.book.drills], [("Slow", 2)])
        self.assertEqual([p.text for p in session.book.pieces[0].parts], ["1 step"])
        self.assertEqual(session.told, ())
        session.close()

    def test_what_is_left_out_of_it_is_said(self) -> None:
        path = self.folder / "monday.steps"
        path.write_text("part A\n1 step\n\ndrill Slow: A at 60; C at 60; B at 60\n", "utf-8")
        session = session_of_steps(path, self.folder)
        said = "A stage of a drill is left out. Slow: No part is called “C”. So is 1 more."
        self.assertEqual(session.told, (said,))
        session.close()


class RunTest(DrillCase):
    """Two stages of four quick counts, the clocks of the stand-in devices hurried."""

    def setUp(self) -> None:
        super().setUp()
        self.pace = hurry(self, 3)
        self.desk.change("1 step  2 step  3 step  4 touch", "Write")
        part = self.desk.part_id
        up = Stage("ladder", (part,), None, 200, 240, 40, "as written", 1, rest=4)
        drill = Drill(
            "d", self.desk.piece.id, "Monday", (up, Stage("click", (part,), None, 240, 240, 4, "as written"))
        )
        self.window.rooms.drills._add(drill)
        self.run_ = self.window.rooms.drills.run
        self.away = self.window.stand_back
        wait(10)

    def danced(self, stage: int, number: int) -> None:
        """Wait until a time is danced, past its count-in."""

        def there() -> bool:
            return self.run_.at == (stage, number) and self.run_.moved_to is not None and self.run_.moved_to > 0

        self.assertTrue(comes(there), self.run_.at)

    def press(self, key: Qt.Key) -> None:
        self.key(key, on=self.away)

    def test_three_stages_of_answers(self) -> None:
        """Clean goes up, lost comes down, a slip is danced again; all of it is in the log."""
        self.key(Qt.Key.Key_F8, SHIFT)
        self.danced(0, 0)
        self.assertIn("A: ladder of tempos", self.away.run.title)
        self.assertIn("200 → 240", self.away.run.now)
        self.press(Qt.Key.Key_1)
        self.assertIn("clean: it goes on", self.away.run.state)
        self.danced(0, 1)
        self.press(Qt.Key.Key_3)
        self.danced(0, 0)
        self.press(Qt.Key.Key_1)
        self.danced(0, 1)
        self.press(Qt.Key.Key_1)
        self.danced(1, 0)
        self.press(Qt.Key.Key_2)
        self.assertTrue(comes(lambda: len(self.book.log) == 5))
        self.danced(1, 0)
        self.assertEqual([(e.tempo, e.how, e.source) for e in self.book.log],
                         [(200, "clean", "drill"), (240, "lost", "drill"), (200, "clean", "drill"),
                          (240, "clean", "drill"), (240, "slip", "drill")])  # fmt: skip
        self.assertEqual(self.book.log[0].part, self.desk.part_id)
        # Nothing said: it goes on, and this was the last.
        self.assertTrue(comes(lambda: not self.running.player.playing))
        self.assertIn("All danced.", self.away.run.state)
        self.assertIn("3 clean, 1 lost, 1 slip", self.away.run.state)
        self.press(Qt.Key.Key_Escape)
        self.assertFalse(self.run_.on)
        self.assertTrue(self.page.isVisible())

    def test_paused_on_to_the_next_and_slower(self) -> None:
        self.click(self.page.run_button)
        self.danced(0, 0)
        self.press(Qt.Key.Key_Space)
        self.assertTrue(comes(lambda: not self.running.player.playing))
        self.assertIn("Paused.", self.away.run.state)
        self.press(Qt.Key.Key_Space)
        self.danced(0, 0)
        self.press(Qt.Key.Key_Right)
        self.danced(1, 0)
        self.press(Qt.Key.Key_4)
        self.assertTrue(comes(lambda: self.away.run is not None and "192, slower" in self.away.run.now))
        self.danced(1, 0)
        self.assertEqual(self.running.player._rendered.tempo.steps[0][1], 192)
        self.press(Qt.Key.Key_Left)
        self.danced(0, 0)
        self.assertEqual(self.book.log, ())

    def test_a_device_pulled_out_goes_on_by_the_clock(self) -> None:
        """Said where she looks; the answers so far are kept, and it is danced on."""
        self.key(Qt.Key.Key_F8, SHIFT)
        self.danced(0, 0)
        self.press(Qt.Key.Key_1)
        self.danced(0, 1)
        self.running.player._output.stop()
        self.assertTrue(comes(lambda: "has gone away" in self.away.said))
        self.danced(1, 0)
        self.press(Qt.Key.Key_2)
        self.assertTrue(comes(lambda: not self.running.player.playing))
        self.assertEqual([(e.tempo, e.how) for e in self.book.log], [(200, "clean"), (240, "slip")])
        self.press(Qt.Key.Key_Escape)
        self.assertEqual((self.away.said, self.away._saying.isActive()), ("", False))

    def test_after_twenty_minutes_a_rest_is_due_and_a_pause_is_one(self) -> None:
        self.click(self.page.run_button)
        self.danced(0, 0)
        self.assertEqual(self.away.run.note, "")
        self.run_._danced_s = 20 * 60.0
        self.danced(0, 1)
        self.assertIn("a rest, and water", self.away.run.note)
        self.press(Qt.Key.Key_Space)
        self.assertTrue(comes(lambda: not self.running.player.playing))
        self.press(Qt.Key.Key_Space)
        self.danced(0, 1)
        self.assertEqual(self.away.run.note, "")

    def slowly_made(self) -> threading.Event:
        """From here on models are made only once this is set."""
        go_on, make = threading.Event(), model.render

        def late(*arguments: Any) -> model.Rendered:
            go_on.wait(20)
            return make(*arguments)

        patched = unittest.mock.patch.object(model, "render", late)
        patched.start()
        self.addCleanup(patched.stop)
        self.addCleanup(go_on.set)
        return go_on

    def test_what_is_made_too_late_begins_late(self) -> None:
        """Once the drill stood still there for good, "Paused."."""
        self.click(self.page.run_button)
        self.danced(0, 0)
        self.assertTrue(comes(lambda: self.running.player._waiting is not None))
        go_on = self.slowly_made()
        self.assertTrue(comes(lambda: not self.running.player.playing))
        self.assertEqual(self.run_.at, (0, 1))
        self.press(Qt.Key.Key_3)
        go_on.set()
        self.danced(0, 0)
        self.assertEqual([(e.tempo, e.how) for e in self.book.log], [(240, "lost")])

    def test_what_is_made_too_late_does_not_begin_once_she_left(self) -> None:
        self.click(self.page.run_button)
        self.danced(0, 0)
        go_on = self.slowly_made()
        self.press(Qt.Key.Key_1)
        self.assertTrue(comes(lambda: not self.running.player.playing))
        self.press(Qt.Key.Key_Escape)
        go_on.set()
        wait(500)
        self.assertFalse(self.running.player.playing)

    def test_a_window_held_up_goes_on_where_it_is(self) -> None:
        """Once what it did not see had not been danced."""
        self.click(self.page.run_button)
        self.danced(0, 0)
        self.assertTrue(comes(lambda: self.run_.at == (1, 0) and self.running.player.playing))
        self.pace.skip(9)
        self.assertTrue(comes(lambda: not self.running.player.playing))
        self.assertGreaterEqual(self.run_.moved_to, 4)
        self.assertIn("All danced.", self.away.run.state)

    def test_an_answer_in_the_next_count_in_is_of_the_time_before(self) -> None:
        self.click(self.page.run_button)
        self.danced(0, 0)
        self.assertTrue(comes(lambda: self.run_.at == (0, 1) and self.run_._before is not None))
        self.press(Qt.Key.Key_2)
        self.assertEqual(self.run_.at, (0, 0))
        self.assertEqual([(e.tempo, e.how) for e in self.book.log], [(200, "slip")])

    def test_the_word_and_the_next_are_those_of_the_stage(self) -> None:
        self.click(self.page.run_button)
        self.danced(0, 0)
        self.away.show_played(Fraction(1), swapped=False)
        self.assertEqual(self.away.words_now()[:2], ("step", "2"))
        before = self.away.grab().toImage()
        self.press(Qt.Key.Key_2)
        self.assertNotEqual(before, self.away.grab().toImage())

    def test_turning_away_ends_it(self) -> None:
        self.click(self.page.run_button)
        self.danced(0, 0)
        self.window.pieces.new_part()
        self.assertFalse(self.run_.on)
        self.assertFalse(self.running.player.playing)
