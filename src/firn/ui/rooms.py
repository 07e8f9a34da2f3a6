"""The pages behind the first one, and the work on them: each made when it is first needed.

Firn starts with the page that is shown; what the others need is not even imported before.
"""

from collections.abc import Callable, Iterator
from fractions import Fraction
from functools import cached_property
from typing import TYPE_CHECKING

from PySide6.QtWidgets import QWidget

from firn.core.pattern import compile_one
from firn.ui.actions import ACTIONS
from firn.ui.pages.entries import DRILL, LISTEN, LOG, PAGES, READ, STEPS, PageView
from firn.ui.theme.theme import Theme
from firn.ui.work.cards import Cards
from firn.ui.work.context import Context, Handlers
from firn.ui.work.dancing import Dancing
from firn.ui.work.program import Program

if TYPE_CHECKING:
    from firn.devices.duplex import OpenDuplex
    from firn.ui.pages.drill.page import DrillPage
    from firn.ui.pages.listen.page import ListenPage
    from firn.ui.pages.log.page import LogPage
    from firn.ui.pages.read.page import ReadPage
    from firn.ui.pages.steps.page import StepsPage
    from firn.ui.stand_back import StandBack
    from firn.ui.work.classes import Classes
    from firn.ui.work.drills import Drills
    from firn.ui.work.log import Log
    from firn.ui.work.own_calls import OwnCalls
    from firn.ui.work.reading import Reading
    from firn.ui.work.recording import Recording
    from firn.ui.work.steps import Steps
    from firn.ui.work.students import Students
    from firn.ui.work.takes import Takes


class Rooms:
    """Makes pages and puts them in their place (`put`); `moved` is told the place that a recording has come to."""

    def __init__(
        self,
        context: Context,
        theme: Theme,
        program: Program,
        dancing: Dancing,
        cards: Cards,
        stand_back: "StandBack",
        who: QWidget,
        *,
        put: Callable[[int, QWidget], None],
        moved: Callable[[Fraction, bool], None],
        open_duplex: "OpenDuplex | None",
    ) -> None:
        self._context, self._theme, self._program = context, theme, program
        self._dancing, self._cards, self._stand_back = dancing, cards, stand_back
        self._who = who
        self._put, self._moved, self._open_duplex = put, moved, open_duplex

    def made(self, name: str) -> bool:
        """Whether something of this name has been needed yet."""
        return name in self.__dict__

    @cached_property
    def listen(self) -> "ListenPage":
        """The page on which takes are judged."""
        from firn.ui.pages.listen.page import ListenPage

        context = self._context
        page = ListenPage(context.desk, self._theme, context.jobs, lambda: self._program.settings.on_ms)
        page.play_take.connect(lambda sound, _: self._dancing.play_samples(sound))
        page.play_both.connect(self._dancing.play_both)
        page.judged.connect(lambda take, verdict: self.log_work.judged(take, verdict))
        page.combo_judged.connect(lambda take, routine: self.log_work.combo_judged(take, routine))
        page.taken_as.connect(lambda take, found: self.takes.take_as(take, found))
        page.panel.record.connect(lambda: self.recording.toggle())
        page.panel.browse.connect(lambda: self.takes.ask_recording())
        page.panel.simulate.connect(lambda: self.takes.ask_simulation())
        self._put(LISTEN, page)
        return page

    @cached_property
    def read(self) -> "ReadPage":
        """The page on which the part is checked and measured."""
        from firn.ui.pages.read.page import ReadPage

        page = ReadPage(self._context.desk, self._theme)
        self._put(READ, page)
        return page

    @cached_property
    def read_work(self) -> "Reading":
        """The work on what Read says."""
        from firn.ui.work.reading import Reading

        return Reading(self._context, self.read, self._dancing, self._program, self._to_step)

    def _to_step(self, card: str) -> None:
        self._context.show_page(STEPS)
        self.steps.stand_on(card)

    @cached_property
    def drill(self) -> "DrillPage":
        """The page of drills."""
        from firn.ui.pages.drill.page import DrillPage

        page = DrillPage(self._context.desk, self._theme)
        self._put(DRILL, page)
        return page

    @cached_property
    def drills(self) -> "Drills":
        """The work on drills."""
        from firn.ui.work.drills import Drills

        return Drills(self._context, self.drill, self._dancing, self._stand_back)

    @cached_property
    def calls(self) -> "OwnCalls":
        """The work on parts that are called in her own voice."""
        from firn.ui.work.own_calls import OwnCalls

        return OwnCalls(self._context, self._dancing, self._open_duplex)

    @cached_property
    def students(self) -> "Students":
        """The work on who practises."""
        from firn.ui.work.students import Students

        return Students(self._context, self._who)

    @property
    def drilling(self) -> bool:
        """Whether a drill is being danced."""
        return self.made("drills") and self.drills.run.on

    @cached_property
    def classes(self) -> "Classes":
        """The work on classes."""
        from firn.ui.work.classes import Classes

        return Classes(self._context, self.drill, self._stand_back)

    @property
    def in_class(self) -> bool:
        """Whether a class is on."""
        return self.made("classes") and self.classes.run.on

    @cached_property
    def takes(self) -> "Takes":
        """The work on takes."""
        from firn.ui.work.takes import Takes

        return Takes(self._context, self.listen)

    @cached_property
    def recording(self) -> "Recording":
        """Recording takes."""
        from firn.ui.work.recording import Recording

        made = Recording(self._context, self._program, self._dancing.stop, self._open_duplex)
        made.moved.connect(self._moved)
        made.running.connect(self.listen.show_recording)
        made.told.connect(self.listen.tell_recording)

        def give_way(on: bool) -> None:
            if on:
                made.cancel()

        self._dancing.playing.connect(give_way)
        return made

    @cached_property
    def log(self) -> "LogPage":
        """The page of the log."""
        from firn.ui.pages.log.page import LogPage

        page = LogPage(self._context.desk, self._theme)
        page.note.connect(lambda: self.log_work.note())
        page.change.connect(lambda entry: self.log_work.change(entry))
        self._put(LOG, page)
        return page

    @cached_property
    def log_work(self) -> "Log":
        """The work on the log."""
        from firn.ui.work.log import Log

        return Log(self._context, self.log)

    @cached_property
    def steps(self) -> "StepsPage":
        """The page of the library."""
        from firn.ui.pages.steps.page import StepsPage

        page = StepsPage(self._context.desk, self._theme)
        self._put(STEPS, page)
        return page

    @cached_property
    def steps_work(self) -> "Steps":
        """The work on steps."""
        from firn.ui.work.steps import Steps

        return Steps(self._context, self.steps, self._dancing, self._cards)

    def page(self, index: int) -> PageView:
        """The page of a place behind the first, with the work on it."""
        makes: dict[str, Callable[[], PageView]] = {
            "read": lambda: self.read_work.page,
            # Drills and classes share a page.
            "drill": lambda: (self.drills, self.classes)[0].page,
            "listen": lambda: self.listen,
            "log": lambda: self.log,
            "steps": lambda: self.steps_work.page,
        }
        return makes[PAGES[index].id]()

    @cached_property
    def _handlers(self) -> Handlers:
        from firn.ui.work.building import Building
        from firn.ui.work.giving import Giving
        from firn.ui.work.printing import Printing

        printing = Printing(self._context, lambda: self.drill.class_shown if self.made("drill") else None)

        return {
            **self.takes.handlers(),
            **self.recording.handlers(),
            **self.log_work.handlers(),
            **self.steps_work.handlers(),
            **printing.handlers(),
            **Giving(self._context, self._program, printing).handlers(),
            **self.read_work.handlers(),
            **self.drills.handlers(),
            **self.calls.handlers(),
            **Building(self._context, self._theme).handlers(),
            **self.students.handlers(),
            **self.classes.handlers(),
        }

    def ahead(self) -> Iterator[None]:
        """Make what is not yet needed, a little with each step."""
        for place in range(1, len(PAGES)):
            self.page(place)
            yield
        self._handlers.keys()
        yield
        while compile_one():
            yield

    def handlers(self) -> Handlers:
        """Handlers of what is done here; the rooms are made at the first of them."""

        def late(name: str) -> Callable[[], object]:
            return lambda: self._handlers[name]()

        menus, here = (
            ("Drill", "Take", "Log", "Step", "Read"),
            ("print", "pdf", "step_of_selection", "fill_combo", "levels"),
        )
        return {s.id: late(s.id) for s in ACTIONS if s.menu in menus or s.id in here}

    def leave(self) -> None:
        """End what runs here, as the window turns to something else."""
        if self.made("recording"):
            self.recording.cancel()
        if self.drilling:
            self.drills.run.leave()
        if self.made("classes"):
            self.drill.class_view.commit()
        if self.in_class:
            self.classes.leave()
