"""Drills as text: "A 72-96 by 4, both sides, x2; Break run-in 4; whole x1", read and written.

A stage is what is danced (a part, parts joined by +, counts of one, the whole), then in any order its tempo, sides,
times, what is heard, and its rest. What is not said is as in a stage that was just made.
"""

import re
from collections.abc import Mapping, Sequence
from typing import get_args

from msgspec import Struct
from msgspec.structs import replace

from firn.core.drills.offers import MAKERS, by_ear
from firn.core.drills.stage import (
    COMBO,
    MOST_STAGES,
    ROUND,
    Drill,
    Stage,
    StageHeard,
    StageKind,
    StageSides,
    checked_stage,
)
from firn.core.pattern import late
from firn.core.script.piece_text import DRILL
from firn.core.steps.names import fold
from firn.errors import FirnError

HEARD: dict[StageHeard, str] = {
    "counts_beats": "counts and beats", "counts": "counts", "beats": "beats", "steps": "the steps",
    "one_foot": "one foot", "feet": "the feet", "hands": "the hands", "voiced": "the hands said",
    "click": "the click", "gaps": "gaps", "nothing": "nothing", "count_only": "counts only", "music": "music",
}  # fmt: skip
"""What is heard, as a stage says it after "with"."""

_KINDS: dict[str, StageKind] = {fold(name): kind for kind, (name, _) in MAKERS.items()}
_BY_HEARD: dict[StageHeard, StageKind] = {
    "count_only": "count_only", "click": "click", "gaps": "gaps", "hands": "hands", "voiced": "hands", "feet": "feet",
    "one_foot": "one_foot", "nothing": "bare", "music": "music",
}  # fmt: skip

_NUMBER = r"\d{1,6}(?:\.\d{1,3})?"
_TAIL = late(
    rf"""(?:at\s+)?(?P<start>{_NUMBER})\s*(?:[-–]|\bto\b)\s*(?P<end>{_NUMBER})(?:\s+by\s+(?P<step>{_NUMBER}))?(?!\w)
    |(?:at\s+)?(?P<tempo>{_NUMBER})(?![\w.])
    |(?P<sides>both\s+sides|as\s+written|(?:the\s+)?other\s+side)(?!\w)
    |[x×]\s?(?P<times>\d{{1,6}})(?!\w)|(?P<many>\d{{1,6}})\s?[x×](?!\w)|(?P<said>once|twice)(?!\w)
    |with\s+(?P<heard>HEARD)(?!\w)
    |(?P<ear>by\s+ear)(?!\w)
    |rest\s+(?P<rest>\d{{1,6}})(?!\w)|(?P<none>no\s+rest)(?!\w)
    |run-?\s?in\s+(?P<lead>\d{{1,6}})(?:\s+(?P<from>from)\s+|(?!\w))
    |(?:its\s+)?first\s+(?P<sounds>\d{{1,4}})\s+sounds?(?!\w)
    |counts?\s+(?P<first>\d{{1,4}})(?:\s*[-–]\s*(?P<last>\d{{1,4}}))?(?!\w)
    |\((?P<kind>[^()]*)\)""".replace(
        "HEARD",
        "|".join(sorted((re.escape(said).replace(r"\ ", r"\s+") for said in HEARD.values()), key=len, reverse=True)),
    ),
    re.IGNORECASE | re.VERBOSE,
)
_SPACE = late(r"[\s,]+")


class DrillTextError(FirnError):
    """A drill's text that cannot be read, in one sentence."""


class Known(Struct, frozen=True):
    """What a drill's text may name: parts as (name, id), the part that each comes after in the combo, and the tempo
    where none is said."""

    parts: tuple[tuple[str, str], ...]
    before: Mapping[str, str]
    tempo: float

    @property
    def names(self) -> dict[str, str]:
        """The names of the parts by their ids."""
        return {part: name for name, part in self.parts}


# Written


def stage_text(stage: Stage, names: Mapping[str, str]) -> str:
    """A stage as it is said; `names` of parts by their ids."""
    if stage.parts == (COMBO,):
        what = "whole"
    elif stage.lead_in:
        what = f"{names[stage.parts[-1]]}, run-in {stage.lead_in} from {names[stage.parts[0]]}"
    else:
        what = " + ".join(names[part] for part in stage.parts)
    if stage.kind == "ear":
        times = [f"x{stage.times}"] if stage.times != ROUND else []
        return ", ".join([f"{what} by ear", f"at {stage.start:g}", *times])
    said = [what]
    if stage.span is not None:
        first, last = stage.span[0] + 1, stage.span[1]
        said.append(f"counts {first}-{last}" if last > first else f"count {first}")
    ladder = f"{stage.start:g}-{stage.end:g} by {stage.step:g}"
    said += [f"first {stage.sounds} sound{'s' if stage.sounds > 1 else ''}"] if stage.sounds else []
    said.append(f"at {stage.start:g}" if stage.start == stage.end else ladder)
    said.append(stage.sides)
    said += [f"x{stage.times}"] if stage.times > 1 else []
    said += [f"with {HEARD[stage.heard]}"] if stage.heard != "counts_beats" else []
    said += [f"rest {stage.rest}" if stage.rest else "no rest"] if stage.rest != _PLAIN.rest else []
    kind = f" ({MAKERS[stage.kind][0]})" if stage.kind != _kind_of(stage) else ""
    return ", ".join(said) + kind


def drill_text(drill: Drill, names: Mapping[str, str]) -> str:
    """A drill as lines: its name, then a stage a line. Stages of parts that are gone are left out."""
    there = [s for s in drill.stages if all(part == COMBO or part in names for part in s.parts)]
    return "\n".join([f"drill {drill.name}".rstrip() + ":", *(stage_text(stage, names) for stage in there)])


_PLAIN = Stage("whole", ())


def _kind_of(stage: Stage) -> StageKind:
    """The kind of a stage by its values, where none is said."""
    if stage.lead_in:
        return "run_in"
    if len(stage.parts) > 1:
        return "join"
    if stage.heard in _BY_HEARD:
        return _BY_HEARD[stage.heard]
    if stage.sounds:
        return "add_sound"
    if stage.span is not None:
        return "hardest"
    return "ladder" if stage.start != stage.end else "whole"


# Read


def read_stage(text: str, known: Known) -> Stage:
    """A stage from its text; raises DrillTextError."""
    said = text.split("#")[0].strip().rstrip(";").strip()
    parts, at = _parts(said, known)
    stage = replace(_PLAIN, parts=parts, start=known.tempo, end=known.tempo)
    kind: StageKind | None = None
    times = ROUND
    while at < len(said):
        space = _SPACE.match(said, at)
        if space:
            at = space.end()
            continue
        match = _TAIL.match(said, at)
        if match is None:
            raise DrillTextError(f"Not understood in “{said}”: “{said[at:]}”.")
        if match["kind"] is not None:
            kind = _KINDS.get(fold(match["kind"]))
            if kind is None:
                raise DrillTextError(f"No stage is called “{match['kind']}”.")
        elif match["ear"]:
            kind = "ear"
        else:
            stage = _said(stage, match)
            times = stage.times if match["times"] or match["many"] or match["said"] else times
        at = match.end()
        if match["lead"]:
            stage, at = _led(stage, said, match, known)
    stage = checked_stage(replace(stage, kind=kind or _kind_of(stage)))
    return by_ear(stage.parts[0], stage.start, times) if kind == "ear" else stage


def _parts(said: str, known: Known) -> tuple[tuple[str, ...], int]:
    """What is danced, and where that ends."""
    whole = re.match(r"(?:the\s+)?(?:whole|combo)(?!\w)", said, re.IGNORECASE)
    if whole and not any(fold(name) in ("whole", "combo") for name, _ in known.parts):
        return (COMBO,), whole.end()
    found: list[str] = []
    at = 0
    while True:
        here = _part_at(said, at, known)
        if here is None:
            rest = re.split(r"[,;+]|\s(?=\d|[x×]\d|at\b|both\b|with\b|run)", said[at:])[0].strip() or said
            raise DrillTextError(f"No part is called “{rest}”.")
        part, at = here
        found.append(part)
        more = re.compile(r"\s*\+\s*").match(said, at)
        if more is None:
            return tuple(found), at
        at = more.end()


def _part_at(said: str, at: int, known: Known) -> tuple[str, int] | None:
    """The part with the longest name that stands at a column, and where it ends."""
    for name, part in sorted(known.parts, key=lambda one: -len(one[0])):
        end = at + len(name)
        if fold(said[at:end]) == fold(name) and (end == len(said) or not said[end].isalnum()):
            return part, end
    return None


def _said(stage: Stage, match: re.Match[str]) -> Stage:
    """A stage with one thing more that is said of it."""
    if match["start"]:
        step = float(match["step"]) if match["step"] else stage.step
        return replace(stage, start=float(match["start"]), end=float(match["end"]), step=step)
    if match["tempo"]:
        return replace(stage, start=float(match["tempo"]), end=float(match["tempo"]))
    if match["sides"]:
        sides = next(s for s in get_args(StageSides) if fold(match["sides"]).endswith(s))
        return replace(stage, sides=sides)
    if match["heard"]:
        heard = {fold(said): key for key, said in HEARD.items()}[fold(" ".join(match["heard"].split()))]
        return replace(stage, heard=heard)
    if match["rest"] or match["none"]:
        return replace(stage, rest=int(match["rest"] or 0))
    if match["first"]:
        first = int(match["first"])
        return replace(stage, span=(first - 1, int(match["last"] or first)))
    if match["sounds"]:
        return replace(stage, sounds=int(match["sounds"]))
    if match["lead"]:
        return replace(stage, lead_in=int(match["lead"]))
    times = match["times"] or match["many"]
    return replace(stage, times=int(times) if times else {"once": 1, "twice": 2}[match["said"].casefold()])


def _led(stage: Stage, said: str, match: re.Match[str], known: Known) -> tuple[Stage, int]:
    """A stage that the last counts of another part lead into, and where that ends."""
    at, before = match.end(), known.before.get(stage.parts[-1], "")
    if match["from"]:
        found = _part_at(said, at, known)
        if found is None:
            raise DrillTextError(f"No part is called “{said[at:]}”.")
        before, at = found
    elif not before:
        name = known.names.get(stage.parts[-1], "the combo")
        hint = f"Say from which part, such as run-in {stage.lead_in} from {known.parts[0][0]}." if known.parts else ""
        raise DrillTextError(f"Nothing comes before {name}.", hint=hint)
    if stage.lead_in < 1:
        raise DrillTextError("A run-in has one count at least.")
    return replace(stage, parts=(before, stage.parts[-1])), at


class DrillRead(Struct, frozen=True):
    """A drill as it was read: its name, its stages, and what is wrong, as (line, sentence)."""

    name: str
    stages: tuple[Stage, ...]
    faults: tuple[tuple[int, str], ...] = ()


def read_drill(text: str, known: Known, *, name: str = "") -> DrillRead:
    """A drill from its lines; a first line "drill NAME: …" names it. Never raises for any text."""
    stages: list[Stage] = []
    faults: list[tuple[int, str]] = []
    for number, line in enumerate(text.split("\n")):
        head = None if stages or faults else DRILL.fullmatch(line.split("#")[0])
        if head is not None:
            name, line = head["name"].strip() or name, head["rest"]
        for one in _apart(line, known):
            try:
                stages.append(read_stage(one, known))
            except FirnError as fault:
                faults.append((number, str(fault)))
    if len(stages) > MOST_STAGES:
        faults.append((len(text.split("\n")) - 1, f"A drill has {MOST_STAGES} stages at most, not {len(stages)}."))
    return DrillRead(name, tuple(stages[:MOST_STAGES]), tuple(faults))


def _apart(line: str, known: Known) -> Sequence[str]:
    """The stages of a line: parted by semicolons, unless a part's name holds one."""
    line = line.split("#")[0]
    ones = [line] if any(";" in name for name, _ in known.parts) else line.split(";")
    return [one for one in ones if one.strip()]


def with_reasons(stages: Sequence[Stage], before: Sequence[Stage]) -> tuple[Stage, ...]:
    """Stages with the reasons that equal ones had before."""
    reasons = {replace(stage, why=""): stage.why for stage in before}
    return tuple(replace(stage, why=reasons.get(stage, "")) for stage in stages)
