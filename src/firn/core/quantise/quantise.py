"""Times into counts: when something was struck, read as places on the counts of a tempo that is found.

First the spacings that the times keep to are found (their Fourier transform, a tempo that creeps taken in), then all
is laid along one line that bends little, from the first stretch on, and each sound's place is weighed against every
other near it (forward and backward over what usually follows what, after Raphael 2001 and Cemgil & Kappen 2003):
what is said of how sure it is comes from there.
"""

from collections.abc import Sequence
from fractions import Fraction

import numpy as np
from msgspec import Struct

from firn.core.meter.line import FloatArray, Line, line_through
from firn.core.quantise.search import WHOLE_S, begun, kinds_of
from firn.core.quantise.usual import KINDS, SLOTS
from firn.core.quantise.weigh import Tried, stray, weighed

SLOWEST, FASTEST = 83.0, 167.0
"""Counts a minute of a tempo that nobody said: one octave, so that it is not also half or double."""

NEAR_TEMPO = 0.13
"""A tempo that was said holds to this share."""

MARGIN = 0.04
"""By so much what is found may lie outside."""

SPREAD_S, LEAST_SPREAD_S, MOST_SPREAD_S = 0.018, 0.005, 0.045

LIKELY = 0.05
"""A place less likely than this is no alternative."""

BENDS = (0.003, 0.003, 0.004, 0.006, 0.006)
"""How much the line may bend from round to round: stiff at first, so that a slip in the middle cannot hide in it."""

CLOSELY = 4
"""So many lines are followed to the end."""

ON_S = 10.0
"""What is longer is followed by so many seconds at a time."""


class Quantised(Struct, frozen=True):
    """Sounds read as counts.

    `places`: of each sound, in counts from the first whole count. `sure`: how likely each is, 0 to 1, less where it
    lies on no place. `others`: of
    each sound the other places that it could have, with how likely they are. `line`: the counts in seconds.
    `spread_s`: how far sounds lie from it. `compound`: whether counts have thirds rather than halves.
    `likelihood`: in all, log, to weigh readings of the same sounds.
    """

    places: tuple[Fraction, ...]
    sure: tuple[float, ...]
    others: tuple[tuple[tuple[Fraction, float], ...], ...]
    line: Line
    spread_s: float
    compound: bool
    likelihood: float

    @property
    def tempo(self) -> float:
        """Counts a minute, on the whole."""
        span = float(self.places[-1] - self.places[0])
        ends = self.line.at(np.array([float(self.places[0]), float(self.places[-1])]))
        return 60.0 * span / float(ends[1] - ends[0]) if span else self.line.tempo(float(self.places[0]))


def quantise(
    times_s: Sequence[float] | FloatArray,
    *,
    tempo: float | None = None,
    compound: bool | None = None,
) -> list[Quantised]:
    """Readings of times as counts, the likeliest first.

    Parameters
    ----------
    times_s : array_like, shape (n,)
        Seconds, ascending; two or more.
    tempo : float, optional
        Counts a minute where somebody said it, to about an eighth.
    compound : bool, optional
        Whether a count has thirds (6/8) or halves and quarters; both are tried where nobody said.

    Raises
    ------
    ValueError
        Fewer than two times, or not ascending.
    """
    times = np.asarray(times_s, dtype=np.float64)
    if len(times) < 2 or not np.all(np.diff(times) > 0):
        raise ValueError("two times or more, each later than the one before, are needed")
    low, high = (SLOWEST, FASTEST) if tempo is None else (tempo * (1 - NEAR_TEMPO), tempo * (1 + NEAR_TEMPO))
    found: list[Quantised] = []
    beside: list[Quantised] = []
    stretch = times[times <= times[0] + WHOLE_S]
    if len(stretch) < 2:
        stretch = times
    # A first look at each, at the first stretch alone: the likeliest are then followed to the end.
    lines = begun(times, kinds_of(compound), low, high)
    looked = [(one.kind, *_laid(stretch, one.line, one.kind, BENDS[:2])) for one in lines]
    looked.sort(key=lambda one: -one[2])
    for kind, line, _ in looked[:CLOSELY]:
        read = _refined(times, _followed(times, line, kind), kind)
        inside = low * (1 - MARGIN) <= read.tempo <= high * (1 + MARGIN)
        where = found if inside else beside
        if not any(o.places == read.places for o in where):
            where.append(read)
    for readings in (found, beside):
        readings.sort(key=lambda q: -q.likelihood)
    return found or beside


def _followed(times: FloatArray, line: Line, kind: int) -> Line:
    """A line that begins as one does and goes on to the end of the times."""
    until = times[0] + WHOLE_S
    while until < times[-1]:
        until += ON_S
        near = times[(times <= until) & (times > until - WHOLE_S)]
        if len(near) < 2:
            continue
        places, likely, _ = weighed(near, line, 1.5 * SPREAD_S, kind)
        counts = np.take_along_axis(places, likely.argmax(axis=1)[:, None], axis=1)[:, 0]
        on = line_through(counts, near, SPREAD_S)
        before = line.knots < on.knots[0] - 1e-6
        line = Line(np.append(line.knots[before], on.knots), np.append(line.seconds[before], on.seconds))
    return line


def _laid(times: FloatArray, line: Line, kind: int, bends: Sequence[float]) -> tuple[Line, float]:
    """A line laid anew through its likeliest places, some rounds long; and the log likelihood of all on it."""
    spread, total = SPREAD_S, -np.inf
    for bend in bends:
        line, spread, total, _, _ = _round(times, line, kind, spread, bend)
    return line, total


def _refined(times: FloatArray, line: Line, kind: int) -> Quantised:
    """All laid along one line, each place weighed anew, some rounds long."""
    spread = SPREAD_S
    for bend in BENDS:
        line, spread, total, places, likely = _round(times, line, kind, spread, bend)
    counts = np.take_along_axis(places, likely.argmax(axis=1)[:, None], axis=1)[:, 0]
    first = int(np.ceil(counts[0] - 1e-9))
    line = Line(line.knots - first, line.seconds)
    return _as_read(times, Tried(line, spread, kind), places - first, likely, total)


def on_line(
    times_s: Sequence[float] | FloatArray, line: Line, *, compound: bool | None = None, spread_s: float | None = None
) -> Quantised:
    """Times, ascending, read as counts of a line that is known; places are its own counts.

    `compound`: whether counts have thirds, the likelier where nobody said; `spread_s`: seconds that they lie from
    their places, measured where nobody said.
    """
    times = np.asarray(times_s, dtype=np.float64)
    found = []
    for kind in kinds_of(compound):
        spread = spread_s or SPREAD_S
        for _ in range(1 if spread_s else 2):
            places, likely, total = weighed(times, line, spread, kind)
            counts = np.take_along_axis(places, likely.argmax(axis=1)[:, None], axis=1)[:, 0]
            spread = spread_s or _spread(times - line.at(counts))
        found.append(_as_read(times, Tried(line, spread, kind), places, likely, total))
    return max(found, key=lambda one: one.likelihood)


def _as_read(times: FloatArray, tried: Tried, places: FloatArray, likely: FloatArray, total: float) -> Quantised:
    """Times as they are read along a line, by how likely each lies on each of some places."""
    line, spread, kind = tried
    chosen = likely.argmax(axis=1)
    counts = np.take_along_axis(places, chosen[:, None], axis=1)[:, 0]
    off = stray(np.abs(times - line.at(counts)), spread)
    along = line.counts(times)
    others = []
    for n, p, c, astray, count in zip(places, likely, chosen, off, along, strict=True):
        more = {_exact(n[k]): float(p[k]) for k in np.argsort(-p) if k != c and p[k] >= LIKELY}
        if astray > 0.5:
            # It lies on no place: those around where it is may be meant.
            for place in _around(float(count)):
                if place != _exact(n[c]):
                    more.setdefault(place, LIKELY)
        others.append(tuple(more.items()))
    return Quantised(
        tuple(_exact(c) for c in counts),
        tuple(float(p[c] * (1 - astray / 2)) for p, c, astray in zip(likely, chosen, off, strict=True)),
        tuple(others),
        line,
        spread,
        KINDS[kind] == "compound",
        total,
    )


def _round(
    times: FloatArray, line: Line, kind: int, spread: float, bend: float
) -> tuple[Line, float, float, FloatArray, FloatArray]:
    """One round: the places weighed along a line, and the line laid through the likeliest of them."""
    places, likely, total = weighed(times, line, spread, kind)
    counts = np.take_along_axis(places, likely.argmax(axis=1)[:, None], axis=1)[:, 0]
    line = line_through(counts, times, spread, bend)
    return line, _spread(times - line.at(counts)), total, places, likely


def _spread(away_s: FloatArray) -> float:
    """How far sounds lie from their places, robustly, within what can be."""
    return float(np.clip(1.4826 * np.median(np.abs(away_s)), LEAST_SPREAD_S, MOST_SPREAD_S))


def _around(count: float) -> tuple[Fraction, Fraction]:
    """The places next before and after a count."""
    every = [int(np.floor(count)) + n + s for n in (-1, 0, 1) for s in SLOTS]
    return max(p for p in every if p <= count), min(p for p in every if p > count)


def _exact(count: float) -> Fraction:
    whole = int(np.floor(count + 1e-6))
    return whole + min(SLOTS, key=lambda s: abs(float(s) - (count - whole)))
