"""A take of a whole combo: judged, and in words: what to mend first, each pass in a line, and how the whole was."""

from collections.abc import Callable, Sequence
from typing import TYPE_CHECKING

from PySide6.QtCore import Signal
from PySide6.QtGui import QFont
from PySide6.QtWidgets import QListWidget, QVBoxLayout, QWidget

from firn.core.book.book import Take
from firn.core.task import Task
from firn.files.store import Store
from firn.session.stretch import Stretch
from firn.ui.pages.listen.heard import HeardTake
from firn.ui.theme.theme import Theme
from firn.ui.widgets.labels import Label

if TYPE_CHECKING:
    # Heavy: imported when a take of a combo is first listened to.
    from firn.core.ear.routine import Routine
    from firn.core.piece.unfold import Pass, Unfolded

BEFORE_S = 0.2
"""A pass is heard from so much before its first sound."""


class ComboTake:
    """A take of a combo that is listened to, laid over the combo as it then is."""

    def __init__(self, whole: "Unfolded") -> None:
        self._whole = whole

    def listening(self, store: Store, take: Take, on_ms: float) -> Callable[[Task], HeardTake]:
        """What listens to a take, beside the window."""

        def work(task: Task) -> HeardTake:
            from firn.session.takes import heard

            one = HeardTake(take, *heard(store, take, task.within(0, 0.5)))
            one.judge_combo(self._whole, on_ms=on_ms)
            return one

        return work

    def first_of(self, one: HeardTake, number: int, stretch: Stretch) -> int | None:
        """The first sound, on the strip of the combo, of what a pass that was danced stands for; None for none."""
        passes: Sequence[Pass] = self._whole.passes
        wanted = one.routine.passes[number].wanted if one.routine is not None else None
        due = next((p for p in passes if p is wanted), None)
        if due is None:
            return None
        begins = due.offset + due.part.first_count
        return next((i for i, s in enumerate(stretch.sounds) if s.place >= begins), None)

    @staticmethod
    def span(one: HeardTake, number: int) -> tuple[float, float]:
        """From where to where a pass lies in its take, in seconds."""
        assert one.routine is not None
        found = one.routine.passes[number].found
        return max(0.0, found.start_s - BEFORE_S), found.end_s


class RoutineView(QWidget):
    """Says what is to be mended first, and lists the passes. `picked`: a pass is stood on, by its number from 0; a
    pass is heard by `heard`."""

    picked = Signal(int)
    heard = Signal(int)

    def __init__(self, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._theme = theme
        self.first, self.whole = Label(), Label()
        self.passes = QListWidget()
        self.passes.setAccessibleName("Passes in the order in which they were danced")
        self.passes.currentRowChanged.connect(self._stand)
        self.passes.itemActivated.connect(lambda _: self.heard.emit(self.passes.currentRow()))
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.setSpacing(6)
        for label in (self.first, self.whole):
            label.setWordWrap(True)
        box.addWidget(self.first)
        box.addWidget(self.whole)
        box.addWidget(self.passes, 1)
        theme.changed.connect(self._restyle)
        self._restyle()

    def _restyle(self) -> None:
        self.first.setFont(self._theme.font(21, QFont.Weight.DemiBold))
        self.whole.setFont(self._theme.font(15))
        self.passes.setFont(self._theme.font(15))

    def _stand(self, row: int) -> None:
        if row >= 0:
            self.picked.emit(row)

    def show_routine(self, routine: "Routine | None") -> None:
        """Show a take of a combo; None clears it."""
        self.setVisible(routine is not None)
        if routine is None:
            self.passes.clear()
            return
        from firn.core.ear.routine import first_sentence
        from firn.session.listening import routine_passes, routine_summary

        self.first.setText(first_sentence(routine))
        doubt = "" if routine.fits else "In doubt: this hardly fits the combo. "
        self.whole.setText(f"{doubt}{routine_summary(routine)}  Enter on a pass: hear it.")
        blocked = self.passes.blockSignals(True)
        self.passes.clear()
        self.passes.addItems(routine_passes(routine))
        self.passes.blockSignals(blocked)
