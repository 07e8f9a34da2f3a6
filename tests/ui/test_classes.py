"""A class, by key: planned, changed, run as a clock, and what is left of it."""

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from firn.core.book.edits import SetCombo
from firn.session.classes import class_paper
from firn.ui.pages.entries import DRILL
from tests.ui.window import ALT, CTRL, WindowCase

EIGHT = "1 step  2 step  3 step  4 step  5 step  6 step  7 step  8 step"


class ClassCase(WindowCase):
    """A class of an hour of one part that nobody has danced yet, and a combo."""

    def setUp(self) -> None:
        super().setUp()
        self.dictate(EIGHT)
        self.desk.commit()
        self.desk.bridge.do(SetCombo(self.desk.piece.id, "A x2"))
        self.window.show_page(DRILL)
        self.answers.fill = lambda dialog: dialog.name_field.setText("Thursday")
        self.key(Qt.Key.Key_G, CTRL | ALT)
        self.page = self.window.rooms.drill
        self.view = self.page.class_view
        self.stand_back = self.window.stand_back

    def kinds(self) -> list[tuple[str, int]]:
        return [(item.kind, item.minutes) for item in self.book.classes[0].items]


class PlanTest(ClassCase):
    def test_planned_and_shown(self) -> None:
        self.assertEqual(sum(minutes for _, minutes in self.kinds()), 60)
        kinds = [kind for kind, _ in self.kinds()]
        self.assertEqual(kinds, ["warm_up", "new", "drill", "join", "music", "cool_down"])
        self.assertEqual(self.book.classes[0].items[1].part, self.desk.part_id)
        self.assertTrue(self.view.isVisible())
        self.assertFalse(self.page.stages.isVisible())
        shown = self.page.name_button.text(), self.page.summary.text()
        self.assertEqual(shown, ("Thursday  ▾", "a class of 60 min"))
        self.assertEqual(self.page.run_button.text(), "Begin the class")
        self.assertEqual(self.view.items.stages[1].title, "new step: A")
        self.assertIn("Ankles", self.view.say.text())

    def test_changed_by_key_and_taken_back(self) -> None:
        before = self.kinds()
        items = self.view.items
        items.setFocus()
        self.key(Qt.Key.Key_Right, on=items)
        self.key(Qt.Key.Key_Left, ALT, on=items)
        self.assertEqual([kind for kind, _ in self.kinds()][:2], ["new", "warm_up"])
        self.key(Qt.Key.Key_Insert, on=items)
        self.assertEqual(self.kinds()[1], ("drill", 5))
        self.key(Qt.Key.Key_Delete, on=items)
        self.assertEqual(len(self.kinds()), len(before))
        for _ in range(3):
            self.key(Qt.Key.Key_Z, CTRL, on=items)
        self.assertEqual(self.kinds(), before)

    def test_each_value_of_an_item(self) -> None:
        line = self.view.line
        line.setFocus()
        self.key(Qt.Key.Key_Up, on=line)
        self.assertEqual(self.kinds()[0][0], "review")
        # What is said of a warm-up goes with it.
        self.assertEqual(self.book.classes[0].items[0].say, "")
        self.key(Qt.Key.Key_Right, on=line)
        self.key(Qt.Key.Key_Down, on=line)
        minutes = self.kinds()[0][1]
        self.key(Qt.Key.Key_Up, on=line)
        self.assertEqual(self.kinds()[0][1], minutes + 1)
        self.key(Qt.Key.Key_Right, on=line)
        self.key(Qt.Key.Key_Up, on=line)
        self.assertEqual(self.view.items.stages[0].title, "review: A")
        self.assertIn("of A", line.said)

    def test_what_is_said_is_kept(self) -> None:
        self.view.say.setFocus()
        self.view.say.selectAll()
        QTest.keyClicks(self.view.say, "Ears first")
        self.key(Qt.Key.Key_Return, on=self.view.say)
        self.assertEqual(self.book.classes[0].items[0].say, "Ears first")
        self.key(Qt.Key.Key_Z, CTRL, on=self.view.items)
        self.assertIn("Ankles", self.view.say.text())

    def test_what_is_typed_is_kept_whatever_comes_between(self) -> None:
        """A redraw in the midst of a word, another drill, the clock, and the end of the window."""
        for number, turn in enumerate(
            (
                lambda: self.page.show_desk() or self.key(Qt.Key.Key_Return, on=self.view.say),
                lambda: self.key(Qt.Key.Key_D, CTRL | ALT),
                lambda: self.key(Qt.Key.Key_F8, Qt.KeyboardModifier.ShiftModifier),
                self.window.close,
            )
        ):
            self.page.pick(self.book.classes[0].id)
            self.view.say.setFocus()
            QTest.keyClicks(self.view.say, f" and {number}")
            turn()
            self.assertTrue(self.book.classes[0].items[0].say.endswith(f" and {number}"), number)
            if self.stand_back.isVisible():
                self.key(Qt.Key.Key_Escape, on=self.stand_back)

    def test_renamed_deleted_and_the_drills_come_back(self) -> None:
        self.answers.named = "Friday"
        self.key(Qt.Key.Key_F2, CTRL)
        self.assertEqual(self.book.classes[0].name, "Friday")
        self.key(Qt.Key.Key_Backspace, CTRL | ALT)
        self.assertEqual(self.book.classes, ())
        self.assertFalse(self.view.isVisible())
        self.assertTrue(self.page.offers.isVisible())
        self.key(Qt.Key.Key_Z, CTRL)
        self.assertTrue(self.view.isVisible())

    def test_picked_beside_a_drill(self) -> None:
        self.key(Qt.Key.Key_D, CTRL | ALT)
        self.assertFalse(self.view.isVisible())
        self.page.menu.emit()
        menu = self.window.rooms.drills.menu
        names = [a.text() for a in menu.actions() if a.isCheckable()]
        self.assertEqual(names, ["Practice", "Thursday"])
        menu.close()
        self.key(Qt.Key.Key_PageDown, ALT)
        self.assertTrue(self.view.isVisible())

    def test_on_one_page_of_paper(self) -> None:
        path = self.folder / "class.pdf"
        self.answers.path = path
        self.key(Qt.Key.Key_P, CTRL | Qt.KeyboardModifier.ShiftModifier)
        self.settle()
        self.assertIn("holds 1 page.", self.window.banner.text)
        self.assertEqual(path.read_bytes()[:5], b"%PDF-")
        plan, piece = self.book.classes[0], self.desk.piece
        sheet = class_paper(plan, piece)
        self.assertEqual((sheet.title, sheet.counted), ("Thursday", "Untitled, 60 min"))
        heads = [head for head, _ in sheet.sections]
        begins = plan.items[0].minutes
        self.assertEqual(heads[:2], [f"0:00   warm-up, {begins} min",
                                     f"0:{begins:02}   new step: A, {plan.items[1].minutes} min"])  # fmt: skip
        self.assertIn(EIGHT, sheet.sections[1][1])

    def test_minutes_that_cannot_be(self) -> None:
        self.answers.fill = lambda dialog: dialog.minutes_field.setText("5")
        self.key(Qt.Key.Key_G, CTRL | ALT)
        self.assertIn("between 15 and 240 minutes, not 5", self.window.banner.text)
        self.answers.fill = lambda dialog: dialog.minutes_field.setText("an hour")
        self.key(Qt.Key.Key_G, CTRL | ALT)
        self.assertIn("written in figures", self.answers.wrong)
        self.assertEqual(len(self.book.classes), 1)


class RunTest(ClassCase):
    """The class is on: the clock is moved by hand."""

    def setUp(self) -> None:
        super().setUp()
        self.now = 1000.0
        self.run = self.window.rooms.classes.run
        self.run.now_s = lambda: self.now
        self.key(Qt.Key.Key_F8, Qt.KeyboardModifier.ShiftModifier)

    def at(self, seconds: float) -> None:
        self.now = 1000.0 + seconds
        self.run.tell()

    @property
    def clock(self):
        return self.stand_back.clock

    def press(self, key: Qt.Key) -> None:
        self.key(key, on=self.stand_back)

    def test_what_is_left_what_comes_and_how_far_behind(self) -> None:
        warm = self.kinds()[0][1]
        self.assertTrue(self.stand_back.isVisible())
        self.assertEqual((self.clock.title, self.clock.left, self.clock.behind),
                         ("warm-up", f"{warm}:00", "on time"))  # fmt: skip
        self.assertTrue(self.clock.following.startswith("then new step: A, "))
        self.at(warm * 60 + 125)
        self.assertEqual((self.clock.left, self.clock.late, self.clock.behind), ("−2:05", True, "2 min behind"))
        self.press(Qt.Key.Key_Right)
        shown = self.clock.title, self.clock.late, self.clock.behind
        self.assertEqual(shown, ("new step: A", False, "2 min behind"))
        self.assertFalse(self.stand_back.grab().isNull())
        self.press(Qt.Key.Key_Left)
        self.assertEqual(self.clock.title, "warm-up")

    def test_the_clock_is_stopped_and_goes_on(self) -> None:
        self.at(60)
        left = self.clock.left
        self.press(Qt.Key.Key_Space)
        self.at(600)
        self.assertEqual((self.clock.left, self.clock.goes), (left, False))
        self.press(Qt.Key.Key_Space)
        self.assertEqual((self.clock.left, self.clock.goes), (left, True))

    def test_what_is_left_goes_to_the_next_class(self) -> None:
        for _ in range(3):
            self.press(Qt.Key.Key_Right)
        self.press(Qt.Key.Key_Escape)
        self.assertFalse(self.stand_back.isVisible())
        self.assertIsNone(self.clock)
        rest = self.book.classes[1]
        self.assertEqual((rest.name, [i.kind for i in rest.items]),
                         ("Rest of Thursday", ["warm_up", "review", "join", "music", "cool_down"]))  # fmt: skip
        self.assertIn("What was left stands in Rest of Thursday", self.window.banner.text)
        self.key(Qt.Key.Key_Z, CTRL)
        self.assertEqual(len(self.book.classes), 1)

    def test_ended_at_its_end_nothing_is_left(self) -> None:
        for _ in range(9):
            self.press(Qt.Key.Key_PageDown)
        self.assertEqual((self.clock.title, self.clock.following), ("cool down", "the last item"))
        self.press(Qt.Key.Key_Escape)
        self.assertEqual(len(self.book.classes), 1)

    def test_another_page_ends_it(self) -> None:
        self.window.rooms.leave()
        self.assertFalse(self.run.on)
