"""What stands on a strip and where: values, for painting, hit tests, print and tests alike."""

from fractions import Fraction

from msgspec import Struct
from PySide6.QtCore import QPointF, QRectF

from firn.session.stretch import Stretch

MARGIN, RIGHT_MARGIN = 66.0, 34.0
LEFT_LANE, RIGHT_LANE, COUNTS, RELIEF = 69.0, 123.0, 177.0, 197.0
HANDS_LANE, HANDS_ROOM = 28.0, 20.0
WORDS_ROOM = 26.0
TITLES_ROOM = 17.0
RELIEF_ROOM = 16.0
FEET_ROOM = 106.0
LANE = 22.0
"""The height of a lane for a layer under the counts."""

FOOT = 26.0
LEAST_PX = 44.0
"""The least room for a count where rows are fitted."""

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


class Spot(Struct, frozen=True):
    """Something in the lane of a layer: words from x on, for as long as to x1; or a mark that goes down or up.

    `aim`: the x of the count that a signal is for.
    """

    row: int
    lane: int
    x: float
    x1: float
    text: str
    way: str = ""
    aim: float | None = None


class Run(Struct, frozen=True):
    """A stretch of thread: from x to x in a lane, swinging over from another lane where it begins.

    `style`: on (weight on one foot), both, air, seat. `start`, `end` are positions in counts. `swing`: how many px
    before x0 it leaves the lane it comes from (0: none); `cut`: how many before x1 the next one takes over.
    """

    row: int
    x0: float
    x1: float
    y0: float
    y1: float
    style: str
    start: Fraction
    end: Fraction
    swing: float = 0.0
    cut: float = 0.0


class StripLayout(Struct, frozen=True):
    """A stretch laid out at a width: rows as (first count, end, top), the px of a count, and everything on them.

    `above`: room over each row's top, for the lanes of the hands where there are any (`hands`). `origins`: the x of
    place 0 as each row has it. `lanes`: the layers under the counts, from `lanes_top` on; `raised`: how much higher
    all under the feet stands where these are left out, `closed` what stands under the relief where that is.
    `mirrored`: left and right are swapped, which is said.
    """

    rows: tuple[tuple[Fraction, Fraction, float], ...]
    row_height: float
    width: float
    lead: Fraction
    row_counts: int
    px: float
    scale: float
    above: float = 0.0
    hands: int = 0
    lanes: tuple[str, ...] = ()
    lanes_top: float = 0.0
    raised: float = 0.0
    closed: float = 0.0
    mirrored: bool = False
    origins: tuple[float, ...] = ()
    placed: tuple[Placed, ...] = ()
    counts: tuple[Label, ...] = ()
    words: tuple[Label, ...] = ()
    titles: tuple[Label, ...] = ()
    thread: tuple[Run, ...] = ()
    holds: tuple[Gap, ...] = ()
    relief: tuple[tuple[float, float, int, bool], ...] = ()
    arcs: tuple[Arc, ...] = ()
    spots: tuple[Spot, ...] = ()

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
        for spot in self.spots:
            rows[spot.row].append(spot)
        for label in (*self.counts, *self.words, *self.titles):
            rows[min(len(rows) - 1, max(0, int(label.y // self.row_height)))].append(label)
        for rise in self.relief:
            rows[min(len(rows) - 1, int(rise[1] // self.row_height))].append(rise)
        return rows

    def lane(self, row: int, foot: str) -> float:
        """The y of a foot's lane in a row."""
        return self.rows[row][2] + (LEFT_LANE if foot == "left" else RIGHT_LANE) * self.scale

    def below(self, row: int, y: float) -> float:
        """The y of something under the feet in a row: counts, relief, marks."""
        closed = self.closed if y > RELIEF else 0.0
        return self.rows[row][2] + y * self.scale - self.raised - closed

    def lane_y(self, row: int, lane: int) -> float:
        """The middle of a layer's lane in a row."""
        return self.rows[row][2] + self.lanes_top + (lane + 0.5) * LANE * self.scale

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
