"""What many tests use: tables of cases, parts from a line of script, and a running window."""

import functools
import json
import tempfile
import threading
import time
import unittest
import unittest.mock
from collections.abc import Callable
from fractions import Fraction
from pathlib import Path
from typing import Any

from firn.core.piece.build import piece_from
from firn.core.piece.piece import Part, Piece
from firn.devices import clock

DATA = Path(__file__).parent / "data"
PATIENCE_S = 90.0
"""How long a test waits at most for what must come: a machine may be busy, and what comes soon is not waited for."""


def cases(*table: tuple) -> Callable:
    """Run a test for each row, as a subtest named by the row's first value."""

    def wrap(test: Callable) -> Callable:
        @functools.wraps(test)
        def run(self: unittest.TestCase) -> None:
            for row in table:
                with self.subTest(row[0]):
                    test(self, *row)

        return run

    return wrap


def oracle(name: str) -> Any:
    """Check values kept beside the tests."""
    return json.loads((DATA / f"{name}.json").read_text())


def piece(body: str, **head: str) -> Piece:
    """A piece of one part A with this body and these headings (lone_a for "lone a")."""
    lines = [f"{key.replace('_', ' ')}: {value}" for key, value in head.items()]
    return piece_from("\n".join([*lines, "part A", body]))


def part(body: str, **head: str) -> Part:
    """A part with this body; fails on any problem of the script."""
    read = piece(body, **head)
    if read.problems:
        raise AssertionError([p.message for p in read.problems])
    return read.parts[0]


def places(one: Part) -> list[str]:
    """The places of a part's sounds."""
    return [str(s.place) for s in one.sounds]


def feet(one: Part) -> str:
    """The feet of a part's sounds, a letter each: L, R, B or - for none."""
    return "".join((s.foot or "-")[0].upper() for s in one.sounds)


def weights(one: Part) -> str:
    """The weight after each sound: L, R, B or A."""
    return "".join(s.weight[0].upper() for s in one.sounds)


def codes(one: Piece) -> list[str]:
    """The codes of a piece's problems."""
    return [p.code for p in one.problems]


F = Fraction


class FolderCase(unittest.TestCase):
    """A test with a folder of its own."""

    def setUp(self) -> None:
        made = tempfile.TemporaryDirectory()
        self.addCleanup(made.cleanup)
        self.folder = Path(made.name)


class Pace:
    """The clock of devices that stand in for real ones: so many times as fast as the day's while a test waits for
    something, and never past what its window and the devices have seen. A machine that is held up, or a window that
    is `held` by what it has to work out, changes nothing of what is heard when."""

    MOST_S = 0.05
    """So much at most passes at once."""

    def __init__(self, times: float, held: Callable[[], bool]) -> None:
        self._times, self._held = times, held
        self._now, self._seen = 0.0, time.perf_counter()
        self._passes = threading.Condition()
        # Until when each device's thread waits; long ago where it is at work.
        self._waits: dict[threading.Thread, float] = {}

    def now(self) -> float:
        return self._now

    def waited(self, stop: threading.Event, seconds: float) -> bool:
        thread = threading.current_thread()
        with self._passes:
            self._waits[thread] = end = self._now + seconds
            self._passes.notify_all()
            while self._now < end and not stop.is_set():
                self._passes.wait(0.005)
            self._waits[thread] = -1.0
            if stop.is_set():
                del self._waits[thread]
        return stop.is_set()

    def go_on(self) -> None:
        """Let what has passed since this was last called be heard by the devices, if nothing holds it up."""
        seen, self._seen = self._seen, time.perf_counter()
        if not self._held():
            self.skip(min((self._seen - seen) * self._times, self.MOST_S))

    def skip(self, seconds: float) -> None:
        """Let so much pass at once."""
        with self._passes:
            self._now += seconds
            self._passes.notify_all()
            self._passes.wait_for(self._all_wait, timeout=1)

    def _all_wait(self) -> bool:
        return all(end > self._now or not thread.is_alive() for thread, end in self._waits.items())


_pace: Pace | None = None


def hurry(case: unittest.TestCase, times: float = 5, held: Callable[[], bool] = lambda: False) -> Pace:
    """Let the clocks of devices that stand in for real ones go so much faster, until the test is over."""
    global _pace
    _pace = pace = Pace(times, held)
    for name in ("now", "waited"):
        patched = unittest.mock.patch.object(clock, name, getattr(pace, name))
        patched.start()
        case.addCleanup(patched.stop)
    case.addCleanup(_at_its_own)
    return pace


def _at_its_own() -> None:
    global _pace
    _pace = None


def time_passes() -> None:
    """What waits for something calls this again and again: see `Pace`."""
    if _pace is not None:
        _pace.go_on()


def wait(ms: int) -> None:
    """Let a window's events and jobs go on for so long.

    QTest.qWait would hold the interpreter, and jobs in other threads would stand still.
    """
    _let_go_on(ms / 1000, lambda: False)


def comes(until: Callable[[], object]) -> bool:
    """Let a window's events and jobs go on until something holds; False where it does not in all patience."""
    return _let_go_on(PATIENCE_S, until)


def _let_go_on(seconds: float, until: Callable[[], object]) -> bool:
    from PySide6.QtWidgets import QApplication

    end = time.monotonic() + seconds
    while time.monotonic() < end:
        QApplication.processEvents()
        if until():
            return True
        time_passes()
        time.sleep(0.002)
    return bool(until())


def luminance(colour: str) -> float:
    """Relative luminance of #rrggbb (WCAG 2.2)."""
    shares = []
    for at in (1, 3, 5):
        c = int(colour[at : at + 2], 16) / 255
        shares.append(c / 12.92 if c <= 0.04045 else ((c + 0.055) / 1.055) ** 2.4)
    return 0.2126 * shares[0] + 0.7152 * shares[1] + 0.0722 * shares[2]


def contrast(one: str, two: str) -> float:
    """Contrast ratio of two colours, 1 to 21 (WCAG 2.2)."""
    high, low = sorted((luminance(one), luminance(two)), reverse=True)
    return (high + 0.05) / (low + 0.05)
