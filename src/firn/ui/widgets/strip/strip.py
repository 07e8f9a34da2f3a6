"""The strip: the part as soles on a thread, to be read, walked, selected and played along."""

from collections.abc import Iterable, Sequence
from fractions import Fraction

from msgspec.structs import replace
from PySide6.QtCore import QEvent, QPointF, QRect, QSize, Qt, Signal
from PySide6.QtGui import (
    QAccessible,
    QAccessibleEvent,
    QFocusEvent,
    QHelpEvent,
    QKeyEvent,
    QKeySequence,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QResizeEvent,
    QShowEvent,
)
from PySide6.QtWidgets import QSizePolicy, QToolTip, QWidget

from firn.session.stretch import Stretch, described, grown
from firn.session.view import PLAIN, View, seen
from firn.ui.hurry import at_a_key
from firn.ui.theme.theme import Theme
from firn.ui.widgets.labels import plain_tip
from firn.ui.widgets.strip.fitting import Fitting, Room
from firn.ui.widgets.strip.geometry import LEAST_COUNTS, StripLayout, drawn
from firn.ui.widgets.strip.hand import asked
from firn.ui.widgets.strip.paint import Overlay, StripPainter

REACH = 16
"""How far words of a row may reach out of it where it is drawn smaller than they are, in px."""

LEAST_WIDTH = 240


class Strip(QWidget):
    """Shows a stretch. Emits the sound that the keys stand on, and the places that are selected.

    `drawn` asks for a change to the sounds that are picked (the one stood on, or several): what, and how far or how
    loud. `relaid`: a row takes another least height.
    """

    walked = Signal(int)
    selected = Signal(object)
    drawn = Signal(str, object)
    relaid = Signal()

    def __init__(self, theme: Theme, parent: QWidget | None = None, *, least: int = LEAST_COUNTS) -> None:
        super().__init__(parent)
        self._theme, self._least = theme, least
        self._stretch: Stretch | None = None
        self._view = PLAIN
        self._overlay = Overlay()
        self._layout: StripLayout | None = None
        self._anchor: Fraction | None = None
        self._from: int | None = None
        self._held: int | None = None
        self._goal: Fraction | None = None
        self.may_draw = False
        self._room = 0
        self._drawn: StripLayout | None = None
        self._stale = False
        self._more = False
        self._fitting = Fitting(theme)
        self._marked: set[int] = set()
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Minimum)
        self.setAccessibleName("Strip")
        theme.changed.connect(self._restyle)

    # What is shown

    def show_stretch(self, stretch: Stretch, view: View = PLAIN, *, more: bool = False) -> None:
        """Show a stretch as a view has it; the selection and the sound stood on are kept where they still exist.

        `more`: rows to come follow it, for which the room that there was is kept.
        """
        self._stretch, self._view, self._more = seen(stretch, view), view, more
        current = self._overlay.current
        if current is not None and current >= len(stretch.sounds):
            self._overlay = replace(self._overlay, current=None)
        self._relay()

    def show_marks(self, marks: dict[int, str]) -> None:
        """Mark sounds that findings are about."""
        before = self._overlay.marks
        if marks != before and self._layout is not None:
            self._overlay = replace(self._overlay, marks=marks)
            self._update_rows({self._layout.row_with(i) for i in {*before, *marks}} | self._marked)
            self._marked = {self._layout.row_with(i) for i in marks}

    def show_verdict(self, verdict: dict[int, tuple[str, float | None]] | None) -> None:
        """Lay a take's verdict under the strip, or take it away."""
        before = self._overlay.verdict
        self._overlay = replace(self._overlay, verdict=verdict)
        if (before is None) != (verdict is None):
            self._relay()
        self.update()

    def show_walls(self, walls: Sequence[tuple[float, str]]) -> None:
        """Show which way is faced from some counts on, as (count, words), ascending."""
        if tuple(walls) != self._overlay.walls:
            self._overlay = replace(self._overlay, walls=tuple(walls))
            self.update()

    def show_shade(self, shade: Sequence[tuple[float, float]]) -> None:
        """Lay how loud a clip is along the thread, as (count, level 0 to 1); nothing takes it away."""
        if tuple(shade) != self._overlay.shade:
            self._overlay = replace(self._overlay, shade=tuple(shade))
            self.update()

    def show_played(self, position: Fraction | None) -> None:
        """Ink the thread as far as it has been played; repaints only the rows it touches."""
        before = self._overlay.played
        self._overlay = replace(self._overlay, played=position)
        layout = self._layout
        if layout is None:
            return
        if before is None or position is None or position < before:
            self.update()
            return
        for row in range(layout.row_of(before), layout.row_of(position) + 1):
            self.update(QRect(0, int(layout.top_of(row)), self.width(), int(layout.row_height) + 1))

    def show_chosen(self, chosen: tuple[Fraction, Fraction] | None) -> None:
        """Show a selection without emitting it."""
        if chosen != self._overlay.chosen:
            self._overlay = replace(self._overlay, chosen=chosen)
            self.update()

    @property
    def stretch(self) -> Stretch | None:
        return self._stretch

    @property
    def current(self) -> int | None:
        """The sound that the keys stand on."""
        return self._overlay.current

    @property
    def picked(self) -> range:
        """The sounds that are picked: several, or the one that is stood on."""
        current = self._overlay.current
        return self._overlay.picked or (range(0) if current is None else range(current, current + 1))

    def pick(self, picked: range) -> None:
        """Pick several sounds, and select their counts."""
        if self._stretch is None or not picked:
            return
        self._overlay = replace(self._overlay, picked=picked if len(picked) > 1 else range(0))
        sounds = self._stretch.sounds
        self._choose_between(sounds[picked[0]].place, sounds[picked[-1]].place)
        self.update()

    @property
    def chosen(self) -> tuple[Fraction, Fraction] | None:
        return self._overlay.chosen

    @property
    def strip_layout(self) -> StripLayout | None:
        return self._layout

    @property
    def overlay(self) -> Overlay:
        return self._overlay

    def stand_on(self, index: int | None) -> None:
        """Stand on a sound, as the arrow keys do; on none if the strip does not show it (yet)."""
        if index is not None and (self._stretch is None or index >= len(self._stretch.sounds)):
            index = None
        left = self._overlay.current
        if self._overlay.picked:
            self.update()
        self._overlay = replace(self._overlay, current=index, picked=range(0))
        self.setAccessibleDescription(self.describe(index) if index is not None else "")
        if self._layout is not None and self.hasFocus():
            self._update_rows({self._layout.row_with(i) for i in (left, index) if i is not None})
            self._tell_focus()

    def _tell_focus(self) -> None:
        """Tell a screen reader, where there is one, which sound the keys stand on."""
        if self._overlay.current is not None and QAccessible.isActive():
            event = QAccessibleEvent(self, QAccessible.Event.Focus)
            event.setChild(self._overlay.current)
            QAccessible.updateAccessibility(event)

    def describe(self, index: int) -> str:
        """A sound in words."""
        assert self._stretch is not None
        return described(self._stretch, index)

    # Geometry

    @property
    def row_least(self) -> int:
        """The least height, in px, in which a whole row is seen."""
        return self._fitting.row_least

    def _restyle(self) -> None:
        if self._fitting.restyled():
            self._stale = True
            if self.isVisible():
                self._relay()
        self.update()

    def showEvent(self, event: QShowEvent) -> None:
        # What is not seen is laid out when it is.
        if self._stale:
            self._relay()
        super().showEvent(event)

    def _relay(self) -> None:
        if self._stretch is None:
            return
        self._stale = False
        room = Room(max(LEAST_WIDTH, self.width()), self._room, self._overlay.verdict is not None, self._least)
        before = self.row_least
        self._layout = self._fitting.fit(self._stretch, self._view, room)
        if before != self.row_least:
            self.relaid.emit()
        height = int(self._layout.height) + 4
        if self._more:
            height = max(height, self.minimumHeight())
        if self.minimumHeight() != height:
            self.setMinimumHeight(height)
            self.updateGeometry()
        known, self._drawn = self._drawn, self._layout
        if known is None or known.frame != self._layout.frame or len(known.rows) != len(self._layout.rows):
            self.update()
            return
        # Typing changes a row: the others stand as they are. What is out of sight is painted when it comes into it.
        layout, seen_now = self._layout, self.visibleRegion().boundingRect()
        self._update_rows({n for n in self._rows_in(seen_now) if self._differs(known, layout, n)})

    @staticmethod
    def _differs(before: StripLayout, layout: StripLayout, number: int) -> bool:
        if not before.rows.is_laid(number):
            return True
        one, other = before.rows[number], layout.rows[number]
        return one is not other and drawn(before, one) != drawn(layout, other)

    def _rows_in(self, area: QRect) -> range:
        """The rows that an area shows, or that may reach into it."""
        assert self._layout is not None
        layout, reach = self._layout, self._reach
        first = int((area.top() + 1 - reach) // layout.row_height)
        last = int(-(-(area.bottom() + reach) // layout.row_height))
        return range(max(0, first), min(len(layout.rows), max(0, last)))

    def _update_rows(self, rows: Iterable[int]) -> None:
        """Paint some rows again, with what reaches out of them."""
        layout = self._layout
        if layout is None:
            return
        reach = self._reach
        for row in rows:
            top, bottom = int(layout.top_of(row)), int(layout.top_of(row + 1))
            self.update(QRect(0, top - reach, self.width(), bottom - top + 2 * reach))

    @property
    def _reach(self) -> int:
        return 0 if self._layout is not None and self._layout.scale >= self._theme.percent / 100 else REACH

    def sizeHint(self) -> QSize:
        return QSize(900, self.minimumHeight())

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        if event.size().width() != event.oldSize().width():
            self._relay()

    def set_room(self, height: int) -> None:
        """How high the view is that the strip stands in: it grows into it."""
        if height != self._room:
            self._room = height
            self._relay()

    def row_shown(self, index: int) -> QRect:
        """The rectangle of the row that a sound stands in."""
        assert self._layout is not None
        row = self._layout.row_with(index)
        return QRect(0, int(self._layout.top_of(row)), self.width(), int(self._layout.row_height))

    # Painting

    def paintEvent(self, event: QPaintEvent) -> None:
        if self._layout is None or self._stretch is None:
            return
        painter = QPainter(self)
        clip = event.rect()
        painter.fillRect(clip, self._theme.colour("paper"))
        overlay = replace(self._overlay, focus=self.hasFocus())
        rows = self._rows_in(clip)
        StripPainter(self._theme, self._layout, self._stretch, overlay).paint(painter, rows)
        if self.hasFocus():
            painter.fillRect(QRect(0, 0, 4, self.height()), self._theme.colour("chosen"))
        painter.end()

    # Keys and mouse

    def event(self, event: QEvent) -> bool:
        if isinstance(event, QHelpEvent) and self._layout is not None:
            index = self._layout.sound_at(QPointF(event.pos()))
            QToolTip.showText(event.globalPos(), plain_tip(self.describe(index)) if index is not None else "", self)
            return True
        if event.type() == QEvent.Type.ShortcutOverride and isinstance(event, QKeyEvent):
            keys = (Qt.Key.Key_Left, Qt.Key.Key_Right, Qt.Key.Key_Home, Qt.Key.Key_End)
            if event.matches(QKeySequence.StandardKey.SelectAll):
                event.accept()
                return True
            if event.key() in keys and event.modifiers() in (
                Qt.KeyboardModifier.NoModifier,
                Qt.KeyboardModifier.ShiftModifier,
            ):
                event.accept()
                return True
            if self._asked(event) is not None:
                event.accept()
                return True
        return super().event(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        at_a_key()
        if self._stretch is None:
            super().keyPressEvent(event)
            return
        many = len(self._stretch.sounds)
        current = self._overlay.current
        moves = {
            Qt.Key.Key_Left: max(0, (current if current is not None else 1) - 1),
            Qt.Key.Key_Right: 0 if current is None else min(many - 1, current + 1),
            Qt.Key.Key_Home: 0,
            Qt.Key.Key_End: many - 1,
        }
        key = Qt.Key(event.key())
        asked = self._asked(event)
        if asked is not None:
            self.drawn.emit(*asked)
            return
        if key == Qt.Key.Key_Escape and self._overlay.chosen is not None:
            self.stand_on(current)
            self._choose(None)
            return
        if event.matches(QKeySequence.StandardKey.SelectAll) and many:
            self.pick(grown(self._stretch, self.picked or range(1)))
            return
        if key not in moves or not many:
            super().keyPressEvent(event)
            return
        before = current if current is not None else moves[key]
        self.stand_on(moves[key])
        self.walked.emit(moves[key])
        if event.modifiers() & Qt.KeyboardModifier.ShiftModifier:
            self._from = before if self._from is None else min(self._from, many - 1)
            self.pick(range(min(self._from, moves[key]), max(self._from, moves[key]) + 1))
        else:
            self._from = None

    def _asked(self, event: QKeyEvent) -> tuple[str, object] | None:
        if self._stretch is None or not self.may_draw:
            return None
        wish = asked(event, compound=self._stretch.counting.meter.compound)
        # Where there is nothing yet, a first step is put in.
        begins = not self._stretch.sounds and wish is not None and wish[0] in ("put_in", "paste")
        return wish if self._overlay.current is not None or begins else None

    def _choose_between(self, one: Fraction, two: Fraction) -> None:
        """Select whole counts from one place to another."""
        assert self._stretch is not None
        first = max(Fraction(min(one, two) // 1), self._stretch.first)
        end = min(Fraction(max(one, two) // 1 + 1), self._stretch.end)
        self._choose((first, end) if end > first else None)

    def _choose(self, chosen: tuple[Fraction, Fraction] | None) -> None:
        self.show_chosen(chosen)
        self.selected.emit(chosen)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if self._layout is None or event.button() != Qt.MouseButton.LeftButton:
            return
        index = self._layout.sound_at(event.position())
        if index is not None:
            self.stand_on(index)
            self.walked.emit(index)
        # As by keys: Alt moves the sound, where nothing else does more than look and select.
        carried = self.may_draw and event.modifiers() & Qt.KeyboardModifier.AltModifier
        self._held = index if carried else None
        self._anchor = self._layout.at(event.position())
        if self._overlay.chosen is not None:
            self._choose(None)

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        index = self._layout.sound_at(event.position()) if self._layout is not None else None
        if index is not None and self._stretch is not None:
            self.pick(grown(self._stretch, range(index, index + 1)))

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._layout is None or self._anchor is None:
            return
        place = self._layout.at(event.position())
        if self._held is not None and self._stretch is not None:
            self._carry(event, place)
            return
        if place is not None and abs(place - self._anchor) >= Fraction(1, 2):
            self._choose_between(self._anchor, place)

    def _carry(self, event: QMouseEvent, place: Fraction | None) -> None:
        """Say where the sound that is held would go."""
        assert self._stretch is not None and self._held is not None
        self._goal = place
        if place is not None and place != self._stretch.sounds[self._held].place:
            QToolTip.showText(event.globalPosition().toPoint(), f"to {self._stretch.counting.name(place)}", self)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        held, goal, self._held, self._goal, self._anchor = self._held, self._goal, None, None, None
        if held is not None and goal is not None and self._stretch is not None:
            by = goal - Fraction(self._stretch.sounds[held].place)
            if by:
                self.drawn.emit("move", by)

    def focusInEvent(self, event: QFocusEvent) -> None:
        super().focusInEvent(event)
        self._tell_focus()
        self.update()

    def focusOutEvent(self, event: QFocusEvent) -> None:
        super().focusOutEvent(event)
        self.update()
