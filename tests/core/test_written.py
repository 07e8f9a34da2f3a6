"""Lines as they are written down after class: feet by letters, hyphens, counts in brackets, a name before a colon.

What teachers mean by them is common practice, no source.
"""

import unittest

from firn.core.piece.piece import Piece
from firn.core.reading.doubts import findings
from firn.core.script.changes import changed_text
from firn.core.script.settings import words_text
from tests.core.test_readings import doubted, piece, said
from tests.support import cases


class WrittenTest(unittest.TestCase):
    def assert_plain(self, one: Piece, sounds: str) -> None:
        """A piece has these sounds, and nothing is wrong with it or in doubt."""
        self.assertEqual(([p.message for p in one.problems], doubted(one)), ([], []))
        self.assertEqual((said(one), one.parts[0].footing.faults), (sounds, ()))

    @cases(
        ("tap", "4 flaps (RLRL)", "&R brush, 1R step, &L brush, 2L step, &R brush, 3R step, &L brush, 4L step"),
        ("tap", "stamp stamp RL", "1R flat, 2L flat"),
        ("tap", "flap RL", "&R brush, 1R step, &L brush, 2L step"),
        ("solo jazz", "triple step L-R-L", "1L step, aR step, 2L step"),
        ("clogging", "DS (L), RS (RL)", "&L brush, aL spank, 1L step, &R step, 2L step"),
        ("folk stamping", "golpe D, golpe I, planta", "1R flat, 2L flat, 3R step"),
        ("folk stamping", "tres golpes (D I D)", "1R flat, 2L flat, 3R flat"),
        ("tap", "(R) step (L) touch", "1R step, 2L touch"),
        ("tap", "L: step, touch", "1L step, 2R touch"),
        ("tap", "flap flap starting with the left", "&L brush, 1L step, &R brush, 2R step"),
        ("tap", "starting left: step step", "1L step, 2R step"),
        ("tap", "1 & 2 R L R stamp", "1R flat, &L flat, 2R flat"),
        ("tap", "(R L) stamp step, touch", "1R flat, 2L step, 3R touch"),
        ("tap", "RL stamp x2", "1R flat, 2L flat"),
        ("tap", "stamp L twice, clap", "1L flat, 2R flat, 3- clap"),
        ("tap", "hop R three times, step L", "1R hop, 2R hop, 3R hop, 4L step"),
        ("clogging", "DS L twice, RS", "&L brush, aL spank, 1L step, &R brush, aR spank, 2R step, &L step, 3R step"),
        ("tap", "stamp: right, left", "1R flat, 2L flat"),
        ("tap", "flaps: left, right", "&L brush, 1L step, &R brush, 2R step"),
        (
            "tap",
            "hop shuffle step: R then L",
            "1R hop, &L brush, aL spank, 2L step, 3L hop, &R brush, aR spank, 4R step",
        ),
        ("clogging", "DS RS: left", "&L brush, aL spank, 1L step, &R step, 2L step"),
        ("tap", "three stamps alternating", "1R flat, 2L flat, 3R flat"),
        ("tap", "stamp x2 (alternating feet)", "1R flat, 2L flat"),
        ("tap", "hops on the right on 1 2", "1R hop, 2R hop"),
        ("house", "step L back, kick R", "1L step, 2R kick"),
    )
    def test_feet(self, tradition: str, body: str, sounds: str) -> None:
        self.assert_plain(piece(tradition, body), sounds)

    @cases(
        ("tap", "(1) stamp (2) touch", "1R flat, 2L touch"),
        ("tap", "[1] stamp [2] touch", "1R flat, 2L touch"),
        ("tap", "1 - stamp, 2 -- touch", "1R flat, 2L touch"),
        ("tap", "1 = stamp, 2 -> touch", "1R flat, 2L touch"),
        ("tap", "Counts 1-4: step heel step heel", "1R step, 2R heel, 3L step, 4L heel"),
        ("tap", "touch (2, 4)", "2R touch, 4R touch"),
        ("latin", "step R (Q), step L (Q), step R (S)", "1R step, 2L step, 3R step, 4- hold"),
        ("tap", "brush-spank-step on 1&2", "1R brush, &R spank, 2R step"),
        ("clogging", "DS-RS, touch", "&R brush, aR spank, 1R step, &L step, 2R step, 3L touch"),
        ("clogging", "triple: DS DS DS RS", said(piece("clogging", "ds ds ds rs"))),
        ("clogging", "2 basics: DS RS DS RS", said(piece("clogging", "ds rs ds rs"))),
        ("swing", "slow slow rock step", "1R step, 2- hold, 3L step, 4- hold, 5R step, 6L step"),
        ("latin", "QQS", "1R step, 2L step, 3R step, 4- hold"),
        ("clogging", "S RS", "1R step, &L step, 2R step"),
        ("tap", "shuffle ball change for four counts", said(piece("tap", "shuffle ball change x2"))),
        ("tap", "one-and-two step step step", "1R step, &L step, 2R step"),
        ("tap", "3x flap", "&R brush, 1R step, &L brush, 2L step, &R brush, 3R step"),
        ("tap", "one and two and step heel", "1R step, &R heel, 2L step, &L heel"),
        ("clogging", "DS DS DS RS (triple)", said(piece("clogging", "ds ds ds rs"))),
        ("swing", "rock R, recover L, step R", "1R step, 2L step, 3R step"),
        ("latin", "adelante, lugar", "1R step, 2L step"),
        ("tap", "1 jump apart 2 jump together", "1B jump, 2B jump"),
        ("tap", "twice: 1 stamp 2 touch", "1R flat, 2L touch, 3L flat, 4R touch"),
        ("tap", "dos veces: 1 stamp 2 touch", "1R flat, 2L touch, 3L flat, 4R touch"),
        ("tap", "1. step R 2. stamp L 3. clap", "1R step, 2L flat, 3- clap"),
        ("tap", "1) step 2) heel 3) stamp", "1R step, 2R heel, 3L flat"),
        ("tap", "1...step 2...stamp", "1R step, 2L flat"),
        ("tap", "1 step. 2 stamp.", "1R step, 2L flat"),
        ("tap", "step 1. stamp 2.", "1R step, 2L flat"),
        ("tap", "ct 1 step, cts 2-3 stamp", "1R step, 2L flat, 3R flat"),
        ("tap", "4 beats: stamp clap stamp clap", "1R flat, 2- clap, 3L flat, 4- clap"),
        ("house", "4 counts loose legs", "1R kick, &R step, 2L step, 3R kick, &R step, 4L step"),
        ("tap", "4 counts of stamps, 2 beats of claps", "1R flat, 2L flat, 3R flat, 4L flat, 5- clap, 6- clap"),
        ("tap", "dos tiempos de golpes", "1R flat, 2L flat"),
        ("tap", "stamp * 2, clap", "1R flat, 2L flat, 3- clap"),
        ("tap", "( stamp clap ) * 2", "1R flat, 2- clap, 3L flat, 4- clap"),
        ("tap", "walk 2 3 touch", "1R step, 2L step, 3R step, 4L touch"),
        (
            "tap",
            "walk 2 3 kick, walk 2 3 clap",
            "1R step, 2L step, 3R step, 4L kick, 5L step, 6R step, 7L step, 8- clap",
        ),
        ("tap", "step half turn left, stamp", "1R step, 2L flat"),
        ("tap", "1-2-3 step, 4 stamp", "1R step, 2L step, 3R step, 4L flat"),
        ("tap", "1-2-3-4 step", "1R step, 2L step, 3R step, 4L step"),
        ("tap", "stamp, 2-3-4 clap", "1R flat, 2- clap, 3- clap, 4- clap"),
        ("tap", "4-5 step, 7-8 stamp", "4R step, 5L step, 7R flat, 8L flat"),
        ("tap", "two claps on 3 and 4", "3- clap, 4- clap"),
        ("tap", "pat your knees on 1 and 3", "1- pat, 3- pat"),
        ("tap", "step on your left, stamp on your right", "1L step, 2R flat"),
        ("tap", "stamp 1, rest 2 3, stamp 4", "1R flat, 2- hold, 3- hold, 4L flat"),
        ("tap", "3 step turn 1/4 right 4 stamp", "3R step, 4L flat"),
        ("tap", "on the 1 stamp, on the 3 clap", "1R flat, 3- clap"),
        ("tap", "en el 1 golpe, en el 2 palma", "1R flat, 2- clap"),
        ("tap", "stamp 1 2, clap 3 4", "1R flat, 2L flat, 3- clap, 4- clap"),
        ("tap", "a stamp on 1, a clap on 2, and a stamp on 3", "1R flat, 2- clap, 3L flat"),
        ("clogging", "2 stamps 1 RS", "1R flat, 2L flat, &R step, 3L step"),
        ("clogging", "1 rs 1 rs", "&R step, 1L step, &R step, 2L step"),
        ("clogging", "1 RS 2 RS", "&R step, 1L step, &R step, 2L step"),
        ("tap", "2 counts: stamp clap", "1R flat, 2- clap"),
        ("tap", "stamp clap * 2", "1R flat, 2- clap, 3L flat, 4- clap"),
        ("tap", "stamp on 1, clap on the and of 1, stamp on 2", "1R flat, &- clap, 2L flat"),
        ("tap", "step on the a of 2, clap on 4", "aR step, 4- clap"),
        ("tap", "1 step, clap on the and after the 2", "1R step, &- clap"),
        ("tap", "paso en la y del 2", "&R step"),
        ("tap", "stamp and clap together on 1", "1R flat, 1- clap"),
        ("tap", "stamp and clap together, step", "1R flat, 1- clap, 2L step"),
        ("tap", "step together", "1R step, 2L step"),
        ("tap", "a stamp, a clap, a stamp", "1R flat, 2- clap, 3L flat"),
        ("tap", "first a stamp, then a clap", "1R flat, 2- clap"),
        ("tap", "now step, now stamp", "1R step, 2L flat"),
        ("tap", "stamp, stamp again, clap", "1R flat, 2L flat, 3- clap"),
        ("tap", "brush it, step it", "1R brush, 2R step"),
        ("folk stamping", "golpe, otro golpe", "1R flat, 2L flat"),
        ("tap", "three stamps and hold", "1R flat, 2L flat, 3R flat, 4- hold"),
        ("tap", "three stamps: left right left", "1L flat, 2R flat, 3L flat"),
        ("tap", "stamp three times, right left right", "1R flat, 2L flat, 3R flat"),
        ("tap", "step on 1 2 3, pause 4", "1R step, 2L step, 3R step, 4- hold"),
        ("tap", "1 stamp, 2 nothing, 3 stamp", "1R flat, 2- hold, 3L flat"),
        ("tap", "Line 1: stamp clap", "1R flat, 2- clap"),
        ("tap", "tap your toe twice", "1R toe_tip, 2R toe_tip"),
        ("tap", "stamp, then drop the heel", "1R flat, 2R heel"),
        ("tap", "stamp, then 3 claps", "1R flat, 2- clap, 3- clap, 4- clap"),
        ("tap", "step step and 2 stamps", "1R step, 2L step, 3R flat, 4L flat"),
        ("tap", "a stamp, then 3 claps", "1R flat, 2- clap, 3- clap, 4- clap"),
        ("tap", "Section B: stamp clap", "1R flat, 2- clap"),
        ("tap", "A: stamp clap", "1R flat, 2- clap"),
        ("tap", "Step 2: stamp heel", "1R flat, 2R heel"),
        ("folk stamping", "frase 2: golpe palma", "1R flat, 2- clap"),
        ("tap", "first four counts: stamp clap", "1R flat, 2- clap"),
        ("clogging", "DS (xif), RS", "&R brush, aR spank, 1R step, &L step, 2R step"),
    )
    def test_counts_lengths_and_names(self, tradition: str, body: str, sounds: str) -> None:
        self.assert_plain(piece(tradition, body), sounds)

    def test_the_e_before_an_i_is_an_and(self) -> None:
        for text in ("golpe derecha {} izquierda", "paso derecho {} izquierdo, palma"):
            e, y = (piece("folk stamping", text.format(word)) for word in "ey")
            self.assertEqual((said(e), len(doubted(e))), (said(y), len(doubted(y))))
            self.assertNotIn("e", said(e).replace("step", ""))

    @cases(
        (
            "flatfoot", "step-chug step-chug", "1R step, &R chug, 2L step, &L chug",
            "1R step, 2R chug, 3L step, 4L chug",
        ),
        ("step dance", "hop step, touch", "1L hop, 2R step, 3L touch", "aL hop, 1R step, 2L touch"),
        (
            "tap", "dig spank step heel", "1R dig, 2R spank, 3R step, &R heel",
            "1R dig, eR spank, &R step, aR heel",
        ),
        ("step dance", "point, hop, step step step", None, "1R point, 2L hop, 3R step, &L step, 4R step"),
        ("folk stamping", "right left stamp", "1R step, 2L flat", "1R flat, 2L flat", "1R step, 2L step, 3R flat"),
        ("tap", "stamp right, left", "1R flat, 2L flat", "1R flat, 2L step"),
        (
            "swing", "6 count basic: step step rock step",
            "1R step, 2L step, 3R step, aL step, 4R step, 5L step, aR step, 6L step, "
            "7R step, 8L step, 1R step, 2L step",
            "1R step, 2L step, 3R step, 4L step",
        ),
        (
            "clogging", "basic, right then left",
            "&R brush, aR spank, 1R step, &L step, 2R step, &L brush, aL spank, 3L step, &R step, 4L step",
            "&R brush, aR spank, 1R step, &L step, 2R step, 3R step, 4L step",
        ),
        ("tap", "stamp, right then left", "1R flat, 2L flat", "1R flat, 2R step, 3L step"),
        ("tap", "stamp, right, left", "1R flat, 2L flat", "1R flat, 2R step, 3L step"),
        ("house", "farmer step", "1R heel_step, &L step", "1R heel_step, &L step, 2R step"),
        (
            "clogging", "basic step", "&R brush, aR spank, 1R step, &L step, 2R step",
            "&R brush, aR spank, 1R step, &L step, 2R step, 3L step",
        ),
        ("tap", "stamp hop, left, right", "1L flat, 2L hop, 3R flat, 4R hop", "1R flat, 2R hop, 3L step, 4R step"),
        ("tap", "stamp stamp: clap clap", "1R flat, 2L flat, 3- clap, 4- clap", "1- clap, 2- clap"),
        ("clogging", "basic: stomp", "&R brush, aR spank, 1R step, &L step, 2R step, 3L stomp", "1R stomp"),
        (
            "tap", "touches on 2 and 4, stamps on 1 and 3", "1R flat, 2L touch, 3L flat, 4R touch",
            "2R touch, 4R touch, 5R flat, 7L flat",
        ),
        ("tap", "flap on 1 2", "1R brush, 2R step", "&R brush, 1R step, &L brush, 2L step"),
        ("swing", "slow rock step", "1R step, 2- hold, 3L step, 4R step", "1R step, 2L step"),
        (
            "clogging", "DS RS, other side",
            "&R brush, aR spank, 1R step, &L step, 2R step, &L brush, aL spank, 3L step, &R step, 4L step",
            "&L brush, aL spank, 1L step, &R step, 2L step",
        ),
        ("tap", "1 R stamp 2 touch, otro lado", "1R flat, 2L touch, 3L flat, 4R touch", "1L flat, 2R touch"),
        ("tap", "one stamp, two touches", "1R flat, 2L touch, 3L touch", "1R flat, 2L touch"),
        ("tap", "stamps on 1 & 3", "1R flat, 3L flat", "1R flat, &L flat, 3R flat"),
        ("tap", "stamp, clap on 1 2", "1R flat, 2- clap", "8R flat, 1- clap, 2- clap"),
    )  # fmt: skip
    def test_where_it_may_be_two_things_both_are_offered(
        self, tradition: str, body: str, believed: str | None, *others: str
    ) -> None:
        one = piece(tradition, body)
        self.assertEqual(believed or said(one), said(one))
        (doubt,) = findings(one.parts[0])
        became = []
        for mend in doubt.mends:
            taken = piece(tradition, changed_text(body, mend.changes), words_text(mend.words))
            self.assertEqual(doubted(taken), [], "taken, nothing is left open")
            became.append(said(taken))
        self.assertEqual(became, [said(one), *others])

    @cases(
        ("tap", "R L stamp", "1R flat, 2L flat", "1R step, 2L flat", "1R step, 2L step, 3R flat"),
        ("solo jazz", "right left touch", "1R step, 2L touch", "1R touch, 2L touch", "1R step, 2L step, 3R touch"),
        ("tap", "R L stamp, touch", "1R flat, 2L flat, 3R touch", "1R step, 2L flat, 3R touch",
         "1R step, 2L step, 3R flat, 4L touch"),
        ("latin", "right together", "1R step", "1R step, 2L step"),
        ("latin", "left, right together", "1L step, 2R step", "1L step, 2R step, 3L step"),
        ("tap", "right foot, stamp", "1R flat", "1R step, 2L flat"),
        ("tap", "hop, and balls together", "1L hop, 2B step", "1L hop, &B step"),
        ("tap", "stamp, stamp and clap", "1R flat, 2L flat, 3- clap", "1R flat, 2L flat, &- clap"),
        # How many, or a count, beside a hold with a number of its own.
        ("tap", "4 stamps, then hold for 4", "4R flat, 5- hold, 6- hold, 7- hold, 8- hold",
         "1R flat, 2L flat, 3R flat, 4L flat, 5- hold, 6- hold, 7- hold, 8- hold"),
        ("step dance", "2 threes", "2R step, &L step, 3R step",
         "1R step, &L step, 2R step, 3L step, &R step, 4L step"),
        # Where a swing or a figure goes, after the foot that it is danced with.
        ("tap", "left side kick", "1L kick", "1L step, 2R kick"),
    )  # fmt: skip
    def test_feet_before_a_step_may_be_steps(self, tradition: str, body: str, *ways: str) -> None:
        (doubt,) = findings(piece(tradition, body).parts[0])
        found = []
        for mend in doubt.mends:
            taken = piece(tradition, changed_text(body, mend.changes), words_text(mend.words))
            self.assertEqual((doubted(taken), taken.problems), ([], ()), "taken, nothing is left open")
            found.append(said(taken))
        self.assertEqual(found, list(ways))

    @cases(
        ("latin", "right, left, together", "1R step, 2L step, 3R step"),
        ("latin", "right side, left together", "1R step, 2L step"),
        ("latin", "right forward left back", "1R step, 2L step"),
        ("step dance", "(treble) x2, turn", said(piece("step dance", "treble x2, turn"))),
        # The last of a list; one of each.
        ("tap", "one stamp, one clap", "1R flat, 2- clap"),
        ("tap", "pick up: & stamp, 1 stamp 2 clap", "&R flat, 1L flat, 2- clap"),
        ("tap", "shuffle off to buffalo", said(piece("tap", "buffalo"))),
        ("tap", "R L R L", "1R step, 2L step, 3R step, 4L step"),
        ("tap", "R, L, R, stamp", "1R step, 2L step, 3R step, 4L flat"),
        # A hold with its count after it.
        ("latin", "1 2 3 hold 4 5 6 7 hold 8",
         "1R step, 2L step, 3R step, 4- hold, 5L step, 6R step, 7L step, 8- hold"),
        ("latin", "1 left 2 right 3 left hold 4", "1L step, 2R step, 3L step, 4- hold"),
        ("tap", "stamp on 1, hold 2 and 3", "1R flat, 2- hold, 3- hold"),
        ("tap", "1 stamp 2 hold, step 3", "1R flat, 2- hold, 3L step"),
        ("tap", "4 heels with the right, 1 with the left", "1R heel, 2R heel, 3R heel, 4R heel, 5L heel"),
    )  # fmt: skip
    def test_feet_and_holds_as_they_are_said(self, tradition: str, body: str, sounds: str) -> None:
        self.assert_plain(piece(tradition, body), sounds)

    @cases(
        ("tap", "touch alternating"),
        ("clogging", "turn left: DS DS DS RS"),
        ("clogging", "half turn: DS DS DS RS"),
        ("tap", "toe heel toe heel, last one a stamp"),
        ("tap", "shuffle ball change for 3 counts"),
        ("tap", "brush your toe"),
        ("tap", "4 flaps (RLR)"),
        ("tap", "step-zzqqx"),
        ("tap", "1 step starting"),
        ("solo jazz", "hands up on 4"),
        ("tap", "stamp repeat touch"),
    )
    def test_what_cannot_be_is_said(self, tradition: str, body: str) -> None:
        self.assertTrue(piece(tradition, body).problems)

    @cases(
        ("tap", "flap on 1 2", "flap on 1 2"),
        ("tap", "shuffle ball change on 1-4", "shuffle ball change on 1-4"),
        ("tap", "step, hold on 2 3", "hold on 2 3"),
    )
    def test_what_is_in_doubt_is_all_that_is_replaced(self, tradition: str, body: str, doubtful: str) -> None:
        """Once counts that are said after their step gave a place that ends before it begins."""
        (doubt,) = findings(piece(tradition, body).parts[0])
        assert doubt.spot is not None
        _, column, end = doubt.spot
        self.assertEqual(body[column:end], doubtful)

    @cases(
        (
            "folk stamping", "stamp-clap stamp-clap, stamp-clap, touch",
            ["stamp & clap stamp & clap, stamp & clap, touch", "stamp clap stamp clap, stamp clap, touch"],
        ),
        ("tap", "one stamp, two touches, step", ["stamp x1,  touch x2, step", "1 stamp,  2 touch, step"]),
        ("clogging", "basic: stomp touch", ["basic, stomp touch", "stomp touch"]),
        ("tap", "right left stamp, touch",
         ["R step, L stamp, touch", "R stamp, L stamp, touch", "R step, L step, stamp, touch"]),
        ("tap", "flaps 4, stamp", ["4 flap, stamp", "flaps x4, stamp"]),
        ("tap", "flaps (4), stamp", ["4 flap, stamp", "flaps x4, stamp"]),
        ("folk stamping", "2 golpes 4 palmas, seis golpes",
         ["golpe x2,  palma x4, seis golpes", "2 golpe,  4 palma, seis golpes"]),
        ("clogging", "DS RS, all again on the other foot", ["DS RS\non the other foot", "L DS RS"]),
        ("solo jazz", "walk walk back kick", ["walk walk-back kick", "walk walk, back, kick"]),
        ("latin", "hold (4) forward", ["4 hold forward", "hold for 4 counts forward"]),
        # Alone, &a would lead up to the 2.
        ("tap", "1 shuffle 2 step",
         ["&a shuffle  1 hold 2 step", "1& shuffle 2 step", "&1 shuffle 2 step"]),
        ("tap", "shuffles on 1 and 2, ball change on 3",
         ["&a shuffles  1 hold  &a shuffles  2 hold, ball change on 3",
          "&1 shuffles  &2 shuffles, ball change on 3"]),
        ("tap", "shuffle 3, step 4", ["&a shuffle  3 hold, step 4", "3& shuffle, step 4", "&3 shuffle, step 4"]),
        ("swing", "touch, slow rock step", ["touch, slow step, rock step", "touch, rock step"]),
    )  # fmt: skip
    def test_what_is_written_for_each_way(self, tradition: str, body: str, texts: list[str]) -> None:
        (doubt,) = findings(piece(tradition, body).parts[0])
        self.assertEqual([changed_text(body, mend.changes) for mend in doubt.mends], texts)

    @cases(
        ("clogging", "2x(DS RS)", said(piece("clogging", "( ds rs ) x2"))),
        ("clogging", "twice (DS RS)", said(piece("clogging", "( ds rs ) x2"))),
        ("tap", '"stamp" “touch” ‘stamp’', "1R flat, 2L touch, 3L flat"),
        ("tap", "stamp→touch → stamp", "1R flat, 2L touch, 3L flat"),
        ("tap", "1 stamp // 2 touch", "1R flat, 2L touch"),
        ("tap", "RF stamp, LF stamp, Rt stamp, stamp lft", "1R flat, 2L flat, 3R flat, 4L flat"),
        ("tap", "1 + 2 + stamp stamp stamp stamp", "1R flat, &L flat, 2R flat, &L flat"),
        ("tap", "1 stamp + clap", "1R flat, 1- clap"),
        ("tap", "1 | stamp | 2 | touch", "1R flat, 2L touch"),
        ("tap", "1-and-2 stamp stamp stamp", "1R flat, &L flat, 2R flat"),
        ("latin", "qqs: step step step", "1R step, 2L step, 3R step, 4- hold"),
        ("swing", "RS TS", "1R step, 2L step, 3R step, aL step, 4R step"),
        ("tap", "one stamp", "1R flat"),
        ("clogging", "1 triple: ds ds ds rs", said(piece("clogging", "ds ds ds rs"))),
        ("tap", "( stamp touch ) twice, step", "1R flat, 2L touch, 3L flat, 4R touch, 5R step"),
        ("tap", "( stamp touch ) 2 times, step", "1R flat, 2L touch, 3L flat, 4R touch, 5R step"),
        ("tap", "( stamp touch ) two times, step", "1R flat, 2L touch, 3L flat, 4R touch, 5R step"),
        ("tap", "1 stomp, no weight, 2 step", "1R stomp, 2R step"),
        ("tap", "bar two: 1 step", "5R step"),
        ("tap", "bar 2, 1 step, 2 touch", "5R step, 6L touch"),
        ("solo jazz", "out out in in", "1R step, 2L step, 3R step, 4L step"),
        ("solo jazz", "clap hands, slap knees", "1- clap, 2- pat"),
        ("tap", "the stamp, the touch", "1R flat, 2L touch"),
        ("tap", "count 3 stamp", "3R flat"),
        ("tap", "stamp touch, repeat", "1R flat, 2L touch, 3L flat, 4R touch"),
        ("tap", "slow stamp, quick touch, step", "1R flat, 2- hold, 3L touch, 4L step"),
        ("tap", "stamp 3x, touch", "1R flat, 2L flat, 3R flat, 4L touch"),
        ("tap", "1 & 2 & flap", "1R brush, &R step, 2L brush, &L step"),
        (
            "tap",
            "stamp x2, touch, stamp touch x2",
            "1R flat, 2L flat, 3R touch, 4R flat, 5L touch, 6L flat, 7R touch",
        ),
        ("tap", "a stamp and two touches", "1R flat, 2L touch, 3L touch"),
        ("tap", "slow stamp, touch, step", "1R flat, 2- hold, 3L touch, 4L step"),
        ("tap", "1 slow stamp 3 touch", "1R flat, 2- hold, 3L touch"),
        ("tap", "three stamps with the right", "1R flat, 2R flat, 3R flat"),
        ("tap", "3 times: stamp", "1R flat, 2L flat, 3R flat"),
        ("tap", "1: stamp, 2: touch", "1R flat, 2L touch"),
        ("tap", "(S) step (Q) step", "1R step, 2- hold, 3L step"),
        ("tap", "touch (2, 4), stamp", "2R touch, 4R touch, 5R flat"),
        ("tap", "starting with the right foot, step, touch", "1R step, 2L touch"),
    )
    def test_more_ways(self, tradition: str, body: str, sounds: str) -> None:
        one = piece(tradition, body)
        self.assertEqual((said(one), doubted(one)), (sounds, []))

    @cases(
        ("tap", "1-4 L shuffle ball change", "1 L shuffle ball change x2"),
        ("tap", "5 6 7 8 R step!", "5 R step!  6 step!  7 step!  8 step!"),
        ("tap", "1 hop & R ball change 1/4 right 2 step", "&a R ball change 1/4 right"),
        ("tap", "1 hop & ball change or rock step 2 step", "&a ball change or rock step"),
    )
    def test_what_is_written_again_keeps_all_that_was_said(self, tradition: str, body: str, kept: str) -> None:
        """Once the foot, the turn and how often were lost when what is believed was taken."""
        (doubt,) = findings(piece(tradition, body).parts[0])
        self.assertIn(kept, changed_text(body, doubt.mends[0].changes))

    @cases(
        ("tap", "soft step, loud stamp", [-1, 2]),
        ("tap", "1 step loud 2 touch softly", [1, -1]),
        ("folk stamping", "golpe suave, golpe fuerte", [0, 2]),
        ("tap", "light shuffle step", [-1, -1, -1]),
    )
    def test_how_loud(self, tradition: str, body: str, levels: list[int]) -> None:
        """A stamp is a level louder than a step by itself; golpe is a stamp."""
        one = piece(tradition, body)
        self.assertEqual(one.problems, ())
        self.assertEqual([s.level for s in one.parts[0].sounds], levels)

    @cases(
        ("twice: " * 700 + "step",), ("flap: " * 700 + "step",), ("step-" * 600 + "step",),
        ("R L " * 600 + "step",), ("one-and-" * 300 + "two",),
    )  # fmt: skip
    def test_very_much_of_it_is_read(self, body: str) -> None:
        """Once a line of colons within colons, or a word of very many in hyphens, came to no end."""
        self.assertTrue(piece("tap", body).parts)

    @cases(
        ("clogging", "DSRS", "DS RS"),
        ("clogging", "DSDSDSRS x2", "(DS DS DS RS) x2"),
        ("clogging", "DS/RS/DS/RS", "DS RS DS RS"),
        ("tap", "FBCBC", "FBC BC"),
        ("tap", "1 step/2 touch", "1 step 2 touch"),
        ("tap", "step/touch/step", "step, touch, step"),
        ("tap", "L-step R-touch", "L step R touch"),
        ("tap", "2x step 2x touch", "step x2 touch x2"),
        ("tap", '"step touch" x2', "( step, touch ) x2"),
        ("tap", "“step heel” x2, {stamp clap} x2", "( step heel ) x2 ( stamp clap ) x2"),
        ("tap", "{step touch}", "step, touch"),
    )
    def test_without_spaces_between(self, tradition: str, body: str, full: str) -> None:
        one = piece(tradition, body)
        self.assertEqual((said(one), one.problems), (said(piece(tradition, full)), ()))

    @cases(
        ("tap", "stomp/stamp"), ("clogging", "DSXX"), ("clogging", "dsrs"), ("tap", "NASA"), ("tap", "step/kic/step")
    )
    def test_what_may_be_either_or_nothing_is_refused(self, tradition: str, body: str) -> None:
        self.assertEqual([p.code for p in piece(tradition, body).problems], ["N101"])

    def test_a_form_of_another_language_is_no_step(self) -> None:
        """Once patada, a kick, was read as a form of pat."""
        self.assertEqual(said(piece("latin", "1 patada  2 paso")), "1R kick, 2R step")
        self.assertEqual(said(piece("folk stamping", "1 golpeando  2 golpeados")), "1R flat, 2L flat")
        self.assertTrue(piece("tap", "1 stompado").problems)


if __name__ == "__main__":
    unittest.main()
