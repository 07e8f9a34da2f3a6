"""The log: takes noted once they are judged, practices noted by hand, entries changed and deleted."""

from typing import TYPE_CHECKING

from firn.core.book.edits import AddLog, ChangeLog, DeleteLog
from firn.core.book.log import LogEntry
from firn.core.book.students import OWNER
from firn.session.log import entry_of, entry_of_combo, noted
from firn.ui.pages.entries import LOG
from firn.ui.pages.log.page import LogPage
from firn.ui.work.context import Context, Handlers

if TYPE_CHECKING:
    from firn.core.book.book import Book, Take
    from firn.core.ear.routine import Routine
    from firn.core.ear.verdict import Verdict
    from firn.session.bringing import Bringer
    from firn.session.found import Found


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
        return {
            "note": self.note,
            "change_log": self._page.ask_change,
            "delete_log": self.delete,
            "bring_back": self.bring_back,
            "review_lack": self.review_lack,
        }

    def bring_back(self) -> None:
        """Ask for a folder of what students did, and keep what is sure of it."""
        context = self._context
        session = context.bridge.session
        if session.store.read_only:
            context.say("This workbook is open to read only: nothing can be brought into it.")
            return
        folder = context.prompts.folder(context.window, "A folder of what students did")
        if folder is None:
            return
        from firn.session.bringing import Bringer

        context.show_page(LOG)
        bringer = Bringer(context.bridge.book, session.store, context.desk.shelf)
        context.jobs.run(
            "bring",
            f"Reading {folder.name}",
            lambda task: bringer.read(folder, task),
            lambda found: self._keep(bringer, found),
        )

    def _keep(self, bringer: "Bringer", found: "list[Found]") -> None:
        from firn.ui.dialogs.brought import BroughtDialog

        context = self._context
        if not found:
            context.say("There is nothing in this folder that students could have made.")
            return
        students = [(OWNER, "You"), *((s.id, s.name) for s in context.bridge.book.students)]
        dialog = BroughtDialog(
            found,
            students,
            bringer.names,
            lambda one, student, part: bringer.settled(one, student=student, part=part),
            context.window,
        )
        if not context.prompts.run(dialog):
            return
        edit = bringer.kept(dialog.found)
        if edit.entries or edit.takes or edit.answers:
            context.do(edit)
        waits = sum(1 for f in dialog.found if f.doubt and f.doubt != "unread")
        kept = f"{len(edit.entries)} noted in the log, {len(edit.answers)} answers of the ear."
        context.say(f"{kept} {waits} left for later." if waits else kept)

    def review_lack(self) -> None:
        """Put what most of the students lack into the next class."""
        from firn.core.book.practice_edits import AddClass, ChangeClass
        from firn.session.class_log import lacks, with_review
        from firn.session.classes import class_of

        context, book = self._context, self._context.bridge.book
        piece = context.desk.piece
        found = lacks(book, piece, float(piece.settings.tempo)) if piece is not None else []
        if piece is None or not found:
            context.say("No student lacks anything of this piece that the log knows.")
            return
        plans = book.classes_of(piece.id)
        if plans:
            plan = plans[-1]
            context.do(ChangeClass(with_review(plan, found[0]), label="Review what most lack"))
        else:
            plan = class_of(book, piece, context.desk.shelf, 60, "Next class")
            context.do(AddClass(with_review(plan, found[0])))
        context.say(f"{found[0].name} is reviewed in {plan.name}.")

    def judged(self, take: "Take", verdict: "Verdict") -> None:
        """A take has been judged: note it, unless it is noted already or simulated."""
        part = self._context.desk.part
        if part is None or take.part != self._context.desk.part_id or self._context.bridge.session.store.read_only:
            return
        entry = entry_of(self._context.bridge.book, take, part, verdict)
        if entry is not None:
            self._context.do(AddLog(entry))

    def combo_judged(self, take: "Take", routine: "Routine") -> None:
        """A take of a combo has been judged: note it, unless it is noted already."""
        if self._context.bridge.session.store.read_only:
            return
        entry = entry_of_combo(self._context.bridge.book, take, routine)
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
