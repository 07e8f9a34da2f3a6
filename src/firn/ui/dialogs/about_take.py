"""What is known of a take beside its sound: its side, shoes, floor, and what made the sounds."""

from collections.abc import Sequence

from msgspec.structs import replace
from PySide6.QtWidgets import QComboBox, QWidget

from firn.core.book.book import Take
from firn.ui.dialogs.form import FormDialog
from firn.ui.dialogs.log_entry import free_choice

HEARD = ("feet", "claps", "the voice", "taps on a table")


class AboutTakeDialog(FormDialog):
    """Asks about a take; `take` holds it once accepted."""

    def __init__(
        self, take: Take, *, shoes: Sequence[str], floors: Sequence[str], parent: QWidget | None = None
    ) -> None:
        super().__init__(f"About {take.name}", parent)
        self.take = take
        self.side, self.heard = QComboBox(), QComboBox()
        self.side.addItems(["as written", "on the other side"])
        self.side.setCurrentIndex(int(take.swapped))
        self.heard.addItems(list(HEARD))
        self.heard.setCurrentText(take.heard)
        self.shoes = free_choice(take.shoes, shoes)
        self.floor = free_choice(take.floor, floors)
        self.lay_out([
            ("&Danced", self.side), ("&Heard are", self.heard), ("&Shoes", self.shoes), ("&Floor", self.floor),
        ])  # fmt: skip

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
