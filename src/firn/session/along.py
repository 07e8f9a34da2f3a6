"""How one time of a drill went, told from what the microphone heard of it; nothing where that is not sure.

Firn's own count-in, heard in the same recording, says how loud its beats come back from the loudspeaker and how late:
what is as soft and falls on a beat is Firn's, and who is late is so against the click. Over headphones nothing of it
is heard, and nothing taken out.
"""

from collections.abc import Sequence
from typing import NamedTuple

import numpy as np
from msgspec import Struct

from firn.core.drills.run import How
from firn.core.ear.click import Click
from firn.core.ear.onsets import Onsets, find_onsets
from firn.core.ear.told import SURE
from firn.core.ear.verdict import NothingHeard, Verdict, judge
from firn.core.ear.words import mend_sentence
from firn.core.piece.piece import Part
from firn.core.task import UNWATCHED, Task
from firn.files.audio import FloatArray
from firn.session.listening import parts_beside

LOST = 0.4
"""A time of which so large a share is not on is lost."""

LATEST_S = 0.25
"""So late at the most what is played comes back, with all that the devices take."""

ON_BEAT_S = 0.05
"""So near a beat, as it comes back, a sound may be Firn's."""

LIKE_OWN_DB = 4.0
"""What is louder than Firn's own sounds in the count-in by so much is not one of them."""

STEADY_S = 0.02
LEAST_BEATS = 3
NEAR_START = 0.4
"""So near where it is due, in counts, a time must begin: it is danced to Firn's count."""


class Due(NamedTuple):
    """When things are due in a recording, by Firn's clock and before the devices' delay, in seconds: the first count
    of what is danced; Firn's own beats, in the count-in and while it is danced."""

    begins_s: float
    led_s: Sequence[float]
    beats_s: Sequence[float]


class HeardTime(Struct, frozen=True):
    """How a time went, "" where the ear is not sure; what is said of it in one sentence; its verdict, where there
    is one."""

    how: How
    said: str
    verdict: Verdict | None = None


class _Own(NamedTuple):
    """What Firn's own sounds are like in a recording: how late they come, in seconds, and how loud, in dB."""

    late_s: float
    level_db: float


def heard_how(
    part: Part,
    tempo: float,
    sound: FloatArray,
    rate: int,
    due: Due,
    *,
    beside: Sequence[Part] = (),
    task: Task = UNWATCHED,
) -> HeardTime:
    """How one time through a part went, from a recording of it and of its count-in, shape (n,); `beside`: other parts
    of the piece."""
    heard = find_onsets(sound, rate, task=task.within(0, 0.7))
    beat_s = 60 / tempo
    own = _own(heard, due, beat_s)
    feet, masked = heard.only(heard.times_s > due.begins_s - NEAR_START * beat_s), np.zeros(0)
    click = None
    first = min((s.position for s in part.sounds if s.heard), default=part.first_count)
    if own is not None:
        feet, masked = _without(feet, own, due)
        click = Click(due.begins_s + own.late_s + float(first - part.first_count) * beat_s)
    try:
        others = parts_beside(beside, part, tempo)
        verdict = judge(part, tempo, feet, click=click, others=others, task=task.within(0.7, 1))
    except NothingHeard as fault:
        return HeardTime("", fault.message)
    said = mend_sentence(verdict.mend)
    wanted_s = due.begins_s + (own.late_s if own is not None else LATEST_S / 2)
    begun_s = verdict.judged[0].expected_s - float(first - part.first_count) * beat_s
    near = NEAR_START * beat_s + (0.0 if own is not None else LATEST_S / 2)
    if abs(begun_s - wanted_s) > near or verdict.match.sure < SURE:
        return HeardTime("", said, verdict)
    missed = [one.expected_s for one in verdict.judged if one.heard == "missing"]
    if len(masked) and any(np.min(np.abs(masked - at)) < 2 * ON_BEAT_S for at in missed):
        # It may have been danced, as softly as the beat.
        return HeardTime("", said, verdict)
    if verdict.mend.sure < SURE:
        return HeardTime("", said, verdict)
    if verdict.mend.code == "clean":
        return HeardTime("clean", said, verdict)
    off = sum(one.heard != "on" for one in verdict.judged) / max(1, len(verdict.judged))
    return HeardTime("lost" if off >= LOST else "slip", said, verdict)


def _own(heard: Onsets, due: Due, beat_s: float) -> _Own | None:
    """Firn's own sounds as they come back, told from the count-in; None where most of them do not."""
    found, late = [], []
    for at in due.led_s:
        near = np.flatnonzero((heard.times_s > at - STEADY_S) & (heard.times_s < at + min(LATEST_S, 0.45 * beat_s)))
        if len(near):
            loudest = near[int(np.argmax(heard.levels_db[near]))]
            found.append(float(heard.levels_db[loudest]))
            late.append(float(heard.times_s[loudest]) - at)
    if len(found) < max(LEAST_BEATS, 0.6 * len(due.led_s)):
        return None
    middle = float(np.median(late))
    steady = sum(abs(one - middle) < STEADY_S for one in late)
    if steady < max(LEAST_BEATS, 0.6 * len(due.led_s)):
        return None
    return _Own(middle, max(found))


def _without(heard: Onsets, own: _Own, due: Due) -> tuple[Onsets, FloatArray]:
    """What is heard without what falls on a beat and is no louder than Firn's own sounds; when that was."""
    mine = np.zeros(len(heard), dtype=bool)
    for at in due.beats_s:
        mine |= (np.abs(heard.times_s - at - own.late_s) < ON_BEAT_S) & (heard.levels_db < own.level_db + LIKE_OWN_DB)
    return heard.only(~mine), np.asarray(heard.times_s[mine], dtype=np.float64)
