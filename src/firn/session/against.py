"""What was tapped, or heard in a clip, held against a part: another pass of it, slower, or on the other side."""

from collections import Counter
from collections.abc import Sequence
from fractions import Fraction

import numpy as np
from msgspec import Struct

from firn.core.book.clips import Walls
from firn.core.ear.judged import Judged
from firn.core.ear.match import FASTEST, LEAST, SLOWEST, candidate_of
from firn.core.ear.onsets import Onsets
from firn.core.ear.passes import heard_in, passes_in
from firn.core.ear.verdict import NothingHeard, judge
from firn.core.piece.piece import Part
from firn.core.reading.walls import WALLS
from firn.core.script.combo_item import ordinal
from firn.core.steps.sides import ACROSS
from firn.errors import FirnError
from firn.session.tap_script import Tap
from firn.session.tap_words import LIKE

PACES = (1.0, 2.0, 0.5, 1.5, 2 / 3, 4.0, 0.25)
"""How many times as fast as it was read a pass may have been: what is half of what, nobody hears."""

OFF = 6
"""A sound a sixth of a count off its place is somewhere else."""

MOSTLY = 0.7
"""Where so many feet are the part's, or all the others, it is on that side."""

MOST_SAID = 4

NEAR_TURN = 0.75
"""So many counts before or after a turn its wall may be marked."""

SOON = 0.25
"""So little before a count is as good as on it."""


class Against(Struct, frozen=True):
    """Passes of a part, as they were tapped: at how many counts a minute, how many, on the other side or not (None
    where no feet were said), and each difference: the pass from 1, and what it is in words."""

    name: str
    tempo: float
    passes: int
    swapped: bool | None
    differences: tuple[tuple[int, str], ...]

    @property
    def said(self) -> str:
        """All of it in a sentence."""
        side = "" if self.swapped is None else ", on the other side" if self.swapped else ", on the same side"
        times = {1: "once", 2: "twice"}.get(self.passes, f"{self.passes} times")
        said = f"Held against {self.name}: {times} through at {self.tempo:.0f} a minute{side}"
        if not self.differences:
            return f"{said}, nothing different."
        each = [f"the {ordinal(n)} {what}" if self.passes > 1 else what for n, what in self.differences[:MOST_SAID]]
        more = len(self.differences) - MOST_SAID
        return f"{said}; {'; '.join(each)}{f'; and {more} more' if more > 0 else ''}."


def held_against(part: Part, taps: Sequence[Tap], tempo: float, walls: Walls = ()) -> Against:
    """Taps, ascending, as passes of a part; `tempo`: the counts a minute at which they were read; `walls`: those
    faced meanwhile, at times as the taps have them. Raises FirnError where they are none."""
    # As of a take that begins a second before them.
    times = np.array([1 + tap.at_s - taps[0].at_s for tap in taps], dtype=np.float64)
    none = FirnError(f"This is no pass of {part.name}: too few of its sounds fall into place.")
    heard = heard_in(times)
    shares = {}
    for pace in PACES:
        one = candidate_of(part, tempo * pace)
        if one is not None:
            shares[pace] = passes_in(heard, one, SLOWEST, FASTEST).share
    pace = max(shares, key=lambda p: shares[p], default=1.0)
    if shares.get(pace, 0.0) < LEAST:
        raise none
    onsets = Onsets(times, np.zeros(len(times)))
    count_ms = 60_000 / (tempo * pace)
    try:
        verdict = judge(part, tempo * pace, onsets, on_ms=count_ms / OFF, anyway=True)
    except NothingHeard as fault:
        raise none from fault
    found = [(one, _tap_of(one, taps, times)) for one in verdict.judged]
    swapped = _swapped(part, found)
    told = [
        (one.expected_s, one.target.time + 1, what) for one, tap in found for what in _unlike(part, one, tap, swapped)
    ]
    for added in verdict.added:
        before = verdict.judged[max(0, added.after)]
        count = part.settings.counting.name(part.sounds[before.target.sounds[0]].place)
        told.append((added.heard_s, before.target.time + 1, f"has one too many after {count}"))
    told += _turned_elsewhere(part, verdict.judged, [(1 + at - taps[0].at_s, w) for at, w in walls], swapped)
    differences = tuple((number, what) for _, number, what in sorted(told))
    return Against(part.name, verdict.tempo, verdict.passes, swapped, differences)


def _tap_of(one: Judged, taps: Sequence[Tap], times: "np.ndarray") -> Tap | None:
    if one.heard_s is None:
        return None
    return taps[int(np.argmin(np.abs(times - one.heard_s)))]


def _swapped(part: Part, found: Sequence[tuple[Judged, Tap | None]]) -> bool | None:
    """Whether the feet are mostly the others than written; None where too few were said, or they are mixed."""
    same: Counter[bool] = Counter()
    for one, tap in found:
        foot = part.sounds[one.target.sounds[0]].foot
        if tap is not None and tap.foot in ACROSS and foot in ACROSS:
            same[tap.foot == foot] += 1
    many = same.total()
    if many < 2 or max(same.values()) < MOSTLY * many:
        return None
    return same[False] > same[True]


def _turned_elsewhere(
    part: Part, judged: Sequence[Judged], walls: Sequence[tuple[float, int]], swapped: bool | None
) -> list[tuple[float, int, str]]:
    """Where another wall is faced than the part's turns lead to from the one before: when, in which pass from 1, and
    what."""
    many = float(part.counts)
    places = [float(part.sounds[one.target.sounds[0]].position) for one in judged]
    times = np.array([one.expected_s for one in judged])
    counts = np.array([place + one.target.time * many for place, one in zip(places, judged, strict=True)])
    beat_s = (times[-1] - times[0]) / max(1e-9, counts[-1] - counts[0])
    # What was faced before still is where they begin.
    began = [(max(at, float(times[0])), wall) for at, wall in walls if at < times[0] - beat_s][-1:]
    inside = began + [(at, wall) for at, wall in walls if times[0] - beat_s <= at <= times[-1] + beat_s]
    way = -8 if swapped else 8

    def led_to(count: float) -> float:
        """How far the part has turned by a count, in eighths of a turn to the right."""
        passes, within = divmod(count - float(part.first_count), many)
        turned = sum(s.turn for s in part.sounds if float(s.position - part.first_count) <= within)
        return float(turned + int(passes) * sum(s.turn for s in part.sounds)) * way

    # A wall may be marked before or after it is reached.
    marked = [(at, wall, counts[0] + (at - times[0]) / beat_s) for at, wall in inside]
    led = [[led_to(count + by) for by in (SOON, -NEAR_TURN, NEAR_TURN)] for _, _, count in marked]
    found = []
    for number in range(1, len(marked)):
        (_, base, _), (at, wall, count) = marked[number - 1], marked[number]
        wanted = [round(base + there - here) % 8 for there in led[number] for here in led[number - 1]]
        if wall not in wanted:
            place = part.settings.counting.number(Fraction(int((count + SOON) // 1)) % part.counts)
            times_through = max(1, int((count + SOON - float(part.first_count)) // many) + 1)
            found.append((at, times_through, f"faces the {WALLS[wall]} on {place}, not the {WALLS[wanted[0]]}"))
    return found


def _unlike(part: Part, one: Judged, tap: Tap | None, swapped: bool | None) -> list[str]:
    """What of a sound is otherwise than written."""
    sound = part.sounds[one.target.sounds[0]]
    count = part.settings.counting.name(sound.place)
    if tap is None:
        return [f"left out {count}"]
    unlike = [f"came {one.heard} on {count}"] if one.heard in ("early", "late") else []
    foot = ACROSS.get(sound.foot, sound.foot) if swapped else sound.foot
    if swapped is not None and tap.foot in ACROSS and foot in ACROSS and tap.foot != foot:
        unlike.append(f"has the {tap.foot} foot on {count}")
    if tap.word != Tap(0).word and sound.kind not in LIKE.get(tap.word, (tap.word.replace(" ", "_"),)):
        unlike.append(f"has a {tap.word} on {count}, not a {sound.kind.replace('_', ' ')}")
    return unlike
