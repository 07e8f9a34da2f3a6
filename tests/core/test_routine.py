"""Takes of whole combos: cut into passes, each judged as what it is, and what was left out."""

import unittest
from collections.abc import Sequence

import numpy as np

from firn.core.ear.onsets import Onsets
from firn.core.ear.routine import Routine, first_sentence, routine, worst_of
from firn.core.ear.verdict import NothingHeard
from firn.core.piece.build import piece_from
from firn.core.piece.unfold import Pass, unfold
from firn.session.listening import routine_data, routine_lines
from tests.dancers import pattern_of
from tests.support import cases

TEMPO = 116.0
PIECE = piece_from(
    """tradition: tap
part A
1 flap  2 flap  3 flap  4 step
5 flap  6 flap  7 flap  8 step
part Break
1 stamp  2 clap  3 stamp  4 clap  5 stamp  6 stamp  7 stamp  8 hold
part B
1 shuffle step  2 shuffle step  3 stamp  4 stamp  5 step  6 hold  7 step  8 clap
combo
A x2, Break, B x2, Break
"""
)
WANTED = unfold(PIECE).passes


def take(passes: Sequence[Pass], *, pause: int | None = None, late: int | None = None, seed: int = 0) -> Onsets:
    """Passes one after another, with 6 ms of jitter; 1.7 s of rest before one, a sound late in one."""
    rng = np.random.default_rng(seed)
    times = []
    at = 0.8
    for number, one in enumerate(passes):
        at += 1.7 if number == pause else 0.0
        places = pattern_of(one.part).places
        times += [
            at + float(place) * 60 / TEMPO + (0.06 if number == late and index == 2 else 0.0)
            for index, place in enumerate(places)
        ]
        at += one.part.counts * 60 / TEMPO
    heard = np.sort(np.array(times) + rng.normal(0, 0.006, len(times)))
    return Onsets(heard, np.full(len(heard), -14.0))


def names(one: Routine) -> list[str]:
    return [p.part.name for p in one.passes]


class RoutineTest(unittest.TestCase):
    @cases(
        ("once", WANTED, {}, []),
        ("twice", (*WANTED, *WANTED), {}, []),
        ("with a pause", WANTED, {"pause": 2}, []),
        ("the break left out", (*WANTED[:2], *WANTED[3:]), {}, [("Break", "A")]),
        ("A once fewer", WANTED[1:], {}, [("A", "A")]),
        ("stopped before the end", WANTED[:4], {}, []),
    )
    def test_cut_into_its_passes(
        self, _: str, danced: Sequence[Pass], how: dict[str, int], left_out: list[tuple[str, str]]
    ) -> None:
        for seed in range(2):
            one = routine(WANTED, TEMPO, take(danced, seed=seed, **how))
            self.assertEqual(names(one), [p.part.name for p in danced])
            self.assertEqual(list(one.left_out), left_out)
            self.assertTrue(one.fits)
            self.assertGreater(one.sure, 0.9)

    def test_the_side_is_that_of_the_pass_it_stands_for(self) -> None:
        one = routine(WANTED, TEMPO, take(WANTED))
        self.assertEqual([p.wanted for p in one.passes], list(WANTED))

    def test_each_is_judged(self) -> None:
        one = routine(WANTED, TEMPO, take(WANTED, late=3))
        worst = worst_of(one)
        assert worst is not None
        self.assertEqual((worst[0].name, worst[1].mend.code), ("B", "late"))
        self.assertIn("B: The right shuffle step on 1: its step comes", first_sentence(one))
        data = routine_data(one, "Bench")
        results = [row["result"] for row in data["passes"]]
        self.assertEqual(results, ["clean", "clean", "clean", "1 not on", "clean", "clean"])
        self.assertEqual((data["fault"]["code"], data["fault"]["pass"]), ("late", 4))
        self.assertEqual(len(data["sounds"]), sum(len(pattern_of(p.part).places) for p in WANTED))

    def test_what_is_said_first(self) -> None:
        for danced, said in (
            ((*WANTED[:2], *WANTED[3:]), "Break was left out after A."),
            (WANTED[1:], "A was danced once fewer than the combo has it."),
            ((*WANTED[:2], WANTED[1], *WANTED[2:]), "A was danced once more than the combo has it"),
        ):
            one = routine(WANTED, TEMPO, take(danced))
            self.assertTrue(first_sentence(one).startswith(said), first_sentence(one))
            self.assertEqual(routine_lines(one)[-1], first_sentence(one))

    def test_another_dance_is_told(self) -> None:
        times = np.sort(np.random.default_rng(2).uniform(0.5, 24, 90))
        try:
            one = routine(WANTED, TEMPO, Onsets(times, np.full(90, -14.0)))
        except NothingHeard:
            return
        self.assertFalse(one.fits)
        self.assertEqual(routine_data(one, "Bench")["match"]["is"], "nothing")
        self.assertIn("hardly fits the combo", routine_lines(one)[0])

    def test_silence(self) -> None:
        with self.assertRaises(NothingHeard):
            routine(WANTED, TEMPO, Onsets(np.zeros(0), np.zeros(0)))
        with self.assertRaises(NothingHeard):
            routine(WANTED, TEMPO, Onsets(np.array([0.5, 9.0]), np.zeros(2)))


if __name__ == "__main__":
    unittest.main()
