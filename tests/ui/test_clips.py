"""A clip on Write: looked at by keys, tapped along, drafted from, kept with the part and found again."""

import unittest
from unittest import mock

import numpy as np
import soundfile
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from firn.core.sound.voices import RATE
from tests import films
from tests.session.test_calls import voice
from tests.support import comes, wait
from tests.ui.window import CTRL, SHIFT, WindowCase

Key = Qt.Key
STEPS = [2.0, 2.5, 3.0, 3.25, 3.5, 4.0, 4.5, 5.0]


class ClipCase(WindowCase):
    def film(self, *, sound: bool = True, key_every: int = 30) -> None:
        self.path = self.folder / "open evening.mp4"
        pictures = [films.numbered(n) for n in range(180)]
        films.write(self.path, films.strikes(STEPS, 6.0) if sound else None, pictures=pictures, key_every=key_every)
        self.answers.path = self.path
        self.key(Key.Key_J, CTRL | SHIFT)
        self.view = self.window.write_page.clip
        self.look()

    def look(self) -> int:
        """The number of the picture that is on show, once the last that was wanted is."""
        self.settle()
        self.assertTrue(comes(self._answered))
        self.settle()
        image = self.view.picture.image
        assert image is not None
        pixels = np.frombuffer(image.constBits(), np.uint8).reshape(image.height(), image.bytesPerLine())
        return films.number_of(pixels[:, : 3 * image.width()].reshape(image.height(), image.width(), 3))

    def _answered(self) -> bool:
        frames = self.window.clips._frames
        return frames is not None and frames.told == frames.wanted

    def press(self, key: Key, many: int = 1, modifier: Qt.KeyboardModifier = Qt.KeyboardModifier.NoModifier) -> None:
        for _ in range(many):
            QTest.keyClick(self.view, key, modifier)
            wait(15)

    def tap_along(self, times: list[float]) -> None:
        """Tap with both feet in turn where the clip is at these seconds."""
        self.press(Key.Key_T)
        taps = self.window.write_page.tapping
        for n, time in enumerate(times):
            with mock.patch.object(self.window.clips, "now", return_value=time):
                QTest.keyClick(taps, Key.Key_J if n % 2 == 0 else Key.Key_F)
        QTest.keyClick(taps, Key.Key_Return)
        self.settle()
        self.taps = taps


class LookTest(ClipCase):
    def test_by_picture_by_second_and_by_ten(self) -> None:
        self.film()
        self.assertEqual(self.look(), 0)
        self.press(Key.Key_Right, 4)
        self.assertEqual(self.look(), 4)
        self.press(Key.Key_Left)
        self.assertEqual(self.look(), 3)
        self.press(Key.Key_Right, 2, SHIFT)
        self.assertEqual(self.look(), 63)
        self.press(Key.Key_PageDown)
        self.assertEqual(self.look(), 179)
        self.press(Key.Key_Home)
        self.assertEqual(self.look(), 0)

    def test_to_a_time_that_is_said(self) -> None:
        self.film()
        for said, number in (("0:02.5", 75), ("3,1", 93)):
            self.answers.named = said
            self.press(Key.Key_G)
            self.assertEqual(self.look(), number)
        self.answers.named = "later"
        self.press(Key.Key_G)
        self.assertIn('"later" is no time', self.window.banner.text)
        self.assertEqual(self.look(), 93)

    def test_begin_end_mirrored_and_nearer_are_said_or_seen(self) -> None:
        self.film()
        self.press(Key.Key_Right, 1, SHIFT)
        self.press(Key.Key_B)
        self.press(Key.Key_Right, 3, SHIFT)
        self.press(Key.Key_E)
        self.press(Key.Key_M)
        self.press(Key.Key_N)
        self.assertIn("from 0:01.00 to 0:04.00, mirrored", self.view.said.text())
        self.assertEqual(self.view.picture.near, 1)
        self.press(Key.Key_Minus, 2)
        self.assertIn("at 50% of its speed", self.view.said.text())
        self.press(Key.Key_Escape)
        self.assertFalse(self.view.isVisible())
        self.assertTrue(self.window.write_page.editor.isVisible())

    def test_it_runs_and_stops_where_it_ends(self) -> None:
        self.film()
        self.answers.named = "5.6"
        self.press(Key.Key_G)
        self.press(Key.Key_Space)
        self.assertTrue(comes(lambda: self.window._player.playing))
        self.assertTrue(comes(lambda: not self.window._player.playing))
        self.assertGreater(self.look(), 170)
        self.assertIn("Let it run", self.view.buttons["run"].text())

    def test_while_it_runs_space_stops_it(self) -> None:
        self.film()
        self.press(Key.Key_Minus, 5)
        self.press(Key.Key_Space)
        self.assertTrue(comes(lambda: self.window._player.playing))
        self.press(Key.Key_Space)
        self.assertFalse(self.window._player.playing)
        self.assertLess(self.look(), 12)


class FarTest(ClipCase):
    def test_where_key_frames_lie_far_apart_a_small_copy_stands_in(self) -> None:
        self.enterContext(mock.patch.dict("os.environ", {"XDG_CACHE_HOME": str(self.folder / "cache")}))
        self.film(key_every=1_000)
        self.settle()
        (copy,) = (self.folder / "cache/firn/clips").iterdir()
        said: list[str] = []
        self.window.clips._frames.shown.connect(lambda *_: said.append(self.view.seen.text().split("   ")[0]))
        self.press(Key.Key_PageDown)
        self.assertEqual(self.look(), 179)
        self.press(Key.Key_Left, 3)
        self.assertEqual(self.look(), 176)
        self.assertEqual([one.split(" of ")[0] for one in said[-2:]], ["A small picture", "The picture"])
        self.assertEqual(said[-1].split(" of ")[1], said[-2].split(" of ")[1])
        # The next time it is there already.
        self.press(Key.Key_Escape)
        made = copy.stat().st_mtime_ns
        self.key(Key.Key_J, CTRL | SHIFT)
        self.settle()
        self.press(Key.Key_PageDown)
        self.assertEqual((self.look(), copy.stat().st_mtime_ns), (179, made))


class TakeTest(ClipCase):
    def test_another_pass_slower_and_on_the_other_side_is_held_against_the_part(self) -> None:
        self.film(sound=False)
        self.tap_along(STEPS)
        self.assertFalse(self.taps.buttons["against"].isVisible())
        QTest.keyClick(self.taps, Key.Key_Return)
        self.settle()
        text = self.desk.text
        # The left hand first, at two thirds of the tempo, the fifth left out.
        slower = [1.5 * time for time in STEPS if time != STEPS[4]]
        self.press(Key.Key_T)
        for n, time in zip((0, 1, 2, 3, 5, 6, 7), slower, strict=True):
            with mock.patch.object(self.window.clips, "now", return_value=time):
                QTest.keyClick(self.taps, Key.Key_F if n % 2 == 0 else Key.Key_J)
        QTest.keyClick(self.taps, Key.Key_Return)
        self.settle()
        QTest.keyClick(self.taps, Key.Key_A)
        self.settle()
        self.assertIn(
            "Held against A: once through at 80 a minute, on the other side; left out", self.taps.said.text()
        )
        QTest.keyClick(self.taps, Key.Key_Escape)
        self.assertEqual(self.desk.text, text)

    def test_walls_are_marked_shown_taken_back_and_held_against_the_turns(self) -> None:
        self.film(sound=False)
        self.press(Key.Key_F)
        self.assertIn("facing the front", self.view.said.text())
        self.press(Key.Key_F, 4)
        self.assertNotIn("facing", self.view.said.text())
        self.press(Key.Key_F)
        self.tap_along(STEPS)
        QTest.keyClick(self.taps, Key.Key_Return)
        self.settle()
        strip = self.window.write_page.strip
        self.assertEqual(strip._overlay.walls, ((0.0, "front"),))
        # At four seconds, on the part's fifth count, the back.
        self.answers.named = "4"
        self.press(Key.Key_G)
        self.press(Key.Key_F, 2)
        self.assertIn("facing the back", self.view.said.text())
        self.assertEqual([wall for _, wall in self.book.clips[0].walls], [0, 4])
        self.assertEqual([said for _, said in strip._overlay.walls], ["front", "back"])
        self.key(Key.Key_Z, CTRL)
        self.assertEqual([wall for _, wall in self.book.clips[0].walls], [0, 2])
        self.assertIn("facing the right wall", self.view.said.text())
        # The part does not turn: whoever dances it again so has turned elsewhere.
        self.tap_along(STEPS)
        QTest.keyClick(self.taps, Key.Key_A)
        self.settle()
        self.assertIn("faces the right wall on", self.taps.said.text())

    def test_tapped_along_at_half_speed_becomes_a_part_that_the_picture_follows(self) -> None:
        self.film(sound=False)
        self.press(Key.Key_Minus, 2)
        self.tap_along([time - 0.02 for time in STEPS])
        self.assertIn("At 120 a minute", self.taps.said.text())
        QTest.keyClick(self.taps, Key.Key_Right)
        QTest.keyClick(self.taps, Key.Key_Right)
        self.assertIn("2 of 8   on 2", self.taps.heading.text())
        self.assertEqual(self.look(), 74)
        QTest.keyClick(self.taps, Key.Key_Return)
        self.settle()
        said = "1 R step 2 step 3 step & step 4 step 5 step 6 step 7 step"
        self.assertEqual(" ".join(self.desk.text.split()), said)
        self.assertTrue(self.view.isVisible())
        self.assertIn("tied to the counts", self.view.said.text())
        # Walking the strip, the picture is that of the sound.
        strip = self.window.write_page.strip
        strip.stand_on(4)
        strip.walked.emit(4)
        self.assertEqual(self.look(), 104)
        # As is what is heard of the model.
        self.window.clips.follow(strip.stretch.sounds[1].position, False)
        self.assertEqual(self.look(), 74)
        self.key(Key.Key_Z, CTRL)
        self.assertEqual(self.desk.text, "")
        self.assertEqual(self.window._bridge.book.clips, ())

    def test_the_picture_is_seen_from_afar(self) -> None:
        self.film(sound=False)
        self.tap_along(STEPS)
        away = self.window.stand_back
        self.assertIsNone(away._picture, "not tied to the counts yet")
        QTest.keyClick(self.taps, Key.Key_Return)
        self.settle()
        self.window.write_page.strip.setFocus()
        self.key(Key.Key_F8)
        self.window.clips.follow(self.desk.stretch.sounds[4].position, False)
        self.look()
        shown = away.grab().toImage()
        side, wide, high = away.width() * 0.047, away.width(), away.height()
        middle = shown.pixelColor(round(wide - side - wide * 0.18), round(high * 0.375))
        image = self.view.picture.image
        there = image.pixelColor(image.width() // 2, image.height() // 2)
        for name in ("red", "green", "blue"):
            self.assertLess(abs(getattr(middle, name)() - getattr(there, name)()), 12, name)
        # Word and count keep clear of it.
        left = round(wide - side - wide * 0.36) - 4
        column = {shown.pixelColor(left, y).name() for y in range(round(high * 0.2), round(high * 0.55))}
        self.assertEqual(len(column), 1)
        self.key(Key.Key_Escape, on=away)
        QTest.keyClick(self.view, Key.Key_Escape)
        self.assertIsNone(away._picture)

    def test_behind_what_is_there_the_counts_go_on(self) -> None:
        self.dictate("1-8 step")
        self.settle()
        self.film(sound=False)
        self.tap_along(STEPS)
        QTest.keyClick(self.taps, Key.Key_Return)
        self.settle()
        (clip,) = self.window._bridge.book.clips
        self.assertAlmostEqual(clip.counts[0], 8.0, delta=0.1)
        self.assertAlmostEqual(clip.seconds[0], 2.0, delta=0.05)

    def test_drafted_from_its_sound(self) -> None:
        self.film()
        self.press(Key.Key_D)
        self.settle()
        taps = self.window.write_page.tapping
        self.assertTrue(taps.isVisible())
        self.assertIn("1 step  2 step  3 step  & step  4 step", taps.script.text())
        QTest.keyClick(taps, Key.Key_Escape)
        self.assertTrue(self.view.isVisible())
        self.assertFalse(taps.isVisible())
        self.assertEqual(self.desk.text, "")

    def recording(self, times: list[float]) -> None:
        """Somebody who sings a vowel at these seconds."""
        sound = np.zeros(RATE * 6, np.float32)
        vowel = voice(0.22, before=0, after=0)
        for time in times:
            sound[round(time * RATE) :][: len(vowel)] += vowel
        self.path = self.folder / "sung.wav"
        soundfile.write(self.path, sound, RATE)
        self.answers.path = self.path
        self.key(Key.Key_J, CTRL | SHIFT)
        self.view = self.window.write_page.clip
        self.settle()

    def test_sung_it_is_a_rhythm_with_her_syllables(self) -> None:
        self.recording(STEPS)
        self.press(Key.Key_S)
        self.settle()
        taps = self.window.write_page.tapping
        self.assertEqual(taps.script.text(), "scat: 1 da  2 da  3 da  & da  4 da\nscat: 5 da  6 da  7 da")
        self.assertIn("W: the syllables, in order", taps.said.text())
        for said, told in (
            ("da ba", "8 sounds are sung; 2 syllables are written"),
            ("da ba da di da ba dum dum", ""),
        ):
            QTest.keyClick(taps, Key.Key_W)
            taps.words.setText(said)
            QTest.keyClick(taps.words, Key.Key_Return)
            self.assertIn(told, self.window.banner.text)
        QTest.keyClick(taps, Key.Key_Return)
        self.settle()
        self.assertEqual(self.desk.text, "scat: 1 da  2 ba  3 da  & di  4 da\nscat: 5 ba  6 dum  7 dum")
        self.assertEqual(list(self.desk.part.syllables.values()), ["da", "ba", "da", "di", "da", "ba", "dum", "dum"])
        (clip,) = self.window._bridge.book.clips
        self.assertAlmostEqual(clip.seconds[0], 2.0, delta=0.06)
        self.key(Key.Key_Z, CTRL)
        self.assertEqual(self.desk.text, "")

    def test_a_silent_one_says_what_to_do(self) -> None:
        self.film(sound=False)
        for key in (Key.Key_D, Key.Key_S):
            self.window.banner.say("")
            self.press(key)
            self.assertIn("T taps along", self.window.banner.text)

    def test_kept_with_the_part_and_found_where_it_moved(self) -> None:
        self.film(sound=False)
        self.answers.named = "Wren, at the open evening, May"
        self.press(Key.Key_W)
        self.press(Key.Key_Escape)
        moved = self.folder / "moved.mp4"
        self.path.rename(moved)
        self.key(Key.Key_J, CTRL | SHIFT)
        self.assertTrue(self.view.isVisible())
        self.assertEqual(self.view.heading.text(), "moved.mp4")
        self.assertEqual(self.window._bridge.book.clips[0].said, "Wren, at the open evening, May")
        self.press(Key.Key_Escape)
        moved.unlink()
        self.answers.path = None
        self.key(Key.Key_J, CTRL | SHIFT)
        self.assertIn("neither in", self.window.banner.text)
        self.assertFalse(self.view.isVisible())

    def test_no_clip_any_more(self) -> None:
        self.film(sound=False)
        self.answers.named = "hers"
        self.press(Key.Key_W)
        self.press(Key.Key_Delete)
        self.assertEqual(self.window._bridge.book.clips, ())
        self.assertTrue(self.path.exists())
        self.assertFalse(self.view.isVisible())

    def test_what_is_no_clip_is_said(self) -> None:
        wrong = self.folder / "words.mp4"
        wrong.write_text("words")
        self.answers.path = wrong
        self.key(Key.Key_J, CTRL | SHIFT)
        self.assertIn("no recording that Firn can read", self.window.banner.text)


if __name__ == "__main__":
    unittest.main()
