"""Two claps that stand alone, told from feet, talk and other claps; feet and rooms of a second synthesiser."""

import unittest

import numpy as np

from firn.core.ear.claps import pairs_alone, two_claps
from firn.core.ear.onsets import Onsets
from tests import shoes
from tests.support import cases

RATE = shoes.RATE
Struck = list[tuple[float, str, float]]
"""When, by what, and how many dB under the loudest."""


def recorded(struck: Struck, *, seed: int = 3, rings_s: float = 0.3) -> np.ndarray:
    rng = np.random.default_rng(seed)
    worn, ground = shoes.shoe(rng, kind="leather"), shoes.floor(rng)
    audio = np.zeros(8 * RATE)
    for at, part, under_db in struck:
        sound = shoes.strike(part, worn, ground, rng)[0]
        first = round(at * RATE)
        piece = sound[: len(audio) - first]
        audio[first : first + len(piece)] += 0.3 * 10 ** (-under_db / 20) * piece
    return shoes.hiss(shoes.in_room(audio, 4, rings_s), rng)


PAIR: Struck = [(3.0, "hand", 0), (3.35, "hand", 2)]


class ClapsTest(unittest.TestCase):
    @cases(
        ("alone", PAIR, 1),
        ("over beats far softer", [*PAIR, *((t, "tip", 22) for t in np.arange(0.5, 7, 0.5))], 1),
        ("after dancing", [*((t, "heel", 4) for t in (0.3, 0.6, 0.9, 1.2, 1.5)), *PAIR], 1),
        ("one clap", [(3.0, "hand", 0)], 0),
        ("three", [*PAIR, (3.7, "hand", 1)], 0),
        ("too far apart", [(3.0, "hand", 0), (3.8, "hand", 0)], 0),
        ("one much softer", [(3.0, "hand", 0), (3.35, "hand", 12)], 0),
        ("danced on", [*PAIR, (3.9, "heel", 3)], 0),
        ("two heels", [(3.0, "heel", 0), (3.35, "heel", 0)], 0),
        ("two feet", [(3.0, "flat", 0), (3.35, "flat", 2)], 0),
        ("nothing", [], 0),
    )
    def test_what_is_two_claps(self, _: str, struck: Struck, many: int) -> None:
        audio = recorded(struck)
        found = two_claps(audio, RATE)
        self.assertEqual(len(found), many, found)
        if many:
            self.assertAlmostEqual(found[0], 3.35, delta=0.02)

    def test_too_soft_is_none(self) -> None:
        audio = recorded(PAIR)
        self.assertEqual(len(two_claps(audio, RATE, least_db=0.0)), 0)


Row = tuple[float, float, float]
"""When something begins, how loud it is in dB, and how sure that is."""


class PairsTest(unittest.TestCase):
    """Two onsets that stand alone, by what is known of each."""

    @cases(
        ("two", [(1.0, -20, 1), (1.3, -22, 1)], [1]),
        ("as near as may be", [(0.0, -20, 1), (0.14, -20, 1)], [1]),
        ("too near", [(1.0, -20, 1), (1.13, -20, 1)], []),
        ("as far as may be", [(0.0, -20, 1), (0.62, -20, 1)], [1]),
        ("too far", [(1.0, -20, 1), (1.63, -20, 1)], []),
        ("as unlike as may be", [(1.0, -20, 1), (1.3, -28, 1)], [1]),
        ("the second too soft", [(1.0, -20, 1), (1.3, -28.5, 1)], []),
        ("the first too soft", [(1.0, -28.5, 1), (1.3, -20, 1)], []),
        ("as soft as may be", [(1.0, -40, 1), (1.3, -45, 1)], [1]),
        ("both too soft", [(1.0, -40, 1), (1.3, -45.5, 1)], []),
        ("as unsure as may be", [(1.0, -20, 0.6), (1.3, -20, 1)], [1]),
        ("the first not sure", [(1.0, -20, 0.55), (1.3, -20, 1)], []),
        ("the second not sure", [(1.0, -20, 1), (1.3, -20, 0.55)], []),
        ("three", [(1.0, -20, 1), (1.3, -20, 1), (1.6, -20, 1)], []),
        ("one before", [(0.3, -20, 1), (1.0, -20, 1), (1.3, -20, 1)], []),
        ("one long before", [(0.2, -20, 1), (1.0, -20, 1), (1.3, -20, 1)], [2]),
        ("one after", [(1.0, -20, 1), (1.3, -20, 1), (2.0, -20, 1)], []),
        ("one long after", [(1.0, -20, 1), (1.3, -20, 1), (2.1, -20, 1)], [1]),
        ("a soft one before", [(0.3, -30, 1), (1.0, -20, 1), (1.3, -20, 1)], [2]),
        ("one as soft as may be after", [(1.0, -20, 1), (1.3, -22, 1), (2.0, -31, 1)], [1]),
        ("one too loud after", [(1.0, -20, 1), (1.3, -22, 1), (2.0, -30.5, 1)], []),
        ("twice", [(1.0, -20, 1), (1.3, -20, 1), (3.0, -20, 1), (3.3, -20, 1)], [1, 3]),
        ("none", [], []),
    )
    def test_alone(self, _: str, rows: list[Row], seconds: list[int]) -> None:
        times, levels, sure = np.array(rows, dtype=float).reshape(-1, 3).T
        self.assertEqual(pairs_alone(Onsets(times, levels, sure), -45.0), seconds)


if __name__ == "__main__":
    unittest.main()
