"""The student's own ear first: a question, its answers, and how the ear has done."""

from collections.abc import Sequence
from itertools import pairwise
from typing import TYPE_CHECKING

from PySide6.QtCore import Signal
from PySide6.QtGui import QFont
from PySide6.QtWidgets import QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from firn.core.ear.asked.question import answers_said, picked, question_text, told_of
from firn.ui.theme.theme import Theme
from firn.ui.widgets.labels import Label

if TYPE_CHECKING:
    from firn.core.ear.asked.question import Question


class QuestionView(QWidget):
    """Asks one question after another. `answered`: what was asked, and whether rightly; `done`: none is left."""

    answered = Signal(str, bool)
    done = Signal()
    wants_sound = Signal(object)

    def __init__(self, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._theme = theme
        self._questions: list[Question] = []
        self._answers: list[bool] = []
        self.is_round = self._was_round = False
        self.heading = Label("Your ear first")
        self.asked = Label()
        self.asked.setWordWrap(True)
        self.told = Label()
        self.told.setWordWrap(True)
        self.hear = QPushButton("Hear it  E")
        self.hear.setProperty("next", "true")
        self.hear.clicked.connect(self._ask_sound)
        self.skip = QPushButton("Show the verdict  K")
        self.skip.clicked.connect(self.leave)
        self.buttons: list[QPushButton] = []
        self._row = QHBoxLayout()
        self._row.setSpacing(10)
        words = QHBoxLayout()
        words.setSpacing(16)
        words.addWidget(self.asked, 1)
        words.addWidget(self.hear)
        words.addWidget(self.skip)
        answers = QHBoxLayout()
        answers.addLayout(self._row)
        answers.addStretch(1)
        self._box = box = QVBoxLayout(self)
        box.setContentsMargins(24, 10, 24, 8)
        box.addWidget(self.heading)
        box.addLayout(words)
        box.addLayout(answers)
        box.addWidget(self.told)
        theme.changed.connect(self._restyle)
        self._restyle()

    def _restyle(self) -> None:
        self.heading.setFont(self._theme.font(15, QFont.Weight.DemiBold))
        # A round has the room of the strip that would give its answers away.
        self._box.setSpacing(20 if self.is_round else 6)
        self.asked.setFont(self._theme.font(28 if self.is_round else 18))
        self.told.setFont(self._theme.font(20 if self.is_round else 16, QFont.Weight.Medium))
        for button in self.buttons:
            button.setFont(self._theme.font(22 if self.is_round else 16, QFont.Weight.DemiBold))

    @property
    def question(self) -> "Question | None":
        return self._questions[0] if self._questions else None

    def _ask_sound(self) -> None:
        if self.question is not None:
            self.wants_sound.emit(self.question)

    def ask(self, questions: Sequence["Question"], *, is_round: bool = False) -> None:
        """Ask these one by one; a round is about the model, and comes before no verdict."""
        self._questions, self._answers, self.is_round = list(questions), [], is_round
        self._was_round = is_round
        self.skip.setText("Enough  K" if is_round else "Show the verdict  K")
        self.told.setText("")
        self._show()

    def _show(self) -> None:
        self.told.setVisible(bool(self.told.text()))
        if any(button.hasFocus() for button in self.buttons):
            self.hear.setFocus()
        for button in self.buttons:
            self._row.removeWidget(button)
            button.hide()
            button.deleteLater()
        self.buttons = []
        question = self.question
        self.setVisible(question is not None)
        if question is None:
            return
        of = f"   {len(self._answers) + 1} of {len(self._answers) + len(self._questions)}" if self.is_round else ""
        self.heading.setText(f"{'By ear' if self.is_round else 'Your ear first'}{of}")
        self.asked.setText(question_text(question))
        for number, (answer, shown) in enumerate(zip(question.answers, answers_said(question), strict=True)):
            button = QPushButton(shown.replace("&", "&&"))
            button.setAccessibleName(f"Answer: {answer}")
            button.clicked.connect(lambda _=False, n=number: self.answer(n))
            self._row.addWidget(button)
            self.buttons.append(button)
        self._restyle()
        for before, after in pairwise([self.skip, *self.buttons]):
            QWidget.setTabOrder(before, after)

    def answer_key(self, digit: int) -> bool:
        """Answer by a digit key: the number itself where numbers are asked for, else the answer of that number."""
        question = self.question
        number = picked(question, digit) if question is not None else None
        if number is None:
            return False
        self.answer(number)
        return True

    def answer(self, number: int) -> None:
        """Give an answer, from 0."""
        question = self.question
        if question is None or not 0 <= number < len(question.answers):
            return
        right = number == question.right
        told = told_of(question, number)
        self._questions.pop(0)
        self._answers.append(right)
        self.answered.emit(question.kind, right)
        self.told.setText(told)
        self._show()
        if self.question is None:
            self.done.emit()

    @property
    def score(self) -> str:
        """How a round that was just ended went; nothing where none was."""
        if self._questions or not self._answers or not self._was_round:
            return ""
        return f"{sum(self._answers)} of {len(self._answers)} right."

    def leave(self) -> None:
        """Ask no more."""
        self._questions = []
        self._show()
        self.done.emit()
