"""Everything the window asks in a dialog, in one place, so that a test can answer instead."""

import re
from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING, Literal

from firn.files.whole import is_there

if TYPE_CHECKING:
    # Dialogs are made when something is asked, not when Firn starts.
    from PySide6.QtCore import Qt
    from PySide6.QtPrintSupport import QPrinter
    from PySide6.QtWidgets import QDialog, QMenu, QMessageBox, QPushButton, QWidget

Instead = Literal["open", "new", "none"]
"""What to do in place of opening a workbook that cannot be opened."""


def with_ending(path: Path, kinds: str, name: str) -> Path:
    """A place for a file with one of the endings that `kinds` offers, else with the ending of `name` added."""
    offered = [e.casefold() for e in re.findall(r"\*(\.[\w.]+)", kinds)]
    if any(path.name.casefold().endswith(e) and path.name.casefold() != e for e in offered):
        return path
    return path.with_name(path.name + Path(name).suffix)


class Prompts:
    """Asks the user; each method gives None (or False) where the user does not want to.

    Files are asked for in the folder in which the last one was; `keep` is told each time that it is another. `dress`
    gives each dialog its look.
    """

    def __init__(
        self,
        folder: str = "",
        *,
        keep: Callable[[str], None] = lambda folder: None,
        dress: "Callable[[QWidget], None]" = lambda dialog: None,
    ) -> None:
        self._folder, self._keep, self._dress = folder, keep, dress

    def _gone_to(self, folder: Path) -> None:
        if str(folder) != self._folder:
            self._folder = str(folder)
            self._keep(self._folder)

    def name(self, parent: "QWidget", title: str, label: str, now: str) -> str | None:
        """A name."""
        from PySide6.QtWidgets import QInputDialog

        dialog = QInputDialog(parent)
        dialog.setWindowTitle(title)
        dialog.setLabelText(label)
        dialog.setTextValue(now)
        return dialog.textValue() if self.run(dialog) else None

    def tempo(self, parent: "QWidget", now: float) -> float | None:
        """Counts a minute."""
        from firn.ui.dialogs.tempo import TempoDialog

        dialog = TempoDialog(now, parent)
        return dialog.tempo if self.run(dialog) else None

    def open_file(self, parent: "QWidget | None", title: str, kinds: str) -> Path | None:
        """A file that is there."""
        from PySide6.QtWidgets import QFileDialog

        name, _ = QFileDialog.getOpenFileName(parent, title, self._folder, kinds)
        if not name:
            return None
        self._gone_to(Path(name).parent)
        return Path(name)

    def save_file(self, parent: "QWidget | None", title: str, kinds: str, name: str) -> Path | None:
        """Where to write a file, with its ending; one that is there is only given if it may be replaced."""
        return self._place(parent, title, kinds, name, self.replace)

    def new_file(self, parent: "QWidget | None", title: str, kinds: str, name: str) -> Path | None:
        """Where to make a file that is not there yet, with its ending."""

        def refuse(parent: "QWidget | None", path: Path) -> bool:
            self.tell(parent, title, f"{path.name} is there already: choose another name, or open it.")
            return False

        return self._place(parent, title, kinds, name, refuse)

    def _place(
        self,
        parent: "QWidget | None",
        title: str,
        kinds: str,
        name: str,
        there: "Callable[[QWidget | None, Path], bool]",
    ) -> Path | None:
        from PySide6.QtWidgets import QFileDialog

        dialog = QFileDialog(parent, title, self._folder, kinds)
        dialog.setAcceptMode(QFileDialog.AcceptMode.AcceptSave)
        # Asked below instead, of the name with its ending.
        dialog.setOption(QFileDialog.Option.DontConfirmOverwrite)
        dialog.selectFile(name)
        try:
            while self.answered(dialog):
                path = with_ending(Path(dialog.selectedFiles()[0]), kinds, name)
                if not is_there(path) or there(parent, path):
                    self._gone_to(path.parent)
                    return path
            return None
        finally:
            dialog.deleteLater()

    def replace(self, parent: "QWidget | None", path: Path) -> bool:
        """Whether a file that is there may be replaced."""
        from PySide6.QtWidgets import QMessageBox

        box = QMessageBox(QMessageBox.Icon.Question, "There already", "", parent=parent)
        box.setTextFormat(_plain())
        box.setText(f"{path.name} is there already, in {path.parent.name or path.parent}.")
        box.setInformativeText("Replace it? What it holds is then gone.")
        yes = box.addButton("Replace", QMessageBox.ButtonRole.DestructiveRole)
        return self._chosen(box, box.addButton(QMessageBox.StandardButton.Cancel)) is yes

    def tell(self, parent: "QWidget | None", title: str, sentence: str) -> None:
        """Say something that must be read."""
        from PySide6.QtWidgets import QMessageBox

        box = QMessageBox(QMessageBox.Icon.Information, title, "", parent=parent)
        box.setTextFormat(_plain())
        box.setText(sentence)
        self.answered(box)
        box.deleteLater()

    def instead(self, sentence: str) -> Instead:
        """What to do in place of opening a workbook that cannot be opened, for the reason that `sentence` says."""
        from PySide6.QtWidgets import QMessageBox

        box = QMessageBox(QMessageBox.Icon.Warning, "Firn", "")
        box.setTextFormat(_plain())
        box.setText(sentence)
        box.setInformativeText("The file is left as it is. Open another workbook, or begin a new one?")
        another = box.addButton("Open another…", QMessageBox.ButtonRole.AcceptRole)
        new = box.addButton("New workbook…", QMessageBox.ButtonRole.AcceptRole)
        box.addButton("Close Firn", QMessageBox.ButtonRole.RejectRole)
        ended = self._chosen(box, another)
        return "open" if ended is another else "new" if ended is new else "none"

    def folder(self, parent: "QWidget", title: str) -> Path | None:
        """A folder."""
        from PySide6.QtWidgets import QFileDialog

        name = QFileDialog.getExistingDirectory(parent, title, self._folder)
        return Path(name) if name else None

    def leave(self, parent: "QWidget") -> bool:
        """Whether to leave a workbook whose last changes could not be kept."""
        from PySide6.QtWidgets import QMessageBox

        box = QMessageBox(QMessageBox.Icon.Question, "Not kept", "The last changes could not be kept.", parent=parent)
        box.setInformativeText("Leave without them? Save a copy keeps them.")
        leave = box.addButton("Leave", QMessageBox.ButtonRole.DestructiveRole)
        return self._chosen(box, box.addButton("Stay", QMessageBox.ButtonRole.RejectRole)) is leave

    def leave_demo(self, parent: "QWidget") -> Literal["keep", "leave", "stay"]:
        """What becomes of a demo in which something was written."""
        from PySide6.QtWidgets import QMessageBox

        box = QMessageBox(QMessageBox.Icon.Question, "The demo", "The demo goes with its window.", parent=parent)
        box.setInformativeText("Keep what you wrote in it as a workbook of yours?")
        keep = box.addButton("Keep it…", QMessageBox.ButtonRole.AcceptRole)
        leave = box.addButton("Let it go", QMessageBox.ButtonRole.DestructiveRole)
        box.addButton("Stay", QMessageBox.ButtonRole.RejectRole)
        ended = self._chosen(box, keep)
        return "keep" if ended is keep else "leave" if ended is leave else "stay"

    def _chosen(self, box: "QMessageBox", usual: "QPushButton") -> object:
        """The button that a question was answered with; Enter takes the usual one."""
        box.setDefaultButton(usual)
        self.answered(box)
        box.deleteLater()
        return box.clickedButton()

    def printer(self, parent: "QWidget", printer: "QPrinter") -> bool:
        """Which printer, and how; whether to print."""
        from PySide6.QtPrintSupport import QPrintDialog

        return self.run(QPrintDialog(printer, parent))

    def run(self, dialog: "QDialog") -> bool:
        """Show a dialog; whether it was accepted. It goes once what it holds has been read."""
        try:
            return self.answered(dialog)
        finally:
            dialog.deleteLater()

    def answered(self, dialog: "QDialog") -> bool:
        """Show a dialog until it is answered; whether it was accepted."""
        from PySide6.QtWidgets import QDialog

        self._dress(dialog)
        return dialog.exec() == QDialog.DialogCode.Accepted

    def menu(self, menu: "QMenu", under: "QWidget") -> None:
        """Show a menu under a widget."""
        self._dress(menu)
        menu.popup(under.mapToGlobal(under.rect().bottomLeft()))


def _plain() -> "Qt.TextFormat":
    from PySide6.QtCore import Qt

    # A file may be called anything, < and & included.
    return Qt.TextFormat.PlainText
