"""Pieces and parts: made, named, deleted, walked through."""

from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

from msgspec.structs import replace
from PySide6.QtWidgets import QMenu, QPushButton

from firn.core.book.book import BookPart, new_piece, piece_of_script
from firn.core.book.edits import AddPart, AddPiece, DeletePart, DeletePiece, RenamePart, SetHead
from firn.core.task import Task
from firn.core.tune.tune import Tune, parse_tune, tune_text
from firn.errors import FirnError
from firn.files.formats import PIECE, TUNE, WORKBOOK
from firn.files.store import look_into
from firn.session.desk import COMBO, free_name, head_with, next_name, whole_combo
from firn.session.fresh import new_id
from firn.session.view import layers_of
from firn.ui.pages.entries import WRITE
from firn.ui.widgets.labels import shown
from firn.ui.work.context import Context, Handlers
from firn.ui.work.program import Program

if TYPE_CHECKING:
    from firn.core.combos.tunes import Suits


class Pieces:
    """Works on the pieces of the workbook and their parts."""

    def __init__(self, context: Context, program: Program) -> None:
        self._context, self._program = context, program

    def handlers(self) -> Handlers:
        return {
            "new_piece": self.new_piece,
            "next_piece": self.next_piece,
            "read_steps": self.read_steps,
            "write_steps": self.write_steps,
            "delete_piece": self.delete_piece,
            "counting": self.ask_counting,
            "words": self.ask_words,
            "bring_tune": self.ask_tune,
            "tunes_suit": self.ask_tunes,
            "versions": self.ask_version,
            "view": self.ask_view,
            "fill_counts": self.fill_counts,
            "new_part": self.new_part,
            "bring_part": self.bring_part,
            "rename_part": self.rename_part,
            "delete_part": self.delete_part,
            "next_part": lambda: self.walk(1),
            "previous_part": lambda: self.walk(-1),
            "undo": self.undo,
            "redo": self.redo,
        }

    def undo(self) -> None:
        """Undo the last edit, typing included."""
        self._context.desk.commit()
        self._context.bridge.session.undo()

    def redo(self) -> None:
        """Do the last undone edit again."""
        self._context.desk.commit()
        self._context.bridge.session.redo()

    def ids(self) -> list[str]:
        """What can be shown of the piece: its parts and its combo."""
        piece = self._context.desk.piece
        return [*[p.id for p in piece.parts], COMBO] if piece else []

    def ask_counting(self) -> None:
        """Ask how the piece counts."""
        desk = self._context.desk
        if desk.piece is None:
            return
        from firn.ui.dialogs.counting import CountingDialog

        dialog = CountingDialog(desk.settings, self._context.window)
        if self._context.prompts.run(dialog):
            self._context.do(SetHead(desk.piece.id, dialog.head))
            desk.dance_as(replace(desk.transport, tempo=desk.settings.tempo))

    def ask_tune(self) -> None:
        """Ask for the file of a tune that the piece is danced to."""
        path = self._context.prompts.open_file(self._context.window, "Bring in its tune", TUNE.offered)
        if path is not None:
            self.bring_in_tune(path)

    def ask_tunes(self) -> None:
        """Ask for a folder of tunes, and have the piece danced to the one that is taken of those that suit."""
        context, desk = self._context, self._context.desk
        if desk.piece is None:
            return
        desk.commit()
        if desk.stretch is None or not desk.stretch.sounds:
            context.say("There is nothing to dance yet: write a step first.")
            return
        folder = context.prompts.folder(context.window, "A folder of tunes")
        if folder is None:
            return
        part, what = desk.part, desk.title
        read, _, _ = whole_combo(desk.piece, desk.shelf)

        def work(task: Task) -> "tuple[list[tuple[str, Tune, Suits]], int]":
            from firn.core.combos.tunes import suiting
            from firn.files.tunes import tunes_in

            return suiting(read, tunes_in(folder), part)

        def choose(made: "tuple[list[tuple[str, Tune, Suits]], int]") -> None:
            from firn.ui.dialogs.tunes import TunesDialog

            found, left_out = made
            if not found:
                context.say(f"There is no tune in {folder.name}: ABC, MIDI and MusicXML are looked for.")
                return
            dialog = TunesDialog(found, what, left_out, context.window)
            if context.prompts.run(dialog):
                self.bring_in_tune(folder / dialog.file)

        context.jobs.run("tunes", "Reading the tunes", work, choose)

    def bring_in_tune(self, path: Path) -> None:
        """Have the piece danced to the tune in a file; says why where it cannot be."""
        desk = self._context.desk
        if desk.piece is None:
            return
        from firn.files.tunes import read_tune

        try:
            tune = read_tune(path)
            said = tune_text(tune)
            if parse_tune(said, desk.settings.meter) is None:
                raise FirnError(
                    f"{path.name} has too many sections for one line: type its tune on How it counts (F4)."
                )
        except FirnError as fault:
            self._context.say(str(fault))
            return
        other = (
            ""
            if tune.meter == desk.settings.meter
            else f" It is in {tune.meter}, the piece in {desk.settings.meter}."
        )
        if other:
            said += f", in {tune.meter.beats}/{tune.meter.unit}"
        self._context.do(SetHead(desk.piece.id, head_with(desk.piece.head, tune_said=said), "Bring in its tune"))
        bars = tune.bars if tune.bars.denominator == 1 else round(tune.bars)
        self._context.say(f"Danced to {tune.name}: {tune.form}, {bars} bars.{other}")

    def ask_ending(self, now: str, take: Callable[[str], None]) -> None:
        """Ask for the words of a pass's ending."""
        label = "It ends with, such as 7 step 8 touch; nothing: as it is written"
        said = self._context.prompts.name(self._context.window, "How the pass ends", label, now)
        if said is not None:
            take(said)

    def bring_part(self) -> None:
        """Ask for a part of another piece, of this workbook or another, and write it here too."""
        from firn.session.elsewhere import PartElsewhere, brought, parts_elsewhere
        from firn.ui.dialogs.elsewhere import ElsewhereDialog

        context, desk = self._context, self._context.desk
        desk.commit()
        piece = desk.piece
        if piece is None:
            return

        def look() -> tuple[list[PartElsewhere], str] | None:
            path = context.prompts.open_file(context.window, "Look into a workbook", WORKBOOK.offered)
            return None if path is None else (parts_elsewhere(look_into(path)), path.name)

        dialog = ElsewhereDialog(parts_elsewhere(context.bridge.book, piece.id), look, context.window)
        if not context.prompts.run(dialog) or dialog.taken is None:
            return
        part, said = brought(dialog.taken, piece, desk.shelf)
        context.do(AddPart(piece.id, part))
        context.show_page(WRITE)
        context.say(said)

    def ask_words(self) -> None:
        """Ask what words mean in the piece, and in new ones too."""
        desk = self._context.desk
        if desk.piece is None:
            return
        from firn.ui.dialogs.words import WordsDialog

        dialog = WordsDialog(desk.settings, desk.shelf, self._context.window)
        if self._context.prompts.run(dialog):
            self._context.do(SetHead(desk.piece.id, dialog.head))
            if dialog.always.isChecked():
                said = dialog.settings
                self._program.keep(words=said.words, sides=said.sides, handed=said.handed)

    def ask_view(self) -> None:
        """Ask which layers are shown and heard, and how the strip is looked at."""
        desk = self._context.desk
        if desk.stretch is None:
            return
        from firn.ui.dialogs.layers import LayersDialog

        dialog = LayersDialog(desk.view, layers_of(desk.stretch), desk.show_as, self._context.window)
        self._context.prompts.run(dialog)
        self._program.keep(view=desk.view)

    def fill_counts(self) -> None:
        """Write every word of the part with its counts."""
        desk = self._context.desk
        part = desk.part
        if part is None or not part.sounds:
            self._context.say("There is no step here to count.")
        elif part.problems:
            self._context.say("What is not understood comes first: then the counts can be filled in.")
        else:
            from firn.session.by_hand import counted

            what, ready = "Fill in the counts", desk.ready()

            def work(task: Task) -> str:
                return ready(counted(part))

            self._context.beside(what, len(part.sounds), work, lambda text: desk.change(text, what))

    def ask_version(self) -> None:
        """Ask for another version of the part: in its place, or as a part of its own."""
        desk = self._context.desk
        desk.commit()
        if desk.piece is None or desk.part is None or not desk.part.sounds:
            self._context.say("There is no step here to make another version of.")
            return
        from firn.ui.dialogs.versions import VersionsDialog

        dialog = VersionsDialog(desk.part, desk.aside, self._program.theme, self._context.window)
        if not self._context.prompts.run(dialog) or dialog.version is None:
            return
        if dialog.apart:
            name = free_name(desk.piece.parts, f"{desk.part.name} {dialog.name.lower()}")
            self._context.do(AddPart(desk.piece.id, BookPart(new_id(), name, dialog.version.text)))
        elif dialog.version.feel:
            self._context.do(SetHead(desk.piece.id, head_with(desk.piece.head, feel=dialog.version.feel)))
        else:
            desk.change(dialog.version.text, f"Make it {dialog.name.lower()}")

    def new_piece(self) -> None:
        """Ask for a name and begin a piece."""
        name = self._context.prompts.name(self._context.window, "New piece", "Its name", "Untitled")
        name = " ".join((name or "").replace("#", " ").split())
        if name:
            kept = self._program.settings
            made = new_piece(new_id(), new_id(), name, words=kept.words, sides=kept.sides, handed=kept.handed)
            self._context.do(AddPiece(made))
            self._context.show_page(WRITE)

    def next_piece(self) -> None:
        """Show the next piece of the workbook."""
        pieces, now = self._context.bridge.book.pieces, self._context.desk.piece
        if now is not None and len(pieces) > 1:
            following = pieces[(pieces.index(now) + 1) % len(pieces)]
            self._context.desk.go_to(following.id, following.parts[0].id if following.parts else "")

    def show_menu(self, under: QPushButton, menu: QMenu) -> None:
        """A menu of all pieces, above what `menu` holds."""
        first = menu.actions()[0] if menu.actions() else None
        for piece in self._context.bridge.book.pieces:
            part = piece.parts[0].id if piece.parts else ""
            action = menu.addAction(shown(piece.name), partial(self._context.desk.go_to, piece.id, part))
            if first is not None:
                menu.removeAction(action)
                menu.insertAction(first, action)
        self._context.prompts.menu(menu, under)

    def delete_piece(self) -> None:
        """Delete the piece on show."""
        desk = self._context.desk
        if desk.piece is not None:
            name = desk.settings.name
            self._context.do(DeletePiece(desk.piece.id))
            self._context.say(f"{name} is deleted. Ctrl+Z brings it back.")

    def new_part(self) -> None:
        """Begin a part; a piece first, where there is none."""
        piece = self._context.desk.piece
        if piece is None:
            self.new_piece()
            return
        self._context.do(AddPart(piece.id, BookPart(new_id(), next_name(piece.parts), "")))
        self._context.show_page(WRITE)

    def rename_part(self) -> None:
        """Ask for another name of the part on show."""
        piece, part = self._context.desk.piece, self._context.desk.book_part
        if piece is None or part is None:
            return
        name = self._context.prompts.name(self._context.window, "Rename part", "Its name", part.name)
        if name is not None:
            self._context.do(RenamePart(piece.id, part.id, name))

    def delete_part(self) -> None:
        """Delete the part on show, with its takes."""
        piece, part = self._context.desk.piece, self._context.desk.book_part
        if piece is None or part is None:
            return
        self._context.do(DeletePart(piece.id, part.id))
        self._context.say(f"{part.name} and its takes are deleted. Ctrl+Z brings them back.")

    def pick(self, index: int) -> None:
        """Show the part of a tab; the tab after the last begins a part."""
        piece, ids = self._context.desk.piece, self.ids()
        if piece is None or index >= len(ids):
            self.new_part()
        else:
            self._context.desk.go_to(piece.id, ids[index])

    def walk(self, step: int) -> None:
        """Show the next part, or the one before."""
        ids, now = self.ids(), self._context.desk.part_id
        if now in ids:
            self.pick((ids.index(now) + step) % len(ids))

    def read_steps(self) -> None:
        """Ask for a .steps text and bring it in as a piece."""
        path = self._context.prompts.open_file(self._context.window, "Bring in a piece", PIECE.offered)
        if path is not None:
            self.bring_in(path)

    def bring_in(self, path: Path) -> None:
        """Bring a .steps text in as a piece; says why where it cannot be."""
        try:
            text = PIECE.read(path)
        except FirnError as fault:
            self._context.say(str(fault))
            return
        ids = [new_id() for _ in range(text.count("\n") + 3)]
        from firn.session.drill_text import drills_of_script, stages_left_out

        piece = piece_of_script(text, ids)
        drills, faults = drills_of_script(text, piece, self._context.desk.shelf)
        self._context.do(AddPiece(piece, drills))
        self._context.show_page(WRITE)
        if faults:
            self._context.say(stages_left_out(faults))

    def write_steps(self) -> None:
        """Ask for a place and write the piece out as text, with its drills."""
        from firn.session.drill_text import steps_text

        desk = self._context.desk
        desk.commit()
        if desk.piece is None:
            return
        name = desk.settings.name + PIECE.ending
        path = self._context.prompts.save_file(self._context.window, "Write out", PIECE.offered, name)
        if path is not None:
            try:
                PIECE.write(path, steps_text(desk.piece, self._context.bridge.book.drills_of(desk.piece.id)))
            except FirnError as fault:
                self._context.say(str(fault))
