"""The takes of a part, and the ways that a take comes in."""

from collections.abc import Sequence

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import (
    QListWidget,
    QListWidgetItem,
    QPushButton,
    QSizePolicy,
    QVBoxLayout,
    QWidget,
)

from firn.core.book.book import Take
from firn.ui.theme.theme import Theme
from firn.ui.widgets.labels import heading, repolish
from firn.ui.widgets.room import WrappingRow

_TAKE = Qt.ItemDataRole.UserRole


LEAST_PX = 76


class TakesPanel(QWidget):
    """Lists takes, the newest first. `stood_on`: the id of the take that is chosen; `record`, `browse`, `simulate`:
    a way in is asked for."""

    stood_on = Signal(str)
    record = Signal()
    browse = Signal()
    simulate = Signal()

    def __init__(self, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.takes = QListWidget()
        self.takes.setAccessibleName("Takes")
        # As high as there is room, and no higher than that: the strip above comes first.
        self.takes.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Ignored)
        self.takes.setMinimumHeight(LEAST_PX)
        self.record_button = QPushButton("Record  T")
        self.file_button = QPushButton("Bring in…  I")
        self.simulate_button = QPushButton("Simulated…  S")
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.setSpacing(6)
        box.addWidget(heading(theme, "Takes"))
        box.addWidget(self.takes, 1)
        ways = WrappingRow()
        for button, asked in (
            (self.record_button, self.record),
            (self.file_button, self.browse),
            (self.simulate_button, self.simulate),
        ):
            button.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Fixed)
            button.clicked.connect(asked)
            ways.addWidget(button)
        self.file_button.setAccessibleName("Bring in a recording")
        self.simulate_button.setAccessibleName("Simulated student")
        box.addLayout(ways)
        self.takes.currentItemChanged.connect(self._stand_on)

    @property
    def take_id(self) -> str:
        """The take that is chosen, "" for none."""
        item = self.takes.currentItem()
        return str(item.data(_TAKE)) if item is not None else ""

    def _stand_on(self, item: QListWidgetItem | None) -> None:
        if item is not None:
            self.stood_on.emit(item.data(_TAKE))

    def show_takes(self, takes: Sequence[Take]) -> None:
        """Show takes; a new one is chosen, else the one that was."""
        shown = [(self.takes.item(i).data(_TAKE), self.takes.item(i).text()) for i in range(self.takes.count())]
        wanted = [(t.id, _take_text(t)) for t in reversed(takes)]
        if shown == wanted:
            return
        kept = self.take_id
        blocked = self.takes.blockSignals(True)
        self.takes.clear()
        for take_id, text in wanted:
            item = QListWidgetItem(text)
            item.setData(_TAKE, take_id)
            self.takes.addItem(item)
        self.takes.blockSignals(blocked)
        ids = [take_id for take_id, _ in wanted]
        if ids:
            new = next((i for i in ids if i not in [s for s, _ in shown]), None)
            self.takes.setCurrentRow(ids.index(new if new and shown else kept if kept in ids else ids[0]))

    def allow(self, can: bool, *, first: bool, combo: bool = False) -> None:
        """Whether a take can come in; `first`: none has yet, so that recording is what comes next; `combo`: of a
        whole combo, which is brought in."""
        for button in (self.record_button, self.simulate_button):
            button.setEnabled(can)
        self.file_button.setEnabled(can or combo)
        self.record_button.setProperty("next", "true" if first else "false")
        repolish(self.record_button)

    def show_recording(self, running: bool) -> None:
        """A recording has begun, or ended."""
        self.record_button.setText("Stop  T" if running else "Record  T")
        self.takes.setEnabled(not running)


def _take_text(take: Take) -> str:
    source = {"simulated": ", simulated", "microphone": ", recorded"}.get(take.source, "")
    return f"{take.name}   {take.tempo:g} a minute, {take.seconds:.0f} s{source}"
