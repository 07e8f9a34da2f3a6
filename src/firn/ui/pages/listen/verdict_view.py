"""The verdict in words: what to mend first, and how the take was as a whole."""

from collections.abc import Sequence
from typing import TYPE_CHECKING

from PySide6.QtCore import Qt
from PySide6.QtGui import QFont
from PySide6.QtWidgets import QVBoxLayout, QWidget

from firn.ui.theme.theme import Theme
from firn.ui.widgets.labels import Label

if TYPE_CHECKING:
    from firn.core.ear.verdict import Verdict


class VerdictView(QWidget):
    """The sentence that names the one thing to mend first, and a line for the whole."""

    def __init__(self, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._theme = theme
        self.doubt = Label()
        self.heading = Label("Mend this first")
        self.first = Label()
        self.remedy = Label()
        self.whole = Label()
        self.facts = Label()
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.setSpacing(6)
        for label in (self.doubt, self.heading, self.first, self.remedy, self.whole, self.facts):
            label.setWordWrap(True)
            label.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByKeyboard)
            label.setFocusPolicy(Qt.FocusPolicy.NoFocus)
            box.addWidget(label)
        theme.changed.connect(self._restyle)
        self._restyle()

    def _restyle(self) -> None:
        self.heading.setFont(self._theme.font(15, QFont.Weight.DemiBold))
        self.first.setFont(self._theme.font(21, QFont.Weight.DemiBold))
        self.doubt.setFont(self._theme.font(16, QFont.Weight.DemiBold))
        self.doubt.setStyleSheet(f"color: {self._theme.tokens.look}")
        for label in (self.remedy, self.whole, self.facts):
            label.setFont(self._theme.font(15))
            label.setStyleSheet(f"color: {self._theme.tokens.quiet}")

    def show_verdict(self, verdict: "Verdict | None", part: str, facts: Sequence[str] = ()) -> None:
        """Say a verdict on a take of a part, what is in doubt first, and what there is to say of the whole take; None
        clears it."""
        self.setVisible(verdict is not None)
        if verdict is None:
            return
        from firn.core.ear.doubts import doubts
        from firn.core.ear.words import mend_sentence, summary

        doubted = doubts(part, verdict)
        self.doubt.setText("\n".join(doubted) + ("  B: the other start." if verdict.others else ""))
        self.doubt.setVisible(bool(doubted))
        clean = verdict.mend.code == "clean"
        heard = "" if verdict.mend.values.get("unheard") == "0" else ", as far as it is heard"
        self.heading.setText(f"Nothing to mend{heard}" if clean else "Mend this first")
        self.first.setText(mend_sentence(verdict.mend))
        self.remedy.setText(verdict.mend.remedy)
        self.remedy.setVisible(bool(verdict.mend.remedy))
        passes = "" if verdict.passes == 1 else f" over {verdict.passes} times through"
        self.whole.setText(summary(verdict).removesuffix(".") + passes + ".")
        self.facts.setText("\n".join(f"–  {fact}" for fact in facts))
        self.facts.setVisible(bool(facts))
