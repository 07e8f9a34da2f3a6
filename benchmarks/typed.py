"""What a key costs while somebody writes: from when it goes down to its repainted strip."""

import tempfile
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import TYPE_CHECKING, NamedTuple

import numpy as np

from benchmarks import spoken
from benchmarks.report import figure, heading, pace_ms
from firn.core.book.book import Book, BookPart, BookPiece
from firn.core.book.edits import AddPiece

if TYPE_CHECKING:
    from firn.ui.main_window import MainWindow

LONG = "\n".join(["1 paradiddle  2 step  &3 flap  4 step  &5 flap  6 stomp  7 stamp  & step  &a8 shuffle step"] * 8)
"""A part of 64 counts."""

LETTERS = "  1 step  2 stamp  3 stomp  & step  4 flap  5 step  6 stamp  7 stomp  8 step " * 2
"""What is typed into it."""

APART_S = 0.1
"""From key to key of one who types quickly: what is done beside the window is begun between them."""

SOUNDS = 5_000
TRADITIONS = ("tap", "clogging", "folk stamping", "latin")
LATELY = 8
"""So many sets of lines, the latest, give lines that are typed; the others the parts that they are typed in."""
LINES = 8
LEAST, MOST = 18, 70
"""How long, in letters, the lines are that are typed."""


class Keys(NamedTuple):
    """Some keystrokes: ms to the repainted strip, to all painted, and of a fixed loop of Python just after each; how
    many changed nothing that shows; ms from the last to all of the part read."""

    took: list[float]
    fresh: list[float]
    paces: list[float]
    unpainted: int
    rest_ms: float


class Written:
    """A window on Write, with a part that is typed in."""

    def __init__(self, window: "MainWindow", painted: list[float]) -> None:
        self.window, self.editor, self.painted = window, window.write_page.editor, painted

    def put(self, at: int) -> None:
        """Put the caret before a letter, and the row that is typed in in sight, as it is for whoever types."""
        from PySide6.QtWidgets import QApplication

        self.editor.setFocus()
        cursor = self.editor.textCursor()
        cursor.setPosition(at)
        self.editor.setTextCursor(cursor)
        part = self.window.desk.part
        assert part is not None
        line = self.editor.caret[0]
        self.window.write_page.strip.walked.emit(
            next((i for i, s in enumerate(part.sounds) if part.uses[s.use].line >= line), len(part.sounds) - 1)
        )
        QApplication.processEvents()
        if not self.editor.hasFocus():
            raise RuntimeError("the editor has no focus: the strip would not follow it")

    def key(self, letters: str, *, apart_s: float = 0.0) -> Keys:
        """Keystrokes one after another without rest, or so far apart."""
        from PySide6.QtCore import QEventLoop
        from PySide6.QtTest import QTest
        from PySide6.QtWidgets import QApplication

        # As the window's own loop does, which sleeps until something comes, and leaves the jobs their time.
        waiting = QEventLoop.ProcessEventsFlag.WaitForMoreEvents
        keys = Keys([], [], [], 0, 0.0)
        unpainted, began = 0, time.perf_counter()
        for letter in letters:
            self.painted.clear()
            began = time.perf_counter()
            QTest.keyClick(self.editor, letter)
            # Where nothing that shows has changed, nothing is painted: the strip is right once the key is handled.
            handled = time.perf_counter()
            QApplication.processEvents()
            keys.took.append(((self.painted or [handled])[0] - began) * 1000)
            unpainted += not self.painted
            QApplication.processEvents()
            # What is worth a look has been worked out and is shown by now.
            keys.fresh.append((time.perf_counter() - began) * 1000)
            keys.paces.append(pace_ms())
            until = began + apart_s
            while (left_ms := int((until - time.perf_counter()) * 1000)) > 0:
                QApplication.processEvents(waiting, left_ms)
        while not self.window.desk.whole:
            QApplication.processEvents(waiting)
        return keys._replace(unpainted=unpainted, rest_ms=(time.perf_counter() - began) * 1000)


@contextmanager
def written(texts: list[str], head: str) -> Iterator[Written]:
    """A window on Write with a piece of such parts."""
    from PySide6.QtGui import QPaintEvent
    from PySide6.QtWidgets import QApplication

    from firn.devices.outputs import ClockOutput
    from firn.session.session import Session
    from firn.ui.pages.entries import WRITE
    from firn.ui.start import build
    from firn.ui.widgets.strip.strip import Strip

    painted: list[float] = []
    paint = Strip.paintEvent

    def timed(strip: Strip, event: QPaintEvent) -> None:
        paint(strip, event)
        painted.append(time.perf_counter())

    # Before the first window: what is called back is looked up once.
    Strip.paintEvent = timed  # type: ignore[method-assign]
    app = QApplication.instance() or QApplication(["firn"])
    with tempfile.TemporaryDirectory() as folder:
        own = tuple(BookPart(f"p{n}", f"Part {n}", text) for n, text in enumerate(texts))
        piece = BookPiece("p", head, own, ", ".join(p.name for p in own))
        session = Session.new(Path(folder) / "a.firn", AddPiece(piece).apply(Book()))
        running = build(session, output=ClockOutput(), settings_at=Path(folder) / "s.json")
        window = running.window
        window.show()
        window.show_page(WRITE)
        window.activateWindow()
        app.processEvents()
        yield Written(window, painted)
        window.close()


def typing() -> None:
    """A keystroke at the end of a part of 64 counts to its repainted strip, also in a piece of 5,000 sounds."""
    heading("Typing, 64 counts, 116 sounds")
    _typing(1, LONG, "16.7 ms", "50 ms")
    heading("Typing, the same in a piece of 43 parts, 5,000 sounds")
    _typing(43, LONG, "33 ms", "")
    whole = "\n".join([LONG] * 43)
    heading("Typing, 5,000 sounds in one part, at its end")
    _typing(1, whole, "33 ms", "")
    heading("Typing, 5,000 sounds in one part, at its start: all that follows moves on")
    _typing(1, whole, "33 ms", "", at=0)
    heading("Typing, 5,000 sounds in one part, in its midst")
    midst = whole.index("\n", len(whole) // 2) + 1
    _typing(1, whole, "33 ms", "", at=midst)
    heading("Typing, 5,000 sounds in one part, at its start, the keys a tenth of a second apart")
    _typing(1, whole, "33 ms", "", at=0, apart_s=APART_S)
    heading("Typing, 5,000 sounds in one part, in its midst, the keys a tenth of a second apart")
    _typing(1, whole, "33 ms", "", at=midst, apart_s=APART_S)


def _typing(parts: int, text: str, most: str, worst: str, *, at: int | None = None, apart_s: float = 0.0) -> None:
    """Keystrokes at a letter of a part's text; at its end, where what is typed makes sense and shows, where none is
    given."""
    with written([text] * parts, "piece: Bench\nphrase: 8 counts\n") as page:
        page.put(len(text) if at is None else at)
        keys = page.key(LETTERS, apart_s=apart_s)
        # Of a long part what is worth a look follows once the typing rests.
        _say(keys, most, worst, "fresh findings and " if text == LONG else "")
        if text != LONG:
            figure("the last keystroke to all of the part read", f"{keys.rest_ms:.0f} ms", "250 ms")
        if text != LONG and at is None:
            _scrolling(page)


def _say(keys: Keys, most: str, worst: str, also: str = "") -> None:
    took = keys.took
    figure("keystrokes, and after how many nothing changed", f"{len(took)}, {keys.unpainted}")
    figure("keystroke to repainted strip, median", f"{np.median(took):.1f} ms")
    figure("95 of 100 under", f"{np.percentile(took, 95):.1f} ms", most)
    figure("worst", f"{max(took):.1f} ms", worst)
    by_pace = np.array(took) / np.array(keys.paces)
    figure("  times a fixed loop of Python after it, median", f"{np.median(by_pace):.1f}")
    figure(
        "  that loop, median, 95 of 100 under",
        f"{np.median(keys.paces):.2f}, {np.percentile(keys.paces, 95):.2f} ms",
    )
    figure(f"keystroke to {also}all painted, nine of ten under", f"{np.percentile(keys.fresh, 90):.1f} ms", "60 ms")


def typing_said() -> None:
    """The same with lines as teachers say them: parts of lines of one tradition that read without a complaint, and
    typed into them lines of sets that were written later, each on a line of its own."""
    sets = list(spoken.SETS)
    for tradition in TRADITIONS:
        there = [line for name in sets[:-LATELY] for line in _said(name, tradition)]
        typed = [one for name in sets[-LATELY:] for one in _said(name, tradition) if LEAST <= len(one) <= MOST]
        text = _part(tradition, there)
        for where in ("start", "midst", "end"):
            heading(
                f"Typing, {SOUNDS:,} sounds of {tradition} as it is said, in one part, {LINES} lines at its {where}"
            )
            with written([text], f"piece: Bench\ntradition: {tradition}\n") as page:
                rows = [_line(page, where, line) for line in typed[:LINES]]
            joined = Keys(*([x for row in rows for x in row[n]] for n in range(3)), sum(r.unpainted for r in rows), 0)
            _say(joined, "33 ms", "")
            figure("the last keystroke to all read, worst", f"{max(r.rest_ms for r in rows):.0f} ms", "250 ms")


def _line(page: Written, where: str, line: str) -> Keys:
    """Type a line on a row of its own at the start, in the midst or at the end."""
    text = page.editor.toPlainText()
    at = {"start": 0, "midst": text.index("\n", len(text) // 2) + 1, "end": len(text)}[where]
    page.put(at)
    page.editor.textCursor().insertText("\n")
    page.put(at + (where == "end"))
    return page.key(line)


def _said(name: str, tradition: str) -> list[str]:
    """The lines of a set in a tradition."""
    return [line.said for line in spoken.lines(name) if line.tradition == tradition and "\n" not in line.said]


def _part(tradition: str, said: list[str]) -> str:
    """A part of so many sounds, of those lines that by themselves read without a complaint, over and over."""
    pieces = ((line, spoken.piece_of(tradition, line)) for line in said)
    lengths = {line: len(p.parts[0].sounds) for line, p in pieces if p.parts and not p.problems and p.parts[0].sounds}
    rows: list[str] = []
    many = 0
    while many < SOUNDS:
        for line, sounds in lengths.items():
            rows.append(line)
            many += sounds
    return "\n".join(rows)


def _scrolling(page: Written) -> None:
    """The strip of the part scrolled from its top to its foot and back, a third of a row at a time, once all that is
    worked out beside is there."""
    from PySide6.QtCore import QEventLoop
    from PySide6.QtWidgets import QApplication, QScrollArea

    window, painted = page.window, page.painted
    strip = window.write_page.strip
    view = strip.parent().parent()  # type: ignore[union-attr]
    assert isinstance(view, QScrollArea) and strip.strip_layout is not None and window.desk.stretch is not None
    while window.jobs.working:
        QApplication.processEvents(QEventLoop.ProcessEventsFlag.WaitForMoreEvents)
    bar = view.verticalScrollBar()
    step = int(strip.strip_layout.row_height / 3)
    frames = []
    for place in [*range(0, bar.maximum(), step), *range(bar.maximum(), 0, -step)][:400]:
        painted.clear()
        began = time.perf_counter()
        bar.setValue(place)
        QApplication.processEvents()
        if painted:
            frames.append((painted[-1] - began) * 1000)
    if len(frames) < 200:
        raise RuntimeError("the strip is not in sight: nothing is painted where it is scrolled")
    figure(
        f"scrolling {len(window.desk.stretch.sounds)} sounds, 95th percentile of {len(frames)}",
        f"{np.percentile(frames, 95):.1f} ms",
        "16.7 ms",
    )
