"""Pictures of every main view from the demo workbook, for docs/screenshots."""

import os
import shutil
import subprocess
import sys
import tempfile
import time
from datetime import date
from fractions import Fraction
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

from PySide6.QtCore import Qt, QTimer
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from firn.core.book.edits import DeletePart, SetHead
from firn.core.book.practice_edits import AddClass
from firn.core.piece.build import piece_from
from firn.devices.outputs import ClockOutput
from firn.session.classes import class_of
from firn.session.cue_sheet import cue_paper
from firn.session.demo import make_demo
from firn.session.desk import head_with
from firn.session.giving import Order, wanted_of
from firn.session.outgoing import KINDS
from firn.session.pack.page import make_pack
from firn.session.paper import Paper
from firn.ui.dialogs.give_out import GiveOutDialog
from firn.ui.pages.entries import DRILL, LISTEN, LOG, READ, STEPS, WRITE
from firn.ui.printed import picture_of
from firn.ui.start import Running, build
from tools.demo_film import film

OUT = Path(__file__).parents[1] / "docs/screenshots"


def wait(ms: int) -> None:
    """Let events and jobs go on; QTest.qWait would keep Python's other threads waiting."""
    until = time.monotonic() + ms / 1000
    while time.monotonic() < until:
        QApplication.processEvents()
        time.sleep(0.002)


def settle(running: Running) -> None:
    wait(50)
    while running.window.jobs.working:
        wait(20)
    wait(30)


def tapped(running: Running) -> None:
    """Something that is tapped in, neither even nor swung."""
    window = running.window
    QTest.keyClick(window, Qt.Key.Key_J, Qt.KeyboardModifier.ControlModifier)
    view = window.write_page.tapping
    counts = [4 * n + p for n in range(2) for p in (0.0, 1.0, 1.6, 2.0, 2.6, 3.0)]
    off = [0.008, -0.006, 0.004, -0.009, 0.007, 0.002]
    times = iter([count * 60 / 112 + off[n % len(off)] for n, count in enumerate(counts)])
    view.clock = lambda _: next(times)
    for n, _ in enumerate(counts):
        QTest.keyClick(view, Qt.Key.Key_J if n % 2 == 0 else Qt.Key.Key_F)
    QTest.keyClick(view, Qt.Key.Key_Return)
    settle(running)


def filmed(running: Running, folder: Path) -> None:
    """A film above the part that was tapped along to it, at a sound of it."""
    window = running.window
    window.pieces.new_part()
    settle(running)
    times = (2.0, 2.5, 2.75, 3.0, 3.5, 4.0, 4.5, 4.75, 5.0, 5.5)
    steps = [(time, "right" if k % 2 == 0 else "left") for k, time in enumerate(times)]
    film(folder / "open evening.mp4", steps, 8.0)
    window.clips.open(folder / "open evening.mp4")
    view, taps = window.write_page.clip, window.write_page.tapping
    QTest.keyClick(view, Qt.Key.Key_Minus)
    QTest.keyClick(view, Qt.Key.Key_Minus)
    QTest.keyClick(view, Qt.Key.Key_T)
    at = iter([time for time, _ in steps])
    taps.clock = lambda _: next(at)
    for _, foot in steps:
        QTest.keyClick(taps, Qt.Key.Key_J if foot == "right" else Qt.Key.Key_F)
    QTest.keyClick(taps, Qt.Key.Key_Return)
    settle(running)
    QTest.keyClick(taps, Qt.Key.Key_Return)
    settle(running)
    strip = window.write_page.strip
    strip.setFocus()
    strip.stand_on(4)
    strip.walked.emit(4)
    wait(200)


def drafted(running: Running, folder: Path) -> None:
    """Another film, whose sounds are read as steps, of which some are said and the next one is in doubt."""
    window = running.window
    window.pieces.new_part()
    settle(running)
    counts = {-0.5: "b", -0.25: "b", 0: "", 0.5: "b", 0.75: "b", 1: "", 1.5: "b", 2: "", 2.5: "b", 3: "", 3.5: "b",
              3.75: "b", 4.5: "", 5: "", 6: ""}  # fmt: skip
    times = [2 + count * 60 / 112 for count in counts]
    brushed = {time for time, how in zip(times, counts.values(), strict=True) if how}
    feet = "rrrlllrrllrrrlr"
    steps = [(time, "right" if foot == "r" else "left") for time, foot in zip(times, feet, strict=True)]
    film(folder / "after class.mp4", steps, 7.0, brushed)
    window.clips.open(folder / "after class.mp4")
    settle(running)
    view, taps = window.write_page.clip, window.write_page.tapping
    for key in (Qt.Key.Key_K, Qt.Key.Key_D):
        QTest.keyClick(view, key)
        settle(running)
    for key in (Qt.Key.Key_Y, Qt.Key.Key_Down, Qt.Key.Key_W):
        QTest.keyClick(taps, key)
    taps.words.setText("shuffle step, shuffle step, flap")
    QTest.keyClick(taps.words, Qt.Key.Key_Return)
    settle(running)
    for _ in range(3):
        QTest.keyClick(taps, Qt.Key.Key_Down)
        settle(running)


def given_out(running: Running, path: Path) -> None:
    """The dialog that gives out, on the cue sheet."""

    def grab() -> None:
        dialog = QApplication.activeModalWidget()
        assert isinstance(dialog, GiveOutDialog)
        dialog.kinds.setCurrentRow([kind.id for kind in KINDS].index("cue"))
        wait(60)
        dialog.grab().save(str(path))
        dialog.reject()

    QTimer.singleShot(400, grab)
    QTest.keyClick(running.window, Qt.Key.Key_P, Qt.KeyboardModifier.ControlModifier)
    settle(running)


def sheet(made: Paper, path: Path) -> None:
    """A sheet of paper as a picture of its first page."""
    picture_of(made, "A4", 0, 900)[0].save(str(path))


def phone(html: str, folder: Path, path: Path) -> None:
    """A pack as a phone shows it, where there is a browser; else the picture stays as it was."""
    browser = shutil.which("chromium")
    if browser is None:
        print("No Chromium: the picture of a pack is left as it was.")
        return
    page = folder / "pack.html"
    page.write_text(html, "utf-8")
    options = ["headless", "no-sandbox", "disable-gpu", "hide-scrollbars", "window-size=500,1000",
               f"user-data-dir={folder / 'browser'}", f"screenshot={path}"]  # fmt: skip
    subprocess.run([browser, *(f"--{o}" for o in options), page.as_uri()], capture_output=True, check=False)


def main() -> None:
    out = Path(sys.argv[1]) if len(sys.argv) > 1 else OUT
    out.mkdir(parents=True, exist_ok=True)
    app = QApplication(["firn"])
    with tempfile.TemporaryDirectory() as folder:
        session = make_demo(Path(folder) / "evening class.firn")
        running = build(session, output=ClockOutput(), settings_at=Path(folder) / "settings.json")
        window = running.window
        window.show()
        window.show_page(WRITE)
        settle(running)

        def shot(name: str) -> None:
            wait(30)
            window.grab().save(str(out / f"{name}.png"))

        window.write_page.show_played(Fraction(9, 4))
        shot("write")
        window.write_page.show_played(None)
        tapped(running)
        shot("write-tap")
        QTest.keyClick(window.write_page.tapping, Qt.Key.Key_Escape)
        piece = window.desk.piece
        assert piece is not None
        before = window.desk.text
        window.desk.write("1 dig  & spank heel toe heel\n5 step  & ball change  6 stamp  7 step  8 hold")
        settle(running)
        notes = window.write_page.notes
        notes.setFocus()
        notes.setCurrentRow([n.code for n in notes.notes].index("doubt"))
        QTest.keyClick(notes, Qt.Key.Key_Right)
        settle(running)
        shot("write-doubt")
        # It may have been kept by now, where this machine is slow.
        window.desk.write(before)
        window.desk.commit()
        filmed(running, Path(folder))
        shot("write-clip")
        window.clips.leave()
        session.do(DeletePart(piece.id, window.desk.part_id))
        window.desk.go_to(piece.id, piece.parts[0].id)
        drafted(running, Path(folder))
        shot("write-draft")
        QTest.keyClick(window.write_page.tapping, Qt.Key.Key_Escape)
        window.clips.leave()
        session.do(DeletePart(piece.id, window.desk.part_id))
        window.desk.go_to(piece.id, piece.parts[0].id)
        under = head_with(piece.head, tune_said="Mill Race: intro 4 bars, AABB 8, at 126")
        session.do(SetHead(piece.id, under))
        window.desk.go_to(piece.id, "combo")
        passes = window.write_page.build.passes
        passes.setFocus()
        for _ in range(4):
            QTest.keyClick(passes, Qt.Key.Key_Right)
        settle(running)
        shot("write-combo")
        session.do(SetHead(piece.id, piece.head))
        window.desk.go_to(piece.id, piece.parts[0].id)
        other = session.book.pieces[1]
        window.desk.go_to(other.id, other.parts[0].id)
        shot("write-layers")
        window.desk.go_to(piece.id, piece.parts[0].id)
        window.show_page(READ)
        reading = window.rooms.read
        window.desk.go_to(piece.id, piece.parts[2].id)
        reading.strip.setFocus()
        reading.strip.stand_on(3)
        reading.strip.walked.emit(3)
        shot("read")
        window.desk.go_to(piece.id, piece.parts[1].id)
        reading.show_face(1)
        settle(running)
        shot("read-rhythm")
        reading.show_face(0)
        window.desk.go_to(piece.id, piece.parts[0].id)
        window.show_page(DRILL)
        settle(running)
        drill = window.rooms.drill
        drill.stages.setFocus()
        QTest.keyClick(drill.stages, Qt.Key.Key_Right)
        settle(running)
        shot("drill")
        run = window.rooms.drills.run
        window.rooms.drills.dance(1)
        while run.at is None or run.moved_to is None or run.moved_to < Fraction(3, 2):
            wait(5)
        QTest.keyClick(window.stand_back, Qt.Key.Key_1)
        shot("drill-run")
        QTest.keyClick(window.stand_back, Qt.Key.Key_Escape)
        settle(running)
        # What was answered now would make another picture of the log each day.
        session.undo()
        plan = class_of(session.book, piece, window.desk.shelf, 60, "Thursday evening")
        session.do(AddClass(plan))
        drill.pick(plan.id)
        drill.class_view.items.setFocus()
        QTest.keyClick(drill.class_view.items, Qt.Key.Key_Right)
        settle(running)
        shot("class")
        window.show_page(LISTEN)
        window.listen_page.takes.setCurrentRow(1)
        settle(running)
        shot("listen-question")
        window.listen_page.question.answer(0)
        window.listen_page.question.answer(0)
        window.listen_page.question.leave()
        shot("listen")
        window.show_page(LOG)
        shot("log")
        window.show_page(STEPS)
        library = window.rooms.steps
        library.rhythm.setText("& a 1")
        library.list.setCurrentRow(2)
        shot("steps")
        window.show_page(WRITE)
        window.desk.go_to(piece.id, "combo")
        settle(running)
        given_out(running, out / "give-out.png")
        core = piece_from(piece.script, window.desk.shelf)
        sheet(cue_paper(core, languages=("es",)), out / "cue-sheet.png")
        order = Order(by="Marl, Lower Hall", note="Ears first, then feet.", days=3)
        pack = make_pack(wanted_of(piece, (), window.desk.shelf, order, None, date(2026, 11, 27)))
        phone(pack.html, Path(folder), out / "pack.png")
        window.close()
    app.quit()


if __name__ == "__main__":
    main()
