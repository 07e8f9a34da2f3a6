"""./run kill N [SEED]: kills Firn N times in mid-work, through its window, and looks at every file that is left.

Edits, takes, new workbooks, copies, older workbooks opened, PDFs: what is finished must be there, what is not
whole or not at all, and nothing else may have changed.
"""

import json
import os
import random
import shutil
import signal
import sys
import tempfile
import time
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

import PySide6.QtSvg
import PySide6.QtWidgets

import firn.ui.start
import firn.ui.work.printing
from firn.core.book.edits import AddTake
from firn.errors import FirnError
from firn.session.demo import TAKES, make_demo
from firn.session.fresh import new_id, now
from firn.session.session import Session
from firn.ui.dialogs.prompts import Prompts

DATA = Path(__file__).parents[1] / "tests/data"
LONGEST_S = 0.35
"""A child is killed so long, at most, after its window is there."""

LONG = (0, 10, 3_000)
"""So many more words stand in an edit."""


class Places(Prompts):
    """Says where files go, without asking."""

    path = Path()

    def save_file(self, parent: object, title: str, kinds: str, name: str) -> Path:
        return self.path

    new_file = save_file


class Child:
    """Works in a window, and tells what it begins and what it has finished."""

    def __init__(self, folder: Path, seed: int, number: int, tells: int) -> None:
        self._folder, self._rng, self._number, self._tells = folder, random.Random(seed), number, tells
        app = PySide6.QtWidgets.QApplication(["firn"])
        app.setProperty("kept", True)
        self._main = folder / "main.firn"
        from firn.devices.outputs import ClockOutput

        self._running = firn.ui.start.build(
            Session.open(self._main), output=ClockOutput(), settings_at=folder / "settings.json"
        )
        self._window = self._running.window
        self._prompts = Places()
        self._window._context.prompts = self._window.prompts = self._prompts
        self._window.show()

    def tell(self, said: str) -> None:
        os.write(self._tells, f"{said}\n".encode())

    def work(self) -> None:
        """Work until killed."""
        self.tell("ready 0")
        works = {"edit": 6, "take": 2, "new": 2, "copy": 2, "upgrade": 1, "pdf": 1}
        while True:
            self._number += 1
            what = self._rng.choices(list(works), list(works.values()))[0]
            ready = getattr(self, f"_{what}")()
            self.tell(f"begin-{what} {self._number}")
            ready()
            self.tell(f"done-{what} {self._number}")
            PySide6.QtWidgets.QApplication.processEvents()

    def _edit(self):
        text = f"1 step  # {self._number} " + "long " * self._rng.choice(LONG)

        def run() -> None:
            self._window.write_page.editor.setPlainText(text)
            self._window.desk.commit()

        return run

    def _take(self):
        session, demo = self._running.bridge.session, self._rng.choice(TAKES)
        data = Path(firn.session.demo.__file__).with_name("demo_takes").joinpath(demo.file).read_bytes()
        data = data[: self._rng.choice((1_000, 200_000, len(data)))] + os.urandom(8)

        def run() -> None:
            import hashlib

            from firn.core.book.book import Take

            name = hashlib.sha256(data).hexdigest()
            session.store.add_samples(name, data)
            desk = self._window.desk
            self._window._context.do(
                AddTake(Take(new_id(), desk.piece.id, desk.part_id, "take", now(), name, 48_000, 1_000, 120.0))
            )

        return run

    def _back(self) -> None:
        self._window.workbooks.open_path(self._main)

    def _new(self):
        def run() -> None:
            self._prompts.path = self._folder / f"new-{self._number}.firn"
            self._window.workbooks.new()
            self._back()

        return run

    def _copy(self):
        def run() -> None:
            self._prompts.path = self._folder / f"copy-{self._number % 3}.firn"
            self._window.workbooks.save_copy()

        return run

    def _upgrade(self):
        path = self._folder / f"old-{self._number}.firn"
        aside = path.with_suffix(".aside")
        shutil.copy(DATA / f"workbook-v{self._rng.choice((1, 2))}.sqlite", aside)
        aside.rename(path)

        def run() -> None:
            self._window.workbooks.open_path(path)
            self._back()

        return run

    def _pdf(self):
        def run() -> None:
            self._prompts.path = self._folder / f"{self._number % 2}.pdf"
            self._window.actions_by_id["pdf"].trigger()

        return run


def look(folder: Path, begun: int, edited: int) -> list[str]:
    """What is wrong in a folder after a kill: `edited` was finished last, `begun` begun."""
    wrong = []
    for path in sorted(folder.glob("*.firn")):
        try:
            session = Session.open(path)
        except FirnError as fault:
            wrong.append(f"{path.name}: {fault}")
            continue
        book = session.book
        if session.told or session.unsaved or not book.pieces:
            wrong.append(f"{path.name}: {session.told} {session.unsaved} {len(book.pieces)} pieces")
        for take in book.takes:
            if path.name.startswith(("main", "copy")) and take.name == "take":
                session.store.samples(take.audio)
        if path.name == "main.firn":
            text = book.pieces[0].parts[0].text
            kept = int(text.split("#")[1].split()[0]) if "#" in text else 0
            if not edited <= kept <= begun:
                wrong.append(f"main.firn holds edit {kept}, {edited} was finished and {begun} begun")
            words = text.split("#")[1].split()[1:] if "#" in text else []
            if "#" in text and (set(words) - {"long"} or len(words) not in LONG):
                wrong.append("main.firn holds half an edit")
        session.close()
    for path in folder.glob("*.pdf"):
        if not path.read_bytes().rstrip().endswith(b"%%EOF"):
            wrong.append(f"{path.name} is cut off")
    settings = folder / "settings.json"
    if settings.exists():
        json.loads(settings.read_text("utf-8"))
    odd = [p.name for p in folder.iterdir() if p.suffix not in (".firn", ".pdf", ".json", ".ini", ".aside", ".lock")]
    wrong += [f"{name} is left" for name in odd if not (name.startswith(".firn-") or name.endswith("-journal"))]
    return wrong


def main(words: list[str]) -> int:
    """Kill so often; gives 1 where something was wrong."""
    kills = int(words[0]) if words else 100
    seed = int(words[1]) if len(words) > 1 else 1
    rng = random.Random(seed)
    told: dict[str, int] = {}
    faults, number, edited = 0, 0, 0
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        os.environ["FIRN_SETTINGS"] = str(folder / "settings.json")
        make_demo(folder / "main.firn").close()
        for kill in range(kills):
            reader, writer = os.pipe()
            child = os.fork()
            if not child:
                os.close(reader)
                os.dup2(os.open(os.devnull, os.O_WRONLY), 2)
                try:
                    Child(folder, seed * 100_000 + kill, number, writer).work()
                finally:
                    os._exit(1)
            os.close(writer)
            with os.fdopen(reader) as lines:
                first = lines.readline()
                time.sleep(rng.uniform(0, LONGEST_S))
                os.kill(child, signal.SIGKILL)
                os.waitpid(child, 0)
                said = [line.split() for line in [first, *lines] if line.endswith("\n")]
            for what, which in said:
                told[what] = told.get(what, 0) + 1
                number = max(number, int(which))
                edited = int(which) if what == "done-edit" else edited
            unfinished = said[-1][0] if said else "start"
            for wrong in look(folder, number, edited):
                faults += 1
                print(f"kill {kill} of seed {seed}, in {unfinished}: {wrong}", flush=True)
            for left in [*folder.glob("new-*"), *folder.glob("old-*")]:
                left.unlink()
    done = ", ".join(f"{told[k]} {k}" for k in sorted(told))
    print(f"{kills} kills, {faults} faults ({done})")
    return 1 if faults else 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
