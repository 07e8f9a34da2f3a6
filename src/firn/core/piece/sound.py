"""A sound of a part, and what is known of many of them in their order."""

from bisect import bisect_left
from collections.abc import Sequence
from fractions import Fraction
from typing import Literal

from msgspec import Struct
from msgspec.structs import replace

from firn.core.meter.ticks import Ticks, in_ticks
from firn.core.steps.sides import ACROSS
from firn.core.task import give_way

Reason = Literal["", "written", "lead", "card", "free", "carries", "choice"]
"""Why a sound is on its foot: the teacher wrote it, it is the lead, the card ties it to the word's other sounds,
it is the foot that is free, the one that carries, or either could and the lighter (or the lead) was taken."""


class Sound(Struct, frozen=True):
    """One sound or silent move of a part.

    `place` is what was said, in counts from the part's first 1; `position` where it sounds under the feel;
    `length` in counts for holds and long sounds, else 0. `foot`: left, right, both, or "" for none; `weight`
    after it: left, right, both, air, or seat. `level`: 0 as usual, above leaned on, below soft. `use` indexes the
    part's words, `beat` the sound within its word; `reason` why it is on its foot; `turn` how far the body turns
    with it, right above 0. `hand`: left, right or both, where a hand does it; either where it is not said which.
    `layer`: the layer of hands or syllables that it is written in, "" for the steps' own lines; `voiced`: said, not
    played, `syllable` as what, where that is its own. `others`: kinds that may stand in its place.
    """

    place: Fraction
    position: Fraction
    length: Fraction
    say: str
    kind: str
    strikes: str
    foot: str
    weight: str
    silent: bool
    level: int
    optional: bool
    as_one: bool
    use: int
    beat: int
    changes_weight: bool
    reason: Reason = ""
    turn: Fraction = Fraction(0)
    hand: str = ""
    layer: str = ""
    voiced: bool = False
    others: tuple[str, ...] = ()
    syllable: str = ""

    @property
    def heard(self) -> bool:
        """Whether a foot or a hand strikes; what is only voiced does not."""
        return not self.silent and not self.voiced

    @property
    def by_voice(self) -> bool:
        """Whether the voice gives it: a word said in the hands' place, or a syllable."""
        return self.voiced or bool(self.syllable)


def other_side(sound: Sound) -> Sound:
    """A sound on the other foot, turning the other way; a hand that leads on either side stays."""
    hand = sound.hand if sound.layer in ("leading hand", "other hand") else ACROSS.get(sound.hand, sound.hand)
    foot, weight = ACROSS.get(sound.foot, sound.foot), ACROSS.get(sound.weight, sound.weight)
    return replace(sound, foot=foot, weight=weight, hand=hand, turn=-sound.turn)


class Order(Struct, frozen=True):
    """Sounds in their order of time, by their indexes.

    `places` in ticks; `firsts`: of each word its first sound and its own index, in order; `long`: what lasts longer
    than a count; `quiet`: what does not strike; `layered`: what is of no steps' own line.
    """

    places: Ticks
    firsts: tuple[tuple[int, int], ...]
    long: tuple[int, ...]
    quiet: tuple[int, ...]
    layered: tuple[int, ...]


def in_order(sounds: Sequence[Sound], before: Order | None = None, same: int = 0) -> Order:
    """What is known of sounds in their order; `before`: of others, of which the first `same` are these very ones, and
    all of their words."""
    rest = [*enumerate(sounds[same:], same)]
    places = in_ticks([s.place for _, s in rest], before.places if before else None, same)
    give_way()
    before = before or Order(places, (), (), (), ())
    firsts = before.firsts[: bisect_left(before.firsts, (same,))]
    new: dict[int, int] = {}
    long, quiet, layered = ([*_until(same, kept)] for kept in (before.long, before.quiet, before.layered))
    for index, sound in rest:
        new.setdefault(sound.use, index)
        if sound.length.numerator > sound.length.denominator:
            long.append(index)
        if sound.silent or sound.voiced:
            quiet.append(index)
        if sound.layer:
            layered.append(index)
    return Order(places, (*firsts, *((i, use) for use, i in new.items())), tuple(long), tuple(quiet), tuple(layered))


def _until(index: int, of: tuple[int, ...]) -> tuple[int, ...]:
    return of[: bisect_left(of, index)]
