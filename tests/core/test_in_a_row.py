"""Steps in a row by chance: whether any can be, against all rows there are; what was found wrong is left out."""

import random
import unittest
from collections.abc import Iterator
from fractions import Fraction

from firn.core.combos.in_a_row import Rows, Unit

PHRASE = 8


def unit(word: str, counts: int, flips: bool, last: Fraction = Fraction(0)) -> Unit:
    return Unit(word, counts, flips, counts, 0, 1, Fraction(0), Fraction(0), last)


def all_rows(units: list[Unit], counts: int) -> Iterator[list[Unit]]:
    """Every row that is so long, however it lies in the phrase."""
    if not counts:
        yield []
    for one in units:
        if one.counts <= counts:
            yield from ([one, *rest] for rest in all_rows(units, counts - one.counts))


def in_phrase(row: list[Unit]) -> bool:
    at = 0
    for one in row:
        if at % PHRASE + one.counts > PHRASE:
            return False
        at += one.counts
    return True


class RowsTest(unittest.TestCase):
    def test_against_all_that_there_are(self) -> None:
        for seed in range(300):
            chance = random.Random(seed)
            units = [unit(str(n), chance.randint(2, 6), chance.random() < 0.5) for n in range(chance.randint(1, 3))]
            counts, flips = chance.randint(1, 18), chance.choice((None, True, False))
            ends = [row for row in all_rows(units, counts) if flips in (None, sum(u.flips for u in row) % 2 == 1)]
            rows = Rows(units, counts, PHRASE, flips)
            self.assertEqual(rows.can_be, bool(ends), seed)
            if ends:
                row = rows.one(lambda _: 1.0, chance)
                self.assertIn(row, ends)
                self.assertEqual(in_phrase(row or []), any(in_phrase(one) for one in ends), seed)

    def test_each_that_there_is_is_drawn(self) -> None:
        units = [unit("a", 2, True), unit("b", 4, False), unit("c", 2, False)]
        rows, chance = Rows(units, 8, PHRASE, None), random.Random(3)
        drawn = {"".join(u.word for u in rows.one(lambda _: 1.0, chance) or ()) for _ in range(2_000)}
        there = {"".join(u.word for u in row) for row in all_rows(units, 8)}
        self.assertEqual(drawn, {row for row in there if "aaa" not in row and "ccc" not in row})

    def test_what_was_found_wrong_is_left_out(self) -> None:
        units = [unit("a", 2, False), unit("b", 2, False), unit("c", 2, False)]
        rows, chance = Rows(units, 8, PHRASE, None), random.Random(3)
        rows.apart("a", "b")
        drawn = {"".join(u.word for u in rows.one(lambda _: 1.0, chance) or ()) for _ in range(500)}
        self.assertFalse([row for row in drawn if "ab" in row])
        self.assertTrue([row for row in drawn if "ba" in row])
        rows.without("a", "b")
        self.assertEqual({u.word for u in rows.one(lambda _: 1.0, chance) or ()}, {"c"})
        rows.without("c")
        self.assertFalse(rows.can_be)

    def test_none_begins_before_the_last_sound_of_the_one_before(self) -> None:
        over = unit("over", 2, False, last=Fraction(5, 2))
        rows, chance = Rows([over, unit("b", 2, False)], 4, PHRASE, None), random.Random(3)
        drawn = {"-".join(u.word for u in row) for _ in range(200) if (row := rows.one(lambda _: 1.0, chance))}
        self.assertEqual(drawn, {"b-b", "b-over"})


if __name__ == "__main__":
    unittest.main()
