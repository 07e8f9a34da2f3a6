"""Give out: what is to leave, beside how it will be, with a look at it."""

from collections.abc import Callable, Sequence
from functools import partial
from pathlib import Path

from msgspec.structs import replace
from PySide6.QtCore import QSize, Qt
from PySide6.QtGui import QColor, QImage, QKeySequence, QPainter, QPixmap, QShortcut
from PySide6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QDialog,
    QFormLayout,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QListWidget,
    QPushButton,
    QScrollArea,
    QSpinBox,
    QVBoxLayout,
    QWidget,
)

from firn.core.meter.tempo import FASTEST, SLOWEST
from firn.session.outgoing import KINDS, Asked, Outgoing
from firn.ui.theme.tokens import LAMP_ON
from firn.ui.widgets.labels import Label

LOOK = QSize(330, 450)
"""How large a page is looked at."""

EDGE = LAMP_ON.thread

EVERYONE = "all"

Preview = Callable[[Outgoing, int], tuple[QImage, int] | None]
"""A look at a page, from 0, of what would leave, and how many it has; None where there is none to be had. Past the
last page it is the last."""


class GiveOutDialog(QDialog):
    """Asks what leaves and how; `outgoing` holds it once accepted."""

    def __init__(
        self,
        parts: Sequence[str],
        now: str,
        drills: Sequence[tuple[str, str]],
        students: Sequence[tuple[str, str]],
        look: Preview,
        begin: Outgoing,
        choose: Callable[[], Path | None],
        parent: QWidget | None = None,
    ) -> None:
        super().__init__(parent)
        self.setWindowTitle("Give out")
        self.outgoing = begin
        self._look = look
        self.kinds = QListWidget()
        self.kinds.setAccessibleName("What is given out")
        for kind in KINDS:
            self.kinds.addItem(kind.name)
        self.says, self.preview = Label(), QLabel()
        self.says.setWordWrap(True)
        self.preview.setAlignment(Qt.AlignmentFlag.AlignTop | Qt.AlignmentFlag.AlignHCenter)
        self.preview.setMinimumSize(LOOK)
        self.preview.setAccessibleName("A look at it")
        self.page = 0
        self.pages = Label()
        self.pages.setAlignment(Qt.AlignmentFlag.AlignHCenter)
        self.part = QComboBox()
        self.part.addItems([*parts])
        self.part.setCurrentText(now)
        self.side, self.mirrored = QCheckBox("The other side"), QCheckBox("As one sees it who stands opposite")
        self.paper = QComboBox()
        for name, size in (("A4", "A4"), ("Letter", "Letter"), ("A6, for a pocket", "A6")):
            self.paper.addItem(name, size)
        self.paper.setCurrentIndex(self.paper.findData(begin.paper))
        self.hall = QCheckBox("In letters to be read across a hall")
        # On paper none is nothing; with a pack none is usual.
        self.drill, self.ticked = QComboBox(), QComboBox()
        self.ticked.addItem("no drill", "")
        for key, name in drills:
            self.drill.addItem(name, key)
            self.ticked.addItem(name, key)
        if not drills:
            self.drill.addItem("no drill yet", "")
        self.language = QComboBox()
        for name, code in (("English", ""), ("Spanish", "es"), ("French", "fr")):
            self.language.addItem(name, code)
        self.tempo, self.climb, self.days = QSpinBox(), QSpinBox(), QSpinBox()
        self.tempo.setRange(SLOWEST, FASTEST)
        self.tempo.setValue(round(begin.tempo) or 120)
        # Below the slowest: no ladder.
        self.climb.setRange(SLOWEST - 1, FASTEST)
        self.climb.setSpecialValueText("no other")
        self.days.setRange(0, 28)
        self.voice = QCheckBox("With spoken counts and beats")
        self.voice.setChecked(True)
        self.student = QComboBox()
        self.student.addItem("nobody in particular", "")
        for key, name in students:
            self.student.addItem(name, key)
        if students:
            self.student.addItem("each of them, a file each", EVERYONE)
        self.by, self.licence, self.note = (QLineEdit(text) for text in (begin.by, begin.licence, begin.note))
        self.spoken, self.clip = QPushButton(), QCheckBox("With the picture of its clip")
        self._choose, self._spoken = choose, begin.spoken
        self.spoken.clicked.connect(self._choose_voice)
        self._show_voice()
        self._fields: dict[Asked, tuple[str, QWidget]] = {
            "part": ("&Of", self.part), "side": ("", self.side), "mirrored": ("", self.mirrored),
            "drill": ("&Drill", self.drill), "paper": ("Pa&per", self.paper), "hall": ("", self.hall),
            "language": ("&Language", self.language), "tempo": ("&Tempo", self.tempo),
            "climb": ("&Up to, by 4, both sides", self.climb), "voice": ("", self.voice),
            "student": ("&For", self.student), "ticked": ("To tic&k", self.ticked),
            "days": ("Days o&f practice", self.days), "by": ("&Made by", self.by),
            "licence": ("L&icence line", self.licence), "note": ("&Note to them", self.note),
            "spoken": ("Your &voice", self.spoken), "clip": ("", self.clip),
        }  # fmt: skip
        self._lay_out()
        for turning, by in ((Qt.Key.Key_PageUp, -1), (Qt.Key.Key_PageDown, 1)):
            QShortcut(QKeySequence(turning), self).activated.connect(partial(self.turn_page, by))
        self.kinds.currentRowChanged.connect(self._chosen)
        self.kinds.setCurrentRow([k.id for k in KINDS].index(begin.kind.id))
        for box in (self.part, self.drill, self.paper, self.language, self.student):
            box.currentIndexChanged.connect(self._show)
        for check in (self.side, self.mirrored, self.hall):
            check.toggled.connect(self._show)
        self.kinds.setFocus()

    def _lay_out(self) -> None:
        self.form = QFormLayout()
        self.form.setVerticalSpacing(8)
        self.form.setHorizontalSpacing(20)
        for label, field in self._fields.values():
            self.form.addRow(label, field)
            # As high as its text needs: in a form that is too small nothing is pressed together.
            field.ensurePolished()
            field.setMinimumHeight(max(36, field.sizeHint().height()))
        self.print_button, self.write_button = QPushButton("&Print…"), QPushButton("&Write it…")
        self.leave_button = QPushButton("Leave it")
        self.print_button.clicked.connect(lambda: self._end(printed=True))
        self.write_button.clicked.connect(lambda: self._end(printed=False))
        self.leave_button.clicked.connect(self.reject)
        asked = QWidget()
        how = QVBoxLayout(asked)
        how.setContentsMargins(0, 0, 8, 0)
        how.setSpacing(14)
        how.addWidget(self.says)
        how.addLayout(self.form)
        how.addStretch(1)
        # In large text there is more than a small screen holds.
        rolled = QScrollArea()
        rolled.setFrameShape(QScrollArea.Shape.NoFrame)
        rolled.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        rolled.setWidgetResizable(True)
        rolled.setWidget(asked)
        buttons = QHBoxLayout()
        buttons.addStretch(1)
        for button in (self.leave_button, self.write_button, self.print_button):
            buttons.addWidget(button)
        across = QHBoxLayout()
        across.setSpacing(20)
        self.kinds.ensurePolished()
        self.kinds.setMinimumWidth(max(210, self.kinds.sizeHintForColumn(0) + 30))
        self.kinds.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        across.addWidget(self.kinds, 2)
        across.addWidget(rolled, 4)
        look = QVBoxLayout()
        look.addWidget(self.preview)
        look.addWidget(self.pages)
        look.addStretch(1)
        across.addLayout(look, 3)
        box = QVBoxLayout(self)
        box.addLayout(across, 1)
        box.addLayout(buttons)
        self.setMinimumSize(1_000, 660)

    def _chosen(self, row: int) -> None:
        kind = KINDS[row]
        self.says.setText(kind.says)
        self.page = 0
        for asked, (_, field) in self._fields.items():
            self.form.setRowVisible(field, asked in kind.asks)
        self.print_button.setVisible(kind.printed)
        usual = self.print_button if kind.printed else self.write_button
        usual.setDefault(True)
        for button in (self.print_button, self.write_button):
            button.setProperty("next", "true" if button is usual else "false")
            button.style().polish(button)
        self._show()

    def _now(self) -> Outgoing:
        kind = KINDS[max(0, self.kinds.currentRow())]
        return replace(
            self.outgoing,
            kind=kind,
            part=self.part.currentText(),
            swapped="side" in kind.asks and self.side.isChecked(),
            mirrored="mirrored" in kind.asks and self.mirrored.isChecked(),
            paper=self.paper.currentData(),
            hall=self.hall.isChecked(),
            drill=str(self.drill.currentData() or ""),
            ticked=str(self.ticked.currentData() or ""),
            language=str(self.language.currentData() or ""),
            tempo=float(self.tempo.value()),
            climb=float(self.climb.value()) if self.climb.value() >= SLOWEST else 0.0,
            counts=self.voice.isChecked(),
            student=str(self.student.currentData() or ""),
            by=self.by.text().strip(),
            licence=self.licence.text().strip(),
            note=self.note.text().strip(),
            spoken=self._spoken,
            clip=self.clip.isChecked(),
            days=self.days.value(),
        )

    def _choose_voice(self) -> None:
        """Choose a recording of the teacher's voice; one that was chosen is taken out again."""
        path = None if self._spoken else self._choose()
        self._spoken = str(path) if path is not None else ""
        self._show_voice()

    def _show_voice(self) -> None:
        name = Path(self._spoken).name
        self.spoken.setText(f"{name}: leave it out".replace("&", "&&") if name else "Choose a recording…")

    def turn_page(self, by: int) -> None:
        """Look at another page."""
        self.page = max(0, self.page + by)
        self._show()

    def _show(self) -> None:
        seen = self._look(self._now(), self.page)
        self.preview.setVisible(seen is not None)
        self.pages.setVisible(seen is not None and seen[1] > 1)
        if seen is not None:
            image, many = seen
            self.page = min(self.page, many - 1)
            self.pages.setText(f"Page {self.page + 1} of {many}   PgUp, PgDown")
            scaled = image.scaled(
                LOOK, Qt.AspectRatioMode.KeepAspectRatio, Qt.TransformationMode.SmoothTransformation
            )
            sheet = QPixmap.fromImage(scaled)
            painter = QPainter(sheet)
            # White paper on a white ground has an edge.
            painter.setPen(QColor(EDGE))
            painter.drawRect(sheet.rect().adjusted(0, 0, -1, -1))
            painter.end()
            self.preview.setPixmap(sheet)

    def _end(self, *, printed: bool) -> None:
        self.outgoing = replace(self._now(), printed=printed)
        super().accept()

    def accept(self) -> None:
        """Paper is printed where nothing else was said; all else is written."""
        self._end(printed=self._now().kind.printed)
