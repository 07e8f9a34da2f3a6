"""The strip edited by keys and mouse; the script follows, and each change is taken back."""

from PySide6.QtCore import QPoint, Qt
from PySide6.QtGui import QGuiApplication
from PySide6.QtTest import QTest

from firn.ui.pages.entries import WRITE
from tests.support import cases, wait
from tests.ui.window import ALT, CTRL, NONE, SHIFT, WindowCase

LINE = "8 stomp  1 hop  2 step  &3 flap  & step"


class ByHandTest(WindowCase):
    def setUp(self) -> None:
        super().setUp()
        self.dictate(LINE)
        self.strip = self.window.write_page.strip

    def stand(self, index: int) -> None:
        self.strip.setFocus()
        self.key(Qt.Key.Key_Home, on=self.strip)
        for _ in range(index):
            self.key(Qt.Key.Key_Right, on=self.strip)
        self.assertEqual(self.strip.current, index)

    @cases(
        ("later", 5, Qt.Key.Key_Right, ALT | SHIFT, "8 stomp  1 hop  2 step  &3 flap  a step", 5),
        ("earlier", 2, Qt.Key.Key_Left, ALT, "8 stomp  1 hop  & step  &3 flap  & step", 2),
        ("left out", 2, Qt.Key.Key_Delete, NONE, "8 stomp  1 hop  2 hold  &3 flap  & step", 2),
        ("one more", 5, Qt.Key.Key_Insert, NONE, LINE + "  4 step", 6),
        ("the other foot", 4, Qt.Key.Key_F, NONE, "8 stomp  1 hop  2 step  & brush  3 R step  & step", 4),
    )
    def test_by_key_and_taken_back(
        self, _: str, index: int, key: Qt.Key, modifiers: Qt.KeyboardModifier, text: str, current: int
    ) -> None:
        self.stand(index)
        self.key(key, modifiers, on=self.strip)
        self.assertEqual((self.editor.toPlainText(), self.strip.current), (text, current))
        self.key(Qt.Key.Key_Z, CTRL, on=self.strip)
        self.assertEqual(self.editor.toPlainText(), LINE)

    def test_leaned_on_and_softened(self) -> None:
        self.stand(0)
        QTest.keyClicks(self.strip, "!")
        self.assertEqual(self.editor.toPlainText(), "8 stomp!  1 hop  2 step  &3 flap  & step")
        QTest.keyClicks(self.strip, "!~")
        self.assertEqual(self.editor.toPlainText(), "8 stomp~  1 hop  2 step  &3 flap  & step")

    def test_another_sound_by_the_menu(self) -> None:
        self.stand(5)
        self.key(Qt.Key.Key_Return, on=self.strip)
        menu = self.window.write_page.kinds
        next(a for a in menu.actions() if a.text() == "&touch").trigger()
        menu.close()
        self.assertEqual(self.editor.toPlainText(), "8 stomp  1 hop  2 step  &3 flap  & touch")

    def test_what_cannot_be_is_said(self) -> None:
        self.stand(0)
        self.key(Qt.Key.Key_Right, ALT, on=self.strip)
        self.key(Qt.Key.Key_Right, ALT, on=self.strip)
        self.assertIn("There is a sound on 1 already", self.window.banner.text)
        self.assertEqual(self.editor.toPlainText(), "& stomp  1 hop  2 step  &3 flap  & step")

    def test_carried_by_the_mouse(self) -> None:
        placed = self.strip.strip_layout.placed
        start = placed[5].box.center().toPoint()
        width = placed[5].x - placed[4].x
        QTest.mousePress(self.strip, Qt.MouseButton.LeftButton, ALT, start)
        QTest.mouseMove(self.strip, start + QPoint(round(width), 0))
        QTest.mouseRelease(self.strip, Qt.MouseButton.LeftButton, ALT, start + QPoint(round(width), 0))
        wait(10)
        self.assertEqual(self.editor.toPlainText(), "8 stomp  1 hop  2 step  &3 flap  4 step")

    def test_a_combo_is_not_drawn(self) -> None:
        self.desk.go_to(self.book.pieces[0].id, "combo")
        self.desk.write("A x2")
        self.desk.commit()
        self.window.show_page(WRITE)
        self.stand(1)
        self.key(Qt.Key.Key_Delete, on=self.strip)
        self.assertEqual(self.editor.toPlainText(), "A x2")

    def test_a_first_step_on_an_empty_strip(self) -> None:
        self.editor.selectAll()
        self.key(Qt.Key.Key_Delete, on=self.editor)
        self.strip.setFocus()
        self.key(Qt.Key.Key_Insert, on=self.strip)
        self.key(Qt.Key.Key_Insert, on=self.strip)
        self.strip.setFocus()
        self.key(Qt.Key.Key_Home, on=self.strip)
        self.key(Qt.Key.Key_Insert, ALT, on=self.strip)
        self.assertEqual(self.editor.toPlainText(), "& step  1 step  & step")

    def test_with_weight_or_without(self) -> None:
        self.stand(5)
        QTest.keyClicks(self.strip, "w")
        self.assertEqual(self.editor.toPlainText(), "8 stomp  1 hop  2 step  &3 flap  & touch")

    def test_split_and_joined(self) -> None:
        self.stand(3)
        QTest.keyClicks(self.strip, "/")
        self.assertEqual(self.editor.toPlainText(), "8 stomp  1 hop  2 step  & brush  3 step  & step")
        self.stand(3)
        self.key(Qt.Key.Key_Right, SHIFT, on=self.strip)
        self.assertEqual(self.strip.picked, range(3, 5))
        QTest.keyClicks(self.strip, "j")
        self.assertEqual(self.editor.toPlainText(), LINE)

    def test_picked_by_word_and_counts(self) -> None:
        self.stand(4)
        found = []
        for _ in range(4):
            self.key(Qt.Key.Key_A, CTRL, on=self.strip)
            found.append((self.strip.picked, self.strip.chosen))
        self.assertEqual([p for p, _ in found], [range(3, 5), range(2, 6), range(1, 6), range(6)])
        self.assertEqual(found[1][1], (1, 3))
        self.key(Qt.Key.Key_Escape, on=self.strip)
        self.assertEqual((self.strip.picked, self.strip.chosen), (range(4, 5), None))

    def test_text_that_is_selected_picks_its_sounds(self) -> None:
        self.editor.setFocus()
        self.key(Qt.Key.Key_Home, on=self.editor)
        for _ in range(12):
            self.key(Qt.Key.Key_Right, SHIFT, on=self.editor)
        self.assertEqual((self.strip.picked, self.strip.chosen), (range(2), (-1, 1)))
        self.key(Qt.Key.Key_Right, on=self.editor)
        self.assertEqual((len(self.strip.picked), self.strip.chosen), (1, None))

    def test_sounds_that_are_picked_wash_their_words(self) -> None:
        self.stand(2)
        for _ in range(2):
            self.key(Qt.Key.Key_Right, SHIFT, on=self.strip)
        wait(30)
        washed = [s.cursor.selectedText() for s in self.editor.extraSelections()]
        self.assertEqual(washed, ["step", "flap"])

    def test_a_double_click_picks_the_word(self) -> None:
        spot = self.strip.strip_layout.placed[4].box.center().toPoint()
        QTest.mouseDClick(self.strip, Qt.MouseButton.LeftButton, NONE, spot)
        self.assertEqual(self.strip.picked, range(3, 5))

    def test_copied_into_another_part(self) -> None:
        self.stand(2)
        for _ in range(2):
            self.key(Qt.Key.Key_Right, SHIFT, on=self.strip)
        self.key(Qt.Key.Key_C, CTRL, on=self.strip)
        self.key(Qt.Key.Key_T, CTRL)
        self.strip.setFocus()
        self.key(Qt.Key.Key_V, CTRL, on=self.strip)
        self.assertEqual(self.editor.toPlainText(), "1 step  &2 flap")
        self.assertEqual(self.strip.picked, range(3))
        self.key(Qt.Key.Key_Z, CTRL, on=self.strip)
        self.assertEqual(self.editor.toPlainText(), "")

    def test_cut_and_what_is_no_steps(self) -> None:
        self.stand(2)
        self.key(Qt.Key.Key_X, CTRL, on=self.strip)
        self.assertEqual(self.editor.toPlainText(), "8 stomp  1 hop  2 hold  &3 flap  & step")
        QGuiApplication.clipboard().setText("the hall is booked")
        self.key(Qt.Key.Key_V, CTRL, on=self.strip)
        self.assertIn("What was copied is no steps", self.window.banner.text)

    def test_several_at_once(self) -> None:
        self.stand(3)
        self.key(Qt.Key.Key_Right, SHIFT, on=self.strip)
        QTest.keyClicks(self.strip, "!")
        self.assertEqual(self.editor.toPlainText(), "8 stomp  1 hop  2 step  & brush!  3 step!  & step")
        self.assertEqual(self.strip.picked, range(3, 5))
