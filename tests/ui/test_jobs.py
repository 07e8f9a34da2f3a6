"""Long work beside the window: keys go first."""

import threading
import time
import unittest

from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from firn.core.task import Task, give_way
from firn.errors import Cancelled
from firn.ui import hurry
from tests.support import comes
from tests.ui.window import WindowCase


class KeysFirstTest(WindowCase):
    def beside(self, work) -> list[float]:
        """When `work` was done, by the clock."""
        ended: list[float] = []

        def timed(task: Task) -> float:
            work(task)
            return time.monotonic()

        self.window.jobs.run("test", "Testing", timed, ended.append)
        return ended

    def test_work_waits_at_its_next_step_until_a_key_is_done_and_drawn(self) -> None:
        for work in (lambda task: task.step(0.5), lambda task: give_way()):
            QTest.keyClick(self.editor, "x")
            until = hurry._Key.until_s
            ended = self.beside(work)
            self.assertTrue(comes(lambda ended=ended: ended))
            self.assertGreaterEqual(ended[0], min(until, hurry._Key.until_s))
            self.assertGreater(hurry._Key.until_s, 0)

    def test_a_key_of_the_strip_goes_first_too(self) -> None:
        hurry._Key.until_s = 0.0
        QTest.keyClick(self.window.write_page.strip, "x")
        self.assertGreater(hurry._Key.until_s, time.monotonic() - 10)

    def test_a_key_that_is_done_keeps_work_waiting_no_longer_than_it_is_drawn(self) -> None:
        hurry.at_a_key()
        self.assertGreater(hurry._Key.until_s - time.monotonic(), hurry.DRAWN_S)
        QApplication.processEvents()
        self.assertLessEqual(hurry._Key.until_s - time.monotonic(), hurry.DRAWN_S)

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

    def test_the_windows_own_thread_never_waits(self) -> None:
        hurry._Key.until_s = time.monotonic() + 3600
        try:
            give_way()
            beside = threading.Thread(target=give_way, daemon=True)
            beside.start()
            self.assertTrue(beside.is_alive())
        finally:
            hurry._Key.until_s = 0.0
        beside.join(10)
        self.assertFalse(beside.is_alive())


if __name__ == "__main__":
    unittest.main()
