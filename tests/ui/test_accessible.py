"""What a screen reader is told, through the interface that it uses."""

import unittest
import unittest.mock

from PySide6.QtGui import QAccessible
from PySide6.QtWidgets import QAbstractButton, QComboBox, QLineEdit, QListWidget, QTableWidget, QWidget

from tests.ui.window import Qt, WindowCase


def said(widget: QWidget) -> tuple[str, QAccessible.Role]:
    interface = QAccessible.queryAccessibleInterface(widget)
    return interface.text(QAccessible.Text.Name), interface.role()


class StripTest(WindowCase):
    def setUp(self) -> None:
        super().setUp()
        self.dictate("1 step  2 stamp  3 heel")
        self.strip = self.window.write_page.strip
        self.strip.setFocus()
        self.strip.stand_on(0)

    def test_the_sound_that_is_stood_on_is_its_focused_child(self) -> None:
        interface = QAccessible.queryAccessibleInterface(self.strip)
        self.assertEqual((interface.role(), interface.childCount()), (QAccessible.Role.List, 3))
        self.key(Qt.Key.Key_Right, on=self.strip)
        child = interface.focusChild()
        self.assertIn("stamp", child.text(QAccessible.Text.Name))
        self.assertTrue(child.state().focused)
        self.assertFalse(interface.child(0).state().focused)
        self.editor.setFocus()
        self.assertIsNone(interface.focusChild())

    def test_each_walk_is_reported(self) -> None:
        told: list[int] = []
        module, patch = "firn.ui.widgets.strip.strip.QAccessible", unittest.mock.patch
        with (
            patch(f"{module}.isActive", return_value=True),
            patch(f"{module}.updateAccessibility", side_effect=lambda event: told.append(event.child())),
        ):
            for _ in range(2):
                self.key(Qt.Key.Key_Right, on=self.strip)
            self.key(Qt.Key.Key_Home, on=self.strip)
        self.assertEqual(told, [1, 2, 0])


class NamesTest(WindowCase):
    def test_everything_that_takes_the_keyboard_has_a_name(self) -> None:
        """Lists, tables, fields, buttons, tabs, the transport, the strip and the stand-back view."""
        self.dictate("1 step  2 stamp")
        nameless = []
        for page in range(5):
            self.window.show_page(page)
            kinds = (QListWidget, QTableWidget, QLineEdit, QComboBox, QAbstractButton)
            for kind in kinds:
                for widget in self.window.findChildren(kind):
                    if widget.isVisible() and widget.focusPolicy() & Qt.FocusPolicy.TabFocus and not said(widget)[0]:
                        nameless.append((page, type(widget).__name__, widget.parent()))
        self.assertEqual(nameless, [])
        window = self.window
        for widget in (window.page_tabs, window.part_tabs, window.line, window.stand_back, window.write_page.strip):
            self.assertTrue(said(widget)[0], widget)


if __name__ == "__main__":
    unittest.main()
