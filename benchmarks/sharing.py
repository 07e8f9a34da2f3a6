"""What leaves: how long each takes for a combo of 64 counts, how large packs are, a class of thirty, a film."""

import tempfile
import time
from collections.abc import Callable
from datetime import date
from pathlib import Path

from benchmarks.report import figure, heading
from firn.core.book.book import Book, piece_of_script
from firn.core.book.students import Student
from firn.core.piece.build import piece_from
from firn.core.steps.shelf import shipped
from firn.session.converting import How, section_of, stretch_of, written
from firn.session.cue_sheet import cue_paper
from firn.session.giving import Order, packs, wanted_of, write_pack
from firn.session.pack.page import make_pack

CLASS = 30
TEXT = """piece: Lamp
tempo: 120

part A
8 stomp  1 hop  2 step  &3 flap  & step
4 stomp  5 hop  6 step  &7 flap  & step

part B
1 shuffle  2 step  3 shuffle  4 step  5 shuffle  6 step  7 stamp  8 stamp

combo
A x3, B, A x3, B
"""


def took(do: Callable[[], object]) -> float:
    """Seconds of the quickest of three."""
    times = []
    for _ in range(3):
        began = time.perf_counter()
        do()
        times.append(time.perf_counter() - began)
    return min(times)


def sharing() -> None:
    """A combo of 64 counts with its two parts."""
    shelf, piece = shipped(), piece_from(TEXT)
    kept = piece_of_script(TEXT, [f"i{n}" for n in range(9)])
    stretch = stretch_of(piece, None)
    heading(f"What leaves: a combo of {stretch.counts} counts")
    from firn.ui.printed import drawn

    figure("cue sheet as PDF", f"{1000 * took(lambda: drawn(cue_paper(piece), '.pdf')):.0f} ms", "under 1 s")
    for ending in (".mid", ".musicxml", ".abc"):
        figure(f"as {ending}", f"{1000 * took(lambda e=ending: written(TEXT, e, shelf)):.0f} ms", "under 300 ms")
    today = date(2026, 11, 27)
    pack = make_pack(wanted_of(kept, (), shelf, Order(days=7), None, today))
    seconds = took(lambda: make_pack(wanted_of(kept, (), shelf, Order(days=7), None, today)))
    figure("a pack with a week of practice", f"{seconds:.2f} s, {len(pack.html) / 1e6:.2f} MB", "under 1.5 s, 6 MB")
    with tempfile.TemporaryDirectory() as folder:
        students = [Student(f"k{n}", f"S{n}", tempo=float(90 + 4 * (n % 5))) for n in range(CLASS)]
        began = time.perf_counter()
        packs(
            Book(), kept, students, shelf, Order(days=7), today,
            lambda student, made: write_pack(Path(folder) / f"{student.id}.html", made),
        )  # fmt: skip
        figure(f"{CLASS} packs, five tempos", f"{time.perf_counter() - began:.1f} s", "under 30 s")
        from firn.ui.film import write_film

        section = section_of(stretch, piece, How())
        began = time.perf_counter()
        write_film(Path(folder) / "a.webm", "Lamp", [(stretch, section)])
        spent = time.perf_counter() - began
        figure("a film", f"{spent:.1f} s, {float(section.length_s) / spent:.1f} times real time", "real time")
