"""Where everything on the strip stands: pure geometry, for painting, hit tests, print and tests alike."""

from collections.abc import Callable
from fractions import Fraction
from itertools import pairwise

from msgspec import Struct
from msgspec.structs import replace
from PySide6.QtCore import QPointF, QRectF

from firn.core.meter.ticks import ticks, ticks_in_a_count
from firn.core.piece.piece import Sound
from firn.session.desk import Stretch
from firn.ui.widgets.strip.soles import HEIGHT, WIDTH
from firn.ui.widgets.strip.thread import Run, lay_thread

MARGIN, RIGHT_MARGIN = 66.0, 34.0
LEFT_LANE, RIGHT_LANE, COUNTS, RELIEF = 69.0, 123.0, 177.0, 197.0
HANDS_LANE, HANDS_ROOM = 28.0, 20.0
HOP = 12.0
OFF = 4.0
LEAST_GAP = 23.0
LONGEST_ROW = 16
LEAST_COUNTS = 4


class Placed(Struct, frozen=True):
    """A sound on the strip: its index, row, the place of its x, and the sole's box (empty for no foot)."""

    index: int
    row: int
    x: float
    box: QRectF
    second: QRectF


class Label(Struct, frozen=True):
    """A text, its baseline's centre or left end, and whether it is a strong, plain or light count."""

    text: str
    x: float
    y: float
    strength: int


class Gap(Struct, frozen=True):
    """A hold: a named gap."""

    index: int
    row: int
    box: QRectF


class Arc(Struct, frozen=True):
    """From a sound to the silent beat that it hangs over, under the relief; `open`: that lies past the row."""

    row: int
    x0: float
    x1: float
    y: float
    open: bool


class StripLayout(Struct, frozen=True):
    """A stretch laid out at a width: rows as (first count, end, top), the px of a count, and everything on them.

    `above`: room over each row's top, for the lane of the hands where there are any. `origins`: the x of place 0 as
    each row has it.
    """

    rows: tuple[tuple[Fraction, Fraction, float], ...]
    row_height: float
    width: float
    lead: Fraction
    row_counts: int
    px: float
    scale: float
    above: float = 0.0
    origins: tuple[float, ...] = ()
    placed: tuple[Placed, ...] = ()
    counts: tuple[Label, ...] = ()
    words: tuple[Label, ...] = ()
    titles: tuple[Label, ...] = ()
    thread: tuple[Run, ...] = ()
    holds: tuple[Gap, ...] = ()
    relief: tuple[tuple[float, float, int, bool], ...] = ()
    arcs: tuple[Arc, ...] = ()

    @property
    def height(self) -> float:
        """The height of all rows."""
        return self.row_height * len(self.rows)

    def x(self, place: Fraction | float, row: int) -> float:
        """The x of a place in a row."""
        # In floats: a keystroke asks this for every mark of the strip.
        return self.origins[row] + float(place) * self.px

    def row_of(self, place: Fraction) -> int:
        """The row that a place stands in; the first takes pick-ups, the last what is past its end."""
        number = (place.numerator - int(self.rows[0][0]) * place.denominator) // (self.row_counts * place.denominator)
        return min(len(self.rows) - 1, max(0, number))

    def top_of(self, row: int) -> float:
        """The y on which a row begins, the room above its lanes included."""
        return row * self.row_height

    def drawn(self, stretch: Stretch) -> list[list[object]]:
        """All that is drawn in each row, for telling which rows differ from another layout's."""
        rows: list[list[object]] = [[r] for r in self.rows]
        for placed in self.placed:
            sound = stretch.sounds[placed.index]
            look = (
                sound.strikes,
                sound.foot,
                sound.kind,
                sound.silent,
                sound.level,
                sound.optional,
                sound.as_one,
                sound.hand,
            )
            rows[placed.row] += [placed.x, placed.box, placed.second, look]
        for run in self.thread:
            rows[run.row].append(run)
        for gap in self.holds:
            rows[gap.row].append(gap.box)
        for arc in self.arcs:
            rows[arc.row].append(arc)
        for label in (*self.counts, *self.words, *self.titles):
            rows[min(len(rows) - 1, max(0, int(label.y // self.row_height)))].append(label)
        for rise in self.relief:
            rows[min(len(rows) - 1, int(rise[1] // self.row_height))].append(rise)
        return rows

    def lane(self, row: int, foot: str) -> float:
        """The y of a foot's lane in a row."""
        return self.rows[row][2] + (LEFT_LANE if foot == "left" else RIGHT_LANE) * self.scale

    def at(self, point: QPointF) -> Fraction | None:
        """The place under a point, to the count's half; None off the strip."""
        row = int(point.y() // self.row_height)
        if not 0 <= row < len(self.rows):
            return None
        first, end, _ = self.rows[row]
        place = first - self.lead + Fraction(round((point.x() - self.x(first - self.lead, row)) / self.px * 2), 2)
        return min(max(place, first - self.lead), end)

    def sound_at(self, point: QPointF) -> int | None:
        """The sound under a point, with a border of 6 px."""
        near = [p for p in self.placed if p.box.adjusted(-6, -6, 6, 6).contains(point)]
        return min(near, key=lambda p: abs(p.box.center().x() - point.x())).index if near else None


def lay_out(
    stretch: Stretch,
    width: float,
    measure: Callable[[str], float],
    *,
    scale: float = 1.0,
    extra: float = 0.0,
    least: int = LEAST_COUNTS,
) -> StripLayout:
    """Lay a stretch out, a phrase a row.

    `measure` gives a word's width in px; `scale` is the size of text and soles; `extra` is room under each row;
    a row has room for `least` counts.
    """
    row_counts = min(stretch.counting.phrase, LONGEST_ROW)
    while row_counts > 1 and stretch.counting.phrase % row_counts:
        row_counts -= 1
    if stretch.counts and stretch.counts < row_counts:
        row_counts = max(least, stretch.counts)
    pickup = min([s.place for s in stretch.sounds], default=stretch.first)
    lead = max(Fraction(0), stretch.first - pickup)
    rows_needed = max(1, -(-stretch.counts // row_counts))
    above = HANDS_ROOM * scale if any(s.hand for s in stretch.sounds) else 0.0
    row_height = (RELIEF + 26) * scale + extra + above
    rows = tuple(
        (stretch.first + i * row_counts, stretch.first + (i + 1) * row_counts, i * row_height + above)
        for i in range(rows_needed)
    )
    px = (width - (MARGIN + RIGHT_MARGIN) * scale) / float(row_counts + lead)
    origins = tuple(MARGIN * scale + float(lead - first) * px for first, _, _ in rows)
    draft = StripLayout(rows, row_height, width, lead, row_counts, px, scale, above, origins)
    placed = _soles(draft, stretch)
    return replace(
        draft,
        placed=placed,
        counts=_counts(draft, stretch, placed),
        words=_words(draft, stretch, placed, measure),
        titles=_titles(draft, stretch),
        thread=lay_thread(draft, stretch),
        holds=_holds(draft, stretch),
        relief=_relief(draft, stretch),
        arcs=_arcs(draft, stretch),
    )


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


def _soles(layout: StripLayout, stretch: Stretch) -> tuple[Placed, ...]:
    scale = _sole_scale(layout, stretch)
    placed = []
    for index, sound in enumerate(stretch.sounds):
        row = layout.row_of(sound.place)
        x = layout.x(sound.place, row)
        box, second = QRectF(), QRectF()
        if sound.foot in ("left", "right", "both"):
            foot = "left" if sound.foot == "both" else sound.foot
            box = _box(x, _sole_y(layout, row, foot, sound), scale)
            if sound.foot == "both":
                second = _box(x, _sole_y(layout, row, "right", sound), scale)
        elif sound.hand:
            box = QRectF(x - 9, layout.rows[row][2] + HANDS_LANE * layout.scale - 4, 18, 14)
        placed.append(Placed(index, row, x, box, second))
    return tuple(placed)


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
    for row, (first, end, top) in enumerate(layout.rows):
        y = top + COUNTS * layout.scale
        last = min(end, stretch.end)
        for count in range(int(first), int(-(-last // 1))):
            strong = count % counting.phrase == 0 or count % counting.meter.counts == 0
            labels.append(Label(counting.counted(Fraction(count)), layout.x(count, row), y, 2 if strong else 1))
    last_x: tuple[int, float] | None = None
    for sound, spot in zip(stretch.sounds, placed, strict=True):
        # Sounds at one place have one name.
        if sound.place.denominator != 1 and (spot.row, spot.x) != last_x:
            y = layout.rows[spot.row][2] + COUNTS * layout.scale
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
                y = layout.rows[spot.row][2] + (31 - 17 * level) * layout.scale - layout.above
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
        labels.append(Label(text, x, layout.rows[row][2] + 13 * layout.scale - layout.above, 1))
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
    for row, (first, end, top) in enumerate(layout.rows):
        y = top + RELIEF * layout.scale
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
        y = layout.rows[row][2] + (RELIEF + 4) * layout.scale
        past = hang.over >= min(layout.rows[row][1], stretch.end)
        x1 = layout.width - 8 if past else layout.x(hang.over, row)
        arcs.append(Arc(row, layout.x(hang.place, row), x1, y, past))
    return tuple(arcs)
