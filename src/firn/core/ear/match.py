"""Which take is this: the part that was asked for, another, the same at another tempo, or nothing that is known."""

import math
from collections.abc import Iterable, Sequence
from fractions import Fraction
from itertools import pairwise
from statistics import median
from typing import Literal

import numpy.typing as npt
from msgspec import Struct
from msgspec.structs import replace

from firn.core.ear.passes import Candidate, Passes, candidate, heard_in, passes_in
from firn.core.ear.targets import Target, targets_of
from firn.core.piece.piece import Part
from firn.core.piece.sound import Sound
from firn.core.task import UNWATCHED, Task

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

FILLED = 0.15
"""So much more half the tempo must explain, where the part's own explains enough: of 200 takes that were danced half
as fast none fitted at its own so well."""

ALIKE = 0.02
"""What explains so much less fits as well."""

LONG_S, SOME_S = 150.0, 90.0
"""A longer take is laid before others by so much of its beginning."""

UNRIVALLED = 0.985
"""What explains so much can be nothing else, but for what sounds alike."""

UNDOUBTED = 0.93
"""A part that explains so much of a take has kept its holds."""

OTHERWISE, OFF_TEMPO, FAR_OFF, DOUBTED = 0.95, 0.93, 0.15, 0.7
"""What fits only without a hold or in another feel, and of which less is explained, may be another part; so may what
is so far from its tempo, as a logarithm, and of which less is explained: no surer than this."""


class Match(Struct, frozen=True):
    """What a take is.

    `what`: this (the part asked for), other (another of those it was laid before), tempo (this, `ratio` times as
    fast), nothing (of all that was tried). `part`: the name of what it is, "" for nothing; `also`: others that fit as
    well. `sure`: 0 to 1. `passes`: how what it is lies in the take, for nothing how this does. `hold`: the hold of
    this that was left out in every pass, by its index; None for none. `feel`: the feel in which it was danced, where
    that is not the part's own; "" for its own.
    """

    what: What
    part: str
    ratio: Fraction
    sure: float
    also: tuple[str, ...]
    passes: Passes
    hold: int | None = None
    feel: str = ""

    def danced_at(self, tempo: float) -> float:
        """At how many counts a minute it was danced, of the tempo at which it was meant."""
        scales = [p.scale for p in self.passes.found]
        return tempo / median(scales) if scales else tempo


def candidate_of(part: Part, tempo: float, *, name: str = "", hold: Sound | None = None) -> Candidate | None:
    """A part at a tempo in counts a minute; without a hold, where one is given. None where fewer than two moments are
    to be heard, or where they are in no order without the hold."""
    targets = targets_of(part.sounds, tempo, counts=part.counts)
    length = part.counts * 60 / tempo
    if hold is not None:
        targets = without(part, targets, hold, tempo)
        length -= float(hold.length) * 60 / tempo
    inside = all(a.seconds <= b.seconds for a, b in pairwise(targets)) and length > 0
    if len(targets) < 2 or not inside:
        return None
    first = min(s.position for s in part.sounds if s.heard) - part.first_count
    return candidate(name or part.name, targets, length, 60 / tempo, float(first) * 60 / tempo)


def without(part: Part, targets: Sequence[Target], hold: Sound, tempo: float) -> list[Target]:
    """Targets as they fall where a hold is left out in every pass."""
    lost = float(hold.length) * 60 / tempo
    moved = []
    for target in targets:
        later = part.sounds[target.sounds[0]].place > hold.place
        moved.append(replace(target, seconds=target.seconds - lost * (target.time + later)))
    return moved


def match(
    onsets_s: npt.ArrayLike,
    this: Candidate,
    others: Sequence[Candidate] = (),
    *,
    faint_s: npt.ArrayLike = (),
    held: Iterable[tuple[int, Candidate]] = (),
    felt: Iterable[tuple[str, Candidate]] = (),
    task: Task = UNWATCHED,
) -> Match:
    """What a take is, of a part and of others that it might be.

    Parameters
    ----------
    onsets_s : array_like, shape (n,)
        Onset times in seconds, finite, ascending, from 0 on; two or more.
    this : Candidate
        The part that was asked for.
    others : sequence of Candidate
    faint_s : array_like, shape (m,)
        Likewise, when something begins that is less likely a sound than not.
    held : iterable of (int, Candidate)
        The part without one of its holds, and which that is: a fault, but still this part. Asked for where it does
        not fit with all of them.
    felt : iterable of (str, Candidate)
        The part in another feel, and which: likewise.

    Returns
    -------
    Match
    """
    heard = heard_in(onsets_s, faint_s)
    tries = 2 + len(others) + len(RATIOS)
    done = 0

    def found(one: Candidate, slowest: float = SLOWEST, fastest: float = FASTEST) -> Passes:
        nonlocal done
        task.step(min(1.0, done / tries))
        done += 1
        return passes_in(heard, one, slowest, fastest)

    own, hold, feel = found(this), None, ""
    if own.share < UNDOUBTED or own.runs > 1:
        for index, shorter in held:
            one = found(shorter)
            if one.share > own.share + (CLEARLY if one.runs >= own.runs else -ALIKE):
                own, hold = one, index
    if own.share < UNDOUBTED:
        for name, other in felt:
            one = found(other)
            if one.share > own.share + CLEARLY:
                own, hold, feel = one, None, name
    mine = own
    begins = float(heard.times[0])
    if own.share >= LEAST and heard.times[-1] - begins > LONG_S:
        # What it is in a long take shows in some of it.
        heard = heard.until(begins + SOME_S)
        mine = passes_in(heard, own.of, SLOWEST, FASTEST)
    unrivalled = mine.share >= UNRIVALLED
    rest = [(found(other), Fraction(1)) for other in others if not unrivalled or other.sounds_like(this)]
    if not unrivalled:
        rest += [(found(this, slowest, fastest), ratio) for ratio, slowest, fastest in RATIOS]
    # What somebody counts aloud on each beat would be the rest of a part that is danced half as fast.
    told = [
        (p, r) for p, r in rest
        if r != Fraction(1, 2) or own.share < LEAST or p.share >= mine.share + FILLED
    ]  # fmt: skip
    best, ratio = max(told, key=lambda row: row[0].share, default=(mine, Fraction(1)))

    def alike(share: float, but: Passes) -> tuple[str, ...]:
        return tuple(p.of.name for p, r in rest if p is not but and r == 1 and p.share >= share - ALIKE)

    if own.share >= LEAST and mine.share >= best.share - CLEARLY:
        also = alike(mine.share, mine)
        rival = max((p.share for p, r in rest if p.of.name not in also), default=0.0)
        sure = min(explained(own.share), _ahead(mine.share - rival + CLEARLY))
        otherwise = hold is not None or bool(feel)
        if (otherwise and own.share < OTHERWISE) or (own.share < OFF_TEMPO and _off_tempo(own)):
            sure = min(sure, DOUBTED)
        return Match("this", this.name, Fraction(1), sure / (1 + len(also)), also, own, hold, feel)
    if best.share < LEAST:
        sure = 1 - explained(max(own.share, best.share))
        return Match("nothing", "", Fraction(1), sure, (), own)
    what: What = "other" if ratio == 1 else "tempo"
    also = alike(best.share, best)
    sure = min(explained(best.share), _ahead(best.share - own.share))
    return Match(what, best.of.name, ratio, sure / (1 + len(also)), also, best)


def _off_tempo(found: Passes) -> bool:
    """Whether passes are far from the tempo that was meant: at one or another nearly all fits a little."""
    return abs(math.log(median(p.scale for p in found.found))) > FAR_OFF


def explained(share: float) -> float:
    """How sure it is that a take is what explains such a share of it: half at the least share."""
    return 1 / (1 + math.exp(-(share - LEAST) / 0.025))


def _ahead(by: float) -> float:
    """How sure it is that what explains so much more is what it is, and not the other."""
    return 1 / (1 + math.exp(-by / 0.02))
