"""Which take is this: the part that was asked for, another, the same at another tempo, or nothing that is known."""

from collections.abc import Sequence
from fractions import Fraction
from typing import Literal

import numpy.typing as npt
from msgspec import Struct

from firn.core.ear.passes import Candidate, Passes, candidate, heard_in, passes_in
from firn.core.ear.targets import targets_of
from firn.core.piece.piece import Part

What = Literal["this", "other", "tempo", "nothing"]

SLOWEST, FASTEST = 0.78, 1.28
"""How much slower or faster than it was meant a take may be."""

RATIOS: tuple[tuple[Fraction, float, float], ...] = (
    (Fraction(2), 1.75, 2.25),
    (Fraction(1, 2), 0.44, 0.57),
    (Fraction(3, 2), 1.34, 1.68),
    (Fraction(2, 3), 0.59, 0.745),
)
"""How many times as fast a part may be danced by mistake, and from which tempo to which that is taken for it."""

LEAST = 0.82
"""The share of a take that what it is must explain."""

CLEARLY = 0.04
"""By how much more another must explain, so that it is not this."""

ALIKE = 0.02


class Match(Struct, frozen=True):
    """What a take is.

    `what`: this (the part asked for), other (another of those it was laid before), tempo (this, `ratio` times as
    fast), nothing (of all that was tried). `part`: the name of what it is, "" for nothing; `also`: others that fit as
    well. `sure`: 0 to 1. `passes`: how what it is lies in the take, for nothing how this does.
    """

    what: What
    part: str
    ratio: Fraction
    sure: float
    also: tuple[str, ...]
    passes: Passes


def candidate_of(part: Part, tempo: float, *, name: str = "") -> Candidate:
    """A part at a tempo in counts a minute."""
    targets = targets_of(part.sounds, tempo, counts=part.counts)
    return candidate(name or part.name, targets, part.counts * 60 / tempo, 60 / tempo)


def match(onsets_s: npt.ArrayLike, this: Candidate, others: Sequence[Candidate] = ()) -> Match:
    """What a take is, of a part and of others that it might be.

    Parameters
    ----------
    onsets_s : array_like, shape (n,)
        Onset times in seconds, finite, ascending, from 0 on; two or more.
    this : Candidate
        The part that was asked for; of two moments or more, as the others.
    others : sequence of Candidate

    Returns
    -------
    Match
    """
    heard = heard_in(onsets_s)
    own = passes_in(heard, this, SLOWEST, FASTEST)
    rest = [(passes_in(heard, other, SLOWEST, FASTEST), Fraction(1)) for other in others]
    rest += [(passes_in(heard, this, slowest, fastest), ratio) for ratio, slowest, fastest in RATIOS]
    best, ratio = max(rest, key=lambda row: row[0].share)

    def alike(share: float, but: Passes) -> tuple[str, ...]:
        return tuple(p.of.name for p, r in rest if p is not but and r == 1 and p.share >= share - ALIKE)

    if own.share >= LEAST and own.share >= best.share - CLEARLY:
        return Match("this", this.name, Fraction(1), _sure(own.share), alike(own.share, own), own)
    if best.share < LEAST:
        return Match("nothing", "", Fraction(1), 1 - _sure(max(own.share, best.share)), (), own)
    what: What = "other" if ratio == 1 else "tempo"
    return Match(what, best.of.name, ratio, _sure(best.share), alike(best.share, best), best)


def _sure(share: float) -> float:
    return share
