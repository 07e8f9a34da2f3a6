"""A clock that calls at an even pace: what stands in for a sound device where there is none."""

import threading
import time
from collections.abc import Callable

RATE = 48_000
"""Every device is opened at this rate, in Hz."""
BLOCK_S = 0.010


def now() -> float:
    """The time in seconds, from some beginning: what reels, recorders and clocks go by."""
    return time.perf_counter()


def waited(stop: threading.Event, seconds: float) -> bool:
    """Wait so long, or until it is to stop; gives whether it is."""
    return stop.wait(seconds)


class Clock:
    """Calls `block` with the number of frames that are due, some 100 times a second, from a thread of its own."""

    def __init__(self) -> None:
        self._stop = threading.Event()
        self._thread: threading.Thread | None = None

    def start(self, block: Callable[[int], object]) -> None:
        """Begin; a clock that runs is stopped first."""
        self.stop()
        self._stop = threading.Event()
        self._thread = threading.Thread(target=self._run, args=(block, self._stop), daemon=True, name="firn-clock")
        self._thread.start()

    @staticmethod
    def _run(block: Callable[[int], object], stop: threading.Event) -> None:
        last = now()
        while not waited(stop, BLOCK_S):
            frames = int((now() - last) * RATE)
            last += frames / RATE
            block(frames)

    def stop(self) -> None:
        """End; waits for the call that is under way."""
        self._stop.set()
        if self._thread is not None and self._thread is not threading.current_thread():
            self._thread.join()
        self._thread = None
