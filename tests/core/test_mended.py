"""A mend mends: once it is taken its finding is gone, and nothing of its level has come.

Over parts and combos of ordinary steps in random order; the steps are common practice, from memory.
"""

import unittest
from collections import Counter
from collections.abc import Callable

from hypothesis import given
from hypothesis import strategies as st

from firn.core.piece.build import piece_from
from firn.core.piece.piece import Piece
from firn.core.reading.finding import Finding, MendText
from firn.core.reading.read import check_combo, check_part
from firn.core.script.changes import changed_text

WORDS = (
    "step", "flap", "stamp", "touch", "shuffle", "ball change", "heel", "paradiddle", "kick", "hold", "hop", "dig",
    "stomp", "pickup", "land", "R step", "L step", "R touch", "cramp roll", "toe", "double step", "chug",
)  # fmt: skip
AGAIN = ("", "\nother side", "\nagain", "\nagain x2")
PARTS = (
    "1 step  2 step  3 step  4 hold", "1 step  2 step", "8 stomp  1 hop  2 step  &3 flap  & step",
    "1 R step  2 step  3 touch  4 step", "1 step  2 step  3 step 1/4 right  4 stamp",
    "1 shuffle ball change  3 stamp  4 stamp", "1 flap  2 flap  3 step", "1 L hop  2 step",
)  # fmt: skip
ITEMS = ("A", "B", "C", "A x2", "B x3", "C x4", "A other side", "B, last time ends: 4 touch")

counted = st.lists(st.tuples(st.sampled_from(WORDS), st.integers(1, 5)), min_size=1, max_size=9)


def worse(found: list[Finding], left: list[Finding], mended: Finding) -> list[str]:
    """What speaks against a mend, from the findings before and after it."""
    before, after = (Counter(f.code for f in fs if f.level == mended.level) for fs in (found, left))
    there = [] if after[mended.code] < before[mended.code] else [f"{mended.code} is there still"]
    return there + [f"{code} has come" for code in after - before]


class MendedTest(unittest.TestCase):
    def check(self, piece: Piece, checked: Callable[[Piece], list[Finding]], text: Callable[[MendText], str]) -> None:
        found = checked(piece)
        for finding in found:
            if finding.code == "doubt" or finding.level == "ok":
                continue
            for mend in finding.mends:
                read = piece_from(text(mend))
                self.assertEqual(read.problems, ())
                self.assertEqual(worse(found, checked(read), finding), [], text(mend))

    @given(counted, st.sampled_from(AGAIN))
    def test_of_a_part(self, words: list[tuple[str, int]], again: str) -> None:
        at, said = 0, []
        for word, gap in words:
            at += 1 if gap < 5 else 2
            said.append(f"{(at - 1) % 8 + 1} {word}")
        body = "  ".join(said) + again
        piece = piece_from(f"part A\n{body}")
        if piece.problems:
            return

        def text(mend: MendText) -> str:
            head = f"lead: {mend.lead}\n" if mend.lead else ""
            return f"{head}part A\n{changed_text(body, mend.changes)}"

        self.check(piece, lambda one: check_part(one.parts[0]), text)

    def test_a_step_of_no_width_in_the_text_offers_no_other_foot(self) -> None:
        found = check_part(piece_from("part A\ntip four sound roll left 5").parts[0])
        self.assertNotIn("swap", [mend.code for finding in found for mend in finding.mends])

    @given(
        st.lists(st.sampled_from(PARTS), min_size=3, max_size=3),
        st.lists(st.sampled_from(ITEMS), min_size=2, max_size=4),
    )
    def test_of_a_combo(self, parts: list[str], items: list[str]) -> None:
        body = "".join(f"part {name}\n{text}\n" for name, text in zip("ABC", parts, strict=True))
        said = ", ".join(items)
        piece = piece_from(f"{body}combo\n{said}")
        if piece.problems:
            return
        self.check(piece, check_combo, lambda mend: f"{body}combo\n{changed_text(said, mend.changes)}")

    def test_the_other_foot_is_offered_where_it_mends(self) -> None:
        """Four steps and the other side: whichever foot begins, the fourth takes what the fifth needs."""
        piece = piece_from("part A\n1 step  2 step  3 step  4 step\nother side")
        (fault,) = (f for f in check_part(piece.parts[0]) if f.level == "bad")
        self.assertEqual([m.code for m in fault.mends], ["becomes"])
        begun = piece_from("part A\n1 L step  2 touch  3 step")
        self.assertEqual([f for f in check_part(begun.parts[0]) if f.level == "bad"], [])


if __name__ == "__main__":
    unittest.main()
