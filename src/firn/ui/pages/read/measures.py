"""The published measures of a part, for the whole and for each phrase."""

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QWidget

from firn.core.piece.piece import Part
from firn.core.reading.profile import OVERS, Over
from firn.core.task import Task
from firn.session.reading import BESIDE, MeasureRow, beside_known, known_names, rows
from firn.ui.desk import Aside
from firn.ui.pages.read.face import Face
from firn.ui.pages.read.table import SAID, PlainTable
from firn.ui.theme.theme import Theme

MOST_PHRASES = 8


class MeasuresFace(Face):
    """A table of measures: over what is heard, every sound or the weight, or beside well-known patterns.

    `measured`: over which has changed.
    """

    title = "Measures"
    measured = Signal()

    def __init__(self, theme: Theme, aside: Aside, parent: QWidget | None = None) -> None:
        super().__init__(theme, parent)
        self._aside = aside
        self._measured: Part | None = None
        self.way: str = OVERS[0]
        self.table = PlainTable(theme, "Measures of the rhythm", right=True)
        self.table.currentCellChanged.connect(lambda row, *_: self._say(row))
        self.box.addWidget(self.table, 1)
        self.box.addWidget(self.says)

    @property
    def stop(self) -> QWidget:
        return self.table

    def next_way(self) -> None:
        """Measure over the next kind of sounds."""
        ways = (*OVERS, BESIDE)
        self.way = ways[(ways.index(self.way) + 1) % len(ways)]
        self.renew()

    @property
    def over(self) -> Over:
        """The sounds that are measured."""
        return OVERS[OVERS.index(self.way)] if self.way in OVERS else OVERS[0]

    def renew(self) -> None:
        part, way, over = self.part, self.way, self.over
        beside = way == BESIDE
        self._by("Measured beside" if beside else "Measured over", way)
        if part is None:
            self._show([], beside=beside)
            return

        def work(task: Task) -> list[MeasureRow]:
            return beside_known(part) if beside else rows(part, over)

        def done(found: list[MeasureRow]) -> None:
            if part is self.part and way == self.way:
                self._measured = part
                self._show(found, beside=beside)

        self._measured = None
        self._aside("measures", "Measuring", work, done)
        if self._measured is None:
            # Until then nothing of another part stands here.
            self._show([], beside=beside)
            self.says.setText("Measuring…")

    def _show(self, found: list[MeasureRow], *, beside: bool) -> None:
        many = min(MOST_PHRASES, len(found[0].phrases)) if found else 0
        at = self.table.currentRow()
        others = known_names() if beside else [f"{'phrase ' if many < 5 else ''}{n + 1}" for n in range(many)]
        lines = [(r.name, r.value, *r.phrases[:many]) for r in found]
        self.table.show_rows(["Measure", "in four" if beside else "Part", *others], lines, [r.says for r in found])
        self.measured.emit()
        self._say(at)

    def _say(self, row: int) -> None:
        """What a measure says, and of whom it is."""
        item = self.table.item(max(0, row), 0)
        self.says.setText(item.data(SAID) if item is not None else "")
