"""What people expect of any program's menu Edit: cut, copy, paste, select all, find."""

from collections.abc import Callable
from functools import partial

from PySide6.QtCore import Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QApplication, QLineEdit, QPlainTextEdit

from firn.ui.pages.entries import WRITE
from firn.ui.work.context import Context, Handlers

KEYS = {"cut": Qt.Key.Key_X, "copy_text": Qt.Key.Key_C, "paste": Qt.Key.Key_V, "select_all": Qt.Key.Key_A}


class Editing:
    """Does what the menu says to what has the keyboard, text or strip; `point` shows a place in the text."""

    def __init__(self, context: Context, point: Callable[[int, int, int], None]) -> None:
        self._context, self._point = context, point
        self._sent = False

    def handlers(self) -> Handlers:
        return {"find": self.find, **{name: partial(self._do, name) for name in KEYS}}

    def _do(self, name: str) -> None:
        """Send the key to what has the keyboard: text and strip know theirs."""
        there = QApplication.focusWidget()
        # A key that it has no use for goes on to the window, and from there comes back here.
        if there is None or self._sent:
            return
        control = Qt.KeyboardModifier.ControlModifier
        self._sent = True
        try:
            for kind in (QKeyEvent.Type.KeyPress, QKeyEvent.Type.KeyRelease):
                QApplication.sendEvent(there, QKeyEvent(kind, KEYS[name], control))
        finally:
            self._sent = False

    def find(self) -> None:
        """Ask what to find, and go there."""
        from firn.ui.dialogs.find import FindDialog

        context = self._context
        context.desk.commit()
        dialog = FindDialog(context.bridge.book, _selected(), context.window)
        if context.prompts.run(dialog) and dialog.found is not None:
            one = dialog.found
            context.desk.go_to(one.piece, one.part)
            context.show_page(WRITE)
            self._point(one.line, one.column, one.end)


def _selected() -> str:
    there = QApplication.focusWidget()
    if isinstance(there, QPlainTextEdit):
        return there.textCursor().selectedText()
    return there.selectedText() if isinstance(there, QLineEdit) else ""
