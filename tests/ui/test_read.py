"""The page Read: what is to be done, one sound at a time, and what is measured."""

import json

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from firn.session.settings import load_settings
from firn.ui.dialogs.beside import BesideDialog
from firn.ui.dialogs.style import StyleDialog
from firn.ui.pages.entries import READ, STEPS
from tests.support import cases, comes, wait
from tests.ui.window import ALT, CTRL, SHIFT, WindowCase

HANGS = "1 step  & step  2 hold  3 step  4 step"


class ReadTest(WindowCase):
    def turn(self, text: str) -> None:
        if text:
            self.dictate(text)
        self.key(Qt.Key.Key_R, ALT)
        self.assertEqual(self.window.pages.currentIndex(), READ)
        self.page = self.window.rooms.read
        wait(10)

    def column(self, number: int) -> list[str]:
        return [
            self.page.measures.table.item(row, number).text() for row in range(self.page.measures.table.rowCount())
        ]

    def test_measures_of_the_part(self) -> None:
        self.turn(HANGS)
        self.assertEqual(dict(zip(self.column(0), self.column(1), strict=True))["Hanging over"], "1")
        self.assertIn("about as much as", self.page.beside.text())

    def test_over_other_sounds_by_its_key(self) -> None:
        self.turn("1 step  2 kick  3 touch  4 step")
        self.page.strip.setFocus()
        seen = []
        for _ in range(3):
            seen.append((self.page.measures.over, self.column(1)[-1]))
            self.key(Qt.Key.Key_X)
        heads = [self.page.measures.table.horizontalHeaderItem(c).text() for c in range(4)]
        self.assertEqual(heads, ["Measure", "in four", "shiko", "son"])
        # Longuet-Higgins & Lee of shiko and son (Fitch & Rosenfeld 2007, Toussaint 2002).
        self.assertEqual([self.page.measures.table.item(0, c).text() for c in (2, 3)], ["2", "4"])
        self.key(Qt.Key.Key_X)
        self.assertEqual(self.page.measures.way, "what is heard")
        self.assertEqual(seen, [("what is heard", "0.75"), ("every sound", "1"), ("the weight", "0.5")])

    def test_phrases_beside_each_other(self) -> None:
        self.turn("  ".join(f"{n % 8 + 1} step" for n in range(16)))
        heads = [
            self.page.measures.table.horizontalHeaderItem(c).text()
            for c in range(self.page.measures.table.columnCount())
        ]
        self.assertEqual(heads, ["Measure", "Part", "phrase 1", "phrase 2"])

    def test_a_sound_and_where_its_measure_is_from(self) -> None:
        self.turn(HANGS)
        self.assertIn("Stand on a sound", self.page.sound.text())
        self.page.strip.setFocus()
        self.key(Qt.Key.Key_Home, on=self.page.strip)
        self.key(Qt.Key.Key_Right, on=self.page.strip)
        self.assertIn("it hangs over 2", self.page.sound.text())
        self.page.measures.table.setFocus()
        self.page.measures.table.setCurrentCell(3, 0)
        self.assertIn("Gómez et al. 2005", self.page.measures.says.text())

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

    def test_meant_so_in_the_combo(self) -> None:
        self.dictate("1 step  2-8 hold")
        self.desk.go_to(self.desk.piece.id, "combo")
        self.turn("A, turn half right")
        at = next(i for i, n in enumerate(self.page.notes.notes) if n.code == "walls")
        self.page.notes.setFocus()
        self.page.notes.setCurrentRow(at)
        self.answers.named = "we leave by the back"
        self.key(Qt.Key.Key_Z)
        self.assertEqual(self.desk.text, "A, turn half right\nmeant: walls, we leave by the back")
        self.assertIn("Meant so", [n.text for n in self.page.notes.notes])
        self.page.notes.setCurrentRow(len(self.page.notes.notes) - 1)
        self.key(Qt.Key.Key_Z)
        self.assertEqual(self.desk.text, "A, turn half right")

    def test_faces_by_their_key_and_by_arrows(self) -> None:
        self.turn("1 step  2 step  3 step  4 step  5 step  6 step")
        page = self.page
        self.assertIs(page.face, page.measures)
        self.key(Qt.Key.Key_G)
        self.assertIn("Sounds on 1 2 3 4 5 6 (every count).", page.rhythm.says.text())
        self.key(Qt.Key.Key_G)
        self.assertIs(page.face, page.rounds)
        self.assertIn("comes round after 4 times, 24 counts", page.rounds.accessibleDescription())
        for _ in range(3):
            self.key(Qt.Key.Key_X)
        self.assertEqual(page.rounds.by_button.text(), "8 counts  X")
        self.key(Qt.Key.Key_G)
        self.key(Qt.Key.Key_X)
        self.assertIn("In relay they enter on counts 1, 7; all are through after 12.", page.groups.says.text())
        for _ in range(3):
            self.key(Qt.Key.Key_X)
        self.assertIn("The follow comes in on count 5", page.groups.says.text())
        self.assertFalse(page.grab().isNull())
        page.tabs.setFocus()
        self.key(Qt.Key.Key_End, on=page.tabs)
        self.assertIn("Most in count 1: 2.0 sounds a second.", page.pace.says.text())
        self.assertFalse(page.grab().isNull())

    def test_the_pace_is_told_at_the_tempo_that_is_danced(self) -> None:
        self.turn("1 step  & step  2 step")
        self.page.show_face(4)
        before = self.page.pace.says.text()
        self.page.strip.setFocus()
        self.key(Qt.Key.Key_Plus)
        self.assertNotEqual(self.page.pace.says.text(), before)

    def test_the_like_elsewhere_is_gone_to(self) -> None:
        self.dictate("1 step  & step  2 hold  3 step  4 step")
        self.key(Qt.Key.Key_T, CTRL)
        self.turn("2 step  & step  3 hold  4 step  5 step")
        self.page.show_face(1)
        found = self.page.rhythm.list
        self.assertTrue(comes(lambda: found.count() > 0))
        self.assertIn("A: the same, begun 1 count later", found.item(0).text())
        found.setFocus()
        found.setCurrentRow(0)
        self.key(Qt.Key.Key_Return, on=found)
        self.assertEqual(self.desk.title, "A")

    def test_a_step_with_the_like_is_gone_to(self) -> None:
        self.turn("1 brush  & spank  2 step  & spank  3 touch")
        self.page.show_face(1)
        found = self.page.rhythm.list
        self.assertTrue(comes(lambda: found.count() > 0))
        found.setFocus()
        found.setCurrentRow(found.count() - 1)
        card = found.currentItem().text().split(":")[0]
        self.key(Qt.Key.Key_Return, on=found)
        self.assertEqual((self.window.pages.currentIndex(), self.window.rooms.steps.card.name), (STEPS, card))

    @cases(
        ("straighten", Qt.Key.Key_S, "1 step  2 step  3 step  4 step", "Syncopation 1 before, 0 now"),
        ("push", Qt.Key.Key_P, "1 step  & step  2 hold  & step  3 hold  & step  4 hold", "4 now"),
        ("delay", Qt.Key.Key_Y, "1 step  & step  2 hold  3 hold  & step  4 hold  & step", "3 now"),
    )
    def test_moved_against_the_beat_by_one_key(self, _: str, key: Qt.Key, text: str, said: str) -> None:
        self.desk.write(HANGS)
        self.desk.commit()
        self.turn("")
        self.key(key, CTRL | ALT)
        self.assertEqual(self.desk.text, text)
        self.assertIn(said, self.window.banner.text)
        self.key(Qt.Key.Key_Z, CTRL)
        self.assertEqual(self.desk.text, HANGS)

    def test_what_hangs_over_is_heard_and_in_turn_with_it_straight(self) -> None:
        self.turn(HANGS)
        self.page.strip.setFocus()
        self.key(Qt.Key.Key_Q)
        self.assertTrue(comes(lambda: self.running.player.playing))
        self.key(Qt.Key.Key_Space)
        self.assertFalse(self.running.player.playing)
        QTest.mouseClick(self.page.turn_button, Qt.MouseButton.LeftButton)
        self.assertTrue(comes(lambda: self.running.player.playing))
        self.key(Qt.Key.Key_Space, CTRL)
        self.desk.write("1 step  2 step")
        wait(10)
        self.assertFalse(self.page.hear_button.isVisible())
        self.key(Qt.Key.Key_Q)
        self.assertIn("Nothing hangs over here", self.window.banner.text)

    def test_a_mend_is_seen_on_the_strip_before_it_is_taken(self) -> None:
        self.turn("1 stamp & heel 2 step")
        self.page.notes.setFocus()
        self.page.notes.setCurrentRow(1)
        labels = [label for label, _ in self.page.notes.notes[1].mends]
        seen = []
        for label in labels:
            self.assertIn(label, self.page.sound.text())
            seen.append([(s.kind, s.foot) for s in self.page.strip.stretch.sounds])
            self.key(Qt.Key.Key_Right, on=self.page.notes)
        written = [(s.kind, s.foot) for s in self.desk.stretch.sounds]
        self.assertGreater(len({str(s) for s in seen}), 1)
        self.assertNotIn(written, seen)
        self.key(Qt.Key.Key_Escape, on=self.page.notes)
        self.assertEqual([(s.kind, s.foot) for s in self.page.strip.stretch.sounds], written)
        self.assertEqual(self.desk.text, "1 stamp & heel 2 step")
        self.key(Qt.Key.Key_Left, on=self.page.notes)
        self.key(Qt.Key.Key_Return, on=self.page.notes)
        self.assertEqual([(s.kind, s.foot) for s in self.desk.stretch.sounds], seen[-1])

    def test_another_part_is_laid_beside_it(self) -> None:
        self.dictate("1 R step  2 step  3 touch  4 hold")
        self.key(Qt.Key.Key_T, CTRL)
        self.turn("1 L step  2 step  3 touch  4 hold")
        seen = []

        def fill(dialog: BesideDialog) -> None:
            for mirrored in (False, True):
                dialog.mirrored.setChecked(mirrored)
                seen.append((dialog.said.text(), dialog.differences.count(), dialog.list.item(0).text()))
            seen.append(dialog.table.item(0, 0).text())
            dialog.accept()

        self.answers.fill = fill
        self.key(Qt.Key.Key_B, CTRL | ALT)
        self.assertIn("They differ on 3 places. One cannot stand for the other", seen[0][0])
        self.assertEqual(seen[1], ("A is B on the other side, sound by sound.", 0, "A"))
        self.assertEqual(seen[2], "Counts")
        self.desk.write("")
        self.key(Qt.Key.Key_B, CTRL | ALT)
        self.assertIn("Turn to a part with some steps first", self.window.banner.text)

    def test_the_check_as_pdf(self) -> None:
        from pypdf import PdfReader

        self.turn("1 stamp & heel 2 step")
        self.answers.path = self.folder / "check.pdf"
        self.key(Qt.Key.Key_F, CTRL | ALT)
        text = " ".join(" ".join(page.extract_text() for page in PdfReader(self.answers.path).pages).split())
        for said in (
            "the check",
            "Change the feet",
            "Measured over what is heard",
            "Longuet-Higgins & Lee 1984",
            "Pace",
        ):
            self.assertIn(said, text)

    def test_what_the_style_asks_for_is_changed_kept_and_taken_back(self) -> None:
        self.turn("1 step  2 hop  3 step  4 step")
        self.assertNotIn("Dance it in its style", [n.text for n in self.page.notes.notes])
        wrong = []

        def fill(dialog: StyleDialog) -> None:
            dialog.hanging.setText("lots")
            dialog.accept()
            wrong.append(dialog.wrong.text())
            dialog.hanging.setText("at least 1")
            dialog.ms["any_ms"].setText("2")
            dialog.accept()
            wrong.append(dialog.wrong.text())
            dialog.ms["any_ms"].setText("900")
            dialog.accept()
            wrong.append(dialog.wrong.text())
            dialog.ms["any_ms"].setText("90")
            dialog.airborne.setCurrentText("no")
            off = next(iter(dialog.checks.findItems("phrases that are not filled", Qt.MatchFlag.MatchExactly)))
            off.setCheckState(Qt.CheckState.Unchecked)

        self.answers.fill = fill
        self.key(Qt.Key.Key_T, CTRL | ALT)
        self.assertIn("is not how much may hang over", wrong[0])
        self.assertIn("is no time for", wrong[1])
        self.assertIn("one foot cannot be allowed", wrong[2])
        self.assertEqual(
            {n.code for n in self.page.notes.notes} & {"leaves_floor", "too_even"}, {"leaves_floor", "too_even"}
        )
        kept = load_settings(self.folder / "settings.json").styles["tap"]
        self.assertEqual((kept.airborne, kept.least_hanging, kept.any_ms, kept.off), (False, 1, 90, ("off_phrase",)))
        self.answers.fill = lambda dialog: dialog.shipped.click()
        self.key(Qt.Key.Key_T, CTRL | ALT)
        self.assertEqual(load_settings(self.folder / "settings.json").styles, {})
        self.assertNotIn("Dance it in its style", [n.text for n in self.page.notes.notes])

    def test_what_was_clean_in_the_log_is_the_limit(self) -> None:
        self.turn("1 step  2 step  3 step  4 step")
        self.answers.fill = lambda dialog: dialog.tempo.setText("100")
        self.key(Qt.Key.Key_N)
        self.desk.go_to(self.desk.piece.id, self.desk.part_id)
        self.turn("")
        told = next(n.text for n in self.page.notes.notes if n.code == "own_limit")
        self.assertIn("At 120 it has not been clean yet", told)
        self.assertIn("right 100", told)

    def test_the_place_of_a_finding_is_heard_and_then_mended(self) -> None:
        self.turn("1 stamp & heel 2 step")
        self.page.notes.setFocus()
        self.page.notes.setCurrentRow(1)
        heard = []
        self.window.dancing.play_in_turn = lambda stretches: heard.append(
            [[s.kind for s in x.sounds] for x in stretches]
        )
        self.key(Qt.Key.Key_E, SHIFT)
        self.assertEqual(heard, [[["flat", "heel", "step"], ["step", "heel", "step"]]])
        self.page.notes.setCurrentRow(-1)
        self.page.strip.stand_on(2)
        self.key(Qt.Key.Key_E, SHIFT)
        self.assertEqual(heard[1], [["flat", "heel", "step"]])
        self.page.strip.stand_on(None)
        self.key(Qt.Key.Key_E, SHIFT)
        self.assertIn("Stand on a sound", self.window.banner.text)

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
        self.assertFalse(self.page.measures.table.isVisible())
        self.desk.go_to(self.book.pieces[0].id, "combo")
        self.desk.write("A x2")
        self.desk.commit()
        wait(10)
        self.assertIn("A combo is built on Write", self.page.sound.text())
