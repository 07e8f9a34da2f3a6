"""Which counts are used, slows and quicks, what is alike, and when it comes round."""

import unittest
from fractions import Fraction

from hypothesis import given
from hypothesis import strategies as st

from firn.core.reading.rhythm import cycle, family, likeness, part_cycle, placed_in, slow_quick, used
from firn.core.reading.rounds import groups, pace, rounds
from firn.session.rhythm import groups_said, said_aloud
from tests.support import cases, part

HALF = Fraction(1, 2)


class UsedTest(unittest.TestCase):
    # Timing families of solo work: common practice, no source.
    @cases(
        ("1 step 2 step 3 step 4 hold 5 step 6 step 7 step 8 hold", "three and a hold"),
        ("1 step 2 hold 3 step 4 hold 5 step 6 hold 7 step 8 hold", "odd counts only"),
        ("1 hold 2 clap 3 hold 4 clap", "even counts only"),
        ("1 step 2 step 3 step 4 step", "every count"),
        ("1 step & step 2 step 3 step 4 step", "every count, with more between"),
        ("1 hold & step 2 hold & step 3 hold & step 4 hold & step", "only between the counts"),
        ("1 step 2 step 3 hold 4 step", ""),
        ("1 step 2 step", ""),
        ("1 hold 2 hold 3 hold 4 hold", ""),
    )
    def test_families(self, text: str, name: str) -> None:
        self.assertEqual(family(used(part(text))[0]), name)

    def test_counts_used_and_left_out_by_phrase_a_pick_up_with_its_first(self) -> None:
        one = part("8 stomp  1 hop  2 step  &3 flap  4 hold  5-8 hold  1 step")
        first, second = used(one)
        self.assertEqual((first.sounded, first.silent, first.between), ((8, 1, 2, 3), (4, 5, 6, 7, 8), (2,)))
        self.assertEqual((second.sounded, second.silent), ((1,), ()))


class SlowQuickTest(unittest.TestCase):
    # Slow, quick, quick: a slow is as long as two quicks (common practice, no source).
    @cases(
        ("1 step 2 hold 3 step 4 step", "S Q Q", Fraction(1)),
        ("1 step & step 2 step", "Q Q S", HALF),
        ("1 step 2 step 3 hold 4 hold", None, None),
        ("1 step 2 step", None, None),
        ("1 touch 2 touch", None, None),
    )
    def test_the_weight(self, text: str, said: str | None, quick: Fraction | None) -> None:
        found = slow_quick(part(text))
        self.assertEqual(found and (" ".join(found.said), found.quick), said and (said, quick))


class LikenessTest(unittest.TestCase):
    # The necklace of son, and its rotations, after Toussaint 2005; the rest by definition.
    SON = "x..x..x...x.x..."

    @staticmethod
    def of(text: str):
        return cycle([Fraction(i, 4) for i, c in enumerate(text) if c == "x"], len(text) // 4)

    @cases(
        ("the same", SON, "same", 0),
        ("begun at its third stroke", "x...x.x...x..x..", "shifted", Fraction(3, 2)),
        ("without a stroke", "x..x......x.x...", "holds", 0),
        ("with one more", "x..x..x..xx.x...", "inside", 0),
        ("shiko, one stroke off", "x...x.x...x.x...", "similar", 0),
        ("every pulse is more", "x" * 16, "inside", 0),
        ("other places", ".x..x..x.", None, 0),
    )
    def test_how(self, _: str, other: str, how: str | None, by: Fraction) -> None:
        found = likeness(self.of(self.SON), self.of(other))
        self.assertEqual(found and (found.how, found.by), how and (how, by))

    def test_a_shorter_one_as_often_as_it_needs(self) -> None:
        one = part_cycle(part("1 step & step 2 step 3 step & step 4 step"))
        self.assertEqual(likeness(one, part_cycle(part("1 step & step 2 step"))).how, "same")
        self.assertIsNone(likeness(one, part_cycle(part("1 step & step 2 step 3 hold"))))

    @given(st.sets(st.integers(0, 15), min_size=1), st.integers(0, 15))
    def test_every_rotation_is_the_same_or_shifted_back(self, at: set[int], by: int) -> None:
        one = cycle([Fraction(t, 4) for t in at], 4)
        other = cycle([Fraction((t - by) % 16, 4) for t in at], 4)
        found = likeness(one, other)
        moved = {(t + found.by * 4) % 16 for t in other.finer(4).at} if other.ticks <= 4 else set()
        self.assertIn(found.how, ("same", "shifted"))
        self.assertEqual(moved, set(at))

    def test_a_step_in_it(self) -> None:
        one = part_cycle(part("1 step 2 step &3 flap 4 step"))
        self.assertEqual(placed_in((HALF, Fraction(1)), one), Fraction(3, 2))
        self.assertIsNone(placed_in((Fraction(0), Fraction(1, 4)), one))
        self.assertIsNone(placed_in((Fraction(0), Fraction(1, 3)), one))
        self.assertIsNone(placed_in((Fraction(0),), one))

    def test_no_counts(self) -> None:
        with self.assertRaisesRegex(ValueError, "a count or more"):
            cycle([Fraction(0)], 0)


class RoundsTest(unittest.TestCase):
    # Common practice, no source: without its hold the kicking basic has 7 counts, a swing figure 6.
    @cases(
        (7, 8, [1, 8, 7, 6, 5, 4, 3, 2], 56),
        (6, 8, [1, 7, 5, 3], 24),
        (3, 4, [1, 4, 3, 2], 12),
        (8, 8, [1], 8),
        (4, 8, [1, 5], 8),
        (16, 8, [1], 16),
    )
    def test_where_each_time_begins(self, counts: int, against: int, begins: list[int], whole: int) -> None:
        shown = rounds(part("  ".join(f"{n % 8 + 1} step" for n in range(counts))), against)
        self.assertEqual(([b + 1 for b in shown.begins], shown.all), (begins, whole))

    def test_a_pick_up_begins_before_the_one(self) -> None:
        self.assertEqual(rounds(part("8 stomp  1 hop  2 step  3 step")).begins, (7, 3))

    def test_pace(self) -> None:
        shown = pace(part("8 stomp  1 hop  2 step  &3 flap  & step"))
        self.assertEqual((shown.first, shown.sounds), (-1, (1, 1, 2, 2)))
        # 4 sounds a beat at 180 are 12 a second (common practice).
        four = pace(part("1 step e step & step a step"))
        self.assertEqual(four.a_second(180), (12,))

    def test_groups_in_canon_and_in_relay(self) -> None:
        """Four rows in canon by phrases of 8: row n enters on 8(n-1)+1, all dance from 25 (common practice)."""
        eight = part("  ".join(f"{n + 1} step" for n in range(8)))
        canon = groups(eight, 4)
        self.assertEqual([c + 1 for c in canon.enters], [1, 9, 17, 25])
        self.assertEqual((canon.together + 1, canon.lined_up), (25, True))
        relay = groups(eight, 3, "relay")
        self.assertEqual((relay.enters, relay.together, relay.lined_up), ((0, 8, 16), None, True))
        six = part("  ".join(f"{n + 1} step" for n in range(6)))
        self.assertFalse(groups(six, 2).lined_up)
        self.assertIn("6 counts do not fill phrases of 8", groups_said(groups(six, 2, "relay")))
        self.assertIn("all dance from count 25. They line up.", groups_said(canon))

    def test_a_follow_comes_in_four_counts_later(self) -> None:
        """On the same feet, 4 counts after the lead (common practice, no source)."""
        eight = part("  ".join(f"{n + 1} step" for n in range(8)))
        shown = groups(eight, 2, "follow")
        self.assertEqual((shown.enters, shown.together, shown.all, shown.lined_up), ((0, 4), 4, 12, True))
        said = (
            "The follow comes in on count 5, 4 counts after the lead; both dance until 8, and all is over after 12."
        )
        self.assertEqual(groups_said(shown), said)
        six = groups(part("  ".join(f"{n + 1} step" for n in range(6))), 2, "follow")
        self.assertIn("They do not line up: 6 counts are no 4s.", groups_said(six))
        self.assertIn("the lead is through by then", groups_said(groups(part("1 step  2 step"), 2, "follow")))

    @cases(
        ("8 stomp  1 hop  2 step  &3 flap  & step\n4 stomp  5 hop", ["8 1 2 & 3 &", "4 5"]),
        ("1 step  2-3 hold  4 step", ["1 2 3 4"]),
        ("&1 flap  &2 flap\n&3 flap", ["& 1 & 2", "& 3"]),
        ("# nothing", []),
    )
    def test_what_is_said_aloud_holds_included(self, body: str, said: list[str]) -> None:
        self.assertEqual(said_aloud(part(body)), said)

    def test_nothing_to_go_by(self) -> None:
        empty = part("# nothing yet")
        self.assertIsNone(pace(empty))
        self.assertIsNone(rounds(empty))
        self.assertIsNone(part_cycle(empty))
        self.assertEqual(used(empty), [])


if __name__ == "__main__":
    unittest.main()
