"""Dancing: the transport's keys, rendering the model, and following what is heard."""

from collections.abc import Callable, Sequence
from fractions import Fraction
from typing import TYPE_CHECKING, Protocol

from msgspec.structs import replace
from PySide6.QtCore import QObject, Signal

from firn.core.reading.finding import MendText
from firn.core.task import Task
from firn.core.timeline.mixing import Mixing
from firn.core.timeline.timeline import Section, Timeline
from firn.session.stretch import Stretch, around
from firn.session.transport import danced, next_count_in
from firn.ui.player import Player
from firn.ui.work.context import Context, Handlers
from firn.ui.work.own_music import OwnMusicWork

if TYPE_CHECKING:
    from firn.core.sound.model import Rendered
    from firn.core.sound.voices import FloatArray
    from firn.ui.pages.listen.heard import HeardTake


class Turns(Protocol):
    """Sections danced one after another, each once; which one follows may change until it begins."""

    def following(self) -> tuple[object, Section] | None:
        """What is danced after what is danced now, by a key of its own; None after the last."""

    def begun(self, key: object) -> None:
        """What has this key is danced now."""


class Dancing(QObject):
    """Dances what is on the desk. `moved`: the place on the strip that is heard now, and whether
    it is danced on the other side; `playing` on and off."""

    moved = Signal(object, bool)
    playing = Signal(bool)

    def __init__(self, context: Context, player: Player, standing: Callable[[], Fraction | None]) -> None:
        super().__init__(context.window)
        self._context, self._player, self._standing = context, player, standing
        self._music = OwnMusicWork(context, player)
        # What is being made: to be danced at once, to be put behind what plays.
        self._first: object = None
        self._wanted: tuple[object, Section] | None = None
        # What is danced now, and which section of it.
        self._timeline = Timeline(())
        self._number = 0
        self._turns: Turns | None = None
        # What has been put behind what plays.
        self._behind: tuple[object, Section] | None = None
        player.passed.connect(self._passed)
        player.moved.connect(self._moved)
        player.started.connect(lambda: self.playing.emit(True))
        player.ended.connect(lambda: self.playing.emit(False))
        context.desk.danced.connect(self._changed)

    def handlers(self) -> Handlers:
        desk = self._context.desk
        return {
            "dance": self.toggle,
            "dance_bare": self.toggle,
            "whole": self.choose,
            "slower": lambda: self.tempo(-1),
            "faster": lambda: self.tempo(1),
            "set_tempo": self.ask_tempo,
            "count_in": lambda: desk.count_in_as(next_count_in(desk.settings.count_in)),
            "side": lambda: desk.dance_as(desk.transport.next_side()),
            "layers": lambda: desk.dance_as(desk.transport.next_layers()),
            "own_music": self._music.ask,
            "then": lambda: desk.dance_as(desk.transport.next_then()),
        }

    def toggle(self) -> None:
        """Dance, or stop."""
        if self._player.playing:
            self._player.stop()
            return
        self._context.desk.commit()
        loops, section = self._context.desk.transport.loops, self._danced()
        if section is not None:
            self._timeline, self._number = Timeline((section,)), 0
            self._render("dance", section, lambda made: self._player.play_model(made, loops=loops))

    def _danced(self) -> Section | None:
        """What the transport says, of what is on the desk; None where there is nothing to dance."""
        desk = self._context.desk
        if desk.stretch is None or not desk.stretch.sounds:
            return None
        return danced(desk.stretch, desk.transport, desk.view)

    def dance_in_turn(self, turns: Turns, key: object, first: Section) -> None:
        """Dance sections one after another, each once, from one of them on."""
        self._turns = turns
        # What was to follow what plays still is wanted no more.
        self._behind = self._wanted = None
        self._first = wanted = object()
        self._player.follow(None)

        def begin(made: "Rendered") -> None:
            if self._first is not wanted:
                return
            # The second section is made when the first has begun: it could be there before it.
            self._player.climb(made)
            self._begun(key, first)

        self._render("turn", first, begin)

    def _begun(self, key: object, section: Section) -> None:
        self._timeline, self._number = Timeline((section,)), 0
        if self._turns is not None:
            self._turns.begun(key)
        self.prepare()

    @property
    def late(self) -> bool:
        """Whether what is danced is over and what follows is still being made."""
        return self._player.ran_out and self._wanted is not None

    def prepare(self) -> None:
        """Make what follows and put it behind what plays."""
        self._wanted = wanted = self._turns.following() if self._turns is not None else None
        if wanted is None:
            self._behind = None
            self._player.follow(None)
            return

        def put(made: "Rendered") -> None:
            if self._wanted is not wanted:
                return
            if self._player.ran_out:
                # It took longer to make than what was before it to dance: it begins late, and does not stay away.
                self._player.climb(made)
                self._begun(*wanted)
                return
            self._behind = wanted
            self._player.follow(made)

        self._render("following", wanted[1], put)

    def _passed(self, number: int) -> None:
        """What was put behind has begun."""
        if number and self._behind is not None:
            self._begun(*self._behind)

    def stop(self) -> None:
        """Stop at once; what is still being made is not danced any more."""
        self._first = self._wanted = None
        self._player.stop()

    def choose(self) -> None:
        """The whole again, or only the count that the keys stand on."""
        desk = self._context.desk
        place, stretch = self._standing(), desk.stretch
        if desk.transport.chosen is not None or place is None or stretch is None:
            desk.choose(None)
        else:
            count = Fraction(place // 1)
            desk.choose((max(count, stretch.first), min(count + 1, stretch.end)))

    def tempo(self, steps: int) -> None:
        """Faster, or slower for less than 0."""
        self._context.desk.dance_as(self._context.desk.transport.faster(steps))

    def ask_tempo(self) -> None:
        """Ask for a tempo."""
        desk = self._context.desk
        tempo = self._context.prompts.tempo(self._context.window, desk.transport.tempo)
        if tempo is not None:
            desk.dance_as(replace(desk.transport, tempo=tempo))

    def _render(self, key: str, section: Section, done: Callable[["Rendered"], None]) -> None:
        kept = self._music.kept

        def work(task: Task) -> "Rendered":
            from firn.core.sound.model import render

            return render(self._music.laid(section, kept), task)

        def made(rendered: "Rendered") -> None:
            self._music.tell()
            done(rendered)

        self._context.jobs.run(key, "Making the model", work, made)

    def _changed(self) -> None:
        """A change takes effect at the next pass."""
        if self._player.playing and self._player.plays_model:
            loops, section = self._context.desk.transport.loops, self._danced()
            if section is None:
                return

            def change(made: "Rendered") -> None:
                self._timeline, self._number = Timeline((section,)), 0
                self._player.change_model(made, loops=loops)

            self._render("change", section, change)

    def _moved(self, position: Fraction) -> None:
        if self._number < len(self._timeline.sections):
            self.moved.emit(*self._timeline.sections[self._number].where(position))

    def play_samples(self, sound: "FloatArray") -> None:
        """Play samples once."""
        self._player.play_samples(sound)

    def play_in_turn(self, stretches: Sequence[Stretch]) -> None:
        """Stretches one after the other at the tempo, with the beat, a count-in before each."""
        transport = self._context.desk.transport
        mixing = replace(transport.mixing, counts=False, beats=True, rest=0, led_in=True)

        def work(task: Task) -> "FloatArray":
            import numpy as np

            from firn.core.sound.model import render

            made = [render(Section(s.sounds, s.counting, s.first, s.end, mixing), task).audio for s in stretches]
            return np.concatenate(made)

        self._context.jobs.run("dance", "Making the model", work, self._player.play_samples)

    def hear_place(self, index: int | None, mend: MendText | None) -> None:
        """Some counts about a sound, as they are and then as a mend would have them, where there is one."""
        desk = self._context.desk
        stretch = desk.stretch
        if stretch is None or index is None or index >= len(stretch.sounds):
            self._context.say("Stand on a sound, or on a finding that has a place.")
            return
        count = Fraction(stretch.sounds[index].place // 1)
        heard = [around(stretch, count)]
        if mend is None:
            self.play_in_turn(heard)
            return

        def play(made: Stretch | None) -> None:
            self.play_in_turn([*heard, *([around(made, count)] if made is not None else [])])

        desk.aside("heard", "Trying the mend", desk.mending(mend), play)

    def play_both(self, one: "HeardTake") -> None:
        """The take, a breath, and the model at the take's own tempo."""
        stretch = self._context.desk.stretch
        if stretch is None or not stretch.sounds:
            return
        tempo = one.verdict.tempo if one.verdict is not None else one.take.tempo
        mixing = Mixing(tempo=round(tempo, 1), counts=False, beats=False)

        def work(task: Task) -> "FloatArray":
            import numpy as np

            from firn.core.sound.loudness import as_loud_as, loudness_lufs
            from firn.core.sound.model import render
            from firn.core.sound.voices import RATE

            model = render(Section(stretch.sounds, stretch.counting, stretch.first, stretch.end, mixing), task)
            gap = np.zeros((RATE // 2, 2), dtype=np.float32)
            # Alike in loudness, so that only the dancing differs.
            take = as_loud_as(one.stereo(), RATE, loudness_lufs(model.audio, RATE))
            return np.concatenate([take, gap, model.audio])

        self._context.jobs.run("dance", "Laying take and model together", work, self._player.play_samples)
