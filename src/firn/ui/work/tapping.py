"""Taps are taken on Write: to the click, along to a clip, or free; what is read of them is the reading's."""

from collections.abc import Callable, Sequence
from typing import TYPE_CHECKING

from firn.core.task import Task
from firn.errors import FirnError
from firn.ui.pages.entries import WRITE
from firn.ui.pages.write.page import WritePage
from firn.ui.player import Player
from firn.ui.work.context import Context, Handlers
from firn.ui.work.tap_reading import TapReading
from firn.ui.work.tapped_along import Along

if TYPE_CHECKING:
    # Heavy: imported when something is first tapped.
    from PySide6.QtGui import QKeyEvent

    from firn.core.quantise.quantise import Quantised
    from firn.session.tap_script import Tap
    from firn.ui.pages.write.tapping import TapView
    from firn.ui.work.click_along import ClickAlong
    from firn.ui.work.midi_taps import MidiTaps

HALF, DOUBLE = 0.5, 2.0

NEAR = 0.15
"""By so much a reading's tempo may be another than the click's."""


class Tapping:
    """Takes taps on Write and writes them into the part on show."""

    def __init__(self, context: Context, page: WritePage, player: Player) -> None:
        self._context, self._page, self._player = context, page, player
        self._reading = TapReading(context, page)
        self._asked: object = None
        # What takes the times of beats, where these are tapped.
        self._beats: Callable[[list[float]], None] | None = None
        self._click: ClickAlong | None = None
        self._midi: MidiTaps | None = None
        self._along: Along | None = None
        self._connected = False

    def handlers(self) -> Handlers:
        return {"tap_in": self.begin}

    @property
    def view(self) -> "TapView":
        return self._page.tapping

    def begin(self) -> None:
        """Begin to tap into the part on show."""
        if self._ready():
            self._along = None
            self._page.show_tapping(True)
            self._take_taps()

    def begin_along(self, along: Along) -> None:
        """Begin to tap along to a clip, which runs."""
        if self._ready():
            self._along = along
            self._page.show_tapping(True)
            self._take_taps()

    def begin_beats(self, along: Along, tapped: "Callable[[list[float]], None]") -> None:
        """Begin to tap the beats of a clip, which runs; `tapped` takes their times."""
        if self._ready():
            self._along = along
            self._page.show_tapping(True)
            self._take_taps(tapped)

    def read_sounds(self, along: Along, taps: "Sequence[Tap]", told: str, *, sung: bool = False) -> None:
        """Read sounds that were heard in a clip as if they had been tapped; `told`: what there is to say of them;
        `sung`: they are syllables."""
        if self._ready():
            self._along = along
            self._reading.begin(along, told, sung=sung)
            self._page.show_tapping(True)
            self.view.begin(along=True)
            self._read_taps(taps, None)

    def _ready(self) -> bool:
        desk = self._context.desk
        self._context.show_page(WRITE)
        if desk.piece is None or desk.on_combo or desk.book_part is None:
            self._context.say("Steps are tapped into a part: choose one above.")
            return False
        if not self._connected:
            self._connected = True
            self.view.done.connect(self._read)
            self.view.wished.connect(self._wish)
            self.view.left.connect(self._leave)
        return True

    def _take_taps(self, beats: "Callable[[list[float]], None] | None" = None) -> None:
        self._beats = beats
        self._reading.begin(self._along)
        self._rest_click()
        self.view.clock = self._usual if self._along is None else self._clip_clock
        self.view.begin(along=self._along is not None, midi=self._listens(), beats=beats is not None)
        if self._along is not None:
            self._along.run()

    def _to_click(self) -> None:
        """Begin again, to a click at the tempo that is danced."""
        from firn.ui.work.click_along import ClickAlong

        self._rest_click()
        click = self._click = ClickAlong(self._context, self._player)

        def begun() -> None:
            if self._click is click and self.view.isVisible():
                self.view.begin(midi=self._listens())
                self.view.clock = lambda _: click.now()

        click.run(begun)

    def _listens(self) -> bool:
        """Listen to MIDI keys and pedals, where there are any; whether it does."""
        if self._midi is None:
            from firn.ui.work.midi_taps import MidiTaps

            self._midi = MidiTaps(self.view.strike, self.view)
        why = self._midi.start()
        if why:
            self._context.say(why)
        return self._midi.on

    def _rest_click(self) -> None:
        if self._click is not None:
            self._click.rest()
            self._click = None

    @property
    def _usual(self) -> "Callable[[QKeyEvent | None], float]":
        from firn.ui.pages.write.tapping import when

        return when

    def _clip_clock(self, event: "QKeyEvent | None") -> float:
        assert self._along is not None
        return self._along.now()

    def rest(self) -> None:
        """Neither click nor listen any more."""
        self._rest_click()
        if self._midi is not None:
            self._midi.stop()

    def _leave(self) -> None:
        self._page.show_tapping(False)
        self._page.strip.show_chosen(self._context.desk.transport.chosen)
        self.rest()
        if self._along is not None:
            self._along.left()
        else:
            self._page.editor.setFocus()

    def _read(self) -> None:
        from firn.session.tap_script import Tap

        if self._along is not None:
            self._along.rest()
        if self._beats is not None:
            tapped, self._beats = self._beats, None
            self._leave()
            tapped([at_s for at_s, *_ in self.view.taps])
            return
        if self._click is not None:
            self._click.rest()
        tempo = self._click.tempo if self._click is not None else None
        self._read_taps([Tap(*tap) for tap in self.view.taps], tempo)

    def _read_taps(self, tapped: "Sequence[Tap]", tempo: float | None) -> None:
        from firn.session.tapping import Grid, kept_taps, readings

        try:
            taps = tuple(kept_taps(tapped))
        except FirnError as fault:
            self._context.say(str(fault))
            return
        counting, line = self._context.desk.settings.counting, self._along.grid if self._along is not None else None
        grid = Grid(line, counting.phrase) if line is not None else None
        asked = self._asked = object()

        def done(found: "list[Quantised]") -> None:
            if self._asked is asked and self.view.isVisible():
                late, clicked = self._clicked(taps, found)
                self._reading.show(taps, clicked, late)

        settings, shelf = self._context.desk.settings, self._context.desk.shelf

        def work(task: Task) -> "list[Quantised]":
            from firn.session.tap_words import named_in

            found = readings(taps, counting.meter, tempo, grid=grid)
            # Which steps they could be is known, then, when somebody asks.
            named_in(taps, found[0], settings, shelf)
            return found

        # Beside the window: many taps take their time.
        self._context.jobs.run("tap", "Reading what was tapped", work, done)

    def _clicked(self, taps: "Sequence[Tap]", found: "list[Quantised]") -> "tuple[str, list[Quantised]]":
        """How late to the click it is, and readings with the first 1 where the click had it, where there was one."""
        click = self._click
        if click is None:
            return "", found
        from firn.session.tapping import to_click

        if abs(found[0].tempo / click.tempo - 1) > NEAR:
            # Half or twice as many counts were wanted.
            return "", found
        laid = [to_click(taps, read, click.first_s, click.tempo) for read in found]
        late = laid[0].late_ms
        way = "behind" if late > 0 else "ahead of"
        said = f"To the click at {click.tempo:g}: usually {abs(late):.0f} ms {way} it, the keyboard included."
        return said, [one.read for one in laid]

    def _wish(self, wish: str) -> None:
        now = self._reading.now
        if wish == "click":
            self._to_click()
        elif wish == "again":
            self._take_taps()
        elif wish in ("half", "double") and now is not None:
            self._read_taps(now.taps, now.read.tempo * (HALF if wish == "half" else DOUBLE))
        elif wish == "take":
            self.rest()
            self._reading.take()
        else:
            self._reading.wish(wish)
