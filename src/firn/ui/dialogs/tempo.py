"""Counts a minute: typed, or tapped."""

from PySide6.QtWidgets import QLineEdit, QWidget

from firn.core.meter.tempo import FASTEST, SLOWEST
from firn.ui.dialogs.form import FormDialog, beside
from firn.ui.widgets.tap_button import TapButton


class TempoDialog(FormDialog):
    """Asks for a tempo; `tempo` holds it once accepted."""

    def __init__(self, now: float, parent: QWidget | None = None) -> None:
        super().__init__("Tempo", parent, width=420)
        self.tempo = now
        self.field, self.tap = QLineEdit(f"{now:g}"), TapButton("T&ap it")
        self.tap.tapped.connect(lambda tempo: self.field.setText(f"{tempo:g}"))
        self.lay_out(
            [("&Counts a minute", beside(self.field, self.tap))], "Tapped: four times or more, on the counts."
        )
        self.field.selectAll()

    def accept(self) -> None:
        """Read the field; say what is wrong and stay, or close."""
        try:
            self.tempo = float(self.field.text().replace(",", "."))
        except ValueError:
            self.wrong.setText("A tempo is written in numbers.")
            return
        if not SLOWEST <= self.tempo <= FASTEST:
            self.wrong.setText(f"Between {SLOWEST} and {FASTEST} counts a minute, not {self.tempo:g}.")
            return
        super().accept()
