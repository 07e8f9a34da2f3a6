"""The line that ties counts to seconds: steady, or with a tempo that drifts."""

import numpy as np
import numpy.typing as npt
from msgspec import Struct

FloatArray = npt.NDArray[np.float64]

EVERY = 4.0
"""Counts from one knot of the line to the next."""

BEND = 0.006
"""By what share the tempo changes from knot to knot, usually."""


class Line(Struct, frozen=True):
    """When each count falls: `knots` in counts, ascending, and `seconds` at them, straight between and beyond."""

    knots: FloatArray
    seconds: FloatArray

    def at(self, counts: FloatArray) -> FloatArray:
        """Seconds at counts."""
        return self._along(counts, self.knots, self.seconds)

    def counts(self, seconds: FloatArray) -> FloatArray:
        """Counts at seconds."""
        return self._along(seconds, self.seconds, self.knots)

    def second(self, count: float) -> float:
        """The second of a count."""
        return float(self.at(np.array([float(count)]))[0])

    def count(self, second: float) -> float:
        """The count of a second."""
        return float(self.counts(np.array([float(second)]))[0])

    def tempo(self, count: float) -> float:
        """Counts a minute at a count."""
        return 60.0 / (self.second(count + 0.5) - self.second(count - 0.5))

    @staticmethod
    def _along(x: FloatArray, knots: FloatArray, values: FloatArray) -> FloatArray:
        first = (values[1] - values[0]) / (knots[1] - knots[0])
        last = (values[-1] - values[-2]) / (knots[-1] - knots[-2])
        inside = np.interp(x, knots, values)
        return np.asarray(
            inside + np.minimum(0, x - knots[0]) * first + np.maximum(0, x - knots[-1]) * last, dtype=np.float64
        )


def line_through(counts: FloatArray, seconds: FloatArray, spread_s: float, bend: float = BEND) -> Line:
    """The line through sounds at counts, ascending, that bends little (ridge on second differences).

    `spread_s`: how far sounds lie from it; `bend`: by what share its tempo changes from knot to knot.
    """
    many = max(2, round((counts[-1] - counts[0]) / EVERY) + 1)
    knots = np.linspace(counts[0], max(counts[-1], counts[0] + 1.0), many)
    step = knots[1] - knots[0]
    at = np.clip((counts - knots[0]) / step, 0, many - 1 - 1e-9)
    low = at.astype(int)
    rows = np.zeros((len(counts), many))
    rows[np.arange(len(counts)), low] = 1 - (at - low)
    rows[np.arange(len(counts)), low + 1] = at - low
    slope = float(np.polyfit(counts, seconds, 1)[0]) if len(counts) > 1 else 0.5
    bends = np.diff(np.eye(many), 2, axis=0) * spread_s / (bend * slope * step)
    solved = np.linalg.lstsq(np.vstack([rows, bends]), np.append(seconds, np.zeros(len(bends))), rcond=None)[0]
    return Line(knots, np.maximum.accumulate(solved + np.arange(many) * 1e-9))
