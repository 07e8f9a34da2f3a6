"""Workbooks from the window: the demo is nobody's, no file is replaced unasked, none stops the start."""

import os
import sys
import unittest
import unittest.mock
from pathlib import Path

from PySide6.QtCore import QTimer
from PySide6.QtWidgets import QApplication, QFileDialog, QLineEdit, QMessageBox

from firn.files.formats import WORKBOOK
from firn.session import demo as demo_module
from firn.session.demo import TAKES, open_demo
from firn.session.session import Session
from firn.session.settings import ProgramSettings, load_settings, save_settings
from firn.ui.dialogs.prompts import Prompts, with_ending
from firn.ui.start import opened
from firn.ui.work.workbooks import said_place
from tests.support import FolderCase, cases, wait
from tests.ui.window import CTRL, SHIFT, Answers, Qt, WindowCase, application

KINDS = WORKBOOK.offered


class DemoTest(WindowCase):
    def setUp(self) -> None:
        super().setUp()
        self.enterContext(unittest.mock.patch.object(demo_module.tempfile, "gettempdir", lambda: str(self.folder)))
        self.enterContext(unittest.mock.patch.object(demo_module.tempfile, "tempdir", str(self.folder)))
        self.open(open_demo())
        self.demo = self.running.bridge.session.path

    def kept(self) -> ProgramSettings:
        return load_settings(self.folder / "settings.json")

    def test_is_told_and_never_recent(self) -> None:
        self.assertEqual(self.window.windowTitle(), "Firn: a demo")
        self.assertIn("This is a demo", self.window.banner.text)
        self.assertEqual(self.window.menu_corner.kept.text(), "a demo")
        self.assertEqual([Path(r).name for r in self.kept().recent], ["class.firn"])
        self.assertEqual([t.name for t in self.book.takes], [t.name for t in TAKES])

    def test_goes_with_its_window(self) -> None:
        self.assertTrue(self.demo.exists())
        self.assertTrue(self.window.close())
        self.assertEqual(
            (self.demo.exists(), self.answers.asked), (False, []), "nothing was written, nothing is asked"
        )
        self.assertFalse(self.demo.parent.exists())

    def test_a_step_of_ones_own_spoils_nothing(self) -> None:
        before = self.book.pieces
        self.click(self.window.banner.begin_button)
        self.assertEqual((self.desk.title, self.desk.text), ("C", ""))
        self.assertIs(self.app.focusWidget(), self.editor)
        self.dictate("1 step")
        self.assertEqual(self.book.pieces[0].parts[: len(before[0].parts)], before[0].parts)

    def test_kept_as_a_workbook_of_ones_own(self) -> None:
        self.click(self.window.banner.begin_button)
        self.dictate("1 step")
        self.answers.path = self.folder / "mine.firn"
        self.click(self.window.banner.keep_button)
        self.assertEqual(self.window.windowTitle(), "mine.firn, Firn")
        self.assertEqual((self.desk.text, self.window.menu_corner.kept.text()), ("1 step", "kept"))
        self.assertFalse(self.demo.parent.exists())
        self.assertEqual([Path(r).name for r in self.kept().recent], ["mine.firn", "class.firn"])
        self.assertFalse(self.window.banner.keep_button.isVisible())

    def test_what_was_written_is_asked_about(self) -> None:
        self.click(self.window.banner.begin_button)
        self.dictate("1 step")
        self.answers.demo = "stay"
        self.assertFalse(self.window.close())
        self.answers.demo, self.answers.path = "keep", None
        self.assertFalse(self.window.close(), "no place was given")
        self.answers.path = self.folder / "mine.firn"
        self.assertTrue(self.window.close())
        mine = Session.open(self.folder / "mine.firn")
        self.assertIn("1 step", [p.text for p in mine.book.pieces[0].parts])
        mine.close()

    def test_what_a_killed_demo_has_left_goes_with_the_next(self) -> None:
        left = self.folder / "firn-demo-killed"
        left.mkdir()
        Session.new(left / "evening class.firn").close()
        other = open_demo()
        self.assertFalse(left.exists())
        self.assertTrue(self.demo.exists(), "the one that is open stays")
        other.close()

    def test_its_takes_are_those_that_the_tool_makes(self) -> None:
        sys.path.insert(0, str(Path(__file__).parents[2]))
        self.addCleanup(sys.path.pop, 0)
        import numpy as np
        from tools.make_demo_takes import made

        from firn.files.audio import from_flac

        store = self.running.bridge.session.store
        for take, sound in zip(self.book.takes, made(), strict=True):
            kept, rate = from_flac(store.samples(take.audio))
            self.assertEqual((rate, len(kept)), (take.rate, take.frames))
            np.testing.assert_allclose(kept, sound, atol=2 / 32_768)


class NamedTest(WindowCase):
    def test_title_and_recent_ones_with_their_folders(self) -> None:
        self.assertEqual(self.window.windowTitle(), "class.firn, Firn")
        (self.folder / "a & b").mkdir()
        Session.new(self.folder / "a & b" / "class.firn").close()
        self.answers.path = self.folder / "a & b" / "class.firn"
        self.key(Qt.Key.Key_O, CTRL)
        texts = [a.text() for a in self.window._recent.actions()]
        self.assertEqual(len(set(texts)), 2)
        self.assertEqual(texts[0], f"class.firn   in {self.folder}/a && b")
        home = Path.home()
        self.assertEqual(said_place(home / "x.firn"), "x.firn   in ~")
        self.assertEqual(said_place(home / "deep" / "x.firn"), "x.firn   in ~/deep")

    def test_no_copy_over_the_workbook_itself(self) -> None:
        self.dictate("1 step")
        (self.folder / "link.firn").symlink_to(self.path)
        for path in (self.path, self.folder / "link.firn", self.folder / ".." / self.folder.name / "class.firn"):
            self.answers.path = path
            self.key(Qt.Key.Key_S, CTRL | SHIFT)
            self.assertIn("A copy needs another name", self.window.banner.text)
        other = Session.new(self.folder / "other.firn")
        self.answers.path = other.path
        self.key(Qt.Key.Key_S, CTRL | SHIFT)
        self.assertIn("other.firn is a workbook that is open", self.window.banner.text)
        other.close()
        self.key(Qt.Key.Key_S, CTRL | SHIFT)
        self.assertIn("A copy is in other.firn", self.window.banner.text)

    def test_what_the_disk_has_changed_is_said(self) -> None:
        import sqlite3

        self.dictate("1 step")
        self.window.close()
        with sqlite3.connect(self.path) as db:
            db.execute("UPDATE parts SET text = '1 stamp'")
        db.close()
        self.open(Session.open(self.path))
        self.assertIn("not by Firn: part A. Look at it again.", self.window.banner.text)
        self.assertEqual(self.desk.text, "1 stamp")


class PlaceTest(FolderCase):
    """The real dialogs for a file, answered by their own widgets."""

    def setUp(self) -> None:
        super().setUp()
        self.app = application()
        self.app.setAttribute(Qt.ApplicationAttribute.AA_DontUseNativeDialogs)
        self.addCleanup(self.app.setAttribute, Qt.ApplicationAttribute.AA_DontUseNativeDialogs, False)
        self.folders: list[str] = []
        self.prompts = Prompts(str(self.folder), keep=self.folders.append)
        self.seen: list[str] = []

    def answer(self, name: str, *boxes: str) -> None:
        """Type a name into the dialog, once for each message box that is to come before it is gone."""
        waiting = [name, *boxes]

        def go() -> None:
            top = QApplication.activeModalWidget()
            if top is not None and waiting:
                if isinstance(top, QMessageBox):
                    self.seen.append(top.text())
                    wanted = waiting.pop(0)
                    next(b for b in top.buttons() if b.text().replace("&", "") == wanted).click()
                elif isinstance(top, QFileDialog):
                    wanted = waiting.pop(0)
                    top.findChild(QLineEdit).setText(wanted) if wanted else None
                    top.accept() if wanted else top.reject()
            if waiting:
                QTimer.singleShot(20, go)

        QTimer.singleShot(20, go)

    def save(self, name: str = "class.firn", kinds: str = KINDS) -> Path | None:
        return self.prompts.save_file(None, "Save", kinds, name)

    def test_a_new_name_gets_its_ending(self) -> None:
        self.answer("spring")
        self.assertEqual(self.save(), self.folder / "spring.firn")
        self.assertEqual(self.seen, [])

    def test_the_question_is_about_the_name_with_its_ending(self) -> None:
        (self.folder / "spring.firn").touch()
        self.answer("spring", "Cancel", "")
        self.assertIsNone(self.save())
        self.assertIn("spring.firn is there already", self.seen[0])
        self.answer("spring", "Replace")
        self.assertEqual(self.save(), self.folder / "spring.firn")

    def test_a_new_workbook_never_takes_a_place(self) -> None:
        (self.folder / "spring.firn").touch()
        self.answer("spring", "OK", "summer")
        self.assertEqual(self.prompts.new_file(None, "New", KINDS, "class.firn"), self.folder / "summer.firn")
        self.assertIn("spring.firn is there already: choose another name", self.seen[0])

    def test_the_next_one_begins_where_the_last_one_ended(self) -> None:
        (self.folder / "deep").mkdir()
        self.answer(str(self.folder / "deep" / "a"))
        self.assertEqual(self.save(), self.folder / "deep" / "a.firn")
        self.assertEqual(self.folders, [str(self.folder / "deep")])
        self.answer("b")
        self.assertEqual(self.save(), self.folder / "deep" / "b.firn")

    @cases(
        ("spring", KINDS, "a.firn", "spring.firn"),
        ("spring.firn", KINDS, "a.firn", "spring.firn"),
        ("Spring.FIRN", KINDS, "a.firn", "Spring.FIRN"),
        ("spring 2.5", KINDS, "a.firn", "spring 2.5.firn"),
        (".firn", KINDS, "a.firn", ".firn.firn"),
        ("x.csv", "All (*.json);;Table (*.findings.csv)", "a.json", "x.csv.json"),
        ("x.findings.csv", "All (*.json);;Table (*.findings.csv)", "a.json", "x.findings.csv"),
    )
    def test_endings(self, name: str, kinds: str, like: str, wanted: str) -> None:
        self.assertEqual(with_ending(Path("/x") / name, kinds, like), Path("/x") / wanted)


class StartTest(FolderCase):
    """Whatever the file is, Firn starts: it says what is wrong and asks for another or a new one."""

    def setUp(self) -> None:
        super().setUp()
        application()
        self.settings = self.folder / "settings.json"
        self.enterContext(unittest.mock.patch.dict(os.environ, {"FIRN_SETTINGS": str(self.settings)}))
        self.answers = Answers()
        self.err = self.enterContext(unittest.mock.patch("sys.stderr"))

    def bad(self) -> Path:
        path = self.folder / "bad.firn"
        path.write_bytes(b"hello " * 100)
        return path

    def test_another_or_a_new_one(self) -> None:
        bad = self.bad()
        self.answers.instead_of, self.answers.path = ["new"], self.folder / "new.firn"
        session = opened([str(bad)], self.answers)
        assert session is not None
        self.assertEqual(session.path, self.folder / "new.firn")
        self.assertEqual(self.answers.asked[0], "bad.firn is no Firn workbook.")
        session.close()
        self.answers.instead_of = ["open"]
        session = opened([str(bad)], self.answers)
        assert session is not None
        self.assertEqual(session.path, self.folder / "new.firn")
        session.close()
        self.answers.instead_of = ["none"]
        self.assertIsNone(opened([str(bad)], self.answers))
        self.assertEqual(bad.read_bytes(), b"hello " * 100)

    def test_asked_again_until_one_opens(self) -> None:
        bad = self.bad()
        self.answers.instead_of, self.answers.path = ["open", "none"], bad
        self.assertIsNone(opened([str(bad)], self.answers))
        self.assertEqual(self.answers.asked.count("bad.firn is no Firn workbook."), 2)

    def test_the_one_left_last_is_broken(self) -> None:
        save_settings(self.settings, ProgramSettings(recent=(str(self.bad()),)))
        self.answers.instead_of, self.answers.path = ["new"], self.folder / "new.firn"
        session = opened([], self.answers)
        assert session is not None
        self.assertEqual(session.path, self.folder / "new.firn")
        session.close()

    def test_an_empty_file_is_a_new_workbook(self) -> None:
        (self.folder / "empty.firn").touch()
        session = opened([str(self.folder / "empty.firn")], self.answers)
        assert session is not None
        self.assertEqual([p.name for p in session.book.pieces], ["Untitled"])
        session.close()

    def test_a_piece_as_text_opens_in_a_new_workbook(self) -> None:
        piece = self.folder / "gate latch.steps"
        piece.write_text("piece: Gate Latch\n\npart A\n1 step\n")
        folder = self.folder / "documents"
        with unittest.mock.patch("firn.ui.start.documents_folder", lambda: folder):
            for name in ("gate latch.firn", "gate latch 2.firn"):
                session = opened([str(piece)], self.answers)
                assert session is not None
                self.assertEqual(session.path, folder / name)
                self.assertEqual([p.name for p in session.book.pieces], ["Gate Latch"])
                session.close()


class UndoneTest(WindowCase):
    def test_a_typed_line_and_a_change_by_hand_are_two_steps(self) -> None:
        self.dictate("1 step  2 step")
        self.editor.setFocus()
        self.editor.moveCursor(self.editor.textCursor().MoveOperation.End)
        self.editor.insertPlainText("  3 step")
        self.assertTrue(self.desk.drafting)
        strip = self.window.write_page.strip
        strip.setFocus()
        strip.stand_on(0)
        self.key(Qt.Key.Key_Exclam, on=strip)
        self.assertEqual(self.desk.text, "1 step!  2 step  3 step")
        undo = self.window.actions_by_id["undo"]
        self.assertEqual(undo.text(), "Undo lean on, or soften")
        self.key(Qt.Key.Key_Z, CTRL)
        self.assertEqual(self.desk.text, "1 step  2 step  3 step")
        self.assertEqual(undo.text(), "Undo write")
        self.key(Qt.Key.Key_Z, CTRL)
        self.assertEqual(self.desk.text, "1 step  2 step")

    def test_every_change_by_hand_has_its_name(self) -> None:
        self.dictate("1 step  2 step  4 flap")
        strip = self.window.write_page.strip
        strip.setFocus()
        alt = Qt.KeyboardModifier.AltModifier
        for index, key, modifiers, name in (
            (1, Qt.Key.Key_Right, alt, "move"),
            (1, Qt.Key.Key_F, Qt.KeyboardModifier.NoModifier, "dance on the other foot"),
            (2, Qt.Key.Key_Slash, Qt.KeyboardModifier.NoModifier, "split"),
            (1, Qt.Key.Key_Delete, Qt.KeyboardModifier.NoModifier, "leave out"),
            (0, Qt.Key.Key_Insert, Qt.KeyboardModifier.NoModifier, "put in a step"),
            (0, Qt.Key.Key_X, CTRL, "cut"),
            (0, Qt.Key.Key_V, CTRL, "paste"),
        ):
            strip.stand_on(index)
            self.key(key, modifiers, on=strip)
            self.assertEqual(self.window.actions_by_id["undo"].text(), f"Undo {name}")


class ManyPassesTest(WindowCase):
    def test_a_take_of_twenty_times_through(self) -> None:
        """More times through than there are words for, and the question is that of this take."""
        import numpy as np
        import soundfile

        from firn.core.ear.student import Faults, dance

        self.dictate("1 step  2 stamp  3 heel  4 step")
        part = self.desk.part
        faults = Faults(missing=frozenset({1}), only=frozenset({17}), jitter_ms=1)
        sound = dance(part, 132, faults, np.random.default_rng(2), passes=20).audio
        soundfile.write(self.folder / "long.wav", sound, 48_000)
        self.window.show_page(2)
        self.answers.path = self.folder / "long.wav"
        self.key(Qt.Key.Key_I)
        self.settle()
        self.settle()
        page = self.window.listen_page
        self.assertEqual(page.heard.verdict.passes, 20)
        self.assertIn("the 17th time", page.question.asked.text())
        self.key(Qt.Key.Key_K)
        self.assertIn("20", page.verdict.whole.text())
        wait(10)


if __name__ == "__main__":
    unittest.main()
