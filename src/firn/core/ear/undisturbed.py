"""The verdict on a take that something disturbs: without Firn's own counts or beats, and without the hall."""

from collections.abc import Callable
from contextlib import suppress

import numpy as np
import numpy.typing as npt
from msgspec.structs import replace

from firn.core.ear.faint import faint
from firn.core.ear.hall import onsets_in_hall
from firn.core.ear.onsets import Onsets
from firn.core.ear.overdriven import TOLD, overdriven
from firn.core.ear.own import Without, counted_about, onsets_without_own
from firn.core.ear.routine import Routine
from firn.core.ear.sure import sure_mend
from firn.core.ear.verdict import NothingHeard, Verdict, WrongTake
from firn.core.task import UNWATCHED, Task

Sound = npt.NDArray[np.floating]

HIDDEN, NEAR_HIDDEN_S = 0.3, 0.02
"""So sure it is that a sound was not danced that is not heard where Firn's own beat fell, so near."""

UNDISTURBED = 0.9
"""A take of which so much is explained was not disturbed by what Firn itself said."""


def verdict_of(
    onsets: Onsets,
    sound: Sound,
    rate: int,
    judged: Callable[[Onsets, Task], Verdict],
    *,
    task: Task = UNWATCHED,
) -> Verdict:
    """The verdict on a take, as `judged` gives it on its onsets. Where something is wrong in it, and Firn's own
    counts or beats are in it, these are taken out, and what is left is judged."""
    found = _verdict_of(onsets, sound, rate, judged, task)
    return replace(found, cut_off=True) if overdriven(sound) else found


def _verdict_of(
    onsets: Onsets, sound: Sound, rate: int, judged: Callable[[Onsets, Task], Verdict], task: Task
) -> Verdict:
    first: Verdict | None = None
    fault: NothingHeard | None = None
    try:
        first = judged(onsets, task.within(0, 0.5))
        disturbed = first.match.passes.share < UNDISTURBED or any(not a.doubted for a in first.added)
        # A sound under a spoken count is not told from it, or is put where that begins.
        off = next((one.expected_s for one in first.judged if one.heard != "on"), None)
        disturbed = disturbed or (off is not None and counted_about(off, sound, rate))
        if first.match.what == "this" and not disturbed:
            return first
    except NothingHeard as nothing:
        fault = nothing
    left = onsets_without_own(sound, rate, onsets, task=task.within(0.5, 0.8))
    if left is not None:
        again = _of_what_is_left(left, judged, task.within(0.8, 0.9))
        if again is not None and (first is None or again.match.passes.share >= first.match.passes.share):
            return replace(again, counted=True)
    if first is None or first.match.passes.share < UNDISTURBED:
        dry = onsets_in_hall(sound, rate, onsets, task=task.within(0.9, 0.95))
        if dry is not None:
            with suppress(NothingHeard):
                again = judged(dry, task.within(0.95, 1))
                if first is None or again.match.passes.share > first.match.passes.share:
                    return again
    if first is None:
        assert fault is not None
        if isinstance(fault, WrongTake) and fault.match.what in ("other", "tempo"):
            raise fault
        # What is hardly heard fits nothing: that it is soft, or too loud, says more than that it does not fit.
        soft = faint(sound, rate, onsets)
        told = TOLD if overdriven(sound) else None if soft is None else soft.told
        raise fault if told is None else NothingHeard(told)
    return first


def _of_what_is_left(left: Without, judged: Callable[[Onsets, Task], Verdict], task: Task) -> Verdict | None:
    """The verdict on what is left of a take, of all that it may be the one that has least wrong; None where it is no
    take of the part."""
    found: list[Verdict] = []
    tried: set[bytes] = set()

    def hear(onsets: Onsets) -> None:
        key = onsets.times_s.tobytes()
        if key not in tried and all(map(_wrong, found)):
            tried.add(key)
            with suppress(NothingHeard):
                found.append(judged(onsets, task))

    for one in (left, left.danced):
        before = len(found)
        hear(one.onsets)
        for verdict in found[before:]:
            hear(one.but([added.heard_s for added in verdict.added]))
        hear(one.but())
    best = min(found, key=_wrong, default=None)
    return best if best is None else _with_hidden(best, left.hidden_s)


def _with_hidden(verdict: Verdict, hidden_s: npt.NDArray[np.float64]) -> Verdict:
    """A verdict that is not sure of what is not heard where a beat of Firn's own was taken out."""
    judged = tuple(
        replace(one, sure=min(one.sure, HIDDEN))
        if one.heard == "missing" and any(abs(one.expected_s - at) < NEAR_HIDDEN_S for at in hidden_s)
        else one
        for one in verdict.judged
    )
    if judged == verdict.judged:
        return verdict
    sure = sure_mend(verdict.mend, judged, verdict.added, verdict.match.sure)
    return replace(verdict, judged=judged, mend=replace(verdict.mend, sure=sure))


def _wrong(verdict: Verdict) -> int:
    """How many sounds are not on, or too many."""
    return sum(one.heard != "on" for one in verdict.judged) + len(verdict.added)


def routine_of(onsets: Onsets, sound: Sound, rate: int, judged: Callable[[Onsets], Routine]) -> Routine:
    """A take of a combo, as `judged` cuts it; where that fits badly, without Firn's own counts and beats."""
    first: Routine | None = None
    fault: NothingHeard | None = None
    try:
        first = judged(onsets)
        if first.share >= UNDISTURBED:
            return first
    except NothingHeard as wrong:
        fault = wrong
    left = onsets_without_own(sound, rate, onsets)
    for again in (None if left is None else left.onsets, onsets_in_hall(sound, rate, onsets)):
        if again is not None:
            with suppress(NothingHeard):
                routine = judged(again)
                first = routine if first is None or routine.share > first.share else first
    if first is None:
        assert fault is not None
        raise NothingHeard(TOLD) if overdriven(sound) else fault
    return first
