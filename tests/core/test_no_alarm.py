"""Correct material raises no alarm: every step of every tradition, four times, on both sides.

The steps are common practice, from memory.
"""

import unittest

from firn.core.piece.build import piece_from
from firn.core.reading.read import check_part
from firn.core.steps.shelf import shipped

TEMPO = 110

EXCEPT = {
    "pickup": "half a movement: another word lands it",
    "land": "half a movement: another word picks up",
    "double pull-back": "begins with both feet down, and ends so only on one of its landings",
    "pull-back together": "ends on both feet, and begins on one",
    "nerve taps": "meant to be faster than feet usually strike",
    "samba bounce": "its three quarters before the next count are quick at this tempo",
    "carretilla": "a run as fast as it goes",
}
"""Steps that are told of, each with its reason."""

LENGTH = ("off_phrase",)
"""What only says that four times of a step fill no phrase."""


class AloneTest(unittest.TestCase):
    def test_each_step_four_times_on_both_sides(self) -> None:
        told: set[str] = set()
        for card in shipped().cards:
            for tradition in card.traditions or ("tap",):
                for lead in ("right", "left"):
                    head = f"tradition: {tradition}\nlead: {lead}\ntempo: {TEMPO}\n"
                    piece = piece_from(f"{head}part A\n1 {card.name} x4")
                    found = [f.code for f in check_part(piece.parts[0]) if f.level != "ok" and f.code not in LENGTH]
                    if found or piece.problems:
                        told.add(card.name)
        self.assertEqual(told, set(EXCEPT))
        self.assertLess(len(EXCEPT), 0.15 * len(shipped().cards))


if __name__ == "__main__":
    unittest.main()
