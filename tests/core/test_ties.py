"""Sounds that are tied to the feet of the ones before, as teachers mean them.

Which foot is common practice, no source; the cramp roll's four sounds on right, left, right, left are the trade's own
(from memory).
"""

import unittest

from tests.support import cases, feet, part


class TiedTest(unittest.TestCase):
    @cases(
        ("two and two", "1 2 3 4 step step heel heel", "RLRL"),
        ("as a cramp roll", "1e&a step step heel heel  2 step", "RLRLR"),
        ("three and three", "1 step 2 step 3 step 4 heel 5 heel 6 heel", "RLRRLR"),
        ("then toes, then heels", "step step heel heel toe toe heel heel", "RLRLRLRL"),
        ("feet that are said", "1 L step 2 R step 3 heel 4 heel", "LRLR"),
        ("one step is not enough", "1 step 2 heel 3 heel", "RRR"),
        ("stamps, and their heels", "stamp stamp heel heel stamp", "RLRLR"),
        ("pairs that open a line", "heel heel toe toe heel heel", "LRLRLR"),
        ("the toes first", "1 toe 2 toe 3 heel 4 heel  5 step", "LRLRR"),
        ("as many as there were", "1 step 2 step 3 heel", "RLL"),
        ("a foot that is written", "1 step 2 step 3 L heel 4 heel", "RLLL"),
        ("in brackets", "( 1 step 2 step 3 heel 4 heel ) x2", "RLRLRLRL"),
        ("a landing after a touch", "&a1 touch pickup land", "RLR"),
        ("after a dig", "1 dig 2 pickup & land", "RLR"),
        ("without one", "1 pickup & land", "LL"),
        ("a landing roll again and again", "( &a1 touch pickup land ) x3", "RLRLRLRLR"),
    )
    def test_feet(self, _: str, body: str, expected: str) -> None:
        one = part(body)
        self.assertEqual((feet(one), one.footing.faults), (expected, ()))

    def test_where_it_cannot_be_danced_each_is_by_itself(self) -> None:
        # Flat by a stamp, the right heel cannot drop at once: what is tied would need it to.
        one = part("1 step & step a heel 2 heel 3 R step")
        self.assertEqual(one.footing.faults, ())


if __name__ == "__main__":
    unittest.main()
