"""What can be danced, though only in a way that few would: a choice that the footing pays for."""

from collections.abc import Iterator

from firn.core.footing.mends import Mend
from firn.core.footing.moves import MOVERS
from firn.core.footing.state import FEET, Foot, State, lighter
from firn.core.piece.build import part_from
from firn.core.piece.piece import Part
from firn.core.piece.sound import Sound
from firn.core.reading.feet import MOST_TRIED, mend_text
from firn.core.reading.finding import Finding, MendText, Value
from firn.core.script.changes import changed_text
from firn.core.steps.kinds import WITH_WEIGHT
from firn.core.task import giving_way

_CARRYING = {**WITH_WEIGHT, "toe_tip": "step"}


def findings(part: Part) -> list[Finding]:
    """The first awkward sound, and how many more there are; none before all can be danced."""
    awkward = awkward_sounds(part)
    if not awkward:
        return []
    index, why = awkward[0]
    sound = part.sounds[index]
    values: dict[str, Value] = {
        "word": part.word(sound), "count": part.settings.counting.name(sound.place), "foot": sound.foot, "why": why,
        "many": len(awkward),
    }  # fmt: skip
    mends = tuple(_mends(part, index, why, len(awkward))) if len(part.sounds) <= MOST_TRIED else ()
    return [Finding("awkward", "look", part.name, sound.place, index, values, mends)]


def awkward_sounds(part: Part) -> list[tuple[int, str]]:
    """The sounds that are awkward, by their indexes, and why: heavier or takes."""
    if part.footing.faults or part.seated:
        return []
    found = []
    before: State | None = None
    for index, (sound, after) in enumerate(giving_way(zip(part.sounds, part.footing.states, strict=True))):
        foot = {"left": FEET[0], "right": FEET[1]}.get(sound.foot)
        if before is not None and foot is not None:
            beat = part.uses[sound.use].card.beats[sound.beat]
            why = _why(before, after, sound, foot, stated=bool(beat.weight))
            if why:
                found.append((index, why))
        before = after
    return found


def _why(before: State, after: State, sound: Sound, foot: Foot, *, stated: bool) -> str:
    """Why a sound is awkward; "" where it is not. `stated`: its card wants it so."""
    if sound.kind in MOVERS and before.weight in "<>" and before.weight != lighter(foot):
        return "heavier"
    drops = sound.kind in ("heel", "toe") and not stated
    return "takes" if drops and before.weight in FEET and before.weight != foot == after.weight else ""


def _mends(part: Part, index: int, why: str, awkward: int) -> Iterator[MendText]:
    """What makes it easy: the other foot; or the sound before it on the same foot already takes the weight."""
    at, mend = index, Mend("here", index, "swap")
    if why == "takes":
        foot = part.sounds[index].foot
        at = next((i for i in range(index - 1, -1, -1) if part.sounds[i].foot == foot), -1)
        becomes = _CARRYING.get(part.sounds[at].kind, "") if at >= 0 else ""
        if not becomes:
            return
        mend = Mend("before", at, "becomes", becomes)
    text = mend_text(part, mend)
    if text is None:
        return
    made = part_from(part.name, changed_text(part.script.text, text.changes), part.settings, part.script.shelf)
    fewer = len(awkward_sounds(made)) < awkward
    if fewer and not made.footing.faults and len(made.problems) <= len(part.problems):
        yield text
