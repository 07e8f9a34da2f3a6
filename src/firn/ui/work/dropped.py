"""A file that is dropped on the window, whatever Firn reads: each goes where the menu would take it."""

from collections.abc import Callable, Mapping
from pathlib import Path

from PySide6.QtCore import QMimeData

from firn.files.formats import Format

Readers = Mapping[Format, Callable[[Path], object]]
"""What reads each kind of file."""


def dropped_file(data: QMimeData) -> Path | None:
    """The one local file that is dropped, or None."""
    urls = [u for u in data.urls() if u.isLocalFile()]
    return Path(urls[0].toLocalFile()) if len(urls) == 1 else None


def read_dropped(path: Path, readers: Readers, say: Callable[[str], None]) -> None:
    """Read a file that was dropped by what it holds, whatever it is called, or say that nothing reads it."""
    from firn.files.known import ending_of

    ending = ending_of(path)
    read = next((read for kind, read in readers.items() if ending in kind.endings), None)
    if read is None:
        known = ", ".join(ending for kind in readers for ending in kind.endings)
        say(f"Firn reads no {path.suffix or 'such'} files; it reads {known}.")
    else:
        read(path)
