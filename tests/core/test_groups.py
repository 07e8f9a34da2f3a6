"""A combo of groups: one after another, over each other, and together again, each on its own feet."""

import unittest

from firn.core.piece.build import piece_from
from firn.core.piece.unfold import group_names, groups_of, unfold
from firn.core.reading.read import check_combo
from firn.core.reading.sentences import sentence
from firn.core.script.combo import read_combo
from firn.core.script.combo_edits import combo_text, meaning
from firn.session.ledger import ledger
from tests.support import cases

EIGHT = "1 step  2 step  3 step  4 step  5 step  6 step  7 step  8 hold"
ODD = "1 step  2 step  3 step  4 hold"


def combo(text: str, a: str = EIGHT, b: str = ODD):
    return piece_from(f"part A\n{a}\npart B\n{b}\ncombo\n{text}\n")


def begun(text: str, group: int) -> list[tuple[str, int]]:
    """The passes of a group: the part and the count, from 1, that each begins on."""
    return [(one.part.name, int(one.offset) + 1) for one in unfold(combo(text), group).passes]


class GroupsTest(unittest.TestCase):
    def test_rows_in_canon(self) -> None:
        """Four rows, a phrase of eight: row n enters on 8(n-1)+1, all dance from 25. Common practice, no source."""
        said = "row 1: A x4\nrow 2, after 8: A x3\nrow 3, after 16: A x2\nrow 4, after 24: A"
        self.assertEqual([begun(said, row)[0] for row in (1, 2, 3, 4)], [("A", 8 * n + 1) for n in range(4)])
        self.assertEqual([begun(said, row)[-1] for row in (1, 2, 3, 4)], [("A", 25)] * 4)
        self.assertEqual({unfold(combo(said), row).counts for row in (1, 2, 3, 4)}, {32})

    @cases(
        ("group 1: A\ngroup 2: A\nall: B", 1, [("A", 1), ("B", 17)]),
        ("group 1: A\ngroup 2: A\nall: B", 2, [("A", 9), ("B", 17)]),
        ("B\ngroup one: A\ngroup two, together: B, B\nall together: A", 2, [("B", 1), ("B", 5), ("B", 9), ("A", 13)]),
        ("group 1: A\ngroup 2, enters after 4 counts: B\nall: A", 1, [("A", 1), ("A", 9)]),
        ("group 1: A x2\ngroup 2, after 4: A, B\nall: A", 2, [("A", 5), ("B", 13), ("A", 17)]),
        ("group 1: A\ngroup 2: B\ngroup 1: B\ngroup 2: A", 1, [("A", 1), ("B", 13)]),
        # Four rows in canon, a phrase apart: row n enters on count 8(n - 1) + 1, all dance from 25 (common practice).
        ("4 rows, 8 apart: A x4", 1, [("A", 1), ("A", 9), ("A", 17), ("A", 25)]),
        ("4 rows, 8 apart: A x4", 4, [("A", 25), ("A", 33), ("A", 41), ("A", 49)]),
        ("4 rows, 0 apart: A x2", 4, [("A", 1), ("A", 9)]),
        ("two groups four counts apart: A\nall: B", 2, [("A", 5), ("B", 13)]),
        ("B\n3 rows, 8 apart: A\nall: B", 3, [("B", 1), ("A", 21), ("B", 29)]),
        ("rows: A, B\nall: A", 1, [("A", 1), ("A", 9)]),
        ("mixed rows: A, B\nall: A", 2, [("B", 1), ("A", 9)]),
        ("rows in turn: A, B, A\nall: B", 3, [("A", 13), ("B", 21)]),
        ("rows: A x2, B, other side", 2, [("B", 1)]),
    )
    def test_when_each_dances(self, text: str, group: int, passes: list[tuple[str, int]]) -> None:
        self.assertEqual((combo(text).problems, begun(text, group)), ((), passes))

    def test_each_on_its_own_feet(self) -> None:
        """B changes sides: after it the group that danced it begins on the other foot than the one that did not."""
        one = combo("group 1: B, A\ngroup 2: A\nall: A")
        feet = [unfold(one, group).passes[-1].sounds[0].foot for group in (1, 2)]
        self.assertEqual(feet, ["right", "left"])

    @cases(
        ("0 rows, 8 apart: A", 0),
        ("600 rows, 8 apart: A", 0),
        ("25 rows, 8 apart: A", 0),
        ("rows: " + ", ".join("A" * 25), 0),
        ("20 rows, 8 apart: " + "A, B, " * 30 + "A", 0),
    )
    def test_too_many_rows_are_told(self, text: str, line: int) -> None:
        (problem,) = combo(text).problems
        self.assertEqual((problem.code, problem.line), ("N111", line + 5))
        self.assertRegex(problem.message, r"^\d+ rows cannot dance this: between 1 and \d+\.$")

    def test_as_many_as_a_floor_holds(self) -> None:
        for text in ("24 rows, 8 apart: A", "rows: " + ", ".join("AB" * 12)):
            self.assertEqual((combo(text).problems, groups_of(combo(text).combo)), ((), tuple(range(1, 25))))

    @cases(
        ("2 rows, 8 apart: A\nB", 1),
        ("rows: A, B\n# all of them\n\nfloor: a circle\nB x2", 4),
    )
    def test_who_dances_after_rows_is_asked(self, text: str, line: int) -> None:
        _, (problem,) = read_combo(text.split("\n"), ("A", "B"))
        self.assertEqual((problem.code, problem.line), ("C402", line))
        self.assertIn("Say who dances this", problem.message)

    @cases(
        ("4 rows, 8 apart: A", "group 1: A\ngroup 2, after 8: A\ngroup 3, after 16: A\ngroup 4, after 24: A"),
        ("rows: A x2, B", "group 1: A x2\ngroup 2, together: B"),
        ("rows in turn: A, B", "group 1: A\ngroup 2: B"),
    )
    def test_written_out_a_row_is_a_line(self, text: str, written: str) -> None:
        self.assertEqual(combo_text(combo(text).combo), written)
        self.assertEqual(meaning(combo(text).combo), meaning(combo(written).combo))

    @cases(
        ("mirrored, an item fixed on a foot", "lead: A left, B\nfollow: mirrored", [("A", 1), ("B", 9)], "right"),
        ("the same feet, two counts later", "the lead: B x2\nfollowers, after 2: the same feet",
         [("B", 3), ("B", 7)], "right"),
        ("on the other feet from the beginning", "leads: A x2\nfollow: as in a mirror\nall: B",
         [("A", 1), ("A", 9), ("B", 17)], "left"),
        ("other material", "lead: A\nfollow, after 4: B left", [("B", 5)], "left"),
    )  # fmt: skip
    def test_lead_and_follow(self, _: str, text: str, follows: list[tuple[str, int]], first: str) -> None:
        one = combo(text)
        self.assertEqual((one.problems, group_names(one.combo)), ((), {1: "lead", 2: "follow"}))
        self.assertEqual((begun(text, 2), unfold(one, 2).passes[0].sounds[0].foot), (follows, first))
        self.assertEqual(meaning(combo(combo_text(one.combo)).combo), meaning(one.combo))

    def test_who_follows_needs_a_lead(self) -> None:
        (problem,) = combo("follow: mirrored").problems
        self.assertEqual((problem.code, problem.line), ("C402", 5))
        self.assertIn("Say first what the lead dances", problem.message)

    def test_a_part_of_such_a_name_is_that(self) -> None:
        one = piece_from(f"part A\n{EIGHT}\npart same\n{ODD}\ncombo\nlead: A\nfollow: same\n")
        self.assertEqual([item.part for item in one.combo], ["A", "same"])

    def test_checked_group_by_group(self) -> None:
        one = combo("group 1: A\ngroup 2: A right, B right\nall: A")
        said = [sentence(f) for f in check_combo(one) if f.level == "bad"]
        self.assertEqual(said, ["B of group 2 begins on the right foot, but after A the left foot is free."])

    def test_the_ledger_has_them_all(self) -> None:
        one = combo("group 1: A\ngroup 2, after 8: A\nall: B")
        self.assertEqual(
            [row.part for row in ledger(one, unfold(one))],
            ["group 1: A, at 1", "group 1: B, at 17", "group 2: A, at 9", "group 2: B, at 17"],
        )

    def test_without_groups_nothing_is_otherwise(self) -> None:
        one = combo("A, B, A")
        self.assertEqual((groups_of(one.combo), unfold(one).counts), ((), 20))
        self.assertEqual([(i.group, i.block) for i in one.combo], [(0, 0)] * 3)


if __name__ == "__main__":
    unittest.main()
