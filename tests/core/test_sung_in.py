"""Where syllables begin in what is sung: vowels at known times between hisses and clicks."""

import unittest

import mir_eval
import numpy as np

from firn.core.quantise.sung import sung
from tests.session.test_calls import voice
from tests.support import cases

RATE = 22_050
RNG = np.random.default_rng(9)


def hiss(seconds: float, level: float = 0.2) -> np.ndarray:
    """An s: noise above 3 kHz."""
    noise = RNG.standard_normal(round(seconds * RATE))
    return level * np.diff(np.diff(noise, prepend=0.0), prepend=0.0) / 3


def line(times: list[float], *, led_by: float = 0.0, ended_by: float = 0.0, noise_db: float = -60) -> np.ndarray:
    """Vowels at times, each led by a hiss and ended by one of so many seconds."""
    sound = np.zeros(round((times[-1] + 1.2) * RATE))
    for n, time in enumerate(times):
        long = min(0.24, (times[n + 1] - time if n + 1 < len(times) else 1.0) * 0.6)
        vowel, at = voice(long, RATE, before=0, after=0), round(time * RATE)
        sound[at : at + len(vowel)] += vowel
        for many, first in ((led_by, at - round(led_by * RATE)), (ended_by, at + len(vowel))):
            if many:
                said = hiss(many)
                sound[max(0, first) : max(0, first) + len(said)] += said
    return sound + 10 ** (noise_db / 20) * RNG.standard_normal(len(sound))


RHYTHM = [0.7, 1.2, 1.7, 1.95, 2.2, 2.7, 3.45, 3.7, 4.2]


class SungTest(unittest.TestCase):
    @cases(
        ("vowels alone", {}),
        ("led by an s", {"led_by": 0.1}),
        ("ended by an s", {"ended_by": 0.08}),
        ("over a room's noise", {"noise_db": -38, "led_by": 0.06}),
    )
    def test_where_vowels_begin(self, _: str, how: dict) -> None:
        found = sung(line(RHYTHM, **how), RATE)
        score, precision, recall = mir_eval.onset.f_measure(np.array(RHYTHM), found, window=0.04)
        self.assertEqual((score, precision, recall), (1.0, 1.0, 1.0), found)

    @cases(("silence", np.zeros(RATE)), ("nothing", np.zeros(0)), ("an s alone", np.pad(hiss(0.4, 0.02), RATE)),
           ("hum", 0.1 * np.sin(np.arange(2 * RATE) * 2 * np.pi * 50 / RATE)))  # fmt: skip
    def test_where_nobody_sings(self, _: str, sound: np.ndarray) -> None:
        self.assertLessEqual(len(sung(sound, RATE)), 1)


if __name__ == "__main__":
    unittest.main()
