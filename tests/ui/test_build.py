"""The combo on Write: its passes walked and changed on the thread, the ledger of each, and the text that follows."""

import threading
from unittest import mock

from PySide6.QtCore import QPointF, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from firn.session.desk import COMBO
from firn.ui.pages.entries import WRITE
from firn.ui.work import building
from tests.support import cases, wait
from tests.ui.window import ALT, CTRL, NONE, SHIFT, WindowCase

EIGHT = "1 step  2 step  3 step  4 step  5 step  6 step  7 step  8 step"


class BuildTest(WindowCase):
    """Parts of eight steps; A and B, joined."""

    def setUp(self) -> None:
        super().setUp()
        self.dictate(EIGHT)
        self.desk.commit()
        self.window.pieces.new_part()
        self.dictate("1 step  2 step  3 step  4 hold")
        self.desk.commit()
        self.desk.go_to(self.desk.piece.id, COMBO)
        self.build = self.window.write_page.build
        self.passes = self.build.passes

    def written(self, text: str) -> None:
        self.desk.change(text, "Write")
        wait(10)

    def stand(self, index: int) -> None:
        self.passes.setFocus()
        self.key(Qt.Key.Key_Home, on=self.passes)
        for _ in range(index):
            self.key(Qt.Key.Key_Right, on=self.passes)
        self.assertEqual(self.passes.current, index)

    @cases(
        ("once more", 0, Qt.Key.Key_Up, ALT, "A x3, B"),
        ("once fewer", 0, Qt.Key.Key_Down, ALT, "A, B"),
        ("moved later", 0, Qt.Key.Key_Right, ALT, "B, A x2"),
        ("moved earlier", 2, Qt.Key.Key_Left, ALT, "B, A x2"),
        ("the other side", 2, Qt.Key.Key_F, NONE, "A x2, B, other side"),
        ("turned", 2, Qt.Key.Key_T, NONE, "A x2, B, turn 1/4 right"),
        ("turned left", 1, Qt.Key.Key_T, SHIFT, "A x2, turn 1/4 left, B"),
        ("left out", 2, Qt.Key.Key_Delete, NONE, "A x2"),
        ("held", 1, Qt.Key.Key_H, NONE, "A x2, [hold x2], B"),
        ("feet changed", 2, Qt.Key.Key_C, NONE, "A x2, B, [step, hold]"),
    )
    def test_by_key_and_taken_back(
        self, _: str, index: int, key: Qt.Key, modifiers: Qt.KeyboardModifier, text: str
    ) -> None:
        self.written("A x2, B")
        self.stand(index)
        self.key(key, modifiers, on=self.passes)
        self.assertEqual(self.editor.toPlainText(), text)
        self.key(Qt.Key.Key_Z, CTRL, on=self.passes)
        self.assertEqual(self.editor.toPlainText(), "A x2, B")

    def test_a_part_is_put_in_by_the_menu(self) -> None:
        self.written("A x2")
        self.stand(1)
        self.key(Qt.Key.Key_Insert, on=self.passes)
        menu = self.build.menu
        said = [a.text() for a in menu.actions()]
        self.assertEqual([text.split("    ")[0] for text in said], ["A", "B"])
        self.assertIn("8 counts; begins right, which is free; comes on its 1", said[0])
        menu.actions()[1].trigger()
        menu.close()
        self.assertEqual((self.editor.toPlainText(), self.passes.current), ("A x2, B", 2))

    def test_a_combo_begins_with_a_part_that_is_put_in(self) -> None:
        self.assertIn("Insert: which part it could begin with", self.build.totals.text())
        self.key(Qt.Key.Key_Escape, on=self.editor)
        self.assertTrue(self.passes.hasFocus())
        self.key(Qt.Key.Key_F, on=self.passes)
        self.key(Qt.Key.Key_Insert, on=self.passes)
        self.build.menu.actions()[1].trigger()
        self.build.menu.close()
        self.assertEqual((self.editor.toPlainText(), self.passes.current), ("B", 0))

    def test_nothing_to_put_in(self) -> None:
        for part in self.desk.piece.parts:
            self.desk.go_to(self.desk.piece.id, part.id)
            self.dictate("")
            self.desk.change("", "Write")
        self.desk.go_to(self.desk.piece.id, COMBO)
        self.key(Qt.Key.Key_Insert, on=self.passes)
        self.assertIn("There is no part with steps yet.", self.window.banner.text)

    def test_what_could_stand_in(self) -> None:
        self.window.pieces.new_part()
        self.dictate("1 stamp  2 stamp  3 stamp  4 hold")
        self.desk.go_to(self.desk.piece.id, COMBO)
        self.written("A, B")
        self.stand(1)
        self.key(Qt.Key.Key_S, on=self.passes)
        self.assertEqual([a.text().split("    ")[0] for a in self.build.menu.actions()], ["C"])
        self.build.menu.actions()[0].trigger()
        self.build.menu.close()
        self.assertEqual(self.editor.toPlainText(), "A, C")
        self.stand(0)
        self.key(Qt.Key.Key_S, on=self.passes)
        self.assertIn("No other part is as long", self.window.banner.text)

    def test_counts_are_filled_and_taken_back(self) -> None:
        self.written("A, B")
        self.stand(0)
        self.answers.fill = lambda dialog: dialog.counts.setText("8")
        before = self.book
        self.key(Qt.Key.Key_J, CTRL | ALT)
        self.settle()
        self.assertEqual(self.editor.toPlainText(), "A, Fill, B")
        self.assertEqual([one.counts for one in self.passes.passes], [8, 8, 4])
        self.assertTrue(all(one.fits for one in self.passes.passes))
        self.assertIn("Filled: ", self.window.banner.text)
        self.key(Qt.Key.Key_Z, CTRL, on=self.passes)
        self.assertEqual(self.book.pieces, before.pieces)

    def test_what_is_typed_just_before_is_kept(self) -> None:
        self.written("A, B")
        self.editor.moveCursor(self.editor.textCursor().MoveOperation.End)
        QTest.keyClicks(self.editor, ", A")
        self.assertEqual(self.desk.piece.combo, "A, B")
        self.answers.fill = lambda dialog: dialog.counts.setText("8")
        self.key(Qt.Key.Key_J, CTRL | ALT)
        self.settle()
        self.assertEqual(self.editor.toPlainText().replace("Fill", "").replace(" ", "").strip(","), "A,B,A")

    def test_what_is_typed_while_counts_are_filled_is_kept(self) -> None:
        self.written("A, B")
        typed, fill = threading.Event(), building.fill

        def late(*given: object) -> object:
            typed.wait(10)
            return fill(*given)

        with mock.patch.object(building, "fill", late):
            self.key(Qt.Key.Key_J, CTRL | ALT)
            self.editor.moveCursor(self.editor.textCursor().MoveOperation.End)
            QTest.keyClicks(self.editor, ", A")
            typed.set()
            self.settle()
        self.assertEqual((self.editor.toPlainText(), self.desk.piece.combo), ("A, B, A", "A, B, A"))
        self.assertIn("not filled", self.window.banner.text)

    @cases(("figures", {"counts": "many"}, "written in figures"), ("steps", {"steps": "wibble"}, "is no step"))
    def test_what_cannot_be_filled(self, _: str, fields: dict, said: str) -> None:
        def fill(dialog) -> None:
            for name, text in fields.items():
                getattr(dialog, name).setText(text)

        self.answers.fill = fill
        self.key(Qt.Key.Key_J, CTRL | ALT)
        self.settle()
        self.assertIn(said, self.answers.wrong + self.window.banner.text)

    def test_a_tune_is_brought_in_and_lain_under(self) -> None:
        self.written("A x3, B x2")
        path = self.folder / "race.abc"
        path.write_text("X:1\nT:Mill Race\nM:4/4\nL:1/4\nQ:1/4=116\nK:D\n|:DEFG|ABcd|dcBA|GFED:|\n", "utf-8")
        self.answers.path = path
        self.key(Qt.Key.Key_A, CTRL | ALT)
        self.assertEqual(self.desk.settings.tune_said, "Mill Race: AA 4, at 116")
        self.assertIn("Danced to Mill Race: AA, 8 bars.", self.window.banner.text)
        self.assertIn("Mill Race leaves 0 over", self.build.totals.text())
        self.assertEqual(
            [one.more.split(", ")[1] for one in self.passes.passes][:3], ["A1 bar 1", "A1 bar 3", "A2 bar 1"]
        )
        self.stand(1)
        self.assertIn("A1 bar 3 of the tune", self.build.ledger.text())
        # What counts is changed, and the tune stays.
        self.answers.fill = lambda dialog: dialog.tempo.setText("100")
        self.key(Qt.Key.Key_F4)
        self.assertEqual((self.desk.settings.tempo, self.desk.settings.tune_said), (100, "Mill Race: AA 4, at 116"))
        path.write_text("none", "utf-8")
        self.key(Qt.Key.Key_A, CTRL | ALT)
        self.assertIn("There is no tune in race.abc", self.window.banner.text)

    def test_four_parts_become_64_counts_with_a_break_over_a_tune_in_few_keys(self) -> None:
        """All that is pressed once the parts are written, the name of the tune's file in full: wanted, under 60."""
        for text in (EIGHT, EIGHT.replace("step", "stamp"), "1 stamp  2 hold  3 stamp  4 hold  5-8 hold"):
            self.window.pieces.new_part()
            self.dictate(text)
        self.desk.commit()
        names = [part.name for part in self.desk.piece.parts]
        self.assertEqual(len(names), 5)
        pressed: list[Qt.Key] = []

        def press(key: Qt.Key, modifiers: Qt.KeyboardModifier = NONE) -> None:
            pressed.append(key)
            self.key(key, modifiers, on=QApplication.activePopupWidget() or QApplication.focusWidget())

        def pick(name: str) -> None:
            """Put a part in: down the menu to its line."""
            press(Qt.Key.Key_Insert)
            lines = [a.text().split("    ")[0] for a in self.build.menu.actions() if not a.isSeparator()]
            for _ in range(lines.index(name)):
                press(Qt.Key.Key_Down)
            press(Qt.Key.Key_Return)

        path = self.folder / "race.abc"
        path.write_text("X:1\nT:Mill Race\nM:4/4\nL:1/4\nQ:1/4=116\nK:D\n" + "|:DEFG|ABcd|dcBA|GFED:|" * 2, "utf-8")
        self.answers.path = path
        while self.desk.part_id != COMBO:
            press(Qt.Key.Key_PageDown, CTRL)
        press(Qt.Key.Key_A, CTRL | ALT)
        pressed += [Qt.Key.Key_unknown] * (len(path.name) + 1)
        press(Qt.Key.Key_Escape)
        a, _, c, d, last = names
        for name, times in ((a, 2), (c, 2), (d, 3), (last, 1)):
            pick(name)
            for _ in range(times - 1):
                press(Qt.Key.Key_Up, ALT)
        self.assertEqual(self.editor.toPlainText(), f"{a} x2, {c} x2, {d} x3, {last}")
        self.assertIn("64 counts", self.build.totals.text())
        self.assertIn("Mill Race leaves 0 over", self.build.totals.text())
        self.assertTrue(all(one.fits for one in self.passes.passes))
        self.assertLess(len(pressed), 60, pressed)

    def test_walked_with_the_ledger(self) -> None:
        self.written("A, B x2")
        self.assertIn("16 counts, 4 bars, none left over; 0:08; 14 sounds", self.build.totals.text())
        self.assertIn("stand on a pass", self.build.ledger.text())
        self.stand(2)
        self.assertEqual(
            self.build.ledger.text(),
            "B, 2 of 2: counts 13 to 16, 5 of its 8, 13 of a 32, bar 4, from 0:06 on. Left foot in, right free after "
            "it; faces the front. 3 sounds, weight changed 3 times.",
        )
        self.assertEqual(self.passes.accessibleDescription(), self.build.ledger.text())
        self.key(Qt.Key.Key_End, on=self.passes)
        self.key(Qt.Key.Key_Left, SHIFT, on=self.passes)
        self.assertEqual(self.desk.transport.chosen, (8, 16))
        self.key(Qt.Key.Key_Escape, on=self.passes)
        self.assertIsNone(self.desk.transport.chosen)

    def test_an_ending_and_the_walls_are_in_the_ledger(self) -> None:
        self.written("A x2, last time ends: 8 touch, turn 1/4 right")
        self.stand(1)
        said = self.build.ledger.text()
        self.assertIn("A, 2 of 2, ends 8 touch: counts 9 to 16", said)
        self.assertIn("left free after it; faces the back, having turned 1/4 right", said)

    def test_groups_in_turn(self) -> None:
        self.written("group 1: A x2\ngroup 2, after 8: A\nall: B")
        self.stand(0)
        self.assertIn("Group 1, the first strand; G brings the next up. 20 counts", self.build.totals.text())
        self.assertEqual([one.part for one in self.passes.passes], ["A", "A", "B"])
        self.key(Qt.Key.Key_G, on=self.passes)
        self.assertIn("Group 2, the first strand", self.build.totals.text())
        self.assertEqual([(one.part, one.first) for one in self.passes.passes], [("A", 8), ("B", 16)])
        self.assertIn("counts 9 to 16", self.build.ledger.text())
        self.key(Qt.Key.Key_G, on=self.passes)
        self.assertIn("Group 1, the first", self.build.totals.text())

    def test_all_who_dance_stand_in_one_view(self) -> None:
        self.written("lead: A x2\nfollow, after 4: mirrored\nall: B")
        self.stand(0)
        self.assertIn("Lead, the first strand; G brings", self.build.totals.text())
        (follow,) = self.passes._build.others
        self.assertEqual((follow.name, [(one.part, one.first, one.foot) for one in follow.passes]),
                         ("follow", [("A", 4, "left"), ("A", 12, "left"), ("B", 20, "left")]))  # fmt: skip
        alone = self.passes.row_height
        self.written("A x2, B")
        self.assertLess(self.passes.row_height, alone)
        # Rows that dance on when those on show are over are seen to their end.
        self.written("4 rows, 8 apart: A")
        self.assertEqual((len(self.passes._build.others), self.passes._layout.rows[-1].end), (3, 32))

    def test_hands_go_on_over_the_parts(self) -> None:
        self.written("hands, every 4: 2 clap 4 clap\nA, B")
        hands = [sound.place for sound in self.desk.stretch.sounds if sound.hand]
        self.assertEqual(hands, [1, 3, 5, 7, 9, 11])
        self.assertIn("hands, every 4: 2 clap 4 clap", self.passes.passes[0].more)
        # What is changed by hand leaves the line where it stands.
        self.stand(1)
        self.key(Qt.Key.Key_Up, ALT, on=self.passes)
        self.assertEqual(self.editor.toPlainText(), "hands, every 4: 2 clap 4 clap\nA, B x2")

    def ending(self, wanted: str) -> None:
        """Ask by E how the pass ends, and take what begins so."""
        self.key(Qt.Key.Key_E, on=self.passes)
        action = next(a for a in self.build.menu.actions() if a.text().startswith(wanted))
        action.trigger()
        self.build.menu.close()
        wait(10)

    def test_how_a_pass_ends(self) -> None:
        self.written("A x3, B")
        self.stand(2)
        self.key(Qt.Key.Key_E, on=self.passes)
        said = [a.text() for a in self.build.menu.actions() if a.text()]
        self.assertEqual(said[0], "as it is written: 8 counts, the right foot free")
        self.assertIn("8 touch: 8 counts, the left foot free", said)
        self.build.menu.close()
        self.ending("8 touch")
        self.assertEqual(self.editor.toPlainText(), "A x3, last time ends: 8 touch, B")
        self.stand(1)
        self.ending("8 hold")
        self.assertIn("2nd time ends: 8 hold", self.editor.toPlainText())
        self.stand(1)
        self.ending("as it is written")
        self.assertEqual(self.editor.toPlainText(), "A x3, last time ends: 8 touch, B")
        self.key(Qt.Key.Key_Z, CTRL, on=self.passes)
        self.assertIn("2nd time ends: 8 hold", self.editor.toPlainText())

    def test_an_ending_is_typed(self) -> None:
        self.written("A, B")
        self.stand(1)
        self.answers.named = "3 step, 4 touch"
        self.ending("Another ending")
        self.assertEqual(self.editor.toPlainText(), "A, B, ends: 3 step 4 touch")
        self.stand(1)
        self.answers.named = None
        self.ending("Another ending")
        self.assertEqual(self.editor.toPlainText(), "A, B, ends: 3 step 4 touch")
        self.answers.named = ""
        self.ending("Another ending")
        self.assertEqual(self.editor.toPlainText(), "A, B")

    def test_a_join_that_does_not_fit_is_pointed_at(self) -> None:
        self.written("B, A right")
        self.assertEqual([one.fits for one in self.passes.passes], [True, False])
        notes = self.window.write_page.notes
        notes.setFocus()
        wait(150)
        self.key(Qt.Key.Key_Down, on=notes)
        self.key(Qt.Key.Key_Up, on=notes)
        self.assertEqual((notes.currentRow(), self.passes.current), (0, 1))
        self.assertEqual([one.fits for one in self.passes.passes], [True, True], "as the mend would leave it")
        self.assertEqual(self.editor.toPlainText(), "B, A right")
        self.key(Qt.Key.Key_Escape, on=notes)
        self.assertEqual([one.fits for one in self.passes.passes], [True, False])
        self.assertIn("Right foot in, which is not free", self.build.ledger.text())
        self.window.write_page.take_mend(1)
        self.assertEqual(self.editor.toPlainText(), "B, ends: 3 touch, A right")
        self.assertTrue(all(one.fits for one in self.passes.passes))

    def test_opened_by_key_and_by_mouse(self) -> None:
        self.written("A, B")
        self.stand(1)
        self.key(Qt.Key.Key_Return, on=self.passes)
        self.assertEqual(self.desk.title, "B")
        self.desk.go_to(self.desk.piece.id, COMBO)
        wait(10)
        middle = self.passes.row_shown(0).center()
        QTest.mouseDClick(self.passes, Qt.MouseButton.LeftButton, NONE, QPointF(60, middle.y()).toPoint())
        self.assertEqual(self.desk.title, "A")

    def test_what_cannot_be_is_said(self) -> None:
        self.written("A, B")
        self.stand(0)
        self.key(Qt.Key.Key_Down, ALT, on=self.passes)
        self.assertIn("A is danced once: it cannot be danced 0 times.", self.window.banner.text)

    def test_what_is_said_between_parts_is_no_part_to_open(self) -> None:
        self.written("A, [step, hold], B")
        self.stand(1)
        self.key(Qt.Key.Key_Return, on=self.passes)
        self.assertTrue(self.desk.on_combo)
        self.assertIn("is said in the combo itself", self.window.banner.text)

    def test_escape_leaves_the_text_for_the_passes(self) -> None:
        self.written("A, B")
        self.editor.setFocus()
        self.key(Qt.Key.Key_Escape)
        self.assertTrue(self.passes.hasFocus())
        self.window.next_area()
        self.assertTrue(self.window.write_page.notes.hasFocus())

    def test_the_walls_and_every_row_are_painted(self) -> None:
        self.written("A x6, turn 1/4 right")
        before = self.passes.grab().toImage()
        self.window.show_page(WRITE)
        self.stand(5)
        self.build.show_played(self.passes.passes[3].first)
        self.assertNotEqual(before, self.passes.grab().toImage())
        self.assertEqual(self.passes.passes[5].wall, "back")
