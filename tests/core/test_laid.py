"""Passes over one phrase, laid over each other."""

import random
import unittest
from fractions import Fraction

from firn.core.quantise.passes import laid_over
from tests.rhythms import rhythms
from tests.support import cases

F = Fraction
PHRASE = [F(0), F(1), F(3, 2), F(2), F(3), F(4), F(5), F(11, 2), F(7)]


def passes(many: int, counts: int = 8) -> list[Fraction]:
    return [place + n * counts for n in range(many) for place in PHRASE]


class LaidTest(unittest.TestCase):
    def test_three_alike(self) -> None:
        laid = laid_over(passes(3), 4)
        assert laid is not None
        self.assertEqual((laid.counts, laid.passes, laid.slips), (8, 3, ()))
        self.assertEqual(laid.first, tuple(range(9)))
        self.assertEqual(laid.kept[2], (2, 11, 20))

    def test_three_alike_and_one_different(self) -> None:
        """One left a sound out, and another put one in: both are slips, told by pass and place."""
        taps = passes(4)
        taps.remove(F(3, 2) + 8)
        taps.append(F(13, 2) + 24)
        laid = laid_over(sorted(taps), 4)
        assert laid is not None
        self.assertEqual(laid.slips, ((2, F(3, 2), True), (4, F(13, 2), False)))
        self.assertEqual(len(laid.kept), 9)

    @cases((1,), (2,))
    def test_the_last_pass_may_break_off(self, many: int) -> None:
        laid = laid_over([*passes(many + 1), *(p + (many + 1) * 8 for p in PHRASE[:4])], 4)
        assert laid is not None
        self.assertEqual((laid.passes, laid.slips), (many + 2, ()))

    @cases((F(0),), (F(9),), (F(-1, 2),), (F(5, 2),))
    def test_wherever_it_begins(self, at: Fraction) -> None:
        taps = [p + at for p in passes(3)]
        taps.remove(at + 8 + F(3, 2))
        laid = laid_over(taps, 4)
        assert laid is not None
        self.assertEqual((laid.counts, laid.passes), (8, 3))
        self.assertEqual(laid.slips, ((2, at + F(3, 2), True),))
        self.assertEqual([taps[k] - at for k in laid.first], PHRASE)

    @cases((F(0),), (F(9),), (F(5, 2),))
    def test_it_may_break_off_wherever_it_began(self, at: Fraction) -> None:
        laid = laid_over([p + at for p in [*passes(3), *(p + 24 for p in PHRASE[:4])]], 4)
        assert laid is not None
        self.assertEqual((laid.counts, laid.passes, laid.slips), (8, 4, ()))

    # Ten sounds a pass, of the third so many elsewhere: by hand, seven of ten are as many as are asked.
    @cases((3, True), (4, False), (10, False))
    def test_a_pass_that_is_another(self, many: int, is_one: bool) -> None:
        phrase = [F(n) for n in (0, 1, 2, 3, 4, 5, 6)] + [F(1, 2), F(9, 2), F(13, 2)]
        elsewhere = [F(2 * n + 1, 8) + 16 for n in range(many)]
        taps = [p + 8 * n for n in range(5) for k, p in enumerate(phrase) if n != 2 or k >= many]
        laid = laid_over(sorted(taps + elsewhere), 4)
        self.assertEqual(laid is not None, is_one)
        if laid is not None:
            self.assertEqual({n for n, _, _ in laid.slips}, {3})
            self.assertEqual(len(laid.slips), 2 * many)

    # Its last sound before the half of it: nothing is asked of it.
    @cases((F(7, 2), True), (F(4), False))
    def test_what_breaks_off_early_may_be_anything(self, last: Fraction, is_one: bool) -> None:
        phrase = [p for p in PHRASE if p != 4]
        taps = [p + 8 * n for n in range(4) for p in phrase]
        self.assertEqual(laid_over([*taps, F(32), last + 32], 4) is not None, is_one)

    def test_how_long_a_phrase_may_be(self) -> None:
        """Two counts at least, sixty-four at most, in whole bars."""
        short = laid_over([F(n, 2) + 2 * k for k in range(4) for n in (0, 1, 2)], 1)
        assert short is not None
        self.assertEqual((short.counts, short.passes), (2, 4))
        for counts, found in ((64, True), (72, False)):
            rng = random.Random(counts)
            phrase = [F(0), *sorted(F(n, 4) for n in rng.sample(range(1, counts * 4), 60))]
            laid = laid_over([p + counts * n for n in range(3) for p in phrase], 4)
            self.assertEqual(laid.counts if laid is not None else None, counts if found else None)

    def test_in_three(self) -> None:
        phrase = [F(0), F(1, 3), F(1), F(2), F(3), F(4), F(14, 3), F(5)]
        laid = laid_over([p + 6 * n for n in range(2) for p in phrase], 3)
        assert laid is not None
        self.assertEqual((laid.counts, laid.passes, laid.told), (6, 2, 8))
        self.assertEqual([len(group) for group in laid.kept], [2] * 8)

    def test_of_two_that_differ_the_first_is_believed(self) -> None:
        once = sorted([*PHRASE, F(5, 2), F(9, 2), F(13, 2), F(15, 2)])
        taps = sorted([*once, *(p + 8 for p in once if p != F(13, 2)), F(27, 4) + 8])
        laid = laid_over(taps, 4)
        assert laid is not None
        self.assertEqual(laid.slips, ((2, F(13, 2), True), (2, F(27, 4), False)))
        self.assertEqual(len(laid.kept), len(once))

    def test_what_is_no_repeat(self) -> None:
        self.assertIsNone(laid_over(PHRASE, 4))
        self.assertIsNone(laid_over([], 4))
        rng = random.Random(5)
        apart = sorted(F(n, 4) for n in rng.sample(range(128), 40))
        self.assertIsNone(laid_over(apart, 4))

    def test_the_shortest_phrase_is_taken(self) -> None:
        laid = laid_over([F(n) for n in range(16)], 4)
        assert laid is not None
        self.assertEqual((laid.counts, laid.passes), (4, 4))

    def test_kinds_part_what_falls_together(self) -> None:
        places = [F(n) for n in range(16)]
        kinds = ["step", "heel", "step", "clap", "step", "heel", "step", "stamp"] * 2
        laid = laid_over(places, 4, kinds)
        assert laid is not None
        self.assertEqual((laid.counts, laid.slips), (8, ()))

    def test_tunes_danced_three_times(self) -> None:
        """Eight counts of tunes of Ryan's Mammoth Collection (1883), one of three passes without a sound."""
        many = good = 0
        for tune in rhythms(24):
            begin = next(F(p // 4 * 4) for p in tune.places if p >= 0)
            phrase = [p - begin for p in tune.places if 0 <= p - begin < 8]
            if len(phrase) < 8:
                continue
            rng = random.Random(many)
            gone = rng.randrange(1, len(phrase) - 1)
            taps = [p + 8 * n for n in range(3) for k, p in enumerate(phrase) if not (n == 1 and k == gone)]
            laid = laid_over(taps, 4)
            many += 1
            if laid is None:
                continue
            # A tune whose four counts come twice is a phrase of four.
            good += laid.passes * laid.counts == 24 and any(left for _, _, left in laid.slips)
        self.assertGreater(many, 15)
        self.assertGreaterEqual(good / many, 0.9)


if __name__ == "__main__":
    unittest.main()
