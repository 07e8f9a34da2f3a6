"""One foot against the other, swing, echoes, and how sure each is: takes whose faults are planted by hand."""

import unittest

import numpy as np
from msgspec.structs import replace

from firn.core.ear.doubts import doubts
from firn.core.ear.echoes import echoes
from firn.core.ear.judged import Judged
from firn.core.ear.onsets import NONE, Loudness, Onsets, find_onsets
from firn.core.ear.sides import Foot, sides_of
from firn.core.ear.sure import faintly, sure_heard, sure_missing
from firn.core.ear.swing import Swing, swing_of
from firn.core.ear.targets import Target, targets_of
from firn.core.ear.verdict import Verdict, judge
from firn.core.ear.whole import whole
from firn.core.ear.words import facts, mend_sentence, summary
from firn.core.piece.piece import Part
from tests.support import cases, part, piece

WALK = "1 step  & step  2 step  3 stamp  & step  4 step  5 step  & step  6 stamp  7 step  & step  8 step"
TEMPO = 120.0


def judged(one: Part, *, late_ms: float = 0.0, softer_db: float = 0.0, foot: str = "left", loud: int = -1) -> Verdict:
    """Four passes with 5 ms of jitter, one foot late and soft, one sound loud."""
    rng = np.random.default_rng(3)
    times, levels = [], []
    for target in targets_of(one.sounds, TEMPO, counts=one.counts, passes=4):
        sound = one.sounds[target.sounds[0]]
        wrong = sound.foot == foot
        times.append(0.8 + target.seconds + (late_ms / 1000 if wrong else 0.0) + rng.normal(0, 0.005))
        level = -16 + (5 if sound.kind == "stamp" else 0) - (softer_db if wrong else 0.0) + rng.normal(0, 1)
        levels.append(level + (10 if target.sounds[0] == loud else 0))
    order = np.argsort(times)
    return judge(one, TEMPO, Onsets(np.array(times)[order], np.array(levels)[order]))


class SidesTest(unittest.TestCase):
    @cases(("left", 18.0, 10.0), ("right", 18.0, 10.0))
    def test_a_foot_that_is_late_and_soft(self, foot: str, ms: float, db: float) -> None:
        verdict = judged(part(WALK), late_ms=ms, softer_db=db, foot=foot)
        sides = sides_of(part(WALK), verdict.judged)
        assert sides.late is not None and sides.soft is not None
        self.assertEqual((sides.late[0], sides.soft[0]), (foot, foot))
        self.assertAlmostEqual(sides.late[1], ms, delta=4)
        self.assertAlmostEqual(sides.soft[1], db, delta=1.5)
        one, other = (sides.left, sides.right) if foot == "left" else (sides.right, sides.left)
        assert one.ms is not None and other.ms is not None and one.db is not None
        self.assertTrue(one.ms > 0 > other.ms and one.db < 0)
        said = " ".join(facts(part(WALK), whole(part(WALK), verdict)))
        self.assertIn(f"The {foot} foot comes", said)
        self.assertIn(f"The {foot} foot is", said)
        self.assertNotIn("Uneven", said)

    def test_feet_alike(self) -> None:
        sides = sides_of(part(WALK), judged(part(WALK)).judged)
        self.assertEqual((sides.late, sides.soft), (None, None))
        self.assertEqual(sides.left.n + sides.right.n, 48)

    def test_nothing_alike_says_nothing(self) -> None:
        one = part("1 R stamp  2 L clap  3 R stamp  4 clap")
        sides = sides_of(one, judged(one).judged)
        self.assertEqual((sides.left.ms, sides.left.db, sides.late), (None, None, None))

    def rows(self, one: Part, many: int) -> list[Judged]:
        """Each foot's steps so often, the left 20 ms after the right and 12 dB under it."""
        left = next(i for i, s in enumerate(one.sounds) if s.foot == "left")
        right = next(i for i, s in enumerate(one.sounds) if s.foot == "right")
        rows = []
        for index, ms, db in ((left, 20.0, -22.0), (right, 0.0, -10.0)):
            rows += [Judged(Target((index,), n, float(n), False), "on", ms, 1.0, 1.0, db) for n in range(many)]
        return rows

    def test_half_of_the_difference_each(self) -> None:
        one = part("1 R step  2 L step  3 R step  4 L step")
        sides = sides_of(one, self.rows(one, 2))
        self.assertEqual((sides.left, sides.right), (Foot(10.0, -6.0, 2), Foot(-10.0, 6.0, 2)))
        self.assertEqual((sides.late, sides.soft), (("left", 20.0), ("left", 12.0)))
        once = sides_of(one, self.rows(one, 1))
        self.assertEqual((once.left, once.late, once.soft), (Foot(None, None, 1), None, None))

    @cases((9.5, None), (10.0, ("left", 10.0)), (-10.0, ("right", 10.0)))
    def test_less_than_ten_is_none(self, ms: float, late: tuple[str, float] | None) -> None:
        one = part("1 R step  2 L step  3 R step  4 L step")
        rows = [replace(j, ms=ms) if j.ms else j for j in self.rows(one, 4)]
        self.assertEqual(sides_of(one, rows).late, late)

    def test_a_difference_within_its_own_error_is_none(self) -> None:
        one = part("1 R step  2 L step  3 R step  4 L step")
        rows = [replace(j, ms=(j.ms or 0.0) + 30 * (-1) ** n) for n, j in enumerate(self.rows(one, 4))]
        self.assertIsNone(sides_of(one, rows).late)

    def test_one_sound_louder_than_its_like(self) -> None:
        one = part(WALK)
        self.assertEqual([u.sound for u in whole(one, judged(one, loud=6)).uneven], [6])
        # A stamp is louder than a step, as it should be.
        self.assertEqual(whole(one, judged(one)).uneven, ())


class SwingTest(unittest.TestCase):
    def danced(self, meant: str, ratio: float) -> tuple[Part, Verdict]:
        one = piece(WALK, feel=meant).parts[0]
        rng = np.random.default_rng(5)
        place = [float(s.place) for s in one.sounds] * 3
        times = []
        for number, at in enumerate(place):
            inside = at % 1
            danced = at - inside + (ratio / (1 + ratio) if inside else 0.0) + 8 * (number // len(one.sounds))
            times.append(0.8 + danced * 60 / TEMPO + rng.normal(0, 0.004))
        return one, judge(one, TEMPO, Onsets(np.sort(times), np.full(len(times), -14.0)))

    @cases(
        ("swing", 1.35, "The swing is too flat: 1.4 to 1, where 2 to 1 is meant."),
        ("swing", 3.0, "The swing is too long: 3.0 to 1, where 2 to 1 is meant."),
        ("straight", 2.0, "It swings, 2.0 to 1, where straight is meant: lay the & in the middle."),
    )
    def test_said_as_a_ratio(self, meant: str, ratio: float, said: str) -> None:
        one, verdict = self.danced(meant, ratio)
        swing = swing_of(one, verdict.judged)
        assert swing is not None
        self.assertAlmostEqual(swing.ratio, ratio, delta=0.12)
        self.assertEqual(mend_sentence(verdict.mend), said)

    @cases(("straight", 1.0), ("swing", 2.0))
    def test_as_it_is_meant(self, meant: str, ratio: float) -> None:
        one, verdict = self.danced(meant, ratio)
        swing = swing_of(one, verdict.judged)
        assert swing is not None
        self.assertFalse(swing.off)
        self.assertEqual(verdict.mend.code, "clean")

    def test_the_last_and_is_measured_against_the_next_pass(self) -> None:
        one = part("1 step  & step  2 step  & step  3 step  & step")
        rows = judged(one).judged
        swing = swing_of(one, rows)
        assert swing is not None
        # Of three in a pass, the last of the fourth pass has no count after it.
        self.assertEqual((swing.n, swing.meant), (11, 1.0))
        self.assertAlmostEqual(swing.ratio, 1.0, delta=0.05)
        self.assertTrue(0 < swing.error < 0.05)

    @cases((1.1, 0.0, False), (1.2, 0.0, True), (0.8, 0.0, True), (1.2, 0.1, False))
    def test_what_is_off(self, ratio: float, error: float, off: bool) -> None:
        self.assertEqual(Swing(ratio, 1.0, 9, error).off, off)

    def test_too_few_say_nothing(self) -> None:
        one = part("1 step  & step  2 step  3 step  4 step")
        self.assertIsNone(swing_of(one, judged(one).judged))


class EchoTest(unittest.TestCase):
    @cases(
        ("soft and soon after", [1.0, 1.15], [-10.0, -22.0], [1], {1}),
        ("as loud", [1.0, 1.15], [-10.0, -12.0], [1], set()),
        ("soft and long after", [1.0, 1.4], [-10.0, -22.0], [1], set()),
        (
            "always as long after",
            [1.0, 1.13, 2.0, 2.131, 3.0, 3.129, 4.0, 4.13],
            [-9.0] * 8,
            [1, 3, 5, 7],
            {1, 3, 5, 7},
        ),
        ("never as long after", [1.0, 1.10, 2.0, 2.14, 3.0, 3.12, 4.0, 4.17], [-9.0] * 8, [1, 3, 5, 7], set()),
        ("the first of all", [1.0], [-30.0], [0], set()),
    )
    def test_what_may_be_one(
        self, _: str, times: list[float], levels: list[float], extra: list[int], wanted: set[int]
    ) -> None:
        self.assertEqual(echoes(extra, Onsets(np.array(times), np.array(levels))), wanted)

    def test_it_is_left_out_of_the_verdict(self) -> None:
        one = part(WALK)
        own = judged(one)
        times = np.array([j.heard_s for j in own.judged])
        levels = np.array([j.level_db for j in own.judged])
        echo = times[::3] + 0.11
        order = np.argsort(np.concatenate([times, echo]))
        both = Onsets(np.concatenate([times, echo])[order], np.concatenate([levels, levels[::3] - 12])[order])
        verdict = judge(one, TEMPO, both)
        self.assertEqual((verdict.mend.code, {a.echo for a in verdict.added}), ("clean", {True}))


def plain(at_s: float, sure: float = 1.0) -> Onsets:
    """One onset, and how surely it is one."""
    return Onsets(np.array([at_s]), np.zeros(1), np.array([sure]))


class FaintTest(unittest.TestCase):
    """What begins faintly counts where a sound is due, and nowhere else."""

    def onsets(self, own: Verdict, *, without: int, faint_s: list[float], sure: float = 0.3) -> Onsets:
        times = np.array([j.heard_s for n, j in enumerate(own.judged) if n != without])
        return Onsets(times, np.zeros(len(times)), None, Onsets(np.array(faint_s), np.zeros(len(faint_s)),
                      np.full(len(faint_s), sure)))  # fmt: skip

    def test_when_it_is_due_it_is_that_sound(self) -> None:
        one = part(WALK)
        own = judged(one)
        due = own.judged[5].expected_s
        verdict = judge(one, TEMPO, self.onsets(own, without=5, faint_s=[due + 0.008]))
        found = verdict.judged[5]
        self.assertEqual((verdict.mend.code, found.heard), ("clean", "on"))
        self.assertAlmostEqual(found.ms or 0, 8, delta=3)
        self.assertTrue(0.9 < found.sure < 1)

    def test_elsewhere_it_only_makes_it_less_sure(self) -> None:
        one = part(WALK)
        own = judged(one)
        due = own.judged[5].expected_s
        for away, sure in ((0.06, False), (0.15, True)):
            verdict = judge(one, TEMPO, self.onsets(own, without=5, faint_s=[due + away]))
            self.assertEqual(verdict.judged[5].heard, "missing")
            self.assertEqual(verdict.judged[5].sure > 0.8, sure)
            self.assertEqual(verdict.added, ())

    def test_beside_a_sound_that_is_heard_it_is_that_one(self) -> None:
        one = part(WALK)
        own = judged(one)
        due = own.judged[5].expected_s
        times = np.sort([*(j.heard_s or 0 for n, j in enumerate(own.judged) if n != 5), due + 0.03])
        near = Onsets(times, np.zeros(len(times)))
        self.assertIsNone(faintly(due, 25.0, replace(near, faint=plain(due + 0.02, 0.3))))
        self.assertIsNotNone(faintly(due, 25.0, replace(near, faint=plain(due, 0.3))))

    def test_a_sound_too_many_that_may_be_a_voice_is_left_out_and_said(self) -> None:
        one = part(WALK)
        own = judged(one)
        times = np.array([j.heard_s for j in own.judged])
        extra = times[:3] + 0.17
        order = np.argsort(np.concatenate([times, extra]))
        for sure, code in ((0.6, "clean"), (0.99, "added")):
            surely = np.concatenate([np.ones(len(times)), np.full(3, sure)])[order]
            verdict = judge(one, TEMPO, Onsets(np.sort([*times, *extra]), np.zeros(len(surely)), surely))
            self.assertEqual(verdict.mend.code in ("added", "slip"), code == "added")
            said = "3 sounds too many may be a voice or a noise, and no step: left out of the verdict."
            self.assertEqual(said in doubts("A", verdict), code == "clean")
            self.assertIn("3 that may be no step" if code == "clean" else "3 added", summary(verdict))


class SureTest(unittest.TestCase):
    def test_near_the_limit_is_unsure(self) -> None:
        self.assertAlmostEqual(sure_heard(25.0, 25.0, 1.0), 0.5, delta=0.01)
        self.assertGreater(sure_heard(3.0, 25.0, 1.0), 0.99)
        self.assertGreater(sure_heard(-60.0, 25.0, 1.0), 0.99)
        self.assertLess(sure_heard(3.0, 25.0, 0.6), 0.61)

    def test_missing_beside_another_is_unsure(self) -> None:
        like_db = -20.0
        self.assertLess(sure_missing(1.0, like_db, plain(0.98)), sure_missing(1.0, like_db, plain(0.6)))
        # In a take whose sounds are hard to tell from the room it may have been danced.
        self.assertLessEqual(sure_missing(1.0, like_db, plain(0.6, sure=0.8)), 0.5)
        self.assertGreater(sure_missing(1.0, like_db, NONE), 0.5)

    def test_what_would_not_stand_out_may_have_been_danced(self) -> None:
        """A sound as loud as its like is heard where it is quiet, and not where something louder sounds."""
        every = np.arange(0.0, 2.0, 0.01)
        there = np.where(np.abs(every - 1.0) < 0.02, -15.0, -60.0)
        onsets = replace(plain(0.2), loud=Loudness(every, there))
        self.assertLess(sure_missing(1.0, -20.0, onsets), 0.3)
        self.assertGreater(sure_missing(1.5, -20.0, onsets), 0.9)
        # Somewhat softer and somewhat louder than all there is.
        row = [sure_missing(1.0, level, onsets) for level in (-24.0, -18.0, -12.0, -6.0)]
        self.assertEqual(row, sorted(row))

    def test_the_loudness_of_a_recording_is_told_where_it_is(self) -> None:
        """A burst's own peak, over its time and no other; joined and later as onsets are."""
        rate = 8_000
        sound = np.zeros(4 * rate, dtype=np.float32)
        sound[2 * rate : 2 * rate + 80] = 0.5 * np.sin(2 * np.pi * 2_000 * np.arange(80) / rate)
        loud = find_onsets(sound, rate).loud
        assert loud is not None
        self.assertAlmostEqual(loud.about(2.0), 20 * np.log10(0.5), delta=1.0)
        self.assertLess(loud.about(3.0), -60)
        self.assertAlmostEqual(loud.later(1.0).about(3.0), loud.about(2.0))
        self.assertLess(loud.between(2.5, 4.0).about(2.0), -60)

    def test_what_may_have_been_danced_softly_is_no_slip(self) -> None:
        """Where something faint begins near it, one that is not heard is in doubt, once or in every pass."""
        one = part(WALK)
        targets = targets_of(one.sounds, TEMPO, counts=one.counts, passes=4)
        always = [3, 15, 27, 39]
        rows = (([17], False, "slip"), ([17], True, "clean"), (always, True, "clean"), (always, False, "missing"))
        for gone, faint, code in rows:
            times = np.array([t.seconds + 0.5 for n, t in enumerate(targets) if n not in gone])
            near = np.array([targets[n].seconds + 0.56 for n in gone if faint])
            heard = Onsets(
                times,
                np.zeros(len(times)),
                np.full(len(times), 0.96),
                Onsets(near, np.zeros(len(near)), np.full(len(near), 0.2)),
            )
            verdict = judge(one, TEMPO, heard)
            self.assertEqual((verdict.mend.code, verdict.count("missing")), (code, len(gone)))
            self.assertEqual(any("danced, softly" in said for said in doubts("A", verdict)), faint)

    def test_a_habit_is_surer_than_a_slip(self) -> None:
        one = part(WALK)
        rows = []
        for passes in ({0, 1, 2, 3}, {1}):
            times = np.array([t.seconds + 0.8 for t in targets_of(one.sounds, TEMPO, counts=one.counts, passes=4)])
            own = [n * 12 + 5 for n in passes]
            times[own] += 0.033
            rows.append(judge(one, TEMPO, Onsets(np.sort(times), np.full(48, -14.0))).mend)
        self.assertEqual([r.code for r in rows], ["late", "slip"])
        self.assertGreater(rows[0].sure, rows[1].sure)


if __name__ == "__main__":
    unittest.main()
