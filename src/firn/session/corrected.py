"""Sounds that were tapped or heard, put right one by one: left out, put in, begun earlier or later."""

from collections.abc import Sequence
from fractions import Fraction
from itertools import pairwise

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from firn.core.quantise.quantise import Quantised, on_line
from firn.core.quantise.words import Fit
from firn.errors import FirnError
from firn.session.tap_script import Tap
from firn.session.tap_words import LIKE, is_heard
from firn.session.tapping import LEAST_APART_S


class Sounds(Struct, frozen=True):
    """Sounds with how they are read, and the steps that were said of some of them."""

    taps: tuple[Tap, ...]
    read: Quantised
    given: tuple[Fit, ...] = ()


def left_out(sounds: Sounds, number: int) -> Sounds:
    """Without one of them; a step that was said of it has that sound no more. Raises FirnError where there are but
    two."""
    if len(sounds.taps) < 3:
        raise FirnError("Two sounds or more are needed.")
    taps = (*sounds.taps[:number], *sounds.taps[number + 1 :])
    given = (_lost(fit, number) for fit in sounds.given)
    return Sounds(taps, _read_without(sounds.read, number), tuple(fit for fit in given if fit.sounds))


def put_in(sounds: Sounds, at_s: float) -> Sounds:
    """With one more at a second. Raises FirnError where there is no room for it beside the others."""
    number = int(np.searchsorted([tap.at_s for tap in sounds.taps], at_s))
    new = Tap(at_s, heard=LIKE["step"] if is_heard(sounds.taps) else None)
    taps = (*sounds.taps[:number], new, *sounds.taps[number:])
    given = tuple(replace(fit, sounds=tuple(n + (n >= number) for n in fit.sounds)) for fit in sounds.given)
    return Sounds(taps, _read_with(taps, sounds.read, number), given)


def moved(sounds: Sounds, number: int, by_s: float) -> Sounds:
    """With one of them so many seconds later, or earlier for less than 0; the others stay as they are read. Raises
    FirnError where it would pass the sound beside it."""
    at = replace(sounds.taps[number], at_s=sounds.taps[number].at_s + by_s)
    taps = (*sounds.taps[:number], at, *sounds.taps[number + 1 :])
    return replace(sounds, taps=taps, read=_read_with(taps, _read_without(sounds.read, number), number))


def _read_without(read: Quantised, number: int) -> Quantised:
    """How sounds are read without one of them."""
    rest = [n for n in range(len(read.places)) if n != number]
    return replace(
        read,
        places=tuple(read.places[n] for n in rest),
        sure=tuple(read.sure[n] for n in rest),
        others=tuple(read.others[n] for n in rest),
    )


def _read_with(taps: Sequence[Tap], others: Quantised, number: int) -> Quantised:
    """How sounds are read of which all but one are read already. Raises FirnError where there is no room for it."""
    times = [tap.at_s for tap in taps]
    if any(b - a < LEAST_APART_S for a, b in pairwise(times[max(0, number - 1) : number + 2])):
        raise FirnError("There is no room beside the next sound: what follows so soon is one.")
    all_along = on_line(times, others.line, compound=others.compound, spread_s=others.spread_s)
    low = others.places[number - 1] if number else None
    high = others.places[number] if number < len(others.places) else None
    free: list[tuple[Fraction, float]] = [
        (place, sure)
        for place, sure in ((all_along.places[number], all_along.sure[number]), *all_along.others[number])
        if (low is None or place > low) and (high is None or place < high)
    ]
    if not free:
        raise FirnError("There is no place in the count between the sounds beside it.")
    place, sure = free[0]
    return replace(
        others,
        places=(*others.places[:number], place, *others.places[number:]),
        sure=(*others.sure[:number], sure, *others.sure[number:]),
        others=(*others.others[:number], tuple(free[1:]), *others.others[number:]),
    )


def _lost(fit: Fit, number: int) -> Fit:
    """A step without a sound."""
    kept = [(n - (n > number), beat) for n, beat in zip(fit.sounds, fit.beats, strict=True) if n != number]
    return Fit(fit.card, tuple(n for n, _ in kept), tuple(beat for _, beat in kept))
