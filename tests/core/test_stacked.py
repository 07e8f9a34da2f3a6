"""Rows as handouts print them: steps, and beneath them their feet, or their counts; the letters of cue sheets.

How they are set out is common practice, no source; whose foot a double step and a rock step are is the trade's own
(from memory).
"""

import unittest

from firn.core.piece.build import piece_from
from firn.core.reading.doubts import findings
from firn.core.script.beneath import UNFITTING
from firn.core.script.changes import changed_text
from tests.core.read_case import ReadCase
from tests.core.test_readings import doubted, piece
from tests.support import cases, feet, places

BENEATH = ["“the feet of these steps”", "“5 steps”"]


class FeetTest(ReadCase):
    @cases(
        ("one for each step, two for a rock step", "clogging", "DS DS RS\nL R LR", "LLLRRRLR"),
        ("from the other foot", "clogging", "DS DS RS\nR L RL", "RRRLLLRL"),
        ("over a label", "clogging", "Basic: DS RS\nL RL", "LLLRL"),
        ("one for each change of foot, under their steps", "clogging", "DS  DS  RS\nL   R   L R", "LLLRRRLR"),
        ("one for each sound", "tap", "cramp roll\nRLRL", "RLRL"),
        ("of a figure of several steps", "clogging", "triple\nL R L RL", "LLLRRRLLLRL"),
        ("on both", "tap", "jump  step\nB     L", "BL"),
        ("with a claps's place left out", "tap", "step clap step\nL    -    R", "L-R"),
        ("in Spanish", "folk stamping", "golpe golpe golpe\nI     D     I", "LRL"),
        ("said to be feet", "tap", "flap flap\nfeet: L R", "LLRR"),
        ("in brackets", "tap", "flap flap\n(L)  (R)", "LLRR"),
        ("counts between them", "clogging", "DS DS RS\n&1 &2 &3\nL R LR", "LLLRRRLR"),
        ("counts over both", "clogging", "&1 &2 &3\nDS DS RS\nL R LR", "LLLRRRLR"),
        ("a blank line between", "clogging", "DS RS\n\nL RL", "LLLRL"),
        ("feet that are written too", "tap", "L flap R flap\nL R", "LLRR"),
        ("a comment behind", "clogging", "DS RS  # twice\nL RL  # feet", "LLLRL"),
    )  # fmt: skip
    def test_beneath_their_steps(self, _: str, tradition: str, body: str, expected: str) -> None:
        one = piece(tradition, body)
        self.assertEqual((feet(one.parts[0]), [p.message for p in one.problems]), (expected, []))
        self.assertEqual((one.parts[0].footing.faults, doubted(one)), ((), []))

    def test_without_them_the_part_begins_on_its_lead(self) -> None:
        self.assertEqual(feet(piece("clogging", "DS RS").parts[0]), "RRRLR")

    @cases(
        ("feet are believed", "flap stamp flap stamp stamp\nL R L R L", "LLRLLRL", BENEATH),
        ("steps are, where there are too few", "flap flap\nR L R L R", "RRLLRLRLR", BENEATH[::-1]),
        ("each word's, as they are written", "shuffle step, shuffle ball change\nR R L L R", "RRRLLLR", BENEATH),
    )  # fmt: skip
    def test_letters_that_may_be_steps_are_in_doubt(
        self, _: str, body: str, expected: str, offers: list[str]
    ) -> None:
        one = piece("tap", body)
        self.assertEqual((feet(one.parts[0]), doubted(one)), (expected, [offers]))

    def test_either_way_is_taken_and_nothing_is_left_open(self) -> None:
        body = "flap flap\nL R"
        (doubt,) = findings(piece("tap", body).parts[0])
        texts = [changed_text(body, mend.changes) for mend in doubt.mends]
        self.assertEqual(texts, ["flap flap\nfeet: L R", "flap flap\nL step  R step"])
        self.assertEqual([doubted(piece("tap", text)) for text in texts], [[], []])
        self.assertEqual([feet(piece("tap", text).parts[0]) for text in texts], ["LLRR", "RRLLLR"])

    @cases(
        ("too many", "clogging", "DS RS\nL RL R"), ("too few", "clogging", "DS DS RS\nL RL"),
        ("not as it changes", "clogging", "DS RS\nL RR"), ("said so", "tap", "flap flap\nfeet: R L R"),
        ("against what is written", "tap", "R flap\nfeet: L"), ("of nothing", "tap", "feet: L"),
        ("one letter each, against a foot that is written", "tap", "R flap stamp\nL R"),
    )  # fmt: skip
    def test_what_cannot_be_theirs_is_said(self, _: str, tradition: str, body: str) -> None:
        self.assert_asked(tradition, body, UNFITTING)

    def test_what_is_wrong_with_the_steps_is_said_once(self) -> None:
        (problem,) = piece("clogging", "DS shufle RS\nL R LR").problems
        self.assertEqual((problem.code, problem.line, problem.column, problem.end), ("N101", 2, 3, 9))

    def test_letters_by_themselves_are_steps(self) -> None:
        self.assert_read("tap", "R L R", "1R step, 2L step, 3R step")

    def test_words_stay_where_they_stand(self) -> None:
        one = piece("tap", "1 stamp  2 jump  3 heel, toe\nR        B       L     R")
        rows = [(use.word.column, use.word.end) for use in one.parts[0].uses]
        self.assertEqual(rows, [(2, 7), (11, 15), (19, 23), (25, 28)])

    def test_a_doubt_about_a_step_above_is_taken_where_it_stands(self) -> None:
        body = "1 step  2 heel, toe\nfeet: L R"
        part = piece("tap", body).parts[0]
        for doubt in findings(part):
            for mend in doubt.mends:
                for change in mend.changes:
                    self.assertLessEqual(change.end, len(body.split("\n")[change.line]))

    def test_they_are_said_again_with_their_line(self) -> None:
        one = piece("clogging", "DS RS\nL RL\nother side")
        self.assertEqual((feet(one.parts[0]), one.problems), ("LLLRLRRRLR", ()))


class OverTest(ReadCase):
    @cases(
        ("groups of letters", "clogging", "L R LR\nDS DS RS", "LLLRRRLR"),
        ("over their steps, one by one", "tap", "R     L\nstamp stamp", "RL"),
        ("said to be feet", "tap", "feet: L R\nstamp stamp", "LR"),
        ("one over a hold", "tap", "L     R    L\nstamp hold stamp", "L-L"),
        ("under each, not over the next", "clogging", "DS RS\nL RL\nDS RS\nR LR", "LLLRLRRRLR"),
    )
    def test_feet_over_their_steps(self, _: str, tradition: str, body: str, expected: str) -> None:
        one = piece(tradition, body)
        self.assertEqual((feet(one.parts[0]), [p.message for p in one.problems], doubted(one)), (expected, [], []))

    def test_letters_over_steps_are_in_doubt(self) -> None:
        one = piece("tap", "L R\nflap stamp")
        self.assertEqual((feet(one.parts[0]), doubted(one)), ("LLR", [["“the feet of these steps”", "“2 steps”"]]))
        self.assertEqual(feet(piece("tap", "L R\nclap").parts[0]), "LR-")

    def test_feet_of_nothing_are_said(self) -> None:
        self.assert_asked("clogging", "L RL\nclap", UNFITTING)

    @cases(
        ("labelled", "Timing: 2 3 4&1\nSteps: forward, replace, triple step", "2 forward 3 replace 4&1 triple step"),
        ("as many as steps", "1 2 3 4\nside together side touch", "1 side 2 together 3 side 4 touch"),
        ("as their sounds", "1 2 3 & 4\nrock step triple step", "1 2 rock step 3&4 triple step"),
        ("beneath them", "side together side touch\n1 2 3 4", "1 side 2 together 3 side 4 touch"),
        ("of another number, steps", "1 2 3\nside together", "1 step 2 step 3 step\nside together"),
        ("a line between them", "1 2\n\nside together", "1 step 2 step\nside together"),
    )
    def test_counts_over_steps_where_counts_are_steps(self, _: str, body: str, full: str) -> None:
        one, other = piece("swing", body), piece("swing", full)
        self.assertEqual((_sounds(one), [p.message for p in one.problems]), (_sounds(other), []))


class CountsTest(ReadCase):
    @cases(
        ("of which drops are whose", "1 2 3 4 5 6 7 8", "step heel heel step step heel heel step"),
        ("pairs of them", "1 2 3 4 5 6 7 8", "step step heel heel step step heel heel"),
        ("a name with a comma in it", "1 2", "heel, toe"), ("begun early", "1 & 2", "shuffle step step"),
        ("so many", "1 2 3 4", "stamp x4"), ("so many first", "1 2 3 4:", "2x stamp, 2x clap"),
    )  # fmt: skip
    def test_what_is_in_doubt_in_one_row_is_in_two(self, _: str, counts: str, steps: str) -> None:
        over, beside = piece("tap", f"{counts}\n{steps}"), piece("tap", f"{counts} {steps}")
        self.assertEqual((_sounds(over), doubted(over)), (_sounds(beside), doubted(beside)))
        self.assertEqual(over.problems, ())

    def test_taken_with_their_counts_these_leave_their_row(self) -> None:
        body = "1 & 2\n  shuffle step step\nclap"
        (doubt,) = findings(piece("tap", body).parts[0])
        texts = [changed_text(body, mend.changes) for mend in doubt.mends]
        self.assertEqual(texts, ["\n  &a shuffle  1 hold step step\nclap", "\n  &1 shuffle step step\nclap"])
        self.assertEqual([doubted(piece("tap", text)) for text in texts], [[], []])

    @cases(
        ("one on each", "1 2 3 4\n4 stamps", "1 stamp 2 stamp 3 stamp 4 stamp"),
        ("one on two", "1 & 2 &\n2 flaps", "1 & flap 2 & flap"),
        ("a number that is not theirs", "4 stamps\n4 flaps", "4 stamps\n4 flaps"),
    )
    def test_how_many_steps_there_are_under_their_counts(self, _: str, body: str, full: str) -> None:
        self.assertEqual(_sounds(piece("tap", body)), _sounds(piece("tap", full)))

    def test_one_sound_under_several_counts_is_on_each(self) -> None:
        for tradition in ("house", "tap"):
            with self.subTest(tradition):
                self.assert_read(tradition, "1 & 2\nstep", "1R step, &L step, 2R step")

    def test_what_is_wrong_with_counts_is_said_where_they_stand(self) -> None:
        problem = piece("tap", " 1 3 2\nstamp stamp stamp").problems[0]
        self.assertEqual((problem.code, problem.line, problem.column, problem.end), ("N102", 2, 5, 6))

    @cases(
        ("beneath one row", "DS DS RS\n&1 &2 &3", "&1 &2 &3 DS DS RS"),
        ("beneath each", "step stamp\n1 2\nclap step\n3 4", "1 step 2 stamp 3 clap 4 step"),
        ("over each, as ever", "1 2\nstep stamp\n3 4\nclap step", "1 step 2 stamp 3 clap 4 step"),
        ("with their feet", "step stamp\nL    R\n1    2", "1 L step 2 R stamp"),
        (
            "beneath some",
            "step stamp\n1 2\nclap step stamp\n3 4 5\nstep",
            "1 step 2 stamp 3 clap 4 step 5 stamp 6 step",
        ),
        ("over the last alone", "step\n2 3\nclap step", "1 step 2 clap 3 step"),
    )
    def test_read_as_if_they_stood_before_them(self, _: str, stacked: str, line: str) -> None:
        one, other = (piece("clogging", text).parts[0] for text in (stacked, line))
        self.assertEqual(([*map(str, one.script.problems)], places(one), feet(one)), ([], places(other), feet(other)))


class LettersTest(ReadCase):
    @cases(
        ("a heel", "DS H", "DS heel"), ("a slide", "DS Sl", "DS slide"), ("a scuff", "DS Sk", "DS scuff"),
        ("a rock step in two letters", "DS R S", "DS RS"), ("at the beginning", "R S, R S, DS", "RS, RS, DS"),
        ("the sounds of a brush-up", "DS BR UP, DS RS", "brush-up, DS RS"),
        ("and where it goes", "DS R(xib) S", "DS RS (xib)"),
        ("places", "DS(xf) DS(os) DS(xb) DS(s)", "DS across DS side DS behind DS side"),
        ("a foot's letter, where there are others", "L DS R S", "L DS R step"),
    )  # fmt: skip
    def test_letters_of_a_cue_sheet(self, _: str, letters: str, words: str) -> None:
        one, other = piece("clogging", letters), piece("clogging", words)
        self.assertEqual(
            ([*map(str, one.problems)], _sounds(one), doubted(one)), ([], _sounds(other), doubted(other))
        )

    def test_slow_stays_slow(self) -> None:
        self.assert_read("latin", "step (Q) step (S)", "1R step, 2L step, 3- hold")


class HandoutTest(ReadCase):
    @cases(
        ("a list", "1. shuffle step, stamp\n2. flap flap", "shuffle step, stamp\nflap flap"),
        ("with brackets, and feet beneath", "1) stamp stamp\n   L     R\n2) clap", "L stamp R stamp\nclap"),
        ("counts with full stops", "1. step\n2. clap", "1 step\n2 clap"),
        ("counts from elsewhere", "5. step\n6. clap", "5 step\n6 clap"),
        ("heads of columns", "Count  Step\n1      stamp\n2      clap", "1 stamp\n2 clap"),
        ("a table", "| count | foot | step |\n|---|---|---|\n| 1 | L | stamp |\n| & | R | heel dig |",
         "1 L stamp\n& R heel dig"),
        ("cells with tabs", "1\tR\tstep\n&\tL\tbrush\na\tL\tspank\n2\tL\tstep",
         "1 R step & L brush a L spank 2 L step"),
        ("a table's a", "| 1 | R | step |\n| & | L | brush |\n| a | L | spank |", "1 R step & L brush a L spank"),
        ("the a after an &", "1 step\n& step\na step\n2 step", "1 step & step a step 2 step"),
        ("an article", "1 step\na stamp", "1 step\n2 stamp"),
        ("the foot that leads", "Left foot lead\nflap stamp", "L flap stamp"),
        ("said otherwise", "start with the left foot.\nflap stamp", "L flap stamp"),
        ("in Spanish", "empieza con la izquierda\nflap stamp", "L flap stamp"),
        ("as a heading", "lead: left\nclap stamp", "clap L stamp"),
        ("and it is written", "lead: left\nL flap", "L flap"),
        ("over a line in the middle", "stamp clap\nleft lead\nstamp", "stamp clap\nL stamp"),
        ("again over counts", "1-4 stamp x4\n5-8 repeat", "1-4 stamp x4\n5-8 stamp x4"),
        ("on the other side", "1-3 stamp x3\n4-6: other side", "1-3 R stamp x3\n4-6 L stamp x3"),
        ("a label over a gap", "Waltz clog    step shuffle ball change", "step shuffle ball change"),
        ("over a tab", "cramp roll\tstep step heel heel", "step step heel heel"),
        ("so many of each", "2 flaps\n1 shuffle ball change\n4 stamps", "flap x2\nshuffle ball change\nstamp x4"),
        ("with their feet", "2 flaps\nL R\n1 stamp\n2 claps", "L flap R flap\nstamp\nclap x2"),
        ("counts that go up", "1 step\n2 stamp\n3 step", "1 step 2 stamp 3 step"),
        ("how long it takes, over a gap", "4 counts  stamp clap stamp clap", "stamp clap stamp clap"),
        ("and of one that lasts", "4 counts: hold", "hold hold hold hold"),
        ("of several", "4 counts: flaps", "flap x4"),
        ("rows that say what they are", "Counts: 1 & 2\nSteps: stamp heel dig stamp\nFoot: L R R",
         "1 L stamp & R heel dig 2 R stamp"),
        ("counts and feet over their steps", "1     2\nL     R\nstamp stamp", "1 L stamp 2 R stamp"),
        ("numbers of old", "I. shuffle step\nII. flap flap\nIII. stamp", "shuffle step\nflap flap\nstamp"),
        ("how long it takes, in brackets", "(4 counts) stamps\n(2 counts) hold", "stamp x4\nhold hold"),
        ("so many in so many counts", "2 counts: 2 flaps", "flap x2"),
        ("a name over its steps", "Waltz clog:\nstep shuffle ball change", "step shuffle ball change"),
        ("and how long it is", "CRAMP ROLL (1 count)\nstep step heel heel", "step step heel heel"),
        ("a number of a step, and a dash", "Step 1 – stamp\nStep 2 – clap", "stamp\nclap"),
        ("counts behind a dash", "stamp clap - 1 2\nflap - & 3", "1 stamp 2 clap\n&3 flap"),
        ("rows that each say how long they are", "8: flap x8\n4: hold", "flap x8\nhold hold hold hold"),
        ("eights by their number", "Eight 1: stamp x8\nEight 2: flap x8", "stamp x8\nflap x8"),
        ("feet beside the hands alone", "feet: R L\nhands: 1 clap", "R step L step\nhands: 1 clap"),
        ("lengths over their steps", "Q Q S\nL R L\nstep stamp step", "1 L step 2 R stamp 3 L step 4 hold"),
        ("again in brackets", "stamp clap\n(three times)", "stamp clap\nthree times"),
        ("a count and a colon", "1: flap\n2: flaps", "&1 flap\n&2 flap"),
        ("no label", "flap    stamp", "flap stamp"),
        ("nor where it is said again", "flap   flap", "flap flap"),
    )  # fmt: skip
    def test_read_as_its_steps_alone(self, _: str, handout: str, steps: str) -> None:
        one, other = piece("tap", handout), piece("tap", steps)
        self.assertEqual(([p.message for p in one.problems], _sounds(one)), ([], _sounds(other)))
        self.assertEqual(doubted(one), doubted(other))

    @cases(
        ("a foot that leads nothing", "stamp\nleft foot lead", '"left foot lead" has no step after it.'),
        ("again over other counts", "1-4 stamp x4\n5-12 again",
         "The line before, danced again, takes 4 counts, and not 8."),
        ("steps that take less", "8 counts: stamp clap clap", "These steps take 3 counts, not 8."),
        ("or more", "in four counts: stamp x8", "These steps take 8 counts, not 4."),
        ("a bar of nothing", "stamp\nBar 2: repeat left",
         'No step is called "repeat". Nearest: recupera, remate, pat.'),
        ("a clap with a figure", "flap with a clap",
         'Say on which count of "flap" the clap is, or ", clap" for after it.'),
    )  # fmt: skip
    def test_what_is_asked(self, _: str, body: str, message: str) -> None:
        self.assert_asked("tap", body, message)

    def test_a_figure_over_its_own_steps_may_be_their_name(self) -> None:
        body = "basic\nDS RS"
        one = piece("clogging", body)
        self.assertEqual(
            (feet(one.parts[0]), doubted(one)), ("RRRLR", [["“the name of what follows”", "“basic, danced”"]])
        )
        texts = [changed_text(body, mend.changes) for mend in next(findings(one.parts[0])).mends]
        self.assertEqual(texts, ["# basic\nDS RS", "basic x1\nDS RS"])
        self.assertEqual([doubted(piece("clogging", text)) for text in texts], [[], []])

    @cases(("a number", "3"), ("its full stop", "3."), ("and a space", "3. "))
    def test_a_row_that_is_still_typed_leaves_the_list_as_it_is(self, _: str, typed: str) -> None:
        body = "1. shuffle step, stamp\n2. flap flap"
        places = [(s.place, s.kind) for s in piece("tap", f"{body}\n{typed}").parts[0].sounds]
        self.assertEqual(places, [(s.place, s.kind) for s in piece("tap", body).parts[0].sounds])
        many = "2 flaps\n1 stamp"
        self.assertEqual(
            len(piece("tap", f"{many}\n{typed}").parts[0].sounds), len(piece("tap", many).parts[0].sounds)
        )

    def test_a_count_in_with_an_and(self) -> None:
        self.assert_read("tap", "And 5, 6, 7, 8:\nstamp, clap", "1R flat, 2- clap")

    def test_words_stay_where_they_stand_in_a_table(self) -> None:
        one = piece("tap", "| & | R | brush |\n| a | R | spank |")
        self.assertEqual([(u.line, u.word.end) for u in one.parts[0].uses], [(0, 15), (1, 15)])

    def test_a_head_of_columns_that_is_no_handout_is_a_step(self) -> None:
        self.assert_read("tap", "step step", "1R step, 2L step")


class FiguresTest(ReadCase):
    def test_a_name_of_several_over_the_one_that_is_spelled_out(self) -> None:
        spelled = "rock step, triple step, triple step"
        one, other = piece("swing", f"basic: {spelled}"), piece("swing", spelled)
        self.assertEqual((_sounds(one), doubted(one)), (_sounds(other), []))

    @cases(
        ("over a count that is not said", "1 2 3 and 5 6 7", ["“3 5”", "“3 & 5”"]),
        ("to the next one", "1 2 and 4", ["“2 4”", "“2 & 4”"]),
    )
    def test_an_and_over_a_count_is_in_doubt(self, _: str, body: str, offers: list[str]) -> None:
        self.assertEqual(doubted(piece("latin", body)), [offers])

    def test_what_goes_into_a_length_several_times_is_in_doubt(self) -> None:
        one = piece("tap", "8 counts: stamp clap")
        self.assertEqual((doubted(one), len(one.parts[0].sounds)), ([["“( stamp clap ) x4”", "“stamp clap”"]], 8))

    @cases(
        ("a breath", "1 2 3, and 5 6 7", "1 step 2 step 3 step 5 step 6 step 7 step"),
        ("the & between neighbours", "1 and 2 3 and 4", "1 step & step 2 step 3 step & step 4 step"),
        ("their first counts are not said", "cross 2 3, side 6 7", "1 cross 2 step 3 step 5 side 6 step 7 step"),
    )
    def test_counts_that_are_steps(self, _: str, body: str, full: str) -> None:
        one, other = piece("latin", body), piece("latin", full)
        self.assertEqual((_sounds(one), [*map(str, one.problems)], doubted(one)), (_sounds(other), [], []))


def _sounds(one) -> list[tuple[str, str, str]]:
    return [(str(sound.place), sound.kind, sound.foot) for sound in one.parts[0].sounds]


class ManyTest(unittest.TestCase):
    def test_a_sheet_of_many_rows_is_read_at_its_end_as_at_its_beginning(self) -> None:
        body = "\n".join(["DS  DS  RS", "L   R   LR", "&1  &2  &3", "R DS L DS R RS", "&4 &5 &6"] * 30)
        one = piece_from(f"tradition: clogging\npart A\n{body}")
        self.assertEqual(one.problems[:1], ())
        self.assertEqual(feet(one.parts[0]), "LLLRRRLRRRRLLLRL" * 30)


if __name__ == "__main__":
    unittest.main()
