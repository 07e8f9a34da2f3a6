"""What is said of a step and is none: the foot that is crossed over, how several are danced, what strikes.

What teachers mean by them is common practice, no source.
"""

import unittest

from tests.core.test_readings import doubted, piece, said
from tests.support import cases


class AsidesTest(unittest.TestCase):
    @cases(
        ("tap", "step R behind L, step L side", "1R step, 2L step"),
        ("tap", "step R across the left foot, step L", "1R step, 2L step"),
        ("tap", "touch R in front of L, step R", "1R touch, 2R step"),
        ("tap", "touch heel to left knee", "1R dig"),
        ("tap", "stamp next to the left foot", "1R flat"),
        ("latin", "L side, R closes to L, L side", "1L step, 2R step, 3L step"),
        ("latin", "L foot to the side, R foot closes to L", "1L step, 2R step"),
        ("tap", "touch heel to left knee x2", "1R dig, 2R dig"),
        ("tap", "kick in front of left knee twice", "1R kick, 2R kick"),
        ("tap", "toe tip R behind left heel, step R", "1R toe_tip, 2R step"),
        ("tap", "brush right past left knee", "1R brush"),
        ("tap", "touch toe against left ankle", "1R touch"),
        ("tap", "step R to left toe", "1R step"),
        ("tap", "clap under right knee", "1- clap"),
        ("tap", "step to left, heel", "1L step, 2L heel"),
        ("tap", "step to left heel", "1L step, 2L heel"),
        ("tap", "1 step behind 2 left heel", "1R step, 2L heel"),
        ("tap", "1 R step over left 2 step", "1R step, 2L step"),
        ("tap", "touch R behind, L step", "1R touch, 2L step"),
        ("tap", "running flaps x2", "&R brush, 1R step, &L brush, 2L step"),
        ("tap", "traveling flaps x2", "&R brush, 1R step, &L brush, 2L step"),
        ("clogging", "traveling basic", "&R brush, aR spank, 1R step, &L step, 2R step"),
        ("tap", "running, flap", "1R step, &L brush, 2L step"),
        ("tap", "running step", "1R step, 2L step"),
        ("tap", "dig L heel, step", "1L dig, 2L step"),
        ("tap", "toe dig R, heel dig R", "1R touch, 2R dig"),
        ("clogging", "stomp 1, rock &3 step, stomp 4", "1R stomp, &R step, 3L step, 4R stomp"),
        ("tap", "two flaps, right and left", "&R brush, 1R step, &L brush, 2L step"),
        ("tap", "two stamps right then left, clap", "1R flat, 2L flat, 3- clap"),
        ("tap", "1 stamp R and 2 stamp L", "1R flat, 2L flat"),
        ("tap", "1 stamp R and clap", "1R flat, &- clap"),
    )
    def test_what_is_danced(self, tradition: str, body: str, sounds: str) -> None:
        one = piece(tradition, body)
        self.assertEqual(([p.message for p in one.problems], doubted(one)), ([], []))
        self.assertEqual(said(one), sounds)

    @cases(
        ("tap", "a flap on the right, two on the left", "&R brush, 1R step, &L brush, 2L step, &R brush, 3R step"),
        ("folk stamping", "un golpe con la derecha, dos con la izquierda", "1R flat, 2L flat, 3R flat"),
        ("tap", "two hops on the right, one step left", "1R hop, 2R hop, 3L step"),
        ("tap", "two digs R, then one L", "1R dig, 2R dig, 3L dig"),
        ("tap", "dig twice right and twice left", "1R dig, 2R dig, 3L dig, 4L dig"),
        ("tap", "1 stamp R, 2 L", "1R flat, 2L flat"),
        (
            "clogging",
            "two basic steps",
            "&R brush, aR spank, 1R step, &L step, 2R step, &L brush, aL spank, 3L step, &R step, 4L step",
        ),
        ("tap", "flap step", "&R brush, 1R step, 2L step"),
        ("tap", "flaps, two of them", "&R brush, 1R step, &L brush, 2L step"),
        ("clogging", "double steps: two", "&R brush, aR spank, 1R step, &L brush, aL spank, 2L step"),
        ("tap", "stamp hop, same again", "1R flat, 2R hop, 3L flat, 4L hop"),
        ("tap", "left, right: stamp", "1L flat, 2R flat"),
        ("tap", "right left: flap, step", "&R brush, 1R step, &L brush, 2L step, 3R step"),
        ("tap", "walking: right, left, hop", "1R step, 2L step, 3L hop"),
        ("tap", "stamp your feet twice", "1R flat, 2L flat"),
        ("tap", "step: shuffle hop step", "&R brush, 1R spank, &L hop, 2R step"),
        ("latin", "paso: lado junto lado", "1R step, 2L step, 3R step"),
        ("tap", "stamp, knees soft, clap", "1R flat, 2- clap"),
        ("tap", "stamp, clap, you end on your left foot", "1R flat, 2- clap"),
        ("house", "stamp, stamp, turn out", "1R flat, 2L flat"),
        ("latin", "forward, replace, in place", "1R step, 2L step, 3R step"),
    )
    def test_what_is_not_said_again(self, tradition: str, body: str, sounds: str) -> None:
        one = piece(tradition, body)
        self.assertEqual(([p.message for p in one.problems], doubted(one)), ([], []))
        self.assertEqual(said(one), sounds)

    @cases(
        ("latin", "1 2 3 (4) 5 6 7 (8) step", "1R step, 2L step, 3R step, 5L step, 6R step, 7L step"),
        ("tap", "1 (2) 3 (4) stamp hop", "1R flat, 3R hop"),
        ("tap", "1 (&) 2 & stamp hop stamp", "1R flat, 2R hop, &L flat"),
        ("tap", "(1) stamp (2) hop", "1R flat, 2R hop"),
        ("tap", "pick-up 8: stamp, 1 hop", "8R flat, 1R hop"),
    )
    def test_counts_on_which_nothing_sounds(self, tradition: str, body: str, sounds: str) -> None:
        one = piece(tradition, body)
        self.assertEqual(([p.message for p in one.problems], doubted(one)), ([], []))
        self.assertEqual(said(one), sounds)

    @cases(("DS DS turning 1/4 left",), ("DS DS turning a quarter left",), ("DS DS turning half right",))
    def test_a_step_that_turns_takes_no_count_for_it(self, body: str) -> None:
        one = piece("clogging", body)
        self.assertEqual(([p.message for p in one.problems], doubted(one)), ([], []))
        self.assertEqual(said(one), said(piece("clogging", "DS DS")))
        self.assertNotEqual(one.parts[0].uses[-1].word.turn, 0)

    def test_how_far_a_step_turns_is_to_be_said(self) -> None:
        said_so = [p.message for p in piece("clogging", "DS DS turning left").problems]
        self.assertEqual(said_so, ['Say how far and which way "DS turning" turns: 1/4 left.'])

    def test_what_falls_among_steps_before_it_is_asked_about(self) -> None:
        for body in ("step step step step, clap on 2 and 4", "four steps, clap on 2 and 4"):
            said_so = [p.message for p in piece("tap", body).problems]
            self.assertEqual(len(said_so), 1, said_so)
            self.assertIn('the steps before "clap on 2 and 4"', said_so[0])
        for body in ("step step, clap on 3 and 4", "step step step, clap on 4", "dig, spank, step on 1 & 2"):
            self.assertEqual([p.message for p in piece("tap", body).problems], [])

    @cases(
        ("1 stomp 2 hop 3 -, 4 step", 'Say "hold" for a "-" on which nothing sounds.'),
        ("1 stomp 2 hop 3 ... 4 step", 'Say "hold" for a "..." on which nothing sounds.'),
        ("slow: flap, stamp", 'Say "slow" right before the step that it is said of; or leave it out.'),
        ("flap, stamp (slow)", 'Say "slow" right before the step that it is said of; or leave it out.'),
    )
    def test_signs_that_may_stand_for_nothing_are_asked_about(self, body: str, message: str) -> None:
        self.assertEqual([p.message for p in piece("tap", body).problems], [message])

    @cases(("1... stomp 2... hop", "1R stomp, 2L hop"), ("1 stomp and hold 2, 3 step", "1R stomp, 2- hold, 3R step"))
    def test_signs_that_stand_for_something(self, body: str, sounds: str) -> None:
        one = piece("tap", body)
        self.assertEqual((said(one), one.problems), (sounds, ()))

    @cases(
        ("stamp, clap, hold for a count, stamp",), ("stamp, clap, hold a beat, stamp",),
        ("stamp, clap, rest one, stamp",), ("stamp, clap a hold, stamp",), ("stamp clap hold there stamp",),
        ("1 stamp, 2 clap, hold the 3, 4 stamp",),
        ("1 stamp, 2 clap, but hold 3, 4 stamp",), ("1 stamp, 2 clap, 3 silent, 4 stamp",),
        ("1 stamp, 2 clap, no sound on 3, 4 stamp",), ("stamp. clap. hold one count. stamp.",),
    )  # fmt: skip
    def test_a_hold_of_one_count(self, body: str) -> None:
        one = piece("tap", body)
        self.assertEqual((said(one), one.problems, doubted(one)), ("1R flat, 2- clap, 3- hold, 4L flat", (), []))

    def test_last_counts_that_open_a_part_may_be_a_count_in(self) -> None:
        """5 6 7 8 before four sounds; common practice, no source."""
        for body in ("5 6 7 8 stamp clap stamp clap", "5, 6, 7, 8: stamp clap stamp clap"):
            with self.subTest(body):
                ((believed, other),) = doubted(piece("tap", body))
                self.assertEqual(believed, "“5 stamp  6 clap  7 stamp  8 clap”")
                self.assertEqual(other, "“stamp, clap, stamp, clap”")
        self.assertEqual(doubted(piece("tap", "1 2 3 4 stamp clap stamp clap")), [])

    def test_counts_in_brackets_behind_steps_are_of_all_of_them(self) -> None:
        said_so = [p.message for p in piece("solo jazz", "stomp, step and snap (1 & 2 3 4)").problems]
        self.assertEqual(said_so, ["These counts have no word: write hold where nothing sounds."])

    def test_crosses_for_counts_are_asked_about(self) -> None:
        self.assertIn('an "x" on which nothing sounds', piece("tap", "1 x 3 x stamp stamp").problems[0].message)

    def test_what_is_written_alike_is_offered_once(self) -> None:
        (offers,) = doubted(piece("step dance", "hop 2 3 4 5 6 7"))
        self.assertEqual(len(offers), len(set(offers)))

    @cases(("dig R heel", "1R dig"), ("heel dig R, toe dig L", "1R dig, 2R toe, 3L dig"))
    def test_what_strikes_may_be_two(self, body: str, sounds: str) -> None:
        one = piece("tap", body)
        self.assertEqual((said(one), len(doubted(one))), (sounds, 1))

    @cases(
        ("stamp clap, in place",), ("flap heel, backwards",), ("stamp, clap, feet together",),
        ("1 stamp 2 clap, in place",),
    )  # fmt: skip
    def test_what_may_be_one_more_step_is_asked_about(self, body: str) -> None:
        (problem,) = piece("tap", body).problems
        self.assertIn("is one more step", problem.message)

    def test_a_foot_that_was_not_said_before_steps(self) -> None:
        self.assertEqual(said(piece("tap", "step behind, L step")), "1R step, 2L step")
        self.assertEqual(said(piece("latin", "paso derecho detrás del izquierdo, paso")), "1R step, 2L step")
        self.assertEqual(said(piece("tap", "touch R behind R step")), said(piece("tap", "touch R behind, R step")))


if __name__ == "__main__":
    unittest.main()
