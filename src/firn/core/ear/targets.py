"""What a take should hold: the heard sounds of some passes, in seconds from the first of them."""

from collections.abc import Sequence
from fractions import Fraction

from msgspec import Struct

from firn.core.meter.tempo import seconds
from firn.core.piece.piece import Sound

TOGETHER_S = 0.012
"""Sounds closer than this are heard as one."""


class Target(Struct, frozen=True):
    """One moment that should be heard: the sounds on it, which pass it is in, and when, in seconds."""

    sounds: tuple[int, ...]
    time: int
    seconds: float
    optional: bool


def targets_of(sounds: Sequence[Sound], tempo: float, *, counts: int, passes: int = 1) -> list[Target]:
    """The heard moments of `passes` passes of `counts` counts each, ascending; the first lies at 0 s."""
    heard = [(i, s) for i, s in enumerate(sounds) if s.heard]
    if not heard:
        return []
    origin = heard[0][1].position
    moments: list[Target] = []
    for number in range(passes):
        for index, sound in heard:
            at = seconds(sound.position + Fraction(number * counts) - origin, tempo)
            if moments and at - moments[-1].seconds < TOGETHER_S:
                last = moments[-1]
                merged = (*last.sounds, index)
                moments[-1] = Target(merged, last.time, last.seconds, last.optional and sound.optional)
            else:
                moments.append(Target((index,), number, at, sound.optional))
    return sorted(moments, key=lambda t: t.seconds)
