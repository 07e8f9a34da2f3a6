"""Slow play: each attack where it belongs and as sharp as it was, nothing before it, the pitch unchanged."""

import unittest

import numpy as np

from firn.core.ear.onsets import find_onsets
from firn.core.sound.slow import slowed
from tests.films import strikes
from tests.support import cases

RATE = 48_000
TRUE = [0.5 + 0.21 * k for k in range(8)] + [2.3, 2.335, 2.6]
SOUND = strikes(TRUE, 3.0)


class SlowTest(unittest.TestCase):
    @cases((0.75,), (0.5,), (0.25,), (0.1,))
    def test_attacks_keep_their_times(self, speed: float) -> None:
        out = slowed(SOUND, RATE, speed, TRUE)
        self.assertEqual(len(out), round(len(SOUND) / speed))
        found = find_onsets(out, RATE).times_s * speed
        for time in TRUE:
            # A thousandth of a second at full speed.
            self.assertLess(np.abs(found - time).min(), 0.001)
        self.assertEqual(len(found), len(TRUE))

    def test_an_attack_is_as_it_was_and_nothing_comes_before_it(self) -> None:
        speed = 0.25
        out = slowed(SOUND, RATE, speed, TRUE)
        begin = round(TRUE[3] * RATE)
        laid = round((TRUE[3]) / speed * RATE)
        np.testing.assert_allclose(out[laid : laid + 900], SOUND[begin : begin + 900], atol=1e-6)
        before = out[laid - 2_400 : laid - 120]
        self.assertLess(np.abs(before).max(), 0.02 * np.abs(SOUND).max())

    def test_the_pitch_stays(self) -> None:
        tone = np.sin(2 * np.pi * 220 * np.arange(2 * RATE) / RATE)
        for speed in (0.5, 0.25):
            out = slowed(np.stack([tone, tone], axis=1), RATE, speed, [])
            spectrum = np.abs(np.fft.rfft(out[RATE : 2 * RATE, 0] * np.hanning(RATE)))
            self.assertEqual(int(np.argmax(spectrum)), 220)
            level = np.abs(out[RATE : 2 * RATE, 0].reshape(-1, 1_000)).max(axis=1)
            self.assertLess(level.max() - level.min(), 0.05)

    def test_full_speed_is_the_sound_itself_and_no_speed_is_refused(self) -> None:
        np.testing.assert_array_equal(slowed(SOUND, RATE, 1.0, TRUE), SOUND)
        self.assertEqual(len(slowed(SOUND[:0], RATE, 0.5, [])), 0)
        for wrong in (0.05, 1.5):
            with self.assertRaises(ValueError):
                slowed(SOUND, RATE, wrong, [])


if __name__ == "__main__":
    unittest.main()
