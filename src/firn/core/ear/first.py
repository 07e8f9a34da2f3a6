"""What to mend first: a dropped hold, then habits, then slips; one thing, with its sound and how sure it is."""

from collections.abc import Sequence
from statistics import fmean

import numpy as np
from msgspec import Struct, field

from firn.core.ear.click import BEHIND_MS, Kept
from firn.core.ear.habits import TakeFault, faults
from firn.core.ear.judged import Added, Judged
from firn.core.ear.swing import swing_of
from firn.core.piece.piece import Part

MOST, FEW = 0.6, 0.25

HARDLY = 0.5
"""Less sure than this nothing is said to be so."""


class FirstMend(Struct, frozen=True):
    """The one thing to mend first: a code for the table of sentences, its values, and the target it is about.

    `remedy`: what helps, from the step's card or its sound's; "" for nothing. `sure`: 0 to 1.
    """

    code: str
    values: dict[str, str] = field(default_factory=dict)
    target: int | None = None
    remedy: str = ""
    sure: float = 1.0


def spread_ms(judged: Sequence[Judged]) -> float:
    away = [j.ms for j in judged if j.ms is not None]
    return float(np.std(away)) if len(away) > 1 else 0.0


def mend_first(
    part: Part, judged: Sequence[Judged], added: Sequence[Added], dropped: int | None, kept: Kept | None
) -> FirstMend:
    """A dropped hold first, then habits: what is not heard, what is added, all of it behind the click, what is off.

    Where there is no habit, a slip is named as one.
    """
    if dropped is not None:
        hold = part.sounds[dropped]
        counting = part.settings.counting
        last = hold.place + hold.length - 1
        said = counting.say(hold.place) + (f"-{counting.say(last)}" if hold.length > 1 else "")
        return FirstMend("hold_dropped", {"counts": said, "length": f"{hold.length}"})
    found = [fault for fault in faults(judged, added) if not _unplain(judged, fault)]
    habit = next((f for f in found if f.habit), None)
    if habit is not None and habit.what == "missing":
        return _mend(part, judged, habit, habit.what, _remedy(part, judged[habit.first]))
    if habit is not None and habit.what == "added":
        return _mend(part, judged, habit, habit.what, many=sum(not a.doubted for a in added))
    if kept is not None and kept.steady and abs(kept.lag_ms) > BEHIND_MS:
        return FirstMend("behind" if kept.lag_ms > 0 else "ahead", {"ms": f"{abs(kept.lag_ms):.0f}"})
    swing = swing_of(part, judged)
    if habit is not None and swing is not None and swing.off and _on_the_and(part, judged):
        values = {"ratio": f"{swing.ratio:.1f}", "meant": f"{swing.meant:.1f}".removesuffix(".0")}
        return FirstMend("swing", values, habit.first)
    if habit is not None:
        return _mend(part, judged, habit, habit.what)
    if kept is not None and kept.came_in:
        many = abs(kept.came_in)
        return FirstMend("came_in", {"counts": str(many), "when": "late" if kept.came_in > 0 else "early"})
    if found:
        return _mend(part, judged, found[0], "slip", many=len(found))
    unheard = sum(one.heard == "missing" and not one.target.optional for one in judged)
    return FirstMend("clean", {"spread": f"{spread_ms(judged):.0f}", "unheard": str(unheard)})


def _unplain(judged: Sequence[Judged], fault: TakeFault) -> bool:
    """Whether a sound was not heard, once or as a habit, where a room or a voice makes it likelier that it was
    danced: that is in doubt, which is said first, and is no fault."""
    own = (j.sure for j in judged if j.heard == "missing" and j.target.sounds == fault.sounds)
    return fault.what == "missing" and fmean(own) < HARDLY


def _on_the_and(part: Part, judged: Sequence[Judged]) -> bool:
    """Whether most sounds on an & are off their time, and few on a count: it is the swing, and no step."""
    off = {1: [False], 2: [False]}
    for one in judged:
        place = part.sounds[one.target.sounds[0]].place
        if one.heard != "missing" and place.denominator in off:
            off[place.denominator].append(one.heard != "on")
    return fmean(off[2]) >= MOST and fmean(off[1]) <= FEW


def _mend(
    part: Part, judged: Sequence[Judged], fault: TakeFault, code: str, remedy: str = "", *, many: int = 1
) -> FirstMend:
    """A fault as what to mend, its sound named."""
    values = _named(part, judged[fault.first])
    values |= {"times": str(fault.times), "passes": str(fault.of), "many": str(many), "what": fault.what}
    ms = judged[fault.first].ms
    if fault.what in ("early", "late") and ms is not None:
        values["ms"] = f"{abs(ms):.0f}"
    return FirstMend(code, values, fault.first, remedy)


def _remedy(part: Part, judged: Judged) -> str:
    """What helps where a sound is not heard: the card's own word, else that of the sound."""
    sound = part.sounds[judged.target.sounds[0]]
    card = part.uses[sound.use].card
    own = part.script.shelf.plain.find(sound.kind.replace("_", " "), part.settings.tradition)
    return next(iter((*card.remedies, *(own.remedies if own else ()))), "")


def _named(part: Part, judged: Judged) -> dict[str, str]:
    return sound_said(part, judged.target.sounds[0])


def sound_said(part: Part, index: int) -> dict[str, str]:
    """The values of a sentence that a sound is named in."""
    sound = part.sounds[index]
    use = part.uses[sound.use]
    single = len(use.places) == 1
    return {
        "word": use.card.name,
        "kind": sound.kind,
        "foot": sound.foot,
        "count": part.settings.counting.name(sound.place),
        "single": "yes" if single else "",
    }
