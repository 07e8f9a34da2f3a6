"""A draft of a clip on Write, put right by keys: sound by sound, word by word, on counts that are known before."""

import unittest
from unittest import mock

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from tests.support import comes
from tests.ui.test_clips import STEPS, ClipCase
from tests.ui.window import CTRL

Key = Qt.Key


class DraftCase(ClipCase):
    def draft(self) -> None:
        self.film()
        self.press(Key.Key_D)
        self.settle()
        self.taps = self.window.write_page.tapping

    def tap_key(self, *keys: Key) -> None:
        for key in keys:
            QTest.keyClick(self.taps, key)
            self.settle()

    def say(self, words: str) -> None:
        self.tap_key(Key.Key_W)
        QTest.keyClicks(self.taps.words, words)
        QTest.keyClick(self.taps.words, Key.Key_Return)
        self.settle()

    def buttons(self) -> set[str]:
        return {wish for wish, button in self.taps.buttons.items() if button.isVisible()}


class SoundTest(DraftCase):
    def test_one_is_no_foot_one_was_missed_one_begins_earlier_and_all_is_taken_back(self) -> None:
        self.draft()
        whole = self.taps.script.text()
        self.tap_key(*[Key.Key_Right] * 4)
        self.assertIn("4 of 8   on & after 3", self.taps.heading.text())
        self.assertEqual(self.buttons(), {"take", "hear", "none", "missing", "earlier", "later"})
        # From near: silence before it, and the sound from where it begins.
        levels = self.view.close_up.levels
        self.assertEqual(len(levels), 200)
        self.assertLess(max(levels[:50]), 0.2)
        self.assertGreater(max(levels[60:70]), 0.6)
        self.tap_key(Key.Key_X)
        self.assertIn("4 of 7   on 4", self.taps.heading.text())
        self.assertNotIn("&", self.taps.script.text())
        self.tap_key(Key.Key_Z)
        self.assertEqual(self.taps.script.text(), whole)
        self.tap_key(Key.Key_X)
        # Where the clip stands now a sound is put in: between 3 and 4, by the picture.
        self.window.clips.look(3.25)
        self.settle()
        self.tap_key(Key.Key_I)
        self.assertEqual(self.taps.script.text(), whole)
        self.assertIn("4 of 8", self.taps.heading.text())
        self.tap_key(*[Key.Key_Comma] * 5, Key.Key_Period)
        self.assertIn("8 ms before its count", self.taps.heading.text())
        self.tap_key(*[Key.Key_Z] * 8)
        self.assertEqual((self.taps.script.text(), "undo" in self.buttons()), (whole, False))

    def test_of_a_clip_that_was_left_nothing_stays(self) -> None:
        self.film()
        self.press(Key.Key_K)
        self.settle()
        self.press(Key.Key_D)
        self.settle()
        self.taps = self.window.write_page.tapping
        self.tap_key(Key.Key_Right)
        # The sound along the thread, and from near, is still being read.
        QTest.keyClick(self.taps, Key.Key_Escape)
        QTest.keyClick(self.view, Key.Key_Escape)
        self.settle()
        self.assertEqual(self.window.write_page.strip.overlay.shade, ())
        self.assertEqual(self.view.close_up.levels, ())

    def test_a_key_that_means_nothing_here_does_nothing_to_the_clip(self) -> None:
        self.draft()
        with mock.patch.object(self.window.clips, "_ask") as asked:
            self.tap_key(Key.Key_O, Key.Key_S, Key.Key_F)
            asked.assert_not_called()
        self.assertEqual(self.window.clips.walls, ())
        self.assertTrue(self.taps.isVisible())


class WordTest(DraftCase):
    def test_words_are_named_confirmed_and_taken(self) -> None:
        self.draft()
        self.tap_key(Key.Key_Y, Key.Key_Down)
        self.assertRegex(self.taps.heading.text(), "^1 of [0-9]+   ")
        self.assertTrue({"so", "in_turn", "hear", "take"} <= self.buttons())
        self.say("step, step, ball change")
        self.assertIn("1 of 5   step on 1", self.taps.heading.text())
        self.assertIn("3 of 5 are as you said", self.taps.said.text())
        self.assertEqual(self.taps.words.text(), "")
        # The next word that nobody has said, and so to the end.
        self.tap_key(Key.Key_O)
        self.assertIn("4 of 5", self.taps.heading.text())
        self.say("step, step, step")
        self.tap_key(*[Key.Key_O] * 3)
        self.assertIn("7 of 7 are as you said", self.taps.said.text())
        self.tap_key(Key.Key_Return)
        said = "1 step 2 step 3& ball change 4 step 5 step 6 step 7 step"
        self.assertEqual(" ".join(self.desk.text.split()), said)

    def test_words_in_order_are_laid_on_though_one_was_not_heard(self) -> None:
        self.draft()
        self.say("step, step, step, step, step, step, step, step, step")
        self.assertIn("was not heard", self.taps.said.text())
        self.say("shuffle")
        self.assertIn("8 sounds are there, and these words have 2", self.window.banner.text)

    def test_the_clip_is_heard_and_then_the_model(self) -> None:
        self.draft()
        self.tap_key(Key.Key_Y, Key.Key_Down)
        with mock.patch.object(self.window.clips, "_hear_model") as model:
            QTest.keyClick(self.taps, Key.Key_M)
            self.assertTrue(comes(lambda: self.window._player.playing))
            model.assert_not_called()
            self.assertTrue(comes(lambda: model.called))
            section = model.call_args.args[0](0.5)
        self.assertAlmostEqual(section.mixing.tempo, 60, delta=1)
        self.assertEqual([sound.kind for sound in section.sounds][:1], ["step"])
        QTest.keyClick(self.taps, Key.Key_M)
        self.assertTrue(comes(lambda: self.window._player.playing))
        self.assertTrue(comes(lambda: not self.window._player.playing))
        self.settle()
        self.assertTrue(comes(lambda: self.window._player.playing), "the model")


class CountsTest(DraftCase):
    def test_found_put_right_and_read_on(self) -> None:
        self.film()
        self.press(Key.Key_1)
        self.assertIn("not known yet", self.window.banner.text)
        self.press(Key.Key_K)
        self.settle()
        if "can be followed" in self.window.banner.text:
            self.fail("eight strikes at 120 a minute are a beat")
        self.assertIn("120 counts a minute", self.view.said.text())
        self.press(Key.Key_J)
        self.assertIn("240 counts a minute", self.view.said.text())
        self.press(Key.Key_H)
        strip = self.window.write_page.strip
        self.assertEqual(strip.stretch.sounds, ())
        self.answers.named = "2.5"
        self.press(Key.Key_G)
        self.press(Key.Key_1)
        self.assertIn("a 1 at 2.5", self.view.said.text())
        self.press(Key.Key_D)
        self.settle()
        taps = self.window.write_page.tapping
        self.assertTrue(taps.script.text().startswith("8 step  1 step  2 step  & step"), taps.script.text())

    def test_tapped_along(self) -> None:
        self.film(sound=False)
        self.press(Key.Key_K)
        self.assertIn("T taps along", self.window.banner.text)
        self.press(Key.Key_L)
        taps = self.window.write_page.tapping
        self.assertEqual(taps.heading.text(), "Tap its beats")
        for time in (1.5, 2.0, 2.5, 3.0, 3.5):
            with mock.patch.object(self.window.clips, "now", return_value=time):
                QTest.keyClick(taps, Key.Key_J)
        QTest.keyClick(taps, Key.Key_Return)
        self.settle()
        self.assertFalse(taps.isVisible())
        self.assertIn("a 1 at 1.5", self.view.said.text())
        # What is tapped now is read on these: its first lies on 2.
        self.tap_along(STEPS)
        self.assertTrue(self.taps.script.text().startswith("2 R step  3 step"), self.taps.script.text())
        self.tap_key(Key.Key_Return)
        (clip,) = self.book.clips
        self.assertAlmostEqual(clip.seconds[0] - clip.counts[0] * 0.5, 1.5, delta=0.05)
        self.key(Key.Key_Z, CTRL)
        self.assertEqual(self.desk.text, "")


if __name__ == "__main__":
    unittest.main()
