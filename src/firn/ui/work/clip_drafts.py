"""What the ear hears of a clip on Write: its sounds, or syllables; and what struck, told by what was said of some."""

from collections.abc import Callable, Sequence
from typing import TYPE_CHECKING

from firn.core.task import Task
from firn.session.desk import read_in
from firn.ui.work.context import Context

if TYPE_CHECKING:
    # Heavy: imported when a clip is first listened to.
    from firn.core.quantise.words import Fit
    from firn.session.clips import OpenClip
    from firn.session.tap_script import Tap

    Heard = Callable[[OpenClip, Sequence[Tap], str, bool], None]


class ClipDrafts:
    """Listens to a clip beside the window. `heard` takes the clip, what was heard of it, what there is to say of
    that, and whether it is sung."""

    def __init__(self, context: Context, heard: "Heard") -> None:
        self._context, self._heard = context, heard

    def sung(self, clip: "OpenClip", begin_s: float, end_s: float) -> None:
        """Hear the syllables that are sung in a stretch."""

        def work(task: Task) -> "tuple[list[Tap], str]":
            from firn.session.drafting import sung_in

            return sung_in(clip.path, begin_s, end_s)

        self._context.jobs.run(
            "draft", "Listening to what is sung", work, lambda found: self._heard(clip, found[0], found[1], True)
        )

    def sounds(self, clip: "OpenClip", begin_s: float, end_s: float) -> None:
        """Hear the sounds of a stretch, in the shoes of the parts that were taken off the same clip."""
        book, piece, shelf = self._context.bridge.book, self._context.desk.piece, self._context.desk.shelf

        def work(task: Task) -> "tuple[list[Tap], str]":
            from firn.session.clips import fingerprint
            from firn.session.drafting import heard_in
            from firn.session.shoes import shoes_of_clip

            tied = []
            if piece is not None and book.clips:
                digest = fingerprint(clip.path)[1]
                of_it = {one.part: one for one in book.clips if one.aligned and one.digest == digest}
                tied = [(of_it[p.id], read_in(piece, p, p.text, shelf)) for p in piece.parts if p.id in of_it]
            return heard_in(clip.path, begin_s, end_s, task, shoes=shoes_of_clip(clip.path, tied))

        self._context.jobs.run(
            "draft", "Listening to the clip", work, lambda found: self._heard(clip, found[0], found[1], False)
        )

    def told_anew(
        self, clip: "OpenClip", taps: "Sequence[Tap]", given: "Sequence[Fit]", done: "Callable[[list[Tap]], None]"
    ) -> None:
        """Have what somebody said of some sounds tell how the others were struck; as they are where it says too
        little, and not where they were tapped."""
        if any(tap.heard is None for tap in taps):
            return

        def work(task: Task) -> "list[Tap]":
            from firn.session.drafting import told_by

            return told_by(clip.path, taps, given)

        self._context.jobs.run("anew", "Learning how it sounds", work, done)
