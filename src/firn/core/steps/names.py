"""Names as they are looked up, and the known ones nearest to a slip."""

import unicodedata
from collections.abc import Iterable

LONGEST_SLIP = 60
"""One typed run of letters may be anything; comparing more than this only costs time."""


def fold(word: str) -> str:
    """A word as it is looked up: case, width and hyphens set aside."""
    return " ".join(unicodedata.normalize("NFKC", word).casefold().replace("-", " ").split())


def nearest(word: str, names: Iterable[str], *, most: int = 3, cutoff: float = 0.6) -> tuple[str, ...]:
    """Up to `most` of some folded names that are close to a word, closest first."""
    import difflib

    return tuple(difflib.get_close_matches(fold(word)[:LONGEST_SLIP], names, n=most, cutoff=cutoff))
