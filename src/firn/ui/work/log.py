"""The log: takes noted once they are judged, practices noted by hand, entries changed and deleted."""

from typing import TYPE_CHECKING

from firn.core.book.edits import AddLog, ChangeLog, DeleteLog
from firn.core.book.log import LogEntry
from firn.session.log import entry_of, noted
from firn.ui.pages.log.page import LogPage
from firn.ui.work.context import Context, Handlers

if TYPE_CHECKING:
    from firn.core.book.book import Book, Take
    from firn.core.ear.verdict import Verdict


def known_words(book: "Book") -> tuple[list[str], list[str]]:
    """Shoes and floors that were named before, the newest first."""
    rows: list[LogEntry | Take] = [*reversed(book.log), *reversed(book.takes)]
    return list(dict.fromkeys(r.shoes for r in rows if r.shoes)), list(
        dict.fromkeys(r.floor for r in rows if r.floor)
    )


class Log:
    """Works on the log of the workbook."""

    def __init__(self, context: Context, page: LogPage) -> None:
        self._context, self._page = context, page

    def handlers(self) -> Handlers:
        return {"note": self.note, "change_log": self._page.ask_change, "delete_log": self.delete}

    def judged(self, take: "Take", verdict: "Verdict") -> None:
        """A take has been judged: note it, unless it is noted already or simulated."""
        part = self._context.desk.part
        if part is None or take.part != self._context.desk.part_id or self._context.bridge.session.store.read_only:
            return
        entry = entry_of(self._context.bridge.book, take, part, verdict)
        if entry is not None:
            self._context.do(AddLog(entry))

    def note(self) -> None:
        """Ask what was danced and note it."""
        desk = self._context.desk
        piece, part = desk.piece, desk.part
        if piece is None or part is None:
            self._context.say("Show the part that was danced: the log notes parts.")
            return
        transport = desk.transport
        swapped = transport.side == "other side"
        entry = noted(self._context.bridge.book, piece, part, desk.part_id, transport.tempo, swapped=swapped)
        asked = self._ask(entry)
        if asked is not None:
            self._context.do(AddLog(asked))
            self._context.say(f"Noted: {asked.step} at {asked.tempo:g}.")

    def change(self, entry: LogEntry) -> None:
        """Ask for an entry again."""
        asked = self._ask(entry)
        if asked is not None:
            self._context.do(ChangeLog(asked))

    def _ask(self, entry: LogEntry) -> LogEntry | None:
        from firn.ui.dialogs.log_entry import LogEntryDialog

        shoes, floors = known_words(self._context.bridge.book)
        dialog = LogEntryDialog(entry, shoes=shoes, floors=floors, parent=self._context.window)
        return dialog.entry if self._context.prompts.run(dialog) else None

    def delete(self) -> None:
        """Delete the entry that is stood on."""
        entry = self._page.entry
        if entry is not None and self._page.isVisible():
            self._context.do(DeleteLog(entry.id))
            self._context.say(f"{entry.step} of {entry.day} is deleted from the log. Ctrl+Z brings it back.")
