"""What a user feels: starting, footing, rendering, memory."""

import os
import subprocess
import sys
import tempfile
import time
from pathlib import Path

import numpy as np

from benchmarks.report import figure, heading

LINE = "1 paradiddle  2 step  &3 flap  4 step  &5 flap  6 stomp  7 stamp  & step  8 step"
LIVE = """
import time
from PySide6.QtCore import QTimer
from PySide6.QtWidgets import QApplication, QMainWindow
def live():
    print(time.time(), time.thread_time(), flush=True)
    QApplication.instance().quit()
def soon():
    QTimer.singleShot(0, lambda: QTimer.singleShot(0, live))
"""
"""Says when the window's loop has nothing left to do, and how much of the processor its thread has had by then."""

EMPTY = LIVE + "app = QApplication([]); w = QMainWindow(); w.resize(1280, 800); w.show(); soon(); app.exec()"
FIRN = (
    """
import sys
import firn.cli, firn.ui.start as s
"""
    + LIVE
    + """
made = s.MainWindow.show
def show(window):
    made(window); soon()
s.MainWindow.show = show
sys.exit(firn.cli.main(sys.argv[1:]))
"""
)
MEMORY = FIRN.replace(
    "QApplication.instance().quit()",
    "QTimer.singleShot(3_000, lambda: (print(next(l for l in open('/proc/self/status') "
    "if l.startswith('VmRSS')).split()[1], flush=True), QApplication.instance().quit()))",
)


def _started(code: str, folder: str, *words: str) -> list[float]:
    """Seconds from nothing to a live key, the processor's seconds of the window's thread, and what else is said."""
    # As on a user's machine: modules are compiled once and kept.
    env = {k: v for k, v in os.environ.items() if k != "PYTHONDONTWRITEBYTECODE"}
    env |= {"HOME": folder, "TMPDIR": folder, "FIRN_SETTINGS": f"{folder}/settings.json"}
    began = time.time()
    done = subprocess.run([sys.executable, "-c", code, *words], check=True, capture_output=True, env=env)
    wall, thread, *more = (float(word) for word in done.stdout.split())
    return [wall - began, thread, *more]


def _run_alone() -> float:
    """Seconds from `./run demo` until Firn itself begins, once all is there: without a display it ends there."""
    env = {k: v for k, v in os.environ.items() if k not in ("DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM")}
    times = []
    for _ in range(6):
        began = time.perf_counter()
        subprocess.run([Path(__file__).parents[1] / "run", "demo"], capture_output=True, env=env, check=False)
        times.append(time.perf_counter() - began)
    return float(np.median(times[1:]))


def starting() -> None:
    """The real commands, from nothing to a live key, each in turn with an empty window: medians of 15."""
    from firn.session.demo import open_demo
    from firn.session.session import Session

    heading("Start to a live key")
    with tempfile.TemporaryDirectory() as folder:
        own = Path(folder) / "own.firn"
        Session.new(own).close()
        full = Path(folder) / "full.firn"
        demo = open_demo()
        demo.save_copy(full)
        demo.close()
        empty = "an empty PySide6 window"
        kinds = {
            empty: (EMPTY, "", ()),
            "firn --demo": (FIRN, "2.5 at most", ("--demo",)),
            "firn WORKBOOK, a new one": (FIRN, "2.0 at most", (str(own),)),
            "firn WORKBOOK, the demo's content": (FIRN, "2.0 at most", (str(full),)),
        }
        rows = [{name: _started(code, folder, *words) for name, (code, _, words) in kinds.items()} for _ in range(16)]
        del rows[0]
        for name, (_, wanted, _) in kinds.items():
            wall, thread = (float(np.median([row[name][i] for row in rows])) for i in (0, 1))
            ratio = float(np.median([row[name][1] / row[empty][1] for row in rows]))
            figure(name, f"{wall:.2f} s, {thread:.2f} s of its thread")
            if wanted:
                figure("  times an empty one, of its thread", f"{ratio:.2f}", wanted)
        figure("  before it, ./run itself", f"{_run_alone():.2f} s")
        memory = _started(MEMORY, folder, "--demo")[2]
        figure("memory with the demo open", f"{memory / 1024:.0f} MB", "under 250 MB")


def core() -> None:
    """Reading, footing and checking; rendering; committing."""
    from firn.core.book.edits import SetPartText
    from firn.core.piece.build import part_from
    from firn.core.reading.read import check_part
    from firn.core.script.settings import Settings
    from firn.core.sound.model import render
    from firn.core.timeline.mixing import Mixing
    from firn.core.timeline.timeline import Section
    from firn.session.session import Session

    heading("Core")
    text = "\n".join(
        ["1 paradiddle  2 step  &3 flap  4 step  &5 flap  6 stomp  7 stamp  & step  &a8 shuffle step"] * 625
    )
    settings = Settings(phrase=8)
    began = time.perf_counter()
    part = part_from("A", text, settings)
    findings = check_part(part)
    took = time.perf_counter() - began
    figure(
        f"{len(part.sounds)} sounds read, footed and checked",
        f"{took:.2f} s ({len(findings)} findings)",
        "under 1.5 s",
    )
    began = time.perf_counter()
    part_from("A", text + "\n1 step", settings)
    figure("the same with one line more", f"{time.perf_counter() - began:.2f} s")
    began = time.perf_counter()
    made = render(Section(part.sounds, settings.counting, part.first_count, part.last_count + 1, Mixing(tempo=120)))
    took = time.perf_counter() - began
    length = len(made.audio) / 48_000
    figure(f"model audio, {length:.0f} s of it", f"{took:.2f} s, {length / took:.0f} times faster", "100 times")
    with tempfile.TemporaryDirectory() as folder:
        session = Session.new(Path(folder) / "a.firn")
        piece = session.book.pieces[0]
        rows = []
        for number in range(40):
            began = time.perf_counter()
            session.do(SetPartText(piece.id, piece.parts[0].id, f"{number} step"))
            rows.append((time.perf_counter() - began) * 1000)
        figure("an edit committed to disk, median", f"{np.median(rows):.1f} ms")
        session.close()


def checking() -> None:
    """A full check with every measure; what a keystroke costs against the size of the part it is in."""
    from firn.core.piece.build import part_from
    from firn.core.reading.profile import OVERS, profile
    from firn.core.reading.read import check_part
    from firn.core.script.settings import Settings

    heading("Checking")
    settings = Settings(phrase=8)
    line = "1 paradiddle  2 step  &3 flap  4 step  &5 flap  6 stomp  7 stamp  & step  &a8 shuffle step"
    part = part_from("A", "\n".join([line] * 625), settings)
    began = time.perf_counter()
    findings = check_part(part)
    rows = [row for over in OVERS for row in profile(part, over)]
    took = time.perf_counter() - began
    figure(f"{len(part.sounds)} sounds checked, {len(rows)} measures", f"{took:.2f} s", "under 2 s")
    least: float | None = None
    for lines in (5, 10, 20, 40, 80, 160, 320):
        text = "\n".join([line] * lines)
        keys = []
        for number in range(7):
            began = time.perf_counter()
            typed = part_from("A", f"{text}\n{number + 1} step", settings)
            findings = check_part(typed)
            keys.append((time.perf_counter() - began) * 1000)
        median = float(np.median(keys[1:]))
        least = min(least or 1e9, median / len(typed.sounds))
        each = median / len(typed.sounds) * 1000
        figure(f"a keystroke in a part of {len(typed.sounds)} sounds", f"{median:.1f} ms, {each:.0f} µs a sound")
    print(f"  ({len(findings)} findings in the last; the least a sound {least * 1000:.0f} µs)" if least else "")


def searching() -> None:
    """A keystroke in the library's search to its list and strips."""
    from PySide6.QtTest import QTest
    from PySide6.QtWidgets import QApplication

    from firn.core.library.search import Wanted, prepare, search
    from firn.core.steps.shelf import shipped
    from firn.devices.outputs import ClockOutput
    from firn.session.session import Session
    from firn.ui.pages.entries import STEPS
    from firn.ui.start import build

    heading(f"Searching {len(shipped().cards)} steps")
    prepare(shipped())
    alone = []
    for wanted in [Wanted(text="shuffle"[:n]) for n in range(1, 8)] + [
        Wanted(rhythm="& a 1"),
        Wanted(rhythm="1 & 2"),
    ]:
        began = time.perf_counter()
        search(shipped(), wanted)
        alone.append((time.perf_counter() - began) * 1000)
    figure("the search alone, worst", f"{max(alone):.1f} ms", "30 ms")
    app = QApplication.instance() or QApplication(["firn"])
    with tempfile.TemporaryDirectory() as folder:
        session = Session.new(Path(folder) / "a.firn")
        running = build(session, output=ClockOutput(), settings_at=Path(folder) / "s.json")
        window = running.window
        window.show()
        window.show_page(STEPS)
        app.processEvents()
        took = []
        for field, text in ((window.rooms.steps.word, "shuffle ball"), (window.rooms.steps.rhythm, "&1 &2")):
            for letter in text:
                began = time.perf_counter()
                QTest.keyClick(field, letter)
                app.processEvents()
                took.append((time.perf_counter() - began) * 1000)
        figure("keystroke to a painted list and strips, median", f"{np.median(took):.1f} ms", "30 ms")
        figure("worst", f"{max(took):.1f} ms")
        window.close()
