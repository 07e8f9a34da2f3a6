"""What lies under all that is heard (a direct current, wind, the pressure in a room) makes no take deaf."""

import unittest

import mir_eval
import numpy as np

from firn.core.ear.onsets import find_onsets
from tests import shoes, takes
from tests.support import cases


def ball_steps(seed: int) -> shoes.Take:
    """One sound over and over in a hall: each pulse of contact pushes, and nothing that is heard pulls back."""
    rng = np.random.default_rng(98_000 + seed)
    times = shoes.rhythm(rng, 24, least_s=0.15)
    placed = [(float(time), "ball") for time in times]
    audio, truth = shoes.laid(placed, shoes.shoe(rng), shoes.floor(rng), rng, soft_db=8)
    audio = shoes.in_room(audio, 100 + 2 * seed, 0.8)
    return audio / np.abs(audio).max() * 0.8, truth, shoes.RATE


class SwayTest(unittest.TestCase):
    @cases((0,), (1,), (3,), (4,))
    def test_one_sound_in_a_hall(self, seed: int) -> None:
        audio, truth, rate = ball_steps(seed)
        f, _, _ = mir_eval.onset.f_measure(truth, find_onsets(audio, rate).times_s, window=0.01)
        self.assertGreater(f, 0.75)

    @unittest.skipUnless(takes.hits_folder(), "the recorded hits are not there")
    @cases((2,), (5,))
    def test_wind_and_a_direct_current(self, seed: int) -> None:
        audio, truth, rate = shoes.swaying(seed)
        f, _, _ = mir_eval.onset.f_measure(truth, find_onsets(audio, rate).times_s, window=0.01)
        self.assertGreater(f, 0.9)

    @cases((-0.5,), (0.5,))
    def test_a_direct_current_changes_nothing(self, current: float) -> None:
        audio, _, rate = ball_steps(7)
        plain = find_onsets(audio * 0.5, rate)
        with_it = find_onsets(audio * 0.5 + current, rate)
        np.testing.assert_allclose(with_it.times_s, plain.times_s, atol=0.001)
