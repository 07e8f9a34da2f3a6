"""How thick a part is: sounds a second, and the shortest gaps, over both feet and on one."""

from collections import Counter
from fractions import Fraction
from itertools import pairwise

from msgspec import Struct

from firn.core.meter.tempo import seconds
from firn.core.piece.piece import Part
from firn.core.reading.finding import Finding, Value
from firn.core.task import giving_way


class Gap(Struct, frozen=True):
    """The time from one sound to the next: their indexes in the part, and how long in counts."""

    first: int
    second: int
    counts: Fraction

    def ms(self, tempo: float) -> float:
        """The gap in milliseconds at a tempo in counts a minute."""
        return seconds(self.counts, tempo) * 1000


class Struck(Struct, frozen=True):
    """The heard sounds of a part as moments: their indexes (of sounds that fall together the first), their positions
    in ticks, and how many ticks make a count."""

    indexes: tuple[int, ...]
    at: tuple[int, ...]
    in_a_count: int

    def shortest(self) -> Gap | None:
        """The shortest gap from one moment to the next, the first of equals; None for fewer than two."""
        if len(self.at) < 2:
            return None
        gaps = [b - a for a, b in pairwise(self.at)]
        least = min(gaps)
        first = gaps.index(least)
        return Gap(self.indexes[first], self.indexes[first + 1], Fraction(least, self.in_a_count))


def heard_moments(part: Part, foot: str = "") -> Struck:
    """The moments on which a part sounds, of one foot if it is named."""
    positions = part.position_ticks
    indexes: list[int] = []
    at: list[int] = []
    last = None
    for index, (tick, sound) in enumerate(giving_way(zip(positions.at, part.sounds, strict=True))):
        if tick != last and sound.heard and (not foot or sound.foot in (foot, "both")):
            indexes.append(index)
            at.append(tick)
            last = tick
    return Struck(tuple(indexes), tuple(at), positions.in_a_count)


def shortest_gap(part: Part, foot: str = "") -> Gap | None:
    """The shortest gap between a part's sounds, or those of one foot, the first of equals; None for fewer than 2.

    In positions, so that the feel counts; a last sound and the first of a repeat are no gap.
    """
    return heard_moments(part, foot).shortest()


def most_in_a_count(part: Part, heard: Struck) -> tuple[int, Fraction]:
    """The most sounds from one whole count up to the next, and that count, the first of equals; (0, 0) for none."""
    places = part.place_ticks
    by_count = Counter(places.at[i] // places.in_a_count for i in heard.indexes)
    if not by_count:
        return 0, Fraction(0)
    most = max(by_count.values())
    return most, Fraction(min(c for c, many in by_count.items() if many == most))


def findings(part: Part) -> list[Finding]:
    """Sounds a second and shortest gaps at the piece's tempo."""
    heard = heard_moments(part)
    gap = heard.shortest()
    if gap is None or part.counts <= 0:
        return []
    tempo = part.settings.tempo
    counting = part.settings.counting
    many, count = most_in_a_count(part, heard)
    feet = [(g, foot) for foot in ("left", "right") if (g := shortest_gap(part, foot)) is not None]
    values: dict[str, Value] = {
        "tempo": tempo,
        "rate": len(heard.at) / seconds(Fraction(part.counts), tempo),
        "most": many * tempo / 60,
        "count": counting.number(count),
        "ms": gap.ms(tempo),
        "from": counting.name(part.sounds[gap.first].place),
        "to": counting.name(part.sounds[gap.second].place),
    }
    if feet:
        own, foot = min(feet, key=lambda f: (f[0].counts, f[0].first))
        values |= {"foot": foot, "foot_ms": own.ms(tempo)}
        values |= {"foot_from": counting.name(part.sounds[own.first].place)}
        values |= {"foot_to": counting.name(part.sounds[own.second].place)}
    code = "thick" if feet else "thick_no_foot"
    return [Finding(code, "ok", part.name, sound=gap.first, values=values)]
