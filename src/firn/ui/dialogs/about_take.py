"""What is known of a take beside its sound: its side, shoes, floor, and what made the sounds."""

from collections.abc import Sequence
from dataclasses import replace

from PySide6.QtWidgets import QComboBox, QDialog, QDialogButtonBox, QFormLayout, QVBoxLayout, QWidget

from firn.core.book.book import Take
from firn.ui.dialogs.log_entry import free_choice

HEARD = ("feet", "claps", "the voice", "taps on a table")


class AboutTakeDialog(QDialog):
    """Asks about a take; `take` holds it once accepted."""

    def __init__(
        self, take: Take, *, shoes: Sequence[str], floors: Sequence[str], parent: QWidget | None = None
    ) -> None:
        super().__init__(parent)
        self.setWindowTitle(f"About {take.name}")
        self.setMinimumWidth(460)
        self.take = take
        self.side, self.heard = QComboBox(), QComboBox()
        self.side.addItems(["as written", "on the other side"])
        self.side.setCurrentIndex(int(take.swapped))
        self.heard.addItems(list(HEARD))
        self.heard.setCurrentText(take.heard)
        self.shoes = free_choice(take.shoes, shoes)
        self.floor = free_choice(take.floor, floors)
        form = QFormLayout()
        form.setVerticalSpacing(10)
        for label, field in (
            ("&Danced", self.side), ("&Heard are", self.heard), ("&Shoes", self.shoes), ("&Floor", self.floor),
        ):  # fmt: skip
            field.setMinimumHeight(40)
            form.addRow(label, field)
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Ok | QDialogButtonBox.StandardButton.Cancel)
        buttons.accepted.connect(self.accept)
        buttons.rejected.connect(self.reject)
        box = QVBoxLayout(self)
        box.addLayout(form)
        box.addWidget(buttons)

    def accept(self) -> None:
        """Take what was said."""
        self.take = replace(
            self.take,
            swapped=self.side.currentIndex() == 1,
            heard=self.heard.currentText(),
            shoes=self.shoes.currentText().strip(),
            floor=self.floor.currentText().strip(),
        )
        super().accept()
