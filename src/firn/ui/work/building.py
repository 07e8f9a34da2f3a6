"""Building a combo: counts filled with steps."""

from firn.core.book.edits import SetPiece
from firn.core.combos.fill import Filled, fill
from firn.core.task import Task
from firn.errors import FirnError
from firn.session.building import with_filled
from firn.session.desk import COMBO
from firn.ui.work.context import Context, Handlers

USUAL = 16
"""Counts that are filled where nothing else is asked."""


class Building:
    """Works on the combo of the piece on the desk."""

    def __init__(self, context: Context) -> None:
        self._context = context
        self._seed = 0

    def handlers(self) -> Handlers:
        return {"fill_combo": self.fill}

    def fill(self) -> None:
        """Ask how counts are to be filled, and put parts of steps behind the pass that is stood on."""
        from firn.ui.dialogs.fill import FillDialog

        context, desk = self._context, self._context.desk
        piece = desk.piece
        if piece is None:
            return
        desk.commit()
        # Each time another, unless a number is asked for.
        self._seed += 1
        student = context.bridge.book.student
        level = student.level if student is not None else 0
        dialog = FillDialog(USUAL, self._seed, level, context.window)
        if not context.prompts.run(dialog):
            return
        settings, shelf, item = desk.settings, desk.shelf, context.stood_on_item()

        def work(task: Task) -> "Filled | str":
            try:
                return fill(settings, dialog.wish, shelf)
            except FirnError as fault:
                return str(fault)

        def done(made: "Filled | str") -> None:
            if isinstance(made, str):
                context.say(made)
                return
            try:
                changed = with_filled(piece, made, item, shelf)
            except FirnError as fault:
                context.say(str(fault))
                return
            context.do(SetPiece(changed, "Fill counts with steps"))
            desk.go_to(piece.id, COMBO)
            context.say(f"Filled: {'; '.join(made.why)}.")

        context.jobs.run("fill", "Filling the counts", work, done)
