"""A drill as text: a stage a line, read as it is typed."""

from PySide6.QtWidgets import QDialogButtonBox, QPlainTextEdit, QWidget

from firn.core.drills.stage import Drill
from firn.core.drills.text import DrillRead, Known, drill_text, read_drill, with_reasons
from firn.ui.dialogs.form import FormDialog
from firn.ui.widgets.labels import Label

NOTE = (
    "A stage a line: A 72-96 by 4, both sides, x2. Break run-in 4. A + Break. A counts 5-8 at 60. whole, as written. "
    "with: the click, gaps, counts only, one foot, the feet, the hands, nothing. rest 8, no rest."
)


class DrillTextDialog(FormDialog):
    """Asks for a drill's stages as text; `made` is the drill as it then is."""

    def __init__(self, drill: Drill, known: Known, parent: QWidget | None = None) -> None:
        super().__init__(f"{drill.name} as text", parent, width=640)
        self.made, self._known = drill, known
        self.text = QPlainTextEdit(drill_text(drill, known.names))
        self.text.setAccessibleName("Stages, one a line")
        self.text.setTabChangesFocus(True)
        self.text.setMinimumHeight(260)
        self.said = Label()
        self.said.setWordWrap(True)
        self.lay_out([("&Stages", self.text), ("", self.said)], NOTE)
        self.text.textChanged.connect(self._read)
        self._read()
        self.text.moveCursor(self.text.textCursor().MoveOperation.End)

    def _read(self) -> DrillRead:
        read = read_drill(self.text.toPlainText(), self._known, name=self.made.name)
        many = len(read.stages)
        said = f"{many} {'stage' if many == 1 else 'stages'}."
        if read.faults:
            line, fault = read.faults[0]
            said = f"Line {line + 1}: {fault}"
        self.said.setText(said)
        for buttons in self.findChildren(QDialogButtonBox):
            buttons.button(QDialogButtonBox.StandardButton.Ok).setEnabled(not read.faults)
        return read

    def accept(self) -> None:
        """Take the stages where all of them are understood."""
        read = self._read()
        if read.faults:
            return
        stages = with_reasons(read.stages, self.made.stages)
        self.made = Drill(self.made.id, self.made.piece, read.name or self.made.name, stages, self.made.student)
        super().accept()
