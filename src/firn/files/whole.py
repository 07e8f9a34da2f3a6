"""How files are read and written: nothing that would not end is read, and what is written is whole or not there.

Everything that leaves Firn goes through `whole_file`: it is made aside, flushed to the disk, and then moved to its
place. Nothing that is no plain file is read or written over, nor a workbook that is open.
"""

import contextlib
import fcntl
import os
import stat
from collections.abc import Iterator
from pathlib import Path
from typing import Literal

from firn.errors import FileFormatError, WriteError

APPLICATION_ID = 0x4669726E  # "Firn"
HEAD = 100
"""Bytes of a workbook's head (sqlite.org/fileformat.html)."""

Lock = Literal["held", "taken", "none"]

_DRAFT = ".firn-", ".part"
_LONG = 60


def called(path: Path) -> str:
    """A file's name for a sentence: cut in the middle where it is long."""
    name = path.name or str(path)
    return name if len(name) <= _LONG else f"{name[: _LONG // 2]}…{name[-_LONG // 3 :]}"


def is_there(path: Path) -> bool:
    """Whether there is a file or folder of this name; False also where that cannot be asked."""
    return os.path.exists(path)


def checked_to_read(path: Path, what: str) -> int:
    """The size in bytes of a file that can be read at once; `what` it should be, "a recording".

    Raises FileFormatError for one that is not there, or that is a folder, a device or a pipe: these are never opened.
    """
    try:
        info = path.stat()
    except FileNotFoundError as fault:
        raise FileFormatError(f"{called(path)} is not there.") from fault
    except (OSError, ValueError) as fault:
        raise FileFormatError(f"{called(path)} cannot be read: {_reason(fault)}.") from fault
    if stat.S_ISDIR(info.st_mode):
        raise FileFormatError(f"{called(path)} is a folder, not {what}.")
    if not stat.S_ISREG(info.st_mode):
        raise FileFormatError(f"{called(path)} is a device or a pipe, not {what}.")
    return info.st_size


def read_whole(path: Path, what: str, most: int) -> bytes:
    """All bytes of a file of at most `most`; raises FileFormatError with one sentence."""
    if checked_to_read(path, what) > most:
        raise FileFormatError(f"{called(path)} is too long to be {what}.")
    try:
        return path.read_bytes()
    except OSError as fault:
        raise FileFormatError(f"{called(path)} cannot be read: {_reason(fault)}.") from fault


def read_text(path: Path, what: str, most: int) -> str:
    """The text of a file in UTF-8, of at most so many bytes; raises FileFormatError with one sentence."""
    try:
        return read_whole(path, what, most).decode("utf-8-sig")
    except UnicodeDecodeError as fault:
        raise FileFormatError(f"{called(path)} is no UTF-8 text.") from fault


def _reason(fault: OSError | ValueError) -> str:
    return (getattr(fault, "strerror", None) or str(fault)).rstrip(".")


def lock(handle: int) -> Lock:
    """Try to lock an open file for as long as it stays open: held, taken by another, none where there are no locks.

    flock, which SQLite's own locks do not touch.
    """
    try:
        fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except BlockingIOError:
        return "taken"
    except OSError:
        return "none"
    return "held"


def is_workbook(head: bytes) -> bool:
    """Whether the first bytes of a file are those of a workbook."""
    return head.startswith(b"SQLite format 3\x00") and int.from_bytes(head[68:72], "big") == APPLICATION_ID


def _is_open_workbook(path: Path) -> bool:
    try:
        with path.open("rb") as file:
            return is_workbook(file.read(HEAD)) and lock(file.fileno()) == "taken"
    except OSError:
        return False


def _checked_place(path: Path, *, fresh: bool) -> tuple[Path, int | None]:
    """Where bytes for `path` really go, links followed, and the rights of the file that is there, None for none."""
    try:
        place = path.resolve()
        info = place.stat()
    except FileNotFoundError:
        return path.resolve(), None
    except (OSError, RuntimeError, ValueError) as fault:
        reason = _reason(fault) if isinstance(fault, OSError | ValueError) else "its links go round"
        raise WriteError(f"{called(path)} cannot be made there: {reason}.") from fault
    if stat.S_ISDIR(info.st_mode):
        raise WriteError(f"{called(path)} is a folder.")
    if not stat.S_ISREG(info.st_mode):
        raise WriteError(f"{called(path)} is a device or a pipe; Firn writes files only.")
    if fresh:
        raise WriteError(f"{called(path)} is there already.")
    if not os.access(place, os.W_OK):
        raise WriteError(f"{called(path)} may not be written over.")
    if _is_open_workbook(place):
        raise WriteError(f"{called(path)} is a workbook that is open: choose another name.")
    return place, stat.S_IMODE(info.st_mode)


@contextlib.contextmanager
def whole_file(path: Path, *, fresh: bool = False, private: bool = False) -> Iterator[Path]:
    """A draft to write into; it takes the place of `path` once the block has ended well, else it is removed.

    `fresh`: there must be no file yet. `private`: to be read by its owner alone. A file that is replaced keeps its
    rights otherwise, and a link stays a link. Raises WriteError with one sentence, also for an OSError in the block.
    """
    place, rights = _checked_place(path, fresh=fresh)
    draft: Path | None = None
    try:
        _sweep(place.parent)
        draft = place.with_name(os.urandom(4).hex().join(_DRAFT))
        handle = os.open(draft, os.O_CREAT | os.O_EXCL | os.O_RDWR, 0o600 if private else 0o666)
        try:
            # The lock tells a draft that is being written from one that a crash has left.
            lock(handle)
            if rights is not None and not private:
                os.fchmod(handle, rights)
            yield draft
            os.fsync(handle)
            _put(draft, place, fresh=fresh)
            _flush_folder(place.parent)
        finally:
            os.close(handle)
    except FileExistsError as fault:
        raise WriteError(f"{called(path)} is there already.") from fault
    except OSError as fault:
        raise WriteError(f"{called(path)} could not be written: {_reason(fault)}.") from fault
    finally:
        if draft is not None:
            with contextlib.suppress(OSError):
                draft.unlink(missing_ok=True)


def write_bytes(path: Path, data: bytes, *, fresh: bool = False, private: bool = False) -> None:
    """Write a file whole or not at all; raises WriteError with one sentence."""
    with whole_file(path, fresh=fresh, private=private) as draft:
        draft.write_bytes(data)


def write_text(path: Path, text: str, *, private: bool = False) -> None:
    """Write a text in UTF-8, whole or not at all; raises WriteError with one sentence."""
    write_bytes(path, text.encode("utf-8", "replace"), private=private)


def _put(draft: Path, place: Path, *, fresh: bool) -> None:
    if not fresh:
        os.replace(draft, place)
        return
    try:
        # A link is refused where there is a file by now; replacing would not be.
        os.link(draft, place)
    except FileExistsError:
        raise
    except OSError:
        # Some file systems know no second names.
        if place.exists():
            raise FileExistsError(place) from None
        os.rename(draft, place)


def _flush_folder(folder: Path) -> None:
    """Have the disk know the new name, too; some file systems cannot, and need not."""
    with contextlib.suppress(OSError):
        handle = os.open(folder, os.O_RDONLY)
        try:
            os.fsync(handle)
        finally:
            os.close(handle)


def _sweep(folder: Path) -> None:
    """Remove drafts that a crash has left: nobody holds them."""
    for left in folder.glob("????????".join(_DRAFT)):
        with contextlib.suppress(OSError):
            handle = os.open(left, os.O_RDONLY | os.O_NONBLOCK | os.O_NOFOLLOW)
            try:
                if lock(handle) == "held":
                    left.unlink()
            finally:
                os.close(handle)
