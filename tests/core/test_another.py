"""What differs in every pass is another part, or how it was learnt; what differs in one is a slip."""

import re
import unittest
from collections.abc import Iterable

import numpy as np

from firn.core.ear.onsets import Loudness, Onsets
from firn.core.ear.verdict import WrongTake, judge, which
from firn.core.ear.words import mend_sentence
from tests.dancers import Manner, danced, pattern_of
from tests.support import cases, part

LINE = "1 stamp  & step  2 step  3 hop  & step  4 step  5 stamp  & step  6 step  7 stamp  8 hold"
MANY = 10
TEMPO = 112.0
QUIET = {"missed": 0.0, "added": 0.0, "clock": 0.004, "stroke_s": 0.004}


def take(passes: int, *, without: Iterable[int] = (), after: Iterable[int] = (), slips: bool = False) -> np.ndarray:
    """Onsets of passes of the line without some of its sounds, and with some after others; with slips these are in
    one pass each."""
    how = Manner(TEMPO, passes=(1.0,) * passes, **QUIET)
    times = danced(pattern_of(part(LINE)), how, np.random.default_rng(8)).onsets_s
    assert len(times) == passes * MANY

    def where(sounds: Iterable[int]) -> list[int]:
        every = [(p, i) for n, i in enumerate(sounds) for p in range(passes) if not slips or p == n % passes]
        return [p * MANY + i for p, i in every]

    kept = np.delete(times, where(without))
    beside = [(times[at] + times[at + 1]) / 2 for at in where(after)]
    return np.sort(np.concatenate([kept, beside]))


def heard(times: np.ndarray, faint: Iterable[float] = ()) -> Onsets:
    begins = np.array(list(faint))
    soft = Onsets(begins, np.full(len(begins), -40.0), np.full(len(begins), 0.2))
    return Onsets(times, np.full(len(times), -14.0), np.full(len(times), 0.999), soft)


class AnotherTest(unittest.TestCase):
    @cases(
        ("two missing", 3, (2, 6), (), "what is on 2 and 5 is missing. Is it a take of another part?"),
        ("two too many", 4, (), (5, 8), "sounds it does not have come after 4 and 6."),
        (
            "one missing, one too many",
            3,
            (2,),
            (5,),
            "what is on 2 is missing, and a sound it does not have comes after 4.",
        ),
        ("three of two passes", 2, (2, 4), (8,), "what is on 2 and & after 3 is missing, and a sound "),
    )
    def test_what_differs_in_every_pass_is_asked(
        self, _: str, passes: int, without: tuple[int, ...], after: tuple[int, ...], said: str
    ) -> None:
        onsets = heard(take(passes, without=without, after=after))
        with self.assertRaisesRegex(WrongTake, re.escape("This may not be A: in every pass " + said)) as raised:
            judge(part(LINE), TEMPO, onsets)
        self.assertEqual(raised.exception.match.what, "nothing")
        self.assertEqual(judge(part(LINE), TEMPO, onsets, anyway=True).passes, passes)

    @cases(
        ("one missing", 3, (2,), (), False, "missing"),
        ("one too many", 3, (), (5,), False, "added"),
        ("two of two passes", 2, (2, 6), (), False, "missing"),
        ("slips", 4, (2, 5, 8), (3,), True, "slip"),
    )
    def test_a_habit_and_slips_are_its_own(
        self, _: str, passes: int, without: tuple[int, ...], after: tuple[int, ...], slips: bool, code: str
    ) -> None:
        onsets = heard(take(passes, without=without, after=after, slips=slips))
        self.assertEqual(judge(part(LINE), TEMPO, onsets).mend.code, code)

    def test_a_hold_that_is_left_out_is_one_difference_more(self) -> None:
        """The hold on 8 left out is a fault; with a sound that is missing each time it may be another part."""
        for without, asked in (((), False), ((2,), True)):
            many = MANY - len(without)
            times = take(3, without=without)
            onsets = heard(np.concatenate([times[p * many : (p + 1) * many] - p * 60 / TEMPO for p in range(3)]))
            with self.subTest(without=without):
                if not asked:
                    self.assertEqual(judge(part(LINE), TEMPO, onsets).mend.code, "hold_dropped")
                    continue
                said = "in every pass a hold is left out, and what is on 2 is missing."
                with self.assertRaisesRegex(WrongTake, re.escape(said)):
                    judge(part(LINE), TEMPO, onsets)

    def test_another_feel_is_one_difference_more(self) -> None:
        """All swung is a fault of feel; with a sound that is missing each time it may be another part."""
        swung = part(LINE, feel="swing")
        how = Manner(TEMPO, passes=(1.0,) * 3, **QUIET)
        times = danced(pattern_of(swung), how, np.random.default_rng(8)).onsets_s
        self.assertEqual(judge(part(LINE), TEMPO, heard(times)).mend.code, "swing")
        gone = heard(np.delete(times, [2, 2 + MANY, 2 + 2 * MANY]))
        with self.assertRaisesRegex(WrongTake, "in every pass it swings, and what is on 2 is missing"):
            judge(part(LINE), TEMPO, gone)

    def test_two_too_many_at_one_place_are_two(self) -> None:
        times = take(3)
        at = times[[8, 18, 28]]
        beside = np.concatenate([at + np.array(late) for late in ((0.15, 0.2, 0.18), (0.36, 0.33, 0.39))])
        with self.assertRaisesRegex(WrongTake, re.escape("in every pass a sound it does not have comes after 6")):
            judge(part(LINE), TEMPO, heard(np.sort(np.concatenate([times, beside]))))

    def test_what_nobody_can_tell_is_no_other_part(self) -> None:
        times = take(3, without=(2, 6))
        levels = np.full(len(times), -14.0)
        every = np.arange(0, 20, 0.01)
        # As loud everywhere: what is due and not heard would not stand out. Or all is hard to tell from the room.
        rings = Onsets(times, levels, np.full(len(times), 0.9), loud=Loudness(every, np.full(len(every), -14.0)))
        unsure = Onsets(times, levels, np.full(len(times), 0.8))
        verdict = judge(part(LINE), TEMPO, rings)
        self.assertEqual((verdict.mend.code, verdict.unplain), ("clean", True))
        self.assertLess(verdict.mend.sure, 0.5)
        self.assertIn("; 6 sounds are not heard.", mend_sentence(verdict.mend))
        self.assertEqual(judge(part(LINE), TEMPO, unsure).mend.code, "missing")
        still = Onsets(times, levels, np.full(len(times), 0.95), loud=Loudness(every, np.full(len(every), -60.0)))
        with self.assertRaises(WrongTake):
            judge(part(LINE), TEMPO, still)


class FaintTest(unittest.TestCase):
    def test_what_is_faint_where_it_is_due_counts_for_it(self) -> None:
        whole, soft = take(3), (1, 3, 4, 6)
        gone = [p * MANY + i for p in range(3) for i in soft]
        plain = np.delete(whole, gone)
        elsewhere = np.random.default_rng(3).uniform(whole[0], whole[-1], 2 * len(gone))
        for faint, is_this in (((), False), (whole[gone], True), (np.sort(elsewhere), False)):
            found = which(part(LINE), TEMPO, heard(plain, faint))
            self.assertEqual(found.what == "this", is_this, found.passes.share)


if __name__ == "__main__":
    unittest.main()
