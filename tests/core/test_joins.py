"""The joins of a combo: feet, endings, counts, stances, and what the whole comes to."""

import unittest

from firn.core.piece.build import piece_from
from firn.core.piece.unfold import unfold, with_ending
from firn.core.reading.read import check, check_combo
from firn.core.reading.sentences import sentence
from firn.core.script.changes import changed_text
from tests.support import cases, feet, part

TIME_STEPS = "8 single time step x2"
OVER_SIX = "1 rock step 3 & 4 triple step 5 & 6 triple step"


class JoinsTest(unittest.TestCase):
    HEAD = "phrase: 8 counts\npart A\n" + TIME_STEPS + "\npart B\n8 step 1-7 hold\n"

    def test_passes_follow_the_free_foot(self) -> None:
        read = piece_from(self.HEAD + "combo\nB x3, A")
        passes = unfold(read).passes
        self.assertEqual([p.swapped for p in passes], [False, True, False, True])
        self.assertTrue(all(p.danceable for p in passes))
        self.assertEqual(unfold(read).counts, 32)

    def test_a_fixed_side_that_is_not_free(self) -> None:
        read = piece_from(self.HEAD + "combo\nB, A right")
        bad = [f for f in check_combo(read) if f.level == "bad"]
        self.assertEqual(
            [sentence(f) for f in bad], ["A begins on the right foot, but after B the left foot is free."]
        )
        self.assertEqual(bad[0].place, 7)

    @cases(("left", "A left"), ("other side", "A other side"), ("by itself", "A"))
    def test_a_side_that_is_free(self, _: str, second: str) -> None:
        self.assertEqual([f.level for f in check_combo(piece_from(self.HEAD + f"combo\nB, {second}"))], ["ok"])

    def test_the_combo_may_open_on_either_side(self) -> None:
        passes = unfold(piece_from(self.HEAD + "combo\nA other side")).passes
        self.assertEqual((passes[0].swapped, passes[0].danceable), (True, True))
        self.assertEqual({s.foot for s in passes[0].sounds if s.kind == "stomp"}, {"left", "right"})
        self.assertEqual(passes[0].sounds[0].foot, "left")

    def test_last_time_ends(self) -> None:
        read = piece_from(self.HEAD + "combo\nB x2, last time ends: 8 touch\nB")
        passes = unfold(read).passes
        self.assertEqual(passes[1].sounds[0].kind, "touch")
        self.assertEqual([p.swapped for p in passes], [False, True, True])

    def test_ending_replaces_from_the_last_such_count(self) -> None:
        ended = with_ending(part("1 step & step 2 step & step"), "& touch")
        self.assertEqual([s.kind for s in ended.sounds], ["step", "step", "step", "touch"])
        self.assertEqual(ended.sounds[-1].place, part("2 step & step").sounds[1].place)

    @cases(
        ("inside a word", "1 step  2 shuffle ball change  4 stamp", "& touch", "1step &brush 2spank &touch"),
        (
            "that stays as long",
            "1 step  & step  2 step  & step  3 step",
            "& touch  3 hold",
            "1step &step 2step &touch 3hold",
        ),
        ("the number says which", "1 step  & step  2 step  & step  3 step", "&2 step step", "1step &step 2step"),
        ("the last where none does", "1 step  & step  2 step  & step  3 step", "& touch", "1step &step 2step &touch"),
    )
    def test_where_an_ending_begins(self, _: str, text: str, ends: str, left: str) -> None:
        """A word that goes on there is cut off: no two sounds of one foot fall on one place."""
        ended = with_ending(part(text), ends)
        self.assertEqual(" ".join(f"{s.say}{s.kind}" for s in ended.sounds), left)

    def test_an_ending_of_a_long_part_is_made_once(self) -> None:
        """Of many places that it could begin on each would be a part; danced sixty times the same one is."""
        long = part("1 step  & step  2 step  & step  3 step\n" * 60)
        ended = with_ending(long, "& touch")
        self.assertIs(with_ending(long, "& touch"), ended)

    def test_an_ending_with_no_such_count_changes_nothing(self) -> None:
        one = part("1 step 2 step")
        self.assertEqual(with_ending(one, "& touch"), one)

    SIX, EIGHT = "1 2 3 4 5 6 step", "1 step 2 step 3 step 4 stamp 5 step 6 step 7 step 8 stamp"

    @cases(
        ("held on", SIX, "A", ["A, ends: 6 step  7-8 hold"]),
        ("left early, the last of three", SIX, "A x3", ["A x3, last time ends: 4 step"]),
        (
            "left early, or entered late",
            EIGHT,
            "A, Break, A",
            ["A, Break, A, ends: 6 step", "A, Break, A, begins: 3 step"],
        ),
        ("no figure is cut in two", "1 2 rock step  3a4 triple step  5a6 triple step", "A x2", []),
        ("groups wait for each other", SIX, "group 1: A\ngroup 2: A", []),
    )
    def test_six_counts_and_eights_are_brought_together(
        self, _: str, body: str, combo: str, mended: list[str]
    ) -> None:
        """Where six counts meet eights, one enters late, leaves early or waits (common practice, no source)."""
        text = f"part A\n{body}\npart Break\n1 step  2 step\ncombo\n"
        (finding,) = (f for f in check_combo(piece_from(text + combo)) if f.code == "combo_off_phrase")
        offered = [changed_text(combo, mend.changes) for mend in finding.mends]
        self.assertEqual(offered, mended)
        for one in offered:
            after = piece_from(text + one)
            self.assertEqual(after.problems, ())
            self.assertNotIn("combo_off_phrase", [f.code for f in check_combo(after)])

    @cases(
        ("a step becomes a touch", "1 step  2 step", "A, Break left", "A, ends: 2 touch, Break left"),
        ("the last of three", "1 step  2 step", "A x3, Break left", "A x3, last time ends: 2 touch, Break left"),
        ("a touch becomes a step", "1 step 2 touch", "A, turn 1/2 right, Break right",
         "A, turn 1/2 right, ends: 2 step, Break right"),
    )  # fmt: skip
    def test_the_usual_fix_before_a_break(self, _: str, body: str, combo: str, mended: str) -> None:
        """The last step becomes a touch (common practice, no source)."""
        text = f"part A\n{body}\npart Break\n1 stamp\ncombo\n"
        finding = next(f for f in check_combo(piece_from(text + combo)) if f.code == "join")
        self.assertEqual(changed_text(combo, finding.mends[0].changes), mended)
        after = piece_from(text + mended)
        self.assertEqual(after.problems, ())
        self.assertNotIn("join", [f.code for f in check_combo(after)])

    @cases(
        ("an unknown word", "A, ends: 8 tuch", 'No step is called "tuch"'),
        ("no such count", "A, last time ends: 7 stamp", "A has nothing on 7"),
        ("no step", "A x2, 2nd time ends: 4", "These counts have no word"),
        ("nothing", "A, ends: # later", ""),
    )
    def test_an_ending_that_cannot_be_danced(self, _: str, combo: str, said: str) -> None:
        read = piece_from(f"part A\n1 step 2 step 3 step 4 step\ncombo\n{combo}")
        told = [sentence(f) for f in check_combo(read) if f.code == "ending"]
        self.assertEqual(len(told), bool(said))
        self.assertIn(said, "".join(told))

    def test_off_the_phrase(self) -> None:
        read = piece_from("phrase: 8 counts\npart A\n1 step 2 step 3 step\ncombo\nA x2")
        self.assertEqual([f.code for f in check_combo(read)], ["combo_off_phrase"])

    # Step starts on 8 or on 1: a pick-up is explicit, holds are written and counted (common practice, no source).
    @cases(
        ("too soon", "8 stomp  1 hop  2 step  3 hold", "1 step  2 step  3 step  4 stamp", "A, B",
         "B is written from 1, but after A comes 4: it would be 1 count early.", "A, ends: 3-4 hold, B"),
        ("the last time", "8 stomp  1 hop  2 step  3 step!", "1 step  2 step  3 step  4 stamp", "A x3, B",
         "B is written from 1, but after A comes 4: it would be 1 count early.",
         "A x3, last time ends: 3 step!  4 hold, B"),
        ("too late", "1 step  2 step  3 step  4 stamp", "8 stomp  1 hop  2 step  3 step", "A, B, A",
         "B is written from 8, but after A comes 5: it would be 1 count late.", "A, ends: 3 step, B, A"),
        ("no single sound", "8 stomp  1 hop  &2 flap  3 cramp roll", "1 step  2 step  3 step  4 stamp", "A, B",
         "B is written from 1, but after A comes 4: it would be 1 count early.", ""),
    )  # fmt: skip
    def test_the_count_that_a_part_is_written_from(
        self, _: str, first: str, second: str, combo: str, said: str, mended: str
    ) -> None:
        text = f"part A\n{first}\npart B\n{second}\ncombo\n"
        told = [f for f in check_combo(piece_from(text + combo)) if f.code == "join_counts"]
        self.assertEqual(sentence(told[0]), said)
        self.assertEqual([changed_text(combo, m.changes) for m in told[0].mends], [mended] if mended else [])
        if mended:
            left = [f for f in check_combo(piece_from(text + mended)) if f.code == "join_counts"]
            self.assertEqual(len(left), len(told) - 1)

    @cases(
        ("halves of a phrase", "A x2, B", "8 single time step", "8 step  1-3 hold"),
        ("sixes", "A, B, A", OVER_SIX, "1 step  2 hold  3 step  4 hold  5 step  6 hold"),
        ("each in its own meter", "A, B", "1 step  2 step  3 step  4 step", "meter: 3/4\n3 step  1 step  2 step"),
    )
    def test_a_part_on_its_count(self, _: str, combo: str, first: str, second: str) -> None:
        head = "phrase: 6 counts\n" if OVER_SIX in first else "phrase: 8 counts\n"
        read = piece_from(f"{head}part A\n{first}\npart B\n{second}\ncombo\n{combo}")
        self.assertNotIn("join_counts", [f.code for f in check_combo(read)])

    def test_a_pick_up_leads_up_to_the_first_phrase(self) -> None:
        """81 counts from 8 to 8 are ten eights and the 8 before them (arithmetic)."""
        read = piece_from("part A\n8 stomp  1 step  2-8 hold\npart B\n1 step  2-8 hold\ncombo\nA, B x9")
        told = [sentence(f) for f in check_combo(read)]
        self.assertEqual(
            told, ["81 counts: 10 phrases of 8 after a pick-up of 1 count, the right foot free at the end."]
        )

    def test_what_is_meant_so_in_a_combo(self) -> None:
        text = "part A\n1 step 2-8 hold\ncombo\nA, turn half right\nmeant: walls, the next piece begins there # yes"
        read = piece_from(text)
        self.assertEqual((read.problems, len(read.combo)), ((), 1))
        walls = next(f for f in check_combo(read) if f.code == "walls")
        self.assertEqual((walls.level, walls.meant), ("ok", "the next piece begins there"))
        self.assertTrue(sentence(walls).endswith("Meant so: the next piece begins there."))

    def test_four_rows_in_canon(self) -> None:
        """Row n enters on count 8(n-1)+1; all dance from count 25 (common practice, no source)."""
        read = piece_from(self.HEAD + "combo\nA x4")
        self.assertEqual([int(p.offset) + int(p.part.first_count) + 2 for p in unfold(read).passes], [1, 9, 17, 25])

    def test_gate_latch_joins(self) -> None:
        from firn.session.demo import demo_script

        read = piece_from(demo_script())
        self.assertEqual(read.problems, ())
        self.assertEqual([f.level for f in check(read) if f.level != "ok"], [])

    def test_feet_of_a_pass_on_the_other_side_are_mirrored(self) -> None:
        passes = unfold(piece_from(self.HEAD + "combo\nA, A other side")).passes
        swap = {"left": "right", "right": "left", "": ""}
        self.assertEqual([s.foot for s in passes[1].sounds], [swap[s.foot] for s in passes[0].sounds])
        self.assertEqual(feet(passes[0].part)[0], "R")


if __name__ == "__main__":
    unittest.main()
