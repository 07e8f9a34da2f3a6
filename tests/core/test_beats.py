"""Beats of recordings: feet that drift, clicks, and what has none; judged with mir_eval."""

import unittest

import mir_eval
import numpy as np

from firn.core.quantise.beats import NONE, beats_of, begins
from tests import shoes, takes
from tests.support import cases

RATE = 22_050


def clicks(tempo: float, seconds: float = 30.0) -> tuple[np.ndarray, np.ndarray]:
    beats = np.arange(0.4, seconds, 60 / tempo)
    sound = np.random.default_rng(1).normal(0, 1e-4, round(seconds * RATE) + 500)
    for beat in beats:
        first = round(beat * RATE)
        sound[first : first + 400] += 0.5 * np.sin(np.arange(400) * 0.4) * np.exp(-np.arange(400) / 80)
    return sound, beats


class BeatsTest(unittest.TestCase):
    @cases((84.0,), (100.0,), (126.0,), (168.0,))
    def test_clicks(self, tempo: float) -> None:
        sound, beats = clicks(tempo)
        found = beats_of(begins(sound, RATE))
        self.assertGreater(mir_eval.beat.f_measure(beats, found.times_s, f_measure_threshold=0.02), 0.97)
        self.assertAlmostEqual(found.bpm, tempo, delta=0.03 * tempo)

    def test_feet_that_drift(self) -> None:
        if takes.hits_folder() is None:
            self.skipTest("the recorded hits (sonic-pi-samples) could not be had")
        scores = []
        for seed in (200, 201):
            audio, beats = shoes.to_a_beat(seed)
            scores.append(mir_eval.beat.f_measure(beats, beats_of(begins(audio, shoes.RATE)).times_s))
        self.assertGreater(np.mean(scores), 0.9)

    def test_too_short(self) -> None:
        self.assertIs(beats_of(begins(np.zeros(RATE), RATE)), NONE)

    def test_a_plain_beat_is_surer_than_a_run_without_one(self) -> None:
        plain, _ = clicks(120)
        alike, _ = clicks(300)
        self.assertGreater(beats_of(begins(plain, RATE)).sure, beats_of(begins(alike, RATE)).sure)


class NoBeatTest(unittest.TestCase):
    def test_silence_has_none(self) -> None:
        self.assertEqual(len(beats_of(begins(np.zeros(44_100 * 4), 44_100)).times_s), 0)

    def test_of_noise_none_is_sure(self) -> None:
        for seed in range(20, 26):
            noise = np.random.default_rng(seed).normal(0, 0.01, 44_100 * 8)
            self.assertLess(beats_of(begins(noise, 44_100)).sure, 0.5, seed)


if __name__ == "__main__":
    unittest.main()
