"""Everything the window asks in a dialog, in one place, so that a test can answer instead."""

from pathlib import Path
from typing import TYPE_CHECKING

from firn.core.meter.tempo import FASTEST, SLOWEST

if TYPE_CHECKING:
    # Dialogs are made when something is asked, not when Firn starts.
    from PySide6.QtPrintSupport import QPrinter
    from PySide6.QtWidgets import QDialog, QMenu, QWidget


class Prompts:
    """Asks the user; each method gives None (or False) where the user does not want to."""

    def name(self, parent: "QWidget", title: str, label: str, now: str) -> str | None:
        """A name."""
        from PySide6.QtWidgets import QInputDialog

        text, ok = QInputDialog.getText(parent, title, label, text=now)
        return text if ok else None

    def tempo(self, parent: "QWidget", now: float) -> float | None:
        """Counts a minute."""
        from PySide6.QtWidgets import QInputDialog

        value, ok = QInputDialog.getDouble(parent, "Tempo", "Counts a minute", now, SLOWEST, FASTEST, 1)
        return value if ok else None

    def open_file(self, parent: "QWidget", title: str, kinds: str) -> Path | None:
        """A file that is there."""
        from PySide6.QtWidgets import QFileDialog

        name, _ = QFileDialog.getOpenFileName(parent, title, "", kinds)
        return Path(name) if name else None

    def save_file(self, parent: "QWidget", title: str, kinds: str, name: str) -> Path | None:
        """Where to write a file; its ending is added if it has none."""
        from PySide6.QtWidgets import QFileDialog

        chosen, _ = QFileDialog.getSaveFileName(parent, title, name, kinds)
        if not chosen:
            return None
        path = Path(chosen)
        return path if path.suffix else path.with_suffix(Path(name).suffix)

    def folder(self, parent: "QWidget", title: str) -> Path | None:
        """A folder."""
        from PySide6.QtWidgets import QFileDialog

        name = QFileDialog.getExistingDirectory(parent, title)
        return Path(name) if name else None

    def leave(self, parent: "QWidget") -> bool:
        """Whether to leave a workbook whose last changes could not be kept."""
        from PySide6.QtWidgets import QMessageBox

        answer = QMessageBox.question(
            parent,
            "Not kept",
            "The last changes could not be kept. Leave without them? (Save a copy keeps them.)",
        )
        return answer == QMessageBox.StandardButton.Yes

    def printer(self, parent: "QWidget", printer: "QPrinter") -> bool:
        """Which printer, and how; whether to print."""
        from PySide6.QtPrintSupport import QPrintDialog
        from PySide6.QtWidgets import QDialog

        return QPrintDialog(printer, parent).exec() == QDialog.DialogCode.Accepted

    def run(self, dialog: "QDialog") -> bool:
        """Show a dialog; whether it was accepted."""
        from PySide6.QtWidgets import QDialog

        return dialog.exec() == QDialog.DialogCode.Accepted

    def menu(self, menu: "QMenu", under: "QWidget") -> None:
        """Show a menu under a widget."""
        menu.popup(under.mapToGlobal(under.rect().bottomLeft()))
