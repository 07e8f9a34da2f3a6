"""What stands on a strip and where: values, for painting, hit tests, print and tests alike."""

from bisect import bisect_right
from collections.abc import Callable, Iterator, Sequence
from fractions import Fraction
from functools import cached_property
from typing import overload

from msgspec import Struct
from PySide6.QtCore import QPointF, QRectF

from firn.session.stretch import Stretch
from firn.session.view import View

MARGIN, RIGHT_MARGIN = 66.0, 34.0
LEFT_LANE, RIGHT_LANE, COUNTS, RELIEF = 69.0, 123.0, 177.0, 197.0
HANDS_LANE, HANDS_ROOM = 28.0, 20.0
WORDS_ROOM = 26.0
WORDS, RAISED, ASCENT = 31.0, 17.0, 13.0
"""The words' baseline from the top of a row, how much higher it is where they are raised, and how high they are."""

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


class StripLabel(Struct, frozen=True):
    """A text, its baseline's centre or left end, and whether it is a strong, plain or light count."""

    text: str
    x: float
    y: float
    strength: int


class HoldGap(Struct, frozen=True):
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


class ThreadRun(Struct, frozen=True):
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


class StripRow(Struct, frozen=True):
    """One row of a strip with everything on it: from its first count up to `end`, its lanes from `top` on.

    `sounds` and `words_from`: which of the stretch's stand in it, from one index up to another. `origin`: the x of
    place 0. `closest`: the shortest gap of one foot that ends in it, in counts, None for none. `relief`: x, y,
    strength 0 to 3, and whether a sound is there.
    """

    number: int
    first: Fraction
    end: Fraction
    top: float
    origin: float
    sounds: tuple[int, int]
    words_from: tuple[int, int]
    closest: float | None = None
    placed: tuple[Placed, ...] = ()
    counts: tuple[StripLabel, ...] = ()
    words: tuple[StripLabel, ...] = ()
    titles: tuple[StripLabel, ...] = ()
    thread: tuple[ThreadRun, ...] = ()
    holds: tuple[HoldGap, ...] = ()
    relief: tuple[tuple[float, float, int, bool], ...] = ()
    arcs: tuple[Arc, ...] = ()
    spots: tuple[Spot, ...] = ()


class Frame(Struct, frozen=True):
    """The measures that all rows of a strip share: the px of a count, the size of everything, room above and below.

    `above`: room over each row's top, for the lanes of the hands where there are any (`hands`). `lanes`: the layers
    under the counts, from `lanes_top` on; `raised`: how much higher all under the feet stands where these are left
    out, `closed` what stands under the relief where that is. `sole`: the size of soles. `titled`: parts have names.
    `text`: the size of words; `headroom`: what is over the words, where they are larger than all else.
    """

    width: float
    scale: float
    row_height: float
    row_counts: int
    lead: Fraction
    px: float
    above: float
    hands: int
    lanes: tuple[str, ...]
    lanes_top: float
    raised: float
    closed: float
    sole: float
    titled: bool
    view: View
    text: float = 1.0
    headroom: float = 0.0


class StripRows(Sequence[StripRow]):
    """The rows of a strip, each laid out when it is first asked for: of a long part few are ever seen.

    `drafts`: where each begins and ends and which sounds stand in it, without what is on it. `kept`: rows that are
    laid out already, by their numbers.
    """

    def __init__(
        self, drafts: Sequence[StripRow], kept: dict[int, StripRow], lay: Callable[[StripRow], StripRow]
    ) -> None:
        self.drafts, self._laid, self._lay = drafts, kept, lay

    def __len__(self) -> int:
        return len(self.drafts)

    @overload
    def __getitem__(self, number: int) -> StripRow: ...
    @overload
    def __getitem__(self, number: slice) -> Sequence[StripRow]: ...
    def __getitem__(self, number: int | slice) -> StripRow | Sequence[StripRow]:
        if isinstance(number, slice):
            return [self[n] for n in range(*number.indices(len(self)))]
        draft = self.drafts[number]
        found = self._laid.get(draft.number)
        if found is None:
            found = self._laid[draft.number] = self._lay(draft)
        return found

    def __iter__(self) -> Iterator[StripRow]:
        return (self[n] for n in range(len(self)))

    def laid(self, until: int) -> dict[int, StripRow]:
        """The rows before one that are laid out so far, by their numbers."""
        return {number: row for number, row in self._laid.items() if number < until}

    def is_laid(self, number: int) -> bool:
        """Whether a row has been asked for."""
        return number in self._laid


class StripLayout(Struct, frozen=True, dict=True):
    """A stretch laid out at a width, row by row."""

    frame: Frame
    rows: StripRows
    stretch: Stretch

    @property
    def scale(self) -> float:
        return self.frame.scale

    @property
    def width(self) -> float:
        return self.frame.width

    @property
    def row_height(self) -> float:
        return self.frame.row_height

    @property
    def row_counts(self) -> int:
        return self.frame.row_counts

    @property
    def height(self) -> float:
        """The height of all rows."""
        return self.frame.row_height * len(self.rows)

    @cached_property
    def placed(self) -> tuple[Placed, ...]:
        """Every sound, by its index."""
        return tuple(p for row in self.rows for p in row.placed)

    def spot(self, index: int) -> Placed | None:
        """Where a sound stands, by its index; None where there is none."""
        if not 0 <= index < len(self.stretch.sounds):
            return None
        row = self.rows[self.row_with(index)]
        return row.placed[index - row.sounds[0]]

    def row_with(self, index: int) -> int:
        """The row that a sound stands in, by its index; the last for one that is past them all."""
        return min(bisect_right(self.rows.drafts, index, key=lambda r: r.sounds[1]), len(self.rows) - 1)

    def x(self, place: Fraction | float, row: int) -> float:
        """The x of a place in a row."""
        # In floats: a keystroke asks this for every mark of a row.
        return self.rows.drafts[row].origin + float(place) * self.frame.px

    def row_of(self, place: Fraction) -> int:
        """The row that a place stands in; the first takes pick-ups, the last what is past its end."""
        counts = self.frame.row_counts
        number = (place.numerator - int(self.rows.drafts[0].first) * place.denominator) // (
            counts * place.denominator
        )
        return min(len(self.rows) - 1, max(0, number))

    def top_of(self, row: int) -> float:
        """The y on which a row begins, the room above its lanes included."""
        return row * self.frame.row_height

    def lane(self, row: int, foot: str) -> float:
        """The y of a foot's lane in a row."""
        return lane_y(self.frame, self.rows.drafts[row].top, foot)

    def at(self, point: QPointF) -> Fraction | None:
        """The place under a point, to the count's half; None off the strip."""
        number = int(point.y() // self.frame.row_height)
        if not 0 <= number < len(self.rows):
            return None
        row, lead = self.rows.drafts[number], self.frame.lead
        begins = row.first - lead
        place = begins + Fraction(round((point.x() - self.x(begins, number)) / self.frame.px * 2), 2)
        return min(max(place, begins), row.end)

    def sound_at(self, point: QPointF) -> int | None:
        """The sound under a point, with a border of 6 px."""
        number = min(len(self.rows) - 1, max(0, int(point.y() // self.frame.row_height)))
        near = [p for p in self.rows[number].placed if p.box.adjusted(-6, -6, 6, 6).contains(point)]
        return min(near, key=lambda p: abs(p.box.center().x() - point.x())).index if near else None


def drawn(layout: StripLayout, row: StripRow) -> tuple[object, ...]:
    """All that is drawn in a row, for telling whether it differs from another layout's."""
    sounds = layout.stretch.sounds[slice(*row.sounds)]
    looks = [(s.strikes, s.foot, s.kind, s.silent, s.level, s.optional, s.as_one, s.hand, s.voiced) for s in sounds]
    boxes = [(p.x, p.box, p.second) for p in row.placed]
    texts = row.counts, row.words, row.titles
    return looks, boxes, texts, row.thread, row.holds, row.relief, row.arcs, row.spots


def lane_y(frame: Frame, top: float, foot: str) -> float:
    """The y of a foot's lane in a row."""
    return top + (LEFT_LANE if foot == "left" else RIGHT_LANE) * frame.scale


def below(frame: Frame, top: float, y: float) -> float:
    """The y of something under the feet in a row: counts, relief, marks."""
    return top + y * frame.scale - frame.raised - (frame.closed if y > RELIEF else 0.0)


def layer_y(frame: Frame, top: float, lane: int) -> float:
    """The middle of a layer's lane in a row."""
    return top + frame.lanes_top + (lane + 0.5) * LANE * frame.scale


def hand_y(frame: Frame, top: float, hand: str) -> float:
    """The middle of a hand's lane; of what both do the middle of both lanes."""
    y = top + HANDS_LANE * frame.scale + 3
    half = HANDS_ROOM * frame.scale / 2
    return y if frame.hands < 2 else y - half + {"left": -half, "right": half}.get(hand, 0.0)
