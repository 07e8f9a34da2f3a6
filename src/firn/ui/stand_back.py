"""The stand-back view: the word now and its count, large enough to be read from across the room."""

from bisect import bisect_right
from collections.abc import Callable
from fractions import Fraction

from msgspec import Struct
from msgspec.structs import replace
from PySide6.QtCore import QEvent, QPointF, QRectF, Qt, QTimer, Signal
from PySide6.QtGui import QFont, QFontMetricsF, QKeyEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QWidget

from firn.core.drills.run import How
from firn.core.meter.count_in import CountIn
from firn.session.stretch import Stretch, across
from firn.session.view import View, seen
from firn.ui.desk import Desk
from firn.ui.theme.theme import Theme
from firn.ui.widgets.strip.geometry import StripLayout
from firn.ui.widgets.strip.layout import lay_out
from firn.ui.widgets.strip.paint import Overlay, StripPainter

PICTURE = 0.36
"""The share of the width that the picture of a clip takes, where there is one."""

SAID_MS = 15_000
"""A sentence stands so long, until one from across the room has seen it."""

NOW, NEXT, STRIP = 0.175, 0.113, 0.305
"""Font sizes of the word now and the next, letters of 9 % and 6 % at least, and the strip: shares of the height."""


class AskedShown(Struct, frozen=True):
    """What is shown of a question by ear: which of how many, its words, its answers with their keys, and what was
    told of the one before."""

    of: str
    asked: str
    answers: tuple[str, ...]
    told: str


class RunShown(Struct, frozen=True):
    """What is shown of a drill that is danced: the stage, which time of it, how much is left, what was answered, what
    it dances, what to think of, the stage that follows, whether it is danced as in a mirror, the layers of cues that
    it is about, and what is asked where nothing is danced."""

    title: str
    now: str
    left: str
    state: str
    stretch: Stretch | None
    note: str
    following: str
    playing: bool
    count_in: CountIn
    mirrored: bool = False
    cues: tuple[str, ...] = ()
    asked: AskedShown | None = None


class ClockShown(Struct, frozen=True):
    """What is shown of a class that is on: its name, the item, the time that is left of it (`late`: it lasts longer
    than planned), how far behind the class is, what is said and danced, what comes and what is said then; whether it
    `goes`."""

    name: str
    title: str
    left: str
    late: bool
    behind: str
    say: str
    danced: str
    following: str
    next_say: str
    goes: bool


ANSWERS: dict[int, How] = {
    Qt.Key.Key_1: "clean", Qt.Key.Key_2: "slip", Qt.Key.Key_3: "lost", Qt.Key.Key_PageDown: "clean",
    Qt.Key.Key_PageUp: "slip",
}  # fmt: skip
"""How a time went, by its key; a pedal that turns pages says clean, and back a slip."""


ITEM_KEYS: dict[int, int] = {Qt.Key.Key_Right: 1, Qt.Key.Key_PageDown: 1, Qt.Key.Key_Left: -1, Qt.Key.Key_PageUp: -1}
"""The way that a key goes from item to item of a class."""


class StandBack(QWidget):
    """Fills the window. Emits `left`, `toggled`, and `tempo` with a step; while a drill is danced `answered` with how
    a time went, `stage` with a step, `slower`, and `listen`, and `picked` with the digit where it asks; while a class
    is on `item` with a step. `wanted`: it is to be shown."""

    left = Signal()
    toggled = Signal()
    tempo = Signal(int)
    answered = Signal(str)
    picked = Signal(int)
    stage = Signal(int)
    slower = Signal()
    listen = Signal()
    item = Signal(int)
    wanted = Signal()

    def __init__(self, desk: Desk, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._desk, self._theme = desk, theme
        self._position: Fraction | None = None
        self._playing = False
        self._swapped = False
        self._picture: Callable[[QPainter, QRectF], None] | None = None
        # What was last shown of which stretch, and how it was laid out: while something plays it is painted again
        # and again.
        self._shown: tuple[Stretch, tuple[bool, View], Stretch] | None = None
        self._laid: tuple[Stretch, tuple[View, QFont, int, float], StripLayout] | None = None
        self.run: RunShown | None = None
        self.clock: ClockShown | None = None
        self.said = ""
        self._saying = QTimer(self)
        self._saying.setSingleShot(True)
        self._saying.setInterval(SAID_MS)
        self._saying.timeout.connect(lambda: self.say(""))
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Stand-back view")
        for signal in (desk.shown, desk.danced):
            signal.connect(self.update)

    def say(self, sentence: str) -> None:
        """Show a sentence for a while, where the keys are told; "" for none."""
        self.said = sentence
        if sentence:
            self._saying.start()
        else:
            self._saying.stop()
        self.update()

    def show_playing(self, playing: bool) -> None:
        """Whether something plays."""
        self._playing = playing
        if not playing:
            self._position = None
        self.update()

    def show_run(self, run: RunShown | None) -> None:
        """Show a drill that is danced; None for none."""
        self.run = run
        if run is not None:
            self._playing = run.playing
            self._position = self._position if run.playing else None
            said = (run.title, run.now, run.state, run.left)
            if run.asked is not None:
                said = (run.asked.told, run.asked.of, run.asked.asked, ", ".join(run.asked.answers))
            self.setAccessibleDescription(", ".join(filter(None, said)))
        self.update()

    def show_clock(self, clock: ClockShown | None) -> None:
        """Show a class that is on; None for none."""
        if clock is not None and (self.clock is None or clock.title != self.clock.title):
            said = (clock.title, clock.say, clock.danced, clock.following)
            self.setAccessibleDescription(", ".join(filter(None, said)))
        self.clock = clock
        self.update()

    def show_picture(self, paint: Callable[[QPainter, QRectF], None] | None) -> None:
        """Show the picture of a clip beside the word, painted by this; None for none."""
        self._picture = paint
        self.update()

    def show_played(self, position: Fraction | None, *, swapped: bool = False) -> None:
        """Follow the position that is heard, on the other side if `swapped`."""
        self._position, self._swapped = position, swapped
        self.update()

    def _stretch(self) -> Stretch | None:
        """What is danced, on the side that it is danced on now."""
        run = self.run
        stretch = run.stretch if run is not None else self._desk.stretch
        swapped = self._swapped if self._playing or run is not None else self._desk.transport.side == "other side"
        if stretch is None:
            return None
        how, known = (swapped, self._view), self._shown
        if known is None or known[0] is not stretch or known[1] != how:
            shown = seen(across(stretch) if swapped else stretch, self._view)
            known = self._shown = stretch, how, shown
        return known[2]

    @property
    def _view(self) -> View:
        """The desk's view, without what cannot be read from afar."""
        view = self._desk.view
        if self.run is not None and self.run.mirrored:
            view = replace(view, mirrored=True)
        about = self.run.cues if self.run is not None else ()
        far = tuple(name for name in ("arms", "body", "moves", "pulse", "signals") if name not in about)
        return replace(view, hidden=(*view.hidden, *far))

    def words_now(self) -> tuple[str, str, str, str, str, str]:
        """The word now, its count and foot; the next word, its count and foot."""
        stretch = self._stretch()
        if stretch is None or not stretch.sounds:
            return "", "", "", "", "", ""
        at = self._position if self._position is not None else stretch.sounds[0].position
        if at < stretch.sounds[0].position:
            pattern = self.run.count_in if self.run is not None else self._desk.transport.count_in
            led = pattern.said(stretch.sounds[0].position, stretch.counting)
            counted = next((word for place, word in reversed(led) if place <= at), "")
            first = stretch.words[0]
            said = (first[1], stretch.sounds[first[0]].say, stretch.sounds[first[0]].foot)
            return "count-in", counted, "", *(next(iter(self._cues(stretch)), (at, said))[1])
        if cues := self._cues(stretch):
            gone = [cue for place, cue in cues if place <= at]
            ahead = [cue for place, cue in cues if place > at]
            return *(gone[-1] if gone else ("", "", "")), *(ahead or [cues[0][1]])[0]
        following = bisect_right(stretch.words, at, key=lambda word: stretch.sounds[word[0]].position)
        now = stretch.words[max(0, following - 1)]
        after = stretch.words[following % len(stretch.words)]
        return (*self._said(stretch, *now, at), *self._said(stretch, *after, None))

    def _cues(self, stretch: Stretch) -> list[tuple[Fraction, tuple[str, str, str]]]:
        """What a stage is about where that is no steps: where each cue is, its words and count; no foot."""
        about, counting = self.run.cues if self.run is not None else (), stretch.counting
        cues = sorted((c for c in stretch.beside.cues if c.layer in about), key=lambda c: c.place)
        return [(counting.position(c.place), (c.text, counting.name(c.place), "")) for c in cues]

    @staticmethod
    def _said(stretch: Stretch, index: int, text: str, at: Fraction | None) -> tuple[str, str, str]:
        """A word, its counts, and the foot: of the sound that is due in it now, else of its first."""
        use = stretch.sounds[index].use
        own = [s for s in stretch.sounds[index : index + 16] if s.use == use]
        counts = " ".join(s.say for s in own[:4])
        due = [s for s in own if at is not None and s.position <= at]
        return text or "hold", counts, (due or own)[-1 if due else 0].foot

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        theme, width, height = self._theme, self.width(), self.height()
        painter.fillRect(self.rect(), theme.colour("paper"))
        side = width * 0.047
        if self.clock is not None:
            self._class(painter, self.clock, side, height)
            painter.end()
            return
        self._heads(painter, side, height)
        if self.run is not None and self.run.asked is not None:
            self._question(painter, self.run.asked, side, height)
            self._keys(painter, side, height)
            painter.end()
            return
        now, count, foot, after, after_count, after_foot = self.words_now()
        base = height * 0.40
        beside = 0.0
        if self._picture is not None and self.run is None:
            # As large as a phone's picture held upright or across may be, from below the heads to the strip.
            beside = width * PICTURE
            self._picture(painter, QRectF(width - side - beside, height * 0.17, beside, height * 0.41))
            beside += width * 0.02
        room = width - 2 * side - beside
        self._pair(painter, now, count, foot, side, base, height * NOW, room, QFont.Weight.Bold, "ink")
        if after:
            low = height * 0.545
            self._pair(
                painter,
                f"then {after}",
                after_count,
                after_foot,
                side,
                low,
                height * NEXT,
                room,
                QFont.Weight.Medium,
                "quiet",
            )
        self._strip(painter, height * 0.6, width)
        self._keys(painter, side, height)
        painter.end()

    def _class(self, painter: QPainter, clock: ClockShown, side: float, height: int) -> None:
        """The item and the time that is left of it, what is said, and what comes."""
        theme, room = self._theme, self.width() - 2 * side
        right = int(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
        wrapped = int(Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignTop | Qt.TextFlag.TextWordWrap)
        painter.setFont(self._sized(height * 0.036, QFont.Weight.DemiBold))
        painter.setPen(theme.colour("quiet"))
        head = QRectF(side, height * 0.065, room, height * 0.06)
        painter.drawText(head, int(Qt.AlignmentFlag.AlignVCenter), clock.name)
        painter.drawText(head, right, clock.behind if clock.goes else f"stopped, {clock.behind}")
        role = "bad" if clock.late else "ink"
        self._pair(
            painter, clock.title, clock.left, "", side, height * 0.34, height * NOW, room, QFont.Weight.Bold, role
        )
        painter.setFont(self._sized(height * 0.058, QFont.Weight.Medium))
        painter.setPen(theme.colour("ink"))
        said = QRectF(side, height * 0.4, room, height * 0.3)
        low = painter.boundingRect(said, wrapped, clock.say).bottom() if clock.say else said.top()
        painter.drawText(said, wrapped, clock.say)
        painter.setFont(self._sized(height * 0.04, QFont.Weight.Normal))
        painter.drawText(QRectF(side, low + height * 0.015, room, said.bottom() - low), wrapped, clock.danced)
        painter.setPen(theme.colour("quiet"))
        painter.setFont(self._sized(height * 0.058, QFont.Weight.Medium))
        painter.drawText(QRectF(side, height * 0.715, room, height * 0.08), wrapped, clock.following)
        painter.setFont(self._sized(height * 0.036, QFont.Weight.Normal))
        painter.drawText(QRectF(side, height * 0.79, room, height * 0.12), wrapped, clock.next_say)
        verb = "stop the clock" if clock.goes else "go on"
        keys = f"→  next item      ←  the one before      Space  {verb}      Esc  end the class"
        self._foot(painter, side, height, keys)

    def _question(self, painter: QPainter, asked: AskedShown, side: float, height: int) -> None:
        """The question, its answers below each other, and what was told of the one before."""
        theme, room = self._theme, self.width() - 2 * side
        wrapped = int(Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignTop | Qt.TextFlag.TextWordWrap)
        painter.setPen(theme.colour("quiet"))
        painter.setFont(self._sized(height * 0.04, QFont.Weight.DemiBold))
        painter.drawText(QPointF(side, height * 0.25), asked.of)
        painter.setPen(theme.colour("ink"))
        painter.setFont(self._sized(height * 0.07, QFont.Weight.Bold))
        box = QRectF(side, height * 0.275, room, height * 0.2)
        low = painter.boundingRect(box, wrapped, asked.asked).bottom()
        painter.drawText(box, wrapped, asked.asked)
        line = min(height * 0.08, (height * 0.79 - low) / max(1, len(asked.answers)))
        painter.setFont(self._sized(line * 0.7, QFont.Weight.Medium))
        for number, answer in enumerate(asked.answers, 1):
            painter.drawText(QPointF(side, low + height * 0.02 + number * line), answer)
        painter.setPen(theme.colour("quiet"))
        painter.setFont(self._sized(height * 0.036, QFont.Weight.Medium))
        painter.drawText(QRectF(side, height * 0.825, room, height * 0.09), wrapped, asked.told)

    def _heads(self, painter: QPainter, side: float, height: int) -> None:
        theme, desk = self._theme, self._desk
        painter.setFont(self._sized(height * 0.036, QFont.Weight.DemiBold))
        painter.setPen(theme.colour("quiet"))
        y = height * 0.105
        run, transport = self.run, desk.transport
        name = run.title if run is not None else f"{desk.settings.name}  {desk.title}"
        text = f"{transport.side}    {transport.tempo:g} a minute    then {transport.then}"
        if run is not None:
            text = "    ".join(filter(None, (run.now, run.left)))
        painter.drawText(QPointF(side, y), name)
        painter.setFont(self._sized(height * 0.032, QFont.Weight.Normal))
        if run is not None:
            self._beneath(painter, side, height, run)
        width = QFontMetricsF(painter.font()).horizontalAdvance(text)
        painter.drawText(QPointF(self.width() - side - width, y), text)

    def _beneath(self, painter: QPainter, side: float, height: int, run: RunShown) -> None:
        """Under the heads: what was answered, and what to think of or what comes."""
        y = height * 0.155
        painter.setPen(self._theme.colour("ink"))
        painter.drawText(QPointF(side, y), run.state)
        painter.setPen(self._theme.colour("quiet"))
        said = run.note or (f"after this: {run.following}" if run.following else "")
        width = QFontMetricsF(painter.font()).horizontalAdvance(said)
        painter.drawText(QPointF(self.width() - side - width, y), said)

    def _sized(self, px: float, weight: QFont.Weight) -> QFont:
        font = self._theme.font(16, weight)
        font.setPixelSize(max(13, int(px)))
        return font

    def _pair(
        self, painter: QPainter, word: str, count: str, foot: str, side: float, y: float, px: float, room: float,
        weight: QFont.Weight, role: str,
    ) -> None:  # fmt: skip
        """A word to the left and its count to the right, made smaller together where they would meet."""
        while True:
            font = self._sized(px, weight)
            metrics = QFontMetricsF(font)
            needed = metrics.horizontalAdvance(word) + metrics.horizontalAdvance(count) + px * 0.4
            if needed <= room * 0.98 or px < 24:
                break
            px *= 0.94
        painter.setFont(font)
        painter.setPen(self._theme.colour(role))
        painter.drawText(QPointF(side, y), word)
        painter.setPen(self._theme.colour(foot if foot in ("left", "right") else role))
        painter.drawText(QPointF(side + room - metrics.horizontalAdvance(count), y), count)

    def _strip(self, painter: QPainter, top: float, width: int) -> None:
        stretch = self._stretch()
        if stretch is None or not stretch.sounds:
            return
        layout = self._layout(stretch, width, self.height() * STRIP)
        at = self._position
        row = layout.row_of(at) if at is not None else 0
        painter.save()
        painter.translate(20, top - layout.top_of(row))
        StripPainter(self._theme, layout, stretch, Overlay(played=at)).paint(painter, [row])
        painter.restore()

    def _layout(self, stretch: Stretch, width: int, room: float) -> StripLayout:
        """A stretch as wide as the view, no row higher than there is room."""
        font = self._theme.font(17, QFont.Weight.Medium)
        how, known = (self._view, font, width, room), self._laid
        if known is None or known[0] is not stretch or known[1] != how:
            measure = QFontMetricsF(font).horizontalAdvance
            layout = lay_out(stretch, width - 40.0, measure, view=self._view)
            if layout.row_height > room:
                scale = room / layout.row_height
                layout = lay_out(stretch, width - 40.0, measure, scale=scale, view=self._view)
            known = self._laid = stretch, how, layout
        return known[2]

    def _keys(self, painter: QPainter, side: float, height: int) -> None:
        verb = "stop" if self._playing else "dance"
        text = f"Space  {verb}      ←  slower      →  faster      Esc  back to the desk"
        if self.run is not None and self.run.asked is not None:
            text = "a figure  answer      Space  hear it again      ← →  stage      Esc  end"
        elif self.run is not None:
            verb = "pause" if self._playing else "go on"
            text = (
                f"1  clean      2  a slip      3  lost      4  slower, and back      Space  {verb}      "
                "← →  stage      M  listen along      Esc  end"
            )
        self._foot(painter, side, height, text)

    def _foot(self, painter: QPainter, side: float, height: int, keys: str) -> None:
        """At the foot: what is said for a while, as large as it fits, else the keys."""
        room = QRectF(side, height * 0.925, self.width() - 2 * side, height * 0.05)
        if not self.said:
            painter.setFont(self._sized(height * 0.027, QFont.Weight.Normal))
            painter.setPen(self._theme.colour("quiet"))
            painter.drawText(room, keys)
            return
        px = height * 0.036
        while True:
            font = self._sized(px, QFont.Weight.DemiBold)
            if QFontMetricsF(font).horizontalAdvance(self.said) <= room.width() or px < 14:
                break
            px *= 0.94
        painter.setFont(font)
        painter.setPen(self._theme.colour("ink"))
        painter.drawText(room, QFontMetricsF(font).elidedText(self.said, Qt.TextElideMode.ElideRight, room.width()))

    def event(self, event: QEvent) -> bool:
        if event.type() == QEvent.Type.ShortcutOverride:
            event.accept()
            return True
        return super().event(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key = event.key()
        asked = self.run is not None and self.run.asked is not None
        if asked and Qt.Key.Key_1 <= key <= Qt.Key.Key_9:
            self.picked.emit(key - Qt.Key.Key_0)
        elif asked and key in (Qt.Key.Key_M, *ANSWERS):
            # A pedal answers no question.
            event.accept()
        elif key == Qt.Key.Key_Space:
            self.toggled.emit()
        elif self.clock is not None and key in ITEM_KEYS:
            self.item.emit(ITEM_KEYS[key])
        elif self.run is not None and key in ANSWERS:
            self.answered.emit(ANSWERS[key])
        elif self.run is not None and key == Qt.Key.Key_4:
            self.slower.emit()
        elif self.run is not None and key == Qt.Key.Key_M:
            self.listen.emit()
        elif self.run is not None and key in (Qt.Key.Key_Left, Qt.Key.Key_Right):
            self.stage.emit(1 if key == Qt.Key.Key_Right else -1)
        elif key in (Qt.Key.Key_Left, Qt.Key.Key_Minus):
            self.tempo.emit(-1)
        elif key in (Qt.Key.Key_Right, Qt.Key.Key_Plus, Qt.Key.Key_Equal):
            self.tempo.emit(1)
        elif key in (Qt.Key.Key_Escape, Qt.Key.Key_F8):
            self.left.emit()
        else:
            super().keyPressEvent(event)
