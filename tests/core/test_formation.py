"""Where those who dance stand, by what is said of the floor: common practice, no source."""

import itertools
import unittest
from math import atan2, degrees, dist

from firn.core.piece.formation import Dancer, formation
from tests.support import cases


def looks_at(one: Dancer, x: float, y: float) -> bool:
    """Whether a dancer faces a place, to a degree."""
    wanted = degrees(atan2(x - one.x, y - one.y))
    return abs((one.faces - wanted + 180) % 360 - 180) < 1


class FormationTest(unittest.TestCase):
    @cases(
        ("two lines", 8, {0.0}),
        ("lines", 8, {0.0}),
        ("three lines of 5", 15, {0.0}),
        ("4 rows of two facing the back", 8, {180.0}),
        ("two lines facing each other", 8, {0.0, 180.0}),
        ("two rows back to back", 8, {0.0, 180.0}),
        ("one line facing left", 4, {270.0}),
        ("a column of 6", 6, {0.0}),
        ("in a V, all face the front", 5, {0.0}),
        ("wedge of 7", 7, {0.0}),
        ("a diagonal of 3", 3, {0.0}),
        ("four couples", 8, {90.0, 270.0}),
        ("couples facing the front", 4, {0.0}),
        ("a square", 8, {0.0, 90.0, 180.0, 270.0}),
    )
    def test_so_many_stand_so(self, said: str, many: int, faces: set[float]) -> None:
        there = formation(said)
        self.assertEqual((len(there), {d.faces for d in there}), (many, faces))
        # Nobody stands on another, and the middle is the middle.
        apart = [dist((a.x, a.y), (b.x, b.y)) for n, a in enumerate(there) for b in there[:n]]
        self.assertGreater(min(apart), 0.5)
        self.assertAlmostEqual(sum(d.x for d in there), 0)

    # By hand: neighbours stand 1 apart, the two of a couple .8, the front is up; where each faces comes last.
    @cases(
        ("a line of 3", ((-1, 0, 0), (0, 0, 0), (1, 0, 0))),
        ("one line of 3 facing each other", ((-1, 0, 90), (0, 0, 270), (1, 0, 270))),
        ("two lines of 2", ((-0.5, 0.5, 0), (0.5, 0.5, 0), (-0.5, -0.5, 0), (0.5, -0.5, 0))),
        ("two staggered lines of 2", ((-0.5, 0.5, 0), (0.5, 0.5, 0), (0, -0.5, 0), (1, -0.5, 0))),
        ("two lines of 1 facing each other", ((0, 0.5, 180), (0, -0.5, 0))),
        ("a column of 2 facing right", ((0, 0.5, 90), (0, -0.5, 90))),
        ("a wedge of 5", ((0, 1.25, 0), (-1, 0.25, 0), (1, 0.25, 0), (-2, -0.75, 0), (2, -0.75, 0))),
        ("a diagonal of 3", ((-1, 1, 0), (0, 0, 0), (1, -1, 0))),
        ("a couple", ((-0.4, 0, 90), (0.4, 0, 270))),
        ("two couples back to back", ((-1.4, 0, 270), (-0.6, 0, 90), (0.6, 0, 270), (1.4, 0, 90))),
        ("a circle of 4", ((0, 1.2, 180), (1.2, 0, 270), (0, -1.2, 0), (-1.2, 0, 90))),
        ("a circle of 4 facing out", ((0, 1.2, 0), (1.2, 0, 90), (0, -1.2, 180), (-1.2, 0, 270))),
        ("a half circle of 3", ((1.2, 0, 270), (0, -1.2, 0), (-1.2, 0, 90))),
        ("a circle of two couples", ((0.9708, 0.7053, 234), (0.9708, -0.7053, 306), (-0.9708, -0.7053, 54),
                                     (-0.9708, 0.7053, 126))),
        ("a square", ((-0.4, 1.5, 180), (0.4, 1.5, 180), (1.5, 0.4, 270), (1.5, -0.4, 270), (0.4, -1.5, 0),
                      (-0.4, -1.5, 0), (-1.5, -0.4, 90), (-1.5, 0.4, 90))),
    )  # fmt: skip
    def test_where_each_stands(self, said: str, wanted: tuple) -> None:
        self.assertEqual([(d.x, d.y, d.faces) for d in formation(said)], [tuple(map(float, one)) for one in wanted])

    @cases(("64 lines of 1", 64), ("65 lines of 1", 0), ("8 lines of 8", 64), ("33 couples", 0), ("a circle of 1", 1),
           ("a half circle of 1", 1), ("a diagonal", 4), ("a V of 4", 4))  # fmt: skip
    def test_how_many_can_be_drawn(self, said: str, many: int) -> None:
        self.assertEqual(len(formation(said)), many)

    def test_a_large_circle_has_room_for_all(self) -> None:
        for said in ("a circle of 24", "a circle of 12 couples", "a half circle of 12"):
            there = formation(said)
            beside = [dist((a.x, a.y), (b.x, b.y)) for a, b in itertools.pairwise(there)]
            self.assertGreater(min(beside), 0.75, said)

    def test_the_first_line_is_in_front_and_lines_that_face_see_each_other(self) -> None:
        front, back = formation("two lines of 2 facing each other")[::2]
        self.assertGreater(front.y, back.y)
        self.assertTrue(looks_at(front, back.x, back.y) and looks_at(back, front.x, front.y))
        away = formation("two lines of 2 back to back")
        self.assertFalse(any(looks_at(one, one.x, -one.y) for one in away))
        first, *others = formation("wedge")
        self.assertTrue(all(first.y > d.y for d in others))

    def test_of_staggered_lines_nobody_stands_behind_another(self) -> None:
        there = formation("two staggered lines of 3")
        self.assertEqual(len({d.x for d in there}), 6)

    @cases(("a circle", 8), ("circle of 12", 12), ("a ring of five", 5), ("half circle", 7))
    def test_a_circle_faces_its_middle(self, said: str, many: int) -> None:
        there = formation(said)
        self.assertEqual(len(there), many)
        self.assertTrue(all(looks_at(d, 0, 0) for d in there))
        self.assertEqual(len({round(dist((d.x, d.y), (0, 0)), 3) for d in there}), 1)
        self.assertFalse(any(looks_at(d, 0, 0) for d in formation(f"{said} facing out")))

    def test_the_line_of_dance_goes_against_the_clock(self) -> None:
        there = formation("a circle of 4 facing the line of dance")
        # At the top one goes to the left, at the right to the top.
        self.assertEqual([d.faces for d in there], [270.0, 0.0, 90.0, 180.0])

    def test_the_two_of_a_couple_stand_nearer_to_each_other(self) -> None:
        there = formation("circle of four couples")
        self.assertEqual(len(there), 8)
        gaps = [dist((a.x, a.y), (b.x, b.y)) for a, b in zip(there, (*there[1:], there[0]), strict=True)]
        self.assertLess(max(gaps[::2]), min(gaps[1::2]))

    @cases(("take hands",), ("right hands high",), ("to the wall",), ("100 lines of 5",), ("0 lines",), ("lineup",))
    def test_what_is_no_formation(self, said: str) -> None:
        self.assertEqual(formation(said), ())
