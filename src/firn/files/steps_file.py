"""Pieces as .steps text files."""

from pathlib import Path

from firn.files.whole import read_text

MOST_BYTES = 4_000_000


def read_steps(path: Path) -> str:
    """The text of a .steps file (UTF-8); raises FileFormatError with one sentence."""
    return read_text(path, "a piece", MOST_BYTES)
