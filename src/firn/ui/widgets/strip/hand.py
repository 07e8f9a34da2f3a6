"""Changing the part on its strip: which keys ask for what, and what a sound can become."""

from collections.abc import Callable
from fractions import Fraction

from PySide6.QtCore import QPoint, Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QMenu, QWidget

KINDS = (
    "step", "touch", "heel", "toe", "stamp", "stomp", "flat", "brush", "spank", "scuff", "dig", "toe tip", "hop",
    "leap", "kick", "clap", "hold",
)  # fmt: skip
"""What a sound can become, by the names of cards."""

_PLAIN = Qt.KeyboardModifier.NoModifier
_ALT, _SHIFT = Qt.KeyboardModifier.AltModifier, Qt.KeyboardModifier.ShiftModifier


def grid(*, compound: bool, finer: bool) -> Fraction:
    """How far a sound moves at once, in counts: a half, or a third of a count of three parts; finer: half of it."""
    return Fraction(1, 3 if compound else 2) / (2 if finer else 1)


def asked(event: QKeyEvent, *, compound: bool) -> tuple[str, object] | None:
    """What a key asks for: its name and how far, how loud; None for a key that asks for nothing here."""
    key, modifiers = event.key(), event.modifiers() & ~Qt.KeyboardModifier.KeypadModifier
    if key in (Qt.Key.Key_Left, Qt.Key.Key_Right) and modifiers in (_ALT, _ALT | _SHIFT):
        step = grid(compound=compound, finer=bool(modifiers & _SHIFT))
        return "move", step if key == Qt.Key.Key_Right else -step
    if event.text() in ("!", "~"):
        return "lean", 1 if event.text() == "!" else -1
    if modifiers != _PLAIN:
        return None
    names = {
        Qt.Key.Key_F: "foot",
        Qt.Key.Key_Delete: "leave_out",
        Qt.Key.Key_Backspace: "leave_out",
        Qt.Key.Key_Insert: "put_in",
        Qt.Key.Key_Return: "kind",
        Qt.Key.Key_Enter: "kind",
    }
    name = names.get(Qt.Key(key))
    return (name, None) if name else None


def kinds_menu(parent: QWidget, at: QPoint, chosen: Callable[[str], None]) -> QMenu:
    """Show what a sound can become, at a point of the screen."""
    menu = QMenu(parent)
    for name in KINDS:
        menu.addAction(name).triggered.connect(lambda _=False, n=name: chosen(n))
    menu.popup(at)
    return menu
