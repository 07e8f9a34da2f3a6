"""Numbers before several where a line begins, counts that go round and round a figure, turns said before their step,
feet behind brackets. Common practice, no source."""

from tests.core.read_case import ReadCase
from tests.core.test_readings import doubted, piece, sounding
from tests.support import cases


class SoManyFirstTest(ReadCase):
    @cases(
        ("tap", "4 walks, stamp 8", "1 step 2 step 3 step 4 step 8 stamp"),
        ("tap", "4 walks, then stamp on 5", "1 step 2 step 3 step 4 step 5 stamp"),
        ("tap", "4 walks then 5 stamp 6 stamp", "1 step 2 step 3 step 4 step 5 stamp 6 stamp"),
        ("clogging", "2 basics, 5 stomp, 6 stomp", "&a1&2 basic  &a3&4 basic  5 stomp 6 stomp"),
        ("tap", "& 1 & 2 flaps", "&1 flap &2 flap"),
        ("tap", "&1&2 flap", "&1 flap &2 flap"),
        ("tap", "& 1 & 2 & 3 & 4 shuffles", "&1 shuffle &2 shuffle &3 shuffle &4 shuffle"),
        ("tap", "1 & a 2 & a shuffle steps", "1&a shuffle step 2&a shuffle step"),
        ("tap", "1&2&3&4& flap", "1& flap 2& flap 3& flap 4& flap"),
        ("clogging", "turn 1/2 left on a triple", "triple 1/2 left"),
        ("clogging", "half turn left on the triple", "triple 1/2 left"),
        ("clogging", "turn 1/2 left with a triple", "triple 1/2 left"),
        ("clogging", "triple turn 1/2 left", "triple 1/2 left"),
        ("clogging", "basic, then turn 1/4 right on a triple", "basic, triple 1/4 right"),
        ("clogging", "DS DS DS RS / L R L RL", "L DS, R DS, L DS, R RS"),
        ("clogging", "DS DS RS / L R LR / DS RS", "L DS, R DS, L RS, DS, RS"),
        ("clogging", "DS DS DS RS, L R L RL", "L DS, R DS, L DS, R RS"),
        ("tap", "flap flap ball change / R L RL", "R flap, L flap, R ball change"),
        ("tap", "flap flap stamp | right left right", "R flap, L flap, R stamp"),
        ("clogging", "(DS RS) left, (DS RS) right", "L DS RS, R DS RS"),
        ("clogging", "(DS DS RS) x2 on the left", "(L DS DS RS) x2"),
        ("clogging", "left foot: (DS DS RS) x 4", "(L DS DS RS) x4"),
        ("clogging", "L (DS RS) R (DS RS)", "L DS RS, R DS RS"),
        ("tap", "8 flaps (1-8)", "flap x8"),
        ("tap", "4 stamps 5-8", "5 stamp 6 stamp 7 stamp 8 stamp"),
        ("tap", "1-6 flaps, hold 7-8", "&1 flap &2 flap &3 flap &4 flap &5 flap &6 flap 7-8 hold"),
        ("tap", "1-4 shuffles, hold 5-6, stamp 7", "shuffle x4, 5-6 hold 7 stamp"),
        ("latin", "chasse on 4 and 1", "4&1 chasse"),
        ("latin", "cha cha cha on 4 & 1", "4&1 chasse"),
        ("latin", "mambo forward, mambo back", "1 step 2 step 3 step 4 hold 5 step 6 step 7 step 8 hold"),
    )
    def test_as_it_is_written_out(self, tradition: str, said: str, written: str) -> None:
        self.assert_as_written(tradition, said, written)

    @cases(
        ("4 walks 5 stamp 6 stamp", "“4 walk”", "“walks x4”"),
        ("2 steps 3 & 4 shuffle ball change", "“2 step”", "“steps x2”"),
        ("heel step heel step", "heel, then step", "heel step, the step"),
        ("scuff heel step", "heel, then step", "heel step, the step"),
        (
            "flap, ball change, 2 stamps each foot",
            "“flap, ball change\n2 stamps\neach foot”",
            "“flap, ball change, 2 stamps\neach foot”",
        ),
        (
            "flap, ball change, stamp on each foot",
            "“flap, ball change, stamp\non each foot”",
            "“flap, ball change\nstamp\non each foot”",
        ),
    )
    def test_in_doubt(self, said: str, believed: str, other: str) -> None:
        one = piece("tap", said)
        self.assertEqual([p.message for p in one.problems], [])
        self.assertEqual(doubted(one)[0], [believed, other])

    def test_how_many_of_a_part_that_would_begin_late(self) -> None:
        """Taken the other way they begin on 1, and not where the number would have been a count."""
        taken = piece("tap", "walks x4 5 stamp 6 stamp")
        self.assertEqual([p.message for p in taken.problems], [])
        self.assertEqual(sounding(taken), sounding(piece("tap", "4 walks, 5 stamp 6 stamp")))

    @cases(
        ("clap on a rock step", '"a" may be a count, or only a word: part the steps by commas, or say the counts.'),
        ("turn on the triple", 'Say how far "triple turn" turns, as in 1/4 left; or "triple, turn".'),
        ("turn left on the triple", 'Say how far "triple turn" turns, as in 1/4 left; or "triple, turn".'),
    )
    def test_asked(self, said: str, told: str) -> None:
        one = piece("clogging", said)
        self.assertEqual(([p.message for p in one.problems], doubted(one)), ([told], []))

    @cases(("flap ( ) x4 left",), ("( ) left",), ("1 flap ( )",), ("L: ( ) x2",))
    def test_empty_brackets(self, said: str) -> None:
        self.assertIn("left", {s.foot for s in piece("tap", f"{said}, L stamp").parts[0].sounds})

    def test_on_the_a_of_a_count(self) -> None:
        self.assertEqual(sounding(piece("tap", "clap on a, step on 2")), sounding(piece("tap", "a clap 2 step")))
