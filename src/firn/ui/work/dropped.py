"""A file that is dropped on the window, whatever Firn reads: each goes where the menu would take it."""

from collections.abc import Callable, Mapping
from pathlib import Path

from PySide6.QtCore import QMimeData

Readers = Mapping[str, Callable[[Path], object]]
"""What reads a file, by the ending of its name, small letters."""

RECORDINGS = (".wav", ".flac", ".ogg", ".oga")


def dropped_file(data: QMimeData) -> Path | None:
    """The one local file that is dropped, or None."""
    urls = [u for u in data.urls() if u.isLocalFile()]
    return Path(urls[0].toLocalFile()) if len(urls) == 1 else None


def read_dropped(path: Path, readers: Readers, say: Callable[[str], None]) -> None:
    """Read a file that was dropped, or say that nothing reads it."""
    read = readers.get(path.suffix.casefold())
    if read is None:
        known = ", ".join(readers)
        say(f"Firn reads no {path.suffix or 'such'} files; it reads {known}.")
    else:
        read(path)
