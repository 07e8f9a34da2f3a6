"""Counts filled with steps: how many, how they end, how thick, and of what."""

from PySide6.QtWidgets import QLineEdit, QWidget

from firn.core.combos.fill import Against, Ends, Pace, Wish
from firn.ui.dialogs.form import LEVELS, FormDialog, choice

ENDS: dict[str, Ends] = {"either foot free": "", "left foot free": "left", "right foot free": "right"}
PACES: dict[str, Pace] = {"as it comes": "", "busy": "busy", "sparse": "sparse"}
AGAINST: dict[str, Against] = {"as it comes": "", "between the beats": "off", "on the beats": "on"}


class FillDialog(FormDialog):
    """Asks how counts are to be filled; `wish` holds it once accepted."""

    def __init__(self, counts: int, seed: int, level: int = 0, parent: QWidget | None = None) -> None:
        super().__init__("Fill counts", parent)
        self.wish = Wish(counts, seed=seed)
        self.counts, self.steps, self.seed = QLineEdit(str(counts)), QLineEdit(), QLineEdit(str(seed))
        self.ends, self.level = choice(ENDS), choice(LEVELS, level)
        self.pace, self.against = choice(PACES), choice(AGAINST)
        self.front = choice({"anywhere": False, "the front": True})
        self.steps.setPlaceholderText("any; or names with commas between them")
        self.lay_out(
            [("Of these &steps alone", self.steps)],
            "Steps of the piece's tradition in a row, as parts of a phrase each. Another number, another filling.",
            above=[
                ("&Counts", self.counts), ("&Ends with the", self.ends), ("&Faces then", self.front),
                ("&Level at most", self.level), ("&Thick", self.pace), ("&Against the beat", self.against),
                ("&Number", self.seed),
            ],
        )  # fmt: skip

    def accept(self) -> None:
        """Read the fields; say what is wrong and stay, or close."""
        try:
            counts, seed = int(self.counts.text()), int(self.seed.text())
        except ValueError:
            self.wrong.setText("Counts and number are written in figures.")
            return
        steps = tuple(name.strip() for name in self.steps.text().split(",") if name.strip())
        self.wish = Wish(
            counts, ENDS[self.ends.currentText()], self.front.currentIndex() == 1, LEVELS[self.level.currentText()],
            PACES[self.pace.currentText()], AGAINST[self.against.currentText()], steps, seed,
        )  # fmt: skip
        super().accept()
