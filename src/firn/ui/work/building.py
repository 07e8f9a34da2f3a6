"""Building a combo: counts filled with steps, one part at several levels."""

from functools import partial

from firn.core.book.book import BookPart, BookPiece
from firn.core.book.edits import AddPart, SetPiece
from firn.core.combos.fill import Filled, fill
from firn.core.piece.piece import Part
from firn.core.task import Task
from firn.errors import FirnError
from firn.session.building import with_filled
from firn.session.desk import COMBO, free_name, whole_combo
from firn.session.fresh import new_id
from firn.session.levels import Level, with_class
from firn.ui.theme.theme import Theme
from firn.ui.work.context import Context, Handlers

USUAL = 16
"""Counts that are filled where nothing else is asked."""

SOON = 20
"""Sounds of a part of which several levels are soon made."""


class Building:
    """Works on the combo of the piece on the desk."""

    def __init__(self, context: Context, theme: Theme) -> None:
        self._context, self._theme = context, theme
        self._seed = 0

    def handlers(self) -> Handlers:
        return {"fill_combo": self.fill, "levels": self.ask_levels}

    def fill(self) -> None:
        """Ask how counts are to be filled, and put parts of steps behind the pass that is stood on."""
        from firn.ui.dialogs.fill import FillDialog

        context, desk = self._context, self._context.desk
        desk.commit()
        piece = desk.piece
        if piece is None:
            return
        # Each time another, unless a number is asked for.
        self._seed += 1
        student = context.bridge.book.student
        level = student.level if student is not None else 0
        dialog = FillDialog(USUAL, self._seed, level, context.window)
        if not context.prompts.run(dialog):
            return
        settings, shelf, item = desk.settings, desk.shelf, context.stood_on_item()

        def work(task: Task) -> tuple[BookPiece, Filled]:
            made = fill(settings, dialog.wish, shelf)
            changed = with_filled(piece, made, item, shelf)
            # The window shows it next, and it is kept for that.
            whole_combo(changed, shelf)
            return changed, made

        def done(made: tuple[BookPiece, Filled]) -> None:
            changed, filled = made
            desk.commit()
            if desk.piece is not piece:
                context.say("The counts are not filled: something was written meanwhile.")
                return
            context.do(SetPiece(changed, "Fill counts with steps"))
            desk.go_to(piece.id, COMBO)
            context.say(f"Filled: {'; '.join(filled.why)}.")

        context.jobs.run("fill", "Filling the counts", work, done)

    def ask_levels(self) -> None:
        """Show the part at several levels: one is taken, or those of a class become groups of the combo."""
        context, desk = self._context, self._context.desk
        desk.commit()
        part = desk.part
        if desk.piece is None or part is None or not part.sounds:
            context.say("Turn to a part with some steps first: then it can be shown at several levels.")
            return
        from firn.ui.dialogs.levels import LevelsDialog

        aside = partial(desk.aside, at_once=SOON)
        dialog = LevelsDialog(part, desk.asked, aside, self._theme, context.window)
        if not context.prompts.run(dialog):
            return
        level = dialog.level
        if dialog.taken == "class":
            self._put_class(part, dialog.ticked)
        elif level is not None:
            text = "\n".join(level.part.script.lines)
            if dialog.taken == "here":
                desk.change(text, f"Make it {level.wanted.name}")
            else:
                name = free_name(desk.piece.parts, level.part.name)
                context.do(AddPart(desk.piece.id, BookPart(new_id(), name, text)))

    def _put_class(self, part: Part, levels: list[Level]) -> None:
        context, desk = self._context, self._context.desk
        if desk.piece is None:
            return
        try:
            changed, said = with_class(desk.piece, part, levels, desk.shelf)
        except FirnError as fault:
            context.say(str(fault))
            return
        context.do(SetPiece(changed, "Groups at several levels"))
        desk.go_to(changed.id, COMBO)
        context.say(said)
