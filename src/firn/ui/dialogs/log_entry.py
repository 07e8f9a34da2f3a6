"""One entry of the log, to note or to change."""

from collections.abc import Sequence

from msgspec.structs import replace
from PySide6.QtWidgets import QComboBox, QLineEdit, QWidget

from firn.core.book.edits import checked_entry
from firn.core.book.log import FirstFoot, LogEntry
from firn.core.drills.run import How
from firn.errors import FirnError
from firn.ui.dialogs.form import FormDialog

SIDES: dict[str, FirstFoot] = {"right foot": "right", "left foot": "left", "not said": ""}
HOW: dict[str, How] = {"clean": "clean", "clean but for a slip": "slip", "not yet clean": "lost", "not judged": ""}


def free_choice(now: str, known: Sequence[str]) -> QComboBox:
    """A field to type in, that offers what was typed before."""
    box = QComboBox()
    box.setEditable(True)
    box.addItems(list(dict.fromkeys(k for k in ("", *known) if k is not None)))
    box.setCurrentText(now)
    return box


class LogEntryDialog(FormDialog):
    """Asks for an entry; `entry` holds it once accepted."""

    def __init__(
        self, entry: LogEntry, *, shoes: Sequence[str], floors: Sequence[str], parent: QWidget | None = None
    ) -> None:
        super().__init__("What was danced", parent)
        self.entry = entry
        self.step = QLineEdit(entry.step)
        self.day = QLineEdit(entry.day)
        self.tempo = QLineEdit(f"{entry.tempo:g}")
        self.side, self.how = QComboBox(), QComboBox()
        self.side.addItems(list(SIDES))
        self.side.setCurrentIndex(list(SIDES.values()).index(entry.side))
        self.how.addItems(list(HOW))
        self.how.setCurrentIndex(list(HOW.values()).index(entry.how))
        self.shoes = free_choice(entry.shoes, shoes)
        self.floor = free_choice(entry.floor, floors)
        self.remark = QLineEdit(entry.remark)
        for field in (self.tempo, self.how):
            field.setEnabled(entry.source == "noted")
        self.lay_out([
            ("St&ep", self.step), ("&Day", self.day), ("&Tempo, counts a minute", self.tempo),
            ("&Began on the", self.side), ("&How", self.how), ("&Shoes", self.shoes), ("&Floor", self.floor),
            ("&Remark", self.remark),
        ])  # fmt: skip

    def accept(self) -> None:
        """Read the fields; say what is wrong and stay, or close."""
        day = self.day.text().strip()
        step = " ".join(self.step.text().split())
        try:
            tempo = float(self.tempo.text().replace(",", "."))
        except ValueError:
            self.wrong.setText("The tempo is written in numbers.")
            return
        if not step:
            self.wrong.setText("Say what was danced.")
            return
        entry = replace(
            self.entry,
            step=step,
            part=self.entry.part if step == self.entry.step else "",
            when=self.entry.when if day == self.entry.day else day,
            tempo=tempo,
            side=SIDES[self.side.currentText()],
            how=HOW[self.how.currentText()],
            shoes=self.shoes.currentText().strip(),
            floor=self.floor.currentText().strip(),
            remark=self.remark.text().strip(),
        )
        try:
            self.entry = checked_entry(entry)
        except FirnError as fault:
            self.wrong.setText(str(fault))
            return
        super().accept()
