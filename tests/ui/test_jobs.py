"""Long work beside the window: keys go first."""

import importlib.util
import threading
import unittest
from unittest import mock

from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from firn.core.task import Task, give_way
from firn.errors import Cancelled
from firn.ui import hurry
from tests.support import cases, comes
from tests.ui.window import WindowCase


class KeysFirstTest(WindowCase):
    """By a clock that the test moves on."""

    def setUp(self) -> None:
        super().setUp()
        self.at_s = 100.0
        self.asked = threading.Semaphore(0)

        def now() -> float:
            if threading.current_thread() is not threading.main_thread():
                self.asked.release()
            return self.at_s

        clock = mock.patch.object(hurry, "_now", now)
        clock.start()
        self.addCleanup(clock.stop)
        self.addCleanup(setattr, hurry._Key, "until_s", 0.0)

    @cases(
        ("at a step", lambda task: task.step(0.5)),
        ("in an inner loop", lambda task: give_way()),
        ("before a module is imported", lambda task: importlib.util.find_spec("none_so_named")),
    )
    def test_work_waits_until_a_key_is_done_and_drawn(self, _: str, work) -> None:
        for key in (self.editor, self.window.write_page.strip):
            self.at_s += 10
            QTest.keyClick(key, "x")
            QApplication.processEvents()
            ended: list[str] = []
            while self.asked.acquire(blocking=False):
                pass
            self.window.jobs.run("test", "Testing", lambda task: work(task) or "done", ended.append)
            # It asks what time it is, and again, and goes on waiting.
            for _ in range(4):
                self.assertTrue(self.asked.acquire(timeout=10))
            QApplication.processEvents()
            self.assertEqual(ended, [])
            self.at_s += hurry.DRAWN_S
            self.assertTrue(comes(lambda ended=ended: ended == ["done"]))

    def test_a_key_that_is_never_done_keeps_it_waiting_so_long_and_no_longer(self) -> None:
        hurry.at_a_key()
        self.assertEqual(hurry._Key.until_s, self.at_s + hurry.MOST_S)
        QApplication.processEvents()
        self.assertEqual(hurry._Key.until_s, self.at_s + hurry.DRAWN_S)
        self.at_s += 3.0
        self.assertAlmostEqual(hurry.quiet_s(), 3.0 - hurry.DRAWN_S)

    def test_the_windows_own_thread_never_waits(self) -> None:
        hurry.at_a_key()
        give_way()
        self.assertGreater(hurry._Key.until_s, self.at_s)


class EndedTest(WindowCase):
    def test_work_ends_where_it_gives_way_once_something_newer_is_asked_for(self) -> None:
        ended, came = threading.Event(), []

        def old(task: Task) -> None:
            try:
                while True:
                    give_way()
            except Cancelled:
                ended.set()
                raise

        self.window.jobs.run("test", "Testing", old, came.append)
        self.window.jobs.run("test", "Testing", lambda task: "new", came.append)
        self.assertTrue(comes(lambda: came == ["new"] and ended.is_set()))

    def test_what_it_imports_is_never_broken_off(self) -> None:
        imported: list[object] = []

        def old() -> None:
            hurry.stops_here(lambda: True)
            imported.append(importlib.util.find_spec("none_so_named"))
            with self.assertRaises(Cancelled):
                give_way()
            imported.append("ended")

        job = threading.Thread(target=old)
        job.start()
        job.join()
        self.assertEqual(imported, [None, "ended"])


if __name__ == "__main__":
    unittest.main()
