"""A part of another piece: of this workbook, or of another that is looked into."""

from collections.abc import Callable, Sequence

from PySide6.QtWidgets import QDialogButtonBox, QWidget

from firn.errors import FirnError
from firn.session.elsewhere import PartElsewhere, found_in
from firn.ui.dialogs.choosing import ChoosingDialog

WIDTH, HEIGHT = 720, 480


class ElsewhereDialog(ChoosingDialog):
    """Lists parts of other pieces by what is typed; `taken` is the one that is brought in.

    `look_into`: asks for another workbook, and gives its parts and what it is called; None where none was taken. It
    raises FirnError where that cannot be looked into.
    """

    def __init__(
        self,
        parts: Sequence[PartElsewhere],
        look_into: Callable[[], tuple[Sequence[PartElsewhere], str] | None],
        parent: QWidget | None = None,
    ) -> None:
        super().__init__("Bring in a part", "Bring it in", parent)
        self.resize(WIDTH, HEIGHT)
        self._parts, self._look_into, self._of = parts, look_into, "this workbook"
        self._found: Sequence[PartElsewhere] = ()
        self.taken: PartElsewhere | None = None
        self.word.setPlaceholderText("a piece, a part, a step")
        self.word.setAccessibleName("What to look for")
        self.list.setAccessibleName("Parts of other pieces")
        self.other = self.buttons.addButton("Another &workbook…", QDialogButtonBox.ButtonRole.ActionRole)
        self.other.setAutoDefault(False)
        self.other.clicked.connect(self._elsewhere)
        self.look()

    def _elsewhere(self) -> None:
        self.word.setFocus()
        try:
            found = self._look_into()
        except FirnError as fault:
            self.many.setText(str(fault))
            return
        if found is not None:
            self._parts, self._of = found
            self.look()

    def looked(self, wanted: str) -> tuple[Sequence[str], str]:
        self._found = found_in(self._parts, wanted)
        many = len(self._found)
        self.take.setEnabled(bool(many))
        said = f"{many} {'part' if many == 1 else 'parts'} of other pieces in {self._of}."
        return [one.said for one in self._found], said if many else f"None in {self._of}."

    def accept(self) -> None:
        """Take the part that is chosen, where there is one."""
        if self.row is not None:
            self.taken = self._found[self.row]
            super().accept()
