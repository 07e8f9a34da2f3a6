"""Recorded hits and notes out of a SoundFont 2 file: the samples that its presets use."""

import struct
from collections.abc import Iterator
from itertools import pairwise
from pathlib import Path

import numpy as np

PERCUSSION_BANK = 128
INSTRUMENT, SAMPLE = 41, 53
"""Generators that name an instrument, and a sample (SoundFont 2.04, section 8.1.2)."""


def _chunks(data: bytes, at: int, end: int) -> Iterator[tuple[bytes, int, int]]:
    while at + 8 <= end:
        size = struct.unpack_from("<I", data, at + 4)[0]
        yield data[at : at + 4], at + 8, size
        at += 8 + size + (size & 1)


def hits_of(file: Path, *, percussion: bool = True) -> dict[str, tuple[np.ndarray, int]]:
    """Each sample of the percussion presets (or of all others) by its name: audio (n,) and its rate in Hz."""
    data = file.read_bytes()
    tables: dict[bytes, tuple[int, int]] = {}
    for name, at, size in _chunks(data, 12, len(data)):
        if name == b"LIST":
            tables |= {inner: (start, length) for inner, start, length in _chunks(data, at + 4, at + size)}

    def rows(name: bytes, layout: str) -> list[tuple]:
        at, size = tables[name]
        step = struct.calcsize(layout)
        return [struct.unpack_from(layout, data, at + k) for k in range(0, size, step)]

    presets, preset_bags, preset_gens = rows(b"phdr", "<20sHHHIII"), rows(b"pbag", "<HH"), rows(b"pgen", "<HH")
    instruments, bags, gens = rows(b"inst", "<20sH"), rows(b"ibag", "<HH"), rows(b"igen", "<HH")

    def named(bags: list[tuple], gens: list[tuple], first: int, last: int, kind: int) -> set[int]:
        return {g[1] for bag in range(first, last) for g in gens[bags[bag][0] : bags[bag + 1][0]] if g[0] == kind}

    used: set[int] = set()
    for preset, following in pairwise(presets):
        if (preset[2] == PERCUSSION_BANK) == percussion:
            for one in named(preset_bags, preset_gens, preset[3], following[3], INSTRUMENT):
                used |= named(bags, gens, instruments[one][1], instruments[one + 1][1], SAMPLE)
    heads = rows(b"shdr", "<20sIIIIIBbHH")
    start, size = tables[b"smpl"]
    samples = np.frombuffer(data, dtype="<i2", count=size // 2, offset=start)
    return {
        heads[k][0].split(b"\0")[0].decode("latin1"): (samples[heads[k][1] : heads[k][2]] / 32_768, heads[k][5])
        for k in sorted(used)
        if heads[k][2] > heads[k][1]
    }
