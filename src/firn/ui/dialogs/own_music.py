"""Music of her own to a piece: its counts a minute, where its count 1 is, and a way to hear whether they are."""

from collections.abc import Callable

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QLineEdit, QPushButton, QWidget

from firn.errors import FirnError
from firn.session.music import Counted, Heard, beat_beside, doubt_of, line_for, times_as_fast
from firn.ui.dialogs.form import FormDialog, beside
from firn.ui.widgets.labels import Label


class OwnMusicDialog(FormDialog):
    """Asks how music is counted. `counted` holds it once accepted, None where it is to be taken away. `hear`: it is
    wanted with its counts, as it stands."""

    hear = Signal(object)

    def __init__(self, heard: Heard, now: Counted, *, kept: bool, parent: QWidget | None = None) -> None:
        super().__init__("Music of your own", parent, width=580)
        self._heard = heard
        self.counted: Counted | None = None
        minutes, seconds = divmod(round(heard.seconds), 60)
        found = f"{heard.bpm:.1f} beats a minute" if heard.beats_s else "no beat"
        self.about = Label(f"{heard.path.name}, {minutes}:{seconds:02}: {found}.")
        self.about.setWordWrap(True)
        self.tempo, self.first = QLineEdit(), QLineEdit()
        self._show(now)
        self.half, self.twice = QPushButton("Half as &fast"), QPushButton("T&wice as fast")
        self.earlier, self.later = QPushButton("A beat &earlier"), QPushButton("A beat &later")
        self.listen = QPushButton("&Hear it with its counts")
        self.away = QPushButton("Take the music awa&y")
        self.away.setVisible(kept)
        for button in (self.half, self.twice, self.earlier, self.later, self.listen, self.away):
            button.setAutoDefault(False)
        self.half.clicked.connect(lambda: self._become(lambda how: times_as_fast(how, 0.5)))
        self.twice.clicked.connect(lambda: self._become(lambda how: times_as_fast(how, 2)))
        self.earlier.clicked.connect(lambda: self._become(lambda how: beat_beside(heard, how, -1)))
        self.later.clicked.connect(lambda: self._become(lambda how: beat_beside(heard, how, 1)))
        self.listen.clicked.connect(self._hear)
        self.away.clicked.connect(super().accept)
        self.lay_out(
            [
                ("", self.about),
                ("&Counts a minute", beside(self.tempo, self.half, self.twice)),
                ("Count &1 at, seconds", beside(self.first, self.earlier, self.later)),
                ("", beside(self.listen, self.away)),
            ],
            doubt_of(heard),
            "It plays where music is heard (V), at its tempo or slower; faster than it is, the plain backing does.",
        )
        self.tempo.setFocus()

    def _show(self, how: Counted) -> None:
        self.tempo.setText(f"{how.tempo:g}")
        self.first.setText(f"{how.first_s:.2f}")

    def _typed(self) -> Counted | None:
        """How it is counted as it stands; what is wrong is said."""
        try:
            tempo, first = (float(field.text().replace(",", ".")) for field in (self.tempo, self.first))
        except ValueError:
            self.wrong.setText("Counts a minute and seconds are written in numbers.")
            return None
        how = Counted(tempo, first)
        try:
            line_for(self._heard, how)
        except FirnError as fault:
            self.wrong.setText(str(fault))
            return None
        self.wrong.setText("")
        return how

    def _become(self, change: Callable[[Counted], Counted]) -> None:
        how = self._typed()
        if how is not None:
            self._show(change(how))
            self._hear()

    def _hear(self) -> None:
        how = self._typed()
        if how is not None:
            self.hear.emit(how)

    def accept(self) -> None:
        """Read the fields; say what is wrong and stay, or close."""
        self.counted = self._typed()
        if self.counted is not None:
            super().accept()
