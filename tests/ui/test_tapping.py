"""Tapping in on Write: keys become a script, what else it could be is on keys, and it is one step of undo."""

import os
import time
import unittest
import unittest.mock
from itertools import pairwise

import numpy as np
from PySide6.QtCore import QEvent, Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from firn.devices import midi
from tests.support import cases, comes, wait
from tests.ui.window import CTRL, SHIFT, WindowCase

Key = Qt.Key
LEFT, RIGHT = Key.Key_F, Key.Key_J


class TapCase(WindowCase):
    def tap(self, keys: list[tuple[Key, float]], *, tempo: float = 112.0, jitter_ms: float = 8.0) -> None:
        """Taps of keys at counts, as somebody would who is off by so much."""
        self.key(Key.Key_J, CTRL)
        self.view = self.window.write_page.tapping
        rng = np.random.default_rng(2)
        times = iter([5 + count * 60 / tempo + rng.normal(0, jitter_ms / 1000) for _, count in keys])
        self.view.clock = lambda event: next(times)
        for key, _ in keys:
            QTest.keyClick(self.view, key)

    def enter(self) -> None:
        QTest.keyClick(self.view, Key.Key_Return)
        self.settle()


class ClickTest(TapCase):
    """Tapped to the click: the first 1 is the click's, whatever was tapped first, and lateness is told."""

    def clicked(
        self, counts: list[float], *, tempo: float, late_ms: float, keys: tuple[Key, ...] = (RIGHT, LEFT)
    ) -> None:
        self.desk.dance_as(self.desk.transport.__class__(tempo=tempo))
        self.key(Key.Key_J, CTRL)
        self.view = self.window.write_page.tapping
        QTest.keyClick(self.view, Key.Key_C)
        tapping = self.window._tapping
        self.assertTrue(comes(lambda: self.running.player.playing))
        first = tapping._click.first_s
        rng = np.random.default_rng(4)
        times = iter([first + c * 60 / tempo + late_ms / 1000 + rng.normal(0, 0.008) for c in counts])
        tapping._click.now = lambda: next(times)
        for n, _ in enumerate(counts):
            QTest.keyClick(self.view, keys[n % len(keys)])
        self.enter()

    @cases(
        (
            "from 3 on, late",
            [2, 3, 4, 5, 6, 7],
            100.0,
            45.0,
            "3 R step 4 step 5 step 6 step 7 step 8 step",
            "4[0-9] ms behind",
        ),
        (
            "from the & of 1, early",
            [0.5, 1, 2, 2.5, 3],
            90.0,
            -30.0,
            "& R step 2 step 3 step & step 4 step",
            "ms ahead of",
        ),
        ("in the second phrase", [9, 10, 11, 12], 120.0, 5.0, "2 R step 3 step 4 step 5 step", "behind it"),
    )
    def test_counts_are_the_clicks(
        self, _: str, counts: list[float], tempo: float, late_ms: float, said: str, told: str
    ) -> None:
        self.desk.change("", "Write")
        self.clicked(counts, tempo=tempo, late_ms=late_ms)
        self.assertFalse(self.running.player.playing)
        self.assertRegex(self.view.said.text(), f"To the click at {tempo:g}: usually .*{told}")
        self.enter()
        self.assertEqual(" ".join(self.desk.text.split()).removeprefix("1 "), said.removeprefix("1 "))

    def test_left_it_is_silent(self) -> None:
        self.clicked([0, 1, 2, 3], tempo=110, late_ms=0)
        QTest.keyClick(self.view, Key.Key_Backspace)
        QTest.keyClick(self.view, Key.Key_C)
        self.assertTrue(comes(lambda: self.running.player.playing))
        QTest.keyClick(self.view, Key.Key_Escape)
        self.assertFalse(self.running.player.playing)
        self.assertFalse(self.view.isVisible())

    def test_hands_beside_the_steps(self) -> None:
        self.dictate("1 step 2 step 3 step 4 step")
        self.desk.commit()
        self.clicked([1, 3], tempo=100, late_ms=20, keys=(Key.Key_H,))
        self.assertTrue(self.view.buttons["beside"].isVisible())
        QTest.keyClick(self.view, Key.Key_B)
        self.assertEqual(self.view.script.text(), "hands: 2 clap  4 clap")
        self.enter()
        self.assertEqual(self.desk.text.splitlines(), ["1 step 2 step 3 step 4 step", "hands: 2 clap  4 clap"])
        self.assertEqual([str(s.place) for s in self.desk.part.sounds if s.hand], ["1", "3"])
        self.key(Key.Key_Z, CTRL)
        self.assertEqual(self.desk.text, "1 step 2 step 3 step 4 step")

    def test_feet_do_not_go_beside_steps(self) -> None:
        self.dictate("1 step 2 step")
        self.desk.commit()
        self.clicked([0, 1], tempo=100, late_ms=0)
        self.assertFalse(self.view.buttons["beside"].isVisible())
        QTest.keyClick(self.view, Key.Key_B)
        self.assertNotIn("hands", self.view.script.text())


class MidiTest(TapCase):
    """Keys and pedals that speak MIDI; a fifo stands in for the device."""

    def setUp(self) -> None:
        super().setUp()
        self.enterContext(unittest.mock.patch.object(midi, "FOLDER", self.folder))
        os.mkfifo(self.folder / "midiC1D0")

    def test_keys_and_pedals_tap(self) -> None:
        self.key(Key.Key_J, CTRL)
        view = self.window.write_page.tapping
        self.assertIn("On the MIDI keys C D step", view.said.text())
        end = os.open(self.folder / "midiC1D0", os.O_WRONLY)
        self.addCleanup(os.close, end)
        began = time.perf_counter()
        for many, said in enumerate(
            ([0x90, 60, 100], [0x90, 62, 20], [0x90, 71, 90], [0xB0, 64, 127], [0x90, 61, 99]), start=1
        ):
            os.write(end, bytes(said))
            self.assertTrue(comes(lambda many=many: len(view.taps) == many))
            wait(30)
        took = time.perf_counter() - began
        struck = [("step", "left"), ("touch", "right"), ("clap", ""), ("step", "right"), ("stamp", "left")]
        self.assertEqual([(word, foot) for _, word, foot in view.taps], struck)
        times = [at for at, _, _ in view.taps]
        self.assertEqual(times, sorted(times))
        self.assertTrue(all(b - a > 0.02 for a, b in pairwise(times)))
        self.assertLess(times[-1] - times[0], took)
        QTest.keyClick(view, Key.Key_Escape)
        self.assertFalse(self.window._tapping._midi.on)

    def test_one_that_cannot_be_opened_is_said(self) -> None:
        (self.folder / "midiC1D0").unlink()
        (self.folder / "midiC1D0").symlink_to(self.folder / "nowhere")
        self.key(Key.Key_J, CTRL)
        self.assertIn("cannot be opened", self.window.banner.text)
        self.assertNotIn("MIDI", self.window.write_page.tapping.said.text())


STEPS = [(RIGHT if n % 2 == 0 else LEFT, float(n)) for n in range(8)]
WITH_HALVES = sorted([*STEPS, *((LEFT if n % 4 < 2 else RIGHT, n + 0.5) for n in (1, 3, 5, 7))], key=lambda k: k[1])


class TapTest(TapCase):
    def test_two_keys_become_steps(self) -> None:
        self.tap(STEPS)
        self.assertIn("8 so far", self.view.heading.text())
        self.enter()
        self.assertIn("At 112 a minute", self.view.said.text())
        self.assertTrue(self.window.write_page.strip.isVisible())
        self.enter()
        self.assertFalse(self.view.isVisible())
        said = "1 R step 2 step 3 step 4 step 5 step 6 step 7 step 8 step"
        self.assertEqual(" ".join(self.desk.text.split()), said)
        self.assertEqual([s.foot for s in self.desk.part.sounds], ["right", "left"] * 4)
        self.key(Key.Key_Z, CTRL)
        self.assertEqual(self.desk.text, "")

    def test_it_is_put_after_what_is_there(self) -> None:
        self.dictate("1-8 step")
        self.settle()
        self.tap(STEPS)
        self.enter()
        self.enter()
        self.assertEqual(self.desk.text.splitlines()[0], "1-8 step")
        self.assertEqual(self.desk.part.counts, 16)

    def test_feet_are_as_they_were_tapped(self) -> None:
        keys = [(LEFT, 0.0), (LEFT, 1.0), (RIGHT, 2.0), (Key.Key_D, 3.0), (Key.Key_K, 4.0), (Key.Key_H, 5.0)]
        self.tap([*keys, (LEFT, 6.0), (RIGHT, 7.0)])
        self.enter()
        self.enter()
        feet = [s.foot for s in self.desk.part.sounds]
        self.assertEqual(feet, ["left", "left", "right", "left", "right", "", "left", "right"])
        self.assertEqual([s.kind for s in self.desk.part.sounds][3:6], ["heel", "heel", "clap"])

    def test_with_shift_without_weight(self) -> None:
        self.key(Key.Key_J, CTRL)
        view = self.window.write_page.tapping
        QTest.keyClick(view, LEFT, SHIFT)
        QTest.keyClick(view, LEFT)
        self.assertEqual([(word, foot) for _, word, foot in view.taps], [("touch", "left"), ("step", "left")])

    def test_a_key_that_is_held_is_one_tap(self) -> None:
        self.key(Key.Key_J, CTRL)
        view = self.window.write_page.tapping
        for again in (False, True, True):
            event = QKeyEvent(QEvent.Type.KeyPress, LEFT, Qt.KeyboardModifier.NoModifier, "f", again)
            QApplication.sendEvent(view, event)
        self.assertEqual(len(view.taps), 1)

    def test_the_last_is_taken_back_and_too_few_are_said(self) -> None:
        self.tap(STEPS[:2])
        QTest.keyClick(self.view, Key.Key_Backspace)
        self.enter()
        self.assertIn("Two taps or more", self.window.banner.text)
        self.assertTrue(self.view.isVisible())
        QTest.keyClick(self.view, Key.Key_Escape)
        self.assertFalse(self.view.isVisible())
        self.assertEqual(self.desk.text, "")


class ReadingTest(TapCase):
    def test_half_and_twice_as_many_counts(self) -> None:
        self.tap(STEPS, tempo=100)
        self.enter()
        QTest.keyClick(self.view, Key.Key_Minus)
        self.settle()
        self.assertIn("1 R step  & step  2 step", self.view.script.text())
        QTest.keyClick(self.view, Key.Key_Plus)
        self.settle()
        self.assertIn("1 R step  2 step  3 step", self.view.script.text())

    def test_where_one_is(self) -> None:
        self.tap(STEPS)
        self.enter()
        QTest.keyClick(self.view, Key.Key_1)
        self.assertIn("8 R step  1 step  2 step", self.view.script.text())
        for _ in range(3):
            QTest.keyClick(self.view, Key.Key_1)
        self.assertIn("1 R step  2 step", self.view.script.text())

    def test_between_even_and_swung_both_are_offered(self) -> None:
        keys = [(RIGHT, float(n // 2) + (0.59 if n % 2 else 0.0)) for n in range(16)]
        self.tap(keys, jitter_ms=3)
        self.enter()
        self.assertIn("neither even nor swung", self.view.said.text())
        first = self.view.script.text()
        QTest.keyClick(self.view, Key.Key_N)
        self.assertNotEqual(self.view.script.text(), first)

    def test_words_are_laid_onto_what_was_tapped(self) -> None:
        counts = [-0.5, 0.0, 0.5, 1.0, 1.5, 2.0, 3.0]
        self.tap([(RIGHT, c + 4) for c in counts])
        self.enter()
        QTest.keyClick(self.view, Key.Key_W)
        self.view.words.setText("flap shuffle ball change stamp")
        QTest.keyClick(self.view.words, Key.Key_Return)
        self.settle()
        self.enter()
        sounds = self.desk.part.sounds
        self.assertEqual([u.card.name for u in self.desk.part.uses], ["flap", "shuffle ball change", "stamp"])
        gaps = [float(s.position - sounds[0].position) for s in sounds]
        self.assertEqual(gaps, [c + 0.5 for c in counts])

    def test_in_steps_by_how_they_were_tapped(self) -> None:
        semicolon = Key.Key_Semicolon
        keys = [(semicolon, 0.5), (semicolon, 1.0), (RIGHT, 2.0), (Key.Key_A, 2.5), (LEFT, 3.0), (RIGHT, 4.0)]
        self.tap([*keys, (LEFT, 5.0), (RIGHT, 6.0)], jitter_ms=3)
        self.enter()
        QTest.keyClick(self.view, Key.Key_Y)
        self.assertIn("shuffle", self.view.script.text())
        self.assertIn("flap", self.view.script.text())
        self.enter()
        names = [use.card.name for use in self.desk.part.uses]
        self.assertEqual(names[0], "shuffle")
        self.assertEqual([s.foot for s in self.desk.part.sounds][:5], ["right", "right", "right", "left", "left"])

    def test_another_step_round_and_round(self) -> None:
        keys = [(Key.Key_A, 0.5), (Key.Key_A, 1.0), (LEFT, 2.0), (RIGHT, 3.0), (LEFT, 4.0), (RIGHT, 5.0)]
        self.tap(keys, jitter_ms=3)
        self.enter()
        QTest.keyClick(self.view, Key.Key_Y)
        QTest.keyClick(self.view, Key.Key_Down)
        self.assertTrue(self.view.buttons["other"].isVisible(), self.view.said.text())
        seen = []
        for _ in range(8):
            seen.append(self.view.heading.text().split("   ")[1])
            QTest.keyClick(self.view, Key.Key_R)
            if self.view.heading.text().split("   ")[1] == seen[0]:
                break
        self.assertEqual(len(set(seen)), len(seen))
        self.assertGreater(len(seen), 1)
        self.assertEqual(self.view.heading.text().split("   ")[1], seen[0])
        self.assertIn("You said so", self.view.said.text())

    def test_passes_are_laid_over_each_other(self) -> None:
        once = [0.0, 1.0, 1.5, 2.0, 3.0, 4.0, 5.0, 6.5, 7.0]
        counts = [c + 8 * n for n in range(3) for c in once if (n, c) != (1, 1.5)]
        self.tap([(RIGHT, c) for c in counts], jitter_ms=4)
        self.enter()
        self.assertIn("the 2nd left out & after 2", self.view.said.text())
        titles = self.window.write_page.strip.stretch.titles
        self.assertEqual(titles, ((0, "1st pass"), (8, "2nd pass"), (16, "3rd pass")))
        QTest.keyClick(self.view, Key.Key_P)
        self.enter()
        self.assertEqual(self.desk.part.counts, 8)
        self.assertEqual([float(s.position) for s in self.desk.part.sounds], once)

    def test_words_of_another_number_of_sounds(self) -> None:
        self.tap(STEPS)
        self.enter()
        self.view.words.setText("shuffle stamp")
        QTest.keyClick(self.view.words, Key.Key_Return)
        self.assertIn("8 sounds are there, and these words have 3", self.window.banner.text)
        self.assertTrue(self.view.isVisible())


if __name__ == "__main__":
    unittest.main()
