"""At which tempo a part's limits are met: the same foot again, any two sounds, time in the air; room for one more.

The bounds are common practice, no source, but where one is named: most feet strike 4 to 5 times a second; sounds
nearer than a tenth of a second are heard as one figure; an easy hop is in the air for 0.3 s, which is 11 cm
(g t^2 / 8).
"""

from fractions import Fraction

from msgspec import Struct

from firn.core.meter.tempo import seconds
from firn.core.piece.piece import Part
from firn.core.reading.density import heard_moments
from firn.core.reading.finding import Finding, Value
from firn.core.reading.style import Asked, Style
from firn.core.task import giving_way

PLAIN = Style()


class Limit(Struct, frozen=True):
    """A gap of a part that a tempo makes too short, or too long (`longest`): its sounds, counts and bound in ms."""

    kind: str
    first: int
    second: int
    counts: Fraction
    bound_ms: float
    longest: bool = False

    @property
    def tempo(self) -> float:
        """The tempo in counts a minute at which the gap is as long as its bound."""
        return float(self.counts) * 60_000 / self.bound_ms

    def ms(self, tempo: float) -> float:
        """The gap at a tempo."""
        return seconds(self.counts, tempo) * 1000

    def exceeded(self, tempo: float) -> bool:
        """Whether a tempo is past the limit."""
        return tempo < self.tempo if self.longest else tempo > self.tempo


def limits(part: Part, style: Style = PLAIN) -> list[Limit]:
    """The limits of a part: the same foot in another word, any two sounds, and the longest time in the air."""
    found = (_same_foot(part, style.same_foot_ms), closest(part, style.any_ms), _air(part, style.air_ms))
    return [limit for limit in found if limit is not None]


SWINGS = frozenset({"brush", "spank", "scuff"})
"""What a foot does on its way down: with what comes next it is one movement."""

REBOUNDS = frozenset({"spank", "heel", "toe", "pickup"})
"""What a foot that is down does without striking anew: it comes off the floor again, or drops."""


def _same_foot(part: Part, bound: float) -> Limit | None:
    """The shortest gap from one strike of a foot to its next, in one word or two: a rebound or a drop is none."""
    best: tuple[int, int, int] | None = None
    last: dict[str, tuple[int, int]] = {}
    positions = part.position_ticks
    for index, (tick, sound) in enumerate(giving_way(zip(positions.at, part.sounds, strict=True))):
        if not sound.foot or not sound.heard or sound.kind in REBOUNDS or sound.kind in SWINGS:
            continue
        for foot in ("left", "right") if sound.foot == "both" else (sound.foot,):
            before = last.get(foot)
            last[foot] = index, tick
            if before is None:
                continue
            gap = tick - before[1]
            if gap > 0 and (best is None or gap < best[0]):
                best = gap, before[0], index
    if best is None:
        return None
    return Limit("same_foot", best[1], best[2], Fraction(best[0], positions.in_a_count), bound)


def closest(part: Part, bound: float = PLAIN.any_ms) -> Limit | None:
    """The shortest gap between any two sounds; `bound`: the shortest in ms that is heard as two."""
    gap = heard_moments(part).shortest()
    return Limit("any", gap.first, gap.second, gap.counts, bound) if gap else None


def _air(part: Part, bound: float) -> Limit | None:
    """The longest time from a pickup to its landing."""
    best: Limit | None = None
    for index, sound in enumerate(part.sounds):
        if sound.kind != "pickup" or sound.weight != "air":
            continue
        landing = next((i for i in range(index + 1, len(part.sounds)) if part.sounds[i].weight != "air"), None)
        if landing is None:
            continue
        gap = part.sounds[landing].position - sound.position
        if gap > 0 and (best is None or gap > best.counts):
            best = Limit("air", index, landing, gap, bound, longest=True)
    return best


def findings(part: Part, asked: Asked) -> list[Finding]:
    """Limits that the piece's tempo is past, each where it is met, and the tempos of the others.

    How fast: as fast as it has been danced clean, where it has been; else as its cards say, where any does; else by
    the style's bounds. How slow: as the cards say, else by the longest time in the air.
    """
    tempo = part.settings.tempo
    found, within = by_cards(part, fast=not asked.clean)
    if asked.clean:
        slowest = min(best for _, best in asked.clean)
        values: dict[str, Value] = {
            "tempo": tempo,
            "clean": ", ".join(f"{side} {best:g}".strip() for side, best in asked.clean),
        }
        if tempo > slowest:
            slower = [side for side, best in asked.clean if best < tempo]
            values["on"] = f" on the {slower[0]}" if slower[0] and len(slower) < len(asked.clean) else ""
            found.append(Finding("own_limit", "look", part.name, values=values))
        within["own"] = values["clean"]
    for limit in limits(part, asked.style):
        kept = "floor" if limit.longest else "ceiling"
        if kept in within or (asked.clean and not limit.longest):
            continue
        if limit.kind != "any" and limit.exceeded(tempo):
            found.append(_past(part, limit))
        else:
            within[limit.kind] = round(limit.tempo)
            within[f"{limit.kind}_ms"] = limit.bound_ms
    # A card's bound that the tempo is past is told by itself.
    for told, bound in (("too_slow", "floor"), ("too_fast", "ceiling")):
        if any(f.code == told for f in found):
            within.pop(bound, None)
    if within:
        found.append(Finding("limits", "ok", part.name, values=within))
    return found


def by_cards(part: Part, *, fast: bool) -> tuple[list[Finding], dict[str, Value]]:
    """The first step that is not danced as slow, or as fast, as the piece is; and the bounds that its cards give."""
    tempo = part.settings.tempo
    found: list[Finding] = []
    within: dict[str, Value] = {}
    floors = [u for u in part.uses if u.card.floor > 0]
    ceilings = [u for u in part.uses if u.card.ceiling > 0] if fast else []
    if floors:
        within["floor"] = max(u.card.floor for u in floors)
    if ceilings:
        within["ceiling"] = min(u.card.ceiling for u in ceilings)
    slow = next((u for u in floors if 0 < tempo < u.card.floor), None)
    quick = next((u for u in ceilings if u.card.ceiling < tempo), None)
    for code, use in (("too_slow", slow), ("too_fast", quick)):
        if use is not None:
            limit = use.card.floor if code == "too_slow" else use.card.ceiling
            values: dict[str, Value] = {"word": use.card.name, "tempo": tempo, "limit": limit}
            sound = part.first_of(use)
            found.append(Finding(code, "look", part.name, use.places[0], sound, values))
    return found, within


def _past(part: Part, limit: Limit) -> Finding:
    tempo, counting = part.settings.tempo, part.settings.counting
    first, second = part.sounds[limit.first], part.sounds[limit.second]
    values: dict[str, Value] = {
        "ms": limit.ms(tempo), "bound": limit.bound_ms, "limit": limit.tempo,
        "from": counting.name(first.place), "to": counting.name(second.place), "foot": second.foot,
        "tempo": tempo,
    }  # fmt: skip
    return Finding(f"{limit.kind}_limit", "look", part.name, second.place, limit.second, values)


def room_after(part: Part, index: int, tempo: float, least_ms: float = PLAIN.any_ms) -> tuple[float, bool] | None:
    """From one heard sound to the next in ms, and whether one more in the middle would still be heard by itself."""
    here = part.sounds[index]
    following = next((s for s in part.sounds[index + 1 :] if s.heard and s.position > here.position), None)
    if not here.heard or following is None:
        return None
    ms = seconds(following.position - here.position, tempo) * 1000
    return ms, ms / 2 >= least_ms
