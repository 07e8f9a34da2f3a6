"""Recordings in and out, at any rate, mono or more: libsndfile's kinds, and by PyAV all that phones make."""

import hashlib
import io
import struct
from collections.abc import Iterable, Iterator
from pathlib import Path
from typing import TYPE_CHECKING, Any, NamedTuple

import numpy as np
import numpy.typing as npt
from msgspec import Struct

from firn.core.ear.onsets import Onsets, find_onsets, joined
from firn.core.task import UNWATCHED, Task
from firn.errors import FileFormatError, WriteError
from firn.files.media import MediaSound
from firn.files.whole import called, checked_to_read, whole_file

if TYPE_CHECKING:
    from firn.core.quantise.beats import Beats

FloatArray = npt.NDArray[np.float32]

LONG_S = 600.0
"""Takes longer than this are not judged whole: the user says which stretch."""

SLOWEST_RATE, FASTEST_RATE = 4_000, 768_000
MOST_LEVEL = 8.0
"""Times full scale."""
CUT_S = 0.25
"""What ends so much before the end that it was to have is cut off."""

AGAINST = 0.25
"""Channels whose mean has less than so much of their power are against each other: the louder is taken alone."""

_BLOCK_SAMPLES = 1 << 20
_BLOCK_S = 60
_OVERLAP_S = 0.5


class TakeInfo(Struct, frozen=True):
    """What a recording is, before it is read: rate in Hz, frames, channels."""

    path: Path
    rate: int
    frames: int
    channels: int

    @property
    def seconds(self) -> float:
        return self.frames / self.rate

    @property
    def long(self) -> bool:
        return self.seconds > LONG_S


class Recording(NamedTuple):
    """A stretch of a recording: samples, shape (n,), float32; rate in Hz; where it breaks off, in seconds of the
    file, None where it goes to its end."""

    sound: FloatArray
    rate: int
    breaks_off_s: float | None = None


def _opened(path: Path) -> Any:
    import soundfile

    if checked_to_read(path, "a recording") == 0:
        raise FileFormatError(f"{called(path)} is empty.")
    try:
        return soundfile.SoundFile(path)
    except (soundfile.LibsndfileError, OSError, RuntimeError, TypeError):
        return MediaSound(path)


def take_info(path: Path) -> TakeInfo:
    """What a recording is; raises FileFormatError for what is none, or holds no sound."""
    with _opened(path) as file:
        info = TakeInfo(path, int(file.samplerate), int(file.frames), int(file.channels))
    if info.frames == 0:
        raise FileFormatError(f"{called(path)} holds no sound.")
    if not SLOWEST_RATE <= info.rate <= FASTEST_RATE:
        limits = f"{SLOWEST_RATE} or more" if info.rate < SLOWEST_RATE else f"at most {FASTEST_RATE}"
        raise FileFormatError(f"{called(path)} has {info.rate} samples a second; Firn needs {limits}.")
    return info


def read_take(path: Path, *, start_s: float = 0.0, length_s: float | None = None) -> Recording:
    """A stretch of a recording as mono.

    Channels are averaged (of two against each other the louder is taken); at most `LONG_S` are read. A file that is
    cut off or damaged is read as far as it goes. Raises FileFormatError where there is nothing to read, or samples
    are not numbers.
    """
    info = take_info(path)
    start = min(info.frames, max(0, round(start_s * info.rate)))
    wanted = max(0, round(min(LONG_S, length_s or LONG_S) * info.rate))
    with _opened(path) as file:
        sound = _mono(file, start, wanted, path)
    if not len(sound):
        raise FileFormatError(f"{called(path)} holds no sound there.")
    ends = max(info.frames, _said_frames(path, info))
    cut = len(sound) < min(wanted, ends - start) - CUT_S * info.rate
    return Recording(sound, info.rate, (start + len(sound)) / info.rate if cut else None)


def _said_frames(path: Path, info: TakeInfo) -> int:
    """How many frames a WAV file's own head names: libsndfile tells only those that are there."""
    with path.open("rb") as file:
        head = file.read(1 << 16)
    if head[:4] != b"RIFF" or head[8:12] != b"WAVE":
        return 0
    at, frame = 12, 0
    while at + 8 <= len(head):
        name, size = head[at : at + 4], int.from_bytes(head[at + 4 : at + 8], "little")
        if name == b"fmt " and at + 22 <= len(head):
            frame = int.from_bytes(head[at + 20 : at + 22], "little")
        if name == b"data":
            # A recorder that streams does not know how long it will be, and says so with the largest number.
            return size // frame if frame and size < 0xFFFFFF00 else 0
        at += 8 + size + (size & 1)
    return 0


def _mono(file: Any, start: int, frames: int, path: Path) -> FloatArray:
    """So many frames from one on as mono, or as many as can be read; what libsndfile gives up on, PyAV may read."""
    blocks: list[FloatArray] = []
    try:
        for block in _read(file, start, frames):
            blocks.append(_checked(block, path))
        return np.concatenate(blocks) if blocks else np.zeros(0, np.float32)
    except _UNREADABLE:
        many = sum(map(len, blocks))
    try:
        with MediaSound(path) as other:
            blocks += [_checked(block, path) for block in _read(other, start + many, frames - many)]
    except FileFormatError:
        if not blocks:
            raise
    if not blocks:
        raise FileFormatError(f"{called(path)} is damaged and cannot be read.")
    return np.concatenate(blocks)


# What libsndfile raises is a RuntimeError.
_UNREADABLE = RuntimeError, ValueError


def _read(file: Any, start: int, frames: int) -> Iterator[FloatArray]:
    """So many frames from one on, shape (n, channels), in blocks: the length that a head names need not be so."""
    size = max(1, _BLOCK_SAMPLES // file.channels)
    file.seek(start)
    while frames > 0:
        block = file.read(min(frames, size), dtype="float32", always_2d=True)
        if not len(block):
            return
        yield block
        frames -= len(block)


def _checked(block: FloatArray, path: Path) -> FloatArray:
    """A block as one channel."""
    if not np.isfinite(block).all():
        raise FileFormatError(f"{called(path)} holds samples that are no numbers.")
    # What is far over full scale is no sound: it is cut off where arithmetic still holds.
    return _one_channel(np.clip(block, -MOST_LEVEL, MOST_LEVEL))


def _one_channel(read: FloatArray) -> FloatArray:
    """Channels as one: their mean, but of those against each other (a wire the wrong way round) the loudest."""
    mean = np.asarray(read.mean(axis=1, dtype=np.float32))
    if read.shape[1] == 1:
        return mean
    powers = np.mean(read**2, axis=0)
    if float(np.mean(mean**2)) >= AGAINST * float(powers.mean()):
        return mean
    return np.ascontiguousarray(read[:, int(np.argmax(powers))])


def _blocks(path: Path) -> Iterator[tuple[float, float, FloatArray, int]]:
    """A recording in stretches of a minute with some overlap: start and length of what counts, samples, rate."""
    info = take_info(path)
    with _opened(path) as file:
        block, overlap = _BLOCK_S * info.rate, round(_OVERLAP_S * info.rate)
        for start in range(0, info.frames, block):
            first = max(0, start - overlap)
            sound = _mono(file, first, start - first + block + overlap, path)
            if len(sound) <= start - first:
                return
            yield start / info.rate, first / info.rate, sound, info.rate


def onsets_of_file(path: Path, task: Task = UNWATCHED) -> Onsets:
    """Onsets of a whole recording, however long, a minute in memory at a time."""
    total = take_info(path).seconds
    parts = []
    for start, first, sound, rate in _blocks(path):
        task.step(start / total)
        found = find_onsets(sound, rate).later(first)
        parts.append(found.only((found.times_s >= start) & (found.times_s < start + _BLOCK_S)))
    return joined(parts)


def beats_of_file(path: Path, task: Task = UNWATCHED) -> "Beats":
    """The beats of a whole recording, a minute of it in memory at a time."""
    from firn.core.quantise.beats import FRAME_S, beats_of, begins

    total = take_info(path).seconds
    parts = []
    for start, first, sound, rate in _blocks(path):
        task.step(0.7 * start / total)
        strength = begins(sound, rate)
        skipped = round((start - first) / FRAME_S)
        parts.append(strength[skipped : skipped + round(_BLOCK_S / FRAME_S)])
    return beats_of(np.concatenate(parts), task.within(0.7, 1))


def flac_bytes(sound: npt.ArrayLike, rate: int) -> tuple[bytes, str]:
    """A mono recording as 16-bit FLAC, and the hash of its bytes."""
    import soundfile

    stream = io.BytesIO()
    soundfile.write(stream, np.clip(np.asarray(sound), -1, 1), rate, format="FLAC", subtype="PCM_16")
    data = stream.getvalue()
    return data, hashlib.sha256(data).hexdigest()


def from_flac(data: bytes) -> tuple[FloatArray, int]:
    """Samples of kept FLAC bytes, shape (n,), float32, with their rate."""
    import soundfile

    sound, rate = soundfile.read(io.BytesIO(data), dtype="float32")
    return sound, int(rate)


def write_wav_blocks(path: Path, blocks: Iterable[npt.ArrayLike], rate: int) -> None:
    """Write 24-bit WAV as its blocks come, each of shape (n,) or (n, channels); whole or not at all.

    Samples outside -1 to 1 are cut off. Raises WriteError, also for more than the 4 GiB that a WAV file holds.
    """
    import wave

    with whole_file(path) as draft:
        try:
            with wave.open(str(draft), "wb") as out:
                for number, block in enumerate(blocks):
                    sound = np.asarray(block)
                    if not number:
                        out.setparams((sound.shape[1] if sound.ndim > 1 else 1, 3, rate, 0, "NONE", ""))
                    out.writeframes(_pcm_24(sound))
        except (wave.Error, struct.error) as fault:
            raise WriteError(f"{called(path)} would be too long for a WAV file.") from fault


def _pcm_24(sound: npt.NDArray[Any]) -> bytes:
    """Samples as little-endian whole numbers of three bytes."""
    whole = np.round(np.clip(sound, -1, 1) * 8_388_607).astype("<i4")
    return bytes(whole.reshape(-1, 1).view(np.uint8)[:, :3].tobytes())
