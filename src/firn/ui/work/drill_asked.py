"""Questions by ear between the stages of a drill, asked from across the room."""

from collections.abc import Sequence
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject, Signal

from firn.core.book.edits import NoteAnswer
from firn.core.book.log import Answer
from firn.core.piece.piece import Part
from firn.session.fresh import now
from firn.ui.stand_back import AskedShown
from firn.ui.work.context import Context
from firn.ui.work.dancing import Dancing

if TYPE_CHECKING:
    from firn.core.ear.asked.question import Question


class DrillAsked(QObject):
    """Asks a round of questions about a part, and plays what is heard with each. `changed`: there is something else
    to show; `done`: none is left."""

    changed = Signal()
    done = Signal()

    def __init__(self, context: Context, dancing: Dancing) -> None:
        super().__init__(context.window)
        self._context, self._dancing = context, dancing
        self._left: Sequence[Question] = ()
        self._answers: list[bool] = []
        self._told = ""

    @property
    def on(self) -> bool:
        """Whether something is asked."""
        return bool(self._left)

    @property
    def score(self) -> str:
        """How the round has gone so far; nothing before the first answer."""
        return f"{sum(self._answers)} of {len(self._answers)} right by ear." if self._answers else ""

    @property
    def shown(self) -> AskedShown | None:
        """What is asked now."""
        if not self._left:
            return None
        from firn.core.ear.asked.question import answers_said, question_text

        question, number = self._left[0], len(self._answers)
        of = f"{number + 1} of {number + len(self._left)}"
        return AskedShown(of, question_text(question), tuple(answers_said(question)), self._told)

    def begin(self, part: Part, tempo: float, many: int) -> bool:
        """Ask about a part; whether there is anything to ask."""
        from firn.session.asking import ear_round

        self._left = ear_round(part, tempo, self._context.bridge.book.own_ear, many)
        self._answers, self._told = [], ""
        self.hear()
        return self.on

    def hear(self) -> None:
        """Play what is heard with the question, from its beginning."""
        if self._left:
            from firn.session.asking import heard_with

            self._dancing.play_samples(heard_with(self._left[0]))

    def answer(self, digit: int) -> None:
        """Answer by a digit key; one that stands for no answer says nothing."""
        from firn.core.ear.asked.question import picked, told_of

        question = self._left[0] if self._left else None
        number = picked(question, digit) if question is not None else None
        if question is None or number is None:
            return
        right = number == question.right
        self._answers.append(right)
        self._told = told_of(question, number)
        self._left = self._left[1:]
        bridge = self._context.bridge
        if not bridge.session.store.read_only:
            self._context.do(NoteAnswer(Answer(question.kind, right, now(), bridge.book.who)))
        if self._left:
            self.hear()
            self.changed.emit()
        else:
            self.done.emit()

    def leave(self) -> None:
        """Ask no more."""
        if self._left:
            self._left = ()
            self._dancing.stop()
