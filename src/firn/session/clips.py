"""A clip beside the workbook: opened, found again when it was moved, heard at any speed, tied to a part's counts."""

import hashlib
import os
from contextlib import suppress
from pathlib import Path
from typing import TYPE_CHECKING

import numpy as np
from msgspec import Struct

from firn.core.book.clips import Clip
from firn.core.meter.line import Line
from firn.core.task import Task
from firn.errors import FileFormatError, FirnError
from firn.files.audio import TakeInfo, take_info
from firn.files.whole import called, checked_to_read

if TYPE_CHECKING:
    from firn.core.sound.voices import FloatArray
    from firn.files.pictures import MediaPictures

ENDS = 1 << 18
"""Bytes at either end of a file that its digest is of, with its size: an hour's film is known at once."""

SEARCHED = 2_000
"""Files of a folder that are looked at for one that was moved."""

MOST_COPIES = 2_000_000_000
"""Bytes of small copies that are kept."""

LEVEL, MOST_GAIN = 0.5, 8.0


class OpenClip(Struct, frozen=True):
    """A clip as it is: its length in seconds, its pictures (None for a recording of sound alone), and whether it has
    sound."""

    path: Path
    seconds: float
    pictures: "MediaPictures | None"
    sound: bool


def open_clip(path: Path) -> OpenClip:
    """Open a film or a recording; raises FileFormatError with one sentence for what is neither."""
    from firn.files.pictures import MediaPictures

    if checked_to_read(path, "a clip") == 0:
        raise FileFormatError(f"{called(path)} is empty.")
    info: TakeInfo | None = None
    with suppress(FileFormatError):
        info = take_info(path)
    try:
        pictures = MediaPictures(path)
    except FileFormatError:
        if info is None:
            raise
        pictures = None
    seconds = max(info.seconds if info else 0.0, pictures.info.seconds if pictures else 0.0)
    return OpenClip(path, seconds, pictures, info is not None)


class ClipSound:
    """The sound of a clip, stretch by stretch at any speed, at Firn's own rate and one loudness; silence where it has
    none."""

    def __init__(self, clip: OpenClip) -> None:
        self._clip = clip
        self._gain: float | None = None

    def piece(self, begin_s: float, end_s: float, speed: float) -> "FloatArray":
        """A stretch at a speed (0.1 to 1), shape (n, 2)."""
        from firn.core.ear.onsets import find_onsets
        from firn.core.sound.slow import slowed
        from firn.core.sound.voices import RATE
        from firn.files.audio import read_take

        wanted = round((end_s - begin_s) * RATE)
        mono = np.zeros(wanted, np.float32)
        attacks: list[float] = []
        if self._clip.sound:
            try:
                sound, rate, _ = read_take(self._clip.path, start_s=begin_s, length_s=end_s - begin_s)
            except FileFormatError:
                # Pictures may go on where the sound has ended.
                sound, rate = mono[:1], RATE
            if rate != RATE and len(sound) > 1:
                from scipy.signal import resample_poly

                sound = np.asarray(resample_poly(sound, RATE, rate), np.float32)
            mono[: min(wanted, len(sound))] = sound[:wanted]
            if speed < 1:
                attacks = list(find_onsets(mono, RATE).times_s)
        if self._gain is None:
            self._gain = min(MOST_GAIN, LEVEL / max(1e-4, float(np.abs(mono).max()))) if wanted else 1.0
        played = np.clip(slowed(mono, RATE, speed, attacks) * self._gain, -1, 1)
        return np.repeat(played[:, None], 2, axis=1)


def fingerprint(path: Path) -> tuple[int, str]:
    """A file's size and a digest of its size and both its ends; raises FirnError where it cannot be read."""
    try:
        size = path.stat().st_size
        with path.open("rb") as file:
            head = file.read(ENDS)
            file.seek(max(0, size - ENDS))
            ends = head + file.read(ENDS)
    except OSError as fault:
        raise FirnError(f"{called(path)} cannot be read.") from fault
    return size, hashlib.sha256(str(size).encode() + ends).hexdigest()


def copy_place(path: Path) -> Path:
    """Where a small copy of a clip is kept, by its content: in the cache (XDG Base Directory Specification)."""
    base = Path(os.environ.get("XDG_CACHE_HOME", ""))
    folder = base if base.is_absolute() else Path.home() / ".cache"
    return folder / "firn" / "clips" / f"{fingerprint(path)[1][:32]}.mp4"


def make_copy(path: Path, task: Task) -> "MediaPictures | None":
    """The pictures of a clip's small copy, made where there is none yet; None where its key frames lie near. Of all
    copies the newest stay, `MOST_COPIES` bytes of them."""
    from firn.files.dense_film import copied, dense_copy, far_apart

    place = copy_place(path)
    found = copied(place)
    if found is not None:
        return found
    if not far_apart(path):
        return None
    try:
        place.parent.mkdir(parents=True, exist_ok=True)
    except OSError as fault:
        raise FirnError(f"No small copy of {called(path)} can be kept.") from fault
    dense_copy(path, place, task)
    _tidy(place.parent)
    return copied(place)


def _tidy(folder: Path) -> None:
    """Leave the newest copies."""
    with suppress(OSError):
        copies = sorted(folder.glob("*.mp4"), key=lambda one: one.stat().st_mtime, reverse=True)
        total = 0
        for one in copies:
            total += one.stat().st_size
            if total > MOST_COPIES:
                one.unlink()


def found_clip(clip: Clip, workbook: Path) -> Path | None:
    """Where a clip's file is: where it was, or of the same content in that folder or beside the workbook; None where
    it is in neither."""
    kept = Path(clip.path)
    if _is(kept, clip):
        return kept
    for folder in (kept.parent, workbook.parent):
        try:
            here = [path for _, path in zip(range(SEARCHED), sorted(folder.iterdir()), strict=False)]
        except OSError:
            continue
        found = next((path for path in here if _is(path, clip)), None)
        if found is not None:
            return found
    return None


def _is(path: Path, clip: Clip) -> bool:
    try:
        return path.is_file() and path.stat().st_size == clip.size and fingerprint(path) == (clip.size, clip.digest)
    except (OSError, FirnError):
        return False


def line_of(clip: Clip) -> Line | None:
    """The line that ties a part's counts to a clip's seconds; None where it is not known."""
    return Line(np.array(clip.counts), np.array(clip.seconds)) if clip.aligned else None


def shade(clip: OpenClip, line: Line, first: float, end: float, task_s: float = 60.0) -> list[tuple[float, float]]:
    """How loud a clip is along the counts from one to another: (count, level 0 to 1), every 20 ms, at most a minute.

    The level is in steps of hearing: 0 at 45 dB under the loudest, 1 at it.
    """
    from firn.files.audio import read_take

    if not clip.sound:
        return []
    begin_s, end_s = line.second(first), line.second(end)
    begin_s = max(0.0, begin_s)
    try:
        sound, rate, _ = read_take(clip.path, start_s=begin_s, length_s=min(task_s, max(0.1, end_s - begin_s)))
    except FileFormatError:
        return []
    frame = max(1, rate // 50)
    blocks = sound[: len(sound) // frame * frame].reshape(-1, frame)
    if not len(blocks):
        return []
    db = 20 * np.log10(np.sqrt(np.mean(blocks**2, axis=1)) + 1e-6)
    levels = np.clip(1 + (db - db.max()) / SHADE_DB, 0, 1)
    counts = line.counts(begin_s + (np.arange(len(blocks)) + 0.5) * frame / rate)
    return [(float(c), float(v)) for c, v in zip(counts, levels, strict=True)]


NEAR_FROM_S, NEAR_TO_S = -0.06, 0.14
"""What is looked at from near, about where a sound begins."""


class CloseUp(Struct, frozen=True):
    """How loud a clip is each millisecond about a time, 0 to 1, from `NEAR_FROM_S` before it on."""

    levels: tuple[float, ...]


def close_up(clip: OpenClip, at_s: float) -> CloseUp:
    """A clip's sound about a time, from near: the root of its level, so that what is faint is seen too."""
    from firn.files.audio import read_take

    many = round(1000 * (NEAR_TO_S - NEAR_FROM_S))
    begin_s = at_s + NEAR_FROM_S
    missing = max(0, round(-1000 * begin_s))
    try:
        sound, rate, _ = read_take(clip.path, start_s=max(0.0, begin_s), length_s=NEAR_TO_S - NEAR_FROM_S)
    except FileFormatError:
        return CloseUp((0.0,) * many)
    # A millisecond is no whole number of samples at every rate.
    edges = np.round(np.arange(many - missing + 1) * rate / 1000).astype(int)
    power = np.concatenate([[0.0], np.cumsum(np.asarray(sound, dtype=np.float64) ** 2)])
    inside = edges[edges < len(power)]
    blocks = np.diff(power[inside]) / np.maximum(1, np.diff(inside))
    levels = (blocks / max(1e-12, float(blocks.max()))) ** 0.25 if len(blocks) else np.zeros(0)
    padded = np.concatenate([np.zeros(missing), levels, np.zeros(many)])[:many]
    return CloseUp(tuple(float(level) for level in padded))


SHADE_DB = 45.0
