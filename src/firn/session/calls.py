"""Parts called in their teacher's own voice: cut from a recording, kept in the workbook, said in a drill."""

from pathlib import Path

import numpy as np

from firn.core.book.book import Book
from firn.core.book.calls import Call
from firn.core.sound.loudness import as_loud_as
from firn.core.sound.spoken import keep_spoken
from firn.core.sound.voices import RATE, FloatArray
from firn.errors import FirnError
from firn.files.audio import flac_bytes, from_flac, read_take
from firn.files.store import Store
from firn.session.fresh import new_id

MOST_S = 2.0
"""A call longer than this would run into the count-in."""

READ_S = 30.0
"""So much of a recording is looked at for a call."""

WINDOW_S = 0.02
FAINT = 0.05
"""It begins and ends where a share of its loudest moment is heard."""

EDGE_S = 0.03
LEAST = 0.005
"""Below this nobody speaks."""

AS_LOUD_LUFS = -20.0
"""As loud as the words that are shipped."""


def call_of_file(path: Path) -> FloatArray:
    """A call from a recording, at `RATE`, shape (n,); raises FirnError with one sentence."""
    sound, rate, _ = read_take(path, length_s=READ_S)
    return call_of(sound, rate)


def call_of(sound: FloatArray, rate: int) -> FloatArray:
    """What is said in a recording, shape (n,), without the silence around it, at `RATE`; raises FirnError where
    nobody speaks, or too long."""
    window = round(WINDOW_S * rate)
    many = len(sound) // window
    levels = np.sqrt(np.mean(sound[: many * window].reshape(many, window) ** 2, axis=1)) if many else np.zeros(0)
    if not many or levels.max() < LEAST:
        raise FirnError("Nothing is said in it.")
    loud = np.flatnonzero(levels >= FAINT * levels.max())
    edge = round(EDGE_S * rate)
    begin, end = max(0, loud[0] * window - edge), min(len(sound), (loud[-1] + 1) * window + edge)
    seconds = (end - begin) / rate
    if seconds > MOST_S:
        raise FirnError(
            f"A call lasts {MOST_S:g} s at most, this one {seconds:.1f} s: it would run into the count-in."
        )
    said = sound[begin:end].astype(np.float32)
    if rate != RATE:
        from scipy.signal import resample_poly

        said = np.asarray(resample_poly(said, RATE, rate), np.float32)
    ramp = np.linspace(0, 1, min(len(said), round(EDGE_S * RATE / 2)), dtype=np.float32)
    said[: len(ramp)] *= ramp
    said[len(said) - len(ramp) :] *= ramp[::-1]
    # A word is too short to have a loudness: said again and again it has.
    again = np.tile(said, max(1, round(RATE / len(said))))
    return as_loud_as(again, RATE, AS_LOUD_LUFS)[: len(said)]


def keep_call(store: Store, piece: str, part: str, said: FloatArray) -> Call:
    """Keep a call's samples in the workbook; raises FirnError."""
    data, name = flac_bytes(said, RATE)
    store.add_samples(name, data)
    return Call(new_id(), piece, part, name, RATE, len(said))


def calls_of(store: Store, book: Book, piece: str) -> dict[str, str]:
    """The word by which each part of a piece is called in her own voice, by its id; it can be spoken from then on. A
    recording that is damaged is left out."""
    words: dict[str, str] = {}
    for call in book.calls:
        if call.piece == piece:
            try:
                words[call.part] = keep_spoken(call.audio, *from_flac(store.samples(call.audio)))
            except (FirnError, RuntimeError, OSError):
                continue
    return words
