"""A click that is tapped along to: its counts are known, and so is the first 1."""

from collections.abc import Callable
from fractions import Fraction
from typing import TYPE_CHECKING

from firn.core.meter.count_in import CountIn
from firn.core.task import Task
from firn.core.timeline.mixing import Mixing
from firn.core.timeline.timeline import Section
from firn.ui.player import Player
from firn.ui.work.context import Context

if TYPE_CHECKING:
    from firn.core.sound.voices import FloatArray

LONGEST_S = 180.0
"""So long it clicks: what is longer is tapped in pieces."""


class ClickAlong:
    """A click at the tempo that is danced, after a count-in; times are seconds of it."""

    def __init__(self, context: Context, player: Player) -> None:
        self._context, self._player = context, player
        desk = context.desk
        self.tempo = desk.transport.tempo
        led = desk.settings.count_in if desk.settings.count_in.pattern != "none" else CountIn()
        bar = int(desk.settings.meter.counts)
        counts = max(bar, int(LONGEST_S * self.tempo / 60) // bar * bar)
        mixing = Mixing(self.tempo, led, counts=False, led_in=True)
        self._section = Section((), desk.settings.counting, Fraction(0), Fraction(counts), mixing)

    @property
    def first_s(self) -> float:
        """When its first 1 is."""
        return float(self._section.seconds_at(Fraction(0)))

    def now(self) -> float:
        """The second of it that is heard now."""
        return self._player.heard_s

    def run(self, begun: Callable[[], None]) -> None:
        """Make it and let it run; `begun` once it does."""

        def work(task: Task) -> "FloatArray":
            from firn.core.sound.model import render

            return render(self._section, task).audio

        def play(sound: "FloatArray") -> None:
            self._player.play_samples(sound)
            begun()

        self._context.jobs.run("click", "Making the click", work, play)

    def rest(self) -> None:
        """Let it be silent."""
        self._context.jobs.cancel("click")
        self._player.stop()
