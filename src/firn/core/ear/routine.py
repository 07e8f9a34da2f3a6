"""A take of a whole combo: cut into the passes that it is made of, each judged as what it is."""

from collections.abc import Sequence
from fractions import Fraction

import numpy as np
from msgspec import Struct

from firn.core.ear.lay import lay
from firn.core.ear.match import FASTEST, LEAST, SLOWEST, Match, candidate_of, explained
from firn.core.ear.onsets import Onsets
from firn.core.ear.passes import Candidate, Passes, PassFound, heard_in, routine_in, share_of
from firn.core.ear.targets import targets_of
from firn.core.ear.verdict import ON_MS, NothingHeard, Verdict, verdict_on
from firn.core.ear.words import mend_sentence
from firn.core.piece.piece import Part
from firn.core.piece.unfold import Pass

_AROUND_COUNTS = 0.4


class Danced(Struct, frozen=True):
    """One pass of a take: the part, the combo's own pass that it stands for (None for one it does not have), and
    where it lies in the verdict on all passes of its part."""

    part: Part
    found: PassFound
    wanted: Pass | None
    number: int


class Routine(Struct, frozen=True):
    """A take of a combo. `passes` in the order in which they were danced; `verdicts`: on all passes of each part;
    `left_out`: passes of the combo that were not danced, by name, each with the one before it."""

    passes: tuple[Danced, ...]
    verdicts: tuple[tuple[Part, Verdict], ...]
    left_out: tuple[tuple[str, str], ...]
    share: float
    sure: float

    @property
    def fits(self) -> bool:
        """Whether it is a take of this combo: enough is explained, and half of its passes are where they belong."""
        return self.share >= LEAST and 2 * sum(p.wanted is not None for p in self.passes) >= len(self.passes)


def routine(wanted: Sequence[Pass], tempo: float, onsets: Onsets, *, on_ms: float = ON_MS) -> Routine:
    """Cut a take of a combo into its passes and judge them.

    Parameters
    ----------
    wanted : sequence of Pass
        The combo's passes in their order.
    tempo : float
        Counts a minute it was meant at.
    onsets : Onsets
    on_ms : float

    Raises
    ------
    NothingHeard
        The take is silent, or no pass of any part is found in it.
    """
    if len(onsets) < 2:
        raise NothingHeard("No steps are heard in this take.", hint="Is the microphone near the floor?")
    parts: list[Part] = []
    of: list[Candidate] = []
    labels: dict[int, int] = {}
    for due in wanted:
        candidate = candidate_of(due.part, tempo)
        if candidate is None or id(due.part) in labels:
            continue
        # Parts that sound alike are told apart by their place in the combo alone.
        same = next((n for n, c in enumerate(of) if c.same_as(candidate)), len(of))
        labels[id(due.part)] = same
        if same == len(of):
            of.append(candidate)
            parts.append(due.part)
    heard = heard_in(onsets.times_s)
    found = routine_in(heard, of, SLOWEST, FASTEST) if of else []
    if not found:
        raise NothingHeard("Nothing of this combo is found in the take at any tempo near its own.")
    share = share_of(heard, of[found[0].of], found)
    passes, left_out = _in_order(found, [p for p in wanted if id(p.part) in labels], labels, parts)
    verdicts = []
    for key in dict.fromkeys(id(p.part) for p in passes):
        own = [p for p in passes if id(p.part) == key]
        one = own[0].part
        candidate = of[labels.get(id(one), own[0].found.of)]
        laid = Passes(candidate, tuple(p.found for p in own), share)
        targets = targets_of(one.sounds, tempo, counts=one.counts, passes=len(own))
        runs = lay(laid, targets, onsets.times_s, wide=_AROUND_COUNTS)
        if runs:
            match = Match("this", one.name, Fraction(1), explained(share), (), laid)
            verdicts.append((one, verdict_on(one, tempo, onsets, runs, match, on_ms)))
    return Routine(tuple(passes), tuple(verdicts), tuple(left_out), share, explained(share))


def _in_order(
    found: Sequence[PassFound], wanted: Sequence[Pass], labels: dict[int, int], parts: Sequence[Part]
) -> tuple[list[Danced], list[tuple[str, str]]]:
    """Each pass that was danced with the one of the combo that it stands for, and what of that was left out."""
    times = max(1, round(len(found) / max(1, len(wanted))))
    due = [*wanted] * times
    stands, missed = _aligned([labels[id(p.part)] for p in due], [f.of for f in found])
    # What is missing at the very end was not reached.
    left_out = [(due[n].part.name, due[n - 1].part.name if n else "") for n in missed if n < max(stands.values())]
    many: dict[int, int] = {}
    passes = []
    for index, one in enumerate(found):
        here = due[stands[index]] if index in stands else None
        part = here.part if here is not None else parts[one.of]
        number = many.get(id(part), 0)
        many[id(part)] = number + 1
        passes.append(Danced(part, one, here, number))
    return passes, left_out


def _aligned(due: Sequence[int], found: Sequence[int]) -> tuple[dict[int, int], list[int]]:
    """Which of what is due each that was found stands for, and what of it was left out: with the fewest of either."""
    cost = np.zeros((len(due) + 1, len(found) + 1))
    cost[:, 0], cost[0, :] = np.arange(len(due) + 1), np.arange(len(found) + 1)
    for i, one in enumerate(due, 1):
        for j, other in enumerate(found, 1):
            straight = cost[i - 1, j - 1] + (0 if one == other else 2)
            cost[i, j] = min(straight, cost[i - 1, j] + 1, cost[i, j - 1] + 1)
    stands, missed = {}, []
    i, j = len(due), len(found)
    while i or j:
        if i and cost[i, j] == cost[i - 1, j] + 1:
            i -= 1
            missed.append(i)
        elif i and j and due[i - 1] == found[j - 1] and cost[i, j] == cost[i - 1, j - 1]:
            i, j = i - 1, j - 1
            stands[j] = i
        elif j and cost[i, j] == cost[i, j - 1] + 1:
            j -= 1
        else:
            i, j = i - 1, j - 1
            missed.append(i)
    return stands, missed[::-1]


def first_sentence(one: Routine) -> str:
    """The one thing to mend first in a whole combo."""
    if one.left_out:
        name, before = one.left_out[0]
        if name == before:
            return f"{name} was danced once fewer than the combo has it."
        return f"{name} was left out{f' after {before}' if before else ', at the beginning'}."
    extra = next((p for p in one.passes if p.wanted is None), None)
    if extra is not None:
        return f"{extra.part.name} was danced once more than the combo has it, at {extra.found.start_s:.1f} s."
    worst = worst_of(one)
    return f"{worst[0].name}: {mend_sentence(worst[1].mend)}" if worst is not None else "Nothing could be judged."


_RANK = {"clean": 2, "slip": 1}


def worst_of(one: Routine) -> tuple[Part, Verdict] | None:
    """The part with the most to mend: habits before slips; None where nothing was judged."""
    rows = sorted(
        one.verdicts, key=lambda row: (_RANK.get(row[1].mend.code, 0), -len(row[1].judged) + row[1].count("on"))
    )
    return rows[0] if rows else None
