"""The verdict on a take: each sound on, early, late or missing; what was added; what to mend first."""

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from typing import Literal

import numpy as np

from firn.core.ear.align import Alignment, align, along
from firn.core.ear.onsets import Onsets
from firn.core.ear.targets import Target, targets_of
from firn.core.piece.piece import Part, Sound
from firn.errors import FirnError

ON_MS = 25.0
MOST_PASSES = 8

Heard = Literal["on", "early", "late", "missing"]


@dataclass(frozen=True, slots=True)
class Judged:
    """One target with its verdict; `ms` after (+) or before (-) its time, None if missing; `heard_s` likewise.

    `level_db` is its loudness re full scale, 0 if missing.
    """

    target: Target
    heard: Heard
    ms: float | None
    heard_s: float | None
    expected_s: float
    level_db: float = 0.0


@dataclass(frozen=True, slots=True)
class Added:
    """A sound that the part does not have: when, and the target that it follows (-1: before all)."""

    heard_s: float
    after: int


@dataclass(frozen=True, slots=True)
class Mend:
    """The one thing to mend first: a code for the table of sentences, its values, and the target it is about.

    `remedy`: what helps, from the step's card or its sound's; "" for nothing.
    """

    code: str
    values: dict[str, str] = field(default_factory=dict)
    target: int | None = None
    remedy: str = ""


@dataclass(frozen=True)
class Verdict:
    """A whole take judged. `tempo` in counts a minute, as danced; `others`: starts that fit as well, in counts
    later than the one judged."""

    judged: tuple[Judged, ...]
    added: tuple[Added, ...]
    tempo: float
    passes: int
    spread_ms: float
    mend: Mend
    dropped: int | None
    others: tuple[float, ...]
    lines: tuple[tuple[float, float], ...]

    def count(self, heard: Heard) -> int:
        """How many targets were heard so."""
        return sum(j.heard == heard for j in self.judged)


class NothingHeard(FirnError):
    """A take that cannot be laid over the part."""


def _best(part: Part, tempo: float, onsets: Onsets, passes: int | None) -> tuple[list[Target], Alignment]:
    """Targets and alignment for the number of passes that pairs best; both may be forced."""
    one = targets_of(part.sounds, tempo, counts=part.counts)
    if len(one) < 2:
        raise NothingHeard("This part has fewer than two sounds to listen for.")
    about = max(1, round(len(onsets) / len(one)))
    tries = [passes] if passes else sorted({max(1, about - 1), about, min(MOST_PASSES, about + 1)})
    found = []
    for number in tries:
        targets = targets_of(part.sounds, tempo, counts=part.counts, passes=number)
        laid = align([t.seconds for t in targets], onsets.times_s)
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

    Raises
    ------
    NothingHeard
        The take is silent, or cannot be laid over the part.
    """
    if len(onsets) < 2:
        raise NothingHeard("No steps are heard in this take.", hint="Is the microphone near the floor?")
    targets, laid = _best(part, tempo, onsets, passes)
    if line is not None:
        laid = along([t.seconds for t in targets], onsets.times_s, *line) or laid
    dropped = None
    if len(laid.missing) > len(targets) // 6 and line is None:
        dropped = _dropped_hold(part, targets, onsets, laid, tempo)
        if dropped is not None:
            targets = _without(part, targets, part.sounds[dropped], tempo)
            laid = align([t.seconds for t in targets], onsets.times_s) or laid
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
        mend=_mend_first(part, judged, added, dropped),
        dropped=dropped,
        others=others,
        lines=tuple(laid.others),
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
        verdict: Heard = "on" if abs(ms) <= on_ms else "late" if ms > 0 else "early"
        judged.append(Judged(target, verdict, ms, heard, expected, float(onsets.levels_db[pairs[index]])))
    return tuple(judged)


def _spread(judged: Sequence[Judged]) -> float:
    away = [j.ms for j in judged if j.ms is not None]
    return float(np.std(away)) if len(away) > 1 else 0.0


def _mend_first(part: Part, judged: Sequence[Judged], added: Sequence[Added], dropped: int | None) -> Mend:
    """A dropped hold first, then what is not heard, then what is added, then what is farthest off its time."""
    if dropped is not None:
        hold = part.sounds[dropped]
        counting = part.settings.counting
        last = hold.place + hold.length - 1
        said = counting.say(hold.place) + (f"-{counting.say(last)}" if hold.length > 1 else "")
        return Mend("hold_dropped", {"counts": said, "length": f"{hold.length}"})
    missing = [i for i, j in enumerate(judged) if j.heard == "missing" and not j.target.optional]
    if missing:
        return _most_often(part, judged, missing, "missing")
    if added:
        first = added[0]
        near = judged[max(0, first.after)]
        return Mend("added", {**_named(part, near), "many": str(len(added))}, max(0, first.after))
    off = [i for i, j in enumerate(judged) if j.heard in ("early", "late")]
    if off:
        return _most_often(part, judged, off, "off")
    return Mend("clean", {"spread": f"{_spread(judged):.0f}"})


def _most_often(part: Part, judged: Sequence[Judged], among: Sequence[int], code: str) -> Mend:
    """The sound among some that failed in most passes; of equals the one farthest off, then the first."""
    often = Counter(judged[i].target.sounds for i in among)

    def order(index: int) -> tuple[int, float, int]:
        one = judged[index]
        return -often[one.target.sounds], -abs(one.ms or 0), index

    index = min(among, key=order)
    values = {**_named(part, judged[index]), "times": str(often[judged[index].target.sounds])}
    passes = max(j.target.time for j in judged) + 1
    values["passes"] = str(passes)
    ms = judged[index].ms
    if ms is not None:
        return Mend("late" if ms > 0 else "early", values | {"ms": f"{abs(ms):.0f}"}, index)
    return Mend(code, values, index, _remedy(part, judged[index]))


def _remedy(part: Part, judged: Judged) -> str:
    """What helps where a sound is not heard: the card's own word, else that of the sound."""
    sound = part.sounds[judged.target.sounds[0]]
    card = part.uses[sound.use].card
    own = part.script.shelf.find(sound.kind.replace("_", " "), part.settings.tradition)
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
