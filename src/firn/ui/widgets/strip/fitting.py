"""A strip fitted into its room: as large as its text asks, larger where a part is short, smaller to be whole."""

from msgspec import Struct
from PySide6.QtGui import QFont, QFontMetricsF

from firn.session.stretch import Stretch
from firn.session.view import View
from firn.ui.theme.theme import Theme
from firn.ui.widgets.strip.geometry import StripLayout
from firn.ui.widgets.strip.layout import headroom_of, lay_out

VERDICT_ROOM, MARK_ROOM = 38.0, 10.0
"""Room under each row for a take's verdict, else for marks."""

MOST_GROWN, MOST_SHRUNK = 1.7, 0.8


class Room(Struct, frozen=True):
    """Where a strip stands: its width, the height of the view, whether a take's verdict lies under its rows, and how
    many counts a row has room for at least."""

    width: float
    height: float
    verdict: bool
    least: int


class Fitting:
    """Lays stretches out in the sizes that fit; what has not changed is taken from the layouts before."""

    def __init__(self, theme: Theme) -> None:
        self._theme = theme
        self._widths: dict[str, float] = {}
        self._layouts: dict[float, StripLayout] = {}
        # The least height, in px, in which a whole row is seen.
        self.row_least = 0
        self._percent = theme.percent

    def restyled(self) -> bool:
        """Take up a look that has changed; whether text is of another size in it, so that nothing is as wide as it
        was."""
        if self._percent == self._theme.percent:
            return False
        self._percent = self._theme.percent
        self._widths.clear()
        self._layouts.clear()
        return True

    def fit(self, stretch: Stretch, view: View, room: Room) -> StripLayout:
        """A stretch laid out as a view shows it, in its room."""
        metrics = QFontMetricsF(self._theme.font(17, QFont.Weight.Medium))
        widths, least = self._widths, self._theme.percent / 100
        extra = VERDICT_ROOM if room.verdict else MARK_ROOM

        def measured(text: str) -> float:
            if text not in widths:
                widths[text] = metrics.horizontalAdvance(text)
            return widths[text]

        def laid(scale: float) -> StripLayout:
            return lay_out(
                stretch,
                room.width,
                measured,
                scale=scale,
                text=least,
                extra=extra * scale,
                least=room.least,
                view=view,
                before=self._layouts.get(scale),
            )

        layout = first = laid(least)
        # A short part is drawn larger: there is room, and feet are read from afar.
        grown = min(MOST_GROWN, (room.height - 8) / first.height) * least if first.height else least
        if grown < least:
            grown -= least * len(first.rows) * headroom_of(grown, least) / first.height
        # A little too high is drawn a little smaller; more than that scrolls.
        if grown > least * 1.05 or max(MOST_SHRUNK, least * 0.55) <= grown < least:
            layout = laid(grown)
        shrunk = max(MOST_SHRUNK * least, least * 0.55)
        self.row_least = round(first.row_height * shrunk / least + headroom_of(shrunk, least)) + 12
        self._layouts = {one.scale: one for one in (first, layout)}
        return layout
