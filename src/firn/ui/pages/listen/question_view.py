"""The student's own ear first: a question, its answers, and how the ear has done."""

from collections.abc import Sequence
from itertools import pairwise
from typing import TYPE_CHECKING

from PySide6.QtCore import Signal
from PySide6.QtGui import QFont
from PySide6.QtWidgets import QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from firn.core.script.combo import ordinal
from firn.ui.theme.theme import Theme
from firn.ui.widgets.labels import Label

if TYPE_CHECKING:
    from firn.core.ear.quiz import Question

ORDINALS = ("first", "second", "third", "fourth", "fifth", "sixth", "seventh", "eighth")


def _which(time: int) -> str:
    """A time through: the first ones in words."""
    return ORDINALS[time - 1] if time <= len(ORDINALS) else ordinal(time)


def question_text(question: "Question") -> str:
    """A question in words."""
    if question.kind == "what_missing":
        return "Was a sound missing? Which?"
    times = question.values.get("times")
    time = f", the {_which(int(times))} time" if times else ""
    if question.kind == "early_or_late":
        return f"The {question.values['sound']}{time}: early, on time or late?"
    return f"How many sounds from {question.values['from']} up to {question.values['to']}{time}, both counted?"


class QuestionView(QWidget):
    """Asks one question after another. `answered`: what was asked, and whether rightly; `done`: none is left."""

    answered = Signal(str, bool)
    done = Signal()
    wants_sound = Signal(object)

    def __init__(self, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._theme = theme
        self._questions: list[Question] = []
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
        answers.addWidget(self.told, 1)
        box = QVBoxLayout(self)
        box.setContentsMargins(24, 10, 24, 8)
        box.setSpacing(6)
        box.addWidget(self.heading)
        box.addLayout(words)
        box.addLayout(answers)
        theme.changed.connect(self._restyle)
        self._restyle()

    def _restyle(self) -> None:
        self.heading.setFont(self._theme.font(15, QFont.Weight.DemiBold))
        self.asked.setFont(self._theme.font(18))
        self.told.setFont(self._theme.font(16, QFont.Weight.Medium))

    @property
    def question(self) -> "Question | None":
        return self._questions[0] if self._questions else None

    def _ask_sound(self) -> None:
        if self.question is not None:
            self.wants_sound.emit(self.question)

    def ask(self, questions: Sequence["Question"]) -> None:
        """Ask these one by one."""
        self._questions = list(questions)
        self.told.setText("")
        self._show()

    def _show(self) -> None:
        for button in self.buttons:
            self._row.removeWidget(button)
            button.deleteLater()
        self.buttons = []
        question = self.question
        self.setVisible(question is not None)
        if question is None:
            return
        self.asked.setText(question_text(question))
        for number, answer in enumerate(question.answers):
            shown = answer if question.kind == "how_many" else f"{number + 1}  {answer}"
            button = QPushButton(shown.replace("&", "&&"))
            button.setAccessibleName(f"Answer: {answer}")
            button.clicked.connect(lambda _=False, n=number: self.answer(n))
            self._row.addWidget(button)
            self.buttons.append(button)
        for before, after in pairwise([self.skip, *self.buttons]):
            QWidget.setTabOrder(before, after)

    def answer_key(self, digit: int) -> bool:
        """Answer by a digit key: the number itself where numbers are asked for, else the answer of that number."""
        question = self.question
        if question is None:
            return False
        if question.kind == "how_many":
            number = question.answers.index(str(digit)) if str(digit) in question.answers else -1
        else:
            number = digit - 1
        self.answer(number)
        return 0 <= number < len(question.answers)

    def answer(self, number: int) -> None:
        """Give an answer, from 0."""
        question = self.question
        if question is None or not 0 <= number < len(question.answers):
            return
        right = number == question.right
        said, was = question.answers[number], question.answers[question.right]
        if question.kind == "how_many":
            told = f"{said}, you said. {'Right.' if right else f'{was} were there.'}"
        else:
            told = "Right." if right else f"Not quite: {was}."
        self._questions.pop(0)
        self.answered.emit(question.kind, right)
        self.told.setText(told)
        self._show()
        if self.question is None:
            self.done.emit()

    def leave(self) -> None:
        """Ask no more."""
        self._questions = []
        self._show()
        self.done.emit()
