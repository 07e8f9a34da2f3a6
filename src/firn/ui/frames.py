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
    """Decodes pictures on a thread of its own. `shown`: (image, its time in seconds, the number of what was wanted,
    whether it is the picture itself, or one of a small copy that stands in until that is found);
    `failed`: why there is none. `wanted` counts what was wanted; `told` is the last of it that was answered."""

    shown = Signal(object, float, int, bool)
    failed = Signal(str)

    def __init__(self, pictures: "MediaPictures", parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._pictures = pictures
        self._copy: MediaPictures | None = None
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

    def use(self, copy: "MediaPictures") -> None:
        """Show pictures of a small copy of the film first, which are found at once."""
        with self._change:
            self._copy = copy

    def close(self) -> None:
        """Stop, and let go of the film."""
        with self._change:
            self._over = True
            self._change.notify()
        self._thread.join(2.0)
        if not self._thread.is_alive():
            self._pictures.close()
            if self._copy is not None:
                self._copy.close()

    def _run(self) -> None:
        while True:
            with self._change:
                while self._want is None and not self._over:
                    self._change.wait()
                if self._over or self._want is None:
                    return
                (time_s, steps, number), self._want = self._want, None
                copy = self._copy
            try:
                if copy is not None and self._show(copy, time_s, steps, number, itself=False):
                    # Something else is wanted by now: the picture itself would come too late.
                    continue
                self._show(self._pictures, time_s, steps, number, itself=True)
            except FirnError as fault:
                self._tell(self.failed, str(fault))
            self.told = number

    def _show(self, pictures: "MediaPictures", time_s: float, steps: int, number: int, *, itself: bool) -> bool:
        """Show the picture that is wanted; whether something else is by now."""
        picture = pictures.at(time_s)
        for _ in range(abs(steps)):
            picture = pictures.after(picture) if steps > 0 else pictures.before(picture)
        self._tell(self.shown, _image(picture), picture.time_s, number, itself)
        with self._change:
            return self._want is not None

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
