"""What is called ahead of a line, or open in how many and how long it says: common practice, no source."""

import unittest

from firn.core.reading.doubts import findings
from firn.core.script.called import as_called, is_now
from firn.core.script.changes import changed_text
from firn.core.script.tree import parse_line
from tests.core.test_readings import doubted, piece, said
from tests.support import cases


class AheadTest(unittest.TestCase):
    @cases(
        ("tap", "silence on 4: 1 stamp 2 stamp 3 stamp", "1R flat, 2L flat, 3R flat, 4- hold"),
        ("tap", "rest on 2, 1 stamp 3 stamp", "1R flat, 2- hold, 3L flat"),
        ("tap", "hold on the 3: 1 stamp & step 2 stamp 4 step", "1R flat, &L step, 2R flat, 3- hold, 4L step"),
        ("tap", "nothing on 4: 1 flap 2 flap 3 stamp", "&R brush, 1R step, &L brush, 2L step, 3R flat, 4- hold"),
        ("tap", "and back, 1 step", "1R step"),
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
        ("tap", "now, 1 step 2 stamp", "1R step, 2L flat"),
        ("tap", "and, 1 step 2 stamp", "1R step, 2L flat"),
        ("tap", "stamp left, 1 step", "8L flat, 1R step"),
        ("tap", "1 step, hold on 2", "1R step, 2- hold"),
        ("tap", "and stamp, 2 step", "&R flat, 2L step"),
    )
    def test_what_is_no_call(self, tradition: str, body: str, read: str) -> None:
        self.assertEqual(said(piece(tradition, body)), read)

    @cases(
        ("rest stamp on 4, 1 step",), ("silence, 1 step",), ("rest on, 1 step",), ("and left back, 1 step",),
        ("stamp on 4, 1 step",), ("left, 1 step",), ("and back, step",), ("and back, 1 stamp",),
        ("rest on 1-2, 3 step",),
        ("1 step, rest on 2",), ("rest on 4",), ("and stamp, 1 step",),
    )  # fmt: skip
    def test_what_is_left_as_it_is(self, body: str) -> None:
        nodes, _ = parse_line(body)
        self.assertIs(as_called(nodes), nodes)

    @cases(("triple now", True), ("now", False), ("triple", False), ("1 now", False), ("stamp ! now", False))
    def test_what_comes_now(self, body: str, now: bool) -> None:
        nodes, _ = parse_line(body)
        self.assertEqual(is_now(nodes), now)

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
        ("tap", "turn on 1 2", ["1- turn, 2- turn", "1- turn"]),
        ("tap", "2 stamps 4 steps", ["1R flat, 2L flat, 3R step, 4L step, 5R step, 6L step", "2R flat, 4L step"]),
        ("tap", "2 claps, 4 claps", ["2- clap, 4- clap", "1- clap, 2- clap, 3- clap, 4- clap, 5- clap, 6- clap"]),
        ("tap", "stamp stamp clap, stamp stamp clap", None),
    )
    def test_each_way_taken(self, tradition: str, body: str, ways: list[str] | None) -> None:
        one = piece(tradition, body)
        taken = [
            said(piece(tradition, changed_text(body, mend.changes)))
            for doubt in findings(one.parts[0]) for mend in doubt.mends
        ]  # fmt: skip
        self.assertEqual(taken or None, ways)

    def test_a_name_before_a_comma_taken_as_that(self) -> None:
        body = "triple, DS DS DS RS"
        (doubt,) = findings(piece("clogging", body).parts[0])
        danced, named = (changed_text(body, mend.changes) for mend in doubt.mends)
        self.assertEqual((danced, named), (body, "DS DS DS RS"))
        self.assertEqual(doubt.spot, (0, 0, len(body)))

    def test_where_what_must_be_said_is_asked(self) -> None:
        for body, word in (("four flaps, last one a stamp", "last"), ("four flaps, the last a stamp", "last"),
                           ("step, turn left in 4 steps", "turn")):  # fmt: skip
            problem = next(p for p in piece("tap", body).problems if p.message.startswith("Say "))
            self.assertEqual(body[problem.column :][: len(word)], word)

    @cases(
        ("clogging", "triple, triple"), ("tap", "1 turn 2 turn"), ("tap", "1 2 step"), ("tap", "2 clap 4 clap"),
        ("tap", "1 step 2 clap"), ("tap", "shuffle step, shuffle step"), ("tap", "1-2 turn"),
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

    @cases(
        ("1 flap 2 flap, last one a stamp",), ("four flap, last one a stamp",), ("flap x4, last a stamp",),
        ("one flaps, last one a stamp",), ("four flaps, last",), ("stamp, last one, four flaps",),
        ("turn left in step",), ("turn left, in 4 steps",), ("left in 4 steps",),
    )  # fmt: skip
    def test_nothing_is_asked_where_it_is_said(self, body: str) -> None:
        self.assertFalse([p for p in piece("tap", body).problems if p.message.startswith("Say ")])

    @cases(("tap", "flap, brush step"), ("clogging", "triple, DS DS RS"), ("clogging", "1 triple, DS DS DS RS"))
    def test_what_is_not_just_what_follows_is_danced(self, tradition: str, body: str) -> None:
        """A figure of two sounds, one that has others, one on a count of its own."""
        offers = [offer for ways in doubted(piece(tradition, body)) for offer in ways]
        self.assertNotIn(f"“{body.partition(', ')[2]}”", offers)

    @cases(("last one: 1 flap 2 flap",), ("1 flap, last one, 2 stamp",), ("2 flap, last one, 3 stamp",))
    def test_one_that_only_comes_last_is_not_asked_about(self, body: str) -> None:
        self.assertEqual(piece("tap", body).problems, ())


if __name__ == "__main__":
    unittest.main()
