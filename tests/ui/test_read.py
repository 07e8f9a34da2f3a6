"""The page Read: what is to be done, one sound at a time, and what is measured."""

import json

from PySide6.QtCore import Qt

from firn.ui.work.context import READ
from tests.support import wait
from tests.ui.window import ALT, CTRL, WindowCase

HANGS = "1 step  & step  2 hold  3 step  4 step"


class ReadTest(WindowCase):
    def turn(self, text: str) -> None:
        if text:
            self.type(text)
        self.key(Qt.Key.Key_R, ALT)
        self.assertEqual(self.window.pages.currentIndex(), READ)
        self.page = self.window.rooms.read
        wait(10)

    def column(self, number: int) -> list[str]:
        return [self.page.table.item(row, number).text() for row in range(self.page.table.rowCount())]

    def test_measures_of_the_part(self) -> None:
        self.turn(HANGS)
        self.assertEqual(dict(zip(self.column(0), self.column(1), strict=True))["Hanging over"], "1")
        self.assertIn("about as much as", self.page.beside.text())

    def test_over_other_sounds_by_its_key(self) -> None:
        self.turn("1 step  2 kick  3 touch  4 step")
        self.page.strip.setFocus()
        seen = []
        for _ in range(3):
            seen.append((self.page.over, self.column(1)[-1]))
            self.key(Qt.Key.Key_X)
        self.assertEqual(seen, [("what is heard", "0.75"), ("every sound", "1"), ("the weight", "0.5")])

    def test_phrases_beside_each_other(self) -> None:
        self.turn("  ".join(f"{n % 8 + 1} step" for n in range(16)))
        heads = [self.page.table.horizontalHeaderItem(c).text() for c in range(self.page.table.columnCount())]
        self.assertEqual(heads, ["Measure", "Part", "phrase 1", "phrase 2"])

    def test_a_sound_and_where_its_measure_is_from(self) -> None:
        self.turn(HANGS)
        self.assertIn("Stand on a sound", self.page.sound.text())
        self.page.strip.setFocus()
        self.key(Qt.Key.Key_Home, on=self.page.strip)
        self.key(Qt.Key.Key_Right, on=self.page.strip)
        self.assertIn("it hangs over 2", self.page.sound.text())
        self.page.table.setFocus()
        self.page.table.setCurrentCell(3, 0)
        self.assertIn("Gómez et al. 2005", self.page.says.text())

    def test_a_mend_is_taken_by_its_key_and_taken_back(self) -> None:
        self.turn("1 stamp & heel 2 step")
        self.assertEqual(self.page.notes.notes[0].text, "Change the feet")
        self.key(Qt.Key.Key_1, ALT)
        self.assertEqual(self.editor.toPlainText(), "1 stamp & heel 2 step")
        self.assertEqual(self.desk.text, "1 step & heel 2 step")
        self.assertNotIn("Change the feet", [n.text for n in self.page.notes.notes])
        self.key(Qt.Key.Key_Z, CTRL)
        self.assertEqual(self.page.notes.notes[0].text, "Change the feet")

    def test_meant_so_by_its_key_with_a_reason_and_no_longer(self) -> None:
        self.turn("1 step  2 step  3 step")
        at = next(i for i, n in enumerate(self.page.notes.notes) if n.code == "off_phrase")
        self.page.notes.setFocus()
        self.page.notes.setCurrentRow(at)
        self.answers.named = "the next part takes the rest"
        self.key(Qt.Key.Key_Z)
        self.assertEqual(self.desk.text, "1 step  2 step  3 step\nmeant: off phrase, the next part takes the rest")
        self.assertEqual(self.page.notes.notes[-2].text, "Meant so")
        self.page.notes.setCurrentRow(len(self.page.notes.notes) - 1)
        self.key(Qt.Key.Key_Z)
        self.assertEqual(self.desk.text, "1 step  2 step  3 step")
        self.page.notes.setCurrentRow(len(self.page.notes.notes) - 1)
        self.key(Qt.Key.Key_Z)
        self.assertIn("Only what is worth a look", self.window.banner.text)

    def test_written_out_as_data_and_as_tables(self) -> None:
        self.turn("1 stamp & heel 2 step")
        first = {}
        for name in ("all.json", "a.findings.csv", "a.measures.csv"):
            self.answers.path = self.folder / name
            self.key(Qt.Key.Key_C, CTRL | ALT)
            first[name] = (self.folder / name).read_text("utf-8").splitlines()
        data = json.loads("\n".join(first["all.json"]))
        self.assertEqual(data["findings"][0]["level"], "bad")
        self.assertEqual(len(data["measures"]), 30)
        self.assertEqual(first["a.findings.csv"][0], "part,level,code,place,message,meant")
        self.assertEqual(len(first["a.findings.csv"]), len(data["findings"]) + 1)
        self.assertEqual(first["a.measures.csv"][0], "part,phrase,over,measure,source,value")
        self.answers.path = self.folder / "none" / "all.json"
        self.key(Qt.Key.Key_C, CTRL | ALT)
        self.assertIn("could not be written", self.window.banner.text)

    def test_nothing_yet_and_the_combo(self) -> None:
        self.turn("")
        self.assertIn("Write a part first", self.page.sound.text())
        self.assertFalse(self.page.table.isVisible())
        self.desk.go_to(self.book.pieces[0].id, "combo")
        self.desk.write("A x2")
        self.desk.commit()
        wait(10)
        self.assertIn("A combo is checked here", self.page.sound.text())
