"""A practice planned: how many minutes, on how many days."""

from datetime import date

from PySide6.QtWidgets import QLineEdit, QWidget

from firn.ui.dialogs.form import FormDialog


class PracticeDialog(FormDialog):
    """Asks for the minutes of a practice and its days; `minutes` and `days` hold them once accepted."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__("Plan a practice", parent)
        self.minutes, self.days = 15.0, 1
        self.minutes_field, self.days_field = QLineEdit("15"), QLineEdit("1")
        self.days_field.setToolTip("A number, or the last day, such as 2026-12-05")
        self.lay_out(
            [("&Minutes a day", self.minutes_field), ("&Days from today on, or until", self.days_field)],
            "From the parts of this piece and what the log knows of them: what is clean warms up, what is new is "
            "counted first, what is weaker is danced more, and after three days comes one of rest. Each day becomes "
            "a drill.",
            "Build ankles and shins up over weeks, and stop at pain.",
        )

    def accept(self) -> None:
        """Read the fields; say what is wrong and stay, or close."""
        try:
            self.minutes = float(self.minutes_field.text().replace(",", "."))
            self.days = days_said(self.days_field.text(), date.today())
        except ValueError:
            self.wrong.setText("Minutes and days are written in numbers; until when as 2026-12-05.")
            return
        super().accept()


def days_said(text: str, today: date) -> int:
    """How many days are meant by a number of them, or by the last one as 2026-12-05; raises ValueError."""
    said = text.strip()
    return int(said) if said.isdecimal() else (date.fromisoformat(said) - today).days + 1
