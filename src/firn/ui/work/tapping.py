"""What was tapped becomes a part's text: read, weighed against other readings, taken as one step."""

from typing import TYPE_CHECKING

from firn.errors import FirnError
from firn.session.stretch import part_stretch
from firn.ui.pages.entries import WRITE
from firn.ui.pages.write.page import WritePage
from firn.ui.work.context import Context, Handlers

if TYPE_CHECKING:
    # Heavy: imported when something is first tapped.
    from firn.core.quantise.quantise import Quantised
    from firn.session.tapping import Tap
    from firn.ui.pages.write.tapping import TapView

HALF, DOUBLE = 0.5, 2.0


class Tapping:
    """Takes taps on Write and writes them into the part on show."""

    def __init__(self, context: Context, page: WritePage) -> None:
        self._context, self._page = context, page
        self._found: list[Quantised] = []
        self._at = 0
        self._words = ""
        self._text = ""
        self._taps: list[Tap] = []
        self._connected = False

    def handlers(self) -> Handlers:
        return {"tap_in": self.begin}

    @property
    def view(self) -> "TapView":
        return self._page.tapping

    def begin(self) -> None:
        """Begin to tap into the part on show."""
        desk = self._context.desk
        self._context.show_page(WRITE)
        if desk.piece is None or desk.on_combo or desk.book_part is None:
            self._context.say("Steps are tapped into a part: choose one above.")
            return
        if not self._connected:
            self._connected = True
            self.view.done.connect(self._read)
            self.view.wished.connect(self._wish)
            self.view.left.connect(self._leave)
        self._page.show_tapping(True)
        self.view.begin()

    def _leave(self) -> None:
        self._page.show_tapping(False)
        self._page.editor.setFocus()

    def _read(self, tempo: float | None = None) -> None:
        from firn.session.tapping import Tap, kept_taps, readings

        try:
            taps = self._taps = kept_taps([Tap(*tap) for tap in self.view.taps])
        except FirnError as fault:
            self._context.say(str(fault))
            return
        meter = self._context.desk.settings.meter

        def done(found: "list[Quantised]") -> None:
            if taps is self._taps and self.view.isVisible():
                self._found, self._at, self._words = found, 0, ""
                self._show()

        # Beside the window: many taps take their time.
        self._context.jobs.run("tap", "Reading what was tapped", lambda _: readings(taps, meter, tempo), done)

    def _wish(self, wish: str) -> None:
        read = self._found[self._at]
        if wish == "take":
            self._take()
        elif wish == "next":
            self._at = (self._at + 1) % len(self._found)
            self._show()
        elif wish in ("half", "double"):
            self._read(read.tempo * (HALF if wish == "half" else DOUBLE))
        elif wish == "one":
            from firn.session.tapping import later

            beats = self._context.desk.settings.meter.counts
            # Round the bar: a count later each time, and back to where it was.
            by = beats - 1 if min(read.places) <= 1 - beats else -1
            self._found[self._at] = later(read, by)
            self._show()
        elif wish == "again":
            self.view.begin()
        elif wish == "words":
            self._words = self.view.words.text().strip()
            self.view.setFocus()
            self._show()

    def _show(self) -> None:
        from firn.core.piece.build import part_from
        from firn.core.quantise.lilt import lilt
        from firn.session.tapping import script_of, shares, worded

        desk, read = self._context.desk, self._found[self._at]
        settings, shelf = desk.settings, desk.shelf
        try:
            if self._words:
                self._text = worded(self._words, read, settings, shelf)
            else:
                self._text = script_of(self._taps, read, settings, shelf)
        except FirnError as fault:
            self._context.say(str(fault))
            if not self._words:
                self._text = ""
        times = [t.at_s for t in self._taps]
        said = [f"At {read.tempo:.0f} a minute, taps within {1000 * read.spread_s:.0f} ms of their counts."]
        measured = lilt(times, read)
        if measured is not None and measured.asked:
            said.append(f"Two in a count lie {measured.ratio:.1f} to 1, neither even nor swung: N has the other.")
        doubted = [
            f"{settings.counting.name(place)} ({sure:.0%}), or {settings.counting.name(more[0][0])}"
            for place, sure, more in zip(read.places, read.sure, read.others, strict=True)
            if more and sure < 0.9
        ]
        if doubted:
            said.append(f"In doubt: {'; '.join(doubted[:3])}{' and more' if len(doubted) > 3 else ''}.")
        said.append("W: words for them, in order.")
        many = len(self._found)
        likely = f"   {self._at + 1} of {many}, {shares(self._found)[self._at]:.0%} likely" if many > 1 else ""
        self.view.show_reading(f"Read so{likely}", " ".join(said), self._text, more=many > 1)
        part = part_from(desk.title, self._text, settings, shelf)
        self._page.strip.show_stretch(part_stretch(part), desk.view)

    def _take(self) -> None:
        desk = self._context.desk
        if not self._text:
            return
        before = desk.text.rstrip("\n")
        self._page.show_tapping(False)
        desk.change(f"{before}\n{self._text}" if before.strip() else self._text, "Tap it in")
        self._page.show_desk()
        self._page.editor.setFocus()
