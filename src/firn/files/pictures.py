"""The pictures of a film by time, exact to the frame, through PyAV; rotated as they are meant to be seen.

A picture is known by its own time, never by its number: phones vary how many they take a second.
"""

from collections import OrderedDict
from collections.abc import Generator, Iterator
from pathlib import Path
from typing import Any

import numpy as np
import numpy.typing as npt
from msgspec import Struct

from firn.errors import FileFormatError
from firn.files.media import media_faults, opened_media
from firn.files.whole import called

KEPT = 24
"""Pictures that are kept decoded, as they were last asked for."""

NEAR_S = 1.5
"""What lies so little ahead of the last picture is decoded on to: a key frame is seldom nearer."""

BACK_S = (0.0, 1.0, 4.0, 15.0)
"""How much earlier a search begins where a file's index leads past what is asked for."""

TICK_S = 1e-6


_Frame = tuple[float, Any]
"""A decoded frame with its time."""


class FilmInfo(Struct, frozen=True):
    """What a film is: seconds, width and height in pixels as it is seen, pictures a second in the mean, and whether
    it has sound."""

    seconds: float
    width: int
    height: int
    rate: float
    sound: bool


class Picture(Struct, frozen=True):
    """A picture: its time in seconds of the film, and when the next begins (the film's end for the last); pixels of
    shape (height, width, 3), uint8."""

    time_s: float
    until_s: float
    pixels: npt.NDArray[np.uint8]


class MediaPictures:
    """The pictures of a film; `at` gives the one that is seen at a time.

    Time counts from the beginning of the file, as for its sound. Of one thread at a time.
    """

    def __init__(self, path: Path, most_height: int = 720) -> None:
        self._path, self._most = path, most_height
        self._file = opened_media(path)
        if not self._file.streams.video or self._file.streams.video[0].codec_context is None:
            self._file.close()
            raise FileFormatError(f"{called(path)} holds no pictures that Firn can read.")
        self._stream = self._file.streams.video[0]
        self._stream.thread_type = "AUTO"
        self._zero = self._file.start_time / 1e6 if self._file.start_time is not None else 0.0
        self._kept: OrderedDict[float, Picture] = OrderedDict()
        self._rest = self._decoded()
        self._now: _Frame | None = None
        self._next: _Frame | None = None
        self._begin(0.0)
        if self._now is None:
            self.close()
            raise FileFormatError(f"{called(path)} holds no pictures that can be read.")
        self.first_s: float = self._now[0]
        height, width = self._drawn(self._now[1]).shape[:2]
        self.info: FilmInfo = FilmInfo(
            self._length(), width, height, float(self._stream.average_rate or 0), self._has_sound()
        )

    def __enter__(self) -> "MediaPictures":
        return self

    def __exit__(self, *_: object) -> None:
        self.close()

    def close(self) -> None:
        """Let go of the file."""
        self._now = self._next = None
        self._rest.close()
        self._file.close()

    def at(self, time_s: float) -> Picture:
        """The picture that is seen at a time; before the first that one, after the last the last."""
        time_s = max(time_s, self.first_s) + TICK_S
        for kept in self._kept.values():
            if kept.time_s <= time_s < kept.until_s:
                self._kept.move_to_end(kept.time_s)
                return kept
        if self._now is None or not self._now[0] <= time_s < self._now[0] + NEAR_S:
            self._search(time_s)
        while self._next is not None and self._next[0] <= time_s:
            self._step()
        return self._made()

    def after(self, picture: Picture) -> Picture:
        """The picture after one; itself where it is the last."""
        found = self.at(picture.until_s)
        return found if found.time_s > picture.time_s else picture

    def before(self, picture: Picture) -> Picture:
        """The picture before one; itself where it is the first."""
        if picture.time_s <= self.first_s:
            return picture
        for kept in self._kept.values():
            if abs(kept.until_s - picture.time_s) < TICK_S:
                return kept
        self._search(picture.time_s - 2 * TICK_S)
        while self._next is not None and self._next[0] < picture.time_s - TICK_S:
            self._step()
        return self._made()

    def all(self) -> Iterator[Picture]:
        """All of them, from the first one on."""
        self._begin(0.0)
        while self._now is not None:
            yield self._made()
            self._step()

    # Decoding

    def _begin(self, time_s: float) -> None:
        """Decode from the key frame before a time on."""
        self._now = self._next = None
        try:
            begin = round((time_s + self._zero) / self._stream.time_base)
            self._file.seek(max(begin, 0), stream=self._stream)
        except media_faults():
            return
        self._rest = self._decoded()
        self._now = next(self._rest, None)
        self._next = next(self._rest, None)

    def _search(self, time_s: float) -> None:
        for back in BACK_S:
            self._begin(max(0.0, time_s - back))
            if self._now is not None and (self._now[0] <= time_s or self._now[0] <= self.first_s):
                return
        # An index that leads nowhere: from the beginning.
        self._file.close()
        self._file = opened_media(self._path)
        self._stream = self._file.streams.video[0]
        self._stream.thread_type = "AUTO"
        self._rest = self._decoded()
        self._now, self._next = next(self._rest, None), next(self._rest, None)

    def _step(self) -> None:
        self._now, self._next = self._next, next(self._rest, None)

    def _decoded(self) -> Generator[_Frame]:
        """Pictures from here on with their times; ends where the film does, or where it can be read no further."""
        faults = media_faults()
        try:
            for frame in self._file.decode(self._stream):
                if frame.pts is not None:
                    yield float(frame.pts * frame.time_base) - self._zero, frame
        except faults:
            return

    def _made(self) -> Picture:
        """The picture that is decoded now, its pixels ready."""
        if self._now is None:
            raise FileFormatError(f"{called(self._path)} cannot be read there.")
        time, frame = self._now
        until = self._next[0] if self._next is not None else max(self._length(), time + TICK_S)
        kept = self._kept.get(time)
        if kept is None:
            kept = self._kept[time] = Picture(time, until, self._drawn(frame))
            while len(self._kept) > KEPT:
                self._kept.popitem(last=False)
        return kept

    def _drawn(self, frame: Any) -> npt.NDArray[np.uint8]:
        """A frame as it is seen: square pixels, no more lines than wanted, upright."""
        shape = self._stream.sample_aspect_ratio
        width = frame.width * float(shape) if shape else float(frame.width)
        scale = min(1.0, self._most / max(1, frame.height))
        size = max(2, round(width * scale)), max(2, round(frame.height * scale))
        pixels = frame.reformat(width=size[0], height=size[1], format="rgb24").to_ndarray()
        turns = round(frame.rotation / 90) % 4
        return np.ascontiguousarray(np.rot90(pixels, turns)) if turns else np.ascontiguousarray(pixels)

    def _length(self) -> float:
        duration, stream = self._file.duration, self._stream
        if duration:
            return float(duration) / 1e6
        return float(stream.duration * stream.time_base) if stream.duration else 0.0

    def _has_sound(self) -> bool:
        return bool(self._file.streams.audio)
