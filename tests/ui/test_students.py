"""Students, by key: added, chosen, changed and deleted, and whose log and drills are shown."""

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from firn.core.book.edits import NoteAnswer
from firn.core.book.log import Answer
from firn.ui.pages.entries import DRILL, LOG
from tests.ui.window import ALT, CTRL, WindowCase

EIGHT = "1 step  2 step  3 step  4 step  5 step  6 step  7 step  8 step"


class StudentsTest(WindowCase):
    def setUp(self) -> None:
        super().setUp()
        self.dictate(EIGHT)
        self.desk.commit()
        self.who = self.window.head.who

    def choose(self, text: str) -> None:
        """Pick from the menu of who practises."""
        self.key(Qt.Key.Key_W, CTRL | ALT)
        menu = self.window.rooms.students.menu
        next(a for a in menu.actions() if a.text() == text).trigger()
        menu.close()

    def add(self, name: str, **fields: str) -> None:
        def fill(dialog) -> None:
            dialog.name.setText(name)
            dialog.tempo.setText(fields.get("tempo", ""))
            dialog.sides.setCurrentText(fields.get("sides", "both sides"))
            dialog.mirrored.setChecked("mirrored" in fields)

        self.answers.fill = fill
        self.choose("Another student…")

    def note(self, tempo: str) -> None:
        self.window.show_page(LOG)
        self.answers.fill = lambda dialog: dialog.tempo.setText(tempo)
        self.key(Qt.Key.Key_N)

    def shown_log(self) -> list[float]:
        page = self.window.log_page
        return [page.entries.item(n).data(Qt.ItemDataRole.UserRole).tempo for n in range(page.entries.count())]

    def test_each_has_a_log_of_their_own(self) -> None:
        self.assertFalse(self.who.isVisible())
        self.note("100")
        self.add("A. L.", mirrored="yes")
        self.assertEqual((self.who.isVisible(), self.who.text()), (True, "A. L.  ▾"))
        self.assertIn("A. L. practises, shown as in a mirror.", self.window.banner.text)
        self.assertTrue(self.desk.view.mirrored)
        self.assertTrue(self.window.log_page.empty.isVisible())
        self.note("88")
        self.assertEqual([(e.tempo, e.student == self.book.students[0].id) for e in self.book.log],
                         [(100, False), (88, True)])  # fmt: skip
        self.assertIn("right 88", self.window.log_page.steps.item(0).text())
        self.choose("You")
        self.assertEqual((self.who.text(), self.desk.view.mirrored), ("you  ▾", False))
        self.assertIn("right 100", self.window.log_page.steps.item(0).text())

    def test_a_practice_is_planned_for_one_student(self) -> None:
        self.add("B. O.", tempo="80", sides="the other")
        self.window.show_page(DRILL)
        self.answers.fill = lambda dialog: None
        self.key(Qt.Key.Key_M, CTRL | ALT)
        (drill,) = self.book.drills
        self.assertEqual(drill.student, self.book.students[0].id)
        ladder = next(s for s in drill.stages if s.kind == "ladder")
        self.assertEqual((ladder.sides, max(s.end for s in drill.stages)), ("other side", ladder.end))
        self.assertLessEqual(ladder.end, 80)
        self.assertIsNotNone(self.window.rooms.drill.drill)
        self.choose("You")
        self.assertIsNone(self.window.rooms.drill.drill)

    def test_a_simulated_take_is_theirs(self) -> None:
        self.add("A. L.")
        self.simulated()
        self.assertEqual([t.student for t in self.book.takes], [self.book.students[0].id])

    def test_changed_and_deleted_and_brought_back(self) -> None:
        self.add("A. L.")
        self.note("88")
        self.desk.bridge.do(NoteAnswer(Answer("how_many", True, "2026-11-27", self.book.who)))
        self.answers.fill = lambda dialog: dialog.name.setText("Ada")
        self.choose("Change…")
        self.assertEqual(self.who.text(), "Ada  ▾")
        before = self.book
        self.choose("Delete")
        self.assertIn("Ada is deleted, with 1 lines of the log", self.window.banner.text)
        self.assertEqual((self.book.students, self.book.log, self.book.ear), ((), (), ()))
        self.assertFalse(self.who.isVisible())
        self.key(Qt.Key.Key_Z, CTRL)
        self.assertEqual(
            (self.book.students, self.book.log, self.book.ear), (before.students, before.log, before.ear)
        )

    def test_two_of_one_name_are_told_apart(self) -> None:
        self.add("A. L.")
        self.answers.fill = lambda dialog: dialog.name.setText("a. l.")
        self.choose("Another student…")
        self.assertIn('"a. l." already', self.answers.wrong)
        self.assertEqual(len(self.book.students), 1)

    def test_by_the_mouse(self) -> None:
        self.add("A. L.")
        QTest.mouseClick(self.who, Qt.MouseButton.LeftButton)
        menu = self.window.rooms.students.menu
        self.assertEqual([a.text() for a in menu.actions() if a.isChecked()], ["A. L."])
        menu.close()
