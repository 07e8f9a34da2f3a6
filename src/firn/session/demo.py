"""The demo workbook: an invented evening class, with two takes whose faults were planted."""

from importlib import resources
from pathlib import Path

import numpy as np

from firn.core.book.book import Book, BookPiece, piece_of_script
from firn.core.book.edits import AddLog, AddPiece, AddTake, GoTo
from firn.core.book.log import LogEntry, Side
from firn.core.ear.student import Faults, dance
from firn.core.piece.build import piece_from
from firn.core.sound.voices import RATE
from firn.session.log import step_name
from firn.session.session import Session, new_id
from firn.session.takes import kept_take


def demo_script(name: str = "gate_latch") -> str:
    """A demo piece as text."""
    return resources.files("firn.session").joinpath(f"{name}.steps").read_text("utf-8")


def demo_piece(name: str = "gate_latch") -> BookPiece:
    """A demo piece."""
    return piece_of_script(demo_script(name), [new_id() for _ in range(12)])


# Day, part, side, tempo, clean, on, of, shoes, floor: an invented month of practice.
_PRACTICE: tuple[tuple[str, int, Side, float, bool, int, int, str, str], ...] = (
    ("2026-10-27T19:20", 0, "right", 96, True, 24, 24, "tap shoes", "hall boards"),
    ("2026-10-27T19:35", 0, "left", 96, False, 20, 24, "tap shoes", "hall boards"),
    ("2026-10-30T18:05", 0, "left", 92, True, 23, 24, "socks", "kitchen lino"),
    ("2026-11-03T19:25", 0, "right", 108, True, 24, 24, "tap shoes", "hall boards"),
    ("2026-11-03T19:40", 0, "left", 100, True, 24, 24, "tap shoes", "hall boards"),
    ("2026-11-07T10:15", 1, "right", 92, False, 27, 32, "tap shoes", "practice board"),
    ("2026-11-10T19:15", 0, "right", 116, False, 21, 24, "tap shoes", "hall boards"),
    ("2026-11-10T19:30", 1, "right", 92, True, 31, 32, "tap shoes", "hall boards"),
    ("2026-11-14T10:20", 0, "left", 108, True, 24, 24, "tap shoes", "practice board"),
    ("2026-11-17T19:20", 0, "right", 120, True, 24, 24, "tap shoes", "hall boards"),
    ("2026-11-17T19:45", 1, "left", 88, True, 32, 32, "tap shoes", "hall boards"),
    ("2026-11-21T10:10", 0, "left", 116, False, 22, 24, "tap shoes", "practice board"),
    ("2026-11-24T19:20", 0, "right", 126, True, 23, 24, "tap shoes", "hall boards"),
    ("2026-11-24T19:35", 0, "left", 118, True, 24, 24, "tap shoes", "hall boards"),
)


def demo_log(piece: BookPiece) -> list[LogEntry]:
    """The demo's log, made up."""
    entries = []
    for number, (when, index, side, tempo, clean, on, of, shoes, floor) in enumerate(_PRACTICE):
        part = piece.parts[index]
        step = step_name(piece, part.name)
        entries.append(
            LogEntry(f"demo{number}", when, step, part.id, side, tempo, clean, on, of, shoes, floor, source="take")
        )
    return entries


def make_demo(path: Path) -> Session:
    """A new demo workbook at `path`; raises StoreError if it cannot be made."""
    piece = demo_piece()
    book = AddPiece(demo_piece("lantern_round")).apply(AddPiece(piece).apply(Book()))
    session = Session.new(path, GoTo(piece.id, piece.parts[0].id).apply(book))
    read = piece_from(piece.script)
    plans = (
        ("Wren Tolliver, second week", 116.0, Faults(late_ms={4: 34.0}, missing=frozenset({3}), jitter_ms=6)),
        ("Ivo Marsh, before class", 126.0, Faults(late_ms={8: -42.0}, jitter_ms=7, tempo=121.0)),
    )
    rng = np.random.default_rng(20)
    part_id = piece.parts[0].id
    for name, tempo, faults in plans:
        danced = dance(read.parts[0], tempo, faults, rng, passes=2)
        take = kept_take(
            session.store,
            danced.audio,
            RATE,
            piece=piece.id,
            part=part_id,
            name=name,
            tempo=tempo,
            source="simulated",
        )
        session.do(AddTake(take))
    for entry in demo_log(piece):
        session.do(AddLog(entry))
    session.history = type(session.history)()
    return session
