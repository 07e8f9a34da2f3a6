"""The window: pieces, parts, workbooks, what is not kept, pages and areas by key."""

import unittest

from PySide6.QtCore import Qt
from PySide6.QtGui import QKeySequence
from PySide6.QtTest import QTest

from firn.core.book.edits import RenamePart
from firn.core.script.problems import CODES
from firn.session.session import Session
from firn.ui.actions import ACTIONS, key_rows
from firn.ui.dialogs.help import CAUTIONS, font_licence, help_html
from firn.ui.dialogs.stretch import clock_seconds
from firn.ui.pages.entries import DRILL, LISTEN, LOG, READ, WRITE
from tests.core.test_script import GATE_LATCH
from tests.support import cases, comes, wait
from tests.ui.window import ALT, CTRL, SHIFT, WindowCase


class PartsTest(WindowCase):
    def test_new_rename_delete_and_back(self) -> None:
        self.type("1 step")
        self.key(Qt.Key.Key_T, CTRL)
        self.assertEqual(self.window.part_tabs.names, ("A", "B", "combo", "+"))
        self.assertEqual(self.editor.toPlainText(), "")
        self.answers.named = "Long Break"
        self.key(Qt.Key.Key_F2)
        self.assertEqual(self.book.pieces[0].parts[1].name, "Long Break")
        self.answers.named = "a"
        self.key(Qt.Key.Key_F2)
        self.assertIn('Another part is called "a" already', self.window.banner.text)
        self.key(Qt.Key.Key_D, CTRL | SHIFT)
        self.assertEqual(self.window.part_tabs.names, ("A", "combo", "+"))
        self.key(Qt.Key.Key_Z, CTRL)
        self.assertEqual(self.window.part_tabs.names, ("A", "Long Break", "combo", "+"))

    def test_walk_through_parts_keeps_what_was_typed(self) -> None:
        self.key(Qt.Key.Key_T, CTRL)
        QTest.keyClicks(self.editor, "2 stamp")
        self.key(Qt.Key.Key_PageUp, CTRL)
        self.assertEqual((self.desk.title, self.editor.toPlainText()), ("A", ""))
        self.key(Qt.Key.Key_PageDown, CTRL)
        self.assertEqual((self.desk.title, self.editor.toPlainText()), ("B", "2 stamp"))

    def test_tabs_by_click_and_arrows(self) -> None:
        tabs = self.window.part_tabs
        self.click(tabs, tabs.boxes()[1].center().x(), 15)
        self.assertEqual(self.desk.title, "Combo")
        tabs.setFocus()
        self.key(Qt.Key.Key_Left, on=tabs)
        self.assertEqual(self.desk.title, "A")
        self.click(tabs, tabs.boxes()[2].center().x(), 15)
        self.assertEqual(len(self.book.pieces[0].parts), 2)

    def test_combo(self) -> None:
        self.type("1 step  2-8 hold")
        self.desk.go_to(self.book.pieces[0].id, "combo")
        self.assertTrue(self.window.write_page.try_line.isVisible())
        self.type("A x3, A other side x2")
        self.assertEqual(self.desk.stretch.counts, 40)
        self.assertEqual([n.level for n in self.desk.notes], ["ok"])
        self.assertEqual(self.book.pieces[0].combo, "A x3, A other side x2")
        self.type(", Z")
        self.assertIn('No part is called "Z"', " ".join(n.text for n in self.desk.notes))


class FigureTest(WindowCase):
    def test_a_part_is_a_word_in_another(self) -> None:
        """Changed once it is changed where it is named, and undo brings it back."""
        self.type("1 step  2 stamp")
        self.running.bridge.do(RenamePart(self.book.pieces[0].id, self.desk.part_id, "Turnover"))
        self.window.pieces.new_part()
        self.type("1 Turnover x2")
        self.assertEqual([s.kind for s in self.desk.part.sounds], ["step", "flat"] * 2)
        self.window.pieces.walk(-1)
        self.editor.selectAll()
        self.type("1 step  2 touch")
        self.window.pieces.walk(1)
        self.assertEqual([s.kind for s in self.desk.part.sounds], ["step", "touch"] * 2)
        self.key(Qt.Key.Key_Z, CTRL)
        self.window.pieces.walk(1)
        self.assertEqual([s.kind for s in self.desk.part.sounds], ["step", "flat"] * 2)


class PiecesTest(WindowCase):
    def test_a_second_piece(self) -> None:
        self.answers.named = "Slow Gate"
        self.key(Qt.Key.Key_N, CTRL)
        self.assertEqual(self.desk.settings.name, "Slow Gate")
        self.key(Qt.Key.Key_PageDown, CTRL | SHIFT)
        self.assertEqual(self.desk.settings.name, "Untitled")
        self.answers.picked = "Slow Gate"
        self.click(self.window.title_button)
        self.assertEqual(self.desk.settings.name, "Slow Gate")
        self.window.actions_by_id["delete_piece"].trigger()
        self.assertEqual(len(self.book.pieces), 1)
        self.key(Qt.Key.Key_Z, CTRL)
        self.assertEqual(len(self.book.pieces), 2)

    def test_the_last_piece_deleted_leaves_a_window_that_goes_on(self) -> None:
        self.window.actions_by_id["delete_piece"].trigger()
        self.assertEqual((self.book.pieces, self.window.title_button.text()), ((), "No piece"))
        self.assertFalse(self.editor.isEnabled())
        self.answers.named = "Anew"
        self.window.actions_by_id["new_part"].trigger()
        self.assertEqual(self.desk.settings.name, "Anew")

    def test_how_it_counts(self) -> None:
        def fill(dialog) -> None:
            dialog.name.setText("Three Gates")
            dialog.choices["meter"].setCurrentText("3/4")
            dialog.choices["feel"].setCurrentText("swing")
            dialog.tempo.setText("96")

        self.answers.fill = fill
        self.key(Qt.Key.Key_F4)
        settings = self.desk.settings
        self.assertEqual((settings.name, str(settings.meter), settings.feel, settings.tempo),
                         ("Three Gates", "3/4", "swing", 96))  # fmt: skip
        self.assertIn("at 96", self.window.line.said)
        self.key(Qt.Key.Key_Z, CTRL)
        self.assertEqual(self.desk.settings.name, "Untitled")

    def test_a_tempo_that_is_none_is_said_in_the_dialog(self) -> None:
        said = []

        def fill(dialog) -> None:
            dialog.tempo.setText("quick")
            dialog.accept()
            said.append(dialog.wrong.text())

        self.answers.fill = fill
        self.key(Qt.Key.Key_F4)
        self.assertEqual(said, ['"quick" is no tempo: counts a minute, 20 to 400.'])
        self.assertEqual(self.desk.settings.tempo, 120)

    def test_tempo_by_number(self) -> None:
        self.answers.named = "97"
        self.key(Qt.Key.Key_F7)
        self.assertIn("at 97", self.window.line.said)

    def test_steps_text_in_and_out(self) -> None:
        self.answers.path = self.folder / "gate.steps"
        self.answers.path.write_text(GATE_LATCH, "utf-8")
        self.key(Qt.Key.Key_I, CTRL)
        self.assertEqual(self.window.part_tabs.names, ("A", "Break", "combo", "+"))
        self.answers.path = self.folder / "out.steps"
        self.key(Qt.Key.Key_E, CTRL)
        self.assertIn("# look up here", self.answers.path.read_text("utf-8"))
        self.answers.path = self.folder
        self.key(Qt.Key.Key_I, CTRL)
        self.assertIn("is a folder", self.window.banner.text)


class WorkbooksTest(WindowCase):
    def test_new_open_recent(self) -> None:
        self.type("1 step")
        self.answers.path = self.folder / "second.firn"
        self.key(Qt.Key.Key_N, CTRL | SHIFT)
        self.assertEqual((self.running.bridge.session.path.name, self.editor.toPlainText()), ("second.firn", ""))
        self.answers.path = self.path
        self.key(Qt.Key.Key_O, CTRL)
        self.assertEqual(self.editor.toPlainText(), "1 step")
        names = [a.text() for a in self.window._recent.actions()]
        self.assertEqual(names[:2], [f"{name}.firn   in {self.folder}" for name in ("class", "second")])
        self.window._recent.actions()[1].trigger()
        self.assertEqual(self.running.bridge.session.path.name, "second.firn")

    def test_a_file_that_is_no_workbook_changes_nothing(self) -> None:
        self.type("1 step")
        path = self.folder / "x.firn"
        path.write_text("hello")
        self.answers.path = path
        self.key(Qt.Key.Key_O, CTRL)
        self.assertIn("x.firn is no Firn workbook", self.window.banner.text)
        self.assertEqual(self.editor.toPlainText(), "1 step")
        self.answers.path = self.path
        self.key(Qt.Key.Key_N, CTRL | SHIFT)
        self.assertIn("class.firn is there already", self.window.banner.text)

    def test_opened_where_it_was_left(self) -> None:
        self.key(Qt.Key.Key_T, CTRL)
        self.type("2 stamp")
        self.window.close()
        self.open(Session.open(self.path))
        self.assertEqual((self.desk.title, self.editor.toPlainText()), ("B", "2 stamp"))

    def test_what_the_disk_cannot_take(self) -> None:
        store = self.running.bridge.session.store
        store.limit_pages(store.page_count())
        self.type("x" * 300)
        self.editor.setPlainText("# " + "long " * 40_000)
        self.assertTrue(comes(lambda: not self.desk.drafting))
        self.assertTrue(self.window.banner.isVisible())
        self.assertIn("The disk is full", self.window.banner.text)
        self.assertEqual(self.window.menu_corner.kept.text(), "not kept")
        self.answers.path = self.folder / "copy.firn"
        self.click(self.window.banner.copy_button)
        copy = Session.open(self.folder / "copy.firn")
        self.assertEqual(len(copy.book.pieces[0].parts[0].text), 200_002)
        copy.close()
        self.answers.leaves = False
        self.assertFalse(self.window.close())
        self.answers.leaves = True
        self.assertTrue(self.window.close())

    def test_open_elsewhere_says_why(self) -> None:
        other = Session.open(self.path)
        self.assertIn("open in another window", other.unsaved)
        other.close()
        self.window.close()
        holder = Session.open(self.path)
        self.open(Session.open(self.path))
        self.assertIn("open to read only: it is open in another window", self.window.banner.text)
        self.assertTrue(self.window.close(), "nothing was changed, so nothing is asked")
        holder.close()

    def test_a_copy_needs_another_name(self) -> None:
        self.answers.path = self.path
        self.key(Qt.Key.Key_S, CTRL | SHIFT)
        self.assertIn("another name", self.window.banner.text)


class AreasTest(WindowCase):
    def test_f6_walks_every_area_and_comes_round(self) -> None:
        self.type("1 step")
        self.editor.setFocus()
        seen = []
        for _ in range(7):
            seen.append(type(self.app.focusWidget()).__name__ + (self.app.focusWidget().accessibleName() or ""))
            self.key(Qt.Key.Key_F6)
        self.assertEqual(len(set(seen)), 6)
        self.assertEqual(seen[0], seen[6])

    def test_pages_by_key(self) -> None:
        self.key(Qt.Key.Key_F10)
        self.assertEqual(self.window.pages.currentIndex(), LISTEN)
        self.key(Qt.Key.Key_F9)
        self.assertEqual(self.window.pages.currentIndex(), WRITE)
        tabs = self.window.page_tabs
        tabs.setFocus()
        self.key(Qt.Key.Key_Right, on=tabs)
        self.assertEqual(self.window.pages.currentIndex(), READ)

    def test_only_pages_that_are_there_are_shown(self) -> None:
        self.assertEqual(self.window.page_tabs.names, ("Write", "Read", "Drill", "Listen", "Log", "Steps"))

    def test_look(self) -> None:
        self.key(Qt.Key.Key_F11)
        self.assertTrue(self.running.theme.dark)
        self.key(Qt.Key.Key_Plus, CTRL)
        self.assertEqual(self.running.theme.percent, 110)
        from firn.session.settings import load_settings

        kept = load_settings(self.folder / "settings.json")
        self.assertEqual((kept.dark, kept.text_percent), (True, 110))
        for _ in range(20):
            self.key(Qt.Key.Key_Plus, CTRL)
        self.assertEqual(self.running.theme.percent, 200)

    def test_small_and_large(self) -> None:
        """Usable at 1024x640 and with text of 200 %: nothing of the transport or the pages is cut off."""
        self.type("8 stomp 1 hop 2 step")
        for size, percent in (((1024, 640), 100), ((1280, 800), 200)):
            self.window.resize(*size)
            self.running.theme.set_look(dark=False, percent=percent)
            wait(20)
            self.assertLessEqual(self.window.line.boxes()[-1].right(), self.window.line.width() + 1)
            tabs = self.window.page_tabs
            self.assertLessEqual(tabs.boxes()[-1].right(), tabs.width() + 2)
        self.running.theme.set_look(dark=False, percent=100)

    def test_help(self) -> None:
        self.key(Qt.Key.Key_F1)
        text = self.window.program._help.text.toPlainText()
        for words in (*CODES, *CAUTIONS, "Ctrl+Space", "SIL Open Font Licence", "6-7 hold"):
            self.assertIn(words, text)
        self.assertIn("SIL OPEN FONT LICENSE", font_licence())


class TabOrderTest(WindowCase):
    """Tab goes from what stands above, through the page from top to bottom, to the transport, and round again."""

    def walked(self, page: int) -> list[str]:
        self.window.show_page(page)
        self.window.title_button.setFocus()
        names = []
        for _ in range(40):
            now = self.app.focusWidget()
            names.append(now.accessibleName() or getattr(now, "text", lambda: "")())
            self.key(Qt.Key.Key_Tab)
            if self.app.focusWidget() is self.window.title_button:
                return names
        self.fail(f"Tab does not come round: {names}")

    def test_each_page(self) -> None:
        self.type("1 step  2 step  3 stamp  4 stamp")
        self.simulated("Clean")
        self.window.listen_page.question.leave()
        above, below = "How it counts: ", ["Dance", "How it is danced", "Stand back", "Pages", "Parts"]
        pages = (
            ["Strip", "Script: say it", "Worth a look"],
            ["Strip", "Worth a look", "Faces of the rhythm", "what is heard  X", "Measures of the rhythm"],
            ["New drill", "Plan a practice…", "Make a drill of the first three", "Find a stage by name",
             "Stages that fit this part"],
            ["Strip", "Mine, then the model  H", "Mine  M", "Time 1 of 2  P", "Takes", "Record  T",
             "Bring in a recording", "Simulated student"],
            ["Note a practice…  N"],
        )  # fmt: skip
        # In any order of turning to them.
        for page in (LOG, WRITE, LISTEN, DRILL, READ, LOG):
            names = self.walked(page)
            self.assertTrue(names[1].startswith(above))
            self.assertEqual(names[2:], [*pages[page], *below], page)


class MenusTest(WindowCase):
    def test_no_menu_takes_the_key_of_a_page(self) -> None:
        letters = [m.title().split("&")[1][0].upper() for m in self.window.menus.values()]
        taken = {k for spec in ACTIONS for k in spec.keys}
        self.assertEqual([k for k in letters if f"Alt+{k}" in taken or letters.count(k) > 1], [])

    @cases(("L", "Listen"), ("G", "Log"), ("W", "Write"), ("R", "Read"))
    def test_pages_by_their_letters(self, letter: str, page: str) -> None:
        self.key(getattr(Qt.Key, f"Key_{letter}"), ALT)
        self.assertEqual(self.window.page_tabs.names[self.window.pages.currentIndex()], page)


class ActionsTest(unittest.TestCase):
    def test_no_key_is_given_twice(self) -> None:
        keys = [QKeySequence(k).toString() for spec in ACTIONS for k in spec.keys]
        self.assertEqual(len(keys), len(set(keys)))
        self.assertNotIn("", keys)

    def test_every_action_but_one_has_a_key_and_words(self) -> None:
        without = [spec.id for spec in ACTIONS if not spec.keys]
        self.assertEqual(without, ["delete_piece"])
        self.assertEqual(len({spec.id for spec in ACTIONS}), len(ACTIONS))

    def test_bare_keys_are_for_outside_text(self) -> None:
        for spec in ACTIONS:
            bare = any(len(k.removeprefix("Shift+")) == 1 or k == "Space" for k in spec.keys)
            self.assertEqual(spec.when == "outside text", bare, spec.id)

    def test_the_help_names_every_key(self) -> None:
        text = help_html(key_rows())
        for spec in ACTIONS:
            if spec.menu and spec.keys and spec.id != "dance":
                self.assertIn(spec.text.rstrip("…").replace("&", "&amp;"), text)


class ClockTest(unittest.TestCase):
    @cases(("75", 75.0), ("1:15", 75.0), ("1:02:03", 3723.0), ("0", 0.0), ("x", None), ("1:x", None), ("-1", None),
           ("1:2:3:4", None), ("", None))  # fmt: skip
    def test_seconds(self, text: str, expected: float | None) -> None:
        self.assertEqual(clock_seconds(text), expected)


if __name__ == "__main__":
    unittest.main()
