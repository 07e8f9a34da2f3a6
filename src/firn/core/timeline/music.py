"""Music of one's own under what is danced: where its counts lie, and how it goes along with a tempo.

What is danced follows the music, its drift included: the counts are where the music has them. Slower than it is, all
of it is stretched by one ratio; faster it is not played.
"""

from collections.abc import Callable
from fractions import Fraction

import numpy as np
import numpy.typing as npt
from msgspec.structs import replace

from firn.core.meter.line import Line
from firn.core.meter.tempo import TempoPath
from firn.core.timeline.timeline import Section
from firn.errors import FirnError

NEAR = 0.015
"""So near its own tempo it is played as it is."""

SLOWEST = 0.4
"""The share of its tempo below which nothing of it is left to dance to."""

AWAY_S = 0.008
"""So far its counts may lie from a steady tempo before that changes: a third of what is heard as early or late."""

Samples = npt.NDArray[np.float32]


class MusicError(FirnError):
    """Music that cannot be played to what is danced."""


class OwnMusic:
    """Music of one's own: what it is called, the line of its counts, its length in seconds, and a way to its samples.

    `samples(begin_s, end_s, speed)` gives a stretch of it, shape (n, 2), at a speed up to 1. Two are the same only
    where they are one.
    """

    def __init__(
        self, name: str, line: Line, seconds: float, samples: Callable[[float, float, float], Samples]
    ) -> None:
        self.name, self.line, self.seconds, self.samples = name, line, seconds, samples

    @property
    def tempo(self) -> float:
        """Counts a minute, on the whole."""
        first, last = self.line.knots[0], self.line.knots[-1]
        return float(60 * (last - first) / (self.line.seconds[-1] - self.line.seconds[0]))

    @property
    def counts(self) -> float:
        """Counts from its first 1 to its end."""
        return self.line.count(self.seconds)

    def path(self, speed: float) -> TempoPath:
        """The tempo of its counts at a speed, changed only where it drifts."""
        knots, seconds = self.line.knots, self.line.seconds / speed
        steps: list[tuple[Fraction, Fraction]] = []
        at = 0
        while at < len(knots) - 1:
            end = at + 1
            while end + 1 < len(knots) and _straight(knots[at : end + 2], seconds[at : end + 2]):
                end += 1
            tempo = 60 * (knots[end] - knots[at]) / (seconds[end] - seconds[at])
            steps.append(
                (Fraction(float(knots[at])).limit_denominator(64), Fraction(tempo).limit_denominator(10_000))
            )
            at = end
        return TempoPath(tuple(steps))


def _straight(knots: npt.NDArray[np.float64], seconds: npt.NDArray[np.float64]) -> bool:
    even = np.interp(knots, knots[[0, -1]], seconds[[0, -1]])
    return bool(np.abs(even - seconds).max() <= AWAY_S)


def speed_for(music: OwnMusic, tempo: float) -> float:
    """At which speed music goes at a tempo; raises MusicError where it cannot, with one sentence."""
    speed = tempo / music.tempo
    if abs(speed - 1) <= NEAR:
        return 1.0
    if speed > 1:
        raise MusicError(f"{music.name} goes at {music.tempo:.0f} counts a minute, and can only be made slower.")
    if speed < SLOWEST:
        raise MusicError(
            f"{music.name} goes at {music.tempo:.0f} counts a minute: at {tempo:g} nothing is left of it."
        )
    return speed


def laid(section: Section, music: OwnMusic) -> Section:
    """A section to music of one's own, the counts where it has them; raises MusicError where it cannot be."""
    speed = speed_for(music, section.mixing.tempo)
    if music.counts <= section.first:
        raise MusicError(f"{music.name} is over after count {max(0, int(music.counts))}.")
    return replace(section, path=music.path(speed), mixing=replace(section.mixing, music=True, own=music))


def heard_of(section: Section) -> tuple[float, float, float, Fraction] | None:
    """Which seconds of its own music a section plays, from and to, at which speed, and when they begin, in its
    seconds; None where it has none.

    It is heard through the count-in, where it has so much before its first count; a pick-up is danced before it.
    """
    music = section.mixing.own
    if music is None:
        return None
    speed = speed_for(music, section.mixing.tempo)
    begin = music.line.second(float(section.first))
    lead = 0.0 if section.begins < section.first else float(section.seconds_at(section.first)) * speed
    begin_s = max(0.0, begin - lead)
    end_s = min(music.seconds, music.line.second(float(section.last)))
    at = section.seconds_at(section.first) - Fraction((begin - begin_s) / speed)
    return begin_s, end_s, speed, at
