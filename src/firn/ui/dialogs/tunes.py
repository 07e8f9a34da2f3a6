"""Which tunes of a folder suit the part or the combo, the best first, one of which is taken."""

from collections.abc import Sequence

from PySide6.QtWidgets import QWidget

from firn.core.combos.tunes import Suits
from firn.core.steps.names import fold
from firn.core.tune.tune import Tune
from firn.ui.dialogs.choosing import ChoosingDialog

WIDTH, HEIGHT = 820, 480


class TunesDialog(ChoosingDialog):
    """Lists tunes by what is typed, each with the reasons; `file` is the name of the one that is taken. `what` they
    are to suit; `left_out`: how many files are no tunes."""

    def __init__(
        self, found: Sequence[tuple[str, Tune, Suits]], what: str, left_out: int, parent: QWidget | None = None
    ) -> None:
        super().__init__("Which of my tunes suit", "Dance to it", parent)
        self.resize(WIDTH, HEIGHT)
        self._all, self._what, self._left_out = found, what, left_out
        self._shown: Sequence[tuple[str, Tune, Suits]] = ()
        self.file = ""
        self.word.setPlaceholderText("a tune, a meter, fits")
        self.word.setAccessibleName("What to look for")
        self.list.setAccessibleName("Tunes")
        self.look()

    def looked(self, wanted: str) -> tuple[Sequence[str], str]:
        rows = [(one, tune_said(*one)) for one in self._all]
        words = fold(wanted).split()
        kept = [(one, said) for one, said in rows if all(word in fold(said) for word in words)]
        self._shown = [one for one, _ in kept]
        self.take.setEnabled(bool(kept))
        fits = sum(suits.verdict == "fits" for _, _, suits in self._shown)
        lost = f" {self._left_out} cannot be read." if self._left_out else ""
        many = len(self._all)
        fit = "tune fits" if many == 1 else "tunes fit"
        said = f"{fits} of {many} {fit} {self._what}; the others by how far they are off.{lost}"
        return [said for _, said in kept], said

    def accept(self) -> None:
        """Take the tune that is chosen, where there is one."""
        if self.row is not None:
            self.file = self._shown[self.row][0]
            super().accept()


def tune_said(file: str, tune: Tune, suits: Suits) -> str:
    """A tune in a line: how it suits, its name and file, its form, tempo and why."""
    tempo = f" at {tune.tempo:g}" if tune.tempo else ""
    return f"{suits.verdict.replace('_', ' ')}: {tune.name} ({file}), {tune.form}{tempo}. {' '.join(suits.why)}"
