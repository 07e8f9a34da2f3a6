"""A hold that was dropped is found and offered, however the lines are spelled."""

import unittest

from firn.core.reading.read import check_part
from firn.core.script.changes import changed_text
from tests.support import cases, part

EIGHT = "step step step hold step step step hold"


def offered(text: str) -> list[str]:
    """The texts that a part's mends would make so that it fills its phrase."""
    found = [f for f in check_part(part(text, phrase="8 counts")) if f.code == "off_phrase"]
    return [changed_text(text, mend.changes) for finding in found for mend in finding.mends]


class DroppedTest(unittest.TestCase):
    @cases(
        ("again", "1 step  2 step  3 step\nagain x3", "1 step  2 step  3 step  4 hold\nagain x3"),
        ("the other side", "1 step  2 step  3 step\nother side", "1 step  2 step  3 step  4 hold\nother side"),
        ("in brackets", "( 1 step  2 step  3 step ) x4", "( 1 step  2 step  3 step  4 hold ) x4"),
        ("one line of two", f"{EIGHT}\nstep step step step step step hold", f"{EIGHT}\n{EIGHT}"),
        ("with a pick-up", "flap flap stamp\nagain\nagain\nagain", "flap flap stamp hold\nagain\nagain\nagain"),
    )
    def test_the_hold_is_offered(self, _: str, text: str, mended: str) -> None:
        self.assertEqual(
            [part(one, phrase="8 counts").counts for one in offered(text)],
            [part(mended, phrase="8 counts").counts],
        )
        kinds = [[s.kind for s in part(one, phrase="8 counts").sounds] for one in (*offered(text), mended)]
        self.assertEqual(kinds[0], kinds[-1])

    @cases(
        ("nothing comes round", "1 step  2 stamp  3 clap  4 step  5 step"),
        ("six counts", "1 step  2 stamp  3 step  4 step  5 touch  6 clap"),
        ("steps alone, two short", "1 step  2 step  3 step  4 step  5 step  6 step"),
        ("a fault comes first", "1 R step  2 R step  3 step"),
    )
    def test_where_none_does_none_is(self, _: str, text: str) -> None:
        self.assertEqual(offered(text), [])


if __name__ == "__main__":
    unittest.main()
