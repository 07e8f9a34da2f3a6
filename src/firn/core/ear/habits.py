"""Several passes in one take compared: what goes wrong most times is a habit, once in four is a slip."""

from collections import defaultdict
from collections.abc import Sequence
from statistics import fmean
from typing import Literal

from msgspec import Struct

from firn.core.ear.judged import Added, Judged

What = Literal["missing", "added", "early", "late"]

ORDER: tuple[What, ...] = ("missing", "added", "late", "early")


class TakeFault(Struct, frozen=True):
    """What went wrong with a sound: in how many of the passes, by how many ms on average, and where first.

    `sounds` are indexes of the part; an added sound is one after them. `first` indexes the judged targets.
    """

    what: What
    sounds: tuple[int, ...]
    times: int
    of: int
    ms: float
    first: int

    @property
    def habit(self) -> bool:
        """Whether it goes wrong at least every other time: one slip in three or more is none."""
        return 2 * self.times >= self.of


def faults(judged: Sequence[Judged], added: Sequence[Added]) -> list[TakeFault]:
    """All that went wrong, one fault for each sound and kind; those to mend first come first.

    Habits before slips; then what is not heard, what is added, what is off; then the most often, the farthest off.
    """
    of = max((j.target.time for j in judged), default=0) + 1
    at: dict[tuple[What, tuple[int, ...]], list[int]] = defaultdict(list)
    for index, one in enumerate(judged):
        if one.heard != "on" and not (one.heard == "missing" and one.target.optional):
            at[one.heard, one.target.sounds].append(index)
    for extra in (a for a in added if not a.doubted):
        index = max(0, extra.after)
        at["added", judged[index].target.sounds].append(index)
    found = []
    for (what, sounds), indexes in at.items():
        off = [abs(judged[i].ms or 0.0) for i in indexes]
        far = max(indexes, key=lambda i: abs(judged[i].ms or 0.0)) if what in ("early", "late") else indexes[0]
        times = len({judged[i].target.time for i in indexes})
        found.append(TakeFault(what, sounds, times, of, fmean(off), far))
    return sorted(found, key=_rank)


def _rank(fault: TakeFault) -> tuple[bool, int, int, float, int]:
    # Early and late are one kind of fault: the more often, then the farther off.
    kind = min(ORDER.index(fault.what), ORDER.index("late"))
    return not fault.habit, kind, -fault.times, -fault.ms if kind == ORDER.index("late") else 0.0, fault.first


def off_by_pass(judged: Sequence[Judged], added: Sequence[Added]) -> list[int]:
    """How many sounds were not on in each pass, added ones included, missing optional ones not."""
    passes = max((j.target.time for j in judged), default=0) + 1
    counts = [0] * passes
    for one in judged:
        counts[one.target.time] += one.heard != "on" and not (one.heard == "missing" and one.target.optional)
    for extra in (a for a in added if not a.doubted):
        counts[judged[max(0, extra.after)].target.time] += 1
    return counts
