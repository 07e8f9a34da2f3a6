"""Pieces as .steps text files."""

from pathlib import Path

from firn.errors import FileFormatError
from firn.files.whole import called, read_whole

MOST_BYTES = 4_000_000


def read_steps(path: Path) -> str:
    """The text of a .steps file (UTF-8); raises FileFormatError with one sentence."""
    data = read_whole(path, "a piece", MOST_BYTES)
    try:
        return data.decode("utf-8-sig")
    except UnicodeDecodeError as fault:
        raise FileFormatError(f"{called(path)} is no UTF-8 text.") from fault
