"""Figures counted word by word, steps that are counted on, both sides, and names that no step has before a colon.

What teachers mean by them is common practice, no source.
"""

import unittest

from firn.core.reading.doubts import findings
from firn.core.script.changes import changed_text
from firn.core.script.settings import words_text
from tests.core.test_readings import doubted, piece, said
from tests.support import cases


class CountedApartTest(unittest.TestCase):
    @cases(
        ("swing", "1 rock 2 step 3&4 triple step", "1 2 rock step 3&4 triple step"),
        ("swing", "rock 1 step 2 triple step 3&4", "1 2 rock step 3&4 triple step"),
        ("swing", "1 kick & ball 2 change 3 step", "1&2 kick ball change 3 step"),
        ("swing", "step, step, tri-ple-step", "step step triple step"),
        ("tap", "shuf-fle ball-change", "shuffle ball change"),
        ("clogging", "&1 DS &2 DS &3 RS", "&a1 DS &a2 DS &3 RS"),
        ("tap", "flaps: 1 2 3", "1 2 3 flap"),
    )
    def test_is_the_figure(self, tradition: str, body: str, full: str) -> None:
        one = piece(tradition, body)
        self.assertEqual((said(one), doubted(one), one.problems), (said(piece(tradition, full)), [], ()))

    @cases(
        ("tap", "1 heel 2 toe", "1L heel, 2L toe"),
        ("latin", "1 side 2 step", "1R step, 2L step"),
        ("tap", "1 stamp 2 3 touch", "1R flat, 2L touch, 3L touch"),
    )
    def test_steps_in_each_word_stay_so(self, tradition: str, body: str, sounds: str) -> None:
        self.assertEqual(said(piece(tradition, body)), sounds)

    @cases(
        ("tap", "za-pa-te-a"), ("tap", "a-b-c-d-e-f-g-h"), ("tap", "1 clap 2 3"), ("swing", "triple step 2 3"),
    )  # fmt: skip
    def test_what_is_none_is_said(self, tradition: str, body: str) -> None:
        self.assertTrue(piece(tradition, body).problems)


class CountedOnTest(unittest.TestCase):
    @cases(
        ("tap", "walk 2 3 kick, walk 2 3 clap", "walk walk walk kick walk walk walk clap"),
        ("latin", "side 2 3 hold", "1 step 2 step 3 step 4 hold"),
        ("latin", "1 forward 2 3, 5 back 6 7", "1 step 2 step 3 step 5 step 6 step 7 step"),
        ("latin", "forward 2 3", "1 step 2 step 3 step"),
    )
    def test_of_a_walk_each_is_a_step(self, tradition: str, body: str, full: str) -> None:
        one = piece(tradition, body)
        self.assertEqual((said(one), doubted(one), one.problems), (said(piece(tradition, full)), [], ()))

    @cases(
        ("step dance", "cut 2 3, point", "cut, step, step, point", "2 cut  3 cut, point"),
        ("step dance", "jump 2 3", "1 jump  2 step  3 step", "2 jump  3 jump"),
        ("tap", "stomp 2 3 clap", "1 stomp  2 stomp  3 stomp  4 clap", "1 stomp  2 step  3 step  4 clap"),
        (
            "swing", "1 2 3 kick 5 step",
            "1 step  2 step  3 step  4 kick  5 step", "1 kick  2 kick  3 kick  5 step",
        ),
        (
            "latin", "1 2 3 L tap 5 step",
            "1 step  2 step  3 step  4 L tap  5 L step", "1 L tap  2 L tap  3 L tap  5 step",
        ),
        ("latin", "5 6 7 tap", "5 step  6 step  7 step  8 tap", "5 tap  6 tap  7 tap"),
        ("latin", "1 2 3 tap", "1 tap  2 tap  3 tap", "1 step  2 step  3 step  4 tap"),
        ("tap", "1 2 3 clap 5 step", "1 clap  2 clap  3 clap  5 step", "1 step  2 step  3 step  4 clap  5 step"),
    )  # fmt: skip
    def test_else_both_are_offered(self, tradition: str, body: str, believed: str, other: str) -> None:
        one = piece(tradition, body)
        self.assertEqual(said(one), said(piece(tradition, believed)))
        (doubt,) = findings(one.parts[0])
        became = []
        for mend in doubt.mends:
            taken = piece(tradition, changed_text(body, mend.changes), words_text(mend.words))
            self.assertEqual(doubted(taken), [], "taken, nothing is left open")
            became.append(said(taken))
        self.assertEqual(became, [said(one), said(piece(tradition, other))])


class AroundTest(unittest.TestCase):
    @cases(
        ("clogging", "DS DS DS RS on both sides", "DS DS DS RS\nother side"),
        ("clogging", "DS DS DS RS\nboth sides", "DS DS DS RS\nother side"),
        ("swing", "rock step triple step, each side", "rock step triple step\nother side"),
        ("folk stamping", "golpe golpe golpe a ambos lados", "golpe golpe golpe\nother side"),
        ("clogging", "triple left: DS DS DS RS", "L DS DS DS RS"),
        ("clogging", "push off: DS RS RS RS", "DS RS RS RS"),
        ("tap", "my favourite ending: stamp stamp", "stamp stamp"),
        ("tap", "scuff heel scuff heel going forward", "scuff heel scuff heel"),
        ("tap", "dig step, travelling to the right", "dig step"),
        ("step dance", "seven to the right, step", "sevens, step"),
        ("latin", "cha cha cha on 4 and 5", "4&5 cha cha cha"),
    )
    def test_is_as_said_in_full(self, tradition: str, body: str, full: str) -> None:
        one = piece(tradition, body)
        self.assertEqual((said(one), doubted(one), one.problems), (said(piece(tradition, full)), [], ()))

    @cases(
        ("tap", "hnads: 2 clap", '"hnads"'),
        ("tap", "zzqx: wobble wibble", "zzqx"),
        ("house", "wobble for 8 counts", 'No step is called "wobble".'),
        ("tap", "step, travelling", '"travelling"'),
    )
    def test_what_is_not_known_is_said_once(self, tradition: str, body: str, message: str) -> None:
        problems = piece(tradition, body).problems
        self.assertIn(message, problems[0].message)


class WalkedTest(unittest.TestCase):
    """Common practice, no source."""

    @cases(
        ("tap", "walk 1 2 3 kick", "1R step, 2L step, 3R step, 4L kick"),
        ("latin", "walk 5 6 7 tap", "5R step, 6L step, 7R step, 8L touch"),
        ("tap", "walk 1 2 3 and kick", "1R step, 2L step, 3R step, &L kick"),
        ("tap", "step 1 2 3 & kick, 4 step", "1R step, 2L step, 3R step, &L kick, 4L step"),
        ("tap", "walk 1 2 3, kick", "1R step, 2L step, 3R step, 4L kick"),
        ("tap", "left heels on 1 2", "1L heel, 2L heel"),
        ("tap", "right digs 1 2 3", "1R dig, 2R dig, 3R dig"),
        ("tap", "right stamps 1 2", "1R flat, 2L flat"),
    )
    def test_a_step_on_each_count_and_what_comes_last(self, tradition: str, body: str, read: str) -> None:
        one = piece(tradition, body)
        self.assertEqual((said(one), one.problems), (read, ()))

    @cases(("3 flaps and a ball change",), ("3 flaps, a stamp",), ("3 flaps then a stamp",))
    def test_how_many_is_in_doubt_beside_what_is_one(self, body: str) -> None:
        self.assertEqual(doubted(piece("tap", body))[0], ["“3 flap”", "“flaps x3”"])


if __name__ == "__main__":
    unittest.main()
