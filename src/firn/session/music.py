"""Music of her own to a piece: its beats found, its counts put right, and played under what is danced."""

from collections.abc import Sequence
from pathlib import Path

import numpy as np
from msgspec import Struct

from firn.core.book.book import Book
from firn.core.book.clips import Clip
from firn.core.meter.line import Line, line_through
from firn.core.meter.tempo import FASTEST, SLOWEST
from firn.core.task import UNWATCHED, Task
from firn.core.timeline.own_music import MusicError, OwnMusic
from firn.errors import FirnError
from firn.files.audio import beats_of_file, read_take
from firn.files.whole import called
from firn.session.clip_counts import LEADS_S, silent_at_first
from firn.session.clips import ClipSound, OpenClip, fingerprint, found_clip, line_of, open_clip
from firn.session.fresh import new_id

LEAST_BEATS = 8
"""Fewer make no tempo."""

SPREAD_S = 0.015
"""So far beats that are found lie from where they are."""

ALIKE = 0.02
"""So near a ratio a tempo that is typed is half, twice or just what was found."""

SURE = 0.5
"""Below this half or twice as fast is as likely."""

RATIOS = (1.0, 0.5, 2.0)

UNEVEN = 0.25


class Heard(Struct, frozen=True):
    """Music as it was heard: how long it is, its beats in seconds, beats a minute, and how sure they are."""

    path: Path
    seconds: float
    beats_s: tuple[float, ...]
    bpm: float
    sure: float


class Counted(Struct, frozen=True):
    """How music is counted: counts a minute, and the second of count 1."""

    tempo: float
    first_s: float


def heard_in(path: Path, task: Task = UNWATCHED) -> Heard:
    """The beats of music; none where none can be followed. Raises FirnError for what is no recording."""
    clip = open_clip(path)
    if not clip.sound:
        raise FirnError(f"{called(path)} has no sound.")
    found = beats_of_file(path, task)
    sound, rate, _ = read_take(path, length_s=LEADS_S)
    beats = found.times_s[silent_at_first(sound, rate, found.times_s) :]
    if len(beats) < LEAST_BEATS:
        return Heard(path, clip.seconds, (), 0.0, 0.0)
    spans = np.diff(beats)
    # A beat that is left out or found twice is no part of the tempo.
    usual = spans[np.abs(spans / np.median(spans) - 1) < UNEVEN]
    return Heard(path, clip.seconds, tuple(float(t) for t in beats), float(60 / usual.mean()), found.sure)


def likely(heard: Heard, tempo: float) -> Counted:
    """How music is counted, most likely, where the piece goes at a tempo: as many beats to a count as come nearest to
    it, and count 1 on the first beat."""
    if not heard.beats_s:
        return Counted(tempo, 0.0)
    ratio = min(RATIOS, key=lambda r: abs(np.log(heard.bpm * r / tempo)))
    return Counted(round(heard.bpm * ratio, 1), heard.beats_s[0])


def doubt_of(heard: Heard) -> str:
    """What is not sure of it, in one sentence; "" where it is."""
    if not heard.beats_s:
        return "No beat of it can be followed: type its counts a minute, and the second of its first 1."
    if heard.sure < SURE:
        return "Half or twice as fast may be meant as well: hear it with its counts."
    return "Which of its beats is 1, Firn does not know: hear it with its counts."


def line_for(heard: Heard, how: Counted) -> Line:
    """The line of its counts: along the beats where the tempo goes with them, else steady. Raises MusicError for what
    cannot be counted so."""
    if not SLOWEST <= how.tempo <= FASTEST:
        raise MusicError(f"Between {SLOWEST} and {FASTEST} counts a minute, not {how.tempo:g}.")
    if not 0 <= how.first_s < heard.seconds:
        raise MusicError(f"Count 1 lies in the {heard.seconds:.0f} s of it, not at {how.first_s:g} s.")
    ratio = next((r for r in RATIOS if heard.bpm and abs(how.tempo / (heard.bpm * r) - 1) <= ALIKE), None)
    if ratio is None:
        steady = 60 / how.tempo
        return Line(np.array([0.0, 1.0]), np.array([how.first_s, how.first_s + steady]))
    beats = np.array(heard.beats_s, dtype=np.float64)
    line = line_through(np.arange(len(beats), dtype=np.float64) * ratio, beats, SPREAD_S)
    return Line(line.knots - line.count(how.first_s), line.seconds)


def beat_beside(heard: Heard, how: Counted, by: int) -> Counted:
    """Count 1 on the beat so many after, or before for less than 0, the one that it is on."""
    beats: Sequence[float] = heard.beats_s or (how.first_s,)
    near = min(range(len(beats)), key=lambda k: abs(beats[k] - how.first_s))
    at = near if by and abs(beats[near] - how.first_s) > SPREAD_S else near + by
    return Counted(how.tempo, beats[min(len(beats) - 1, max(0, at))])


def times_as_fast(how: Counted, times: float) -> Counted:
    """Counted so many times as fast."""
    return Counted(round(how.tempo * times, 1), how.first_s)


def kept_music(piece: str, heard: Heard, how: Counted) -> Clip:
    """The music of a piece as the workbook keeps it: the file stays where it is. Raises FirnError."""
    line = line_for(heard, how)
    size, digest = fingerprint(heard.path)
    knots = (tuple(float(k) for k in line.knots), tuple(float(s) for s in line.seconds))
    return Clip(new_id(), piece, piece, str(heard.path.resolve()), size, digest, 0.0, heard.seconds, *knots)


def counted_of(clip: Clip) -> Counted:
    """How kept music is counted."""
    music = OwnMusic(clip.name, _line(clip), clip.end_s, _silent)
    return Counted(round(music.tempo, 1), round(music.line.second(0.0), 3))


def music_of(book: Book, piece: str, workbook: Path) -> OwnMusic | None:
    """The music of a piece, None where it has none of its own; raises FirnError where its file is gone or cannot be
    read."""
    kept = book.clip_of(piece)
    if kept is None or not kept.aligned:
        return None
    path = found_clip(kept, workbook)
    if path is None:
        raise FirnError(f"{kept.name} is neither in {Path(kept.path).parent} nor beside the workbook.")
    return own_music(open_clip(path), _line(kept))


def own_music(clip: OpenClip, line: Line) -> OwnMusic:
    """A recording as music to dance to."""
    return OwnMusic(called(clip.path), line, clip.seconds, ClipSound(clip).piece)


def _line(clip: Clip) -> Line:
    line = line_of(clip)
    if line is None:
        raise MusicError(f"{clip.name} has no counts.")
    return line


def _silent(begin_s: float, end_s: float, speed: float) -> np.ndarray:
    return np.zeros((0, 2), np.float32)
