"""What is called ahead of a line, or open in how many and how long it says: common practice, no source."""

import unittest

from firn.core.reading.doubts import findings
from tests.core.test_readings import doubted, piece, said
from tests.support import cases


class AheadTest(unittest.TestCase):
    @cases(
        ("tap", "silence on 4: 1 stamp 2 stamp 3 stamp", "1R flat, 2L flat, 3R flat, 4- hold"),
        ("tap", "rest on 2, 1 stamp 3 stamp", "1R flat, 2- hold, 3L flat"),
        ("folk stamping", "silencio en 1: 2 golpe 3 golpe", "1- hold, 2R flat, 3L flat"),
        ("tap", "and left, 1 step 2 step", "1L step, 2R step"),
        ("tap", "y derecha, 1 paso 2 paso", "1R step, 2L step"),
        ("tap", "and back, 5 step 6 touch", "5R step, 6L touch"),
        ("tap", "stamps now, 1 stamp 2 stamp", "1R flat, 2L flat"),
    )
    def test_in_its_place(self, tradition: str, body: str, read: str) -> None:
        one = piece(tradition, body)
        self.assertEqual((said(one), one.problems, doubted(one)), (read, (), []))

    def test_where_it_goes_is_kept(self) -> None:
        uses = piece("tap", "and back, 1 step 2 step forward 3 stamp").parts[0].uses
        self.assertEqual([use.word.where for use in uses], ["back", "forward", ""])

    @cases(
        ("tap", "hold 1, step 2", "1- hold, 2R step"),
        ("tap", "1 step, hold on 2", "1R step, 2- hold"),
        ("tap", "and stamp, 2 step", "&R flat, 2L step"),
    )
    def test_what_is_no_call(self, tradition: str, body: str, read: str) -> None:
        self.assertEqual(said(piece(tradition, body)), read)

    @cases(
        ("clogging", "triple now,", "DS DS DS RS"), ("tap", "flaps now,", "1 flap 2 flap 3 stamp"),
        ("swing", "rock step now,", "1 rock step 3 step"), ("tap", "flap:", "1 flap 2 flap"),
    )  # fmt: skip
    def test_what_comes_now_is_named_and_not_danced(self, tradition: str, name: str, body: str) -> None:
        one = piece(tradition, f"{name} {body}")
        self.assertEqual((said(one), one.problems, doubted(one)), (said(piece(tradition, body)), (), []))


class OpenTest(unittest.TestCase):
    @cases(
        ("clogging", "triple, DS DS DS RS", ["“triple, DS DS DS RS”", "“DS DS DS RS”"]),
        ("tap", "turn on 1 2", ["“1 turn  2 turn”", "“1-2 turn”"]),
        ("tap", "slide on 1 2 3", ["“1 slide  2 slide  3 slide”", "“1-3 slide”"]),
        ("tap", "2 flaps 4 steps", ["“flap x2,  step x4”", "“2 flap,  4 step”"]),
        ("tap", "2 claps 4 claps", ["“2 clap,  4 clap”", "“clap x2,  clap x4”"]),
        ("clogging", "stomp double double", ["stomp double, the step", "stomp, then double"]),
    )
    def test_both_are_offered(self, tradition: str, body: str, ways: list[str]) -> None:
        self.assertEqual(doubted(piece(tradition, body)), [ways])

    @cases(
        ("clogging", "triple, triple"), ("tap", "1 turn 2 turn"), ("tap", "1 2 step"), ("tap", "2 clap 4 clap"),
        ("tap", "1 step 2 claps"), ("tap", "shuffle step, shuffle step"), ("tap", "1-2 turn"),
    )  # fmt: skip
    def test_what_is_plain_is_not_in_doubt(self, tradition: str, body: str) -> None:
        one = piece(tradition, body)
        self.assertEqual((one.problems, list(findings(one.parts[0]))), ((), []))

    @cases(
        ("four flaps, last one a stamp", "is one of them"), ("flap x4, the last a stamp", "is one of them"),
        ("cuatro golpes, el último fuerte", "is one of them"), ("turn left in 4 steps", "turns on which step"),
        ("turn in 4 steps", "turns on which step"),
    )  # fmt: skip
    def test_what_must_be_said_is_asked_for(self, body: str, asked: str) -> None:
        self.assertIn(asked, " ".join(p.message for p in piece("tap", body).problems))

    @cases(("last one: 1 flap 2 flap",), ("1 flap, last one, 2 stamp",), ("2 flap, last one, 3 stamp",))
    def test_one_that_only_comes_last_is_not_asked_about(self, body: str) -> None:
        self.assertEqual(piece("tap", body).problems, ())


if __name__ == "__main__":
    unittest.main()
