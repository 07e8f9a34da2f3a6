"""A combo danced from its beginning: where each pass begins, on which side, and what is free after it.

Each pass begins on the free foot, unless its side is fixed (common practice, no source).
"""

import unittest
from fractions import Fraction as F  # noqa: N817

from firn.core.piece.build import piece_from
from firn.core.piece.unfold import Pass, Unfolded, ending_fault, entry_fault, unfold, with_ending, with_entry
from firn.core.reading.read import check_combo
from firn.core.reading.sentences import sentence
from firn.core.script.places import MOST_SOUNDS
from tests.support import cases, feet, part, weights

PARTS = {
    "A": "1 step  2 step  3 step",
    "B": "1 step  2 touch",
    "J": "1 jump",
    "H": "1 hop  2 step",
    "S": "danced: seated\n1 step  2 step",
    "X": "1 R step  2 R step  3 L step",
    "W": "meter: 3/4\n1 step  2 step  3 step",
    "P": "8 step  1 step  2 step",
    "T": "1 touch  2 touch",
    "E": "",
    "U": "1 step  2 step  3 pickup  & land",
}


def combo(said: str, head: str = "") -> Unfolded:
    parts = "".join(f"part {name}\n{text}\n" for name, text in PARTS.items())
    return unfold(piece_from(f"phrase: 8 counts\n{head}{parts}combo\n{said}\n"))


def told(one: Pass) -> str:
    """A pass: its part, ' on the other side, where its first sound is, and its feet and weights."""
    by_foot = "".join((s.foot or "-")[0].upper() for s in one.sounds)
    carried = "".join(s.weight[0].upper() for s in one.sounds)
    return f"{one.part.name}{chr(39) * one.swapped} {one.sounds[0].place} {by_foot} {carried}"


class UnfoldTest(unittest.TestCase):
    @cases(("B x2, never swaps", [True, False]), ("A x2, never swaps", [True, False]), ("B x2", [True, True]),
           ("A, B x2, never swaps", [True, False, False]), ("B, B", [True, True]))  # fmt: skip
    def test_what_never_swaps_and_cannot_be_danced(self, said: str, danceable: list[bool]) -> None:
        self.assertEqual([one.danceable for one in combo(said).passes], danceable)

    @cases(
        ("A x2", "A 0 RLR RLR, A' 3 LRL LRL", 6, "right"),
        ("A, A left", "A 0 RLR RLR, A' 3 LRL LRL", 6, "right"),
        ("A, A other side", "A 0 RLR RLR, A' 3 LRL LRL", 6, "right"),
        ("A left", "A' 0 LRL LRL", 3, "right"),
        ("B x3", "B 0 RL RR, B' 2 LR LL, B 4 RL RR", 6, "left"),
        ("J, A", "J 0 B B, A 1 RLR RLR", 4, "left"),
        ("J, A left", "J 0 B B, A' 1 LRL LRL", 4, "right"),
        ("A, H", "A 0 RLR RLR, H' 3 RL RL", 5, "right"),
        ("A, A, H", "A 0 RLR RLR, A' 3 LRL LRL, H 6 LR LR", 8, "left"),
        ("H, A", "H 0 LR LR, A' 2 LRL LRL", 5, "right"),
        ("S, A", "S 0 RL SS, A 2 RLR RLR", 5, "left"),
        ("P, P", "P -1 RLR RLR, P' 2 LRL LRL", 6, "right"),
        ("A, P", "A 0 RLR RLR, P' 3 LRL LRL", 6, "right"),
        ("T, A", "T 0 RR LL, A 2 RLR RLR", 5, "left"),
        ("A, J, J", "A 0 RLR RLR, J' 3 B B, J 4 B B", 5, "either"),
        ("U", "U 0 RLLL RLAL", 3, "right"),
        ("A, E, A", "A 0 RLR RLR, A' 3 LRL LRL", 6, "right"),
        ("A, Z, A", "A 0 RLR RLR, A' 3 LRL LRL", 6, "right"),
        ("A x2, last time ends: 3 touch", "A 0 RLR RLR, A' 3 LRL LRR", 6, "left"),
        ("A begins: 2 step", "A 1 RL RL", 2, "right"),
        ("A x2, begins: 3 step", "A 2 R R, A' 3 L L", 2, "right"),
        ("A x2, first time begins: 2 step", "A 1 RL RL, A 3 RLR RLR", 5, "left"),
        ("A, A enters with 2 step, ends: 3 touch", "A 0 RLR RLR, A' 3 LR LL", 5, "right"),
        ("E", "", 0, "either"),
    )
    def test_passes(self, said: str, passes: str, counts: int, free: str) -> None:
        whole = combo(said)
        self.assertEqual(", ".join(told(one) for one in whole.passes), passes)
        self.assertEqual((whole.counts, whole.free, whole.cut_short), (counts, free, False))
        self.assertTrue(all(one.danceable for one in whole.passes))

    def test_the_other_lead(self) -> None:
        self.assertEqual([told(one) for one in combo("A x2", "lead: left\n").passes], ["A 0 LRL LRL", "A' 3 RLR RLR"])

    @cases(
        ("A, A right", 1, "right", "left"),
        ("A, A as written", 1, "right", "left"),
        ("A right, A right", 1, "right", "left"),
        ("A, A, A left", 2, "left", "right"),
    )
    def test_a_side_that_the_feet_do_not_allow(self, said: str, at: int, needed: str, free: str) -> None:
        passes = combo(said).passes
        self.assertEqual([one.danceable for one in passes], [n != at for n in range(len(passes))])
        self.assertEqual((passes[at].needed, passes[at].free), (needed, free))

    def test_what_cannot_be_danced_goes_on_as_if_it_could(self) -> None:
        whole = combo("X, A, X")
        self.assertEqual([one.danceable for one in whole.passes], [False, True, False])
        self.assertEqual(told(whole.passes[1]), "A 3 RLR RLR")
        # The foot that is written holds, and is said where it cannot be.
        self.assertEqual([s.foot for s in whole.passes[2].sounds], ["right", "right", "left"])

    @cases(
        ("1 step  2 step  3 step", "A, B", "RL"),
        ("1 step  2 step  3 step", "A x2, B", "RLR"),
        ("1 R step  2 step  3 step", "A, B, A", "RLR"),
        ("1 R step  2 step  3 step", "A x2, B", "RLR"),
        ("1 R step  2 step  3 step", "A, A", "RR"),
        ("1 step  2 step  3 step\nalways: right", "A x3", "RRR"),
        ("1 R step  2 step  3 step", "A, A left", "RL"),
    )
    def test_the_foot_that_is_written_first_holds(self, text: str, said: str, feet: str) -> None:
        """For an item's first time; `always` for every time."""
        whole = unfold(piece_from(f"part A\n{text}\npart B\n1 step\ncombo\n{said}\n"))
        self.assertEqual("".join(one.sounds[0].foot[0].upper() for one in whole.passes), feet)

    def test_where_it_sounds_moves_with_it(self) -> None:
        whole = unfold(piece_from("feel: swing\npart A\n1 step  & step  2 step\ncombo\nA x2\n"))
        self.assertEqual([s.position for s in whole.sounds], [0, F(2, 3), 1, 2, 2 + F(2, 3), 3])
        self.assertEqual([s.place for s in whole.sounds], [0, F(1, 2), 1, 2, F(5, 2), 3])

    @cases(
        ("A, W, A", [(3, 3, 3), (6, 6, 4)]),
        ("W, W, A", [(0, 0, 3), (6, 6, 4)]),
        ("A, A", []),
        ("A, W, W", [(3, 3, 3)]),
    )
    def test_a_part_that_is_counted_otherwise(self, said: str, changes: list[tuple[int, int, int]]) -> None:
        found = [(c.first, c.origin, c.counting.meter.counts) for c in combo(said).counting.changes]
        self.assertEqual(found, changes)

    def test_a_pick_up_is_counted_with_its_part(self) -> None:
        theirs = "meter: 3/4\nphrase: 6 counts\n6 step  1 step  2 step"
        text = f"phrase: 8 counts\npart A\n1 step 2 step\npart V\n{theirs}\ncombo\nA, V\n"
        whole = unfold(piece_from(text))
        (change,) = whole.counting.changes
        self.assertEqual((change.first, change.origin), (2, 3))
        self.assertEqual([whole.counting.say(s.place) for s in whole.sounds], ["1", "2", "6", "1", "2"])

    def test_no_more_than_a_part_may_hold(self) -> None:
        text = "part A\n" + "( 1 step 2 step ) x50\n" + "combo\n" + ", ".join(["A x64"] * 4)
        whole = unfold(piece_from(text))
        self.assertEqual((len(whole.sounds), whole.cut_short), (MOST_SOUNDS, True))
        fits = unfold(piece_from(text.replace("A x64, A x64, A x64, A x64", "A x64, A x64, A x64, A x8")))
        self.assertEqual((len(fits.sounds), fits.cut_short), (MOST_SOUNDS, False))
        (cut,) = [f for f in check_combo(piece_from(text)) if f.code == "combo_cut"]
        self.assertEqual(cut.level, "bad")
        self.assertIn("more than 20,000 sounds: its first 200 passes are danced", sentence(cut))

    def test_of_many_groups_each_has_fewer(self) -> None:
        """What two dozen rows dance one after another is worked out for each of them."""
        text = "part A\n" + "( 1 step 2 step ) x50\ncombo\n20 rows, 8 apart: A x64\n"
        whole = unfold(piece_from(text))
        self.assertEqual((len(whole.sounds), whole.cut_short), (2_000, True))
        (cut,) = [f for f in check_combo(piece_from(text)) if f.code == "combo_cut"]
        self.assertIn("more than 2,000 sounds: its first 20 passes", sentence(cut))


class EndingTest(unittest.TestCase):
    @cases(
        ("3 touch", "1 step 2 step & step 3 touch", "RLRL"),
        ("& stamp 3 touch", "1 step 2 step & stamp 3 touch", "RLRL"),
        ("2 hold", "1 step 2 hold", "R-"),
    )
    def test_the_end_replaced(self, ends: str, said: str, by_foot: str) -> None:
        made = with_ending(part("1 step  2 step  & step  3 step"), ends)
        self.assertEqual(feet(made), by_foot)
        self.assertEqual(feet(made), feet(part(said)))
        self.assertEqual(weights(made), weights(part(said)))

    @cases(
        ("3 touch", ""),
        ("4 touch", "A has nothing on 4, where the ending begins."),
        ("", "It names no step."),
        ("3 toush", 'No step is called "toush". Nearest: touch'),
    )
    def test_why_an_ending_is_none(self, ends: str, fault: str) -> None:
        self.assertEqual(ending_fault(part("1 step  2 step  3 step"), ends)[: len(fault) or None], fault)


class EntryTest(unittest.TestCase):
    @cases(
        ("2 touch", "2 touch & step 3 step", "LLR"),
        ("1 stamp 2 step", "1 stamp 2 step & step 3 step", "RLRL"),
        ("& step", "& step 3 step", "RL"),
        ("3 hold", "3 hold", "-"),
    )
    def test_the_beginning_replaced(self, begins: str, said: str, by_foot: str) -> None:
        made = with_entry(part("1 step  2 step  & step  3 step"), begins)
        self.assertEqual([(s.say, s.kind) for s in made.sounds], [(s.say, s.kind) for s in part(said).sounds])
        self.assertEqual(made.counts, part(said).counts)

    def test_a_word_that_goes_on_there_is_cut(self) -> None:
        made = with_entry(part("1 step  &2 flap  3 step"), "& touch")
        self.assertEqual([(s.say, s.kind) for s in made.sounds], [("&", "touch"), ("2", "step"), ("3", "step")])

    @cases(
        ("3 touch", ""),
        ("4 touch", "A has nothing on 4, where the entry leads into it."),
        ("", "It names no step."),
        ("3 toush", 'No step is called "toush". Nearest: touch'),
    )
    def test_why_an_entry_is_none(self, begins: str, fault: str) -> None:
        self.assertEqual(entry_fault(part("1 step  2 step  3 step"), begins)[: len(fault) or None], fault)

    def test_six_counts_fill_an_eight_after_an_entry_of_two(self) -> None:
        """Six against eight: an entry on 5 of a figure of six leaves two counts, and they come to an eight (common
        practice, no source)."""
        made = piece_from("part S\n1 2 3 4 5 6 step\ncombo\nS, S begins: 5 step")
        whole = unfold(made)
        self.assertEqual([one.part.counts for one in whole.passes], [6, 2])
        self.assertEqual(whole.counts, 8)
        self.assertNotIn("combo_off_phrase", {f.code for f in check_combo(made, whole)})


if __name__ == "__main__":
    unittest.main()
