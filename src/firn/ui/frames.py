"""A film's pictures, decoded beside the window: what is wanted last is shown first."""

import threading
from typing import TYPE_CHECKING

import numpy as np
from PySide6.QtCore import QObject, Signal
from PySide6.QtGui import QImage

from firn.errors import FirnError

if TYPE_CHECKING:
    from firn.files.pictures import MediaPictures, Picture


class Frames(QObject):
    """Decodes pictures on a thread of its own. `shown`: (image, its time in seconds, the number of what was wanted);
    `failed`: why there is none. `wanted` counts what was wanted; `told` is the last of it that was answered."""

    shown = Signal(object, float, int)
    failed = Signal(str)

    def __init__(self, pictures: "MediaPictures", parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._pictures = pictures
        self._want: tuple[float, int, int] | None = None
        self.wanted = self.told = 0
        self._over = False
        self._change = threading.Condition()
        self._thread = threading.Thread(target=self._run, daemon=True)
        self._thread.start()

    def want(self, time_s: float, steps: int = 0) -> None:
        """Show the picture of a time, or so many pictures after (before, for less than 0) that; replaces what was
        wanted and is not begun."""
        with self._change:
            self.wanted += 1
            self._want = (time_s, steps, self.wanted)
            self._change.notify()

    def close(self) -> None:
        """Stop, and let go of the film."""
        with self._change:
            self._over = True
            self._change.notify()
        self._thread.join(2.0)
        if not self._thread.is_alive():
            self._pictures.close()

    def _run(self) -> None:
        while True:
            with self._change:
                while self._want is None and not self._over:
                    self._change.wait()
                if self._over or self._want is None:
                    return
                (time_s, steps, number), self._want = self._want, None
            try:
                picture = self._pictures.at(time_s)
                for _ in range(abs(steps)):
                    picture = self._pictures.after(picture) if steps > 0 else self._pictures.before(picture)
            except FirnError as fault:
                self._tell(self.failed, str(fault))
            else:
                self._tell(self.shown, _image(picture), picture.time_s, number)
            self.told = number

    def _tell(self, signal: object, *said: object) -> None:
        try:
            signal.emit(*said)  # type: ignore[attr-defined]
        except RuntimeError:
            # The window is gone.
            return


def _image(picture: "Picture") -> QImage:
    pixels = np.ascontiguousarray(picture.pixels)
    height, width, _ = pixels.shape
    return QImage(pixels.data, width, height, 3 * width, QImage.Format.Format_RGB888).copy()
