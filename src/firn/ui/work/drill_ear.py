"""Listening along while a drill is danced: how each time went where that is sure, two claps, and a take a stage."""

from collections import deque
from fractions import Fraction
from statistics import median
from typing import TYPE_CHECKING

from msgspec import Struct
from msgspec.structs import replace
from PySide6.QtCore import QObject, QTimer

from firn.core.book.book import Take
from firn.core.book.edits import AddTake
from firn.core.drills.run import At, How
from firn.core.task import Task
from firn.core.timeline.timeline import Section
from firn.errors import DeviceError
from firn.session.desk import read_in
from firn.session.drilling import HEARD_AS
from firn.ui.work.context import Context
from firn.ui.work.dancing import Dancing
from firn.ui.work.drill_run import DrillRun

if TYPE_CHECKING:
    # Heavy: imported when a drill is first listened to.
    from firn.core.sound.voices import FloatArray
    from firn.devices.microphone import Listener
    from firn.session.along import HeardTime

BEFORE_S, AFTER_S = 0.3, 0.5
"""Kept of what is heard before the count-in and after the last count."""

LATE_S = 0.3
"""So much of the first count-in may be missed when listening begins."""

CLAPS_MS, CLAPS_S = 250, 3.4
"""How often claps are looked for, and in how much of what was heard last."""

UNANSWERED_S = 3.0
"""So long an answer is waited for."""

LISTENING = "listening"
CLAP = "Listening along. Two claps in a rest: again; in a count-in: pause; in a pause: on. Nothing of it leaves here."
GONE = "The microphone went away: say yourself how it went, 1, 2 or 3."
SAID: dict[How, str] = {"clean": "Heard clean.", "slip": "Heard: {}", "lost": "Heard as lost: {}", "": "Not sure: {}"}
MOST_NAME = 60
MOST_MOMENTS = 1_000
JUST = 4
"""So many counts into a time claps are still looked for that came in its count-in."""


class _Time(Struct):
    """A time that is being danced: its number, what it is, and on which frame of the microphone its section begins,
    told anew at each tick."""

    turn: int
    at: At
    section: Section
    origins: list[int]
    position: Fraction | None = None
    told: bool = False


class _Last(Struct, frozen=True):
    """The last time of a stage that was listened to, and what it is a take of."""

    stage: int
    sound: "FloatArray"
    like: Take


class DrillEar(QObject):
    """Listens along to a drill that is danced, from when that is asked for until the drill ends."""

    def __init__(self, context: Context, dancing: Dancing, run: DrillRun) -> None:
        super().__init__(context.window)
        self._context, self._run = context, run
        self._listener: Listener | None = None
        self._time: _Time | None = None
        self._last: _Last | None = None
        # What was said of the stage that is not listened to, and up to which frame claps have been answered.
        self._unheard = -1
        self._answered = 0
        # On which frame claps were looked for, while that is not answered.
        self._looked: int | None = None
        # What was danced on which frame, of late.
        self._moments: deque[tuple[int, _Time, Fraction]] = deque(maxlen=MOST_MOMENTS)
        self._timer = QTimer(self)
        self._timer.setInterval(CLAPS_MS)
        self._timer.timeout.connect(self._tick)
        run.begun_one.connect(self._begun)
        run.told.connect(lambda shown: self._left() if shown is None else None)
        dancing.moved.connect(self._moved)

    @property
    def on(self) -> bool:
        """Whether it listens."""
        return self._listener is not None

    def toggle(self) -> None:
        """Listen along, or no longer."""
        if self._listener is not None:
            self._end()
            self._run.show()
            return
        if not self._run.on:
            return
        from firn.devices import microphone

        try:
            listener = microphone.Listener(microphone.best_microphone())
            listener.start()
        except DeviceError as fault:
            self._context.say(f"{fault} Say yourself how it went: 1, 2 or 3.")
            return
        self._listener, self._answered, self._unheard, self._looked = listener, listener.now, -1, None
        # Frames are counted anew.
        self._moments.clear()
        if self._time is not None:
            self._time.origins.clear()
        self._run.listening = LISTENING
        self._timer.start()
        self._context.say(CLAP)
        self._run.show()

    def _end(self) -> None:
        if self._listener is None:
            return
        self._timer.stop()
        listener, self._listener = self._listener, None
        listener.stop()
        self._run.listening = ""
        self._keep()

    def _left(self) -> None:
        """The drill has ended."""
        self._end()
        self._time = None

    # How a time went

    def _begun(self, turn: int, at: At, section: Section) -> None:
        before, self._time = self._time, _Time(turn, at, section, [])
        if before is not None and not before.told and _danced(before):
            self._listen(before)
        if self._last is not None and self._last.stage != at.stage:
            self._keep()

    def _moved(self, position: Fraction, _: bool) -> None:
        time, listener = self._time, self._listener
        if time is None:
            return
        time.position = position
        if listener is None:
            return
        from firn.devices.clock import RATE

        self._moments.append((listener.now, time, position))
        time.origins.append(listener.now - round(float(time.section.seconds_at(position)) * RATE))
        over_s = float(time.section.seconds_at(position) - time.section.seconds_at(time.section.end))
        if over_s >= AFTER_S and not time.told:
            self._listen(time)

    def _listen(self, time: _Time) -> None:
        """Tell how a time went that is over."""
        listener, piece, plan = self._listener, self._context.desk.piece, self._run.plan
        time.told = True
        if listener is None or piece is None or plan is None or not time.origins:
            return
        from firn.devices.clock import RATE
        from firn.session.along import due_in, heard_how, part_heard

        one, section, shelf = plan.stages[time.at.stage], time.section, self._context.desk.shelf
        part = part_heard(piece, one, shelf)
        if isinstance(part, str):
            if self._unheard != time.at.stage:
                self._unheard = time.at.stage
                self._context.say(part)
            return
        origin = round(median(time.origins))
        first = origin + round((_led_s(section) - BEFORE_S) * RATE)
        if first < -(BEFORE_S + LATE_S) * RATE:
            # It had begun when she asked to be heard.
            return
        first = max(0, first)
        sound = listener.between(first, origin + round((float(section.seconds_at(section.end)) + AFTER_S) * RATE))
        origin_s = (origin - first) / RATE
        begins_s = origin_s + float(section.seconds_at(section.first))
        as_heard = HEARD_AS[one.stage.heard]
        model = as_heard.steps or as_heard.voicing == "music"
        others = [p for p in piece.parts if p.name != part.name]

        def work(task: Task) -> "HeardTime":
            beside = [read_in(piece, p, p.text, shelf) for p in others]
            due = due_in(section, origin_s)
            return heard_how(part, section.mixing.tempo, sound, RATE, due, beside=beside, model=model, task=task)

        def done(heard: "HeardTime") -> None:
            said = SAID[heard.how].format(heard.said) if heard.how != "clean" else SAID["clean"]
            taken = not heard.how or self._run.heard(time.turn, heard.how)
            if taken:
                self._context.say(said if heard.how else f"{said} 1, 2 or 3 says how it went.")

        self._last = _Last(
            time.at.stage,
            sound[max(0, round((begins_s - BEFORE_S) * RATE)) :],
            Take(
                "", piece.id, one.stage.parts[0], f"{plan.drill.name}, {one.title}"[:MOST_NAME], "", "", 0, 0,
                round(section.mixing.tempo, 1), swapped=one.times[time.at.number].swapped,
                student=self._context.bridge.book.who,
            ),
        )  # fmt: skip
        self._context.jobs.run("along", "Listening to this time", work, done)

    def _keep(self) -> None:
        """Keep what was heard last of a stage as a take."""
        last, self._last = self._last, None
        store = self._context.bridge.session.store
        if last is None or store.read_only:
            return
        from firn.devices.clock import RATE
        from firn.session.takes import kept_take

        def work(task: Task) -> Take:
            like = last.like
            kept = kept_take(
                store, last.sound, RATE, piece=like.piece, part=like.part, name=like.name, tempo=like.tempo,
                source="microphone",
            )  # fmt: skip
            return replace(kept, swapped=like.swapped, student=like.student)

        self._context.jobs.run(
            f"take of {last.stage}", "Keeping the take", work, lambda take: self._context.do(AddTake(take))
        )

    # Claps

    def _tick(self) -> None:
        listener = self._listener
        if listener is None:
            return
        if listener.gone:
            self._end()
            self._context.say(GONE)
            self._run.show()
            return
        if not self._may_clap:
            return
        from firn.devices.clock import RATE

        # What is stopped, or fails, never answers.
        if self._looked is not None and listener.now - self._looked < UNANSWERED_S * RATE:
            return
        now = listener.now
        first = max(self._answered, now - round(CLAPS_S * RATE))
        sound = listener.between(first, now)

        def work(task: Task) -> list[float]:
            from firn.core.ear.claps import two_claps

            return [float(at) for at in two_claps(sound, RATE)]

        def done(claps: list[float]) -> None:
            self._looked = None
            if claps and self._listener is listener and self._answered <= first:
                self._answered = first + round(claps[-1] * RATE)
                self._clapped(self._answered)

        if len(sound) > RATE:
            self._looked = now
            self._context.jobs.run("claps", "Listening for claps", work, done)

    @property
    def _may_clap(self) -> bool:
        """Whether two claps may mean something of late: nobody dances, or did until now."""
        time = self._time
        if self._run.stands_still or time is None or time.position is None:
            return self._run.stands_still or bool(self._moments)
        section = time.section
        return time.position < section.first + JUST or time.position >= section.end

    def _clapped(self, frame: int) -> None:
        """Two claps, the second on a frame: what they mean goes by what was danced then."""
        if self._run.stands_still:
            self._context.say("Two claps: on.")
            self._run.toggle()
            return
        moment = next((one for one in reversed(self._moments) if one[0] <= frame), None)
        if moment is None:
            return
        _, time, position = moment
        if position >= time.section.end:
            self._context.say("Two claps: again.")
            self._run.again(time.turn)
        elif position < time.section.begins:
            self._context.say("Two claps: a pause.")
            self._run.toggle()


def _led_s(section: Section) -> float:
    """Seconds from a section's origin to its count-in, what is called before it left out."""
    many = len(section.mixing.call)
    places = [place for place, _ in section.led][many:] if section.led else []
    return float(section.seconds_at(min(places, default=section.begins)))


def _danced(time: _Time) -> bool:
    """Whether a time was danced up to its end, or nearly."""
    return time.position is not None and time.position >= time.section.end - 1
