"""Whether a part is as its teacher claims."""

from collections.abc import Iterator
from fractions import Fraction

from firn.core.piece.piece import Part
from firn.core.piece.sound import Sound
from firn.core.reading.finding import Finding
from firn.core.script.claims import Claim
from firn.core.steps.kinds import kind_said


def findings(part: Part) -> Iterator[Finding]:
    """One for each claim that does not hold, with the first thing that speaks against it."""
    if not part.sounds:
        return
    for claim in part.layers.claims:
        against = _AGAINST[claim.kind](part, claim)
        if against is not None:
            what, sound = against
            index = None if sound is None else part.sounds.index(sound)
            place = None if sound is None else sound.place
            yield Finding("claimed", "look", part.name, place, index, {"said": claim.said, "but": what})


_Against = tuple[str, Sound | None] | None
"""What speaks against a claim, and at which sound; None for nothing."""


def _falls(part: Part, claim: Claim) -> _Against:
    """What falls where it should not, else the first count that it should fall on and does not."""
    counting = part.settings.counting
    wanted = claim.counts

    def asked(number: int) -> bool:
        return number % 2 == (wanted == "odd") if wanted in ("odd", "even") else str(number) in wanted.split()

    there = {s.place for s in part.sounds if s.kind == claim.what}
    for sound in part.sounds:
        on = sound.place.denominator == 1 and asked(counting.number(sound.place))
        if (sound.kind == claim.what) != on and (on or sound.kind == claim.what):
            said = "there is one" if sound.kind == claim.what else f"there is a {kind_said(sound.kind)}"
            return f"{said} on {counting.name(sound.place)}", sound
    for count in range(int(part.first_count), int(part.last_count) + 1):
        if asked(counting.number(Fraction(count))) and count not in there:
            return f"there is none on {counting.number(Fraction(count))}", None
    return None


def _changes(part: Part, claim: Claim) -> _Against:
    return None if part.footing.again in ("other", "either") else ("it stays on its side", None)


def _stays(part: Part, claim: Claim) -> _Against:
    return None if part.footing.again in ("same", "either") else ("it changes sides", None)


def _ends(part: Part, claim: Claim) -> _Against:
    last = next((s for s in reversed(part.sounds) if s.foot in ("right", "left")), None)
    return None if last is None or last.foot == claim.what else (f"it ends on the {last.foot}", last)


def _sounds(part: Part, claim: Claim) -> _Against:
    many = sum(s.heard for s in part.sounds if not s.layer)
    return None if many == claim.many else (f"it has {many}", None)


def _front(part: Part, claim: Claim) -> _Against:
    turned = sum((s.turn for s in part.sounds), Fraction(0))
    if turned % 1 == 0:
        return None if claim.many == 1 else ("it is the front after every time", None)
    times = (turned % 1).denominator
    return None if times == claim.many else (f"it is the front after {times}", None)


_AGAINST = {
    "falls": _falls, "changes": _changes, "stays": _stays, "ends": _ends, "sounds": _sounds, "front": _front,
}  # fmt: skip
