"""Takes as people dance them, as times alone: the outside judge of which take is which.

No code of the ear is used. Timing after Wing & Kristofferson 1973: each interval has a clock's error, which adds up
along the take, and each stroke its own delay, which does not. The clock errs by 2.5 % of the interval, a stroke by
6 ms (both of the order that tapping studies report; from memory). The rest, what is missed, added, paused, begun
again and counted in, is common practice, no source.
"""

from collections.abc import Sequence
from dataclasses import dataclass, field
from fractions import Fraction

import numpy as np

from firn.core.piece.piece import Part

CLOCK, STROKE_S = 0.025, 0.006
TOGETHER_S = 0.012


@dataclass(frozen=True)
class Pattern:
    """A part as places in counts, ascending, and how many counts it lasts; the first count it has is 0."""

    places: tuple[Fraction, ...]
    counts: int


def pattern_of(part: Part) -> Pattern:
    """What is heard of a part: each place once."""
    return Pattern(tuple(sorted({s.position for s in part.sounds if s.heard})), part.counts)


@dataclass(frozen=True)
class Manner:
    """How a take goes.

    `tempo` in counts a minute at its beginning, `drift`: by what share faster at its end. `passes`: how much of the
    part each time takes, 1 for all of it. `pauses`: seconds of silence before each but the first. `led_by`: counts
    struck before. `missed`, `added`: shares of its sounds.
    """

    tempo: float
    drift: float = 0.0
    passes: tuple[float, ...] = (1.0, 1.0)
    pauses: dict[int, float] = field(default_factory=dict)
    led_by: int = 0
    missed: float = 0.02
    added: float = 0.02
    clock: float = CLOCK
    stroke_s: float = STROKE_S


@dataclass(frozen=True)
class Take:
    """Onsets in seconds, ascending; `starts_s`: when the part's own first count fell in each pass that was whole."""

    onsets_s: np.ndarray
    starts_s: tuple[float, ...]


def danced(pattern: Pattern, manner: Manner, rng: np.random.Generator) -> Take:
    """A take of a pattern; the same generator gives the same take."""
    beats: list[tuple[float, bool]] = []
    starts: list[float] = []
    quiet: list[tuple[float, float]] = []
    at = 0.0
    # What is struck before the first sound, or before the first count where no pick-up comes before it.
    first = min(0.0, float(pattern.places[0]))
    for count in range(manner.led_by):
        beats.append((first - manner.led_by + count, False))
    for number, share in enumerate(manner.passes):
        if number in manner.pauses:
            quiet.append((at + first, manner.pauses[number]))
        if share == 1.0:
            starts.append(at)
        many = max(2, round(share * len(pattern.places)))
        beats += [(at + float(p), True) for p in pattern.places[:many]]
        # What was broken off leaves room for what leads up to the next.
        at += pattern.counts if share == 1.0 else float(np.ceil(float(pattern.places[many - 1]) + 1 - first))
    seconds = _clock(beats, manner, rng)
    for after, pause in quiet:
        seconds = [s + pause if place >= after - 1e-9 else s for s, (place, _) in zip(seconds, beats, strict=True)]
    heard = [s + rng.normal(0, manner.stroke_s) for s in seconds]
    kept = [h for h, (_, own) in zip(heard, beats, strict=True) if not own or rng.random() >= manner.missed]
    extra = rng.uniform(min(heard), max(heard), rng.binomial(len(heard), manner.added))
    times = np.sort(np.concatenate([kept, extra])) + rng.uniform(0.3, 2.0)
    apart = np.append(True, np.diff(times) > TOGETHER_S)
    shift = times[0] - min(kept)
    own = {place: s for s, (place, mine) in zip(seconds, beats, strict=True) if mine}
    began = [own.get(s, np.nan) + shift for s in starts]
    return Take(times[apart] - min(0.0, float(times.min())), tuple(began))


ENSEMBLE_S = 0.025
"""How far apart two strike who dance together, as a standard deviation: ensembles are 30 to 50 ms apart (Rasch 1979;
from memory), dancers side by side rather less."""


def with_another(take: Take, rng: np.random.Generator) -> np.ndarray:
    """The onsets of a take in which another dances along: ahead or behind all through, and never by just as much."""
    lag = rng.normal(0, 0.015)
    theirs = take.onsets_s + lag + rng.normal(0, ENSEMBLE_S, len(take.onsets_s))
    both = np.sort(np.concatenate([take.onsets_s, theirs[rng.random(len(theirs)) > 0.03]]))
    both = both[np.append(True, np.diff(both) > TOGETHER_S)]
    return both - min(0.0, float(both.min()))


def _clock(beats: Sequence[tuple[float, bool]], manner: Manner, rng: np.random.Generator) -> list[float]:
    """When each stroke is due by a clock that errs and drifts."""
    whole = max(1e-9, beats[-1][0] - beats[0][0])
    seconds, now = [], 0.0
    before = beats[0][0]
    for place, _ in beats:
        beat = 60 / (manner.tempo * (1 + manner.drift * (place - beats[0][0]) / whole))
        length = (place - before) * beat
        now += length * (1 + rng.normal(0, manner.clock)) if length > 0 else length
        seconds.append(now)
        before = place
    return seconds


def manner_of(tempo: float, rng: np.random.Generator, *, many: int) -> Manner:
    """A manner as they come: near a tempo, some drifting, counted in, paused, begun again, or stopped half way.

    `many`: how many sounds a pass has; of short parts there are more passes.
    """
    passes = [1.0] * int(rng.integers(1, 5) if many >= 12 else rng.integers(4, 9))
    pauses = {}
    if rng.random() < 0.25:
        passes.append(float(rng.uniform(0.3, 0.7)))
    if rng.random() < 0.2:
        at = int(rng.integers(0, len(passes)))
        passes.insert(at, float(rng.uniform(0.3, 0.7)))
        pauses[at + 1] = float(rng.uniform(0.8, 3.0))
    elif rng.random() < 0.25 and len(passes) > 1:
        pauses[int(rng.integers(1, len(passes)))] = float(rng.uniform(0.8, 4.0))
    return Manner(
        tempo=tempo * float(rng.uniform(0.93, 1.07)),
        drift=float(rng.uniform(-0.08, 0.08)) if rng.random() < 0.4 else 0.0,
        passes=tuple(passes),
        pauses=pauses,
        led_by=int(rng.choice([0, 0, 0, 2, 4, 8])),
        missed=float(rng.choice([0.0, 0.02, 0.05, 0.1])),
        added=float(rng.choice([0.0, 0.02, 0.05])),
    )
