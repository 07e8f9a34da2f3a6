"""Loudness against known values, and a take made as loud as the model."""

import unittest

import numpy as np

from firn.core.sound.loudness import as_loud_as, loudness_lufs
from tests.support import cases, oracle


def sine(hz: float, *, level_db: float = 0.0, rate: int = 48_000, seconds: float = 10.0) -> np.ndarray:
    at = np.arange(round(seconds * rate)) / rate
    return (10 ** (level_db / 20) * np.sin(2 * np.pi * hz * at)).astype(np.float32)


class LoudnessTest(unittest.TestCase):
    def test_sines(self) -> None:
        """loudness.json: nominal values of ITU-R BS.1770 (from memory) and readings, to 0.1 LU."""
        kept = oracle("loudness")
        both = np.stack([sine(997, level_db=-23)] * 2, axis=1)
        table = (
            (sine(997), 48_000, kept["sine_0dBFS_997Hz_one_channel"]["nominal_LKFS"]),
            (sine(997, rate=44_100), 44_100, kept["sine_0dBFS_997Hz_one_channel"]["nominal_LKFS"]),
            (sine(100), 48_000, kept["sine_0dBFS_100Hz_one_channel"]["pyloudnorm"]),
            (both, 48_000, kept["sine_minus23dBFS_997Hz_both_channels"]["nominal_LUFS"]),
        )
        for sound, rate, expected in table:
            self.assertAlmostEqual(loudness_lufs(sound, rate) or 0, expected, delta=kept["tolerance_LU"])

    @cases(("short", np.ones(100, dtype=np.float32)), ("silent", np.zeros(48_000, dtype=np.float32)),
           ("none", np.zeros((0, 2), dtype=np.float32)))  # fmt: skip
    def test_nothing_to_measure(self, _: str, sound: np.ndarray) -> None:
        self.assertIsNone(loudness_lufs(sound, 48_000))
        self.assertIs(as_loud_as(sound, 48_000, -20.0), sound)

    @cases(("softer", -20.0, -30.0), ("louder", -40.0, -20.0))
    def test_made_as_loud(self, _: str, level_db: float, wanted: float) -> None:
        made = as_loud_as(sine(997, level_db=level_db), 48_000, wanted)
        self.assertAlmostEqual(loudness_lufs(made, 48_000) or 0, wanted, delta=0.1)

    def test_never_clips_nor_roars(self) -> None:
        self.assertLessEqual(float(np.abs(as_loud_as(sine(997, level_db=-6), 48_000, 0.0)).max()), 0.971)
        soft = sine(997, level_db=-60)
        self.assertAlmostEqual(float(np.abs(as_loud_as(soft, 48_000, -10.0)).max() / np.abs(soft).max()), 10**1.2, 1)


if __name__ == "__main__":
    unittest.main()
