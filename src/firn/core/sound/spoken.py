"""Spoken count words, each with the sample on which its vowel begins."""

from functools import lru_cache
from importlib import resources

import numpy as np

from firn.core.sound.voices import RATE, FloatArray

WORDS_RATE = 22_050
_KEPT: dict[str, tuple[FloatArray, int]] = {}
"""Words in a teacher's own voice, by what they are called."""

CALLED = "part "
"""Before the names of words that are called, of which some are counted with as well."""
OWN = "own "
"""Before the names of words in a teacher's own voice."""


def keep_spoken(name: str, sound: FloatArray, rate: int) -> str:
    """Keep a word in a teacher's own voice, shape (n,), by a name of its own; gives the word for it."""
    word = f"{OWN}{name}"
    if word not in _KEPT:
        at = np.arange(int(len(sound) * RATE / rate)) * (rate / RATE)
        made = np.interp(at, np.arange(len(sound)), sound).astype(np.float32)
        made.setflags(write=False)
        _KEPT[word] = (made, 0)
    return word


def spoken(word: str) -> tuple[FloatArray, int] | None:
    """A word at `RATE`, and the sample of its vowel; None if there is none. One of her own begins on its beat."""
    return _KEPT.get(word) if word.startswith(OWN) else _shipped(word)


@lru_cache(maxsize=64)
def _shipped(word: str) -> tuple[FloatArray, int] | None:
    """A word that is shipped.

    There are 1 to 32, &, e, a, hold, words such as ready and go for the end of a count-in, and what is `called`.
    """
    stored = _stored()
    if f"{word}.sound" not in stored:
        return None
    sound = stored[f"{word}.sound"].astype(np.float64) / 32767
    at = np.arange(int(len(sound) * RATE / WORDS_RATE)) * (WORDS_RATE / RATE)
    made = np.interp(at, np.arange(len(sound)), sound).astype(np.float32)
    made.setflags(write=False)
    return made, round(int(stored[f"{word}.vowel"]) * RATE / WORDS_RATE)


def kept_words() -> tuple[str, ...]:
    """All words that are counted with."""
    words = (name.removesuffix(".sound") for name in _stored() if name.endswith(".sound"))
    return tuple(word for word in words if not word.startswith(CALLED))


def called(name: str) -> str:
    """The word with which a part of a name is called: its own, or the one that stands for any other."""
    word = name.upper() if len(name) == 1 else name.casefold()
    return f"{CALLED}{word}" if f"{CALLED}{word}.sound" in _stored() else f"{CALLED}next"


@lru_cache(maxsize=1)
def _stored() -> dict[str, np.ndarray]:
    with resources.files("firn.core.sound").joinpath("words.npz").open("rb") as file, np.load(file) as kept:
        return {name: kept[name] for name in kept.files}
