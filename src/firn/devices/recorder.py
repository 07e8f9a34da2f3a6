"""Recording while a reel plays."""

import threading

import numpy as np

from firn.core.sound.voices import FloatArray
from firn.devices import clock
from firn.devices.clock import RATE
from firn.devices.duplex import Duplex
from firn.devices.reel import Reel

GONE_S = 1.0
"""A device that has not called for so long has gone away."""

MOST_S = 900.0


class Recorder:
    """Plays a reel and keeps what is heard meanwhile: frame 0 of both is the same moment at the device."""

    def __init__(self, duplex: Duplex, reel: Reel) -> None:
        self.duplex, self.reel = duplex, reel
        self._lock = threading.Lock()
        self._chunks: list[FloatArray] = []
        self._frames = 0
        self._called = clock.now()

    def start(self) -> None:
        """Begin; raises DeviceError if the device does not answer."""
        self._called = clock.now()
        self.duplex.start(self._block)

    def _block(self, captured: FloatArray) -> FloatArray:
        with self._lock:
            if self._frames < MOST_S * RATE:
                self._chunks.append(captured)
                self._frames += len(captured)
            self._called = clock.now()
        return self.reel.read(len(captured))

    @property
    def seconds(self) -> float:
        """How much has been recorded."""
        return self._frames / RATE

    @property
    def gone(self) -> bool:
        """Whether the device has gone away."""
        with self._lock:
            return clock.now() - self._called > GONE_S

    @property
    def level(self) -> float:
        """The peak of what was heard last, 0 to 1."""
        with self._lock:
            return float(max((np.abs(c).max() for c in self._chunks[-6:] if len(c)), default=0.0))

    def stop(self) -> FloatArray:
        """End; gives all that was recorded, shape (n,)."""
        self.duplex.stop()
        with self._lock:
            return np.concatenate(self._chunks) if self._chunks else np.zeros(0, dtype=np.float32)
