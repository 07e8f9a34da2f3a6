"""Recordings and films as phones make them, through PyAV: their sound as samples by time, and what they are.

PyAV is BSD by itself; the libraries that its wheel carries hold GPL and LGPL ones (docs/architecture.md names them).
It is imported when a file is first opened that nothing lighter reads.
"""

from collections.abc import Iterator
from datetime import datetime
from pathlib import Path
from typing import Any

import numpy as np
import numpy.typing as npt

from firn.errors import FileFormatError
from firn.files.whole import called

FloatArray = npt.NDArray[np.float32]

NEAR_S = 0.2
"""A stretch that begins so near behind what was read last is read on to; farther away, the file is searched."""

MOST_CHANNELS = 64
GUESSED = ("aac", "ac3", "amr", "mp3")
"""Formats that are packets and no more: how long they are is guessed from their size, and must be counted."""


class MediaSound:
    """The first sound of a film or recording as frames of samples from its beginning on.

    What is missing in the middle is silence, so that a sample's number is its time. `frames` is what the file says
    of itself, and may be more than can be read; where it says nothing its packets are counted.
    """

    def __init__(self, path: Path) -> None:
        self._path = path
        self._file, self._stream = _opened(path)
        self.samplerate = int(self._stream.rate or 0)
        self.channels = int(self._stream.channels or 0)
        if not self.samplerate or not 0 < self.channels <= MOST_CHANNELS:
            self.close()
            raise FileFormatError(f"{called(path)} holds no sound that Firn can read.")
        # Sound and picture begin where the file does.
        self._zero = self._file.start_time / 1e6 if self._file.start_time is not None else 0.0
        self.frames = (self._file.format.name not in GUESSED and self._announced()) or self._counted()
        self._at = 0
        self._rest = self._decoded(0)
        self._left = np.zeros((0, self.channels), np.float32)

    def __enter__(self) -> "MediaSound":
        return self

    def __exit__(self, *_: object) -> None:
        self.close()

    def close(self) -> None:
        """Let go of the file."""
        self._file.close()

    def seek(self, frame: int) -> None:
        """Go on reading from a frame."""
        ahead = frame - self._at
        if 0 <= ahead <= NEAR_S * self.samplerate:
            self.read(ahead)
            return
        self._rest = self._decoded(frame)
        self._left = np.zeros((0, self.channels), np.float32)
        self._at = frame

    def read(self, frames: int, **_: object) -> FloatArray:
        """The next frames, shape (n, channels), fewer where the file ends or breaks off."""
        found, many = [self._left], len(self._left)
        while many < frames:
            more = next(self._rest, None)
            if more is None:
                break
            found.append(more)
            many += len(more)
        whole = np.concatenate(found)
        self._left = whole[frames:]
        self._at += min(frames, len(whole))
        return whole[:frames]

    def _announced(self) -> int:
        stream, file = self._stream, self._file
        if stream.duration:
            return round(
                float((stream.duration + (stream.start_time or 0)) * stream.time_base - self._zero) * self.samplerate
            )
        return round(file.duration / 1e6 * self.samplerate) if file.duration else 0

    def _counted(self) -> int:
        """How long a file is that does not say so, by its packets."""
        last = 0.0
        try:
            for packet in self._file.demux(self._stream):
                if packet.pts is not None:
                    last = max(last, float((packet.pts + (packet.duration or 0)) * packet.time_base))
        except media_faults():
            pass
        self._file.close()
        self._file, self._stream = _opened(self._path)
        return round((last - self._zero) * self.samplerate)

    def _decoded(self, frame: int) -> Iterator[FloatArray]:
        """Samples from a frame on; ends where the file does, or where it can be read no further."""
        import av

        stream, rate = self._stream, self.samplerate
        # From a little before: what a codec says first after a leap is not yet right.
        begin = max(0.0, frame / rate + self._zero - 0.25)
        resampler = av.AudioResampler(format="fltp", layout=stream.layout, rate=rate)
        at = frame
        try:
            self._file.seek(round(begin / stream.time_base), stream=stream)
            for coded in self._file.decode(stream):
                # A damaged frame may claim other channels; libraries below trust it, and read past its samples.
                if coded.layout.nb_channels != self.channels or coded.sample_rate != rate:
                    continue
                first = at if coded.pts is None else round((float(coded.pts * coded.time_base) - self._zero) * rate)
                for one in resampler.resample(coded):
                    if len(one.planes) != self.channels:
                        continue
                    sound = np.ascontiguousarray(one.to_ndarray().T, dtype=np.float32)
                    if first > at:
                        yield np.zeros((min(first - at, rate * 60), self.channels), np.float32)
                        at += min(first - at, rate * 60)
                    sound = sound[max(0, at - first) :]
                    first += one.samples
                    if len(sound) and sound.shape[1] == self.channels:
                        at += len(sound)
                        yield sound
        except media_faults():
            return


def opened_media(path: Path) -> Any:
    """A film or recording, opened by PyAV; raises FileFormatError."""
    try:
        import av
    except ImportError as fault:
        raise FileFormatError(f"{called(path)} needs PyAV to be read, which is not installed here.") from fault
    try:
        return av.open(str(path), metadata_errors="ignore")
    except media_faults() as fault:
        raise FileFormatError(f"{called(path)} is no recording that Firn can read.") from fault


def made_at(path: Path) -> datetime | None:
    """When a recording was made, as its file says; None where it does not. Never raises for what is no recording."""
    try:
        file = opened_media(path)
    except FileFormatError:
        return None
    try:
        said = dict(file.metadata)
        for stream in file.streams:
            said = {**stream.metadata, **said}
    finally:
        file.close()
    try:
        found = datetime.fromisoformat(said.get("creation_time", "").replace("Z", "+00:00"))
    except ValueError:
        return None
    # Cameras whose clock was never set begin with their format's first day.
    return found if found.year >= FIRST_YEAR else None


FIRST_YEAR = 1990


def media_faults() -> tuple[type[BaseException], ...]:
    """What PyAV raises for a file that it cannot read any further."""
    import av

    return (av.error.FFmpegError, OSError, ValueError, EOFError)


def _opened(path: Path) -> tuple[Any, Any]:
    file = opened_media(path)
    if not file.streams.audio:
        film = bool(file.streams.video)
        file.close()
        what = "is a film without sound" if film else "holds no sound"
        raise FileFormatError(f"{called(path)} {what}.")
    stream = file.streams.audio[0]
    if stream.codec_context is None:
        file.close()
        raise FileFormatError(f"{called(path)} holds sound of a kind that Firn cannot read.")
    return file, stream
