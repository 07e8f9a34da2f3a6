"""Times into counts: tunes of a published book, tempos that creep, lilts, and how sure it is."""

import unittest
from fractions import Fraction

import numpy as np

from firn.core.quantise.lilt import lilt
from firn.core.quantise.quantise import quantise
from tests import rhythms
from tests.support import cases

TIME_STEP = [Fraction(0), Fraction(1), Fraction(3, 2), Fraction(2), Fraction(5, 2), Fraction(3), Fraction(15, 4)]


def struck(
    places: list[Fraction], tempo: float, *, jitter_ms: float = 8.0, creep: float = 0.0, seed: int = 1
) -> np.ndarray:
    rng = np.random.default_rng(seed)
    at = np.array([float(p) for p in places])
    times = at * 60 / tempo * (1 - creep * at / at[-1] / 2)
    return np.sort(times + rng.normal(0, jitter_ms / 1000, len(at))) + 2.0


def four_times(pattern: list[Fraction], counts: int = 4) -> list[Fraction]:
    return [p + counts * n for n in range(4) for p in pattern]


class TunesTest(unittest.TestCase):
    def test_ryans_mammoth_collection(self) -> None:
        """Reels, jigs and hornpipes (1883, music21's corpus) at 120, 15 ms of spread, 3 % of creep, tempo unknown."""
        tunes = rhythms.rhythms(10)[::3]
        rng = np.random.default_rng(4)
        scores, rounding = [], []
        for tune in tunes:
            times = rhythms.played(tune, 120, 15, rng)
            read = quantise(times, compound=tune.meter in rhythms.COMPOUND)[0]
            scores.append(rhythms.right_apart(list(read.places), tune))
            rounding.append(rhythms.right(rhythms.rounded(times, tune), tune))
        self.assertGreaterEqual(np.mean(scores), 0.97)
        self.assertLessEqual(1 - np.mean(scores), (1 - np.mean(rounding)) / 2)


class PatternsTest(unittest.TestCase):
    @cases(
        ("counts", [Fraction(0), Fraction(1), Fraction(2), Fraction(3)], 104),
        ("halves", [Fraction(n, 2) for n in range(8)], 116),
        ("a time step", TIME_STEP, 126),
        (
            "sixteenths",
            [Fraction(0), Fraction(1), Fraction(5, 4), Fraction(3, 2), Fraction(7, 4), Fraction(2), Fraction(3)],
            100,
        ),
        (
            "triplets among counts",
            [Fraction(0), Fraction(1), Fraction(4, 3), Fraction(5, 3), Fraction(2), Fraction(5, 2), Fraction(3)],
            110,
        ),
        (
            "shuffled",
            [
                Fraction(0),
                Fraction(2, 3),
                Fraction(1),
                Fraction(5, 3),
                Fraction(2),
                Fraction(8, 3),
                Fraction(3),
                Fraction(11, 3),
            ],
            120,
        ),
    )
    def test_read_at_its_tempo(self, name: str, pattern: list[Fraction], tempo: float) -> None:
        places = four_times(pattern)
        read = quantise(struck(places, tempo), tempo=tempo)[0]
        self.assertEqual([p - read.places[0] for p in read.places], [p - places[0] for p in places], name)
        self.assertAlmostEqual(read.tempo, tempo, delta=2)

    def test_a_tempo_that_creeps_is_followed(self) -> None:
        places = [p + 4 * n for n in range(20) for p in TIME_STEP]
        read = quantise(struck(places, 120, creep=0.10), tempo=126)[0]
        self.assertEqual([p - read.places[0] for p in read.places], places)
        self.assertGreater(read.line.tempo(78) / read.line.tempo(2), 1.05)

    def test_some_minutes(self) -> None:
        """Long ones are followed from the first stretch on."""
        places = [p + 4 * n for n in range(100) for p in TIME_STEP]
        read = quantise(struck(places, 118, jitter_ms=12, creep=0.03), tempo=118)[0]
        right = np.mean([p - read.places[0] == q for p, q in zip(read.places, places, strict=True)])
        self.assertGreater(right, 0.99)

    def test_how_sure_and_what_else(self) -> None:
        """A sound between a half and two thirds of a count is in doubt, and both are named; a plain one is not."""
        places = four_times([Fraction(n) for n in range(4)])
        times = list(struck(places, 100, jitter_ms=4))
        times = sorted([*times, times[5] + 0.585 * 0.6])
        read = quantise(times, tempo=100)[0]
        self.assertLess(read.sure[6], 0.9)
        near = {read.places[6] % 1, *(p % 1 for p, _ in read.others[6])}
        self.assertGreaterEqual(near, {Fraction(1, 2), Fraction(2, 3)})
        self.assertGreater(read.sure[2], 0.99)

    @cases(([1.0],), ([1.0, 1.0],), ([2.0, 1.0],))
    def test_what_is_no_list_of_times(self, times: list[float]) -> None:
        with self.assertRaises(ValueError):
            quantise(times)


class LiltTest(unittest.TestCase):
    @cases((0.5, False), (2 / 3, False), (0.75, False), (0.59, True), (0.7, True))
    def test_the_ratio_is_measured(self, share: float, asked: bool) -> None:
        times = []
        rng = np.random.default_rng(3)
        for count in range(24):
            times += [count * 0.5 + rng.normal(0, 0.004), (count + share) * 0.5 + rng.normal(0, 0.004)]
        found = lilt(times, quantise(times, tempo=120)[0])
        assert found is not None
        self.assertAlmostEqual(found.share, share, delta=0.012)
        self.assertEqual(found.asked, asked)

    def test_none_of_counts_alone(self) -> None:
        times = np.arange(12) * 0.5
        self.assertIsNone(lilt(times, quantise(times)[0]))


if __name__ == "__main__":
    unittest.main()
