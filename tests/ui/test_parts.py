"""Parts of the interface on their own: colours, geometry, jobs, the reel, and a guard against a broken Qt."""

import sys
import threading
import unittest

import numpy as np
from PySide6.QtCore import QObject, QPointF, QTimer

from firn.core.steps.sole import HEIGHT, WIDTH
from firn.devices.outputs import ClockOutput
from firn.devices.reel import Reel
from firn.errors import FirnError
from firn.session.stretch import part_stretch
from firn.ui.jobs import JobRunner
from firn.ui.player import Player
from firn.ui.theme.theme import Theme
from firn.ui.theme.tokens import LAMP_ON, LAMP_OUT
from firn.ui.widgets.strip.geometry import ASCENT
from firn.ui.widgets.strip.layout import lay_out
from firn.ui.widgets.strip.soles import sole_path
from tests.support import F, cases, comes, contrast, part, wait
from tests.ui.window import application

A = "8 stomp  1 hop  2 step  &3 flap  & step\n4 stomp  5 hop  6 step  &7 flap  & step"


def measure(text: str) -> float:
    return 9.0 * len(text)


class ThemeTest(unittest.TestCase):
    def test_a_font_that_is_changed_changes_no_other(self) -> None:
        application()
        self.addCleanup(Theme().apply)
        theme = Theme()
        theme.font(16).setPixelSize(90)
        theme.colour("ink").setAlpha(3)
        self.assertEqual((theme.font(16).pixelSize(), theme.colour("ink").alpha()), (16, 255))
        theme.set_look(dark=True, percent=150)
        self.assertEqual((theme.font(16).pixelSize(), theme.colour("paper").name()), (24, LAMP_OUT.paper.lower()))


class TokensTest(unittest.TestCase):
    """Contrast by WCAG 2.2, recomputed from the tokens: text 4.5:1, marks 3:1."""

    def test_contrast_function(self) -> None:
        """Black on white is 21:1; #767676 on white is 4.54:1 (WCAG 2.2 and its published examples)."""
        self.assertAlmostEqual(contrast("#000000", "#FFFFFF"), 21.0, places=6)
        self.assertAlmostEqual(contrast("#767676", "#FFFFFF"), 4.54, places=2)

    def test_text_and_marks(self) -> None:
        for name, look in (("lamp on", LAMP_ON), ("lamp out", LAMP_OUT)):
            for ground in ("paper", "band", "chosen_wash"):
                for role in ("ink", "quiet"):
                    with self.subTest(name, role=role, ground=ground):
                        self.assertGreaterEqual(contrast(getattr(look, role), getattr(look, ground)), 4.5)
            for role in ("left", "right", "chosen", "look", "bad"):
                self.assertGreaterEqual(contrast(getattr(look, role), look.paper), 4.5, (name, role))
            self.assertGreaterEqual(contrast(look.thread, look.paper), 3.0, name)
            self.assertGreaterEqual(contrast(look.on_next, look.next), 4.5, name)


class LayoutTest(unittest.TestCase):
    def test_a_phrase_a_row(self) -> None:
        layout = lay_out(part_stretch(part(A + "\n8 stomp 1 hop 2 step", phrase="8 counts")), 1200, measure)
        self.assertEqual([r.first for r in layout.rows], [-1, 7])

    @cases(("start", F(-1)), ("half", F(3, 2)), ("second row", F(8)))
    def test_a_point_finds_its_place(self, _: str, place: F) -> None:
        layout = lay_out(part_stretch(part(A + "\n8 stomp 1 hop 2 step", phrase="8 counts")), 1200, measure)
        row = layout.row_of(place)
        self.assertEqual(layout.at(QPointF(layout.x(place, row), layout.rows[row].top + 40)), place)

    def test_a_point_off_the_strip(self) -> None:
        self.assertIsNone(lay_out(part_stretch(part(A)), 1200, measure).at(QPointF(100, 5_000)))

    def test_left_above_right(self) -> None:
        layout = lay_out(part_stretch(part(A)), 1200, measure)
        stretch = part_stretch(part(A))
        for placed in layout.placed:
            middle = (layout.lane(placed.row, "left") + layout.lane(placed.row, "right")) / 2
            above = placed.box.center().y() < middle
            self.assertEqual(above, stretch.sounds[placed.index].foot == "left")

    def test_soles_of_one_foot_never_touch(self) -> None:
        for body in ("1 paradiddle x8", "1 cramp roll x8", A, "1 shuffle hop step 3 shuffle hop step"):
            stretch = part_stretch(part(body))
            for width in (760, 1000, 1280):
                boxes = lay_out(stretch, width, measure).placed
                for one in boxes:
                    for two in boxes:
                        if one.index < two.index and one.row == two.row:
                            narrow = one.box.adjusted(0.6, 0, -0.6, 0)
                            self.assertFalse(narrow.intersects(two.box), (body, width, one.index, two.index))

    def test_words_never_overlap(self) -> None:
        stretch = part_stretch(part("1 paradiddle 3 shuffle ball change 5 flap & heel 6 step & step 7 step & step"))
        words = lay_out(stretch, 1000, measure).rows[0].words
        for one in words:
            for two in words:
                if one is not two and one.y == two.y:
                    self.assertFalse(one.x <= two.x < one.x + measure(one.text), (one.text, two.text))

    @cases((1.0, 1.0), (0.8, 1.0), (0.6, 1.0), (1.1, 2.0), (1.7, 1.0))
    def test_raised_words_keep_their_heads(self, scale: float, text: float) -> None:
        crowded = part_stretch(part("1 step  & stamp  2 stomp  & stamp  3 stomp  & step  4 stamp  & stomp"))
        layout = lay_out(crowded, 500, lambda word: 16.0 * text * len(word), scale=scale, text=text)
        raised = [(label, row.number) for row in layout.rows for label in row.words if label.strength]
        self.assertTrue(raised)
        for label, row in raised:
            self.assertGreaterEqual(label.y - ASCENT * text, layout.top_of(row))

    def test_the_thread_is_whole(self) -> None:
        """From the first sound to the end of the stretch, without a gap, in every row."""
        layout = lay_out(part_stretch(part(A)), 1200, measure)
        ends = [run.end for row in layout.rows for run in row.thread]
        starts = [run.start for row in layout.rows for run in row.thread]
        self.assertEqual(starts[1:], ends[:-1])
        self.assertEqual((starts[0], ends[-1]), (-1, 7))

    def test_pick_ups_have_room(self) -> None:
        layout = lay_out(
            part_stretch(part("&1 flap 2 step 3 step 4 step 5 step 6 step 7 step 8 step")), 1200, measure
        )
        self.assertEqual(layout.frame.lead, F(1, 2))
        self.assertGreater(layout.placed[0].box.left(), 40)

    def test_an_empty_part(self) -> None:
        from tests.support import piece

        layout = lay_out(part_stretch(piece("").parts[0]), 1200, measure)
        self.assertEqual([c.text for c in layout.rows[0].counts], list("12345678"))

    def test_soles_are_mirrored(self) -> None:
        left, right = sole_path(True).boundingRect(), sole_path(False).boundingRect()
        self.assertAlmostEqual(left.left(), WIDTH - right.right(), places=3)
        self.assertLessEqual(left.height(), HEIGHT + 0.5)


class JobsTest(unittest.TestCase):
    def setUp(self) -> None:
        application()
        self.jobs = JobRunner()
        self.addCleanup(self.jobs.close)

    def test_the_end_comes_back_to_the_windows_thread(self) -> None:
        threads = []

        def work(task) -> int:
            threads.append(threading.get_ident())
            return 5

        results = []
        self.jobs.run("a", "Work", work, lambda result: results.append((result, threading.get_ident())))
        self.assertTrue(comes(lambda: bool(results)))
        self.assertEqual(results, [(5, threading.get_ident())])
        self.assertNotEqual(threads, [threading.get_ident()])

    def test_a_newer_run_replaces_the_older(self) -> None:
        gate = threading.Event()
        results = []
        self.jobs.run("a", "Old", lambda task: gate.wait(2) and "old", results.append)
        self.jobs.run("a", "New", lambda task: "new", results.append)
        gate.set()
        wait(300)
        self.assertEqual(results, ["new"])

    def test_what_takes_long_is_shown_and_can_be_stopped(self) -> None:
        shown, stopped = [], []
        self.jobs.busy.connect(lambda label, share: shown.append((label, share)))

        def work(task) -> None:
            try:
                while True:
                    threading.Event().wait(0.01)
                    task.step(0.4)
            finally:
                stopped.append(True)

        self.jobs.run("a", "Long", work, lambda result: None)
        self.assertTrue(comes(lambda: ("Long", 0.4) in shown))
        self.jobs.cancel_all()
        self.assertTrue(comes(lambda: bool(stopped)))
        self.assertFalse(self.jobs.working)

    def test_what_is_quick_is_not_shown(self) -> None:
        shown = []
        self.jobs.busy.connect(lambda *_: shown.append(1))
        self.jobs.run("a", "Quick", lambda task: None, lambda result: None)
        wait(400)
        self.assertEqual(shown, [])

    def test_faults_are_said(self) -> None:
        said = []
        self.jobs.failed.connect(said.append)

        def work(task) -> None:
            raise FirnError("No.")

        self.jobs.run("a", "Work", work, lambda result: None)
        self.assertTrue(comes(lambda: said == ["No."]))


class ReelTest(unittest.TestCase):
    def test_first_then_turns(self) -> None:
        first, turn = np.full((5, 2), 1, np.float32), np.full((3, 2), 2, np.float32)
        reel = Reel(first, turn)
        self.assertEqual(reel.read(12)[:, 0].tolist(), [1] * 5 + [2] * 7)
        reel.swap(np.full((2, 2), 3, np.float32))
        self.assertEqual(reel.read(5)[:, 0].tolist(), [2, 2, 3, 3, 3])
        reel.swap(None)
        self.assertEqual(reel.read(4)[:, 0].tolist(), [3, 0, 0, 0])
        self.assertTrue(reel.where(0)[2])

    def test_what_comes_when_all_is_over_is_played_at_once(self) -> None:
        reel = Reel(np.ones((2, 2), np.float32), None)
        reel.read(4)
        self.assertTrue(reel.where(0)[2])
        reel.swap(np.full((2, 2), 3, np.float32))
        self.assertEqual((reel.where(0)[0], reel.where(0)[2]), (1, False))
        reel.swap(None)
        self.assertEqual(reel.read(4)[:, 0].tolist(), [3, 3, 0, 0])
        self.assertTrue(reel.where(0)[2])

    def test_an_empty_turn_ends(self) -> None:
        reel = Reel(np.ones((2, 2), np.float32), np.zeros((0, 2), np.float32))
        self.assertEqual(reel.read(4)[:, 0].tolist(), [1, 1, 0, 0])

    def test_a_take_is_played_to_its_end(self) -> None:
        application()
        player = Player(ClockOutput())
        ended = []
        player.ended.connect(lambda: ended.append(True))
        player.play_samples(np.zeros((4_800, 2), np.float32))
        self.assertTrue(player.playing)
        self.assertTrue(comes(lambda: bool(ended)))
        self.assertFalse(player.playing)


class QtTest(unittest.TestCase):
    def test_void_calls_keep_the_count_of_none(self) -> None:
        """A PySide6 that loses a reference to None at each void call ends the process after some thousands."""
        application()
        parent = QObject()
        timer = QTimer(parent)
        before = sys.getrefcount(None)
        for _ in range(10_000):
            timer.setInterval(5)
        self.assertLess(abs(sys.getrefcount(None) - before), 1_000)


if __name__ == "__main__":
    unittest.main()
