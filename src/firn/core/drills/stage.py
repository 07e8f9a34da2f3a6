"""A drill: stages one after another, each what is danced, how fast, on which sides, how often, what is heard, and the
rest after each time."""

from typing import Literal

from msgspec import Struct

from firn.core.drills.ladder import MOST_TIMES, Ladder, LadderError, LadderSides, Rung, checked, rungs
from firn.core.meter.tempo import FASTEST, SLOWEST

COMBO = "combo"
"""Stands for the combo where a part's id would stand."""

MOST_STAGES = 60
MOST_PARTS = 8
MOST_SOUNDS = 999

StageHeard = Literal[
    "counts_beats", "counts", "beats", "steps", "one_foot", "feet", "hands", "voiced", "click", "gaps", "nothing",
    "count_only", "music",
]  # fmt: skip
StageKind = Literal[
    "warm_up", "slow_full", "ladder", "hardest", "weaker_side", "join", "run_in", "count_only", "bare", "click",
    "gaps", "one_foot", "hands", "feet", "half_time", "double_time", "home", "whole", "music",
    "forward", "backward", "add_sound", "simpler", "seated", "rows", "on_two", "mirrored", "silent",
    "arms", "ear",
]  # fmt: skip
StageSides = Literal["as written", "other side", "both sides"]


OTHERWISE: frozenset[StageKind] = frozenset({"simpler", "seated", "on_two"})
"""Stages that dance their parts otherwise than they are written."""

NOT_THE_PART: frozenset[StageKind] = OTHERWISE | {"silent", "arms"}
"""Stages that say nothing of how clean the part itself is."""


ROUND = 10
"""So many questions has a stage that is answered by ear, where nothing is said."""


class Stage(Struct, frozen=True):
    """One stage of a drill. One of the kind "ear" is asked, not danced: so many `times` as it has questions.

    `parts`: the ids of what is danced one after another, `COMBO` for the combo; `span`: only from one count up to
    another, in counts of the one part from its first 1, 0. `start` to `end` by `step` counts a minute; `times` on
    each of `sides` at each tempo; `rest` counts after each time. `lead_in`: counts of the part before that lead into
    it, which are not judged. `sounds`: only so many sounds from its beginning, 0 for all. `why`: the reason for it,
    where it was offered or planned.
    """

    kind: StageKind
    parts: tuple[str, ...]
    span: tuple[int, int] | None = None
    start: float = 100.0
    end: float = 100.0
    step: float = 4.0
    sides: StageSides = "both sides"
    times: int = 1
    heard: StageHeard = "counts_beats"
    rest: int = 4
    lead_in: int = 0
    sounds: int = 0
    why: str = ""

    @property
    def ladder(self) -> Ladder:
        """Its tempos, sides and times."""
        sides: LadderSides = "both sides" if self.sides == "both sides" else "as written"
        return Ladder(self.start, self.end, self.step, self.times, sides, self.rest)


class Drill(Struct, frozen=True):
    """A drill of a piece, by name; `student`: whom it is for, by key, "" for everyone."""

    id: str
    piece: str
    name: str
    stages: tuple[Stage, ...] = ()
    student: str = ""


def passes(stage: Stage, bounds: tuple[float, float] = (SLOWEST, FASTEST)) -> list[Rung]:
    """Each time that a stage dances, in order, within a floor and a ceiling; raises LadderError for one that cannot
    be."""
    climbed = rungs(stage.ladder, bounds)
    if stage.sides == "other side":
        return [Rung(r.tempo, True, r.time, r.of, r.end) for r in climbed]
    return climbed


def checked_stage(stage: Stage) -> Stage:
    """A stage that can be danced; raises LadderError with one sentence for any other."""
    checked(stage.ladder)
    if not 0 <= stage.rest <= 64:
        raise LadderError(f"Between 0 and 64 counts of rest, not {stage.rest}.")
    if not 1 <= len(stage.parts) <= MOST_PARTS:
        raise LadderError(f"A stage joins between 1 and {MOST_PARTS} parts.")
    if stage.span is not None and stage.span[0] >= stage.span[1]:
        raise LadderError("A stage needs at least one count.")
    if not 0 <= stage.sounds <= MOST_SOUNDS:
        raise LadderError(f"Between 1 and {MOST_SOUNDS} sounds of a part, not {stage.sounds}.")
    if stage.sounds and (len(stage.parts) > 1 or stage.parts == (COMBO,)):
        raise LadderError("The first sounds are those of one part.")
    if stage.kind == "ear" and (len(stage.parts) > 1 or stage.parts == (COMBO,)):
        raise LadderError("Questions by ear are about one part.")
    return stage


def more_times(stage: Stage, by: int) -> int:
    """How often a stage is danced a side, so many more, within what can be."""
    return min(MOST_TIMES, max(1, stage.times + by))
