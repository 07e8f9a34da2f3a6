"""Makes the demo's two takes anew: a made-up student dances its first part with planted faults.

    .venv/bin/python tools/make_demo_takes.py

Prints what `firn.session.demo.TAKES` says of them. They are shipped, so that the demo starts without what makes them.
"""

from pathlib import Path

import numpy as np

from firn.core.ear.student import Faults, dance
from firn.core.piece.build import piece_from
from firn.core.sound.voices import RATE
from firn.files.audio import flac_bytes
from firn.session.demo import TAKES, demo_script

FOLDER = Path(__file__).parents[1] / "src/firn/session/demo_takes"
FAULTS = (
    Faults(late_ms={4: 34.0}, missing=frozenset({3}), jitter_ms=6),
    Faults(late_ms={8: -42.0}, jitter_ms=7, tempo=121.0),
)
SEED = 20


def made() -> list[np.ndarray]:
    """The samples of each take, shape (n,), at `RATE`."""
    part = piece_from(demo_script()).parts[0]
    rng = np.random.default_rng(SEED)
    return [dance(part, take.tempo, faults, rng, passes=2).audio for take, faults in zip(TAKES, FAULTS, strict=True)]


if __name__ == "__main__":
    FOLDER.mkdir(exist_ok=True)
    for take, sound in zip(TAKES, made(), strict=True):
        data, hash_of_data = flac_bytes(sound, RATE)
        (FOLDER / take.file).write_bytes(data)
        print(take.file, len(sound), hash_of_data, len(data))
