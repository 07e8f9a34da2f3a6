"""A teacher's own cards in the window: made, read again, told of where they are broken."""

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from firn.session.session import Session
from tests.files.test_cards import FLAP
from tests.ui.window import WindowCase


class OwnCardsTest(WindowCase):
    def test_a_word_of_her_own(self) -> None:
        self.dictate("1 flap  2 gate swing")
        self.assertIn("gate swing", self.desk.notes[0].text)

        def fill(dialog) -> None:
            self.assertIn("once there is such a folder", dialog.told.text())
            QTest.mouseClick(dialog.make, Qt.MouseButton.LeftButton)
            self.assertIn("1 card of your own", dialog.told.text())

        self.answers.fill = fill
        self.window.actions_by_id["cards"].trigger()
        self.assertEqual([s.kind for s in self.desk.stretch.sounds], ["brush", "step", "brush", "hop", "step"])

    def test_a_broken_file_is_told_and_mended(self) -> None:
        folder = self.folder / "hers"
        folder.mkdir()
        (folder / "mine.toml").write_text(FLAP.replace("]]", "]"), "utf-8")
        self.answers.path = folder

        def fill(dialog) -> None:
            QTest.mouseClick(dialog.other, Qt.MouseButton.LeftButton)
            self.assertRegex(dialog.faults.item(0).text(), "mine.toml is broken: .* line 1")
            (folder / "mine.toml").write_text(FLAP, "utf-8")
            QTest.mouseClick(dialog.again, Qt.MouseButton.LeftButton)
            self.assertEqual(dialog.faults.count(), 0)

        self.answers.fill = fill
        self.window.actions_by_id["cards"].trigger()
        self.dictate("1 flap")
        self.assertEqual(self.desk.stretch.sounds[0].kind, "spank")
        self.assertEqual(self.window.program.settings.cards_folder, folder)

    def test_told_when_firn_starts(self) -> None:
        (self.folder / "cards").mkdir()
        for name in ("a", "b"):
            (self.folder / "cards" / f"{name}.toml").write_text("card = 1", "utf-8")
        self.shut()
        self.open(Session.open(self.path))
        self.assertRegex(self.window.banner.text, "a.toml holds no .* 1 more")
