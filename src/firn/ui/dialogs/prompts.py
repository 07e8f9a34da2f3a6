"""Everything the window asks in a dialog, in one place, so that a test can answer instead."""

from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtWidgets import QDialog, QFileDialog, QInputDialog, QMenu, QMessageBox, QWidget

from firn.core.meter.tempo import FASTEST, SLOWEST

if TYPE_CHECKING:
    from PySide6.QtPrintSupport import QPrinter


class Prompts:
    """Asks the user; each method gives None (or False) where the user does not want to."""

    def name(self, parent: QWidget, title: str, label: str, now: str) -> str | None:
        """A name."""
        text, ok = QInputDialog.getText(parent, title, label, text=now)
        return text if ok else None

    def tempo(self, parent: QWidget, now: float) -> float | None:
        """Counts a minute."""
        value, ok = QInputDialog.getDouble(parent, "Tempo", "Counts a minute", now, SLOWEST, FASTEST, 1)
        return value if ok else None

    def open_file(self, parent: QWidget, title: str, kinds: str) -> Path | None:
        """A file that is there."""
        name, _ = QFileDialog.getOpenFileName(parent, title, "", kinds)
        return Path(name) if name else None

    def save_file(self, parent: QWidget, title: str, kinds: str, name: str) -> Path | None:
        """Where to write a file; its ending is added if it has none."""
        chosen, _ = QFileDialog.getSaveFileName(parent, title, name, kinds)
        if not chosen:
            return None
        path = Path(chosen)
        return path if path.suffix else path.with_suffix(Path(name).suffix)

    def folder(self, parent: QWidget, title: str) -> Path | None:
        """A folder."""
        name = QFileDialog.getExistingDirectory(parent, title)
        return Path(name) if name else None

    def leave(self, parent: QWidget) -> bool:
        """Whether to leave a workbook whose last changes could not be kept."""
        answer = QMessageBox.question(
            parent,
            "Not kept",
            "The last changes could not be kept. Leave without them? (Save a copy keeps them.)",
        )
        return answer == QMessageBox.StandardButton.Yes

    def printer(self, parent: QWidget, printer: "QPrinter") -> bool:
        """Which printer, and how; whether to print."""
        from PySide6.QtPrintSupport import QPrintDialog

        return QPrintDialog(printer, parent).exec() == QDialog.DialogCode.Accepted

    def run(self, dialog: QDialog) -> bool:
        """Show a dialog; whether it was accepted."""
        return dialog.exec() == QDialog.DialogCode.Accepted

    def menu(self, menu: QMenu, under: QWidget) -> None:
        """Show a menu under a widget."""
        menu.popup(under.mapToGlobal(under.rect().bottomLeft()))
