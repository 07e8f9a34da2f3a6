"""Syllables as they are sung: two halves of recorded speech, met inside the vowel."""

import json
import re
import unicodedata
from collections.abc import Callable
from functools import lru_cache
from importlib import resources

import numpy as np

from firn.core.sound.voices import RATE, FloatArray

SYLLABLES_RATE = 22_050
MEET_S = 0.03
"""How long the two halves of a syllable overlap."""

LOUD = 1.5
"""A syllable in capitals is so much louder."""

_VOWEL = re.compile(r"[aeiouy]+")
_VOWELS = {
    "a": "a", "aa": "a", "u": "u", "oo": "oo", "ou": "oo", "ue": "oo", "ee": "ee", "ea": "ee", "ie": "ee", "i": "i",
    "e": "e", "o": "o", "oa": "o", "oe": "o", "ow": "ow", "au": "ow", "ay": "ay", "ai": "ay", "ei": "ay", "ey": "ay",
    "y": "ee",
}  # fmt: skip
_ALIKE = (("tch", "ch"), ("ck", "k"), ("qu", "kw"), ("ph", "f"), ("q", "k"), ("x", "ks"), ("dj", "j"))


def spelled(syllable: str) -> tuple[str, str, str]:
    """What a written syllable begins with, its vowel, and its end; a vowel is put in where there is none."""
    # Accents off, letters that are said once written once.
    bare = unicodedata.normalize("NFD", syllable.casefold())
    text = re.sub(r"([^aeiou])\1+", r"\1", "".join(c for c in bare if c.isalpha()))
    match = next(_VOWEL.finditer(text, 1 if text[:1] == "y" and len(text) > 1 else 0), None)
    if match is None:
        # "tss", "chk": all before the last consonants goes first.
        onset = re.match(r"(?:sh|ch|th|[^h])?", text)
        begins = onset[0] if onset else ""
        return _alike(begins), "u", _alike(text[len(begins) :])
    onset_text, vowel, coda = text[: match.start()], match[0], text[match.end() :]
    if coda[:1] == "w" and vowel in ("o", "a"):
        vowel, coda = "ow", coda[1:]
    if coda[:1] == "h":
        vowel, coda = {"u": "u", "o": "o", "e": "ay"}.get(vowel, "a"), coda[1:]
    closed = coda != ""
    heard = _VOWELS.get(vowel, _VOWELS.get(vowel[:2], _VOWELS.get(vowel[:1], "u")))
    if heard == "i" and not closed:
        heard = "ee"
    if vowel == "o" and closed:
        heard = "a"
    return _alike(onset_text), heard, _alike(coda.rstrip("e") or coda)


def _known(index: dict[str, list[int]], part: str, key: Callable[[str], str]) -> str:
    """The key of the longest end of some consonants that is kept: "str" begins as "tr"."""
    return next(k for n in range(len(part) + 1) if (k := key(part[n:])) in index)


def _half(sounds: FloatArray, index: dict[str, list[int]], key: str) -> tuple[FloatArray, int]:
    """One half, and where the vowel begins in it."""
    start, length, begins = index[key]
    return sounds[start : start + length], begins


@lru_cache(maxsize=1)
def _stored() -> tuple[FloatArray, dict[str, list[int]]]:
    import soundfile

    here = resources.files("firn.core.sound")
    with here.joinpath("syllables.ogg").open("rb") as file:
        sounds, _ = soundfile.read(file, dtype="float32")
    return sounds, json.loads(here.joinpath("syllables.json").read_text("utf-8"))


def _alike(text: str) -> str:
    for written, heard in _ALIKE:
        text = text.replace(written, heard)
    return re.sub(r"c(?!h)", "k", text)


@lru_cache(maxsize=256)
def sung(syllable: str) -> tuple[FloatArray, int]:
    """A syllable at `RATE`, shape (n,), float32, and the sample on which its vowel begins.

    Any text is sung, the nearest known beginning and end taken; an empty one is silence.
    """
    onset, vowel, coda = spelled(syllable)
    if not any(c.isalpha() for c in syllable):
        return np.zeros(1, dtype=np.float32), 0
    sounds, index = _stored()
    first, begins = _half(sounds, index, _known(index, onset, lambda o: f"{o}|{vowel}"))
    second, _ = _half(sounds, index, _known(index, coda, lambda c: f"{vowel}|{c}"))
    meet = min(round(MEET_S * SYLLABLES_RATE), len(first) - begins, len(second))
    fade = np.linspace(0, 1, meet)
    joined = np.concatenate([first[: len(first) - meet], first[len(first) - meet :] * (1 - fade), second[meet:]])
    joined[len(first) - meet : len(first)] += second[:meet] * fade
    at = np.arange(int(len(joined) * RATE / SYLLABLES_RATE)) * (SYLLABLES_RATE / RATE)
    loud = LOUD if syllable.isupper() else 1.0
    made: FloatArray = (loud * np.interp(at, np.arange(len(joined)), joined)).astype(np.float32)
    made.setflags(write=False)
    return made, round(begins * RATE / SYLLABLES_RATE)
