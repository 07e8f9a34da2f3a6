"""Drills: made, named, changed, planned, and begun."""

from collections.abc import Sequence
from datetime import date
from functools import partial

from msgspec.structs import replace
from PySide6.QtWidgets import QMenu

from firn.core.book.book import BookPiece
from firn.core.book.practice_edits import AddDrill, AddDrills, ChangeClass, ChangeDrill, DeleteClass, DeleteDrill
from firn.core.drills.class_plan import ClassPlan
from firn.core.drills.offers import Offer
from firn.core.drills.stage import COMBO, Drill
from firn.session.drilling import first_drill, free_drill_name, ladder_of, ladder_stage, plan
from firn.session.fresh import new_id
from firn.session.planning import Day, drill_of, practice
from firn.ui.pages.drill.page import DrillPage
from firn.ui.pages.entries import DRILL
from firn.ui.stand_back import StandBack
from firn.ui.widgets.labels import shown
from firn.ui.work.context import Context, Handlers
from firn.ui.work.dancing import Dancing
from firn.ui.work.drill_ear import DrillEar
from firn.ui.work.drill_run import DrillRun

MOST_LIKE = 20
"""Drills of other pieces that are offered as patterns, the newest."""

LETTERS_A_SOUND = 5
"""About how many letters write a sound."""


class Drills:
    """Works on the drills of the workbook."""

    def __init__(self, context: Context, page: DrillPage, dancing: Dancing, stand_back: StandBack) -> None:
        self._context, self.page, self._stand_back = context, page, stand_back
        self.run = DrillRun(context, dancing)
        self.ear = DrillEar(context, dancing, self.run)
        self.menu: QMenu | None = None
        page.changed.connect(lambda drill, label: context.do(ChangeDrill(drill, label)))
        page.begun.connect(self.begin)
        page.run.connect(self.dance)
        page.menu.connect(self.show_menu)
        page.plan_button.clicked.connect(self.plan)
        self.run.told.connect(stand_back.show_run)
        stand_back.answered.connect(self.run.answer)
        stand_back.picked.connect(self.run.asked.answer)
        stand_back.stage.connect(self.run.to_stage)
        stand_back.slower.connect(self.run.slower)
        stand_back.listen.connect(self.ear.toggle)

    def handlers(self) -> Handlers:
        return {
            "run_drill": lambda: self.dance(self.page.stages.current),
            "new_drill": self.new,
            "ladder": self.ladder,
            "plan_drill": self.plan,
            "rename_drill": self.rename,
            "delete_drill": self.delete,
            "next_drill": self.next,
            "drill_text": self.as_text,
        }

    def begin(self, found: Sequence[Offer]) -> None:
        """A new drill of the first stages that fit."""
        piece = self._context.desk.piece
        if piece is None:
            return
        drills = self._context.bridge.book.drills_of(piece.id)
        self._add(first_drill(piece, found, free_drill_name(drills, "Practice")))

    def new(self) -> None:
        """A new drill without a stage."""
        piece = self._context.desk.piece
        if piece is not None:
            drills = self._context.bridge.book.drills_of(piece.id)
            self._add(Drill(new_id(), piece.id, free_drill_name(drills, "Practice")))

    def ladder(self) -> None:
        """Turn to a drill of one stage: a ladder of what is on the desk, the one that there is or a new one."""
        context, desk = self._context, self._context.desk
        desk.commit()
        if desk.piece is None or desk.stretch is None or not desk.stretch.sounds:
            context.say("There is nothing to dance yet: write a step first.")
            return
        stage = ladder_stage(desk.part_id or COMBO, desk.transport.tempo, desk.transport.chosen)
        drills = context.bridge.book.drills_of(desk.piece.id)
        there = ladder_of(drills, stage)
        context.show_page(DRILL)
        if there is not None:
            self.page.pick(there.id)
        else:
            self._add(Drill(new_id(), desk.piece.id, free_drill_name(drills, f"Ladder of {desk.title}"), (stage,)))
        self.page.stages.setFocus()
        context.say("A ladder: Enter dances it. Tab turns to its values, ← → walk on them, ↑ ↓ change one.")

    def _of_other_pieces(self) -> list[tuple[BookPiece, Drill]]:
        """The drills of the workbook's other pieces, each with its piece, the newest."""
        book, here = self._context.bridge.book, self._context.desk.piece
        others = [piece for piece in book.pieces if here is None or piece.id != here.id]
        return [(piece, drill) for piece in others for drill in book.drills_of(piece.id) if drill.stages][-MOST_LIKE:]

    def like(self, theirs: BookPiece, drill: Drill) -> None:
        """A new drill as one of another piece is."""
        from firn.session.like_drill import drill_like

        desk = self._context.desk
        if desk.piece is None:
            return
        desk.commit()
        name = free_drill_name(self._context.bridge.book.drills_of(desk.piece.id), drill.name)
        made = drill_like(drill, theirs, desk.piece, name, desk.shelf)
        if not made.drill.stages:
            self._context.say(f"None of the stages of {drill.name} have parts here.")
            return
        self._add(made.drill)
        if made.left_out:
            stages = "1 stage is" if made.left_out == 1 else f"{made.left_out} stages are"
            self._context.say(f"{stages} left out: there is nothing to dance for it here.")

    def _add(self, drill: Drill) -> None:
        self._context.do(AddDrill(drill))
        self.page.pick(drill.id)

    def plan(self) -> None:
        """Ask for minutes and days, and plan a drill for each day of practice."""
        from firn.ui.dialogs.practice import PracticeDialog

        context = self._context
        context.desk.commit()
        piece = context.desk.piece
        if piece is None:
            return
        dialog = PracticeDialog(context.window)
        if not context.prompts.run(dialog):
            return
        book = context.bridge.book
        made = partial(
            practice, piece, book.own_log, context.desk.shelf, student=book.student,
            minutes=dialog.minutes, days=dialog.days, today=date.today(),
        )  # fmt: skip
        sounds = sum(len(p.text) for p in piece.parts) // LETTERS_A_SOUND
        context.beside("Planning a practice", sounds, lambda task: made(), partial(self._planned, piece))

    def _planned(self, piece: BookPiece, days: Sequence[Day]) -> None:
        context, book = self._context, self._context.bridge.book
        danced = [day for day in days if not day.rests]
        plans = (drill_of(piece, day, f"{day.on:%a} {day.on.day} {day.on:%b}", new_id()) for day in danced)
        made = tuple(replace(one, student=book.who) for one in plans)
        context.do(AddDrills(made))
        self.page.pick(made[0].id)
        left = next((day.carried for day in days if day.carried), ())
        rests = len(days) - len(danced)
        rest = f", {rests} of rest" if rests else ""
        said = f" Left for another day: {', '.join(left)}." if left else ""
        context.say(f"Planned: {len(danced)} {'day' if len(danced) == 1 else 'days'} of practice{rest}.{said}")

    @property
    def _shown(self) -> Drill | ClassPlan | None:
        """The drill or class on show."""
        return self.page.class_plan or self.page.drill

    def rename(self) -> None:
        """Ask for another name of what is on show."""
        one = self._shown
        if one is None:
            self._context.say("There is no drill to name yet.")
            return
        of = "class" if isinstance(one, ClassPlan) else "drill"
        name = self._context.prompts.name(self._context.window, f"Rename the {of}", "Name", one.name)
        if name is None:
            return
        if isinstance(one, ClassPlan):
            self._context.do(ChangeClass(replace(one, name=name), "Rename the class"))
        else:
            self._context.do(ChangeDrill(replace(one, name=name), "Rename the drill"))

    def as_text(self) -> None:
        """Ask for the drill on show as text; where there is none, for a new one."""
        from firn.session.drill_text import known_of
        from firn.ui.dialogs.drill_text import DrillTextDialog

        context = self._context
        context.desk.commit()
        piece = context.desk.piece
        if piece is None or self.page.class_plan is not None:
            context.say("Turn to a drill first: a class has no text.")
            return
        drills = context.bridge.book.drills_of(piece.id)
        drill = self.page.drill or Drill(new_id(), piece.id, free_drill_name(drills, "Practice"))
        dialog = DrillTextDialog(drill, known_of(piece, context.desk.shelf), context.window)
        if not context.prompts.run(dialog) or dialog.made == drill:
            return
        if self.page.drill is None:
            self._add(dialog.made)
        else:
            context.do(ChangeDrill(dialog.made, "Write the drill as text"))

    def delete(self) -> None:
        """Delete what is on show."""
        one = self._shown
        if one is not None:
            self._context.do(DeleteClass(one.id) if isinstance(one, ClassPlan) else DeleteDrill(one.id))
            self._context.say(f"{one.name} is deleted. Ctrl+Z brings it back.")

    def next(self) -> None:
        """The next drill, or class, of the piece."""
        piece, one, book = self._context.desk.piece, self._shown, self._context.bridge.book
        if piece is not None and one is not None:
            ids = [*(d.id for d in book.drills_of(piece.id)), *(c.id for c in book.classes_of(piece.id))]
            self.page.pick(ids[(ids.index(one.id) + 1) % len(ids)])

    def show_menu(self) -> None:
        """Offer the piece's drills, and what is done with the one on show."""
        piece, drill = self._context.desk.piece, self.page.drill
        if piece is None:
            return
        book, shown_class = self._context.bridge.book, self.page.class_plan
        classes = book.classes_of(piece.id)
        theirs = self._of_other_pieces()
        if drill is None and not classes and not theirs:
            self.new()
            return
        self.menu = QMenu(self.page)
        on_show = shown_class.id if shown_class is not None else drill.id if drill is not None else ""
        groups: tuple[tuple[Drill | ClassPlan, ...], ...] = (book.drills_of(piece.id), classes)
        for group in groups:
            for one in group:
                action = self.menu.addAction(shown(one.name))
                action.setCheckable(True)
                action.setChecked(one.id == on_show)
                action.triggered.connect(lambda _=False, key=one.id: self.page.pick(key))
            self.menu.addSeparator()
        if theirs:
            like = self.menu.addMenu("New, like that of another piece")
            for other, one in theirs:
                action = like.addAction(shown(f"{one.name}, of {other.name or 'a piece without a name'}"))
                action.triggered.connect(lambda _=False, other=other, one=one: self.like(other, one))
        for text, do in (
            ("New drill", self.new), ("As text…", self.as_text), ("Rename…", self.rename), ("Delete", self.delete),
        ):  # fmt: skip
            self.menu.addAction(text).triggered.connect(lambda _=False, do=do: do())
        self.menu.popup(self.page.name_button.mapToGlobal(self.page.name_button.rect().bottomLeft()))

    def _voiced(self, piece: str) -> dict[str, str]:
        """Words for the parts of a piece that are called in her own voice."""
        book = self._context.bridge.book
        if not book.calls:
            return {}
        from firn.session.calls import calls_of

        return calls_of(self._context.bridge.session.store, book, piece)

    def dance(self, stage: int) -> None:
        """Dance the drill on show, from a stage on, from across the room; or begin the class on show."""
        if self.page.class_plan is not None:
            self.page.run_class.emit(self.page.class_view.items.current)
            return
        desk, drill = self._context.desk, self.page.drill
        if drill is None or desk.piece is None or not drill.stages:
            self._context.say("Make a drill first: on Drill, what fits the part is offered.")
            return
        desk.commit()
        made = plan(desk.piece, drill, desk.shelf, self._voiced(desk.piece.id))
        if not self.run.start(made, stage):
            wrong = next((one.wrong for one in made.stages if one.wrong), "There is nothing to dance in it.")
            self._context.say(wrong)
            return
        self._stand_back.wanted.emit()
