"""The counts of a clip on Write: found, tapped along, put right by a key each, and shown along the strip."""

from collections.abc import Callable, Sequence
from typing import TYPE_CHECKING

from firn.core.task import Task
from firn.errors import FirnError
from firn.ui.pages.write.page import WritePage
from firn.ui.work.context import Context

if TYPE_CHECKING:
    # Heavy: imported when counts are first looked for.
    from firn.core.meter.line import Line
    from firn.session.clip_counts import Counts
    from firn.session.clips import OpenClip


class ClipCounts:
    """What is known of a clip's counts before any step of it is. `changed`: told when that has changed."""

    def __init__(self, context: Context, page: WritePage, changed: Callable[[], None]) -> None:
        self._context, self._page, self._changed = context, page, changed
        self._counts: Counts | None = None

    @property
    def line(self) -> "Line | None":
        """The line of the counts; None where they are not known."""
        return self._counts.line if self._counts is not None else None

    def forget(self) -> None:
        """Know nothing of them."""
        self._counts = None

    def find(self, clip: "OpenClip", begin_s: float, end_s: float) -> None:
        """Find them in the sound of a stretch."""

        def work(task: Task) -> "Counts | str":
            from firn.session.clip_counts import found_counts

            try:
                return found_counts(clip.path, begin_s, end_s, task)
            except FirnError as fault:
                return str(fault)

        def done(found: "Counts | str") -> None:
            if isinstance(found, str):
                self._context.say(found)
            else:
                self._become(found)

        self._context.jobs.run("counts", "Finding its beats", work, done)

    def tapped(self, times_s: Sequence[float]) -> None:
        """Take them as they were tapped along."""
        from firn.session.clip_counts import tapped_counts

        try:
            self._become(tapped_counts(times_s))
        except FirnError as fault:
            self._context.say(str(fault))

    def as_many(self, times: float) -> None:
        """Count so many times as many."""
        from firn.session.clip_counts import as_many

        if self._known():
            assert self._counts is not None
            self._become(as_many(self._counts, times))

    def one_at(self, at_s: float) -> None:
        """Have a 1 where the clip stands."""
        from firn.session.clip_counts import one_at

        if self._known():
            assert self._counts is not None
            self._become(one_at(self._counts, at_s))

    def _known(self) -> bool:
        if self._counts is None:
            self._context.say("Its counts are not known yet: K finds its beats, L taps them along.")
        return self._counts is not None

    def _become(self, counts: "Counts") -> None:
        self._counts = counts
        self._changed()

    def said(self, begin_s: float, end_s: float) -> str:
        """What is known of them, in a sentence; "" where nothing is."""
        if self._counts is None:
            return ""
        from firn.session.clip_counts import said_of

        return said_of(self._counts, begin_s, end_s)

    def show(self, end_s: float) -> None:
        """Show them along the strip, where the part has no step yet."""
        desk = self._context.desk
        if self._counts is None or desk.part is None or desk.part.sounds:
            return
        from firn.session.clip_counts import counted_stretch

        self._page.strip.show_stretch(counted_stretch(self._counts, end_s, desk.settings.counting), desk.view)
