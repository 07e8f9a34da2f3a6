"""The values of a drill's stage as they are said, and changed by a step or to a number."""

from msgspec.structs import replace

from firn.core.drills.ladder import LadderError, Rung
from firn.core.drills.stage import Stage, checked_stage
from firn.core.meter.count_in import CountIn
from firn.core.meter.tempo import FASTEST, SLOWEST
from firn.session.drilling import HEARD_AS, SLOWER, DrillPlan, Planned
from firn.session.transport import Value


def minutes_said(seconds: float) -> str:
    """A length as practice is planned: 40 s, 3 min."""
    return f"{max(1, round(seconds / 10) * 10)} s" if seconds < 55 else f"{round(seconds / 60)} min"


def stage_line(one: Planned) -> list[Value]:
    """The six values of a stage as one spoken line, each with its key."""
    stage = one.stage
    if stage.kind == "ear":
        return [
            Value("what", "", f"{one.title}, nothing danced", ""),
            Value("start", "at", f"{stage.start:g}", "↑ ↓", typed=True),
            Value("times", "", "one question" if stage.times == 1 else f"{stage.times} questions", "↑ ↓", typed=True),
        ]
    tempos = [
        Value("start", "from", f"{stage.start:g}", "↑ ↓", typed=True),
        Value("end", "to", f"{stage.end:g}", "↑ ↓", typed=True),
        Value("step", "by", f"{stage.step:g}", "↑ ↓", typed=True),
    ]
    if stage.start == stage.end:
        tempos = [
            Value("start", "at", f"{stage.start:g}", "↑ ↓", typed=True),
            Value("end", "", "no higher", "↑ ↓", typed=True),
        ]
    times = {1: "once", 2: "twice"}.get(stage.times, f"{stage.times} times")
    if stage.kind == "rows":
        times = f"by {stage.times} {'row' if stage.times == 1 else 'rows'}"
    rest = f"a rest of {stage.rest}" if stage.rest else "no rest"
    return [
        Value("what", "", _what(one), ""),
        *tempos,
        Value("times", "", times, "↑ ↓", typed=True),
        Value("sides", "", "on both sides" if stage.sides == "both sides" else stage.sides, "↑ ↓"),
        Value("heard", "with", HEARD_AS[stage.heard].said, "↑ ↓"),
        Value("rest", "then", rest, "↑ ↓", typed=True),
    ]


def _what(one: Planned) -> str:
    """What is danced, from which count to which."""
    if one.stretch is None:
        return one.title
    name = "" if one.stretch.titles else one.stretch.title
    counting, first, end = one.stretch.counting, one.stretch.first, one.stretch.end
    said = f"from {counting.number(first)} to {counting.number(end - 1)}"
    return f"{name} {said}" if name else f"{one.title}, {one.stretch.counts} counts"


SIDES = ("both sides", "as written", "other side")
RESTS = (0, 4, 8, 16)


def stepped(stage: Stage, name: str, by: int) -> Stage:
    """A stage with one of its values changed by a step."""
    if name == "start":
        if stage.start == stage.end:
            tempo = _tempo(stage.start + 2 * by)
            return replace(stage, start=tempo, end=tempo)
        return replace(stage, start=_tempo(stage.start + 2 * by))
    if name == "end":
        # From one tempo on a ladder goes up by its step.
        far = stage.step if stage.start == stage.end else 2
        return replace(stage, end=_tempo(stage.end + far * by))
    if name == "step":
        return replace(stage, step=float(min(40, max(1, stage.step + by))))
    if name == "times":
        return replace(stage, times=min(16, max(1, stage.times + by)))
    if name == "sides":
        return replace(stage, sides=SIDES[(SIDES.index(stage.sides) + by) % len(SIDES)])
    if name == "heard":
        ways = tuple(HEARD_AS)
        return replace(stage, heard=ways[(ways.index(stage.heard) + by) % len(ways)])
    if name == "rest":
        at = RESTS.index(stage.rest) if stage.rest in RESTS else 0
        return replace(stage, rest=RESTS[(at + by) % len(RESTS)])
    return stage


def numbered(stage: Stage, name: str, number: float) -> Stage:
    """A stage with a number for one of its values; raises LadderError for one that it cannot have."""
    if name == "start":
        # One tempo stays one.
        end = number if stage.start == stage.end else stage.end
        return checked_stage(replace(stage, start=number, end=end))
    if name in ("times", "rest") and number != int(number):
        raise LadderError(f"So many as can be counted, not {number:g}.")
    if name == "times":
        return checked_stage(replace(stage, times=int(number)))
    if name == "rest":
        return checked_stage(replace(stage, rest=int(number)))
    return checked_stage(replace(stage, end=number) if name == "end" else replace(stage, step=number))


def _tempo(tempo: float) -> float:
    return float(min(FASTEST, max(SLOWEST, tempo)))


def now_said(one: Planned, rung: Rung, *, slower: bool) -> str:
    """Which time is danced: its side, which of how many, its tempo and where that leads to."""
    if one.asked is not None:
        return f"at {rung.tempo:g}"
    side = "other side" if rung.swapped else "as written"
    tempo = f"{rung.tempo * SLOWER:.0f}, slower" if slower else f"{rung.tempo:g}"
    leads = f" → {rung.end:g}" if rung.end != rung.tempo else ""
    time = "row " if one.stage.kind == "rows" else ""
    return f"{side}, {time}{rung.time} of {rung.of}    {tempo}{leads}"


def left_said(plan: DrillPlan, stage: int, number: int, count_in: CountIn) -> str:
    """How much of a drill is left from a time on, as planned."""
    here = plan.stages[stage]
    if here.asked is not None:
        seconds = here.seconds(count_in)
    else:
        seconds = sum(float(here.section(r, count_in).length_s) for r in here.times[number:])
    seconds += sum(one.seconds(count_in) for one in plan.stages[stage + 1 :])
    return f"{minutes_said(seconds)} left"
