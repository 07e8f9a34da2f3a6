"""The application as a process: displays that do not answer, Ctrl+C, screens of any size."""

import os
import signal
import socket
import subprocess
import sys
import unittest
from unittest import mock

from PySide6.QtCore import QPoint, QRect, QSize
from PySide6.QtWidgets import QApplication

from firn.core.pattern import compile_one
from firn.ui import start
from firn.ui.display import display_fault
from firn.ui.start import FRAME, fit, make_ahead
from tests.servers import screen
from tests.support import PATIENCE_S, FolderCase, cases, comes
from tests.ui.window import WindowCase


class AheadTest(WindowCase):
    def test_what_is_not_yet_needed_is_made_while_nothing_is_done(self) -> None:
        self.assertFalse(self.window.rooms.made("read"))
        timer = make_ahead(self.window)
        timer.setInterval(0)
        with mock.patch.object(start, "_AHEAD_MS", 0), mock.patch.object(start, "quiet_s", lambda: 5.0):
            self.assertTrue(comes(lambda: not timer.isActive()))
        for name in ("read", "drill", "listen", "log", "steps", "_handlers"):
            self.assertTrue(self.window.rooms.made(name), name)
        self.assertFalse(compile_one())
        self.assertEqual(self.window.pages.currentIndex(), 0)

    def test_not_while_she_types(self) -> None:
        timer = make_ahead(self.window)
        timer.setInterval(0)
        with mock.patch.object(start, "quiet_s", lambda: 0.5):
            for _ in range(20):
                QApplication.processEvents()
        self.assertFalse(self.window.rooms.made("read"))
        timer.stop()


class DisplayTest(FolderCase):
    def test_none(self) -> None:
        self.assertRegex(display_fault({}), "^no display was found. The commands .* need none.$")

    def test_offscreen_needs_none(self) -> None:
        self.assertEqual(display_fault({"QT_QPA_PLATFORM": "offscreen:configfile=x"}), "")

    def test_one_that_is_not_there(self) -> None:
        self.assertRegex(display_fault({"DISPLAY": ":97"}), "^the display :97 does not answer.")
        env = {"WAYLAND_DISPLAY": "wayland-7", "XDG_RUNTIME_DIR": str(self.folder)}
        self.assertRegex(display_fault(env), "^the display wayland-7 does not answer.")

    def test_one_that_takes_calls_and_never_answers(self) -> None:
        with socket.socket() as deaf:
            deaf.bind(("127.0.0.1", 0))
            deaf.listen()
            port = deaf.getsockname()[1] - 6000
            said = display_fault({"DISPLAY": f"127.0.0.1:{port}"}, answer_s=0.3)
            self.assertRegex(said, "does not answer")

    def test_one_that_answers(self) -> None:
        with socket.socket(socket.AF_UNIX) as wayland:
            wayland.bind(str(self.folder / "wayland-0"))
            wayland.listen()
            env = {"WAYLAND_DISPLAY": "wayland-0", "XDG_RUNTIME_DIR": str(self.folder)}
            self.assertEqual(display_fault(env), "")


class ProcessTest(FolderCase):
    def env(self, **more: str) -> dict[str, str]:
        kept = {k: v for k, v in os.environ.items() if k not in ("DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM")}
        home = {
            "HOME": str(self.folder),
            "FIRN_SETTINGS": str(self.folder / "settings.json"),
            "TMPDIR": str(self.folder),
        }
        return {**kept, **home, **more}

    def started(self, *words: str, **env: str) -> subprocess.Popen:
        """The application, once its window is there."""
        script = (
            "import sys; from PySide6.QtCore import QTimer; from firn.ui import start; made = start.MainWindow.show\n"
            "def show(window):\n    made(window); QTimer.singleShot(0, lambda: print('shown', flush=True))\n"
            "start.MainWindow.show = show\nfrom firn.cli import main; sys.exit(main(sys.argv[1:]))"
        )
        done = subprocess.Popen(
            [sys.executable, "-c", script, *words],
            env=self.env(**env),
            stdout=subprocess.PIPE,
            stderr=subprocess.PIPE,
            text=True,
        )
        self.addCleanup(done.communicate)
        self.addCleanup(done.kill)
        assert done.stdout is not None
        self.assertEqual(done.stdout.readline(), "shown\n")
        return done

    @cases(("Ctrl+C", signal.SIGINT), ("the end of the session", signal.SIGTERM))
    def test_closes_at(self, _: str, number: signal.Signals) -> None:
        done = self.started("--demo", QT_QPA_PLATFORM="offscreen")
        self.assertEqual(len(list(self.folder.glob("firn-demo-*"))), 1)
        done.send_signal(number)
        _, said = done.communicate(timeout=PATIENCE_S)
        self.assertEqual((done.returncode, "Traceback" in said), (0, False), said)
        self.assertEqual(list(self.folder.glob("firn-demo-*")), [], "the demo has gone with its window")

    def test_fits_a_small_real_screen(self) -> None:
        """1366x768, without a window manager: all of the window is on the screen, down to Dance."""
        display = screen(self)
        self.assertEqual(display_fault({"DISPLAY": display}), "")
        script = (
            "import sys; from PySide6.QtCore import QTimer; from firn.ui import start; made = start.MainWindow.show\n"
            "def tell(window):\n"
            "    button = window.dance_button; low = button.mapToGlobal(button.rect().bottomLeft()).y()\n"
            "    print(window.width(), window.height(), low, flush=True); window.close()\n"
            "def show(window):\n    made(window); QTimer.singleShot(200, lambda: tell(window))\n"
            "start.MainWindow.show = show\nfrom firn.cli import main; sys.exit(main(['--demo']))"
        )
        done = subprocess.run(
            [sys.executable, "-c", script],
            env=self.env(DISPLAY=display, QT_QPA_PLATFORM="xcb"),
            capture_output=True,
            text=True,
        )
        width, height, low = map(int, done.stdout.split())
        self.assertLessEqual(width, 1366 - FRAME.width())
        self.assertLessEqual(height, 768 - FRAME.height())
        self.assertLess(low, 768)


class FitTest(WindowCase):
    @cases(
        ("a small notebook", (1366, 741)),
        ("smaller than what it needs", (980, 600)),
        ("a large one", (2560, 1400)),
    )
    def test_the_window_is_no_larger_than_the_screen(self, _: str, size: tuple[int, int]) -> None:
        self.window.setMinimumSize(1000, 620)
        self.window.resize(1280, 800)
        self.window.move(400, 300)
        room = QRect(QPoint(0, 27), QSize(*size))
        fit(self.window, room)
        frame = QRect(self.window.pos(), self.window.size() + FRAME)
        self.assertTrue(room.contains(frame), frame)
        self.assertEqual(self.window.size(), QSize(1280, 800).boundedTo(room.size() - FRAME))


if __name__ == "__main__":
    unittest.main()
