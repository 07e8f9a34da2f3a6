"""Starting the application: every object is built here and handed on."""

import gc
import sys
import traceback
from collections.abc import Callable, Sequence
from functools import partial
from pathlib import Path
from types import TracebackType
from typing import TYPE_CHECKING

from msgspec import Struct
from PySide6.QtCore import QObject, QRect, QSize, Qt, QTimer
from PySide6.QtGui import QIcon
from PySide6.QtWidgets import QApplication

from firn.errors import FirnError, StoreError
from firn.files.cards import read_cards
from firn.files.formats import PIECE, WORKBOOK
from firn.files.whole import is_there
from firn.session.session import Session, session_of_steps
from firn.session.settings import documents_folder, load_settings, settings_path
from firn.ui.bridge import SessionBridge
from firn.ui.dialogs.prompts import Prompts
from firn.ui.display import display_fault
from firn.ui.hurry import import_between_keys, quiet_s
from firn.ui.main_window import MainWindow
from firn.ui.pages.entries import WRITE
from firn.ui.player import Player
from firn.ui.signals import close_at_signals
from firn.ui.theme.theme import Theme, load_fonts
from firn.ui.widgets.strip import accessible
from firn.ui.work.program import geometry_settings

if TYPE_CHECKING:
    from firn.devices.duplex import OpenDuplex
    from firn.devices.outputs import Output


ICON = Path(__file__).with_name("resources") / "icon.png"
"""The thread between two soles; tools/draw_icon.py draws it."""


class Running(Struct):
    """What must be kept alive while the application runs."""

    window: MainWindow
    theme: Theme
    bridge: SessionBridge
    player: Player
    signals: QObject | None = None


def build(
    session: Session,
    *,
    output: "Output | None" = None,
    settings_at: Path | None = None,
    open_duplex: "OpenDuplex | None" = None,
) -> Running:
    """The window for a session; `output` and `open_duplex` None take the best sound device, when first needed."""
    where = settings_at or settings_path()
    settings = load_settings(where)
    load_fonts()
    accessible.install()
    theme = Theme(dark=settings.dark, percent=settings.text_percent)
    theme.apply()
    bridge = SessionBridge(session)
    player = Player(output)
    cards = read_cards(settings.cards_folder)
    window = MainWindow(bridge, theme, player, settings, where, cards, open_duplex=open_duplex)
    window.resize(1280, 800)
    _collect_between_keys(window)
    return Running(window, theme, bridge, player)


def _collect_between_keys(window: MainWindow) -> None:
    """Look for garbage in circles where no key comes, or it would be looked for in the midst of one: in a long part
    that takes as long as the key itself."""
    # What is there now stays; of what comes later, little is such garbage.
    gc.freeze()
    gc.set_threshold(_MANY_OBJECTS, 200, 50)
    timer = QTimer(window, interval=_COLLECTED_MS, timerType=Qt.TimerType.VeryCoarseTimer)
    timer.timeout.connect(
        lambda: gc.collect(0) if quiet_s() > _RESTED_S and gc.get_count()[0] > _FEW_OBJECTS else None
    )
    timer.start()


def make_ahead(window: MainWindow) -> QTimer:
    """While nothing is done, make the other pages and what they need: else the first use of each would wait."""
    steps = window.rooms.ahead()
    timer = QTimer(window, interval=_SHOWN_MS)

    def step() -> None:
        timer.setInterval(_AHEAD_MS)
        if quiet_s() > _QUIET_S and not window.jobs.working and next(steps, steps) is steps:
            timer.stop()
            window.jobs.run("ahead", "Making ready", lambda task: _import_ahead(), lambda made: None)

    timer.timeout.connect(step)
    timer.start()
    return timer


def _import_ahead() -> None:
    """What renders the model, and what listens to a take."""
    for name in ("numpy", "scipy.signal"):
        import_between_keys(name)


_SHOWN_MS, _AHEAD_MS, _QUIET_S = 1_500, 60, 1.0
"""When what is not yet needed is begun, how often more of it is made, and for how long no key must have come."""

_COLLECTED_MS = 1_000
_RESTED_S = 0.4
"""For how long no key must have come before garbage is looked for."""
_FEW_OBJECTS, _MANY_OBJECTS = 1_000, 1_000_000
"""More objects than when garbage was last looked for: so few are left for later, so many are not waited for."""


def _own_folder() -> Path:
    folder = documents_folder()
    try:
        folder.mkdir(parents=True, exist_ok=True)
    except OSError as fault:
        raise StoreError(f"{folder} cannot be made: {fault.strerror}.") from fault
    return folder


def _named(path: Path) -> Session:
    """The workbook of a name, made where there is none; a piece as text in a new workbook."""
    if PIECE.names(path):
        return session_of_steps(path, _own_folder())
    return Session.open(path) if is_there(path) else Session.new(path)


def _session(words: Sequence[str]) -> Session:
    """The workbook that the words ask for: one by name, the demo, the one left last, or a new one."""
    if "--demo" in words:
        from firn.session.demo import open_demo

        return open_demo()
    named = [w for w in words if not w.startswith("-")]
    if named:
        return _named(Path(named[0]))
    for name in load_settings(settings_path()).recent:
        if is_there(Path(name)):
            return Session.open(Path(name))
    path = _own_folder() / "steps.firn"
    return Session.open(path) if is_there(path) else Session.new(path)


def opened(words: Sequence[str], prompts: Prompts) -> Session | None:
    """The workbook that the words ask for; another, or a new one, where it cannot be opened; None for none."""
    wanted: Callable[[], Session] = partial(_session, words)
    while True:
        try:
            return wanted()
        except FirnError as fault:
            print(f"firn: {fault}", file=sys.stderr)
            sentence = str(fault)
        answer, path = prompts.instead(sentence), None
        if answer == "open":
            path = prompts.open_file(None, "Open workbook", WORKBOOK.offered)
        elif answer == "new":
            path = prompts.new_file(None, "New workbook", WORKBOOK.offered, "class.firn")
        else:
            return None
        if path is not None:
            make = Session.open if answer == "open" else Session.new
            wanted = partial(make, path)


def start(words: Sequence[str]) -> int:
    """Run the application; returns its exit status."""
    fault = display_fault()
    if fault:
        print(f"firn: {fault}", file=sys.stderr)
        return 2
    app = QApplication.instance() or QApplication(["firn"])
    assert isinstance(app, QApplication)
    app.setApplicationName("Firn")
    # The name of the entry in the desktop's menu: its icon is then the window's.
    app.setDesktopFileName("app.firn.Firn")
    app.setWindowIcon(QIcon(str(ICON)))
    load_fonts()
    try:
        session = opened(words, Prompts())
        if session is None:
            return 2
        running = build(session)
    except Exception as bug:
        # Started from an icon, nobody sees the terminal.
        traceback.print_exception(bug)
        Prompts().tell(None, "Firn", f"Firn made a mistake and cannot start: {bug}.")
        return 2
    sys.excepthook = _report(running)
    window = running.window
    running.signals = close_at_signals(window)
    geometry = geometry_settings(settings_path()).value("geometry")
    if geometry is not None:
        window.restoreGeometry(geometry)
    fit(window, window.screen().availableGeometry())
    window.show()
    window.show_page(WRITE)
    make_ahead(window)
    if session.scratch is not None:
        # What is typed into a demo without thinking shall be keys, not letters in its first part.
        window.write_page.strip.setFocus()
    return int(app.exec())


FRAME = QSize(16, 44)
"""What a window's frame and title take, about."""


def fit(window: MainWindow, room: QRect) -> None:
    """Make a window no larger than the screen there is, and put it where all of it is seen."""
    most = room.size() - FRAME
    window.setMinimumSize(window.minimumSize().boundedTo(most))
    window.resize(window.size().boundedTo(most))
    frame = QRect(window.pos(), window.size() + FRAME)
    if not room.contains(frame):
        window.move(room.topLeft())


def _report(running: Running):  # type: ignore[no-untyped-def]
    """A bug is printed whole and said in one sentence; the workbook has every finished edit already."""

    def report(kind: type[BaseException], fault: BaseException, trace: TracebackType | None) -> None:
        traceback.print_exception(kind, fault, trace)
        running.window.say("Firn made a mistake; your workbook holds every finished edit.")

    return report
