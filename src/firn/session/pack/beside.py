"""What a teacher puts beside the steps of a pack: her own voice, and the picture of the clip that a part is from."""

import base64
from collections.abc import Iterator, Sequence
from pathlib import Path

import numpy as np
from msgspec import Struct

from firn.core.book.book import Book, BookPiece
from firn.core.book.clips import Clip
from firn.core.meter.line import Line
from firn.core.piece.build import piece_from
from firn.core.piece.piece import Part
from firn.core.sound.voices import RATE
from firn.core.steps.shelf import Shelf
from firn.core.task import UNWATCHED, Task
from firn.errors import FirnError
from firn.files.whole import called
from firn.session.clips import found_clip, line_of
from firn.session.pack.coded import mp3_of
from firn.session.stretch import part_stretch

MOST_VOICE_S = 180.0
"""So long her voice may be."""
LOUD = 0.7
ROUND_S = 0.5
"""So much of a clip is seen before its first count and after its last."""


class ClipFilm(Struct, frozen=True):
    """The picture of a clip: which part it is of, whose step it is, the film as MP4, and its words as WebVTT."""

    part: str
    said: str
    data: bytes
    words: str

    @property
    def file(self) -> str:
        """What it is called in a folder."""
        name = "".join(c if c.isalnum() else "-" for c in self.part)
        return f"films/{name}.mp4"

    @property
    def captions(self) -> str:
        """Its words as a page holds them."""
        return f"data:text/vtt;base64,{base64.b64encode(self.words.encode()).decode('ascii')}"


def voice_of(path: Path) -> bytes:
    """A teacher's recorded voice as MP3 for a pack; raises FirnError with one sentence."""
    from firn.files.audio import read_take, take_info

    long = take_info(path).seconds
    if long > MOST_VOICE_S:
        raise FirnError(f"{called(path)} lasts {long:.0f} s: a pack takes {MOST_VOICE_S:.0f} s of your voice.")
    sound, rate, _ = read_take(path)
    if rate != RATE:
        from scipy.signal import resample_poly

        sound = np.asarray(resample_poly(sound, RATE, rate), np.float32)
    loudest = float(np.abs(sound).max(initial=0.0))
    if loudest < 1e-4:
        raise FirnError(f"{called(path)} is silent.")
    # As loud as the model is, whatever the phone recorded.
    return mp3_of(iter([np.asarray(sound * (LOUD / loudest))[:, None]]))


def films_of(
    book: Book, piece: BookPiece, parts: Sequence[str], shelf: Shelf, workbook: Path, task: Task = UNWATCHED
) -> tuple[ClipFilm, ...]:
    """The pictures of the clips that parts are from, of all where none is named; raises FirnError with one sentence
    where there is none, or a clip is gone."""
    from firn.files.small_film import small_film

    read = piece_from(piece.script, shelf)
    clips = [
        (one, clip)
        for kept in piece.parts
        if (not parts or kept.name in parts)
        and (clip := book.clip_of(kept.id)) is not None
        and (one := read.part(kept.name)) is not None
    ]
    if not clips:
        raise FirnError("None of these parts is from a clip: there is no picture to put in.")
    films = []
    for number, (part, clip) in enumerate(clips):
        path = found_clip(clip, workbook)
        if path is None:
            raise FirnError(f"{clip.name} is gone: bring it back beside the workbook, or leave its picture out.")
        line = line_of(clip)
        begin, end = clip.begin_s, clip.end_s
        if line is not None:
            begin = max(0.0, line.second(float(part.first_count)) - ROUND_S)
            end = line.second(float(part.first_count + part.counts)) + ROUND_S
        at = number / len(clips)
        film = small_film(path, begin, end, mirrored=clip.mirrored, task=task.within(at, at + 1 / len(clips)))
        films.append(ClipFilm(part.name, clip.said, film, "\n".join(_vtt(part, clip, line, begin, end))))
    return tuple(films)


def _vtt(part: Part, clip: Clip, line: Line | None, begin: float, end: float) -> Iterator[str]:
    """The words of a part when they are danced in its film; its name where the counts of a clip are not known."""
    stretch = part_stretch(part)
    starts = [(0.0, part.name)]
    if line is not None:
        seconds = ((line.second(float(stretch.sounds[i].position)) - begin, text) for i, text in stretch.words)
        starts = [(max(0.0, at), text) for at, text in seconds]
    yield "WEBVTT"
    for (at, text), (until, _) in zip(starts, [*starts[1:], (end - begin, "")], strict=True):
        if until > at:
            # What is text stays text: < begins a tag, and an arrow would make a line a time.
            plain = text.replace("&", "&amp;").replace("<", "&lt;").replace(">", "&gt;")
            yield f"\n{_time(at)} --> {_time(until)}\n{plain}"


def _time(seconds: float) -> str:
    return f"{int(seconds // 3600):02}:{int(seconds // 60 % 60):02}:{seconds % 60:06.3f}"
