"""A ladder of tempos: from where to where, by which steps, how often, and which rest."""

from PySide6.QtWidgets import QComboBox, QLineEdit, QWidget

from firn.core.drills.ladder import Ladder, LadderError, LadderSides, checked
from firn.core.meter.tempo import FASTEST, SLOWEST
from firn.ui.dialogs.form import FormDialog

RESTS = {"no rest": 0, "4 counts": 4, "8 counts": 8}


class LadderDialog(FormDialog):
    """Asks for a ladder; `ladder` holds it once accepted."""

    def __init__(self, tempo: float, parent: QWidget | None = None) -> None:
        super().__init__("A ladder of tempos", parent, width=0)
        self.ladder: Ladder | None = None
        self.start = QLineEdit(f"{max(SLOWEST, round(tempo * 0.8)):g}")
        self.end = QLineEdit(f"{min(FASTEST, tempo):g}")
        self.step = QLineEdit("4")
        self.times = QLineEdit("2")
        self.sides = QComboBox()
        self.sides.addItems(["both sides", "as written"])
        self.rest = QComboBox()
        self.rest.addItems(list(RESTS))
        self.rest.setCurrentText("4 counts")
        care = "Up only while it is clean on both sides, and down again freely. Stop before the form goes."
        self.lay_out(
            [
                ("&From, counts a minute", self.start),
                ("&To", self.end),
                ("&By", self.step),
                ("Ti&mes on each side", self.times),
                ("&Sides", self.sides),
                ("&Rest after each time", self.rest),
            ],
            care,
        )

    def accept(self) -> None:
        """Read the fields; say what is wrong and stay, or close."""
        try:
            start, end, step = (float(f.text().replace(",", ".")) for f in (self.start, self.end, self.step))
            times = int(self.times.text())
        except ValueError:
            self.wrong.setText("A ladder is written in numbers.")
            return
        sides: LadderSides = "both sides" if self.sides.currentIndex() == 0 else "as written"
        try:
            self.ladder = checked(Ladder(start, end, step, times, sides, RESTS[self.rest.currentText()]))
        except LadderError as fault:
            self.wrong.setText(str(fault))
            return
        super().accept()
