"""Lines as they stand on a board or in a grid, with signs between counts and steps: common practice, no source."""

import unittest

from firn.core.script.listed import as_listed
from firn.core.script.tree import parse_line
from tests.core.test_readings import doubted, piece, said
from tests.support import cases


class BoardTest(unittest.TestCase):
    @cases(
        ("tap", "1: step 2: stamp 3: clap", "1R step, 2L flat, 3- clap"),
        ("tap", "1: step &: heel 2: step", "1R step, &R heel, 2L step"),
        ("tap", "5: stamp, 6: stamp", "5R flat, 6L flat"),
        ("swing", "1: rock 2: step 3&4: triple step", "1R step, 2L step, 3R step, &L step, 4R step"),
        ("tap", "stamp = 1, clap = 2", "1R flat, 2- clap"),
        ("tap", "stamp: 1 2 3, clap: 4", "1R flat, 2L flat, 3R flat, 4- clap"),
        ("tap", "clap: 2, 4; stamp: 1, 3", "1R flat, 2- clap, 3L flat, 4- clap"),
        ("tap", "stamp = 1, clap = 2 and 3, stamp = 4", "1R flat, 2- clap, 3- clap, 4L flat"),
        ("tap", "step: 1, shuffle: & 2, stamp: 3", "1R step, &L brush, 2L spank, 3L flat"),
        ("tap", "stamp 1 and 3, clap 2 and 4", "1R flat, 2- clap, 3L flat, 4- clap"),
        ("tap", "stamp on 1 then on 2 clap and on 3 stamp", "1R flat, 2- clap, 3L flat"),
        ("tap", "stamp on 1, clap on 2, 3: stamp", "1R flat, 2- clap, 3L flat"),
        ("tap", "flaps: 2. stamps: 1.", "&R brush, 1R step, &L brush, 2L step, 3R flat"),
        ("tap", "stamp twice. clap once. hold.", "1R flat, 2L flat, 3- clap, 4- hold"),
        ("tap", "1+2+ step heel step heel", "1R step, &R heel, 2L step, &L heel"),
        ("tap", "flap +1, flap +2", "&R brush, 1R step, &L brush, 2L step"),
        ("tap", "stamp (1, 3) clap (2, 4)", "1R flat, 2- clap, 3L flat, 4- clap"),
        ("tap", "stamp: 1", "1R flat"),
        ("tap", "clap: 2, 4", "2- clap, 4- clap"),
        ("swing", "rock step (1, 2) rock step (3, 4)", "1R step, 2L step, 3R step, 4L step"),
        ("tap", "clap (2, 4)", "2- clap, 4- clap"),
        ("tap", "flap x2 + stamp", "&R brush, 1R step, &L brush, 2L step, 3R flat"),
        ("tap", "flap*2 + stamp*1", "&R brush, 1R step, &L brush, 2L step, 3R flat"),
        ("tap", "stamp + clap + stamp", "1R flat, 2- clap, 3L flat"),
        ("tap", "flap x2 + stamp + clap", "&R brush, 1R step, &L brush, 2L step, 3R flat, 3- clap"),
        ("tap", "stamp + clap x2", "1R flat, 1- clap, 2L flat, 2- clap"),
        ("tap", "stamp, clap (x2)", "1R flat, 2- clap, 3L flat, 4- clap"),
        ("tap", "stamp, clap x2", "1R flat, 2- clap, 3- clap"),
        ("tap", "step - hop - step", "1R step, 2R hop, 3L step"),
        ("tap", "1 step - 2 clap -", "1R step, 2- clap"),
        ("tap", "5 6 7 8 stamp", "5R flat, 6L flat, 7R flat, 8L flat"),
    )
    def test_read(self, tradition: str, body: str, read: str) -> None:
        one = piece(tradition, body)
        self.assertEqual((said(one), one.problems), (read, ()))
        self.assertLessEqual(len(doubted(one)), 1)

    @cases(
        ("step - step -",),
        ("stamp - - clap",),
        ("stamp – clap – stamp –",),
        ("stamp . clap .",),
        ("step step . step",),
        ("1 stamp 2 x 3 stamp 4 x",),
    )
    def test_a_dash_for_a_hold_is_asked_about(self, body: str) -> None:
        (problem,) = piece("tap", body).problems
        self.assertEqual(problem.code, "N109")
        self.assertIn('Say "hold"', problem.message)

    @cases(
        ("1: stamp",),
        ("5 6 7 8: 1 step 2 step",),
        ("stamp + clap",),
        ("1 step: 2 clap",),
        ("stamp =",),
    )
    def test_left_as_it_is(self, body: str) -> None:
        nodes = parse_line(body)[0]
        texts = [getattr(node, "text", "") for node in as_listed(nodes)]
        self.assertEqual(texts, [getattr(node, "text", "") for node in nodes])


if __name__ == "__main__":
    unittest.main()
