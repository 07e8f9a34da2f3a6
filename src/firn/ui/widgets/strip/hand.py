"""Changing the part on its strip: which keys ask for what, and what a sound can become."""

from collections.abc import Callable
from fractions import Fraction

from PySide6.QtCore import QPoint, Qt
from PySide6.QtGui import QKeyEvent, QKeySequence
from PySide6.QtWidgets import QMenu, QWidget

KINDS = (
    ("", (
        "&step", "&touch", "st&amp", "st&omp", "&flat", "&heel", "to&e", "&brush", "s&pank", "s&cuff", "&dig",
        "toe t&ip", "hop&", "&leap", "&jump", "pic&kup", "la&nd", "ch&ug", "slid&e", "hold",
    )),
    ("&In silence", ("&kick", "&flick", "&lift", "&point", "&shift", "&turn")),
    ("&With hands", ("&clap", "&snap", "&pat", "&drum")),
)  # fmt: skip
"""What a sound can become, by the names of cards, in menus of their own; & stands before the letter that picks it."""

_PLAIN = Qt.KeyboardModifier.NoModifier
_ALT, _SHIFT = Qt.KeyboardModifier.AltModifier, Qt.KeyboardModifier.ShiftModifier


_STANDARD = (
    (QKeySequence.StandardKey.Copy, "copy"),
    (QKeySequence.StandardKey.Cut, "cut"),
    (QKeySequence.StandardKey.Paste, "paste"),
)


def asked(event: QKeyEvent, *, compound: bool) -> tuple[str, object] | None:
    """What a key asks for: its name and how far, how loud; None for a key that asks for nothing here."""
    key, modifiers = event.key(), event.modifiers() & ~Qt.KeyboardModifier.KeypadModifier
    if key in (Qt.Key.Key_Left, Qt.Key.Key_Right) and modifiers in (_ALT, _ALT | _SHIFT):
        way = 1 if key == Qt.Key.Key_Right else -1
        # By halves, or thirds of a count of three parts; with Shift to the next place that a count has.
        return ("fine", way) if modifiers & _SHIFT else ("move", Fraction(way, 3 if compound else 2))
    for standard, wish in _STANDARD:
        if event.matches(standard):
            return wish, None
    if event.text() in ("!", "~"):
        return "lean", 1 if event.text() == "!" else -1
    if event.text() == "/":
        return "split", None
    if key == Qt.Key.Key_Insert and modifiers == _ALT:
        return "put_before", None
    if modifiers != _PLAIN:
        return None
    names = {
        Qt.Key.Key_F: "foot",
        Qt.Key.Key_W: "weight",
        Qt.Key.Key_J: "join",
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
    for title, names in KINDS:
        under = menu.addMenu(title) if title else menu
        for name in names:
            card = name.replace("&", "")
            under.addAction(name.rstrip("&")).triggered.connect(lambda _=False, n=card: chosen(n))
    menu.popup(at)
    return menu
