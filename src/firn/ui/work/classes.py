"""Classes: planned, and run as a clock that says what comes next and how far behind it is."""

import time
from collections.abc import Callable
from datetime import date

from PySide6.QtCore import QObject, QTimer, Signal

from firn.core.book.practice_edits import AddClass, ChangeClass
from firn.core.drills.class_plan import ClassPlan, clock
from firn.errors import FirnError
from firn.session.classes import behind_said, class_of, clock_said, danced, day_name, item_title, next_class
from firn.ui.pages.drill.page import DrillPage
from firn.ui.stand_back import ClockShown, StandBack
from firn.ui.work.context import Context, Handlers

TICK_MS = 250


class ClassRun(QObject):
    """Runs a class as a clock; `told`: what it shows. `now_s` gives seconds that only go on."""

    told = Signal(object)

    def __init__(self, context: Context, now_s: Callable[[], float] = time.monotonic) -> None:
        super().__init__(context.window)
        self._context, self.now_s = context, now_s
        self._plan: ClassPlan | None = None
        self._at = 0
        # Seconds of the clock when the class began, and of the class when this item did; both without its pauses.
        self._began = self._begun = 0.0
        self._stopped: float | None = None
        self._timer = QTimer(self)
        self._timer.setInterval(TICK_MS)
        self._timer.timeout.connect(self.tell)

    @property
    def on(self) -> bool:
        """Whether a class is on."""
        return self._plan is not None

    @property
    def at(self) -> int:
        """The item that is on."""
        return self._at

    def start(self, plan: ClassPlan, at: int) -> bool:
        """Begin a class at an item, as if those before it had been on time; whether there is any item."""
        if at >= len(plan.items):
            return False
        self._plan, self._at, self._stopped = plan, at, None
        self._begun = 60.0 * sum(item.minutes for item in plan.items[:at])
        self._began = self.now_s() - self._begun
        self._timer.start()
        self.tell()
        return True

    @property
    def _class_s(self) -> float:
        """Seconds since the class began."""
        return (self.now_s() if self._stopped is None else self._stopped) - self._began

    def to_item(self, way: int) -> None:
        """On to the next item, or back to the one before."""
        if self._plan is not None and 0 <= self._at + way < len(self._plan.items):
            self._at += way
            self._begun = self._class_s
            self.tell()

    def toggle(self) -> None:
        """Stop the clock, or let it go on from there."""
        if self._plan is None:
            return
        if self._stopped is None:
            self._stopped = self.now_s()
        else:
            self._began += self.now_s() - self._stopped
            self._stopped = None
        self.tell()

    def leave(self) -> ClassPlan | None:
        """End the class; gives the class to which the rest of it goes, None where nothing is left."""
        plan = self._plan
        if plan is None:
            return None
        rest = next_class(plan, self._at, self._class_s - self._begun)
        self._plan = None
        self._timer.stop()
        self.told.emit(None)
        return rest

    def tell(self) -> None:
        """Show what the clock says now."""
        plan, piece = self._plan, self._context.desk.piece
        if plan is None or piece is None:
            return
        told = clock(plan, self._at, self._begun, self._class_s)
        item = plan.items[self._at]
        rest = plan.items[self._at + 1 :]
        following = rest[0] if rest else None
        self.told.emit(
            ClockShown(
                name=plan.name,
                title=item_title(item, piece),
                left=clock_said(told.left_s),
                late=told.left_s < 0,
                behind=behind_said(told.behind_s),
                say=item.say,
                danced=danced(item, piece),
                following=f"then {item_title(following, piece)}, {following.minutes} min"
                if following
                else "the last item",
                next_say=following.say if following else "",
                goes=self._stopped is None,
            )
        )


class Classes:
    """Works on the classes of the workbook."""

    def __init__(self, context: Context, page: DrillPage, stand_back: StandBack) -> None:
        self._context, self.page, self._stand_back = context, page, stand_back
        self.run = ClassRun(context)
        view = page.class_view
        view.changed.connect(lambda plan, label: context.do(ChangeClass(plan, label)))
        view.run.connect(self.begin)
        page.run_class.connect(self.begin)
        self.run.told.connect(stand_back.show_clock)
        stand_back.item.connect(self.run.to_item)

    def handlers(self) -> Handlers:
        return {"plan_class": self.plan}

    def plan(self) -> None:
        """Ask for a name and minutes, and plan a class of the piece."""
        from firn.ui.dialogs.class_plan import ClassDialog

        context = self._context
        context.desk.commit()
        piece = context.desk.piece
        if piece is None:
            return
        dialog = ClassDialog(day_name(date.today()), context.window)
        if not context.prompts.run(dialog):
            return
        try:
            made = class_of(context.bridge.book, piece, context.desk.shelf, dialog.minutes, dialog.name)
        except FirnError as fault:
            context.say(str(fault))
            return
        context.do(AddClass(made))
        self.page.pick(made.id)

    def begin(self, at: int) -> None:
        """Run the class on show, from an item on."""
        self.page.class_view.commit()
        plan = self.page.class_plan
        if plan is None or not self.run.start(plan, at):
            self._context.say("This class has no items yet: Insert puts one in.")
            return
        self._stand_back.wanted.emit()

    def leave(self) -> None:
        """End the class; what is left of it is kept as the next one."""
        rest = self.run.leave()
        if rest is None or self._context.bridge.session.store.read_only:
            return
        self._context.do(AddClass(rest))
        self._context.say(f"What was left stands in {rest.name}: {rest.minutes} min with its warm-up.")
