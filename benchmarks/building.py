"""Building and drilling: the ledger of a long combo after an edit, what could come next, counts filled, parts in
parts, a practice planned, and the runner's picture beside its sound."""

import os
import random
import tempfile
import time
from collections.abc import Callable
from datetime import date
from pathlib import Path
from statistics import median

from msgspec.structs import replace

from benchmarks.report import figure, heading
from firn.core.book.book import BookPiece, piece_of_script
from firn.core.combos.fill import FillError, Wish, fill
from firn.core.combos.fitting import could_come
from firn.core.piece.build import piece_from
from firn.core.piece.unfold import unfold
from firn.core.reading.read import check
from firn.core.script.settings import Settings
from firn.core.steps.shelf import TRADITIONS, shipped
from firn.session.building import built
from firn.session.desk import whole_combo
from firn.session.planning import practice

FEET = ("left", "right")

HURRIED = 30
"""So many times as fast goes the clock of the half hour that a drill is danced."""

LINE = "8 stomp  1 hop  2 step  &3 flap  & step  4 stomp  5 hop  6 step  &7 flap  & step"


def building() -> None:
    """The figures."""
    heading("Building and drilling")
    _ledger()
    _comes()
    _filled()
    _in_each_other()
    _planned()
    _runner()


def _piece(many: int) -> BookPiece:
    parts = "".join(f"part P{n}\n{LINE}\n" for n in range(many))
    return piece_of_script(f"tradition: tap\n{parts}", [str(n) for n in range(many + 5)])


def _best(work: Callable[[], object], times: int = 7) -> float:
    """The median of some runs, in milliseconds of the processor."""
    took = []
    for _ in range(times):
        began = time.process_time()
        work()
        took.append((time.process_time() - began) * 1000)
    return sorted(took)[len(took) // 2]


def _ledger() -> None:
    """Each time another combo of 200 parts: read, danced, and its ledger."""
    piece, shelf = _piece(200), shipped()
    names = [f"P{n}" for n in range(200)]
    combos = iter([replace(piece, combo=", ".join([*names[n:], *names[:n]])) for n in range(16)])
    whole_combo(next(combos), shelf)
    danced = []
    read = _best(lambda: danced.append(whole_combo(next(combos), shelf)))
    told = iter(danced)
    made = _best(lambda: built(*next(told)[:2], 120.0))
    figure("a combo of 200 parts changed: read and danced", f"{read:.1f} ms")
    figure("  its ledger", f"{made:.1f} ms", "30 ms")


def _comes() -> None:
    piece, shelf = _piece(300), shipped()
    read, whole, _ = whole_combo(replace(piece, combo=", ".join(f"P{n}" for n in range(20))), shelf)
    figure("what could come next, of 300 parts", f"{_best(lambda: could_come(read, whole, 9)):.1f} ms", "100 ms")


def _filled() -> None:
    """A thousand wishes by chance, and each filling read anew from its text: counts, foot, walls, checks."""
    took, proved, refused = [], 0, 0
    traditions = [t for t in TRADITIONS if t != "marking"]
    for seed in range(1_000):
        chance = random.Random(seed)
        settings = Settings(tradition=chance.choice(traditions), lead=chance.choice(FEET))
        wish = Wish(
            chance.choice((4, 6, 8, 12, 16, 24, 32, 48, 64)),
            ends=chance.choice(("", *FEET)),
            front=chance.random() < 0.3,
            level=chance.choice((0, 0, 1, 2, 3)),
            pace=chance.choice(("", "", "busy", "sparse")),
            against=chance.choice(("", "", "off", "on")),
            seed=seed,
        )
        began = time.perf_counter()
        try:
            made = fill(settings, wish)
        except FillError:
            refused += 1
            continue
        took.append(time.perf_counter() - began)
        proved += _as_wished(made.script, wish)
    figure("wishes of nine traditions filled as they were said", f"{proved} of 1,000, {refused} refused", "1,000")
    figure("4 to 64 counts filled", f"{median(took):.3f} s, worst {max(took):.2f}", "1 s")


def _as_wished(script: str, wish: Wish) -> bool:
    piece = piece_from(script)
    whole = unfold(piece)
    carries = [s.weight for p in whole.passes for s in p.sounds if s.weight][-1]
    return (
        not piece.problems
        and whole.counts == wish.counts
        and (not wish.ends or carries not in FEET or carries != wish.ends)
        and not (wish.front and sum(p.turn for p in whole.passes) % 1)
        and all(p.danceable for p in whole.passes)
        and not any(found.level == "bad" for found in check(piece))
    )


def _in_each_other() -> None:
    """Parts that are words in each other, in a chain."""
    for many in (50, 200):
        names = [f"Bit {_letters(n)}" for n in range(many)]
        texts = [f"part {name}\n1 step  2 {names[n - 1] if n % 20 else 'step'}\n" for n, name in enumerate(names)]
        began = time.process_time()
        piece_from("".join(texts))
        figure(f"{many} parts, twenty deep in each other", f"{(time.process_time() - began) * 1000:.0f} ms")


def _letters(number: int) -> str:
    return "".join(chr(ord("a") + int(digit)) for digit in str(number)) + "x"


def _planned() -> None:
    piece, shelf = _piece(12), shipped()
    piece = replace(piece, combo=", ".join(f"P{n}" for n in range(12)))

    def month() -> None:
        practice(piece, (), shelf, minutes=20, today=date(2026, 11, 27), days=30)

    figure("a month of practice planned, of 12 parts", f"{_best(month, 3):.0f} ms")


def _runner() -> None:
    """How far the picture of a drill is from its sound, over half an hour of a hurried clock.

    The sound's place is what has been read of the reel, less what the output is late; the picture's what the window
    was told last, at most a tick before.
    """
    os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    from PySide6.QtWidgets import QApplication

    from firn.core.drills.stage import Drill, Stage
    from firn.devices import clock
    from firn.devices.outputs import ClockOutput
    from firn.session.demo import make_demo
    from firn.ui.pages.entries import DRILL
    from firn.ui.player import TICK_MS
    from firn.ui.start import build

    app = QApplication.instance() or QApplication(["firn"])
    with tempfile.TemporaryDirectory() as folder:
        output = ClockOutput()
        session = make_demo(Path(folder) / "class.firn")
        running = build(session, output=output, settings_at=Path(folder) / "settings.json")
        window = running.window
        window.show()
        window.show_page(DRILL)
        part = window.desk.part_id
        drills = window.rooms.drills
        drills._add(
            Drill("bench", window.desk.piece.id, "Bench", (Stage("click", (part,), None, 180, 180, times=16),) * 12)
        )
        away: list[tuple[float, float]] = []
        first = time.perf_counter()
        clock.now = lambda: first + (time.perf_counter() - first) * HURRIED
        clock.waited = lambda stop, seconds: stop.wait(seconds / HURRIED)

        def moved(position: object) -> None:
            reel, rendered = running.player._reel, running.player._rendered
            if reel is None or rendered is None:
                return
            number, frame, _ = reel.where(output.latency_s)
            if number == running.player._pass:
                # The time between the two looks is as long as it is, however fast the clock goes.
                ms = float(rendered.position(frame) - position) * 60 / 180 * 1000 / HURRIED
                away.append((clock.now() - first, ms))

        running.player.moved.connect(moved)
        drills.dance(0)
        while clock.now() - first < 30 * 60 and drills.run.on and (running.player.playing or not away):
            app.processEvents()
            time.sleep(0.001)
        window.close()
    wanted = f"one frame ({TICK_MS} ms) and 10 ms"
    if not away or away[-1][0] < 29 * 60:
        figure("a drill's picture beside its sound, half an hour", "it ended before", wanted)
        return
    ordered = sorted(abs(ms) for _, ms in away)
    said = f"95 of 100 within {ordered[int(len(ordered) * 0.95)]:.1f} ms, worst {ordered[-1]:.1f}"
    figure("a drill's picture beside its sound, half an hour", said, wanted)
    begun = median(ms for at, ms in away if at < 120)
    ended = median(ms for at, ms in away if at > 28 * 60)
    figure("  its last two minutes beside its first", f"{ended - begun:+.2f} ms", "no drift")
