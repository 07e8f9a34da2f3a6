"""What struck: told by what each part of the foot sounds like in these shoes on this floor, learnt from examples.

A linear discriminant over the colours of sounds (core/ear/timbre.py), its covariance pooled over the kinds and drawn
towards its diagonal, since examples are few (Fisher 1936; Friedman 1989).
"""

from collections.abc import Mapping, Sequence
from typing import Literal

import numpy as np
import numpy.typing as npt
from msgspec import Struct

from firn.core.ear.activation import HIGHEST_HZ
from firn.core.ear.judged import Judged
from firn.core.ear.onsets import Onsets
from firn.core.ear.timbre import Exchanged, class_of, described
from firn.core.piece.piece import Part

FloatArray = npt.NDArray[np.float64]

Shown = Literal["heel", "ball", "tip", "flat", "airy", "slide", "hand"]
SHOWN: tuple[Shown, ...] = ("heel", "ball", "tip", "flat", "airy", "slide", "hand")
"""What a strike can show: which part of the foot it was, that it brushed (airy) or slid, or that it was a hand."""

LEAST, MOST = 3, 40
"""Examples of a kind that are needed, and that are looked at."""

APART_S = 0.35
"""Of sounds closer together than examples are danced, the first is the example."""

TIMES_AS_LONG = 1.4
"""A rest between kinds is so much longer than the longest between their examples."""

TO_DIAGONAL, TO_EVEN, FLOOR = 0.3, 0.3, 0.05
"""How far the covariance is drawn to its diagonal, and that to an even spread; the least spread, in bels."""

SOFTER = 6.0
"""Distances count for so much less than those of a normal spread would: examples are few."""

OFTEN = 0.6
"""A sound that is otherwise in so many of the passes is said to be so."""

THESE = 0.6
"""Where fewer of a take's sounds are as they are written, it is of other shoes, or on another floor."""

MAY_BE = 0.02
"""What is less likely it is not."""

SURE = 0.7
"""What is less sure is not told."""

FULL_HZ = 2 * round(HIGHEST_HZ)
"""From this rate on a recording has all bands."""

STRANGE = 35.0
"""What is so many times farther from a kind than its own examples are as a rule is none of the kinds."""


class Shoes(Struct, frozen=True):
    """What some kinds sound like.

    `kinds`: k names; `means`: k rows of f numbers; `weighs`: f rows of f, the inverse of the covariance; `usual`:
    how far examples lie from their kind as a rule; `rate_hz` of the recording that they were learnt from;
    `of`: what it is called.
    """

    kinds: tuple[str, ...]
    means: FloatArray
    weighs: FloatArray
    usual: float
    rate_hz: int
    of: str = ""

    def hears(self, rate_hz: int) -> bool:
        """Whether a recording of another rate has the same bands: else its sounds have other colours."""
        return min(self.rate_hz, FULL_HZ) == min(rate_hz, FULL_HZ)


class Otherwise(Struct, frozen=True):
    """A sound (index of the part) that sounds as another kind than it is written, in how many of the passes, and how
    sure that is, 0 to 1."""

    sound: int
    kind: str
    times: int
    of: int
    sure: float


class Told(Struct, frozen=True):
    """What struck, "" where that is not sure enough to be told; how sure, 0 to 1. `others`: what else it may have
    been, likeliest first, with what was not sure enough."""

    kind: str
    sure: float
    others: tuple[str, ...] = ()


def examples_in(onsets: Onsets, kinds: int) -> list[list[float]] | None:
    """The times of examples of so many kinds that are danced one kind after the other, in seconds: parted at the
    longest rests. None where these are not plainly longer than the others, or a kind has too few."""
    times: list[float] = []
    for time in onsets.times_s:
        if not times or time - times[-1] >= APART_S:
            times.append(float(time))
    if len(times) < kinds * LEAST:
        return None
    gaps = np.diff(times)
    rests = np.sort(np.argsort(gaps)[::-1][: kinds - 1])
    others = np.delete(gaps, rests)
    if len(rests) and gaps[rests].min() < TIMES_AS_LONG * float(others.max()):
        return None
    groups = [list(map(float, group)) for group in np.split(np.array(times), rests + 1)]
    return groups if all(len(group) >= LEAST for group in groups) else None


def learnt(times_s: Mapping[str, Sequence[float]], sound: npt.ArrayLike, rate_hz: int) -> Shoes:
    """What kinds sound like, by the times of examples of each in a recording, shape (n,).

    Kinds with fewer than three examples are left out. Raises ValueError where fewer than two are left.
    """
    known = {kind: list(times)[:MOST] for kind, times in times_s.items() if len(times) >= LEAST}
    if len(known) < 2:
        raise ValueError("two kinds with three examples each are needed")
    seen = described(sound, rate_hz, [time for times in known.values() for time in times]).seen
    which = np.repeat(np.arange(len(known)), [len(times) for times in known.values()])
    means = np.array([seen[which == k].mean(axis=0) for k in range(len(known))])
    left = seen - means[which]
    spread = left.T @ left / max(1, len(seen) - len(known))
    own = np.diag(spread)
    drawn = (1 - TO_DIAGONAL) * spread + TO_DIAGONAL * np.diag(own)
    weighs = np.linalg.inv(drawn + np.eye(len(own)) * (FLOOR**2 + TO_EVEN * own.mean()))
    usual = float(np.median(np.einsum("nf,fg,ng->n", left, weighs, left)))
    return Shoes(tuple(known), means, weighs, max(usual, 1e-6), rate_hz)


def told(shoes: Shoes, sound: npt.ArrayLike, rate_hz: int, times_s: npt.ArrayLike) -> list[Told]:
    """What struck at each of some times of a recording, shape (n,); nothing is told of one that has not the bands of
    what was learnt from."""
    times = np.asarray(times_s, dtype=np.float64)
    if not len(times) or not shoes.hears(rate_hz):
        return [Told("", 0.0)] * len(times)
    away = described(sound, rate_hz, times.tolist()).away(shoes.means)
    distances = np.einsum("nkf,fg,nkg->nk", away, shoes.weighs, away)
    shares = np.exp(-(distances - distances.min(axis=1, keepdims=True)) / (2 * SOFTER))
    shares /= shares.sum(axis=1, keepdims=True)
    found = []
    for share, distance in zip(shares, distances, strict=True):
        best = int(share.argmax())
        sure = float(share[best])
        strange = distance[best] > STRANGE * shoes.usual
        if strange:
            found.append(Told("", 0.0))
            continue
        known = sure >= SURE
        ranked = [int(k) for k in np.argsort(-share) if share[k] >= MAY_BE]
        others = tuple(shoes.kinds[k] for k in ranked if k != best or not known)
        found.append(Told(shoes.kinds[best] if known else "", sure, others))
    return found


def learnt_from(part: Part, judged: Sequence[Judged], sound: npt.ArrayLike, rate_hz: int) -> Shoes:
    """What kinds sound like, by a take of a part that is danced as it is written: all its sounds that were on.

    Raises ValueError where fewer than two kinds have three examples.
    """
    times: dict[str, list[float]] = {}
    for one in _alone(judged):
        if one.heard == "on" and one.heard_s is not None:
            times.setdefault(class_of(part.sounds[one.target.sounds[0]].kind), []).append(one.heard_s)
    return learnt(times, sound, rate_hz)


def otherwise(
    part: Part, judged: Sequence[Judged], sound: npt.ArrayLike, rate_hz: int, shoes: Shoes
) -> list[Otherwise]:
    """The sounds of a part that sound as another kind than they are written, the surest first; none where the take
    is plainly of other shoes. What kinds were not learnt is not judged, nor what is heard once alone."""
    heard = [one for one in _alone(judged) if one.heard_s is not None]
    meant = [class_of(part.sounds[one.target.sounds[0]].kind) for one in heard]
    known = [n for n, kind in enumerate(meant) if kind in shoes.kinds]
    found = told(shoes, sound, rate_hz, [float(heard[n].heard_s or 0) for n in known])
    said = [(heard[n].target.sounds[0], meant[n], one) for n, one in zip(known, found, strict=True)]
    sure = [kind == one.kind for _, kind, one in said if one.kind]
    if not sure or sum(sure) < THESE * len(sure):
        return []
    made = []
    for index in sorted({index for index, _, _ in said}):
        own = [(kind, one) for at, kind, one in said if at == index]
        others = [one for kind, one in own if one.kind and one.kind != kind]
        kinds = [one.kind for one in others]
        most = max(dict.fromkeys(kinds), key=kinds.count, default="")
        times = kinds.count(most)
        if len(own) > 1 and times > 1 and times >= OFTEN * len(own):
            mean = float(np.mean([one.sure for one in others if one.kind == most]))
            made.append(Otherwise(index, most, times, len(own), mean * times / len(own)))
    return sorted(made, key=lambda one: -one.sure)


def _alone(judged: Sequence[Judged]) -> list[Judged]:
    """What sounds at a time of its own."""
    return [one for one in judged if len(one.target.sounds) == 1]


def contradicted(part: Part, one: Exchanged, found: Sequence[Otherwise], shoes: Shoes) -> bool:
    """Whether two sounds that seem to have changed places are, in shoes that are known, as they are written."""
    kinds = [class_of(part.sounds[index].kind) for index in one.sounds]
    said = {other.sound: other.kind for other in found}
    known = all(kind in shoes.kinds for kind in kinds)
    return known and not any(said.get(at) == kind for at, kind in zip(one.sounds, reversed(kinds), strict=True))
