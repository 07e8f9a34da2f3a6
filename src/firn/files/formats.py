"""The kinds of files that Firn reads and writes: one entry each."""

from collections.abc import Callable, Sequence
from pathlib import Path
from typing import Any

from msgspec import Struct

from firn.errors import FileFormatError
from firn.files.cards import write_cards
from firn.files.steps_file import read_steps
from firn.files.whole import write_bytes, write_text

TUNE_ENDINGS = (".abc", ".mid", ".midi", ".musicxml", ".xml", ".mxl")


def _none(*_: object) -> Any:
    raise FileFormatError("Firn has no way to do that with such a file.")


class Format(Struct, frozen=True):
    """A kind of file: what a dialog calls it, the endings of its names (the usual one first), and what reads and
    writes it, where that is a matter of one file and one value."""

    name: str
    endings: tuple[str, ...]
    read: Callable[[Path], Any] = _none
    write: Callable[[Path, Any], None] = _none

    @property
    def ending(self) -> str:
        """How the name of a new one ends."""
        return self.endings[0]

    @property
    def offered(self) -> str:
        """As a dialog offers it."""
        return f"{self.name} ({' '.join(f'*{e}' for e in self.endings)})"

    def names(self, path: Path) -> bool:
        """Whether a file is called as one of these."""
        return path.name.casefold().endswith(self.endings)


def offered(formats: Sequence[Format]) -> str:
    """Several as a dialog offers them."""
    return ";;".join(one.offered for one in formats)


def format_of(path: Path, formats: Sequence[Format]) -> Format:
    """Which of some a file is, by its name; the first where it is called like none."""
    return next((one for one in formats if one.names(path)), formats[0])


WORKBOOK = Format("Firn workbooks", (".firn",))
PIECE = Format("Pieces", (".steps",), read_steps, write_text)
CARDS = Format("Cards", (".toml",), write=write_cards)
SOUND_ENDINGS = (
    ".wav", ".flac", ".ogg", ".oga", ".opus", ".mp3", ".m4a", ".aac", ".wma", ".aif", ".aiff", ".caf", ".amr",
)  # fmt: skip
FILM_ENDINGS = (".mp4", ".mov", ".m4v", ".webm", ".mkv", ".3gp", ".avi", ".wmv", ".mts")
FILM = Format("Films", FILM_ENDINGS)
RECORDING = Format("Recordings", SOUND_ENDINGS + FILM_ENDINGS)
TUNE = Format("Tunes", TUNE_ENDINGS)
PAPER = Format("PDF", (".pdf",), write=write_bytes)
