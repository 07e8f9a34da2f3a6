"""Where everything on the strip stands: pure geometry, for painting, hit tests, print and tests alike."""

from collections.abc import Callable, Iterator
from fractions import Fraction
from itertools import pairwise

from msgspec.structs import replace
from PySide6.QtCore import QRectF

from firn.core.meter.ticks import ticks, ticks_in_a_count
from firn.core.piece.piece import Sound
from firn.session.stretch import Stretch
from firn.session.view import PLAIN, SHOWN, View
from firn.ui.widgets.strip.geometry import (
    COUNTS,
    FEET_ROOM,
    FOOT,
    HANDS_LANE,
    HANDS_ROOM,
    HOP,
    LANE,
    LEAST_COUNTS,
    LEAST_GAP,
    LEAST_PX,
    LONGEST_ROW,
    MARGIN,
    OFF,
    RELIEF,
    RELIEF_ROOM,
    RIGHT_MARGIN,
    TITLES_ROOM,
    WORDS_ROOM,
    Arc,
    Gap,
    Label,
    Placed,
    Spot,
    StripLayout,
)
from firn.ui.widgets.strip.soles import HEIGHT, WIDTH
from firn.ui.widgets.strip.thread import lay_thread


def lay_out(
    stretch: Stretch,
    width: float,
    measure: Callable[[str], float],
    *,
    scale: float = 1.0,
    extra: float = 0.0,
    least: int = LEAST_COUNTS,
    view: View = PLAIN,
) -> StripLayout:
    """Lay a stretch out, a phrase a row or as the view says; `seen` has mirrored it and left out what is hidden.

    `measure` gives a word's width in px; `scale` is the size of text and soles; `extra` is room under each row;
    a row has room for `least` counts.
    """
    pickup = min([s.place for s in stretch.sounds], default=stretch.first)
    lead = max(Fraction(0), stretch.first - pickup)
    room = (width - (MARGIN + RIGHT_MARGIN) * scale) / scale
    row_counts = _row_counts(stretch, room, float(lead), least, fitted=view.fitted)
    rows_needed = max(1, -(-stretch.counts // row_counts))
    hands = _hand_lanes(stretch) if view.shows("hands") else 0
    above = HANDS_ROOM * hands * scale
    if not view.shows("words") and not stretch.titles:
        above -= WORDS_ROOM * scale
    if stretch.titles:
        above += TITLES_ROOM * scale
    raised = 0.0 if view.shows("feet") else FEET_ROOM * scale
    lanes = _lanes(stretch)
    closed = 0.0 if view.shows("relief") else RELIEF_ROOM * scale
    lanes_top = (RELIEF + FOOT) * scale + extra - raised - closed
    row_height = lanes_top + LANE * scale * len(lanes) + above
    rows = tuple(
        (stretch.first + i * row_counts, stretch.first + (i + 1) * row_counts, i * row_height + above)
        for i in range(rows_needed)
    )
    px = (width - (MARGIN + RIGHT_MARGIN) * scale) / float(row_counts + lead)
    origins = tuple(MARGIN * scale + float(lead - first) * px for first, _, _ in rows)
    draft = StripLayout(
        rows,
        row_height,
        width,
        lead,
        row_counts,
        px,
        scale,
        above,
        hands=hands,
        lanes=lanes,
        lanes_top=lanes_top,
        raised=raised,
        closed=closed,
        origins=origins,
    )
    placed = _soles(draft, stretch, view)
    return replace(
        draft,
        placed=placed,
        counts=_counts(draft, stretch, placed) if view.shows("counts") else (),
        words=_words(draft, stretch, placed, measure) if view.shows("words") else (),
        titles=_titles(draft, stretch),
        thread=lay_thread(draft, stretch) if view.shows("feet") else (),
        holds=_holds(draft, stretch) if view.shows("feet") else (),
        relief=_relief(draft, stretch) if view.shows("relief") else (),
        arcs=_arcs(draft, stretch) if view.shows("relief") else (),
        mirrored=view.mirrored,
        spots=tuple(_spots(draft, stretch, placed)) if lanes else (),
    )


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
    hands = {s.hand for s in stretch.sounds if s.hand}
    return 2 if {"left", "right"} <= hands else 1 if hands else 0


def _lanes(stretch: Stretch) -> tuple[str, ...]:
    beside = stretch.beside
    has = {c.layer for c in beside.cues} | ({"pulse"} if beside.pulse else set())
    has |= {"scat"} if beside.syllables else set()
    return tuple(name for name in SHOWN if name in has)


def _spots(layout: StripLayout, stretch: Stretch, placed: tuple[Placed, ...]) -> Iterator[Spot]:
    """What stands in the lanes of the layers."""
    lane_of = {name: n for n, name in enumerate(layout.lanes)}
    for index, text in stretch.beside.syllables:
        spot = placed[index]
        yield Spot(spot.row, lane_of["scat"], spot.x, spot.x, text)
    for place, way in stretch.beside.pulse:
        row = layout.row_of(place)
        yield Spot(row, lane_of["pulse"], layout.x(place, row), layout.x(place, row), "", way or "down")
    for cue in stretch.beside.cues:
        row = layout.row_of(cue.given)
        x = layout.x(max(cue.given, layout.rows[0][0] - layout.lead), row)
        last = min(cue.place + cue.length, layout.rows[row][1])
        x1 = layout.x(last, row) - 8 if cue.length > 1 else x
        aim = layout.x(min(cue.place, layout.rows[row][1]), row) if cue.ahead else None
        yield Spot(row, lane_of[cue.layer], x, x1, cue.text, aim=aim)


def _sole_scale(layout: StripLayout, stretch: Stretch) -> float:
    """Narrower soles where the closest sounds of one foot would touch."""
    closest = LEAST_GAP * layout.scale
    for foot in ("left", "right"):
        own = [s.place for s in stretch.sounds if s.foot in (foot, "both")]
        in_a_count = ticks_in_a_count(own)
        gaps = [b - a for a, b in pairwise(ticks(own, in_a_count)) if a < b]
        if gaps:
            closest = min(closest, min(gaps) / in_a_count * layout.px)
    return max(0.45, closest / LEAST_GAP)


def _box(x: float, y: float, scale: float) -> QRectF:
    return QRectF(x - WIDTH * scale / 2, y - HEIGHT * scale / 2, WIDTH * scale, HEIGHT * scale)


def _soles(layout: StripLayout, stretch: Stretch, view: View) -> tuple[Placed, ...]:
    scale = _sole_scale(layout, stretch)
    placed = []
    for index, sound in enumerate(stretch.sounds):
        row = layout.row_of(sound.place)
        x = layout.x(sound.place, row)
        box, second = QRectF(), QRectF()
        if sound.foot in ("left", "right", "both") and view.shows("feet"):
            foot = "left" if sound.foot == "both" else sound.foot
            box = _box(x, _sole_y(layout, row, foot, sound), scale)
            if sound.foot == "both":
                second = _box(x, _sole_y(layout, row, "right", sound), scale)
        elif sound.hand and layout.hands:
            box = QRectF(x - 9, hand_y(layout, row, sound.hand) - 7, 18, 14)
        placed.append(Placed(index, row, x, box, second))
    return tuple(placed)


def hand_y(layout: StripLayout, row: int, hand: str) -> float:
    """The middle of a hand's lane; of what both do the middle of both lanes."""
    y = layout.rows[row][2] + HANDS_LANE * layout.scale + 3
    half = HANDS_ROOM * layout.scale / 2
    return y if layout.hands < 2 else y - half + {"left": -half, "right": half}.get(hand, 0.0)


def _sole_y(layout: StripLayout, row: int, foot: str, sound: Sound) -> float:
    """Soles that carry are strung on the thread; the others hang off it, a hop stands just above."""
    y = layout.lane(row, foot)
    carried = sound.weight in (foot, "both")
    if sound.kind in ("hop", "leap", "jump", "pickup"):
        return y - HOP * layout.scale
    # Off the thread: a little away from the other lane.
    return y if carried else y + (-OFF if foot == "left" else OFF) * layout.scale


def _counts(layout: StripLayout, stretch: Stretch, placed: tuple[Placed, ...]) -> tuple[Label, ...]:
    counting = stretch.counting
    labels = []
    for row, (first, end, _) in enumerate(layout.rows):
        y = layout.below(row, COUNTS)
        last = min(end, stretch.end)
        for count in range(int(first), int(-(-last // 1))):
            strong = count % counting.phrase == 0 or count % counting.meter.counts == 0
            labels.append(Label(counting.counted(Fraction(count)), layout.x(count, row), y, 2 if strong else 1))
    last_x: tuple[int, float] | None = None
    for sound, spot in zip(stretch.sounds, placed, strict=True):
        # Sounds at one place have one name.
        if sound.place.denominator != 1 and (spot.row, spot.x) != last_x:
            y = layout.below(spot.row, COUNTS)
            labels.append(Label(sound.say, spot.x, y, 0))
        last_x = spot.row, spot.x
    return tuple(labels)


def _words(
    layout: StripLayout, stretch: Stretch, placed: tuple[Placed, ...], measure: Callable[[str], float]
) -> tuple[Label, ...]:
    """Words over their first sounds; one that would run into the next is raised out of its way, or left out."""
    labels: list[Label] = []
    ends: dict[tuple[int, int], float] = {}
    for index, text in stretch.words:
        if not text or index >= len(placed):
            continue
        spot = placed[index]
        alone = sum(s.use == stretch.sounds[index].use for s in stretch.sounds[index : index + 2]) == 1
        x = spot.x - (measure(text) / 2 if alone else 9 * layout.scale)
        for level in (0, 1):
            if x >= ends.get((spot.row, level), -1e9):
                top = layout.top_of(spot.row) + (TITLES_ROOM if stretch.titles else 0.0) * layout.scale
                y = top + (31 - 17 * level) * layout.scale
                labels.append(Label(text, x, y, level))
                ends[spot.row, level] = x + measure(text) + 8
                break
    return tuple(labels)


def _titles(layout: StripLayout, stretch: Stretch) -> tuple[Label, ...]:
    """Names of the parts that begin, above the words: at the edge of their row, or over their first count."""
    labels = []
    for place, text in stretch.titles:
        row = layout.row_of(place)
        inside = place > layout.rows[row][0]
        x = layout.x(place, row) if inside else 24.0 * layout.scale
        labels.append(Label(text, x, layout.top_of(row) + 13 * layout.scale, 1))
    return tuple(labels)


def _holds(layout: StripLayout, stretch: Stretch) -> tuple[Gap, ...]:
    gaps = []
    for index, sound in enumerate(stretch.sounds):
        if sound.kind != "hold":
            continue
        row = layout.row_of(sound.place)
        x0 = layout.x(sound.place, row)
        x1 = min(layout.x(sound.place + sound.length, row), layout.width - 8)
        following = next((s for s in stretch.sounds[index + 1 :] if s.place > sound.place), None)
        if following is not None and layout.row_of(following.place) == row:
            # A pick-up into the next count stands inside the last one.
            x1 = min(x1, layout.x(following.place, row))
        middle = (layout.lane(row, "left") + layout.lane(row, "right")) / 2
        half = 13 * layout.scale
        gaps.append(Gap(index, row, QRectF(x0 - 10, middle - half, max(30.0, x1 - x0 - 8), 2 * half)))
    return tuple(gaps)


def _relief(layout: StripLayout, stretch: Stretch) -> tuple[tuple[float, float, int, bool], ...]:
    """The meter's own weight under each count and half: x, y, strength 0 to 3, and whether a sound is there."""
    counting = stretch.counting
    parts = 3 if counting.meter.compound or counting.feel.swing else 2
    sounded = {(s.place.numerator, s.place.denominator) for s in stretch.sounds if s.heard}
    strong = [counting.meter.weight(Fraction(c)) == 0 for c in range(counting.meter.counts)]
    marks = []
    for row, (first, end, _) in enumerate(layout.rows):
        y = layout.below(row, RELIEF)
        last = min(end, stretch.end)
        for count in range(int(first), int(-(-last // 1))):
            strength = 3 if count % counting.phrase == 0 else 2 if strong[count % len(strong)] else 1
            marks.append((layout.x(count, row), y, strength, (count, 1) in sounded))
            for part in range(1, parts):
                at = count * parts + part
                marks.append((layout.x(at / parts, row), y, 0, (at, parts) in sounded))
    return tuple(marks)


def _arcs(layout: StripLayout, stretch: Stretch) -> tuple[Arc, ...]:
    arcs = []
    for hang in stretch.hangs:
        row = layout.row_of(hang.place)
        y = layout.below(row, RELIEF + 4)
        past = hang.over >= min(layout.rows[row][1], stretch.end)
        x1 = layout.width - 8 if past else layout.x(hang.over, row)
        arcs.append(Arc(row, layout.x(hang.place, row), x1, y, past))
    return tuple(arcs)
