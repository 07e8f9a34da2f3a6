"""Log, by its keys: takes noted once judged, practices noted, changed and deleted, and the chart of tempos."""

import unittest
from itertools import pairwise

import numpy as np
import soundfile
from msgspec.structs import replace
from PySide6.QtCore import QPointF, Qt

from firn.core.book.log import LogEntry, best_clean
from firn.core.ear.student import Faults, dance
from firn.core.piece.build import part_from
from firn.session.demo import make_demo
from firn.session.session import Session
from firn.ui.pages.entries import LISTEN, LOG, WRITE
from firn.ui.widgets.tempos.chart import described
from firn.ui.widgets.tempos.layout import lay_out
from tests.support import cases
from tests.ui.window import CTRL, SHIFT, WindowCase

LINE = "8 stomp  1 hop  2 step  &3 flap  & step"


def entry(when: str, tempo: float, *, side: str = "right", clean: bool = True) -> LogEntry:
    return LogEntry(f"{when}{tempo}{side}", when, "Latch, A", "a", side, tempo, "clean" if clean else "lost")  # type: ignore[arg-type]


class NotingTest(WindowCase):
    def setUp(self) -> None:
        super().setUp()
        self.dictate(LINE)
        self.page = self.window.log_page

    def fill(self, **fields: str) -> None:
        def fill(dialog) -> None:
            for name, text in fields.items():
                field = getattr(dialog, name)
                field.setText(text) if hasattr(field, "setText") else field.setCurrentText(text)

        self.answers.fill = fill

    def test_an_empty_log_says_the_next_step(self) -> None:
        self.key(Qt.Key.Key_F12)
        self.assertTrue(self.page.empty.isVisible())
        self.assertFalse(self.page.chart.isVisible())
        self.assertTrue(self.page.note_button.hasFocus())

    def test_noted_changed_deleted_and_undone(self) -> None:
        self.key(Qt.Key.Key_F12)
        self.fill(tempo="104", shoes="socks", floor="kitchen", how="clean", remark="at the rail")
        self.key(Qt.Key.Key_N)
        kept = self.book.log[0]
        self.assertEqual((kept.step, kept.tempo, kept.side, kept.clean, kept.shoes, kept.floor, kept.remark),
                         ("Untitled, A", 104.0, "right", True, "socks", "kitchen", "at the rail"))  # fmt: skip
        self.assertIn("right 104", self.page.steps.item(0).text())
        self.page.entries.setFocus()
        self.fill(tempo="96", side="left foot", day="2026-11-20")
        self.key(Qt.Key.Key_Return, on=self.page.entries)
        self.assertEqual([(e.day, e.tempo, e.side) for e in self.book.log], [("2026-11-20", 96.0, "left")])
        self.key(Qt.Key.Key_Delete, CTRL | SHIFT)
        self.assertEqual(self.book.log, ())
        self.key(Qt.Key.Key_Z, CTRL)
        self.assertEqual(self.book.log[0].tempo, 96.0)
        self.window.close()
        self.open(Session.open(self.path))
        self.assertEqual(self.book.log[0].shoes, "socks")

    @cases(
        ("no number", "tempo", "quick", "written in numbers"),
        ("too fast", "tempo", "999", "between 20 and 400"),
        ("no day", "day", "Friday", "Friday is no day"),
        ("nothing", "step", " ", "Say what was danced"),
    )
    def test_what_cannot_be_noted(self, _: str, field: str, text: str, said: str) -> None:
        told = []

        def fill(dialog) -> None:
            getattr(dialog, field).setText(text)
            dialog.accept()
            told.append(dialog.wrong.text())
            dialog.reject()
            dialog.accept = lambda: None

        self.answers.fill = fill
        self.window.show_page(LOG)
        self.window.actions_by_id["note"].trigger()
        self.assertIn(said, told[0])
        self.assertEqual(self.book.log, ())

    def test_shoes_and_floor_of_last_time_are_offered(self) -> None:
        self.window.show_page(LOG)
        self.fill(shoes="tap shoes", floor="hall boards")
        self.window.actions_by_id["note"].trigger()
        self.fill()
        self.window.actions_by_id["note"].trigger()
        self.assertEqual([(e.shoes, e.floor) for e in self.book.log], [("tap shoes", "hall boards")] * 2)


class TakesTest(WindowCase):
    def bring(self, faults: Faults) -> None:
        """Bring a file of somebody's feet in, on the part on show."""
        one = part_from("A", LINE, self.desk.settings)
        danced = dance(one, 120, faults, np.random.default_rng(4), passes=2)
        self.answers.path = self.folder / "feet.wav"
        soundfile.write(self.answers.path, danced.audio, 48_000)
        self.window.show_page(LISTEN)
        self.key(Qt.Key.Key_I)
        self.settle()
        self.settle()

    def setUp(self) -> None:
        super().setUp()
        self.dictate(LINE)

    def test_a_take_is_noted_once_it_is_judged(self) -> None:
        self.bring(Faults())
        self.assertEqual(self.book.log, ())
        self.key(Qt.Key.Key_K)
        self.assertEqual([(e.step, e.side, e.clean, e.on, e.of, e.source) for e in self.book.log],
                         [("Untitled, A", "right", True, 12, 12, "take")])  # fmt: skip
        self.assertAlmostEqual(self.book.log[0].tempo, 120, delta=0.5)
        self.window.show_page(WRITE)
        self.window.show_page(LISTEN)
        self.settle()
        self.assertEqual(len(self.book.log), 1)

    def test_what_is_known_of_the_take_reaches_the_log(self) -> None:
        self.bring(Faults(late_ms={3: 70.0}))
        self.key(Qt.Key.Key_K)
        self.assertEqual((self.book.log[0].clean, self.book.log[0].on), (False, 10))

        def fill(dialog) -> None:
            dialog.side.setCurrentIndex(1)
            dialog.shoes.setCurrentText("socks")
            dialog.heard.setCurrentText("claps")

        self.answers.fill = fill
        self.key(Qt.Key.Key_F4, SHIFT)
        self.assertEqual([(e.side, e.shoes) for e in self.book.log], [("left", "socks")])
        page = self.window.listen_page
        self.assertIn("Heard are claps: feet were not.", page.verdict.facts.text())
        self.assertEqual(page.strip.stretch.sounds[0].foot, "left")

    def test_the_simulated_student_is_not_logged(self) -> None:
        self.simulated("Clean")
        self.key(Qt.Key.Key_K)
        self.assertEqual(self.book.log, ())


class DemoLogTest(WindowCase):
    def test_the_demo_and_its_steps(self) -> None:
        self.shut()
        self.open(make_demo(self.folder / "demo.firn"))
        self.key(Qt.Key.Key_F12)
        page = self.window.log_page
        self.assertEqual([page.steps.item(i).text() for i in range(page.steps.count())],
                         ["Gate Latch, A:  right 126, left 118", "Gate Latch, B:  right 92, left 88"])  # fmt: skip
        self.key(Qt.Key.Key_Down, on=page.steps)
        self.assertIn(
            "right foot first: clean at 92 counts a minute since 2026-11-10", page.chart.accessibleDescription()
        )
        self.assertIn("Tue 24 Nov 19:35, Gate Latch, A, 118  left first, clean, 24 of 24 on",
                      page.entries.item(0).text())  # fmt: skip
        for stop in (page.entries, self.window.line):
            self.key(Qt.Key.Key_F6)
            self.assertTrue(stop.hasFocus())


class ChartTest(unittest.TestCase):
    ROWS = (
        entry("2026-11-01T19:00", 100),
        entry("2026-11-03T19:00", 112),
        entry("2026-11-02T19:00", 96, side="left"),
    )

    def laid(self, rows: tuple[LogEntry, ...], width: float = 700, height: float = 300):
        return lay_out(rows, best_clean(rows), width, height, lambda text: 7.0 * len(text))

    def test_faster_is_higher_and_later_is_further_right(self) -> None:
        laid = self.laid(self.ROWS)
        one, two, left = (d.at for d in laid.dots)
        self.assertTrue(one.x() < left.x() < two.x())
        self.assertTrue(two.y() < one.y() < left.y())
        self.assertTrue(all(laid.field.contains(d.at) for d in laid.dots))

    def test_a_best_rises_in_steps_and_lasts_to_the_end(self) -> None:
        laid = self.laid(self.ROWS)
        right = next(r for r in laid.rises if r.side == "right")
        xs, ys = [c.x() for c in right.corners], [c.y() for c in right.corners]
        self.assertEqual((xs, right.text), (sorted(xs), "R 112"))
        self.assertEqual((len(right.corners), ys[0], ys[2]), (4, ys[1], ys[3]))
        self.assertEqual(xs[-1], laid.field.right())

    @cases(("one entry", 1, 100.0), ("a year", 365, 100.0), ("many tempos", 30, 20.0))
    def test_ticks(self, _: str, days: int, low: float) -> None:
        first, last = (
            entry("2026-01-01", low),
            replace(entry("2026-01-01", 180), when="2026-12-31" if days > 1 else "2026-01-01"),
        )
        laid = self.laid((first, last))
        self.assertTrue(2 <= len(laid.tempos) <= 9)
        values = [int(text) for _, text in laid.tempos]
        self.assertTrue(values[0] <= low and values[-1] >= 180)
        places = [x for x, _ in laid.days]
        self.assertTrue(all(b - a >= 60 for a, b in pairwise(places)))

    def test_names_do_not_stand_on_one_another(self) -> None:
        rows = (entry("2026-11-01", 100), entry("2026-11-01", 100, side="left"))
        one, two = self.laid(rows).rises
        self.assertGreaterEqual(two.text_at.y() - one.text_at.y(), 22)

    def test_nothing(self) -> None:
        self.assertEqual(self.laid(()).dots, ())
        self.assertEqual(described((), ()), "Nothing danced yet.")
        self.assertIn("None of them clean yet", described((), (entry("2026-11-01", 90, clean=False),)))

    def test_in_words(self) -> None:
        self.assertIsInstance(self.laid(self.ROWS).dots[0].at, QPointF)
        self.assertIn("left foot first: clean at 96", described(best_clean(self.ROWS), self.ROWS))


if __name__ == "__main__":
    unittest.main()
