"""The student's own ear first: how many sounds were there, which one was missing, and was one early or late."""

from collections.abc import Sequence

import numpy as np

from firn.core.ear.asked.question import Question
from firn.core.ear.judged import Judged
from firn.core.ear.verdict import Verdict
from firn.core.piece.piece import Part
from firn.core.steps.kinds import kind_said


def how_many(part: Part, verdict: Verdict, rng: np.random.Generator) -> Question | None:
    """How many sounds from one count up to another; a stretch with a slip in it if there is one."""
    judged = verdict.judged
    if len(judged) < 3:
        return None
    slips = [i for i, j in enumerate(judged) if j.heard == "missing"]
    size = min(len(judged), 6)
    middle = slips[int(rng.integers(len(slips)))] if slips else int(rng.integers(len(judged)))
    first = min(max(0, middle - int(rng.integers(1, size))), len(judged) - size)
    last = first + size - 1
    # Both ends must have been heard, or "from" and "up to" could not be found by ear.
    while first < last and judged[first].heard_s is None:
        first += 1
    while last > first and judged[last].heard_s is None:
        last -= 1
    ends = judged[first].heard_s, judged[last].heard_s
    if ends[0] is None or ends[1] is None or first == last:
        return None
    heard = sum(j.heard_s is not None for j in judged[first : last + 1])
    heard += sum(ends[0] < a.heard_s < ends[1] for a in verdict.added)
    low = max(1, heard - int(rng.integers(0, 5)))
    counting = part.settings.counting
    values = {
        "from": counting.name(part.sounds[judged[first].target.sounds[0]].place),
        "to": counting.name(part.sounds[judged[last].target.sounds[0]].place),
        "times": str(judged[first].target.time + 1) if verdict.passes > 1 else "",
    }
    answers = tuple(str(low + i) for i in range(5))
    gone = [_name(part, j) for j in judged[first : last + 1] if j.heard_s is None]
    why = f"{heard} were there{f': the {gone[0]} was not heard' if gone else ''}."
    return Question("how_many", values, answers, heard - low, _alone(verdict, ends[0], ends[1]), why=why)


def _alone(verdict: Verdict, first_s: float, last_s: float) -> tuple[float, float]:
    """A stretch from one sound to another with a little room, but no neighbour, around it."""
    times = [j.heard_s for j in verdict.judged if j.heard_s is not None] + [a.heard_s for a in verdict.added]
    before = max((t for t in times if t < first_s), default=-np.inf)
    after = min((t for t in times if t > last_s), default=np.inf)
    return first_s - min(0.25, (first_s - before) / 3), last_s + min(0.25, (after - last_s) * 0.8)


def what_missing(part: Part, verdict: Verdict, rng: np.random.Generator) -> Question | None:
    """Which sound was missing: the missing one, "nothing", and others that were heard."""
    missing = [j for j in verdict.judged if j.heard == "missing"]
    heard = [j for j in verdict.judged if j.heard != "missing"]
    if not heard:
        return None
    right = _name(part, missing[0]) if missing else "nothing was missing"
    gone = {_name(part, j) for j in missing}
    others = sorted({_name(part, j) for j in heard} - gone)
    rng.shuffle(others)
    answers = [right, *others[: 3 if missing else 4]]
    if missing:
        answers.append("nothing was missing")
    rng.shuffle(answers)
    first = verdict.judged[0].expected_s, verdict.judged[-1].expected_s
    why = f"The {right} was not heard." if missing else "Every sound was there."
    stretch_s = (first[0] - 0.3, first[1] + 0.6)
    return Question("what_missing", {}, tuple(answers), answers.index(right), stretch_s, why=why)


PLAIN_MS, NEAR_MS = 35.0, 12.0
"""Asked about are only sounds that are plainly off, or plainly on: the ear tells some 20 ms apart at best."""

TIMES = ("early", "on time", "late")


def early_or_late(part: Part, verdict: Verdict, rng: np.random.Generator) -> Question | None:
    """Whether a sound was early, on time or late: one that was plainly off if there is any, else one plainly on."""
    inner = [(i, j) for i, j in enumerate(verdict.judged) if 0 < i < len(verdict.judged) - 1 and j.ms is not None]
    off = [(i, j) for i, j in inner if abs(j.ms or 0) >= PLAIN_MS]
    near = [(i, j) for i, j in inner if abs(j.ms or 0) <= NEAR_MS]
    # Now and then a sound that was on, or the answer would always be known.
    among = near if near and (not off or rng.random() < 0.3) else off
    if not among:
        return None
    index, judged = among[int(rng.integers(len(among)))]
    right = 1 if judged in [j for _, j in near] else 0 if (judged.ms or 0) < 0 else 2
    around = [j.heard_s for j in verdict.judged[max(0, index - 3) : index + 4] if j.heard_s is not None]
    values = {
        "sound": _name(part, judged),
        "times": str(judged.target.time + 1) if verdict.passes > 1 else "",
    }
    why = f"It was {abs(judged.ms or 0):.0f} ms {'early' if (judged.ms or 0) < 0 else 'late'}."
    return Question("early_or_late", values, TIMES, right, _alone(verdict, around[0], around[-1]), why=why)


def _name(part: Part, judged: Judged) -> str:
    sound = part.sounds[judged.target.sounds[0]]
    use = part.uses[sound.use]
    kind = kind_said(sound.kind)
    word = kind if len(use.places) == 1 else f"{kind} of the {use.card.name}"
    return f"{word} on {part.settings.counting.name(sound.place)}"


def questions(part: Part, verdict: Verdict, rng: np.random.Generator) -> Sequence[Question]:
    """The questions to ask about a take before its verdict is shown."""
    asked = (how_many(part, verdict, rng), what_missing(part, verdict, rng), early_or_late(part, verdict, rng))
    return [q for q in asked if q is not None]
