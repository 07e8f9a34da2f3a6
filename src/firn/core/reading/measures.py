"""Published measures of rhythm, each by its own definition, over one repeating pattern of onsets on a grid."""

from collections.abc import Callable, Sequence
from fractions import Fraction
from functools import lru_cache
from itertools import pairwise
from math import gcd, lcm

from msgspec import Struct

from firn.core.meter.meter import Meter

Value = Fraction | float | None
"""What a measure gives; None where it does not apply."""

GRID = 4
"""Pulses to a count on which off-beatness is told."""

MOST_PULSES = 200_000
"""The measures go over every pulse of a cycle: 2,000 counts in 96ths have fewer."""


class RhythmPattern(Struct, frozen=True):
    """Onsets on a grid, danced over and over.

    `onsets`: pulses with a sound, ascending, 0 the first of a bar; `pulses` in a cycle, `per_beat` in a count;
    `weights`: the metric weight of each pulse of a bar (`Meter.weights`), over and over.
    """

    onsets: tuple[int, ...]
    pulses: int
    per_beat: int
    weights: tuple[int, ...]

    @property
    def gaps(self) -> list[int]:
        """From each onset to the next, from the last to the first of the repeat."""
        if not self.onsets:
            return []
        return [b - a for a, b in pairwise((*self.onsets, self.onsets[0] + self.pulses))]

    def weight(self, pulse: int) -> int:
        """The metric weight of a pulse."""
        return self.weights[pulse % len(self.weights)]


def pattern(places: Sequence[Fraction], meter: Meter, counts: int) -> RhythmPattern:
    """The pattern of some places (in counts, 0 a bar's first) that comes again after so many counts.

    The grid is the widest that holds them all, at least halves of a count, or thirds in compound time. Raises
    ValueError for a cycle of no counts, one of more than MOST_PULSES, or a place that the meter has no pulse for.
    """
    if counts <= 0:
        raise ValueError(f"a pattern must last a count or more, not {counts}")
    least = 3 if meter.compound else 2
    per_beat = lcm(least, *(p.denominator for p in places))
    if (
        not meter.compound
        and all(p.denominator in (1, 3) for p in places)
        and any(p.denominator == 3 for p in places)
    ):
        per_beat = 3
    if counts * per_beat > MOST_PULSES:
        raise ValueError(f"a pattern of {counts * per_beat} pulses, more than {MOST_PULSES}")
    onsets = sorted({int(p * per_beat) % (counts * per_beat) for p in places})
    # Each place by its own division: where halves and thirds meet, neither lies under the other.
    return RhythmPattern(tuple(onsets), counts * per_beat, per_beat, _weights(meter, per_beat))


@lru_cache(maxsize=32)
def _weights(meter: Meter, per_beat: int) -> tuple[int, ...]:
    """Remembered: a part is measured phrase by phrase, over one kind of sound after another, on the same grid."""
    return tuple(meter.weight(Fraction(k, per_beat)) for k in range(meter.counts * per_beat))


def longuet_higgins_lee(of: RhythmPattern) -> Value:
    """Longuet-Higgins & Lee 1984, one pair a note, with the heaviest silent pulse before the next note."""
    score = 0
    for onset, gap in zip(of.onsets, of.gaps, strict=True):
        heaviest = max((of.weight(p) for p in range(onset + 1, onset + gap)), default=of.weight(onset))
        score += max(0, heaviest - of.weight(onset))
    return Fraction(score)


def keith(of: RhythmPattern) -> Value:
    """Keith 1991: a hesitation (only the end off its beat) 1, an anticipation (only the start) 2, both 3.

    Off its beat is what is no multiple of the gap rounded down to a power of two. Only where the cycle is a power of
    two of pulses.
    """
    points = [start * 2 + end for start, end in _keith(of) or ()]
    return None if _keith(of) is None else Fraction(sum(points))


def off_beat_starts(of: RhythmPattern) -> Value:
    """Keith's measure as Toussaint counts it (Gómez et al. 2005): one for each note that starts off its beat."""
    starts = _keith(of)
    return None if starts is None else Fraction(sum(start for start, _ in starts))


def _keith(of: RhythmPattern) -> list[tuple[int, int]] | None:
    if of.pulses & (of.pulses - 1):
        return None
    found = []
    for onset, gap in zip(of.onsets, of.gaps, strict=True):
        size = 1 << (gap.bit_length() - 1)
        found.append((int(onset % size != 0), int((onset + gap) % size != 0)))
    return found


def wnbd(of: RhythmPattern) -> Value:
    """Weighted note-to-beat distance (Gómez, Melvin, Rappaport, Toussaint 2005), the mean over the notes.

    A note off the beat counts 1 over its distance to the nearest beat in beats, twice that where it ends between the
    first beat after it and the second; it lasts to the next.
    """
    if not of.onsets:
        return None
    total = Fraction(0)
    for onset, gap in zip(of.onsets, of.gaps, strict=True):
        after = onset % of.per_beat
        if not after:
            continue
        distance = Fraction(min(after, of.per_beat - after), of.per_beat)
        first = onset - after + of.per_beat
        between = first < onset + gap < first + of.per_beat
        total += (2 if between else 1) / distance
    return total / len(of.onsets)


def off_beatness(of: RhythmPattern) -> Value:
    """Off-beatness (Toussaint 2005): onsets on pulses that share no divisor with the cycle, on no even division."""
    return Fraction(sum(gcd(onset, of.pulses) == 1 for onset in of.onsets))


def off_beatness_on_grid(of: RhythmPattern) -> Value:
    """Off-beatness on a stated grid, so that one pattern compares with another: sixteen pulses to four counts, or the
    finest that is said."""
    finer = GRID // of.per_beat if GRID % of.per_beat == 0 else 1
    return Fraction(sum(gcd(onset * finer, of.pulses * finer) == 1 for onset in of.onsets))


def metrical_complexity(of: RhythmPattern) -> Value:
    """Metrical complexity (Toussaint 2002): how far the onsets' weights fall short of the most for so many."""
    by_weight = sorted((of.weight(p) for p in range(of.pulses)), reverse=True)
    return Fraction(sum(by_weight[: len(of.onsets)]) - sum(of.weight(o) for o in of.onsets))


def evenness(of: RhythmPattern) -> Value:
    """Evenness (Milne et al. 2015): 1 where the onsets divide the cycle evenly; the first Fourier coefficient."""
    return abs(_coefficient(of, 1)) if of.onsets else None


def balance(of: RhythmPattern) -> Value:
    """Balance (Milne et al. 2015): 1 where the onsets, as points of a circle, weigh evenly about its middle."""
    return 1 - abs(_coefficient(of, 0)) if of.onsets else None


def _coefficient(of: RhythmPattern, order: int) -> complex:
    import cmath

    turn = 2j * cmath.pi
    many = len(of.onsets)
    points = (cmath.exp(turn * (o / of.pulses - k * order / many)) for k, o in enumerate(of.onsets))
    return sum(points, 0j) / many


def npvi(of: RhythmPattern) -> Value:
    """Normalised pairwise variability (Grabe & Low 2002) of the gaps: 0 where all are alike."""
    gaps = of.gaps
    if len(gaps) < 2:
        return None
    return Fraction(200, len(gaps) - 1) * sum((Fraction(abs(a - b), a + b) for a, b in pairwise(gaps)), Fraction(0))


def notes_a_beat(of: RhythmPattern) -> Value:
    """How many onsets there are for each count."""
    return Fraction(len(of.onsets) * of.per_beat, of.pulses)


class Measure(Struct, frozen=True):
    """A measure: its short name, who published it, what it says to a dancer, and where it does not apply."""

    key: str
    name: str
    source: str
    says: str
    of: Callable[[RhythmPattern], Value]
    applies: str = ""


MEASURES = (
    Measure("lhl", "Hanging over", "Longuet-Higgins & Lee 1984",
            "How much heavier the silent beats are that sounds hang over", longuet_higgins_lee),
    Measure("keith", "Early and late", "Keith 1991",
            "1 for a sound that ends late, 2 for one that comes early, 3 for both", keith,
            "cycles of 2, 4, 8, 16 … pulses only"),
    Measure("off_beat_starts", "Off-beat starts", "Toussaint, in Gómez et al. 2005",
            "Sounds that begin off the beat of their own length", off_beat_starts,
            "cycles of 2, 4, 8, 16 … pulses only"),
    Measure("wnbd", "Distance to the beat", "Gómez et al. 2005",
            "More, the nearer sounds off the beat lie to it, and if they last over it", wnbd),
    Measure("off_beatness", "Off every division", "Toussaint 2005",
            "Sounds on pulses that no even division of the cycle has: 16 to four counts, or the finest said",
            off_beatness_on_grid),
    Measure("metrical_complexity", "Against the meter", "Toussaint 2002",
            "How far the sounds keep off the heavy places", metrical_complexity),
    Measure("evenness", "Evenness", "Milne et al. 2015", "1: all gaps alike", evenness),
    Measure("balance", "Balance", "Milne et al. 2015", "1: as much on either side of the cycle", balance),
    Measure("npvi", "Change of gaps", "Grabe & Low 2002", "0: every gap as long as the one before it", npvi),
    Measure("notes_a_beat", "Sounds a count", "a plain ratio", "How full it is", notes_a_beat),
)  # fmt: skip


KNOWN = (
    ("shiko", "x...x.x...x.x..."), ("son", "x..x..x...x.x..."), ("rumba", "x..x...x..x.x..."),
    ("soukous", "x..x..x...xx...."), ("bossa", "x..x..x...x..x.."), ("gahu", "x..x..x...x...x."),
    ("even eighths", "x.x.x.x.x.x.x.x."), ("every beat", "x...x...x...x..."),
)  # fmt: skip
"""Well-known patterns of 16 pulses, 4 beats (Toussaint 2002, Gómez et al. 2005), to lay a number beside."""


def known_pattern(text: str) -> RhythmPattern:
    """A pattern written with x for a sound and a dot for none, a bar of 4/4."""
    meter = Meter(4, 4)
    per_beat = len(text) // meter.counts
    onsets = tuple(i for i, c in enumerate(text) if c == "x")
    return RhythmPattern(onsets, len(text), per_beat, meter.weights(Fraction(1, per_beat)))


def nearest_known(score: Fraction) -> str:
    """The well-known pattern whose figure after Longuet-Higgins & Lee is nearest, the first of equals."""
    scores = [(abs(longuet_higgins_lee(known_pattern(text)) - score), name) for name, text in KNOWN]  # type: ignore[operator]
    return min(scores, key=lambda s: s[0])[1]
