"""How one time of a drill went, told from what the microphone heard of it; nothing where that is not sure.

Firn knows what it played. Where its count-in is found in the recording, it came from a loudspeaker: that says how
late and how loud all of it comes back, and what is as soft and falls where something was played is Firn's. Over
headphones nothing of it is found, and nothing left out.
"""

from collections.abc import Sequence
from typing import NamedTuple

import numpy as np
import numpy.typing as npt
from msgspec import Struct

from firn.core.book.book import BookPiece
from firn.core.drills.run import How
from firn.core.drills.stage import NOT_THE_PART
from firn.core.ear.click import Click
from firn.core.ear.onsets import NONE, FloatArray, Onsets, envelope, find_onsets
from firn.core.ear.own import resampled
from firn.core.ear.timbre import class_of
from firn.core.ear.told import SURE
from firn.core.ear.verdict import NothingHeard, Verdict, judge
from firn.core.ear.words import mend_sentence
from firn.core.piece.piece import Part
from firn.core.sound.model import render
from firn.core.sound.voices import RATE
from firn.core.steps.shelf import Shelf
from firn.core.task import UNWATCHED, Task
from firn.core.timeline.timeline import Section
from firn.session.desk import read_in
from firn.session.drilling import Planned
from firn.session.listening import parts_beside

FAULT_SURE = 0.82
"""So sure a fault must be that a drill acts on it: a single time has no others to bear it out."""

SOFT = ("airy", "slide")
"""What of these is not heard once may have been danced softly."""

LOST = 0.4
"""A time of which so large a share is not on is lost."""

SOONEST_S, LATEST_S = -0.05, 0.3
"""So soon and so late what is played may come back, with all that the devices take and what Firn's clock errs."""

FOUND = 8.0
"""By how many times the spread of what is found by chance a count-in must be found."""

LEAST_ALIKE = 0.1
"""How alike it is at the least: correlation of 1 is the same."""

NULL_S = 1.2
"""What is found by chance is told from lags up to so much beside."""

COARSE_HZ = 6_000

NEAR_OWN_S = 0.04
"""So near what was played, as it comes back, a sound may be Firn's."""

LIKE_OWN_DB = 5.0
"""What is louder than what Firn played there by so much is not Firn's."""

NEAR_START = 0.4
"""So near where it is due, in counts, a time must begin: it is danced to Firn's count."""

NOT_WHOLE = "Not listened to: only all of one part is."
ALOUD = "What Firn plays is heard among your feet: over headphones it is not."


class Due(NamedTuple):
    """What is due in a recording, by Firn's clock and before the devices' delay: when the first count of what is
    danced is, and when what Firn plays sounds, in seconds; what it plays, shape (n,), from its beginning on."""

    begins_s: float
    sounds_s: Sequence[float]
    played: FloatArray


class HeardTime(Struct, frozen=True):
    """How a time went, "" where the ear is not sure; what is said of it in one sentence; its verdict, where there
    is one."""

    how: How
    said: str
    verdict: Verdict | None = None


class _Own(NamedTuple):
    """How Firn's own sounds come back: how late, in seconds, and how much louder than they were played, in dB."""

    late_s: float
    gain_db: float


def due_in(section: Section, origin_s: float) -> Due:
    """What a section sounds, in a recording at `RATE` in which it begins at a time."""
    made = np.asarray(render(section).audio, dtype=np.float64).mean(axis=1)
    first = round(origin_s * RATE)
    played = np.concatenate([np.zeros(max(0, first)), made[max(0, -first) :]])
    sounds = sorted({origin_s + float(event.at_s) for event in section.events()})
    return Due(origin_s + float(section.seconds_at(section.first)), sounds, played)


def part_heard(piece: BookPiece, one: Planned, shelf: Shelf) -> Part | str:
    """The part that a stage dances, where the ear can tell how it went; else why it cannot."""
    stage = one.stage
    kept = piece.part(stage.parts[0]) if len(stage.parts) == 1 else None
    if kept is None or stage.span is not None or stage.sounds or stage.kind in NOT_THE_PART:
        return NOT_WHOLE
    if stage.heard == "count_only":
        return "Not listened to: nothing is danced."
    return read_in(piece, kept, kept.text, shelf)


def heard_how(
    part: Part,
    tempo: float,
    sound: npt.ArrayLike,
    rate: int,
    due: Due,
    *,
    beside: Sequence[Part] = (),
    model: bool = False,
    task: Task = UNWATCHED,
) -> HeardTime:
    """How one time through a part went.

    Parameters
    ----------
    part : Part
    tempo : float
        Counts a minute.
    sound : array_like, shape (n,)
        The recording, its count-in included.
    rate : int
        Its sample rate, in Hz, and that of what was played.
    due : Due
    beside : sequence of Part
        Other parts of the piece.
    model : bool
        Whether Firn plays the steps, or music, too.
    task : Task
    """
    samples = np.asarray(sound, dtype=np.float64)
    heard = find_onsets(samples, rate, task=task.within(0, 0.6))
    beat_s = 60 / tempo
    own = _own(samples, rate, due, beat_s)
    if own is not None and model:
        return HeardTime("", ALOUD)
    first = min((s.position for s in part.sounds if s.heard), default=part.first_count)
    until_s = float(first - part.first_count) * beat_s
    feet = heard.only(heard.times_s > due.begins_s - NEAR_START * beat_s)
    masked, click = np.zeros(0), None
    if own is not None:
        mine = _of_own(feet, own, due, rate)
        faint = feet.faint or NONE
        masked = np.concatenate([feet.times_s[mine], faint.times_s[_of_own(faint, own, due, rate)]])
        feet = feet.only(~mine).but_faint(lambda heard: _of_own(heard, own, due, rate))
        click = Click(due.begins_s + own.late_s + until_s)
    try:
        verdict = judge(part, tempo, feet, click=click, others=parts_beside(beside, part, tempo))
    except NothingHeard as fault:
        return HeardTime("", fault.message)
    said = mend_sentence(verdict.mend)
    wanted_s = due.begins_s + (own.late_s if own is not None else LATEST_S / 2)
    near = NEAR_START * beat_s + (0.0 if own is not None else LATEST_S / 2)
    astray = abs(verdict.judged[0].expected_s - until_s - wanted_s) > near
    missed = [one.expected_s for one in verdict.judged if one.heard == "missing"]
    # What is missing where Firn played may have been danced, as softly as that.
    covered = len(masked) and any(np.min(np.abs(masked - at)) < 2 * NEAR_OWN_S for at in missed)
    if astray or covered or min(verdict.match.sure, verdict.mend.sure) < SURE:
        return HeardTime("", said, verdict)
    if verdict.mend.code == "clean":
        return HeardTime("clean", said, verdict)
    soft = any(
        class_of(part.sounds[one.target.sounds[0]].kind) in SOFT for one in verdict.judged if one.heard == "missing"
    )
    if verdict.mend.sure < FAULT_SURE or soft:
        return HeardTime("", said, verdict)
    off = sum(one.heard != "on" for one in verdict.judged) / max(1, len(verdict.judged))
    return HeardTime("lost" if off >= LOST else "slip", said, verdict)


def _own(samples: FloatArray, rate: int, due: Due, beat_s: float) -> _Own | None:
    """How Firn's own sounds come back, told from the count-in by correlation; None where they do not."""
    from scipy.signal import correlate

    until = round((due.begins_s - NEAR_START * beat_s) * COARSE_HZ)
    led = resampled(due.played, rate, COARSE_HZ)[:until]
    spare = round((NULL_S + LATEST_S) * COARSE_HZ)
    heard = np.pad(resampled(samples, rate, COARSE_HZ)[: until + round(LATEST_S * COARSE_HZ)], (spare, spare))
    if not led.any():
        return None
    energy = np.concatenate([[0.0], np.cumsum(heard**2)])
    around = np.sqrt(np.maximum(energy[len(led) :] - energy[: -len(led)], 1e-12))
    found = np.abs(correlate(heard, led, "valid", "fft")) / (around * float(np.linalg.norm(led)))
    lags = np.arange(len(found)) - spare
    wanted = (lags >= SOONEST_S * COARSE_HZ) & (lags <= LATEST_S * COARSE_HZ)
    by_chance = float(np.median(found[~wanted])) / 0.6745
    at = int(np.argmax(np.where(wanted, found, 0)))
    if found[at] < max(LEAST_ALIKE, FOUND * by_chance):
        return None
    late_s = float(lags[at]) / COARSE_HZ
    mine, back = envelope(due.played, rate), envelope(samples, rate)
    loud = [
        20 * np.log10(_peak(back, rate, one + late_s) / _peak(mine, rate, one))
        for one in due.sounds_s
        if one < due.begins_s - NEAR_START * beat_s
    ]
    return _Own(late_s, float(np.median(loud)))


def _peak(envelope: FloatArray, rate: int, at_s: float) -> float:
    first = max(0, round((at_s - NEAR_OWN_S) * rate))
    return max(1e-9, float(envelope[first : first + round(2 * NEAR_OWN_S * rate)].max(initial=0.0)))


def _of_own(heard: Onsets, own: _Own, due: Due, rate: int) -> npt.NDArray[np.bool_]:
    """What of what is heard may be Firn's: it comes where something was played, and is as soft."""
    mine, played = np.zeros(len(heard), dtype=bool), envelope(due.played, rate)
    for at in due.sounds_s:
        level = 20 * np.log10(_peak(played, rate, at)) + own.gain_db
        near = np.abs(heard.times_s - at - own.late_s) < NEAR_OWN_S
        mine |= near & (heard.levels_db < level + LIKE_OWN_DB)
    return mine
