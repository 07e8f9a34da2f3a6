"""A reel: samples that a device reads at its own pace while the window watches."""

import threading
from typing import TYPE_CHECKING

from firn.devices import clock
from firn.devices.clock import RATE

if TYPE_CHECKING:
    # Imported when something is first played, not when Firn starts.
    from firn.core.sound.voices import FloatArray


class Reel:
    """Samples to be played: `first` once, then `turn` again and again if there is one; shapes (n, 2).

    `swap` puts another turn in at the next pass. Read by the device's thread, watched by the window's.
    """

    def __init__(self, first: "FloatArray", turn: "FloatArray | None") -> None:
        self._lock = threading.Lock()
        self._now, self._turn = first, turn
        self._at = 0
        self._pass = 0
        self._read_at = clock.now()
        self._over = False

    def swap(self, turn: "FloatArray | None") -> None:
        """Play this from the next pass on, or at once where all is over; None stops after this one."""
        with self._lock:
            self._turn = turn
            if self._over and turn is not None and len(turn):
                self._now, self._at, self._over = turn, 0, False
                self._pass += 1

    def read(self, frames: int) -> "FloatArray":
        """The next frames, shape (frames, 2); silence after the end."""
        import numpy as np

        out = np.zeros((frames, 2), dtype=np.float32)
        filled = 0
        with self._lock:
            while filled < frames and not self._over:
                size = min(frames - filled, len(self._now) - self._at)
                out[filled : filled + size] = self._now[self._at : self._at + size]
                filled += size
                self._at += size
                if self._at >= len(self._now):
                    if self._turn is None or not len(self._turn):
                        self._over = True
                    else:
                        self._now, self._at = self._turn, 0
                        self._pass += 1
            self._read_at = clock.now()
        return out

    def where(self, latency_s: float) -> tuple[int, int, bool]:
        """Which pass is heard now, the frame in it, and whether all is over."""
        with self._lock:
            since = clock.now() - self._read_at
            frame = self._at + round((min(since, 0.1) - latency_s) * RATE)
            return self._pass, frame, self._over

    @property
    def unread_s(self) -> float:
        """Seconds since a device last read: a device that has gone away reads no more."""
        with self._lock:
            return clock.now() - self._read_at
