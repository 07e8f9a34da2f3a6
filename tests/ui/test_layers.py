"""Layers in the window: shown, hidden, heard alone, mirrored, fitted, and kept for the next time."""

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from firn.session.settings import load_settings
from firn.session.transport import danced
from tests.support import cases, wait
from tests.ui.window import CTRL, WindowCase

TEXT = """1 step  2 step  3 step  4 hold
scat: dum dum da
left hand: 1 clap  2 clap
arms: 1-2 out  3 in
pulse: down on the count
signals: 3 turn 1 ahead
note: keep tall"""


class LayersTest(WindowCase):
    def setUp(self) -> None:
        super().setUp()
        self.dictate(TEXT)
        self.strip = self.window.write_page.strip

    def view(self, fill) -> None:
        self.answers.fill = fill
        self.key(Qt.Key.Key_L, CTRL)
        wait(10)

    def heard(self) -> list[str]:
        return [s.kind for s in danced(self.desk.stretch, self.desk.transport, self.desk.view).sounds]

    def test_each_layer_has_its_lane_and_its_row(self) -> None:
        self.assertEqual(self.strip.strip_layout.frame.lanes, ("scat", "arms", "pulse", "signals"))
        rows: list[str] = []
        self.view(lambda dialog: rows.extend(dialog.shown))
        self.assertEqual(rows, ["words", "feet", "hands", "counts", "relief", "scat", "arms", "pulse", "signals"])

    def test_hidden_and_shown_again(self) -> None:
        # What is said of the text takes its room first.
        self.settle()
        high = self.strip.strip_layout.row_height
        self.view(lambda dialog: dialog.shown["arms"].click())
        self.assertEqual(self.strip.strip_layout.frame.lanes, ("scat", "pulse", "signals"))
        self.assertEqual(load_settings(self.folder / "settings.json").view.hidden, ("arms",))
        self.view(lambda dialog: dialog.shown["arms"].click())
        self.assertEqual((len(self.strip.strip_layout.frame.lanes), self.strip.strip_layout.row_height), (4, high))

    @cases(("words",), ("feet",), ("hands",), ("counts",), ("relief",))
    def test_what_is_left_out_takes_no_room_and_no_sound_away(self, what: str) -> None:
        sounds = len(self.strip.stretch.sounds)
        self.view(lambda dialog: dialog.shown[what].click())
        layout, row = self.strip.strip_layout, self.strip.strip_layout.rows[0]
        drawn = {
            "words": len(row.words), "feet": len(row.thread), "hands": layout.frame.hands,
            "counts": len(row.counts), "relief": len(row.relief),
        }  # fmt: skip
        self.assertEqual([name for name, many in drawn.items() if not many], [what])
        self.assertEqual(len(layout.placed), sounds)
        self.view(lambda dialog: dialog.shown[what].click())

    def test_hands_heard_alone(self) -> None:
        self.view(lambda dialog: dialog.alone["hands"].click())
        self.assertEqual(self.heard(), ["clap", "clap"])
        self.assertIn("hands", self.window.line.said)
        self.view(lambda dialog: dialog.heard["feet"].click())
        self.assertIn("step", self.heard())

    def test_syllables_and_pulse_are_heard_where_they_are_asked_for(self) -> None:
        plan = danced(self.desk.stretch, self.desk.transport, self.desk.view)
        self.assertEqual((plan.syllables, plan.pulse), ((), ()))
        self.view(lambda dialog: [dialog.heard[n].click() for n in ("scat", "pulse")])
        plan = danced(self.desk.stretch, self.desk.transport, self.desk.view)
        self.assertEqual([text for _, text in plan.syllables], ["dum", "dum", "da"])
        self.assertEqual(list(plan.pulse), [0, 1, 2, 3])

    def test_mirrored_says_so_and_edits_the_foot_that_dances(self) -> None:
        before = [s.foot for s in self.strip.stretch.sounds]
        self.view(lambda dialog: dialog.mirrored.click())
        across = {"left": "right", "right": "left", "": ""}
        self.assertEqual([s.foot for s in self.strip.stretch.sounds], [across[f] for f in before])
        self.assertTrue(self.strip.strip_layout.frame.view.mirrored)
        self.assertEqual([s.foot for s in self.desk.stretch.sounds], before)
        self.view(lambda dialog: dialog.mirrored.click())

    def test_fitted_rows(self) -> None:
        self.editor.selectAll()
        self.dictate("  ".join(f"{n % 8 + 1} step" for n in range(32)))
        self.assertEqual((self.strip.strip_layout.row_counts, len(self.strip.strip_layout.rows)), (8, 4))
        self.view(lambda dialog: dialog.fitted.click())
        self.assertEqual((self.strip.strip_layout.row_counts, len(self.strip.strip_layout.rows)), (16, 2))
        self.view(lambda dialog: dialog.fitted.click())

    def test_the_note_stands_first(self) -> None:
        wait(30)
        self.assertEqual((self.window.write_page.notes.notes[0].level, self.window.write_page.notes.notes[0].text),
                         ("note", "keep tall"))  # fmt: skip

    def test_a_screen_reader_is_told_what_goes_with_a_sound(self) -> None:
        said = self.strip.describe(0)
        for word in ("dum", "arms: out"):
            self.assertIn(word, said)

    def test_offers_know_the_layer(self) -> None:
        self.editor.setFocus()
        self.key(Qt.Key.Key_Return, on=self.editor)
        QTest.keyClicks(self.editor, "right hand: 1 sn")
        self.assertEqual(self.editor.offers.item(0).text().split("  ")[0], "snap")
