"""What sounds sound like: which are alike, learnt from the take itself and the part that it is of."""

from collections.abc import Sequence
from itertools import pairwise
from typing import NamedTuple

import numpy as np
import numpy.typing as npt
from msgspec import Struct

from firn.core.ear.activation import HOP_S, levels
from firn.core.ear.judged import Judged
from firn.core.piece.piece import Part
from firn.core.steps.kinds import KINDS
from firn.core.task import give_way

FloatArray = npt.NDArray[np.float64]

WINDOWS_S = ((0.0, 0.008), (0.008, 0.02), (0.02, 0.045), (0.045, 0.08))
"""What of a sound is described: its strike, and how it dies away."""

BEFORE_S = 0.012
"""What sounded just before is taken out of it."""

LEAST_BELS = -4.0
"""Of what is softer still nothing more is said."""

LEAST_OF_A_KIND = 3
"""A kind is known from so many sounds elsewhere in the take."""

AIRY = {"brush", "spank", "scuff", "pickup"}
SHOWN: dict[str, str] = {"ball": "ball", "heel": "heel", "tip": "tip", "whole": "flat", "sole": "slide"}
"""What a strike can show of which part of the foot it was; beside these what is airy, and hands."""

SURELY = 6.0
"""How much likelier, as a log ratio over all passes, two sounds must be exchanged than not."""

SHARE = 0.6
"""In so many of the passes."""


class Exchanged(Struct, frozen=True):
    """Two neighbouring sounds (indexes of the part) that sound as if they had changed places, in how many of the
    passes, and how sure that is, 0 to 1."""

    sounds: tuple[int, int]
    times: int
    of: int
    sure: float


def class_of(kind: str) -> str:
    """What a kind of sound shows itself as."""
    if kind in AIRY:
        return "airy"
    if KINDS[kind].limb == "hands":
        return "hand"
    return SHOWN.get(KINDS[kind].part, "ball")


class Colours(NamedTuple):
    """Colours of n sounds: `seen`, levels of bands in windows after each, re the loudest, in bels, and how loud each
    is; `plain`, which of these stand out of what sounded before; `most`, what each is at the most, where it does not.
    All of shape (n, features)."""

    seen: FloatArray
    plain: npt.NDArray[np.bool_]
    most: FloatArray

    def away(self, means: FloatArray) -> FloatArray:
        """How far each is from some means, shape (k, features), as (n, k, features). What is covered by something
        else that sounds is away from a mean only by what it would stand out (bounded missing features: Cooke et al.
        2001, Speech Communication 34, in spirit)."""
        covered = np.minimum(self.most[:, None, :] - means[None], 0.0)
        return np.where(self.plain[:, None, :], self.seen[:, None, :] - means[None], covered)


def described(sound: npt.ArrayLike, rate_hz: int, times_s: Sequence[float]) -> Colours:
    """What sounds sound like that begin at some times of a recording, shape (m,)."""
    power = 10.0 ** levels(np.ascontiguousarray(sound, dtype=np.float32), rate_hz).astype(np.float64)
    seen, plain, most = [], [], []
    for time in times_s:
        give_way()
        at = round(time / HOP_S)
        ground = power[max(0, at - round(BEFORE_S / HOP_S)) : max(1, at - 1)].mean(axis=0)
        means = []
        for first, last in WINDOWS_S:
            piece = power[at + round(first / HOP_S) : at + max(1, round(last / HOP_S))]
            means.append(piece.mean(axis=0) if len(piece) else ground)
        whole = np.concatenate(means)
        before = np.tile(ground, len(WINDOWS_S))
        own = np.maximum(whole - before, 1e-7)
        loud = own.max()
        seen.append(np.append(np.maximum(np.log10(own / loud), LEAST_BELS), 0.5 * np.log10(loud)))
        plain.append(np.append(whole - before > before, True))
        most.append(np.append(np.maximum(np.log10(np.maximum(whole, before) / loud), LEAST_BELS), 0.0))
    many = len(times_s)
    return Colours(*(np.array(rows).reshape(many, -1) for rows in (seen, plain, most)))


def exchanged(part: Part, judged: Sequence[Judged], sound: npt.ArrayLike, rate_hz: int) -> list[Exchanged]:
    """Pairs of neighbouring sounds of different kinds that sound as if they had changed places, the surest first.

    What each kind sounds like is learnt from all others of the take: where a kind is danced nowhere else, nothing is
    said of it.
    """
    heard = [j for j in judged if j.heard_s is not None and len(j.target.sounds) == 1]
    if len(heard) < 2 * LEAST_OF_A_KIND:
        return []
    seen = described(sound, rate_hz, [float(j.heard_s or 0) for j in heard]).seen
    which = np.array([j.target.sounds[0] for j in heard])
    classes = np.array([class_of(part.sounds[i].kind) for i in which])
    seen = _reduced(seen, classes)
    found = []
    order = sorted({int(i) for i in which}, key=lambda i: part.sounds[i].position)
    for first, then in pairwise(order):
        one = _pair(seen, which, classes, heard, first, then)
        if one is not None:
            found.append(one)
    found.sort(key=lambda e: -e.sure)
    return _apart(found)


def _reduced(seen: FloatArray, classes: npt.NDArray[np.str_]) -> FloatArray:
    """The directions in which sounds differ most, each of spread 1 within its kind."""
    within = np.concatenate([seen[classes == c] - seen[classes == c].mean(axis=0) for c in np.unique(classes)])
    spread = np.sqrt((within**2).mean(axis=0)) + 0.05
    scaled = (seen - seen.mean(axis=0)) / spread
    _, strength, axes = np.linalg.svd(scaled, full_matrices=False)
    many = int(min(8, np.sum(strength > 0.05 * strength[0]), max(2, len(seen) // 6)))
    return np.asarray(scaled @ axes[:many].T, dtype=np.float64)


def _pair(
    seen: FloatArray,
    which: npt.NDArray[np.int_],
    classes: npt.NDArray[np.str_],
    heard: Sequence[Judged],
    first: int,
    then: int,
) -> Exchanged | None:
    kinds = [str(classes[which == i][0]) for i in (first, then)]
    if kinds[0] == kinds[1]:
        return None
    others = (which != first) & (which != then)
    known = [others & (classes == kind) for kind in kinds]
    if min(k.sum() for k in known) < LEAST_OF_A_KIND:
        return None
    means = [np.median(seen[k], axis=0) for k in known]
    left = np.concatenate([seen[k] - m for k, m in zip(known, means, strict=True)])
    # Shrunk towards one spread for all: few sounds say little of each direction (Ledoit & Wolf 2004, in spirit).
    own = (left**2).mean(axis=0)
    spread = 0.5 * own + 0.5 * own.mean() + 1e-6
    ratios = []
    for time in sorted({j.target.time for j in heard}):
        at = [
            next((k for k, j in enumerate(heard) if j.target.time == time and which[k] == i), None)
            for i in (first, then)
        ]
        if at[0] is None or at[1] is None:
            continue
        a, b = seen[at[0]], seen[at[1]]
        fits = [[-(((x - m) ** 2) / (2 * spread)).sum() for m in means] for x in (a, b)]
        # A sound like neither says nothing, however far it is from one.
        ratios.append(float(np.clip(fits[0][1] + fits[1][0] - fits[0][0] - fits[1][1], -8, 8)))
    if not ratios:
        return None
    times = sum(r > 0 for r in ratios)
    total = float(np.sum(ratios))
    if times < SHARE * len(ratios) or total < SURELY:
        return None
    return Exchanged((first, then), times, len(ratios), float(1 / (1 + np.exp(-(total - SURELY) / 2 - 1))))


def _apart(found: Sequence[Exchanged]) -> list[Exchanged]:
    """Of pairs that share a sound the surer."""
    kept: list[Exchanged] = []
    for one in found:
        if not any(set(one.sounds) & set(other.sounds) for other in kept):
            kept.append(one)
    return kept
