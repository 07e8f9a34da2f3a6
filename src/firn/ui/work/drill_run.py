"""A drill as it is danced from across the room: it goes on by itself, each time answered by one key."""

from fractions import Fraction

from msgspec.structs import replace
from PySide6.QtCore import QObject, Signal

from firn.core.book.edits import AddLog
from firn.core.drills.run import At, How, first_from, following, last_before
from firn.core.meter.count_in import CountIn
from firn.core.timeline.timeline import Section
from firn.session.drill_values import left_said, now_said
from firn.session.drilling import DrillPlan, entry_of
from firn.ui.stand_back import RunShown
from firn.ui.work.context import Context
from firn.ui.work.dancing import Dancing
from firn.ui.work.drill_asked import DrillAsked

SAID: dict[How, str] = {
    "clean": "clean: it goes on",
    "slip": "a slip: the same again",
    "lost": "lost: a tempo down",
    "": "",
}
"""What comes after a time, by how it went."""


WATER_S = 20 * 60
"""So long is danced before a rest and water are due: common practice, no source."""

WATER = "Twenty minutes danced: Space, a rest, and water."


class DrillRun(QObject):
    """Dances a drill, from a stage on, and goes on by itself; `told`: what it shows, None once it has ended. A rest
    is due after some time, and a pause is one, or a stage that is `asked`, not danced. `begun_one`: a time has begun,
    with its number among all that were danced, itself, and its section."""

    told = Signal(object)
    begun_one = Signal(int, object, object)

    def __init__(self, context: Context, dancing: Dancing) -> None:
        super().__init__(context.window)
        self._context, self._dancing = context, dancing
        self._plan: DrillPlan | None = None
        self._at: At | None = None
        # The time before this one, until this one's first count.
        self._before: At | None = None
        self._previous: At | None = None
        self._how: How = ""
        # The number of this time among all that were danced, and whether the ear has answered for it.
        self._turn, self._by_ear, self._waived = 0, False, False
        # What is said of a microphone that listens along.
        self.listening = ""
        self._slower = False
        self._position: Fraction | None = None
        # From when a time is wanted until it begins, what is heard is still what was before.
        self._over = self._playing = self._waits = False
        self._tally: dict[How, int] = {}
        self._danced_s = 0.0
        self.asked = DrillAsked(context, dancing)
        self.asked.changed.connect(self._tell)
        self.asked.done.connect(self._all_asked)
        dancing.playing.connect(self._heard)
        dancing.moved.connect(self._moved)

    @property
    def on(self) -> bool:
        """Whether a drill is being danced, or stands still in the midst of it."""
        return self._plan is not None

    @property
    def at(self) -> At | None:
        """The time that is danced now."""
        return self._at

    @property
    def moved_to(self) -> Fraction | None:
        """How far this time is danced, as a position; None before it is heard."""
        return self._position

    @property
    def plan(self) -> DrillPlan | None:
        """What is danced."""
        return self._plan

    @property
    def stands_still(self) -> bool:
        """Whether it waits in the midst of a drill, to be gone on with."""
        return self._plan is not None and not self._playing and not self._over and not self._waits

    @property
    def tally(self) -> dict[How, int]:
        """How often it was answered so."""
        return dict(self._tally)

    def start(self, made: DrillPlan, stage: int) -> bool:
        """Dance a drill from a stage on; whether there is anything to dance."""
        at = first_from(made.times, stage)
        if at is None:
            return False
        self._plan, self._tally, self._slower, self._danced_s = made, {}, False, 0.0
        self._go(at)
        return True

    def leave(self) -> None:
        """End it here; what was answered is kept."""
        self._keep()
        self._plan, self._at, self._before = None, None, None
        self.asked.leave()
        self._dancing.stop()
        self.told.emit(None)

    # Dancing

    @property
    def _count_in(self) -> CountIn:
        return self._context.desk.settings.count_in

    def _section(self, at: At, before: At | None) -> Section:
        """A time as it sounds; `before`: the one that is danced before it."""
        assert self._plan is not None
        one = self._plan.stages[at.stage]
        call = self._plan.call(at.stage) if before is not None and before.stage != at.stage else ()
        rung, view = one.times[at.number], self._context.desk.view
        return one.section(rung, self._count_in, view, slower=self._slower, call=call)

    def _go(self, at: At) -> None:
        """Dance a time now, or ask what its stage asks."""
        assert self._plan is not None
        self.asked.leave()
        if self._plan.stages[at.stage].asked is not None:
            self._ask(at)
            return
        section = self._section(at, self._at)
        self._at, self._before, self._how, self._over = at, None, "", False
        self._position, self._waits = None, True
        self._dancing.dance_in_turn(self, at, section)
        self._tell()

    def _ask(self, at: At) -> None:
        """Ask a stage's questions; what is danced before them has ended."""
        assert self._plan is not None
        one = self._plan.stages[at.stage]
        assert one.asked is not None
        # The feet rest meanwhile.
        self._danced_s = 0.0
        self._at, self._before, self._previous, self._how, self._position = at, None, None, "", None
        self._over = self._waits = self._slower = False
        self._turn += 1
        self._dancing.stop()
        if self.asked.begin(one.asked, one.times[at.number].tempo, one.stage.times):
            self._tell()
        else:
            self._all_asked()

    def _all_asked(self) -> None:
        """On with what comes after the questions."""
        at = self._next()
        if at is None:
            self._over = True
            self._tell()
        else:
            self._go(at)

    def _next(self) -> At | None:
        """The time that comes after this one, by how it went."""
        if self._plan is None or self._at is None:
            return None
        return following(self._plan.times, self._at, self._how)

    def following(self) -> tuple[object, Section] | None:
        """What is danced next, by how this time went; nothing before questions."""
        at, plan_now = self._next(), self._plan
        if at is None or plan_now is None or plan_now.stages[at.stage].asked is not None or self.asked.on:
            return None
        return at, self._section(at, self._at)

    def begun(self, key: object) -> None:
        """A time has begun, after the one before it, or as the first."""
        if self._plan is None or not isinstance(key, At):
            return
        if self._position is not None and not self._waits:
            self._before = None if self._how or self._waived else self._at
            self._keep()
        self._waits = self._waived = False
        self._previous = self._at
        section = self._section(key, key)
        self._danced_s += float(section.length_s)
        self._at, self._how, self._by_ear, self._position = key, "", False, None
        self._turn += 1
        self.begun_one.emit(self._turn, key, section)
        self._tell()

    def _moved(self, position: Fraction, swapped: bool) -> None:
        if self._plan is None or self._at is None or self._waits:
            return
        self._position = position
        if self._before is not None and position >= 0 and position >= self._begins():
            # From here on an answer is of this time.
            self._before = None
            self._tell()

    def _begins(self) -> Fraction:
        assert self._plan is not None and self._at is not None
        stretch = self._plan.stages[self._at.stage].stretch
        return stretch.first if stretch is not None else Fraction(0)

    def _heard(self, playing: bool) -> None:
        self._playing = playing
        if self._plan is None or playing or self.asked.on:
            self._tell()
            return
        at, plan_now = self._at, self._plan
        stretch = plan_now.stages[at.stage].stretch if at is not None else None
        ended = stretch is not None and self._position is not None and self._position >= stretch.end - Fraction(1, 2)
        at_next = self._next()
        if ended and at_next is not None and plan_now.stages[at_next.stage].asked is not None:
            self._keep()
            self._go(at_next)
            return
        self._over = ended and at_next is None
        self._tell()

    # Keys

    def toggle(self) -> None:
        """Stand still, or dance this time from its beginning; what is asked about, once more."""
        if self.asked.on:
            self.asked.hear()
        elif self._playing:
            self._danced_s = 0.0
            self._dancing.stop()
        elif self._at is not None:
            self._keep()
            self._go(self._at)

    def answer(self, how: How) -> None:
        """Say how a time went: the one before, up to the first count of this one."""
        if self._plan is None or self._at is None or self.asked.on:
            return
        if self._before is not None:
            before, self._before = self._before, None
            self._note(before, how)
            wanted = following(self._plan.times, before, how)
            if wanted is not None and wanted != self._at:
                self._go(wanted)
            else:
                self._tell()
            return
        self._how = how
        if self._playing or self._dancing.late:
            self._dancing.prepare()
        elif (at := following(self._plan.times, self._at, how)) is not None and self._over:
            self._keep()
            self._go(at)
            return
        self._tell()

    def heard(self, turn: int, how: How) -> bool:
        """Say how a time went that was listened to, by its number; whether that may still be said, and nobody has."""
        late = turn == self._turn - 1 and self._before is not None
        if not (late or (turn == self._turn and self._before is None and not self._how)):
            return False
        self._by_ear = True
        self.answer(how)
        return True

    def again(self, turn: int) -> None:
        """A time once more, by its number: this one, or the one before; nothing is noted of it."""
        at = self._at if turn == self._turn else self._previous
        if self._plan is not None and at is not None:
            # Nobody wants to know how it went: it is danced once more.
            self._how, self._waived = "", True
            self._go(at)

    def to_stage(self, way: int) -> None:
        """On to the next stage, or back to the one before."""
        if self._plan is None or self._at is None:
            return
        here, times = self._at.stage, self._plan.times
        to = first_from(times, here + 1) if way > 0 else last_before(times, here)
        if to is not None:
            self._keep()
            self._go(to)

    def slower(self) -> None:
        """Slower from here on, or at its tempo again."""
        if self._at is not None:
            self._slower = not self._slower
            self._keep()
            self._go(self._at)

    def show(self) -> None:
        """Show how it stands, where something beside it has changed."""
        self._tell()

    # What is kept, and shown

    def _keep(self) -> None:
        """Note how this time went, if that was said."""
        if self._how and self._at is not None:
            self._note(self._at, self._how)
        self._how = ""

    def _note(self, at: At, how: How) -> None:
        self._tally[how] = self._tally.get(how, 0) + 1
        piece, made = self._context.desk.piece, self._plan
        if made is None or piece is None or self._context.bridge.session.store.read_only:
            return
        one, log = made.stages[at.stage], self._context.bridge.book.own_log
        entry = entry_of(piece, one, one.times[at.number], how, log[-1] if log else None, slower=self._slower)
        self._context.do(AddLog(replace(entry, student=self._context.bridge.book.who)))

    def _tell(self) -> None:
        made, at = self._plan, self._at
        if made is None or at is None:
            return
        one = made.stages[at.stage]
        rung = one.times[at.number]
        told = ", ".join([*(f"{many} {how}" for how, many in self._tally.items()), *filter(None, [self.asked.score])])
        state = SAID[self._how] if self._how else "" if self._playing else "All danced." if self._over else "Paused."
        state = f"heard {state}" if self._how and self._by_ear else state
        self.told.emit(
            RunShown(
                title=one.title,
                now=now_said(one, rung, slower=self._slower),
                left="" if self._over else left_said(made, at.stage, at.number, self._count_in),
                state="    ".join(filter(None, (self.listening, state, told))),
                stretch=one.stretch,
                note=self._note_of(at),
                following=made.stages[n.stage].title if (n := first_from(made.times, at.stage + 1)) else "",
                playing=self._playing,
                mirrored=one.mirrored,
                cues=one.cues,
                asked=self.asked.shown,
                count_in=self._count_in if self._count_in.pattern != "none" else CountIn(),
            )
        )

    def _note_of(self, at: At) -> str:
        """What the part of a stage is to be danced with in mind, or that a rest is due."""
        assert self._plan is not None
        if self._danced_s > WATER_S:
            return WATER
        desk = self._context.desk
        stage = self._plan.stages[at.stage].stage
        return desk.part.layers.note if desk.part is not None and desk.part_id == stage.parts[-1] else ""
