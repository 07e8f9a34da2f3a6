"""Names as they are looked up, and the known ones nearest to a slip."""

import re
import unicodedata
from collections.abc import Iterable
from functools import cache, lru_cache

LONGEST_SLIP = 60
"""One typed run of letters may be anything; comparing more than this only costs time."""


MARKS = (
    r"\u0300-\u036f\u0483-\u0487\u0591-\u05bd\u05bf\u05c1\u05c2\u05c4\u05c5\u05c7\u0610-\u061a\u064b-\u065f\u0670"
    r"\u06d6-\u06dc\u06df-\u06e8\u06ea-\u06ed\u0900-\u0963\u0981-\u0dff\u0e31\u0e34-\u0e3a\u0e47-\u0e4e\u1ab0-\u1aff"
    r"\u1dc0-\u1dff\u200c\u200d\u20d0-\u20ff\ufe20-\ufe2f"
)
"""Vowel signs, points and accents that are part of a word though \\w leaves them out, for between the brackets of an
expression (Unicode's categories Mn and Mc in the scripts that write with them)."""


@lru_cache(maxsize=8_000)
def fold(word: str) -> str:
    """A word as it is looked up: case, width and hyphens set aside."""
    if word.isascii():
        return " ".join(word.lower().replace("-", " ").split())
    return " ".join(unicodedata.normalize("NFKC", word).casefold().replace("-", " ").split())


def bare(word: str) -> str:
    """A word without its accents."""
    if word.isascii():
        return word
    plain = unicodedata.normalize("NFD", word)
    return unicodedata.normalize("NFC", "".join(c for c in plain if unicodedata.category(c) != "Mn"))


@cache
def _word() -> re.Pattern[str]:
    """A word. Made when it is first asked for: it takes as long as a module."""
    return re.compile(rf"[^\W\d_](?:[^\W_]|[{MARKS}]|['’](?=[^\W_]))*")


@lru_cache(maxsize=4_000)
def words_in(text: str) -> str:
    """A text's words as names are looked for among them: folded, each between single spaces."""
    return f" {' '.join(_word().findall(fold(text)))} "


def nearest(word: str, names: Iterable[str], *, most: int = 3, cutoff: float = 0.6) -> tuple[str, ...]:
    """Up to `most` of some folded names that are close to a word, closest first."""
    import difflib

    slip = fold(word)[:LONGEST_SLIP]
    # As many letters in common at least: nearly all names have fewer, and that is soon seen.
    theirs, least = _letters(slip), cutoff / 2
    likely = [n for n in names if len(theirs & _letters(n)) >= least * (len(slip) + len(n)) - 1e-9]
    return tuple(difflib.get_close_matches(slip, likely, n=most, cutoff=cutoff))


@lru_cache(maxsize=20_000)
def _letters(word: str) -> frozenset[str]:
    """A word's letters, each with how often it was in it before."""
    return frozenset(f"{letter}{word.count(letter, 0, at)}" for at, letter in enumerate(word))
