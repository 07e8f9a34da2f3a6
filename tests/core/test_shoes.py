"""What struck, on feet of a second synthesiser: told by examples, by a take that is known, not of other shoes."""

import unittest
from functools import lru_cache

import numpy as np
from msgspec.structs import replace

from firn.core.ear.onsets import Onsets, find_onsets
from firn.core.ear.shoes import Otherwise, Shoes, contradicted, examples_in, learnt, learnt_from, otherwise, told
from firn.core.ear.timbre import Exchanged, class_of
from firn.core.ear.verdict import judge
from tests import shoes, takes
from tests.studio import FIVE, SHOWN, Studio
from tests.support import cases, part

KINDS = ("heel", "ball", "flat", "brush", "hand")
LINE = """1 stamp  & brush  2 step  & heel  3 brush  & step  4 stamp  & heel
5 step  & brush  6 heel  & step  7 stamp  8 clap"""
STRIKES = {shown: struck for struck, shown in SHOWN.items()}
TEMPO = 104.0


def at(*times_s: float) -> Onsets:
    """Onsets at these times."""
    times = np.array(times_s, dtype=np.float64)
    return Onsets(times, np.zeros(len(times)), np.ones(len(times)))


class ExamplesTest(unittest.TestCase):
    @cases(
        ("two kinds of five", 2, [0, 0.6, 1.2, 1.8, 2.4, 5.4, 6, 6.6, 7.2, 7.8], [5, 5]),
        ("of three", 2, [0, 0.6, 1.2, 4, 4.6, 5.2], [3, 3]),
        ("one not heard", 2, [0, 0.6, 1.8, 2.4, 5.4, 6, 6.6, 7.2, 7.8], [4, 5]),
        ("an echo of each", 2, [0, 0.1, 0.6, 0.7, 1.2, 1.3, 4, 4.6, 5.2], [3, 3]),
        ("no rest between", 2, [0, 0.6, 1.2, 1.8, 2.4, 3.0], None),
        ("three kinds, said to be two", 2, [0, 0.6, 1.2, 4, 4.6, 5.2, 8, 8.6, 9.2], None),
        ("too few of one", 2, [0, 0.6, 1.2, 4, 4.6], None),
        ("none", 2, [], None),
    )
    def test_parted_at_the_rests(self, _: str, kinds: int, times: list[float], sizes: list[int] | None) -> None:
        groups = examples_in(at(*times), kinds)
        self.assertEqual(groups and [len(group) for group in groups], sizes)


@lru_cache(maxsize=2)
def taught(seed: int) -> tuple[Studio, Shoes]:
    """Shoes, and what is known of them by five examples of each kind."""
    one = Studio(seed)
    audio = one.examples(KINDS)
    groups = examples_in(find_onsets(audio, shoes.RATE), len(KINDS))
    assert groups is not None and [len(group) for group in groups] == [FIVE] * len(KINDS)
    return one, learnt({SHOWN[k]: g for k, g in zip(KINDS, groups, strict=True)}, audio, shoes.RATE)


def danced(one: Studio, instead: dict[int, str] | None = None, passes: int = 3) -> np.ndarray:
    """A take of the line; some sounds struck with another part of the foot."""
    sounds = part(LINE).sounds
    placed = [
        ((float(s.position) + 8 * time) * 60 / TEMPO + 0.6 + one.rng.normal(0, 0.006),
         (instead or {}).get(index) or STRIKES[class_of(s.kind)])
        for time in range(passes) for index, s in enumerate(sounds)
    ]  # fmt: skip
    return one.take(placed)[0]


class StruckTest(unittest.TestCase):
    def setUp(self) -> None:
        if takes.hits_folder() is None:
            self.skipTest("the recorded hits (sonic-pi-samples) could not be had")

    def test_most_are_told_and_hardly_one_wrong(self) -> None:
        one, known = taught(1)
        audio, truth, parts = one.danced(KINDS)
        said = told(known, audio, shoes.RATE, truth)
        right = [one.kind == SHOWN[kind] for one, kind in zip(said, parts, strict=True)]
        self.assertGreater(np.mean(right), 0.85)
        self.assertLess(np.mean([bool(one.kind) and not good for one, good in zip(said, right, strict=True)]), 0.04)
        self.assertTrue(all(0 <= one.sure <= 1 and one.kind not in one.others for one in said))

    def test_nothing_of_nothing(self) -> None:
        _, known = taught(1)
        self.assertEqual(told(known, np.zeros(shoes.RATE, np.float32), shoes.RATE, []), [])
        # Another rate has other bands, and other colours.
        (one,) = told(known, np.ones(8_000, np.float32), 8_000, [0.5])
        self.assertEqual((one.kind, one.sure), ("", 0.0))
        self.assertTrue(known.hears(48_000))
        with self.assertRaises(ValueError):
            learnt({"heel": [1.0, 2.0, 3.0], "ball": [4.0]}, np.zeros(shoes.RATE * 6, np.float32), shoes.RATE)

    def otherwise(self, audio: np.ndarray, known: Shoes) -> list[tuple[int, str]]:
        one = part(LINE)
        verdict = judge(one, TEMPO, find_onsets(audio, shoes.RATE))
        return [(o.sound, o.kind) for o in otherwise(one, verdict.judged, audio, shoes.RATE, known)]

    @cases((4, "ball", "ball"), (3, "ball", "ball"), (10, "ball", "ball"))
    def test_another_part_of_the_foot(self, index: int, struck: str, kind: str) -> None:
        one, known = taught(2)
        self.assertEqual(self.otherwise(danced(one, {index: struck}), known), [(index, kind)])

    def test_as_it_is_written_nothing_is_said(self) -> None:
        one, known = taught(2)
        self.assertEqual(self.otherwise(danced(one), known), [])

    def test_once_alone_is_no_habit_and_of_several_the_most(self) -> None:
        one, known = taught(2)
        self.assertEqual(self.otherwise(danced(one, {4: "ball"}, passes=1), known), [])
        self.assertEqual(self.otherwise(danced(one, {4: "ball"}, passes=2), known), [(4, "ball")])

    def test_like_nothing_that_was_taught(self) -> None:
        """What lies far from all kinds is none of them, however much nearer it is to one."""
        _, known = taught(2)
        rng = np.random.default_rng(1)
        tone = np.sin(2 * np.pi * 3_000 * np.arange(shoes.RATE) / shoes.RATE) + 1e-4 * rng.standard_normal(shoes.RATE)
        tone[: shoes.RATE // 2] = 1e-4 * rng.standard_normal(shoes.RATE // 2)
        (found,) = told(replace(known, usual=known.usual / 20), tone, shoes.RATE, [0.5])
        self.assertEqual((found.kind, found.sure, found.others), ("", 0.0, ()))

    def test_known_from_a_take_that_was_right(self) -> None:
        one, line = Studio(4), part(LINE)
        clean = danced(one)
        verdict = judge(line, TEMPO, find_onsets(clean, shoes.RATE))
        known = learnt_from(line, verdict.judged, clean, shoes.RATE)
        self.assertEqual(set(known.kinds), {"flat", "airy", "ball", "heel", "hand"})
        self.assertEqual(self.otherwise(danced(one, {1: "heel"}), known), [(1, "heel")])

    def test_of_other_shoes_nothing_is_said(self) -> None:
        """Where most sounds are not as they are written it is not the dancer who is wrong."""
        _, known = taught(2)
        swapped = replace(known, kinds=known.kinds[1:] + known.kinds[:1])
        one, _ = taught(2)
        self.assertEqual(self.otherwise(danced(one), swapped), [])


class ContradictedTest(unittest.TestCase):
    """The line's first sounds are a stamp (flat) and a brush (airy)."""

    @cases(
        ("both as written", ("flat", "airy"), [], True),
        ("the first as the second", ("flat", "airy"), [(0, "airy")], False),
        ("the second as the first", ("flat", "airy"), [(1, "flat")], False),
        ("the first as something else", ("flat", "airy"), [(0, "heel")], True),
        ("another sound", ("flat", "airy"), [(2, "airy")], True),
        ("one kind not known", ("flat", "heel"), [], False),
        ("neither known", ("heel", "hand"), [], False),
    )
    def test_in_known_shoes(self, _: str, kinds: tuple[str, ...], found: list[tuple[int, str]], said: bool) -> None:
        known = Shoes(kinds, np.zeros((2, 1)), np.eye(1), 1.0, shoes.RATE)
        others = [Otherwise(at, kind, 3, 3, 1.0) for at, kind in found]
        self.assertEqual(contradicted(part(LINE), Exchanged((0, 1), 3, 3, 1.0), others, known), said)


if __name__ == "__main__":
    unittest.main()
