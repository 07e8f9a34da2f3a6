"""How a piece counts: its name, tradition, meter, feel, phrase, tempo and lead foot."""

from msgspec.structs import replace
from PySide6.QtWidgets import QComboBox, QLineEdit, QWidget

from firn.core.meter.count_in import COUNT_INS, CountIn
from firn.core.script.settings import Settings, read_settings, write_settings
from firn.core.steps.shelf import TRADITIONS
from firn.core.tune.tune import at_tempo
from firn.ui.dialogs.form import FormDialog, beside
from firn.ui.widgets.tap_button import TapButton

_CHOICES = {
    "tradition": ("Tradition", list(TRADITIONS), False),
    "meter": (
        "Meter",
        ["4/4", "3/4", "6/8", "2/4", "2/2", "9/8", "12/8", "5/4 as 3+2", "7/8 as 2+2+3", "12/4 as 3+3+2+2+2"],
        True,
    ),
    "feel": ("Feel", ["straight", "swing", "3:2"], True),
    "lone a": ("A lone “a”", ["as the feel has it", "triplet", "sixteenth"], False),
    "phrase": (
        "Phrase",
        ["as the meter has it", "4 counts", "6 counts", "8 counts", "12 counts", "16 counts"],
        True,
    ),
    "lead": ("Begins on the", ["right", "left"], False),
    "count in": ("Counted in by", [str(c) for c in (*COUNT_INS, CountIn(words=("ready", "go")))], True),
    "tally": ("Tally (2 2 3 4 …)", ["no", "yes"], False),
}
_DEFAULTS = {"as the feel has it", "as the meter has it", ""}


class CountingDialog(FormDialog):
    """Edits headings; `head` holds the new ones once accepted."""

    def __init__(self, settings: Settings, parent: QWidget | None = None) -> None:
        super().__init__("How it counts", parent)
        self.head, self._settings = "", settings
        self.name = QLineEdit(settings.name)
        self.tempo = QLineEdit(f"{settings.tempo:g}")
        self.tune = QLineEdit(settings.tune_said)
        self.tune.setPlaceholderText("Mill Race: intro 8 bars, AABB 8, at 116")
        rows: list[tuple[str, QWidget]] = [("&Name", self.name)]
        now = {
            "tradition": settings.tradition,
            "meter": str(settings.meter),
            "feel": settings.feel,
            "lone a": settings.lone_a or "as the feel has it",
            "phrase": f"{settings.phrase} counts" if settings.phrase else "as the meter has it",
            "lead": settings.lead,
            "count in": str(settings.count_in),
            "tally": "yes" if settings.tally else "no",
        }
        self.choices: dict[str, QComboBox] = {}
        for key, (label, values, free) in _CHOICES.items():
            box = QComboBox()
            box.addItems(values)
            box.setEditable(free)
            if now[key] not in values:
                box.addItem(now[key])
            box.setCurrentText(now[key])
            self.choices[key] = box
            rows.append((label, box))
        self.tap, self.tap_tune = TapButton("Ta&p it"), TapButton("Tap its temp&o")
        self.tap.tapped.connect(lambda tempo: self.tempo.setText(f"{tempo:g}"))
        self.tap_tune.tapped.connect(lambda tempo: self.tune.setText(at_tempo(self.tune.text(), tempo)))
        self.lay_out(
            [
                *rows,
                ("Tempo, counts a minute", beside(self.tempo, self.tap)),
                ("T&une", beside(self.tune, self.tap_tune)),
            ]
        )

    def accept(self) -> None:
        """Read what was typed as headings; say what is wrong and stay, or close."""
        name = " ".join(self.name.text().replace("#", " ").split())
        lines = [f"piece: {name}", f"tempo: {self.tempo.text().strip()}"]
        lines += [f"{k}: {b.currentText()}" for k, b in self.choices.items() if b.currentText() not in _DEFAULTS]
        lines += [f"tune: {said}"] if (said := self.tune.text().split("#")[0].strip()) else []
        settings, problems = read_settings(lines)
        if problems:
            self.wrong.setText(problems[0].message)
            return
        now = self._settings
        self.head = write_settings(replace(settings, words=now.words, sides=now.sides, handed=now.handed))
        super().accept()
