"""A small copy of a stretch of a film that any phone plays: MP4 with H.264 and AAC, through PyAV."""

import io
from fractions import Fraction
from pathlib import Path
from typing import Any

import numpy as np
import numpy.typing as npt

from firn.core.task import UNWATCHED, Task
from firn.errors import FileFormatError, FirnError
from firn.files.audio import read_take
from firn.files.media import media_faults
from firn.files.pictures import MediaPictures
from firn.files.whole import called

LINES, A_SECOND = 360, 15
MOST_S = 60.0
"""So long a stretch is copied: a pack holds no more."""
MOST_BYTES = 1_600_000
MOST_BITS = 450_000
"""Bits a second of its pictures at most; of a long stretch so few that all of it has `MOST_BYTES`."""
SOUND_RATE, SOUND_BITS = 48_000, 64_000


def small_film(path: Path, begin_s: float, end_s: float, *, mirrored: bool = False, task: Task = UNWATCHED) -> bytes:
    """A stretch of a film, in seconds, as small as a pack can hold; raises FirnError with one sentence."""
    if end_s - begin_s > MOST_S:
        long = f"{end_s - begin_s:.0f} s"
        raise FirnError(f"{called(path)}: its stretch lasts {long}, a pack takes {MOST_S:.0f}: mark a shorter one.")
    import av

    out = io.BytesIO()
    with MediaPictures(path, LINES) as pictures:
        end_s = min(end_s, pictures.info.seconds)
        if end_s <= begin_s:
            raise FirnError(f"{called(path)} has ended before the stretch that was marked in it.")
        try:
            with av.open(out, "w", format="mp4") as film:
                bits = min(MOST_BITS, int(MOST_BYTES * 8 / (end_s - begin_s)) - SOUND_BITS)
                seen = film.add_stream("libx264", rate=A_SECOND)
                seen.width, seen.height = pictures.info.width // 2 * 2, pictures.info.height // 2 * 2
                seen.pix_fmt, seen.bit_rate = "yuv420p", bits
                seen.options = {"preset": "veryfast", "profile": "baseline"}
                heard = film.add_stream("aac", rate=SOUND_RATE, layout="mono") if pictures.info.sound else None
                if heard is not None:
                    heard.bit_rate = SOUND_BITS
                many = max(1, round((end_s - begin_s) * A_SECOND))
                for number in range(many):
                    task.step(number / many)
                    pixels = pictures.at(begin_s + number / A_SECOND).pixels[: seen.height, : seen.width]
                    frame = av.VideoFrame.from_ndarray(
                        np.ascontiguousarray(pixels[:, ::-1] if mirrored else pixels), format="rgb24"
                    )
                    frame.pts, frame.time_base = number, Fraction(1, A_SECOND)
                    film.mux(seen.encode(frame))
                film.mux(seen.encode(None))
                if heard is not None:
                    _sound(av, film, heard, _heard(path, begin_s, end_s))
        except media_faults() as fault:
            raise FirnError(f"{called(path)} could not be copied for the pack.") from fault
    return out.getvalue()


def _heard(path: Path, begin_s: float, end_s: float) -> npt.NDArray[np.float32]:
    """The sound of a stretch at `SOUND_RATE`, one channel; silence where the film has none there."""
    try:
        sound, rate, _ = read_take(path, start_s=begin_s, length_s=end_s - begin_s)
    except FileFormatError:
        return np.zeros(round((end_s - begin_s) * SOUND_RATE), np.float32)
    if rate != SOUND_RATE:
        from scipy.signal import resample_poly

        sound = np.asarray(resample_poly(sound, SOUND_RATE, rate), np.float32)
    return np.clip(np.asarray(sound, np.float32), -1, 1)


def _sound(av: Any, film: Any, stream: Any, sound: npt.NDArray[np.float32]) -> None:
    for at in range(0, len(sound), SOUND_RATE):
        frame = av.AudioFrame.from_ndarray(sound[None, at : at + SOUND_RATE], format="fltp", layout="mono")
        frame.sample_rate, frame.pts, frame.time_base = SOUND_RATE, at, Fraction(1, SOUND_RATE)
        film.mux(stream.encode(frame))
    film.mux(stream.encode(None))
