"""Another version of a part, by its keys: previewed, in its place or as a new part, and taken back."""

from fractions import Fraction

from PySide6.QtCore import Qt

from firn.ui.dialogs.versions import VERSIONS
from tests.support import cases
from tests.ui.window import CTRL, WindowCase

LINE = "8 stomp  1 hop  2 step  &3 flap  & step"


class VersionsTest(WindowCase):
    def setUp(self) -> None:
        super().setUp()
        self.dictate(LINE)

    def ask(self, name: str, *, apart: bool = False) -> None:
        def fill(dialog) -> None:
            dialog.list.setCurrentRow([n for n, _ in VERSIONS].index(name))
            self.seen = (dialog.said.text(), dialog.strip.stretch, dialog.here.isEnabled())
            if apart:
                dialog.new.click()

        self.answers.fill = fill
        self.key(Qt.Key.Key_R, CTRL)

    def test_on_the_other_side_and_taken_back(self) -> None:
        self.ask("On the other side")
        self.assertIn("begins with the left foot", self.seen[0])
        self.assertEqual(self.seen[1].sounds[0].foot, "left")
        self.assertEqual(self.editor.toPlainText(), "8 L stomp  1 hop  2 step  &3 flap  & step")
        self.key(Qt.Key.Key_Z, CTRL, on=self.editor)
        self.assertEqual(self.editor.toPlainText(), LINE)

    @cases(("once", "A half time"), ("again", "A half time 2"))
    def test_as_a_new_part(self, _: str, name: str) -> None:
        self.desk.go_to(self.book.pieces[0].id, self.book.pieces[0].parts[0].id)
        self.ask("Half time", apart=True)
        self.assertEqual(self.desk.title, name)
        self.assertEqual(self.book.pieces[0].parts[0].text, LINE)

    def test_one_that_cannot_be_is_told_and_not_taken(self) -> None:
        self.ask("Simpler steps")
        self.assertEqual(self.seen[0::2], ("No step here has a simpler one that can stand in for it.", False))
        self.assertEqual(self.editor.toPlainText(), LINE)

    def test_swung_is_for_the_whole_piece_and_taken_back(self) -> None:
        self.ask("Swung")
        self.assertEqual((self.desk.settings.feel, self.editor.toPlainText()), ("swing", LINE))
        self.assertEqual(self.seen[1].sounds[-1].position, Fraction(8, 3))
        self.key(Qt.Key.Key_Z, CTRL, on=self.editor)
        self.assertEqual(self.desk.settings.feel, "straight")

    def test_seated_is_shown_without_weight(self) -> None:
        self.ask("Seated", apart=True)
        self.assertEqual(self.desk.title, "A seated")
        self.assertEqual({s.weight for s in self.desk.stretch.sounds}, {"seat"})
        self.assertEqual(self.desk.stretch.sounds[1].kind, "heel")
        self.assertIn("seated", self.window.write_page.strip.describe(0))

    def test_of_nothing(self) -> None:
        self.key(Qt.Key.Key_T, CTRL)
        self.key(Qt.Key.Key_R, CTRL)
        self.assertIn("no step here", self.window.banner.text)
