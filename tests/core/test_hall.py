"""A hall that answers louder than the feet: how long it rings is told from the take, and the feet are heard in it."""

import unittest
from unittest import mock

import numpy as np

from firn.core.ear.hall import onsets_in_hall, ring_of, without_ring
from firn.core.ear.onsets import NONE, find_onsets
from firn.core.ear.undisturbed import verdict_of
from firn.core.ear.verdict import NothingHeard, judge
from tests import dancers, shoes, takes
from tests.support import cases, part

RATE = 48_000
LINE = "1 step & step 2 step 3 touch & step 4 step  5 stomp & step a step 6 step 7 touch & step 8 step"
STRUCK = ["ball", "ball", "ball", "brush", "ball", "ball", "flat", "ball", "ball", "ball", "brush", "ball", "ball"]


def rung(rt60_s: float, rate: int = RATE) -> tuple[np.ndarray, np.ndarray]:
    """Clicks, each with noise behind it that dies away by 60 dB in so long (the definition of reverberation time, ISO
    3382), and when they fall."""
    rng = np.random.default_rng(3)
    sound = rng.standard_normal(12 * rate) * 1e-5
    times = 0.5 + np.cumsum(rng.uniform(0.15, 0.6, 24))
    many = round(rt60_s * rate)
    for time in times:
        first = round(time * rate)
        tail = rng.standard_normal(many) * 10 ** (-3 * np.arange(many) / many) * 0.05
        tail[:20] += 0.3
        piece = tail[: len(sound) - first]
        sound[first : first + len(piece)] += piece
    return sound, times


def far_off(seed: int) -> tuple[np.ndarray, int]:
    """Three passes of the line in a hall of 0.8 s, recorded from so far off that the hall is some 11 dB louder."""
    rng = np.random.default_rng([5, seed])
    places = dancers.pattern_of(part(LINE)).places
    placed = [
        ((float(place) + 8 * n) * 0.5 + 0.8 + rng.normal(0, 0.006), struck)
        for n in range(3)
        for place, struck in zip(places, STRUCK, strict=True)
    ]
    with mock.patch.object(takes, "hits_folder", lambda: None):
        audio, _ = shoes.laid(placed, shoes.shoe(rng), shoes.floor(rng), rng, soft_db=8)
    audio = shoes.hiss(shoes.in_room(audio, 107, 0.8), rng)
    return audio / np.abs(audio).max() * 0.9, shoes.RATE


class HallTest(unittest.TestCase):
    @cases((0.6, RATE), (0.8, RATE), (1.2, 22_050))
    def test_how_long_it_rings(self, rt60_s: float, rate: int) -> None:
        ring = ring_of(rung(rt60_s, rate)[0], rate)
        self.assertTrue(ring.of_a_hall)
        self.assertAlmostEqual(ring.rt60_s, rt60_s, delta=0.15 * rt60_s)

    @cases(
        ("a dry room", rung(0.15)[0]),
        ("noise", np.random.default_rng(1).standard_normal(5 * RATE) * 0.1),
        ("silence", np.zeros(5 * RATE)),
        ("hardly anything", np.zeros(100)),
    )
    def test_no_hall(self, _: str, sound: np.ndarray) -> None:
        self.assertFalse(ring_of(sound, RATE).of_a_hall)
        self.assertIsNone(onsets_in_hall(sound, RATE, NONE))

    def test_what_rings_is_taken_out_and_what_begins_stays(self) -> None:
        sound, times = rung(0.8)
        dry = without_ring(sound, RATE, 0.8)
        self.assertEqual(dry.shape, sound.shape)
        alone = times[:-1][np.diff(times) > 0.4]
        for time in alone:
            begins = slice(round((time - 0.001) * RATE), round((time + 0.004) * RATE))
            rings = slice(round((time + 0.1) * RATE), round((time + 0.3) * RATE))
            self.assertLess(np.sum(dry[rings] ** 2.0), 0.15 * np.sum(sound[rings] ** 2))
            self.assertGreater(np.abs(dry[begins]).max(), 0.5 * np.abs(sound[begins]).max())

    def test_longer_than_it_is_worked_on_at_a_time(self) -> None:
        """The same whatever lies before and after it."""
        sound, _ = rung(0.5)
        twice = without_ring(np.concatenate([sound, sound]), RATE, 0.5)
        once = without_ring(sound, RATE, 0.5)
        np.testing.assert_allclose(twice[: len(once) - RATE], once[:-RATE], atol=1e-3)

    def test_a_take_from_far_off_in_a_hall_is_judged(self) -> None:
        sound, rate = far_off(4)
        heard = find_onsets(sound, rate)
        with self.assertRaises(NothingHeard):
            judge(part(LINE), 120, heard)
        verdict = verdict_of(heard, sound, rate, lambda onsets, task: judge(part(LINE), 120, onsets, task=task))
        self.assertIn(verdict.mend.code, ("clean", "slip"))
        self.assertGreaterEqual(verdict.passes, 2)
