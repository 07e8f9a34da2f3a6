"""A clip as it runs: at any speed, from one time to another, made ready piece by piece while it is heard."""

from collections.abc import Callable
from typing import TYPE_CHECKING

from firn.ui.jobs import JobRunner
from firn.ui.player import Player

if TYPE_CHECKING:
    # Heavy: imported when a clip is first opened.
    from firn.core.sound.voices import FloatArray
    from firn.session.clips import ClipSound

SPEEDS = (1.0, 0.75, 0.5, 0.35, 0.25, 0.1)

FIRST_S, MORE_S = 1.5, 6.0
"""Seconds of the clip that are made ready before it runs, and at a time while it does."""

LATE_S = 0.2
"""So near the end of what is made it has run out of sound, and is not stopped."""


class ClipRun:
    """Runs the sound of a clip. `speed`: which of `SPEEDS`; `until_s`: up to where it runs, or last ran."""

    def __init__(self, jobs: JobRunner, player: Player) -> None:
        self._jobs, self._player = jobs, player
        self.sound: ClipSound | None = None
        self.speed = 0
        self.on = False
        self.until_s = 0.0
        # From where it runs; where the piece begins that was put last, up to where pieces are made.
        self._from_s, self._put_s, self._made_s, self._making = 0.0, 0.0, 0.0, False

    @property
    def now(self) -> float:
        """The second of the clip that is heard now."""
        return self._from_s + self._player.heard_s * SPEEDS[self.speed]

    def begin(self, begin_s: float, end_s: float, begun: Callable[[], None]) -> None:
        """Run from a time to another at its speed; `begun` is called once it is heard."""
        sound = self.sound
        if sound is None:
            return
        self._from_s, self.until_s, self._put_s = begin_s, end_s, begin_s
        self._made_s, speed = min(end_s, begin_s + FIRST_S), SPEEDS[self.speed]

        def begin(made: "FloatArray") -> None:
            if self.sound is sound:
                self._player.play_samples(made)
                self.on, self._making = True, False
                begun()

        until = self._made_s
        self._jobs.run("clip", "Making the clip ready", lambda _: sound.piece(begin_s, until, speed), begin)

    def more(self) -> None:
        """Make what follows ready, once what was put behind has begun."""
        sound, made = self.sound, self._made_s
        if sound is None or self._making or made >= self.until_s or self.now < self._put_s:
            return
        self._making = True
        until, speed = min(self.until_s, made + MORE_S), SPEEDS[self.speed]

        def put(piece: "FloatArray") -> None:
            if not self.on or self.sound is not sound or self._made_s != made:
                return
            self._put_s, self._made_s, self._making = made, until, False
            if self._player.playing:
                self._player.go_on(piece)
            else:
                # It came too late: it goes on from there.
                self._from_s = made
                self._player.play_samples(piece)

        self._jobs.run("clip", "Making the clip ready", lambda _: sound.piece(made, until, speed), put)

    def ended(self, at_s: float) -> bool:
        """What was put has been heard; whether the clip has stopped, and does not only wait for more."""
        waits = self._making and at_s > self._made_s - LATE_S
        stopped = self.on and not waits
        self.on = self.on and waits
        return stopped

    def rest(self) -> float | None:
        """Let it rest; gives where it was, None where it did not run."""
        self._jobs.cancel("clip")
        self._making = False
        if not self.on:
            return None
        at = self.now
        self.on = False
        self._player.stop()
        return at
