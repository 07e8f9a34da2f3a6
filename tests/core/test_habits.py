"""Several passes compared, a take against Firn's click, and the student who does what is planted."""

import unittest
from collections import Counter

import numpy as np

from firn.core.ear.asked.take import early_or_late
from firn.core.ear.click import Click
from firn.core.ear.onsets import Onsets, find_onsets
from firn.core.ear.student import Faults, dance
from firn.core.ear.targets import targets_of
from firn.core.ear.verdict import Verdict, judge
from firn.core.ear.whole import whole
from firn.core.ear.words import facts, mend_sentence
from firn.core.piece.piece import Part
from firn.core.sound.voices import RATE
from tests.support import cases, part

A = "8 stomp  1 hop  2 step  &3 flap  & step\n4 stomp  5 hop  6 step  &7 flap  & step"


def taken(one: Part, slips: dict[tuple[int, int], float | None], *, passes: int = 4, at: float = 0.5,
          click: Click | None = None) -> Verdict:  # fmt: skip
    """A take by exact times; `slips`: by pass and the part's sound, ms late, or None for not danced."""
    times = []
    for target in targets_of(one.sounds, 120, counts=one.counts, passes=passes):
        late = slips.get((target.time, target.sounds[0]), 0.0)
        if late is not None:
            times.append(at + target.seconds + late / 1000)
    return judge(one, 120, Onsets(np.array(times), np.full(len(times), -15.0)), passes=passes, click=click)


class HabitsTest(unittest.TestCase):
    @cases(
        ("once in four is a slip", {(1, 3): 60.0}, "slip",
         "Slips, no habit: once in 4 the left flap on & after 2: its brush came 60 ms late."),
        ("twice in four is a habit", {(1, 3): 60.0, (3, 3): 60.0}, "late",
         "The left flap on & after 2: its brush comes 60 ms late, 2 of 4 times."),
        ("a habit of timing before a missing slip", {(0, 5): None, **{(p, 3): -50.0 for p in range(4)}}, "early",
         "The left flap on & after 2: its brush comes 50 ms early, 4 of 4 times."),
        ("a missing habit before one of timing", {(p, s): None if s == 3 else 50.0 for p in range(4) for s in (3, 8)},
         "missing", "The left flap on & after 2: its brush is not heard, 4 of 4 times."),
        ("slips of two kinds", {(0, 4): None, (2, 7): 40.0}, "slip",
         "Slips, no habit: once in 4 the left flap on 3: its step was not heard, and 1 more such."),
        ("none", {}, "clean", "Clean: every sound is there and on time, within 0 ms as a rule."),
    )  # fmt: skip
    def test_one_slip_is_not_a_habit(self, _: str, slips: dict, code: str, said: str) -> None:
        verdict = taken(part(A), slips)
        self.assertEqual((verdict.mend.code, mend_sentence(verdict.mend)), (code, said))

    def test_a_single_pass_has_only_that_to_go_by(self) -> None:
        self.assertEqual(taken(part(A), {(0, 3): 60.0}, passes=1).mend.code, "late")

    def test_time_by_time(self) -> None:
        one = part(A)
        verdict = taken(one, {(1, 3): 60.0, (1, 8): None, (3, 3): 60.0})
        self.assertEqual(whole(one, verdict).off_by_pass, (0, 2, 0, 1))
        self.assertIn("Time by time: 0, 2, 0, 1 not on.", facts(one, whole(one, verdict)))


class ClickTest(unittest.TestCase):
    """A take made to a click whose first count is due at 1 s."""

    CLICK = Click(1.0)

    @cases(
        ("with it", 1.0, {}, "clean", 0, 0),
        ("feet lead a little", 0.992, {}, "clean", -8, 0),
        ("behind all along", 1.040, {}, "behind", 40, 0),
        ("ahead all along", 0.965, {}, "ahead", -35, 0),
        ("a late start, then with it", 1.5, {}, "came_in", 0, 1),
        ("two counts late and behind", 2.030, {}, "behind", 30, 2),
        ("one sound late", 1.0, {(p, 3): 60.0 for p in range(4)}, "late", 0, 0),
        ("a missing sound goes before", 1.040, {(p, 3): None for p in range(4)}, "missing", 40, 0),
    )  # fmt: skip
    def test_steady_lateness_is_told_from_a_late_start(
        self, _: str, at: float, slips: dict, code: str, lag: float, came_in: int
    ) -> None:
        verdict = taken(part(A), slips, at=at, click=self.CLICK)
        assert verdict.kept is not None
        self.assertEqual((verdict.mend.code, verdict.kept.came_in, verdict.kept.lost), (code, came_in, False))
        self.assertAlmostEqual(verdict.kept.lag_ms, lag, delta=0.5)

    def test_without_a_click_only_the_takes_own_line_is_known(self) -> None:
        verdict = taken(part(A), {}, at=1.040)
        self.assertEqual((verdict.mend.code, verdict.kept), ("clean", None))

    def test_a_tempo_of_its_own_is_not_with_the_click(self) -> None:
        one = part(A)
        times = np.array([t.seconds for t in targets_of(one.sounds, 110, counts=8, passes=2)]) + 1
        verdict = judge(one, 120, Onsets(times, np.full(len(times), -15.0)), click=self.CLICK)
        assert verdict.kept is not None
        self.assertEqual((verdict.kept.lost, verdict.mend.code), (True, "clean"))
        self.assertIn("Not with the click: the take has a tempo of its own.", facts(one, whole(one, verdict)))

    def test_said(self) -> None:
        one = part(A)
        verdict = taken(one, {}, at=2.030, click=self.CLICK)
        self.assertEqual(facts(one, whole(one, verdict))[:2], ["Came in 2 counts late.",
                         "30 ms behind the click, in the middle."])  # fmt: skip
        self.assertEqual(mend_sentence(verdict.mend),
                         "All of it is 30 ms behind the click, evenly: let the foot land on it.")  # fmt: skip


class StudentTest(unittest.TestCase):
    def heard(self, faults: Faults, passes: int = 2) -> tuple[Part, Verdict]:
        one = part(A)
        danced = dance(one, 120, faults, np.random.default_rng(3), passes=passes)
        return one, judge(one, 120, find_onsets(danced.audio, RATE))

    def test_one_sound_too_loud(self) -> None:
        one, verdict = self.heard(Faults(louder_db={5: 14.0}))
        self.assertEqual([u.sound for u in whole(one, verdict).uneven], [5])

    def test_a_tempo_that_creeps(self) -> None:
        one, verdict = self.heard(Faults(creep=6.0, jitter_ms=2))
        self.assertAlmostEqual(whole(one, verdict).faster or 0, 6.0, delta=1.2)

    def test_a_sound_too_many(self) -> None:
        _, verdict = self.heard(Faults(extra_after=frozenset({1})))
        self.assertEqual((verdict.mend.code, len(verdict.added), verdict.mend.values["count"]), ("added", 2, "1"))

    def test_only_in_some_passes(self) -> None:
        _, verdict = self.heard(Faults(missing=frozenset({3}), only=frozenset({2})), passes=4)
        self.assertEqual((verdict.mend.code, verdict.mend.values["what"]), ("slip", "missing"))

    def test_two_sounds_exchanged_keep_the_times(self) -> None:
        """The same number of sounds at the same times in another order: times alone cannot tell."""
        one = part(A)
        plain, swapped = (
            dance(one, 120, Faults(swapped=s, uneven_db=0), np.random.default_rng(3))
            for s in (frozenset(), frozenset({0}))
        )
        self.assertEqual(plain.times_s, swapped.times_s)
        first = slice(round(0.75 * RATE), round(1.2 * RATE))
        self.assertGreater(np.abs(plain.audio[first] - swapped.audio[first]).max(), 0.05)


class EarlyOrLateTest(unittest.TestCase):
    def test_asks_about_what_is_plain(self) -> None:
        one = part(A)
        verdict = taken(one, {(p, 3): 50.0 for p in range(4)})
        rights = Counter()
        for seed in range(40):
            question = early_or_late(one, verdict, np.random.default_rng(seed))
            assert question is not None
            self.assertEqual(question.answers, ("early", "on time", "late"))
            asked_late = question.values["sound"] == "brush of the flap on & after 2"
            self.assertEqual(question.answers[question.right], "late" if asked_late else "on time")
            rights[question.right] += 1
        self.assertGreater(rights[2], rights[1])
        self.assertGreater(rights[1], 0)

    def test_nothing_plain_no_question(self) -> None:
        one = part("1 step 2 step 3 step 4 step")
        verdict = taken(one, {(0, 1): 20.0, (0, 2): -20.0}, passes=1)
        self.assertIsNone(early_or_late(one, verdict, np.random.default_rng(0)))


if __name__ == "__main__":
    unittest.main()
