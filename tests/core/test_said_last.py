"""Counts, feet and how often that are said when the steps are; heads that only say on which count a line begins.

What teachers mean by them is common practice, no source.
"""

from itertools import product

from tests.core.read_case import ReadCase
from tests.core.test_readings import doubted, piece, said, sounding
from tests.support import cases


class CountsLastTest(ReadCase):
    @cases(
        ("tap", "step heel step heel, 1 & 2 &", "1 step & heel 2 step & heel"),
        ("tap", "flap, flap, step: &1 &2 3", "&1 flap &2 flap 3 step"),
        ("tap", "dig, spank, ball change: 1 & a 2", "1 dig & spank a2 ball change"),
        ("tap", "stamp, step, step, stamp: 1 & 2 3", "1 stamp & step 2 step 3 stamp"),
        ("tap", "paddle and roll, 1 e & a", "1e&a paddle and roll"),
        ("tap", "flap flap flap ball change, 1 to 4", "1 flap 2 flap 3 flap 4 ball change"),
        ("tap", "stamp stamp clap, 1 and 2, then clap on 3", "1 stamp & stamp 2 clap 3 clap"),
        ("tap", "stamp clap, on counts 1 and 2", "1 stamp 2 clap"),
        ("tap", "stamp stamp clap, 1 & 2, twice", "1 stamp & stamp 2 clap 3 stamp & stamp 4 clap"),
        ("tap", "right stamp, left stamp, 1 2, clap clap, 3 4", "1 R stamp 2 L stamp 3 clap 4 clap"),
        ("tap", "three stamps and a clap: 1 2 3 4", "1 stamp 2 stamp 3 stamp 4 clap"),
        ("tap", "two flaps and a step, 1 2 3", "1 flap 2 flap 3 step"),
        ("tap", "stamp, 2 claps: 1 2 3", "1 stamp 2 clap 3 clap"),
        ("clogging", "two doubles and a rock: &1 &2 &3", "&1 double &2 double &3 rock"),
        ("folk stamping", "son tres golpes y una palma: uno, dos, tres, cuatro", "1 golpe 2 golpe 3 golpe 4 palma"),
        ("tap", "right, left, right, 1 & 2", "1 R step & L step 2 R step"),
        ("folk stamping", "derecha, izquierda, derecha: 1 2 3", "1 R step 2 L step 3 R step"),
        ("tap", "step right 1, heel right and, step left 2, heel left and", "1 R step & R heel 2 L step & L heel"),
        ("tap", "stamp, heel, stamp, heel - 1, 2, 3, 4", "1 stamp 2 heel 3 stamp 4 heel"),
        ("tap", "stamp, clap, stamp (1 2 3)", "1 stamp 2 clap 3 stamp"),
        ("clogging", "DS, DS, RS (&1 &2 &3)", "&1 DS &2 DS &3 RS"),
        ("tap", "stamp (loud) 1, step 2", "1 stamp 2 step"),
        ("tap", "stamp (no weight) 1, step 2", "1 stamp (no weight) 2 step"),
        ("tap", "flap (soft) &1, step 2", "&1 flap 2 step"),
        ("tap", "step 1 R, stamp 2 L, clap 3", "1 R step 2 L stamp 3 clap"),
        ("tap", "step 1 (R), stamp 2 (L)", "1 R step 2 L stamp"),
        ("tap", "step 1 (right foot), stamp 2 (left foot)", "1 R step 2 L stamp"),
        ("tap", "flap &1 R, flap &2 L, step 3", "&1 R flap &2 L flap 3 step"),
        ("tap", "stamp, clap (2 4)", "1 stamp 2 clap 4 clap"),
        ("swing", "triple step, rock step: 1 & 2, 3 4", "1&2 triple step 3 4 rock step"),
        ("swing", "rock step triple step, 5 6 7 & 8", "5 6 rock step 7&8 triple step"),
        ("folk stamping", "planta golpe planta golpe, 1 y 2 y", "1 planta & golpe 2 planta & golpe"),
        ("folk stamping", "golpe, palma, golpe, en 1 y 2", "1 golpe & palma 2 golpe"),
        ("latin", "bachata: side, together, side, tap; 1 2 3 4", "1 side 2 together 3 side 4 tap"),
        ("latin", "cucaracha right 1 2 3, cucaracha left 5 6 7", "1 R cucaracha 5 L cucaracha"),
        ("latin", "samba whisk right: 1 a 2", "1a2 R samba whisk"),
    )
    def test_of_steps_before_a_pause(self, tradition: str, body: str, written: str) -> None:
        self.assert_as_written(tradition, body, written)

    def test_in_front_or_behind_they_are_the_same(self) -> None:
        steps = ("stamp", "clap", "hop", "toe tip")
        for row in product(steps, repeat=3):
            before = piece("tap", " ".join(f"{count} {step}" for count, step in zip("1&2", row, strict=True)))
            for pause in (", ", ": ", "; "):
                behind = piece("tap", f"{', '.join(row)}{pause}1 & 2")
                with self.subTest(row, pause=pause):
                    self.assertEqual((sounding(behind), doubted(behind)), (sounding(before), []))

    def test_no_longer_a_line_is_looked_through_than_is_told_in_one_breath(self) -> None:
        for many, asked in ((8, False), (80, True)):
            one = piece("tap", f"{'clap ' * many}, {'1 2 3 4 5 6 7 8 ' * (many // 8)}")
            with self.subTest(many=many):
                self.assertEqual(bool(one.problems), asked)

    @cases(
        ("latin", "side close, 3 4"),
        ("latin", "side close, 2 3"),
        ("tap", "stamp clap, 1 2 3"),
        ("tap", "1 stamp, clap, 2 3"),
    )
    def test_that_do_not_fit_are_asked_about(self, tradition: str, body: str) -> None:
        self.assertTrue(piece(tradition, body).problems)

    @cases(
        ("tap", "stamp 1 and 2 clap", "1 stamp 2 clap"),
        ("tap", "stamp one and two clap", "1 stamp 2 clap"),
        ("tap", "stamp 1, clap 2, stamp 3 and 4 clap", "1 stamp 2 clap 3 stamp 4 clap"),
        ("latin", "left back 1, right in place 2, left together 3 and 4 hold", "1 L back 2 place 3 together 4 hold"),
    )
    def test_before_an_and_that_leads_to_the_next_count(self, tradition: str, body: str, written: str) -> None:
        self.assert_as_written(tradition, body, written)

    @cases(
        ('shuffle on the "and" and 2, step on 3', "&2 shuffle 3 step"),
        ("shuffle on the and and 2, step on 3", "&2 shuffle 3 step"),
        ("clap on the 'a' of 2", "clap on the a of 2"),
        ("step on the “and” of 1", "step on the and of 1"),
    )
    def test_in_quotes_and_with_a_second_and(self, body: str, written: str) -> None:
        self.assert_as_written("tap", body, written)


class OnCountsTest(ReadCase):
    @cases(
        ("swing", "rock on 1, step on 2, triple on 3 & 4", "1 2 rock step 3&4 triple"),
        ("swing", "1 rock, 2 step, 3 & 4 triple", "1 2 rock step 3&4 triple"),
        ("swing", "the rock step is on 1 2 and the triple steps are on 3 & 4 and 5 & 6",
         "1 2 rock step 3&4 triple step 5&6 triple step"),
        ("tap", "ball on &, change on 1", "& 1 ball change"),
        ("clogging", "DS on &1 and &2, RS on &3", "&1 DS &2 DS &3 RS"),
        ("tap", "flap on &1, &2 and &3", "&1 flap &2 flap &3 flap"),
        ("tap", "shuffle step on 1&2 and 3&4", "1&2 shuffle step 3&4 shuffle step"),
        ("tap", "cramp roll on 1 e & a, and another on 3 e & a", "1e&a cramp roll 3e&a cramp roll"),
        ("tap", "four steps, each on its own count", "four steps"),
        ("tap", "four steps, one per beat", "four steps"),
        ("folk stamping", "cuatro golpes, uno en cada tiempo", "cuatro golpes"),
        ("tap", "flap stamp, four times through", "flap stamp, four times"),
        ("tap", "on 1 it's a stamp, on 2 it's a clap", "1 stamp 2 clap"),
        ("clogging", "start on the left foot with a basic", "L basic"),
        ("tap", "1 2: stamp and clap", "1 stamp 2 clap"),
        ("tap", "1 and 2 stamp clap", "1 stamp 2 clap"),
        ("tap", "stamp, clap, 3 and 4 stamp clap", "1 stamp 2 clap 3 stamp 4 clap"),
        ("tap", "1 and 2 stamp clap stamp", "1 stamp & clap 2 stamp"),
        ("tap", "1 and 2 shuffle step", "1& shuffle 2 step"),
        ("tap", "1 & 2: shuffle and step", "1& shuffle 2 step"),
        ("tap", "1 e & a: paddle and roll", "1e&a paddle and roll"),
        ("tap", "step on every count, 1 to 4", "1 step 2 step 3 step 4 step"),
        ("tap", "stamp on 1, stamp on 2, clap on 3", "1 stamp 2 stamp 3 clap"),
    )  # fmt: skip
    def test_steps_are_explained(self, tradition: str, body: str, written: str) -> None:
        self.assert_as_written(tradition, body, written)

    def test_counts_that_take_turns_may_be_of_the_next_eight(self) -> None:
        together = piece("tap", "clap on 2 4, step on 1 3")
        for body in ("clap on 2, clap on 4, step on 1, step on 3", "clap on 2, clap on 4, and step on 1 and on 3"):
            one = piece("tap", body)
            with self.subTest(body):
                self.assertEqual((sounding(one), len(doubted(one))), (sounding(together), 1))

    def test_of_counts_apart_one_foot_is_that_of_each(self) -> None:
        one = piece("tap", "stamp with the right on 1 3")
        self.assertEqual(
            (said(one), [f.code for f in one.parts[0].footing.faults]), ("1R flat, 3R flat", ["carries"])
        )
        self.assertEqual(said(piece("tap", "1 2 3 walk with the right")), "1R step, 2L step, 3R step")
        # Danced on the & too it would not be one foot twice: both are offered.
        self.assertEqual(len(doubted(piece("tap", "stamp on 1 and 3 with the right, clap on 2 and 4"))), 1)


class FeetLastTest(ReadCase):
    @cases(
        ("stamp stamp stamp: right left right", "R stamp, L stamp, R stamp"),
        ("flap flap flap, R L R", "R flap, L flap, R flap"),
        ("flap flap ball change, R L R", "R flap, L flap, R ball change"),
        ("step heel step heel, R R L L", "R step, R heel, L step, L heel"),
        ("1 stamp 2 stamp, left right", "1 L stamp 2 R stamp"),
    )
    def test_each_is_of_a_step(self, body: str, written: str) -> None:
        self.assert_as_written("tap", body, written)

    def test_of_one_figure_it_is_asked(self) -> None:
        self.assertEqual(len(doubted(piece("tap", "shuffle step, R L"))), 1)
        self.assertEqual(len(doubted(piece("tap", "stamp clap stamp, right left"))), 1)

    @cases(
        ("step on 1 left, clap 2", "1 L step 2 clap"),
        ("step on 1 left, shuffle on & 2 right", "1 L step &2 R shuffle"),
        ("then step on 1 left and clap on 2", "1 L step 2 clap"),
    )
    def test_behind_the_count_it_is_of_the_step(self, body: str, written: str) -> None:
        self.assert_as_written("tap", body, written)


class BetweenTest(ReadCase):
    """What says of steps who dances them, and whether they are heard."""

    @cases(
        ("on 1 you stamp, on 2 you clap", "1 stamp 2 clap"),
        ("on one we stamp and on two we clap", "1 stamp 2 clap"),
        ("silent on 1, stamp on 2, silent on 3", "1 hold 2 stamp 3 hold"),
        ("stomp (no weight) on 1, stomp (weight) on 2", "1 stomp 2 stamp"),
    )
    def test_it_is_no_step(self, body: str, written: str) -> None:
        self.assert_as_written("tap", body, written)

    def test_back_the_other_way_is_no_step_back(self) -> None:
        for body in (". Back the other way.", ", and back to the other side", "\nBack the other way."):
            with self.subTest(body):
                self.assertEqual(said(piece("tap", f"stamp clap{body}")), "1R flat, 2- clap, 3L flat, 4- clap")

    def test_a_full_stop_ends_a_line_that_dances_the_one_before_again(self) -> None:
        for line in ("other foot", "Then the other side", "other side", "Repeat", "Again, twice", "Three times"):
            bare = piece("tap", f"stamp clap\n{line}")
            for sign in ".!":
                with self.subTest(line, sign=sign):
                    ended = piece("tap", f"stamp clap\n{line}{sign}")
                    self.assertEqual((sounding(ended), len(ended.problems)), (sounding(bare), 0))


class HowOftenLastTest(ReadCase):
    @cases(
        ("tap", "stamp on 1, clap on 2, twice", "1 stamp 2 clap 3 stamp 4 clap"),
        ("tap", "stamp on 1 and clap on 2, three times", "1 stamp 2 clap 3 stamp 4 clap 5 stamp 6 clap"),
        ("tap", "stamp on 1, clap on 2, and do it twice", "1 stamp 2 clap 3 stamp 4 clap"),
        ("tap", "stamp on 1, clap on 2, x2", "1 stamp 2 clap 3 stamp 4 clap"),
        ("clogging", "double step on &1, rock step on &2, twice", "&1 DS &2 RS &3 DS &4 RS"),
        ("folk stamping", "golpe en 1 y palma en 2, dos veces", "1 golpe 2 palma 3 golpe 4 palma"),
    )
    def test_behind_steps_on_their_counts_it_is_of_all(self, tradition: str, body: str, written: str) -> None:
        self.assert_as_written(tradition, body, written)

    @cases(("clap x2 (3 4)",), ("clap twice (3 4)",), ("two claps (3 4)",))
    def test_as_often_as_counts_are_in_brackets(self, body: str) -> None:
        self.assert_as_written("tap", body, "3 clap 4 clap")


class HeadedOnTest(ReadCase):
    @cases(
        ("tap", "we start on 8: shuffle 8 &, step 1, flap &2", "8& shuffle 1 step &2 flap"),
        ("tap", "the time step starts on 8: stomp on 8, hop on 1", "8 stomp 1 hop"),
        ("tap", "starting on 5: stamp 5, clap 6", "5 stamp 6 clap"),
        ("tap", "it starts on the and of 8: 8& shuffle 1 step", "8& shuffle 1 step"),
        ("tap", "this one comes in on 5: stamp clap", "5 stamp 6 clap"),
        ("latin", "salsa on 1: left forward 1, replace 2, together 3", "1 L forward 2 replace 3 together"),
        ("folk stamping", "empieza en 8: golpe 8, golpe 1", "8 golpe 1 golpe"),
        ("tap", "stamp on 1: clap on 2", "1 stamp 2 clap"),
    )
    def test_the_count_of_the_first_step_is_said_once(self, tradition: str, body: str, written: str) -> None:
        self.assert_as_written(tradition, body, written)


class TurnedOnTest(ReadCase):
    @cases(
        ("clogging", "DS DS DS RS, turn 1/2 left on the rock step", "DS DS DS rock step 1/2 left"),
        ("clogging", "DS x3, RS, turn 1/2 left on the RS", "DS x3, RS 1/2 left"),
        ("tap", "flap, stamp, clap, turning 1/4 left on the stamp", "flap, stamp 1/4 left, clap"),
        ("tap", "flap, stamp, a quarter turn left on the stamp", "flap, stamp 1/4 left"),
    )
    def test_it_is_on_the_step_that_was_said(self, tradition: str, body: str, written: str) -> None:
        one, other = self.assert_as_written(tradition, body, written)
        turns = [[str(use.word.turn) for use in read.parts[0].uses] for read in (one, other)]
        self.assertEqual(*turns)


class InSpanishTest(ReadCase):
    @cases(
        ("pisa derecha, pisa izquierda, golpe", "R step, L step, stamp"),
        ("golpes suaves en 2 y 4", "2 stamp~ 4 stamp~"),
        ("palmas fuertes en 2 y 4", "2 clap! 4 clap!"),
        ("golpe lento, golpe rápido, golpe rápido", "1 stamp 2 hold 3 stamp 4 stamp"),
        ("escobilla derecha, golpe", "R escobillado, stamp"),
        ("cruza por delante, golpe", "cruza delante, stamp"),
    )
    def test_common_words(self, body: str, written: str) -> None:
        self.assert_as_written("folk stamping", body, written)


class OnceMoreTest(ReadCase):
    @cases(
        ("tap", "flap on 1, again on 2, again on 3", "1 flap 2 flap 3 flap"),
        ("tap", "step on 1, clap on 2, step again on 3", "1 step 2 clap 3 step"),
        ("tap", "right: shuffle hop step, left: the same", "R shuffle hop step, other side"),
        ("tap", "right foot: flap; left foot the same", "R flap, other side"),
        ("tap", "flap with the right, the left does the same", "R flap, other side"),
        ("swing", "sailor step each way", "sailor step on each side"),
        ("tap", "side together x4 to the right", "( side, together ) x4"),
        ("tap", "side together four times to the side", "( side, together ) x4"),
        ("solo jazz", "two suzy qs, then a hold", "suzy q x2, hold"),
        ("solo jazz", "two suzy q's", "suzy q x2"),
    )
    def test_so_often(self, tradition: str, body: str, written: str) -> None:
        one, other = piece(tradition, body), piece(tradition, written)
        self.assertEqual(([p.message for p in one.problems], doubted(one)), ([], []))
        self.assertEqual(sounding(one), sounding(other))

    def test_both_feet_are_told(self) -> None:
        self.assertEqual(doubted(piece("tap", "flap on the right, same on the left")), [])
        self.assertNotEqual(doubted(piece("tap", "flap, same on the left")), [])
        for line in ("both feet: stomp stomp", "with both feet: stomp"):
            with self.subTest(line):
                self.assert_asked("tap", line, 'Say "both stomp" for both feet at once, or "stomp R, stomp L".')


class StruckWithTest(ReadCase):
    @cases(
        ("tap", "stamp on 1 with a clap", "1 stamp + clap"),
        ("tap", "clap as you step on 3", "3 clap + step"),
        ("tap", "flap, step, ending with a stamp", "flap, step, stamp"),
        ("tap", "flap, step, finishing on a stamp", "flap, step, stamp"),
        ("tap", "flap (count 1), clap (count 2)", "1 flap 2 clap"),
        ("tap", "step (slow), step step (quick quick)", "1 step 3 step 4 step"),
    )
    def test_what_is_said_beside(self, tradition: str, body: str, written: str) -> None:
        self.assert_as_written(tradition, body, written)
