"""Write, by its keys: typing, seeing, mending, undoing, dancing."""

import unittest

from PySide6.QtCore import QPointF, Qt
from PySide6.QtGui import QGuiApplication
from PySide6.QtTest import QTest

from firn.core.meter.tempo import TempoPath
from firn.session.session import Session
from firn.ui.pages.entries import READ
from tests.support import F, cases, comes, wait
from tests.ui.window import ALT, CTRL, SHIFT, WindowCase

LINE = "8 stomp  1 hop  2 step  &3 flap  & step"


class TypingTest(WindowCase):
    def test_what_is_typed_is_shown_and_kept(self) -> None:
        self.type(LINE)
        strip = self.window.write_page.strip
        self.assertEqual([s.kind for s in strip.stretch.sounds], ["stomp", "hop", "step", "brush", "step", "step"])
        self.assertEqual(self.book.pieces[0].parts[0].text, LINE)
        self.window.close()
        self.open(Session.open(self.path))
        self.assertEqual(self.editor.toPlainText(), LINE)

    def test_an_empty_part_offers_a_line_to_try(self) -> None:
        page = self.window.write_page
        self.assertTrue(page.try_line.isVisible())
        self.click(page.try_line)
        self.assertEqual(self.editor.toPlainText(), LINE)
        self.assertFalse(page.try_line.isVisible())

    def test_the_word_at_the_caret_is_no_problem_until_it_leaves(self) -> None:
        page = self.window.write_page
        self.type("1 shuf")
        QTest.keyClicks(self.editor, "l")
        wait(10)
        self.assertFalse(any("shufl" in n.text for n in page.notes.notes))
        QTest.keyClicks(self.editor, "  2 step")
        wait(10)
        self.assertTrue(any('"shufl"' in n.text for n in page.notes.notes))

    def test_words_complete_as_they_are_typed(self) -> None:
        offers = self.editor.offers
        QTest.keyClicks(self.editor, "1 shuffle ba")
        self.assertTrue(offers.isVisible())
        self.assertEqual(offers.item(0).data(Qt.ItemDataRole.AccessibleTextRole),
                         "shuffle ball change: &1 &2   brush, spank, step, step")  # fmt: skip
        self.key(Qt.Key.Key_Tab, on=self.editor)
        self.assertEqual(self.editor.toPlainText(), "1 shuffle ball change ")
        self.assertTrue(self.editor.hasFocus())
        QTest.keyClicks(self.editor, " 3 fl")
        self.key(Qt.Key.Key_Down, on=self.editor)
        self.key(Qt.Key.Key_Down, on=self.editor)
        self.key(Qt.Key.Key_Return, on=self.editor)
        self.assertEqual(self.editor.toPlainText(), "1 shuffle ball change  3 flat ")

    def test_what_the_part_has_already_is_offered_first(self) -> None:
        QTest.keyClicks(self.editor, "1 stomp  2 st")
        self.key(Qt.Key.Key_Tab, on=self.editor)
        self.assertEqual(self.editor.toPlainText(), "1 stomp  2 stomp ")

    def test_offers_do_not_stand_in_the_way(self) -> None:
        QTest.keyClicks(self.editor, "1 fla")
        self.key(Qt.Key.Key_Return, on=self.editor)
        self.assertEqual((self.editor.toPlainText(), self.editor.offers.isVisible()), ("1 fla\n", False))
        QTest.keyClicks(self.editor, "2 fla")
        self.key(Qt.Key.Key_Escape, on=self.editor)
        self.assertFalse(self.editor.offers.isVisible())
        QTest.keyClicks(self.editor, "p")
        self.click(self.editor.offers.viewport(), 40, 20)
        self.assertEqual(self.editor.toPlainText(), "1 fla\n2 flap heel ")
        QTest.keyClicks(self.editor, " 3 fla")
        self.assertTrue(self.editor.offers.isVisible())
        self.window.pieces.new_part()
        self.assertFalse(self.editor.offers.isVisible())
        QTest.keyClicks(self.editor, "1 fla")
        self.window.write_page.strip.setFocus()
        self.assertFalse(self.editor.offers.isVisible())

    def test_the_row_that_is_typed_in_stays_in_sight(self) -> None:
        self.type("\n".join(["1 step 2 step 3 step 4 step 5 step 6 step 7 step 8 step"] * 6))
        page = self.window.write_page
        layout, view = page.strip.strip_layout, page._view
        top = view.verticalScrollBar().value()
        last = layout.top_of(len(layout.rows) - 1)
        self.assertEqual(len(layout.rows), 6)
        self.assertTrue(top <= last and last + layout.row_height <= top + view.viewport().height() + 8)

    def test_undo_and_redo_are_the_workbooks(self) -> None:
        self.type("1 step")
        self.type("  2 stamp")
        self.key(Qt.Key.Key_Z, CTRL)
        self.assertEqual(self.editor.toPlainText(), "1 step")
        self.key(Qt.Key.Key_Z, CTRL | SHIFT)
        self.assertEqual(self.editor.toPlainText(), "1 step  2 stamp")
        self.assertEqual(self.window.actions_by_id["undo"].text(), "Undo write")

    def test_undo_takes_back_what_is_not_yet_committed(self) -> None:
        QTest.keyClicks(self.editor, "1 step")
        self.key(Qt.Key.Key_Z, CTRL)
        self.assertEqual(self.editor.toPlainText(), "")

    def test_typing_never_reformats(self) -> None:
        text = "  8   stomp,  # odd   spaces"
        self.type(text)
        self.assertEqual((self.editor.toPlainText(), self.book.pieces[0].parts[0].text), (text, text))

    def test_bare_keys_are_letters_in_text(self) -> None:
        before = self.desk.transport
        self.type("clr")
        self.assertEqual((self.editor.toPlainText(), self.desk.transport), ("clr", before))


class MendTest(WindowCase):
    def test_a_mend_by_one_key_and_back(self) -> None:
        self.type("1 stamp & heel 2 L step 3-8 hold")
        notes = self.window.write_page.notes.notes
        self.assertEqual(notes[0].level, "bad")
        self.assertEqual(self.window.write_page.strip.overlay.marks[1], "bad")
        self.key(Qt.Key.Key_1, ALT)
        self.assertEqual(self.editor.toPlainText(), "1 step & heel 2 L step 3-8 hold")
        self.assertEqual({n.level for n in self.window.write_page.notes.notes}, {"ok"})
        self.key(Qt.Key.Key_Z, CTRL)
        self.assertEqual(self.editor.toPlainText(), "1 stamp & heel 2 L step 3-8 hold")

    def test_read_offers_what_is_not_looked_for_while_it_is_typed(self) -> None:
        """How it would end otherwise: also where what was typed is taken back before."""
        self.dictate("1 step 2 step 3 step 4 step")
        self.desk.commit()
        QTest.keyClicks(self.window.write_page.editor, "x")
        self.key(Qt.Key.Key_Backspace, on=self.window.write_page.editor)
        self.assertTrue(self.desk.drafting)
        wait(10)
        self.assertFalse(any(n.mends for n in self.desk.notes))
        self.window.show_page(READ)
        self.assertFalse(self.desk.drafting)
        self.assertTrue(comes(lambda: any(n.mends for n in self.window.rooms.read.notes.notes)))

    def test_a_mend_by_return_on_the_list(self) -> None:
        self.type("1 step  3 step  4 step")
        notes = self.window.write_page.notes
        row = next(i for i, n in enumerate(notes.notes) if n.mends)
        notes.setFocus()
        notes.setCurrentRow(row)
        self.key(Qt.Key.Key_Return, on=notes)
        self.assertEqual(self.editor.toPlainText(), "1 step  2 hold  3 step  4 step")

    def test_a_mend_by_click(self) -> None:
        self.type("1 step  3 step  4 step")
        notes = self.window.write_page.notes
        row = next(i for i, n in enumerate(notes.notes) if n.mends)
        box = notes.visualItemRect(notes.item(row))
        self.click(notes.viewport(), box.left() + 60, box.bottom() - 8)
        self.assertIn("2 hold", self.editor.toPlainText())

    def test_starting_on_the_other_foot(self) -> None:
        self.type("1 step 2 L step 3 R step")
        self.answers.fill = lambda dialog: dialog.choices["lead"].setCurrentText("left")
        self.key(Qt.Key.Key_F4)
        self.assertEqual(self.desk.settings.lead, "left")
        mends = [m for n in self.window.write_page.notes.notes for _, m in n.mends]
        number = next(i for i, m in enumerate(mends, 1) if m.lead)
        self.key(Qt.Key(Qt.Key.Key_0 + number), ALT)
        self.assertEqual(self.desk.settings.lead, "right")

    def test_pointing_at_a_note_shows_its_sound(self) -> None:
        self.type("1 stamp & heel 2 L step")
        notes = self.window.write_page.notes
        notes.setCurrentRow(0)
        self.assertEqual(self.window.write_page.strip.current, 1)

    def test_pointing_at_a_problem_selects_its_word(self) -> None:
        self.type("1 step 2 shufle 3 step")
        notes = self.window.write_page.notes
        self.window.write_page.strip.setFocus()
        notes.setCurrentRow(next(i for i, n in enumerate(notes.notes) if n.line is not None))
        self.assertEqual(self.editor.textCursor().selectedText(), "shufle")


class StripTest(WindowCase):
    def setUp(self) -> None:
        super().setUp()
        self.type(LINE)
        self.strip = self.window.write_page.strip

    def test_walk_and_hear_of_every_sound(self) -> None:
        # It stands where the caret does: in the last word that was typed.
        self.assertEqual(self.strip.current, 5)
        self.strip.setFocus()
        self.key(Qt.Key.Key_Home)
        said = [self.strip.accessibleDescription()]
        for _ in range(5):
            self.key(Qt.Key.Key_Right)
            said.append(self.strip.accessibleDescription())
        self.assertEqual(said[0], "8: right stomp (the lead foot), weight left")
        self.assertEqual(said[3], "& after 2: left brush of flap (the free foot), weight right")
        self.key(Qt.Key.Key_Home)
        self.assertEqual(self.strip.current, 0)
        self.key(Qt.Key.Key_End)
        self.assertEqual(self.strip.current, 5)

    def test_select_counts_by_keys_and_dance_them(self) -> None:
        self.strip.setFocus()
        self.key(Qt.Key.Key_Home)
        self.key(Qt.Key.Key_Right, SHIFT)
        self.key(Qt.Key.Key_Right, SHIFT)
        self.assertEqual(self.desk.transport.chosen, (F(-1), F(2)))
        self.assertIn("A from 8 to 2", self.window.line.said)
        self.key(Qt.Key.Key_Escape)
        self.assertIsNone(self.desk.transport.chosen)
        self.key(Qt.Key.Key_L)
        self.assertEqual(self.desk.transport.chosen, (F(1), F(2)))
        self.key(Qt.Key.Key_L)
        self.assertIsNone(self.desk.transport.chosen)

    def test_click_and_drag(self) -> None:
        layout = self.strip.strip_layout
        spot = layout.placed[2].box.center()
        self.click(self.strip, spot.x(), spot.y())
        self.assertEqual(self.strip.current, 2)
        first, last = layout.placed[1].x, layout.placed[4].x
        y = layout.lane(0, "left") - 30
        QTest.mousePress(
            self.strip, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, QPointF(first, y).toPoint()
        )
        QTest.mouseMove(self.strip, QPointF((first + last) / 2, y).toPoint())
        QTest.mouseMove(self.strip, QPointF(last, y).toPoint())
        QTest.mouseRelease(
            self.strip, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, QPointF(last, y).toPoint()
        )
        self.assertEqual(self.desk.transport.chosen, (F(0), F(3)))

    def test_the_caret_and_the_strip_follow_each_other(self) -> None:
        cursor = self.editor.textCursor()
        cursor.setPosition(LINE.index("hop") + 1)
        self.editor.setFocus()
        self.editor.setTextCursor(cursor)
        self.assertEqual(self.strip.current, 1)

    def test_a_screen_reader_walks_the_sounds(self) -> None:
        from PySide6.QtGui import QAccessible

        interface = QAccessible.queryAccessibleInterface(self.strip)
        self.assertEqual(interface.childCount(), 6)
        child = interface.child(3)
        self.assertEqual(
            child.text(QAccessible.Text.Name), "& after 2: left brush of flap (the free foot), weight right"
        )
        self.assertFalse(child.rect().isEmpty())
        self.assertIs(interface.child(3), child)
        self.assertIsNone(interface.child(6))

    def test_every_row_is_painted(self) -> None:
        self.type("\n4 stomp 5 hop 6 step & clap 7 jump 8 pickup\n1 land 2 shift 3 turn 4-5 hold 6 (heel)~ 7 kick")
        self.window.write_page.strip.show_played(F(3))
        image = self.window.write_page.strip.grab().toImage()
        colours = {
            image.pixelColor(x, y).name() for x in range(0, image.width(), 3) for y in range(0, image.height(), 3)
        }
        tokens = self.running.theme.tokens
        for role in ("left", "right", "thread", "ink"):
            self.assertIn(getattr(tokens, role).lower(), colours, role)


class DanceTest(WindowCase):
    def setUp(self) -> None:
        super().setUp()
        self.type(LINE)

    def dancing(self) -> bool:
        return comes(lambda: self.running.player.playing)

    def test_dance_from_the_text_and_stop(self) -> None:
        self.key(Qt.Key.Key_Space, CTRL)
        self.assertTrue(self.dancing())
        self.assertEqual(self.window.dance_button.text(), "Stop")
        self.assertTrue(comes(lambda: (self.window.write_page.strip.overlay.played or F(-9)) > F(-1)))
        self.key(Qt.Key.Key_Space, CTRL)
        self.assertFalse(self.running.player.playing)
        self.assertIsNone(self.window.write_page.strip.overlay.played)

    def test_dance_by_space_outside_text(self) -> None:
        self.window.write_page.strip.setFocus()
        self.key(Qt.Key.Key_Space)
        self.assertTrue(self.dancing())
        self.key(Qt.Key.Key_Space)
        self.assertFalse(self.running.player.playing)

    def test_every_value_by_its_key(self) -> None:
        self.window.write_page.strip.setFocus()
        for key, words in (
            (Qt.Key.Key_Minus, "at 118"),
            (Qt.Key.Key_Plus, "at 120"),
            (Qt.Key.Key_C, "after 1 2 3 4 5 6 7"),
            (Qt.Key.Key_O, "other side"),
            (Qt.Key.Key_V, "with counts then"),
            (Qt.Key.Key_V, "with beats then"),
            (Qt.Key.Key_V, "with music then"),
            (Qt.Key.Key_R, "then a rest of 4"),
        ):
            self.key(key)
            self.assertIn(words, self.window.line.said)

    def test_values_by_arrows_on_the_line(self) -> None:
        line = self.window.line
        line.setFocus()
        self.key(Qt.Key.Key_Right)
        self.key(Qt.Key.Key_Up)
        self.assertIn("at 122", line.said)
        self.key(Qt.Key.Key_Down)
        self.key(Qt.Key.Key_Right)
        self.key(Qt.Key.Key_Up)
        self.assertIn("after 1 2 3", line.said)

    def test_values_by_click_are_large(self) -> None:
        line = self.window.line
        for box in line.boxes():
            self.assertGreaterEqual(box.height(), 44)
        self.click(line, line.boxes()[3].center().x(), 20)
        self.assertIn("other side", line.said)

    def test_a_change_takes_effect_at_the_next_pass(self) -> None:
        self.window.write_page.strip.setFocus()
        self.desk.dance_as(self.desk.transport.faster(100))
        self.key(Qt.Key.Key_Space)
        self.assertTrue(self.dancing())
        self.key(Qt.Key.Key_Minus)
        self.settle()
        self.assertTrue(comes(lambda: self.running.player._waiting is None and self.running.player._pass > 0))
        self.assertEqual(self.running.player._rendered.tempo, TempoPath.steady(self.desk.transport.tempo))

    def test_once_and_stop(self) -> None:
        transport = self.desk.transport.faster(200)
        while transport.then != "stop":
            transport = transport.next_then()
        self.desk.dance_as(transport)
        self.window.write_page.strip.setFocus()
        self.key(Qt.Key.Key_Space)
        self.assertTrue(self.dancing())
        self.assertTrue(comes(lambda: not self.running.player.playing))

    def test_stand_back(self) -> None:
        self.key(Qt.Key.Key_F8)
        view = self.window.stand_back
        self.assertTrue(view.isVisible())
        self.assertEqual(view.words_now()[:2], ("stomp", "8"))
        view.show_played(F(7, 4))
        self.assertEqual(view.words_now(), ("flap", "& 3", "left", "step", "&", "right"))
        view.show_played(F(-3))
        self.assertEqual(view.words_now()[:2], ("count-in", "6"))
        self.key(Qt.Key.Key_Left, on=view)
        self.assertEqual(self.desk.transport.tempo, 118)
        self.key(Qt.Key.Key_Space, on=view)
        self.assertTrue(self.dancing())
        self.key(Qt.Key.Key_Escape, on=view)
        self.assertFalse(view.isVisible())

    def test_the_word_now_is_large(self) -> None:
        """At least 9 % of the window's height for the word now and 6 % for the next: the height of its letters."""
        from PySide6.QtGui import QFontMetricsF

        from firn.ui.stand_back import NEXT, NOW

        for share, least in ((NOW, 0.09), (NEXT, 0.06)):
            font = self.window.stand_back._sized(share * 800, self.running.theme.font(16).weight())
            self.assertGreaterEqual(QFontMetricsF(font).xHeight() / 800, least)


if __name__ == "__main__":
    unittest.main()


class CountsTest(WindowCase):
    def test_filled_in_by_a_key_and_taken_back(self) -> None:
        self.type("flap  flap  step   # go")
        self.key(Qt.Key.Key_C, CTRL | SHIFT, on=self.editor)
        self.assertEqual(self.editor.toPlainText(), "&1 flap  &2 flap  3 step   # go")
        self.key(Qt.Key.Key_Z, CTRL, on=self.editor)
        self.assertEqual(self.editor.toPlainText(), "flap  flap  step   # go")

    @cases(("", "no step here"), ("flap  wobble  step", "What is not understood comes first"))
    def test_not_where_there_is_nothing_or_something_unknown(self, text: str, said: str) -> None:
        if text:
            self.type(text)
        self.key(Qt.Key.Key_C, CTRL | SHIFT, on=self.editor)
        self.assertIn(said, self.window.banner.text)
        self.assertEqual(self.editor.toPlainText(), text)
        self.editor.selectAll()
        self.key(Qt.Key.Key_Delete, on=self.editor)


class PastedTest(WindowCase):
    """Whatever is pasted into the script: the window goes on, and one undo takes it back."""

    @cases(
        ("five thousand lines", "\n".join(["1 step"] * 5_000), 5_000),
        ("a word of ten thousand letters", f"1 {'stamp' * 2_000}  2 step", 1),
        ("from right to left", "1 צעד  2 step  3 خطوة قصيرة  4 step", 2),
        ("tabs", "1\tstep\t2\tstep", 2),
    )
    def test_pasted_and_taken_back(self, _: str, text: str, sounds: int) -> None:
        self.editor.setFocus()
        QGuiApplication.clipboard().setText(text)
        self.key(Qt.Key.Key_V, CTRL, on=self.editor)
        self.assertTrue(comes(lambda: not self.desk.drafting))
        self.assertEqual((self.editor.toPlainText(), len(self.desk.stretch.sounds)), (text, sounds))
        self.assertEqual(self.book.pieces[0].parts[0].text, text)
        wait(50)
        self.key(Qt.Key.Key_Z, CTRL, on=self.editor)
        self.assertEqual((self.editor.toPlainText(), len(self.desk.stretch.sounds)), ("", 0))
