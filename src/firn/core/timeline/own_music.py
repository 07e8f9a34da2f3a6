"""Music of one's own: where its counts lie in it, and a way to its samples."""

from collections.abc import Callable
from fractions import Fraction

import numpy as np
import numpy.typing as npt

from firn.core.meter.line import Line
from firn.core.meter.tempo import TempoPath
from firn.errors import FirnError

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
