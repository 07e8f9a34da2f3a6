"""Long work off the window's thread, watched and cancelled from it."""

import os
import sys
import threading
import traceback
from collections.abc import Callable
from typing import Any

from msgspec import Struct
from PySide6.QtCore import QObject, QRunnable, QThreadPool, QTimer, Signal

from firn.core.task import Task
from firn.errors import Cancelled, FirnError
from firn.ui.hurry import keys_go_first, stops_here

SHOW_AFTER_MS = 300
SWITCH_S = 0.0001
"""How long Python lets a job go on while the window's thread waits: a key asks for its turn some twenty times."""


class _Wire(QObject):
    """Carries word from a job's thread to the window's."""

    step = Signal(object, float)
    ended = Signal(object, object, object)


class _Job(QRunnable):
    def __init__(self, wire: _Wire, work: Callable[[Task], Any]) -> None:
        super().__init__()
        self.stop = threading.Event()
        self._wire, self._work = wire, work
        self.setAutoDelete(False)

    def run(self) -> None:
        stops_here(self.stop.is_set)
        task = Task(lambda share: self._wire.step.emit(self, share), self.stop.is_set)
        try:
            result = self._work(task)
        except Exception as fault:
            self._tell(None, fault)
        else:
            self._tell(result, None)

    def _tell(self, result: Any, fault: Exception | None) -> None:
        try:
            self._wire.ended.emit(self, result, fault)
        except RuntimeError:
            # The window is gone, and with it whoever wanted to know.
            return


class _Running(Struct):
    job: _Job
    label: str
    done: Callable[[Any], None]
    share: float = 0.0
    shown: bool = False


class JobRunner(QObject):
    """Runs one job a key at a time; a newer run replaces the older, whose result is dropped.

    `busy` says what goes on once it has taken 0.3 s (share done, 0 to 1), `idle` that nothing does any more.
    """

    busy = Signal(str, float)
    idle = Signal()
    failed = Signal(str)

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        sys.setswitchinterval(SWITCH_S)
        keys_go_first()
        # NumPy's matrix products, imported by the first job that needs them, would else keep every core: no sooner
        # done, and the window's thread has none.
        os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")
        self._pool = QThreadPool(self)
        self._pool.setMaxThreadCount(2)
        self._running: dict[str, _Running] = {}
        # Methods of an object of this thread: Qt queues what comes from another. A bare function would run there.
        self._wire = _Wire(self)
        self._wire.step.connect(self._step)
        self._wire.ended.connect(self._ended)
        self._late = QTimer(self)
        self._late.setSingleShot(True)
        self._late.setInterval(SHOW_AFTER_MS)
        self._late.timeout.connect(self._show_late)

    def run(
        self, key: str, label: str, work: Callable[[Task], Any], done: Callable[[Any], None]
    ) -> Callable[[], bool]:
        """Start `work` on another thread; `done` is called with its result in this one. Gives whether it still goes
        on, to be asked later."""
        self.cancel(key)
        job = _Job(self._wire, work)
        self._running[key] = _Running(job, label, done)
        self._late.start()
        self._pool.start(job)
        return lambda: self._find(job) is not None

    def _find(self, job: _Job) -> tuple[str, _Running] | None:
        return next(((key, one) for key, one in self._running.items() if one.job is job), None)

    def _step(self, job: _Job, share: float) -> None:
        found = self._find(job)
        if found is not None:
            found[1].share = share
            if found[1].shown:
                self.busy.emit(found[1].label, share)

    def _show_late(self) -> None:
        for one in self._running.values():
            one.shown = True
            self.busy.emit(one.label, one.share)

    def _ended(self, job: _Job, result: Any, fault: Exception | None) -> None:
        found = self._find(job)
        if found is None:
            return
        key, one = found
        self._forget(key)
        if fault is None:
            one.done(result)
        elif not isinstance(fault, Cancelled):
            if not isinstance(fault, FirnError):
                traceback.print_exception(fault)
            self.failed.emit(str(fault) if isinstance(fault, FirnError) else f"Firn made a mistake: {fault}.")

    def _forget(self, key: str) -> None:
        del self._running[key]
        if not self._running:
            self._late.stop()
            self.idle.emit()

    def cancel(self, key: str) -> None:
        """Stop a job; its result is dropped."""
        if key in self._running:
            self._running[key].job.stop.set()
            self._forget(key)

    def cancel_all(self) -> None:
        """Stop every job."""
        for key in list(self._running):
            self.cancel(key)

    @property
    def working(self) -> bool:
        return bool(self._running)

    def close(self) -> None:
        """Stop every job and wait for the threads."""
        self.cancel_all()
        self._pool.waitForDone(5_000)
