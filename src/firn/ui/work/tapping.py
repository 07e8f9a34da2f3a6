"""What was tapped becomes a part's text: read, weighed against other readings, taken as one step."""

from collections.abc import Callable, Sequence
from fractions import Fraction
from typing import TYPE_CHECKING, Protocol

from firn.core.book.edits import SetClip
from firn.errors import FirnError
from firn.session.stretch import part_stretch
from firn.ui.pages.entries import WRITE
from firn.ui.pages.write.page import WritePage
from firn.ui.player import Player
from firn.ui.work.context import Context, Handlers

if TYPE_CHECKING:
    # Heavy: imported when something is first tapped.
    from PySide6.QtGui import QKeyEvent

    from firn.core.book.clips import Clip, Walls
    from firn.core.meter.line import Line
    from firn.core.quantise.quantise import Quantised
    from firn.session.tapping import Tap
    from firn.ui.pages.write.tapping import TapView
    from firn.ui.work.click_along import ClickAlong
    from firn.ui.work.midi_taps import MidiTaps

HALF, DOUBLE = 0.5, 2.0

NEAR = 0.15
"""By so much a reading's tempo may be another than the click's."""


class Along(Protocol):
    """A clip that is tapped along to; times are its own seconds."""

    @property
    def walls(self) -> "Walls": ...

    def now(self) -> float: ...

    def run(self) -> None: ...

    def rest(self) -> None: ...

    def look(self, time_s: float) -> None: ...

    def hear(self, time_s: float) -> None: ...

    def taken(self, line: "Line", shift: Fraction) -> "Clip": ...

    def left(self) -> None: ...


class Tapping:
    """Takes taps on Write and writes them into the part on show."""

    def __init__(self, context: Context, page: WritePage, player: Player) -> None:
        self._context, self._page, self._player = context, page, player
        self._found: list[Quantised] = []
        self._at = 0
        self._words = ""
        self._in_steps = self._once = self._beside = self._sung = False
        self._text = ""
        self._click: ClickAlong | None = None
        self._midi: MidiTaps | None = None
        self._late = ""
        self._taps: list[Tap] = []
        self._stood: int | None = None
        self._told = ""
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

    def read_sounds(self, along: Along, taps: "Sequence[Tap]", told: str, *, sung: bool = False) -> None:
        """Read sounds that were heard in a clip as if they had been tapped; `told`: what there is to say of them;
        `sung`: they are syllables."""
        if self._ready():
            self._along, self._told, self._sung = along, told, sung
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

    def _take_taps(self) -> None:
        self._told, self._late, self._sung = "", "", False
        self._rest_click()
        self.view.clock = self._usual if self._along is None else self._clip_clock
        self.view.begin(along=self._along is not None, midi=self._listens())
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
        from firn.session.tapping import Tap

        if self._along is not None:
            self._along.rest()
        if self._click is not None:
            self._click.rest()
        tempo = self._click.tempo if self._click is not None else None
        self._read_taps([Tap(*tap) for tap in self.view.taps], tempo)

    def _read_taps(self, tapped: "Sequence[Tap]", tempo: float | None) -> None:
        from firn.session.tapping import kept_taps, readings

        try:
            taps = self._taps = kept_taps(tapped)
        except FirnError as fault:
            self._context.say(str(fault))
            return
        meter = self._context.desk.settings.meter

        def done(found: "list[Quantised]") -> None:
            if taps is self._taps and self.view.isVisible():
                self._found, self._at, self._words, self._stood = self._clicked(found), 0, "", None
                self._in_steps = self._once = self._beside = False
                self._show()

        # Beside the window: many taps take their time.
        self._context.jobs.run("tap", "Reading what was tapped", lambda _: readings(taps, meter, tempo), done)

    def _clicked(self, found: "list[Quantised]") -> "list[Quantised]":
        """Readings with the first 1 where the click had it, where there was one."""
        click = self._click
        if click is None:
            return found
        from firn.session.tapping import to_click

        if abs(found[0].tempo / click.tempo - 1) > NEAR:
            # Half or twice as many counts were wanted.
            return found
        laid = [to_click(self._taps, read, click.first_s, click.tempo) for read in found]
        late = laid[0].late_ms
        way = "behind" if late > 0 else "ahead of"
        self._late = f"To the click at {click.tempo:g}: usually {abs(late):.0f} ms {way} it, the keyboard included."
        return [one.read for one in laid]

    def _wish(self, wish: str) -> None:
        if wish == "click":
            self._to_click()
            return
        read = self._found[self._at]
        if wish == "take":
            self._take()
        elif wish == "next":
            self._at = (self._at + 1) % len(self._found)
            self._show()
        elif wish in ("half", "double"):
            self._read_taps(self._taps, read.tempo * (HALF if wish == "half" else DOUBLE))
        elif wish == "one":
            from firn.session.tapping import later

            beats = self._context.desk.settings.meter.counts
            # Round the bar: a count later each time, and back to where it was.
            by = beats - 1 if min(read.places) <= 1 - beats else -1
            self._found[self._at] = later(read, by)
            self._show()
        elif wish == "again":
            self._take_taps()
        elif wish == "passes":
            self._once = not self._once
            self._show()
        elif wish == "against":
            self._hold_against(read.tempo)
        elif wish == "beside":
            self._beside = not self._beside
            self._show()
        elif wish == "steps":
            self._in_steps, self._words = not self._in_steps, ""
            self._show()
        elif wish in ("before", "after"):
            self._stand(1 if wish == "after" else -1)
        elif wish == "hear" and self._along is not None:
            self._along.hear(self._taps[self._stood or 0].at_s)
        elif wish == "words":
            self._words = self.view.words.text().strip()
            self.view.setFocus()
            self._show()

    def _hold_against(self, tempo: float) -> None:
        """Say how what was tapped differs from the part as it is written."""
        part, taps = self._context.desk.part, self._taps
        if part is None:
            return
        from firn.session.against import Against, held_against

        walls = self._along.walls if self._along is not None else ()

        def done(found: Against) -> None:
            if taps is self._taps and self.view.isVisible():
                self.view.said.setText(found.said)

        self._context.jobs.run(
            "tap", "Holding it against the part", lambda _: held_against(part, taps, tempo, walls), done
        )

    def _show(self) -> None:
        from firn.core.piece.build import part_from
        from firn.core.quantise.lilt import lilt
        from firn.session.tapping import (
            HANDS,
            hands_line,
            in_steps,
            laid_said,
            once,
            passes_of,
            script_of,
            shares,
            sung_line,
            worded,
        )

        desk, read = self._context.desk, self._found[self._at]
        settings, shelf = desk.settings, desk.shelf
        doubts: tuple[str, ...] = ()
        taps: Sequence[Tap] = self._taps
        laid = passes_of(taps, read, settings)
        if laid is not None and self._once:
            taps, read = once(taps, read, laid)
        try:
            if self._in_steps:
                self._text, doubts = in_steps(taps, read, settings, shelf)
            elif self._sung:
                self._text = sung_line(script_of(taps, read, settings, shelf), self._words)
            elif self._words:
                self._text = worded(self._words, read, settings, shelf)
            else:
                self._text = script_of(taps, read, settings, shelf)
            if self._beside:
                self._text = hands_line(self._text)
        except FirnError as fault:
            self._context.say(str(fault))
            if self._in_steps:
                # As it was: each sound by itself.
                self._in_steps = False
            elif self._sung:
                self._words = ""
            elif not self._words:
                self._text = ""
        times = [t.at_s for t in self._taps]
        said = [f"At {read.tempo:.0f} a minute, taps within {1000 * read.spread_s:.0f} ms of their counts."]
        measured = lilt(times, self._found[self._at])
        if measured is not None and measured.asked:
            said.append(f"Two in a count lie {measured.ratio:.1f} to 1, neither even nor swung: N has the other.")
        doubted = [
            f"{settings.counting.name(place)} ({sure:.0%}), or {settings.counting.name(more[0][0])}"
            for place, sure, more in zip(read.places, read.sure, read.others, strict=True)
            if more and sure < 0.9
        ]
        if doubted:
            said.append(f"In doubt: {'; '.join(doubted[:3])}{' and more' if len(doubted) > 3 else ''}.")
        said += [f"{'; '.join(doubts[:3])}{' and more' if len(doubts) > 3 else ''}."] if doubts else []
        said += [laid_said(laid, settings.counting)] if laid is not None else []
        said += [self._late] if self._late else []
        said += [self._told] if self._told else []
        words = "the syllables" if self._sung else "words for them"
        said.append(f"W: {words}, in order; ← → from sound to sound.")
        many = len(self._found)
        likely = f"   {self._at + 1} of {many}, {shares(self._found)[self._at]:.0%} likely" if many > 1 else ""
        hands = self._along is None and bool(desk.text.strip()) and all(tap.word in HANDS for tap in taps)
        self.view.show_reading(
            f"Read so{likely}", " ".join(said), self._text, more=many > 1, passes=laid is not None, hands=hands,
            part=desk.part is not None and bool(desk.part.sounds),
        )  # fmt: skip
        # Hands beside steps are seen over them.
        shown = f"{desk.text.rstrip()}\n{self._text}" if self._beside else self._text
        part = part_from(desk.title, shown, settings, shelf)
        self._page.strip.show_stretch(part_stretch(part), desk.view)

    def _stand(self, step: int) -> None:
        """Stand on the sound of the next tap, or of the one before: on the strip, and in the clip's picture."""
        read, many = self._found[self._at], len(self._taps)
        self._stood = 0 if self._stood is None else max(0, min(many - 1, self._stood + step))
        tap, place = self._taps[self._stood], read.places[self._stood]
        after = next((p for p in read.places if p > place), place + 1)
        self._page.strip.show_chosen((place, after))

        away = 1000 * (tap.at_s - read.line.second(float(place)))
        late = f"{abs(away):.0f} ms {'after' if away > 0 else 'before'} its count"
        name = self._context.desk.settings.counting.name(place)
        self.view.heading.setText(
            f"{self._stood + 1} of {many}   on {name}, {late}, {read.sure[self._stood]:.0%} sure"
        )
        if self._along is not None:
            self._along.look(tap.at_s)

    def _take(self) -> None:
        desk = self._context.desk
        if not self._text or desk.piece is None or desk.book_part is None:
            return
        before = desk.text.rstrip("\n")
        text = f"{before}\n{self._text}" if before.strip() else self._text
        self.rest()
        self._page.show_tapping(False)
        self._page.strip.show_chosen(desk.transport.chosen)
        if self._along is None:
            desk.change(text, "Tap it in")
        else:
            clip = self._along.taken(self._found[self._at].line, self._shift(text))
            desk.commit()
            self._context.do(SetClip(desk.piece.id, desk.book_part.id, clip, text, "Take it off a clip"))
        self._page.show_desk()
        if self._along is None:
            self._page.editor.setFocus()
        else:
            self._along.left()

    def _shift(self, text: str) -> Fraction:
        """How many counts behind the part's beginning what was tapped begins."""
        from firn.core.piece.build import part_from

        desk = self._context.desk
        alone, whole = (part_from(desk.title, t, desk.settings, desk.shelf).sounds for t in (self._text, text))
        return whole[-1].position - alone[-1].position if alone and whole else Fraction(0)
