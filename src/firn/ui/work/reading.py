"""What is done about what Read says: a finding that is meant so is said to be, with its reason."""

from collections.abc import Callable
from typing import TYPE_CHECKING

from firn.core.book.book import BookPart, BookPiece
from firn.core.piece.build import part_from
from firn.core.piece.piece import Part
from firn.core.piece.versions import Version
from firn.core.reading.retimed import Chosen, delayed, pushed, straightened
from firn.core.reading.style import Asked
from firn.core.task import Task
from firn.errors import FirnError
from firn.files.formats import format_of, offered
from firn.session.alike import Elsewhere, alike
from firn.session.desk import read_in, read_piece
from firn.session.reading import meant_text
from firn.session.report import CHECKS, Checked
from firn.session.stretch import Stretch, leaned_on, part_stretch
from firn.ui.desk import Desk
from firn.ui.work.context import Context, Handlers
from firn.ui.work.dancing import Dancing
from firn.ui.work.program import Program

if TYPE_CHECKING:
    from firn.ui.pages.read.page import ReadPage


class Reading:
    """Works on the page Read."""

    def __init__(
        self,
        context: Context,
        page: "ReadPage",
        dancing: Dancing,
        program: Program,
        to_step: Callable[[str], None],
    ) -> None:
        self._context, self.page, self._dancing = context, page, dancing
        self._program, self._to_step = program, to_step
        page.mended.connect(context.desk.take)
        page.hear.connect(lambda turn: self.hear(in_turn=turn))
        page.rhythm.wanted.connect(self.find_alike)
        page.rhythm.opened.connect(self.go_to)

    def handlers(self) -> Handlers:
        return {
            "measured": self.page.next_way,
            "next_face": self.page.next_face,
            "meant": self.mean,
            "write_check": self.write_check,
            "hear_clashes": self.hear,
            "hear_straight": lambda: self.hear(in_turn=True),
            "style": self.ask_style,
            "beside": self.lay_beside,
            "straighten": lambda: self.retime("Straighten", straightened),
            "push": lambda: self.retime("Push", pushed),
            "delay": lambda: self.retime("Delay", delayed),
        }

    def lay_beside(self) -> None:
        """Lay another part of the workbook beside the one on show, those of the same piece first."""
        from firn.ui.dialogs.beside import BesideDialog

        desk = self._context.desk
        desk.commit()
        part, here = desk.part, desk.piece
        if part is None or here is None or not part.sounds:
            self._context.say("Turn to a part with some steps first: then another can be laid beside it.")
            return

        def of(piece: BookPiece, other: BookPart) -> Callable[[], Part]:
            return lambda: read_in(piece, other, other.text, desk.shelf)

        pieces = [here, *(p for p in desk.bridge.book.pieces if p.id != here.id)]
        others = [
            (other.name if piece is here else f"{piece.name}, {other.name}", of(piece, other))
            for piece in pieces
            for other in piece.parts
            if other.id != desk.part_id
        ]
        # With nothing else to lay there: its own other side.
        others.append((f"{part.name} itself", lambda: part))
        self._context.prompts.run(BesideDialog(part, others, desk.aside, self._program.theme, self._context.window))

    def ask_style(self) -> None:
        """Ask for the sheet of the piece's tradition; it holds for every piece in it."""
        from firn.ui.dialogs.style import StyleDialog

        desk, program = self._context.desk, self._program
        tradition = desk.settings.tradition
        dialog = StyleDialog(tradition, desk.asked.style, self._context.window)
        if self._context.prompts.run(dialog):
            own = {name: sheet for name, sheet in program.settings.styles.items() if name != tradition}
            if dialog.style_sheet is not None:
                own[tradition] = dialog.style_sheet
            program.keep(styles=own)
            desk.use_styles(own)

    def retime(self, what: str, how: Callable[[Part, Chosen], Version]) -> None:
        """Straighten, push or delay what is selected, else the whole part; says what it did to the score."""
        desk = self._context.desk
        if desk.part is None:
            self._context.say("Only a part is moved against its beat: turn to one.")
            return
        part, chosen = desk.part, desk.transport.chosen

        def done(version: Version) -> None:
            desk.change(version.text, what)
            self._context.say(f"{version.said} Ctrl+Z takes it back.")

        self._context.beside(what, len(part.sounds), lambda task: how(part, chosen), done)

    def hear(self, *, in_turn: bool = False) -> None:
        """What hangs over leaned on, all else soft, with the beat; `in_turn` once so and once straightened."""
        desk = self._context.desk
        part, stretch = desk.part, desk.stretch
        if part is None or stretch is None or not stretch.hangs:
            self._context.say("Nothing hangs over here.")
            return
        first = leaned_on(stretch)
        other: Stretch | None = None
        if in_turn:
            try:
                text = straightened(part).text
            except FirnError as fault:
                self._context.say(str(fault))
                return
            other = part_stretch(part_from(part.name, text, part.settings, part.script.shelf))
        self._dancing.play_in_turn([first] if other is None else [first, other])

    def find_alike(self, part: Part) -> None:
        """Look for the like of a part's rhythm, and show it."""
        desk = self._context.desk
        book, part_id, shelf = desk.bridge.book, desk.part_id, desk.shelf

        def show(found: tuple[Elsewhere, ...]) -> None:
            if self.page.rhythm.part is part:
                self.page.rhythm.show_found(found)

        def work(task: Task) -> tuple[Elsewhere, ...]:
            return alike(book, part, part_id, shelf, task)

        self._context.jobs.run("alike", "Looking for the like", work, show)

    def go_to(self, one: Elsewhere) -> None:
        """Go to a part, or to a card on Steps."""
        if one.part:
            self._context.desk.go_to(one.piece, one.part)
        else:
            self._to_step(one.card)

    def write_check(self) -> None:
        """Ask for a place and write findings and measures out: all as JSON, or a table of either (CSV)."""
        desk = self._context.desk
        desk.commit()
        if desk.piece is None:
            return
        name = desk.settings.name + CHECKS[0].ending
        path = self._context.prompts.save_file(self._context.window, "Write the check out", offered(CHECKS), name)
        if path is None:
            return
        script, shelf, asked = desk.piece.script, desk.shelf, Asked(desk.asked.style)
        write = format_of(path, CHECKS).write

        def work(task: Task) -> None:
            write(path, Checked(read_piece(script, shelf), asked))

        self._context.beside(f"Writing {path.name}", _long(desk), work, lambda made: None)

    def mean(self) -> None:
        """Say that what is stood on is meant so, and why; no longer, where it is."""
        desk, note = self._context.desk, self.page.current_note
        if (desk.part is None and not desk.on_combo) or note is None or not note.code or note.code == "problem":
            self._context.say("Stand on something that is worth a look: then it can be meant so.")
        elif note.meant:
            desk.change(meant_text(desk.text, note.code, None), "Mean it so no longer")
        elif note.level != "look":
            self._context.say("Only what is worth a look can be meant so.")
        else:
            reason = self._context.prompts.name(self._context.window, "It is meant so", "Why", "")
            if reason is not None:
                desk.change(meant_text(desk.text, note.code, reason), "Mean it so")


def _long(desk: Desk) -> int:
    return len(desk.stretch.sounds) if desk.stretch is not None else 0
