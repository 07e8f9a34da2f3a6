"""Long work off the window's thread, watched and cancelled from it."""

import threading
import traceback
from collections.abc import Callable
from typing import Any

from PySide6.QtCore import QObject, QRunnable, QThreadPool, QTimer, Signal

from firn.core.task import Task
from firn.errors import Cancelled, FirnError

SHOW_AFTER_MS = 300


class _Signals(QObject):
    step = Signal(float)
    done = Signal(object)
    failed = Signal(object)


class _Job(QRunnable):
    def __init__(self, work: Callable[[Task], Any], stop: threading.Event) -> None:
        super().__init__()
        self.signals = _Signals()
        self._work, self._stop = work, stop
        self.setAutoDelete(False)

    def run(self) -> None:
        task = Task(self.signals.step.emit, self._stop.is_set)
        try:
            result = self._work(task)
        except Exception as fault:
            self.signals.failed.emit(fault)
        else:
            self.signals.done.emit(result)


class JobRunner(QObject):
    """Runs one job a key at a time; a newer run replaces the older, whose result is dropped.

    `busy` says what goes on once it has taken 0.3 s (share done, 0 to 1), `idle` that nothing does any more.
    """

    busy = Signal(str, float)
    idle = Signal()
    failed = Signal(str)

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._pool = QThreadPool(self)
        self._pool.setMaxThreadCount(2)
        self._running: dict[str, tuple[_Job, threading.Event, str]] = {}

    def run(self, key: str, label: str, work: Callable[[Task], Any], done: Callable[[Any], None]) -> None:
        """Start `work`; `done` is called with its result in this thread."""
        self.cancel(key)
        stop = threading.Event()
        job = _Job(work, stop)
        self._running[key] = (job, stop, label)
        progress = [0.0]

        def current() -> bool:
            return key in self._running and self._running[key][0] is job

        def step(share: float) -> None:
            progress[0] = share
            if current() and not timer.isActive():
                self.busy.emit(label, share)

        def end() -> bool:
            timer.stop()
            if not current():
                return False
            del self._running[key]
            if not self._running:
                self.idle.emit()
            return True

        def finished(result: Any) -> None:
            if end():
                done(result)

        def broke(fault: Exception) -> None:
            if end() and not isinstance(fault, Cancelled):
                if not isinstance(fault, FirnError):
                    traceback.print_exception(fault)
                self.failed.emit(str(fault) if isinstance(fault, FirnError) else f"Firn made a mistake: {fault}.")

        timer = QTimer(self)
        timer.setSingleShot(True)
        timer.timeout.connect(lambda: current() and self.busy.emit(label, progress[0]))
        timer.start(SHOW_AFTER_MS)
        job.signals.step.connect(step)
        job.signals.done.connect(finished)
        job.signals.failed.connect(broke)
        self._pool.start(job)

    def cancel(self, key: str) -> None:
        """Stop a job; its result is dropped."""
        running = self._running.pop(key, None)
        if running is not None:
            running[1].set()
            if not self._running:
                self.idle.emit()

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
