"""Takes: brought in from files or the simulated student, named, deleted."""

from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

from msgspec.structs import replace
from PySide6.QtWidgets import QMenu

from firn.core.book.book import Take
from firn.core.book.edits import AddTake, ChangeTake, DeleteTake, RenameTake
from firn.core.task import Task
from firn.errors import FirnError
from firn.files.formats import RECORDING
from firn.ui.pages.entries import LISTEN
from firn.ui.pages.listen.page import ListenPage
from firn.ui.work.context import Context, Handlers

if TYPE_CHECKING:
    # Heavy: imported when a take is first listened to.
    from firn.core.ear.match import Match
    from firn.session.takes import BroughtIn

SIMULATED = {
    "late": "One sound late",
    "missing": "One sound missing",
    "hold": "The hold dropped",
    "loud": "One sound too loud",
    "extra": "One sound too many",
    "order": "Two sounds exchanged",
    "once": "One slip in four times",
    "creep": "The tempo creeps up",
    "mixed": "Late, missing and slower",
    "clean": "Clean",
}


class Takes:
    """Works on the takes of the part on show."""

    def __init__(self, context: Context, page: ListenPage) -> None:
        self._context, self._page = context, page

    def handlers(self) -> Handlers:
        page = self._page
        return {
            "bring_in": self.ask_recording,
            "simulate": self.ask_simulation,
            "hear_mine": page.hear_mine,
            "hear_both": page.hear_both,
            "hear_question": page.question.hear.click,
            "skip_question": page.question.leave,
            "ask_ear": self.ask_ear,
            "next_pass": page.next_pass,
            "other_start": page.other_start,
            "as_heard": page.as_heard,
            "anyway": page.judge_anyway,
            "rename_take": self.rename,
            "delete_take": self.delete,
            "about_take": self.ask_about,
        }

    def ask_recording(self) -> None:
        """Ask for a recording and bring it in."""
        if self._page.panel.file_button.isEnabled():
            title = "Bring in a recording"
            path = self._context.prompts.open_file(self._context.window, title, RECORDING.offered)
            if path is not None:
                self.bring_in(path)

    def bring_in(self, path: Path) -> None:
        """Bring a recording in as a take of the part on show; of a long one, asks which stretch."""
        from firn.files.audio import take_info
        from firn.ui.dialogs.stretch import StretchDialog

        desk = self._context.desk
        piece, stretch = desk.piece, desk.stretch
        if piece is None or stretch is None or not stretch.sounds or not desk.part_id:
            self._context.say("A take belongs to a part that has sounds, or to a combo: turn to one first.")
            return
        start, length = 0.0, None
        try:
            info = take_info(path)
        except FirnError as fault:
            self._context.say(str(fault))
            return
        if info.long:
            dialog = StretchDialog(info, self._context.window)
            if not self._context.prompts.run(dialog):
                return
            start, length = dialog.start_s, dialog.length_s
        store, tempo, part_id = self._context.bridge.session.store, desk.transport.tempo, desk.part_id

        def work(task: Task) -> "BroughtIn":
            from firn.session.takes import bring_in

            return bring_in(
                store, path, piece=piece.id, part=part_id, tempo=tempo, start_s=start, length_s=length, task=task
            )

        self._add(f"Bringing in {path.name}", work)

    def _add(self, label: str, work: object) -> None:
        self._context.show_page(LISTEN)
        who = self._context.bridge.book.who

        def kept(brought: "BroughtIn") -> None:
            self._context.do(AddTake(replace(brought.take, student=who)))
            if brought.told:
                self._context.say(brought.told)

        self._context.jobs.run("take", label, work, kept)  # type: ignore[arg-type]

    def ask_simulation(self) -> None:
        """Ask what the simulated student gets wrong."""
        if not self._page.panel.simulate_button.isEnabled():
            return
        menu = QMenu(self._context.window)
        part = self._context.desk.part
        has_hold = part is not None and any(s.kind == "hold" for s in part.sounds)
        for kind, label in SIMULATED.items():
            action = menu.addAction(label, partial(self.simulate, kind))
            action.setEnabled(kind != "hold" or has_hold)
        self._context.prompts.menu(menu, self._page.panel.simulate_button)

    def simulate(self, kind: str) -> None:
        """Let the simulated student dance the part on show."""
        desk = self._context.desk
        piece, part, book_part = desk.piece, desk.part, desk.book_part
        if piece is None or part is None or book_part is None:
            return
        store, tempo = self._context.bridge.session.store, desk.transport.tempo
        seed = len(self._context.bridge.book.takes) + 1

        def work(task: Task) -> "BroughtIn":
            from firn.session.takes import BroughtIn, simulate

            return BroughtIn(
                simulate(store, part, kind, piece=piece.id, part_id=book_part.id, tempo=tempo, seed=seed, task=task)
            )

        self._add("The simulated student dances", work)

    def ask_ear(self) -> None:
        """Ask the ear about the part on show, on Listen."""
        self._context.show_page(LISTEN)
        self._page.ask_ear()

    def rename(self) -> None:
        """Ask for another name of the take on show."""
        take = self._page.take
        if take is not None:
            name = self._context.prompts.name(self._context.window, "Rename take", "Its name", take.name)
            if name is not None:
                self._context.do(RenameTake(take.id, name))

    def take_as(self, take: Take, found: "Match") -> None:
        """Take a take for what it is: another part's, or this one's at another tempo."""
        desk = self._context.desk
        piece = desk.piece
        if found.what == "tempo":
            tempo = round(found.danced_at(take.tempo))
            self._context.do(ChangeTake(replace(take, tempo=float(tempo))))
            self._context.say(f"{take.name} is a take at {tempo} now. Ctrl+Z takes that back.")
            self._page.listen_again()
            return
        part = next((p for p in piece.parts if p.name == found.part), None) if piece is not None else None
        if piece is None or part is None:
            return
        self._context.do(ChangeTake(replace(take, part=part.id)))
        desk.go_to(piece.id, part.id)
        self._context.show_page(LISTEN)
        self._context.say(f"{take.name} is a take of {part.name} now. Ctrl+Z takes that back.")

    def ask_about(self) -> None:
        """Ask for the side, shoes and floor of the take on show."""
        from firn.ui.dialogs.about_take import AboutTakeDialog
        from firn.ui.work.log import known_words

        take = self._page.take
        if take is None or not self._page.isVisible():
            return
        shoes, floors = known_words(self._context.bridge.book)
        dialog = AboutTakeDialog(take, shoes=shoes, floors=floors, parent=self._context.window)
        if self._context.prompts.run(dialog) and dialog.take != take:
            self._context.do(ChangeTake(dialog.take))

    def delete(self) -> None:
        """Delete the take on show."""
        take = self._page.take
        if take is not None and self._page.isVisible():
            self._context.do(DeleteTake(take.id))
            self._context.say(f"{take.name} is deleted. Ctrl+Z brings it back.")
