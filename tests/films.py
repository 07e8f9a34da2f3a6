"""Recordings and films as phones make them, written by PyAV: for tests of what reads them."""

import struct
from fractions import Fraction
from pathlib import Path

import av
import numpy as np

RATE = 48_000


def strikes(times_s: list[float], seconds: float, rate: int = RATE) -> np.ndarray:
    """Short strikes at known times, shape (n,)."""
    sound = np.zeros(round(seconds * rate), np.float32)
    rng = np.random.default_rng(7)
    for time in times_s:
        first = round(time * rate)
        at = np.arange(round(0.06 * rate)) / rate
        board = np.sin(2 * np.pi * 320 * at) * np.exp(-at / 0.015)
        one = rng.standard_normal(len(at)) * np.exp(-at / 0.004) + 1.5 * board
        sound[first : first + len(one)] += (0.2 * one)[: len(sound) - first]
    return sound


def write(
    path: Path,
    sound: np.ndarray | None,
    *,
    codec: str = "aac",
    rate: int = RATE,
    pictures: list[np.ndarray] | None = None,
    picture_times_s: list[float] | None = None,
    picture_codec: str = "libx264",
    key_every: int = 12,
    container: str | None = None,
    options: dict[str, str] | None = None,
    deep: bool = False,
    made: str = "",
    bit_rate: int = 0,
) -> None:
    """A file with sound (n,), pictures (height, width, 3) at times, or both; `deep`: of ten bits; `made`: when,
    as its own data say it; `bit_rate`: of the sound, 0 for what its codec takes."""
    out = av.open(str(path), "w", format=container, options=options or {})
    if made:
        out.metadata["creation_time"] = made
    heard = seen = None
    if sound is not None:
        heard = out.add_stream(codec, rate=rate, layout="mono")
        if bit_rate or codec == "wmav2":
            heard.bit_rate = bit_rate or 192_000
    if pictures is not None:
        seen = out.add_stream(picture_codec, rate=30)
        seen.height, seen.width = pictures[0].shape[:2]
        seen.pix_fmt = "yuv420p10le" if deep else "yuvj420p" if picture_codec == "mjpeg" else "yuv420p"
        seen.time_base = Fraction(1, 1000)
        seen.codec_context.time_base = Fraction(1, 1000)
        seen.gop_size = key_every
        if picture_codec == "libx264":
            seen.options = {"preset": "veryfast"}
    if seen is not None and pictures is not None:
        times = picture_times_s or [n / 30 for n in range(len(pictures))]
        for time, picture in zip(times, pictures, strict=True):
            frame = av.VideoFrame.from_ndarray(picture, format="rgb24")
            frame.pts, frame.time_base = round(time * 1000), Fraction(1, 1000)
            out.mux(seen.encode(frame))
        out.mux(seen.encode(None))
    if heard is not None and sound is not None:
        wanted = heard.codec_context.format.name if heard.codec_context.format else "fltp"
        resampler = av.AudioResampler(format=wanted, layout="mono", rate=rate)
        for first in range(0, len(sound), 4_800):
            piece = np.ascontiguousarray(sound[None, first : first + 4_800], np.float32)
            frame = av.AudioFrame.from_ndarray(piece, format="fltp", layout="mono")
            frame.sample_rate, frame.pts = rate, first
            for ready in resampler.resample(frame):
                out.mux(heard.encode(ready))
        out.mux(heard.encode(None))
    out.close()


BITS, CELL, MARGIN = 12, 40, 10
"""A numbered picture shows its number as white and black cells, six in a row."""


def numbered(number: int, height: int = 240, width: int = 320) -> np.ndarray:
    """A picture that carries its own number, shape (height, width, 3)."""
    picture = np.full((height, width, 3), 16, np.uint8)
    for bit in range(BITS):
        if number >> bit & 1:
            top, left = _cell(bit)
            picture[top : top + CELL, left : left + CELL] = 240
    return picture


def number_of(picture: np.ndarray) -> int:
    """The number that a picture carries."""
    cells = (_cell(bit) for bit in range(BITS))
    lit = [picture[top + CELL // 2, left + CELL // 2].mean() > 128 for top, left in cells]
    return sum(1 << bit for bit, one in enumerate(lit) if one)


def _cell(bit: int) -> tuple[int, int]:
    return MARGIN + (CELL + MARGIN) * (bit // 6), MARGIN + (CELL + MARGIN) * (bit % 6)


def turn(path: Path, quarters: int) -> None:
    """Say in an MP4 file that its picture is to be turned so many quarters to the right, as upright phones do.

    The matrix of the track header (ISO/IEC 14496-12, 8.3.2) of the track that has a height.
    """
    cos, sin = ((1, 0), (0, 1), (-1, 0), (0, -1))[quarters % 4]
    matrix = struct.pack(">9i", cos << 16, sin << 16, 0, -sin << 16, cos << 16, 0, 0, 0, 1 << 30)
    data, at = bytearray(path.read_bytes()), -1
    while (at := data.find(b"tkhd", at + 1)) >= 0:
        if any(data[at + 84 : at + 88]):
            data[at + 44 : at + 80] = matrix
    path.write_bytes(bytes(data))
