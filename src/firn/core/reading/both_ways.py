"""The same counts in two and in three: 6/8 heard as 3/4 and the other way round, two bars of 3/4 as three pairs."""

from fractions import Fraction

from firn.core.meter.counting import Counting
from firn.core.meter.meter import Meter
from firn.core.piece.piece import Part
from firn.core.reading.finding import Finding, Value
from firn.core.reading.syncopation import score_of

_OTHER = {(6, 8): Meter(3, 4), (3, 4): Meter(6, 8)}

PAIRS = Meter(6, 4, (2, 2, 2))
"""Two bars of 3/4 as three pairs of counts."""


def findings(part: Part) -> list[Finding]:
    """How a part is counted when it is heard otherwise, and what hangs over in each; nothing without counts."""
    if part.counts <= 0:
        return []
    return [*_eighths(part), *_pairs(part)]


def _pairs(part: Part) -> list[Finding]:
    """Six counts over two bars of three: three pairs of counts, where the part fills such bars."""
    counting = part.settings.counting
    heard = [s.place for s in part.sounds if s.heard and not s.layer]
    if (counting.meter.beats, counting.meter.unit) != (3, 4) or not heard or part.counts % PAIRS.counts:
        return []
    score, their_score = score_of(heard, counting.meter, part.counts), score_of(heard, PAIRS, part.counts)
    if score is None or their_score is None:
        # A fifth of a count, that neither reading has a pulse for.
        return []
    pair = 2
    starts = sorted({int(p % PAIRS.counts) + 1 for p in heard if p.denominator == 1 and p % pair == 0})
    values: dict[str, Value] = {
        "meter": str(counting.meter), "starts": " ".join(map(str, starts)) or "none",
        "score": score, "their_score": their_score,
    }  # fmt: skip
    return [Finding("in_pairs", "ok", part.name, values=values)]


def _eighths(part: Part) -> list[Finding]:
    """How the other reading counts a part of whole bars of eighths, and what hangs over in each."""
    counting = part.settings.counting
    meter = counting.meter
    other = _OTHER.get((meter.beats, meter.unit))
    heard = [s.place for s in part.sounds if s.heard and not s.layer]
    if other is None or not heard or part.counts % meter.counts or meter.groups:
        return []
    per = 3 if meter.compound else 2
    eighths = [place * per for place in heard]
    if any(e.denominator != 1 for e in eighths):
        return []
    theirs = 3 if other.compound else 2
    places = [Fraction(e, theirs) for e in eighths]
    counts = part.counts * per // theirs
    if counts % other.counts:
        return []
    again = Counting(other, phrase=counting.phrase * per // theirs or other.phrase)
    score, their_score = score_of(heard, meter, part.counts), score_of(places, other, counts)
    if score is None or their_score is None:
        return []
    values: dict[str, Value] = {
        "meter": str(meter), "other": str(other),
        "said": " ".join(_said(again, p) for p in places[:12]) + (" …" if len(places) > 12 else ""),
        "score": score, "their_score": their_score,
        "beat": "two counts of three eighths" if other.compound else "three counts of two eighths",
    }  # fmt: skip
    return [Finding("both_ways", "ok", part.name, values=values)]


def _said(counting: Counting, place: Fraction) -> str:
    """A place with its count: 1, 1a, 2&."""
    return f"{counting.number(place)}{counting.letter(place)}"
