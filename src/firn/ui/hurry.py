"""Keys go first: while one is handled, long work on another thread waits at the next place where it gives way.

Python runs one thread at a time, and beside many short calls of NumPy, each of which lets go for less than another
thread needs to wake, the window's thread comes too late again and again.
"""

import threading
import time

from PySide6.QtCore import QTimer

from firn.core.task import give_way_by

MOST_S = 0.15
"""How long a key may keep long work waiting."""

DRAWN_S = 0.025
"""How long what a key has changed takes to be drawn, once its own work is done."""

BREATH_S, EVERY_S = 0.0001, 0.002
"""How long work that goes on lets go of Python, for another thread to wake, and how often."""


class _Key:
    until_s = 0.0


class _Breath(threading.local):
    at_s = 0.0


_breath = _Breath()


def at_a_key() -> None:
    """A key has come to the window's thread: what is long waits until it is done and drawn, 150 ms at most."""
    _Key.until_s = time.monotonic() + MOST_S
    QTimer.singleShot(0, _done)


def _done() -> None:
    _Key.until_s = min(_Key.until_s, time.monotonic() + DRAWN_S)


def _wait() -> None:
    if threading.current_thread() is threading.main_thread():
        return
    now = time.monotonic()
    while now < _Key.until_s:
        time.sleep(min(_Key.until_s - now, 0.005))
        now = _breath.at_s = time.monotonic()
    if now - _breath.at_s > EVERY_S:
        time.sleep(BREATH_S)
        _breath.at_s = time.monotonic()


def quiet_s() -> float:
    """For how long no key has come, about."""
    return time.monotonic() - _Key.until_s


def keys_go_first() -> None:
    """Have long work give way to keys."""
    give_way_by(_wait)
