"""How takes are recorded: what is heard meanwhile, and how many times through."""

from PySide6.QtWidgets import QComboBox, QWidget

from firn.session.settings import HEARINGS, MOST_PASSES, ProgramSettings
from firn.ui.dialogs.form import FormDialog

CARE = (
    "Over a loudspeaker choose silence: the microphone would hear the click as well. Warm up first, keep the level "
    "moderate, and rest between takes."
)


class RecordingDialog(FormDialog):
    """Asks how takes are recorded; `hearing` and `passes` hold it once accepted."""

    def __init__(self, settings: ProgramSettings, parent: QWidget | None = None) -> None:
        super().__init__("How takes are recorded", parent, width=500)
        self.hearing, self.passes = settings.hearing, settings.passes
        self.heard, self.times = QComboBox(), QComboBox()
        self.heard.addItems(list(HEARINGS.values()))
        self.heard.setCurrentText(HEARINGS[settings.hearing])
        self.times.addItems([str(n) for n in range(1, MOST_PASSES + 1)])
        self.times.setCurrentText(str(settings.passes))
        known = [f"{name}: {ms:.0f} ms late" for name, ms in settings.latency_ms]
        told = "\n".join(known) or "No device is known yet: clap along once, from the menu Take."
        self.lay_out([("After the count-in you &hear", self.heard), ("&Times through", self.times)], told, CARE)

    def accept(self) -> None:
        """Take what was chosen."""
        self.hearing = list(HEARINGS)[self.heard.currentIndex()]
        self.passes = int(self.times.currentText())
        super().accept()
