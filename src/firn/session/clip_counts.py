"""A clip's counts, known before any step of it is: found in its sound, tapped along, put right by hand."""

from collections.abc import Sequence
from fractions import Fraction
from pathlib import Path

import numpy as np
import numpy.typing as npt
from msgspec import Struct

from firn.core.meter.counting import Counting
from firn.core.meter.line import FloatArray, Line, line_through
from firn.core.task import UNWATCHED, Task
from firn.errors import FirnError
from firn.files.audio import read_take
from firn.session.stretch import Stretch

LEAST = 4
"""Fewer beats make no tempo."""

FOUND_S, TAPPED_S = 0.015, 0.03
"""So far beats that are found, or tapped, lie from where they are."""

SURE = 0.5
"""Below this half or twice as many counts are as likely."""

LEADS_S, AROUND_S, FAINT = 30.0, 0.06, 0.05
"""In its first seconds something sounds where a beat has, around it, more than a share of the loudest level."""

MOST_SHOWN = 512
"""So many counts are shown at most."""


class Counts(Struct, frozen=True):
    """A clip's counts: the line of them, a 1 at its 0, and how sure they are, 0 to 1."""

    line: Line
    sure: float = 1.0


def found_counts(clip: Path, begin_s: float, end_s: float, task: Task = UNWATCHED) -> Counts:
    """The counts of a stretch of a clip, by its sound, the first beat a 1. Raises FirnError where none can be
    followed."""
    from firn.core.quantise.beats import beats_of, begins

    sound, rate, _ = read_take(clip, start_s=begin_s, length_s=end_s - begin_s)
    found = beats_of(begins(sound, rate), task)
    beats = found.times_s[silent_at_first(sound, rate, found.times_s) :]
    if len(beats) < LEAST:
        raise FirnError("No beat of it can be followed: L taps its beats along.")
    return Counts(_through(begin_s + beats, FOUND_S), found.sure)


def silent_at_first(sound: npt.NDArray[np.float32], rate_hz: int, beats_s: FloatArray) -> int:
    """How many of the first beats of a recording are counted on in silence, before anything sounds."""
    around = round(AROUND_S * rate_hz)
    ends_s = min(LEADS_S, len(sound) / rate_hz) - AROUND_S
    places = [round(t * rate_hz) for t in beats_s if t < ends_s]
    levels = [float(np.sqrt(np.mean(sound[max(0, at - around) : at + around] ** 2))) for at in places]
    if not levels:
        return 0
    loud = FAINT * max(levels)
    return next(n for n, level in enumerate(levels) if level >= loud)


def tapped_counts(times_s: Sequence[float]) -> Counts:
    """The counts that somebody tapped, the first a 1. Raises FirnError for fewer than four."""
    if len(times_s) < LEAST:
        raise FirnError("Four beats or more are needed.")
    times = np.sort(np.asarray(times_s, dtype=np.float64))
    # A beat that was not tapped, or tapped twice, leaves the others on their counts.
    counts = np.concatenate([[0.0], np.cumsum(np.round(np.diff(times) / np.median(np.diff(times))))])
    first = np.concatenate([[True], np.diff(counts) > 0])
    return Counts(_through(times[first], TAPPED_S, counts[first]))


def _through(times: FloatArray, spread_s: float, counts: FloatArray | None = None) -> Line:
    return line_through(np.arange(len(times), dtype=np.float64) if counts is None else counts, times, spread_s)


def as_many(counts: Counts, times: float) -> Counts:
    """So many times as many counts, the 1 where it was."""
    return Counts(Line(counts.line.knots * times, counts.line.seconds))


def one_at(counts: Counts, at_s: float) -> Counts:
    """With a 1 on the count nearest to a second."""
    return Counts(Line(counts.line.knots - round(counts.line.count(at_s)), counts.line.seconds), counts.sure)


def said_of(counts: Counts, begin_s: float, end_s: float) -> str:
    """The tempo in a stretch, where it drifts at both its ends, and what is not sure."""
    line = counts.line
    first, last = (round(line.tempo(line.count(at_s))) for at_s in (begin_s, end_s))
    tempo = f"{first} counts a minute" if abs(first - last) < 2 else f"{first} counts a minute, {last} at its end"
    doubt = " Half or twice as many may be meant: H, J." if counts.sure < SURE else ""
    return f"{tempo}, a 1 at {line.second(0.0):.2f} s: 1 puts it where the clip stands.{doubt}"


def counted_stretch(counts: Counts, end_s: float, counting: Counting) -> Stretch:
    """The counts alone, without a step, up to a second."""
    many = max(1, min(MOST_SHOWN, int(np.ceil(counts.line.count(end_s)))))
    return Stretch("", (), (), counting, Fraction(0), Fraction(many))
