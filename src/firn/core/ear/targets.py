"""What a take should hold: the heard sounds of some passes, in seconds from the first of them."""

from collections.abc import Sequence
from fractions import Fraction

from msgspec import Struct
from msgspec.structs import replace

from firn.core.meter.count_in import CountIn
from firn.core.meter.counting import Counting
from firn.core.piece.sound import Sound
from firn.core.task import give_way
from firn.core.timeline.mixing import Mixing
from firn.core.timeline.timeline import Section

TOGETHER_S = 0.012
"""Sounds closer than this are heard as one."""


class Target(Struct, frozen=True):
    """One moment that should be heard: the sounds on it, which pass it is in, and when, in seconds."""

    sounds: tuple[int, ...]
    time: int
    seconds: float
    optional: bool


def targets_in(section: Section) -> list[Target]:
    """The heard moments of a section, ascending, each with the number of its pass; the first lies at 0 s.

    Indexes are those of a pass's sounds: each pass of a section has as many.
    """
    many = max(1, len(section.sounds) // len(section.sides))
    heard = sorted((s.position, i) for i, s in enumerate(section.sounds) if s.heard)
    if not heard:
        return []
    origin = section.seconds_at(heard[0][0])
    moments: list[Target] = []
    for position, index in heard:
        give_way()
        at = float(section.seconds_at(position) - origin)
        sound = section.sounds[index]
        number, inside = divmod(index, many)
        if moments and at - moments[-1].seconds < TOGETHER_S:
            last = moments[-1]
            merged = (*last.sounds, inside)
            moments[-1] = Target(merged, last.time, last.seconds, last.optional and sound.optional)
        else:
            moments.append(Target((inside,), number, at, sound.optional))
    return moments


def targets_of(sounds: Sequence[Sound], tempo: float, *, counts: int, passes: int = 1) -> list[Target]:
    """The heard moments of `passes` passes of `counts` counts each, ascending; the first lies at 0 s."""
    again = [
        replace(s, place=s.place + n * counts, position=s.position + n * counts) if n else s
        for n in range(passes)
        for s in sounds
    ]
    mixing = Mixing(tempo=tempo, count_in=CountIn("none"))
    end = Fraction(counts * passes)
    return targets_in(Section(again, Counting(), Fraction(0), end, mixing, sides=(False,) * passes))
