"""What words mean to a teacher, where schools disagree, and which foot R and L name."""

from msgspec.structs import replace
from PySide6.QtWidgets import QCheckBox, QComboBox, QLineEdit, QWidget

from firn.core.script.settings import Settings, read_settings, words_text, write_settings
from firn.core.steps.disputed import DISPUTED
from firn.core.steps.names import fold
from firn.core.steps.shelf import APART, TOGETHER, Shelf
from firn.ui.dialogs.form import FormDialog

SIDES = ("working foot", "standing foot")
HANDS = ("right", "left")


class WordsDialog(FormDialog):
    """Asks for the words of a piece; `settings` holds them once accepted, `always` is for new pieces too."""

    def __init__(self, settings: Settings, shelf: Shelf, parent: QWidget | None = None) -> None:
        super().__init__("What words mean", parent, width=680)
        self.settings, self._shelf = settings, shelf.plain
        now = dict(settings.words)
        self.choices: dict[str, QComboBox] = {}
        rows: list[tuple[str, QWidget]] = []
        for word, meanings in DISPUTED.items():
            box = QComboBox()
            box.addItems(list(meanings))
            meant = now.pop(word, meanings[0])
            if meant not in meanings:
                box.addItem(meant)
            box.setCurrentText(meant)
            self.choices[word] = box
            rows.append((f"“{word}” is", box))
        self.others = QLineEdit(words_text(tuple(now.items())))
        self.others.setPlaceholderText("latch is ball change, latch turn is pivot")
        self.sides = QComboBox()
        self.sides.addItems([f"the {s}" for s in SIDES])
        self.sides.setCurrentIndex(SIDES.index(settings.sides))
        self.handed = QComboBox()
        self.handed.addItems([f"the {h} hand" for h in HANDS])
        self.handed.setCurrentIndex(HANDS.index(settings.handed))
        self.always = QCheckBox("New pieces have these words, too")
        below = [
            ("&Other words", self.others), ("&R and L name", self.sides), ("The hand that &leads", self.handed),
            ("", self.always),
        ]  # fmt: skip
        self.lay_out(below, above=rows)

    def accept(self) -> None:
        """Read the words; say what is wrong and stay, or close."""
        said = [f"{w} is {b.currentText()}" for w, b in self.choices.items() if b.currentText() != DISPUTED[w][0]]
        if self.others.text().strip(" ,"):
            said.append(self.others.text().strip(" ,"))
        lines = [f"words: {', '.join(said)}"] if said else []
        read, problems = read_settings([*lines, f"sides: {SIDES[self.sides.currentIndex()]}"])
        if problems:
            self.wrong.setText(problems[0].message)
            return
        named = [name for _, name in read.words if name not in (APART, TOGETHER)]
        missing = next((n for n in named if self._shelf.called_so(n, self.settings.tradition) is None), None)
        if missing is not None:
            near = ", ".join(self._shelf.nearest(missing))
            self.wrong.setText(f"No step is called “{missing}”.{f' Nearest: {near}.' if near else ''}")
            return
        if len({fold(w) for w, _ in read.words}) < len(read.words):
            self.wrong.setText("A word is there twice.")
            return
        handed = HANDS[self.handed.currentIndex()]
        self.settings = replace(self.settings, words=read.words, sides=read.sides, handed=handed)
        super().accept()

    @property
    def head(self) -> str:
        """The piece's headings with these words."""
        return write_settings(self.settings)
