"""The thread of the strip: where the weight is, from sound to sound."""

from fractions import Fraction

from firn.core.steps.sides import ACROSS
from firn.session.stretch import Stretch
from firn.ui.widgets.strip.geometry import Frame, StripRow, ThreadRun, lane_y


def lay_thread(frame: Frame, row: StripRow, stretch: Stretch, *, last: bool) -> tuple[ThreadRun, ...]:
    """The thread of one row, from what came before it to its end, swinging over where the weight does.

    The `last` row takes what is past its end.
    """
    sounds = stretch.sounds
    if not sounds:
        return ()
    first, end = row.sounds
    if first == 0:
        at, position = min(sounds[0].place, stretch.first), min(sounds[0].position, stretch.first)
        weight = previous = _before(stretch)
    else:
        at, position = sounds[first - 1].place, sounds[first - 1].position
        weight = previous = sounds[first - 1].weight
    events = [(s.place, s.position, s.weight) for s in sounds[first:end]]
    after = (sounds[end].place, sounds[end].position) if end < len(sounds) else (stretch.end, stretch.end)
    events.append((*after, ""))
    until_end = max(row.end, stretch.end) if last else row.end
    runs: list[ThreadRun] = []
    for until, sounding, becomes in events:
        if until > at:
            start = row.first if at < row.first and row.number else at
            stop = min(until, until_end)
            if stop > start:
                share = (sounding - position) / (until - at)
                runs.append(
                    _run(
                        frame, row, start, stop, weight, previous,
                        position + (start - at) * share, position + (stop - at) * share, cut=stop < until,
                    )
                )  # fmt: skip
            at, position, previous = until, sounding, weight
        weight = becomes
    return tuple(_swung(runs, frame.scale, begins=first == 0))


def _run(
    frame: Frame, row: StripRow, start: Fraction, stop: Fraction, weight: str, before: str, sounds: Fraction,
    until: Fraction, *, cut: bool,
) -> ThreadRun:  # fmt: skip
    x0, x1 = row.origin + float(start) * frame.px, row.origin + float(stop) * frame.px
    if cut:
        x1 += 14
    # What opens a row begins before its first count.
    if start == (row.first if row.number else row.first - frame.lead):
        x0 = min(x0, row.origin + float(row.first) * frame.px - 26 * frame.scale)
    y1 = _y(frame, row, weight)
    # From both feet nothing swings: the line of the foot that stays goes on.
    y0 = y1 if before == "both" else _y(frame, row, before)
    style = weight if weight in ("both", "air", "seat") else "on"
    return ThreadRun(row.number, x0, x1, y0, y1, style, sounds, until)


def _swung(runs: list[ThreadRun], scale: float, *, begins: bool) -> list[ThreadRun]:
    """The runs with the room that each swing takes from the run before it."""
    swung: list[ThreadRun] = []
    for number, run in enumerate(runs):
        room = cut = 0.0
        if run.y0 != run.y1:
            if number:
                room = _room(runs[number - 1], scale)
            elif begins:
                room = 14 * scale
        after = runs[number + 1] if number + 1 < len(runs) else None
        if after is not None and after.y0 != after.y1:
            cut = _room(run, scale)
        swung.append(ThreadRun(run.row, run.x0, run.x1, run.y0, run.y1, run.style, run.start, run.end, room, cut))
    return swung


def _room(run: ThreadRun, scale: float) -> float:
    """How many px a swing to the next run takes of this one."""
    return min(26 * scale, (run.x1 - run.x0) * 0.7)


def _before(stretch: Stretch) -> str:
    """The weight before the first sound: on the foot that it leaves, as far as one can tell."""
    first = stretch.sounds[0]
    if first.weight == "seat":
        return first.weight
    if first.kind in ("hop", "heel", "pickup", "chug", "hold", "toe") or first.foot == "":
        return first.weight if first.weight in ("left", "right") else "left"
    return ACROSS.get(first.foot, "left")


def _y(frame: Frame, row: StripRow, weight: str) -> float:
    if weight in ("left", "right"):
        return lane_y(frame, row.top, weight)
    return (lane_y(frame, row.top, "left") + lane_y(frame, row.top, "right")) / 2
