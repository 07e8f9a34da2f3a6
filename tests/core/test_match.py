"""Which take is this, and where its passes lie: takes by another hand (tests/dancers.py) than the ear's student."""

import unittest
from fractions import Fraction

import numpy as np
from msgspec.structs import replace

from firn.core.ear.doubts import doubts
from firn.core.ear.match import Match, candidate_of, match, without
from firn.core.ear.onsets import Onsets
from firn.core.ear.passes import Candidate, heard_in, passes_in, runs_in
from firn.core.ear.targets import targets_of
from firn.core.ear.told import told
from firn.core.ear.verdict import NothingHeard, WrongTake, judge, which
from firn.core.ear.whole import whole
from firn.core.piece.piece import Part
from tests.dancers import Manner, danced, pattern_of
from tests.support import cases, part, piece

A = "8 stomp  1 hop  2 step  &3 flap  4 step  5 hop  6 step  &7 flap"
B = "1 shuffle ball change  3 shuffle ball change  5 stamp  6 hold  7 stamp  8 clap"
C = "1 step  2 step  3 step  & step  4 step  5 stamp  & stamp  6 stamp  7-8 hold"
EVEN = "1 step  2 step  3 step  4 step  5 step  6 step  7 step  8 step"
CLAPS = "1 clap  2 clap  3 clap  4 clap  5 clap  6 clap  7 clap  8 clap"
BREAK = "8 stomp  1 hop  2 step  &3 flap  4 step  5 stamp  6-7 hold"
TEMPO = 120.0


def named(text: str, name: str) -> Candidate:
    one = candidate_of(part(text), TEMPO, name=name)
    assert one is not None
    return one


def times_of(text: str, seed: int = 1, **manner: object) -> np.ndarray:
    how = Manner(**{"tempo": TEMPO, **manner})  # type: ignore[arg-type]
    return danced(pattern_of(part(text)), how, np.random.default_rng(seed)).onsets_s


def heard(text: str, seed: int = 1, **manner: object) -> Onsets:
    times = times_of(text, seed, **manner)
    return Onsets(times, np.full(len(times), -14.0))


def found(asked: str, times: np.ndarray) -> Match:
    return match(times, named(asked, "A"), [named(B, "B"), named(C, "C")])


DOUBLES = """1 double step  2 rock step  3 double step  4 rock step
5 double step  6 double step  7 double step  8 rock step"""


class HalfTest(unittest.TestCase):
    """Steps on each beat with brushes between them that are hardly heard are no part that is danced half as fast."""

    @cases((0,), (4,), (5,), (7,))
    def test_where_its_own_tempo_explains_enough(self, seed: int) -> None:
        one, rng = piece(DOUBLES, tradition="clogging").parts[0], np.random.default_rng(seed)
        this = candidate_of(one, TEMPO, name="A")
        plain, faint = [], []
        for number in range(3):
            for sound in one.sounds:
                soft = sound.kind in ("brush", "spank")
                if not soft or rng.random() < 0.4:
                    at = (float(sound.position) + 8 * number) / 2 + 1.5 + rng.normal(0, 0.008)
                    (faint if soft else plain).append(at)
        told = match(np.sort(plain), this, faint_s=np.sort(faint))
        self.assertEqual(told.what, "this")
        self.assertLess(told.sure, 0.8)

    def test_danced_half_as_fast_it_is_told(self) -> None:
        told = match(times_of(A, tempo=TEMPO / 2, passes=(1.0,) * 3), named(A, "A"))
        self.assertEqual((told.what, told.ratio), ("tempo", Fraction(1, 2)))


class WhichTest(unittest.TestCase):
    @cases(
        ("twice through", {}),
        ("slower and slower", {"drift": -0.08, "passes": (1.0,) * 4}),
        ("after a count-in of eight", {"led_by": 8}),
        ("with a pause", {"pauses": {1: 2.3}}),
        ("begun again", {"passes": (0.6, 1.0, 1.0), "pauses": {1: 1.1}}),
        ("stopped half way", {"passes": (1.0, 1.0, 0.6)}),
        ("a tenth slower", {"tempo": 108.0}),
        ("one sound in ten missed", {"missed": 0.1, "passes": (1.0,) * 4}),
    )
    def test_it_is_this(self, _: str, manner: dict[str, object]) -> None:
        one = found(A, times_of(A, **manner))
        self.assertEqual((one.what, one.part, one.ratio), ("this", "A", 1))
        self.assertGreater(one.sure, 0.8)

    @cases(
        ("another part", B, TEMPO, ("other", "B", Fraction(1))),
        ("another part, slower", C, 110.0, ("other", "C", Fraction(1))),
        ("twice as fast", A, 240.0, ("tempo", "A", Fraction(2))),
        ("half as fast", A, 60.0, ("tempo", "A", Fraction(1, 2))),
        ("half as fast again", A, 180.0, ("tempo", "A", Fraction(3, 2))),
        ("two thirds as fast", A, 80.0, ("tempo", "A", Fraction(2, 3))),
    )
    def test_it_is_something_else(self, _: str, text: str, tempo: float, wanted: tuple[str, str, Fraction]) -> None:
        one = found(A, times_of(text, tempo=tempo, passes=(1.0,) * 3))
        self.assertEqual((one.what, one.part, one.ratio), wanted)
        self.assertAlmostEqual(one.danced_at(TEMPO), tempo, delta=0.04 * tempo)

    def test_it_is_nothing(self) -> None:
        times = np.sort(np.random.default_rng(4).uniform(0.5, 12, 40))
        self.assertEqual(found(A, times).what, "nothing")

    def test_what_sounds_alike_is_named_too(self) -> None:
        one = match(times_of(EVEN), named(EVEN, "A"), [named(CLAPS, "Claps"), named(B, "B")])
        self.assertEqual((one.what, one.also), ("this", ("Claps",)))
        self.assertLess(one.sure, 0.6)
        verdict = judge(part(EVEN), TEMPO, heard(EVEN, passes=(1.0,) * 3))
        self.assertIn("may as well be Claps", doubts("A", replace(verdict, match=one))[0])

    def test_a_hold_left_out_is_a_fault_of_this(self) -> None:
        short = BREAK.replace("  6-7 hold", "")
        one = which(part(BREAK), TEMPO, heard(short, passes=(1.0,) * 3))
        self.assertEqual((one.what, one.hold), ("this", len(part(BREAK).sounds) - 1))
        self.assertIsNone(which(part(BREAK), TEMPO, heard(BREAK, passes=(1.0,) * 3)).hold)

    @cases(
        ("a pick-up", "1 flap  2 flap  3 step  4 hold", (0.0, 0.25, 0.5, 0.75, 1.25), 2.0, -0.25),
        ("from a count", "1 step  & step  2 step", (0.0, 0.25, 0.5), 1.0, 0.0),
        ("after a hold", "1 hold  2 step  3 step", (0.0, 0.5), 1.5, 0.5),
    )
    def test_a_part_as_it_should_sound(
        self, _: str, text: str, times: tuple[float, ...], length: float, first: float
    ) -> None:
        one = candidate_of(part(text), TEMPO)
        assert one is not None
        self.assertEqual([round(t, 6) for t in one.times_s], [round(t, 6) for t in times])
        self.assertEqual((one.length_s, one.beat_s, one.first_s), (length, 0.5, first))

    def test_without_a_hold_it_is_shorter(self) -> None:
        one = part("1 step  2-3 hold  4 step")
        hold = one.sounds[1]
        made = candidate_of(one, TEMPO, hold=hold)
        assert made is not None
        self.assertEqual((made.times_s, made.length_s), ((0.0, 0.5), 1.0))
        first = part("1 hold  2 step  3 step")
        led = candidate_of(first, TEMPO, hold=first.sounds[0])
        assert led is not None
        self.assertEqual((led.times_s, led.length_s, led.first_s), ((0.0, 0.5), 1.0, 0.0))
        two = targets_of(one.sounds, TEMPO, counts=4, passes=2)
        self.assertEqual([t.seconds for t in without(one, two, hold, TEMPO)], [0.0, 0.5, 1.0, 1.5])

    @cases(("this", A, 1.0), ("another", C, 1.0), ("twice as fast", A, 2.0))
    def test_a_long_take(self, kind: str, text: str, ratio: float) -> None:
        many = round(200 / (4 / ratio))
        one = found(A, times_of(text, tempo=ratio * TEMPO, passes=(1.0,) * many))
        self.assertEqual(one.what, {"this": "this", "another": "other"}.get(kind, "tempo"))
        if kind == "this":
            self.assertGreater(len(one.passes.found), many - 3)
            self.assertGreater(one.sure, 0.9)

    def test_a_long_take_that_begins_late(self) -> None:
        take = times_of(A, passes=(1.0,) * 40) + 400
        self.assertEqual(found(A, take).what, "this")

    def test_a_nearer_rival_makes_it_less_sure(self) -> None:
        near = A.replace("&7 flap", "7 step")
        take = times_of(A, passes=(1.0,) * 3, missed=0.05)
        alone = match(take, named(A, "A"))
        beside = match(take, named(A, "A"), [named(near, "near"), named(B, "B")])
        self.assertEqual((alone.what, beside.what, beside.also), ("this", "this", ()))
        self.assertLess(beside.sure, alone.sure)

    def test_a_part_of_one_sound_is_none(self) -> None:
        self.assertIsNone(candidate_of(part("1 stamp  2 hold"), TEMPO))

    def test_a_hold_inside_which_something_sounds_cannot_be_left_out(self) -> None:
        one = piece("8 stomp  1 hop  &a2 6-7 hold shuffle step  4 stomp  &3 flap  4 step", phrase="8 counts").parts[0]
        hold = next(s for s in one.sounds if s.kind == "hold")
        self.assertIsNone(candidate_of(one, TEMPO, hold=hold))


class PassesTest(unittest.TestCase):
    def passes(self, text: str, seed: int, **manner: object) -> tuple[list[tuple[float, bool]], list[float]]:
        """Where passes are found and whether they are whole; where the whole ones truly began."""
        how = Manner(**{"tempo": TEMPO, **manner})  # type: ignore[arg-type]
        pattern = pattern_of(part(text))
        take = danced(pattern, how, np.random.default_rng(seed))
        first = float(pattern.places[0]) * 60 / TEMPO
        rows = passes_in(heard_in(take.onsets_s), named(text, "A"), 0.78, 1.28).found
        return [(p.start_s - first, p.many == len(pattern.places)) for p in rows], list(take.starts_s)

    @cases(
        ("on and on", {"passes": (1.0,) * 5}),
        ("with pauses", {"passes": (1.0,) * 3, "pauses": {1: 1.7, 2: 0.9}}),
        ("after a count-in", {"passes": (1.0,) * 3, "led_by": 4}),
        ("stopped and begun again", {"passes": (1.0, 0.6, 1.0), "pauses": {2: 1.3}}),
    )
    def test_each_begins_where_it_was_begun(self, _: str, manner: dict[str, object]) -> None:
        for seed in range(4):
            rows, starts = self.passes(C, seed, **manner)
            whole = [at for at, all_of_it in rows if all_of_it]
            self.assertEqual(len(whole), len(starts))
            for at, began in zip(whole, starts, strict=True):
                self.assertLess(abs(at - began), 0.12)

    def test_runs(self) -> None:
        take = times_of(A, passes=(1.0,) * 4, pauses={2: 2.0})
        rows = passes_in(heard_in(take), named(A, "A"), 0.78, 1.28).found
        self.assertEqual([len(run) for run in runs_in(rows, rows[0].many)], [2, 2])
        self.assertEqual(runs_in((), 4), [])

    def test_a_count_in_is_none_of_its_sounds(self) -> None:
        for many in (0, 4, 8):
            # Its halves are alike: where it begins is told by the count-in alone.
            rows = passes_in(heard_in(times_of(A, led_by=many)), named(A, "A"), 0.78, 1.28)
            self.assertEqual(rows.led_by, many)


class JudgedTest(unittest.TestCase):
    def test_what_is_said_of_another(self) -> None:
        for tempo, text, said in (
            (TEMPO, B, r"^This is B at 1\d\d, not A\.$"),
            (240.0, A, r"^This is A danced twice as fast: at 2\d\d, where 120 was meant\.$"),
            (60.0, A, r"^This is A danced half as fast: at \d\d, where 120 was meant\.$"),
        ):
            with self.assertRaisesRegex(WrongTake, said) as raised:
                judge(part(A), TEMPO, heard(text, tempo=tempo, passes=(1.0,) * 3), others=[named(B, "B")])
            self.assertIsNot(raised.exception.match.what, "this")

    def test_what_fits_nothing_or_hardly(self) -> None:
        one = found(A, np.sort(np.random.default_rng(4).uniform(0.5, 12, 40)))
        self.assertTrue(told("A", TEMPO, one)[0].startswith(("Nothing here fits A.", "This hardly fits A: ")))
        self.assertIn("another part", told("A", TEMPO, one)[1])
        self.assertIn("nearer to the feet", told("A", TEMPO, one, plain=False)[1])
        with self.assertRaises(NothingHeard):
            which(part(A), TEMPO, Onsets(np.array([0.5]), np.zeros(1)))

    def test_it_is_judged_all_the_same(self) -> None:
        verdict = judge(part(A), TEMPO, heard(B, passes=(1.0,) * 3), anyway=True)
        self.assertGreater(verdict.count("missing") + len(verdict.added), 5)
        self.assertIn("because you said so", doubts("A", verdict)[0])
        self.assertLess(verdict.mend.sure, 0.5)

    def test_a_pause_between_is_no_fault(self) -> None:
        verdict = judge(part(A), TEMPO, heard(A, stroke_s=0.003, clock=0.0, missed=0.0, added=0.0, pauses={1: 1.9}))
        self.assertEqual((verdict.mend.code, verdict.passes, verdict.count("missing")), ("clean", 2, 0))
        self.assertEqual({j.target.time for j in verdict.judged}, {0, 1})

    def test_after_a_pause_the_tempo_is_still_steady(self) -> None:
        quiet = {"stroke_s": 0.003, "clock": 0.0, "missed": 0.0, "added": 0.0}
        for pauses in ({}, {2: 3.1}):
            verdict = judge(part(A), TEMPO, heard(A, passes=(1.0,) * 4, pauses=pauses, **quiet))
            faster = whole(part(A), verdict).faster
            assert faster is not None
            self.assertLess(abs(faster), 1.0)

    def test_the_count_in_is_no_sound_too_many(self) -> None:
        verdict = judge(part(A), TEMPO, heard(A, stroke_s=0.003, clock=0.0, missed=0.0, added=0.0, led_by=4))
        self.assertEqual((verdict.mend.code, verdict.added), ("clean", ()))
        assert verdict.count_in_s is not None and verdict.judged[0].heard_s is not None
        self.assertAlmostEqual(verdict.judged[0].heard_s - verdict.count_in_s, 4 * 60 / TEMPO, delta=0.05)

    @cases(("early", -0.11), ("late", 0.11))
    def test_far_off_its_time_is_early_or_late_and_not_two_faults(self, code: str, by_s: float) -> None:
        one = part(C)
        times = heard(C, stroke_s=0.003, clock=0.0, missed=0.0, added=0.0, passes=(1.0,) * 3).times_s.copy()
        many = len(pattern_of(one).places)
        times[2::many] += by_s
        verdict = judge(one, TEMPO, Onsets(np.sort(times), np.full(len(times), -14.0)))
        self.assertEqual((verdict.mend.code, verdict.count("missing"), verdict.added), (code, 0, ()))
        self.assertEqual(verdict.judged[verdict.mend.target or 0].target.sounds, (2,))

    def test_an_even_take_that_is_whole_begins_at_its_first_sound(self) -> None:
        one: Part = part(EVEN)
        for seed in range(12):
            rng = np.random.default_rng(seed)
            times = 0.9 + np.arange(32) * 0.5 + rng.normal(0, 0.008, 32)
            verdict = judge(one, TEMPO, Onsets(times, np.full(32, -14.0)))
            begun = verdict.judged[0].heard_s is not None and abs(verdict.judged[0].heard_s - times[0]) < 1e-9
            self.assertTrue(begun or verdict.others)


if __name__ == "__main__":
    unittest.main()
