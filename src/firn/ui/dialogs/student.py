"""A student of the workbook: what they are called, and how they practise."""

from msgspec.structs import replace
from PySide6.QtWidgets import QCheckBox, QLineEdit, QWidget

from firn.core.book.book import Book
from firn.core.book.practice_edits import checked_student
from firn.core.book.students import Student
from firn.core.drills.stage import StageSides
from firn.errors import FirnError
from firn.session.cards import LANGUAGES
from firn.ui.dialogs.form import LEVELS, FormDialog, choice

SIDES: dict[str, StageSides] = {"both sides": "both sides", "as written": "as written", "the other": "other side"}


class StudentDialog(FormDialog):
    """Asks for a student; `student` holds them once accepted."""

    def __init__(self, book: Book, student: Student, parent: QWidget | None = None) -> None:
        super().__init__("Student", parent)
        self.student, self._book = student, book
        self.name = QLineEdit(student.name)
        self.name.setPlaceholderText("a name or initials")
        self.tempo = QLineEdit(f"{student.tempo:g}" if student.tempo else "")
        self.tempo.setPlaceholderText("that of the piece")
        self.sides = choice(SIDES, student.sides)
        self.level = choice(LEVELS, student.level)
        languages = {"not said": "", **{name: code for code, name in LANGUAGES.items()}}
        self._languages = languages
        self.language = choice(languages, student.language)
        self.mirrored = QCheckBox("shown as in a &mirror")
        self.mirrored.setChecked(student.mirrored)
        self.lay_out(
            [
                ("&Name", self.name), ("&Practises on", self.sides), ("", self.mirrored),
                ("&Tempo to reach", self.tempo), ("&Level at most", self.level),
                ("L&anguage of steps", self.language),
            ],
            "Log, takes, answers and drills that are made while a student practises are theirs. They stay in this "
            "workbook; ask before you keep anybody's recordings.",
        )  # fmt: skip

    def accept(self) -> None:
        """Read the fields; say what is wrong and stay, or close."""
        typed = self.tempo.text().strip().replace(",", ".")
        try:
            tempo = float(typed) if typed else 0.0
        except ValueError:
            self.wrong.setText("The tempo is written in numbers.")
            return
        student = replace(
            self.student, name=self.name.text(), sides=SIDES[self.sides.currentText()],
            mirrored=self.mirrored.isChecked(), level=LEVELS[self.level.currentText()],
            language=self._languages[self.language.currentText()], tempo=tempo,
        )  # fmt: skip
        try:
            self.student = checked_student(self._book, student)
        except FirnError as fault:
            self.wrong.setText(str(fault))
            return
        super().accept()
