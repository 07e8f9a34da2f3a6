"""Music of her own to a piece: asked for, counted, and laid under what is danced to music."""

from fractions import Fraction
from pathlib import Path
from typing import TYPE_CHECKING

from firn.core.book.clips import Clip
from firn.core.book.edits import SetClip
from firn.core.meter.count_in import CountIn
from firn.core.task import Task
from firn.core.timeline.mixing import Mixing
from firn.core.timeline.timeline import Section
from firn.errors import FirnError
from firn.files.formats import RECORDING
from firn.ui.player import Player
from firn.ui.work.context import Context

if TYPE_CHECKING:
    from firn.core.sound.voices import FloatArray
    from firn.core.timeline.own_music import OwnMusic
    from firn.session.music import Counted, Heard

TRIED = 16
"""Counts of it that are heard with its counts."""


class OwnMusicWork:
    """Works on the music of the piece on the desk."""

    def __init__(self, context: Context, player: Player) -> None:
        self._context, self._player = context, player
        # The music that was opened last, and what of it was said.
        self._opened: tuple[Clip, OwnMusic] | None = None
        self._said: set[str] = set()
        self._fault = ""

    @property
    def kept(self) -> Clip | None:
        """The music of the piece on the desk; None where it has none of its own."""
        desk = self._context.desk
        return self._context.bridge.book.clip_of(desk.piece.id) if desk.piece is not None else None

    def laid(self, section: Section, kept: Clip | None) -> Section:
        """A section as it sounds: to music of her own where it is danced to music and there is some. What cannot be
        is told by `fault`. Not for the window's thread, since a file may be opened."""
        self._fault = ""
        if kept is None or not section.mixing.music:
            return section
        from firn.core.timeline.music import laid

        try:
            return laid(section, self._music(kept))
        except FirnError as fault:
            self._fault = f"{fault} The plain backing plays."
            return section

    def _music(self, kept: Clip) -> "OwnMusic":
        if self._opened is None or self._opened[0] != kept:
            from firn.session.music import music_of

            session = self._context.bridge.session
            music = music_of(session.book, kept.part, session.path)
            if music is None:
                raise FirnError(f"{kept.name} has no counts.")
            self._opened = (kept, music)
        return self._opened[1]

    def tell(self) -> None:
        """Say once what could not be."""
        if self._fault and self._fault not in self._said:
            self._said.add(self._fault)
            self._context.say(self._fault)

    def ask(self) -> None:
        """Ask how the piece's music is counted; for its file, where there is none."""
        context, kept = self._context, self.kept
        if context.desk.piece is None:
            return
        path: Path | None = None
        if kept is not None:
            from firn.session.clips import found_clip

            path = found_clip(kept, context.bridge.session.path)
            if path is None:
                context.say(f"{kept.name} is neither in {Path(kept.path).parent} nor beside the workbook: choose it.")
        path = path or context.prompts.open_file(context.window, "Music of your own", RECORDING.offered)
        if path is not None:
            self.hear_of(path)

    def hear_of(self, path: Path) -> None:
        """Find the beats of music, then ask how it is counted."""

        def work(task: Task) -> "Heard":
            from firn.session.music import heard_in

            return heard_in(path, task)

        self._context.jobs.run("own music", "Listening to the music", work, self._counted)

    def _counted(self, heard: "Heard") -> None:
        from firn.session.music import counted_of, kept_music, likely
        from firn.ui.dialogs.own_music import OwnMusicDialog

        context, kept = self._context, self.kept
        piece = context.desk.piece
        if piece is None:
            return
        known = kept is not None and Path(kept.path).name == heard.path.name
        now = counted_of(kept) if kept is not None and known else likely(heard, context.desk.transport.tempo)
        dialog = OwnMusicDialog(heard, now, kept=known, parent=context.window)
        dialog.hear.connect(lambda how: self._try(heard, how))
        accepted = context.prompts.run(dialog)
        self._player.stop()
        if not accepted:
            return
        if dialog.counted is None:
            context.do(SetClip(piece.id, piece.id, None, label="Take the music away"))
            return
        try:
            made = kept_music(piece.id, heard, dialog.counted)
        except FirnError as fault:
            context.say(str(fault))
            return
        context.do(SetClip(piece.id, piece.id, made, label="Set the music"))
        self._said.clear()
        context.say(f"{made.name} plays where music is heard: V turns to it.")

    def _try(self, heard: "Heard", how: "Counted") -> None:
        """Its first counts, said aloud over it."""
        counting = self._context.desk.settings.counting

        def work(task: Task) -> "FloatArray":
            from firn.core.sound.model import render
            from firn.core.timeline.music import laid
            from firn.session.clips import open_clip
            from firn.session.music import line_for, own_music

            music = own_music(open_clip(heard.path), line_for(heard, how))
            mixing = Mixing(how.tempo, CountIn("none"), beats=False)
            first = Section((), counting, Fraction(0), Fraction(TRIED), mixing)
            return render(laid(first, music), task).audio

        self._context.jobs.run("dance", "Laying its counts over the music", work, self._player.play_samples)
