"""What students did at home, before it is kept: each file in a line; what is in doubt is asked, a key an answer."""

from collections.abc import Callable, Sequence
from functools import partial

from PySide6.QtCore import Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QDialog, QListWidget, QPushButton, QVBoxLayout, QWidget

from firn.session.found import Found
from firn.ui.widgets.labels import Label, shown
from firn.ui.widgets.room import WrappingRow

Settle = Callable[[Found, str | None, str], Found]
"""A file once it is said whose it is, or of which part."""

MOST_KEYS = 9


class BroughtDialog(QDialog):
    """Shows what was found and asks where there is doubt; `found` holds it all, settled as far as it was answered."""

    def __init__(
        self,
        found: Sequence[Found],
        students: Sequence[tuple[str, str]],
        parts: Sequence[str],
        settle: Settle,
        parent: QWidget | None = None,
    ) -> None:
        super().__init__(parent)
        self.setWindowTitle("What students did")
        self.found = list(found)
        self._students, self._parts, self._settle = [*students], [*parts], settle
        self._left: set[int] = set()
        self.rows = QListWidget()
        self.rows.setAccessibleName("What was found")
        self.rows.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.asked = Label()
        self.asked.setWordWrap(True)
        self.answers: list[QPushButton] = []
        self._answers = WrappingRow(8)
        self.keep = QPushButton("Keep what is sure  Enter")
        self.keep.setDefault(True)
        self.keep.setProperty("next", "true")
        self.keep.clicked.connect(self.accept)
        leave = QPushButton("Leave all  Esc")
        leave.clicked.connect(self.reject)
        end = WrappingRow()
        end.addWidget(leave)
        end.addWidget(self.keep)
        box = QVBoxLayout(self)
        box.addWidget(self.rows, 1)
        box.addWidget(self.asked)
        box.addLayout(self._answers)
        box.addLayout(end)
        self.setMinimumSize(760, 480)
        self._show()

    @property
    def _waiting(self) -> int | None:
        """The first file that waits for an answer."""
        return next(
            (n for n, f in enumerate(self.found) if f.doubt in ("whose", "which", "nothing") and n not in self._left),
            None,
        )

    def _show(self) -> None:
        names = dict(self._students)
        self.rows.clear()
        for one in self.found:
            self.rows.addItem(_line(one, names))
        waiting = self._waiting
        while self._answers.count():
            item = self._answers.takeAt(0)
            if item is not None and (widget := item.widget()) is not None:
                widget.deleteLater()
        self.answers = []
        if waiting is None:
            sure = sum(1 for f in self.found if not f.doubt and not f.known)
            self.asked.setText(f"{sure} to keep." if sure else "There is nothing new in it.")
            return
        one = self.found[waiting]
        self.rows.setCurrentRow(waiting)
        self.asked.setText(f"{one.path.name}: {one.why}")
        ways = [name for _, name in self._students] if one.doubt == "whose" else [*(one.also or self._parts)]
        for number, text in enumerate(ways[:MOST_KEYS], 1):
            self._offer(f"{shown(text)}  {number}", partial(self.answer, number))
        self._offer("Leave it  0", partial(self.answer, 0))

    def _offer(self, text: str, do: Callable[[], None]) -> None:
        button = QPushButton(text)
        button.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        button.setAutoDefault(False)
        button.clicked.connect(lambda _=False: do())
        self.answers.append(button)
        self._answers.addWidget(button)

    def answer(self, number: int) -> None:
        """Answer what is asked by a number; 0 leaves the file."""
        waiting = self._waiting
        if waiting is None or number >= len(self.answers):
            return
        one = self.found[waiting]
        if number == 0:
            self._left.add(waiting)
        elif one.doubt == "whose":
            self.found[waiting] = self._settle(one, self._students[number - 1][0], "")
        else:
            self.found[waiting] = self._settle(one, None, [*(one.also or self._parts)][number - 1])
        self._show()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        digit = event.key() - Qt.Key.Key_0
        if 0 <= digit <= MOST_KEYS and self._waiting is not None:
            self.answer(digit)
        else:
            super().keyPressEvent(event)


def _line(one: Found, names: dict[str, str]) -> str:
    """A file in a line."""
    who = names.get(one.student, "") if one.student is not None else ""
    if one.known:
        return f"{one.path.name}: brought in before"
    if one.doubt:
        return f"{one.path.name}: {one.why}"
    if one.did is not None:
        ticks, answers = len(one.did.ticks), len(one.did.answers)
        did = f"{ticks} of practice, {answers} answers"
        return " ".join((f"{one.path.name}: {who}, {did}.", *one.told))
    on = sum(j.heard == "on" for j in one.judged)
    heard = f"{one.name} at {one.tempo:g}, {on} of {len(one.judged)} on"
    return " ".join((f"{one.path.name}: {who}, {heard}.", *one.told))
