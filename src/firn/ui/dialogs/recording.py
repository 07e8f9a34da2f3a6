"""How takes are recorded: what is heard meanwhile, and how many times through."""

from PySide6.QtWidgets import QComboBox, QDialog, QDialogButtonBox, QFormLayout, QLabel, QVBoxLayout, QWidget

from firn.session.settings import HEARINGS, MOST_PASSES, Settings

CARE = (
    "Over a loudspeaker choose silence: the microphone would hear the click as well. Warm up first, keep the level "
    "moderate, and rest between takes."
)


class RecordingDialog(QDialog):
    """Asks how takes are recorded; `hearing` and `passes` hold it once accepted."""

    def __init__(self, settings: Settings, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle("How takes are recorded")
        self.setMinimumWidth(500)
        self.hearing, self.passes = settings.hearing, settings.passes
        self.heard, self.times = QComboBox(), QComboBox()
        self.heard.addItems(list(HEARINGS))
        self.heard.setCurrentText(settings.hearing)
        self.times.addItems([str(n) for n in range(1, MOST_PASSES + 1)])
        self.times.setCurrentText(str(settings.passes))
        form = QFormLayout()
        form.setVerticalSpacing(10)
        for label, field in (("After the count-in you &hear", self.heard), ("&Times through", self.times)):
            field.setMinimumHeight(40)
            form.addRow(label, field)
        known = [f"{name}: {ms:.0f} ms late" for name, ms in settings.latency_ms]
        told = "\n".join(known) or "No device is known yet: clap along once, from the menu Take."
        box = QVBoxLayout(self)
        box.addLayout(form)
        for text in (told, CARE):
            label = QLabel(text)
            label.setWordWrap(True)
            box.addWidget(label)
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Ok | QDialogButtonBox.StandardButton.Cancel)
        buttons.accepted.connect(self.accept)
        buttons.rejected.connect(self.reject)
        box.addWidget(buttons)

    def accept(self) -> None:
        """Take what was chosen."""
        self.hearing, self.passes = self.heard.currentText(), int(self.times.currentText())
        super().accept()
