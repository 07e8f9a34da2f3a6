"""Whether a take that is nearly a part is one of another: what differs in every pass is no slip.

Random slips fall elsewhere in each pass. Two sounds or more that are missing or too many in all of them are how
something else goes, or how the student has learnt it: she is asked.
"""

from collections import Counter
from collections.abc import Sequence
from statistics import fmean

from firn.core.ear.first import sound_said
from firn.core.ear.habits import TakeFault, faults
from firn.core.ear.judged import Added, Judged
from firn.core.piece.piece import Part

LEAST, LEAST_SHARE = 2, 0.1
"""So many sounds differ at the least, of each pass so large a share."""

FEW_PASSES, OF_FEW = 2, 3
"""Where there are so few passes slips fall together more often: so many differ at the least."""

PLAINLY = 0.75
"""So sure it must be of each, in the mean, that what is missing was not danced."""

LISTED = 3
"""More places than this are told by how many they are."""


def differing(judged: Sequence[Judged], added: Sequence[Added], besides: int = 0) -> list[TakeFault]:
    """What is surely missing or too many in nearly every pass, where it is so much that this may be another part;
    else nothing. Of one pass nobody can tell.

    `besides`: in how many other ways all of it differs, as by a hold that is left out.
    """
    danced = Counter(one.target.sounds for one in judged)
    every = [f for f in faults(judged, added) if f.what in ("missing", "added")]
    worth = {f: _always(f.times, danced[f.sounds]) for f in every if _plain(f, judged)}
    found = [f for f, by in worth.items() if by]
    passes = max((one.target.time for one in judged), default=0) + 1
    # Several sounds too many at one place count as several.
    extra = Counter(judged[max(0, one.after)].target.sounds for one in added if not one.doubted)
    many = {f: max(by, extra[f.sounds] / passes) if by and f.what == "added" else by for f, by in worth.items()}
    least = OF_FEW if passes <= FEW_PASSES else LEAST
    differs = sum(many.values()) + besides
    return found if passes > 1 and differs >= max(least, LEAST_SHARE * len(danced)) else []


def _always(times: int, of: int) -> float:
    """1 for what is so every time, but for one in four; half for what is so in two times of three; else 0."""
    if of < 2:
        return 0.0
    return 1.0 if times >= of - of // 4 else 0.5 if 3 * times >= 2 * of else 0.0


def _plain(fault: TakeFault, judged: Sequence[Judged]) -> bool:
    """Whether what is missing is surely so: in a hall soft sounds are not heard, and were danced."""
    if fault.what == "added":
        return True
    return (
        fmean(one.sure for one in judged if one.target.sounds == fault.sounds and one.heard == "missing") >= PLAINLY
    )


def told_differing(part: Part, differs: Sequence[TakeFault], besides: Sequence[str] = ()) -> str:
    """What differs, in one sentence; `besides`: how else."""
    said = [*besides]
    missing = sorted(f.sounds for f in differs if f.what == "missing")
    added = sorted(f.sounds for f in differs if f.what == "added")
    if missing:
        few = f"what is on {_places(part, missing)} is missing"
        said.append(few if len(missing) <= LISTED else f"{len(missing)} of its sounds are missing")
    if added:
        where = f"after {_places(part, added)}" if len(added) <= LISTED else f"at {len(added)} places"
        what = "a sound it does not have comes" if len(added) == 1 else "sounds it does not have come"
        said.append(f"{what} {where}")
    return f"This may not be {part.name}: in every pass {', and '.join(said)}."


def _places(part: Part, sounds: Sequence[tuple[int, ...]]) -> str:
    """Their counts, listed."""
    counts = [sound_said(part, one[0])["count"] for one in sounds]
    return " and ".join(filter(None, (", ".join(counts[:-1]), counts[-1])))
