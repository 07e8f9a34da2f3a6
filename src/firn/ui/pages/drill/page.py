"""Drill: the stages of a drill on a thread, the one that is stood on in six values, and what else fits the part."""

from collections.abc import Sequence
from fractions import Fraction

from msgspec.structs import replace
from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QFont, QShowEvent
from PySide6.QtWidgets import (
    QHBoxLayout,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QPushButton,
    QSizePolicy,
    QVBoxLayout,
    QWidget,
)

from firn.core.book.book import BookPiece
from firn.core.drills.class_plan import ClassPlan
from firn.core.drills.offers import Offer, offer_title
from firn.core.drills.stage import Drill, Stage
from firn.errors import FirnError
from firn.session.drill_values import minutes_said, numbered, stage_line, stepped
from firn.session.drilling import DrillPlan, Planned, names_of, offered, plan
from firn.ui.desk import Desk
from firn.ui.pages.drill.class_view import ClassView
from firn.ui.pages.entries import PageView
from firn.ui.theme.theme import Theme
from firn.ui.widgets.labels import Label, heading, repolish, rule
from firn.ui.widgets.room import Page
from firn.ui.widgets.spoken_line import SpokenLine
from firn.ui.widgets.stages import Stages, StageShown
from firn.ui.widgets.strip.strip import Strip
from firn.ui.widgets.strip.view import StripView

MOST_OFFERED = 5
EMPTY = (
    "No drill yet. Below is what fits this part: take the first three as a drill, or pick one. A drill is danced "
    "stage by stage, from across the room, and says in the log how each time went."
)
NO_PART = "Turn to a part with steps (above right): what fits it is offered here."
CARE = "Warm up first, rest between stages, and stop before the form goes; a rail or chair for slow airborne steps."


class DrillPage(Page, PageView):
    """The page of drills. `changed`: the drill as it is to be, and what that is called; `begun`: a drill of offers is
    wanted; `run`: the drill is to be danced from a stage on, `run_class` the class from an item on; `menu`: which
    drill or class, and what is done with it."""

    changed = Signal(object, str)
    begun = Signal(object)
    run = Signal(int)
    run_class = Signal(int)
    menu = Signal()
    NARROW_HEIGHT_PX = 760

    def __init__(self, desk: Desk, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(theme, parent)
        self._desk = desk
        self._wanted = ""
        self._offers: list[Offer] = []
        self.plan: DrillPlan | None = None
        self.name_button = QPushButton("")
        self.summary, self.title, self.why, self.care = Label(), Label(), Label(), Label(CARE)
        self.run_button = QPushButton("Dance the drill")
        self.plan_button = QPushButton("Plan a practice…")
        self.begin_button = QPushButton("Make a drill of the first three")
        self.stages = Stages(theme)
        self.line = SpokenLine(theme)
        self.line.setAccessibleName("The stage, value by value")
        self.strip = Strip(theme)
        self.view = StripView(self.strip, whole=True)
        self.offers = QListWidget()
        self.offers.setAccessibleName("Stages that fit this part")
        # It takes the room that there is, and asks for none.
        self.offers.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Ignored)
        self.offers.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.typed = QLineEdit()
        self.typed.setPlaceholderText("or type a name: ladder, run-in, click …")
        self.typed.setAccessibleName("Find a stage by name")
        self.offers_head = heading(theme, "What fits")
        self.class_view = ClassView(desk, theme)
        for label in (self.summary, self.why, self.care):
            label.setWordWrap(True)
        self._lay_out()
        self.name_button.clicked.connect(self.menu)
        self.run_button.clicked.connect(lambda: (self.run if self.class_plan is None else self.run_class).emit(0))
        self.begin_button.clicked.connect(lambda: self.begun.emit(self._offers))
        self.stages.walked.connect(lambda _: self._show_stage())
        self.stages.asked.connect(self._asked)
        self.line.asked.connect(self._step)
        self.line.numbered.connect(self._number)
        self.offers.itemActivated.connect(lambda item: self.take_offer(self.offers.row(item)))
        self.typed.textChanged.connect(lambda _: self._show_offers())
        self.typed.returnPressed.connect(lambda: self.take_offer(0))
        desk.shown.connect(self.show_desk)
        desk.danced.connect(self.show_desk)
        theme.changed.connect(self._restyle)
        self._restyle()

    def _lay_out(self) -> None:
        head = QHBoxLayout()
        head.setContentsMargins(24, 8, 24, 4)
        head.setSpacing(14)
        head.addWidget(self.name_button)
        head.addWidget(self.summary, 1)
        head.addWidget(self.plan_button)
        head.addWidget(self.begin_button)
        head.addWidget(self.run_button)
        told = QVBoxLayout()
        told.setContentsMargins(24, 6, 24, 0)
        told.setSpacing(2)
        named = QHBoxLayout()
        named.setSpacing(16)
        named.addWidget(self.title)
        named.addWidget(self.why, 1)
        told.addLayout(named)
        told.addWidget(self.line)
        names = QHBoxLayout()
        names.setSpacing(14)
        names.addWidget(self.offers_head)
        names.addWidget(self.typed, 1)
        names.addWidget(self.care, 3)
        below = QVBoxLayout()
        below.setContentsMargins(24, 6, 24, 8)
        below.setSpacing(4)
        below.addLayout(names)
        below.addWidget(self.offers, 1)
        self._rule = rule()
        self._drill_view = QWidget()
        outer = QVBoxLayout(self)
        box = QVBoxLayout(self._drill_view)
        for layout in (outer, box):
            layout.setContentsMargins(0, 0, 0, 0)
            layout.setSpacing(0)
        outer.addLayout(head)
        outer.addWidget(self._drill_view, 1)
        outer.addWidget(self.class_view, 1)
        box.addWidget(self.stages)
        box.addWidget(self._rule)
        box.addLayout(told)
        box.addWidget(self.view, 10)
        box.addWidget(rule())
        box.addLayout(below, 13)

    def arrange(self) -> None:
        """The care that is told stands beside what fits where there is room."""
        self.care.setVisible(not self.narrow)

    def _restyle(self) -> None:
        theme = self._theme
        self.title.setFont(theme.font(20, QFont.Weight.DemiBold))
        for label in (self.summary, self.why):
            label.setFont(theme.font(15))
        self.care.setFont(theme.font(14))
        self.care.setStyleSheet(f"color: {theme.tokens.quiet}")
        self.offers.setFont(theme.font(15))
        self.offers.setMinimumHeight(theme.px(74))
        self.typed.setFont(theme.font(15))

    # Showing

    @property
    def class_plan(self) -> ClassPlan | None:
        """The class on show; None where a drill is."""
        piece = self._desk.piece
        classes = self._desk.bridge.book.classes_of(piece.id) if piece is not None else ()
        return next((c for c in classes if c.id == self._wanted), None)

    @property
    def class_shown(self) -> ClassPlan | None:
        """The class that is seen now, with what has been typed."""
        self.class_view.commit()
        return self.class_plan if self.isVisible() else None

    @property
    def drill(self) -> Drill | None:
        """The drill on show: the one that was picked, else the piece's first."""
        piece = self._desk.piece
        drills = self._desk.bridge.book.drills_of(piece.id) if piece is not None else ()
        return next((d for d in drills if d.id == self._wanted), drills[0] if drills else None)

    def pick(self, wanted: str) -> None:
        """Show another drill, or class, by its id."""
        self.class_view.commit()
        self._wanted = wanted
        self.stages.stand_on(0)
        self.class_view.items.stand_on(0)
        self.show_desk()

    def showEvent(self, event: QShowEvent) -> None:
        super().showEvent(event)
        self.show_desk()

    def show_desk(self) -> None:
        """Show a class, or the drill of the piece on the desk and what fits its part, if the page is on show."""
        piece = self._desk.piece
        if not self.isVisible() or piece is None:
            return
        plan_shown = self.class_plan
        self._drill_view.setVisible(plan_shown is None)
        self.class_view.setVisible(plan_shown is not None)
        self.class_view.show_class(plan_shown)
        self.run_button.setText("Dance the drill" if plan_shown is None else "Begin the class")
        if plan_shown is not None:
            self._show_class(plan_shown)
        else:
            self._show_drill(piece)

    def _show_class(self, shown_plan: ClassPlan) -> None:
        items = shown_plan.items
        self.name_button.setText(f"{shown_plan.name}  ▾".replace("&", "&&"))
        self.summary.setText(f"a class of {shown_plan.minutes} min" if items else "a class without an item yet")
        self.begin_button.setVisible(False)
        self.run_button.setVisible(bool(items))
        self._next(bool(items))

    def _show_drill(self, piece: BookPiece) -> None:
        desk, drill = self._desk, self.drill
        self.plan = plan(piece, drill, desk.shelf) if drill is not None else None
        shown = self.plan.stages if self.plan is not None else ()
        count_in = desk.settings.count_in
        lengths = [one.seconds(count_in) for one in shown]
        self.stages.show_stages(
            [
                StageShown(one.title, minutes_said(long) if not one.wrong else "cannot be danced", not one.wrong)
                for one, long in zip(shown, lengths, strict=True)
            ]
        )
        self.name_button.setText(f"{drill.name}  ▾".replace("&", "&&") if drill is not None else "New drill")
        many = f"{len(shown)} {'stage' if len(shown) == 1 else 'stages'}, about {minutes_said(sum(lengths))}"
        self.summary.setText(many if shown else EMPTY)
        some = bool(shown)
        for widget in (self.stages, self._rule, self.title, self.why, self.line, self.view, self.run_button):
            widget.setVisible(some)
        self.run_button.setEnabled(any(one.times for one in shown))
        self._next(some)
        found = offered(desk.bridge.book, piece, desk.part_id, desk.shelf, desk.transport.tempo)
        # What is in the drill already is not offered again.
        has = {(one.stage.kind, one.stage.parts) for one in shown}
        self._offers = [offer for offer in found if (offer.stage.kind, offer.stage.parts) not in has]
        self.begin_button.setVisible(not some and bool(self._offers))
        self._show_stage()
        self._show_offers()

    def _next(self, some: bool) -> None:
        """Where there is something to dance, that is what one does next."""
        if some and self.run_button.property("next") != "true":
            self.run_button.setProperty("next", "true")
            repolish(self.run_button)

    @property
    def stage(self) -> Planned | None:
        """The stage that is stood on."""
        at = self.stages.current
        return self.plan.stages[at] if self.plan is not None and at < len(self.plan.stages) else None

    def _show_stage(self) -> None:
        one = self.stage
        if one is None:
            return
        self.title.setText(one.title)
        self.why.setText(one.wrong or one.stage.why)
        self.line.show_values(stage_line(one))
        self.view.setVisible(one.stretch is not None)
        if one.stretch is not None:
            view = self._desk.view.showing("relief", on=False)
            self.strip.show_stretch(one.stretch, replace(view, mirrored=True) if one.mirrored else view)

    def _show_offers(self) -> None:
        """What fits the part, by the name that is typed."""
        piece = self._desk.piece
        names = names_of(piece) if piece is not None else {}
        typed = self.typed.text().casefold().split()
        self.offers.clear()
        for number, offer in enumerate(self._offers):
            called = offer_title(offer, names)
            if typed and not all(word in called.casefold() for word in typed):
                continue
            if not typed and self.offers.count() >= MOST_OFFERED:
                break
            key = f"Alt+{self.offers.count() + 1}   " if self.offers.count() < 9 else ""
            item = QListWidgetItem(f"{key}{called}.  {offer.why}")
            item.setData(Qt.ItemDataRole.UserRole, number)
            self.offers.addItem(item)
        self.offers_head.setText(f"What fits {self._desk.title}" if self._offers else "What fits")
        if not self._offers:
            item = QListWidgetItem(NO_PART)
            item.setFlags(Qt.ItemFlag.NoItemFlags)
            self.offers.addItem(item)

    # Changing

    def take_offer(self, row: int) -> None:
        """Put an offered stage behind the one that is stood on, or begin a drill with it."""
        item = self.offers.item(row)
        number = item.data(Qt.ItemDataRole.UserRole) if item is not None else None
        if number is None:
            return
        offer, drill = self._offers[number], self.drill
        self.typed.clear()
        if drill is None:
            self.begun.emit([offer])
            return
        at = self.stages.current + 1 if drill.stages else 0
        what = "Put stages in" if offer.more else "Put a stage in"
        # What is put in next goes behind them.
        self._change([*drill.stages[:at], *offer.stages, *drill.stages[at:]], what, at + len(offer.more))

    def _change(self, stages: Sequence[Stage], label: str, at: int | None = None) -> None:
        drill = self.drill
        if drill is None:
            return
        if at is not None:
            self.stages.current = at
        self.changed.emit(replace(drill, stages=tuple(stages)), label)

    def _asked(self, what: str) -> None:
        drill, at = self.drill, self.stages.current
        if drill is None:
            return
        stages = list(drill.stages)
        if what == "run":
            self.run.emit(at)
        elif what == "leave_out" and stages:
            self._change([*stages[:at], *stages[at + 1 :]], "Leave the stage out", max(0, at - 1))
        elif what in ("earlier", "later"):
            to = at + (1 if what == "later" else -1)
            if 0 <= to < len(stages):
                stages[at], stages[to] = stages[to], stages[at]
                self._change(stages, "Move the stage", to)

    def _step(self, name: str, by: int) -> None:
        """Change one value of the stage that is stood on."""
        drill, one = self.drill, self.stage
        if drill is None or one is None:
            return
        self._become(drill, one, stepped(one.stage, name, by))

    def _number(self, name: str, number: float) -> None:
        """Give a value of the stage that is stood on a number; one that it cannot have is said."""
        drill, one = self.drill, self.stage
        if drill is None or one is None:
            return
        try:
            self._become(drill, one, numbered(one.stage, name, number))
        except FirnError as fault:
            self.why.setText(str(fault))

    def _become(self, drill: Drill, one: Planned, made: Stage) -> None:
        """The stage that is stood on, changed."""
        if made != one.stage:
            at = self.stages.current
            self._change([*drill.stages[:at], made, *drill.stages[at + 1 :]], "Change the stage")

    # What the window asks

    def take_mend(self, number: int) -> None:
        """Take the offer of a number, from 1, of those on show."""
        if self.class_plan is not None:
            return
        self.take_offer(number - 1)

    def show_played(self, position: Fraction | None) -> None:
        """Ink the thread to a position."""
        self.view.show_played(position)

    def focus_stops(self) -> list[QWidget]:
        """Where F6 goes on this page, in order."""
        if self.class_plan is not None:
            return self.class_view.focus_stops()
        if self.drill is None or not self.stages.stages:
            return [self.begin_button if self.begin_button.isVisible() else self.offers, self.offers]
        return [self.stages, self.line, self.strip, self.typed, self.offers]
