"""The demo workbook: an invented evening class, with two takes whose faults were planted."""

import contextlib
import hashlib
import os
import shutil
import tempfile
import time
from importlib import resources
from pathlib import Path

from msgspec import Struct

from firn.core.book.book import Book, BookPiece, Take, piece_of_script
from firn.core.book.edits import AddLog, AddPiece, AddTake, GoTo
from firn.core.book.log import FirstFoot, LogEntry
from firn.core.book.practice_edits import AddDrill
from firn.core.drills.run import How
from firn.core.drills.stage import COMBO, Drill, Stage
from firn.errors import StoreError
from firn.files.whole import lock
from firn.session.fresh import new_id, now
from firn.session.log import step_name
from firn.session.session import Session


def demo_script(name: str = "gate_latch") -> str:
    """A demo piece as text."""
    return resources.files("firn.session").joinpath(f"{name}.steps").read_text("utf-8")


def demo_piece(name: str = "gate_latch") -> BookPiece:
    """A demo piece."""
    return piece_of_script(demo_script(name), [new_id() for _ in range(12)])


# Day, part, side, tempo, how it went, on, of, shoes, floor: an invented month of practice.
_PRACTICE: tuple[tuple[str, int, FirstFoot, float, How, int, int, str, str], ...] = (
    ("2026-10-27T19:20", 0, "right", 96, "clean", 24, 24, "tap shoes", "hall boards"),
    ("2026-10-27T19:35", 0, "left", 96, "lost", 20, 24, "tap shoes", "hall boards"),
    ("2026-10-30T18:05", 0, "left", 92, "clean", 23, 24, "socks", "kitchen lino"),
    ("2026-11-03T19:25", 0, "right", 108, "clean", 24, 24, "tap shoes", "hall boards"),
    ("2026-11-03T19:40", 0, "left", 100, "clean", 24, 24, "tap shoes", "hall boards"),
    ("2026-11-07T10:15", 1, "right", 92, "lost", 27, 32, "tap shoes", "practice board"),
    ("2026-11-10T19:15", 0, "right", 116, "lost", 21, 24, "tap shoes", "hall boards"),
    ("2026-11-10T19:30", 1, "right", 92, "clean", 31, 32, "tap shoes", "hall boards"),
    ("2026-11-14T10:20", 0, "left", 108, "clean", 24, 24, "tap shoes", "practice board"),
    ("2026-11-17T19:20", 0, "right", 120, "clean", 24, 24, "tap shoes", "hall boards"),
    ("2026-11-17T19:45", 1, "left", 88, "clean", 32, 32, "tap shoes", "hall boards"),
    ("2026-11-21T10:10", 0, "left", 116, "lost", 22, 24, "tap shoes", "practice board"),
    ("2026-11-24T19:20", 0, "right", 126, "clean", 23, 24, "tap shoes", "hall boards"),
    ("2026-11-24T19:35", 0, "left", 118, "clean", 24, 24, "tap shoes", "hall boards"),
)


def demo_log(piece: BookPiece) -> list[LogEntry]:
    """The demo's log, made up."""
    entries = []
    for number, (when, index, side, tempo, how, on, of, shoes, floor) in enumerate(_PRACTICE):
        part = piece.parts[index]
        step = step_name(piece, part.name)
        entries.append(
            LogEntry(f"demo{number}", when, step, part.id, side, tempo, how, on, of, shoes, floor, source="take")
        )
    return entries


def demo_drill(piece: BookPiece) -> Drill:
    """The demo's drill, made up: of its first part, joined to what follows it."""
    first, _, after, *_ = (part.id for part in piece.parts)
    stages = (
        Stage("slow_full", (first,), None, 88, 126, 38, times=1),
        Stage("hardest", (first,), (0, 4), 100, 126, 13, times=2),
        Stage("weaker_side", (first,), None, 118, 126, 4, "other side", 2),
        Stage("join", (first, after), None, 112, 112, 4, "as written", 2, rest=8),
        Stage("whole", (COMBO,), None, 126, 126, 4, "as written", 1, rest=8),
    )
    return Drill(new_id(), piece.id, "Tuesday evening", stages)


class DemoTake(Struct, frozen=True):
    """A take of the demo's first part: its name, tempo, file and frames; tools/make_demo_takes.py makes them."""

    name: str
    tempo: float
    file: str
    frames: int


TAKES = (
    DemoTake("Wren Tolliver, second week", 116.0, "wren.flac", 484_826),
    DemoTake("Ivo Marsh, before class", 126.0, "ivo.flac", 468_988),
)
RATE = 48_000

_FOLDER = "firn-demo-"
_STALE_S = 3_600


def make_demo(path: Path) -> Session:
    """A new demo workbook at `path`; raises FirnError if it cannot be made."""
    piece = demo_piece()
    book = AddPiece(demo_piece("lantern_round")).apply(AddPiece(piece).apply(Book()))
    part = piece.parts[0].id
    samples = {}
    for demo in TAKES:
        data = resources.files("firn.session").joinpath("demo_takes", demo.file).read_bytes()
        name = hashlib.sha256(data).hexdigest()
        samples[name] = data
        take = Take(
            new_id(), piece.id, part, demo.name, now(), name, RATE, demo.frames, demo.tempo, source="simulated"
        )
        book = AddTake(take).apply(book)
    book = AddDrill(demo_drill(piece)).apply(book)
    for entry in demo_log(piece):
        book = AddLog(entry).apply(book)
    session = Session.new(path, GoTo(piece.id, part).apply(book))
    for name, data in samples.items():
        session.store.add_samples(name, data)
    return session


def open_demo() -> Session:
    """A demo workbook in a folder of its own, which goes when the workbook is closed; raises FirnError.

    What a demo that was killed has left is removed, too.
    """
    _sweep(Path(tempfile.gettempdir()))
    try:
        folder = Path(tempfile.mkdtemp(prefix=_FOLDER))
    except OSError as fault:
        raise StoreError(f"The demo cannot be made: {fault.strerror}.") from fault
    session = make_demo(folder / "evening class.firn")
    session.scratch = folder
    return session


def _sweep(folder: Path) -> None:
    """Remove the demos that nobody has open any more."""
    for left in folder.glob(f"{_FOLDER}*"):
        with contextlib.suppress(OSError):
            book = left / "evening class.firn"
            if left.is_symlink() or not left.is_dir() or left.stat().st_uid != os.getuid():
                continue
            if not book.exists():
                # Another may be making it just now.
                free = time.time() - left.stat().st_mtime > _STALE_S
            else:
                with book.open("rb") as file:
                    free = lock(file.fileno()) == "held"
            if free:
                shutil.rmtree(left)
