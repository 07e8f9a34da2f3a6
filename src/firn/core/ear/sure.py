"""How sure a verdict is: of a sound by how far it lies from where it would be another, of a take by all of it."""

import math
from collections.abc import Sequence
from statistics import fmean

import numpy as np
from msgspec import Struct

from firn.core.ear.first import FirstMend
from firn.core.ear.judged import Added, Judged
from firn.core.ear.onsets import APART_S, LIKELY_FAINT, Onsets
from firn.core.ear.told import SURE

ERROR_MS = 4.0
"""How exactly the distance of a sound from its time is known."""

MASKED_S = 0.035
"""A sound so near another may be there and not be heard."""


def sure_heard(ms: float, on_ms: float, onset: float) -> float:
    """How sure it is that a sound is on, or is not, and that it is a sound at all."""
    side = 0.5 * (1 + math.erf(abs(abs(ms) - on_ms) / (ERROR_MS * math.sqrt(2))))
    return side * onset


HARD_TO_TELL = 0.92
"""Less sure sounds, in the mean, are hard to tell from the room."""

STANDS_OUT_DB = (-8.0, -4.5, 1.0, 3.0, 5.0, 8.0, 15.0)
"""By how much a sound that is as loud as its like would stand out of all there is when it is due, and..."""

NOT_DANCED = (0.1, 0.25, 0.4, 0.6, 0.72, 0.93, 0.95)
"""... how often it was not danced where nothing at all begins: counted on 400 takes of recorded hits, loud and soft,
in halls, through a phone and under talk."""

PLAIN, PLAINLY_NOT = (0.8, 0.88, 0.93, 0.98), (0.5, 0.6, 0.92, 0.97)
"""How often at most, by how surely the sounds of a take are sounds, in the mean."""

FAINTLY_DB, NOT_THERE, NEAR_S = (3.0, 5.0), (0.13, 0.42), 0.1
"""The same where something faint begins so near."""

FAINT, DANCED = (LIKELY_FAINT, 0.06, 0.15, 0.4), (0.9, 0.93, 0.97, 0.99)
"""How surely what begins just when a sound is due is a foot, at the least, and how often it was that sound."""

ADDED, ADDED_PLAIN = (0.95, 0.8), (0.95, 0.99)
"""How surely a sound too many must be one to be said to be, by how surely a take's sounds are sounds, in the mean."""


def plainness(onsets: Onsets) -> float:
    """How surely the sounds of a take are sounds, in the mean."""
    return float(np.mean(onsets.surely)) if len(onsets) else 1.0


def sure_missing(expected_s: float, like_db: float, onsets: Onsets) -> float:
    """How sure it is that a sound was not danced that is not heard; `like_db`: how loud its like are."""
    stands_out_db = like_db - (-np.inf if onsets.loud is None else onsets.loud.about(expected_s))
    sure = float(np.interp(stands_out_db, STANDS_OUT_DB, NOT_DANCED))
    sure = min(sure, float(np.interp(plainness(onsets), PLAIN, PLAINLY_NOT)))
    if _away(expected_s, onsets) < MASKED_S:
        sure = min(sure, 0.5)
    if onsets.faint is not None and _away(expected_s, onsets.faint) < NEAR_S:
        sure = min(sure, float(np.interp(stands_out_db, FAINTLY_DB, NOT_THERE)))
    return sure


def _away(at_s: float, onsets: Onsets) -> float:
    return float(np.min(np.abs(onsets.times_s - at_s))) if len(onsets) else np.inf


class Due(Struct, frozen=True):
    """What begins faintly just when a sound is due: when, its loudness, and how sure it is that it is that sound."""

    at_s: float
    level_db: float
    sure: float


def faintly(expected_s: float, on_ms: float, onsets: Onsets) -> Due | None:
    """The likeliest of what begins faintly when a sound is due that is not heard plainly; None where nothing does, or
    only what is of a sound that is heard."""
    faint = onsets.faint
    if faint is None or not len(faint):
        return None
    near = np.flatnonzero((np.abs(faint.times_s - expected_s) * 1000 <= on_ms) & (faint.surely >= FAINT[0]))
    near = np.array([n for n in near if _away(float(faint.times_s[n]), onsets) > APART_S], dtype=int)
    if not len(near):
        return None
    one = near[np.argmax(faint.surely[near])]
    sure = float(np.interp(faint.surely[one], FAINT, DANCED))
    return Due(float(faint.times_s[one]), float(faint.levels_db[one]), sure)


def unsure_extra(index: int, onsets: Onsets) -> bool:
    """Whether a sound too many may be none: a voice, a drum, the room."""
    return bool(onsets.surely[index] < np.interp(plainness(onsets), ADDED_PLAIN, ADDED))


def sure_mend(mend: FirstMend, judged: Sequence[Judged], added: Sequence[Added], match: float) -> float:
    """How sure it is that what is said first is so."""
    if mend.code == "clean":
        doubted = any(a.doubted for a in added)
        heard = [j.sure for j in judged if j.heard != "missing"]
        # What was not heard was danced after all; one that is too soft for the room is so in every pass.
        missing: dict[tuple[int, ...], list[float]] = {}
        for one in judged:
            if one.heard == "missing" and not one.target.optional:
                missing.setdefault(one.target.sounds, []).append(one.sure)
        danced = math.prod(1 - fmean(own) for own in missing.values())
        # What sounds when it is due is hardly ever none of hers, sure as it is by itself or not.
        return match * (1 - (1 - float(np.mean(heard))) / 2) * danced * (0.9 if doubted else 1.0)
    if mend.target is None:
        return match
    one = judged[mend.target]
    times = int(mend.values.get("times", "1"))
    own = [j.sure for j in judged if j.target.sounds == one.target.sounds and j.heard == one.heard]
    sure = one.sure if mend.code != "added" and mend.values.get("what") != "added" else 0.8
    # What is heard in every pass is surer than any one of them; what is not heard, may be too soft in every one, and
    # what is no plain sound in any, a voice that counts in each.
    again = own[:times] if len(own) > 1 and one.heard != "missing" else []
    if again:
        missed = math.prod(1 - s for s in again) if max(again) >= SURE else 1 - fmean(again)
    else:
        missed = 1 - sure
    return match * (1 - max(missed, 0.01))
