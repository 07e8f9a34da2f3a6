"""Parts on paper: printed, or written as PDF."""

from PySide6.QtCore import QBuffer, QIODevice
from PySide6.QtGui import QPdfWriter

from firn.errors import FirnError
from firn.files.whole import write_bytes
from firn.session.desk import written_notes
from firn.session.paper import Paper, check_paper, paper
from firn.ui.paper import page_layout, print_on
from firn.ui.work.context import Context, Handlers


class Printing:
    """Prints what is on the desk."""

    def __init__(self, context: Context) -> None:
        self._context = context

    def handlers(self) -> Handlers:
        return {
            "print": self.print,
            "pdf": self.write_pdf,
            "print_check": lambda: self.print(check=True),
            "pdf_check": lambda: self.write_pdf(check=True),
        }

    def _sheet(self, *, check: bool) -> Paper | None:
        desk = self._context.desk
        desk.commit()
        if desk.stretch is None or not desk.stretch.sounds:
            self._context.say("There is nothing to print yet: write some steps first.")
            return None
        notes = desk.notes if check else tuple(written_notes(desk.notes))
        sheet = paper(desk.settings, desk.title, desk.stretch, desk.text, notes)
        return check_paper(sheet, desk.part, desk.combo, desk.transport.tempo) if check else sheet

    def print(self, *, check: bool = False) -> None:
        """Ask for a printer and print the part, or the combo, on show, or all of its check."""
        sheet = self._sheet(check=check)
        if sheet is None:
            return
        from PySide6.QtPrintSupport import QPrinter

        printer = QPrinter(QPrinter.PrinterMode.HighResolution)
        printer.setPageLayout(page_layout())
        printer.setDocName(sheet.title)
        if self._context.prompts.printer(self._context.window, printer):
            print_on(printer, sheet)

    def write_pdf(self, *, check: bool = False) -> None:
        """Ask for a place and write what is on show there as PDF, or its check; whole or not at all."""
        sheet = self._sheet(check=check)
        if sheet is None:
            return
        name = f"{sheet.title.replace(', ', ' ').replace(': ', ' ').replace('/', '-')}.pdf"
        path = self._context.prompts.save_file(self._context.window, "Write as PDF", "PDF (*.pdf)", name)
        if path is None:
            return
        try:
            data, pages = pdf_of(sheet)
            write_bytes(path, data)
        except FirnError as fault:
            self._context.say(str(fault))
        else:
            self._context.say(f"{path.name} holds {pages} {'page' if pages == 1 else 'pages'}.")


def pdf_of(sheet: Paper) -> tuple[bytes, int]:
    """A sheet as PDF, and its pages; made in memory, since Qt says nothing of a place that it cannot write."""
    buffer = QBuffer()
    buffer.open(QIODevice.OpenModeFlag.WriteOnly)
    writer = QPdfWriter(buffer)
    writer.setResolution(300)
    writer.setPageLayout(page_layout())
    writer.setTitle(sheet.title)
    writer.setCreator("Firn")
    pages = print_on(writer, sheet)
    return bytes(buffer.data().data()), pages
