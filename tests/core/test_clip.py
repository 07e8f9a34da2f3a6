"""Several sounds at once: copied, cut, pasted, joined, split, and what is said where that cannot be."""

import unittest
from fractions import Fraction

from hypothesis import assume, given
from hypothesis import strategies as st

from firn.core.piece.by_hand import HandError, weighted
from firn.core.piece.clip import copied, cut, joined, pasted, split
from firn.core.piece.piece import Part
from firn.session.by_hand import draw
from firn.session.stretch import grown, part_stretch
from tests.support import cases, feet, part

F = Fraction
TWO = "8 stomp  1 hop  2 step  &3 flap  & step   # gate\n4 stomp  5 hop  6 step  &7 flap  & step"
WORDS = ("step", "flap", "stamp", "touch", "shuffle", "ball change", "heel", "paradiddle", "hold", "shuffle step")


def danced(one: Part) -> list[tuple[object, ...]]:
    return [(s.place, s.kind, s.foot, s.weight, s.level) for s in one.sounds]


class ClipTest(unittest.TestCase):
    def test_words_are_copied_whole_and_cut_words_in_sounds(self) -> None:
        self.assertEqual(copied(part(TWO), range(3, 6)), "&3 flap  & step")
        self.assertEqual(copied(part(TWO), range(4, 8)), "3 step  & step  4 stomp  5 hop")

    def test_hands_are_copied_with_their_layer(self) -> None:
        text = copied(part("1 step  2 step\nleft hand: 1 clap  2 snap"), range(4))
        self.assertEqual(text, "1 step  2 step\nleft hand: 1 clap  2 snap")

    def test_cut_leaves_holds_on_whole_counts(self) -> None:
        drawn = cut(part(TWO), range(2, 5))
        self.assertEqual(drawn.text.split("\n")[0], "8 stomp  1 hop  2 hold  3 hold  & step   # gate")

    def test_pasted_over_what_is_there_on_its_line(self) -> None:
        one = part(TWO)
        drawn = pasted(one, one.sounds[6].place, "1 step  & step  2 touch")
        self.assertEqual(drawn.text.split("\n")[1], "4 step  & step  5 touch  6 step  &7 flap  & step")
        self.assertEqual((drawn.index, drawn.last), (6, 8))
        self.assertEqual(drawn.text.split("\n")[0], TWO.split("\n")[0])

    def test_pasted_feet_follow_the_weight(self) -> None:
        one = part("1 step  2 hold  3 hold  4 hold")
        self.assertEqual(feet(part(pasted(one, F(1), "1 step  2 step").text)), "RLR-")

    def test_joined_into_the_word_that_means_them(self) -> None:
        one = part("1 brush  & step  2 brush & spank 3 step  4 step")
        self.assertEqual(joined(one, [2, 3, 4]).text, "1 brush  & step  2 &3 shuffle step  4 step")
        self.assertEqual(split(part("2 &3 shuffle step  4 step"), 1).text, "2 brush  & spank  3 step  4 step")

    def test_joined_only_where_the_feet_stay(self) -> None:
        one = part("1 brush  & R step  2 step")
        self.assertEqual(danced(part(joined(one, [0, 1]).text)), danced(one))

    @cases(
        ("nothing known sounds so", lambda: joined(part("1 step  2 hop  3 step"), [0, 1, 2]), "No step is called so"),
        ("one sound", lambda: joined(part("1 step  2 step"), [0]), "Pick two sounds"),
        ("another between", lambda: joined(part("1 brush  & step  2 step"), [0, 2]), "another sound between"),
        ("a single sound split", lambda: split(part("1 step"), 0), "one sound already"),
        ("a word that is none", lambda: pasted(part("1 step"), F(0), "gate swing"), "no steps: No step is called"),
        ("empty", lambda: pasted(part("1 step"), F(0), " "), "is no steps"),
        ("nothing picked", lambda: copied(part("1 step"), []), "no sound to copy"),
        ("the weight of a hop", lambda: weighted(part("1 step  2 hop"), 1), "the sounds after it say"),
    )
    def test_refused(self, _: str, make, message: str) -> None:
        with self.assertRaisesRegex(HandError, message):
            make()

    @cases(
        ("step", "touch"), ("stamp", "stomp"), ("heel step", "dig"),
    )  # fmt: skip
    def test_with_weight_and_without(self, with_it: str, without: str) -> None:
        one = part(f"1 step  2 {with_it}  3 hold")
        there = part(weighted(one, 1).text)
        self.assertEqual(there.script.text, f"1 step  2 {without}  3 hold")
        self.assertEqual(there.sounds[1].weight, "right")
        self.assertEqual(weighted(there, 1).text, one.script.text)

    def test_several_at_once(self) -> None:
        one = part("1 step  2 step  3 step  5 step")
        self.assertEqual(draw(one, range(1, 3), "move", F(1, 2)).text, "1 step  2+1/2 step  3+1/2 step  5 step")
        self.assertEqual(draw(one, range(3), "lean", 1).text, "1 step!  2 step!  3 step!  5 step")
        self.assertEqual(draw(one, range(1, 3), "become", "stamp").text, "1 step  2 stamp  3 stamp  5 step")
        self.assertEqual(draw(one, range(1, 3), "leave_out").text, "1 step  2 hold  3 hold  5 step")

    def test_a_selection_grows(self) -> None:
        stretch = part_stretch(part("1 step  &2 flap  3 shuffle  4 step  5 step  6-8 hold  1 step  2 step"))
        found, picked = [], range(1, 2)
        while len(picked) < len(stretch.sounds):
            picked = grown(stretch, picked)
            found.append((picked.start, picked.stop))
        # Word, its counts, the bar, the phrase, all.
        self.assertEqual(found, [(1, 3), (0, 5), (0, 6), (0, 8), (0, 10)])


class AnyPartTest(unittest.TestCase):
    """Common practice, no source: what is copied and put in again where it was changes nothing."""

    @given(
        st.lists(st.sampled_from(WORDS), min_size=2, max_size=7),
        st.integers(0, 20),
        st.integers(1, 8),
    )
    def test_copied_and_pasted_where_it_was(self, words: list[str], first: int, many: int) -> None:
        one = part("  ".join(words))
        assume(not one.problems and not one.footing.faults and one.sounds)
        first %= len(one.sounds)
        picked = range(first, min(first + many, len(one.sounds)))
        text = copied(one, picked)
        self.assertEqual(part(text).problems, ())
        again = part(pasted(one, one.sounds[first].place, text).text)
        self.assertEqual(again.problems, ())
        self.assertEqual(
            [(s.place, s.kind, s.level) for s in again.sounds], [(s.place, s.kind, s.level) for s in one.sounds]
        )

    @given(st.lists(st.sampled_from(WORDS), min_size=1, max_size=6), st.integers(0, 20))
    def test_split_and_joined_is_danced_as_before(self, words: list[str], index: int) -> None:
        one = part("  ".join(words))
        assume(not one.problems and not one.footing.faults and one.sounds)
        index %= len(one.sounds)
        use = one.uses[one.sounds[index].use]
        assume(len(use.card.beats) > 1)
        apart = part(split(one, index).text)
        self.assertEqual(danced(apart), danced(one))
        own = [i for i, s in enumerate(one.sounds) if s.use == one.sounds[index].use]
        self.assertEqual(danced(part(joined(apart, own).text)), danced(one))


if __name__ == "__main__":
    unittest.main()
