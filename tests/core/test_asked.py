"""Questions without a take: what is heard is what is asked about, and no answer is right by its place."""

import unittest
from collections import Counter
from fractions import Fraction

import numpy as np

from firn.core.ear.asked import model
from firn.core.ear.asked.kinds import Given
from firn.core.ear.asked.level import HARDEST, level
from firn.core.ear.asked.question import FIRST_ONES, Question, question_text, timeline
from firn.core.ear.onsets import find_onsets
from firn.core.sound.model import render_blocks
from firn.core.sound.voices import RATE
from tests.support import cases, part

TEXT = "&1 flap  & 2 shuffle  & 3 ball change\n4 hold\n5 stamp  &6 shuffle  & 7 ball change  &8 flap"
TEMPO = 112.0
PART = part(TEXT)


def times(question: Question, clip: int) -> list[float]:
    """When the sounds of one clip are heard, from its first."""
    found = [float(e.at_s) for number, e in timeline(question).events() if e.kind == "sound" and number == clip]
    return [t - found[0] for t in found]


def asked(kind: str, seeds: range, hard: int = 0) -> list[Question]:
    found = [model.KINDS[kind](model.material(PART), TEMPO, hard, np.random.default_rng(s)) for s in seeds]  # type: ignore[index]
    return [q for q in found if q is not None]


class RightTest(unittest.TestCase):
    """Each answer is told once more from what is heard, by other means."""

    def test_how_many(self) -> None:
        for q in asked("how_many", range(40)):
            self.assertEqual(q.answers[q.right], str(len(times(q, 0))))

    def test_what_missing(self) -> None:
        for q in asked("what_missing", range(40)):
            gone = len(times(q, 0)) - len(times(q, 1))
            self.assertEqual(gone, 0 if q.answers[q.right] == model.NOTHING else 1)

    def test_same_or_changed(self) -> None:
        for q in asked("same_or_changed", range(40)):
            first, second = times(q, 0), times(q, 1)
            same = len(first) == len(second) and np.allclose(first, second, atol=1e-9)
            self.assertEqual(q.answers[q.right], "the same" if same else "changed")

    def test_which_faster(self) -> None:
        for q in asked("which_faster", range(40)):
            first, second = times(q, 0), times(q, 1)
            self.assertEqual(q.right, int(second[-1] < first[-1]))

    def test_even_or_swung(self) -> None:
        for q in asked("even_or_swung", range(40)):
            inside = {s.position % 1 for s in q.clips[0].sounds}
            self.assertEqual(q.right, int(Fraction(2, 3) in inside))

    def test_hold_or_none(self) -> None:
        for q in asked("hold_or_none", range(40)):
            longest = max(b - a for a, b in zip(times(q, 0), times(q, 0)[1:], strict=False))
            self.assertEqual(q.right, int(longest < 1.5 * 60 / TEMPO))

    def test_which_late(self) -> None:
        for hard in range(HARDEST + 1):
            for q in asked("which_late", range(20), hard):
                off = [s.position - s.position.limit_denominator(4) for s in q.clips[0].sounds]
                late = [s for s, by in zip(q.clips[0].sounds, off, strict=True) if by]
                self.assertEqual(len(late), 1)
                self.assertIn(f"{model.LATE_MS[hard]:.0f} ms late", q.why)

    def test_which_foot(self) -> None:
        """Feet are heard on their own sides: the louder channel is the foot's."""
        for q in asked("which_foot", range(6)):
            number = model_number(q)
            sound = np.concatenate(list(render_blocks(timeline(q))))
            first = round(times_abs(q)[number] * RATE)
            left, right = (float(np.sum(sound[first : first + 1_500, side] ** 2)) for side in (0, 1))
            self.assertEqual(q.answers[q.right], "left" if left > right else "right")

    def test_where_is_one(self) -> None:
        for q in asked("where_is_one", range(20)):
            self.fail(f"{q.kind} of a part that begins before its 1")
        one = part("1 stamp  & 2 shuffle  & 3 ball change  4 stamp")
        found = [model.where_is_one(model.material(one), TEMPO, 0, np.random.default_rng(s)) for s in range(20)]
        for q in [q for q in found if q is not None]:
            turned, whole = times(q, 1), times(q, 0)
            k = FIRST_ONES.index(q.answers[q.right].removeprefix("the "))
            from_one = [t - turned[k] for t in turned[k : k + len(whole)]]
            np.testing.assert_allclose(from_one, whole, atol=1e-6)
        self.assertTrue(any(found))


def model_number(question: Question) -> int:
    return FIRST_ONES.index(question.values["nth"])


def times_abs(question: Question) -> list[float]:
    return [float(e.at_s) for _, e in timeline(question).events() if e.kind == "sound"]


class FairTest(unittest.TestCase):
    @cases(*((kind,) for kind in model.KINDS if kind != "where_is_one"))
    def test_no_place_is_always_right(self, kind: str) -> None:
        """Of 120 no place is right more than two thirds of the time."""
        found = asked(kind, range(120))
        self.assertGreater(len(found), 20)
        for question in found:
            self.assertEqual(len(set(question.answers)), len(question.answers))
            self.assertTrue(question_text(question))
            self.assertTrue(question.why)
        most = Counter(q.right for q in found).most_common(1)[0][1]
        self.assertLess(most / len(found), 0.67)

    def test_a_round(self) -> None:
        asked_now = model.round_of(PART, TEMPO, np.random.default_rng(5), many=10)
        self.assertEqual(len(asked_now), 10)
        self.assertGreaterEqual(len({q.kind for q in asked_now}), 8)
        again = model.round_of(PART, TEMPO, np.random.default_rng(5), many=10)
        self.assertEqual([(q.kind, q.right) for q in asked_now], [(q.kind, q.right) for q in again])

    @cases(("1 step", 0), ("1 step 2 step", 10), ("1 hold", 0), ("1-8 hold", 0))
    def test_parts_of_little(self, text: str, least: int) -> None:
        found = model.round_of(part(text), TEMPO, np.random.default_rng(1), many=10)
        self.assertGreaterEqual(len(found), least)

    def test_what_is_rendered_is_heard(self) -> None:
        """The ear finds in the sound what the timeline says."""
        (q, *_) = asked("how_many", range(3))
        sound = np.concatenate(list(render_blocks(timeline(q)))).mean(axis=1)
        np.testing.assert_allclose(find_onsets(sound, RATE).times_s, times_abs(q), atol=0.006)


class LevelTest(unittest.TestCase):
    @cases(("", 0), ("r", 0), ("rr", 1), ("rrrr", 2), ("rrw", 0), ("rrrrw", 1), ("w", 0), ("r" * 30, HARDEST))
    def test_staircase(self, said: str, hard: int) -> None:
        """Levitt 1971: two right in a row up, one wrong down."""
        answers: list[Given] = [("which_late", a == "r") for a in said]
        other: list[Given] = [("which_foot", False)]
        self.assertEqual(level([*answers, *other], "which_late"), hard)


if __name__ == "__main__":
    unittest.main()
