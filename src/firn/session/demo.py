"""The demo workbook: an invented evening class, with two takes whose faults were planted."""

from importlib import resources
from pathlib import Path

import numpy as np

from firn.core.book.book import Book, BookPiece, piece_of_script
from firn.core.book.edits import AddPiece, AddTake
from firn.core.ear.student import Faults, dance
from firn.core.piece.build import piece_from
from firn.core.sound.voices import RATE
from firn.session.session import Session, new_id
from firn.session.takes import kept_take


def demo_script() -> str:
    """The demo piece as text."""
    return resources.files("firn.session").joinpath("gate_latch.steps").read_text("utf-8")


def demo_piece() -> BookPiece:
    text = demo_script()
    return piece_of_script(text, [new_id() for _ in range(12)])


def make_demo(path: Path) -> Session:
    """A new demo workbook at `path`; raises StoreError if it cannot be made."""
    piece = demo_piece()
    session = Session.new(path, AddPiece(piece).apply(Book()))
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
    session.history = type(session.history)()
    return session
