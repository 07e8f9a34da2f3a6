"""The published measures of a part, for the whole and for each phrase."""

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QWidget

from firn.core.reading.profile import OVERS, Over
from firn.session.reading import rows
from firn.ui.pages.read.face import Face
from firn.ui.pages.read.table import PlainTable
from firn.ui.theme.theme import Theme

MOST_PHRASES = 8


class MeasuresFace(Face):
    """A table of measures, over what is heard, every sound or the weight. `measured`: over which has changed."""

    title = "Measures"
    measured = Signal()

    def __init__(self, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(theme, parent)
        self.over: Over = OVERS[0]
        self.table = PlainTable(theme, "Measures of the rhythm", right=True)
        self.table.currentCellChanged.connect(lambda row, *_: self._say(row))
        self.box.addWidget(self.table, 1)
        self.box.addWidget(self.says)

    @property
    def stop(self) -> QWidget:
        return self.table

    def next_way(self) -> None:
        """Measure over the next kind of sounds."""
        self.over = OVERS[(OVERS.index(self.over) + 1) % len(OVERS)]
        self.renew()

    def renew(self) -> None:
        part = self.part
        self._by("Measured over", self.over)
        found = rows(part, self.over) if part is not None else []
        phrases = min(MOST_PHRASES, len(found[0].phrases)) if found else 0
        at = self.table.currentRow()
        heads = ["Measure", "Part", *(f"phrase {n + 1}" for n in range(phrases))]
        self.table.show_rows(heads, [(r.name, r.value, *r.phrases[:phrases]) for r in found], [r.says for r in found])
        self.measured.emit()
        self._say(at)

    def _say(self, row: int) -> None:
        """What a measure says, and of whom it is."""
        item = self.table.item(max(0, row), 0)
        self.says.setText(item.toolTip() if item is not None else "")
