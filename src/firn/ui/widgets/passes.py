"""The combo as one sees it: its passes strung on the thread, sixteen counts in a row, to be walked and changed."""

from fractions import Fraction

from msgspec.structs import replace
from PySide6.QtCore import QEvent, QPointF, QRect, QRectF, QSize, Qt, Signal
from PySide6.QtGui import (
    QAccessible,
    QAccessibleEvent,
    QFont,
    QFontMetricsF,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QResizeEvent,
    QShowEvent,
)
from PySide6.QtWidgets import QSizePolicy, QWidget

from firn.session.building import Build, PassShown, Strand
from firn.session.stretch import NOTHING, Stretch
from firn.session.view import View, seen
from firn.ui.theme.theme import Theme
from firn.ui.widgets.room import UprightArea
from firn.ui.widgets.strip.geometry import StripLayout
from firn.ui.widgets.strip.layout import lay_out
from firn.ui.widgets.strip.paint import Overlay, StripPainter, paint_mark

SMALLER = 0.62
"""The size of soles and thread beside that of a part alone."""

RAISED = 44.0
"""How much less room is under a row than under one with counts and relief, of which it has none."""

STRAND_PX = 34
"""The room under a row for what another group dances."""

WALLS_PX, NAME_PX = 118, 15
"""Room for the walls at the right, and the size of the names, in px."""

_KEYS: dict[tuple[Qt.Key, Qt.KeyboardModifier], tuple[str, object]] = {
    (Qt.Key.Key_Left, Qt.KeyboardModifier.AltModifier): ("earlier", None),
    (Qt.Key.Key_Right, Qt.KeyboardModifier.AltModifier): ("later", None),
    (Qt.Key.Key_Up, Qt.KeyboardModifier.AltModifier): ("more", None),
    (Qt.Key.Key_Down, Qt.KeyboardModifier.AltModifier): ("fewer", None),
    (Qt.Key.Key_F, Qt.KeyboardModifier.NoModifier): ("side", None),
    (Qt.Key.Key_T, Qt.KeyboardModifier.NoModifier): ("turn", 1),
    (Qt.Key.Key_T, Qt.KeyboardModifier.ShiftModifier): ("turn", -1),
    (Qt.Key.Key_Delete, Qt.KeyboardModifier.NoModifier): ("leave_out", None),
    (Qt.Key.Key_Insert, Qt.KeyboardModifier.NoModifier): ("put_in", None),
    (Qt.Key.Key_G, Qt.KeyboardModifier.NoModifier): ("group", None),
    (Qt.Key.Key_S, Qt.KeyboardModifier.NoModifier): ("stand_in", None),
    (Qt.Key.Key_H, Qt.KeyboardModifier.NoModifier): ("hold", None),
    (Qt.Key.Key_C, Qt.KeyboardModifier.NoModifier): ("change", None),
    (Qt.Key.Key_E, Qt.KeyboardModifier.NoModifier): ("ends", None),
    (Qt.Key.Key_Return, Qt.KeyboardModifier.NoModifier): ("open", None),
    (Qt.Key.Key_Enter, Qt.KeyboardModifier.NoModifier): ("open", None),
}
_WALKED = (Qt.Key.Key_Left, Qt.Key.Key_Right, Qt.Key.Key_Home, Qt.Key.Key_End)


class Passes(QWidget):
    """Shows a combo. `walked`: the pass that the keys stand on; `selected`: the places of those that are selected;
    `asked`: a change that is wanted of the one stood on, or to open its part; `relaid`: rows have another height."""

    walked = Signal(int)
    selected = Signal(object)
    asked = Signal(str, object)
    relaid = Signal()

    def __init__(self, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._theme = theme
        self._stretch: Stretch | None = None
        self._build = Build((), "")
        self._layout: StripLayout | None = None
        self._played: Fraction | None = None
        self._from: int | None = None
        self.current: int | None = None
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Minimum)
        self.setAccessibleName("Passes of the combo")
        theme.changed.connect(self._relay)

    @property
    def passes(self) -> tuple[PassShown, ...]:
        """What is shown."""
        return self._build.passes

    @property
    def stood_on(self) -> PassShown | None:
        """The pass that the keys stand on."""
        at = self.current
        return self.passes[at] if at is not None and at < len(self.passes) else None

    def show_combo(self, stretch: Stretch, build: Build, view: View) -> None:
        """Show a combo's stretch and its passes; `view`: mirrored, or as it is danced."""
        titles = tuple((one.first, "") for one in build.passes)
        # Others may dance on when those on show are over.
        end = max(stretch.end, build.end)
        self._stretch = seen(replace(stretch, titles=titles, end=end, beside=NOTHING, words=()), view)
        self._build = build
        if self.current is not None and self.current >= len(build.passes):
            self.current = len(build.passes) - 1 if build.passes else None
        self._relay()

    def show_played(self, position: Fraction | None) -> None:
        """Ink the thread to a position."""
        self._played = position
        self.update()

    def stand_on(self, index: int | None) -> None:
        """Stand on a pass, as the arrow keys do."""
        self.current = index if index is not None and index < len(self.passes) else None
        one = self.stood_on
        self.setAccessibleDescription(one.said if one is not None else "")
        if QAccessible.isActive():
            QAccessible.updateAccessibility(QAccessibleEvent(self, QAccessible.Event.DescriptionChanged))
        self.update()

    def pass_with(self, sound: int) -> int | None:
        """The pass that a sound of the combo is of, by its index."""
        return next((n for n in reversed(range(len(self.passes))) if self.passes[n].sound <= sound), None)

    def row_shown(self, index: int) -> QRect:
        """The rectangle of the row in which a pass begins; all of it where there is none."""
        if not self.passes:
            return self.rect()
        assert self._layout is not None
        row = self._layout.row_of(self.passes[index].first)
        return QRect(0, int(self._layout.top_of(row)), self.width(), int(self._layout.row_height))

    def top_of(self, position: Fraction) -> QRect:
        """The rectangle of the row in which a position lies."""
        assert self._layout is not None
        row = self._layout.row_of(position)
        return QRect(0, int(self._layout.top_of(row)), self.width(), int(self._layout.row_height))

    # Geometry

    @property
    def row_height(self) -> int:
        """How high a row is, in px; 0 before one is laid out."""
        return int(self._layout.row_height) if self._layout is not None else 0

    def _relay(self) -> None:
        if self._stretch is None or not self.isVisible():
            return
        size = self._theme.percent / 100
        hidden = ("words", "counts", "relief", "scat", "arms", "body", "moves", "pulse", "signals")
        # What parts have of hands themselves is seen in them: room is kept for what goes on over them.
        view = View(fitted=True, hidden=hidden if self._build.hands else (*hidden, "hands"))
        width = max(240.0, self.width() - self._theme.px(WALLS_PX))
        metrics = QFontMetricsF(self._theme.font(NAME_PX))
        scale, before = SMALLER * size, self.row_height
        extra = self._strand_px * len(self._build.others) - RAISED * scale
        self._layout = lay_out(self._stretch, width, metrics.horizontalAdvance, scale=scale, extra=extra, view=view)
        height = int(self._layout.height) + 8
        if self.row_height != before:
            self.relaid.emit()
        if self.minimumHeight() != height:
            self.setMinimumHeight(height)
            self.updateGeometry()
        self.update()

    def sizeHint(self) -> QSize:
        return QSize(900, self.minimumHeight())

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        if event.size().width() != event.oldSize().width():
            self._relay()

    def showEvent(self, event: QShowEvent) -> None:
        super().showEvent(event)
        self._relay()

    # Painting

    def paintEvent(self, event: QPaintEvent) -> None:
        layout, stretch = self._layout, self._stretch
        if layout is None or stretch is None:
            return
        painter = QPainter(self)
        clip = event.rect()
        painter.fillRect(clip, self._theme.colour("paper"))
        rows = range(
            max(0, int(clip.top() // layout.row_height)),
            min(len(layout.rows), int(clip.bottom() // layout.row_height) + 1),
        )
        overlay = Overlay(played=self._played, chosen=self._chosen(), focus=self.hasFocus())
        StripPainter(self._theme, layout, stretch, overlay).paint(painter, rows)
        for number, one in enumerate(self.passes):
            if layout.row_of(one.first) in rows:
                self._name(painter, layout, number, one)
        self._walls(painter, layout, rows)
        for number, strand in enumerate(self._build.others):
            self._beside(painter, layout, rows, number, strand)
        if self.hasFocus():
            painter.fillRect(QRect(0, 0, 4, self.height()), self._theme.colour("chosen"))
        painter.end()

    def _chosen(self) -> tuple[Fraction, Fraction] | None:
        """The places of the passes that are stood on or selected."""
        if self.stood_on is None or self.current is None:
            return None
        other = self.current if self._from is None else min(self._from, len(self.passes) - 1)
        first, last = sorted((self.current, other))
        return self.passes[first].first, self.passes[last].end

    def _name(self, painter: QPainter, layout: StripLayout, number: int, one: PassShown) -> None:
        """The name over a pass, its counts at its end, and the line at which it begins, marked where it cannot."""
        theme, row = self._theme, layout.row_of(one.first)
        top, x = layout.top_of(row), layout.x(one.first, row)
        if row == 0 and number == 0:
            x = min(x, layout.x(self._stretch.sounds[0].place, 0)) if self._stretch and self._stretch.sounds else x
        x -= layout.frame.px * 0.22
        high, gap = theme.px(22), theme.px(8)
        until = layout.x(one.end, row) if layout.row_of(one.end - 1) == row else layout.width
        room = until - layout.frame.px * 0.22 - x - gap
        low = top + layout.row_height - theme.px(4)
        painter.setPen(QPen(theme.colour("hairline" if one.fits else "bad"), 1.4 if one.fits else 3))
        if number or not one.fits:
            painter.drawLine(QPointF(x - gap / 2, top + theme.px(4)), QPointF(x - gap / 2, low))
        if not one.fits:
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(theme.colour("bad"))
            # Under the names on either side of it.
            paint_mark(painter, QPointF(x - gap / 2, top + theme.px(30)), "bad")
        strong, light = theme.font(NAME_PX, QFont.Weight.DemiBold), theme.font(13)
        counts = str(one.counts)
        wide = QFontMetricsF(light).horizontalAdvance(counts) + gap
        role = "bad" if not one.fits else "chosen" if number == self.current else "ink"
        left = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter
        painter.setFont(strong)
        painter.setPen(theme.colour(role))
        name = QFontMetricsF(strong).elidedText(one.part, Qt.TextElideMode.ElideRight, max(0.0, room - wide))
        painter.drawText(QRectF(x, top, room, high), int(left), name)
        painter.setFont(light)
        painter.setPen(theme.colour("quiet"))
        used = QFontMetricsF(strong).horizontalAdvance(name) + gap
        more = QFontMetricsF(light).elidedText(one.more, Qt.TextElideMode.ElideRight, max(0.0, room - used - wide))
        if len(more) > 1:
            painter.drawText(QRectF(x + used, top, room - used, high), int(left), more)
        right = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter
        painter.drawText(QRectF(x, top, room, high), int(right), counts)

    @property
    def _strand_px(self) -> int:
        """How high the strand of a group beside the one on show is."""
        return self._theme.px(STRAND_PX)

    def _beside(self, painter: QPainter, layout: StripLayout, rows: range, number: int, strand: Strand) -> None:
        """What another group dances, under each row: a thread over the counts of each pass, on the side of the foot
        that it begins on, with the part's name."""
        theme, high = self._theme, self._strand_px
        small, name = theme.font(13), theme.font(13, QFont.Weight.DemiBold)
        left = int(Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter)
        for row in rows:
            here = layout.rows[row]
            top = layout.top_of(row) + layout.row_height - high * (len(self._build.others) - number) - theme.px(4)
            box = QRectF(layout.width, top, self.width() - layout.width - 24, high)
            painter.setFont(small)
            painter.setPen(theme.colour("quiet"))
            painter.drawText(box, int(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter), strand.name)
            for one in strand.passes:
                if one.end <= here.first or one.first >= here.end:
                    continue
                x0, x1 = (layout.x(max(one.first, here.first), row), layout.x(min(one.end, here.end), row))
                y = top + high * (0.5 if not one.foot else 0.26 if one.foot == "left" else 0.74)
                role = "thread" if one.fits else "bad"
                painter.setPen(QPen(theme.colour(role), 2.4 if one.fits else 3))
                painter.drawLine(QPointF(x0, y), QPointF(x1 - theme.px(6), y))
                if one.first < here.first:
                    continue
                foot = theme.colour(one.foot) if one.foot else theme.colour("quiet")
                painter.setPen(Qt.PenStyle.NoPen)
                painter.setBrush(foot)
                painter.drawEllipse(QPointF(x0, y), theme.px(4), theme.px(4))
                letter = {"left": "L", "right": "R"}.get(one.foot, "")
                said = " ".join(filter(None, (letter, one.part)))
                painter.setFont(name)
                painter.setPen(foot if one.fits else theme.colour("bad"))
                room = QRectF(x0 + theme.px(8), top, x1 - x0 - theme.px(16), high)
                half = QRectF(
                    room.left(), room.center().y() if y < room.center().y() else top, room.width(), high / 2
                )
                fits = QFontMetricsF(name).elidedText(said, Qt.TextElideMode.ElideRight, half.width())
                painter.drawText(half, left, fits)

    def _walls(self, painter: QPainter, layout: StripLayout, rows: range) -> None:
        """At the end of each row, the way that is faced after the last pass that ends in it."""
        theme = self._theme
        painter.setFont(theme.font(14))
        painter.setPen(theme.colour("quiet"))
        walls: dict[int, str] = {}
        way = "front"
        for one in self.passes:
            for row in range(layout.row_of(one.first), layout.row_of(one.end - 1)):
                walls.setdefault(row, way)
            way = one.wall
            walls[layout.row_of(one.end - 1)] = way
        right = int(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
        for row in rows:
            high = layout.row_height - self._strand_px * len(self._build.others)
            box = QRectF(layout.width, layout.top_of(row), self.width() - layout.width - 24, high)
            painter.drawText(box, right, walls.get(row, ""))

    # Keys and mouse

    def event(self, event: QEvent) -> bool:
        ours = event.type() == QEvent.Type.ShortcutOverride and isinstance(event, QKeyEvent)
        if ours and isinstance(event, QKeyEvent) and (self._asked(event) is not None or self._walks(event)):
            event.accept()
            return True
        return super().event(event)

    @staticmethod
    def _plain(event: QKeyEvent) -> Qt.KeyboardModifier:
        return event.modifiers() & ~Qt.KeyboardModifier.KeypadModifier

    def _walks(self, event: QKeyEvent) -> bool:
        usual = (Qt.KeyboardModifier.NoModifier, Qt.KeyboardModifier.ShiftModifier)
        return event.key() in _WALKED and self._plain(event) in usual

    def _asked(self, event: QKeyEvent) -> tuple[str, object] | None:
        found = _KEYS.get((Qt.Key(event.key()), self._plain(event)))
        return found if self.passes or (found is not None and found[0] == "put_in") else None

    def keyPressEvent(self, event: QKeyEvent) -> None:
        asked = self._asked(event)
        if asked is not None:
            if self.stood_on is None and self.passes:
                self._walk(0)
            self.asked.emit(*asked)
        elif event.key() == Qt.Key.Key_Escape and self._from is not None:
            self._from = None
            self.selected.emit(None)
            self.update()
        elif self.passes and self._walks(event):
            self._step(Qt.Key(event.key()), selecting=bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier))
        else:
            super().keyPressEvent(event)

    def _step(self, key: Qt.Key, *, selecting: bool) -> None:
        last = len(self.passes) - 1
        at = self.current
        to = {
            Qt.Key.Key_Left: max(0, (at if at is not None else 1) - 1),
            Qt.Key.Key_Right: 0 if at is None else min(last, at + 1),
            Qt.Key.Key_Home: 0,
            Qt.Key.Key_End: last,
        }[key]
        was = self._from
        self._from = (at if was is None else was) if selecting and at is not None else None
        self._walk(to)
        if selecting:
            self.selected.emit(self._chosen())
        elif was is not None:
            self.selected.emit(None)

    def _walk(self, index: int) -> None:
        self.stand_on(index)
        self.walked.emit(index)

    def _at(self, point: QPointF) -> int | None:
        place = self._layout.at(point) if self._layout is not None else None
        if place is None:
            return None
        return next((n for n, one in enumerate(self.passes) if place < one.end), None)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        at = self._at(event.position())
        if at is not None:
            self._from = None
            self._walk(at)

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        at = self._at(event.position())
        if at is not None:
            self._walk(at)
            self.asked.emit("open", None)


class PassesView(UprightArea):
    """Holds the passes; keeps what is danced or stood on in sight."""

    def __init__(self, passes: Passes, parent: QWidget | None = None) -> None:
        super().__init__(passes, parent)
        self.passes = passes
        passes.relaid.connect(self.updateGeometry)

    def minimumSizeHint(self) -> QSize:
        # At least one row of it.
        return QSize(super().minimumSizeHint().width(), self.passes.row_height + 6)

    def reveal(self, index: int) -> None:
        """Bring a pass's row into sight."""
        self._show_row(self.passes.row_shown(index))

    def show_played(self, position: Fraction | None) -> None:
        """Ink the thread to a position, its row in sight."""
        self.passes.show_played(position)
        if position is not None:
            self._show_row(self.passes.top_of(position))

    def _show_row(self, row: QRect) -> None:
        self.ensureVisible(0, row.center().y(), 0, row.height() // 2)
