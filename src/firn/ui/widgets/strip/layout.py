"""Where everything on the strip stands: pure geometry, for painting, hit tests, print and tests alike."""

import math
from bisect import bisect_left
from collections import deque
from collections.abc import Callable, Iterator, Sequence
from fractions import Fraction
from operator import attrgetter
from typing import NamedTuple

from msgspec.structs import replace
from PySide6.QtCore import QRectF

from firn.core.meter.ticks import ticks, ticks_in_a_count
from firn.core.piece.sound import Sound
from firn.core.same import begins_alike
from firn.core.steps.sole import HEIGHT, WIDTH
from firn.session.stretch import Stretch
from firn.session.view import PLAIN, SHOWN, View
from firn.ui.widgets.strip.geometry import (
    ASCENT,
    COUNTS,
    FEET_ROOM,
    FOOT,
    HANDS_ROOM,
    HOP,
    LANE,
    LEAST_COUNTS,
    LEAST_GAP,
    LEAST_PX,
    LONGEST_ROW,
    MARGIN,
    OFF,
    RAISED,
    RELIEF,
    RELIEF_ROOM,
    RIGHT_MARGIN,
    TITLES_ROOM,
    WORDS,
    WORDS_ROOM,
    Arc,
    Frame,
    HoldGap,
    Placed,
    Spot,
    StripLabel,
    StripLayout,
    StripRow,
    StripRows,
    below,
    hand_y,
    lane_y,
)
from firn.ui.widgets.strip.thread import lay_thread


def lay_out(
    stretch: Stretch,
    width: float,
    measure: Callable[[str], float],
    *,
    scale: float = 1.0,
    text: float = 0.0,
    extra: float = 0.0,
    least: int = LEAST_COUNTS,
    view: View = PLAIN,
    before: StripLayout | None = None,
) -> StripLayout:
    """Lay a stretch out, a phrase a row or as the view says; `seen` has mirrored it and left out what is hidden.

    `measure` gives a word's width in px; `scale` is the size of soles and of all that is between them, `text` that of
    words (0: the same); `extra` is room under each row; a row has room for `least` counts. Rows that are as they were
    in the layout `before` are taken from it.
    """
    lead = max(Fraction(0), stretch.first - stretch.sounds[0].place) if stretch.sounds else Fraction(0)
    room = (width - (MARGIN + RIGHT_MARGIN) * scale) / scale
    row_counts = _row_counts(stretch, room, float(lead), least, fitted=view.fitted)
    px = (width - (MARGIN + RIGHT_MARGIN) * scale) / float(row_counts + lead)
    hands = _hand_lanes(stretch) if view.shows("hands") else 0
    headroom = headroom_of(scale, text) if view.shows("words") else 0.0
    above = HANDS_ROOM * hands * scale + headroom
    if not view.shows("words") and not stretch.titles:
        above -= WORDS_ROOM * scale
    if stretch.titles:
        above += TITLES_ROOM * scale
    raised = 0.0 if view.shows("feet") else FEET_ROOM * scale
    lanes = _lanes(stretch)
    closed = 0.0 if view.shows("relief") else RELIEF_ROOM * scale
    lanes_top = (RELIEF + FOOT) * scale + extra - raised - closed
    frame = Frame(
        width=width,
        scale=scale,
        row_height=lanes_top + LANE * scale * len(lanes) + above,
        row_counts=row_counts,
        lead=lead,
        px=px,
        above=above,
        hands=hands,
        lanes=lanes,
        lanes_top=lanes_top,
        raised=raised,
        closed=closed,
        sole=1.0,
        titled=bool(stretch.titles),
        view=view,
        text=max(text, scale),
        headroom=headroom,
    )
    kept = _kept(before, frame, stretch)
    drafts = (*kept, *_drafts(frame, stretch, kept))
    frame = replace(frame, sole=_sole_scale(frame, drafts))
    laid = before.rows.laid(len(kept)) if before is not None and before.frame.sole == frame.sole else {}
    laying = _Laying(frame, stretch, measure)
    return StripLayout(frame, StripRows(drafts, laid, lambda row: laying.row(row, last=row is drafts[-1])), stretch)


def headroom_of(scale: float, text: float) -> float:
    """How much room a row needs over its words, so that raised ones of a size keep their heads."""
    return max(0.0, (RAISED + ASCENT) * text - WORDS * scale)


def _kept(before: StripLayout | None, frame: Frame, stretch: Stretch) -> Sequence[StripRow]:
    """The drafts of another layout's first rows, as far as all that they show, and what comes next, is the same."""
    if before is None or replace(before.frame, sole=1.0) != frame or before.stretch.first != stretch.first:
        return []
    old = before.stretch
    if (old.counting, old.titles, old.beside) != (stretch.counting, stretch.titles, stretch.beside):
        return []
    sounds = _alike(old.sounds, stretch.sounds)
    words = _alike(old.words, stretch.words)
    hangs = _alike(old.hangs, stretch.hangs)
    hung = [of[hangs].place for of in (old.hangs, stretch.hangs) if hangs < len(of)]
    until = min([old.end, stretch.end, *hung])
    rows = before.rows.drafts[:-1]
    # The thread goes on to the first sound of the next row.
    kept = bisect_left(rows, True, key=lambda row: row.sounds[1] + 1 > sounds or row.words_from[1] > words)
    return rows[: bisect_left(rows, True, hi=kept, key=lambda row: row.end > until)]


def _alike(one: Sequence[object], two: Sequence[object]) -> int:
    """How many of the first are the same in both."""
    # Nearly all are the very same, which is soon seen.
    same = begins_alike(one, two)
    for number, (a, b) in enumerate(zip(one[same:], two[same:], strict=False), same):
        if a is not b and a != b:
            return number
    return min(len(one), len(two))


_FEET = {"left": (0,), "right": (1,), "both": (0, 1)}


class _Shared(NamedTuple):
    """What stands in a row, however large it is drawn: its first count, sounds, words, and how close they come."""

    first: Fraction
    sounds: tuple[int, int]
    words: tuple[int, int]
    closest: float | None


_LONG = 300
"""Sounds of a stretch that is worth keeping."""
_last: deque[tuple[Stretch, int, Sequence[_Shared]]] = deque(maxlen=6)
"""Long stretches that were last laid out whole, their counts a row, and their rows: each is laid out in more than one
size."""


def _drafts(frame: Frame, stretch: Stretch, kept: Sequence[StripRow]) -> Iterator[StripRow]:
    """The rows after those that are kept: where each stands, and what stands in it."""
    known = next((of for of in _last if of[0] is stretch and of[1] == frame.row_counts), None)
    if kept:
        shared: Sequence[_Shared] = list(_shared(stretch, frame.row_counts, kept))
    elif known is not None:
        shared = known[2]
    else:
        shared = list(_shared(stretch, frame.row_counts))
        if len(stretch.sounds) > _LONG:
            _last.append((stretch, frame.row_counts, shared))
    for number, row in enumerate(shared, start=len(kept)):
        top, origin = number * frame.row_height + frame.above, MARGIN * frame.scale
        origin += float(frame.lead - row.first) * frame.px
        yield StripRow(number, row.first, row.first + frame.row_counts, top, origin, *row[1:])


def _shared(stretch: Stretch, row_counts: int, kept: Sequence[StripRow] = ()) -> Iterator[_Shared]:
    """What stands in the rows after those that are kept."""
    rows_needed = max(1, -(-stretch.counts // row_counts))
    sounds, words = stretch.sounds, stretch.words
    at, word = (kept[-1].sounds[1], kept[-1].words_from[1]) if kept else (0, 0)
    base = max(0, at - 64)
    places = [s.place for s in sounds[base:]]
    in_a_count = ticks_in_a_count(places)
    ticked = ticks(places, in_a_count)
    latest = [-math.inf, -math.inf]
    for sound, tick in zip(sounds[base:at], ticked, strict=False):
        for foot in _FEET.get(sound.foot, ()):
            latest[foot] = tick
    for number in range(len(kept), rows_needed):
        first = stretch.first + number * row_counts
        end = first + row_counts
        begins, begins_word, closest = at, word, math.inf
        if number == rows_needed - 1:
            at = len(sounds)
        else:
            at = base + bisect_left(ticked, end * in_a_count, lo=at - base)
        for sound, tick in zip(sounds[begins:at], ticked[begins - base : at - base], strict=True):
            for foot in _FEET.get(sound.foot, ()):
                if 0 < tick - latest[foot] < closest:
                    closest = tick - latest[foot]
                latest[foot] = tick
        while word < len(words) and words[word][0] < at:
            word += 1
        yield _Shared(first, (begins, at), (begins_word, word), closest / in_a_count if closest < math.inf else None)


def _row_counts(stretch: Stretch, room: float, lead: float, least: int, *, fitted: bool) -> int:
    """How many counts a row has: a phrase, or as many as there is room for, in whole bars."""
    counting = stretch.counting
    row_counts = min(counting.phrase, LONGEST_ROW)
    while row_counts > 1 and counting.phrase % row_counts:
        row_counts -= 1
    if fitted:
        bar = counting.meter.counts
        most = min(LONGEST_ROW, int(room / LEAST_PX - lead))
        whole = counting.phrase if most >= counting.phrase else bar
        row_counts = max(bar, most // whole * whole)
    if stretch.counts and stretch.counts < row_counts:
        row_counts = max(least, stretch.counts)
    return row_counts


def _hand_lanes(stretch: Stretch) -> int:
    """One lane for the hands, or one for each where both have something of their own to do."""
    hands = set(map(attrgetter("hand"), stretch.sounds)) - {""}
    return 2 if {"left", "right"} <= hands else 1 if hands else 0


def _lanes(stretch: Stretch) -> tuple[str, ...]:
    beside = stretch.beside
    has = {c.layer for c in beside.cues} | ({"pulse"} if beside.pulse else set())
    has |= {"scat"} if beside.syllables else set()
    return tuple(name for name in SHOWN if name in has)


def _sole_scale(frame: Frame, rows: Sequence[StripRow]) -> float:
    """Narrower soles where the closest sounds of one foot would touch."""
    gaps = [row.closest * frame.px for row in rows if row.closest is not None]
    return max(0.45, min([LEAST_GAP * frame.scale, *gaps]) / LEAST_GAP)


def _box(x: float, y: float, scale: float) -> QRectF:
    return QRectF(x - WIDTH * scale / 2, y - HEIGHT * scale / 2, WIDTH * scale, HEIGHT * scale)


class _Laying:
    """Lays single rows of a stretch."""

    def __init__(self, frame: Frame, stretch: Stretch, measure: Callable[[str], float]) -> None:
        self.frame, self.stretch, self.measure = frame, stretch, measure
        self.lane_of = {name: n for n, name in enumerate(frame.lanes)}

    def row(self, row: StripRow, *, last: bool) -> StripRow:
        """A row with everything on it; the `last` takes what is past its end."""
        frame, view = self.frame, self.frame.view
        placed = self._soles(row)
        feet, relief = view.shows("feet"), view.shows("relief")
        return replace(
            row,
            placed=placed,
            counts=self._counts(row, placed) if view.shows("counts") else (),
            words=self._words(row, placed) if view.shows("words") else (),
            titles=self._titles(row, last=last) if frame.titled else (),
            thread=lay_thread(frame, row, self.stretch, last=last) if feet else (),
            holds=self._holds(row) if feet else (),
            relief=self._relief(row) if relief else (),
            arcs=self._arcs(row, last=last) if relief else (),
            spots=tuple(self._spots(row, placed, last=last)) if frame.lanes else (),
        )

    def _x(self, row: StripRow, place: Fraction | float) -> float:
        return row.origin + float(place) * self.frame.px

    def _in(self, row: StripRow, place: Fraction, *, last: bool) -> bool:
        """Whether a place stands in a row; the first takes pick-ups, the last what is past its end."""
        return (place >= row.first or not row.number) and (place < row.end or last)

    def _soles(self, row: StripRow) -> tuple[Placed, ...]:
        frame = self.frame
        placed = []
        for index in range(*row.sounds):
            sound = self.stretch.sounds[index]
            x = self._x(row, sound.place)
            box, second = QRectF(), QRectF()
            if sound.foot in ("left", "right", "both") and frame.view.shows("feet"):
                foot = "left" if sound.foot == "both" else sound.foot
                box = _box(x, _sole_y(frame, row, foot, sound), frame.sole)
                if sound.foot == "both":
                    second = _box(x, _sole_y(frame, row, "right", sound), frame.sole)
            elif sound.hand and frame.hands:
                box = QRectF(x - 9, hand_y(frame, row.top, sound.hand) - 7, 18, 14)
            placed.append(Placed(index, row.number, x, box, second))
        return tuple(placed)

    def _counts(self, row: StripRow, placed: Sequence[Placed]) -> tuple[StripLabel, ...]:
        counting, y = self.stretch.counting, below(self.frame, row.top, COUNTS)
        labels = []
        for count in range(int(row.first), int(-(-min(row.end, self.stretch.end) // 1))):
            place = Fraction(count)
            strong = counting.number(place) == 1 or counting.strong(place)
            labels.append(StripLabel(counting.counted(place), self._x(row, count), y, 2 if strong else 1))
        last_x: float | None = None
        for spot in placed:
            sound = self.stretch.sounds[spot.index]
            # Sounds at one place have one name.
            if sound.place.denominator != 1 and spot.x != last_x:
                labels.append(StripLabel(sound.say, spot.x, y, 0))
            last_x = spot.x
        return tuple(labels)

    def _words(self, row: StripRow, placed: Sequence[Placed]) -> tuple[StripLabel, ...]:
        """Words over their first sounds; one that would run into the next is raised out of its way, or left out."""
        frame, sounds = self.frame, self.stretch.sounds
        top = row.number * frame.row_height + (TITLES_ROOM if frame.titled else 0.0) * frame.scale + frame.headroom
        labels: list[StripLabel] = []
        ends: dict[int, float] = {}
        for index, text in self.stretch.words[slice(*row.words_from)]:
            if not text or not row.sounds[0] <= index < row.sounds[1]:
                continue
            spot = placed[index - row.sounds[0]]
            alone = sum(s.use == sounds[index].use for s in sounds[index : index + 2]) == 1
            wide = self.measure(text)
            x = spot.x - (wide / 2 if alone else 9 * frame.scale)
            for level in (0, 1):
                if x >= ends.get(level, -1e9):
                    labels.append(StripLabel(text, x, top + WORDS * frame.scale - RAISED * level * frame.text, level))
                    ends[level] = x + wide + 8
                    break
        return tuple(labels)

    def _titles(self, row: StripRow, *, last: bool) -> tuple[StripLabel, ...]:
        """Names of the parts that begin, above the words: at the edge of their row, or over their first count."""
        frame = self.frame
        y = row.number * frame.row_height + 13 * frame.scale
        return tuple(
            StripLabel(text, self._x(row, place) if place > row.first else 24.0 * frame.scale, y, 1)
            for place, text in self.stretch.titles
            if self._in(row, place, last=last)
        )

    def _holds(self, row: StripRow) -> tuple[HoldGap, ...]:
        gaps = []
        frame, sounds = self.frame, self.stretch.sounds
        for index in range(*row.sounds):
            sound = sounds[index]
            if sound.kind != "hold":
                continue
            x0 = self._x(row, sound.place)
            x1 = min(self._x(row, sound.place + sound.length), frame.width - 8)
            following = next((s for s in sounds[index + 1 : row.sounds[1]] if s.place > sound.place), None)
            if following is not None:
                # A pick-up into the next count stands inside the last one.
                x1 = min(x1, self._x(row, following.place))
            middle = (lane_y(frame, row.top, "left") + lane_y(frame, row.top, "right")) / 2
            half = 13 * frame.scale
            gaps.append(HoldGap(index, row.number, QRectF(x0 - 10, middle - half, max(30.0, x1 - x0 - 8), 2 * half)))
        return tuple(gaps)

    def _relief(self, row: StripRow) -> tuple[tuple[float, float, int, bool], ...]:
        """The meter's own weight under each count and its parts."""
        counting, y = self.stretch.counting, below(self.frame, row.top, RELIEF)
        own = self.stretch.sounds[slice(*row.sounds)]
        sounded = {(s.place.numerator, s.place.denominator) for s in own if s.heard}
        marks = []
        for count in range(int(row.first), int(-(-min(row.end, self.stretch.end) // 1))):
            place = Fraction(count)
            here, _ = counting.here(place)
            parts = 3 if here.meter.compound or here.feel.swing else 2
            strength = 3 if counting.number(place) == 1 else 2 if counting.strong(place) else 1
            marks.append((self._x(row, count), y, strength, (count, 1) in sounded))
            for part in range(1, parts):
                at = count * parts + part
                marks.append((self._x(row, at / parts), y, 0, (at, parts) in sounded))
        return tuple(marks)

    def _arcs(self, row: StripRow, *, last: bool) -> tuple[Arc, ...]:
        y = below(self.frame, row.top, RELIEF + 4)
        arcs = []
        # They lie in the order of their places.
        hangs, place = self.stretch.hangs, attrgetter("place")
        first = bisect_left(hangs, row.first, key=place) if row.number else 0
        for hang in hangs[first : None if last else bisect_left(hangs, row.end, first, key=place)]:
            past = hang.over >= min(row.end, self.stretch.end)
            x1 = self.frame.width - 8 if past else self._x(row, hang.over)
            arcs.append(Arc(row.number, self._x(row, hang.place), x1, y, past))
        return tuple(arcs)

    def _spots(self, row: StripRow, placed: Sequence[Placed], *, last: bool) -> Iterator[Spot]:
        """What stands in the lanes of the layers."""
        beside, lane_of, number = self.stretch.beside, self.lane_of, row.number
        for index, text in beside.syllables:
            if row.sounds[0] <= index < row.sounds[1]:
                x = placed[index - row.sounds[0]].x
                yield Spot(number, lane_of["scat"], x, x, text)
        for place, way in beside.pulse:
            if self._in(row, place, last=last):
                yield Spot(number, lane_of["pulse"], self._x(row, place), self._x(row, place), "", way or "down")
        for cue in beside.cues:
            if not self._in(row, cue.given, last=last):
                continue
            x = self._x(row, max(cue.given, self.stretch.first - self.frame.lead))
            x1 = self._x(row, min(cue.place + cue.length, row.end)) - 8 if cue.length > 1 else x
            aim = self._x(row, min(cue.place, row.end)) if cue.ahead else None
            yield Spot(number, lane_of[cue.layer], x, x1, cue.text, aim=aim)


def _sole_y(frame: Frame, row: StripRow, foot: str, sound: Sound) -> float:
    """Soles that carry are strung on the thread; the others hang off it, a hop stands just above."""
    y = lane_y(frame, row.top, foot)
    carried = sound.weight in (foot, "both")
    if sound.kind in ("hop", "leap", "jump", "pickup"):
        return y - HOP * frame.scale
    # Off the thread: a little away from the other lane.
    return y if carried else y + (-OFF if foot == "left" else OFF) * frame.scale
