"""Keys while something long goes on beside the window, and what a ten-minute take takes: in a process of its own."""

import os
import subprocess
import sys
import tempfile
import time
from pathlib import Path
from typing import TYPE_CHECKING

from benchmarks.actions import LINE, Accepting
from benchmarks.report import figure, heading

if TYPE_CHECKING:
    from firn.ui.main_window import MainWindow

TAKE_S = 600
RATE = 48_000
TYPED = "  1 step  2 stamp  3 stomp  & step  4 flap"


def keys() -> None:
    """The child's figures."""
    subprocess.run([sys.executable, "-m", "benchmarks.beside"], check=True, env={**os.environ})


def _take(path: Path) -> None:
    """Ten minutes of the line danced at its tempo, each sound 12 ms off on average, in some noise."""
    import numpy as np
    import soundfile

    from firn.core.ear.targets import targets_of
    from firn.core.piece.build import part_from
    from firn.core.script.settings import Settings

    part = part_from("A", LINE, Settings(phrase=8))
    one = targets_of(part.sounds, 120, counts=part.counts, passes=round(TAKE_S / (part.counts * 0.5)) - 1)
    rng = np.random.default_rng(7)
    sound = rng.normal(0, 0.001, TAKE_S * RATE).astype(np.float32)
    hit = (rng.normal(0, 1, RATE // 10) * np.exp(-np.arange(RATE // 10) / 600)).astype(np.float32)
    for target in one:
        at = int((target.seconds + 0.8 + rng.normal(0, 0.012)) * RATE)
        if 0 <= at < len(sound) - len(hit):
            sound[at : at + len(hit)] += hit * np.float32(rng.uniform(0.1, 0.3))
    soundfile.write(path, sound, RATE, subtype="PCM_16")


def _typed(window: "MainWindow", *, least: int = 0) -> list[float]:
    """Keys typed one after another as long as a job runs, at `least` so many: each in ms by the clock."""
    from PySide6.QtGui import QTextCursor
    from PySide6.QtTest import QTest
    from PySide6.QtWidgets import QApplication

    editor = window.write_page.editor
    took = []
    typed = 0
    until = time.monotonic() + 120
    while (window.jobs.working or typed < least) and time.monotonic() < until:
        if typed % len(TYPED) == 0:
            # As long a line at each key, however long the job takes.
            editor.setPlainText(LINE)
            editor.moveCursor(QTextCursor.MoveOperation.End)
            QApplication.processEvents()
        began = time.perf_counter()
        QTest.keyClick(editor, TYPED[typed % len(TYPED)])
        QApplication.processEvents()
        took.append((time.perf_counter() - began) * 1000)
        typed += 1
        time.sleep(0.03)
    return took


def _said(what: str, took: list[float]) -> None:
    if took:
        worst, usual = max(took), sorted(took)[int(0.95 * len(took))]
        figure(f"  {what}: {len(took)} keys, 95 of 100 under", f"{usual:.0f} ms, worst {worst:.0f} ms", "50 ms")
    else:
        figure(f"  {what}", "done before a key")


def _memory_mb(what: str) -> float:
    status = Path("/proc/self/status").read_text()
    return int(next(row for row in status.splitlines() if row.startswith(what)).split()[1]) / 1024


def child() -> None:
    """One window, from its first imports on."""
    from PySide6.QtWidgets import QApplication

    from firn.core.book.book import Book, BookPart, BookPiece
    from firn.core.book.edits import AddPiece
    from firn.devices.outputs import ClockOutput
    from firn.session.desk import read_one
    from firn.session.notes import part_notes
    from firn.session.session import Session
    from firn.ui.pages.entries import LISTEN, WRITE
    from firn.ui.start import build, make_ahead

    app = QApplication(["firn"])
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        # Made in another process: what that needs is not the window's.
        made = (
            f"from benchmarks.beside import _take; from pathlib import Path; _take(Path({str(folder)!r}) / 't.wav')"
        )
        subprocess.run([sys.executable, "-c", made], check=True)
        text = "\n".join([LINE] * 667)
        parts = BookPart("a", "A", LINE), BookPart("b", "B", text)
        piece = BookPiece("p", "piece: Bench\nphrase: 8 counts\n", parts, "")
        session = Session.new(folder / "a.firn", AddPiece(piece).apply(Book()))
        window = build(session, output=ClockOutput(), settings_at=folder / "s.json").window
        window.prompts = window._context.prompts = Accepting(folder)
        window.show()
        window.show_page(WRITE)
        window.activateWindow()
        editor = window.write_page.editor
        editor.setFocus()
        app.processEvents()
        heading("Keys beside a job, by the clock; the first imports of each among them")
        window.show_page(LISTEN)
        window.show_page(WRITE)
        editor.setFocus()
        _said("nothing", _typed(window, least=2 * len(TYPED)))
        ahead = make_ahead(window)
        while ahead.isActive() or not window.jobs.working:
            # She looks at what there is, and types as libraries are being made ready.
            app.processEvents()
            time.sleep(0.005)
        _said("what is heard made ready", _typed(window))
        window.dancing.toggle()
        _said("the model rendered", _typed(window))
        window.dancing.stop()
        whole = read_one("B", text, piece.head, window.desk.shelf)
        window.jobs.run("notes", "Looking it over", lambda task: part_notes(whole), lambda made: None)
        _said(f"{len(whole.sounds)} sounds looked over", _typed(window))
        window.rooms.takes.bring_in(folder / "t.wav")
        window.show_page(WRITE)
        editor.setFocus()
        _said("a ten-minute take brought in", _typed(window))
        began = time.monotonic()
        window.show_page(LISTEN)
        window.show_page(WRITE)
        editor.setFocus()
        _said("it is listened to and judged", _typed(window))
        figure("  until it was judged", f"{time.monotonic() - began:.1f} s")
        figure("memory at its most, the take judged", f"{_memory_mb('VmHWM'):.0f} MB", "under 600 MB")
        window.close()


if __name__ == "__main__":
    os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    child()
