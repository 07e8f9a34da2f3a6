"""Tapping in: keys for feet, hands and what makes no sound; then how it is read, and what else it could be."""

from collections.abc import Callable, Collection
from time import perf_counter

from msgspec import Struct
from PySide6.QtCore import QEvent, QObject, Qt, Signal
from PySide6.QtGui import QFont, QKeyEvent
from PySide6.QtWidgets import QHBoxLayout, QLineEdit, QPushButton, QVBoxLayout, QWidget

from firn.devices.midi import PEDAL
from firn.ui.theme.theme import Theme
from firn.ui.widgets.labels import Label
from firn.ui.widgets.room import WrappingRow

Key = Qt.Key


class Struck(Struct, frozen=True):
    """What a key stands for: a word with weight and one without, and the foot."""

    word: str
    light: str
    foot: str


KEYS: dict[Key, Struck] = {
    Key.Key_F: Struck("step", "touch", "left"),
    Key.Key_D: Struck("heel", "dig", "left"),
    Key.Key_S: Struck("toe", "toe tip", "left"),
    Key.Key_A: Struck("brush", "brush", "left"),
    Key.Key_R: Struck("stamp", "stomp", "left"),
    Key.Key_V: Struck("hop", "hop", "left"),
    Key.Key_J: Struck("step", "touch", "right"),
    Key.Key_K: Struck("heel", "dig", "right"),
    Key.Key_L: Struck("toe", "toe tip", "right"),
    Key.Key_Semicolon: Struck("brush", "brush", "right"),
    Key.Key_U: Struck("stamp", "stomp", "right"),
    Key.Key_M: Struck("hop", "hop", "right"),
    Key.Key_H: Struck("clap", "clap", ""),
    Key.Key_G: Struck("clap", "clap", ""),
    Key.Key_E: Struck("kick", "lift", "left"),
    Key.Key_I: Struck("kick", "lift", "right"),
    Key.Key_T: Struck("turn", "turn", ""),
    Key.Key_Space: Struck("hold", "hold", ""),
}
"""Left hand, left foot; right hand, right foot; with Shift without weight, or in its lighter form."""

_STEP, _HEEL, _TOE = ("step", "touch"), ("heel", "dig"), ("toe", "toe tip")
_STAMP, _BRUSH = ("stamp", "stomp"), ("brush", "brush")
NOTES: dict[int, Struck] = {
    0: Struck(*_STEP, "left"), 2: Struck(*_STEP, "right"), 4: Struck(*_HEEL, "left"), 5: Struck(*_HEEL, "right"),
    7: Struck(*_TOE, "left"), 9: Struck(*_TOE, "right"), 11: Struck("clap", "clap", ""),
    1: Struck(*_STAMP, "left"), 3: Struck(*_STAMP, "right"), 6: Struck(*_BRUSH, "left"), 8: Struck(*_BRUSH, "right"),
    10: Struck("hold", "hold", ""),
}  # fmt: skip
"""Notes of a MIDI keyboard, in any octave: white ones C D step, E F heel, G A toe, each left and right, B clap; black
ones stamp, brush, and hold."""

PEDAL_KEYS: dict[int, Struck] = {67: NOTES[0], 64: NOTES[2], 66: NOTES[11]}
"""Pedals of one: the left one is the left foot, the right one the right, that between them a clap."""

MIDI_HOW = (
    "On the MIDI keys C D step, E F heel, G A toe, B clap, black ones stamp and brush; soft is without weight. "
)

HOW = (
    "F left foot, J right foot; D K heel, S L toe, A ; brush, R U stamp, V M hop, H clap. In silence: E I kick, "
    "T turn, Space hold. With Shift without weight. C clicks at the tempo below. Enter when you are done, Backspace "
    "takes the last one back."
)


WISHES = (
    ("take", "Take it  Enter"),
    ("so", "It is so  O"),
    ("other", "Another step  R"),
    ("in_turn", "Clip, then model  M"),
    ("next", "Another reading  N"),
    ("steps", "In steps  Y"),
    ("passes", "Once alone  P"),
    ("beside", "Beside the steps  B"),
    ("against", "Held against the part  A"),
    ("half", "Half as many counts  −"),
    ("double", "Twice as many  +"),
    ("one", "1 is a count later  1"),
    ("again", "Tap again  Backspace"),
    ("hear", "Hear the clip there  H"),
    ("none", "No foot here  X"),
    ("missing", "One is missing here  I"),
    ("earlier", "Begins earlier  ,"),
    ("later", "Begins later  ."),
    ("undo", "Take that back  Z"),
)
"""What can be wished of a reading, with its key."""

ALWAYS = frozenset({"take", "steps", "half", "double", "one", "again"})
"""What has a button while a reading is on show, whatever it is; the rest has one where it can be done."""

OF_A_WORD = frozenset({"take", "so", "other", "in_turn", "hear", "steps", "undo"})
OF_A_SOUND = frozenset({"take", "hear", "none", "missing", "earlier", "later", "undo"})
"""What has a button while one stands on a word, or on a sound."""

ANYWAY = ALWAYS | {"next", "passes", "before", "after", "up", "down", "hear", "undo"}
"""What has its key whether it has a button now or not."""

REPEATED = {Key.Key_Comma: "earlier", Key.Key_Period: "later", Key.Key_Left: "before", Key.Key_Right: "after"}
"""What a key that is held does again and again."""


ALL_WORDS = "These are, in order: shuffle ball change …"
ONE_WORD = "What begins here: shuffle"

BEATS_HOW = (
    "Tap each count with J as it goes by, the first a 1. Enter when you are done, Backspace takes the last one back."
)


class TapView(QWidget):
    """Takes taps and shows how they are read.

    `done`: the taps are to be read; `wished`: what is wanted of the reading on show, one of `WISHES`, or before,
    after, up, down, words, or the click, to tap to; `left`: it is over.
    """

    done = Signal()
    wished = Signal(str)
    left = Signal()

    def __init__(self, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._theme = theme
        self.taps: list[tuple[float, str, str]] = []
        self.clock: Callable[[QKeyEvent | None], float] = when
        self.reading = self.along = False
        self._title = "Tap it in"
        self.heading, self.said, self.script = Label("Tap it in"), Label(), Label()
        for label in (self.said, self.script):
            label.setWordWrap(True)
        self.words = QLineEdit()
        self.words.setPlaceholderText(ALL_WORDS)
        self.words.setAccessibleName("The steps that were tapped, in order")
        self.words.installEventFilter(self)
        self.buttons: dict[str, QPushButton] = {}
        row = WrappingRow()
        for wish, text in WISHES:
            button = QPushButton(text)
            button.clicked.connect(lambda _=False, w=wish: self.wished.emit(w))
            button.setFocusPolicy(Qt.FocusPolicy.NoFocus)
            self.buttons[wish] = button
            row.addWidget(button)
        self.buttons["take"].setProperty("next", "true")
        self.click_button = QPushButton("To the click  C")
        self.click_button.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.click_button.clicked.connect(lambda: self.wished.emit("click"))
        self.leave = QPushButton("Leave it  Esc")
        self.leave.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.leave.clicked.connect(self.left)
        top = QHBoxLayout()
        top.addWidget(self.heading, 1)
        top.addWidget(self.click_button)
        top.addWidget(self.leave)
        box = QVBoxLayout(self)
        self._box = box
        box.setSpacing(8)
        box.addLayout(top)
        box.addWidget(self.said)
        box.addWidget(self.script)
        box.addWidget(self.words)
        box.addLayout(row)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Tap it in")
        theme.changed.connect(self._restyle)
        self._restyle()

    def _restyle(self) -> None:
        self.heading.setFont(self._theme.font(18, QFont.Weight.DemiBold))
        self.said.setFont(self._theme.font(16))
        self.script.setFont(self._theme.font(18, QFont.Weight.Medium))

    def begin(self, *, along: bool = False, midi: bool = False, beats: bool = False) -> None:
        """Begin to take taps; `along`: to a clip; `midi`: keys that speak MIDI are listened to as well; `beats`: it
        is the beats alone that are tapped."""
        self.taps, self.reading, self.along = [], False, along
        # Beside a picture the room round it is the clip's.
        self._box.setContentsMargins(*(0, 0, 0, 0) if along else (24, 10, 24, 8))
        self.words.clear()
        self._title = "Tap its beats" if beats else "Tap it in"
        self._show(self._title, BEATS_HOW if beats else f"{MIDI_HOW if midi else ''}{HOW}", "")
        self.setFocus(Qt.FocusReason.OtherFocusReason)

    def show_reading(
        self, heading: str, said: str, script: str, can: Collection[str], *, large: bool = False, steps: bool = False
    ) -> None:
        """Show how taps are read, and what can be done with that; `large`: it is one word that is looked at; `steps`:
        they are read as steps."""
        self.reading = True
        self.buttons["steps"].setText("Each by itself  Y" if steps else "In steps  Y")
        if large and not self.words.hasFocus():
            # What is typed next is this word.
            self.words.clear()
        self.words.setPlaceholderText(ONE_WORD if large else ALL_WORDS)
        self._show(heading, said, script, can)
        self.heading.setFont(self._theme.font(24 if large else 18, QFont.Weight.DemiBold))

    def show_standing(self, heading: str, can: Collection[str]) -> None:
        """Show the sound on which one stands."""
        self.heading.setText(heading)
        self._show_buttons(can)

    def _show(self, heading: str, said: str, script: str, can: Collection[str] = ()) -> None:
        self.heading.setText(heading)
        self.said.setText(said)
        self.script.setText(script)
        self.script.setVisible(bool(script))
        self.words.setVisible(self.reading)
        self.click_button.setVisible(not self.reading and not self.along)
        self._show_buttons(can)

    def _show_buttons(self, can: Collection[str]) -> None:
        for wish, button in self.buttons.items():
            button.setVisible(self.reading and wish in can)

    # Keys

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """Return in the words lays them on, and goes no further: here it would take the reading."""
        pressed = watched is self.words and event.type() == QEvent.Type.KeyPress and isinstance(event, QKeyEvent)
        if pressed and isinstance(event, QKeyEvent) and event.key() in (Key.Key_Return, Key.Key_Enter):
            self.wished.emit("words")
            return True
        return super().eventFilter(watched, event)

    def event(self, event: QEvent) -> bool:
        ours = event.type() == QEvent.Type.ShortcutOverride and isinstance(event, QKeyEvent)
        if ours and isinstance(event, QKeyEvent) and not event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            event.accept()
            return True
        return super().event(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key = Key(event.key())
        again = event.isAutoRepeat() and not (self.reading and key in REPEATED)
        if again or event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            super().keyPressEvent(event)
        elif key == Key.Key_Escape:
            self.left.emit()
        elif self.reading:
            self._wish(event, key)
        elif key in (Key.Key_Return, Key.Key_Enter):
            self.done.emit()
        elif key == Key.Key_Backspace:
            del self.taps[-1:]
            self._tell()
        elif key == Key.Key_C and not self.along:
            self.wished.emit("click")
        elif (struck := KEYS.get(key)) is not None:
            light = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
            self.taps.append((self.clock(event), struck.light if light else struck.word, struck.foot))
            self._tell()
        # What stands for nothing goes no further: to the clip beneath it could mean something.

    def strike(self, at_s: float, note: int, soft: bool) -> None:
        """Take a tap of a MIDI key or pedal (PEDAL + controller), which went down at a time of perf_counter."""
        struck = NOTES[note % 12] if note < PEDAL else PEDAL_KEYS.get(note - PEDAL)
        if struck is None or self.reading or not self.isVisible():
            return
        waited = perf_counter() - at_s
        self.taps.append((self.clock(None) - waited, struck.light if soft else struck.word, struck.foot))
        self._tell()

    def _wish(self, event: QKeyEvent, key: Key) -> None:
        wishes = {
            Key.Key_Return: "take", Key.Key_Enter: "take", Key.Key_N: "next", Key.Key_Backspace: "again",
            Key.Key_Minus: "half", Key.Key_Plus: "double", Key.Key_Equal: "double", Key.Key_1: "one",
            Key.Key_Y: "steps", Key.Key_P: "passes", Key.Key_B: "beside", Key.Key_Up: "up", Key.Key_Down: "down",
            Key.Key_H: "hear", Key.Key_A: "against", Key.Key_O: "so", Key.Key_R: "other", Key.Key_M: "in_turn",
            Key.Key_X: "none", Key.Key_I: "missing", Key.Key_Z: "undo", **REPEATED,
        }  # fmt: skip
        wish = wishes.get(key, "")
        if wish and (wish in ANYWAY or self.buttons[wish].isVisible()):
            self.wished.emit(wish)
        elif key == Key.Key_W:
            self.words.setFocus(Qt.FocusReason.OtherFocusReason)
            self.words.selectAll()

    def _tell(self) -> None:
        many = len(self.taps)
        last = f": {self.taps[-1][1]} {self.taps[-1][2]}" if many else ""
        self.heading.setText(f"{self._title}   {many} so far{last}" if many else self._title)


def when(event: QKeyEvent | None) -> float:
    """When a key went down, in seconds: as the system noted it, or now."""
    stamp = event.timestamp() if event is not None else 0
    return stamp / 1000 if stamp else perf_counter()
