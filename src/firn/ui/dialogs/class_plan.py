"""A class planned: what it is called and how long it is."""

from PySide6.QtWidgets import QLineEdit, QWidget

from firn.ui.dialogs.form import FormDialog


class ClassDialog(FormDialog):
    """Asks for a class's name and minutes; `name` and `minutes` hold them once accepted."""

    def __init__(self, name: str, parent: QWidget | None = None) -> None:
        super().__init__("Plan a class", parent)
        self.name, self.minutes = name, 60
        self.name_field, self.minutes_field = QLineEdit(name), QLineEdit("60")
        self.lay_out(
            [("&Name", self.name_field), ("&Minutes", self.minutes_field)],
            "Warm-up, review, new step, drill, join, to music and cool down, each with its share of minutes: what "
            "was clean longest ago is reviewed, what the log does not know is new. All of it can be changed.",
            "The floor, rests and water, and what your venue asks for, come first.",
        )

    def accept(self) -> None:
        """Read the fields; say what is wrong and stay, or close."""
        try:
            self.minutes = int(self.minutes_field.text())
        except ValueError:
            self.wrong.setText("Minutes are written in figures.")
            return
        self.name = self.name_field.text()
        super().accept()
