"""Syncopation after Longuet-Higgins & Lee 1984: sounds that hang over a stronger beat which stays silent."""

from collections.abc import Sequence
from fractions import Fraction
from functools import lru_cache
from itertools import compress
from typing import NamedTuple

from msgspec import Struct

from firn.core.meter.meter import Meter
from firn.core.meter.ticks import Ticks, in_ticks
from firn.core.piece.piece import Part
from firn.core.reading.finding import Finding, Value
from firn.core.same import begins_alike


class Hang(Struct, frozen=True):
    """A sound that hangs: its place, the silent place that it hangs over, and by how much that is heavier."""

    place: Fraction
    over: Fraction
    strength: int


def hangs(places: Sequence[Fraction], meter: Meter, length: int) -> list[Hang]:
    """The sounds of a repeating pattern that hang over a silent heavier pulse.

    Parameters
    ----------
    places : sequence of Fraction
        Where there are sounds, in counts; place 0 begins a bar. Doubles count once.
    meter : Meter
    length : int
        Counts after which the pattern comes again; a last sound is held to the repeat's first.

    Returns
    -------
    list of Hang
        By place. Of several silent pulses that are heavier than a sound the heaviest is taken, of equals the
        earliest: one pair a sound. Longuet-Higgins & Lee 1984, as laid out in Fitch & Rosenfeld 2007.

    Raises
    ------
    ValueError
        `length` is not above 0, or the meter has no pulse where a sound is: a fifth of a count.
    """
    if length <= 0:
        raise ValueError(f"a pattern must last a count or more, not {length}")
    return _hangs_at(in_ticks(list(places)), meter, length)


def score_of(places: Sequence[Fraction], meter: Meter, length: int) -> int | None:
    """How strongly all hangs of a pattern hang, together; None where a place has no pulse. As `hangs` otherwise."""
    try:
        return sum(h.strength for h in hangs(places, meter, length))
    except ValueError:
        return None


def _hangs_at(places: Ticks, meter: Meter, length: int) -> list[Hang]:
    """As `hangs`, of places in ticks: what hangs is the same in every bar, and looked for once."""
    many = places.in_a_count
    onsets = sorted(set(places.at))
    return [hang for hang in _from(onsets, many, meter, length) if hang is not None]


def _from(onsets: Sequence[int], many: int, meter: Meter, length: int, first: int = 0) -> list[Hang | None]:
    """How each of some onsets, in order and in parts of a count, hangs, from one on."""
    bar = meter.counts * many
    known: dict[tuple[int, int], tuple[Fraction, int] | None] = {}
    found: list[Hang | None] = []
    again = [o + length * many for o in onsets[:1]]
    for at, following in zip(onsets[first:], [*onsets[first + 1 :], *again], strict=True):
        inside = at % bar
        key = inside, following - at
        if key not in known:
            place = Fraction(inside, many)
            over = _heaviest(meter, place, Fraction(inside + following - at, many))
            known[key] = None if over is None else (over, meter.weight(over) - meter.weight(place))
        hang = known[key]
        begun = at - inside
        found.append(hang and Hang(Fraction(at, many), Fraction(begun, many) + hang[0], hang[1]))
    return found


def _heaviest(meter: Meter, place: Fraction, following: Fraction) -> Fraction | None:
    """The heaviest pulse strictly between a sound and the next that is heavier than the sound; None if none is."""
    # Whatever is heavier than a place lies on the pulse of a level above its own: try those from the bar down.
    for at in meter.next_pulses(place):
        if at < following and meter.weight(at) > meter.weight(place):
            return at
    return None


def part_hangs(part: Part) -> list[Hang]:
    """The hangs of what is heard in the steps' own lines, danced over and over; none where a place has no pulse."""
    own = _struck(part)
    if not own or part.counts <= 0:
        return []
    return list(_part_hangs(Ticks(own, part.place_ticks.in_a_count), part.settings.counting.meter, part.counts))


class _Hung(NamedTuple):
    """How the onsets of the part last asked for hang: what is written at its end changes few."""

    onsets: tuple[int, ...]
    many: int
    meter: Meter
    hangs: list[Hang | None]


_hung: _Hung | None = None
"""The last; replaced whole, since jobs ask too."""


@lru_cache(maxsize=64)
def _part_hangs(places: Ticks, meter: Meter, length: int) -> tuple[Hang, ...]:
    """Remembered: the strip and the findings ask for the same."""
    global _hung
    onsets, many, known = tuple(sorted(set(places.at))), places.in_a_count, _hung
    kept: list[Hang | None] = []
    if known is not None and (known.many, known.meter) == (many, meter):
        # Over what an onset hangs is seen by the next one.
        kept = known.hangs[: max(0, begins_alike(known.onsets, onsets) - 1)]
    try:
        hangs = [*kept, *_from(onsets, many, meter, length, len(kept))]
    except ValueError:
        return ()
    _hung = _Hung(onsets, many, meter, hangs)
    return tuple(hang for hang in hangs if hang is not None)


def by_phrase(part: Part) -> list[int]:
    """A part's syncopation phrase by phrase, a pick-up with the first; sums to the part's."""
    phrase = part.settings.counting.phrase
    phrases = max(1, int(part.last_count // phrase) + 1) if part.sounds else 0
    scores = [0] * phrases
    for hang in part_hangs(part):
        scores[min(phrases - 1, max(0, int(hang.place // phrase)))] += hang.strength
    return scores


def off_beat(part: Part) -> int:
    """How many moments of a part are sounded off the beat, on no whole count."""
    many = part.place_ticks.in_a_count
    return len({at for at in _struck(part) if at % many})


def _struck(part: Part) -> tuple[int, ...]:
    """The ticks of what is heard in the steps' own lines."""
    at, order = part.place_ticks.at, part.order
    if not order.quiet and not order.layered:
        return at
    own = bytearray(b"\1") * len(at)
    for index in (*order.quiet, *order.layered):
        own[index] = 0
    return tuple(compress(at, own))


def findings(part: Part) -> list[Finding]:
    """One finding: how many sounds lie off the beat, and how many of them hang over a silent stronger one."""
    if not part.sounds:
        return []
    hanging, phrases = part_hangs(part), by_phrase(part)
    counting = part.settings.counting
    values: dict[str, Value] = {
        "off": off_beat(part),
        "many": len(hanging),
        "score": sum(h.strength for h in hanging),
        "by_phrase": ", ".join(map(str, phrases)) if len(phrases) > 1 else "",
        "first": counting.name(hanging[0].place) if hanging else "",
        "over": counting.name(hanging[0].over) if hanging else "",
    }
    sound = next((i for i, s in enumerate(part.sounds) if hanging and s.place == hanging[0].place), None)
    code = "syncopated" if hanging else "not_syncopated"
    return [Finding(code, "ok", part.name, hanging[0].place if hanging else None, sound, values)]
