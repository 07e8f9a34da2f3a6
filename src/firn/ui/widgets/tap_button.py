"""A button that is tapped in time, and tells the tempo of its taps."""

import time
from collections.abc import Callable

from PySide6.QtCore import QEvent, Qt, Signal
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QPushButton, QWidget

from firn.core.meter.tempo import tapped_tempo

NEW_S = 2.5
"""After so long a silence another tempo is tapped."""


class TapButton(QPushButton):
    """Emits `tapped` with the counts a minute of its last taps, from the second on. A tap is when it goes down, by
    mouse, Space or Return."""

    tapped = Signal(float)

    def __init__(
        self, text: str, parent: QWidget | None = None, now: Callable[[], float] = time.perf_counter
    ) -> None:
        super().__init__(text, parent)
        self._now = now
        self._taps: list[float] = []
        self.setAutoDefault(False)
        self.pressed.connect(self._tap)

    def event(self, event: QEvent) -> bool:
        # Return would press the dialog's own button.
        returns = (Qt.Key.Key_Return, Qt.Key.Key_Enter)
        if event.type() == QEvent.Type.KeyPress and isinstance(event, QKeyEvent) and event.key() in returns:
            if not event.isAutoRepeat():
                self._tap()
            return True
        return super().event(event)

    def _tap(self) -> None:
        at = self._now()
        if self._taps and at - self._taps[-1] > NEW_S:
            self._taps = []
        self._taps.append(at)
        tempo = tapped_tempo(self._taps)
        if tempo is not None:
            self.tapped.emit(tempo)
