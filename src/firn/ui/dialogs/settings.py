"""Settings of the whole program, in one place."""

import os
from pathlib import Path
from typing import Any

from PySide6.QtWidgets import QCheckBox, QComboBox, QLineEdit, QSpinBox, QWidget

from firn.files.whole import is_there
from firn.session.settings import HEARINGS, MOST_PASSES, ProgramSettings
from firn.ui.dialogs.form import FormDialog
from firn.ui.dialogs.recording import CARE

SIZES = range(80, 201, 10)


class SettingsDialog(FormDialog):
    """Asks for the settings; `changes` holds those that differ once accepted."""

    def __init__(self, settings: ProgramSettings, parent: QWidget | None = None) -> None:
        super().__init__("Settings", parent, width=560)
        self._settings = settings
        self.changes: dict[str, Any] = {}
        self.on = QSpinBox()
        self.on.setRange(5, 200)
        self.on.setSuffix(" ms")
        self.on.setButtonSymbols(QSpinBox.ButtonSymbols.NoButtons)
        self.on.setValue(round(settings.on_ms))
        self.text_size = QComboBox()
        self.text_size.addItems([f"{n} %" for n in SIZES])
        self.text_size.setCurrentText(f"{settings.text_percent} %")
        self.dark = QCheckBox("Lamp out: light on dark")
        self.dark.setChecked(settings.dark)
        self.heard, self.times, self.handed = QComboBox(), QComboBox(), QComboBox()
        self.heard.addItems(list(HEARINGS.values()))
        self.heard.setCurrentText(HEARINGS[settings.hearing])
        self.times.addItems([str(n) for n in range(1, MOST_PASSES + 1)])
        self.times.setCurrentText(str(settings.passes))
        self.handed.addItems(["right", "left"])
        self.handed.setCurrentText(settings.handed)
        self.cards = QLineEdit(str(settings.cards_folder))
        known = [f"{name}: {ms:.0f} ms late" for name, ms in settings.latency_ms]
        told = "Devices: " + (
            "; ".join(known) if known else "none is known yet. Clap along once, from the menu Take."
        )
        self.lay_out(
            [
                ("A sound is &on within", self.on),
                ("&Text size", self.text_size),
                ("", self.dark),
                ("While recording you &hear", self.heard),
                ("T&imes through", self.times),
                ("The hand that &leads, in new pieces", self.handed),
                ("Folder of your own &cards", self.cards),
            ],
            told,
            CARE,
            "What words mean: Part, What words mean. What a style asks for: Read, What the style asks for. "
            "Layers and view: View.",
        )

    def accept(self) -> None:
        """Take what was chosen."""
        folder = self.cards.text().strip()
        if folder and is_there(Path(folder)) and not os.path.isdir(folder):
            self.wrong.setText(f"{Path(folder).name} is a file, not a folder of cards.")
            return
        now = self._settings
        chosen: dict[str, Any] = {
            "on_ms": float(self.on.value()),
            "text_percent": int(self.text_size.currentText().removesuffix(" %")),
            "dark": self.dark.isChecked(),
            "hearing": list(HEARINGS)[self.heard.currentIndex()],
            "passes": int(self.times.currentText()),
            "handed": self.handed.currentText(),
            "cards": now.cards if folder == str(now.cards_folder) else folder,
        }
        self.changes = {name: value for name, value in chosen.items() if value != getattr(now, name)}
        super().accept()
