"""Parts on paper: printed, or written as PDF."""

from collections.abc import Callable

from msgspec.structs import replace

from firn.core.drills.class_plan import ClassPlan
from firn.core.task import Task
from firn.files.formats import PAPER
from firn.session.classes import class_paper
from firn.session.notes import written_notes
from firn.session.paper import Paper, check_paper, paper, paper_title
from firn.session.settings import PaperSize
from firn.session.view import PLAIN
from firn.ui.printed import page_layout, pdf_of, print_on
from firn.ui.work.context import Context, Handlers


class Printing:
    """Prints what is on the desk."""

    def __init__(self, context: Context, class_shown: Callable[[], ClassPlan | None]) -> None:
        self._context, self._class_shown = context, class_shown

    def handlers(self) -> Handlers:
        return {
            "pdf": self.write_pdf,
            "print_check": lambda: self.print(check=True),
            "pdf_check": lambda: self.write_pdf(check=True),
        }

    def plan_shown(self) -> bool:
        """Whether a class is on show."""
        return self._class_shown() is not None

    def sheet(self, *, check: bool) -> Callable[[], Paper] | None:
        """What makes the sheet of what is on show; None, said, where there is nothing."""
        desk = self._context.desk
        desk.commit()
        plan, piece = self._class_shown(), desk.piece
        if plan is not None and piece is not None and not check:
            return lambda: class_paper(plan, piece)
        if desk.stretch is None or not desk.stretch.sounds:
            self._context.say("There is nothing to print yet: write some steps first.")
            return None
        settings, title, stretch, text = desk.settings, desk.title, desk.stretch, desk.text
        shown = replace(PLAIN, hidden=desk.view.hidden)
        part, combo, tempo, noted = desk.part, desk.combo, desk.transport.tempo, desk.noting()

        def make() -> Paper:
            notes = noted()
            sheet = paper(settings, title, stretch, text, notes if check else tuple(written_notes(notes)), shown)
            return check_paper(sheet, part, combo, tempo) if check else sheet

        return make

    @property
    def _size(self) -> int:
        stretch = self._context.desk.stretch
        return len(stretch.sounds) if stretch is not None else 0

    def print(self, *, check: bool = False) -> None:
        """Ask for a printer and print the part, or the combo, on show, or all of its check."""
        make = self.sheet(check=check)
        if make is not None:
            self.print_sheet(make)

    def print_sheet(self, make: Callable[[], Paper], size: PaperSize = "A4") -> None:
        """Ask for a printer and print a sheet."""
        from PySide6.QtPrintSupport import QPrinter

        printer = QPrinter(QPrinter.PrinterMode.HighResolution)
        printer.setPageLayout(page_layout(size))
        printer.setDocName(self._context.desk.title)
        if self._context.prompts.printer(self._context.window, printer):
            work = lambda task: print_on(printer, make())  # noqa: E731
            self._context.beside("Printing", self._size, work, lambda pages: None)

    def write_pdf(self, *, check: bool = False) -> None:
        """Ask for a place and write what is on show there as PDF, or its check; whole or not at all."""
        make = self.sheet(check=check)
        if make is None:
            return
        desk, plan = self._context.desk, self._class_shown()
        title = paper_title(desk.settings, desk.title, check=check) if plan is None or check else plan.name
        name = title.replace(", ", " ").replace(": ", " ").replace("/", "-") + PAPER.ending
        self.write_sheet(make, name)

    def write_sheet(self, make: Callable[[], Paper], name: str, size: PaperSize = "A4") -> None:
        """Ask for a place and write a sheet there as PDF."""
        path = self._context.prompts.save_file(self._context.window, "Write as PDF", PAPER.offered, name)
        if path is None:
            return

        def work(task: Task) -> int:
            data, pages = pdf_of(make(), size)
            task.step(0.9)
            PAPER.write(path, data)
            return pages

        def done(pages: int) -> None:
            self._context.say(f"{path.name} holds {pages} {'page' if pages == 1 else 'pages'}.")

        self._context.beside(f"Writing {path.name}", self._size, work, done)
