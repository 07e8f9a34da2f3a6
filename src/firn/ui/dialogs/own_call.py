"""A part's name in her own voice: recorded here, or taken from a recording; heard before it is kept."""

from typing import TYPE_CHECKING

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QHBoxLayout, QPushButton, QWidget

from firn.ui.dialogs.form import FormDialog
from firn.ui.widgets.labels import Label

if TYPE_CHECKING:
    from firn.core.sound.voices import FloatArray

NOTHING = "Nothing is said yet."
KEPT = "It is called in your own voice already: hear it, or say it anew."


class OwnCallDialog(FormDialog):
    """Asks for a call. `said` holds its samples once there are any, `away` whether it is to be taken away.

    `record`, `browse` and `hear` are wanted by her; what comes of the first two is given to `take`.
    """

    record, browse, hear = Signal(), Signal(), Signal()

    def __init__(self, part: str, *, kept: bool, parent: QWidget | None = None) -> None:
        super().__init__(f"Call {part} in your own voice", parent, width=520)
        self.said: FloatArray | None = None
        self.away = False
        self.state = Label(KEPT if kept else NOTHING)
        self.state.setWordWrap(True)
        self.recorded = QPushButton("&Say it now")
        self.chosen = QPushButton("From a &recording…")
        self.heard = QPushButton("&Hear it")
        self.taken = QPushButton("Take it a&way")
        self.taken.setVisible(kept)
        self.heard.setEnabled(kept)
        for button, signal in ((self.recorded, self.record), (self.chosen, self.browse), (self.heard, self.hear)):
            button.setAutoDefault(False)
            button.clicked.connect(signal)
        self.taken.setAutoDefault(False)
        self.taken.clicked.connect(self._leave_out)
        row = QWidget()
        box = QHBoxLayout(row)
        box.setContentsMargins(0, 0, 0, 0)
        for button in (self.recorded, self.chosen, self.heard, self.taken):
            box.addWidget(button)
        self.lay_out(
            [("", self.state), ("", row)],
            "It is called two counts before the count-in, where the part comes next in a drill: two seconds at most.",
        )

    def tell(self, said: str) -> None:
        """Say how it goes."""
        self.state.setText(said)

    def take(self, said: "FloatArray") -> None:
        """This is how it is called."""
        from firn.core.sound.voices import RATE

        self.said = said
        self.heard.setEnabled(True)
        self.state.setText(f"{len(said) / RATE:.1f} s: hear it, then OK keeps it.")
        self.wrong.setText("")

    def refuse(self, why: str) -> None:
        """This is no call: what there was stays."""
        self.wrong.setText(why)

    def _leave_out(self) -> None:
        self.away = True
        super().accept()

    def accept(self) -> None:
        """Close once there is something to keep."""
        if self.said is None and not self.away:
            self.wrong.setText(NOTHING if not self.heard.isEnabled() else "Nothing new is said: Cancel leaves it.")
            return
        super().accept()
