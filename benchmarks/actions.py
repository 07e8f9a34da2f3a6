"""Every action of the menus at 60, 1,000 and 10,000 sounds: how long the window's thread is kept at a time."""

import os
import subprocess
import sys
import tempfile
import time
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

from benchmarks.report import figure, heading
from firn.ui.dialogs.prompts import Prompts

if TYPE_CHECKING:
    from collections.abc import Iterator

    from PySide6.QtPrintSupport import QPrinter
    from PySide6.QtWidgets import QDialog, QMenu, QWidget

    from firn.ui.main_window import MainWindow

LINE = "1 step  2 flap  & step  3 step  4 flap  & step  5 step  6 flap  & step  7 step  8 stamp"
"""Clean: nothing in it is worth a look."""
SIZES = ((60, ""), (1_000, "100 ms"), (10_000, "250 ms"))
LEFT = (
    "quit",
    "new",
    "open",
    "keep_demo",
    "record",
    "clap_along",
    "bring_in",
    "simulate",
    "delete_piece",
    "dance",
    "dance_bare",
)
"""What waits for a sound device, or takes away what is measured."""
SLOWEST = 8


class Accepting(Prompts):
    """Says yes to everything."""

    def __init__(self, folder: Path) -> None:
        super().__init__()
        self._place = folder
        self._number = 0

    def name(self, parent: "QWidget", title: str, label: str, now: str) -> str | None:
        self._number += 1
        return f"name {self._number}"

    def tempo(self, parent: "QWidget", now: float) -> float | None:
        return now

    def open_file(self, parent: "QWidget | None", title: str, kinds: str) -> Path | None:
        return None

    def save_file(self, parent: "QWidget | None", title: str, kinds: str, name: str) -> Path | None:
        return self._place / Path(name).name

    def folder(self, parent: "QWidget", title: str) -> Path | None:
        return None

    def printer(self, parent: "QWidget", printer: "QPrinter") -> bool:
        printer.setOutputFileName(str(self._place / "printed.pdf"))
        return True

    def answered(self, dialog: "QDialog") -> bool:
        from PySide6.QtWidgets import QApplication, QDialog

        dialog.show()
        QApplication.processEvents()
        dialog.accept()
        return dialog.result() == QDialog.DialogCode.Accepted

    def menu(self, menu: "QMenu", under: "QWidget") -> None:
        return


def longest_ms(window: "MainWindow", run: object) -> float:
    """The longest that the window's thread is kept at a time by something that is done, in ms of its processor."""
    from PySide6.QtWidgets import QApplication

    longest = 0.0

    def step(do: object) -> None:
        nonlocal longest
        began = time.thread_time()
        do()  # type: ignore[operator]
        longest = max(longest, (time.thread_time() - began) * 1000)

    step(run)
    quiet = 0
    until = time.monotonic() + 60
    while quiet < 3 and time.monotonic() < until:
        step(QApplication.processEvents)
        quiet = 0 if window.jobs.working else quiet + 1
        time.sleep(0.002)
    return longest


def longest_step_ms(steps: "Iterator[None]") -> float:
    """The longest of some steps, in ms of the processor."""
    longest, done = 0.0, object()
    at = time.thread_time()
    while next(steps, done) is not done:
        longest, at = max(longest, (time.thread_time() - at) * 1000), time.thread_time()
    return longest


def opened(folder: Path, sounds: int) -> "MainWindow":
    """A window on a part of so many sounds."""
    from firn.core.book.book import Book, BookPart, BookPiece
    from firn.core.book.edits import AddPiece
    from firn.devices.outputs import ClockOutput
    from firn.session.session import Session
    from firn.ui.pages.entries import WRITE
    from firn.ui.start import build

    text = "\n".join([LINE] * round(sounds / 15))
    piece = BookPiece(
        "p", "piece: Bench\nphrase: 8 counts\n", (BookPart("a", "A", text), BookPart("b", "B", LINE)), "A, B x2"
    )
    session = Session.new(folder / f"{sounds}.firn", AddPiece(piece).apply(Book()))
    window = build(session, output=ClockOutput(), settings_at=folder / "s.json").window
    window.prompts = window._context.prompts = Accepting(folder)
    window.show()
    window.show_page(WRITE)
    return window


def actions() -> None:
    """Each size in a process of its own: nobody has a window that has had two others."""
    for sounds, most in SIZES:
        child = [sys.executable, "-m", "benchmarks.actions", str(sounds), most]
        subprocess.run(child, check=True, env={**os.environ})


def actions_at(sounds: int, most: str) -> None:
    """Each action in turn, on Write with the strip in the keyboard; the slowest are named."""
    from PySide6.QtWidgets import QApplication

    from firn.ui.actions import ACTIONS
    from firn.ui.pages.entries import LISTEN, LOG, READ, STEPS, WRITE

    app = QApplication.instance() or QApplication(["firn"])
    took: dict[str, float] = {}
    with tempfile.TemporaryDirectory() as name:
        window = opened(Path(name), sounds)
        app.processEvents()
        strip = window.write_page.strip
        real = len(window.desk.stretch.sounds) if window.desk.stretch else 0
        heading(f"Actions, {real} sounds in a part, longest time at a stretch in the window's thread")
        took["made ahead, the longest step"] = longest_step_ms(window.rooms.ahead())
        for page, called in (
            (READ, "Read"),
            (LISTEN, "Listen"),
            (LOG, "Log"),
            (STEPS, "Steps"),
            (WRITE, "Write"),
        ):
            took[f"first turn to {called}"] = longest_ms(window, partial(window.show_page, page))
        for page, called in ((READ, "Read"), (LISTEN, "Listen"), (WRITE, "Write")):
            took[f"turn to {called} again"] = longest_ms(window, partial(window.show_page, page))
        for wish, value in (("foot", None), ("lean", 1), ("leave_out", None), ("put_in", None)):
            strip.stand_on(5)
            took[f"on the strip: {wish}"] = longest_ms(window, partial(strip.drawn.emit, wish, value))
        for spec in ACTIONS:
            if spec.id in LEFT:
                continue
            window.show_page(READ if spec.menu == "Read" else STEPS if spec.menu == "Step" else WRITE)
            strip.setFocus()
            app.processEvents()
            action = window.actions_by_id[spec.id]
            action.setEnabled(True)
            took[spec.text or spec.id] = longest_ms(window, action.trigger)
            window.actions_by_id["undo"].trigger() if spec.menu in ("Part", "Read") else None
            if window.desk.part_id != "a":
                window.desk.go_to("p", "a")
            app.processEvents()
        window.close()
    slow = sorted(took.items(), key=lambda row: -row[1])
    figure(f"the slowest of {len(took)}", f"{slow[0][1]:.0f} ms", most)
    if most:
        limit = float(most.split()[0])
        figure("over that", str(sum(ms > limit for _, ms in slow)), "none")
    for what, ms in slow[:SLOWEST]:
        figure(f"  {what}", f"{ms:.0f} ms")


if __name__ == "__main__":
    actions_at(int(sys.argv[1]), sys.argv[2])
