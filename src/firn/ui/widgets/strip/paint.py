"""Painting the strip: soles strung on the thread."""

from bisect import bisect_left
from collections.abc import Sequence
from fractions import Fraction

from msgspec import Struct, field
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QFont, QPainter, QPainterPath, QPen

from firn.core.piece.sound import Sound
from firn.session.stretch import Stretch
from firn.ui.theme.theme import Theme
from firn.ui.widgets.strip.geometry import (
    COUNTS,
    RELIEF,
    Arc,
    Placed,
    StripLayout,
    StripRow,
    ThreadRun,
    below,
    hand_y,
    lane_y,
)
from firn.ui.widgets.strip.lanes import paint_lanes
from firn.ui.widgets.strip.soles import Look, paint_sole


class Overlay(Struct, frozen=True):
    """What is laid over the strip.

    `played`: how far the thread is inked (a position), None while nothing plays. `chosen`: first and end place of
    the selection; `current`: the sound that the keys stand on;
    `picked`: several sounds that are picked. `marks`: sound index to level. `verdict`: sound
    index to (heard, ms), None where there is no take to show. `shade`: how loud a clip is along the counts, as
    (count, level 0 to 1), ascending; `walls`: which way is faced in it from a count on, as (count, words).
    """

    played: Fraction | None = None
    chosen: tuple[Fraction, Fraction] | None = None
    current: int | None = None
    marks: dict[int, str] = field(default_factory=dict)
    verdict: dict[int, tuple[str, float | None]] | None = None
    focus: bool = False
    picked: range = range(0)
    shade: tuple[tuple[float, float], ...] = ()
    walls: tuple[tuple[float, str], ...] = ()


class StripPainter:
    """Paints one layout with one theme."""

    def __init__(self, theme: Theme, layout: StripLayout, stretch: Stretch, overlay: Overlay) -> None:
        self._theme, self._layout, self._stretch, self._over = theme, layout, stretch, overlay
        self._frame, self._s = layout.frame, layout.scale

    def paint(self, painter: QPainter, rows: Sequence[int]) -> None:
        """Paint some rows."""
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        shown = [self._layout.rows[number] for number in rows]
        for row in shown:
            self._ground(painter, row)
        for row in shown:
            for run in row.thread:
                self._run(painter, run)
            for gap in row.holds:
                self._hold(painter, gap.box)
            for placed in row.placed:
                self._sound(painter, row, placed)
            for arc in row.arcs:
                self._arc(painter, arc)
            if self._frame.lanes:
                paint_lanes(painter, self._theme, self._frame, row)
        for row in shown:
            self._texts(painter, row)
            if self._over.verdict is not None:
                self._verdict(painter, row)

    # Ground

    def _ground(self, painter: QPainter, row: StripRow) -> None:
        theme, frame = self._theme, self._frame
        painter.setFont(theme.font(16, QFont.Weight.DemiBold))
        for foot, letter in () if frame.raised else (("left", "L"), ("right", "R")):
            painter.setPen(theme.colour(foot))
            y = lane_y(frame, row.top, foot)
            painter.drawText(QRectF(3 * self._s, y - 14, 22 * self._s, 28), Qt.AlignmentFlag.AlignCenter, letter)
        hands = [sound for p in row.placed if (sound := self._stretch.sounds[p.index]).hand]
        if hands and frame.hands:
            painter.setFont(theme.font(13))
            painter.setPen(theme.colour("quiet"))
            said = "sung" if all(sound.syllable for sound in hands) else "hands"
            painter.drawText(QPointF(max(6.0, 4 * self._s), hand_y(frame, row.top, "both") + 5 * self._s), said)
        if frame.view.mirrored:
            painter.setFont(theme.font(13))
            painter.setPen(theme.colour("chosen"))
            painter.drawText(QPointF(4 * self._s, below(frame, row.top, COUNTS)), "mirrored")
        if not frame.raised:
            y0 = lane_y(frame, row.top, "left") - 26 * self._s
            y1 = lane_y(frame, row.top, "right") + 26 * self._s
            for label in row.counts:
                if label.strength:
                    painter.setPen(QPen(theme.colour("thread" if label.strength == 2 else "hairline"), 1))
                    painter.drawLine(QPointF(label.x, y0), QPointF(label.x, y1))
        self._shade(painter, row)
        self._walls(painter, row)
        if frame.px * self._s >= 20:
            for rise in row.relief:
                self._rise(painter, *rise)

    def _shade(self, painter: QPainter, row: StripRow) -> None:
        """A clip's sound along the thread, wider where it is louder."""
        if not self._over.shade:
            return
        left, right = lane_y(self._frame, row.top, "left"), lane_y(self._frame, row.top, "right")
        middle, reach = (left + right) / 2, abs(right - left) / 2 + 10 * self._s
        begin = bisect_left(self._over.shade, (float(row.first), 0.0))
        end = bisect_left(self._over.shade, (float(row.end), 0.0))
        points = [(row.origin + count * self._frame.px, level) for count, level in self._over.shade[begin:end]]
        if len(points) > 1:
            path = QPainterPath(QPointF(points[0][0], middle))
            for side, along in ((-1, points), (1, points[::-1])):
                for x, level in along:
                    path.lineTo(x, middle + side * max(1.0, reach * level))
            path.closeSubpath()
            painter.fillPath(path, self._theme.colour("hairline"))

    def _walls(self, painter: QPainter, row: StripRow) -> None:
        """Which way is faced in a clip, under the count from which on."""
        y = below(self._frame, row.top, RELIEF) + 17 * self._s
        painter.setFont(self._theme.font(13, QFont.Weight.DemiBold))
        painter.setPen(self._theme.colour("quiet"))
        for count, said in self._over.walls:
            if row.first - 1 <= count < row.end:
                x = row.origin + max(count, float(row.first)) * self._frame.px
                painter.drawText(QPointF(x - 4, y), f"faces {said}")

    def _rise(self, painter: QPainter, x: float, y: float, strength: int, sounded: bool) -> None:
        width, height = ((8, 3), (8, 7), (8, 9), (8, 13))[strength]
        colour = self._theme.colour("thread" if sounded else "hairline")
        painter.fillRect(QRectF(x - width / 2, y - height, width, height), colour)

    def _arc(self, painter: QPainter, arc: Arc) -> None:
        """A sound held over a beat: an arc that ends in a point on the silent one, or runs off the row."""
        colour = self._theme.colour("look")
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(colour, 2.2, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap))
        depth = 13 * self._s
        path = QPainterPath(QPointF(arc.x0, arc.y))
        path.cubicTo(arc.x0 + 2, arc.y + depth, arc.x1 - 2, arc.y + depth, arc.x1, arc.y)
        painter.drawPath(path)
        if not arc.open:
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(colour)
            painter.drawEllipse(QPointF(arc.x1, arc.y), 3.4, 3.4)

    # Thread

    def _run(self, painter: QPainter, run: ThreadRun) -> None:
        theme = self._theme
        chosen = self._over.chosen
        mid = (run.start + run.end) / 2
        picked = chosen is not None and chosen[0] <= mid < chosen[1]
        self._line(painter, run, theme.colour("chosen" if picked else "thread"), 8 if picked else 4.5)
        played = self._over.played
        if played is not None and played > run.start:
            share = min(1.0, float((played - run.start) / (run.end - run.start))) if run.end > run.start else 1.0
            painter.save()
            x1 = run.x0 + (run.x1 - run.x0) * share
            left = run.x0 - run.swing - 4
            painter.setClipRect(QRectF(left, run.y1 - 200, x1 - left + (0 if share < 1 else 4), 400))
            self._line(painter, run, theme.colour("ink"), 5.5)
            painter.restore()

    def _line(self, painter: QPainter, run: ThreadRun, colour: QColor, width: float) -> None:
        # On a chair no foot carries: there is only time to go along.
        thin = 0.35 if run.style == "seat" else 1.0
        pen = QPen(colour, width * thin * min(1.0, self._s), Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap)
        if run.style == "air":
            pen.setStyle(Qt.PenStyle.CustomDashLine)
            pen.setDashPattern([1.2, 2.0])
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(pen)
        if run.style == "both":
            for foot in ("left", "right"):
                y = self._layout.lane(run.row, foot)
                painter.drawPath(_swing(run, y))
            return
        painter.drawPath(_swing(run, run.y1))

    # Sounds

    def _hold(self, painter: QPainter, box: QRectF) -> None:
        pen = QPen(self._theme.colour("thread"), 1.4, Qt.PenStyle.DashLine)
        painter.setPen(pen)
        painter.setBrush(self._theme.colour("paper"))
        painter.drawRoundedRect(box, box.height() / 2, box.height() / 2)
        painter.setPen(self._theme.colour("quiet"))
        painter.setFont(self._theme.font(15))
        if box.width() > 2.6 * painter.font().pixelSize():
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, "hold")

    def _sound(self, painter: QPainter, row: StripRow, placed: Placed) -> None:
        sound = self._stretch.sounds[placed.index]
        if placed.box.isNull():
            if sound.kind not in ("hold",) and not sound.hand and not self._frame.raised:
                self._move(painter, row, placed)
            return
        if placed.index in self._over.picked or (placed.index == self._over.current and self._over.focus):
            self._ring(painter, placed.box)
        if sound.hand:
            self._hands(painter, placed, sound)
            return
        heard = (self._over.verdict or {}).get(placed.index, ("", None))[0]
        for box, left in ((placed.box, sound.foot in ("left", "both")), (placed.second, False)):
            if box.isNull():
                continue
            colour = self._theme.colour("left" if left else "right")
            missing = heard == "missing"
            faint = sound.silent or sound.optional
            tokens = self._theme.tokens
            look = Look(
                left,
                "none" if missing else sound.strikes,
                tokens.bad if missing else tokens.left if left else tokens.right,
                tokens.paper,
                missing or faint,
            )
            paint_sole(painter, box, look)
            self._marks_on(painter, box, sound, self._theme.colour("bad") if missing else colour)
        level = self._over.marks.get(placed.index)
        if level:
            self._flag(painter, row, placed, level)

    def _marks_on(self, painter: QPainter, box: QRectF, sound: Sound, colour: QColor) -> None:
        painter.setPen(QPen(colour, 1.3))
        x = box.center().x()
        if sound.kind in ("brush", "scuff", "spank"):
            s = min(1.0, self._s)
            y = box.top() - 9 * s if sound.kind == "spank" else box.bottom() + 3 * s
            for shift in (-5, 0, 5):
                painter.drawLine(QPointF(x + shift * s, y), QPointF(x + shift * s, y + 6 * s))
        if sound.level > 0:
            painter.setPen(QPen(colour, 2.6))
            y = box.top() - 6
            painter.drawLine(QPointF(x - 11, y), QPointF(x + 11, y))
        elif sound.level < 0:
            painter.setPen(QPen(colour, 1.4, Qt.PenStyle.DotLine))
            y = box.top() - 6
            painter.drawLine(QPointF(x - 9, y), QPointF(x + 9, y))
        if sound.as_one:
            painter.setPen(QPen(colour, 1.4))
            painter.drawArc(QRectF(x - 12, box.bottom() - 2, 24, 10), 180 * 16, 180 * 16)

    def _hands(self, painter: QPainter, placed: Placed, sound: Sound) -> None:
        """Palms, edge on: both where they clap, else the one that does it, in its colour; silent ones dotted."""
        c = placed.box.center()
        line = Qt.PenStyle.DotLine if sound.silent else Qt.PenStyle.SolidLine
        for hand, way in (("left", -1), ("right", 1)):
            if sound.hand not in (hand, "both", "either"):
                continue
            if sound.by_voice:
                painter.setPen(QPen(self._theme.colour(hand if sound.hand == hand else "ink"), 2.0))
                painter.setBrush(Qt.BrushStyle.NoBrush)
                painter.drawEllipse(QPointF(c.x(), c.y()), 4.5, 4.5)
                continue
            colour = self._theme.colour(hand if sound.hand == hand else "ink")
            painter.setPen(QPen(colour, 2.6, line, Qt.PenCapStyle.RoundCap))
            path = QPainterPath(QPointF(c.x() + 7.5 * way, c.y() - 7))
            path.quadTo(c.x() + 0.5 * way, c.y(), c.x() + 7.5 * way, c.y() + 7)
            painter.drawPath(path)

    def _move(self, painter: QPainter, row: StripRow, placed: Placed) -> None:
        """A silent move of the body: a small open ring between the lanes."""
        y = (lane_y(self._frame, row.top, "left") + lane_y(self._frame, row.top, "right")) / 2
        painter.setPen(QPen(self._theme.colour("quiet"), 1.6))
        painter.setBrush(self._theme.colour("paper"))
        painter.drawEllipse(QPointF(placed.x, y), 6, 6)

    def _ring(self, painter: QPainter, box: QRectF) -> None:
        painter.setPen(QPen(self._theme.colour("chosen"), 2.5))
        painter.setBrush(self._theme.colour("chosen_wash"))
        painter.drawRoundedRect(box.adjusted(-7, -7, 7, 7), 9, 9)

    def _flag(self, painter: QPainter, row: StripRow, placed: Placed, level: str) -> None:
        """A finding's mark under the counts, with a hairline to its sound."""
        colour = self._theme.colour("bad" if level == "bad" else "look")
        y = below(self._frame, row.top, COUNT_MARK)
        painter.setPen(QPen(colour, 1.2))
        # The hairline goes on under the count, which stays readable.
        over, under = (below(self._frame, row.top, COUNTS + shift) for shift in (-26, 9))
        if placed.box.bottom() + 2 < over:
            painter.drawLine(QPointF(placed.x, placed.box.bottom() + 2), QPointF(placed.x, over))
        painter.drawLine(QPointF(placed.x, under), QPointF(placed.x, y - 8))
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(colour)
        paint_mark(painter, QPointF(placed.x, y), level)

    # Texts

    def _texts(self, painter: QPainter, row: StripRow) -> None:
        theme = self._theme
        painter.setFont(theme.font(17, QFont.Weight.Medium))
        painter.setPen(theme.colour("ink"))
        for label in row.words:
            painter.drawText(QPointF(label.x, label.y), label.text)
        painter.setFont(theme.font(14, QFont.Weight.DemiBold))
        painter.setPen(theme.colour("chosen"))
        for label in row.titles:
            painter.drawText(QPointF(label.x, label.y), label.text)
        for strength, (size, weight) in enumerate(
            ((16, QFont.Weight.Normal), (20, QFont.Weight.Normal), (22, QFont.Weight.Bold))
        ):
            painter.setFont(theme.font(size, weight))
            painter.setPen(theme.colour("ink" if strength else "quiet"))
            high = 1.5 * painter.font().pixelSize()
            for label in row.counts:
                if label.strength == strength:
                    box = QRectF(label.x - 40, label.y + 6 * self._s - high, 80, high)
                    painter.drawText(box, Qt.AlignmentFlag.AlignHCenter | Qt.AlignmentFlag.AlignBottom, label.text)

    # Verdict

    def _verdict(self, painter: QPainter, row: StripRow) -> None:
        """The take under the counts: a tick where a sound should be, a bar to where it was."""
        theme, y = self._theme, below(self._frame, row.top, TAKE)
        assert self._over.verdict is not None
        painter.setFont(theme.font(14, QFont.Weight.Medium))
        # Where the row begins early there is room for the unit alone.
        first = min((placed.x for placed in row.placed), default=self._frame.width)
        wide = painter.fontMetrics().horizontalAdvance
        said = TAKE_SAID if 14 + wide(TAKE_SAID) < first - 8 else "ms"
        painter.setPen(theme.colour("quiet"))
        painter.drawText(QRectF(14, y - 12, wide(said) + 2, 24), Qt.AlignmentFlag.AlignVCenter, said)
        painter.setPen(QPen(theme.colour("hairline"), 1.4))
        painter.drawLine(QPointF(22 + wide(said), y), QPointF(self._frame.width - 24, y))
        for placed in row.placed:
            verdict = self._over.verdict.get(placed.index)
            if verdict is not None:
                self._judged(painter, y, placed, *verdict)

    def _judged(self, painter: QPainter, y: float, placed: Placed, heard: str, ms: float | None) -> None:
        theme = self._theme
        painter.setFont(theme.font(14, QFont.Weight.DemiBold if heard != "on" else QFont.Weight.Normal))
        if ms is None:
            painter.setPen(theme.colour("bad"))
            painter.drawText(QRectF(placed.x - 44, y + 6, 88, 20), Qt.AlignmentFlag.AlignCenter, "not heard")
            return
        sound = self._stretch.sounds[placed.index]
        role = {"on": sound.foot if sound.foot in ("left", "right") else "ink"}.get(heard, "look")
        colour = theme.colour(role)
        # A pixel is as many milliseconds on every strip, so that bars can be compared.
        length = max(-60.0, min(60.0, ms * MS_PX))
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(colour)
        painter.drawRoundedRect(QRectF(min(0.0, length) + placed.x, y - 3.5, abs(length) + 2, 7), 3, 3)
        painter.setPen(QPen(theme.colour("quiet"), 1.6))
        painter.drawLine(QPointF(placed.x, y - 8), QPointF(placed.x, y + 8))
        painter.setPen(colour if heard != "on" else theme.colour("quiet"))
        text = f"{abs(ms):.0f}" if heard == "on" else f"{abs(ms):.0f} {heard}"
        painter.drawText(QRectF(placed.x - 44, y + 6, 88, 20), Qt.AlignmentFlag.AlignCenter, text)


COUNT_MARK = 211.0
TAKE = 225.0
TAKE_SAID = "take, ms"
MS_PX = 0.8


def paint_mark(painter: QPainter, centre: QPointF, level: str, size: float = 6.5) -> None:
    """A finding's mark: pointed for what cannot be danced, round for what is worth a look."""
    if level == "bad":
        path = QPainterPath(QPointF(centre.x(), centre.y() - size * 1.1))
        path.lineTo(centre.x() + size * 1.1, centre.y() + size * 0.9)
        path.lineTo(centre.x() - size * 1.1, centre.y() + size * 0.9)
        path.closeSubpath()
        painter.drawPath(path)
    else:
        painter.drawEllipse(centre, size, size)


def _swing(run: ThreadRun, y1: float) -> QPainterPath:
    """A stretch of thread, swinging over from the lane that it comes from just before its beginning."""
    until = max(run.x0, run.x1 - run.cut)
    if not run.swing or run.y0 == y1:
        path = QPainterPath(QPointF(run.x0 - run.swing, y1))
        path.lineTo(until, y1)
        return path
    path = QPainterPath(QPointF(run.x0 - run.swing, run.y0))
    middle = run.x0 - run.swing / 2
    path.cubicTo(middle, run.y0, middle, y1, run.x0, y1)
    path.lineTo(until, y1)
    return path
