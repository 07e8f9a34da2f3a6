"""Which stretch of a long recording is meant."""

from PySide6.QtWidgets import QDialog, QDialogButtonBox, QFormLayout, QLineEdit, QVBoxLayout, QWidget

from firn.files.audio import LONG_S, TakeInfo
from firn.ui.widgets.labels import Label


def clock_seconds(text: str) -> float | None:
    """Seconds of "75", "1:15" or "1:02:03"; None for anything else."""
    total = 0.0
    parts = text.strip().split(":")
    if not 1 <= len(parts) <= 3:
        return None
    for part in parts:
        try:
            value = float(part)
        except ValueError:
            return None
        if not 0 <= value < 1e6:
            return None
        total = total * 60 + value
    return total


class StretchDialog(QDialog):
    """Asks where to begin and for how long; `start_s` and `length_s` once accepted."""

    def __init__(self, info: TakeInfo, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._info = info
        self.setWindowTitle("Which stretch?")
        self.start_s, self.length_s = 0.0, LONG_S
        minutes = f"{int(info.seconds // 60)}:{int(info.seconds % 60):02d}"
        about = Label(f"{info.path.name} lasts {minutes}. Firn listens to {LONG_S / 60:.0f} minutes at most: which?")
        about.setWordWrap(True)
        self.start = QLineEdit("0:00")
        self.length = QLineEdit("2:00")
        self.wrong = Label()
        form = QFormLayout()
        form.addRow("&Begins at", self.start)
        form.addRow("&Lasts", self.length)
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Ok | QDialogButtonBox.StandardButton.Cancel)
        buttons.accepted.connect(self.accept)
        buttons.rejected.connect(self.reject)
        box = QVBoxLayout(self)
        for widget in (about, self.wrong):
            box.addWidget(widget)
        box.insertLayout(1, form)
        box.addWidget(buttons)

    def accept(self) -> None:
        """Read the two times; say what is wrong and stay, or close."""
        start, length = clock_seconds(self.start.text()), clock_seconds(self.length.text())
        if start is None or length is None:
            self.wrong.setText("Write times as 75 or 1:15.")
        elif start >= self._info.seconds:
            self.wrong.setText("That begins after the recording's end.")
        elif not 0 < length <= LONG_S:
            self.wrong.setText(f"Between 0:01 and {LONG_S / 60:.0f}:00, please.")
        else:
            self.start_s, self.length_s = start, length
            super().accept()
