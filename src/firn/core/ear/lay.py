"""Laying a part's passes over a take: those that follow on each other along one line, each such run along its own."""

from collections.abc import Sequence

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from firn.core.ear.align import Alignment, FloatArray, near
from firn.core.ear.passes import LEAD_S, Passes, runs_in
from firn.core.ear.targets import Target

_AROUND_S, _AROUND_COUNTS = 0.5, 0.4
"""How far before its first sound and after its last a run is listened to: what comes nearer is added to it."""


BEGUN_COUNTS = 4.5
"""How many counts earlier a run may have begun than it was found."""


class Run(Struct, frozen=True):
    """Passes without a break: their targets, in seconds from the first, and how these lie in the take.

    `first`: how many passes came before. Indexes of onsets are those of the whole take.
    """

    targets: list[Target]
    laid: Alignment
    first: int = 0


def lay(passes: Passes, targets: Sequence[Target], onsets_s: FloatArray, *, wide: float = BEGUN_COUNTS) -> list[Run]:
    """The runs of a part in a take.

    Parameters
    ----------
    passes : Passes
        As they were found.
    targets : sequence of Target
        Of as many passes as there are, one after another at the part's own tempo.
    onsets_s : ndarray, shape (n,)
    wide : float
        How many counts around it are looked through.

    Returns
    -------
    list of Run
        Those of which two sounds or more can be laid.
    """
    of = passes.of
    runs: list[Run] = []
    # A count-in is none of its sounds.
    done, before_s = 0, passes.found[0].start_s - LEAD_S if passes.led_by else 0.0
    for found in runs_in(passes.found, len(of.times_s)):
        wanted = [t for t in targets if t.time < len(found)][: sum(p.many for p in found)]
        expected = np.concatenate([p.start_s + p.scale * np.array(of.times_s[: p.many]) for p in found])
        beat_s = of.beat_s * found[0].scale
        # It may have begun some counts earlier, or ended later: then these are its own.
        far = wide * beat_s
        first, last = np.searchsorted(onsets_s, (max(before_s, expected[0] - far), expected[-1] + far)).tolist()
        laid = near([t.seconds for t in wanted], onsets_s[first:last], expected)
        first_pass, done = done, done + len(found)
        if laid is None:
            continue
        around = min(_AROUND_S, _AROUND_COUNTS * beat_s)
        begins, ends = float(laid.expected_s[0]) - around, float(laid.expected_s[-1]) + around
        moved = replace(
            laid,
            pairs=[(i, j + first) for i, j in laid.pairs],
            extra=[j + first for j in laid.extra if begins <= onsets_s[j + first] <= ends],
        )
        before_s = ends
        runs.append(Run([replace(t, time=t.time + first_pass) for t in wanted], moved, first_pass))
    return runs


def as_meant(runs: Sequence[Run], targets: Sequence[Target]) -> list[Run]:
    """Runs that were laid in another feel, with the times at which their sounds are meant: those that lie on the same
    time in both say where the others should be. `targets`: of the passes as they are meant, from the first on."""
    meant = []
    for run in runs:
        own = [t for t in targets if t.time <= run.targets[-1].time - run.first][: len(run.targets)]
        if [t.sounds for t in own] != [t.sounds for t in run.targets]:
            # Sounds that fall together in one feel may not in the other: it is judged as it was danced.
            meant.append(run)
            continue
        due, danced = np.array([t.seconds for t in own]), np.array([t.seconds for t in run.targets])
        fixed = np.flatnonzero(np.abs(due - danced) < _SAME_S)
        if len(fixed) < 2:
            meant.append(run)
            continue
        expected = np.interp(due, due[fixed], run.laid.expected_s[fixed])
        before, after = due < due[fixed[0]], due > due[fixed[-1]]
        for outside, edge in ((before, fixed[0]), (after, fixed[-1])):
            expected[outside] = run.laid.expected_s[edge] + run.laid.scale * (due[outside] - due[edge])
        moved = [replace(t, time=r.time) for t, r in zip(own, run.targets, strict=True)]
        meant.append(replace(run, targets=moved, laid=replace(run.laid, expected_s=expected, others=[])))
    return meant


_SAME_S = 1e-6


def as_one(runs: Sequence[Run], onsets_s: FloatArray) -> tuple[list[Target], Alignment]:
    """All runs as one: their targets, those of later runs as much later as they were danced, and how they lie in the
    take. One run or more."""
    if len(runs) == 1:
        return list(runs[0].targets), runs[0].laid
    begun = float(runs[0].laid.expected_s[0])
    targets = [
        replace(t, seconds=t.seconds + (float(run.laid.expected_s[0]) - begun) / run.laid.scale)
        for run in runs
        for t in run.targets
    ]
    base = np.cumsum([0, *(len(run.targets) for run in runs)]).tolist()
    pairs = [(i + at, j) for run, at in zip(runs, base, strict=False) for i, j in run.laid.pairs]
    expected = np.concatenate([run.laid.expected_s for run in runs])
    weights = [len(run.laid.pairs) for run in runs]
    away = np.array([onsets_s[j] - expected[i] for i, j in pairs])
    return targets, Alignment(
        scale=float(np.average([run.laid.scale for run in runs], weights=weights)),
        offset_s=runs[0].laid.offset_s,
        expected_s=expected,
        pairs=pairs,
        missing=[i + at for run, at in zip(runs, base, strict=False) for i in run.laid.missing],
        extra=[j for run in runs for j in run.laid.extra],
        spread_s=float(np.std(away)) if len(away) > 2 else 0.0,
        others=[],
    )
