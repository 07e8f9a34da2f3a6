"""The verdict on a take: each sound on, early, late or missing; what was added; what to mend first."""

from collections.abc import Sequence
from itertools import pairwise

import numpy as np
from msgspec import Struct, field
from msgspec.structs import replace

from firn.core.ear.align import Alignment, align, along
from firn.core.ear.click import BEHIND_MS, Click, Kept, kept_with
from firn.core.ear.habits import TakeFault, faults
from firn.core.ear.judged import Added, HeardAs, Judged
from firn.core.ear.onsets import Onsets
from firn.core.ear.targets import Target, targets_of
from firn.core.piece.piece import Part
from firn.core.piece.sound import Sound
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
    kept: Kept | None = None

    def count(self, heard: HeardAs) -> int:
        """How many targets were heard so."""
        return sum(j.heard == heard for j in self.judged)


class NothingHeard(FirnError):
    """A take that cannot be laid over the part."""


def _best(part: Part, tempo: float, onsets: Onsets, passes: int | None, task: Task) -> tuple[list[Target], Alignment]:
    """Targets and alignment for the number of passes that pairs best; both may be forced."""
    one = targets_of(part.sounds, tempo, counts=part.counts)
    if len(one) < 2:
        raise NothingHeard("This part has fewer than two sounds to listen for.")
    about = max(1, round(len(onsets) / len(one)))
    tries = [passes] if passes else sorted({max(1, about - 1), about, about + 1})
    found = []
    for n, number in enumerate(tries):
        targets = targets_of(part.sounds, tempo, counts=part.counts, passes=number)
        once = task.within(n / len(tries), (n + 1) / len(tries))
        laid = align([t.seconds for t in targets], onsets.times_s, task=once)
        if laid is not None:
            share = 2 * len(laid.pairs) / (len(targets) + len(onsets))
            found.append((share, -number, targets, laid))
    if not found or len(max(found, key=lambda f: f[:2])[3].pairs) < max(2, len(one) // 4):
        raise NothingHeard("What is heard in this take does not fit the part at any tempo near its own.")
    _, _, targets, laid = max(found, key=lambda f: f[:2])
    return targets, laid


def _dropped_hold(part: Part, targets: list[Target], onsets: Onsets, laid: Alignment, tempo: float) -> int | None:
    """The sound index of a hold without which the take fits clearly better, or None."""
    holds = [(i, s) for i, s in enumerate(part.sounds) if s.kind == "hold"]
    best: tuple[int, int] | None = None
    for index, hold in holds:
        shifted = _without(part, targets, hold, tempo)
        if any(b.seconds < a.seconds for a, b in pairwise(shifted)):
            # Something sounds inside this hold: without it nothing would be in order.
            continue
        other = align([t.seconds for t in shifted], onsets.times_s)
        if other is not None and len(other.pairs) >= len(laid.pairs) + max(2, len(targets) // 10):
            best = max(best or (0, 0), (len(other.pairs), index))
    return best[1] if best else None


def _without(part: Part, targets: list[Target], hold: Sound, tempo: float) -> list[Target]:
    """The targets as they would fall were a hold left out in every pass."""
    lost = float(hold.length) * 60 / tempo
    moved = []
    for target in targets:
        later = part.sounds[target.sounds[0]].place > hold.place
        moved.append(replace(target, seconds=target.seconds - lost * (target.time + later)))
    return moved


def judge(
    part: Part,
    tempo: float,
    onsets: Onsets,
    *,
    passes: int | None = None,
    on_ms: float = ON_MS,
    line: tuple[float, float] | None = None,
    click: Click | None = None,
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
    task : Task
        Hears how far it is, and may stop it.

    Raises
    ------
    NothingHeard
        The take is silent, or cannot be laid over the part.
    """
    if len(onsets) < 2:
        raise NothingHeard("No steps are heard in this take.", hint="Is the microphone near the floor?")
    targets, laid = _best(part, tempo, onsets, passes, task)
    if line is not None:
        laid = along([t.seconds for t in targets], onsets.times_s, *line) or laid
    dropped = None
    if len(laid.missing) > len(targets) // 6 and line is None:
        dropped = _dropped_hold(part, targets, onsets, laid, tempo)
        if dropped is not None:
            targets = _without(part, targets, part.sounds[dropped], tempo)
            laid = align([t.seconds for t in targets], onsets.times_s) or laid
    kept = None
    if click is not None and dropped is None:
        laid, kept = kept_with(click, [t.seconds for t in targets], onsets.times_s, laid, 60 / tempo)
    judged = _judged(targets, onsets, laid, on_ms)
    times = np.array([j.expected_s for j in judged])
    added = tuple(
        Added(float(onsets.times_s[j]), int(np.searchsorted(times, onsets.times_s[j], side="right")) - 1)
        for j in laid.extra
        if times[0] - 0.5 < onsets.times_s[j] < times[-1] + 0.5
    )
    beat = 60 / tempo
    others = tuple((offset - laid.offset_s) / (beat * scale) for scale, offset in laid.others)
    return Verdict(
        judged=judged,
        added=added,
        tempo=tempo / laid.scale,
        passes=max(t.time for t in targets) + 1,
        spread_ms=_spread(judged),
        mend=_mend_first(part, judged, added, dropped, kept),
        dropped=dropped,
        others=others,
        lines=tuple(laid.others),
        kept=kept,
    )


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
