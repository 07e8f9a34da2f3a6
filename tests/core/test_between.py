"""What a combo has danced between its parts: holds, and steps that change the foot.

Common practice, no source: held for two counts the same foot stays free, a step and a hold leave the other one.
"""

import unittest

from firn.core.piece.build import piece_from
from firn.core.piece.unfold import unfold
from firn.core.reading.read import check
from tests.support import cases

A, BREAK = "1 step  2 step  3 step  4 hold", "1 stamp  2 stamp  3 clap  4 clap"


def passes(combo: str) -> list[tuple[str, int, str]]:
    """The passes of a combo: the part, the count, from 1, that each begins on, and the foot."""
    whole = unfold(piece_from(f"part A\n{A}\npart Break\n{BREAK}\ncombo\n{combo}\n"))
    return [(p.part.name, int(p.offset + p.part.first_count) + 1, p.sounds[0].foot) for p in whole.passes]


def findings(combo: str, a: str = A) -> list[tuple[str, str]]:
    piece = piece_from(f"part A\n{a}\npart Break\n{BREAK}\ncombo\n{combo}\n")
    return [(f.code, f.part) for f in check(piece) if f.level != "ok"]


class BetweenTest(unittest.TestCase):
    @cases(
        ("A, [hold for 2 counts], A", [("A", 1, "right"), ("[hold for 2 counts]", 5, ""), ("A", 7, "left")]),
        ("A, [step, hold], A", [("A", 1, "right"), ("[step, hold]", 5, "left"), ("A", 7, "right")]),
        ("A [ 1 step  2 hold ] A", [("A", 1, "right"), ("[1 step 2 hold]", 5, "left"), ("A", 7, "right")]),
        ("[clap] x2\nA", [("[clap]", 1, ""), ("[clap]", 2, ""), ("A", 3, "right")]),
        ("(A, [clap]) x2", [("A", 1, "right"), ("[clap]", 5, ""), ("A", 6, "left"), ("[clap]", 10, "")]),
    )
    def test_counts_and_feet(self, combo: str, wanted: list[tuple[str, int, str]]) -> None:
        self.assertEqual(passes(combo), wanted)

    @cases(
        ("A, [zzqx], A", [("between", "combo")]),
        ("A, [], A", [("between", "combo")]),
        ("A, [hold for 2 counts], [step, hold], A", [("combo_off_phrase", "combo")]),
        ("A x2, [hold for 4 counts], [1-4 clap]", []),
        ("A, [hold for 2 counts], A", [("combo_off_phrase", "combo")]),
        ("A, [hold for 2 counts], Break", [("combo_off_phrase", "combo"), ("join_counts", "combo")]),
    )
    def test_what_is_told(self, combo: str, wanted: list[tuple[str, str]]) -> None:
        self.assertEqual(sorted(findings(combo)), wanted)

    def test_a_part_after_it_is_off_its_count_by_what_lies_between(self) -> None:
        piece = piece_from(f"part A\n{A}\npart Break\n{BREAK}\ncombo\nA, [hold for 2 counts], Break, [hold 2]\n")
        (off,) = [f for f in check(piece) if f.code == "join_counts"]
        self.assertEqual((off.values["next"], off.values["from"], off.values["counts"]), (7, 1, 2))

    def test_an_open_bracket_is_said(self) -> None:
        piece = piece_from(f"part A\n{A}\ncombo\nA, [hold\n")
        self.assertEqual([p.code for p in piece.problems], ["C401"])


if __name__ == "__main__":
    unittest.main()
