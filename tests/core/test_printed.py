"""Lines as a printed sheet has them, feet and ways shortened: common practice, no source."""

import unittest

from firn.core.script.printed import as_printed
from firn.core.script.tree import parse_line
from firn.core.steps.shelf import shipped
from tests.core.test_readings import piece, said
from tests.support import cases


def sounds(name: str) -> int:
    """How many sounds a step of tap has, by its name."""
    card = shipped().find(name, "tap")
    return len(card.beats) if card is not None else 0


class PrintedTest(unittest.TestCase):
    @cases(
        ("swing", "1-2 Step R to R side, touch L", "1R step, 2L touch"),
        ("swing", "3-4 Step L to side, touch R next to L", "3L step, 4R touch"),
        ("swing", "1 step to the left side 2 step", "1R step, 2L step"),
        ("swing", "1 step R to R 2 touch L", "1R step, 2L touch"),
        ("swing", "1 touch R beside the other foot 2 step", "1R touch, 2R step"),
        ("swing", "1 Touch L beside R 2 tap R by L 3 hold", "1L touch, 2R touch, 3- hold"),
        ("swing", "1 step R 2 step L beside R 3 step R", "1R step, 2L step, 3R step"),
        ("swing", "1-2 Rock back on R, recover on L", "1R step, 2L step"),
        ("latin", "Step fwd on L (1), replace R (2), close L (3)", "1L step, 2R step, 3L step"),
        ("swing", "1-3 Walk fwd R, L, R", "1R step, 2L step, 3R step"),
        ("swing", "walk L, R", "1L step, 2R step"),
        ("tap", "1 Stamp R ft 2 Stamp L ft. 3 Clap", "1R flat, 2L flat, 3- clap"),
        ("tap", "ct. 2 clap cts. 3 & stamp", "2- clap, 3R flat, &L flat"),
        ("tap", "L: stamp (1), R: stamp (2)", "1L flat, 2R flat"),
        ("tap", "R: stamp (1) clap (2)", "1R flat, 2- clap"),
        ("latin", "walk 1 2 3 and touch on 4", "1R step, 2L step, 3R step, 4L touch"),
        ("tap", "step 1 and clap 2 and stamp 3", "1R step, 2- clap, 3L flat"),
        ("tap", "clap on the 2 and on the 4", "2- clap, 4- clap"),
        ("tap", "three stamps: left, right, left", "1L flat, 2R flat, 3L flat"),
        ("tap", "2 stamps: R, L", "1R flat, 2L flat"),
        ("tap", "three stamps in a row", "1R flat, 2L flat, 3R flat"),
        ("tap", "in 4 counts: step step step clap", "1R step, 2L step, 3R step, 4- clap"),
        ("folk stamping", "tres golpes seguidos y una palma", "1R flat, 2L flat, 3R flat, 4- clap"),
        ("folk stamping", "palmas en el uno y en el tres", "1- clap, 3- clap"),
        ("folk stamping", "en tres tiempos: golpe golpe palma", "1R flat, 2L flat, 3- clap"),
        ("latin", "paso, toca", "1R step, 2L touch"),
        ("tap", "st. L, st. R, clap", "1L step, 2R step, 3- clap"),
        ("tap", "shuf. hop step", "&R brush, 1R spank, &L hop, 2R step"),
        ("tap", "shuf ball ch.", "&R brush, 1R spank, &R step, 2L step"),
        ("swing", "rk st, trip. st", "1R step, 2L step, 3R step, aL step, 4R step"),
        ("latin", "sd L, tog R, sd L, tch R", "1L step, 2R step, 3L step, 4R touch"),
        ("clogging", "DS RS (R LR)", "&R brush, aR spank, 1R step, &L step, 2R step"),
        ("clogging", "DS DS (L R)", "&L brush, aL spank, 1L step, &R brush, aR spank, 2R step"),
        ("folk stamping", "Golpe PI, palma, golpe PD", "1L flat, 2- clap, 3R flat"),
        ("folk stamping", "1 golpe PD 2 golpe PI", "1R flat, 2L flat"),
    )
    def test_read(self, tradition: str, body: str, read: str) -> None:
        one = piece(tradition, body)
        self.assertEqual((said(one), one.problems), (read, ()))

    @cases(
        ("a way on that is another word", "step to stamp"),
        ("next in the line", "next step"),
        ("beside nothing", "step beside"),
        ("on a count", "stamp on 1"),
        ("a foot that begins", "starting on the right"),
        ("feet that are not as many as steps", "DS DS RS (L R)"),
        ("steps in full before feet", "stamp clap (L R)"),
        ("a colon without a count in brackets", "R: step heel"),
        ("not in capitals", "golpe pi"),
        ("sentences", "Step. Clap. step. clap."),
        ("words for short that are no name together", "st clap"),
        ("a length in feet", "jump 2 ft"),
        ("an and that is a count", "1 step and 2 clap"),
        ("the same on more counts", "tap on 4 and on 8"),
        ("a step said of no number", "step 1 2 and clap"),
    )
    def test_left_as_it_is(self, _: str, body: str) -> None:
        nodes, _ = parse_line(body)
        self.assertEqual(list(as_printed(nodes, sounds)), list(nodes))

    def test_a_letter_alone_is_a_step_only_behind_one_with_the_other_foot(self) -> None:
        for body in ("hop R, step, L", "step R, R", "stamp, L"):
            self.assertTrue(piece("tap", body).problems, body)


if __name__ == "__main__":
    unittest.main()
