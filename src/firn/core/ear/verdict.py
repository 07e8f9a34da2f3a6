"""The verdict on a take: each sound on, early, late or missing; what was added; what to mend first."""

from collections.abc import Sequence

import numpy as np
from msgspec import Struct, field
from msgspec.structs import replace

from firn.core.ear.align import Alignment, align, along
from firn.core.ear.click import BEHIND_MS, Click, Kept, kept_with
from firn.core.ear.habits import TakeFault, faults
from firn.core.ear.judged import Added, HeardAs, Judged
from firn.core.ear.lay import Run, as_one, lay
from firn.core.ear.match import Match, candidate_of, match, without
from firn.core.ear.onsets import Onsets
from firn.core.ear.passes import Candidate
from firn.core.ear.targets import Target, targets_of
from firn.core.ear.told import told
from firn.core.piece.piece import Part
from firn.core.task import UNWATCHED, Task
from firn.errors import FirnError

ON_MS = 25.0


class FirstMend(Struct, frozen=True):
    """The one thing to mend first: a code for the table of sentences, its values, and the target it is about.

    `remedy`: what helps, from the step's card or its sound's; "" for nothing.
    """

    code: str
    values: dict[str, str] = field(default_factory=dict)
    target: int | None = None
    remedy: str = ""


class Verdict(Struct, frozen=True):
    """A whole take judged. `tempo` in counts a minute, as danced; `others`: starts that fit as well, in counts
    later than the one judged. `kept`: how it stayed with Firn's click, None for a take made to none."""

    judged: tuple[Judged, ...]
    added: tuple[Added, ...]
    tempo: float
    passes: int
    spread_ms: float
    mend: FirstMend
    dropped: int | None
    others: tuple[float, ...]
    lines: tuple[tuple[float, float], ...]
    match: Match
    kept: Kept | None = None

    def count(self, heard: HeardAs) -> int:
        """How many targets were heard so."""
        return sum(j.heard == heard for j in self.judged)


class NothingHeard(FirnError):
    """A take that cannot be laid over the part."""


class WrongTake(NothingHeard):
    """A take of something else, or at another tempo: what it is, as `match` says."""

    def __init__(self, found: Match, message: str, *, hint: str = "") -> None:
        super().__init__(message, hint=hint)
        self.match = found


def which(
    part: Part, tempo: float, onsets: Onsets, others: Sequence[Candidate] = (), task: Task = UNWATCHED
) -> Match:
    """Which take this is: as `match` says, the part without each of its holds tried too.

    Raises
    ------
    NothingHeard
        The take is silent, or the part has too few sounds to be told by.
    """
    if len(onsets) < 2:
        raise NothingHeard("No steps are heard in this take.", hint="Is the microphone near the floor?")
    this = candidate_of(part, tempo)
    if this is None:
        raise NothingHeard("This part has fewer than two sounds to listen for.")
    holds = [(i, candidate_of(part, tempo, hold=s)) for i, s in enumerate(part.sounds) if s.kind == "hold"]
    held = [(i, one) for i, one in holds if one is not None]
    return match(onsets.times_s, this, others, held=held, task=task)


def _runs(part: Part, tempo: float, onsets: Onsets, found: Match) -> list[Run]:
    """The passes of a take laid over it."""
    targets = targets_of(part.sounds, tempo, counts=part.counts, passes=max(1, len(found.passes.found)))
    if found.hold is not None:
        targets = without(part, targets, part.sounds[found.hold], tempo)
    return lay(found.passes, targets, onsets.times_s)


def _forced(part: Part, tempo: float, onsets: Onsets, passes: int, task: Task) -> list[Run]:
    """So many passes as the user says, one after another, wherever they fit best."""
    targets = targets_of(part.sounds, tempo, counts=part.counts, passes=passes)
    laid = align([t.seconds for t in targets], onsets.times_s, task=task)
    return [] if laid is None else [Run(targets, laid)]


def judge(
    part: Part,
    tempo: float,
    onsets: Onsets,
    *,
    passes: int | None = None,
    on_ms: float = ON_MS,
    line: tuple[float, float] | None = None,
    click: Click | None = None,
    others: Sequence[Candidate] = (),
    anyway: bool = False,
    task: Task = UNWATCHED,
) -> Verdict:
    """Judge a take of a part.

    Parameters
    ----------
    part : Part
    tempo : float
        Counts a minute it was meant at; the take may be up to a fifth off.
    onsets : Onsets
        What was heard.
    passes : int, optional
        How many times through; found out if not given.
    on_ms : float
        A sound within this many milliseconds of its time is on.
    line : (float, float), optional
        One of a verdict's `lines`, where the user has said which start is meant.
    click : Click, optional
        The click that the take was made to: sounds are then early or late against it, not against a line of the
        take's own.
    others : sequence of Candidate
        What else it might be a take of.
    anyway : bool
        Judge it as a take of this part whatever it may be.
    task : Task
        Hears how far it is, and may stop it.

    Raises
    ------
    NothingHeard
        The take is silent, or cannot be laid over the part.
    WrongTake
        It is a take of something else.
    """
    found = which(part, tempo, onsets, others, task.within(0, 0.7))
    if found.what != "this" and not (anyway or line is not None or passes is not None):
        message, hint = told(part.name, tempo, found)
        raise WrongTake(found, message, hint=hint)
    if passes is not None or found.what != "this":
        about = passes or max(1, len(found.passes.found))
        runs = _forced(part, tempo, onsets, about, task.within(0.7, 1))
    else:
        runs = _runs(part, tempo, onsets, found)
    if not runs:
        raise NothingHeard("What is heard in this take does not fit the part at any tempo near its own.")
    dropped = found.hold if found.what == "this" and passes is None else None
    kept = None
    if line is not None and len(runs) == 1:
        chosen = along([t.seconds for t in runs[0].targets], onsets.times_s, *line)
        runs = [replace(runs[0], laid=chosen)] if chosen is not None else runs
    if click is not None and dropped is None:
        runs, kept = _with_click(click, runs, onsets, 60 / tempo)
    targets, laid = as_one(runs, onsets.times_s)
    judged = _judged(targets, onsets, laid, on_ms)
    times = np.array([j.expected_s for j in judged])
    added = tuple(
        Added(float(onsets.times_s[j]), int(np.searchsorted(times, onsets.times_s[j], side="right")) - 1)
        for j in laid.extra
        if times[0] - 0.5 < onsets.times_s[j] < times[-1] + 0.5
    )
    beat = 60 / tempo
    starts = tuple((offset - laid.offset_s) / (beat * scale) for scale, offset in laid.others)
    return Verdict(
        judged=judged,
        added=added,
        tempo=tempo / laid.scale,
        passes=max(t.time for t in targets) + 1,
        spread_ms=_spread(judged),
        mend=_mend_first(part, judged, added, dropped, kept),
        dropped=dropped,
        others=starts,
        lines=tuple(laid.others),
        match=found,
        kept=kept,
    )


def _with_click(click: Click, runs: Sequence[Run], onsets: Onsets, beat_s: float) -> tuple[list[Run], Kept]:
    """All runs from the click; how the first of them stayed with it."""
    rows = [kept_with(click, [t.seconds for t in run.targets], onsets.times_s, run.laid, beat_s) for run in runs]
    return [replace(run, laid=laid) for run, (laid, _) in zip(runs, rows, strict=True)], rows[0][1]


def _judged(targets: Sequence[Target], onsets: Onsets, laid: Alignment, on_ms: float) -> tuple[Judged, ...]:
    pairs = dict(laid.pairs)
    judged = []
    for index, target in enumerate(targets):
        expected = float(laid.expected_s[index])
        if index not in pairs:
            judged.append(Judged(target, "missing", None, None, expected))
            continue
        heard = float(onsets.times_s[pairs[index]])
        ms = (heard - expected) * 1000
        verdict: HeardAs = "on" if abs(ms) <= on_ms else "late" if ms > 0 else "early"
        judged.append(Judged(target, verdict, ms, heard, expected, float(onsets.levels_db[pairs[index]])))
    return tuple(judged)


def _spread(judged: Sequence[Judged]) -> float:
    away = [j.ms for j in judged if j.ms is not None]
    return float(np.std(away)) if len(away) > 1 else 0.0


def _mend_first(
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
    found = faults(judged, added)
    habit = next((f for f in found if f.habit), None)
    if habit is not None and habit.what == "missing":
        return _mend(part, judged, habit, habit.what, _remedy(part, judged[habit.first]))
    if habit is not None and habit.what == "added":
        return _mend(part, judged, habit, habit.what, many=len(added))
    if kept is not None and kept.steady and abs(kept.lag_ms) > BEHIND_MS:
        return FirstMend("behind" if kept.lag_ms > 0 else "ahead", {"ms": f"{abs(kept.lag_ms):.0f}"})
    if habit is not None:
        return _mend(part, judged, habit, habit.what)
    if kept is not None and kept.came_in:
        many = abs(kept.came_in)
        return FirstMend("came_in", {"counts": str(many), "when": "late" if kept.came_in > 0 else "early"})
    if found:
        return _mend(part, judged, found[0], "slip", many=len(found))
    return FirstMend("clean", {"spread": f"{_spread(judged):.0f}"})


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
    sound = part.sounds[judged.target.sounds[0]]
    use = part.uses[sound.use]
    single = len(use.places) == 1
    return {
        "word": use.card.name,
        "kind": sound.kind,
        "foot": sound.foot,
        "count": part.settings.counting.name(sound.place),
        "single": "yes" if single else "",
    }
