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
from firn.core.reading.finding import Finding

SAME_FOOT_MS, ANY_MS, AIR_MS = 200.0, 100.0, 300.0


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


def limits(part: Part) -> list[Limit]:
    """The limits of a part: the same foot in another word, any two sounds, and the longest time in the air."""
    return [found for found in (_same_foot(part), _any(part), _air(part)) if found is not None]


def _same_foot(part: Part) -> Limit | None:
    """The shortest gap from one word's sound of a foot to the next word's of the same: one movement is no gap."""
    best: Limit | None = None
    last: dict[str, int] = {}
    for index, sound in enumerate(part.sounds):
        if not sound.heard:
            continue
        for foot in ("left", "right"):
            if sound.foot in (foot, "both"):
                before = last.get(foot)
                last[foot] = index
                if before is None or part.sounds[before].use == sound.use:
                    continue
                gap = sound.position - part.sounds[before].position
                if gap > 0 and (best is None or gap < best.counts):
                    best = Limit("same_foot", before, index, gap, SAME_FOOT_MS)
    return best


def _any(part: Part) -> Limit | None:
    gap = heard_moments(part).shortest()
    return Limit("any", gap.first, gap.second, gap.counts, ANY_MS) if gap else None


def _air(part: Part) -> Limit | None:
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
            best = Limit("air", index, landing, gap, AIR_MS, longest=True)
    return best


def findings(part: Part) -> list[Finding]:
    """Limits that the piece's tempo is past, each where it is met, and the tempos of the others."""
    tempo, counting = part.settings.tempo, part.settings.counting
    found, within = [], []
    for limit in limits(part):
        first, second = part.sounds[limit.first], part.sounds[limit.second]
        values = {
            "ms": f"{limit.ms(tempo):.0f}", "bound": f"{limit.bound_ms:.0f}", "limit": f"{limit.tempo:.0f}",
            "from": counting.name(first.place), "to": counting.name(second.place), "foot": second.foot,
            "tempo": f"{tempo:g}",
        }  # fmt: skip
        if limit.kind != "any" and limit.exceeded(tempo):
            found.append(Finding(f"{limit.kind}_limit", "look", part.name, second.place, limit.second, values))
        else:
            within.append(limit)
    if within:
        values = {limit.kind: f"{limit.tempo:.0f}" for limit in within}
        found.append(Finding("limits", "ok", part.name, values=values))
    return found


def room_after(part: Part, index: int, tempo: float) -> tuple[float, bool] | None:
    """From one heard sound to the next in ms, and whether one more in the middle would still be heard by itself."""
    here = part.sounds[index]
    following = next((s for s in part.sounds[index + 1 :] if s.heard and s.position > here.position), None)
    if not here.heard or following is None:
        return None
    ms = seconds(following.position - here.position, tempo) * 1000
    return ms, ms / 2 >= ANY_MS
