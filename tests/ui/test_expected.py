"""What people expect of any desktop program: Edit, Find, Settings, About, tips with keys, files dropped anywhere."""

import unittest
from unittest import mock

from PySide6.QtCore import QMimeData, QPointF, QUrl
from PySide6.QtGui import QDragEnterEvent, QDropEvent, QGuiApplication
from PySide6.QtWidgets import QApplication, QPushButton

from firn.session.find import find
from firn.session.session import Session
from firn.session.settings import load_settings
from firn.ui.pages.entries import LISTEN, STEPS, WRITE
from firn.ui.work import editing
from tests.support import cases
from tests.ui.window import CTRL, Qt, WindowCase


class EditMenuTest(WindowCase):
    def menu(self, name: str) -> None:
        self.window.actions_by_id[name].trigger()

    def test_on_text(self) -> None:
        self.type("1 step")
        self.menu("select_all")
        self.menu("copy_text")
        self.assertEqual(QGuiApplication.clipboard().text(), "1 step")
        self.menu("cut")
        self.assertEqual(self.desk.text, "")
        self.menu("paste")
        self.menu("paste")
        self.assertEqual(self.desk.text, "1 step1 step")

    def test_on_the_strip(self) -> None:
        self.type("1 step  2 stamp")
        strip = self.window.write_page.strip
        strip.setFocus()
        strip.stand_on(1)
        self.menu("cut")
        self.assertEqual((self.desk.text, QGuiApplication.clipboard().text()), ("1 step  2 hold", "2 stamp"))
        self.assertEqual(self.window.actions_by_id["undo"].text(), "Undo cut")

    def test_on_a_strip_where_nothing_is_stood_on(self) -> None:
        self.type("1 step  2 stamp")
        strip = self.window.write_page.strip
        strip.setFocus()
        for name in ("cut", "copy_text", "paste"):
            strip.stand_on(None)
            with mock.patch.object(editing.QApplication, "sendEvent", wraps=QApplication.sendEvent) as sent:
                self.menu(name)
            # The key and its release: what the strip leaves to the window does not come back to it.
            self.assertEqual(sent.call_count, 2, name)
        self.assertEqual(self.desk.text, "1 step  2 stamp")

    def test_find_goes_there(self) -> None:
        self.type("1 step")
        self.key(Qt.Key.Key_T, CTRL)
        self.type("2 stamp\n4 Gate swing  # slowly")
        self.window.show_page(STEPS)
        shown: list[list[str]] = []

        def look(dialog) -> None:
            dialog.word.setText("GATE")
            shown.append([dialog.list.item(i).text() for i in range(dialog.list.count())])

        self.answers.fill = look
        self.key(Qt.Key.Key_F, CTRL)
        self.assertEqual(shown, [["Untitled, B, line 2:  4 Gate swing  # slowly"]])
        self.assertEqual(self.window.pages.currentIndex(), WRITE)
        self.assertEqual(self.editor.textCursor().selectedText(), "Gate")
        self.assertIs(QApplication.focusWidget(), self.editor)

    def test_what_is_nowhere(self) -> None:
        said: list[str] = []

        def look(dialog) -> None:
            dialog.word.setText("nowhere")
            said.append(dialog.many.text())

        self.answers.fill = look
        self.key(Qt.Key.Key_F, CTRL)
        self.assertEqual(said, ["Nowhere in this workbook."])

    def test_a_part_and_a_combo_are_found_by_name_and_text(self) -> None:
        self.type("1 step")
        found = find(self.book, "a")
        self.assertEqual([(f.called, f.line) for f in found], [("Untitled, A", 0)])
        self.assertEqual(find(self.book, " "), [])


class SettingsTest(WindowCase):
    def test_in_one_place(self) -> None:
        def fill(dialog) -> None:
            dialog.on.setValue(40)
            dialog.dark.setChecked(True)
            dialog.text_size.setCurrentText("120 %")
            dialog.heard.setCurrentText("the click")
            dialog.times.setCurrentText("3")
            dialog.handed.setCurrentText("left")
            dialog.cards.setText(str(self.folder / "mine"))

        self.answers.fill = fill
        self.key(Qt.Key.Key_Comma, CTRL)
        kept = load_settings(self.folder / "settings.json")
        self.assertEqual((kept.on_ms, kept.dark, kept.text_percent, kept.hearing), (40, True, 120, "click"))
        self.assertEqual((kept.passes, kept.handed, kept.cards_folder), (3, "left", self.folder / "mine"))
        self.assertTrue(self.running.theme.dark)

    def test_nothing_changed_changes_nothing(self) -> None:
        before = load_settings(self.folder / "settings.json")
        self.key(Qt.Key.Key_Comma, CTRL)
        self.assertEqual(load_settings(self.folder / "settings.json"), before)

    def test_a_folder_that_is_a_file(self) -> None:
        (self.folder / "file").touch()
        self.answers.fill = lambda dialog: dialog.cards.setText(str(self.folder / "file"))
        self.key(Qt.Key.Key_Comma, CTRL)
        self.assertEqual(self.answers.wrong, "file is a file, not a folder of cards.")

    def test_about(self) -> None:
        told: list[str] = []
        self.answers.tell = lambda parent, title, sentence: told.append(f"{title}: {sentence}")
        self.key(Qt.Key.Key_F1, Qt.KeyboardModifier.ShiftModifier)
        self.assertRegex(told[0], r"^Firn \d.*MIT licence")


class TipsTest(WindowCase):
    def test_buttons_say_their_keys(self) -> None:
        self.assertEqual(self.window.dance_button.toolTip(), "Dance or stop (Ctrl+Space)")
        for button in self.window._bar.findChildren(QPushButton):
            self.assertTrue(button.toolTip(), button.text())


class DroppedTest(WindowCase):
    def drop(self, path, *, on=None) -> None:
        """A file dropped as the system would: on the widget that is there, which hands on what is not for it."""
        data = QMimeData()
        data.setUrls([QUrl.fromLocalFile(str(path))])
        buttons, none = Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier
        there = on or self.editor.viewport()
        copy = Qt.DropAction.CopyAction
        enter = QDragEnterEvent(QPointF(5, 5).toPoint(), copy, data, buttons, none)
        QApplication.sendEvent(there, enter)
        self.assertTrue(enter.isAccepted())
        # Qt hands the drop to the widget that took the file when it came in: this one.
        QApplication.sendEvent(self.window, QDropEvent(QPointF(5, 5), copy, data, buttons, none))

    @cases(
        ("a piece", "latch.steps", "piece: Latch\n\npart A\n1 step\n"),
        ("cards", "mine.toml", '[[card]]\nname = "gate swing"\nsounds = ["brush A", "hop W"]\nusual = ["&1"]\n'),
        ("a piece by another name", "latch.txt", "piece: Latch\n\npart A\n1 step\n"),
        ("something else", "mine.odt", "x"),
    )
    def test_any_file_anywhere(self, _: str, name: str, text: str) -> None:
        self.type("1 step")
        (self.folder / name).write_text(text)
        self.drop(self.folder / name)
        if name.startswith("latch"):
            self.assertEqual(self.desk.settings.name, "Latch")
            self.key(Qt.Key.Key_Z, CTRL)
        elif name.endswith(".toml"):
            self.assertEqual([c.name for c in self.desk.shelf.own], ["gate swing"])
        else:
            self.assertIn("Firn reads no .odt files", self.window.banner.text)
        self.assertNotIn("file:", self.desk.text)

    def test_a_workbook(self) -> None:
        Session.new(self.folder / "other.firn").close()
        self.drop(self.folder / "other.firn")
        self.assertEqual(self.window.windowTitle(), "other.firn, Firn")

    def test_a_recording_where_there_is_no_part_for_it(self) -> None:
        (self.folder / "take.wav").write_bytes(b"RIFF")
        self.drop(self.folder / "take.wav")
        self.assertIn("A take belongs to a part that has sounds", self.window.banner.text)
        self.type("1 step 2 step")
        self.drop(self.folder / "take.wav")
        self.assertIn("take.wav is no recording that Firn can read", self.window.banner.text)
        self.assertNotEqual(self.window.pages.currentIndex(), LISTEN)


class CountsInNamesTest(WindowCase):
    @cases(("& a 1", True), ("1 & 2", True), ("a", False), ("ball", False), ("step 1", False), ("", False))
    def test_a_hint_that_counts_go_below(self, typed: str, hinted: bool) -> None:
        self.window.show_page(STEPS)
        page = self.window.rooms.steps
        page.word.setText(typed)
        self.assertEqual(page.hint.isVisible(), hinted)


ODD = "Tom & <b>Jill</b> 50%s"


class OddNamesTest(WindowCase):
    """Names are shown as they are written: no letters of them are keys, or commands to the display."""

    def test_a_piece_in_title_menu_and_banner(self) -> None:
        self.answers.named = ODD
        self.key(Qt.Key.Key_N, CTRL)
        shown = ODD.replace("&", "&&")
        self.assertEqual(self.window.title_button.text().split("  ")[0], shown)
        self.answers.picked = shown
        self.window._show_pieces()
        self.assertEqual(self.desk.settings.name, ODD)
        self.window.actions_by_id["delete_piece"].trigger()
        self.assertEqual(self.window.banner.text, f"{ODD} is deleted. Ctrl+Z brings it back.")

    def test_a_workbook(self) -> None:
        self.answers.path = self.folder / "a & <i>b 5%s [*].firn"
        self.key(Qt.Key.Key_N, CTRL | Qt.KeyboardModifier.ShiftModifier)
        # Qt shows [*][*] as [*], which alone stands for "modified".
        self.assertEqual(self.window.windowTitle(), "a & <i>b 5%s [*][*].firn, Firn")
        self.assertIn("a && <i>b", self.window._recent.actions()[0].text())

    def test_no_label_reads_commands(self) -> None:
        from PySide6.QtWidgets import QLabel

        for page in range(5):
            self.window.show_page(page)
        rich = [
            w for w in self.window.findChildren(QLabel)
            if w.textFormat() != Qt.TextFormat.PlainText and w is not self.window.rooms.steps.text
            and not w.objectName().startswith("qt_")
        ]  # fmt: skip
        self.assertEqual([w.text() for w in rich if not w.buddy() and w.text()], [])


class DialogsTest(WindowCase):
    def test_dialogs_go_when_they_are_answered(self) -> None:
        from PySide6.QtCore import QCoreApplication, QEvent
        from PySide6.QtWidgets import QDialog

        self.type("1 step  2 step")
        before = len(self.window.findChildren(QDialog))
        for _ in range(10):
            self.key(Qt.Key.Key_R, CTRL)
            self.key(Qt.Key.Key_F4)
            self.key(Qt.Key.Key_L, CTRL)
            QCoreApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete)
        self.assertEqual(len(self.window.findChildren(QDialog)), before)
        self.running.theme.set_look(dark=True, percent=120)


if __name__ == "__main__":
    unittest.main()
