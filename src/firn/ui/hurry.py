"""Keys go first: while one is handled, long work on another thread waits at the next place where it gives way.

Python runs one thread at a time, and beside many short calls of NumPy, each of which lets go for less than another
thread needs to wake, the window's thread comes too late again and again.
"""

import sys
import threading
import time
from collections.abc import Callable, Sequence
from importlib import import_module
from importlib.abc import MetaPathFinder
from types import FrameType, ModuleType

from PySide6.QtCore import QTimer

from firn.core.task import give_way_by
from firn.errors import Cancelled

MOST_S = 0.15
"""How long a key may keep long work waiting."""

DRAWN_S = 0.025
"""How long what a key has changed takes to be drawn, once its own work is done."""

BREATH_S, EVERY_S = 0.0001, 0.002
"""How long work that goes on lets go of Python, for another thread to wake, and how often."""


_now = time.monotonic
_WINDOWS = threading.main_thread().ident
"""The clock, in seconds; and the window's thread, which waits for nobody."""


class _Key:
    until_s = 0.0


class _Here(threading.local):
    """Of a thread: when it last let go of Python, and whether what it works on is no longer wanted."""

    breath_s = 0.0
    stopped: Callable[[], bool] = staticmethod(lambda: False)


_here = _Here()


def at_a_key() -> None:
    """A key has come to the window's thread: what is long waits until it is done and drawn, 150 ms at most."""
    _Key.until_s = _now() + MOST_S
    QTimer.singleShot(0, _done)


def _done() -> None:
    _Key.until_s = min(_Key.until_s, _now() + DRAWN_S)


def _let_go() -> None:
    now = _now()
    while now < _Key.until_s:
        time.sleep(min(_Key.until_s - now, 0.005))
        now = _here.breath_s = _now()
    if now - _here.breath_s > EVERY_S:
        time.sleep(BREATH_S)
        _here.breath_s = _now()


def _wait() -> None:
    if threading.get_ident() == _WINDOWS:
        return
    _let_go()
    if _here.stopped():
        raise Cancelled()


class _BetweenImports(MetaPathFinder):
    """Finds no module, but lets keys go before the next one: the first job that needs them imports hundreds."""

    def find_spec(self, name: str, path: Sequence[str] | None, target: ModuleType | None = None) -> None:
        """Wait where a key is handled; never cancelled, since a library that is half imported cannot be again."""
        if threading.get_ident() != _WINDOWS:
            _let_go()


def import_between_keys(name: str) -> None:
    """Import a library for later use, from a job: keys go before each call in it, since some modules of a large one
    take as long by themselves as five keys. That makes it half as long again, so it is for what nobody waits for."""
    if sys.gettrace() is not None:
        # Somebody looks on, at tests or for a fault.
        import_module(name)
        return
    sys.settrace(_at_a_call)
    try:
        import_module(name)
    finally:
        sys.settrace(None)


def _at_a_call(frame: FrameType, event: str, arg: object) -> None:
    _let_go()


def stops_here(stopped: Callable[[], bool]) -> None:
    """What is worked on in this thread from now on ends once it is no longer wanted."""
    _here.stopped = stopped


def quiet_s() -> float:
    """For how long no key has come, about."""
    return _now() - _Key.until_s


def keys_go_first() -> None:
    """Have long work give way to keys."""
    give_way_by(_wait)
    if not any(isinstance(finder, _BetweenImports) for finder in sys.meta_path):
        sys.meta_path.insert(0, _BetweenImports())
