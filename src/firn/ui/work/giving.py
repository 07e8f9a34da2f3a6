"""Giving out: what leaves Firn, all from one place, and what students did coming back."""

from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

from msgspec.structs import replace
from PySide6.QtGui import QImage

from firn.core.book.book import BookPiece
from firn.core.book.students import Student
from firn.core.drills.ladder import Ladder, rungs
from firn.core.drills.stage import Drill
from firn.core.piece.build import piece_from
from firn.core.piece.piece import Part, Piece
from firn.core.task import Task
from firn.errors import FirnError
from firn.files.formats import PIECE, RECORDING, Format
from firn.files.whole import write_bytes
from firn.session.drill_text import steps_text
from firn.session.outgoing import Kind, Outgoing
from firn.session.stretch import Stretch, across, combo_stretch, part_stretch
from firn.session.view import PLAIN, View
from firn.ui.work.context import Context, Handlers
from firn.ui.work.printing import Printing
from firn.ui.work.program import Program

if TYPE_CHECKING:
    # Heavy, or seldom: imported when something is given out.
    from firn.session.paper import Paper

LOOKED_AT = 600
"""Of a part with more sounds no look is offered: it would keep the window."""

LOOK_PX = 660
WEEK, MINUTES = 7, 15.0
REST = 4
"""Counts of rest on each rung of a ladder."""


class Giving:
    """Gives out what is on the desk."""

    def __init__(self, context: Context, program: Program, printing: Printing) -> None:
        self._context, self._program, self._printing = context, program, printing
        self._last = Outgoing()

    def handlers(self) -> Handlers:
        return {"print": self.give_out}

    def give_out(self) -> None:
        """Ask what is to leave and how, and let it."""
        desk, book = self._context.desk, self._context.bridge.book
        desk.commit()
        if self._printing.plan_shown():
            # A class is on show: that is what is given out.
            self._printing.print()
            return
        kept = desk.piece
        if kept is None or desk.stretch is None or not desk.stretch.sounds:
            self._context.say("There is nothing to print yet: write some steps first.")
            return
        from firn.ui.dialogs.give_out import GiveOutDialog

        piece = piece_from(kept.script, desk.shelf)
        parts = [*(p.name for p in piece.parts if p.sounds), *(("combo",) if piece.combo else ())]
        settings = self._program.settings
        begin = replace(
            self._last,
            tempo=desk.transport.tempo,
            by=settings.made_by,
            licence=settings.licence,
            paper=settings.paper,
        )
        students = [(s.id, s.name) for s in book.students]
        drills = [(d.id, d.name) for d in book.drills_of(kept.id)]
        look, window = partial(self._look, piece), self._context.window
        choose = partial(self._context.prompts.open_file, window, "Your voice", RECORDING.offered)
        dialog = GiveOutDialog(parts, desk.title, drills, students, look, begin, choose, window)
        if not self._context.prompts.run(dialog):
            return
        out = self._last = dialog.outgoing
        if (out.by, out.licence, out.paper) != (settings.made_by, settings.licence, settings.paper):
            self._program.keep(made_by=out.by, licence=out.licence, paper=out.paper)
        try:
            self._give(kept, piece, out)
        except FirnError as fault:
            self._context.say(str(fault))

    # What leaves

    def _give(self, kept: BookPiece, piece: Piece, out: Outgoing) -> None:
        if out.kind.group == "paper":
            make = self._sheet(piece, out)
            name = f"{kept.name} {out.part if 'part' in out.kind.asks else ''} {out.kind.name.casefold()}"
            if out.printed:
                self._printing.print_sheet(make, out.paper)
            else:
                self._printing.write_sheet(make, f"{_plain(name)}.pdf", out.paper)
        elif out.kind.id == "pack":
            self._give_pack(kept, out)
        elif out.kind.id == "film":
            self._film(kept, piece, out)
        else:
            self._write(kept, piece, out)

    def _sheet(self, piece: Piece, out: Outgoing) -> "Callable[[], Paper]":
        """What makes the sheet that is asked for."""
        make = self._plain_sheet(piece, out)
        return (lambda: replace(make(), hall=True)) if out.hall and "hall" in out.kind.asks else make

    def _plain_sheet(self, piece: Piece, out: Outgoing) -> "Callable[[], Paper]":
        from firn.session.cue_sheet import count_paper, cue_paper

        part = piece.part(out.part) if out.part != "combo" else None
        if out.kind.id == "week":
            return self._week(out.days or WEEK)
        if out.kind.id == "drill":
            return self._drill(out.drill)
        if out.kind.id == "cue":
            return lambda: cue_paper(piece, languages=(out.language,) if out.language else ())
        if out.kind.id == "levels":
            return lambda: _levels_paper(part)
        if out.kind.id == "counts":
            return lambda: count_paper(piece, part, swapped=out.swapped)
        plain = not (out.swapped or out.mirrored or (out.language and "language" in out.kind.asks))
        if out.part == self._context.desk.title and plain:
            made = self._printing.sheet(check=out.kind.id == "check")
            if made is None:
                raise FirnError("There is nothing to print yet: write some steps first.")
            return made
        view = self._context.desk.view
        return lambda: _strip_paper(piece, out, view)

    def _week(self, many: int) -> "Callable[[], Paper]":
        """What makes the sheet of a practice of so many days, from today on."""
        from datetime import date

        from firn.session.planning import practice
        from firn.session.practice_paper import week_paper

        kept, book, shelf = self._context.desk.piece, self._context.bridge.book, self._context.desk.shelf
        assert kept is not None
        days = practice(
            kept, book.own_log, shelf, minutes=MINUTES, today=date.today(), days=many, student=book.student
        )
        return lambda: week_paper(kept, days)

    def _drill(self, key: str) -> "Callable[[], Paper]":
        """What makes the sheet of a drill."""
        from firn.session.drilling import plan
        from firn.session.practice_paper import drill_paper

        kept, shelf = self._context.desk.piece, self._context.desk.shelf
        assert kept is not None
        drill = self._drill_of(kept, key)
        if drill is None:
            raise FirnError("This piece has no drill yet: Shift+F12 makes one.")
        return lambda: drill_paper(kept, plan(kept, drill, shelf))

    def _drill_of(self, kept: BookPiece, key: str) -> Drill | None:
        return next((d for d in self._context.bridge.book.drills_of(kept.id) if d.id == key), None)

    def _look(self, piece: Piece, out: Outgoing, page: int) -> tuple[QImage, int] | None:
        """A page of what would leave and how many it has, where it is paper and soon made."""
        if out.kind.group != "paper" or sum(len(p.sounds) for p in piece.parts) > LOOKED_AT:
            return None
        from firn.ui.printed import picture_of

        try:
            sheet = self._sheet(piece, out)()
        except FirnError:
            return None
        return picture_of(sheet, out.paper, page, LOOK_PX)

    def _give_pack(self, kept: BookPiece, out: Outgoing) -> None:
        from datetime import date

        from firn.session.giving import Order, pack_name, packs, wanted_of, write_pack
        from firn.session.pack.page import make_pack
        from firn.ui.dialogs.give_out import EVERYONE

        book, shelf = self._context.bridge.book, self._context.desk.shelf
        workbook = self._context.bridge.session.path
        parts = () if out.part == "combo" else (out.part,)
        language = out.language if out.language in ("en", "es") else ""
        order = Order(
            parts, out.by, out.licence, out.note, language, out.tempo, days=out.days,
            drill=self._drill_of(kept, out.ticked),
        )  # fmt: skip
        today = date.today()

        def with_beside(task: Task) -> Order:
            """The order with her voice and the pictures of clips, each made once."""
            from firn.session.pack.beside import films_of, voice_of

            voice = voice_of(Path(out.spoken)) if out.spoken else b""
            films = films_of(book, kept, parts, shelf, workbook, task) if out.clip else ()
            return replace(order, voice=voice, films=films)

        if out.student == EVERYONE:
            folder = self._context.prompts.folder(self._context.window, "A folder for the packs")
            if folder is None:
                return

            def each(task: Task) -> int:
                def give(student: Student, pack: object) -> None:
                    write_pack(folder / f"{pack_name(kept, student, named=False)}.html", pack)  # type: ignore[arg-type]

                ready = with_beside(task.within(0, 0.2))
                packs(book, kept, book.students, shelf, ready, today, give, task.within(0.2, 1))
                return len(book.students)

            said = f"Packs for {len(book.students)} are in {folder.name}, named by their keys."
            self._context.jobs.run("give", "Making the packs", each, lambda _: self._context.say(said))
            return
        student = next((s for s in book.students if s.id == out.student), None)
        name = f"{pack_name(kept, student, named=False)}.html"
        kinds = Format("Packs", (".html", ".zip"))
        path = self._context.prompts.save_file(self._context.window, "Write a pack", kinds.offered, name)
        if path is None:
            return
        log = [e for e in book.log if e.student == out.student]

        def work(task: Task) -> float:
            ready = with_beside(task.within(0, 0.2))
            pack = make_pack(wanted_of(kept, log, shelf, ready, student, today), task.within(0.2, 1))
            write_pack(path, pack)
            return len(pack.html) / 1e6

        def done(size: float) -> None:
            self._context.say(f"{path.name} holds {size:.1f} MB and opens on any phone.")

        self._context.jobs.run("give", "Making the pack", work, done)

    def _film(self, kept: BookPiece, piece: Piece, out: Outgoing) -> None:
        from firn.session.converting import How, on_a_ladder, section_of
        from firn.ui.film import write_film

        name = f"{_plain(f'{kept.name} {out.part}')}{out.kind.ending}"
        kinds = Format("Films", (out.kind.ending,))
        path = self._context.prompts.save_file(self._context.window, "Write a film", kinds.offered, name)
        if path is None:
            return
        stretch, view = _stretch(piece, out)
        how = How(tempo=out.tempo)
        shown = [(stretch, section_of(stretch, piece, how))]
        if out.climb:
            steps = rungs(Ladder(out.tempo or float(piece.settings.tempo), out.climb, times=1))
            shown = on_a_ladder(stretch, piece, how, steps, rest=REST)

        def work(task: Task) -> None:
            write_film(path, f"{kept.name}, {out.part}", shown, view, task)

        self._context.jobs.run(
            "give", f"Making {path.name}", work, lambda _: self._context.say(f"{path.name} is made.")
        )

    def _write(self, kept: BookPiece, piece: Piece, out: Outgoing) -> None:
        """Write a file of one of the kinds that are one file of bytes."""
        kind = out.kind
        what = _WHOLE.get(kind.id, f" {out.part}")
        offered = Format(kind.name, (kind.ending, *_ALSO.get(kind.id, ())))
        name = f"{_plain(kept.name + what)}{kind.ending}"
        path = self._context.prompts.save_file(self._context.window, f"Write {kind.name}", offered.offered, name)
        if path is None:
            return
        make = self._bytes(kept, piece, out, kind, path.suffix.casefold() or kind.ending)

        def work(task: Task) -> tuple[str, ...]:
            data, told = make()
            task.step(0.9)
            write_bytes(path, data)
            return told

        def done(told: tuple[str, ...]) -> None:
            self._context.say(" ".join((f"{path.name} is written.", *told)))

        self._context.jobs.run("give", f"Writing {path.name}", work, done)

    def _table(self, piece: Piece, what: str, tempo: float, ending: str) -> bytes:
        """The ledger of a piece, or the log of the workbook, as a file."""
        from firn.core.reading.ledger import ledger
        from firn.session.ledger import ledger_data
        from firn.session.log import log_data
        from firn.session.tables import written_data

        if what == "log":
            return written_data(log_data(self._context.bridge.book), "log", ending)
        if not piece.combo:
            raise FirnError("This piece has no combo: join its parts in lines under combo.")
        return written_data(ledger_data(ledger(piece, tempo=tempo)), "passes", ending)

    def _bytes(
        self, kept: BookPiece, piece: Piece, out: Outgoing, kind: Kind, ending: str
    ) -> Callable[[], tuple[bytes, tuple[str, ...]]]:
        from firn.session.converting import How, calendar, written

        shelf, book = self._context.desk.shelf, self._context.bridge.book
        if kind.id == "picture":
            from firn.ui.printed import drawn

            data = drawn(_strip_paper(piece, out, self._context.desk.view), ending)
            return lambda: (data, ())
        if kind.id == "calendar":
            from datetime import date

            from firn.session.planning import practice

            days = practice(kept, book.own_log, shelf, minutes=MINUTES, today=date.today(), days=out.days or WEEK)
            return lambda: (calendar(days, kept.name), ())
        if kind.id in ("ledger", "log"):
            data = self._table(piece, kind.id, out.tempo, ending)
            return lambda: (data, ())
        part = "" if out.part == "combo" or kind.id in _WHOLE else out.part
        how = How(part, out.tempo, out.counts, out.counts)
        text = steps_text(kept, book.drills_of(kept.id)) if ending == PIECE.ending else kept.script

        def make() -> tuple[bytes, tuple[str, ...]]:
            made = written(text, ending, shelf, how)
            return made.data, made.told

        return make


_WHOLE = {"text": "", "table": "", "calendar": "", "ledger": " ledger", "log": " log"}
"""What is of all of a piece, or of a workbook, and what that adds to the name of its file."""

_ALSO = {"sound": (".wav", ".flac", ".ogg"), "picture": (".png",), "table": (".json",), "ledger": (".json",),
         "log": (".json",)}  # fmt: skip
"""Other endings that a kind may be written with."""


def _strip_paper(piece: Piece, out: Outgoing, view: View) -> "Paper":
    """A strip as it is asked for, with the layers that a view shows, without what is worth a look."""
    from firn.session.cue_sheet import in_both
    from firn.session.paper import paper

    part = piece.part(out.part) if out.part != "combo" else None
    stretch, _ = _stretch(piece, out)
    view = replace(PLAIN, mirrored=out.mirrored, hidden=view.hidden)
    stretch = in_both(stretch, piece, out.language)
    return paper(piece.settings, stretch.title, stretch, part.script.text if part is not None else "", (), view)


def _levels_paper(part: Part | None) -> "Paper":
    from firn.session.levels import levels_paper

    if part is None:
        raise FirnError("A combo has no levels: choose one of its parts.")
    return levels_paper(part)


def _stretch(piece: Piece, out: Outgoing) -> tuple[Stretch, View]:
    """What is to be seen or danced, on the side that is asked for, and how it is seen."""
    from firn.core.piece.unfold import unfold

    part = piece.part(out.part) if out.part != "combo" else None
    stretch = part_stretch(part) if part is not None else combo_stretch(piece, unfold(piece))
    view = replace(PLAIN, mirrored=True) if out.mirrored else PLAIN
    return across(stretch) if out.swapped else stretch, view


def _plain(name: str) -> str:
    """A name that a file can have."""
    return " ".join("".join(c if c.isalnum() or c in " -_" else " " for c in name).split())[:80]
