"""Pages under large text and in a small window: all can be read and reached."""

from PySide6.QtCore import QPoint, Qt
from PySide6.QtGui import QImage
from PySide6.QtWidgets import QLabel, QPushButton, QWidget

from firn.ui.pages.entries import LISTEN, LOG, READ, STEPS
from firn.ui.widgets.room import PageFrame
from firn.ui.widgets.strip.strip import Strip
from tests.ui.window import WindowCase, wait

PAGES = (READ, LISTEN, LOG, STEPS)
HEEL = "1 R step  2 L touch  3 L heel  4 R step\n5 step & step  6 hold  7 stamp  & heel"


class LargeTextTest(WindowCase):
    def setUp(self) -> None:
        super().setUp()
        self.addCleanup(self.running.theme.set_look, dark=False, percent=100)

    def shown(self, page: int, size: tuple[int, int], percent: int) -> PageFrame:
        """A page in a window of a size, at a size of text."""
        self.window.show_page(page)
        self.window.resize(*size)
        self.running.theme.set_look(dark=False, percent=percent)
        wait(60)
        frame = self.window.pages.currentWidget()
        assert isinstance(frame, PageFrame)
        return frame

    def test_the_lamp_colours_anew_and_text_lays_out_anew(self) -> None:
        self.dictate(HEEL)
        wait(60)
        strip = self.window.write_page.strip
        light = self.settled(strip)
        laid = strip.strip_layout
        self.running.theme.set_look(dark=True, percent=100)
        wait(60)
        self.assertIs(strip.strip_layout, laid)
        self.assertNotEqual(strip.grab().toImage(), light)
        self.running.theme.set_look(dark=False, percent=140)
        wait(60)
        self.assertIsNot(strip.strip_layout, laid)
        self.running.theme.set_look(dark=False, percent=100)
        wait(60)
        self.assertEqual(self.settled(strip), light)

    def settled(self, strip: Strip) -> QImage:
        """What a strip shows once its room and what is worth a look in it no longer change."""
        before, now = None, strip.grab().toImage()
        while now != before:
            wait(60)
            before, now = now, strip.grab().toImage()
        return now

    def test_no_text_is_cut_off(self) -> None:
        self.dictate(HEEL)
        self.simulated("Clean")
        for size, percent in (((1280, 800), 200), ((1280, 800), 140), ((1000, 620), 100), ((1280, 800), 80)):
            for page in PAGES:
                frame = self.shown(page, size, percent)
                with self.subTest(page=page, size=size, percent=percent):
                    self.assertEqual(frame.page.width(), frame.viewport().width())
                    self.assertEqual(_cut_off(frame.page), [])

    def test_nothing_scrolls_where_there_is_room(self) -> None:
        self.dictate(HEEL)
        self.simulated("Clean")
        for page in PAGES:
            frame = self.shown(page, (1280, 800), 100)
            with self.subTest(page=page):
                self.assertEqual(frame.verticalScrollBar().maximum(), 0)
                self.assertFalse(frame.page.narrow)

    def test_page_keys_scroll_a_page_that_is_higher_than_the_window(self) -> None:
        self.dictate(HEEL)
        frame = self.shown(READ, (1280, 800), 200)
        self.window.rooms.read.strip.setFocus()
        wait(20)
        seen = set()
        for _ in range(8):
            self.key(Qt.Key.Key_PageDown)
            seen.add(frame.verticalScrollBar().value())
        self.assertGreater(len(seen), 2)
        self.assertEqual(max(seen), frame.verticalScrollBar().maximum())
        for _ in range(8):
            self.key(Qt.Key.Key_PageUp)
        self.assertEqual(frame.verticalScrollBar().value(), 0)

    def test_dialogs_are_no_higher_than_the_screen(self) -> None:
        self.dictate(HEEL)
        self.shown(READ, (1280, 800), 200)
        high = {}
        for action in ("counting", "words", "style", "beside", "note", "record_how", "versions"):
            self.answers.fill = lambda dialog, name=action: high.update({name: dialog.minimumSizeHint().height()})
            self.window.actions_by_id[action].trigger()
            wait(10)
        self.assertEqual(len(high), 7)
        self.assertLessEqual(max(high.values()), self.window.screen().availableSize().height(), high)

    def test_what_the_keyboard_comes_to_is_in_sight(self) -> None:
        self.dictate(HEEL)
        self.simulated("Clean")
        for page in PAGES:
            frame = self.shown(page, (1280, 800), 200)
            for _ in range(6):
                self.key(Qt.Key.Key_F6)
                now = self.app.focusWidget()
                if frame.page.isAncestorOf(now):
                    top = now.mapTo(frame.viewport(), QPoint(0, 0)).y()
                    with self.subTest(page=page, on=now.accessibleName()):
                        self.assertLess(top, frame.viewport().height() - 40)
                        self.assertGreater(top + now.height(), 40)


def _cut_off(page: QWidget) -> list[str]:
    """Labels that are lower than their text, and buttons that are narrower than theirs or leave the page."""
    cut = []
    for label in _shown(page, QLabel):
        wanted = label.heightForWidth(label.width()) if label.wordWrap() else label.sizeHint().height()
        if label.height() + 1 < wanted:
            cut.append(label.text())
    for button in _shown(page, QPushButton):
        right = button.mapTo(page, QPoint(button.width(), 0)).x()
        if button.width() + 1 < button.sizeHint().width() or right > page.width():
            cut.append(button.text())
    return cut


def _shown(page: QWidget, kind: type) -> list:
    return [w for w in page.findChildren(kind) if w.isVisibleTo(page) and getattr(w, "text", lambda: "")()]
