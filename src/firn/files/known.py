"""What a file is by its content, whatever it is called."""

from pathlib import Path

from firn.core.pattern import late
from firn.errors import FirnError
from firn.files.whole import checked_to_read

_HEAD = 4_096
"""Bytes of a file's beginning that are looked at."""

_MAGIC = (
    (b"SQLite format 3\0", ".firn"), (b"MThd", ".mid"), (b"fLaC", ".flac"), (b"OggS", ".ogg"), (b"ID3", ".mp3"),
    (b"caff", ".caf"), (b"PK\x03\x04", ".mxl"), (b"\x1a\x45\xdf\xa3", ".webm"), (b"#!AMR", ".amr"),
)  # fmt: skip
"""What files begin with, by the formats' own specifications."""
_INSIDE = (
    (b"RIFF", b"WAVE", ".wav"), (b"RIFF", b"AVI ", ".avi"), (b"FORM", b"AIFF", ".aif"), (b"FORM", b"AIFC", ".aif"),
)  # fmt: skip
"""The same of files in chunks: what they begin with, and what stands eight bytes on."""

_TEXTS = (
    (late(r"\s*+<[\s\S]*<score-partwise\b"), ".musicxml"),
    (late(r"(?:%[^\n]*\n|\s)*+X:\s*\d"), ".abc"),
    (late(r"(?:[\s\S]*\n)?\[\[?(?:card|cards)\b"), ".toml"),
    (late(r"(?:[\s\S]*\n)?(?:part \S|combo[ \t]*\n|piece:)"), ".steps"),
)
"""What texts hold near their beginning."""


def ending_of(path: Path) -> str:
    """The ending that the name of a file with such content usually has; its own in small letters where the content
    says nothing, or where the file cannot be read, which is for its reader to say."""
    own = path.suffix.casefold()
    try:
        checked_to_read(path, "a file")
        with path.open("rb") as file:
            head = file.read(_HEAD)
    except (OSError, FirnError):
        return own
    return _by_bytes(head) or _by_text(head) or own


def _by_bytes(head: bytes) -> str:
    found = next((ending for magic, ending in _MAGIC if head.startswith(magic)), "")
    found = found or next((e for first, then, e in _INSIDE if head[:4] == first and head[8:12] == then), "")
    if not found and head[4:8] == b"ftyp":
        return ".m4a" if head[8:11] == b"M4A" else ".mp4"
    return found


def _by_text(head: bytes) -> str:
    try:
        # A letter may be cut at the end of what was read.
        text = head.decode("utf-8-sig", "strict" if len(head) < _HEAD else "ignore")
    except UnicodeDecodeError:
        return ""
    return "" if "\0" in text else next((ending for like, ending in _TEXTS if like.match(text)), "")
