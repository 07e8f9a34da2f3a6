"""Pieces as .steps text files."""

import os
from pathlib import Path

from firn.errors import FileFormatError

MOST_BYTES = 4_000_000


def read_steps(path: Path) -> str:
    """The text of a .steps file (UTF-8); raises FileFormatError with one sentence."""
    try:
        if path.is_dir():
            raise FileFormatError(f"{path.name} is a folder, not a piece.")
        if path.stat().st_size > MOST_BYTES:
            raise FileFormatError(f"{path.name} is too long to be a piece.")
        return path.read_bytes().decode("utf-8-sig")
    except FileNotFoundError as fault:
        raise FileFormatError(f"{path.name} is not there.") from fault
    except UnicodeDecodeError as fault:
        raise FileFormatError(f"{path.name} is no UTF-8 text.") from fault
    except OSError as fault:
        raise FileFormatError(f"{path.name} cannot be read: {fault.strerror}.") from fault


def write_text(path: Path, text: str) -> None:
    """Write a text file in UTF-8; whole or not at all."""
    draft = path.with_name(path.name + ".part")
    try:
        draft.write_text(text, encoding="utf-8")
        os.replace(draft, path)
    except OSError as fault:
        raise FileFormatError(f"{path.name} could not be written: {fault.strerror}.") from fault
