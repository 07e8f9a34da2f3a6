"""A part under every measure of rhythm: as a whole, phrase by phrase, and sound by sound."""

from fractions import Fraction
from typing import Literal

from msgspec import Struct

from firn.core.footing.state import Touch
from firn.core.piece.piece import Part
from firn.core.piece.sound import Sound
from firn.core.reading.measures import MEASURES, Measure, Value, pattern
from firn.core.reading.syncopation import part_hangs

Over = Literal["what is heard", "every sound", "the weight"]
OVERS: tuple[Over, ...] = ("what is heard", "every sound", "the weight")
"""Which sounds are measured: those that are heard, silent moves too, or only changes of weight."""

_TOUCHES: dict[Touch, str] = {
    "o": "as it stood", "-": "off the floor", "t": "on its tip", "b": "on its ball", "h": "on its heel", "f": "flat",
    "F": "flat", "p": "picked up", "q": "picked up",
}  # fmt: skip


class Measured(Struct, frozen=True):
    """A measure with its value for the part, and for each phrase by itself; None where it does not apply."""

    measure: Measure
    value: Value
    phrases: tuple[Value, ...]


def measured_sounds(part: Part, over: Over) -> list[Sound]:
    """The sounds of the steps' own lines that are measured."""
    own = [s for s in part.sounds if not s.layer and s.kind != "hold"]
    if over == "what is heard":
        return [s for s in own if s.heard]
    return own if over == "every sound" else [s for s in own if s.changes_weight]


def profile(part: Part, over: Over = "what is heard") -> list[Measured]:
    """Every measure of a part, danced over and over; none for a part without counts."""
    if part.counts <= 0:
        return []
    meter, phrase = part.settings.counting.meter, part.settings.counting.phrase
    sounds = measured_sounds(part, over)
    try:
        whole = pattern([s.place for s in sounds], meter, part.counts)
        phrases = max(1, int(part.last_count // phrase) + 1)
        inside: list[list[Fraction]] = [[] for _ in range(phrases)]
        for sound in sounds:
            number = min(phrases - 1, _phrase(sound.place, phrase))
            inside[number].append(sound.place - number * phrase)
        cut = [pattern(places, meter, phrase) for places in inside]
    except ValueError:
        # A place that no pulse of the meter holds.
        return [Measured(m, None, ()) for m in MEASURES]
    # In a part of one phrase, its phrase is the part.
    by_phrase = cut if phrases > 1 else []
    return [Measured(m, m.of(whole), tuple(m.of(p) for p in by_phrase)) for m in MEASURES]


def _phrase(place: Fraction, phrase: int) -> int:
    """The phrase of a place; a pick-up belongs to the first."""
    return max(0, int(place // phrase))


class Moment(Struct, frozen=True):
    """What there is to know of one sound of a part.

    `beat`: on the beat, on a division, off the beat; `weight`: the meter's own, 0 where a bar begins; `over`, `by`:
    the silent place that it hangs over, and how much heavier that is; `against`: leaned on though lighter than a
    neighbour that is not. `feet`: how the left and the right foot touch the floor after it; `carries`: the weight
    then.
    """

    sound: Sound
    beat: Literal["on the beat", "on a division", "off the beat"]
    weight: int | None
    over: Fraction | None
    by: int
    against: bool
    feet: tuple[str, str]
    carries: str


def moment(part: Part, index: int) -> Moment:
    """One sound of a part, by its index."""
    sound = part.sounds[index]
    meter = part.settings.counting.meter
    hang = next((h for h in part_hangs(part) if h.place == sound.place), None) if sound.heard else None
    state = part.footing.states[index]
    weight = _weight(part, sound.place)
    half = Fraction(1, 3 if meter.compound else 2)
    whole = sound.place.denominator == 1
    near = [s for s in part.sounds[max(0, index - 1) : index + 2] if s is not sound and s.heard]
    lighter = (w for s in near if s.level <= 0 and (w := _weight(part, s.place)) is not None)
    return Moment(
        sound,
        "on the beat" if whole else "on a division" if (sound.place / half).denominator == 1 else "off the beat",
        weight,
        hang.over if hang else None,
        hang.strength if hang else 0,
        sound.level > 0 and weight is not None and any(w > weight for w in lighter),
        (_TOUCHES[state.left], _TOUCHES[state.right]),
        sound.weight,
    )


def _weight(part: Part, place: Fraction) -> int | None:
    """The meter's own weight of a place; None where it has no pulse there."""
    try:
        return part.settings.counting.meter.weight(place)
    except ValueError:
        return None
