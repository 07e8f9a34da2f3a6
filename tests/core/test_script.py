"""The step script: where words fall, what is wrong and where, and writing what reads back."""

import random
import unittest

from hypothesis import given, settings
from hypothesis import strategies as st

from firn.core.piece.build import piece_from
from firn.core.script.combo import read_combo
from firn.core.script.counts import count_text
from firn.core.script.piece_text import read_script
from firn.core.script.problems import CODES, MOST_LETTERS
from firn.core.script.reader import lines_of, read_part
from firn.core.script.settings import Settings, read_settings, write_settings
from firn.core.script.tree import parse_line
from firn.core.script.turns import parse_amount, turn_text
from firn.core.script.writer import same_uses, write_part
from firn.core.steps.shelf import shipped
from tests.support import F, cases, codes, part, piece, places

GATE_LATCH = """piece: Gate Latch
tradition: tap
meter: 4/4
feel: swing
lone a: triplet
phrase: 8 counts
tempo: 132
lead: right

part A
  8 stomp  1 hop  2 step  &3 flap  & step
  4 stomp  5 hop  6 step  &7 flap  & step
part Break
  8 stomp  1 hop  &a2 shuffle step  &3 flap  4 step  5 stamp!  6-7 hold   # look up here

combo
  A x3, last time ends: & touch
  Break, turn 1/4 right
  A other side x3, Break
"""


class PlacesTest(unittest.TestCase):
    @cases(
        ("pick-up on 8", "8 stomp 1 hop", ["-1", "0"]),
        ("no pick-up of seven", "2 3 4 step x3 6 7 8 step x3", ["1", "2", "3", "5", "6", "7"]),
        ("pick-up of four", "5 6 7 8 step x4 1 step", ["-4", "-3", "-2", "-1", "0"]),
        ("forced by a bar", "4 step | 1 step", ["-1", "0"]),
        ("a word past the end", "8 single time step", ["-1", "0", "1", "3/2", "2", "5/2"]),
        ("begins on &1", "&1 flap 2 step", ["-1/2", "0", "1"]),
        ("begins on &", "& step 1 step", ["-1/2", "0"]),
        ("& alone", "& step", ["1/2"]),
        ("division before its number", "1 step &3 flap", ["0", "3/2", "2"]),
        ("after the last sound", "3 step & step & step", ["2", "5/2", "7/2"]),
        ("anchored by its beat", "3 flap", ["3/2", "2"]),
        ("no beat in it: the beat after", "3 shuffle", ["3/2", "7/4"]),
        ("without counts", "flap flap step", ["-1/2", "0", "1/2", "1", "2"]),
        ("before the first number", "flap 1 step", ["-3/2", "-1", "0"]),
        ("two before it", "flap flap 8 stomp 1 hop", ["-7/2", "-3", "-5/2", "-2", "-1", "0"]),
        ("a shuffle into 1", "shuffle 1 step", ["-1/2", "-1/4", "0"]),
        ("no beat of its own, and no number", "shuffle", ["1/2", "3/4"]),
        ("a word that is not known beside one that is", "1 dubble step 2 step", ["0", "1"]),
        ("counts for all, in order", "1 2 & 3 step step flap", ["0", "1", "3/2", "2"]),
        ("a group each", "1 2 flap flap", ["-1/2", "0", "1/2", "1"]),
        ("one group, the rest follow", "&1 flap stamp", ["-1/2", "0", "1"]),
        ("x4 by its own span", "1 paradiddle x2", ["0", "1/4", "1/2", "3/4", "1", "5/4", "3/2", "7/4"]),
        ("x2 of four counts", "8 stomp x1 1 step 4 stomp", ["-1", "0", "3"]),
        ("a group repeated", "( 1 step &2 flap ) x2", ["0", "1/2", "1", "2", "5/2", "3"]),
        ("joined", "1 stamp + clap 2 step", ["0", "0", "1"]),
        ("as one", "1 heel = toe", ["0", "0"]),
        ("next eight", "7 step 8 step 1 step", ["-2", "-1", "0"]),
        ("second eight", "1 step 5 step 1 step", ["0", "4", "8"]),
    )
    def test_where_words_fall(self, _: str, body: str, expected: list[str]) -> None:
        self.assertEqual([str(s.place) for p in piece(body).parts for s in p.sounds], expected)

    def test_time_step_repeats_by_four(self) -> None:
        """Right and left = 8 counts, 12 sounds, stomps on 8 and 4 (common practice, no source)."""
        one = part("8 single time step x2")
        self.assertEqual((one.counts, len(one.sounds)), (8, 12))
        self.assertEqual([s.say for s in one.sounds if s.kind == "stomp"], ["8", "4"])
        self.assertEqual({s.foot for s in one.sounds if s.kind == "stomp"}, {"right", "left"})

    def test_waltz_by_bars(self) -> None:
        self.assertEqual(part("1 &2 &3 waltz clog\n1 &2 &3 waltz clog", meter="3/4").counts, 6)

    @cases(
        ("holds are counted", "1 step 2-4 hold", 4),
        ("hold by hold", "6 hold 7 hold 8 step", 3),
        ("pick-up included", "8 stomp 1 hop 2 step", 3),
        ("half pick-up not", "&1 flap 2 step", 2),
    )
    def test_length(self, _: str, body: str, counts: int) -> None:
        self.assertEqual(part(body).counts, counts)

    def test_gate_latch(self) -> None:
        read = piece_from(GATE_LATCH)
        self.assertEqual(read.problems, ())
        self.assertEqual([(p.name, p.counts) for p in read.parts], [("A", 8), ("Break", 8)])
        self.assertEqual(places(read.parts[1])[2:5], ["1/3", "2/3", "1"])
        self.assertEqual(read.settings.tempo, 132)
        self.assertEqual([(i.part, i.times, i.side) for i in read.combo],
                         [("A", 3, ""), ("Break", 1, ""), ("A", 3, "other"), ("Break", 1, "")])  # fmt: skip
        self.assertEqual((read.combo[0].last_ends, read.combo[1].turn), ("& touch", F(1, 4)))

    def test_marks(self) -> None:
        one = part("R stomp! L heel~ & (toe) 3 step")
        self.assertEqual([s.level for s in one.sounds], [1, -1, 0, 0])
        self.assertEqual([s.optional for s in one.sounds], [False, False, True, False])
        self.assertEqual([u.side for u in one.uses], ["right", "left", "", ""])

    def test_side_holds_the_first_time_only(self) -> None:
        self.assertEqual([u.side for u in part("1 R step x3").uses], ["right", "", ""])


class ProblemsTest(unittest.TestCase):
    @cases(
        ("N101", "1 shufle step", (1, 2)),
        ("N102", "4 step 3 step", (1, 7)),
        ("N103", "1 2 & 3 shuffle", (1, 0)),
        ("N104", "1 step 1 step", (1, 9)),
        ("N105", "9 step", (1, 0)),
        ("N106", "123 step step step", (1, 0)),
        ("N107", "5 6 7 8 1 step", (1, 0)),
        ("N108", "1 clap 2 3", (1, 7)),
        ("N109", "1 step ? 2 step", (1, 7)),
        ("N110", "1 step ( 2 step", (1, 7)),
        ("N110", "1 step ) 2 step", (1, 7)),
        ("N111", "1 step x99", (1, 7)),
        ("N112", "!", (1, 0)),
        ("N117", "x4", (1, 0)),
        ("N112", "1 step +", (1, 7)),
        ("N113", "1 step 1/4", (1, 7)),
    )
    def test_code_and_place(self, code: str, body: str, place: tuple[int, int]) -> None:
        found = piece(body).problems
        self.assertEqual([(p.code, (p.line, p.column)) for p in found], [(code, place)])
        self.assertIn(code, CODES)

    def test_no_e_in_compound_time(self) -> None:
        self.assertEqual(codes(piece("1 e step step", meter="6/8")), ["N114"])

    @cases(
        ("H201", "tempoo: 120\npart A\n1 step", 0),
        ("H202", "tempo: fast\npart A\n1 step", 0),
        ("H202", "meter: 4/0\npart A\n1 step", 0),
        ("P301", "part A\n1 step\npart a\n1 step", 2),
        ("P301", "part A: 1 step\npart a: 1 step", 1),
        ("N101", "part A: 1 stp\n2 clap", 0),
        ("C401", "part A: 1 step\ncombo: A, B x2", 1),
        ("C401", "part A\n1 step\ncombo\nB x2", 3),
        ("C402", "part A\n1 step\ncombo\nA sideways", 3),
        ("N111", "part A\n1 step\ncombo\nA x0", 3),
        ("N110", "part A\n1 step\ncombo\nA)", 3),
        ("N110", "part A\n1 step\ncombo\n(A", 3),
        ("N113", "part A\n1 step\ncombo\nA, turn about", 3),
        ("C403", "part A\n1 step\ncombo\nA x2, 3rd time ends: 1 stamp", 3),
    )
    def test_headings_and_combo(self, code: str, text: str, line: int) -> None:
        self.assertEqual([(p.code, p.line) for p in read_script(text).problems], [(code, line)])

    def test_nearest_words(self) -> None:
        self.assertIn("shuffle", piece("1 shufle").problems[0].nearest)
        self.assertIn("tempo", read_script("tempoo: 3").problems[0].nearest)
        self.assertIn("Break", read_script("part Break\n1 step\ncombo\nBraek").problems[0].nearest)

    def test_ten_faults_ten_problems_at_their_places(self) -> None:
        text = (
            "tempp: 120\nmeter: five\npart A\n1 stpe  2 step  4 step 3 step\n5 step ? 6 step x0\n( 7 step\n"
            "part B\n1 step 1 step\n2 & 3 shuffle\n99 step\ncombo\nC x2\n"
        )
        found = [(p.code, p.line, p.column) for p in read_script(text).problems]
        self.assertEqual(
            found,
            [
                ("H201", 0, 0), ("H202", 1, 7), ("N101", 3, 2), ("N102", 3, 23), ("N109", 4, 7), ("N111", 4, 16),
                ("N110", 5, 0), ("N104", 7, 9), ("N103", 8, 0), ("N105", 9, 0), ("C401", 11, 0),
            ],
        )  # fmt: skip

    def test_goes_on_after_a_fault(self) -> None:
        read = piece("1 shufle 2 step\n? 3 flap\n( 4 step")
        self.assertEqual([s.kind for s in read.parts[0].sounds], ["step", "brush", "step", "step"])


class RobustTest(unittest.TestCase):
    @cases(
        ("tabs", "1\tstep\t2\tstep"),
        ("right-to-left marks", "\u202b1 step\u202c 2 step"),
        ("no-break spaces", "1\u00a0step\u00a02\u00a0step"),
        ("word wrapped in zero width", "1 step\u200b 2 step"),
    )
    def test_odd_space(self, _: str, body: str) -> None:
        self.assertEqual(len(part(body).sounds), 2)

    def test_a_word_of_ten_thousand_letters(self) -> None:
        found = piece("1 " + "x" * 10_000).problems
        self.assertEqual([p.code for p in found], ["N101"])
        self.assertLess(len(found[0].message), 200)

    def test_feet_that_leave_fewer_ways_where_the_line_is_read_otherwise(self) -> None:
        """Found by texts made at random."""
        body = "- - 3 7 mambo\nright left together  RLRL  Slow Gate  double pull back  tacón  jump"
        self.assertTrue(piece(body).problems)

    def test_brackets_in_brackets_multiply_only_so_far(self) -> None:
        read = piece("((((1 step) x64) x64) x64) x64")
        self.assertIn("N111", codes(read))
        self.assertLess(len(read.parts[0].uses), 5_000)

    def test_a_figure_so_often_in_brackets_behind_counts_is_no_name_of_what_is_before_them(self) -> None:
        for body in ("three balls &1 ( whisk ) x2", "flap 1 ( flap ) x2"):
            self.assertGreater(len(piece(body).parts[0].uses), 2, body)

    def test_deep_brackets(self) -> None:
        self.assertEqual(len(piece("(" * 300 + "1 step" + ")" * 300).parts[0].uses), 1)

    def test_two_thousand_lines(self) -> None:
        text = "part A\n" + "\n".join("1 step 2 step 3 step 4 step 5 step 6 step 7 step 8 step" for _ in range(2_000))
        self.assertEqual(len(read_script(text).parts[0].uses), 16_000)

    @cases(
        ("lines", "1 step 2 step 3 step 4 step 5 step 6 step 7 step 8 step\n" * 2_600, 2_501),
        ("again of again", "1 step 2 step\n" + "again x64\n" * 40, 3),
        ("again of brackets", "( ( 1 step ) x64 ) x64\n" + "again x64\n" * 3, 1),
        ("again, but", "1 step 2 step\n" + "same again x64 but 2 stamp\n" * 40, 3),
        ("hands", "1 step\nhands: 1 clap 2 clap\n" + "hands: again x64\n" * 40, 4),
    )
    def test_no_more_than_twenty_thousand_sounds(self, _: str, body: str, line: int) -> None:
        """Said at the line that would be too much, before it is made; what comes before is read."""
        read = piece(body)
        self.assertIn("N111", codes(read))
        said = next(p for p in read.problems if p.code == "N111")
        self.assertEqual(said.line - 1, line, said.message)
        self.assertIn("20,000 sounds", said.message)
        self.assertLessEqual(len(read.parts[0].sounds), 20_010)

    @cases(
        ("brackets", "(" * 50_000),
        ("closed ones", "( 1 step )" * 3_000),
        ("spaces", "1 step" + " " * 50_000 + "x"),
        ("again, far away", "1 step\nagain" + " " * 50_000 + "x"),
        ("figures", "1" * 50_000 + " step"),
        ("figures of a fraction", "1+1/" + "9" * 50_000 + " step"),
        ("a layer", "arms: 1 " + "9" * 50_000 + "x"),
        ("unknown words", "1 " + "zz " * 12_000),
        ("odd fractions", "1+1/7 step " * 2_000),
        ("or", "1 step " + "or step " * 10_000),
        ("turns", "1 step " + "1/4 right " * 10_000),
        ("all of it twice", "stamp clap, twice, " * 1_200),
        ("all of it twice, after dashes", "stamp - twice " * 1_500),
        ("dashes", "-" * 8_000),
        ("counts and commas", "1, 2, hold 3, " * 800),
        ("a rule", "-" * 19_000 + "x"),
        ("feet in one", "flap\n" + "L" * 19_000 + "x"),
        ("a dash far from its counts", "flap -" + " " * 19_000 + "x"),
        ("names of several words", "flap heel " * 1_900),
        ("feet", "flap " * 200 + "\n" + "R L " * 4_000),
        ("rows of a list", "".join(f"{n}. stamp\n" for n in range(1, 99)) * 40),
        ("what is put in another's place", "1 step 2 step\nagain but step" + " " * 19_000 + "x"),
    )
    def test_very_much_of_one_thing_ends(self, _: str, body: str) -> None:
        """A long line, and one far over what it may hold. That it ends soon is measured by ./run fuzz."""
        near = "\n".join(line[: MOST_LETTERS // 4] for line in body.split("\n"))
        self.assertNotIn("N119", codes(piece(near)))
        self.assertEqual("N119" in codes(piece(body)), any(len(r) > MOST_LETTERS for r in body.split("\n")))

    @cases(
        ("a tempo", " " * 19_000 + "x\npart A\n1 step"),
        ("a claim", "meant: touches on " + "1" * 19_000 + "x\npart A\n1 step"),
        ("a claim, far apart", "meant: touches" + " " * 19_000 + "x\npart A\n1 step"),
        ("an entry", "part A\n1 step\n\ncombo\nA, " + "a" * 19_000 + "!"),
        ("a formation", "formation: " + "fac" * 6_000 + "!\npart A\n1 step"),
    )
    def test_very_much_in_a_heading_ends(self, _: str, text: str) -> None:
        """That it ends soon is measured by ./run fuzz."""
        self.assertEqual([s.kind for s in piece_from(text).parts[-1].sounds], ["step"])

    @settings(max_examples=150)
    @given(st.text(alphabet=" \t\n123456789&ae()+=|!~#xRL-/:,?é\u202e\U0001f45estephofla", max_size=60))
    def test_any_text_is_read(self, text: str) -> None:
        read = piece_from(text)
        for problem in read.problems:
            self.assertIn(problem.code, CODES)
            self.assertLessEqual(problem.line, text.count("\n") + text.count("\r"))
            self.assertLess(problem.column, problem.end + 1)

    def test_lines_as_an_editor_shows_them(self) -> None:
        self.assertEqual(lines_of("a\nb\r\nc\rd\u2028e"), ["a", "b", "c", "d\u2028e"])

    def test_columns_count_from_the_line_as_typed(self) -> None:
        nodes, _ = parse_line("  8 stomp!  # hop")
        self.assertEqual([(n.column, n.end) for n in nodes], [(2, 3), (4, 9), (9, 10)])


class HeadTest(unittest.TestCase):
    @cases(
        ("phrase in bars", "meter: 3/4\nphrase: 4 bars", "phrase", 12),
        ("phrase before meter", "phrase: 4 bars\nmeter: 6/8", "phrase", 8),
        ("tempo", "tempo: 132.5", "tempo", 132.5),
        ("lead", "lead: L", "lead", "left"),
        ("tradition", "tradition: Folk Stamping", "tradition", "folk stamping"),
        ("the last of two wins", "tempo: 100\ntempo: 90", "tempo", 90),
    )
    def test_headings(self, _: str, text: str, field: str, value: object) -> None:
        read, problems = read_settings(text.split("\n"))
        self.assertEqual((getattr(read, field), problems), (value, []))

    @cases(("0",), ("401",), ("nan",), ("-5",), ("1e3",), ("",))
    def test_tempo_that_is_none(self, tempo: str) -> None:
        self.assertEqual([p.code for p in read_settings([f"tempo: {tempo}"])[1]], ["H202"])

    def test_written_settings_read_back(self) -> None:
        for one in (
            Settings(),
            Settings("Gate", "swing", feel="3:2", lone_a="triplet", phrase=6, tempo=97.5, lead="left"),
        ):
            read, problems = read_settings(write_settings(one).split("\n"))
            self.assertEqual((read, problems), (one, []))

    def test_lone_a_by_feel(self) -> None:
        self.assertEqual(Settings(feel="swing").counting.lone_a, "triplet")
        self.assertEqual(Settings().counting.lone_a, "sixteenth")


class ComboTest(unittest.TestCase):
    @cases(
        ("Part A:\n1 step 2 clap\nPart B:\n1 stamp\ncombo:\nA x2, B",),
        ("part A: 1 step 2 clap\npart B: 1 stamp\ncombo: A x2, B",),
        ("parte A\n1 step 2 clap\nparte B\n1 stamp\ncombo\nA x2, B",),
    )
    def test_heads_with_colons(self, text: str) -> None:
        """As lines of their own, or before what they lead to."""
        plain = read_script("part A\n1 step 2 clap\npart B\n1 stamp\ncombo\nA x2, B")
        read = read_script(text)
        self.assertEqual((read.problems, [p.name for p in read.parts]), ((), ["A", "B"]))
        for one, other in zip(read.parts, plain.parts, strict=True):
            self.assertEqual([u.places for u in one.uses], [u.places for u in other.uses])
        self.assertEqual([(i.part, i.times) for i in read.combo], [("A", 2), ("B", 1)])

    def test_a_head_of_its_own_line_keeps_what_looks_like_one(self) -> None:
        """What a part holds is written down under its own line, and reads back."""
        read = read_script("part A\n1 step\npart 2: 2 clap\npart B\n1 stamp")
        self.assertEqual([(p.name, p.text) for p in read.parts], [("A", "1 step\npart 2: 2 clap"), ("B", "1 stamp")])

    def test_where_something_stands_after_its_head(self) -> None:
        problem = read_script("part A: 1 step 2 clip").problems[0]
        self.assertEqual((problem.line, problem.column), (0, 17))

    def test_items(self) -> None:
        items, problems = read_combo(
            ["A x3, Long Part other side", "A right x2, last time ends: & touch"], ["A", "Long Part"]
        )
        self.assertEqual(problems, [])
        self.assertEqual([(i.part, i.times, i.side, i.last_ends) for i in items],
                         [("A", 3, "", ""), ("Long Part", 1, "other", ""), ("A", 2, "right", "& touch")])  # fmt: skip

    def test_all_that_may_be_said(self) -> None:
        text = [
            "A x3, last time ends: & touch",
            "Break, turn 1/4 right",
            "A other side x3, 2nd time ends: 4 (heel) stamp, Break left, ends: 8 stamp, turn 1 1/2 left",
            "(A, Break) x2",
        ]
        items, problems = read_combo(text, ["A", "Break"])
        self.assertEqual((len(items), problems), (8, []))
        self.assertEqual([i.turn for i in items[:4]], [0, F(1, 4), 0, F(-3, 2)])
        self.assertEqual((items[2].time_ends, items[3].ends), (((2, "4 (heel) stamp"),), "8 stamp"))

    @cases(
        ("and, then", "A x2 and Break then A", ["A", "Break", "A"]),
        ("brackets", "(A, Break) x2, A", ["A", "Break", "A", "Break", "A"]),
        ("brackets in brackets", "(A, (Break) x2) x2", ["A", "Break", "Break"] * 2),
        ("brackets over lines", "(A\nBreak) x3", ["A", "Break"] * 3),
        ("brackets in an ending", "(A, ends: 4 (heel) step) x2", ["A", "A"]),
        ("a part that is called so", "And one, A", ["And one", "A"]),
    )
    def test_order(self, _: str, text: str, parts: list[str]) -> None:
        items, problems = read_combo(text.split("\n"), ["A", "Break", "And one"])
        self.assertEqual(([i.part for i in items], problems), (parts, []))

    def test_a_part_that_is_called_part(self) -> None:
        read = read_script("part Part 2\n1 step  2 step\ncombo\nPart 2 x2\npart Last\n1 step")
        self.assertEqual([p.name for p in read.parts], ["Part 2", "Last"])
        self.assertEqual([i.part for i in read.combo], ["Part 2"])
        self.assertEqual(read.problems, ())

    def test_an_ending_for_each_time(self) -> None:
        items, problems = read_combo(["A x4, ends: 8 stamp, 2nd time: 8 stomp, last time ends: 8 touch"], ["A"])
        self.assertEqual(problems, [])
        self.assertEqual([items[0].ends_of(t) for t in range(4)], ["8 stamp", "8 stomp", "8 stamp", "8 touch"])

    def test_no_end_of_brackets(self) -> None:
        text = "(" * 5 + "A" + ") x64" * 5
        items, problems = read_combo([text], ["A"])
        self.assertLessEqual(len(items), 1_000)
        self.assertEqual({p.code for p in problems}, {"N111"})


class TurnsTest(unittest.TestCase):
    @cases(
        ("1/4", F(1, 4)), ("half", F(1, 2)), ("Full", F(1)), ("1 1/2", F(3, 2)), ("3/2", F(3, 2)), ("2", F(2)),
        ("1/0", None), ("0/4", None), ("9/4/4", None), ("5", None), ("1/17", None), ("much", None), ("1 2", None),
    )  # fmt: skip
    def test_amounts(self, text: str, turn: F | None) -> None:
        self.assertEqual(parse_amount(text), turn)
        if turn:
            self.assertEqual(parse_amount(turn_text(turn).removesuffix(" right")), turn)

    @cases(
        ("a fraction", "3 turn 1/4 right", F(1, 4)),
        ("a word", "3 pivot half left", F(-1, 2)),
        ("any step turns", "3 flap! 3/8 L", F(-3, 8)),
        ("joined", "3 stamp + clap 1/2 right", F(0)),
    )
    def test_in_a_part(self, _: str, body: str, turn: F) -> None:
        one = part("1 step  2 step  " + body)
        self.assertEqual(one.uses[2].word.turn, turn)
        again = part(write_part(one.script, one.settings))
        self.assertEqual([u.word.turn for u in again.uses], [u.word.turn for u in one.uses])

    @cases(
        ("no sense", "1 step 1/4  2 step"),
        ("nothing over nothing", "1 step 0/0 right"),
        ("nobody", "1 step 99/2 left"),
    )
    def test_no_turn(self, _: str, body: str) -> None:
        read = piece(body)
        self.assertEqual((codes(read), read.parts[0].uses[0].word.turn), (["N113"], 0))

    def test_half_a_step_is_no_turn_where_half_is_a_step(self) -> None:
        self.assertEqual(codes(piece("1 half")), ["N101"])


class WriterTest(unittest.TestCase):
    @cases(
        ("& before its count", ["3/2", "2"], "&3"),
        ("sixteenths", ["0", "1/4", "1/2", "3/4"], "1e&a"),
        ("time step", ["-1", "0", "1", "3/2", "2", "5/2"], "8 1 2 &3 &"),
        ("waltz clog", ["0", "1/2", "1", "3/2", "2"], "1 &2 &3"),
        ("& a 1", ["-1/2", "-1/4", "0"], "&a1"),
    )
    def test_counts_as_typed(self, _: str, at: list[str], text: str) -> None:
        self.assertEqual(count_text([F(p) for p in at], Settings().counting), text)

    @cases(
        ("gate latch", "8 stomp  1 hop  2 step  &3 flap  & step\n4 stomp  5 hop  6 step  &7 flap  & step", "swing"),
        ("break", "8 stomp  1 hop  &a2 shuffle step  &3 flap  4 step  5 stamp!  6-7 hold", "swing"),
        ("feet and marks", "1 R stomp!  & (L heel)  2 both jump~  3-4 hold", "straight"),
        ("joined", "1 stamp + clap  2 heel = toe  3 step", "straight"),
        ("written out", "2+1/5 step  3 step", "straight"),
        ("late start", "2 step  3 step  4 step", "straight"),
        ("long pick-up", "5 step  6 step  7 step  8 step  1 step", "straight"),
    )
    def test_reads_back(self, _: str, body: str, feel: str) -> None:
        head = Settings(feel=feel, phrase=8)
        script = read_part("A", body, head)
        self.assertEqual(script.problems, ())
        written = write_part(script, head)
        again = read_part("A", written, head)
        self.assertTrue(same_uses(script.uses, again.uses), written)
        self.assertEqual(write_part(again, head), written)

    @settings(max_examples=120)
    @given(
        st.integers(0, 10**9), st.sampled_from(["straight", "swing", "3:2"]), st.sampled_from(["4/4", "3/4", "6/8"])
    )
    def test_random_parts_read_back(self, seed: int, feel: str, meter: str) -> None:
        head = read_settings([f"feel: {feel}", f"meter: {meter}", "phrase: 12 counts"])[0]
        rng = random.Random(seed)
        names = [c.name for c in shipped().cards if len(c.beats) <= 8]
        words = []
        for _ in range(rng.randint(1, 8)):
            mark = rng.choice(["", "", "!", "~"])
            side = rng.choice(["", "", "", "R ", "L "])
            words.append(f"{side}{rng.choice(names)}{mark}")
        script = read_part("A", "  ".join(words), head)
        if script.problems or script.uses[-1].last >= 12 or script.uses[0].places[0] < -6:
            return
        again = read_part("A", write_part(script, head), head)
        self.assertTrue(same_uses(script.uses, again.uses), words)


if __name__ == "__main__":
    unittest.main()
