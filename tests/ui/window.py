"""A running window for tests, driven by keys and clicks as a user would."""

from pathlib import Path

import shiboken6
from PySide6.QtCore import QCoreApplication, QEvent, QPoint, Qt
from PySide6.QtGui import QInputMethodEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QDialog, QMenu, QWidget

from firn.devices.outputs import ClockOutput
from firn.session.session import Session
from firn.session.settings import ProgramSettings, save_settings
from firn.ui.dialogs.prompts import Prompts
from firn.ui.pages.entries import LISTEN, WRITE
from firn.ui.start import Running, build
from tests.support import FolderCase, comes, wait

CTRL, SHIFT, ALT = (
    Qt.KeyboardModifier.ControlModifier,
    Qt.KeyboardModifier.ShiftModifier,
    Qt.KeyboardModifier.AltModifier,
)
NONE = Qt.KeyboardModifier.NoModifier


def application() -> QApplication:
    """The one application of the test run."""
    app = QApplication.instance() or QApplication(["firn"])
    assert isinstance(app, QApplication)
    return app


class Answers(Prompts):
    """Answers in place of a user: set the fields before the window asks."""

    def __init__(self) -> None:
        super().__init__()
        self.instead_of: list[str] = []
        self.demo = "leave"
        self.wrong = ""
        self.named: str | None = None
        self.path: Path | None = None
        self.leaves = True
        self.picked = ""
        self.prints_to: Path | None = None
        self.fill = lambda dialog: None
        self.asked: list[str] = []

    def name(self, parent: QWidget, title: str, label: str, now: str) -> str | None:
        self.asked.append(title)
        return self.named

    def tempo(self, parent: QWidget, now: float) -> float | None:
        return float(self.named) if self.named else None

    def open_file(self, parent: QWidget, title: str, kinds: str) -> Path | None:
        self.asked.append(title)
        return self.path

    def save_file(self, parent: QWidget, title: str, kinds: str, name: str) -> Path | None:
        self.asked.append(title)
        return self.path

    def new_file(self, parent: QWidget, title: str, kinds: str, name: str) -> Path | None:
        self.asked.append(title)
        return self.path

    def instead(self, sentence: str) -> str:
        self.asked.append(sentence)
        return self.instead_of.pop(0)

    def leave_demo(self, parent: QWidget) -> str:
        self.asked.append("leave the demo")
        return self.demo

    def folder(self, parent: QWidget, title: str) -> Path | None:
        self.asked.append(title)
        return self.path

    def leave(self, parent: QWidget) -> bool:
        self.asked.append("leave")
        return self.leaves

    def printer(self, parent: QWidget, printer) -> bool:
        if self.prints_to is not None:
            printer.setOutputFileName(str(self.prints_to))
        return self.prints_to is not None

    def answered(self, dialog: QDialog) -> bool:
        self.fill(dialog)
        dialog.accept()
        # What it says of a wrong answer goes with it.
        self.wrong = dialog.wrong.text() if hasattr(dialog, "wrong") else ""
        accepted = dialog.result() == QDialog.DialogCode.Accepted
        if not accepted:
            # Nobody leaves a dialog open.
            dialog.reject()
        return accepted

    def menu(self, menu: QMenu, under: QWidget) -> None:
        for action in menu.actions():
            if action.text() == self.picked and action.isEnabled():
                action.trigger()


class WindowCase(FolderCase):
    """A test with a window on a new workbook."""

    def setUp(self) -> None:
        super().setUp()
        self.app = application()
        self.path = self.folder / "class.firn"
        save_settings(self.folder / "settings.json", ProgramSettings(cards=str(self.folder / "cards")))
        self.open(Session.new(self.path))

    def build(self, session: Session) -> Running:
        return build(session, output=ClockOutput(), settings_at=self.folder / "settings.json")

    def open(self, session: Session) -> None:
        if hasattr(self, "window"):
            self.shut()
        self.running = self.build(session)
        self.window = self.running.window
        self.answers = Answers()
        self.window.prompts = self.answers
        self.window._context.prompts = self.answers
        self.addCleanup(self.shut)
        self.window.show()
        self.window.activateWindow()
        QTest.qWaitForWindowActive(self.window)
        self.window.show_page(WRITE)
        wait(10)

    def tearDown(self) -> None:
        # Before what stands in for clocks and devices is taken away.
        self.shut()
        super().tearDown()

    def shut(self) -> None:
        if shiboken6.isValid(self.window):
            self.window.close()
            self.window.deleteLater()
            wait(5)
            # No loop that this returns to would do it; and each look goes through all the windows that there are.
            QCoreApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete)

    @property
    def desk(self):
        return self.window.desk

    @property
    def editor(self):
        return self.window.write_page.editor

    @property
    def book(self):
        return self.running.bridge.book

    def dictate(self, text: str) -> None:
        """Put a text into the script at once, as dictation does, and commit it without a rest."""
        self.editor.setFocus()
        said = QInputMethodEvent()
        said.setCommitString(text)
        QApplication.sendEvent(self.editor, said)
        self.desk.commit()
        # What there is to say of it is seen a little later.
        self.settle()

    def type(self, text: str) -> None:
        """Type into the script key by key, and rest until it is committed."""
        self.editor.setFocus()
        for number, line in enumerate(text.split("\n")):
            if number:
                QTest.keyClick(self.editor, Qt.Key.Key_Return)
            QTest.keyClicks(self.editor, line)
        self.assertTrue(comes(lambda: not self.desk.drafting))

    def key(self, key: Qt.Key, modifiers: Qt.KeyboardModifier = NONE, on: QWidget | None = None) -> None:
        QTest.keyClick(on or self.app.focusWidget() or self.window, key, modifiers)
        wait(5)

    def click(self, widget: QWidget, x: float | None = None, y: float | None = None) -> None:
        point = QPoint(int(x), int(y)) if x is not None and y is not None else widget.rect().center()
        QTest.mouseClick(widget, Qt.MouseButton.LeftButton, NONE, point)
        wait(5)

    def settle(self) -> None:
        """Wait until no job runs, and what there is to say of the text is said."""
        self.assertTrue(comes(lambda: not self.window.jobs.working))
        wait(20)
        looking = self.window.write_page._looking
        self.assertTrue(comes(lambda: not self.window.jobs.working and not looking.isActive()))

    def simulated(self, kind: str = "Late, missing and slower") -> None:
        """Bring in a take by the simulated student, by its keys."""
        self.window.show_page(LISTEN)
        self.answers.picked = kind
        self.key(Qt.Key.Key_S)
        self.settle()
        self.settle()
