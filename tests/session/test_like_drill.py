"""A drill as a pattern for another piece, worked by hand."""

import unittest

from firn.core.book.book import BookPiece, piece_of_script
from firn.core.drills.stage import COMBO, Drill, Stage
from firn.core.steps.shelf import shipped
from firn.session.drilling import plan
from firn.session.like_drill import drill_like
from tests.support import cases

EIGHT = "1 step  2 step  3 step  4 step  5 step  6 step  7 step  8 step"
GATE = f"piece: Gate\ntempo: 120\npart A\n{EIGHT}\npart Break\n1 stamp  2 stamp\npart C\n{EIGHT}\ncombo\nA, Break"


def piece(text: str, ids: str) -> BookPiece:
    """A piece with these ids: its own, and those of its parts."""
    return piece_of_script(text, [ids[0], *reversed(ids[1 : 1 + text.count("part ")])])


class LikeTest(unittest.TestCase):
    def setUp(self) -> None:
        self.gate = piece(GATE, "gabc")

    def like(self, stage: Stage, text: str) -> tuple[list[Stage], int]:
        drill = Drill("d", "g", "Monday", (stage,))
        made = drill_like(drill, self.gate, piece(text, "pxyz"), "Monday", shipped())
        self.assertEqual((made.drill.piece, made.drill.name), ("p", "Monday"))
        return list(made.drill.stages), made.left_out

    @cases(
        ("by name", "b", f"part C\n{EIGHT}\npart Break\n1 stamp", "y"),
        ("by place", "b", f"part C\n{EIGHT}\npart D\n1 stamp", "y"),
        ("the name goes before the place", "a", f"part Break\n1 stamp\npart A\n{EIGHT}", "y"),
    )
    def test_which_part_it_is_here(self, _: str, theirs: str, text: str, here: str) -> None:
        stages, left_out = self.like(Stage("click", (theirs,), start=120, end=120), text)
        self.assertEqual(([stage.parts for stage in stages], left_out), ([(here,)], 0))

    def test_tempos_keep_their_share(self) -> None:
        """From 60 to 100 of 120 are a half and five sixths: of 90 from 45 to 75."""
        stage = Stage("ladder", ("a",), start=60, end=100, step=4, why="Clean at 60.")
        (made,), _ = self.like(stage, f"tempo: 90\npart A\n{EIGHT}")
        self.assertEqual((made.start, made.end, made.step, made.why), (45, 75, 4, ""))

    @cases(
        ("no such part", Stage("click", ("c",)), f"part A\n{EIGHT}"),
        ("a part without steps", Stage("click", ("a",)), "part A\n# nothing"),
        ("counts that it has not", Stage("hardest", ("a",), (4, 7)), "part A\n1 step  2 step"),
        ("no combo", Stage("whole", (COMBO,)), f"part A\n{EIGHT}"),
    )
    def test_left_out(self, _: str, stage: Stage, text: str) -> None:
        self.assertEqual(self.like(stage, text), ([], 1))

    def test_what_comes_of_it_can_be_danced(self) -> None:
        stages = (Stage("whole", (COMBO,)), Stage("join", ("a", "b")), Stage("hardest", ("a",), (2, 5)))
        here = piece(GATE.replace("Gate", "Lamp"), "pxyz")
        made = drill_like(Drill("d", "g", "Monday", stages), self.gate, here, "Monday", shipped())
        self.assertEqual([one.wrong for one in plan(here, made.drill, shipped()).stages], ["", "", ""])


if __name__ == "__main__":
    unittest.main()
