"""More parts, and longer names, than there is room for."""

import unittest

from firn.core.book.book import Book, BookPart, BookPiece
from firn.core.book.edits import AddPiece
from firn.session.session import Session
from tests.ui.window import CTRL, Qt, WindowCase


class ManyPartsTest(WindowCase):
    def setUp(self) -> None:
        super().setUp()
        parts = tuple(BookPart(f"p{n}", f"Figure {n}", "1 step 2 step") for n in range(60))
        book = AddPiece(BookPiece("p", f"piece: {'A very long name ' * 5}\n", parts, "")).apply(Book())
        self.open(Session.new(self.folder / "many.firn", book))
        self.tabs = self.window.part_tabs

    def seen(self) -> list[int]:
        return [i for i, box in enumerate(self.tabs.boxes()) if box.left() >= 0 and box.right() <= self.tabs.width()]

    def test_the_window_needs_no_more_room(self) -> None:
        self.assertLess(self.window.minimumSizeHint().width(), 1000)
        self.assertIn("…", self.window.title_button.text())
        self.assertIn("A very long name A very long name", self.window.title_button.accessibleName())

    def test_the_chosen_one_is_in_sight(self) -> None:
        self.assertIn(0, self.seen())
        self.tabs.setFocus()
        for key, chosen in ((Qt.Key.Key_Right, 1), (Qt.Key.Key_End, 61), (Qt.Key.Key_Home, 0)):
            if key == Qt.Key.Key_End:
                # The last begins a part: the one before it is the combo.
                self.window.desk.go_to("p", "combo")
                self.assertIn(60, self.seen())
                continue
            self.key(key, on=self.tabs)
            self.assertEqual(self.tabs.chosen, chosen)
            self.assertIn(chosen, self.seen())

    def test_the_marks_at_the_ends_walk_on(self) -> None:
        self.click(self.tabs, self.tabs.width() - 5, 20)
        self.assertEqual(self.desk.title, "Figure 1")
        self.window.desk.go_to("p", "p30")
        self.click(self.tabs, 5, 20)
        self.assertEqual(self.desk.title, "Figure 29")
        self.key(Qt.Key.Key_PageDown, CTRL)
        self.assertIn(30, self.seen())


if __name__ == "__main__":
    unittest.main()
