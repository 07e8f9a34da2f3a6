"""The thread of the strip: where the weight is, from sound to sound."""

from fractions import Fraction

from firn.core.meter.ticks import ticks, ticks_in_a_count
from firn.session.stretch import Stretch
from firn.ui.widgets.strip.geometry import Run, StripLayout


def lay_thread(layout: StripLayout, stretch: Stretch) -> tuple[Run, ...]:
    """The thread from before the first sound to the end, swinging over where the weight does."""
    if not stretch.sounds:
        return ()
    first = stretch.sounds[0]
    weight = previous = _before(stretch)
    places = [min(first.place, stretch.first), *(s.place for s in stretch.sounds), stretch.end]
    in_a_count = ticks_in_a_count([*places, layout.lead])
    at, *ends = ticks(places, in_a_count)
    position = min(first.position, stretch.first)
    sounding = [*(s.position for s in stretch.sounds), stretch.end]
    after = [*(s.weight for s in stretch.sounds), stretch.sounds[-1].weight]
    runs: list[Run] = []
    for until, sounds, becomes in zip(ends, sounding, after, strict=True):
        if until > at:
            runs += _runs(layout, in_a_count, at, until, position, sounds, weight, previous)
            at, position = until, sounds
            previous = weight
        weight = becomes
    return tuple(_swung(runs, layout.scale))


def _swung(runs: list[Run], scale: float) -> list[Run]:
    """The runs with the room that each swing takes from the run before it."""
    swung: list[Run] = []
    for number, run in enumerate(runs):
        room = cut = 0.0
        if run.y0 != run.y1:
            before = runs[number - 1] if number else None
            if before is None:
                room = 14 * scale
            elif before.row == run.row:
                room = _room(before, scale)
        after = runs[number + 1] if number + 1 < len(runs) else None
        if after is not None and after.y0 != after.y1 and after.row == run.row:
            cut = _room(run, scale)
        swung.append(Run(run.row, run.x0, run.x1, run.y0, run.y1, run.style, run.start, run.end, room, cut))
    return swung


def _room(run: Run, scale: float) -> float:
    """How many px a swing to the next run takes of this one."""
    return min(26 * scale, (run.x1 - run.x0) * 0.7)


def _before(stretch: Stretch) -> str:
    """The weight before the first sound: on the foot that it leaves, as far as one can tell."""
    first = stretch.sounds[0]
    if first.weight == "seat":
        return first.weight
    if first.kind in ("hop", "heel", "pickup", "chug", "hold", "toe") or first.foot == "":
        return first.weight if first.weight in ("left", "right") else "left"
    return {"left": "right", "right": "left"}.get(first.foot, "left")


def _y(layout: StripLayout, row: int, weight: str) -> float:
    if weight in ("left", "right"):
        return layout.lane(row, weight)
    return (layout.lane(row, "left") + layout.lane(row, "right")) / 2


def _runs(
    layout: StripLayout,
    in_a_count: int,
    at: int,
    until: int,
    start: Fraction,
    end: Fraction,
    weight: str,
    before: str,
) -> list[Run]:
    """One event's thread, cut at the ends of rows; `at` and `until` in ticks, so many in a count."""
    runs = []
    style = weight if weight in ("both", "air", "seat") else "on"
    begins = int(layout.rows[0][0]) * in_a_count
    row_ticks = layout.row_counts * in_a_count
    last = len(layout.rows) - 1
    while at < until:
        row = min(last, max(0, (at - begins) // row_ticks))
        row_start = begins + row * row_ticks
        row_end = row_start + row_ticks if row < last else until
        stop = min(until, row_end)
        middle = end if stop == until else start + (end - start) * Fraction(stop - at, until - at)
        x0, x1 = layout.x(at / in_a_count, row), layout.x(stop / in_a_count, row)
        if stop == row_end and stop < until:
            x1 += 14
        if at == row_start - (int(layout.lead * in_a_count) if row == 0 else 0) or at == row_start:
            x0 = min(x0, layout.x(row_start / in_a_count, row) - 26 * layout.scale)
        y1 = _y(layout, row, weight)
        # From both feet nothing swings: the line of the foot that stays goes on.
        y0 = y1 if before == "both" else _y(layout, row, before)
        runs.append(Run(row, x0, x1, y0, y1, style, start, middle))
        at, start, before = stop, middle, weight
    return runs
