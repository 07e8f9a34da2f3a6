"""A line is read alike wherever in a part it stands, whole phrases later, but where it says on which bar it is."""

import unittest

from firn.core.piece.piece import Part
from tests.support import cases, part, piece

EIGHT = "1 step 2 step 3 step 4 step 5 step 6 step 7 step 8 step"
THREE = "1 step 2 step 3 touch 4 step 5 step 6 touch"


def last_line(one: Part) -> list[tuple]:
    """The sounds of a part's last line: its place from the line's first, and all that is known of it besides."""
    line = max(use.line for use in one.uses)
    own = [s for s in one.sounds if one.uses[s.use].line == line]
    return [(s.place, s.kind, s.foot, s.say, s.length) for s in own]


class LaterTest(unittest.TestCase):
    @cases(
        ("counted", EIGHT, {}, "1 stomp 2 hop &3 flap 5 stamp"),
        ("goes on", EIGHT, {}, "stamp, stamp, clap"),
        ("leads up", EIGHT, {}, "& stamp 1 step"),
        ("said in words", EIGHT, {}, "a heel on 3 and a stomp on the & of 6"),
        ("in doubt", EIGHT, {}, "1 stomp 2 hop 3 step x4"),
        ("not understood", EIGHT, {}, "1 step 2 stemp 3 step"),
        ("a bar of three", THREE, {"meter": "3/4", "phrase": "6 counts"}, "1 step & step 3 stamp 4 step 6 stamp"),
        ("by bars", EIGHT, {"phrase": ""}, "1 step 2 step 3 step 4 step 1 stamp 2 stamp"),
        ("of another tradition", EIGHT, {"tradition": "latin"}, "quick quick slow: step step step"),
    )
    def test_alike(self, _: str, before: str, head: dict[str, str], line: str) -> None:
        head = {key: value for key, value in head.items() if value}
        counts = 6 if "meter" in head else 8
        first, *later = (piece("\n".join([before] * many + [line]), **head).parts[0] for many in (1, 2, 5))
        for times, one in zip((1, 4), later, strict=True):
            moved = [(place - counts * times, *rest) for place, *rest in last_line(one)]
            self.assertEqual(moved, last_line(first))
            self.assertEqual([p.message for p in one.problems], [p.message for p in first.problems])
            self.assertEqual([d.offers for d in one.script.doubts], [d.offers for d in first.script.doubts])

    @cases(
        ("a bar", "bar 8: 1 stamp", 28), ("counted through", "9 stamp", 8), ("a phrase", "second eight: 1 stamp", 8)
    )
    def test_where_it_says_where_it_is(self, _: str, line: str, place: int) -> None:
        """By its own words, not by what stands before it."""
        one = part(f"{EIGHT}\n{line}", meter="4/4", phrase="8 counts")
        self.assertEqual(last_line(one)[0][0], place)


if __name__ == "__main__":
    unittest.main()
