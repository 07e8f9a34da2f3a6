"""A small copy of a film whose key frames lie far apart, with one each few pictures: so any of them is soon found."""

from fractions import Fraction
from itertools import islice
from pathlib import Path

import numpy as np

from firn.core.task import UNWATCHED, Task
from firn.errors import FileFormatError, WriteError
from firn.files.media import media_faults, opened_media
from firn.files.pictures import MediaPictures
from firn.files.whole import called, whole_file

FAR_S = 2.5
"""Key frames farther apart than this make pictures slow to find."""

LOOKED = 4_000
"""So many packets of pictures are looked through: some two minutes."""

LINES, EACH = 360, 6
"""Lines of the copy, and pictures from one key frame to the next."""

TIME_BASE = Fraction(1, 90_000)
QUALITY = 26


def far_apart(path: Path) -> bool:
    """Whether the key frames of a film lie far apart, by its first minutes; FileFormatError for what is none."""
    with opened_media(path) as file:
        if not file.streams.video:
            return False
        packets = (p for p in file.demux(file.streams.video[0]) if p.pts is not None and p.time_base is not None)
        keys: list[float] = []
        last = 0.0
        try:
            for packet in islice(packets, LOOKED):
                last = max(last, float(packet.pts * packet.time_base))
                if packet.is_keyframe:
                    keys.append(float(packet.pts * packet.time_base))
        except media_faults():
            # As far as it goes.
            pass
        return bool(keys) and float(np.diff([*keys, last]).max()) > FAR_S


def dense_copy(path: Path, out: Path, task: Task = UNWATCHED) -> None:
    """Write a copy of a film's pictures, without its sound, each at its own time and as it is seen: upright, of
    `LINES` lines. Raises FirnError with one sentence; what was begun is removed then."""
    import av

    with MediaPictures(path, LINES) as pictures, whole_file(out, private=True) as draft:
        try:
            with av.open(str(draft), "w", format="mp4") as film:
                seen = film.add_stream("libx264", rate=30)
                seen.width, seen.height = pictures.info.width // 2 * 2, pictures.info.height // 2 * 2
                seen.pix_fmt = "yuv420p"
                seen.time_base = seen.codec_context.time_base = TIME_BASE
                seen.gop_size = EACH
                seen.options = {"preset": "ultrafast", "tune": "fastdecode", "crf": str(QUALITY)}
                for picture in pictures.all():
                    task.step(min(1.0, picture.time_s / max(pictures.info.seconds, 1e-3)))
                    pixels = np.ascontiguousarray(picture.pixels[: seen.height, : seen.width])
                    frame = av.VideoFrame.from_ndarray(pixels, format="rgb24")
                    frame.pts, frame.time_base = round(picture.time_s / TIME_BASE), TIME_BASE
                    film.mux(seen.encode(frame))
                film.mux(seen.encode(None))
        except media_faults() as fault:
            raise WriteError(f"No small copy of {called(path)} could be made.") from fault


def copied(path: Path) -> MediaPictures | None:
    """The pictures of a copy; None where there is none that can be read."""
    try:
        return MediaPictures(path) if path.is_file() else None
    except FileFormatError:
        return None
