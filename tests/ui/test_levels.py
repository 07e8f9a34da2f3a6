"""One part at several levels, by its keys: each on its strip, line by line, taken, and made groups of a class."""

from PySide6.QtCore import Qt

from firn.session.desk import COMBO
from tests.ui.window import CTRL, SHIFT, WindowCase

LINES = "8 double time step  4 double time step\n1 hop  2 step  3 step  4 stomp"


class LevelsTest(WindowCase):
    def setUp(self) -> None:
        super().setUp()
        self.dictate(LINES)

    def ask(self, fill) -> None:
        self.answers.fill = fill
        self.key(Qt.Key.Key_R, CTRL | SHIFT)

    def texts(self) -> list[str]:
        return [p.text for p in self.book.pieces[0].parts]

    def test_each_is_shown_and_judged(self) -> None:
        def fill(dialog) -> None:
            self.said = [label.text() for label in dialog.said]
            self.first = dialog.differences.item(0).text()
            self.kinds = [[s.kind for s in strip.stretch.sounds] for strip in dialog.strips]

        self.ask(fill)
        simple, written, hard, chair = self.said
        self.assertIn("single time step for double time step. 13 counts, nothing wrong.", simple)
        # The level that is stood on is here, the part as written there.
        self.assertEqual(self.first, "& after 1: nothing here, right brush there")
        self.assertEqual(written, "As written: nothing wrong.")
        self.assertIn("triple time step for double time step", hard)
        self.assertIn("heel for hop", chair)
        many = [len(kinds) for kinds in self.kinds]
        self.assertEqual(many, [*sorted(many[:3]), many[3]])
        self.assertEqual(self.texts(), [LINES])

    def test_a_class_of_groups_is_one_step_of_undo(self) -> None:
        self.ask(lambda dialog: dialog.grouped.click())
        piece = self.book.pieces[0]
        self.assertEqual([p.name for p in piece.parts], ["A", "A simpler", "A harder", "A seated"])
        self.assertEqual(self.desk.part_id, COMBO)
        self.assertEqual(piece.combo.split("\n")[1], "group 2, together: A")
        self.assertIn("All 4 groups begin together and end together.", self.window.banner.text)
        self.key(Qt.Key.Key_Z, CTRL)
        self.assertEqual((self.texts(), self.book.pieces[0].combo), ([LINES], ""))

    def test_fewer_than_two_levels_are_no_class(self) -> None:
        def fill(dialog) -> None:
            for row in range(1, 4):
                dialog.list.item(row).setCheckState(Qt.CheckState.Unchecked)
            dialog.grouped.click()

        self.ask(fill)
        self.assertIn("needs two levels", self.window.banner.text)
        self.assertEqual(self.texts(), [LINES])

    def test_line_by_line_in_its_place_and_taken_back(self) -> None:
        def fill(dialog) -> None:
            dialog.list.setCurrentRow(2)
            dialog.lines.setFocus()
            # The first line, from harder to as written by way of simpler.
            for _ in range(2):
                self.key(Qt.Key.Key_Right, on=dialog.lines)
            self.first = dialog.lines.item(0).text(), dialog.said[2].text(), dialog.here.isEnabled()
            self.key(Qt.Key.Key_Left, on=dialog.lines)
            self.second = dialog.lines.item(0).text()
            dialog.here.click()

        self.ask(fill)
        self.assertEqual(self.first[0], f"as written: {LINES.splitlines()[0]}")
        self.assertIn("No step here has a harder one", self.first[1])
        self.assertFalse(self.first[2])
        self.assertTrue(self.second.startswith("simpler: "))
        self.assertEqual(self.editor.toPlainText().split("\n")[0], "8 single time step  4 single time step")
        self.key(Qt.Key.Key_Z, CTRL, on=self.editor)
        self.assertEqual(self.editor.toPlainText(), LINES)

    def test_as_a_new_part(self) -> None:
        def fill(dialog) -> None:
            dialog.list.setCurrentRow(0)
            dialog.apart.click()

        self.ask(fill)
        self.assertEqual([p.name for p in self.book.pieces[0].parts], ["A", "A simpler"])

    def test_of_nothing(self) -> None:
        self.key(Qt.Key.Key_T, CTRL)
        self.key(Qt.Key.Key_R, CTRL | SHIFT)
        self.assertIn("with some steps first", self.window.banner.text)
