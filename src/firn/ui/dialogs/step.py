"""A step of one's own: made from nothing, of a selection, or of another card."""

from collections.abc import Callable
from typing import Any

from PySide6.QtWidgets import QComboBox, QLineEdit, QWidget

from firn.core.steps.card import HARDEST
from firn.core.steps.shelf import TRADITIONS
from firn.errors import FirnError
from firn.session.cards import LEVELS
from firn.ui.dialogs.form import FormDialog

ANY = "every tradition"
SEVERAL = "as it is"
NOTE = (
    "Sounds: brush A, step A. A is the foot that is free when the step begins, B the other, 2 both, W the one that "
    "carries; of hands a is the one on A’s side, b the other. “!” leans on a sound, “~” softens it."
)


class StepDialog(FormDialog):
    """Asks for a card's table; `save` keeps it and raises FirnError with what is wrong."""

    def __init__(
        self, table: dict[str, Any], save: Callable[[dict[str, Any]], None], parent: QWidget | None = None
    ) -> None:
        super().__init__("A step of your own", parent, width=680)
        self._table, self._save = table, save
        self.name = QLineEdit(table.get("name", ""))
        self.aliases = QLineEdit(", ".join(table.get("aliases", [])))
        self.aliases.setPlaceholderText("other names, with commas: golpe [es]")
        self.tradition = QComboBox()
        kept = table.get("traditions", [])
        self.tradition.addItems([ANY, *TRADITIONS, *([SEVERAL] if len(kept) > 1 else [])])
        self.tradition.setCurrentText(SEVERAL if len(kept) > 1 else kept[0] if kept else ANY)
        self.sounds = QLineEdit(", ".join(table.get("sounds", [])))
        usual = table.get("usual", [])
        self._by_tradition = isinstance(usual, dict)
        self.usual = QLineEdit(", ".join(usual if isinstance(usual, list) else usual.get("", [])))
        self.usual.setPlaceholderText("&a1; other ways with commas")
        self.sentence = QLineEdit(table.get("sentence", ""))
        self.tip = QLineEdit(" ".join(table.get("tips", [])))
        self.remedy = QLineEdit(" ".join(table.get("remedies", [])))
        self.remedy.setPlaceholderText("When the pickup is missing: …")
        self.caution = QLineEdit(table.get("caution", ""))
        self.level = QComboBox()
        self.level.addItems([LEVELS[n] for n in range(1, HARDEST + 1)])
        self.level.setCurrentIndex((table.get("level") or 1) - 1)
        self.lay_out([
            ("&Name", self.name), ("Also &called", self.aliases), ("&Tradition", self.tradition),
            ("&Sounds", self.sounds), ("On these &counts", self.usual), ("&What it is", self.sentence),
            ("T&ip", self.tip), ("When it goes w&rong", self.remedy), ("Ta&ke care", self.caution),
            ("Fo&r whom", self.level),
        ], NOTE)  # fmt: skip

    def read(self) -> dict[str, Any]:
        """The table that the fields give; what they do not show is kept."""
        said = self.tradition.currentText()
        counts = _listed(self.usual.text())
        table = dict(self._table)
        table |= {
            "name": " ".join(self.name.text().split()),
            "aliases": _listed(self.aliases.text()),
            "traditions": table.get("traditions", []) if said == SEVERAL else [] if said == ANY else [said],
            "sounds": _listed(self.sounds.text()),
            "usual": {**table["usual"], "": counts} if self._by_tradition else counts,
            "sentence": self.sentence.text().strip(),
            "tips": [t for t in [self.tip.text().strip()] if t],
            "remedies": [t for t in [self.remedy.text().strip()] if t],
            "caution": self.caution.text().strip(),
            "level": self.level.currentIndex() + 1,
        }
        return {key: value for key, value in table.items() if value or key in ("name", "sounds", "usual")}

    def accept(self) -> None:
        """Keep the card and close, or say what is wrong and stay."""
        try:
            self._save(self.read())
        except FirnError as fault:
            self.wrong.setText(str(fault))
            return
        super().accept()


def _listed(text: str) -> list[str]:
    return [part.strip() for part in text.split(",") if part.strip()]
