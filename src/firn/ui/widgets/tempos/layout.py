"""Where everything on the tempo chart stands: pure geometry from entries of the log."""

import math
from collections.abc import Callable, Sequence
from datetime import date, timedelta

from msgspec import Struct
from PySide6.QtCore import QPointF, QRectF

from firn.core.book.log import Best, FirstFoot, LogEntry

LEFT, RIGHT, TOP, BOTTOM = 64.0, 96.0, 30.0, 34.0
LEAST_TEMPOS = 12.0
STEPS = (1, 2, 4, 5, 10, 20, 25, 40, 50, 100)


class Dot(Struct, frozen=True):
    """One entry: where it stands, its side, and whether it was clean (None: nobody judged)."""

    entry: LogEntry
    at: QPointF


class Rise(Struct, frozen=True):
    """The best clean tempo of a side over time: corners of its steps, and where its name stands."""

    side: FirstFoot
    corners: tuple[QPointF, ...]
    text: str
    text_at: QPointF


class ChartLayout(Struct, frozen=True):
    """A chart: its field, ticks as (position, text), dots and rises."""

    field: QRectF
    tempos: tuple[tuple[float, str], ...]
    days: tuple[tuple[float, str], ...]
    dots: tuple[Dot, ...]
    rises: tuple[Rise, ...]


def day_text(day: date) -> str:
    """A day as it is shown: 24 Nov."""
    return f"{day.day} {day.strftime('%b')}"


def _step(span: float, many: int) -> int:
    """The smallest usual step that divides a span into `many` or fewer."""
    return next((s for s in STEPS if span / s <= many), 100)


def lay_out(
    entries: Sequence[LogEntry], bests: Sequence[Best], width: float, height: float,
    measure: Callable[[str], float], scale: float = 1.0,
) -> ChartLayout:  # fmt: skip
    """Lay entries and the best tempos of a step out; `measure` gives a text's width in px, `scale` the text's size.

    Time runs left to right by day, with room for a day or more on each side; entries of a day stand side by side by
    their hour. Tempos reach from a tick below the slowest to one above the fastest.
    """
    left, right, above, below = (margin * scale for margin in (LEFT, RIGHT, TOP, BOTTOM))
    field = QRectF(left, above, max(10.0, width - left - right), max(10.0, height - above - below))
    if not entries:
        return ChartLayout(field, (), (), (), ())
    times = [_days(e.when) for e in entries]
    first, last = math.floor(min(times)), math.floor(max(times)) + 1
    low, high = min(e.tempo for e in entries), max(e.tempo for e in entries)
    step = _step(max(LEAST_TEMPOS, high - low), max(2, int(field.height() // (44 * scale))))
    bottom = math.floor((low - step / 2) / step) * step
    top = max(bottom + 2 * step, math.ceil((high + step / 4) / step) * step)

    def x(days: float) -> float:
        return field.left() + (days - first) / (last - first) * field.width()

    def y(tempo: float) -> float:
        return field.bottom() - (tempo - bottom) / (top - bottom) * field.height()

    tempos = tuple((y(t), str(t)) for t in range(bottom, top + 1, step))
    dots = tuple(Dot(e, QPointF(x(t), y(e.tempo))) for e, t in zip(entries, times, strict=True))
    rises = tuple(_rise(best, x, y, field) for best in bests)
    return ChartLayout(field, tempos, _day_ticks(first, last, x, field, measure), dots, _apart(rises, 22 * scale))


def _days(when: str) -> float:
    """A time as days, its hour a share of one."""
    hour = int(when[11:13]) + int(when[14:16]) / 60 if len(when) >= 16 else 12.0
    return date.fromisoformat(when[:10]).toordinal() + hour / 24


def _day_ticks(
    first: int, last: int, x: Callable[[float], float], field: QRectF, measure: Callable[[str], float]
) -> tuple[tuple[float, str], ...]:
    room = measure("28 Nov ") + 16
    every = max(1, math.ceil((last - first) * room / field.width()))
    origin = date.fromordinal(first)
    return tuple((x(first + n), day_text(origin + timedelta(days=n))) for n in range(0, last - first, every))


def _rise(best: Best, x: Callable[[float], float], y: Callable[[float], float], field: QRectF) -> Rise:
    corners: list[QPointF] = []
    for when, tempo in best.rises:
        at = QPointF(x(_days(when)), y(tempo))
        if corners:
            corners.append(QPointF(at.x(), corners[-1].y()))
        corners.append(at)
    end = QPointF(field.right(), corners[-1].y())
    corners.append(end)
    name = {"right": "R ", "left": "L ", "": ""}[best.side]
    return Rise(best.side, tuple(corners), f"{name}{best.tempo:g}", end + QPointF(10, 0))


def _apart(rises: Sequence[Rise], line: float) -> tuple[Rise, ...]:
    """Names that would stand on one another moved apart, a line of text at least."""
    placed: list[Rise] = []
    for rise in sorted(rises, key=lambda r: r.text_at.y()):
        at = rise.text_at
        if placed and at.y() - placed[-1].text_at.y() < line:
            at = QPointF(at.x(), placed[-1].text_at.y() + line)
        placed.append(Rise(rise.side, rise.corners, rise.text, at))
    return tuple(placed)
