"""What is done about what Read says: a finding that is meant so is said to be, with its reason."""

from typing import TYPE_CHECKING

from firn.errors import FirnError
from firn.files.steps_file import write_text
from firn.session.desk import read_piece
from firn.session.reading import meant_text
from firn.session.report import findings_csv, measures_csv, report_json
from firn.ui.work.context import Context, Handlers

if TYPE_CHECKING:
    from firn.ui.pages.read.page import ReadPage


class Reading:
    """Works on the page Read."""

    def __init__(self, context: Context, page: "ReadPage") -> None:
        self._context, self.page = context, page
        page.mended.connect(context.desk.take)

    def handlers(self) -> Handlers:
        return {"measured": self.page.measure_over, "meant": self.mean, "write_check": self.write_check}

    def write_check(self) -> None:
        """Ask for a place and write findings and measures out: all as JSON, or a table of either (CSV)."""
        desk = self._context.desk
        desk.commit()
        if desk.piece is None:
            return
        kinds = "All as JSON (*.json);;Findings as a table (*.findings.csv);;Measures as a table (*.measures.csv)"
        name = f"{desk.settings.name}.json"
        path = self._context.prompts.save_file(self._context.window, "Write the check out", kinds, name)
        if path is None:
            return
        piece = read_piece(desk.piece.script, desk.shelf)
        table = path.suffix.casefold() == ".csv"
        made = findings_csv if table and "measure" not in path.stem.casefold() else measures_csv
        try:
            write_text(path, made(piece) if table else report_json(piece))
        except FirnError as fault:
            self._context.say(str(fault))

    def mean(self) -> None:
        """Say that what is stood on is meant so, and why; no longer, where it is."""
        desk, note = self._context.desk, self.page.current_note
        if desk.part is None or note is None or not note.code or note.code == "problem":
            self._context.say("Stand on something that is worth a look: then it can be meant so.")
        elif note.meant:
            self._write(meant_text(desk.text, note.code, None))
        elif note.level != "look":
            self._context.say("Only what is worth a look can be meant so.")
        else:
            reason = self._context.prompts.name(self._context.window, "It is meant so", "Why", "")
            if reason is not None:
                self._write(meant_text(desk.text, note.code, reason))

    def _write(self, text: str) -> None:
        self._context.desk.write(text)
        self._context.desk.commit()
