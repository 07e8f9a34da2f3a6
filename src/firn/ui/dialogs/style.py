"""What a style asks for: a tradition's sheet, as Firn has it or as its teacher does."""

import re

import msgspec
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QComboBox, QLineEdit, QListWidget, QListWidgetItem, QPushButton, QWidget

from firn.core.reading.kinds import KINDS
from firn.core.reading.style import ACCENTS, PULSES, Style, style_fault, style_of
from firn.ui.dialogs.form import FormDialog

YES = ("yes", "no")
NO_PULSE = "none asked for"
_MS = {
    "same_foot_ms": "The same foot &again, ms",
    "any_ms": "Any &two sounds, ms",
    "air_ms": "Longest in the a&ir, ms",
}
_HANGING = re.compile(r"(?:(?:at least )?(?P<least>\d+(?:\.\d+)?))?(?:,? ?(?:to|at most) (?P<most>\d+(?:\.\d+)?))?")


def hanging_text(style: Style) -> str:
    """How much may hang over, as it is typed."""
    least, most = style.least_hanging, style.most_hanging
    if least is None:
        return "any" if most is None else f"at most {most:g}"
    return f"at least {least:g}" if most is None else f"{least:g} to {most:g}"


class StyleDialog(FormDialog):
    """Edits a sheet; `style` holds it once accepted, None for Firn's own."""

    def __init__(self, tradition: str, style: Style, parent: QWidget | None = None) -> None:
        super().__init__(f"What {tradition} asks for", parent, width=720)
        self._tradition = tradition
        self.style_sheet: Style | None = None
        self.airborne, self.accents, self.equal, self.pulse = (QComboBox() for _ in range(4))
        self.airborne.addItems(YES)
        self.accents.addItems(list(ACCENTS.values()))
        self.equal.addItems(YES)
        self.pulse.addItems([p or NO_PULSE for p in PULSES])
        self.hanging = QLineEdit()
        self.ms = {name: QLineEdit() for name in _MS}
        self.checks = QListWidget()
        self.checks.setAccessibleName("What is checked")
        for kind in (k for k in KINDS.values() if k.check):
            item = QListWidgetItem(kind.check, self.checks)
            item.setData(Qt.ItemDataRole.UserRole, kind.code)
            item.setFlags(item.flags() | Qt.ItemFlag.ItemIsUserCheckable)
        self.shipped = QPushButton("As &Firn has it")
        self.shipped.clicked.connect(lambda: self.show_style(style_of(tradition)))
        self.lay_out(
            [("&Hangs over in four counts", self.hanging), ("&What is checked", self.checks), ("", self.shipped)],
            "Limits are common practice; where the log holds clean tempos, or a card says how fast it is danced, "
            "these come first. None of it is medical advice.",
            above=[
                ("&Leaves the floor", self.airborne), ("L&eans on", self.accents), ("All e&qually loud", self.equal),
                ("&Pulse", self.pulse), *((label, self.ms[name]) for name, label in _MS.items()),
            ],
        )  # fmt: skip
        self.checks.setMinimumHeight(170)
        self.show_style(style)

    def show_style(self, style: Style) -> None:
        """Fill the fields."""
        self.airborne.setCurrentText(YES[not style.airborne])
        self.accents.setCurrentText(ACCENTS[style.accents])
        self.equal.setCurrentText(YES[not style.equal])
        self.pulse.setCurrentText(style.pulse or NO_PULSE)
        self.hanging.setText(hanging_text(style))
        for name, field in self.ms.items():
            field.setText(f"{getattr(style, name):g}")
        for row in range(self.checks.count()):
            item = self.checks.item(row)
            off = item.data(Qt.ItemDataRole.UserRole) in style.off
            item.setCheckState(Qt.CheckState.Unchecked if off else Qt.CheckState.Checked)

    def accept(self) -> None:
        """Read the fields; say what is wrong and stay, or close."""
        said = self.hanging.text().strip().casefold()
        match = _HANGING.fullmatch(said) if said not in ("any", "") else None
        if match is None and said not in ("any", ""):
            self.wrong.setText(f'"{said}" is not how much may hang over: any, 1 to 4, at least 1, or at most 4.')
            return
        items = [self.checks.item(row) for row in range(self.checks.count())]
        table = {
            "airborne": self.airborne.currentText() == "yes",
            "accents": list(ACCENTS)[self.accents.currentIndex()],
            "equal": self.equal.currentText() == "yes",
            "pulse": self.pulse.currentText().replace(NO_PULSE, ""),
            "least_hanging": float(match["least"]) if match and match["least"] else None,
            "most_hanging": float(match["most"]) if match and match["most"] else None,
            "off": [i.data(Qt.ItemDataRole.UserRole) for i in items if i.checkState() == Qt.CheckState.Unchecked],
        }
        for name, field in self.ms.items():
            if not re.fullmatch(r"\d{2,4}(\.\d)?", field.text().strip()):
                label = _MS[name].replace("&", "")
                self.wrong.setText(f'"{field.text().strip()}" is no time for "{label}": 20 to 2000.')
                return
            table[name] = float(field.text())
        try:
            style = msgspec.convert(table, Style)
        except msgspec.ValidationError:
            self.wrong.setText("Times go from 20 to 2000 ms, and at most 40 can hang over.")
            return
        fault = style_fault(style)
        if fault:
            self.wrong.setText(fault)
            return
        self.style_sheet = None if style == style_of(self._tradition) else style
        super().accept()
