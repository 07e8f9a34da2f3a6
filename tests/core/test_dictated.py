"""What is only said to go on talking, what was misheard, what is taken back: common practice, no source."""

import unittest

from firn.core.script.dictated import as_dictated, taken_back
from firn.core.script.tree import parse_line
from tests.core.test_readings import doubted, piece, said
from tests.support import cases

COUNTED = "1R step, 2L flat, 3R step"


class DictatedTest(unittest.TestCase):
    @cases(
        ("tap", "one step to stamp three step", COUNTED),
        ("tap", "won step too stamp three step", COUNTED),
        ("tap", "um one step okay two stamp you know three step", COUNTED),
        ("tap", "um, 1 step 2 stamp, well 3 step", COUNTED),
        ("folk stamping", "1 paso, o sea 2 golpe pues 3 paso", COUNTED),
        ("tap", "step uh stamp", "1R step, 2L flat"),
        ("tap", "5 step 6 stamp 7 step ate stamp", "5R step, 6L flat, 7R step, 8L flat"),
        ("tap", "one step two step three step for stamp", "1R step, 2L step, 3R step, 4L flat"),
        ("tap", "clap for times", "1- clap, 2- clap, 3- clap, 4- clap"),
        ("tap", "clap on won, clap on two", "1- clap, 2- clap"),
        ("tap", "1 step 2 heal", "1R step, 2R heel"),
        ("tap", "&1 bowl change", "&R step, 1L step"),
        ("swing", "one rock two step three and four triple", "1R step, 2L step, 3R step, &L step, 4R step"),
        ("tap", "one uh two step", "1R step, aL step, 2R step"),
        ("tap", "1 slide to the right 3 step", "1L slide, 3R step"),
        ("tap", "1 step to side 3 step", "1R step, 3L step"),
    )
    def test_read_as_it_was_said(self, tradition: str, body: str, read: str) -> None:
        one = piece(tradition, body)
        self.assertEqual((said(one), one.problems, doubted(one)), (read, (), []))

    @cases(
        ("1 step to clap",), ("double step to rock step",), ("1 step 2 clap for",), ("1 step, 3 clap to step",),
        ("1 step 2 step ate",),
        ("1 slide to nowhere 2 step",), ("1 step to 3 clap",),
    )  # fmt: skip
    def test_no_number_is_made_up(self, body: str) -> None:
        """What sounds like a number, where the others do not go on through it, is asked about."""
        self.assertIn("N101", [p.code for p in piece("tap", body).problems])

    @cases(
        ("1 step 2 clap, no, 2 stamp", "no", "1 step 2 stamp", "1R step, 2L flat"),
        ("one stamp two hop sorry two clap", "sorry", "one stamp two clap", "1R flat, 2- clap"),
        ("1 flap 2 stamp, scratch that: 1 shuffle 2 step", "scratch that", "", None),
        ("step step, I mean stamp", "i mean", "step stamp", "1R step, 2L flat"),
        ("three flaps, make that two flaps", "make that", "two flaps", "&R brush, 1R step, &L brush, 2L step"),
        ("1 stamp 2 stamp not clap", "not", "1 stamp 2 stamp", "1R flat, 2L flat"),
        ("shuffle step, perdón, flap", "perdón", "perhaps: flap", None),
    )
    def test_what_is_taken_back_is_asked(self, body: str, word: str, meant: str, read: str | None) -> None:
        one = piece("tap", body)
        (problem,) = [p for p in one.problems if p.code == "N109"]
        self.assertTrue(problem.message.startswith(f'"{word}" seems to take something back.'))
        self.assertTrue(problem.message.endswith(meant), problem.message)
        if read is not None:
            self.assertEqual((said(one), len(one.problems)), (read, 1))

    def test_a_very_long_line_is_not_said_again(self) -> None:
        (problem,) = piece("tap", "step " * 60 + "no stamp").problems
        self.assertTrue(problem.message.endswith("…"))
        self.assertLess(len(problem.message), 160)

    @cases(("no " * 2_500,), ("to " * 2_500,), ("for zz " * 1_200,), ("step + clap + " * 600,), ("zz no " * 1_200,))
    def test_very_much_of_it_is_read(self, body: str) -> None:
        """Once a line of very many came to no end; that it ends soon is measured by ./run fuzz."""
        self.assertTrue(piece("tap", body).parts)

    @cases(
        ("no step",), ("1 step no",), ("wait",), ("1 step 2 wait 3 step",), ("walk to the right, walk to the left",)
    )
    def test_nothing_is_taken_back(self, body: str) -> None:
        self.assertNotIn("N109", [p.code for p in piece("tap", body).problems])

    def test_a_step_called_so_is_one(self) -> None:
        nodes = parse_line("1 to go 2 clap 3 to go")[0]
        self.assertIs(as_dictated(nodes, lambda name: int(name in ("to go", "clap"))), nodes)
        self.assertIsNone(taken_back(parse_line("step no clap")[0], lambda name: int(name in ("step", "no clap"))))


if __name__ == "__main__":
    unittest.main()
