"""The verdict on a take: each sound on, early, late or missing; what was added; what to mend first."""

from collections.abc import Iterator, Mapping, Sequence
from itertools import islice
from statistics import median

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from firn.core.ear.align import Alignment, align, along
from firn.core.ear.another import differing, told_differing
from firn.core.ear.click import Click, Kept, kept_with, without_beats
from firn.core.ear.echoes import echoes
from firn.core.ear.first import HARDLY, FirstMend, mend_first, spread_ms
from firn.core.ear.judged import Added, HeardAs, Judged
from firn.core.ear.lay import Run, as_meant, as_one, lay
from firn.core.ear.match import Match, candidate_of, match, without
from firn.core.ear.onsets import Onsets
from firn.core.ear.passes import LEAD_S, Candidate
from firn.core.ear.shoes import Otherwise
from firn.core.ear.sure import HARD_TO_TELL, faintly, plainness, sure_heard, sure_mend, sure_missing, unsure_extra
from firn.core.ear.targets import Target, targets_of
from firn.core.ear.timbre import Exchanged, class_of
from firn.core.ear.told import told
from firn.core.ear.two import two_in
from firn.core.piece.build import build_part
from firn.core.piece.piece import Part
from firn.core.task import UNWATCHED, Task
from firn.errors import FirnError

ON_MS = 25.0


class Verdict(Struct, frozen=True):
    """A whole take judged. `tempo` in counts a minute, as danced; `others`: starts that fit as well, in counts
    later than the one judged. `count_in_s`: when a count-in begins, None for none. `kept`: how it stayed with Firn's
    click, None for a take made to none. `counted`: Firn's own counts or beats were in it, and were taken out.
    `cut_off`: it was recorded too loud. `order`: sounds that sound as if they had changed places; `otherwise`: those
    that sound as another kind than is written, in shoes that are known."""

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
    count_in_s: float | None = None
    kept: Kept | None = None
    counted: bool = False
    cut_off: bool = False
    order: tuple[Exchanged, ...] = ()
    otherwise: tuple[Otherwise, ...] = ()

    @property
    def unplain(self) -> bool:
        """Whether something is not heard, and the room makes it hard to tell whether it was danced."""
        return any(j.heard == "missing" and j.sure < HARDLY for j in self.judged)

    def count(self, heard: HeardAs) -> int:
        """How many targets were heard so."""
        return sum(j.heard == heard for j in self.judged)


class NothingHeard(FirnError):
    """A take that cannot be laid over the part."""


class TwoDancers(NothingHeard):
    """A take of two who dance at once."""


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
    faint = onsets.likely_faint
    return match(
        onsets.times_s, this, others, faint_s=faint, held=_held(part, tempo), felt=_felt(part, tempo), task=task
    )


MOST_HELD = 24
"""So many holds are tried without: who drops one drops one of the first, or of few."""


def _held(part: Part, tempo: float) -> Iterator[tuple[int, Candidate]]:
    """A part without each of its holds, made as it is asked for."""
    holds = ((i, s) for i, s in enumerate(part.sounds) if s.kind == "hold")
    for index, hold in islice(holds, MOST_HELD):
        one = candidate_of(part, tempo, hold=hold)
        if one is not None:
            yield index, one


def in_feel(part: Part, feel: str) -> Part:
    """A part as it sounds in another feel."""
    return build_part(part.script, replace(part.settings, feel=feel), mends=False)


def _felt(part: Part, tempo: float) -> Iterator[tuple[str, Candidate]]:
    """A part as it is danced by who does not swing it, or by who swings what is straight; made as it is asked for."""
    if part.settings.counting.meter.compound:
        return
    feel = "swing" if part.settings.counting.feel.straight else "straight"
    other = in_feel(part, feel)
    one = candidate_of(other, tempo, name=part.name)
    if one is not None and [s.position for s in other.sounds] != [s.position for s in part.sounds]:
        yield feel, one


def _runs(part: Part, tempo: float, onsets: Onsets, found: Match) -> list[Run]:
    """The passes of a take laid over it."""
    many = max(1, len(found.passes.found))
    targets = targets_of(part.sounds, tempo, counts=part.counts, passes=many)
    if found.hold is not None:
        targets = without(part, targets, part.sounds[found.hold], tempo)
    if not found.feel:
        return lay(found.passes, targets, onsets.times_s)
    danced = targets_of(in_feel(part, found.feel).sounds, tempo, counts=part.counts, passes=many)
    return as_meant(lay(found.passes, danced, onsets.times_s), targets)


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
    if click is not None:
        first = min((s.position for s in part.sounds if s.heard), default=part.first_count)
        onsets = without_beats(onsets, click.first_s - float(first - part.first_count) * 60 / tempo, 60 / tempo)
    found = which(part, tempo, onsets, others, task.within(0, 0.7))
    if found.what != "this" and not (anyway or line is not None or passes is not None):
        if found.what == "nothing":
            _one_alone(part, tempo, onsets)
        message, hint = told(part.name, tempo, found, plain=plainness(onsets) >= HARD_TO_TELL)
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
    verdict = verdict_on(part, tempo, onsets, runs, found, on_ms, dropped, kept)
    if click is None and not (anyway or line is not None or passes is not None):
        _nearly(part, verdict)
    return verdict


NEARLY = 0.6
"""How sure it is that a take is of another part which differs from this one in every pass."""


_FELT = {"swing": "it swings", "straight": "it does not swing"}


def _nearly(part: Part, verdict: Verdict) -> None:
    """Raise WrongTake where it is likelier another part that is nearly this one."""
    besides = ["a hold is left out"] * (verdict.dropped is not None)
    if verdict.match.feel:
        besides.append(_FELT[verdict.match.feel])
    differs = differing(verdict.judged, verdict.added, len(besides))
    if differs:
        nothing = replace(verdict.match, what="nothing", part="", also=(), sure=NEARLY)
        raise WrongTake(nothing, told_differing(part, differs, besides), hint="Is it a take of another part?")


def _one_alone(part: Part, tempo: float, onsets: Onsets) -> None:
    """Raise TwoDancers where what fits badly would fit, were each pair of its sounds one."""
    this = candidate_of(part, tempo)
    two = None if this is None else two_in(onsets, this)
    if two is not None and this is not None and match(two.one.times_s, this, ()).what == "this":
        raise TwoDancers(two.told)


def verdict_on(
    part: Part,
    tempo: float,
    onsets: Onsets,
    runs: Sequence[Run],
    found: Match,
    on_ms: float,
    dropped: int | None = None,
    kept: Kept | None = None,
) -> Verdict:
    """The verdict on runs of a part that have been laid; one run or more."""
    targets, laid = as_one(runs, onsets.times_s)
    judged = _judged(targets, part, onsets, laid, on_ms)
    times = np.array([j.expected_s for j in judged])
    echo = echoes(laid.extra, onsets)
    added = tuple(
        Added(
            float(onsets.times_s[j]),
            int(np.searchsorted(times, onsets.times_s[j], side="right")) - 1,
            j in echo,
            unsure_extra(j, onsets),
        )
        for j in laid.extra
        if times[0] - 0.5 < onsets.times_s[j] < times[-1] + 0.5
    )
    beat = 60 / tempo
    mend = mend_first(part, judged, added, dropped, kept)
    # Of a take that is likely another's nothing is surer than that it is this one's after all.
    of_this = found.sure if found.what == "this" else 1 - found.sure
    starts = tuple((offset - laid.offset_s) / (beat * scale) for scale, offset in laid.others)
    return Verdict(
        judged=judged,
        added=added,
        tempo=tempo / laid.scale,
        passes=max(t.time for t in targets) + 1,
        spread_ms=spread_ms(judged),
        mend=replace(mend, sure=sure_mend(mend, judged, added, of_this)),
        dropped=dropped,
        others=starts,
        lines=tuple(laid.others),
        match=found,
        count_in_s=_count_in(found, onsets),
        kept=kept,
    )


def _count_in(found: Match, onsets: Onsets) -> float | None:
    """When the count-in begins that is struck before the first pass; None for none."""
    passes = found.passes
    if found.what != "this" or not passes.led_by:
        return None
    before = int(np.searchsorted(onsets.times_s, passes.found[0].start_s - LEAD_S))
    return float(onsets.times_s[before - passes.led_by])


def _with_click(click: Click, runs: Sequence[Run], onsets: Onsets, beat_s: float) -> tuple[list[Run], Kept]:
    """All runs from the click; how the first of them stayed with it."""
    rows = [kept_with(click, [t.seconds for t in run.targets], onsets.times_s, run.laid, beat_s) for run in runs]
    return [replace(run, laid=laid) for run, (laid, _) in zip(runs, rows, strict=True)], rows[0][1]


def _loud_as(shown: Sequence[str], levels_db: Mapping[int, float]) -> dict[str, float]:
    """How loud the sounds of each class are in the median, of the levels of those that were heard; of a class of
    which none was, as all are."""
    every = median(levels_db.values()) if levels_db else 0.0
    rows = {one: [db for index, db in levels_db.items() if shown[index] == one] for one in set(shown)}
    return {one: median(row) if row else every for one, row in rows.items()}


def _judged(
    targets: Sequence[Target], part: Part, onsets: Onsets, laid: Alignment, on_ms: float
) -> tuple[Judged, ...]:
    pairs = dict(laid.pairs)
    surely = onsets.surely
    shown = [class_of(part.sounds[target.sounds[0]].kind) for target in targets]
    like_db = _loud_as(shown, {index: float(onsets.levels_db[at]) for index, at in pairs.items()})
    judged = []
    for index, target in enumerate(targets):
        expected = float(laid.expected_s[index])
        if index not in pairs:
            due = faintly(expected, on_ms, onsets)
            if due is None:
                sure = sure_missing(expected, like_db[shown[index]], onsets)
                judged.append(Judged(target, "missing", None, None, expected, sure=sure))
            else:
                ms = (due.at_s - expected) * 1000
                sure = sure_heard(ms, on_ms, due.sure)
                judged.append(Judged(target, "on", ms, due.at_s, expected, due.level_db, sure))
            continue
        at = pairs[index]
        heard = float(onsets.times_s[at])
        ms = (heard - expected) * 1000
        verdict: HeardAs = "on" if abs(ms) <= on_ms else "late" if ms > 0 else "early"
        sure = sure_heard(ms, on_ms, float(surely[at]))
        judged.append(Judged(target, verdict, ms, heard, expected, float(onsets.levels_db[at]), sure))
    return tuple(judged)
