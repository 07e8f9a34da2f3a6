"""How thick a part is: sounds a second, and the shortest gaps, over both feet and on one."""

from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction
from itertools import pairwise

from firn.core.meter.tempo import seconds
from firn.core.piece.piece import Part, Sound
from firn.core.reading.finding import Finding


@dataclass(frozen=True, slots=True)
class Gap:
    """The time from one sound to the next: their indexes in the part, and how long in counts."""

    first: int
    second: int
    counts: Fraction

    def ms(self, tempo: float) -> float:
        """The gap in milliseconds at a tempo in counts a minute."""
        return seconds(self.counts, tempo) * 1000


def moments(sounds: Sequence[Sound], foot: str = "") -> list[int]:
    """Indexes of the heard sounds, of one foot if it is named; of those that fall together the first."""
    found: list[int] = []
    for index, sound in enumerate(sounds):
        if not sound.heard or (foot and sound.foot not in (foot, "both")):
            continue
        if not found or sounds[found[-1]].position != sound.position:
            found.append(index)
    return found


def shortest_gap(part: Part, foot: str = "") -> Gap | None:
    """The shortest gap between a part's sounds, or those of one foot, the first of equals; None for fewer than 2.

    In positions, so that the feel counts; a last sound and the first of a repeat are no gap.
    """
    sounds = part.sounds
    gaps = [Gap(a, b, sounds[b].position - sounds[a].position) for a, b in pairwise(moments(sounds, foot))]
    return min(gaps, key=lambda g: g.counts, default=None)


def most_in_a_count(part: Part) -> tuple[int, Fraction]:
    """The most sounds from one whole count up to the next, and that count, the first of equals; (0, 0) for none."""
    heard = [part.sounds[i] for i in moments(part.sounds)]
    by_count: dict[Fraction, int] = {}
    for sound in heard:
        count = Fraction(sound.place // 1)
        by_count[count] = by_count.get(count, 0) + 1
    count = min(by_count, key=lambda c: (-by_count[c], c), default=Fraction(0))
    return by_count.get(count, 0), count


def findings(part: Part) -> list[Finding]:
    """Sounds a second and shortest gaps at the piece's tempo; steps that are not danced at that tempo."""
    gap = shortest_gap(part)
    if gap is None or part.counts <= 0:
        return _bounds(part)
    tempo = part.settings.tempo
    counting = part.settings.counting
    many, count = most_in_a_count(part)
    feet = [(g, foot) for foot in ("left", "right") if (g := shortest_gap(part, foot)) is not None]
    values = {
        "tempo": f"{tempo:g}",
        "rate": f"{len(moments(part.sounds)) / seconds(Fraction(part.counts), tempo):.1f}",
        "most": f"{many * tempo / 60:.1f}",
        "count": str(counting.number(count)),
        "ms": f"{gap.ms(tempo):.0f}",
        "from": counting.name(part.sounds[gap.first].place),
        "to": counting.name(part.sounds[gap.second].place),
    }
    if feet:
        own, foot = min(feet, key=lambda f: (f[0].counts, f[0].first))
        values |= {"foot": foot, "foot_ms": f"{own.ms(tempo):.0f}"}
        values |= {"foot_from": counting.name(part.sounds[own.first].place)}
        values |= {"foot_to": counting.name(part.sounds[own.second].place)}
    code = "thick" if feet else "thick_no_foot"
    return [*_bounds(part), Finding(code, "ok", part.name, sound=gap.first, values=values)]


def _bounds(part: Part) -> list[Finding]:
    """The first step that is not danced as slow, or as fast, as the piece is."""
    tempo = part.settings.tempo
    found = []
    slow = next((u for u in part.uses if 0 < tempo < u.card.floor), None)
    fast = next((u for u in part.uses if 0 < u.card.ceiling < tempo), None)
    for code, use in (("too_slow", slow), ("too_fast", fast)):
        if use is not None:
            limit = use.card.floor if code == "too_slow" else use.card.ceiling
            values = {"word": use.card.name, "tempo": f"{tempo:g}", "limit": f"{limit:g}"}
            sound = next((i for i, s in enumerate(part.sounds) if part.uses[s.use] is use), None)
            found.append(Finding(code, "look", part.name, use.places[0], sound, values))
    return found
